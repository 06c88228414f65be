//! What a screen claims over a range of displays; data only.

use crate::display::quantity::DisplayQuantity;
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
    /// The range over which it is so: what of the display, one of [`RANGES`], from and to; `None` for the
    /// displays that are checked.
    pub over: Option<(DisplayQuantity, f64, f64)>,
}

/// What of a display a claim may range over, with its spelling in a screen file.
pub const RANGES: [(&str, DisplayQuantity); 5] = [
    ("screen.width", DisplayQuantity::Width),
    ("screen.height", DisplayQuantity::Height),
    ("text_scale", DisplayQuantity::TextScale),
    ("density", DisplayQuantity::Density),
    ("scroll", DisplayQuantity::Scroll),
];
