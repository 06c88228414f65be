//! The kinds of number that a check can be made with, and how exact it is.

use std::ops::{Add, Mul, Sub};

/// A kind of number to check with.
pub trait Number:
    Clone + PartialOrd + Add<Output = Self> + Sub<Output = Self> + Mul<Output = Self> + Sized
{
    /// The number that a finite double is.
    fn of(value: f64) -> Self;
}

impl Number for f64 {
    fn of(value: f64) -> Self {
        value
    }
}

/// A value within this of zero is on a rule's kink; so much may givens and totals be off. For
/// lengths of up to 10,000.
pub const VALUE_TOLERANCE: f64 = 1e-6;

/// So much may factors be off, and what they leave of a variable, relative to the largest weight.
pub const FACTOR_TOLERANCE: f64 = 1e-6;
