//! On which of the displays something is found, and what those have in common.

use crate::check::report::Report;
use crate::finding::Finding;
use std::collections::HashSet;
use vantic_core::display::Display;
use vantic_core::geometry::Direction;

/// On which displays a finding is found.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct DisplayCoverage<'a> {
    /// The displays, by their index in the report.
    pub on: &'a [usize],
    /// How many displays were looked at.
    pub of: usize,
    /// What these have in common and not all have: `landscape`, `right to left`.
    pub all: Vec<String>,
    /// Whether every display with all of that is among them.
    pub every: bool,
}

/// What can be said of a display, as displays have it in common.
fn traits(display: &Display) -> Vec<String> {
    let portrait = display.height() >= display.width();
    let right_to_left = display.direction() == Direction::RightToLeft;
    let mut traits = vec![
        if portrait { "portrait" } else { "landscape" }.to_owned(),
        if right_to_left { "right to left" } else { "left to right" }.to_owned(),
        format!("text {}", display.text_scale()),
        display.language().map_or_else(|| "own words".to_owned(), |l| format!("language {l}")),
    ];
    traits.extend(display.states().map(|(state, shown)| format!("{state}.{shown}")));
    traits
}

impl Report {
    /// On which of the displays a finding is found, and what those have in common.
    ///
    /// ```
    /// use vantic::prelude::*;
    ///
    /// let source = vantic::read("screen quay { view a { left = 0; top = 380; size = 20 } }")?;
    /// let plan = Plan::new(source.screen)?;
    /// let displays = [Display::new(390.0, 844.0)?, Display::new(844.0, 390.0)?];
    /// let report = vantic::check(&plan, &displays, &PlainText)?;
    /// let words = report.spread(&report.findings[0]).words();
    /// assert_eq!(words, "1 of 2 displays, all that are landscape");
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn spread<'a>(&self, finding: &'a Finding) -> DisplayCoverage<'a> {
        let on: HashSet<usize> = finding.displays.iter().copied().collect();
        let all = self.placements.iter().map(|p| traits(&p.display)).enumerate();
        let (found, others): (Vec<_>, Vec<_>) = all.partition(|(index, _)| on.contains(index));
        let [found, others] =
            [found, others].map(|some| some.into_iter().map(|(_, t)| t).collect::<Vec<_>>());
        let common = found.first().into_iter().flatten().filter(|t| found.iter().all(|f| f.contains(t)));
        // What all have says nothing.
        let all: Vec<String> = common.filter(|t| others.iter().any(|o| !o.contains(t))).cloned().collect();
        let every = !others.iter().any(|o| all.iter().all(|t| o.contains(t)));
        DisplayCoverage { on: &finding.displays, of: self.placements.len(), all, every }
    }
}

impl DisplayCoverage<'_> {
    /// In words: `all 24 displays`, `7 of 24 displays, all landscape`, `every landscape one, 7 of 24
    /// displays`.
    pub fn words(&self) -> String {
        let DisplayCoverage { on, of, all, every } = self;
        let count = on.len();
        match (all.as_slice(), every) {
            _ if count >= *of => format!("all {of} displays"),
            ([], _) => format!("{count} of {of} displays"),
            (traits, true) => format!("{count} of {of} displays, all that are {}", traits.join(" and ")),
            (traits, false) if count > 1 => format!("{count} of {of} displays, all {}", traits.join(" and ")),
            _ => format!("{count} of {of} displays"),
        }
    }
}
