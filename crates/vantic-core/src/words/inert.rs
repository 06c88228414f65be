//! Text from files, names and arguments, shown so that it acts on nothing.

use std::fmt::Write as _;

/// Whether a character does something where it is printed: a control character, a mark that changes the direction of
/// reading, or one that is not seen. Line breaks and tabs do what they say, and are not among them.
pub fn acts(c: char) -> bool {
    let is_control = c.is_control() && !matches!(c, '\n' | '\t');
    is_control
        || matches!(c,
            '\u{ad}' | '\u{61c}' | '\u{180e}' | '\u{200b}'..='\u{200f}' | '\u{2028}'..='\u{202e}'
            | '\u{2060}'..='\u{206f}' | '\u{feff}' | '\u{fff9}'..='\u{fffb}' | '\u{e0000}'..='\u{e007f}')
}

/// A text of one line in which what would act is spelled out, line breaks and tabs included: `\u{1b}`.
///
/// ```
/// use vantic_core::words::inert;
///
/// assert_eq!(inert("Fähre"), "Fähre");
/// assert_eq!(inert("a\u{1b}[2J\n\u{202e}b"), r"a\u{1b}[2J\n\u{202e}b");
/// ```
pub fn inert(text: &str) -> String {
    let mut out = String::with_capacity(text.len());
    for c in text.chars() {
        match c {
            '\n' => out.push_str("\\n"),
            '\t' => out.push_str("\\t"),
            '\r' => out.push_str("\\r"),
            c if acts(c) => {
                let _ = write!(out, "\\u{{{:x}}}", c as u32);
            }
            c => out.push(c),
        }
    }
    out
}
