//! Rules for one view from where it was drawn.

use crate::drawing::Drawing;
use crate::infer::rules::basis::Basis;
use crate::infer::rules::candidates::Candidates;
use crate::infer::rules::lines::Writer;
use crate::infer::rules::relation::{Relation, near_of, size_of};
use crate::infer::rules::table::Table;
use vantic_core::geometry::Axis;
use vantic_core::text::Measure;

/// How many relations are paired, the likeliest first.
const MAX_PAIRED: usize = 8;

/// How far off what was drawn may be, in logical pixels; and what was placed.
pub(crate) const DRAWN: f64 = 0.5;
pub(crate) const PLACED: f64 = 0.004;

/// Lines for the block of a view that give its place or its size along an axis, or both, in all drawings,
/// each with what it costs to say that, the likeliest first. `open` says which of place and size are asked for, `may_read` which
/// other views the lines may read, by their paths; the drawings may be off by `slack`.
pub(crate) fn suggested(
    drawings: &[Drawing],
    path: &str,
    axis: Axis,
    open: (bool, bool),
    (measure, slack): (&dyn Measure, f64),
    may_read: &dyn Fn(&str) -> bool,
) -> Vec<(Vec<String>, f64)> {
    let Ok(table) = Table::new(drawings, measure) else { return Vec::new() };
    let Some(view) = table.views.iter().position(|view| view.path == path) else { return Vec::new() };
    let writer = Writer { table: &table };
    let mut found = Candidates::new(&table, slack).of(view, axis);
    let own = [near_of(view, axis), size_of(view, axis)];
    // What the relations say of the view, once everything else is where it is.
    let form = |relation: &Relation| -> Vec<(usize, f64)> {
        let mut form = relation.form(&table.sheets[0]);
        form.retain(|(var, _)| own.contains(var));
        form
    };
    found.retain(|relation| {
        relation.view == view
            && writer.line(relation).is_some()
            && relation.reads().into_iter().all(|of| may_read(&table.views[of].path))
    });
    let line = |relation: &Relation| writer.line(relation).unwrap_or_default();
    let fits = |relation: &&Relation| {
        let form = form(relation);
        let says = |var: usize| form.iter().any(|(of, c)| *of == var && c.abs() > 1e-9);
        match open {
            (true, true) => true,
            (true, false) => says(own[0]),
            (false, _) => says(own[1]),
        }
    };
    if open != (true, true) {
        return found.iter().filter(fits).map(|relation| (vec![line(relation)], relation.cost)).collect();
    }
    found.truncate(MAX_PAIRED);
    // One may do, with what is written already.
    let mut pairs: Vec<(Vec<String>, f64)> =
        found.iter().map(|relation| (vec![line(relation)], relation.cost)).collect();
    for (at, first) in found.iter().enumerate() {
        for second in &found[at + 1..] {
            let mut basis = Basis::default();
            basis.add(&form(first));
            if basis.is_new(&form(second)) {
                pairs.push((vec![line(first), line(second)], first.cost + second.cost));
            }
        }
    }
    pairs.sort_by(|a, b| a.1.total_cmp(&b.1));
    pairs
}
