//! The way to a placement as one pass of multiply-adds, and the test that it is the best one.

use crate::rows::{Row, Rows};
use crate::simplex::Search;
use crate::tolerance::SNAP;

/// `values[out] = constant + sum of coefficient * values[slot]`, over the terms up to `end`.
#[derive(Clone, Copy, Debug)]
struct Step {
    out: u32,
    end: u32,
    constant: f64,
}

/// On which sides of zero a row may not be as long as the same rows stay tight.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Guarded {
    pub(crate) row: Row,
    end: u32,
    constant: f64,
    pub(crate) not_below: bool,
    pub(crate) not_above: bool,
}

/// Definitions in an order in which each reads only what was computed before, and the rows that
/// tell whether their tight rows are still the right ones.
#[derive(Clone, Debug, Default)]
pub(crate) struct Program {
    steps: Vec<Step>,
    slots: Vec<u32>,
    coefficients: Vec<f64>,
    guarded: Vec<Guarded>,
    guarded_slots: Vec<u32>,
    guarded_coefficients: Vec<f64>,
    /// The musts that give way to others here.
    yielding_musts: Vec<Row>,
    /// Per slot: the step that computes it.
    step_of: Vec<u32>,
    /// The variables that may not go below zero, other than tight ones.
    givens: Vec<u32>,
}

impl Program {
    pub(crate) fn new(search: &mut Search) -> Self {
        let Search { rows, state, scratch, .. } = search;
        state.basis.walk_up(rows, rows.variables(), |_| true, scratch);
        let count = scratch.order.len();
        let mut program = Self { step_of: vec![0; rows.slot_count()], ..Self::default() };
        program.steps.reserve_exact(count);
        for &slot in &scratch.order {
            for (read, c) in state.basis.reads(rows, slot) {
                program.slots.push(read);
                program.coefficients.push(-c);
            }
            let constant = -state.basis.constant(rows, slot);
            program.step_of[slot as usize] = program.steps.len() as u32;
            program.steps.push(Step { out: slot, end: program.slots.len() as u32, constant });
        }
        program.slots.shrink_to_fit();
        program.coefficients.shrink_to_fit();
        for index in 0..rows.stored_count() {
            let row = Row(index as u32);
            program.guard(search, row);
            if search.rows.is_must(row) && search.state.side(row) != 0 {
                program.yielding_musts.push(row);
            }
        }
        let search = &*search;
        let (rows, state) = (&search.rows, &search.state);
        for slot in rows.variables() {
            if rows.is_given(slot) && !state.basis.is_tight(Row::given(slot)) {
                program.givens.push(slot);
            }
            if state.rank(slot) >= crate::lex::Stage::rest(slot - rows.params) {
                program.guard(search, Row::rest(slot));
            }
        }
        program
    }

    fn guard(&mut self, search: &Search, row: Row) {
        let (rows, state) = (&search.rows, &search.state);
        if state.basis.is_tight(row) {
            return;
        }
        let wrong = |above| state.is_wrong(rows, row, above) && !state.is_idle(rows, row, above);
        let (not_above, not_below) = (wrong(true), wrong(false));
        if not_above || not_below {
            let (slots, coefficients) = rows.terms(row);
            self.guarded_slots.extend_from_slice(slots);
            self.guarded_coefficients.extend_from_slice(coefficients);
            let (end, constant) = (self.guarded_slots.len() as u32, rows.constant(row));
            self.guarded.push(Guarded { row, end, constant, not_below, not_above });
        }
    }

    /// The step that computes a variable gets another constant.
    pub(crate) fn set_constant(&mut self, slot: u32, constant: f64) {
        let step = self.step_of[slot as usize] as usize;
        self.steps[step].constant = constant;
    }

    /// A row that is not tight gets another constant.
    pub(crate) fn set_guarded_constant(&mut self, row: Row, constant: f64) {
        if let Ok(at) = self.guarded.binary_search_by_key(&row, |g| g.row) {
            self.guarded[at].constant = constant;
        }
    }

    /// Computes every variable from the parameters.
    pub(crate) fn run(&self, values: &mut [f64]) {
        let mut at = 0;
        for step in &self.steps {
            let end = step.end as usize;
            let mut sum = step.constant;
            for (&slot, &c) in self.slots[at..end].iter().zip(&self.coefficients[at..end]) {
                sum += c * values[slot as usize];
            }
            at = end;
            values[step.out as usize] = sum;
        }
    }

    /// A row by which these are not the right tight rows, if there is one.
    pub(crate) fn first_wrong(&self, values: &[f64], scale: f64) -> Option<Row> {
        let snap = SNAP * scale;
        if let Some(&slot) = self.givens.iter().find(|&&slot| values[slot as usize] < -snap) {
            return Some(Row::given(slot));
        }
        let mut at = 0;
        for guarded in &self.guarded {
            let end = guarded.end as usize;
            let mut sum = guarded.constant;
            for (&slot, &c) in self.guarded_slots[at..end].iter().zip(&self.guarded_coefficients[at..end]) {
                sum += c * values[slot as usize];
            }
            at = end;
            if guarded.not_above && sum > snap || guarded.not_below && sum < -snap {
                return Some(guarded.row);
            }
        }
        None
    }

    /// The rows that may be wrong.
    pub(crate) fn guarded_rows(&self) -> impl Iterator<Item = Guarded> {
        let (end, constant, not_below, not_above) = (0, 0.0, true, false);
        let givens = self.givens.iter().map(move |&slot| {
            let row = Row::given(slot);
            Guarded { row, end, constant, not_below, not_above }
        });
        givens.chain(self.guarded.iter().copied())
    }

    pub(crate) fn yielding_musts(&self) -> &[Row] {
        &self.yielding_musts
    }

    /// How much memory this takes, counted in numbers.
    pub(crate) fn size(&self, rows: &Rows) -> usize {
        4 * self.steps.len() + 2 * self.slots.len() + 2 * self.guarded_slots.len() + rows.stored_count()
    }
}
