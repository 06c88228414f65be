//! TODO-HEAD

pub(crate) mod displays;
pub(crate) mod matrix;

pub use displays::{Displays, DisplaysError, MAX_CLASSES};
pub use matrix::{MAX_COMBINATIONS, MAX_VIEWS_PLACED, Matrix, MatrixError, variations};
