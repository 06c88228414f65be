//! A screen that is based on another: what it adopts, and what it says of what the base declares.
//!
//! What a file says of a view of its base is read as a band that always holds, called like the file's screen.
//! So it replaces, drops and hides by the rules of bands, and stands behind all that the base says.

use crate::resolve::reader::Reader;
use crate::resolve::scope::{Done, Reported};
use crate::syntax::ast::nodes::{first_word, node_span, paths, span, unquoted, words_of, words_token};
use crate::syntax::error::SourceError;
use crate::syntax::lexer::Kind;
use crate::syntax::tree::Node;
use vantic_core::model::{BandId, Condition, ViewId};

impl Reader {
    /// In which of the files a node stands: 0 is the file itself, 1 its base.
    pub(crate) fn file_of(&self, node: &Node) -> usize {
        let at: usize = node.text_range().start().into();
        self.ends.iter().position(|end| at <= *end).unwrap_or(0)
    }

    /// Whether a statement is about what a base of its file declares, and changes it. What adds to it is not.
    pub(crate) fn is_over(&self, node: &Node, owner: Option<ViewId>) -> bool {
        let adds = matches!(
            node.kind(),
            Kind::ViewItem
                | Kind::Repeat
                | Kind::Use
                | Kind::In
                | Kind::Space
                | Kind::Only
                | Kind::Wrong
                | Kind::When
                | Kind::BandItem
                | Kind::Let
                | Kind::Param
                | Kind::Ladder
                | Kind::State
                | Kind::Part
                | Kind::Accept
                | Kind::Claim
                | Kind::Language
                | Kind::Expect
                | Kind::Drawing
                | Kind::Adopt
                | Kind::Design
        );
        let file = self.file_of(node);
        if self.ends.len() < 2 || file + 1 >= self.ends.len() || self.scope != 0 || adds {
            return false;
        }
        match owner {
            // Views of a base are declared in a file behind this one.
            Some(view) => self.map.view(view).is_some_and(|at| at.start > self.ends[file]),
            None => matches!(node.kind(), Kind::Hide | Kind::Show | Kind::Drop),
        }
    }

    /// `adopt medium, wide`: the bands of its bases that a file uses.
    pub(crate) fn adopt(&mut self, node: &Node) -> Done {
        let file = self.file_of(node);
        if file + 1 >= self.ends.len() {
            let help = "name the base first: `screen page from \"shell.vantic\" { ... }`";
            return Err(self.error_with_help(node_span(node), "there is no base to adopt bands from", help));
        }
        if let Some((_, first, _)) = self.adopted.iter().find(|(of, ..)| *of == file) {
            let first = node_span(first);
            let error = SourceError::new(node_span(node), "`adopt` is given twice");
            self.errors.push(error.related(first, "the first is here").help("name all bands in one line"));
            return Err(Reported);
        }
        let mut names = Vec::new();
        for path in paths(node) {
            self.band_of(&path)?;
            names.push(words_of(&path).join("."));
        }
        if file == 0 {
            let of_bases = self.map.bands.iter().filter(|(_, at)| at.start > self.ends[0]);
            let named = |band: &BandId| {
                names.iter().any(|n| *n == self.builder.screen().bands()[band.index()].name())
            };
            self.map.unadopted = of_bases.map(|(band, _)| *band).filter(|band| !named(band)).collect();
        }
        self.adopted.push((file, node.clone(), names));
        Ok(())
    }

    /// Whether a file may use a band: its own, or one of a base that it adopts.
    pub(crate) fn adopts(&mut self, path: &Node, name: &str, band: BandId) -> Done {
        let file = self.file_of(path);
        let Some((_, adopt, names)) = self.adopted.iter().find(|(of, ..)| *of == file) else { return Ok(()) };
        let declared = self.map.band(band);
        let of_base = declared.as_ref().is_some_and(|at| at.start > self.ends[file]);
        if !of_base || names.iter().any(|n| n == name) {
            return Ok(());
        }
        let adopt = node_span(adopt);
        let error =
            SourceError::new(node_span(path), format!("`{name}` is a band of the base that is not adopted"));
        self.errors.push(error.related(adopt, "these are").help(format!("add `{name}` there")));
        Err(Reported)
    }

    /// What bands change, in the order in which it counts: parts first, then each file from the outermost
    /// base, what it says of its base before its own bands.
    pub(crate) fn changes(&mut self) {
        let mut whens = std::mem::take(&mut self.whens);
        let base_overrides = std::mem::take(&mut self.base_overrides);
        // The screen has the last word on its parts.
        let of_parts = whens.extract_if(.., |(_, scope)| *scope != 0).collect::<Vec<_>>();
        for (when, scope) in of_parts {
            self.scope = scope;
            let _ = self.when(&when);
        }
        self.scope = 0;
        for file in (0..self.ends.len()).rev() {
            let here: Vec<_> =
                base_overrides.iter().filter(|(node, ..)| self.file_of(node) == file).cloned().collect();
            if let Some((first, ..)) = here.first()
                && let Ok(band) = self.band_of_file(first)
            {
                for (node, _, owner) in here {
                    let _ = self.over(&node, band, owner);
                }
            }
            let here: Vec<_> = whens.iter().filter(|(node, _)| self.file_of(node) == file).cloned().collect();
            for (when, _) in here {
                let _ = self.when(&when);
            }
        }
    }

    /// The band that always holds, for what a file says of its base.
    fn band_of_file(&mut self, node: &Node) -> Done<BandId> {
        let item = node.ancestors().find(|n| n.kind() == Kind::ScreenItem).ok_or(Reported)?;
        let name = first_word(&item, 1).ok_or(Reported)?;
        let added = self.builder.add_band(name.text(), Condition::Everywhere);
        let band = self.built(added, span(name.text_range()))?;
        self.map.bands.insert(band, span(name.text_range()));
        Ok(band)
    }

    fn over(&mut self, node: &Node, band: BandId, owner: Option<ViewId>) -> Done {
        if node.kind() != Kind::Reworded {
            return self.band_statement(node, band, owner);
        }
        let (Some(words), Some(view)) = (words_token(node), owner) else { return Err(Reported) };
        let set = self.builder.set_words(view, unquoted(&words));
        self.built(set, node_span(node))
    }

    /// Whether a word that is declared twice stands in another file the second time.
    pub(crate) fn is_of_base(&self, node: &Node, first: &std::ops::Range<usize>) -> bool {
        first.start > self.ends[self.file_of(node)]
    }
}
