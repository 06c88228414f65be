//! `vantic show alternatives`: other rules that give the same frame.

use crate::args::{Format, ShowView};
use crate::output::{BOLD, print, print_json};
use crate::session::load;
use crate::show::one_display::on_one_display;
use crate::verdict::Verdict;
use anyhow::Result;
use vantic::infer::{Tie, tied};

/// One way to tie a view, for machines.
#[derive(serde::Serialize)]
struct Tied {
    tie: &'static str,
    rules: Vec<String>,
}

/// The ways to tie a view that keep its frame on a display.
pub(crate) fn run(args: &ShowView) -> Result<Verdict> {
    let loaded = load(&args.of.screen)?;
    let path = args.view.as_str();
    let (screen, view, placement) = on_one_display(&loaded, path, &args.of)?;
    let all: Vec<Tied> = Tie::ALL
        .iter()
        .map(|&(name, tie)| Tied { tie: name, rules: tied(&placement, screen, view, tie) })
        .collect();
    if args.of.format == Format::Json {
        print_json(&all)?;
        return Ok(Verdict::Clean);
    }
    let on = placement.display.name();
    let mut out =
        format!("{BOLD}{path}{BOLD:#} keeps its frame on {on} with any of these instead of its rules:\n");
    for tied in &all {
        out += &format!("\n{BOLD}{}{BOLD:#}\n", tied.tie);
        tied.rules.iter().for_each(|rule| out += &format!("    {rule}\n"));
    }
    print(&out)?;
    Ok(Verdict::Clean)
}
