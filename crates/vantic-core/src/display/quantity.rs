//! TODO-HEAD

use crate::display::display::Display;
use crate::display::error::DisplayError;

/// What changes along a range.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Along {
    /// The width, in logical pixels.
    Width,
    /// The height, in logical pixels.
    Height,
    /// The width, and the height with it in proportion.
    Aspect,
    /// The reader's text scale.
    TextScale,
    /// How high a keyboard on the screen is, in logical pixels.
    Keyboard,
    /// The top inset, in logical pixels.
    InsetTop,
    /// The bottom inset, in logical pixels.
    InsetBottom,
    /// The left inset, in logical pixels.
    InsetLeft,
    /// The right inset, in logical pixels.
    InsetRight,
    /// Device pixels to a logical pixel.
    Density,
}

impl Along {
    /// All with their spelling on the command line.
    pub const SPELLINGS: [(&'static str, Along); 10] = [
        ("width", Along::Width),
        ("height", Along::Height),
        ("aspect", Along::Aspect),
        ("text", Along::TextScale),
        ("keyboard", Along::Keyboard),
        ("top-inset", Along::InsetTop),
        ("bottom-inset", Along::InsetBottom),
        ("left-inset", Along::InsetLeft),
        ("right-inset", Along::InsetRight),
        ("density", Along::Density),
    ];

    /// What it is called in words.
    pub fn name(self) -> &'static str {
        match self {
            Along::Width | Along::Aspect => "width",
            Along::Height => "height",
            Along::TextScale => "text scale",
            Along::Keyboard => "keyboard height",
            Along::InsetTop => "top inset",
            Along::InsetBottom => "bottom inset",
            Along::InsetLeft => "left inset",
            Along::InsetRight => "right inset",
            Along::Density => "density",
        }
    }

    /// A display with this much of it.
    ///
    /// # Errors
    /// An amount with which there is no such display.
    pub fn at(self, display: &Display, amount: f64) -> Result<Display, DisplayError> {
        let (width, height, mut insets) = (display.width(), display.height(), display.insets());
        match self {
            Along::Width => display.with_size(amount, height),
            Along::Height => display.with_size(width, amount),
            Along::Aspect => display.with_size(amount, height * amount / width),
            Along::TextScale => display.clone().with_text_scale(amount),
            Along::Keyboard => display.clone().with_keyboard(amount),
            Along::Density => display.clone().with_density(amount),
            Along::InsetTop | Along::InsetBottom | Along::InsetLeft | Along::InsetRight => {
                let side = match self {
                    Along::InsetTop => &mut insets.top,
                    Along::InsetBottom => &mut insets.bottom,
                    Along::InsetLeft => &mut insets.left,
                    _ => &mut insets.right,
                };
                *side = amount;
                display.clone().with_insets(insets)
            }
        }
    }

    /// How much of it a display has.
    pub fn of(self, display: &Display) -> f64 {
        let insets = display.insets();
        match self {
            Along::Width | Along::Aspect => display.width(),
            Along::Height => display.height(),
            Along::TextScale => display.text_scale(),
            Along::Keyboard => display.keyboard(),
            Along::Density => display.density(),
            Along::InsetTop => insets.top,
            Along::InsetBottom => insets.bottom,
            Along::InsetLeft => insets.left,
            Along::InsetRight => insets.right,
        }
    }

    /// Whether everything a rule reads of the display changes evenly along it.
    pub fn is_even(self) -> bool {
        !matches!(self, Along::TextScale | Along::Density)
    }
}

impl Along {
    /// A place of a range in words: logical pixels, or a factor.
    pub fn said(self, amount: f64) -> String {
        crate::words::number::number(amount)
    }
}
