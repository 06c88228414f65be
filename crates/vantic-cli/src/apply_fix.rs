//! `vantic check --fix`: the edits of fixes, shown or made.

use crate::args::CheckArgs;
use crate::checking::check_with_fixes;
use crate::output::{BOLD, FAINT, GREEN, RED};
use crate::rewrite::{Texts, write_all};
use crate::session::{Loaded, is_json};
use crate::shown::Shown as _;
use anyhow::{Context, Result, bail};
use similar::{ChangeTag, TextDiff};
use vantic::check::Report;
use vantic::finding::{Edit, Fix, Severity, Sureness};
use vantic::fix::{edited, joined};

/// How many fixes `all` takes at most, one after the other.
const MAX_ROUNDS: usize = 100;

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
    let before = loaded.texts();
    let is_all = matches!(args.fix.as_slice(), [all] if all == "all");
    let (fixes, texts) = match args.fix.as_slice() {
        _ if is_all => every_one(args, &loaded, report)?,
        names => {
            let fixes = named(&report, &loaded.fingerprint(), names)?;
            let texts = changed(&before, &joined(&fixes))?;
            (fixes, texts)
        }
    };
    let mut out = String::new();
    for fix in &fixes {
        out += &format!("{BOLD}{}{BOLD:#}  {}\n", fix.name, fix.text);
    }
    if fixes.is_empty() {
        out += "no fix is left that is sure\n";
    }
    let fixed = loaded.with_texts(&texts).with_context(|| match fixes.len() {
        0 | 1 => "the edits do not fit the file",
        _ => "the edits do not fit together: apply one, check again, then apply the other",
    })?;
    let after = check_with_fixes(&fixed, args)?;
    if !args.preview {
        out += &write_all(&loaded.paths, &before, &texts)?;
    } else {
        for ((name, old), (_, new)) in before.iter().zip(&texts).filter(|(old, new)| old.1 != new.1) {
            out += &shown(name, old, new);
        }
        out += &format!("{FAINT}nothing was written; after the edits:{FAINT:#}\n");
    }
    let unsure = after.open().filter(|f| f.severity != Severity::Note && !f.fixes.is_empty()).count();
    if is_all && unsure > 0 {
        let (findings, have) = if unsure == 1 { ("finding", "has") } else { ("findings", "have") };
        out += &format!("{unsure} more {findings} {have} fixes that are not sure; they are listed below\n");
    }
    out.push('\n');
    Ok((fixed, after, out))
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

/// The fixes that are sure, of errors and warnings, one after the other, until none is left.
fn every_one(args: &CheckArgs, loaded: &Loaded, mut report: Report) -> Result<(Vec<Fix>, Texts)> {
    let mut texts = loaded.texts();
    let mut taken = Vec::new();
    while taken.len() < MAX_ROUNDS {
        let bad = report.findings.iter().filter(|f| f.severity != Severity::Note);
        let sure = |fix: &&Fix| fix.sureness == Sureness::Sure;
        let Some(mut fix) = bad.filter_map(|f| f.fixes.first().filter(sure)).next().cloned() else { break };
        texts = changed(&texts, &fix.edits)?;
        fix.name = (taken.len() + 1).to_string();
        taken.push(fix);
        report = check_with_fixes(&loaded.with_texts(&texts)?, args)?;
    }
    Ok((taken, texts))
}

/// The files with edits made.
fn changed(texts: &Texts, edits: &[Edit]) -> Result<Texts> {
    let one = |(name, text): &(String, String)| {
        let own: Vec<Edit> = edits.iter().filter(|e| e.file == *name).cloned().collect();
        let text = edited(text, &own).with_context(|| name.clone())?;
        Ok((name.clone(), text))
    };
    texts.iter().map(one).collect()
}

/// What becomes of a file, line by line.
fn shown(name: &str, old: &str, new: &str) -> String {
    let mut out = format!("\n{name}\n");
    let diff = TextDiff::from_lines(old, new);
    for hunk in diff.grouped_ops(1) {
        for change in hunk.iter().flat_map(|op| diff.iter_changes(op)) {
            let (sign, style) = match change.tag() {
                ChangeTag::Delete => ('-', RED),
                ChangeTag::Insert => ('+', GREEN),
                ChangeTag::Equal => (' ', FAINT),
            };
            out += &format!("{style}{sign} {}{style:#}\n", change.value().trim_end_matches(['\n', '\r']));
        }
        out.push('\n');
    }
    out
}
