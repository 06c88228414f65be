//! What is expected to come out: frames on displays, kept with the screen as its tests.

use crate::check::number;
use crate::coordinate::Coordinate;
use crate::displays::{Displays, DisplaysError};
use crate::language::{line_of, toml_error};
use crate::measure::Measure;
use crate::plan::{Frame, PlaceError, Placement, Plan, PlanError};
use crate::screen::{Screen, ViewId};
use crate::syntax::{SourceErrors, line_and_column};
use serde::Deserialize;
use std::collections::BTreeMap;
use toml::Spanned;

/// How far off a frame may be where nothing else is said, in logical pixels.
pub const USUAL_WITHIN: f64 = 0.5;

/// What is expected on one display.
#[derive(Clone, Debug, PartialEq)]
pub struct Expectation {
    /// The display, as it is named on the command line.
    pub on: String,
    /// How far off an edge or size may be, in logical pixels.
    pub within: f64,
    /// What is expected there.
    pub expected: Vec<(ViewId, Expected)>,
}

/// What is expected of a view.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Expected {
    /// Its frame.
    Frame(Frame),
    /// One of its coordinates, measured from the screen's top left corner.
    One(Coordinate, f64),
    /// It is not there.
    Hidden,
}

impl Expectation {
    pub(crate) fn views(&self) -> impl Iterator<Item = ViewId> + '_ {
        self.expected.iter().map(|(view, _)| *view)
    }

    pub(crate) fn numbers(&self) -> impl Iterator<Item = f64> + '_ {
        self.expected.iter().flat_map(|(_, expected)| match *expected {
            Expected::Frame(Frame { left, top, width, height }) => vec![left, top, width, height],
            Expected::One(_, value) => vec![value],
            Expected::Hidden => Vec::new(),
        })
    }
}

/// The coordinates that can be expected by themselves.
pub(crate) const COORDINATES: [(&str, Coordinate); 8] = [
    ("left", Coordinate::Left),
    ("top", Coordinate::Top),
    ("right", Coordinate::Right),
    ("bottom", Coordinate::Bottom),
    ("width", Coordinate::Width),
    ("height", Coordinate::Height),
    ("center_x", Coordinate::CenterX),
    ("center_y", Coordinate::CenterY),
];

/// What a coordinate is in a frame, both measured from the screen's top left corner.
pub(crate) fn value_of(frame: &Frame, coordinate: Coordinate) -> f64 {
    match coordinate {
        Coordinate::Top => frame.top,
        Coordinate::Right => frame.right(),
        Coordinate::Bottom => frame.bottom(),
        Coordinate::Width => frame.width,
        Coordinate::Height => frame.height,
        Coordinate::CenterX => f64::midpoint(frame.left, frame.right()),
        Coordinate::CenterY => f64::midpoint(frame.top, frame.bottom()),
        _ => frame.left,
    }
}

/// An expectation that is not met.
#[derive(Clone, Debug, PartialEq)]
pub(crate) struct Missing {
    pub(crate) view: ViewId,
    /// What came out and what was expected, in words.
    pub(crate) message: String,
    /// By how much the worst coordinate is off, in logical pixels.
    pub(crate) amount: f64,
    /// The coordinates that are off.
    pub(crate) coordinates: Vec<&'static str>,
}

/// What a placement does not meet.
pub(crate) fn missing(screen: &Screen, placement: &Placement, expectation: &Expectation) -> Vec<Missing> {
    let mut all = Vec::new();
    for &(view, expected) in &expectation.expected {
        let path = screen.path(view);
        let mut missed = |coordinates: Vec<&'static str>, amount: f64, message: String| {
            all.push(Missing { view, message, amount, coordinates });
        };
        match (expected, placement.frame(view)) {
            (Expected::Hidden, None) => {}
            (Expected::Hidden, Some(frame)) => {
                missed(Vec::new(), 0.0, format!("`{path}` is expected to be hidden, and is at {frame}"));
            }
            (_, None) => missed(Vec::new(), 0.0, format!("`{path}` is expected to be there, and is hidden")),
            (Expected::Frame(wanted), Some(frame)) => {
                let edges = [
                    ("left", frame.left - wanted.left),
                    ("top", frame.top - wanted.top),
                    ("width", frame.width - wanted.width),
                    ("height", frame.height - wanted.height),
                ];
                let off: Vec<_> = edges.into_iter().filter(|(_, by)| by.abs() > expectation.within).collect();
                if off.is_empty() {
                    continue;
                }
                let said: Vec<String> = off.iter().map(|(what, by)| off_by(what, *by)).collect();
                let amount = off.iter().map(|(_, by)| by.abs()).fold(0.0, f64::max);
                let message =
                    format!("`{path}` is at {frame}, and {wanted} is expected: {}", said.join(", "));
                missed(off.iter().map(|o| o.0).collect(), amount, message);
            }
            (Expected::One(coordinate, wanted), Some(frame)) => {
                let value = value_of(&frame, coordinate);
                let what = coordinate.spelling();
                if (value - wanted).abs() > expectation.within {
                    let (is, by) = (number(value), off_by(what, value - wanted));
                    let message =
                        format!("`{path}.{what}` is {is}, and {} is expected: {by}", number(wanted));
                    missed(vec![what], (value - wanted).abs(), message);
                }
            }
        }
    }
    all
}

/// `12 too far right`, `3 too wide`.
fn off_by(what: &str, by: f64) -> String {
    let (more, less) = match what {
        "top" | "bottom" | "center_y" => ("too far down", "too far up"),
        "width" => ("too wide", "too narrow"),
        "height" => ("too high", "too low"),
        _ => ("too far right", "too far left"),
    };
    format!("{} {}", number(by.abs()), if by > 0.0 { more } else { less })
}

/// Why a file of expectations could not be used.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
#[error("line {line}: {message}")]
pub struct ExpectError {
    /// The line, counted from 1.
    pub line: usize,
    /// What is wrong, and what to write instead.
    pub message: String,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct File {
    #[serde(default)]
    display: Vec<Spanned<OneDisplay>>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct OneDisplay {
    name: String,
    #[serde(default = "usual_within")]
    within: f64,
    #[serde(default)]
    frames: BTreeMap<Spanned<String>, [f64; 4]>,
    #[serde(default)]
    hidden: Vec<Spanned<String>>,
}

fn usual_within() -> f64 {
    USUAL_WITHIN
}

impl Screen {
    /// What is expected to come out, kept with the screen.
    pub fn expectations(&self) -> &[Expectation] {
        &self.expectations
    }

    /// The screen with the expectations of a file in TOML: `[[display]]`, `name = "390x844"`, then under
    /// `[display.frames]` lines such as `"header.title" = [16, 22, 180, 25]`, and `hidden = ["opener"]`.
    ///
    /// # Errors
    /// What is wrong in the file, with its line.
    pub fn with_expectations(mut self, file: &str) -> Result<Screen, ExpectError> {
        let parsed: File = toml::from_str(file).map_err(|error| {
            let (line, message) = toml_error(file, &error);
            ExpectError { line, message }
        })?;
        for display in parsed.display {
            let line = line_of(file, Some(display.span()));
            let display = display.into_inner();
            let mut expected = Vec::new();
            let find = |path: &Spanned<String>| {
                let line = line_of(file, Some(path.span()));
                let path = path.get_ref();
                self.find(path).ok_or_else(|| {
                    let near =
                        self.nearest_path(path).map_or(String::new(), |n| format!("; did you mean `{n}`?"));
                    ExpectError { line, message: format!("there is no view `{path}`{near}") }
                })
            };
            for (path, [left, top, width, height]) in &display.frames {
                let frame = Frame { left: *left, top: *top, width: *width, height: *height };
                expected.push((find(path)?, Expected::Frame(frame)));
            }
            for path in &display.hidden {
                expected.push((find(path)?, Expected::Hidden));
            }
            let finite = expected.iter().all(|(_, e)| match e {
                Expected::Frame(f) => {
                    [f.left, f.top, f.width, f.height].iter().all(|n| n.abs() <= crate::MAX_NUMBER)
                }
                _ => true,
            });
            if !finite || !(0.0..=crate::MAX_NUMBER).contains(&display.within) {
                let message =
                    "a number is not within -10000000 to 10000000, or `within` is below zero".to_owned();
                return Err(ExpectError { line, message });
            }
            self.expectations.push(Expectation { on: display.name, within: display.within, expected });
        }
        Ok(self)
    }
}

impl Placement {
    /// All frames as a file of expectations, in TOML, for [`Screen::with_expectations`].
    pub fn to_expectations(&self, screen: &Screen) -> String {
        use std::fmt::Write as _;
        let quoted = |words: &str| toml::Value::String(words.to_owned()).to_string();
        let (mut frames, mut hidden) = (String::new(), Vec::new());
        for (view, about) in screen.views().filter(|(_, v)| v.guide().is_none()) {
            let _ = about;
            match self.frame(view) {
                Some(frame) => {
                    let Frame { left, top, width, height } = frame.rounded();
                    let _ = writeln!(
                        frames,
                        "{} = [{left:?}, {top:?}, {width:?}, {height:?}]",
                        quoted(&screen.path(view))
                    );
                }
                None => hidden.push(quoted(&screen.path(view))),
            }
        }
        let name = quoted(self.display.name());
        let hidden =
            if hidden.is_empty() { String::new() } else { format!("hidden = [{}]\n", hidden.join(", ")) };
        format!("[[display]]\nname = {name}\n{hidden}\n[display.frames]\n{frames}")
    }
}

/// Why a screen does not come out as expected. Its text is for people: a failing test prints it.
#[derive(thiserror::Error)]
pub enum Unmet {
    /// The screen file cannot be used.
    #[error("the screen file cannot be used: {0}")]
    Source(String),
    /// The screen cannot be planned for every display.
    #[error(transparent)]
    Plan(#[from] PlanError),
    /// The screen cannot be placed.
    #[error(transparent)]
    Place(#[from] PlaceError),
    /// A display is not known.
    #[error(transparent)]
    Display(#[from] DisplaysError),
    /// The screen holds no expectations.
    #[error("`{0}` expects nothing: write `expect on \"390x844\" {{ ... }}` in it")]
    Nothing(String),
    /// What is not met, a line each.
    #[error("{0}")]
    Frames(String),
}

impl std::fmt::Debug for Unmet {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "{self}")
    }
}

/// Whether a screen file comes out as it expects itself: as a test, two lines of an application's own `cargo test`.
///
/// ```
/// # fn a_test() -> Result<(), vantic::Unmet> {
/// vantic::expected(r#"screen quay { view a { left = 0; top = 0; size = 8 }; expect on "390x844" { a = (0, 0, 8, 8) } }"#, &vantic::PlainText)
/// # }
/// # a_test().unwrap();
/// ```
///
/// # Errors
/// What is not met, each with what came out and by how much it is off; a file that cannot be used; a screen that
/// expects nothing.
pub fn expected(file: &str, measure: &dyn Measure) -> Result<(), Unmet> {
    let source = crate::read(file).map_err(|errors| Unmet::Source(told(file, &errors)))?;
    expected_of(source.screen, measure)
}

/// The same of a screen that is at hand: built in Rust, or read with the files that it is based on
/// ([`crate::Assembled`]).
///
/// # Errors
/// As for [`expected`].
pub fn expected_of(screen: Screen, measure: &dyn Measure) -> Result<(), Unmet> {
    let plan = Plan::new(screen)?;
    let screen = plan.screen();
    if screen.expectations().is_empty() {
        return Err(Unmet::Nothing(screen.name().to_owned()));
    }
    let displays = Displays::default();
    let mut lines = Vec::new();
    for expectation in screen.expectations() {
        let placement = plan.place(&displays.find(&expectation.on, screen)?, measure)?;
        let missing = missing(screen, &placement, expectation);
        lines.extend(missing.iter().map(|m| format!("on {}: {}", expectation.on, m.message)));
    }
    if lines.is_empty() {
        return Ok(());
    }
    let count =
        if lines.len() == 1 { "one frame is".to_owned() } else { format!("{} frames are", lines.len()) };
    let head = format!("`{}`: {count} not as expected", screen.name());
    Err(Unmet::Frames(format!("{head}\n  {}", lines.join("\n  "))))
}

fn told(file: &str, errors: &SourceErrors) -> String {
    let line = |at: usize| line_and_column(file, at).0;
    let all: Vec<String> =
        errors.errors.iter().map(|e| format!("line {}: {}", line(e.span.start), e.message)).collect();
    all.join("; ")
}
