//! The stated limits of a screen.

/// The most views a screen may have.
pub const MAX_VIEWS: usize = 100_000;

/// The most rules a screen may have.
pub const MAX_RULES: usize = 1_000_000;

/// How deep views may be nested.
pub const MAX_NESTING: usize = 64;

/// The largest number a rule may hold, either side of zero.
pub const MAX_NUMBER: f64 = 1e7;

/// The most levels a ladder may have.
pub const MAX_LEVELS: usize = 256;

/// The most bands a screen may have.
pub const MAX_BANDS: usize = 64;

/// How many expressions may stand in the `max`, `min` and `clamp` of one relation.
pub const MAX_MIN_MAX_ARGS: usize = 1000;
