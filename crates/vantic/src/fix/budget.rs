//! How much work a search for fixes may take, in the units of [`vantic_core::work`]: counted, not timed, so that the same
//! calls give the same answer.

use crate::fix::context::FixContext;
use crate::fix::trial::some_of;
use crate::sweep::effort::work_for;

/// What it takes to place a view with all that hangs on it.
const VIEW: f64 = 120.0;

/// What the fixed parts of a check are worth, in views placed, so that small screens get some search too.
const FLOOR: f64 = 1800.0;

/// How much work all fixes of one report may take as a multiple of the check, and at most.
const TIMES_THE_CHECK: f64 = 2.0;
const MOST: f64 = 40e6;

/// What the first display of a check takes more than the others, in placements of the screen.
const FIRST: f64 = 10.0;

/// What it takes to read a changed file and to try it on one display, in placements of the screen.
const TRIAL: f64 = 2.0;

/// What it takes to check a change on one of all displays, in placements of the screen.
const CHECKED: f64 = 1.1;

/// What it takes to try a change on displays that are not checked.
const ELSEWHERE: f64 = 3.0;

/// What it takes to find the rules behind a finding.
const SUSPECTS: f64 = 5.0;

/// What it takes to find the width from which on something goes wrong.
const BORDER: f64 = 40.0;

/// A finding is begun with where there is enough to try so many changes.
const LEAST_TRIED: usize = 3;

/// How many findings share what is left at least.
const SHARED_BY: usize = 4;

/// The work that is left.
pub(crate) struct Budget {
    left: f64,
    /// What placing the screen once is worth.
    once: f64,
    displays: f64,
    /// What the finding that is looked at may still take.
    share: f64,
}

impl Budget {
    pub(crate) fn of(source: &FixContext<'_>) -> Self {
        let views = source.screen().views().count().max(1) as f64;
        let checked = source.report.work as f64 / source.displays.len().max(1) as f64;
        // Contradictions take more than frames.
        let once = (views * VIEW).max(checked);
        let displays = source.displays.len() as f64;
        let usual = (TIMES_THE_CHECK * once * (displays + FIRST + FLOOR / views)).min(MOST);
        let left = work_for(usual as u64, source.fixes.how.effort) as f64;
        Self { left, once, displays: displays + some_of(&source.displays).len() as f64, share: left }
    }

    fn all(&self) -> f64 {
        (CHECKED * self.displays + ELSEWHERE) * self.once
    }

    /// Begins with a finding, of so many that are left; whether there is enough for it.
    pub(crate) fn begin(&mut self, findings: usize, at_once: usize) -> bool {
        let tried = |count: usize| (count as f64 * TRIAL + SUSPECTS) * self.once;
        let beside = (self.left - self.all()).max(0.0);
        self.share = (beside / findings.clamp(1, SHARED_BY) as f64).max(tried(at_once).min(beside));
        let is_enough = beside >= tried(LEAST_TRIED);
        self.take(SUSPECTS * self.once);
        is_enough
    }

    fn take(&mut self, work: f64) {
        self.left -= work;
        self.share -= work;
    }

    /// How many of these changes can be tried on one display.
    pub(crate) fn trials(&mut self, wanted: usize) -> usize {
        let count = wanted.min((self.share / (TRIAL * self.once)).max(0.0) as usize);
        self.take(count as f64 * TRIAL * self.once);
        count
    }

    /// So many were tried on one display, with so much work: what goes beyond the usual is taken as well.
    pub(crate) fn tried(&mut self, count: usize, work: u64) {
        self.take((work as f64 - count as f64 * TRIAL * self.once).max(0.0));
    }

    /// How many of these changes can be tried on all displays; one at least where none has been.
    pub(crate) fn on_all(&mut self, wanted: usize, is_first: bool) -> usize {
        let count = wanted.min((self.share / self.all()).max(0.0) as usize);
        let count = if is_first { count.max(wanted.min(1)) } else { count };
        self.left -= count as f64 * self.all();
        self.share -= count.saturating_sub(usize::from(is_first)) as f64 * self.all();
        count
    }

    /// Whether a change can be checked once more on all displays, from what all findings have left.
    pub(crate) fn one_more(&mut self) -> bool {
        let is_enough = self.left >= self.all();
        if is_enough {
            self.left -= self.all();
        }
        is_enough
    }

    /// Whether the border of a problem can be looked for.
    pub(crate) fn border(&mut self) -> bool {
        let is_enough = self.share >= BORDER * self.once;
        if is_enough {
            self.take(BORDER * self.once);
        }
        is_enough
    }
}
