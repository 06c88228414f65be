//! A whole range of displays examined: where it starts to break, exactly.
//!
//! `march` goes along the range from border to border: between two of them everything moves evenly, so that
//! what is true at both ends is true in between. `segment` finds what begins and ends on the way, `events`
//! puts the differences between one segment and the next into words, `problem_spans` says where something is
//! wrong all along, and where a band should begin; `claims` proves what a screen claims.

use crate::finding::Severity;
use crate::inspect::collapse::{collapses, may_collapse};
use crate::inspect::inspect::without_accepted;
use crate::sweep::effort::{SweepOptions, work_for};
use crate::sweep::events::{Event, span};
use crate::sweep::problem_spans::ProblemSpan;
use crate::sweep::range::{Proof, Range, SweepError};
use crate::sweep::segment::{Segment, key};
use crate::sweep::tolerance::CONTINUES;
use vantic_core::display::Display;
use vantic_core::model::{Code, Coordinate, ViewId, value_of};
use vantic_core::plan::{Live, Placement, Plan};
use vantic_core::text::Measure;
use vantic_core::words::number;
use vantic_core::work;

/// A range of displays that was examined.
#[derive(Clone, Debug, PartialEq)]
pub struct Sweep {
    /// What was examined: the range that was asked for, up to where the work sufficed.
    pub range: Range,
    /// What begins, ends or changes, in order.
    pub events: Vec<Event>,
    /// Where something is wrong, and from where to where.
    pub problems: Vec<ProblemSpan>,
    /// How sure that is.
    pub proof: Proof,
    /// The placements at both ends, and on both sides of each border, with where they are.
    pub placements: Vec<(f64, Placement)>,
    /// Bands that would keep trouble away: what to write, and why.
    pub bands: Vec<(String, String)>,
    /// Up to where it was to be examined, where that takes more work than there was.
    pub left_out_to: Option<f64>,
}

/// How much work a sweep may take, in the units of [`vantic_core::work`]; all lines of a rectangle together as much
/// again.
pub const SWEEP_WORK: u64 = 40_000_000;

/// Examines a screen over a range, all else as it is on a display.
///
/// ```
/// use vantic::display::DisplayQuantity;
/// use vantic::sweep::{Range, sweep};
/// use vantic::prelude::*;
///
/// let source = vantic::read(
///     "screen workshop {
///          view bench { pin left, top to screen; size = (400, 48) }
///      }",
/// )?;
/// let plan = Plan::new(source.screen)?;
/// let range = Range { along: DisplayQuantity::Width, from: 320.0, to: 480.0, gap: 0.0 };
/// let swept = sweep(&plan, &Display::new(320.0, 480.0)?, range, &PlainText)?;
/// // It extends beyond the screen up to here.
/// assert!((swept.problems[0].to - 400.0).abs() < 0.01);
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
///
/// # Errors
/// A range that is empty or reversed, a distance below zero, ends with which there is no display, more than
/// [`crate::sweep::MAX_BORDERS`] borders.
pub fn sweep(
    plan: &Plan,
    display: &Display,
    range: Range,
    measure: &(dyn Measure + Sync),
) -> Result<Sweep, SweepError> {
    sweep_with(plan, display, range, measure, SweepOptions::default())
}

/// The same with another amount of work, and told how far it is.
///
/// # Errors
/// As for [`sweep`].
pub fn sweep_with(
    plan: &Plan,
    display: &Display,
    range: Range,
    measure: &(dyn Measure + Sync),
    how: SweepOptions<'_>,
) -> Result<Sweep, SweepError> {
    let Range { ref along, from, to, gap } = range;
    if !(gap.is_finite() && gap >= 0.0) {
        return Err(SweepError::Gap { gap });
    }
    // As much for what is left without a size as for all else.
    let most = work_for(SWEEP_WORK, how.effort) / 2;
    if !(from.is_finite() && to.is_finite() && from < to) {
        return Err(SweepError::Range { from, to });
    }
    along.at(display, from)?;
    along.at(display, to)?;
    let walked =
        work::within(most, || crate::sweep::march::walk(plan, display, range.clone(), measure, how)).0?;
    let screen = plan.screen();
    let mut segments: Vec<Segment> = walked.segments;
    let live = plan.live().with_effort(how.effort);
    let collapsed = || add_collapsed(live, display, &range, measure, &mut segments);
    let looked_at = work::within(most, collapsed).0?;
    segments.truncate(looked_at);
    let end = segments.last().map_or(from, |segment| segment.to).min(walked.end);
    let left_out_to = (end < to).then_some(to);
    let range = Range { to: end, ..range };
    let events = crate::sweep::events::events(screen, &segments);
    let problems = crate::sweep::problem_spans::problems(screen, range.gap, &segments);
    // Where a problem ends is not known beyond the end.
    let bands = match left_out_to {
        None => crate::sweep::problem_spans::bands(screen, &range, &problems),
        Some(_) => Vec::new(),
    };
    let placements =
        segments.into_iter().flat_map(|s| [(s.from, s.first.placement), (s.to, s.last.placement)]).collect();
    Ok(Sweep { range, events, problems, proof: walked.proof, placements, bands, left_out_to })
}

/// Adds what is left without a width or a height: a size is zero all along a segment or nowhere on it. How many segments the
/// work sufficed for.
fn add_collapsed(
    mut live: Live,
    display: &Display,
    range: &Range,
    measure: &(dyn Measure + Sync),
    segments: &mut [Segment],
) -> Result<usize, SweepError> {
    let plan = live.plan().clone();
    let screen = plan.screen();
    let all = segments.len();
    for (index, segment) in segments.iter_mut().enumerate() {
        if work::is_short() && index > 0 {
            return Ok(index);
        }
        if !may_collapse(screen, &segment.between(0.5)) {
            continue;
        }
        let middle = range.along.at(display, f64::midpoint(segment.from, segment.to))?;
        let examined = live.examine_if(&middle, measure, &[], &|_| true).map_err(SweepError::Place)?;
        let mut found = examined.map(|(examined, _)| collapses(screen, &examined)).unwrap_or_default();
        without_accepted(screen, Code::Collapse, &mut found);
        for finding in found {
            for end in [&mut segment.first, &mut segment.last] {
                end.found.findings.insert(key(&finding), finding.clone());
            }
        }
    }
    Ok(all)
}

impl Sweep {
    /// Over which part of the range a coordinate moves as evenly as it does at a place; `None` where its view
    /// is not there, and for what is measured along the reading direction or on a text's baseline.
    ///
    /// ```
    /// use vantic::display::DisplayQuantity;
    /// use vantic::model::Coordinate;
    /// use vantic::prelude::*;
    /// use vantic::sweep::{Range, sweep};
    ///
    /// let source = vantic::read(
    ///     "screen quay {
    ///          view a { pin left, top to safe; height = 8; width = min(50% of screen.width, 200) }
    ///      }",
    /// )?;
    /// let plan = Plan::new(source.screen)?;
    /// let range = Range { along: DisplayQuantity::Width, from: 300.0, to: 600.0, gap: 0.0 };
    /// let swept = sweep(&plan, &Display::new(390.0, 844.0)?, range, &PlainText)?;
    /// let a = plan.screen().find("a").unwrap();
    /// let (from, to) = swept.steady(320.0, a, Coordinate::Width).unwrap();
    /// assert!(from == 300.0 && (to - 400.0).abs() < 1e-3, "{from} to {to}");
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn steady(&self, at: f64, view: ViewId, coordinate: Coordinate) -> Option<(f64, f64)> {
        if matches!(coordinate, Coordinate::Start | Coordinate::End | Coordinate::Baseline) {
            return None;
        }
        let value = |placement: &Placement| Some(value_of(&placement.frame(view)?, coordinate));
        let segments: Vec<Ends<'_>> =
            self.placements.chunks(2).filter_map(|ends| Some((ends.first()?, ends.get(1)?))).collect();
        let here = segments.iter().rposition(|(from, to)| from.0 <= at && at <= to.0)?;
        let length = |(from, to): Ends<'_>| to.0 - from.0;
        // On the line of the longer one, whose rate is the more exact.
        let goes_on = |one: Ends<'_>, other: Ends<'_>| {
            let (long, short) = if length(one) < length(other) { (other, one) } else { (one, other) };
            let (Some(start), Some(end)) = (value(&long.0.1), value(&long.1.1)) else { return false };
            let rate = (end - start) / length(long).max(CONTINUES);
            let is_on = |(place, placement): &(f64, Placement)| {
                value(placement).is_some_and(|v| (v - start - rate * (place - long.0.0)).abs() < CONTINUES)
            };
            is_on(short.0) && is_on(short.1)
        };
        value(&segments[here].0.1)?;
        // What goes on from one to the next may end at a bend with the longest of them.
        let (mut first, mut last, mut line) = (here, here, here);
        let mut takes = |next: usize| {
            let is_on = goes_on(segments[line], segments[next]);
            if is_on && length(segments[line]) < length(segments[next]) {
                line = next;
            }
            is_on
        };
        while last + 1 < segments.len() && takes(last + 1) {
            last += 1;
        }
        while first > 0 && takes(first - 1) {
            first -= 1;
        }
        Some((segments[first].0.0, segments[last].1.0))
    }

    /// What has been proven, in words: that nothing of a kind is wrong all along.
    pub fn proven(&self) -> Vec<String> {
        proven(self)
    }
}

/// The two ends of a segment, each with where it is.
type Ends<'a> = (&'a (f64, Placement), &'a (f64, Placement));

/// What can be said to be right everywhere.
pub(crate) fn proven(sweep: &Sweep) -> Vec<String> {
    let Range { ref along, from, to, gap } = sweep.range;
    let none = |code: Code| !sweep.problems.iter().any(|t| t.code == code && t.severity != Severity::Note);
    let mut said = Vec::new();
    if to <= from {
        return said;
    }
    let over = format!("for every {} from {}", along.name(), span(from, to));
    let apart =
        if gap > 0.0 { format!("no siblings nearer than {}", number(gap)) } else { "no overlap".to_owned() };
    let all = [
        (Code::Overlap, apart.as_str()),
        (Code::Cut, "no text is cut"),
        (Code::Stretched, "nothing is stretched"),
        (Code::Outside, "nothing is off the screen"),
        (Code::Covered, "nothing under the insets"),
        (Code::Small, "no control too small"),
        (Code::Collapse, "nothing collapses"),
        (Code::Conflict, "all required rules hold"),
    ];
    let right: Vec<&str> = all.iter().filter(|(code, _)| none(*code)).map(|(_, said)| *said).collect();
    if !right.is_empty() {
        let list = match right.as_slice() {
            [most @ .., last] if !most.is_empty() => format!("{} and {last}", most.join(", ")),
            one => one.concat(),
        };
        said.push(format!("{list} {over}"));
    }
    said
}
