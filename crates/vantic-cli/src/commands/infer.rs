//! `vantic infer`.

use crate::args::{Format, InferArgs};
use crate::drawings::drawings;
use crate::files::write_whole;
use crate::output::{
    BOLD, FAINT, YELLOW, count, fit_terminal, lines, print, print_error, print_file, print_json, table,
};
use crate::picture::{Kind, save};
use crate::session::Texts;
use crate::shown::Shown as _;
use crate::verdict::Verdict;
use anyhow::{Result, bail};
use serde_json::json;
use std::path::Path;
use vantic::display::Displays;
use vantic::drawing::Drawing;
use vantic::drift::drift;
use vantic::infer::{Inferred, infer_as};
use vantic::model::{is_name, reserved_words};
use vantic::plan::Plan;
use vantic::resolve::read;
use vantic::words::number;
use vantic_draw::{FontText, draw_beside};

/// How many views that are not met are named.
const MAX_NAMED: usize = 8;

pub(crate) fn run(args: &InferArgs) -> Result<Verdict> {
    let texts = Texts::new(&args.texts);
    let mut drawn: Vec<Drawing> = Vec::new();
    let mut notes = String::new();
    for path in &args.drawings {
        let (some, left_out) = drawings(path, &texts)?;
        drawn.extend(some);
        notes += &left_out;
    }
    let inferred = infer_as(&drawn, &texts, &name(args)?, &args.view)?;
    let file = if args.reasons { &inferred.explained } else { &inferred.text };
    if let Some(out) = &args.out {
        write_whole(out, file.as_bytes())?;
    }
    let is_met = inferred.missed.is_empty();
    notes += &shown(args, &inferred, &drawn)?;
    match (args.format, &args.out) {
        (Format::Json, _) => print_json(&machine(&inferred, &drawn))?,
        (Format::Text, Some(out)) => {
            print(&format!("wrote {}\n{notes}{}", out.shown(), about(&inferred, &drawn)))?;
        }
        (Format::Text, None) => {
            print_file(file)?;
            print_error(&format!("{notes}{}", about(&inferred, &drawn)));
        }
    }
    Ok(if is_met { Verdict::Clean } else { Verdict::Findings })
}

/// Draws what the rules give on other displays beside the first drawing, where that is asked for.
fn shown(args: &InferArgs, inferred: &Inferred, drawn: &[Drawing]) -> Result<String> {
    let (Some(first), [_, ..]) = (drawn.first(), args.show.as_slice()) else { return Ok(String::new()) };
    let plan = Plan::new(read(&inferred.text)?.screen)?;
    let screen = plan.screen();
    let fonts = FontText::new();
    // What was drawn, whatever the rules give there.
    let drawing = drift(&plan, &first.in_screen(screen), &fonts)?.drawn;
    let known = Displays::default();
    let mut placed = Vec::new();
    for name in &args.show {
        placed.push(plan.place(&known.find(name, screen)?, &fonts)?);
    }
    let mut beside = vec![(&drawing, "the drawing")];
    beside.extend(placed.iter().map(|placement| (placement, placement.display.name())));
    let out = match &args.picture {
        Some(out) => out.clone(),
        None => {
            let stem = args.drawings.first().and_then(|path| path.file_stem()).unwrap_or_default();
            format!("{}-{}.png", stem.display(), args.show[0].replace([' ', ',', ':', '@'], "-")).into()
        }
    };
    let under = "the drawing, and what the inferred rules give on other displays";
    save(&draw_beside(screen, &beside, under, &fonts), Kind::of(&out)?, &out)?;
    Ok(format!("wrote {}\n", out.shown()))
}

/// The name of the screen: as it is asked for, or that of a file.
fn name(args: &InferArgs) -> Result<String> {
    let is_free = |name: &str| is_name(name) && !reserved_words().any(|word| word == name);
    if let Some(name) = &args.name {
        if !is_free(name) {
            bail!("`{name}` is no name for a screen: letters, digits and underscores, and no reserved word");
        }
        return Ok(name.clone());
    }
    let of = |path: &Path| {
        let stem = path.file_stem()?.to_str()?;
        let name: String = stem.chars().map(|c| if c.is_alphanumeric() { c } else { '_' }).collect();
        Some(name).filter(|name| is_free(name))
    };
    let files = args.out.iter().chain(&args.drawings);
    Ok(files.filter_map(|path| of(path)).next().unwrap_or_else(|| "drawn".into()))
}

/// What there is to say of a file.
fn about(inferred: &Inferred, drawn: &[Drawing]) -> String {
    let views = drawn.iter().map(|drawing| drawing.views().len()).max().unwrap_or(0);
    let mut out = format!(
        "{BOLD}{} from {} of {}{BOLD:#}\n",
        count(inferred.rules.len(), "rule"),
        count(drawn.len(), "drawing"),
        count(views, "view"),
    );
    if inferred.slack > 0.1 {
        let by = number(inferred.slack);
        out += &format!(
            "The drawing is not exact: distances that differ by up to {by} pixels were treated as equal.\n"
        );
    }
    for band in &inferred.bands {
        let ranges = band
            .borders
            .iter()
            .map(|(side, above, most)| format!("{side} {}..{}", number(*above), number(*most)));
        let ranges: Vec<String> = ranges.collect();
        out += &format!(
            "No rules fit all drawings, so there is a band: `{}`, {}. Its breakpoint can be anywhere in {}.\n",
            band.name,
            band.condition,
            ranges.join("; ")
        );
    }
    if !inferred.otherwise.is_empty() {
        out += "\nOther rules that fit the drawings as well, and where they differ:\n";
        let mut rows = table(&["VIEW", "RULE", "OR", "DIFFERS"]);
        for other in &inferred.otherwise {
            let (width, by) = other.differs;
            let differs =
                format!("by {} at a width of {}", number((by * 10.0).round() / 10.0), number(width));
            rows.add_row(vec![other.view.clone(), other.rule.clone(), other.other.clone(), differs]);
        }
        fit_terminal(&mut rows);
        out += &lines(&rows, 2);
    }
    if inferred.missed.is_empty() {
        let given = if drawn.len() == 1 {
            "The file reproduces the drawing"
        } else {
            "The file reproduces all drawings"
        };
        return out + &format!("{FAINT}{given} to half a pixel.{FAINT:#}\n");
    }
    for (at, view, by) in inferred.missed.iter().take(MAX_NAMED) {
        let by = if by.is_finite() {
            format!("off by {}", number((by * 10.0).round() / 10.0))
        } else {
            "missing".into()
        };
        out += &format!(
            "{YELLOW}not met: `{view}` in drawing {} ({}), {by}{YELLOW:#}\n",
            at + 1,
            drawn[*at].display.name()
        );
    }
    if inferred.missed.len() > MAX_NAMED {
        out += &format!("{YELLOW}not met: {} more{YELLOW:#}\n", inferred.missed.len() - MAX_NAMED);
    }
    out
}

fn machine(inferred: &Inferred, drawn: &[Drawing]) -> serde_json::Value {
    let rules = inferred.rules.iter().map(|rule| {
        let sure = (rule.sure * 100.0).round() / 100.0;
        json!({ "view": rule.view, "rule": rule.rule, "reason": rule.reason, "sure": sure })
    });
    let bands = inferred.bands.iter().map(|band| {
        let borders = band
            .borders
            .iter()
            .map(|(side, above, most)| json!({ "side": side, "above": above, "most": most }));
        json!({ "name": band.name, "condition": band.condition, "borders": borders.collect::<Vec<_>>() })
    });
    let otherwise = inferred.otherwise.iter().map(|other| {
        let (width, by) = other.differs;
        json!({ "view": other.view, "rule": other.rule, "or": other.other, "width": width, "differs_by": by })
    });
    let missed = inferred.missed.iter().map(|(at, view, by)| {
        json!({ "drawing": drawn[*at].display.name(), "view": view, "by": by.is_finite().then_some(by) })
    });
    json!({
        "file": inferred.text,
        "rules": rules.collect::<Vec<_>>(),
        "bands": bands.collect::<Vec<_>>(),
        "otherwise": otherwise.collect::<Vec<_>>(),
        "taken_to_be_off_by": inferred.slack,
        "missed": missed.collect::<Vec<_>>(),
    })
}
