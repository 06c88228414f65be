//! An independent check of what a plan claims. It shares no code with the search, and can be run
//! with any kind of number, exact ones too.

use crate::certificate::{Certificate, ProvenRange};
use crate::conflict::Conflict;
use crate::diagnose::{Free, FreeKind};
use crate::number::{FACTOR_TOLERANCE, Number, VALUE_TOLERANCE};
use crate::plan::{Outcome, Status};
use crate::problem::{Affine, Level, Linear, Problem, Relation, Rule, RuleId};
use std::collections::BTreeMap;

macro_rules! claim {
    ($holds:expr, $($words:tt)*) => { if !$holds { return Err(format!($($words)*)); } };
}

/// Checks an outcome, the proof that no level can be better, and the conflicts and free ranges with
/// theirs.
///
/// # Errors
/// The first claim that does not hold, in words.
pub fn verify<N: Number>(
    problem: &Problem,
    params: &[f64],
    outcome: &Outcome,
    certificate: &Certificate,
    conflicts: &[Conflict],
    ranges: &[ProvenRange],
) -> Result<(), String> {
    let check = Check::<N>::new(problem, params);
    check.outcome(outcome, certificate)?;
    conflicts.iter().try_for_each(|c| check.conflict(c))?;
    let broken = outcome.status == Status::Broken;
    claim!(
        broken != conflicts.is_empty(),
        "required rules are broken where there are conflicts, and only there"
    );
    ranges.iter().try_for_each(|r| check.end(outcome, r, false).and_then(|()| check.end(outcome, r, true)))
}

struct Check<'a, N> {
    problem: &'a Problem,
    params: &'a [f64],
    zero: N,
    near: N,
}

impl<'a, N: Number> Check<'a, N> {
    fn new(problem: &'a Problem, params: &'a [f64]) -> Self {
        Self { problem, params, zero: N::of(0.0), near: N::of(VALUE_TOLERANCE) }
    }

    fn value(&self, expr: &Linear, values: &[N]) -> N {
        let params = expr.affine().terms().iter().map(|&(p, c)| N::of(c) * N::of(self.params[p.index()]));
        let variables = expr.terms().iter().map(|&(v, c)| N::of(c) * values[v.index()].clone());
        params.chain(variables).fold(N::of(expr.number()), |sum, term| sum + term)
    }

    fn is_within(&self, n: &N, most: &N) -> bool {
        *n <= *most && self.zero.clone() - n.clone() <= *most
    }

    fn violation(&self, rule: &Rule, value: N) -> N {
        match (rule.relation, value > self.zero) {
            (Relation::AtMost | Relation::Equal, true) => value,
            (Relation::AtLeast | Relation::Equal, false) => self.zero.clone() - value,
            _ => self.zero.clone(),
        }
    }

    /// The givens hold, the violations and totals are what they are said to be, and no placement is
    /// better on any level. For any other point, what the rules cost there is at least their factors
    /// times their expressions, level by level; since the factors leave no variable, that is the same
    /// number at every point, and at this one it is what the rules cost.
    fn outcome(&self, outcome: &Outcome, certificate: &Certificate) -> Result<(), String> {
        let levels = outcome.level_totals.len();
        let values: Vec<N> = outcome.values.iter().map(|&v| N::of(v)).collect();
        let given_holds =
            |(index, value): (usize, &N)| !self.problem.nonnegative[index] || *value >= self.zero;
        claim!(values.iter().enumerate().all(given_holds), "a given variable is below zero");
        let slack = N::of(FACTOR_TOLERANCE * self.problem.rules.iter().map(|r| r.weight).fold(1.0, f64::max));
        for level in 0..levels {
            let rules = certificate.rules.iter().map(|(&rule, f)| (rule, f[level]));
            let nonnegatives =
                certificate.nonnegatives.iter().map(|(&nonnegative, f)| (nonnegative, f[level]));
            claim!(
                self.leaves_nothing(rules, nonnegatives, &slack),
                "on level {level} the factors leave a variable"
            );
        }
        // What a factor leaves of a cost has to be nothing; on the kink, where it is read from the
        // strongest level on, at least nothing.
        let fits = |room: &[N], on_kink: bool| match room.iter().find(|d| !self.is_within(d, &slack)) {
            Some(first) => on_kink && *first > self.zero,
            None => true,
        };
        let mut totals = vec![self.zero.clone(); levels];
        let none = vec![0.0; levels];
        for (index, rule) in self.problem.rules.iter().enumerate() {
            let (value, level) = (self.value(&rule.expr, &values), rule.level.index());
            let violation = self.violation(rule, value.clone());
            let off = violation.clone() - N::of(outcome.violations[index]);
            claim!(self.is_within(&off, &self.near), "the violation of rule {index} is another");
            totals[level] = totals[level].clone() + violation * N::of(rule.weight);
            let factors = certificate.rules.get(&index).unwrap_or(&none);
            let room = |free: Relation, sign: f64| -> Vec<N> {
                let cost = if rule.relation == free { 0.0 } else { rule.weight };
                let at = |l: usize| N::of(if l == level { cost } else { 0.0 });
                factors.iter().enumerate().map(|(l, &f)| at(l) - N::of(sign * f)).collect()
            };
            let on_kink = self.is_within(&value, &self.near);
            let above = !on_kink && value <= self.zero || fits(&room(Relation::AtLeast, 1.0), on_kink);
            let below = !on_kink && value > self.zero || fits(&room(Relation::AtMost, -1.0), on_kink);
            claim!(above && below, "the factors of rule {index} promise more than it costs");
        }
        for (level, total) in totals.into_iter().enumerate() {
            let off = total - N::of(outcome.level_totals[level]);
            claim!(self.is_within(&off, &self.near), "the total of level {level} is another");
        }
        for (&index, factors) in &certificate.nonnegatives {
            let room: Vec<N> = factors.iter().map(|&f| N::of(-f)).collect();
            let fits =
                self.problem.nonnegative[index] && fits(&room, self.is_within(&values[index], &self.near));
            claim!(fits, "the factors of given {index} promise more than it costs");
        }
        Ok(())
    }

    /// Whether rules and given variables times their factors leave nothing of any variable.
    fn leaves_nothing(
        &self,
        rules: impl Iterator<Item = (usize, f64)>,
        nonnegatives: impl Iterator<Item = (usize, f64)>,
        slack: &N,
    ) -> bool {
        let mut left: BTreeMap<usize, N> = BTreeMap::new();
        let mut add = |v: usize, amount: N| {
            let sum = left.entry(v).or_insert(self.zero.clone());
            *sum = sum.clone() + amount;
        };
        for (rule, factor) in rules {
            let terms = self.problem.rules[rule].expr.terms().iter();
            terms.for_each(|&(v, c)| add(v.index(), N::of(c) * N::of(factor)));
        }
        nonnegatives.for_each(|(v, factor)| add(v, N::of(factor)));
        left.values().all(|n| self.is_within(n, slack))
    }

    /// What an end of a free range claims, as a problem of its own: a wish for one more than the end
    /// is missed by one; and where there is no end, a step of one that no rule is violated more by
    /// can be made for ever.
    fn end_as_problem(&self, outcome: &Outcome, free: &Free, up: bool) -> Problem {
        let mut claim = Problem { settle: Vec::new(), watched: Vec::new(), ..self.problem.clone() };
        let (end, one) = if up { (free.range.1, 1.0) } else { (free.range.0, -1.0) };
        let values: Vec<N> = outcome.values.iter().map(|&v| N::of(v)).collect();
        for (rule, violation) in claim.rules.iter_mut().zip(&outcome.violations) {
            if end.is_none() {
                (rule.expr.constant, rule.level) = (Affine::default(), Level::REQUIRED);
            } else if rule.level == Level::REQUIRED || free.kind == FreeKind::Ambiguous {
                // What settled each rule's own violation leaves it as it is.
                let by = if self.value(&rule.expr, &values) > self.zero { -violation } else { *violation };
                (rule.expr, rule.level) = (std::mem::take(&mut rule.expr).plus(by), Level::REQUIRED);
            }
        }
        let weakest = claim.rules.iter().map(|r| r.level.0).max().unwrap_or(0);
        let expr = Linear::of(free.var).plus(-end.unwrap_or(0.0) - one);
        let (relation, level) = match end {
            None => (Relation::Equal, Level::REQUIRED),
            Some(_) => (if up { Relation::AtLeast } else { Relation::AtMost }, Level(weakest + 1)),
        };
        claim.rules.push(Rule { expr, relation, level, weight: 1.0 });
        claim
    }

    /// One end of a free range is where it is said to be.
    fn end(&self, outcome: &Outcome, range: &ProvenRange, up: bool) -> Result<(), String> {
        let problem = self.end_as_problem(outcome, &range.free, up);
        let (proof, certificate) = if up { &range.high } else { &range.low };
        Check::<N>::new(&problem, self.params).outcome(proof, certificate)?;
        let last = problem.rules[problem.rules.len() - 1].level.index();
        for (level, &total) in proof.level_totals.iter().enumerate() {
            let before = if level > 0 { outcome.level_totals.get(level).copied() } else { None };
            let expected = if level > 0 && level == last { 1.0 } else { before.unwrap_or(0.0) };
            let holds = self.is_within(&N::of(total - expected), &self.near);
            claim!(holds, "variable {} has another range", range.free.var.index());
        }
        Ok(())
    }

    /// The rules of a conflict contradict one another, and no longer once one of them is left out.
    fn conflict(&self, conflict: &Conflict) -> Result<(), String> {
        let mut number = self.zero.clone();
        let nowhere = vec![self.zero.clone(); self.problem.nonnegative.len()];
        let (of_rules, of_givens) = conflict.multipliers.split_at(conflict.rules.len());
        for (&RuleId(index), &factor) in conflict.rules.iter().zip(of_rules) {
            let rule = &self.problem.rules[index as usize];
            let fits =
                rule.relation == Relation::Equal || (factor > 0.0) == (rule.relation == Relation::AtMost);
            claim!(
                fits && rule.level == Level::REQUIRED,
                "rule {index} cannot take part in a conflict like that"
            );
            number = number + self.value(&rule.expr, &nowhere) * N::of(factor);
        }
        for (nonnegative, &factor) in conflict.nonnegatives.iter().zip(of_givens) {
            let fits = factor <= 0.0 && self.problem.nonnegative[nonnegative.index()];
            claim!(fits, "given {} cannot take part in a conflict like that", nonnegative.index());
        }
        let rules = conflict.rules.iter().map(|r| r.index()).zip(of_rules.iter().copied());
        let nonnegatives = conflict.nonnegatives.iter().map(|v| v.index()).zip(of_givens.iter().copied());
        let proves = number > self.near && self.leaves_nothing(rules, nonnegatives, &N::of(FACTOR_TOLERANCE));
        claim!(proves, "the factors of {:?} prove nothing", conflict.rules);
        for (dropped, witness) in conflict.rules.iter().zip(&conflict.witnesses) {
            let mut values = nowhere.clone();
            witness.iter().for_each(|&(var, value)| values[var.index()] = N::of(value));
            let others =
                conflict.rules.iter().filter(|r| *r != dropped).map(|r| &self.problem.rules[r.index()]);
            let mut broken = others.map(|r| self.violation(r, self.value(&r.expr, &values)));
            let below =
                |v: usize| self.problem.nonnegative[v] && self.zero.clone() - values[v].clone() > self.near;
            let holds = !(0..values.len()).any(below) && !broken.any(|b| b > self.near);
            claim!(holds, "without rule {} the others do not hold", dropped.index());
        }
        Ok(())
    }
}
