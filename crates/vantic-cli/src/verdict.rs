//! What a command came to.

/// What a command came to: done, or done and something is wrong with the screen.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Verdict {
    Clean,
    Findings,
}
