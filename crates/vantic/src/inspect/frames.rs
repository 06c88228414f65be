//! Where things landed: cut content, views outside, siblings over one another.

use crate::finding::detail::{Around, BySide, CellDetail, FrameDetail, SIDES};
use crate::finding::{Finding, Severity};
use crate::inspect::meant::Meant;
use crate::screen_ext::ScreenExt as _;
use std::cell::OnceCell;
use std::collections::HashSet;
use vantic_core::geometry::Frame;
use vantic_core::model::{Code, Coordinate, Screen, UnstickableView, ViewId};
use vantic_core::plan::{Fit, Placement};
use vantic_core::text::TextSize;
use vantic_core::tolerance::VISIBLE;

/// The box around what is painted of a view, if it is painted and has an area.
pub(crate) fn seen_of(screen: &Screen, placement: &Placement, view: ViewId) -> Option<Frame> {
    let has_area = |frame: &Frame| frame.width > VISIBLE && frame.height > VISIBLE;
    placement.frame(view).filter(|frame| placement.painted[view.index()] && has_area(frame))?;
    placement.painted_bounds(screen, view).filter(has_area)
}

/// The views that are painted and have an area, with the box around what is painted of them.
pub(crate) fn seen<'a>(
    screen: &'a Screen,
    placement: &'a Placement,
) -> impl Iterator<Item = (ViewId, Frame)> + 'a {
    screen.views().filter_map(move |(id, _)| Some((id, seen_of(screen, placement, id)?)))
}

pub(crate) fn cut(screen: &Screen, placement: &Placement, findings: &mut Vec<Finding>) {
    for (id, _) in screen.views() {
        let (Some(frame), Some(text)) = (placement.frame(id), placement.texts[id.index()]) else { continue };
        let (wide, high) = (text.longest - frame.width, text.height - frame.height);
        if !placement.painted[id.index()] {
            continue;
        }
        if text.hidden > 0 {
            findings.push(cut_short(id, &text));
        }
        if wide.max(high) <= VISIBLE {
            continue;
        }
        let detail = match wide > VISIBLE {
            true => FrameDetail::WordCut { needs: text.longest, has: frame.width },
            false => FrameDetail::LinesCut { lines: text.lines, needs: text.height, has: frame.height },
        };
        let short = [(wide, Coordinate::Width), (high, Coordinate::Height)];
        let short = short.into_iter().filter(|(by, _)| *by > VISIBLE).map(|(_, c)| (id, c));
        let finding = Finding::error(Code::Cut, detail).about([id]).at(short.collect());
        findings.push(finding.by(wide.max(high)));
    }
}

/// A text with more lines than its limit shows.
fn cut_short(view: ViewId, text: &TextSize) -> Finding {
    let (shown, all) = (text.lines - text.hidden, text.lines);
    let finding = Finding::error(Code::Cut, FrameDetail::LinesHidden { shown, all });
    let amount = text.height / f64::from(shown) * f64::from(text.hidden);
    finding.about([view]).at(vec![(view, Coordinate::ContentHeight)]).by(amount)
}

/// How far a frame reaches beyond a box: left, top, right, bottom.
pub(crate) fn beyond(frame: &Frame, within: &Frame) -> [f64; 4] {
    [
        within.left - frame.left,
        within.top - frame.top,
        frame.right() - within.right(),
        frame.bottom() - within.bottom(),
    ]
}

/// The sides on which that is more than can be seen.
pub(crate) fn sides_over(beyond: [f64; 4]) -> BySide {
    std::iter::zip(SIDES, beyond).filter(|(_, by)| *by > VISIBLE).collect()
}

pub(crate) fn outside(
    screen: &Screen,
    placement: &Placement,
    fixed: &HashSet<ViewId>,
    findings: &mut Vec<Finding>,
) {
    let display = placement.screen_frame();
    // How far what is seen of a view reaches beyond the screen.
    let off = |view: ViewId| {
        let seen = match placement.painted_elsewhere(screen, view) {
            Some(painted) => Some(painted),
            None => placement.visible_frame(screen, view),
        };
        seen.map_or([0.0; 4], |seen| beyond(&seen, &display))
    };
    let meant = OnceCell::new();
    for (id, painted) in seen(screen, placement) {
        let parent = screen.at(id).parent().and_then(|p| Some((p, placement.frame(p)?)));
        // What is turned with its parent is in it as its frame is.
        let with_parent = parent.is_some_and(|(p, _)| !placement.painting(screen, p).is_plain());
        let frame = if with_parent { placement.frame(id).unwrap_or(painted) } else { painted };
        // A picture that covers the whole screen is cut by it on purpose.
        let is_picture = placement.look(id).natural.is_some() && fills(&painted, &display);
        if parent.is_some_and(|(p, _)| placement.look(p).fits.is_some()) || is_picture {
            continue;
        }
        let off_screen = off(id);
        // What its parent does as well is reported of the parent.
        let parents = parent.map_or([0.0; 4], |(p, _)| off(p));
        let own = |i: usize| off_screen[i] > parents[i].max(0.0) + VISIBLE;
        let sides = sides_over(std::array::from_fn(|i| if own(i) { off_screen[i] } else { 0.0 }));
        let (severity, sides, of) = if !sides.is_empty() {
            // What is only just beyond an edge is not lost.
            let is_far = off_screen.iter().any(|by| *by > JUST_BEYOND);
            let is_lost = is_far && painted.shared(&display).is_none();
            (Severity::Error, sides, Around::Screen { is_lost })
        } else {
            // What floats, or is tied to an edge of its parent by its middle, reaches beyond that on purpose.
            let is_meant = |(p, _): &(ViewId, Frame)| {
                placement.look(id).floats
                    || meant.get_or_init(|| Meant::of(screen, placement)).is_on_edge(id, *p)
            };
            let Some(parent) = parent else { continue };
            let on_screen =
                |over: [f64; 4]| std::array::from_fn(|i| if off_screen[i] > VISIBLE { 0.0 } else { over[i] });
            let (over, severity, of) = over_parent(screen, placement, (id, frame), parent, fixed);
            let sides = sides_over(on_screen(over));
            let is_left_out = matches!(of, Around::Parent(_)) && !sides.is_empty() && is_meant(&parent);
            (severity, if is_left_out { Vec::new() } else { sides }, of)
        };
        if sides.is_empty() {
            continue;
        }
        let coordinates = sides.iter().map(|&(side, _)| (id, side)).collect();
        let most = sides.iter().map(|(_, by)| *by).fold(0.0, f64::max);
        let finding = Finding::new(Code::Outside, severity, FrameDetail::Outside { sides, of });
        findings.push(finding.about([id]).at(coordinates).by(most));
    }
}

/// A view that is off the screen by no more than this, in logical pixels, is not looked for elsewhere.
const JUST_BEYOND: f64 = 4.0;

/// Whether a frame covers all of another.
pub(crate) fn fills(frame: &Frame, of: &Frame) -> bool {
    beyond(of, frame).iter().all(|by| *by <= VISIBLE)
}

/// How far a view reaches beyond its parent, or beyond what that scrolls, and how bad that is.
fn over_parent(
    screen: &Screen,
    placement: &Placement,
    (id, frame): (ViewId, Frame),
    (parent, parent_frame): (ViewId, Frame),
    fixed: &HashSet<ViewId>,
) -> ([f64; 4], Severity, Around) {
    let over = beyond(&frame, &parent_frame);
    let scrolls = placement.scrolled.contains_key(&parent);
    // What stays where it is cannot be scrolled to.
    let content = screen.at(parent).scrolled().filter(|_| scrolls && !fixed.contains(&id));
    if let Some(content) = content {
        let reached = placement.frame(content).map_or(over, |content| beyond(&frame, &content));
        let over = std::array::from_fn(|side| over[side].min(reached[side]));
        return (over, Severity::Warning, Around::Content(parent));
    }
    if placement.look(parent).clips && fills(&frame, &parent_frame) {
        // A picture that covers what clips it is cut on purpose.
        return ([0.0; 4], Severity::Note, Around::Parent(parent));
    }
    if placement.look(parent).clips {
        let kept = frame.shared(&parent_frame).map_or(0.0, |f| f.width * f.height);
        let lost = frame.width * frame.height - kept;
        let severity = if scrolls { Severity::Warning } else { Severity::Note };
        return (over, severity, Around::Clip(parent, lost));
    }
    (over, Severity::Warning, Around::Parent(parent))
}

/// Guides that divide into nothing, or into more than there is space for.
pub(crate) fn divisions(placement: &Placement, findings: &mut Vec<Finding>) {
    for (&view, division) in &placement.divisions {
        let (columns, size, by) = (division.columns, division.size, division.beyond);
        if size <= VISIBLE {
            let detail = CellDetail::DivisionWithoutSpace { columns, size };
            findings.push(Finding::error(Code::Collapse, detail).about([view]).by(-size));
        } else if by > VISIBLE {
            let detail = CellDetail::DivisionBeyond { columns, by };
            findings.push(Finding::warning(Code::Outside, detail).about([view]).by(by));
        }
    }
}

/// Grids whose columns have no space or too little, and children that ask for more of them.
pub(crate) fn grids(placement: &Placement, findings: &mut Vec<Finding>) {
    for (&view, grid) in &placement.grids {
        let width = grid.width.unwrap_or(f64::INFINITY);
        let short = grid.least.unwrap_or(0.0) - width;
        if width <= VISIBLE {
            let detail = CellDetail::ColumnsWithoutSpace { width };
            findings.push(Finding::error(Code::Collapse, detail).about([view]).by(-width));
        } else if short > VISIBLE {
            let detail = CellDetail::BelowMinimum { by: short };
            findings.push(Finding::note(Code::Missed, detail).about([view]).by(short));
        }
        for &child in &grid.too_wide {
            let detail = CellDetail::TooManyColumns { has: grid.columns };
            findings.push(Finding::note(Code::Idle, detail).about([child, view]));
        }
    }
}

/// Views that paint what they hold smaller, and those that are to stick and cannot.
pub(crate) fn scrolling(screen: &Screen, placement: &Placement, findings: &mut Vec<Finding>) {
    for (view, _) in screen.views() {
        let Some(Fit { factor, .. }) = placement.look(view).fits else { continue };
        let finding = Finding::note(Code::Outside, FrameDetail::ScaledToFit { factor });
        findings.push(finding.about([view]).by(1.0 - factor));
    }
    for &UnstickableView { view, side, clipped } in &placement.unstickable {
        let finding = Finding::note(Code::Idle, FrameDetail::CannotStick { side, clipped });
        findings.push(finding.about([view].into_iter().chain(clipped.map(|(_, by)| by)).collect::<Vec<_>>()));
    }
}
