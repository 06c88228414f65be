//! Findings as text for people.

use crate::display_table::overview;
use crate::output::{BOLD, FAINT, GREEN, RED, YELLOW, count, wrapped};
use crate::session::Loaded;
use crate::shown::Paint;
use std::collections::HashSet;
use vantic::check::{LeftOut, Report};
use vantic::finding::{Finding, Fix, Severity};
use vantic::fix::{FINDINGS_FOR_FIXES, MAX_FIXED_FINDINGS};
use vantic::sweep::Proof;
use vantic::words::{interval_words, list, once};

/// How many displays a finding names one by one.
pub(crate) const NAMED: usize = 3;

/// How many coordinates that follow from a finding are named one by one.
pub(crate) const FOLLOWS: usize = 4;

/// How many places in the file are named one by one.
pub(crate) const SPOTS: usize = 5;

/// How many rules of a finding are shown.
const RULES: usize = 40;

/// How many findings are shown to people at once.
pub(crate) const SHOWN: usize = 50;

/// The report for people: the findings, a table of the displays, then a line that sums up.
pub(crate) fn text(loaded: &Loaded, report: &Report, with_table: bool) -> String {
    let mut out = String::new();
    // What goes with another is reported there.
    let alone = || report.open().filter(|f| f.fixed_by.is_none());
    for finding in alone().take(SHOWN) {
        out += &one(loaded, report, finding);
        out.push('\n');
    }
    let more = alone().count().saturating_sub(SHOWN);
    if more > 0 {
        out += &format!("... and {more} more; fix these first, or list them all with --format json\n\n");
    }
    let screen = loaded.plan.screen();
    for finding in report.findings.iter() {
        if let Some(reason) = finding.reason(screen) {
            let has_views = !finding.views.is_empty();
            let about = if has_views { finding.paths(screen) } else { finding.rule_names(screen) };
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
    let table = overview(screen, report, with_table);
    if !table.is_empty() && report.findings.iter().any(|f| f.accepted.is_some()) {
        out.push('\n');
    }
    out += &table;
    out += &summary(loaded, report);
    out += &left_out(&report.left_out, HAS_EFFORT);
    if let Some(first) = report.open().flat_map(|f| &f.fixes).next() {
        out += &format!(
            "{FAINT}fix it:{FAINT:#} --fix {}@{} applies those edits, --fix all those that are sure; --preview \
             only shows them\n",
            first.name,
            loaded.fingerprint()
        );
    }
    out
}

/// What to do where a command that takes `--effort` leaves something out.
pub(crate) const HAS_EFFORT: &str = "--effort 5 looks further, and one display (-d) is less work";

/// What there was no work left for, a line each, and what to do about it unless something better is known.
pub(crate) fn left_out(all: &[LeftOut], usual: &str) -> String {
    let line = |LeftOut { what, looked_at, of, .. }: &LeftOut| {
        let looked = match what.as_str() {
            "displays" => format!("looked in full at {looked_at} of {of} {what}"),
            FINDINGS_FOR_FIXES => format!("looked for fixes of {looked_at} of {of} findings"),
            _ => format!("looked at {looked_at} of {of} {what}"),
        };
        let further = match what.as_str() {
            "scroll positions" => "to look at another one, name it: -d \"tablet, scroll list 240\"",
            FINDINGS_FOR_FIXES if *looked_at >= MAX_FIXED_FINDINGS => "fix some of them and check again",
            _ => usual,
        };
        format!("{YELLOW}left out:{YELLOW:#} {looked}; {further}\n")
    };
    all.iter().map(line).collect()
}

/// How sure it is that a claim holds, where it is not proven outright.
pub(crate) fn sure(proof: Proof) -> &'static str {
    match proof {
        Proof::Exact => "",
        Proof::Searched => ", breakpoints exact, min/max choices sampled",
        Proof::Sampled => ", sampled, not proven: some values follow a curve",
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
        format!("{style}{}{style:#}: {e}, {w}{notes} ({views} on {on})\n", screen.name())
    }
}

pub(crate) fn colour(severity: Severity) -> Paint {
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
    let screen = loaded.plan.screen();
    let mut out = wrapped(&format!("{style}{severity} {code}{style:#}  {}", finding.message(screen)), 4);
    out += &rules(loaded, finding);
    for (line, what) in finding.locations.iter().filter_map(|&spot| loaded.spot(spot)).take(SPOTS) {
        out += &format!("    {FAINT}line {line:>3}{FAINT:#}  {what}\n");
    }
    let mut say = |what: &str, words: &str| {
        out += &wrapped(&format!("    {FAINT}{what}:{FAINT:#} {words}"), 10);
    };
    for vantic::finding::PlacedPart { part, place } in &finding.placed {
        say("part", &format!("`{part}`, placed in `{place}`"));
    }
    for &(view, coordinate) in finding.follows.iter().take(FOLLOWS) {
        let range = finding.range((view, coordinate));
        let range = range.map_or(String::new(), |r| format!(", {}", interval_words(r)));
        say("follows", &(screen.coordinate_name(view, coordinate) + &range));
    }
    if finding.follows.len() > FOLLOWS {
        say("follows", &format!("{} more", finding.follows.len() - FOLLOWS));
    }
    if !finding.copies.is_empty() {
        // Of two views, one may be the same in all copies.
        let views = finding.copies.iter().flat_map(|copy| &copy.views);
        let others = views.filter(|view| !finding.views.contains(view)).map(|&view| screen.path(view));
        say("same of", &list(&once(others)));
    }
    say("on", &where_found(report, finding));
    for Fix { name, text, sureness, reason, becomes, moves, .. } in &finding.fixes {
        say(name, text);
        let effects = [reason, becomes, moves].into_iter().filter(|what| !what.is_empty());
        let effects: Vec<&str> = effects.map(String::as_str).collect();
        say(&format!("    {}", sureness.name()), &effects.join("; "));
    }
    let ways = |name: &Option<String>| finding.fixes.iter().any(|f| name.as_ref() == Some(&f.name));
    let fixed_by: Vec<&Finding> = report.open().filter(|f| ways(&f.fixed_by)).collect();
    for other in fixed_by.iter().take(FOLLOWS) {
        let (severity, code) = (other.severity.name(), other.code.name());
        say("also fixes", &format!("{severity} {code}: {}", other.message(screen)));
    }
    if fixed_by.len() > FOLLOWS {
        say("also fixes", &format!("{} more", fixed_by.len() - FOLLOWS));
    }
    if finding.severity != Severity::Note && finding.fixes.is_empty() {
        say("next", &finding.help(screen));
        if finding.tried > 0 && finding.fixed_by.is_none() {
            let tried = finding.tried;
            let about = finding.coordinates.first().map(|&(view, of)| screen.coordinate_name(view, of));
            let about = about.or_else(|| finding.views.first().map(|&view| screen.path(view)));
            let why =
                about.map_or(String::new(), |of| format!("; `vantic why FILE {of}` shows what decides it"));
            let more = match finding.untried {
                0 => String::new(),
                more => format!("; {more} more were not tried (--effort 5 goes on)"),
            };
            say(
                "no fix",
                &format!(
                    "none of the {tried} changes tried fixes it and leaves the rest as it is{more}{why}"
                ),
            );
            if let Some(nearest) = &finding.nearest {
                say("nearest", nearest);
            }
        }
    }
    out
}

/// The rules of a finding as they read, each with its line, level and name; of very many, the first.
fn rules(loaded: &Loaded, finding: &Finding) -> String {
    let screen = loaded.plan.screen();
    let mut lines: Vec<String> = Vec::new();
    for &part in finding.rules.iter().take(RULES) {
        let text = loaded.rule_text(part);
        let (line, base) = loaded.line(part).unzip();
        let line = line.map_or(String::new(), |l| format!("line {l:>3}"));
        let base = base.flatten().map_or(String::new(), |base| format!(" (in {base})"));
        let line =
            format!("    {FAINT}{line}{FAINT:#}  {text}  {FAINT}{}{base}{FAINT:#}\n", part.name(screen));
        // Relations of one rule may read alike.
        if !lines.contains(&line) {
            lines.push(line);
        }
    }
    let more = finding.rules.len().saturating_sub(RULES);
    if more > 0 {
        lines.push(format!("    {FAINT}and {more} more rules; --format json lists them{FAINT:#}\n"));
    }
    lines.concat()
}

/// On which displays a finding is, what they have in common, and whose numbers are reported.
pub(crate) fn where_found(report: &Report, finding: &Finding) -> String {
    let names: Vec<&str> = report.names_of(finding).collect();
    let worst = finding.worst.filter(|_| finding.varies);
    let worst =
        worst.map_or_else(String::new, |on| format!("; values shown for `{}`", report.display_name(on)));
    let shown = names.iter().take(NAMED).copied().collect::<Vec<_>>().join("; ");
    let more = match names.len().saturating_sub(NAMED) {
        0 => String::new(),
        more => format!("; and {more} more"),
    };
    // What is found on a display of its own, with a keyboard or as an expectation names it, is reported of
    // that one.
    let known: HashSet<&str> = report.placements.iter().map(|p| p.display.name()).collect();
    if known.len() == 1 || names.iter().any(|name| !known.contains(name)) {
        let worst = if names.len() > 1 { worst.as_str() } else { "" };
        return format!("{shown}{more}{worst}");
    }
    let spread = report.spread(finding);
    if names.len() == spread.of {
        return spread.words() + &worst;
    }
    format!("{}: {shown}{more}{worst}", spread.words())
}
