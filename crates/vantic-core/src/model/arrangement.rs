//! How a view arranges its children: in a row or a column, with what is said of each child.
//!
//! What an arrangement means as rules stands in [`crate::plan`], since it depends on which children a
//! band hides.

use crate::geometry::axis::Axis;
use crate::model::expression::Expr;
use crate::model::id::ViewId;
#[cfg(feature = "json")]
use serde::Serialize;

/// How the space that is left along an arrangement is spread.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum Spread {
    /// All of it behind the last child.
    #[default]
    Start,
    /// Half of it before the first child, half behind the last.
    Center,
    /// All of it before the first child.
    End,
    /// Evenly between the children.
    Between,
    /// Evenly between the children, and half as much at both ends.
    Around,
    /// Evenly between the children and at both ends.
    Evenly,
}

impl Spread {
    /// All with their spelling in a screen file.
    pub const SPELLINGS: [(&'static str, Spread); 6] = [
        ("start", Spread::Start),
        ("center", Spread::Center),
        ("end", Spread::End),
        ("between", Spread::Between),
        ("around", Spread::Around),
        ("evenly", Spread::Evenly),
    ];

    /// The spelling in a screen file.
    pub fn spelling(self) -> &'static str {
        Self::SPELLINGS[self as usize].0
    }
}

/// Where children lie across an arrangement.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum Align {
    /// At the start, or at the top.
    #[default]
    Start,
    /// In the middle.
    Center,
    /// At the end, or at the bottom.
    End,
    /// From one side to the other.
    Stretch,
    /// In a row: with one baseline, the highest child at the top.
    Baseline,
}

impl Align {
    /// All with their spelling in a screen file.
    pub const SPELLINGS: [(&'static str, Align); 5] = [
        ("start", Align::Start),
        ("center", Align::Center),
        ("end", Align::End),
        ("stretch", Align::Stretch),
        ("baseline", Align::Baseline),
    ];

    /// The spelling in a screen file.
    pub fn spelling(self) -> &'static str {
        Self::SPELLINGS[self as usize].0
    }
}

/// The columns of a grid of cells.
#[derive(Clone, Debug, PartialEq)]
#[must_use = "they are no grid until they are set"]
pub struct Columns {
    /// How many; as many as fit without it.
    pub count: Option<u32>,
    /// How wide each is.
    pub width: ColumnWidth,
}

/// How wide the columns of a grid are.
#[derive(Clone, Debug, PartialEq)]
pub enum ColumnWidth {
    /// They share the space.
    Equal,
    /// Each so wide.
    Of(Expr),
    /// They share the space, as many as fit with this least width.
    AtLeast(Expr),
    /// Each as wide as the widest child that stands in it alone.
    Snug,
}

impl Columns {
    /// So many columns that share the width.
    pub fn equal(count: u32) -> Self {
        Self { count: Some(count), width: ColumnWidth::Equal }
    }

    /// So many columns of a width in logical pixels.
    pub fn of(count: u32, width: impl Into<Expr>) -> Self {
        Self { count: Some(count), width: ColumnWidth::Of(width.into()) }
    }

    /// As many columns of a width as fit, one at least.
    pub fn fitting(width: impl Into<Expr>) -> Self {
        Self { count: None, width: ColumnWidth::Of(width.into()) }
    }

    /// As many columns as fit with this least width, one at least; they share the width.
    pub fn at_least(width: impl Into<Expr>) -> Self {
        Self { count: None, width: ColumnWidth::AtLeast(width.into()) }
    }

    /// So many columns, each as wide as its widest child.
    pub fn snug(count: u32) -> Self {
        Self { count: Some(count), width: ColumnWidth::Snug }
    }

    /// The stated width, or least width.
    pub(crate) fn length(&self) -> Option<&Expr> {
        match &self.width {
            ColumnWidth::Of(width) | ColumnWidth::AtLeast(width) => Some(width),
            ColumnWidth::Equal | ColumnWidth::Snug => None,
        }
    }
}

/// What a grid came to be on a display.
#[derive(Clone, Debug, PartialEq)]
pub struct GridShape {
    /// How many columns there are.
    pub columns: u32,
    /// How many rows there are.
    pub rows: u32,
    /// How wide each column is, in logical pixels, where they are alike.
    pub width: Option<f64>,
    /// How wide each was to be at least.
    pub least: Option<f64>,
    /// Children that ask for more columns than there are; they take all of them.
    pub too_wide: Vec<ViewId>,
}

/// The most columns of a grid.
pub const MAX_COLUMNS: u32 = 1000;

/// The most columns or rows that a child may take.
pub const MAX_SPAN: u32 = 1000;

/// How a view arranges its children.
#[derive(Clone, Debug, PartialEq)]
#[must_use = "it arranges nothing until it is set"]
pub struct Arrangement {
    /// Along which axis children follow one another.
    pub axis: Axis,
    /// The columns, where children stand in cells; rows are added as needed.
    pub columns: Option<Columns>,
    /// How high each row of cells is; as high as its children without it.
    pub rows: Option<Expr>,
    /// The distance between children.
    pub gap: Expr,
    /// The distance between lines, where they wrap, or between the rows of a grid.
    pub wrap: Option<Expr>,
    /// At the start, the top, the end and the bottom.
    pub padding: [Expr; 4],
    /// Where what is left of the space goes.
    pub spread: Spread,
    /// Where children lie on the other axis.
    pub align: Align,
}

impl Arrangement {
    /// Children after one another along the reading direction.
    pub fn row() -> Self {
        Self::along(Axis::Across)
    }

    /// Children below one another.
    pub fn column() -> Self {
        Self::along(Axis::Down)
    }

    /// Children in the cells of a grid, one row after another; they fill their cells.
    pub fn grid(columns: Columns) -> Self {
        Self { columns: Some(columns), align: Align::Stretch, ..Self::along(Axis::Across) }
    }

    /// How high each row of a grid is, in logical pixels.
    pub fn rows_of(self, height: impl Into<Expr>) -> Self {
        Self { rows: Some(height.into()), ..self }
    }

    /// The distance between the rows of a grid, if it is not the gap.
    pub fn row_gap(self, gap: impl Into<Expr>) -> Self {
        Self { wrap: Some(gap.into()), ..self }
    }

    pub(crate) fn along(axis: Axis) -> Self {
        let (spread, align) = Default::default();
        let (columns, rows) = (None, None);
        Self {
            axis,
            columns,
            rows,
            gap: Expr::default(),
            wrap: None,
            padding: Default::default(),
            spread,
            align,
        }
    }

    /// The least distance between children, in logical pixels.
    pub fn gap(self, gap: impl Into<Expr>) -> Self {
        Self { gap: gap.into(), ..self }
    }

    /// The distance from the view's edges, the same on all four sides.
    pub fn padding(self, all: impl Into<Expr>) -> Self {
        let all = all.into();
        Self { padding: std::array::from_fn(|_| all.clone()), ..self }
    }

    /// The distances from the start, the top, the end and the bottom.
    pub fn padding_of<T: Into<Expr>>(self, sides: [T; 4]) -> Self {
        Self { padding: sides.map(Into::into), ..self }
    }

    /// How the space that is left is spread.
    pub fn spread(self, spread: Spread) -> Self {
        Self { spread, ..self }
    }

    /// Where children lie across.
    pub fn align(self, align: Align) -> Self {
        Self { align, ..self }
    }

    /// In as many lines as needed, so far apart: what does not fit goes to the next line.
    pub fn wrap(self, between_lines: impl Into<Expr>) -> Self {
        Self { wrap: Some(between_lines.into()), ..self }
    }

    /// The word that it begins with in a screen file.
    pub fn word(&self) -> &'static str {
        match (&self.columns, self.axis) {
            (Some(_), _) => "grid",
            (None, Axis::Across) => "row",
            (None, Axis::Down) => "column",
        }
    }

    /// Every expression in it.
    pub(crate) fn exprs(&self) -> impl Iterator<Item = &Expr> {
        let columns = self.columns.iter().filter_map(Columns::length);
        std::iter::once(&self.gap).chain(&self.wrap).chain(&self.padding).chain(columns).chain(&self.rows)
    }

    pub(crate) fn exprs_mut(&mut self) -> Vec<&mut Expr> {
        let columns = self.columns.iter_mut().filter_map(|columns| match &mut columns.width {
            ColumnWidth::Of(width) | ColumnWidth::AtLeast(width) => Some(width),
            ColumnWidth::Equal | ColumnWidth::Snug => None,
        });
        let gaps = std::iter::once(&mut self.gap).chain(&mut self.wrap).chain(&mut self.padding);
        gaps.chain(columns).chain(&mut self.rows).collect()
    }
}

/// How much a child takes of the space that is left along an arrangement.
#[derive(Clone, Debug, PartialEq)]
#[must_use = "it shares nothing until it is set"]
pub struct Share {
    /// How much it takes of what is left, compared with others.
    pub weight: f64,
    /// The least it takes.
    pub least: Option<Expr>,
    /// The most it takes.
    pub most: Option<Expr>,
}

impl Share {
    /// In proportion to a weight from 0.001 to 1000.
    pub fn of(weight: f64) -> Self {
        Self { weight, least: None, most: None }
    }

    /// At least so much, in logical pixels; what that takes is taken from the others.
    pub fn at_least(self, least: impl Into<Expr>) -> Self {
        Self { least: Some(least.into()), ..self }
    }

    /// At most so much, in logical pixels; the rest goes to the others.
    pub fn at_most(self, most: impl Into<Expr>) -> Self {
        Self { most: Some(most.into()), ..self }
    }

    pub(crate) fn exprs(&self) -> impl Iterator<Item = &Expr> {
        self.least.iter().chain(&self.most)
    }

    pub(crate) fn exprs_mut(&mut self) -> Vec<&mut Expr> {
        self.least.iter_mut().chain(&mut self.most).collect()
    }
}

/// An empty length between the children of an arrangement. It is no view.
#[derive(Clone, Debug, PartialEq)]
pub enum Space {
    /// So long, in place of the gap.
    Fixed(Expr),
    /// The gap, and what it takes of the space that is left by its weight.
    Flexible(f64),
}

/// What is said of a child in the arrangement it stands in.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Item {
    /// How much it takes of the space that is left.
    pub share: Option<Share>,
    /// Whether it stays out of the arrangement.
    pub apart: bool,
    /// Where it lies across, if not as the others.
    pub sit: Option<Align>,
    /// How many columns and rows of a grid it takes, if not one each.
    pub cells: Option<(u32, u32)>,
    /// Whether it is shown only where there is space for it.
    pub spare: bool,
    /// Where it is spare: how much of it is to be seen at least, in logical pixels, where it is shown cut.
    pub cut: Option<f64>,
}

/// How many of the children are shown that are shown only where there is room.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[cfg_attr(feature = "json", derive(Serialize))]
pub struct VisibleSpares {
    /// How many are shown.
    pub shown: usize,
    /// How many there are.
    pub of: usize,
    /// Whether the last of those that are shown is cut, as a hint that there are more.
    pub cut: bool,
}
