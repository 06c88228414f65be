//! What rules are tied to, in a placement.

use crate::screen_ext::ScreenExt as _;
use vantic_core::geometry::Frame;
use vantic_core::model::{Anchor, Screen, ViewId};
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
