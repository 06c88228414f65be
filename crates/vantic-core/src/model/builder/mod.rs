//! TODO-HEAD

pub(crate) mod builder;
pub(crate) mod error;
pub(crate) mod references;
pub(crate) mod sections;
pub(crate) mod validate;
