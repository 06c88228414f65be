//! `vantic check`.

use crate::args::{CheckArgs, DisplayArgs, ReportFormat};
use crate::draw::{Kind, save};
use crate::input::{Loaded, Texts, Unsaid, displays_of, known, load};
use crate::output::{BOLD, FAINT, GREEN, RED, YELLOW, count, print, print_json, wrapped};
use crate::overview::overview;
use crate::{Verdict, formats, mend, room};
use anstyle::Style;
use anyhow::{Context, Result};
use indicatif::{ProgressBar, ProgressStyle};
use std::collections::HashSet;
use std::io::IsTerminal;
use std::path::Path;
use vantic::check::{Checking, Report, check_as};
use vantic::finding::{Finding, Fix, Severity};
use vantic::model::Code;
use vantic::sweep::Proof;
use vantic::text::Measure;
use vantic::words::interval_words;
use vantic_draw::{FontText, Options, draw_display};

/// How many displays a finding names one by one.
const NAMED: usize = 3;

/// How many coordinates that follow from a finding are named one by one.
const FOLLOWS: usize = 4;

/// How many places in the file are named one by one.
const SPOTS: usize = 5;

/// How many findings are shown to people at once.
const SHOWN: usize = 50;

/// What machines get.
#[derive(serde::Serialize)]
struct Output<'a> {
    screen: &'a str,
    /// What tells the file from others, for `--fix 1a@...`.
    as_of: String,
    findings: &'a [Finding],
    /// The claims of the screen that hold.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    proven: Vec<&'a str>,
}

pub(crate) fn run(args: &CheckArgs) -> Result<Verdict> {
    let mut loaded = load(&args.file)?;
    let mut report = looked_at(&loaded, args)?;
    let mut told = String::new();
    if !args.fix.is_empty() {
        (loaded, report, told) = mend::fix(args, loaded, report)?;
    }
    if let Some(folder) = &args.pictures {
        told += &pictures(&loaded, &report, folder)?;
    }
    match args.format {
        ReportFormat::Json => {
            let screen = loaded.plan.screen().name();
            let proven = report.proven.iter().map(|(claim, _)| claim.as_str()).collect();
            print_json(&Output { screen, as_of: loaded.as_of(), findings: &report.findings, proven })?;
        }
        ReportFormat::Sarif => print_json(&formats::sarif(&loaded, &report))?,
        ReportFormat::Junit => print(&formats::junit(&loaded, &report)?)?,
        ReportFormat::Text => {
            let room = if args.room { room::text(&loaded, args, &report)? } else { String::new() };
            print(&(told + &text(&loaded, &report, args.table) + &room))?;
        }
    }
    Ok(if report.has_failed(args.strict) { Verdict::Findings } else { Verdict::Clean })
}

/// A picture of each display that breaks a claim.
fn pictures(loaded: &Loaded, report: &Report, folder: &Path) -> Result<String> {
    let mut told = String::new();
    let fonts = FontText::new();
    for finding in report.open().filter(|f| f.code == Code::Claim) {
        let display = loaded.display_named(&finding.worst, report)?;
        let there = check_as(&loaded.plan, &[display], &fonts, Checking::default())?;
        let Some(picture) = draw_display(loaded.plan.screen(), &there, 0, &fonts, Options::default()) else {
            continue;
        };
        std::fs::create_dir_all(folder).with_context(|| format!("{} could not be made", folder.display()))?;
        let name = finding.worst.replace(|c: char| !c.is_alphanumeric() && c != '.', "-");
        let path = folder.join(format!("{}-{name}.png", finding.views.join("-")));
        save(&picture, Kind::Png, &path)?;
        told += &format!("{FAINT}wrote {}{FAINT:#}\n", path.display());
    }
    Ok(told)
}

/// Checks a screen as the options say, with ways out.
pub(crate) fn looked_at(loaded: &Loaded, args: &CheckArgs) -> Result<Report> {
    let texts = Texts::new(&args.texts);
    let how = Checking { painted: args.painted, ..Checking::default() };
    let mut report = checked(loaded, &args.displays, Unsaid::All, &texts, how)?;
    loaded.name_parts(&mut report.findings);
    if !args.no_ways {
        let known = known(args.displays.own.as_deref())?;
        loaded.mend(&mut report, &texts, Checking { displays: Some(&known), ..how });
    }
    Ok(report)
}

/// Checks a screen on the displays that the options name, with a bar while that takes long.
pub(crate) fn checked(
    loaded: &Loaded,
    args: &DisplayArgs,
    unsaid: Unsaid,
    measure: &dyn Measure,
    how: Checking<'_>,
) -> Result<Report> {
    let known = known(args.own.as_deref())?;
    let displays = displays_of(&known, args, loaded.plan.screen(), unsaid)?;
    let bar = progress(displays.len());
    let step = |looked_at: usize| bar.inc(looked_at as u64);
    let how = Checking { displays: Some(&known), progress: Some(&step), ..how };
    let report = check_as(&loaded.plan, &displays, measure, how)?;
    bar.finish_and_clear();
    Ok(report)
}

/// How many displays take so long that a bar is worth it.
const WORTH_A_BAR: usize = 30;

/// A bar on a terminal, where there are many displays; nothing elsewhere.
fn progress(displays: usize) -> ProgressBar {
    if displays < WORTH_A_BAR || !std::io::stderr().is_terminal() {
        return ProgressBar::hidden();
    }
    let look = ProgressStyle::with_template("{pos} of {len} displays {bar:32.dim} {eta} left");
    ProgressBar::new(displays as u64).with_style(look.unwrap_or_else(|_| ProgressStyle::default_bar()))
}

/// The report for people: the findings, a table of the displays, then a line that sums up.
pub(crate) fn text(loaded: &Loaded, report: &Report, with_table: bool) -> String {
    let mut out = String::new();
    // What goes with another is told there.
    let alone = || report.open().filter(|f| f.goes_with.is_none());
    for finding in alone().take(SHOWN) {
        out += &one(loaded, report, finding);
        out.push('\n');
    }
    let more = alone().count().saturating_sub(SHOWN);
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
    for (claim, proof) in &report.proven {
        out += &format!("{GREEN}proven{GREEN:#} `{claim}`{}\n", sure(*proof));
    }
    let table = overview(loaded.plan.screen(), report, with_table);
    if !table.is_empty() && report.findings.iter().any(|f| f.accepted.is_some()) {
        out.push('\n');
    }
    out += &table;
    out += &summary(loaded, report);
    if let Some(first) = report.open().flat_map(|f| &f.fixes).next() {
        out += &format!(
            "{FAINT}mend it:{FAINT:#} --fix {}@{} makes those edits, --fix all the first of each error and warning; --preview shows them\n",
            first.name,
            loaded.as_of()
        );
    }
    out
}

/// How sure it is that a claim holds, where it is not proven outright.
fn sure(proof: Proof) -> &'static str {
    match proof {
        Proof::Exact => "",
        Proof::Searched => ", every border met, with a few places in between",
        Proof::Sampled => ", in every place that was looked at: things move along a curve there",
    }
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
pub(crate) fn one(loaded: &Loaded, report: &Report, finding: &Finding) -> String {
    let style = colour(finding.severity);
    let (severity, code) = (finding.severity.name(), finding.code.name());
    let mut out = wrapped(&format!("{style}{severity} {code}{style:#}  {}", finding.message), 4);
    out += &rules(loaded, finding);
    for (line, what) in finding.spots.iter().filter_map(|&spot| loaded.spot(spot)).take(SPOTS) {
        out += &format!("    {FAINT}line {line:>3}{FAINT:#}  {what}\n");
    }
    let mut say = |what: &str, words: &str| {
        out += &wrapped(&format!("    {FAINT}{what}:{FAINT:#} {words}"), 10);
    };
    for vantic::finding::PlacedPart { part, place } in &finding.placed {
        say("part", &format!("`{part}`, placed in `{place}`"));
    }
    for name in finding.follows.iter().take(FOLLOWS) {
        let range = finding.ranges.get(name).map_or(String::new(), |&r| format!(", {}", interval_words(r)));
        say("follows", &format!("{name}{range}"));
    }
    if finding.follows.len() > FOLLOWS {
        say("follows", &format!("{} more", finding.follows.len() - FOLLOWS));
    }
    say("on", &where_found(report, finding));
    for Fix { name, text, moves, .. } in &finding.fixes {
        say(name, &format!("{text}; {moves}"));
    }
    let ways = |name: &Option<String>| finding.fixes.iter().any(|f| name.as_ref() == Some(&f.name));
    let goes_with: Vec<&Finding> = report.open().filter(|f| ways(&f.goes_with)).collect();
    for Finding { severity, code, message, .. } in goes_with.iter().take(FOLLOWS) {
        say("mends too", &format!("{} {}: {message}", severity.name(), code.name()));
    }
    if goes_with.len() > FOLLOWS {
        say("mends too", &format!("{} more", goes_with.len() - FOLLOWS));
    }
    if finding.severity != Severity::Note && finding.fixes.is_empty() {
        say("next", &finding.help);
    }
    out
}

/// The rules of a finding as they read, each with its line, level and name.
fn rules(loaded: &Loaded, finding: &Finding) -> String {
    let screen = loaded.plan.screen();
    let mut out = String::new();
    for &part in &finding.parts {
        let text = loaded.rule_text(part);
        let (line, base) = loaded.line(part).unzip();
        let line = line.map_or(String::new(), |l| format!("line {l:>3}"));
        let base = base.flatten().map_or(String::new(), |base| format!(" (in {base})"));
        out += &format!("    {FAINT}{line}{FAINT:#}  {text}  {FAINT}{}{base}{FAINT:#}\n", part.name(screen));
    }
    out
}

/// On which displays a finding is, what they have in common, and whose numbers are told.
fn where_found(report: &Report, finding: &Finding) -> String {
    let names = &finding.displays;
    let worst =
        if finding.varies { format!("; the numbers are those of {}", finding.worst) } else { String::new() };
    // What is expected on a display of its own is told of that one.
    let known: HashSet<&str> = report.placements.iter().map(|p| p.display.name()).collect();
    if known.len() == 1 || names.iter().any(|name| !known.contains(name.as_str())) {
        return names.join(", ");
    }
    let spread = report.spread(finding);
    if names.len() == spread.of {
        return spread.words() + &worst;
    }
    let shown = names.iter().take(NAMED).cloned().collect::<Vec<_>>().join("; ");
    let more =
        if names.len() > NAMED { format!("; and {} more", names.len() - NAMED) } else { String::new() };
    format!("{}: {shown}{more}{worst}", spread.words())
}
