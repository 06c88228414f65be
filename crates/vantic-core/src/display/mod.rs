//! TODO-HEAD

pub(crate) mod class;
pub(crate) mod display;
pub(crate) mod error;
pub(crate) mod insets;
pub(crate) mod quantity;

pub use class::{CATALOGUE, DisplayClass};
pub use display::{Display, MAX_DISPLAY_SIDE, TURNED};
pub use error::DisplayError;
pub use insets::Insets;
pub use quantity::DisplayQuantity;
