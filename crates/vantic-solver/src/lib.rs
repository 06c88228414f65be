//! Linear rules over variables, with required rules and any number of levels of preference.
//!
//! A [`Problem`] holds variables, rules and the order in which open questions are settled. The
//! constants of its rules are affine in **parameters** (the size of a display, say). A [`Plan`] is a
//! problem kept solved: for one set of parameters after another, and through edits of its rules.
//!
//! ```
//! use vantic_solver::{Affine, Level, Linear, Plan, ProblemBuilder, Relation, Status};
//!
//! let mut build = ProblemBuilder::new();
//! let room = build.parameter();
//! let width = build.nonnegative_variable(); // never below zero
//! // width = 300 where there is space for it (a preference), width <= room (a required rule)
//! build.rule(Linear::of(width).plus(-300.0), Relation::Equal, Level::preference(1), 1.0)?;
//! build.rule(Linear::of(width) - Affine::of(room), Relation::AtMost, Level::REQUIRED, 1.0)?;
//!
//! let mut plan = Plan::new(&build.build());
//! assert_eq!(plan.solve(&[240.0])?, Status::Solved);
//! assert_eq!(plan.values()[width.index()], 240.0);
//! assert_eq!(plan.outcome().level_totals, [0.0, 60.0]);
//! # Ok::<(), vantic_solver::ProblemError>(())
//! ```
//!
//! # What the answer means
//!
//! Level by level, the strongest first, the weighted sum of the rules' violations is made as small
//! as it can be among all points that are best on every stronger level (constraint hierarchies:
//! Borning, Freeman-Benson & Wilson 1992). Required rules are level 0. What is still open is settled in a
//! fixed order: each rule's own violation, then the [`Settle`] steps. [`Plan::diagnose`] says
//! what was open and which required rules cannot hold together.
//!
//! # How it is found
//!
//! Every equality is taken to hold and solved for one variable, sparsely and in elimination order;
//! where that breaks nothing it is the answer. What it breaks is put right by a dual simplex method
//! (Lemke 1954) over all levels and settling steps at once, which touches only what depends on it.
//! As long as the same rows stay tight the answer is affine in the parameters
//! (Gal & Nedoma 1972), so a new display is one pass of multiply-adds.
//!
//! # Limits
//!
//! Every search has a bound on its steps, and the part of the best points that can move together
//! is looked at as a dense table of at most [`MAX_TABLE_CELLS`] cells. Where a bound is met the
//! outcome is [`Status::Stopped`] (or [`Diagnosis::stopped`]), never a hang.

mod affine_pass;
mod basis;
mod certificate;
mod conflict;
mod crash_basis;
mod critical_regions;
mod diagnose;
mod edit;
mod elimination_order;
mod explain;
mod halfspaces;
mod infeasibility;
mod lex;
mod moves;
mod number;
mod optimal_face;
mod parametric_step;
mod plan;
mod problem;
mod proof;
mod reason;
mod region;
mod row_set;
mod rows;
mod simplex;
mod state;
mod sweep_pass;
mod table;
mod tolerance;
mod verify;
mod warm_start;
pub mod work;

pub use certificate::{Certificate, ProvenRange};
pub use conflict::{Conflict, ConflictWithoutNonnegativity};
pub use critical_regions::MAX_REGIONS;
pub use diagnose::{Diagnosis, Free, FreeKind};
pub use explain::{Cause, Explanation, Sides};
pub use number::{FACTOR_TOLERANCE, Number, VALUE_TOLERANCE};
pub use optimal_face::Range;
pub use parametric_step::ParametricStep;
pub use plan::{Formula, Input, Outcome, Plan, Status};
pub use problem::{
    Affine, Level, Linear, MAX_LEVEL, ParamId, Problem, ProblemBuilder, ProblemError, Relation, RuleId,
    Settle, VarId,
};
pub use reason::{Bound, Reason};
pub use table::MAX_TABLE_CELLS;
pub use verify::verify;
