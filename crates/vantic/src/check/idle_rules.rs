//! Rules that decide nothing.

use crate::finding::Finding;
use crate::finding::detail::DoubtDetail;
use crate::inspect::broken_rules::owners;
use std::collections::HashSet;
use vantic_core::model::{Code, Comparison, Relation, RuleId, RuleRef, Screen};
use vantic_core::plan::Placement;

/// How many rules that others imply are reported.
const MAX_IMPLIED: usize = 20;

/// Required rules that others imply on every display on which they count.
pub(crate) fn implied(
    screen: &Screen,
    placements: &[Placement],
    implied: &[Vec<RuleRef>],
    findings: &mut Vec<Finding>,
) {
    let mut seen: Vec<RuleRef> = implied.iter().flatten().copied().collect();
    seen.sort();
    seen.dedup();
    let everywhere = seen.into_iter().filter(|of| {
        let RuleRef::Written { rule, .. } = of else { return false };
        let mut counts = std::iter::zip(placements, implied).filter(|(p, _)| p.rules.contains(rule));
        counts.all(|(_, here)| here.contains(of))
    });
    for part in everywhere.take(MAX_IMPLIED) {
        let finding = Finding::note(Code::Idle, DoubtDetail::Implied);
        findings.push(finding.about(owners(screen, &[part])).with_rules(vec![part]));
    }
}

/// How many percentages and ratios are tried without, to see whether they decide anything; fewer on
/// screens of more than 1000 views, so that no check takes long for it.
const MAX_TRIED: usize = 100;

const MAX_TRIED_VIEWS: usize = 100_000;

/// Percentages and ratios that may decide nothing, as long as no display tells otherwise.
#[derive(Default)]
pub(crate) struct Idle {
    pub(crate) left: Vec<(RuleId, usize)>,
    tried: HashSet<(RuleId, usize)>,
}

impl Idle {
    pub(crate) fn new(screen: &Screen) -> Self {
        let rules = screen
            .rules()
            // What is one of several that stand together says little alone.
            .filter(|(_, rule)| matches!(rule.relations(), [only] if share(only).is_some()));
        let most = MAX_TRIED.min(MAX_TRIED_VIEWS / screen.views().count().max(1));
        Self { left: rules.map(|(id, _)| (id, 0)).take(most).collect(), tried: HashSet::new() }
    }

    /// Takes in what a display says of those that were tried there.
    pub(crate) fn record(&mut self, tried: &[(RuleId, usize)], found: &[Option<bool>]) {
        let said = std::iter::zip(tried, found).filter_map(|(of, idle)| Some((*of, (*idle)?)));
        for (of, idle) in said {
            self.tried.insert(of);
            if !idle {
                self.left.retain(|left| *left != of);
            }
        }
    }

    /// Those without which everything was where it is, on every display.
    pub(crate) fn findings(self, screen: &Screen, findings: &mut Vec<Finding>) {
        for (rule, index) in self.left.into_iter().filter(|of| self.tried.contains(of)) {
            let part = RuleRef::Written { rule, relation: index };
            let Some(what) = part.relation(screen).and_then(share) else { continue };
            let finding = Finding::note(Code::Idle, DoubtDetail::DecidesNothing { what });
            findings.push(finding.about(owners(screen, &[part])).with_rules(vec![part]));
        }
    }
}

/// Whether a relation is a ratio or holds a percentage, and which. A limit is there for other displays.
pub(crate) fn share(relation: &Relation) -> Option<&'static str> {
    if relation.comparison != Comparison::Equal {
        return None;
    }
    let terms = relation.terms();
    match *terms {
        [a, b] if a.anchor == b.anchor && a.coordinate != b.coordinate && !a.coordinate.is_position() => {
            Some("ratio")
        }
        _ => terms.iter().any(|t| t.coefficient.abs() != 1.0).then_some("percentage"),
    }
}
