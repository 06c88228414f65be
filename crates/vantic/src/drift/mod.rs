//! A drawing held against a screen: where views are not where they were drawn, which rules say so, and what makes them agree.
//!
//! `drifted` compares, `redrawn` changes constants of rules so that they give the drawn places.

mod drifted;
mod redrawn;

pub use drifted::{Drift, Drifted, Root, drift};
pub use redrawn::{Redrawn, Refused, follow_drawing};
