//! A table of the displays that were looked at: a row each, a column for each way in which it was tried.

use crate::output::{lines, table};
use vantic::{Placement, Report, Screen, Severity};

/// How many columns a table has at most: further ways are told together.
const MAX_COLUMNS: usize = 6;

/// How many rows a table has at most.
const MAX_ROWS: usize = 40;

/// How a display came out: `-` where it is clean, else how many errors and warnings there are.
fn mark(report: &Report, placements: &[&Placement]) -> String {
    let count = |severity: Severity| {
        let here = report.open().filter(|f| f.severity == severity);
        here.filter(|f| placements.iter().any(|p| f.displays.iter().any(|d| d == p.display.name()))).count()
    };
    match (count(Severity::Error), count(Severity::Warning)) {
        (0, 0) => "-".to_owned(),
        (errors, 0) => format!("{errors} err"),
        (0, warnings) => format!("{warnings} warn"),
        (errors, warnings) => format!("{errors} err, {warnings} warn"),
    }
}

/// The table, where more than one display was looked at and not all are clean; `always` where they are, too.
pub(crate) fn overview(screen: &Screen, report: &Report, always: bool) -> String {
    let is_clean = |p: &&Placement| mark(report, &[p]) == "-";
    if report.placements.len() < 2 || !always && report.placements.iter().all(|p| is_clean(&p)) {
        return String::new();
    }
    // What was tried on each display, and the displays themselves, in order of appearance.
    let (mut ways, mut bases): (Vec<String>, Vec<&str>) = (Vec::new(), Vec::new());
    let base = |p: &'_ Placement| p.display.name().split(',').next().unwrap_or_default().len();
    let way = |p: &Placement| match p.display.ways(screen).join(", ") {
        plain if plain.is_empty() => "as it is".to_owned(),
        way => way,
    };
    for p in &report.placements {
        let name = &p.display.name()[..base(p)];
        if !bases.contains(&name) {
            bases.push(name);
        }
        if !ways.contains(&way(p)) {
            ways.push(way(p));
        }
    }
    let together = ways.len() > MAX_COLUMNS;
    let of = |name: &str, column: Option<&String>| -> Vec<&Placement> {
        let here = report.placements.iter().filter(|p| &p.display.name()[..base(p)] == name);
        here.filter(|p| column.is_none_or(|column| way(p) == *column)).collect()
    };
    let header: Vec<&str> = match (together, ways.as_slice()) {
        (true, _) => vec!["display", "worst", "clean"],
        (false, [_]) => vec!["display", "found"],
        (false, ways) => std::iter::once("display").chain(ways.iter().map(String::as_str)).collect(),
    };
    let mut rows = table(&header);
    let mut clean = 0;
    let mut shown = 0;
    for name in &bases {
        let all = of(name, None);
        if all.iter().all(is_clean) && !always {
            clean += 1;
            continue;
        }
        shown += 1;
        if shown > MAX_ROWS {
            continue;
        }
        let mut row = vec![(*name).to_owned()];
        if together {
            row.push(mark(report, &all));
            row.push(format!("{} of {}", all.iter().filter(|p| is_clean(p)).count(), all.len()));
        } else {
            row.extend(ways.iter().map(|way| match of(name, Some(way)).as_slice() {
                [] => String::new(),
                here => mark(report, here),
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
