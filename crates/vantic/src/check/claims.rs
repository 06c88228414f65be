//! What the screen claims, proven or refuted.

use crate::finding::{Finding, Location, Severity};
use crate::sweep::claims::ClaimVerdict;
use crate::sweep::range::{Proof, SweepError};
use std::collections::BTreeMap;
use vantic_core::model::Code;
use vantic_core::plan::{PlaceError, Placement, Plan};
use vantic_core::text::Measure;
use vantic_core::words::number;

/// What became of the claims: those that do not hold, as findings, and those that do, each with how sure that
/// is.
type Outcome = (Vec<Finding>, Vec<(String, Proof)>);

/// The claims that do not hold, each with the first display that breaks it, and those that do.
pub(crate) fn claims(
    plan: &Plan,
    placements: &[Placement],
    measure: &dyn Measure,
) -> Result<Outcome, PlaceError> {
    let screen = plan.screen();
    let verdicts = match crate::sweep::claims::examine(plan, placements, measure) {
        Ok(verdicts) => verdicts,
        Err(SweepError::Place(error)) => return Err(error),
        Err(error) => {
            let mut finding = Finding::new(Code::Claim, Severity::Error);
            finding.message = format!("the claim cannot be examined: {error}");
            finding.help = "claim it for a range of displays that exist".into();
            return Ok((vec![finding], Vec::new()));
        }
    };
    let mut by_claim: BTreeMap<usize, Vec<ClaimVerdict>> = BTreeMap::new();
    verdicts.into_iter().for_each(|verdict| by_claim.entry(verdict.claim).or_default().push(verdict));
    let (mut findings, mut proven) = (Vec::new(), Vec::new());
    for (index, verdicts) in by_claim {
        let claim = &screen.claims()[index];
        let text = screen.claim_text(claim);
        let weakest =
            |verdicts: &[ClaimVerdict]| verdicts.iter().map(|v| v.proof).max().unwrap_or(Proof::Exact);
        let area = |v: &ClaimVerdict| v.broken.as_ref().map(|(d, ..)| d.width() * d.height());
        let broken = || verdicts.iter().filter(|v| v.broken.is_some());
        let least = broken().min_by(|a, b| area(a).unwrap_or(0.0).total_cmp(&area(b).unwrap_or(0.0)));
        let Some((display, how, amount)) = least.and_then(|v| v.broken.clone()) else {
            proven.push((text, weakest(&verdicts)));
            continue;
        };
        let mut finding = Finding::new(Code::Claim, Severity::Error);
        let what = match claim.along() {
            Some((along, ..)) => {
                let at = along.of(&display);
                format!(" from a {} of {} on", along.name(), number(at))
            }
            None => String::new(),
        };
        finding.message = format!("`{text}` does not hold{what}: {how}");
        finding.help = format!(
            "see it with `vantic draw FILE -d {0} -o claim.png`, then fix the rules that `vantic why` names",
            display.name()
        );
        finding.views = vec![screen.path(claim.view)];
        finding.amount = amount;
        finding.locations = vec![Location::Claim(index)];
        finding.displays = broken().filter_map(|v| Some(v.broken.as_ref()?.0.name().to_owned())).collect();
        finding.displays.dedup();
        finding.worst = display.name().to_owned();
        findings.push(finding);
    }
    Ok((findings, proven))
}
