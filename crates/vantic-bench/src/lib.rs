//! How fast the solver is: the screens that are measured, and the same placement as straight-line
//! arithmetic. `cargo bench` measures and prints one table of ratios.

mod workload;

pub use workload::{COLUMNS, Workload, cells, cells_by_hand, knot, list, list_by_hand, workload};

/// How many views the straight-line arithmetic places.
pub const STRAIGHT_VIEWS: usize = 1000;

include!(concat!(env!("OUT_DIR"), "/straight.rs"));
