//! The commands that begin from a drawing, and their options.

use crate::common_args::{DisplayArgs, Format, ScreenFile, TextArgs};
use clap::Args;
use std::path::PathBuf;
use vantic::infer::Wish;

#[derive(Clone, Debug, Args)]
pub(crate) struct InferArgs {
    /// Drawings of one screen, on one display or several: SVG with ids (`.svg`), or the JSON that `vantic place` prints.
    #[arg(required = true)]
    pub(crate) drawings: Vec<PathBuf>,
    /// The screen file to write. Without it, the file is printed, and what is to be said about it goes to standard error.
    #[arg(long, short = 'o', value_name = "FILE")]
    pub(crate) out: Option<PathBuf>,
    /// The name of the screen; by default that of the file.
    #[arg(long)]
    pub(crate) name: Option<String>,
    /// Say how a view follows what is around it, where the guess is wrong: `menu=follows-end`; can be given several times. One of
    /// keeps-width, keeps-height, follows-start, follows-end, follows-top, follows-bottom, grows, grows-down, centered.
    #[arg(long, value_name = "VIEW=HOW", value_parser = wish)]
    pub(crate) view: Vec<(String, Wish)>,
    /// Draw what the rules give on another display beside the drawing: WIDTHxHEIGHT or a name from `vantic displays`. Can be given
    /// several times.
    #[arg(long, value_name = "DISPLAY")]
    pub(crate) show: Vec<String>,
    /// With --show: the picture to write, .png or .svg; by default named after the drawing.
    #[arg(long, value_name = "FILE", requires = "show")]
    pub(crate) picture: Option<PathBuf>,
    /// Write the reason for each rule as a comment.
    #[arg(long)]
    pub(crate) reasons: bool,
    /// For people (text) or for machines (json).
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub(crate) format: Format,
    #[command(flatten)]
    pub(crate) texts: TextArgs,
}

#[derive(Clone, Debug, Args)]
pub(crate) struct DriftArgs {
    #[command(flatten)]
    pub(crate) screen: ScreenFile,
    /// The drawing: SVG with ids (`.svg`), or the JSON that `vantic place` prints. Without it, the drawings in the screen file.
    #[arg(index = 2)]
    pub(crate) drawing: Option<PathBuf>,
    /// Change the constants of the rules of a view so that they give its drawn place, or of all views (`all`). Shows the
    /// changes, and what else they move on other displays.
    #[arg(long, value_name = "VIEW")]
    pub(crate) change_rules: Vec<String>,
    /// With --change-rules or --change-drawing: write the file. The original is saved as FILE.old, and `check --undo` takes it back.
    #[arg(long)]
    pub(crate) write: bool,
    /// Change the drawings in the screen file: put a view where the rules place it, or all views (`all`).
    #[arg(long, value_name = "VIEW", conflicts_with_all = ["change_rules", "drawing"])]
    pub(crate) change_drawing: Vec<String>,
    /// Write the drawing with every view where the rules place it, as JSON.
    #[arg(long, value_name = "FILE", conflicts_with_all = ["change_rules", "change_drawing"])]
    pub(crate) redraw: Option<PathBuf>,
    /// Draw it, .png or .svg: the screen as it is placed, with the drawn outlines as ghosts.
    #[arg(long, short = 'o', value_name = "FILE", conflicts_with_all = ["change_rules", "change_drawing"])]
    pub(crate) out: Option<PathBuf>,
    /// Exit with code 1 if a view is not where it was drawn.
    #[arg(long)]
    pub(crate) strict: bool,
    /// For people (text) or for machines (json).
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub(crate) format: Format,
    #[command(flatten)]
    pub(crate) displays: DisplayArgs,
    #[command(flatten)]
    pub(crate) texts: TextArgs,
}

/// `menu=follows-end`.
fn wish(text: &str) -> Result<(String, Wish), String> {
    let known = || Wish::ALL.iter().map(|(name, _)| *name).collect::<Vec<_>>().join(", ");
    let (view, how) = text
        .split_once('=')
        .ok_or_else(|| format!("expected VIEW=HOW, such as menu=grows; HOW is one of {}", known()))?;
    let found = Wish::ALL.iter().find(|(name, _)| *name == how);
    found.map(|(_, wish)| (view.to_owned(), *wish)).ok_or_else(|| format!("`{how}` is none of {}", known()))
}
