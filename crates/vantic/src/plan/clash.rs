//! Musts that contradict one another whatever is chosen of each `max` and `min`.
//!
//! A choice has contradictions of its own; only what cannot hold with any choice is one of the
//! screen. Those of single choices are gathered until none can hold them all, then cut down by a
//! deletion filter (Chinneck & Dravnieks 1991) in which a set can hold if some choice lets it.

use super::choose::Chooser;
use std::collections::BTreeSet;
use vantic_solver::{Conflict, Level, RuleId, VarId};

/// How many contradictions are told apart on one display.
const MAX_CLASHES: usize = 20;

/// Musts of the problem that cannot hold together.
#[derive(Clone, Debug)]
pub(super) struct Clash {
    pub(super) rules: Vec<RuleId>,
    pub(super) givens: Vec<VarId>,
    pub(super) amount: f64,
    /// Where sizes at zero take part: those that cannot hold even without them, and how far apart they are.
    pub(super) wider: Option<(Vec<RuleId>, f64)>,
}

impl From<Conflict> for Clash {
    fn from(conflict: Conflict) -> Self {
        let wider = conflict.wider.map(|w| (w.rules, w.amount));
        Self { rules: conflict.rules, givens: conflict.givens, amount: conflict.amount, wider }
    }
}

/// Musts of the problem.
pub(super) type Musts = BTreeSet<RuleId>;

impl Chooser<'_> {
    /// All contradictions among these musts, and whether none may be missing.
    pub(super) fn clashes(&self, mut left: Musts) -> (Vec<Clash>, bool) {
        if let Some(choice) = self.only_choice() {
            // Nothing is to be chosen: the contradictions are those of the problem.
            let diagnosis = self.attempt(&choice, &|_, level| level).diagnose();
            let clashes = diagnosis.conflicts.into_iter().map(Clash::from).collect();
            return (clashes, !diagnosis.stopped);
        }
        let mut clashes = Vec::new();
        while clashes.len() < MAX_CLASHES {
            let Some(mut clash) = self.seed(&left) else { return (clashes, true) };
            // Written later goes first, so that what was there before stays.
            for rule in clash.clone().into_iter().rev() {
                clash.remove(&rule);
                if self.any(&alone(clash.clone())).is_some() {
                    clash.insert(rule);
                }
            }
            let Some(last) = clash.last().copied() else { return (clashes, false) };
            left.remove(&last);
            clashes.push(self.told(clash));
        }
        (clashes, false)
    }

    /// Some of these musts that cannot hold together whatever is chosen; `None` if they can.
    fn seed(&self, among: &Musts) -> Option<Musts> {
        let mut seed = Musts::new();
        if self.any(&alone(among.clone())).is_some() {
            return None;
        }
        loop {
            let Some(choice) = self.any(&alone(seed.clone())) else { return Some(seed) };
            let mut plan = self.attempt(&choice, &alone(among.clone()));
            let conflicts = plan.diagnose().conflicts;
            let before = seed.len();
            seed.extend(conflicts.iter().flat_map(|c| &c.rules).filter(|r| among.contains(r)));
            if seed.len() == before {
                // Nothing new was found in a choice; all of them together are known to be contradictory.
                return Some(among.clone());
            }
        }
    }

    /// The contradiction with what is to be said of it: how far apart its musts are at best.
    fn told(&self, musts: Musts) -> Clash {
        let rules: Vec<RuleId> = musts.iter().copied().collect();
        let only = alone(musts);
        let (choice, plan, _) = self.best_broken(&only);
        let amount = plan.outcome().level_totals.get(1).copied().unwrap_or_default();
        let conflicts = self.attempt(&choice, &only).diagnose().conflicts;
        let givens = conflicts.into_iter().next().map(|c| c.givens).unwrap_or_default();
        Clash { rules, givens, amount, wider: None }
    }
}

/// These musts alone, with what each `max` and `min` stands for; all else gives way to them.
fn alone(musts: Musts) -> impl Fn(RuleId, Level) -> Level {
    move |rule, _| if musts.contains(&rule) { Level::MUST } else { Level::preference(1) }
}
