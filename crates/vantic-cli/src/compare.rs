//! `vantic compare`: what moved between two versions, displays or bands; and `place --distance`.

use crate::Verdict;
use crate::args::{CompareArgs, Format, PlaceArgs};
use crate::input::{Loaded, Texts, Unsaid, displays, load, view_of};
use crate::output::{BOLD, FAINT, GREEN, count, fit_terminal, lines, print, print_json, table};
use crate::without::less;
use anyhow::{Result, bail};
use serde_json::{Value, json};
use vantic::display::{Display, Displays};
use vantic::geometry::Frame;
use vantic::infer::{Difference, compare};
use vantic::infer::{distances, free_space};
use vantic::model::{RuleRef, Screen};
use vantic::plan::Placement;
use vantic::words::{millionths, number};

/// Two placements that are compared.
struct Pair<'a> {
    before: (&'a Loaded, Display),
    after: (&'a Loaded, Display),
}

pub(crate) fn run(args: &CompareArgs) -> Result<Verdict> {
    let first = load(&args.file)?;
    let less = args.without.as_deref().map(|what| less(args, &first, what)).transpose()?;
    let (second, told, wrote) = match less {
        Some(less) => (Some(less.loaded), less.told, less.wrote),
        None => (args.other.as_deref().map(load).transpose()?, Default::default(), String::new()),
    };
    let texts = Texts::new(&args.texts);
    let pairs = pairs(args, &first, second.as_ref())?;
    let mut all: Vec<(String, Vec<Difference>)> = Vec::new();
    let after = pairs.first().map_or(&first, |pair| pair.after.0);
    for Pair { before, after } in &pairs {
        let found = compare((&before.0.plan, &before.1), (&after.0.plan, &after.1), &texts)?;
        let on = match before.1.name() == after.1.name() {
            true => before.1.name().to_owned(),
            false => format!("{} to {}", before.1.name(), after.1.name()),
        };
        all.push((on, found));
    }
    match args.format {
        Format::Json => print_json(&machine(after, &all, told.1))?,
        // What is not written has no lines yet.
        Format::Text => {
            print(&(told.0 + &text(after, &all, args.without.is_none() || args.write) + &wrote))?;
        }
    }
    Ok(Verdict::Clean)
}

/// What is compared with what: a file with another on each display, or one with itself on two displays or in two bands.
fn pairs<'a>(args: &CompareArgs, first: &'a Loaded, second: Option<&'a Loaded>) -> Result<Vec<Pair<'a>>> {
    let screen = first.plan.screen();
    if let Some(second) = second {
        if !args.band.is_empty() {
            bail!("--band compares two bands of one file; name one file");
        }
        let all = displays(&args.displays, screen, Unsaid::First)?;
        return Ok(all
            .into_iter()
            .map(|d| Pair { before: (first, d.clone()), after: (second, d) })
            .collect());
    }
    let two = match args.band.as_slice() {
        [] => displays(&args.displays, screen, Unsaid::First)?,
        [a, b] => vec![in_band(screen, a, b)?, in_band(screen, b, a)?],
        _ => bail!("name two bands: --band narrow --band wide"),
    };
    match <[Display; 2]>::try_from(two) {
        Ok([a, b]) => Ok(vec![Pair { before: (first, a), after: (first, b) }]),
        Err(_) => bail!(
            "name another file, two displays (`-d 390x844 -d tablet`) or two bands (`--band a --band b`)"
        ),
    }
}

/// A display of the catalogue on which a band holds, and if there is one, another does not; `none` for no band.
fn in_band(screen: &Screen, name: &str, other: &str) -> Result<Display> {
    let band = |name: &str| screen.bands().iter().find(|b| b.name() == name);
    if band(name).is_none() && name != "none" {
        let names: Vec<&str> = screen.bands().iter().map(|b| b.name()).collect();
        bail!("there is no band `{name}` in {}; there are {}, and `none`", screen.name(), names.join(", "));
    }
    let holds = |display: &Display, name: &str| match band(name) {
        Some(band) => band.condition().holds(display),
        None => !screen.bands().iter().any(|b| b.condition().holds(display)),
    };
    let all = Displays::default().all();
    let alone = all.iter().find(|d| holds(d, name) && !holds(d, other));
    let Some(display) = alone.or_else(|| all.iter().find(|d| holds(d, name))) else {
        bail!(
            "no display of the catalogue is in `{name}`; name two displays instead: `-d 390x844 -d 1200x800`"
        );
    };
    Ok(display.clone())
}

fn rules(loaded: &Loaded, because: &[RuleRef], with_lines: bool) -> String {
    let screen = loaded.plan.screen();
    let one = |rule: &RuleRef| {
        let line = loaded.line(*rule).filter(|_| with_lines);
        let line = line.map_or(String::new(), |(line, _)| format!(" (line {line})"));
        format!("{}{line}", rule.name(screen))
    };
    because.iter().map(one).collect::<Vec<_>>().join(", ")
}

fn text(after: &Loaded, all: &[(String, Vec<Difference>)], with_lines: bool) -> String {
    let name = after.plan.screen().name();
    let moved = all.iter().filter(|(_, found)| !found.is_empty()).count();
    if moved == 0 {
        return format!(
            "{GREEN}nothing moved{GREEN:#} {BOLD}{name}{BOLD:#} on {}\n",
            count(all.len(), "display")
        );
    }
    let mut out = String::new();
    for (on, found) in all.iter().filter(|(_, found)| !found.is_empty()) {
        out += &format!("{BOLD}{name}{BOLD:#} on {on}\n");
        let mut rows = table(&["view", "what", "was", "is", "because of"]);
        fit_terminal(&mut rows);
        let along = found.iter().filter(|d| d.along).count();
        for d in found.iter().filter(|d| !d.along) {
            let frame = |f: Option<Frame>| f.map_or("-".to_owned(), |f| f.to_string());
            let because = rules(after, &d.because, with_lines);
            rows.add_row([d.view.clone(), d.words(), frame(d.was), frame(d.is), because]);
        }
        out += &lines(&rows, 1);
        if along > 0 {
            out += &format!(
                "  {FAINT}{} along with what is around {}{FAINT:#}\n",
                count(along, "view"),
                if along == 1 { "it" } else { "them" }
            );
        }
        out.push('\n');
    }
    out + &format!("something moved on {} of {}\n", moved, count(all.len(), "display"))
}

fn machine(after: &Loaded, all: &[(String, Vec<Difference>)], without: Value) -> Value {
    let screen = after.plan.screen();
    let one = |d: &Difference| {
        let because: Vec<String> = d.because.iter().map(|r| r.name(screen)).collect();
        json!({ "view": d.view, "what": d.words(), "was": d.was, "is": d.is, "along": d.along, "because": because })
    };
    let on = |(on, found): &(String, Vec<Difference>)| json!({ "on": on, "differences": found.iter().map(one).collect::<Vec<_>>() });
    let mut told = json!({ "screen": screen.name(), "compared": all.iter().map(on).collect::<Vec<_>>() });
    if !without.is_null() {
        told["without"] = without;
    }
    told
}

/// How far a view is from another, or from what is around it, on every display.
pub(crate) fn distance(loaded: &Loaded, placements: &[Placement], args: &PlaceArgs) -> Result<Verdict> {
    let screen = loaded.plan.screen();
    let (view, to) = match args.distance.as_slice() {
        [one] => (view_of(screen, one)?, None),
        [one, other] => (view_of(screen, one)?, Some(view_of(screen, other)?)),
        _ => bail!("--distance takes one view, or two: `--distance header.title,header.clock`"),
    };
    let found: Vec<_> =
        placements.iter().map(|p| (p.display.name(), distances(p, screen, view, to))).collect();
    let of = match to.or(screen.view(view).and_then(|v| v.parent())) {
        Some(other) => screen.path(other),
        None => "screen".to_owned(),
    };
    if args.format == Format::Json {
        let one = |(on, d): &(&str, Option<vantic::infer::Distances>)| {
            let told = d.map(|d| {
                let [left, top, right, bottom] = d.inside.map(millionths);
                json!({
                    "left": left, "top": top, "right": right, "bottom": bottom,
                    "middle_x": millionths(d.middles.0), "middle_y": millionths(d.middles.1),
                    "apart_x": millionths(d.apart.0), "apart_y": millionths(d.apart.1),
                })
            });
            json!({ "display": on, "distances": told })
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
            None => row.push("not there".into()),
        }
        rows.add_row(row);
    }
    print(&format!(
        "{BOLD}{}{BOLD:#} from {BOLD}{of}{BOLD:#}: left to bottom from its edges inwards, below zero beyond them; apart below zero where they cover one another\n\n{}",
        screen.path(view),
        lines(&rows, 0)
    ))?;
    Ok(Verdict::Clean)
}

/// How much room is left beyond the children of a view, at each side, and which child is nearest to it.
pub(crate) fn leftover(
    loaded: &Loaded,
    path: &str,
    placements: &[Placement],
    args: &PlaceArgs,
) -> Result<Verdict> {
    let screen = loaded.plan.screen();
    let parent = if path.is_empty() { None } else { Some(view_of(screen, path)?) };
    let found: Vec<_> =
        placements.iter().map(|p| (p.display.name(), free_space(p, screen, parent))).collect();
    let sides = ["left", "top", "right", "bottom"];
    if args.format == Format::Json {
        let one = |(on, left): &(&str, Option<[(f64, vantic::model::ViewId); 4]>)| {
            let told = left.map(|all| {
                let side = |(side, (room, view)): (&str, (f64, vantic::model::ViewId))| {
                    (side.to_owned(), json!({ "left": millionths(room), "nearest": screen.path(view) }))
                };
                std::iter::zip(sides, all).map(side).collect::<serde_json::Map<_, _>>()
            });
            json!({ "display": on, "sides": told })
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
            None => row.push("nothing is in it".into()),
        }
        rows.add_row(row);
    }
    let of = if path.is_empty() { "the screen" } else { path };
    print(&format!(
        "{BOLD}{of}{BOLD:#}: the room that is left at each side, and what is nearest to it; what covers it all is left out\n\n{}",
        lines(&rows, 0)
    ))?;
    Ok(Verdict::Clean)
}
