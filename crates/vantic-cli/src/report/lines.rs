//! The lines of the file that a finding is about.

use crate::session::Loaded;
use std::collections::HashSet;
use vantic::finding::Finding;

/// The lines of the file that a finding is about: those of its rules, then of what else it names, then of its
/// views.
pub(crate) fn lines(loaded: &Loaded, finding: &Finding) -> Vec<(String, usize)> {
    let own = loaded.texts().first().map_or_else(String::new, |(name, _)| name.clone());
    let mut all: Vec<(String, usize)> = Vec::new();
    for &part in &finding.rule_refs {
        if let Some((line, base)) = loaded.line(part) {
            all.push((base.unwrap_or_else(|| own.clone()), line));
        }
    }
    all.extend(finding.locations.iter().filter_map(|&spot| Some((own.clone(), loaded.spot(spot)?.0))));
    let views = finding.views.iter().filter_map(|path| loaded.plan.screen().find(path));
    all.extend(
        views.filter_map(|view| Some((own.clone(), loaded.spot(vantic::finding::Location::View(view))?.0))),
    );
    // Each once, in order of appearance.
    let mut met = HashSet::new();
    all.retain(|place| met.insert(place.clone()));
    if all.is_empty() {
        all.push((own, 1));
    }
    all
}
