//! Bands that never hold, and bands that change the same thing while both hold.

use crate::finding::detail::{ChangeSubject, DeclaredDetail};
use crate::finding::{Finding, Location};
use crate::screen_ext::ScreenExt as _;
use std::collections::BTreeMap;
use vantic_core::model::{BandId, Change, Code, Screen};
use vantic_core::plan::Plan;

/// How many pairs of changes to the same thing are reported.
const MAX_REPORTED: usize = 100;

pub(crate) fn bands(plan: &Plan, findings: &mut Vec<Finding>) {
    never(plan, findings);
    contested(plan, findings);
}

/// Bands that no display meets.
fn never(plan: &Plan, findings: &mut Vec<Finding>) {
    for (id, _) in plan.screen().bands_with_ids() {
        if plan.variant_keys().any(|bands| bands[id.index()]) {
            continue;
        }
        let finding = Finding::note(Code::Idle, DeclaredDetail::NeverActive(id));
        findings.push(Finding { locations: vec![Location::Band(id)], ..finding });
    }
}

/// What a change is about, if it is about something that another could change as well.
fn subject(screen: &Screen, change: &Change) -> Option<ChangeSubject> {
    Some(match change {
        Change::Add(rule) | Change::Drop(rule) => {
            let rule = screen.rule_at(*rule);
            ChangeSubject::Rule(rule.owner(), rule.label()?.to_owned())
        }
        Change::Hide { view, .. } | Change::Show(view) => ChangeSubject::Visibility(*view),
        Change::Set { view, setting } => ChangeSubject::Setting(*view, setting.word()),
        Change::Value { value, .. } => ChangeSubject::Value(*value),
    })
}

/// Whether two changes of the same thing come to the same.
fn alike(screen: &Screen, a: &Change, b: &Change) -> bool {
    match (a, b) {
        (Change::Add(a), Change::Add(b)) => screen.rule_at(*a).relations() == screen.rule_at(*b).relations(),
        _ => a == b,
    }
}

/// Bands that overlap without one being within the other, and say different things of the same.
fn contested(plan: &Plan, findings: &mut Vec<Finding>) {
    let screen = plan.screen();
    let mut by_thing: BTreeMap<ChangeSubject, Vec<(BandId, &Change)>> = BTreeMap::new();
    for (band, change) in screen.changes() {
        if let Some(subject) = subject(screen, change) {
            by_thing.entry(subject).or_default().push((*band, change));
        }
    }
    let mut count = 0;
    for (subject, changes) in by_thing {
        for (index, (later, change)) in changes.iter().enumerate() {
            for (earlier, other) in &changes[..index] {
                let holds = |a: bool, b: bool| {
                    plan.variant_keys().any(|bands| bands[earlier.index()] == a && bands[later.index()] == b)
                };
                let overlap = holds(true, true) && holds(true, false) && holds(false, true);
                if earlier == later || !overlap || alike(screen, change, other) {
                    continue;
                }
                let (first, last, subject) = (*earlier, *later, subject.clone());
                let views = match subject {
                    ChangeSubject::Visibility(view)
                    | ChangeSubject::Setting(view, _)
                    | ChangeSubject::Rule(Some(view), _) => vec![view],
                    ChangeSubject::Rule(None, _) | ChangeSubject::Value(_) => Vec::new(),
                };
                let detail = DeclaredDetail::Contested { first, last, subject };
                let mut finding = Finding::note(Code::Contested, detail).about(views);
                finding.locations = vec![Location::Band(first), Location::Band(last)];
                findings.push(finding);
                count += 1;
                if count >= MAX_REPORTED {
                    return;
                }
            }
        }
    }
}
