//! Measuring text: the trait that a text engine implements, and plain measurers for tests and examples.
//!
//! The plan calls it; an application brings its own engine.

pub(crate) mod measure;
pub(crate) mod units;

pub use measure::{EvenText, LongerText, Measure, PlainText, RememberedText, TextRequest, TextSize};
