//! The way to a placement as one pass of multiply-adds, and the test that it is the best one.
//!
//! Between two calls most of what a placement depends on stays the same: a drag changes the width
//! and nothing else. So a sweep is made for some **inputs** that change, computes only what depends
//! on them, and folds all that does not into constants. The plan itself stays factored, in
//! elimination order. Where the inputs are few, each variable is one short sum of them, and each
//! row that may turn wrong is a half-space (Gal & Nedoma 1972), of which only the tightest in each
//! direction is tested. Where they are many the sweep follows the elimination order instead, so
//! that it never grows with their number.

use crate::rows::{Row, Rows};
use crate::simplex::Search;
use crate::tolerance::{CANCELLED, SNAP};

/// With more inputs than this a sweep follows the elimination order.
const MAX_DIMENSIONS: usize = 6;

/// `values[out] = constant + b * values[y] + a * values[x]`. All steps have this one form, so that
/// the pass has no branch to mispredict (with a loop over terms it took 3 times as long); longer
/// sums take several steps. `x` is what was computed last, so that little waits for it.
#[derive(Clone, Copy, Debug)]
struct Step {
    constant: f64,
    a: f64,
    b: f64,
    x: u32,
    y: u32,
    out: u32,
}

/// A row that may not be on a side of zero, as long as the same rows stay tight.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct Watch {
    pub(crate) row: Row,
    /// Whether it is the side below zero; otherwise the side above.
    pub(crate) below: bool,
}

#[derive(Clone, Debug, Default)]
pub(crate) struct Sweep {
    /// The slots of what may change.
    pub(crate) inputs: Vec<u32>,
    /// For many inputs.
    steps: Vec<Step>,
    /// For few: the variables and their values where every input is zero, those that move alike
    /// together; then where each of these groups ends, and its rates. A group's motion is worked out
    /// once, so each variable costs one addition (a third of the time of the steps, and two thirds
    /// of that of a sum of its own for each variable).
    outs: Vec<u32>,
    constants: Vec<f64>,
    ends: Vec<u32>,
    rates: Vec<f64>,
    /// The rows to test, for inputs that are few: `constant + sum of coefficient * input` has to be
    /// at least zero. The first `tightest` are enough to know whether all of them hold.
    tests: Vec<f64>,
    watches: Vec<Watch>,
    tightest: usize,
    scale: f64,
}

impl Sweep {
    /// A sweep for these inputs, from what is known now. `order` is an elimination order.
    pub(crate) fn new(search: &Search, order: &[u32], watches: &[Watch], inputs: Vec<u32>) -> Self {
        let dimensions = if inputs.len() <= MAX_DIMENSIONS { inputs.len() } else { 0 };
        let mut sweep = Self { inputs, scale: search.scale, ..Self::default() };
        // Per slot: which row of `rates` it has, where 0 is for what stays as it is.
        let mut moves: Vec<u32> = vec![0; search.values.len()];
        let mut rates: Vec<f64> = vec![0.0; dimensions];
        let mut count = 1;
        // Per row of `rates`: how many steps lie between it and the inputs. Steps in order of depth
        // do not wait for one another (in the order of a walk they took half as long again).
        let mut depths: Vec<u32> = vec![0; 1 + sweep.inputs.len()];
        let mut by_depth: Vec<u32> = Vec::new();
        for (at, &input) in sweep.inputs.iter().enumerate() {
            moves[input as usize] = count;
            count += 1;
            rates.extend((0..dimensions).map(|d| if d == at { 1.0 } else { 0.0 }));
        }
        let mut terms: Vec<(u32, f64)> = Vec::new();
        let mut rate = vec![0.0; dimensions];
        // Per row of `rates`: the value where every input is zero.
        let mut zeros: Vec<f64> = vec![0.0; count as usize];
        let number = search.rows.slot_count() as u32;
        let edited = search.number.filter(|_| sweep.inputs.contains(&number));
        let numbered = edited.map_or(Vec::new(), |row| search.state.basis.made_with(row));
        for &slot in order {
            terms.clear();
            let mut constant = -search.state.basis.constant(&search.rows, slot);
            for (read, c) in search.state.basis.reads(&search.rows, slot) {
                if moves[read as usize] == 0 {
                    constant -= c * search.values[read as usize];
                } else {
                    terms.push((read, -c));
                }
            }
            if numbered.contains(&slot) {
                search.state.basis.made_of(&search.rows, slot, |made, factor| {
                    if Some(made) == edited {
                        terms.push((number, -factor));
                        constant += factor * search.values[number as usize];
                    }
                });
            }
            if terms.is_empty() {
                continue;
            }
            rate.fill(0.0);
            for &(read, c) in &terms {
                let from = moves[read as usize] as usize * dimensions;
                for (sum, r) in rate.iter_mut().zip(&rates[from..]) {
                    *sum += c * r;
                }
            }
            if dimensions > 0 {
                let zero = |t: &(u32, f64)| t.1 * zeros[moves[t.0 as usize] as usize];
                constant += terms.iter().map(zero).sum::<f64>();
                zeros.push(constant);
                sweep.outs.push(slot);
                sweep.constants.push(constant);
                moves[slot as usize] = count;
                count += 1;
                rates.extend_from_slice(&rate);
                continue;
            }
            terms.sort_by_key(|t| depths[moves[t.0 as usize] as usize]);
            let depth = depths[moves[terms[terms.len() - 1].0 as usize] as usize] + 1;
            depths.push(depth);
            sweep.push_steps(slot, constant, &terms);
            by_depth.resize(sweep.steps.len(), depth);
            moves[slot as usize] = count;
            count += 1;
            rates.extend_from_slice(&rate);
        }
        sweep.sort_steps(&by_depth);
        sweep.group(|slot| &rates[moves[slot as usize] as usize * dimensions..][..dimensions]);
        sweep.add_tests(search, watches, &moves, &rates, dimensions);
        sweep
    }

    /// Puts variables that move alike together.
    fn group<'a>(&mut self, rates: impl Fn(u32) -> &'a [f64]) {
        let bits = |slot: u32| rates(slot).iter().map(|r| r.to_bits());
        let mixed = |slot: u32| bits(slot).fold(0, mix);
        let mut by_motion: Vec<(u64, u32, u32)> =
            self.outs.iter().enumerate().map(|(at, &slot)| (mixed(slot), slot, at as u32)).collect();
        by_motion.sort_unstable();
        for (at, &(_, slot, _)) in by_motion.iter().enumerate() {
            let next = by_motion.get(at + 1).map(|n| n.1);
            if next.is_none_or(|next| !bits(next).eq(bits(slot))) {
                self.ends.push(at as u32 + 1);
                self.rates.extend_from_slice(rates(slot));
            }
        }
        self.constants = by_motion.iter().map(|m| self.constants[m.2 as usize]).collect();
        self.outs = by_motion.into_iter().map(|m| m.1).collect();
    }

    /// Puts the steps in order of depth; those of one sum stay together.
    fn sort_steps(&mut self, by_depth: &[u32]) {
        let deepest = by_depth.iter().max().map_or(0, |d| *d as usize);
        let mut start = vec![0_usize; deepest + 2];
        by_depth.iter().for_each(|&d| start[d as usize + 1] += 1);
        for d in 0..=deepest {
            start[d + 1] += start[d];
        }
        let mut sorted = self.steps.clone();
        for (step, &depth) in self.steps.iter().zip(by_depth) {
            sorted[start[depth as usize]] = *step;
            start[depth as usize] += 1;
        }
        self.steps = sorted;
    }

    fn push_steps(&mut self, out: u32, constant: f64, terms: &[(u32, f64)]) {
        let (mut constant, mut before) = (constant, None);
        for pair in terms.chunks(2) {
            let (x, a) = pair[pair.len() - 1];
            let (y, b) = match (before, pair.len()) {
                (_, 2) => pair[0],
                // The last of an odd number goes on from the sum so far.
                (Some(sum), _) => (sum, 1.0),
                (None, _) => (x, 0.0),
            };
            if pair.len() == 2 && before.is_some() {
                self.steps.push(Step { constant, a: 1.0, b, x: out, y, out });
                self.steps.push(Step { constant: 0.0, a, b: 1.0, x, y: out, out });
            } else {
                self.steps.push(Step { constant, a, b, x, y, out });
            }
            (constant, before) = (0.0, Some(out));
        }
    }

    fn add_tests(
        &mut self,
        search: &Search,
        watches: &[Watch],
        moves: &[u32],
        rates: &[f64],
        dimensions: usize,
    ) {
        let moving = |row: Row| search.rows.terms(row).0.iter().any(|&s| moves[s as usize] != 0);
        if dimensions == 0 {
            self.watches = watches.iter().copied().filter(|w| moving(w.row)).collect();
            return;
        }
        let snap = SNAP * search.scale;
        let width = dimensions + 1;
        let mut all: Vec<f64> = Vec::new();
        let mut found: Vec<Watch> = Vec::new();
        for &watch in watches.iter().filter(|w| moving(w.row)) {
            let sign = if watch.below { 1.0 } else { -1.0 };
            let start = all.len();
            all.resize(start + width, 0.0);
            let test = &mut all[start..];
            let (slots, coefficients) = search.rows.terms(watch.row);
            for (&slot, &c) in slots.iter().zip(coefficients) {
                let from = moves[slot as usize] as usize * dimensions;
                for (sum, r) in test[1..].iter_mut().zip(&rates[from..]) {
                    *sum += sign * c * r;
                }
            }
            let largest = test[1..].iter().fold(0.0_f64, |m, c| m.max(c.abs()));
            if largest <= CANCELLED {
                all.truncate(start);
                continue;
            }
            let value = sign * search.rows.value(watch.row, &search.values) + snap;
            let inputs = self.inputs.iter().map(|&i| search.values[i as usize]);
            let moved: f64 = test[1..].iter().zip(inputs).map(|(c, v)| c * v).sum();
            test[0] = value - moved;
            test.iter_mut().for_each(|c| *c /= largest);
            found.push(watch);
        }
        // Of those in one direction the one with the least to spare comes first and is tested.
        let direction =
            |at: usize| all[at * width + 1..][..dimensions].iter().map(|c| (c * 1e12).round() as i64);
        let mut order: Vec<(u64, usize)> =
            (0..found.len()).map(|at| (direction(at).fold(0, |m, c| mix(m, c as u64)), at)).collect();
        order.sort_unstable_by(|a, b| {
            a.0.cmp(&b.0).then(all[a.1 * width].total_cmp(&all[b.1 * width])).then(a.1.cmp(&b.1))
        });
        let is_first = |at: usize| at == 0 || !direction(order[at - 1].1).eq(direction(order[at].1));
        let (first, rest): (Vec<usize>, Vec<usize>) = (0..order.len()).partition(|&at| is_first(at));
        self.tightest = first.len();
        for at in first.into_iter().chain(rest) {
            let index = order[at].1;
            self.watches.push(found[index]);
            self.tests.extend_from_slice(&all[index * width..][..width]);
        }
    }

    /// Whether it can be used where only these inputs changed.
    pub(crate) fn covers(&self, changed: &[u32], scale: f64) -> bool {
        self.scale == scale && changed.iter().all(|c| self.inputs.binary_search(c).is_ok())
    }

    /// Computes all that depends on the inputs.
    pub(crate) fn run(&self, values: &mut [f64]) {
        if !self.tests_inputs() {
            return self.follow(values);
        }
        let dimensions = self.inputs.len();
        let mut inputs = [0.0; MAX_DIMENSIONS];
        for (value, &input) in inputs.iter_mut().zip(&self.inputs) {
            *value = values[input as usize];
        }
        let mut start = 0;
        for (&end, rates) in self.ends.iter().zip(self.rates.chunks_exact(dimensions)) {
            let end = end as usize;
            let motion = rates.iter().zip(&inputs).fold(0.0, |sum, (r, i)| sum + r * i);
            let (outs, constants) = (&self.outs[start..end], &self.constants[start..end]);
            // Four at a time: a fifth less time than one by one.
            let (outs, last_outs) = outs.as_chunks::<4>();
            let (constants, last_constants) = constants.as_chunks::<4>();
            for (outs, constants) in outs.iter().zip(constants) {
                for (&out, &constant) in outs.iter().zip(constants) {
                    values[out as usize] = constant + motion;
                }
            }
            for (&out, &constant) in last_outs.iter().zip(last_constants) {
                values[out as usize] = constant + motion;
            }
            start = end;
        }
    }

    fn follow(&self, values: &mut [f64]) {
        for s in &self.steps {
            let sum = (s.constant + s.b * values[s.y as usize]) + s.a * values[s.x as usize];
            values[s.out as usize] = sum;
        }
    }

    /// Whether the test can be made before the pass.
    pub(crate) fn tests_inputs(&self) -> bool {
        self.inputs.len() <= MAX_DIMENSIONS
    }

    fn spare(&self, test: usize, values: &[f64]) -> f64 {
        let width = self.inputs.len() + 1;
        let test = &self.tests[test * width..][..width];
        let each = test[1..].iter().zip(&self.inputs);
        each.fold(test[0], |sum, (c, &input)| sum + c * values[input as usize])
    }

    /// A row by which these are not the right tight rows any more. Needs the inputs only if
    /// [`Self::tests_inputs`].
    pub(crate) fn first_wrong(&self, rows: &Rows, values: &[f64]) -> Option<Row> {
        if self.tests_inputs() {
            let wrong = (0..self.tightest).find(|&test| self.spare(test, values) < 0.0)?;
            return Some(self.watches[wrong].row);
        }
        self.watches.iter().find(|w| is_wrong(w, rows, values, self.scale)).map(|w| w.row)
    }

    /// All rows by which these are not the right tight rows any more.
    pub(crate) fn all_wrong(&self, rows: &Rows, values: &[f64]) -> Vec<Row> {
        let wrong = |at: usize| match self.tests_inputs() {
            true => self.spare(at, values) < 0.0,
            false => is_wrong(&self.watches[at], rows, values, self.scale),
        };
        (0..self.watches.len()).filter(|&at| wrong(at)).map(|at| self.watches[at].row).collect()
    }

    /// How much memory this takes, counted in numbers.
    pub(crate) fn size(&self) -> usize {
        5 * self.steps.len() + 2 * self.outs.len() + self.rates.len() + self.tests.len() + self.watches.len()
    }
}

/// Mixes bits into a number that sorts equal ones together.
fn mix(mixed: u64, bits: u64) -> u64 {
    (mixed.rotate_left(23) ^ bits).wrapping_mul(0x9e37_79b9_7f4a_7c15)
}

fn is_wrong(watch: &Watch, rows: &Rows, values: &[f64], scale: f64) -> bool {
    let value = rows.value(watch.row, values);
    let snap = SNAP * scale;
    if watch.below { value < -snap } else { value > snap }
}
