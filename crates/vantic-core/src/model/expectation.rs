//! What is expected to come out on a display; data only.

use crate::geometry::frame::Frame;
use crate::model::coordinate::Coordinate;
use crate::model::id::ViewId;

/// How far off a frame may be where nothing else is said, in logical pixels.
pub const USUAL_WITHIN: f64 = 0.5;

/// What is expected on one display.
#[derive(Clone, Debug, PartialEq)]
pub struct Expectation {
    /// The display, as it is named on the command line.
    pub on: String,
    /// How far off an edge or size may be, in logical pixels.
    pub within: f64,
    /// What is expected there.
    pub expected: Vec<(ViewId, Expected)>,
}

/// What is expected of a view.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Expected {
    /// Its frame.
    Frame(Frame),
    /// One of its coordinates, measured from the screen's top left corner.
    One(Coordinate, f64),
    /// It is not there.
    Hidden,
}

impl Expectation {
    pub(crate) fn views(&self) -> impl Iterator<Item = ViewId> + '_ {
        self.expected.iter().map(|(view, _)| *view)
    }

    pub(crate) fn numbers(&self) -> impl Iterator<Item = f64> + '_ {
        self.expected.iter().flat_map(|(_, expected)| match *expected {
            Expected::Frame(Frame { left, top, width, height }) => vec![left, top, width, height],
            Expected::One(_, value) => vec![value],
            Expected::Hidden => Vec::new(),
        })
    }
}

/// The coordinates that can be expected by themselves.
pub const COORDINATES: [(&str, Coordinate); 8] = [
    ("left", Coordinate::Left),
    ("top", Coordinate::Top),
    ("right", Coordinate::Right),
    ("bottom", Coordinate::Bottom),
    ("width", Coordinate::Width),
    ("height", Coordinate::Height),
    ("center_x", Coordinate::CenterX),
    ("center_y", Coordinate::CenterY),
];
