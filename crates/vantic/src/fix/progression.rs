//! A series in the rules of siblings, continued: `cols[1]`, `cols[2]`, ... or `0deg`, `72deg`, ...

use crate::fix::context::FixContext;
use crate::fix::weights::series;
use std::collections::BTreeMap;
use vantic_core::model::ViewId;
use vantic_core::tolerance::PLACED;
use vantic_core::words::millionths;

/// A line of which the numbers are taken out, and those numbers.
fn without_numbers(line: &str) -> (String, Vec<f64>) {
    let (mut text, mut numbers, mut digits) = (String::new(), Vec::new(), String::new());
    let mut in_word = false;
    for c in line.chars().chain(['\n']) {
        let is_number = c.is_ascii_digit() || c == '.' && !digits.is_empty();
        if is_number && !in_word {
            digits.push(c);
            continue;
        }
        if let Ok(number) = digits.parse() {
            numbers.push(number);
            text.push('#');
        }
        digits.clear();
        in_word = c.is_alphanumeric() || c == '_';
        text.push(c);
    }
    (text.trim_end().to_owned(), numbers)
}

/// A distance behind a word, such as ` by 8` or ` - 16`; nothing where there is none.
pub(crate) fn distance(word: &str, by: f64) -> String {
    if by == 0.0 { String::new() } else { format!(" {word} {}", exact(by)) }
}

/// A number as a file has it, without the error of rounding.
pub(crate) fn exact(number: f64) -> String {
    millionths(number).to_string()
}

fn with_numbers(text: &str, numbers: &[f64]) -> String {
    let mut numbers = numbers.iter();
    let mut out = String::new();
    for c in text.chars() {
        match c {
            '#' => out.push_str(&numbers.next().map_or_else(String::new, |n| exact(*n))),
            c => out.push(c),
        }
    }
    out
}

/// The numbers that a place in a row has, where those of other places grow by the same from each to the next.
fn gone_on_with(known: &[(f64, Vec<f64>)], at: f64) -> Option<Vec<f64>> {
    let [(from, first), (to, second), ..] = known else { return None };
    let by: Vec<f64> = std::iter::zip(first, second).map(|(a, b)| (b - a) / (to - from)).collect();
    let value = |at: f64| -> Vec<f64> {
        std::iter::zip(first, &by).map(|(start, by)| start + by * (at - from)).collect()
    };
    let fits = known.iter().all(|(place, numbers)| {
        std::iter::zip(value(*place), numbers).all(|(expected, number)| (expected - number).abs() < PLACED)
    });
    let grows = by.iter().any(|by| *by != 0.0);
    (fits && grows).then(|| value(at)).filter(|numbers| numbers.iter().all(|n| *n >= 0.0))
}

impl FixContext<'_> {
    /// What a view would say along an axis if it went on with what its siblings say.
    pub(crate) fn next_in_series(&self, view: ViewId, across: bool) -> Vec<(String, f64)> {
        let siblings: Vec<ViewId> = self.screen().siblings_of(view).collect();
        let Some(own) = siblings.iter().position(|s| *s == view) else { return Vec::new() };
        let mut said: BTreeMap<String, Vec<(f64, Vec<f64>)>> = BTreeMap::new();
        for (at, &sibling) in siblings.iter().enumerate().filter(|(at, _)| at.abs_diff(own) < 12) {
            for line in self.lines_of(sibling, across).iter().filter(|_| at != own) {
                let (text, numbers) = without_numbers(line);
                if !numbers.is_empty() {
                    said.entry(text).or_default().push((at as f64, numbers));
                }
            }
        }
        let mut lines = Vec::new();
        for (text, known) in said {
            if let Some(numbers) = gone_on_with(&known, own as f64) {
                lines.push((with_numbers(&text, &numbers), series::NEXT));
            }
            // One that reads a column or row: the one as far from it as the view is.
            if let ([(at, numbers)], true) = (known.as_slice(), text.contains("[#]")) {
                let number = |n: &f64| n + (own as f64 - at);
                let moved: Vec<f64> = numbers.iter().map(number).filter(|n| *n >= 1.0).collect();
                if moved.len() == 1 && numbers.len() == 1 {
                    lines.push((with_numbers(&text, &moved), series::MOVED_ON));
                }
            }
        }
        lines
    }
}
