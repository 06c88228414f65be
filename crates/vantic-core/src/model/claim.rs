//! TODO-HEAD

use crate::display::quantity::Along;
use crate::model::condition::Property;
use crate::model::coordinate::{Coordinate, Place};
use crate::model::id::ViewId;

/// What is claimed of a view.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Claimed {
    /// It lies inside a place.
    Inside(Place),
    /// It is clear of another view, at least so far away, in logical pixels.
    ClearOf(ViewId, f64),
    /// Its words are not cut.
    Whole,
    /// A coordinate is the same everywhere.
    Same(Coordinate),
}

/// Something that a screen claims.
#[derive(Clone, Debug, PartialEq)]
pub struct Claim {
    /// The view.
    pub view: ViewId,
    /// What is claimed of it.
    pub what: Claimed,
    /// The range over which it is so: what of the display, from and to; `None` for the displays that are checked.
    pub over: Option<(Property, f64, f64)>,
}

/// The properties of a display that a claim may range over, and what changes along it.
pub const RANGES: [(Property, Along); 4] = [
    (Property::ScreenWidth, Along::Width),
    (Property::ScreenHeight, Along::Height),
    (Property::TextScale, Along::TextScale),
    (Property::Density, Along::Density),
];

impl Claim {
    /// The quantity that it ranges over, from and to; `None` for a claim about the displays that are checked.
    pub fn along(&self) -> Option<(Along, f64, f64)> {
        let (property, from, to) = self.over?;
        let (_, along) = RANGES.iter().find(|(of, _)| *of == property)?;
        Some((*along, from, to))
    }
}
