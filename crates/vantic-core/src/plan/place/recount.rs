//! Spare children counted again. They are counted where all of a view's are shown; what comes out afterwards
//! may change their sizes or the space for them, so that other numbers of them would fit.

use crate::model::id::ViewId;
use crate::plan::arrangement_choices::CrossLayout::Cells;
use crate::plan::arrangement_choices::{ChoiceInputs, Choices, ChoosingLists, SpareFit, put_all};
use crate::tolerance::PLACED;
use std::collections::{BTreeMap, BTreeSet};

/// How often children are counted again in one placement, or one more is tried; once more for each view with
/// spare children.
const MAX_RECOUNTS: usize = 16;

/// What the counts were taken from, and what was counted again so far. Its lists are used again on the next display.
#[derive(Debug, Default)]
pub(crate) struct Counts {
    /// The numbers of each view when its children were counted, if they were on this display.
    taken_from: BTreeMap<ViewId, Taken>,
    recounts: usize,
    asked: Option<Asked>,
    /// Counted again with the same result, everything else being as it is.
    confirmed: BTreeSet<ViewId>,
    /// One more was tried, and did not fit.
    full: BTreeSet<ViewId>,
    /// What the counts come to where all is as it came out, once that was looked at.
    looked_at: Vec<Count>,
    has_looked: bool,
    /// What is known of a view whose children were counted, a list that is used again.
    known: Vec<ChoiceInputs<f64>>,
}

#[derive(Debug)]
struct Taken {
    from: ChoiceInputs<f64>,
    is_here: bool,
}

/// What is being looked into, and what was chosen before.
#[derive(Debug)]
struct Asked {
    view: ViewId,
    before: Choices,
    /// Where one more is tried: the views that were too small for their children before. Otherwise all are
    /// shown and counted again.
    trial: Option<BTreeSet<ViewId>>,
}

/// How a count stands.
#[derive(Debug)]
struct Count {
    view: ViewId,
    /// How many are shown.
    shown: usize,
    /// Whether some are left out or do not fit, and those that are shown have other sizes, or another space, than
    /// when they were counted.
    has_moved: bool,
    /// Whether those that are shown do not fit.
    is_over: bool,
    /// Whether one more would fit at the size that it had when all were shown, once that was asked.
    has_room: Option<bool>,
}

impl Counts {
    /// Forgets the last display.
    pub(crate) fn begin(&mut self) {
        self.taken_from.values_mut().for_each(|taken| taken.is_here = false);
        (self.recounts, self.asked) = (0, None);
        self.confirmed.clear();
        self.full.clear();
    }

    /// Notes what children that have just been counted were counted from.
    pub(crate) fn note(&mut self, numbers: &[ChoiceInputs<f64>], before: &Choices, after: &Choices) {
        self.has_looked = false;
        let count = |choices: &Choices, view| choices.get(&view).and_then(|chosen| chosen.spares);
        let counted = numbers.iter().filter(|n| n.sparing.is_some());
        let now = counted.filter(|n| count(before, n.view).is_none() && count(after, n.view).is_some());
        for numbers in now {
            let new = || Taken { from: numbers.clone(), is_here: true };
            let taken = self.taken_from.entry(numbers.view).or_insert_with(new);
            taken.is_here = true;
            taken.from.put(numbers, &mut |number| *number);
        }
    }

    /// Nothing changes any more: what is chosen where a count has to be taken again, as long as that may be.
    pub(crate) fn recount(
        &mut self,
        numbers: &[ChoiceInputs<f64>],
        choices: &Choices,
        lists: &mut ChoosingLists,
    ) -> Option<Choices> {
        self.look(numbers, choices);
        match self.asked.take() {
            Some(Asked { view, before, trial: Some(overfull) }) if !self.overfull().is_subset(&overfull) => {
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
        let taken = self.taken_from.values().filter(|taken| taken.is_here).count();
        let asked = self.next_to_ask(numbers, lists).filter(|_| self.recounts < MAX_RECOUNTS + taken);
        let (view, is_trial) = asked?;
        self.recounts += 1;
        let mut next = choices.clone();
        if is_trial {
            let spares = next.get_mut(&view).and_then(|chosen| chosen.spares.as_mut());
            spares.into_iter().for_each(|shown| *shown += 1);
        } else {
            next.remove(&view);
        }
        let trial = is_trial.then(|| self.overfull());
        self.asked = Some(Asked { view, before: choices.clone(), trial });
        Some(next)
    }

    /// The views whose counts do not stand: what is shown does not fit, or more could be looked into than was.
    pub(crate) fn open(
        &mut self,
        numbers: &[ChoiceInputs<f64>],
        choices: &Choices,
        lists: &mut ChoosingLists,
    ) -> BTreeSet<ViewId> {
        self.look(numbers, choices);
        let mut open = self.overfull();
        open.retain(|view| choices.get(view).is_some_and(|chosen| chosen.spares > Some(0)));
        open.extend(self.next_to_ask(numbers, lists).map(|(view, _)| view));
        open
    }

    /// Looks at the counts with what is chosen now.
    fn look(&mut self, numbers: &[ChoiceInputs<f64>], choices: &Choices) {
        if std::mem::replace(&mut self.has_looked, true) {
            return;
        }
        self.looked_at.clear();
        for now in numbers {
            let chosen = choices.get(&now.view);
            let Some((shown, is_cut)) = chosen.and_then(|chosen| Some((chosen.spares?, chosen.cut))) else {
                continue;
            };
            let Some(was) = self.taken_from.get(&now.view).filter(|taken| taken.is_here) else { continue };
            let known = known_of(&mut self.known, &was.from, now, shown);
            let reach = known.reach(shown);
            let room = now.sparing.as_ref().map_or(0.0, |now| now.room);
            let is_over = !is_cut && reach > room + PLACED;
            let has_moved = match (&was.from.sparing, &known.sparing) {
                (Some(before), Some(is)) => {
                    let differs = |(a, b): (&f64, &f64)| (a - b).abs() > PLACED;
                    let moves = differs((&before.room, &is.room))
                        || std::iter::zip(&before.sizes, &is.sizes).any(differs);
                    moves && (shown < before.count_of_spares() || reach > is.room + PLACED)
                }
                _ => false,
            };
            self.looked_at.push(Count { view: now.view, shown, has_moved, is_over, has_room: None });
        }
    }

    /// A view to be counted again, or of which one more has to be tried.
    fn next_to_ask(
        &mut self,
        numbers: &[ChoiceInputs<f64>],
        lists: &mut ChoosingLists,
    ) -> Option<(ViewId, bool)> {
        let Self { taken_from, confirmed, full, looked_at, known, .. } = self;
        let moved = looked_at.iter().find(|count| count.has_moved && !confirmed.contains(&count.view));
        if let Some(moved) = moved {
            return Some((moved.view, false));
        }
        let mut has_room = |count: &mut Count| {
            let mut looked = || {
                let was = &taken_from.get(&count.view)?.from;
                let now = numbers.iter().find(|now| now.view == count.view)?;
                let (shown, is_cut) = known_of(known, was, now, count.shown).count(lists)?;
                Some(!is_cut && shown > count.shown)
            };
            *count.has_room.get_or_insert_with(|| looked().unwrap_or(false))
        };
        let mut open = looked_at.iter_mut().filter(|count| !full.contains(&count.view));
        let roomy = open.find_map(|count| has_room(count).then_some(count.view));
        roomy.map(|view| (view, true))
    }

    /// The views whose shown children do not fit into them.
    fn overfull(&self) -> BTreeSet<ViewId> {
        self.looked_at.iter().filter(|count| count.is_over).map(|count| count.view).collect()
    }
}

/// What is known of a view of which so many spare children are shown: what was when they were counted, and what is now.
fn known_of<'a>(
    list: &'a mut Vec<ChoiceInputs<f64>>,
    was: &ChoiceInputs<f64>,
    now: &ChoiceInputs<f64>,
    shown: usize,
) -> &'a mut ChoiceInputs<f64> {
    put_all(list, std::slice::from_ref(was), &mut |number| *number);
    let known = &mut list[0];
    known.put_shown(now, shown);
    known
}

impl ChoiceInputs<f64> {
    /// How far children reach where so many of the spare ones are shown.
    fn reach(&self, shown: usize) -> f64 {
        self.sparing.as_ref().map_or(0.0, |sparing| sparing.extent(shown, self.wrapping.as_ref()).0)
    }

    /// Puts what is now known of the children that are shown, and of a space that is given.
    fn put_shown(&mut self, now: &Self, shown: usize) {
        let (Some(sparing), Some(shown_now)) = (&mut self.sparing, &now.sparing) else { return };
        let SpareFit { sizes, room, stacked, spare, is_given, .. } = sparing;
        let put = |into: &mut [f64], from: &[f64]| {
            let mut spares = 0;
            let is_shown = |(at, of): (usize, &bool)| {
                spares += usize::from(*of);
                (!*of || spares <= shown).then_some(at)
            };
            let places = spare.iter().enumerate().filter_map(is_shown);
            for (at, &size) in std::iter::zip(places, from) {
                if let Some(known) = into.get_mut(at) {
                    *known = size;
                }
            }
        };
        put(sizes, &shown_now.sizes);
        let cells = (stacked.as_mut(), shown_now.stacked.as_ref());
        if let (Some(Cells { columns, row, .. }), Some(Cells { columns: columns_now, row: row_now, .. })) =
            cells
        {
            (*columns, *row) = (*columns_now, *row_now);
        }
        if *is_given {
            *room = shown_now.room;
        }
        if let (Some(wrapping), Some(now)) = (&mut self.wrapping, &now.wrapping) {
            put(&mut wrapping.sizes, &now.sizes);
            wrapping.room = now.room;
        }
    }
}
