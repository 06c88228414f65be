//! TODO-HEAD

pub(crate) mod analogues;
pub(crate) mod baseline;
pub(crate) mod breakpoint_fix;
pub(crate) mod candidates;
pub(crate) mod change;
pub(crate) mod context;
pub(crate) mod enclosing_edges;
pub(crate) mod fixes;
pub(crate) mod missing_rules;
pub(crate) mod progression;
pub(crate) mod queue;
pub(crate) mod rule_source;
pub(crate) mod trial;

pub use change::{EditError, edited};
pub use context::Fixes;
pub use fixes::{MAX_FIXED_FINDINGS, MAX_FIXES, without};
