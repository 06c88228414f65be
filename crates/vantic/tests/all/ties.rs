//! Rules read off a placement: written into the file they keep what they were read off.

use proptest::prelude::*;
use vantic::check::check;
use vantic::display::Display;
use vantic::geometry::{Direction, Frame};
use vantic::infer::{Tie, gathered, neighbours, tied};
use vantic::model::{Anchor, Screen, Side};
use vantic::plan::{Placement, Plan};
use vantic::resolve::read;
use vantic::text::PlainText;

fn place(source: &str, display: &Display) -> (Screen, Placement) {
    let plan = Plan::new(read(source).unwrap_or_else(|e| panic!("{e}\n{source}")).screen).unwrap();
    let placement = plan.place(display, &PlainText).unwrap();
    (plan.screen().clone(), placement)
}

fn frame(screen: &Screen, placement: &Placement, path: &str) -> Frame {
    placement.frame(screen.find(path).unwrap()).unwrap()
}

fn source(parent: &str, rules: &str) -> String {
    format!("screen s {{ view p {{ {parent}\n view a {{ {rules} }} }} }}")
}

proptest! {
    #![proptest_config(vantic_testkit::cases(60))]

    /// Whichever tie a view is given, it stays where it was; on another display it does what the tie says.
    #[test]
    fn another_tie_keeps_the_frame(
        [x, y, w, h] in [(-40_i32..300), (-40..300), (1..200), (1..200)],
        (pw, ph) in (50_i32..400, 50_i32..400),
        mirrored in any::<bool>(),
        mid in any::<bool>(),
    ) {
        let direction = if mirrored { Direction::RightToLeft } else { Direction::LeftToRight };
        let display = |w: f64, h: f64| Display::new(w, h).unwrap().with_direction(direction);
        let (here, there) = (display(500.0, 640.0), display(900.0, 400.0));
        let parent =
            format!("left = 10; top = 20; width = screen.width - {pw}; height = screen.height - {ph}");
        let size = if mid { format!("width = {w} / 3") } else { format!("width = {w}") };
        let rules = format!("left = parent.left + {x}; top = parent.top + {y}; {size}; height = {h}");
        let (screen, placed) = place(&source(&parent, &rules), &here);
        let (view, was) = (screen.find("p.a").unwrap(), frame(&screen, &placed, "p.a"));
        for (name, tie) in Tie::ALL {
            let lines = tied(&placed, &screen, view, tie).join("\n");
            let again = source(&parent, &lines);
            let (screen, placed) = place(&again, &here);
            let is = frame(&screen, &placed, "p.a");
            let off = [is.left - was.left, is.top - was.top, is.width - was.width, is.height - was.height];
            // Its numbers are written to a hundredth.
            prop_assert!(off.iter().all(|d| d.abs() < 0.011), "{name}: {off:?}\n{again}");
            let (screen, placed) = place(&again, &there);
            let (moved, around) = (frame(&screen, &placed, "p.a"), frame(&screen, &placed, "p"));
            let grows = (moved.width - was.width).abs() > 0.006;
            let wider = around.width - (500.0 - f64::from(pw));
            match tie {
                Tie::Corner | Tie::Point => prop_assert!(!grows),
                Tie::Edges => prop_assert!((moved.width - was.width - wider).abs() < 0.011),
                Tie::Span | Tie::Drawn => {
                    let share = around.width / (500.0 - f64::from(pw));
                    prop_assert!((moved.width - was.width * share).abs() < 0.011 * share, "{name}: {moved:?}");
                }
            }
        }
    }
}

#[test]
fn a_side_faces_the_nearest_first_and_what_is_around_it_last() {
    let text = include_str!("../../../../cases/screens/notices.vantic");
    for (direction, side, word) in
        [(Direction::LeftToRight, Side::Left, "after"), (Direction::RightToLeft, Side::Right, "after")]
    {
        let display = Display::new(420.0, 910.0).unwrap().with_direction(direction);
        let (screen, placed) = place(text, &display);
        let report = screen.find("report").unwrap();
        let tops: Vec<(Anchor, f64)> =
            neighbours(&placed, &screen, report, Side::Top).iter().map(|n| (n.anchor, n.distance)).collect();
        let view = |path: &str| Anchor::View(screen.find(path).unwrap());
        let below = frame(&screen, &placed, "card").bottom();
        let expected =
            [(view("alert"), 10.0), (view("card"), 32.0 + 80.0 + 10.0), (Anchor::Screen, below + 122.0)];
        assert_eq!(tops, expected);
        // Words face the icon, whichever way they are read.
        let words = screen.find("card.words").unwrap();
        let first = neighbours(&placed, &screen, words, side).remove(0);
        assert_eq!(
            (first.anchor, first.rule.as_str()),
            (view("card.icon"), format!("{word} icon by 12").as_str())
        );
    }
}

/// A guide is suggested where an edge is near to it, and the rule that is suggested keeps the frame.
#[test]
fn guides_are_suggested_and_what_only_happens_to_lie_on_one_is_marked() {
    let source = |rules: &str| {
        format!(
            "screen s {{ guide cols {{ columns 4 of 80 }}; guide fold {{ line down 100 }}
            view p {{ pin left, right, top, bottom to screen; guide pads {{ padding 10 }}
            view a {{ {rules}; height = 30 }} }} }}"
        )
    };
    for direction in [Direction::LeftToRight, Direction::RightToLeft] {
        let display = Display::new(340.0, 400.0).unwrap().with_direction(direction);
        let (screen, placed) = place(&source("start = 83; width = 150; top = 95"), &display);
        let (view, was) = (screen.find("p.a").unwrap(), frame(&screen, &placed, "p.a"));
        let told = |side: Side| {
            let near = neighbours(&placed, &screen, view, side).into_iter();
            near.map(|n| n.rule).filter(|rule| !rule.starts_with("pin ")).collect::<Vec<_>>()
        };
        assert_eq!(told(Side::Start), ["start = cols[2].start + 3"]);
        assert_eq!(told(Side::End), ["end = cols[3].end - 7"]);
        assert_eq!(told(Side::Top), ["top = fold.top - 5"]);
        assert_eq!(told(Side::Bottom), Vec::<String>::new());
        let again = source("start = cols[2].start + 3; end = cols[3].end - 7; top = fold.top - 5");
        let (screen, placed) = place(&again, &display);
        assert_eq!(frame(&screen, &placed, "p.a"), was);
    }
    let notes = |rule: &str, widths: &[f64]| {
        let plan = Plan::new(read(&source(rule)).unwrap().screen).unwrap();
        let displays: Vec<Display> = widths.iter().map(|&w| Display::new(w, 400.0).unwrap()).collect();
        let found = check(&plan, &displays, &PlainText).unwrap().named(plan.screen());
        let bare = found.into_iter().filter(|f| f.message.contains("lies on"));
        bare.map(|f| (f.message, f.help, f.displays)).collect::<Vec<_>>()
    };
    let fraction = "start = 25% of screen.width; width = 9; top = 0";
    assert_eq!(
        notes(fraction, &[320.0, 480.0]),
        [(
            "`p.a#1` puts start at a fraction of a box: it lies on `cols[2].start` here and beside it elsewhere".to_owned(),
            "write `start = cols[2].start` if it belongs on the guide".to_owned(),
            vec!["320x400".to_owned()]
        )]
    );
    assert_eq!(notes(fraction, &[320.0]), vec![]);
    assert_eq!(notes(fraction, &[400.0, 480.0]), vec![]);
    assert_eq!(notes("start = cols[2].start; width = 9; top = 0", &[320.0, 480.0]), vec![]);
}

proptest! {
    #![proptest_config(vantic_testkit::cases(80))]

    /// Siblings that stand in a row or column already keep their frames in a view of their own.
    #[test]
    fn siblings_are_gathered_where_they_stand(
        (down, mirrored, even) in any::<(bool, bool, bool)>(),
        sizes in prop::collection::vec((4_u8..40, 4_u8..40, 0_u8..30), 2..5),
        (x, y, align) in (0_u8..90, 0_u8..90, 0_usize..4),
        turn in any::<prop::sample::Index>(),
    ) {
        let direction = if mirrored { Direction::RightToLeft } else { Direction::LeftToRight };
        let display = Display::new(500.0, 600.0).unwrap().with_direction(direction);
        let across = sizes.iter().map(|s| f64::from(s.1)).fold(0.0, f64::max);
        let (near, size, other_near, other_size) =
            if down { ("top", "height", "start", "width") } else { ("start", "width", "top", "height") };
        let (mut at, mut views) = (f64::from(if down { y } else { x }), Vec::new());
        for (i, (long, wide, gap)) in sizes.iter().enumerate() {
            let (long, wide) = (f64::from(*long), if align == 3 { across } else { f64::from(*wide) });
            let off =
                f64::from(if down { x } else { y }) + [0.0, (across - wide) / 2.0, across - wide, 0.0][align];
            let sized = format!("{size} = {long}; {other_size} = {wide}");
            views.push((
                format!("v{i}"),
                sized.clone(),
                format!(
                    "view v{i} {{ {near} = p.{near} + {at}; {other_near} = p.{other_near} + {off}; {sized} }}"
                ),
            ));
            at += long + f64::from(if even { 7 } else { *gap });
        }
        let around = |inside: &str| {
            format!("screen s {{ view p {{ pin left 5, top 9 to screen; size = (400, 500)\n{inside} }} }}")
        };
        let text: String = views.iter().map(|v| v.2.clone() + "\n").collect();
        let (screen, placed) = place(&around(&text), &display);
        let mut ids: Vec<_> = views.iter().map(|v| screen.find(&format!("p.{}", v.0)).unwrap()).collect();
        let by = turn.index(ids.len());
        ids.rotate_left(by);
        let found = gathered(&placed, &screen, &ids).unwrap();
        prop_assert!(found.lines_up && found.gaps.len() + 1 == views.len());
        prop_assert_eq!(found.moves.len(), 2 * views.len());
        prop_assert!(found.goes.is_empty());
        let mut inside = found.lines.join("\n") + "\n";
        for (i, view) in found.order.iter().enumerate() {
            if i > 0
                && let Some(space) = &found.spaces[i - 1]
            {
                prop_assert!(!even);
                inside += &format!("{space}\n");
            }
            let name = screen.view(*view).unwrap().name();
            inside += &format!("view {name} {{ {} }}\n", views.iter().find(|v| v.0 == name).unwrap().1);
        }
        let (again, grouped) = place(&around(&format!("view group {{ {inside} }}")), &display);
        for (name, ..) in &views {
            let (was, is) = (
                frame(&screen, &placed, &format!("p.{name}")),
                frame(&again, &grouped, &format!("p.group.{name}")),
            );
            let off = [is.left - was.left, is.top - was.top, is.width - was.width, is.height - was.height];
            prop_assert!(off.iter().all(|d| d.abs() < 2e-6), "{name}: {off:?}\n{text}\n{inside}");
        }
        prop_assert!(gathered(&placed, &screen, &ids[..1]).is_none());
        prop_assert!(gathered(&placed, &screen, &[ids[0], screen.find("p").unwrap()]).is_none());
    }
}
