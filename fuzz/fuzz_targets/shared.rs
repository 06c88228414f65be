//! What several fuzzers share.

use vantic::display::{Display, Insets};
use vantic::geometry::Direction;

/// A screen with a statement of nearly every kind.
#[allow(dead_code, reason = "not every fuzzer uses it")]
pub const SCREEN: &str = include_str!("../seeds/screen.vantic");

/// Displays that differ in all that matters: one upright, one turned and read from the right, one hardly there.
#[allow(dead_code, reason = "not every fuzzer uses it")]
pub fn displays() -> Vec<Display> {
    let insets = Insets { left: 0.0, top: 44.0, right: 0.0, bottom: 34.0 };
    let all = [
        Display::new(390.0, 844.0).and_then(|d| d.with_insets(insets)),
        Display::new(844.0, 390.0).map(|d| d.with_direction(Direction::RightToLeft)),
        Display::new(61.0, 47.0),
    ];
    all.into_iter().map(|display| display.expect("these are displays")).collect()
}

/// The screen with tokens changed as the bytes say, three of them for each change.
#[allow(dead_code, reason = "not every fuzzer uses it")]
pub fn mutated(bytes: &[u8]) -> String {
    let mut tokens: Vec<&str> = tokens(SCREEN);
    for change in bytes.chunks_exact(3).take(40) {
        let at = usize::from(u16::from_le_bytes([change[1], change[2]])) % tokens.len();
        let other = usize::from(change[0]) * 7919 % tokens.len();
        match change[0] % 6 {
            0 => drop(tokens.remove(at)),
            1 => tokens.insert(at, tokens[other]),
            2 => tokens.swap(at, other),
            3 => tokens[at] = tokens[other],
            4 => tokens[at] = ["-1", "0", "1e9", "0.001", "99999999", "}", "{", "~", "\"", "="][other % 10],
            _ => tokens.insert(at, "\n"),
        }
        if tokens.is_empty() {
            break;
        }
    }
    tokens.concat()
}

/// Words, numbers, white space and signs, all in all the text again.
#[allow(dead_code, reason = "not every fuzzer uses it")]
fn tokens(text: &str) -> Vec<&str> {
    let kind = |c: char| match c {
        _ if c.is_alphanumeric() || c == '_' => 0,
        _ if c.is_whitespace() => 1,
        _ => 2,
    };
    let mut tokens = Vec::new();
    let mut from = 0;
    let chars: Vec<(usize, char)> = text.char_indices().collect();
    for pair in chars.windows(2) {
        let ((_, a), (at, b)) = (pair[0], pair[1]);
        if kind(a) != kind(b) || kind(b) == 2 {
            tokens.push(&text[from..at]);
            from = at;
        }
    }
    tokens.push(&text[from..]);
    tokens
}
