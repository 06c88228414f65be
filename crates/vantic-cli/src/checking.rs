//! Checks a screen as the options say.

use crate::args::{CheckArgs, DisplayArgs, EffortArgs};
use crate::progress::{stage_of, step};
use crate::session::{Defaults, Loaded, Texts, displays_of, known};
use anyhow::Result;
use vantic::check::{CheckOptions, Report, check_as};
use vantic::fix::looked_at;
use vantic::text::Measure;

/// Checks a screen as the options say, with fixes.
pub(crate) fn check_with_fixes(loaded: &Loaded, args: &CheckArgs) -> Result<Report> {
    let texts = Texts::new(&args.texts);
    let mut report = checked(loaded, &args.displays, Defaults::All, &texts, args.effort)?;
    loaded.name_parts(&mut report.findings);
    if !args.no_fixes {
        let known = known(args.displays.own.as_deref())?;
        stage_of("fixes of {pos} of {len} findings", looked_at(&report).len());
        let how = CheckOptions { displays: Some(&known), progress: Some(&step), effort: args.effort.effort };
        loaded.add_fixes(&mut report, &texts, how);
    }
    Ok(report)
}

/// Checks a screen on the displays that the options name.
pub(crate) fn checked(
    loaded: &Loaded,
    args: &DisplayArgs,
    unsaid: Defaults,
    measure: &(dyn Measure + Sync),
    EffortArgs { effort }: EffortArgs,
) -> Result<Report> {
    let known = known(args.own.as_deref())?;
    let displays = displays_of(&known, args, loaded.plan.screen(), unsaid)?;
    stage_of("{pos} of {len} displays", displays.len());
    let how = CheckOptions { displays: Some(&known), progress: Some(&step), effort };
    Ok(check_as(&loaded.plan, &displays, measure, how)?)
}
