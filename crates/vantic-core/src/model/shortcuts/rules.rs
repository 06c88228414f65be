//! Rules that are more than a relation, for Rust and for screen files alike: gaps, centring, fitting,
//! fractions and proportions. Each comes down to linear relations, or to the greatest and least of some.

use crate::geometry::axis::Axis;
use crate::model::arrangement::Spread;
use crate::model::coordinate::{Anchor, Coordinate};
use crate::model::edges::{ACROSS, DOWN, Edges, LEFT_TO_RIGHT};
use crate::model::expression::{Coordinates, Expr, MinMaxKind, pick};
use crate::model::id::{ViewId, WEAKEST};
use crate::model::rule::{Relation, RuleDraft, equal};

/// A length of a drawn view along an axis, which may grow with the box.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Length {
    /// From the box's first edge to the view.
    Before,
    /// The view's own size.
    Size,
    /// From the view to the box's second edge.
    Behind,
}

/// A point of the view at a fraction of its size, at the same fraction between two edges.
fn leaning(view: ViewId, edges: Edges, from: Expr, to: Expr, lean: f64) -> Relation {
    let own = Expr::of(view.into(), edges.near) + Expr::of(view.into(), edges.size) * lean;
    equal(own, from * (1.0 - lean) + to * lean)
}

/// The same distance between each view and the next along an axis, in the given order.
///
/// ```
/// use vantic_core::model::spread;
/// use vantic_core::prelude::*;
///
/// let mut build = ScreenBuilder::new("workshop");
/// let tools = ["saw", "file", "plane"].map(|name| build.view(name));
/// for tool in tools {
///     build.rule(tool, tool.pin([(Side::Top, 0.0), (Side::Bottom, 0.0)], SCREEN));
///     build.rule(tool, tool.width().equals(40.0));
/// }
/// build.rule(tools[0], tools[0].left().equals(SCREEN.left()));
/// build.rule(tools[2], tools[2].right().equals(SCREEN.right()));
/// // The same distance between each and the next.
/// build.rule(tools[1], spread(Axis::Across, tools));
/// let plan = Plan::new(build.finish()?)?;
/// let placement = plan.place(&Display::new(320.0, 80.0)?, &PlainText)?;
/// assert_eq!(placement.frame(tools[1]).map(|f| f.left), Some(140.0));
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
pub fn spread(axis: Axis, views: impl IntoIterator<Item = ViewId>) -> RuleDraft {
    spread_out(axis, &places(views), None)
}

fn places(views: impl IntoIterator<Item = ViewId>) -> Vec<Anchor> {
    views.into_iter().map(Anchor::View).collect()
}

/// The same distances along an axis among views within a box: with `Between` the outer ones at its edges,
/// with `Around` half a distance to them, else (`Evenly`) a whole one.
pub fn spread_in(
    axis: Axis,
    views: impl IntoIterator<Item = ViewId>,
    within: impl Into<Anchor>,
    spread: Spread,
) -> RuleDraft {
    spread_out(axis, &places(views), Some((within.into(), spread)))
}

/// The same distances along an axis among views, and to the edges of a box if one is given.
pub fn spread_out(axis: Axis, views: &[Anchor], within: Option<(Anchor, Spread)>) -> RuleDraft {
    let Edges { near, far, .. } = Edges::of_axis(axis);
    let at = |place: Anchor, coordinate| Expr::of(place, coordinate);
    let mut distances: Vec<Expr> =
        views.windows(2).map(|pair| at(pair[1], near) - at(pair[0], far)).collect();
    let mut relations = Vec::new();
    if let (Some((within, spread)), [first, ..], [.., last]) = (within, views, views) {
        let (before, behind) = (at(*first, near) - at(within, near), at(within, far) - at(*last, far));
        match spread {
            Spread::Between => {
                relations.push(equal(at(*first, near), at(within, near)));
                relations.extend((views.len() > 1).then(|| equal(at(*last, far), at(within, far))));
            }
            Spread::Around => {
                distances.insert(0, before * 2.0);
                distances.push(behind * 2.0);
            }
            _ => {
                distances.insert(0, before);
                distances.push(behind);
            }
        }
    }
    relations.extend(distances.windows(2).map(|pair| equal(pair[0].clone(), pair[1].clone())));
    RuleDraft::new(relations)
}

impl ViewId {
    /// The top this far below the bottom of another; below zero they overlap.
    ///
    /// ```
    /// use vantic_core::prelude::*;
    ///
    /// let mut build = ScreenBuilder::new("workshop");
    /// let (bench, shelf) = (build.view("bench"), build.view("shelf"));
    /// build.rule(bench, bench.pin([(Side::Left, 0.0), (Side::Right, 0.0), (Side::Top, 0.0)], SCREEN));
    /// build.rule(bench, bench.height().equals(56.0));
    /// build.rule(shelf, shelf.pin([(Side::Left, 0.0), (Side::Right, 0.0), (Side::Bottom, 0.0)], SCREEN));
    /// build.rule(shelf, shelf.below(bench, 8.0));
    /// let plan = Plan::new(build.finish()?)?;
    /// let placement = plan.place(&Display::new(320.0, 480.0)?, &PlainText)?;
    /// assert_eq!(placement.frame(shelf).map(|f| f.top), Some(64.0));
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn below(self, of: impl Into<Anchor>, by: impl Into<Expr>) -> RuleDraft {
        self.top().equals(Expr::of(of.into(), Coordinate::Bottom) + by.into())
    }

    /// The bottom this far above the top of another.
    pub fn above(self, of: impl Into<Anchor>, by: impl Into<Expr>) -> RuleDraft {
        self.bottom().equals(Expr::of(of.into(), Coordinate::Top) - by.into())
    }

    /// The start this far after the end of another, by reading direction.
    pub fn after(self, of: impl Into<Anchor>, by: impl Into<Expr>) -> RuleDraft {
        self.start().equals(Expr::of(of.into(), Coordinate::End) + by.into())
    }

    /// The end this far before the start of another, by reading direction.
    pub fn before(self, of: impl Into<Anchor>, by: impl Into<Expr>) -> RuleDraft {
        self.end().equals(Expr::of(of.into(), Coordinate::Start) - by.into())
    }

    /// Between two edges of one axis: at the first for a lean of 0, in the middle for 0.5, at the
    /// second for 1.
    ///
    /// ```
    /// use vantic_core::prelude::*;
    ///
    /// let mut build = ScreenBuilder::new("workshop");
    /// let vice = build.view("vice");
    /// build.rule(vice, vice.pin([(Side::Top, 0.0), (Side::Bottom, 0.0)], SCREEN));
    /// build.rule(vice, vice.width().equals(100.0));
    /// // A quarter of what is left over is before it.
    /// build.rule(vice, vice.between(SCREEN.left(), SCREEN.right(), 0.25));
    /// let plan = Plan::new(build.finish()?)?;
    /// let placement = plan.place(&Display::new(500.0, 80.0)?, &PlainText)?;
    /// assert_eq!(placement.frame(vice).map(|f| f.left), Some(100.0));
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn between(self, from: Expr, to: Expr, lean: f64) -> RuleDraft {
        let edges = Edges::of(&from).or_else(|| Edges::of(&to)).unwrap_or(LEFT_TO_RIGHT);
        RuleDraft::new(vec![leaning(self, edges, from, to, lean)])
    }

    /// The same, and as large as the space between the edges, but at most so large.
    pub fn between_at_most(self, from: Expr, to: Expr, lean: f64, most: impl Into<Expr>) -> RuleDraft {
        let edges = Edges::of(&from).or_else(|| Edges::of(&to)).unwrap_or(LEFT_TO_RIGHT);
        let size = pick(MinMaxKind::Min, vec![to.clone() - from.clone(), most.into()]);
        RuleDraft::new(vec![equal(Expr::of(self.into(), edges.size), size)]).and(self.between(from, to, lean))
    }

    /// The largest of a ratio of width to height inside a box, leaning on both axes.
    ///
    /// ```
    /// use vantic_core::prelude::*;
    ///
    /// let mut build = ScreenBuilder::new("workshop");
    /// let sketch = build.view("sketch");
    /// // As large as it fits at 3 : 2, in the middle.
    /// build.rule(sketch, sketch.contain(1.5, SCREEN, (0.5, 0.5)));
    /// let plan = Plan::new(build.finish()?)?;
    /// let placement = plan.place(&Display::new(300.0, 400.0)?, &PlainText)?;
    /// let frame = placement.frame(sketch).unwrap();
    /// assert_eq!((frame.top, frame.width, frame.height), (100.0, 300.0, 200.0));
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn contain(self, ratio: f64, within: impl Into<Anchor>, lean: (f64, f64)) -> RuleDraft {
        self.fitted(MinMaxKind::Min, ratio, within.into(), lean)
    }

    /// The smallest of a ratio of width to height that covers a box, leaning on both axes.
    pub fn cover(self, ratio: f64, of: impl Into<Anchor>, lean: (f64, f64)) -> RuleDraft {
        self.fitted(MinMaxKind::Max, ratio, of.into(), lean)
    }

    fn fitted(self, which: MinMaxKind, ratio: f64, to: Anchor, lean: (f64, f64)) -> RuleDraft {
        let width = pick(which, vec![to.width(), to.height() * ratio]);
        let leans = [(ACROSS, lean.0), (DOWN, lean.1)].map(|(edges, lean)| {
            leaning(self, edges, Expr::of(to, edges.near), Expr::of(to, edges.far), lean)
        });
        let sizes = vec![equal(self.width(), width), equal(self.height(), self.width() * (1.0 / ratio))];
        RuleDraft::new(sizes.into_iter().chain(leans).collect())
    }

    /// Around several views, each side so far outside the outermost of them: wherever they go, this goes too.
    ///
    /// ```
    /// use vantic_core::prelude::*;
    ///
    /// let mut build = ScreenBuilder::new("workshop");
    /// let (saw, file) = (build.view("saw"), build.view("file"));
    /// let tray = build.view("tray");
    /// for (view, left) in [(saw, 40.0), (file, 120.0)] {
    ///     build.rule(view, view.pin([(Side::Left, left), (Side::Top, 30.0)], SCREEN));
    ///     build.rules(view, [view.width().equals(60.0), view.height().equals(20.0)]);
    /// }
    /// build.rule(tray, tray.enclose([saw, file], 8.0));
    /// let plan = Plan::new(build.finish()?)?;
    /// let placement = plan.place(&Display::new(320.0, 480.0)?, &PlainText)?;
    /// assert_eq!(placement.frame(tray).map(|f| (f.left, f.width)), Some((32.0, 156.0)));
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn enclose(self, views: impl IntoIterator<Item = ViewId>, by: impl Into<Expr>) -> RuleDraft {
        self.around_all(&places(views), &by.into())
    }

    /// [`ViewId::enclose`] of places whose number is not known at compile time.
    pub fn around_all(self, views: &[Anchor], by: &Expr) -> RuleDraft {
        if views.is_empty() {
            return RuleDraft::new(Vec::new());
        }
        let outermost =
            |which, coordinate| pick(which, views.iter().map(|&v| Expr::of(v, coordinate)).collect());
        let sides = [ACROSS, DOWN].into_iter().flat_map(|Edges { near, far, .. }| {
            let own = |coordinate| Expr::of(self.into(), coordinate);
            [
                equal(own(near), outermost(MinMaxKind::Min, near) - by.clone()),
                equal(own(far), outermost(MinMaxKind::Max, far) + by.clone()),
            ]
        });
        RuleDraft::new(sides.collect())
    }

    /// Both edges at fractions of a box, each with its distance inwards.
    ///
    /// ```
    /// use vantic_core::prelude::*;
    ///
    /// let mut build = ScreenBuilder::new("workshop");
    /// let rack = build.view("rack");
    /// // From a quarter to three quarters of the screen's width.
    /// build.rule(rack, rack.span(Axis::Across, (0.25, 0.75), SCREEN, (0.0, 0.0)));
    /// build.rule(rack, rack.pin([(Side::Top, 0.0), (Side::Bottom, 0.0)], SCREEN));
    /// let plan = Plan::new(build.finish()?)?;
    /// let placement = plan.place(&Display::new(400.0, 100.0)?, &PlainText)?;
    /// assert_eq!(placement.frame(rack).map(|f| (f.left, f.width)), Some((100.0, 200.0)));
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn span(
        self,
        axis: Axis,
        fractions: (f64, f64),
        of: impl Into<Anchor>,
        insets: (impl Into<Expr>, impl Into<Expr>),
    ) -> RuleDraft {
        let (edges, of) = (Edges::of_axis(axis), of.into());
        let point = |fraction: f64| Expr::of(of, edges.near) + Expr::of(of, edges.size) * fraction;
        RuleDraft::new(vec![
            equal(Expr::of(self.into(), edges.near), point(fractions.0) + insets.0.into()),
            equal(Expr::of(self.into(), edges.far), point(fractions.1) - insets.1.into()),
        ])
    }

    /// What was drawn along an axis (how far from the box's first edge, and the size) in a box of a
    /// drawn size, in logical pixels. What the box has more or less is shared among the lengths that
    /// grow, in proportion to what was drawn, evenly if that is nothing. Where none grows the distance
    /// behind gives way, as a preference on the weakest level.
    pub fn drawn<const N: usize>(
        self,
        axis: Axis,
        at_and_size: (f64, f64),
        within: impl Into<Anchor>,
        whole: f64,
        grow: [Length; N],
    ) -> RuleDraft {
        self.drawn_growing(axis, at_and_size, within.into(), whole, &grow)
    }

    /// [`ViewId::drawn`] with lengths whose number is not known at compile time.
    pub fn drawn_growing(
        self,
        axis: Axis,
        (at, size): (f64, f64),
        within: Anchor,
        whole: f64,
        grow: &[Length],
    ) -> RuleDraft {
        let edges = Edges::of_axis(axis);
        let of = |length| match length {
            Length::Before => at,
            Length::Size => size,
            Length::Behind => whole - at - size,
        };
        let growing = [Length::Before, Length::Size, Length::Behind].into_iter().filter(|l| grow.contains(l));
        let (count, sum) = (growing.clone().count(), growing.map(of).sum::<f64>());
        // Each length is `kept + share * size of the box`.
        let part = |length| {
            if !grow.contains(&length) {
                return Expr::from(of(length));
            }
            let share = if sum == 0.0 { 1.0 / count as f64 } else { of(length) / sum };
            let kept = if sum == 0.0 { -share * whole } else { of(length) * (sum - whole) / sum };
            Expr::of(within, edges.size) * share + kept
        };
        let own = |coordinate| Expr::of(self.into(), coordinate);
        let mut relations = vec![
            equal(own(edges.near), Expr::of(within, edges.near) + part(Length::Before)),
            equal(own(edges.size), part(Length::Size)),
        ];
        if count == 0 {
            let behind = Expr::of(within, edges.far) - of(Length::Behind);
            relations.push(Relation { level: Some(WEAKEST), ..equal(own(edges.far), behind) });
        }
        RuleDraft::new(relations)
    }
}
