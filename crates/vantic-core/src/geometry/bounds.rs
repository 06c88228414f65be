//! A number kept between two bounds.

/// The number itself, or the bound that it lies beyond; where the bounds cross, the lower one. Unlike
/// [`f64::clamp`] it panics for no bounds.
///
/// ```
/// use vantic_core::geometry::within;
///
/// assert_eq!(within(5.0, 0.0, 3.0), 3.0);
/// assert_eq!(within(5.0, 4.0, 3.0), 4.0);
/// assert_eq!(within(-1.0, f64::NAN, 3.0), -1.0);
/// ```
pub fn within(number: f64, least: f64, most: f64) -> f64 {
    number.min(most).max(least)
}
