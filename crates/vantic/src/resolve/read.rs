//! Reading a screen file: walks the statements, first the ladder, bands and views, then the rules in file
//! order, then what bands change.

use crate::resolve::reader::Reader;
use crate::resolve::scope::Scope;
use crate::resolve::source_map::SourceMap;
use crate::syntax::ast::nodes::{block_of, first_word, span, unquoted, words_token};
use crate::syntax::error::{MAX_FILE_BYTES, SourceError, SourceErrors};
use crate::syntax::lexer::Kind;
use crate::syntax::parser::parser::parse;
use crate::syntax::tree::Node;
use std::collections::{HashMap, HashSet};
use std::ops::Range;
use vantic_core::model::{Screen, ScreenBuilder};

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
/// ```
/// let source = vantic::read("screen quay { view a { pin left, top to safe; size = 8 } }")?;
/// assert_eq!(source.screen.name(), "quay");
///
/// let wrong = vantic::read("screen quay { view a { pin lft to safe } }").unwrap_err();
/// assert_eq!(wrong.errors[0].help.as_deref(), Some("did you mean `left`?"));
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
///
/// # Errors
/// Everything that is wrong with it, in order of place.
pub fn read(text: &str) -> Result<Source, SourceErrors> {
    if let Some(error) = refuse(text) {
        return Err(SourceErrors::new(vec![error], text));
    }
    read_alone(text, SourceMap::default())
}

/// Reads a screen file, and notes what its paths name.
pub(crate) fn read_with_references(text: &str) -> Result<Source, SourceErrors> {
    read_alone(text, SourceMap { references: Some(Vec::new()), ..SourceMap::default() })
}

fn read_alone(text: &str, map: SourceMap) -> Result<Source, SourceErrors> {
    let (tree, mut errors) = parse(text);
    if let Some((called, span)) = base_in(&tree) {
        let message = format!("this screen is based on \"{called}\", which has to be read with it");
        errors.push(SourceError::new(span, message).help("read both with `Assembled`"));
    }
    read_into(map, text, &tree, errors, &[text.len()])
}

/// What a file calls its base, and where it says so.
pub(crate) fn base_of(text: &str) -> Option<(String, Range<usize>)> {
    refuse(text).is_none().then(|| base_in(&parse(text).0)).flatten()
}

fn base_in(tree: &Node) -> Option<(String, Range<usize>)> {
    let words = words_token(&tree.children().find(|n| n.kind() == Kind::ScreenItem)?)?;
    Some((unquoted(&words), span(words.text_range())))
}

/// Reads the screens of several files, each the base of the one before it; where each file ends.
pub(crate) fn read_screens(
    text: &str,
    tree: &Node,
    errors: Vec<SourceError>,
    ends: &[usize],
) -> Result<Source, SourceErrors> {
    read_into(SourceMap::default(), text, tree, errors, ends)
}

fn read_into(
    map: SourceMap,
    text: &str,
    tree: &Node,
    mut errors: Vec<SourceError>,
    ends: &[usize],
) -> Result<Source, SourceErrors> {
    if let Some(error) = refuse(text) {
        return Err(SourceErrors::new(vec![error], text));
    }
    let items: Vec<Node> = tree.children().filter(|n| n.kind() == Kind::ScreenItem).collect();
    let Some((_, name)) = items.first().and_then(|i| first_word(i, 1).map(|w| (i, w))) else {
        return Err(SourceErrors::new(errors, text));
    };
    let builder = ScreenBuilder::for_file(name.text());
    if let Err(error) = builder.clone().finish() {
        errors.extend(error.0.iter().map(|e| SourceError::new(span(name.text_range()), e.to_string())));
    }
    let mut reader = Reader {
        builder,
        map,
        errors,
        not_found: HashSet::new(),
        scopes: vec![Scope::default()],
        scope: 0,
        parts: HashMap::new(),
        parts_around: 0,
        let_depth: 0,
        lets_too_long: false,
        blocks: Vec::new(),
        rules: Vec::new(),
        whens: Vec::new(),
        accepts: Vec::new(),
        tables: Vec::new(),
        spaces: Vec::new(),
        blocks_for_views: 0,
        rules_at_limit: false,
        ends: ends.to_vec(),
        adopted: Vec::new(),
        base_overrides: Vec::new(),
    };
    // The outermost base first.
    let blocks: Vec<Node> = items.iter().rev().filter_map(block_of).collect();
    reader.screen(&blocks);
    // What is wrong in a part is reported once, however often it is placed.
    let mut seen = HashSet::new();
    reader.errors.retain(|e| seen.insert((e.span.start, e.span.end, e.message.clone())));
    if reader.errors.is_empty() {
        Ok(Source { screen: reader.builder.into_screen(), map: reader.map })
    } else {
        Err(SourceErrors::new(reader.errors, text))
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
            Err(SourceErrors::new(vec![SourceError::new(0..0, message)], ""))
        }
    }
}

pub(crate) fn refuse(text: &str) -> Option<SourceError> {
    if text.len() > MAX_FILE_BYTES {
        let message =
            format!("the file is too large: {} bytes, and the limit is {MAX_FILE_BYTES}", text.len());
        return Some(SourceError::new(0..0, message));
    }
    text.find('\0').map(|at| SourceError::new(0..0, format!("this is not a text file: byte {at} is zero")))
}
