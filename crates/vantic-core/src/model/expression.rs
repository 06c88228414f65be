//! Coordinates of views, and the expressions and relations made of them.

use crate::geometry::angle::sin_cos_degrees;
use crate::model::coordinate::{Anchor, Coordinate};
use crate::model::id::{ValueId, ViewId};
use std::iter::Sum;
use std::ops::{Add, AddAssign, Div, DivAssign, Mul, MulAssign, Neg, Sub, SubAssign};

/// One pixel of the display, in logical pixels: for lines as thin as they can be.
pub fn pixel() -> Expr {
    Expr::of(Anchor::Screen, Coordinate::Pixel)
}

macro_rules! coordinate_methods {
    ($($(#[$doc:meta])* $name:ident $coordinate:ident;)*) => {
        /// The coordinates of a view, of the screen and of the safe area, as expressions.
        pub trait Coordinates: Copy + Into<Anchor> {
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

            /// The point where a ray from the middle leaves the box: 0 degrees is up, angles grow
            /// clockwise.
            fn outline(self, degrees: f64) -> Pair {
                let (sin, cos) = sin_cos_degrees(degrees);
                let reach = |half: Expr, share: f64| half * (0.5 / share.abs());
                let radius = match (sin == 0.0, cos == 0.0) {
                    (true, _) => self.height() * 0.5,
                    (_, true) => self.width() * 0.5,
                    _ => min([reach(self.width(), sin), reach(self.height(), cos)]),
                };
                self.center() + bearing(radius, degrees)
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
    /// How far a view is scrolled along the reading direction.
    scrolled_x ScrolledX;
    /// How far a view is scrolled down.
    scrolled_y ScrolledY;
}

impl Coordinates for Anchor {}

impl Coordinates for ViewId {}

/// A coordinate times a number.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Term {
    /// The number.
    pub coefficient: f64,
    /// Whose coordinate.
    pub anchor: Anchor,
    /// Which coordinate.
    pub coordinate: Coordinate,
}

/// Which of several expressions counts.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum MinMaxKind {
    /// The greatest: `max(a, b)`.
    Max,
    /// The least: `min(a, b)`.
    Min,
    /// The first, held between the second and the third; the second wins where they cross:
    /// `clamp(value, least, most)`.
    Clamp,
}

impl MinMaxKind {
    /// All with their spelling in a screen file.
    pub const SPELLINGS: [(&'static str, MinMaxKind); 3] =
        [("max", MinMaxKind::Max), ("min", MinMaxKind::Min), ("clamp", MinMaxKind::Clamp)];

    /// The spelling in a screen file.
    pub fn spelling(self) -> &'static str {
        Self::SPELLINGS[self as usize].0
    }
}

/// How deep `max`, `min` and `clamp` may stand in one another.
pub const MAX_MIN_MAX_NESTING: usize = 32;

/// The greatest or least of several expressions, times a number.
#[derive(Clone, Debug, PartialEq)]
pub struct MinMax {
    /// The number.
    pub coefficient: f64,
    /// Which one counts.
    pub pick: MinMaxKind,
    /// The expressions.
    pub of: Vec<Expr>,
    /// How deep others stand within it, itself counted.
    pub(crate) depth: usize,
}

/// An expression in coordinates: linear, but for the greatest and least of others in it.
#[derive(Clone, Debug, Default, PartialEq)]
#[must_use = "it says nothing until it is compared"]
pub struct Expr {
    pub(crate) terms: Vec<Term>,
    /// Named numbers that bands change, each with its coefficient.
    pub(crate) values: Vec<(f64, ValueId)>,
    pub(crate) picks: Vec<MinMax>,
    pub(crate) constant: f64,
    /// To be measured along the reading direction; a relation writes its middles so.
    pub(crate) along: bool,
}

impl Expr {
    /// A coordinate of a place.
    pub fn of(anchor: Anchor, coordinate: Coordinate) -> Self {
        Self { terms: vec![Term { coefficient: 1.0, anchor, coordinate }], ..Self::default() }
    }

    /// A named number.
    pub fn of_value(value: ValueId) -> Self {
        Self { values: vec![(1.0, value)], ..Self::default() }
    }

    /// The coordinates in it, each with its coefficient; not those within [`Expr::picks`].
    pub fn terms(&self) -> &[Term] {
        &self.terms
    }

    /// The number that is added.
    pub fn constant(&self) -> f64 {
        self.constant
    }

    /// The named numbers in it that bands change, each with its coefficient.
    pub fn values(&self) -> &[(f64, ValueId)] {
        &self.values
    }

    /// The greatest and least of others that are in it.
    pub fn picks(&self) -> &[MinMax] {
        &self.picks
    }

    /// Whether it is one plain number.
    pub fn is_number(&self) -> bool {
        self.terms.is_empty() && self.values.is_empty() && self.picks.is_empty()
    }

    /// Middles written so that they are measured along the reading direction.
    pub(super) fn turn_along(&mut self) {
        let middles = self.terms.iter_mut().filter(|t| t.coordinate == Coordinate::CenterX);
        let half = |t: &mut Term| {
            t.coordinate = Coordinate::Start;
            Term { coefficient: t.coefficient / 2.0, coordinate: Coordinate::Width, ..*t }
        };
        let halves: Vec<Term> = middles.map(half).collect();
        self.along = false;
        *self = std::mem::take(self) + Expr { terms: halves, ..Expr::default() };
        self.picks.iter_mut().flat_map(|p| &mut p.of).for_each(Expr::turn_along);
    }

    /// Reads other views in place of those that it reads.
    pub(crate) fn turn_to(&mut self, other: &dyn Fn(ViewId) -> ViewId) {
        for term in &mut self.terms {
            term.anchor = match term.anchor {
                Anchor::View(view) => Anchor::View(other(view)),
                Anchor::Prev(view) => Anchor::Prev(other(view)),
                Anchor::Next(view) => Anchor::Next(other(view)),
                Anchor::Cells { guide, first, last } => Anchor::Cells { guide: other(guide), first, last },
                Anchor::Screen | Anchor::Safe | Anchor::Clear => term.anchor,
            };
        }
        self.picks.iter_mut().flat_map(|picked| &mut picked.of).for_each(|inner| inner.turn_to(other));
    }

    /// Calls `visit` with this expression and all within it.
    pub fn each(&self, visit: &mut dyn FnMut(&Expr)) {
        visit(self);
        self.picks.iter().flat_map(|p| &p.of).for_each(|inner| inner.each(visit));
    }
}

impl From<f64> for Expr {
    fn from(constant: f64) -> Self {
        Self { constant, ..Self::default() }
    }
}

impl From<i32> for Expr {
    fn from(constant: i32) -> Self {
        f64::from(constant).into()
    }
}

impl From<u32> for Expr {
    fn from(constant: u32) -> Self {
        f64::from(constant).into()
    }
}

impl From<&Expr> for Expr {
    fn from(other: &Expr) -> Self {
        other.clone()
    }
}

impl<T: Into<Expr>> Add<T> for Expr {
    type Output = Expr;
    fn add(mut self, other: T) -> Expr {
        let other = other.into();
        self.constant += other.constant;
        self.along |= other.along;
        for (coefficient, value) in other.values {
            match self.values.iter().position(|v| v.1 == value) {
                Some(i) => {
                    self.values[i].0 += coefficient;
                    self.values.retain(|v| v.0 != 0.0);
                }
                None => self.values.push((coefficient, value)),
            }
        }
        self.picks.extend(other.picks);
        for term in other.terms {
            let same =
                self.terms.iter().position(|t| t.anchor == term.anchor && t.coordinate == term.coordinate);
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

impl<T: Into<Expr>> Add<T> for &Expr {
    type Output = Expr;
    fn add(self, other: T) -> Expr {
        self.clone() + other
    }
}

impl<T: Into<Expr>> Sub<T> for &Expr {
    type Output = Expr;
    fn sub(self, other: T) -> Expr {
        self.clone() - other
    }
}

impl<T: Into<Expr>> AddAssign<T> for Expr {
    fn add_assign(&mut self, other: T) {
        *self = std::mem::take(self) + other;
    }
}

impl<T: Into<Expr>> SubAssign<T> for Expr {
    fn sub_assign(&mut self, other: T) {
        *self = std::mem::take(self) - other;
    }
}

impl<T: Into<Expr>> Sum<T> for Expr {
    fn sum<I: Iterator<Item = T>>(all: I) -> Expr {
        all.fold(Expr::default(), |sum, one| sum + one)
    }
}

/// What a number does with an expression, from either side.
macro_rules! with_numbers {
    ($($number:ty),*) => {$(
        impl Mul<$number> for Expr {
            type Output = Expr;
            fn mul(self, by: $number) -> Expr {
                self.times(by.into())
            }
        }

        impl Mul<$number> for &Expr {
            type Output = Expr;
            fn mul(self, by: $number) -> Expr {
                self.clone().times(by.into())
            }
        }

        impl Mul<Expr> for $number {
            type Output = Expr;
            fn mul(self, of: Expr) -> Expr {
                of.times(self.into())
            }
        }

        impl Mul<&Expr> for $number {
            type Output = Expr;
            fn mul(self, of: &Expr) -> Expr {
                of.clone().times(self.into())
            }
        }

        impl Div<$number> for Expr {
            type Output = Expr;
            fn div(self, by: $number) -> Expr {
                self.scaled(&|number| number / f64::from(by))
            }
        }

        impl Div<$number> for &Expr {
            type Output = Expr;
            fn div(self, by: $number) -> Expr {
                self.clone().scaled(&|number| number / f64::from(by))
            }
        }

        impl Add<Expr> for $number {
            type Output = Expr;
            fn add(self, other: Expr) -> Expr {
                other + self
            }
        }

        impl Sub<Expr> for $number {
            type Output = Expr;
            fn sub(self, other: Expr) -> Expr {
                -other + self
            }
        }

        impl MulAssign<$number> for Expr {
            fn mul_assign(&mut self, by: $number) {
                *self = std::mem::take(self).times(by.into());
            }
        }

        impl DivAssign<$number> for Expr {
            fn div_assign(&mut self, by: $number) {
                *self = std::mem::take(self).scaled(&|number| number / f64::from(by));
            }
        }
    )*};
}

with_numbers!(f64, i32);

impl Neg for &Expr {
    type Output = Expr;
    fn neg(self) -> Expr {
        self.clone().times(-1.0)
    }
}

impl Neg for Expr {
    type Output = Expr;
    fn neg(self) -> Expr {
        self.times(-1.0)
    }
}

impl<T: Into<Expr>> Sub<T> for Expr {
    type Output = Expr;
    fn sub(self, other: T) -> Expr {
        self + -other.into()
    }
}

impl Expr {
    fn times(self, by: f64) -> Expr {
        self.scaled(&|number| number * by)
    }

    fn scaled(mut self, scale: &dyn Fn(f64) -> f64) -> Expr {
        self.constant = scale(self.constant);
        self.terms.iter_mut().for_each(|t| t.coefficient = scale(t.coefficient));
        self.values.iter_mut().for_each(|v| v.0 = scale(v.0));
        self.picks.iter_mut().for_each(|p| p.coefficient = scale(p.coefficient));
        self.terms.retain(|t| t.coefficient != 0.0);
        self.values.retain(|v| v.0 != 0.0);
        self.picks.retain(|p| p.coefficient != 0.0);
        self
    }
}

fn picked(pick: MinMaxKind, mut of: Vec<Expr>) -> Expr {
    let depth = 1 + of.iter().flat_map(|e| &e.picks).map(|p| p.depth).max().unwrap_or(0);
    if depth > MAX_MIN_MAX_NESTING {
        // The screen will be refused; what is in it is not needed.
        of.clear();
    }
    Expr { picks: vec![MinMax { coefficient: 1.0, pick, of, depth }], ..Expr::default() }
}

/// The greatest of several expressions. The first counts where several are greatest.
pub fn max<T: Into<Expr>>(of: impl IntoIterator<Item = T>) -> Expr {
    picked(MinMaxKind::Max, of.into_iter().map(Into::into).collect())
}

/// The least of several expressions. The first counts where several are least.
pub fn min<T: Into<Expr>>(of: impl IntoIterator<Item = T>) -> Expr {
    picked(MinMaxKind::Min, of.into_iter().map(Into::into).collect())
}

/// An expression held between two others; `least` wins where they cross.
pub fn clamp(value: impl Into<Expr>, least: impl Into<Expr>, most: impl Into<Expr>) -> Expr {
    picked(MinMaxKind::Clamp, vec![value.into(), least.into(), most.into()])
}

/// The greatest, least or held of expressions; a plain number where all are.
pub fn pick(pick: MinMaxKind, of: Vec<Expr>) -> Expr {
    if !of.iter().all(Expr::is_number) {
        return picked(pick, of);
    }
    let numbers = of.iter().map(Expr::constant);
    match pick {
        MinMaxKind::Max => numbers.fold(f64::NEG_INFINITY, f64::max).into(),
        MinMaxKind::Min => numbers.fold(f64::INFINITY, f64::min).into(),
        MinMaxKind::Clamp => of[0].constant.min(of[2].constant).max(of[1].constant).into(),
    }
}

/// Two expressions: a point or a size.
#[derive(Clone, Debug, PartialEq)]
#[must_use = "it says nothing until it is compared"]
pub struct Pair(pub Expr, pub Expr);

impl Pair {}

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
    let (sin, cos) = sin_cos_degrees(degrees);
    Pair(radius.clone() * sin, radius * -cos)
}

/// The same where reading goes from left to right, and its mirror image from right to left.
pub fn bearing_along(radius: impl Into<Expr>, degrees: f64) -> Pair {
    let Pair(mut x, y) = bearing(radius, degrees);
    x.along = true;
    Pair(x, y)
}
