//! Checking a screen on displays: everything wrong or doubtful, as findings.
//!
//! `run` is the entry: it places the screen on each display, gathers what `inspect` and the files here find,
//! joins what is the same on several displays, and sets aside what the author accepts. `rules` looks at what
//! the rules say (contradictions, open coordinates, what gave way), `idle_rules`, `outlier_rules` and
//! `self_contradictory_rules` at rules that are probably unintended, `bands` and `jumps` at bands,
//! `translations` at languages, `slips` at left and right and the like, `written_idle` at what has no effect,
//! `expectations` and `claims` at what the screen states of itself; `elsewhere` looks at displays with the
//! keyboard and scrolled, `folding` reports what is found of each copy once, `attribution` adds which rules
//! caused a finding, `display_coverage` what its displays have in common.
//! Stands on `inspect` and `sweep`; `fix` and applications call it.

pub(crate) mod attribution;
pub(crate) mod bands;
pub(crate) mod claims;
pub(crate) mod display_coverage;
pub(crate) mod drawings;
pub(crate) mod elsewhere;
pub(crate) mod expectations;
pub(crate) mod folding;
pub(crate) mod idle_rules;
pub(crate) mod jumps;
pub(crate) mod named_display;
pub(crate) mod outlier_rules;
pub(crate) mod report;
pub(crate) mod rules;
pub(crate) mod run;
pub(crate) mod self_contradictory_rules;
pub(crate) mod slips;
pub(crate) mod text_slack;
pub(crate) mod translations;
pub(crate) mod written_idle;

pub use crate::sweep::MAX_EFFORT;
pub use display_coverage::DisplayCoverage;
pub use report::{CHECK_WORK, CLAIM_WORK, CheckOptions, JUMP_WORK, LeftOut, Report};
pub use run::{check, check_as};
pub use text_slack::{MAX_LONGER, ROOM_WORK, TextSlack, text_slack};
