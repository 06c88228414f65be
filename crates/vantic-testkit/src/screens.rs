//! Screen files made of numbers that somebody else picks: a fuzzer's bytes, or a random generator's.
//!
//! What comes out is well formed and mostly has a meaning: every statement of the language, nested and in combination,
//! about views that are there. Most of these screens are wrong in some way, which is what they are for.

use std::fmt::Write as _;

/// Choices, read off bytes; zero where they have run out, so that every file comes to an end.
pub struct Picks<'a> {
    bytes: std::slice::Iter<'a, u8>,
}

impl<'a> Picks<'a> {
    /// From these bytes.
    pub fn new(bytes: &'a [u8]) -> Self {
        Self { bytes: bytes.iter() }
    }

    /// One of so many, from zero; 256 at most.
    pub fn of(&mut self, count: usize) -> usize {
        usize::from(self.bytes.next().copied().unwrap_or(0)) % count.max(1)
    }

    /// One of these.
    pub fn one<'t>(&mut self, of: &[&'t str]) -> &'t str {
        let at = self.of(of.len());
        of.get(at).copied().unwrap_or_default()
    }

    /// Whether it is one of so many.
    pub fn rarely(&mut self, of: usize) -> bool {
        self.of(of) == of - 1
    }
}

/// Numbers that mean something wherever a number is asked for.
const SIZES: [&str; 16] =
    ["1", "2", "8", "12", "16", "20", "24", "40", "44", "64", "100", "120", "200", "3.5", "7.25", "320"];

/// Numbers that have a meaning in some places only.
const ODD: [&str; 8] = ["0", "-8", "-40", "0.001", "99999", "10000000", "1234567.125", "-0.5"];

const LEVELS: [&str; 3] = ["fit", "rhythm", "polish"];

/// What a rule of a view may read, along an axis; `$o` is another view.
const ACROSS: [&str; 12] = [
    "rail",
    "$o.left",
    "$o.right",
    "$o.width",
    "$o.center_x",
    "parent.left",
    "parent.right",
    "parent.width",
    "safe.left",
    "safe.right",
    "screen.width",
    "$o.height",
];
const DOWN: [&str; 13] = [
    "rail",
    "$o.top",
    "$o.bottom",
    "$o.height",
    "$o.center_y",
    "parent.top",
    "parent.bottom",
    "parent.height",
    "safe.top",
    "clear.bottom",
    "screen.height",
    "$o.baseline",
    "$o.width",
];

/// Lines in the block of a view. `$x` and `$y` are sums along an axis, `$n` is a number, `$s` one above zero, `$p` a percentage, `$o` another
/// view, `$b` a box, `$l` a level or none.
const LINES: [&str; 60] = [
    "pin left $n, right $n to $b",
    "pin start $n, end $n to $b",
    "pin left, right, top, bottom to $b",
    "pin top $n to $b$l",
    "pin bottom $n to clear",
    "left = $x$l",
    "left = $x$l",
    "right = $x$l",
    "right <= $x$l",
    "start = $o.start + $n$l",
    "end <= $o.start - $n$l",
    "width = $x$l",
    "width = $n$l",
    "width >= $n$l",
    "width <= $x$l",
    "height = $n$l",
    "height = $y$l",
    "height <= $y$l",
    "top = $y$l",
    "top = $y$l",
    "bottom = $y$l",
    "bottom <= $y$l",
    "size = $n$l",
    "size = ($n, $n)",
    "center = $b.center",
    "center_x = $x",
    "center_y = $y",
    "tall: height = $n",
    "below $o by $n$l",
    "after $o by $n ~ rhythm, at least $n",
    "above $o",
    "before $o by $n",
    "between $b.left and $b.right, at most $n",
    "between $b.top and $b.bottom, lean $p",
    "width = max($x, $n)$l",
    "height = min($y, $n, $y)$l",
    "width = clamp($x, $n, $x)$l",
    "height = max($n, min($y, $n))",
    "ratio width : height = $s : $s$l",
    "contain $s : $s in $b",
    "cover $s : $s in $b, lean ($p, $p)",
    "enclose $o by $n",
    "at($p, $p) = $b.at($p, $p)",
    "span across 25%..75% in $b, inset $n",
    "span down 0%..50% in $b, inset $n, $n",
    "center = $b.center + bearing($s, ${n}deg)",
    "outline(${s}deg) = $o.outline(90deg) + bearing($s, 90deg, mirrored)",
    "drawn across $s, $s in $b of 400, grow width, end",
    "baseline = $o.baseline",
    "control",
    "input; control 44",
    "floats",
    "rotate ${s}deg",
    "scale ($s, $s)",
    "depth 2",
    "only in wide",
    "overhang $h",
    "stick top $s",
    "share $s; sit end",
    "apart",
];

/// Lines that make something of a view's children.
const HOLDERS: [&str; 14] = [
    "row gap $s, padding $s",
    "row gap $s, wrap by $s",
    "row gap $s, spread between, align center",
    "column gap $s, align stretch",
    "column gap $s, padding $s, spread evenly",
    "grid columns 3, gap $s",
    "grid columns at least $s, gap ($s, $s), padding $s",
    "grid columns of $s, rows of $s",
    "grid columns 2 snug, gap $s, align start",
    "scroll down",
    "scroll both; column gap $s",
    "scroll down; content.bottom = $n",
    "guide cols# { columns 4, margin $s, gutter $s }",
    "guide edge# { line down $p }",
];

/// What is in a view that is a row, a column or a grid.
const CHILDREN: [&str; 10] = [
    "view cell# { size = $n }",
    "view cell# { share $s, at least $s, at most $s }",
    "text cell# \"some words to wrap\" { font 14; share 1 }",
    "view cell# { spare cut $s; height = $n; width = $n }",
    "repeat slot# at least 1, at most 4 { width = $n; height = $n }",
    "repeat slot# 3 { column gap $s; view mark { size = $n } }",
    "view cell# { cells (2, 2); height >= $n }",
    "view cell# { apart; pin right $n, top $n to parent; size = $n }",
    "text cell# \"words\" { font 12 }; space share 2; view next# { size = $n }",
    "image cell# { natural ($s, $s); width <= $n }",
];

/// Lines in a band, about a view.
const CHANGES: [&str; 8] = [
    "in $o { tall: height = $n }",
    "in $o { width = $x$l }",
    "in $o { tall: height = $s; width >= $s }",
    "hide $o",
    "hide $o, keep space",
    "in $o { depth 2 }",
    "each $o { width <= $n }",
    "let margin = $n",
];

/// Lines about the screen.
const WHOLE: [&str; 15] = [
    "design ($s0, $s0)",
    "design ($s0, $s0), blend $p",
    "claim $o inside safe for screen.width 200..900",
    "claim $o clear of $o by $n",
    "claim $o.width same",
    "drawing \"390x844, insets 0 20 0 10\" { $o = ($n, $n, $n, $n) }",
    "expect on \"390x844\" { $o = ($n, $n, $n, $n) }",
    "expect on \"tablet, right to left\", within 2 { $o.top = $n }",
    "accept overlap: $v, $v \"on purpose\"",
    "accept outside: $v \"hangs out\"",
    "spread across $a in screen",
    "spread down $a",
    "guide cols# { columns 4, margin $s, gutter $s }",
    "language fi",
    "part tag#(by = 4) { view tag { size = by * 3; top = parent.top; left = parent.left } }; view holder# { use tag#(by = $n); size = $n }",
];

/// A screen file, and the names of its views.
pub fn screen_file(picks: &mut Picks<'_>) -> (String, Vec<String>) {
    let mut file = Writer { picks, out: String::new(), views: Vec::new(), lines: 0 };
    let count = 1 + file.picks.of(7);
    // Who is in whom: each is in the screen, or in one before it.
    let mut parents: Vec<Option<usize>> = Vec::new();
    for at in 0..count {
        let within = file.picks.of(at + 3);
        let parent = Some(within).filter(|&within| within < at);
        parents.push(parent);
        let name = ["head", "list", "card", "note", "icon", "foot", "side"][at];
        let path = parent.map_or(name.to_owned(), |around| format!("{}.{name}", file.views[around]));
        file.views.push(path);
    }
    file.out.push_str("screen random {\n    ladder fit > rhythm > polish\n    let margin = 16\n    param rail = 120 in 60..300\n");
    file.out.push_str("    band wide: screen.width >= 600\n    band low: screen.height < 500 or touch\n    state menu: closed, open\n");
    for at in (0..count).filter(|&at| parents[at].is_none()) {
        file.view(at, &parents, 1);
    }
    for band in ["wide", "low", "menu.open"] {
        if file.picks.rarely(3) {
            let _ = writeln!(file.out, "    when {band} {{");
            for _ in 0..=file.picks.of(2) {
                file.line(&CHANGES, 2);
            }
            file.out.push_str("    }\n");
        }
    }
    for _ in 0..file.picks.of(4) {
        file.line(&WHOLE, 1);
    }
    file.out.push_str("}\n");
    (file.out, file.views)
}

struct Writer<'p, 'b> {
    picks: &'p mut Picks<'b>,
    out: String,
    views: Vec<String>,
    /// How many there are, to tell their views apart.
    lines: usize,
}

impl Writer<'_, '_> {
    fn view(&mut self, at: usize, parents: &[Option<usize>], depth: usize) {
        let indent = "    ".repeat(depth);
        let name = self.views[at].rsplit('.').next().unwrap_or_default().to_owned();
        let children: Vec<usize> = (0..parents.len()).filter(|&child| parents[child] == Some(at)).collect();
        let kind = if children.is_empty() { self.picks.of(4) } else { 0 };
        let _ = match kind {
            2 => writeln!(
                self.out,
                "{indent}text {name} \"The boat to the outer islands\" {{\n{indent}    font 16"
            ),
            3 => writeln!(self.out, "{indent}image {name} {{\n{indent}    natural (64, 40)"),
            _ => writeln!(self.out, "{indent}view {name} {{"),
        };
        for _ in 0..2 + self.picks.of(4) {
            self.line(&LINES, depth + 1);
        }
        if kind == 0 && self.picks.rarely(2) {
            self.line(&HOLDERS, depth + 1);
            for _ in 0..self.picks.of(3) {
                self.line(&CHILDREN, depth + 1);
            }
        }
        for child in children {
            self.view(child, parents, depth + 1);
        }
        let _ = writeln!(self.out, "{indent}}}");
    }

    fn line(&mut self, of: &[&str], depth: usize) {
        let line = self.picks.one(of);
        self.lines += 1;
        let line = self.filled(line, 0).replace('#', &self.lines.to_string());
        let _ = writeln!(self.out, "{}{line}", "    ".repeat(depth));
    }

    /// A template with all that it leaves open.
    fn filled(&mut self, template: &str, depth: usize) -> String {
        let mut out = String::new();
        let mut rest = template;
        while let Some(at) = rest.find('$') {
            out.push_str(&rest[..at]);
            let braced = rest[at + 1..].starts_with('{');
            let letter = rest[at + 1..].chars().find(char::is_ascii_alphabetic).unwrap_or('n');
            rest = &rest[at + if braced { 4 } else { 2 }..];
            let with = match letter {
                'x' => self.sum(&ACROSS, depth),
                'y' => self.sum(&DOWN, depth),
                'n' if self.picks.rarely(16) => self.picks.one(&ODD).to_owned(),
                'n' | 's' => self.picks.one(&SIZES).to_owned(),
                'v' => self.other(),
                'a' => self.several(),
                'p' => format!("{}%", self.picks.one(&["0", "25", "50", "100", "12.5"])),
                'o' => format!("screen.{}", self.other()),
                'b' => match self.picks.of(5) {
                    0 => "screen".to_owned(),
                    1 => "safe".to_owned(),
                    2 => format!("screen.{}", self.other()),
                    _ => "parent".to_owned(),
                },
                'l' => match self.picks.of(5) {
                    0 => format!(" ~ {}", self.picks.one(&LEVELS)),
                    1 => format!(
                        " ~ {} weight {}",
                        self.picks.one(&LEVELS),
                        self.picks.one(&["0.5", "2", "1000"])
                    ),
                    _ => String::new(),
                },
                _ => self.picks.one(&["clip", "show", "scale"]).to_owned(),
            };
            out.push_str(&with);
        }
        out + rest
    }

    /// Two views or more, each once.
    fn several(&mut self) -> String {
        let paths: Vec<String> = self.views.iter().map(|path| format!("screen.{path}")).collect();
        let from = self.picks.of(paths.len());
        paths[from.min(paths.len().saturating_sub(2))..].join(", ")
    }

    fn other(&mut self) -> String {
        let at = self.picks.of(self.views.len());
        self.views[at].clone()
    }

    fn sum(&mut self, of: &[&str], depth: usize) -> String {
        let term = self.picks.one(of);
        let term = self.filled(term, depth + 1);
        let number = self.picks.one(&SIZES);
        match self.picks.of(if depth > 2 { 4 } else { 6 }) {
            0 => term,
            1 => format!("{number}% of {term}"),
            2 => format!("{term} - {number}"),
            3 => format!("{term} + margin"),
            4 => format!("{term} / 2 + {}", self.sum(of, depth + 1)),
            _ => format!("max({term}, {})", self.sum(of, depth + 1)),
        }
    }
}
