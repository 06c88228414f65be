//! A screen that is drawn for one size and scaled to others.

use crate::display::display::Display;
use crate::geometry::within;
use crate::limits::MAX_NUMBER;

/// How a drawn size is scaled to a display, by the ratios of their widths and heights.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Scaling {
    /// By the smaller ratio: all that is drawn fits.
    Contain,
    /// By the larger ratio: what is drawn covers the display.
    Cover,
    /// From the ratio of the widths (0) to that of the heights (1), so that doubling one and halving the
    /// other cancel in the middle: `widths^(1 - blend) * heights^blend`.
    Blend(f64),
    /// From the ratio of the widths (0) to that of the heights (1) in a straight line.
    Mix(f64),
}

impl Scaling {
    /// The word that it is in a screen file, and the share behind it.
    pub(crate) fn word(self) -> (&'static str, Option<f64>) {
        match self {
            Scaling::Contain => ("contain", None),
            Scaling::Cover => ("cover", None),
            Scaling::Blend(share) => ("blend", Some(share)),
            Scaling::Mix(share) => ("mix", Some(share)),
        }
    }
}

/// The size that a screen is drawn for.
#[derive(Clone, Copy, Debug, PartialEq)]
#[must_use = "it scales nothing until it is set"]
pub struct Design {
    /// Width and height, in the units of the screen.
    pub size: (f64, f64),
    /// The same for displays of the other orientation, where it is drawn for both.
    pub turned: Option<(f64, f64)>,
    /// How it is scaled.
    pub scaling: Scaling,
}

/// The least and the greatest factor by which a screen is scaled.
pub const SCALE_RANGE: (f64, f64) = (0.01, 100.0);

impl Design {
    /// Drawn for a size, and scaled so that all of it fits.
    pub fn of(width: f64, height: f64) -> Self {
        Self { size: (width, height), turned: None, scaling: Scaling::Contain }
    }

    /// Scaled otherwise.
    pub fn scaled(self, scaling: Scaling) -> Self {
        Self { scaling, ..self }
    }

    /// Drawn for another size as well, for displays of its orientation.
    pub fn or(self, width: f64, height: f64) -> Self {
        Self { turned: Some((width, height)), ..self }
    }

    /// What is wrong with it, if anything.
    pub(crate) fn refused(&self) -> Option<&'static str> {
        let within = |(width, height): (f64, f64)| {
            (1.0..=MAX_NUMBER).contains(&width) && (1.0..=MAX_NUMBER).contains(&height)
        };
        let share = self.scaling.word().1;
        if !within(self.size) || !self.turned.is_none_or(within) {
            Some("a screen is drawn for a width and a height from 1 to 10000000")
        } else if share.is_some_and(|share| !(0.0..=1.0).contains(&share)) {
            Some("the share of the height is within 0% and 100%")
        } else if self.turned.is_some_and(|turned| is_portrait(turned) == is_portrait(self.size)) {
            Some(
                "the two sizes are for the two orientations: one has to be wider than it is tall, the other \
                 not",
            )
        } else {
            None
        }
    }

    /// Whether it is drawn for the orientation of a display; else it may fit badly there.
    pub fn is_for(&self, display: &Display) -> bool {
        let portrait = is_portrait((display.width(), display.height()));
        self.turned.is_some() || is_portrait(self.size) == portrait
    }

    /// How many logical pixels of a display one unit of the screen is there, within [`SCALE_RANGE`].
    pub fn factor(&self, display: &Display) -> f64 {
        let device = (display.width(), display.height());
        let turned = self.turned.filter(|turned| is_portrait(*turned) == is_portrait(device));
        let drawn = turned.unwrap_or(self.size);
        let (across, down) = (device.0 / drawn.0, device.1 / drawn.1);
        let factor = match self.scaling {
            Scaling::Contain => across.min(down),
            Scaling::Cover => across.max(down),
            Scaling::Blend(share) => libm::pow(across, 1.0 - share) * libm::pow(down, share),
            Scaling::Mix(share) => across * (1.0 - share) + down * share,
        };
        within(factor, SCALE_RANGE.0, SCALE_RANGE.1)
    }
}

fn is_portrait((width, height): (f64, f64)) -> bool {
    height >= width
}
