//! Checks a screen as the options say.

use crate::args::{CheckArgs, DisplayArgs};
use crate::session::{Defaults, Loaded, Texts, displays_of, known};
use anyhow::Result;
use indicatif::{ProgressBar, ProgressStyle};
use std::io::IsTerminal;
use vantic::check::{CheckOptions, Report, check_as};
use vantic::text::Measure;

/// Checks a screen as the options say, with fixes.
pub(crate) fn check_with_fixes(loaded: &Loaded, args: &CheckArgs) -> Result<Report> {
    let texts = Texts::new(&args.texts);
    let mut report = checked(loaded, &args.displays, Defaults::All, &texts)?;
    loaded.name_parts(&mut report.findings);
    if !args.no_fixes {
        let known = known(args.displays.own.as_deref())?;
        loaded.add_fixes(&mut report, &texts, CheckOptions { displays: Some(&known), progress: None });
    }
    Ok(report)
}

/// Checks a screen on the displays that the options name, with a bar while that takes long.
pub(crate) fn checked(
    loaded: &Loaded,
    args: &DisplayArgs,
    unsaid: Defaults,
    measure: &dyn Measure,
) -> Result<Report> {
    let known = known(args.own.as_deref())?;
    let displays = displays_of(&known, args, loaded.plan.screen(), unsaid)?;
    let bar = progress(displays.len());
    let step = |looked_at: usize| bar.inc(looked_at as u64);
    let how = CheckOptions { displays: Some(&known), progress: Some(&step) };
    let report = check_as(&loaded.plan, &displays, measure, how)?;
    bar.finish_and_clear();
    Ok(report)
}

/// How many displays take so long that a bar is worth it.
pub(crate) const WORTH_A_BAR: usize = 30;

/// A bar on a terminal, where there are many displays; nothing elsewhere.
pub(crate) fn progress(displays: usize) -> ProgressBar {
    if displays < WORTH_A_BAR || !std::io::stderr().is_terminal() {
        return ProgressBar::hidden();
    }
    let look = ProgressStyle::with_template("{pos} of {len} displays {bar:32.dim} {eta} left");
    ProgressBar::new(displays as u64).with_style(look.unwrap_or_else(|_| ProgressStyle::default_bar()))
}
