//! What may hold between the boxes of drawings.

use crate::infer::rules::table::{Extent, Sheet, index};
use vantic_core::geometry::Axis;

/// A box that others can be tied to.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub(super) enum Target {
    Screen,
    Safe,
    View(usize),
}

/// A place along an axis of a box.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub(super) enum Point {
    Near,
    Far,
    Center,
}

/// What a size may be.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) enum Size {
    /// So many logical pixels.
    Fixed(f64),
    /// A share of another size along the same axis, and so much more.
    Share { of: Target, factor: f64, plus: f64 },
}

/// What may hold of a view along an axis, in all drawings.
#[derive(Clone, Debug, PartialEq)]
pub(super) enum What {
    /// It is as large as its content.
    Natural,
    Is(Size),
    Least(Size, Size),
    Greatest(Size, Size),
    /// A place of it is so far behind a place of another box.
    At {
        own: Point,
        target: Target,
        point: Point,
        by: f64,
    },
    /// A place of it is at a share of another box.
    Fraction {
        own: Point,
        target: Target,
        factor: f64,
    },
    /// Its baseline is that of another text.
    Baseline {
        of: usize,
    },
    /// Its width is so many times its height.
    Ratio {
        width: f64,
        height: f64,
    },
    /// A text that is as wide as its words, unless it would go beyond so far before a place.
    Until {
        target: Target,
        point: Point,
        by: f64,
    },
    /// The distance to the view before is the same as from that to the one before it.
    Even {
        before: usize,
        first: usize,
    },
}

/// A relation that holds, and what it costs to say it.
#[derive(Clone, Debug, PartialEq)]
pub(super) struct Relation {
    pub(super) view: usize,
    pub(super) axis: Axis,
    pub(super) what: What,
    pub(super) cost: f64,
}

/// A variable: where a view begins along an axis, or how large it is.
pub(super) fn near_of(view: usize, axis: Axis) -> usize {
    4 * view + 2 * index(axis)
}

pub(super) fn size_of(view: usize, axis: Axis) -> usize {
    near_of(view, axis) + 1
}

impl Target {
    pub(super) fn extent(self, sheet: &Sheet, axis: Axis) -> Option<Extent> {
        match self {
            Target::Screen => Some(sheet.screen[index(axis)]),
            Target::Safe => Some(sheet.safe[index(axis)]),
            Target::View(view) => sheet.boxes[view].map(|extents| extents[index(axis)]),
        }
    }

    fn size_terms(self, axis: Axis, c: f64) -> Vec<(usize, f64)> {
        match self {
            Target::View(view) => vec![(size_of(view, axis), c)],
            _ => Vec::new(),
        }
    }

    fn terms(self, axis: Axis, point: Point, c: f64) -> Vec<(usize, f64)> {
        match self {
            Target::View(view) => point.terms(view, axis, c),
            _ => Vec::new(),
        }
    }
}

impl Point {
    pub(super) const ALL: [Point; 3] = [Point::Near, Point::Far, Point::Center];

    pub(super) fn of(self, extent: Extent) -> f64 {
        match self {
            Point::Near => extent.near,
            Point::Far => extent.far(),
            Point::Center => extent.center(),
        }
    }

    fn terms(self, view: usize, axis: Axis, c: f64) -> Vec<(usize, f64)> {
        let (near, size) = (near_of(view, axis), size_of(view, axis));
        match self {
            Point::Near => vec![(near, c)],
            Point::Far => vec![(near, c), (size, c)],
            Point::Center => vec![(near, c), (size, c / 2.0)],
        }
    }
}

impl Size {
    pub(super) fn value(&self, sheet: &Sheet, axis: Axis) -> Option<f64> {
        match *self {
            Size::Fixed(size) => Some(size),
            Size::Share { of, factor, plus } => Some(factor * of.extent(sheet, axis)?.size + plus),
        }
    }

    fn terms(&self, axis: Axis) -> Vec<(usize, f64)> {
        match *self {
            Size::Fixed(_) => Vec::new(),
            Size::Share { of, factor, .. } => of.size_terms(axis, -factor),
        }
    }
}

impl Relation {
    /// The views that it reads besides its own.
    pub(super) fn reads(&self) -> Vec<usize> {
        let of_target = |target: &Target| match target {
            Target::View(view) => vec![*view],
            _ => Vec::new(),
        };
        let of_size = |size: &Size| match size {
            Size::Fixed(_) => Vec::new(),
            Size::Share { of, .. } => of_target(of),
        };
        match &self.what {
            What::Natural | What::Ratio { .. } => Vec::new(),
            What::Is(size) => of_size(size),
            What::Least(a, b) | What::Greatest(a, b) => [of_size(a), of_size(b)].concat(),
            What::At { target, .. } | What::Fraction { target, .. } | What::Until { target, .. } => {
                of_target(target)
            }
            What::Baseline { of } => vec![*of],
            What::Even { before, first } => vec![*before, *first],
        }
    }

    /// The variables that it ties together on the display of a drawing: of what is one thing or another, that which it is there.
    pub(super) fn form(&self, sheet: &Sheet) -> Vec<(usize, f64)> {
        let Self { view, axis, .. } = *self;
        let own_size = (size_of(view, axis), 1.0);
        match &self.what {
            What::Natural => vec![own_size],
            What::Is(size) => std::iter::once(own_size).chain(size.terms(axis)).collect(),
            What::Least(a, b) | What::Greatest(a, b) => {
                let is_first = match (a.value(sheet, axis), b.value(sheet, axis)) {
                    (Some(x), Some(y)) => (x <= y) == matches!(self.what, What::Least(..)),
                    _ => true,
                };
                let active = if is_first { a } else { b };
                std::iter::once(own_size).chain(active.terms(axis)).collect()
            }
            What::At { own, target, point, .. } => {
                let mut form = own.terms(view, axis, 1.0);
                form.extend(target.terms(axis, *point, -1.0));
                form
            }
            What::Fraction { own, target, factor } => {
                let mut form = own.terms(view, axis, 1.0);
                form.extend(target.terms(axis, Point::Near, -1.0));
                form.extend(target.size_terms(axis, -factor));
                form
            }
            What::Baseline { of } => vec![(near_of(view, axis), 1.0), (near_of(*of, axis), -1.0)],
            What::Ratio { width, height } => {
                vec![(size_of(view, Axis::Across), 1.0), (size_of(view, Axis::Down), -width / height)]
            }
            What::Until { target, point, by } => {
                let far = |extent: Extent| extent.far();
                let own = Target::View(view).extent(sheet, axis).map(far);
                let limit = target.extent(sheet, axis).map(|extent| point.of(extent) - by);
                if own.zip(limit).is_some_and(|(own, limit)| own < limit - 2.5) {
                    return vec![own_size];
                }
                let mut form = Point::Far.terms(view, axis, 1.0);
                form.extend(target.terms(axis, *point, -1.0));
                form
            }
            What::Even { before, first } => {
                let mut form = vec![(near_of(view, axis), 1.0)];
                form.extend(Point::Far.terms(*before, axis, -1.0));
                form.push((near_of(*before, axis), -1.0));
                form.extend(Point::Far.terms(*first, axis, 1.0));
                form
            }
        }
    }
}
