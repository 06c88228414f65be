//! The test that a placement is the best one, before it is computed: each row that may turn wrong
//! is a half-space of the inputs (Gal & Nedoma 1972), and of those that face one way only the
//! tightest is tested.

use crate::affine_pass::{AffinePass, Directions, MAX_DIMENSIONS, PerInput, dot};
use crate::infeasibility::{Infeasibility, Watch};
use crate::row_set::RowSet;
use crate::rows::Row;
use crate::simplex::Search;
use crate::tolerance::{CANCELLED, SNAP};

/// `spare + direction * inputs` is at least zero as long as a row is not wrong.
#[derive(Clone, Debug)]
struct HalfSpace {
    row: Row,
    direction: u32,
    spare: f64,
}

/// All half-spaces of the present region.
#[derive(Clone, Debug, Default)]
pub(crate) struct HalfSpaces {
    all: Vec<HalfSpace>,
    directions: Directions,
}

impl HalfSpaces {
    pub(crate) fn restart(&mut self, search: &Search, affine_pass: &AffinePass, watches: &[Watch]) {
        self.all.clear();
        self.directions.clear();
        watches.iter().for_each(|&watch| self.put(search, affine_pass, watch));
    }

    /// Works out again the half-spaces of rows that changed (each once in the list).
    pub(crate) fn follow(
        &mut self,
        search: &Search,
        affine_pass: &AffinePass,
        infeasibility: &Infeasibility,
        changed: &[Row],
        is_changed: &RowSet,
    ) {
        self.all.retain(|h| !is_changed.contains(&search.rows, h.row));
        for &row in changed {
            infeasibility.of(row).for_each(|watch| self.put(search, affine_pass, watch));
        }
    }

    fn put(&mut self, search: &Search, affine_pass: &AffinePass, watch: Watch) {
        let (value, mut rates) = affine_pass.of_row(search, watch.row);
        rates.iter_mut().for_each(|r| *r = watch.spare(*r));
        let largest = rates.iter().fold(0.0_f64, |m, r| m.max(r.abs()));
        // A row that no input moves does not turn wrong.
        if largest > CANCELLED {
            let spare = (watch.spare(value) + SNAP * search.scale) / largest;
            // What differs by rounding only is one direction.
            let key = |r: f64| (r * 1e14 + 0.5_f64.copysign(r)) as i64;
            let direction = self.directions.number(rates.map(|r| r / largest), key);
            self.all.push(HalfSpace { row: watch.row, direction, spare });
        }
    }

    /// The tightest in each direction.
    pub(crate) fn tightest(&self) -> Tightest {
        let mut least = vec![f64::INFINITY; self.directions.len()];
        for h in &self.all {
            let least = &mut least[h.direction as usize];
            *least = least.min(h.spare);
        }
        let each = least.into_iter().enumerate().filter(|l| l.1 < f64::INFINITY);
        Tightest(each.map(|(number, spare)| (spare, *self.directions.get(number as u32))).collect())
    }

    /// The rows that are wrong at some inputs.
    pub(crate) fn wrong(&self, inputs: &PerInput) -> Vec<Row> {
        let moved: Vec<f64> =
            (0..self.directions.len()).map(|d| dot(self.directions.get(d as u32), inputs)).collect();
        let wrong = self.all.iter().filter(|h| h.spare + moved[h.direction as usize] < 0.0);
        wrong.map(|h| h.row).collect()
    }

    /// Whether so many directions were met that it is better to start again.
    pub(crate) fn is_worn(&self) -> bool {
        self.directions.len() > 1000 + 2 * self.all.len()
    }
}

/// The half-spaces that bound a region.
#[derive(Clone, Debug, Default)]
pub(crate) struct Tightest(Vec<(f64, PerInput)>);

impl Tightest {
    /// Whether inputs are in the region.
    pub(crate) fn hold(&self, inputs: &PerInput) -> bool {
        self.0.iter().all(|(spare, direction)| spare + dot(direction, inputs) >= 0.0)
    }

    pub(crate) fn size(&self) -> usize {
        self.0.len() * (1 + MAX_DIMENSIONS)
    }
}
