//! What follows from scrolling once frames are known: what sticks, and what is painted smaller.

use crate::geometry::axis::Axis;
use crate::geometry::direction::Direction;
use crate::geometry::frame::Frame;
use crate::model::id::ViewId;
use crate::model::screen::Screen;
use crate::model::scroll::{Overflow, StickyOffset, UnstickableView};
use crate::plan::place::appearance::Fit;
use crate::plan::variant::{Variant, Visibility};
use std::collections::BTreeMap;

/// What sticks, and what was to and cannot.
#[derive(Default)]
pub(crate) struct Sticking {
    pub(crate) stuck: BTreeMap<ViewId, Vec<StickyOffset>>,
    pub(crate) unstickable: Vec<UnstickableView>,
}

/// Holds what sticks within the view around it, at the side of the nearest view around it that scrolls, and
/// moves all that is within it along. Nothing else moves: rules read where it would be without.
pub(crate) fn stick(
    screen: &Screen,
    variant: &Variant,
    direction: Direction,
    frames: &mut [Option<Frame>],
) -> Sticking {
    let mut sticking = Sticking::default();
    let here = |view: ViewId| variant.view(screen, view);
    if !screen.views().any(|(view, _)| !here(view).stick.is_empty()) {
        return sticking;
    }
    // Views come behind the views around them, so that those have been moved.
    let mut moved = vec![(0.0, 0.0); frames.len()];
    for (view, about) in screen.views() {
        let index = view.index();
        moved[index] = about.parent.map_or((0.0, 0.0), |p| moved[p.index()]);
        let Some(mut frame) = frames[index] else { continue };
        (frame.left, frame.top) = (frame.left + moved[index].0, frame.top + moved[index].1);
        for &(side, inset) in &here(view).stick {
            let (axis, is_near) = side.along(direction);
            let scrolls = |v: &ViewId| here(*v).scroll.is_some_and(|s| s.goes(axis));
            let scroller = screen.ancestors(view).find(scrolls);
            let clips = |v: &ViewId| here(*v).overflow == Overflow::Clip;
            let clipper = scroller.and_then(|s| screen.ancestors(view).take_while(|v| *v != s).find(clips));
            let content = scroller.and_then(|s| frames[screen.at(s).content_box?.index()]);
            let (Some(scroller), Some(content), None) = (scroller, content, clipper) else {
                let clipped = scroller.and_then(|s| Some((s, clipper?)));
                // Where a band only keeps it from scrolling, nothing is wrong.
                if clipped.is_some() || screen.ancestors(view).all(|v| screen.at(v).content_box.is_none()) {
                    sticking.unstickable.push(UnstickableView { view, side, clipped });
                }
                continue;
            };
            let section = match about.parent {
                Some(parent) if parent != scroller => frames[parent.index()],
                _ => Some(content),
            };
            let (Some(port), Some(section)) = (frames[scroller.index()], section) else { continue };
            let [own, port, section, content] =
                [frame, port, section, content].map(|f| f.along(axis, direction));
            let (size, seen) = (own.1 - own.0, port.1 - port.0);
            let (held, by) = if is_near {
                let held = (own.0 - content.0 - inset, section.1 - content.0 - size - inset);
                (held, (port.0 + inset).min(section.1 - size) - own.0)
            } else {
                let held = (section.0 - content.0 + size + inset - seen, own.1 - content.0 + inset - seen);
                (held, (port.1 - inset).max(section.0 + size) - own.1)
            };
            // It is never moved the other way.
            let by = if is_near { by.max(0.0) } else { by.min(0.0) };
            match (axis, direction) {
                (Axis::Down, _) => frame.top += by,
                (Axis::Across, Direction::LeftToRight) => frame.left += by,
                (Axis::Across, Direction::RightToLeft) => frame.left -= by,
            }
            sticking.stuck.entry(view).or_default().push(StickyOffset { scroller, side, held, by });
        }
        let before = frames[index].replace(frame).unwrap_or_default();
        moved[index] = (frame.left - before.left, frame.top - before.top);
    }
    sticking
}

/// For views that paint what they hold smaller where it reaches beyond them: how.
pub(crate) fn fits(
    screen: &Screen,
    variant: &Variant,
    direction: Direction,
    frames: &[Option<Frame>],
) -> BTreeMap<ViewId, Fit> {
    let scales = |view: ViewId| variant.view(screen, view).overflow == Overflow::Scale;
    // Per view: how far what it holds reaches beyond it, before and behind, along each axis.
    let mut beyond: BTreeMap<ViewId, [(f64, f64); 2]> = BTreeMap::new();
    if !screen.views().any(|(view, _)| scales(view)) {
        return BTreeMap::new();
    }
    for (view, about) in screen.views() {
        let is_seen = variant.visible[view.index()] == Visibility::Shown && about.guide.is_none();
        let Some(frame) = frames[view.index()].filter(|_| is_seen) else { continue };
        for holder in screen.ancestors(view).filter(|&holder| scales(holder)) {
            let Some(within) = frames[holder.index()] else { continue };
            let reaches = beyond.entry(holder).or_default();
            for (axis, reach) in [Axis::Across, Axis::Down].into_iter().zip(reaches) {
                let (own, around) = (frame.along(axis, direction), within.along(axis, direction));
                *reach = (reach.0.max(around.0 - own.0), reach.1.max(own.1 - around.1));
            }
        }
    }
    let fit = |(view, reaches): (ViewId, [(f64, f64); 2])| {
        let frame = frames[view.index()]?;
        let sizes = [frame.width, frame.height];
        let factors =
            std::iter::zip(sizes, reaches).map(|(size, (before, behind))| size / (before + size + behind));
        let factor = factors.filter(|factor| factor.is_finite()).fold(1.0, f64::min);
        if factor >= 1.0 || factor <= 0.0 {
            return None;
        }
        // What lies before the view by so much comes to its edge where this point stays.
        let fixed =
            |size: f64, before: f64| if size > 0.0 { factor * before / (1.0 - factor) / size } else { 0.0 };
        let (across, down) = (fixed(frame.width, reaches[0].0), fixed(frame.height, reaches[1].0));
        let across = if direction == Direction::RightToLeft { 1.0 - across } else { across };
        Some((view, Fit { factor, origin: (across, down) }))
    };
    beyond.into_iter().filter_map(fit).collect()
}
