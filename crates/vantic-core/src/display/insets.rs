//! The parts of a display that the device covers.

#[cfg(feature = "json")]
use serde::Serialize;

impl Insets {
    /// Those of the same display rotated by 90 degrees: the top comes to the left.
    pub fn turned(self) -> Self {
        let Insets { left, top, right, bottom } = self;
        Self { left: top, top: right, right: bottom, bottom: left }
    }

    /// The same in units of so many logical pixels.
    pub(crate) fn in_units_of(self, factor: f64) -> Self {
        let Insets { left, top, right, bottom } = self;
        let [left, top, right, bottom] = [left, top, right, bottom].map(|inset| inset / factor);
        Self { left, top, right, bottom }
    }
}

/// The parts of a display's sides that are covered by the device, in logical pixels.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "json", derive(Serialize))]
pub struct Insets {
    /// At the left side.
    pub left: f64,
    /// At the top.
    pub top: f64,
    /// At the right side.
    pub right: f64,
    /// At the bottom.
    pub bottom: f64,
}
