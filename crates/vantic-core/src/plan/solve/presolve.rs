//! Which argument of each `max` and `min` is decided before anything is searched: by the display
//! alone, or by required rules that leave one value each.

use crate::plan::compile::compiled::{Compiled, MinMaxNode};
use crate::plan::solve::choice::{Choice, known_part};
use vantic_solver::{Level, Linear, Relation};

/// What is known of the variables of a problem, spread from rule to rule.
pub(crate) struct Known<'a> {
    compiled: &'a Compiled,
    params: &'a [f64],
    values: Vec<Option<f64>>,
    choice: Choice,
}

impl<'a> Known<'a> {
    /// What the display alone decides.
    pub(crate) fn by_display(compiled: &'a Compiled, params: &'a [f64]) -> Choice {
        let mut known = Self::nothing(compiled, params);
        // Those within others come first.
        for pick in 0..compiled.picks.len() {
            known.decide(pick);
        }
        known.choice
    }

    /// What the display and required rules that are equalities decide, as long as all required rules hold.
    pub(crate) fn by_required_rules(compiled: &'a Compiled, params: &'a [f64]) -> Choice {
        let mut known = Self::nothing(compiled, params);
        let rules = compiled.problem.rules();
        let equal: Vec<&Linear> = rules
            .filter(|(_, relation, level, _)| *relation == Relation::Equal && *level == Level::REQUIRED)
            .map(|(rule, ..)| rule)
            .collect();
        let mut readers = vec![(Vec::new(), Vec::new()); known.values.len()];
        for (index, rule) in equal.iter().enumerate() {
            rule.terms().iter().for_each(|(var, _)| readers[var.index()].0.push(index));
        }
        for (index, pick) in compiled.picks.iter().enumerate() {
            pick.of
                .iter()
                .flat_map(|arg| arg.terms())
                .for_each(|(var, _)| readers[var.index()].1.push(index));
        }
        let mut found: Vec<usize> = (0..compiled.picks.len()).filter_map(|p| known.decide(p)).collect();
        found.extend(equal.iter().filter_map(|rule| known.solve(rule)));
        while let Some(var) = found.pop() {
            let (rules, picks) = &readers[var];
            found.extend(rules.iter().filter_map(|&rule| known.solve(equal[rule])));
            found.extend(picks.iter().filter_map(|&pick| known.decide(pick)));
        }
        known.choice
    }

    fn nothing(compiled: &'a Compiled, params: &'a [f64]) -> Self {
        let values = vec![None; compiled.problem.variable_count()];
        Self { compiled, params, values, choice: vec![None; compiled.picks.len()] }
    }

    fn value(&self, expr: &Linear) -> Option<f64> {
        let terms = expr.terms().iter().map(|(v, c)| self.values[v.index()].map(|value| c * value));
        terms.sum::<Option<f64>>().map(|sum| sum + known_part(expr, self.params))
    }

    /// Decides a `max` or `min` of which all arguments are known; the variable that is known by it.
    fn decide(&mut self, index: usize) -> Option<usize> {
        let MinMaxNode { var, of, is_max, .. } = &self.compiled.picks[index];
        if self.choice[index].is_some() {
            return None;
        }
        let of: Vec<f64> = of.iter().map(|arg| self.value(arg)).collect::<Option<_>>()?;
        let better = |a: f64, b: f64| if *is_max { a > b } else { a < b };
        let chosen = (1..of.len()).fold(0, |best, i| if better(of[i], of[best]) { i } else { best });
        self.choice[index] = Some(chosen);
        self.set(var.index(), of[chosen])
    }

    /// Solves an equality of which all but one variable are known; the variable that is known by it.
    fn solve(&mut self, rule: &Linear) -> Option<usize> {
        let mut unknown = rule.terms().iter().filter(|(var, _)| self.values[var.index()].is_none());
        let (Some((var, factor)), None) = (unknown.next(), unknown.next()) else { return None };
        let known = rule.terms().iter().filter_map(|(v, c)| self.values[v.index()].map(|value| c * value));
        let rest = known.sum::<f64>() + known_part(rule, self.params);
        self.set(var.index(), -rest / factor)
    }

    fn set(&mut self, var: usize, value: f64) -> Option<usize> {
        let is_new = self.values[var].is_none() && value.is_finite();
        if is_new {
            self.values[var] = Some(value);
        }
        is_new.then_some(var)
    }
}
