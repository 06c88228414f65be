//! Going from one region of the parameters to the next, and back to those seen before.
//!
//! In a region the same rows stay tight. Where it is left, what the search changes is taken in:
//! the elimination order, which rows would be wrong, the pass and its test. A region that is left
//! is remembered by its pass and its test; the state to go on from is kept as a difference, and
//! taken up only where something asks for it.

use crate::affine_pass::{AffinePass, MAX_DIMENSIONS, Pass, PerInput};
use crate::halfspaces::{HalfSpaces, Tightest};
use crate::infeasibility::{Infeasibility, Watch};
use crate::row_set::RowSet;
use crate::rows::Row;
use crate::simplex::Search;
use crate::state::{State, StateDelta};
use crate::sweep_pass::SweepPass;
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
pub(crate) struct Region {
    pub(crate) pass: Pass,
    pub(crate) tightest: Tightest,
    /// The required rules that give way to others here.
    pub(crate) yielding_required_rules: Vec<Row>,
    /// The state, if it is kept.
    pub(crate) kept: Option<StateDelta>,
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
pub(crate) enum PassKind {
    #[default]
    Nothing,
    /// A few inputs: the region's pass.
    Few,
    /// Many: steps along the elimination order.
    Many,
}

/// The present region, and those seen before.
#[derive(Clone, Debug, Default)]
pub(crate) struct CriticalRegions {
    pub(crate) here: Region,
    /// The others; those left last come last.
    pub(crate) others: VecDeque<Region>,
    /// Whether the plan's state is still that of another region; the present one's is kept then.
    behind: bool,
    /// What states are kept as differences from.
    base: Option<Arc<State>>,
    /// An elimination order, and per slot its place there.
    order: Vec<u32>,
    position: Vec<u32>,
    infeasibility: Infeasibility,
    /// Whether the order and what would be wrong are those of the present tight rows.
    pub(crate) fresh: bool,
    /// The slots of what may change, in order.
    pub(crate) inputs: Vec<u32>,
    pub(crate) swept: PassKind,
    scale: f64,
    pub(crate) sweep_pass: SweepPass,
    affine_pass: AffinePass,
    pub(crate) halfspaces: HalfSpaces,
    /// Whether those are right but for what these slots and rows have to do with.
    pub(crate) followed: bool,
    redefined: Vec<u32>,
    touched: Vec<Row>,
    met: RowSet,
    pub(crate) changed: Vec<u32>,
    /// While there are many inputs: those that changed in the last moves, as long as they are few,
    /// and how many moves that were.
    lately: Vec<u32>,
    few_in_a_row: u32,
}

impl CriticalRegions {
    /// Forgets the regions seen before, since a rule or its numbers changed.
    pub(crate) fn forget(&mut self) {
        self.others.clear();
        self.base = None;
        self.here.kept = None;
        self.swept = PassKind::Nothing;
        self.followed = false;
    }

    /// Everything is to be computed again.
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

    pub(crate) fn yielding_required_rules(&self) -> &[Row] {
        &self.here.yielding_required_rules
    }

    pub(crate) fn watches(&self) -> Vec<Watch> {
        self.infeasibility.watches()
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
    pub(crate) fn settle_in(&mut self, search: &mut Search) {
        self.swept = PassKind::Nothing;
        self.here.kept = None;
        if self.fresh {
            if !search.redefined.iter().all(|&slot| self.is_in_order(search, slot)) {
                self.make_order(search);
            }
            self.redefined.append(&mut search.redefined);
            self.met.begin(&search.rows);
            let mut touched = std::mem::take(&mut search.touched);
            touched.retain(|&row| self.met.insert(&search.rows, row));
            touched.iter().for_each(|&row| self.infeasibility.update(search, row));
            let yielding = &mut self.here.yielding_required_rules;
            yielding.retain(|&row| !self.met.contains(&search.rows, row));
            let gives_way = |row: &Row| search.rows.is_required(*row) && search.state.side(*row) != 0;
            yielding.extend(touched.iter().copied().filter(gives_way));
            self.touched.append(&mut touched);
        } else {
            self.take_in_all(search);
        }
    }

    /// Works out from the whole state what a search changes bit by bit.
    fn take_in_all(&mut self, search: &mut Search) {
        self.make_order(search);
        self.infeasibility = Infeasibility::all(search);
        let required = search.rows.rule_rows().iter().map(|&r| Row(r));
        self.here.yielding_required_rules =
            required.filter(|&r| search.rows.is_required(r) && search.state.side(r) != 0).collect();
        self.fresh = true;
        self.followed = false;
        search.redefined.clear();
        search.touched.clear();
    }

    /// Makes the way to place where these inputs change, and those that changed before.
    pub(crate) fn make_pass(&mut self, search: &Search) {
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
            self.sweep_pass =
                SweepPass::new(search, &self.order, &self.infeasibility.watches(), &self.inputs);
            self.swept = PassKind::Many;
            self.followed = false;
        } else {
            if self.followed && !self.affine_pass.is_worn() && !self.halfspaces.is_worn() {
                self.follow(search);
            } else {
                self.affine_pass.restart(search, &self.order, &self.inputs);
                self.halfspaces.restart(search, &self.affine_pass, &self.infeasibility.watches());
            }
            self.here.pass = self.affine_pass.pass(search);
            self.here.tightest = self.halfspaces.tightest();
            self.swept = PassKind::Few;
            self.followed = true;
        }
        self.redefined.clear();
        self.touched.clear();
    }

    /// Many inputs may have changed once (every text, say) and few from then on.
    pub(crate) fn go_back_to_few(&mut self) {
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
            self.swept = PassKind::Nothing;
        }
    }

    /// Works out again what has to do with the slots and rows that changed.
    fn follow(&mut self, search: &Search) {
        let changed =
            self.affine_pass.follow(search, &self.order, &self.position, &self.inputs, &self.redefined);
        self.met.begin(&search.rows);
        let (met, rows) = (&mut self.met, &search.rows);
        self.touched.retain(|&row| met.insert(rows, row));
        for slot in changed {
            let reading = rows.readers_of(slot).map(Row).chain([Row::nonnegative(slot), Row::rest(slot)]);
            self.touched.extend(reading.filter(|&row| self.infeasibility.has(row) && met.insert(rows, row)));
        }
        self.halfspaces.follow(search, &self.affine_pass, &self.infeasibility, &self.touched, met);
    }

    /// Whether the present way to place is for inputs that changed now.
    pub(crate) fn covers(&self, search: &Search) -> bool {
        self.swept != PassKind::Nothing
            && self.scale == search.scale
            && self.changed.iter().all(|c| self.inputs.binary_search(c).is_ok())
    }

    pub(crate) fn inputs_now(&self, values: &[f64]) -> PerInput {
        let mut inputs = [0.0; MAX_DIMENSIONS];
        for (input, &slot) in inputs.iter_mut().zip(&self.inputs) {
            *input = values[slot as usize];
        }
        inputs
    }

    /// Enters a region seen before if the inputs are in one; those left last are tried first.
    pub(crate) fn enter_remembered(&mut self, search: &mut Search) -> bool {
        let inputs = self.inputs_now(&search.values);
        let params = search.rows.params;
        let fits = |other: &Region| {
            // All else has to be unchanged.
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
    pub(crate) fn keep(&mut self, search: &Search) {
        if self.here.kept.is_none() {
            self.here.kept = Some(StateDelta::new(&mut self.base, &search.state));
        }
    }

    pub(crate) fn remember(&mut self, region: Region) {
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
    pub(crate) fn restore_state(&mut self, search: &mut Search) {
        let Some(kept) = self.here.kept.as_ref().filter(|_| self.behind) else { return };
        search.state = kept.state(&search.rows, &mut search.scratch);
        search.order.note_other_basis();
        self.behind = false;
        self.take_in_all(search);
    }
}
