//! Rules: labels, levels and bounds, relations, and the rules that are more than a relation.

use crate::syntax::ast::nodes::{
    behind_word, block_of, child, first_word, is_form, of_kind, own_words, paths, says, tokens, value, values,
};
use crate::syntax::lexer::Kind;
use crate::syntax::tree::{Node, Token};
use vantic_core::geometry::Axis;

/// A rule: `tall: height = 56 ~ fit`, or several that stand together in braces.
pub(crate) struct Rule {
    pub(crate) label: Option<Token>,
    /// The block of several rules that go by one label.
    pub(crate) together: Option<Node>,
    /// What it says, without its label.
    pub(crate) body: Node,
}

impl Rule {
    pub(crate) fn of(node: &Node) -> Self {
        let inner = node.children().find(|n| is_form(n.kind()));
        Self {
            label: child(node, Kind::Label).and_then(|label| first_word(&label, 0)),
            together: block_of(node),
            body: inner.unwrap_or_else(|| node.clone()),
        }
    }
}

/// `~ level weight 2`, or `weight 2` alone.
pub(crate) struct Strength {
    /// The level, or the word `weight` where there is none.
    pub(crate) name: Token,
    pub(crate) weight: Option<Node>,
}

impl Strength {
    /// Of its own node.
    pub(crate) fn of(node: &Node) -> Option<Self> {
        Some(Self { name: first_word(node, 0)?, weight: value(node) })
    }

    pub(crate) fn level(&self) -> Option<&Token> {
        Some(&self.name).filter(|name| name.text() != "weight")
    }
}

/// What a bound limits.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum BoundKind {
    AtLeast,
    AtMost,
    Lean,
}

/// `, at least 8 ~ fit`, behind a rule, a share or a repeat.
pub(crate) struct Bound {
    pub(crate) node: Node,
    pub(crate) kind: BoundKind,
    pub(crate) value: Node,
    pub(crate) strength: Option<Node>,
}

impl Bound {
    fn of(node: Node) -> Option<Self> {
        let kind = match (first_word(&node, 0)?.text(), first_word(&node, 1)) {
            ("lean", _) => BoundKind::Lean,
            (_, Some(end)) if end.text() == "least" => BoundKind::AtLeast,
            _ => BoundKind::AtMost,
        };
        Some(Self { kind, value: value(&node)?, strength: child(&node, Kind::Strength), node })
    }
}

/// The bounds of a statement; `None` where one of them went wrong.
pub(crate) fn bounds(node: &Node) -> Option<Vec<Bound>> {
    of_kind(node, Kind::Bound).map(Bound::of).collect()
}

/// The value of the first bound of a kind.
pub(crate) fn bound(bounds: &[Bound], kind: BoundKind) -> Option<Node> {
    bounds.iter().find(|b| b.kind == kind).map(|b| b.value.clone())
}

/// A side, and its distance if there is one: `left 16`.
pub(crate) struct PinSide {
    pub(crate) node: Node,
    pub(crate) word: Token,
    pub(crate) by: Option<Node>,
}

/// The sides of a pin, or of what sticks.
pub(crate) fn sides(node: &Node) -> Option<Vec<PinSide>> {
    let side = |node: Node| Some(PinSide { word: first_word(&node, 0)?, by: value(&node), node });
    of_kind(node, Kind::PinSide).map(side).collect()
}

/// What a rule says.
pub(crate) enum Body {
    /// `width = 2 * height`.
    Relation { left: Node, sign: Token, right: Node },
    /// `pin left 16, right 16 to parent`.
    Pin { sides: Vec<PinSide>, to: Node },
    /// `below header by 8`.
    Gap { word: Token, of: Node, by: Option<Node> },
    /// `ratio width : height = 3 : 2`.
    Ratio { of: [Node; 2], proportion: [Node; 2] },
    /// `between a.right and b.left, lean 30%, at most 400`.
    Between { from: Node, to: Node, lean: Option<Node>, at_most: Option<Node> },
    /// `contain 3 : 2 in card, lean (50%, 0%)`.
    Fit { covers: bool, proportion: Option<[Node; 2]>, within: Node, lean: Option<Node> },
    /// `span across 25%..75% in parent, inset 8, 12`.
    Span { axis: Axis, from: Node, to: Node, within: Node, insets: Vec<Node> },
    /// `drawn across 120, 160 in parent of 520, grow width, end`.
    Drawn { axis: Axis, at: Node, size: Node, within: Node, whole: Node, grow: Vec<Token> },
    /// `spread across a, b, c in parent, evenly`.
    Spread { axis: Axis, views: Vec<Node>, within: Option<Node>, how: Option<Token> },
    /// `enclose a, b, c by 8`.
    Enclose { views: Vec<Node>, by: Option<Node> },
}

impl Body {
    /// Of the body of a [`Rule`].
    pub(crate) fn of(node: &Node) -> Option<Self> {
        let mut parts = values(node);
        let mut part = || parts.next();
        let axis = || if says(node, "across") { Axis::Across } else { Axis::Down };
        Some(match node.kind() {
            Kind::Rule => {
                let is_sign = |k| matches!(k, Kind::Equal | Kind::AtMost | Kind::AtLeast);
                let sign = tokens(node).find(|t| is_sign(t.kind()))?;
                Body::Relation { left: part()?, sign, right: part()? }
            }
            Kind::Pin => Body::Pin { sides: sides(node)?, to: part()? },
            Kind::Gap => Body::Gap { word: first_word(node, 0)?, of: part()?, by: part() },
            Kind::Ratio => Body::Ratio { of: [part()?, part()?], proportion: [part()?, part()?] },
            Kind::Between => {
                let bounds = bounds(node)?;
                let [lean, at_most] = [BoundKind::Lean, BoundKind::AtMost].map(|kind| bound(&bounds, kind));
                Body::Between { from: part()?, to: part()?, lean, at_most }
            }
            Kind::Fit => {
                let (before, within, behind) = boxed(node)?;
                let proportion = match before.as_slice() {
                    [m, n] => Some([m.clone(), n.clone()]),
                    _ => None,
                };
                let covers = first_word(node, 0)?.text() == "cover";
                Body::Fit { covers, proportion, within, lean: behind.into_iter().next() }
            }
            Kind::Span => {
                let (before, within, insets) = boxed(node)?;
                let [from, to] = before.try_into().ok()?;
                Body::Span { axis: axis(), from, to, within, insets }
            }
            Kind::Drawn => {
                let (before, within, behind) = boxed(node)?;
                let ([at, size], [whole]) = (before.try_into().ok()?, behind.try_into().ok()?);
                let grow = child(node, Kind::Bound).iter().flat_map(own_words).collect();
                Body::Drawn { axis: axis(), at, size, within, whole, grow }
            }
            Kind::Spread => {
                let within = behind_word(node, "in");
                let views = paths(node).filter(|n| Some(n) != within.as_ref()).collect();
                let how = own_words(node).last().filter(|_| within.is_some());
                Body::Spread { axis: axis(), views, within, how }
            }
            Kind::Enclose => {
                let by = behind_word(node, "by");
                let views = paths(node).filter(|n| Some(n) != by.as_ref()).collect();
                Body::Enclose { views, by }
            }
            _ => return None,
        })
    }
}

/// The values before the box that stands behind `in`, the box, and those behind it.
fn boxed(node: &Node) -> Option<(Vec<Node>, Node, Vec<Node>)> {
    let within = behind_word(node, "in")?;
    let others = values(node).filter(|n| *n != within);
    let (before, behind) = others.partition(|n| n.text_range().end() <= within.text_range().start());
    Some((before, within, behind))
}
