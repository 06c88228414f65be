//! What the rules leave open, exactly, and why.

use crate::conflict::{Conflict, conflicts};
use crate::problem::{Level, Problem, ProblemError, Relation, RuleId, VarId};
use crate::solve::{Outcome, Work, Workspace};
use crate::table::Stopped;
use crate::tolerance::LENGTH;
use std::collections::BTreeMap;

/// The least and greatest value of a variable; `None` where there is no bound.
pub type Range = (Option<f64>, Option<f64>);

/// Which kind of freedom a variable has.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum FreeKind {
    /// Free even once each preference's own violation is settled: a rule is missing.
    Ambiguous,
    /// Free only as long as preferences may share their violation differently.
    Tied,
}

/// A variable with more than one best value.
#[derive(Clone, Debug, PartialEq)]
pub struct Free {
    /// The variable.
    pub var: VarId,
    /// Why it is free.
    pub kind: FreeKind,
    /// All its best values.
    pub range: Range,
    /// The variable from which this one follows; `None` for a root cause.
    pub follows: Option<VarId>,
    /// For a tied root: the preferences that can trade their violations.
    pub rules: Vec<RuleId>,
}

/// What is open in a problem, and what cannot hold, for one set of parameters.
#[derive(Clone, Debug, PartialEq)]
pub struct Diagnosis {
    /// The watched variables that are free, in the order they were watched.
    pub free: Vec<Free>,
    /// The sets of musts that cannot hold together.
    pub conflicts: Vec<Conflict>,
}

impl Problem {
    /// The best point, and what is open or contradictory about it.
    ///
    /// # Errors
    /// As for [`Problem::solve`].
    pub fn diagnose(
        &self,
        params: &[f64],
        workspace: &mut Workspace,
    ) -> Result<(Outcome, Diagnosis), ProblemError> {
        self.check_params(params)?;
        let work = &mut workspace.work;
        work.best_on_all_levels(self, params);
        work.least_own_violations(self, true);
        let best = work.clone();
        work.least_own_violations(self, false);
        let mut own_best = work.clone();
        work.settle(self, params);
        let outcome = work.outcome(self, params);

        let mut free = Vec::new();
        let result = fill_free(self, best, &mut own_best, &outcome, &mut free);
        work.stopped |= result.is_err();
        let conflicts = conflicts(self, work);
        Ok((work.outcome(self, params), Diagnosis { free, conflicts }))
    }
}

fn fill_free(
    problem: &Problem,
    mut best: Work,
    own_best: &mut Work,
    outcome: &Outcome,
    free: &mut Vec<Free>,
) -> Result<(), Stopped> {
    for &var in &problem.watched {
        if let Some(range) = best.open_range(var)? {
            let (kind, range) = match own_best.open_range(var)? {
                Some(inner) => (FreeKind::Ambiguous, inner),
                None => (FreeKind::Tied, range),
            };
            free.push(Free { var, kind, range, follows: None, rules: Vec::new() });
        }
    }
    if free.iter().any(|f| f.kind == FreeKind::Tied) {
        // Which preferences can trade, before anything is settled.
        for tied in free.iter_mut().filter(|f| f.kind == FreeKind::Tied) {
            tied.rules = best.trading(problem, tied.var)?;
        }
    }
    walk(own_best, outcome, free, FreeKind::Ambiguous)?;
    if free.iter().any(|f| f.kind == FreeKind::Tied) {
        for f in free.iter().filter(|f| f.kind == FreeKind::Ambiguous && f.follows.is_none()) {
            best.fix(f.var, outcome.values[f.var.index()]);
        }
        walk(&mut best, outcome, free, FreeKind::Tied)?;
    }
    for f in free.iter_mut().filter(|f| f.follows.is_some()) {
        f.rules.clear();
    }
    Ok(())
}

/// Settles the free variables of one kind in order; what becomes settled by that follows from it.
fn walk(work: &mut Work, outcome: &Outcome, free: &mut [Free], kind: FreeKind) -> Result<(), Stopped> {
    // Only variables of the same block can follow from one another.
    let mut blocks: BTreeMap<Option<usize>, Vec<usize>> = BTreeMap::new();
    for (i, f) in free.iter().enumerate().filter(|(_, f)| f.kind == kind) {
        blocks.entry(work.block_of_var(f.var)).or_default().push(i);
    }
    for members in blocks.values() {
        for (at, &i) in members.iter().enumerate() {
            if free[i].follows.is_some() {
                continue;
            }
            let root = free[i].var;
            work.fix(root, outcome.values[root.index()]);
            for &j in &members[at + 1..] {
                if free[j].follows.is_none() && work.open_range(free[j].var)?.is_none() {
                    free[j].follows = Some(root);
                }
            }
        }
    }
    Ok(())
}

impl Work {
    /// The range of a variable if it is wider than nothing.
    fn open_range(&mut self, var: VarId) -> Result<Option<Range>, Stopped> {
        let sum = self.substitution.reduce(&[(var, 1.0)], 0.0);
        let Some(block) = self.block_of(&sum) else { return Ok(None) };
        if self.is_plainly_fixed(block, &sum) {
            return Ok(None);
        }
        let range = self.range_of(block, &sum)?;
        let wide = match range {
            (Some(low), Some(high)) => high - low > LENGTH * self.scale,
            _ => true,
        };
        Ok(wide.then_some(range))
    }

    fn fix(&mut self, var: VarId, value: f64) {
        let sum = self.substitution.reduce(&[(var, 1.0)], 0.0);
        if let Some(block) = self.block_of(&sum) {
            self.bring(block, &sum, value);
        }
    }

    fn block_of_var(&self, var: VarId) -> Option<usize> {
        self.block_of(&self.substitution.reduce(&[(var, 1.0)], 0.0))
    }

    /// The preferences near a tied variable whose violations can differ.
    fn trading(&mut self, problem: &Problem, var: VarId) -> Result<Vec<RuleId>, Stopped> {
        let sum = self.substitution.reduce(&[(var, 1.0)], 0.0);
        let Some(block) = self.block_of(&sum) else { return Ok(Vec::new()) };
        let mut rules = Vec::new();
        for (index, row) in self.blocks[block].rules.clone() {
            let rule = &problem.rules[index];
            if rule.level == Level::MUST {
                continue;
            }
            let (low, high) = self.blocks[block].range(row)?;
            let least = match rule.relation {
                Relation::Equal if low.is_none_or(|l| l < 0.0) && high.is_none_or(|h| h > 0.0) => 0.0,
                Relation::Equal => {
                    low.map_or(f64::INFINITY, f64::abs).min(high.map_or(f64::INFINITY, f64::abs))
                }
                Relation::AtMost => low.unwrap_or(f64::NEG_INFINITY).max(0.0),
                Relation::AtLeast => (-high.unwrap_or(f64::INFINITY)).max(0.0),
            };
            let worst = rule
                .relation
                .violation(low.unwrap_or(f64::NEG_INFINITY))
                .max(rule.relation.violation(high.unwrap_or(f64::INFINITY)));
            if worst - least > LENGTH * self.scale {
                rules.push(RuleId(index as u32));
            }
        }
        Ok(rules)
    }
}
