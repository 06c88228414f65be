//! Where a plan stands: what holds every variable in place, and how hard.
//!
//! Besides the [`Basis`] there is, for every row, which end of its cost it pulls with. A row that
//! is not tight pulls with the cost of one side, or not at all; what all of them together would
//! gain per unit of a tight row is that row's **pull**. A placement is the best on every stage
//! exactly when no tight row is pulled harder than it costs to move, stage by stage, and no row
//! that is not tight is on a side it does not pull for.
//!
//! Most rows need not be looked at for that. The **guard** of a tight row is the weakest stage at
//! which it costs to move it either way, and the **rank** of a variable is the weakest guard of all
//! it depends on. What is at stake on a weaker stage than its rank cannot move it.

mod kept;

use crate::basis::{Basis, Scratch};
use crate::elimination_order::EliminationOrder;
use crate::lex::{Lex, Stage};
use crate::rows::{Row, RowIs, Rows};
use crate::tolerance::TINY;
pub(crate) use kept::StateDelta;
use std::collections::BTreeMap;

#[derive(Clone, Debug, Default)]
pub(crate) struct State {
    pub(crate) basis: Basis,
    /// Per stored row: the side it pulls for (1 above, -1 below, 0 neither).
    sides: Vec<i8>,
    /// The same for the last resorts; a given never gives way.
    rest_sides: BTreeMap<u32, i8>,
    /// Per stored row: whether a required rule that is an equality may give way, since required rules
    /// contradict it.
    soft: Vec<bool>,
    /// How many rows pull for a side, and how many rules among them.
    pulling: usize,
    pulling_rules: usize,
    pulls: BTreeMap<Row, Lex>,
    /// Per slot: the guard of the row that defines it.
    guard: Vec<Stage>,
    /// Per slot.
    rank: Vec<Stage>,
}

/// So many readers of what moves are a unit of work.
const LOOKED_AT: usize = 8;

impl State {
    pub(crate) fn new(rows: &Rows) -> Self {
        let mut state = Self { basis: Basis::new(rows), ..Self::default() };
        state.fit(rows);
        state
    }

    /// Makes space for rows and variables that were added.
    pub(crate) fn fit(&mut self, rows: &Rows) {
        self.basis.fit(rows);
        self.sides.resize(rows.stored_count(), 0);
        self.soft.resize(rows.stored_count(), false);
        self.guard.resize(rows.slot_count(), Stage::OPEN);
        let old = self.rank.len();
        self.rank.resize(rows.slot_count(), Stage::OPEN);
        for slot in (old..rows.slot_count()).take_while(|s| *s < rows.params as usize) {
            self.rank[slot] = Stage::HARD;
        }
    }

    /// Takes in that the rules from a number on have another, all of them by as much.
    pub(crate) fn renumber(&mut self, from: u32, by: i64) {
        if by == 0 {
            return;
        }
        let stages = self.guard.iter_mut().chain(&mut self.rank);
        stages.for_each(|stage| *stage = stage.renumbered(from, by));
        self.pulls.values_mut().for_each(|pull| pull.renumber(from, by));
    }

    pub(crate) fn side(&self, row: Row) -> i8 {
        match row.is() {
            RowIs::Stored(index) => self.sides[index],
            RowIs::Nonnegative(_) => 0,
            RowIs::Fallback(slot) => self.rest_sides.get(&slot).copied().unwrap_or(0),
        }
    }

    pub(crate) fn is_anything_pulling(&self) -> bool {
        self.pulling > 0
    }

    pub(crate) fn pulling_rules(&self) -> usize {
        self.pulling_rules
    }

    pub(crate) fn set_side(&mut self, rows: &Rows, row: Row, side: i8) {
        if !matches!(row.is(), RowIs::Nonnegative(_)) {
            let (before, now) = (usize::from(self.side(row) != 0), usize::from(side != 0));
            self.pulling = self.pulling + now - before;
            if rows.is_rule(row) {
                self.pulling_rules = self.pulling_rules + now - before;
            }
        }
        match row.is() {
            RowIs::Stored(index) => self.sides[index] = side,
            RowIs::Nonnegative(_) => {}
            RowIs::Fallback(slot) if side == 0 => {
                self.rest_sides.remove(&slot);
            }
            RowIs::Fallback(slot) => {
                self.rest_sides.insert(slot, side);
            }
        }
    }

    /// Whether a row is a required rule equality that does not give way.
    pub(crate) fn is_hard(&self, rows: &Rows, row: Row) -> bool {
        match row.is() {
            RowIs::Stored(index) => !self.soft[index] && rows.is_required_equality(row),
            _ => false,
        }
    }

    pub(crate) fn soften(&mut self, row: Row) {
        if let RowIs::Stored(index) = row.is() {
            self.soft[index] = true;
        }
    }

    pub(crate) fn multiplier(&self, row: Row) -> Option<&Lex> {
        if self.pulls.is_empty() { None } else { self.pulls.get(&row) }
    }

    pub(crate) fn set_pull(&mut self, row: Row, pull: Lex) {
        if pull.is_zero() {
            self.pulls.remove(&row);
        } else {
            self.pulls.insert(row, pull);
        }
    }

    pub(crate) fn add_pull(&mut self, row: Row, amount: &Lex, factor: f64) {
        let pull = self.pulls.entry(row).or_default();
        pull.add(amount, factor);
        if pull.is_zero() {
            self.pulls.remove(&row);
        }
    }

    /// What it costs to move a tight row up or down, all pulls counted.
    pub(crate) fn slack(&self, rows: &Rows, row: Row, up: bool) -> Lex {
        let mut slack = rows.cost(row, up);
        if let Some(pull) = self.multiplier(row) {
            slack.add(pull, if up { 1.0 } else { -1.0 });
        }
        slack
    }

    /// The strongest stage of [`Self::slack`], with the amount there.
    pub(crate) fn slack_lead(&self, rows: &Rows, row: Row, up: bool) -> Option<(Stage, f64)> {
        match self.multiplier(row) {
            None => rows.stage(row, up).map(|stage| (stage, rows.weight(row))),
            Some(pull) => rows.cost(row, up).lead_of_sum(pull, if up { 1.0 } else { -1.0 }),
        }
    }

    /// The weakest stage at which it costs to move a tight row either way.
    pub(crate) fn guard_of(&self, rows: &Rows, row: Row) -> Stage {
        if self.is_hard(rows, row) {
            return Stage::HARD;
        }
        let lead = |up| self.slack_lead(rows, row, up).map_or(Stage::OPEN, |l| l.0);
        lead(true).max(lead(false))
    }

    /// Takes a tight row out and another in; see [`Basis::pivot`].
    pub(crate) fn pivot(
        &mut self,
        rows: &Rows,
        out: Row,
        into: Row,
        order: &EliminationOrder,
        scratch: &mut Scratch,
    ) -> Option<Vec<u32>> {
        let rank = &self.rank;
        self.basis.pivot(rows, out, into, |s| rank[s as usize] != Stage::HARD, order, scratch)
    }

    /// Works out the guard of a slot's row again; the old one.
    pub(crate) fn update_guard(&mut self, rows: &Rows, slot: u32) -> Stage {
        let guard = self.guard_of(rows, self.basis.row_at(slot));
        std::mem::replace(&mut self.guard[slot as usize], guard)
    }

    pub(crate) fn guard(&self, slot: u32) -> Stage {
        self.guard[slot as usize]
    }

    pub(crate) fn rank(&self, slot: u32) -> Stage {
        self.rank[slot as usize]
    }

    /// Works out the rank of a variable again, from those it reads; the old one.
    pub(crate) fn update_rank(&mut self, rows: &Rows, slot: u32) -> Stage {
        let mut rank = Stage::HARD;
        self.basis.made_of(rows, slot, |row, _| {
            let guard = self.basis.defined_by(row).map_or(Stage::OPEN, |s| self.guard[s as usize]);
            rank = rank.max(guard);
        });
        for (read, _) in self.basis.reads(rows, slot) {
            rank = rank.max(self.rank[read as usize]);
        }
        std::mem::replace(&mut self.rank[slot as usize], rank)
    }

    /// The rank of a row: the weakest of what it reads.
    pub(crate) fn rank_of_row(&self, rows: &Rows, row: Row) -> Stage {
        rows.terms(row).0.iter().map(|&s| self.rank[s as usize]).max().unwrap_or(Stage::HARD)
    }

    /// What a row costs to move further to a side, from what it pulls for now.
    pub(crate) fn multiplier_bound(&self, rows: &Rows, row: Row, above: bool) -> Lex {
        let side = self.side(row);
        let mut multiplier_bound = rows.cost(row, above);
        if side == if above { -1 } else { 1 } {
            multiplier_bound.add(&rows.cost(row, !above), 1.0);
        }
        multiplier_bound
    }

    /// Whether a row that is on this side of zero pulls for less (or more) than that side costs.
    pub(crate) fn is_wrong(&self, rows: &Rows, row: Row, above: bool) -> bool {
        let (side, here) = (self.side(row), if above { 1 } else { -1 });
        match rows.stage(row, above) {
            Some(_) => side != here,
            None => side == -here,
        }
    }

    /// Whether nothing that a row reads can give way to it on this side, whatever it costs.
    pub(crate) fn is_idle(&self, rows: &Rows, row: Row, above: bool) -> bool {
        if rows.is_required(row) {
            return false;
        }
        let further = if self.side(row) == 0 { None } else { rows.stage(row, !above) };
        let stake = rows.stage(row, above).into_iter().chain(further).min().unwrap_or(Stage::OPEN);
        self.rank_of_row(rows, row) < stake
    }

    /// The rows (not tight) that move with a tight row, in order, each with its rate; `pulling` for those only that pull for a
    /// side.
    pub(crate) fn rows_moved_by(
        &self,
        rows: &Rows,
        row: Row,
        pulling: bool,
        enter: impl Fn(u32) -> bool,
        scratch: &mut Scratch,
    ) -> Vec<(Row, f64)> {
        let mut rates: Vec<(Row, f64)> = Vec::new();
        let mut looked_at = 0;
        for (slot, rate) in self.basis.moved_by(rows, row, enter, scratch) {
            looked_at += 1 + rows.readers_of(slot).count();
            let counts = |reader: Row| !(self.basis.is_tight(reader) || pulling && self.side(reader) == 0);
            for reader in rows.readers_of(slot).map(Row).filter(|&r| counts(r)) {
                let c: f64 = rows.variable_terms(reader).filter(|t| t.0 == slot).map(|t| t.1).sum();
                rates.push((reader, c * rate));
            }
            let nonnegative = (!pulling && rows.is_nonnegative(slot)).then_some(Row::nonnegative(slot));
            for own in nonnegative.into_iter().chain([Row::rest(slot)]).filter(|&r| counts(r)) {
                rates.push((own, rate));
            }
        }
        crate::work::spend((looked_at + rates.len()) / LOOKED_AT);
        rates.sort_by_key(|(row, _)| *row);
        rates.dedup_by(|next, sum| {
            let is_same = next.0 == sum.0;
            if is_same {
                sum.1 += next.1;
            }
            is_same
        });
        rates.retain(|(_, rate)| rate.abs() > TINY);
        rates
    }

    /// What a row that is not tight pulls with.
    pub(crate) fn pull_of_side(&self, rows: &Rows, row: Row) -> Lex {
        match self.side(row) {
            0 => Lex::default(),
            1 => rows.cost(row, true),
            _ => rows.cost(row, false).scaled(-1.0),
        }
    }
}
