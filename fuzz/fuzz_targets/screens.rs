//! Screens of every statement, nested and in combination, through all that is done with one.

#![no_main]

use libfuzzer_sys::fuzz_target;
use shared::displays;
use std::sync::LazyLock;
use vantic::check::check_as;
use vantic::display::{Display, DisplayQuantity};
use vantic::files::Assembled;
use vantic::fix::Fixes;
use vantic::json::Form;
use vantic::prelude::*;
use vantic::sweep::{Range, SweepOptions, sweep_with};
use vantic_draw::{FontText, Options, draw_display, draw_sheet, draw_tracks, review_page};
use vantic_testkit::screens::{Picks, screen_file};

mod shared;

static FONTS: LazyLock<FontText> = LazyLock::new(FontText::new);

fuzz_target!(|bytes: &[u8]| {
    let mut picks = Picks::new(bytes);
    let (text, _) = screen_file(&mut picks);
    let formatted = vantic::syntax::format(&text).expect("it is well formed");
    let json = Form::of(&text).expect("it is well formed").to_json();
    assert_eq!(Form::from_json(&json).expect("what is written can be read").to_json(), json);
    let files = Assembled::alone("random.vantic", text);
    let read = files.read();
    assert_eq!(read.is_ok(), vantic::read(&formatted).is_ok(), "the layout changes whether it can be read");
    let Ok(source) = read else { return };
    let Ok(plan) = Plan::new(source.screen) else { return };
    let screen = plan.screen();
    // Little work for each, so that many are met.
    let little = CheckOptions { effort: 0.005, ..CheckOptions::default() };
    let Ok(mut report) = check_as(&plan, &displays(), &PlainText, little) else { return };
    for placement in &report.placements {
        for frame in screen.views().filter_map(|(view, _)| placement.frame(view)) {
            let numbers = [frame.left, frame.top, frame.width, frame.height];
            assert!(numbers.iter().all(|n| n.is_finite()), "a frame is not finite: {numbers:?}");
        }
    }
    let (map, how) = (&source.map, little);
    let fixes = Fixes { files: &files, map, plan: &plan, measure: &PlainText, how, beside: &Some };
    fixes.find_all(&mut report);
    for finding in &report.findings {
        assert!(!finding.message(screen).is_empty());
        for fix in &finding.fixes {
            let fixed = vantic::fix::edited(files.text(), &fix.edits).expect("an offered fix applies");
            assert!(vantic::read(&fixed).is_ok(), "an offered fix can no longer be read");
        }
    }
    if picks.rarely(4) {
        let rules = picks.rarely(2);
        let picture = draw_display(screen, &report, picks.of(3), &FONTS, Options { rules, guides: !rules });
        assert!(picture.is_some_and(|picture| picture.svg().ends_with("</svg>\n")));
        let _ = (draw_sheet(screen, &report, &FONTS), review_page(screen, &report, &FONTS));
    }
    let along = if picks.of(2) == 0 { DisplayQuantity::Width } else { DisplayQuantity::Height };
    let range = Range { along, from: 300.0, to: 330.0, gap: 0.0 };
    let display = Display::new(310.0, 320.0).expect("it is a display");
    if let Ok(swept) = sweep_with(
        &plan,
        &display,
        range,
        &PlainText,
        SweepOptions { effort: 0.005, ..SweepOptions::default() },
    ) {
        let _ = draw_tracks(screen, &swept);
    }
});
