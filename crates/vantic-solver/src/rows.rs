//! Everything that can hold a variable in place, as rows of one compact table.
//!
//! A row is `constant + sum of coefficient * slot`, with a cost per unit above and below zero. The
//! slots are the parameters, then the variables. Rules and settling steps are stored; the given of
//! a variable (at least zero) and its last resort (near zero) are rows too, but take no memory.

use crate::lex::{Lex, Stage};
use crate::problem::{Affine, Level, Linear, ParamId, Problem, Relation, Rule, Settle, VarId};
use std::collections::BTreeMap;

/// A row: stored, or one of the two that every variable has.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub(crate) struct Row(pub(crate) u32);

const GIVEN_BIT: u32 = 1 << 30;
const REST_BIT: u32 = 1 << 31;

/// What a row is.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum RowIs {
    Stored(usize),
    /// The given of a slot.
    Nonnegative(u32),
    /// The last resort of a slot.
    Fallback(u32),
}

impl Row {
    pub(crate) fn nonnegative(slot: u32) -> Row {
        Row(GIVEN_BIT | slot)
    }

    pub(crate) fn rest(slot: u32) -> Row {
        Row(REST_BIT | slot)
    }

    pub(crate) fn is(self) -> RowIs {
        match self.0 {
            r if r & REST_BIT != 0 => RowIs::Fallback(r & !REST_BIT),
            r if r & GIVEN_BIT != 0 => RowIs::Nonnegative(r & !GIVEN_BIT),
            r => RowIs::Stored(r as usize),
        }
    }
}

/// What a stored row is for.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Use {
    Rule,
    Settle,
    /// Taken away by an edit. It costs nothing on either side.
    Removed,
}

#[derive(Clone, Copy, Debug)]
pub(crate) struct Stored {
    start: u32,
    len: u32,
    pub(crate) constant: f64,
    pub(crate) weight: f64,
    /// The number of the rule or of the settling step.
    pub(crate) number: u32,
    pub(crate) level: u16,
    pub(crate) relation: Relation,
    pub(crate) used: Use,
}

/// The rows of a plan.
#[derive(Clone, Debug, Default)]
pub(crate) struct Rows {
    pub(crate) params: u32,
    stored: Vec<Stored>,
    slots: Vec<u32>,
    coefficients: Vec<f64>,
    /// Every slot, so that the row of one variable is a slice like any other.
    each_slot: Vec<u32>,
    /// Per variable: whether it is given to be at least zero.
    pub(crate) nonnegative: Vec<bool>,
    /// Per variable: the stored rows that read it; those that came later are in `more_readers`.
    reader_start: Vec<u32>,
    readers: Vec<u32>,
    more_readers: BTreeMap<u32, Vec<u32>>,
    /// Per rule and per settling step: its row.
    rule_row: Vec<u32>,
    settle_row: Vec<u32>,
}

/// What a problem takes to begin with, whatever its size, in units of work.
const BEGUN: usize = 40;

impl Rows {
    pub(crate) fn new(problem: &Problem) -> Self {
        let mut rows =
            Self { params: problem.params, nonnegative: problem.nonnegative.clone(), ..Self::default() };
        rows.each_slot = (0..problem.params + problem.nonnegative.len() as u32).collect();
        let terms = problem.rules.iter().map(|r| r.expr.len()).sum::<usize>()
            + problem.settle.iter().map(|s| s.0.len()).sum::<usize>();
        let count = problem.rules.len() + problem.settle.len();
        rows.stored.reserve_exact(count);
        rows.slots.reserve_exact(terms);
        rows.coefficients.reserve_exact(terms);
        rows.rule_row.reserve_exact(problem.rules.len());
        rows.settle_row.reserve_exact(problem.settle.len());
        for rule in &problem.rules {
            rows.store_rule(&rule.expr, rule.relation, rule.level.0, rule.weight);
        }
        for step in &problem.settle {
            rows.store_settle(&step.0);
        }
        rows.index_readers();
        crate::work::spend(BEGUN + 2 * (terms + count + rows.nonnegative.len()));
        rows
    }

    fn index_readers(&mut self) {
        let variables = self.nonnegative.len();
        let mut start = vec![0_u32; variables + 1];
        let reads = |rows: &Rows, row: &Stored| rows.range(row);
        for row in &self.stored {
            for &slot in &self.slots[reads(self, row)] {
                if slot >= self.params {
                    start[(slot - self.params) as usize + 1] += 1;
                }
            }
        }
        for v in 0..variables {
            start[v + 1] += start[v];
        }
        let mut next = start.clone();
        let mut readers = vec![0_u32; start[variables] as usize];
        for (index, row) in self.stored.iter().enumerate() {
            for &slot in &self.slots[reads(self, row)] {
                if slot >= self.params {
                    let at = &mut next[(slot - self.params) as usize];
                    readers[*at as usize] = index as u32;
                    *at += 1;
                }
            }
        }
        (self.reader_start, self.readers) = (start, readers);
    }

    fn range(&self, row: &Stored) -> std::ops::Range<usize> {
        row.start as usize..(row.start + row.len) as usize
    }

    fn put_terms(&mut self, expr: &Linear) -> (u32, u32) {
        let start = self.slots.len() as u32;
        for &(param, c) in expr.params() {
            self.slots.push(param.0);
            self.coefficients.push(c);
        }
        for &(var, c) in &expr.terms {
            self.slots.push(self.params + var.0);
            self.coefficients.push(c);
        }
        (start, self.slots.len() as u32 - start)
    }

    /// A new rule, numbered on from the last one.
    pub(crate) fn store_rule(&mut self, expr: &Linear, relation: Relation, level: u32, weight: f64) -> usize {
        let (start, len) = self.put_terms(expr);
        let number = self.rule_row.len() as u32;
        self.rule_row.push(self.stored.len() as u32);
        let (constant, level, used) = (expr.number(), level as u16, Use::Rule);
        self.stored.push(Stored { start, len, constant, weight, number, level, relation, used });
        self.stored.len() - 1
    }

    /// A new settling step, numbered on from the last one.
    pub(crate) fn store_settle(&mut self, expr: &Linear) -> usize {
        let (start, len) = self.put_terms(expr);
        let number = self.settle_row.len() as u32;
        self.settle_row.push(self.stored.len() as u32);
        let (constant, weight, relation, used) = (expr.number(), 1.0, Relation::Equal, Use::Settle);
        self.stored.push(Stored { start, len, constant, weight, number, level: 0, relation, used });
        self.stored.len() - 1
    }

    /// Makes a row added by an edit known to the variables it reads.
    pub(crate) fn note_readers(&mut self, row: usize) {
        let stored = self.stored[row];
        for at in self.range(&stored) {
            let slot = self.slots[at];
            if slot >= self.params {
                self.more_readers.entry(slot).or_default().push(row as u32);
            }
        }
    }

    /// A rule rewritten in the place of an older version.
    pub(crate) fn store_rule_again(
        &mut self,
        number: u32,
        expr: &Linear,
        relation: Relation,
        level: u32,
        weight: f64,
    ) -> usize {
        let index = self.store_rule(expr, relation, level, weight);
        self.rule_row.pop();
        self.rule_row[number as usize] = index as u32;
        self.stored[index].number = number;
        index
    }

    /// A stored rule in its written form.
    pub(crate) fn rule(&self, row: usize) -> (Linear, Relation, Level, f64) {
        let (stored, (slots, coefficients)) = (&self.stored[row], self.terms(Row(row as u32)));
        let mut expr = Linear::default().plus(stored.constant);
        for (&slot, &c) in slots.iter().zip(coefficients) {
            expr = match slot.checked_sub(self.params) {
                Some(var) => expr.plus_var(VarId(var), c),
                None => expr.plus_affine(Affine::default().plus_param(ParamId(slot), c)),
            };
        }
        (expr, stored.relation, Level(u32::from(stored.level)), stored.weight)
    }

    /// Whether an expression is that of a stored row but for its number.
    pub(crate) fn differs_in_number_only(&self, row: usize, expr: &Linear) -> bool {
        let (slots, coefficients) = self.terms(Row(row as u32));
        let params = expr.params().iter().map(|&(p, c)| (p.0, c));
        let all = params.chain(expr.terms.iter().map(|&(v, c)| (self.params + v.0, c)));
        slots.len() == expr.len() && all.eq(slots.iter().copied().zip(coefficients.iter().copied()))
    }

    /// Whether a stored row is this settling step.
    pub(crate) fn is_settle(&self, row: usize, step: &Settle) -> bool {
        let stored = &self.stored[row];
        let same = stored.used == Use::Settle && stored.constant == step.0.number();
        same && self.differs_in_number_only(row, &step.0)
    }

    /// Whether a stored row is a rule just like this one.
    pub(crate) fn is_rule_like(&self, row: u32, rule: &Rule) -> bool {
        let stored = &self.stored[row as usize];
        let strength = (u32::from(stored.level), stored.weight) == (rule.level.0, rule.weight);
        let same = stored.used == Use::Rule && stored.relation == rule.relation && strength;
        same && stored.constant == rule.expr.number() && self.differs_in_number_only(row as usize, &rule.expr)
    }

    /// Makes space for other rules in the place of some, of which the last is followed by those that were
    /// behind; the rows of what is new are still to be stored.
    pub(crate) fn renumber(&mut self, old: std::ops::Range<usize>, new_end: usize) {
        let behind = self.rule_row.split_off(old.end);
        self.rule_row.resize(new_end, 0);
        for (number, &row) in (new_end..).zip(&behind) {
            self.stored[row as usize].number = number as u32;
        }
        self.rule_row.extend(behind);
    }

    /// Drops the rows that edits left over. The numbers of rules and settling steps stay.
    pub(crate) fn drop_left_over(&mut self) {
        let old = std::mem::take(&mut self.stored);
        let (slots, coefficients) = (std::mem::take(&mut self.slots), std::mem::take(&mut self.coefficients));
        for row in &old {
            let now = match row.used {
                Use::Rule => &mut self.rule_row[row.number as usize],
                Use::Settle => &mut self.settle_row[row.number as usize],
                Use::Removed => continue,
            };
            *now = self.stored.len() as u32;
            let range = row.start as usize..(row.start + row.len) as usize;
            let start = self.slots.len() as u32;
            self.slots.extend_from_slice(&slots[range.clone()]);
            self.coefficients.extend_from_slice(&coefficients[range]);
            self.stored.push(Stored { start, ..*row });
        }
        // A number whose row is gone keeps one that says nothing.
        let kept: Vec<bool> = {
            let mut kept = vec![false; self.rule_row.len()];
            self.stored.iter().filter(|s| s.used == Use::Rule).for_each(|s| kept[s.number as usize] = true);
            kept
        };
        for (number, kept) in kept.into_iter().enumerate() {
            if !kept {
                let start = self.slots.len() as u32;
                self.rule_row[number] = self.stored.len() as u32;
                let (number, used) = (number as u32, Use::Removed);
                let (constant, weight, level, relation) = (0.0, 1.0, 0, Relation::Equal);
                self.stored.push(Stored { start, len: 0, constant, weight, number, level, relation, used });
            }
        }
        self.more_readers.clear();
        self.index_readers();
    }

    /// A new variable.
    pub(crate) fn add_variable(&mut self, nonnegative: bool) -> u32 {
        let slot = self.each_slot.len() as u32;
        self.each_slot.push(slot);
        self.nonnegative.push(nonnegative);
        slot
    }

    pub(crate) fn stored(&self, row: usize) -> &Stored {
        &self.stored[row]
    }

    pub(crate) fn stored_mut(&mut self, row: usize) -> &mut Stored {
        &mut self.stored[row]
    }

    pub(crate) fn stored_count(&self) -> usize {
        self.stored.len()
    }

    pub(crate) fn rule_rows(&self) -> &[u32] {
        &self.rule_row
    }

    pub(crate) fn settle_rows(&self) -> &[u32] {
        &self.settle_row
    }

    pub(crate) fn slot_count(&self) -> usize {
        self.each_slot.len()
    }

    pub(crate) fn variables(&self) -> std::ops::Range<u32> {
        self.params..self.each_slot.len() as u32
    }

    pub(crate) fn is_nonnegative(&self, slot: u32) -> bool {
        self.nonnegative[(slot - self.params) as usize]
    }

    /// The slots and coefficients of a row.
    pub(crate) fn terms(&self, row: Row) -> (&[u32], &[f64]) {
        match row.is() {
            RowIs::Stored(index) => {
                let range = self.range(&self.stored[index]);
                (&self.slots[range.clone()], &self.coefficients[range])
            }
            RowIs::Nonnegative(slot) | RowIs::Fallback(slot) => {
                (&self.each_slot[slot as usize..=slot as usize], &[1.0])
            }
        }
    }

    /// The variables (not the parameters) of a row, with their coefficients.
    pub(crate) fn variable_terms(&self, row: Row) -> impl Iterator<Item = (u32, f64)> + Clone {
        let (slots, coefficients) = self.terms(row);
        let params = self.params;
        slots.iter().copied().zip(coefficients.iter().copied()).filter(move |t| t.0 >= params)
    }

    pub(crate) fn constant(&self, row: Row) -> f64 {
        match row.is() {
            RowIs::Stored(index) => self.stored[index].constant,
            RowIs::Nonnegative(_) | RowIs::Fallback(_) => 0.0,
        }
    }

    pub(crate) fn value(&self, row: Row, values: &[f64]) -> f64 {
        let (slots, coefficients) = self.terms(row);
        slots.iter().zip(coefficients).fold(self.constant(row), |sum, (&s, &c)| sum + c * values[s as usize])
    }

    /// How much a rule is violated; nothing for other rows.
    pub(crate) fn violation(&self, row: Row, values: &[f64]) -> f64 {
        let RowIs::Stored(index) = row.is() else { return 0.0 };
        let stored = &self.stored[index];
        match stored.used {
            Use::Rule => stored.relation.violation(self.value(row, values)),
            Use::Settle | Use::Removed => 0.0,
        }
    }

    /// The stored rows that read a variable.
    pub(crate) fn readers_of(&self, slot: u32) -> impl Iterator<Item = u32> {
        let v = (slot - self.params) as usize;
        let first = match self.reader_start.get(v..v + 2) {
            Some(range) => &self.readers[range[0] as usize..range[1] as usize],
            None => &[][..],
        };
        let more = if self.more_readers.is_empty() { None } else { self.more_readers.get(&slot) };
        first.iter().copied().chain(more.into_iter().flatten().copied())
    }

    /// The stage of the total that a row counts in on a side, if it costs anything there.
    pub(crate) fn stage(&self, row: Row, above: bool) -> Option<Stage> {
        match row.is() {
            RowIs::Stored(index) => {
                let s = &self.stored[index];
                let free = if above { Relation::AtLeast } else { Relation::AtMost };
                match s.used {
                    Use::Removed => None,
                    Use::Settle => Some(Stage::settle(s.number)),
                    Use::Rule if s.relation == free => None,
                    Use::Rule => Some(Stage::level(u32::from(s.level))),
                }
            }
            RowIs::Nonnegative(_) => (!above).then_some(Stage::GIVEN),
            RowIs::Fallback(slot) => Some(self.rest_stage(slot)),
        }
    }

    /// The stage of a variable's last resort.
    pub(crate) fn rest_stage(&self, slot: u32) -> Stage {
        Stage::rest(slot - self.params)
    }

    /// What a unit costs on the stage of [`Self::stage`].
    pub(crate) fn weight(&self, row: Row) -> f64 {
        match row.is() {
            RowIs::Stored(index) => self.stored[index].weight,
            RowIs::Nonnegative(_) | RowIs::Fallback(_) => 1.0,
        }
    }

    /// What a unit on a side of zero costs.
    pub(crate) fn cost(&self, row: Row, above: bool) -> Lex {
        let Some(stage) = self.stage(row, above) else { return Lex::default() };
        match row.is() {
            RowIs::Stored(index) if self.stored[index].used == Use::Rule => {
                let s = &self.stored[index];
                Lex::new(&[(stage, s.weight), (Stage::own(u32::from(s.level), s.number), 1.0)])
            }
            _ => Lex::new(&[(stage, 1.0)]),
        }
    }

    /// Whether a row is a required rule that is an equality.
    pub(crate) fn is_required_equality(&self, row: Row) -> bool {
        match row.is() {
            RowIs::Stored(index) => {
                let s = &self.stored[index];
                s.used == Use::Rule && s.level == 0 && s.relation == Relation::Equal
            }
            RowIs::Nonnegative(_) | RowIs::Fallback(_) => false,
        }
    }

    /// Whether a row is a rule, or was one.
    pub(crate) fn is_rule(&self, row: Row) -> bool {
        matches!(row.is(), RowIs::Stored(index) if self.stored[index].used != Use::Settle)
    }

    /// Whether a row is a required rule or a given.
    pub(crate) fn is_required(&self, row: Row) -> bool {
        match row.is() {
            RowIs::Stored(index) => {
                let s = &self.stored[index];
                s.used == Use::Rule && s.level == 0
            }
            RowIs::Nonnegative(_) => true,
            RowIs::Fallback(_) => false,
        }
    }
}
