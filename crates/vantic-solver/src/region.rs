//! Regions of the parameters in which the same rows stay tight, and those seen before.

use crate::lex::Stage;
use crate::plan::Plan;
use crate::problem::{ParamId, ProblemError, RuleId, VarId};
use crate::rows::{Row, RowIs, Use};
use crate::simplex::Search;
use crate::state::State;
use crate::sweep::{Sweep, Watch};
use crate::tolerance::scale;
use std::collections::{BTreeMap, VecDeque};

/// How many regions a plan remembers at most.
pub const MAX_REGIONS: usize = 64;

/// How many numbers all remembered regions of a plan may take together: about 64 MB.
const MAX_REMEMBERED: usize = 8_000_000;

/// What holds a value where it is, or bounds a region.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum Reason {
    /// A rule.
    Rule(RuleId),
    /// A variable that is given to be at least zero.
    Given(VarId),
    /// A settling step, counted from 0.
    Settle(usize),
    /// Nothing at all speaks of the variable, so it is at zero.
    Unruled(VarId),
}

/// One side of a region: `constant + sum of coefficient * parameter` is at least zero in it.
#[derive(Clone, Debug, PartialEq)]
pub struct Bound {
    /// What would be broken, or would hold something, beyond.
    pub reason: Reason,
    /// The part that depends on nothing.
    pub constant: f64,
    /// The part that depends on parameters.
    pub terms: Vec<(ParamId, f64)>,
}

/// A region that was left, and can be entered again.
#[derive(Clone, Debug)]
struct Remembered {
    state: State,
    sweep: Sweep,
    order: Vec<u32>,
    wrongs: Wrongs,
    yielding_musts: Vec<Row>,
    /// All values when it was left; what the sweep does not compute is still right if no other
    /// input has changed since.
    values: Vec<f64>,
}

/// Per row: which sides would be wrong (1 below, 2 above).
#[derive(Clone, Debug, Default)]
struct Wrongs {
    stored: Vec<u8>,
    /// Per slot.
    givens: Vec<u8>,
    rests: BTreeMap<Row, u8>,
}

fn put(all: &mut Vec<u8>, index: usize, sides: u8) {
    all.resize(all.len().max(index + 1), 0);
    all[index] = sides;
}

impl Wrongs {
    fn update(&mut self, search: &Search, row: Row) {
        let (rows, state) = (&search.rows, &search.state);
        let wrong = |above| state.is_wrong(rows, row, above) && !state.is_idle(rows, row, above);
        let sides =
            if state.basis.is_tight(row) { 0 } else { u8::from(wrong(false)) | (u8::from(wrong(true)) << 1) };
        match row.is() {
            RowIs::Stored(index) => put(&mut self.stored, index, sides),
            RowIs::Given(slot) => {
                put(&mut self.givens, slot as usize, if rows.is_given(slot) { sides } else { 0 });
            }
            RowIs::Rest(slot) => {
                self.rests.remove(&row);
                if sides != 0 && state.rank(slot) >= Stage::rest(slot - rows.params) {
                    self.rests.insert(row, sides);
                }
            }
        }
    }

    fn all(search: &Search) -> Self {
        let mut wrongs = Self::default();
        for index in 0..search.rows.stored_count() {
            wrongs.update(search, Row(index as u32));
        }
        for slot in search.rows.variables() {
            wrongs.update(search, Row::given(slot));
            wrongs.update(search, Row::rest(slot));
        }
        wrongs
    }

    fn watches(&self) -> Vec<Watch> {
        let stored = self.stored.iter().enumerate().map(|(index, &sides)| (Row(index as u32), sides));
        let givens = self.givens.iter().enumerate().map(|(slot, &sides)| (Row::given(slot as u32), sides));
        let all = stored.chain(givens).chain(self.rests.iter().map(|(&row, &sides)| (row, sides)));
        let sides = all.filter(|w| w.1 != 0).flat_map(|(row, sides)| {
            let below = (sides & 1 != 0).then_some(Watch { row, below: true });
            below.into_iter().chain((sides & 2 != 0).then_some(Watch { row, below: false }))
        });
        sides.collect()
    }
}

/// The present region, and those seen before.
#[derive(Clone, Debug, Default)]
pub(crate) struct Regions {
    sweep: Sweep,
    /// An elimination order.
    order: Vec<u32>,
    /// Per slot: its place in the order, as long as `positioned`.
    position: Vec<u32>,
    positioned: bool,
    wrongs: Wrongs,
    /// The musts that give way to others here.
    yielding_musts: Vec<Row>,
    /// Whether the order and what would be wrong are those of the present tight rows.
    fresh: bool,
    /// Whether the sweep is.
    swept: bool,
    /// The others; those left last come last.
    others: VecDeque<Remembered>,
    changed: Vec<u32>,
}

impl Regions {
    /// Forgets the regions seen before, since a rule or its numbers changed.
    pub(crate) fn forget(&mut self) {
        self.others.clear();
        self.swept = false;
    }

    /// Everything is to be worked out anew.
    pub(crate) fn start_over(&mut self) {
        self.forget();
        self.fresh = false;
    }

    pub(crate) fn is_fresh(&self) -> bool {
        self.fresh
    }

    pub(crate) fn yielding_musts(&self) -> &[Row] {
        &self.yielding_musts
    }
}

impl Regions {
    fn make_order(&mut self, search: &mut Search) {
        let Search { rows, state, scratch, .. } = search;
        state.basis.walk_up(rows, rows.variables(), |_| true, scratch);
        self.order.clone_from(&scratch.order);
        self.index_order();
    }

    fn index_order(&mut self) {
        self.position.resize(self.order.len() + self.order.iter().min().map_or(0, |&m| m as usize), 0);
        for (at, &slot) in self.order.iter().enumerate() {
            self.position[slot as usize] = at as u32;
        }
        self.positioned = true;
    }

    /// A sweep for what changed now and what changed before.
    fn make_sweep(&mut self, search: &Search) {
        let mut inputs = std::mem::take(&mut self.sweep.inputs);
        inputs.extend_from_slice(&self.changed);
        inputs.sort_unstable();
        inputs.dedup();
        inputs.retain(|&i| (i as usize) < search.values.len());
        self.sweep = Sweep::new(search, &self.order, &self.wrongs.watches(), inputs);
        self.swept = true;
    }
}

impl Plan {
    /// Takes in what a search has changed: the order, what would be wrong.
    pub(crate) fn settle_in(&mut self) {
        let (search, regions) = (&mut self.search, &mut self.regions);
        regions.swept = false;
        if regions.fresh {
            if !regions.positioned {
                regions.index_order();
            }
            let early = |slot: u32| {
                let reads = |(read, _): (u32, f64)| {
                    read < search.rows.params
                        || regions.position[read as usize] < regions.position[slot as usize]
                };
                search.state.basis.reads(&search.rows, slot).all(reads)
            };
            if !search.redefined.iter().all(|&slot| early(slot)) {
                regions.make_order(search);
            }
            for row in std::mem::take(&mut search.touched) {
                regions.wrongs.update(search, row);
                regions.yielding_musts.retain(|r| *r != row);
                if search.rows.is_must(row) && search.state.side(row) != 0 {
                    regions.yielding_musts.push(row);
                }
            }
        } else {
            regions.make_order(search);
            regions.wrongs = Wrongs::all(search);
            let musts = search.rows.rule_rows().iter().map(|&r| Row(r));
            regions.yielding_musts =
                musts.filter(|&r| search.rows.is_must(r) && search.state.side(r) != 0).collect();
            regions.fresh = true;
        }
        search.redefined.clear();
        search.touched.clear();
    }

    /// Goes to other parameters: one pass inside the present region.
    ///
    /// # Errors
    /// A parameter that is not finite; nothing has changed then.
    pub(crate) fn move_to(&mut self, params: &[f64]) -> Result<(), ProblemError> {
        self.bring_up_to_date();
        let (search, regions) = (&mut self.search, &mut self.regions);
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
        if !regions.swept || !regions.sweep.covers(&regions.changed, search.scale) {
            regions.make_sweep(search);
        }
        for &slot in &regions.changed {
            search.values[slot as usize] = params[slot as usize];
        }
        self.go_on();
        Ok(())
    }

    /// Goes to another number of a tight row that much depends on: one pass as well. Further edits
    /// of the same row need no new sweep.
    pub(crate) fn move_number(&mut self, row: Row, number: f64) {
        let (search, regions) = (&mut self.search, &mut self.regions);
        let slot = search.rows.slot_count() as u32;
        let old = search.rows.constant(row);
        regions.others.clear();
        if search.number != Some(row) {
            search.number = Some(row);
            search.values[slot as usize] = old;
            regions.swept = false;
            regions.sweep.inputs.clear();
        }
        regions.changed.clear();
        regions.changed.push(slot);
        if !regions.swept || !regions.sweep.covers(&regions.changed, search.scale) {
            regions.make_sweep(search);
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
        if search.number == Some(row) && regions.swept && regions.sweep.inputs.contains(&slot) {
            return true;
        }
        let from = search.state.basis.made_with(row);
        let limit = search.rows.slot_count() / 32;
        search.state.basis.reaches(&search.rows, &from, limit, &mut search.scratch)
    }

    /// One pass with the sweep, now that its inputs have changed.
    fn go_on(&mut self) {
        let (search, regions) = (&mut self.search, &mut self.regions);
        let early = regions.sweep.tests_inputs();
        if !early {
            regions.sweep.run(&mut search.values);
        }
        match regions.sweep.first_wrong(&search.rows, &search.values) {
            None if early => regions.sweep.run(&mut search.values),
            None => {}
            Some(_) => self.leave_region(early),
        }
    }

    /// Where the present region does not reach: enters one seen before, or finds a new one.
    #[cold]
    fn leave_region(&mut self, early: bool) {
        if early && self.enter_remembered() {
            return;
        }
        let left = self.remember();
        let (search, regions) = (&mut self.search, &mut self.regions);
        if early {
            regions.sweep.run(&mut search.values);
        }
        for row in regions.sweep.all_wrong(&search.rows, &search.values) {
            search.check(row);
        }
        search.steps = 0;
        if search.repair().is_err() {
            self.cold();
            return;
        }
        self.settle_in();
        let size = left.values.len() + left.sweep.size() + 4 * left.order.len();
        let room = MAX_REGIONS.min(MAX_REMEMBERED / size.max(1));
        while self.regions.others.len() >= room.max(1) {
            self.regions.others.pop_front();
        }
        if room > 0 {
            self.regions.others.push_back(left);
        }
    }

    /// A copy of the present region.
    fn remember(&self) -> Remembered {
        let (search, regions) = (&self.search, &self.regions);
        Remembered {
            state: search.state.clone(),
            sweep: regions.sweep.clone(),
            order: regions.order.clone(),
            wrongs: regions.wrongs.clone(),
            yielding_musts: regions.yielding_musts.clone(),
            values: search.values.clone(),
        }
    }

    /// Enters a region seen before if the inputs are in one; those left last are tried first.
    fn enter_remembered(&mut self) -> bool {
        let (search, regions) = (&mut self.search, &mut self.regions);
        let params = search.rows.params as usize;
        let fits = |other: &Remembered| {
            other.sweep.covers(&regions.changed, search.scale)
                && other.sweep.tests_inputs()
                && other.sweep.first_wrong(&search.rows, &search.values).is_none()
                // All else has to be as it was.
                && (0..params).all(|p| {
                    search.values[p] == other.values[p]
                        || other.sweep.inputs.binary_search(&(p as u32)).is_ok()
                })
        };
        let Some(index) = regions.others.iter().rposition(fits) else { return false };
        let Some(mut other) = regions.others.remove(index) else { return false };
        other.values[..params].copy_from_slice(&search.values[..params]);
        std::mem::swap(&mut other.values, &mut search.values);
        std::mem::swap(&mut other.state, &mut search.state);
        std::mem::swap(&mut other.sweep, &mut regions.sweep);
        std::mem::swap(&mut other.order, &mut regions.order);
        std::mem::swap(&mut other.wrongs, &mut regions.wrongs);
        std::mem::swap(&mut other.yielding_musts, &mut regions.yielding_musts);
        regions.others.push_back(other);
        regions.positioned = false;
        regions.sweep.run(&mut search.values);
        true
    }

    /// How many regions are known: the present one, and those remembered (at most [`MAX_REGIONS`]).
    pub fn regions_seen(&self) -> usize {
        usize::from(self.started) + self.regions.others.len()
    }

    /// The region of the parameters in which the present answer holds: as long as all of these are
    /// at least zero, every variable is the same affine function of the parameters. Bounds that
    /// no parameter moves are left out.
    pub fn region(&mut self) -> Vec<Bound> {
        self.bring_up_to_date();
        let mut bounds = Vec::new();
        for watch in self.regions.wrongs.watches() {
            let search = &mut self.search;
            let (slots, coefficients) = search.rows.terms(watch.row);
            let terms = slots.iter().copied().zip(coefficients.iter().copied());
            let constant = search.rows.constant(watch.row);
            let (terms, constant) =
                search.state.basis.in_parameters(&search.rows, terms, constant, &mut search.scratch);
            if !terms.is_empty() {
                let sign = if watch.below { 1.0 } else { -1.0 };
                let terms = terms.into_iter().map(|(p, c)| (ParamId(p), sign * c)).collect();
                bounds.push(Bound { reason: self.reason(watch.row), constant: sign * constant, terms });
            }
        }
        bounds
    }

    pub(crate) fn reason(&self, row: Row) -> Reason {
        let params = self.search.rows.params;
        match row.is() {
            RowIs::Given(slot) => Reason::Given(VarId(slot - params)),
            RowIs::Rest(slot) => Reason::Unruled(VarId(slot - params)),
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
