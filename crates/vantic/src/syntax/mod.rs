//! Screen files as text: tokens (`lexer`), a lossless tree (`tree`, `parser`), errors with their places, and
//! the canonical layout (`format`). `ast` has the questions that others ask of the tree.
//!
//! Knows comments and spans, and nothing of screens; `resolve`, `json` and `fix` stand on it.

pub(crate) mod ast;
pub(crate) mod error;
pub(crate) mod format;
pub(crate) mod lexer;
pub(crate) mod parser;
pub(crate) mod tree;

pub use error::{MAX_FILE_BYTES, MAX_REPORTED, SourceError, SourceErrors, line_and_column};
pub use format::format;
