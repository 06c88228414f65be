//! What can be read off placements: neighbours, other anchorings, groups, distances, comparisons of two
//! placements.
//!
//! Reads placements and screens, changes nothing; checks, fixes and the command-line tool call it.

pub(crate) mod anchoring;
pub(crate) mod compare;
pub(crate) mod grouping;
pub(crate) mod guide_edges;
pub(crate) mod invariants;
pub(crate) mod rules;

pub use anchoring::{NEAR_GUIDE, Neighbour, Tie, neighbours, tied};
pub use compare::{Difference, Distances, MAX_CAUSES_TOLD, compare, distances, free_space};
pub use grouping::{Gathered, gathered};
pub use invariants::{Invariant, MAX_COMPARED, Measurement, across};
pub use rules::{InferError, Inferred, InferredBand, InferredRule, Otherwise, Wish, Wishes, infer, infer_as};
