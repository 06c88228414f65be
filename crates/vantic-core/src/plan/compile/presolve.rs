//! Which argument of each `max` and `min` is decided before anything is searched: by the display
//! alone, or by required rules that leave one value each.
//!
//! What becomes known from what is the same whatever the numbers are; it is worked out once, as steps. The same tells
//! what arrangements choose by, where required rules alone decide that.

use crate::plan::compile::origins::MinMaxNode;
use vantic_solver::{Affine, Level, Linear, ParamId, Problem, Relation, VarId};

/// What each `max` and `min` is chosen to be, if anything.
pub(crate) type Choice = Vec<Option<usize>>;

/// How what is known spreads from rule to rule.
#[derive(Clone, Debug, Default)]
pub(crate) struct Presolve {
    steps: Vec<Step>,
    /// How many of them, the first ones, the display alone decides.
    by_display: usize,
}

#[derive(Clone, Debug)]
enum Step {
    /// All arguments of a `max` or `min` are known, and perhaps what it stands for is already.
    Decide { pick: usize, is_new: bool },
    /// All but one variable of a required rule are known.
    Solve(VarId, Linear),
}

impl Presolve {
    /// The steps for a problem, as long as all required rules hold.
    pub(crate) fn new(problem: &Problem, picks: &[MinMaxNode]) -> Self {
        let spread = Spread::new(problem, picks, &|_| false);
        let by_display = spread.by_display;
        Self { steps: spread.needed(), by_display }
    }

    /// What the display alone decides.
    pub(crate) fn by_display(&self, picks: &[MinMaxNode], params: &[f64]) -> Choice {
        let (mut values, mut choice) = (Vec::new(), Choice::new());
        Self::run(&self.steps[..self.by_display], picks, params, &mut values, &mut choice);
        choice
    }

    /// What the display and required rules that are equalities decide, into a list that is used again, as are the values
    /// of the variables.
    pub(crate) fn by_required_rules(
        &self,
        picks: &[MinMaxNode],
        params: &[f64],
        values: &mut Vec<f64>,
        choice: &mut Choice,
    ) {
        Self::run(&self.steps, picks, params, values, choice);
    }

    fn run(steps: &[Step], picks: &[MinMaxNode], params: &[f64], values: &mut Vec<f64>, choice: &mut Choice) {
        choice.clear();
        choice.resize(picks.len(), None);
        let set = |values: &mut Vec<f64>, var: VarId, value: f64| {
            if values.len() <= var.index() {
                values.resize(var.index() + 1, f64::NAN);
            }
            values[var.index()] = value;
        };
        for step in steps {
            match step {
                Step::Solve(var, value) => {
                    let value = value_of(value, values, params);
                    set(values, *var, value);
                }
                Step::Decide { pick, is_new } => {
                    let MinMaxNode { var, of, is_max, .. } = &picks[*pick];
                    let mut best: Option<(usize, f64)> = None;
                    let mut is_known = true;
                    for (index, arg) in of.iter().enumerate() {
                        let value = value_of(arg, values, params);
                        is_known &= value.is_finite();
                        let is_better = |best: f64| if *is_max { value > best } else { value < best };
                        if best.is_none_or(|(_, best)| is_better(best)) {
                            best = Some((index, value));
                        }
                    }
                    let best = best.filter(|_| is_known);
                    choice[*pick] = best.map(|(index, _)| index);
                    if *is_new {
                        set(values, *var, best.map_or(f64::NAN, |(_, value)| value));
                    }
                }
            }
        }
    }
}

/// What is known so far, and from what.
struct Spread<'a> {
    picks: &'a [MinMaxNode],
    /// The parameters that are not known yet.
    settles: &'a dyn Fn(ParamId) -> bool,
    is_known: Vec<bool>,
    is_decided: Vec<bool>,
    steps: Vec<Step>,
    /// How many of them the display alone decides.
    by_display: usize,
}

impl<'a> Spread<'a> {
    fn new(problem: &Problem, picks: &'a [MinMaxNode], settles: &'a dyn Fn(ParamId) -> bool) -> Self {
        let is_required = |relation, level: Level| relation == Relation::Equal && level == Level::REQUIRED;
        let equal = problem.rules().filter(|(_, relation, level, _)| is_required(*relation, *level));
        let equal: Vec<&Linear> = equal.map(|(rule, ..)| rule).collect();
        let mut spread = Self {
            picks,
            settles,
            is_known: vec![false; problem.variable_count()],
            is_decided: vec![false; picks.len()],
            steps: Vec::new(),
            by_display: 0,
        };
        let mut readers = vec![(Vec::new(), Vec::new()); problem.variable_count()];
        for (index, rule) in equal.iter().enumerate() {
            rule.terms().iter().for_each(|(var, _)| readers[var.index()].0.push(index));
        }
        for (index, pick) in picks.iter().enumerate() {
            let read = pick.of.iter().flat_map(|arg| arg.terms());
            read.for_each(|(var, _)| readers[var.index()].1.push(index));
        }
        // Those within others come first.
        let mut found: Vec<usize> = (0..picks.len()).filter_map(|pick| spread.decide(pick)).collect();
        spread.by_display = spread.steps.len();
        found.extend(equal.iter().filter_map(|rule| spread.solve(rule)));
        while let Some(var) = found.pop() {
            let (rules, picks) = &readers[var];
            found.extend(rules.iter().filter_map(|&rule| spread.solve(equal[rule])));
            found.extend(picks.iter().filter_map(|&pick| spread.decide(pick)));
        }
        spread
    }

    /// Whether it is known what an expression comes out as.
    fn knows(&self, of: &Linear) -> bool {
        of.terms().iter().all(|(var, _)| self.is_known[var.index()]) && !self.waits(of)
    }

    /// Whether an expression reads parameters that are not known yet.
    fn waits(&self, of: &Linear) -> bool {
        of.affine().terms().iter().any(|(param, _)| (self.settles)(*param))
    }

    /// Decides a `max` or `min` of which all arguments are known; the variable that is known by it.
    fn decide(&mut self, index: usize) -> Option<usize> {
        let MinMaxNode { var, of, .. } = &self.picks[index];
        if self.is_decided[index] || !of.iter().all(|arg| self.knows(arg)) {
            return None;
        }
        self.is_decided[index] = true;
        let found = self.set(*var);
        self.steps.push(Step::Decide { pick: index, is_new: found.is_some() });
        found
    }

    /// Solves an equality of which all but one variable are known; the variable that is known by it.
    fn solve(&mut self, rule: &Linear) -> Option<usize> {
        let mut unknown = rule.terms().iter().filter(|(var, _)| !self.is_known[var.index()]);
        let (Some(&(var, factor)), None) = (unknown.next(), unknown.next()) else { return None };
        if self.waits(rule) {
            return None;
        }
        let rest = rule.terms().iter().filter(|(v, _)| *v != var);
        let terms = rest.map(|(v, c)| (*v, -c / factor)).collect();
        let affine = rule.affine();
        let of_params = affine.terms().iter();
        let number = Affine::constant(-affine.number() / factor);
        let value = Linear::new(terms, of_params.fold(number, |sum, (p, c)| sum.plus_param(*p, -c / factor)));
        self.steps.push(Step::Solve(var, value));
        self.set(var)
    }

    fn set(&mut self, var: VarId) -> Option<usize> {
        let is_new = !self.is_known[var.index()];
        self.is_known[var.index()] = true;
        is_new.then_some(var.index())
    }

    /// The steps without those that no `max` or `min` needs.
    fn needed(self) -> Vec<Step> {
        let mut is_read = vec![false; self.is_known.len()];
        let mut needed = Vec::new();
        for step in self.steps.into_iter().rev() {
            let read = match &step {
                Step::Solve(var, _) if !is_read[var.index()] => continue,
                Step::Solve(_, value) => std::slice::from_ref(value),
                Step::Decide { pick, .. } => &self.picks[*pick].of,
            };
            read.iter().flat_map(|of| of.terms()).for_each(|(var, _)| is_read[var.index()] = true);
            needed.push(step);
        }
        needed.reverse();
        needed
    }
}

/// How many parameters may decide something that is known before anything is solved.
const MAX_TERMS: usize = 16;

/// What required rules decide from the parameters alone, without some of these, as long as all of them hold.
pub(crate) struct Decided(Vec<Option<Affine>>);

impl Decided {
    pub(crate) fn new(problem: &Problem, settles: &dyn Fn(ParamId) -> bool) -> Self {
        let spread = Spread::new(problem, &[], settles);
        let mut decided = Self(vec![None; problem.variable_count()]);
        for step in &spread.steps {
            if let Step::Solve(var, value) = step {
                decided.0[var.index()] = decided.of(value, settles);
            }
        }
        decided
    }

    /// What an expression comes out as, if it is decided, by [`MAX_TERMS`] parameters at most.
    pub(crate) fn of(&self, expr: &Linear, settles: &dyn Fn(ParamId) -> bool) -> Option<Affine> {
        let mut number = expr.affine().number();
        let mut terms: Vec<(ParamId, f64)> = Vec::new();
        let mut add = |known: &Affine, c: f64| {
            for &(param, k) in known.terms() {
                match terms.iter_mut().find(|(of, _)| *of == param) {
                    Some((_, sum)) => *sum += c * k,
                    None => terms.push((param, c * k)),
                }
            }
            terms.retain(|(_, c)| *c != 0.0);
            terms.len() <= MAX_TERMS
        };
        let mut is_decided = add(expr.affine(), 1.0);
        for (var, c) in expr.terms() {
            let value = self.0[var.index()].as_ref()?;
            number += c * value.number();
            is_decided &= add(value, *c);
            if !is_decided {
                return None;
            }
        }
        let is_known = is_decided && !terms.iter().any(|(param, _)| settles(*param));
        is_known.then(|| terms.into_iter().fold(Affine::constant(number), |sum, (p, c)| sum.plus_param(p, c)))
    }
}

/// What an expression comes out as.
pub(crate) fn value_of(expr: &Linear, values: &[f64], params: &[f64]) -> f64 {
    expr.terms().iter().map(|(v, c)| c * values[v.index()]).sum::<f64>() + known_part(expr.affine(), params)
}

/// What is known of an expression comes out as.
pub(crate) fn known_part(affine: &Affine, params: &[f64]) -> f64 {
    affine.number() + affine.terms().iter().map(|(p, c)| c * params[p.index()]).sum::<f64>()
}
