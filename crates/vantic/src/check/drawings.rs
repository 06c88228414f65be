//! Where views were drawn, compared with where the rules place them.

use crate::check::elsewhere::Share;
use crate::check::named_display::{OnNamed, on_named};
use crate::check::report::display_index;
use crate::displays::displays::Displays;
use crate::drift::drifted::compared;
use crate::finding::detail::DeclaredDetail;
use crate::finding::{Finding, Location};
use std::collections::HashSet;
use vantic_core::model::{Code, ViewId};
use vantic_core::plan::{PlaceError, Plan};
use vantic_core::text::Measure;

/// The views that are not where they were drawn, without those that only follow others and those of `open`, which nothing places;
/// each on the display of its drawing, which joins the `names` of those looked at. How many drawings the work sufficed for comes
/// with them.
pub(crate) fn drifting(
    plan: &Plan,
    measure: &(dyn Measure + Sync),
    displays: Option<&Displays>,
    open: &HashSet<ViewId>,
    names: &mut Vec<String>,
) -> Result<(Vec<Finding>, Share), PlaceError> {
    let screen = plan.screen();
    let mut share = Share { looked_at: 0, of: screen.drawings().len() };
    let catalogue = Displays::default();
    let displays = displays.unwrap_or(&catalogue);
    let mut findings = Vec::new();
    for (index, drawing) in screen.drawings().iter().enumerate() {
        let mut add = |mut finding: Finding, at: Option<ViewId>| {
            let on = display_index(names, &drawing.on);
            finding.locations = vec![Location::Drawing(index, at)];
            (finding.displays, finding.worst) = (vec![on], Some(on));
            join(&mut findings, finding);
        };
        let placement = match on_named(plan, measure, displays, &drawing.on, &mut share)? {
            OnNamed::Placed(placement) => *placement,
            OnNamed::Unknown(error) => {
                let detail = DeclaredDetail::UnknownDrawn { drawing: index, error };
                add(Finding::warning(Code::Drift, detail), None);
                continue;
            }
            OnNamed::LeftOut => continue,
        };
        let mut views = compared(screen, placement, &drawing.frames).views;
        views.retain(|view| !open.contains(&view.view));
        let follow = views.iter().filter(|view| view.follows).count();
        // Where all follow one another, they are all there is.
        let is_all = follow == views.len();
        let own = views.iter().filter(|view| is_all || !view.follows);
        for drifted in own {
            let by = drifted.by();
            let follow = if is_all { 0 } else { follow };
            let detail = DeclaredDetail::Drift { by, follow };
            let rules = drifted.roots.iter().map(|root| root.rule).collect();
            let amount = by.into_iter().map(f64::abs).fold(0.0, f64::max);
            let finding = Finding::warning(Code::Drift, detail).about([drifted.view]).by(amount);
            add(Finding { rules, ..finding }, Some(drifted.view));
        }
    }
    Ok((findings, share))
}

/// Adds a finding to those of other drawings; what is said of one view is said once, as of the drawing that is furthest off.
fn join(findings: &mut Vec<Finding>, new: Finding) {
    let is_same = |known: &&mut Finding| !new.views.is_empty() && known.views == new.views;
    let Some(known) = findings.iter_mut().find(is_same) else { return findings.push(new) };
    known.locations.extend(new.locations);
    known.displays.extend(new.displays);
    for rule in new.rules {
        if !known.rules.contains(&rule) {
            known.rules.push(rule);
        }
    }
    if new.amount > known.amount {
        (known.amount, known.detail, known.worst) = (new.amount, new.detail, new.worst);
    }
}
