//! What the screen expects to come out, compared with what does.

use crate::displays::displays::Displays;
use crate::finding::{Finding, Location, Severity};
use crate::inspect::expectations::missing;
use vantic_core::model::Code;
use vantic_core::plan::{PlaceError, Plan};
use vantic_core::text::Measure;

/// The frames that are not as expected, each on its display.
pub(crate) fn unmet(
    plan: &Plan,
    measure: &dyn Measure,
    displays: Option<&Displays>,
) -> Result<Vec<Finding>, PlaceError> {
    let screen = plan.screen();
    let catalogue = Displays::default();
    let displays = displays.unwrap_or(&catalogue);
    let mut findings = Vec::new();
    for (index, expectation) in screen.expectations().iter().enumerate() {
        let on = || vec![expectation.on.clone()];
        let display = match displays.find(&expectation.on, screen) {
            Ok(display) => display,
            Err(error) => {
                let mut finding = Finding::new(Code::Unmet, Severity::Error);
                finding.message =
                    format!("the expectation on \"{}\" cannot be checked: {error}", expectation.on);
                finding.help = "name the display as on the command line".into();
                finding.locations = vec![Location::Expectation(index)];
                (finding.displays, finding.worst) = (on(), expectation.on.clone());
                findings.push(finding);
                continue;
            }
        };
        let placement = plan.place(&display, measure)?;
        for missing in missing(screen, &placement, expectation) {
            let mut finding = Finding::new(Code::Unmet, Severity::Error);
            let path = screen.path(missing.view);
            finding.message = missing.message;
            finding.help = format!(
                "`vantic show rules FILE {path}` lists the rules that affect it; if the frame is right, \
                 change the expectation"
            );
            finding.coordinates = missing.coordinates.iter().map(|c| format!("{path}.{c}")).collect();
            finding.views = vec![path];
            finding.amount = missing.amount;
            finding.locations = vec![Location::Expectation(index), Location::View(missing.view)];
            (finding.displays, finding.worst) = (on(), expectation.on.clone());
            findings.push(finding);
        }
    }
    Ok(findings)
}
