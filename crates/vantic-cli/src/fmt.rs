//! `vantic fmt`.

use crate::Verdict;
use crate::args::FmtArgs;
use crate::input::read_file;
use crate::output::{print, write_whole};
use crate::wrong::show;
use anyhow::{Context, Result};
use vantic::format;

pub(crate) fn run(args: &FmtArgs) -> Result<Verdict> {
    let mut verdict = Verdict::Clean;
    let mut formatted = Vec::new();
    // Every file is formatted before one is written.
    for path in &args.files {
        let name = path.display().to_string();
        let text =
            String::from_utf8(read_file(path)?).with_context(|| format!("{name} is not a text file"))?;
        let canonical = format(&text).map_err(|errors| show(&name, &text, &errors))?;
        formatted.push((path, text, canonical));
    }
    for (path, text, canonical) in formatted {
        if args.check {
            if text != canonical {
                verdict = Verdict::Findings;
                print(&format!("{} is not in the canonical layout\n", path.display()))?;
            }
        } else if !args.write {
            print(&canonical)?;
        } else if text != canonical {
            write_whole(path, canonical.as_bytes())?;
            print(&format!("wrote {}\n", path.display()))?;
        }
    }
    Ok(verdict)
}
