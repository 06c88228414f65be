//! One assignment of arguments to each `max` and `min`, and a search through assignments.

use crate::geometry::axis::Axis;
use crate::model::id::ViewId;
use crate::plan::arrangement_choices::{ChoiceInputs, Choices, ChoosingLists, Chosen};
use crate::plan::compile::origins::MinMaxNode;
use crate::plan::compile::presolve::{Choice, value_of};
use crate::tolerance::{ARGUMENT, PLACED};
use vantic_solver as solver;
use vantic_solver::{Level, Linear, Outcome, RuleId};

/// How many choices are solved at most for one placement.
const MAX_CHOICES: usize = 400;

/// The level that a rule of the problem is solved on.
pub(crate) type Levels<'a> = dyn Fn(RuleId, Level) -> Level + 'a;

/// Every level moved down by one, so that the strongest is free.
pub(crate) fn moved_down(_: RuleId, level: Level) -> Level {
    Level::preference(level.index() as u32 + 1)
}

/// A search through the choices.
pub(crate) struct Search<'a> {
    /// Solves with what is chosen so far.
    pub(super) solve: &'a dyn Fn(&Choice) -> solver::Plan,
    /// Takes what was solved with that, once it was looked at.
    pub(super) keep: &'a dyn Fn(&Choice, solver::Plan),
    /// The picks of which an argument has to be chosen.
    pub(super) counts: &'a [bool],
    /// Whether the first choice that breaks nothing is as good as any.
    pub(super) stop_at_first_feasible: bool,
    pub(super) best: Option<Incumbent>,
    pub(super) left: usize,
}

impl<'a> Search<'a> {
    pub(crate) fn new(
        solve: &'a dyn Fn(&Choice) -> solver::Plan,
        counts: &'a [bool],
        stop_at_first_feasible: bool,
    ) -> Self {
        let keep = &|_: &Choice, _| {};
        Self { solve, keep, counts, stop_at_first_feasible, best: None, left: MAX_CHOICES }
    }

    /// The same, where what was solved is kept.
    pub(crate) fn keeping(self, keep: &'a dyn Fn(&Choice, solver::Plan)) -> Self {
        Self { keep, ..self }
    }
}

/// The best choice so far, and what came of it.
pub(crate) struct Incumbent {
    pub(crate) choice: Choice,
    pub(super) totals: Vec<f64>,
}

/// What is to be chosen of arrangements where expressions come out like that. It goes in steps: how many
/// columns there are; which shares of widths keep their most, which is never taken back, the outer first;
/// lines, for the widths that come of it; then shares of heights. As long as one step changes, those behind
/// it begin again. How many spare children are shown is counted once, when what decides the space for them
/// stands.
pub(crate) fn chosen(
    probes: &[ChoiceInputs<Linear>],
    numbers: &[ChoiceInputs<f64>],
    so_far: &Choices,
    next: &mut Choices,
    lists: &mut ChoosingLists,
) {
    let nothing = Chosen::default();
    let was = |view: ViewId| so_far.get(&view).unwrap_or(&nothing);
    for chosen in next.values_mut() {
        lists.take_back(chosen);
    }
    // Where none of the spare children is shown, nothing may be left to ask.
    for (&view, chosen) in so_far.iter().filter(|(_, chosen)| chosen.spares.is_some()) {
        put(next, view, Chosen { spares: chosen.spares, cut: chosen.cut, ..Chosen::default() });
    }
    numbers.iter().for_each(|p| put(next, p.view, p.choose(was(p.view), lists)));
    let differ = |next: &Choices, differs: &dyn Fn(Axis, &Chosen, &Chosen) -> bool| {
        probes.iter().any(|p| differs(p.axis, was(p.view), next.get(&p.view).unwrap_or(&nothing)))
    };
    let columns_change = differ(next, &|_, was, is| was.columns != is.columns);
    let widths_differ =
        columns_change || differ(next, &|axis, was, is| axis == Axis::Across && was.at_most != is.at_most);
    let widths_are_counted = !widths_differ && count_spares(numbers, so_far, next, Axis::Across, lists);
    let widths_change = widths_differ || widths_are_counted;
    let lines_change = widths_change || differ(next, &|_, was, is| was.lines != is.lines);
    let stands = !lines_change && !differ(next, &|_, was, is| was.at_most != is.at_most);
    let heights_are_counted = stands && count_spares(numbers, so_far, next, Axis::Down, lists);
    let mut outer = std::mem::take(&mut lists.outer);
    outer.clear();
    let at_most_changes =
        |p: &&ChoiceInputs<Linear>| next.get(&p.view).unwrap_or(&nothing).at_most != was(p.view).at_most;
    outer.extend(probes.iter().filter(at_most_changes).map(|p| (p.axis, p.view)));
    for probe in probes {
        let Some(chosen) = next.get_mut(&probe.view) else { continue };
        let is_further_in =
            outer.iter().any(|(axis, view)| *axis == probe.axis && probe.around.contains(view));
        let changes = match probe.axis {
            Axis::Across => columns_change || widths_are_counted,
            Axis::Down => lines_change || heights_are_counted,
        };
        if changes || is_further_in {
            lists.take_flags(&mut chosen.at_most);
        }
        if widths_change {
            lists.take_lines(&mut chosen.lines);
        }
    }
    lists.outer = outer;
    next.retain(|_, chosen| *chosen != nothing);
}

/// Puts what is chosen for a view; nothing chosen takes no place.
fn put(choices: &mut Choices, view: ViewId, chosen: Chosen) {
    match choices.get_mut(&view) {
        Some(place) => *place = chosen,
        None if chosen == Chosen::default() => {}
        None => drop(choices.insert(view, chosen)),
    }
}

/// Counts the spare children that take space along an axis: where the space is not given, those of one view
/// after another, so that earlier ones come first; then all others. Whether there were some.
fn count_spares(
    probes: &[ChoiceInputs<f64>],
    so_far: &Choices,
    next: &mut Choices,
    axis: Axis,
    lists: &mut ChoosingLists,
) -> bool {
    let nothing = Chosen::default();
    let was = |view: &ViewId| so_far.get(view).unwrap_or(&nothing);
    let all = || probes.iter().filter_map(|p| Some((p, p.to_be_counted(was(&p.view))?)));
    let open = || all().filter(|(_, (along, _))| *along == axis);
    let first = open().position(|(_, (_, is_given))| !is_given);
    let (at, most) = first.map_or((0, usize::MAX), |at| (at, 1));
    let mut are_some = false;
    for (probe, _) in open().skip(at).take(most) {
        are_some = true;
        let Some((shown, cut)) = probe.count(lists) else { continue };
        let Chosen { columns, ref at_most, .. } = *was(&probe.view);
        let at_most = at_most.as_deref().map(|flags| lists.flags_of(flags));
        if let Some(place) = next.get_mut(&probe.view) {
            lists.take_back(place);
        }
        put(next, probe.view, Chosen { columns, at_most, lines: None, spares: Some(shown), cut });
    }
    are_some
}

pub(crate) fn solve(plan: &mut solver::Plan, params: &[f64]) {
    if let Err(refused) = plan.solve(params) {
        // The display and the measures were checked; what is left cannot be refused.
        unreachable!("{refused}");
    }
}

pub(crate) fn is_broken(outcome: &Outcome, scale: f64) -> bool {
    outcome.level_totals.first().is_some_and(|&t| t > PLACED * scale)
}

/// The first argument that a `max` or `min` comes out equal to.
pub(crate) fn equal_argument(pick: &MinMaxNode, plan: &solver::Plan, params: &[f64]) -> Option<usize> {
    let values = plan.values();
    let value = values[pick.var.index()];
    let is_it = |arg: &Linear| (value_of(arg, values, params) - value).abs() <= ARGUMENT * plan.scale();
    pick.of.iter().position(is_it)
}

/// Whether totals are better, level by level.
pub(crate) fn is_better(a: &[f64], b: &[f64]) -> bool {
    let differs = |(a, b): &(&f64, &f64)| (*a - *b).abs() > ARGUMENT * (1.0 + a.abs().max(b.abs()));
    a.iter().zip(b).find(differs).is_some_and(|(a, b)| a < b)
}
