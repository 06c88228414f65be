//! `vantic compare --without`: what goes with a rule or with the rules of a view, and what comes of that.

use crate::args::CompareArgs;
use crate::new_findings::{new_findings, wrong_then};
use crate::output::{BOLD, count, fit_terminal, lines, table};
use crate::rewrite::write_all;
use crate::session::{Loaded, is_json, view_of};
use anyhow::{Result, bail};
use serde_json::{Value, json};
use std::collections::BTreeSet;
use vantic::model::{RuleId, RuleRef, ViewId};

/// A file without some of its rules.
pub(crate) struct ReducedFile {
    pub(crate) loaded: Loaded,
    /// What went and what stayed, and what is wrong then, for people and for machines.
    pub(crate) output: (String, Value),
    /// What to say of what was written.
    pub(crate) wrote: String,
}

/// What is meant by a name on the command line: its rules, and the views that they are the rules of.
fn meant(loaded: &Loaded, what: &str) -> Result<(BTreeSet<RuleId>, Vec<ViewId>)> {
    let screen = loaded.plan.screen();
    let called = screen.rules_called(what);
    if !called.is_empty() {
        return Ok((called.into_iter().collect(), Vec::new()));
    }
    let (path, inside) = what.strip_suffix(".*").map_or((what, false), |path| (path, true));
    let view = view_of(screen, path)?;
    let is_meant = |of: ViewId| of == view || inside && screen.path(of).starts_with(&format!("{path}."));
    let views: Vec<ViewId> = screen.views().map(|(of, _)| of).filter(|of| is_meant(*of)).collect();
    let owned = |owner: Option<ViewId>| owner.is_some_and(|owner| views.contains(&owner));
    let rules: BTreeSet<RuleId> =
        screen.rules().filter(|(_, rule)| owned(rule.owner())).map(|(id, _)| id).collect();
    if rules.is_empty() {
        bail!(
            "`{what}` has no rules to remove; `vantic show rules FILE {path}` lists the rules that affect it"
        );
    }
    Ok((rules, views))
}

/// The file without what `--without` names, written where `--write` says so.
pub(crate) fn less(args: &CompareArgs, first: &Loaded, what: &str) -> Result<ReducedFile> {
    if is_json(&args.screen.file) {
        bail!("--without removes rules from a screen file; convert it first: `vantic fmt FILE --as vantic`");
    }
    let screen = first.plan.screen();
    let (named, views) = meant(first, what)?;
    // What is written once for several views goes for all of them.
    let written = |rule: RuleId| first.line_span(rule);
    let spans: BTreeSet<_> = named.iter().filter_map(|&rule| written(rule)).collect();
    let goes: BTreeSet<RuleId> = screen
        .rules()
        .map(|(id, _)| id)
        .filter(|&id| written(id).is_some_and(|s| spans.contains(&s)))
        .collect();
    let before = first.texts();
    let texts = first.without(&goes.iter().copied().collect::<Vec<_>>());
    let loaded = first.with_texts(&texts)?;
    let mut rows = table(&["line", "rule", "", "meaning"]);
    fit_terminal(&mut rows);
    let mut add = |rule: RuleRef, how: &str| {
        let line = first.line(rule).map_or_else(String::new, |(line, _)| line.to_string());
        rows.add_row([line, rule.name(screen), how.to_owned(), screen.sentence(rule)]);
    };
    let each = |rule: RuleId| {
        let relations = screen.rule(rule).map_or(0, |r| r.relations().len());
        (0..relations).map(move |relation| RuleRef::Written { rule, relation })
    };
    for &rule in &goes {
        each(rule).for_each(|part| add(part, if named.contains(&rule) { "goes" } else { "goes with it" }));
    }
    let touching: BTreeSet<RuleRef> = views.iter().flat_map(|&view| screen.rules_of(view)).collect();
    let stays = |part: &&RuleRef| match part {
        RuleRef::Written { rule, .. } => !goes.contains(rule),
        _ => true,
    };
    let staying: Vec<RuleRef> = touching.iter().filter(stays).copied().collect();
    staying.iter().for_each(|&part| add(part, "stays"));
    let checked = wrong_then((&args.displays, &args.texts), first, &loaded)?;
    let names = |some: &[RuleRef]| -> Vec<String> { some.iter().map(|part| part.name(screen)).collect() };
    let rule_names = |with: bool| -> Vec<String> {
        let some = goes.iter().filter(|rule| named.contains(rule) != with);
        let mut names: Vec<String> =
            some.map(|&rule| RuleRef::Written { rule, relation: 0 }.name(screen)).collect();
        // A rule of bands has the name of the one that it replaces.
        names.dedup();
        names
    };
    let json = json!({
        "what": what, "goes": rule_names(false), "goes_with": rule_names(true), "stays": names(&staying),
        "wrong": checked.as_ref().map(|(wrong, _)| wrong),
        "left_out": checked.as_ref().map(|(_, left_out)| left_out),
    });
    let mut text = format!(
        "without {BOLD}{what}{BOLD:#}: {} removed; {} about it {}\n\n{}\n",
        count(goes.len(), "rule"),
        count(staying.len(), "other"),
        if staying.len() == 1 { "stays" } else { "stay" },
        lines(&rows, 0)
    );
    text += &new_findings(checked.as_ref());
    let output = (text, json);
    let wrote = if args.write { write_all(&first.paths, &before, &texts)? } else { String::new() };
    Ok(ReducedFile { loaded, output, wrote })
}
