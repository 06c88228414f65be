//! What languages have no words for.

use crate::finding::{Finding, Location, Severity};
use vantic_core::model::{Code, Screen, ViewId};
use vantic_core::plan::Placement;
use vantic_core::words::list;

/// Texts that show their own words, since a language that was tried has none for them.
pub(crate) fn untranslated(screen: &Screen, placements: &[Placement]) -> Vec<Finding> {
    let mut findings = Vec::new();
    for (index, language) in screen.languages().iter().enumerate() {
        let spoken: Vec<&Placement> =
            placements.iter().filter(|p| p.display.language() == Some(language.name())).collect();
        // What is never shown there needs no words.
        let is_shown = |view: &ViewId| spoken.iter().any(|p| p.is_painted(*view));
        let missing: Vec<ViewId> = screen.untranslated(language).filter(is_shown).collect();
        if missing.is_empty() {
            continue;
        }
        let mut finding = Finding::new(Code::Untranslated, Severity::Warning);
        finding.views = missing.iter().map(|&view| screen.path(view)).collect();
        let (name, own) = (language.name(), list(&finding.views));
        let shown = if missing.len() == 1 { "it shows the original" } else { "they show the originals" };
        finding.message = format!("`{name}` has no words for {own}: {shown}");
        finding.help = format!("add lines such as `{} \"...\"` to `language {name}`", finding.views[0]);
        finding.displays = spoken.iter().map(|p| p.display.name().to_owned()).collect();
        finding.worst = finding.displays[0].clone();
        finding.amount = missing.len() as f64;
        finding.locations = vec![Location::Language(index)];
        finding.locations.extend(missing.into_iter().map(Location::View));
        findings.push(finding);
    }
    findings
}
