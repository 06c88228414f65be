//! Displays: what a screen is shown on, and a catalogue of classes of them.

use crate::display::error::DisplayError;
use crate::display::insets::Insets;
use crate::geometry::direction::Direction;
use crate::limits::MAX_NUMBER;
#[cfg(feature = "json")]
use serde::Serialize;
use std::collections::BTreeMap;

/// The largest side of a display, in logical pixels.
pub const MAX_DISPLAY_SIDE: f64 = 1_000_000.0;

/// What a screen is shown on. Its numbers are finite and in range.
#[derive(Clone, Debug, PartialEq)]
#[cfg_attr(feature = "json", derive(Serialize))]
pub struct Display {
    pub(super) name: String,
    pub(super) width: f64,
    pub(super) height: f64,
    pub(super) insets: Insets,
    pub(super) density: f64,
    text_scale: f64,
    direction: Direction,
    pub(super) touch: bool,
    /// How high a keyboard on the screen is, from the bottom edge.
    #[cfg_attr(feature = "json", serde(skip_serializing_if = "is_zero"))]
    keyboard: f64,
    /// How high its keyboard is once something is typed.
    #[cfg_attr(feature = "json", serde(skip_serializing_if = "is_zero"))]
    pub(super) own_keyboard: f64,
    /// How far views are scrolled, those that are.
    #[cfg_attr(feature = "json", serde(skip_serializing_if = "Vec::is_empty"))]
    scroll: Vec<ScrolledTo>,
    /// Which alternative of each state of the screen is shown; the first of those that are not named.
    #[cfg_attr(feature = "json", serde(skip_serializing_if = "BTreeMap::is_empty"))]
    states: BTreeMap<String, String>,
    /// What the parameters of the screen are set to, those that are.
    #[cfg_attr(feature = "json", serde(skip_serializing_if = "BTreeMap::is_empty"))]
    parameters: BTreeMap<String, f64>,
    /// The language that its words are in, where it is not that of the screen itself.
    #[cfg_attr(feature = "json", serde(skip_serializing_if = "Option::is_none"))]
    language: Option<String>,
}

/// How far a view is scrolled, in logical pixels.
#[derive(Clone, Debug, PartialEq)]
#[cfg_attr(feature = "json", derive(Serialize))]
struct ScrolledTo {
    view: String,
    across: f64,
    down: f64,
}

#[cfg(feature = "json")]
fn is_zero(number: &f64) -> bool {
    *number == 0.0
}

impl Display {
    /// A display of this size in logical pixels, named after it, without insets, read from left to
    /// right, at density 1 and text scale 1.
    ///
    /// # Errors
    /// A side that is not within 1 to [`MAX_DISPLAY_SIDE`].
    pub fn new(width: impl Into<f64>, height: impl Into<f64>) -> Result<Self, DisplayError> {
        let (width, height) = (width.into(), height.into());
        let within = |side| (1.0..=MAX_DISPLAY_SIDE).contains(&side);
        if !within(width) || !within(height) {
            return Err(DisplayError::Side { width, height });
        }
        Ok(Self::plain(format!("{width}x{height}"), width, height))
    }

    /// A display of a size that is known to be possible, without insets, at density 1 and text scale 1.
    pub(super) fn plain(name: String, width: f64, height: f64) -> Self {
        Self {
            name,
            width,
            height,
            insets: Insets::default(),
            density: 1.0,
            text_scale: 1.0,
            direction: Direction::LeftToRight,
            touch: false,
            keyboard: 0.0,
            own_keyboard: 0.0,
            scroll: Vec::new(),
            parameters: BTreeMap::new(),
            states: BTreeMap::new(),
            language: None,
        }
    }

    /// The same display under another name.
    pub fn named(self, name: impl Into<String>) -> Self {
        Self { name: name.into(), ..self }
    }

    /// The same display with another size in logical pixels, named after it.
    ///
    /// # Errors
    /// A side that is not within 1 to [`MAX_DISPLAY_SIDE`], and insets or a keyboard that leave no space
    /// there.
    pub fn with_size(&self, width: f64, height: f64) -> Result<Self, DisplayError> {
        let sized = Self::new(width, height)?;
        let (insets, keyboard) = (self.insets, self.keyboard);
        let other = Self {
            name: sized.name,
            width,
            height,
            insets: Insets::default(),
            keyboard: 0.0,
            ..self.clone()
        };
        other.with_insets(insets)?.with_keyboard(keyboard)
    }

    /// The same display with a size and insets (left, top, right, bottom) that are known to be possible.
    pub fn stretched(&self, (width, height): (f64, f64), [left, top, right, bottom]: [f64; 4]) -> Self {
        Self { width, height, insets: Insets { left, top, right, bottom }, ..self.clone() }
    }

    /// The same display with these insets.
    ///
    /// # Errors
    /// Insets below zero, not finite, or that leave no space.
    pub fn with_insets(self, insets: Insets) -> Result<Self, DisplayError> {
        let Insets { left, top, right, bottom } = insets;
        let valid = [left, top, right, bottom].iter().all(|i| i.is_finite() && *i >= 0.0);
        if valid && left + right < self.width && top + bottom < self.height {
            Ok(Self { insets, ..self })
        } else {
            Err(DisplayError::Insets { name: self.name })
        }
    }

    /// The same display with this many device pixels to a logical pixel.
    ///
    /// # Errors
    /// A density that is not within 0.1 to 20.
    pub fn with_density(self, density: f64) -> Result<Self, DisplayError> {
        Ok(Self { density: factor("the density", density)?, ..self })
    }

    /// The same display with the reader's text scale.
    ///
    /// # Errors
    /// A text scale that is not within 0.1 to 20.
    pub fn with_text_scale(self, text_scale: f64) -> Result<Self, DisplayError> {
        Ok(Self { text_scale: factor("the text scale", text_scale)?, ..self })
    }

    /// The same display with a keyboard on the screen, so many logical pixels high from its bottom edge.
    ///
    /// # Errors
    /// A height below zero, not finite, or that leaves no space below the top inset.
    pub fn with_keyboard(self, keyboard: f64) -> Result<Self, DisplayError> {
        if (0.0..self.height - self.insets.top).contains(&keyboard) {
            Ok(Self { keyboard, ..self })
        } else {
            Err(DisplayError::Keyboard { name: self.name, keyboard })
        }
    }

    /// The same display whose keyboard is so many logical pixels high once something is typed. A check
    /// looks at it with the keyboard as well, where the screen has something to type into.
    ///
    /// # Errors
    /// As for [`Display::with_keyboard`].
    pub fn with_own_keyboard(self, height: f64) -> Result<Self, DisplayError> {
        let own_keyboard = self.clone().with_keyboard(height)?.keyboard;
        Ok(Self { own_keyboard, ..self })
    }

    /// The same display with a view scrolled so far, along the reading direction and down; [`MAX_NUMBER`] is
    /// to the end. A view that cannot be scrolled so far is scrolled as far as it can be.
    ///
    /// # Errors
    /// A number below zero, not finite, or above [`MAX_NUMBER`].
    pub fn with_scroll(
        mut self,
        view: impl Into<String>,
        across: f64,
        down: f64,
    ) -> Result<Self, DisplayError> {
        let view = view.into();
        if let Some(by) = [across, down].into_iter().find(|by| !(0.0..=MAX_NUMBER).contains(by)) {
            return Err(DisplayError::Scroll { view, by });
        }
        self.scroll.retain(|to| to.view != view);
        self.scroll.push(ScrolledTo { view, across, down });
        Ok(self)
    }

    /// The same display with every view that scrolls scrolled so far, along all ways it goes; those that were
    /// scrolled by name stay as they are.
    ///
    /// # Errors
    /// As for [`Display::with_scroll`].
    pub fn with_all_scrolled(self, by: f64) -> Result<Self, DisplayError> {
        // No view has this path.
        self.with_scroll("", by, by)
    }

    /// Whether any view is scrolled.
    pub(crate) fn is_scrolled(&self) -> bool {
        !self.scroll.is_empty()
    }

    /// How far a view is scrolled, along the reading direction and down, by its path.
    pub fn scrolled(&self, view: &str) -> (f64, f64) {
        let of = |path: &str| self.scroll.iter().find(|to| to.view == path).map(|to| (to.across, to.down));
        of(view).or_else(|| of("")).unwrap_or_default()
    }

    /// The same display with a parameter of the screen set to a number; what the screen has no such parameter of changes
    /// nothing.
    ///
    /// ```
    /// use vantic_core::prelude::*;
    ///
    /// let mut build = ScreenBuilder::new("workshop");
    /// let (_, rail) = build.parameter("rail", 240, 180..=400);
    /// let tools = build.view("tools");
    /// build.add(tools.pin([(Side::Left, 0), (Side::Top, 0), (Side::Bottom, 0)], SCREEN));
    /// build.add(tools.width().equals(rail));
    /// let plan = Plan::new(build.finish()?)?;
    /// let on = Display::new(800, 600)?.with_parameter("rail", 300)?;
    /// assert_eq!(plan.place(&on, &PlainText)?.frame(tools).map(|f| f.width), Some(300.0));
    /// // Beyond its range it is refused.
    /// let on = on.with_parameter("rail", 500)?;
    /// let error = plan.place(&on, &PlainText).unwrap_err();
    /// assert_eq!(error.to_string(), "`rail` is set to 500; it has to be within 180 and 400");
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    ///
    /// # Errors
    /// A number that is not finite, or is beyond 10,000,000 either side of zero.
    pub fn with_parameter(
        mut self,
        name: impl Into<String>,
        number: impl Into<f64>,
    ) -> Result<Self, DisplayError> {
        let (name, number) = (name.into(), number.into());
        if !(-MAX_NUMBER..=MAX_NUMBER).contains(&number) {
            return Err(DisplayError::Parameter { name, number });
        }
        self.parameters.insert(name, number);
        Ok(self)
    }

    /// What a parameter is set to, if it is.
    pub fn parameter(&self, name: &str) -> Option<f64> {
        self.parameters.get(name).copied()
    }

    /// The same display with an alternative of a state of the screen shown: `("menu", "open")`. What the
    /// screen has no such state or alternative of changes nothing.
    pub fn with_state(mut self, state: impl Into<String>, alternative: impl Into<String>) -> Self {
        self.states.insert(state.into(), alternative.into());
        self
    }

    /// The alternative of a state that is shown, if one was named.
    pub fn state(&self, state: &str) -> Option<&str> {
        self.states.get(state).map(String::as_str)
    }

    /// The same display read in a language of the screen, by its name, or in [`crate::model::PSEUDO`]. The
    /// direction is not changed by it.
    pub fn with_language(self, language: impl Into<String>) -> Self {
        Self { language: Some(language.into()), ..self }
    }

    /// The language that it is read in, where one was named.
    pub fn language(&self) -> Option<&str> {
        self.language.as_deref()
    }

    /// The states of which an alternative was named, and which.
    pub fn states(&self) -> impl Iterator<Item = (&str, &str)> {
        self.states.iter().map(|(state, shown)| (state.as_str(), shown.as_str()))
    }

    /// The same display read in this direction.
    pub fn with_direction(self, direction: Direction) -> Self {
        Self { direction, ..self }
    }

    /// The same display, operated by touch or not.
    pub fn with_touch(self, touch: bool) -> Self {
        Self { touch, ..self }
    }

    /// The same display rotated by 90 degrees, its insets turned with it (the top comes to the left).
    pub fn turned(self) -> Self {
        let insets = self.insets.turned();
        let name = match self.name.strip_suffix(TURNED) {
            Some(upright) => upright.to_owned(),
            None if self.name == format!("{}x{}", self.width, self.height) => {
                format!("{}x{}", self.height, self.width)
            }
            None => format!("{}{TURNED}", self.name),
        };
        Self { name, width: self.height, height: self.width, insets, ..self }
    }

    /// The same display in units of so many logical pixels.
    pub(crate) fn in_units_of(self, factor: f64) -> Self {
        Self {
            width: self.width / factor,
            height: self.height / factor,
            insets: self.insets.in_units_of(factor),
            keyboard: self.keyboard / factor,
            own_keyboard: self.own_keyboard / factor,
            density: self.density * factor,
            ..self
        }
    }

    /// The name.
    pub fn name(&self) -> &str {
        &self.name
    }

    /// The width in logical pixels.
    pub fn width(&self) -> f64 {
        self.width
    }

    /// The height in logical pixels.
    pub fn height(&self) -> f64 {
        self.height
    }

    /// The insets.
    pub fn insets(&self) -> Insets {
        self.insets
    }

    /// How high a keyboard on the screen is from the bottom edge, in logical pixels.
    pub fn keyboard(&self) -> f64 {
        self.keyboard
    }

    /// How high its keyboard is once something is typed, in logical pixels; zero without one.
    pub fn own_keyboard(&self) -> f64 {
        self.own_keyboard
    }

    /// How much of the bottom the inset and the keyboard take, whichever is more.
    pub(crate) fn bottom_cover(&self) -> f64 {
        self.insets.bottom.max(self.keyboard)
    }

    /// The width less the insets, in logical pixels.
    pub fn safe_width(&self) -> f64 {
        self.width - self.insets.left - self.insets.right
    }

    /// The height less the insets, in logical pixels.
    pub fn safe_height(&self) -> f64 {
        self.height - self.insets.top - self.insets.bottom
    }

    /// Device pixels to a logical pixel.
    pub fn density(&self) -> f64 {
        self.density
    }

    /// The reader's text scale.
    pub fn text_scale(&self) -> f64 {
        self.text_scale
    }

    /// The reading direction.
    pub fn direction(&self) -> Direction {
        self.direction
    }

    /// Whether it is operated by touch.
    pub fn is_touch(&self) -> bool {
        self.touch
    }
}

/// What is added to the name of a class for its turned orientation.
pub const TURNED: &str = "-turned";

fn factor(what: &'static str, value: f64) -> Result<f64, DisplayError> {
    if (0.1..=20.0).contains(&value) { Ok(value) } else { Err(DisplayError::Factor { what, value }) }
}
