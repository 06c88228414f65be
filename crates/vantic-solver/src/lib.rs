//! Linear rules over variables, with musts and any number of levels of preference.
//!
//! A [`Problem`] holds variables, rules and the order in which open questions are settled. It never
//! changes once built. The constants of its rules are affine in **parameters** (the size of a
//! display, say), so one problem is solved for many parameter values, with a [`Workspace`] that is
//! used again and again.
//!
//! ```
//! use vantic_solver::{Affine, Level, Linear, ProblemBuilder, Relation, Status, Workspace};
//!
//! let mut build = ProblemBuilder::new();
//! let room = build.parameter();
//! let width = build.given_variable(); // never below zero
//! // width = 300 where there is room for it (a preference), width <= room (a must)
//! build.rule(Linear::of(width).plus(-300.0), Relation::Equal, Level::preference(1), 1.0)?;
//! build.rule(Linear::of(width) - Affine::of(room), Relation::AtMost, Level::MUST, 1.0)?;
//! let problem = build.build();
//!
//! let outcome = problem.solve(&[240.0], &mut Workspace::new())?;
//! assert_eq!(outcome.status, Status::Solved);
//! assert_eq!(outcome.values[width.index()], 240.0);
//! assert_eq!(outcome.level_totals, [0.0, 60.0]);
//! # Ok::<(), vantic_solver::ProblemError>(())
//! ```
//!
//! # What the answer means
//!
//! Level by level, the strongest first, the weighted sum of the rules' violations is made as small
//! as it can be among all points that are best on every stronger level (constraint hierarchies:
//! Borning, Freeman-Benson & Wilson 1992). Musts are level 0. What is still open is settled in a
//! fixed order: each rule's own violation, then the [`Settle`] steps. [`Problem::diagnose`] says
//! what was open and which musts cannot hold together.
//!
//! # Limits
//!
//! A block of rules that hang together is held as a dense table. A block of more than
//! [`MAX_TABLE_CELLS`] cells is not attempted, and every search has a bound on its steps; both end
//! in [`Status::Stopped`], never in a hang.

mod blocks;
mod conflict;
mod diagnose;
mod presolve;
mod problem;
mod solve;
mod table;
mod tolerance;

pub use conflict::{Conflict, WiderConflict};
pub use diagnose::{Diagnosis, Free, FreeKind, Range};
pub use problem::{
    Affine, Level, Linear, MAX_LEVEL, ParamId, Problem, ProblemBuilder, ProblemError, Relation, RuleId,
    Settle, VarId,
};
pub use solve::{Outcome, Status, Workspace};
pub use table::MAX_TABLE_CELLS;
