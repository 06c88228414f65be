//! The problem: variables, parameters, rules and settling steps; checked here and nowhere else.

use crate::tolerance::ENTRY;
use std::ops::Sub;

macro_rules! id {
    ($(#[$doc:meta])* $name:ident) => {
        $(#[$doc])*
        #[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
        pub struct $name(pub(crate) u32);

        impl $name {
            /// The position in the table this id belongs to, counted from 0 in order of creation.
            pub fn index(self) -> usize {
                self.0 as usize
            }
        }
    };
}
id!(
    /// One unknown of a problem.
    VarId
);
id!(
    /// One parameter of a problem: known when it is solved, not when it is built.
    ParamId
);
id!(
    /// One rule of a problem, numbered in written order.
    RuleId
);

/// A number that depends on the parameters: `constant + sum of coefficient * parameter`.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Affine {
    pub(crate) constant: f64,
    terms: Vec<(ParamId, f64)>,
}

impl Affine {
    /// A plain number.
    pub fn constant(constant: f64) -> Self {
        Self { constant, terms: Vec::new() }
    }

    /// The parameter itself.
    pub fn of(param: ParamId) -> Self {
        Self { constant: 0.0, terms: vec![(param, 1.0)] }
    }

    /// This number plus `coefficient * param`.
    pub fn plus_param(mut self, param: ParamId, coefficient: f64) -> Self {
        self.terms.push((param, coefficient));
        self
    }

    /// The part that depends on nothing.
    pub fn number(&self) -> f64 {
        self.constant
    }

    /// The parameters with their coefficients.
    pub fn terms(&self) -> &[(ParamId, f64)] {
        &self.terms
    }

    fn is_finite(&self) -> bool {
        self.constant.is_finite() && self.terms.iter().all(|t| t.1.is_finite())
    }
}

/// A linear expression: `sum of coefficient * variable`, plus a number that may depend on parameters.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Linear {
    pub(crate) terms: Vec<(VarId, f64)>,
    pub(crate) constant: Affine,
}

impl Linear {
    /// The variable itself.
    pub fn of(var: VarId) -> Self {
        Self { terms: vec![(var, 1.0)], constant: Affine::default() }
    }

    /// An expression from its parts. A variable may be named more than once.
    pub fn new(terms: Vec<(VarId, f64)>, constant: Affine) -> Self {
        Self { terms, constant }
    }

    /// This expression plus a number.
    pub fn plus(mut self, number: f64) -> Self {
        self.constant.constant += number;
        self
    }

    /// This expression plus `coefficient * var`.
    pub fn plus_var(mut self, var: VarId, coefficient: f64) -> Self {
        self.terms.push((var, coefficient));
        self
    }

    /// This expression plus a number that may depend on parameters.
    pub(crate) fn plus_affine(mut self, known: Affine) -> Self {
        self.constant.constant += known.constant;
        self.constant.terms.extend(known.terms);
        self
    }

    /// This expression less another.
    pub fn less(mut self, other: Linear) -> Self {
        self.terms.extend(other.terms.into_iter().map(|(v, c)| (v, -c)));
        self - other.constant
    }

    /// Repeated variables and parameters joined, those that cancel dropped, in order.
    pub(crate) fn tidy(self) -> Self {
        let constant = Affine { constant: self.constant.constant, terms: joined(self.constant.terms) };
        Self { terms: joined(self.terms), constant }
    }

    /// Whether an expression has finite numbers, and ids below these counts only.
    pub(crate) fn check(&self, variables: usize, params: u32) -> Result<(), ProblemError> {
        if !self.constant.is_finite() || self.terms.iter().any(|t| !t.1.is_finite()) {
            return Err(ProblemError::NotFinite);
        }
        let known = self.terms.iter().all(|t| t.0.index() < variables)
            && self.constant.terms.iter().all(|t| t.0.0 < params);
        if known { Ok(()) } else { Err(ProblemError::UnknownId) }
    }

    /// What is added to the variables.
    pub fn affine(&self) -> &Affine {
        &self.constant
    }

    /// The part that depends on parameters.
    pub(crate) fn params(&self) -> &[(ParamId, f64)] {
        &self.constant.terms
    }

    /// The variables with their coefficients, as they were written.
    pub fn terms(&self) -> &[(VarId, f64)] {
        &self.terms
    }

    /// The part that depends on nothing.
    pub fn number(&self) -> f64 {
        self.constant.constant
    }

    /// How many variables and parameters there are in it.
    pub(crate) fn len(&self) -> usize {
        self.terms.len() + self.constant.terms.len()
    }
}

fn joined<K: Ord>(mut terms: Vec<(K, f64)>) -> Vec<(K, f64)> {
    // Stable, so that what is repeated is added up in the order in which it was written.
    terms.sort_by(|a, b| a.0.cmp(&b.0));
    terms.dedup_by(|next, kept| {
        let same = next.0 == kept.0;
        if same {
            kept.1 += next.1;
        }
        same
    });
    terms.retain(|t| t.1.abs() > ENTRY);
    terms
}

impl Sub<Affine> for Linear {
    type Output = Linear;
    fn sub(mut self, known: Affine) -> Linear {
        self.constant.constant -= known.constant;
        self.constant.terms.extend(known.terms.into_iter().map(|(p, c)| (p, -c)));
        self
    }
}

/// How a rule's expression relates to zero.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Relation {
    /// The expression is zero. Violation: its absolute value.
    Equal,
    /// The expression is at most zero. Violation: the amount above.
    AtMost,
    /// The expression is at least zero. Violation: the amount below.
    AtLeast,
}

impl Relation {
    /// The violation where the rule's expression has this value.
    pub fn violation(self, value: f64) -> f64 {
        match self {
            Relation::Equal => value.abs(),
            Relation::AtMost => value.max(0.0),
            Relation::AtLeast => (-value).max(0.0),
        }
    }
}

/// The weakest level of preference that a problem may have.
pub const MAX_LEVEL: u32 = 1000;

/// How strongly a rule is meant. Smaller is stronger.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub struct Level(pub(crate) u32);

impl Level {
    /// A rule that has to hold.
    pub const REQUIRED: Level = Level(0);

    /// The `number`-th level of preference, counted from 1; 0 gives a required rule.
    pub fn preference(number: u32) -> Level {
        Level(number)
    }

    /// The position in [`crate::Outcome::level_totals`].
    pub fn index(self) -> usize {
        self.0 as usize
    }
}

#[derive(Clone, Debug)]
pub(crate) struct Rule {
    pub(crate) expr: Linear,
    pub(crate) relation: Relation,
    pub(crate) level: Level,
    pub(crate) weight: f64,
}

/// One step in settling what the rules leave open: an expression brought as near to zero as it
/// can be.
#[derive(Clone, Debug)]
pub struct Settle(pub(crate) Linear);

impl Settle {
    /// Make `|own - toward|` least.
    pub fn near(own: Linear, toward: Linear) -> Self {
        Self(own.less(toward))
    }

    /// Make `|var|` least.
    pub fn least(var: VarId) -> Self {
        Self(Linear::of(var))
    }
}

/// Why something was refused at the door.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum ProblemError {
    /// A coefficient, constant or parameter is infinite or not a number.
    NotFinite,
    /// A weight is not within 0.001 to 1000.
    Weight,
    /// A level beyond [`MAX_LEVEL`].
    Level,
    /// An id belongs to another problem.
    UnknownId,
    /// A rule or variable that was removed.
    Removed,
    /// The plan is not solved for any parameters.
    NotSolved,
    /// A variable that is to be removed, but this rule still reads it.
    StillRead(RuleId),
    /// The number of parameter values is not the number of parameters.
    ParameterCount {
        /// How many the problem has.
        expected: usize,
        /// How many were given.
        found: usize,
    },
}

impl std::fmt::Display for ProblemError {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        match self {
            Self::NotFinite => write!(f, "a number is infinite or not a number"),
            Self::Weight => write!(f, "a weight has to be within 0.001 to 1000"),
            Self::Level => write!(f, "a level has to be within 0 to {MAX_LEVEL}"),
            Self::UnknownId => write!(f, "an id belongs to another problem"),
            Self::Removed => write!(f, "the rule or variable was removed before"),
            Self::NotSolved => write!(f, "solve the plan for some parameters first"),
            Self::StillRead(rule) => {
                write!(f, "rule {} still reads the variable; remove it first", rule.index())
            }
            Self::ParameterCount { expected, found } => {
                write!(f, "expected {expected} parameter values, found {found}")
            }
        }
    }
}

impl std::error::Error for ProblemError {}

/// Collects the parts of a [`Problem`].
#[derive(Clone, Debug, Default)]
pub struct ProblemBuilder {
    problem: Problem,
}

impl ProblemBuilder {
    /// An empty problem.
    pub fn new() -> Self {
        Self::default()
    }

    /// A new parameter.
    pub fn parameter(&mut self) -> ParamId {
        self.problem.params += 1;
        ParamId(self.problem.params - 1)
    }

    /// A new variable that may take any value.
    pub fn variable(&mut self) -> VarId {
        self.problem.nonnegative.push(false);
        VarId(self.problem.nonnegative.len() as u32 - 1)
    }

    /// A new variable that is given to be at least zero, above every required rule.
    pub fn nonnegative_variable(&mut self) -> VarId {
        self.problem.nonnegative.push(true);
        VarId(self.problem.nonnegative.len() as u32 - 1)
    }

    /// A new rule `expr relation 0`.
    ///
    /// # Errors
    /// A number that is not finite, a weight outside 0.001 to 1000, a level beyond [`MAX_LEVEL`],
    /// an id of another problem.
    pub fn rule(
        &mut self,
        expr: Linear,
        relation: Relation,
        level: Level,
        weight: f64,
    ) -> Result<RuleId, ProblemError> {
        self.problem.check(&expr)?;
        check_strength(level, weight)?;
        self.problem.rules.push(Rule { expr: expr.tidy(), relation, level, weight });
        Ok(RuleId(self.problem.rules.len() as u32 - 1))
    }

    /// How many settling steps there are so far.
    pub fn settle_count(&self) -> usize {
        self.problem.settle.len()
    }

    /// Takes the settling steps from one on away again.
    pub fn take_settle(&mut self, from: usize) -> Vec<Settle> {
        self.problem.settle.split_off(from.min(self.problem.settle.len()))
    }

    /// Adds the next settling step.
    ///
    /// # Errors
    /// As for [`Self::rule`].
    pub fn settle(&mut self, step: Settle) -> Result<(), ProblemError> {
        self.problem.check(&step.0)?;
        self.problem.settle.push(Settle(step.0.tidy()));
        Ok(())
    }

    /// Watches a variable: [`crate::Plan::diagnose`] reports whether it is free. The order of the calls
    /// is the order in which root causes are reported from what follows from them.
    ///
    /// # Errors
    /// An id of another problem.
    pub fn watch(&mut self, var: VarId) -> Result<(), ProblemError> {
        if var.index() >= self.problem.nonnegative.len() {
            return Err(ProblemError::UnknownId);
        }
        self.problem.watched.push(var);
        Ok(())
    }

    /// The finished problem.
    pub fn build(self) -> Problem {
        self.problem
    }
}

pub(crate) fn check_strength(level: Level, weight: f64) -> Result<(), ProblemError> {
    if level.0 > MAX_LEVEL {
        return Err(ProblemError::Level);
    }
    if !(1e-3..=1e3).contains(&weight) {
        return Err(ProblemError::Weight);
    }
    Ok(())
}

/// Variables, rules and settling steps. Immutable; see [`ProblemBuilder`].
#[derive(Clone, Debug, Default)]
pub struct Problem {
    /// Per variable: whether it is given to be at least zero.
    pub(crate) nonnegative: Vec<bool>,
    pub(crate) params: u32,
    pub(crate) rules: Vec<Rule>,
    pub(crate) settle: Vec<Settle>,
    pub(crate) watched: Vec<VarId>,
}

impl Problem {
    /// How many rules there are.
    pub fn rule_count(&self) -> usize {
        self.rules.len()
    }

    /// How many variables there are.
    pub fn variable_count(&self) -> usize {
        self.nonnegative.len()
    }

    /// The rules in written order.
    pub fn rules(&self) -> impl Iterator<Item = (&Linear, Relation, Level, f64)> {
        self.rules.iter().map(|r| (&r.expr, r.relation, r.level, r.weight))
    }

    /// What the settling steps bring near to zero, in their order.
    pub fn settling(&self) -> impl Iterator<Item = &Linear> {
        self.settle.iter().map(|step| &step.0)
    }

    /// Some of its rules alone, with other relations and levels, over the same variables and parameters, with
    /// settling steps of its own; nothing is watched. A rule is known there by its position among those
    /// given.
    ///
    /// # Errors
    /// A level beyond [`MAX_LEVEL`], and what belongs to another problem.
    pub fn part(
        &self,
        rules: impl Iterator<Item = (RuleId, Relation, Level)>,
        settle: impl Iterator<Item = Settle>,
    ) -> Result<Problem, ProblemError> {
        let rule = |(id, relation, level): (RuleId, Relation, Level)| {
            let rule = self.rules.get(id.index()).ok_or(ProblemError::UnknownId)?;
            check_strength(level, rule.weight)?;
            Ok(Rule { relation, level, ..rule.clone() })
        };
        let rules: Result<Vec<Rule>, ProblemError> = rules.map(rule).collect();
        let (nonnegative, params) = (self.nonnegative.clone(), self.params);
        let mut builder =
            ProblemBuilder { problem: Problem { nonnegative, params, rules: rules?, ..Problem::default() } };
        settle.into_iter().try_for_each(|step| builder.settle(step))?;
        Ok(builder.build())
    }

    /// The same problem with other relations and levels of its rules.
    ///
    /// # Errors
    /// A level beyond [`MAX_LEVEL`].
    pub fn adjusted(
        &self,
        mut adjust: impl FnMut(RuleId, Relation, Level) -> (Relation, Level),
    ) -> Result<Problem, ProblemError> {
        let mut problem = self.clone();
        for (index, rule) in problem.rules.iter_mut().enumerate() {
            (rule.relation, rule.level) = adjust(RuleId(index as u32), rule.relation, rule.level);
            check_strength(rule.level, rule.weight)?;
        }
        Ok(problem)
    }

    /// The same problem with other settling steps from one on, such as [`ProblemBuilder::take_settle`] took away.
    ///
    /// # Errors
    /// As for [`ProblemBuilder::settle`].
    pub fn settled_otherwise(mut self, from: usize, steps: &[Settle]) -> Result<Problem, ProblemError> {
        steps.iter().try_for_each(|step| self.check(&step.0))?;
        self.settle.truncate(from);
        self.settle.extend_from_slice(steps);
        Ok(self)
    }

    /// Whether a variable, by its number, is given to be at least zero.
    pub fn is_nonnegative(&self, variable: usize) -> bool {
        self.nonnegative.get(variable).copied().unwrap_or(false)
    }

    /// Whether an expression has finite numbers and ids of this problem only.
    pub(crate) fn check(&self, expr: &Linear) -> Result<(), ProblemError> {
        expr.check(self.nonnegative.len(), self.params)
    }
}
