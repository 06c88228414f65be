//! Which argument of each `max` and `min` counts.
//!
//! Solved without choosing first: each stands for anything on the right side of its arguments. Where
//! all come out equal to an argument that is the answer, since no choice can be better. Otherwise one
//! that did not is given each of its arguments in turn (branch and bound, Land & Doig 1960): the best
//! placement, level by level, over all choices, the earlier argument among equals.
//!
//! What was solved on the way is kept ([`ChoiceMemory`]): on the next display the same search goes from one
//! kept plan to the next, and mostly there are two of them, one that tells that the choice is still the best
//! one and one that has it.

use crate::plan::arrangement_choices::{ChoiceInputs, Choices, ChoosingLists};
use crate::plan::compile::compiled::Compiled;
use crate::plan::compile::origins::{MinMaxNode, Origin};
use crate::plan::compile::presolve::{Choice, value_of};
use crate::plan::solve::choice::{
    Incumbent, Levels, Search, chosen, equal_argument, is_better, is_broken, moved_down, solve,
};
use crate::plan::solve::memory::{ChoiceMemory, Kept};
use crate::tolerance::{ARGUMENT, PLACED};
use std::cell::RefCell;
use std::collections::HashSet;
use vantic_solver as solver;
use vantic_solver::{Level, Linear, Outcome, Problem, Relation, RuleId, Settle, Status, VarId, work};

/// A compiled screen, solved again and again.
#[derive(Debug)]
pub(crate) struct AlternativeSearch<'a> {
    pub(crate) compiled: &'a Compiled,
    /// Behind a pointer, since it is handed on with each display.
    pub(super) plan: Box<solver::Plan>,
    memory: RefCell<ChoiceMemory>,
    pub(crate) params: Vec<f64>,
    /// Whether required rules contradict one another whatever is chosen; the plan's levels are moved down
    /// then.
    pub(super) broken: bool,
    /// Whether the bound was met.
    pub(crate) gave_up: bool,
}

/// So many rules of a problem that is copied are a unit of work.
const COPIED: usize = 4;

impl<'a> AlternativeSearch<'a> {
    /// To be solved from nothing, or from what [`AlternativeSearch::into_parts`] kept of the same.
    pub(crate) fn new(compiled: &'a Compiled, warm: Option<Kept>, params: Vec<f64>) -> Self {
        let Kept { plan, memory } = warm.unwrap_or_default();
        let plan = plan.unwrap_or_else(|| match compiled.picks.is_empty() {
            true => Box::new(solver::Plan::new(&compiled.problem)),
            false => Box::new(solver::Plan::new(&Problem::default())),
        });
        Self { compiled, plan, memory: RefCell::new(memory), params, broken: false, gave_up: false }
    }

    /// Finds the best placement for these parameters.
    pub(crate) fn solve(&mut self, params: &[f64]) {
        self.params.clear();
        self.params.extend_from_slice(params);
        if self.compiled.picks.is_empty() {
            solve(&mut self.plan, params);
            return;
        }
        let Compiled { picks, presolve, .. } = self.compiled;
        self.memory.get_mut().presolve(presolve, picks, params);
        if self.choose_as_before() {
            (self.broken, self.gave_up) = (false, false);
            return;
        }
        // One plan at a time takes enough memory.
        let last = std::mem::replace(&mut self.plan, Box::new(solver::Plan::new(&Problem::default())));
        let rules = self.compiled.problem.rule_count();
        let memory = self.memory.get_mut();
        memory.put_back(last, rules);
        let known = memory.known.clone();
        let as_written = |_, level| level;
        let is_decided = known.iter().all(Option::is_some);
        let (choice, all) = match is_decided {
            true => (Some(known.clone()), !work::is_short()),
            false => self.best(&known, &as_written, true),
        };
        let solved = choice.map(|choice| (self.solved_for(&choice), choice));
        let is_contradictory = |plan: &solver::Plan| is_broken(&plan.outcome(), plan.scale());
        let solved = solved.filter(|(plan, _)| !(is_decided && is_contradictory(plan)));
        self.broken = solved.is_none() && all;
        self.gave_up = !all;
        self.plan = match solved {
            Some((plan, choice)) => {
                self.memory.get_mut().chosen = Some((known, choice));
                plan
            }
            // Nothing is known to be contradictory; what was decided so far is placed.
            None if !all => Box::new(self.attempt(&known, &as_written)),
            None => {
                let (_, plan, all) = self.best_broken(&as_written);
                self.gave_up |= !all;
                Box::new(plan)
            }
        };
    }

    /// Solved for a choice, as it is written.
    fn solved_for(&self, choice: &Choice) -> Box<solver::Plan> {
        let leaf = self.memory.borrow_mut().take_leaf(choice);
        match leaf {
            Some(mut plan) => {
                solve(&mut plan, &self.params);
                plan
            }
            None => Box::new(self.attempt(choice, &|_, level| level)),
        }
    }

    fn solved_again(&self, mut plan: solver::Plan) -> solver::Plan {
        solve(&mut plan, &self.params);
        plan
    }

    /// Goes on from the choice of the last parameters, if a search would end there again: `true` if it would.
    fn choose_as_before(&mut self) -> bool {
        let ChoiceMemory { known, chosen, nodes, .. } = self.memory.get_mut();
        let Some((_, chosen)) = chosen.as_ref().filter(|(then, _)| then == known) else { return false };
        if known.iter().any(Option::is_none) {
            let Some(node) = nodes.get_mut(known) else { return false };
            solve(node, &self.params);
            let mut picks = std::iter::zip(&self.compiled.picks, std::iter::zip(&*known, chosen));
            let ends_there = picks.all(|(pick, (known, chosen))| {
                known.or_else(|| equal_argument(pick, node, &self.params)) == *chosen
            });
            if node.status() != Status::Solved || !ends_there {
                return false;
            }
        }
        solve(&mut self.plan, &self.params);
        self.plan.status() == Status::Solved
    }

    /// What can be gone on from for another display, and the list of the parameters, to be used again.
    pub(crate) fn into_parts(self) -> (Kept, Vec<f64>) {
        let (compiled, mut memory) = (self.compiled, self.memory.into_inner());
        // A plan that is not of a choice cannot be gone on from.
        let is_of_choice = compiled.picks.is_empty() || memory.keeps_choice(compiled.problem.rule_count());
        if !is_of_choice {
            memory.chosen = None;
        }
        (Kept { plan: is_of_choice.then_some(self.plan), memory }, self.params)
    }

    /// What was solved, to be asked what decides its values.
    pub(crate) fn plan_mut(&mut self) -> &mut solver::Plan {
        &mut self.plan
    }

    /// A plan of its own of what was solved, to be changed.
    pub(crate) fn solver_plan(&self) -> solver::Plan {
        work::spend(self.compiled.rules.len() / COPIED);
        (*self.plan).clone()
    }

    pub(crate) fn values(&self) -> &[f64] {
        self.plan.values()
    }

    /// Lengths that differ by at most this are the same, as large as those of the screen are here.
    pub(crate) fn tolerance(&self) -> f64 {
        PLACED * self.plan.scale()
    }

    /// The outcome, and whether the bound on the work was met.
    pub(crate) fn outcome(&self) -> (Outcome, bool) {
        let outcome = self.plan.outcome();
        let stopped = self.gave_up || outcome.status == Status::Stopped;
        (outcome, stopped)
    }

    /// Whether required rules are broken, and whether the bound on the work was met.
    pub(crate) fn trouble(&self) -> (bool, bool) {
        let status = self.plan.status();
        (self.broken || status == Status::Broken, self.gave_up || status == Status::Stopped)
    }

    /// Whether every required rule holds, and all was looked at that had to be.
    pub(crate) fn holds(&self) -> bool {
        !self.broken && !self.gave_up && self.plan.status() == Status::Solved
    }

    /// A plan without a rule of the problem, all else as it is chosen.
    pub(crate) fn without(&self, position: usize) -> Option<solver::Plan> {
        let mut plan = self.solver_plan();
        plan.remove_rule(self.compiled.rules[position]).ok()?;
        Some(plan)
    }

    /// A level below all of the problem.
    pub(crate) fn level_below_all(&self) -> Level {
        let last = self.compiled.problem.rules().map(|(_, _, level, _)| level.index()).max().unwrap_or(0);
        Level::preference(last as u32 + 1)
    }

    /// The variables among some that may be larger than nothing without a rule of the problem, all levels above that of
    /// `wish` kept; none where the work does not suffice to tell.
    pub(crate) fn positive_without(&self, position: usize, vars: &[VarId], wish: Level) -> Vec<VarId> {
        let Some(mut plan) = self.without(position) else { return Vec::new() };
        for &var in vars {
            if work::is_short() {
                return Vec::new();
            }
            let added = plan.add_rule(Linear::of(var).plus(-1.0), Relation::AtLeast, wish, 1.0);
            debug_assert!(added.is_ok(), "the ids are the plan's own");
        }
        vars.iter().copied().filter(|var| plan.values()[var.index()] > ARGUMENT).collect()
    }

    /// The `clamp`s whose least is above their most, and by how much.
    pub(crate) fn crossed(&self) -> Vec<(Origin, f64)> {
        let values = self.plan.values();
        let value = |arg: &Linear| value_of(arg, values, &self.params);
        let limits = self.compiled.picks.iter().filter_map(|p| p.limits.as_ref());
        let crossed = limits.map(|(least, most, origin)| (*origin, value(least) - value(most)));
        crossed.filter(|(_, by)| *by > ARGUMENT).collect()
    }

    /// What an expression comes out as.
    pub(crate) fn value(&self, expr: &Linear) -> f64 {
        value_of(expr, self.plan.values(), &self.params)
    }

    /// What is to be chosen of arrangements so many steps further, where everything moves at these rates: of the variables, and of the
    /// parameters.
    pub(crate) fn arrange_ahead(
        &self,
        probes: &[ChoiceInputs<Linear>],
        so_far: &Choices,
        (rates, direction): (&[f64], &[f64]),
        steps: f64,
    ) -> Choices {
        let mut there = |expr: &Linear| {
            let of_vars: f64 = expr.terms().iter().map(|(v, c)| c * rates[v.index()]).sum();
            let of_params: f64 = expr.affine().terms().iter().map(|(p, c)| c * direction[p.index()]).sum();
            self.value(expr) + steps * (of_vars + of_params)
        };
        let numbers: Vec<_> = probes.iter().map(|p| p.map(&mut there)).collect();
        let mut next = Choices::new();
        chosen(probes, &numbers, so_far, &mut next, &mut ChoosingLists::default());
        next
    }

    /// Which argument of each `max` and `min` is the greatest or the least, with the rule that it stands in.
    pub(crate) fn picked(&self) -> Vec<(Origin, usize)> {
        let picks = self.compiled.picks.iter();
        let one = |pick: &MinMaxNode| {
            let rule = pick.rules.first()?;
            Some((self.compiled.origins[rule.index()], self.argument(pick)))
        };
        picks.filter_map(one).collect()
    }

    /// Which argument of a `max` or `min` is the greatest or the least.
    pub(crate) fn argument(&self, pick: &MinMaxNode) -> usize {
        let better = |a: f64, b: f64| if pick.is_max { a > b } else { a < b };
        let of: Vec<f64> = pick.of.iter().map(|arg| self.value(arg)).collect();
        (1..of.len()).fold(0, |best, i| if better(of[i], of[best]) { i } else { best })
    }

    /// Whether no `max` or `min` was searched through: there is none, or the display alone decides each.
    pub(crate) fn is_decided(&self) -> bool {
        !self.gave_up && self.only_choice().is_some()
    }

    pub(crate) fn known(&self) -> Choice {
        self.compiled.presolve.by_display(&self.compiled.picks, &self.params)
    }

    /// The best choice that breaks nothing on the strongest level, if there is one, and whether all
    /// were looked at that had to be. What is solved on the way can be kept where the levels are as written.
    fn best(&self, known: &Choice, levels: &Levels, is_kept: bool) -> (Option<Choice>, bool) {
        let solve = |choice: &Choice| {
            let kept = if is_kept { self.memory.borrow_mut().take_node(choice) } else { None };
            match kept {
                Some(plan) => self.solved_again(plan),
                None => self.solved(self.compiled.relaxed.as_ref(), choice, levels),
            }
        };
        let rules = self.compiled.problem.rule_count();
        let keep = |choice: &Choice, plan| {
            if is_kept {
                self.memory.borrow_mut().keep_node(choice, plan, rules);
            }
        };
        let counts = vec![true; self.compiled.picks.len()];
        let search = Search::new(&solve, &counts, false).keeping(&keep);
        let (best, all) = self.search(known.clone(), search);
        (best.map(|b| b.choice), all)
    }

    /// Searches from what is chosen already: the best choice that breaks nothing on the strongest level, and
    /// whether all were looked at that had to be.
    pub(crate) fn search(&self, from: Choice, mut search: Search<'_>) -> (Option<Incumbent>, bool) {
        self.branch(from, &mut search);
        (search.best, search.left > 0)
    }

    /// What counts of each `max` and `min`, where the parameters alone decide it.
    pub(crate) fn only_choice(&self) -> Option<Choice> {
        let known = self.known();
        known.iter().all(Option::is_some).then_some(known)
    }

    fn branch(&self, choice: Choice, search: &mut Search) {
        if work::is_short() {
            search.left = 0;
        }
        if search.left == 0 || search.stop_at_first_feasible && search.best.is_some() {
            return;
        }
        search.left -= 1;
        let plan = (search.solve)(&choice);
        let outcome = plan.outcome();
        let worse = search.best.as_ref().is_some_and(|b| !is_better(&outcome.level_totals, &b.totals));
        let is_no_use = worse || is_broken(&outcome, plan.scale());
        let tight: Choice = std::iter::zip(&self.compiled.picks, &choice)
            .map(|(pick, &chosen)| chosen.or_else(|| equal_argument(pick, &plan, &self.params)))
            .collect();
        // Before others are solved.
        (search.keep)(&choice, plan);
        if is_no_use {
            return;
        }
        let is_open = |(chosen, counts): (&Option<usize>, &bool)| chosen.is_none() && *counts;
        let Some(open) = std::iter::zip(&tight, search.counts).position(is_open) else {
            search.best = Some(Incumbent { choice: tight, totals: outcome.level_totals });
            return;
        };
        for argument in 0..self.compiled.picks[open].of.len() {
            let mut next = choice.clone();
            next[open] = Some(argument);
            self.branch(next, search);
        }
    }

    /// The best placement with the required rules moved down by a level, so that what a `max` stands for is
    /// above them; `levels` says which rules are required rules.
    pub(crate) fn best_broken(&self, levels: &Levels) -> (Choice, solver::Plan, bool) {
        let below = |rule, level| moved_down(rule, levels(rule, level));
        let known = self.known();
        let (choice, all) = self.best(&known, &below, false);
        let choice = choice.unwrap_or(known);
        let plan = self.attempt(&choice, &below);
        (choice, plan, all)
    }

    /// Solved with what is chosen, and other levels for the screen's own rules.
    pub(crate) fn attempt(&self, choice: &Choice, levels: &Levels) -> solver::Plan {
        self.solved(None, choice, levels)
    }

    fn solved(
        &self,
        settled: Option<&(usize, Vec<Settle>)>,
        choice: &Choice,
        levels: &Levels,
    ) -> solver::Plan {
        let problem = &self.compiled.problem;
        work::spend(problem.rule_count());
        let picked = std::iter::zip(&self.compiled.picks, choice);
        let chosen: HashSet<RuleId> = picked.filter_map(|(p, &chosen)| Some(p.rules[chosen?])).collect();
        let adjusted = problem.adjusted(|rule, relation, level| match self.compiled.origins[rule.index()] {
            Origin::MinMax(_) if chosen.contains(&rule) => (Relation::Equal, level),
            Origin::MinMax(_) => (relation, level),
            _ => (relation, levels(rule, level)),
        });
        let adjusted = match settled {
            Some((from, steps)) => adjusted.and_then(|problem| problem.settled_otherwise(*from, steps)),
            None => adjusted,
        };
        let mut plan = solver::Plan::new(adjusted.as_ref().unwrap_or(problem));
        drop(adjusted);
        solve(&mut plan, &self.params);
        plan
    }
}
