//! How far numbers may be apart and still count as the same: the one set of tolerances above the solver,
//! which has its own. Lengths are in logical pixels.

/// Differences of at most this are not seen: numbers are shown with two decimals.
pub const VISIBLE: f64 = 0.005;

/// Solved lengths that differ by at most this are the same, and what is beyond a length by no more fits: what
/// rounding leaves of equal numbers.
pub const PLACED: f64 = 1e-6;

/// A line of text that is longer than its view by at most this fits in it: what rounding leaves of equal
/// numbers, and too little to be seen in a breakpoint, which is rounded to a millionth.
pub const WRAPPED: f64 = 1e-7;

/// Arguments of `max`, `min` and `clamp` that differ by at most this are equal: for lengths of up to 10,000, and in
/// proportion beyond, as for [`PLACED`].
pub const ARGUMENT: f64 = 1e-7;

/// Coefficients and shares that differ by at most this are the same.
pub const COEFFICIENT: f64 = 1e-9;
