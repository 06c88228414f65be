//! How tall very many rows are, those that were measured and those that were not.

use std::ops::Range;

/// How many rows a block holds: at most, and where blocks are made.
const MAX_BLOCK: usize = 1024;
const NEW_BLOCK: usize = 512;

/// How tall rows are, in blocks, so that a row is found by where it lies, and rows come and go, without a walk over all.
#[derive(Clone, Debug, Default)]
pub(super) struct Heights {
    blocks: Vec<Block>,
    /// How tall a row is as long as none was measured.
    first_estimate: f64,
}

#[derive(Clone, Debug, Default)]
struct Block {
    /// `None` for a row that was not measured yet.
    rows: Vec<Option<f64>>,
    /// Of those that were measured.
    height: f64,
    measured: usize,
}

impl Block {
    fn new(rows: Vec<Option<f64>>) -> Self {
        let mut block = Self { rows, ..Self::default() };
        block.sum();
        block
    }

    /// Adds up from the start, so that errors of rounding do not grow with the number of changes.
    fn sum(&mut self) {
        let measured = || self.rows.iter().flatten();
        (self.height, self.measured) = (measured().sum(), measured().count());
    }

    fn tall(&self, estimate: f64) -> f64 {
        self.height + estimate * (self.rows.len() - self.measured) as f64
    }
}

impl Heights {
    pub(super) fn new(first_estimate: f64) -> Self {
        Self { blocks: Vec::new(), first_estimate }
    }

    /// How tall a row is taken to be that was not measured: as tall as the others are on average.
    fn estimate(&self) -> f64 {
        let (height, measured) = self
            .blocks
            .iter()
            .fold((0.0, 0), |(height, measured), block| (height + block.height, measured + block.measured));
        if measured == 0 { self.first_estimate } else { height / measured as f64 }
    }

    /// How tall all rows are.
    pub(super) fn total(&self) -> f64 {
        let estimate = self.estimate();
        self.blocks.iter().map(|block| block.tall(estimate)).sum()
    }

    /// Where a row begins, below the start of the first one.
    pub(super) fn top(&self, mut row: usize) -> f64 {
        let (estimate, mut top) = (self.estimate(), 0.0);
        for block in &self.blocks {
            if row < block.rows.len() {
                return block.rows[..row].iter().fold(top, |top, height| top + height.unwrap_or(estimate));
            }
            (row, top) = (row - block.rows.len(), top + block.tall(estimate));
        }
        top
    }

    /// The row at a distance below the start of the first one, and where it begins: the last one for what is behind.
    pub(super) fn at(&self, distance: f64) -> (usize, f64) {
        let (estimate, mut top, mut row) = (self.estimate(), 0.0, 0);
        let mut last = (0, 0.0);
        for (number, block) in self.blocks.iter().enumerate() {
            let bottom = top + block.tall(estimate);
            if distance < bottom || number + 1 == self.blocks.len() {
                for height in &block.rows {
                    last = (row, top);
                    top += height.unwrap_or(estimate);
                    if distance < top {
                        return last;
                    }
                    row += 1;
                }
                // What adds up row by row may be a little less than the sum of the block.
                return last;
            }
            (row, top) = (row + block.rows.len(), bottom);
        }
        last
    }

    /// The block of a row, and its place in it.
    fn find(&self, mut row: usize) -> Option<(usize, usize)> {
        for (at, block) in self.blocks.iter().enumerate() {
            if row < block.rows.len() {
                return Some((at, row));
            }
            row -= block.rows.len();
        }
        None
    }

    pub(super) fn set(&mut self, row: usize, height: f64) {
        let Some((block, at)) = self.find(row) else { return };
        let block = &mut self.blocks[block];
        if block.rows[at] != Some(height) {
            block.rows[at] = Some(height);
            block.sum();
        }
    }

    /// Puts rows before another one, or behind all of them.
    pub(super) fn insert(&mut self, before: usize, heights: &[Option<f64>]) {
        let (at, behind) = match self.find(before) {
            Some((at, within)) => {
                let block = &mut self.blocks[at];
                if block.rows.len() + heights.len() <= MAX_BLOCK {
                    block.rows.splice(within..within, heights.iter().copied());
                    block.sum();
                    return;
                }
                let behind = block.rows.split_off(within);
                block.sum();
                (at + 1, behind)
            }
            None => (self.blocks.len(), Vec::new()),
        };
        let all = heights.chunks(NEW_BLOCK).map(<[_]>::to_vec).chain([behind]);
        let new: Vec<Block> = all.filter(|rows| !rows.is_empty()).map(Block::new).collect();
        let end = at + new.len();
        self.blocks.splice(at..at, new);
        self.join(at.saturating_sub(1), end);
    }

    /// Takes rows out, and gives back how tall they are.
    pub(super) fn remove(&mut self, rows: Range<usize>) -> Vec<Option<f64>> {
        let mut removed = Vec::new();
        let (mut begin, mut first) = (0, None);
        for (at, block) in self.blocks.iter_mut().enumerate() {
            let count = block.rows.len();
            let within =
                rows.start.clamp(begin, begin + count) - begin..rows.end.clamp(begin, begin + count) - begin;
            begin += count;
            if !within.is_empty() {
                first.get_or_insert(at);
                removed.extend(block.rows.drain(within));
                block.sum();
            }
        }
        self.join(first.unwrap_or_default().saturating_sub(1), first.unwrap_or_default() + 1);
        self.blocks.retain(|block| !block.rows.is_empty());
        removed
    }

    /// Joins small blocks between two places.
    fn join(&mut self, from: usize, to: usize) {
        for at in (from..to).rev() {
            let Some([a, b]) = self.blocks.get_mut(at..at + 2) else { continue };
            if a.rows.len() + b.rows.len() <= NEW_BLOCK {
                a.rows.append(&mut b.rows);
                a.sum();
                self.blocks.remove(at + 1);
            }
        }
    }
}
