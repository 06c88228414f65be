//! A whole range of displays examined: where it starts to break, exactly.
//!
//! [`walk`] goes along the range from border to border: between two of them everything moves evenly, so that what is true
//! at both ends is true in between. [`stretch`] finds what begins and ends on the way, [`told`] puts the
//! differences between one stretch and the next into words, [`trouble`] says where something is wrong all along, and
//! where a band should begin; [`claims`] proves what a screen claims.

mod claims;
mod stretch;
mod told;
mod trouble;
mod walk;

pub use claims::ClaimVerdict;
pub(crate) use claims::examine as examine_claims;
pub use told::{Event, EventKind};
pub use trouble::{Trouble, map_of};

use crate::coordinate::Coordinate;
use crate::display::{Display, DisplayError};
use crate::expect::value_of;
use crate::measure::Measure;
use crate::plan::{PlaceError, Placement, Plan};
use crate::screen::ViewId;
use stretch::Stretch;

/// What changes along a range.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Along {
    /// The width, in logical pixels.
    Width,
    /// The height, in logical pixels.
    Height,
    /// The width, and the height with it in proportion.
    Aspect,
    /// The reader's text scale.
    TextScale,
    /// How high a keyboard on the screen is, in logical pixels.
    Keyboard,
    /// The top inset, in logical pixels.
    InsetTop,
    /// The bottom inset, in logical pixels.
    InsetBottom,
    /// The left inset, in logical pixels.
    InsetLeft,
    /// The right inset, in logical pixels.
    InsetRight,
    /// Device pixels to a logical pixel.
    Density,
}

impl Along {
    /// All with their spelling on the command line.
    pub const SPELLINGS: [(&'static str, Along); 10] = [
        ("width", Along::Width),
        ("height", Along::Height),
        ("aspect", Along::Aspect),
        ("text", Along::TextScale),
        ("keyboard", Along::Keyboard),
        ("top-inset", Along::InsetTop),
        ("bottom-inset", Along::InsetBottom),
        ("left-inset", Along::InsetLeft),
        ("right-inset", Along::InsetRight),
        ("density", Along::Density),
    ];

    /// What it is called in words.
    pub fn name(self) -> &'static str {
        match self {
            Along::Width | Along::Aspect => "width",
            Along::Height => "height",
            Along::TextScale => "text scale",
            Along::Keyboard => "keyboard height",
            Along::InsetTop => "top inset",
            Along::InsetBottom => "bottom inset",
            Along::InsetLeft => "left inset",
            Along::InsetRight => "right inset",
            Along::Density => "density",
        }
    }

    /// A display with this much of it.
    ///
    /// # Errors
    /// An amount with which there is no such display.
    pub fn at(self, display: &Display, amount: f64) -> Result<Display, DisplayError> {
        let (width, height, mut insets) = (display.width(), display.height(), display.insets());
        match self {
            Along::Width => display.with_size(amount, height),
            Along::Height => display.with_size(width, amount),
            Along::Aspect => display.with_size(amount, height * amount / width),
            Along::TextScale => display.clone().with_text_scale(amount),
            Along::Keyboard => display.clone().with_keyboard(amount),
            Along::Density => display.clone().with_density(amount),
            Along::InsetTop | Along::InsetBottom | Along::InsetLeft | Along::InsetRight => {
                let side = match self {
                    Along::InsetTop => &mut insets.top,
                    Along::InsetBottom => &mut insets.bottom,
                    Along::InsetLeft => &mut insets.left,
                    _ => &mut insets.right,
                };
                *side = amount;
                display.clone().with_insets(insets)
            }
        }
    }

    /// How much of it a display has.
    pub(crate) fn of(self, display: &Display) -> f64 {
        let insets = display.insets();
        match self {
            Along::Width | Along::Aspect => display.width(),
            Along::Height => display.height(),
            Along::TextScale => display.text_scale(),
            Along::Keyboard => display.keyboard(),
            Along::Density => display.density(),
            Along::InsetTop => insets.top,
            Along::InsetBottom => insets.bottom,
            Along::InsetLeft => insets.left,
            Along::InsetRight => insets.right,
        }
    }

    /// Whether everything a rule reads of the display changes evenly along it.
    fn is_even(self) -> bool {
        !matches!(self, Along::TextScale | Along::Density)
    }
}

/// What is examined.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Range {
    /// What changes.
    pub along: Along,
    /// From how much of it.
    pub from: f64,
    /// Up to how much.
    pub to: f64,
    /// How far siblings are to be apart for them not to be in each other's way, in logical pixels.
    pub gap: f64,
}

/// Why a range cannot be examined.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
pub enum SweepError {
    /// The range is empty, upside down, or its ends are no numbers.
    #[error("the range {from}..{to} is upside down or empty: write the lesser number first")]
    Range {
        /// Where it begins.
        from: f64,
        /// Where it ends.
        to: f64,
    },
    /// There is no such display at one of the ends.
    #[error(transparent)]
    Display(#[from] DisplayError),
    /// A display of it cannot be placed.
    #[error(transparent)]
    Place(#[from] PlaceError),
    /// The borders are too many.
    #[error("more than {limit} borders lie in the range: examine a shorter one")]
    Borders {
        /// The limit.
        limit: usize,
    },
}

/// How many borders one range may have.
pub const MAX_BORDERS: usize = 5_000;

/// How sure what is said of a range is.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum Proof {
    /// Proven: between borders everything moves evenly, and every border was met.
    Exact,
    /// As exact, but which of several expressions counts (`max`, `min`, `clamp`) was searched for, and looked at in a few places
    /// only between borders.
    Searched,
    /// Looked at in many places, since things do not move evenly; where two differ the border was found by halving.
    Sampled,
}

/// A range of displays that was examined.
#[derive(Clone, Debug, PartialEq)]
pub struct Sweep {
    /// What was examined.
    pub range: Range,
    /// What begins, ends or changes, in order.
    pub events: Vec<Event>,
    /// Where something is wrong, and from where to where.
    pub troubles: Vec<Trouble>,
    /// How sure that is.
    pub proof: Proof,
    /// The placements at both ends, and on both sides of each border, with where they are.
    pub placements: Vec<(f64, Placement)>,
    /// Bands that would keep trouble away: what to write, and why.
    pub bands: Vec<(String, String)>,
}

/// Examines a screen over a range, all else as it is on a display.
///
/// # Errors
/// A range that is empty or upside down, ends with which there is no display, more than [`MAX_BORDERS`] borders.
pub fn sweep(
    plan: &Plan,
    display: &Display,
    range: Range,
    measure: &dyn Measure,
) -> Result<Sweep, SweepError> {
    let Range { along, from, to, .. } = range;
    if !(from.is_finite() && to.is_finite() && from < to) {
        return Err(SweepError::Range { from, to });
    }
    along.at(display, from)?;
    along.at(display, to)?;
    let walked = walk::walk(plan, display, range, measure)?;
    let screen = plan.screen();
    let stretches: Vec<Stretch> = walked.stretches;
    let events = told::events(screen, &stretches);
    let troubles = trouble::troubles(screen, range.gap, &stretches);
    let bands = trouble::bands(screen, &range, &troubles);
    let placements =
        stretches.into_iter().flat_map(|s| [(s.from, s.first.placement), (s.to, s.last.placement)]).collect();
    Ok(Sweep { range, events, troubles, proof: walked.proof, placements, bands })
}

/// Values that differ by no more than this, in logical pixels, go on from one another.
const GOES_ON: f64 = 1e-3;

impl Sweep {
    /// Over which part of the range a coordinate moves as evenly as it does at a place; `None` where its view is not there,
    /// and for what is measured along the reading direction or on a text's baseline.
    pub fn steady(&self, at: f64, view: ViewId, coordinate: Coordinate) -> Option<(f64, f64)> {
        if matches!(coordinate, Coordinate::Start | Coordinate::End | Coordinate::Baseline) {
            return None;
        }
        let value = |placement: &Placement| Some(value_of(&placement.frame(view)?, coordinate));
        let stretches: Vec<_> =
            self.placements.chunks(2).filter_map(|ends| Some((ends.first()?, ends.get(1)?))).collect();
        let here = stretches.iter().rposition(|(from, to)| from.0 <= at && at <= to.0)?;
        let (from, to) = stretches[here];
        let (start, rate) =
            (value(&from.1)?, (value(&to.1)? - value(&from.1)?) / (to.0 - from.0).max(GOES_ON));
        let goes_on = |(place, placement): &(f64, Placement)| {
            value(placement).is_some_and(|v| (v - start - rate * (place - from.0)).abs() < GOES_ON)
        };
        let evenly = |(a, b): &&(&(f64, Placement), &(f64, Placement))| goes_on(a) && goes_on(b);
        let behind = stretches[here + 1..].iter().take_while(evenly).last();
        let before = stretches[..here].iter().rev().take_while(evenly).last();
        Some((before.map_or(from.0, |s| s.0.0), behind.map_or(to.0, |s| s.1.0)))
    }

    /// What has been proven, in words: that nothing of a kind is wrong all along.
    pub fn proven(&self) -> Vec<String> {
        trouble::proven(self)
    }
}
