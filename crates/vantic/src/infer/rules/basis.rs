//! Which of several linear relations say something new.

use std::collections::{BTreeMap, HashMap};

/// Coefficients below this are rounding.
const ZERO: f64 = 1e-9;

/// Independent linear forms, kept so that a further one is reduced by them from its last variable on.
#[derive(Clone, Debug, Default)]
pub(super) struct Basis {
    /// By last variable.
    rows: HashMap<usize, Vec<(usize, f64)>>,
}

impl Basis {
    /// Adds a form; one that is not independent of those that are there adds nothing.
    pub(super) fn add(&mut self, form: &[(usize, f64)]) {
        if let Some((last, row)) = self.reduced(form) {
            self.rows.insert(last, row);
        }
    }

    pub(super) fn is_new(&self, form: &[(usize, f64)]) -> bool {
        self.reduced(form).is_some()
    }

    fn reduced(&self, form: &[(usize, f64)]) -> Option<(usize, Vec<(usize, f64)>)> {
        let mut left: BTreeMap<usize, f64> = BTreeMap::new();
        for &(var, c) in form {
            *left.entry(var).or_insert(0.0) += c;
        }
        loop {
            let (&last, &c) = left.iter().next_back()?;
            if c.abs() <= ZERO {
                left.remove(&last);
                continue;
            }
            let Some(row) = self.rows.get(&last) else {
                return Some((last, left.into_iter().map(|(var, of)| (var, of / c)).collect()));
            };
            for &(var, of) in row {
                *left.entry(var).or_insert(0.0) -= c * of;
            }
            left.remove(&last);
        }
    }
}
