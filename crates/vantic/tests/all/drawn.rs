//! Drawings that a check compares: in the file, or added to the screen; and what they say of rules that are missing.

use crate::drawings::{draw_on, plan, screens};
use vantic::check::{CheckOptions, Report, check_as};
use vantic::display::{Display, Displays, Insets};
use vantic::drawing::{Drawing, PLACEMENTS, placements_json};
use vantic::files::Assembled;
use vantic::finding::{Finding, NamedFinding};
use vantic::fix::{Fixes, edited, without};
use vantic::geometry::{Direction, Frame};
use vantic::infer::{Wish, infer_as};
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

/// What somebody says of a view holds on other sizes, and the drawing is given all the same.
#[test]
fn what_is_said_of_a_view_is_held_to_on_other_sizes() {
    let (mut met, mut refused) = (0, 0);
    for (name, text) in screens("cases/drawn") {
        let before = plan(&text);
        let drawing = draw_on(&before, &["handset-large"]).remove(0);
        let small = drawing.display.clone();
        let large = small.with_size(small.width() + 260.0, small.height() + 180.0).unwrap();
        for view in drawing.views().iter().step_by(2) {
            for (_, wish) in Wish::ALL {
                let wishes = [(view.path.clone(), wish)];
                let inferred = match infer_as(std::slice::from_ref(&drawing), &PlainText, "s", &wishes) {
                    Ok(inferred) => inferred,
                    Err(error) => {
                        assert!(error.to_string().contains(&format!("`{}` cannot be", view.path)), "{error}");
                        refused += 1;
                        continue;
                    }
                };
                assert!(
                    inferred.missed.is_empty(),
                    "{name}, {wishes:?}: {:?}\n{}",
                    inferred.missed,
                    inferred.text
                );
                let after = plan(&inferred.text);
                let on = |display: &Display| {
                    let placement = after.place(display, &PlainText).unwrap();
                    let own = after.screen().find(&view.path).unwrap();
                    let around = after.screen().view(own).unwrap().parent();
                    let around =
                        around.map_or(placement.safe_frame(), |around| placement.frame(around).unwrap());
                    (placement.frame(own).unwrap(), around)
                };
                let kept = |(own, around): (Frame, Frame)| match wish {
                    Wish::KeepsWidth => own.width,
                    Wish::KeepsHeight => own.height,
                    Wish::FollowsStart => own.left - around.left,
                    Wish::FollowsEnd => around.right() - own.right(),
                    Wish::FollowsTop => own.top - around.top,
                    Wish::FollowsBottom => around.bottom() - own.bottom(),
                    Wish::Grows => around.width - own.width,
                    Wish::GrowsDown => around.height - own.height,
                    Wish::Centered => own.left + own.width / 2.0 - around.left - around.width / 2.0,
                };
                let (was, is) = (kept(on(&small)), kept(on(&large)));
                assert!((was - is).abs() <= 0.02, "{name}, {wishes:?}: {was}, {is}\n{}", inferred.text);
                met += 1;
            }
        }
    }
    println!("{met} wishes met, {refused} refused");
    assert!(met >= 250, "{met}, {refused}");
}

fn is_near(a: &Frame, b: &Frame) -> bool {
    let sides = [a.left - b.left, a.top - b.top, a.width - b.width, a.height - b.height];
    sides.iter().all(|by| by.abs() <= 1e-6)
}

#[test]
fn a_picture_holds_its_drawings() {
    for (name, text) in screens("cases/drawn").into_iter().take(4) {
        let before = plan(&text);
        let displays =
            ["handset-large", "tablet"].map(|of| Displays::default().find(of, before.screen()).unwrap());
        let placed = displays.map(|display| before.place(&display, &PlainText).unwrap());
        let json = placements_json(before.screen(), &placed);
        let drawn: Vec<Drawing> =
            placed.iter().map(|placement| Drawing::of(placement, before.screen()).unwrap()).collect();
        // Numbers in JSON have nine places behind the point.
        let is_alike = |read: &[Drawing]| {
            std::iter::zip(read, &drawn).all(|(read, drawn)| {
                let views = std::iter::zip(read.views(), drawn.views());
                let mut views =
                    views.map(|(a, b)| a.path == b.path && a.kind == b.kind && is_near(&a.frame, &b.frame));
                read.display == drawn.display
                    && read.views().len() == drawn.views().len()
                    && views.all(|same| same)
            })
        };
        assert!(is_alike(&Drawing::from_json(&json).unwrap()), "{name}: {json}");
        let words = json.replace('&', "&amp;").replace('<', "&lt;");
        let svg = format!(
            "<svg viewBox=\"0 0 9 9\"><rect id=\"x\"/><metadata id=\"{PLACEMENTS}\">{words}</metadata></svg>"
        );
        assert!(is_alike(&Drawing::from_svg(&svg, &PlainText).unwrap()), "{name}: {svg}");
    }
}
