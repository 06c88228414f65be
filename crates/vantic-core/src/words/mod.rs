//! TODO-HEAD

pub(crate) mod list;
pub(crate) mod nearest;
pub(crate) mod number;

pub use list::{list, once};
pub use nearest::nearest;
pub use number::{interval_words, millionths, number};
