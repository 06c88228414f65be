//! TODO-HEAD

pub(crate) mod convert;
pub(crate) mod from_tree;
pub(crate) mod print;
pub(crate) mod types;

pub use types::{Form, FormError};
