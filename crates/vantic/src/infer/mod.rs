//! TODO-HEAD

pub(crate) mod anchoring;
pub(crate) mod compare;
pub(crate) mod grouping;
pub(crate) mod guide_edges;
pub(crate) mod invariants;

pub use anchoring::{NEAR_GUIDE, Neighbour, Tie, neighbours, tied};
pub use compare::{Difference, Distances, compare, distances, free_space};
pub use grouping::{Gathered, gathered};
pub use invariants::{Invariant, MAX_COMPARED, Measurement, across};
