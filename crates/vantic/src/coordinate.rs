//! Coordinates of views, and the expressions and relations made of them.

use crate::screen::{Draft, ViewId};
use std::ops::{Add, Mul, Neg, Sub};

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
}

impl Coordinate {
    /// All coordinates with their spelling in a screen file.
    pub const SPELLINGS: [(&'static str, Coordinate); 13] = [
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
    ];

    /// The spelling in a screen file.
    pub fn spelling(self) -> &'static str {
        Self::SPELLINGS[self as usize].0
    }

    /// Whether this is a place on the screen (an edge or a middle) rather than a length.
    pub fn is_position(self) -> bool {
        !matches!(self, Self::Width | Self::Height | Self::ContentWidth | Self::ContentHeight)
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
        )
    }
}

/// Something that has coordinates.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Place {
    /// The whole display.
    Screen,
    /// The display less its insets.
    Safe,
    /// A view.
    View(ViewId),
    /// The sibling declared before this view and not hidden.
    Prev(ViewId),
    /// The sibling declared after this view and not hidden.
    Next(ViewId),
}

/// The whole display, as a target for rules.
pub const SCREEN: Place = Place::Screen;
/// The display less its insets, as a target for rules.
pub const SAFE: Place = Place::Safe;

impl From<ViewId> for Place {
    fn from(view: ViewId) -> Self {
        Place::View(view)
    }
}

macro_rules! coordinate_methods {
    ($($(#[$doc:meta])* $name:ident $coordinate:ident;)*) => {
        /// The coordinates of a view, of the screen and of the safe area, as expressions.
        pub trait Coordinates: Copy + Into<Place> {
            $($(#[$doc])*
            fn $name(self) -> Expr {
                Expr::of(self.into(), Coordinate::$coordinate)
            })*

            /// The point in the middle.
            fn center(self) -> Pair {
                Pair(self.center_x(), self.center_y())
            }

            /// Width and height.
            fn size(self) -> Pair {
                Pair(self.width(), self.height())
            }

            /// The point at these fractions of the box: `at(0.5, 0.0)` is the middle of the top edge.
            fn at(self, x: f64, y: f64) -> Pair {
                Pair(self.left() + self.width() * x, self.top() + self.height() * y)
            }
        }
    };
}
coordinate_methods! {
    /// The left edge.
    left Left;
    /// The right edge.
    right Right;
    /// The top edge.
    top Top;
    /// The bottom edge.
    bottom Bottom;
    /// The width.
    width Width;
    /// The height.
    height Height;
    /// The middle between left and right.
    center_x CenterX;
    /// The middle between top and bottom.
    center_y CenterY;
    /// The edge where reading starts.
    start Start;
    /// The edge where reading ends.
    end End;
    /// The baseline of a text, the bottom of any other view.
    baseline Baseline;
    /// The width of a text on one line.
    content_width ContentWidth;
    /// The height of a text's lines at the width it has.
    content_height ContentHeight;
}
impl Coordinates for Place {}
impl Coordinates for ViewId {}

impl ViewId {
    /// The sibling declared before this view (a hidden one is skipped).
    pub fn prev(self) -> Place {
        Place::Prev(self)
    }

    /// The sibling declared after this view (a hidden one is skipped).
    pub fn next(self) -> Place {
        Place::Next(self)
    }

    /// Pins sides of this view to the same sides of a place, each at its distance inwards.
    pub fn pin<const N: usize>(self, sides: [(Side, f64); N], to: impl Into<Place>) -> Draft {
        let to = to.into();
        Draft::new(sides.map(|(side, by)| side.pinned(self, to, Expr::from(by))).into())
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
    pub(crate) const ALL: [(Side, Coordinate); 6] = [
        (Side::Left, Coordinate::Left),
        (Side::Right, Coordinate::Right),
        (Side::Top, Coordinate::Top),
        (Side::Bottom, Coordinate::Bottom),
        (Side::Start, Coordinate::Start),
        (Side::End, Coordinate::End),
    ];

    /// The relation that pins this side of a view, at a distance inwards.
    pub(crate) fn pinned(self, view: ViewId, to: Place, by: Expr) -> Relation {
        let coordinate = Self::ALL[self as usize].1;
        let inwards = if matches!(self, Side::Left | Side::Top | Side::Start) { by } else { -by };
        let target = Expr::of(to, coordinate) + inwards;
        Relation { left: Expr::of(view.into(), coordinate), comparison: Comparison::Equal, right: target }
    }
}

/// A coordinate times a number.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Term {
    /// The number.
    pub coefficient: f64,
    /// Whose coordinate.
    pub place: Place,
    /// Which coordinate.
    pub coordinate: Coordinate,
}

/// A linear expression in coordinates.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Expr {
    pub(crate) terms: Vec<Term>,
    pub(crate) constant: f64,
}

impl Expr {
    pub(crate) fn of(place: Place, coordinate: Coordinate) -> Self {
        Self { terms: vec![Term { coefficient: 1.0, place, coordinate }], constant: 0.0 }
    }

    /// The coordinates in it, each with its coefficient.
    pub fn terms(&self) -> &[Term] {
        &self.terms
    }

    /// The number that is added.
    pub fn constant(&self) -> f64 {
        self.constant
    }

    /// Whether no coordinate is in it.
    pub fn is_number(&self) -> bool {
        self.terms.is_empty()
    }

    /// `self = other`.
    pub fn equals(self, other: impl Into<Expr>) -> Draft {
        self.relate(Comparison::Equal, other.into())
    }

    /// `self <= other`.
    pub fn at_most(self, other: impl Into<Expr>) -> Draft {
        self.relate(Comparison::AtMost, other.into())
    }

    /// `self >= other`.
    pub fn at_least(self, other: impl Into<Expr>) -> Draft {
        self.relate(Comparison::AtLeast, other.into())
    }

    pub(crate) fn relate(self, comparison: Comparison, right: Expr) -> Draft {
        Draft::new(vec![Relation { left: self, comparison, right }])
    }

    pub(crate) fn is_finite(&self) -> bool {
        self.constant.is_finite() && self.terms.iter().all(|t| t.coefficient.is_finite())
    }
}

impl From<f64> for Expr {
    fn from(constant: f64) -> Self {
        Self { terms: Vec::new(), constant }
    }
}

impl<T: Into<Expr>> Add<T> for Expr {
    type Output = Expr;
    fn add(mut self, other: T) -> Expr {
        let other = other.into();
        self.constant += other.constant;
        for term in other.terms {
            let same =
                self.terms.iter().position(|t| t.place == term.place && t.coordinate == term.coordinate);
            match same {
                Some(i) => {
                    self.terms[i].coefficient += term.coefficient;
                    if self.terms[i].coefficient == 0.0 {
                        self.terms.remove(i);
                    }
                }
                None => self.terms.push(term),
            }
        }
        self
    }
}

impl Neg for Expr {
    type Output = Expr;
    fn neg(self) -> Expr {
        self * -1.0
    }
}

impl<T: Into<Expr>> Sub<T> for Expr {
    type Output = Expr;
    fn sub(self, other: T) -> Expr {
        self + -other.into()
    }
}

impl Mul<f64> for Expr {
    type Output = Expr;
    fn mul(mut self, by: f64) -> Expr {
        self.constant *= by;
        for term in &mut self.terms {
            term.coefficient *= by;
        }
        self.terms.retain(|t| t.coefficient != 0.0);
        self
    }
}

/// Two expressions: a point or a size.
#[derive(Clone, Debug, PartialEq)]
pub struct Pair(pub Expr, pub Expr);

impl Pair {
    /// Both expressions equal those of the other pair (one number fills both).
    pub fn equals(self, other: impl Into<Pair>) -> Draft {
        self.relate(Comparison::Equal, other.into())
    }

    pub(crate) fn relate(self, comparison: Comparison, other: Pair) -> Draft {
        let relation = |left, right| Relation { left, comparison, right };
        Draft::new(vec![relation(self.0, other.0), relation(self.1, other.1)])
    }
}

impl Add for Pair {
    type Output = Pair;
    fn add(self, other: Pair) -> Pair {
        Pair(self.0 + other.0, self.1 + other.1)
    }
}

impl From<f64> for Pair {
    fn from(both: f64) -> Self {
        Pair(both.into(), both.into())
    }
}

impl From<(f64, f64)> for Pair {
    fn from((x, y): (f64, f64)) -> Self {
        Pair(x.into(), y.into())
    }
}

/// The offset to a point at a distance in a direction: 0 degrees is up, angles grow clockwise.
pub fn bearing(radius: impl Into<Expr>, degrees: f64) -> Pair {
    let radius = radius.into();
    // Quarter turns come out exactly, whatever the sine of a rounded pi.
    let turn = degrees.rem_euclid(360.0);
    let (sin, cos) = match turn {
        0.0 => (0.0, 1.0),
        90.0 => (1.0, 0.0),
        180.0 => (0.0, -1.0),
        270.0 => (-1.0, 0.0),
        _ => (libm::sin(turn.to_radians()), libm::cos(turn.to_radians())),
    };
    Pair(radius.clone() * sin, radius * -cos)
}

/// `a : b = m : n`, which is the rule `a = (m / n) * b`.
pub fn ratio(a: Expr, b: Expr, m: f64, n: f64) -> Draft {
    a.equals(b * (m / n))
}

/// How the two sides of a relation compare.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Comparison {
    /// `=`
    Equal,
    /// `<=`
    AtMost,
    /// `>=`
    AtLeast,
}

impl Comparison {
    /// The spelling in a screen file.
    pub fn spelling(self) -> &'static str {
        match self {
            Comparison::Equal => "=",
            Comparison::AtMost => "<=",
            Comparison::AtLeast => ">=",
        }
    }
}

/// One linear relation between coordinates.
#[derive(Clone, Debug, PartialEq)]
pub struct Relation {
    /// The left side.
    pub left: Expr,
    /// How the sides compare.
    pub comparison: Comparison,
    /// The right side.
    pub right: Expr,
}

impl Relation {
    /// The terms of both sides.
    pub(crate) fn terms(&self) -> impl Iterator<Item = &Term> {
        self.left.terms.iter().chain(&self.right.terms)
    }
}
