//! The one set of tolerances. Each says what it compares and at what scale.

/// A value this close to a rule's kink is on it, and a basic value of a table this close to its
/// resting point is put there. In units of the problem's lengths; see [`scale`].
pub(crate) const SNAP: f64 = 1e-9;

/// A step this long from the border of a region is on one side of it. See [`scale`].
pub(crate) const BORDER_STEP: f64 = 1e-6;

/// A table entry of at most this size is taken for zero.
pub(crate) const ENTRY: f64 = 1e-10;

/// A rate of at most this size, added up from rates of other sizes, is what rounding left of zero.
/// Chains of coefficients down to 1e-4 make rates that are small and yet not zero.
pub(crate) const TINY: f64 = 1e-13;

/// A sum that is at most this part of what was added up is what rounding left of zero.
pub(crate) const CANCELLED: f64 = 1e-11;

/// A combined row whose variables have coefficients of at most this part of its largest says
/// nothing about them. Chains of ratios may make that part small, so it is near rounding.
pub(crate) const SINGULAR: f64 = 1e-13;

/// A sum of two numbers; what cancels but for rounding is zero.
pub(crate) fn sum(a: f64, b: f64) -> f64 {
    let sum = a + b;
    if sum.abs() <= CANCELLED * a.abs().max(b.abs()) { 0.0 } else { sum }
}

/// A slope of the cost (weighted units of violation per unit of movement) of at most this size is
/// taken for flat. Weights are at least 1e-3.
pub(crate) const SLOPE: f64 = 1e-8;

/// A total violation of at most this many units counts as none; a coordinate whose range is at
/// most this wide counts as settled. See [`scale`].
pub(crate) const LENGTH: f64 = 1e-6;

/// What [`SNAP`] and [`LENGTH`] are multiplied by: 1 for lengths of up to 10,000, in proportion
/// beyond. At 10,000,000 a double still tells 2e-9 apart, and sums of a few hundred of them 1e-6.
pub(crate) fn scale(largest: f64) -> f64 {
    (largest / 10_000.0).max(1.0)
}
