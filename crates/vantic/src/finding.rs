//! Findings: one thing wrong or doubtful each, as values that any renderer can show.

use serde::Serialize;
use std::collections::BTreeMap;
use vantic_core::geometry::Interval;
use vantic_core::model::{BandId, Code, RuleRef, ViewId};

/// How bad a finding is.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize)]
#[serde(rename_all = "snake_case")]
pub enum Severity {
    /// The screen is broken.
    Error,
    /// The screen is probably not what was meant.
    Warning,
    /// Worth knowing.
    Note,
}

impl Severity {
    /// The name in messages.
    pub fn name(self) -> &'static str {
        match self {
            Severity::Error => "error",
            Severity::Warning => "warning",
            Severity::Note => "note",
        }
    }
}

/// A fix of a finding that has been tried on every display.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct Fix {
    /// What it is called in a report: the number of its finding there, counted from 1, and a letter.
    pub name: String,
    /// What it does, in plain words.
    pub text: String,
    /// The edits of the file.
    pub edits: Vec<Edit>,
    /// What else moves, in plain words: `moves 2 other views on 3 displays`.
    pub moves: String,
    /// The views that move or change their size by more than half a logical pixel, those of the finding left
    /// out.
    pub moved: Vec<String>,
    /// On how many displays something moves, the views of the finding counted.
    pub moved_on: usize,
    /// Which other findings of the report it also fixes, by their number there, counted from 1.
    pub also_fixes: Vec<usize>,
}

/// One edit of a screen file.
#[derive(Clone, Debug, PartialEq, Serialize)]
pub struct Edit {
    /// The file: the screen's own, or one that it is based on.
    pub file: String,
    /// The line, counted from 1.
    pub line: usize,
    /// The column, counted from 1 in characters.
    pub column: usize,
    /// What stands there now; nothing where something is put in.
    pub old: String,
    /// What is to stand there.
    pub new: String,
}

/// One thing wrong or doubtful about a screen.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct Finding {
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
    /// The relations that take part, for those who have the screen at hand.
    #[serde(skip)]
    pub rule_refs: Vec<RuleRef>,
    /// The givens that take part, as `view.width` or `view.height`.
    pub given: Vec<String>,
    /// What else of the screen it is about, for those who have its file at hand.
    #[serde(skip)]
    pub locations: Vec<Location>,
    /// The displays it is found on.
    pub displays: Vec<String>,
    /// The display that the message and the amount are of: the one where it is worst.
    pub worst: String,
    /// Whether the amount is not the same on all its displays.
    #[serde(skip)]
    pub varies: bool,
    /// The parts that it is about, and where they are placed; only a file has parts, so that what reads it
    /// ([`crate::resolve::SourceMap::parts_of`]) fills this in.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub placed: Vec<PlacedPart>,
    /// What is wrong, in plain words.
    pub message: String,
    /// What to do next, in plain words.
    pub help: String,
    /// By how much, in logical pixels, on the worst display; square pixels for an area.
    pub amount: f64,
    /// Fixes that were tried.
    pub fixes: Vec<Fix>,
    /// The fix of another finding that fixes this one too, so that it follows from what is wrong there.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub fixed_by: Option<String>,
    /// Why the author accepts it, if they do.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub accepted: Option<String>,
}

impl Finding {
    pub(crate) fn new(code: Code, severity: Severity) -> Self {
        Self {
            code,
            severity,
            views: Vec::new(),
            coordinates: Vec::new(),
            follows: Vec::new(),
            ranges: BTreeMap::new(),
            rules: Vec::new(),
            rule_refs: Vec::new(),
            given: Vec::new(),
            locations: Vec::new(),
            displays: Vec::new(),
            worst: String::new(),
            varies: false,
            placed: Vec::new(),
            message: String::new(),
            help: String::new(),
            amount: 0.0,
            fixes: Vec::new(),
            fixed_by: None,
            accepted: None,
        }
    }

    /// What makes it the same finding on several displays.
    pub(crate) fn key(&self) -> Key {
        let names = [&self.views, &self.coordinates, &self.rules, &self.given].map(Clone::clone);
        (self.code, self.severity, names)
    }
}

/// A place in a screen file that a finding is about.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Location {
    /// Where a view is declared.
    View(ViewId),
    /// Where a band is declared.
    Band(BandId),
    /// A language, counted from 0.
    Language(usize),
    /// What is expected on a display, counted from 0.
    Expectation(usize),
    /// What the screen claims, counted from 0.
    Claim(usize),
}

/// What two findings share that are the same.
pub(crate) type Key = (Code, Severity, [Vec<String>; 4]);

/// A part at one of its places.
#[derive(Clone, Debug, PartialEq, Eq, Serialize)]
pub struct PlacedPart {
    /// The name of the part.
    pub part: String,
    /// The path of the view that it is placed in, or `screen`.
    pub place: String,
}
