//! Sides pinned to a box, and the siblings before and after.

use crate::model::coordinate::{Anchor, Side};
use crate::model::expression::Expr;
use crate::model::id::ViewId;
use crate::model::rule::RuleDraft;

impl ViewId {
    /// The sibling declared before this view (a hidden one is skipped).
    pub fn prev(self) -> Anchor {
        Anchor::Prev(self)
    }

    /// The sibling declared after this view (a hidden one is skipped).
    pub fn next(self) -> Anchor {
        Anchor::Next(self)
    }

    /// Pins sides of this view to the same sides of a place, each at its distance inwards.
    pub fn pin<T: Into<Expr>>(
        self,
        sides: impl IntoIterator<Item = (Side, T)>,
        to: impl Into<Anchor>,
    ) -> RuleDraft {
        let to = to.into();
        RuleDraft::new(sides.into_iter().map(|(side, by)| side.pinned(self, to, by.into())).collect())
    }
}
