//! Costs on many stages at once, compared stage by stage.
//!
//! The levels, each rule's own violation and the settling steps are stages of one ladder. A unit on
//! a stage outweighs any amount on the stages after it, so a cost is a short list of amounts in
//! order of stage, compared like words in a dictionary. That makes the whole ladder one search in
//! an ordered field, where the usual proofs of the simplex method hold.

use crate::tolerance::sum;
use std::cmp::Ordering;

/// A stage of the ladder. Smaller is stronger.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub(crate) struct Stage(u64);

impl Stage {
    /// Stronger than every stage: what only required rules that hold decide.
    pub(crate) const HARD: Stage = Stage(0);
    pub(crate) const GIVEN: Stage = Stage(1 << 56);
    pub(crate) const REQUIRED: Stage = Stage(2 << 56);
    /// Weaker than every stage: what nothing holds.
    pub(crate) const OPEN: Stage = Stage(u64::MAX);

    /// The total of a level; required rules are level 0.
    pub(crate) fn level(level: u32) -> Stage {
        if level == 0 { Self::REQUIRED } else { Stage((4 << 56) | u64::from(level)) }
    }

    /// A rule's own violation.
    pub(crate) fn own(level: u32, rule: u32) -> Stage {
        Stage((5 << 56) | (u64::from(level) << 32) | u64::from(rule))
    }

    /// The same where the rules from a number on have another, all of them by as much.
    pub(crate) fn renumbered(self, from: u32, by: i64) -> Stage {
        let rule = self.0 as u32;
        if self.0 >> 56 != 5 || rule < from {
            return self;
        }
        Stage((self.0 & !u64::from(u32::MAX)) | (i64::from(rule) + by) as u64)
    }

    /// A settling step.
    pub(crate) fn settle(index: u32) -> Stage {
        Stage((6 << 56) | u64::from(index))
    }

    /// The last resort: a variable near zero.
    pub(crate) fn rest(var: u32) -> Stage {
        Stage((7 << 56) | u64::from(var))
    }

    /// Whether givens count here, or the total of the required rules.
    pub(crate) fn is_required(self) -> bool {
        self <= Self::REQUIRED
    }

    /// Whether this is the total of a level, or a required rule's own violation: what decides before any
    /// preference's own violation does.
    pub(crate) fn is_before_ties(self) -> bool {
        self.0 < (5 << 56) | (1 << 32)
    }

    /// Whether rules count here, and not only settling steps.
    pub(crate) fn is_of_rules(self) -> bool {
        self.0 < 6 << 56
    }
}

/// So many stages are taken in at once.
const MERGED: usize = 6;

/// So many stages are a unit of work.
const STAGES: usize = 48;

/// Counts stages that were gone through, where they are many.
fn went_through(stages: usize) {
    if stages >= STAGES {
        crate::work::spend(stages / STAGES);
    }
}

/// An amount on each of some stages, in order; none of them zero.
#[derive(Clone, Debug, Default, PartialEq)]
pub(crate) struct Lex(Vec<(Stage, f64)>);

impl Lex {
    pub(crate) fn new(items: &[(Stage, f64)]) -> Self {
        Self(items.to_vec())
    }

    /// See [`Stage::renumbered`]; the order stays.
    pub(crate) fn renumber(&mut self, from: u32, by: i64) {
        self.0.iter_mut().for_each(|(stage, _)| *stage = stage.renumbered(from, by));
    }

    pub(crate) fn is_zero(&self) -> bool {
        self.0.is_empty()
    }

    /// The strongest stage on which there is something.
    pub(crate) fn lead(&self) -> Stage {
        self.0.first().map_or(Stage::OPEN, |i| i.0)
    }

    /// The strongest stage of `self + factor * other`, with the amount there, without making the sum.
    pub(crate) fn lead_of_sum(&self, other: &Lex, factor: f64) -> Option<(Stage, f64)> {
        let (mut a, mut b) = (self.0.iter().peekable(), other.0.iter().peekable());
        let mut equal = 0;
        let lead = loop {
            match (a.peek(), b.peek()) {
                (None, None) => break None,
                (Some(&&first), None) => break Some(first),
                (Some(&&first), Some(second)) if first.0 < second.0 => break Some(first),
                (Some(first), Some(second)) if first.0 == second.0 => {
                    let amount = sum(first.1, second.1 * factor);
                    if amount != 0.0 {
                        break Some((first.0, amount));
                    }
                    equal += 1;
                    a.next();
                    b.next();
                }
                (_, Some(second)) => break Some((second.0, second.1 * factor)),
            }
        };
        went_through(equal);
        lead
    }

    /// The strongest stage, with the amount there.
    pub(crate) fn first(&self) -> Option<(Stage, f64)> {
        self.0.first().copied()
    }

    pub(crate) fn is_negative(&self) -> bool {
        self.0.first().is_some_and(|i| i.1 < 0.0)
    }

    /// The amounts on stages that fulfil a condition; stages are ordered, so this is a first part.
    pub(crate) fn up_to(&self, counts: impl Fn(Stage) -> bool) -> Lex {
        Lex(self.0.iter().copied().take_while(|i| counts(i.0)).collect())
    }

    pub(crate) fn at(&self, stage: Stage) -> f64 {
        self.0.iter().find(|i| i.0 == stage).map_or(0.0, |i| i.1)
    }

    /// Adds `factor * other`. What cancels but for rounding is zero.
    pub(crate) fn add(&mut self, other: &Lex, factor: f64) {
        if factor == 0.0 {
            return;
        }
        if other.0.len() >= MERGED {
            return self.merge(other, factor);
        }
        let mut moved_along = 0;
        for &(stage, amount) in &other.0 {
            let amount = amount * factor;
            match self.0.binary_search_by_key(&stage, |i| i.0) {
                Ok(at) => {
                    let old = self.0[at].1;
                    let amount = sum(old, amount);
                    if amount == 0.0 {
                        moved_along += self.0.len() - at;
                        self.0.remove(at);
                    } else {
                        self.0[at].1 = amount;
                    }
                }
                Err(at) => {
                    moved_along += self.0.len() - at;
                    self.0.insert(at, (stage, amount));
                }
            }
        }
        went_through(moved_along);
    }

    /// [`Self::add`] in one go through both, where each stage by itself would move many others along.
    fn merge(&mut self, other: &Lex, factor: f64) {
        let mut all = Vec::with_capacity(self.0.len() + other.0.len());
        let mut own = self.0.iter().copied().peekable();
        for &(stage, amount) in &other.0 {
            while let Some(before) = own.next_if(|i| i.0 < stage) {
                all.push(before);
            }
            let amount = amount * factor;
            match own.next_if(|i| i.0 == stage) {
                Some((_, old)) => all.extend(Some((stage, sum(old, amount))).filter(|i| i.1 != 0.0)),
                None => all.push((stage, amount)),
            }
        }
        all.extend(own);
        went_through(all.len());
        self.0 = all;
    }

    pub(crate) fn scaled(mut self, factor: f64) -> Lex {
        went_through(self.0.len());
        self.0.iter_mut().for_each(|i| i.1 *= factor);
        self
    }

    /// Stage by stage; amounts that differ by rounding only are equal.
    pub(crate) fn compare(&self, other: &Lex) -> Ordering {
        self.lead_of_sum(other, -1.0).map_or(Ordering::Equal, |(_, difference)| difference.total_cmp(&0.0))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_stronger_stage_outweighs_every_weaker_one() {
        let strong = Lex::new(&[(Stage::level(1), 1e-3)]);
        let weak = Lex::new(&[(Stage::level(2), 1e3), (Stage::own(2, 7), 1.0)]);
        assert_eq!(strong.compare(&weak), Ordering::Greater);
        assert_eq!(weak.compare(&weak), Ordering::Equal);
        assert_eq!(Lex::default().compare(&weak), Ordering::Less);
        let mut none = weak.clone();
        none.add(&weak, -1.0);
        assert!(none.is_zero() && !none.is_negative() && none.lead() == Stage::OPEN);
        let order = [
            Stage::HARD,
            Stage::GIVEN,
            Stage::REQUIRED,
            Stage::level(1),
            Stage::level(1000),
            Stage::own(0, 9),
            Stage::own(1, 9),
            Stage::own(2, 0),
            Stage::settle(0),
            Stage::rest(0),
            Stage::OPEN,
        ];
        assert!(order.is_sorted(), "{order:?}");
        assert!(Stage::REQUIRED.is_required() && !Stage::level(1).is_required());
        assert!(Stage::own(0, 9).is_before_ties() && !Stage::own(1, 0).is_before_ties());
        assert!(Stage::own(9, 1).is_of_rules() && !Stage::settle(1).is_of_rules());
    }
}
