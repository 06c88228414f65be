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

/// How much work one placement may take with all that is asked of it, in the units of [`crate::work`], and how much more
/// for each view of the screen. What is met beyond is not worked out, and [`crate::plan::Placement`] says so.
pub const PLACE_WORK: u64 = 10_000_000;

/// See [`PLACE_WORK`].
pub const PLACE_WORK_PER_VIEW: u64 = 400;

/// The most rows a [`LongList`](crate::plan::LongList) may have.
pub const MAX_ROWS: usize = 1_000_000;

/// The most rows of a [`LongList`](crate::plan::LongList) that are placed at once, those in the margin included. Where rows are so
/// low that more would be in sight, the rest is left out.
pub const MAX_ROWS_PLACED: usize = 2000;
