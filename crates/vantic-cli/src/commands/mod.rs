//! The commands, a file each; none calls another.

pub(crate) mod about;
pub(crate) mod check;
pub(crate) mod compare;
pub(crate) mod demo;
pub(crate) mod displays;
pub(crate) mod draw;
pub(crate) mod drift;
pub(crate) mod edit;
pub(crate) mod fmt;
pub(crate) mod infer;
pub(crate) mod place;
pub(crate) mod sweep;
pub(crate) mod why;
