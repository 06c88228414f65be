//! How a view arranges its children, and the settings of views.

use crate::syntax::ast::nodes::{block_of, child, first_word, of_kind, says, value};
use crate::syntax::ast::rules::{Bound, BoundKind, bound, bounds};
use crate::syntax::lexer::Kind;
use crate::syntax::tree::{Node, Token};
use vantic_core::geometry::Axis;

/// `gap 8`, `align center`, `margin 40`: a part of a row, a column, a grid or a guide.
pub(crate) struct Clause {
    pub(crate) node: Node,
    pub(crate) word: Token,
    /// The word behind it: `center`.
    pub(crate) choice: Option<Token>,
    pub(crate) value: Option<Node>,
}

/// The clauses of a statement; `None` where one of them went wrong.
pub(crate) fn clauses(node: &Node) -> Option<Vec<Clause>> {
    let clause = |node: Node| {
        let (word, choice) = (first_word(&node, 0)?, first_word(&node, 1));
        Some(Clause { word, choice, value: value(&node), node })
    };
    of_kind(node, Kind::Clause).map(clause).collect()
}

/// `columns 3 of 120`, of a grid.
pub(crate) struct GridColumns {
    pub(crate) count: Option<Node>,
    /// How wide each is.
    pub(crate) of: Option<Node>,
    /// How wide each is at least.
    pub(crate) at_least: Option<Node>,
    pub(crate) snug: bool,
}

impl GridColumns {
    /// Of the clause.
    pub(crate) fn of(node: &Node) -> Self {
        let bound = child(node, Kind::Bound);
        let is_of = bound.as_ref().is_some_and(|b| says(b, "of"));
        let length = bound.as_ref().and_then(value);
        let (of, at_least) = if is_of { (length, None) } else { (None, length) };
        Self { count: value(node), of, at_least, snug: says(node, "snug") }
    }
}

/// What a guide is.
pub(crate) enum Guide {
    /// `padding 32`.
    Padding(Node),
    /// `line down 40% ~ fit`.
    Mark { axis: Axis, at: Option<Node>, strength: Option<Node> },
    /// `columns 8, margin 40, gutter 16`.
    Cells { axis: Axis, count: Option<Node>, clauses: Vec<Clause> },
}

impl Guide {
    pub(crate) fn of(node: &Node) -> Option<Self> {
        let axis = |is_across: bool| if is_across { Axis::Across } else { Axis::Down };
        Some(match first_word(node, 0)?.text() {
            "padding" => Guide::Padding(value(node)?),
            "line" => Guide::Mark {
                axis: axis(says(node, "across")),
                at: value(node),
                strength: child(node, Kind::Strength),
            },
            word => {
                Guide::Cells { axis: axis(word == "columns"), count: value(node), clauses: clauses(node)? }
            }
        })
    }
}

/// `share 2, at least 40, at most 200`.
pub(crate) struct Share {
    pub(crate) weight: Node,
    pub(crate) at_least: Option<Node>,
    pub(crate) at_most: Option<Node>,
}

impl Share {
    pub(crate) fn of(node: &Node) -> Option<Self> {
        let bounds = bounds(node)?;
        let [at_least, at_most] = [BoundKind::AtLeast, BoundKind::AtMost].map(|kind| bound(&bounds, kind));
        Some(Self { weight: value(node)?, at_least, at_most })
    }
}

/// `space 24`, `space share 2`, `space`.
pub(crate) struct Space {
    pub(crate) is_share: bool,
    pub(crate) value: Option<Node>,
}

impl Space {
    pub(crate) fn of(node: &Node) -> Self {
        Self { is_share: says(node, "share"), value: value(node) }
    }
}

/// `repeat slot 5 { ... }`, `repeat slot at least 2, at most 9, cut 24 { ... }`.
pub(crate) struct Repeat {
    pub(crate) name: Token,
    pub(crate) count: Option<Node>,
    pub(crate) bounds: Vec<Bound>,
    pub(crate) cut: Option<Node>,
    pub(crate) block: Node,
}

impl Repeat {
    pub(crate) fn of(node: &Node) -> Option<Self> {
        let (name, block) = (first_word(node, 1)?, block_of(node)?);
        Some(Self { name, count: value(node), bounds: bounds(node)?, cut: cut(node), block })
    }
}

/// How much is to be seen of what is cut, of a repeat or a spare child.
pub(crate) fn cut(node: &Node) -> Option<Node> {
    value(&child(node, Kind::Clause)?)
}

/// `font 16`, `snug ~ fit`.
pub(crate) struct Setting {
    pub(crate) word: Token,
    pub(crate) value: Option<Node>,
    pub(crate) strength: Option<Node>,
}

impl Setting {
    pub(crate) fn of(node: &Node) -> Option<Self> {
        Some(Self { word: first_word(node, 0)?, value: value(node), strength: child(node, Kind::Strength) })
    }
}
