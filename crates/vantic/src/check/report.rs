//! What a check is reported and what it gives.

use crate::displays::displays::Displays;
use crate::finding::{Finding, NamedFinding, Severity};
use crate::sweep::range::Proof;
use vantic_core::display::Display;
use vantic_core::model::Screen;
use vantic_core::plan::{Placement, WarmStartSource};

/// What a check found, and the placements it looked at.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct Report {
    /// The findings, the worst first. Those that the author accepts are among them, marked.
    pub findings: Vec<Finding>,
    /// The placement on each display.
    pub placements: Vec<Placement>,
    /// The names of the displays that findings are on: those of the placements, in their order, then those
    /// with a keyboard or scrolled, and those that an expectation, a claim or the border of a band was
    /// looked at on.
    pub displays: Vec<String>,
    /// The claims of the screen that hold, each with how sure that is.
    pub proven: Vec<(String, Proof)>,
    /// What was left out, since it takes too long.
    pub left_out: Vec<LeftOut>,
    /// How much work it took, in the units of [`vantic_core::work`]; the same for the same check.
    pub work: u64,
    /// The placements with a keyboard, or scrolled, in which something was found that is not there without.
    pub(crate) further: Vec<Placement>,
}

/// What a check left out: the work on one screen is bounded, and counted, so that the same check leaves out the same.
#[derive(Clone, Debug, PartialEq, Eq, serde::Serialize)]
#[non_exhaustive]
pub struct LeftOut {
    /// What it is, in words: `scroll positions`.
    pub what: String,
    /// How many were looked at.
    pub looked_at: usize,
    /// How many there are.
    pub of: usize,
}

impl Report {
    /// The placement on a display of [`Report::displays`]; `None` for what was not placed for itself.
    pub fn placed(&self, display: usize) -> Option<&Placement> {
        let of_name = |name: &String| self.further.iter().find(|p| p.display.name() == name);
        self.placements.get(display).or_else(|| of_name(self.displays.get(display)?))
    }

    /// The findings that the author does not accept.
    pub fn open(&self) -> impl Iterator<Item = &Finding> {
        self.findings.iter().filter(|f| f.accepted.is_none())
    }

    /// The findings with names and sentences in place of ids, for machines.
    ///
    /// ```
    /// use vantic::prelude::*;
    ///
    /// let source = vantic::read("screen quay { view a { left = 400; top = 0; size = 20 } }")?;
    /// let plan = Plan::new(source.screen)?;
    /// let report = vantic::check(&plan, &[Display::new(390.0, 844.0)?], &PlainText)?;
    /// let finding = &report.named(plan.screen())[0];
    /// assert_eq!((finding.views[0].as_str(), finding.amount), ("a", 30.0));
    /// assert_eq!(finding.displays, ["390x844"]);
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn named(&self, screen: &Screen) -> Vec<NamedFinding> {
        self.findings.iter().map(|finding| finding.named(screen, &self.displays)).collect()
    }

    /// The name of a display that a finding is on.
    pub fn display_name(&self, index: usize) -> &str {
        self.displays.get(index).map_or("", String::as_str)
    }

    /// The names of the displays that a finding is on.
    pub fn names_of<'a>(&'a self, finding: &'a Finding) -> impl Iterator<Item = &'a str> {
        finding.displays.iter().map(|&index| self.display_name(index))
    }

    /// Whether an error is among them (or any finding, if `strict`).
    pub fn has_failed(&self, strict: bool) -> bool {
        self.open().any(|f| strict || f.severity == Severity::Error)
    }
}

/// The index of a display among those looked at, which it joins where it is none of them.
pub(crate) fn display_index(names: &mut Vec<String>, name: &str) -> usize {
    names.iter().position(|known| known == name).unwrap_or_else(|| {
        names.push(name.to_owned());
        names.len() - 1
    })
}

/// How a screen is checked.
#[derive(Clone, Copy)]
pub struct CheckOptions<'a> {
    /// The displays by which expectations name theirs; the catalogue without them.
    pub displays: Option<&'a Displays>,
    /// Called with the number of displays that were looked at since the last call, from any thread.
    pub progress: Option<&'a (dyn Fn(usize) + Sync)>,
    /// How much work it may take, as a multiple of [`CHECK_WORK`]: 1 unless stated, at most
    /// [`MAX_EFFORT`](crate::sweep::MAX_EFFORT). [`Report::left_out`] tells what was left out.
    pub effort: f64,
}

/// How much work all displays of one check may take, in the units of [`vantic_core::work`]; each as much as the others,
/// and at least what a screen of its size takes.
pub const CHECK_WORK: u64 = 40_000_000;

/// How much work the claims of a screen may take, over all of their ranges; its expectations may as much.
pub const CLAIM_WORK: u64 = 10_000_000;

/// How much work it may take to look at both sides of where bands begin.
pub const JUMP_WORK: u64 = 5_000_000;

impl Default for CheckOptions<'_> {
    fn default() -> Self {
        Self { displays: None, progress: None, effort: 1.0 }
    }
}

impl std::fmt::Debug for CheckOptions<'_> {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.debug_struct("CheckOptions").finish_non_exhaustive()
    }
}

/// Whether what is found on a display refutes a trial.
pub(crate) type Refutes<'a> = dyn Fn(&Display, &[Finding]) -> bool + Sync + 'a;

/// How a change of a screen is tried.
#[derive(Clone, Copy, Default)]
pub(crate) struct TrialOptions<'a> {
    /// What is solved without the change.
    pub(crate) begin: Option<&'a WarmStartSource<'a>>,
    /// Given up as soon as a placement is not worth it; without it all of them are.
    pub(crate) is_worth_it: Option<&'a (dyn Fn(&Placement) -> bool + Sync)>,
    /// Given up as soon as what is found on a display refutes it.
    pub(crate) is_refuted: Option<&'a Refutes<'a>>,
    /// Whether what is noted of the screen itself, whatever the display, is left out.
    pub(crate) without_notes: bool,
    /// How much work a display may take, if another than for a check; one that takes more refutes the trial.
    pub(crate) most_work: Option<u64>,
}
