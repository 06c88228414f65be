//! How far places of a range, and values on it, may be apart and still count as the same.

/// Frames that differ from what was foreseen by no more than this, in logical pixels, are as foreseen.
pub(crate) const FORESEEN: f64 = 1e-4;

/// A place so far behind a border is on its other side; borders that are nearer to one another are one.
pub(crate) const BEHIND: f64 = 1e-5;

/// Values that differ by no more than this, in logical pixels, go on from one another.
pub(crate) const CONTINUES: f64 = 1e-3;

/// Parts of the way, from 0 to 1, that differ by no more than this are one; as far on either side of an event
/// it is looked at. Halving leaves an error below it.
pub(crate) const PART: f64 = 1e-7;

/// A part of the way nearer than this to an end is that end.
pub(crate) const END: f64 = 1e-9;

/// Just before a border, an argument of a `max` or `min` that counts behind it may count already, since the
/// two are as good as equal there: a required rule that is off by no more than this in the middle of the
/// way, in logical pixels, holds.
pub(crate) const BROKEN: f64 = 1e-5;

/// A border that is nearer than this to a number of four decimals is that number.
pub(crate) const NEARLY: f64 = 2e-6;
