//! Why a coordinate is what it is: the chain of rules that decides it, what adds up to it, what it follows,
//! and what keeps it from being otherwise.

use crate::model::coordinate::{Anchor, Coordinate};
use crate::model::expression::{Expr, MinMax, MinMaxKind};
use crate::model::id::{ValueId, ViewId};
use crate::model::rule_ref::RuleRef;
use crate::model::screen::Screen;
use crate::plan::compile::compiled::Compiled;
use crate::plan::compile::origins::Origin;
use crate::plan::place::fixpoint::TextFixpoint;
use crate::plan::place::placement::Missed;
use crate::plan::variables::ResolveContext;
use crate::tolerance::{COEFFICIENT, PLACED};
use crate::words::number::number;
use std::collections::{BTreeMap, BTreeSet};
use vantic_solver as solver;
use vantic_solver::{Linear, ParamId, Reason, Relation, VarId, work};

/// How many steps of a chain are reported.
const MAX_STEPS: usize = 500;

/// What holds a coordinate where it is.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum HeldBy {
    /// A rule, which holds exactly there.
    Rule(RuleRef),
    /// It cannot be below zero.
    Zero,
    /// No rule: it is as near to what is around it, or as small, as it can be.
    Settled,
}

/// One step of the chain that decides a coordinate.
#[derive(Clone, Debug, PartialEq)]
pub struct WhyStep {
    /// What the rule speaks of first; where no rule holds it, `Left`, `Top`, `Width` or `Height` of a view.
    pub of: (ViewId, Coordinate),
    /// Its value, in logical pixels.
    pub value: f64,
    /// What holds it there.
    pub by: HeldBy,
    /// What that says, with the numbers of this display: `bottom (748) = notice.top (756) - 8`.
    pub said: String,
}

/// A part of the sum that a coordinate is.
#[derive(Clone, Debug, PartialEq)]
pub enum WhyPart {
    /// The number in a rule.
    Rule(RuleRef),
    /// A measure of the display, in words.
    Display(&'static str),
    /// A measure of the words of a text.
    Words(ViewId, &'static str),
    /// A number that the application sets.
    Parameter(ValueId),
    /// What is left over: numbers that no rule holds.
    Rest,
}

/// What a change of one more does to a coordinate.
#[derive(Clone, Debug, PartialEq)]
pub struct WhyChange {
    /// What changes.
    pub of: WhyPart,
    /// For the number of a rule: what it is, as it is written.
    pub number: Option<f64>,
    /// By how much the coordinate moves for one more of it.
    pub moves: f64,
}

/// A rule that would decide the coordinate if it went further.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct WhyNext {
    /// The rule.
    pub rule: RuleRef,
    /// How much further the coordinate would have to go, in logical pixels: upwards above zero.
    pub away: f64,
}

/// Why a coordinate is what it is on one display.
#[derive(Clone, Debug, PartialEq)]
pub struct Why {
    /// The view.
    pub view: ViewId,
    /// The coordinate.
    pub coordinate: Coordinate,
    /// Its value, in logical pixels from the screen's top left corner.
    pub value: f64,
    /// The chain, what is nearest first.
    pub steps: Vec<WhyStep>,
    /// The numbers that it is the sum of: in all, the value.
    pub parts: Vec<(f64, WhyPart)>,
    /// What it follows, and how.
    pub changes: Vec<WhyChange>,
    /// The rules that would take over, the nearest first.
    pub next: Vec<WhyNext>,
    /// The preferences about it that gave way.
    pub missed: Vec<Missed>,
}

/// What is wished for, and does not come about.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Wish {
    /// A coordinate is to be larger.
    More(ViewId, Coordinate),
    /// A coordinate is to be smaller.
    Less(ViewId, Coordinate),
    /// A relation of a rule is to hold.
    Hold(RuleRef),
}

/// What keeps a wish from coming about on one display.
#[derive(Clone, Debug, PartialEq)]
pub struct WhyNot {
    /// The required rules that cannot hold together with it; with none, it could be had.
    pub against: Vec<RuleRef>,
    /// The sizes whose being at least zero takes part.
    pub nonnegatives: Vec<(ViewId, Coordinate)>,
    /// What would give way for it, and by how much more.
    pub costs: Vec<Missed>,
    /// By how much more or less the coordinate was wished to be, or by how much the rule is missed, in
    /// logical pixels.
    pub by: f64,
}

/// How much larger or smaller a coordinate is wished to be, in logical pixels.
const STEP: f64 = 1.0;

/// What is known where a screen is placed, for what is asked of it.
pub(crate) struct Asked<'a> {
    pub(crate) screen: &'a Screen,
    pub(crate) compiled: &'a Compiled,
}

/// How each unknown is worked out.
type Formulas = BTreeMap<VarId, solver::Formula>;

/// So many rules or unknowns that are looked through are a unit of work.
const LOOKED_THROUGH: usize = 16;

/// The rules that a sum comes from, by the rule of the problem.
type Attributed = BTreeMap<solver::RuleId, RuleRef>;

impl Asked<'_> {
    fn linear(&self, expr: &Expr, along: bool) -> Linear {
        let within = ResolveContext { screen: self.screen, variant: &self.compiled.variant };
        self.compiled.unknowns.linear(within, expr, along)
    }

    /// A coordinate as a sum; `None` where the view is not there.
    fn sum(&self, view: ViewId, coordinate: Coordinate) -> Option<Linear> {
        self.compiled.unknowns.boxes.get(view.index()).copied().flatten()?;
        Some(self.linear(&Expr::of(view.into(), coordinate), true))
    }

    fn meaning(&self, var: VarId) -> Option<(ViewId, Coordinate)> {
        self.compiled.meanings.get(var.index()).copied()
    }

    /// What a parameter is.
    fn known(&self, param: ParamId) -> WhyPart {
        let unknowns = &self.compiled.unknowns;
        let d = &unknowns.display;
        let of_display = [
            (d.width, "the width of the display"),
            (d.height, "the height of the display"),
            (d.left, "the left inset"),
            (d.top, "the top inset"),
            (d.right, "the right inset"),
            (d.bottom, "the bottom inset"),
            (d.pixel, "one pixel of the display"),
            (d.cover, "what covers the bottom"),
        ];
        if let Some((_, said)) = of_display.iter().find(|(of, _)| *of == param) {
            return WhyPart::Display(said);
        }
        for (view, text) in self.screen.views().map(|(view, _)| (view, unknowns.texts[view.index()])) {
            let Some(t) = text else { continue };
            let measures = [
                (t.width, "the width of its words"),
                (t.longest, "its longest word"),
                (t.height, "the height of its lines"),
                (t.ascent, "the height of its first line above the baseline"),
            ];
            if let Some((_, said)) = measures.iter().find(|(of, _)| *of == param) {
                return WhyPart::Words(view, said);
            }
        }
        if let Some(value) = unknowns.named.iter().position(|of| *of == Some(param)) {
            return WhyPart::Parameter(ValueId::new(value, self.screen.tag));
        }
        match unknowns.scrolls.iter().find(|(_, params)| params.contains(&param)) {
            Some((&view, _)) => WhyPart::Words(view, "how far it is scrolled"),
            None => WhyPart::Rest,
        }
    }

    /// What a rule says, with the numbers that it comes out with.
    fn said(&self, settled: &TextFixpoint<'_>, rule: RuleRef) -> String {
        if rule.written().is_none() {
            return self.screen.sentence(rule);
        }
        let Some(relation) = rule.relation(self.screen) else { return String::new() };
        let along = relation.is_along();
        let value_of = |of: &Expr| {
            let value = match of.picks() {
                [picked] => self.picked(settled, picked, along),
                _ => settled.chooser.value(&self.linear(of, along)),
            };
            Some(number(value))
        };
        let side = |expr: &Expr| self.screen.annotated_text(expr, rule.owner(self.screen), &value_of);
        format!("{} {} {}", side(&relation.left), relation.comparison.spelling(), side(&relation.right))
    }

    /// What a `max`, `min` or `clamp` comes out as.
    fn picked(&self, settled: &TextFixpoint<'_>, picked: &MinMax, along: bool) -> f64 {
        let value = |expr: &Expr| {
            let inner: f64 =
                expr.picks().iter().map(|p| p.coefficient * self.picked(settled, p, along)).sum();
            settled.chooser.value(&self.linear(expr, along)) + inner
        };
        let of: Vec<f64> = picked.of.iter().map(value).collect();
        match (picked.pick, of.as_slice()) {
            (MinMaxKind::Clamp, [value, least, most]) => value.min(*most).max(*least),
            (MinMaxKind::Min, all) => all.iter().copied().fold(f64::INFINITY, f64::min),
            (_, all) => all.iter().copied().fold(f64::NEG_INFINITY, f64::max),
        }
    }

    fn held_by(&self, rules: &Attributed, reason: Reason) -> HeldBy {
        match reason {
            Reason::Rule(rule) => HeldBy::Rule(self.rule_of(rules, rule)),
            Reason::Nonnegative(_) => HeldBy::Zero,
            Reason::Settle(_) | Reason::Unruled(_) => HeldBy::Settled,
        }
    }

    fn rule_of(&self, rules: &Attributed, rule: solver::RuleId) -> RuleRef {
        rules.get(&rule).copied().unwrap_or_else(|| self.compiled.origins[rule.index()].into())
    }

    /// The rules that a sum comes from. A `max` or `min` that stands in several rules is worked out once; it
    /// belongs to the one that reads it here.
    fn attributed(&self, formulas: &Formulas, target: &Linear) -> Attributed {
        let mut waiting: Vec<(VarId, Option<RuleRef>)> = target.terms().iter().map(|t| (t.0, None)).collect();
        let (mut rules, mut seen) = (Attributed::new(), BTreeSet::new());
        while let Some((var, reader)) = waiting.pop() {
            let Some(formula) = formulas.get(&var).filter(|_| seen.insert(var)) else { continue };
            let by = match formula.by {
                Reason::Rule(rule) => {
                    let of = match (self.compiled.origins[rule.index()], reader) {
                        (Origin::MinMax(_), Some(reader)) => reader,
                        (origin, _) => origin.into(),
                    };
                    rules.insert(rule, of);
                    Some(of)
                }
                _ => None,
            };
            waiting.extend(formula.terms.iter().filter_map(|(input, _)| match input {
                solver::Input::Variable(read) => Some((*read, by)),
                solver::Input::Parameter(_) => None,
            }));
        }
        rules
    }

    /// Why some coordinates are what they are; those of views that are not there are left out, and those for which there
    /// is no work left.
    pub(crate) fn whys(&self, settled: &mut TextFixpoint<'_>, about: &[(ViewId, Coordinate)]) -> Vec<Why> {
        let formulas: Formulas =
            settled.chooser.plan_mut().formulas().into_iter().map(|f| (f.var, f)).collect();
        let rules = self.compiled.problem.rule_count();
        let worked_out = about.iter().take_while(|_| {
            work::spend(formulas.len() / LOOKED_THROUGH + rules / LOOKED_THROUGH);
            !work::is_spent()
        });
        worked_out.filter_map(|&(view, coordinate)| self.why(settled, &formulas, view, coordinate)).collect()
    }

    fn why(
        &self,
        settled: &mut TextFixpoint<'_>,
        formulas: &Formulas,
        view: ViewId,
        coordinate: Coordinate,
    ) -> Option<Why> {
        let target = self.sum(view, coordinate)?;
        let value = settled.chooser.value(&target);
        let (rates, params) = self.rates(settled, &target);
        let rules = self.attributed(formulas, &target);
        let steps = self.steps(settled, &rules, formulas, view, &target, &rates);
        let parts = self.parts(settled, &rules, &target, value, &rates, &params);
        let changes = self.changes(&rules, &rates, &params);
        let (next, missed) = self.waiting(settled, &target);
        Some(Why { view, coordinate, value, steps, parts, changes, next, missed })
    }

    /// The change of a sum per unit of each rule's constant, and of each parameter.
    fn rates(
        &self,
        settled: &mut TextFixpoint<'_>,
        target: &Linear,
    ) -> (BTreeMap<Reason, f64>, BTreeMap<ParamId, f64>) {
        let (mut rates, mut params) = (BTreeMap::new(), BTreeMap::new());
        for &(var, c) in target.terms() {
            let Ok(explained) = settled.chooser.plan_mut().explain(var) else { continue };
            for (reason, rate) in explained.reasons {
                *rates.entry(reason).or_insert(0.0) += c * rate;
            }
            for (param, rate) in explained.params {
                *params.entry(param).or_insert(0.0) += c * rate;
            }
        }
        for &(param, c) in target.affine().terms() {
            *params.entry(param).or_insert(0.0) += c;
        }
        let counts = |rate: &f64| rate.abs() > COEFFICIENT;
        rates.retain(|_, rate| counts(rate));
        params.retain(|_, rate| counts(rate));
        (rates, params)
    }

    fn steps(
        &self,
        settled: &TextFixpoint<'_>,
        rules: &Attributed,
        formulas: &Formulas,
        view: ViewId,
        target: &Linear,
        rates: &BTreeMap<Reason, f64>,
    ) -> Vec<WhyStep> {
        let mut waiting: Vec<VarId> = target.terms().iter().rev().map(|t| t.0).collect();
        let (mut seen, mut listed) = (BTreeSet::new(), BTreeSet::new());
        let mut steps = Vec::new();
        while let Some(var) = waiting.pop() {
            let Some(formula) = formulas.get(&var).filter(|_| seen.insert(var)) else { continue };
            let read = formula.terms.iter().rev().filter_map(|(input, _)| match input {
                solver::Input::Variable(read) => Some(*read),
                solver::Input::Parameter(_) => None,
            });
            waiting.extend(read);
            if steps.len() < MAX_STEPS && listed.insert(formula.by) {
                steps.extend(self.step(settled, rules, Some(var), formula.by));
            }
        }
        // Rules that hold several coordinates only together.
        for &reason in rates.keys().filter(|reason| matches!(reason, Reason::Rule(_))) {
            if steps.len() < MAX_STEPS && listed.insert(reason) {
                steps.extend(self.step(settled, rules, None, reason));
            }
        }
        // A rule with a `max` in it is several of the problem.
        let mut once: Vec<WhyStep> = Vec::with_capacity(steps.len());
        for step in steps {
            if !once.contains(&step) {
                once.push(step);
            }
        }
        once.sort_by_key(|step| step.of.0 != view);
        once
    }

    /// One step: what a rule speaks of first, or a variable that no rule of the screen holds.
    fn step(
        &self,
        settled: &TextFixpoint<'_>,
        rules: &Attributed,
        var: Option<VarId>,
        reason: Reason,
    ) -> Option<WhyStep> {
        let by = self.held_by(rules, reason);
        // What a built-in rule speaks of is the first of its own variables.
        let spoken_of = || {
            let Reason::Rule(rule) = reason else { return None };
            let (expr, ..) = self.compiled.problem.rules().nth(rule.index())?;
            let vars = || expr.terms().iter().map(|t| t.0).filter(|var| self.meaning(*var).is_some());
            let placed = match by {
                HeldBy::Rule(RuleRef::Arranged { child, .. }) => {
                    vars().find(|var| self.meaning(*var).is_some_and(|(view, _)| view == child))
                }
                _ => None,
            };
            placed.or_else(|| vars().next())
        };
        let var = spoken_of().or(var);
        let own = var.and_then(|var| Some((self.meaning(var)?, settled.chooser.values()[var.index()])));
        let written = match by {
            HeldBy::Rule(rule) => rule.relation(self.screen),
            _ => None,
        };
        let first = written.and_then(|relation| {
            let term = relation.left.terms().first()?;
            let Anchor::View(view) = term.anchor else { return None };
            let value = self.linear(&Expr::of(term.anchor, term.coordinate), relation.is_along());
            Some(((view, term.coordinate), settled.chooser.value(&value)))
        });
        let (of, value) = first.or(own)?;
        let said = match by {
            HeldBy::Rule(rule) => self.said(settled, rule),
            HeldBy::Zero => "it cannot be below zero".to_owned(),
            HeldBy::Settled if of.1.is_position() => {
                "no rule decides it: it is as near to its parent as it can be".to_owned()
            }
            HeldBy::Settled => "no rule decides it: it is as small as it can be".to_owned(),
        };
        Some(WhyStep { of, value: value + 0.0, by, said })
    }

    fn parts(
        &self,
        settled: &TextFixpoint<'_>,
        attributed: &Attributed,
        target: &Linear,
        value: f64,
        rates: &BTreeMap<Reason, f64>,
        params: &BTreeMap<ParamId, f64>,
    ) -> Vec<(f64, WhyPart)> {
        let mut parts: Vec<(f64, WhyPart)> = Vec::new();
        let rules: Vec<&Linear> = self.compiled.problem.rules().map(|(expr, ..)| expr).collect();
        for (&param, rate) in params {
            parts.push((rate * settled.chooser.params[param.index()], self.known(param)));
        }
        for (&reason, rate) in rates {
            let Reason::Rule(rule) = reason else { continue };
            let amount = rate * rules[rule.index()].number();
            parts.push((amount, WhyPart::Rule(self.rule_of(attributed, rule))));
        }
        parts.push((target.number(), WhyPart::Rest));
        let rest = value - parts.iter().map(|(amount, _)| amount).sum::<f64>();
        parts.push((rest, WhyPart::Rest));
        parts.retain(|(amount, _)| amount.abs() > PLACED);
        parts
    }

    fn changes(
        &self,
        rules: &Attributed,
        rates: &BTreeMap<Reason, f64>,
        params: &BTreeMap<ParamId, f64>,
    ) -> Vec<WhyChange> {
        let mut changes = Vec::new();
        for (&param, &moves) in params {
            changes.push(WhyChange { of: self.known(param), number: None, moves });
        }
        for (&reason, rate) in rates {
            let Reason::Rule(rule) = reason else { continue };
            let of = self.rule_of(rules, rule);
            let Some(relation) = of.relation(self.screen) else { continue };
            let value = |values: &[(f64, ValueId)]| -> f64 {
                let plain = values.iter().filter(|(_, v)| self.compiled.unknowns.named[v.index()].is_none());
                plain.map(|&(c, v)| c * self.compiled.variant.value(v)).sum()
            };
            let difference = relation.left.clone() - relation.right.clone();
            let number = -(difference.constant() + value(difference.values()));
            // One more of the number as it is written: larger, whichever its sign.
            let sign = if number < 0.0 { -1.0 } else { 1.0 };
            if number != 0.0 {
                let number = Some(number.abs());
                changes.push(WhyChange { of: WhyPart::Rule(of), number, moves: -rate * sign });
            }
        }
        changes
    }

    /// The rules that would take over if the sum went further, and preferences about it that gave way.
    fn waiting(&self, settled: &TextFixpoint<'_>, target: &Linear) -> (Vec<WhyNext>, Vec<Missed>) {
        let (mut next, mut missed): (Vec<WhyNext>, Vec<Missed>) = (Vec::new(), Vec::new());
        let vars: BTreeSet<VarId> = target.terms().iter().map(|t| t.0).collect();
        for ((expr, relation, level, _), &origin) in
            std::iter::zip(self.compiled.problem.rules(), &self.compiled.origins)
        {
            let own: f64 = expr.terms().iter().filter(|t| vars.contains(&t.0)).map(|t| t.1).sum();
            if own.abs() <= PLACED || origin.is_aim() {
                continue;
            }
            let (rule, value) = (RuleRef::from(origin), settled.chooser.value(expr));
            let by = relation.violation(value);
            if by > settled.chooser.tolerance() {
                if level != solver::Level::REQUIRED {
                    missed.push(Missed { rule, by });
                }
                continue;
            }
            // Further up along the sum takes the rule's expression towards its limit, or away from it.
            let away = match relation {
                Relation::Equal => continue,
                Relation::AtMost | Relation::AtLeast => -value / own,
            };
            if away.abs() > PLACED && matches!(rule, RuleRef::Written { .. }) {
                next.push(WhyNext { rule, away });
            }
        }
        next.sort_by(|a, b| a.away.abs().total_cmp(&b.away.abs()));
        (next, missed)
    }

    pub(crate) fn why_not(&self, settled: &TextFixpoint<'_>, wish: Wish) -> Option<WhyNot> {
        let before = settled.chooser.outcome().0;
        let mut plan = settled.chooser.solver_plan();
        let (wished, by) = match wish {
            Wish::More(view, coordinate) | Wish::Less(view, coordinate) => {
                let target = self.sum(view, coordinate)?;
                let value = settled.chooser.value(&target);
                let (goal, relation) = match wish {
                    Wish::Less(..) => (value - STEP, Relation::AtMost),
                    _ => (value + STEP, Relation::AtLeast),
                };
                let added = plan.add_rule(target.plus(-goal), relation, solver::Level::REQUIRED, 1.0);
                (added.ok()?, STEP)
            }
            Wish::Hold(rule) => {
                let origin = |at: &usize| RuleRef::from(self.compiled.origins[*at]) == rule;
                let at = (0..self.compiled.origins.len()).find(origin)?;
                let id = self.compiled.rules[at];
                plan.set_level(id, solver::Level::REQUIRED, 1.0).ok()?;
                (id, before.violations[at])
            }
        };
        plan.solve(&settled.chooser.params).ok()?;
        let after = plan.outcome();
        let conflicts = plan.diagnose().conflicts;
        let conflict = conflicts.into_iter().find(|c| c.rules.contains(&wished));
        let rule = |id: &solver::RuleId| self.compiled.origins.get(id.index()).map(|&o| RuleRef::from(o));
        let mut against: Vec<RuleRef> = Vec::new();
        let mut nonnegatives = Vec::new();
        if let Some(conflict) = conflict {
            against.extend(conflict.rules.iter().filter(|id| **id != wished).filter_map(rule));
            against.dedup();
            nonnegatives.extend(conflict.nonnegatives.iter().filter_map(|&var| self.meaning(var)));
        }
        let mut costs = Vec::new();
        for (at, (was, is)) in std::iter::zip(&before.violations, &after.violations).enumerate() {
            let origin = self.compiled.origins[at];
            let counts = !origin.is_aim() && self.compiled.rules[at] != wished;
            if counts && is - was > PLACED {
                costs.push(Missed { rule: origin.into(), by: is - was });
            }
        }
        Some(WhyNot { against, nonnegatives, costs, by })
    }
}
