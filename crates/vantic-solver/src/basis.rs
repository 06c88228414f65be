//! Which rows hold the variables in place, and what each variable is by them.
//!
//! As many rows as there are variables are **tight** (at zero); each defines one variable in terms
//! of others, and no definition leads back to itself. So the variables are computed one after
//! another, in elimination order, and nothing is ever expanded: a column of n views stays n short
//! definitions. Where rows only define variables together (both edges of a view by its middle and
//! its size, say), one of them is combined with others until it reads no variable that depends on
//! the one it defines (Gaussian elimination, kept to where it is needed); it is then **derived**,
//! and its combination is kept.

use crate::elimination_order::EliminationOrder;
use crate::rows::{Row, RowIs, Rows};
use crate::tolerance::{SINGULAR, sum};
use rustc_hash::FxHashMap;
use std::collections::BinaryHeap;
use std::hash::Hash;
use std::sync::Arc;

const NONE: u32 = u32::MAX;

/// So many rows of a combination are a unit of work.
const COMBINED: usize = 4;

/// So many entries of lists that are gone through are a unit of work.
const LISTED: usize = 64;

/// So many terms that a walk goes along are a unit of work, and so many variables that it comes to.
const FOLLOWED: usize = 8;
const WALKED: usize = 2;

/// A definition that is a combination of rows: `slot + sum of terms + constant`, zero where all
/// of the rows are.
#[derive(Clone, Debug, Default)]
pub(crate) struct Derived {
    pub(crate) slots: Vec<u32>,
    pub(crate) coefficients: Vec<f64>,
    pub(crate) constant: f64,
    /// The rows and their factors.
    pub(crate) rows: Vec<(Row, f64)>,
}

#[derive(Clone, Debug, Default)]
pub(crate) struct Basis {
    /// Per slot: the row that defines it ([`NONE`] for parameters and undefined variables).
    pub(crate) row_of: Vec<u32>,
    /// Per stored row: the slot it defines, if it is tight.
    defines: Vec<u32>,
    /// Per slot: whether its definition is derived.
    pub(crate) is_derived: Vec<bool>,
    /// What most rows have nothing to do with. Regions that are remembered share it.
    pub(crate) rare: Arc<DerivedRows>,
}

#[derive(Clone, Debug, Default)]
pub(crate) struct DerivedRows {
    /// Per row that is not stored: the slot it defines, if it is tight.
    defines: FxHashMap<Row, u32>,
    derived: FxHashMap<u32, Derived>,
    /// Per row: the derived definitions (of other variables) it takes part in.
    derived_with: FxHashMap<Row, Vec<u32>>,
    /// Per slot: the derived definitions that read it.
    derived_reading: FxHashMap<u32, Vec<u32>>,
}

/// Memory for walks through definitions; kept between calls.
#[derive(Clone, Debug, Default)]
pub(crate) struct Scratch {
    mark: Vec<u32>,
    epoch: u32,
    stack: Vec<u32>,
    /// After a walk: what was met, each after everything it reads (or that reads it).
    pub(crate) order: Vec<u32>,
    /// Sums per slot, zero between calls.
    weights: Vec<f64>,
    /// What was met and depends on something, none between calls.
    dependent: Vec<bool>,
}

impl Scratch {
    pub(crate) fn fit(&mut self, slots: usize) {
        self.mark.resize(slots, 0);
        self.weights.resize(slots, 0.0);
        self.dependent.resize(slots, false);
    }

    fn begin(&mut self) {
        self.epoch = self.epoch.wrapping_add(1);
        if self.epoch == 0 {
            self.mark.fill(0);
            self.epoch = 1;
        }
        self.order.clear();
    }

    fn is_marked(&self, slot: u32) -> bool {
        self.mark[slot as usize] == self.epoch
    }

    fn mark(&mut self, slot: u32) -> bool {
        let new = !self.is_marked(slot);
        self.mark[slot as usize] = self.epoch;
        new
    }
}

fn add(to: &mut f64, amount: f64) {
    *to = sum(*to, amount);
}

impl Basis {
    pub(crate) fn new(rows: &Rows) -> Self {
        Self {
            row_of: vec![NONE; rows.slot_count()],
            defines: vec![NONE; rows.stored_count()],
            is_derived: vec![false; rows.slot_count()],
            ..Self::default()
        }
    }

    pub(crate) fn fit(&mut self, rows: &Rows) {
        self.row_of.resize(rows.slot_count(), NONE);
        self.defines.resize(rows.stored_count(), NONE);
        self.is_derived.resize(rows.slot_count(), false);
    }

    /// Works out again which slot each stored row defines, from the rows of the slots.
    pub(crate) fn index_rows(&mut self, rows: &Rows) {
        self.defines.fill(NONE);
        for slot in rows.variables() {
            if let RowIs::Stored(index) = self.row_at(slot).is() {
                self.defines[index] = slot;
            }
        }
    }

    /// The slot that a row defines, if it is tight.
    pub(crate) fn defined_by(&self, row: Row) -> Option<u32> {
        let slot = match row.is() {
            RowIs::Stored(index) => self.defines[index],
            _ if self.rare.defines.is_empty() => NONE,
            _ => self.rare.defines.get(&row).copied().unwrap_or(NONE),
        };
        (slot != NONE).then_some(slot)
    }

    pub(crate) fn is_tight(&self, row: Row) -> bool {
        self.defined_by(row).is_some()
    }

    pub(crate) fn is_defined(&self, slot: u32) -> bool {
        self.row_of[slot as usize] != NONE
    }

    /// The row that defines a variable.
    pub(crate) fn row_at(&self, slot: u32) -> Row {
        Row(self.row_of[slot as usize])
    }

    pub(crate) fn derived(&self, slot: u32) -> Option<&Derived> {
        if self.is_derived[slot as usize] { self.rare.derived.get(&slot) } else { None }
    }

    /// The derived definitions a row takes part in besides its own.
    pub(crate) fn derived_with(&self, row: Row) -> &[u32] {
        if self.rare.derived_with.is_empty() {
            return &[];
        }
        self.rare.derived_with.get(&row).map_or(&[], Vec::as_slice)
    }

    /// Makes a row define a variable that no definition of what the row reads depends on.
    pub(crate) fn define(&mut self, slot: u32, row: Row) {
        self.row_of[slot as usize] = row.0;
        match row.is() {
            RowIs::Stored(index) => self.defines[index] = slot,
            _ => {
                Arc::make_mut(&mut self.rare).defines.insert(row, slot);
            }
        }
    }

    pub(crate) fn define_by(&mut self, slot: u32, row: Row, derived: Derived) {
        self.define(slot, row);
        let rare = Arc::make_mut(&mut self.rare);
        for &(other, _) in derived.rows.iter().filter(|r| r.0 != row) {
            rare.derived_with.entry(other).or_default().push(slot);
        }
        for &read in &derived.slots {
            rare.derived_reading.entry(read).or_default().push(slot);
        }
        rare.derived.insert(slot, derived);
        self.is_derived[slot as usize] = true;
    }

    /// Takes definitions out. What lists them is gone through once, however many of them go.
    fn undefine(&mut self, slots: &[u32]) {
        let (mut with, mut reading) = (Vec::new(), Vec::new());
        for &slot in slots {
            let row = self.row_at(slot);
            self.row_of[slot as usize] = NONE;
            match row.is() {
                RowIs::Stored(index) => self.defines[index] = NONE,
                _ => {
                    Arc::make_mut(&mut self.rare).defines.remove(&row);
                }
            }
            if std::mem::take(&mut self.is_derived[slot as usize])
                && let Some(derived) = Arc::make_mut(&mut self.rare).derived.remove(&slot)
            {
                with.extend(derived.rows.iter().map(|r| r.0));
                reading.extend(derived.slots);
            }
        }
        if with.is_empty() {
            return;
        }
        let DerivedRows { derived_with, derived_reading, .. } = Arc::make_mut(&mut self.rare);
        let gone = |slot: u32| self.row_of[slot as usize] == NONE;
        forget(derived_with, with, gone);
        forget(derived_reading, reading, gone);
    }

    /// A definition: its constant, and what it reads (parameters included) with `-d slot / d read`.
    pub(crate) fn definition<'a>(
        &'a self,
        rows: &'a Rows,
        slot: u32,
    ) -> (f64, impl Iterator<Item = (u32, f64)> + use<'a>) {
        let (slots, coefficients, factor, constant) = match self.derived(slot) {
            Some(d) => (d.slots.as_slice(), d.coefficients.as_slice(), 1.0, d.constant),
            None => {
                let row = self.row_at(slot);
                let (slots, coefficients) = rows.terms(row);
                let factor = 1.0 / own(slots, coefficients, slot);
                (slots, coefficients, factor, rows.constant(row) * factor)
            }
        };
        let both = slots.iter().zip(coefficients);
        (constant, both.filter(move |t| *t.0 != slot).map(move |(&s, &c)| (s, c * factor)))
    }

    /// What a definition reads, as [`Self::definition`] has it.
    pub(crate) fn reads<'a>(
        &'a self,
        rows: &'a Rows,
        slot: u32,
    ) -> impl Iterator<Item = (u32, f64)> + use<'a> {
        self.definition(rows, slot).1
    }

    /// The factor of a row in the definition of its own variable.
    fn factor(&self, rows: &Rows, slot: u32) -> f64 {
        let (slots, coefficients) = rows.terms(self.row_at(slot));
        1.0 / own(slots, coefficients, slot)
    }

    /// The rows a definition is made of, with their factors.
    pub(crate) fn made_of(&self, rows: &Rows, slot: u32, mut each: impl FnMut(Row, f64)) {
        match self.derived(slot) {
            Some(d) => {
                crate::work::spend(d.rows.len() / COMBINED);
                d.rows.iter().for_each(|&(row, factor)| each(row, factor));
            }
            None => each(self.row_at(slot), self.factor(rows, slot)),
        }
    }

    /// The value that a definition gives its variable.
    pub(crate) fn evaluate(&self, rows: &Rows, slot: u32, values: &[f64]) -> f64 {
        let (constant, reads) = self.definition(rows, slot);
        reads.fold(-constant, |sum, (s, c)| sum - c * values[s as usize])
    }

    /// Walks from variables to what they read, as far as `enter` allows; leaves in the scratch's
    /// order each variable after those it reads.
    pub(crate) fn walk_up(
        &self,
        rows: &Rows,
        from: impl Iterator<Item = u32>,
        enter: impl Fn(u32) -> bool,
        scratch: &mut Scratch,
    ) {
        let enter = |slot: u32| slot >= rows.params && enter(slot);
        let reads = |slot: u32| {
            let defined = self.is_defined(slot).then(|| self.reads(rows, slot).map(|r| r.0));
            defined.into_iter().flatten()
        };
        depth_first(from, enter, reads, scratch);
    }

    /// The variables that read a variable directly.
    pub(crate) fn readers<'a>(&'a self, rows: &'a Rows, slot: u32) -> impl Iterator<Item = u32> + use<'a> {
        let direct = rows.readers_of(slot).filter_map(move |row| {
            let reader = self.defines[row as usize];
            (reader != NONE && reader != slot && self.derived(reader).is_none()).then_some(reader)
        });
        let reading = &self.rare.derived_reading;
        let derived = if reading.is_empty() { None } else { reading.get(&slot) };
        direct.chain(derived.into_iter().flatten().copied())
    }

    /// Walks from variables to those that read them; leaves each after those that read it.
    pub(crate) fn walk_down(
        &self,
        rows: &Rows,
        from: impl Iterator<Item = u32>,
        enter: impl Fn(u32) -> bool,
        scratch: &mut Scratch,
    ) {
        depth_first(from, enter, |slot| self.readers(rows, slot), scratch);
    }

    /// A sum over variables in terms of the tight rows: by how much it rises per unit of each. Goes
    /// no further up than `enter` allows, and than something of the sum is left; returns slots (of
    /// the rows) and factors.
    pub(crate) fn in_tight_rows(
        &self,
        rows: &Rows,
        terms: impl Iterator<Item = (u32, f64)>,
        enter: impl Fn(u32) -> bool,
        order: &mut EliminationOrder,
        scratch: &mut Scratch,
    ) -> Vec<(u32, f64)> {
        if order.is_stale() {
            order.start_over(rows.params);
            self.walk_up(rows, rows.variables(), |_| true, scratch);
            scratch.order.iter().for_each(|&slot| order.append(slot));
        }
        scratch.begin();
        let mut waiting = order.follow();
        let put = |waiting: &mut BinaryHeap<(u32, u32)>, scratch: &mut Scratch, slot: u32, c: f64| {
            if slot >= rows.params && (scratch.is_marked(slot) || enter(slot)) {
                if scratch.mark(slot) {
                    waiting.push((order.label(slot), slot));
                }
                add(&mut scratch.weights[slot as usize], c);
            }
        };
        terms.for_each(|(slot, c)| put(&mut waiting, scratch, slot, c));
        let mut found = Vec::new();
        let (mut merged, mut met, mut followed) = (true, 0, 0);
        while let Some((label, slot)) = waiting.pop() {
            met += 1;
            let weight = std::mem::take(&mut scratch.weights[slot as usize]);
            if weight == 0.0 {
                continue;
            }
            match self.derived(slot) {
                None => found.push((slot, weight * self.factor(rows, slot))),
                Some(d) => {
                    merged = false;
                    followed += d.rows.len();
                    found.extend(d.rows.iter().filter_map(|&(row, factor)| {
                        self.defined_by(row).map(|defined| (defined, weight * factor))
                    }));
                }
            }
            for (read, c) in self.reads(rows, slot) {
                followed += 1;
                debug_assert!(
                    order.label(read) < label || !enter(read),
                    "{read} is read by what comes before it"
                );
                put(&mut waiting, scratch, read, -weight * c);
            }
        }
        order.followed(waiting);
        crate::work::spend(1 + met + followed / FOLLOWED);
        if !merged {
            found.sort_by_key(|f| f.0);
            let mut to = 0;
            for at in 0..found.len() {
                if to > 0 && found[to - 1].0 == found[at].0 {
                    let amount = found[at].1;
                    add(&mut found[to - 1].1, amount);
                } else {
                    found[to] = found[at];
                    to += 1;
                }
            }
            found.truncate(to);
        }
        found.retain(|f| f.1 != 0.0);
        found
    }

    /// Puts variables that were redefined behind all they read.
    pub(crate) fn put_in_order(&self, rows: &Rows, slots: &[u32], order: &mut EliminationOrder) {
        order.put_behind(slots, |slot| self.reads(rows, slot).map(|r| r.0), |slot| self.readers(rows, slot));
    }

    /// A sum over slots in terms of the parameters alone: its terms and its constant.
    pub(crate) fn in_parameters(
        &self,
        rows: &Rows,
        terms: impl Iterator<Item = (u32, f64)> + Clone,
        mut constant: f64,
        scratch: &mut Scratch,
    ) -> (Vec<(u32, f64)>, f64) {
        self.walk_up(rows, terms.clone().map(|t| t.0), |_| true, scratch);
        for (slot, c) in terms {
            add(&mut scratch.weights[slot as usize], c);
        }
        for at in (0..scratch.order.len()).rev() {
            let slot = scratch.order[at];
            let weight = std::mem::take(&mut scratch.weights[slot as usize]);
            if weight != 0.0 {
                let (own, reads) = self.definition(rows, slot);
                constant -= weight * own;
                for (read, c) in reads {
                    add(&mut scratch.weights[read as usize], -weight * c);
                }
            }
        }
        let params = (0..rows.params).map(|p| (p, std::mem::take(&mut scratch.weights[p as usize])));
        (params.filter(|t| t.1 != 0.0).collect(), constant)
    }

    /// By how much each variable moves per unit of a tight row.
    pub(crate) fn moved_by(
        &self,
        rows: &Rows,
        row: Row,
        enter: impl Fn(u32) -> bool,
        scratch: &mut Scratch,
    ) -> Vec<(u32, f64)> {
        let starts = self.made_with(row);
        self.walk_down(rows, starts.iter().copied(), enter, scratch);
        for &slot in &starts {
            if scratch.is_marked(slot) {
                let mut factor = 0.0;
                self.made_of(rows, slot, |made, f| factor += if made == row { f } else { 0.0 });
                add(&mut scratch.weights[slot as usize], factor);
            }
        }
        let mut moved = Vec::with_capacity(scratch.order.len());
        for at in (0..scratch.order.len()).rev() {
            let slot = scratch.order[at];
            let mut rate = std::mem::take(&mut scratch.weights[slot as usize]);
            for (read, c) in self.reads(rows, slot) {
                if scratch.is_marked(read) && scratch.weights[read as usize] != 0.0 {
                    add(&mut rate, -c * scratch.weights[read as usize]);
                }
            }
            scratch.weights[slot as usize] = rate;
            if rate != 0.0 {
                moved.push((slot, rate));
            }
        }
        for &slot in &scratch.order {
            scratch.weights[slot as usize] = 0.0;
        }
        moved
    }

    /// A row combined with definitions until it reads no variable that depends on an undefined one
    /// (other than the undefined themselves). `enter` tells where such a dependence may be.
    fn combined(
        &self,
        rows: &Rows,
        row: Row,
        enter: impl Fn(u32) -> bool,
        scratch: &mut Scratch,
    ) -> Combined {
        let (slots, coefficients) = rows.terms(row);
        let terms = || slots.iter().copied().zip(coefficients.iter().copied());
        self.walk_up(rows, terms().map(|t| t.0), enter, scratch);
        let Scratch { order, weights, dependent, .. } = scratch;
        // Which of those that were met depend on an undefined one.
        for &slot in order.iter() {
            let is =
                !self.is_defined(slot) || self.reads(rows, slot).any(|(read, _)| dependent[read as usize]);
            dependent[slot as usize] = is;
        }
        let mut met: Vec<u32> = Vec::new();
        let mut put = |weights: &mut [f64], slot: u32, c: f64| {
            if weights[slot as usize] == 0.0 {
                met.push(slot);
            }
            add(&mut weights[slot as usize], c);
        };
        for (slot, c) in terms() {
            put(weights, slot, c);
        }
        let mut made = Made::new(row);
        let mut constant = rows.constant(row);
        for &slot in order.iter().rev() {
            if !dependent[slot as usize] || !self.is_defined(slot) {
                continue;
            }
            let weight = std::mem::take(&mut weights[slot as usize]);
            if weight == 0.0 {
                continue;
            }
            self.made_of(rows, slot, |other, factor| made.add(other, -weight * factor));
            let (own, reads) = self.definition(rows, slot);
            constant -= weight * own;
            for (read, c) in reads {
                put(weights, read, -weight * c);
            }
        }
        met.sort_unstable();
        let (mut open, mut left) = (Vec::new(), Vec::new());
        for slot in met {
            let weight = std::mem::take(&mut weights[slot as usize]);
            match dependent[slot as usize] {
                _ if weight == 0.0 => {}
                true if self.is_defined(slot) => {}
                true => open.push((slot, weight)),
                false => left.push((slot, weight)),
            }
        }
        order.iter().for_each(|&slot| dependent[slot as usize] = false);
        Combined { open, left, made: made.rows, constant }
    }

    /// Defines one undefined variable by a row, combined with definitions where it has to be. `None`
    /// where the row says nothing new. `prefer` tells which variable to take where several would do.
    pub(crate) fn define_with<K: Ord>(
        &mut self,
        rows: &Rows,
        row: Row,
        enter: impl Fn(u32) -> bool,
        prefer: impl Fn(u32) -> K,
        scratch: &mut Scratch,
    ) -> Option<u32> {
        let combined = self.combined(rows, row, enter, scratch);
        let largest = combined.open.iter().map(|t| t.1.abs()).fold(0.0, f64::max);
        let all = combined.left.iter().map(|t| t.1.abs()).fold(largest, f64::max);
        if largest <= SINGULAR * all {
            return None;
        }
        let &(slot, c) =
            combined.open.iter().filter(|t| t.1.abs() >= 0.05 * largest).max_by_key(|t| prefer(t.0))?;
        if combined.made.len() == 1 {
            self.define(slot, row);
        } else {
            let others = combined.open.iter().copied().filter(|t| t.0 != slot).chain(combined.left);
            let (slots, coefficients) = others.map(|(s, k)| (s, k / c)).unzip();
            let made = combined.made.into_iter().filter(|m| m.1 != 0.0);
            let derived = Derived {
                slots,
                coefficients,
                constant: combined.constant / c,
                rows: made.map(|(row, factor)| (row, factor / c)).collect(),
            };
            self.define_by(slot, row, derived);
        }
        Some(slot)
    }

    /// Takes one row out and another in. The variables whose definitions changed; `None` where the
    /// numbers do not allow it, or the work is spent (nothing is to be relied on then). `enter` tells
    /// where a dependence on what changes may be.
    pub(crate) fn pivot(
        &mut self,
        rows: &Rows,
        out: Row,
        into: Row,
        enter: impl Fn(u32) -> bool,
        order: &EliminationOrder,
        scratch: &mut Scratch,
    ) -> Option<Vec<u32>> {
        let slot = self.defined_by(out)?;
        let mut open = vec![slot];
        open.extend_from_slice(self.derived_with(out));
        // What comes before all of them depends on none.
        let first = open.iter().map(|&slot| order.label(slot)).min()?;
        let enter = |slot: u32| order.label(slot) >= first && enter(slot);
        let mut place: Vec<Row> = vec![into];
        place.extend(open[1..].iter().map(|&s| self.row_at(s)));
        self.undefine(&open);
        for row in place {
            if crate::work::is_spent() {
                return None;
            }
            self.define_with(rows, row, enter, std::cmp::Reverse, scratch)?;
        }
        Some(open)
    }

    /// The variables whose definitions a row takes part in.
    pub(crate) fn made_with(&self, row: Row) -> Vec<u32> {
        let own = self.defined_by(row).into_iter();
        own.chain(self.derived_with(row).iter().copied()).collect()
    }

    /// Whether more variables than a limit depend on some of these.
    pub(crate) fn reaches(&self, rows: &Rows, from: &[u32], limit: usize, scratch: &mut Scratch) -> bool {
        scratch.begin();
        for &slot in from {
            if scratch.mark(slot) {
                scratch.order.push(slot);
            }
        }
        let mut at = 0;
        while at < scratch.order.len() && scratch.order.len() <= limit {
            for reader in self.readers(rows, scratch.order[at]) {
                if scratch.mark(reader) {
                    scratch.order.push(reader);
                }
            }
            at += 1;
        }
        scratch.order.len() > limit
    }

    /// The constant of a tight row has changed; the variables whose definitions have by that.
    pub(crate) fn shift_constant(&mut self, row: Row, by: f64) -> Vec<u32> {
        let changed = self.made_with(row);
        for slot in &changed {
            if self.is_derived[*slot as usize]
                && let Some(derived) = Arc::make_mut(&mut self.rare).derived.get_mut(slot)
            {
                let factor: f64 = derived.rows.iter().filter(|r| r.0 == row).map(|r| r.1).sum();
                derived.constant += factor * by;
            }
        }
        changed
    }
}

/// Takes slots that are gone out of the lists under some keys.
fn forget<K: Copy + Eq + Hash + Ord>(
    lists: &mut FxHashMap<K, Vec<u32>>,
    mut keys: Vec<K>,
    gone: impl Fn(u32) -> bool,
) {
    let mut looked_at = 0;
    let named = keys.len();
    keys.sort_unstable();
    keys.dedup();
    for key in keys {
        if let Some(list) = lists.get_mut(&key) {
            looked_at += list.len();
            list.retain(|&slot| !gone(slot));
            if list.is_empty() {
                lists.remove(&key);
            }
        }
    }
    crate::work::spend(named / COMBINED + looked_at / LISTED);
}

/// Walks from variables to all that `next` leads to, as far as `enter` allows; leaves in the
/// scratch's order each after those it leads to.
fn depth_first<I: Iterator<Item = u32>>(
    from: impl Iterator<Item = u32>,
    enter: impl Fn(u32) -> bool,
    next: impl Fn(u32) -> I,
    scratch: &mut Scratch,
) {
    const DONE: u32 = 1 << 31;
    scratch.begin();
    let mut followed = 0;
    for start in from {
        scratch.stack.push(start);
        while let Some(slot) = scratch.stack.pop() {
            if slot & DONE != 0 {
                scratch.order.push(slot & !DONE);
            } else if enter(slot) && scratch.mark(slot) {
                scratch.stack.push(slot | DONE);
                let Scratch { stack, mark, epoch, .. } = scratch;
                let next = next(slot).inspect(|_| followed += 1);
                stack.extend(next.filter(|&to| mark[to as usize] != *epoch));
            }
        }
    }
    crate::work::spend(1 + scratch.order.len() / WALKED + followed / FOLLOWED);
}

/// A row in terms of undefined variables, and of what does not depend on them.
struct Combined {
    open: Vec<(u32, f64)>,
    left: Vec<(u32, f64)>,
    made: Vec<(Row, f64)>,
    constant: f64,
}

/// The rows that a combination is made of, in the order in which they came in.
struct Made {
    rows: Vec<(Row, f64)>,
    /// Where each is, once they are many.
    at: FxHashMap<Row, usize>,
}

impl Made {
    /// As many are looked through one by one.
    const FEW: usize = 12;

    fn new(row: Row) -> Self {
        Self { rows: vec![(row, 1.0)], at: FxHashMap::default() }
    }

    fn add(&mut self, row: Row, amount: f64) {
        let known = match self.rows.len() {
            ..=Self::FEW => self.rows.iter().position(|r| r.0 == row),
            many => {
                if self.at.is_empty() {
                    self.at.extend(self.rows.iter().zip(0..).map(|(r, at)| (r.0, at)));
                }
                match *self.at.entry(row).or_insert(many) {
                    new if new == many => None,
                    at => Some(at),
                }
            }
        };
        match known {
            Some(at) => add(&mut self.rows[at].1, amount),
            None => self.rows.push((row, amount)),
        }
    }
}

fn own(slots: &[u32], coefficients: &[f64], slot: u32) -> f64 {
    slots.iter().position(|s| *s == slot).map_or(1.0, |at| coefficients[at])
}
