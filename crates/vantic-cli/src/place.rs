//! `vantic place`.

use crate::Verdict;
use crate::args::{Format, PlaceArgs};
use crate::input::{Loaded, Texts, Unsaid, displays, load, view_of};
use crate::output::{BOLD, FAINT, RED, count, fit_terminal, lines, print, print_json, table};
use crate::{across, compare, ties};
use anyhow::{Result, bail};
use vantic::files::to_expectations;
use vantic::model::{Division, Paint, RuleRef, Screen, Shown};
use vantic::plan::{NamedPlacement, Placement};
use vantic::words::number;

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
    if let Some(path) = &args.rules {
        return rules(&loaded, path, args);
    }
    if let Some(path) = &args.near {
        return ties::near(&loaded, path, args);
    }
    if let Some(path) = &args.tie {
        return ties::tie(&loaded, path, args);
    }
    if !args.gather.is_empty() {
        return ties::gather(&loaded, args);
    }
    let screen = loaded.plan.screen();
    let texts = Texts::new(&args.texts);
    let placements: Vec<Placement> = displays(&args.displays, screen, Unsaid::First)?
        .iter()
        .map(|display| Ok(measured(screen, loaded.plan.place(display, &texts)?, args)))
        .collect::<Result<_>>()?;
    if let Some(path) = &args.across {
        return across::compared(&loaded, path, &placements, args.format);
    }
    if !args.distance.is_empty() {
        return compare::distance(&loaded, &placements, args);
    }
    if let Some(path) = &args.leftover {
        return compare::leftover(&loaded, path, &placements, args);
    }
    if args.bands {
        return across::bands(&loaded, &placements, args);
    }
    if args.expectations {
        let all: Vec<String> = placements.iter().map(|p| to_expectations(p, screen)).collect();
        print(&all.join("\n"))?;
        return Ok(Verdict::Clean);
    }
    if args.format == Format::Json {
        let named: Vec<_> = placements.iter().map(|p| p.named(screen)).collect();
        print_json(&Output { screen: screen.name(), placements: named })?;
    } else {
        let mut out = format!(
            "{BOLD}{}{BOLD:#}: left, top, width x height in {}, from the top left corner of {}\n\n",
            screen.name(),
            match (args.pixels, args.device, screen.design()) {
                (true, ..) => "pixels of the display",
                (_, false, Some(_)) => "units of its design",
                _ => "logical pixels",
            },
            if args.local { "the view around each" } else { "the screen" }
        );
        for side_by_side in placements.chunks(SIDE_BY_SIDE) {
            out += &frames(screen, side_by_side);
            out.push('\n');
        }
        out += &scales(screen, &placements);
        out += &scrolling(screen, &placements);
        out += &gave_way(screen, &placements);
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
    // What is painted is told from the screen's corner only.
    placement.looks.iter_mut().for_each(|look| look.paint = Paint::default());
    placement
}

/// The rules that touch a view, for machines.
#[derive(serde::Serialize)]
struct Listing<'a> {
    screen: &'a str,
    view: &'a str,
    rules: Vec<Touching<'a>>,
}

/// One of them.
#[derive(serde::Serialize)]
struct Touching<'a> {
    rule: String,
    line: Option<usize>,
    /// The file of the base that it stands in.
    #[serde(skip_serializing_if = "Option::is_none")]
    file: Option<String>,
    level: Option<&'a str>,
    band: Option<&'a str>,
    own: bool,
    /// On the one display that was named: whether it counts there, and because of what.
    #[serde(skip_serializing_if = "Option::is_none")]
    here: Option<&'static str>,
    sentence: String,
}

/// Whether a rule counts in a placement: written without a band and not replaced, it is inherited; else it is that of a
/// band that holds there.
fn counts(screen: &Screen, placement: &Placement, rule: RuleRef) -> &'static str {
    let holds = |name: &str| {
        let band = screen.bands().iter().find(|b| b.name() == name);
        band.is_some_and(|b| b.condition().holds(placement.canvas()))
    };
    let is_there = rule.owner(screen).is_none_or(|view| placement.frame(view).is_some());
    match (rule, rule.band(screen)) {
        _ if !is_there => "hidden",
        (RuleRef::Written { rule, .. }, None) if placement.rules.contains(&rule) => "inherited",
        (RuleRef::Written { rule, .. }, Some(_)) if placement.rules.contains(&rule) => "of the band",
        (RuleRef::Written { .. }, Some(band)) if !holds(band) => "not here",
        (RuleRef::Written { .. }, _) => "replaced",
        _ => "inherited",
    }
}

/// Every rule that touches a view, in sentences.
fn rules(loaded: &Loaded, path: &str, args: &PlaceArgs) -> Result<Verdict> {
    let (screen, format) = (loaded.plan.screen(), args.format);
    let view = view_of(screen, path)?;
    let named = if args.displays.displays.is_empty() {
        Vec::new()
    } else {
        displays(&args.displays, screen, Unsaid::First)?
    };
    let placement = match named.as_slice() {
        [] => None,
        [display] => Some(loaded.plan.place(display, &Texts::new(&args.texts))?),
        _ => bail!("--rules tells which rules count on one display at a time: name one"),
    };
    let touching: Vec<Touching> = screen
        .rules_of(view)
        .into_iter()
        .map(|rule| {
            let (line, file) = loaded.line(rule).unzip();
            Touching {
                rule: rule.name(screen),
                line,
                file: file.flatten(),
                level: rule.level(screen),
                band: rule.band(screen),
                own: rule.owner(screen) == Some(view),
                here: placement.as_ref().map(|p| counts(screen, p, rule)),
                sentence: screen.sentence(rule),
            }
        })
        .collect();
    if format == Format::Json {
        print_json(&Listing { screen: screen.name(), view: path, rules: touching })?;
        return Ok(Verdict::Clean);
    }
    let own = touching.iter().filter(|t| t.own).count();
    let (of_its_own, others) = (count(own, "rule"), touching.len() - own);
    let mut out = format!("{BOLD}{path}{BOLD:#}: {of_its_own} of its own, {others} of other views\n\n");
    let on = placement.as_ref().map(|p| format!("on {}", p.display.name()));
    let head: Vec<&str> =
        ["line", "rule", "level", "band"].into_iter().chain(on.as_deref()).chain(["what it says"]).collect();
    let mut rows = table(&head);
    fit_terminal(&mut rows);
    for t in &touching {
        let line = t.line.map_or_else(String::new, |l| l.to_string());
        let line = match &t.file {
            Some(file) => format!("{line} of {file}"),
            None => line,
        };
        let (level, band) = (t.level.unwrap_or("must"), t.band.unwrap_or("always"));
        let row =
            [&line, t.rule.as_str(), level, band].into_iter().chain(t.here).chain([t.sentence.as_str()]);
        rows.add_row(row);
    }
    out += &lines(&rows, 0);
    print(&out)?;
    Ok(Verdict::Clean)
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
            if let Some(Shown { shown, of, cut }) = p.shown.get(&view) {
                said += &format!(", {shown} of {of} spare ones shown");
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
            ", though it is drawn for the other orientation"
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
            let said = if ways.is_empty() { "has nothing to scroll".into() } else { ways.join(", ") };
            out += &format!("{FAINT}scrolled{FAINT:#}  {} {said} on {on}\n", screen.path(view));
        }
        for (&view, all) in &p.stuck {
            for stuck in all {
                let (of, side) = (screen.path(stuck.scroller), stuck.side.coordinate().spelling());
                let held = format!("held from {} to {}", number(stuck.held.0), number(stuck.held.1));
                let now = if stuck.by == 0.0 {
                    "moves along now".to_owned()
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
            let (name, by) = (m.rule.name(screen), number(m.by));
            out += &format!("{RED}broken{RED:#}  {name} by {by} on {}\n", p.display.name());
        }
        for m in p.missed.iter().filter(|m| matches!(m.rule, RuleRef::Written { .. })) {
            let (name, by, level) =
                (m.rule.name(screen), number(m.by), m.rule.level(screen).unwrap_or("must"));
            out += &format!("{FAINT}gave way{FAINT:#}  {name} ({level}) by {by} on {}\n", p.display.name());
        }
    }
    out
}
