//! Plants known faults in a clean screen file. It knows the language by its look alone, not by the library's
//! own parser.

use std::ops::Range;

/// What is done to a screen.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub(crate) enum Fault {
    /// A rule is removed.
    Dropped,
    /// A rule is added that says something else of what a required rule says already.
    Contradicted,
    /// A rule reads another sibling.
    Neighbour,
    /// A preference is on another level, or a required rule.
    Level,
    /// A distance goes the other way.
    Sign,
    /// A share is a number of pixels, or the other way round.
    Unit,
    /// The words of a text are much longer.
    Words,
    /// The screen is shown on displays that are narrower than any it was made for.
    Narrow,
}

impl Fault {
    pub(crate) const ALL: [(Fault, &'static str); 8] = [
        (Fault::Dropped, "a rule removed"),
        (Fault::Contradicted, "a rule that contradicts another"),
        (Fault::Neighbour, "another neighbour"),
        (Fault::Level, "another level"),
        (Fault::Sign, "another sign"),
        (Fault::Unit, "another unit"),
        (Fault::Words, "longer words"),
        (Fault::Narrow, "a narrower display"),
    ];
}

/// A screen file with a fault in it.
#[derive(Clone, Debug)]
pub(crate) struct Planted {
    pub(crate) text: String,
    /// Where the rule at fault stands now, or stood.
    pub(crate) at: Range<usize>,
    /// What stands there now, and what stood there.
    pub(crate) said: String,
}

/// Numbers that are as good as random, the same each time.
pub(crate) struct Picks(pub(crate) u64);

impl Picks {
    fn next(&mut self, below: usize) -> usize {
        self.0 = self.0.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        ((self.0 >> 33) as usize) % below.max(1)
    }
}

/// The statements of a file: what stands between braces, semicolons and line ends.
fn statements(text: &str) -> Vec<Range<usize>> {
    let (mut all, mut start, mut brackets, mut quoted, mut comment) = (Vec::new(), 0, 0, false, false);
    let bytes = text.as_bytes();
    for (at, &c) in bytes.iter().enumerate() {
        match c {
            b'\n' => comment = false,
            _ if comment => continue,
            b'"' => quoted = !quoted,
            _ if quoted => continue,
            b'/' if bytes.get(at + 1) == Some(&b'/') => comment = true,
            b'(' | b'[' => brackets += 1,
            b')' | b']' => brackets -= 1,
            _ => {}
        }
        if brackets == 0 && !quoted && (comment || matches!(c, b'{' | b'}' | b';' | b'\n')) {
            let part = &text[start..at];
            let lead = part.len() - part.trim_start().len();
            let span = start + lead..start + part.trim_end().len();
            if !span.is_empty() {
                all.push(span);
            }
            start = at + 1;
        }
    }
    all
}

const NO_RULES: [&str; 25] = [
    "screen ",
    "ladder ",
    "band ",
    "state ",
    "let ",
    "view ",
    "text ",
    "image ",
    "guide ",
    "font ",
    "when ",
    "in ",
    "each ",
    "hide ",
    "accept ",
    "expect ",
    "language ",
    "row ",
    "column ",
    "grid ",
    "part ",
    "use ",
    "repeat ",
    "//",
    "only ",
];

fn is_rule(statement: &str) -> bool {
    let forms = [
        "pin ", "ratio ", "below ", "above ", "after ", "before ", "between ", "contain ", "cover ", "span ",
    ];
    let body = statement.split_once(": ").map_or(statement, |(_, body)| body);
    let relation = [" = ", " <= ", " >= "].iter().any(|sign| statement.contains(sign));
    !NO_RULES.iter().any(|word| statement.starts_with(word))
        && (relation || forms.iter().any(|f| body.starts_with(f)))
}

/// Names that are declared in the same block as a place.
fn declared_beside(text: &str, at: usize) -> Vec<String> {
    let depth_of = |to: usize| {
        let before = &text[..to];
        before.matches('{').count() as i32 - before.matches('}').count() as i32
    };
    // The block around the block that the rule stands in.
    let depth = depth_of(at) - 1;
    let start =
        (0..at).rev().find(|&i| text.as_bytes()[i] == b'{' && depth_of(i) < depth).map_or(0, |i| i + 1);
    let mut names = Vec::new();
    for span in statements(text) {
        if span.start < start || depth_of(span.start) != depth {
            if span.start > at && depth_of(span.start) < depth {
                break;
            }
            continue;
        }
        let mut words = text[span].split_whitespace();
        if matches!(words.next(), Some("view" | "text" | "image")) {
            names.extend(words.next().map(str::to_owned));
        }
    }
    names
}

/// A fault of a kind at a picked place; `None` where the file has no place for it.
pub(crate) fn plant(text: &str, fault: Fault, picks: &mut Picks) -> Option<Planted> {
    let rules: Vec<Range<usize>> =
        statements(text).into_iter().filter(|s| is_rule(&text[s.clone()])).collect();
    let mut candidates: Vec<(Range<usize>, String)> = Vec::new();
    for span in &rules {
        let rule = &text[span.clone()];
        let mut put = |new: String| candidates.push((span.clone(), new));
        match fault {
            Fault::Dropped => put(String::new()),
            Fault::Contradicted => {
                let body = rule.split_once(": ").map_or(rule, |(_, body)| body);
                let plain = !rule.contains('~') && !rule.contains('(') && !rule.contains(", ");
                if let Some((left, right)) = body.split_once(" = ").filter(|_| plain) {
                    let by = 11 + 2 * picks.next(20);
                    put(format!("{rule}; {left} = {right} + {by}"));
                }
            }
            Fault::Neighbour => {
                let beside = declared_beside(text, span.start);
                let reads = |name: &str| {
                    let behind = rule.find('=').or(rule.find(' '))?;
                    let at = rule[behind..].find(&format!(" {name}."))? + behind + 1;
                    Some(at..at + name.len())
                };
                let own = beside.iter().map(String::as_str).chain(["prev"]).find_map(reads);
                if let Some(own) = own {
                    let others: Vec<&String> = beside.iter().filter(|n| **n != rule[own.clone()]).collect();
                    if !others.is_empty() {
                        let other = others[picks.next(others.len())];
                        put(format!("{}{other}{}", &rule[..own.start], &rule[own.end..]));
                    }
                }
            }
            Fault::Level => {
                let ladder = text.lines().find_map(|l| l.trim().strip_prefix("ladder "))?;
                let ladder = ladder.split("//").next().unwrap_or_default();
                let levels: Vec<&str> = ladder.split('>').map(str::trim).collect();
                if let Some(at) = rule.find(" ~ ") {
                    let word = rule[at + 3..].split([',', ' ']).next().unwrap_or_default();
                    for level in levels.iter().filter(|l| **l != word) {
                        put(format!("{} ~ {level}{}", &rule[..at], &rule[at + 3 + word.len()..]));
                    }
                    put(format!("{}{}", &rule[..at], &rule[at + 3 + word.len()..]));
                }
            }
            Fault::Sign => {
                for (sign, other) in [(" + ", " - "), (" - ", " + ")] {
                    for (at, _) in rule.match_indices(sign) {
                        put(format!("{}{other}{}", &rule[..at], &rule[at + 3..]));
                    }
                }
                if let Some(pin) = rule.strip_prefix("pin ") {
                    for (at, _) in pin.match_indices(|c: char| c.is_ascii_digit()) {
                        if at > 0 && pin.as_bytes()[at - 1] == b' ' {
                            put(format!("pin {}-{}", &pin[..at], &pin[at..]));
                        }
                    }
                }
            }
            Fault::Unit => {
                if let Some(at) = rule.find("% of ") {
                    let behind = &rule[at + 5..];
                    let end = behind.find([' ', ',', ')']).unwrap_or(behind.len());
                    put(format!("{}{}", &rule[..at], &behind[end..]));
                }
                for size in ["width", "height"] {
                    let prefix = format!("{size} = ");
                    let number =
                        rule.strip_prefix(&prefix).filter(|n| n.parse::<f64>().is_ok_and(|n| n <= 100.0));
                    if let Some(number) = number {
                        put(format!("{prefix}{number}% of parent.{size}"));
                    }
                }
            }
            Fault::Words | Fault::Narrow => {}
        }
    }
    if fault == Fault::Words {
        for span in statements(text) {
            let rule = &text[span.clone()];
            if let Some((head, words)) = rule.split_once('"').filter(|_| rule.starts_with("text ")) {
                let words = words.trim_end_matches('"');
                candidates.push((span, format!("{head}\"{words} {words} {words} and so on\"")));
            }
        }
    }
    if candidates.is_empty() {
        return None;
    }
    let (span, new) = candidates.swap_remove(picks.next(candidates.len()));
    let old = text[span.clone()].to_owned();
    let mut out = format!("{}{new}{}", &text[..span.start], &text[span.end..]);
    if new.is_empty() {
        // What separated it from the next one goes with it.
        let rest = out[span.start..].trim_start_matches(' ');
        if let Some(rest) = rest.strip_prefix(';') {
            out = format!("{}{}", &out[..span.start], rest);
        }
    }
    let said = if new.is_empty() { format!("`{old}` removed") } else { format!("`{new}` for `{old}`") };
    let end = span.start + new.len();
    let start = if fault == Fault::Contradicted { end - (new.len() - old.len() - 2) } else { span.start };
    Some(Planted { text: out, at: start..end, said })
}
