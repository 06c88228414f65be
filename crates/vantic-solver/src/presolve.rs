//! Must equalities solved by substitution, before any search.
//!
//! Most of a screen is a chain of equalities. Taking one variable out for each leaves only the
//! knots. Where the equalities contradict one another nothing is taken out: then every must has to
//! take its part in the least total violation.

use crate::problem::{Level, Problem, Relation, VarId};
use crate::tolerance::{ENTRY, LENGTH};
use std::collections::BTreeMap;

/// A sum over the variables that are left, plus a number.
#[derive(Clone, Debug, Default, PartialEq)]
pub(crate) struct Sum {
    pub(crate) terms: Vec<(VarId, f64)>,
    pub(crate) constant: f64,
}

impl Sum {
    pub(crate) fn at(&self, values: &[f64]) -> f64 {
        self.terms.iter().map(|&(v, c)| c * values[v.index()]).sum::<f64>() + self.constant
    }
}

/// Which variables were taken out, and what they are in terms of those that are left.
#[derive(Clone, Debug, Default)]
pub(crate) struct Substitution {
    /// Per variable: when it was taken out (counted from 0), or never.
    taken: Vec<Option<u32>>,
    /// In the order in which they were taken out. Each may read variables taken out later.
    sums: Vec<(VarId, Sum)>,
}

impl Substitution {
    pub(crate) fn none(variables: usize) -> Self {
        Self { taken: vec![None; variables], sums: Vec::new() }
    }

    pub(crate) fn is_taken(&self, var: VarId) -> bool {
        self.taken[var.index()].is_some()
    }

    /// The expression in terms of the variables that are left.
    pub(crate) fn reduce(&self, terms: &[(VarId, f64)], mut constant: f64) -> Sum {
        let mut open: BTreeMap<u32, f64> = BTreeMap::new();
        let mut left: BTreeMap<VarId, f64> = BTreeMap::new();
        let mut put = |open: &mut BTreeMap<u32, f64>, var: VarId, c: f64| match self.taken[var.index()] {
            Some(time) => *open.entry(time).or_insert(0.0) += c,
            None => *left.entry(var).or_insert(0.0) += c,
        };
        for &(var, c) in terms {
            put(&mut open, var, c);
        }
        // A sum reads only variables taken out after it, so each is opened once.
        while let Some((time, c)) = open.pop_first() {
            let sum = &self.sums[time as usize].1;
            constant += c * sum.constant;
            for &(var, inner) in &sum.terms {
                put(&mut open, var, c * inner);
            }
        }
        Sum { terms: left.into_iter().filter(|t| t.1.abs() > ENTRY).collect(), constant }
    }

    /// Takes one variable out for each must equality among `rules`. False where two of them
    /// contradict one another; the substitution is then not to be used for these rules.
    pub(crate) fn take_out(
        &mut self,
        problem: &Problem,
        constants: &[f64],
        rules: &[usize],
        scale: f64,
    ) -> bool {
        let first = self.sums.len();
        for &index in rules {
            let rule = &problem.rules[index];
            if rule.level != Level::MUST || rule.relation != Relation::Equal {
                continue;
            }
            let sum = self.reduce(&rule.expr.terms, constants[index]);
            let largest = sum.terms.iter().map(|t| t.1.abs()).fold(0.0, f64::max);
            // Sizes are kept where there is a choice, so that their givens stay simple bounds;
            // then the variable declared last, which tends to be the one that depends on others.
            let choice = sum
                .terms
                .iter()
                .filter(|t| t.1.abs() >= 0.05 * largest)
                .max_by_key(|&&(v, _)| (!problem.given[v.index()], v));
            let Some(&(var, c)) = choice else {
                if sum.constant.abs() > LENGTH * scale {
                    return false;
                }
                continue;
            };
            let terms = sum.terms.iter().filter(|t| t.0 != var).map(|&(v, k)| (v, -k / c)).collect();
            self.taken[var.index()] = Some(self.sums.len() as u32);
            self.sums.push((var, Sum { terms, constant: -sum.constant / c }));
        }
        // From the last to the first, so that each reads only variables that are left for good.
        for i in (first..self.sums.len()).rev() {
            let sum = std::mem::take(&mut self.sums[i].1);
            self.sums[i].1 = self.reduce(&sum.terms, sum.constant);
        }
        true
    }

    /// Puts back every variable in `vars`.
    pub(crate) fn put_back(&mut self, vars: &[VarId]) {
        for var in vars {
            self.taken[var.index()] = None;
        }
    }

    /// The variables that were taken out, each with its sum.
    pub(crate) fn taken(&self) -> impl Iterator<Item = (VarId, &Sum)> {
        self.sums.iter().filter(|(v, _)| self.is_taken(*v)).map(|(v, s)| (*v, s))
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::problem::{Affine, Linear, ProblemBuilder};
    use proptest::prelude::*;

    fn problem(variables: usize, equalities: &[(Vec<(usize, f64)>, f64)]) -> (Problem, Vec<f64>) {
        let mut build = ProblemBuilder::new();
        let vars: Vec<VarId> = (0..variables)
            .map(|i| if i % 3 == 2 { build.given_variable() } else { build.variable() })
            .collect();
        for (terms, constant) in equalities {
            let terms = terms.iter().map(|&(v, c)| (vars[v], c)).collect();
            let expr = Linear::new(terms, Affine::constant(*constant));
            build.rule(expr, Relation::Equal, Level::MUST, 1.0).unwrap();
        }
        (build.build(), equalities.iter().map(|e| e.1).collect())
    }

    #[test]
    fn equalities_that_contradict_one_another_are_found_out() {
        let (p, constants) =
            problem(2, &[(vec![(0, 1.0), (1, -1.0)], 0.0), (vec![(1, 2.0), (0, -2.0)], 3.0)]);
        assert!(!Substitution::none(2).take_out(&p, &constants, &[0, 1], 1.0));
        let (p, constants) =
            problem(2, &[(vec![(0, 1.0), (1, -1.0)], 1.5), (vec![(1, 2.0), (0, -2.0)], -3.0)]);
        assert!(
            Substitution::none(2).take_out(&p, &constants, &[0, 1], 1.0),
            "the same said twice is no contradiction"
        );
    }

    proptest! {
        /// Whatever values the variables that are left have, the equalities hold.
        #[test]
        fn what_is_taken_out_keeps_every_equality(
            equalities in prop::collection::vec((prop::collection::vec((0_usize..8, prop_oneof![Just(1.0), Just(-1.0), Just(0.5)]), 1..4), -9_i8..9), 1..8),
            mut values in prop::collection::vec(-50.0..50.0_f64, 8),
        ) {
            let equalities: Vec<_> = equalities.into_iter().map(|(t, c)| (t, f64::from(c))).collect();
            let (p, constants) = problem(8, &equalities);
            let all: Vec<usize> = (0..equalities.len()).collect();
            let mut substitution = Substitution::none(8);
            prop_assume!(substitution.take_out(&p, &constants, &all, 1.0));
            let taken: Vec<(VarId, f64)> = substitution.taken().map(|(v, sum)| (v, sum.at(&values))).collect();
            for (v, sum) in substitution.taken() {
                prop_assert!(sum.terms.iter().all(|t| !substitution.is_taken(t.0)), "{:?} reads what was taken out", v);
            }
            for (v, value) in taken {
                values[v.index()] = value;
            }
            for rule in &p.rules {
                prop_assert!(rule.expr.at(&values, &[]).abs() < 1e-6, "{:?} at {:?}", rule, values);
            }
            // Reducing an expression does not change its value.
            let terms: Vec<(VarId, f64)> = (0..8).map(|v| (VarId(v), f64::from(v) - 3.0)).collect();
            let direct: f64 = terms.iter().map(|&(v, c)| c * values[v.index()]).sum();
            prop_assert!((substitution.reduce(&terms, 0.0).at(&values) - direct).abs() < 1e-6);
        }
    }
}
