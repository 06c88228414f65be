//! TODO-HEAD

pub(crate) mod broken_rules;
pub(crate) mod expectations;
pub(crate) mod frames;
pub(crate) mod inspect;
pub(crate) mod targets_and_insets;
