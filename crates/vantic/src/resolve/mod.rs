//! From the syntax tree to a screen: names are looked up from the inside out, expressions made linear, every
//! mistake reported.
//!
//! `read` is the entry; it walks the tree with a `reader::Reader`, to which the other files add a kind of
//! statement each, and which feeds a `ScreenBuilder`. `scope` holds what names stand for, `source_map` where
//! everything stands in the file. Stands on `syntax`; checks and fixes use the result, never the reader.

pub(crate) mod arrange;
pub(crate) mod bands;
pub(crate) mod bases;
pub(crate) mod declare;
pub(crate) mod leftovers;
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
