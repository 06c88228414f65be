//! Which argument of each `max` and `min` counts.
//!
//! Solved without choosing first: each stands for anything on the right side of its arguments. Where
//! all come out equal to an argument that is the answer, since no choice can be better. Otherwise one
//! that did not is given each of its arguments in turn (branch and bound, Land & Doig 1960): the best
//! placement, level by level, over all choices, the earlier argument among equals.

use super::arranging::{Choices, Chosen, Probe};
use super::clash::{Clash, Musts};
use super::compile::{Compiled, Origin, PickNode};
use super::known::Known;
use std::collections::HashSet;
use vantic_solver as solver;
use vantic_solver::{Free, Level, Linear, Outcome, Relation, RuleId, Status, VarId};

/// How many choices are solved at most for one placement.
const MAX_CHOICES: usize = 400;

/// Values that differ by at most this, for their size, are equal.
const EQUAL: f64 = 1e-7;

/// A compiled screen, solved again and again.
#[derive(Debug)]
pub(super) struct Chooser<'a> {
    pub(super) compiled: &'a Compiled,
    plan: solver::Plan,
    pub(super) params: Vec<f64>,
    /// Whether musts contradict one another whatever is chosen; the plan's levels are moved down then.
    broken: bool,
    /// Whether the bound was met.
    gave_up: bool,
}

/// What each `max` and `min` is chosen to be, if anything.
pub(super) type Choice = Vec<Option<usize>>;

/// The level that a rule of the problem is solved on.
pub(super) type Levels<'a> = dyn Fn(RuleId, Level) -> Level + 'a;

/// Every level moved down by one, so that the strongest is free.
fn moved_down(_: RuleId, level: Level) -> Level {
    Level::preference(level.index() as u32 + 1)
}

/// A search through the choices.
pub(super) struct Search<'a> {
    /// Solves with what is chosen so far.
    solve: &'a dyn Fn(&Choice) -> solver::Plan,
    /// The picks of which an argument has to be chosen.
    counts: &'a [bool],
    /// Whether the first choice that breaks nothing is as good as any.
    first_will_do: bool,
    best: Option<Best>,
    left: usize,
}

impl<'a> Search<'a> {
    pub(super) fn new(
        solve: &'a dyn Fn(&Choice) -> solver::Plan,
        counts: &'a [bool],
        first_will_do: bool,
    ) -> Self {
        Self { solve, counts, first_will_do, best: None, left: MAX_CHOICES }
    }
}

/// The best choice so far, and what came of it.
pub(super) struct Best {
    pub(super) choice: Choice,
    totals: Vec<f64>,
}

impl<'a> Chooser<'a> {
    /// To be solved from nothing, or from what [`Chooser::into_parts`] kept of the same.
    pub(super) fn new(compiled: &'a Compiled, warm: Option<solver::Plan>, params: Vec<f64>) -> Self {
        let plan = warm.unwrap_or_else(|| solver::Plan::new(&compiled.problem));
        Self { compiled, plan, params, broken: false, gave_up: false }
    }

    /// Finds the best placement for these parameters.
    pub(super) fn solve(&mut self, params: &[f64]) {
        self.params.clear();
        self.params.extend_from_slice(params);
        if self.compiled.picks.is_empty() {
            solve(&mut self.plan, params);
            return;
        }
        let as_written = |_, level| level;
        let known = Known::by_musts(self.compiled, &self.params);
        let (choice, all) = self.best(&known, &as_written);
        self.broken = choice.is_none() && all;
        self.gave_up = !all;
        self.plan = match choice {
            Some(choice) => self.attempt(&choice, &as_written),
            // Nothing is known to be contradictory; what was decided so far is placed.
            None if !all => self.attempt(&known, &as_written),
            None => {
                let (_, plan, all) = self.best_broken(&as_written);
                self.gave_up |= !all;
                plan
            }
        };
    }

    /// What can be gone on from for another display, nothing where something was chosen of a `max` or `min`; and the list
    /// of the parameters, to be used again.
    pub(super) fn into_parts(self) -> (Option<solver::Plan>, Vec<f64>) {
        (self.compiled.picks.is_empty().then_some(self.plan), self.params)
    }

    /// What was solved, to be asked what decides its values.
    pub(super) fn plan_mut(&mut self) -> &mut solver::Plan {
        &mut self.plan
    }

    /// A plan of its own of what was solved, to be changed.
    pub(super) fn solver_plan(&self) -> solver::Plan {
        solver::Plan::new(&self.plan.problem())
    }

    pub(super) fn values(&self) -> &[f64] {
        self.plan.values()
    }

    /// The outcome, and whether the bound on the work was met.
    pub(super) fn outcome(&self) -> (Outcome, bool) {
        let outcome = self.plan.outcome();
        let stopped = self.gave_up || outcome.status == Status::Stopped;
        (outcome, stopped)
    }

    /// Whether every must holds, and all was looked at that had to be.
    pub(super) fn holds(&self) -> bool {
        !self.broken && !self.gave_up && self.plan.status() == Status::Solved
    }

    /// What is open, the musts that cannot hold together, and whether a bound on the work was met.
    pub(super) fn diagnose(&mut self) -> (Vec<Free>, Vec<Clash>, bool) {
        let mut diagnosis = self.plan.diagnose();
        if !self.broken {
            let clashes = diagnosis.conflicts.into_iter().map(Clash::from).collect();
            return (diagnosis.free, clashes, diagnosis.stopped);
        }
        // Musts that contradict one another are settled in written order; that leaves nothing open.
        let musts = self.musts();
        let settled = |f: &Free| f.rules.iter().any(|rule| musts.contains(rule));
        let roots: Vec<_> = diagnosis.free.iter().filter(|f| settled(f)).map(|f| f.var).collect();
        diagnosis.free.retain(|f| !settled(f) && f.follows.is_none_or(|root| !roots.contains(&root)));
        let (clashes, all) = self.clashes(musts);
        (diagnosis.free, clashes, diagnosis.stopped || !all)
    }

    /// The musts of the screen; what a `max` or `min` stands for is none.
    fn musts(&self) -> Musts {
        let Compiled { rules, origins, problem, .. } = self.compiled;
        let all = rules.iter().zip(origins).zip(problem.rules());
        all.filter(|((_, origin), rule)| rule.2 == Level::MUST && !matches!(origin, Origin::Pick(_)))
            .map(|((id, _), _)| *id)
            .collect()
    }

    /// A plan without a rule of the problem, all else as it is chosen.
    pub(super) fn without(&self, position: usize) -> Option<solver::Plan> {
        let mut plan = self.solver_plan();
        plan.remove_rule(self.compiled.rules[position]).ok()?;
        plan.solve(&self.params).ok()?;
        Some(plan)
    }

    /// The variables among some that may be larger than nothing without a rule of the problem, all levels kept.
    pub(super) fn grown(&self, position: usize, vars: &[VarId]) -> Vec<VarId> {
        let Some(mut plan) = self.without(position) else { return Vec::new() };
        let last = plan.problem().rules().map(|(_, _, level, _)| level.index()).max().unwrap_or(0);
        let wish = Level::preference(last as u32 + 1);
        for &var in vars {
            let added = plan.add_rule(Linear::of(var).plus(-1.0), Relation::AtLeast, wish, 1.0);
            debug_assert!(added.is_ok(), "the ids are the plan's own");
        }
        solve(&mut plan, &self.params);
        vars.iter().copied().filter(|var| plan.values()[var.index()] > EQUAL).collect()
    }

    /// The `clamp`s whose least is above their most, and by how much.
    pub(super) fn crossed(&self) -> Vec<(Origin, f64)> {
        let values = self.plan.values();
        let value = |arg: &Linear| value_of(arg, values, &self.params);
        let limits = self.compiled.picks.iter().filter_map(|p| p.limits.as_ref());
        let crossed = limits.map(|(least, most, origin)| (*origin, value(least) - value(most)));
        crossed.filter(|(_, by)| *by > EQUAL).collect()
    }

    /// What an expression comes out as.
    pub(super) fn value(&self, expr: &Linear) -> f64 {
        value_of(expr, self.plan.values(), &self.params)
    }

    /// What is to be chosen of arrangements where everything is as it came out.
    pub(super) fn arrange(&self, probes: &[Probe<Linear>], so_far: &Choices) -> Choices {
        chosen(probes, so_far, &|expr| self.value(expr))
    }

    /// The same so many steps further, where everything moves at these rates: of the variables, and of the parameters.
    pub(super) fn arrange_ahead(
        &self,
        probes: &[Probe<Linear>],
        so_far: &Choices,
        (rates, direction): (&[f64], &[f64]),
        steps: f64,
    ) -> Choices {
        let there = |expr: &Linear| {
            let of_vars: f64 = expr.terms().iter().map(|(v, c)| c * rates[v.index()]).sum();
            let of_params: f64 = expr.affine().terms().iter().map(|(p, c)| c * direction[p.index()]).sum();
            self.value(expr) + steps * (of_vars + of_params)
        };
        chosen(probes, so_far, &there)
    }

    /// Which argument of each `max` and `min` is the greatest or the least, with the rule that it stands in.
    pub(super) fn picked(&self) -> Vec<(Origin, usize)> {
        let picks = self.compiled.picks.iter();
        let one = |pick: &PickNode| {
            let rule = pick.rules.first()?;
            Some((self.compiled.origins[rule.index()], self.argument(pick)))
        };
        picks.filter_map(one).collect()
    }

    /// Which argument of a `max` or `min` is the greatest or the least.
    pub(super) fn argument(&self, pick: &PickNode) -> usize {
        let better = |a: f64, b: f64| if pick.is_max { a > b } else { a < b };
        let of: Vec<f64> = pick.of.iter().map(|arg| self.value(arg)).collect();
        (1..of.len()).fold(0, |best, i| if better(of[i], of[best]) { i } else { best })
    }

    /// Whether no `max` or `min` was searched through: there is none, or the display alone decides each.
    pub(super) fn is_decided(&self) -> bool {
        !self.gave_up && self.only_choice().is_some()
    }

    pub(super) fn known(&self) -> Choice {
        Known::by_display(self.compiled, &self.params)
    }

    /// The best choice that breaks nothing on the strongest level, if there is one, and whether all
    /// were looked at that had to be.
    fn best(&self, known: &Choice, levels: &Levels) -> (Option<Choice>, bool) {
        let relaxed = self.compiled.relaxed.as_ref().unwrap_or(&self.compiled.problem);
        let solve = |choice: &Choice| self.solved(relaxed, choice, levels);
        let counts = vec![true; self.compiled.picks.len()];
        let (best, all) = self.search(known.clone(), Search::new(&solve, &counts, false));
        (best.map(|b| b.choice), all)
    }

    /// Searches from what is chosen already: the best choice that breaks nothing on the strongest level, and whether all
    /// were looked at that had to be.
    pub(super) fn search(&self, from: Choice, mut search: Search<'_>) -> (Option<Best>, bool) {
        self.branch(from, &mut search);
        (search.best, search.left > 0)
    }

    /// What counts of each `max` and `min`, where the parameters alone decide it.
    pub(super) fn only_choice(&self) -> Option<Choice> {
        let known = self.known();
        known.iter().all(Option::is_some).then_some(known)
    }

    fn branch(&self, choice: Choice, search: &mut Search) {
        if search.left == 0 || search.first_will_do && search.best.is_some() {
            return;
        }
        search.left -= 1;
        let plan = (search.solve)(&choice);
        let outcome = plan.outcome();
        let worse = search.best.as_ref().is_some_and(|b| !is_better(&outcome.level_totals, &b.totals));
        if worse || is_broken(&outcome) {
            return;
        }
        let tight: Choice = std::iter::zip(&self.compiled.picks, &choice)
            .map(|(pick, &chosen)| chosen.or_else(|| equal_argument(pick, plan.values(), &self.params)))
            .collect();
        let is_open = |(chosen, counts): (&Option<usize>, &bool)| chosen.is_none() && *counts;
        let Some(open) = std::iter::zip(&tight, search.counts).position(is_open) else {
            search.best = Some(Best { choice: tight, totals: outcome.level_totals });
            return;
        };
        for argument in 0..self.compiled.picks[open].of.len() {
            let mut next = choice.clone();
            next[open] = Some(argument);
            self.branch(next, search);
        }
    }

    /// The best placement with the musts moved down by a level, so that what a `max` stands for is
    /// above them; `levels` says which rules are musts.
    pub(super) fn best_broken(&self, levels: &Levels) -> (Choice, solver::Plan, bool) {
        let below = |rule, level| moved_down(rule, levels(rule, level));
        let known = self.known();
        let (choice, all) = self.best(&known, &below);
        let choice = choice.unwrap_or(known);
        let plan = self.attempt(&choice, &below);
        (choice, plan, all)
    }

    /// Solved with what is chosen, and other levels for the screen's own rules.
    pub(super) fn attempt(&self, choice: &Choice, levels: &Levels) -> solver::Plan {
        self.solved(&self.compiled.problem, choice, levels)
    }

    fn solved(&self, problem: &solver::Problem, choice: &Choice, levels: &Levels) -> solver::Plan {
        let picked = std::iter::zip(&self.compiled.picks, choice);
        let chosen: HashSet<RuleId> = picked.filter_map(|(p, &chosen)| Some(p.rules[chosen?])).collect();
        let adjusted = problem.adjusted(|rule, relation, level| match self.compiled.origins[rule.index()] {
            Origin::Pick(_) if chosen.contains(&rule) => (Relation::Equal, level),
            Origin::Pick(_) => (relation, level),
            _ => (relation, levels(rule, level)),
        });
        let problem = adjusted.as_ref().unwrap_or(problem);
        let mut plan = solver::Plan::new(problem);
        solve(&mut plan, &self.params);
        plan
    }
}

/// What is to be chosen of arrangements where expressions come out like that.
fn chosen(probes: &[Probe<Linear>], so_far: &Choices, value: &dyn Fn(&Linear) -> f64) -> Choices {
    let numbers = probes.iter().map(|p| p.map(&mut |expr| value(expr)));
    let nothing = Chosen::default();
    let chosen = numbers.map(|probe| (probe.view, probe.choose(so_far.get(&probe.view).unwrap_or(&nothing))));
    // How many are shown is chosen once; where that is none of them, nothing is left to ask.
    let kept = so_far.iter().filter(|(_, chosen)| chosen.spares.is_some());
    let kept = kept.map(|(&view, chosen)| {
        (view, Chosen { spares: chosen.spares, cut: chosen.cut, ..Chosen::default() })
    });
    kept.chain(chosen).filter(|(_, chosen)| *chosen != Chosen::default()).collect()
}

pub(super) fn solve(plan: &mut solver::Plan, params: &[f64]) {
    if let Err(refused) = plan.solve(params) {
        // The display and the measures were checked; what is left cannot be refused.
        unreachable!("{refused}");
    }
}

fn is_broken(outcome: &Outcome) -> bool {
    outcome.level_totals.first().is_some_and(|&t| t > EQUAL)
}

/// The part of an expression that the parameters decide.
pub(super) fn known_part(expr: &Linear, params: &[f64]) -> f64 {
    let affine = expr.affine();
    affine.number() + affine.terms().iter().map(|(p, c)| c * params[p.index()]).sum::<f64>()
}

fn value_of(expr: &Linear, values: &[f64], params: &[f64]) -> f64 {
    expr.terms().iter().map(|(v, c)| c * values[v.index()]).sum::<f64>() + known_part(expr, params)
}

/// The first argument that a `max` or `min` comes out equal to.
fn equal_argument(pick: &PickNode, values: &[f64], params: &[f64]) -> Option<usize> {
    let value = values[pick.var.index()];
    pick.of.iter().position(|arg| {
        let arg = value_of(arg, values, params);
        (arg - value).abs() <= EQUAL * (1.0 + value.abs())
    })
}

/// Whether totals are better, level by level.
fn is_better(a: &[f64], b: &[f64]) -> bool {
    let differs = |(a, b): &(&f64, &f64)| (*a - *b).abs() > EQUAL * (1.0 + a.abs().max(b.abs()));
    a.iter().zip(b).find(differs).is_some_and(|(a, b)| a < b)
}
