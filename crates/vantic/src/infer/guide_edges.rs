//! The edges of guides that a view could be pinned to.

use crate::screen_ext::ScreenExt as _;
use vantic_core::geometry::Axis;
use vantic_core::model::{Anchor, Coordinate, Edges, Screen, ViewId};
use vantic_core::plan::Placement;

/// The most columns or rows of one guide that are looked at.
const MAX_LOOKED_AT: u32 = 1000;

/// An edge of a guide, or of one of its columns or rows.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct GuideEdge {
    pub(crate) anchor: Anchor,
    /// `Start` or `End`, `Top` or `Bottom`.
    pub(crate) edge: Coordinate,
    /// Where it is; across, measured along the reading direction.
    pub(crate) at: f64,
}

/// The edges along an axis of the guides that a view can name: those of the views around it, and of the
/// screen.
pub(crate) fn guide_edges(
    placement: &Placement,
    screen: &Screen,
    view: ViewId,
    axis: Axis,
) -> Vec<GuideEdge> {
    let direction = placement.display.direction();
    let sheets =
        |guide: &ViewId| screen.at(*guide).parent().is_some_and(|p| screen.at(p).scrolled() == Some(*guide));
    let guides = screen.ancestors(view).flat_map(|v| screen.at(v).guides()).chain(screen.guides()).copied();
    let mut found = Vec::new();
    for guide in guides.filter(|guide| !sheets(guide)) {
        let Some(whole) = placement.frame(guide) else { continue };
        let divided = placement.divisions.get(&guide).filter(|d| d.columns == (axis == Axis::Across));
        let count = divided.map_or(0, |d| d.count.min(MAX_LOOKED_AT));
        let cells = (1..=count).filter_map(|n| Some((guide.cell(n), placement.cell(guide, n)?)));
        let plain = (count == 0 && divided.is_none()).then_some((guide.into(), whole));
        let edges = Edges::of_axis(axis);
        for (anchor, frame) in cells.chain(plain) {
            let (near, far) = frame.along(axis, direction);
            found.push(GuideEdge { anchor, edge: edges.near, at: near });
            if near != far {
                found.push(GuideEdge { anchor, edge: edges.far, at: far });
            }
        }
    }
    found
}
