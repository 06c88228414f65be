//! Drawings that a check compares: in the file, or added to the screen; and what they say of rules that are missing.

use crate::drawings::{draw_on, plan, screens};
use vantic::check::{CheckOptions, Report, check_as};
use vantic::display::{Display, Displays, Insets};
use vantic::drawing::Drawing;
use vantic::files::Assembled;
use vantic::finding::{Finding, NamedFinding};
use vantic::fix::{Fixes, edited, without};
use vantic::geometry::Direction;
use vantic::model::{Code, RuleId, Screen};
use vantic::plan::Plan;
use vantic::text::PlainText;

fn drifting(report: &Report) -> Vec<&Finding> {
    report.findings.iter().filter(|f| f.code == Code::Drift).collect()
}

fn checked(plan: &Plan) -> Report {
    let displays = [Display::new(390.0, 844.0).unwrap()];
    check_as(plan, &displays, &PlainText, CheckOptions::default()).unwrap()
}

/// The block of a screen file with a drawing.
fn block(drawing: &Drawing, on: &str) -> String {
    let lines = drawing.views().iter().map(|view| {
        let f = view.frame;
        format!("        {} = ({}, {}, {}, {})\n", view.path, f.left, f.top, f.width, f.height)
    });
    format!("    drawing \"{on}\" {{\n{}    }}\n", lines.collect::<String>())
}

fn with_block(text: &str, blocks: &str) -> String {
    let end = text.trim_end().rfind('}').unwrap();
    format!("{}{blocks}}}\n", &text[..end])
}

#[test]
fn a_screen_does_not_drift_from_its_own_drawing_and_what_is_moved_in_it_is_found() {
    let displays = [
        Display::new(390.0, 844.0).unwrap(),
        Display::new(512.0, 700.0)
            .and_then(|d| d.with_insets(Insets { left: 8.0, top: 40.0, right: 0.0, bottom: 21.5 }))
            .unwrap()
            .with_direction(Direction::RightToLeft)
            .named("mine"),
        Displays::default().all()[5].clone().with_text_scale(1.3).unwrap(),
    ];
    for (name, text) in screens("cases/drawn") {
        for display in &displays {
            let before = plan(&text);
            let drawing = Drawing::of(&before.place(display, &PlainText).unwrap(), before.screen()).unwrap();
            let held = |drawing: &Drawing| {
                let screen = drawing.added_to(before.screen().clone(), &Displays::default()).unwrap();
                Plan::new(screen).unwrap()
            };
            let held_plan = held(&drawing);
            let report = checked(&held_plan);
            assert!(drifting(&report).is_empty(), "{name}: {:?}", report.named(held_plan.screen()));
            let mut views = drawing.views().to_vec();
            let at = views.len() / 2;
            views[at].frame.left += 7.0;
            views[at].frame.top -= 7.0;
            let moved = Drawing::new(drawing.display.clone(), views.clone()).unwrap();
            let held_plan = held(&moved);
            let report = checked(&held_plan);
            let found = drifting(&report);
            let named: Vec<NamedFinding> = report.named(held_plan.screen());
            let named = named.iter().filter(|f| f.code == Code::Drift);
            let of_it = named.filter(|f| f.views == [views[at].path.clone()]).collect::<Vec<_>>();
            assert_eq!((of_it.len(), of_it[0].amount), (1, 7.0), "{name}: {found:?}");
            assert!(of_it[0].message.contains("7 further right, 7 higher up"), "{}", of_it[0].message);
        }
    }
}

#[test]
fn a_block_is_the_drawing_that_it_was_written_from() {
    for (name, text) in screens("cases/drawn") {
        let before = plan(&text);
        for drawing in draw_on(&before, &["handset-large", "tablet-turned"]) {
            let file = with_block(&text, &block(&drawing, drawing.display.name()));
            let after = plan(&file);
            let [drawn] = after.screen().drawings() else { panic!("{name}") };
            for ((view, frame), wanted) in drawn.frames.iter().zip(drawing.views()) {
                assert_eq!(after.screen().path(*view), wanted.path);
                assert_eq!(*frame, wanted.frame, "{name}");
            }
            // What a screen prints of itself says the same.
            let again = plan(&after.screen().to_string());
            assert_eq!(again.screen().drawings(), after.screen().drawings(), "{name}");
        }
    }
}

#[test]
fn missing_rules_are_completed_from_the_drawing() {
    let displays: Vec<Display> = ["handset-large", "tablet"]
        .map(|of| Displays::default().find(of, plan(SMALL).screen()).unwrap())
        .to_vec();
    let (mut met, mut all) = (0, 0);
    let mut missed = Vec::new();
    for (name, text) in screens("cases/drawn") {
        let before = plan(&text);
        let blocks: String = draw_on(&before, &["handset-large", "tablet"])
            .iter()
            .map(|drawing| block(drawing, drawing.display.name()))
            .collect();
        let file = with_block(&text, &blocks);
        let files = Assembled::alone("s.vantic", file.clone());
        let source = files.read().unwrap();
        // One rule of every fifth is missing.
        let rules: Vec<RuleId> =
            source.screen.rules().filter(|(_, r)| r.band().is_none()).map(|(id, _)| id).collect();
        for &rule in rules.iter().skip(2).step_by(7) {
            let [(_, less)] = without(&files, &source.map, &[rule]).try_into().unwrap();
            let less_files = Assembled::alone("s.vantic", less.clone());
            let less_source = less_files.read().unwrap();
            let plan = Plan::new(less_source.screen.clone()).unwrap();
            let how = CheckOptions::default();
            let mut report = check_as(&plan, &displays, &PlainText, how).unwrap();
            if !report.findings.iter().any(|f| f.code == Code::Ambiguous) {
                continue;
            }
            let beside = |screen: Screen| Some(screen);
            Fixes {
                files: &less_files,
                map: &less_source.map,
                plan: &plan,
                measure: &PlainText,
                how,
                beside: &beside,
            }
            .find_all(&mut report);
            let ambiguous = report.findings.iter().find(|f| f.code == Code::Ambiguous).unwrap();
            all += 1;
            let fixed = ambiguous.fixes.first().map(|fix| edited(&less, &fix.edits).unwrap());
            let is_met = fixed.is_some_and(|fixed| {
                let plan = Plan::new(vantic::read(&fixed).unwrap().screen).unwrap();
                let report = check_as(&plan, &displays, &PlainText, CheckOptions::default()).unwrap();
                drifting(&report).is_empty() && !report.findings.iter().any(|f| f.code == Code::Ambiguous)
            });
            met += usize::from(is_met);
            if !is_met {
                missed.push(format!("{name}: {}", source.screen.rule_text(rule)));
            }
        }
    }
    println!("{met} of {all} rules that were missing are completed as drawn; not {missed:#?}");
    assert!(all >= 20 && met * 10 >= all * 9, "{met} of {all}: {missed:#?}");
}

/// A screen that displays are looked up for.
const SMALL: &str = "screen small { view a { pin left, top to safe; size = 8 } }";
