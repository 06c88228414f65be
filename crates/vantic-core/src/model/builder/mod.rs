//! TODO-HEAD

pub(crate) mod builder;
pub(crate) mod references;
pub(crate) mod sections;
