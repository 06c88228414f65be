//! A band from the exact width down at which a text goes wrong, in which it is smaller.

use super::change::Change;
use super::{Idea, Source};
use crate::check::number;
use crate::finding::Finding;
use crate::read::{block_of, node_span};
use crate::screen::ViewId;
use crate::sweep::{Along, Range, sweep};
use crate::syntax::Kind;

/// Screens of more views than this are not examined for it.
const MAX_VIEWS: usize = 400;

/// The sizes that are tried, as shares of the one that the text has.
const SMALLER: [f64; 3] = [0.9, 0.8, 0.65];

impl Source<'_> {
    /// For what goes wrong with a text below some width: a band that begins exactly there.
    pub(super) fn banded(&self, finding: &Finding) -> Vec<Idea> {
        let screen = self.screen();
        let texts = finding.views.iter().filter_map(|path| screen.find(path));
        let texts: Vec<ViewId> = texts.filter(|&view| screen.at(view).text().is_some()).collect();
        let Some((display, placement)) = self.worst(finding) else { return Vec::new() };
        if texts.is_empty() || screen.views().count() > MAX_VIEWS || screen.design().is_some() {
            return Vec::new();
        }
        let widest = self.displays.iter().map(|d| d.width()).fold(2.0 * display.width(), f64::max);
        let range = Range { along: Along::Width, from: display.width(), to: widest, gap: 0.0 };
        let Ok(swept) = sweep(self.mending.plan, display, range, &self.measure) else {
            return Vec::new();
        };
        let same = |t: &&crate::sweep::Trouble| {
            t.code == finding.code && t.views == finding.views && t.from <= range.from
        };
        let Some(ends) = swept.troubles.iter().find(same).map(|t| t.to.ceil()).filter(|to| *to < widest)
        else {
            return Vec::new();
        };
        let name = screen.free_band_name("narrow");
        let mut ideas = Vec::new();
        for view in texts {
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
                ideas.extend(changes.map(|changes| Idea {
                    said,
                    changes,
                    weight: 0.62 - 0.02 * rank as f64,
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
        let end = block.children().last().map(|n| self.end_of_line(node_span(&n).end))?;
        Some(vec![
            Change::new(at..at, format!("\n    {band}")),
            Change::new(end..end, format!("\n    {when}")),
        ])
    }

    /// Behind a comment that stands on the same line.
    fn end_of_line(&self, at: usize) -> usize {
        let rest = &self.text()[at..];
        let line = rest.find('\n').unwrap_or(rest.len());
        if rest[..line].trim_start().starts_with("//") { at + line } else { at }
    }
}
