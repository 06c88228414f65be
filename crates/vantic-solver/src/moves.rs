//! A plan that goes to other parameters, or to another number: one pass inside the present region, and what
//! it takes to leave it.

use crate::critical_regions::{PassKind, Region};
use crate::plan::Plan;
use crate::problem::ProblemError;
use crate::rows::Row;
use crate::tolerance::scale;

impl Plan {
    /// Takes in what edits have changed, and takes up the state of the present region.
    pub(crate) fn refresh(&mut self) {
        if self.is_solved() {
            self.critical_regions.restore_state(&mut self.search);
            if !self.critical_regions.fresh {
                self.critical_regions.settle_in(&mut self.search);
            }
        }
    }

    /// Goes to other parameters: one pass inside the present region.
    ///
    /// # Errors
    /// A parameter that is not finite; nothing has changed then.
    pub(crate) fn move_to(&mut self, params: &[f64]) -> Result<(), ProblemError> {
        let (search, critical_regions) = (&mut self.search, &mut self.critical_regions);
        if !critical_regions.fresh {
            critical_regions.settle_in(search);
        }
        critical_regions.changed.clear();
        // Few parameters change at a time, so they are compared a handful at once.
        for (at, (new, old)) in params.chunks(16).zip(search.values.chunks(16)).enumerate() {
            if new.iter().zip(old).fold(0, |differs, (a, b)| differs | (a.to_bits() ^ b.to_bits())) != 0 {
                let differs = |i: &usize| new[*i].to_bits() != old[*i].to_bits();
                critical_regions.changed.extend((0..new.len()).filter(differs).map(|i| (16 * at + i) as u32));
            }
        }
        if critical_regions.changed.is_empty() {
            return Ok(());
        }
        if critical_regions.changed.iter().any(|&p| !params[p as usize].is_finite()) {
            return Err(ProblemError::NotFinite);
        }
        if search.scale > 1.0
            || critical_regions.changed.iter().any(|&p| scale(params[p as usize].abs()) > 1.0)
        {
            search.scale = params.iter().fold(scale(self.largest), |m, p| m.max(scale(p.abs())));
        }
        if critical_regions.swept == PassKind::Many {
            critical_regions.go_back_to_few();
        }
        if !critical_regions.covers(search) {
            critical_regions.restore_state(search);
            critical_regions.make_pass(search);
        }
        for &slot in &critical_regions.changed {
            search.values[slot as usize] = params[slot as usize];
        }
        self.go_on();
        Ok(())
    }

    /// Goes to another number of a tight row that much depends on: one pass as well. Further edits
    /// of the same row need no new one.
    pub(crate) fn move_number(&mut self, row: Row, number: f64) {
        let (search, critical_regions) = (&mut self.search, &mut self.critical_regions);
        let slot = search.rows.slot_count() as u32;
        let old = search.rows.constant(row);
        critical_regions.others.clear();
        critical_regions.here.kept = None;
        if search.number != Some(row) {
            search.number = Some(row);
            search.values[slot as usize] = old;
            critical_regions.swept = PassKind::Nothing;
            critical_regions.inputs.clear();
        }
        critical_regions.changed.clear();
        critical_regions.changed.push(slot);
        if !critical_regions.covers(search) {
            critical_regions.make_pass(search);
        }
        search.put_number(row, number);
        search.values[slot as usize] = number;
        self.go_on();
    }

    /// Whether a number of a tight row moves so much that a pass is the quicker way.
    pub(crate) fn moves_much(&mut self, row: Row) -> bool {
        let (search, critical_regions) = (&mut self.search, &self.critical_regions);
        let slot = search.rows.slot_count() as u32;
        if !critical_regions.fresh || !search.state.basis.is_tight(row) {
            return false;
        }
        if search.number == Some(row)
            && critical_regions.swept != PassKind::Nothing
            && critical_regions.inputs.contains(&slot)
        {
            return true;
        }
        let from = search.state.basis.made_with(row);
        let limit = search.rows.slot_count() / 32;
        search.state.basis.reaches(&search.rows, &from, limit, &mut search.scratch)
    }

    /// One pass, now that inputs have changed.
    fn go_on(&mut self) {
        let (search, critical_regions) = (&mut self.search, &mut self.critical_regions);
        if critical_regions.swept == PassKind::Few {
            let inputs = critical_regions.inputs_now(&search.values);
            if critical_regions.here.tightest.hold(&inputs) {
                return critical_regions.here.pass.run(&inputs, &mut search.values);
            }
        } else {
            critical_regions.sweep_pass.run(&mut search.values);
            if critical_regions.sweep_pass.wrong(&search.rows, &search.values).next().is_none() {
                return;
            }
        }
        self.leave_region();
    }

    /// Where the present region does not reach: enters one seen before, or finds a new one.
    #[cold]
    fn leave_region(&mut self) {
        let (search, critical_regions) = (&mut self.search, &mut self.critical_regions);
        let mut left = None;
        let wrong: Vec<Row> = if critical_regions.swept == PassKind::Few {
            if critical_regions.enter_remembered(search) {
                return;
            }
            critical_regions.restore_state(search);
            if !critical_regions.followed {
                critical_regions.make_pass(search);
            }
            critical_regions.keep(search);
            let inputs = critical_regions.inputs_now(&search.values);
            critical_regions.here.pass.run(&inputs, &mut search.values);
            // The next region goes on from the required rules that give way in this one.
            let yielding_required_rules = critical_regions.here.yielding_required_rules.clone();
            left = Some(std::mem::replace(
                &mut critical_regions.here,
                Region { yielding_required_rules, ..Region::default() },
            ));
            critical_regions.halfspaces.wrong(&inputs)
        } else {
            critical_regions.sweep_pass.wrong(&search.rows, &search.values).map(|w| w.row).collect()
        };
        wrong.into_iter().for_each(|row| search.check(row));
        search.steps = 0;
        if search.repair().is_err() {
            self.cold();
            return;
        }
        critical_regions.settle_in(search);
        if let Some(left) = left {
            critical_regions.remember(left);
        }
    }

    /// How many regions are known: the present one, and those remembered (at most [`crate::MAX_REGIONS`]).
    pub fn regions_seen(&self) -> usize {
        usize::from(self.started) + self.critical_regions.others.len()
    }
}
