//! Which cells of a grid each child takes.

use std::collections::HashSet;

/// The cells of one child: the first column and row, and how many.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct Cells {
    pub(crate) column: usize,
    pub(crate) row: usize,
    pub(crate) across: usize,
    pub(crate) down: usize,
}

/// Cells in declared order: each child takes the next free ones, one row after another, behind those of
/// the child before it.
pub(crate) fn cells(columns: usize, spans: &[(u32, u32)]) -> Vec<Cells> {
    let mut taken: HashSet<(usize, usize)> = HashSet::new();
    let (mut column, mut row) = (0, 0);
    let mut all = Vec::with_capacity(spans.len());
    for &(across, down) in spans {
        let (across, down) = ((across as usize).min(columns), down as usize);
        loop {
            let fits = column + across <= columns
                && (column..column + across).all(|c| (row..row + down).all(|r| !taken.contains(&(c, r))));
            if fits {
                break;
            }
            column += 1;
            if column + across > columns {
                (column, row) = (0, row + 1);
            }
        }
        let rows = row..row + down;
        taken.extend(rows.flat_map(|r| (column..column + across).map(move |c| (c, r))));
        all.push(Cells { column, row, across, down });
    }
    all
}
