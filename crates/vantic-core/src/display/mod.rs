//! What a screen is shown on: size, insets, density, text scale, direction, states.
//!
//! `class` is the catalogue, `chosen` what an application chooses by name, `quantity` what of a display can vary continuously. Stands on `geometry`.

pub(crate) mod chosen;
pub(crate) mod class;
pub(crate) mod display;
pub(crate) mod error;
pub(crate) mod insets;
pub(crate) mod quantity;

pub use chosen::{Alternative, Parameter};
pub use class::{CATALOGUE, DisplayClass};
pub use display::{Display, MAX_DISPLAY_SIDE, TURNED};
pub use error::DisplayError;
pub use insets::Insets;
pub use quantity::DisplayQuantity;
