//! TODO-HEAD

pub(crate) mod arrange;
pub(crate) mod bands;
pub(crate) mod bases;
pub(crate) mod declare;
pub(crate) mod names;
pub(crate) mod parts;
pub(crate) mod read;
pub(crate) mod reader;
pub(crate) mod rule_forms;
pub(crate) mod rules;
pub(crate) mod scope;
pub(crate) mod sections;
pub(crate) mod settings;
pub(crate) mod source_map;
pub(crate) mod value;

pub use read::{Source, read, read_bytes};
pub use source_map::SourceMap;
