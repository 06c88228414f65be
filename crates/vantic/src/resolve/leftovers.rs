//! What a file says and nothing uses: names that are declared and never written again, and settings that
//! another one in the same block replaces.

use crate::resolve::reader::Reader;
use crate::syntax::ast::nodes::{first_word, is_lost, node_span, span};
use crate::syntax::ast::statements::levels;
use crate::syntax::lexer::Kind;
use crate::syntax::tree::{Node, Token};
use std::collections::{HashMap, HashSet};
use std::ops::Range;
use vantic_core::model::{Leftover, ViewId};

/// The tokens in which a statement declares names.
fn declared(statement: &Node) -> Vec<Token> {
    match statement.kind() {
        Kind::Let | Kind::Param | Kind::BandItem | Kind::Part => {
            first_word(statement, 1).into_iter().collect()
        }
        Kind::State => words_in(statement).collect(),
        Kind::Ladder => levels(statement).collect(),
        _ => Vec::new(),
    }
}

fn words_in(node: &Node) -> impl Iterator<Item = Token> {
    let tokens = node.descendants_with_tokens().filter_map(|element| element.into_token());
    tokens.filter(|token| token.kind() == Kind::Word)
}

impl Reader {
    /// Notes what nothing uses of what the file itself declares; what its bases declare is for others too.
    pub(crate) fn leftovers(&mut self, screens: &[Node], blocks: &[(Node, Option<ViewId>)]) {
        let mut found: Vec<(Leftover, Range<usize>)> = Vec::new();
        let used = used_words(screens);
        let is_used = |name: &str| used.contains(name);
        for statement in screens.iter().flat_map(Node::children) {
            if is_lost(&statement) || self.file_of(&statement) > 0 {
                continue;
            }
            for token in declared(&statement) {
                let name = token.text().to_owned();
                if is_used(&name) {
                    continue;
                }
                let leftover = match statement.kind() {
                    Kind::Let | Kind::Param => Leftover::Number(name),
                    Kind::BandItem => Leftover::Band(name),
                    Kind::Part => Leftover::Part(name),
                    // The state itself; its alternatives go with it.
                    Kind::State if first_word(&statement, 1).is_some_and(|first| first == token) => {
                        Leftover::State(name)
                    }
                    _ => continue,
                };
                found.push((leftover, span(token.text_range())));
            }
        }
        for ladder in screens.iter().flat_map(Node::children).filter(|s| s.kind() == Kind::Ladder) {
            let unused = levels(&ladder).map(|word| word.text().to_owned()).filter(|name| !is_used(name));
            let unused: Vec<String> = unused.collect();
            if !unused.is_empty() && self.file_of(&ladder) == 0 {
                found.push((Leftover::Levels(unused), node_span(&ladder)));
            }
        }
        for (block, owner) in blocks {
            if let Some(view) = owner.filter(|_| self.file_of(block) == 0) {
                found.extend(replaced(block, view));
            }
        }
        let mut known = HashSet::new();
        for (leftover, at) in found {
            // What is so in a part, or in several views at once, is reported once.
            if known.insert((at.start, at.end)) {
                self.builder.add_leftover(leftover);
                self.map.leftovers.push(at);
            }
        }
    }
}

/// The words of a file that declare nothing, and those before a dot or an index.
fn used_words(screens: &[Node]) -> HashSet<String> {
    let mut used = HashSet::new();
    for screen in screens {
        let of_statements = screen.descendants().flat_map(|node| declared(&node));
        let declaring: HashSet<usize> =
            of_statements.map(|token| token.text_range().start().into()).collect();
        for token in words_in(screen) {
            if !declaring.contains(&token.text_range().start().into()) {
                let text = token.text();
                used.extend(text.split(['.', '[']).map(str::to_owned));
            }
        }
    }
    used
}

/// What of a view a statement sets, where a later one of the same block replaces it.
fn subject(statement: &Node) -> Option<String> {
    match statement.kind() {
        Kind::Arrange | Kind::Grid => Some("row, column or grid".to_owned()),
        Kind::Guide => Some("columns, rows, padding or line".to_owned()),
        Kind::Setting
        | Kind::Share
        | Kind::Cells
        | Kind::Control
        | Kind::Sit
        | Kind::Spare
        | Kind::Scroll
        | Kind::Overhang
        | Kind::Stick => Some(first_word(statement, 0)?.text().to_owned()),
        _ => None,
    }
}

fn replaced(block: &Node, view: ViewId) -> Vec<(Leftover, Range<usize>)> {
    let mut last: HashMap<String, Node> = HashMap::new();
    let mut found = Vec::new();
    for statement in block.children().filter(|s| !is_lost(s)) {
        let Some(subject) = subject(&statement) else { continue };
        let Some(by) = first_word(&statement, 0).map(|word| word.text().to_owned()) else { continue };
        if let Some(before) = last.insert(subject, statement) {
            let word = first_word(&before, 0).map_or_else(String::new, |word| word.text().to_owned());
            found.push((Leftover::Replaced { view, word, by }, node_span(&before)));
        }
    }
    found
}
