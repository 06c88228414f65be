//! `vantic check`.

use crate::args::{CheckArgs, ReportFormat};
use crate::checking::check_with_fixes;
use crate::drawings::drawings;
use crate::findings::text;
use crate::output::{FAINT, print, print_error, print_json};
use crate::picture::{Kind, save};
use crate::session::{Loaded, Texts, known, load};
use crate::shown::Shown as _;
use crate::verdict::Verdict;
use anyhow::{Context, Result, bail};
use std::path::Path;
use vantic::check::{CheckOptions, LeftOut, Report, check_as};
use vantic::finding::NamedFinding;
use vantic::model::Code;
use vantic_draw::{FontText, Options, draw_display};

/// What machines get.
#[derive(serde::Serialize)]
struct Output<'a> {
    screen: &'a str,
    /// What tells the file from others, for `--fix 1a@...`.
    as_of: String,
    findings: Vec<NamedFinding>,
    /// The claims of the screen that hold.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    proven: Vec<&'a str>,
    /// What was left out, since it takes too long.
    #[serde(skip_serializing_if = "<[_]>::is_empty")]
    left_out: &'a [LeftOut],
}

pub(crate) fn run(args: &CheckArgs) -> Result<Verdict> {
    if args.format != ReportFormat::Text {
        let shown_as_text = [("table", args.table), ("room", args.room), ("preview", args.preview)];
        if let Some((option, _)) = shown_as_text.iter().find(|(_, given)| *given) {
            bail!("--{option} is shown as text only; leave out --format");
        }
    }
    let mut out = if args.undo { crate::rewrite::undo(&args.screen.file)? } else { String::new() };
    let mut loaded = load(&args.screen)?;
    let mut drawn = Vec::new();
    for path in &args.drawing {
        let (drawings, notes) = drawings(path, &Texts::new(&args.texts))?;
        print_error(&notes);
        drawn.extend(drawings);
    }
    loaded = loaded.with_drawings(drawn, known(args.displays.own.as_deref())?)?;
    let mut report = check_with_fixes(&loaded, args)?;
    if !args.fix.is_empty() {
        (loaded, report, out) = crate::apply_fix::fix(args, loaded, report)?;
    }
    // What was found is reported even where a picture of it fails.
    let (drawn, failed) = match args.pictures.as_ref().map(|folder| pictures(&loaded, &report, folder)) {
        Some(Ok(drawn)) => (drawn, None),
        Some(Err(error)) => (String::new(), Some(error)),
        None => (String::new(), None),
    };
    out += &drawn;
    match args.format {
        ReportFormat::Json => {
            let screen = loaded.plan.screen();
            let findings = report.named(screen);
            let proven = report.proven.iter().map(|(claim, _)| claim.as_str()).collect();
            let screen = screen.name();
            let left_out = &report.left_out;
            print_json(&Output { screen, as_of: loaded.fingerprint(), findings, proven, left_out })?;
        }
        ReportFormat::Sarif => print_json(&crate::report::sarif::sarif(&loaded, &report))?,
        ReportFormat::Junit => print(&crate::report::junit::junit(&loaded, &report)?)?,
        ReportFormat::Text => {
            let room =
                if args.room { crate::text_slack::text(&loaded, args, &report)? } else { String::new() };
            print(&(out + &text(&loaded, &report, args.table) + &room))?;
        }
    }
    if let Some(error) = failed {
        return Err(error);
    }
    Ok(if report.has_failed(args.strict) { Verdict::Findings } else { Verdict::Clean })
}

/// A picture of each display that breaks a claim.
fn pictures(loaded: &Loaded, report: &Report, folder: &Path) -> Result<String> {
    let mut out = String::new();
    let fonts = FontText::new();
    for finding in report.open().filter(|f| f.code == Code::Claim) {
        let worst = finding.worst.map_or("", |on| report.display_name(on));
        let display = loaded.display_named(worst, report)?;
        let there = check_as(&loaded.plan, &[display], &fonts, CheckOptions::default())?;
        let Some(picture) = draw_display(loaded.plan.screen(), &there, 0, &fonts, Options::default()) else {
            continue;
        };
        std::fs::create_dir_all(folder).with_context(|| format!("{} could not be made", folder.shown()))?;
        let name = worst.replace(|c: char| !c.is_alphanumeric() && c != '.', "-");
        let path = folder.join(format!("{}-{name}.png", finding.paths(loaded.plan.screen()).join("-")));
        save(&picture, Kind::Png, &path)?;
        out += &format!("{FAINT}wrote {}{FAINT:#}\n", path.shown());
    }
    Ok(out)
}
