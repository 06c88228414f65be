//! `vantic fmt`.

use crate::args::{FileForm, FmtArgs};
use crate::files::read_file;
use crate::files::write_over;
use crate::output::{print, print_file};
use crate::session::{is_json, text_of_json};
use crate::shown::Shown as _;
use crate::source_errors::show;
use crate::verdict::Verdict;
use anyhow::{Context, Result};
use std::path::Path;
use vantic::files::Assembled;
use vantic::json::Form;
use vantic::syntax::format;

pub(crate) fn run(args: &FmtArgs) -> Result<Verdict> {
    if args.schema {
        print(&Form::schema())?;
        return Ok(Verdict::Clean);
    }
    let mut verdict = Verdict::Clean;
    let mut formatted = Vec::new();
    // Every file is formatted before one is written.
    for path in &args.files {
        let bytes = read_file(path)?;
        let given = if is_json(path) { FileForm::Json } else { FileForm::Vantic };
        let (text, canonical) = canonical(path, bytes, given, args.to.unwrap_or(given))?;
        formatted.push((path, text, canonical));
    }
    for (path, text, canonical) in formatted {
        if args.check {
            if text != canonical {
                verdict = Verdict::Findings;
                print(&format!("{} is not in the canonical layout\n", path.shown()))?;
            }
        } else if !args.write {
            print_file(&canonical)?;
        } else if text != canonical {
            write_over(path, canonical.as_bytes(), text.as_bytes())?;
            print(&format!("wrote {}\n", path.shown()))?;
        }
    }
    Ok(verdict)
}

/// A file as it is, and its canonical layout in a form.
fn canonical(path: &Path, bytes: Vec<u8>, given: FileForm, to: FileForm) -> Result<(String, String)> {
    let name = path.shown();
    let written = String::from_utf8(bytes).with_context(|| format!("{name} is not a text file"))?;
    let text = match given {
        FileForm::Json => text_of_json(path, written.as_bytes())?,
        FileForm::Vantic => written.clone(),
    };
    let canonical = match to {
        FileForm::Json => Form::of(&text).map(|form| form.to_json()),
        FileForm::Vantic => format(&text),
    };
    let canonical = canonical.map_err(|errors| show(&Assembled::alone(&name, &text), &errors))?;
    Ok((written, canonical))
}
