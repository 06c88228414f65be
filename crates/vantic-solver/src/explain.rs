//! Why a value is what it is, and the proof that no level can be better.

use crate::diagnose::Free;
use crate::lex::Stage;
use crate::plan::{Outcome, Plan};
use crate::problem::{ParamId, ProblemError, RuleId, VarId};
use crate::region::Reason;
use crate::rows::{Row, Use};
use crate::simplex::Search;
use crate::tolerance::BORDER_STEP;
use crate::verify::Check;
use std::collections::{BTreeMap, BTreeSet};

/// What decides a variable, as long as the parameters stay in the present region.
#[derive(Clone, Debug, PartialEq)]
pub struct Explanation {
    /// What holds it, directly or through others, in order: with the change of the variable per unit
    /// that is added to the rule's constant.
    pub reasons: Vec<(Reason, f64)>,
    /// The change per unit of each parameter that it depends on.
    pub params: Vec<(ParamId, f64)>,
}

/// How a variable follows something that is lowered or raised: its change per unit, counted as the
/// other rises. On the border of a region the two differ.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Sides {
    /// While it is lowered.
    pub lowered: f64,
    /// While it is raised.
    pub raised: f64,
}

/// What a variable may follow.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum Cause {
    /// What is added to a rule's constant.
    Rule(RuleId),
    /// A parameter.
    Parameter(ParamId),
}

impl Explanation {
    /// The change of the variable per unit of a cause.
    fn rate_of(&self, cause: Cause) -> f64 {
        let found = match cause {
            Cause::Rule(rule) => self.reasons.iter().find(|r| r.0 == Reason::Rule(rule)).map(|r| r.1),
            Cause::Parameter(param) => self.params.iter().find(|p| p.0 == param).map(|p| p.1),
        };
        found.unwrap_or(0.0)
    }
}

/// The proof that no level can be better: one factor per level for the rules and givens that take
/// part (duality of linear programming, level by level).
///
/// On each level, the rules' expressions times their factors, plus the given variables times
/// theirs, leave no variable. And a factor never promises more than a rule costs: read from the
/// strongest level on, it lies between what a unit below and a unit above costs, and is exactly that
/// where the rule is violated. [`crate::verify`] checks both.
#[derive(Clone, Debug, PartialEq)]
pub struct Certificate {
    /// Per rule: its factor on each level. Rules without factors are left out.
    pub rules: BTreeMap<usize, Vec<f64>>,
    /// Per variable that is given to be at least zero: its factor on each level.
    pub givens: BTreeMap<usize, Vec<f64>>,
}

/// A free range with the proof of its ends.
///
/// Each end is proven by the answer to a problem of its own, with its certificate: the musts and
/// levels (and for an ambiguous variable each rule's own violation) kept as good as they are, and a
/// wish for one more than the end, which is missed by one. Where there is no end, it is a step that
/// can be made for ever.
#[derive(Clone, Debug, PartialEq)]
pub struct ProvenRange {
    /// The range.
    pub free: Free,
    /// The proof of its lower end.
    pub low: (Outcome, Certificate),
    /// The proof of its upper end.
    pub high: (Outcome, Certificate),
}

fn rule_of(reason: Reason) -> Option<Cause> {
    if let Reason::Rule(rule) = reason { Some(Cause::Rule(rule)) } else { None }
}

impl Plan {
    /// Proves the range of a free variable, as [`Plan::diagnose`] found it at the present parameters,
    /// for [`crate::verify`] to check.
    ///
    /// # Errors
    /// A variable that this plan does not have; a plan that is not solved.
    pub fn prove_range(&self, free: &Free) -> Result<ProvenRange, ProblemError> {
        self.slot(free.var)?;
        if !self.is_standing() {
            return Err(ProblemError::NotSolved);
        }
        let (problem, outcome) = (self.problem(), self.outcome());
        let params = &self.search.values[..self.search.rows.params as usize];
        let claims = Check::<f64>::new(&problem, params);
        let prove = |up: bool| {
            let mut plan = Plan::new(&claims.end_as_problem(&outcome, free, up));
            plan.solve(params)?;
            Ok((plan.outcome(), plan.certificate()))
        };
        Ok(ProvenRange { free: free.clone(), low: prove(false)?, high: prove(true)? })
    }

    /// What decides a variable, and by how much.
    ///
    /// # Errors
    /// A variable that this plan does not have; a plan that is not solved.
    pub fn explain(&mut self, var: VarId) -> Result<Explanation, ProblemError> {
        let slot = self.slot(var)?;
        if !self.is_standing() {
            return Err(ProblemError::NotSolved);
        }
        self.bring_up_to_date();
        let search = &mut self.search;
        let sum = std::iter::once((slot, 1.0));
        let basis = &search.state.basis;
        let held = basis.in_tight_rows(&search.rows, sum.clone(), |_| true, &mut search.scratch);
        let (params, _) = basis.in_parameters(&search.rows, sum, 0.0, &mut search.scratch);
        let mut reasons: Vec<(Reason, f64)> = held
            .iter()
            .map(|&(slot, rate)| (self.reason(self.search.state.basis.row_at(slot)), -rate))
            .collect();
        reasons.sort_by_key(|r| r.0);
        let params = params.into_iter().map(|(p, c)| (ParamId(p), c)).collect();
        Ok(Explanation { reasons, params })
    }

    /// What a variable follows, and how while that is lowered and raised. The two differ only where
    /// some rule is just about to hold or to give way; there both sides are solved.
    ///
    /// # Errors
    /// A variable that this plan does not have; a plan that is not solved.
    pub fn sensitivities(&mut self, var: VarId) -> Result<Vec<(Cause, Sides)>, ProblemError> {
        let here = self.explain(var)?;
        let mut causes: BTreeSet<Cause> = here.params.iter().map(|p| Cause::Parameter(p.0)).collect();
        causes.extend(here.reasons.iter().filter_map(|r| rule_of(r.0)));
        let mut border: Vec<Row> = self.regions.watches().into_iter().map(|w| w.row).collect();
        border.retain(|&row| self.search.row_value(row) == 0.0);
        for &row in &border {
            let Search { rows, state, scratch, .. } = &mut self.search;
            let (slots, coefficients) = rows.terms(row);
            let sum = slots.iter().copied().zip(coefficients.iter().copied());
            let held = state.basis.in_tight_rows(rows, sum.clone(), |_| true, scratch);
            let (params, _) = state.basis.in_parameters(rows, sum, 0.0, scratch);
            let holding: Vec<Row> = held.iter().map(|h| state.basis.row_at(h.0)).chain([row]).collect();
            causes.extend(holding.into_iter().filter_map(|row| rule_of(self.reason(row))));
            causes.extend(params.into_iter().map(|p| Cause::Parameter(ParamId(p.0))));
        }
        let step = BORDER_STEP * self.search.scale;
        let mut found = Vec::new();
        for cause in causes {
            let side = |by: f64| match border.is_empty() {
                true => Ok(here.rate_of(cause)),
                false => Ok(self.nudged(cause, by)?.explain(var)?.rate_of(cause)),
            };
            let sides = Sides { lowered: side(-step)?, raised: side(step)? };
            found.extend(Some((cause, sides)).filter(|_| sides.lowered != 0.0 || sides.raised != 0.0));
        }
        Ok(found)
    }

    /// This plan with a little more of a cause.
    fn nudged(&self, cause: Cause, by: f64) -> Result<Plan, ProblemError> {
        let mut plan = self.clone();
        match cause {
            Cause::Rule(rule) => plan.shift_constant(rule, by)?,
            Cause::Parameter(param) => {
                let mut params = self.search.values[..self.search.rows.params as usize].to_vec();
                params[param.index()] += by;
                plan.solve(&params)?;
            }
        }
        Ok(plan)
    }

    /// The proof that no level can be better than it is; empty where the plan is not solved.
    pub fn certificate(&mut self) -> Certificate {
        self.bring_up_to_date();
        let levels = self.outcome().level_totals.len();
        let mut certificate = Certificate { rules: BTreeMap::new(), givens: BTreeMap::new() };
        if !self.is_standing() {
            return certificate;
        }
        for level in 0..levels {
            let stage = Stage::level(level as u32);
            let search = &mut self.search;
            // What every violated rule of the level gains per unit, as one sum over variables.
            let mut gain: BTreeMap<u32, f64> = BTreeMap::new();
            let mut factors: Vec<(Row, f64)> = Vec::new();
            for &index in search.rows.rule_rows() {
                let row = Row(index);
                if search.state.basis.is_tight(row) || search.rows.stored(index as usize).used != Use::Rule {
                    continue;
                }
                let value = search.row_value(row);
                let above = if value == 0.0 { search.state.side(row) > 0 } else { value > 0.0 };
                let idle = value == 0.0 && search.state.side(row) == 0;
                if !idle && search.rows.stage(row, above) == Some(stage) {
                    let factor = if above { search.rows.weight(row) } else { -search.rows.weight(row) };
                    factors.push((row, factor));
                    for (slot, c) in search.rows.variable_terms(row) {
                        *gain.entry(slot).or_insert(0.0) += factor * c;
                    }
                }
            }
            let sum: Vec<(u32, f64)> = gain.into_iter().collect();
            let held = search.state.basis.in_tight_rows(
                &search.rows,
                sum.iter().copied(),
                |_| true,
                &mut search.scratch,
            );
            factors.extend(held.into_iter().map(|(slot, f)| (search.state.basis.row_at(slot), -f)));
            for (row, factor) in factors {
                let list = match self.reason(row) {
                    Reason::Rule(rule) => certificate.rules.entry(rule.index()),
                    Reason::Given(var) => certificate.givens.entry(var.index()),
                    // Settling steps cost nothing on any level.
                    Reason::Settle(_) | Reason::Unruled(_) => continue,
                };
                list.or_insert_with(|| vec![0.0; levels])[level] = factor;
            }
        }
        certificate
    }
}
