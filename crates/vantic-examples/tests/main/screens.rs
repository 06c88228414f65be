//! What an application tests of its screens: the frames that they expect, that a check finds nothing, and what its own code does
//! with them.

use vantic::check::check;
use vantic::display::{Displays, Matrix};
use vantic::model::Screen;
use vantic::plan::Plan;
use vantic::testing::assert_screen_expectations;
use vantic::text::PlainText;
use vantic_examples::{player, stop, toast};

fn screens() -> [Screen; 3] {
    [
        player::Screen::new().expect("it is built").screen,
        stop::Screen::new().expect("it is built").screen,
        toast::Screen::new().expect("it is built").screen,
    ]
}

#[test]
fn screens_come_out_as_they_expect() {
    for screen in screens() {
        assert_screen_expectations(screen, &PlainText).unwrap();
    }
}

#[test]
fn a_check_finds_nothing() {
    for screen in screens() {
        let plan = Plan::new(screen).unwrap();
        let displays = Matrix::of(Displays::default().all()).all_of(plan.screen()).text_scales([1.0, 1.3]);
        let displays = displays.displays(plan.screen()).unwrap();
        let report = check(&plan, &displays, &PlainText).unwrap();
        let found: Vec<_> =
            report.named(plan.screen()).into_iter().filter(|f| f.accepted.is_none()).collect();
        assert!(found.is_empty(), "{}: {found:#?}", plan.screen().name());
    }
}
