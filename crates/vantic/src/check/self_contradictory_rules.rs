//! Rules that are hardly meant as they are: a coordinate tied to itself, a wish that bounds of its own rule
//! out, a place between outer edges of two views.

use crate::finding::Finding;
use crate::finding::detail::{DoubtDetail, Oddity};
use crate::screen_ext::ScreenExt as _;
use std::collections::BTreeMap;
use vantic_core::model::{
    Anchor, Code, Comparison, Coordinate, Expr, Relation, RuleRef, Screen, Strength, Term,
};
use vantic_core::tolerance::COEFFICIENT;

pub(crate) fn own(screen: &Screen, findings: &mut Vec<Finding>) {
    // By what is said of it: several views may have the same rule.
    let mut groups: BTreeMap<(String, String), (Oddity, Vec<RuleRef>)> = BTreeMap::new();
    for (id, rule) in screen.rules() {
        // One of a rule is enough.
        let relations = rule.relations();
        let found = (0..relations.len()).find_map(|at| Some((oddity(screen, relations, at)?, at)));
        if let Some((oddity, relation)) = found {
            let of = RuleRef::Written { rule: id, relation };
            groups.entry(oddity.words(screen, of)).or_insert((oddity, Vec::new())).1.push(of);
        }
    }
    for (oddity, rules) in groups.into_values() {
        let finding = Finding::note(Code::Odd, DoubtDetail::Oddity(oddity));
        let owners = rules.iter().filter_map(|rule| rule.owner(screen)).collect::<Vec<_>>();
        findings.push(finding.about(owners).with_rules(rules));
    }
}

/// What is hardly meant about a relation of a rule.
fn oddity(screen: &Screen, relations: &[Relation], at: usize) -> Option<Oddity> {
    if reads_itself(&relations[at]) {
        return Some(Oddity::TiedToItself);
    }
    if ties_across_to_down(&relations[at]) {
        return Some(Oddity::AcrossToDown);
    }
    if ties_size_to_position(&relations[at]) {
        return Some(Oddity::SizeToPosition);
    }
    if let Some((near, far)) = outer_edges(screen, &relations[at]) {
        return Some(Oddity::OuterEdges(near, far));
    }
    Some(Oddity::BeyondOwnLimit { limit: never_met(relations, at)? })
}

/// Whether the one coordinate on the left is on the right too.
pub(crate) fn reads_itself(relation: &Relation) -> bool {
    let [own] = relation.left.terms() else { return false };
    let mut reads = false;
    relation.right.each(&mut |e| {
        reads |= e.terms().iter().any(|t| (t.anchor, t.coordinate) == (own.anchor, own.coordinate));
    });
    reads && is_single(&relation.left)
}

/// Whether positions along both axes are in it, none of them as a distance to another one.
fn ties_across_to_down(relation: &Relation) -> bool {
    let along = |across: bool| {
        let moved = |e: &Expr| -> f64 {
            let positions = e.terms().iter().filter(|t| t.coordinate.is_position());
            positions.filter(|t| t.coordinate.is_horizontal() == across).map(|t| t.coefficient).sum()
        };
        moved(&relation.left) - moved(&relation.right)
    };
    let is_plain = relation.left.picks().is_empty() && relation.right.picks().is_empty();
    is_plain && along(true).abs() > COEFFICIENT && along(false).abs() > COEFFICIENT
}

/// Whether it is one size on one side and one position on the other.
fn ties_size_to_position(relation: &Relation) -> bool {
    let is_size = |t: &Term| matches!(t.coordinate, Coordinate::Width | Coordinate::Height);
    let one = |a: &Expr, b: &Expr| match (a.terms(), b.terms()) {
        ([size], [position]) => {
            is_size(size) && position.coordinate.is_position() && is_single(a) && is_single(b)
        }
        _ => false,
    };
    one(&relation.left, &relation.right) || one(&relation.right, &relation.left)
}

/// A near edge of one view and a far edge of another, between which a view is placed.
fn outer_edges(screen: &Screen, relation: &Relation) -> Option<(Term, Term)> {
    let [near, far] = relation.right.terms() else { return None };
    let edges = |near, far| {
        matches!(near, Coordinate::Left | Coordinate::Start | Coordinate::Top)
            && matches!(far, Coordinate::Right | Coordinate::End | Coordinate::Bottom)
    };
    let shares = [near.coefficient, far.coefficient];
    let is_middle = shares.iter().all(|c| *c > 0.0) && (shares[0] + shares[1] - 1.0).abs() < COEFFICIENT;
    let view = |place| match place {
        Anchor::View(view) => Some(view),
        Anchor::Prev(view) => screen.around(view).0.last().copied(),
        Anchor::Next(view) => screen.around(view).1.first().copied(),
        _ => None,
    };
    let differ = view(near.anchor).zip(view(far.anchor)).is_some_and(|(a, b)| a != b);
    (is_middle && differ && edges(near.coordinate, far.coordinate)).then_some((*near, *far))
}

fn is_single(expr: &Expr) -> bool {
    expr.constant() == 0.0 && expr.values().is_empty() && expr.picks().is_empty()
}

/// The required rule beside a preference for a number that rules it out.
fn never_met(relations: &[Relation], at: usize) -> Option<usize> {
    let wish = &relations[at];
    let is_wish = wish.comparison == Comparison::Equal && wish.strength() != Strength::Required;
    if !is_wish || !wish.right.is_number() || !is_single(&wish.left) {
        return None;
    }
    let wished = wish.right.constant();
    relations.iter().position(|bound| {
        let beyond = match bound.comparison {
            Comparison::AtLeast => wished < bound.right.constant(),
            Comparison::AtMost => wished > bound.right.constant(),
            Comparison::Equal => false,
        };
        beyond && bound.left == wish.left && bound.right.is_number() && bound.strength() == Strength::Required
    })
}
