//! What holds a value where it is, and what bounds the region in which it does.

use crate::problem::{ParamId, RuleId, VarId};

/// What holds a value where it is, or bounds a region.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum Reason {
    /// A rule.
    Rule(RuleId),
    /// A variable that is given to be at least zero.
    Nonnegative(VarId),
    /// A settling step, counted from 0.
    Settle(usize),
    /// Nothing at all speaks of the variable, so it is at zero.
    Unruled(VarId),
}

/// One side of a region: `constant + sum of coefficient * parameter` is at least zero in it.
#[derive(Clone, Debug, PartialEq)]
pub struct Bound {
    /// What would be broken, or would hold something, beyond.
    pub reason: Reason,
    /// The part that depends on nothing.
    pub constant: f64,
    /// The part that depends on parameters.
    pub terms: Vec<(ParamId, f64)>,
}
