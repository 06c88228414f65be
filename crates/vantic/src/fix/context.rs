//! What the search for fixes of one report has at hand.

use crate::check::report::{CheckOptions, Report};
use crate::files::bases::Assembled;
use crate::fix::baseline::SolvedBefore;
use crate::fix::change::Change;
use crate::resolve::source_map::SourceMap;
use crate::syntax::parser::parser::parse_screens;
use crate::syntax::tree::Node;
use std::collections::HashMap;
use vantic_core::display::Display;
use vantic_core::geometry::Axis;
use vantic_core::model::{Coordinate, Edges, RuleId, Screen, ViewId};
use vantic_core::plan::Plan;
use vantic_core::text::{Measure, RememberedText};

/// How many changes are tried for one finding, each on the display where it is worst.
pub(crate) const MAX_TRIED: usize = 96;

/// A screen file that has been checked, to find fixes of what was found.
#[derive(Clone, Copy)]
pub struct Fixes<'a> {
    /// The file, with what it is based on.
    pub files: &'a Assembled,
    /// Where its rules stand.
    pub map: &'a SourceMap,
    /// The screen that it holds, in the version that was checked.
    pub plan: &'a Plan,
    /// What measures its texts.
    pub measure: &'a (dyn Measure + Sync),
    /// How it was checked; its effort goes for the search too, which takes about twice the work of the check.
    pub how: CheckOptions<'a>,
    /// What stands beside the file (words, expectations), added to the screen of a changed one; `None` where
    /// that does not fit any more.
    pub beside: &'a (dyn Fn(Screen) -> Option<Screen> + Sync),
}

impl std::fmt::Debug for Fixes<'_> {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.debug_struct("Fixes").field("screen", &self.plan.screen().name()).finish_non_exhaustive()
    }
}

/// What the rules of an axis call its edges, its size and its middle.
#[derive(Clone, Copy, Debug)]
pub(crate) struct AxisWords {
    pub(crate) near: &'static str,
    pub(crate) far: &'static str,
    pub(crate) size: &'static str,
    pub(crate) middle: &'static str,
}

impl AxisWords {
    pub(crate) fn of(across: bool) -> Self {
        let (axis, middle) =
            if across { (Axis::Across, Coordinate::CenterX) } else { (Axis::Down, Coordinate::CenterY) };
        let Edges { near, far, size } = Edges::of_axis(axis);
        let [near, far, size, middle] = [near, far, size, middle].map(Coordinate::spelling);
        Self { near, far, size, middle }
    }
}

/// Something that may be meant: changes of the text, and how likely that is.
#[derive(Clone, Debug)]
pub(crate) struct Candidate {
    pub(crate) said: String,
    pub(crate) changes: Vec<Change>,
    pub(crate) weight: f64,
    /// The rules that are written by it, where it is no more than that.
    pub(crate) lines: Vec<String>,
    /// What speaks for it, in a few words.
    pub(crate) reason: String,
    /// Whether that settles it, as long as nothing else would do as well.
    pub(crate) is_evident: bool,
}

impl Candidate {
    pub(crate) fn new(said: String, changes: Vec<Change>, weight: f64) -> Self {
        let (lines, reason, is_evident) = (Vec::new(), String::new(), false);
        Self { said, changes, weight, lines, reason, is_evident }
    }

    /// For this reason, where it has none yet.
    pub(crate) fn because(mut self, reason: impl Into<String>) -> Self {
        if self.reason.is_empty() {
            self.reason = reason.into();
        }
        self
    }

    /// Together with what another one changes.
    pub(crate) fn and(mut self, other: Self) -> Self {
        self.said = format!("{}, and {}", self.said, other.said);
        self.changes.extend(other.changes);
        self
    }

    /// Writing these rules.
    pub(crate) fn writing(mut self, lines: &[String]) -> Self {
        self.lines = lines.to_vec();
        self
    }

    /// What speaks for it settles it.
    pub(crate) fn evident(self) -> Self {
        Self { is_evident: true, ..self }
    }
}

/// Some ideas, all for one reason.
pub(crate) fn because(ideas: impl IntoIterator<Item = Candidate>, reason: &str) -> Vec<Candidate> {
    ideas.into_iter().map(|idea| idea.because(reason)).collect()
}

/// What ideas are made from.
pub(crate) struct FixContext<'a> {
    pub(crate) fixes: Fixes<'a>,
    pub(crate) tree: Node,
    pub(crate) displays: Vec<Display>,
    pub(crate) report: &'a Report,
    /// The rules of each view.
    pub(crate) rules: HashMap<ViewId, Vec<RuleId>>,
    /// What measures texts, the same ones again and again.
    pub(crate) measure: RememberedText<'a>,
    pub(crate) solved: SolvedBefore,
}

impl<'a> FixContext<'a> {
    pub(crate) fn new(fixes: Fixes<'a>, report: &'a Report) -> Self {
        let tree = parse_screens(fixes.files.text(), fixes.files.names().count()).0;
        let displays = report.placements.iter().map(|p| p.display.clone()).collect();
        let mut rules: HashMap<ViewId, Vec<RuleId>> = HashMap::new();
        for (id, rule) in fixes.plan.screen().rules() {
            if let Some(owner) = rule.owner() {
                rules.entry(owner).or_default().push(id);
            }
        }
        let measure = RememberedText::new(fixes.measure);
        Self { fixes, tree, displays, report, rules, measure, solved: SolvedBefore::default() }
    }
}
