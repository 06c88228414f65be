//! What the frames of one placement alone show to be wrong.

use crate::finding::{Finding, Severity};
use crate::inspect::broken_rules::broken;
use crate::inspect::frames::{Overlaps, cut, never_clear, outside, overlaps};
use crate::inspect::targets_and_insets::{covered, small};
use crate::screen_ext::ScreenExt as _;
use std::collections::HashSet;
use vantic_core::model::{Acceptance, Code, Screen, ViewId};
use vantic_core::plan::{Live, PlaceError, Placement};
use vantic_core::text::Measure;
use vantic_core::tolerance::PLACED;

/// What is wrong with where things landed, as the frames alone tell it; what lies nearer than a gap counts as
/// overlapping, and what the author accepts is left out. `fixed` are the views that stay where they are while
/// what is around them is scrolled.
pub(crate) fn found_on(
    screen: &Screen,
    placement: &Placement,
    fixed: &HashSet<ViewId>,
    gap: f64,
) -> Vec<Finding> {
    let codes = [Code::Conflict, Code::Cut, Code::Outside, Code::Overlap, Code::Covered, Code::Small];
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
        Code::Cut => cut(screen, placement, &mut findings),
        Code::Outside => outside(screen, placement, fixed, &mut findings),
        Code::Overlap => {
            overlaps(screen, placement, fixed, Overlaps { gap, ..Overlaps::default() }, &mut findings);
            never_clear(screen, placement, fixed, &mut findings);
        }
        Code::Covered => covered(screen, placement, &mut findings),
        Code::Small => small(screen, placement, &mut findings),
        Code::Conflict => broken(screen, placement, &mut findings),
        _ => {}
    }
    let acceptances: Vec<&Acceptance> =
        screen.acceptances().iter().filter(|a| a.code() == code.name()).collect();
    let accepted = |f: &Finding| {
        let same = |a: &&Acceptance| {
            let names = a.names();
            names.len() == f.views.len() && f.views.iter().all(|&v| names.contains(&screen.path(v)))
        };
        acceptances.iter().any(same)
    };
    findings.retain(|f| !accepted(f) && f.severity != Severity::Note);
    findings
}

/// The views that stay where they are while the view around them is scrolled; those that it scrolls are not
/// among them.
pub(crate) fn unscrolled_views(
    screen: &Screen,
    live: &mut Live<'_>,
    placement: &Placement,
    measure: &dyn Measure,
) -> Result<HashSet<ViewId>, PlaceError> {
    let scrolled = || placement.scrolled.iter().filter(|(_, s)| s.most.0.max(s.most.1) > 0.0);
    let mut fixed = HashSet::new();
    if scrolled().all(|(&view, _)| live.takes_all_along(&placement.display, view)) {
        return Ok(fixed);
    }
    // Compared with the other end, or with the beginning.
    let elsewhere = scrolled().try_fold(placement.display.clone(), |display, (&view, at)| {
        let to = |offset: f64, most: f64| if offset < most { most } else { 0.0 };
        let (across, down) = (to(at.offset.0, at.most.0), to(at.offset.1, at.most.1));
        display.with_scroll(screen.path(view), across, down)
    });
    let Ok(elsewhere) = elsewhere else { return Ok(fixed) };
    let other = live.place(&elsewhere, measure)?;
    for (view, _) in scrolled() {
        let children = screen.at(*view).children().iter();
        let stays = |child: &&ViewId| match (placement.frame(**child), other.frame(**child)) {
            (Some(a), Some(b)) => (a.left - b.left).abs().max((a.top - b.top).abs()) <= PLACED,
            _ => false,
        };
        fixed.extend(children.filter(stays));
    }
    Ok(fixed)
}
