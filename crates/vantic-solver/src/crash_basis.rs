//! The first guess: every equality is taken to hold, strongest first, then what is still open sits
//! where the rules on it alone put it, then the settling steps.
//!
//! Most of a screen is a chain of equalities, and most preferences can be met. Where the guess
//! breaks nothing it is the best on all stages at once; the search repairs the rest.

use crate::lex::{Lex, Stage};
use crate::problem::Relation;
use crate::rows::{Row, Use};
use crate::simplex::Search;
use crate::tolerance::SNAP;
use crate::work;
use std::cmp::Ordering;
use std::collections::VecDeque;

/// So many pairs of rules on one variable are a unit of work.
const TRIED: usize = 4;

/// What is known while rows are chosen one after another.
struct Guess<'a> {
    search: &'a mut Search,
    /// Per slot: defined, and so is all it depends on.
    closed: Vec<bool>,
    /// Per slot: some definition reads it.
    read: Vec<bool>,
    /// Per stored row: how many of its variables are not closed.
    open: Vec<u32>,
    /// Per slot that is defined: how many of those that it reads are not closed.
    waits_for: Vec<u32>,
    /// Per stored row: how many of its variables are not defined.
    undefined: Vec<u32>,
    /// Required equalities with one variable left to define.
    next: VecDeque<u32>,
}

impl Search {
    /// Chooses a first set of tight rows. Needs the values of the parameters only.
    pub(crate) fn crash_basis(&mut self) {
        let slots = self.rows.slot_count();
        let params = self.rows.params as usize;
        let open: Vec<u32> = (0..self.rows.stored_count())
            .map(|index| self.rows.variable_terms(Row(index as u32)).count() as u32)
            .collect();
        let mut closed = vec![false; slots];
        closed[..params].fill(true);
        let mut guess = Guess {
            search: self,
            closed,
            read: vec![false; slots],
            undefined: open.clone(),
            open,
            waits_for: vec![0; slots],
            next: VecDeque::new(),
        };
        guess.required_equalities();
        guess.preferred_equalities();
        guess.lone_rules();
        guess.settling_steps();
    }
}

impl Guess<'_> {
    fn is_equality(&self, index: usize) -> bool {
        let s = self.search.rows.stored(index);
        s.used == Use::Rule && s.relation == Relation::Equal
    }

    /// First those that leave one variable, again and again; then the others in written order, and after each
    /// those that have one variable left to define: so few definitions have to be combined of several rows.
    fn required_equalities(&mut self) {
        let required: Vec<u32> = (0..self.search.rows.stored_count() as u32)
            .filter(|&r| self.search.rows.is_required_equality(Row(r)))
            .collect();
        let mut ready: VecDeque<u32> =
            required.iter().copied().filter(|&r| self.open[r as usize] == 1).collect();
        while let Some(index) = ready.pop_front() {
            if self.open[index as usize] == 1 && !self.search.state.basis.is_tight(Row(index)) {
                let open = self.open_variable(index);
                if let Some(slot) = open.filter(|&s| !self.search.state.basis.is_defined(s)) {
                    self.search.state.basis.define(slot, Row(index));
                    self.note_defined(slot);
                    self.close(slot, Some(&mut ready));
                }
            }
        }
        self.next.clear();
        for index in required {
            self.take(index);
            while let Some(index) = self.next.pop_front() {
                self.take(index);
            }
        }
    }

    fn note_defined(&mut self, slot: u32) {
        for index in self.search.rows.readers_of(slot) {
            self.undefined[index as usize] -= 1;
            if self.undefined[index as usize] == 1 && self.search.rows.is_required_equality(Row(index)) {
                self.next.push_back(index);
            }
        }
    }

    fn preferred_equalities(&mut self) {
        let mut preferred: Vec<(u16, u32)> = (0..self.search.rows.stored_count())
            .filter(|&r| self.is_equality(r) && self.search.rows.stored(r).level > 0)
            .map(|r| (self.search.rows.stored(r).level, r as u32))
            .collect();
        preferred.sort_unstable();
        for (_, index) in preferred {
            self.take(index);
        }
    }

    fn settling_steps(&mut self) {
        for at in 0..self.search.rows.settle_rows().len() {
            let index = self.search.rows.settle_rows()[at];
            if self.search.rows.stored(index as usize).used == Use::Settle {
                self.take(index);
            }
        }
        for slot in self.search.rows.variables() {
            if !self.search.state.basis.is_defined(slot) {
                self.search.state.basis.define(slot, Row::rest(slot));
                self.close(slot, None);
            }
        }
    }

    fn open_variable(&self, index: u32) -> Option<u32> {
        self.search.rows.variable_terms(Row(index)).map(|t| t.0).find(|&s| !self.closed[s as usize])
    }

    /// Makes a row define a variable if it says something new.
    fn take(&mut self, index: u32) {
        let row = Row(index);
        if self.open[index as usize] == 0 || self.search.state.basis.is_tight(row) {
            return;
        }
        let Search { rows, state, scratch, .. } = &mut *self.search;
        // A size is kept where there is a choice; then the variable declared last, which tends to
        // be the one that depends on others.
        let rank = |slot: u32| (!rows.is_nonnegative(slot), slot);
        // One that nothing reads yet cannot lead back to itself.
        let largest = rows.variable_terms(row).map(|t| t.1.abs()).fold(0.0, f64::max);
        let fresh = rows
            .variable_terms(row)
            .filter(|t| !state.basis.is_defined(t.0) && !self.read[t.0 as usize])
            .filter(|t| t.1.abs() >= 0.05 * largest)
            .max_by_key(|t| rank(t.0));
        let slot = match fresh {
            Some((slot, _)) => {
                state.basis.define(slot, row);
                slot
            }
            // What there is no work for is left to what it would settle at.
            None if work::is_spent() => return,
            None => {
                let closed = &self.closed;
                let defined = state.basis.define_with(rows, row, |s| !closed[s as usize], rank, scratch);
                let Some(slot) = defined else { return };
                slot
            }
        };
        self.note_defined(slot);
        let reads: Vec<u32> = self.search.state.basis.reads(&self.search.rows, slot).map(|r| r.0).collect();
        reads.iter().for_each(|&r| self.read[r as usize] = true);
        let waits_for = reads.iter().filter(|&&r| !self.closed[r as usize]).count();
        self.waits_for[slot as usize] = waits_for as u32;
        if waits_for == 0 {
            self.close(slot, None);
        }
    }

    /// A variable is settled, and with it those that waited for it alone.
    fn close(&mut self, slot: u32, mut ready: Option<&mut VecDeque<u32>>) {
        let mut closing = vec![slot];
        while let Some(slot) = closing.pop() {
            if std::mem::replace(&mut self.closed[slot as usize], true) {
                continue;
            }
            let Search { rows, state, .. } = &*self.search;
            for index in rows.readers_of(slot) {
                self.open[index as usize] -= 1;
                if let Some(ready) = &mut ready
                    && self.open[index as usize] == 1
                    && rows.is_required_equality(Row(index))
                {
                    ready.push_back(index);
                }
            }
            for reader in state.basis.readers(rows, slot) {
                let waits_for = &mut self.waits_for[reader as usize];
                *waits_for = waits_for.saturating_sub(1);
                if *waits_for == 0 && !self.closed[reader as usize] {
                    closing.push(reader);
                }
            }
        }
    }

    /// A variable that is still open where the rules (and steps) that read nothing else hold it
    /// from both sides: a text between its `whole` and its `snug`, say.
    fn lone_rules(&mut self) {
        for slot in self.search.rows.variables() {
            if !self.search.state.basis.is_defined(slot) {
                self.hold_alone(slot);
            }
        }
    }

    fn hold_alone(&mut self, slot: u32) {
        let rows = &self.search.rows;
        let mut lone: Vec<SingleVariableRow> = rows
            .readers_of(slot)
            .filter(|&r| rows.variable_terms(Row(r)).count() == 1)
            .filter_map(|r| SingleVariableRow::new(self.search, Row(r), slot))
            .collect();
        if rows.is_nonnegative(slot) {
            lone.extend(SingleVariableRow::new(self.search, Row::nonnegative(slot), slot));
        }
        // Each is tried, and all are looked at for each.
        work::spend(lone.len() * lone.len() / TRIED);
        let snap = SNAP * self.search.scale;
        let candidates: Vec<usize> = (0..lone.len()).collect();
        for tight in candidates {
            let at = lone[tight].kink;
            let (mut up, mut down) = (Lex::default(), Lex::default());
            for l in &lone {
                up.add(
                    if l.kink <= at + snap { &l.rising } else { &l.falling },
                    if l.kink <= at + snap { 1.0 } else { -1.0 },
                );
                down.add(
                    if l.kink >= at - snap { &l.falling } else { &l.rising },
                    if l.kink >= at - snap { 1.0 } else { -1.0 },
                );
            }
            let best = !up.is_negative() && !up.is_zero() && !down.is_negative() && !down.is_zero();
            // Of those with this kink the strongest is tight, so that the others may pull at it.
            let strongest = lone.iter().all(|l| (l.kink - at).abs() > snap || l.lead() >= lone[tight].lead());
            if best && strongest {
                let row = lone[tight].row;
                lone.remove(tight);
                self.hold_at(slot, row, at, &lone);
                return;
            }
        }
    }

    /// Makes a row tight, and lets others that read the same variable pull as far as it holds.
    fn hold_at(&mut self, slot: u32, row: Row, at: f64, others: &[SingleVariableRow]) {
        let search = &mut *self.search;
        search.state.basis.define(slot, row);
        let coefficient: f64 = search.rows.variable_terms(row).map(|t| t.1).sum();
        for other in others {
            let above = match (at - other.kink) * other.coefficient {
                d if d > SNAP * search.scale => true,
                d if d < -SNAP * search.scale => false,
                // On its kink: towards the side that is not held yet.
                _ => {
                    let needed = |up: bool| search.state.slack_lead(&search.rows, row, up).is_none();
                    let toward = |up: bool| (other.coefficient > 0.0) == ((coefficient > 0.0) == up);
                    match (needed(true), needed(false)) {
                        (true, _) => toward(true),
                        (_, true) => toward(false),
                        _ => continue,
                    }
                }
            };
            let side = if above { 1 } else { -1 };
            if search.rows.stage(other.row, above).is_none() {
                continue;
            }
            search.state.set_side(&search.rows, other.row, side);
            let amount = search.state.pull_of_side(&search.rows, other.row);
            let rate = other.coefficient / coefficient;
            search.state.add_pull(row, &amount, rate);
            let over = |up| search.state.slack_lead(&search.rows, row, up).is_some_and(|l| l.1 < 0.0);
            if over(true) || over(false) {
                search.state.add_pull(row, &amount, -rate);
                search.state.set_side(&search.rows, other.row, 0);
            }
        }
        self.close(slot, None);
    }
}

/// A row that reads one variable only, as a cost of that variable.
struct SingleVariableRow {
    row: Row,
    coefficient: f64,
    /// Where it is zero.
    kink: f64,
    /// What a unit more, and a unit less, of the variable costs there.
    rising: Lex,
    falling: Lex,
}

impl SingleVariableRow {
    fn new(search: &Search, row: Row, slot: u32) -> Option<SingleVariableRow> {
        let coefficient = search.rows.variable_terms(row).next()?.1;
        let (slots, coefficients) = search.rows.terms(row);
        let known = slots.iter().zip(coefficients).filter(|t| *t.0 != slot);
        let constant =
            known.fold(search.rows.constant(row), |sum, (&s, &c)| sum + c * search.values[s as usize]);
        let cost = |above: bool| search.rows.cost(row, above).scaled(coefficient.abs());
        let (rising, falling) = (cost(coefficient > 0.0), cost(coefficient < 0.0));
        if rising.is_zero() && falling.is_zero() {
            return None;
        }
        Some(SingleVariableRow { row, coefficient, kink: -constant / coefficient, rising, falling })
    }

    fn lead(&self) -> Stage {
        match self.rising.lead().cmp(&self.falling.lead()) {
            Ordering::Less => self.rising.lead(),
            _ => self.falling.lead(),
        }
    }
}
