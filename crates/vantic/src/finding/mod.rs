//! Findings: one thing wrong or doubtful each, as values.
//!
//! `finding` is the value: ids and numbers; `detail` what exactly was found, by kind; `fix` the edits that
//! would put it right. `words` alone turns them into names and sentences, when somebody asks for them; what a
//! machine gets (`named`) is made from those. The modules that look for findings call `finding` and `detail`;
//! whoever shows them calls `words`.

pub(crate) mod detail;
pub(crate) mod finding;
pub(crate) mod fix;
pub(crate) mod named;
pub(crate) mod words;

pub use finding::{Finding, Location, PlacedPart, Severity, ViewCoordinate};
pub use fix::{Edit, Fix, Sureness};
pub use named::NamedFinding;
