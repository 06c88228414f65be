//! TODO-HEAD

pub(crate) mod ast;
pub(crate) mod error;
pub(crate) mod format;
pub(crate) mod lexer;
pub(crate) mod parser;
pub(crate) mod tree;

pub use error::{MAX_FILE_BYTES, MAX_REPORTED, SourceError, SourceErrors, line_and_column};
pub use format::format;
