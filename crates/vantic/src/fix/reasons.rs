//! What speaks for a fix, how sure it is, and what comes of it for the views that it is about.

use crate::finding::{Finding, Sureness};
use crate::fix::context::{Candidate, FixContext};
use crate::fix::weights::{offered, relatives};
use vantic_core::geometry::Frame;
use vantic_core::model::{Code, Coordinate, Screen, ViewId};
use vantic_core::plan::Placement;
use vantic_core::words::number;

/// How many relatives are named.
const NAMED: usize = 2;

/// How many of its views are described.
const DESCRIBED: usize = 2;

/// A size or place that differs by less, in logical pixels, is the same.
const SAME: f64 = 0.5;

impl FixContext<'_> {
    /// A candidate with what speaks for it: what relatives say comes before all else.
    pub(crate) fn reasoned(&self, finding: &Finding, idea: Candidate) -> Candidate {
        let alike = match idea.lines.as_slice() {
            [line] if idea.changes.len() == 1 => self.relatives_saying(finding, line),
            _ => Vec::new(),
        };
        let names: Vec<String> =
            alike.iter().take(NAMED).map(|&view| format!("`{}`", self.screen().path(view))).collect();
        let reason = match (names.as_slice(), alike.len()) {
            ([], _) => {
                let reason = usual_reason(finding, &idea);
                return idea.because(reason);
            }
            ([one], _) => format!("as {one} does"),
            (some, all) if all > NAMED => format!("as {} and {} more do", some.join(", "), all - NAMED),
            (some, _) => format!("as {} do", some.join(" and ")),
        };
        // A size of what is ruled otherwise is only a size.
        let says_much = finding.code != Code::Ambiguous || idea.weight >= relatives::LINE;
        let is_evident = idea.is_evident || alike.len() >= NAMED && says_much;
        Candidate { reason, is_evident, ..idea }
    }

    /// The relatives of the views of a finding that say the same.
    fn relatives_saying(&self, finding: &Finding, line: &str) -> Vec<ViewId> {
        let line = match line.split_once(": ") {
            Some((label, rest)) if !label.contains(' ') => rest,
            _ => line,
        };
        let mut alike = Vec::new();
        for &view in &finding.views {
            for (relative, _) in self.relatives(view) {
                let mut said = [true, false].into_iter().flat_map(|across| self.lines_of(relative, across));
                if !finding.views.contains(&relative)
                    && !alike.contains(&relative)
                    && said.any(|other| other == line)
                {
                    alike.push(relative);
                }
            }
        }
        alike
    }
}

/// What speaks for a candidate by what it writes.
fn usual_reason(finding: &Finding, idea: &Candidate) -> String {
    let first = idea.lines.first().map_or("", String::as_str);
    let word = first.split(' ').next().unwrap_or_default();
    let other = || first.split(' ').nth(1).unwrap_or_default().trim_end_matches(';').to_owned();
    match word {
        _ if idea.said.starts_with("remove ") && finding.code == Code::Conflict => {
            "the other rules decide it already".to_owned()
        }
        _ if idea.said.starts_with("remove ") => "without it the others decide".to_owned(),
        _ if finding.code == Code::Covered && first.contains("safe") => {
            "`safe` leaves out the insets of the display".to_owned()
        }
        _ if first.contains('~') => "it gives way where there is too little space".to_owned(),
        "below" | "after" => format!("`{}` is before it", other()),
        "above" | "before" => format!("`{}` is behind it", other()),
        _ if first.contains("<=") || first.contains(">=") => "it keeps within that limit".to_owned(),
        _ if first.contains("center") => "in the middle".to_owned(),
        "width" | "height" | "size" | "ratio" => "a size that the screen uses".to_owned(),
        "pin" => "at the sides of what is around it".to_owned(),
        _ => match finding.code {
            Code::Ambiguous | Code::Collapse => "it says what is open".to_owned(),
            Code::Tie => "then one of them comes first".to_owned(),
            _ => "it may be tied to the wrong place".to_owned(),
        },
    }
}

/// How sure a fix is, by what speaks for it and by how far it is ahead of the next one.
pub(crate) fn sureness(is_evident: bool, weight: f64, next: f64, doubts: usize) -> Sureness {
    let is_ahead = weight - next >= offered::AHEAD;
    match weight >= offered::LIKELY {
        _ if is_evident && is_ahead && doubts == 0 => Sureness::Sure,
        true => Sureness::Likely,
        false if is_evident => Sureness::Likely,
        false => Sureness::Guess,
    }
}

/// What becomes of the views of a finding, where it is worst: `sheet` 800 to 35 wide.
pub(crate) fn becomes(
    finding: &Finding,
    (old, before): (&Screen, &Placement),
    (new, after): (&Screen, &Placement),
) -> String {
    let is_open = matches!(finding.code, Code::Ambiguous | Code::Collapse | Code::Conflict);
    let mut said = Vec::new();
    for &view in &finding.views {
        let path = old.path(view);
        let frames = (before.frame(view), new.find(&path).and_then(|view| after.frame(view)));
        let (Some(was), Some(is)) = frames else { continue };
        let free = |coordinate: Coordinate| is_open && finding.range((view, coordinate)).is_some();
        let changes = described(&was, &is, free);
        if !changes.is_empty() {
            said.push(format!("`{path}` {}", changes.join(" and ")));
        }
    }
    said.truncate(DESCRIBED);
    said.join(", ")
}

/// What is different about a frame: its sizes, else its place.
fn described(was: &Frame, is: &Frame, is_free: impl Fn(Coordinate) -> bool) -> Vec<String> {
    let rounded = |of: f64| number((of * 10.0).round() / 10.0);
    let mut said = Vec::new();
    let sizes = [
        (Coordinate::Width, was.width, is.width, "wide"),
        (Coordinate::Height, was.height, is.height, "tall"),
    ];
    for (coordinate, was, is, word) in sizes {
        if is_free(coordinate) {
            said.push(format!("is {} {word}", rounded(is)));
        } else if (was - is).abs() > SAME {
            said.push(format!("{} to {} {word}", rounded(was), rounded(is)));
        }
    }
    if !said.is_empty() {
        return said;
    }
    let places = [
        (Coordinate::Left, is.left - was.left, "right", "left"),
        (Coordinate::Top, is.top - was.top, "down", "up"),
    ];
    for (coordinate, by, on, back) in places {
        if is_free(coordinate) {
            let edge = if coordinate == Coordinate::Left { is.left } else { is.top };
            said.push(format!("has its {} at {}", coordinate.spelling(), rounded(edge)));
        } else if by.abs() > SAME {
            said.push(format!("moves {} by {}", if by > 0.0 { on } else { back }, rounded(by.abs())));
        }
    }
    said
}
