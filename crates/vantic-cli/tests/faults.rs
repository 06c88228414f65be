//! Faults planted in the clean screens of the demo: how many are found, how many name the very rule, and how many of the
//! first ways out give the original frames again. `docs/diagnosis.md` shows the table.

#[path = "faults/plant.rs"]
mod plant;

use plant::{Fault, Picks, Planted, plant};
use std::collections::BTreeMap;
use std::path::Path;
use vantic::{
    Assembled, Checking, Display, Finding, Frame, Mending, Placement, Plan, Report, RuleRef, Severity,
    Source, check_as, edited,
};
use vantic_draw::FontText;

const SCREENS: [&str; 7] =
    ["departures", "boarding_pass", "muster_list", "quay_kiosk", "quay_wall", "sailings", "booking"];

/// The faults of each kind in each screen, by the number that their place is picked with.
const SEEDS: [u64; 3] = [11, 23, 42];

fn displays(fault: Fault) -> Vec<Display> {
    let sizes = match fault {
        Fault::Narrow => vec![(150.0, 640.0), (180.0, 740.0), (400.0, 170.0)],
        _ => vec![(360.0, 640.0), (640.0, 360.0), (430.0, 932.0), (820.0, 1180.0), (1440.0, 900.0)],
    };
    sizes.into_iter().map(|(w, h)| Display::new(w, h).unwrap()).collect()
}

struct Checked {
    files: Assembled,
    source: Source,
    plan: Plan,
    report: Report,
}

/// A screen file that is read and checked; `None` where it cannot be used.
fn checked(text: &str, displays: &[Display], texts: &FontText) -> Option<Checked> {
    let files = Assembled::alone("screen.vantic", text);
    let source = files.read().ok()?;
    let plan = Plan::new(source.screen.clone()).ok()?;
    let report = check_as(&plan, displays, texts, Checking::default()).unwrap();
    Some(Checked { files, source, plan, report })
}

fn frames(checked: &Checked) -> Vec<BTreeMap<String, Frame>> {
    let screen = checked.plan.screen();
    let one = |p: &Placement| {
        screen.views().filter_map(|(view, _)| Some((screen.path(view), p.frame(view)?))).collect()
    };
    checked.report.placements.iter().map(one).collect()
}

fn same(a: &[BTreeMap<String, Frame>], b: &[BTreeMap<String, Frame>]) -> bool {
    let alike = |x: &Frame, y: &Frame| {
        [x.left - y.left, x.top - y.top, x.width - y.width, x.height - y.height]
            .iter()
            .all(|by| by.abs() < 0.5)
    };
    std::iter::zip(a, b).all(|(a, b)| {
        a.len() == b.len()
            && a.iter().all(|(path, frame)| b.get(path).is_some_and(|other| alike(frame, other)))
    })
}

type Key = (vantic::Code, Vec<String>, Vec<String>);

fn key(finding: &Finding) -> Key {
    (finding.code, finding.views.clone(), finding.coordinates.clone())
}

/// What became of one fault.
struct Outcome {
    /// Whether a frame changes, or a coordinate is free that was not.
    counts: bool,
    found: bool,
    /// Found as a note only.
    noted: bool,
    named: bool,
    restored: bool,
    said: String,
}

fn outcome(clean: &str, fault: Fault, planted: &Planted, texts: &FontText) -> Option<Outcome> {
    let displays = displays(fault);
    let before = checked(clean, &displays, texts)?;
    let mut after = checked(&planted.text, &displays, texts)?;
    let known: Vec<Key> = match fault {
        Fault::Narrow => Vec::new(),
        _ => before.report.findings.iter().map(key).collect(),
    };
    let files = after.files.clone();
    let mending = Mending {
        files: &files,
        map: &after.source.map,
        plan: &after.plan,
        measure: texts,
        how: Checking::default(),
        beside: &Some,
    };
    mending.ways_out(&mut after.report);
    let new: Vec<&Finding> =
        after.report.open().filter(|f| !known.contains(&key(f)) || fault == Fault::Narrow).collect();
    let free = new.iter().any(|f| f.code == vantic::Code::Ambiguous);
    let (was, is) = (frames(&before), frames(&after));
    let counts = match fault {
        // What is off the display by its frame alone.
        Fault::Narrow => after.report.placements.iter().any(|p| {
            let painted = |view| {
                p.is_painted(view) && after.plan.screen().view(view).is_some_and(|v| v.text().is_some())
            };
            let views = after.plan.screen().views().filter(|(view, _)| painted(*view));
            views
                .filter_map(|(view, _)| p.frame(view))
                .any(|f| f.right() > p.display.width() + 1.0 || f.left < -1.0)
        }),
        Fault::Contradicted => true,
        _ => free || !same(&was, &is),
    };
    let worse: Vec<&&Finding> = new.iter().filter(|f| f.severity != Severity::Note).collect();
    let screen = after.plan.screen();
    let at_fault: Vec<String> = screen
        .rules()
        .filter(|(id, _)| {
            after.source.map.rule(*id).is_some_and(|s| s.start < planted.at.end && planted.at.start < s.end)
        })
        .map(|(id, _)| RuleRef::Written { rule: id, relation: 0 }.name(screen))
        .collect();
    let line_of = |at: usize| planted.text[..at].matches('\n').count() + 1;
    let lines = line_of(planted.at.start)..=line_of(planted.at.end);
    let named = worse.iter().any(|f| {
        let by_rule = f.rules.iter().any(|rule| at_fault.contains(rule));
        let by_way = f.fixes.iter().flat_map(|fix| &fix.edits).any(|edit| match fault {
            // A rule that is gone is named by being written again in its view's block.
            Fault::Dropped => edit.line.abs_diff(*lines.start()) <= 12,
            _ => lines.contains(&edit.line),
        });
        by_rule || by_way
    });
    let first = worse.iter().find_map(|f| f.fixes.first());
    let restored = first.is_some_and(|fix| {
        let text = edited(&planted.text, &fix.edits).unwrap();
        checked(&text, &displays, texts).is_some_and(|mended| same(&was, &frames(&mended)))
    });
    let way = first.map_or_else(|| "no way out".to_owned(), |fix| fix.text.clone());
    let told = worse.first().map_or_else(|| "nothing".to_owned(), |f| f.message.clone());
    let said = format!("{}: {told}; {way}", planted.said);
    Some(Outcome { counts, found: !worse.is_empty(), noted: !new.is_empty(), named, restored, said })
}

#[test]
fn planted_faults_are_found_named_and_mended() {
    let demo = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo");
    let texts = FontText::new();
    let only = std::env::var("FAULT").ok();
    for (fault, name) in Fault::ALL {
        if only.as_ref().is_some_and(|o| !format!("{fault:?}").eq_ignore_ascii_case(o)) {
            continue;
        }
        let (mut all, mut found, mut noted, mut named, mut restored) = (0, 0, 0, 0, 0);
        for screen in SCREENS {
            let clean = std::fs::read_to_string(demo.join(format!("{screen}.vantic"))).unwrap();
            for seed in SEEDS {
                let mut picks = Picks(seed);
                let planted = match fault {
                    Fault::Narrow => Some(Planted { text: clean.clone(), at: 0..0, said: "narrow".into() }),
                    _ => plant(&clean, fault, &mut picks),
                };
                let Some(planted) = planted else { continue };
                let Some(outcome) = outcome(&clean, fault, &planted, &texts) else {
                    eprintln!("REFUSED {screen} {seed} {}", planted.said);
                    continue;
                };
                if !outcome.counts {
                    continue;
                }
                all += 1;
                found += usize::from(outcome.found);
                noted += usize::from(outcome.noted);
                named += usize::from(outcome.named);
                restored += usize::from(outcome.restored);
                eprintln!(
                    "{}{}{} {screen} {seed} {}",
                    if outcome.found {
                        "F"
                    } else if outcome.noted {
                        "n"
                    } else {
                        "-"
                    },
                    if outcome.named { "N" } else { "-" },
                    if outcome.restored { "R" } else { "-" },
                    outcome.said
                );
                if fault == Fault::Narrow {
                    break;
                }
            }
        }
        eprintln!("== {name}: {all} found {found} noted {noted} named {named} restored {restored}");
    }
}
