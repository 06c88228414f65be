//! The JSON form of a screen file: the same content, statement by statement.
//!
//! `types` are the serde types, `from_tree` makes them from the syntax tree, `print` writes them as a screen
//! file, `convert` is what callers use. Stands on `syntax`; the command-line tool and applications call it.

pub(crate) mod convert;
pub(crate) mod from_tree;
pub(crate) mod print;
pub(crate) mod types;

pub use types::{Form, FormError};
