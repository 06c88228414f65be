//! Drawings, as they are named on the command line.

use crate::files::read_file;
use crate::shown::Shown as _;
use anyhow::{Context as _, Result};
use std::path::Path;
use vantic::drawing::Drawing;
use vantic::text::Measure;

/// The drawings of a file: one of an SVG, as many as there are placements in JSON.
pub(crate) fn drawings(path: &Path, measure: &dyn Measure) -> Result<Vec<Drawing>> {
    let text = String::from_utf8(read_file(path)?);
    let text = text.with_context(|| format!("{} is not a text file", path.shown()))?;
    let is_svg = path.extension().is_some_and(|ending| ending.eq_ignore_ascii_case("svg"));
    let drawings = match is_svg {
        true => Drawing::from_svg(&text, measure).map(|drawing| vec![drawing]),
        false => Drawing::from_json(&text),
    };
    drawings.with_context(|| format!("{} is no drawing", path.shown()))
}
