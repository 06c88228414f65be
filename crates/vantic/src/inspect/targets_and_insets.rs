//! What can be seen and touched: content under the insets, controls that are too small, backgrounds with
//! gaps.

use crate::finding::Finding;
use crate::finding::detail::{BySide, FrameDetail};
use crate::inspect::frames::{beyond, fills, seen, sides_over};
use crate::screen_ext::ScreenExt as _;
use std::collections::{BTreeSet, HashSet};
use vantic_core::geometry::{Axis, Direction, Frame, within};
use vantic_core::model::{Anchor, Code, Coordinate, Screen, Scrolled, Term, ViewId};
use vantic_core::plan::Placement;
use vantic_core::tolerance::VISIBLE;

/// The least size of a control where its view says no other, in logical pixels (WCAG 2.2, success criterion
/// 2.5.8).
const LEAST_TARGET: f64 = 24.0;

/// Texts, images, controls and other views without children under the insets of the display. What can be
/// scrolled clear of them is not reported, nor what runs from edge to edge of the screen: a bar or a picture
/// does so on purpose. `fixed` are the views that stay where they are while what is around them is scrolled.
pub(crate) fn covered(
    screen: &Screen,
    placement: &Placement,
    fixed: &HashSet<ViewId>,
    findings: &mut Vec<Finding>,
) {
    if placement.screen_frame() == placement.safe_frame() {
        return;
    }
    let mut controls: BTreeSet<ViewId> = BTreeSet::new();
    for (view, _) in seen(screen, placement) {
        let control = placement.look(view).control;
        let is_seen = screen.at(view).has_content() || screen.at(view).children().is_empty();
        // What stands in a control is reported with it.
        if control.is_none() && !is_seen || screen.ancestors(view).any(|v| controls.contains(&v)) {
            continue;
        }
        // What is wrong across and what is wrong down have rules of their own.
        let sides = sides_over(under_insets(screen, placement, fixed, view)).into_iter();
        let (across, down): (BySide, BySide) = sides.partition(|(side, _)| side.is_horizontal());
        for sides in [across, down].into_iter().filter(|sides| !sides.is_empty()) {
            controls.extend(control.map(|_| view));
            findings.push(at_sides(Code::Covered, view, sides, |sides| FrameDetail::UnderInsets { sides }));
        }
    }
}

/// How a view can lie on the screen, along one axis, scrolled or not.
struct Reach {
    /// Where it is when it is furthest from the near side, from and to, as far as it is seen there.
    near: (f64, f64),
    /// The same of the far side.
    far: (f64, f64),
    scrolls: bool,
}

impl Reach {
    /// `None` where nothing of it is seen.
    fn of(
        screen: &Screen,
        placement: &Placement,
        fixed: &HashSet<ViewId>,
        view: ViewId,
        axis: Axis,
    ) -> Option<Self> {
        let direction = placement.display.direction();
        let own = placement.painted_bounds(screen, view)?.along(axis, direction);
        let most_of = |at: &Scrolled| if axis == Axis::Across { at.most.0 } else { at.most.1 };
        let mut around = screen.with_ancestors(view).take_while(|at| !placement.is_stuck(*at));
        let mut scrolls_at_all = false;
        let scroller = around.find_map(|at| {
            let parent = screen.at(at).parent().filter(|_| !fixed.contains(&at))?;
            let scrolled = placement.scrolled.get(&parent)?;
            scrolls_at_all |= scrolled.most.0.max(scrolled.most.1) > 0.0;
            (most_of(scrolled) > 0.0).then_some((scrolled, placement.frame(parent)?))
        });
        if let Some((at, port)) = scroller {
            let offset = if axis == Axis::Across { at.offset.0 } else { at.offset.1 };
            let port = port.along(axis, direction);
            let to = |by: f64| ((own.0 + by).max(port.0), (own.1 + by).min(port.1));
            return Some(Self { near: to(offset), far: to(offset - most_of(at)), scrolls: true });
        }
        // What is scrolled along the other axis may be brought to where it is seen.
        let is_plain = placement.painting(screen, view).is_plain();
        let here = match scrolls_at_all || !is_plain {
            true => own,
            false => placement.visible_frame(screen, view)?.along(axis, direction),
        };
        Some(Self { near: here, far: here, scrolls: false })
    }

    /// How far it reaches beyond what is clear at best, of what is on the display: at the near side, and at
    /// the far one.
    fn beyond(&self, all: (f64, f64), clear: (f64, f64)) -> [f64; 2] {
        let is_there = |at: (f64, f64)| at.1.min(all.1) - at.0.max(all.0) > VISIBLE;
        let near = if is_there(self.near) { clear.0 - self.near.0.max(all.0) } else { 0.0 };
        let far = if is_there(self.far) { self.far.1.min(all.1) - clear.1 } else { 0.0 };
        [near, far]
    }

    /// Whether it reaches the edge of the display, near and far.
    fn meets(&self, all: (f64, f64)) -> [bool; 2] {
        [self.near.0 <= all.0 + VISIBLE, self.far.1 >= all.1 - VISIBLE]
    }

    /// Whether it goes beyond the display, which is reported as such.
    fn leaves(&self, all: (f64, f64)) -> [bool; 2] {
        [all.0 - self.near.0, self.far.1 - all.1].map(|off| !self.scrolls && off > VISIBLE)
    }
}

/// The sides of a frame along each axis, near and far, with their places in a list of sides.
fn sides_along(axis: Axis, direction: Direction) -> [usize; 2] {
    match (axis, direction) {
        (Axis::Down, _) => [1, 3],
        (Axis::Across, Direction::LeftToRight) => [0, 2],
        (Axis::Across, Direction::RightToLeft) => [2, 0],
    }
}

/// How far a view reaches under the insets: left, top, right, bottom.
fn under_insets(screen: &Screen, placement: &Placement, fixed: &HashSet<ViewId>, view: ViewId) -> [f64; 4] {
    let mut under = [0.0; 4];
    let (display, safe) = (placement.screen_frame(), placement.safe_frame());
    let Some(frame) = placement.painted_bounds(screen, view) else { return under };
    let control = placement.look(view).control;
    let is_text = screen.at(view).text().is_some();
    let parent = screen.at(view).parent().and_then(|parent| placement.frame(parent));
    // The background of something is reported with what stands on it.
    if !is_text && control.is_none() && parent.is_some_and(|of| fills(&frame, &of)) {
        return under;
    }
    let direction = placement.display.direction();
    let of = |axis| Reach::of(screen, placement, fixed, view, axis);
    let (Some(across), Some(down)) = (of(Axis::Across), of(Axis::Down)) else { return under };
    for (axis, reach, other) in [(Axis::Across, &across, &down), (Axis::Down, &down, &across)] {
        let along = |f: &Frame, axis| f.along(axis, direction);
        let (all, clear) = (along(&display, axis), along(&safe, axis));
        let meets = reach.meets(all);
        let other_axis = if axis == Axis::Across { Axis::Down } else { Axis::Across };
        // From edge to edge of the screen: on purpose, as long as enough of a control is clear.
        let runs = |reach: &Reach, axis| reach.meets(along(&display, axis)) == [true; 2];
        let kept = reach.near.1.min(clear.1) - reach.near.0.max(clear.0);
        let least = control.map_or(0.0, |c| c.least.unwrap_or(LEAST_TARGET));
        let is_usable = kept * placement.scale() >= least - VISIBLE;
        let is_meant = !is_text && is_usable && (runs(other, other_axis) || runs(reach, axis));
        let (by, leaves) = (reach.beyond(all, clear), reach.leaves(all));
        for (at, side) in sides_along(axis, direction).into_iter().enumerate() {
            if by[at] > 0.0 && !leaves[at] && !(is_meant && meets[at]) {
                under[side] = by[at];
            }
        }
    }
    under
}

/// What is typed into and lies under the keyboard, wherever it is scrolled to.
pub(crate) fn under_keyboard(
    screen: &Screen,
    placement: &Placement,
    fixed: &HashSet<ViewId>,
    findings: &mut Vec<Finding>,
) {
    if placement.canvas().keyboard() <= 0.0 {
        return;
    }
    let direction = placement.display.direction();
    let [all, clear] =
        [placement.screen_frame(), placement.clear_frame()].map(|f| f.along(Axis::Down, direction));
    for (view, _) in seen(screen, placement).filter(|(view, _)| placement.look(*view).input) {
        let Some(reach) = Reach::of(screen, placement, fixed, view, Axis::Down) else { continue };
        let [_, by] = reach.beyond(all, clear);
        if by > VISIBLE {
            let finding = Finding::warning(Code::Covered, FrameDetail::UnderKeyboard { by });
            findings.push(finding.about([view]).at(vec![(view, Coordinate::Bottom)]).by(by));
        }
    }
}

/// A warning about some sides of a view, by how much it is over on the worst of them.
fn at_sides(code: Code, view: ViewId, sides: BySide, detail: fn(BySide) -> FrameDetail) -> Finding {
    let coordinates = sides.iter().map(|(side, _)| (view, *side)).collect();
    let most = sides.iter().map(|(_, by)| *by).fold(0.0, f64::max);
    Finding::warning(code, detail(sides)).about([view]).at(coordinates).by(most)
}

/// Controls below their least size. One that says no size of its own may be smaller where a circle of the
/// least size around its middle touches no other control, as the criterion has it.
pub(crate) fn small(screen: &Screen, placement: &Placement, findings: &mut Vec<Finding>) {
    let controls: Vec<(ViewId, Frame, Option<f64>)> = screen
        .views()
        .filter_map(|(view, _)| {
            let control = placement.look(view).control?;
            let frame = placement.frame(view).filter(|_| placement.is_painted(view))?;
            Some((view, frame, control.least))
        })
        .collect();
    let scale = placement.scale();
    for &(view, frame, own) in &controls {
        let least = own.unwrap_or(LEAST_TARGET);
        let (width, height) = (frame.width * scale, frame.height * scale);
        let short = (least - width.min(height)).max(0.0);
        let middle =
            |f: &Frame| (f64::midpoint(f.left, f.right()) * scale, f64::midpoint(f.top, f.bottom()) * scale);
        let radius = LEAST_TARGET / 2.0;
        let touches = |(_, other, _): &(ViewId, Frame, Option<f64>)| {
            let (x, y) = middle(&frame);
            let is_small = other.width.min(other.height) * scale < LEAST_TARGET;
            let (near_x, near_y) = if is_small {
                middle(other)
            } else {
                (
                    within(x, other.left * scale, other.right() * scale),
                    within(y, other.top * scale, other.bottom() * scale),
                )
            };
            (x - near_x).hypot(y - near_y) < if is_small { 2.0 * radius } else { radius }
        };
        let others = || controls.iter().filter(|other| other.0 != view);
        if short <= VISIBLE || own.is_none() && !others().any(touches) {
            continue;
        }
        let sizes = [(Coordinate::Width, width), (Coordinate::Height, height)];
        let below = sizes.into_iter().filter(|(_, size)| *size < least - VISIBLE);
        let below = below.map(|(coordinate, _)| (view, coordinate)).collect();
        let detail = FrameDetail::SmallControl { width, height, least, is_own: own.is_some() };
        findings.push(Finding::warning(Code::Small, detail).about([view]).at(below).by(short));
    }
}

/// How much of the screen a background may leave open and still be taken for one.
const LEFT_OPEN: f64 = 0.25;

/// A background that covers the whole screen on some displays, and leaves strips of it open on others. It is
/// what lies at the back of the screen.
pub(crate) fn uncovered(screen: &Screen, placements: &[Placement]) -> Option<Finding> {
    let view = screen.roots().first().copied().filter(|&view| !screen.at(view).has_content())?;
    let ties = ties_to_screen(screen, view);
    let left_open = |placement: &Placement| {
        let frame = placement.frame(view).filter(|_| placement.is_painted(view))?;
        let display = placement.screen_frame();
        let seen = frame.shared(&display)?;
        let mut strips = sides_over(beyond(&display, &seen));
        // What is tied to the screen at one end only happens to be as long as some.
        strips.retain(|(side, _)| ties[usize::from(!side.is_horizontal())] > 1);
        // What keeps to the safe area is no background.
        let safe = placement.safe_frame();
        if safe != display && beyond(&safe, &seen).iter().all(|by| *by <= VISIBLE) {
            return Some((Vec::new(), 0.0, 0.0));
        }
        let open = display.width * display.height - seen.width * seen.height;
        Some((strips, open, open / (display.width * display.height)))
    };
    let on_each = placements.iter().enumerate();
    let found: Vec<_> = on_each.filter_map(|(on, p)| Some((on, left_open(p)?))).collect();
    if !found.iter().any(|(_, (strips, ..))| strips.is_empty()) {
        return None;
    }
    let open: Vec<_> =
        found.iter().filter(|(_, (strips, _, share))| !strips.is_empty() && *share < LEFT_OPEN).collect();
    let (worst, (strips, area, _)) = open.iter().max_by(|a, b| a.1.1.total_cmp(&b.1.1))?;
    let finding = at_sides(Code::Uncovered, view, strips.clone(), |sides| FrameDetail::Gaps { sides });
    Some(Finding {
        displays: open.iter().map(|(on, _)| *on).collect(),
        worst: Some(*worst),
        varies: open.iter().any(|(_, (_, other, _))| (other - area).abs() > VISIBLE),
        ..finding.by(*area)
    })
}

/// In how many relations a view is tied to the screen: across, and down. What is tied to the safe area keeps to
/// that on purpose.
fn ties_to_screen(screen: &Screen, view: ViewId) -> [usize; 2] {
    let is_screen = |t: &Term| t.anchor == Anchor::Screen;
    let relations =
        screen.rules().filter(|(_, rule)| rule.owner() == Some(view)).flat_map(|(_, r)| r.relations());
    let mut ties = [0, 0];
    for relation in relations {
        let terms = relation.terms();
        let own = terms.iter().find(|t| t.anchor == Anchor::View(view));
        let Some(is_across) = own.map(|t| t.coordinate.is_horizontal()) else { continue };
        if terms.iter().any(|t| is_screen(t) && t.coordinate.is_horizontal() == is_across) {
            ties[usize::from(!is_across)] += 1;
        }
    }
    ties
}
