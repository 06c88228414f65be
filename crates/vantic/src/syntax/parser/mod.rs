//! A recursive-descent parser that recovers at line ends. `parser` has blocks and statements, the others a
//! family of statements each.

pub(crate) mod arrange;
pub(crate) mod parser;
pub(crate) mod rules;
pub(crate) mod sections;
