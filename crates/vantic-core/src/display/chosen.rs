//! What an application chooses of a screen, by names that are known when it is compiled.

use crate::display::display::Display;
use crate::display::error::DisplayError;

/// An alternative of a state of a screen.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Alternative {
    /// The name of the state.
    pub state: &'static str,
    /// The name of the alternative.
    pub name: &'static str,
}

impl Alternative {
    /// The display with the alternative shown.
    pub fn on(self, display: &Display) -> Display {
        display.clone().with_state(self.state, self.name)
    }
}

/// A parameter of a screen.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Parameter {
    /// The name.
    pub name: &'static str,
    /// What it is where it is not set.
    pub usual: f64,
    /// From where to where it may be set.
    pub range: (f64, f64),
}

impl Parameter {
    /// The display with the parameter set.
    ///
    /// # Errors
    /// A number that is not finite, or is beyond 10,000,000 either side of zero. One outside of the range is refused when the
    /// screen is placed.
    pub fn set(self, number: impl Into<f64>, display: &Display) -> Result<Display, DisplayError> {
        display.clone().with_parameter(self.name, number)
    }
}
