//! What languages have no words for.

use crate::finding::detail::DeclaredDetail;
use crate::finding::{Finding, Location};
use vantic_core::model::{Code, Screen, ViewId};
use vantic_core::plan::Placement;

/// Texts that show their own words, since a language that was tried has none for them.
pub(crate) fn untranslated(screen: &Screen, placements: &[Placement]) -> Vec<Finding> {
    let mut findings = Vec::new();
    for (index, language) in screen.languages().iter().enumerate() {
        let speaks = |p: &Placement| p.display.language() == Some(language.name());
        let spoken: Vec<(usize, &Placement)> =
            placements.iter().enumerate().filter(|(_, p)| speaks(p)).collect();
        // What is never shown there needs no words.
        let is_shown = |view: &ViewId| spoken.iter().any(|(_, p)| p.is_painted(*view));
        let missing: Vec<ViewId> = screen.untranslated(language).filter(is_shown).collect();
        if missing.is_empty() {
            continue;
        }
        let detail = DeclaredDetail::Untranslated { language: index };
        let finding = Finding::warning(Code::Untranslated, detail).about(missing.clone());
        let mut finding = finding.by(missing.len() as f64);
        finding.displays = spoken.iter().map(|(on, _)| *on).collect();
        finding.worst = finding.displays.first().copied();
        finding.locations = vec![Location::Language(index)];
        finding.locations.extend(missing.into_iter().map(Location::View));
        findings.push(finding);
    }
    findings
}
