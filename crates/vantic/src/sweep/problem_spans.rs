//! Where something is wrong along a range, what is not wrong anywhere, and where a band should begin.

use crate::finding::{Finding, Severity};
use crate::inspect::inspect::found_of;
use crate::sweep::range::Range;
use crate::sweep::segment::{Key, Segment, key, rounded_border};
use serde::Serialize;
use std::collections::BTreeMap;
use vantic_core::display::DisplayQuantity;
use vantic_core::model::{Code, Screen};
use vantic_core::words::number;

/// Something that is wrong on a part of a range.
#[derive(Clone, Debug, PartialEq, Serialize)]
pub struct ProblemSpan {
    /// What is wrong.
    pub code: Code,
    /// How bad it is.
    pub severity: Severity,
    /// The views that it is about.
    pub views: Vec<String>,
    /// From where.
    pub from: f64,
    /// Up to where.
    pub to: f64,
    /// In plain words, where it is worst.
    pub message: String,
    /// How bad it is there, in logical pixels; square pixels for an area.
    pub amount: f64,
}

pub(crate) fn problems(screen: &Screen, gap: f64, segments: &[Segment]) -> Vec<ProblemSpan> {
    let mut open: BTreeMap<Key, ProblemSpan> = BTreeMap::new();
    let mut all: Vec<ProblemSpan> = Vec::new();
    for segment in segments {
        let (first, last) = (&segment.first.found.findings, &segment.last.found.findings);
        let ended: Vec<Key> = open.keys().filter(|key| !first.contains_key(*key)).cloned().collect();
        all.extend(ended.into_iter().filter_map(|key| open.remove(&key)));
        // An area is largest in between, if anywhere.
        let overlaps = first.keys().any(|key| key.0 == Code::Overlap && last.contains_key(key));
        let middle = if overlaps {
            found_of(screen, &segment.between(0.5), &segment.fixed, gap, Code::Overlap)
        } else {
            Vec::new()
        };
        let middle: Vec<(Key, Finding)> = middle.into_iter().map(|f| (key(&f), f)).collect();
        let middle = middle.iter().filter(|(key, _)| first.contains_key(key)).map(|(key, f)| (key, f));
        for (key, finding) in first.iter().chain(middle).chain(last) {
            let trouble = open.entry(key.clone()).or_insert_with(|| ProblemSpan {
                code: finding.code,
                severity: finding.severity,
                views: finding.paths(screen),
                from: rounded_border(segment.from),
                to: rounded_border(segment.to),
                message: finding.message(screen),
                amount: finding.amount,
            });
            trouble.to = rounded_border(segment.to);
            if finding.amount > trouble.amount {
                (trouble.amount, trouble.message) = (finding.amount, finding.message(screen));
            }
        }
        // What both ends do not have is over.
        let gone: Vec<Key> = open.keys().filter(|key| !last.contains_key(*key)).cloned().collect();
        all.extend(gone.into_iter().filter_map(|key| open.remove(&key)));
    }
    all.extend(open.into_values());
    all.sort_by(|a, b| a.from.total_cmp(&b.from).then(a.severity.cmp(&b.severity)).then(a.code.cmp(&b.code)));
    all
}

/// Bands that would keep trouble away: up to where it goes, or from where on.
pub(crate) fn bands(screen: &Screen, range: &Range, problems: &[ProblemSpan]) -> Vec<(String, String)> {
    let property = match range.along {
        DisplayQuantity::Width | DisplayQuantity::Aspect => "screen.width",
        DisplayQuantity::Height => "screen.height",
        DisplayQuantity::TextScale => "text_scale",
        _ => return Vec::new(),
    };
    let words = if property == "screen.height" { ("low", "high") } else { ("narrow", "wide") };
    let free = |name: &str| screen.free_band_name(name);
    let step = |at: f64, up: bool| match (property, up) {
        // A scale to a hundredth.
        ("text_scale", true) => (at * 100.0).ceil() / 100.0,
        ("text_scale", false) => (at * 100.0).floor() / 100.0,
        (_, true) => at.ceil(),
        (_, false) => at.floor(),
    };
    let scale = property == "text_scale";
    let mut all: Vec<(String, String)> = Vec::new();
    // What is wrong at the near end goes up to where the last of it ends; what is wrong at the far end begins
    // where the first of it does; what lies in between has a band of its own.
    let what = |some: &[&ProblemSpan]| match some {
        [one] => format!("{} of `{}`", one.code.name(), one.views.join("`, `")),
        many => format!("{} problems there", many.len()),
    };
    // What is over almost at once needs no band.
    let is_worth_it = |t: &ProblemSpan| t.to - t.from >= if scale { LEAST_SCALES } else { LEAST_BAND };
    let at_near = problems.iter().filter(|t| t.from <= range.from && t.to < range.to);
    let at_near: Vec<&ProblemSpan> = at_near.filter(|t| is_worth_it(t)).collect();
    if let Some(end) = at_near.iter().map(|t| t.to).max_by(f64::total_cmp) {
        let name = free(if scale { "small_text" } else { words.0 });
        all.push((format!("band {name}: {property} < {}", number(step(end, true))), what(&at_near)));
    }
    let at_far = problems.iter().filter(|t| t.to >= range.to && t.from > range.from);
    let at_far: Vec<&ProblemSpan> = at_far.filter(|t| is_worth_it(t)).collect();
    if let Some(start) = at_far.iter().map(|t| t.from).min_by(f64::total_cmp) {
        let name = free(if scale { "large_text" } else { words.1 });
        all.push((format!("band {name}: {property} >= {}", number(step(start, false))), what(&at_far)));
    }
    let between =
        problems.iter().filter(|t| t.from > range.from && t.to < range.to).filter(|t| is_worth_it(t));
    for (index, trouble) in between.take(MAX_BETWEEN).enumerate() {
        let (from, to) = (number(step(trouble.from, false)), number(step(trouble.to, true)));
        let name = if index == 0 { "between".to_owned() } else { format!("between_{}", index + 1) };
        all.push((format!("band {}: {property} {from}..{to}", free(&name)), what(&[trouble])));
    }
    all
}

/// How many bands in the middle of a range are proposed.
const MAX_BETWEEN: usize = 3;

/// The least width of a band that is proposed, in logical pixels.
const LEAST_BAND: f64 = 2.0;

/// The same for text scales.
const LEAST_SCALES: f64 = 0.02;
