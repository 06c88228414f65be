//! Parts of any node: its words, values, paths and block, and where they stand.

use crate::syntax::lexer::Kind;
use crate::syntax::tree::{Node, Token};
use rowan::TextRange;
use std::ops::Range;

/// Whether a statement says how views are arranged.
pub(crate) fn is_arranging(kind: Kind) -> bool {
    matches!(
        kind,
        Kind::Arrange
            | Kind::Grid
            | Kind::Share
            | Kind::Cells
            | Kind::Apart
            | Kind::Floats
            | Kind::Input
            | Kind::Control
            | Kind::Spare
            | Kind::Sit
            | Kind::Guide
            | Kind::Scroll
            | Kind::Overhang
            | Kind::Stick
    )
}

pub(crate) fn span(range: TextRange) -> Range<usize> {
    range.start().into()..range.end().into()
}

/// Whether the grammar of a statement went wrong; that has been reported.
pub(crate) fn is_lost(statement: &Node) -> bool {
    statement.next_sibling().is_some_and(|next| next.kind() == Kind::Wrong)
}

/// The span of a node without the blanks and comments around it.
pub(crate) fn node_span(node: &Node) -> Range<usize> {
    let whole = node.text_range();
    let inside = |token: &Token| whole.contains_range(token.text_range());
    let tokens = |from: Option<Token>, next: fn(&Token) -> Option<Token>| {
        let all = std::iter::successors(from, move |token| next(token).filter(inside));
        all.into_iter().find(|token| !token.kind().is_trivia()).map(|token| token.text_range())
    };
    let first = tokens(node.first_token(), Token::next_token).unwrap_or(whole);
    let last = tokens(node.last_token(), Token::prev_token).unwrap_or(first);
    first.start().into()..last.end().into()
}

pub(crate) fn block_of(node: &Node) -> Option<Node> {
    node.children().find(|n| n.kind() == Kind::Block)
}

/// The words that stand directly in a node, without those of nodes inside it.
pub(crate) fn own_words(node: &Node) -> impl Iterator<Item = Token> {
    tokens(node).filter(|t| t.kind() == Kind::Word)
}

pub(crate) fn first_word(node: &Node, skip: usize) -> Option<Token> {
    own_words(node).nth(skip)
}

/// The node that stands directly behind a word of a node.
pub(crate) fn behind_word(node: &Node, word: &str) -> Option<Node> {
    let rest = node.children_with_tokens().skip_while(|t| t.as_token().is_none_or(|t| t.text() != word));
    rest.filter_map(|t| t.into_node()).next()
}

/// The expressions that stand directly in a node, its paths among them.
pub(crate) fn values(node: &Node) -> impl Iterator<Item = Node> {
    use Kind::{Binary, Call, Group, Literal, Negative, Path, Percentage};
    let is_value = |kind| matches!(kind, Binary | Call | Group | Literal | Negative | Path | Percentage);
    node.children().filter(move |n| is_value(n.kind()))
}

/// The first of them.
pub(crate) fn value(node: &Node) -> Option<Node> {
    values(node).next()
}

/// The paths that stand directly in a node.
pub(crate) fn paths(node: &Node) -> impl Iterator<Item = Node> {
    of_kind(node, Kind::Path)
}

/// The children of a kind.
pub(crate) fn of_kind(node: &Node, kind: Kind) -> impl Iterator<Item = Node> {
    node.children().filter(move |n| n.kind() == kind)
}

/// The tokens that stand directly in a node.
pub(crate) fn tokens(node: &Node) -> impl Iterator<Item = Token> {
    node.children_with_tokens().filter_map(|t| t.into_token())
}

/// Whether a word stands directly in a node.
pub(crate) fn says(node: &Node, word: &str) -> bool {
    own_words(node).any(|w| w.text() == word)
}

pub(crate) fn child(node: &Node, kind: Kind) -> Option<Node> {
    node.children().find(|n| n.kind() == kind)
}

pub(crate) fn unquoted(token: &Token) -> String {
    let text = token.text();
    let mut words = String::new();
    let mut chars = text[1..text.len() - 1].chars();
    while let Some(c) = chars.next() {
        match (c, c == '\\') {
            (_, true) => match chars.next() {
                Some('n') => words.push('\n'),
                Some(other) => words.push(other),
                None => {}
            },
            (c, false) => words.push(c),
        }
    }
    words
}

pub(crate) fn words_token(node: &Node) -> Option<Token> {
    tokens(node).find(|t| t.kind() == Kind::Words)
}

/// The words of a path.
pub(crate) fn words_of(path: &Node) -> Vec<String> {
    let mut words: Vec<String> = Vec::new();
    for part in path.children_with_tokens() {
        match (part, words.last_mut()) {
            (rowan::NodeOrToken::Token(token), _) if token.kind() == Kind::Word => {
                words.push(token.text().to_owned());
            }
            (rowan::NodeOrToken::Node(index), Some(word)) => word.push_str(&spelled(&index)),
            _ => {}
        }
    }
    words
}

/// The text of a node without blanks and comments.
pub(crate) fn spelled(node: &Node) -> String {
    let tokens = node.descendants_with_tokens().filter_map(|t| t.into_token());
    tokens.filter(|t| !t.kind().is_trivia()).map(|t| t.text().to_owned()).collect()
}

/// Whether a statement is a rule.
pub(crate) fn is_rule(kind: Kind) -> bool {
    kind == Kind::Rule || is_form(kind)
}

/// Whether a statement is a rule that is more than a relation.
pub(crate) fn is_form(kind: Kind) -> bool {
    use Kind::{Between, Drawn, Enclose, Fit, Gap, Pin, Ratio, Span, Spread};
    matches!(kind, Pin | Ratio | Gap | Between | Fit | Span | Drawn | Spread | Enclose)
}
