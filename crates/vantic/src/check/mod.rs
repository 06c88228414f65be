//! TODO-HEAD

pub(crate) mod attribution;
pub(crate) mod bands;
pub(crate) mod claims;
pub(crate) mod display_coverage;
pub(crate) mod expectations;
pub(crate) mod idle_rules;
pub(crate) mod jumps;
pub(crate) mod outlier_rules;
pub(crate) mod report;
pub(crate) mod rules;
pub(crate) mod run;
pub(crate) mod self_contradictory_rules;
pub(crate) mod text_slack;
pub(crate) mod translations;

pub use display_coverage::DisplayCoverage;
pub use report::{CheckOptions, Report};
pub use run::{check, check_as};
pub use text_slack::{MAX_LONGER, TextSlack, text_slack};
