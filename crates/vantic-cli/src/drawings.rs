//! Drawings, as they are named on the command line.

use crate::files::read_file;
use crate::output::YELLOW;
use crate::shown::Shown as _;
use anyhow::{Context as _, Result};
use std::path::Path;
use vantic::drawing::Drawing;
use vantic::text::Measure;

/// The drawings of a file, one of an SVG, as many as there are placements in JSON; and what was left out of them, a line each.
pub(crate) fn drawings(path: &Path, measure: &dyn Measure) -> Result<(Vec<Drawing>, String)> {
    let text = String::from_utf8(read_file(path)?);
    let text = text.with_context(|| format!("{} is not a text file", path.shown()))?;
    let is_svg = path.extension().is_some_and(|ending| ending.eq_ignore_ascii_case("svg"));
    let drawings = match is_svg {
        true => Drawing::from_svg(&text, measure),
        false => Drawing::from_json(&text),
    };
    let drawings = drawings.with_context(|| format!("{} is no drawing", path.shown()))?;
    let notes = drawings.iter().flat_map(|drawing| &drawing.notes);
    let notes = notes.map(|note| format!("{YELLOW}{}, {note}{YELLOW:#}\n", path.shown())).collect();
    Ok((drawings, notes))
}

/// How many names of one kind are listed.
const MAX_NAMED: usize = 8;

/// Some names, and how many more there are.
pub(crate) fn names_listed(names: &[String]) -> String {
    let more = names.len().saturating_sub(MAX_NAMED);
    let shown = names[..names.len() - more].join(", ");
    if more > 0 { format!("{shown} and {more} more") } else { shown }
}
