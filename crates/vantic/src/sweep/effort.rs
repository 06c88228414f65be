//! How much work an answer may take, as a multiple of the usual.

use vantic_core::geometry::within;

/// By how much the usual work may be multiplied at most.
pub const MAX_EFFORT: f64 = 1000.0;

/// So much work, for this effort.
pub(crate) fn work_for(usual: u64, effort: f64) -> u64 {
    let effort = if effort.is_finite() { within(effort, 0.0, MAX_EFFORT) } else { 1.0 };
    (usual as f64 * effort) as u64
}

/// How a range is swept.
#[derive(Clone, Copy)]
pub struct SweepOptions<'a> {
    /// Called with the part of the range that was examined since the last call, of 1 in all, from any thread.
    pub progress: Option<&'a (dyn Fn(f64) + Sync)>,
    /// How much work it may take, as a multiple of [`SWEEP_WORK`](crate::sweep::SWEEP_WORK): 1 unless stated, at most
    /// [`MAX_EFFORT`]. [`Sweep::left_out_to`](crate::sweep::Sweep::left_out_to) tells whether that was enough.
    pub effort: f64,
}

impl SweepOptions<'_> {
    pub(crate) fn examined(&self, part: f64) {
        if let Some(progress) = self.progress {
            progress(part);
        }
    }
}

impl Default for SweepOptions<'_> {
    fn default() -> Self {
        Self { progress: None, effort: 1.0 }
    }
}
