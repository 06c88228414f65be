//! Reading a screen file: from the tree to a screen with every name resolved.
//!
//! [`names`] finds what a path means, [`value`] what an expression means; this module walks the
//! statements: first the ladder, bands and views, then the rules in file order, then what bands
//! change.

mod names;
mod value;

use crate::coordinate::{Comparison, Expr, Pair, Side, ratio};
use crate::screen::{
    BandId, BuildError, Change, Condition, Draft, MAX_NUMBER, Order, Property, RuleId, Screen, ScreenBuilder,
    Text, ViewId,
};
use crate::syntax::{Kind, MAX_FILE_BYTES, Node, SourceError, SourceErrors, Token, parse};
use names::{nearest, words_of};
use rowan::TextRange;
use std::collections::HashMap;
use std::ops::Range;
use value::Value;

/// Where the parts of a screen stand in its file, in bytes.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct SourceMap {
    pub(crate) rules: Vec<Range<usize>>,
    pub(crate) views: Vec<Range<usize>>,
}

impl SourceMap {
    /// Where a rule stands.
    pub fn rule(&self, rule: RuleId) -> Option<Range<usize>> {
        self.rules.get(rule.index()).cloned()
    }

    /// Where a view's name is declared.
    pub fn view(&self, view: ViewId) -> Option<Range<usize>> {
        self.views.get(view.index()).cloned()
    }
}

/// A screen read from a file, and where its parts stand there.
#[derive(Clone, Debug, PartialEq)]
pub struct Source {
    /// The screen.
    pub screen: Screen,
    /// Where its parts stand.
    pub map: SourceMap,
}

/// Reads a screen file.
///
/// # Errors
/// Everything that is wrong with it, in order of place.
pub fn read(text: &str) -> Result<Source, SourceErrors> {
    if let Some(error) = refuse(text) {
        return Err(SourceErrors::new(vec![error]));
    }
    let (tree, mut errors) = parse(text);
    let item = tree.children().find(|n| n.kind() == Kind::ScreenItem);
    let Some((item, name)) = item.and_then(|i| first_word(&i, 1).map(|w| (i, w))) else {
        return Err(SourceErrors::new(errors));
    };
    let mut builder = ScreenBuilder::new(name.text());
    if let Err(error) = std::mem::replace(&mut builder, ScreenBuilder::new("unnamed")).finish() {
        errors.extend(error.0.iter().map(|e| SourceError::new(span(name.text_range()), e.to_string())));
    } else {
        builder = ScreenBuilder::new(name.text());
    }
    let mut reader = Reader {
        builder,
        map: SourceMap::default(),
        errors,
        lets: HashMap::new(),
        let_names: Vec::new(),
        let_depth: 0,
        lets_too_long: false,
        blocks: Vec::new(),
        whens: Vec::new(),
        accepts: Vec::new(),
    };
    if let Some(block) = block_of(&item) {
        reader.screen(&block);
    }
    if reader.errors.is_empty() {
        Ok(Source { screen: reader.builder.into_screen(), map: reader.map })
    } else {
        Err(SourceErrors::new(reader.errors))
    }
}

/// Reads the bytes of a screen file.
///
/// # Errors
/// Bytes that are not text, and everything that is wrong with the file.
pub fn read_bytes(bytes: &[u8]) -> Result<Source, SourceErrors> {
    match std::str::from_utf8(bytes) {
        Ok(text) => read(text),
        Err(e) => {
            let message = format!("this is not a text file: byte {} is not UTF-8", e.valid_up_to());
            Err(SourceErrors::new(vec![SourceError::new(0..0, message)]))
        }
    }
}

fn refuse(text: &str) -> Option<SourceError> {
    if text.len() > MAX_FILE_BYTES {
        let message =
            format!("the file is too large: {} bytes, and the limit is {MAX_FILE_BYTES}", text.len());
        return Some(SourceError::new(0..0, message));
    }
    text.find('\0').map(|at| SourceError::new(0..0, format!("this is not a text file: byte {at} is zero")))
}

fn span(range: TextRange) -> Range<usize> {
    range.start().into()..range.end().into()
}

/// Whether the grammar of a statement went wrong; that has been reported.
fn is_lost(statement: &Node) -> bool {
    statement.next_sibling().is_some_and(|next| next.kind() == Kind::Wrong)
}

/// The span of a node without the blanks and comments around it.
fn node_span(node: &Node) -> Range<usize> {
    let mut tokens =
        node.descendants_with_tokens().filter_map(|t| t.into_token()).filter(|t| !t.kind().is_trivia());
    let first = tokens.next().map_or_else(|| node.text_range(), |t| t.text_range());
    let last = tokens.last().map_or(first, |t| t.text_range());
    first.start().into()..last.end().into()
}

fn block_of(node: &Node) -> Option<Node> {
    node.children().find(|n| n.kind() == Kind::Block)
}

/// The words that stand directly in a node, without those of nodes inside it.
fn own_words(node: &Node) -> impl Iterator<Item = Token> {
    node.children_with_tokens().filter_map(|t| t.into_token()).filter(|t| t.kind() == Kind::Word)
}

fn first_word(node: &Node, skip: usize) -> Option<Token> {
    own_words(node).nth(skip)
}

fn child(node: &Node, kind: Kind) -> Option<Node> {
    node.children().find(|n| n.kind() == kind)
}

fn unquoted(token: &Token) -> String {
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

fn words_token(node: &Node) -> Option<Token> {
    node.children_with_tokens().filter_map(|t| t.into_token()).find(|t| t.kind() == Kind::Words)
}

/// A statement was reported as wrong.
pub(super) struct Reported;

type Done<T = ()> = Result<T, Reported>;

struct LetItem {
    node: Node,
    state: LetState,
}

#[derive(Clone)]
enum LetState {
    Waiting,
    InWork,
    Known(Value),
    Wrong,
}

struct Reader {
    builder: ScreenBuilder,
    map: SourceMap,
    errors: Vec<SourceError>,
    lets: HashMap<String, LetItem>,
    /// The names of the numbers in file order.
    let_names: Vec<String>,
    let_depth: usize,
    lets_too_long: bool,
    /// Blocks with the view they belong to, in file order.
    blocks: Vec<(Node, Option<ViewId>)>,
    whens: Vec<Node>,
    accepts: Vec<Node>,
}

impl Reader {
    fn screen(&mut self, block: &Node) {
        // The ladder and the numbers first: everything else may use them.
        let mut ladder: Option<Range<usize>> = None;
        for statement in block.children() {
            match statement.kind() {
                Kind::Ladder => match &ladder {
                    None => {
                        ladder = Some(node_span(&statement));
                        let names = own_words(&statement).skip(1).map(|w| w.text().to_owned()).collect();
                        let result = self.builder.set_ladder(names);
                        let _ = self.built(result, node_span(&statement));
                    }
                    Some(first) => {
                        let error = SourceError::new(
                            node_span(&statement),
                            "a screen has one ladder, and this is the second",
                        );
                        let error = error
                            .related(first.clone(), "the first ladder is here")
                            .help("put all levels in one ladder");
                        self.errors.push(error);
                    }
                },
                Kind::Let => self.declare_let(&statement),
                _ => {}
            }
        }
        for statement in block.children().filter(|s| s.kind() == Kind::BandItem && !is_lost(s)) {
            let _ = self.band(&statement);
        }
        self.declare(block, None);
        for (block, owner) in std::mem::take(&mut self.blocks) {
            for statement in block.children() {
                let _ = self.own_statement(&statement, owner);
            }
        }
        // Numbers that nothing uses are checked too.
        for name in self.let_names.clone() {
            let _ = self.let_value(&name);
        }
        for when in std::mem::take(&mut self.whens) {
            let _ = self.when(&when);
        }
        let accepts = std::mem::take(&mut self.accepts);
        if !accepts.is_empty() && self.errors.is_empty() {
            let rules: std::collections::HashSet<String> =
                self.builder.screen().rules().map(|(id, _)| self.builder.screen().rule_name(id)).collect();
            for accept in accepts {
                let _ = self.accept(&accept, &rules);
            }
        }
    }

    fn error(&mut self, span: Range<usize>, message: impl Into<String>) -> Reported {
        self.errors.push(SourceError::new(span, message));
        Reported
    }

    fn error_with_help(
        &mut self,
        span: Range<usize>,
        message: impl Into<String>,
        help: impl Into<String>,
    ) -> Reported {
        self.errors.push(SourceError::new(span, message).help(help));
        Reported
    }

    fn built<T>(&mut self, result: Result<T, BuildError>, at: Range<usize>) -> Done<T> {
        result.map_err(|error| self.error(at, error.to_string()))
    }

    fn declare_let(&mut self, node: &Node) {
        let Some(word) = first_word(node, 1) else { return };
        let name = word.text().to_owned();
        if crate::screen::reserved_words().any(|w| w == name) {
            let message = format!("`{name}` is a word of the language; try `the_{name}`");
            self.error(span(word.text_range()), message);
        } else if let Some(first) = self.lets.get(&name) {
            let first = node_span(&first.node);
            let error =
                SourceError::new(span(word.text_range()), format!("there is already a number `{name}`"));
            self.errors.push(error.related(first, "it was given here").help("give one of them another name"));
        } else {
            self.let_names.push(name.clone());
            self.lets.insert(name, LetItem { node: node.clone(), state: LetState::Waiting });
        }
    }

    fn band(&mut self, node: &Node) -> Done {
        let Some(name) = first_word(node, 1) else { return Err(Reported) };
        let Some(test) = node.children().find(|n| n.kind() != Kind::Wrong) else { return Err(Reported) };
        let condition = self.condition(&test)?;
        let result = self.builder.add_band(name.text(), condition);
        self.built(result.map(drop), span(name.text_range()))
    }

    fn condition(&mut self, node: &Node) -> Done<Condition> {
        let mut parts = Vec::new();
        if node.kind() != Kind::Test {
            for part in node.children() {
                parts.push(self.condition(&part)?);
            }
        }
        let mut parts = parts.into_iter();
        match (node.kind(), parts.next()) {
            (Kind::Test, _) => self.test(node),
            (Kind::TestNot, Some(inner)) => Ok(Condition::Not(Box::new(inner))),
            (Kind::TestGroup, Some(inner)) => Ok(inner),
            (Kind::TestBoth, Some(first)) => {
                Ok(Condition::All(std::iter::once(first).chain(parts).collect()))
            }
            (Kind::TestEither, Some(first)) => {
                Ok(Condition::Any(std::iter::once(first).chain(parts).collect()))
            }
            _ => Err(Reported),
        }
    }

    fn test(&mut self, node: &Node) -> Done<Condition> {
        let Some(path) = child(node, Kind::Path) else { return Err(Reported) };
        let spelled = words_of(&path).join(".");
        let property = Property::SPELLINGS.iter().find(|p| p.0 == spelled).map(|p| p.1);
        let word = Condition::WORDS.iter().find(|w| w.0 == spelled).map(|w| w.1.clone());
        let numbers: Vec<Node> = node.children().filter(|c| c.kind() != Kind::Path).collect();
        match (property, word, numbers.as_slice()) {
            (None, Some(word), []) => Ok(word),
            (Some(property), _, [number]) => {
                let order = node.children_with_tokens().find_map(|t| match t.kind() {
                    Kind::Below => Some(Order::Below),
                    Kind::AtMost => Some(Order::AtMost),
                    Kind::AtLeast => Some(Order::AtLeast),
                    Kind::Above => Some(Order::Above),
                    _ => None,
                });
                let number = self.number(number, None)?;
                Ok(Condition::Compare(property, order.ok_or(Reported)?, number))
            }
            (Some(property), _, [from, to]) => {
                let (low, high) = (self.number(from, None)?, self.number(to, None)?);
                if low >= high {
                    let message = format!("the range {low}..{high} is empty: it ends before it begins");
                    return Err(self.error(node_span(node), message));
                }
                Ok(Condition::Within(property, low, high))
            }
            (Some(_), _, []) => {
                let message = format!("expected a comparison after `{spelled}`");
                Err(self.error_with_help(
                    node_span(node),
                    message,
                    format!("write `{spelled} >= 600` or `{spelled} 400..600`"),
                ))
            }
            _ => {
                let known: Vec<&str> = Property::SPELLINGS
                    .iter()
                    .map(|p| p.0)
                    .chain(Condition::WORDS.iter().map(|w| w.0))
                    .collect();
                let help = match nearest(&spelled, known.iter().copied()) {
                    Some(near) => format!("did you mean `{near}`?"),
                    None => format!("a band can ask for {}", known.join(", ")),
                };
                Err(self.error_with_help(
                    node_span(&path),
                    format!("a band knows nothing called `{spelled}`"),
                    help,
                ))
            }
        }
    }

    /// Declares the views of a block and notes which blocks there are.
    fn declare(&mut self, block: &Node, owner: Option<ViewId>) {
        self.blocks.push((block.clone(), owner));
        for statement in block.children() {
            match statement.kind() {
                Kind::ViewItem => {
                    let _ = self.declare_view(&statement, owner);
                }
                Kind::In => {
                    let Some((path, inner)) = child(&statement, Kind::Path).zip(block_of(&statement)) else {
                        continue;
                    };
                    if let Ok(view) = self.view(&path, owner) {
                        self.declare(&inner, Some(view));
                    }
                }
                _ => {}
            }
        }
    }

    fn declare_view(&mut self, node: &Node, owner: Option<ViewId>) -> Done {
        let (Some(keyword), Some(name)) = (first_word(node, 0), first_word(node, 1)) else {
            return Err(Reported);
        };
        let words = words_token(node);
        let block = block_of(node);
        let at = span(name.text_range());
        if block.is_none() {
            // Its grammar went wrong, which has been reported; others may still name it.
            if self.builder.add_view(name.text(), owner, None).is_ok() {
                self.map.views.push(at);
            }
            return Err(Reported);
        }
        let text = match (keyword.text(), &words) {
            ("image", _) => {
                let help =
                    "images come with a later version; a `view` of a fixed size or ratio can stand for one";
                return Err(self.error_with_help(
                    span(keyword.text_range()),
                    "images are not there yet",
                    help,
                ));
            }
            ("text", Some(words)) => {
                let font = block.as_ref().and_then(|b| child(b, Kind::Font));
                let Some(font) = font.and_then(|f| f.children().find(|n| n.kind() != Kind::Wrong)) else {
                    let message = format!("the text `{}` has no font size", name.text());
                    return Err(self.error_with_help(
                        at,
                        message,
                        "add a line such as `font 16` to its block",
                    ));
                };
                Some(Text { words: unquoted(words), font: self.number(&font, None)? })
            }
            ("text", None) => {
                let message = format!("the text `{}` has no words", name.text());
                let help = format!("write them in quotes after its name: `text {} \"...\" {{`", name.text());
                return Err(self.error_with_help(at, message, help));
            }
            (_, Some(words)) => {
                let help = "write `text` instead of `view`";
                return Err(self.error_with_help(
                    span(words.text_range()),
                    "a view has no words; a text has",
                    help,
                ));
            }
            (_, None) => None,
        };
        match self.builder.add_view(name.text(), owner, text) {
            Ok(view) => {
                self.map.views.push(at);
                if let Some(block) = block {
                    self.declare(&block, Some(view));
                }
                Ok(())
            }
            Err(error) => {
                let first = self.builder.child(owner, name.text()).and_then(|v| self.map.view(v));
                let mut error = SourceError::new(at, error.to_string());
                if let Some(first) = first {
                    error =
                        error.related(first, "the first one is here").help("give one of them another name");
                }
                // A limit is said once.
                if self.errors.last().is_none_or(|last| last.message != error.message) {
                    self.errors.push(error);
                }
                Err(Reported)
            }
        }
    }

    /// A statement outside of `when`, once all views are declared.
    fn own_statement(&mut self, node: &Node, owner: Option<ViewId>) -> Done {
        match node.kind() {
            _ if is_lost(node) => Err(Reported),
            Kind::Rule | Kind::Pin | Kind::Ratio => self.rule(node, owner, None),
            Kind::When if owner.is_none() => {
                self.whens.push(node.clone());
                Ok(())
            }
            Kind::Accept if owner.is_none() => {
                self.accepts.push(node.clone());
                Ok(())
            }
            Kind::Ladder | Kind::BandItem | Kind::Let | Kind::When | Kind::Accept if owner.is_some() => {
                let what = first_word(node, 0).map_or_else(String::new, |w| w.text().to_owned());
                let message = format!("`{what}` stands directly in the screen, not in a view");
                Err(self.error_with_help(node_span(node), message, "move it to the screen's own block"))
            }
            Kind::Font if owner.is_none_or(|o| self.builder.screen().view(o).text().is_none()) => {
                let message = "a font size belongs in the block of a text";
                Err(self.error_with_help(
                    node_span(node),
                    message,
                    "declare it as `text name \"words\" { font 16 }`",
                ))
            }
            Kind::Hide | Kind::Drop => {
                let message = "views are hidden and rules dropped in a band only";
                Err(self.error_with_help(node_span(node), message, "write it inside `when band { ... }`"))
            }
            _ => Ok(()),
        }
    }

    fn when(&mut self, node: &Node) -> Done {
        let (Some(name), Some(block)) = (first_word(node, 1), block_of(node)) else { return Err(Reported) };
        let bands = self.builder.screen().bands();
        let Some(band) = bands.iter().position(|b| b.name() == name.text()) else {
            let near = nearest(name.text(), bands.iter().map(|b| b.name()));
            let help = match near {
                Some(near) => format!("did you mean `{near}`?"),
                None => format!("declare it first: `band {}: screen.width >= 600`", name.text()),
            };
            return Err(self.error_with_help(
                span(name.text_range()),
                format!("there is no band `{}`", name.text()),
                help,
            ));
        };
        self.band_block(&block, BandId(band as u32), None);
        Ok(())
    }

    fn band_block(&mut self, block: &Node, band: BandId, owner: Option<ViewId>) {
        for statement in block.children() {
            let _ = self.band_statement(&statement, band, owner);
        }
    }

    fn band_statement(&mut self, node: &Node, band: BandId, owner: Option<ViewId>) -> Done {
        match node.kind() {
            _ if is_lost(node) => Err(Reported),
            Kind::Rule | Kind::Pin | Kind::Ratio => self.rule(node, owner, Some(band)),
            Kind::In => {
                let (Some(path), Some(block)) = (child(node, Kind::Path), block_of(node)) else {
                    return Err(Reported);
                };
                let view = self.view(&path, owner)?;
                self.band_block(&block, band, Some(view));
                Ok(())
            }
            Kind::Hide => {
                let Some(path) = child(node, Kind::Path) else { return Err(Reported) };
                let view = self.view(&path, owner)?;
                let keep_space = own_words(node).any(|w| w.text() == "keep");
                self.builder.add_change(band, Change::Hide { view, keep_space });
                Ok(())
            }
            Kind::Drop => self.drop_rule(node, band, owner),
            Kind::Font => {
                let Some((number, view)) = node.children().next().zip(owner) else {
                    return Err(self.error(node_span(node), "a font size belongs in the block of a text"));
                };
                let font = self.number(&number, owner)?;
                let result = self.builder.set_font(Some(band), view, font);
                self.built(result, node_span(node))
            }
            Kind::ViewItem => {
                let message = "a band changes views, it does not declare them";
                let help = "declare the view outside, and `hide` it in the bands that go without it";
                Err(self.error_with_help(node_span(node).start..node_span(node).start + 4, message, help))
            }
            Kind::Wrong => Ok(()),
            _ => {
                let help = "a band can add, replace and drop rules, hide views and set fonts";
                Err(self.error_with_help(node_span(node), "this does not belong in a band", help))
            }
        }
    }

    fn drop_rule(&mut self, node: &Node, band: BandId, owner: Option<ViewId>) -> Done {
        let Some(name) = child(node, Kind::RuleName) else { return Err(Reported) };
        let Some(path) = child(&name, Kind::Path) else { return Err(Reported) };
        let words = words_of(&path);
        let number =
            name.children_with_tokens().filter_map(|t| t.into_token()).find(|t| t.kind() == Kind::Number);
        let (view_words, label) = match &number {
            Some(_) => (words.as_slice(), None),
            None => (&words[..words.len().saturating_sub(1)], words.last()),
        };
        let of = match view_words {
            [] => owner,
            [screen] if screen == "screen" => None,
            some => Some(self.view_named(some, owner, node_span(&path))?),
        };
        let screen = self.builder.screen();
        let rules = || screen.rules().filter(|(_, r)| r.owner == of && r.band.is_none());
        let found = match (&number, label) {
            (Some(number), _) => rules().find(|(_, r)| r.number.to_string() == number.text()),
            (None, label) => rules().find(|(_, r)| r.label.as_ref() == label),
        };
        if let Some((rule, _)) = found {
            self.builder.add_change(band, Change::Drop(rule));
            return Ok(());
        }
        let labels: Vec<String> = rules().filter_map(|(_, r)| r.label.clone()).collect();
        let block = of.map_or_else(|| "the screen".to_owned(), |v| format!("`{}`", screen.path(v)));
        let help = match label.and_then(|l| nearest(l, labels.iter().map(String::as_str))) {
            Some(near) => format!("did you mean `{near}`?"),
            None if labels.is_empty() => {
                format!("no rule of {block} has a label; give the rule one: `tall: height = 56`")
            }
            None => format!("the labels of {block} are {}", labels.join(", ")),
        };
        let written = name.text().to_string();
        Err(self.error_with_help(
            node_span(&name),
            format!("there is no rule `{}` to drop", written.trim()),
            help,
        ))
    }

    fn accept(&mut self, node: &Node, rules: &std::collections::HashSet<String>) -> Done {
        let (Some(code), Some(reason)) = (first_word(node, 1), words_token(node)) else {
            return Err(Reported);
        };
        let mut names = Vec::new();
        for name in node.children().filter(|n| n.kind() == Kind::RuleName) {
            let text: String = name
                .descendants_with_tokens()
                .filter_map(|t| t.into_token())
                .filter(|t| !t.kind().is_trivia())
                .map(|t| t.text().to_owned())
                .collect();
            let known = self.builder.screen().find(&text).is_some() || rules.contains(&text);
            if !known {
                let screen = self.builder.screen();
                let paths: Vec<String> = screen.views().map(|(id, _)| screen.path(id)).collect();
                let near =
                    nearest(&text, paths.iter().map(String::as_str).chain(rules.iter().map(String::as_str)));
                let help = near.map_or_else(
                    || "name views by their path from the screen, such as `header.title`".to_owned(),
                    |near| format!("did you mean `{near}`?"),
                );
                self.error_with_help(node_span(&name), format!("there is no view or rule `{text}`"), help);
            }
            names.push(text);
        }
        let result = self.builder.add_acceptance(code.text(), names, unquoted(&reason));
        self.built(result, span(code.text_range()))
    }

    fn rule(&mut self, node: &Node, owner: Option<ViewId>, band: Option<BandId>) -> Done {
        let label = child(node, Kind::Label).and_then(|l| first_word(&l, 0));
        let inner = node.children().find(|n| matches!(n.kind(), Kind::Pin | Kind::Ratio));
        let body = inner.as_ref().unwrap_or(node);
        if is_lost(node) {
            return Err(Reported);
        }
        let mut draft = match body.kind() {
            Kind::Pin => self.pin(body, owner)?,
            Kind::Ratio => self.ratio(body, owner)?,
            _ => self.relation(body, owner)?,
        };
        draft.label = label.as_ref().map(|l| l.text().to_owned());
        if let Some(strength) = child(body, Kind::Strength) {
            self.strength(&strength, owner, &mut draft)?;
        }
        let at = node_span(node);
        match self.builder.add_rule(owner, band, draft) {
            Ok(_) => {
                self.map.rules.push(at);
                Ok(())
            }
            Err(BuildError::Taken { what, name, place }) => {
                let first = self.builder.labelled(owner, &name).and_then(|r| self.map.rule(r));
                let error = BuildError::Taken { what, name, place };
                let at = label.map_or(at, |l| span(l.text_range()));
                let mut error = SourceError::new(at, error.to_string());
                if let Some(first) = first {
                    error =
                        error.related(first, "the first one is here").help("give one of them another label");
                }
                self.errors.push(error);
                Err(Reported)
            }
            Err(error @ (BuildError::Reserved { .. } | BuildError::Name { .. })) => {
                let at = label.map_or(at, |l| span(l.text_range()));
                Err(self.error(at, error.to_string()))
            }
            Err(error) => Err(self.error(at, error.to_string())),
        }
    }

    fn strength(&mut self, node: &Node, owner: Option<ViewId>, draft: &mut Draft) -> Done {
        let Some(name) = first_word(node, 0) else { return Err(Reported) };
        let screen = self.builder.screen();
        let Some(level) = screen.level(name.text()) else {
            let levels = screen.levels();
            let help = match nearest(name.text(), levels.iter().map(String::as_str)) {
                Some(near) => format!("did you mean `{near}`?"),
                None if screen.ladder.is_empty() => {
                    format!("declare the levels first: `ladder {}`", name.text())
                }
                None => format!("the levels are {}", levels.join(" > ")),
            };
            return Err(self.error_with_help(
                span(name.text_range()),
                format!("there is no level `{}`", name.text()),
                help,
            ));
        };
        draft.level = Some(level);
        if let Some(weight) = node.children().next() {
            draft.weight = self.number(&weight, owner)?;
        }
        Ok(())
    }

    fn pin(&mut self, node: &Node, owner: Option<ViewId>) -> Done<Draft> {
        let Some(view) = owner else {
            return Err(self.error_with_help(
                node_span(node),
                "the screen itself cannot be pinned",
                "write the pin in a view's block",
            ));
        };
        let Some(path) = node.children().find(|n| n.kind() == Kind::Path) else { return Err(Reported) };
        let to = self.place(&words_of(&path), owner, node_span(&path))?;
        let mut relations = Vec::new();
        for side in node.children().filter(|n| n.kind() == Kind::PinSide) {
            let Some(word) = first_word(&side, 0) else { return Err(Reported) };
            let known = Side::ALL.iter().find(|(_, c)| c.spelling() == word.text());
            let Some(&(which, _)) = known else {
                let near = nearest(word.text(), Side::ALL.iter().map(|(_, c)| c.spelling()));
                let help = near.map_or_else(
                    || "the sides are left, right, top, bottom, start and end".to_owned(),
                    |near| format!("did you mean `{near}`?"),
                );
                return Err(self.error_with_help(
                    span(word.text_range()),
                    format!("`{}` is not a side", word.text()),
                    help,
                ));
            };
            let by = match side.children().next() {
                Some(distance) => self.scalar(&distance, owner)?,
                None => Expr::default(),
            };
            relations.push(which.pinned(view, to, by));
        }
        Ok(Draft::new(relations))
    }

    fn ratio(&mut self, node: &Node, owner: Option<ViewId>) -> Done<Draft> {
        let parts: Vec<Node> = node.children().filter(|n| n.kind() != Kind::Strength).collect();
        let [a, b, m, n] = parts.as_slice() else { return Err(Reported) };
        let (a_expr, b_expr) = (self.scalar(a, owner)?, self.scalar(b, owner)?);
        let (m_value, n_value) = (self.number(m, owner)?, self.number(n, owner)?);
        for (part, value) in [(m, m_value), (n, n_value)] {
            if value <= 0.0 {
                let help = "both numbers of a ratio are above zero, as in `3 : 2`";
                return Err(self.error_with_help(
                    node_span(part),
                    format!("a ratio with {value} decides nothing"),
                    help,
                ));
            }
        }
        Ok(ratio(a_expr, b_expr, m_value, n_value))
    }

    fn relation(&mut self, node: &Node, owner: Option<ViewId>) -> Done<Draft> {
        let sides: Vec<Node> =
            node.children().filter(|n| !matches!(n.kind(), Kind::Label | Kind::Strength)).collect();
        let [left, right] = sides.as_slice() else { return Err(Reported) };
        let comparison = node.children_with_tokens().find_map(|t| match t.kind() {
            Kind::Equal => Some(Comparison::Equal),
            Kind::AtMost => Some(Comparison::AtMost),
            Kind::AtLeast => Some(Comparison::AtLeast),
            _ => None,
        });
        let comparison = comparison.ok_or(Reported)?;
        let (a, b) = (self.value(left, owner)?, self.value(right, owner)?);
        match (a, b) {
            (Value::One(a), Value::One(b)) => Ok(a.relate(comparison, b)),
            (Value::Two(a), Value::Two(b)) => Ok(a.relate(comparison, b)),
            (Value::Two(a), Value::One(b)) if b.is_number() => Ok(a.relate(comparison, Pair(b.clone(), b))),
            (Value::One(a), Value::Two(b)) if a.is_number() => Ok(Pair(a.clone(), a).relate(comparison, b)),
            (Value::Percent(_), _) => Err(self.percent_of_nothing(left)),
            (_, Value::Percent(_)) => Err(self.percent_of_nothing(right)),
            _ => {
                let help = "write both coordinates as a pair, such as `center = parent.center`";
                Err(self.error_with_help(
                    node_span(node),
                    "one side is a pair, the other a single coordinate",
                    help,
                ))
            }
        }
    }

    fn scalar(&mut self, node: &Node, owner: Option<ViewId>) -> Done<Expr> {
        match self.value(node, owner)? {
            Value::One(expr) => Ok(expr),
            Value::Percent(_) => Err(self.percent_of_nothing(node)),
            Value::Two(_) => {
                Err(self.error(node_span(node), "expected one number or coordinate, found a pair"))
            }
        }
    }

    fn number(&mut self, node: &Node, owner: Option<ViewId>) -> Done<f64> {
        let expr = self.scalar(node, owner)?;
        if expr.is_number() && expr.constant().abs() <= MAX_NUMBER {
            return Ok(expr.constant());
        }
        Err(self.error(node_span(node), "expected a plain number, found a coordinate"))
    }

    fn percent_of_nothing(&mut self, node: &Node) -> Reported {
        let written = node.text().to_string();
        let written = written.trim();
        let help = format!("write `{written} of parent.width`, or of any other coordinate");
        self.error_with_help(node_span(node), format!("{written} of what?"), help)
    }
}
