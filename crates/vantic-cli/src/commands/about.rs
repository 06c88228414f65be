//! `vantic about`: a finding explained.

use crate::args::AboutArgs;
use crate::output::{BOLD, FAINT, lines, print, table};
use crate::verdict::Verdict;
use anyhow::{Result, bail};
use vantic::model::Code;

/// The page that explains them all.
const PAGE: &str = include_str!("../../../../docs/findings.md");

/// The section of a code, its heading left out.
fn section(code: Code) -> &'static str {
    let heading = format!("\n## `{}`\n", code.name());
    let from = PAGE.find(&heading).map_or(PAGE.len(), |at| at + heading.len());
    let rest = &PAGE[from..];
    rest[..rest.find("\n## ").unwrap_or(rest.len())].trim()
}

pub(crate) fn run(args: &AboutArgs) -> Result<Verdict> {
    let Some(name) = &args.code else {
        let mut rows = table(&["code", "how bad", "what is wrong"]);
        for code in Code::ALL {
            let (severity, rest) = section(code).split_once("** ").unwrap_or_default();
            let what = rest.split(['.', ':', ';', '(', ',']).next().unwrap_or_default();
            rows.add_row([code.name(), severity.trim_start_matches("**"), what.trim()]);
        }
        print(&format!("{}\n{FAINT}`vantic about CODE` explains one{FAINT:#}\n", lines(&rows, 0)))?;
        return Ok(Verdict::Clean);
    };
    let Some(code) = Code::find(name) else {
        let known: Vec<&str> = Code::ALL.iter().map(|c| c.name()).collect();
        bail!("there is no finding `{name}`; there are {}", known.join(", "));
    };
    let mut out = format!("{BOLD}{name}{BOLD:#}\n\n");
    let mut in_code = false;
    for line in section(code).lines() {
        if line.starts_with("```") {
            in_code = !in_code;
            continue;
        }
        if in_code {
            out += &format!("    {line}\n");
        } else {
            out += &crate::output::wrapped(&line.replace("**", ""), 0);
        }
    }
    print(&out)?;
    Ok(Verdict::Clean)
}
