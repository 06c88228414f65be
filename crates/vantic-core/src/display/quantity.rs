//! What of a display can vary along a range.

use crate::display::display::Display;
use crate::display::error::DisplayError;
use std::sync::Arc;

/// What changes along a range.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum DisplayQuantity {
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
    /// How far every view that scrolls is scrolled, in logical pixels.
    Scroll,
    /// What a parameter of the screen is set to, by its name.
    Parameter(Arc<str>),
}

impl DisplayQuantity {
    /// All but the parameters of screens, with their spelling on the command line.
    pub const SPELLINGS: [(&'static str, DisplayQuantity); 11] = [
        ("width", DisplayQuantity::Width),
        ("height", DisplayQuantity::Height),
        ("aspect", DisplayQuantity::Aspect),
        ("text", DisplayQuantity::TextScale),
        ("keyboard", DisplayQuantity::Keyboard),
        ("top-inset", DisplayQuantity::InsetTop),
        ("bottom-inset", DisplayQuantity::InsetBottom),
        ("left-inset", DisplayQuantity::InsetLeft),
        ("right-inset", DisplayQuantity::InsetRight),
        ("density", DisplayQuantity::Density),
        ("scroll", DisplayQuantity::Scroll),
    ];

    /// What it is called in words.
    pub fn name(&self) -> &str {
        match self {
            DisplayQuantity::Width | DisplayQuantity::Aspect => "width",
            DisplayQuantity::Height => "height",
            DisplayQuantity::TextScale => "text scale",
            DisplayQuantity::Keyboard => "keyboard height",
            DisplayQuantity::InsetTop => "top inset",
            DisplayQuantity::InsetBottom => "bottom inset",
            DisplayQuantity::InsetLeft => "left inset",
            DisplayQuantity::InsetRight => "right inset",
            DisplayQuantity::Density => "density",
            DisplayQuantity::Scroll => "scroll offset",
            DisplayQuantity::Parameter(name) => name,
        }
    }

    /// A display with this much of it.
    ///
    /// # Errors
    /// An amount with which there is no such display.
    pub fn at(&self, display: &Display, amount: f64) -> Result<Display, DisplayError> {
        let (width, height, mut insets) = (display.width(), display.height(), display.insets());
        match self {
            DisplayQuantity::Width => display.with_size(amount, height),
            DisplayQuantity::Height => display.with_size(width, amount),
            DisplayQuantity::Aspect => display.with_size(amount, height * amount / width),
            DisplayQuantity::TextScale => display.clone().with_text_scale(amount),
            DisplayQuantity::Keyboard => display.clone().with_keyboard(amount),
            DisplayQuantity::Density => display.clone().with_density(amount),
            DisplayQuantity::Scroll => {
                let name = format!("{}, scroll {}", display.name(), crate::words::number::number(amount));
                Ok(display.clone().with_all_scrolled(amount)?.named(name))
            }
            DisplayQuantity::Parameter(parameter) => {
                let name =
                    format!("{}, {parameter} {}", display.name(), crate::words::number::number(amount));
                Ok(display.clone().with_parameter(&**parameter, amount)?.named(name))
            }
            DisplayQuantity::InsetTop
            | DisplayQuantity::InsetBottom
            | DisplayQuantity::InsetLeft
            | DisplayQuantity::InsetRight => {
                let side = match self {
                    DisplayQuantity::InsetTop => &mut insets.top,
                    DisplayQuantity::InsetBottom => &mut insets.bottom,
                    DisplayQuantity::InsetLeft => &mut insets.left,
                    _ => &mut insets.right,
                };
                *side = amount;
                display.clone().with_insets(insets)
            }
        }
    }

    /// How much of it a display has.
    pub fn of(&self, display: &Display) -> f64 {
        let insets = display.insets();
        match self {
            DisplayQuantity::Width | DisplayQuantity::Aspect => display.width(),
            DisplayQuantity::Height => display.height(),
            DisplayQuantity::TextScale => display.text_scale(),
            DisplayQuantity::Keyboard => display.keyboard(),
            DisplayQuantity::Density => display.density(),
            DisplayQuantity::Scroll => display.scrolled("").1,
            DisplayQuantity::Parameter(name) => display.parameter(name).unwrap_or(0.0),
            DisplayQuantity::InsetTop => insets.top,
            DisplayQuantity::InsetBottom => insets.bottom,
            DisplayQuantity::InsetLeft => insets.left,
            DisplayQuantity::InsetRight => insets.right,
        }
    }

    /// Whether everything a rule reads of the display changes evenly along it.
    pub fn is_even(&self) -> bool {
        !matches!(self, DisplayQuantity::TextScale | DisplayQuantity::Density | DisplayQuantity::Scroll)
    }
}

impl DisplayQuantity {
    /// A place of a range in words: logical pixels, or a factor.
    pub fn said(&self, amount: f64) -> String {
        crate::words::number::number(amount)
    }
}
