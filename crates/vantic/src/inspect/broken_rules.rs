//! Required rules that do not hold in a placement.

use crate::finding::Finding;
use crate::finding::detail::RuleDetail;
use std::collections::HashSet;
use vantic_core::model::{Code, RuleRef, Screen, ViewId};
use vantic_core::plan::Placement;

/// Required rules that do not hold, without looking for which cannot hold together.
pub(crate) fn broken(screen: &Screen, placement: &Placement, findings: &mut Vec<Finding>) {
    let rules: Vec<RuleRef> = placement.broken.iter().map(|b| b.rule).collect();
    if rules.is_empty() {
        return;
    }
    let amount = placement.broken.iter().map(|b| b.by).fold(0.0, f64::max);
    let finding = Finding::error(Code::Conflict, RuleDetail::Broken { by: amount });
    findings.push(finding.about(owners(screen, &rules)).with_rules(rules).by(amount));
}

/// The views whose rules these are, each once.
pub(crate) fn owners(screen: &Screen, rules: &[RuleRef]) -> Vec<ViewId> {
    let mut known = HashSet::new();
    rules.iter().filter_map(|r| r.owner(screen)).filter(|&view| known.insert(view)).collect()
}
