//! A display as a screen sees it: in the units of a design size, where the screen is scaled.

use crate::display::display::Display;
use crate::model::screen::Screen;

/// A display, and the same in the units of the screen; worked out once for each placement.
#[derive(Clone, Debug)]
pub(crate) struct Canvas<'a> {
    /// The display as it is.
    pub(crate) display: &'a Display,
    /// In the units of the screen, and how many logical pixels one of them is.
    scaled: Option<(Display, f64)>,
}

impl<'a> Canvas<'a> {
    pub(crate) fn new(screen: &Screen, display: &'a Display) -> Self {
        Self { display, scaled: screen.canvas(display) }
    }

    /// The display in the units that all is worked out in.
    pub(crate) fn in_units(&self) -> &Display {
        self.scaled.as_ref().map_or(self.display, |(display, _)| display)
    }

    /// As a placement keeps it: `None` where the screen is not scaled.
    pub(crate) fn scaled(&self) -> Option<Box<(Display, f64)>> {
        self.scaled.clone().map(Box::new)
    }
}
