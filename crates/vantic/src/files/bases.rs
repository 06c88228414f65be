//! A screen file with the files it is based on: `screen booking from "shell.vantic" { ... }`.
//!
//! The texts are put one behind the other, the file itself first, so that one tree holds them all and every
//! place is one number. This module reads no files: whoever calls it hands in their texts.

use crate::resolve::read::{Source, base_of, read_screens, refuse};
use crate::syntax::ast::nodes::node_span;
use crate::syntax::error::{MAX_FILE_BYTES, SourceError, SourceErrors, line_and_column};
use crate::syntax::lexer::Kind;
use crate::syntax::parser::parser::parse_screens;
use crate::syntax::tree::Node;
use std::ops::Range;

/// How many files may be based on one another.
pub const MAX_BASES: usize = 16;

/// A screen file with the files it is based on.
#[derive(Clone, Debug, PartialEq)]
pub struct Assembled {
    text: String,
    files: Vec<File>,
    /// What went wrong on the way to the bases.
    errors: Vec<SourceError>,
}

/// One of the files, and where its text stands among all.
#[derive(Clone, Debug, PartialEq)]
struct File {
    name: String,
    at: Range<usize>,
}

/// A place in one of the files.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct InFile<'a> {
    /// The file's name.
    pub name: &'a str,
    /// The file's text.
    pub text: &'a str,
    /// The place in that text, in bytes.
    pub span: Range<usize>,
}

impl InFile<'_> {
    /// The line, counted from 1.
    pub fn line(&self) -> usize {
        line_and_column(self.text, self.span.start).0
    }
}

impl Assembled {
    /// A screen file by itself.
    pub fn alone(name: impl Into<String>, text: impl Into<String>) -> Self {
        let (name, text) = (name.into(), text.into());
        let at = 0..text.len();
        Self { text, files: vec![File { name, at }], errors: Vec::new() }
    }

    /// A screen file with what it is based on, and that with what it is based on. `load` is given the name of
    /// a file and the name by which it calls its base, and gives the base's own name and text, or says why
    /// there is none.
    ///
    /// ```
    /// use vantic::files::Assembled;
    ///
    /// let shell = "screen shell { view body { pin left, right, top, bottom to safe } }";
    /// let page = "screen page from \"shell.vantic\" {
    ///     in body { view card { pin left, top to parent; size = 40 } }
    /// }";
    /// let files = Assembled::new("page.vantic", page, |_of, called| match called {
    ///     "shell.vantic" => Ok((called.to_owned(), shell.to_owned())),
    ///     _ => Err("no such file".to_owned()),
    /// });
    /// let source = files.read()?;
    /// assert!(source.screen.find("body.card").is_some());
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn new(
        name: impl Into<String>,
        text: impl Into<String>,
        mut load: impl FnMut(&str, &str) -> Result<(String, String), String>,
    ) -> Self {
        let mut all = Self::alone(name, text);
        loop {
            let Some(last) = all.files.last().cloned() else { return all };
            let Some((called, span)) = base_of(&all.text[last.at.clone()]) else { return all };
            let span = span.start + last.at.start..span.end + last.at.start;
            let refused = match load(&last.name, &called) {
                Ok((name, _)) if all.files.iter().any(|f| f.name == name) => {
                    let first = all.files.iter().find(|f| f.name == name).map_or(0..0, |f| f.at.clone());
                    let error = SourceError::new(span, format!("`{name}` is based on itself"));
                    let head =
                        all.text[first.clone()].find("screen").map_or(first.start, |at| first.start + at);
                    let error =
                        error.related(head..head + "screen".len(), "this is the file it comes back to");
                    Some(error.help("remove one of the two `from`"))
                }
                Ok(_) if all.files.len() > MAX_BASES => Some(SourceError::new(
                    span,
                    format!("too many bases of one another: the limit is {MAX_BASES}"),
                )),
                Ok((_, text)) if all.text.len() + text.len() > MAX_FILE_BYTES => Some(SourceError::new(
                    span,
                    format!(
                        "the file and what it is based on are too large: the limit is {MAX_FILE_BYTES} bytes"
                    ),
                )),
                Ok((name, text)) => {
                    all.text.push('\n');
                    let start = all.text.len();
                    all.text.push_str(&text);
                    all.files.push(File { name, at: start..all.text.len() });
                    None
                }
                Err(why) => {
                    Some(SourceError::new(span, why).help("name a screen file, as seen from this one"))
                }
            };
            if let Some(refused) = refused {
                all.errors.push(refused);
                return all;
            }
        }
    }

    /// The same files with parts of their text changed: where, and how long what stands there now is.
    pub(crate) fn with_text(&self, text: String, changed: &[(Range<usize>, usize)]) -> Self {
        let moved = |byte: usize| {
            let before = changed.iter().filter(|(at, _)| at.end <= byte && at.start < byte);
            before.fold(byte, |to, (at, length)| to + length - at.len())
        };
        // What is put in at the end of a file belongs to it.
        let end = |byte: usize| {
            let at_end = changed.iter().filter(|(at, _)| at.start == byte && at.is_empty());
            at_end.fold(moved(byte), |to, (_, length)| to + length)
        };
        let files = self.files.iter().map(|file| {
            let at = moved(file.at.start)..end(file.at.end);
            File { name: file.name.clone(), at }
        });
        Self { files: files.collect(), text, errors: self.errors.clone() }
    }

    /// The text of all files, the file itself first. Places in it are what errors and the map speak of.
    pub fn text(&self) -> &str {
        &self.text
    }

    /// The names of the files, the file itself first.
    pub fn names(&self) -> impl Iterator<Item = &str> {
        self.files.iter().map(|f| f.name.as_str())
    }

    /// The texts of the files, the file itself first.
    pub fn texts(&self) -> impl Iterator<Item = &str> {
        self.files.iter().map(|f| &self.text[f.at.clone()])
    }

    /// Where a place is: in which file, and where there.
    pub fn place(&self, span: &Range<usize>) -> InFile<'_> {
        let file = self.files.iter().rfind(|f| f.at.start <= span.start).unwrap_or(&self.files[0]);
        let text = &self.text[file.at.clone()];
        let within = |byte: usize| byte.saturating_sub(file.at.start).min(text.len());
        InFile { name: &file.name, text, span: within(span.start)..within(span.end) }
    }

    /// Reads it.
    ///
    /// # Errors
    /// Everything that is wrong with the file and with what it is based on, at places in [`Self::text`].
    pub fn read(&self) -> Result<Source, SourceErrors> {
        if !self.errors.is_empty() {
            return Err(SourceErrors::new(self.errors.clone(), &self.text));
        }
        match self.files.as_slice() {
            [_] => crate::resolve::read::read(&self.text),
            files => {
                let (tree, errors) = parse_screens(&self.text, files.len());
                let unfit: Vec<SourceError> =
                    files.iter().filter_map(|file| self.unfit(file, &tree)).collect();
                if !unfit.is_empty() {
                    return Err(SourceErrors::new(unfit, &self.text));
                }
                let ends: Vec<usize> = files.iter().map(|f| f.at.end).collect();
                read_screens(&self.text, &tree, errors, &ends)
            }
        }
    }

    /// What is wrong with one of several files as a whole: it is no text, or has no screen.
    fn unfit(&self, file: &File, tree: &Node) -> Option<SourceError> {
        if let Some(error) = refuse(&self.text[file.at.clone()]) {
            let message = format!("{}: {}", file.name, error.message);
            return Some(SourceError { span: file.at.start..file.at.start, message, ..error });
        }
        let mut screens = tree.children().filter(|n| n.kind() == Kind::ScreenItem).map(|n| node_span(&n));
        let is_empty = !screens.any(|at| file.at.start <= at.start && at.start < file.at.end);
        is_empty.then(|| {
            let message = format!("{}: there is no screen in this file", file.name);
            let help = "start with `screen my_screen {` and end with `}`";
            SourceError::new(file.at.start..file.at.start, message).help(help)
        })
    }
}
