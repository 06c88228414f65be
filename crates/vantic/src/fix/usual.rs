//! Distances that are usual between views, and which coordinates are edges along an axis.

use vantic_core::model::Coordinate;

/// A distance to a neighbour where nothing says another: down, and across.
pub(crate) const GAPS: [f64; 2] = [8.0, 12.0];

/// A distance that is kept on purpose is no larger.
pub(crate) const MOST_GAP: f64 = 40.0;

/// Whether it is a distance that one keeps between views.
pub(crate) fn is_usual_gap(gap: &f64) -> bool {
    (1.0..=MOST_GAP).contains(gap) && gap.fract() == 0.0
}

/// Whether it is the edge at which an axis ends.
pub(crate) fn is_far(coordinate: Coordinate, across: bool) -> bool {
    match across {
        true => matches!(coordinate, Coordinate::Right | Coordinate::End),
        false => coordinate == Coordinate::Bottom,
    }
}

/// Whether it is the edge at which an axis begins.
pub(crate) fn is_near(coordinate: Coordinate, across: bool) -> bool {
    match across {
        true => matches!(coordinate, Coordinate::Left | Coordinate::Start),
        false => coordinate == Coordinate::Top,
    }
}
