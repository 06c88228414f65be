//! Files of expectations beside a screen file.

use crate::files::toml::{line_of, toml_error};
use serde::Deserialize;
use std::collections::BTreeMap;
use toml::Spanned;
use vantic_core::geometry::Frame;
use vantic_core::model::{BuildError, Expectation, Expected, Screen, USUAL_WITHIN};
use vantic_core::plan::Placement;

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

/// The screen with the expectations of a file in TOML: `[[display]]`, `name = "390x844"`, then under
/// `[display.frames]` lines such as `"header.title" = [16, 22, 180, 25]`, and `hidden = ["opener"]`.
///
/// # Errors
/// What is wrong in the file, with its line.
pub fn with_expectations(mut screen: Screen, file: &str) -> Result<Screen, ExpectError> {
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
            screen.find(path).ok_or_else(|| {
                let near =
                    screen.nearest_path(path).map_or(String::new(), |n| format!("; did you mean `{n}`?"));
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
        let expectation = Expectation { on: display.name, within: display.within, expected };
        screen = screen.with_expectation(expectation).map_err(|error| match error {
            BuildError::Number { .. } => {
                let message =
                    "a number is not within -10000000 to 10000000, or `within` is below zero".to_owned();
                ExpectError { line, message }
            }
            other => ExpectError { line, message: other.to_string() },
        })?;
    }
    Ok(screen)
}

/// All frames as a file of expectations, in TOML, for [`with_expectations`].
///
/// ```
/// use vantic::files::{to_expectations, with_expectations};
/// use vantic::prelude::*;
///
/// let source = vantic::read("screen quay { view a { pin left 4, top 4 to safe; size = 8 } }")?;
/// let plan = Plan::new(source.screen)?;
/// let file = to_expectations(&plan.place(&Display::new(390.0, 844.0)?, &PlainText)?, plan.screen());
/// let screen = with_expectations(plan.screen().clone(), &file)?;
/// vantic::testing::assert_screen_expectations(screen, &PlainText)?;
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
pub fn to_expectations(placement: &Placement, screen: &Screen) -> String {
    use std::fmt::Write as _;
    let quoted = |words: &str| toml::Value::String(words.to_owned()).to_string();
    let (mut frames, mut hidden) = (String::new(), Vec::new());
    for (view, _) in screen.views().filter(|(_, v)| v.guide().is_none()) {
        match placement.frame(view) {
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
    let name = quoted(placement.display.name());
    let hidden =
        if hidden.is_empty() { String::new() } else { format!("hidden = [{}]\n", hidden.join(", ")) };
    format!("[[display]]\nname = {name}\n{hidden}\n[display.frames]\n{frames}")
}
