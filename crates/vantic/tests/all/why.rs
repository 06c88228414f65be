//! Why a coordinate is what it is: numbers that add up, changes that come about as they are reported, and
//! wishes that are kept from coming about by just what is named.

#[allow(dead_code)]
use crate::random;
use proptest::prelude::*;
use vantic::check::check;
use vantic::display::Display;
use vantic::model::{Code, Coordinate, Screen};
use vantic::plan::{HeldBy, Plan, Why, WhyPart, Wish};
use vantic::resolve::read;
use vantic::text::PlainText;
use vantic::words::number;

const ALL: [Coordinate; 6] = [
    Coordinate::Left,
    Coordinate::Top,
    Coordinate::Width,
    Coordinate::Height,
    Coordinate::Right,
    Coordinate::CenterY,
];

/// Why each coordinate of one of the views is what it is.
fn every_why(plan: &Plan, display: &Display, which: prop::sample::Index) -> Vec<Why> {
    let views: Vec<_> = plan.screen().views().map(|(view, _)| view).collect();
    let view = views[which.index(views.len())];
    ALL.iter().filter_map(|&c| plan.why(display, &PlainText, view, c).unwrap()).collect()
}

/// The same display, a little wider or narrower.
fn wider(display: &Display, by: f64) -> Display {
    let other = Display::new(display.width() + by, display.height()).unwrap();
    let other = other.with_insets(display.insets()).unwrap().with_direction(display.direction());
    other.with_keyboard(display.keyboard()).unwrap()
}

fn with_rule(screen: &Screen, path: &str, rule: &str) -> Plan {
    let text = screen.to_string();
    let (head, _) = text.trim_end().rsplit_once('}').unwrap();
    Plan::new(read(&format!("{head}\n in {path} {{ {rule} }}\n}}")).unwrap().screen).unwrap()
}

proptest! {
    #![proptest_config(vantic_testkit::cases(256))]

    #[test]
    fn numbers_add_up_and_the_width_moves_things_as_reported(
        screen in random::screens(),
        display in random::displays(),
        which in any::<prop::sample::Index>(),
    ) {
        let plan = Plan::new(screen).unwrap();
        let here = plan.place(&display, &PlainText).unwrap();
        let step = 1e-4;
        for why in every_why(&plan, &display, which) {
            let sum: f64 = why.parts.iter().map(|(amount, _)| amount).sum();
            prop_assert!((sum - why.value).abs() < 1e-5, "{sum} {why:?}");
            let frame = here.frame(why.view).unwrap();
            let left = [
                frame.left,
                frame.top,
                frame.width,
                frame.height,
                frame.right(),
                frame.top + frame.height / 2.0,
            ];
            let at = ALL.iter().position(|c| *c == why.coordinate).unwrap();
            prop_assert!((left[at] - why.value).abs() < 1e-6);
            let width = WhyPart::Display("the width of the display");
            let told = why.changes.iter().find(|c| c.of == width).map_or(0.0, |c| c.moves);
            let moved = |by: f64| {
                let there = plan.why(&wider(&display, by), &PlainText, why.view, why.coordinate).unwrap();
                there.map(|there| (there.value - why.value) / by)
            };
            // On a border of what decides it, one side will do.
            let sides = [moved(step), moved(-step)];
            let same = |side: &Option<f64>| side.is_none_or(|rate| (rate - told).abs() < 1e-3);
            prop_assert!(sides.iter().any(same), "{told} {sides:?} {why:?}");
        }
    }

    #[test]
    fn what_keeps_a_coordinate_from_being_more_is_what_contradicts_a_rule_that_says_so(
        screen in random::plain_screens(),
        display in random::displays(),
        which in any::<prop::sample::Index>(),
    ) {
        let plan = Plan::new(screen).unwrap();
        let views: Vec<_> = plan.screen().views().map(|(view, _)| view).collect();
        let view = views[which.index(views.len())];
        let broken = !plan.place(&display, &PlainText).unwrap().broken.is_empty();
        let why = plan.why(&display, &PlainText, view, Coordinate::Width).unwrap().unwrap();
        let not = plan.why_not(&display, &PlainText, Wish::More(view, Coordinate::Width)).unwrap().unwrap();
        let rule = format!("wished: width >= {}", why.value + 1.0);
        let path = plan.screen().path(view);
        let other = with_rule(plan.screen(), &path, &rule);
        let found = check(&other, &[display], &PlainText).unwrap().named(other.screen());
        let wished = format!("{path}.wished");
        let conflict = found.iter().find(|f| f.code == Code::Conflict && f.rules.contains(&wished));
        if !broken {
            prop_assert_eq!(conflict.is_some(), !not.against.is_empty() || !not.nonnegatives.is_empty());
            if let Some(conflict) = conflict {
                let named: Vec<String> = not.against.iter().map(|r| r.name(plan.screen())).collect();
                let others: Vec<&String> = conflict.rules.iter().filter(|r| **r != wished).collect();
                prop_assert!(others.iter().all(|r| named.contains(r)), "{named:?} {others:?}");
            }
        }
    }
}

#[test]
fn a_chain_is_explained_from_what_is_near_to_the_display() {
    let source = read(
        "screen quay {
            ladder fit > polish
            view header { pin left, right, top to safe; height = 56 }
            view board {
                pin left 16, right 16 to safe
                top = header.bottom + 12
                wish: height = 600 ~ polish
                least: height >= 100
                room: bottom <= safe.bottom - 20 ~ fit
            }
        }",
    )
    .unwrap();
    let plan = Plan::new(source.screen).unwrap();
    let board = plan.screen().find("board").unwrap();
    let display = Display::new(390.0, 500.0).unwrap();
    let why = plan.why(&display, &PlainText, board, Coordinate::Bottom).unwrap().unwrap();
    let said: Vec<&str> = why.steps.iter().map(|s| s.said.as_str()).collect();
    assert_eq!(
        said,
        [
            "top (68) = header.bottom (56) + 12",
            "bottom (480) <= safe.bottom (500) - 20",
            "top (0) = safe.top (0)",
            "height (56) = 56"
        ]
    );
    assert!(why.steps.iter().all(|s| matches!(s.by, HeldBy::Rule(_))));
    // It is the height of the display less 20, wherever its top is.
    let parts: Vec<String> = why.parts.iter().map(|(amount, _)| number(*amount)).collect();
    assert_eq!((why.value, parts), (480.0, vec!["500".to_owned(), "-20".to_owned()]));
    // Further down it would give the edge of the safe area away; the height that was wished for would.
    let not = |wish| plan.why_not(&display, &PlainText, wish).unwrap().unwrap();
    let height = not(Wish::Hold(why.missed[0].rule));
    let costs: Vec<(String, f64)> = height.costs.iter().map(|m| (m.rule.name(plan.screen()), m.by)).collect();
    assert_eq!((height.by, costs), (188.0, vec![("board.room".to_owned(), 188.0)]));
    let narrower = not(Wish::Less(board, Coordinate::Width));
    let against: Vec<String> = narrower.against.iter().map(|r| r.name(plan.screen())).collect();
    // Both sides of one pin.
    assert_eq!(against, ["board#1", "board#1"]);
    let next: Vec<(String, f64)> = why.next.iter().map(|n| (n.rule.name(plan.screen()), n.away)).collect();
    assert_eq!(next, [("board.least".to_owned(), -312.0)]);
}

#[test]
fn right_to_left_rules_are_explained_along_the_reading_direction() {
    let plan = Plan::new(
        read(
            "screen quay {
                view head { pin left, right, top to screen; height = 40 }
                text title \"Departures\" { font 20; start = head.start + 16; top = head.top }
                view clock { size = (60, 20); start = title.end + 8; top = head.top }
            }",
        )
        .unwrap()
        .screen,
    )
    .unwrap();
    let clock = plan.screen().find("clock").unwrap();
    let display = Display::new(400.0, 300.0).unwrap();
    let mirrored = display.clone().with_direction(vantic::geometry::Direction::RightToLeft);
    // Ten letters of 10: from 16 to 116, and the clock from 124 on, from either side.
    for (display, left, moves) in [(&display, 124.0, 0.0), (&mirrored, 400.0 - 124.0 - 60.0, 1.0)] {
        let why = plan.why(display, &PlainText, clock, Coordinate::Left).unwrap().unwrap();
        assert_eq!(why.value, left);
        let said: Vec<&str> = why.steps.iter().map(|s| s.said.as_str()).collect();
        assert!(said.contains(&"start (124) = title.end (116) + 8"), "{said:?}");
        let width = WhyPart::Display("the width of the display");
        assert_eq!(why.changes.iter().find(|c| c.of == width).map_or(0.0, |c| c.moves), moves);
        // One more of the 16 moves it away from where reading starts.
        let sixteen = why.changes.iter().find(|c| c.number == Some(16.0)).unwrap();
        assert_eq!(sixteen.moves, if moves == 0.0 { 1.0 } else { -1.0 });
    }
    // What is hidden has no coordinates, and what is not there cannot be asked for.
    let gone = Plan::new(
        read("screen quay { band wide: screen.width >= 900; view a { left = screen.left; top = screen.top; size = 9 }; when wide { hide a } }")
            .unwrap()
            .screen,
    )
    .unwrap();
    let (a, wide) = (gone.screen().find("a").unwrap(), Display::new(1000.0, 300.0).unwrap());
    assert!(gone.why(&wide, &PlainText, a, Coordinate::Left).unwrap().is_none());
    assert!(gone.why_not(&wide, &PlainText, Wish::More(a, Coordinate::Width)).unwrap().is_none());
    assert!(gone.why(&display, &PlainText, a, Coordinate::Left).unwrap().is_some());
    // An id of a larger screen.
    assert!(gone.why(&display, &PlainText, clock, Coordinate::Left).unwrap().is_none());
}
