//! What is wrong with one placement, as its frames show it: `frames`, `overlaps`, `shape`, `collapse`,
//! `targets_and_insets`, `broken_rules`, `expectations`.
//!
//! `check` and `sweep` both call it, so that they agree.

pub(crate) mod anchors;
pub(crate) mod broken_rules;
pub(crate) mod collapse;
pub(crate) mod expectations;
pub(crate) mod frames;
pub(crate) mod inspect;
pub(crate) mod meant;
pub(crate) mod outline;
pub(crate) mod overlaps;
pub(crate) mod shape;
pub(crate) mod targets_and_insets;
