//! The lines of the file that a finding is about.

use crate::session::Loaded;
use std::collections::HashSet;
use vantic::ViewId;
use vantic::finding::{Finding, Location};

/// The lines of the file that a finding is about: those of its rules, then of what else it names, then of its
/// views.
pub(crate) fn lines(loaded: &Loaded, finding: &Finding) -> Vec<(String, usize)> {
    let own = loaded.texts().first().map_or_else(String::new, |(name, _)| name.clone());
    let mut all: Vec<(String, usize)> = Vec::new();
    for &part in &finding.rules {
        if let Some((line, base)) = loaded.line(part) {
            all.push((base.unwrap_or_else(|| own.clone()), line));
        }
    }
    all.extend(finding.locations.iter().filter_map(|&spot| Some((own.clone(), loaded.spot(spot)?.0))));
    let line_of = |&view: &ViewId| Some((own.clone(), loaded.spot(Location::View(view))?.0));
    all.extend(finding.views.iter().filter_map(line_of));
    // Each once, in order of appearance.
    let mut met = HashSet::new();
    all.retain(|place| met.insert(place.clone()));
    if all.is_empty() {
        all.push((own, 1));
    }
    all
}
