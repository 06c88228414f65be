//! What stands in files beside a screen file: the files that it is based on, words in other languages,
//! expectations.
//!
//! Stands on `resolve`; the command-line tool calls it.

pub(crate) mod bases;
pub(crate) mod expectations;
pub(crate) mod toml;
pub(crate) mod words;

pub use bases::{Assembled, InFile, MAX_BASES};
pub use expectations::{ExpectError, to_expectations, with_expectations};
pub use words::{WordsError, with_words};
