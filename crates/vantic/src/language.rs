//! Words by language: what a text says where a display is read in another language.

use crate::screen::{Screen, ViewId, is_name};
use serde::Deserialize;
use std::borrow::Cow;
use std::collections::BTreeMap;
use toml::Spanned;

/// A language that every screen has: its own words, accented and 40% longer, to try a screen before it is translated.
pub const PSEUDO: &str = "pseudo";

/// The most languages a screen may have.
pub const MAX_LANGUAGES: usize = 100;

/// How many characters [`PSEUDO`] makes of ten.
const LONGER: usize = 14;

/// The words of a screen in one language.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Language {
    pub(crate) name: String,
    pub(crate) right_to_left: bool,
    /// Whether the words in the file are those of this language.
    pub(crate) is_own: bool,
    pub(crate) words: BTreeMap<ViewId, String>,
}

impl Language {
    /// The name, such as `fi`.
    pub fn name(&self) -> &str {
        &self.name
    }

    /// Whether it is read from right to left.
    pub fn is_right_to_left(&self) -> bool {
        self.right_to_left
    }

    /// Whether it has no words of its own, since those of the file are in it.
    pub fn is_own(&self) -> bool {
        self.is_own
    }

    /// The words of a text in this language, if it has some.
    pub fn words(&self, view: ViewId) -> Option<&str> {
        self.words.get(&view).map(String::as_str)
    }
}

impl Screen {
    /// The languages in which the screen has words, in declared order.
    pub fn languages(&self) -> &[Language] {
        &self.languages
    }

    /// The words of a text in a language; its own where the language has none for it, or is `None`. `None` for a view
    /// without words.
    pub fn words_in(&self, view: ViewId, language: Option<&str>) -> Option<Cow<'_, str>> {
        let own = &self.view(view)?.text()?.words;
        if language == Some(PSEUDO) {
            return Some(Cow::Owned(pseudo(own)));
        }
        let named = self.languages.iter().find(|l| Some(l.name()) == language);
        Some(Cow::Borrowed(named.and_then(|l| l.words(view)).unwrap_or(own)))
    }

    /// The texts that a language has no words for, in declared order.
    pub fn untranslated<'a>(&'a self, language: &'a Language) -> impl Iterator<Item = ViewId> + 'a {
        // Numbers are the same in every language.
        let has_words = |words: &str| words.chars().any(char::is_alphabetic);
        let texts = self.views().filter(move |(_, v)| v.text().is_some_and(|t| has_words(&t.words)));
        texts.map(|(view, _)| view).filter(|view| !language.is_own && !language.words.contains_key(view))
    }
}

/// Words made longer and accented: still legible, and seen at once where a word is not translated.
fn pseudo(words: &str) -> String {
    let mut out = String::new();
    for piece in words.split_inclusive(char::is_whitespace) {
        let word = piece.trim_end();
        let length = word.chars().count();
        let wanted = (length * LONGER).div_ceil(10);
        let accented = word.chars().map(accented).collect::<Vec<_>>();
        // Its vowels are drawn out, one after the other, so that it stays one word.
        let vowels: Vec<usize> = (0..length).filter(|&i| "àéîöû".contains(accented[i])).collect();
        let places = if vowels.is_empty() { vec![length.saturating_sub(1)] } else { vowels };
        let mut times = vec![1_usize; length];
        for extra in 0..wanted - length {
            times[places[extra % places.len()]] += 1;
        }
        for (c, times) in std::iter::zip(&accented, times) {
            out.extend(std::iter::repeat_n(*c, times));
        }
        out.push_str(&piece[word.len()..]);
    }
    out
}

fn accented(c: char) -> char {
    const PLAIN: &str = "aeioucnsyzAEIOUCNSYZ";
    const ACCENTED: &str = "àéîöûçñšýžÀÉÎÖÛÇÑŠÝŽ";
    PLAIN.chars().zip(ACCENTED.chars()).find(|(plain, _)| *plain == c).map_or(c, |(_, accented)| accented)
}

/// Why a table of words could not be used.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
#[error("line {line}: {message}")]
pub struct WordsError {
    /// The line, counted from 1.
    pub line: usize,
    /// What is wrong, and what to write instead.
    pub message: String,
}

/// A table of words beside a screen file.
#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Table {
    #[serde(default)]
    language: BTreeMap<Spanned<String>, OneLanguage>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct OneLanguage {
    #[serde(default)]
    right_to_left: bool,
    words: Option<BTreeMap<Spanned<String>, String>>,
}

/// The line of a byte, counted from 1.
pub(crate) fn line_of(text: &str, span: Option<std::ops::Range<usize>>) -> usize {
    crate::syntax::line_and_column(text, span.map_or(0, |s| s.start)).0
}

/// A message of the TOML package, and its line.
pub(crate) fn toml_error(text: &str, error: &toml::de::Error) -> (usize, String) {
    (line_of(text, error.span()), error.message().lines().collect::<Vec<_>>().join("; "))
}

impl Screen {
    /// The screen with the words of a table in TOML: `[language.fi.words]`, then `"header.title" = "Laivat"` and so on,
    /// by the path of each text; `right_to_left = true` in `[language.he]` where it is read that way. Where the screen
    /// has the language already, the table's words count.
    ///
    /// # Errors
    /// What is wrong in the table, with its line: no TOML, a path that is no text, a name that is none.
    pub fn with_words(mut self, table: &str) -> Result<Screen, WordsError> {
        let parsed: Table = toml::from_str(table).map_err(|error| {
            let (line, message) = toml_error(table, &error);
            WordsError { line, message }
        })?;
        for (name, of) in parsed.language {
            let line = line_of(table, Some(name.span()));
            let is_own = of.words.is_none();
            let name = name.into_inner();
            let index = self
                .add_language(&name, of.right_to_left, is_own)
                .map_err(|message| WordsError { line, message })?;
            for (path, words) in of.words.unwrap_or_default() {
                let line = line_of(table, Some(path.span()));
                let path = path.into_inner();
                let Some(view) = self.find(&path).filter(|v| self.at(*v).text().is_some()) else {
                    let help = match self.nearest_path(&path) {
                        Some(near) if self.find(&path).is_none() => format!("did you mean `{near}`?"),
                        _ => "name a text by its path, such as \"header.title\"".to_owned(),
                    };
                    return Err(WordsError { line, message: format!("there is no text `{path}`; {help}") });
                };
                self.languages[index].words.insert(view, words);
            }
        }
        Ok(self)
    }

    /// The language of this name, added if it is new, and where it stands.
    pub(crate) fn add_language(
        &mut self,
        name: &str,
        right_to_left: bool,
        is_own: bool,
    ) -> Result<usize, String> {
        if !is_name(name) || name == PSEUDO {
            return Err(format!(
                "`{name}` is not a name for a language: use letters, such as `fi` or `pt_br`"
            ));
        }
        if let Some(index) = self.languages.iter().position(|l| l.name == name) {
            self.languages[index].right_to_left |= right_to_left;
            self.languages[index].is_own &= is_own;
            return Ok(index);
        }
        if self.languages.len() >= MAX_LANGUAGES {
            return Err(format!("too many languages: the limit is {MAX_LANGUAGES}"));
        }
        let (name, words) = (name.to_owned(), BTreeMap::new());
        self.languages.push(Language { name, right_to_left, is_own, words });
        Ok(self.languages.len() - 1)
    }
}
