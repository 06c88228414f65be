//! Which rows would be wrong on which side, as long as the same rows stay tight.

use crate::rows::{Row, RowIs};
use crate::simplex::Search;
use std::collections::BTreeMap;

/// A row that may not be on a side of zero, as long as the same rows stay tight.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct Watch {
    pub(crate) row: Row,
    /// Whether it is the side below zero; otherwise the side above.
    pub(crate) below: bool,
}

impl Watch {
    /// How far a row with this value is from that side.
    pub(crate) fn spare(self, value: f64) -> f64 {
        if self.below { value } else { -value }
    }
}

const BELOW: u8 = 1;
const ABOVE: u8 = 2;

/// Per row: which sides would be wrong.
#[derive(Clone, Debug, Default)]
pub(crate) struct Infeasibility {
    stored: Vec<u8>,
    /// Per slot.
    nonnegatives: Vec<u8>,
    rests: BTreeMap<Row, u8>,
}

impl Infeasibility {
    pub(crate) fn all(search: &Search) -> Self {
        let mut infeasibility = Self {
            stored: vec![0; search.rows.stored_count()],
            nonnegatives: vec![0; search.rows.slot_count()],
            rests: BTreeMap::new(),
        };
        for index in 0..search.rows.stored_count() {
            infeasibility.update(search, Row(index as u32));
        }
        for slot in search.rows.variables() {
            infeasibility.update(search, Row::nonnegative(slot));
            infeasibility.update(search, Row::rest(slot));
        }
        infeasibility
    }

    pub(crate) fn update(&mut self, search: &Search, row: Row) {
        let (rows, state) = (&search.rows, &search.state);
        let sides = || {
            let wrong = |above| state.is_wrong(rows, row, above) && !state.is_idle(rows, row, above);
            match state.basis.is_tight(row) {
                true => 0,
                false => (u8::from(wrong(false)) * BELOW) | (u8::from(wrong(true)) * ABOVE),
            }
        };
        match row.is() {
            RowIs::Stored(index) => self.stored[index] = sides(),
            RowIs::Nonnegative(slot) => {
                self.nonnegatives[slot as usize] = if rows.is_nonnegative(slot) { sides() } else { 0 }
            }
            RowIs::Fallback(slot) => {
                let counts = state.rank(slot) >= rows.rest_stage(slot);
                match if counts { sides() } else { 0 } {
                    0 => self.rests.remove(&row),
                    sides => self.rests.insert(row, sides),
                };
            }
        }
    }

    fn sides(&self, row: Row) -> u8 {
        match row.is() {
            RowIs::Stored(index) => self.stored[index],
            RowIs::Nonnegative(slot) => self.nonnegatives[slot as usize],
            RowIs::Fallback(_) if self.rests.is_empty() => 0,
            RowIs::Fallback(_) => self.rests.get(&row).copied().unwrap_or(0),
        }
    }

    /// Whether a row would be wrong on some side.
    pub(crate) fn has(&self, row: Row) -> bool {
        self.sides(row) != 0
    }

    /// The sides of a row that would be wrong.
    pub(crate) fn of(&self, row: Row) -> impl Iterator<Item = Watch> + use<> {
        let sides = self.sides(row);
        let side = move |bit, below| (sides & bit != 0).then_some(Watch { row, below });
        side(BELOW, true).into_iter().chain(side(ABOVE, false))
    }

    pub(crate) fn watches(&self) -> Vec<Watch> {
        let stored = (0..self.stored.len() as u32).map(Row).filter(|r| self.stored[r.0 as usize] != 0);
        let nonnegatives = (0..self.nonnegatives.len() as u32)
            .filter(|s| self.nonnegatives[*s as usize] != 0)
            .map(Row::nonnegative);
        let rows = stored.chain(nonnegatives).chain(self.rests.keys().copied());
        rows.flat_map(|row| self.of(row)).collect()
    }
}
