//! How numbers, lists and misspelt names are put into text. Knows nothing of screens; everybody may call it.

pub(crate) mod inert;
pub(crate) mod list;
pub(crate) mod nearest;
pub(crate) mod number;

pub use inert::{acts, inert};
pub use list::{free_name, list, once};
pub use nearest::nearest;
pub use number::{amount, interval_words, millionths, number};
