//! Why a display was refused.

use crate::limits::MAX_NUMBER;

/// Why a display was refused.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
#[non_exhaustive]
pub enum DisplayError {
    /// A side is not within 1 to [`crate::display::MAX_DISPLAY_SIDE`].
    #[error("a display's sides have to be within 1 and 1000000 logical pixels, not {width} x {height}")]
    Side {
        /// The width that was given.
        width: f64,
        /// The height that was given.
        height: f64,
    },
    /// A parameter of the screen is set to a number that is none, or too large.
    #[error("`{name}` cannot be {number}: numbers are within 10000000 either side of zero")]
    Parameter {
        /// The parameter.
        name: String,
        /// The number that was given.
        number: f64,
    },
    /// The insets are negative or leave no space.
    #[error("the insets of {name} leave no space, or are negative")]
    Insets {
        /// The display.
        name: String,
    },
    /// The keyboard leaves no space, or is below zero.
    #[error("a keyboard height of {keyboard} leaves no space on {name}, or is negative")]
    Keyboard {
        /// The display.
        name: String,
        /// The height that was given.
        keyboard: f64,
    },
    /// A view is scrolled by a number below zero, or too large.
    #[error("`{view}` cannot be scrolled by {by}: write a number from 0 up to {MAX_NUMBER}")]
    Scroll {
        /// The view's path.
        view: String,
        /// The number that was given.
        by: f64,
    },
    /// The density or the text scale is not within 0.1 to 20.
    #[error("{what} has to be within 0.1 and 20, not {value}")]
    Factor {
        /// Density or text scale.
        what: &'static str,
        /// The value that was given.
        value: f64,
    },
}
