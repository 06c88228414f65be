//! Errors in a screen file, each with its place.

use std::ops::Range;

/// The largest screen file that is read, in bytes.
pub const MAX_FILE_BYTES: usize = 16 * 1024 * 1024;

/// How many errors of one file are reported one by one; the rest are counted.
pub const MAX_REPORTED: usize = 50;

/// One thing wrong with a screen file.
#[derive(Clone, Debug, PartialEq)]
pub struct SourceError {
    /// Where, in bytes of the text.
    pub span: Range<usize>,
    /// What is wrong.
    pub message: String,
    /// What was expected there, or what to write instead.
    pub help: Option<String>,
    /// A second place that belongs to it, and what it is.
    pub related: Option<(Range<usize>, String)>,
}

impl SourceError {
    pub(crate) fn new(span: Range<usize>, message: impl Into<String>) -> Self {
        Self { span, message: message.into(), help: None, related: None }
    }

    pub(crate) fn help(self, help: impl Into<String>) -> Self {
        Self { help: Some(help.into()), ..self }
    }

    pub(crate) fn related(self, span: Range<usize>, what: impl Into<String>) -> Self {
        Self { related: Some((span, what.into())), ..self }
    }
}

/// Everything wrong with a screen file, in order of place: the first [`MAX_REPORTED`], and a count.
#[derive(Clone, Debug, PartialEq)]
pub struct SourceErrors {
    /// The errors that are reported one by one.
    pub errors: Vec<SourceError>,
    /// How many there are in all.
    pub total: usize,
    /// The line and column of each of those that are reported, in what was read: both counted from 1, the column in
    /// characters.
    pub places: Vec<(usize, usize)>,
}

impl SourceErrors {
    /// All that is wrong with a text, in order of place.
    pub fn new(mut errors: Vec<SourceError>, text: &str) -> Self {
        errors.sort_by_key(|e| (e.span.start, e.span.end));
        // What stands in a block for several views is wrong once.
        errors.dedup();
        let total = errors.len();
        errors.truncate(MAX_REPORTED);
        let places = errors.iter().map(|error| line_and_column(text, error.span.start)).collect();
        Self { errors, total, places }
    }
}

impl std::fmt::Display for SourceErrors {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        for (error, (line, column)) in std::iter::zip(&self.errors, &self.places) {
            let help = error.help.as_ref().map_or_else(String::new, |help| format!(" ({help})"));
            writeln!(f, "line {line}, column {column}: {}{help}", error.message)?;
        }
        write!(f, "{} error{}", self.total, if self.total == 1 { "" } else { "s" })
    }
}

impl std::error::Error for SourceErrors {}

/// The line and column of a byte, both counted from 1, the column in characters.
pub fn line_and_column(text: &str, byte: usize) -> (usize, usize) {
    let mut at = byte.min(text.len());
    while !text.is_char_boundary(at) {
        at -= 1;
    }
    let before = &text[..at];
    let line_start = before.rfind('\n').map_or(0, |i| i + 1);
    (before.matches('\n').count() + 1, before[line_start..].chars().count() + 1)
}
