//! A screen file used from Rust without strings: a module with a field for all that has a name. `fields` makes the types, `module` the
//! whole of it. Stands on `files` and `check`; the crate `vantic-build` calls it from build scripts.

mod fields;
pub(crate) mod module;

pub use module::module;
