//! `vantic drift`.

use crate::args::{DriftArgs, Format};
use crate::drawings::{drawings, names_listed};
use crate::edits::changed;
use crate::files::write_whole;
use crate::output::{BOLD, FAINT, GREEN, YELLOW, count, fit_terminal, lines, print, print_json, table};
use crate::picture::{Kind, save};
use crate::rewrite::write_all;
use crate::session::{Defaults, Loaded, Texts, displays, is_json, known, load, view_of};
use crate::shown::Shown as _;
use crate::verdict::Verdict;
use anyhow::{Result, bail};
use serde_json::json;
use vantic::drawing::{ScreenDrawing, drawings_in, placements_json};
use vantic::drift::{Drift, Drifted, drift};
use vantic::finding::Edit;
use vantic::infer::compare;
use vantic::model::{Screen, ViewId};
use vantic::words::number;
use vantic_draw::{FontText, draw_drift};

pub(crate) fn run(args: &DriftArgs) -> Result<Verdict> {
    let loaded = load(&args.screen)?;
    let texts = Texts::new(&args.texts);
    let screen = loaded.plan.screen();
    let (drawn, notes) = match &args.drawing {
        Some(path) => {
            let (drawings, notes) = drawings(path, &texts)?;
            (drawings.iter().map(|drawing| drawing.in_screen(screen)).collect(), notes)
        }
        None => (drawings_in(screen, &known(args.displays.own.as_deref())?)?, String::new()),
    };
    if drawn.is_empty() {
        bail!("there is no drawing in {}; name one: `vantic drift FILE DRAWING`", args.screen.file.shown());
    }
    if args.write && args.change_rules.is_empty() && args.change_drawing.is_empty() {
        bail!("--write writes what --change-rules or --change-drawing changes; name one of them");
    }
    if !args.change_rules.is_empty() {
        return change_rules(args, &loaded, &drawn, &texts);
    }
    let mut found: Vec<Drift> = Vec::new();
    for drawing in &drawn {
        found.push(drift(&loaded.plan, drawing, &texts)?);
    }
    if !args.change_drawing.is_empty() {
        return change_drawing(args, &loaded, &found);
    }
    let mut wrote = String::new();
    if let Some(out) = &args.redraw {
        let redrawn = placements_json(screen, found.iter().map(|drift| &drift.placement));
        write_whole(out, format!("{redrawn}\n").as_bytes())?;
        wrote = format!("wrote {}, with every view where the rules place it\n", out.shown());
    }
    if let Some(out) = &args.out {
        let kind = Kind::of(out)?;
        let [drift] = found.as_slice() else {
            bail!("a picture shows one drawing; there are {}", found.len())
        };
        save(&draw_drift(screen, drift, &FontText::new()), kind, out)?;
        wrote += &format!("wrote {}\n", out.shown());
    }
    let is_clean = found.iter().all(|drift| drift.views.is_empty());
    match args.format {
        Format::Json => {
            let all = found.iter().map(|drift| machine(&loaded, drift));
            print_json(&json!({ "screen": screen.name(), "drawings": all.collect::<Vec<_>>() }))?;
        }
        Format::Text => {
            let out: String = found.iter().map(|drift| text(&loaded, drift)).collect();
            print(&(notes + &out + &wrote))?;
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

fn text(loaded: &Loaded, drift: &Drift) -> String {
    let screen = loaded.plan.screen();
    let on = drift.placement.display.name();
    let mut out = format!("{BOLD}{} and its drawing on {on}{BOLD:#}\n", screen.name());
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
        out += "  To change the rules: --change-rules VIEW. To change the drawing: --redraw FILE, or --change-drawing VIEW\n  where it is in \
                the screen file.\n";
    }
    let undrawn: Vec<String> = drift.undrawn.iter().map(|&view| screen.path(view)).collect();
    for (names, what) in [(&undrawn, "not drawn"), (&drift.unknown, "drawn, and not on this display")] {
        if !names.is_empty() {
            out += &format!("{FAINT}{what}: {}{FAINT:#}\n", names_listed(names));
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

fn machine(loaded: &Loaded, drift: &Drift) -> serde_json::Value {
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
        "display": drift.placement.display.name(),
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
fn change_rules(
    args: &DriftArgs,
    loaded: &Loaded,
    drawn: &[ScreenDrawing],
    texts: &Texts,
) -> Result<Verdict> {
    if is_json(&args.screen.file) {
        bail!("--change-rules changes a screen file; convert it first: `vantic fmt FILE --as vantic`");
    }
    let screen = loaded.plan.screen();
    let [drawing] = drawn else { bail!("--change-rules takes one drawing; there are {}", drawn.len()) };
    let only = named(screen, &args.change_rules)?;
    let redrawn = loaded.follow_drawing(drawing, texts, only.as_deref())?;
    let before = loaded.texts();
    let after = changed(&before, &redrawn.edits)?;
    let mut out = changes_listed(&redrawn.edits);
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
    out += &elsewhere(args, loaded, &loaded.with_texts(&after)?, texts)?;
    if args.write {
        out += &write_all(&loaded.paths, &before, &after)?;
    } else {
        out += &format!("{FAINT}nothing is written; --write writes it{FAINT:#}\n");
    }
    print(&out)?;
    Ok(if args.strict && redrawn.left > 0 { Verdict::Findings } else { Verdict::Clean })
}

/// Puts views of the drawings in the file where the rules place them.
fn change_drawing(args: &DriftArgs, loaded: &Loaded, found: &[Drift]) -> Result<Verdict> {
    if is_json(&args.screen.file) {
        bail!("--change-drawing changes a screen file; convert it first: `vantic fmt FILE --as vantic`");
    }
    let only = named(loaded.plan.screen(), &args.change_drawing)?;
    let each = found.iter().enumerate();
    let edits: Vec<Edit> =
        each.flat_map(|(index, drift)| loaded.redrawn(index, drift, only.as_deref())).collect();
    let before = loaded.texts();
    let after = changed(&before, &edits)?;
    let mut out = changes_listed(&edits);
    out += &match (edits.is_empty(), args.write) {
        (true, _) => "nothing to change\n".to_owned(),
        (false, true) => write_all(&loaded.paths, &before, &after)?,
        (false, false) => format!("{FAINT}nothing is written; --write writes it{FAINT:#}\n"),
    };
    print(&out)?;
    Ok(Verdict::Clean)
}

/// Edits of lines, as they were and as they are then.
fn changes_listed(edits: &[Edit]) -> String {
    let each =
        edits.iter().map(|Edit { line, old, new, .. }| format!("line {line}: {old}\n     is: {new}\n"));
    each.collect()
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
