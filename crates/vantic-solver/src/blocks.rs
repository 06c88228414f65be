//! Splitting a problem into parts that do not touch one another.

use crate::presolve::Sum;
use crate::problem::{Problem, VarId};

/// Sets of variables joined step by step (union-find with path halving).
#[derive(Clone, Debug)]
pub(crate) struct Joined {
    parent: Vec<u32>,
}

impl Joined {
    pub(crate) fn new(count: usize) -> Self {
        Self { parent: (0..count as u32).collect() }
    }

    pub(crate) fn root(&mut self, var: VarId) -> usize {
        let mut at = var.0;
        while self.parent[at as usize] != at {
            self.parent[at as usize] = self.parent[self.parent[at as usize] as usize];
            at = self.parent[at as usize];
        }
        at as usize
    }

    /// Joins all the variables of a sum.
    pub(crate) fn join(&mut self, terms: &[(VarId, f64)]) {
        if let Some((first, others)) = terms.split_first() {
            let root = self.root(first.0);
            for (other, _) in others {
                let other = self.root(*other);
                // The smaller index is the root, so that groups come out in order of variables.
                let now = self.root(VarId(root as u32));
                let (low, high) = (now.min(other), now.max(other));
                self.parent[high] = low as u32;
            }
        }
    }
}

/// Variables and rules that hang together, in written order.
#[derive(Clone, Debug, Default)]
pub(crate) struct Group {
    pub(crate) vars: Vec<VarId>,
    pub(crate) rules: Vec<usize>,
}

/// The groups of a problem as it was written. Rules without variables are in no group.
pub(crate) fn groups(problem: &Problem) -> Vec<Group> {
    let mut joined = Joined::new(problem.given.len());
    for rule in &problem.rules {
        joined.join(&rule.expr.terms);
    }
    // What one settling step brings near to something is searched together.
    for step in &problem.settle {
        joined.join(&step.own.terms);
    }
    let mut number = vec![usize::MAX; problem.given.len()];
    let mut groups: Vec<Group> = Vec::new();
    for v in 0..problem.given.len() as u32 {
        let root = joined.root(VarId(v));
        if number[root] == usize::MAX {
            number[root] = groups.len();
            groups.push(Group::default());
        }
        groups[number[root]].vars.push(VarId(v));
    }
    for (index, rule) in problem.rules.iter().enumerate() {
        if let Some(&(v, _)) = rule.expr.terms.first() {
            groups[number[joined.root(v)]].rules.push(index);
        }
    }
    groups
}

/// The block of a sum that has variables, by the table that `number` gives per root.
pub(crate) fn block_of(sum: &Sum, joined: &mut Joined, number: &[usize]) -> Option<usize> {
    sum.terms.first().map(|&(v, _)| number[joined.root(v)])
}
