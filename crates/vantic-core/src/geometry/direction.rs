//! Which way a line of text runs.

#[cfg(feature = "json")]
use serde::Serialize;

/// Which way a line of text runs.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[cfg_attr(feature = "json", derive(Serialize))]
#[cfg_attr(feature = "json", serde(rename_all = "snake_case"))]
pub enum Direction {
    /// From left to right.
    #[default]
    LeftToRight,
    /// From right to left.
    RightToLeft,
}
