//! Bands: named conditions, and what they change.

use crate::display::display::Display;
use crate::model::condition::Condition;
use crate::model::id::{RuleId, ValueId, ViewId};
use crate::model::setting::Setting;

/// A named number that bands change, or a parameter: one that the application sets.
#[derive(Clone, Debug, PartialEq)]
pub struct Value {
    pub(crate) name: String,
    pub(crate) number: f64,
    /// Of a parameter: from where to where it may be set.
    pub(crate) range: Option<(f64, f64)>,
}

impl Value {
    /// The name.
    pub fn name(&self) -> &str {
        &self.name
    }

    /// The number where no band changes it, or the application sets none.
    pub fn number(&self) -> f64 {
        self.number
    }

    /// Of a parameter: from where to where the application may set it, both ends included.
    pub fn range(&self) -> Option<(f64, f64)> {
        self.range
    }

    /// The number on a display, where no band changes it.
    pub fn on(&self, display: &Display) -> f64 {
        let set = self.range.and_then(|_| display.parameter(&self.name));
        set.unwrap_or(self.number)
    }
}

/// A named condition on the display.
#[derive(Clone, Debug, PartialEq)]
pub struct Band {
    pub(crate) name: String,
    pub(crate) condition: Condition,
}

impl Band {
    /// The name.
    pub fn name(&self) -> &str {
        &self.name
    }

    /// When it holds.
    pub fn condition(&self) -> &Condition {
        &self.condition
    }
}

/// What a band does, in written order.
#[derive(Clone, Debug, PartialEq)]
pub enum Change {
    /// Adds a rule; it replaces an earlier one of the same view with the same label.
    Add(RuleId),
    /// Drops a rule.
    Drop(RuleId),
    /// Removes a view and every rule in its block.
    Hide {
        /// The view.
        view: ViewId,
        /// Whether it keeps its frame and only paints nothing.
        keep_space: bool,
        /// What is shown instead of it, and read where rules read it.
        instead: Option<ViewId>,
    },
    /// Shows what was hidden before, or is there only elsewhere.
    Show(ViewId),
    /// Changes a setting of a view.
    Set {
        /// The view.
        view: ViewId,
        /// The setting.
        setting: Setting,
    },
    /// Gives a named number another value.
    Value {
        /// The named number.
        value: ValueId,
        /// Its value in the band.
        number: f64,
    },
}
