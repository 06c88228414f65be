//! `vantic place --near` and `--tie`: rules to write, read off a placement.

use crate::Verdict;
use crate::args::{Format, PlaceArgs};
use crate::input::{Loaded, Texts, Unsaid, displays, view_of};
use crate::output::{BOLD, lines, print, print_json, table};
use anyhow::{Result, bail};
use vantic::infer::{Gathered, Tie};
use vantic::infer::{gathered, neighbours, tied};
use vantic::model::{Place, RuleId, Screen, Side, ViewId};
use vantic::plan::Placement;
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

/// One way to tie a view, for machines.
#[derive(serde::Serialize)]
struct Tied {
    tie: &'static str,
    rules: Vec<String>,
}

/// What the sides of a view stand next to, nearest first.
pub(crate) fn near(loaded: &Loaded, path: &str, args: &PlaceArgs) -> Result<Verdict> {
    let (screen, view, placement) = on_one_display(loaded, path, args)?;
    let all: Vec<Near> = SIDES
        .iter()
        .flat_map(|&side| neighbours(&placement, screen, view, side).into_iter().map(move |n| (side, n)))
        .map(|(side, n)| Near {
            side: side.coordinate().spelling(),
            of: place_named(screen, n.place),
            distance: n.distance,
            rule: n.rule,
        })
        .collect();
    if args.format == Format::Json {
        print_json(&all)?;
        return Ok(Verdict::Clean);
    }
    let mut rows = table(&["side", "from", "away", "rule to write"]);
    for n in &all {
        rows.add_row([n.side, &n.of, &number(n.distance), &n.rule]);
    }
    let on = placement.display.name();
    print(&format!(
        "{BOLD}{path}{BOLD:#} on {on}: what its sides face, the nearest first\n\n{}",
        lines(&rows, 0)
    ))?;
    Ok(Verdict::Clean)
}

/// The ways to tie a view that keep its frame on a display.
pub(crate) fn tie(loaded: &Loaded, path: &str, args: &PlaceArgs) -> Result<Verdict> {
    let (screen, view, placement) = on_one_display(loaded, path, args)?;
    let all: Vec<Tied> = Tie::ALL
        .iter()
        .map(|&(name, tie)| Tied { tie: name, rules: tied(&placement, screen, view, tie) })
        .collect();
    if args.format == Format::Json {
        print_json(&all)?;
        return Ok(Verdict::Clean);
    }
    let on = placement.display.name();
    let mut out =
        format!("{BOLD}{path}{BOLD:#} stays where it is on {on} with any of these in place of its rules:\n");
    for tied in &all {
        out += &format!("\n{BOLD}{}{BOLD:#}\n", tied.tie);
        tied.rules.iter().for_each(|rule| out += &format!("    {rule}\n"));
    }
    print(&out)?;
    Ok(Verdict::Clean)
}

/// A row or column for siblings, for machines.
#[derive(serde::Serialize)]
struct Group {
    order: Vec<String>,
    gaps: Vec<f64>,
    lines_up: bool,
    lines: Vec<String>,
    moves: Vec<String>,
    goes: Vec<String>,
}

/// How siblings could stand in a row or column of their own.
pub(crate) fn gather(loaded: &Loaded, args: &PlaceArgs) -> Result<Verdict> {
    let (screen, _, placement) = on_one_display(loaded, &args.gather[0], args)?;
    let views: Vec<ViewId> = args.gather.iter().map(|path| view_of(screen, path)).collect::<Result<_>>()?;
    let on = placement.display.name();
    let Some(found) = gathered(&placement, screen, &views) else {
        bail!(
            "{} are not two or more siblings that stand beside or below one another on {on}",
            args.gather.join(", ")
        );
    };
    let path = |view: &ViewId| screen.path(*view);
    let order: Vec<String> = found.order.iter().map(path).collect();
    if args.format == Format::Json {
        let named = |rules: &[RuleId]| rules.iter().map(|&rule| screen.rule_name(rule)).collect();
        let (moves, goes) = (named(&found.moves), named(&found.goes));
        let Gathered { gaps, lines_up, lines, .. } = found;
        print_json(&Group { order, gaps, lines_up, lines, moves, goes })?;
        return Ok(Verdict::Clean);
    }
    let all = order.join(", ");
    let mut out = format!(
        "{BOLD}{all}{BOLD:#} keep their frames on {on} in a view of their own:\n\n    view group {{\n"
    );
    found.lines.iter().for_each(|line| out += &format!("        {line}\n"));
    for (at, view) in found.order.iter().enumerate() {
        if let Some(Some(space)) = at.checked_sub(1).map(|before| &found.spaces[before]) {
            out += &format!("        {space}\n");
        }
        let name = screen.view(*view).map_or("", |v| v.name());
        out += &format!("        view {name} {{ ... }}\n");
    }
    out += "    }\n";
    let gaps: Vec<String> = found.gaps.iter().map(|gap| number(*gap)).collect();
    if found.spaces.iter().any(Option::is_some) {
        out += &format!("\nthe distances differ: {}\n", gaps.join(", "));
    }
    if !found.lines_up {
        out +=
            "\nthey do not line up across; say where each lies with `sit`, or `apart` and rules of its own\n";
    }
    for (what, rules) in [
        ("these tie them to what is around them; write them for the group instead", &found.moves),
        ("these the group says now; take them out", &found.goes),
    ] {
        if !rules.is_empty() {
            out += &format!("\n{what}:\n");
        }
        for &rule in rules {
            out += &format!("    {}  {}\n", screen.rule_name(rule), screen.rule_text(rule));
        }
    }
    print(&out)?;
    Ok(Verdict::Clean)
}

fn on_one_display<'a>(
    loaded: &'a Loaded,
    path: &str,
    args: &PlaceArgs,
) -> Result<(&'a Screen, ViewId, Placement)> {
    let screen = loaded.plan.screen();
    let view = view_of(screen, path)?;
    let displays = displays(&args.displays, loaded.plan.screen(), Unsaid::First)?;
    let [display] = displays.as_slice() else {
        bail!("distances differ from display to display: name one, such as `--display 390x844`");
    };
    let placement = loaded.plan.place(display, &Texts::new(&args.texts))?;
    if placement.frame(view).is_none() {
        bail!("`{path}` is hidden on {}; name another display", display.name());
    }
    Ok((screen, view, placement))
}

/// What a place is called in tables.
pub(crate) fn place_named(screen: &Screen, place: Place) -> String {
    match place {
        Place::View(view) => screen.path(view),
        Place::Cells { guide, first, .. } => format!("{}[{first}]", screen.path(guide)),
        Place::Safe => "the safe area".into(),
        _ => "the screen".into(),
    }
}
