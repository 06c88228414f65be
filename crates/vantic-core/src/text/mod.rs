//! TODO-HEAD

pub(crate) mod measure;

pub use measure::{EvenText, LongerText, Measure, PlainText, RememberedText, TextRequest, TextSize};
