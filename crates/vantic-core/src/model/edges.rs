//! The edges and the size that go with an axis.

use crate::geometry::axis::Axis;
use crate::model::coordinate::Coordinate;
use crate::model::expression::Expr;

/// The edges and the size that go with an axis.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Edges {
    /// The edge nearer to where the axis begins.
    pub near: Coordinate,
    /// The other one.
    pub far: Coordinate,
    /// The size between them.
    pub size: Coordinate,
}

pub(crate) const ACROSS: Edges =
    Edges { near: Coordinate::Start, far: Coordinate::End, size: Coordinate::Width };

pub(crate) const LEFT_TO_RIGHT: Edges =
    Edges { near: Coordinate::Left, far: Coordinate::Right, size: Coordinate::Width };

pub(crate) const DOWN: Edges =
    Edges { near: Coordinate::Top, far: Coordinate::Bottom, size: Coordinate::Height };

impl Edges {
    /// Those of an axis, across along the reading direction.
    pub fn of_axis(axis: Axis) -> Self {
        match axis {
            Axis::Across => ACROSS,
            Axis::Down => DOWN,
        }
    }

    /// The edges that an expression speaks of; `None` where it names no edge, or edges of both axes.
    pub fn of(expr: &Expr) -> Option<Edges> {
        let mut found: Vec<Edges> = Vec::new();
        expr.each(&mut |e| {
            let edges = e.terms().iter().map(|t| t.coordinate).filter(|c| c.is_position());
            found.extend(edges.map(|c| match c {
                Coordinate::Start | Coordinate::End => ACROSS,
                c if c.is_horizontal() => LEFT_TO_RIGHT,
                _ => DOWN,
            }));
        });
        found.first().copied().filter(|first| found.iter().all(|e| e.size == first.size))
    }
}
