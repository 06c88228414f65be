//! `vantic check --fix`: the edits of fixes, shown or made.

use crate::args::CheckArgs;
use crate::checking::check_with_fixes;
use crate::edits::{changed, shown};
use crate::output::{BOLD, FAINT, YELLOW};
use crate::rewrite::write_all;
use crate::session::{Loaded, is_json};
use crate::shown::Shown as _;
use anyhow::{Context, Result, bail};
use vantic::check::{CHECK_WORK, Report};
use vantic::finding::{Fix, Severity, Sureness};
use vantic::fix::joined;

/// How many fixes `all` takes at most, one after the other.
const MAX_ROUNDS: usize = 100;

/// How much work `all` does; one fix is made, whatever that takes.
const ALL_WORK: f64 = 2.0 * CHECK_WORK as f64;

/// What a check with the search for fixes takes at most, as a multiple of the check.
const TIMES_THE_CHECK: f64 = 3.0;

/// What was made of a screen.
struct Fixed {
    loaded: Loaded,
    report: Report,
    fixes: Vec<Fix>,
    /// Whether more fixes may be sure that there was no work left for.
    is_cut_short: bool,
}

/// Makes the edits of the fixes that were named, and checks again. What is reported of it comes before the
/// report.
pub(crate) fn fix(args: &CheckArgs, loaded: Loaded, report: Report) -> Result<(Loaded, Report, String)> {
    if is_json(&args.screen.file) {
        let shown = args.screen.file.shown();
        bail!(
            "{shown} is the JSON form of a screen; write it as a screen file first: `vantic fmt {shown} --as \
             vantic`"
        );
    }
    let (before, paths) = (loaded.texts(), loaded.paths.clone());
    let is_all = matches!(args.fix.as_slice(), [all] if all == "all");
    let done = if is_all { every_one(args, loaded, report)? } else { these(args, &loaded, &report)? };
    let Fixed { loaded, report, fixes, is_cut_short } = done;
    let texts = loaded.texts();
    let mut out = String::new();
    for fix in &fixes {
        out += &format!("{BOLD}{}{BOLD:#}  {}\n", fix.name, fix.text);
    }
    if fixes.is_empty() {
        let so = if args.preview { "there is nothing to show" } else { "nothing was changed" };
        out += &format!("no fix of an error or a warning is sure, so {so}\n");
    }
    if !args.preview {
        out += &write_all(&paths, &before, &texts)?;
    } else if !fixes.is_empty() {
        for ((name, old), (_, new)) in before.iter().zip(&texts).filter(|(old, new)| old.1 != new.1) {
            out += &shown(name, old, new);
        }
        out += &format!("{FAINT}nothing was written; after the edits:{FAINT:#}\n");
    }
    if is_cut_short {
        out += &format!(
            "{YELLOW}left out:{YELLOW:#} more fixes may be sure; run it again, or allow more work: --effort 4\n"
        );
    }
    let unsure = report.open().filter(|f| f.severity != Severity::Note && !f.fixes.is_empty()).count();
    if is_all && unsure > 0 {
        let (findings, have) = if unsure == 1 { ("finding", "has") } else { ("findings", "have") };
        out += &format!("{unsure} more {findings} {have} fixes that are not sure; they are listed below\n");
    }
    out.push('\n');
    Ok((loaded, report, out))
}

/// The fixes of these names.
fn named(report: &Report, as_of: &str, names: &[String]) -> Result<Vec<Fix>> {
    let all = || report.findings.iter().flat_map(|f| &f.fixes);
    let find = |asked: &String| {
        let name = match asked.split_once('@') {
            Some((_, of)) if of != as_of => {
                bail!("--fix {asked}: the file has changed since it was checked; check it again")
            }
            Some((name, _)) => name,
            None => asked,
        };
        let Some(fix) = all().find(|f| f.name == name) else {
            let known: Vec<&str> = all().map(|f| f.name.as_str()).collect();
            let help = if known.is_empty() {
                "none was found".to_owned()
            } else {
                format!("there are {}, or `all`", known.join(", "))
            };
            bail!("--fix {asked}: there is no such fix; {help}");
        };
        Ok(fix.clone())
    };
    names.iter().map(find).collect()
}

/// Makes the edits of the fixes that were named.
fn these(args: &CheckArgs, loaded: &Loaded, report: &Report) -> Result<Fixed> {
    let fixes = named(report, &loaded.fingerprint(), &args.fix)?;
    let texts = changed(&loaded.texts(), &joined(&fixes))?;
    let loaded = loaded.with_texts(&texts).with_context(|| match fixes.len() {
        0 | 1 => "the edits do not fit the file",
        _ => "the edits do not fit together: apply one, check again, then apply the other",
    })?;
    let report = check_with_fixes(&loaded, args)?;
    Ok(Fixed { loaded, report, fixes, is_cut_short: false })
}

/// Makes the edits of the fixes that are sure, of errors and warnings, one after the other, until none is left.
fn every_one(args: &CheckArgs, mut loaded: Loaded, mut report: Report) -> Result<Fixed> {
    let mut fixes = Vec::new();
    let mut left = ALL_WORK * args.effort.effort;
    loop {
        let bad = report.findings.iter().filter(|f| f.severity != Severity::Note);
        let sure = |fix: &&Fix| fix.sureness == Sureness::Sure;
        let next = bad.filter_map(|f| f.fixes.first().filter(sure)).next().cloned();
        left -= TIMES_THE_CHECK * report.work as f64;
        let is_cut_short = next.is_some() && !fixes.is_empty() && (left <= 0.0 || fixes.len() >= MAX_ROUNDS);
        let Some(mut fix) = next.filter(|_| !is_cut_short) else {
            return Ok(Fixed { loaded, report, fixes, is_cut_short });
        };
        loaded = loaded.with_texts(&changed(&loaded.texts(), &fix.edits)?)?;
        fix.name = (fixes.len() + 1).to_string();
        fixes.push(fix);
        report = check_with_fixes(&loaded, args)?;
    }
}
