//! Scrolling: which way a view scrolls, what sticks while it does, and what becomes of what is larger than
//! the view that holds it.

use crate::geometry::axis::Axis;
use crate::model::coordinate::Side;
use crate::model::id::ViewId;

/// Which way a view scrolls what it holds.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Default)]
pub enum Scroll {
    /// Not here; a band may say otherwise.
    #[default]
    Off,
    /// Up and down.
    Down,
    /// Along the reading direction.
    Across,
    /// Both ways.
    Both,
}

impl Scroll {
    /// All with their spelling in a screen file.
    pub const SPELLINGS: [(&'static str, Scroll); 4] =
        [("off", Scroll::Off), ("down", Scroll::Down), ("across", Scroll::Across), ("both", Scroll::Both)];

    /// The spelling in a screen file.
    pub fn spelling(self) -> &'static str {
        Self::SPELLINGS[self as usize].0
    }

    /// Whether it goes along an axis.
    pub fn goes(self, axis: Axis) -> bool {
        match self {
            Scroll::Off => false,
            Scroll::Both => true,
            Scroll::Down => axis == Axis::Down,
            Scroll::Across => axis == Axis::Across,
        }
    }
}

/// What becomes of what is larger than the view that holds it, or reaches beyond it.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Default)]
pub enum Overflow {
    /// It is shown, and reported.
    #[default]
    Show,
    /// It is cut off at the view's edges.
    Clip,
    /// All that the view holds is painted smaller, until it fits.
    Scale,
}

impl Overflow {
    /// All with their spelling in a screen file.
    pub const SPELLINGS: [(&'static str, Overflow); 3] =
        [("show", Overflow::Show), ("clip", Overflow::Clip), ("scale", Overflow::Scale)];

    /// The spelling in a screen file.
    pub fn spelling(self) -> &'static str {
        Self::SPELLINGS[self as usize].0
    }
}

/// How far a view is scrolled on a display: across along the reading direction, then down, in logical pixels.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Scrolled {
    /// How far it is scrolled.
    pub offset: (f64, f64),
    /// How far it can be.
    pub most: (f64, f64),
}

/// A view that sticks to a side of a view around it that scrolls.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct StickyOffset {
    /// The view that scrolls.
    pub scroller: ViewId,
    /// The side it sticks to.
    pub side: Side,
    /// The offsets between which it is held, in logical pixels: before and behind them it moves with its
    /// parent.
    pub held: (f64, f64),
    /// How far it is held away from where its rules put it; 0 where it moves with its parent.
    pub by: f64,
}

/// A view that is to stick to a side and cannot.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct UnstickableView {
    /// The view.
    pub view: ViewId,
    /// The side that it was to stick to.
    pub side: Side,
    /// The view around it that scrolls, and the one between them that clips; `None` where none scrolls.
    pub clipped: Option<(ViewId, ViewId)>,
}
