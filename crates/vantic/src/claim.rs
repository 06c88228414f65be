//! What a screen claims to be so over a whole range of displays.

use crate::coordinate::{Coordinate, Place};
use crate::screen::{Property, Screen, ViewId};
use crate::sweep::Along;

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
pub(crate) const RANGES: [(Property, Along); 4] = [
    (Property::ScreenWidth, Along::Width),
    (Property::ScreenHeight, Along::Height),
    (Property::TextScale, Along::TextScale),
    (Property::Density, Along::Density),
];

impl Claim {
    pub(crate) fn along(&self) -> Option<(Along, f64, f64)> {
        let (property, from, to) = self.over?;
        let (_, along) = RANGES.iter().find(|(of, _)| *of == property)?;
        Some((*along, from, to))
    }
}

impl Screen {
    /// What the screen claims, in written order.
    pub fn claims(&self) -> &[Claim] {
        &self.claims
    }

    /// A claim as it reads.
    pub fn claim_text(&self, claim: &Claim) -> String {
        let path = self.path(claim.view);
        let place = |place: Place| {
            let text = self.coordinate_text(place, Coordinate::Left, None);
            text.strip_suffix(".left").unwrap_or("screen").to_owned()
        };
        let what = match claim.what {
            Claimed::Inside(of) => format!("{path} inside {}", place(of)),
            Claimed::ClearOf(of, 0.0) => format!("{path} clear of {}", self.path(of)),
            Claimed::ClearOf(of, by) => format!("{path} clear of {} by {by}", self.path(of)),
            Claimed::Whole => format!("{path} whole"),
            Claimed::Same(coordinate) => format!("{path}.{} same", coordinate.spelling()),
        };
        match claim.over {
            Some((property, from, to)) => {
                let (of, _) = Property::SPELLINGS[property as usize];
                format!("claim {what} for {of} {from}..{to}")
            }
            None => format!("claim {what}"),
        }
    }
}
