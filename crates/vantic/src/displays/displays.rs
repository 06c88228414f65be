//! The displays that a project uses: the catalogue, or its own; and displays as they are named.
//!
//! A display is named by a class (`tablet`, `tablet-turned`), a size (`390x844`) or an aspect with one side
//! (`16:9@720w`), and, behind commas, what else is to be tried there: `tablet, right to left, text 1.3, fi,
//! menu.open`.

use crate::displays::matrix::{DEVICE_PARTS, with_full_name};
use crate::files::toml::{line_of, toml_error};
use crate::screen_ext::ScreenExt as _;
use schemars::JsonSchema;
use serde::Deserialize;
use std::borrow::Cow;
use toml::Spanned;
use vantic_core::display::{CATALOGUE, Display, DisplayClass, DisplayError, Insets, TURNED};
use vantic_core::geometry::Direction;
use vantic_core::model::{PSEUDO, Screen};
use vantic_core::words::nearest;

/// The most classes of displays that a file may hold.
pub const MAX_CLASSES: usize = 1000;

/// Classes of displays, each in its orientations.
#[derive(Clone, Debug, PartialEq)]
pub struct Displays {
    classes: Vec<DisplayClass>,
}

impl Default for Displays {
    /// The catalogue.
    fn default() -> Self {
        Self { classes: CATALOGUE.to_vec() }
    }
}

/// Why displays could not be read, or one of a name not be found.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
#[non_exhaustive]
pub enum DisplaysError {
    /// Something is wrong in a file of displays.
    #[error("line {line}: {message}")]
    File {
        /// The line, counted from 1.
        line: usize,
        /// What is wrong, and what to write instead.
        message: String,
    },
    /// There is no display of this name.
    #[error("there is no display `{name}`; {help}")]
    Unknown {
        /// The name.
        name: String,
        /// What may be written.
        help: String,
    },
    /// A part after a comma says nothing that is known.
    #[error("`{part}` is not a display setting; {help}")]
    Part {
        /// The part.
        part: String,
        /// What may be written.
        help: String,
    },
    /// A number was refused.
    #[error(transparent)]
    Number(#[from] DisplayError),
}

/// A file of displays in TOML.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
struct File {
    /// The displays, each under `[[display]]`.
    #[serde(default)]
    #[schemars(with = "Vec<Entry>")]
    display: Vec<Spanned<Entry>>,
}

/// A class of displays.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
struct Entry {
    /// The name: small letters, digits and `-`.
    name: String,
    /// What it stands for.
    #[serde(default)]
    about: String,
    /// Width and height when upright, in logical pixels.
    size: [f64; 2],
    /// The insets when upright: left, top, right, bottom, in logical pixels.
    #[serde(default)]
    insets: [f64; 4],
    /// Whether it is used turned as well, its insets turned with it; with other insets there, give them instead.
    #[serde(default = "turned_without_insets")]
    turned: Turned,
    /// Device pixels to a logical pixel.
    #[serde(default = "one")]
    density: f64,
    /// Whether it is operated by touch.
    #[serde(default)]
    touch: bool,
    /// How high its keyboard is once something is typed, in logical pixels: upright, or upright and turned.
    #[serde(default)]
    keyboard: Keyboard,
}

/// How high a keyboard is: in every orientation, or upright and turned.
#[derive(Deserialize, JsonSchema)]
#[serde(untagged)]
enum Keyboard {
    Same(f64),
    Each([f64; 2]),
}

impl Default for Keyboard {
    fn default() -> Self {
        Keyboard::Same(0.0)
    }
}

/// Whether a display is used turned, or its insets there: left, top, right, bottom.
#[derive(Deserialize, JsonSchema)]
#[serde(untagged)]
enum Turned {
    Used(bool),
    Insets([f64; 4]),
}

fn turned_without_insets() -> Turned {
    Turned::Used(false)
}

fn one() -> f64 {
    1.0
}

fn insets_of([left, top, right, bottom]: [f64; 4]) -> Insets {
    Insets { left, top, right, bottom }
}

impl Displays {
    /// Displays from a file in TOML, a `[[display]]` each.
    ///
    /// ```
    /// use vantic::display::Displays;
    ///
    /// let own = Displays::from_toml(
    ///     r#"
    ///     [[display]]
    ///     name = "bridge"
    ///     size = [960, 600]
    ///     turned = true
    ///     "#,
    /// )?;
    /// let names: Vec<String> = own.all().iter().map(|d| d.name().to_owned()).collect();
    /// assert_eq!(names, ["bridge", "bridge-turned"]);
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    ///
    /// # Errors
    /// What is wrong, with its line.
    pub fn from_toml(text: &str) -> Result<Self, DisplaysError> {
        let file: File = toml::from_str(text).map_err(|error| {
            let (line, message) = toml_error(text, &error);
            DisplaysError::File { line, message }
        })?;
        let mut classes: Vec<DisplayClass> = Vec::new();
        for entry in file.display {
            let line = line_of(text, Some(entry.span()));
            let wrong = |message: String| DisplaysError::File { line, message };
            let entry = entry.into_inner();
            let class = entry.class().map_err(wrong)?;
            if classes.iter().any(|c| c.name == class.name) {
                return Err(wrong(format!(
                    "there is already a display `{}`; give one of them another name",
                    class.name
                )));
            }
            if classes.len() >= MAX_CLASSES {
                return Err(wrong(format!("too many displays: the limit is {MAX_CLASSES}")));
            }
            classes.push(class);
        }
        if classes.is_empty() {
            let message = "there is no display in the file; begin one with `[[display]]`".to_owned();
            return Err(DisplaysError::File { line: 1, message });
        }
        Ok(Self { classes })
    }

    /// The JSON Schema (2020-12) of files of displays.
    pub fn schema() -> String {
        let schema = schemars::schema_for!(File);
        serde_json::to_string_pretty(&schema).unwrap_or_default() + "\n"
    }

    /// The classes, in order.
    pub fn classes(&self) -> &[DisplayClass] {
        &self.classes
    }

    /// Every display, each class in its orientations.
    pub fn all(&self) -> Vec<Display> {
        self.classes.iter().flat_map(DisplayClass::orientations).collect()
    }

    /// The display of a name: a class, a size or an aspect with one side, and behind commas what else is to
    /// be tried there, of what the screen has: `tablet, right to left, text 1.3, fi, menu.open`.
    ///
    /// ```
    /// use vantic::display::Displays;
    ///
    /// let source = vantic::read(
    ///     "screen quay {
    ///          state menu: closed, open
    ///          view a { pin left, top to safe; size = 8 }
    ///      }",
    /// )?;
    /// let displays = Displays::default();
    /// let display = displays.find("390x844, text 1.3, right to left, menu.open", &source.screen)?;
    /// assert_eq!((display.width(), display.text_scale()), (390.0, 1.3));
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    ///
    /// # Errors
    /// A name or part that is not known, and numbers that are refused.
    pub fn find(&self, name: &str, screen: &Screen) -> Result<Display, DisplaysError> {
        let mut parts = name.split(',').map(str::trim);
        let display = self.of_size(parts.next().unwrap_or_default())?;
        let display = parts.try_fold(display, |display, part| with_part(display, part, screen))?;
        Ok(with_full_name(display, screen))
    }

    fn of_size(&self, name: &str) -> Result<Display, DisplaysError> {
        let numbers = |text: &str, between: char| -> Option<(f64, f64)> {
            let (a, b) = text.split_once(between)?;
            Some((a.trim().parse().ok()?, b.trim().parse().ok()?))
        };
        if let Some((width, height)) = numbers(name, 'x') {
            return Ok(Display::new(width, height)?);
        }
        if let Some((ratio, side)) = name.split_once('@')
            && let Some((across, down)) = numbers(ratio, ':')
        {
            let sized = |end: char| side.trim().strip_suffix(end).and_then(|n| n.trim().parse::<f64>().ok());
            // The other side in whole logical pixels.
            return match (sized('w'), sized('h')) {
                (Some(width), _) => Ok(Display::new(width, (width * down / across).round())?),
                (_, Some(height)) => Ok(Display::new((height * across / down).round(), height)?),
                _ => {
                    let help = format!("say which side the number is for: `{ratio}@720w` or `{ratio}@720h`");
                    Err(DisplaysError::Unknown { name: name.into(), help })
                }
            };
        }
        let (upright, turned) = name.strip_suffix(TURNED).map_or((name, false), |n| (n, true));
        let class = self.classes.iter().find(|c| c.name == upright);
        let found = class.and_then(|c| if turned { c.on_its_side() } else { Some(c.upright()) });
        found.ok_or_else(|| {
            let known: Vec<&str> = self.classes.iter().map(|c| &*c.name).collect();
            let help = match (class, nearest(upright, known.iter().copied())) {
                (Some(_), _) => format!("`{upright}` is not used rotated"),
                (None, Some(near)) => format!("did you mean `{near}`?"),
                (None, None) => format!(
                    "write WIDTHxHEIGHT such as 390x844, an aspect with one side such as 16:9@720w, or one \
                     of {}, each with {TURNED} where it is rotated",
                    known.join(", ")
                ),
            };
            DisplaysError::Unknown { name: name.into(), help }
        })
    }
}

/// A display with what stands after a comma.
fn with_part(display: Display, part: &str, screen: &Screen) -> Result<Display, DisplaysError> {
    match part {
        "right to left" => return Ok(display.with_direction(Direction::RightToLeft)),
        "left to right" => return Ok(display.with_direction(Direction::LeftToRight)),
        _ => {}
    }
    if DEVICE_PARTS.iter().any(|word| part.starts_with(word)) {
        let named = format!("{}, {}", display.name(), part.split_whitespace().collect::<Vec<_>>().join(" "));
        if let Some(by) = part.strip_prefix("scroll ").and_then(|by| by.trim().parse::<f64>().ok()) {
            return Ok(display.with_all_scrolled(by)?.named(named));
        }
        if let Some((view, offset)) = part.strip_prefix("scroll ").and_then(|to| to.trim().rsplit_once(' ')) {
            let view = view.trim();
            let scrolls = screen.find(view).is_some_and(|view| screen.at(view).scroll().is_some());
            let Some(offset) = offset.parse::<f64>().ok().filter(|_| scrolls) else {
                let help = "write a view that scrolls and how far, such as `scroll page 240`".to_owned();
                return Err(DisplaysError::Part { part: part.into(), help });
            };
            return Ok(display.with_scroll(view, offset, offset)?.named(named));
        }
        if let Some(sides) = part.strip_prefix("insets ") {
            let sides: Vec<f64> = sides.split_whitespace().filter_map(|side| side.parse().ok()).collect();
            let [left, top, right, bottom] = sides.as_slice() else {
                let help =
                    "write four numbers: left, top, right and bottom, such as `insets 0 47 0 34`".to_owned();
                return Err(DisplaysError::Part { part: part.into(), help });
            };
            let (left, top, right, bottom) = (*left, *top, *right, *bottom);
            return Ok(display.with_insets(Insets { left, top, right, bottom })?.named(named));
        }
        let number = part.split_once(' ').and_then(|(_, n)| n.trim().parse::<f64>().ok());
        let found = match (part.split(' ').next(), number) {
            (Some("touch"), None) if part == "touch" => Some(Ok(display.clone().with_touch(true))),
            (Some("density"), Some(density)) => Some(display.clone().with_density(density)),
            (Some("keyboard"), Some(height)) => Some(display.clone().with_keyboard(height)),
            _ => None,
        };
        if let Some(display) = found {
            return Ok(display?.named(named));
        }
    }
    let number = |word: &str| part.strip_prefix(word).and_then(|n| n.trim().parse::<f64>().ok());
    if let Some(scale) = number("text ") {
        return Ok(display.with_text_scale(scale)?);
    }
    if let Some((name, to)) = part.split_once(' ')
        && screen.parameter(name).is_some()
        && let Ok(to) = to.trim().parse::<f64>()
    {
        return Ok(display.with_parameter(name, to)?);
    }
    if let Some((state, shown)) = part.split_once('.')
        && let Some(known) = screen.states().iter().find(|s| s.name() == state)
        && known.alternatives().iter().any(|a| a == shown)
    {
        return Ok(display.with_state(state, shown));
    }
    if let Some(language) = screen.languages().iter().find(|l| l.name() == part) {
        let direction =
            if language.is_right_to_left() { Direction::RightToLeft } else { display.direction() };
        return Ok(display.with_language(part).with_direction(direction));
    }
    if part == PSEUDO {
        return Ok(display.with_language(PSEUDO));
    }
    let bands = screen.bands().iter().map(|b| b.name()).filter(|n| n.contains('.'));
    let languages = screen.languages().iter().map(|l| l.name());
    let words = [
        "right to left",
        "left to right",
        "touch",
        "text 1.3",
        "density 2",
        "keyboard 260",
        "insets 0 47 0 34",
        "scroll page 240",
        PSEUDO,
    ];
    let parameters: Vec<String> =
        screen.parameters().map(|of| format!("{} {}", of.name(), of.number())).collect();
    let known = words.into_iter().chain(languages).chain(bands).chain(parameters.iter().map(String::as_str));
    let known: Vec<&str> = known.collect();
    let help = match nearest(part, known.iter().copied()) {
        Some(near) => format!("did you mean `{near}`?"),
        None => format!("write one of {}", known.join(", ")),
    };
    Err(DisplaysError::Part { part: part.into(), help })
}

impl Entry {
    /// The class that it stands for; a number that no display can have is refused.
    fn class(self) -> Result<DisplayClass, String> {
        let plain = |c: char| c.is_ascii_lowercase() || c.is_ascii_digit() || c == '-';
        let is_name = self.name.starts_with(|c: char| c.is_ascii_lowercase()) && self.name.chars().all(plain);
        if !is_name || self.name.ends_with(TURNED) {
            return Err(format!(
                "`{}` is not a name for a display: use small letters, digits and `-`, without `{TURNED}` at \
                 the end",
                self.name.chars().take(60).collect::<String>()
            ));
        }
        let turned = match self.turned {
            Turned::Used(false) => None,
            Turned::Used(true) => Some(insets_of(self.insets).turned()),
            Turned::Insets(insets) => Some(insets_of(insets)),
        };
        let class = DisplayClass {
            name: Cow::Owned(self.name),
            about: Cow::Owned(self.about),
            size: (self.size[0], self.size[1]),
            insets: insets_of(self.insets),
            turned,
            density: self.density,
            touch: self.touch,
            keyboard: match self.keyboard {
                Keyboard::Same(height) => (height, height),
                Keyboard::Each([upright, turned]) => (upright, turned),
            },
        };
        class.checked().map_err(|error| error.to_string())?;
        Ok(class)
    }
}
