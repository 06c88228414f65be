//! What rules are tied to, and the numbers that they name, in a placement.

use crate::screen_ext::ScreenExt as _;
use vantic_core::geometry::Frame;
use vantic_core::model::{Anchor, Change, Screen, ValueId, ViewId};
use vantic_core::plan::Placement;

/// The view that an anchor stands for; the nearest sibling that is there for `prev` and `next`.
pub(crate) fn view_at(screen: &Screen, placement: &Placement, anchor: Anchor) -> Option<ViewId> {
    let is_there = |view: &ViewId| placement.frame(*view).is_some();
    match anchor {
        Anchor::View(view) => Some(view),
        Anchor::Prev(view) => screen.around(view).0.into_iter().rfind(is_there),
        Anchor::Next(view) => screen.around(view).1.into_iter().find(is_there),
        Anchor::Screen | Anchor::Safe | Anchor::Clear | Anchor::Cells { .. } => None,
    }
}

/// The frame of an anchor; `None` where it is not there, and for the cells of a guide.
pub(crate) fn frame_at(screen: &Screen, placement: &Placement, anchor: Anchor) -> Option<Frame> {
    match anchor {
        Anchor::Screen => Some(placement.screen_frame()),
        Anchor::Safe => Some(placement.safe_frame()),
        Anchor::Clear => Some(placement.clear_frame()),
        anchor => placement.frame(view_at(screen, placement, anchor)?),
    }
}

/// A named number, as the bands that hold have it.
pub(crate) fn named_number(screen: &Screen, placement: &Placement, value: ValueId) -> f64 {
    let holds = |band: usize| screen.bands()[band].condition().holds(placement.canvas());
    let changed = screen.changes().iter().rev().find_map(|(band, change)| match change {
        Change::Value { value: of, number } if *of == value && holds(band.index()) => Some(*number),
        _ => None,
    });
    changed.unwrap_or_else(|| screen.values()[value.index()].on(placement.canvas()))
}
