//! Work is bounded, counted and the same for the same calls; what there is none left for is told. Nothing here is timed.

use proptest::prelude::*;
use std::fmt::Write as _;
use std::sync::Mutex;
use std::sync::atomic::{AtomicUsize, Ordering};
use vantic::check::{CHECK_WORK, CLAIM_WORK, CheckOptions, JUMP_WORK, Report, check_as, text_slack};
use vantic::display::{Display, DisplayQuantity};
use vantic::finding::Severity;
use vantic::limits::PLACE_WORK_PER_VIEW;
use vantic::model::Code;
use vantic::plan::Plan;
use vantic::sweep::{Range, SWEEP_WORK, SweepOptions, sweep, sweep_with};
use vantic::text::{Measure, PlainText, TextRequest, TextSize};
use vantic_testkit::screens::{Picks, screen_file};

/// By how much a bound may be passed: what is being done is finished.
const OVER: f64 = 1.3;

fn screen(body: &str) -> Plan {
    let text = format!("screen loft {{\n ladder fit > rhythm\n{body}\n}}");
    Plan::new(vantic::read(&text).unwrap().screen).unwrap()
}

/// Each of so many views is to be behind each other one.
fn all_behind_all(count: usize) -> String {
    let mut body = String::new();
    for i in 0..count {
        let _ = writeln!(body, "view b{i} {{ top = 0; size = 10; left >= 0");
        for j in (0..count).filter(|&j| j != i) {
            let _ = writeln!(body, "  left >= b{j}.left + {}", 2 + (3 * i + 5 * j) % 9);
        }
        body.push_str("}\n");
    }
    body
}

/// A long chain that is to end where it cannot.
fn a_chain_that_is_too_long(count: usize) -> String {
    let mut body = "view b0 { left = 0; top = 0; size = 8 }\n".to_owned();
    for i in 1..count {
        let before = i - 1;
        let _ = writeln!(body, "view b{i} {{ left = b{before}.right + 2; top = b{before}.top; size = 8 }}");
    }
    let _ = writeln!(body, "view post {{ right = b{}.right; left = 40; top = 0; size = 8 }}", count - 1);
    body
}

/// A choice that reads the next choice, and that the one after it; the first is to be what it cannot.
fn choices_that_read_choices(count: usize) -> String {
    let mut body = String::new();
    for i in 0..count {
        let (next, after) = (i + 1, i + 2);
        let _ = writeln!(
            body,
            "view b{i} {{ left = 0; top = {}; height = 8; width = max(b{next}.width + 1, b{after}.width - 3, {i}) }}",
            12 * i
        );
    }
    let _ = writeln!(body, "view b{count} {{ left = 0; top = 0; size = 5 }}");
    let _ = writeln!(body, "view b{} {{ left = 0; top = 0; size = 9; width = b0.width - 60 }}", count + 1);
    body
}

/// A list of many days, each with something that sticks.
fn days_that_stick(days: usize) -> String {
    format!(
        "view bar {{ pin left, right, top to safe; height = max(44, 96 - list.scrolled_y) }}
        view list {{ pin left, right, bottom to safe; top = safe.top + 96; scroll down; column gap 20, align stretch
            repeat day {days} {{ column gap 4, align stretch
                view date {{ height = 28; stick top 4 }}
                repeat shift 4 {{ height = 48 }}
            }}
        }}"
    )
}

fn displays() -> Vec<Display> {
    [(390.0, 844.0), (844.0, 390.0), (820.0, 1180.0), (1280.0, 800.0)]
        .iter()
        .map(|&(width, height)| Display::new(width, height).unwrap())
        .collect()
}

fn checked(plan: &Plan, effort: f64) -> Report {
    let how = CheckOptions { effort, ..CheckOptions::default() };
    check_as(plan, &displays(), &PlainText, how).unwrap()
}

fn in_full(report: &Report) -> usize {
    report.left_out.iter().find(|out| out.what == "displays").map_or(4, |out| out.looked_at)
}

#[test]
fn a_check_takes_no_more_work_than_it_may_and_says_what_it_left_out() {
    let slow = [
        all_behind_all(12),
        a_chain_that_is_too_long(120),
        choices_that_read_choices(12),
        days_that_stick(60),
    ];
    for body in slow {
        let plan = screen(&body);
        let least = (4 * PLACE_WORK_PER_VIEW * plan.screen().views().count() as u64) as f64;
        let mut before = 0;
        for effort in [0.002, 0.05] {
            let report = checked(&plan, effort);
            let most = (CHECK_WORK as f64 * effort).max(least) * OVER + 200_000.0;
            assert!((report.work as f64) < most, "{} of {most} with {effort}:\n{body}", report.work);
            assert_eq!(report, checked(&plan, effort), "the same check comes out otherwise");
            // What is not known to be right is not left in silence, and more work tells no less.
            let is_whole = in_full(&report) == 4;
            assert!(is_whole || report.left_out.iter().all(|out| out.looked_at < out.of));
            assert!(in_full(&report) >= before, "{} of 4, {before} before:\n{body}", in_full(&report));
            before = in_full(&report);
            // What could not be worked out is told alone.
            for placement in report.placements.iter().filter(|p| p.hit_work_limit) {
                let on = report.displays.iter().position(|name| name == placement.display.name()).unwrap();
                let there = report.findings.iter().filter(|f| f.displays.contains(&on));
                let told = there.filter(|f| f.severity != Severity::Note).map(|f| f.code);
                assert!(told.into_iter().all(|code| matches!(code, Code::Unsettled | Code::Conflict)));
            }
        }
    }
}

/// Rows in rows, two in each.
fn nested_rows(deep: usize) -> String {
    let open: String = (0..deep).map(|at| format!("repeat a{at} 2 {{ row gap 1, padding 1\n")).collect();
    format!("{open}view seed {{ size = 1 }}{}", "}".repeat(deep))
}

/// A list of rows with two texts on one baseline, of which one takes the space that is left.
fn rows_on_baselines(rows: usize) -> String {
    format!(
        "view list {{ pin left, right, top to screen; column gap 4, align stretch
            repeat day {rows} {{ row gap 4, align baseline
                text title \"some words that are long\" {{ font 14; share 1 }}
                text note \"other\" {{ font 12 }}
            }}
        }}"
    )
}

#[test]
fn long_lists_and_deep_nests_take_work_in_proportion_to_their_views() {
    let screens = [
        (rows_on_baselines(20), rows_on_baselines(400)),
        (nested_rows(5), nested_rows(11)),
        (days_that_stick(10), days_that_stick(120)),
    ];
    for (small, large) in screens {
        let [small, large] = [small, large].map(|body| {
            let plan = screen(&body);
            let (placed, work) =
                vantic_core::work::within(u64::MAX, || plan.place(&displays()[0], &PlainText).unwrap());
            assert!(!placed.hit_work_limit, "{body}");
            work as f64 / plan.screen().views().count() as f64
        });
        assert!(large < 1.3 * small, "{large} units a view, and {small} where there are few");
    }
}

/// Plain text that counts how often it is measured.
struct Counted(AtomicUsize);

impl Measure for Counted {
    fn measure(&self, text: &TextRequest<'_>) -> TextSize {
        self.0.fetch_add(1, Ordering::Relaxed);
        PlainText.measure(text)
    }
}

#[test]
fn where_lines_break_is_searched_once_for_texts_that_break_at_one_place() {
    const TEXTS: usize = 80;
    let words = "the late boat ".repeat(20);
    let plan = screen(&format!(
        "repeat note {TEXTS} {{ left = 0; top = 0; width = 40% of screen.width
            text words \"{words}\" {{ font 10; pin left, right, top to parent }} }}"
    ));
    let range = Range { along: DisplayQuantity::Width, from: 320.0, to: 370.0, gap: 0.0 };
    let counted = Counted(AtomicUsize::new(0));
    let swept = sweep(&plan, &displays()[0], range, &counted).unwrap();
    let parts = swept.placements.len() / 2;
    assert!(swept.left_out_to.is_none() && parts > 1, "{:?}, {parts}", swept.left_out_to);
    // A search by halving measures a text dozens of times.
    let each = counted.0.into_inner() / (parts * TEXTS);
    assert!(each < 16, "each text is measured {each} times in each of {parts} parts");
}

#[test]
fn a_range_whose_first_display_cannot_be_placed_is_told_as_not_examined() {
    let plan = screen(&days_that_stick(40));
    let range = Range { along: DisplayQuantity::Width, from: 320.0, to: 400.0, gap: 0.0 };
    let how = SweepOptions { effort: 1e-6, ..SweepOptions::default() };
    let swept = sweep_with(&plan, &displays()[0], range, &PlainText, how).unwrap();
    assert_eq!((swept.range.to, swept.left_out_to), (320.0, Some(400.0)));
    assert!(swept.proven().is_empty() && swept.problems.is_empty());
}

/// Claims over ranges, borders of bands and the rules behind findings come on top of the displays, on a screen of which each
/// placement takes much.
#[test]
fn claims_and_borders_that_there_is_no_work_for_are_told() {
    let plan = screen(&format!(
        "band wide: screen.width >= 600\nband wider: screen.width >= 900\n{}\nwhen wide {{ r0.left >= 3 ~ fit }}
         when wider {{ r0.left >= 4 ~ fit }}\n{}{}",
        "view r0 { left = 0; top = 0; size = 10 }",
        choices_that_read_choices(12),
        "claim r0 inside screen for screen.width 200..1400\n".repeat(6),
    ));
    let effort = 0.02;
    let (report, work) = vantic_core::work::within(u64::MAX, || checked(&plan, effort));
    let share = |what: &str| {
        let out = report.left_out.iter().find(|out| out.what == what);
        out.map(|out| (out.looked_at, out.of)).unwrap()
    };
    // Two borders, met by an upright and by a turned display; each claim for the displays that differ in more than the width.
    let (borders, ranges) = (share("borders of bands"), share("ranges of claims"));
    assert!(borders.0 < borders.1 && borders.1 == 4, "{borders:?}");
    assert!(ranges.0 < ranges.1 && ranges.1 % 6 == 0, "{ranges:?}");
    assert!(report.proven.is_empty() && report.findings.iter().all(|f| f.code != Code::Jump));
    let most = 2 * (CHECK_WORK + CLAIM_WORK + JUMP_WORK);
    assert!((work as f64) < most as f64 * effort, "{work} of {most}");
}

#[test]
fn what_collapses_is_looked_into_as_far_as_the_work_goes() {
    // Each of the empty cells may be held small by each of the others.
    let plan = screen(
        "repeat tray 2 { pin right, bottom to safe; height = screen.bottom + 1; row gap 1, wrap
             view sheet { size = 9; top = max(screen.top - 24, 1); grid columns 4, gap 2
                 repeat cell 300 { grid columns 4, gap 100 }
             }
         }",
    );
    let effort = 0.1;
    let (report, beside) = vantic_core::work::within(u64::MAX, || checked(&plan, effort));
    let most = (CHECK_WORK + CLAIM_WORK + JUMP_WORK) as f64 * effort * OVER;
    let work = (report.work + beside) as f64;
    assert!(work < most && in_full(&report) == 0, "{work} of {most}");
}

#[test]
fn frames_that_are_not_the_best_decide_no_claim() {
    let claims = "claim b0 inside screen\nclaim b1 inside screen\nclaim b2 inside b0\n";
    let plan = screen(&format!("{}{claims}", choices_that_read_choices(12)));
    let report = checked(&plan, 1e-6);
    assert!(report.placements.iter().all(|placement| placement.hit_work_limit));
    assert!(report.proven.is_empty() && report.findings.iter().all(|f| f.code != Code::Claim));
    assert!(report.left_out.iter().any(|out| (out.what.as_str(), out.looked_at) == ("ranges of claims", 0)));
}

#[test]
fn the_space_for_longer_words_is_looked_for_as_far_as_the_work_goes() {
    let plan = screen(&rows_on_baselines(3));
    let report = vantic::check::check(&plan, &displays()[..1], &PlainText).unwrap();
    let found = |effort: f64| text_slack(&plan, &report, &PlainText, effort).unwrap();
    let (none, some, all) = (found(1e-9), found(0.0015), found(1.0));
    assert_eq!((none.len(), all.len()), (0, 6));
    assert!((1..6).contains(&some.len()) && some[..] == all[..some.len()], "{some:?}");
}

/// Columns of cells to which nothing gives a width.
fn cells_without_a_width(columns: usize) -> String {
    format!(
        "view list {{ pin left, right, top to safe; column gap 4
            repeat shelf {columns} {{ height = 100; width = 60
                view crate_ {{ pin left, top to parent; width = 30; column gap 1; repeat jar 20 {{ height = 3 }} }}
            }}
        }}"
    )
}

#[test]
fn what_is_open_in_every_copy_takes_work_in_proportion_and_is_one_finding() {
    let of = |columns| {
        let report = checked(&screen(&cells_without_a_width(columns)), 1.0);
        assert_eq!(in_full(&report), 4);
        let open: Vec<_> = report.open().filter(|f| f.code == Code::Ambiguous).collect();
        assert_eq!((open.len(), open[0].copies.len() + 1), (1, 20 * columns));
        report.work
    };
    let (few, many) = (of(3), of(24));
    assert!(many < 12 * few, "{few} {many}");
}

#[test]
fn what_contradicts_itself_in_every_copy_is_one_finding() {
    let body = "view list { pin left, right, top to safe; column gap 4, align stretch
            repeat shelf 40 { height = 20; view label_ { pin left 8, right 8, top to parent; size = (30, 10) } } }";
    let report = checked(&screen(body), 1.0);
    assert_eq!(in_full(&report), 4);
    let conflicts: Vec<_> = report.open().filter(|f| f.code == Code::Conflict).collect();
    assert_eq!((conflicts.len(), conflicts[0].copies.len() + 1, conflicts[0].displays.len()), (1, 40, 4));
}

#[test]
fn with_the_usual_work_nothing_is_left_out_of_a_screen_that_one_would_write() {
    let demo = include_str!("../../../../demo/departures.vantic");
    let plan = Plan::new(vantic::read(demo).unwrap().screen).unwrap();
    let report = checked(&plan, 1.0);
    assert!(report.left_out.is_empty() && report.work * 20 < CHECK_WORK, "{}", report.work);
    let range = Range { along: DisplayQuantity::Width, from: 320.0, to: 1600.0, gap: 0.0 };
    let swept = sweep(&plan, &displays()[0], range.clone(), &PlainText).unwrap();
    assert_eq!((swept.left_out_to, swept.range), (None, range));
}

#[test]
fn a_sweep_tells_only_of_what_it_has_examined() {
    let plan = screen(&format!(
        "view tray {{ pin left, right, top to screen; row gap 1, wrap\n repeat seed 120 {{ size = 7 }} }}\n{}",
        "claim tray inside screen for screen.width 320..1600"
    ));
    let range = Range { along: DisplayQuantity::Width, from: 320.0, to: 1600.0, gap: 0.0 };
    let display = &displays()[0];
    let mut ends = Vec::new();
    for effort in [0.002, 0.02] {
        let examined = Mutex::new(0.0);
        let progress = |part: f64| *examined.lock().unwrap() += part;
        let how = SweepOptions { progress: Some(&progress), effort };
        let ((), work) = vantic_core::work::within(u64::MAX, || {
            let swept = sweep_with(&plan, display, range.clone(), &PlainText, how).unwrap();
            assert_eq!(swept.left_out_to, Some(1600.0));
            let end = swept.range.to;
            assert!((320.0..1600.0).contains(&end) && swept.range.from == 320.0);
            let all = swept.problems.iter().map(|t| t.to).chain(swept.events.iter().map(|e| e.at));
            assert!(all.into_iter().all(|at| at <= end), "something is told of what lies behind {end}");
            assert!(swept.proven().iter().all(|said| !said.contains("1600")), "{:?}", swept.proven());
            let part = (end - 320.0) / (1600.0 - 320.0);
            let told = *examined.lock().unwrap();
            assert!(told >= part - 1e-9 && told < 1.0, "{told} of the range is told of, {part} was examined");
            assert_eq!(swept, sweep_with(&plan, display, range.clone(), &PlainText, how).unwrap());
            ends.push(end);
        });
        // Twice, since it was done twice; one step may be long.
        assert!((work as f64) < 2.0 * (SWEEP_WORK as f64 * effort * OVER + 1e6), "{work}");
    }
    assert!(ends[0] < ends[1], "{ends:?}");
    // Nor is a claim said to hold of which a part was not looked at, or to be broken.
    let report = checked(&plan, 0.002);
    let left = report.left_out.iter().find(|out| out.what == "ranges of claims").unwrap();
    assert!(left.looked_at < left.of && report.proven.is_empty());
    assert!(report.findings.iter().all(|f| f.code != Code::Claim));
}

proptest! {
    #![proptest_config(vantic_testkit::cases(40))]

    /// Screens with a statement of every kind, in any combination: on the displays, and with all that comes on top of them.
    #[test]
    fn the_check_of_a_random_screen_keeps_to_its_bounds(
        bytes in prop::collection::vec(any::<u8>(), 600),
        effort in prop::sample::select(vec![0.0005, 0.005, 0.02]),
    ) {
        let (text, _) = screen_file(&mut Picks::new(&bytes));
        let plan = vantic::read(&text).ok().and_then(|source| Plan::new(source.screen).ok());
        prop_assume!(plan.is_some());
        let plan = plan.unwrap();
        let (report, beside) = vantic_core::work::within(u64::MAX, || checked(&plan, effort));
        // Claims, and expectations as much.
        let all = (CHECK_WORK + 2 * CLAIM_WORK + JUMP_WORK) as f64 * effort;
        let least = (4 * PLACE_WORK_PER_VIEW * plan.screen().views().count() as u64) as f64;
        // A display of which the work is met is finished, and so is the first claim and the first border.
        let most = (all + 2.0 * least) * OVER + 300_000.0;
        let work = (report.work + beside) as f64;
        prop_assert!(work < most, "{work} of {most} with {effort}, {} on displays, {:?}\n{text}", report.work, report.left_out);
        prop_assert_eq!(&report, &checked(&plan, effort));
    }
}
