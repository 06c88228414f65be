//! TODO-HEAD

use crate::sweep::range::{Range, SweepError};
use crate::sweep::run::{Sweep, sweep};
use vantic_core::display::{Along, Display};
use vantic_core::plan::Plan;
use vantic_core::text::Measure;

/// Where trouble is over a rectangle of widths and heights: for each of so many heights, from where to where along the
/// width, and how bad. Exact along each line, which is looked at by itself.
///
/// # Errors
/// As for [`sweep`].
pub fn map_of(
    plan: &Plan,
    display: &Display,
    widths: (f64, f64),
    heights: (f64, f64),
    lines: usize,
    measure: &dyn Measure,
) -> Result<Vec<(f64, Sweep)>, SweepError> {
    use rayon::prelude::*;
    let (from, to) = heights;
    if !(from.is_finite() && to.is_finite() && from < to) {
        return Err(SweepError::Range { from, to });
    }
    let lines = lines.max(2);
    let rows: Vec<f64> = (0..lines).map(|i| from + (to - from) * (i as f64 / (lines - 1) as f64)).collect();
    rows.into_par_iter()
        .map(|height| {
            let there = Along::Height.at(display, height)?;
            let range = Range { along: Along::Width, from: widths.0, to: widths.1, gap: 0.0 };
            Ok((height, sweep(plan, &there, range, measure)?))
        })
        .collect()
}
