//! Which widths and heights are given to a view, rather than taken from what is in it.

use crate::geometry::axis::Axis;
use crate::model::coordinate::{Anchor, Coordinate};
use crate::model::expression::Expr;
use crate::model::id::ViewId;
use crate::model::rule::{Comparison, Relation};
use crate::model::screen::Screen;
use crate::plan::variant::Variant;
use std::collections::BTreeSet;

/// Per view: whether its width, and whether its height, is given.
#[derive(Clone, Debug)]
pub(crate) struct GivenSizes {
    given: Vec<[bool; 2]>,
    /// Whether that is so by rules for two edges.
    between_edges: Vec<[bool; 2]>,
}

impl GivenSizes {
    /// The sizes that rules give, required or preferred: an equality for the size, or two for edges, none of
    /// which reads what is in the view.
    pub(crate) fn by_rules(screen: &Screen, variant: &Variant) -> Self {
        let none = vec![[false; 2]; screen.views.len()];
        let mut given = Self { given: none.clone(), between_edges: none };
        // Per view and axis: the direction of the first equality.
        let mut first: Vec<[Option<[f64; 2]>; 2]> = vec![[None; 2]; screen.views.len()];
        for rule in variant.rules.iter().map(|&id| screen.rule_at(id)) {
            for relation in rule.relations.iter().filter(|r| r.comparison == Comparison::Equal) {
                let difference = relation.left.clone() - relation.right.clone();
                let of = of_left_side(relation).into_iter().chain(rule.owner).collect::<BTreeSet<_>>();
                for view in of.into_iter().filter(|&v| !reads_inside(screen, variant, relation, v)) {
                    for axis in [Axis::Across, Axis::Down] {
                        let known = &mut first[view.index()][axis as usize];
                        given.state(view, axis, direction(&difference, view, axis), known);
                    }
                }
            }
        }
        given
    }

    /// Takes in an equality that moves so with the near edge of a view, and with its size.
    fn state(&mut self, view: ViewId, axis: Axis, [near, size]: [f64; 2], first: &mut Option<[f64; 2]>) {
        match *first {
            _ if near == 0.0 && size == 0.0 => {}
            _ if near == 0.0 => self.set(view, axis),
            None => *first = Some([near, size]),
            Some([a, b]) if a * size != b * near => {
                self.set(view, axis);
                self.between_edges[view.index()][axis as usize] = true;
            }
            Some(_) => {}
        }
    }

    pub(crate) fn has(&self, view: ViewId, axis: Axis) -> bool {
        self.given[view.index()][axis as usize]
    }

    pub(crate) fn is_between_edges(&self, view: ViewId, axis: Axis) -> bool {
        self.between_edges[view.index()][axis as usize]
    }

    pub(crate) fn set(&mut self, view: ViewId, axis: Axis) {
        self.given[view.index()][axis as usize] = true;
    }
}

fn of_left_side(relation: &Relation) -> impl IntoIterator<Item = ViewId> {
    relation.left.terms.iter().filter_map(|term| match term.anchor {
        Anchor::View(view) => Some(view),
        _ => None,
    })
}

/// Whether a relation reads a view that stands in another.
fn reads_inside(screen: &Screen, variant: &Variant, relation: &Relation, view: ViewId) -> bool {
    let reads = relation.terms().into_iter().filter_map(|term| variant.view_at(screen, term.anchor));
    reads.into_iter().any(|read| read != view && screen.is_within(read, view))
}

/// How an expression moves with the near edge of a view, and with its size, along an axis.
fn direction(expr: &Expr, view: ViewId, axis: Axis) -> [f64; 2] {
    let mut sum = [0.0; 2];
    for term in expr.terms.iter().filter(|t| t.anchor == Anchor::View(view)) {
        let c = term.coefficient;
        let (near, size) = match term.coordinate {
            Coordinate::Left | Coordinate::Start | Coordinate::Top => (c, 0.0),
            Coordinate::Right | Coordinate::End | Coordinate::Bottom => (c, c),
            Coordinate::CenterX | Coordinate::CenterY => (c, c / 2.0),
            Coordinate::Width | Coordinate::Height => (0.0, c),
            _ => continue,
        };
        if term.coordinate.is_horizontal() == (axis == Axis::Across) {
            sum[0] += near;
            sum[1] += size;
        }
    }
    sum
}
