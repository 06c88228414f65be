//! The edits of the structure, and their options.

use crate::common_args::{DisplayArgs, ScreenFile, TextArgs};
use clap::{Args, Subcommand, ValueEnum};
use std::path::PathBuf;
use vantic::infer::Tie;
use vantic::model::Coordinate;
use vantic::structure::ALIGNABLE;

#[derive(Clone, Debug, Args)]
pub(crate) struct EditArgs {
    #[command(subcommand)]
    pub(crate) what: EditKind,
}

/// How the structure is edited.
#[derive(Clone, Debug, Subcommand)]
pub(crate) enum EditKind {
    /// Insert a view between two siblings, the distance kept on both sides.
    Insert(InsertArgs),
    /// Take a view out and close the chain: what was tied to it is tied to what it was tied to.
    Remove(EditView),
    /// Put siblings into a row or column of their own, frames kept.
    Gather(GatherArgs),
    /// Dissolve a row, column or grid: its children get rules of their own, frames kept.
    Dissolve(EditView),
    /// Take a view out of a row, column or grid; it stays where it is.
    Release(EditView),
    /// Tie a view to other edges, fractions or a point of what is around it or of another view, frames kept.
    Tie(TieArgs),
    /// Tie a rule to another view, with the constant that keeps frames; nothing is added.
    Retarget(RetargetArgs),
    /// Give a view new rules that tie it to its neighbours, where it is drawn or where it is.
    Pin(PinArgs),
    /// Give other views the rules of a view, the names in them changed.
    Copy(CopyArgs),
    /// Line up views in the drawings of the file, without a rule; --keep adds one.
    Align(AlignArgs),
}

/// The file, and what becomes of it.
#[derive(Clone, Debug, Args)]
pub(crate) struct EditFile {
    #[command(flatten)]
    pub(crate) screen: ScreenFile,
    /// Write the file. The original is saved as FILE.old, and `vantic check FILE --undo` takes it back.
    #[arg(long)]
    pub(crate) write: bool,
    #[command(flatten)]
    pub(crate) displays: DisplayArgs,
    #[command(flatten)]
    pub(crate) texts: TextArgs,
}

#[derive(Clone, Debug, Args)]
pub(crate) struct EditView {
    /// The view, such as `header.title`.
    #[arg(index = 2)]
    pub(crate) view: String,
    #[command(flatten)]
    pub(crate) of: EditFile,
}

#[derive(Clone, Debug, Args)]
pub(crate) struct InsertArgs {
    /// The name of the new view.
    #[arg(index = 2)]
    pub(crate) name: String,
    /// The two views that it goes between.
    #[arg(index = 3, num_args = 2, value_names = ["VIEW", "VIEW"], required = true)]
    pub(crate) between: Vec<String>,
    /// Insert a text with these words instead of a box.
    #[arg(long, value_name = "WORDS")]
    pub(crate) text: Option<String>,
    #[command(flatten)]
    pub(crate) of: EditFile,
}

#[derive(Clone, Debug, Args)]
pub(crate) struct GatherArgs {
    /// The name of the view that holds them.
    #[arg(index = 2)]
    pub(crate) name: String,
    /// The views, two or more.
    #[arg(index = 3, required = true)]
    pub(crate) views: Vec<String>,
    #[command(flatten)]
    pub(crate) of: EditFile,
}

/// How a view is tied.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub(crate) enum Way {
    /// All four distances inwards; the size follows.
    Edges,
    /// The distances to the starting corner, and the size.
    Corner,
    /// The edges at fractions of the box.
    Span,
    /// The middle at a fraction of the box, and the size.
    Point,
    /// In proportion to the box, as on the first display.
    Drawn,
}

impl Way {
    pub(crate) fn tie(self) -> Tie {
        match self {
            Way::Edges => Tie::Edges,
            Way::Corner => Tie::Corner,
            Way::Span => Tie::Span,
            Way::Point => Tie::Point,
            Way::Drawn => Tie::Drawn,
        }
    }
}

#[derive(Clone, Debug, Args)]
pub(crate) struct TieArgs {
    /// The view.
    #[arg(index = 2)]
    pub(crate) view: String,
    /// How it is tied.
    #[arg(index = 3, value_enum)]
    pub(crate) way: Way,
    /// What it is tied to: `parent` (the default), `safe`, `screen` or another view.
    #[arg(long, value_name = "BOX")]
    pub(crate) to: Option<String>,
    #[command(flatten)]
    pub(crate) of: EditFile,
}

#[derive(Clone, Debug, Args)]
pub(crate) struct RetargetArgs {
    /// The rule, as `vantic show rules` names it, such as `badge#2`.
    #[arg(index = 2)]
    pub(crate) rule: String,
    /// The new target: a view, `parent`, `safe` or `screen`.
    #[arg(index = 3)]
    pub(crate) target: String,
    #[command(flatten)]
    pub(crate) of: EditFile,
}

#[derive(Clone, Debug, Args)]
pub(crate) struct PinArgs {
    /// The view.
    #[arg(index = 2)]
    pub(crate) view: String,
    /// Where it was drawn: SVG with ids (`.svg`), or the JSON that `vantic place` prints. Without it, the drawings in the file; or
    /// where it is.
    #[arg(long, value_name = "DRAWING")]
    pub(crate) drawing: Option<PathBuf>,
    #[command(flatten)]
    pub(crate) of: EditFile,
}

#[derive(Clone, Debug, Args)]
pub(crate) struct CopyArgs {
    /// The view that has the rules.
    #[arg(index = 2)]
    pub(crate) view: String,
    /// The views that get them, in place of their own.
    #[arg(index = 3, required = true)]
    pub(crate) to: Vec<String>,
    #[command(flatten)]
    pub(crate) of: EditFile,
}

#[derive(Clone, Debug, Args)]
pub(crate) struct AlignArgs {
    /// The edge or middle: left, right, start, end, center_x, top, bottom or center_y.
    #[arg(index = 2, value_parser = side)]
    pub(crate) on: Coordinate,
    /// The views, two or more; the first stays.
    #[arg(index = 3, required = true)]
    pub(crate) views: Vec<String>,
    /// Keep it so, by a rule for each.
    #[arg(long)]
    pub(crate) keep: bool,
    #[command(flatten)]
    pub(crate) of: EditFile,
}

fn side(text: &str) -> Result<Coordinate, String> {
    let found = ALIGNABLE.into_iter().find(|of| of.spelling() == text);
    found.ok_or_else(|| {
        let known: Vec<&str> = ALIGNABLE.iter().map(|of| of.spelling()).collect();
        format!("expected one of {}", known.join(", "))
    })
}
