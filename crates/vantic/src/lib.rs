//! Vantic places views by linear rules, and says what is wrong with the rules.
//!
//! | to | call |
//! |---|---|
//! | read a screen file | [`read()`], [`files::Assembled`] for one that is based on others |
//! | build a screen in Rust | [`ScreenBuilder`] |
//! | place it | [`Plan::new`], [`Plan::place`] |
//! | keep it placed while a window is resized | [`Plan::live`], [`plan::Live::frames`] |
//! | change it while it is placed | [`plan::Live::edit`] |
//! | find out what is wrong | [`check()`], [`check::check_as`] |
//! | find where a range of sizes starts to break | [`sweep::sweep`] |
//! | explain a coordinate | [`Plan::why`], [`Plan::why_not`] |
//! | fix what was found | [`fix::Fixes`] |
//! | test a screen | [`testing::assert_expectations`] |
//! | use a screen file without strings | the crate `vantic-build`, [`include_screen!`] |
//!
//! ```
//! use vantic::prelude::*;
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
//! # Ok::<(), vantic::syntax::SourceErrors>(())
//! ```
//!
//! # Units and meaning
//!
//! All lengths are logical pixels from the screen's top left corner, y down. A rule without a level is
//! required; one on a level gives way to every required rule and every stronger level. Where required rules
//! contradict one another a placement still comes back, and [`Placement::broken`] names them.
//!
//! # Layers
//!
//! The crate `vantic-core` ([`limits`], [`words`], [`geometry`], [`display`], [`text`], [`model`], [`plan`])
//! is what an application needs at run time; on it stand [`syntax`], [`finding`], [`resolve`], [`json`],
//! [`files`], [`infer`], [`sweep`], [`mod@check`], [`fix`], [`testing`] and [`typed`], each importing only those
//! before it.
//!
//! # Limits
//!
//! See [`limits`]: at most 100,000 views, nested at most 64 deep, 1,000,000 rules, 64 bands, 256 levels,
//! numbers up to 10,000,000; files up to [`syntax::MAX_FILE_BYTES`] bytes.

pub mod check;
mod displays;
pub mod drawing;
pub mod drift;
pub mod files;
pub mod finding;
pub mod fix;
pub mod infer;
mod inspect;
pub mod json;
pub mod resolve;
mod screen_ext;
pub mod structure;
pub mod sweep;
pub mod syntax;
pub mod testing;
pub mod typed;

pub use vantic_core::{geometry, include_screen, limits, model, plan, text, tolerance, words, work};

/// Displays: what a screen is shown on, the catalogue of them, files of them, and every combination of what
/// is tried.
pub mod display {
    pub use crate::displays::*;
    pub use vantic_core::display::*;
}

pub use check::check;
pub use display::Display;
pub use model::{Screen, ScreenBuilder, ViewId};
pub use plan::{Placement, Plan};
pub use resolve::read;
pub use text::PlainText;

/// The names that nearly every program needs.
pub mod prelude {
    pub use crate::check::{CheckOptions, Report};
    pub use crate::finding::{Finding, NamedFinding, Severity};
    pub use vantic_core::prelude::*;
}

#[cfg(doctest)]
#[doc = include_str!("../../../docs/application.md")]
mod application {}
