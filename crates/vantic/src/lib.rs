//! Vantic places views by linear rules, and says what is wrong with the rules.
//!
//! A screen is built in Rust, or read from a screen file with [`read`]. A [`Plan`] compiles it;
//! [`Plan::place`] gives the frames on a display, [`check()`] everything wrong or doubtful.
//!
//! ```
//! use vantic::{Coordinates, Display, PlainText, Plan, SAFE, ScreenBuilder, Side};
//!
//! let mut build = ScreenBuilder::new("quay");
//! let [fit] = build.ladder(["fit"]);
//! let board = build.view("board");
//! build.rule(board, board.pin([(Side::Left, 16.0), (Side::Right, 16.0), (Side::Top, 8.0)], SAFE));
//! build.rule(board, board.height().equals(SAFE.height() * 0.6).prefer(fit));
//! build.rule(board, board.height().at_most(400.0));
//! let plan = Plan::new(build.finish()?)?;
//! let frame = plan.place(&Display::new(390.0, 844.0)?, &PlainText)?.frame(board).unwrap();
//! assert_eq!((frame.left, frame.top, frame.width, frame.height), (16.0, 8.0, 358.0, 400.0));
//! # Ok::<(), Box<dyn std::error::Error>>(())
//! ```
//!
//! The same screen as a file:
//!
//! ```
//! let source = vantic::read(
//!     "screen quay {
//!          ladder fit
//!          view board {
//!              pin left 16, right 16, top 8 to safe
//!              height = 60% of safe.height ~ fit
//!              height <= 400
//!          }
//!      }",
//! )?;
//! assert_eq!(source.screen.rules().count(), 3);
//! # Ok::<(), vantic::SourceErrors>(())
//! ```
//!
//! # Units and meaning
//!
//! All lengths are logical pixels from the screen's top left corner, y down. A rule without a
//! level is a required rule; one on a level gives way to every required rule and every stronger level. Where required rules
//! contradict one another a placement still comes back, and [`Placement::broken`] names them.
//!
//! # Limits
//!
//! At most [`MAX_VIEWS`] views, nested at most [`MAX_NESTING`] deep, [`MAX_RULES`] rules,
//! [`MAX_BANDS`] bands, [`MAX_LEVELS`] levels, numbers up to [`MAX_NUMBER`], files up to
//! [`MAX_FILE_BYTES`] bytes.

pub mod check;
mod displays;
pub mod files;
pub mod finding;
pub mod fix;
pub mod infer;
mod inspect;
pub mod json;
pub mod resolve;
mod screen_ext;
pub mod sweep;
pub mod syntax;
pub mod testing;

pub use vantic_core::{geometry, limits, model, plan, text, words};

/// Displays: what a screen is shown on, the catalogue of them, and every combination of them.
pub mod display {
    pub use crate::displays::*;
    pub use vantic_core::display::*;
}

pub use check::check;
pub use display::Display;
pub use geometry::Frame;
pub use model::{Coordinates, SAFE, SCREEN, Screen, ScreenBuilder, Side, ViewId};
pub use plan::{Placement, Plan};
pub use resolve::read;
pub use text::PlainText;
