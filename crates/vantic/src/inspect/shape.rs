//! Views that got another shape than their content has, or none at all: pictures out of proportion, texts
//! higher than their lines, and what is left without a width or a height.

use crate::finding::detail::{FrameDetail, StretchDetail};
use crate::finding::{Finding, Severity};
use crate::inspect::frames::seen;
use crate::screen_ext::ScreenExt as _;
use std::collections::BTreeMap;
use vantic_core::geometry::Frame;
use vantic_core::model::{Anchor, Code, Comparison, Coordinate, Screen, Term, ViewId};
use vantic_core::plan::{Examination, Placement};
use vantic_core::text::TextSize;
use vantic_core::tolerance::{PLACED, VISIBLE};

/// A picture whose width and height differ in scale by more than this is seen to be out of proportion.
const SEEN_DISTORTED: f64 = 0.01;

/// Pictures out of their natural proportions, and texts in whose frame another line would fit.
pub(crate) fn stretched(screen: &Screen, placement: &Placement, findings: &mut Vec<Finding>) {
    for (view, _) in seen(screen, placement) {
        let Some(frame) = placement.frame(view) else { continue };
        findings.extend(distorted(placement, view, &frame));
        findings.extend(beyond_lines(screen, placement, view, &frame));
    }
}

/// By how much a picture, or a text, is beyond the limits at which it is stretched, each of which moves
/// evenly where its frame does; for finding where it begins to be.
pub(crate) fn out_of_shape(placement: &Placement, view: ViewId, frame: &Frame) -> Vec<f64> {
    let picture = placement.look(view).natural.into_iter().flat_map(|natural| {
        let (across, down) = (frame.width / natural.width, frame.height / natural.height);
        let off = [frame.width - down * natural.width, frame.height - across * natural.height];
        let limits = [across - (1.0 + SEEN_DISTORTED) * down, down - (1.0 + SEEN_DISTORTED) * across];
        off.into_iter().flat_map(|off| [off - 1.0, -off - 1.0]).chain(limits)
    });
    let text = placement.texts[view.index()].map(|size| frame.height - size.height - line(&size) + VISIBLE);
    picture.chain(text).collect()
}

/// The height of one line.
fn line(size: &TextSize) -> f64 {
    size.height / f64::from(size.lines - size.hidden).max(1.0)
}

fn distorted(placement: &Placement, view: ViewId, frame: &Frame) -> Option<Finding> {
    let natural = placement.look(view).natural?;
    let (across, down) = (frame.width / natural.width, frame.height / natural.height);
    // One without a width or a height is found as such; and what differs by less than a pixel is rounding.
    let off = (frame.width - down * natural.width).abs().max((frame.height - across * natural.height).abs());
    let (less, more) = (across.min(down), across.max(down));
    if less * natural.width.min(natural.height) <= VISIBLE || more / less - 1.0 <= SEEN_DISTORTED || off < 1.0
    {
        return None;
    }
    let has = (frame.width, frame.height);
    let detail = StretchDetail::Picture { has, natural: (natural.width, natural.height), by: more / less };
    let finding = Finding::warning(Code::Stretched, detail).about([view]).by(off);
    Some(finding.at(vec![(view, Coordinate::Width), (view, Coordinate::Height)]))
}

/// A text in whose frame one more line would fit. Where a row stretches what stands in it, a text is as high
/// as the highest of them on purpose.
fn beyond_lines(screen: &Screen, placement: &Placement, view: ViewId, frame: &Frame) -> Option<Finding> {
    let size = placement.texts[view.index()].filter(|size| size.lines > 0)?;
    let spare = frame.height - size.height;
    if spare < line(&size) - VISIBLE
        || screen.at(view).parent().is_some_and(|p| screen.at(p).arrangement().is_some())
    {
        return None;
    }
    let detail =
        StretchDetail::Text { has: frame.height, needs: size.height, lines: size.lines - size.hidden };
    Some(
        Finding::warning(Code::Stretched, detail)
            .about([view])
            .at(vec![(view, Coordinate::Height)])
            .by(spare),
    )
}

/// Painted views without children, and those that scroll, that are left without a width or a height, though
/// no rule says that it is zero. Those that are without since one around them is are reported with it.
pub(crate) fn without_size(screen: &Screen, examined: &Examination, findings: &mut Vec<Finding>) {
    let placement = &examined.placement;
    for size in [Coordinate::Width, Coordinate::Height] {
        let is_zero = |view: ViewId| {
            let frame = placement.frame(view);
            frame.is_some_and(|f| if size == Coordinate::Width { f.width } else { f.height } <= PLACED)
        };
        let is_told = |view: ViewId| {
            examined.free.iter().any(|f| (f.view, f.coordinate) == (view, size))
                || examined.collapsed.iter().any(|c| (c.child, c.coordinate) == (view, size))
                || examined.contradictions.iter().any(|c| c.nonnegatives.contains(&(view, size)))
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
            if without.iter().any(|&at| is_told(at) || is_said(screen, placement, at, size)) {
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

/// Whether a rule that counts gives a view this size as a number, which is zero then.
fn is_said(screen: &Screen, placement: &Placement, view: ViewId, size: Coordinate) -> bool {
    placement.rules.iter().flat_map(|&rule| screen.rule_at(rule).relations()).any(|relation| {
        let is_of = |t: &Term| t.anchor == Anchor::View(view) && t.coordinate == size;
        let is_number = relation.right.terms().is_empty() && relation.right.picks().is_empty();
        relation.comparison == Comparison::Equal
            && is_number
            && matches!(relation.left.terms(), [only] if is_of(only))
    })
}
