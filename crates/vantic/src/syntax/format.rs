//! The one canonical layout of a screen file.
//!
//! One statement a line, four blanks a depth, one blank line at most between statements, comments
//! where they were. A block that was written on one line stays on one line if it fits.

use crate::syntax::error::SourceErrors;
use crate::syntax::lexer::Kind;
use crate::syntax::parser::parser::parse;
use crate::syntax::tree::{Node, Token};
use rowan::NodeOrToken;

/// The widest line that a block is kept on, and that a rule keeps its level on.
const WIDTH: usize = 100;

/// The canonical layout of a screen file. Formatting its result changes nothing.
///
/// ```
/// let text = "screen quay{view a{left=4;// the margin\ntop=8}}";
/// assert_eq!(
///     vantic::syntax::format(text)?,
///     "screen quay {\n    view a {\n        left = 4  // the margin\n        top = 8\n    }\n}\n"
/// );
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
///
/// # Errors
/// What is wrong with the file's grammar; such a file is not touched.
pub fn format(text: &str) -> Result<String, SourceErrors> {
    let (tree, errors) = parse(text);
    if !errors.is_empty() {
        return Err(SourceErrors::new(errors, text));
    }
    let mut printer = Printer { out: String::new(), depth: 0 };
    printer.items(&tree);
    Ok(printer.out)
}

struct Printer {
    out: String,
    depth: usize,
}

impl Printer {
    /// The statements and comments of a file or block.
    fn items(&mut self, parent: &Node) {
        let mut newlines = 0;
        let mut first = true;
        for child in parent.children_with_tokens() {
            match child {
                NodeOrToken::Token(token) => match token.kind() {
                    Kind::Newline => newlines += 1,
                    Kind::Comment => {
                        let text = token.text().trim_end();
                        if newlines == 0 && !(first && self.out.is_empty()) {
                            // Behind a statement or an opening brace, on its line.
                            self.out.truncate(self.out.trim_end().len());
                            self.out.push_str("  ");
                        } else {
                            self.separate(newlines, first);
                            self.indent();
                        }
                        self.out.push_str(text);
                        self.out.push('\n');
                        (newlines, first) = (0, false);
                    }
                    _ => {}
                },
                NodeOrToken::Node(node) => {
                    self.separate(newlines, first);
                    self.statement(&node);
                    (newlines, first) = (0, false);
                }
            }
        }
    }

    fn separate(&mut self, newlines: usize, first: bool) {
        if newlines > 1 && !first {
            self.out.push('\n');
        }
    }

    fn indent(&mut self) {
        self.out.push_str(&"    ".repeat(self.depth));
    }

    fn statement(&mut self, node: &Node) {
        if node.children().any(|c| c.kind() == Kind::Block) {
            self.with_block(node);
        } else {
            self.indent();
            let start = self.out.len();
            let line = words(node.descendants_with_tokens());
            let room = WIDTH.saturating_sub(self.depth * 4);
            match line.text.rfind(" ~ ") {
                Some(level) if line.text.chars().count() > room && !line.broken => {
                    self.out.push_str(&line.text[..level]);
                    self.out.push('\n');
                    self.indent();
                    self.out.push_str("    ");
                    self.out.push_str(line.text[level..].trim_start());
                }
                _ => self.out.push_str(&line.text),
            }
            self.continue_lines(start);
            self.out.push('\n');
        }
    }

    /// What follows a comment within a statement goes on one depth further in.
    fn continue_lines(&mut self, start: usize) {
        let pad = format!("\n{}", "    ".repeat(self.depth + 1));
        let tail = self.out.split_off(start);
        let lines: Vec<&str> = tail.split('\n').map(str::trim_start).collect();
        self.out.push_str(&lines.join(&pad));
    }

    fn with_block(&mut self, node: &Node) {
        self.indent();
        let start = self.out.len();
        let mut head = Vec::new();
        for child in node.children_with_tokens() {
            if child.kind() != Kind::Block {
                match child {
                    NodeOrToken::Node(inner) => head.extend(inner.descendants_with_tokens()),
                    token => head.push(token),
                }
            }
        }
        self.out.push_str(&words(head.into_iter()).text);
        self.continue_lines(start);
        let Some(block) = node.children().find(|c| c.kind() == Kind::Block) else { return };
        if let Some(one_line) = on_one_line(&block)
            && self.out[start..].chars().count() + one_line.chars().count() + self.depth * 4 < WIDTH
        {
            self.out.push_str(if self.out.len() > start { " " } else { "" });
            self.out.push_str(&one_line);
            self.out.push('\n');
            return;
        }
        self.out.push_str(if self.out.len() > start { " {\n" } else { "{\n" });
        self.depth += 1;
        self.items(&block);
        self.depth -= 1;
        self.indent();
        self.out.push_str("}\n");
    }
}

/// The block on one line, if it was written on one and holds no comment.
fn on_one_line(block: &Node) -> Option<String> {
    let text = block.text();
    if text.contains_char('\n') || block.descendants_with_tokens().any(|t| t.kind() == Kind::Comment) {
        return None;
    }
    let statements: Vec<String> = block
        .children()
        .map(|child| {
            let inner = child.children().find(|c| c.kind() == Kind::Block);
            match inner {
                None => Some(words(child.descendants_with_tokens()).text),
                Some(inner) => {
                    let head = child.descendants_with_tokens().take_while(|t| t.kind() != Kind::Block);
                    let head = words(head).text;
                    let blank = if head.is_empty() { "" } else { " " };
                    Some(format!("{head}{blank}{}", on_one_line(&inner)?))
                }
            }
        })
        .collect::<Option<_>>()?;
    Some(if statements.is_empty() { "{}".into() } else { format!("{{ {} }}", statements.join("; ")) })
}

struct Line {
    text: String,
    /// A comment within the statement breaks its line.
    broken: bool,
}

/// The tokens of a statement with the canonical blanks between them.
fn words(tokens: impl Iterator<Item = NodeOrToken<Node, Token>>) -> Line {
    let mut line = Line { text: String::new(), broken: false };
    let mut last: Option<Token> = None;
    for token in tokens.filter_map(NodeOrToken::into_token) {
        match token.kind() {
            Kind::Blank | Kind::Newline => continue,
            Kind::Comment => {
                line.text.push_str("  ");
                line.text.push_str(token.text().trim_end());
                line.text.push('\n');
                line.broken = true;
                last = None;
                continue;
            }
            _ => {}
        }
        if last.as_ref().is_some_and(|last| blank_between(last, &token)) {
            line.text.push(' ');
        }
        line.text.push_str(token.text());
        last = Some(token);
    }
    line
}

fn blank_between(left: &Token, right: &Token) -> bool {
    let parent = |t: &Token| t.parent().map(|p| p.kind());
    match (left.kind(), right.kind()) {
        (
            _,
            Kind::Comma | Kind::Close | Kind::OpenIndex | Kind::CloseIndex | Kind::Percent | Kind::Semicolon,
        ) => false,
        (Kind::Open | Kind::OpenIndex, _) => false,
        (Kind::Dot | Kind::Hash | Kind::At | Kind::Range, _) => false,
        (_, Kind::Dot | Kind::Hash | Kind::At | Kind::Range) => false,
        // A ratio has blanks around its colons; labels, bands and acceptances only behind.
        (_, Kind::Colon) => matches!(parent(right), Some(Kind::Ratio | Kind::Fit)),
        (Kind::Minus, _) => parent(left) != Some(Kind::Negative),
        (Kind::Word, Kind::Open) => {
            // A call's bracket stands close; a keyword's does not.
            let called = right.parent().and_then(|group| group.parent()).map(|p| p.kind());
            called != Some(Kind::Call) && !matches!(parent(right), Some(Kind::Part | Kind::Use))
        }
        (Kind::Number, Kind::Word) => right.text() != "deg",
        _ => true,
    }
}
