//! What is expected to come out: frames on displays, kept with the screen as its tests.

use crate::displays::displays::{Displays, DisplaysError};
use crate::finding::detail::Mismatch;
use crate::inspect::expectations::mismatches;
use crate::syntax::error::{SourceErrors, line_and_column};
use vantic_core::model::{Screen, ViewId};
use vantic_core::plan::{PlaceError, Plan, PlanError};
use vantic_core::text::Measure;

/// Why a screen does not come out as expected. Its text is for people: a failing test prints it.
#[derive(thiserror::Error)]
#[non_exhaustive]
pub enum ExpectationFailure {
    /// The screen file cannot be used.
    #[error("the screen file cannot be used: {0}")]
    Source(String),
    /// The screen cannot be planned for every display.
    #[error(transparent)]
    Plan(#[from] PlanError),
    /// The screen cannot be placed.
    #[error(transparent)]
    Anchor(#[from] PlaceError),
    /// A display is not known.
    #[error(transparent)]
    Display(#[from] DisplaysError),
    /// The screen holds no expectations.
    #[error("`{0}` has no expectations: write `expect on \"390x844\" {{ ... }}` in it")]
    Nothing(String),
    /// What is not met, a line each.
    #[error("{0}")]
    Frames(String),
}

impl std::fmt::Debug for ExpectationFailure {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "{self}")
    }
}

/// Checks the expectations of a screen file: two lines of an application's own `cargo test`.
///
/// ```
/// let quay = r#"screen quay {
///     view a { left = 0; top = 0; size = 8 }
///     expect on "390x844" { a = (0, 0, 8, 8) }
/// }"#;
/// vantic::testing::assert_expectations(quay, &vantic::PlainText)?;
/// # Ok::<(), vantic::testing::ExpectationFailure>(())
/// ```
///
/// # Errors
/// What is not met, each with what came out and by how much it is off; a file that cannot be used; a screen
/// that expects nothing.
pub fn assert_expectations(file: &str, measure: &(dyn Measure + Sync)) -> Result<(), ExpectationFailure> {
    let source = crate::resolve::read::read(file)
        .map_err(|errors| ExpectationFailure::Source(described(file, &errors)))?;
    assert_screen_expectations(source.screen, measure)
}

/// The same of a screen that is at hand: built in Rust, or read with the files that it is based on
/// ([`crate::files::Assembled`]).
///
/// # Errors
/// As for [`assert_expectations`].
pub fn assert_screen_expectations(
    screen: Screen,
    measure: &(dyn Measure + Sync),
) -> Result<(), ExpectationFailure> {
    let plan = Plan::new(screen)?;
    let screen = plan.screen();
    if screen.expectations().is_empty() {
        return Err(ExpectationFailure::Nothing(screen.name().to_owned()));
    }
    let displays = Displays::default();
    let mut lines = Vec::new();
    for expectation in screen.expectations() {
        let placement = plan.place(&displays.find(&expectation.on, screen)?, measure)?;
        let line = |(view, mismatch): &(ViewId, Mismatch)| {
            format!("on {}: {}", expectation.on, mismatch.text(&screen.path(*view)))
        };
        lines.extend(mismatches(&placement, expectation).iter().map(line));
    }
    if lines.is_empty() {
        return Ok(());
    }
    let count =
        if lines.len() == 1 { "one frame is".to_owned() } else { format!("{} frames are", lines.len()) };
    let head = format!("`{}`: {count} not as expected", screen.name());
    Err(ExpectationFailure::Frames(format!("{head}\n  {}", lines.join("\n  "))))
}

fn described(file: &str, errors: &SourceErrors) -> String {
    let line = |at: usize| line_and_column(file, at).0;
    let all: Vec<String> =
        errors.errors.iter().map(|e| format!("line {}: {}", line(e.span.start), e.message)).collect();
    all.join("; ")
}
