//! `vantic demo`: a clean screen, a faulty one, and what to do next, in one terminal.

use crate::args::DemoArgs;
use crate::files::write_whole;
use crate::findings::{one, summary};
use crate::output::{BOLD, FAINT, lines, print, table};
use crate::picture::{Kind, save};
use crate::session::{Loaded, load_text};
use crate::shown::Shown as _;
use crate::verdict::Verdict;
use anyhow::{Context, Result};
use vantic::check::{CheckOptions, Report, check};
use vantic::display::{Display, Displays, Matrix};
use vantic::finding::Severity;
use vantic_draw::{FontText, Options, draw_display, draw_sheet, review_page};

macro_rules! shipped {
    ($($path:literal),* $(,)?) => {
        /// The screens that come with the program, by file name.
        const SCREENS: &[(&str, &str)] =
            &[$(($path, include_str!(concat!("../../../../demo/", $path)))),*];
    };
}

shipped!(
    "departures.vantic",
    "boarding_pass.vantic",
    "muster_list.vantic",
    "quay_kiosk.vantic",
    "quay_wall.vantic",
    "sailings.vantic",
    "booking.vantic",
    "faults/missing_rule.vantic",
    "faults/clash.vantic",
    "faults/cut_label.vantic",
    "faults/lost_view.vantic",
    "faults/overlap.vantic",
);

/// The screen that is shown clean on every display; of the others, one line each.
const CLEAN: &str = "departures.vantic";

/// The screen of which a page for a review is written, and the page.
const PAGE_OF: &str = "booking.vantic";

const PAGE: &str = "booking.html";

/// The folder of the screens with a fault; the one that is shown, and the display for it.
const FAULTS: &str = "faults/";

const FAULTY: &str = "faults/overlap.vantic";

const FAULTY_ON: &str = "handset-small";

pub(crate) fn run(args: &DemoArgs) -> Result<Verdict> {
    let folder = args.out.as_path();
    std::fs::create_dir_all(folder.join(FAULTS))
        .with_context(|| format!("the folder {} could not be made", folder.shown()))?;
    for (name, text) in SCREENS {
        write_whole(&folder.join(name), text.as_bytes())?;
    }
    let fonts = FontText::new();
    let displays: Vec<Display> = Displays::default().all();
    let shown = |name: &str| folder.join(name).shown();

    let clean = shipped(CLEAN)?;
    let report = check(&clean.plan, &displays, &fonts)?;
    let sheet = draw_sheet(clean.plan.screen(), &report, &fonts);
    save(&sheet, Kind::Png, &folder.join("departures.png"))?;
    let mut out = format!("{BOLD}1  One screen, every display{BOLD:#}   {}\n", shown(CLEAN));
    out += &a_few_frames(&clean, &report);
    let line = |said: String, path: &str| {
        format!("   {}   {FAINT}{}{FAINT:#}\n", said.trim_end(), folder.join(path).shown())
    };
    out.push('\n');
    out += &line(summary(&clean, &report), "departures.png");
    let others = SCREENS.iter().map(|s| s.0).filter(|name| *name != CLEAN && !name.starts_with(FAULTS));
    for name in others {
        let other = shipped(name)?;
        let screen = other.plan.screen();
        // In every language and state that it has.
        let tried = Matrix::of(displays.clone()).all_of(screen).displays(screen)?;
        let report = check(&other.plan, &tried, &fonts)?;
        let shown = if name == PAGE_OF { PAGE } else { name };
        if name == PAGE_OF {
            write_whole(&folder.join(PAGE), review_page(screen, &report, &fonts).as_bytes())?;
        }
        out += &line(summary(&other, &report), shown);
    }
    out.push('\n');

    let faulty = shipped(FAULTY)?;
    let mut report = check(&faulty.plan, &displays, &fonts)?;
    faulty.add_fixes(&mut report, &fonts, CheckOptions::default());
    let one_display: Vec<Display> = displays.iter().filter(|d| d.name() == FAULTY_ON).cloned().collect();
    let there = check(&faulty.plan, &one_display, &fonts)?;
    let picture = draw_display(faulty.plan.screen(), &there, 0, &fonts, Options::default())
        .context("the demo's display is in the catalogue")?;
    save(&picture, Kind::Png, &folder.join("overlap.png"))?;
    out += &format!("{BOLD}2  The same screen with one rule removed{BOLD:#}   {}\n", shown(FAULTY));
    for finding in report.open().filter(|f| f.severity != Severity::Note && f.fixed_by.is_none()) {
        out += &indented(&one(&faulty, &report, finding));
        out.push('\n');
    }
    out += &line(summary(&faulty, &report), "overlap.png");
    out.push('\n');

    out += &format!("{BOLD}3  Next{BOLD:#}\n");
    // As this program was called, so that the lines can be copied.
    let vantic = std::env::args().next().unwrap_or_else(|| "vantic".into());
    let draw = format!("draw {} -d tablet --rules -o tablet.png", shown("boarding_pass.vantic"));
    for (command, what) in [
        (format!("check {}", shown("faults/clash.vantic")), "two rules that conflict, and which two"),
        (
            format!("check {}", shown("faults/missing_rule.vantic")),
            "an underconstrained view, and the interval it can be in",
        ),
        (draw, "a picture with the distances that the rules set"),
    ] {
        out += &format!("   {FAINT}{what}:{FAINT:#}\n   {vantic} {command}\n");
    }
    print(&out)?;
    Ok(Verdict::Clean)
}

fn shipped(name: &str) -> Result<Loaded> {
    let text = SCREENS.iter().find(|s| s.0 == name).map_or("", |s| s.1);
    load_text(name, text)
}

/// Where a few of the views land on three very different displays.
fn a_few_frames(loaded: &Loaded, report: &Report) -> String {
    let screen = loaded.plan.screen();
    let on = ["handset-small", "handset-small-turned", "wall"];
    let placements: Vec<_> =
        on.iter().filter_map(|n| report.placements.iter().find(|p| p.display.name() == *n)).collect();
    let header: Vec<&str> =
        std::iter::once("view").chain(placements.iter().map(|p| p.display.name())).collect();
    let mut rows = table(&header);
    for path in ["header", "board.first", "board.fifth", "notice"] {
        let Some(view) = screen.find(path) else { continue };
        let mut row = vec![path.to_owned()];
        row.extend(placements.iter().map(|p| p.frame(view).map_or("hidden".to_owned(), |f| f.to_string())));
        rows.add_row(row);
    }
    lines(&rows, 2)
}

fn indented(text: &str) -> String {
    text.lines().map(|l| format!("   {l}\n")).collect()
}
