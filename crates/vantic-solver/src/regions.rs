//! Going from one region of the parameters to the next, and back to those seen before.
//!
//! In a region the same rows stay tight. Where it is left, what the search changes is taken in:
//! the elimination order, which rows would be wrong, the pass and its test. A region that is left
//! is remembered by its pass and its test; the state to go on from is kept as a difference, and
//! taken up only where something asks for it.

use crate::halfspaces::{HalfSpaces, Tightest};
use crate::plan::Plan;
use crate::problem::ProblemError;
use crate::rows::Row;
use crate::simplex::Search;
use crate::slopes::{MAX_DIMENSIONS, Pass, PerInput, Slopes};
use crate::state::{Kept, State};
use crate::steps::Steps;
use crate::tolerance::scale;
use crate::wrongs::{RowSet, Watch, Wrongs};
use std::collections::VecDeque;
use std::sync::Arc;

/// How many regions a plan remembers at most.
pub const MAX_REGIONS: usize = 64;

/// How many numbers all remembered regions of a plan may take together: about 64 MB.
const MAX_REMEMBERED: usize = 8_000_000;

/// After so many moves in a row that change few inputs, a plan that had many goes back to few.
const FEW_IN_A_ROW: u32 = 8;

/// What it takes to place in a region, and to go on from there.
#[derive(Clone, Debug, Default)]
struct Region {
    pass: Pass,
    tightest: Tightest,
    /// The musts that give way to others here.
    yielding_musts: Vec<Row>,
    /// The state, if it is kept.
    kept: Option<Kept>,
}

impl Region {
    /// How much memory it takes, counted in numbers, besides what it shares with another.
    fn size(&self, beside: Option<&Region>) -> usize {
        let kept = self.kept.as_ref().map_or(0, |k| k.size(beside.and_then(|b| b.kept.as_ref())));
        kept + self.pass.size(beside.map(|b| &b.pass)) + self.tightest.size()
    }
}

/// What the present way to place is made for.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
enum Swept {
    #[default]
    Nothing,
    /// A few inputs: the region's pass.
    Few,
    /// Many: steps along the elimination order.
    Many,
}

/// The present region, and those seen before.
#[derive(Clone, Debug, Default)]
pub(crate) struct Regions {
    here: Region,
    /// The others; those left last come last.
    others: VecDeque<Region>,
    /// Whether the plan's state is still that of another region; the present one's is kept then.
    behind: bool,
    /// What states are kept as differences from.
    base: Option<Arc<State>>,
    /// An elimination order, and per slot its place there.
    order: Vec<u32>,
    position: Vec<u32>,
    wrongs: Wrongs,
    /// Whether the order and what would be wrong are those of the present tight rows.
    fresh: bool,
    /// The slots of what may change, in order.
    inputs: Vec<u32>,
    swept: Swept,
    scale: f64,
    steps: Steps,
    slopes: Slopes,
    halfspaces: HalfSpaces,
    /// Whether those are right but for what these slots and rows have to do with.
    followed: bool,
    redefined: Vec<u32>,
    touched: Vec<Row>,
    met: RowSet,
    changed: Vec<u32>,
    /// While there are many inputs: those that changed in the last moves, as long as they are few,
    /// and how many moves that were.
    lately: Vec<u32>,
    few_in_a_row: u32,
}

impl Regions {
    /// Forgets the regions seen before, since a rule or its numbers changed.
    pub(crate) fn forget(&mut self) {
        self.others.clear();
        self.base = None;
        self.here.kept = None;
        self.swept = Swept::Nothing;
        self.followed = false;
    }

    /// Everything is to be worked out anew.
    pub(crate) fn start_over(&mut self) {
        self.forget();
        self.behind = false;
        self.fresh = false;
    }

    pub(crate) fn is_fresh(&self) -> bool {
        self.fresh
    }

    /// An elimination order.
    pub(crate) fn order(&self) -> &[u32] {
        &self.order
    }

    pub(crate) fn yielding_musts(&self) -> &[Row] {
        &self.here.yielding_musts
    }

    pub(crate) fn watches(&self) -> Vec<Watch> {
        self.wrongs.watches()
    }

    fn make_order(&mut self, search: &mut Search) {
        let Search { rows, state, scratch, .. } = search;
        state.basis.walk_up(rows, rows.variables(), |_| true, scratch);
        self.order.clone_from(&scratch.order);
        self.position.resize(rows.slot_count(), 0);
        for (at, &slot) in self.order.iter().enumerate() {
            self.position[slot as usize] = at as u32;
        }
    }

    /// Whether a slot comes after all it reads.
    fn is_in_order(&self, search: &Search, slot: u32) -> bool {
        let before = |read: u32| {
            read < search.rows.params || self.position[read as usize] < self.position[slot as usize]
        };
        search.state.basis.reads(&search.rows, slot).all(|(read, _)| before(read))
    }

    /// Takes in what a search has changed: the order, what would be wrong.
    fn settle_in(&mut self, search: &mut Search) {
        self.swept = Swept::Nothing;
        self.here.kept = None;
        if self.fresh {
            if !search.redefined.iter().all(|&slot| self.is_in_order(search, slot)) {
                self.make_order(search);
            }
            self.redefined.append(&mut search.redefined);
            self.met.begin(&search.rows);
            let mut touched = std::mem::take(&mut search.touched);
            touched.retain(|&row| self.met.insert(&search.rows, row));
            touched.iter().for_each(|&row| self.wrongs.update(search, row));
            let yielding = &mut self.here.yielding_musts;
            yielding.retain(|&row| !self.met.contains(&search.rows, row));
            let gives_way = |row: &Row| search.rows.is_must(*row) && search.state.side(*row) != 0;
            yielding.extend(touched.iter().copied().filter(gives_way));
            self.touched.append(&mut touched);
        } else {
            self.take_in_all(search);
        }
    }

    /// Works out from the whole state what a search changes bit by bit.
    fn take_in_all(&mut self, search: &mut Search) {
        self.make_order(search);
        self.wrongs = Wrongs::all(search);
        let musts = search.rows.rule_rows().iter().map(|&r| Row(r));
        self.here.yielding_musts =
            musts.filter(|&r| search.rows.is_must(r) && search.state.side(r) != 0).collect();
        self.fresh = true;
        self.followed = false;
        search.redefined.clear();
        search.touched.clear();
    }

    /// Makes the way to place where these inputs change, and those that changed before.
    fn make_pass(&mut self, search: &Search) {
        let number = search.number.map(|_| search.rows.slot_count() as u32);
        let mut inputs = self.inputs.clone();
        inputs.extend_from_slice(&self.changed);
        inputs.sort_unstable();
        inputs.dedup();
        inputs.retain(|&i| i < search.rows.params || Some(i) == number);
        if inputs != self.inputs || self.scale != search.scale {
            self.others.clear();
            self.followed = false;
        }
        (self.inputs, self.scale) = (inputs, search.scale);
        if self.inputs.len() > MAX_DIMENSIONS {
            self.steps = Steps::new(search, &self.order, &self.wrongs.watches(), &self.inputs);
            self.swept = Swept::Many;
            self.followed = false;
        } else {
            if self.followed && !self.slopes.is_worn() && !self.halfspaces.is_worn() {
                self.follow(search);
            } else {
                self.slopes.restart(search, &self.order, &self.inputs);
                self.halfspaces.restart(search, &self.slopes, &self.wrongs.watches());
            }
            self.here.pass = self.slopes.pass(search);
            self.here.tightest = self.halfspaces.tightest();
            self.swept = Swept::Few;
            self.followed = true;
        }
        self.redefined.clear();
        self.touched.clear();
    }

    /// Many inputs may have changed once (every text, say) and few from then on.
    fn go_back_to_few(&mut self) {
        self.lately.extend_from_slice(&self.changed);
        self.lately.sort_unstable();
        self.lately.dedup();
        self.few_in_a_row += 1;
        if self.lately.len() > MAX_DIMENSIONS {
            self.lately.clear();
            self.few_in_a_row = 0;
        } else if self.few_in_a_row >= FEW_IN_A_ROW {
            self.inputs = std::mem::take(&mut self.lately);
            self.few_in_a_row = 0;
            self.swept = Swept::Nothing;
        }
    }

    /// Works out again what has to do with the slots and rows that changed.
    fn follow(&mut self, search: &Search) {
        let changed = self.slopes.follow(search, &self.order, &self.position, &self.inputs, &self.redefined);
        self.met.begin(&search.rows);
        let (met, rows) = (&mut self.met, &search.rows);
        self.touched.retain(|&row| met.insert(rows, row));
        for slot in changed {
            let reading = rows.readers_of(slot).map(Row).chain([Row::given(slot), Row::rest(slot)]);
            self.touched.extend(reading.filter(|&row| self.wrongs.has(row) && met.insert(rows, row)));
        }
        self.halfspaces.follow(search, &self.slopes, &self.wrongs, &self.touched, met);
    }

    /// Whether the present way to place is for inputs that changed now.
    fn covers(&self, search: &Search) -> bool {
        self.swept != Swept::Nothing
            && self.scale == search.scale
            && self.changed.iter().all(|c| self.inputs.binary_search(c).is_ok())
    }

    fn inputs_now(&self, values: &[f64]) -> PerInput {
        let mut inputs = [0.0; MAX_DIMENSIONS];
        for (input, &slot) in inputs.iter_mut().zip(&self.inputs) {
            *input = values[slot as usize];
        }
        inputs
    }

    /// Enters a region seen before if the inputs are in one; those left last are tried first.
    fn enter_remembered(&mut self, search: &mut Search) -> bool {
        let inputs = self.inputs_now(&search.values);
        let params = search.rows.params;
        let fits = |other: &Region| {
            // All else has to be as it was.
            let as_it_was = |p: u32| {
                search.values[p as usize] == other.pass.parameter(p) || self.inputs.binary_search(&p).is_ok()
            };
            other.tightest.hold(&inputs) && (0..params).all(as_it_was)
        };
        let Some(other) = self.others.iter().rposition(fits).and_then(|at| self.others.remove(at)) else {
            return false;
        };
        self.keep(search);
        self.others.push_back(std::mem::replace(&mut self.here, other));
        self.behind = true;
        self.here.pass.enter(search.rows.variables(), &inputs, &mut search.values);
        true
    }

    /// Keeps the state of the present region, if only the plan has it.
    fn keep(&mut self, search: &Search) {
        if self.here.kept.is_none() {
            self.here.kept = Some(Kept::new(&mut self.base, &search.state));
        }
    }

    fn remember(&mut self, region: Region) {
        self.others.push_back(region);
        let mut left = MAX_REMEMBERED;
        let mut fitting = 0;
        let mut later: Option<&Region> = None;
        for region in self.others.iter().rev().take(MAX_REGIONS) {
            match left.checked_sub(region.size(later)) {
                Some(rest) => left = rest,
                None => break,
            }
            fitting += 1;
            later = Some(region);
        }
        self.others.drain(..self.others.len() - fitting);
    }

    /// Takes up the state of the present region where it is kept only.
    pub(crate) fn catch_up(&mut self, search: &mut Search) {
        let Some(kept) = self.here.kept.as_ref().filter(|_| self.behind) else { return };
        search.state = kept.state(&search.rows, &mut search.scratch);
        self.behind = false;
        self.take_in_all(search);
    }
}

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
