//! Coordinates of views, and the expressions and relations made of them.

use crate::screen::{Draft, LevelId, Strength, ValueId, ViewId};
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
pub enum Place {
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
pub const SCREEN: Place = Place::Screen;
/// One pixel of the display, in logical pixels: for lines as thin as they can be.
pub fn pixel() -> Expr {
    Expr::of(Place::Screen, Coordinate::Pixel)
}

/// The display less its insets, as a target for rules.
pub const SAFE: Place = Place::Safe;

/// The display less its insets and less a keyboard on the screen, as a target for rules.
pub const CLEAR: Place = Place::Clear;

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

            /// The point where a ray from the middle leaves the box: 0 degrees is up, angles grow
            /// clockwise.
            fn outline(self, degrees: f64) -> Pair {
                let (sin, cos) = turn(degrees);
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

    /// The coordinate that it is.
    pub fn coordinate(self) -> Coordinate {
        Self::ALL[self as usize].1
    }

    /// Whether a distance inwards from this edge goes along the axis.
    pub(crate) fn is_near(edge: Coordinate) -> bool {
        matches!(edge, Coordinate::Left | Coordinate::Top | Coordinate::Start)
    }

    /// The relation that pins this side of a view, at a distance inwards.
    pub(crate) fn pinned(self, view: ViewId, to: Place, by: Expr) -> Relation {
        let coordinate = self.coordinate();
        let inwards = if Self::is_near(coordinate) { by } else { -by };
        let target = Expr::of(to, coordinate) + inwards;
        Relation::new(Expr::of(view.into(), coordinate), Comparison::Equal, target)
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

/// Which of several expressions counts.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Pick {
    /// The greatest: `max(a, b)`.
    Max,
    /// The least: `min(a, b)`.
    Min,
    /// The first, held between the second and the third; the second wins where they cross:
    /// `clamp(value, least, most)`.
    Clamp,
}

impl Pick {
    /// All with their spelling in a screen file.
    pub(crate) const SPELLINGS: [(&'static str, Pick); 3] =
        [("max", Pick::Max), ("min", Pick::Min), ("clamp", Pick::Clamp)];

    /// The spelling in a screen file.
    pub fn spelling(self) -> &'static str {
        Self::SPELLINGS[self as usize].0
    }
}

/// How deep `max`, `min` and `clamp` may stand in one another.
pub const MAX_PICK_NESTING: usize = 32;

/// The greatest or least of several expressions, times a number.
#[derive(Clone, Debug, PartialEq)]
pub struct Picked {
    /// The number.
    pub coefficient: f64,
    /// Which one counts.
    pub pick: Pick,
    /// The expressions.
    pub of: Vec<Expr>,
    /// How deep others stand within it, itself counted.
    pub(crate) depth: usize,
}

/// An expression in coordinates: linear, but for the greatest and least of others in it.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Expr {
    pub(crate) terms: Vec<Term>,
    /// Named numbers that bands change, each with its coefficient.
    pub(crate) values: Vec<(f64, ValueId)>,
    pub(crate) picks: Vec<Picked>,
    pub(crate) constant: f64,
    /// To be measured along the reading direction; a relation writes its middles so.
    pub(crate) along: bool,
}

impl Expr {
    pub(crate) fn of(place: Place, coordinate: Coordinate) -> Self {
        Self { terms: vec![Term { coefficient: 1.0, place, coordinate }], ..Self::default() }
    }

    pub(crate) fn of_value(value: ValueId) -> Self {
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
    pub fn picks(&self) -> &[Picked] {
        &self.picks
    }

    /// Whether it is one plain number.
    pub fn is_number(&self) -> bool {
        self.terms.is_empty() && self.values.is_empty() && self.picks.is_empty()
    }

    /// Middles written so that they are measured along the reading direction.
    fn turn_along(&mut self) {
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

    /// Calls `visit` with this expression and all within it.
    pub(crate) fn each(&self, visit: &mut dyn FnMut(&Expr)) {
        visit(self);
        self.picks.iter().flat_map(|p| &p.of).for_each(|inner| inner.each(visit));
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
        Draft::new(vec![Relation::new(self, comparison, right)])
    }
}

impl From<f64> for Expr {
    fn from(constant: f64) -> Self {
        Self { constant, ..Self::default() }
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
        self.values.iter_mut().for_each(|v| v.0 *= by);
        self.picks.iter_mut().for_each(|p| p.coefficient *= by);
        self.terms.retain(|t| t.coefficient != 0.0);
        self.values.retain(|v| v.0 != 0.0);
        self.picks.retain(|p| p.coefficient != 0.0);
        self
    }
}

fn picked(pick: Pick, mut of: Vec<Expr>) -> Expr {
    let depth = 1 + of.iter().flat_map(|e| &e.picks).map(|p| p.depth).max().unwrap_or(0);
    if depth > MAX_PICK_NESTING {
        // The screen will be refused; what is in it is not needed.
        of.clear();
    }
    Expr { picks: vec![Picked { coefficient: 1.0, pick, of, depth }], ..Expr::default() }
}

/// The greatest of several expressions. The first counts where several are greatest.
pub fn max<const N: usize>(of: [Expr; N]) -> Expr {
    picked(Pick::Max, of.into())
}

/// The least of several expressions. The first counts where several are least.
pub fn min<const N: usize>(of: [Expr; N]) -> Expr {
    picked(Pick::Min, of.into())
}

/// An expression held between two others; `least` wins where they cross.
pub fn clamp(value: Expr, least: impl Into<Expr>, most: impl Into<Expr>) -> Expr {
    picked(Pick::Clamp, vec![value, least.into(), most.into()])
}

/// The greatest, least or held of expressions; a plain number where all are.
pub(crate) fn pick(pick: Pick, of: Vec<Expr>) -> Expr {
    if !of.iter().all(Expr::is_number) {
        return picked(pick, of);
    }
    let numbers = of.iter().map(Expr::constant);
    match pick {
        Pick::Max => numbers.fold(f64::NEG_INFINITY, f64::max).into(),
        Pick::Min => numbers.fold(f64::INFINITY, f64::min).into(),
        Pick::Clamp => of[0].constant.min(of[2].constant).max(of[1].constant).into(),
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
        let relation = |left, right| Relation::new(left, comparison, right);
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
    let (sin, cos) = turn(degrees);
    Pair(radius.clone() * sin, radius * -cos)
}

/// The same where reading goes from left to right, and its mirror image from right to left.
pub fn bearing_along(radius: impl Into<Expr>, degrees: f64) -> Pair {
    let Pair(mut x, y) = bearing(radius, degrees);
    x.along = true;
    Pair(x, y)
}

/// Sine and cosine. Quarter turns come out exactly, whatever the sine of a rounded pi.
pub(crate) fn turn(degrees: f64) -> (f64, f64) {
    match degrees.rem_euclid(360.0) {
        0.0 => (0.0, 1.0),
        90.0 => (1.0, 0.0),
        180.0 => (0.0, -1.0),
        270.0 => (-1.0, 0.0),
        turn => (libm::sin(turn.to_radians()), libm::cos(turn.to_radians())),
    }
}

/// `a : b = m : n`, which is the rule `a = (m / n) * b`.
pub fn ratio(a: Expr, b: Expr, m: f64, n: f64) -> Draft {
    a.equals(b * (m / n))
}

/// How the two sides of a relation compare.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
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

/// One relation between coordinates, and how strongly it is meant.
#[derive(Clone, Debug, PartialEq)]
pub struct Relation {
    /// The left side.
    pub left: Expr,
    /// How the sides compare.
    pub comparison: Comparison,
    /// The right side.
    pub right: Expr,
    pub(crate) level: Option<LevelId>,
    pub(crate) weight: f64,
}

impl Relation {
    pub(crate) fn new(mut left: Expr, comparison: Comparison, mut right: Expr) -> Self {
        let mut along = false;
        [&left, &right].iter().for_each(|side| side.each(&mut |e| along |= e.along));
        if along {
            left.turn_along();
            right.turn_along();
        }
        Self { left, comparison, right, level: None, weight: 1.0 }
    }

    /// How strongly it is meant.
    pub fn strength(&self) -> Strength {
        match self.level {
            None => Strength::Must,
            Some(level) => Strength::Prefer { level, weight: self.weight },
        }
    }

    /// Calls `visit` with both sides and all expressions within them.
    pub(crate) fn each(&self, visit: &mut dyn FnMut(&Expr)) {
        self.left.each(visit);
        self.right.each(visit);
    }

    /// The coordinates that it reads, those within the greatest and least of others included.
    pub fn terms(&self) -> Vec<Term> {
        let mut terms = Vec::new();
        self.each(&mut |e| terms.extend(&e.terms));
        terms
    }

    /// Whether it is measured along the reading direction: it speaks of start or end.
    pub(crate) fn is_along(&self) -> bool {
        let mut along = false;
        self.each(&mut |e| {
            along |= e.terms.iter().any(|t| matches!(t.coordinate, Coordinate::Start | Coordinate::End));
        });
        along
    }
}
