//! Ranges of displays: what is said of them is what checks say of displays in them, one by one.

#[allow(dead_code)]
use crate::random;
use proptest::prelude::*;
use std::collections::BTreeSet;
use vantic::check::check;
use vantic::display::{Display, DisplayQuantity};
use vantic::finding::{Finding, Severity};
use vantic::model::Code;
use vantic::plan::Plan;
use vantic::resolve::read;
use vantic::sweep::{EventKind, GridRange, Proof, Range, Sweep, SweepError, sweep, sweep_grid};
use vantic::text::{EvenText, PlainText};

const TOLD: [Code; 7] =
    [Code::Cut, Code::Stretched, Code::Outside, Code::Overlap, Code::Covered, Code::Small, Code::Collapse];

fn plan(text: &str) -> Plan {
    Plan::new(read(text).unwrap().screen).unwrap()
}

/// What a check finds on one display, of what a sweep tells.
fn found(plan: &Plan, display: &Display) -> BTreeSet<(Code, Vec<String>)> {
    let report = check(plan, std::slice::from_ref(display), &PlainText).unwrap();
    // What is found only once something is scrolled, or with the keyboard, is on a display of its own.
    let told = |f: &&Finding| {
        // Sizes that go by one another are not looked for along a range.
        let is_circle = f.code == Code::Collapse && f.message(plan.screen()).contains("takes a share");
        let is_told = TOLD.contains(&f.code) && f.severity != Severity::Note && !is_circle;
        is_told && f.displays.contains(&0)
    };
    let each = report.open().flat_map(Finding::each);
    let mut found: BTreeSet<_> = each.filter(told).map(|f| (f.code, f.paths(plan.screen()))).collect();
    if report.placements.iter().any(|p| !p.broken.is_empty()) {
        found.insert((Code::Conflict, Vec::new()));
    }
    found
}

/// What the sweep says is wrong at a place.
fn said(swept: &Sweep, at: f64) -> BTreeSet<(Code, Vec<String>)> {
    let there = swept.problems.iter().filter(|t| t.from <= at && at <= t.to);
    let views =
        |t: &vantic::sweep::ProblemSpan| if t.code == Code::Conflict { Vec::new() } else { t.views.clone() };
    there.map(|t| (t.code, views(t))).collect()
}

fn agrees(plan: &Plan, display: &Display, range: Range, places: &[f64]) -> Result<(), TestCaseError> {
    let swept = sweep(plan, display, range.clone(), &PlainText).unwrap();
    // As far as the work sufficed: all the way, or at least where it begins.
    let Range { ref along, from, to, .. } = swept.range;
    prop_assert!(swept.left_out_to == Some(range.to).filter(|_| to < range.to) && to > from);
    for place in places {
        let at = from + (to - from) * place;
        // On a border either side will do.
        let near = |edge: f64| (edge - at).abs() < 1e-3;
        if swept.events.iter().any(|e| near(e.at))
            || swept.problems.iter().any(|t| near(t.from) || near(t.to))
        {
            continue;
        }
        let there = along.at(display, at).unwrap();
        let problems: Vec<_> =
            swept.problems.iter().map(|t| (t.code, t.views.join(" "), t.from, t.to)).collect();
        prop_assert_eq!(
            said(&swept, at),
            found(plan, &there),
            "at {} of {:?}: {:?}\n{}",
            at,
            along,
            problems,
            plan.screen()
        );
    }
    Ok(())
}

proptest! {
    #![proptest_config(vantic_testkit::cases(16))]

    #[test]
    fn what_is_wrong_along_a_range_is_what_is_found_on_displays_in_it(
        screen in random::screens(),
        display in random::displays(),
        places in prop::collection::vec(0.001..0.999_f64, 24),
        along in prop::sample::select(vec![DisplayQuantity::Width, DisplayQuantity::Height, DisplayQuantity::Aspect]),
    ) {
        let plan = Plan::new(screen).unwrap();
        let (from, to) = if along == DisplayQuantity::Height { (320.0, 900.0) } else { (180.0, 1100.0) };
        agrees(
            &plan,
            &display.with_size(600.0, 500.0).unwrap(),
            Range { along, from, to, gap: 0.0 },
            &places,
        )?;
    }

    #[test]
    fn a_sweep_over_text_scales_finds_what_checks_find(
        screen in random::screens(),
        places in prop::collection::vec(0.001..0.999_f64, 8),
    ) {
        let plan = Plan::new(screen).unwrap();
        let display = Display::new(500.0, 700.0).unwrap();
        let swept = sweep(
            &plan,
            &display,
            Range { along: DisplayQuantity::TextScale, from: 1.0, to: 2.0, gap: 0.0 },
            &PlainText,
        );
        prop_assert_eq!(swept.unwrap().proof, Proof::Sampled);
        agrees(
            &plan,
            &display,
            Range { along: DisplayQuantity::TextScale, from: 1.0, to: 2.0, gap: 0.0 },
            &places,
        )?;
    }
}

/// One thing in a layer of a random screen.
fn piece() -> impl Strategy<Value = String> {
    let width = prop_oneof![
        (20_u16..160).prop_map(|w| format!("width = {w}")),
        (10_u8..90).prop_map(|w| format!("width = {w}% of parent.width")),
        (10_u8..60, 30_u8..90, 90_u16..240)
            .prop_map(|(w, least, most)| format!("width = clamp({w}% of parent.width, {least}, {most})")),
    ];
    let across = prop_oneof![
        (0_i16..120).prop_map(|x| format!("start = parent.start + {x}")),
        (0_i16..120).prop_map(|x| format!("end = parent.end - {x}")),
        Just("center_x = parent.center_x".to_owned()),
        (5_u8..60).prop_map(|x| format!("start = parent.start + {x}% of parent.width")),
    ];
    let down = prop_oneof![
        (0_i16..300).prop_map(|y| format!("top = parent.top + {y}")),
        (0_i16..120).prop_map(|y| format!("bottom = parent.bottom - {y}")),
        (5_u8..70).prop_map(|y| format!("top = parent.top + {y}% of parent.height")),
    ];
    let more = prop_oneof![
        4 => Just(""),
        1 => Just("; control"),
        1 => Just("; rotate 24deg"),
        1 => Just("; floats"),
        1 => Just("; scale 1.5; origin (0%, 0%)"),
    ];
    (width, across, down, 12_u8..90, more, 0_u8..5).prop_map(|(width, across, down, height, more, kind)| {
        let head = match kind {
            0 => "image NAME { natural (80, 50); ",
            1 => "text NAME \"Glass houses and seed beds\" { font 15; ",
            _ => "view NAME { ",
        };
        format!("{head}{width}; height = {height}; {across}; {down}{more} }}")
    })
}

/// A row, column or grid of things, in a list that scrolls.
fn bundle() -> impl Strategy<Value = String> {
    let item = (10_u8..80, 10_u8..70, 0_u8..4).prop_map(|(w, h, kind)| match kind {
        0 => format!("{{ size = ({w}, {h}) }}"),
        1 => format!("{{ share 1; height = {h} }}"),
        2 => format!("{{ share 2, at least {w}; height = {h} }}"),
        _ => format!("{{ width = {w}; height = {h}; spare }}"),
    });
    let how = prop_oneof![
        Just("row gap 6, align center"),
        Just("row gap 4, padding 8"),
        Just("grid columns at least 70, gap 5"),
        Just("column gap 5, align stretch"),
    ];
    (how, prop::collection::vec(item, 1..5)).prop_map(|(how, items)| {
        let plain = how.starts_with("row") || how.starts_with("grid");
        let items = items.iter().enumerate().map(|(i, item)| {
            // A column has as much space as it wants, and a grid gives the widths.
            let item = if plain { item.clone() } else { item.replace("share 2, at least", "width =") };
            let item = if how.starts_with("grid") { item.replace("share 1; ", "") } else { item };
            format!("view c{i} {item}\n")
        });
        format!("view NAME {{ {how}\n{} }}", items.collect::<String>())
    })
}

/// Layers over one another: a page that may scroll, a layer of things over it, a bar, and a panel that a
/// state opens.
fn layered() -> impl Strategy<Value = String> {
    let pieces = || prop::collection::vec(piece(), 0..5);
    let page = prop_oneof![
        prop::collection::vec(bundle(), 1..5).prop_map(|all| (true, all)),
        prop::collection::vec(piece(), 1..5).prop_map(|all| (false, all)),
    ];
    let to = prop_oneof![Just("screen"), Just("safe")];
    (page, pieces(), to, 20_u8..90, 0_u8..3).prop_map(|((scrolls, page), layer, to, bar, state)| {
        let named = |all: Vec<String>, name: &str| -> String {
            let one = |(i, piece): (usize, &String)| piece.replace("NAME", &format!("{name}{i}")) + "\n";
            all.iter().enumerate().map(one).collect()
        };
        let how = if scrolls { "scroll down; column gap 10, padding 6, align stretch" } else { "" };
        let panel = match state {
            0 => "view panel { only in menu.open; pin left, right, bottom to safe; height = 40% of screen.height }",
            1 => "view panel { only in menu.open; floats; pin start 10, top 10 to safe; size = 90 }",
            _ => "view panel { pin end 10, bottom 10 to screen; size = 56 }",
        };
        format!(
            "screen r {{ state menu: closed, open\nview page {{ pin left, right, top, bottom to {to}; {how}\n{} }}\n\
             view layer {{ pin left, right, top, bottom to screen\n{} }}\n\
             view bar {{ pin left, right, top to screen; height = {bar} }}\n{panel} }}",
            named(page, "p"),
            named(layer, "l")
        )
    })
}

proptest! {
    #![proptest_config(vantic_testkit::cases(6))]

    /// With layers, things that scroll, rows and grids, states, turned views and insets.
    #[test]
    fn between_layers_a_sweep_finds_what_checks_find(
        text in layered(),
        display in random::displays(),
        places in prop::collection::vec(0.001..0.999_f64, 16),
        (open, along) in (
            any::<bool>(),
            prop::sample::select(vec![DisplayQuantity::Width, DisplayQuantity::Height]),
        ),
    ) {
        let plan = plan(&text);
        let (from, to) = if along == DisplayQuantity::Height { (320.0, 900.0) } else { (180.0, 1100.0) };
        let display = display.with_size(500.0, 600.0).unwrap().with_state("menu", if open { "open" } else { "closed" });
        agrees(&plan, &display, Range { along, from, to, gap: 0.0 }, &places)?;
    }
}

/// The masthead of a booking page: wide rules only.
const MASTHEAD: &str = "screen masthead {
    view mark { size = (140, 40); left = screen.left + 30; top = screen.top + 20 }
    view menu { size = (420, 40); right = screen.right - 30; top = screen.top + 20 }
}";

#[test]
fn an_overlap_begins_where_arithmetic_says_and_a_band_is_proposed_there() {
    let plan = plan(MASTHEAD);
    let display = Display::new(1000.0, 700.0).unwrap();
    // The mark ends at 170, the menu begins at the width less 450.
    let over = |gap| {
        let range = Range { along: DisplayQuantity::Width, from: 480.0, to: 1400.0, gap };
        sweep(&plan, &display, range, &PlainText).unwrap()
    };
    for (gap, at) in [(0.0, 620.0), (20.0, 640.0)] {
        let swept = over(gap);
        let overlap: Vec<(f64, f64)> = swept.problems.iter().map(|t| (t.from, t.to)).collect();
        assert_eq!(overlap.len(), 1);
        assert!((overlap[0].0, (overlap[0].1 - at).abs() < 0.02) == (480.0, true), "{overlap:?}");
        assert_eq!(swept.bands[0].0, format!("band narrow: screen.width < {at}"));
        assert_eq!(swept.proof, Proof::Exact);
        assert!(swept.proven()[0].contains("no text is cut") && !swept.proven()[0].contains("no overlap"));
    }
    let range = Range { along: DisplayQuantity::Width, from: 700.0, to: 1400.0, gap: 0.0 };
    let swept = sweep(&plan, &display, range.clone(), &PlainText).unwrap();
    assert!(swept.problems.is_empty() && swept.events.is_empty());
    let proven = swept.proven();
    assert!(
        proven[0].starts_with("no overlap, no text is cut, ") && proven[0].ends_with("from 700 to 1400"),
        "{proven:?}"
    );
}

#[test]
fn what_passes_over_another_on_the_way_is_seen() {
    // One goes from left to right three times as fast as the width grows, over one that stays.
    let plan = plan(
        "screen passing {
            view stays { size = 20; left = screen.left + 300; top = screen.top }
            view goes { size = 20; left = screen.left + 3 * screen.width - 1500; top = screen.top }
        }",
    );
    let display = Display::new(600.0, 300.0).unwrap();
    let range = Range { along: DisplayQuantity::Width, from: 510.0, to: 800.0, gap: 0.0 };
    let swept = sweep(&plan, &display, range, &PlainText).unwrap();
    let overlap = swept.problems.iter().find(|t| t.code == Code::Overlap).unwrap();
    // From 3 w - 1500 + 20 = 300 up to 3 w - 1500 = 320.
    let ends = [(overlap.from, 1780.0 / 3.0), (overlap.to, 1820.0 / 3.0)];
    assert!(ends.iter().all(|(is, by_hand)| (is - by_hand).abs() < 0.02), "{ends:?}");
}

#[test]
fn bands_lines_columns_and_limits_are_met_at_their_exact_places() {
    let plan = plan(
        "screen page {
            ladder polish
            band wide: screen.width >= 900
            view card {
                width = 90% of screen.width ~ polish
                most: width <= 1000
                center_x = screen.center_x
                top = screen.top
                height = 200
            }
            text title \"0123456789 0123456789\" { font 20; start = card.start; top = card.bottom; end <= card.start + 50% of screen.width }
            view rail { between screen.left and screen.right, at most 700; top = screen.bottom - 20; height = 10 }
            view shelf {
                pin left, right to screen
                below title by 10
                grid columns at least 150, gap 10
                view a { height = 20 }
                view b { height = 20 }
                view c { height = 20 }
            }
            when wide { in title { font 30 } }
        }",
    );
    let display = Display::new(800.0, 900.0).unwrap();
    let range = Range { along: DisplayQuantity::Width, from: 280.0, to: 1400.0, gap: 0.0 };
    let swept = sweep(&plan, &display, range, &EvenText).unwrap();
    let at = |kind: EventKind| -> Vec<f64> {
        swept.events.iter().filter(|e| e.kind == kind).map(|e| (e.at * 1000.0).round() / 1000.0).collect()
    };
    assert_eq!(at(EventKind::Band), [900.0]);
    // 21 letters of 10 are 210 wide, and so is half of 420; from 900 on letters are of 15, but there is room.
    assert_eq!(at(EventKind::Lines), [420.0]);
    // Two columns from 310 on, three from 470, ever more after that.
    assert_eq!(at(EventKind::Arranged)[..2], [310.0, 470.0]);
    // The shelf is as wide as the screen up to 700.
    assert!(at(EventKind::Limit).contains(&700.0));
    // 90% of 1111.111 is 1000: the limit begins, and the wish gives way.
    assert_eq!(at(EventKind::GivesWay), [1111.111]);
    assert!(at(EventKind::Limit).contains(&1111.111));
}

proptest! {
    #![proptest_config(vantic_testkit::cases(24))]

    #[test]
    fn a_reported_rate_is_valid_in_its_range_and_not_beyond(
        screen in random::screens(),
        width in 300_u32..900,
        places in prop::collection::vec(0.0..1.0, 4),
    ) {
        let (plan, display) = (Plan::new(screen).unwrap(), Display::new(f64::from(width), 700.0).unwrap());
        let range = Range { along: DisplayQuantity::Width, from: 240.0, to: 1000.0, gap: 0.0 };
        let swept = sweep(&plan, &display, range.clone(), &PlainText).unwrap();
        prop_assume!(swept.proof == Proof::Exact);
        let view = plan.screen().views().last().unwrap().0;
        let value = |at: f64| {
            let placement =
                plan.place(&DisplayQuantity::Width.at(&display, at).unwrap(), &PlainText).unwrap();
            placement.frame(view).map(|f| f.left)
        };
        let Some((from, to)) = swept.steady(f64::from(width), view, vantic::model::Coordinate::Left) else {
            prop_assert_eq!(value(f64::from(width)), None);
            return Ok(());
        };
        prop_assert!(
            range.from <= from && from <= f64::from(width) && f64::from(width) <= to && to <= range.to
        );
        prop_assume!(to - from > 1.0);
        let inside = |share: f64| from + 1e-3 + (to - from - 2e-3) * share;
        let (first, last) = (value(inside(0.0)).unwrap(), value(inside(1.0)).unwrap());
        let evenly = |at: f64| first + (last - first) * (at - inside(0.0)) / (inside(1.0) - inside(0.0));
        for place in places {
            let at = inside(place);
            let is = value(at).unwrap();
            prop_assert!(
                (is - evenly(at)).abs() < 2e-3,
                "{is} at {at}, from {from} to {to}\n{}",
                plan.screen()
            );
        }
        // Behind its end it jumps, or moves otherwise.
        let behind = [(to, 1e-3), (to, 4.0)].map(|(end, by)| end + by);
        if behind[1] < range.to {
            let goes_on = |at: f64| value(at).is_some_and(|v| (v - evenly(at)).abs() < 1e-5);
            prop_assert!(!behind.into_iter().all(goes_on), "goes on behind {to}\n{}", plan.screen());
        }
    }
}

#[test]
fn on_a_curve_the_result_is_called_sampled() {
    let plan = plan(
        "screen drawn {
            design (400, 800), blend 50%
            view a { size = (200, 40); left = screen.left; top = screen.top }
            view b { size = (160, 40); right = screen.right; top = screen.top }
        }",
    );
    let display = Display::new(400.0, 800.0).unwrap();
    let range = Range { along: DisplayQuantity::Width, from: 200.0, to: 800.0, gap: 0.0 };
    let swept = sweep(&plan, &display, range, &PlainText).unwrap();
    // The width in units is w / sqrt(w / 400), that is sqrt(400 w): 360 at w = 324.
    let overlap = swept.problems.iter().find(|t| t.code == Code::Overlap).unwrap();
    assert!((overlap.to - 324.0).abs() < 0.05, "{overlap:?}");
    assert_eq!(swept.proof, Proof::Sampled);
}

#[test]
fn ranges_that_cannot_be_examined_say_why_and_rectangles_are_made_of_lines() {
    let plan = plan(MASTHEAD);
    let display = Display::new(1000.0, 700.0).unwrap();
    let over = |along, from, to| sweep(&plan, &display, Range { along, from, to, gap: 0.0 }, &PlainText);
    for (from, to) in [(900.0, 400.0), (400.0, 400.0), (f64::NAN, 400.0), (1.0, f64::INFINITY)] {
        assert!(
            matches!(over(DisplayQuantity::Width, from, to), Err(SweepError::Range { .. })),
            "{from} {to}"
        );
    }
    assert!(matches!(over(DisplayQuantity::Width, -5.0, 400.0), Err(SweepError::Display(_))));
    assert!(matches!(over(DisplayQuantity::Keyboard, 0.0, 4000.0), Err(SweepError::Display(_))));
    let rows = sweep_grid(
        &plan,
        &display,
        GridRange { widths: (480.0, 1400.0), heights: (40.0, 700.0), lines: 5, gap: 0.0 },
        &PlainText,
    )
    .unwrap();
    assert_eq!(
        rows.iter().map(|(height, _)| *height).collect::<Vec<_>>(),
        [40.0, 205.0, 370.0, 535.0, 700.0]
    );
    // At a height of 40 both reach beyond the bottom as well, whatever the width.
    let wrong = |row: usize, code| rows[row].1.problems.iter().filter(|t| t.code == code).count();
    assert_eq!([wrong(0, Code::Outside), wrong(1, Code::Outside), wrong(1, Code::Overlap)], [2, 0, 1]);
}
