//! Proofs, which [`crate::verify()`] checks.

use crate::diagnose::Free;
use crate::plan::Outcome;
use std::collections::BTreeMap;

/// The proof that no level can be better: one factor per level for the rules and givens that take
/// part (duality of linear programming, level by level).
///
/// On each level, the rules' expressions times their factors, plus the given variables times
/// theirs, leave no variable. And a factor never promises more than a rule costs: read from the
/// strongest level on, it lies between what a unit below and a unit above costs, and is exactly that
/// where the rule is violated. [`crate::verify()`] checks both.
#[derive(Clone, Debug, PartialEq)]
pub struct Certificate {
    /// Per rule: its factor on each level. Rules without factors are left out.
    pub rules: BTreeMap<usize, Vec<f64>>,
    /// Per variable that is given to be at least zero: its factor on each level.
    pub nonnegatives: BTreeMap<usize, Vec<f64>>,
}

/// A free range with the proof of its ends.
///
/// Each end is proven by the answer to a problem of its own, with its certificate: the required rules and
/// levels (and for an ambiguous variable each rule's own violation) kept as good as they are, and a
/// wish for one more than the end, which is missed by one. Where there is no end, it is a step that
/// can be made for ever.
#[derive(Clone, Debug, PartialEq)]
pub struct ProvenRange {
    /// The range.
    pub free: Free,
    /// The proof of its lower end.
    pub low: (Outcome, Certificate),
    /// The proof of its upper end.
    pub high: (Outcome, Certificate),
}
