//! The core of Vantic.

pub mod display;
pub mod geometry;
pub mod limits;
pub mod model;
pub mod plan;
pub mod text;
pub mod words;
