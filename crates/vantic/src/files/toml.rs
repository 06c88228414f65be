//! Errors in TOML files, with their line.

/// The line of a byte, counted from 1.
pub(crate) fn line_of(text: &str, span: Option<std::ops::Range<usize>>) -> usize {
    crate::syntax::error::line_and_column(text, span.map_or(0, |s| s.start)).0
}

/// A message of the TOML package, and its line.
pub(crate) fn toml_error(text: &str, error: &toml::de::Error) -> (usize, String) {
    (line_of(text, error.span()), error.message().lines().collect::<Vec<_>>().join("; "))
}
