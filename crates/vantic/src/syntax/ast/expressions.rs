//! Expressions, and the tests of bands.

use crate::syntax::ast::nodes::{child, own_words, paths, tokens, value, values};
use crate::syntax::lexer::Kind;
use crate::syntax::tree::{Node, Token};

/// An expression.
pub(crate) enum Expression {
    /// `12.5`, or `45deg`.
    Literal { number: Token, degrees: bool },
    /// `50%`, or `50% of parent.width`.
    Percentage { number: Token, of: Option<Node> },
    /// `-gap`.
    Negative(Node),
    /// `(16, 8)`, or a value in brackets.
    Group(Vec<Node>),
    /// `max(a, b)`.
    Call { of: Node, with: Vec<Node> },
    /// `a + b - c`: the first value, and each further one behind its operator.
    Chain { first: Node, then: Vec<(Token, Node)> },
    /// `parent.width`, or the name of a number.
    Path,
}

impl Expression {
    pub(crate) fn of(node: &Node) -> Option<Self> {
        let number = || tokens(node).find(|t| t.kind() == Kind::Number);
        Some(match node.kind() {
            Kind::Literal => {
                Expression::Literal { number: number()?, degrees: own_words(node).next().is_some() }
            }
            Kind::Percentage => Expression::Percentage { number: number()?, of: value(node) },
            Kind::Negative => Expression::Negative(value(node)?),
            Kind::Group => Expression::Group(values(node).collect()),
            Kind::Call => {
                let group = child(node, Kind::Group)?;
                Expression::Call { of: paths(node).next()?, with: values(&group).collect() }
            }
            Kind::Binary => {
                let is_operator = |k| matches!(k, Kind::Plus | Kind::Minus | Kind::Star | Kind::Slash);
                let operators = tokens(node).filter(|t| is_operator(t.kind()));
                let mut values = values(node);
                Expression::Chain { first: values.next()?, then: operators.zip(values).collect() }
            }
            Kind::Path => Expression::Path,
            _ => return None,
        })
    }
}

/// What a band asks of a display.
pub(crate) enum Test {
    Not(Node),
    Group(Node),
    All(Vec<Node>),
    Any(Vec<Node>),
    /// `screen.width >= 600`, `screen.width 400..600`, `touch`: what it is about, the comparison, the
    /// numbers.
    Of {
        path: Node,
        order: Option<Token>,
        numbers: Vec<Node>,
    },
}

impl Test {
    pub(crate) fn of(node: &Node) -> Option<Self> {
        let all = || node.children().collect();
        let one = || node.children().next();
        Some(match node.kind() {
            Kind::TestNot => Test::Not(one()?),
            Kind::TestGroup => Test::Group(one()?),
            Kind::TestBoth => Test::All(all()),
            Kind::TestEither => Test::Any(all()),
            Kind::Test => {
                let is_order = |k| matches!(k, Kind::Below | Kind::AtMost | Kind::AtLeast | Kind::Above);
                let path = paths(node).next()?;
                let numbers = values(node).filter(|n| n.kind() != Kind::Path).collect();
                Test::Of { path, order: tokens(node).find(|t| is_order(t.kind())), numbers }
            }
            _ => return None,
        })
    }
}
