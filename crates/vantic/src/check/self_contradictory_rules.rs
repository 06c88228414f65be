//! Rules that are hardly meant as they are: a coordinate tied to itself, a wish that bounds of its own rule
//! out, a place between outer edges of two views.

use crate::finding::{Finding, Severity};
use crate::screen_ext::ScreenExt as _;
use std::collections::BTreeMap;
use vantic_core::model::{
    Anchor, Code, Comparison, Coordinate, Expr, Relation, Rule, RuleId, RuleRef, Screen, Strength, Term,
};
use vantic_core::words::{number, once};

pub(crate) fn own(screen: &Screen, findings: &mut Vec<Finding>) {
    // The message, what to do next, and the rules that it is about.
    let mut groups: BTreeMap<(String, &str), Vec<(RuleId, usize)>> = BTreeMap::new();
    for (id, rule) in screen.rules() {
        // One of a rule is enough.
        let said = (0..rule.relations().len()).find_map(|at| Some((said_of(screen, rule, at)?, (id, at))));
        if let Some((said, of)) = said {
            groups.entry(said).or_default().push(of);
        }
    }
    for ((message, help), rules) in groups {
        let mut finding = Finding::new(Code::Odd, Severity::Note);
        let others = match rules.len() - 1 {
            0 => String::new(),
            1 => " (one other view has the same rule)".to_owned(),
            many => format!(" ({many} other views have the same rule)"),
        };
        finding.message = format!("`{}` {message}{others}", screen.rule_name(rules[0].0));
        finding.help = help.into();
        finding.views =
            rules.iter().filter_map(|(rule, _)| Some(screen.path(screen.rule_at(*rule).owner()?))).collect();
        finding.rules = once(rules.iter().map(|(rule, _)| screen.rule_name(*rule)));
        finding.rule_refs =
            rules.into_iter().map(|(rule, relation)| RuleRef::Written { rule, relation }).collect();
        findings.push(finding);
    }
}

/// What is hardly meant about a relation of a rule, and what to do next.
fn said_of(screen: &Screen, rule: &Rule, at: usize) -> Option<(String, &'static str)> {
    let (relation, owner) = (&rule.relations()[at], rule.owner());
    let text = |relation: &Relation| screen.relation_text(relation, owner);
    if reads_itself(relation) {
        let left = screen.expr_text(&relation.left, owner);
        let message = format!("ties `{left}` to itself: `{}`", text(relation));
        return Some((message, "name the intended view, or remove the rule"));
    }
    if let Some((near, far)) = outer_edges(screen, relation) {
        let edge = |term: Term| screen.noun(&Term { coefficient: 1.0, ..term });
        let message = format!("uses the outer edges of two views, {} and {}", edge(near), edge(far));
        return Some((message, "use both edges of one view, or the edges that face each other"));
    }
    let bound = text(never_met(rule.relations(), at)?);
    let wish = number(relation.right.constant());
    let message = format!("has the preferred value {wish} outside its own limit `{bound}`");
    Some((message, "change the preferred value, or the limit"))
}

/// Whether the one coordinate on the left is on the right too.
pub(crate) fn reads_itself(relation: &Relation) -> bool {
    let [own] = relation.left.terms() else { return false };
    let mut reads = false;
    relation.right.each(&mut |e| {
        reads |= e.terms().iter().any(|t| (t.place, t.coordinate) == (own.place, own.coordinate));
    });
    reads && is_single(&relation.left)
}

/// A near edge of one view and a far edge of another, between which a view is placed.
fn outer_edges(screen: &Screen, relation: &Relation) -> Option<(Term, Term)> {
    let [near, far] = relation.right.terms() else { return None };
    let edges = |near, far| {
        matches!(near, Coordinate::Left | Coordinate::Start | Coordinate::Top)
            && matches!(far, Coordinate::Right | Coordinate::End | Coordinate::Bottom)
    };
    let shares = [near.coefficient, far.coefficient];
    let is_middle = shares.iter().all(|c| *c > 0.0) && (shares[0] + shares[1] - 1.0).abs() < 1e-9;
    let view = |place| match place {
        Anchor::View(view) => Some(view),
        Anchor::Prev(view) => screen.around(view).0.last().copied(),
        Anchor::Next(view) => screen.around(view).1.first().copied(),
        _ => None,
    };
    let differ = view(near.place).zip(view(far.place)).is_some_and(|(a, b)| a != b);
    (is_middle && differ && edges(near.coordinate, far.coordinate)).then_some((*near, *far))
}

fn is_single(expr: &Expr) -> bool {
    expr.constant() == 0.0 && expr.values().is_empty() && expr.picks().is_empty()
}

fn is_number(expr: &Expr) -> bool {
    expr.terms().is_empty() && expr.values().is_empty() && expr.picks().is_empty()
}

/// The required rule beside a preference for a number that rules it out.
fn never_met(relations: &[Relation], at: usize) -> Option<&Relation> {
    let wish = &relations[at];
    let is_wish = wish.comparison == Comparison::Equal && wish.strength() != Strength::Must;
    if !is_wish || !is_number(&wish.right) || !is_single(&wish.left) {
        return None;
    }
    let wished = wish.right.constant();
    relations.iter().find(|bound| {
        let beyond = match bound.comparison {
            Comparison::AtLeast => wished < bound.right.constant(),
            Comparison::AtMost => wished > bound.right.constant(),
            Comparison::Equal => false,
        };
        beyond && bound.left == wish.left && is_number(&bound.right) && bound.strength() == Strength::Must
    })
}
