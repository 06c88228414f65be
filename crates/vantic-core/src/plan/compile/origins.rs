//! Where the rules of a problem come from, and what stands for a `max` or `min` in it.

use crate::model::id::{BandId, RuleId, ViewId};
use crate::model::rule_ref::RuleRef;
use vantic_solver as solver;
use vantic_solver::{Linear, Settle, VarId};

/// Where a rule of the solver's problem comes from.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub(crate) enum Origin {
    /// A relation of a rule of the screen.
    Written { rule: RuleId, relation: usize },
    /// A view is not smaller than its content, or not larger.
    Content { view: ViewId, whole: bool },
    /// A view is as small as what its children take.
    ShrinkToChildren(ViewId),
    /// A view places one of its children.
    Arranged { view: ViewId, child: ViewId, band: Option<BandId> },
    /// A child takes its share of a view, and no more.
    Share { view: ViewId, child: ViewId, band: Option<BandId> },
    /// What a `max` or `min` of a rule stands for is on the right side of what it is made of.
    MinMax(RuleRef),
}

/// A `max` or `min`: a variable that is on the right side of all arguments, and is to equal one.
#[derive(Clone, Debug, PartialEq)]
pub(crate) struct MinMaxNode {
    pub(crate) var: VarId,
    pub(crate) is_max: bool,
    pub(crate) of: Vec<Linear>,
    /// The rule of the problem for each argument.
    pub(crate) rules: Vec<solver::RuleId>,
    /// The least and the most of a `clamp`, and the relation it stands in.
    pub(crate) limits: Option<(Linear, Linear, Origin)>,
}

impl Origin {
    /// Whether it may be violated without anything having given way.
    pub(crate) fn is_aim(self) -> bool {
        matches!(self, Origin::MinMax(_) | Origin::ShrinkToChildren(_) | Origin::Share { .. })
    }
}

impl MinMaxNode {
    /// What a `max` or `min` stands for lies near its first argument.
    pub(crate) fn settled(&self) -> Settle {
        Settle::near(Linear::of(self.var), self.of[0].clone())
    }
}
