//! A drawing held against a screen: where views are not where they were drawn, and which rules say so. What makes them agree is in
//! `fix`.

pub(crate) mod drifted;

pub use drifted::{Drift, Drifted, Root, drift};
