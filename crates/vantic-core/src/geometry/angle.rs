//! Angles.

/// Sine and cosine. Quarter turns come out exactly, whatever the sine of a rounded pi.
pub(crate) fn sin_cos_degrees(degrees: f64) -> (f64, f64) {
    match degrees.rem_euclid(360.0) {
        0.0 => (0.0, 1.0),
        90.0 => (1.0, 0.0),
        180.0 => (0.0, -1.0),
        270.0 => (-1.0, 0.0),
        turn => (libm::sin(turn.to_radians()), libm::cos(turn.to_radians())),
    }
}
