//! What a search through `max` and `min` has solved, for the next display.

use crate::plan::compile::origins::MinMaxNode;
use crate::plan::compile::presolve::{Choice, Presolve};
use std::collections::HashMap;
use vantic_solver::Plan;

/// How many rules are kept solved for one screen, those of all its choices together.
pub(crate) const MAX_RULES_KEPT: usize = 40_000;

/// How many choices are kept solved at most.
const MAX_CHOICES_KEPT: usize = 64;

/// What is kept solved of a screen from one display to the next.
#[derive(Debug, Default)]
pub(crate) struct Kept {
    /// The plan; where there is something to choose, for what was chosen last.
    pub(crate) plan: Option<Box<Plan>>,
    pub(crate) memory: ChoiceMemory,
}

/// What was chosen last, and what was solved for other choices. Everything in it has been solved for some display and may
/// be solved for another one.
#[derive(Debug, Default)]
pub(crate) struct ChoiceMemory {
    /// What is decided without a search.
    pub(super) known: Choice,
    /// What was chosen last, after what was decided then.
    pub(super) chosen: Option<(Choice, Choice)>,
    /// Solved for what a search had chosen so far.
    pub(super) nodes: HashMap<Choice, Plan>,
    /// Solved for choices, but for the last one.
    leaves: HashMap<Choice, Box<Plan>>,
    /// The values of variables, a list that is used again.
    values: Vec<f64>,
}

impl ChoiceMemory {
    pub(super) fn presolve(&mut self, presolve: &Presolve, picks: &[MinMaxNode], params: &[f64]) {
        presolve.by_required_rules(picks, params, &mut self.values, &mut self.known);
    }

    pub(crate) fn has_chosen(&self) -> bool {
        self.chosen.is_some()
    }

    /// How many rules are kept solved, where a plan has so many.
    pub(crate) fn rules_kept(&self, rules: usize) -> usize {
        (self.nodes.len() + self.leaves.len()) * rules
    }

    /// Forgets what was solved for other choices than the last one.
    pub(crate) fn forget_others(&mut self) {
        self.nodes.clear();
        self.leaves.clear();
    }

    /// How many plans of so many rules are kept at most, in each of both lists.
    fn most(rules: usize) -> usize {
        (MAX_RULES_KEPT / rules.max(1)).min(MAX_CHOICES_KEPT)
    }

    /// Whether the plan of the last choice is one to keep.
    pub(super) fn keeps_choice(&self, rules: usize) -> bool {
        self.chosen.is_some() && Self::most(rules) > 0
    }

    /// Keeps the plan of the last choice for when it comes again.
    pub(super) fn put_back(&mut self, plan: Box<Plan>, rules: usize) {
        if let Some((_, choice)) = self.chosen.take() {
            Self::keep(&mut self.leaves, choice, plan, rules);
        }
    }

    pub(super) fn keep_node(&mut self, choice: &Choice, plan: Plan, rules: usize) {
        Self::keep(&mut self.nodes, choice.clone(), plan, rules);
    }

    pub(super) fn take_node(&mut self, choice: &Choice) -> Option<Plan> {
        self.nodes.remove(choice)
    }

    pub(super) fn take_leaf(&mut self, choice: &Choice) -> Option<Box<Plan>> {
        self.leaves.remove(choice)
    }

    fn keep<P>(list: &mut HashMap<Choice, P>, choice: Choice, plan: P, rules: usize) {
        let most = Self::most(rules);
        // What was chosen long ago is not likely to come again.
        if list.len() >= most {
            list.clear();
        }
        if most > 0 {
            list.insert(choice, plan);
        }
    }
}
