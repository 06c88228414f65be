//! The search: a dual simplex method over the whole ladder at once.
//!
//! It starts where every tight row is pulled no harder than it costs to move (which holds as long
//! as nothing pulls). A row on a side it does not pull for is made to pull, until either it pulls
//! with all that side costs, or a tight row gives way to it: the one for which that costs least,
//! stage by stage (the dual simplex method of Lemke 1954 with costs in an ordered field; costs with
//! a kink are the bounds of its multipliers). Variables become known one after another, in
//! elimination order, and each row is put right as soon as all it reads is known; so what is
//! repaired in one corner does not touch what comes after it.

use crate::basis::Scratch;
use crate::elimination_order::EliminationOrder;
use crate::lex::{Lex, Stage};
use crate::row_set::RowSet;
use crate::rows::{Row, RowIs, Rows};
use crate::state::State;
use crate::tolerance::{CANCELLED, SNAP};
use std::cmp::Ordering;
use std::collections::{BTreeMap, BTreeSet};

/// A bound on the work was met, or the numbers do not allow a step.
#[derive(Clone, Copy, Debug)]
pub(crate) struct GaveUp;

/// What a step takes beside its walks, in units of work.
const STEP: usize = 30;

/// The strongest stage on which there is something, and what.
type LeadingTerm = Option<(Stage, f64)>;

/// Compares by the strongest stage only; equal where that is not clear.
fn compare_leads(a: LeadingTerm, b: LeadingTerm) -> Ordering {
    match (a, b) {
        (None, None) => Ordering::Equal,
        (None, Some(b)) => 0.0_f64.total_cmp(&b.1),
        (Some(a), None) => a.1.total_cmp(&0.0),
        (Some(a), Some(b)) if a.0 < b.0 => a.1.total_cmp(&0.0),
        (Some(a), Some(b)) if a.0 > b.0 => 0.0_f64.total_cmp(&b.1),
        (Some(a), Some(b)) if (a.1 - b.1).abs() <= CANCELLED * a.1.abs().max(b.1.abs()) => Ordering::Equal,
        (Some(a), Some(b)) => a.1.total_cmp(&b.1),
    }
}

/// Everything a search works on.
#[derive(Clone, Debug, Default)]
pub(crate) struct Search {
    pub(crate) rows: Rows,
    pub(crate) state: State,
    /// Per slot: the parameters, then the variables.
    pub(crate) values: Vec<f64>,
    /// See [`crate::tolerance::scale`].
    pub(crate) scale: f64,
    pub(crate) scratch: Scratch,
    pub(crate) order: EliminationOrder,
    /// Per slot: whether its value is up to date.
    pub(crate) known: Vec<bool>,
    /// The rows to be put right, strongest first.
    queue: BTreeSet<(Stage, Row)>,
    dirty: Vec<bool>,
    /// Room for the rows that read a variable, and those met so far.
    readers: Vec<u32>,
    met: RowSet,
    /// Whether some row pulls (or may give way) that reads what is not known yet.
    ahead: bool,
    /// How many rows were made to pull since the last start.
    pub(crate) steps: usize,
    /// Since they were last looked at: the variables that were redefined, and the rows of which
    /// the sides that would be wrong may have changed.
    pub(crate) redefined: Vec<u32>,
    pub(crate) touched: Vec<Row>,
    /// The row whose number was edited last, if that moved much. The number has the slot after all
    /// others, so that a pass can take it for an input.
    pub(crate) number: Option<Row>,
}

impl Search {
    pub(crate) fn new(rows: Rows) -> Self {
        let state = State::new(&rows);
        let mut search = Self { rows, state, scale: 1.0, ..Self::default() };
        search.fit();
        search
    }

    /// Makes space for rows and variables that were added.
    pub(crate) fn fit(&mut self) {
        let slots = self.rows.slot_count();
        self.state.fit(&self.rows);
        self.values.resize(slots + 1, 0.0);
        self.known.resize(slots, false);
        self.dirty.resize(slots, false);
        self.scratch.fit(slots);
        self.order.fit(slots);
        self.known[..self.rows.params as usize].fill(true);
    }

    fn step_bound(&self) -> usize {
        1000 + 20 * (self.rows.slot_count() + self.rows.stored_count())
    }

    /// The value of a row; zero where it is so near to it that it counts as tight.
    pub(crate) fn row_value(&self, row: Row) -> f64 {
        let value = self.rows.value(row, &self.values);
        if value.abs() <= SNAP * self.scale { 0.0 } else { value }
    }

    /// Makes every variable known, in elimination order, and puts right what is wrong on the way.
    pub(crate) fn make_known(&mut self) -> Result<(), GaveUp> {
        let all = self.rows.variables();
        self.state.basis.walk_up(&self.rows, all, |_| true, &mut self.scratch);
        let order = std::mem::take(&mut self.scratch.order);
        for &slot in &order {
            while let Some(next) = self.first_unknown(slot) {
                self.make_one_known(next);
                self.repair()?;
            }
        }
        self.scratch.order = order;
        // What reads no variable is right or wrong by the parameters alone.
        for index in 0..self.rows.stored_count() {
            let row = Row(index as u32);
            if self.rows.variable_terms(row).next().is_none() {
                self.check(row);
            }
        }
        self.repair()
    }

    /// Where a variable is not known: it, or what has to be known before it.
    fn first_unknown(&self, slot: u32) -> Option<u32> {
        let mut at = (!self.known[slot as usize]).then_some(slot)?;
        let unknown =
            |of: u32| self.state.basis.reads(&self.rows, of).map(|r| r.0).find(|&r| !self.known[r as usize]);
        while let Some(read) = unknown(at) {
            at = read;
        }
        Some(at)
    }

    /// A variable all of whose reads are known becomes known.
    fn make_one_known(&mut self, slot: u32) {
        self.values[slot as usize] = self.state.basis.evaluate(&self.rows, slot, &self.values);
        self.state.update_guard(&self.rows, slot);
        self.state.update_rank(&self.rows, slot);
        self.known[slot as usize] = true;
        self.order.append(slot);
        self.check_variables(&[slot]);
    }

    /// Notes the rows that are wrong among those that read some variables.
    fn check_variables(&mut self, slots: &[u32]) {
        let mut readers = std::mem::take(&mut self.readers);
        self.met.begin(&self.rows);
        for &slot in slots {
            if self.rows.is_nonnegative(slot) && self.values[slot as usize] < 0.0 {
                self.check(Row::nonnegative(slot));
            }
            if self.state.rank(slot) >= self.rows.rest_stage(slot) {
                self.check(Row::rest(slot));
            }
            readers.extend(self.rows.readers_of(slot).filter(|&r| self.met.insert(&self.rows, Row(r))));
            for row in readers.drain(..).map(Row) {
                if self.rows.variable_terms(row).all(|t| self.known[t.0 as usize]) {
                    self.check(row);
                }
            }
        }
        self.readers = readers;
    }

    /// Notes a row if it is wrong.
    pub(crate) fn check(&mut self, row: Row) {
        if self.state.basis.is_tight(row) {
            return;
        }
        let value = self.row_value(row);
        if value == 0.0 {
            return;
        }
        let above = value > 0.0;
        let state = &self.state;
        if state.is_wrong(&self.rows, row, above) && !state.is_idle(&self.rows, row, above) {
            let stage = |above| self.rows.stage(row, above).unwrap_or(Stage::OPEN);
            self.queue.insert((stage(true).min(stage(false)), row));
        }
    }

    /// Puts right every row that was noted as wrong.
    pub(crate) fn repair(&mut self) -> Result<(), GaveUp> {
        while let Some((_, row)) = self.queue.pop_first() {
            if let Err(gave_up) = self.dual_step(row) {
                self.queue.clear();
                return Err(gave_up);
            }
        }
        Ok(())
    }

    fn dual_step(&mut self, row: Row) -> Result<(), GaveUp> {
        let value = self.row_value(row);
        if value == 0.0 || self.state.basis.is_tight(row) {
            return Ok(());
        }
        let above = value > 0.0;
        if !self.state.is_wrong(&self.rows, row, above) || self.state.is_idle(&self.rows, row, above) {
            return Ok(());
        }
        self.steps += 1;
        crate::work::spend(STEP);
        if self.steps > self.step_bound() || crate::work::is_spent() {
            return Err(GaveUp);
        }
        let multiplier_bound = self.state.multiplier_bound(&self.rows, row, above);
        let stake = multiplier_bound.lead();
        let held = self.held_by(row, |rank| rank >= stake);
        let direction = if above { 1.0 } else { -1.0 };
        let yielding = self.ratio_test(&held, direction, &multiplier_bound);
        let reduced_cost = yielding.as_ref().map_or(&multiplier_bound, |y| &y.1);
        // A required rule that contradicts others is broken by the least total only if those may give way.
        let pulls = self.state.side(row) != 0 && self.rows.is_required(row);
        let lets_go = yielding.as_ref().is_some_and(|y| self.is_broken_by(y.0));
        if pulls || lets_go || reduced_cost.lead().is_required() {
            self.state.soften(row);
            if self.soften_above(row) {
                return self.dual_step(row);
            }
        }
        let reduced_cost = reduced_cost.clone();
        let mut changed: Vec<u32> = Vec::new();
        for &(slot, rate) in &held {
            self.state.add_pull(self.state.basis.row_at(slot), &reduced_cost, direction * rate);
        }
        match yielding {
            None => self.state.set_side(&self.rows, row, if above { 1 } else { -1 }),
            Some((slot, _, rate)) => {
                let leaving = self.state.basis.row_at(slot);
                // What the row pulls with is now what holds it.
                let mut pull = self.state.pull_of_side(&self.rows, row);
                pull.add(&reduced_cost, direction);
                self.state.set_pull(leaving, Lex::default());
                let side = if rate * direction > 0.0 { -1 } else { 1 };
                let side = self.end_of(leaving, side);
                self.state.set_side(&self.rows, leaving, side);
                self.ahead |= self.rows.variable_terms(leaving).any(|t| !self.known[t.0 as usize]);
                let Self { rows, state, order, scratch, .. } = self;
                let open = state.pivot(rows, leaving, row, order, scratch).ok_or(GaveUp)?;
                state.set_side(rows, row, 0);
                state.set_pull(row, pull.scaled(-1.0));
                // What is known may read what is not known yet, now that it is redefined.
                let known: Vec<u32> = open.iter().copied().filter(|&s| self.known[s as usize]).collect();
                for &slot in &known {
                    let reads: Vec<u32> = self.state.basis.reads(&self.rows, slot).map(|r| r.0).collect();
                    for read in reads {
                        while let Some(next) = self.first_unknown(read) {
                            self.make_one_known(next);
                        }
                    }
                }
                self.state.basis.put_in_order(&self.rows, &known, &mut self.order);
                self.touched.push(leaving);
                self.redefined.extend_from_slice(&open);
                changed.extend(open);
            }
        }
        self.touched.push(row);
        let mut strained = Vec::new();
        for slot in held.iter().map(|h| h.0).chain(changed.clone()) {
            self.guard_anew(slot, &mut changed);
            if self.is_strained(slot) {
                strained.push(slot);
            }
        }
        self.refresh(&changed);
        if !strained.is_empty() {
            self.restore_dual_feasibility(&strained);
        }
        Ok(())
    }

    /// Whether the row of a slot is pulled harder than it costs to move: what pulls at it was not
    /// all counted while a stronger guard made that needless.
    fn is_strained(&self, slot: u32) -> bool {
        let row = self.state.basis.row_at(slot);
        let over = |up| self.state.slack_lead(&self.rows, row, up).is_some_and(|l| l.1 < 0.0);
        !self.state.is_hard(&self.rows, row) && (over(true) || over(false))
    }

    /// Whether a required rule gives way where the row of a slot does.
    fn is_broken_by(&self, slot: u32) -> bool {
        let row = self.state.basis.row_at(slot);
        self.rows.is_required(row) && self.rows.is_rule(row)
            || self.state.multiplier(row).is_some_and(|pull| pull.lead().is_required())
    }

    /// The side a row pulls for when it leaves towards it: none where that side costs nothing.
    fn end_of(&self, row: Row, side: i8) -> i8 {
        if self.rows.stage(row, side > 0).is_some() { side } else { 0 }
    }

    /// The tight rows that hold a row, as slots, with its rise per unit of each.
    pub(crate) fn held_by(&mut self, row: Row, counts: impl Fn(Stage) -> bool) -> Vec<(u32, f64)> {
        let Self { rows, state, known, order, scratch, .. } = self;
        let enter = |slot: u32| known[slot as usize] && counts(state.rank(slot));
        let mut held = state.basis.in_tight_rows(rows, rows.variable_terms(row), enter, order, scratch);
        held.retain(|h| !state.is_hard(rows, state.basis.row_at(h.0)));
        held
    }

    /// A sum in terms of the tight rows, as slots, with its rise per unit of each.
    pub(crate) fn in_tight_rows(&mut self, sum: &[(u32, f64)]) -> Vec<(u32, f64)> {
        let Self { rows, state, order, scratch, .. } = self;
        state.basis.in_tight_rows(rows, sum.iter().copied(), |_| true, order, scratch)
    }

    /// The tight row that gives way at the least cost per unit, if that is less than the jump: its
    /// slot, the cost and the rate.
    fn ratio_test(
        &mut self,
        held: &[(u32, f64)],
        direction: f64,
        multiplier_bound: &Lex,
    ) -> Option<(u32, Lex, f64)> {
        // Per unit of the row that comes in.
        let price_of = |search: &Self, slot: u32, rate: f64| {
            let (row, up) = (search.state.basis.row_at(slot), rate * direction < 0.0);
            search.state.slack(&search.rows, row, up).scaled(1.0 / rate.abs())
        };
        // Nearly always the strongest stage decides.
        let mut least = multiplier_bound.first();
        let mut tied: Vec<(u32, f64)> = Vec::new();
        for &(slot, rate) in held {
            let (row, up) = (self.state.basis.row_at(slot), rate * direction < 0.0);
            let lead = self.state.slack_lead(&self.rows, row, up).map(|l| (l.0, l.1 / rate.abs()));
            match compare_leads(lead, least) {
                Ordering::Greater => {}
                Ordering::Equal => tied.push((slot, rate)),
                Ordering::Less => {
                    least = lead;
                    tied.clear();
                    tied.push((slot, rate));
                }
            }
        }
        // Among the others every stage counts, so what pulls at them has to be counted in full. As
        // long as no rule pulls, each rule's own stage decides before anything else can.
        let in_full = self.state.pulling_rules() > 0;
        let mut best: Option<(u32, Lex, f64)> = None;
        for (slot, rate) in tied {
            if in_full {
                self.count_pull(slot);
            }
            let reduced_cost = price_of(self, slot, rate);
            let better = match &best {
                None => reduced_cost.compare(multiplier_bound) == Ordering::Less,
                Some((other, least, least_rate)) => {
                    // The larger rate is the safer to divide by; then the row that came last.
                    let safer = least_rate.abs().total_cmp(&rate.abs());
                    let later = self.state.basis.row_at(*other).cmp(&self.state.basis.row_at(slot));
                    reduced_cost.compare(least).then(safer).then(later) == Ordering::Less
                }
            };
            if better {
                best = Some((slot, reduced_cost, rate));
            }
        }
        if let (Some((slot, reduced_cost, rate)), false) = (&mut best, in_full) {
            self.count_pull(*slot);
            *reduced_cost = price_of(self, *slot, *rate);
        }
        best
    }

    /// Works out the guard of a slot again; where it is weaker, what was not counted so far may
    /// count now.
    fn guard_anew(&mut self, slot: u32, changed: &mut Vec<u32>) {
        let old = self.state.update_guard(&self.rows, slot);
        if self.state.guard(slot) > old {
            self.count_pull(slot);
            self.state.update_guard(&self.rows, slot);
        }
        if self.state.guard(slot) != old {
            changed.push(slot);
            let row = self.state.basis.row_at(slot);
            changed.extend_from_slice(self.state.basis.derived_with(row));
        }
    }

    /// Adds up from the beginning what pulls at the row of a slot.
    fn count_pull(&mut self, slot: u32) {
        let Self { rows, state, known, scratch, ahead, .. } = self;
        let row = state.basis.row_at(slot);
        if !state.is_anything_pulling() {
            state.set_pull(row, Lex::default());
            return;
        }
        let moved = state.rows_moved_by(rows, row, true, |s| *ahead || known[s as usize], scratch);
        let mut pull = Lex::default();
        for (puller, rate) in moved {
            pull.add(&state.pull_of_side(rows, puller), rate);
        }
        state.set_pull(row, pull);
    }

    /// Lets the required rules that hold up broken required rules give way; what these are may have changed.
    pub(crate) fn soften_above_broken(&mut self) {
        for at in 0..self.rows.rule_rows().len() {
            let row = Row(self.rows.rule_rows()[at]);
            if self.rows.is_required(row) && self.state.side(row) != 0 {
                self.soften_above(row);
            }
        }
    }

    /// Lets the required rules that hold a row give way from now on; false where all of them may already.
    fn soften_above(&mut self, row: Row) -> bool {
        let Self { rows, state, known, scratch, .. } = self;
        let from = rows.variable_terms(row).map(|t| t.0);
        state.basis.walk_up(rows, from, |s| known[s as usize], scratch);
        let mut hard = BTreeSet::new();
        for &slot in &scratch.order {
            state.basis.made_of(rows, slot, |made, _| {
                if state.is_hard(rows, made) {
                    hard.insert(made);
                }
            });
        }
        hard.iter().for_each(|&row| state.soften(row));
        let slots: Vec<u32> = hard.iter().filter_map(|&row| self.state.basis.defined_by(row)).collect();
        let mut changed = Vec::new();
        for &slot in &slots {
            self.ahead |= !self.known[slot as usize];
            // At this guard only rules count.
            if self.state.pulling_rules() > 0 {
                self.count_pull(slot);
            }
            let row = self.state.basis.row_at(slot);
            self.state.update_guard(&self.rows, slot);
            changed.push(slot);
            changed.extend_from_slice(self.state.basis.derived_with(row));
        }
        self.refresh(&changed);
        !hard.is_empty()
    }

    /// Works out again what depends on variables whose definition or guard changed.
    pub(crate) fn refresh(&mut self, changed: &[u32]) {
        let Self { rows, state, values, known, scratch, dirty, touched, .. } = self;
        state.basis.walk_down(rows, changed.iter().copied(), |s| known[s as usize], scratch);
        for &slot in changed {
            dirty[slot as usize] = known[slot as usize];
        }
        let order = std::mem::take(&mut scratch.order);
        let mut moved = Vec::new();
        for &slot in order.iter().rev() {
            if !std::mem::take(&mut dirty[slot as usize]) {
                continue;
            }
            let value = state.basis.evaluate(rows, slot, values);
            let was = std::mem::replace(&mut values[slot as usize], value);
            let (old, new) = (state.update_rank(rows, slot), state.rank(slot));
            if old != new {
                // What is at stake for a required rule is never idle.
                touched.extend(rows.readers_of(slot).map(Row).filter(|&row| !rows.is_required(row)));
                touched.extend(Some(Row::rest(slot)).filter(|_| old.max(new) >= rows.rest_stage(slot)));
            }
            if was != value || old != new {
                for reader in state.basis.readers(rows, slot) {
                    dirty[reader as usize] = known[reader as usize];
                }
                moved.push(slot);
            }
        }
        self.scratch.order = order;
        self.check_variables(&moved);
    }

    /// Takes back what rows pull with until no tight row among `slots` is pulled harder than it
    /// costs to move; they are noted to be put right again.
    pub(crate) fn restore_dual_feasibility(&mut self, slots: &[u32]) {
        let mut open: BTreeSet<u32> = slots.iter().copied().collect();
        let mut changed: Vec<u32> = slots.to_vec();
        while let Some(slot) = open.pop_first() {
            self.count_pull(slot);
            let row = self.state.basis.row_at(slot);
            if self.is_strained(slot) {
                let Self { rows, state, known, scratch, .. } = self;
                let moved = state.rows_moved_by(rows, row, true, |s| known[s as usize], scratch);
                open.insert(slot);
                for (puller, _) in moved {
                    self.state.set_side(&self.rows, puller, 0);
                    self.touched.push(puller);
                    for (held, _) in self.held_by(puller, |_| true) {
                        open.insert(held);
                    }
                }
                continue;
            }
            changed.push(slot);
            changed.extend_from_slice(self.state.basis.derived_with(row));
            self.state.update_guard(&self.rows, slot);
        }
        self.refresh(&changed);
        // What no longer pulls has not moved, so it has to be looked at on its own.
        self.check_below(&changed);
    }

    /// Notes what is wrong among all that moves with some variables.
    pub(crate) fn check_below(&mut self, slots: &[u32]) {
        let Self { rows, state, known, scratch, .. } = self;
        state.basis.walk_down(rows, slots.iter().copied(), |s| known[s as usize], scratch);
        let order = std::mem::take(&mut self.scratch.order);
        self.check_variables(&order);
        self.scratch.order = order;
    }

    /// The multiplier of every row for the totals and ties up to a stage: how much would be gained
    /// per unit by which the row gave way. Rows that pull for nothing are left out.
    pub(crate) fn pulling_rows(&self) -> BTreeMap<Row, Lex> {
        let mut pulling = BTreeMap::new();
        for index in 0..self.rows.stored_count() {
            let row = Row(index as u32);
            if !self.state.basis.is_tight(row) && self.state.side(row) != 0 {
                pulling.insert(row, self.state.pull_of_side(&self.rows, row));
            }
        }
        for slot in self.rows.variables() {
            let row = self.state.basis.row_at(slot);
            if let Some(pull) = self.state.multiplier(row) {
                pulling.insert(row, pull.clone().scaled(-1.0));
            }
        }
        pulling
    }

    /// Whether a stored row is a rule that counts.
    pub(crate) fn rule_number(&self, row: Row) -> Option<u32> {
        match row.is() {
            RowIs::Stored(index) if self.rows.stored(index).used == crate::rows::Use::Rule => {
                Some(self.rows.stored(index).number)
            }
            _ => None,
        }
    }
}

impl Search {
    /// Forgets everything but the rows and the parameters.
    pub(crate) fn restart(&mut self) {
        self.state = State::new(&self.rows);
        self.queue.clear();
        self.known.fill(false);
        self.known[..self.rows.params as usize].fill(true);
        self.order.start_over(self.rows.params);
        self.ahead = false;
        self.steps = 0;
    }

    /// Where the search gave up: a point that keeps the givens at least.
    pub(crate) fn fall_back(&mut self) {
        for slot in self.rows.variables() {
            let value = &mut self.values[slot as usize];
            if !value.is_finite() {
                *value = 0.0;
            }
            if self.rows.is_nonnegative(slot) {
                *value = value.max(0.0);
            }
        }
    }
}
