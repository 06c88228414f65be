//! A set of rows, emptied and filled again without allocating.

use crate::rows::{Row, RowIs, Rows};

/// Rows that are met once each: a bit for each row.
#[derive(Clone, Debug, Default)]
pub(crate) struct RowSet {
    bits: Vec<u64>,
    met: Vec<u32>,
}

impl RowSet {
    /// Empties the set, and makes room.
    pub(crate) fn begin(&mut self, rows: &Rows) {
        self.met.drain(..).for_each(|at| self.bits[at as usize / 64] = 0);
        self.bits.resize((rows.stored_count() + 2 * rows.slot_count()).div_ceil(64), 0);
    }

    fn place(rows: &Rows, row: Row) -> u32 {
        let (stored, slots) = (rows.stored_count() as u32, rows.slot_count() as u32);
        match row.is() {
            RowIs::Stored(index) => index as u32,
            RowIs::Nonnegative(slot) => stored + slot,
            RowIs::Fallback(slot) => stored + slots + slot,
        }
    }

    /// Puts a row in; whether it is new.
    pub(crate) fn insert(&mut self, rows: &Rows, row: Row) -> bool {
        let at = Self::place(rows, row);
        let (word, bit) = (&mut self.bits[at as usize / 64], 1 << (at % 64));
        let new = *word & bit == 0;
        if new {
            *word |= bit;
            self.met.push(at);
        }
        new
    }

    pub(crate) fn contains(&self, rows: &Rows, row: Row) -> bool {
        let at = Self::place(rows, row);
        self.bits[at as usize / 64] & (1 << (at % 64)) != 0
    }
}
