//! `vantic show invariants`: what is the same on every display.

use crate::args::{Format, ShowAnyView};
use crate::output::{BOLD, count, fit_terminal, lines, print, print_json, table};
use crate::session::{load, view_of};
use crate::show::one_display::{place_named, placed};
use crate::verdict::Verdict;
use anyhow::Result;
use vantic::geometry::Axis;
use vantic::infer::{Invariant, Measurement, across};
use vantic::model::Screen;
use vantic::words::{millionths, number};

/// A distance or share, for machines.
#[derive(serde::Serialize)]
struct Line {
    view: String,
    what: String,
    same: bool,
    values: Vec<Option<f64>>,
}

fn what(screen: &Screen, of: &Invariant) -> String {
    match of.what {
        Measurement::Distance(side, place) => {
            format!("{} to {}", side.coordinate().spelling(), place_named(screen, place))
        }
        Measurement::Share(Axis::Across) => "share of the width, %".into(),
        Measurement::Share(Axis::Down) => "share of the height, %".into(),
    }
}

/// Which distances and shares are the same everywhere, and which are not.
pub(crate) fn run(args: &ShowAnyView) -> Result<Verdict> {
    let loaded = load(&args.of.screen)?;
    let screen = loaded.plan.screen();
    let placements = placed(&loaded, &args.of)?;
    let only = args.view.as_deref().map(|path| view_of(screen, path)).transpose()?;
    let all = across(screen, &placements, only);
    if args.of.format == Format::Json {
        let line = |of: &Invariant| {
            let values = of.values.iter().map(|v| v.map(millionths)).collect();
            Line { view: screen.path(of.view), what: what(screen, of), same: of.is_same(), values }
        };
        let displays: Vec<&str> = placements.iter().map(|p| p.display.name()).collect();
        let compared: Vec<Line> = all.iter().map(line).collect();
        print_json(&serde_json::json!({ "displays": displays, "compared": compared }))?;
        return Ok(Verdict::Clean);
    }
    let on = count(placements.len(), "display");
    let mut out = format!("{BOLD}Same on {on}{BOLD:#}\n\n");
    let mut rows = table(&["view", "what", "everywhere"]);
    for of in all.iter().filter(|of| of.is_same()) {
        let value = of.range().map_or(String::new(), |((_, least), _)| number(least));
        rows.add_row([screen.path(of.view), what(screen, of), value]);
    }
    out += &lines(&rows, 0);
    out += &format!("\n{BOLD}Different{BOLD:#}\n\n");
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
