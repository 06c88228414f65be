//! What differs from one segment of a range to the next, in words.

use crate::finding::Severity;
use crate::sweep::counting::counting_arguments;
use crate::sweep::segment::{Sample, Segment, rounded_border};
use serde::Serialize;
use std::collections::{BTreeSet, HashMap, HashSet};
use vantic_core::model::{RuleRef, Screen};
use vantic_core::plan::{Placement, SegmentEnd};
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

pub(crate) fn events(screen: &Screen, segments: &[Segment]) -> Vec<Event> {
    let mut all = Vec::new();
    if let Some(first) = segments.first() {
        for finding in first.first.found.findings.values() {
            let mut event = Event::new(first.from, EventKind::Breaks);
            event.text = format!("from the beginning: {}", finding.message(screen));
            (event.views, event.severity) = (finding.paths(screen), Some(finding.severity));
            all.push(event);
        }
    }
    for two in segments.windows(2) {
        all.append(&mut between(screen, &two[0], &two[1]));
    }
    all
}

impl Event {
    fn new(at: f64, kind: EventKind) -> Self {
        let (severity, views, rule, text, leaps) = (None, Vec::new(), None, String::new(), None);
        Self { at: rounded_border(at), kind, severity, views, rule, text, leaps }
    }
}

/// What changes at one border, as it is found.
struct Changes<'a> {
    screen: &'a Screen,
    at: f64,
    was: &'a Sample,
    is: &'a Sample,
    /// What is there in the middle of the segments on both sides.
    sides: (Placement, Placement),
    events: Vec<Event>,
}

impl Changes<'_> {
    fn add(&mut self, kind: EventKind, views: Vec<String>, rule: Option<String>, text: String) {
        self.events.push(Event { views, rule, text, ..Event::new(self.at, kind) });
    }

    fn of_rule(&mut self, kind: EventKind, rule: RuleRef, text: String) {
        let views = rule.owner(self.screen).map(|view| self.screen.path(view)).into_iter().collect();
        self.add(kind, views, Some(rule.name(self.screen)), text);
    }

    fn bands(&mut self) {
        for band in self.screen.bands() {
            let holds = |end: &Sample| band.condition().holds(end.placement.canvas());
            let what = match (holds(self.was), holds(self.is)) {
                (false, true) => "begins",
                (true, false) => "ends",
                _ => continue,
            };
            self.add(EventKind::Band, Vec::new(), None, format!("band `{}` {what}", band.name()));
        }
    }

    fn views(&mut self) {
        let (screen, was, is) = (self.screen, &self.was.placement, &self.is.placement);
        for (view, about) in screen.views() {
            let path = screen.path(view);
            let is_there = is.frame(view).is_some();
            if was.frame(view).is_some() != is_there {
                let what = if is_there { "appears" } else { "disappears" };
                self.add(EventKind::Appears, vec![path.clone()], None, format!("`{path}` {what}"));
            }
            if let (Some(a), Some(b)) = (was.text_size(view), is.text_size(view))
                && a.lines != b.lines
                && about.text().is_some()
            {
                let plural = if b.lines == 1 { "line" } else { "lines" };
                let text = format!("`{path}` goes from {} to {} {plural}", a.lines, b.lines);
                self.add(EventKind::Lines, vec![path.clone()], None, text);
            }
            if let (Some(a), Some(b)) = (was.grids.get(&view), is.grids.get(&view))
                && (a.columns, a.rows) != (b.columns, b.rows)
            {
                let text = format!(
                    "`{path}` goes from {} columns and {} rows to {} and {}",
                    a.columns, a.rows, b.columns, b.rows
                );
                self.add(EventKind::Arranged, vec![path.clone()], None, text);
            }
            if let (Some(a), Some(b)) = (was.visible_spares.get(&view), is.visible_spares.get(&view))
                && a != b
            {
                let text =
                    format!("`{path}` shows {} of {} spare children instead of {}", b.shown, b.of, a.shown);
                self.add(EventKind::Arranged, vec![path], None, text);
            }
        }
    }

    fn rules(&mut self) {
        let (screen, was, is) = (self.screen, self.was, self.is);
        for rule in is.found.missed.difference(&was.found.missed) {
            let (name, level) = (rule.name(screen), rule.level(screen).unwrap_or_default());
            let text = format!("`{name}` on level `{level}` begins to give way");
            self.of_rule(EventKind::GivesWay, *rule, text);
        }
        for rule in was.found.missed.difference(&is.found.missed) {
            self.of_rule(EventKind::GivesWay, *rule, format!("`{}` holds again", rule.name(screen)));
        }
        for rule in is.tight.difference(&was.tight) {
            self.of_rule(EventKind::Limit, *rule, format!("{} becomes the limit", limit(screen, *rule)));
        }
        for rule in was.tight.difference(&is.tight) {
            self.of_rule(EventKind::Limit, *rule, format!("{} stops being the limit", limit(screen, *rule)));
        }
        // Those of one rule in their order; a band may have others.
        if was.picked.len() != is.picked.len() {
            return;
        }
        let pairs = std::iter::zip(&was.picked, &is.picked);
        let changed = pairs.filter(|((of, before), (rule, now))| of == rule && before != now);
        let rules: BTreeSet<RuleRef> = changed.map(|((of, _), _)| *of).collect();
        for rule in rules {
            let counting = |at: &Placement| counting_arguments(screen, at, rule);
            let now: Vec<String> = match (counting(&self.sides.0), counting(&self.sides.1)) {
                (Some(before), Some(now)) => {
                    std::iter::zip(before, now).filter(|(a, b)| a != b).map(|(_, b)| b).collect()
                }
                _ => vec!["another value of its `max`, `min` or `clamp`".to_owned()],
            };
            for argument in now {
                let text = format!("in {}, {argument} counts from here on", limit(screen, rule));
                self.of_rule(EventKind::Limit, rule, text);
            }
        }
    }

    /// `after`: the end of the segment that begins here.
    fn findings(&mut self, after: &Sample) {
        let (was, is) = (&self.was.found.findings, &self.is.found.findings);
        for (key, finding) in is.iter().filter(|(key, _)| !was.contains_key(*key)) {
            // What begins small is reported by what it comes to.
            let worst = after.found.findings.get(key).unwrap_or(finding);
            let begins = format!("{}: {}", finding.code.name(), worst.message(self.screen));
            self.add(EventKind::Breaks, finding.paths(self.screen), None, begins);
        }
        for (_, finding) in was.iter().filter(|(key, _)| !is.contains_key(*key)) {
            let views = finding.paths(self.screen);
            let ends = format!("{} of `{}` ends", finding.code.name(), views.join("`, `"));
            self.add(EventKind::Resolved, views, None, ends);
        }
    }
}

/// What changes between two segments.
fn between(screen: &Screen, before: &Segment, after: &Segment) -> Vec<Event> {
    let (was, is) = (&before.last, &after.first);
    let sides = (before.between(0.5), after.between(0.5));
    let mut changes = Changes { screen, at: after.from, was, is, sides, events: Vec::new() };
    changes.bands();
    changes.views();
    changes.rules();
    changes.findings(&after.last);
    let mut events = changes.events;
    // Both halves of a pair, `size = 40`, give way at once: that is reported once.
    let mut met = HashSet::new();
    events.retain(|event| met.insert(event.text.clone()));
    if events.iter().any(|e| e.kind == EventKind::Breaks) {
        // Of several about the same views, the first counts.
        let mut severities: HashMap<Vec<String>, Severity> = HashMap::new();
        for finding in is.found.findings.values() {
            severities.entry(finding.paths(screen)).or_insert(finding.severity);
        }
        for event in events.iter_mut().filter(|e| e.kind == EventKind::Breaks) {
            event.severity = severities.get(&event.views).copied();
        }
    }
    let leaps = leaps(screen, was, is);
    if leaps.is_some() && events.is_empty() {
        let mut event = Event::new(after.from, EventKind::Arranged);
        let is_choice = matches!(after.because, Some(SegmentEnd::Choice));
        event.text = if is_choice { "layout changes".into() } else { "views jump".into() };
        events.push(event);
    }
    if let Some(first) = events.first_mut() {
        first.leaps = leaps;
    }
    events
}

/// A limit as it reads, with its name.
fn limit(screen: &Screen, rule: RuleRef) -> String {
    if rule.written().is_none() {
        return format!("`{}`", rule.name(screen));
    }
    format!("`{}` (`{}`)", rule.text(screen).unwrap_or_default(), rule.name(screen))
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
    // Both sides are looked at just beside the border, so that no more digits are known.
    (!leaping.is_empty()).then(|| (leaping.len(), (most * 1e4).round() / 1e4))
}

/// `320 to 560`.
pub(crate) fn span(from: f64, to: f64) -> String {
    format!("{} to {}", number(from), number(to))
}
