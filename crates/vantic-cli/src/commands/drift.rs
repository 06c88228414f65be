//! `vantic drift`.

use crate::args::{DriftArgs, Format};
use crate::drawings::drawings;
use crate::files::write_whole;
use crate::output::{BOLD, FAINT, GREEN, YELLOW, count, fit_terminal, lines, print, print_json, table};
use crate::picture::{Kind, save};
use crate::rewrite::write_all;
use crate::session::{Defaults, Loaded, Texts, displays, is_json, load, view_of};
use crate::shown::Shown as _;
use crate::verdict::Verdict;
use anyhow::{Result, bail};
use serde_json::json;
use vantic::drawing::Drawing;
use vantic::drift::{Drift, Drifted, drift};
use vantic::finding::Edit;
use vantic::fix::edited;
use vantic::infer::compare;
use vantic::model::{Screen, ViewId};
use vantic::plan::NamedPlacement;
use vantic::words::number;
use vantic_draw::{FontText, draw_drift};

/// How many views of one kind are named.
const MAX_NAMED: usize = 8;

/// A drawing with every view where the rules place it.
#[derive(serde::Serialize)]
struct Redrawn<'a> {
    screen: &'a str,
    placements: Vec<NamedPlacement<'a>>,
}

pub(crate) fn run(args: &DriftArgs) -> Result<Verdict> {
    let loaded = load(&args.screen)?;
    let texts = Texts::new(&args.texts);
    let drawn = drawings(&args.drawing, &texts)?;
    if !args.change_rules.is_empty() {
        return change_rules(args, &loaded, &drawn, &texts);
    }
    let screen = loaded.plan.screen();
    let mut found: Vec<(&Drawing, Drift)> = Vec::new();
    for drawing in &drawn {
        found.push((drawing, drift(&loaded.plan, drawing, &texts)?));
    }
    let mut wrote = String::new();
    if let Some(out) = &args.redraw {
        let placements = found.iter().map(|(_, drift)| drift.placement.named(screen)).collect();
        let redrawn = serde_json::to_string(&Redrawn { screen: screen.name(), placements })?;
        write_whole(out, format!("{redrawn}\n").as_bytes())?;
        wrote = format!("wrote {}, with every view where the rules place it\n", out.shown());
    }
    if let Some(out) = &args.out {
        let kind = Kind::of(out)?;
        let [(_, drift)] = found.as_slice() else {
            bail!("a picture shows one drawing; this file has {}", found.len())
        };
        save(&draw_drift(screen, drift, &FontText::new()), kind, out)?;
        wrote += &format!("wrote {}\n", out.shown());
    }
    let is_clean = found.iter().all(|(_, drift)| drift.views.is_empty());
    match args.format {
        Format::Json => {
            let all = found.iter().map(|(drawing, drift)| machine(&loaded, drawing, drift));
            print_json(&json!({ "screen": screen.name(), "drawings": all.collect::<Vec<_>>() }))?;
        }
        Format::Text => {
            let mut out = String::new();
            for (drawing, drift) in &found {
                for note in &drawing.notes {
                    out += &format!("{YELLOW}{}, {note}{YELLOW:#}\n", args.drawing.shown());
                }
                out += &text(&loaded, drawing, drift);
            }
            print(&(out + &wrote))?;
        }
    }
    Ok(if args.strict && !is_clean { Verdict::Findings } else { Verdict::Clean })
}

/// A distance with its sign.
fn signed(by: f64) -> String {
    let by = (by * 10.0).round() / 10.0;
    match by {
        0.0 => "-".into(),
        by if by > 0.0 => format!("+{}", number(by)),
        by => number(by),
    }
}

fn text(loaded: &Loaded, drawing: &Drawing, drift: &Drift) -> String {
    let screen = loaded.plan.screen();
    let mut out = format!("{BOLD}{} and its drawing on {}{BOLD:#}\n", screen.name(), drawing.display.name());
    if drift.views.is_empty() {
        out += &format!("{GREEN}✓ every view is where it was drawn, to half a pixel{GREEN:#}\n");
    } else {
        let follow = drift.views.iter().filter(|view| view.follows).count();
        out += &format!(
            "{YELLOW}{} {} not where {} drawn{YELLOW:#}; {} from others.\n\n",
            count(drift.views.len(), "view"),
            if drift.views.len() == 1 { "is" } else { "are" },
            if drift.views.len() == 1 { "it was" } else { "they were" },
            if follow == 1 { "1 only follows".to_owned() } else { format!("{follow} only follow") },
        );
        let mut rows = table(&["VIEW", "LEFT", "TOP", "WIDTH", "HEIGHT", "CONFLICTING RULE"]);
        for view in &drift.views {
            let mut row = vec![screen.path(view.view)];
            row.extend(view.by().map(signed));
            row.push(rule(loaded, view));
            rows.add_row(row);
        }
        fit_terminal(&mut rows);
        out += &lines(&rows, 2);
        out += "\n  Drawn minus placed, in logical pixels.\n";
        out += "  To change the rules: --change-rules VIEW. To change the drawing: --redraw FILE.\n";
    }
    let undrawn: Vec<String> = drift.undrawn.iter().map(|&view| screen.path(view)).collect();
    for (names, what) in [(&undrawn, "not drawn"), (&drift.unknown, "drawn, and not on this display")] {
        if !names.is_empty() {
            let more = names.len().saturating_sub(MAX_NAMED);
            let shown = names[..names.len() - more].join(", ");
            let more = if more > 0 { format!(" and {more} more") } else { String::new() };
            out += &format!("{FAINT}{what}: {shown}{more}{FAINT:#}\n");
        }
    }
    out
}

/// The rule that disagrees with a drawing, with its line.
fn rule(loaded: &Loaded, view: &Drifted) -> String {
    let said = view.roots.iter().map(|root| {
        let text = loaded.rule_text(root.rule);
        match loaded.line(root.rule) {
            Some((line, None)) => format!("line {line}: {text}"),
            Some((line, Some(base))) => format!("{base}, line {line}: {text}"),
            None => text,
        }
    });
    let mut said: Vec<String> = said.collect();
    said.dedup();
    match (said.is_empty(), view.follows) {
        (false, _) => said.join("\n"),
        (true, true) => "follows".into(),
        (true, false) => "its content, or the row, column or grid it is in".into(),
    }
}

fn machine(loaded: &Loaded, drawing: &Drawing, drift: &Drift) -> serde_json::Value {
    let screen = loaded.plan.screen();
    let views = drift.views.iter().map(|view| {
        let [left, top, width, height] = view.by().map(|by| (by * 1e6).round() / 1e6);
        let rules: Vec<String> = view.roots.iter().map(|root| root.rule.name(screen)).collect();
        json!({
            "view": screen.path(view.view),
            "by": { "left": left, "top": top, "width": width, "height": height },
            "rules": rules,
            "follows": view.follows,
        })
    });
    let undrawn: Vec<String> = drift.undrawn.iter().map(|&view| screen.path(view)).collect();
    json!({
        "display": drawing.display.name(),
        "drift": views.collect::<Vec<_>>(),
        "undrawn": undrawn,
        "unknown": drift.unknown,
    })
}

/// The views that are named; `None` for all.
fn named(screen: &Screen, names: &[String]) -> Result<Option<Vec<ViewId>>> {
    if names.iter().any(|name| name == "all") {
        return Ok(None);
    }
    names.iter().map(|name| view_of(screen, name)).collect::<Result<Vec<_>>>().map(Some)
}

/// Changes constants so that the rules give the drawing, shows the changes and what comes of them elsewhere.
fn change_rules(args: &DriftArgs, loaded: &Loaded, drawn: &[Drawing], texts: &Texts) -> Result<Verdict> {
    if is_json(&args.screen.file) {
        bail!("--change-rules changes a screen file; convert it first: `vantic fmt FILE --as vantic`");
    }
    let screen = loaded.plan.screen();
    let [drawing] = drawn else { bail!("--change-rules takes one drawing; this file has {}", drawn.len()) };
    let only = named(screen, &args.change_rules)?;
    let redrawn = loaded.follow_drawing(drawing, texts, only.as_deref())?;
    let before = loaded.texts();
    let mut after = before.clone();
    for (name, text) in &mut after {
        let own: Vec<Edit> = redrawn.edits.iter().filter(|edit| edit.file == *name).cloned().collect();
        *text = edited(text, &own)?;
    }
    let mut out = String::new();
    for Edit { line, old, new, .. } in &redrawn.edits {
        out += &format!("line {line}: {old}\n     is: {new}\n");
    }
    for refused in &redrawn.refused {
        let (path, text) = (screen.path(refused.view), loaded.rule_text(refused.rule));
        out += &format!("{YELLOW}stays: `{text}` of {path}: {}{YELLOW:#}\n", refused.reason);
    }
    if redrawn.edits.is_empty() {
        out += "nothing to change\n";
        print(&out)?;
        return Ok(if args.strict { Verdict::Findings } else { Verdict::Clean });
    }
    out += &format!("{} still not where drawn\n", count(redrawn.left, "view"));
    let changed = loaded.with_texts(&after)?;
    out += &elsewhere(args, loaded, &changed, texts)?;
    if args.write {
        out += &write_all(&loaded.paths, &before, &after)?;
    } else {
        out += &format!("{FAINT}nothing is written; --write writes it{FAINT:#}\n");
    }
    print(&out)?;
    Ok(if args.strict && redrawn.left > 0 { Verdict::Findings } else { Verdict::Clean })
}

/// What moves on other displays.
fn elsewhere(args: &DriftArgs, loaded: &Loaded, changed: &Loaded, texts: &Texts) -> Result<String> {
    let mut out = String::new();
    for display in displays(&args.displays, loaded.plan.screen(), Defaults::First)? {
        let moved = compare((&loaded.plan, &display), (&changed.plan, &display), texts)?;
        if !moved.is_empty() {
            out += &format!("  on {}: {} moved\n", display.name(), count(moved.len(), "view"));
        }
    }
    Ok(out)
}
