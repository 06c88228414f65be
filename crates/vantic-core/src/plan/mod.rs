//! A screen compiled for placing.
//!
//! `variant` works out what the bands make of the screen, once for every combination of bands that some
//! display meets; `compile` turns a variant into a problem for the solver, over `variables` and `parameters`;
//! `solve` finds the best placement, with what counts of each `max` and `min`; `place` feeds it a display,
//! lets texts and scrolling converge, and reads the frames back. `plan` is what callers hold,
//! `live` what they keep solved, `live_frames` what it gives, `list` very many rows. `examine` says
//! what is open or contradictory, `explain` why something is where it is, `lookahead` how fast everything
//! moves with its parent a range. Stands on `model`; checks and applications call it.

pub(crate) mod arrangement_choices;
pub(crate) mod canvas;
pub(crate) mod cell_placement;
pub(crate) mod compile;
pub(crate) mod error;
pub(crate) mod examine;
pub(crate) mod explain;
pub(crate) mod list;
pub(crate) mod live;
pub(crate) mod live_frames;
pub(crate) mod lookahead;
pub(crate) mod parameters;
pub(crate) mod place;
pub(crate) mod plan;
pub(crate) mod solve;
pub(crate) mod variables;
pub(crate) mod variant;

pub use error::{PlaceError, PlanError};
pub use examine::{Circular, Collapsed, Contradiction, Examination, FreeCoordinate};
pub use explain::{HeldBy, Why, WhyChange, WhyNext, WhyNot, WhyPart, WhyStep, Wish};
pub use list::long_list::{ListError, LongList, PlacedRow, RowAt, RowContent};
pub use live::{EditError, Live, WarmStartSource};
pub use live_frames::LiveFrames;
pub use lookahead::{Lookahead, SegmentEnd};
pub use place::appearance::{Appearance, Fit};
pub use place::choosing::Snapshot;
pub use place::painting::Painting;
pub use place::placement::{Missed, Placement};
#[cfg(feature = "json")]
pub use place::placement_json::NamedPlacement;
pub use plan::Plan;
