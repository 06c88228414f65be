//! Checks a screen as the options say.

use crate::args::{CheckArgs, DisplayArgs, EffortArgs};
use crate::session::{Defaults, Loaded, Texts, displays_of, known};
use anyhow::Result;
use indicatif::{ProgressBar, ProgressDrawTarget, ProgressStyle};
use std::io::IsTerminal;
use std::time::{Duration, Instant};
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
        let bar =
            Slow::new("fixes of {pos} of {len} findings {bar:32.dim} {eta} left", looked_at(&report).len());
        let step = |looked_at: usize| bar.step(looked_at);
        let how = CheckOptions { displays: Some(&known), progress: Some(&step), effort: args.effort.effort };
        loaded.add_fixes(&mut report, &texts, how);
        bar.finish();
    }
    Ok(report)
}

/// Checks a screen on the displays that the options name, with a bar while that takes long.
pub(crate) fn checked(
    loaded: &Loaded,
    args: &DisplayArgs,
    unsaid: Defaults,
    measure: &dyn Measure,
    EffortArgs { effort }: EffortArgs,
) -> Result<Report> {
    let known = known(args.own.as_deref())?;
    let displays = displays_of(&known, args, loaded.plan.screen(), unsaid)?;
    let bar = progress(displays.len());
    let step = |looked_at: usize| bar.inc(looked_at as u64);
    let how = CheckOptions { displays: Some(&known), progress: Some(&step), effort };
    let report = check_as(&loaded.plan, &displays, measure, how)?;
    bar.finish_and_clear();
    Ok(report)
}

/// A bar on a terminal, of what has taken a second.
pub(crate) struct Slow {
    bar: ProgressBar,
    since: Instant,
}

impl Slow {
    /// A bar that looks as a template of its package says, of so many steps.
    pub(crate) fn new(look: &str, steps: usize) -> Self {
        let look = ProgressStyle::with_template(look);
        let bar = ProgressBar::hidden();
        bar.set_length(steps as u64);
        bar.set_style(look.unwrap_or_else(|_| ProgressStyle::default_bar()));
        Self { bar, since: Instant::now() }
    }

    pub(crate) fn step(&self, steps: usize) {
        if self.bar.is_hidden() && self.since.elapsed() >= WORTH_WAITING && std::io::stderr().is_terminal() {
            self.bar.set_draw_target(ProgressDrawTarget::stderr());
        }
        self.bar.inc(steps as u64);
    }

    pub(crate) fn finish(&self) {
        self.bar.finish_and_clear();
    }
}

/// What takes no longer than this needs no bar.
const WORTH_WAITING: Duration = Duration::from_secs(1);

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
