//! Every case file, through the library.

use crate::case::{all, compare, display_name, numbers};
use vantic::check::{CheckOptions, check_as};
use vantic::display::{Displays, Insets};
use vantic::geometry::Direction;
use vantic::plan::Plan;
use vantic::resolve::read;
use vantic::text::{EvenText, Measure, PlainText};

#[test]
fn every_case_comes_out_as_computed_by_hand() {
    let cases = all();
    assert!(cases.len() >= 11, "only {} cases were found", cases.len());
    for case in cases {
        let screen = read(&case.screen).unwrap_or_else(|e| panic!("{}: {e}", case.name)).screen;
        let plan = Plan::new(screen).unwrap();
        for expected in &case.displays {
            let mut display = Displays::default().find(&display_name(expected), plan.screen()).unwrap();
            if let [left, top, right, bottom] = *numbers(expected.get("insets")) {
                display = display.with_insets(Insets { left, top, right, bottom }).unwrap();
            }
            if expected.get("right_to_left").is_some() {
                display = display.with_direction(Direction::RightToLeft);
            }
            for (view, by) in expected.get("scroll").and_then(|s| s.as_table()).into_iter().flatten() {
                let by = by.as_integer().unwrap() as f64;
                display = display.with_scroll(view, by, by).unwrap();
            }
            let even = expected.get("measure").is_some_and(|m| m.as_str() == Some("even"));
            let measure: &(dyn Measure + Sync) = if even { &EvenText } else { &PlainText };
            let how = CheckOptions::default();
            let report = check_as(&plan, &[display], measure, how).unwrap();
            let placement = serde_json::to_value(report.placements[0].named(plan.screen())).unwrap();
            compare(&case, expected, &placement, &serde_json::to_value(report.named(plan.screen())).unwrap());
        }
    }
}
