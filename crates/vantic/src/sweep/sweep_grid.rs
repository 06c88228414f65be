//! Problems over a rectangle of widths and heights.

use crate::sweep::effort::SweepOptions;
use crate::sweep::range::{Range, SweepError};
use crate::sweep::run::{Sweep, sweep_with};
use rayon::prelude::*;
use vantic_core::display::{Display, DisplayQuantity};
use vantic_core::plan::Plan;
use vantic_core::text::Measure;

/// A rectangle of widths and heights, in logical pixels.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct GridRange {
    /// The widths, from and to.
    pub widths: (f64, f64),
    /// The heights, from and to.
    pub heights: (f64, f64),
    /// How many heights are examined, evenly spaced; at least two.
    pub lines: usize,
    /// Siblings that are nearer to one another than this count as overlapping, in logical pixels.
    pub gap: f64,
}

/// Where trouble is over a rectangle of widths and heights: for each of so many heights, from where to where
/// along the width, and how bad. Exact along each line, which is looked at by itself.
///
/// ```
/// use vantic::prelude::*;
/// use vantic::sweep::{GridRange, sweep_grid};
///
/// let source = vantic::read("screen quay { view a { left = 0; top = 0; width = 400; height = 20 } }")?;
/// let plan = Plan::new(source.screen)?;
/// let range = GridRange { widths: (320.0, 480.0), heights: (400.0, 800.0), lines: 3, gap: 0.0 };
/// let rows = sweep_grid(&plan, &Display::new(390.0, 844.0)?, range, &PlainText)?;
/// assert!(rows.len() == 3 && rows.iter().all(|(_, row)| (row.problems[0].to - 400.0).abs() < 0.01));
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
///
/// # Errors
/// As for [`sweep`](crate::sweep::sweep).
pub fn sweep_grid(
    plan: &Plan,
    display: &Display,
    range: GridRange,
    measure: &(dyn Measure + Sync),
) -> Result<Vec<(f64, Sweep)>, SweepError> {
    sweep_grid_with(plan, display, range, measure, SweepOptions::default())
}

/// The same with another amount of work, and told how far it is. Twice of [`SWEEP_WORK`](crate::sweep::SWEEP_WORK) is shared by
/// the lines.
///
/// # Errors
/// As for [`sweep`](crate::sweep::sweep).
pub fn sweep_grid_with(
    plan: &Plan,
    display: &Display,
    range: GridRange,
    measure: &(dyn Measure + Sync),
    how: SweepOptions<'_>,
) -> Result<Vec<(f64, Sweep)>, SweepError> {
    let GridRange { widths, heights: (from, to), lines, gap } = range;
    if !(from.is_finite() && to.is_finite() && from < to) {
        return Err(SweepError::Range { from, to });
    }
    let lines = lines.max(2);
    let rows: Vec<f64> = (0..lines).map(|i| from + (to - from) * (i as f64 / (lines - 1) as f64)).collect();
    rows.into_par_iter()
        .map(|height| {
            let there = DisplayQuantity::Height.at(display, height)?;
            let range = Range { along: DisplayQuantity::Width, from: widths.0, to: widths.1, gap };
            let each = SweepOptions { progress: None, effort: 2.0 * how.effort / lines as f64 };
            let swept = sweep_with(plan, &there, range, measure, each)?;
            how.examined(1.0 / lines as f64);
            Ok((height, swept))
        })
        .collect()
}
