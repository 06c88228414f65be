//! Sizes for what collapses to zero, and for what takes its size from what takes its own from it.

use crate::finding::Finding;
use crate::fix::context::{Candidate, FixContext, because};
use crate::fix::rule_source::{RewriteKind, Rewritten};
use crate::fix::weights::{circular, collapse};
use crate::screen_ext::ScreenExt as _;
use vantic_core::model::RuleRef;

impl FixContext<'_> {
    /// A child that collapses to zero gets a size.
    pub(crate) fn candidates_for_collapse(&self, finding: &Finding) -> Vec<Candidate> {
        let mut ideas = Vec::new();
        for (view, coordinate) in finding.coordinates.iter().copied() {
            let size = coordinate.spelling();
            for (line, weight) in self.usual_lines(view, coordinate.is_horizontal()) {
                ideas.extend(self.put_in(view, &[line], weight));
            }
            let beside = self.report.placements.first().map(|p| {
                let sizes =
                    self.screen().siblings_of(view).filter(|other| *other != view).filter_map(|other| {
                        let frame = p.frame(other)?;
                        Some(if coordinate.is_horizontal() { frame.width } else { frame.height })
                    });
                sizes.fold(0.0, f64::max)
            });
            let least = beside.filter(|size| *size >= 1.0).unwrap_or(48.0).round();
            let sized = [format!("{size} = {least}")];
            ideas.extend(self.put_in(view, &sized, collapse::OWN_SIZE));
            // Where several collapse to zero, it is the view around them that lacks a size.
            let alike = self.report.open().filter(|f| f.code == finding.code).count();
            let alike = alike.max(finding.views.len().saturating_sub(1));
            let weight = if alike > 1 { collapse::PARENT_OF_SEVERAL } else { collapse::PARENT_OF_ONE };
            ideas.extend(because(self.put_in_all(finding, &sized, collapse::EACH), "each of them needs one"));
            if let Some(parent) = self.screen().at(view).parent() {
                let sized = self.put_in(parent, &sized, weight);
                if alike > 1 {
                    let stretched = self.arranged(parent, "align stretch", collapse::STRETCHED);
                    let both = stretched.zip(sized.clone()).map(|(stretched, sized)| stretched.and(sized));
                    ideas.extend(both.map(|idea| idea.because("each fills the arrangement across")));
                }
                ideas.extend(sized);
                for (line, rank) in self.sizes_used(coordinate.is_horizontal()) {
                    ideas.extend(self.put_in(
                        parent,
                        &[line],
                        weight - collapse::PARENT_USED_LESS + collapse::PARENT_USED_EACH * rank,
                    ));
                }
            }
        }
        ideas
    }

    /// The same lines in all children of a grid that the finding is about; those that are repeated have one place.
    fn put_in_all(&self, finding: &Finding, lines: &[String], weight: f64) -> Option<Candidate> {
        let screen = self.screen();
        let cells = finding.coordinates.iter().map(|(view, _)| *view).filter(|&view| {
            let around = screen.at(view).parent().and_then(|parent| screen.at(parent).arrangement());
            around.is_some_and(|arrangement| arrangement.columns.is_some())
        });
        let mut all = cells.filter_map(|view| self.put_in(view, lines, weight));
        let mut idea = all.next()?;
        for other in all {
            let known = idea.changes.iter().any(|change| other.changes.contains(change));
            idea = if known { idea } else { idea.and(other) };
        }
        Some(idea)
    }

    /// A child that takes its size from the view around it, while that takes its own from its children:
    /// another size.
    pub(crate) fn candidates_for_circular_size(&self, finding: &Finding) -> Vec<Candidate> {
        let mut ideas = Vec::new();
        for part in &finding.rules {
            let RuleRef::Written { rule, relation } = *part else { continue };
            let Some(statement) = self.statement(rule) else { continue };
            ideas.extend(self.match_analogues(rule, &statement, circular::AS_RELATIVES));
            for Rewritten { change, how } in self.rewritten(rule, &statement) {
                let weight = match how {
                    RewriteKind::Unit => circular::UNIT,
                    RewriteKind::Place(rank) => circular::PLACE - circular::PLACE_STEP * f64::from(rank),
                    _ => circular::OTHERWISE,
                };
                ideas.extend(self.reads(&statement, change, weight));
            }
            ideas.extend(self.taken_out(&statement, relation, circular::REMOVED));
        }
        ideas
    }
}
