//! A dense table of linear relations and the search for a best point in it.
//!
//! Every quantity (a variable, or a rule's expression) may have one **rest**: a value where its
//! cost has a kink, with its own cost per unit below and above, and with either side closed. A
//! rule rests at zero; a width rests at zero with the side below closed. Some quantities are
//! *basic* (rows: expressed in the others), the rest are *resting* (columns). The search is the
//! simplex method (Dantzig) with piecewise linear costs: a step goes on through kinks as long as
//! the cost still falls. After [`STALL`] steps without progress Bland's rule takes over, which
//! cannot cycle.
//!
//! After a search, [`Table::close`] keeps to its best points: what would raise the cost is
//! closed, so the next, weaker search cannot spoil it.

use crate::tolerance::{ENTRY, SLOPE, SNAP};
use crate::work;

/// The largest number of cells (rows times columns) of one table: about 400 MB.
pub const MAX_TABLE_CELLS: usize = 50_000_000;

/// How often columns are closed because of others that were.
const MAX_TIGHTENINGS: usize = 8;

/// So many cells are a unit of work.
const CELLS: usize = 16;

/// Steps without progress after which Bland's rule is used.
const STALL: usize = 50;

/// The place of a quantity that can never move again.
const FIXED: usize = usize::MAX;

#[derive(Clone, Copy, Debug)]
struct Quantity {
    value: f64,
    /// Where the cost has its kink; `None` for a quantity that is free.
    rest: Option<f64>,
    closed_below: bool,
    closed_above: bool,
    cost_below: f64,
    cost_above: f64,
    /// On which side of its rest a basic quantity is taken to be, on the rest itself too.
    above: bool,
    /// Row if basic, column if resting; [`FIXED`] once its column was taken out.
    at: usize,
    basic: bool,
}

impl Quantity {
    fn slope(&self) -> f64 {
        if self.above || self.rest.is_none() { self.cost_above } else { -self.cost_below }
    }

    fn is_open(&self) -> bool {
        !(self.closed_below && self.closed_above)
    }
}

/// How a search ended.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Search {
    Best,
    /// The cost falls without end.
    Endless,
    /// The bound on the number of steps was met.
    Stopped,
}

#[derive(Clone, Debug, Default)]
pub(crate) struct Table {
    quantities: Vec<Quantity>,
    rows: Vec<usize>,
    columns: Vec<usize>,
    /// Row by row; entry `(r, c)` is the change of row `r` per unit of column `c`.
    cells: Vec<f64>,
    scale: f64,
    affine_pass: Vec<f64>,
    breaks: Vec<Break>,
    pivot_columns: Vec<usize>,
}

/// A basic quantity met on the way, at its rest.
#[derive(Clone, Copy, Debug)]
struct Break {
    time: f64,
    row: usize,
    rate: f64,
    /// By how much the slope of the cost rises there; infinite where it may not be passed.
    rise: f64,
}

impl Table {
    pub(crate) fn new(scale: f64) -> Self {
        Self { scale, ..Self::default() }
    }

    /// A new column at 0, which may not go to a side that is closed.
    pub(crate) fn add_column(&mut self, closed_below: bool, closed_above: bool) -> usize {
        debug_assert!(self.rows.is_empty(), "columns come before rows");
        self.columns.push(self.quantities.len());
        self.quantities.push(Quantity {
            value: 0.0,
            rest: (closed_below || closed_above).then_some(0.0),
            closed_below,
            closed_above,
            cost_below: 0.0,
            cost_above: 0.0,
            above: true,
            at: self.columns.len() - 1,
            basic: false,
        });
        self.quantities.len() - 1
    }

    /// A new row `constant + sum of terms`, resting at 0, at its value for the present point.
    pub(crate) fn add_row(&mut self, terms: &[(usize, f64)], constant: f64) -> usize {
        let mut value = terms.iter().map(|&(q, c)| c * self.value(q)).sum::<f64>() + constant;
        let cells = self.row_of(terms);
        self.cells.extend(cells);
        if value.abs() <= SNAP * self.scale {
            value = 0.0;
        }
        self.rows.push(self.quantities.len());
        self.quantities.push(Quantity {
            value,
            rest: Some(0.0),
            closed_below: false,
            closed_above: false,
            cost_below: 0.0,
            cost_above: 0.0,
            above: value >= 0.0,
            at: self.rows.len() - 1,
            basic: true,
        });
        self.quantities.len() - 1
    }

    /// The range of a sum over all points that are still open.
    pub(crate) fn range_of(
        &mut self,
        terms: &[(usize, f64)],
        constant: f64,
    ) -> Result<(Option<f64>, Option<f64>), Stopped> {
        let row = self.add_row(terms, constant);
        let range = self.range(row);
        // The row was there for the question only. It cannot have converge: its cost has no kink.
        debug_assert!(self.quantities[row].basic && self.quantities[row].at + 1 == self.rows.len());
        if self.rows.last() == Some(&row) {
            self.rows.pop();
            self.quantities.pop();
            self.cells.truncate(self.rows.len() * self.columns.len());
        }
        range
    }

    /// The range of a sum over quantities that no row bounds, without a search. `None` where rows
    /// take part.
    pub(crate) fn range_without_rows(
        &self,
        terms: &[(usize, f64)],
        value: f64,
    ) -> Option<(Option<f64>, Option<f64>)> {
        let mut ends = [Some(value), Some(value)];
        for &(quantity, c) in terms.iter().rev() {
            let q = &self.quantities[quantity];
            if q.basic || q.at != FIXED && q.is_open() && self.is_bounded(q.at) {
                return None;
            }
            if q.at == FIXED || c.abs() <= ENTRY {
                continue;
            }
            let (low, high) =
                if c > 0.0 { (q.closed_below, q.closed_above) } else { (q.closed_above, q.closed_below) };
            if !low {
                ends[0] = None;
            }
            if !high {
                ends[1] = None;
            }
            if ends == [None, None] {
                break;
            }
        }
        Some((ends[0], ends[1]))
    }

    /// Whether a sum moves for sure, since a quantity in it is open and no row bounds it, or is fixed
    /// for sure, since none is open. `None` where a search has to tell.
    pub(crate) fn moves_plainly(&self, terms: &[(usize, f64)]) -> Option<bool> {
        let mut unclear = false;
        for &(quantity, _) in terms.iter().rev().filter(|t| t.1.abs() > ENTRY) {
            let q = &self.quantities[quantity];
            if !q.basic && (q.at == FIXED || !q.is_open()) {
                continue;
            }
            if q.basic || self.is_bounded(q.at) {
                unclear = true;
            } else {
                return Some(true);
            }
        }
        if unclear { None } else { Some(false) }
    }

    fn is_bounded(&self, column: usize) -> bool {
        let width = self.columns.len();
        (0..self.rows.len()).any(|row| self.cells[row * width + column].abs() > ENTRY)
    }

    /// Keeps a quantity where it is if it is a column at its rest that no row bounds.
    pub(crate) fn close_column(&mut self, quantity: usize) -> bool {
        let q = &mut self.quantities[quantity];
        if q.basic || q.value != 0.0 {
            return false;
        }
        q.rest = Some(0.0);
        (q.closed_below, q.closed_above) = (true, true);
        true
    }

    pub(crate) fn value(&self, quantity: usize) -> f64 {
        self.quantities[quantity].value
    }

    /// What one unit below and above the rest costs in the next search.
    pub(crate) fn set_cost(&mut self, quantity: usize, below: f64, above: f64) {
        let q = &mut self.quantities[quantity];
        (q.cost_below, q.cost_above) = (below, above);
    }

    pub(crate) fn close_above(&mut self, quantity: usize) {
        self.quantities[quantity].closed_above = true;
    }

    pub(crate) fn close_below(&mut self, quantity: usize) {
        self.quantities[quantity].closed_below = true;
    }

    /// A sum over quantities as a row over the columns.
    fn row_of(&self, terms: &[(usize, f64)]) -> Vec<f64> {
        let mut cells = vec![0.0; self.columns.len()];
        for &(quantity, c) in terms {
            let q = &self.quantities[quantity];
            if q.basic {
                for (sum, cell) in cells.iter_mut().zip(self.row(q.at)) {
                    *sum += c * cell;
                }
            } else if q.at != FIXED {
                cells[q.at] += c;
            }
        }
        cells
    }

    fn no_open_column(&self, row: &[f64]) -> bool {
        self.columns.iter().zip(row).all(|(&c, cell)| cell.abs() <= ENTRY || !self.quantities[c].is_open())
    }

    /// Whether no open column moves this sum.
    pub(crate) fn is_sum_plainly_fixed(&self, terms: &[(usize, f64)]) -> bool {
        self.no_open_column(&self.row_of(terms))
    }

    /// Whether no open column moves this quantity (it may be settled all the same, see [`Self::range`]).
    pub(crate) fn is_plainly_fixed(&self, quantity: usize) -> bool {
        let q = &self.quantities[quantity];
        if !q.basic {
            return !q.is_open();
        }
        self.no_open_column(self.row(q.at))
    }

    /// The least and greatest value over all points that are still open; `None` for no bound.
    pub(crate) fn range(&mut self, quantity: usize) -> Result<(Option<f64>, Option<f64>), Stopped> {
        let here = self.value(quantity);
        if self.is_plainly_fixed(quantity) {
            return Ok((Some(here), Some(here)));
        }
        let mut ends = [None, None];
        for (end, slope) in ends.iter_mut().zip([1.0, -1.0]) {
            self.set_cost(quantity, -slope, slope);
            let search = self.search();
            self.set_cost(quantity, 0.0, 0.0);
            *end = match search {
                Search::Best => Some(self.value(quantity)),
                Search::Endless => None,
                Search::Stopped => return Err(Stopped),
            };
        }
        Ok((ends[0], ends[1]))
    }

    /// Looks for a point of least cost, from the present one.
    pub(crate) fn search(&mut self) -> Search {
        let bound = 1000 + 50 * (self.rows.len() + self.columns.len());
        let mut stalled = 0;
        for _ in 0..bound {
            if work::is_short() {
                break;
            }
            work::spend(1 + self.cells.len() / CELLS);
            let Some((column, up, slope)) = self.steepest(stalled > STALL) else {
                return Search::Best;
            };
            let Some((time, leaving)) = self.walk(column, up, slope, stalled > STALL) else {
                return Search::Endless;
            };
            stalled = if time > 0.0 { 0 } else { stalled + 1 };
            self.step(column, up, time);
            self.pivot(leaving, column, up);
        }
        Search::Stopped
    }

    /// Looks for a point of least cost and keeps to the best points.
    pub(crate) fn finish_search(&mut self) -> Result<(), Stopped> {
        let search = self.search();
        self.close();
        if search == Search::Stopped { Err(Stopped) } else { Ok(()) }
    }

    /// Keeps to the best points of the search just made, and forgets its costs.
    pub(crate) fn close(&mut self) {
        self.fill_slopes();
        for (&id, &slope) in self.columns.iter().zip(&self.affine_pass) {
            let q = &mut self.quantities[id];
            let raises_up = slope + q.cost_above > SLOPE;
            let raises_down = -slope + q.cost_below > SLOPE;
            if raises_up || raises_down {
                q.rest.get_or_insert(q.value);
                q.closed_above |= raises_up;
                q.closed_below |= raises_down;
            }
        }
        for &id in &self.rows {
            let q = &mut self.quantities[id];
            if q.rest.is_some() && q.cost_below + q.cost_above > 0.0 {
                if q.above { q.closed_below = true } else { q.closed_above = true }
            }
        }
        for q in &mut self.quantities {
            (q.cost_below, q.cost_above) = (0.0, 0.0);
        }
        self.drop_closed_columns();
    }

    /// Closes the columns that a single row holds where they are, and takes out what is closed on
    /// both sides: a text that may be neither higher nor lower than its lines, say.
    pub(crate) fn tighten(&mut self) {
        for _ in 0..MAX_TIGHTENINGS {
            work::spend(1 + self.cells.len() / CELLS);
            let mut found = false;
            for row in 0..self.rows.len() {
                let q = self.quantities[self.rows[row]];
                if q.rest != Some(q.value) || !(q.closed_below || q.closed_above) {
                    continue;
                }
                let mut open = self
                    .columns
                    .iter()
                    .zip(self.row(row))
                    .filter(|(c, cell)| cell.abs() > ENTRY && self.quantities[**c].is_open());
                let (Some((&column, &cell)), None) = (open.next(), open.next()) else { continue };
                let (below, above) = if cell > 0.0 {
                    (q.closed_below, q.closed_above)
                } else {
                    (q.closed_above, q.closed_below)
                };
                let c = &mut self.quantities[column];
                found |= below && !c.closed_below || above && !c.closed_above;
                c.rest.get_or_insert(c.value);
                c.closed_below |= below;
                c.closed_above |= above;
            }
            if !found {
                break;
            }
        }
        self.drop_closed_columns();
    }

    /// Takes out the columns that cannot move any more, once they are many.
    fn drop_closed_columns(&mut self) {
        let width = self.columns.len();
        let kept: Vec<usize> = (0..width).filter(|&c| self.quantities[self.columns[c]].is_open()).collect();
        if 4 * kept.len() > 3 * width {
            return;
        }
        let mut to = 0;
        for row in 0..self.rows.len() {
            for &column in &kept {
                self.cells[to] = self.cells[row * width + column];
                to += 1;
            }
        }
        self.cells.truncate(to);
        for &id in &self.columns {
            self.quantities[id].at = FIXED;
        }
        self.columns = kept.iter().map(|&c| self.columns[c]).collect();
        for (column, &id) in self.columns.iter().enumerate() {
            self.quantities[id].at = column;
        }
    }

    #[cfg(test)]
    fn cost(&self) -> f64 {
        self.quantities
            .iter()
            .map(|q| {
                let off = q.value - q.rest.unwrap_or(0.0);
                if off >= 0.0 { off * q.cost_above } else { -off * q.cost_below }
            })
            .sum()
    }

    fn row(&self, row: usize) -> &[f64] {
        &self.cells[row * self.columns.len()..][..self.columns.len()]
    }

    /// Per column, how the cost of the basic quantities changes as it goes up.
    fn fill_slopes(&mut self) {
        let width = self.columns.len();
        self.affine_pass.clear();
        self.affine_pass.resize(width, 0.0);
        for (row, &id) in self.rows.iter().enumerate() {
            let slope = self.quantities[id].slope();
            if slope != 0.0 {
                for (sum, cell) in self.affine_pass.iter_mut().zip(&self.cells[row * width..][..width]) {
                    *sum += slope * cell;
                }
            }
        }
    }

    /// The open move that lowers the cost most (with Bland's rule: the first that lowers it).
    fn steepest(&mut self, bland: bool) -> Option<(usize, bool, f64)> {
        self.fill_slopes();
        let mut best: Option<(usize, bool, f64)> = None;
        for (column, &id) in self.columns.iter().enumerate() {
            let q = &self.quantities[id];
            for (up, slope, closed) in [
                (true, self.affine_pass[column] + q.cost_above, q.closed_above),
                (false, -self.affine_pass[column] + q.cost_below, q.closed_below),
            ] {
                let better = match best {
                    None => true,
                    Some((other, _, _)) if bland => id < self.columns[other],
                    Some((_, _, least)) => slope < least,
                };
                if !closed && slope < -SLOPE && better {
                    best = Some((column, up, slope));
                }
            }
        }
        best
    }

    /// How far the move can go while the cost falls, and which row converges there.
    fn walk(&mut self, column: usize, up: bool, mut slope: f64, bland: bool) -> Option<(f64, usize)> {
        let width = self.columns.len();
        self.breaks.clear();
        for (row, &id) in self.rows.iter().enumerate() {
            let cell = self.cells[row * width + column];
            if cell.abs() <= ENTRY {
                continue;
            }
            let rate = if up { cell } else { -cell };
            let q = &self.quantities[id];
            let Some(rest) = q.rest else { continue };
            let (toward_rest, closed) =
                if rate > 0.0 { (!q.above, q.closed_above) } else { (q.above, q.closed_below) };
            let rise = if closed { f64::INFINITY } else { (q.cost_below + q.cost_above) * rate.abs() };
            if toward_rest {
                let time = ((rest - q.value) / rate).max(0.0);
                self.breaks.push(Break { time, row, rate, rise });
            } else if closed {
                self.breaks.push(Break { time: 0.0, row, rate, rise });
            }
        }
        let rows = &self.rows;
        self.breaks.sort_unstable_by(|a, b| a.time.total_cmp(&b.time).then(rows[a.row].cmp(&rows[b.row])));
        let mut stop = None;
        for (i, b) in self.breaks.iter().enumerate() {
            slope += b.rise;
            if (bland && b.rise > 0.0) || slope >= -SLOPE {
                stop = Some(i);
                break;
            }
        }
        let stop = stop?;
        let time = self.breaks[stop].time;
        // Of those that converge at the same moment, the one with the largest entry is the
        // safest to divide by. With Bland's rule the first has to leave.
        let near = time + SNAP * self.scale * 1e-3;
        let leaving = if bland {
            self.breaks[stop].row
        } else {
            let tied = self.breaks[stop..]
                .iter()
                .take_while(|b| b.time <= near && (b.rise > 0.0 || b.row == self.breaks[stop].row));
            tied.max_by(|a, b| a.rate.abs().total_cmp(&b.rate.abs()).then(b.row.cmp(&a.row)))?.row
        };
        for b in &self.breaks[..stop] {
            if b.row != leaving && b.rise.is_finite() {
                let q = &mut self.quantities[rows[b.row]];
                q.above = b.rate > 0.0;
            }
        }
        Some((time, leaving))
    }

    fn step(&mut self, column: usize, up: bool, time: f64) {
        if time == 0.0 {
            return;
        }
        let width = self.columns.len();
        let move_by = if up { time } else { -time };
        self.quantities[self.columns[column]].value += move_by;
        for (row, &id) in self.rows.iter().enumerate() {
            let cell = self.cells[row * width + column];
            if cell != 0.0 {
                let q = &mut self.quantities[id];
                q.value += cell * move_by;
                if let Some(rest) = q.rest
                    && (q.value - rest).abs() <= SNAP * self.scale
                {
                    q.value = rest;
                }
            }
        }
    }

    /// The row converges, the column becomes basic.
    fn pivot(&mut self, row: usize, column: usize, up: bool) {
        let width = self.columns.len();
        let (leaving, entering) = (self.rows[row], self.columns[column]);
        let start = row * width;
        let inverse = 1.0 / self.cells[start + column];
        // Solve the row for the column: entering = leaving / cell - sum of the others / cell.
        for c in 0..width {
            let cell = &mut self.cells[start + c];
            *cell = if c == column { inverse } else { -*cell * inverse };
        }
        self.pivot_columns.clear();
        let nonzero = (0..width).filter(|&c| self.cells[start + c].abs() > ENTRY);
        self.pivot_columns.extend(nonzero);
        let (head, rest) = self.cells.split_at_mut(start);
        let (pivot, tail) = rest.split_at_mut(width);
        for other in head.chunks_exact_mut(width).chain(tail.chunks_exact_mut(width)) {
            let factor = other[column];
            if factor == 0.0 {
                continue;
            }
            other[column] = 0.0;
            for &c in &self.pivot_columns {
                other[c] += factor * pivot[c];
                if other[c].abs() <= ENTRY * 1e-3 {
                    other[c] = 0.0;
                }
            }
        }
        self.rows[row] = entering;
        self.columns[column] = leaving;
        let q = &mut self.quantities[leaving];
        q.value = q.rest.unwrap_or(q.value);
        (q.basic, q.at) = (false, column);
        let q = &mut self.quantities[entering];
        (q.basic, q.at, q.above) = (true, row, up);
    }
}

/// A bound on the work was met.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Stopped;

#[cfg(test)]
mod tests {
    use super::*;

    /// Rows `right - sum of coefficient * column`, kept at zero or above, and a cost to be made least.
    fn least(columns: &[f64], rows: &[(&[f64], f64)]) -> (f64, Table) {
        let mut table = Table::new(1.0);
        let ids: Vec<usize> = columns.iter().map(|_| table.add_column(true, false)).collect();
        let terms = |coefficients: &[f64]| -> Vec<(usize, f64)> {
            ids.iter().zip(coefficients).map(|(&id, &c)| (id, -c)).collect()
        };
        for (coefficients, right) in rows {
            let row = table.add_row(&terms(coefficients), *right);
            table.close_below(row);
        }
        // The cost is a row of its own, pulled down without end.
        let cost = table.add_row(&ids.iter().zip(columns).map(|(&id, &c)| (id, c)).collect::<Vec<_>>(), 0.0);
        table.set_cost(cost, -1.0, 1.0);
        assert_eq!(table.search(), Search::Best);
        (table.value(cost), table)
    }

    #[test]
    fn a_problem_on_which_the_plain_rule_goes_in_circles_comes_to_an_end() {
        // Beale 1955: every step of the plain largest-slope rule is degenerate here.
        let (value, _) = least(
            &[-0.75, 150.0, -0.02, 6.0],
            &[
                (&[0.25, -60.0, -0.04, 9.0], 0.0),
                (&[0.5, -90.0, -0.02, 3.0], 0.0),
                (&[0.0, 0.0, 1.0, 0.0], 1.0),
            ],
        );
        assert!((value + 0.05).abs() < 1e-9, "{value}");
    }

    #[test]
    fn a_cube_bent_to_be_long_to_walk_is_walked() {
        // Klee & Minty 1972, in five dimensions: the best corner is (0, ..., 0, 5^5).
        let n = 5;
        let rows: Vec<(Vec<f64>, f64)> = (0..n)
            .map(|i| {
                let row = (0..n)
                    .map(|j| match j.cmp(&i) {
                        std::cmp::Ordering::Less => 2_f64.powi(i - j + 1),
                        std::cmp::Ordering::Equal => 1.0,
                        std::cmp::Ordering::Greater => 0.0,
                    })
                    .collect();
                (row, 5_f64.powi(i + 1))
            })
            .collect();
        let cost: Vec<f64> = (0..n).map(|j| -(2_f64.powi(n - 1 - j))).collect();
        let borrowed: Vec<(&[f64], f64)> = rows.iter().map(|(r, b)| (r.as_slice(), *b)).collect();
        let (value, _) = least(&cost, &borrowed);
        assert!((value + 3125.0).abs() < 1e-6, "{value}");
    }

    #[test]
    fn a_step_goes_on_through_kinks_as_long_as_the_cost_falls() {
        // |x - 1| + |x - 2| + |x - 3| is least in the middle.
        let mut table = Table::new(1.0);
        let x = table.add_column(false, false);
        for at in [1.0, 2.0, 3.0] {
            let row = table.add_row(&[(x, 1.0)], -at);
            table.set_cost(row, 1.0, 1.0);
        }
        assert_eq!(table.search(), Search::Best);
        assert_eq!((table.value(x), table.cost()), (2.0, 2.0));
    }

    #[test]
    fn what_was_best_stays_best_for_weaker_searches() {
        let mut table = Table::new(1.0);
        let (x, y) = (table.add_column(true, false), table.add_column(true, false));
        let sum = table.add_row(&[(x, 1.0), (y, 1.0)], -10.0);
        table.set_cost(sum, 1.0, 1.0);
        assert_eq!(table.search(), Search::Best);
        table.close();
        // The sum stays 10 whatever is asked of x next; y takes the rest.
        assert_eq!(table.range(x).unwrap(), (Some(0.0), Some(10.0)));
        let wish = table.add_row(&[(x, 1.0)], -25.0);
        table.set_cost(wish, 1.0, 1.0);
        assert_eq!(table.search(), Search::Best);
        table.close();
        assert_eq!((table.value(x), table.value(y)), (10.0, 0.0));
        assert_eq!(table.range(y).unwrap(), (Some(0.0), Some(0.0)));
    }

    #[test]
    fn what_has_no_bound_is_said_to_have_none() {
        let mut table = Table::new(1.0);
        let (free, nonnegative) = (table.add_column(false, false), table.add_column(true, false));
        assert_eq!(table.range(free).unwrap(), (None, None));
        assert_eq!(table.range(nonnegative).unwrap(), (Some(0.0), None));
        let above = table.add_row(&[(free, 1.0), (nonnegative, -1.0)], 0.0);
        table.close_below(above);
        assert_eq!(table.range(free).unwrap(), (Some(0.0), None));
        assert!(!table.is_plainly_fixed(free));
    }
}
