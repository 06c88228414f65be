//! A segment of a range on which everything moves evenly, and what begins and ends on it.

use crate::finding::{Finding, Severity};
use crate::inspect::frames::beyond;
use crate::inspect::inspect::{found_of, found_on};
use crate::inspect::shape::out_of_shape;
use crate::screen_ext::ScreenExt as _;
use crate::sweep::tolerance::{BROKEN, END, NEARLY, PART};
use std::collections::{BTreeMap, BTreeSet, HashSet};
use std::sync::Arc;
use vantic_core::geometry::{Frame, within};
use vantic_core::model::{Code, RuleRef, Screen, ViewId};
use vantic_core::plan::{Missed, Placement, SegmentEnd};
use vantic_core::tolerance::VISIBLE;
use vantic_core::work;

/// What findings of a range are reported apart by.
pub(crate) type Key = (Code, Severity, Vec<ViewId>);

/// How often the way to where something begins is halved.
const HALVINGS: usize = 50;

pub(crate) fn key(finding: &Finding) -> Key {
    (finding.code, finding.severity, finding.views.clone())
}

/// What is wrong at one place of a range, and what gave way there.
#[derive(Clone, Debug, Default)]
pub(crate) struct Violations {
    pub(crate) findings: BTreeMap<Key, Finding>,
    pub(crate) missed: BTreeSet<RuleRef>,
}

impl Violations {
    pub(crate) fn on(screen: &Screen, placement: &Placement, fixed: &HashSet<ViewId>, gap: f64) -> Self {
        let findings = found_on(screen, placement, fixed, gap).into_iter().map(|f| (key(&f), f)).collect();
        let written = |m: &&Missed| matches!(m.rule, RuleRef::Written { .. });
        let missed = placement.missed.iter().filter(written).map(|m| m.rule).collect();
        Self { findings, missed }
    }
}

/// By how much a rule is broken changes evenly on a segment and is never below zero, so that it is broken
/// all the way or nowhere, but for an end at which it just holds: the middle tells.
pub(crate) fn settle_broken(first: &mut Placement, last: &mut Placement) {
    let by = |p: &Placement, rule: RuleRef| p.broken.iter().find(|m| m.rule == rule).map_or(0.0, |m| m.by);
    let rules: BTreeSet<RuleRef> = first.broken.iter().chain(&last.broken).map(|m| m.rule).collect();
    let ends = rules.into_iter().map(|rule| (rule, by(first, rule), by(last, rule)));
    let broken: Vec<_> = ends.filter(|(_, a, b)| f64::midpoint(*a, *b) > BROKEN).collect();
    first.broken = broken.iter().map(|&(rule, by, _)| Missed { rule, by }).collect();
    last.broken = broken.iter().map(|&(rule, _, by)| Missed { rule, by }).collect();
}

/// One end of a segment.
#[derive(Clone, Debug)]
pub(crate) struct Sample {
    pub(crate) placement: Placement,
    pub(crate) found: Violations,
    pub(crate) tight: BTreeSet<RuleRef>,
    /// Which argument of each `max` and `min` counts.
    pub(crate) picked: Vec<(RuleRef, usize)>,
}

impl Sample {
    /// Whether there is no border in between, as far as can be told from both ends.
    pub(crate) fn is_like(&self, other: &Sample) -> bool {
        let lines = |p: &Placement| p.texts.iter().map(|t| t.map(|t| t.lines)).collect::<Vec<_>>();
        let there = |p: &Placement| p.frames.iter().map(Option::is_some).collect::<Vec<_>>();
        let (a, b) = (&self.placement, &other.placement);
        let keys = |f: &Violations| f.findings.keys().cloned().collect::<Vec<_>>();
        lines(a) == lines(b)
            && there(a) == there(b)
            && a.rules == b.rules
            && self.tight == other.tight
            && self.picked == other.picked
            && self.found.missed == other.found.missed
            && keys(&self.found) == keys(&other.found)
            && a.grids.values().map(|g| (g.columns, g.rows)).eq(b.grids.values().map(|g| (g.columns, g.rows)))
            && a.visible_spares == b.visible_spares
    }
}

/// A segment between two borders.
#[derive(Clone, Debug)]
pub(crate) struct Segment {
    pub(crate) from: f64,
    pub(crate) to: f64,
    pub(crate) first: Sample,
    pub(crate) last: Sample,
    /// What ended the segment before it.
    pub(crate) because: Option<SegmentEnd>,
    /// The views that stay where they are while what is around them is scrolled.
    pub(crate) fixed: Arc<HashSet<ViewId>>,
    /// The views that scroll, each with the box of what it scrolls.
    pub(crate) contents: Arc<[(ViewId, ViewId)]>,
}

/// The views of a screen that scroll, each with the box of what it scrolls.
pub(crate) fn contents(screen: &Screen) -> Arc<[(ViewId, ViewId)]> {
    screen.views().filter_map(|(view, about)| Some((view, about.scrolled()?))).collect()
}

/// By how much a content box is larger than the view that scrolls it, across and down.
fn overflow(placement: &Placement, (view, content): (ViewId, ViewId)) -> Option<[f64; 2]> {
    let (port, content) = (placement.frame(view)?, placement.frame(content)?);
    Some([content.width - port.width, content.height - port.height])
}

impl Segment {
    /// What is there at a part of the way, from 0 to 1.
    pub(crate) fn between(&self, part: f64) -> Placement {
        let mut there = self.first.placement.clone();
        self.go_to(part, &mut there);
        there
    }

    /// Moves a placement of the segment to another part of the way.
    fn go_to(&self, part: f64, there: &mut Placement) {
        let (a, b) = (&self.first.placement, &self.last.placement);
        work::spend(a.frames.len());
        let mix = |x: f64, y: f64| x + (y - x) * part;
        for (frame, (a, b)) in std::iter::zip(&mut there.frames, std::iter::zip(&a.frames, &b.frames)) {
            *frame = a.zip(*b).map(|(a, b)| a.toward(&b, part));
        }
        for &(view, content) in &*self.contents {
            let over = overflow(there, (view, content));
            let (first, last) = (a.scrolled.get(&view), b.scrolled.get(&view));
            let ends = first.map(|first| first.most).zip(last.map(|last| last.most));
            if let (Some(over), Some(at), Some((first, last))) = (over, there.scrolled.get_mut(&view), ends) {
                // Along the ways that it goes, which the ends show.
                let most = |first: f64, last: f64, over: f64| {
                    if first.max(last) > 0.0 { over.max(0.0) } else { 0.0 }
                };
                at.most = (most(first.0, last.0, over[0]), most(first.1, last.1, over[1]));
            }
        }
        // The display of a part of the way is reported by its size.
        let (from, to) = (a.canvas(), b.canvas());
        let size = (mix(from.width(), to.width()), mix(from.height(), to.height()));
        let insets = std::array::from_fn(|side| {
            let of = |d: &vantic_core::display::Display| {
                let i = d.insets();
                [i.left, i.top, i.right, i.bottom][side]
            };
            mix(of(from), of(to))
        });
        there.display = from.stretched(size, insets);
    }

    fn cut_at(&self, parts: &[f64], screen: &Screen, gap: f64) -> Vec<Segment> {
        let mut all = Vec::new();
        let span = self.to - self.from;
        let mut begins = (self.from, self.first.clone());
        for &part in parts {
            // Just before and just behind.
            let end = |part: f64| {
                let placement = self.between(within(part, 0.0, 1.0));
                let found = Violations::on(screen, &placement, &self.fixed, gap);
                let (tight, picked) = (self.first.tight.clone(), self.first.picked.clone());
                Sample { placement, found, tight, picked }
            };
            let at = rounded_border(self.from + span * part);
            let because = if all.is_empty() { self.because } else { None };
            let (fixed, contents) = (self.fixed.clone(), self.contents.clone());
            all.push(Segment {
                from: begins.0,
                to: at,
                first: begins.1,
                last: end(part - PART),
                because,
                fixed,
                contents,
            });
            begins = (at, end(part + PART));
        }
        let because = if all.is_empty() { self.because } else { None };
        let (last, fixed, contents) = (self.last.clone(), self.fixed.clone(), self.contents.clone());
        all.push(Segment { from: begins.0, to: self.to, first: begins.1, last, because, fixed, contents });
        all
    }
}

/// A segment cut where something begins or ends on it; `None` where there is no work left for it. Between two places at
/// which an edge crosses another one, everything is compared; what differs begins or ends at the place in between, or is
/// found by halving.
pub(crate) fn split_at_events(screen: &Screen, segment: Segment, gap: f64) -> Option<Vec<Segment>> {
    let mut places = crossings(screen, &segment);
    places.extend(passing(screen, &segment, gap));
    places.retain(|part| (END..1.0 - END).contains(part));
    places.sort_by(f64::total_cmp);
    places.dedup_by(|a, b| (*a - *b).abs() < PART);
    let mut there = segment.first.placement.clone();
    let mut keys_at = |part: f64| {
        segment.go_to(part, &mut there);
        found_on(screen, &there, &segment.fixed, gap).iter().map(key).collect::<BTreeSet<Key>>()
    };
    let keys_of = |sample: &Sample| sample.found.findings.keys().cloned().collect::<BTreeSet<Key>>();
    let ends: Vec<f64> = [0.0].into_iter().chain(places).chain([1.0]).collect();
    let middles = ends.windows(2).map(|two| f64::midpoint(two[0], two[1])).filter(|_| ends.len() > 2);
    let mut known: Vec<(f64, BTreeSet<Key>)> = vec![(0.0, keys_of(&segment.first))];
    for part in middles {
        if work::is_short() {
            return None;
        }
        known.push((part, keys_at(part)));
    }
    known.push((1.0, keys_of(&segment.last)));
    let mut parts: Vec<f64> = Vec::new();
    for (index, two) in known.windows(2).enumerate() {
        let [(from, before), (to, after)] = two else { continue };
        if before == after {
            continue;
        }
        // Mostly, all that differs does so at the one place in between.
        let place = ends[index];
        let is_between = *from < place - PART && place + PART < *to;
        if is_between && keys_at(place - PART) == *before && keys_at(place + PART) == *after {
            parts.push(place);
            continue;
        }
        for key in before.symmetric_difference(after) {
            if work::is_short() {
                return None;
            }
            let was = before.contains(key);
            let holds = |part: f64| {
                found_of(screen, &segment.between(part), &segment.fixed, gap, key.0)
                    .iter()
                    .any(|f| self::key(f) == *key)
            };
            let (mut before, mut after) = (*from, *to);
            for _ in 0..HALVINGS {
                let middle = f64::midpoint(before, after);
                if holds(middle) == was {
                    before = middle;
                } else {
                    after = middle;
                }
            }
            parts.push(after);
        }
    }
    parts.retain(|part| (END..1.0 - END).contains(part));
    parts.sort_by(f64::total_cmp);
    parts.dedup_by(|a, b| (*a - *b).abs() < PART);
    if parts.is_empty() {
        return Some(vec![segment]);
    }
    Some(segment.cut_at(&parts, screen, gap))
}

/// Where something that grows evenly from one number to another passes zero, as a part of the way.
fn passes(from: f64, to: f64) -> Option<f64> {
    ((from > 0.0) != (to > 0.0)).then(|| from / (from - to))
}

/// Where an edge of what is painted of a view crosses that of a view around it, of the screen or of the
/// safe area, and where a picture or a text begins or ends to be in shape: what is outside of what, under
/// the insets or stretched may be so on a part of the way only.
fn crossings(screen: &Screen, segment: &Segment) -> Vec<f64> {
    let mut parts = Vec::new();
    let (a, b) = (&segment.first.placement, &segment.last.placement);
    // Where something begins or ends to scroll.
    for &of in &*segment.contents {
        let (Some(from), Some(to)) = (overflow(a, of), overflow(b, of)) else { continue };
        parts.extend(std::iter::zip(from, to).filter_map(|(first, last)| passes(first, last)));
    }
    let around = |p: &Placement, view: ViewId| {
        let parent = screen.at(view).parent();
        let is_near = |v: &ViewId| Some(*v) == parent || p.look(*v).clips;
        let mut boxes = vec![Some(p.screen_frame()), Some(p.safe_frame())];
        boxes.extend(screen.ancestors(view).filter(is_near).map(|v| p.frame(v)));
        // What goes as far beyond as its parent does is reported of that.
        boxes.push(parent.and_then(|parent| p.painted_bounds(screen, parent)));
        boxes
    };
    for (view, _) in screen.views().filter(|(view, _)| a.is_painted(*view)) {
        let (Some(from), Some(to)) = (a.painted_bounds(screen, view), b.painted_bounds(screen, view)) else {
            continue;
        };
        for boxes in std::iter::zip(around(a, view), around(b, view)) {
            let (Some(first), Some(last)) = boxes else { continue };
            let sides = std::iter::zip(beyond(&from, &first), beyond(&to, &last));
            parts.extend(sides.filter_map(|(first, last)| passes(first - VISIBLE, last - VISIBLE)));
        }
        let (Some(from), Some(to)) = (a.frame(view), b.frame(view)) else { continue };
        // Within a parent that is rotated, frames are compared as they are.
        let parent = |p: &Placement| screen.at(view).parent().and_then(|parent| p.frame(parent));
        if let (Some(first), Some(last)) = (parent(a), parent(b)) {
            let sides = std::iter::zip(beyond(&from, &first), beyond(&to, &last));
            parts.extend(sides.filter_map(|(first, last)| passes(first - VISIBLE, last - VISIBLE)));
        }
        let off = |frame: &Frame| out_of_shape(a, view, frame);
        parts.extend(std::iter::zip(off(&from), off(&to)).filter_map(|(first, last)| passes(first, last)));
    }
    parts
}

/// How many pairs of views are looked at for whether they pass over one another on the way.
const MAX_PAIRS: usize = 100_000;

/// So many pairs are a unit of work.
const PAIRS: usize = 8;

/// Where views pass over one another on the way, or come nearer than a gap.
fn passing(screen: &Screen, segment: &Segment, gap: f64) -> Vec<f64> {
    let (a, b) = (&segment.first.placement, &segment.last.placement);
    // Each with the box that it does not leave on the way.
    let mut moving: Vec<(ViewId, Frame, Frame, Frame)> = screen
        .views()
        .filter(|(view, _)| a.is_painted(*view))
        .filter_map(|(view, _)| {
            let (from, to) = (a.painted_bounds(screen, view)?, b.painted_bounds(screen, view)?);
            let (left, top) = (from.left.min(to.left), from.top.min(to.top));
            let (right, bottom) = (from.right().max(to.right()), from.bottom().max(to.bottom()));
            let whole = Frame { left, top, width: right - left, height: bottom - top };
            Some((view, from, to, whole))
        })
        .collect();
    moving.sort_by(|a, b| a.3.top.total_cmp(&b.3.top).then(a.0.cmp(&b.0)));
    let mut parts = Vec::new();
    let mut pairs = 0;
    for (index, one) in moving.iter().enumerate() {
        for other in moving[index + 1..].iter().take_while(|o| o.3.top < one.3.bottom() + gap) {
            // Beside one another all the way.
            if other.3.left >= one.3.right() + gap || one.3.left >= other.3.right() + gap {
                continue;
            }
            pairs += 1;
            if pairs > MAX_PAIRS {
                return parts;
            }
            if pairs % PAIRS == 0 {
                work::spend(1);
            }
            if screen.is_within(one.0, other.0) || screen.is_within(other.0, one.0) {
                continue;
            }
            let meet = overlapping((one.1, other.1), (one.2, other.2), gap);
            parts.extend(meet.into_iter().flat_map(|(begins, ends)| [begins, ends]));
        }
    }
    parts
}

/// The part of the way on which two frames that move evenly cover one another, or are nearer than a gap.
pub(crate) fn overlapping(from: (Frame, Frame), to: (Frame, Frame), gap: f64) -> Option<(f64, f64)> {
    // What has no area covers nothing.
    let overs = |(a, b): (Frame, Frame)| {
        let apart = [a.right() - b.left, b.right() - a.left, a.bottom() - b.top, b.bottom() - a.top];
        let sizes = [a.width, a.height, b.width, b.height];
        (apart.map(|over| over + gap - VISIBLE), sizes.map(|size| size - VISIBLE))
    };
    let (mut begins, mut ends) = (0.0_f64, 1.0_f64);
    let (first, last) = (overs(from), overs(to));
    for (at_first, at_last) in std::iter::zip(first.0, last.0).chain(std::iter::zip(first.1, last.1)) {
        let root = at_first / (at_first - at_last);
        match (at_first > 0.0, at_last > 0.0) {
            (true, true) => {}
            (false, false) => return None,
            (false, true) => begins = begins.max(root),
            (true, false) => ends = ends.min(root),
        }
    }
    (begins < ends).then_some((begins, ends))
}

/// A border as the number that it is meant to be: to a ten-thousandth where only the errors of halving, and
/// of looking just beside a border, are lost by that; else to a millionth.
pub(crate) fn rounded_border(border: f64) -> f64 {
    for (digits, lost) in [(1e4, NEARLY), (1e6, PART)] {
        let rounded = (border * digits).round() / digits;
        if (rounded - border).abs() < lost {
            return rounded;
        }
    }
    border
}
