//! Tokens to a tree, by recursive descent. A statement that goes wrong is skipped to its end, so
//! that one run finds every error.

use crate::syntax::error::SourceError;
use crate::syntax::lexer::{Kind, tokens};
use crate::syntax::tree::Node;
use rowan::{Checkpoint, GreenNodeBuilder, Language};
use std::ops::Range;
use vantic_core::limits::MAX_NESTING;

/// How many parts one sum, product or condition may have.
const MAX_PARTS: usize = 1000;

/// The tree of a text, and what is wrong with it. The tree holds every character of the text.
pub(crate) fn parse(text: &str) -> (Node, Vec<SourceError>) {
    parse_screens(text, 1)
}

/// The same of several files one behind the other, each with its screen.
pub(crate) fn parse_screens(text: &str, screens: usize) -> (Node, Vec<SourceError>) {
    let tokens = tokens(text);
    let mut parser =
        Parser { text, tokens, at: 0, tree: GreenNodeBuilder::new(), errors: Vec::new(), brackets: 0 };
    parser.file(screens);
    (Node::new_root(parser.tree.finish()), parser.errors)
}

/// Something was wrong and has been reported; the statement is to be skipped.
pub(crate) struct Lost;

pub(crate) type Parsed = Result<(), Lost>;

pub(crate) struct Parser<'a> {
    text: &'a str,
    pub(crate) tokens: Vec<(Kind, Range<usize>)>,
    pub(crate) at: usize,
    tree: GreenNodeBuilder<'static>,
    errors: Vec<SourceError>,
    pub(crate) brackets: usize,
}

impl Parser<'_> {
    /// The next token that means something, and whether a line ends before it.
    pub(crate) fn look(&self, ahead: usize) -> (Kind, bool) {
        let mut new_line = false;
        let mut left = ahead;
        for (kind, _) in &self.tokens[self.at..] {
            match kind {
                Kind::Newline => new_line |= left == 0,
                k if k.is_trivia() => {}
                _ if left > 0 => left -= 1,
                kind => return (*kind, new_line),
            }
        }
        (Kind::EndOfFile, true)
    }

    pub(crate) fn next(&self) -> Kind {
        self.look(0).0
    }

    /// The next token if it is on the same line.
    pub(crate) fn here(&self) -> Kind {
        match self.look(0) {
            (_, true) => Kind::Newline,
            (kind, false) => kind,
        }
    }

    pub(crate) fn next_span(&self) -> Range<usize> {
        let next = self.tokens[self.at..].iter().find(|(k, _)| !k.is_trivia());
        next.map_or(self.text.len()..self.text.len(), |t| t.1.clone())
    }

    pub(crate) fn word(&self) -> &str {
        if self.next() == Kind::Word { &self.text[self.next_span()] } else { "" }
    }

    /// The word some tokens ahead, or nothing.
    pub(crate) fn word_ahead(&self, ahead: usize) -> &str {
        let mut meaningful = self.tokens[self.at..].iter().filter(|(k, _)| !k.is_trivia());
        match meaningful.nth(ahead) {
            Some((Kind::Word, span)) => &self.text[span.clone()],
            _ => "",
        }
    }

    pub(crate) fn is_word(&self, word: &str) -> bool {
        self.word() == word
    }

    fn trivia(&mut self) {
        while self.at < self.tokens.len() && self.tokens[self.at].0.is_trivia() {
            self.push();
        }
    }

    fn push(&mut self) {
        let (kind, span) = &self.tokens[self.at];
        self.tree.token(crate::syntax::tree::Vantic::kind_to_raw(*kind), &self.text[span.clone()]);
        self.at += 1;
    }

    /// Takes the next token, with what separates it from the one before.
    pub(crate) fn take(&mut self) {
        self.trivia();
        if self.at < self.tokens.len() {
            self.push();
        }
    }

    pub(crate) fn open(&mut self, kind: Kind) {
        self.trivia();
        self.tree.start_node(crate::syntax::tree::Vantic::kind_to_raw(kind));
    }

    pub(crate) fn open_at(&mut self, checkpoint: Checkpoint, kind: Kind) {
        self.tree.start_node_at(checkpoint, crate::syntax::tree::Vantic::kind_to_raw(kind));
    }

    pub(crate) fn checkpoint(&mut self) -> Checkpoint {
        self.trivia();
        self.tree.checkpoint()
    }

    pub(crate) fn close(&mut self) {
        self.tree.finish_node();
    }

    pub(crate) fn error(&mut self, expected: &str) -> Lost {
        let (kind, new_line) = self.look(0);
        let mut span = self.next_span();
        let found = match kind {
            Kind::EndOfFile => "the end of the file".to_owned(),
            _ if new_line => {
                // Point behind what came before, not at another line.
                let end = self.tokens[..self.at].iter().rfind(|(k, _)| !k.is_trivia()).map_or(0, |t| t.1.end);
                span = end..end;
                "the end of the line".to_owned()
            }
            Kind::Unknown if self.text[span.clone()].starts_with('"') => {
                "words whose quote is not closed".to_owned()
            }
            Kind::Word | Kind::Number | Kind::Unknown => {
                format!("`{}`", self.text[span.clone()].chars().take(40).collect::<String>())
            }
            other => other.said().to_owned(),
        };
        self.report(SourceError::new(span, format!("expected {expected}, found {found}")));
        Lost
    }

    pub(crate) fn report(&mut self, error: SourceError) {
        // One mistake in one place is one error.
        if self.errors.last().is_none_or(|e| e.span.start != error.span.start) {
            self.errors.push(error);
        }
    }

    pub(crate) fn expect(&mut self, kind: Kind, expected: &str) -> Parsed {
        if self.here() == kind {
            self.take();
            return Ok(());
        }
        Err(self.error(expected))
    }

    pub(crate) fn name(&mut self, what: &str) -> Parsed {
        self.expect(Kind::Word, what)
    }

    pub(crate) fn keyword(&mut self, word: &str) -> Parsed {
        self.keyword_and(word, "")
    }

    /// A word, and what is to follow it, for the error where it is missing.
    pub(crate) fn keyword_and(&mut self, word: &str, what: &str) -> Parsed {
        if self.here() == Kind::Word && self.is_word(word) {
            self.take();
            return Ok(());
        }
        Err(self.error(&format!("`{word}`{what}")))
    }

    fn file(&mut self, most: usize) {
        self.tree.start_node(crate::syntax::tree::Vantic::kind_to_raw(Kind::File));
        let mut screens = 0;
        while self.next() != Kind::EndOfFile {
            if self.is_word("screen") {
                if screens == most {
                    let span = self.next_span();
                    let second = SourceError::new(span, "a file holds one screen, and this is the second");
                    self.report(second.help("move it to a file of its own"));
                }
                screens += 1;
                self.open(Kind::ScreenItem);
                self.take();
                let named = self.name("the name of the screen").and_then(|()| {
                    if self.is_word("from") {
                        self.take();
                        self.expect(Kind::Words, "the file of the base in quotes, such as \"shell.vantic\"")?;
                    }
                    self.block(0)
                });
                if named.is_err() {
                    self.skip();
                }
                self.close();
            } else {
                self.error("`screen` and its name");
                self.open(Kind::Wrong);
                while self.next() != Kind::EndOfFile && !self.is_word("screen") {
                    self.take();
                }
                self.close();
            }
        }
        if screens == 0 && self.errors.is_empty() {
            let empty = SourceError::new(0..0, "the file is empty: expected `screen` and its name");
            self.report(empty.help("start with `screen my_screen {` and end with `}`"));
        }
        self.trivia();
        self.close();
    }

    /// Skips to the end of the statement: the line's end, `;` or `}` at the same depth.
    fn skip(&mut self) {
        self.open(Kind::Wrong);
        let mut depth = 0_usize;
        loop {
            let (kind, new_line) = self.look(0);
            let ends = new_line || matches!(kind, Kind::Semicolon | Kind::CloseBrace);
            if kind == Kind::EndOfFile || depth == 0 && ends {
                break;
            }
            match kind {
                Kind::OpenBrace => depth += 1,
                Kind::CloseBrace => depth -= 1,
                _ => {}
            }
            self.take();
        }
        self.close();
    }

    pub(crate) fn block(&mut self, depth: usize) -> Parsed {
        self.block_of(depth, Self::statement)
    }

    pub(crate) fn braces(&mut self, depth: usize) -> Parsed {
        self.braces_of(depth, Self::statement)
    }

    /// A block of other lines than statements.
    pub(crate) fn block_of(&mut self, depth: usize, line: fn(&mut Self, usize) -> Parsed) -> Parsed {
        if self.here() != Kind::OpenBrace {
            return Err(self.error("`{`"));
        }
        self.braces_of(depth, line)
    }

    fn braces_of(&mut self, depth: usize, line: fn(&mut Self, usize) -> Parsed) -> Parsed {
        if depth > MAX_NESTING {
            let message = format!("blocks are nested too deep: the limit is {MAX_NESTING}");
            self.report(SourceError::new(self.next_span(), message));
            return Err(Lost);
        }
        let opened = self.next_span();
        self.open(Kind::Block);
        self.take();
        loop {
            match self.next() {
                Kind::CloseBrace => {
                    self.take();
                    break;
                }
                Kind::Semicolon => self.take(),
                Kind::EndOfFile => {
                    let end = self.text.len();
                    let error = SourceError::new(end..end, "expected `}`, found the end of the file");
                    self.report(error.related(opened, "this block is still open"));
                    break;
                }
                _ => {
                    let done = line(self, depth).and_then(|()| match self.here() {
                        Kind::Newline | Kind::Semicolon | Kind::CloseBrace => Ok(()),
                        _ => Err(self.error("the end of the line, `;` or `}`")),
                    });
                    if done.is_err() {
                        self.skip();
                    }
                }
            }
        }
        self.close();
        Ok(())
    }

    fn statement(&mut self, depth: usize) -> Parsed {
        let Some(kind) = self.keyword_kind() else { return self.rule(depth) };
        let each = self.is_word("each");
        let content = matches!(self.word(), "whole" | "snug");
        self.open(kind);
        self.take();
        let parsed = self.behind_keyword(kind, depth, each, content);
        self.close();
        parsed
    }

    /// The kind of statement that the next word begins, where it is not a rule.
    fn keyword_kind(&self) -> Option<Kind> {
        // A keyword is a label where a colon follows, and the start of a coordinate where a dot does.
        let second = self.look(1).0;
        match self.word() {
            _ if matches!(second, Kind::Colon | Kind::Dot) => None,
            "ladder" => Some(Kind::Ladder),
            "design" if second == Kind::Open => Some(Kind::Design),
            "adopt" if second == Kind::Word => Some(Kind::Adopt),
            "words" if second == Kind::Words => Some(Kind::Reworded),
            "band" => Some(Kind::BandItem),
            "state" if second == Kind::Word => Some(Kind::State),
            "only" if self.word_ahead(1) == "in" => Some(Kind::Only),
            "show" if second == Kind::Word => Some(Kind::Show),
            "let" => Some(Kind::Let),
            "param" if second == Kind::Word => Some(Kind::Param),
            "view" | "text" | "image" | "guide" => Some(Kind::ViewItem),
            "font" | "whole" | "snug" => Some(Kind::Setting),
            "in" | "each" => Some(Kind::In),
            "when" => Some(Kind::When),
            "hide" => Some(Kind::Hide),
            "drop" => Some(Kind::Drop),
            "accept" => Some(Kind::Accept),
            "claim" if second == Kind::Word => Some(Kind::Claim),
            "language" if second == Kind::Word => Some(Kind::Language),
            "expect" if self.word_ahead(1) == "on" => Some(Kind::Expect),
            "drawing" if second == Kind::Words => Some(Kind::Drawing),
            "line" if matches!(self.word_ahead(1), "across" | "down") => Some(Kind::Guide),
            "style" if second == Kind::Word => Some(Kind::Setting),
            "line" | "lines" | "natural" | "origin" | "rotate" | "scale" | "depth"
                if begins_value(second) =>
            {
                Some(Kind::Setting)
            }
            "repeat" if second == Kind::Word => Some(Kind::Repeat),
            "part" if second == Kind::Word => Some(Kind::Part),
            "use" if second == Kind::Word => Some(Kind::Use),
            _ => self.arranging(),
        }
    }

    /// What follows the first word of a statement.
    fn behind_keyword(&mut self, kind: Kind, depth: usize, each: bool, content: bool) -> Parsed {
        match kind {
            Kind::Ladder => self.ladder(),
            Kind::Design => self.design(),
            Kind::Adopt => self.listed(Self::band_name),
            Kind::Reworded => self.expect(Kind::Words, "the words in quotes"),
            Kind::BandItem => self.band(),
            Kind::State => self.state(),
            Kind::Only => self.keyword("in").and_then(|()| self.listed(Self::band_name)),
            Kind::Show => self.path(),
            Kind::Let => self.let_item(),
            Kind::Param => self.param_item(),
            Kind::ViewItem => self.view(depth),
            Kind::Setting if content => self.content_strength(),
            Kind::Setting => self.expression(),
            Kind::In if each => self.paths().and_then(|()| self.block(depth + 1)),
            Kind::In => self.path().and_then(|()| self.block(depth + 1)),
            Kind::When => self.band_name().and_then(|()| self.block(depth + 1)),
            Kind::Hide => self.hide(),
            Kind::Drop => self.rule_name(),
            Kind::Claim => self.claim(),
            Kind::Language => self.language(depth),
            Kind::Expect => self.expect_on(depth),
            Kind::Drawing => self.drawing(depth),
            Kind::Repeat => self.repeat(depth),
            Kind::Part => self.part().and_then(|()| self.block(depth + 1)),
            Kind::Use => self.part(),
            Kind::Arrange
            | Kind::Grid
            | Kind::Spare
            | Kind::Share
            | Kind::Cells
            | Kind::Apart
            | Kind::Floats
            | Kind::Input
            | Kind::Control
            | Kind::Sit
            | Kind::Space
            | Kind::Scroll
            | Kind::Overhang
            | Kind::Stick
            | Kind::Guide => self.arranged(kind),
            _ => self.accept(),
        }
    }

    /// `~ level weight 2`, or the weight alone.
    fn content_strength(&mut self) -> Parsed {
        if self.next() == Kind::Tilde {
            return self.strength();
        }
        self.open(Kind::Strength);
        let parsed =
            self.keyword_and("weight", " and a number, or `~` and a level").and_then(|()| self.expression());
        self.close();
        parsed
    }

    fn ladder(&mut self) -> Parsed {
        self.name("the name of the strongest level")?;
        while self.here() == Kind::Above {
            self.take();
            self.name_after_operator("the name of a level")?;
        }
        Ok(())
    }

    /// A name that may stand on the next line, since an operator came before.
    pub(crate) fn name_after_operator(&mut self, what: &str) -> Parsed {
        if self.next() == Kind::Word {
            self.take();
            return Ok(());
        }
        Err(self.error(what))
    }

    fn band(&mut self) -> Parsed {
        self.name("the name of the band")?;
        self.expect(Kind::Colon, "`:` and a condition such as `screen.width >= 600`")?;
        self.either()
    }

    fn either(&mut self) -> Parsed {
        self.chain(Kind::TestEither, Self::both, |p| p.here() == Kind::Word && p.is_word("or"))
    }

    fn both(&mut self) -> Parsed {
        self.chain(Kind::TestBoth, Self::test, |p| p.here() == Kind::Word && p.is_word("and"))
    }

    /// Parts joined by operators: one node that holds them all, or just the part if there is one.
    pub(crate) fn chain(
        &mut self,
        kind: Kind,
        part: fn(&mut Self) -> Parsed,
        joins: fn(&Self) -> bool,
    ) -> Parsed {
        let start = self.checkpoint();
        part(self)?;
        if !joins(self) {
            return Ok(());
        }
        self.open_at(start, kind);
        let mut parsed = Ok(());
        let mut parts = 1;
        while parsed.is_ok() && joins(self) {
            parts += 1;
            if parts > MAX_PARTS {
                let message = format!("too many parts in one line: the limit is {MAX_PARTS}");
                self.report(SourceError::new(self.next_span(), message));
                parsed = Err(Lost);
                break;
            }
            self.take();
            parsed = part(self);
        }
        self.close();
        parsed
    }

    fn test(&mut self) -> Parsed {
        if self.next() == Kind::Open {
            return self.bracketed(Kind::TestGroup, Self::either);
        }
        if self.is_word("not") {
            self.open(Kind::TestNot);
            self.take();
            let inner = self.deeper(Self::test);
            self.close();
            return inner;
        }
        self.open(Kind::Test);
        let parsed = self.comparison();
        self.close();
        parsed
    }

    fn comparison(&mut self) -> Parsed {
        if self.next() != Kind::Word {
            return Err(self.error("a condition such as `screen.width >= 600` or `portrait`"));
        }
        self.path()?;
        match self.here() {
            Kind::Below | Kind::AtMost | Kind::AtLeast | Kind::Above => {
                self.take();
                self.expression()
            }
            Kind::Number | Kind::Minus => {
                self.expression()?;
                self.expect(Kind::Range, "`..` and the end of the range")?;
                self.expression()
            }
            _ => Ok(()),
        }
    }

    fn view(&mut self, depth: usize) -> Parsed {
        self.name("the name of the view")?;
        self.index()?;
        // The words of a text, or the name under which a part is given them.
        if matches!(self.here(), Kind::Words | Kind::Word) {
            self.take();
        }
        self.block(depth + 1)
    }

    /// `tile(words = "Skerry Point", gap = 12)`: the name of a part, and what it is given; where it is
    /// declared, what it takes.
    fn part(&mut self) -> Parsed {
        self.name("the name of the part")?;
        if self.here() != Kind::Open {
            return Ok(());
        }
        self.take();
        while self.next() != Kind::Close {
            self.open(Kind::Argument);
            let parsed = self.argument();
            self.close();
            parsed?;
            if self.next() != Kind::Comma {
                break;
            }
            self.take();
        }
        if self.next() == Kind::Close {
            self.take();
            return Ok(());
        }
        Err(self.error("`,` or `)`"))
    }

    fn argument(&mut self) -> Parsed {
        self.name_after_operator("a name")?;
        if self.here() != Kind::Equal {
            return Ok(());
        }
        self.take();
        if self.next() == Kind::Words {
            self.take();
            return Ok(());
        }
        self.expression()
    }

    fn hide(&mut self) -> Parsed {
        self.path()?;
        if self.here() == Kind::Comma {
            self.take();
            if self.is_word("show") {
                self.take();
                return self.path();
            }
            self.keyword_and("keep", " space, or `show` and a view")?;
            self.keyword("space")?;
        }
        Ok(())
    }

    /// `title inside header`, `title clear of clock by 8`, `title whole`, `title.left same`; then what it
    /// ranges over.
    fn claim(&mut self) -> Parsed {
        self.path()?;
        match self.word() {
            "inside" => {
                self.take();
                self.path()?;
            }
            "clear" => {
                self.take();
                self.keyword("of")?;
                self.path()?;
                if self.here() == Kind::Word && self.is_word("by") {
                    self.take();
                    self.expression()?;
                }
            }
            "whole" | "same" => self.take(),
            _ => return Err(self.error("`inside`, `clear of`, `whole` or `same`")),
        }
        if self.here() == Kind::Word && self.is_word("for") {
            self.take();
            return self.test();
        }
        Ok(())
    }

    fn accept(&mut self) -> Parsed {
        self.name("the code of a finding, such as `overlap`")?;
        self.expect(Kind::Colon, "`:` and the views it is about")?;
        self.listed(Self::rule_name)?;
        self.expect(Kind::Words, "a reason in quotes")
    }

    /// `a.b`, `a.b#2` or `a@wide#1`.
    fn rule_name(&mut self) -> Parsed {
        self.open(Kind::RuleName);
        let parsed = self.path().and_then(|()| {
            if self.here() == Kind::At {
                self.take();
                self.band_name()?;
            }
            if self.here() == Kind::Hash {
                self.take();
                self.expect(Kind::Number, "the number of a rule")?;
            }
            Ok(())
        });
        self.close();
        parsed
    }

    /// The views of `each`.
    fn paths(&mut self) -> Parsed {
        self.listed(Self::path)?;
        if self.here() == Kind::Word {
            return Err(self.error("`,` before the next view, or `{`"));
        }
        Ok(())
    }

    /// One or several, with commas between them.
    pub(crate) fn listed(&mut self, one: fn(&mut Self) -> Parsed) -> Parsed {
        one(self)?;
        while self.here() == Kind::Comma {
            self.take();
            one(self)?;
        }
        Ok(())
    }

    pub(crate) fn path(&mut self) -> Parsed {
        self.open(Kind::Path);
        let parsed = self.path_words();
        self.close();
        parsed
    }

    fn path_words(&mut self) -> Parsed {
        self.name_after_operator("a name")?;
        self.index()?;
        while self.here() == Kind::Dot {
            self.take();
            self.name("a name after the dot")?;
            self.index()?;
        }
        Ok(())
    }

    /// `[3]` or `[2..5]`: which of several.
    fn index(&mut self) -> Parsed {
        if self.here() != Kind::OpenIndex {
            return Ok(());
        }
        self.open(Kind::Index);
        let parsed = self.index_parts();
        self.close();
        parsed
    }

    fn index_parts(&mut self) -> Parsed {
        self.take();
        self.expect(Kind::Number, "a number, counted from 1")?;
        if self.here() == Kind::Range {
            self.take();
            self.expect(Kind::Number, "the number of the last")?;
        }
        self.expect(Kind::CloseIndex, "`]`")
    }
}

/// Whether a number, a coordinate or a pair may begin with this.
pub(crate) fn begins_value(kind: Kind) -> bool {
    matches!(kind, Kind::Word | Kind::Number | Kind::Open | Kind::Minus)
}
