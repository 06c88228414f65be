//! TODO-HEAD

pub(crate) mod bases;
pub(crate) mod expectations;
pub(crate) mod toml;
pub(crate) mod words;

pub use bases::{Assembled, InFile, MAX_BASES};
pub use expectations::{ExpectError, to_expectations, with_expectations};
pub use words::{WordsError, with_words};
