//! `vantic check`.

use crate::Verdict;
use crate::args::{CheckArgs, Format};
use crate::input::{Loaded, Texts, displays, load};
use crate::output::{BOLD, FAINT, GREEN, RED, YELLOW, count, print, print_json, wrapped};
use anstyle::Style;
use anyhow::Result;
use vantic::{Finding, Report, RuleRef, Severity, check, check_painted, interval_words};

/// How many displays a finding names one by one.
const NAMED: usize = 4;

/// How many coordinates that follow from a finding are named one by one.
const FOLLOWS: usize = 4;

/// How many findings are shown to people at once.
const SHOWN: usize = 50;

/// What machines get.
#[derive(serde::Serialize)]
struct Output<'a> {
    screen: &'a str,
    findings: &'a [Finding],
}

pub(crate) fn run(args: &CheckArgs) -> Result<Verdict> {
    let loaded = load(&args.file)?;
    let look = if args.painted { check_painted } else { check };
    let mut report =
        look(&loaded.plan, &displays(&args.displays, loaded.plan.screen())?, &Texts::new(&args.texts))?;
    loaded.name_parts(&mut report.findings);
    if args.format == Format::Json {
        let screen = loaded.plan.screen().name();
        print_json(&Output { screen, findings: &report.findings })?;
    } else {
        print(&text(&loaded, &report))?;
    }
    Ok(if report.has_failed(args.strict) { Verdict::Findings } else { Verdict::Clean })
}

/// The report for people: the findings, then a line that sums up.
pub(crate) fn text(loaded: &Loaded, report: &Report) -> String {
    let mut out = String::new();
    for finding in report.open().take(SHOWN) {
        out += &one(loaded, finding, report.placements.len());
        out.push('\n');
    }
    let more = report.open().count().saturating_sub(SHOWN);
    if more > 0 {
        out += &format!("... and {more} more; mend these first, or read them all with --format json\n\n");
    }
    for finding in report.findings.iter() {
        if let Some(reason) = &finding.accepted {
            let about = if finding.views.is_empty() { &finding.rules } else { &finding.views };
            out += &format!(
                "{FAINT}accepted{FAINT:#} {}: {} \"{reason}\"\n",
                finding.code.name(),
                about.join(", ")
            );
        }
    }
    out + &summary(loaded, report)
}

/// How many findings of which severity, on how many displays.
pub(crate) fn summary(loaded: &Loaded, report: &Report) -> String {
    let number_of = |s| report.open().filter(|f| f.severity == s).count();
    let (errors, warnings) = (number_of(Severity::Error), number_of(Severity::Warning));
    let screen = loaded.plan.screen();
    let on = count(report.placements.len(), "display");
    let views = count(screen.views().count(), "view");
    let notes = match number_of(Severity::Note) {
        0 => String::new(),
        n => format!(", {}", count(n, "note")),
    };
    if errors + warnings == 0 {
        format!("{GREEN}clean{GREEN:#} {BOLD}{}{BOLD:#}: {views} on {on}{notes}\n", screen.name())
    } else {
        let (e, w) = (count(errors, "error"), count(warnings, "warning"));
        let style = if errors > 0 { RED } else { YELLOW };
        format!(
            "{style}not clean{style:#} {BOLD}{}{BOLD:#}: {e}, {w}{notes}; {views} on {on}\n",
            screen.name()
        )
    }
}

fn colour(severity: Severity) -> Style {
    match severity {
        Severity::Error => RED,
        Severity::Warning => YELLOW,
        Severity::Note => FAINT,
    }
}

/// One finding: what is wrong, the rules, where, and what to do next.
pub(crate) fn one(loaded: &Loaded, finding: &Finding, displays: usize) -> String {
    let style = colour(finding.severity);
    let (severity, code) = (finding.severity.name(), finding.code.name());
    let mut out = wrapped(&format!("{style}{severity} {code}{style:#}  {}", finding.message), 4);
    out += &rules(loaded, finding);
    let mut say = |what: &str, words: &str| {
        out += &wrapped(&format!("    {FAINT}{what}:{FAINT:#} {words}"), 10);
    };
    for vantic::PlacedPart { part, place } in &finding.placed {
        say("part", &format!("`{part}`, placed in `{place}`"));
    }
    for name in finding.follows.iter().take(FOLLOWS) {
        let range = finding.ranges.get(name).map_or(String::new(), |&r| format!(", {}", interval_words(r)));
        say("follows", &format!("{name}{range}"));
    }
    if finding.follows.len() > FOLLOWS {
        say("follows", &format!("{} more", finding.follows.len() - FOLLOWS));
    }
    say("on", &where_found(finding, displays));
    if finding.severity != Severity::Note {
        say("next", &finding.help);
    }
    out
}

/// The rules of a finding as they read, each with its line, level and name.
fn rules(loaded: &Loaded, finding: &Finding) -> String {
    let screen = loaded.plan.screen();
    let mut out = String::new();
    for &part in &finding.parts {
        let text = match part {
            RuleRef::Written { rule, relation } => {
                let Some(rule) = screen.rule(rule) else { continue };
                let Some(relation) = rule.relations().get(relation) else { continue };
                screen.relation_text(relation, rule.owner())
            }
            built_in => screen.sentence(built_in),
        };
        let level = part.level(screen).map_or(String::new(), |l| format!(" ~ {l}"));
        let line = loaded.line(part).map_or(String::new(), |l| format!("line {l:>3}"));
        out += &format!("    {FAINT}{line}{FAINT:#}  {text}{level}  {FAINT}{}{FAINT:#}\n", part.name(screen));
    }
    out
}

fn where_found(finding: &Finding, displays: usize) -> String {
    let names = &finding.displays;
    let worst =
        if finding.varies { format!("; the numbers are those of {}", finding.worst) } else { String::new() };
    if names.len() == displays && displays > 1 {
        return format!("all {displays} displays{worst}");
    }
    let shown = names.iter().take(NAMED).cloned().collect::<Vec<_>>().join(", ");
    match names.len() {
        n if n > NAMED => format!("{shown} and {} more ({n} of {displays}){worst}", n - NAMED),
        n if displays > 1 => format!("{shown} ({n} of {displays}){worst}"),
        _ => shown,
    }
}
