//! What the run is at, on a terminal, once it has taken a second.

use indicatif::{ProgressBar, ProgressDrawTarget, ProgressState, ProgressStyle};
use std::fmt::Write;
use std::io::IsTerminal;
use std::sync::LazyLock;
use std::time::Duration;

/// What takes no longer than this needs no bar.
const WORTH_WAITING: Duration = Duration::from_secs(1);

/// How often it is drawn, to show that the run goes on.
const TICK: Duration = Duration::from_millis(200);

/// One for the whole run: what it is at replaces what it was at.
static BAR: LazyLock<ProgressBar> = LazyLock::new(ProgressBar::hidden);

/// From now on a run that takes longer than a second shows what it is at, if there is a terminal to show it on.
pub(crate) fn begin() {
    stage("reading");
    if std::io::stderr().is_terminal() {
        let shown = || {
            std::thread::sleep(WORTH_WAITING);
            if !BAR.is_finished() {
                BAR.set_draw_target(ProgressDrawTarget::stderr());
                BAR.enable_steady_tick(TICK);
            }
        };
        // Without it the run goes on unseen.
        drop(std::thread::Builder::new().spawn(shown));
    }
}

/// What the run is at, where nobody knows for how long.
pub(crate) fn stage(what: &str) {
    begin_stage(&format!("{{spinner}} {what}, {{elapsed}} so far"), 0);
}

/// What the run is at, in so many steps: `what` tells of them, as `{pos} of {len} displays`.
pub(crate) fn stage_of(what: &str, steps: usize) {
    begin_stage(&format!("{{spinner}} {what} {{bar:32.dim}} {{left}}"), steps as u64);
}

fn begin_stage(look: &str, steps: u64) {
    // Before the first step nothing tells how long all of them take.
    let left = |state: &ProgressState, to: &mut dyn Write| {
        let _ = match state.pos() {
            0 => write!(to, "{:.0?} so far", rounded(state.elapsed())),
            _ => write!(to, "{:.0?} left", rounded(state.eta())),
        };
    };
    let style = ProgressStyle::with_template(look).unwrap_or_else(|_| ProgressStyle::default_bar());
    BAR.reset();
    BAR.set_length(steps);
    BAR.set_style(style.with_key("left", left));
}

fn rounded(time: Duration) -> Duration {
    Duration::from_secs(time.as_secs())
}

/// Some more steps are done.
pub(crate) fn step(steps: usize) {
    BAR.inc(steps as u64);
}

/// Takes the bar away, before something is printed.
pub(crate) fn end() {
    BAR.finish_and_clear();
}
