//! Texts whose heights decide no width: what they measure can be taken from anywhere to begin with, since the
//! widths that they get are the same.

use crate::model::id::ViewId;
use crate::plan::variables::Unknowns;
use petgraph::unionfind::UnionFind;
use std::collections::{BTreeSet, HashMap};
use vantic_solver::{Level, Linear, ParamId, Problem, Relation};

/// Per text: whether no width of a text can depend on how tall it is, as long as all required rules hold.
///
/// Variables that a rule or a settling step reads together may depend on one another; those that required
/// rules fix whatever the texts measure pass nothing on. The total of a level is a sum over what does not
/// depend on one another, so that each part of it is least by itself.
pub(crate) fn heights_apart(problem: &Problem, unknowns: &Unknowns, texts: &[ViewId]) -> Vec<bool> {
    let params = texts.iter().enumerate().filter_map(|(text, view)| {
        let measured = unknowns.texts[view.index()]?;
        Some((measured.height, text))
    });
    let heights: HashMap<ParamId, usize> = params.collect();
    let mut read_with: Vec<Vec<usize>> = vec![Vec::new(); texts.len()];
    let moves = |param| heights.contains_key(&param);
    let (fixed, parts) = parts(problem, &moves, &mut |expr, first| {
        for text in expr.affine().terms().iter().filter_map(|(param, _)| heights.get(param)) {
            read_with[*text].push(first);
        }
    });
    let widths = texts.iter().filter_map(|view| unknowns.boxes[view.index()]).map(|b| b.width.index());
    let widths: BTreeSet<usize> = widths.filter(|&var| !fixed[var]).map(|var| parts.find(var)).collect();
    read_with.iter().map(|vars| vars.iter().all(|&var| !widths.contains(&parts.find(var)))).collect()
}

/// Whether what some expressions come out as depends on none of some parameters, as long as all required rules hold; see
/// [`heights_apart`].
pub(crate) fn are_apart(problem: &Problem, moves: &dyn Fn(ParamId) -> bool, exprs: &[Linear]) -> bool {
    if exprs.is_empty() {
        return true;
    }
    let reads = |expr: &Linear| expr.affine().terms().iter().any(|(param, _)| moves(*param));
    let mut moved = Vec::new();
    let (fixed, parts) = parts(problem, moves, &mut |expr, first| moved.extend(reads(expr).then_some(first)));
    let moved: BTreeSet<usize> = moved.into_iter().map(|var| parts.find(var)).collect();
    exprs.iter().all(|expr| {
        let mut vars = expr.terms().iter().map(|(var, _)| var.index()).filter(|&var| !fixed[var]);
        !reads(expr) && vars.all(|var| !moved.contains(&parts.find(var)))
    })
}

/// The variables that required rules fix without some parameters, and which of the others may depend on one another; `visit` is
/// called for each rule and settling step that reads some of those, with the first of them.
fn parts(
    problem: &Problem,
    moves: &dyn Fn(ParamId) -> bool,
    visit: &mut dyn FnMut(&Linear, usize),
) -> (Vec<bool>, UnionFind<usize>) {
    let fixed = fixed(problem, moves);
    let mut parts = UnionFind::<usize>::new(problem.variable_count());
    for expr in problem.rules().map(|(expr, ..)| expr).chain(problem.settling()) {
        let mut open = expr.terms().iter().map(|(var, _)| var.index()).filter(|&var| !fixed[var]);
        let Some(first) = open.next() else { continue };
        for other in open {
            parts.union(first, other);
        }
        visit(expr, first);
    }
    (fixed, parts)
}

/// The variables that required rules fix one after the other, without some parameters.
fn fixed(problem: &Problem, moves: &dyn Fn(ParamId) -> bool) -> Vec<bool> {
    let reads_height = |expr: &Linear| expr.affine().terms().iter().any(|(param, _)| moves(*param));
    let is_required = |relation, level| relation == Relation::Equal && level == Level::REQUIRED;
    let required = problem
        .rules()
        .filter(|(expr, relation, level, _)| is_required(*relation, *level) && !reads_height(expr));
    let required: Vec<&Linear> = required.map(|(expr, ..)| expr).collect();
    let mut readers = vec![Vec::new(); problem.variable_count()];
    for (index, rule) in required.iter().enumerate() {
        rule.terms().iter().for_each(|(var, _)| readers[var.index()].push(index));
    }
    let mut fixed = vec![false; problem.variable_count()];
    let mut left: Vec<usize> = required.iter().map(|rule| rule.terms().len()).collect();
    let mut ready: Vec<usize> = (0..required.len()).filter(|&rule| left[rule] == 1).collect();
    while let Some(rule) = ready.pop() {
        let open = required[rule].terms().iter().map(|(var, _)| var.index()).find(|&var| !fixed[var]);
        let Some(var) = open else { continue };
        fixed[var] = true;
        for &reader in &readers[var] {
            left[reader] -= 1;
            if left[reader] == 1 {
                ready.push(reader);
            }
        }
    }
    fixed
}
