//! Why a screen cannot be planned or placed.

use crate::model::id::RuleId;

/// Why a screen cannot be placed on every display.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
#[non_exhaustive]
pub enum PlanError {
    /// A rule reads a view that a band hides.
    #[error("`{rule}` reads `{view}`, which is hidden {bands}; replace or drop the rule there")]
    ReadsHidden {
        /// The rule; `None` for how a view arranges its children.
        id: Option<RuleId>,
        /// The rule's name.
        rule: String,
        /// The hidden view.
        view: String,
        /// In which bands, in words.
        bands: String,
    },
    /// `prev` or `next` finds no sibling once bands have hidden some.
    #[error("`{rule}`: no sibling {side} `{view}` remains {bands}; replace or drop the rule there")]
    NoSibling {
        /// The rule; `None` for how a view arranges its children.
        id: Option<RuleId>,
        /// The rule's name.
        rule: String,
        /// The view whose sibling is missing.
        view: String,
        /// Before or after.
        side: &'static str,
        /// In which bands, in words.
        bands: String,
    },
    /// A rule reads a column or row that a guide does not have in some bands.
    #[error(
        "`{rule}` reads number {number} of `{guide}`, which has {count} {bands}; replace or drop the rule \
         there"
    )]
    NoCell {
        /// The rule; `None` for how a view arranges its children.
        id: Option<RuleId>,
        /// The rule's name.
        rule: String,
        /// The guide.
        guide: String,
        /// The column or row.
        number: u32,
        /// How many there are.
        count: u32,
        /// In which bands, in words.
        bands: String,
    },
    /// The bands tell more kinds of display apart than can be looked at one by one.
    #[error(
        "the bands distinguish too many kinds of display: use fewer bands, or fewer different numbers in them"
    )]
    TooManyBands,
}

impl PlanError {
    /// The rule that it is about, if it is about one.
    pub fn rule(&self) -> Option<RuleId> {
        match self {
            PlanError::ReadsHidden { id, .. }
            | PlanError::NoSibling { id, .. }
            | PlanError::NoCell { id, .. } => *id,
            PlanError::TooManyBands => None,
        }
    }

    /// The path of the hidden view that it is about, if it is about one.
    pub fn hidden_view(&self) -> Option<&str> {
        match self {
            PlanError::ReadsHidden { view, .. } => Some(view),
            _ => None,
        }
    }
}

/// Why a screen could not be placed.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
#[non_exhaustive]
pub enum PlaceError {
    /// The text engine returned a measure that is negative or not finite.
    #[error("the text engine measured `{view}` as negative or not a number")]
    Measure {
        /// The text.
        view: String,
    },
    /// A parameter is set beyond its range.
    #[error("`{name}` is set to {number}; it has to be within {from} and {to}")]
    Parameter {
        /// The parameter.
        name: String,
        /// What it is set to.
        number: f64,
        /// From where it may be set.
        from: f64,
        /// To where it may be set.
        to: f64,
    },
    /// The bands that hold on this display leave a rule without what it reads.
    #[error(transparent)]
    Bands(#[from] PlanError),
}
