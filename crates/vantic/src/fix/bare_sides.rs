//! Bare numbers are measured from the corner of the screen; mostly, a distance to what is around the view is meant.

use crate::finding::Finding;
use crate::fix::change::Change;
use crate::fix::context::{Candidate, FixContext};
use crate::fix::progression::distance;
use crate::fix::weights::structure;
use crate::screen_ext::ScreenExt as _;
use vantic_core::model::{Code, Comparison, Coordinate, RuleId, ViewId};

/// A bare number at a far side that is larger than this, in logical pixels, may well be a place.
const MOST_INSET: f64 = 120.0;

/// A side that is a bare number.
struct BareSide {
    rule: RuleId,
    side: Coordinate,
    number: f64,
}

impl BareSide {
    fn is_far(&self) -> bool {
        matches!(self.side, Coordinate::Right | Coordinate::Bottom | Coordinate::End)
    }

    /// As a distance from the same side of what is around the view.
    fn measured(&self, around: &str) -> String {
        let side = self.side.spelling();
        let by = distance(if self.is_far() { "-" } else { "+" }, self.number);
        format!("{side} = {around}.{side}{by}")
    }
}

impl FixContext<'_> {
    /// Bare numbers of a finding's views measured from what is around each: all of them, those of one view, and those of
    /// far sides alone.
    pub(crate) fn measured_from_corner(&self, finding: &Finding) -> Vec<Candidate> {
        let mut views = finding.views.clone();
        if finding.code == Code::Conflict {
            let rules = finding.rules.iter().filter_map(|rule| rule.written());
            views.extend(rules.filter_map(|rule| self.screen().rule_at(rule).owner()));
        }
        // What is around a view may have no size for the same reason.
        let has_far = |view: &ViewId| self.bare_sides(*view).iter().any(BareSide::is_far);
        let around = finding.views.iter().flat_map(|&view| self.screen().with_ancestors(view).skip(1));
        views.extend(around.filter(has_far));
        views.sort_unstable();
        views.dedup();
        let sides: Vec<(ViewId, BareSide)> = views
            .iter()
            .flat_map(|&view| self.bare_sides(view).into_iter().map(move |side| (view, side)))
            .collect();
        let lesser = structure::FROM_PARENT - structure::SECOND;
        let all: Vec<_> = sides.iter().collect();
        let mut ideas: Vec<Candidate> =
            self.measured_from_around(&all, structure::FROM_PARENT).into_iter().collect();
        for own in sides.chunk_by(|a, b| a.0 == b.0) {
            let own: Vec<_> = own.iter().collect();
            let far: Vec<_> = own.iter().copied().filter(|(_, side)| side.is_far()).collect();
            ideas.extend(self.measured_from_around(&own, lesser));
            ideas.extend(self.measured_from_around(&far, lesser));
        }
        let has_no_space = matches!(finding.code, Code::Collapse | Code::Cut | Code::Conflict);
        let is_settled = has_no_space && sides.iter().any(|(_, side)| side.is_far());
        let settled = |idea: Candidate| if is_settled { idea.evident() } else { idea };
        ideas
            .into_iter()
            .map(|idea| settled(idea.because("a bare number is measured from the corner of the screen")))
            .collect()
    }

    fn bare_sides(&self, view: ViewId) -> Vec<BareSide> {
        let own = self.rules_outside_bands(view);
        let bare = own.filter_map(|(rule, of)| {
            let [relation] = of.relations() else { return None };
            let [term] = relation.left.terms() else { return None };
            let number = relation.right.constant();
            let bare = BareSide { rule, side: term.coordinate, number };
            let is_near = matches!(bare.side, Coordinate::Left | Coordinate::Top | Coordinate::Start);
            let is_far = bare.is_far() && (0.0..=MOST_INSET).contains(&number);
            let is_number = relation.right.is_number() && relation.comparison == Comparison::Equal;
            (is_number && (is_near || is_far)).then_some(bare)
        });
        bare.collect()
    }

    fn measured_from_around(&self, sides: &[&(ViewId, BareSide)], weight: f64) -> Option<Candidate> {
        let mut changes: Vec<Change> = Vec::new();
        let mut said: Vec<String> = Vec::new();
        for of_view in sides.chunk_by(|a, b| a.0 == b.0) {
            let mut lines = Vec::new();
            for (view, side) in of_view {
                let line = side.measured(self.around(*view));
                changes.push(self.statement(side.rule)?.replaced(&line));
                lines.push(line);
            }
            let view = of_view.first().map(|(view, _)| self.screen().path(*view))?;
            said.push(format!("write `{}` in `{view}`", lines.join("; ")));
        }
        (!changes.is_empty()).then(|| Candidate::new(said.join(", and "), changes, weight))
    }
}
