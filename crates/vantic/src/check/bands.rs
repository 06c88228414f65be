//! Bands that never hold, and bands that change the same thing while both hold.

use crate::finding::{Finding, Location, Severity};
use crate::screen_ext::ScreenExt as _;
use std::collections::BTreeMap;
use vantic_core::model::{BandId, Change, Code, Screen, ValueId, ViewId};
use vantic_core::plan::Plan;

/// How many pairs of changes to the same thing are reported.
const MAX_REPORTED: usize = 100;

pub(crate) fn bands(plan: &Plan, findings: &mut Vec<Finding>) {
    never(plan, findings);
    contested(plan, findings);
}

/// Bands that no display meets.
fn never(plan: &Plan, findings: &mut Vec<Finding>) {
    for (id, band) in plan.screen().bands_with_ids() {
        if plan.variant_keys().any(|bands| bands[id.index()]) {
            continue;
        }
        let mut finding = Finding::new(Code::Idle, Severity::Note);
        finding.message =
            format!("`{}` is never active: no display meets `{}`", band.name(), band.condition());
        finding.help = "change its condition, or remove the band".into();
        finding.locations = vec![Location::Band(id)];
        findings.push(finding);
    }
}

/// What a change is about; the later of two about the same thing counts.
#[derive(Clone, Debug, PartialEq, Eq, PartialOrd, Ord)]
enum About {
    Rule(Option<ViewId>, String),
    Visibility(ViewId),
    Setting(ViewId, &'static str),
    Value(ValueId),
}

impl About {
    fn of(screen: &Screen, change: &Change) -> Option<About> {
        Some(match change {
            Change::Add(rule) | Change::Drop(rule) => {
                let rule = screen.rule_at(*rule);
                About::Rule(rule.owner(), rule.label()?.to_owned())
            }
            Change::Hide { view, .. } | Change::Show(view) => About::Visibility(*view),
            Change::Set { view, setting } => About::Setting(*view, setting.word()),
            Change::Value { value, .. } => About::Value(*value),
        })
    }

    fn words(&self, screen: &Screen) -> String {
        match self {
            About::Rule(owner, label) => {
                let owner = owner.map_or_else(|| "screen".to_owned(), |v| screen.path(v));
                format!("`{owner}.{label}`")
            }
            About::Visibility(view) => format!("whether `{}` is there", screen.path(*view)),
            About::Setting(view, word) => format!("`{word}` of `{}`", screen.path(*view)),
            About::Value(value) => {
                format!("`{}`", screen.values().get(value.index()).map_or("", |v| v.name()))
            }
        }
    }
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
    let mut by_thing: BTreeMap<About, Vec<(BandId, &Change)>> = BTreeMap::new();
    for (band, change) in screen.changes() {
        if let Some(about) = About::of(screen, change) {
            by_thing.entry(about).or_default().push((*band, change));
        }
    }
    let mut count = 0;
    for (about, changes) in by_thing {
        for (index, (later, change)) in changes.iter().enumerate() {
            for (earlier, other) in &changes[..index] {
                let holds = |a: bool, b: bool| {
                    plan.variant_keys().any(|bands| bands[earlier.index()] == a && bands[later.index()] == b)
                };
                let overlap = holds(true, true) && holds(true, false) && holds(false, true);
                if earlier == later || !overlap || alike(screen, change, other) {
                    continue;
                }
                let name = |band: &BandId| screen.bands()[band.index()].name().to_owned();
                let (first, last) = (name(earlier), name(later));
                let mut finding = Finding::new(Code::Contested, Severity::Note);
                finding.message = format!(
                    "`{first}` and `{last}` can be active together, and both change {}: there `{last}` wins, \
                     since it is written later",
                    about.words(screen)
                );
                finding.help =
                    "nothing to do if that is intended; otherwise let one end where the other begins".into();
                if let About::Visibility(view) | About::Setting(view, _) | About::Rule(Some(view), _) = &about
                {
                    finding.views = vec![screen.path(*view)];
                }
                finding.rules = vec![first, last];
                finding.locations = vec![Location::Band(*earlier), Location::Band(*later)];
                findings.push(finding);
                count += 1;
                if count >= MAX_REPORTED {
                    return;
                }
            }
        }
    }
}
