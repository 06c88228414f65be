//! Claims: what is proven holds wherever one looks, and what breaks one does so there and nowhere before.

#[allow(dead_code)]
use crate::random;
use proptest::prelude::*;
use vantic::check::check;
use vantic::display::Display;
use vantic::geometry::Frame;
use vantic::infer::{compare, distances, free_space};
use vantic::model::{Code, Coordinate};
use vantic::plan::{Placement, Plan};
use vantic::resolve::read;
use vantic::text::PlainText;

const FROM: f64 = 200.0;
const TO: f64 = 1000.0;

fn plan(text: &str) -> Plan {
    Plan::new(read(text).unwrap_or_else(|e| panic!("{e}\n{text}")).screen).unwrap()
}

/// A claim, and whether it holds in a placement, by what is painted alone.
#[derive(Clone, Copy, Debug)]
enum Tried {
    Inside,
    Clear(f64),
    SameTop,
}

impl Tried {
    fn text(self, a: &str, b: &str) -> String {
        let what = match self {
            Tried::Inside => format!("{a} inside screen"),
            Tried::Clear(by) => format!("{a} clear of {b} by {by}"),
            Tried::SameTop => format!("{a}.top same"),
        };
        format!("claim {what} for screen.width {FROM}..{TO}")
    }

    fn holds(self, placement: &Placement, a: Frame, b: Frame, tops: (f64, f64)) -> bool {
        // What differs by less than is seen breaks nothing.
        let slack = 0.006;
        match self {
            Tried::Inside => {
                let screen = placement.screen_frame();
                let over = [-a.left, -a.top, a.right() - screen.right(), a.bottom() - screen.bottom()];
                over.iter().all(|by| *by <= slack)
            }
            // What has no area covers nothing.
            Tried::Clear(_) if [a, b].iter().any(|f| f.width.min(f.height) <= slack) => true,
            Tried::Clear(by) => {
                let across = (b.left - a.right()).max(a.left - b.right());
                let down = (b.top - a.bottom()).max(a.top - b.bottom());
                across.max(down) >= by - slack
            }
            Tried::SameTop => (tops.0 - tops.1).abs() <= slack,
        }
    }
}

proptest! {
    #![proptest_config(vantic_testkit::cases(48))]

    #[test]
    fn what_is_proven_holds_and_what_breaks_a_claim_is_the_least_that_does(
        screen in random::plain_screens(),
        tried in prop_oneof![Just(Tried::Inside), Just(Tried::Clear(0.0)), Just(Tried::Clear(7.0)), Just(Tried::SameTop)],
        which in any::<(prop::sample::Index, prop::sample::Index)>(),
        places in prop::collection::vec(0.0..1.0_f64, 30),
    ) {
        let paths: Vec<String> = screen.views().map(|(view, _)| screen.path(view)).collect();
        let (a, b) = (&paths[which.0.index(paths.len())], &paths[which.1.index(paths.len())]);
        let paths = (a.clone(), b.clone());
        prop_assume!(!matches!(tried, Tried::Clear(_)) || a != b);
        let text = screen.to_string();
        let (head, _) = text.trim_end().rsplit_once('}').unwrap();
        let plan = plan(&format!("{head}\n{}\n}}", tried.text(a, b)));
        let display = Display::new(600.0, 500.0).unwrap();
        let report = check(&plan, std::slice::from_ref(&display), &PlainText).unwrap();
        let broken = report.findings.iter().find(|f| f.code == Code::Claim);
        prop_assert_eq!(broken.is_some(), report.proven.is_empty());
        let at = broken.map(|f| {
            report.display_name(f.worst.unwrap()).split('x').next().unwrap().parse::<f64>().unwrap()
        });
        let place = |width: f64| {
            let there = display.with_size(width, 500.0).unwrap();
            let placement = plan.place(&there, &PlainText).unwrap();
            let painted = |path: &str| {
                placement.painted_bounds(plan.screen(), plan.screen().find(path).unwrap()).unwrap()
            };
            let frames = (painted(a), painted(b));
            (placement, frames)
        };
        let top = |placement: &Placement| placement.frame(plan.screen().find(a).unwrap()).unwrap().top;
        let first = top(&place(FROM).0);
        let holds = |width: f64| {
            let (placement, (a, b)) = place(width);
            let top = top(&placement);
            // What is hidden breaks no claim.
            let is_there = |path: &str| placement.is_painted(plan.screen().find(path).unwrap());
            let counts = is_there(&paths.0) && (!matches!(tried, Tried::Clear(_)) || is_there(&paths.1));
            !counts || tried.holds(&placement, a, b, (top, first))
        };
        for part in places {
            let width = FROM + (TO - FROM) * part;
            match at {
                Some(at) if width > at - 0.01 => {}
                _ => prop_assert!(
                    holds(width),
                    "{} at {width}, said {at:?}\n{}",
                    tried.text(a, b),
                    plan.screen()
                ),
            }
        }
        if let Some(at) = at {
            // What grows slowly is seen a little further on.
            let beyond = [1e-3, 0.01, 0.1, 1.0].map(|by| (at + by).min(TO));
            prop_assert!(
                beyond.iter().any(|width| !holds(*width)) || !holds(at),
                "{} holds at {at}\n{}",
                tried.text(a, b),
                plan.screen()
            );
        }
    }

    #[test]
    fn what_is_compared_differs_where_frames_do(
        screen in random::screens(),
        displays in (random::displays(), random::displays()),
    ) {
        let plan = Plan::new(screen).unwrap();
        let same = compare((&plan, &displays.0), (&plan, &displays.0), &PlainText).unwrap();
        prop_assert!(same.is_empty());
        let (a, b) =
            (plan.place(&displays.0, &PlainText).unwrap(), plan.place(&displays.1, &PlainText).unwrap());
        let found = compare((&plan, &displays.0), (&plan, &displays.1), &PlainText).unwrap();
        for (view, _) in plan.screen().views() {
            let path = plan.screen().path(view);
            let told = found.iter().find(|d| d.view == path);
            let differs = match (a.frame(view), b.frame(view)) {
                (Some(a), Some(b)) => {
                    [a.left - b.left, a.top - b.top, a.width - b.width, a.height - b.height]
                        .iter()
                        .any(|by| by.abs() > 0.005)
                }
                (a, b) => a.is_some() != b.is_some(),
            };
            prop_assert_eq!(told.is_some(), differs, "{}", path);
            if let Some(told) = told {
                prop_assert_eq!((told.was, told.is), (a.frame(view), b.frame(view)));
                // What does not only move along has a rule behind it, unless nothing settles it.
                let is_free =
                    plan.examine(&displays.1, &PlainText).unwrap().free.iter().any(|f| f.view == view);
                prop_assert!(
                    told.along || told.because.iter().flatten().next().is_some() || is_free || told.is.is_none(),
                    "{told:?}"
                );
            }
        }
    }
}

#[test]
fn claims_without_a_range_are_about_the_displays_that_are_checked() {
    let plan = plan(
        "screen quay {
            view board { left = screen.left; top = screen.top; width = 400; height = 60 }
            text title \"Departures of today\" { font 20; left = screen.left; top = board.bottom; width = 60% of screen.width; height = 25 }
            claim board inside screen
            claim title whole
            claim board.width same
        }",
    );
    let on = |width: f64| Display::new(width, 800.0).unwrap();
    let report = check(&plan, &[on(900.0), on(500.0), on(300.0)], &PlainText).unwrap();
    let findings = report.named(plan.screen());
    let broken = findings.iter().filter(|f| f.code == Code::Claim);
    let broken: Vec<(&str, &str)> = broken.map(|f| (f.views[0].as_str(), f.worst.as_str())).collect();
    // 19 letters are 190 wide: they fit into 300, and into 180 on two lines that are cut.
    assert_eq!(broken.len(), 2);
    assert!(broken.contains(&("board", "300x800")) && broken.contains(&("title", "300x800")), "{broken:?}");
    assert_eq!(
        report.proven.iter().map(|(claim, _)| claim.as_str()).collect::<Vec<_>>(),
        ["claim board.width same"]
    );
    let board = plan.screen().find("board").unwrap();
    assert!(matches!(plan.screen().claims()[2].what, vantic::model::Claimed::Same(Coordinate::Width)));
    assert_eq!(plan.screen().claims()[0].view, board);
}

#[test]
fn jumps_and_outliers_are_noted_and_what_is_usual_is_not() {
    let notes = |text: &str, code: Code| {
        let plan = plan(text);
        let displays = [Display::new(390.0, 844.0).unwrap(), Display::new(844.0, 390.0).unwrap()];
        let report = check(&plan, &displays, &PlainText).unwrap();
        report
            .findings
            .iter()
            .filter(|f| f.code == code)
            .map(|f| f.paths(plan.screen()).join(" "))
            .collect::<Vec<_>>()
    };
    let banded = |tall: u32, more: &str| {
        format!(
            "screen s {{
                band wide: screen.width >= 600
                view head {{ pin left, right, top to screen; tall: height = 40 }}
                view board {{ left = screen.left; place: top = head.bottom; size = 80; view inner {{ pin left, top to parent; size = 8 }} }}
                when wide {{ in head {{ tall: height = {tall} }}; {more} }}
            }}"
        )
    };
    // More than a quarter of the height it is looked at with; what moves along with it is not told.
    assert_eq!(notes(&banded(300, ""), Code::Jump), ["board"]);
    assert!(notes(&banded(60, ""), Code::Jump).is_empty());
    assert!(notes(&banded(300, "in board { place: top = head.bottom + 1 }"), Code::Jump).is_empty());
    let rows = |third: &str| {
        let row =
            |name: &str, rule: &str| format!("view {name} {{ left = screen.left; size = 20; {rule} }}\n");
        let rows = [
            ("a", "top = screen.top"),
            ("b", "top = prev.bottom + 6"),
            ("c", third),
            ("d", "top = prev.bottom + 6"),
            ("e", "top = prev.bottom + 6"),
        ];
        format!("screen s {{\n{}}}", rows.map(|(name, rule)| row(name, rule)).concat())
    };
    assert_eq!(notes(&rows("top = a.top + 90"), Code::Odd), ["c"]);
    assert!(notes(&rows("top = prev.bottom + 6"), Code::Odd).is_empty());
    // Another distance is meant more often than another neighbour.
    assert!(notes(&rows("top = prev.bottom + 40"), Code::Odd).is_empty());
}

#[test]
fn circular_and_collapsing_sizes_are_reported_and_others_are_not() {
    let told = |rule: &str, code: Code| {
        let text = format!(
            "screen s {{
                ladder wish
                view list {{ pin left, right, top to screen; column gap 4, align stretch
                    view a {{ height = 50 }}
                    view b {{ {rule} }}
                    view c {{ height = 30 }}
                }}
                view other {{ pin left, bottom to screen; size = (40, 24) }}
            }}"
        );
        let plan = plan(&text);
        let report = check(&plan, &[Display::new(390.0, 844.0).unwrap()], &PlainText).unwrap();
        let found = report.named(plan.screen()).into_iter().filter(|f| f.code == code);
        found.map(|f| (f.message, f.rules)).collect::<Vec<_>>()
    };
    // 50 + 30 + two gaps are three quarters of the list, so that each pixel of them counts four thirds.
    let round = told("height = 25% of parent.height", Code::Collapse);
    assert_eq!(round.len(), 1);
    assert!(round[0].0.contains("counts 1.33 times") && round[0].1 == ["list.b#1"], "{round:?}");
    // A child with a height of its own hands it on, whichever of the two the rule is written in.
    let handed_on = |rule: &str| {
        let text = format!(
            "screen s {{ view p {{ pin left, right, top to screen
                view a {{ pin left, right, top to parent; height = 40; {rule} }} }} }}"
        );
        let plan = plan(&text);
        let report = check(&plan, &[Display::new(390.0, 844.0).unwrap()], &PlainText).unwrap();
        report.named(plan.screen()).into_iter().filter(|f| f.code == Code::Collapse).count()
    };
    assert_eq!(["height = parent.height", "height = 50% of parent.height"].map(handed_on), [0, 0]);
    for (rule, about) in [
        ("height = max(20, 50% of b.height)", "ties `height` to itself"),
        ("height = 60 ~ wish, at least 90", "outside its own limit"),
    ] {
        let odd = told(rule, Code::Odd);
        assert!(odd.len() == 1 && odd[0].0.contains(about) && odd[0].1 == ["list.b#1"], "{rule}: {odd:?}");
    }
    for fine in [
        "height = 40",
        "height = 25% of other.height",
        "height = 60 ~ wish, at least 20",
        "height = clamp(20% of screen.height, 7, 160)",
    ] {
        assert!(told(fine, Code::Odd).is_empty() && told(fine, Code::Collapse).is_empty(), "{fine}");
    }
}

#[test]
fn rules_that_others_imply_are_noted_and_space_is_listed_side_by_side() {
    let text = "screen quay {
        view shelf {
            pin left 10, right 10, top 5 to screen
            height = 60
            again: bottom = screen.top + 65
            view crate { left = parent.left + 4; top = parent.top + 6; size = 20 }
            view box { left = crate.right + 8; bottom = parent.bottom - 2; size = 20 }
        }
    }";
    let plan = plan(text);
    let displays = [Display::new(300.0, 400.0).unwrap(), Display::new(500.0, 400.0).unwrap()];
    let report = check(&plan, &displays, &PlainText).unwrap();
    let idle: Vec<&vantic::finding::Finding> =
        report.findings.iter().filter(|f| f.code == Code::Idle).collect();
    assert_eq!(idle.len(), 1, "{idle:?}");
    // Any of the three could go; one of them is named.
    let named = idle[0].rules[0].name(plan.screen());
    assert!(["shelf#1", "shelf#2", "shelf.again"].contains(&named.as_str()) && idle[0].displays.len() == 2);
    let without = text.replace("            again: bottom = screen.top + 65\n", "");
    let less = check(&self::plan(&without), &displays, &PlainText).unwrap();
    assert!(!less.findings.iter().any(|f| f.code == Code::Idle));
    let shelf = plan.screen().find("shelf").unwrap();
    let placement = &report.placements[0];
    let left = free_space(placement, plan.screen(), Some(shelf)).unwrap();
    let told = left.map(|(room, view)| (room, plan.screen().path(view)));
    // The shelf is 280 wide: the box ends 4 + 20 + 8 + 20 from its left, and 2 above its bottom.
    let by_hand = [(4.0, "shelf.crate"), (6.0, "shelf.crate"), (228.0, "shelf.box"), (2.0, "shelf.box")];
    assert_eq!(told, by_hand.map(|(room, path)| (room, path.to_owned())));
    let outer = free_space(placement, plan.screen(), None).unwrap().map(|(room, _)| room);
    assert_eq!(outer, [10.0, 5.0, 10.0, 335.0]);
    // How far two views are apart, and where the middle of one is from that of the other.
    let (a, b) = (plan.screen().find("shelf.crate").unwrap(), plan.screen().find("shelf.box").unwrap());
    let apart = distances(placement, plan.screen(), a, Some(b)).unwrap();
    assert_eq!((apart.apart.0, apart.middles), (8.0, (-28.0, -32.0)));
    assert_eq!(distances(placement, plan.screen(), a, None).unwrap().inside, [4.0, 6.0, 256.0, 34.0]);
}
