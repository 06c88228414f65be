//! `vantic check --fix`: the edits of ways out, shown or made.

use crate::args::CheckArgs;
use crate::check::looked_at;
use crate::input::{Loaded, is_json, read_file};
use crate::output::{BOLD, FAINT, GREEN, RED, write_whole};
use anyhow::{Context, Result, bail};
use similar::{ChangeTag, TextDiff};
use std::path::{Path, PathBuf};
use vantic::check::Report;
use vantic::finding::{Edit, Fix, Severity};
use vantic::fix::edited;

/// How many ways out `all` takes at most, one after the other.
const MAX_ROUNDS: usize = 100;

/// The files of a screen by name, with their texts.
pub(crate) type Texts = Vec<(String, String)>;

/// Makes the edits of the ways out that were named, and checks again. What is told of it comes before the report.
pub(crate) fn fix(args: &CheckArgs, loaded: Loaded, report: Report) -> Result<(Loaded, Report, String)> {
    if is_json(&args.file) {
        let shown = args.file.display();
        bail!(
            "{shown} is the JSON form of a screen; write it as a screen file first: `vantic fmt {shown} --as vantic`"
        );
    }
    let before = loaded.texts();
    let (fixes, texts) = match args.fix.as_slice() {
        [all] if all == "all" => every_one(args, &loaded, report)?,
        names => {
            let fixes = named(&report, &loaded.as_of(), names)?;
            let edits: Vec<Edit> = fixes.iter().flat_map(|f| f.edits.clone()).collect();
            let texts = changed(&before, &edits)?;
            (fixes, texts)
        }
    };
    let mut told = String::new();
    for fix in &fixes {
        told += &format!("{BOLD}{}{BOLD:#}  {}\n", fix.name, fix.text);
    }
    if fixes.is_empty() {
        told += "no way out is left that could be taken\n";
    }
    let mended = loaded.with_texts(&texts)?;
    let after = looked_at(&mended, args)?;
    if !args.preview {
        told += &write_all(&before, &texts)?;
    } else {
        for ((name, old), (_, new)) in before.iter().zip(&texts).filter(|(old, new)| old.1 != new.1) {
            told += &shown(name, old, new);
        }
        told += &format!("{FAINT}nothing was written; with the edits:{FAINT:#}\n");
    }
    told.push('\n');
    Ok((mended, after, told))
}

/// The ways out of these names.
fn named(report: &Report, as_of: &str, names: &[String]) -> Result<Vec<Fix>> {
    let all = || report.findings.iter().flat_map(|f| &f.fixes);
    let find = |told: &String| {
        let name = match told.split_once('@') {
            Some((_, of)) if of != as_of => {
                bail!("--fix {told}: the file has changed since it was checked; check it again")
            }
            Some((name, _)) => name,
            None => told,
        };
        let Some(fix) = all().find(|f| f.name == name) else {
            let known: Vec<&str> = all().map(|f| f.name.as_str()).collect();
            let help = if known.is_empty() {
                "none was found".to_owned()
            } else {
                format!("there are {}, or `all`", known.join(", "))
            };
            bail!("--fix {told}: there is no such way out; {help}");
        };
        Ok(fix.clone())
    };
    names.iter().map(find).collect()
}

/// The first way out of each error and warning, one after the other, until none is left.
fn every_one(args: &CheckArgs, loaded: &Loaded, mut report: Report) -> Result<(Vec<Fix>, Texts)> {
    let mut texts = loaded.texts();
    let mut taken = Vec::new();
    while taken.len() < MAX_ROUNDS {
        let bad = report.findings.iter().filter(|f| f.severity != Severity::Note);
        let Some(fix) = bad.filter_map(|f| f.fixes.first()).next().cloned() else { break };
        texts = changed(&texts, &fix.edits)?;
        taken.push(Fix { name: (taken.len() + 1).to_string(), ..fix });
        report = looked_at(&loaded.with_texts(&texts)?, args)?;
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

/// Writes the files that changed, and says where they are kept as they were.
pub(crate) fn write_all(before: &Texts, texts: &Texts) -> Result<String> {
    let mut told = String::new();
    for ((name, old), (_, new)) in before.iter().zip(texts).filter(|(old, new)| old.1 != new.1) {
        let kept = written(Path::new(name), old, new)?;
        told += &format!("{FAINT}wrote {name}; as it was, it is {}{FAINT:#}\n", kept.display());
    }
    Ok(told)
}

/// Writes a file whole, unless it is another than the one that was read; where the old one is kept.
fn written(path: &Path, old: &str, new: &str) -> Result<PathBuf> {
    let shown = path.display();
    if read_file(path)? != old.as_bytes() {
        bail!("{shown} has changed meanwhile; nothing was written. Check it again");
    }
    if std::fs::metadata(path).with_context(|| format!("{shown} could not be read"))?.permissions().readonly()
    {
        bail!("{shown} may not be written; nothing was. Make it writable, or mend a copy of it");
    }
    let kept = (0..).map(|number| {
        let ending = if number == 0 { ".old".to_owned() } else { format!(".old{}", number + 1) };
        let mut name = path.as_os_str().to_owned();
        name.push(ending);
        PathBuf::from(name)
    });
    let kept =
        kept.into_iter().find(|kept| !kept.exists()).unwrap_or_else(|| unreachable!("there is no end"));
    write_whole(&kept, old.as_bytes())?;
    write_whole(path, new.as_bytes())?;
    Ok(kept)
}
