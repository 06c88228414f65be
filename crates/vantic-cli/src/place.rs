//! `vantic place`.

use crate::Verdict;
use crate::args::{Format, PlaceArgs};
use crate::input::{displays, load};
use crate::output::{BOLD, FAINT, RED, frame, lines, print, print_json, table};
use anyhow::Result;
use vantic::{NamedPlacement, Placement, Screen, number};
use vantic_draw::FontText;

/// How many displays stand side by side in one table.
const SIDE_BY_SIDE: usize = 3;

/// What machines get.
#[derive(serde::Serialize)]
struct Output<'a> {
    screen: &'a str,
    placements: Vec<NamedPlacement<'a>>,
}

pub(crate) fn run(args: &PlaceArgs) -> Result<Verdict> {
    let loaded = load(&args.file)?;
    let screen = loaded.plan.screen();
    let fonts = FontText::new();
    let placements: Vec<Placement> = displays(&args.displays)?
        .iter()
        .map(|display| loaded.plan.place(display, &fonts))
        .collect::<Result<_, _>>()?;
    if args.format == Format::Json {
        let named: Vec<_> = placements.iter().map(|p| p.named(screen)).collect();
        print_json(&Output { screen: screen.name(), placements: named })?;
    } else {
        let mut out = format!(
            "{BOLD}{}{BOLD:#}: left, top, width x height in logical pixels, from the screen's top left corner\n\n",
            screen.name()
        );
        for side_by_side in placements.chunks(SIDE_BY_SIDE) {
            out += &frames(screen, side_by_side);
            out.push('\n');
        }
        out += &gave_way(screen, &placements);
        print(&out)?;
    }
    let broken = placements.iter().any(|p| !p.broken.is_empty());
    Ok(if broken { Verdict::Findings } else { Verdict::Clean })
}

/// A table of frames: a row a view, a column a display.
fn frames(screen: &Screen, placements: &[Placement]) -> String {
    let header: Vec<&str> =
        std::iter::once("view").chain(placements.iter().map(|p| p.display.name())).collect();
    let mut rows = table(&header);
    for (view, _) in screen.views() {
        let mut row = vec![screen.path(view)];
        row.extend(placements.iter().map(|p| {
            let Some(at) = p.frame(view) else { return "hidden".to_owned() };
            let unpainted = if p.is_painted(view) { "" } else { " (not painted)" };
            format!("{}{unpainted}", frame(&at))
        }));
        rows.add_row(row);
    }
    lines(&rows, 0)
}

/// What gave way and what is broken, a line each.
fn gave_way(screen: &Screen, placements: &[Placement]) -> String {
    let mut out = String::new();
    for p in placements {
        for m in &p.broken {
            let (name, by) = (m.rule.name(screen), number(m.by));
            out += &format!("{RED}broken{RED:#}  {name} by {by} on {}\n", p.display.name());
        }
        for m in p.missed.iter().filter(|m| matches!(m.rule, vantic::RuleRef::Written { .. })) {
            let (name, by, level) =
                (m.rule.name(screen), number(m.by), m.rule.level(screen).unwrap_or("must"));
            out += &format!("{FAINT}gave way{FAINT:#}  {name} ({level}) by {by} on {}\n", p.display.name());
        }
    }
    out
}
