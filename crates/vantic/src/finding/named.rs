//! Findings for machines: names and sentences in place of ids.

use crate::finding::finding::{Finding, PlacedPart, Severity, ViewCoordinate};
use crate::finding::fix::Fix;
use serde::Serialize;
use std::collections::BTreeMap;
use vantic_core::geometry::Interval;
use vantic_core::model::{Code, Screen};

/// A [`Finding`] with names in place of ids, for machines.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct NamedFinding {
    /// What is wrong.
    pub code: Code,
    /// How bad it is.
    pub severity: Severity,
    /// The views it is about, by path.
    pub views: Vec<String>,
    /// The root causes, as `view.coordinate`.
    pub coordinates: Vec<String>,
    /// The coordinates that follow from the root causes.
    pub follows: Vec<String>,
    /// The free interval of each coordinate.
    pub ranges: BTreeMap<String, Interval>,
    /// The rules that take part, by name.
    pub rules: Vec<String>,
    /// The givens that take part, as `view.width` or `view.height`.
    pub given: Vec<String>,
    /// The displays it is found on.
    pub displays: Vec<String>,
    /// The display that the message and the amount are of: the one where it is worst.
    pub worst: String,
    /// The parts that it is about, and where they are placed.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub placed: Vec<PlacedPart>,
    /// What is wrong, in plain words.
    pub message: String,
    /// What to do next, in plain words.
    pub help: String,
    /// By how much, in logical pixels, on the worst display; square pixels for an area.
    pub amount: f64,
    /// The views that the same is found of: other copies of those of the finding.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub copies: Vec<Vec<String>>,
    /// Fixes that were tried.
    pub fixes: Vec<Fix>,
    /// The fix of another finding that fixes this one too, so that it follows from what is wrong there.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub fixed_by: Option<String>,
    /// Where nothing that was tried is a fix, the change that comes nearest and what it would make worse.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub nearest: Option<String>,
    /// Why the author accepts it, if they do.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub accepted: Option<String>,
}

impl Finding {
    /// The finding with names and sentences, for machines. `displays` are the names of
    /// [`crate::check::Report::displays`].
    pub fn named(&self, screen: &Screen, displays: &[String]) -> NamedFinding {
        let name = |&(view, coordinate): &ViewCoordinate| screen.coordinate_name(view, coordinate);
        let names = |of: &[ViewCoordinate]| of.iter().map(name).collect();
        let display = |index: usize| displays.get(index).cloned().unwrap_or_default();
        let (message, help) = self.words(screen);
        NamedFinding {
            code: self.code,
            severity: self.severity,
            views: self.paths(screen),
            coordinates: names(&self.coordinates),
            follows: names(&self.follows),
            ranges: self.ranges.iter().map(|(of, range)| (name(of), *range)).collect(),
            rules: self.rule_names(screen),
            given: names(&self.given),
            displays: self.displays.iter().map(|&index| display(index)).collect(),
            worst: self.worst.map_or_else(String::new, display),
            placed: self.placed.clone(),
            message,
            help,
            amount: self.amount,
            copies: self.copies.iter().map(|copy| copy.paths(screen)).collect(),
            fixes: self.fixes.clone(),
            fixed_by: self.fixed_by.clone(),
            nearest: self.nearest.clone(),
            accepted: self.reason(screen).map(str::to_owned),
        }
    }
}
