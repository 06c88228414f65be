//! One pass of multiply-adds along the elimination order, for inputs that are many.
//!
//! It computes only what depends on the inputs, folds all that does not into constants, and never
//! grows with the number of inputs.

use crate::affine_pass::Edited;
use crate::infeasibility::Watch;
use crate::rows::Rows;
use crate::simplex::Search;
use crate::tolerance::SNAP;

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

#[derive(Clone, Debug, Default)]
pub(crate) struct SweepPass {
    steps: Vec<Step>,
    /// The rows that may turn wrong.
    watches: Vec<Watch>,
    snap: f64,
}

impl SweepPass {
    /// The steps for these inputs, from what is known now. `order` is an elimination order.
    pub(crate) fn new(search: &Search, order: &[u32], watches: &[Watch], inputs: &[u32]) -> Self {
        let mut steps = Self { snap: SNAP * search.scale, ..Self::default() };
        // Per slot: how many steps lie between it and the inputs, if it moves with them. Steps in
        // order of depth do not wait for one another (in the order of a walk they took half as
        // long again).
        let mut depths: Vec<Option<u32>> = vec![None; search.values.len()];
        inputs.iter().for_each(|&i| depths[i as usize] = Some(0));
        let mut by_depth: Vec<u32> = Vec::new();
        let mut terms: Vec<(u32, f64)> = Vec::new();
        let edited = Edited::new(search, inputs);
        for &slot in order {
            terms.clear();
            let (own, reads) = search.state.basis.definition(&search.rows, slot);
            let mut constant = -own;
            for (read, c) in reads {
                match depths[read as usize] {
                    None => constant -= c * search.values[read as usize],
                    Some(_) => terms.push((read, -c)),
                }
            }
            if let Some((number, factor)) = edited.of(search, slot) {
                terms.push((number, -factor));
                constant += factor * search.values[number as usize];
            }
            if terms.is_empty() {
                continue;
            }
            terms.sort_by_key(|t| depths[t.0 as usize]);
            let depth = depths[terms[terms.len() - 1].0 as usize].map_or(1, |d| d + 1);
            depths[slot as usize] = Some(depth);
            steps.push(slot, constant, &terms);
            by_depth.resize(steps.steps.len(), depth);
        }
        steps.sort(&by_depth);
        let moving = |w: &&Watch| search.rows.terms(w.row).0.iter().any(|&s| depths[s as usize].is_some());
        steps.watches = watches.iter().filter(moving).copied().collect();
        steps
    }

    /// Puts the steps in order of depth; those of one sum stay together.
    fn sort(&mut self, by_depth: &[u32]) {
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

    fn push(&mut self, out: u32, constant: f64, terms: &[(u32, f64)]) {
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

    /// Computes all that depends on the inputs.
    pub(crate) fn run(&self, values: &mut [f64]) {
        for s in &self.steps {
            let sum = (s.constant + s.b * values[s.y as usize]) + s.a * values[s.x as usize];
            values[s.out as usize] = sum;
        }
    }

    /// The rows by which these are not the right tight rows any more, after the pass.
    pub(crate) fn wrong<'a>(&'a self, rows: &'a Rows, values: &'a [f64]) -> impl Iterator<Item = Watch> + 'a {
        self.watches.iter().copied().filter(|w| w.spare(rows.value(w.row, values)) < -self.snap)
    }
}
