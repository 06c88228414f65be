//! What is refused with a clear error, and that nothing is lost on the way.

use proptest::prelude::*;
use vantic::check::check;
use vantic::display::{Display, DisplayQuantity};
use vantic::geometry::Axis;
use vantic::model::{
    BuildError, Code, Condition, Coordinate, Coordinates, Expectation, Expected, Order, Property, SAFE,
    ScreenBuilder, spread,
};
use vantic::plan::Plan;
use vantic::resolve::read;
use vantic::sweep::{GridRange, Range, sweep, sweep_grid};
use vantic::text::PlainText;

fn plan(text: &str) -> Plan {
    Plan::new(read(text).unwrap_or_else(|e| panic!("{e}")).screen).unwrap()
}

fn errors(build: ScreenBuilder) -> Vec<BuildError> {
    build.finish().unwrap_err().0
}

#[test]
fn a_ladder_is_given_once() {
    let mut build = ScreenBuilder::new("quay");
    let [fit] = build.ladder(["fit"]);
    let board = build.view("board");
    build.rule(board, board.width().equals(40.0).prefer(fit));
    build.ladder(["rhythm", "fit"]);
    assert_eq!(errors(build), [BuildError::SecondLadder]);
}

#[test]
fn numbers_of_bands_and_expectations_are_finite() {
    for number in [f64::NAN, f64::INFINITY, -1e8] {
        let mut build = ScreenBuilder::new("quay");
        build.band("odd", Condition::Compare(Property::ScreenWidth, Order::Below, number));
        build.band("range", Condition::Not(Box::new(Condition::Within(Property::Density, 0.0, number))));
        assert!(matches!(errors(build)[..], [BuildError::Number { .. }, BuildError::Number { .. }]));

        let mut build = ScreenBuilder::new("quay");
        let board = build.view("board");
        let expected = vec![(board, Expected::One(Coordinate::Left, number))];
        build.expect(Expectation { on: "390x844".into(), within: 0.5, expected });
        assert!(matches!(errors(build)[..], [BuildError::Number { .. }]), "{number}");
    }
}

#[test]
fn conditions_nest_as_deep_as_is_stated() {
    let nested = |depth: usize| (0..depth).fold(Condition::Portrait, |c, _| Condition::Not(Box::new(c)));
    let mut build = ScreenBuilder::new("quay");
    build.band("deep", nested(63));
    assert!(build.finish().is_ok());
    let mut build = ScreenBuilder::new("quay");
    build.band("deep", nested(200_000));
    assert!(matches!(errors(build)[..], [BuildError::Limit { limit: 64, .. }]));
}

#[test]
fn ids_of_another_screen_are_refused() {
    let mut other = ScreenBuilder::new("other");
    let [level] = other.ladder(["fit"]);
    let (foreign, _) = (other.view("board"), other.view("clock"));
    let band = other.band("wide", Condition::Landscape);
    let (_, value) = other.value("margin", 8.0);

    let mut build = ScreenBuilder::new("quay");
    build.ladder(["polish"]);
    let board = build.view("board");
    let _ = build.view("clock");
    build.band("narrow", Condition::Portrait);
    let _ = build.value("gap", 4.0);
    build.rule(board, board.left().equals(foreign.right()));
    build.rule(foreign, board.top().equals(0.0));
    build.rule(board, board.width().equals(40.0).prefer(level));
    build.rule(board, board.height().equals(value));
    build.rule_when(band, board, board.height().equals(3.0));
    build.show_when(band, board);
    let refused = errors(build);
    assert_eq!(refused.len(), 6, "{refused:?}");
    assert!(refused.iter().all(|e| matches!(e, BuildError::ForeignId { .. })), "{refused:?}");

    // Nor does a placement know them.
    let text = "screen s { view a { pin left, right, top to screen; height = 8 } }";
    let (one, two) = (plan(text), plan(text));
    let placed = one.place(&Display::new(100.0, 100.0).unwrap(), &PlainText).unwrap();
    let id = |plan: &Plan| plan.screen().find("a").unwrap();
    assert!(placed.frame(id(&one)).is_some() && placed.frame(id(&two)).is_none());
    assert!(one.screen().view(id(&two)).is_none() && one.screen().path(id(&two)).is_empty());
    // Screens of the same content are equal all the same.
    assert_eq!(one.screen(), two.screen());
}

#[test]
fn a_rule_of_no_views_is_refused() {
    let mut build = ScreenBuilder::new("quay");
    let board = build.view("board");
    build.rule(board, board.enclose([], 4.0));
    build.rule(board, spread(Axis::Down, []).labelled("even"));
    let said: Vec<String> = errors(build).iter().map(ToString::to_string).collect();
    assert_eq!(said.len(), 2);
    assert!(said[0].contains("`enclose` one or more") && said[1].starts_with("`even`"), "{said:?}");
}

#[test]
fn painting_order_names_guides_too() {
    let plan = plan(
        "screen s {
    guide grid { columns of 40 }
    view a { pin left, right, top to screen; height = 8; guide inner { columns of 10 }; view b { size = 4; left = a.left; top = a.top } }
}",
    );
    let placed = plan.place(&Display::new(100.0, 100.0).unwrap(), &PlainText).unwrap();
    let order = placed.painting_order(plan.screen());
    let paths: Vec<String> = order.iter().map(|&v| plan.screen().path(v)).collect();
    assert_eq!(paths, ["grid", "a", "a.inner", "a.b"]);
}

/// A view called `r` is not what others read, though they read `header.`.
#[test]
fn outlier_rules_are_found_by_views_not_by_parts_of_names() {
    let text = |odd: &str| {
        let one = |(at, name): (usize, &str)| {
            let of = if name == odd { "a.right" } else { "header.left" };
            format!("view {name} {{ left = {of} + 8; top = {}; size = 20 }}\n", 40 + 30 * at)
        };
        let views: String = ["a", "b", "c", "d", odd].into_iter().enumerate().map(one).collect();
        format!("screen s {{ view header {{ pin left, right, top to screen; height = 30 }}\n{views}}}")
    };
    for odd in ["zz", "r", "er", "header2"] {
        let plan = plan(&text(odd));
        let report = check(&plan, &[Display::new(390.0, 844.0).unwrap()], &PlainText).unwrap();
        let found: Vec<_> = report.findings.iter().filter(|f| f.code == Code::Odd).collect();
        assert!(found.len() == 1 && found[0].paths(plan.screen()) == [odd], "{odd}: {:?}", report.findings);
    }
}

#[test]
fn a_coordinate_is_split_from_its_path_by_its_longest_spelling() {
    for (spelling, coordinate) in Coordinate::SPELLINGS {
        let name = format!("header.title.{spelling}");
        assert_eq!(Coordinate::split(&name), Some(("header.title", coordinate)), "{name}");
    }
    assert_eq!(Coordinate::split("header.title"), None);
}

#[test]
fn siblings_nearer_than_the_gap_are_reported_by_their_distance() {
    let plan = plan(
        "screen s {
    view a { left = 0; top = 0; width = 100; height = 40 }
    view b { left = a.right + 4; top = 0; size = 40 }
    view c { left = 60; top = 30; size = 30 }
}",
    );
    let display = Display::new(400.0, 800.0).unwrap();
    let range = Range { along: DisplayQuantity::Width, from: 300.0, to: 500.0, gap: 10.0 };
    let swept = sweep(&plan, &display, range.clone(), &PlainText).unwrap();
    let grid = GridRange { widths: (300.0, 500.0), heights: (700.0, 800.0), lines: 2, gap: 10.0 };
    let rows = sweep_grid(&plan, &display, grid, &PlainText).unwrap();
    for spans in std::iter::once(&swept).chain(rows.iter().map(|(_, s)| s)).map(|s| &s.problems) {
        let of = |a: &str, b: &str| {
            let found = spans.iter().find(|t| {
                t.code == Code::Overlap && t.views.contains(&a.to_owned()) && t.views.contains(&b.to_owned())
            });
            found.unwrap_or_else(|| panic!("{a} and {b}: {spans:?}")).message.clone()
        };
        assert!(of("a", "b").contains("4 apart") && of("a", "b").contains("10"), "{}", of("a", "b"));
        assert!(of("a", "c").contains("overlap by 30 x 10"), "{}", of("a", "c"));
    }
    let near = sweep(&plan, &display, Range { gap: 0.0, ..range }, &PlainText).unwrap();
    assert!(near.problems.iter().all(|t| !t.views.contains(&"b".to_owned())), "{:?}", near.problems);
}

proptest! {
    #![proptest_config(vantic_testkit::cases(256))]

    /// Words are refused or come back from the file that the screen prints.
    #[test]
    fn words_come_back_from_the_printed_file(words in any::<String>(), zero in 0usize..4) {
        let words = if zero == 0 { format!("{words}\0") } else { words };
        let mut build = ScreenBuilder::new("quay");
        let text = build.text("title", &words, 16.0);
        build.rule(text, text.pin([(vantic::model::Side::Left, 8.0), (vantic::model::Side::Top, 8.0)], SAFE));
        match build.finish() {
            Err(refused) => {
                prop_assert!(words.contains('\0'));
                prop_assert!(refused.to_string().contains("zero character"));
            }
            Ok(screen) => {
                let again = read(&screen.to_string()).map_err(|e| TestCaseError::fail(e.to_string()))?;
                prop_assert_eq!(again.screen, screen);
            }
        }
    }
}
