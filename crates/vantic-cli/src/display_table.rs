//! A table of the displays that were looked at: a row each, a column for each way in which it was tried.

use crate::output::{lines, room, table};
use std::collections::HashMap;
use vantic::check::Report;
use vantic::display::variations;
use vantic::finding::Severity;
use vantic::model::Screen;
use vantic::plan::Placement;

/// How many columns a table has at most: further ways are reported together.
const MAX_COLUMNS: usize = 6;

/// The widest mark of a display: `12 err, 12 warn`.
const WIDEST_MARK: usize = 15;

/// How many rows a table has at most.
const MAX_ROWS: usize = 40;

/// Which errors and warnings there are on each display, by their places in the report.
struct Counts<'a> {
    on: HashMap<&'a str, [Vec<usize>; 2]>,
    findings: usize,
}

impl<'a> Counts<'a> {
    fn of(report: &'a Report) -> Self {
        let mut on: HashMap<&str, [Vec<usize>; 2]> = HashMap::new();
        for (index, finding) in report.findings.iter().enumerate().filter(|(_, f)| f.accepted.is_none()) {
            let place = match finding.severity {
                Severity::Error => 0,
                Severity::Warning => 1,
                Severity::Note => continue,
            };
            for display in report.names_of(finding) {
                on.entry(display).or_default()[place].push(index);
            }
        }
        Self { on, findings: report.findings.len() }
    }

    fn is_clean(&self, placement: &Placement) -> bool {
        !self.on.contains_key(placement.display.name())
    }

    /// How displays came out: `-` where they are clean, else how many errors and warnings there are.
    fn mark(&self, placements: &[&Placement]) -> String {
        let mut is_here = vec![false; self.findings];
        let mut count = |place: usize| {
            let here = placements.iter().filter_map(|p| self.on.get(p.display.name()));
            let all = here.flat_map(|counts| &counts[place]);
            all.filter(|&&index| !std::mem::replace(&mut is_here[index], true)).count()
        };
        match (count(0), count(1)) {
            (0, 0) => "-".to_owned(),
            (errors, 0) => format!("{errors} err"),
            (0, warnings) => format!("{warnings} warn"),
            (errors, warnings) => format!("{errors} err, {warnings} warn"),
        }
    }
}

/// The table, where more than one display was looked at and not all are clean; `always` where they are, too.
pub(crate) fn overview(screen: &Screen, report: &Report, always: bool) -> String {
    let counts = Counts::of(report);
    if report.placements.len() < 2 || !always && report.placements.iter().all(|p| counts.is_clean(p)) {
        return String::new();
    }
    // The displays, and for each the ways in which it was tried, both in order of appearance.
    let mut ways: Vec<String> = Vec::new();
    let mut tried: Vec<(&str, Vec<(usize, &Placement)>)> = Vec::new();
    let (mut way_at, mut display_at) = (HashMap::new(), HashMap::new());
    for p in &report.placements {
        let way = match variations(&p.display, screen).join(", ") {
            plain if plain.is_empty() => "default".to_owned(),
            way => way,
        };
        let way = *way_at.entry(way).or_insert_with_key(|way: &String| {
            ways.push(way.clone());
            ways.len() - 1
        });
        let name = p.display.name().split(',').next().unwrap_or_default();
        let display = *display_at.entry(name).or_insert_with(|| {
            tried.push((name, Vec::new()));
            tried.len() - 1
        });
        tried[display].1.push((way, p));
    }
    let names = tried.iter().map(|(name, _)| name.chars().count()).max().unwrap_or_default();
    let width = ways.iter().map(|way| way.chars().count().max(WIDEST_MARK) + 2).sum::<usize>() + names + 2;
    let together = ways.len() > MAX_COLUMNS || width > room();
    let header: Vec<&str> = match (together, ways.as_slice()) {
        (true, _) => vec!["display", "worst", "clean"],
        (false, [_]) => vec!["display", "found"],
        (false, ways) => std::iter::once("display").chain(ways.iter().map(String::as_str)).collect(),
    };
    let mut rows = table(&header);
    let mut clean = 0;
    let mut shown = 0;
    for (name, here) in &tried {
        let all: Vec<&Placement> = here.iter().map(|(_, p)| *p).collect();
        if all.iter().all(|p| counts.is_clean(p)) && !always {
            clean += 1;
            continue;
        }
        shown += 1;
        if shown > MAX_ROWS {
            continue;
        }
        let mut row = vec![(*name).to_owned()];
        if together {
            row.push(counts.mark(&all));
            row.push(format!("{} of {}", all.iter().filter(|p| counts.is_clean(p)).count(), all.len()));
        } else {
            row.extend((0..ways.len()).map(|way| {
                let one: Vec<&Placement> =
                    here.iter().filter(|(of, _)| *of == way).map(|(_, p)| *p).collect();
                if one.is_empty() { String::new() } else { counts.mark(&one) }
            }));
        }
        rows.add_row(row);
    }
    let mut out = lines(&rows, 0);
    if shown > MAX_ROWS {
        out += &format!(" and {} more\n", shown - MAX_ROWS);
    }
    if clean > 0 {
        out += &format!(" and {clean} more, clean\n");
    }
    out + "\n"
}
