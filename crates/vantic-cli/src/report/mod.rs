//! Reports in open formats: SARIF for code review, JUnit for build servers.

pub(crate) mod junit;
pub(crate) mod lines;
pub(crate) mod sarif;
