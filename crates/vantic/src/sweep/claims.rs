//! Claims, proven over their ranges or refuted by the first display that breaks them.

use crate::finding::detail::{ClaimBreach, SIDES};
use crate::inspect::anchors::frame_at;
use crate::inspect::frames::beyond;
use crate::sweep::effort::SweepOptions;
use crate::sweep::march::walk;
use crate::sweep::range::{Proof, Range, SweepError};
use crate::sweep::segment::{Segment, overlapping};
use vantic_core::display::{Display, DisplayQuantity};
use vantic_core::geometry::Frame;
use vantic_core::model::{Anchor, Claim, Claimed, Screen, value_of};
use vantic_core::plan::{Placement, Plan};
use vantic_core::text::Measure;
use vantic_core::tolerance::VISIBLE;
use vantic_core::work;

/// What became of a claim.
#[derive(Clone, Debug, PartialEq)]
pub(crate) struct ClaimVerdict {
    /// Which of the screen's claims, counted from 0.
    pub(crate) claim: usize,
    /// The display that it was examined on, all else as the range has it.
    pub(crate) on: Display,
    /// How certain the verdict is.
    pub(crate) proof: Proof,
    /// Whether all of the range was looked at; otherwise the work did not suffice for it.
    pub(crate) to_the_end: bool,
    /// The least display of the range that breaks it, how, and by how much in logical pixels; `None` where it
    /// holds.
    pub(crate) broken: Option<(Display, ClaimBreach, f64)>,
}

/// By how much a placement breaks a claim, and how; `None` where it holds, or the view is not there.
fn breaks(
    screen: &Screen,
    placement: &Placement,
    claim: &Claim,
    same: Option<f64>,
) -> Option<(f64, ClaimBreach)> {
    let frame = placement.frame(claim.view).filter(|_| placement.is_painted(claim.view))?;
    let painted = placement.painted_bounds(screen, claim.view)?;
    match claim.what {
        Claimed::Inside(of) => {
            let around = match of {
                Anchor::View(view) => placement.painted_bounds(screen, view)?,
                of => frame_at(screen, placement, of)?,
            };
            let over = std::iter::zip(SIDES, beyond(&painted, &around));
            let (side, by) = over.max_by(|a, b| a.1.total_cmp(&b.1))?;
            (by > VISIBLE).then_some((by, ClaimBreach::Outside { side, of, by }))
        }
        Claimed::ClearOf(other, by) => {
            let of = placement.painted_bounds(screen, other).filter(|_| placement.is_painted(other))?;
            // What has no area covers nothing, and nothing is too near to it.
            if [painted, of].iter().any(|frame| frame.width.min(frame.height) <= VISIBLE) {
                return None;
            }
            let apart = apart(&painted, &of);
            let breach = match apart < 0.0 {
                true => ClaimBreach::Covers { other, by: -apart },
                false => ClaimBreach::Near { other, apart },
            };
            (apart < by - VISIBLE).then_some((by - apart, breach))
        }
        Claimed::Whole => {
            let text = placement.text_size(claim.view)?;
            let over = (text.longest - frame.width).max(text.height - frame.height);
            let by = if text.hidden > 0 { over.max(1.0) } else { over };
            (by > VISIBLE).then_some((by, ClaimBreach::WordsCut { by }))
        }
        Claimed::Same(coordinate) => {
            let (is, elsewhere) = (value_of(&frame, coordinate), same?);
            let off = (is - elsewhere).abs();
            let breach = ClaimBreach::Differs { coordinate, is, elsewhere };
            (off > VISIBLE).then_some((off, breach))
        }
    }
}

/// How far two frames are apart: along the axis on which they are further apart; below zero where they cover
/// one another.
fn apart(a: &Frame, b: &Frame) -> f64 {
    let across = (b.left - a.right()).max(a.left - b.right());
    let down = (b.top - a.bottom()).max(a.top - b.bottom());
    across.max(down)
}

/// Examines every claim of a screen: over its range on each of some displays, or, where it names no range, on
/// those as they were placed.
pub(crate) fn examine(
    plan: &Plan,
    placements: &[Placement],
    measure: &(dyn Measure + Sync),
    most_work: u64,
) -> Result<Vec<ClaimVerdict>, SweepError> {
    let screen = plan.screen();
    let ranges = screen.claims().iter().filter_map(|claim| claim.over.as_ref());
    let mut ranges: usize = ranges.map(|(along, ..)| apart_from(along, placements).len()).sum();
    let (mut left, least) = (most_work, RANGE_WORK_PER_VIEW * screen.views().count() as u64);
    let mut verdicts = Vec::new();
    for (index, claim) in screen.claims().iter().enumerate() {
        match &claim.over {
            None => {
                let value = |p: &Placement| match claim.what {
                    Claimed::Same(c) => p.frame(claim.view).map(|f| value_of(&f, c)),
                    _ => None,
                };
                // Frames that are not the best ones tell nothing.
                let worked_out = || placements.iter().filter(|p| !p.hit_work_limit);
                let same = worked_out().find_map(value);
                let broken = worked_out().find_map(|p| {
                    let (by, how) = breaks(screen, p, claim, same)?;
                    Some((p.display.clone(), how, by))
                });
                let Some(first) = placements.first() else { continue };
                let on = broken.as_ref().map_or(&first.display, |b| &b.0).clone();
                verdicts.push(ClaimVerdict {
                    claim: index,
                    on,
                    proof: Proof::Exact,
                    to_the_end: worked_out().count() == placements.len(),
                    broken,
                });
            }
            Some((along, from, to)) => {
                for display in apart_from(along, placements) {
                    // A range of a large screen may take more than its share; those behind it are left out.
                    let most = (left / ranges.max(1) as u64).max(least);
                    ranges -= 1;
                    if most > left {
                        let unknown = ClaimVerdict {
                            claim: index,
                            on: display,
                            proof: Proof::Exact,
                            to_the_end: false,
                            broken: None,
                        };
                        verdicts.push(unknown);
                        continue;
                    }
                    let over = || over_range(plan, &display, claim, index, (along, *from, *to), measure);
                    let (verdict, spent) = work::within(most, over);
                    left = left.saturating_sub(spent);
                    verdicts.push(verdict?);
                }
            }
        }
    }
    Ok(verdicts)
}

/// What a range takes at least, for each view of the screen.
const RANGE_WORK_PER_VIEW: u64 = 50;

/// How many displays a range is examined on.
const MAX_DISPLAYS: usize = 12;

/// The displays that differ in something else than what a range changes.
fn apart_from(along: &DisplayQuantity, placements: &[Placement]) -> Vec<Display> {
    let mut all: Vec<Display> = Vec::new();
    for placement in placements {
        let display = &placement.display;
        let same = |other: &Display| {
            let at = |d: &Display| {
                along.at(
                    d,
                    if matches!(along, DisplayQuantity::Width | DisplayQuantity::Height) {
                        700.0
                    } else {
                        1.0
                    },
                )
            };
            match (at(display), at(other)) {
                (Ok(a), Ok(b)) => a.named("") == b.named(""),
                _ => false,
            }
        };
        if !all.iter().any(same) {
            all.push(display.clone());
        }
        if all.len() >= MAX_DISPLAYS {
            break;
        }
    }
    all
}

fn over_range(
    plan: &Plan,
    display: &Display,
    claim: &Claim,
    index: usize,
    (along, from, to): (&DisplayQuantity, f64, f64),
    measure: &(dyn Measure + Sync),
) -> Result<ClaimVerdict, SweepError> {
    let walked = walk(
        plan,
        display,
        Range { along: along.clone(), from, to, gap: 0.0 },
        measure,
        SweepOptions::default(),
    )?;
    let value = |p: &Placement| match claim.what {
        Claimed::Same(c) => p.frame(claim.view).map(|f| value_of(&f, c)),
        _ => None,
    };
    let ends = || walked.segments.iter().flat_map(|s| [&s.first.placement, &s.last.placement]);
    let same = ends().find_map(value);
    let mut broken = None;
    for segment in &walked.segments {
        if let Some((part, by, how)) = first_break(plan.screen(), segment, claim, same) {
            let at = crate::sweep::segment::rounded_border(segment.from + (segment.to - segment.from) * part);
            broken = Some((along.at(display, at)?, how, by));
            break;
        }
    }
    let (on, proof, to_the_end) = (display.clone(), walked.proof, walked.end >= to);
    Ok(ClaimVerdict { claim: index, on, proof, to_the_end, broken })
}

/// The first part of a segment on which a claim is broken, and how where it is broken most.
fn first_break(
    screen: &Screen,
    segment: &Segment,
    claim: &Claim,
    same: Option<f64>,
) -> Option<(f64, f64, ClaimBreach)> {
    let at = |part: f64| breaks(screen, &segment.between(part), claim, same);
    // Things that move evenly are apart at both ends and not in between, where one passes over the other.
    let passing = match claim.what {
        Claimed::ClearOf(other, by) => {
            let both = |p: &Placement| {
                Some((p.painted_bounds(screen, claim.view)?, p.painted_bounds(screen, other)?))
            };
            let ends = both(&segment.first.placement).zip(both(&segment.last.placement));
            ends.and_then(|(from, to)| overlapping(from, to, by))
                .map(|(begins, ends)| f64::midpoint(begins, ends))
        }
        _ => None,
    };
    let places: Vec<f64> = [0.0].into_iter().chain(passing).chain([1.0]).collect();
    let wrong = places.iter().position(|&part| at(part).is_some())?;
    let (by, how) = places.iter().filter_map(|&part| at(part)).max_by(|a, b| a.0.total_cmp(&b.0))?;
    if wrong == 0 {
        return Some((0.0, by, how));
    }
    let (mut before, mut after) = (places[wrong - 1], places[wrong]);
    for _ in 0..60 {
        let middle = f64::midpoint(before, after);
        if at(middle).is_some() { after = middle } else { before = middle }
    }
    Some((after, by, how))
}
