//! Views declared: first all of them, so that lines can name what stands further down.

use crate::resolve::arrange::Repeated;
use crate::resolve::reader::{MAX_BLOCKS, Reader};
use crate::resolve::scope::{Done, Reported};
use crate::resolve::settings::setting_in;
use crate::screen_ext::ScreenExt as _;
use crate::syntax::ast::arranging::Repeat;
use crate::syntax::ast::nodes::{block_of, is_lost, is_rule, node_span, paths, span, unquoted};
use crate::syntax::ast::statements::ViewItem;
use crate::syntax::error::SourceError;
use crate::syntax::lexer::Kind;
use crate::syntax::tree::{Node, Token};
use std::ops::Range;
use vantic_core::model::{Content, Setting, Text, ViewId};

impl Reader {
    /// Declares the views of a block and notes which blocks there are.
    pub(crate) fn declare(&mut self, block: &Node, owner: Option<ViewId>) {
        self.blocks.push((block.clone(), self.scope, owner));
        if let Some(view) = owner {
            let scrolls = |n: &Node| n.kind() == Kind::Scroll && !is_lost(n);
            if let Some(statement) = block.children().find(scrolls) {
                let _ = self.declare_sheet(&statement, view);
            }
        }
        for statement in block.children() {
            match statement.kind() {
                Kind::ViewItem => {
                    let _ = self.declare_view(&statement, owner);
                }
                Kind::Use if !is_lost(&statement) => {
                    let _ = self.use_part(&statement, owner);
                }
                Kind::Repeat if !is_lost(&statement) => {
                    let _ = self.declare_repeated(&statement, owner);
                }
                Kind::In => {
                    let Some(inner) = block_of(&statement) else { continue };
                    for view in self.views(&statement, owner) {
                        self.declare(&inner, Some(view));
                    }
                }
                Kind::Space if !is_lost(&statement) => match owner {
                    Some(view) => {
                        let behind = self.builder.screen().at(view).children().len();
                        self.spaces.push((statement, self.scope, view, behind));
                    }
                    None => {
                        let help = "write it between the children of a view with a `row` or a `column`";
                        self.error_with_help(node_span(&statement), "the screen itself has no row", help);
                    }
                },
                kind if is_rule(kind) => self.rules.push((statement, self.scope, owner)),
                _ => {}
            }
        }
    }

    /// Counts a block that is read for other views; too many are refused, with one error.
    pub(crate) fn count_block(&mut self, node: &Node, views: usize) -> Done {
        let before = self.blocks_for_views;
        self.blocks_for_views += views.max(1);
        if self.blocks_for_views < MAX_BLOCKS {
            return Ok(());
        }
        if before < MAX_BLOCKS {
            // What is refused anyway is read no further.
            self.rules_at_limit = true;
            let message = format!(
                "more than {MAX_BLOCKS} blocks, each `each` counted for every view and each part for every \
                 place"
            );
            self.error_with_help(node_span(node), message, "put fewer of them into one another");
        }
        Err(Reported)
    }

    /// Notes where a view that has been added stands.
    fn note_view(&mut self, at: Range<usize>) {
        self.map.views.push(at);
        self.map.view_scopes.push(self.scope);
    }

    /// The views that a block is for, each once.
    pub(crate) fn views(&mut self, node: &Node, owner: Option<ViewId>) -> Vec<ViewId> {
        let mut views = Vec::new();
        let named: Vec<Node> = paths(node).collect();
        if self.count_block(node, named.len()).is_err() {
            return views;
        }
        for path in named {
            match self.view(&path, owner) {
                Ok(view) if views.contains(&view) => {
                    let message = format!("`{}` is named twice", self.builder.screen().path(view));
                    self.error_with_help(node_span(&path), message, "name each view once");
                }
                Ok(view) => views.push(view),
                Err(Reported) => {}
            }
        }
        views
    }

    /// Declares the box of what a view scrolls.
    fn declare_sheet(&mut self, statement: &Node, view: ViewId) -> Done {
        let known = self.builder.screen().at(view).scrolled().is_some();
        if let Err(error) = self.builder.add_content_box(view) {
            let help = "put it into a `view` that scrolls";
            return Err(self.error_with_help(node_span(statement), error.to_string(), help));
        }
        if !known {
            self.note_view(node_span(statement));
        }
        Ok(())
    }

    /// Declares a view several times, and notes which of them are shown only where there is room.
    fn declare_repeated(&mut self, node: &Node, owner: Option<ViewId>) -> Done {
        let repeat = Repeat::of(node).ok_or(Reported)?;
        let Repeated { count, sure, cut } = self.repeated(node, &repeat, owner)?;
        let Repeat { name, block, .. } = repeat;
        let at = span(name.text_range());
        if sure < count && owner.is_none() {
            let help = "put it into a `view` with a `row` or a `column`";
            return Err(self.error_with_help(at, "the screen itself has no row to fill", help));
        }
        for number in 1..=count {
            let named = format!("{}[{number}]", name.text());
            let added = self.builder.add_view(&named, owner, Content::None);
            let view = self.built(added, at.clone())?;
            self.note_view(at.clone());
            if number > sure {
                let set = self.builder.add_setting(None, view, Setting::Spare(cut));
                self.built(set, at.clone())?;
            }
            self.declare(&block, Some(view));
        }
        Ok(())
    }

    fn declare_view(&mut self, node: &Node, owner: Option<ViewId>) -> Done {
        let item = ViewItem::of(node).ok_or(Reported)?;
        let full = item.full_name();
        let ViewItem { word: keyword, name, words: quoted, given, block, .. } = item;
        let at = span(name.text_range());
        if block.is_none() {
            // Its grammar went wrong, which has been reported; others may still name it.
            if self.builder.add_view(name.text(), owner, Content::None).is_ok() {
                self.note_view(at);
            }
            return Err(Reported);
        }
        let words = match &given {
            Some(name) => Some(self.given_words(name)?),
            None => quoted.as_ref().map(unquoted),
        };
        let content = match (keyword.text(), &words) {
            ("image", None) => Content::Image(self.natural(name.text(), at.clone(), block.as_ref())?),
            ("text", Some(words)) => {
                let font = block.as_ref().and_then(|b| setting_in(b, "font"));
                let Some(font) = font else {
                    let message = format!("the text `{}` has no font size", name.text());
                    return Err(self.error_with_help(
                        at,
                        message,
                        "add a line such as `font 16` to its block",
                    ));
                };
                Content::Text(Text::new(words, self.number(&font, None)?))
            }
            ("text", None) => {
                let message = format!("the text `{}` has no words", name.text());
                let help = format!("write them in quotes after its name: `text {} \"...\" {{`", name.text());
                return Err(self.error_with_help(at, message, help));
            }
            (kind, Some(_)) => {
                let (message, help) = (
                    format!("{} {kind} has no words; a text has", if kind == "view" { "a" } else { "an" }),
                    format!("write `text` instead of `{kind}`"),
                );
                let at = quoted.or(given).map_or(at, |w| span(w.text_range()));
                return Err(self.error_with_help(at, message, help));
            }
            ("guide", None) => Content::Guide,
            (_, None) => Content::None,
        };
        match self.builder.add_view(&full, owner, content) {
            Ok(view) => {
                self.note_view(at);
                if let Some(block) = block {
                    self.declare(&block, Some(view));
                }
                Ok(())
            }
            Err(error) => {
                let first = self.builder.child(owner, &full).and_then(|v| self.map.view(v));
                let mut error = SourceError::new(at, error.to_string());
                if let Some(first) = first {
                    error =
                        error.related(first, "the first one is here").help("give one of them another name");
                }
                // One error for each limit.
                if self.errors.last().is_none_or(|last| last.message != error.message) {
                    self.errors.push(error);
                }
                Err(Reported)
            }
        }
    }

    /// The words that a part was given under a name.
    fn given_words(&mut self, name: &Token) -> Done<String> {
        if let Some(words) = self.words_named(name.text()) {
            return Ok(words.clone());
        }
        let message = format!("there are no words `{}` here", name.text());
        let help = "write the words in quotes, or in a part the name under which it is given some";
        Err(self.error_with_help(span(name.text_range()), message, help))
    }
}
