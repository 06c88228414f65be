//! `vantic show grouping`: siblings as a row or column of their own.

use crate::args::{Format, ShowViews};
use crate::output::{BOLD, print, print_json};
use crate::session::{load, view_of};
use crate::show::one_display::on_one_display;
use crate::verdict::Verdict;
use anyhow::{Result, bail};
use vantic::infer::{Gathered, gathered};
use vantic::model::{RuleId, ViewId};
use vantic::words::number;

/// A row or column for siblings, for machines.
#[derive(serde::Serialize)]
struct Group {
    order: Vec<String>,
    gaps: Vec<f64>,
    lines_up: bool,
    lines: Vec<String>,
    sizes: Vec<Vec<String>>,
    moves: Vec<String>,
    goes: Vec<String>,
}

/// How siblings could stand in a row or column of their own.
pub(crate) fn run(args: &ShowViews) -> Result<Verdict> {
    let loaded = load(&args.of.screen)?;
    let (screen, _, placement) = on_one_display(&loaded, &args.views[0], &args.of)?;
    let views: Vec<ViewId> = args.views.iter().map(|path| view_of(screen, path)).collect::<Result<_>>()?;
    let on = placement.display.name();
    let Some(found) = gathered(&placement, screen, &views) else {
        bail!(
            "{} are not two or more siblings that stand beside or below one another on {on}",
            args.views.join(", ")
        );
    };
    let path = |view: &ViewId| screen.path(*view);
    let order: Vec<String> = found.order.iter().map(path).collect();
    if args.of.format == Format::Json {
        let named = |rules: &[RuleId]| rules.iter().map(|&rule| screen.rule_name(rule)).collect();
        let (moves, goes) = (named(&found.moves), named(&found.goes));
        let Gathered { gaps, lines_up, lines, sizes, .. } = found;
        print_json(&Group { order, gaps, lines_up, lines, sizes, moves, goes })?;
        return Ok(Verdict::Clean);
    }
    let all = order.join(", ");
    let mut out = format!(
        "{BOLD}{all}{BOLD:#} keep their {} on {on} in a view of their own:\n\n    view group {{\n",
        if found.lines_up { "frames" } else { "places along one axis" }
    );
    found.lines.iter().for_each(|line| out += &format!("        {line}\n"));
    for (at, view) in found.order.iter().enumerate() {
        if let Some(Some(space)) = at.checked_sub(1).map(|before| &found.spaces[before]) {
            out += &format!("        {space}\n");
        }
        let name = screen.view(*view).map_or("", |v| v.name());
        let sizes: String = found.sizes[at].iter().map(|line| format!("{line}; ")).collect();
        out += &format!("        view {name} {{ {sizes}... }}\n");
    }
    out += "    }\n";
    let gaps: Vec<String> = found.gaps.iter().map(|gap| number(*gap)).collect();
    if found.spaces.iter().any(Option::is_some) {
        out += &format!("\nthe gaps differ: {}\n", gaps.join(", "));
    }
    if !found.lines_up {
        out +=
            "\nthey do not line up on the other axis; use `sit` for each, or `apart` and rules of its own\n";
    }
    for (what, rules) in [
        ("these rules tie them to their parent or siblings; write them for the group instead", &found.moves),
        ("the group replaces these rules; remove them", &found.goes),
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
