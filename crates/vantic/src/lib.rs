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
//! level is a must; one on a level gives way to every must and every stronger level. Where musts
//! contradict one another a placement still comes back, and [`Placement::broken`] names them.
//!
//! # Limits
//!
//! At most [`MAX_VIEWS`] views, nested at most [`MAX_NESTING`] deep, [`MAX_RULES`] rules,
//! [`MAX_BANDS`] bands, [`MAX_LEVELS`] levels, numbers up to [`MAX_NUMBER`], files up to
//! [`MAX_FILE_BYTES`] bytes.

mod across;
mod arrange;
mod assemble;
mod check;
mod claim;
mod compare;
mod coordinate;
mod design;
mod display;
mod displays;
mod expect;
mod finding;
mod form;
mod gather;
mod guide;
mod language;
mod matrix;
mod measure;
mod mend;
mod plan;
mod read;
mod room;
mod screen;
mod scroll;
mod shape;
mod sweep;
mod syntax;
mod tie;

pub use across::{Across, Compared, MAX_COMPARED, across};
pub use arrange::{
    Align, Arrangement, Columns, GridShape, MAX_COLUMNS, MAX_SPAN, Share, Shown, Space, Spread,
};
pub use assemble::{Assembled, InFile, MAX_BASES};
pub use check::{Checking, FoundOn, Report, check, check_as, interval_words, number};
pub use claim::{Claim, Claimed};
pub use compare::{Difference, Distances, compare};
pub use coordinate::{
    CLEAR, Comparison, Coordinate, Coordinates, Expr, MAX_PICK_NESTING, Pair, Pick, Picked, Place, Relation,
    SAFE, SCREEN, Side, Term, bearing, bearing_along, clamp, max, min, pixel, ratio,
};
pub use design::{Design, SCALE_RANGE, Scaling};
pub use display::{
    CATALOGUE, Direction, Display, DisplayClass, DisplayError, Insets, MAX_DISPLAY_SIDE, TURNED,
};
pub use displays::{Displays, DisplaysError, MAX_CLASSES};
pub use expect::{ExpectError, Expectation, Expected, USUAL_WITHIN, Unmet, expected, expected_of};
pub use finding::{Code, Edit, Finding, Fix, Interval, Severity, Spot};
pub use form::{Form, FormError};
pub use gather::Gathered;
pub use guide::{Cells, Division, Guide, MAX_CELLS, Mark};
pub use language::{Language, MAX_LANGUAGES, PSEUDO, WordsError};
pub use matrix::{MAX_COMBINATIONS, MAX_VIEWS_PLACED, Matrix, MatrixError};
pub use measure::{EvenText, LongerText, Measure, PlainText, TextRequest, TextSize};
pub use mend::{EditError, MAX_MENDED, MAX_WAYS, Mending, edited, without};
pub use plan::{
    Circular, Collapsed, Contradiction, Examination, Frame, FreeCoordinate, HeldBy, Live, LiveFrames, Looks,
    Missed, NamedPlacement, Painting, PlaceError, Placement, Plan, PlanError, RuleRef, Why, WhyChange,
    WhyNext, WhyNot, WhyPart, WhyStep, Wish, millionths,
};
pub use read::{PlacedPart, Source, SourceMap, read, read_bytes};
pub use room::{MAX_LONGER, Room, room_for_words};
pub use screen::{
    Acceptance, Band, BandId, BuildError, BuildErrors, Condition, Control, Draft, Image, LevelId, MAX_BANDS,
    MAX_LEVELS, MAX_NESTING, MAX_NUMBER, MAX_PICKED, MAX_RULES, MAX_VIEWS, Order, Paint, Property, Rule,
    RuleId, SNUG, Screen, ScreenBuilder, Setting, State, Strength, Text, Value, ValueId, View, ViewId, WHOLE,
};
pub use scroll::{Loose, Overhang, Scroll, Scrolled, Stuck};
pub use shape::{Axis, Length, spread, spread_in};
pub use sweep::{
    Along, ClaimVerdict, Event, EventKind, MAX_BORDERS, Proof, Range, Sweep, SweepError, Trouble, map_of,
    sweep,
};
pub use syntax::{MAX_FILE_BYTES, MAX_REPORTED, SourceError, SourceErrors, format, line_and_column};
pub use tie::{NEAR_GUIDE, Neighbour, Tie};
