//! Regions of the parameters in which the same rows stay tight, and those seen before.

use crate::plan::Plan;
use crate::problem::{ParamId, RuleId, VarId};
use crate::program::Program;
use crate::rows::{Row, RowIs, Use};
use crate::state::State;

/// How many regions a plan remembers at most.
pub const MAX_REGIONS: usize = 64;

/// How many numbers all remembered regions of a plan may take together: about 64 MB.
const MAX_REMEMBERED: usize = 8_000_000;

/// What holds a value where it is, or bounds a region.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum Reason {
    /// A rule.
    Rule(RuleId),
    /// A variable that is given to be at least zero.
    Given(VarId),
    /// A settling step, counted from 0.
    Settle(usize),
    /// Nothing at all speaks of the variable, so it is at zero.
    Unruled(VarId),
}

/// One side of a region: `constant + sum of coefficient * parameter` is at least zero in it.
#[derive(Clone, Debug, PartialEq)]
pub struct Bound {
    /// What would be broken, or would hold something, beyond.
    pub reason: Reason,
    /// The part that depends on nothing.
    pub constant: f64,
    /// The part that depends on parameters.
    pub terms: Vec<(ParamId, f64)>,
}

/// A region that was left, and can be entered again.
#[derive(Clone, Debug)]
pub(crate) struct Remembered {
    state: State,
    program: Program,
    /// Where it was left before: by which row, to the region of which number.
    exits: Vec<(Row, u64)>,
}

/// The present region, and those seen before.
#[derive(Clone, Debug, Default)]
pub(crate) struct Regions {
    pub(crate) program: Program,
    number: u64,
    exits: Vec<(Row, u64)>,
    /// The others, by number; the last `MAX_REGIONS` that were left.
    others: std::collections::VecDeque<(u64, Remembered)>,
    next: u64,
}

impl Regions {
    /// The number of the region entered next.
    fn enter_new(&mut self) {
        self.next += 1;
        self.number = self.next;
        self.exits.clear();
    }

    pub(crate) fn forget(&mut self) {
        self.others.clear();
        self.exits.clear();
    }
}

impl Plan {
    /// Where the present region does not reach: enters one seen before, or finds a new one.
    #[cold]
    pub(crate) fn leave_region(&mut self, first_wrong: Row) {
        if self.enter_remembered(first_wrong) {
            return;
        }
        self.regions.program.run(&mut self.search.values);
        let size = self.regions.program.size(&self.search.rows);
        let left = Remembered {
            state: self.search.state.clone(),
            program: std::mem::take(&mut self.regions.program),
            exits: std::mem::take(&mut self.regions.exits),
        };
        for guarded in left.program.guarded_rows() {
            self.search.check(guarded.row);
        }
        self.search.steps = 0;
        let number = self.regions.number;
        if self.search.repair().is_err() {
            self.cold();
        } else {
            self.settle_in();
        }
        let room = MAX_REGIONS.min(MAX_REMEMBERED / size.max(1));
        while self.regions.others.len() >= room.max(1) {
            self.regions.others.pop_front();
        }
        if room > 0 {
            self.regions.others.push_back((number, left));
            self.note_exit(number, first_wrong);
        }
    }

    /// Makes the program of a region that was just found.
    pub(crate) fn settle_in(&mut self) {
        self.regions.program = Program::new(&mut self.search);
        self.regions.enter_new();
        self.edited = false;
    }

    fn note_exit(&mut self, from: u64, by: Row) {
        let to = self.regions.number;
        if let Some((_, left)) = self.regions.others.iter_mut().rev().find(|o| o.0 == from) {
            left.exits.retain(|e| e.0 != by);
            left.exits.push((by, to));
        }
    }

    fn enter_remembered(&mut self, first_wrong: Row) -> bool {
        let mut wrong = first_wrong;
        let mut at = self.regions.exits.iter().find(|e| e.0 == wrong).map(|e| e.1);
        // A longer jump crosses several regions, each left by the row that is wrong there.
        for _ in 0..MAX_REGIONS {
            let Some(number) = at else { return false };
            let Some(index) = self.regions.others.iter().position(|o| o.0 == number) else { return false };
            let other = &self.regions.others[index].1;
            other.program.run(&mut self.search.values);
            match other.program.first_wrong(&self.search.values, self.search.scale) {
                Some(row) => {
                    wrong = row;
                    at = other.exits.iter().find(|e| e.0 == wrong).map(|e| e.1);
                }
                None => {
                    self.swap_with(index);
                    let from = self.regions.others[index].0;
                    self.note_exit(from, first_wrong);
                    return true;
                }
            }
        }
        false
    }

    fn swap_with(&mut self, index: usize) {
        let (number, other) = &mut self.regions.others[index];
        std::mem::swap(&mut other.state, &mut self.search.state);
        std::mem::swap(&mut other.program, &mut self.regions.program);
        std::mem::swap(&mut other.exits, &mut self.regions.exits);
        std::mem::swap(number, &mut self.regions.number);
    }

    /// The region of the parameters in which the present answer holds: as long as all of these are
    /// at least zero, every variable is the same affine function of the parameters. Bounds that
    /// no parameter moves are left out.
    pub fn region(&mut self) -> Vec<Bound> {
        self.bring_up_to_date();
        let mut bounds = Vec::new();
        for guarded in self.regions.program.guarded_rows() {
            let sides = [(guarded.not_below, 1.0), (guarded.not_above, -1.0)];
            let search = &mut self.search;
            let (slots, coefficients) = search.rows.terms(guarded.row);
            let terms = slots.iter().copied().zip(coefficients.iter().copied());
            let constant = search.rows.constant(guarded.row);
            let (terms, constant) =
                search.state.basis.in_parameters(&search.rows, terms, constant, &mut search.scratch);
            if terms.is_empty() {
                continue;
            }
            let reason = self.reason(guarded.row);
            for (_, sign) in sides.into_iter().filter(|s| s.0) {
                let terms = terms.iter().map(|&(p, c)| (ParamId(p), sign * c)).collect();
                bounds.push(Bound { reason, constant: sign * constant, terms });
            }
        }
        bounds
    }

    pub(crate) fn reason(&self, row: Row) -> Reason {
        let params = self.search.rows.params;
        match row.is() {
            RowIs::Given(slot) => Reason::Given(VarId(slot - params)),
            RowIs::Rest(slot) => Reason::Unruled(VarId(slot - params)),
            RowIs::Stored(index) => {
                let stored = self.search.rows.stored(index);
                match stored.used {
                    Use::Settle => Reason::Settle(stored.number as usize),
                    Use::Rule | Use::Removed => Reason::Rule(RuleId(stored.number)),
                }
            }
        }
    }
}
