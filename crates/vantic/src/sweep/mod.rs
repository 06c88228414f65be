//! Ranges of displays: where something starts to break, exactly.
//!
//! `march` goes along a `range` from breakpoint to breakpoint and gives `segment`s, on which everything moves
//! evenly; `events` and `problem_spans` are read off those, `sweep_grid` does it for many heights, `claims`
//! proves what a screen claims, `effort` says how much work any of it may take. `run` is the entry. Stands on `inspect`; `check` and `fix` call it.

pub(crate) mod claims;
pub(crate) mod counting;
pub(crate) mod effort;
pub(crate) mod events;
pub(crate) mod march;
pub(crate) mod problem_spans;
pub(crate) mod range;
pub(crate) mod run;
pub(crate) mod segment;
pub(crate) mod sweep_grid;
pub(crate) mod tolerance;

pub use effort::{MAX_EFFORT, SweepOptions};
pub use events::{Event, EventKind};
pub use problem_spans::ProblemSpan;
pub use range::{MAX_BORDERS, Proof, Range, SweepError};
pub use run::{SWEEP_WORK, Sweep, sweep, sweep_with};
pub use sweep_grid::{GridRange, sweep_grid, sweep_grid_with};
