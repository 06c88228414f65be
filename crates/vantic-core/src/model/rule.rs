//! Relations between coordinates, how strongly they are meant, and the rules that hold them.

use crate::model::coordinate::{Anchor, Coordinate, Side};
use crate::model::expression::{Expr, Pair, Term};
use crate::model::id::{BandId, LevelId, ScreenTag, ViewId};

/// `a : b = m : n`, which is the rule `a = (m / n) * b`.
pub fn ratio(a: Expr, b: Expr, m: f64, n: f64) -> RuleDraft {
    a.equals(b * (m / n))
}

/// How the two sides of a relation compare.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum Comparison {
    /// `=`
    Equal,
    /// `<=`
    AtMost,
    /// `>=`
    AtLeast,
}

impl Comparison {
    /// The spelling in a screen file.
    pub fn spelling(self) -> &'static str {
        match self {
            Comparison::Equal => "=",
            Comparison::AtMost => "<=",
            Comparison::AtLeast => ">=",
        }
    }
}

/// One relation between coordinates, and how strongly it is meant.
#[derive(Clone, Debug, PartialEq)]
pub struct Relation {
    /// The left side.
    pub left: Expr,
    /// How the sides compare.
    pub comparison: Comparison,
    /// The right side.
    pub right: Expr,
    pub(crate) level: Option<LevelId>,
    pub(crate) weight: f64,
}

impl Relation {
    /// A required relation; middles are measured along the reading direction where either side is.
    pub fn new(mut left: Expr, comparison: Comparison, mut right: Expr) -> Self {
        let mut along = false;
        [&left, &right].iter().for_each(|side| side.each(&mut |e| along |= e.along));
        if along {
            left.turn_along();
            right.turn_along();
        }
        Self { left, comparison, right, level: None, weight: 1.0 }
    }

    /// How strongly it is meant.
    pub fn strength(&self) -> Strength {
        match self.level {
            None => Strength::Required,
            Some(level) => Strength::Prefer { level, weight: self.weight },
        }
    }

    /// Calls `visit` with both sides and all expressions within them.
    pub(crate) fn each(&self, visit: &mut dyn FnMut(&Expr)) {
        self.left.each(visit);
        self.right.each(visit);
    }

    /// The coordinates that it reads, those within the greatest and least of others included.
    pub fn terms(&self) -> Vec<Term> {
        let mut terms = Vec::new();
        self.each(&mut |e| terms.extend(&e.terms));
        terms
    }

    /// Whether it is measured along the reading direction: it speaks of start or end.
    pub(crate) fn is_along(&self) -> bool {
        let mut along = false;
        self.each(&mut |e| {
            along |= e.terms.iter().any(|t| matches!(t.coordinate, Coordinate::Start | Coordinate::End));
        });
        along
    }
}

/// The level that keeps a text no smaller than its words; directly below required rules.
pub const WHOLE: &str = "whole";

/// The level that keeps a text no larger than its words; below the ladder.
pub const SNUG: &str = "snug";

/// How strongly a rule is meant.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Strength {
    /// It has to hold.
    Required,
    /// It gives way to every required rule and to every stronger level.
    Prefer {
        /// The level.
        level: LevelId,
        /// How much it counts among the rules on its level.
        weight: f64,
    },
}

/// A rule before it is added to a screen.
#[derive(Clone, Debug, PartialEq)]
#[must_use = "it is no rule until it is added to a view"]
pub struct RuleDraft {
    pub(crate) relations: Vec<Relation>,
    pub(crate) label: Option<String>,
}

impl RuleDraft {
    /// A rule of several relations, without a label.
    pub fn new(relations: Vec<Relation>) -> Self {
        Self { relations, label: None }
    }

    /// The relations so far.
    pub fn relations(&self) -> &[Relation] {
        &self.relations
    }

    /// With a label, so that a band can replace or drop it.
    pub fn labelled(self, label: impl Into<String>) -> Self {
        Self { label: Some(label.into()), ..self }
    }

    /// As a preference on a level instead of a required rule.
    pub fn prefer(self, level: LevelId) -> Self {
        self.each(|r| r.level = Some(level))
    }

    /// How much it counts among the preferences on its level, from 0.001 to 1000.
    pub fn weight(self, weight: f64) -> Self {
        self.each(|r| r.weight = weight)
    }

    /// Together with another as one rule: a preferred gap and the least, say. Each keeps its level.
    pub fn and(mut self, other: RuleDraft) -> Self {
        self.relations.extend(other.relations);
        self
    }

    fn each(mut self, change: impl FnMut(&mut Relation)) -> Self {
        self.relations.iter_mut().for_each(change);
        self
    }
}

/// A rule of a screen.
#[derive(Clone, Debug, PartialEq)]
pub struct Rule {
    /// Its id bears it.
    pub(crate) tag: ScreenTag,
    pub(crate) owner: Option<ViewId>,
    pub(crate) band: Option<BandId>,
    pub(crate) label: Option<String>,
    pub(crate) number: u32,
    pub(crate) relations: Vec<Relation>,
}

impl Rule {
    /// The view in whose block it stands; `None` for the screen itself.
    pub fn owner(&self) -> Option<ViewId> {
        self.owner
    }

    /// The band in whose block it stands, if it does in one.
    pub fn band(&self) -> Option<BandId> {
        self.band
    }

    /// Its label, if it has one.
    pub fn label(&self) -> Option<&str> {
        self.label.as_deref()
    }

    /// Its number among the rules of its block, counted from 1.
    pub fn number(&self) -> u32 {
        self.number
    }

    /// The relations it stands for: one, or one per side or axis.
    pub fn relations(&self) -> &[Relation] {
        &self.relations
    }

    /// Whether it was removed: a rule that was added relates something.
    pub(crate) fn is_removed(&self) -> bool {
        self.relations.is_empty()
    }
}

pub(crate) fn equal(left: Expr, right: Expr) -> Relation {
    Relation::new(left, Comparison::Equal, right)
}

impl Expr {
    /// `self = other`.
    pub fn equals(self, other: impl Into<Expr>) -> RuleDraft {
        self.relate(Comparison::Equal, other.into())
    }

    /// `self <= other`.
    pub fn at_most(self, other: impl Into<Expr>) -> RuleDraft {
        self.relate(Comparison::AtMost, other.into())
    }

    /// `self >= other`.
    pub fn at_least(self, other: impl Into<Expr>) -> RuleDraft {
        self.relate(Comparison::AtLeast, other.into())
    }

    /// The two sides compared.
    pub fn relate(self, comparison: Comparison, right: Expr) -> RuleDraft {
        RuleDraft::new(vec![Relation::new(self, comparison, right)])
    }
}

impl Pair {
    /// Both expressions equal those of the other pair (one number fills both).
    pub fn equals(self, other: impl Into<Pair>) -> RuleDraft {
        self.relate(Comparison::Equal, other.into())
    }

    /// The two pairs compared, part by part.
    pub fn relate(self, comparison: Comparison, other: Pair) -> RuleDraft {
        let relation = |left, right| Relation::new(left, comparison, right);
        RuleDraft::new(vec![relation(self.0, other.0), relation(self.1, other.1)])
    }
}

impl Side {
    /// The relation that pins this side of a view, at a distance inwards.
    pub fn pinned(self, view: ViewId, to: Anchor, by: Expr) -> Relation {
        let coordinate = self.coordinate();
        let inwards = if Self::is_near(coordinate) { by } else { -by };
        let target = Expr::of(to, coordinate) + inwards;
        Relation::new(Expr::of(view.into(), coordinate), Comparison::Equal, target)
    }
}
