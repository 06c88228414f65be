//! A screen file used from Rust without strings: a build script reads it, fails where it has mistakes, and writes a module with a
//! field for all that has a name. `fields` makes the types, `screens` is what a build script calls. Stands on `files` and
//! `check`; build scripts call it.

mod fields;
pub(crate) mod screens;

pub use screens::Screens;
