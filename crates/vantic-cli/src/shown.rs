//! What is shown of text that comes from files, names, arguments and paths: it never acts on a terminal.
//!
//! Our own colours carry a mark that nobody can guess. Where something is printed, what has the mark becomes the
//! colour, and anything else that would act is spelled out.

use serde_json::ser::{CompactFormatter, Formatter};
use std::fmt;
use std::hash::{BuildHasher, RandomState};
use std::io;
use std::path::Path;
use std::sync::OnceLock;
use vantic::words::{acts, inert};

/// A colour, written `{RED}words{RED:#}`.
#[derive(Clone, Copy)]
pub(crate) struct Paint(&'static str);

impl Paint {
    /// With these parameters of the control sequence that selects how characters look (ECMA-48, SGR).
    pub(crate) const fn new(parameters: &'static str) -> Self {
        Self(parameters)
    }
}

impl fmt::Display for Paint {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "\x1b[{};{}m", if f.alternate() { "0" } else { self.0 }, mark())
    }
}

/// What a file cannot know of: other digits in each run.
fn mark() -> &'static str {
    static MARK: OnceLock<String> = OnceLock::new();
    MARK.get_or_init(|| format!("{:020}", RandomState::new().hash_one("mark")))
}

/// A text as it is printed: with our colours, and with everything else that would act spelled out.
pub(crate) fn printed(text: &str) -> String {
    let mut out = String::with_capacity(text.len());
    let mut rest = text;
    while let Some(at) = rest.find(acts) {
        out.push_str(&rest[..at]);
        rest = &rest[at..];
        match ours(rest) {
            Some((parameters, after)) => {
                out.push_str(&format!("\x1b[{parameters}m"));
                rest = after;
            }
            None => {
                let first = rest.chars().next().map_or(0, char::len_utf8);
                out.push_str(&inert(&rest[..first]));
                rest = &rest[first..];
            }
        }
    }
    out + rest
}

/// The parameters of one of our colours at the beginning of a text, and what is behind it.
fn ours(text: &str) -> Option<(&str, &str)> {
    let (inside, after) = text.strip_prefix("\x1b[")?.split_once('m')?;
    Some((inside.strip_suffix(mark())?.strip_suffix(';')?, after))
}

/// Paths as they are shown: on one line, whatever they are called.
pub(crate) trait Shown {
    fn shown(&self) -> String;
}

impl Shown for Path {
    fn shown(&self) -> String {
        inert(&self.to_string_lossy())
    }
}

/// JSON on one line in which what would act is written as its code.
pub(crate) struct InertJson;

impl Formatter for InertJson {
    fn write_string_fragment<W: ?Sized + io::Write>(&mut self, out: &mut W, text: &str) -> io::Result<()> {
        let mut rest = text;
        while let Some((at, c)) = rest.char_indices().find(|(_, c)| acts(*c)) {
            CompactFormatter.write_string_fragment(out, &rest[..at])?;
            for unit in c.encode_utf16(&mut [0; 2]) {
                write!(out, "\\u{unit:04x}")?;
            }
            rest = &rest[at + c.len_utf8()..];
        }
        CompactFormatter.write_string_fragment(out, rest)
    }
}
