//! Classes of displays, and the catalogue of them.

use crate::display::display::{Display, TURNED};
use crate::display::error::DisplayError;
use crate::display::insets::Insets;
use std::borrow::Cow;

/// A class of displays.
#[derive(Clone, Debug, PartialEq)]
pub struct DisplayClass {
    /// The name, as `--display` takes it.
    pub name: Cow<'static, str>,
    /// What it stands for.
    pub about: Cow<'static, str>,
    /// The upright size: width and height in logical pixels.
    pub size: (f64, f64),
    /// The insets when upright.
    pub insets: Insets,
    /// The insets when turned, if it is used that way.
    pub turned: Option<Insets>,
    /// Device pixels to a logical pixel.
    pub density: f64,
    /// Whether it is operated by touch.
    pub touch: bool,
    /// How high its keyboard is once something is typed, in logical pixels: upright, and turned; zero
    /// without one.
    pub keyboard: (f64, f64),
}

pub(crate) const fn insets(left: f64, top: f64, right: f64, bottom: f64) -> Insets {
    Insets { left, top, right, bottom }
}

/// The classes of displays that screens are checked on where none is named.
pub const CATALOGUE: [DisplayClass; 7] = [
    DisplayClass {
        name: Cow::Borrowed("handset-small"),
        about: Cow::Borrowed("a small handset, one hand"),
        size: (340.0, 620.0),
        insets: insets(0.0, 22.0, 0.0, 0.0),
        turned: Some(insets(0.0, 18.0, 0.0, 0.0)),
        density: 2.0,
        touch: true,
        keyboard: (252.0, 196.0),
    },
    DisplayClass {
        name: Cow::Borrowed("handset-large"),
        about: Cow::Borrowed("a large handset with a rounded screen"),
        size: (424.0, 920.0),
        insets: insets(0.0, 52.0, 0.0, 28.0),
        turned: Some(insets(52.0, 0.0, 52.0, 20.0)),
        density: 3.0,
        touch: true,
        keyboard: (324.0, 232.0),
    },
    DisplayClass {
        name: Cow::Borrowed("fold-closed"),
        about: Cow::Borrowed("a folding handset, closed"),
        size: (376.0, 880.0),
        insets: insets(0.0, 36.0, 0.0, 20.0),
        turned: Some(insets(36.0, 0.0, 36.0, 16.0)),
        density: 2.5,
        touch: true,
        keyboard: (308.0, 220.0),
    },
    DisplayClass {
        name: Cow::Borrowed("fold-open"),
        about: Cow::Borrowed("a folding handset, open"),
        size: (772.0, 880.0),
        insets: insets(0.0, 30.0, 0.0, 20.0),
        turned: Some(insets(0.0, 30.0, 0.0, 20.0)),
        density: 2.5,
        touch: true,
        keyboard: (344.0, 332.0),
    },
    DisplayClass {
        name: Cow::Borrowed("tablet"),
        about: Cow::Borrowed("a tablet"),
        size: (816.0, 1152.0),
        insets: insets(0.0, 26.0, 0.0, 18.0),
        turned: Some(insets(0.0, 26.0, 0.0, 18.0)),
        density: 2.0,
        touch: true,
        keyboard: (376.0, 424.0),
    },
    DisplayClass {
        name: Cow::Borrowed("desktop"),
        about: Cow::Borrowed("a window on a desktop computer"),
        size: (1400.0, 860.0),
        insets: insets(0.0, 0.0, 0.0, 0.0),
        turned: None,
        density: 1.0,
        touch: false,
        keyboard: (0.0, 0.0),
    },
    DisplayClass {
        name: Cow::Borrowed("wall"),
        about: Cow::Borrowed("a panel on a quay wall, read from afar"),
        size: (1920.0, 1080.0),
        insets: insets(0.0, 0.0, 0.0, 0.0),
        turned: Some(insets(0.0, 0.0, 0.0, 0.0)),
        density: 1.0,
        touch: false,
        keyboard: (0.0, 0.0),
    },
];

impl DisplayClass {
    /// The class itself, if displays can have its numbers.
    pub fn checked(&self) -> Result<&Self, DisplayError> {
        for display in self.orientations() {
            let plain = Display::new(display.width, display.height)?.named(display.name);
            let plain = plain.with_insets(display.insets)?.with_density(self.density)?;
            plain.with_keyboard(display.own_keyboard)?;
        }
        Ok(self)
    }

    /// The display when upright.
    pub fn upright(&self) -> Display {
        let name = self.name.clone().into_owned();
        self.display(name, self.size, self.insets, self.keyboard.0)
    }

    /// The display when turned, if it is used that way.
    pub fn on_its_side(&self) -> Option<Display> {
        let name = format!("{}{TURNED}", self.name);
        self.turned.map(|insets| self.display(name, (self.size.1, self.size.0), insets, self.keyboard.1))
    }

    /// Each orientation it is used in, upright first.
    pub fn orientations(&self) -> Vec<Display> {
        std::iter::once(self.upright()).chain(self.on_its_side()).collect()
    }

    fn display(&self, name: String, (width, height): (f64, f64), insets: Insets, keyboard: f64) -> Display {
        let mut display = Display::plain(name, width, height);
        (display.insets, display.density, display.touch) = (insets, self.density, self.touch);
        display.own_keyboard = keyboard;
        display
    }
}
