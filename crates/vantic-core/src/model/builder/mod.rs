//! Building a screen, in Rust or from a screen file. Everything is checked here and nowhere else.

pub(crate) mod builder;
mod copies;
pub(crate) mod edits;
pub(crate) mod names;
pub(crate) mod references;
mod register;
pub(crate) mod sections;
pub(crate) mod values;
