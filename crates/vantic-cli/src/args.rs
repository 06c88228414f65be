//! The commands and their options.

use clap::{Args, CommandFactory, Parser, Subcommand, ValueEnum};
use std::path::PathBuf;

pub(crate) use crate::common_args::{DisplayArgs, EffortArgs, Format, Measurer, ScreenFile, TextArgs};
pub(crate) use crate::drawing_args::{DriftArgs, InferArgs};
pub(crate) use crate::edit_args::EditArgs;

/// Places the views of a screen by rules, and reports what is wrong with the rules.
#[derive(Debug, Parser)]
#[command(name = "vantic", version, arg_required_else_help = true, max_term_width = 100)]
pub(crate) struct Arguments {
    #[command(subcommand)]
    pub(crate) command: Command,
}

#[derive(Debug, Subcommand)]
pub(crate) enum Command {
    /// A guided tour on the demo screens, with pictures.
    Demo(DemoArgs),
    /// Infer rules from drawings: the simplest screen file that gives all of them.
    Infer(InferArgs),
    /// Compare a drawing with the screen: which views differ, the rules they conflict with, and how to repair either.
    Drift(DriftArgs),
    /// Check for errors, warnings and notes on all displays.
    Check(CheckArgs),
    /// Print the frames of the views, on one display or several.
    Place(PlaceArgs),
    /// Look up rules, bands, neighbours, distances and free space.
    Show(ShowArgs),
    /// Explain which rules decide a position or size, and what would change it.
    Why(WhyArgs),
    /// Edit the structure: insert and remove views, gather them into rows, tie them otherwise; shown before it is written.
    Edit(EditArgs),
    /// Sweep a range of sizes: where exactly something starts to break.
    Sweep(SweepArgs),
    /// Draw one display, a sheet of several, or a review page.
    Draw(DrawArgs),
    /// Compare two versions, displays or bands: what moved, and which rules caused it.
    Compare(CompareArgs),
    /// Format a screen file, or convert it to or from JSON.
    Fmt(FmtArgs),
    /// List the displays that screens are checked on; how to use your own.
    Displays(DisplaysArgs),
    /// Explain a finding: what it means, why it matters, an example, and how to fix it.
    About(AboutArgs),
}

/// The commands in groups, in the order of the work.
const GROUPS: [(&str, &[&str]); 7] = [
    ("Get started", &["demo"]),
    ("Begin from a drawing", &["infer", "drift"]),
    ("Find out what is wrong", &["check", "about"]),
    ("Look into a display", &["place", "show", "why", "draw"]),
    ("Change the structure", &["edit"]),
    ("Go beyond it", &["sweep", "compare"]),
    ("Files and displays", &["fmt", "displays", "help"]),
];

/// The tool's commands, whose help lists them in their groups.
pub(crate) fn command() -> clap::Command {
    let mut command = Arguments::command();
    command.build();
    let width = command.get_subcommands().map(|c| c.get_name().len()).max().unwrap_or(0);
    let mut groups = String::new();
    for (heading, names) in GROUPS {
        groups += &format!("{heading}:\n");
        for name in names {
            let about = command.find_subcommand(name).and_then(|c| c.get_about()).cloned();
            groups += &format!("  {name:width$}  {}\n", about.unwrap_or_default());
        }
        groups.push('\n');
    }
    let template = format!("{{about}}\n\n{{usage-heading}} {{usage}}\n\n{groups}Options:\n{{options}}");
    command.help_template(template)
}

#[derive(Clone, Debug, Args)]
pub(crate) struct CheckArgs {
    #[command(flatten)]
    pub(crate) screen: ScreenFile,
    /// Apply a suggested fix, such as `1a`, or several, `1a,2b`; `all` applies those that are sure, one after
    /// the other, until none is left. `1a@3f2c`, as printed by `check`, is refused if the file has changed since. The
    /// original is saved as FILE.old.
    #[arg(long, value_name = "FIXES", value_delimiter = ',', num_args = 1)]
    pub(crate) fix: Vec<String>,
    /// Take back the last edits that Vantic made of the file, then check it. Can be repeated; refused if the
    /// file has been edited since.
    #[arg(long, conflicts_with = "fix")]
    pub(crate) undo: bool,
    /// With --fix: show the edits, and write nothing.
    #[arg(long, requires = "fix", conflicts_with_all = ["no_fixes", "room"])]
    pub(crate) preview: bool,
    /// Don't search for fixes.
    #[arg(long, conflicts_with = "fix")]
    pub(crate) no_fixes: bool,
    #[command(flatten)]
    pub(crate) effort: EffortArgs,
    /// Exit with code 1 on warnings and notes too.
    #[arg(long)]
    pub(crate) strict: bool,
    /// Compare the screen with a drawing too, as with those in the file: SVG with ids (`.svg`), or the JSON that `vantic place`
    /// prints. Can be given several times.
    #[arg(long, value_name = "DRAWING")]
    pub(crate) drawing: Vec<PathBuf>,
    /// Show the table of displays even if all are clean.
    #[arg(long)]
    pub(crate) table: bool,
    /// Show how much longer each text can get before something breaks.
    #[arg(long, conflicts_with = "fix")]
    pub(crate) room: bool,
    /// Write a picture of each display that breaks a claim to this folder.
    #[arg(long, value_name = "FOLDER")]
    pub(crate) pictures: Option<PathBuf>,
    /// For people (text), for machines (json), for code review (sarif), or for build servers (junit).
    #[arg(long, value_enum, default_value_t = ReportFormat::Text)]
    pub(crate) format: ReportFormat,
    #[command(flatten)]
    pub(crate) displays: DisplayArgs,
    #[command(flatten)]
    pub(crate) texts: TextArgs,
}

/// For people, machines, code review or build servers.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub(crate) enum ReportFormat {
    /// For people.
    Text,
    /// For machines.
    Json,
    /// SARIF 2.1.0.
    Sarif,
    /// JUnit XML.
    Junit,
}

#[derive(Clone, Debug, Args)]
pub(crate) struct PlaceArgs {
    #[command(flatten)]
    pub(crate) screen: ScreenFile,
    /// Print frames relative to the parent instead of the screen.
    #[arg(long)]
    pub(crate) local: bool,
    /// Print frames in device pixels, with edges rounded so that adjacent views stay adjacent.
    #[arg(long, conflicts_with = "local")]
    pub(crate) pixels: bool,
    /// Print frames in logical pixels of the display, for a screen that is scaled from a design size.
    #[arg(long, conflicts_with_all = ["local", "pixels"])]
    pub(crate) device: bool,
    /// Print the frames as a file of expectations, to keep beside the screen file as its tests.
    #[arg(long, conflicts_with_all = ["local", "pixels", "device", "format"])]
    pub(crate) expectations: bool,
    /// For people (text) or for machines (json).
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub(crate) format: Format,
    #[command(flatten)]
    pub(crate) displays: DisplayArgs,
    #[command(flatten)]
    pub(crate) texts: TextArgs,
}

#[derive(Clone, Debug, Args)]
pub(crate) struct ShowArgs {
    #[command(subcommand)]
    pub(crate) what: Show,
}

/// What can be looked up.
#[derive(Clone, Debug, Subcommand)]
pub(crate) enum Show {
    /// The rules that touch a view, in plain words; with one display, which of them apply there.
    Rules(ShowView),
    /// The bands: where each comes from, where it is active, and what it changes.
    Bands(ShowScreen),
    /// What the sides of a view face on one display, and how far away it is.
    Neighbours(ShowView),
    /// The distances from a view to its parent, or to another view, on every display.
    Distances(ShowViews),
    /// The free space around the children of a view, or of the screen, on every display.
    Space(ShowAnyView),
    /// Distances to neighbours and shares of the parent's size: which are the same on every display, and
    /// which are not.
    Invariants(ShowAnyView),
    /// Other rules that give a view the same frame on one display.
    Alternatives(ShowView),
    /// How siblings could stand in a row or column of their own and keep their frames on one display.
    Grouping(ShowViews),
}

/// The screen, the displays, and for whom.
#[derive(Clone, Debug, Args)]
pub(crate) struct ShowScreen {
    #[command(flatten)]
    pub(crate) screen: ScreenFile,
    /// For people (text) or for machines (json).
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub(crate) format: Format,
    #[command(flatten)]
    pub(crate) displays: DisplayArgs,
    #[command(flatten)]
    pub(crate) texts: TextArgs,
}

#[derive(Clone, Debug, Args)]
pub(crate) struct ShowView {
    /// The view, such as `header.title`.
    #[arg(index = 2)]
    pub(crate) view: String,
    #[command(flatten)]
    pub(crate) of: ShowScreen,
}

#[derive(Clone, Debug, Args)]
pub(crate) struct ShowAnyView {
    /// The view, such as `header`; without it, the whole screen.
    #[arg(index = 2)]
    pub(crate) view: Option<String>,
    #[command(flatten)]
    pub(crate) of: ShowScreen,
}

#[derive(Clone, Debug, Args)]
pub(crate) struct ShowViews {
    /// The views, such as `header.title header.clock`.
    #[arg(required = true, index = 2)]
    pub(crate) views: Vec<String>,
    #[command(flatten)]
    pub(crate) of: ShowScreen,
}

#[derive(Clone, Debug, Args)]
pub(crate) struct WhyArgs {
    #[command(flatten)]
    pub(crate) screen: ScreenFile,
    /// What to explain: a coordinate such as `header.title.left`, a view for all four of its coordinates, or
    /// a rule such as `board.until` or `board#2`, for what prevents it.
    #[arg(index = 2, value_name = "VIEW.COORDINATE")]
    pub(crate) what: String,
    /// Explain what prevents a larger value.
    #[arg(long, conflicts_with = "less")]
    pub(crate) more: bool,
    /// Explain what prevents a smaller value.
    #[arg(long)]
    pub(crate) less: bool,
    /// For people (text) or for machines (json).
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub(crate) format: Format,
    #[command(flatten)]
    pub(crate) displays: DisplayArgs,
    #[command(flatten)]
    pub(crate) texts: TextArgs,
}

#[derive(Clone, Debug, Args)]
pub(crate) struct CompareArgs {
    #[command(flatten)]
    pub(crate) screen: ScreenFile,
    /// The screen file after; without it, the first is compared with itself on two displays or in two bands.
    #[arg(index = 2)]
    pub(crate) other: Option<PathBuf>,
    /// Compare the file with itself without a rule (`board#2`, `header.tall`), the rules of a view (`board`),
    /// or those of a view and everything in it (`board.*`). Lists which rules go and which stay.
    #[arg(long, value_name = "WHAT", conflicts_with_all = ["other", "band"])]
    pub(crate) without: Option<String>,
    /// With --without: write the file without those rules. The original is saved as FILE.old.
    #[arg(long, requires = "without")]
    pub(crate) write: bool,
    /// Compare two bands of one file: `--band narrow --band wide`; `none` for a display in no band.
    #[arg(long, value_name = "BAND")]
    pub(crate) band: Vec<String>,
    /// For people (text) or for machines (json).
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub(crate) format: Format,
    #[command(flatten)]
    pub(crate) displays: DisplayArgs,
    #[command(flatten)]
    pub(crate) texts: TextArgs,
}

#[derive(Clone, Debug, Args)]
pub(crate) struct SweepArgs {
    #[command(flatten)]
    pub(crate) screen: ScreenFile,
    /// The range of widths in logical pixels (default 320..1600); with --height as well, the rectangle of
    /// both.
    #[arg(long, value_name = "FROM..TO", value_parser = range, allow_hyphen_values = true)]
    pub(crate) width: Option<(f64, f64)>,
    /// The range of heights in logical pixels.
    #[arg(long, value_name = "FROM..TO", value_parser = range, allow_hyphen_values = true)]
    pub(crate) height: Option<(f64, f64)>,
    /// The range of widths, with the height in proportion.
    #[arg(long, value_name = "FROM..TO", value_parser = range, allow_hyphen_values = true, conflicts_with_all = ["width", "height"])]
    pub(crate) aspect: Option<(f64, f64)>,
    /// The range of text scales.
    #[arg(long, value_name = "FROM..TO", value_parser = range, allow_hyphen_values = true)]
    #[arg(conflicts_with_all = ["width", "height", "aspect"])]
    pub(crate) text: Option<(f64, f64)>,
    /// The range of another display setting, such as `keyboard=0..300` (a sweep tries no keyboard by itself),
    /// `top-inset=0..60` or `density=1..3`; or of a parameter of the screen, `rail=180..400`, or `rail` for all of it
    #[arg(long, value_name = "WHAT=FROM..TO", conflicts_with_all = ["width", "height", "aspect", "text"])]
    pub(crate) over: Option<String>,
    /// Also report siblings that are closer than this, in logical pixels.
    #[arg(long, value_name = "DISTANCE", default_value_t = 0.0, value_parser = gap, allow_negative_numbers = true)]
    pub(crate) gap: f64,
    #[command(flatten)]
    pub(crate) effort: EffortArgs,
    /// Write a picture, .png or .svg: a track for each view, or a map of the rectangle.
    #[arg(long, short = 'o', value_name = "FILE")]
    pub(crate) out: Option<PathBuf>,
    /// For people (text) or for machines (json).
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub(crate) format: Format,
    #[command(flatten)]
    pub(crate) displays: DisplayArgs,
    #[command(flatten)]
    pub(crate) texts: TextArgs,
}

/// A distance.
fn gap(text: &str) -> Result<f64, String> {
    let most = vantic::limits::MAX_NUMBER;
    let distance = text.parse().ok().filter(|distance| (0.0..=most).contains(distance));
    distance.ok_or_else(|| format!("expected a distance from 0 to {most}, in logical pixels"))
}

/// `320..1600`.
fn range(text: &str) -> Result<(f64, f64), String> {
    let wrong = || format!("`{text}` is not a range: write two numbers such as 320..1600");
    let (from, to) = text.split_once("..").ok_or_else(wrong)?;
    let number = |part: &str| part.trim().parse::<f64>().ok().filter(|n| n.is_finite()).ok_or_else(wrong);
    let (from, to) = (number(from)?, number(to)?);
    if from < to {
        Ok((from, to))
    } else {
        Err(format!("`{text}` is reversed or empty: write the smaller number first"))
    }
}

impl SweepArgs {
    /// A range as `--over` has it.
    pub(crate) fn range_of(text: &str) -> Result<(f64, f64), String> {
        range(text)
    }
}

#[derive(Clone, Debug, Args)]
pub(crate) struct DrawArgs {
    #[command(flatten)]
    pub(crate) screen: ScreenFile,
    /// The file to write: a picture (.png or .svg), or a review page (.html) with every display and its
    /// findings.
    #[arg(long, short = 'o', value_name = "FILE")]
    pub(crate) out: PathBuf,
    #[command(flatten)]
    pub(crate) effort: EffortArgs,
    /// Draw the rules as dimension lines with their distances (one display only).
    #[arg(long)]
    pub(crate) rules: bool,
    /// Draw the guides as thin lines (one display only).
    #[arg(long)]
    pub(crate) guides: bool,
    #[command(flatten)]
    pub(crate) displays: DisplayArgs,
}

#[derive(Clone, Debug, Args)]
pub(crate) struct FmtArgs {
    /// The screen files; `.json` for the JSON form.
    #[arg(required_unless_present = "schema")]
    pub(crate) files: Vec<PathBuf>,
    /// Convert: print the files as JSON, or as screen files.
    #[arg(long = "as", value_enum, value_name = "FORM", conflicts_with_all = ["write", "check"])]
    pub(crate) to: Option<FileForm>,
    /// Print the JSON Schema of the JSON form.
    #[arg(long, conflicts_with_all = ["files", "to", "write", "check"])]
    pub(crate) schema: bool,
    /// Write the files instead of printing them.
    #[arg(long, conflicts_with = "check")]
    pub(crate) write: bool,
    /// List the files that are not in the canonical layout, and exit with code 1 if there are any.
    #[arg(long)]
    pub(crate) check: bool,
}

/// The forms of a screen file.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub(crate) enum FileForm {
    /// A screen file.
    Vantic,
    /// JSON; comments are lost.
    Json,
}

#[derive(Clone, Debug, Args)]
pub(crate) struct DisplaysArgs {
    /// A file with displays of your own, instead of the catalogue.
    #[arg(long = "displays", value_name = "FILE")]
    pub(crate) own: Option<PathBuf>,
    /// Print the JSON Schema of such files.
    #[arg(long, conflicts_with_all = ["own", "format"])]
    pub(crate) schema: bool,
    /// For people (text) or for machines (json).
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub(crate) format: Format,
}

#[derive(Clone, Debug, Args)]
pub(crate) struct AboutArgs {
    /// The code of a finding, such as `overlap`; default: list all codes.
    pub(crate) code: Option<String>,
}

#[derive(Clone, Debug, Args)]
pub(crate) struct DemoArgs {
    /// The folder for the pictures and screen files.
    #[arg(long, value_name = "FOLDER", default_value = "vantic-demo")]
    pub(crate) out: PathBuf,
}
