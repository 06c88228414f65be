//! Frames: rectangles in logical pixels.

use crate::geometry::axis::Axis;
use crate::geometry::direction::Direction;
use crate::words::number::{millionths, number};
#[cfg(feature = "json")]
use serde::Serialize;

/// A rectangle in logical pixels, measured from the screen's top left corner, y down.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "json", derive(Serialize))]
pub struct Frame {
    /// The left edge.
    pub left: f64,
    /// The top edge.
    pub top: f64,
    /// The width, never below zero.
    pub width: f64,
    /// The height, never below zero.
    pub height: f64,
}

impl std::fmt::Display for Frame {
    /// As people read it: `16, 8, 358 x 400`, with two decimals at most.
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        let [left, top, width, height] = [self.left, self.top, self.width, self.height].map(number);
        write!(f, "{left}, {top}, {width} x {height}")
    }
}

impl Frame {
    /// The right edge.
    pub fn right(&self) -> f64 {
        self.left + self.width
    }

    /// The bottom edge.
    pub fn bottom(&self) -> f64 {
        self.top + self.height
    }

    /// The near and the far edge along an axis; across, they are measured along the reading direction.
    pub fn along(&self, axis: Axis, direction: Direction) -> (f64, f64) {
        match (axis, direction) {
            (Axis::Down, _) => (self.top, self.bottom()),
            (Axis::Across, Direction::LeftToRight) => (self.left, self.right()),
            (Axis::Across, Direction::RightToLeft) => (-self.right(), -self.left),
        }
    }

    /// In whole pixels of a display, `density` of them to a logical pixel. Edges are rounded, half up,
    /// and sizes follow, so that what touches still touches.
    pub fn in_pixels(&self, density: f64) -> Frame {
        let round = |edge: f64| (edge * density + 0.5).floor();
        let (left, top) = (round(self.left), round(self.top));
        Frame { left, top, width: round(self.right()) - left, height: round(self.bottom()) - top }
    }

    /// To a millionth of a logical pixel, as machines get it.
    pub fn rounded(&self) -> Frame {
        let [left, top, width, height] = [self.left, self.top, self.width, self.height].map(millionths);
        Frame { left, top, width, height }
    }

    /// The frame on the way to another one, each number evenly: `part` is 0 here and 1 there, and may be beyond both.
    pub fn toward(&self, there: &Frame, part: f64) -> Frame {
        let mix = |from: f64, to: f64| from + (to - from) * part;
        Frame {
            left: mix(self.left, there.left),
            top: mix(self.top, there.top),
            width: mix(self.width, there.width),
            height: mix(self.height, there.height),
        }
    }

    /// The part that both frames cover, if it has an area.
    pub fn shared(&self, other: &Frame) -> Option<Frame> {
        let (left, top) = (self.left.max(other.left), self.top.max(other.top));
        let width = self.right().min(other.right()) - left;
        let height = self.bottom().min(other.bottom()) - top;
        (width > 0.0 && height > 0.0).then_some(Frame { left, top, width, height })
    }
}
