//! Numbers that the application sets.

use proptest::prelude::*;
use vantic::check::check;
use vantic::display::{Display, DisplayQuantity};
use vantic::geometry::Frame;
use vantic::json::Form;
use vantic::model::{Code, Screen, ScreenBuilder};
use vantic::plan::{PlaceError, Plan};
use vantic::resolve::read;
use vantic::sweep::{Proof, Range, sweep};
use vantic::syntax::format;
use vantic::text::PlainText;

/// Parameters in every place that takes a number with a name: distances, sizes, shares, `max` and `min`, gaps, paddings, guides,
/// columns, bounds of preferences.
const WEIR: &str = "screen weir {
    ladder fit > rhythm
    param rail = 140 in 60..300
    param open = 0 in 0..1
    param gap_ = 8 in 0..30
    band slim: rail < 120
    band half: open 0.3..0.8 and not (gap_ > 20)
    band loose: gap_ >= 12 or rail <= 60 and screen.width < 700
    view list {
        pin left, top to safe; width = rail; height = 300
        column gap gap_, padding 4 + open
        repeat gate 3 { height = 20 + 10 * open }
    }
    view page { left = list.right + gap_; pin top, right 8 to safe; height = clamp(rail, 100, 220) ~ fit; height >= 40 * open + 20 }
    text name \"Water is let through at the third gate\" { font 16; left = page.left; below page by max(gap_, 12); width <= 2 * rail }
    view shelf {
        below name by gap_; left = page.left; right = page.right; height = 40; row gap gap_
        view one { share 1, at least rail / 2 }
        view two { share 2 }
    }
    view grid_ { below shelf by 4; left = 8; width = 260; grid columns at least rail / 2, gap gap_; repeat tile 5 { height = 12 } }
    view drawer { pin left, right to safe; top = screen.bottom - 120 * open; height = 120; floats }
    when slim { hide shelf.two; in name { font 12 } }
    when half { in grid_ { height >= 50 + rail / 4 }; in drawer { depth 1 } }
    when loose { in shelf { row gap 2 }; hide list.gate[2] }
}";

/// A condition that holds on all displays, or on none.
fn truth(holds: bool) -> &'static str {
    if holds { "everywhere" } else { "not everywhere" }
}

/// The same with numbers in place of the parameters, and of what bands ask of them.
fn with_numbers(rail: f64, open: f64, gap: f64) -> String {
    let line = |name: &str, number: f64| format!("let {name} = {number}");
    WEIR.replace("param rail = 140 in 60..300", &line("rail", rail))
        .replace("param open = 0 in 0..1", &line("open", open))
        .replace("param gap_ = 8 in 0..30", &line("gap_", gap))
        .replace("rail < 120", truth(rail < 120.0))
        .replace("open 0.3..0.8 and not (gap_ > 20)", truth((0.3..0.8).contains(&open) && gap <= 20.0))
        .replace(
            "gap_ >= 12 or rail <= 60 and",
            [truth(gap >= 12.0), "or", truth(rail <= 60.0), "and"].join(" ").as_str(),
        )
}

fn plan(text: &str) -> Plan {
    Plan::new(read(text).unwrap_or_else(|e| panic!("{e}")).screen).unwrap()
}

fn near(a: &[Option<Frame>], b: &[Option<Frame>]) -> bool {
    let numbers = |f: &Option<Frame>| f.map(|f| [f.left, f.top, f.width, f.height]);
    a.len() == b.len()
        && std::iter::zip(a, b).all(|(a, b)| match (numbers(a), numbers(b)) {
            (Some(a), Some(b)) => std::iter::zip(a, b).all(|(a, b)| (a - b).abs() <= 1e-6),
            (a, b) => a == b,
        })
}

proptest! {
    #![proptest_config(vantic_testkit::cases(40))]

    /// What a parameter is set to is what the file would say in its place: for frames, and for findings; and kept solved, whatever it
    /// was set to before.
    #[test]
    fn a_set_parameter_is_a_number_in_its_place(
        walk in prop::collection::vec((240_u16..=1200, 60_u16..=300, 0_u8..=10, 0_u8..=30), 1..6),
    ) {
        let screen = plan(WEIR);
        let mut live = screen.live();
        for (width, rail, open, gap) in walk {
            let (rail, open, gap) = (f64::from(rail), f64::from(open) / 10.0, f64::from(gap));
            let on = Display::new(width, 640).unwrap();
            let set = on.clone().with_parameter("rail", rail).unwrap();
            let set = set.with_parameter("open", open).unwrap().with_parameter("gap_", gap).unwrap();
            let written = plan(&with_numbers(rail, open, gap));
            let expected = written.place(&on, &PlainText).unwrap();
            let placed = screen.place(&set, &PlainText).unwrap();
            prop_assert!(near(&placed.frames, &expected.frames), "{:?} and {:?}", placed.frames, expected.frames);
            prop_assert!(near(live.frames(&set, &PlainText).unwrap().all(), &expected.frames));
            let found = |plan: &Plan, on: &Display| {
                let report = check(plan, std::slice::from_ref(on), &PlainText).unwrap();
                let words = |f: &vantic::finding::Finding| (f.code, f.message(plan.screen()));
                // A plain number is known to be one; what is said of rules that decide nothing may differ.
                let worse = report.findings.iter().filter(|f| f.severity != vantic::finding::Severity::Note);
                worse.map(words).collect::<Vec<_>>()
            };
            prop_assert_eq!(found(&screen, &set), found(&written, &on));
        }
    }
}

#[test]
fn a_parameter_is_refused_where_it_means_nothing() {
    let told = |text: &str| read(text).unwrap_err().to_string();
    for (text, part) in [
        ("screen s { param rail = 500 in 80..200 }", "needs a range that 500 lies in"),
        ("screen s { param rail = 100 in 200..80 }", "the range 200..80 is empty"),
        ("screen s { param rail = 100 }", "expected `in` and the range that it is set within"),
        ("screen s { param rail = 100 in 80..screen.width }", "expected a plain number"),
        ("screen s { param rail = 100 in 80..200\nlet rail = 3 }", "there is already a number `rail`"),
        (
            "screen s { param rail = 100 in 80..200\nband b: portrait\nwhen b { let rail = 90 } }",
            "`rail` is set by the application; a band cannot change it",
        ),
        (
            "screen s { param rail = 100 in 80..200\nband b: rail < 300 }",
            "a band that looks for 300 changes nowhere",
        ),
        (
            "screen s { param rail = 100 in 80..200\nband b: rail 300..400 }",
            "a band that looks for 300 changes nowhere",
        ),
        ("screen s { param rail = 100 in 80..200\nband b: rail }", "expected a comparison after `rail`"),
        ("screen s { param rail = 100 in 80..200\nband b: rial < 90 }", "did you mean `rail`?"),
        ("screen s { view a { param rail = 100 in 80..200 } }", "`param` stands directly in the screen"),
        (
            "screen s { band b: portrait\nwhen b { param rail = 100 in 80..200 } }",
            "does not belong in a band",
        ),
    ] {
        assert!(told(text).contains(part), "{text}\n{}", told(text));
    }
    let screen = plan(WEIR);
    let on = Display::new(400, 640).unwrap();
    for wrong in [f64::NAN, f64::INFINITY, 1e8] {
        assert!(
            on.clone().with_parameter("rail", wrong).unwrap_err().to_string().contains("`rail` cannot be")
        );
    }
    let beyond = on.clone().with_parameter("rail", 301).unwrap();
    let mut live = screen.live();
    let before = live.frames(&on, &PlainText).unwrap();
    for error in
        [screen.place(&beyond, &PlainText).unwrap_err(), live.frames(&beyond, &PlainText).unwrap_err()]
    {
        assert!(matches!(&error, PlaceError::Parameter { number: 301.0, .. }), "{error}");
    }
    // What it has none of is for other screens.
    let other = on.with_parameter("sluice", 3).unwrap();
    assert_eq!(live.frames(&other, &PlainText).unwrap().changed_since(&before).count(), 0);
}

/// A sweep over a parameter says what a check says at each place, and a claim over it is proven, or broken where it is.
#[test]
fn a_parameter_is_swept_and_claimed_over() {
    let text = "screen weir {
        param rail = 140 in 60..400
        view list { pin left, top to safe; width = rail; height = 300 }
        view page { left = list.right + 8; top = 0; size = (120, 40) }
        claim page inside screen for rail 60..272
        claim page inside screen for rail 60..400
    }";
    let screen = plan(text);
    let on = Display::new(400, 640).unwrap();
    let along = DisplayQuantity::Parameter("rail".into());
    let swept = sweep(&screen, &on, Range { along, from: 60.0, to: 400.0, gap: 0.0 }, &PlainText).unwrap();
    // 8 and 120 beyond a rail of 272 there is no space left.
    let spans: Vec<(f64, f64)> =
        swept.problems.iter().filter(|p| p.code == Code::Outside).map(|p| (p.from.floor(), p.to)).collect();
    assert_eq!((spans, swept.proof), (vec![(272.0, 400.0)], Proof::Exact));
    let report = check(&screen, std::slice::from_ref(&on), &PlainText).unwrap();
    let broken: Vec<String> = report.findings.iter().map(|f| f.message(screen.screen())).collect();
    assert_eq!(report.proven.len(), 1, "{:?}", report.proven);
    assert!(broken.iter().any(|words| words.contains("from a rail of 272")), "{broken:?}");
    let beyond = read(&text.replace("60..272", "60..500")).unwrap_err().to_string();
    assert!(beyond.contains("`rail` is set within 60 and 400; a claim cannot go beyond"), "{beyond}");
    let printed = screen.screen().to_string();
    assert!(printed.contains("claim page inside screen for rail 60..272"), "{printed}");
    assert_eq!(read(&printed).unwrap().screen, *screen.screen());
}

/// A band that asks for a parameter begins and ends where a sweep says, however narrow it is, and no display of its own is needed
/// to find out that a rule reads what it hides.
#[test]
fn bands_begin_and_end_at_a_parameter() {
    let text = "screen weir {
        param rail = 140 in 60..400
        band thin: rail 201..203
        band narrow: screen.width 500..503
        view list { left = 0; top = 0; height = 30; wide: width = 40 }
        when thin { in list { wide: width = 900 } }
        when narrow { in list { wide: width = 700 } }
        claim list inside screen for rail 60..400
        claim list inside screen for screen.width 320..1600
        claim list inside screen for rail 60..200
    }";
    let screen = plan(text);
    let on = Display::new(400, 640).unwrap();
    let spans = |along, from, to| {
        let swept = sweep(&screen, &on, Range { along, from, to, gap: 0.0 }, &PlainText).unwrap();
        assert_eq!(swept.proof, Proof::Exact);
        let outside = swept.problems.iter().filter(|p| p.code == Code::Outside);
        outside.map(|p| (p.from.round(), p.to.round())).collect::<Vec<_>>()
    };
    assert_eq!(spans(DisplayQuantity::Parameter("rail".into()), 60.0, 400.0), [(201.0, 203.0)]);
    assert_eq!(spans(DisplayQuantity::Width, 320.0, 1600.0), [(500.0, 503.0)]);
    let report = check(&screen, std::slice::from_ref(&on), &PlainText).unwrap();
    assert_eq!(report.proven.len(), 1, "{:?}", report.proven);
    // Hidden for a rail that no display was checked with.
    let reads = "screen weir { param rail = 140 in 60..400\nband thin: rail 201..203\nview a { size = 8 }\n\
        view b { left = a.right }\nwhen thin { hide a } }";
    let hidden = Plan::new(read(reads).unwrap().screen).unwrap_err().to_string();
    assert!(hidden.contains("in `thin`"), "{hidden}");
    // Built in Rust it is the same.
    let mut build = ScreenBuilder::new("weir");
    let (rail, _) = build.parameter("rail", 140.0, 60.0..=400.0);
    build.band("thin", build.tested(rail).within(201..203) | !build.tested(rail).at_most(300));
    let built = build.finish().unwrap();
    assert!(built.to_string().contains("band thin: (rail 201..203) or (not (rail <= 300))"), "{built}");
    let (foreign, mut other) = (rail, ScreenBuilder::new("other"));
    other.band("thin", other.tested(foreign).below(90));
    assert!(other.finish().is_err());
    // Another usual number goes for bands too.
    let mut again = ScreenBuilder::reopen(built);
    again.change_value(rail, 202.0);
    let again = again.finish().unwrap();
    assert!(again.bands()[0].condition().holds(&on));
    assert_eq!(read(&again.to_string()).unwrap().screen, again);
}

#[test]
fn a_parameter_stays_one_in_every_form() {
    let screen: Screen = read(WEIR).unwrap().screen;
    let printed = screen.to_string();
    assert!(printed.contains("param rail = 140 in 60..300"), "{printed}");
    assert_eq!(read(&printed).unwrap().screen, screen);
    assert_eq!(read(&format(WEIR).unwrap()).unwrap().screen, screen);
    let json = Form::of(WEIR).unwrap().to_json();
    assert_eq!(read(&Form::from_json(&json).unwrap().to_text().unwrap()).unwrap().screen, screen);
    let names: Vec<(&str, Option<(f64, f64)>)> = screen.parameters().map(|p| (p.name(), p.range())).collect();
    assert_eq!(names[0], ("rail", Some((60.0, 300.0))));
    // One that an edit changes stays within its range.
    let mut build = ScreenBuilder::reopen(screen);
    let (rail, _) = build.parameter("spare_", 1.0, 0.0..=2.0);
    build.change_value(rail, 3.0);
    assert!(build.finish().unwrap_err().to_string().contains("needs a range that 3 lies in"));
}
