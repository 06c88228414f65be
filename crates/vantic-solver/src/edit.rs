//! Changes to a plan that stays solved: only what depends on a change is solved again.

use crate::plan::Plan;
use crate::problem::{Affine, Level, Linear, ProblemError, Relation, RuleId, Settle, VarId, check_strength};
use crate::rows::{Row, RowIs, Use};
use crate::simplex::{GaveUp, Search};
use crate::work;

impl Plan {
    /// A new variable, at zero until rules or settling steps say otherwise. A given one may not go
    /// below zero.
    pub fn add_variable(&mut self, nonnegative: bool) -> VarId {
        self.changed();
        let slot = self.search.rows.add_variable(nonnegative);
        self.search.add_variable(slot);
        VarId(slot - self.search.rows.params)
    }

    /// Takes a variable away, with the settling steps that read it. Its value is zero from then on.
    ///
    /// # Errors
    /// An id that this plan does not have or had, and a variable that a rule still reads.
    pub fn remove_variable(&mut self, var: VarId) -> Result<(), ProblemError> {
        let slot = self.slot(var)?;
        let readers: Vec<u32> = self.search.rows.readers_of(slot).collect();
        for &row in &readers {
            let stored = self.search.rows.stored(row as usize);
            if stored.used == Use::Rule {
                return Err(ProblemError::StillRead(RuleId(stored.number)));
            }
        }
        self.changed();
        for row in readers {
            if self.search.rows.stored(row as usize).used == Use::Settle {
                self.take_away(row);
            }
        }
        self.removed_variables.insert(var);
        self.watched.retain(|v| *v != var);
        self.finish_edit();
        Ok(())
    }

    /// A new rule `expr relation 0`, written after all others.
    ///
    /// # Errors
    /// As for [`crate::ProblemBuilder::rule`].
    pub fn add_rule(
        &mut self,
        expr: Linear,
        relation: Relation,
        level: Level,
        weight: f64,
    ) -> Result<RuleId, ProblemError> {
        self.check_expr(&expr)?;
        check_strength(level, weight)?;
        self.changed();
        let index = self.search.rows.store_rule(&expr.tidy(), relation, level.0, weight);
        self.bring_in(index);
        Ok(RuleId(self.search.rows.stored(index).number))
    }

    /// Adds the last settling step.
    ///
    /// # Errors
    /// As for [`Self::add_rule`].
    pub fn add_settle(&mut self, step: Settle) -> Result<(), ProblemError> {
        self.check_expr(&step.0)?;
        self.changed();
        let index = self.search.rows.store_settle(&step.0.tidy());
        self.bring_in(index);
        Ok(())
    }

    /// Watches a variable; see [`crate::ProblemBuilder::watch`].
    ///
    /// # Errors
    /// An id that this plan does not have.
    pub fn watch(&mut self, var: VarId) -> Result<(), ProblemError> {
        self.slot(var)?;
        self.watched.push(var);
        Ok(())
    }

    /// Takes a rule away. The others keep their ids.
    ///
    /// # Errors
    /// A rule that this plan does not have, or that was removed.
    pub fn remove_rule(&mut self, rule: RuleId) -> Result<(), ProblemError> {
        let row = self.row(rule)?;
        self.changed();
        self.take_away(row);
        self.finish_edit();
        Ok(())
    }

    /// Gives a rule another expression, relation, level and weight; it keeps its place among the
    /// rules. A rule that was removed comes back.
    ///
    /// # Errors
    /// A rule that this plan never had, and as for [`Self::add_rule`].
    pub fn change_rule(
        &mut self,
        rule: RuleId,
        expr: Linear,
        relation: Relation,
        level: Level,
        weight: f64,
    ) -> Result<(), ProblemError> {
        self.check_expr(&expr)?;
        check_strength(level, weight)?;
        let &old = self.search.rows.rule_rows().get(rule.index()).ok_or(ProblemError::UnknownId)?;
        self.changed();
        if self.search.rows.stored(old as usize).used == Use::Rule {
            self.take_away(old);
        }
        let index = self.search.rows.store_rule_again(rule.0, &expr.tidy(), relation, level.0, weight);
        self.bring_in(index);
        Ok(())
    }

    /// Gives a rule another coefficient for a variable; zero takes the variable out of the rule.
    ///
    /// # Errors
    /// A rule or variable that this plan does not have, and a coefficient that is not finite.
    pub fn set_coefficient(
        &mut self,
        rule: RuleId,
        var: VarId,
        coefficient: f64,
    ) -> Result<(), ProblemError> {
        let row = self.row(rule)?;
        self.slot(var)?;
        let (mut expr, relation, level, weight) = self.search.rows.rule(row as usize);
        expr.terms.retain(|t| t.0 != var);
        self.change_rule(rule, expr.plus_var(var, coefficient), relation, level, weight)
    }

    /// Moves a rule to another level, or gives it another weight.
    ///
    /// # Errors
    /// A rule that this plan does not have, and as for [`Self::add_rule`].
    pub fn set_level(&mut self, rule: RuleId, level: Level, weight: f64) -> Result<(), ProblemError> {
        let row = self.row(rule)?;
        let (expr, relation, _, _) = self.search.rows.rule(row as usize);
        self.change_rule(rule, expr, relation, level, weight)
    }

    /// Gives a rule another constant: what is added to its variables.
    ///
    /// # Errors
    /// A rule that this plan does not have, and a constant that is not finite or reads a parameter
    /// of another problem.
    pub fn set_constant(&mut self, rule: RuleId, constant: Affine) -> Result<(), ProblemError> {
        let row = self.row(rule)?;
        let (expr, relation, level, weight) = self.search.rows.rule(row as usize);
        let expr = Linear::new(expr.terms, constant).tidy();
        self.check_expr(&expr)?;
        if !self.search.rows.differs_in_number_only(row as usize, &expr) {
            return self.change_rule(rule, expr, relation, level, weight);
        }
        self.set_number(row, expr.number())
    }

    fn set_number(&mut self, row: u32, number: f64) -> Result<(), ProblemError> {
        self.critical_regions.restore_state(&mut self.search);
        self.note_size(number);
        if !self.is_solved() {
            self.critical_regions.forget();
            self.search.rows.stored_mut(row as usize).constant = number;
            self.finish_edit();
            return Ok(());
        }
        let row = Row(row);
        if self.moves_much(row) {
            self.move_number(row, number);
            return Ok(());
        }
        self.critical_regions.forget();
        self.search.number = self.search.number.filter(|r| *r != row);
        let changed = self.search.put_number(row, number);
        self.search.refresh(&changed);
        self.search.check(row);
        self.search.steps = 0;
        let done = self.search.repair();
        if self.search.steps > 0 {
            self.changed();
        }
        self.finish(done);
        Ok(())
    }

    /// Adds to the number in a rule's constant.
    ///
    /// # Errors
    /// A rule that this plan does not have, and a number that is not finite.
    pub fn shift_constant(&mut self, rule: RuleId, by: f64) -> Result<(), ProblemError> {
        let row = self.row(rule)?;
        let number = self.search.rows.stored(row as usize).constant + by;
        if number.is_finite() { self.set_number(row, number) } else { Err(ProblemError::NotFinite) }
    }

    fn check_expr(&self, expr: &Linear) -> Result<(), ProblemError> {
        expr.check(self.search.rows.nonnegative.len(), self.search.rows.params)?;
        let removed = expr.terms.iter().any(|t| self.removed_variables.contains(&t.0));
        if removed { Err(ProblemError::Removed) } else { Ok(()) }
    }

    pub(crate) fn slot(&self, var: VarId) -> Result<u32, ProblemError> {
        if var.index() >= self.search.rows.nonnegative.len() {
            return Err(ProblemError::UnknownId);
        }
        if self.removed_variables.contains(&var) {
            return Err(ProblemError::Removed);
        }
        Ok(self.search.rows.params + var.0)
    }

    fn row(&self, rule: RuleId) -> Result<u32, ProblemError> {
        let &row = self.search.rows.rule_rows().get(rule.index()).ok_or(ProblemError::UnknownId)?;
        match self.search.rows.stored(row as usize).used {
            Use::Rule => Ok(row),
            Use::Settle | Use::Removed => Err(ProblemError::Removed),
        }
    }

    fn bring_in(&mut self, index: usize) {
        self.note_size(self.search.rows.stored(index).constant);
        self.search.rows.note_readers(index);
        self.search.fit();
        if self.is_solved() {
            self.search.check(Row(index as u32));
        }
        self.finish_edit();
    }

    pub(crate) fn take_away(&mut self, row: u32) {
        if self.is_solved() {
            self.search.take_away(Row(row));
        } else {
            self.search.rows.stored_mut(row as usize).used = Use::Removed;
        }
    }

    pub(crate) fn finish_edit(&mut self) {
        if self.is_solved() {
            let done = self.search.repair();
            self.finish(done);
        } else if self.started && !work::is_spent() {
            self.cold();
        }
    }

    /// Whether there is a solution to go on from.
    pub(crate) fn is_solved(&self) -> bool {
        self.started && !self.stopped
    }

    /// After a search: what to do where it gave up, and when to tidy up.
    fn finish(&mut self, done: Result<(), GaveUp>) {
        let rows = &self.search.rows;
        let left_over = rows.stored_count() - rows.rule_rows().len() - rows.settle_rows().len();
        if done.is_err() || left_over > 64 + rows.rule_rows().len() {
            self.search.rows.drop_left_over();
            self.cold();
        }
    }
}

impl Search {
    fn add_variable(&mut self, slot: u32) {
        self.fit();
        self.state.basis.define(slot, Row::rest(slot));
        self.known[slot as usize] = true;
        self.order.append(slot);
        self.state.update_guard(&self.rows, slot);
        self.state.update_rank(&self.rows, slot);
    }

    /// Takes a row away. Where it held something it goes on doing so until something else does.
    fn take_away(&mut self, row: Row) {
        let RowIs::Stored(index) = row.is() else { return };
        if self.rows.is_required(row) {
            self.soften_above_broken();
        }
        self.rows.stored_mut(index).used = Use::Removed;
        match self.state.basis.defined_by(row) {
            Some(slot) => {
                self.restore_dual_feasibility(&[slot]);
            }
            None if self.state.side(row) != 0 => {
                self.state.set_side(&self.rows, row, 0);
                let held: Vec<u32> = self.held_by(row, |_| true).into_iter().map(|h| h.0).collect();
                self.restore_dual_feasibility(&held);
            }
            None => {}
        }
    }

    /// Whether a stored row that was taken away still stands for what holds a variable.
    pub(crate) fn holds_removed(&self, row: u32) -> bool {
        let stands = (row as usize) < self.rows.stored_count();
        stands && self.rows.stored(row as usize).used == Use::Removed && self.state.basis.is_tight(Row(row))
    }

    /// Gives a stored row another constant; the variables whose definitions change by that.
    pub(crate) fn put_number(&mut self, row: Row, number: f64) -> Vec<u32> {
        let RowIs::Stored(index) = row.is() else { return Vec::new() };
        let stored = self.rows.stored_mut(index);
        let by = number - std::mem::replace(&mut stored.constant, number);
        self.state.basis.shift_constant(row, by)
    }
}
