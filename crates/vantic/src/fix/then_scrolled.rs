//! A change that fixes a finding and leaves too little space for something else: joined with a view that scrolls what does
//! not fit any more.

use crate::fix::change::{Change, changed};
use crate::fix::context::{Candidate, FixContext, Fixes};
use crate::fix::trial::Uncovered;
use crate::fix::weights::structure;
use vantic_core::model::Code;

impl FixContext<'_> {
    /// The change, and a scroller for what goes over an end by it, or lies over something else.
    pub(crate) fn then_scrolled(&self, idea: &Candidate, uncovered: &Uncovered) -> Option<Candidate> {
        let Uncovered { files, map, plan, report, worse, .. } = uncovered;
        let context = FixContext::new(Fixes { files, map, plan, ..self.fixes }, report);
        let found = worse.iter().map(|&at| &report.findings[at]);
        let found = found.filter(|f| matches!(f.code, Code::Outside | Code::Overlap | Code::Covered));
        let mut scrollers = found.flat_map(|f| f.views.iter().map(move |&view| (f, view)));
        let scroller = scrollers.find_map(|(finding, view)| {
            let into = context.in_a_scroller(finding, view);
            into.or_else(|| context.holder_scrolls(finding, view))
        })?;
        let text = changed(files.text(), &scroller.changes)?;
        let said = format!("{}, and {}", idea.said, scroller.said);
        let weight = idea.weight.min(structure::INTO_SCROLLER);
        let reason = match idea.reason.as_str() {
            "" => scroller.reason,
            reason => format!("{reason}; {} then", scroller.reason),
        };
        Some(Candidate::new(said, vec![difference(self.text(), &text)?], weight).because(reason))
    }
}

/// The one change that makes a text another one: the lines that differ.
fn difference(old: &str, new: &str) -> Option<Change> {
    let same_lines = |a: &mut dyn Iterator<Item = &str>, b: &mut dyn Iterator<Item = &str>| -> usize {
        std::iter::zip(a, b).take_while(|(a, b)| a == b).map(|(a, _)| a.len()).sum()
    };
    let lines = |text| str::split_inclusive(text, '\n');
    let start = same_lines(&mut lines(old), &mut lines(new));
    let end = same_lines(&mut lines(&old[start..]).rev(), &mut lines(&new[start..]).rev());
    (old.len() > start + end).then(|| Change::new(start..old.len() - end, &new[start..new.len() - end]))
}
