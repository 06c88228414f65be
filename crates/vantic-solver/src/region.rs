//! What bounds the region of the parameters in which an answer holds.

use crate::plan::Plan;
use crate::problem::{ParamId, RuleId, VarId};
use crate::reason::{Bound, Reason};
use crate::rows::{Row, RowIs, Use};

impl Plan {
    /// The region of the parameters in which the present answer holds: as long as all of these are
    /// at least zero, every variable is the same affine function of the parameters. Bounds that
    /// no parameter moves are left out.
    pub fn region(&mut self) -> Vec<Bound> {
        self.refresh();
        let mut bounds = Vec::new();
        for watch in self.critical_regions.watches() {
            let search = &mut self.search;
            let (slots, coefficients) = search.rows.terms(watch.row);
            let terms = slots.iter().copied().zip(coefficients.iter().copied());
            let constant = search.rows.constant(watch.row);
            let (terms, constant) =
                search.state.basis.in_parameters(&search.rows, terms, constant, &mut search.scratch);
            if !terms.is_empty() {
                let terms = terms.into_iter().map(|(p, c)| (ParamId(p), watch.spare(c))).collect();
                bounds.push(Bound { reason: self.reason(watch.row), constant: watch.spare(constant), terms });
            }
        }
        bounds
    }

    /// Whether a rule is one of those that hold the values where they are. One that is none and holds all the
    /// same is implied by others, as long as they decide. False for a rule that this plan does not have, and
    /// where it is not solved.
    pub fn decides(&mut self, rule: RuleId) -> bool {
        let Some(&row) = self.search.rows.rule_rows().get(rule.index()).filter(|_| self.is_solved()) else {
            return false;
        };
        self.critical_regions.restore_state(&mut self.search);
        self.search.state.basis.is_tight(Row(row))
    }

    pub(crate) fn reason(&self, row: Row) -> Reason {
        let params = self.search.rows.params;
        match row.is() {
            RowIs::Nonnegative(slot) => Reason::Nonnegative(VarId(slot - params)),
            RowIs::Fallback(slot) => Reason::Unruled(VarId(slot - params)),
            RowIs::Stored(index) => {
                let stored = self.search.rows.stored(index);
                match stored.used {
                    Use::Settle => Reason::Settle(stored.number as usize),
                    Use::Rule | Use::Removed => Reason::Rule(RuleId(stored.number)),
                }
            }
        }
    }
}
