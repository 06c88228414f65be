//! TODO-HEAD

pub(crate) mod fixpoint;
pub(crate) mod painting;
pub(crate) mod placement;
pub(crate) mod placement_json;
pub(crate) mod scroll;
