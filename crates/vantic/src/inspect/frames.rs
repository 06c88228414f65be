//! Where things landed: cut content, views outside, siblings over one another.

use crate::finding::detail::{Around, BySide, CellDetail, CoverDetail, FrameDetail, SIDES};
use crate::finding::{Finding, Severity};
use crate::screen_ext::ScreenExt as _;
use std::collections::HashSet;
use vantic_core::geometry::{Axis, Frame};
use vantic_core::model::{Code, Coordinate, Screen, UnstickableView, ViewId};
use vantic_core::plan::Placement;
use vantic_core::text::TextSize;
use vantic_core::tolerance::VISIBLE;

/// The views that are painted and have an area, with their frames, or the bounds of what is painted.
fn seen<'a>(
    screen: &'a Screen,
    placement: &'a Placement,
    painted: bool,
) -> impl Iterator<Item = (ViewId, Frame)> + 'a {
    screen.views().filter_map(move |(id, _)| {
        let frame = if painted { placement.painted_bounds(screen, id)? } else { placement.frame(id)? };
        let has_area = frame.width > VISIBLE && frame.height > VISIBLE;
        (placement.painted[id.index()] && has_area).then_some((id, frame))
    })
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

/// How many overlaps are reported of one display.
const MAX_OVERLAPS: usize = 10_000;

pub(crate) fn outside(
    screen: &Screen,
    placement: &Placement,
    fixed: &HashSet<ViewId>,
    findings: &mut Vec<Finding>,
) {
    let display = placement.screen_frame();
    // How far what is seen of a view reaches beyond the screen.
    let off = |view: ViewId| {
        placement.visible_frame(screen, view).map_or([0.0; 4], |visible| beyond(&visible, &display))
    };
    for (id, frame) in seen(screen, placement, false) {
        let parent = screen.at(id).parent().and_then(|p| Some((p, placement.frame(p)?)));
        if parent.is_some_and(|(p, _)| placement.look(p).fits.is_some()) {
            continue;
        }
        let off_screen = off(id);
        // What its parent does as well is reported of the parent.
        let parents = parent.map_or([0.0; 4], |(p, _)| off(p));
        let own = |i: usize| off_screen[i] > parents[i].max(0.0) + VISIBLE;
        let sides = sides_over(std::array::from_fn(|i| if own(i) { off_screen[i] } else { 0.0 }));
        let (severity, sides, of) = if !sides.is_empty() {
            let is_lost = frame.shared(&display).is_none();
            (Severity::Error, sides, Around::Screen { is_lost })
        } else {
            let Some(parent) = parent else { continue };
            let on_screen =
                |over: [f64; 4]| std::array::from_fn(|i| if off_screen[i] > VISIBLE { 0.0 } else { over[i] });
            let (over, severity, of) = over_parent(screen, placement, (id, frame), parent, fixed);
            (severity, sides_over(on_screen(over)), of)
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
    if placement.look(parent).clips {
        let kept = frame.shared(&parent_frame).map_or(0.0, |f| f.width * f.height);
        let lost = frame.width * frame.height - kept;
        let severity = if scrolls { Severity::Warning } else { Severity::Note };
        return (over, severity, Around::Clip(parent, lost));
    }
    (over, Severity::Warning, Around::Parent(parent))
}

/// What is fixed on top of what is scrolled: which views are never clear of it, however far they are
/// scrolled. Views that hold others are looked at by what they hold.
pub(crate) fn never_clear(
    screen: &Screen,
    placement: &Placement,
    fixed: &HashSet<ViewId>,
    findings: &mut Vec<Finding>,
) {
    let direction = placement.display.direction();
    for (&scroller, at) in &placement.scrolled {
        let Some(port) = placement.frame(scroller) else { continue };
        let still: Vec<ViewId> = screen.at(scroller).children().to_vec();
        let still: Vec<ViewId> =
            still.into_iter().filter(|v| fixed.contains(v) && placement.is_painted(*v)).collect();
        let child_of =
            |view: ViewId| screen.with_ancestors(view).find(|v| screen.at(*v).parent() == Some(scroller));
        let leaves = seen(screen, placement, false).filter(|(v, _)| screen.at(*v).children().is_empty());
        for (leaf, under) in leaves.filter(|_| !still.is_empty()) {
            let Some(child) = child_of(leaf).filter(|child| !fixed.contains(child)) else { continue };
            for &above in still.iter().filter(|&&above| placement.is_on_top(above, child)) {
                let Some(top) = placement.frame(above) else { continue };
                let left = |axis, offset, most| {
                    let [port, above, below] = [port, top, under].map(|f| f.along(axis, direction));
                    covered(port, above, (below.0 + offset, below.1 + offset), most)
                };
                let width = left(Axis::Across, at.offset.0, at.most.0);
                let height = left(Axis::Down, at.offset.1, at.most.1);
                if width > VISIBLE && height > VISIBLE {
                    let detail = CoverDetail::NeverClear { scroller, width, height };
                    let finding = Finding::warning(Code::Overlap, detail).about([leaf, above]);
                    findings.push(finding.by(width * height));
                }
            }
        }
    }
}

/// How much of what is scrolled cannot be seen beside what is fixed, at best, along one axis. What is
/// scrolled is reported for offset 0. What is larger than the space beside it is looked at part by part.
fn covered(port: (f64, f64), above: (f64, f64), below: (f64, f64), most: f64) -> f64 {
    let size = below.1 - below.0;
    let rooms = [(port.0, above.0), (above.1, port.1)];
    if rooms.iter().all(|room| size > room.1 - room.0 + VISIBLE) {
        return (below.1.min(above.1) - below.0.max(above.0 + most)).max(0.0);
    }
    let clear = |offset: f64| {
        let part = |room: &(f64, f64)| (below.1 - offset).min(room.1) - (below.0 - offset).max(room.0);
        rooms.iter().map(|room| part(room).max(0.0)).sum::<f64>()
    };
    // The best offset is one at which an edge meets an edge, or the first or the last.
    let meets = rooms.iter().flat_map(|room| [below.0 - room.0, below.1 - room.1]);
    let offsets = meets.map(|offset| offset.clamp(0.0, most)).chain([0.0, most]);
    size - offsets.map(clear).fold(0.0, f64::max)
}

/// What counts as overlapping.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct Overlaps {
    /// The bounds of what is painted, rotated and scaled, count instead of the frames.
    pub(crate) painted: bool,
    /// Siblings that are nearer to one another than this count too, in logical pixels.
    pub(crate) gap: f64,
}

/// A frame larger by so much on each side.
fn grown(frame: &Frame, by: f64) -> Frame {
    Frame {
        left: frame.left - by,
        top: frame.top - by,
        width: frame.width + 2.0 * by,
        height: frame.height + 2.0 * by,
    }
}

pub(crate) fn overlaps(
    screen: &Screen,
    placement: &Placement,
    fixed: &HashSet<ViewId>,
    Overlaps { painted, gap }: Overlaps,
    findings: &mut Vec<Finding>,
) {
    let mut families: Vec<Vec<(ViewId, Frame)>> = vec![Vec::new(); screen.views().count() + 1];
    for (id, frame) in seen(screen, placement, painted) {
        families[screen.at(id).parent().map_or(0, |p| p.index() + 1)].push((id, frame));
    }
    let mut count = 0;
    for (family, mut members) in families.into_iter().enumerate() {
        let parent = family.checked_sub(1).and_then(|p| screen.view_at(p));
        let content_box = parent.and_then(|p| placement.frame(screen.at(p).scrolled()?));
        let parent = parent.map_or(Some(placement.screen_frame()), |p| placement.frame(p));
        // A backdrop is excepted: a view that covers its parent and is painted before the others.
        let covers = |frame: &Frame, of: Frame| beyond(&of, frame).iter().all(|by| *by <= VISIBLE);
        let is_backdrop =
            |frame: &Frame| [parent, content_box].into_iter().flatten().any(|of| covers(frame, of));
        // Swept along the axis on which they lie further apart, so that long lists stay cheap.
        let spread = |edge: fn(&Frame) -> f64| {
            let (low, high) = members
                .iter()
                .map(|m| edge(&m.1))
                .fold((f64::MAX, f64::MIN), |(l, h), e| (l.min(e), h.max(e)));
            high - low
        };
        let sideways = spread(|f| f.left) > spread(|f| f.top);
        let edges = |f: &Frame| if sideways { (f.left, f.right()) } else { (f.top, f.bottom()) };
        members.sort_by(|a, b| edges(&a.1).0.total_cmp(&edges(&b.1).0).then(a.0.cmp(&b.0)));
        for (i, a) in members.iter().enumerate() {
            for b in members[i + 1..].iter().take_while(|b| edges(&b.1).0 < edges(&a.1).1 + gap) {
                let (below, above) = if placement.is_on_top(b.0, a.0) { (a, b) } else { (b, a) };
                // What sticks, or is fixed, is meant to cover what moves with its parent under it.
                let stays = |view| placement.is_stuck(view) || fixed.contains(&view);
                if stays(above.0) && !stays(below.0) {
                    continue;
                }
                let shared = grown(&below.1, gap).shared(&above.1);
                let shared = shared.filter(|s| s.width > VISIBLE && s.height > VISIBLE);
                if shared.is_some() && !is_backdrop(&below.1) {
                    findings.push(match below.1.shared(&above.1) {
                        Some(shared) if gap == 0.0 || shared.width.min(shared.height) > VISIBLE => {
                            overlap(below.0, above.0, &shared)
                        }
                        _ => too_near((below, above), gap),
                    });
                    count += 1;
                    if count >= MAX_OVERLAPS {
                        return;
                    }
                }
            }
        }
    }
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
        let Some(factor) = placement.look(view).fits else { continue };
        let finding = Finding::note(Code::Outside, FrameDetail::ScaledToFit { factor });
        findings.push(finding.about([view]).by(1.0 - factor));
    }
    for &UnstickableView { view, side, clipped } in &placement.unstickable {
        let finding = Finding::note(Code::Idle, FrameDetail::CannotStick { side, clipped });
        findings.push(finding.about([view].into_iter().chain(clipped.map(|(_, by)| by)).collect::<Vec<_>>()));
    }
}

/// Siblings that do not overlap, but are nearer to one another than they may be.
fn too_near((below, above): (&(ViewId, Frame), &(ViewId, Frame)), gap: f64) -> Finding {
    let beyond = |near: f64, far: f64| (near - far).max(0.0);
    let (a, b) = (&below.1, &above.1);
    let across = beyond(b.left, a.right()).max(beyond(a.left, b.right()));
    let down = beyond(b.top, a.bottom()).max(beyond(a.top, b.bottom()));
    let apart = across.max(down);
    let finding = Finding::warning(Code::Overlap, CoverDetail::TooNear { apart, gap });
    finding.about([below.0, above.0]).by(gap - apart)
}

fn overlap(below: ViewId, above: ViewId, shared: &Frame) -> Finding {
    let (width, height) = (shared.width, shared.height);
    let finding = Finding::warning(Code::Overlap, CoverDetail::Overlap { width, height });
    finding.about([below, above]).by(width * height)
}
