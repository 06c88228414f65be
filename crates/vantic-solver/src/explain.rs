//! Why a value is what it is, and the proof that no level can be better.

use crate::lex::Stage;
use crate::plan::Plan;
use crate::problem::{ParamId, ProblemError, VarId};
use crate::region::Reason;
use crate::rows::{Row, Use};
use std::collections::BTreeMap;

/// What decides a variable, as long as the parameters stay in the present region.
#[derive(Clone, Debug, PartialEq)]
pub struct Explanation {
    /// What holds it, directly or through others, in order: with the change of the variable per unit
    /// that is added to the rule's constant.
    pub reasons: Vec<(Reason, f64)>,
    /// The change per unit of each parameter that it depends on.
    pub params: Vec<(ParamId, f64)>,
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

impl Plan {
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
