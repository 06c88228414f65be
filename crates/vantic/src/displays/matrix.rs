//! The matrix: displays tried in every combination of text scales, reading directions, languages and states.

use vantic_core::display::{Display, DisplayError};
use vantic_core::geometry::Direction;
use vantic_core::model::{PSEUDO, Screen};

/// What parts of a display's name begin with that tell of the device.
pub(crate) const DEVICE_PARTS: [&str; 5] = ["touch", "density ", "keyboard ", "scroll ", "insets "];

/// The most combinations of one matrix.
pub const MAX_COMBINATIONS: usize = 20_000;

/// The most views on all the displays of one matrix together.
pub const MAX_VIEWS_PLACED: usize = 4_000_000;

/// Displays, and what else is tried on each. What a display says itself is kept.
#[derive(Clone, Debug, PartialEq)]
#[must_use = "calls give a changed copy"]
pub struct Matrix {
    displays: Vec<Display>,
    text_scales: Vec<f64>,
    directions: Vec<Direction>,
    languages: Vec<Option<String>>,
    /// Per state: the alternatives to be tried.
    states: Vec<(String, Vec<String>)>,
    /// Per parameter: the numbers to be tried, one parameter at a time.
    parameters: Vec<(String, Vec<f64>)>,
}

/// Why a matrix could not be laid out.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
#[non_exhaustive]
pub enum MatrixError {
    /// It has more than [`MAX_COMBINATIONS`].
    #[error(
        "{0} combinations of displays, text scales, directions, languages and states: the limit is 20000; \
         try fewer of them at once"
    )]
    TooMany(usize),
    /// It has more views on all its displays together than [`MAX_VIEWS_PLACED`].
    #[error("{0} views on all displays together: the limit is 4000000; try fewer displays at once")]
    TooLarge(usize),
    /// A text scale was refused.
    #[error(transparent)]
    Number(#[from] DisplayError),
    /// The screen has no such language.
    #[error("the screen has no words in `{0}`; declare it with `language {0} {{ ... }}`, or try `pseudo`")]
    Language(String),
}

impl Matrix {
    /// These displays as they are.
    pub fn of(displays: Vec<Display>) -> Self {
        let (text_scales, directions, languages) = (Vec::new(), Vec::new(), Vec::new());
        let (states, parameters) = (Vec::new(), Vec::new());
        Self { displays, text_scales, directions, languages, states, parameters }
    }

    /// With every language that the screen has words in, its own among them, every alternative of its
    /// states, and both ends of its parameters.
    pub fn all_of(self, screen: &Screen) -> Self {
        self.all_languages(screen).all_states(screen).all_parameters(screen)
    }

    /// With each parameter of the screen at both ends of its range, and where bands begin or end at it, in the middle between those
    /// places. One parameter is changed at a time, on the displays without what else is tried.
    pub fn all_parameters(self, screen: &Screen) -> Self {
        let parameters = screen.parameters();
        let numbers = parameters.map(|of| (of.name().to_owned(), screen.tried_numbers(of.name())));
        Self { parameters: numbers.collect(), ..self }
    }

    /// With each of these text scales.
    pub fn text_scales(self, text_scales: impl IntoIterator<Item = f64>) -> Self {
        Self { text_scales: text_scales.into_iter().collect(), ..self }
    }

    /// With each of these reading directions; a language that is read from right to left is read that way
    /// only.
    pub fn directions(self, directions: impl IntoIterator<Item = Direction>) -> Self {
        Self { directions: directions.into_iter().collect(), ..self }
    }

    /// With each of these languages; `None` stands for the words of the screen itself.
    pub fn languages(self, languages: impl IntoIterator<Item = Option<String>>) -> Self {
        Self { languages: languages.into_iter().collect(), ..self }
    }

    /// With every language that the screen has words in, and its own words.
    pub fn all_languages(self, screen: &Screen) -> Self {
        let others = screen.languages().iter().filter(|l| !l.is_own()).map(|l| Some(l.name().to_owned()));
        self.languages(std::iter::once(None).chain(others))
    }

    /// With each of these alternatives of a state.
    pub fn state(mut self, state: impl Into<String>, shown: Vec<String>) -> Self {
        let state = state.into();
        self.states.retain(|(known, _)| *known != state);
        self.states.push((state, shown));
        self
    }

    /// With every alternative of every state of the screen.
    pub fn all_states(self, screen: &Screen) -> Self {
        screen.states().iter().fold(self, |matrix, s| matrix.state(s.name(), s.alternatives().to_vec()))
    }

    /// Every combination, each a display with a name that says what is tried on it. The displays stay in
    /// their order.
    ///
    /// ```
    /// use vantic::display::{Display, Matrix};
    /// use vantic::geometry::Direction;
    ///
    /// let source = vantic::read("screen quay { view a { pin left, top to safe; size = 8 } }")?;
    /// let matrix = Matrix::of(vec![Display::new(390.0, 844.0)?])
    ///     .text_scales([1.0, 2.0])
    ///     .directions([Direction::LeftToRight, Direction::RightToLeft]);
    /// assert_eq!(matrix.displays(&source.screen)?.len(), 4);
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    ///
    /// # Errors
    /// Too many of them, a text scale that is refused, or a language that the screen does not have.
    pub fn displays(&self, screen: &Screen) -> Result<Vec<Display>, MatrixError> {
        let ways = [self.text_scales.len(), self.directions.len(), self.languages.len()];
        let ways = ways.into_iter().chain(self.states.iter().map(|(_, shown)| shown.len()));
        let count = ways.map(|n| n.max(1)).fold(self.displays.len(), usize::saturating_mul);
        let set: usize = self.parameters.iter().map(|(_, numbers)| numbers.len()).sum();
        let count = count.saturating_add(self.displays.len().saturating_mul(set));
        if count > MAX_COMBINATIONS {
            return Err(MatrixError::TooMany(count));
        }
        let views = count.saturating_mul(screen.views().count());
        if views > MAX_VIEWS_PLACED {
            return Err(MatrixError::TooLarge(views));
        }
        let mut all = Vec::new();
        for display in &self.displays {
            let mut here = vec![display.clone()];
            if !self.text_scales.is_empty() && display.text_scale() == 1.0 {
                here = each(here, &self.text_scales, |d, scale| Ok(d.with_text_scale(*scale)?))?;
            }
            if !self.languages.is_empty() && display.language().is_none() {
                here = each(here, &self.languages, |d, language| match language {
                    None => Ok(d),
                    Some(name) => spoken(d, name, screen),
                })?;
            }
            let is_right_to_left = display.direction() == Direction::RightToLeft;
            if !self.directions.is_empty() && !is_right_to_left {
                // A language decides its direction.
                here = each(here, &self.directions, |d, direction| {
                    let decided = d.direction() == Direction::RightToLeft;
                    Ok(if decided { d } else { d.with_direction(*direction) })
                })?;
                here.dedup();
            }
            for (state, shown) in &self.states {
                if display.state(state).is_none() {
                    here = each(here, shown, |d, shown| Ok(d.with_state(state.as_str(), shown.as_str())))?;
                }
            }
            for (name, numbers) in
                self.parameters.iter().filter(|(name, _)| display.parameter(name).is_none())
            {
                let set = |number: &f64| display.clone().with_parameter(name.as_str(), *number);
                here.extend(numbers.iter().map(set).collect::<Result<Vec<_>, _>>()?);
            }
            all.extend(here.into_iter().map(|d| with_full_name(d, screen)));
        }
        Ok(all)
    }
}

fn each<T>(
    displays: Vec<Display>,
    ways: &[T],
    with: impl Fn(Display, &T) -> Result<Display, MatrixError>,
) -> Result<Vec<Display>, MatrixError> {
    displays
        .into_iter()
        .flat_map(|d| ways.iter().map(|way| with(d.clone(), way)).collect::<Vec<_>>())
        .collect()
}

/// A display read in a language, and in its direction.
fn spoken(display: Display, name: &str, screen: &Screen) -> Result<Display, MatrixError> {
    if name == PSEUDO {
        return Ok(display.with_language(PSEUDO));
    }
    let language = screen.languages().iter().find(|l| l.name() == name);
    let language = language.ok_or_else(|| MatrixError::Language(name.to_owned()))?;
    let display = display.with_language(name);
    Ok(if language.is_right_to_left() { display.with_direction(Direction::RightToLeft) } else { display })
}

/// The same display with a name that says what is tried on it, as it may be written to name it again.
pub(crate) fn with_full_name(display: Display, screen: &Screen) -> Display {
    let mut parts = display.name().split(',').map(str::trim);
    let base = parts.next().unwrap_or_default().to_owned();
    // What is reported of the device itself stays; the rest is reported again.
    let device = parts.filter(|p| DEVICE_PARTS.iter().any(|word| p.starts_with(word))).map(str::to_owned);
    let parts: Vec<String> =
        std::iter::once(base).chain(device).chain(variations(&display, screen)).collect();
    display.named(parts.join(", "))
}

/// The name of a display on which a view is scrolled, as it may be written to name it again.
pub(crate) fn scrolled_name(display: &str, view: &str, offset: f64) -> String {
    format!("{display}, scroll {view} {offset}")
}

/// What is tried on it besides its size, in words: text scale, direction, language, alternatives that are not
/// the first of their state, parameters that are not what they are without.
pub fn variations(display: &Display, screen: &Screen) -> Vec<String> {
    let mut ways = Vec::new();
    if display.text_scale() != 1.0 {
        ways.push(format!("text {}", display.text_scale()));
    }
    let language = screen.languages().iter().find(|l| Some(l.name()) == display.language());
    if display.direction() == Direction::RightToLeft && !language.is_some_and(|l| l.is_right_to_left()) {
        ways.push("right to left".to_owned());
    }
    ways.extend(display.language().map(str::to_owned));
    for state in screen.states() {
        let shown = display
            .state(state.name())
            .filter(|shown| state.alternatives().first().is_none_or(|f| f != shown));
        ways.extend(shown.map(|shown| format!("{}.{shown}", state.name())));
    }
    for parameter in screen.parameters() {
        let set = display.parameter(parameter.name()).filter(|number| *number != parameter.number());
        ways.extend(set.map(|number| format!("{} {number}", parameter.name())));
    }
    ways
}
