//! A band from the exact width down at which a text goes wrong, in which it is smaller.

use crate::finding::Finding;
use crate::fix::change::Change;
use crate::fix::context::{Candidate, FixContext};
use crate::fix::weights::breakpoint;
use crate::screen_ext::ScreenExt as _;
use crate::sweep::effort::SweepOptions;
use crate::sweep::problem_spans::ProblemSpan;
use crate::sweep::range::Range;
use crate::sweep::run::sweep_with;
use crate::syntax::ast::nodes::{block_of, node_span};
use crate::syntax::lexer::Kind;
use vantic_core::display::{Display, DisplayQuantity};
use vantic_core::model::{Code, ViewId};
use vantic_core::plan::Plan;
use vantic_core::text::Measure;
use vantic_core::words::number;

/// Screens of more views than this are not examined for it.
const MAX_VIEWS: usize = 400;

/// The sizes that are tried, as shares of the one that the text has.
const SMALLER: [f64; 3] = [0.9, 0.8, 0.65];

/// How much of the work of a sweep the search for a width may take.
const EFFORT: f64 = 0.1;

/// Looks for the width up to which something goes wrong, which takes as long as many trials.
pub(crate) struct Border<'a> {
    plan: &'a Plan,
    measure: &'a (dyn Measure + Sync),
    display: &'a Display,
    finding: &'a Finding,
    range: Range,
}

impl Border<'_> {
    /// The width, if it goes wrong there no more.
    pub(crate) fn width(&self) -> Option<f64> {
        let Self { plan, measure, display, finding, ref range } = *self;
        let swept = sweep_with(
            plan,
            display,
            range.clone(),
            measure,
            SweepOptions { effort: EFFORT, ..SweepOptions::default() },
        )
        .ok()?;
        let views = finding.paths(plan.screen());
        let same = |t: &&ProblemSpan| t.code == finding.code && t.views == views && t.from <= range.from;
        swept.problems.iter().find(same).map(|t| t.to.ceil()).filter(|to| *to < range.to)
    }
}

impl FixContext<'_> {
    /// What to look for where a text goes wrong that a band could make smaller.
    pub(crate) fn border<'a>(&'a self, finding: &'a Finding) -> Option<Border<'a>> {
        let screen = self.screen();
        let (display, _) = self.worst(finding)?;
        let many = screen.views().count() > MAX_VIEWS;
        let candidates_for_geometry = finding.code.is_of_frames() || finding.code == Code::Unmet;
        // Who asks for larger text gets it.
        let is_of_readers =
            finding.displays.iter().filter_map(|&on| self.displays.get(on)).all(|d| d.text_scale() > 1.0);
        let fits = !is_of_readers && candidates_for_geometry && !many && screen.design().is_none();
        if !fits || self.texts_of(finding).is_empty() {
            return None;
        }
        // It ends no further than at the narrowest display like it on which it is not found.
        let alike = self.displays.iter().enumerate().filter(|(index, d)| {
            let words = (d.text_scale(), d.direction(), d.language());
            words == (display.text_scale(), display.direction(), display.language())
                && d.states().eq(display.states())
                && d.width() > display.width()
                && !finding.displays.contains(index)
        });
        let widest = alike.map(|(_, d)| d.width()).fold(2.0 * display.width(), f64::min);
        let range =
            Range { along: DisplayQuantity::Width, from: display.width(), to: widest + 1.0, gap: 0.0 };
        Some(Border { plan: self.fixes.plan, measure: &self.measure, display, finding, range })
    }

    fn texts_of(&self, finding: &Finding) -> Vec<ViewId> {
        finding.views.iter().copied().filter(|&view| self.screen().at(view).text().is_some()).collect()
    }

    /// For what goes wrong with a text below some width: a band that begins exactly there. None of these
    /// ideas weighs more than [`breakpoint::BAND`].
    pub(crate) fn banded(&self, finding: &Finding, ends: f64) -> Vec<Candidate> {
        let screen = self.screen();
        let Some((display, placement)) = self.worst(finding) else { return Vec::new() };
        let name = screen.free_band_name("narrow");
        let mut ideas = Vec::new();
        for view in self.texts_of(finding) {
            let Some(font) = placement.look(view).font.map(|f| f / display.text_scale()) else { continue };
            for (rank, share) in SMALLER.iter().enumerate() {
                let smaller = (font * share).floor().max(1.0);
                let path = screen.path(view);
                let band = format!("band {name}: screen.width < {}", number(ends));
                let when = format!("when {name} {{ in {path} {{ font {smaller} }} }}");
                let said = format!(
                    "below a width of {}, write `font {smaller}` in `{path}`: `{band}`",
                    number(ends)
                );
                let changes = self.declared(&band, &when);
                ideas.extend(changes.map(|changes| {
                    let weight = breakpoint::BAND - breakpoint::STEP * rank as f64;
                    Candidate::new(said, changes, weight).because("smaller letters need less space")
                }));
            }
        }
        ideas
    }

    /// A band behind the last one, or at the top of the screen, and what it changes at its end.
    fn declared(&self, band: &str, when: &str) -> Option<Vec<Change>> {
        let block = block_of(&self.tree.children().find(|n| n.kind() == Kind::ScreenItem)?)?;
        let head = |kind: Kind| matches!(kind, Kind::Ladder | Kind::BandItem | Kind::State);
        let last = block.children().filter(|n| head(n.kind())).last();
        let at = last.map_or(node_span(&block).start + 1, |n| self.end_of_line(node_span(&n).end));
        Some(vec![Change::new(at..at, format!("\n    {band}")), self.at_the_end(when)?])
    }

    /// A line put at the end of the screen.
    pub(crate) fn at_the_end(&self, line: &str) -> Option<Change> {
        let block = block_of(&self.tree.children().find(|n| n.kind() == Kind::ScreenItem)?)?;
        let end = block.children().last().map(|n| self.end_of_line(node_span(&n).end))?;
        Some(Change::new(end..end, format!("\n    {line}")))
    }

    /// Behind a comment that stands on the same line.
    fn end_of_line(&self, at: usize) -> usize {
        let rest = &self.text()[at..];
        let line = rest.find('\n').unwrap_or(rest.len());
        if rest[..line].trim_start().starts_with("//") { at + line } else { at }
    }
}
