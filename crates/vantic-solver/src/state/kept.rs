//! A state kept as what differs from another, so that regions near one another take little.

use crate::basis::{DerivedRows, Scratch};
use crate::lex::Lex;
use crate::rows::{Row, Rows};
use crate::state::State;
use std::collections::BTreeMap;
use std::sync::Arc;

/// Where two lists of the same length differ, and what the second has there.
#[derive(Clone, Debug, Default)]
struct Differences<T>(Vec<(u32, T)>);

impl<T: Copy + PartialEq> Differences<T> {
    fn between(old: &[T], new: &[T]) -> Self {
        let mut found = Vec::new();
        // Most of them are alike, so many are compared at once, without a branch for each.
        for (block, (a, b)) in old.chunks(64).zip(new.chunks(64)).enumerate() {
            if a.iter().zip(b).fold(false, |differ, (a, b)| differ | (a != b)) {
                let each = a.iter().zip(b).enumerate().filter(|(_, (a, b))| a != b);
                found.extend(each.map(|(at, (_, &b))| ((64 * block + at) as u32, b)));
            }
        }
        Self(found)
    }

    fn apply(&self, to: &mut [T]) {
        self.0.iter().for_each(|&(at, value)| to[at as usize] = value);
    }

    fn len(&self) -> usize {
        self.0.len()
    }
}

/// A state that was left, and can be taken up again. What follows from the rest (guards and ranks,
/// say) is not kept: to find where it differs takes as long as the rest of a crossing.
#[derive(Clone, Debug)]
pub(crate) struct StateDelta {
    base: Arc<State>,
    row_of: Differences<u32>,
    is_derived: Differences<bool>,
    sides: Differences<i8>,
    soft: Differences<bool>,
    rare: Arc<DerivedRows>,
    rest_sides: BTreeMap<u32, i8>,
    pulls: BTreeMap<Row, Lex>,
    pulling: usize,
    pulling_rules: usize,
}

impl StateDelta {
    /// Keeps a state by what differs from a base; where that is much it becomes the base itself.
    pub(crate) fn new(base: &mut Option<Arc<State>>, state: &State) -> Self {
        let old = base.take().unwrap_or_else(|| Arc::new(state.clone()));
        let mut kept = Self::on(&old, state);
        if kept.own_size() > kept.base_size() / 2 {
            kept = Self::on(&Arc::new(state.clone()), state);
        }
        *base = Some(kept.base.clone());
        kept
    }

    fn on(base: &Arc<State>, state: &State) -> Self {
        let (from, to) = (&base.basis, &state.basis);
        Self {
            base: base.clone(),
            row_of: Differences::between(&from.row_of, &to.row_of),
            is_derived: Differences::between(&from.is_derived, &to.is_derived),
            sides: Differences::between(&base.sides, &state.sides),
            soft: Differences::between(&base.soft, &state.soft),
            rare: to.rare.clone(),
            rest_sides: state.rest_sides.clone(),
            pulls: state.pulls.clone(),
            pulling: state.pulling,
            pulling_rules: state.pulling_rules,
        }
    }

    /// The state that was kept.
    pub(crate) fn state(&self, rows: &Rows, scratch: &mut Scratch) -> State {
        let mut state = State::clone(&self.base);
        self.row_of.apply(&mut state.basis.row_of);
        self.is_derived.apply(&mut state.basis.is_derived);
        state.basis.rare = self.rare.clone();
        state.basis.index_rows(rows);
        self.sides.apply(&mut state.sides);
        self.soft.apply(&mut state.soft);
        state.rest_sides.clone_from(&self.rest_sides);
        state.pulls.clone_from(&self.pulls);
        state.pulling = self.pulling;
        state.pulling_rules = self.pulling_rules;
        for slot in rows.variables() {
            state.update_guard(rows, slot);
        }
        state.basis.walk_up(rows, rows.variables(), |_| true, scratch);
        for &slot in &scratch.order {
            state.update_rank(rows, slot);
        }
        state
    }

    /// How much memory it takes, counted in numbers, besides what it shares with another.
    pub(crate) fn size(&self, beside: Option<&StateDelta>) -> usize {
        let shared = beside.is_some_and(|b| Arc::ptr_eq(&b.base, &self.base));
        self.own_size() + if shared { 0 } else { self.base_size() }
    }

    fn own_size(&self) -> usize {
        let differing = self.row_of.len() + self.is_derived.len() + self.sides.len() + self.soft.len();
        differing + 8 * (self.pulls.len() + self.rest_sides.len())
    }

    fn base_size(&self) -> usize {
        3 * self.base.rank.len() + self.base.sides.len()
    }
}
