//! Words by language: what a text says where a display is read in another language.

use crate::files::toml::{line_of, toml_error};
use serde::Deserialize;
use std::collections::BTreeMap;
use toml::Spanned;
use vantic_core::model::Screen;

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

/// The screen with the words of a table in TOML: `[language.fi.words]`, then `"header.title" = "Laivat"` and
/// so on, by the path of each text; `right_to_left = true` in `[language.he]` where it is read that way.
/// Where the screen has the language already, the table's words count.
///
/// ```
/// use vantic::files::with_words;
///
/// let source = vantic::read("screen quay { text sign \"Ferries\" { font 20; pin left, top to safe } }")?;
/// let screen = with_words(source.screen, "[language.fi.words]\nsign = \"Lautat\"\n")?;
/// let sign = screen.find("sign").unwrap();
/// assert_eq!(screen.words_in(sign, Some("fi")).unwrap(), "Lautat");
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
///
/// # Errors
/// What is wrong in the table, with its line: no TOML, a path that is no text, a name that is none.
pub fn with_words(mut screen: Screen, table: &str) -> Result<Screen, WordsError> {
    let parsed: Table = toml::from_str(table).map_err(|error| {
        let (line, message) = toml_error(table, &error);
        WordsError { line, message }
    })?;
    for (name, of) in parsed.language {
        let line = line_of(table, Some(name.span()));
        let mut known = Vec::new();
        for (path, words) in of.words.iter().flatten() {
            let line = line_of(table, Some(path.span()));
            let path = path.get_ref();
            let text = screen.find(path).filter(|v| screen.view(*v).is_some_and(|v| v.text().is_some()));
            let Some(view) = text else {
                let help = match screen.nearest_path(path) {
                    Some(near) if screen.find(path).is_none() => format!("did you mean `{near}`?"),
                    _ => "name a text by its path, such as \"header.title\"".to_owned(),
                };
                return Err(WordsError { line, message: format!("there is no text `{path}`; {help}") });
            };
            known.push((view, words.clone()));
        }
        let words = of.words.is_some().then_some(known);
        screen = screen
            .with_translation(name.get_ref(), of.right_to_left, words)
            .map_err(|error| WordsError { line, message: error.to_string() })?;
    }
    Ok(screen)
}
