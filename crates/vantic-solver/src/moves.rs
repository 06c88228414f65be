//! A plan that goes to other parameters, or to another number: one pass inside the present region, and what it takes to
//! leave it.

use crate::plan::Plan;
use crate::problem::ProblemError;
use crate::regions::{Region, Swept};
use crate::rows::Row;
use crate::tolerance::scale;

impl Plan {
    /// Takes in what edits have changed, and takes up the state of the present region.
    pub(crate) fn bring_up_to_date(&mut self) {
        if self.is_standing() {
            self.regions.catch_up(&mut self.search);
            if !self.regions.fresh {
                self.regions.settle_in(&mut self.search);
            }
        }
    }

    /// Goes to other parameters: one pass inside the present region.
    ///
    /// # Errors
    /// A parameter that is not finite; nothing has changed then.
    pub(crate) fn move_to(&mut self, params: &[f64]) -> Result<(), ProblemError> {
        let (search, regions) = (&mut self.search, &mut self.regions);
        if !regions.fresh {
            regions.settle_in(search);
        }
        regions.changed.clear();
        // Few parameters change at a time, so they are compared a handful at once.
        for (at, (new, old)) in params.chunks(16).zip(search.values.chunks(16)).enumerate() {
            if new.iter().zip(old).fold(0, |differs, (a, b)| differs | (a.to_bits() ^ b.to_bits())) != 0 {
                let differs = |i: &usize| new[*i].to_bits() != old[*i].to_bits();
                regions.changed.extend((0..new.len()).filter(differs).map(|i| (16 * at + i) as u32));
            }
        }
        if regions.changed.is_empty() {
            return Ok(());
        }
        if regions.changed.iter().any(|&p| !params[p as usize].is_finite()) {
            return Err(ProblemError::NotFinite);
        }
        if search.scale > 1.0 || regions.changed.iter().any(|&p| scale(params[p as usize].abs()) > 1.0) {
            search.scale = params.iter().fold(scale(self.largest), |m, p| m.max(scale(p.abs())));
        }
        if regions.swept == Swept::Many {
            regions.go_back_to_few();
        }
        if !regions.covers(search) {
            regions.catch_up(search);
            regions.make_pass(search);
        }
        for &slot in &regions.changed {
            search.values[slot as usize] = params[slot as usize];
        }
        self.go_on();
        Ok(())
    }

    /// Goes to another number of a tight row that much depends on: one pass as well. Further edits
    /// of the same row need no new one.
    pub(crate) fn move_number(&mut self, row: Row, number: f64) {
        let (search, regions) = (&mut self.search, &mut self.regions);
        let slot = search.rows.slot_count() as u32;
        let old = search.rows.constant(row);
        regions.others.clear();
        regions.here.kept = None;
        if search.number != Some(row) {
            search.number = Some(row);
            search.values[slot as usize] = old;
            regions.swept = Swept::Nothing;
            regions.inputs.clear();
        }
        regions.changed.clear();
        regions.changed.push(slot);
        if !regions.covers(search) {
            regions.make_pass(search);
        }
        search.put_number(row, number);
        search.values[slot as usize] = number;
        self.go_on();
    }

    /// Whether a number of a tight row moves so much that a pass is the quicker way.
    pub(crate) fn moves_much(&mut self, row: Row) -> bool {
        let (search, regions) = (&mut self.search, &self.regions);
        let slot = search.rows.slot_count() as u32;
        if !regions.fresh || !search.state.basis.is_tight(row) {
            return false;
        }
        if search.number == Some(row) && regions.swept != Swept::Nothing && regions.inputs.contains(&slot) {
            return true;
        }
        let from = search.state.basis.made_with(row);
        let limit = search.rows.slot_count() / 32;
        search.state.basis.reaches(&search.rows, &from, limit, &mut search.scratch)
    }

    /// One pass, now that inputs have changed.
    fn go_on(&mut self) {
        let (search, regions) = (&mut self.search, &mut self.regions);
        if regions.swept == Swept::Few {
            let inputs = regions.inputs_now(&search.values);
            if regions.here.tightest.hold(&inputs) {
                return regions.here.pass.run(&inputs, &mut search.values);
            }
        } else {
            regions.steps.run(&mut search.values);
            if regions.steps.wrong(&search.rows, &search.values).next().is_none() {
                return;
            }
        }
        self.leave_region();
    }

    /// Where the present region does not reach: enters one seen before, or finds a new one.
    #[cold]
    fn leave_region(&mut self) {
        let (search, regions) = (&mut self.search, &mut self.regions);
        let mut left = None;
        let wrong: Vec<Row> = if regions.swept == Swept::Few {
            if regions.enter_remembered(search) {
                return;
            }
            regions.catch_up(search);
            if !regions.followed {
                regions.make_pass(search);
            }
            regions.keep(search);
            let inputs = regions.inputs_now(&search.values);
            regions.here.pass.run(&inputs, &mut search.values);
            // The next region goes on from the musts that give way in this one.
            let yielding_musts = regions.here.yielding_musts.clone();
            left = Some(std::mem::replace(&mut regions.here, Region { yielding_musts, ..Region::default() }));
            regions.halfspaces.wrong(&inputs)
        } else {
            regions.steps.wrong(&search.rows, &search.values).map(|w| w.row).collect()
        };
        wrong.into_iter().for_each(|row| search.check(row));
        search.steps = 0;
        if search.repair().is_err() {
            self.cold();
            return;
        }
        regions.settle_in(search);
        if let Some(left) = left {
            regions.remember(left);
        }
    }

    /// How many regions are known: the present one, and those remembered (at most [`MAX_REGIONS`]).
    pub fn regions_seen(&self) -> usize {
        usize::from(self.started) + self.regions.others.len()
    }
}
