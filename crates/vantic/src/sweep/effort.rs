//! How much work an answer may take, as a multiple of the usual.

use vantic_core::geometry::within;

/// By how much the usual work may be multiplied at most.
pub const MAX_EFFORT: f64 = 1000.0;

/// So much work, for this effort.
pub(crate) fn work_for(usual: u64, effort: f64) -> u64 {
    let effort = if effort.is_finite() { within(effort, 0.0, MAX_EFFORT) } else { 1.0 };
    (usual as f64 * effort) as u64
}
