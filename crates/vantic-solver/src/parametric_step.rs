//! How everything moves as the parameters do, and up to where that stays so.

use crate::plan::Plan;
use crate::problem::ProblemError;
use crate::reason::Reason;
use crate::tolerance::CANCELLED;

/// How the answer goes on along a direction of the parameters.
#[derive(Clone, Debug, PartialEq)]
pub struct ParametricStep {
    /// Per variable: its change per step along the direction.
    pub rates: Vec<f64>,
    /// How many steps until the present region ends, and what would be broken, or would hold something,
    /// beyond; `None` where it does not end.
    pub until: Option<(f64, Reason)>,
}

impl Plan {
    /// How every variable moves while the parameters move along a direction (their change per step), and how
    /// far that is true: up to the border of the present region, where another rule begins to hold something
    /// or gives way. One pass along the elimination order, and one over what could be broken.
    ///
    /// # Errors
    /// A wrong number of parameters, or a change that is not finite; a plan that is not solved.
    pub fn parametric_step(&mut self, direction: &[f64]) -> Result<ParametricStep, ProblemError> {
        let count = self.search.rows.params as usize;
        if direction.len() != count {
            return Err(ProblemError::ParameterCount { expected: count, found: direction.len() });
        }
        if direction.iter().any(|d| !d.is_finite()) {
            return Err(ProblemError::NotFinite);
        }
        if !self.is_solved() {
            return Err(ProblemError::NotSolved);
        }
        self.refresh();
        let rows = &self.search.rows;
        let mut rates = vec![0.0; rows.slot_count()];
        rates[..count].copy_from_slice(direction);
        // What cancels but for rounding is nothing.
        let added = |parts: &mut dyn Iterator<Item = f64>| {
            let (sum, size) = parts.fold((0.0_f64, 0.0_f64), |(sum, size), p| (sum + p, size.max(p.abs())));
            if sum.abs() <= CANCELLED * size { 0.0 } else { sum }
        };
        for &slot in self.critical_regions.order() {
            let mut reads = self.search.state.basis.reads(rows, slot).map(|(s, c)| -c * rates[s as usize]);
            let rate = added(&mut reads);
            rates[slot as usize] = rate;
        }
        let mut until: Option<(f64, Reason)> = None;
        for watch in self.critical_regions.watches() {
            let (slots, coefficients) = rows.terms(watch.row);
            let mut terms = slots.iter().zip(coefficients).map(|(&slot, c)| c * rates[slot as usize]);
            let rate = watch.spare(added(&mut terms));
            if rate < 0.0 {
                let spare = watch.spare(self.search.row_value(watch.row)).max(0.0);
                let steps = spare / -rate;
                if until.is_none_or(|(known, _)| steps < known) {
                    until = Some((steps, self.reason(watch.row)));
                }
            }
        }
        rates.drain(..count);
        Ok(ParametricStep { rates, until })
    }
}
