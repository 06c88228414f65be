//! Edits of the structure of a screen file: views put in and taken out, tied otherwise, arranged and freed. Each is a few edits of
//! the text, which keeps its comments and its layout, and says what moves by it.
//!
//! `context` holds the file and compares frames before and after an edit on all displays; `chain` inserts and removes,
//! `ties` ties views otherwise, `arranged` gathers them into rows and columns and takes them out,
//! `copied` gives views the rules of another and lines them up.

mod arranged;
mod chain;
mod context;
mod copied;
mod ties;

pub use chain::NewView;
pub use context::{Moved, Restructured, Structure, StructureError};
pub use copied::ALIGNABLE;
