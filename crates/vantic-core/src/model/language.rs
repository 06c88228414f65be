//! Words in other languages, and the pseudo-language.

use crate::model::id::{Revision, ViewId};
use std::collections::BTreeMap;

/// A language that every screen has: its own words, accented and 40% longer, to try a screen before it is
/// translated.
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
    /// Other whenever its words are.
    pub(crate) revision: Revision,
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

/// Words made longer and accented: still legible, and seen at once where a word is not translated.
pub(crate) fn pseudo(words: &str) -> String {
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
