//! What every variable is as a short sum of a few inputs.
//!
//! Between two calls most of what a placement depends on stays the same: a drag changes the width
//! and nothing else. So a placement in a region is one pass for the **inputs** that change. Each
//! variable is its value where every input is zero plus its **motion**; many variables share one
//! motion. Where the region is left only what depends on the crossing is worked out again. The
//! plan itself stays factored, in elimination order.

use crate::rows::Row;
use crate::simplex::Search;
use std::collections::HashMap;
use std::ops::Range;
use std::sync::Arc;

/// With more inputs than this a pass follows the elimination order.
pub(crate) const MAX_DIMENSIONS: usize = 6;

/// A number for each input; zero beyond them.
pub(crate) type PerInput = [f64; MAX_DIMENSIONS];

pub(crate) fn dot(a: &PerInput, b: &PerInput) -> f64 {
    a.iter().zip(b).fold(0.0, |sum, (x, y)| sum + x * y)
}

/// Directions that several rows or variables share, each with a number of its own.
#[derive(Clone, Debug, Default)]
pub(crate) struct Directions {
    all: Vec<PerInput>,
    numbers: HashMap<[i64; MAX_DIMENSIONS], u32>,
}

impl Directions {
    pub(crate) fn clear(&mut self) {
        self.all.clear();
        self.numbers.clear();
    }

    pub(crate) fn len(&self) -> usize {
        self.all.len()
    }

    pub(crate) fn get(&self, number: u32) -> &PerInput {
        &self.all[number as usize]
    }

    /// The number of a direction; those with the same key are one.
    pub(crate) fn number(&mut self, direction: PerInput, key: impl Fn(f64) -> i64) -> u32 {
        *self.numbers.entry(direction.map(key)).or_insert_with(|| {
            self.all.push(direction);
            self.all.len() as u32 - 1
        })
    }
}

/// The motion of what stays.
const STILL: u32 = 0;

#[derive(Clone, Debug, Default)]
pub(crate) struct AffinePass {
    /// Per slot: its value where every input is zero.
    zeros: Vec<f64>,
    /// Per slot: its motion.
    motions: Vec<u32>,
    directions: Directions,
    /// Per place in the elimination order, a bit each: what is to be worked out again.
    open: Vec<u64>,
    /// The slots that differ from those of the last whole pass, at least.
    differing: Vec<u32>,
    differs: Vec<bool>,
    whole: Arc<FullProblem>,
}

/// Everything at one time. Regions near one another share it, and keep only what differs.
#[derive(Clone, Debug, Default)]
struct FullProblem {
    moving: Groups,
    zeros: Vec<f64>,
    motions: Vec<u32>,
}

/// The pass of one region.
#[derive(Clone, Debug, Default)]
pub(crate) struct Pass {
    whole: Arc<FullProblem>,
    rest: Groups,
}

/// Variables that move alike, together: a motion is worked out once, so each variable costs one
/// addition (a third of the time of [`crate::sweep_pass`], and two thirds of that of a sum of its own
/// for each variable).
#[derive(Clone, Debug, Default)]
struct Groups {
    outs: Vec<u32>,
    constants: Vec<f64>,
    /// Per group: where it ends, and its motion.
    ends: Vec<(u32, PerInput)>,
}

/// Groups are of variables in windows of so many, which stay in the nearest cache meanwhile (a tenth
/// less time at 1,000 views).
const WINDOW: u32 = 1024;

/// The number of a tight row that is an input, if one is.
pub(crate) struct Edited {
    row: Option<Row>,
    slot: u32,
    made: Vec<u32>,
}

impl Edited {
    pub(crate) fn new(search: &Search, inputs: &[u32]) -> Self {
        let slot = search.rows.slot_count() as u32;
        let row = search.number.filter(|_| inputs.contains(&slot));
        Self { row, slot, made: row.map_or(Vec::new(), |row| search.state.basis.made_with(row)) }
    }

    /// For a definition that the row takes part in: the number's slot, and the row's factor.
    pub(crate) fn of(&self, search: &Search, slot: u32) -> Option<(u32, f64)> {
        if !self.made.contains(&slot) {
            return None;
        }
        let mut factor = 0.0;
        search.state.basis.made_of(&search.rows, slot, |made, f| {
            factor += if Some(made) == self.row { f } else { 0.0 };
        });
        Some((self.slot, factor))
    }
}

impl AffinePass {
    /// Works out everything, in an elimination order.
    pub(crate) fn restart(&mut self, search: &Search, order: &[u32], inputs: &[u32]) {
        self.directions.clear();
        self.motion_of([0.0; MAX_DIMENSIONS]);
        self.zeros.clone_from(&search.values);
        self.motions.clear();
        self.motions.resize(search.values.len(), STILL);
        for (at, &input) in inputs.iter().enumerate() {
            self.zeros[input as usize] = 0.0;
            self.motions[input as usize] =
                self.motion_of(std::array::from_fn(|d| if d == at { 1.0 } else { 0.0 }));
        }
        let edited = Edited::new(search, inputs);
        for &slot in order {
            self.work_out(search, &edited, slot);
        }
        self.differs.clear();
        self.differs.resize(self.zeros.len(), false);
        self.start_whole(search);
    }

    fn motion_of(&mut self, rates: PerInput) -> u32 {
        self.directions.number(rates.map(|r| r + 0.0), |r| r.to_bits() as i64)
    }

    /// Works out a slot from what it reads; whether anything changed.
    fn work_out(&mut self, search: &Search, edited: &Edited, slot: u32) -> bool {
        let (constant, reads) = search.state.basis.definition(&search.rows, slot);
        let mut zero = -constant;
        let mut rates: PerInput = [0.0; MAX_DIMENSIONS];
        // Most variables move as the one thing does that they read.
        let mut alike = Some(STILL);
        let mut add = |motion: u32, c: f64, directions: &Directions| {
            if motion != STILL {
                alike = if alike == Some(STILL) && c == -1.0 { Some(motion) } else { None };
                for (sum, r) in rates.iter_mut().zip(directions.get(motion)) {
                    *sum -= c * r;
                }
            }
        };
        for (read, c) in reads {
            zero -= c * self.zeros[read as usize];
            add(self.motions[read as usize], c, &self.directions);
        }
        if let Some((number, factor)) = edited.of(search, slot) {
            // The number itself is part of the constant.
            zero += factor * search.values[number as usize];
            add(self.motions[number as usize], factor, &self.directions);
        }
        let motion = alike.unwrap_or_else(|| self.motion_of(rates));
        let old_zero = std::mem::replace(&mut self.zeros[slot as usize], zero);
        let old_motion = std::mem::replace(&mut self.motions[slot as usize], motion);
        old_zero != zero || old_motion != motion
    }

    /// Works out again what depends on slots that are redefined; returns what changed.
    /// `position` has the place in the order for each slot.
    pub(crate) fn follow(
        &mut self,
        search: &Search,
        order: &[u32],
        position: &[u32],
        inputs: &[u32],
        anew: &[u32],
    ) -> Vec<u32> {
        let edited = Edited::new(search, inputs);
        let mut changed = Vec::new();
        self.open.clear();
        self.open.resize(order.len().div_ceil(64), 0);
        fn note(open: &mut [u64], at: u32) {
            open[at as usize / 64] |= 1 << (at % 64);
        }
        anew.iter().for_each(|&slot| note(&mut self.open, position[slot as usize]));
        let mut word = 0;
        while word < self.open.len() {
            let bit = self.open[word].trailing_zeros();
            if bit == 64 {
                word += 1;
                continue;
            }
            self.open[word] &= self.open[word] - 1;
            let slot = order[64 * word + bit as usize];
            if self.work_out(search, &edited, slot) {
                changed.push(slot);
                for reader in search.state.basis.readers(&search.rows, slot) {
                    note(&mut self.open, position[reader as usize]);
                }
            }
        }
        for &slot in &changed {
            if !std::mem::replace(&mut self.differs[slot as usize], true) {
                self.differing.push(slot);
            }
        }
        changed
    }

    /// The value of a row where every input is zero, and its rates.
    pub(crate) fn of_row(&self, search: &Search, row: Row) -> (f64, PerInput) {
        let mut zero = search.rows.constant(row);
        let mut rates = [0.0; MAX_DIMENSIONS];
        let (slots, coefficients) = search.rows.terms(row);
        for (&slot, &c) in slots.iter().zip(coefficients) {
            zero += c * self.zeros[slot as usize];
            let motion = self.motions[slot as usize];
            if motion != STILL {
                for (sum, r) in rates.iter_mut().zip(self.directions.get(motion)) {
                    *sum += c * r;
                }
            }
        }
        (zero, rates)
    }

    /// Whether so many directions were met that it is better to start again.
    pub(crate) fn is_worn(&self) -> bool {
        self.directions.len() > 1000 + self.zeros.len()
    }

    fn start_whole(&mut self, search: &Search) {
        self.differing.drain(..).for_each(|slot| self.differs[slot as usize] = false);
        let moving: Vec<u32> =
            search.rows.variables().filter(|s| self.motions[*s as usize] != STILL).collect();
        let (zeros, motions) = (self.zeros.clone(), self.motions.clone());
        self.whole = Arc::new(FullProblem { moving: Groups::new(self, &moving), zeros, motions });
    }

    /// The pass as it is now.
    pub(crate) fn pass(&mut self, search: &Search) -> Pass {
        let Self { zeros, motions, differing, differs, whole, .. } = self;
        differing.retain(|&slot| {
            let at = slot as usize;
            differs[at] = zeros[at] != whole.zeros[at] || motions[at] != whole.motions[at];
            differs[at]
        });
        // What differs is computed besides the whole, so it should stay small (with as many as the
        // whole has, a drag took a fifth longer).
        if differing.len() > whole.moving.outs.len() / 8 {
            self.start_whole(search);
        }
        // What was in order before is one run, so this is a merge.
        self.differing.sort();
        Pass { whole: self.whole.clone(), rest: Groups::new(self, &self.differing) }
    }
}

impl Groups {
    /// Groups of some slots, in order of the slots.
    fn new(affine_pass: &AffinePass, slots: &[u32]) -> Self {
        let mut groups = Self::default();
        let mut counts = vec![0_u32; affine_pass.directions.len()];
        for window in slots.chunk_by(|a, b| a / WINDOW == b / WINDOW) {
            let mut numbers = Vec::new();
            for &slot in window {
                let motion = affine_pass.motions[slot as usize];
                let count = &mut counts[motion as usize];
                *count += 1;
                if *count == 1 {
                    numbers.push(motion);
                }
            }
            let mut end = groups.outs.len() as u32;
            for &motion in &numbers {
                // From now on the place of the next one of this motion.
                let count = std::mem::replace(&mut counts[motion as usize], end);
                end += count;
                groups.ends.push((end, *affine_pass.directions.get(motion)));
            }
            groups.outs.resize(end as usize, 0);
            groups.constants.resize(end as usize, 0.0);
            for &slot in window {
                let at = &mut counts[affine_pass.motions[slot as usize] as usize];
                groups.outs[*at as usize] = slot;
                groups.constants[*at as usize] = affine_pass.zeros[slot as usize];
                *at += 1;
            }
            numbers.into_iter().for_each(|motion| counts[motion as usize] = 0);
        }
        groups
    }

    fn run(&self, inputs: &PerInput, values: &mut [f64]) {
        let mut start = 0;
        // Mostly a width and a height change: a tenth less time than six products each.
        let two = inputs[2..] == [0.0; MAX_DIMENSIONS - 2];
        for (end, motion) in &self.ends {
            let end = *end as usize;
            let motion =
                if two { motion[0] * inputs[0] + motion[1] * inputs[1] } else { dot(motion, inputs) };
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
}

impl Pass {
    /// Computes all that depends on the inputs.
    pub(crate) fn run(&self, inputs: &PerInput, values: &mut [f64]) {
        self.whole.moving.run(inputs, values);
        self.rest.run(inputs, values);
    }

    /// Computes all variables (of these slots), coming from another region.
    pub(crate) fn enter(&self, slots: Range<u32>, inputs: &PerInput, values: &mut [f64]) {
        let slots = slots.start as usize..slots.end as usize;
        values[slots.clone()].copy_from_slice(&self.whole.zeros[slots]);
        self.run(inputs, values);
    }

    /// What a parameter that is not an input was.
    pub(crate) fn parameter(&self, slot: u32) -> f64 {
        self.whole.zeros[slot as usize]
    }

    /// How much memory it takes, counted in numbers, besides what it shares with another.
    pub(crate) fn size(&self, beside: Option<&Pass>) -> usize {
        let shared = beside.is_some_and(|b| Arc::ptr_eq(&b.whole, &self.whole));
        let whole = if shared { 0 } else { self.whole.moving.size() + 2 * self.whole.zeros.len() };
        self.rest.size() + whole
    }
}

impl Groups {
    fn size(&self) -> usize {
        2 * self.outs.len() + MAX_DIMENSIONS * self.ends.len()
    }
}
