//! What an application needs at run time to place its views by rules.
//!
//! | to | call |
//! |---|---|
//! | build a screen | [`model::ScreenBuilder`] |
//! | compile it | [`plan::Plan::new`] |
//! | place it on a display | [`plan::Plan::place`] |
//! | keep it placed while a window is resized | [`plan::Plan::live`], [`plan::Live::frames`] |
//! | change it while it is placed | [`plan::Live::edit`] |
//! | find out what is open or contradictory | [`plan::Plan::examine`] |
//! | find out why something is where it is | [`plan::Plan::why`] |
//!
//! ```
//! use vantic_core::prelude::*;
//!
//! let mut build = ScreenBuilder::new("quay");
//! let board = build.view("board");
//! build.rule(board, board.pin([(Side::Left, 16.0), (Side::Right, 16.0), (Side::Top, 8.0)], SAFE));
//! build.rule(board, board.height().equals(SAFE.height() * 0.6));
//! let plan = Plan::new(build.finish()?)?;
//! let placement = plan.place(&Display::new(390.0, 800.0)?, &PlainText)?;
//! assert_eq!(placement.frame(board).map(|f| (f.width, f.height)), Some((358.0, 480.0)));
//! # Ok::<(), Box<dyn std::error::Error>>(())
//! ```
//!
//! Screen files, checks, sweeps and fixes are in the crate `vantic`, which re-exports everything here.
//!
//! # Layers
//!
//! Each module imports only those before it: [`limits`], [`tolerance`], [`words`], [`geometry`], [`display`],
//! [`text`], [`model`], [`plan`].
//!
//! # Features
//!
//! `json`: placements and displays for machines (`Placement::named`), by serde. Off by default.

pub mod display;
pub mod geometry;
pub mod limits;
pub mod model;
pub mod plan;
pub mod text;
pub mod tolerance;
pub mod words;

pub use vantic_solver::work;

/// A module with a screen, made by a build script from a screen file: `include_screen!(quay)`, or `include_screen!(pub quay)`. See
/// the crate `vantic-build`.
#[macro_export]
macro_rules! include_screen {
    ($visibility:vis $name:ident) => {
        #[allow(dead_code, missing_docs, non_snake_case, unused, unreachable_pub, clippy::all)]
        $visibility mod $name {
            use $crate as lib;
            include!(concat!(env!("OUT_DIR"), "/", stringify!($name), ".rs"));
        }
    };
}

/// The names that nearly every program needs.
pub mod prelude {
    pub use crate::display::{Display, Insets};
    pub use crate::geometry::{Axis, Direction, Frame};
    pub use crate::model::{
        CLEAR, Condition, Coordinate, Coordinates, Expr, SAFE, SCREEN, Screen, ScreenBuilder, Side, ViewId,
    };
    pub use crate::plan::{Live, Placement, Plan};
    pub use crate::text::{Measure, PlainText};
}
