//! How a placement goes on as its display changes: how fast everything moves, and up to where that stays so.

use crate::display::display::Display;
use crate::model::id::ViewId;
use crate::model::rule_ref::RuleRef;
use crate::model::screen::Screen;
use crate::plan::arrangement_choices::Choices;
use crate::plan::canvas::Canvas;
use crate::plan::compile::compiled::Compiled;
use crate::plan::compile::origins::Origin;
use crate::plan::error::PlaceError;
use crate::plan::live::Live;
use crate::plan::parameters::Parameters;
use crate::plan::place::fixpoint::TextFixpoint;
use crate::plan::place::placement::Placement;
use crate::plan::place::texts::Texts;
use crate::text::measure::Measure;
use crate::tolerance::PLACED;
use std::collections::BTreeSet;
use vantic_solver as solver;
use vantic_solver::{Reason, work};

/// How often a step of a text, or of what is chosen, is halved to find where it lies.
const HALVINGS: usize = 60;

/// What ends the stretch on which everything moves evenly.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum SegmentEnd {
    /// Another rule begins to hold something, or gives way; `None` for one that no rule of the screen is.
    Rule(Option<RuleRef>),
    /// A text breaks its lines elsewhere.
    Lines(ViewId),
    /// What is chosen of arrangements.
    Choice,
}

/// A placement, and how it goes on.
#[derive(Clone, Debug)]
pub struct Lookahead {
    /// Where everything is now.
    pub placement: Placement,
    /// Per view: how its left, top, width and height change per step.
    pub rates: Vec<Option<[f64; 4]>>,
    /// After how many steps that ends, and by what; no further than was asked.
    pub steps: f64,
    /// What ends it, if anything.
    pub ends: Option<SegmentEnd>,
    /// The inequalities that hold something where it is.
    pub tight: BTreeSet<RuleRef>,
    /// Which argument of each `max` and `min` counts, with the rule that it stands in.
    pub picked: Vec<(RuleRef, usize)>,
    /// Whether nothing was searched through, so that what is true at both ends is true in between.
    pub is_exact: bool,
}

impl Live {
    /// Places the screen, and looks ahead to another display, so many steps away.
    pub fn along(
        &mut self,
        display: &Display,
        toward: &Display,
        steps: f64,
        measure: &dyn Measure,
    ) -> Result<Lookahead, PlaceError> {
        self.with_warm(display, |screen, planned, canvas, warm| {
            crate::plan::place::choosing::solve_to_fixpoint_with_choices(
                screen,
                planned,
                canvas,
                measure,
                warm,
                |settled, compiled, choices| {
                    let ahead = Looking { screen, compiled, canvas, measure, choices };
                    ahead.look(settled, toward, steps)
                },
            )
        })
    }
}

struct Looking<'a> {
    screen: &'a Screen,
    compiled: &'a Compiled,
    canvas: &'a Canvas<'a>,
    measure: &'a dyn Measure,
    choices: &'a Choices,
}

impl Looking<'_> {
    fn look(&self, settled: &mut TextFixpoint<'_>, toward: &Display, steps: f64) -> Lookahead {
        let (outcome, stopped) = settled.chooser.outcome();
        let placement = settled.placement(self.screen, self.compiled, self.canvas, &outcome, stopped);
        let mut direction = vec![0.0; settled.chooser.params.len()];
        let (from, to) = (Parameters::of_display(self.canvas.display), Parameters::of_display(toward));
        for ((rate, from), to) in std::iter::zip(&mut direction, from).zip(to) {
            *rate = (to - from) / steps;
        }
        let named = self.compiled.parameters().named();
        for (rate, value) in std::iter::zip(&mut direction[named], self.screen.parameters()) {
            *rate = (value.on(toward) - value.on(self.canvas.display)) / steps;
        }
        let is_exact = settled.chooser.is_decided() && !stopped;
        let tight = self.tight(settled);
        let picked: Vec<(RuleRef, usize)> =
            settled.chooser.picked().into_iter().map(|(of, argument)| (of.into(), argument)).collect();
        let Ok(ahead) = settled.chooser.plan_mut().parametric_step(&direction) else {
            let rates = vec![None; self.compiled.unknowns.boxes.len()];
            return Lookahead { placement, rates, steps: 0.0, ends: None, tight, picked, is_exact: false };
        };
        let rate = |var: solver::VarId| ahead.rates[var.index()];
        let boxes = self.compiled.unknowns.boxes.iter();
        let rates = boxes.map(|b| b.map(|b| [rate(b.left), rate(b.top), rate(b.width), rate(b.height)]));
        let rates = rates.collect();
        let mut reach = Lookahead { placement, rates, steps, ends: None, tight, picked, is_exact };
        if let Some((at, reason)) = ahead.until.filter(|(at, _)| *at < steps) {
            let rule = match reason {
                Reason::Rule(rule) => Some(self.compiled.origins[rule.index()].into()),
                Reason::Nonnegative(_) | Reason::Settle(_) | Reason::Unruled(_) => None,
            };
            (reach.steps, reach.ends) = (at, Some(SegmentEnd::Rule(rule)));
        }
        self.until_lines_break(settled, &ahead.rates, &mut reach);
        self.until_chosen_otherwise(settled, &ahead.rates, &direction, &mut reach);
        reach
    }

    /// The inequalities of the screen, and preferences met, that hold something where it is.
    fn tight(&self, settled: &mut TextFixpoint<'_>) -> BTreeSet<RuleRef> {
        let unequal: Vec<bool> = self
            .compiled
            .problem
            .rules()
            .map(|(_, relation, ..)| relation != solver::Relation::Equal)
            .collect();
        let formulas = settled.chooser.plan_mut().formulas();
        let held = formulas.iter().filter_map(|formula| match formula.by {
            Reason::Rule(rule) if unequal[rule.index()] => Some(self.compiled.origins[rule.index()]),
            _ => None,
        });
        held.filter(|origin| matches!(origin, Origin::Written { .. })).map(RuleRef::from).collect()
    }

    /// Ends where a text breaks its lines elsewhere: its width changes evenly, and how high its lines are is
    /// a step.
    fn until_lines_break(&self, settled: &TextFixpoint<'_>, rates: &[f64], reach: &mut Lookahead) {
        // Of texts that break at one place, the first one tells it.
        let mut unbroken = reach.steps;
        let texts = Texts::new(self.screen, &self.compiled.variant, self.canvas.display, self.measure);
        for (index, &view) in self.compiled.texts.iter().enumerate() {
            let Some(b) = self.compiled.unknowns.boxes[view.index()] else { continue };
            let (width, rate) = (settled.chooser.values()[b.width.index()], rates[b.width.index()]);
            if rate == 0.0 {
                continue;
            }
            let height = |steps: f64| {
                let size = texts.at(view, settled.unwrapped(index), width + rate * steps);
                size.map_or(0.0, |size| size.height)
            };
            let here = height(0.0);
            let changes = |steps: f64| (height(steps) - here).abs() > PLACED;
            if changes(unbroken) {
                (unbroken, reach.steps) = first(unbroken, changes);
                reach.ends = Some(SegmentEnd::Lines(view));
            }
            if work::is_spent() {
                reach.placement.hit_work_limit = true;
                return;
            }
        }
    }

    /// Ends where other lines, columns, shares or spare children would be chosen.
    fn until_chosen_otherwise(
        &self,
        settled: &TextFixpoint<'_>,
        rates: &[f64],
        direction: &[f64],
        reach: &mut Lookahead,
    ) {
        if self.compiled.probes.is_empty() {
            return;
        }
        let changes = |steps: f64| {
            let next =
                settled.chooser.arrange_ahead(&self.compiled.probes, self.choices, (rates, direction), steps);
            next != *self.choices
        };
        if changes(reach.steps) {
            (_, reach.steps) = first(reach.steps, changes);
            reach.ends = Some(SegmentEnd::Choice);
        }
    }
}

/// Where something begins that is there at the end, found by halving: the last place without it, and the first
/// with it.
fn first(end: f64, holds: impl Fn(f64) -> bool) -> (f64, f64) {
    let (mut before, mut after) = (0.0, end);
    for _ in 0..HALVINGS {
        let middle = f64::midpoint(before, after);
        if holds(middle) {
            after = middle;
        } else {
            before = middle;
        }
    }
    (before, after)
}
