//! Rules that are more than a relation, for Rust and screen files alike.

pub(crate) mod pins;
pub(crate) mod rules;
