//! The colours: paper, slate ink and the greens of shallow water; brick and ochre for trouble.

pub(crate) const PAPER: &str = "#f5f4ef";
pub(crate) const GLASS: &str = "#ffffff";
pub(crate) const INK: &str = "#22333b";
pub(crate) const SOFT_INK: &str = "#5b6c73";
pub(crate) const FAINT: &str = "#b9c4c6";
pub(crate) const BEZEL: &str = "#8b999d";
pub(crate) const SAFE: &str = "#7aa39f";
pub(crate) const EDGE: &str = "#4f868b";
pub(crate) const MEASURE: &str = "#7b5ea7";
pub(crate) const ERROR: &str = "#b23a2b";
pub(crate) const WARNING: &str = "#9a6408";
pub(crate) const GOOD: &str = "#2c6e49";

/// The fill of a view, deeper in colour the deeper it is nested.
pub(crate) fn fill(depth: usize) -> &'static str {
    const FILLS: [&str; 4] = ["#e9f1f0", "#d6e6e5", "#c3dad9", "#b0cecd"];
    FILLS[depth.min(FILLS.len() - 1)]
}
