//! Going along a range from border to border.

use crate::inspect::inspect::scrolling;
use crate::sweep::effort::SweepOptions;
use crate::sweep::range::{MAX_BORDERS, Proof, Range, SweepError};
use crate::sweep::segment::{
    Sample, Segment, Violations, contents, rounded_border, settle_broken, split_at_events,
};
use crate::sweep::tolerance::{BEHIND, FORESEEN};
use std::collections::{BTreeSet, HashSet};
use std::sync::Arc;
use vantic_core::display::Display;
use vantic_core::model::{Condition, RuleRef, ViewId};
use vantic_core::plan::{Live, Lookahead, Placement, Plan, SegmentEnd};
use vantic_core::text::Measure;
use vantic_core::work;

/// In how many places a range is looked at where things do not move evenly.
const SAMPLES: usize = 256;

/// How many borders are met one by one between two such places.
const MAX_BETWEEN: usize = 24;

/// How often the way between two such places is halved.
const HALVINGS: usize = 40;

/// In how many places between two borders a search is looked at.
const BETWEEN: usize = 3;

pub(crate) struct Walked {
    pub(crate) segments: Vec<Segment>,
    pub(crate) proof: Proof,
    /// Up to where there was work left.
    pub(crate) end: f64,
}

struct Walker<'a> {
    plan: &'a Plan,
    live: Live,
    display: &'a Display,
    range: Range,
    measure: &'a (dyn Measure + Sync),
    how: SweepOptions<'a>,
    /// The views that stay where they are while what is around them is scrolled.
    fixed: Arc<HashSet<ViewId>>,
}

pub(crate) fn walk(
    plan: &Plan,
    display: &Display,
    range: Range,
    measure: &(dyn Measure + Sync),
    how: SweepOptions<'_>,
) -> Result<Walked, SweepError> {
    let fixed = Arc::default();
    let live = plan.live().with_effort(how.effort);
    let mut walker = Walker { plan, live, display, range, measure, how, fixed };
    let screen = plan.screen();
    let sticks = screen.views().any(|(_, view)| !view.sticks().is_empty());
    if walker.range.along.is_even() && screen.design().is_none() && !sticks {
        walker.by_borders()
    } else {
        walker.by_samples()
    }
}

impl Walker<'_> {
    fn at(&self, amount: f64) -> Result<Display, SweepError> {
        Ok(self.range.along.at(self.display, amount)?)
    }

    fn by_borders(&mut self) -> Result<Walked, SweepError> {
        let Range { from, to, .. } = self.range;
        let bands = self.band_borders(from, to)?;
        let mut segments: Vec<Segment> = Vec::new();
        let mut proof = Proof::Exact;
        let mut at = from;
        let (mut because, mut borders) = (None, 0);
        while at < to && !(work::is_short() && at > from) {
            if borders >= MAX_BORDERS {
                return Err(SweepError::Borders { limit: MAX_BORDERS });
            }
            borders += 1;
            // Just behind the border, where it is clear what holds.
            let inside = if at == from { at } else { (at + BEHIND).min(to) };
            let next_band = bands.iter().copied().find(|border| *border > at + BEHIND);
            let goal = next_band.unwrap_or(to).min(to);
            let (reach, end) = self.one(inside, goal)?;
            if !reach.is_exact {
                proof = Proof::Searched;
            }
            let ends = if end < goal { reach.ends } else { None };
            // Up to a band, that is not in it.
            let last_at = if end >= to { to } else { (end - BEHIND).max(inside) };
            let display = self.at(last_at)?;
            let last = self.live.place(&display, self.measure).map_err(SweepError::Place)?;
            let (first, decides) = (reach.placement, (reach.tight, reach.picked));
            // What could not be worked out is not told.
            if first.hit_work_limit || last.hit_work_limit {
                break;
            }
            self.look_for_fixed(&first)?;
            let segment = self.segment((at, first), (end, last), decides, because)?;
            let Some(parts) = split_at_events(self.plan.screen(), segment, self.range.gap) else { break };
            segments.extend(parts);
            because = ends;
            self.how.examined((end - at) / (to - from));
            at = end;
        }
        Ok(Walked { segments, proof, end: at })
    }

    /// Looks at what stays where it is while what is around it is scrolled.
    fn look_for_fixed(&mut self, placement: &Placement) -> Result<(), SweepError> {
        let screen = self.plan.screen();
        let found =
            scrolling(screen, &mut self.live, placement, self.measure).map_err(SweepError::Place)?.fixed;
        if found != *self.fixed {
            self.fixed = Arc::new(found);
        }
        Ok(())
    }

    /// How far everything moves evenly from a place, and what was foreseen there.
    fn one(&mut self, inside: f64, goal: f64) -> Result<(Lookahead, f64), SweepError> {
        let (display, toward) = (self.at(inside)?, self.at(goal)?);
        let steps = (goal - inside).max(BEHIND);
        let reach = self.live.along(&display, &toward, steps, self.measure).map_err(SweepError::Place)?;
        let mut end = (inside + reach.steps.max(BEHIND)).min(goal);
        // What was not foreseen lies in between: found by halving.
        let checks = if reach.is_exact { 1 } else { BETWEEN + 1 };
        for part in 1..=checks {
            let there = inside + (end - inside) * (part as f64 / checks as f64) - BEHIND;
            if there <= inside || self.is_as_foreseen(&reach, inside, there)? {
                continue;
            }
            let (mut before, mut after) = (inside, there);
            for _ in 0..HALVINGS {
                let middle = f64::midpoint(before, after);
                if middle <= before || middle >= after {
                    break;
                }
                if self.is_as_foreseen(&reach, inside, middle)? {
                    before = middle;
                } else {
                    after = middle;
                }
            }
            end = after.max(inside + BEHIND);
            break;
        }
        Ok((reach, end))
    }

    fn is_as_foreseen(&mut self, reach: &Lookahead, inside: f64, there: f64) -> Result<bool, SweepError> {
        let display = self.at(there)?;
        let placed = self.live.place(&display, self.measure).map_err(SweepError::Place)?;
        let steps = there - inside;
        let frames = std::iter::zip(&reach.placement.frames, &placed.frames).zip(&reach.rates);
        let lines = |p: &Placement| p.texts.iter().map(|t| t.map(|t| t.lines)).collect::<Vec<_>>();
        let mut same = frames.map(|((was, is), rates)| match (was, is, rates) {
            (Some(a), Some(b), Some([left, top, width, height])) => {
                let foreseen = [
                    a.left + left * steps,
                    a.top + top * steps,
                    a.width + width * steps,
                    a.height + height * steps,
                ];
                let found = [b.left, b.top, b.width, b.height];
                std::iter::zip(foreseen, found).all(|(a, b)| (a - b).abs() <= FORESEEN)
            }
            (was, is, _) => was.is_some() == is.is_some(),
        });
        Ok(same.all(|same| same) && lines(&reach.placement) == lines(&placed))
    }

    /// Where a band begins or ends, in order.
    fn band_borders(&self, from: f64, to: f64) -> Result<Vec<f64>, SweepError> {
        let mut borders = Vec::new();
        for band in self.plan.screen().bands() {
            for part in band.condition().parts().into_iter().flat_map(Condition::halves) {
                let holds = |amount: f64| self.at(amount).map(|display| part.holds(&self.canvas(display)));
                // Each changes once along a range, but where what is drawn for two orientations is scaled: it is looked at in a
                // few places.
                let places: Vec<f64> = (0..=16).map(|i| from + (to - from) * f64::from(i) / 16.0).collect();
                for two in places.windows(2) {
                    let (mut before, mut after) = (two[0], two[1]);
                    let was = holds(before)?;
                    if was == holds(after)? {
                        continue;
                    }
                    for _ in 0..HALVINGS + 20 {
                        let middle = f64::midpoint(before, after);
                        if holds(middle)? == was {
                            before = middle;
                        } else {
                            after = middle;
                        }
                    }
                    borders.push(rounded_border(after));
                }
            }
        }
        borders.sort_by(f64::total_cmp);
        borders.dedup();
        Ok(borders)
    }

    fn canvas(&self, display: Display) -> Display {
        self.plan.screen().canvas(&display).map_or(display, |(canvas, _)| canvas)
    }

    fn by_samples(&mut self) -> Result<Walked, SweepError> {
        let Range { from, to, .. } = self.range;
        let mut segments = Vec::new();
        let placement = self.end(from)?.placement;
        self.look_for_fixed(&placement)?;
        let mut begins = (from, self.end(from)?);
        if begins.1.placement.hit_work_limit {
            return Ok(Walked { segments, proof: Proof::Sampled, end: from });
        }
        let mut before = begins.clone();
        let mut samples: Vec<f64> =
            (1..=SAMPLES).map(|i| from + (to - from) * (i as f64 / SAMPLES as f64)).collect();
        samples.extend(
            self.band_borders(from, to)?
                .into_iter()
                .flat_map(|b| [b - BEHIND, b])
                .filter(|b| *b > from && *b < to),
        );
        samples.sort_by(f64::total_cmp);
        samples.dedup();
        let (mut reached, mut since) = (to, from);
        for there in samples {
            if work::is_short() && before.0 > from {
                reached = before.0;
                break;
            }
            let after = (there, self.end(there)?);
            if after.1.placement.hit_work_limit {
                reached = before.0;
                break;
            }
            let mut borders = 0;
            while !before.1.is_like(&after.1) && borders < MAX_BETWEEN && !work::is_short() {
                borders += 1;
                if segments.len() >= MAX_BORDERS {
                    return Err(SweepError::Borders { limit: MAX_BORDERS });
                }
                // The first border between the two.
                let (mut low, mut high) = (before.clone(), after.clone());
                for _ in 0..HALVINGS {
                    let middle = f64::midpoint(low.0, high.0);
                    if middle - low.0 < BEHIND / 4.0 {
                        break;
                    }
                    let end = self.end(middle)?;
                    if end.is_like(&low.1) {
                        low = (middle, end);
                    } else {
                        high = (middle, end);
                    }
                }
                let border = rounded_border(high.0).min(there);
                segments.push(self.sampled((begins.0, border), (begins.1.clone(), low.1)));
                begins = (border, high.1.clone());
                before = high;
            }
            if !before.1.is_like(&after.1) {
                // Too many to be met one by one: what is there at the end counts from here on.
                segments.push(self.sampled((begins.0, there), (begins.1.clone(), before.1)));
                begins = after.clone();
            }
            self.how.examined((there - since) / (to - from));
            since = there;
            before = after;
        }
        if begins.0 < reached {
            segments.push(self.sampled((begins.0, reached), (begins.1, before.1)));
        }
        Ok(Walked { segments, proof: Proof::Sampled, end: reached })
    }

    fn sampled(&self, (from, to): (f64, f64), (first, last): (Sample, Sample)) -> Segment {
        Segment {
            from,
            to,
            first,
            last,
            because: None,
            fixed: self.fixed.clone(),
            contents: contents(self.plan.screen()),
        }
    }

    /// What is there at a place.
    fn end(&mut self, amount: f64) -> Result<Sample, SweepError> {
        let display = self.at(amount)?;
        let reach = self.live.along(&display, &display, 1.0, self.measure).map_err(SweepError::Place)?;
        let found = Violations::on(self.plan.screen(), &reach.placement, &self.fixed, self.range.gap);
        Ok(Sample { placement: reach.placement, found, tight: reach.tight, picked: reach.picked })
    }

    fn segment(
        &self,
        (from, mut first): (f64, Placement),
        (to, mut last): (f64, Placement),
        (tight, picked): (BTreeSet<RuleRef>, Vec<(RuleRef, usize)>),
        because: Option<SegmentEnd>,
    ) -> Result<Segment, SweepError> {
        let screen = self.plan.screen();
        settle_broken(&mut first, &mut last);
        let end = |placement: Placement| {
            let found = Violations::on(screen, &placement, &self.fixed, self.range.gap);
            Sample { placement, found, tight: tight.clone(), picked: picked.clone() }
        };
        Ok(Segment {
            from,
            to,
            first: end(first),
            last: end(last),
            because,
            fixed: self.fixed.clone(),
            contents: contents(screen),
        })
    }
}
