//! TODO-HEAD

pub(crate) mod pins;
pub(crate) mod rules;
