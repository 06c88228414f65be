//! Required rules that do not hold in a placement.

use crate::finding::{Finding, Severity};
use vantic_core::model::{Code, RuleRef, Screen};
use vantic_core::plan::Placement;
use vantic_core::words::{list, number, once};

/// Required rules that do not hold, without looking for which cannot hold together.
pub(crate) fn broken(screen: &Screen, placement: &Placement, findings: &mut Vec<Finding>) {
    let rules: Vec<RuleRef> = placement.broken.iter().map(|b| b.rule).collect();
    if rules.is_empty() {
        return;
    }
    let mut finding = Finding::new(Code::Conflict, Severity::Error);
    finding.rules = once(rules.iter().map(|r| r.name(screen)));
    finding.views = owners(screen, &rules);
    finding.amount = placement.broken.iter().map(|b| b.by).fold(0.0, f64::max);
    finding.message = format!(
        "required rules cannot all hold: {} is off by {}",
        list(&finding.rules),
        number(finding.amount)
    );
    finding.rule_refs = rules;
    findings.push(finding);
}

/// The views whose rules these are, by path.
pub(crate) fn owners(screen: &Screen, rules: &[RuleRef]) -> Vec<String> {
    once(rules.iter().filter_map(|r| r.owner(screen)).map(|v| screen.path(v)))
}
