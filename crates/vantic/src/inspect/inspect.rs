//! What the frames of one placement alone show to be wrong.

use crate::displays::matrix::scrolled_name;
use crate::finding::{Finding, Severity};
use crate::inspect::broken_rules::broken;
use crate::inspect::frames::{cut, outside};
use crate::inspect::overlaps::overlaps;
use crate::inspect::shape::stretched;
use crate::inspect::targets_and_insets::{covered, small, under_keyboard};
use crate::screen_ext::ScreenExt as _;
use std::collections::HashSet;
use vantic_core::model::{Acceptance, Code, Screen, ViewId};
use vantic_core::plan::{Live, PlaceError, Placement};
use vantic_core::text::Measure;
use vantic_core::tolerance::PLACED;
use vantic_core::work;

/// What a finding takes, in units of work; a view that is looked at for one code is a unit.
const FOUND: usize = 12;

/// What is wrong with where things landed, as the frames alone tell it; what lies nearer than a gap counts as
/// overlapping, and what the author accepts is left out. `fixed` are the views that stay where they are while
/// what is around them is scrolled.
pub(crate) fn found_on(
    screen: &Screen,
    placement: &Placement,
    fixed: &HashSet<ViewId>,
    gap: f64,
) -> Vec<Finding> {
    let codes = [
        Code::Conflict,
        Code::Cut,
        Code::Stretched,
        Code::Outside,
        Code::Overlap,
        Code::Covered,
        Code::Small,
    ];
    codes.into_iter().flat_map(|code| found_of(screen, placement, fixed, gap, code)).collect()
}

/// The same of one code.
pub(crate) fn found_of(
    screen: &Screen,
    placement: &Placement,
    fixed: &HashSet<ViewId>,
    gap: f64,
    code: Code,
) -> Vec<Finding> {
    let mut findings = Vec::new();
    match code {
        Code::Stretched => stretched(screen, placement, &mut findings),
        Code::Cut => cut(screen, placement, &mut findings),
        Code::Outside => outside(screen, placement, fixed, &mut findings),
        Code::Overlap => overlaps(screen, placement, fixed, gap, &mut findings),
        Code::Covered => {
            covered(screen, placement, fixed, &mut findings);
            under_keyboard(screen, placement, fixed, &mut findings);
        }
        Code::Small => small(screen, placement, &mut findings),
        Code::Conflict => broken(screen, placement, &mut findings),
        _ => {}
    }
    work::spend(placement.frames.len() + FOUND * findings.len());
    without_accepted(screen, code, &mut findings);
    findings
}

/// Leaves out what the author accepts of one code, and notes.
pub(crate) fn without_accepted(screen: &Screen, code: Code, findings: &mut Vec<Finding>) {
    let acceptances: Vec<&Acceptance> =
        screen.acceptances().iter().filter(|a| a.code() == code.name()).collect();
    let accepted = |f: &Finding| acceptances.iter().any(|a| is_accepted(screen, a, f));
    findings.retain(|f| !accepted(f) && f.severity != Severity::Note);
}

/// Whether an acceptance names what a finding is about: its views, or its rules; for two that overlap, also
/// the views that they stand in.
pub(crate) fn is_accepted(screen: &Screen, acceptance: &Acceptance, finding: &Finding) -> bool {
    let names = acceptance.names();
    let same = |found: &[String]| found.len() == names.len() && found.iter().all(|f| names.contains(f));
    if same(&finding.paths(screen)) || same(&finding.rule_names(screen)) {
        return true;
    }
    let named: Vec<ViewId> = names.iter().filter_map(|name| screen.find(name)).collect();
    match (finding.code, finding.views.as_slice(), named.as_slice()) {
        (Code::Overlap, &[a, b], &[one, other]) => {
            let within = |a, b| screen.is_within(a, one) && screen.is_within(b, other);
            within(a, b) || within(b, a)
        }
        _ => false,
    }
}

/// What scrolling moves, and what it does not.
#[derive(Default)]
pub(crate) struct Scrolling {
    /// The views that stay where they are while the view around them is scrolled; those that it scrolls are
    /// not among them.
    pub(crate) fixed: HashSet<ViewId>,
    /// The placement with all that scrolls at its other end, where that had to be looked at.
    pub(crate) other_end: Option<Placement>,
}

/// Which views stay where they are while the view around them is scrolled.
pub(crate) fn scrolling(
    screen: &Screen,
    live: &mut Live,
    placement: &Placement,
    measure: &(dyn Measure + Sync),
) -> Result<Scrolling, PlaceError> {
    let scrolled = || placement.scrolled.iter().filter(|(_, s)| s.most.0.max(s.most.1) > 0.0);
    let mut fixed = HashSet::new();
    if scrolled().all(|(&view, _)| live.takes_all_along(&placement.display, view)) {
        return Ok(Scrolling::default());
    }
    // Compared with the other end, or with the beginning.
    let elsewhere = scrolled().try_fold(placement.display.clone(), |display, (&view, at)| {
        let to = |offset: f64, most: f64| if offset < most { most } else { 0.0 };
        let (across, down) = (to(at.offset.0, at.most.0), to(at.offset.1, at.most.1));
        let path = screen.path(view);
        let name = scrolled_name(display.name(), &path, across.max(down));
        display.with_scroll(path, across, down).map(|display| display.named(name))
    });
    let Ok(elsewhere) = elsewhere else { return Ok(Scrolling::default()) };
    let other = live.place(&elsewhere, measure)?;
    // Where that could not be worked out, nothing is to be read off it.
    if other.hit_work_limit {
        return Ok(Scrolling::default());
    }
    for (view, _) in scrolled() {
        let children = screen.at(*view).children().iter();
        let stays = |child: &&ViewId| match (placement.frame(**child), other.frame(**child)) {
            (Some(a), Some(b)) => (a.left - b.left).abs().max((a.top - b.top).abs()) <= PLACED,
            _ => false,
        };
        fixed.extend(children.filter(stays));
    }
    Ok(Scrolling { fixed, other_end: Some(other) })
}
