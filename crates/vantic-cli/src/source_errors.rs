//! What is wrong with a screen file, shown at its lines.

use crate::output::RED;
use annotate_snippets::{AnnotationKind, Group, Level, Origin, Renderer, Snippet};
use anstream::eprintln;
use std::io::IsTerminal;
use std::ops::Range;
use vantic::files::{Assembled, InFile};
use vantic::syntax::{SourceError, SourceErrors, line_and_column};

/// Errors that are already laid out for people.
#[derive(Debug, thiserror::Error)]
#[error("{0}")]
pub(crate) struct RenderedErrors(pub(crate) String);

/// The widest part of a line that is shown around an error, in characters either side.
const AROUND: usize = 100;

/// Lays out the errors of a screen file and its bases, each with its line.
pub(crate) fn show(files: &Assembled, errors: &SourceErrors) -> RenderedErrors {
    let renderer = if std::io::stderr().is_terminal() { Renderer::styled() } else { Renderer::plain() };
    let mut out = String::new();
    for error in &errors.errors {
        out += &one(&renderer, files, error);
        out += "\n\n";
    }
    if errors.total > errors.errors.len() {
        out += &format!("... and {} more\n\n", errors.total - errors.errors.len());
    }
    let path = files.names().next().unwrap_or_default();
    out += &format!("{path}: {}", crate::output::count(errors.total, "error"));
    RenderedErrors(out)
}

fn one(renderer: &Renderer, files: &Assembled, error: &SourceError) -> String {
    let InFile { name: path, text, span } = files.place(&error.span);
    if text.is_empty() || span == (0..0) {
        let title = Level::ERROR.primary_title(format!("{path}: {}", error.message));
        let help = error.help.iter().map(|h| Level::HELP.message(h.as_str()));
        return renderer.render(&[title.elements(help)]);
    }
    let (line, column) = line_and_column(text, span.start);
    let mut group = Group::with_title(Level::ERROR.primary_title(error.message.as_str()));
    let (shown, span, whole) = line_around(text, &span);
    let mut snippet = Snippet::source(shown).line_start(line).annotation(AnnotationKind::Primary.span(span));
    if whole {
        snippet = snippet.path(path);
    } else {
        // The column would be counted in the part that is shown.
        group = group.element(Origin::path(path).line(line).char_column(column));
    }
    group = group.element(snippet);
    if let Some((span, what)) = &error.related {
        let InFile { name: path, text, span } = files.place(span);
        let (line, _) = line_and_column(text, span.start);
        let (shown, span, _) = line_around(text, &span);
        let snippet = Snippet::source(shown).line_start(line).path(path);
        group = group.element(snippet.annotation(AnnotationKind::Context.span(span).label(what.as_str())));
    }
    if let Some(help) = &error.help {
        group = group.element(Level::HELP.message(help.as_str()));
    }
    renderer.render(&[group])
}

/// The part of the line around a span, the span within it, and whether that is the whole line.
fn line_around(text: &str, span: &Range<usize>) -> (String, Range<usize>, bool) {
    let line_start = text[..span.start].rfind('\n').map_or(0, |i| i + 1);
    let line_end = text[span.start..].find('\n').map_or(text.len(), |i| span.start + i);
    let end = span.end.clamp(span.start, line_end);
    let before: Vec<char> = text[line_start..span.start].chars().rev().take(AROUND).collect();
    let before: String = before.into_iter().rev().collect();
    let inside: String = text[span.start..end].chars().take(AROUND).collect();
    let after: String = text[end..line_end].chars().take(AROUND).collect();
    let lead = if before.len() < span.start - line_start { "..." } else { "" };
    let trail = if after.len() < line_end - end { "..." } else { "" };
    let at = lead.len() + before.len();
    let shown = format!("{lead}{before}{inside}{after}{trail}").replace(['\t', '\r'], " ");
    (shown, at..at + inside.len(), lead.is_empty() && trail.is_empty())
}

/// Says what went wrong, on standard error.
pub(crate) fn print_error(error: &anyhow::Error) {
    match error.downcast_ref::<RenderedErrors>() {
        Some(shown) => eprintln!("{}", shown.0.trim_end()),
        None => eprintln!("{RED}error{RED:#}: {error:#}"),
    }
}
