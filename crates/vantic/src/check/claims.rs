//! What the screen claims, proven or refuted.

use crate::check::elsewhere::Share;
use crate::check::report::display_index;
use crate::finding::detail::DeclaredDetail;
use crate::finding::{Finding, Location};
use crate::sweep::claims::ClaimVerdict;
use crate::sweep::range::{Proof, SweepError};
use std::collections::BTreeMap;
use vantic_core::model::Code;
use vantic_core::plan::{PlaceError, Placement, Plan};
use vantic_core::text::Measure;

/// What became of the claims.
#[derive(Default)]
pub(crate) struct Claims {
    /// Those that do not hold.
    pub(crate) broken: Vec<Finding>,
    /// Those that do, each with how sure that is.
    pub(crate) proven: Vec<(String, Proof)>,
    /// How many of their ranges were looked at from end to end, where no display of them breaks the claim.
    pub(crate) ranges: Share,
}

/// The claims that do not hold, each with the first display that breaks it, and those that do. Those displays
/// join the `names` of those looked at.
pub(crate) fn claims(
    plan: &Plan,
    placements: &[Placement],
    measure: &(dyn Measure + Sync),
    most_work: u64,
    names: &mut Vec<String>,
) -> Result<Claims, PlaceError> {
    let screen = plan.screen();
    let verdicts = match crate::sweep::claims::examine(plan, placements, measure, most_work) {
        Ok(verdicts) => verdicts,
        Err(SweepError::Place(error)) => return Err(error),
        Err(error) => {
            let detail = DeclaredDetail::ClaimNotExamined { error: error.to_string() };
            return Ok(Claims { broken: vec![Finding::error(Code::Claim, detail)], ..Claims::default() });
        }
    };
    let mut by_claim: BTreeMap<usize, Vec<ClaimVerdict>> = BTreeMap::new();
    verdicts.into_iter().for_each(|verdict| by_claim.entry(verdict.claim).or_default().push(verdict));
    let mut claims = Claims::default();
    for (index, verdicts) in by_claim {
        let claim = &screen.claims()[index];
        let weakest =
            |verdicts: &[ClaimVerdict]| verdicts.iter().map(|v| v.proof).max().unwrap_or(Proof::Exact);
        let area = |v: &ClaimVerdict| v.broken.as_ref().map(|(d, ..)| d.width() * d.height());
        let broken = || verdicts.iter().filter(|v| v.broken.is_some());
        let least = broken().min_by(|a, b| area(a).unwrap_or(0.0).total_cmp(&area(b).unwrap_or(0.0)));
        let Some((display, how, amount)) = least.and_then(|v| v.broken.clone()) else {
            let to_the_end = verdicts.iter().filter(|v| v.to_the_end).count();
            claims.ranges.looked_at += to_the_end;
            claims.ranges.of += verdicts.len();
            if to_the_end == verdicts.len() {
                claims.proven.push((screen.claim_text(claim), weakest(&verdicts)));
            }
            continue;
        };
        let mut on: Vec<usize> =
            broken().filter_map(|v| Some(display_index(names, v.broken.as_ref()?.0.name()))).collect();
        on.dedup();
        let worst = Some(display_index(names, display.name()));
        let finding = Finding::error(Code::Claim, DeclaredDetail::ClaimBroken { claim: index, display, how });
        let locations = vec![Location::Claim(index)];
        claims.broken.push(Finding {
            locations,
            displays: on,
            worst,
            ..finding.about([claim.view]).by(amount)
        });
    }
    Ok(claims)
}
