//! The outlines of what is painted: frames, and what turning and scaling makes of them.

use vantic_core::geometry::Frame;
use vantic_core::model::{Screen, ViewId};
use vantic_core::plan::Placement;
use vantic_core::tolerance::VISIBLE;

type Point = (f64, f64);

/// The corners of what is painted of a view, in order around it.
pub(crate) struct Outline {
    corners: Vec<Point>,
    /// The box itself, where it is one.
    frame: Option<Frame>,
}

/// What two outlines share: how large a box around it is, and its area.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Shared {
    pub(crate) width: f64,
    pub(crate) height: f64,
    pub(crate) area: f64,
}

impl Outline {
    /// `seen` is the frame as far as it is seen, for a view that is painted where it is.
    pub(crate) fn of(screen: &Screen, placement: &Placement, view: ViewId, seen: &Frame) -> Self {
        let painting = placement.painting(screen, view);
        let frame = if painting.is_plain() { Some(*seen) } else { None };
        let Frame { left, top, width, height } = frame.or_else(|| placement.frame(view)).unwrap_or_default();
        let corners = [(left, top), (left + width, top), (left + width, top + height), (left, top + height)];
        let corners = corners.map(|(x, y)| painting.apply(x, y)).to_vec();
        Self { corners, frame }
    }

    pub(crate) fn shared(&self, other: &Outline) -> Option<Shared> {
        if let (Some(a), Some(b)) = (self.frame, other.frame) {
            let Frame { width, height, .. } = a.shared(&b)?;
            return Some(Shared { width, height, area: width * height });
        }
        let shared = cut_to(self.corners.clone(), &other.corners);
        if shared.len() < 3 {
            return None;
        }
        let span = |of: fn(&Point) -> f64| {
            let ends = shared.iter().map(of).fold((f64::MAX, f64::MIN), |(l, h), x| (l.min(x), h.max(x)));
            ends.1 - ends.0
        };
        let (width, height, area) = (span(|p| p.0), span(|p| p.1), area(&shared).abs());
        // Two that only touch share a line, which may lie at any angle.
        let thickness = area / width.hypot(height);
        (thickness > VISIBLE).then_some(Shared { width, height, area })
    }
}

/// Twice signed, halved: the area within corners, above zero where they go clockwise.
fn area(corners: &[Point]) -> f64 {
    let next = corners.iter().skip(1).chain(corners.first());
    std::iter::zip(corners, next).map(|(a, b)| a.0 * b.1 - b.0 * a.1).sum::<f64>() / 2.0
}

/// A convex outline cut to another one, edge by edge (Sutherland and Hodgman, 1974).
fn cut_to(mut corners: Vec<Point>, to: &[Point]) -> Vec<Point> {
    let turn = area(to).signum();
    let edges = std::iter::zip(to, to.iter().skip(1).chain(to.first()));
    for (from, until) in edges {
        let inside =
            |p: Point| turn * ((until.0 - from.0) * (p.1 - from.1) - (until.1 - from.1) * (p.0 - from.0));
        let next = corners.iter().skip(1).chain(corners.first());
        let cut = std::iter::zip(&corners, next).flat_map(|(&a, &b)| {
            let (is_a, is_b) = (inside(a), inside(b));
            let crosses = (is_a >= 0.0) != (is_b >= 0.0);
            let part = is_a / (is_a - is_b);
            let crossing = crosses.then_some((a.0 + (b.0 - a.0) * part, a.1 + (b.1 - a.1) * part));
            (is_a >= 0.0).then_some(a).into_iter().chain(crossing)
        });
        corners = cut.collect();
    }
    corners
}
