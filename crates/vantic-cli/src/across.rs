//! `vantic place --across` and `--bands`: what is the same on every display, and what bands change.

use crate::Verdict;
use crate::args::{Format, PlaceArgs};
use crate::input::{Loaded, view_of};
use crate::output::{BOLD, count, fit_terminal, lines, print, print_json, table};
use crate::ties::place_named;
use anyhow::Result;
use vantic::geometry::Axis;
use vantic::infer::{Across, Compared, across};
use vantic::model::Screen;
use vantic::plan::Placement;
use vantic::words::{millionths, number};

/// A distance or share, for machines.
#[derive(serde::Serialize)]
struct Line {
    view: String,
    what: String,
    same: bool,
    values: Vec<Option<f64>>,
}

fn what(screen: &Screen, of: &Across) -> String {
    match of.what {
        Compared::Distance(side, place) => {
            format!("{} to {}", side.coordinate().spelling(), place_named(screen, place))
        }
        Compared::Share(Axis::Across) => "share of the width, %".into(),
        Compared::Share(Axis::Down) => "share of the height, %".into(),
    }
}

/// Which distances and shares are the same everywhere, and which are not.
pub(crate) fn compared(
    loaded: &Loaded,
    path: &str,
    placements: &[Placement],
    format: Format,
) -> Result<Verdict> {
    let screen = loaded.plan.screen();
    let only = if path.is_empty() { None } else { Some(view_of(screen, path)?) };
    let all = across(screen, placements, only);
    if format == Format::Json {
        let line = |of: &Across| {
            let values = of.values.iter().map(|v| v.map(millionths)).collect();
            Line { view: screen.path(of.view), what: what(screen, of), same: of.is_same(), values }
        };
        let displays: Vec<&str> = placements.iter().map(|p| p.display.name()).collect();
        let compared: Vec<Line> = all.iter().map(line).collect();
        print_json(&serde_json::json!({ "displays": displays, "compared": compared }))?;
        return Ok(Verdict::Clean);
    }
    let on = count(placements.len(), "display");
    let mut out = format!("{BOLD}The same on {on}{BOLD:#}\n\n");
    let mut rows = table(&["view", "what", "everywhere"]);
    for of in all.iter().filter(|of| of.is_same()) {
        let value = of.range().map_or(String::new(), |((_, least), _)| number(least));
        rows.add_row([screen.path(of.view), what(screen, of), value]);
    }
    out += &lines(&rows, 0);
    out += &format!("\n{BOLD}Not the same{BOLD:#}\n\n");
    let mut rows = table(&["view", "what", "least", "on", "most", "on"]);
    fit_terminal(&mut rows);
    for of in all.iter().filter(|of| !of.is_same()) {
        let Some(((at_least, least), (at_most, most))) = of.range() else { continue };
        let name = |at: usize| placements.get(at).map_or(String::new(), |p| p.display.name().to_owned());
        rows.add_row([
            screen.path(of.view),
            what(screen, of),
            number(least),
            name(at_least),
            number(most),
            name(at_most),
        ]);
    }
    print(&(out + &lines(&rows, 0)))?;
    Ok(Verdict::Clean)
}

/// A band, for machines.
#[derive(serde::Serialize)]
struct Banded {
    band: String,
    condition: String,
    /// The file of the base that declares it.
    #[serde(skip_serializing_if = "Option::is_none")]
    from: Option<String>,
    adopted: bool,
    displays: Vec<String>,
    changes: Vec<String>,
}

/// The bands: where each comes from, where it holds, and what it changes.
pub(crate) fn bands(loaded: &Loaded, placements: &[Placement], args: &PlaceArgs) -> Result<Verdict> {
    let screen = loaded.plan.screen();
    let all: Vec<Banded> = (0..screen.bands().len())
        .filter_map(|index| {
            let (id, band) = screen.bands_with_ids().nth(index)?;
            let holds = placements.iter().filter(|p| band.condition().holds(p.canvas()));
            let (from, adopted) = loaded.band_from(id);
            Some(Banded {
                band: band.name().to_owned(),
                condition: band.condition().to_string(),
                from,
                adopted,
                displays: holds.map(|p| p.display.name().to_owned()).collect(),
                changes: screen.changes_in(id),
            })
        })
        .collect();
    if args.format == Format::Json {
        print_json(&all)?;
        return Ok(Verdict::Clean);
    }
    let of = count(placements.len(), "display");
    let mut out = format!("{BOLD}{}{BOLD:#}: {} on {of}\n", screen.name(), count(all.len(), "band"));
    for band in &all {
        let from = match (&band.from, band.adopted) {
            (None, _) => String::new(),
            (Some(file), true) => format!(", from {file}"),
            (Some(file), false) => format!(", from {file}, not adopted"),
        };
        let on = match band.displays.as_slice() {
            [] => "on none of them".to_owned(),
            all if all.len() == placements.len() => "on all of them".to_owned(),
            few if few.len() <= 4 => format!("on {}", few.join("; ")),
            many => format!("on {} of them", many.len()),
        };
        out += &format!("\n{BOLD}{}{BOLD:#}: {}{from}; holds {on}\n", band.band, band.condition);
        if band.changes.is_empty() {
            out += "    changes nothing\n";
        }
        band.changes.iter().for_each(|change| out += &format!("    {change}\n"));
    }
    print(&out)?;
    Ok(Verdict::Clean)
}
