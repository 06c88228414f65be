//! `vantic show neighbours`: what the sides of a view face.

use crate::args::{Format, ShowView};
use crate::output::{BOLD, lines, print, print_json, table};
use crate::session::load;
use crate::show::one_display::{on_one_display, place_named};
use crate::verdict::Verdict;
use anyhow::Result;
use vantic::infer::neighbours;
use vantic::model::Side;
use vantic::words::number;

const SIDES: [Side; 4] = [Side::Start, Side::End, Side::Top, Side::Bottom];

/// What stands on one side of a view, for machines.
#[derive(serde::Serialize)]
struct Near {
    side: &'static str,
    of: String,
    distance: f64,
    rule: String,
}

/// What the sides of a view stand next to, nearest first.
pub(crate) fn run(args: &ShowView) -> Result<Verdict> {
    let loaded = load(&args.of.screen)?;
    let path = args.view.as_str();
    let (screen, view, placement) = on_one_display(&loaded, path, &args.of)?;
    let all: Vec<Near> = SIDES
        .iter()
        .flat_map(|&side| neighbours(&placement, screen, view, side).into_iter().map(move |n| (side, n)))
        .map(|(side, n)| Near {
            side: side.coordinate().spelling(),
            of: place_named(screen, n.anchor),
            distance: n.distance,
            rule: n.rule,
        })
        .collect();
    if args.of.format == Format::Json {
        print_json(&all)?;
        return Ok(Verdict::Clean);
    }
    let mut rows = table(&["side", "from", "away", "rule"]);
    for n in &all {
        rows.add_row([n.side, &n.of, &number(n.distance), &n.rule]);
    }
    let on = placement.display.name();
    print(&format!(
        "{BOLD}{path}{BOLD:#} on {on}: what each side faces, nearest first\n\n{}",
        lines(&rows, 0)
    ))?;
    Ok(Verdict::Clean)
}
