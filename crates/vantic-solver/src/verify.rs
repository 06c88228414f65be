//! An independent check of what a plan claims. It shares no code with the search, and can be run
//! with any kind of number, exact ones too.

use crate::conflict::Conflict;
use crate::explain::Certificate;
use crate::number::{FACTOR_TOLERANCE, Number, VALUE_TOLERANCE};
use crate::plan::{Outcome, Status};
use crate::problem::{Affine, Linear, Problem, Relation, RuleId};
use std::collections::BTreeMap;

/// Checks an outcome, the proof that no level can be better, and the conflicts with theirs.
///
/// # Errors
/// The first claim that does not hold, in words.
pub fn verify<N: Number>(
    problem: &Problem,
    params: &[f64],
    outcome: &Outcome,
    certificate: &Certificate,
    conflicts: &[Conflict],
) -> Result<(), String> {
    let check = Check::<N> { problem, params, zero: N::of(0.0), near: N::of(VALUE_TOLERANCE) };
    let values: Vec<N> = outcome.values.iter().map(|&v| N::of(v)).collect();
    check.violations(outcome, &values)?;
    check.levels(outcome, &values, certificate)?;
    conflicts.iter().try_for_each(|c| check.conflict(c))?;
    match (outcome.status == Status::Broken, conflicts.is_empty()) {
        (true, true) => Err("musts are broken, and no conflict says why".to_owned()),
        (false, false) => Err("there are conflicts, and no must is broken".to_owned()),
        _ => Ok(()),
    }
}

struct Check<'a, N> {
    problem: &'a Problem,
    params: &'a [f64],
    zero: N,
    near: N,
}

impl<N: Number> Check<'_, N> {
    fn constant(&self, affine: &Affine) -> N {
        let terms = affine.terms().iter();
        terms.fold(N::of(affine.number()), |sum, &(p, c)| sum + N::of(c) * N::of(self.params[p.index()]))
    }

    fn value(&self, expr: &Linear, values: &[N]) -> N {
        let start = self.constant(expr.affine());
        expr.terms().iter().fold(start, |sum, &(v, c)| sum + N::of(c) * values[v.index()].clone())
    }

    fn is_near(&self, a: &N, b: &N) -> bool {
        a.clone() - b.clone() <= self.near && b.clone() - a.clone() <= self.near
    }

    fn violation(&self, rule: &crate::problem::Rule, value: N) -> N {
        match (rule.relation, value > self.zero) {
            (Relation::AtMost | Relation::Equal, true) => value,
            (Relation::AtLeast | Relation::Equal, false) => self.zero.clone() - value,
            _ => self.zero.clone(),
        }
    }

    /// The givens hold, and the violations and totals are what they are said to be.
    fn violations(&self, outcome: &Outcome, values: &[N]) -> Result<(), String> {
        for (index, value) in values.iter().enumerate() {
            if self.problem.given[index] && *value < self.zero {
                return Err(format!("variable {index} is below zero"));
            }
        }
        let mut totals = vec![self.zero.clone(); outcome.level_totals.len()];
        for (index, rule) in self.problem.rules.iter().enumerate() {
            let violation = self.violation(rule, self.value(&rule.expr, values));
            if !self.is_near(&violation, &N::of(outcome.violations[index])) {
                return Err(format!("rule {index} is not violated by {}", outcome.violations[index]));
            }
            let total = &mut totals[rule.level.index()];
            *total = total.clone() + violation * N::of(rule.weight);
        }
        for (level, (total, claimed)) in totals.iter().zip(&outcome.level_totals).enumerate() {
            if !self.is_near(total, &N::of(*claimed)) {
                return Err(format!("the total of level {level} is not {claimed}"));
            }
        }
        Ok(())
    }

    /// No placement is better on any level. For any other point, what the rules cost there is at least
    /// their factors times their expressions, level by level; since the factors leave no variable,
    /// that is the same number at every point, and at this one it is what the rules cost.
    fn levels(&self, outcome: &Outcome, values: &[N], certificate: &Certificate) -> Result<(), String> {
        let largest = self.problem.rules.iter().map(|r| r.weight).fold(1.0, f64::max);
        let slack = N::of(FACTOR_TOLERANCE * largest);
        let small = |n: &N| *n <= slack && self.zero.clone() - n.clone() <= slack;
        let none = vec![0.0; outcome.level_totals.len()];
        for level in 0..outcome.level_totals.len() {
            let rules = certificate.rules.iter().map(|(&rule, f)| (rule, f[level]));
            let left = self.left(rules, certificate.givens.iter().map(|(&given, f)| (given, f[level])));
            if let Some((v, _)) = left.iter().find(|l| !small(l.1)) {
                return Err(format!("on level {level} the factors leave variable {v}"));
            }
        }
        // Whether a list of differences, read from the strongest level on, is at least nothing.
        let at_least_nothing =
            |differences: &[N]| differences.iter().find(|d| !small(d)).is_none_or(|first| *first > self.zero);
        for (index, rule) in self.problem.rules.iter().enumerate() {
            let factors = certificate.rules.get(&index).unwrap_or(&none);
            let cost = |free: Relation| if rule.relation == free { 0.0 } else { rule.weight };
            let (above, below) = (cost(Relation::AtLeast), cost(Relation::AtMost));
            let minus = |by: f64, sign: f64| -> Vec<N> {
                let at = |level: usize| if level == rule.level.index() { by } else { 0.0 };
                factors.iter().enumerate().map(|(l, &f)| N::of(at(l)) - N::of(sign * f)).collect()
            };
            let value = self.value(&rule.expr, values);
            let (room_above, room_below) = (minus(above, 1.0), minus(below, -1.0));
            let on_kink = self.is_near(&value, &self.zero);
            let met = match value > self.zero {
                _ if on_kink => at_least_nothing(&room_above) && at_least_nothing(&room_below),
                true => room_above.iter().all(small),
                false => room_below.iter().all(small),
            };
            if !met {
                return Err(format!("the factors of rule {index} promise more than it costs"));
            }
        }
        for (&index, factors) in &certificate.givens {
            let room: Vec<N> = factors.iter().map(|&f| self.zero.clone() - N::of(f)).collect();
            let on_kink = self.is_near(&values[index], &self.zero);
            if !self.problem.given[index]
                || !(if on_kink { at_least_nothing(&room) } else { room.iter().all(small) })
            {
                return Err(format!("the factors of given {index} promise more than it costs"));
            }
        }
        Ok(())
    }

    /// What rules and given variables times their factors leave of each variable.
    fn left(
        &self,
        rules: impl Iterator<Item = (usize, f64)>,
        givens: impl Iterator<Item = (usize, f64)>,
    ) -> BTreeMap<usize, N> {
        let mut left: BTreeMap<usize, N> = BTreeMap::new();
        let mut add = |v: usize, amount: N| {
            let sum = left.entry(v).or_insert(self.zero.clone());
            *sum = sum.clone() + amount;
        };
        for (rule, factor) in rules {
            let terms = self.problem.rules[rule].expr.terms().iter();
            terms.for_each(|&(v, c)| add(v.index(), N::of(c) * N::of(factor)));
        }
        givens.for_each(|(v, factor)| add(v, N::of(factor)));
        left
    }

    /// The rules of a conflict contradict one another, and no longer once one of them is left out.
    fn conflict(&self, conflict: &Conflict) -> Result<(), String> {
        let mut number = self.zero.clone();
        let (of_rules, of_givens) = conflict.multipliers.split_at(conflict.rules.len());
        let slack = N::of(FACTOR_TOLERANCE);
        for (&RuleId(index), &factor) in conflict.rules.iter().zip(of_rules) {
            let rule = &self.problem.rules[index as usize];
            let free = rule.relation == Relation::Equal;
            let wrong = !free && (factor > 0.0) == (rule.relation == Relation::AtLeast);
            if wrong || rule.level.index() > 0 {
                return Err(format!("rule {index} cannot take part in a conflict like that"));
            }
            number = number + self.constant(rule.expr.affine()) * N::of(factor);
        }
        for (given, &factor) in conflict.givens.iter().zip(of_givens) {
            if factor > 0.0 || !self.problem.given[given.index()] {
                return Err(format!("given {} cannot take part in a conflict like that", given.index()));
            }
        }
        let rules = conflict.rules.iter().map(|r| r.index()).zip(of_rules.iter().copied());
        let givens = conflict.givens.iter().map(|v| v.index()).zip(of_givens.iter().copied());
        let left = self.left(rules, givens);
        let rest = left.values().all(|n| *n <= slack && self.zero.clone() - n.clone() <= slack);
        if !rest || number <= self.near {
            return Err(format!("the factors of {:?} prove nothing", conflict.rules));
        }
        for (dropped, witness) in conflict.rules.iter().zip(&conflict.witnesses) {
            let mut values = vec![self.zero.clone(); self.problem.given.len()];
            for &(var, value) in witness {
                values[var.index()] = N::of(value);
            }
            let others =
                conflict.rules.iter().filter(|r| *r != dropped).map(|r| &self.problem.rules[r.index()]);
            let mut broken = others.map(|r| self.violation(r, self.value(&r.expr, &values)));
            let below = |v: usize| self.problem.given[v] && self.zero.clone() - values[v].clone() > self.near;
            if (0..values.len()).any(below) || broken.any(|b| b > self.near) {
                return Err(format!("without rule {} the others do not hold", dropped.index()));
            }
        }
        Ok(())
    }
}
