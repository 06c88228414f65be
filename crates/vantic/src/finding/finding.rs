//! A finding: what is wrong, as ids and numbers.

use crate::finding::detail::Detail;
use crate::finding::fix::Fix;
use serde::Serialize;
use vantic_core::geometry::Interval;
use vantic_core::model::{BandId, Code, Coordinate, RuleRef, ViewId};

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

/// A coordinate of a view.
pub type ViewCoordinate = (ViewId, Coordinate);

/// One thing wrong or doubtful about a screen. What it is called and says: [`Finding::message`],
/// [`Finding::named`].
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct Finding {
    /// What is wrong.
    pub code: Code,
    /// How bad it is.
    pub severity: Severity,
    /// The views it is about.
    pub views: Vec<ViewId>,
    /// The root causes.
    pub coordinates: Vec<ViewCoordinate>,
    /// The coordinates that follow from the root causes.
    pub follows: Vec<ViewCoordinate>,
    /// The free interval of each coordinate.
    pub ranges: Vec<(ViewCoordinate, Interval)>,
    /// The rules that take part.
    pub rules: Vec<RuleRef>,
    /// The sizes whose being at least zero takes part.
    pub given: Vec<ViewCoordinate>,
    /// What else of the screen it is about.
    pub locations: Vec<Location>,
    /// The displays it is found on, by their index in [`crate::check::Report::displays`].
    pub displays: Vec<usize>,
    /// The display that the message and the amount are of: the one where it is worst. `None` for what is so
    /// on every display.
    pub worst: Option<usize>,
    /// Whether the amount is not the same on all its displays.
    pub varies: bool,
    /// The parts that it is about, and where they are placed; only a file has parts, so that what reads it
    /// ([`crate::resolve::SourceMap::parts_of`]) fills this in.
    pub placed: Vec<PlacedPart>,
    /// By how much, in logical pixels, on the worst display; square pixels for an area.
    pub amount: f64,
    /// The same of other copies of its views: of what is repeated, or of parts of the screen that hold the
    /// same.
    pub copies: Vec<Finding>,
    /// Fixes that were tried.
    pub fixes: Vec<Fix>,
    /// How many changes of the file were tried to fix it; 0 where none were looked for.
    pub tried: usize,
    /// How many more there was no work left to try, where none of those is a fix.
    pub untried: usize,
    /// Where none of them is a fix, the change that comes nearest and what it would make worse, in plain words. It is
    /// not offered as a fix.
    pub nearest: Option<String>,
    /// The fix of another finding that fixes this one too, so that it follows from what is wrong there.
    pub fixed_by: Option<String>,
    /// Which acceptance of the screen accepts it, counted from 0, if one does.
    pub accepted: Option<usize>,
    /// What exactly was found.
    pub(crate) detail: Detail,
}

impl Finding {
    pub(crate) fn new(code: Code, severity: Severity, detail: impl Into<Detail>) -> Self {
        Self {
            code,
            severity,
            views: Vec::new(),
            coordinates: Vec::new(),
            follows: Vec::new(),
            ranges: Vec::new(),
            rules: Vec::new(),
            given: Vec::new(),
            locations: Vec::new(),
            displays: Vec::new(),
            worst: None,
            varies: false,
            placed: Vec::new(),
            amount: 0.0,
            copies: Vec::new(),
            fixes: Vec::new(),
            tried: 0,
            untried: 0,
            nearest: None,
            fixed_by: None,
            accepted: None,
            detail: detail.into(),
        }
    }

    /// An error.
    pub(crate) fn error(code: Code, detail: impl Into<Detail>) -> Self {
        Self::new(code, Severity::Error, detail)
    }

    /// A warning.
    pub(crate) fn warning(code: Code, detail: impl Into<Detail>) -> Self {
        Self::new(code, Severity::Warning, detail)
    }

    /// A note.
    pub(crate) fn note(code: Code, detail: impl Into<Detail>) -> Self {
        Self::new(code, Severity::Note, detail)
    }

    /// About these views.
    pub(crate) fn about(self, views: impl Into<Vec<ViewId>>) -> Self {
        Self { views: views.into(), ..self }
    }

    /// Caused by these coordinates.
    pub(crate) fn at(self, coordinates: Vec<ViewCoordinate>) -> Self {
        Self { coordinates, ..self }
    }

    /// With these rules.
    pub(crate) fn with_rules(self, rules: Vec<RuleRef>) -> Self {
        Self { rules, ..self }
    }

    /// By so much.
    pub(crate) fn by(self, amount: f64) -> Self {
        Self { amount, ..self }
    }

    /// The finding, and the same of other copies.
    pub fn each(&self) -> impl Iterator<Item = &Finding> {
        std::iter::once(self).chain(&self.copies)
    }

    /// The free interval of a coordinate, if it is free.
    pub fn range(&self, of: ViewCoordinate) -> Option<Interval> {
        self.ranges.iter().find(|(free, _)| *free == of).map(|(_, range)| *range)
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
    /// A drawing, counted from 0, or a view in it.
    Drawing(usize, Option<ViewId>),
    /// Something that nothing uses, counted from 0.
    Leftover(usize),
}

/// A part at one of its places.
#[derive(Clone, Debug, PartialEq, Eq, Serialize)]
pub struct PlacedPart {
    /// The name of the part.
    pub part: String,
    /// The path of the view that it is placed in, or `screen`.
    pub place: String,
}
