//! TODO-HEAD

pub(crate) mod arrange;
pub(crate) mod parser;
pub(crate) mod rules;
pub(crate) mod sections;
