//! Coordinates, and what has them: views, the screen, the safe area.

use crate::geometry::axis::Axis;
use crate::geometry::direction::Direction;
use crate::geometry::frame::Frame;
use crate::model::id::ViewId;

/// One coordinate of a place, in logical pixels from the screen's top left corner, y down.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Coordinate {
    /// The left edge.
    Left,
    /// The right edge.
    Right,
    /// The top edge.
    Top,
    /// The bottom edge.
    Bottom,
    /// The width, never below zero.
    Width,
    /// The height, never below zero.
    Height,
    /// The middle between left and right.
    CenterX,
    /// The middle between top and bottom.
    CenterY,
    /// The edge where reading starts, measured along the reading direction.
    Start,
    /// The edge where reading ends, measured along the reading direction.
    End,
    /// The baseline of the first line of a text; the bottom of any other view.
    Baseline,
    /// The width of a text on one line.
    ContentWidth,
    /// The height of a text's lines at the width it has.
    ContentHeight,
    /// Of the screen only: one pixel of the display, in logical pixels.
    Pixel,
    /// How far a view is scrolled along the reading direction.
    ScrolledX,
    /// How far a view is scrolled down.
    ScrolledY,
}

impl Coordinate {
    /// All coordinates with their spelling in a screen file.
    pub const SPELLINGS: [(&'static str, Coordinate); 16] = [
        ("left", Coordinate::Left),
        ("right", Coordinate::Right),
        ("top", Coordinate::Top),
        ("bottom", Coordinate::Bottom),
        ("width", Coordinate::Width),
        ("height", Coordinate::Height),
        ("center_x", Coordinate::CenterX),
        ("center_y", Coordinate::CenterY),
        ("start", Coordinate::Start),
        ("end", Coordinate::End),
        ("baseline", Coordinate::Baseline),
        ("content.width", Coordinate::ContentWidth),
        ("content.height", Coordinate::ContentHeight),
        ("pixel", Coordinate::Pixel),
        ("scrolled_x", Coordinate::ScrolledX),
        ("scrolled_y", Coordinate::ScrolledY),
    ];

    /// The spelling in a screen file.
    pub fn spelling(self) -> &'static str {
        Self::SPELLINGS[self as usize].0
    }

    /// The path and the coordinate in `header.title.content.height`; `None` where it ends in no coordinate.
    pub fn split(name: &str) -> Option<(&str, Coordinate)> {
        // The longest spelling counts: `content.height` is not the height of `content`.
        let ends = Self::SPELLINGS.iter().filter_map(|(spelling, coordinate)| {
            let path = name.strip_suffix(spelling)?.strip_suffix('.')?;
            Some((path, *coordinate))
        });
        ends.min_by_key(|(path, _)| path.len())
    }

    /// Whether this is a place on the screen (an edge or a middle) rather than a length.
    pub fn is_position(self) -> bool {
        use Coordinate::{ContentHeight, ContentWidth, Height, Pixel, ScrolledX, ScrolledY, Width};
        !matches!(self, Width | Height | ContentWidth | ContentHeight | Pixel | ScrolledX | ScrolledY)
    }

    /// Whether this lies on the horizontal axis.
    pub fn is_horizontal(self) -> bool {
        matches!(
            self,
            Self::Left
                | Self::Right
                | Self::Width
                | Self::CenterX
                | Self::Start
                | Self::End
                | Self::ContentWidth
                | Self::ScrolledX
        )
    }
}

/// Something that has coordinates.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Anchor {
    /// The whole display.
    Screen,
    /// The display less its insets.
    Safe,
    /// The display less its insets and less a keyboard on the screen.
    Clear,
    /// A view.
    View(ViewId),
    /// The sibling declared before this view and not hidden.
    Prev(ViewId),
    /// The sibling declared after this view and not hidden.
    Next(ViewId),
    /// Columns or rows of a guide, from one to another, counted from 1.
    Cells {
        /// The guide.
        guide: ViewId,
        /// The first of them.
        first: u32,
        /// The last of them.
        last: u32,
    },
}

/// The whole display, as a target for rules.
pub const SCREEN: Anchor = Anchor::Screen;

/// The display less its insets, as a target for rules.
pub const SAFE: Anchor = Anchor::Safe;

/// The display less its insets and less a keyboard on the screen, as a target for rules.
pub const CLEAR: Anchor = Anchor::Clear;

impl From<ViewId> for Anchor {
    fn from(view: ViewId) -> Self {
        Anchor::View(view)
    }
}

/// A side of a box that can be pinned.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Side {
    /// The left side.
    Left,
    /// The right side.
    Right,
    /// The top side.
    Top,
    /// The bottom side.
    Bottom,
    /// The side where reading starts.
    Start,
    /// The side where reading ends.
    End,
}

impl Side {
    /// All sides with their coordinate.
    pub const ALL: [(Side, Coordinate); 6] = [
        (Side::Left, Coordinate::Left),
        (Side::Right, Coordinate::Right),
        (Side::Top, Coordinate::Top),
        (Side::Bottom, Coordinate::Bottom),
        (Side::Start, Coordinate::Start),
        (Side::End, Coordinate::End),
    ];

    /// The coordinate that it is.
    pub fn coordinate(self) -> Coordinate {
        Self::ALL[self as usize].1
    }

    /// Whether a distance inwards from this edge goes along the axis.
    pub fn is_near(edge: Coordinate) -> bool {
        matches!(edge, Coordinate::Left | Coordinate::Top | Coordinate::Start)
    }
}

/// What a coordinate is in a frame, both measured from the screen's top left corner.
pub fn value_of(frame: &Frame, coordinate: Coordinate) -> f64 {
    match coordinate {
        Coordinate::Top => frame.top,
        Coordinate::Right => frame.right(),
        Coordinate::Bottom => frame.bottom(),
        Coordinate::Width => frame.width,
        Coordinate::Height => frame.height,
        Coordinate::CenterX => f64::midpoint(frame.left, frame.right()),
        Coordinate::CenterY => f64::midpoint(frame.top, frame.bottom()),
        _ => frame.left,
    }
}

impl Side {
    /// The axis it lies on, and whether it is the nearer of the two along the reading direction.
    pub fn along(self, direction: Direction) -> (Axis, bool) {
        let left_is_near = direction == Direction::LeftToRight;
        match self {
            Side::Top => (Axis::Down, true),
            Side::Bottom => (Axis::Down, false),
            Side::Start => (Axis::Across, true),
            Side::End => (Axis::Across, false),
            Side::Left => (Axis::Across, left_is_near),
            Side::Right => (Axis::Across, !left_is_near),
        }
    }
}
