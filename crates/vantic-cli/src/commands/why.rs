//! `vantic why`: the rules that decide a coordinate, and what keeps it from being otherwise.

use crate::args::{Format, WhyArgs};
use crate::output::{BOLD, FAINT, fit_terminal, lines, print, print_json, table};
use crate::progress::stage;
use crate::session::{Loaded, Texts, load, one_of, view_of};
use crate::verdict::Verdict;
use anyhow::{Result, bail};
use serde_json::{Value, json};
use vantic::display::{Display, DisplayQuantity};
use vantic::geometry::Direction;
use vantic::model::{Coordinate, RuleRef, Screen, ViewId};
use vantic::plan::{Missed, Why, WhyNot, WhyPart, Wish};
use vantic::sweep::{Range, sweep};
use vantic::tolerance::COEFFICIENT;
use vantic::words::{millionths, number};

/// What can be asked for.
enum Asked {
    Coordinates(ViewId, Vec<Coordinate>),
    Rule(Vec<RuleRef>),
}

/// The coordinates that are reported of a view.
const ALL: [Coordinate; 4] = [Coordinate::Left, Coordinate::Top, Coordinate::Width, Coordinate::Height];

/// Screens of more views than this are not examined for how long a rate holds.
const STEADY_VIEWS: usize = 400;

/// How many rules that would take over are reported.
const NEXT: usize = 6;

pub(crate) fn run(args: &WhyArgs) -> Result<Verdict> {
    let loaded = load(&args.screen)?;
    let screen = loaded.plan.screen();
    let display = one_of(&args.displays, screen)?;
    let report = WhyReport {
        loaded: &loaded,
        screen,
        display: &display,
        texts: Texts::new(&args.texts),
        format: args.format,
    };
    stage("placing");
    match asked(screen, &args.what)? {
        Asked::Rule(rules) => report.rule(&args.what, &rules),
        Asked::Coordinates(view, coordinates) if args.more || args.less => match coordinates.as_slice() {
            [one] => {
                let wish = if args.less { Wish::Less(view, *one) } else { Wish::More(view, *one) };
                report.otherwise(view, *one, wish)
            }
            _ => bail!("name a coordinate, such as `{}.width`", args.what),
        },
        Asked::Coordinates(view, coordinates) => report.why(view, &coordinates),
    }
}

/// What the words on the command line are about.
fn asked(screen: &Screen, what: &str) -> Result<Asked> {
    if let Some(view) = screen.find(what) {
        return Ok(Asked::Coordinates(view, ALL.to_vec()));
    }
    let rules = screen.rules_called(what);
    if !rules.is_empty() {
        let relations = |id| screen.rule(id).map_or(0, |rule| rule.relations().len());
        let each = |rule| (0..relations(rule)).map(move |relation| RuleRef::Written { rule, relation });
        return Ok(Asked::Rule(rules.into_iter().flat_map(each).collect()));
    }
    let known = |last: &str| {
        Coordinate::SPELLINGS
            .iter()
            .find(|(spelling, c)| *spelling == last && is_explained(*c))
            .map(|(_, c)| *c)
    };
    match what.rsplit_once('.') {
        Some((path, last)) => match known(last) {
            Some(coordinate) => Ok(Asked::Coordinates(view_of(screen, path)?, vec![coordinate])),
            None => {
                let names: Vec<&str> = Coordinate::SPELLINGS
                    .iter()
                    .filter(|(_, c)| is_explained(*c))
                    .map(|(name, _)| *name)
                    .collect();
                match screen.find(path) {
                    Some(_) => bail!(
                        "`{what}` is no coordinate, view or rule of {}; `{path}` has {}",
                        screen.name(),
                        names.join(", ")
                    ),
                    None => view_of(screen, what).map(|view| Asked::Coordinates(view, ALL.to_vec())),
                }
            }
        },
        None if what.contains('#') => {
            let help = "`vantic show rules FILE VIEW` lists the rules of a view";
            bail!("there is no rule `{what}` in {}; {help}", screen.name())
        }
        None => view_of(screen, what).map(|view| Asked::Coordinates(view, ALL.to_vec())),
    }
}

/// Whether it is a place or size of a view that can be asked for.
fn is_explained(coordinate: Coordinate) -> bool {
    use Coordinate::{ContentHeight, ContentWidth, Pixel, ScrolledX, ScrolledY};
    !matches!(coordinate, ContentWidth | ContentHeight | Pixel | ScrolledX | ScrolledY)
}

struct WhyReport<'a> {
    loaded: &'a Loaded,
    screen: &'a Screen,
    display: &'a Display,
    texts: Texts,
    format: Format,
}

impl WhyReport<'_> {
    fn name(&self, view: ViewId, coordinate: Coordinate) -> String {
        self.screen.coordinate_name(view, coordinate)
    }

    fn part(&self, part: &WhyPart) -> String {
        match part {
            WhyPart::Rule(rule) => rule.name(self.screen),
            WhyPart::Display(said) => (*said).to_owned(),
            WhyPart::Words(view, said) => format!("{said} ({})", self.screen.path(*view)),
            WhyPart::Parameter(value) => {
                format!("`{}`", self.screen.values().get(value.index()).map_or("", |value| value.name()))
            }
            WhyPart::Rest => "numbers outside rules".to_owned(),
        }
    }

    fn not_there(&self, what: &str) -> anyhow::Error {
        anyhow::anyhow!(
            "{what} is not there on {}: a band hides it, or another rule applies",
            self.display.name()
        )
    }

    fn why(&self, view: ViewId, coordinates: &[Coordinate]) -> Result<Verdict> {
        let all: Vec<Why> = coordinates
            .iter()
            .map(|&coordinate| {
                let why = self.loaded.plan.why(self.display, &self.texts, view, coordinate)?;
                why.ok_or_else(|| self.not_there(&format!("`{}`", self.screen.path(view))))
            })
            .collect::<Result<_>>()?;
        if self.format == Format::Json {
            let all: Vec<Value> = all.iter().map(|why| self.json(why)).collect();
            print_json(&json!({ "screen": self.screen.name(), "display": self.display.name(), "why": all }))?;
            return Ok(Verdict::Clean);
        }
        let all: Vec<String> = all.iter().map(|why| self.text(why)).collect();
        print(&all.join("\n"))?;
        Ok(Verdict::Clean)
    }

    fn line(&self, rule: RuleRef) -> String {
        match self.loaded.line(rule) {
            Some((line, Some(base))) => format!("{line} of {base}"),
            Some((line, None)) => line.to_string(),
            None => String::new(),
        }
    }

    fn text(&self, why: &Why) -> String {
        let mut out = format!(
            "{BOLD}{}{BOLD:#} is {} on {}\n\n",
            self.name(why.view, why.coordinate),
            number(why.value),
            self.display.name()
        );
        let mut rows = table(&["what", "is", "because", "line", "rule"]);
        fit_terminal(&mut rows);
        for step in &why.steps {
            let (line, rule) = match step.by {
                vantic::plan::HeldBy::Rule(rule) => (self.line(rule), rule.name(self.screen)),
                _ => (String::new(), String::new()),
            };
            let said = match step.by {
                vantic::plan::HeldBy::Rule(rule) => match rule.level(self.screen) {
                    Some(level) => format!("{} ~ {level}", step.said),
                    None => step.said.clone(),
                },
                _ => step.said.clone(),
            };
            rows.add_row([self.name(step.of.0, step.of.1), number(step.value), said, line, rule]);
        }
        out += &lines(&rows, 2);
        out += &format!("\n{FAINT}sum{FAINT:#}\n");
        let mut rows = table(&["", "", ""]);
        for (index, (amount, part)) in why.parts.iter().enumerate() {
            let sign = match (index, *amount < 0.0) {
                (_, true) => "-",
                (0, false) => "",
                _ => "+",
            };
            rows.add_row([sign.to_owned(), number(amount.abs()), self.share(why, part)]);
        }
        rows.add_row(["=".to_owned(), number(why.value), self.name(why.view, why.coordinate)]);
        out += &lines(&rows, 2).lines().skip(1).map(|l| format!("{l}\n")).collect::<String>();
        out += &self.changes(why);
        let mut rows = table(&["next limit after", "meaning", "line", "rule"]);
        fit_terminal(&mut rows);
        for next in why.next.iter().take(NEXT) {
            let way = if next.away > 0.0 { "more" } else { "less" };
            let away = format!("{} {way}", number(next.away.abs()));
            rows.add_row([
                away,
                self.loaded.rule_text(next.rule),
                self.line(next.rule),
                next.rule.name(self.screen),
            ]);
        }
        if !why.next.is_empty() {
            out += &format!("\n{}", lines(&rows, 2));
        }
        if why.next.len() > NEXT {
            out += &format!("  ... and {} further away\n", why.next.len() - NEXT);
        }
        for missed in &why.missed {
            out += &format!(
                "\n  {FAINT}gave way:{FAINT:#} {} by {}\n",
                self.rule_line(missed.rule),
                number(missed.by)
            );
        }
        out
    }

    /// A part of a sum, and how much of it counts where that is not all.
    fn share(&self, why: &Why, part: &WhyPart) -> String {
        let whole = |c: &&vantic::plan::WhyChange| c.of == *part && c.number.is_none();
        let counts = why.changes.iter().find(whole).map_or(1.0, |c| c.moves.abs());
        let part = self.part(part);
        if (counts - 1.0).abs() < COEFFICIENT { part } else { format!("{} of {part}", number(counts)) }
    }

    /// What one more of each number would do.
    fn changes(&self, why: &Why) -> String {
        let mut rows = table(&["+1 to", "changes it by"]);
        let mut width = false;
        for change in &why.changes {
            width |= matches!(change.of, WhyPart::Display("the width of the display"));
            let of = match change.number {
                // As it stands in the file.
                Some(amount) => format!("the {} in {}", millionths(amount), self.part(&change.of)),
                None => self.part(&change.of),
            };
            rows.add_row([of, number(change.moves)]);
        }
        if !width {
            rows.add_row(["the width of the display", "nothing"]);
        }
        let mut out = format!("\n{}", lines(&rows, 2));
        if let Some([from, to]) = self.steady(why) {
            let (from, to) = (number(from), number(to));
            out += &format!("   {FAINT}valid for widths {from} to {to}{FAINT:#}\n");
        }
        out
    }

    /// Between which widths one more of the width moves it as it does here, looked for from half the width to
    /// twice as much.
    fn steady(&self, why: &Why) -> Option<[f64; 2]> {
        if self.screen.views().count() > STEADY_VIEWS {
            return None;
        }
        let width = self.display.width();
        let range = Range { along: DisplayQuantity::Width, from: 0.5 * width, to: 2.0 * width, gap: 0.0 };
        let swept = sweep(&self.loaded.plan, self.display, range, &self.texts).ok()?;
        let coordinate = match (why.coordinate, self.display.direction()) {
            (Coordinate::Start, Direction::LeftToRight) => Coordinate::Left,
            (Coordinate::End, Direction::LeftToRight) => Coordinate::Right,
            (other, _) => other,
        };
        let (from, to) = swept.steady(width, why.view, coordinate)?;
        Some([millionths(from), millionths(to)])
    }

    fn rule_line(&self, rule: RuleRef) -> String {
        let line = match self.line(rule) {
            line if line.is_empty() => String::new(),
            line => format!("line {line}, "),
        };
        // What is no relation is reported in words, with names in them.
        let text = match (rule, self.loaded.rule_text(rule)) {
            (RuleRef::Written { .. }, text) => format!("`{text}`"),
            (_, text) => text,
        };
        format!("{text} ({line}{})", rule.name(self.screen))
    }

    /// What keeps a coordinate from being more or less.
    fn otherwise(&self, view: ViewId, coordinate: Coordinate, wish: Wish) -> Result<Verdict> {
        let name = self.name(view, coordinate);
        let not = self.loaded.plan.why_not(self.display, &self.texts, wish)?;
        let not = not.ok_or_else(|| self.not_there(&format!("`{name}`")))?;
        let way = if matches!(wish, Wish::Less(..)) { "less" } else { "more" };
        if self.format == Format::Json {
            return self.print_not(&json!({ "coordinate": name, "wish": way }), &not);
        }
        print(
            &self
                .not_text(&format!("{BOLD}{name}{BOLD:#} {way} than it is on {}", self.display.name()), &not),
        )?;
        Ok(Verdict::Clean)
    }

    /// What keeps a rule from holding.
    fn rule(&self, name: &str, relations: &[RuleRef]) -> Result<Verdict> {
        let placement = self.loaded.plan.place(self.display, &self.texts)?;
        let counts = |rule: &RuleRef| match rule {
            RuleRef::Written { rule, .. } => placement.rules.contains(rule),
            _ => true,
        };
        if !relations.iter().any(counts) {
            return Err(self.not_there(&format!("the rule `{name}`")));
        }
        let mut missed = placement.missed.iter().chain(&placement.broken).map(|m| m.rule);
        let Some(rule) = missed.find(|m| relations.contains(m)) else {
            match self.format {
                Format::Json => print_json(&json!({ "rule": name, "holds": true }))?,
                Format::Text => print(&format!(
                    "{BOLD}{name}{BOLD:#} holds on {}: {}\n",
                    self.display.name(),
                    relations.iter().map(|&r| self.loaded.rule_text(r)).collect::<Vec<_>>().join("; ")
                ))?,
            }
            return Ok(Verdict::Clean);
        };
        let Some(not) = self.loaded.plan.why_not(self.display, &self.texts, Wish::Hold(rule))? else {
            return Err(self.not_there(&format!("the rule `{name}`")));
        };
        if self.format == Format::Json {
            return self.print_not(&json!({ "rule": name, "holds": false, "by": millionths(not.by) }), &not);
        }
        let title = format!(
            "{BOLD}{name}{BOLD:#}, missed by {} on {}: {}",
            number(not.by),
            self.display.name(),
            self.loaded.rule_text(rule)
        );
        print(&self.not_text(&title, &not))?;
        Ok(Verdict::Clean)
    }

    fn not_text(&self, title: &str, not: &WhyNot) -> String {
        let mut out = format!("{title}\n\n");
        if !not.against.is_empty() {
            out += "  impossible while these required rules hold:\n";
            for &rule in &not.against {
                out += &format!("    {}\n", self.rule_line(rule));
            }
            for &(view, coordinate) in &not.nonnegatives {
                out += &format!("    `{}` cannot be negative\n", self.name(view, coordinate));
            }
            return out;
        }
        if not.costs.is_empty() {
            return out + "  nothing prevents it\n";
        }
        out += "  possible at the cost of:\n";
        for Missed { rule, by } in &not.costs {
            out += &format!("    {} gives way by {} more\n", self.rule_line(*rule), number(*by));
        }
        out
    }

    fn print_not(&self, about: &Value, not: &WhyNot) -> Result<Verdict> {
        let names = |rules: &[RuleRef]| rules.iter().map(|r| r.name(self.screen)).collect::<Vec<_>>();
        let givens: Vec<String> = not.nonnegatives.iter().map(|&(v, c)| self.name(v, c)).collect();
        let costs: Vec<Value> = not
            .costs
            .iter()
            .map(|m| json!({ "rule": m.rule.name(self.screen), "by": millionths(m.by) }))
            .collect();
        print_json(&json!({
            "screen": self.screen.name(), "display": self.display.name(), "about": about,
            "against": names(&not.against), "given": givens, "costs": costs,
        }))?;
        Ok(Verdict::Clean)
    }

    fn json(&self, why: &Why) -> Value {
        let steps: Vec<Value> = why
            .steps
            .iter()
            .map(|step| {
                let rule = match step.by {
                    vantic::plan::HeldBy::Rule(rule) => Some(rule),
                    _ => None,
                };
                json!({
                    "coordinate": self.name(step.of.0, step.of.1),
                    "value": millionths(step.value),
                    "rule": rule.map(|r| r.name(self.screen)),
                    "line": rule.and_then(|r| Some(self.loaded.line(r)?.0)),
                    "said": step.said,
                })
            })
            .collect();
        let parts: Vec<Value> = why
            .parts
            .iter()
            .map(|(amount, part)| json!({ "amount": millionths(*amount), "of": self.part(part) }))
            .collect();
        let changes: Vec<Value> = why
            .changes
            .iter()
            .map(|c| json!({ "of": self.part(&c.of), "number": c.number, "moves": millionths(c.moves) }))
            .collect();
        let next: Vec<Value> = why
            .next
            .iter()
            .map(|n| json!({ "rule": n.rule.name(self.screen), "away": millionths(n.away) }))
            .collect();
        let missed: Vec<Value> = why
            .missed
            .iter()
            .map(|m| json!({ "rule": m.rule.name(self.screen), "by": millionths(m.by) }))
            .collect();
        json!({
            "coordinate": self.name(why.view, why.coordinate), "value": millionths(why.value), "steps": steps,
            "parts": parts, "changes": changes, "steady": self.steady(why), "next": next, "missed": missed,
        })
    }
}
