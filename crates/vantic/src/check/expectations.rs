//! What the screen expects to come out, compared with what does.

use crate::check::elsewhere::Share;
use crate::check::named_display::{OnNamed, on_named};
use crate::check::report::display_index;
use crate::displays::displays::Displays;
use crate::finding::detail::DeclaredDetail;
use crate::finding::{Finding, Location};
use crate::inspect::expectations::mismatches;
use vantic_core::model::Code;
use vantic_core::plan::{PlaceError, Plan};
use vantic_core::text::Measure;

/// The frames that are not as expected, each on its display, which joins the `names` of those looked at. How many
/// expectations the work sufficed for comes with them: frames that are not the best ones tell nothing.
pub(crate) fn unmet(
    plan: &Plan,
    measure: &(dyn Measure + Sync),
    displays: Option<&Displays>,
    names: &mut Vec<String>,
) -> Result<(Vec<Finding>, Share), PlaceError> {
    let screen = plan.screen();
    let mut compared = Share { looked_at: 0, of: screen.expectations().len() };
    let catalogue = Displays::default();
    let displays = displays.unwrap_or(&catalogue);
    let mut findings = Vec::new();
    for (index, expectation) in screen.expectations().iter().enumerate() {
        let mut add = |mut finding: Finding| {
            let on = display_index(names, &expectation.on);
            finding.locations.insert(0, Location::Expectation(index));
            (finding.displays, finding.worst) = (vec![on], Some(on));
            findings.push(finding);
        };
        let placement = match on_named(plan, measure, displays, &expectation.on, &mut compared)? {
            OnNamed::Placed(placement) => *placement,
            OnNamed::Unknown(error) => {
                let detail = DeclaredDetail::UnknownDisplay { expectation: index, error };
                add(Finding::error(Code::Unmet, detail));
                continue;
            }
            OnNamed::LeftOut => continue,
        };
        for (view, mismatch) in mismatches(&placement, expectation) {
            let off = mismatch.off().into_iter().map(|(coordinate, _)| (view, coordinate)).collect();
            let finding = Finding::error(Code::Unmet, DeclaredDetail::Unmet(mismatch));
            let mut finding = finding.about([view]).at(off).by(mismatch.amount());
            finding.locations = vec![Location::View(view)];
            add(finding);
        }
    }
    Ok((findings, compared))
}
