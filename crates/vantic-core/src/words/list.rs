//! Lists of names in text.

use std::collections::HashSet;

/// How many names a message lists one by one.
const LISTED: usize = 5;

/// `` `a`, `b` and `c` ``; of many, the first few and how many more there are.
pub fn list(names: &[String]) -> String {
    let quoted: Vec<String> = names.iter().map(|n| format!("`{n}`")).collect();
    match quoted.as_slice() {
        [] => String::new(),
        [one] => one.clone(),
        many if many.len() > LISTED => {
            format!("{} and {} more", many[..LISTED - 1].join(", "), many.len() - (LISTED - 1))
        }
        [most @ .., last] => format!("{} and {last}", most.join(", ")),
    }
}

/// Names without repeats, in order of appearance.
pub fn once(names: impl Iterator<Item = String>) -> Vec<String> {
    let mut met = HashSet::new();
    names.filter(|name| met.insert(name.clone())).collect()
}

/// The name, or the first of `name2`, `name3` and so on that is not taken.
pub fn free_name(name: &str, is_taken: impl Fn(&str) -> bool) -> String {
    let mut names = std::iter::once(name.to_owned()).chain((2..).map(|number| format!("{name}{number}")));
    names.find(|name| !is_taken(name)).unwrap_or_default()
}
