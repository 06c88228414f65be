//! `vantic show distances`: how far a view is from another, or from what is around it.

use crate::args::{Format, ShowViews};
use crate::output::{BOLD, lines, print, print_json, table};
use crate::session::{load, view_of};
use crate::show::one_display::placed;
use crate::verdict::Verdict;
use anyhow::{Result, bail};
use serde_json::{Value, json};
use vantic::infer::distances;
use vantic::words::{millionths, number};

/// How far a view is from another, or from what is around it, on every display.
pub(crate) fn run(args: &ShowViews) -> Result<Verdict> {
    let loaded = load(&args.of.screen)?;
    let screen = loaded.plan.screen();
    let placements = placed(&loaded, &args.of)?;
    let (view, to) = match args.views.as_slice() {
        [one] => (view_of(screen, one)?, None),
        [one, other] => (view_of(screen, one)?, Some(view_of(screen, other)?)),
        _ => bail!("name one view, or two: `vantic show distances FILE header.title header.clock`"),
    };
    let found: Vec<_> =
        placements.iter().map(|p| (p.display.name(), distances(p, screen, view, to))).collect();
    let of = match to.or(screen.view(view).and_then(|v| v.parent())) {
        Some(other) => screen.path(other),
        None => "screen".to_owned(),
    };
    if args.of.format == Format::Json {
        let one = |(on, d): &(&str, Option<vantic::infer::Distances>)| {
            let described = d.map(|d| {
                let [left, top, right, bottom] = d.inside.map(millionths);
                json!({
                    "left": left, "top": top, "right": right, "bottom": bottom,
                    "middle_x": millionths(d.middles.0), "middle_y": millionths(d.middles.1),
                    "apart_x": millionths(d.apart.0), "apart_y": millionths(d.apart.1),
                })
            });
            json!({ "display": on, "distances": described })
        };
        let all: Vec<Value> = found.iter().map(one).collect();
        print_json(&json!({ "screen": screen.name(), "view": screen.path(view), "to": of, "on": all }))?;
        return Ok(Verdict::Clean);
    }
    let mut rows =
        table(&["display", "left", "top", "right", "bottom", "middle x", "middle y", "apart x", "apart y"]);
    for (on, d) in &found {
        let mut row = vec![(*on).to_owned()];
        match d {
            Some(d) => row.extend(
                d.inside.into_iter().chain([d.middles.0, d.middles.1, d.apart.0, d.apart.1]).map(number),
            ),
            None => row.push("hidden".into()),
        }
        rows.add_row(row);
    }
    print(&format!(
        "{BOLD}{}{BOLD:#} from {BOLD}{of}{BOLD:#}: signed distances to its edges; negative means outside. \
         APART is negative where they overlap\n\n{}",
        screen.path(view),
        lines(&rows, 0)
    ))?;
    Ok(Verdict::Clean)
}
