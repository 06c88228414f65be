//! Which rules put things where they are found.

use crate::check::report::Report;
use crate::finding::{Finding, Severity};
use crate::screen_ext::ScreenExt as _;
use vantic_core::display::Display;
use vantic_core::model::{Code, Coordinate, RuleRef, ViewId};
use vantic_core::plan::{HeldBy, Live, Placement, Plan, WhyPart};
use vantic_core::text::Measure;
use vantic_core::work;

/// How many findings are reported the rules behind them, as far as the work goes; fewer on screens of more than 400 views,
/// and none on those of more than 20,000, which it would place once more.
const MAX_ATTRIBUTED: usize = 24;

const MAX_ATTRIBUTED_VIEWS: usize = 10_000;

const MAX_VIEWS: usize = 20_000;

/// How many coordinates of one finding are looked at: many copies in one place are there for one reason.
const MAX_COORDINATES: usize = 32;

/// How many rules are reported of one finding.
const MAX_RULES_TOLD: usize = 3;

/// A rule that may be at fault, and how likely that is.
pub(crate) type Suspect = (RuleRef, f64);

/// The rules that decide where a finding's views are on the display where it is worst, the nearest first.
pub(crate) fn deciding(
    live: &mut Live,
    (display, placement): (&Display, &Placement),
    measure: &(dyn Measure + Sync),
    finding: &Finding,
) -> Vec<Suspect> {
    let plan = live.plan().clone();
    let screen = plan.screen();
    let (mut about, views) = (finding.coordinates.clone(), &finding.views);
    if about.is_empty() {
        let sides = match finding.code {
            Code::Cut => vec![Coordinate::Width, Coordinate::Height],
            _ => facing(placement, views),
        };
        about.extend(views.iter().flat_map(|&view| sides.iter().map(move |&side| (view, side))));
    }
    about.truncate(MAX_COORDINATES);
    // What is beyond its parent may be right, and the parent too small.
    let mut around = Vec::new();
    if finding.code == Code::Outside && finding.severity == Severity::Warning {
        around.extend(views.iter().filter_map(|&view| screen.at(view).parent()));
        let sides: Vec<Coordinate> = about.iter().map(|(_, side)| *side).collect();
        about.extend(around.iter().flat_map(|&parent| sides.iter().map(move |&side| (parent, side))));
    }
    let mut suspects: Vec<Suspect> = Vec::new();
    for why in live.whys(display, measure, &about).unwrap_or_default() {
        let rules = why.steps.iter().filter_map(|step| match step.by {
            HeldBy::Rule(rule) => Some(rule),
            HeldBy::Zero | HeldBy::Settled => None,
        });
        for (index, rule) in rules.enumerate() {
            let owned = |by: &[ViewId]| rule.owner(screen).is_some_and(|owner| by.contains(&owner));
            let near = match (owned(views), owned(&around)) {
                (true, _) => 1.0,
                (false, true) => 0.9,
                (false, false) => 0.9 - 0.04 * index.min(15) as f64,
            };
            // A number that counts several times is soon too large.
            let counts = why.changes.iter().filter(|c| c.of == WhyPart::Rule(rule));
            let counts = counts.map(|c| c.moves.abs()).fold(1.0, f64::max);
            let likely = near + 0.15 * (counts.min(4.0) - 1.0);
            match suspects.iter_mut().find(|(known, _)| *known == rule) {
                Some((_, known)) => *known = known.max(likely),
                None => suspects.push((rule, likely)),
            }
        }
    }
    suspects
}

/// The sides along which two views cover one another the least, then the others.
fn facing(placement: &Placement, views: &[ViewId]) -> Vec<Coordinate> {
    let frames: Vec<_> = views.iter().filter_map(|&view| placement.frame(view)).collect();
    let across = [Coordinate::Left, Coordinate::Right];
    let down = [Coordinate::Top, Coordinate::Bottom];
    match frames.as_slice() {
        [a, b] => match a.shared(b) {
            Some(shared) if shared.height > shared.width => [across, down].concat(),
            _ => [down, across].concat(),
        },
        _ => [across, down].concat(),
    }
}

/// Tells of findings about frames which rules put the views there.
pub(crate) fn tell(plan: &Plan, report: &mut Report, measure: &(dyn Measure + Sync)) {
    let (screen, mut live) = (plan.screen(), plan.live());
    let about_frames = |f: &&mut Finding| f.code.is_of_frames() && f.rules.is_empty();
    let views = screen.views().count().max(1);
    if views > MAX_VIEWS {
        return;
    }
    let most = MAX_ATTRIBUTED.min(MAX_ATTRIBUTED_VIEWS / views).max(1);
    let mut findings = std::mem::take(&mut report.findings);
    for finding in findings.iter_mut().filter(about_frames).take(most) {
        if work::is_short() {
            break;
        }
        let Some(at) = finding.worst.and_then(|worst| report.placed(worst)) else { continue };
        let mut deciding = deciding(&mut live, (&at.display, at), measure, finding);
        // Of two that cover one another, along the axis on which they do so the least.
        let across = facing(at, &finding.views)[0].is_horizontal();
        let along = |rule: &RuleRef| match *rule {
            RuleRef::Written { .. } => {
                let first = rule.relation(screen).and_then(|r| r.terms().first().copied());
                finding.code != Code::Overlap || first.is_none_or(|t| t.coordinate.is_horizontal() == across)
            }
            RuleRef::Arranged { .. } => true,
            RuleRef::Whole(_) | RuleRef::Snug(_) => false,
        };
        deciding.retain(|(rule, _)| along(rule));
        deciding.sort_by(|a, b| b.1.total_cmp(&a.1));
        // The relations of one rule count as one.
        let mut told: Vec<String> = Vec::new();
        deciding.retain(|(rule, _)| {
            let name = rule.name(screen);
            let is_known = told.contains(&name);
            if !is_known && told.len() < MAX_RULES_TOLD {
                told.push(name);
                return true;
            }
            is_known
        });
        finding.rules = deciding.into_iter().map(|(rule, _)| rule).collect();
    }
    report.findings = findings;
}
