//! Tables in a screen file: words in other languages, and what is expected to come out or claimed.

use crate::resolve::reader::Reader;
use crate::resolve::scope::{Done, Reported};
use crate::screen_ext::ScreenExt as _;
use crate::syntax::ast::expressions::Test;
use crate::syntax::ast::nodes::{is_lost, node_span, span, unquoted, words_of};
use crate::syntax::ast::statements::{Claim, Design, Drawing, Expect, Expected, Language, Translation};
use crate::syntax::error::SourceError;
use crate::syntax::lexer::Kind;
use crate::syntax::tree::Node;
use std::collections::{HashMap, HashSet};
use vantic_core::display::DisplayQuantity;
use vantic_core::geometry::Frame;
use vantic_core::model::{
    self, COORDINATES, Claimed, DrawnFrames, Expectation, RANGES, Scaling, USUAL_WITHIN, ViewId,
};

impl Reader {
    pub(crate) fn table(&mut self, node: &Node) -> Done {
        match node.kind() {
            Kind::Language => self.language(node),
            Kind::Claim => self.claim(node),
            Kind::Drawing => self.drawing(node),
            _ => self.expectation(node),
        }
    }

    fn language(&mut self, node: &Node) -> Done {
        let Language { name, right_to_left, block } = Language::of(node).ok_or(Reported)?;
        let known = self.builder.screen().languages().iter().position(|l| l.name() == name.text());
        let first = known.and_then(|index| self.map.languages.get(index).cloned());
        // A file may go on with a language of its base.
        if let Some(first) = first.clone().filter(|first| !self.is_of_base(node, first)) {
            let message = format!("there is already a language `{}`", name.text());
            let error = SourceError::new(span(name.text_range()), message);
            self.errors
                .push(error.related(first, "the first one is here").help("put all its words in one block"));
            return Err(Reported);
        }
        let added = self.builder.add_language(name.text(), right_to_left, block.is_none());
        let language = self.built(added, span(name.text_range()))?;
        if first.is_none() {
            self.map.languages.push(span(name.text_range()));
        }
        let mut given = HashSet::new();
        let entries = block.into_iter().flat_map(|b| b.children().collect::<Vec<_>>());
        for entry in entries.filter(|e| e.kind() == Kind::Entry && !is_lost(e)) {
            let _ = self.translation(&entry, language, &mut given);
        }
        Ok(())
    }

    /// `claim title inside header for screen.width 320..1600`.
    fn claim(&mut self, node: &Node) -> Done {
        let Claim { of: path, word, to, by, over } = Claim::of(node).ok_or(Reported)?;
        let (view, what) = match (word.text(), to) {
            ("inside", Some(to)) => {
                let place = self.place(&words_of(&to), None, node_span(&to))?;
                (self.view(&path, None)?, Claimed::Inside(place))
            }
            ("clear", Some(to)) => {
                let by = by.map(|by| self.number(&by, None)).transpose()?.unwrap_or(0.0);
                (self.view(&path, None)?, Claimed::ClearOf(self.view(&to, None)?, by))
            }
            ("whole", _) => {
                let view = self.view(&path, None)?;
                if self.builder.screen().at(view).text().is_none() {
                    let message = format!("`{}` is no text, and has no words", words_of(&path).join("."));
                    return Err(self.error_with_help(node_span(&path), message, "name a text by its path"));
                }
                (view, Claimed::Whole)
            }
            _ => {
                let words = words_of(&path);
                let last = words.last().and_then(|last| COORDINATES.iter().find(|c| c.0 == last));
                let (Some((_, coordinate)), [view @ .., _]) = (last, words.as_slice()) else {
                    let message = "only one coordinate is the same";
                    return Err(self.error_with_help(
                        node_span(&path),
                        message,
                        "write `header.height same`",
                    ));
                };
                (self.view_named(view, None, node_span(&path))?, Claimed::Same(*coordinate))
            }
        };
        let over = over.map(|test| self.claim_range(&test)).transpose()?;
        let added = self.builder.add_claim(model::Claim { view, what, over });
        self.built(added, node_span(node))?;
        self.map.claims.push(node_span(node));
        Ok(())
    }

    /// `screen.width 320..1600`, `scroll 0..400`.
    fn claim_range(&mut self, test: &Node) -> Done<(DisplayQuantity, f64, f64)> {
        if let Some(Test::Of { path, numbers, .. }) = Test::of(test)
            && let [from, to] = numbers.as_slice()
        {
            let name = words_of(&path).join(".");
            let known = RANGES.iter().find(|(spelled, _)| *spelled == name).map(|(_, along)| along.clone());
            let parameter = || {
                let known = self.builder.screen().parameter(&name);
                known.map(|_| DisplayQuantity::Parameter(name.as_str().into()))
            };
            if let Some(along) = known.or_else(parameter) {
                let (low, high) = self.range(test, from, to)?;
                return Ok((along, low, high));
            }
        }
        let help = "write `for screen.width 320..1600`, or a range of screen.height, text_scale, density, scroll \
                    or of a parameter of the screen";
        Err(self.error_with_help(node_span(test), "a claim ranges over one measure of the display", help))
    }

    /// `design (390, 844) or (844, 390), blend 50%`; what a page says counts before what its base does.
    pub(crate) fn design(&mut self, node: &Node) -> Done {
        let file = self.file_of(node);
        if let Some((_, first)) = self.map.design.clone().filter(|(of, _)| *of == file) {
            let error =
                SourceError::new(node_span(node), "a screen is drawn for one size, and this is the second");
            let help = "write both orientations in one line: `design (390, 844) or (844, 390)`";
            self.errors.push(error.related(first, "the first is here").help(help));
            return Err(Reported);
        }
        let written = Design::of(node).ok_or(Reported)?;
        let size = self.two(&written.size, None)?;
        let turned = written.turned.map(|n| self.two(&n, None)).transpose()?;
        let share = written.share.map(|n| self.fraction(&n, None)).transpose()?.unwrap_or_default();
        let scaling = match written.scaling.as_ref().map(|w| w.text()) {
            Some("cover") => Scaling::Cover,
            Some("blend") => Scaling::Blend(share),
            Some("mix") => Scaling::Mix(share),
            _ => Scaling::Contain,
        };
        let design = model::Design { size, turned, scaling };
        let set = self.builder.set_design(design);
        self.built(set, node_span(node))?;
        self.map.design = Some((file, node_span(node)));
        Ok(())
    }

    fn translation(&mut self, entry: &Node, language: usize, given: &mut HashSet<ViewId>) -> Done {
        let Translation { of: path, words } = Translation::of(entry).ok_or(Reported)?;
        let view = self.view(&path, None)?;
        let screen = self.builder.screen();
        if screen.at(view).text().is_none() {
            let message = format!("`{}` is no text, and has no words", screen.path(view));
            return Err(self.error_with_help(node_span(&path), message, "name a text by its path"));
        }
        if !given.insert(view) {
            let message = format!("`{}` has its words already", screen.path(view));
            return Err(self.error_with_help(node_span(&path), message, "give them once"));
        }
        let added = self.builder.add_words(language, view, unquoted(&words));
        self.built(added, node_span(entry))
    }

    fn expectation(&mut self, node: &Node) -> Done {
        // What a base expects is about the base.
        if self.file_of(node) > 0 {
            return Ok(());
        }
        let Expect { on, within, block } = Expect::of(node).ok_or(Reported)?;
        let on = unquoted(&on);
        let within = within.map(|n| self.number(&n, None)).transpose()?.unwrap_or(USUAL_WITHIN);
        let mut expected = Vec::new();
        for entry in block.children().filter(|e| e.kind() == Kind::Entry && !is_lost(e)) {
            if let Ok(one) = self.expected(&entry) {
                expected.push(one);
            }
        }
        let added = self.builder.add_expectation(Expectation { on, within, expected });
        self.built(added, node_span(node))?;
        self.map.expectations.push(node_span(node));
        Ok(())
    }

    fn drawing(&mut self, node: &Node) -> Done {
        // What a base was drawn like is about the base.
        if self.file_of(node) > 0 {
            return Ok(());
        }
        let Drawing { on, block } = Drawing::of(node).ok_or(Reported)?;
        let mut frames = Vec::new();
        let mut spans = HashMap::new();
        for entry in block.children().filter(|e| e.kind() == Kind::Entry && !is_lost(e)) {
            let Ok((view, frame)) = self.drawn_frame(&entry) else { continue };
            if spans.insert(view, node_span(&entry)).is_some() {
                let message = format!("`{}` is drawn twice", self.builder.screen().path(view));
                return Err(self.error_with_help(node_span(&entry), message, "keep one of the frames"));
            }
            frames.push((view, frame));
        }
        let added = self.builder.add_drawing(DrawnFrames { on: unquoted(&on), frames });
        self.built(added, node_span(node))?;
        self.map.drawings.push((node_span(node), spans));
        Ok(())
    }

    fn drawn_frame(&mut self, entry: &Node) -> Done<(ViewId, Frame)> {
        match self.expected(entry)? {
            (view, model::Expected::Frame(frame)) if frame.width < 0.0 || frame.height < 0.0 => {
                let message =
                    format!("`{}` is drawn with a size below zero", self.builder.screen().path(view));
                Err(self.error_with_help(node_span(entry), message, "sizes are 0 or more"))
            }
            (view, model::Expected::Frame(frame)) => Ok((view, frame)),
            _ => {
                let help = "write its frame, as in `header = (0, 0, 390, 56)`";
                Err(self.error_with_help(node_span(entry), "a view is drawn with all of its frame", help))
            }
        }
    }

    fn expected(&mut self, entry: &Node) -> Done<(ViewId, model::Expected)> {
        let Expected { of: path, is } = Expected::of(entry).ok_or(Reported)?;
        let Some(value) = is else {
            return Ok((self.view(&path, None)?, model::Expected::Hidden));
        };
        let parts: Vec<Node> = value.children().collect();
        if let (Kind::Group, [left, top, width, height]) = (value.kind(), parts.as_slice()) {
            let view = self.view(&path, None)?;
            let [left, top, width, height] = [left, top, width, height].map(|part| self.number(part, None));
            let frame = Frame { left: left?, top: top?, width: width?, height: height? };
            return Ok((view, model::Expected::Frame(frame)));
        }
        let words = words_of(&path);
        let coordinate = words.last().and_then(|last| COORDINATES.iter().find(|c| c.0 == last));
        let (Some((_, coordinate)), [view @ .., _]) = (coordinate, words.as_slice()) else {
            let help = "write a frame, `header = (0, 0, 390, 56)`, or one coordinate, `header.width = 390`";
            return Err(self.error_with_help(node_span(&value), "the expectation is not clear", help));
        };
        let view = self.view_named(view, None, node_span(&path))?;
        let value = self.number(&value, None)?;
        Ok((view, model::Expected::One(*coordinate, value)))
    }
}
