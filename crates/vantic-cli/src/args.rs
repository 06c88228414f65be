//! The commands and their options.

use clap::{Args, Parser, Subcommand, ValueEnum};
use std::path::PathBuf;

/// Places the views of a screen by rules, and says what is wrong with the rules.
#[derive(Debug, Parser)]
#[command(name = "vantic", version, arg_required_else_help = true, max_term_width = 100)]
pub(crate) struct Arguments {
    #[command(subcommand)]
    pub(crate) command: Command,
}

#[derive(Debug, Subcommand)]
pub(crate) enum Command {
    /// Run the whole story on the screens that come with the program.
    Demo(DemoArgs),
    /// Everything wrong or doubtful about a screen, on all displays.
    Check(CheckArgs),
    /// The frames of a screen's views, on one display or several side by side.
    Place(PlaceArgs),
    /// Look up rules, bands, neighbours, distances and free space.
    Show(ShowArgs),
    /// Which rules decide where something is, and what it would take to change it.
    Why(WhyArgs),
    /// A whole range of sizes: where it starts to break, exactly.
    Sweep(SweepArgs),
    /// A picture of one display, or a sheet of several.
    Draw(DrawArgs),
    /// What moved between two versions, displays or bands, and which rules made it so.
    Compare(CompareArgs),
    /// The canonical layout of a screen file, or its JSON form.
    Fmt(FmtArgs),
    /// The displays that screens are checked on, and how to use one's own.
    Displays(DisplaysArgs),
    /// A finding explained: what it is, why it matters, an example, and how to mend it.
    About(AboutArgs),
}

/// Which displays to use.
#[derive(Clone, Debug, Args)]
pub(crate) struct DisplayArgs {
    /// A display: WIDTHxHEIGHT in logical pixels, an aspect with one side (16:9@720w), or a name from `vantic displays`;
    /// behind commas what else holds there ("tablet, right to left, text 1.3"). May be given many times. Without it: the
    /// whole catalogue, each in its orientations.
    #[arg(long = "display", short = 'd', value_name = "DISPLAY")]
    pub(crate) displays: Vec<String>,

    /// A file with displays of your own, instead of the catalogue; `vantic displays --schema` says what it holds.
    #[arg(long = "displays", value_name = "FILE")]
    pub(crate) own: Option<PathBuf>,

    /// Each display turned by a quarter as well.
    #[arg(long)]
    pub(crate) turn: bool,

    /// The insets of each WIDTHxHEIGHT, upright: left,top,right,bottom in logical pixels.
    #[arg(long, value_name = "L,T,R,B", value_delimiter = ',', num_args = 1)]
    pub(crate) insets: Vec<f64>,

    /// The reader's text scales to try, such as `1,1.5,2`.
    #[arg(long, value_name = "FACTORS", value_delimiter = ',', num_args = 1)]
    pub(crate) text_scale: Vec<f64>,

    /// The languages to try, such as `fi,he`: of those that the screen has words in, `own` for its own words, `all`, or
    /// `pseudo` for words that are accented and 40% longer. Check tries all without it.
    #[arg(long, value_name = "NAMES", value_delimiter = ',', num_args = 1)]
    pub(crate) language: Vec<String>,

    /// An alternative of a state to show, `menu=open`, or `all`. May be given for several states. Check tries all
    /// without it.
    #[arg(long, value_name = "STATE=SHOWN")]
    pub(crate) state: Vec<String>,

    /// A keyboard on the screen, this high in logical pixels; rules read what is left as `clear`.
    #[arg(long, value_name = "HEIGHT", default_value_t = 0.0)]
    pub(crate) keyboard: f64,

    /// Scroll a view so far, in logical pixels: `board=120`, `board=end`, or along the reading direction and
    /// down, `board=40,120`. May be given for several views.
    #[arg(long, value_name = "VIEW=BY")]
    pub(crate) scroll: Vec<String>,

    /// Read from right to left.
    #[arg(long)]
    pub(crate) right_to_left: bool,

    /// Read from left to right, and from right to left.
    #[arg(long, conflicts_with = "right_to_left")]
    pub(crate) both_directions: bool,
}

impl DisplayArgs {
    /// Whether nothing of a display is named.
    pub(crate) fn is_unset(&self) -> bool {
        self.displays.is_empty()
    }
}

/// How texts are measured.
#[derive(Clone, Debug, Args)]
pub(crate) struct TextArgs {
    /// What measures texts: the font that comes with the program, or sums for tests.
    #[arg(long, value_enum, default_value_t = Measurer::Font)]
    pub(crate) measure: Measurer,

    /// Every word this many percent longer, as in another language.
    #[arg(long, value_name = "PERCENT", default_value_t = 0.0, value_parser = percent)]
    pub(crate) longer: f64,
}

fn percent(text: &str) -> Result<f64, String> {
    match text.trim_end_matches('%').parse() {
        Ok(percent) if (-90.0..=1000.0).contains(&percent) => Ok(percent),
        _ => Err("a percentage from -90 to 1000, such as 30".into()),
    }
}

/// What measures texts.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub(crate) enum Measurer {
    /// The font that comes with the program.
    Font,
    /// Every character half the font size wide, lines broken at blanks.
    Plain,
    /// The same, but lines = ceil(width on one line / width), wherever words end.
    Even,
}

/// For people, or for machines.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub(crate) enum Format {
    /// For people.
    Text,
    /// For machines.
    Json,
}

#[derive(Clone, Debug, Args)]
pub(crate) struct CheckArgs {
    /// The screen file.
    pub(crate) file: PathBuf,
    #[command(flatten)]
    pub(crate) displays: DisplayArgs,
    #[command(flatten)]
    pub(crate) texts: TextArgs,
    /// Tell overlaps by the bounds of what is painted, turned and scaled, not by the frames.
    #[arg(long)]
    pub(crate) painted: bool,
    /// Make the edits of a way out, such as `1a`, or of several, `1a,2b`; `all` takes the first way out of each finding, one
    /// after the other. `1a@3f2c`, as a check tells it, is refused where the file has changed since. The file as it was is
    /// kept beside it.
    #[arg(long, value_name = "WAYS", value_delimiter = ',', num_args = 1)]
    pub(crate) fix: Vec<String>,
    /// With --fix: show what would be edited, and write nothing.
    #[arg(long, requires = "fix")]
    pub(crate) preview: bool,
    /// Look for no ways out of what is found.
    #[arg(long, conflicts_with = "fix")]
    pub(crate) no_ways: bool,
    /// Exit with 1 on warnings and notes too.
    #[arg(long)]
    pub(crate) strict: bool,
    /// Show the table of displays where all are clean, too.
    #[arg(long)]
    pub(crate) table: bool,
    /// How much longer the words of each text could get before something breaks.
    #[arg(long, conflicts_with = "fix")]
    pub(crate) room: bool,
    /// A folder for a picture of each display that breaks a claim.
    #[arg(long, value_name = "FOLDER")]
    pub(crate) pictures: Option<PathBuf>,
    /// For people (text), for machines (json), for code review (sarif), or for build servers (junit).
    #[arg(long, value_enum, default_value_t = ReportFormat::Text)]
    pub(crate) format: ReportFormat,
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
    /// The screen file.
    pub(crate) file: PathBuf,
    #[command(flatten)]
    pub(crate) displays: DisplayArgs,
    #[command(flatten)]
    pub(crate) texts: TextArgs,
    /// Frames from the top left corner of the view around each, not from the screen's.
    #[arg(long)]
    pub(crate) local: bool,
    /// Frames in whole pixels of the display, with edges rounded so that what touches still touches.
    #[arg(long, conflicts_with = "local")]
    pub(crate) pixels: bool,
    /// Frames in logical pixels of the display, where the screen is drawn for a size and scaled.
    #[arg(long, conflicts_with_all = ["local", "pixels"])]
    pub(crate) device: bool,
    /// The frames as a file of expectations, to be kept beside the screen file as its tests.
    #[arg(long, conflicts_with_all = ["local", "pixels", "device", "format"])]
    pub(crate) expectations: bool,
    /// For people (text) or for machines (json).
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub(crate) format: Format,
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
    /// Distances to neighbours and shares of the parent's size: which are the same on every display, and which are not.
    Invariants(ShowAnyView),
    /// Other rules that give a view the same frame on one display.
    Alternatives(ShowView),
    /// How siblings could stand in a row or column of their own and keep their frames on one display.
    Grouping(ShowViews),
}

/// The screen, the displays, and for whom.
#[derive(Clone, Debug, Args)]
pub(crate) struct ShowScreen {
    /// The screen file.
    pub(crate) file: PathBuf,
    #[command(flatten)]
    pub(crate) displays: DisplayArgs,
    #[command(flatten)]
    pub(crate) texts: TextArgs,
    /// For people (text) or for machines (json).
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub(crate) format: Format,
}

#[derive(Clone, Debug, Args)]
pub(crate) struct ShowView {
    #[command(flatten)]
    pub(crate) of: ShowScreen,
    /// The view, such as `header.title`.
    pub(crate) view: String,
}

#[derive(Clone, Debug, Args)]
pub(crate) struct ShowAnyView {
    #[command(flatten)]
    pub(crate) of: ShowScreen,
    /// The view, such as `header`; without it, the whole screen.
    pub(crate) view: Option<String>,
}

#[derive(Clone, Debug, Args)]
pub(crate) struct ShowViews {
    #[command(flatten)]
    pub(crate) of: ShowScreen,
    /// The views, such as `header.title header.clock`.
    #[arg(required = true)]
    pub(crate) views: Vec<String>,
}

#[derive(Clone, Debug, Args)]
pub(crate) struct WhyArgs {
    /// The screen file.
    pub(crate) file: PathBuf,
    /// What to explain: a coordinate such as `header.title.left`, a view for all four of its, or a rule such as
    /// `board.until` or `board#2`, for what keeps it from holding.
    #[arg(value_name = "VIEW.COORDINATE")]
    pub(crate) what: String,
    /// What keeps the coordinate from being larger.
    #[arg(long, conflicts_with = "less")]
    pub(crate) more: bool,
    /// What keeps the coordinate from being smaller.
    #[arg(long)]
    pub(crate) less: bool,
    #[command(flatten)]
    pub(crate) displays: DisplayArgs,
    #[command(flatten)]
    pub(crate) texts: TextArgs,
    /// For people (text) or for machines (json).
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub(crate) format: Format,
}

#[derive(Clone, Debug, Args)]
pub(crate) struct CompareArgs {
    /// The screen file, as it was.
    pub(crate) file: PathBuf,
    /// The screen file as it is; without it, the first is compared with itself on two displays, or in two bands.
    pub(crate) other: Option<PathBuf>,
    /// A rule (`board#2`, `header.tall`), the rules of a view (`board`), or those of a view and of all that is in it (`board.*`):
    /// the one file is compared with itself without them. What goes and what stays is listed first.
    #[arg(long, value_name = "WHAT", conflicts_with_all = ["other", "band"])]
    pub(crate) without: Option<String>,
    /// Writes the file without them; as it was it is kept beside it.
    #[arg(long, requires = "without")]
    pub(crate) write: bool,
    /// A band of the one file, named twice: `--band narrow --band wide`; `none` for a display in no band.
    #[arg(long, value_name = "BAND")]
    pub(crate) band: Vec<String>,
    #[command(flatten)]
    pub(crate) displays: DisplayArgs,
    #[command(flatten)]
    pub(crate) texts: TextArgs,
    /// For people (text) or for machines (json).
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub(crate) format: Format,
}

#[derive(Clone, Debug, Args)]
pub(crate) struct SweepArgs {
    /// The screen file.
    pub(crate) file: PathBuf,
    /// Widths from and to, in logical pixels (320..1600 without any range); with --height as well, the rectangle of both.
    #[arg(long, value_name = "FROM..TO", value_parser = range)]
    pub(crate) width: Option<(f64, f64)>,
    /// Heights from and to, in logical pixels.
    #[arg(long, value_name = "FROM..TO", value_parser = range)]
    pub(crate) height: Option<(f64, f64)>,
    /// Widths from and to, with the height in proportion.
    #[arg(long, value_name = "FROM..TO", value_parser = range, conflicts_with_all = ["width", "height"])]
    pub(crate) aspect: Option<(f64, f64)>,
    /// The reader's text scales from and to.
    #[arg(long, value_name = "FROM..TO", value_parser = range, conflicts_with_all = ["width", "height", "aspect"])]
    pub(crate) text: Option<(f64, f64)>,
    /// Anything else of the display, such as `keyboard=0..300`, `top-inset=0..60` or `density=1..3`.
    #[arg(long, value_name = "WHAT=FROM..TO", conflicts_with_all = ["width", "height", "aspect", "text"])]
    pub(crate) over: Option<String>,
    /// Count siblings that are nearer to one another than this, in logical pixels, as overlapping.
    #[arg(long, value_name = "DISTANCE", default_value_t = 0.0)]
    pub(crate) gap: f64,
    /// A picture to write, .png or .svg: a track for each view, or the map of a rectangle.
    #[arg(long, short = 'o', value_name = "FILE")]
    pub(crate) out: Option<PathBuf>,
    #[command(flatten)]
    pub(crate) displays: DisplayArgs,
    #[command(flatten)]
    pub(crate) texts: TextArgs,
    /// For people (text) or for machines (json).
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub(crate) format: Format,
}

/// `320..1600`.
fn range(text: &str) -> Result<(f64, f64), String> {
    let wrong = || format!("`{text}` is no range: write two numbers such as 320..1600");
    let (from, to) = text.split_once("..").ok_or_else(wrong)?;
    let number = |part: &str| part.trim().parse::<f64>().ok().filter(|n| n.is_finite()).ok_or_else(wrong);
    let (from, to) = (number(from)?, number(to)?);
    if from < to {
        Ok((from, to))
    } else {
        Err(format!("`{text}` is upside down or empty: write the lesser number first"))
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
    /// The screen file.
    pub(crate) file: PathBuf,
    /// The picture to write, .png or .svg; or with the ending .html a page for a review, with every display and what is
    /// found on it.
    #[arg(long, short = 'o', value_name = "FILE")]
    pub(crate) out: PathBuf,
    #[command(flatten)]
    pub(crate) displays: DisplayArgs,
    /// Draw the rules as dimension lines with their distances (on a picture of one display).
    #[arg(long)]
    pub(crate) rules: bool,
    /// Draw the guides as thin lines (on a picture of one display).
    #[arg(long)]
    pub(crate) guides: bool,
}

#[derive(Clone, Debug, Args)]
pub(crate) struct FmtArgs {
    /// The screen files; `.json` for the JSON form.
    #[arg(required_unless_present = "schema")]
    pub(crate) files: Vec<PathBuf>,
    /// Print the files in the other form: as JSON, or as a screen file.
    #[arg(long = "as", value_enum, value_name = "FORM", conflicts_with_all = ["write", "check"])]
    pub(crate) to: Option<FileForm>,
    /// Print the JSON Schema of the JSON form.
    #[arg(long, conflicts_with_all = ["files", "to", "write", "check"])]
    pub(crate) schema: bool,
    /// Write the files instead of printing them.
    #[arg(long, conflicts_with = "check")]
    pub(crate) write: bool,
    /// Only say which files are not in the canonical layout, and exit with 1 if any is.
    #[arg(long)]
    pub(crate) check: bool,
}

/// The forms of a screen file.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub(crate) enum FileForm {
    /// The language of screen files.
    Vantic,
    /// The same content as JSON, without comments.
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
    /// The code of a finding, such as `overlap`; without it, all codes.
    pub(crate) code: Option<String>,
}

#[derive(Clone, Debug, Args)]
pub(crate) struct DemoArgs {
    /// The folder for the pictures and screen files.
    #[arg(long, value_name = "FOLDER", default_value = "vantic-demo")]
    pub(crate) out: PathBuf,
}
