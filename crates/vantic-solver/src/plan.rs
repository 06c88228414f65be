//! A problem kept solved: placed for one set of parameters after another.

use crate::critical_regions::CriticalRegions;
use crate::problem::{Linear, ParamId, Problem, ProblemError, Rule, Settle, VarId};
use crate::reason::Reason;
use crate::rows::{Row, Rows, Use};
use crate::simplex::Search;
use crate::tolerance::{LENGTH, scale};
use crate::work;
use std::collections::BTreeSet;

/// How a problem came out. None of these is an error.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Status {
    /// Every required rule holds, and the levels are as good as they can be.
    Solved,
    /// Some required rules contradict one another. The point given breaks them by the least total amount.
    Broken,
    /// A bound on the work was met. The point given keeps the givens but may not be the best.
    Stopped,
}

/// The answer to a problem for one set of parameters.
#[derive(Clone, Debug, PartialEq)]
pub struct Outcome {
    /// How it came out.
    pub status: Status,
    /// The value of each variable, in order of creation.
    pub values: Vec<f64>,
    /// Each rule's violation (not weighted), in written order; zero for rules that were removed.
    pub violations: Vec<f64>,
    /// The weighted sum of the violations on each level; required rules first.
    pub level_totals: Vec<f64>,
}

/// What a formula reads.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Input {
    /// A parameter.
    Parameter(ParamId),
    /// A variable computed before.
    Variable(VarId),
}

/// How one variable is computed: `constant + sum of coefficient * input`.
#[derive(Clone, Debug, PartialEq)]
pub struct Formula {
    /// The variable.
    pub var: VarId,
    /// What holds it there.
    pub by: Reason,
    /// The part that depends on nothing.
    pub constant: f64,
    /// The inputs with their coefficients.
    pub terms: Vec<(Input, f64)>,
}

/// A problem kept solved.
#[derive(Clone, Debug)]
pub struct Plan {
    pub(crate) search: Search,
    pub(crate) watched: Vec<VarId>,
    /// Whether it was solved for some parameters.
    pub(crate) started: bool,
    /// Whether the last search met a bound.
    pub(crate) stopped: bool,
    /// The largest constant of any rule.
    pub(crate) largest: f64,
    pub(crate) removed_variables: BTreeSet<VarId>,
    pub(crate) critical_regions: CriticalRegions,
}

/// So many rows that a cold solve begins with are a unit of work.
const BEGUN: usize = 2;

impl Plan {
    /// A plan for a problem. Nothing is solved yet.
    pub fn new(problem: &Problem) -> Self {
        let search = Search::new(Rows::new(problem));
        let constants = (0..search.rows.stored_count()).map(|i| search.rows.stored(i).constant);
        let largest = constants.fold(0.0, |m: f64, c| m.max(c.abs()));
        Self {
            search,
            watched: problem.watched.clone(),
            started: false,
            stopped: false,
            largest,
            removed_variables: BTreeSet::new(),
            critical_regions: CriticalRegions::default(),
        }
    }

    /// The problem as it is now, edits included. The ids are the same; a rule that was removed is one
    /// that says nothing.
    pub fn problem(&self) -> Problem {
        let rows = &self.search.rows;
        let rule = |&index: &u32| {
            let (expr, relation, level, weight) = rows.rule(index as usize);
            match rows.stored(index as usize).used {
                Use::Rule => Rule { expr, relation, level, weight },
                Use::Settle | Use::Removed => Rule { expr: Linear::default(), relation, level, weight },
            }
        };
        let left = rows.settle_rows().iter().filter(|&&row| rows.stored(row as usize).used == Use::Settle);
        Problem {
            nonnegative: rows.nonnegative.clone(),
            params: rows.params,
            rules: rows.rule_rows().iter().map(rule).collect(),
            settle: left.map(|&row| Settle(rows.rule(row as usize).0)).collect(),
            watched: self.watched.clone(),
        }
    }

    pub(crate) fn note_size(&mut self, constant: f64) {
        if constant.abs() > self.largest {
            self.largest = constant.abs();
            self.set_scale();
        }
    }

    fn set_scale(&mut self) {
        let params = &self.search.values[..self.search.rows.params as usize];
        self.search.scale = scale(params.iter().fold(self.largest, |m, p| m.max(p.abs())));
    }

    /// Something other than a number is about to change.
    pub(crate) fn changed(&mut self) {
        self.critical_regions.restore_state(&mut self.search);
        self.critical_regions.start_over();
        self.search.number = None;
    }

    /// Solves for these parameters.
    ///
    /// # Errors
    /// A wrong number of parameters, or one that is not finite. The plan is unchanged.
    pub fn solve(&mut self, params: &[f64]) -> Result<Status, ProblemError> {
        let count = self.search.rows.params as usize;
        if params.len() != count {
            return Err(ProblemError::ParameterCount { expected: count, found: params.len() });
        }
        if !self.started || self.stopped {
            if params.iter().any(|p| !p.is_finite()) {
                return Err(ProblemError::NotFinite);
            }
            self.search.values[..count].copy_from_slice(params);
            self.cold();
            return Ok(self.status());
        }
        self.move_to(params)?;
        Ok(self.status())
    }

    #[cold]
    pub(crate) fn cold(&mut self) {
        self.set_scale();
        self.critical_regions.start_over();
        let search = &mut self.search;
        work::spend(1 + search.rows.stored_count() / BEGUN);
        search.restart();
        search.crash_basis();
        self.stopped = search.make_known().is_err();
        self.started = true;
        if self.stopped {
            search.fall_back();
        } else {
            self.refresh();
        }
    }

    /// How the last solve came out.
    pub fn status(&self) -> Status {
        match (self.stopped, self.breaks_required_rules()) {
            (true, _) => Status::Stopped,
            (false, true) => Status::Broken,
            (false, false) => Status::Solved,
        }
    }

    /// What a tolerance for lengths of up to 10,000 is to be multiplied by for this problem: 1, and more in proportion where
    /// its lengths are larger. What differs by less than that cannot be told from rounding.
    pub fn scale(&self) -> f64 {
        self.search.scale
    }

    /// Whether required rules are broken by more than rounding does.
    fn breaks_required_rules(&self) -> bool {
        let rows = &self.search.rows;
        let total: f64 = if !self.critical_regions.is_fresh() {
            let required = rows.rule_rows().iter().map(|&r| Row(r)).filter(|&r| rows.is_required(r));
            required.map(|r| self.violation_of(r)).sum()
        } else {
            self.critical_regions.yielding_required_rules().iter().map(|&r| self.violation_of(r)).sum()
        };
        total > LENGTH * self.search.scale
    }

    /// The values of the variables, in order of creation.
    pub fn values(&self) -> &[f64] {
        &self.search.values[self.search.rows.params as usize..self.search.rows.slot_count()]
    }

    fn violation_of(&self, row: Row) -> f64 {
        self.search.rows.violation(row, &self.search.values)
    }

    /// The present way to the answer, as formulas in the order in which they are computed: each
    /// reads parameters and what was computed before it. They hold in the present [`Self::region`].
    /// None where the plan is not solved.
    pub fn formulas(&mut self) -> Vec<Formula> {
        if !self.is_solved() {
            return Vec::new();
        }
        self.refresh();
        let Search { rows, state, .. } = &self.search;
        let input = |slot: u32| match slot.checked_sub(rows.params) {
            Some(var) => Input::Variable(VarId(var)),
            None => Input::Parameter(ParamId(slot)),
        };
        let formula = |&slot: &u32| {
            let (constant, reads) = state.basis.definition(rows, slot);
            Formula {
                var: VarId(slot - rows.params),
                by: self.reason(state.basis.row_at(slot)),
                constant: -constant,
                terms: reads.map(|(s, c)| (input(s), -c)).collect(),
            }
        };
        self.critical_regions.order().iter().map(formula).collect()
    }

    /// The answer with everything in it.
    pub fn outcome(&self) -> Outcome {
        let search = &self.search;
        let values = search.rows.variables().map(|slot| {
            let value = search.values[slot as usize];
            // Zero has no sign.
            if search.rows.is_nonnegative(slot) { value.max(0.0) + 0.0 } else { value + 0.0 }
        });
        let values: Vec<f64> = values.collect();
        let mut level_totals = vec![0.0];
        let mut violations = Vec::with_capacity(search.rows.rule_rows().len());
        for &index in search.rows.rule_rows() {
            let stored = search.rows.stored(index as usize);
            let violation = self.violation_of(Row(index));
            violations.push(violation);
            if stored.used == Use::Rule {
                let level = usize::from(stored.level);
                level_totals.resize(level_totals.len().max(level + 1), 0.0);
                level_totals[level] += stored.weight * violation;
            }
        }
        Outcome { status: self.status(), values, violations, level_totals }
    }
}
