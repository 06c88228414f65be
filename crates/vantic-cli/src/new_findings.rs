//! What is wrong with one version of a screen and was not with another.

use crate::args::{DisplayArgs, TextArgs};
use crate::findings::left_out;
use crate::output::YELLOW;
use crate::session::{Defaults, Loaded, Texts, displays};
use anyhow::Result;
use std::collections::HashSet;
use vantic::check::{CheckOptions, LeftOut, check_as};
use vantic::finding::{Finding, Severity};
use vantic::model::Code;
use vantic::plan::Plan;

/// Errors and warnings that are new, a line each, and what was left out.
pub(crate) type NewFindings = (Vec<String>, Vec<LeftOut>);

/// What tells a finding from others in two versions of a screen.
type Key = (Code, Vec<String>);

/// How much work each of the two checks does, as a multiple of the usual: both together take no longer than one.
const EFFORT: f64 = 0.5;

/// Screens with more views than this are compared, but not checked before and after.
const MAX_VIEWS_CHECKED: usize = 40_000;

/// The errors and warnings that are there then and were not before, and what was left out on the way; `None` for a screen
/// with too many views.
pub(crate) fn wrong_then(
    (on, measured): (&DisplayArgs, &TextArgs),
    first: &Loaded,
    then: &Loaded,
) -> Result<Option<NewFindings>> {
    if first.plan.screen().views().count() > MAX_VIEWS_CHECKED {
        return Ok(None);
    }
    let displays = displays(on, first.plan.screen(), Defaults::First)?;
    let texts = Texts::new(measured);
    let how = CheckOptions { effort: EFFORT, ..CheckOptions::default() };
    let checked = |plan: &Plan| -> Result<_> {
        let (screen, mut report) = (plan.screen(), check_as(plan, &displays, &texts, how)?);
        let left_out = std::mem::take(&mut report.left_out);
        let open = report.open().filter(|f| f.severity != Severity::Note);
        let line = |f: &Finding| format!("{} {}: {}", f.severity.name(), f.code.name(), f.message(screen));
        let found: Vec<(Key, String)> = open.map(|f| ((f.code, f.paths(screen)), line(f))).collect();
        Ok((found, left_out))
    };
    let (before, left_out_before) = checked(&first.plan)?;
    let (mut found, left_out) = checked(&then.plan)?;
    let known: HashSet<Key> = before.into_iter().map(|(key, _)| key).collect();
    found.retain(|(key, _)| !known.contains(key));
    let new = found.into_iter().map(|(_, line)| line).collect();
    // Of the version without, or else of the one before.
    let left_out = if left_out.is_empty() { left_out_before } else { left_out };
    Ok(Some((new, left_out)))
}

/// The same for people.
pub(crate) fn new_findings(found: Option<&NewFindings>) -> String {
    match found.map(|(wrong, left)| (wrong.as_slice(), left)) {
        None => format!(
            "{YELLOW}left out:{YELLOW:#} errors and warnings before and after, as the screen has more than \
             {MAX_VIEWS_CHECKED} views; check each version by itself\n\n"
        ),
        Some(([], left)) if left.is_empty() => "no new errors or warnings\n\n".to_owned(),
        Some((wrong, left)) => {
            let new: String = wrong.iter().map(|line| format!("new: {line}\n")).collect();
            new + &left_out(left, "one display (-d) is less work") + "\n"
        }
    }
}
