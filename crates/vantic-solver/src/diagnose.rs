//! What the rules leave open, exactly, and why.

use crate::conflict::{Conflict, conflicts};
use crate::lex::Stage;
use crate::optimal_face::{OptimalFace, Range};
use crate::plan::Plan;
use crate::problem::{RuleId, VarId};
use crate::table::Stopped;
use crate::work;
use std::collections::BTreeMap;

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
    /// The sets of required rules that cannot hold together.
    pub conflicts: Vec<Conflict>,
    /// Whether a bound on the work was met, so that something may be missing here.
    pub stopped: bool,
}

impl Plan {
    /// What is open or contradictory at the parameters that were solved for last. Before the first
    /// solve nothing is known, and the diagnosis says that it stopped.
    pub fn diagnose(&mut self) -> Diagnosis {
        let mut free = Vec::new();
        if !self.is_solved() {
            return Diagnosis { free, conflicts: Vec::new(), stopped: true };
        }
        self.refresh();
        let found = self.fill_free(&mut free);
        let (conflicts, all) = conflicts(self);
        Diagnosis { free, conflicts, stopped: self.stopped || found.is_err() || !all }
    }

    fn fill_free(&mut self, free: &mut Vec<Free>) -> Result<(), Stopped> {
        let search = &mut self.search;
        let params = search.rows.params;
        let mut best = OptimalFace::new(search, Stage::is_before_ties)?;
        let mut own_best = OptimalFace::new(search, Stage::is_of_rules)?;
        for &var in &self.watched {
            let slot = params + var.0;
            let value = search.values[slot as usize];
            if let Some(range) = best.range(slot, value)? {
                let (kind, range) = match own_best.range(slot, value)? {
                    Some(inner) => (FreeKind::Ambiguous, inner),
                    None => (FreeKind::Tied, range),
                };
                free.push(Free { var, kind, range, follows: None, rules: Vec::new() });
            }
        }
        // Which preferences can trade, before anything is settled.
        for tied in free.iter_mut().filter(|f| f.kind == FreeKind::Tied) {
            tied.rules = best.trading(params + tied.var.0)?;
        }
        walk(&mut own_best, params, free, FreeKind::Ambiguous)?;
        if free.iter().any(|f| f.kind == FreeKind::Tied) {
            for f in free.iter().filter(|f| f.kind == FreeKind::Ambiguous && f.follows.is_none()) {
                best.fix(params + f.var.0)?;
            }
            walk(&mut best, params, free, FreeKind::Tied)?;
        }
        for f in free.iter_mut().filter(|f| f.follows.is_some()) {
            f.rules.clear();
        }
        Ok(())
    }
}

/// So many variables that may follow from another are a unit of work.
const LOOKED_AT: usize = 8;

/// Settles the free variables of one kind in order; what becomes settled by that follows from it.
fn walk(face: &mut OptimalFace, params: u32, free: &mut [Free], kind: FreeKind) -> Result<(), Stopped> {
    // Only variables of the same part can follow from one another.
    let mut parts: BTreeMap<Option<usize>, Vec<usize>> = BTreeMap::new();
    for (i, f) in free.iter().enumerate().filter(|(_, f)| f.kind == kind) {
        parts.entry(face.part_of(params + f.var.0)).or_default().push(i);
    }
    for members in parts.values() {
        for (at, &i) in members.iter().enumerate() {
            if free[i].follows.is_some() {
                continue;
            }
            work::spend(1 + (members.len() - at) / LOOKED_AT);
            if work::is_spent() {
                return Err(Stopped);
            }
            let root = free[i].var;
            face.fix(params + root.0)?;
            for &j in &members[at + 1..] {
                if free[j].follows.is_none() && !face.can_move(params + free[j].var.0)? {
                    free[j].follows = Some(root);
                }
            }
        }
    }
    Ok(())
}
