//! The two axes that views are placed along.

/// Along which axis a rule places a view.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Axis {
    /// Along the reading direction: start, width, end.
    Across,
    /// From the top: top, height, bottom.
    Down,
}
