//! Why a value is what it is, and the proof that no level can be better.

use crate::certificate::{Certificate, ProvenRange};
use crate::diagnose::{Free, FreeKind};
use crate::lex::Stage;
use crate::plan::{Outcome, Plan};
use crate::problem::{Affine, Level, Linear, ParamId, Problem, ProblemError, Relation, Rule, RuleId, VarId};
use crate::reason::Reason;
use crate::rows::{Row, Use};
use crate::simplex::Search;
use crate::tolerance::BORDER_STEP;
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

fn rule_of(reason: Reason) -> Option<Cause> {
    if let Reason::Rule(rule) = reason { Some(Cause::Rule(rule)) } else { None }
}

impl Plan {
    /// Proves the range of a free variable, as [`Plan::diagnose`] found it at the present parameters,
    /// for [`crate::verify()`] to check.
    ///
    /// # Errors
    /// A variable that this plan does not have; a plan that is not solved.
    pub fn prove_range(&self, free: &Free) -> Result<ProvenRange, ProblemError> {
        self.slot(free.var)?;
        if !self.is_solved() {
            return Err(ProblemError::NotSolved);
        }
        let (problem, outcome) = (self.problem(), self.outcome());
        let params = &self.search.values[..self.search.rows.params as usize];
        let prove = |up: bool| {
            let mut plan = Plan::new(&self.end_claim(&problem, &outcome, free, up));
            plan.solve(params)?;
            Ok((plan.outcome(), plan.certificate()))
        };
        Ok(ProvenRange { free: free.clone(), low: prove(false)?, high: prove(true)? })
    }

    /// The problem whose answer proves one end of a free range. The checker states it on its own, so that
    /// neither can hide a mistake of the other.
    fn end_claim(&self, problem: &Problem, outcome: &Outcome, free: &Free, up: bool) -> Problem {
        let (end, step) = match up {
            true => (free.range.1, 1.0),
            false => (free.range.0, -1.0),
        };
        let rows = &self.search.rows;
        let kept_as_good = |(index, rule): (usize, &Rule)| {
            let Rule { expr, relation, level, weight } = rule.clone();
            let is_kept = level == Level::REQUIRED || free.kind == FreeKind::Ambiguous;
            match end {
                // For ever: the direction alone counts, so constants go.
                None => Rule {
                    expr: Linear::new(expr.terms().to_vec(), Affine::default()),
                    relation,
                    level: Level::REQUIRED,
                    weight,
                },
                Some(_) if is_kept => {
                    let value = self.search.row_value(Row(rows.rule_rows()[index]));
                    let by = -outcome.violations[index].copysign(value);
                    Rule { expr: expr.plus(by), relation, level: Level::REQUIRED, weight }
                }
                Some(_) => Rule { expr, relation, level, weight },
            }
        };
        let mut rules: Vec<Rule> = problem.rules.iter().enumerate().map(kept_as_good).collect();
        let below_all = rules.iter().map(|r| r.level.index() as u32).max().unwrap_or(0) + 1;
        let (relation, level) = match (end, up) {
            (None, _) => (Relation::Equal, Level::REQUIRED),
            (Some(_), true) => (Relation::AtLeast, Level::preference(below_all)),
            (Some(_), false) => (Relation::AtMost, Level::preference(below_all)),
        };
        let wish = Linear::of(free.var).plus(-(end.unwrap_or(0.0) + step));
        rules.push(Rule { expr: wish, relation, level, weight: 1.0 });
        Problem { rules, settle: Vec::new(), watched: Vec::new(), ..problem.clone() }
    }

    /// What decides a variable, and by how much.
    ///
    /// # Errors
    /// A variable that this plan does not have; a plan that is not solved.
    pub fn explain(&mut self, var: VarId) -> Result<Explanation, ProblemError> {
        let slot = self.slot(var)?;
        if !self.is_solved() {
            return Err(ProblemError::NotSolved);
        }
        self.refresh();
        let held = self.search.in_tight_rows(&[(slot, 1.0)]);
        let Search { rows, state, scratch, .. } = &mut self.search;
        let (params, _) = state.basis.in_parameters(rows, std::iter::once((slot, 1.0)), 0.0, scratch);
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
        let mut border: Vec<Row> = self.critical_regions.watches().into_iter().map(|w| w.row).collect();
        border.retain(|&row| self.search.row_value(row) == 0.0);
        for &row in &border {
            let (slots, coefficients) = self.search.rows.terms(row);
            let sum: Vec<(u32, f64)> = slots.iter().copied().zip(coefficients.iter().copied()).collect();
            let held = self.search.in_tight_rows(&sum);
            let Search { rows, state, scratch, .. } = &mut self.search;
            let (params, _) = state.basis.in_parameters(rows, sum.iter().copied(), 0.0, scratch);
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
        self.refresh();
        let levels = self.outcome().level_totals.len();
        let mut certificate = Certificate { rules: BTreeMap::new(), nonnegatives: BTreeMap::new() };
        if !self.is_solved() {
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
            let held = search.in_tight_rows(&sum);
            factors.extend(held.into_iter().map(|(slot, f)| (search.state.basis.row_at(slot), -f)));
            for (row, factor) in factors {
                let list = match self.reason(row) {
                    Reason::Rule(rule) => certificate.rules.entry(rule.index()),
                    Reason::Nonnegative(var) => certificate.nonnegatives.entry(var.index()),
                    // Settling steps cost nothing on any level.
                    Reason::Settle(_) | Reason::Unruled(_) => continue,
                };
                list.or_insert_with(|| vec![0.0; levels])[level] = factor;
            }
        }
        certificate
    }
}
