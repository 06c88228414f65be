//! `vantic show rules`: every rule that touches a view.

use crate::args::{Format, ShowView};
use crate::output::{BOLD, count, fit_terminal, lines, print, print_json, table};
use crate::session::{Defaults, Texts, displays, load, view_of};
use crate::verdict::Verdict;
use anyhow::{Result, bail};
use vantic::model::{RuleRef, Screen};
use vantic::plan::Placement;

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
    /// On the one display that was named: whether it counts there, and caused by what.
    #[serde(skip_serializing_if = "Option::is_none")]
    here: Option<&'static str>,
    sentence: String,
}

/// Whether a rule counts in a placement: written without a band and not replaced, it is inherited; else it is
/// that of a band that holds there.
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
        (RuleRef::Arranged { view, band, .. }, named) => {
            match screen.band_of_arrangement(view, placement.canvas()) == band {
                true if band.is_some() => "of the band",
                true => "inherited",
                false if named.is_some_and(|name| !holds(name)) => "not here",
                false => "replaced",
            }
        }
        _ => "inherited",
    }
}

/// Every rule that touches a view, in sentences.
pub(crate) fn run(args: &ShowView) -> Result<Verdict> {
    let loaded = load(&args.of.screen)?;
    let (screen, path) = (loaded.plan.screen(), args.view.as_str());
    let view = view_of(screen, path)?;
    let named = match args.of.displays.is_unset() {
        true => Vec::new(),
        false => displays(&args.of.displays, screen, Defaults::First)?,
    };
    let placement = match named.as_slice() {
        [] => None,
        [display] => Some(loaded.plan.place(display, &Texts::new(&args.of.texts))?),
        many => bail!("name one display, such as `--display 390x844`: this names {}", many.len()),
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
    if args.of.format == Format::Json {
        print_json(&Listing { screen: screen.name(), view: path, rules: touching })?;
        return Ok(Verdict::Clean);
    }
    let own = touching.iter().filter(|t| t.own).count();
    let (of_its_own, others) = (count(own, "rule"), touching.len() - own);
    let mut out = format!("{BOLD}{path}{BOLD:#}: {of_its_own} of its own, {others} of other views\n\n");
    let on = placement.as_ref().map(|p| format!("on {}", p.display.name()));
    let head: Vec<&str> =
        ["line", "rule", "level", "band"].into_iter().chain(on.as_deref()).chain(["meaning"]).collect();
    let mut rows = table(&head);
    fit_terminal(&mut rows);
    for t in &touching {
        let line = t.line.map_or_else(String::new, |l| l.to_string());
        let line = match &t.file {
            Some(file) => format!("{line} of {file}"),
            None => line,
        };
        let (level, band) = (t.level.unwrap_or("required"), t.band.unwrap_or("always"));
        let row =
            [&line, t.rule.as_str(), level, band].into_iter().chain(t.here).chain([t.sentence.as_str()]);
        rows.add_row(row);
    }
    out += &lines(&rows, 0);
    print(&out)?;
    Ok(Verdict::Clean)
}
