//! What a screen claims over a range of displays; data only.

use crate::display::quantity::DisplayQuantity;
use crate::model::condition::Property;
use crate::model::coordinate::{Anchor, Coordinate};
use crate::model::id::ViewId;

/// What is claimed of a view.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Claimed {
    /// It lies inside a place.
    Inside(Anchor),
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
    /// The range over which it is so: what of the display, from and to; `None` for the displays that are
    /// checked.
    pub over: Option<(Property, f64, f64)>,
}

/// The properties of a display that a claim may range over, and what changes along it.
pub const RANGES: [(Property, DisplayQuantity); 4] = [
    (Property::ScreenWidth, DisplayQuantity::Width),
    (Property::ScreenHeight, DisplayQuantity::Height),
    (Property::TextScale, DisplayQuantity::TextScale),
    (Property::Density, DisplayQuantity::Density),
];

impl Claim {
    /// The quantity that it ranges over, from and to; `None` for a claim about the displays that are checked.
    pub fn along(&self) -> Option<(DisplayQuantity, f64, f64)> {
        let (property, from, to) = self.over?;
        let (_, along) = RANGES.iter().find(|(of, _)| *of == property)?;
        Some((*along, from, to))
    }
}
