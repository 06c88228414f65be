//! Axes, directions, frames and intervals: numbers with a meaning, and nothing of screens.

pub(crate) mod angle;
pub(crate) mod axis;
pub(crate) mod bounds;
pub(crate) mod direction;
pub(crate) mod frame;
pub(crate) mod interval;

pub use axis::Axis;
pub use bounds::within;
pub use direction::Direction;
pub use frame::Frame;
pub use interval::Interval;
