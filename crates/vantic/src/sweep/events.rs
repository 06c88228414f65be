//! What differs from one stretch of a range to the next, in words.

use crate::finding::Severity;
use crate::sweep::segment::{Sample, Stretch};
use serde::Serialize;
use std::collections::HashSet;
use vantic_core::model::{RuleRef, Screen};
use vantic_core::plan::SegmentEnd;
use vantic_core::words::number;

/// A view jumps where an edge or size changes by more than this at a border, in logical pixels.
const LEAPS: f64 = 1.0;

/// What an event is.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize)]
#[serde(rename_all = "snake_case")]
pub enum EventKind {
    /// A band begins or ends.
    Band,
    /// Something is wrong from here on.
    Breaks,
    /// Something that was wrong is right from here on.
    Resolved,
    /// A view is there from here on, or is no more.
    Appears,
    /// A text has other lines.
    Lines,
    /// Children stand in other lines, columns or rows, or more or fewer of them are shown.
    Arranged,
    /// A preference begins to give way, or holds again.
    GivesWay,
    /// A limit begins to decide something, or no longer does.
    Limit,
}

impl EventKind {
    /// The name in tables and machine output.
    pub fn name(self) -> &'static str {
        match self {
            EventKind::Band => "band",
            EventKind::Breaks => "breaks",
            EventKind::Resolved => "resolved",
            EventKind::Appears => "appears",
            EventKind::Lines => "lines",
            EventKind::Arranged => "arranged",
            EventKind::GivesWay => "gives way",
            EventKind::Limit => "limit",
        }
    }
}

/// What begins, ends or changes at one place of a range.
#[derive(Clone, Debug, PartialEq, Serialize)]
pub struct Event {
    /// Where.
    pub at: f64,
    /// What it is.
    pub kind: EventKind,
    /// How bad what begins here is; `None` for what is no finding.
    pub severity: Option<Severity>,
    /// The views that it is about, by path.
    pub views: Vec<String>,
    /// The rule that it is about, by name.
    pub rule: Option<String>,
    /// In plain words.
    pub text: String,
    /// How many views jump here, and by how much the one that jumps furthest.
    pub leaps: Option<(usize, f64)>,
}

pub(crate) fn events(screen: &Screen, stretches: &[Stretch]) -> Vec<Event> {
    let mut all = Vec::new();
    if let Some(first) = stretches.first() {
        for finding in first.first.found.findings.values() {
            let mut event = Event::new(first.from, EventKind::Breaks);
            event.text = format!("from the beginning: {}", finding.message);
            (event.views, event.severity) = (finding.views.clone(), Some(finding.severity));
            all.push(event);
        }
    }
    for two in stretches.windows(2) {
        between(screen, &two[0], &two[1], &mut all);
    }
    all
}

impl Event {
    fn new(at: f64, kind: EventKind) -> Self {
        let (severity, views, rule, text, leaps) = (None, Vec::new(), None, String::new(), None);
        Self { at, kind, severity, views, rule, text, leaps }
    }
}

fn between(screen: &Screen, before: &Stretch, after: &Stretch, all: &mut Vec<Event>) {
    let (was, is) = (&before.last, &after.first);
    let from = all.len();
    let at = after.from;
    let mut told: Vec<Event> = Vec::new();
    let mut tell = |kind: EventKind, views: Vec<String>, rule: Option<String>, text: String| {
        told.push(Event { views, rule, text, ..Event::new(at, kind) });
    };
    for band in screen.bands() {
        let holds = |end: &Sample| band.condition().holds(end.placement.canvas());
        match (holds(was), holds(is)) {
            (false, true) => {
                tell(EventKind::Band, Vec::new(), None, format!("band `{}` begins", band.name()))
            }
            (true, false) => tell(EventKind::Band, Vec::new(), None, format!("band `{}` ends", band.name())),
            _ => {}
        }
    }
    for (view, about) in screen.views() {
        let path = screen.path(view);
        let there = |end: &Sample| end.placement.frame(view).is_some();
        match (there(was), there(is)) {
            (false, true) => tell(EventKind::Appears, vec![path.clone()], None, format!("`{path}` appears")),
            (true, false) => {
                tell(EventKind::Appears, vec![path.clone()], None, format!("`{path}` disappears"))
            }
            _ => {}
        }
        let lines = |end: &Sample| end.placement.text_size(view).map(|t| t.lines);
        if let (Some(a), Some(b)) = (lines(was), lines(is))
            && a != b
            && about.text().is_some()
        {
            let plural = if b == 1 { "line" } else { "lines" };
            tell(
                EventKind::Lines,
                vec![path.clone()],
                None,
                format!("`{path}` goes from {a} to {b} {plural}"),
            );
        }
        let grid = |end: &Sample| end.placement.grids.get(&view).map(|g| (g.columns, g.rows));
        if let (Some(a), Some(b)) = (grid(was), grid(is))
            && a != b
        {
            let text = format!("`{path}` goes from {} columns and {} rows to {} and {}", a.0, a.1, b.0, b.1);
            tell(EventKind::Arranged, vec![path.clone()], None, text);
        }
        let shown = |end: &Sample| end.placement.visible_spares.get(&view).copied();
        if let (Some(a), Some(b)) = (shown(was), shown(is))
            && a != b
        {
            let text =
                format!("`{path}` shows {} of {} spare children instead of {}", b.shown, b.of, a.shown);
            tell(EventKind::Arranged, vec![path], None, text);
        }
    }
    let told_choice = matches!(after.because, Some(SegmentEnd::Choice));
    for rule in is.found.missed.difference(&was.found.missed) {
        let name = rule.name(screen);
        let text =
            format!("`{name}` on level `{}` begins to give way", rule.level(screen).unwrap_or_default());
        tell(EventKind::GivesWay, owners(screen, *rule), Some(name), text);
    }
    for rule in was.found.missed.difference(&is.found.missed) {
        let name = rule.name(screen);
        tell(EventKind::GivesWay, owners(screen, *rule), Some(name.clone()), format!("`{name}` holds again"));
    }
    for rule in is.tight.difference(&was.tight) {
        let name = rule.name(screen);
        let text = format!("{} becomes the limit", limit(screen, *rule));
        tell(EventKind::Limit, owners(screen, *rule), Some(name), text);
    }
    for rule in was.tight.difference(&is.tight) {
        let name = rule.name(screen);
        let text = format!("{} stops being the limit", limit(screen, *rule));
        tell(EventKind::Limit, owners(screen, *rule), Some(name), text);
    }
    // Those of one rule in their order; a band may have others.
    if was.picked.len() == is.picked.len() {
        for ((of, before), (rule, now)) in std::iter::zip(&was.picked, &is.picked) {
            if of == rule && before != now {
                let which = ["first", "second", "third", "fourth"].get(*now).copied().unwrap_or("next");
                let text = format!(
                    "in {}, the {which} value of its `max`, `min` or `clamp` now wins",
                    limit(screen, *rule)
                );
                tell(EventKind::Limit, owners(screen, *rule), Some(rule.name(screen)), text);
            }
        }
    }
    for (key, finding) in &is.found.findings {
        if !was.found.findings.contains_key(key) {
            // What begins small is reported by what it comes to.
            let worst = after.last.found.findings.get(key).unwrap_or(finding);
            let begins = format!("{}: {}", finding.code.name(), worst.message);
            tell(EventKind::Breaks, finding.views.clone(), None, begins);
        }
    }
    for (key, finding) in &was.found.findings {
        if !is.found.findings.contains_key(key) {
            let ends = format!("{} of `{}` ends", finding.code.name(), finding.views.join("`, `"));
            tell(EventKind::Resolved, finding.views.clone(), None, ends);
        }
    }
    // Both halves of a pair, `size = 40`, give way at once: that is reported once.
    let mut met = HashSet::new();
    told.retain(|event| met.insert(event.text.clone()));
    all.append(&mut told);
    let severity =
        |views: &[String]| is.found.findings.values().find(|f| f.views == views).map(|f| f.severity);
    for event in all[from..].iter_mut().filter(|e| e.kind == EventKind::Breaks) {
        event.severity = severity(&event.views);
    }
    let leaps = leaps(screen, was, is);
    if leaps.is_some() && all.len() == from {
        let mut event = Event::new(at, EventKind::Arranged);
        event.text = if told_choice { "layout changes".into() } else { "views jump".into() };
        all.push(event);
    }
    if let Some(first) = all.get_mut(from) {
        first.leaps = leaps;
    }
}

fn owners(screen: &Screen, rule: RuleRef) -> Vec<String> {
    rule.owner(screen).map(|view| screen.path(view)).into_iter().collect()
}

/// A limit as it reads, with its name.
fn limit(screen: &Screen, rule: RuleRef) -> String {
    if rule.written().is_none() {
        return format!("`{}`", rule.name(screen));
    }
    let text = rule.relation(screen).map(|relation| screen.relation_text(relation, rule.owner(screen)));
    format!("`{}` (`{}`)", text.unwrap_or_default(), rule.name(screen))
}

/// How many views change their frame at once at a border, and by how much the furthest.
fn leaps(screen: &Screen, was: &Sample, is: &Sample) -> Option<(usize, f64)> {
    let by = |view| {
        let (a, b) = (was.placement.frame(view)?, is.placement.frame(view)?);
        let edges = [a.left - b.left, a.top - b.top, a.width - b.width, a.height - b.height];
        Some(edges.iter().fold(0.0, |most: f64, by| most.max(by.abs())))
    };
    let leaping: Vec<f64> =
        screen.views().filter_map(|(view, _)| by(view)).filter(|by| *by > LEAPS).collect();
    let most = leaping.iter().copied().fold(0.0, f64::max);
    (!leaping.is_empty()).then(|| (leaping.len(), vantic_core::words::millionths(most)))
}

/// `320 to 560`.
pub(crate) fn span(from: f64, to: f64) -> String {
    format!("{} to {}", number(from), number(to))
}
