//! The cheapest relations that decide everything.
//!
//! Relations that hold in all drawings are linear, and independent sets of linear forms are the independent sets of a
//! matroid. So taking the cheapest one after the other, each that is independent of those before, gives a set of least total
//! cost that decides every size and place (Rado 1957; Edmonds 1971); whichever set it is, it gives the drawings.

use crate::infer::rules::basis::Basis;
use crate::infer::rules::candidates::Candidates;
use crate::infer::rules::relation::{Relation, near_of, size_of};
use crate::infer::rules::table::Table;
use vantic_core::geometry::Axis;

/// What was chosen, and what it leaves open.
#[derive(Clone, Debug, Default)]
pub(super) struct Choice {
    pub(super) chosen: Vec<Relation>,
    /// What holds as well.
    pub(super) left: Vec<Relation>,
    /// The views and axes of which something is open.
    pub(super) open: Vec<(usize, Axis)>,
    /// What is independent on the display of each drawing.
    bases: Vec<Basis>,
}

impl Choice {
    pub(super) fn cost(&self) -> f64 {
        self.chosen.iter().map(|relation| relation.cost).sum::<f64>() + 8.0 * self.open.len() as f64
    }

    /// Takes what is independent of what was taken, in this order.
    fn take(&mut self, table: &Table, relations: Vec<Relation>) {
        for relation in relations {
            let forms: Vec<_> = table.sheets.iter().map(|sheet| relation.form(sheet)).collect();
            if std::iter::zip(&self.bases, &forms).all(|(basis, form)| basis.is_new(form)) {
                std::iter::zip(&mut self.bases, &forms).for_each(|(basis, form)| basis.add(form));
                self.chosen.push(relation);
            } else {
                self.left.push(relation);
            }
        }
    }

    /// Whether it leaves a variable open on the display of some drawing.
    fn leaves_open(&self, var: usize) -> bool {
        self.bases.iter().any(|basis| basis.is_new(&[(var, 1.0)]))
    }
}

/// Whether relations decide as much as there are of them, on the display of each drawing.
pub(super) fn decides<'a>(table: &Table, relations: impl Iterator<Item = &'a Relation> + Clone) -> bool {
    table.sheets.iter().all(|sheet| {
        let mut basis = Basis::default();
        relations.clone().all(|relation| {
            let form = relation.form(sheet);
            let is_new = basis.is_new(&form);
            basis.add(&form);
            is_new
        })
    })
}

/// Chooses for the views that are in all drawings; `given` are taken first.
pub(super) fn choose(table: &Table, slack: f64, given: &[Relation]) -> Choice {
    let mut choice = Choice { bases: vec![Basis::default(); table.sheets.len()], ..Choice::default() };
    choice.take(table, given.to_vec());
    choice.take(table, Candidates::new(table, slack).all());
    for view in (0..table.views.len()).filter(|&view| table.is_everywhere(view)) {
        for axis in [Axis::Across, Axis::Down] {
            if choice.leaves_open(near_of(view, axis)) || choice.leaves_open(size_of(view, axis)) {
                choice.open.push((view, axis));
            }
        }
    }
    choice
}
