//! Displays by name, from the catalogue or a file, and every combination of what is tried on them. Naming a
//! display needs the screen, so this stands above the model. `check` and the command-line tool call it.

pub(crate) mod displays;
pub(crate) mod matrix;

pub use displays::{Displays, DisplaysError, MAX_CLASSES};
pub use matrix::{MAX_COMBINATIONS, MAX_VIEWS_PLACED, Matrix, MatrixError, variations};
