//! Numbers and lists in messages.

/// A number of logical pixels for people: at most two decimals, no needless zeros.
pub fn number(value: f64) -> String {
    let rounded = (value * 100.0).round() / 100.0;
    format!("{}", if rounded == 0.0 { 0.0 } else { rounded })
}

/// How many names a message lists one by one.
const LISTED: usize = 5;

/// `` `a`, `b` and `c` ``; of many, the first few and how many more there are.
pub(super) fn list(names: &[String]) -> String {
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

/// Which values a coordinate may take, in words: `anything from 16 to 488`.
pub fn interval_words(range: [Option<f64>; 2]) -> String {
    match range {
        [Some(low), Some(high)] => format!("anything from {} to {}", number(low), number(high)),
        [Some(low), None] => format!("anything from {} up", number(low)),
        [None, Some(high)] => format!("anything up to {}", number(high)),
        [None, None] => "anything".into(),
    }
}

/// Names without repeats, in order of appearance.
pub(super) fn once(names: impl Iterator<Item = String>) -> Vec<String> {
    let mut all = Vec::new();
    for name in names {
        if !all.contains(&name) {
            all.push(name);
        }
    }
    all
}
