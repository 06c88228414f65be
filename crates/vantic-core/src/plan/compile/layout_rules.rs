//! The rules that arrangements come down to, as they are gathered.

use crate::geometry::axis::Axis;
use crate::model::arrangement::{Align, Arrangement};
use crate::model::coordinate::Coordinate;
use crate::model::edges::Edges;
use crate::model::expression::{Coordinates, Expr, MinMaxKind, pick};
use crate::model::id::ViewId;
use crate::model::rule::{Comparison, Relation, equal};
use crate::model::screen::Screen;
use crate::plan::arrangement_choices::ChoiceInputs;
use crate::plan::compile::given_sizes::GivenSizes;
use crate::plan::variant::Variant;

/// Longer than any view that is to hold what fits into it.
const BEYOND_ALL: f64 = 100_000.0;

/// How strongly a relation of an arrangement is meant.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum LayoutStrength {
    Required,
    /// The view is not smaller than what its children take: its `whole`.
    Whole,
    /// The view is no larger: its `snug`.
    Snug,
    /// The view is as large as nothing but views around children keeps it from being, so that children can be
    /// counted in it.
    Grown,
}

/// A relation by which a view places a child.
#[derive(Clone, Debug)]
pub(crate) struct LayoutRule {
    pub(crate) view: ViewId,
    pub(crate) child: ViewId,
    pub(crate) relation: Relation,
    pub(crate) on: LayoutStrength,
    /// For a view that is to be as small as its children let it be: along which axis.
    pub(crate) hugs: Option<Axis>,
}

/// The shares of a line, where some may need more than their part of the space.
#[derive(Clone, Debug)]
pub(crate) struct ShareLine {
    pub(crate) view: ViewId,
    /// Whether the space comes from outside, rather than from the children.
    pub(crate) is_given: bool,
    /// Whether some may not take more than a stated length, so that all may not fill the space.
    pub(crate) has_most: bool,
    /// A child by each, its length, and its weight.
    pub(crate) shares: Vec<(ViewId, Expr, f64)>,
    /// Lengths that are in proportion exactly.
    pub(crate) spaces: Vec<(ViewId, Expr, f64)>,
    /// What is left at the end, where it may be that all together do not fill the space.
    pub(crate) fill: Option<(ViewId, Expr)>,
    pub(crate) axis: Axis,
    /// The group at whose end it is settled; see [`Arrangements::groups`].
    pub(crate) group: u32,
}

/// What the arrangements of a screen come down to.
#[derive(Debug)]
pub(crate) struct Arrangements {
    pub(crate) relations: Vec<LayoutRule>,
    pub(crate) share_lines: Vec<ShareLine>,
    /// Per axis: whether a view is as large as it can be.
    pub(crate) is_growing: [bool; 2],
    pub(crate) given: GivenSizes,
    /// Per view and axis: in which group it is settled how large what is in it wants to be. Shares of a
    /// given space are settled before what is in them, and shares of a space that comes from content after
    /// it; of two that are nested, the outer are settled first.
    pub(crate) groups: Vec<[u32; 2]>,
    /// Per view: whether its width, and whether its height, comes from the available space.
    pub(crate) filled: Vec<[bool; 2]>,
    /// Per view: how deep arrangements nest in it, itself counted; 0 for one that arranges nothing.
    pub(crate) depths: Vec<u32>,
    /// What has to be known of a placement to choose again.
    pub(crate) probes: Vec<ChoiceInputs<Expr>>,
    /// The grids, with how many columns and rows each has.
    pub(crate) grids: Vec<GridCells<Expr>>,
}

/// The padding of an arrangement at one of its edges.
pub(crate) fn padding(arrangement: &Arrangement, edge: Coordinate) -> Expr {
    let side = match edge {
        Coordinate::Start => 0,
        Coordinate::Top => 1,
        Coordinate::End => 2,
        _ => 3,
    };
    arrangement.padding[side].clone()
}

/// The box that a view arranges its children in: itself, or what it scrolls.
pub(crate) fn inner(screen: &Screen, view: ViewId) -> ViewId {
    screen.at(view).content_box.unwrap_or(view)
}

/// The greatest of some expressions; nothing where there are none.
pub(crate) fn max_of(of: Vec<Expr>) -> Expr {
    match of.as_slice() {
        [] => Expr::default(),
        [one] => one.clone(),
        _ => pick(MinMaxKind::Max, of),
    }
}

/// The relations by which a view places its children, as they are made.
pub(crate) struct RuleSink<'a> {
    pub(crate) view: ViewId,
    /// The box that the view arranges them in.
    pub(crate) inner: ViewId,
    /// Whether that box is larger than the view, per axis, and scrolled.
    scrolls: [bool; 2],
    pub(crate) all: &'a mut Arrangements,
}

fn axis_of(size: Coordinate) -> Axis {
    if size == Coordinate::Height { Axis::Down } else { Axis::Across }
}

impl<'a> RuleSink<'a> {
    pub(crate) fn new(screen: &Screen, variant: &Variant, view: ViewId, all: &'a mut Arrangements) -> Self {
        let scroll = variant.view(screen, view).scroll;
        let scrolls = [Axis::Across, Axis::Down].map(|axis| scroll.is_some_and(|s| s.goes(axis)));
        Self { view, inner: inner(screen, view), scrolls, all }
    }

    fn add(&mut self, child: ViewId, on: LayoutStrength, relation: Relation) {
        self.all.relations.push(LayoutRule { view: self.view, child, relation, on, hugs: None });
    }

    /// Whether the size of the box that the children are in does not come from them.
    pub(crate) fn is_given(&self, size: Coordinate) -> bool {
        self.all.given.has(self.box_of(size), axis_of(size))
    }

    /// Whose size it is that the children are in.
    fn box_of(&self, size: Coordinate) -> ViewId {
        if self.scrolls[axis_of(size) as usize] { self.inner } else { self.view }
    }

    pub(crate) fn require(&mut self, child: ViewId, left: Expr, right: Expr) {
        self.add(child, LayoutStrength::Required, equal(left, right));
    }

    /// One expression is not greater than another.
    pub(crate) fn within(&mut self, child: ViewId, on: LayoutStrength, small: Expr, large: Expr) {
        self.add(child, on, Relation::new(small, Comparison::AtMost, large));
    }

    /// The view is as small as its children let it be.
    pub(crate) fn hug(&mut self, child: ViewId, size: Coordinate) {
        self.within(child, LayoutStrength::Snug, Expr::of(self.inner.into(), size), Expr::default());
        let axis = axis_of(size);
        if let Some(rule) = self.all.relations.last_mut().filter(|_| !self.scrolls[axis as usize]) {
            rule.hugs = Some(axis);
        }
    }

    /// The view is as large as it can be, to find out how many of its children fit into it, and not smaller
    /// than what is always shown. Of several whose size is not given, the first goes first.
    pub(crate) fn grow(&mut self, child: ViewId, size: Coordinate, always: Option<Expr>) {
        let own = Expr::of(self.inner.into(), size);
        let axis = axis_of(size) as usize;
        match (self.is_given(size), self.all.is_growing[axis]) {
            (true, _) => {}
            (false, true) => self.hug(child, size),
            (false, false) => {
                self.all.is_growing[axis] = true;
                self.within(child, LayoutStrength::Grown, Expr::from(BEYOND_ALL), own.clone());
            }
        }
        if let Some(always) = always {
            self.within(child, LayoutStrength::Whole, always, own);
        }
    }

    /// The size of a child comes from the space there is, which itself may be given.
    pub(crate) fn fills(&mut self, child: ViewId, size: Coordinate, is_given: bool) {
        let axis = axis_of(size);
        self.all.filled[child.index()][axis as usize] = true;
        if is_given {
            self.all.given.set(child, axis);
        }
    }

    /// A child lies between two edges of an axis, which are given or follow from children.
    pub(crate) fn lie(
        &mut self,
        child: ViewId,
        edges: Edges,
        align: Align,
        (first, second): (&Expr, &Expr),
        is_given: bool,
    ) {
        let at = |coordinate| Expr::of(child.into(), coordinate);
        match align {
            Align::Start | Align::Baseline => self.require(child, at(edges.near), first.clone()),
            Align::End => self.require(child, at(edges.far), second.clone()),
            Align::Center => {
                self.require(child, at(edges.near) + at(edges.far), first.clone() + second.clone());
            }
            Align::Stretch => {
                self.fills(child, edges.size, is_given);
                self.require(child, at(edges.near), first.clone());
                self.require(child, at(edges.far), second.clone());
            }
        }
    }

    /// Children beside one another that together are as large as the largest of them: where they end.
    pub(crate) fn track(&mut self, members: &[(ViewId, Align)], edges: Edges, first: &Expr) -> Expr {
        let Edges { near, far, size } = edges;
        let at = |child: ViewId, coordinate| Expr::of(child.into(), coordinate);
        let stretched = members.iter().find(|m| m.1 == Align::Stretch).map(|m| m.0);
        let second = match stretched {
            // What is stretched is as large as the largest, and no larger.
            Some(child) => {
                self.fills(child, size, false);
                self.require(child, at(child, near), first.clone());
                self.within(child, LayoutStrength::Snug, at(child, size), Expr::default());
                at(child, far)
            }
            None => first.clone() + max_of(members.iter().map(|m| at(m.0, size)).collect()),
        };
        for &(child, align) in members.iter().filter(|m| Some(m.0) != stretched && m.1 != Align::Baseline) {
            self.lie(child, edges, align, (first, &second), false);
        }
        if let Some(stretched) = stretched {
            for &(child, _) in members.iter().filter(|m| m.1 != Align::Stretch) {
                self.within(stretched, LayoutStrength::Required, at(child, size), at(stretched, size));
            }
        }
        let on_baseline: Vec<ViewId> =
            members.iter().filter(|m| m.1 == Align::Baseline).map(|m| m.0).collect();
        self.on_baseline(&on_baseline, first);
        match stretched {
            Some(child) => at(child, far),
            None => max_of(members.iter().map(|m| at(m.0, far)).collect()),
        }
    }

    /// Children with one baseline, the highest at the top.
    pub(super) fn on_baseline(&mut self, children: &[ViewId], top: &Expr) {
        let Some((&first, others)) = children.split_first() else { return };
        let highest = match others {
            [] => first.top(),
            _ => pick(MinMaxKind::Min, children.iter().map(|child| child.top()).collect()),
        };
        self.require(first, highest, top.clone());
        for &child in others {
            self.require(child, child.baseline(), first.baseline());
        }
    }
}

/// What a grid came to be, its widths as expressions or as numbers.
#[derive(Clone, Debug)]
pub(crate) struct GridCells<T> {
    pub(crate) view: ViewId,
    pub(crate) columns: u32,
    pub(crate) rows: u32,
    pub(crate) width: Option<T>,
    pub(crate) least: Option<T>,
    pub(crate) too_wide: Vec<ViewId>,
}

impl<T> GridCells<T> {
    pub(crate) fn map<U>(&self, to: impl Fn(&T) -> U) -> GridCells<U> {
        let Self { view, columns, rows, width, least, too_wide } = self;
        let (width, least) = (width.as_ref().map(&to), least.as_ref().map(&to));
        GridCells { view: *view, columns: *columns, rows: *rows, width, least, too_wide: too_wide.clone() }
    }
}
