//! TODO-HEAD

pub(crate) mod arrange;
pub(crate) mod compiled;
pub(crate) mod grid;
pub(crate) mod guides;
pub(crate) mod height_independence;
pub(crate) mod layout_rules;
pub(crate) mod planned;
