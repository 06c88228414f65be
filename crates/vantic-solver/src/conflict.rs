//! Musts that cannot hold together, each set cut down until every member is needed.

use crate::problem::{Level, Linear, Problem, ProblemBuilder, RuleId, VarId};
use crate::solve::{Work, Workspace};
use crate::tolerance::LENGTH;
use std::collections::{BTreeMap, BTreeSet};

/// A set of musts that cannot hold together with the givens; without any one of them the rest can.
#[derive(Clone, Debug, PartialEq)]
pub struct Conflict {
    /// The musts, in written order.
    pub rules: Vec<RuleId>,
    /// The variables whose given (at least zero) is needed for the contradiction.
    pub givens: Vec<VarId>,
    /// The least total violation of these musts taken alone (weights set aside).
    pub amount: f64,
    /// Where givens take part: the musts that would contradict one another even without them,
    /// if there are such around this conflict.
    pub wider: Option<WiderConflict>,
}

/// Musts that contradict one another without the help of a given.
///
/// Dropping any one of them need not be enough: a [`Conflict`] with a given may remain inside. It
/// tells by how much the musts are apart where every one of them is kept.
#[derive(Clone, Debug, PartialEq)]
pub struct WiderConflict {
    /// The musts, in written order.
    pub rules: Vec<RuleId>,
    /// Their least total violation.
    pub amount: f64,
}

/// All conflicts: one is found, its last-written rule set aside, and so on until the rest can hold.
pub(crate) fn conflicts(problem: &Problem, work: &Work) -> Vec<Conflict> {
    let least = LENGTH * work.scale;
    let part = Part { problem, constants: &work.constants, least };
    let mut found = Vec::new();
    for (index, rule) in problem.rules.iter().enumerate() {
        // A rule without variables contradicts itself.
        if rule.level == Level::MUST && rule.expr.terms.is_empty() {
            let amount = rule.relation.violation(work.constants[index]);
            if amount > least {
                let rules = vec![RuleId(index as u32)];
                found.push(Conflict { rules, givens: Vec::new(), amount, wider: None });
            }
        }
    }
    for (group, holding) in work.broken.iter().zip(&work.holding) {
        let mut rest: Vec<usize> =
            group.rules.iter().copied().filter(|&r| problem.rules[r].level == Level::MUST).collect();
        // What holds the least total violation up contains a conflict; where rounding hides that,
        // all the musts of the group do.
        let mut seed = if part.short(holding, None) > least { holding.clone() } else { rest.clone() };
        while part.short(&seed, None) > least {
            let conflict = part.cut_down(&seed);
            let last = conflict.rules.iter().map(|r| r.index()).max();
            found.push(conflict);
            rest.retain(|&r| Some(r) != last);
            seed = part.holding(&rest);
        }
    }
    found.sort_by(|a, b| a.rules.cmp(&b.rules));
    found
}

struct Part<'a> {
    problem: &'a Problem,
    constants: &'a [f64],
    least: f64,
}

impl Part<'_> {
    /// The least total violation of these musts, with the givens of all variables or of some.
    fn short(&self, rules: &[usize], givens: Option<&BTreeSet<VarId>>) -> f64 {
        let (small, _) = self.alone(rules, givens);
        small.solve(&[], &mut Workspace::new()).map_or(0.0, |o| o.level_totals[0])
    }

    /// The musts without which the total could be less; empty where all can hold.
    fn holding(&self, rules: &[usize]) -> Vec<usize> {
        let (small, _) = self.alone(rules, None);
        let mut workspace = Workspace::new();
        workspace.work.best_on_all_levels(&small, &[]);
        let all: BTreeSet<usize> = workspace.work.holding.iter().flatten().copied().collect();
        let seed: Vec<usize> = all.into_iter().map(|i| rules[i]).collect();
        if workspace.work.broken.is_empty() || self.short(&seed, None) > self.least {
            seed
        } else {
            rules.to_vec()
        }
    }

    /// These musts as a problem of their own, in its own variables.
    fn alone(&self, rules: &[usize], givens: Option<&BTreeSet<VarId>>) -> (Problem, BTreeMap<VarId, VarId>) {
        let mut build = ProblemBuilder::new();
        let mut own = BTreeMap::new();
        for &r in rules {
            let rule = &self.problem.rules[r];
            let mut expr = Linear::default().plus(self.constants[r]);
            for &(v, c) in &rule.expr.terms {
                let var = *own.entry(v).or_insert_with(|| {
                    let given = self.problem.given[v.index()] && givens.is_none_or(|g| g.contains(&v));
                    if given { build.given_variable() } else { build.variable() }
                });
                expr = expr.plus_var(var, c);
            }
            let added = build.rule(expr, rule.relation, Level::MUST, 1.0);
            debug_assert!(added.is_ok(), "the rule was accepted before");
        }
        (build.build(), own)
    }

    /// A deletion filter (Chinneck & Dravnieks 1991). The first-written go first, so that the
    /// rule added last, the likely culprit, stays in.
    fn cut_down(&self, seed: &[usize]) -> Conflict {
        let rules = self.irreducible(seed, None);
        let (_, vars) = self.alone(&rules, None);
        let mut givens: BTreeSet<VarId> =
            vars.into_keys().filter(|v| self.problem.given[v.index()]).collect();
        for given in givens.clone() {
            givens.remove(&given);
            if self.short(&rules, Some(&givens)) <= self.least {
                givens.insert(given);
            }
        }
        let none = BTreeSet::new();
        let ids = |rules: &[usize]| rules.iter().map(|&r| RuleId(r as u32)).collect();
        let wider = (!givens.is_empty() && self.short(seed, Some(&none)) > self.least).then(|| {
            let wider = self.irreducible(seed, Some(&none));
            WiderConflict { amount: self.short(&wider, Some(&none)), rules: ids(&wider) }
        });
        let (amount, rules) = (self.short(&rules, None), ids(&rules));
        Conflict { amount, rules, givens: givens.into_iter().collect(), wider }
    }

    fn irreducible(&self, seed: &[usize], givens: Option<&BTreeSet<VarId>>) -> Vec<usize> {
        let mut rules = seed.to_vec();
        rules.sort_unstable();
        rules.dedup();
        let mut i = 0;
        while i < rules.len() {
            let mut fewer = rules.clone();
            fewer.remove(i);
            if self.short(&fewer, givens) > self.least { rules = fewer } else { i += 1 }
        }
        rules
    }
}
