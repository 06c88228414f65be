//! The options that commands share.

use clap::{Args, ValueEnum};
use std::path::PathBuf;

/// Which displays to use.
#[derive(Clone, Debug, Args)]
#[command(next_help_heading = "Displays")]
pub(crate) struct DisplayArgs {
    /// A display: WIDTHxHEIGHT in logical pixels, an aspect with one side (16:9@720w), or a name from `vantic
    /// displays`; add settings after commas ("tablet, right to left, text 1.3"). Can be given several times.
    /// Default: the whole catalogue, each display in its orientations.
    #[arg(long = "display", short = 'd', value_name = "DISPLAY")]
    pub(crate) displays: Vec<String>,

    /// A file with displays of your own, instead of the catalogue; `vantic displays --schema` describes the
    /// format.
    #[arg(long = "displays", value_name = "FILE")]
    pub(crate) own: Option<PathBuf>,

    /// Add each display rotated by 90 degrees.
    #[arg(long)]
    pub(crate) turn: bool,

    /// The insets of each WIDTHxHEIGHT, upright: left,top,right,bottom in logical pixels.
    #[arg(long, value_name = "L,T,R,B", value_delimiter = ',', num_args = 1)]
    pub(crate) insets: Vec<f64>,

    /// Text scales to check, such as `1,1.5,2`.
    #[arg(long, value_name = "FACTORS", value_delimiter = ',', num_args = 1)]
    pub(crate) text_scale: Vec<f64>,

    /// Languages to check, such as `fi,he`: those of the screen, `own` for its original words, `all`, or
    /// `pseudo` for accented words that are 40% longer. `check` uses all by default.
    #[arg(long, value_name = "NAMES", value_delimiter = ',', num_args = 1)]
    pub(crate) language: Vec<String>,

    /// The alternative of a state to show, such as `menu=open`, or `all`. Can be given for several states.
    /// `check` uses all by default.
    #[arg(long, value_name = "STATE=SHOWN")]
    pub(crate) state: Vec<String>,

    /// The height of an on-screen keyboard in logical pixels; rules refer to the remaining area as `clear`.
    #[arg(long, value_name = "HEIGHT", default_value_t = 0.0)]
    pub(crate) keyboard: f64,

    /// Scroll a view by this much in logical pixels: `board=120`, `board=end`, or horizontally and
    /// vertically, `board=40,120`. Can be given for several views.
    #[arg(long, value_name = "VIEW=BY")]
    pub(crate) scroll: Vec<String>,

    /// Set a parameter of the screen: `rail=300`. Can be given for several parameters.
    #[arg(long, value_name = "PARAMETER=NUMBER")]
    pub(crate) set: Vec<String>,

    /// Lay out from right to left.
    #[arg(long)]
    pub(crate) right_to_left: bool,

    /// Lay out in both directions.
    #[arg(long, conflicts_with = "right_to_left")]
    pub(crate) both_directions: bool,
}

impl DisplayArgs {
    /// Whether nothing of a display is named.
    pub(crate) fn is_unset(&self) -> bool {
        self.displays.is_empty()
    }
}

/// How much work is done.
#[derive(Clone, Copy, Debug, Args)]
pub(crate) struct EffortArgs {
    /// How much work may be done before something is left out, as a multiple of the usual: from 0.01 to 1000. What is left
    /// out is said.
    #[arg(long, value_name = "FACTOR", default_value_t = 1.0, value_parser = effort, allow_negative_numbers = true)]
    pub(crate) effort: f64,
}

/// How texts are measured.
#[derive(Clone, Debug, Args)]
#[command(next_help_heading = "Texts")]
pub(crate) struct TextArgs {
    /// How texts are measured: with the built-in font, or with simple arithmetic, for tests.
    #[arg(long, value_enum, default_value_t = Measurer::Font)]
    pub(crate) measure: Measurer,

    /// Make every word this many percent longer, as in another language.
    #[arg(long, value_name = "PERCENT", default_value_t = 0.0, value_parser = percent, allow_negative_numbers = true)]
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
    /// The built-in font.
    Font,
    /// Every character half the font size wide, lines broken at spaces.
    Plain,
    /// As plain, but lines = ceil(width on one line / width), regardless of words.
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

/// A screen file, and where its bases may be.
#[derive(Clone, Debug, Args)]
pub(crate) struct ScreenFile {
    /// The screen file.
    #[arg(index = 1)]
    pub(crate) file: PathBuf,
    /// A folder in which bases (`from`) are read too. Without it they have to be in the folder of the screen file, or
    /// below it.
    #[arg(long, value_name = "FOLDER")]
    pub(crate) bases: Vec<PathBuf>,
}

/// The least that makes sense.
const LEAST_EFFORT: f64 = 0.01;

/// A factor of work.
fn effort(text: &str) -> Result<f64, String> {
    let most = vantic::check::MAX_EFFORT;
    let factor = text.parse().ok().filter(|factor| (LEAST_EFFORT..=most).contains(factor));
    factor.ok_or_else(|| format!("expected a number from {LEAST_EFFORT} to {most}"))
}
