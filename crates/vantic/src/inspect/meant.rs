//! Which views lie over one another because a rule says so: a distance below zero, a middle on an edge, a box
//! around others.

use crate::inspect::anchors::{frame_at, named_number, view_at};
use crate::screen_ext::ScreenExt as _;
use std::collections::HashSet;
use vantic_core::model::{Anchor, Coordinate, Expr, Relation, Screen, Term, ValueId, ViewId, value_of};
use vantic_core::plan::Placement;
use vantic_core::tolerance::{COEFFICIENT, VISIBLE};

/// Pairs of views, the lower id first.
pub(crate) struct Meant {
    pairs: HashSet<(ViewId, ViewId)>,
    /// Those of which one has its middle on an edge of the other.
    on_edge: HashSet<(ViewId, ViewId)>,
}

impl Meant {
    /// What the rules that count in a placement say.
    pub(crate) fn of(screen: &Screen, placement: &Placement) -> Self {
        let (mut pairs, mut on_edge) = (HashSet::new(), HashSet::new());
        // Of each pair, on which axes the middle of the first is tied to something of the other.
        let mut middles: HashSet<(ViewId, ViewId, bool)> = HashSet::new();
        for &rule in &placement.rules {
            let rule = screen.rule_at(rule);
            for relation in rule.relations() {
                let Some(tie) = Tie::of(screen, placement, relation) else { continue };
                let (own, other) = (tie.own.0, tie.other.0);
                let is_placed = is_middle(tie.own.1) && {
                    middles.insert((own, other, tie.is_across));
                    middles.contains(&(own, other, !tie.is_across))
                };
                // What begins in the middle of its parent may still go beyond it.
                let is_on_edge = tie.is_on_edge() && !screen.is_within(other, own);
                if tie.is_distance() || is_on_edge || is_placed {
                    pairs.insert(pair(own, other));
                }
                on_edge.extend(is_on_edge.then(|| pair(own, other)));
            }
            pairs.extend(enclosed(rule.owner(), rule.relations()));
        }
        Self { pairs, on_edge }
    }

    /// Whether two views are a pair, or one and something that the other holds.
    pub(crate) fn has(&self, screen: &Screen, a: ViewId, b: ViewId) -> bool {
        let is_one =
            |one: ViewId, other: ViewId, (x, y): (ViewId, ViewId)| x == one && screen.is_within(y, other);
        let either = |&(x, y): &(ViewId, ViewId)| {
            is_one(a, b, (x, y)) || is_one(a, b, (y, x)) || is_one(b, a, (x, y)) || is_one(b, a, (y, x))
        };
        self.pairs.contains(&pair(a, b)) || self.pairs.iter().any(either)
    }

    pub(crate) fn is_on_edge(&self, a: ViewId, b: ViewId) -> bool {
        self.on_edge.contains(&pair(a, b))
    }
}

fn pair(a: ViewId, b: ViewId) -> (ViewId, ViewId) {
    (a.min(b), a.max(b))
}

/// A relation that ties a place of one view to a place of another, along one axis. Places are fractions of a
/// frame: 0 is the edge that comes first (from the left, or along the reading direction), 1 the other.
struct Tie {
    own: (ViewId, f64),
    other: (ViewId, f64),
    is_across: bool,
    /// How far the own place lies behind the other.
    distance: f64,
}

impl Tie {
    fn of(screen: &Screen, placement: &Placement, relation: &Relation) -> Option<Self> {
        if !relation.left.picks().is_empty() || !relation.right.picks().is_empty() {
            return None;
        }
        let difference = relation.left.clone() - relation.right.clone();
        let (positions, sizes): (Vec<Term>, Vec<Term>) =
            difference.terms().iter().partition(|t| t.coordinate.is_position());
        let [one, two] = positions.as_slice() else { return None };
        let (own, other) = if one.coefficient > 0.0 { (one, two) } else { (two, one) };
        let is_one = |t: &Term, c: f64| (t.coefficient - c).abs() <= COEFFICIENT;
        let is_across = own.coordinate.is_horizontal();
        if !is_one(own, 1.0) || !is_one(other, -1.0) || is_across != other.coordinate.is_horizontal() {
            return None;
        }
        let mut distance = -number_of(screen, placement, &difference);
        let (mut at_own, mut at_other) = (fraction(own.coordinate)?, fraction(other.coordinate)?);
        for size in &sizes {
            let is_along = size.coordinate == if is_across { Coordinate::Width } else { Coordinate::Height };
            if is_along && size.anchor == own.anchor {
                at_own += size.coefficient;
            } else if is_along && size.anchor == other.anchor {
                at_other -= size.coefficient;
            } else {
                distance -= size.coefficient * length(screen, placement, size)?;
            }
        }
        let own = (view_at(screen, placement, own.anchor)?, at_own);
        let other = (view_at(screen, placement, other.anchor)?, at_other);
        let tie = Tie { own, other, is_across, distance };
        // Of two, the one whose middle is tied is the one that is placed.
        let is_turned = is_middle(at_other) && !is_middle(at_own);
        Some(if is_turned { Tie { own: other, other: own, distance: -distance, ..tie } } else { tie })
    }

    /// Whether it puts the two over one another by a distance below zero.
    fn is_distance(&self) -> bool {
        let (own, other) = (self.own.1, self.other.1);
        is(own, 0.0) && is(other, 1.0) && self.distance < -VISIBLE
            || is(own, 1.0) && is(other, 0.0) && self.distance > VISIBLE
    }

    /// Whether it puts the middle of one on an edge of the other.
    fn is_on_edge(&self) -> bool {
        let (own, other) = (self.own.1, self.other.1);
        is_middle(own) && (is(other, 0.0) || is(other, 1.0)) && self.distance.abs() <= VISIBLE
    }
}

/// Whether a fraction is this one.
fn is(fraction: f64, this: f64) -> bool {
    (fraction - this).abs() <= COEFFICIENT
}

fn is_middle(fraction: f64) -> bool {
    is(fraction, 0.5)
}

fn fraction(edge: Coordinate) -> Option<f64> {
    match edge {
        Coordinate::Left | Coordinate::Top | Coordinate::Start => Some(0.0),
        Coordinate::CenterX | Coordinate::CenterY => Some(0.5),
        Coordinate::Right | Coordinate::Bottom | Coordinate::End => Some(1.0),
        _ => None,
    }
}

/// A width or height; `None` for what is none.
fn length(screen: &Screen, placement: &Placement, term: &Term) -> Option<f64> {
    let frame = frame_at(screen, placement, term.anchor)?;
    matches!(term.coordinate, Coordinate::Width | Coordinate::Height)
        .then(|| value_of(&frame, term.coordinate))
}

/// The number in an expression without coordinates.
fn number_of(screen: &Screen, placement: &Placement, expr: &Expr) -> f64 {
    let named = |&(c, value): &(f64, ValueId)| c * named_number(screen, placement, value);
    expr.constant() + expr.values().iter().map(named).sum::<f64>()
}

/// The views that one encloses: all its edges are those of others, outermost.
fn enclosed(owner: Option<ViewId>, relations: &[Relation]) -> Vec<(ViewId, ViewId)> {
    let Some(owner) = owner.filter(|_| relations.len() == 4) else { return Vec::new() };
    let own = |r: &Relation| match r.left.terms() {
        [only] if only.anchor == Anchor::View(owner) && only.coordinate.is_position() => {
            Some(only.coordinate)
        }
        _ => None,
    };
    let others = |r: &Relation| -> Vec<ViewId> {
        let edge = own(r);
        let terms =
            r.right.terms().iter().chain(r.right.picks().iter().flat_map(|p| &p.of).flat_map(Expr::terms));
        let of = |t: &Term| match t.anchor {
            Anchor::View(view) if Some(t.coordinate) == edge => Some(view),
            _ => None,
        };
        terms.filter_map(of).collect()
    };
    let all: Vec<Vec<ViewId>> = relations.iter().map(others).collect();
    let is_around = |view: &&ViewId| all.iter().all(|of| of.contains(view)) && **view != owner;
    all[0].iter().filter(is_around).map(|&view| pair(owner, view)).collect()
}
