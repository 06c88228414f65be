//! Guides: boxes that are not painted, to be pinned to. A guide may be divided into columns or rows, be
//! a line without thickness, or lie inside its parent at distances of its own.

use crate::geometry::axis::Axis;
use crate::geometry::within;
use crate::model::coordinate::{Anchor, Coordinate};
use crate::model::edges::Edges;
use crate::model::expression::Expr;
use crate::model::id::{LevelId, ViewId};
use crate::tolerance;

/// What a guide is, where its own rules leave its box open.
#[derive(Clone, Debug, Default, PartialEq)]
pub enum Guide {
    /// The box of its parent.
    #[default]
    Plain,
    /// The box of its parent less distances from the start, the top, the end and the bottom.
    Padding([Expr; 4]),
    /// The box of its parent, divided.
    Cells(Cells),
    /// A line without thickness.
    Mark(Mark),
    /// What its parent scrolls: as large as rules say, and moved by how far the parent is scrolled. Only
    /// [`crate::model::ScreenBuilder::scroll`] makes one.
    ContentBox,
}

/// Columns or rows of a guide, counted from 1: columns along the reading direction, rows from the top.
#[derive(Clone, Debug, PartialEq)]
pub struct Cells {
    /// Along which axis they follow one another.
    pub axis: Axis,
    /// How many; as many as fit without it.
    pub count: Option<u32>,
    /// How large each is; they share the space without it.
    pub size: Option<Expr>,
    /// The distance to both edges.
    pub margin: Expr,
    /// The distance between them.
    pub gutter: Expr,
    /// How far the first is moved.
    pub offset: Expr,
    /// Where they lie in what is left, from 0 to 1.
    pub lean: f64,
}

/// The highest number of columns or rows of a guide.
pub const MAX_CELLS: u32 = 10_000;

/// A line across its parent.
#[derive(Clone, Debug, PartialEq)]
pub struct Mark {
    /// Along which axis it divides or is drawn.
    pub axis: Axis,
    /// How far from the parent's start or top; its own rules say without it.
    pub at: Option<Expr>,
    /// On which level it is there, where it gives way.
    pub level: Option<LevelId>,
    /// How much it counts on its level.
    pub weight: f64,
}

impl Guide {
    /// So many columns that share the width.
    pub fn columns(count: u32) -> Cells {
        Cells { count: Some(count), ..Cells::plain(Axis::Across) }
    }

    /// So many rows that share the height.
    pub fn rows(count: u32) -> Cells {
        Cells { count: Some(count), ..Cells::plain(Axis::Down) }
    }

    /// Columns of a width, as many as fit.
    pub fn columns_of(width: impl Into<Expr>) -> Cells {
        Cells { size: Some(width.into()), ..Cells::plain(Axis::Across) }
    }

    /// Rows of a height, as many as fit.
    pub fn rows_of(height: impl Into<Expr>) -> Cells {
        Cells { size: Some(height.into()), ..Cells::plain(Axis::Down) }
    }

    /// The parent's box less the same distance on all sides.
    pub fn padding(all: impl Into<Expr>) -> Guide {
        let all = all.into();
        Guide::Padding(std::array::from_fn(|_| all.clone()))
    }

    /// A line so far from the parent's start (`Across`) or top (`Down`).
    pub fn mark(axis: Axis, at: impl Into<Expr>) -> Mark {
        Mark { axis, at: Some(at.into()), level: None, weight: 1.0 }
    }

    /// The word that it begins with in a screen file.
    pub(crate) fn word(&self) -> &'static str {
        match self {
            Guide::Plain => "guide",
            Guide::Padding(_) => "padding",
            Guide::Cells(Cells { axis: Axis::Across, .. }) => "columns",
            Guide::Cells(_) => "rows",
            Guide::Mark(_) => "line",
            Guide::ContentBox => "scroll",
        }
    }

    /// Every expression in it.
    pub(crate) fn exprs(&self) -> Vec<&Expr> {
        match self {
            Guide::Plain | Guide::ContentBox => Vec::new(),
            Guide::Padding(sides) => sides.iter().collect(),
            Guide::Cells(c) => c.size.iter().chain([&c.margin, &c.gutter, &c.offset]).collect(),
            Guide::Mark(line) => line.at.iter().collect(),
        }
    }

    pub(crate) fn exprs_mut(&mut self) -> Vec<&mut Expr> {
        match self {
            Guide::Plain | Guide::ContentBox => Vec::new(),
            Guide::Padding(sides) => sides.iter_mut().collect(),
            Guide::Cells(c) => {
                c.size.iter_mut().chain([&mut c.margin, &mut c.gutter, &mut c.offset]).collect()
            }
            Guide::Mark(line) => line.at.iter_mut().collect(),
        }
    }
}

impl From<Cells> for Guide {
    fn from(cells: Cells) -> Self {
        Guide::Cells(cells)
    }
}

impl From<Mark> for Guide {
    fn from(mark: Mark) -> Self {
        Guide::Mark(mark)
    }
}

impl Mark {
    /// As a preference on a level instead of a required rule.
    pub fn prefer(self, level: LevelId) -> Self {
        Self { level: Some(level), ..self }
    }
}

impl Cells {
    /// One cell along an axis.
    pub fn plain(axis: Axis) -> Self {
        let (margin, gutter, offset) = Default::default();
        Self { axis, count: None, size: None, margin, gutter, offset, lean: 0.0 }
    }

    /// Each of a size in logical pixels; together they lean to the start for 0, to the end for 1.
    pub fn of(self, size: impl Into<Expr>, lean: f64) -> Self {
        Self { size: Some(size.into()), lean, ..self }
    }

    /// The distance before the first and behind the last, in logical pixels.
    pub fn margin(self, margin: impl Into<Expr>) -> Self {
        Self { margin: margin.into(), ..self }
    }

    /// The distance between two, in logical pixels.
    pub fn gutter(self, gutter: impl Into<Expr>) -> Self {
        Self { gutter: gutter.into(), ..self }
    }

    /// How far those of a stated size are moved inwards from the edge that they lean to.
    pub fn offset(self, offset: impl Into<Expr>) -> Self {
        Self { offset: offset.into(), ..self }
    }

    /// How large each is in a box of a size.
    pub(crate) fn size_in(&self, whole: &Expr) -> Expr {
        match (&self.size, self.count) {
            (Some(size), _) => size.clone(),
            (None, Some(count)) => {
                let count = f64::from(count.max(1));
                (whole.clone() - self.margin.clone() * 2.0 - self.gutter.clone() * (count - 1.0))
                    * (1.0 / count)
            }
            (None, None) => whole.clone(),
        }
    }

    /// How far the near edge of one is from the near edge of a box of a size.
    pub(crate) fn near_in(&self, whole: &Expr, number: u32) -> Expr {
        let size = self.size_in(whole);
        let before = (size.clone() + self.gutter.clone()) * (f64::from(number) - 1.0);
        let (Some(_), Some(count)) = (&self.size, self.count) else {
            return self.margin.clone() + self.offset.clone() + before;
        };
        let all = size * f64::from(count) + self.gutter.clone() * (f64::from(count) - 1.0);
        // Both edges move inwards by the margin, and what leans to one of them by the offset.
        let room = whole.clone() - self.margin.clone() * 2.0 - all;
        let inwards = self.offset.clone() * (1.0 - 2.0 * self.lean);
        self.margin.clone() + room * self.lean + inwards + before
    }
}

impl ViewId {
    /// One column or row of this guide, counted from 1.
    pub fn cell(self, number: u32) -> Anchor {
        self.cells(number, number)
    }

    /// Several columns or rows of this guide, from one to another, with what lies between them.
    pub fn cells(self, first: u32, last: u32) -> Anchor {
        Anchor::Cells { guide: self, first, last }
    }
}

/// What a guide that is divided comes to on a display, along the axis that it divides.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Division {
    /// Whether these are columns; else rows.
    pub columns: bool,
    /// How many whole ones there are.
    pub count: u32,
    /// How large each is, in logical pixels; not above zero where there is no space for them.
    pub size: f64,
    /// The distance between two.
    pub gutter: f64,
    /// How far the first is from the guide's own start or top.
    pub first: f64,
    /// How far the last reaches beyond the guide's end or bottom.
    pub beyond: f64,
    /// Where as many are taken as fit: how much of the next one is still in the guide.
    pub cut: f64,
}

impl Cells {
    /// What decides the division, as expressions in the guide's own box: how large the box is, each one, and
    /// the gutter; where the first is, and the margin behind the last.
    pub(crate) fn measures(&self, guide: ViewId) -> [Expr; 5] {
        let whole = Expr::of(guide.into(), Edges::of_axis(self.axis).size);
        let (size, first) = (self.size_in(&whole), self.near_in(&whole, 1));
        [whole, size, self.gutter.clone(), first, self.margin.clone()]
    }

    pub(crate) fn division(&self, [whole, size, gutter, first, margin]: [f64; 5]) -> Division {
        let room = whole - first - margin;
        let count = match self.count {
            Some(count) => count,
            // One that ends exactly at the edge counts as whole.
            None if size > 0.0 && size + gutter > 0.0 => {
                let fit = ((room + gutter + tolerance::PLACED) / (size + gutter)).floor();
                within(fit, 0.0, f64::from(MAX_CELLS)) as u32
            }
            None => 0,
        };
        let taken = f64::from(count) * (size + gutter);
        let columns = self.axis == Axis::Across;
        let beyond = (first + taken - gutter - whole).max(-first).max(0.0);
        let cut = if self.count.is_none() { within(room - taken, 0.0, size.max(0.0)) } else { 0.0 };
        Division { columns, count, size, gutter, first, beyond: if count == 0 { 0.0 } else { beyond }, cut }
    }
}

/// The coordinates of columns or rows as expressions in the guide's own box: the edges along the axis
/// that they divide.
pub(crate) fn edges_of(cells: &Cells, guide: ViewId, first: u32, last: u32) -> (Expr, Expr) {
    let Edges { near, size, .. } = Edges::of_axis(cells.axis);
    let (origin, whole) = (Expr::of(guide.into(), near), Expr::of(guide.into(), size));
    let from = origin.clone() + cells.near_in(&whole, first);
    let to = origin + cells.near_in(&whole, last) + cells.size_in(&whole);
    (from, to)
}

/// Whether a coordinate lies along the axis that columns or rows divide.
pub(crate) fn divides(cells: &Cells, coordinate: Coordinate) -> bool {
    coordinate.is_horizontal() == (cells.axis == Axis::Across)
}
