//! What drawings say: of views that are not where they were drawn, and of those that nothing places.

use crate::displays::displays::Displays;
use crate::drawing::Drawing;
use crate::drift::drifted::{Drift, Drifted, Root, compared};
use crate::finding::{Finding, Location};
use crate::fix::change::Change;
use crate::fix::context::{Candidate, FixContext};
use crate::fix::missing_rules::Lines;
use crate::fix::redrawn::{entry_drawn, ways};
use crate::fix::weights::drawn;
use crate::infer::rules::{DRAWN, suggested};
use crate::screen_ext::ScreenExt as _;
use std::collections::HashSet;
use vantic_core::geometry::Axis;
use vantic_core::model::{RuleRef, ViewId};

impl FixContext<'_> {
    /// A drawing of the screen, held against what its rules give.
    fn drift_of(&self, index: usize) -> Option<Drift> {
        let drawing = self.screen().drawings().get(index)?;
        let catalogue = Displays::default();
        let displays = self.fixes.how.displays.unwrap_or(&catalogue);
        let display = displays.find(&drawing.on, self.screen()).ok()?;
        let placement = self.fixes.plan.place(&display, &self.measure).ok()?;
        Some(compared(self.screen(), placement, &drawing.frames))
    }

    /// Another constant in the rules that do not hold in the drawing, or the drawing as the rules have it.
    pub(crate) fn as_drawn(&self, finding: &Finding) -> Vec<Candidate> {
        let drawn_in = finding.locations.iter().filter_map(|at| match at {
            Location::Drawing(index, Some(_)) => Some(*index),
            _ => None,
        });
        let drifts: Vec<(usize, Drift)> =
            drawn_in.filter_map(|index| Some((index, self.drift_of(index)?))).collect();
        let (Some(&view), Some((_, drift))) = (finding.views.first(), drifts.first()) else {
            return Vec::new();
        };
        let mut ideas = Vec::new();
        let own = drift.views.iter().find(|of| of.view == view);
        let roots: &[Root] = own.map_or(&[], |own| &own.roots);
        let mut each: Vec<Vec<Candidate>> = Vec::new();
        for root in roots {
            let RuleRef::Written { rule, relation } = root.rule else { continue };
            let Some(statement) = self.statement(rule).filter(|of| of.views_of().is_none()) else { continue };
            let relations = self.screen().rule_at(rule).relations().len();
            let changes = ways(&statement, relation, relations, root.by).into_iter();
            each.push(changes.filter_map(|change| self.reads(&statement, change, drawn::RULES)).collect());
        }
        // The drawing may be off along both axes.
        if let [first, second] = each.as_slice() {
            let both = first.iter().flat_map(|a| second.iter().map(|b| a.clone().and(b.clone())));
            ideas.extend(both.map(|idea| Candidate { weight: drawn::RULES_BOTH, ..idea }));
        }
        ideas.extend(each.into_iter().flatten());
        let mut ideas: Vec<Candidate> =
            ideas.into_iter().map(|idea| idea.because("it is drawn there")).collect();
        ideas.extend(self.redrawn(&drifts));
        ideas
    }

    /// The drawings with every view where the rules place it.
    fn redrawn(&self, drifts: &[(usize, Drift)]) -> Option<Candidate> {
        let each = || drifts.iter().flat_map(|(index, drift)| drift.views.iter().map(move |of| (*index, of)));
        let entry = |(index, of): (usize, &Drifted)| {
            entry_drawn(self.text(), self.fixes.map, (index, of.view), &of.placed)
        };
        let changes: Vec<Change> = each().map(entry).collect::<Option<_>>()?;
        let on = drifts.iter().map(|(index, _)| format!("\"{}\"", self.screen().drawings()[*index].on));
        let on = on.collect::<Vec<_>>().join(", ");
        let views: HashSet<ViewId> = each().map(|(_, of)| of.view).collect();
        let said = match views.len() {
            1 => format!("draw it where the rules place it, in the drawing on {on}"),
            more => format!("draw all {more} views where the rules place them, in the drawing on {on}"),
        };
        Some(Candidate::new(said, changes, drawn::DRAWING).because("if the rules are right"))
    }

    /// Lines that give a view its drawn place.
    pub(crate) fn lines_as_drawn(&self, view: ViewId, across: bool, open: (bool, bool)) -> Vec<Lines> {
        let screen = self.screen();
        let is_drawn = |index: &usize| screen.drawings()[*index].frames.iter().any(|(of, _)| *of == view);
        let mut drawings = Vec::new();
        for index in (0..screen.drawings().len()).filter(is_drawn) {
            let Some(mut drift) = self.drift_of(index) else { continue };
            // What is drawn, and what holds it.
            let mut known: HashSet<ViewId> = HashSet::new();
            for &(of, _) in &screen.drawings()[index].frames {
                let around = std::iter::successors(Some(of), |&of| screen.view(of)?.parent());
                known.extend(around);
            }
            for (of, frame) in screen.views().map(|(of, _)| of).zip(&mut drift.drawn.frames) {
                if !known.contains(&of) {
                    *frame = None;
                }
            }
            drawings.extend(Drawing::of(&drift.drawn, screen));
        }
        let axis = if across { Axis::Across } else { Axis::Down };
        let lines = suggested(&drawings, &screen.path(view), axis, open, (&self.measure, DRAWN), &|_| true);
        lines.into_iter().map(|(lines, cost)| (lines, drawn::MISSING - drawn::COST_FACTOR * cost)).collect()
    }
}
