//! The one set of tolerances. Each says what it compares and at what scale.

/// A basic value this close to its resting point is put exactly on it. In units of the problem's
/// lengths, for constants of up to about 1,000; it grows in proportion beyond that.
pub(crate) const SNAP: f64 = 1e-9;

/// A table entry of at most this size is taken for zero (rules have coefficients around 1).
pub(crate) const ENTRY: f64 = 1e-10;

/// A slope of the cost (weighted units of violation per unit of movement) of at most this size is
/// taken for flat. Weights are at least 1e-3.
pub(crate) const SLOPE: f64 = 1e-8;

/// A total violation of at most this many units counts as none; a coordinate whose range is at
/// most this wide counts as settled. Grows in proportion for constants beyond 1,000.
pub(crate) const LENGTH: f64 = 1e-6;

/// The scale that [`SNAP`] and [`LENGTH`] are multiplied by, from the largest constant.
pub(crate) fn scale(largest_constant: f64) -> f64 {
    (largest_constant / 1000.0).max(1.0)
}
