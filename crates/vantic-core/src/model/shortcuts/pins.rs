//! TODO-HEAD

use crate::model::coordinate::{Place, Side};
use crate::model::expression::Expr;
use crate::model::id::ViewId;
use crate::model::rule::Draft;

impl ViewId {
    /// The sibling declared before this view (a hidden one is skipped).
    pub fn prev(self) -> Place {
        Place::Prev(self)
    }

    /// The sibling declared after this view (a hidden one is skipped).
    pub fn next(self) -> Place {
        Place::Next(self)
    }

    /// Pins sides of this view to the same sides of a place, each at its distance inwards.
    pub fn pin<const N: usize>(self, sides: [(Side, f64); N], to: impl Into<Place>) -> Draft {
        let to = to.into();
        Draft::new(sides.map(|(side, by)| side.pinned(self, to, Expr::from(by))).into())
    }
}
