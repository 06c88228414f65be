//! The node and token types of the lossless tree (rowan).

use crate::syntax::lexer::Kind;

/// A node of the tree.
pub(crate) type Node = rowan::SyntaxNode<Vantic>;

/// A token of the tree.
pub(crate) type Token = rowan::SyntaxToken<Vantic>;

/// The language, for the tree.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub(crate) enum Vantic {}

impl rowan::Language for Vantic {
    type Kind = Kind;

    fn kind_from_raw(raw: rowan::SyntaxKind) -> Kind {
        Kind::ALL[usize::from(raw.0)]
    }

    fn kind_to_raw(kind: Kind) -> rowan::SyntaxKind {
        rowan::SyntaxKind(kind as u16)
    }
}
