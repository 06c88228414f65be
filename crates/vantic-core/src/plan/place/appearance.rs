//! How views are painted, beside where.

use crate::model::view::{Control, Image, Paint, View};

/// How a view is painted in the bands that hold.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Appearance {
    /// The font size of a text in logical pixels, the reader's text scale included.
    pub font: Option<f64>,
    /// The height of its lines in logical pixels, if stated, the reader's text scale included.
    pub line: Option<f64>,
    /// How many of its lines are shown at most.
    pub lines: Option<u32>,
    /// The natural size of an image.
    pub natural: Option<Image>,
    /// How what is painted differs from the frame.
    pub paint: Paint,
    /// How near it is to the reader.
    pub depth: f64,
    /// Whether it is pointed at or touched.
    pub control: Option<Control>,
    /// Whether it lies over others on purpose, with what is in it.
    pub floats: bool,
    /// Whether it is typed into.
    pub input: bool,
    /// Whether what it holds is shown within its frame only.
    pub clips: bool,
    /// How what it holds is painted smaller, so that it fits.
    pub fits: Option<Fit>,
}

/// How what a view holds is painted smaller, so that it fits: the box around the view and all that it holds
/// is painted with its start and top at those of the view.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Fit {
    /// The factor, above zero and below 1.
    pub factor: f64,
    /// The point that stays where it is, as fractions of the frame from its top left corner.
    pub origin: (f64, f64),
}

impl Fit {
    pub(crate) fn paint(self) -> Paint {
        Paint { origin: self.origin, rotate: 0.0, scale: (self.factor, self.factor) }
    }
}

impl Appearance {
    /// How a view is painted, as it is in the bands that hold, with the reader's text scale.
    pub(crate) fn of(here: &View, scale: f64) -> Self {
        let text = here.text();
        Self {
            font: text.map(|t| t.font * scale),
            line: text.and_then(|t| t.line).map(|line| line * scale),
            lines: text.and_then(|t| t.lines),
            natural: here.image(),
            paint: here.paint(),
            depth: here.depth(),
            control: here.control,
            floats: here.floats,
            input: here.input,
            clips: here.clips(),
            fits: None,
        }
    }
}
