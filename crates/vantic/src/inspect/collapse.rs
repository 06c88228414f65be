//! Views that are left without a width or a height, and where that comes from.

use crate::finding::detail::{Detail, FrameDetail, RuleDetail};
use crate::finding::{Finding, Severity};
use crate::inspect::frames::{divisions, grids};
use crate::screen_ext::ScreenExt as _;
use std::collections::{BTreeMap, HashSet};
use vantic_core::model::{Anchor, Code, Comparison, Coordinate, RuleRef, Screen, Term, ViewId};
use vantic_core::plan::{Collapsed, Examination, Placement};
use vantic_core::tolerance::{PLACED, VISIBLE};

/// Views without a width or a height, as far as no rule asks for that.
pub(crate) fn without_size(screen: &Screen, examined: &Examination, findings: &mut Vec<Finding>) {
    collapsed(examined, findings);
    left_without(screen, examined, findings);
}

/// The same, and guides and grids without space for their columns and rows: all that is reported as collapsed.
pub(crate) fn collapses(screen: &Screen, examined: &Examination) -> Vec<Finding> {
    let mut findings = Vec::new();
    without_size(screen, examined, &mut findings);
    divisions(&examined.placement, &mut findings);
    grids(&examined.placement, &mut findings);
    findings.retain(|f| f.code == Code::Collapse && !follows_from_no_space(screen, &examined.placement, f));
    findings
}

/// Whether something may be collapsed, as the frames alone show.
pub(crate) fn may_collapse(screen: &Screen, placement: &Placement) -> bool {
    let is_zero = |view| placement.frame(view).is_some_and(|f| f.width.min(f.height) <= PLACED);
    screen.views().any(|(view, about)| about.guide().is_none() && is_zero(view))
        || screen.views().any(|(view, _)| has_no_space(placement, view))
}

/// Views that take their size from their children, while children take their own from them: one finding for
/// all children of one view.
fn collapsed(examined: &Examination, findings: &mut Vec<Finding>) {
    let mut by_cause: BTreeMap<_, Vec<ViewId>> = BTreeMap::new();
    let open = open_coordinates(examined);
    for &Collapsed { view, child, coordinate, fills, is_given } in &examined.collapsed {
        if !open.contains(&(child, coordinate)) {
            by_cause.entry((view, coordinate, fills, is_given)).or_default().push(child);
        }
    }
    for ((view, coordinate, fills, is_given), children) in by_cause {
        let detail = RuleDetail::CollapsedChildren { fills, is_given };
        let finding = Finding::error(Code::Collapse, detail);
        let at = children.iter().map(|&child| (child, coordinate)).collect();
        findings.push(finding.about([vec![view], children].concat()).at(at));
    }
}

/// Painted views without children, and those that scroll, that are left without a width or a height, though
/// no rule says that it is zero. Those that are without since one around them is are reported with it.
fn left_without(screen: &Screen, examined: &Examination, findings: &mut Vec<Finding>) {
    let placement = &examined.placement;
    let mut told = open_coordinates(examined);
    told.extend(examined.collapsed.iter().map(|c| (c.child, c.coordinate)));
    told.extend(examined.contradictions.iter().flat_map(|c| c.nonnegatives.iter().copied()));
    told.extend(given_as_numbers(screen, placement));
    for size in [Coordinate::Width, Coordinate::Height] {
        let is_zero = |view: ViewId| {
            let frame = placement.frame(view);
            frame.is_some_and(|f| if size == Coordinate::Width { f.width } else { f.height } <= PLACED)
        };
        let mut by_cause: BTreeMap<ViewId, Vec<ViewId>> = BTreeMap::new();
        for (view, about) in screen.views() {
            let shows = about.children().is_empty() || placement.scrolled.contains_key(&view);
            let is_left_out =
                about.guide().is_some() || about.text().is_some() || !placement.is_painted(view);
            if !shows || is_left_out || !is_zero(view) {
                continue;
            }
            let without: Vec<ViewId> = screen.with_ancestors(view).take_while(|&at| is_zero(at)).collect();
            if without.iter().any(|&at| told.contains(&(at, size))) {
                continue;
            }
            let cause = without.last().copied().unwrap_or(view);
            by_cause.entry(cause).or_default().push(view);
        }
        for (cause, within) in by_cause {
            let within = within.into_iter().filter(|&view| view != cause);
            let about: Vec<ViewId> = [cause].into_iter().chain(within).collect();
            let matters = |view: &ViewId| {
                let is_control = placement.look(*view).control.is_some();
                is_control || screen.at(*view).has_content() || placement.scrolled.contains_key(view)
            };
            let has_cells = screen.at(cause).arrangement().is_some();
            let is_error = has_cells || about.iter().any(matters);
            let severity = if is_error { Severity::Error } else { Severity::Warning };
            let has_share = screen.at(cause).item().is_some_and(|item| item.share.is_some());
            let detail = FrameDetail::WithoutSize { has_share };
            let finding = Finding::new(Code::Collapse, severity, detail).at(vec![(cause, size)]);
            findings.push(finding.about(about));
        }
    }
}

/// Coordinates with more than one best value.
fn open_coordinates(examined: &Examination) -> HashSet<(ViewId, Coordinate)> {
    examined.free.iter().map(|f| (f.view, f.coordinate)).collect()
}

/// What rules that count give as a number: a size that is zero by one is meant.
fn given_as_numbers(screen: &Screen, placement: &Placement) -> impl Iterator<Item = (ViewId, Coordinate)> {
    let relations = placement.rules.iter().flat_map(|&rule| screen.rule_at(rule).relations());
    relations.filter_map(|relation| {
        let is_number = relation.right.terms().is_empty() && relation.right.picks().is_empty();
        match relation.left.terms() {
            [Term { anchor: Anchor::View(view), coordinate, .. }]
                if is_number && relation.comparison == Comparison::Equal =>
            {
                Some((*view, *coordinate))
            }
            _ => None,
        }
    })
}

/// Whether a conflict, or a view without a width or height, follows from the columns or rows of a guide or
/// grid having no space, which is reported by itself.
pub(crate) fn follows_from_no_space(screen: &Screen, placement: &Placement, finding: &Finding) -> bool {
    let has_no_space = |view: ViewId| has_no_space(placement, view);
    match finding.code {
        Code::Conflict if !finding.given.is_empty() => {
            let divided =
                |rule: &RuleRef| matches!(*rule, RuleRef::Arranged { view, .. } if has_no_space(view));
            finding.rules.iter().any(divided)
        }
        Code::Collapse if matches!(finding.detail, Detail::Frames(FrameDetail::WithoutSize { .. })) => {
            finding.views.iter().any(|&view| screen.at(view).parent().is_some_and(has_no_space))
        }
        _ => false,
    }
}

/// Whether a guide or grid has no space for its columns or rows.
fn has_no_space(placement: &Placement, view: ViewId) -> bool {
    placement.divisions.get(&view).is_some_and(|division| division.size <= VISIBLE)
        || placement.grids.get(&view).is_some_and(|g| g.width.is_some_and(|width| width <= VISIBLE))
}
