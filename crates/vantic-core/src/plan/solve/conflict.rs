//! Required rules that contradict one another whatever is chosen of each `max` and `min`.
//!
//! A choice has contradictions of its own; only what cannot hold with any choice is one of the
//! screen. Those of single choices are gathered until none can hold them all, then cut down by a
//! deletion filter (Chinneck & Dravnieks 1991) in which a set can hold if some choice lets it.

use crate::plan::compile::compiled::Compiled;
use crate::plan::compile::origins::Origin;
use crate::plan::compile::presolve::Choice;
use crate::plan::solve::alternatives::AlternativeSearch;
use crate::plan::solve::choice::{Search, solve};
use std::collections::{BTreeSet, HashSet};
use vantic_solver::{self as solver, Free, Level, Linear, Plan, Relation, RuleId, VarId, work};

/// How many contradictions are reported apart on one display.
const MAX_CLASHES: usize = 20;

/// Required rules of the problem that cannot hold together.
#[derive(Clone, Debug)]
pub(crate) struct Conflict {
    pub(crate) rules: Vec<RuleId>,
    pub(crate) nonnegatives: Vec<VarId>,
    pub(crate) amount: f64,
    /// Where sizes at zero take part: those that cannot hold even without them, and how far apart they are.
    pub(crate) without_nonnegativity: Option<(Vec<RuleId>, f64)>,
}

impl From<solver::Conflict> for Conflict {
    fn from(conflict: solver::Conflict) -> Self {
        let without_nonnegativity = conflict.without_nonnegativity.map(|w| (w.rules, w.amount));
        Self {
            rules: conflict.rules,
            nonnegatives: conflict.nonnegatives,
            amount: conflict.amount,
            without_nonnegativity,
        }
    }
}

/// Required rules of the problem.
pub(crate) type RequiredRules = BTreeSet<RuleId>;

/// Some required rules alone, with the `max` and `min` that they read, and those that these read.
struct Part<'a> {
    chooser: &'a AlternativeSearch<'a>,
    required: &'a RequiredRules,
    /// Per pick: whether the required rules read it.
    counts: Vec<bool>,
    /// The rules that it consists of, in written order, and their relations.
    rules: Vec<RuleId>,
    relations: Vec<Relation>,
}

impl<'a> Part<'a> {
    fn new(chooser: &'a AlternativeSearch<'a>, required: &'a RequiredRules) -> Self {
        let Compiled { picks, problem, rules, .. } = chooser.compiled;
        work::spend(problem.rule_count() + picks.len());
        let mut read: HashSet<VarId> = HashSet::new();
        for ((expr, ..), _) in problem.rules().zip(rules).filter(|(_, id)| required.contains(id)) {
            read.extend(expr.terms().iter().map(|(var, _)| *var));
        }
        // Those within others come first.
        let mut counts = vec![false; picks.len()];
        for (pick, counts) in std::iter::zip(picks, &mut counts).rev() {
            *counts = read.contains(&pick.var);
            if *counts {
                read.extend(pick.of.iter().flat_map(Linear::terms).map(|(var, _)| *var));
            }
        }
        let counting = std::iter::zip(picks, &counts).filter(|(_, counts)| **counts);
        let picked: BTreeSet<RuleId> = counting.flat_map(|(pick, _)| &pick.rules).copied().collect();
        let of_it = std::iter::zip(rules, problem.rules())
            .filter(|(id, _)| required.contains(id) || picked.contains(id))
            .map(|(id, (_, relation, ..))| (*id, relation));
        let (rules, relations) = of_it.unzip();
        Self { chooser, required, counts, rules, relations }
    }

    /// Solved with what is chosen, the required rules on a level.
    fn solved(&self, choice: &Choice, level: Level) -> Plan {
        let Compiled { picks, problem, .. } = self.chooser.compiled;
        let picked = std::iter::zip(picks, choice);
        let chosen: HashSet<RuleId> = picked.filter_map(|(p, &chosen)| Some(p.rules[chosen?])).collect();
        let rules = std::iter::zip(&self.rules, &self.relations).map(|(&id, &relation)| {
            match (self.required.contains(&id), chosen.contains(&id)) {
                (true, _) => (id, relation, level),
                (false, true) => (id, Relation::Equal, Level::REQUIRED),
                (false, false) => (id, relation, Level::REQUIRED),
            }
        });
        // Near its first argument a pick mostly comes out equal to one.
        let counting = std::iter::zip(picks, &self.counts).filter(|(_, counts)| **counts);
        let settle = counting.map(|(pick, _)| pick.settled());
        let Ok(part) = problem.part(rules, settle) else { unreachable!("the rules are the problem's own") };
        let mut plan = Plan::new(&part);
        solve(&mut plan, &self.chooser.params);
        plan
    }

    /// Any choice with which all of it holds.
    fn holds(&self) -> Option<Choice> {
        let solve = |choice: &Choice| self.solved(choice, Level::REQUIRED);
        let search = Search::new(&solve, &self.counts, true);
        self.chooser.search(self.chooser.known(), search).0.map(|best| best.choice)
    }

    /// Some of the required rules that contradict one another with a choice, and the givens that take part in
    /// that.
    fn contradicting(&self, choice: &Choice) -> (RequiredRules, Vec<VarId>) {
        let conflicts = self.solved(choice, Level::REQUIRED).diagnose().conflicts;
        let Some(first) = conflicts.into_iter().next() else { return (RequiredRules::new(), Vec::new()) };
        let taking_part = first.rules.iter().map(|rule| self.rules[rule.index()]);
        (taking_part.filter(|rule| self.required.contains(rule)).collect(), first.nonnegatives)
    }

    /// The choice with which its required rules are least broken, and by how much they are.
    fn least_broken(&self) -> (Choice, f64) {
        let below = Level::preference(1);
        let solve = |choice: &Choice| self.solved(choice, below);
        let search = Search::new(&solve, &self.counts, false);
        let best = self.chooser.search(self.chooser.known(), search).0;
        let choice = best.map_or_else(|| self.chooser.known(), |best| best.choice);
        let totals = self.solved(&choice, below).outcome().level_totals;
        (choice, totals.get(1).copied().unwrap_or_default())
    }
}

impl AlternativeSearch<'_> {
    /// All contradictions among these required rules, and whether none may be missing.
    pub(crate) fn clashes(&self, mut left: RequiredRules) -> (Vec<Conflict>, bool) {
        if let Some(choice) = self.only_choice() {
            // Nothing is to be chosen: the contradictions are those of the problem.
            let diagnosis = self.attempt(&choice, &|_, level| level).diagnose();
            let clashes = diagnosis.conflicts.into_iter().map(Conflict::from).collect();
            return (clashes, !diagnosis.stopped);
        }
        let mut clashes = Vec::new();
        while clashes.len() < MAX_CLASHES {
            let seed = self.seed(&left);
            if work::is_short() {
                return (clashes, false);
            }
            let Some(mut clash) = seed else { return (clashes, true) };
            // Written later goes first, so that what was there before stays.
            for rule in clash.clone().into_iter().rev() {
                clash.remove(&rule);
                let holds = Part::new(self, &clash).holds().is_some();
                if work::is_short() {
                    // Whether it can hold is not known; what is not cut down to what it needs is not told.
                    return (clashes, false);
                }
                if holds {
                    clash.insert(rule);
                }
            }
            let Some(last) = clash.last().copied() else { return (clashes, false) };
            left.remove(&last);
            clashes.push(self.as_conflict(&clash));
        }
        (clashes, false)
    }

    /// Some of these required rules that cannot hold together whatever is chosen; `None` if they can.
    fn seed(&self, among: &RequiredRules) -> Option<RequiredRules> {
        let all = Part::new(self, among);
        if all.holds().is_some() {
            return None;
        }
        let mut seed = RequiredRules::new();
        loop {
            let Some(choice) = Part::new(self, &seed).holds() else { return Some(seed) };
            if work::is_short() {
                return Some(seed);
            }
            // Coordinates that the seed does not mention are where they were placed.
            let picks = &self.compiled.picks;
            let as_placed =
                std::iter::zip(picks, choice).map(|(p, chosen)| chosen.or(Some(self.argument(p))));
            let before = seed.len();
            seed.extend(all.contradicting(&as_placed.collect()).0);
            if seed.len() == before {
                // Nothing new was found in a choice; all of them together are known to be contradictory.
                return Some(among.clone());
            }
        }
    }

    /// The contradiction with what is to be said of it: how far apart its required rules are at best.
    fn as_conflict(&self, required: &RequiredRules) -> Conflict {
        let part = Part::new(self, required);
        let (choice, amount) = part.least_broken();
        let (_, nonnegatives) = part.contradicting(&choice);
        Conflict {
            rules: required.iter().copied().collect(),
            nonnegatives,
            amount,
            without_nonnegativity: None,
        }
    }
}

impl<'a> AlternativeSearch<'a> {
    /// What is open, the required rules that cannot hold together, and whether a bound on the work was met.
    pub(crate) fn diagnose(&mut self) -> (Vec<Free>, Vec<Conflict>, bool) {
        let mut diagnosis = self.plan.diagnose();
        if !self.broken {
            let clashes = diagnosis.conflicts.into_iter().map(Conflict::from).collect();
            return (diagnosis.free, clashes, diagnosis.stopped);
        }
        // Required rules that contradict one another are settled in written order; that leaves nothing open.
        let required = self.required();
        let settled = |f: &Free| f.rules.iter().any(|rule| required.contains(rule));
        let roots: Vec<_> = diagnosis.free.iter().filter(|f| settled(f)).map(|f| f.var).collect();
        diagnosis.free.retain(|f| !settled(f) && f.follows.is_none_or(|root| !roots.contains(&root)));
        let (clashes, all) = self.clashes(required);
        (diagnosis.free, clashes, diagnosis.stopped || !all)
    }

    /// The required rules of the screen; what a `max` or `min` stands for is none.
    fn required(&self) -> RequiredRules {
        let Compiled { rules, origins, problem, .. } = self.compiled;
        let all = rules.iter().zip(origins).zip(problem.rules());
        all.filter(|((_, origin), rule)| rule.2 == Level::REQUIRED && !matches!(origin, Origin::MinMax(_)))
            .map(|((id, _), _)| *id)
            .collect()
    }
}
