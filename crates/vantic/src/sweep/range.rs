//! What is swept, and how sure the result is.

use vantic_core::display::{DisplayError, DisplayQuantity};
use vantic_core::plan::PlaceError;

/// What is examined.
#[derive(Clone, Debug, PartialEq)]
pub struct Range {
    /// What changes.
    pub along: DisplayQuantity,
    /// From how much of it.
    pub from: f64,
    /// Up to how much.
    pub to: f64,
    /// How far siblings are to be apart for them not to be in each other's way, in logical pixels.
    pub gap: f64,
}

/// Why a range cannot be examined.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
#[non_exhaustive]
pub enum SweepError {
    /// The range is empty, upside down, or its ends are no numbers.
    #[error("the range {from}..{to} is reversed or empty: write the smaller number first")]
    Range {
        /// Where it begins.
        from: f64,
        /// Where it ends.
        to: f64,
    },
    /// The distance that siblings are to keep is below zero or no number.
    #[error("a distance of {gap} between siblings has no meaning: it has to be zero or more")]
    Gap {
        /// The distance.
        gap: f64,
    },
    /// There is no such display at one of the ends.
    #[error(transparent)]
    Display(#[from] DisplayError),
    /// A display of it cannot be placed.
    #[error(transparent)]
    Place(#[from] PlaceError),
    /// The borders are too many.
    #[error("more than {limit} breakpoints in the range: sweep a shorter one")]
    Borders {
        /// The limit.
        limit: usize,
    },
}

/// How many borders one range may have.
pub const MAX_BORDERS: usize = 5_000;

/// How certain the verdict on a range is.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum Proof {
    /// Proven: between borders everything moves evenly, and every border was met.
    Exact,
    /// As exact, but which of several expressions counts (`max`, `min`, `clamp`) was searched for, and looked
    /// at in a few places only between borders.
    Searched,
    /// Looked at in many places, since things do not move evenly; where two differ the border was found by
    /// halving.
    Sampled,
}
