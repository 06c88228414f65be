//! What the tests of several crates share, and the fuzzers. Nothing here is published.

#[cfg(feature = "kit")]
mod kit;
pub mod screens;
#[cfg(feature = "kit")]
pub mod stages;

#[cfg(feature = "kit")]
pub use kit::{Schema, cases};
