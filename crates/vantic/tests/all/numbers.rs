//! What differs by less than can be told is no contradiction, whatever the size of the numbers; what is one is told with how
//! much it is, and everybody agrees on it.

use proptest::prelude::*;
use vantic::display::{Display, DisplayQuantity};
use vantic::model::Code;
use vantic::plan::Plan;
use vantic::sweep::{Range, SweepError, sweep};
use vantic::text::PlainText;
use vantic_testkit::cases;

proptest! {
    #![proptest_config(cases(400))]

    #[test]
    fn place_check_and_sweep_agree_on_what_is_broken(
        far in prop::sample::select(vec![0.0, 700.0, 60_000.0, 1_000_000.0, 9_990_000.0]),
        off in prop::sample::select(vec![0.0, 1e-9, 3e-8, 4e-7, 2e-6, 3e-5, 4e-4, 0.003, 0.02, 0.4, 7.0]),
        form in 0..4,
        links in 0..6_usize,
    ) {
        // A chain that ends where it is to end, but for how far it is off.
        let mut body = format!("view b0 {{ left = {far}; top = 0; width = 7.25; height = 4 }}\n");
        for i in 1..=links {
            body += &format!("view b{i} {{ left = b{}.right + 0.1; top = 0; width = 7.25; height = 4 }}\n", i - 1);
        }
        let end = far + 7.25 + 7.35 * links as f64 + off;
        let last = format!("b{links}");
        body += &match form {
            0 => format!("view post {{ left = {last}.right; right = {end}; width = 0; top = 0; height = 4 }}"),
            1 => format!("view post {{ left = {last}.right; left >= {end}; width = 3; top = 0; height = 4 }}"),
            2 => format!("view post {{ left = max({last}.right, {far}); left = {end}; width = 3; top = 0; height = 4 }}"),
            _ => format!("view post {{ right = {last}.left; left = {last}.left - 5; width = {}; top = 0; height = 4 }}", 5.0 + off),
        };
        let text = format!("screen shelf {{\n{body}\n}}");
        let plan = Plan::new(vantic::read(&text).unwrap().screen).unwrap();
        let display = Display::new(390.0, 844.0).unwrap();
        let placed = plan.place(&display, &PlainText).unwrap();
        let report = vantic::check(&plan, std::slice::from_ref(&display), &PlainText).unwrap();
        let conflicts: Vec<String> =
            report.open().filter(|f| f.code == Code::Conflict).map(|f| f.message(plan.screen())).collect();
        prop_assert_eq!(!placed.broken.is_empty(), !conflicts.is_empty(), "{:?} {:?}\n{}", placed.broken, conflicts, text);
        prop_assert!(conflicts.iter().all(|said| !said.ends_with(" 0")), "{:?}", conflicts);
        prop_assert!(!report.open().any(|f| f.code == Code::Unsettled));
        let range = Range { along: DisplayQuantity::Height, from: 400.0, to: 404.0, gap: 0.0 };
        let swept = sweep(&plan, &display, range, &PlainText).unwrap();
        // Along a range, what is off by less than a hundred-thousandth holds.
        if off == 0.0 || off > 0.003 {
            prop_assert_eq!(swept.problems.iter().any(|t| t.code == Code::Conflict), !conflicts.is_empty(), "{}", text);
        }
        // What one can see is a contradiction at any size; what rounding leaves is none.
        prop_assert!((off < 0.01 || !conflicts.is_empty()) && (off > 1e-8 || conflicts.is_empty()), "{off}\n{}", text);
    }
}

#[test]
fn distances_without_a_meaning_are_refused() {
    let plan = Plan::new(
        vantic::read("screen shelf { view a { pin left, top to screen; size = 8 } }").unwrap().screen,
    );
    let (plan, display) = (plan.unwrap(), Display::new(390.0, 844.0).unwrap());
    for gap in [f64::NAN, f64::INFINITY, -1.0] {
        let range = Range { along: DisplayQuantity::Width, from: 320.0, to: 400.0, gap };
        assert!(matches!(sweep(&plan, &display, range, &PlainText), Err(SweepError::Gap { .. })));
    }
}
