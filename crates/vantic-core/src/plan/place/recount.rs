//! Spare children counted again. They are counted where all of a view's are shown; what comes out afterwards
//! may change their sizes or the space for them, so that other numbers of them would fit.

use crate::model::id::ViewId;
use crate::plan::arrangement_choices::CrossLayout::Cells;
use crate::plan::arrangement_choices::{ChoiceInputs, Choices, Chosen, SpareFit};
use std::collections::{BTreeMap, BTreeSet};

/// How often children are counted again in one placement.
const MAX_RECOUNTS: usize = 16;

/// What the counts were taken from, and what was counted again so far.
#[derive(Default)]
pub(crate) struct Counts {
    /// The numbers of each view when its children were counted.
    taken_from: BTreeMap<ViewId, ChoiceInputs<f64>>,
    recounts: usize,
    /// What was being counted again, and what was chosen before.
    asked: Option<(ViewId, Choices)>,
    /// Counted again with the same result, everything else being as it is.
    confirmed: BTreeSet<ViewId>,
}

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
        if let Some((view, before)) = self.asked.take() {
            match before == *choices {
                true => _ = self.confirmed.insert(view),
                false => self.confirmed.clear(),
            }
        }
        if self.recounts == MAX_RECOUNTS {
            return None;
        }
        let view = self.doubted(numbers, choices).find(|view| !self.confirmed.contains(view))?;
        self.recounts += 1;
        self.asked = Some((view, choices.clone()));
        let mut next = choices.clone();
        next.remove(&view);
        Some(next)
    }

    /// The views of which other numbers of children would fit.
    pub(crate) fn doubted<'a>(
        &'a self,
        numbers: &'a [ChoiceInputs<f64>],
        choices: &'a Choices,
    ) -> impl Iterator<Item = ViewId> + 'a {
        numbers.iter().filter_map(|now| {
            let (was, chosen) = (self.taken_from.get(&now.view)?, choices.get(&now.view)?);
            let again = was.with_shown(now, chosen.spares?).count(&Chosen::default())?;
            ((again.spares, again.cut) != (chosen.spares, chosen.cut)).then_some(now.view)
        })
    }
}

impl ChoiceInputs<f64> {
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
