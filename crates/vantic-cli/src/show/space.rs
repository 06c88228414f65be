//! `vantic show space`: the free space around the children of a view.

use crate::args::{Format, ShowAnyView};
use crate::output::{BOLD, lines, print, print_json, table};
use crate::session::{load, view_of};
use crate::show::one_display::placed;
use crate::verdict::Verdict;
use anyhow::Result;
use serde_json::{Value, json};
use vantic::infer::free_space;
use vantic::words::{millionths, number};

/// How much room is left beyond the children of a view, at each side, and which child is nearest to it.
pub(crate) fn run(args: &ShowAnyView) -> Result<Verdict> {
    let loaded = load(&args.of.screen)?;
    let screen = loaded.plan.screen();
    let placements = placed(&loaded, &args.of)?;
    let path = args.view.as_deref().unwrap_or_default();
    let parent = args.view.as_deref().map(|path| view_of(screen, path)).transpose()?;
    let found: Vec<_> =
        placements.iter().map(|p| (p.display.name(), free_space(p, screen, parent))).collect();
    let sides = ["left", "top", "right", "bottom"];
    if args.of.format == Format::Json {
        let one = |(on, left): &(&str, Option<[(f64, vantic::model::ViewId); 4]>)| {
            let described = left.map(|all| {
                let side = |(side, (room, view)): (&str, (f64, vantic::model::ViewId))| {
                    (side.to_owned(), json!({ "left": millionths(room), "nearest": screen.path(view) }))
                };
                std::iter::zip(sides, all).map(side).collect::<serde_json::Map<_, _>>()
            });
            json!({ "display": on, "sides": described })
        };
        let all: Vec<Value> = found.iter().map(one).collect();
        print_json(&json!({ "screen": screen.name(), "view": path, "on": all }))?;
        return Ok(Verdict::Clean);
    }
    let mut rows = table(&["display", "left", "top", "right", "bottom"]);
    for (on, left) in &found {
        let mut row = vec![(*on).to_owned()];
        match left {
            Some(all) => {
                row.extend(all.map(|(room, view)| format!("{} ({})", number(room), screen.path(view))))
            }
            None => row.push("no children".into()),
        }
        rows.add_row(row);
    }
    let of = if path.is_empty() { "the screen" } else { path };
    print(&format!(
        "{BOLD}{of}{BOLD:#}: free space at each side, and the child nearest to it; children that fill the \
         view are left out\n\n{}",
        lines(&rows, 0)
    ))?;
    Ok(Verdict::Clean)
}
