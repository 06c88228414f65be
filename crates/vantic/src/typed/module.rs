//! The module of a screen file.

use crate::check::check;
use crate::displays::{Displays, Matrix};
use crate::files::Assembled;
use crate::finding::Severity;
use crate::syntax::line_and_column;
use crate::typed::fields::types;
use std::fmt::Write as _;
use std::ops::Range;
use vantic_core::model::Screen;
use vantic_core::plan::Plan;
use vantic_core::text::PlainText;

/// The Rust module of a screen file: the functions that build the screen, and a type with a field for all of it that has a name.
/// `complete` adds what stands beside the file, such as words in other languages. With a severity it is refused where a check of the
/// screen, on the displays of the catalogue with its languages, states and parameters, finds something this bad or worse that is not
/// accepted; texts are measured without fonts.
///
/// # Errors
/// All that is wrong, a line each: the file, the line and column, and what it is.
pub fn module(
    files: &Assembled,
    complete: impl FnOnce(Screen) -> Result<Screen, String>,
    refused: Option<Severity>,
) -> Result<String, Vec<String>> {
    let at = |span: &Range<usize>, message: String| {
        let place = files.place(span);
        let (line, column) = line_and_column(place.text, place.span.start);
        format!("{}:{line}:{column}: {message}", place.name)
    };
    let source = files.read().map_err(|errors| {
        let one = |error: &crate::syntax::SourceError| {
            let help = error.help.as_ref().map_or_else(String::new, |help| format!(" ({help})"));
            at(&error.span, error.message.clone() + &help)
        };
        errors.errors.iter().map(one).collect::<Vec<_>>()
    })?;
    let screen = complete(source.screen).map_err(|error| vec![error])?;
    let plan = Plan::new(screen.clone()).map_err(|error| {
        let span = error.rule().and_then(|rule| source.map.rule(rule)).unwrap_or(0..0);
        vec![at(&span, error.to_string())]
    })?;
    if let Some(least) = refused {
        let whole = |message: String| vec![at(&(0..0), message)];
        let displays = Matrix::of(Displays::default().all()).all_of(&screen).displays(&screen);
        let displays = displays.map_err(|error| whole(error.to_string()))?;
        let report = check(&plan, &displays, &PlainText).map_err(|error| whole(error.to_string()))?;
        let found = report.open().filter(|finding| finding.severity <= least).map(|finding| {
            let named = finding.named(&screen, &report.displays);
            let mut message = format!("{} {}: {}", named.severity.name(), named.code.name(), named.message);
            if !named.worst.is_empty() {
                let _ = write!(message, " (on {})", named.worst);
            }
            at(&source.map.finding(finding).unwrap_or(0..0), message)
        });
        let found: Vec<String> = found.collect();
        if !found.is_empty() {
            return Err(found);
        }
    }
    let built = screen.in_rust().ok_or_else(|| vec![at(&(0..0), "the screen cannot be built".into())])?;
    let name = files.names().next().unwrap_or_default();
    Ok(format!("// Made from `{name}`; changes are lost.\n\n{built}{}", types(&screen)))
}
