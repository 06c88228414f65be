//! `vantic place`.

use crate::args::{Format, PlaceArgs};
use crate::output::{BOLD, FAINT, RED, YELLOW, count, lines, print, print_json, table};
use crate::session::{Defaults, SharedWork, Texts, displays, displays_left_out, load, too_many_displays};
use crate::verdict::Verdict;
use anyhow::Result;
use vantic::files::to_expectations;
use vantic::model::{Division, Paint, RuleRef, Screen, VisibleSpares};
use vantic::plan::{NamedPlacement, Placement};
use vantic::words::{amount, number};

/// How many displays stand side by side in one table.
const SIDE_BY_SIDE: usize = 3;

/// How many underconstrained coordinates are named on one display; the rest are counted.
const MAX_OPEN: usize = 8;

/// What machines get.
#[derive(serde::Serialize)]
struct Output<'a> {
    screen: &'a str,
    placements: Vec<NamedOpen<'a>>,
    /// The displays for which there was no work left.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    left_out: Vec<&'a str>,
}

/// A placement, and what no rule decides of it.
#[derive(serde::Serialize)]
struct NamedOpen<'a> {
    #[serde(flatten)]
    placement: NamedPlacement<'a>,
    #[serde(skip_serializing_if = "Vec::is_empty")]
    underconstrained: &'a Vec<String>,
}

pub(crate) fn run(args: &PlaceArgs) -> Result<Verdict> {
    let loaded = load(&args.screen)?;
    let screen = loaded.plan.screen();
    let texts = Texts::new(&args.texts);
    let (mut placements, mut open) = (Vec::new(), Vec::new());
    let all = displays(&args.displays, screen, Defaults::First)?;
    let (mut work, views) = (SharedWork::new(), screen.views().count());
    for display in &all {
        let examined = work.run(views, || Ok(loaded.plan.examine(display, &texts)?))?;
        let Some(examined) = examined else { break };
        let free = examined.free.iter().filter(|free| !free.tied);
        open.push(free.map(|free| screen.coordinate_name(free.view, free.coordinate)).collect::<Vec<_>>());
        placements.push(measured(screen, examined.placement, args));
    }
    if args.expectations {
        // A file of expectations has no place for what was left out.
        if placements.len() < all.len() {
            return Err(too_many_displays(placements.len(), all.len()));
        }
        let expected: Vec<String> = placements.iter().map(|p| to_expectations(p, screen)).collect();
        print(&expected.join("\n"))?;
        return Ok(Verdict::Clean);
    }
    if args.format == Format::Json {
        for placement in placements.iter_mut().filter(|_| args.device || args.pixels) {
            // Its frames are of the display already.
            placement.scaled = None;
        }
        let named = std::iter::zip(&placements, &open);
        let named = named.map(|(p, open)| NamedOpen { placement: p.named(screen), underconstrained: open });
        let left_out = all[placements.len()..].iter().map(|display| display.name()).collect();
        print_json(&Output { screen: screen.name(), placements: named.collect(), left_out })?;
    } else {
        let mut out = format!(
            "{BOLD}{}{BOLD:#}: left, top, width x height in {}, from the top left corner of {}\n\n",
            screen.name(),
            match (args.pixels, args.device, screen.design()) {
                (true, ..) => "pixels of the display",
                (_, false, Some(_)) => "units of its design",
                _ => "logical pixels",
            },
            if args.local { "the parent of each" } else { "the screen" }
        );
        for side_by_side in placements.chunks(SIDE_BY_SIDE) {
            out += &frames(screen, side_by_side);
            out.push('\n');
        }
        out += &scales(screen, &placements);
        out += &scrolling(screen, &placements);
        out += &gave_way(screen, &placements);
        out += &unsettled(screen, &placements, &open);
        out += &displays_left_out(placements.len(), all.len());
        print(&out)?;
    }
    let broken = placements.iter().any(|p| !p.broken.is_empty());
    Ok(if broken { Verdict::Findings } else { Verdict::Clean })
}

/// A placement with its frames measured as the options say.
fn measured(screen: &Screen, mut placement: Placement, args: &PlaceArgs) -> Placement {
    if !args.local && !args.pixels && !args.device {
        return placement;
    }
    let density = placement.canvas().density();
    let frames = screen.views().map(|(view, _)| match (args.local, args.device) {
        (true, _) => placement.local_frame(screen, view),
        (_, true) => placement.device_frame(view),
        _ => placement.frame(view).map(|f| f.in_pixels(density)),
    });
    placement.frames = frames.collect();
    // What is painted is reported from the screen's corner only.
    placement.looks.iter_mut().for_each(|look| look.paint = Paint::default());
    placement
}

/// A table of frames: a row a view, a column a display.
fn frames(screen: &Screen, placements: &[Placement]) -> String {
    let header: Vec<&str> =
        std::iter::once("view").chain(placements.iter().map(|p| p.display.name())).collect();
    let mut rows = table(&header);
    for (view, about) in screen.views() {
        let guide = if about.guide().is_some() { " (guide)" } else { "" };
        let mut row = vec![screen.path(view) + guide];
        row.extend(placements.iter().map(|p| {
            let Some(at) = p.frame(view) else { return "hidden".to_owned() };
            let mut said = at.to_string();
            if let Some(division) = p.divisions.get(&view) {
                said += &divided(division);
            }
            if let Some(grid) = p.grids.get(&view) {
                let (columns, rows) = (grid.columns as usize, grid.rows as usize);
                said += &format!(", {} and {}", count(columns, "column"), count(rows, "row"));
            }
            if let Some(VisibleSpares { shown, of, cut }) = p.visible_spares.get(&view) {
                said += &format!(", {shown} of {of} spare children shown");
                said += if *cut { ", the last one cut" } else { "" };
            }
            match p.text_size(view) {
                Some(text) if text.lines > 1 => said += &format!(", {} lines", text.lines),
                _ => {}
            }
            match (p.is_painted(view), p.painted_elsewhere(screen, view)) {
                (false, _) if screen.view(view).is_some_and(|v| v.guide().is_some()) => {}
                (false, _) => said += " (not painted)",
                (true, Some(bounds)) => said += &format!(" (painted {bounds})"),
                (true, None) => {}
            }
            said
        }));
        rows.add_row(row);
    }
    lines(&rows, 0)
}

/// What a guide is divided into: `, 8 columns of 136`.
fn divided(division: &Division) -> String {
    let what = if division.columns { "column" } else { "row" };
    let mut said = format!(", {} of {}", count(division.count as usize, what), number(division.size));
    if division.cut > 0.0 {
        said += &format!(" and {} of the next", number(division.cut));
    }
    said
}

/// By how much the screen is scaled, a line for each display.
fn scales(screen: &Screen, placements: &[Placement]) -> String {
    let scaled = placements.iter().filter(|p| p.scaled.is_some());
    let line = |p: &Placement| {
        let (width, height) = (number(p.canvas().width()), number(p.canvas().height()));
        let (scale, on) = (number(p.scale()), p.display.name());
        let other = if screen.design().is_some_and(|design| !design.is_for(&p.display)) {
            ", though it is designed for the other orientation"
        } else {
            ""
        };
        format!("{FAINT}scaled{FAINT:#}    {scale} times on {on}: {width} x {height} of its units{other}\n")
    };
    scaled.map(line).collect()
}

/// How far views are scrolled, and what sticks, a line each.
fn scrolling(screen: &Screen, placements: &[Placement]) -> String {
    let mut out = String::new();
    for p in placements {
        let on = p.display.name();
        for (&view, at) in &p.scrolled {
            let ways = [("across", at.offset.0, at.most.0), ("down", at.offset.1, at.most.1)];
            let ways: Vec<String> = ways
                .iter()
                .filter(|(_, _, most)| *most > 0.0)
                .map(|(way, by, most)| format!("{} of {} {way}", number(*by), number(*most)))
                .collect();
            let said = if ways.is_empty() { "does not scroll here".into() } else { ways.join(", ") };
            out += &format!("{FAINT}scrolled{FAINT:#}  {} {said} on {on}\n", screen.path(view));
        }
        for (&view, all) in &p.stuck {
            for stuck in all {
                let (of, side) = (screen.path(stuck.scroller), stuck.side.coordinate().spelling());
                let held = format!("held from {} to {}", number(stuck.held.0), number(stuck.held.1));
                let now = if stuck.by == 0.0 {
                    "moves with its parent now".to_owned()
                } else {
                    format!("{} away from its place now", number(stuck.by.abs()))
                };
                let path = screen.path(view);
                out += &format!(
                    "{FAINT}sticks{FAINT:#}    {path} to the {side} of {of}: {held}, {now}, on {on}\n"
                );
            }
        }
    }
    out
}

/// What gave way and what is broken, a line each.
fn gave_way(screen: &Screen, placements: &[Placement]) -> String {
    let mut out = String::new();
    for p in placements {
        for m in &p.broken {
            let (name, by) = (m.rule.name(screen), amount(m.by));
            out += &format!("{RED}broken{RED:#}  {name} by {by} on {}\n", p.display.name());
        }
        for m in p.missed.iter().filter(|m| matches!(m.rule, RuleRef::Written { .. })) {
            let (name, by, level) =
                (m.rule.name(screen), amount(m.by), m.rule.level(screen).unwrap_or("required"));
            out += &format!("{FAINT}gave way{FAINT:#}  {name} ({level}) by {by} on {}\n", p.display.name());
        }
    }
    out
}

/// What no rule decides, and what does not converge, a line a display.
fn unsettled(screen: &Screen, placements: &[Placement], open: &[Vec<String>]) -> String {
    let mut out = String::new();
    for (p, open) in std::iter::zip(placements, open) {
        let on = p.display.name();
        if !open.is_empty() {
            let first = open.iter().take(MAX_OPEN).map(String::as_str).collect::<Vec<_>>().join(", ");
            let more = open.len().saturating_sub(MAX_OPEN);
            let more = if more > 0 { format!(" and {more} more") } else { String::new() };
            out += &format!("{YELLOW}underconstrained{YELLOW:#}  {first}{more} on {on}\n");
        }
        for &view in &p.unsettled {
            out += &format!("{RED}unsettled{RED:#}  {} does not converge on {on}\n", screen.path(view));
        }
    }
    if !out.is_empty() {
        out += "vantic check tells why, and what to do about it\n";
    }
    out
}
