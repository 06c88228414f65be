//! What is chosen of arrangements, walked through from the same start on each display, and what was solved on the way.

use crate::geometry::frame::Frame;
use crate::model::id::ViewId;
use crate::model::screen::Screen;
use crate::model::scroll::{Scrolled, StickyOffset};
use crate::plan::arrangement_choices::{ChoiceInputs, Choices, ChoosingLists, put_all};
use crate::plan::canvas::Canvas;
use crate::plan::compile::compiled::Compiled;
use crate::plan::compile::planned::Planned;
use crate::plan::error::PlaceError;
use crate::plan::place::fixpoint::{MAX_ROUNDS, Scratch, TextFixpoint, boxes};
use crate::plan::place::placement::Placement;
use crate::plan::place::recount::Counts;
use crate::plan::place::scroll::stick;
use crate::plan::place::texts::Texts;
use crate::plan::solve::choice::chosen;
use crate::plan::solve::memory::{ChoiceMemory, Kept, MAX_RULES_KEPT};
use crate::text::measure::{Measure, TextSize};
use std::collections::BTreeMap;
use std::sync::Arc;
use vantic_solver::{Problem, work};

/// What it takes to compile a view with its rules, in units of work.
const COMPILED: usize = 200;

pub(crate) fn place(
    screen: &Screen,
    planned: &Planned,
    canvas: &Canvas<'_>,
    measure: &dyn Measure,
    warm: &mut WarmStart,
) -> Result<Placement, PlaceError> {
    solve_to_fixpoint(screen, planned, canvas, measure, warm, |settled, compiled| {
        let (outcome, stopped) = settled.chooser.outcome();
        settled.placement(screen, compiled, canvas, &outcome, stopped)
    })
}

/// What a display came to, in lists that are used again.
#[derive(Debug, Default)]
pub(crate) struct Shown {
    /// Per view, as are the texts.
    pub(crate) frames: Vec<Option<Frame>>,
    pub(crate) texts: Vec<Option<TextSize>>,
    pub(crate) scrolled: Vec<(ViewId, Scrolled)>,
    pub(crate) unsettled: Vec<ViewId>,
    pub(crate) stuck: BTreeMap<ViewId, Vec<StickyOffset>>,
    pub(crate) is_broken: bool,
    pub(crate) hit_work_limit: bool,
}

/// The frames with what a renderer asks for, into lists that are used again.
pub(crate) fn frames(
    screen: &Screen,
    planned: &Planned,
    canvas: &Canvas<'_>,
    measure: &dyn Measure,
    warm: &mut WarmStart,
    shown: &mut Shown,
) -> Result<(), PlaceError> {
    solve_to_fixpoint(screen, planned, canvas, measure, warm, |settled, compiled| {
        let Shown { frames, texts, scrolled, unsettled, .. } = shown;
        frames.clear();
        frames.extend(boxes(compiled, settled.chooser.values()));
        let direction = canvas.display.direction();
        shown.stuck = stick(screen, &compiled.variant, direction, frames).stuck;
        settled.texts(compiled, frames.len(), texts);
        scrolled.clear();
        scrolled.extend(compiled.scrollers.iter().copied().zip(settled.space.scrolled.iter().copied()));
        unsettled.clone_from(&settled.space.unsettled);
        (shown.is_broken, shown.hit_work_limit) = settled.chooser.trouble();
    })
}

/// What is kept of a variant from one display to the next.
#[derive(Debug, Default)]
pub(crate) struct WarmStart {
    /// What was solved, for what was chosen of its arrangements.
    plans: Vec<(Choices, Solved)>,
    /// What was solved of a screen like this one.
    alike: Option<Arc<Snapshot>>,
    /// Taken out while it is used.
    space: Option<Box<Scratch>>,
    walk: Walk,
}

/// What there is of a choice.
#[derive(Debug, Default)]
struct Solved {
    /// Taken out while it is used.
    kept: Option<Kept>,
    /// What is chosen by, a list that is used again.
    numbers: Vec<ChoiceInputs<f64>>,
}

/// The choices of a display, from the first to the one that stands, in lists that are used again.
#[derive(Debug, Default)]
struct Walk {
    /// Each with where it was found last among those of which something is solved.
    choices: Vec<(Choices, usize)>,
    counts: Counts,
    lists: ChoosingLists,
}

/// A display that was placed, for screens that differ a little to begin from.
#[derive(Debug)]
pub struct Snapshot {
    plans: BTreeMap<Choices, vantic_solver::Plan>,
    /// How tall each text came out, per view.
    heights: Vec<Option<f64>>,
}

impl WarmStart {
    /// What was solved, for screens that differ a little.
    pub(crate) fn into_solved(self) -> Snapshot {
        // Where something was chosen of a `max` or `min`, another screen may choose otherwise.
        let plans = self.plans.into_iter().filter_map(|(choices, solved)| {
            let Kept { plan, memory } = solved.kept?;
            Some((choices, *plan.filter(|_| !memory.has_chosen())?))
        });
        Snapshot {
            plans: plans.collect(),
            heights: self.space.map(|space| space.heights).unwrap_or_default(),
        }
    }

    /// To begin from what was solved of a screen like this one.
    pub(crate) fn from_alike(alike: Arc<Snapshot>) -> Self {
        let space = Box::new(Scratch::of_heights(alike.heights.clone()));
        Self { alike: Some(alike), space: Some(space), ..Self::default() }
    }

    /// Where what is solved of a choice is, and whether it was not met yet.
    fn find(&mut self, choices: &Choices, near: &mut usize) -> bool {
        if self.plans.get(*near).is_some_and(|(of, _)| of == choices) {
            return false;
        }
        let known = self.plans.iter().position(|(of, _)| of == choices);
        *near = known.unwrap_or(self.plans.len());
        if known.is_none() {
            self.plans.push((choices.clone(), Solved::default()));
        }
        known.is_none()
    }

    /// What is solved of a problem, or of one like it.
    fn begin(&mut self, at: usize, problem: &Problem) -> Option<Kept> {
        let (choices, solved) = &mut self.plans[at];
        if let Some(known) = solved.kept.take() {
            return Some(known);
        }
        let mut other = self.alike.as_ref()?.plans.get(choices)?.clone();
        other
            .reuse_for(problem)
            .then(|| Kept { plan: Some(Box::new(other)), memory: ChoiceMemory::default() })
    }

    /// Forgets what was solved, where many choices have been met.
    pub(crate) fn tidy(&mut self, most: usize) {
        if self.plans.len() > most {
            self.plans.clear();
        }
    }

    /// Nothing was solved for a choice that was met.
    fn pass(&mut self, at: usize, space: Box<Scratch>, numbers: Vec<ChoiceInputs<f64>>) {
        self.space = Some(space);
        self.plans[at].1.numbers = numbers;
    }

    fn keep(&mut self, at: usize, settled: TextFixpoint<'_>, numbers: Vec<ChoiceInputs<f64>>) {
        let rules = settled.chooser.compiled.problem.rule_count();
        let (kept, solved) = settled.chooser.into_parts();
        let mut space = settled.space;
        space.solved = solved;
        self.space = Some(space);
        // Arrangements have as much together as one of them may have.
        let others = || self.plans.iter().filter_map(|(_, solved)| solved.kept.as_ref());
        let all: usize = others().map(|kept| kept.memory.rules_kept(rules)).sum();
        if all + kept.memory.rules_kept(rules) > 2 * MAX_RULES_KEPT {
            let others = self.plans.iter_mut().filter_map(|(_, solved)| solved.kept.as_mut());
            others.for_each(|kept| kept.memory.forget_others());
        }
        self.plans[at].1 = Solved { kept: Some(kept), numbers };
    }
}

/// Settles a screen with what is chosen of its arrangements.
pub(crate) fn solve_to_fixpoint<T>(
    screen: &Screen,
    planned: &Planned,
    canvas: &Canvas<'_>,
    measure: &dyn Measure,
    warm: &mut WarmStart,
    run: impl FnOnce(&mut TextFixpoint<'_>, &Compiled) -> T,
) -> Result<T, PlaceError> {
    solve_to_fixpoint_with_choices(screen, planned, canvas, measure, warm, |settled, compiled, _| {
        run(settled, compiled)
    })
}

/// The same, given what was chosen: from the same start each time, until what comes out asks for nothing
/// else, [`MAX_ROUNDS`] rounds at most.
pub(crate) fn solve_to_fixpoint_with_choices<T>(
    screen: &Screen,
    planned: &Planned,
    canvas: &Canvas<'_>,
    measure: &dyn Measure,
    warm: &mut WarmStart,
    run: impl FnOnce(&mut TextFixpoint<'_>, &Compiled, &Choices) -> T,
) -> Result<T, PlaceError> {
    let mut walk = std::mem::take(&mut warm.walk);
    walk.counts.begin();
    let (mut step, mut round) = (0, 0);
    // What required rules decide is known before anything is solved, and is true only where they hold in the end.
    let mut may_tell = true;
    let mut space = warm.space.take().unwrap_or_default();
    space.begin_display();
    warm.space = Some(space);
    loop {
        let Walk { choices: met, counts, lists } = &mut walk;
        met.resize_with(met.len().max(step + 2), Default::default);
        let (so_far, ahead) = met.split_at_mut(step + 1);
        let ((choices, at), (next, _)) = (&mut so_far[step], &mut ahead[0]);
        // As much whether another thread has compiled it or not, so that the same calls take the same work.
        let is_new = warm.find(choices, at);
        let at = *at;
        work::spend(if is_new { COMPILED } else { 1 } * screen.views.len());
        let compiled = planned.compiled(screen, choices);
        let texts = Texts::new(screen, &compiled.variant, canvas.in_units(), measure);
        let mut space = warm.space.take().unwrap_or_default();
        let guessed = space.begin(&compiled, &texts)?;
        let begin = |warm: &mut WarmStart, space| {
            TextFixpoint::begin(&compiled, warm.begin(at, &compiled.problem), space, guessed)
        };
        let mut numbers = std::mem::take(&mut warm.plans[at].1.numbers);
        let solved = if may_tell && space.tell(&compiled, &mut numbers) {
            Err(space)
        } else {
            let mut settled = begin(warm, space);
            // What is chosen may stand before texts do.
            let is_early = compiled.probes_apart && settled.chooser.holds();
            if !is_early {
                settled.settle(&texts)?;
            }
            put_all(&mut numbers, &compiled.probes, &mut |expr| settled.chooser.value(expr));
            Ok((settled, is_early))
        };
        chosen(&compiled.probes, &numbers, choices, next, lists);
        counts.note(&numbers, choices, next);
        if next == choices
            && let Some(again) = counts.recount(&numbers, choices, lists)
        {
            (*next, round) = (again, 0);
        }
        // Views with spare children are counted one after another.
        let counted = compiled.probes.iter().filter(|p| p.sparing.is_some()).count();
        if next != choices && round < MAX_ROUNDS + counted && !work::is_short() {
            match solved {
                Ok((settled, _)) => warm.keep(at, settled, numbers),
                Err(space) => warm.pass(at, space, numbers),
            }
            (step, round) = (step + 1, round + 1);
            continue;
        }
        let was_told = solved.is_err();
        let (mut settled, is_early) = solved.unwrap_or_else(|space| (begin(warm, space), true));
        if was_told && !settled.chooser.holds() {
            warm.keep(at, settled, numbers);
            counts.begin();
            (step, round, may_tell) = (0, 0, false);
            continue;
        }
        if is_early {
            settled.settle(&texts)?;
        }
        let open = counts.open(&numbers, choices, lists);
        let moves = |view: &ViewId| next.get(view) != choices.get(view) || open.contains(view);
        settled.chooser.gave_up |= work::is_short() && next != choices;
        settled.space.unsettled.extend(compiled.probes.iter().map(|p| p.view).filter(moves));
        let result = run(&mut settled, &compiled, choices);
        warm.keep(at, settled, numbers);
        warm.walk = walk;
        return Ok(result);
    }
}
