//! In which order the variables that are known can be computed, kept while definitions change.
//!
//! Each has a label that is above those of all it reads. There is space between two labels, so that few others have to be
//! raised where a definition comes to read what came later (an online topological order, as in Dietz and Sleator 1987 for
//! lists). With it a sum is followed upwards from its latest variable on, and no further than something of it is left:
//! where two sides of a rule come down to the same edge, nothing before that edge is looked at.

use std::cmp::Reverse;
use std::collections::BinaryHeap;

/// The space between two labels, where there is enough.
const SPACE: u32 = 1 << 10;

/// The label of what is not known yet.
const UNKNOWN: u32 = u32::MAX;

#[derive(Clone, Debug, Default)]
pub(crate) struct EliminationOrder {
    /// Per slot; zero for the parameters.
    labels: Vec<u32>,
    top: u32,
    space: u32,
    /// Whether another basis may have been taken up since they were given.
    is_stale: bool,
    waiting: BinaryHeap<(u32, u32)>,
    raised: BinaryHeap<Reverse<(u32, u32)>>,
}

impl EliminationOrder {
    pub(crate) fn fit(&mut self, slots: usize) {
        self.labels.resize(slots, UNKNOWN);
    }

    /// Nothing is known any more.
    pub(crate) fn start_over(&mut self, params: u32) {
        self.labels.fill(UNKNOWN);
        self.labels[..params as usize].fill(0);
        (self.top, self.is_stale) = (0, false);
        self.space = (u32::MAX / 4 / (self.labels.len() as u32 + 1)).clamp(1, SPACE);
    }

    /// Another basis was taken up.
    pub(crate) fn note_other_basis(&mut self) {
        self.is_stale = true;
    }

    /// A variable becomes known after all others.
    pub(crate) fn append(&mut self, slot: u32) {
        self.top += self.space;
        self.is_stale |= self.top > u32::MAX / 2;
        self.labels[slot as usize] = self.top;
    }

    pub(crate) fn label(&self, slot: u32) -> u32 {
        self.labels[slot as usize]
    }

    /// Whether it has to be worked out again, since another basis was taken up.
    pub(crate) fn is_stale(&self) -> bool {
        self.is_stale
    }

    /// Puts variables that were redefined behind all they read, and those that read them behind them.
    pub(crate) fn put_behind<R: Iterator<Item = u32>, S: Iterator<Item = u32>>(
        &mut self,
        slots: &[u32],
        reads: impl Fn(u32) -> R,
        readers: impl Fn(u32) -> S,
    ) {
        let mut raised = std::mem::take(&mut self.raised);
        raised.extend(slots.iter().map(|&slot| Reverse((self.label(slot), slot))));
        while let Some(Reverse((_, slot))) = raised.pop() {
            let before = reads(slot).map(|read| self.label(read)).filter(|&label| label != UNKNOWN);
            let least = before.max().unwrap_or(0) + 1;
            if self.label(slot) >= least {
                continue;
            }
            self.labels[slot as usize] = least;
            self.top = self.top.max(least);
            let overtaken = readers(slot).filter(|&reader| self.label(reader) <= least);
            raised.extend(overtaken.map(|reader| Reverse((self.label(reader), reader))));
        }
        self.raised = raised;
    }

    /// Begins to follow some variables upwards.
    pub(crate) fn follow(&mut self) -> BinaryHeap<(u32, u32)> {
        std::mem::take(&mut self.waiting)
    }

    /// Keeps the memory of one that came to its end.
    pub(crate) fn followed(&mut self, waiting: BinaryHeap<(u32, u32)>) {
        self.waiting = waiting;
    }
}
