//! Spare children counted again. They are counted where all of a view's are shown; what comes out afterwards
//! may change their sizes or the space for them, so that other numbers of them would fit.

use crate::model::id::ViewId;
use crate::plan::arrangement_choices::CrossLayout::Cells;
use crate::plan::arrangement_choices::{ChoiceInputs, Choices, Chosen, SpareFit};
use crate::tolerance::PLACED;
use std::collections::{BTreeMap, BTreeSet};

/// How often children are counted again in one placement, or one more is tried; once more for each view with
/// spare children.
const MAX_RECOUNTS: usize = 16;

/// What the counts were taken from, and what was counted again so far.
#[derive(Default)]
pub(crate) struct Counts {
    /// The numbers of each view when its children were counted.
    taken_from: BTreeMap<ViewId, ChoiceInputs<f64>>,
    recounts: usize,
    asked: Option<Asked>,
    /// Counted again with the same result, everything else being as it is.
    confirmed: BTreeSet<ViewId>,
    /// One more was tried, and did not fit.
    full: BTreeSet<ViewId>,
}

/// What is being looked into, and what was chosen before.
struct Asked {
    view: ViewId,
    before: Choices,
    /// Where one more is tried: the views that were too small for their children before. Otherwise all are
    /// shown and counted again.
    trial: Option<BTreeSet<ViewId>>,
}

/// What a count was taken from, what it would be taken from now, and how many are shown.
type Counted<'a> = (&'a ChoiceInputs<f64>, &'a ChoiceInputs<f64>, usize);

impl Counts {
    /// Notes what children that have just been counted were counted from.
    pub(crate) fn note(&mut self, numbers: &[ChoiceInputs<f64>], before: &Choices, after: &Choices) {
        let count = |choices: &Choices, view| choices.get(&view).and_then(|chosen| chosen.spares);
        let counted = numbers.iter().filter(|n| n.sparing.is_some());
        let now = counted.filter(|n| count(before, n.view).is_none() && count(after, n.view).is_some());
        self.taken_from.extend(now.map(|n| (n.view, n.clone())));
    }

    /// Nothing changes any more: what is chosen where a count has to be taken again, as long as that may be.
    pub(crate) fn recount(&mut self, numbers: &[ChoiceInputs<f64>], choices: &Choices) -> Option<Choices> {
        match self.asked.take() {
            Some(Asked { view, before, trial: Some(overfull) })
                if !self.overfull(numbers, choices).is_subset(&overfull) =>
            {
                self.full.insert(view);
                return Some(before);
            }
            Some(asked) => {
                if asked.before != *choices {
                    self.confirmed.clear();
                    self.full.clear();
                }
                self.confirmed.insert(asked.view);
            }
            None => {}
        }
        let asked = self
            .next_to_ask(numbers, choices)
            .filter(|_| self.recounts < MAX_RECOUNTS + self.taken_from.len());
        let (view, is_trial) = asked?;
        self.recounts += 1;
        let mut next = choices.clone();
        if is_trial {
            let spares = next.get_mut(&view).and_then(|chosen| chosen.spares.as_mut());
            spares.into_iter().for_each(|shown| *shown += 1);
        } else {
            next.remove(&view);
        }
        let trial = is_trial.then(|| self.overfull(numbers, choices));
        self.asked = Some(Asked { view, before: choices.clone(), trial });
        Some(next)
    }

    /// The views whose counts do not stand: what is shown does not fit, or more could be looked into than was.
    pub(crate) fn open(&self, numbers: &[ChoiceInputs<f64>], choices: &Choices) -> BTreeSet<ViewId> {
        let mut open = self.overfull(numbers, choices);
        open.retain(|view| choices.get(view).is_some_and(|chosen| chosen.spares > Some(0)));
        open.extend(self.next_to_ask(numbers, choices).map(|(view, _)| view));
        open
    }

    /// A view to be counted again, or of which one more has to be tried.
    fn next_to_ask(&self, numbers: &[ChoiceInputs<f64>], choices: &Choices) -> Option<(ViewId, bool)> {
        let all = || self.counted(numbers, choices).filter(|(_, now, _)| !self.confirmed.contains(&now.view));
        let moved = all().find(|counted| has_moved(*counted)).map(|(_, now, _)| (now.view, false));
        let roomy = || {
            let open = self.counted(numbers, choices).filter(|(_, now, _)| !self.full.contains(&now.view));
            open.into_iter().find(|counted| has_room(*counted)).map(|(_, now, _)| (now.view, true))
        };
        moved.or_else(roomy)
    }

    /// The views whose shown children do not fit into them.
    fn overfull(&self, numbers: &[ChoiceInputs<f64>], choices: &Choices) -> BTreeSet<ViewId> {
        let is_over = |(was, now, shown): &Counted<'_>| {
            let is_cut = choices.get(&now.view).is_some_and(|chosen| chosen.cut);
            let room = now.sparing.as_ref().map_or(0.0, |now| now.room);
            !is_cut && was.with_shown(now, *shown).reach(*shown) > room + PLACED
        };
        self.counted(numbers, choices).filter(is_over).map(|(_, now, _)| now.view).collect()
    }

    fn counted<'a>(
        &'a self,
        numbers: &'a [ChoiceInputs<f64>],
        choices: &'a Choices,
    ) -> impl Iterator<Item = Counted<'a>> {
        numbers
            .iter()
            .filter_map(|now| Some((self.taken_from.get(&now.view)?, now, choices.get(&now.view)?.spares?)))
    }
}

/// Whether some are left out or do not fit, and those that are shown have other sizes, or another space, than
/// when they were counted.
fn has_moved((was, now, shown): Counted<'_>) -> bool {
    let known = was.with_shown(now, shown);
    let (Some(before), Some(is)) = (&was.sparing, &known.sparing) else { return false };
    let differs = |(a, b): (&f64, &f64)| (a - b).abs() > PLACED;
    let moves = differs((&before.room, &is.room)) || std::iter::zip(&before.sizes, &is.sizes).any(differs);
    moves && (shown < before.count_of_spares() || known.reach(shown) > is.room + PLACED)
}

/// Whether one more would fit at the size that it had when all were shown.
fn has_room((was, now, shown): Counted<'_>) -> bool {
    let again = was.with_shown(now, shown).count(&Chosen::default());
    let is_cut = again.as_ref().is_some_and(|again| again.cut);
    !is_cut && again.and_then(|again| again.spares).is_some_and(|count| count > shown)
}

impl ChoiceInputs<f64> {
    /// How far children reach where so many of the spare ones are shown.
    fn reach(&self, shown: usize) -> f64 {
        self.sparing.as_ref().map_or(0.0, |sparing| sparing.extent(shown, self.wrapping.as_ref()).0)
    }

    /// The same with what is now known of the children that are shown, and of a space that is given.
    fn with_shown(&self, now: &Self, shown: usize) -> Self {
        let mut known = self.clone();
        let (Some(sparing), Some(shown_now)) = (&mut known.sparing, &now.sparing) else { return known };
        let mut spare = 0;
        let is_shown = |of: &bool| {
            spare += usize::from(*of);
            !*of || spare <= shown
        };
        let places: Vec<usize> =
            sparing.spare.iter().map(is_shown).enumerate().filter(|s| s.1).map(|s| s.0).collect();
        let put = |into: &mut [f64], from: &[f64]| {
            for (&at, &size) in std::iter::zip(&places, from) {
                if let Some(known) = into.get_mut(at) {
                    *known = size;
                }
            }
        };
        let SpareFit { sizes, room, stacked, .. } = sparing;
        put(sizes, &shown_now.sizes);
        let cells = (stacked.as_mut(), shown_now.stacked.as_ref());
        if let (Some(Cells { columns, row, .. }), Some(Cells { columns: columns_now, row: row_now, .. })) =
            cells
        {
            (*columns, *row) = (*columns_now, *row_now);
        }
        if sparing.is_given {
            *room = shown_now.room;
        }
        if let (Some(wrapping), Some(now)) = (&mut known.wrapping, &now.wrapping) {
            put(&mut wrapping.sizes, &now.sizes);
            wrapping.room = now.room;
        }
        known
    }
}
