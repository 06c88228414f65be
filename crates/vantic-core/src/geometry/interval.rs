//! Intervals of values.

/// The least and greatest value of a coordinate, in logical pixels; `None` for no bound.
pub type Interval = [Option<f64>; 2];
