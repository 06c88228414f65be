//! TODO-HEAD

pub(crate) mod alternatives;
pub(crate) mod choice;
pub(crate) mod conflict;
pub(crate) mod presolve;
