//! The errors of a screen file, laid out like findings: what is wrong, the line with what is meant
//! underlined, and what to do next.

use crate::output::{FAINT, RED, count, print_error};
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
    let own = files.names().next().unwrap_or_default();
    let mut out = String::new();
    for error in &errors.errors {
        out += &one(files, own, error);
        out.push('\n');
    }
    if errors.total > errors.errors.len() {
        out += &format!("... and {} more\n\n", errors.total - errors.errors.len());
    }
    out += &format!("{own}: {}", count(errors.total, "error"));
    RenderedErrors(out)
}

fn one(files: &Assembled, own: &str, error: &SourceError) -> String {
    let mut out = format!("{RED}error{RED:#}  {}\n", error.message);
    out += &place(files, own, &error.span, "");
    if let Some((span, what)) = &error.related {
        out += &place(files, own, span, what);
    }
    if let Some(help) = &error.help {
        out += &format!("    {FAINT}next:{FAINT:#} {help}\n");
    }
    out
}

/// A line with a part of it underlined, and what is said of that part. Nothing where the file is not text at
/// all.
fn place(files: &Assembled, own: &str, span: &Range<usize>, label: &str) -> String {
    let InFile { name, text, span } = files.place(span);
    if text.is_empty() || span == (0..0) {
        return String::new();
    }
    let (line, column) = line_and_column(text, span.start);
    let (shown, part) = line_around(text, &span);
    let base = if name == own { String::new() } else { format!(" (in {name})") };
    let indent = shown.len() - shown.trim_start().len();
    let lead = format!("    line {line:>3}:{column:<3}  ");
    // Wide characters take two columns, accents on their own none.
    let width = textwrap::core::display_width;
    let before = lead.len() + width(&shown[indent.min(part.start)..part.start]);
    let underline = "~".repeat(width(&shown[part]).max(1));
    let label = if label.is_empty() { String::new() } else { format!(" {label}") };
    format!(
        "{FAINT}{lead}{FAINT:#}{}{FAINT}{base}{FAINT:#}\n{}{RED}{underline}{RED:#}{label}\n",
        shown.trim(),
        " ".repeat(before)
    )
}

/// The part of the line around a span, and the span within it.
fn line_around(text: &str, span: &Range<usize>) -> (String, Range<usize>) {
    let line_start = text[..span.start].rfind('\n').map_or(0, |i| i + 1);
    let line_end = text[span.start..].find('\n').map_or(text.len(), |i| span.start + i);
    let end = span.end.min(line_end).max(span.start);
    let before: Vec<char> = text[line_start..span.start].chars().rev().take(AROUND).collect();
    let before: String = before.into_iter().rev().collect();
    let inside: String = text[span.start..end].chars().take(AROUND).collect();
    let after: String = text[end..line_end].chars().take(AROUND).collect();
    let lead = if before.len() < span.start - line_start { "..." } else { "" };
    let trail = if after.len() < line_end - end { "..." } else { "" };
    let at = lead.len() + before.len();
    let shown = format!("{lead}{before}{inside}{after}{trail}").replace(['\t', '\r'], " ");
    (shown, at..at + inside.len())
}

/// Says what went wrong, on standard error.
pub(crate) fn print_errors(error: &anyhow::Error) {
    match error.downcast_ref::<RenderedErrors>() {
        Some(shown) => print_error(shown.0.trim_end()),
        None => print_error(&format!("{RED}error{RED:#}: {error:#}")),
    }
}
