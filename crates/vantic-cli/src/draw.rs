//! `vantic draw`.

use crate::Verdict;
use crate::args::DrawArgs;
use crate::check::checked;
use crate::input::{Unsaid, load};
use crate::output::{print, write_whole};
use anyhow::{Result, bail};
use std::path::Path;
use vantic::check::Checking;
use vantic_draw::{FontText, Options, Picture, draw_display, draw_sheet, review_page};

pub(crate) fn run(args: &DrawArgs) -> Result<Verdict> {
    let out = Out::of(&args.out)?;
    let loaded = load(&args.file)?;
    let fonts = FontText::new();
    let unsaid = if out == Out::Page { Unsaid::All } else { Unsaid::First };
    let report = checked(&loaded, &args.displays, unsaid, &fonts, Checking::default())?;
    let (screen, displays) = (loaded.plan.screen(), report.placements.len());
    if (args.rules || args.guides) && displays > 1 {
        let option = if args.rules { "--rules" } else { "--guides" };
        bail!("{option} draws one display at a time: name it with --display");
    }
    match out {
        Out::Page => write_whole(&args.out, review_page(screen, &report, &fonts).as_bytes())?,
        Out::Picture(kind) => {
            let options = Options { rules: args.rules, guides: args.guides };
            let alone = (displays == 1).then(|| draw_display(screen, &report, 0, &fonts, options));
            let picture = alone.flatten().unwrap_or_else(|| draw_sheet(screen, &report, &fonts));
            save(&picture, kind, &args.out)?;
        }
    }
    print(&format!("wrote {}\n", args.out.display()))?;
    Ok(Verdict::Clean)
}

/// The kinds of picture.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Kind {
    Png,
    Svg,
}

/// What is written, by the ending of the file's name.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum Out {
    Picture(Kind),
    /// A page for a review.
    Page,
}

impl Kind {
    /// The kind of picture that a file's name ends in.
    pub(crate) fn of(path: &Path) -> Result<Self> {
        match Out::of(path)? {
            Out::Picture(kind) => Ok(kind),
            Out::Page => bail!("{}: write a picture, .png or .svg", path.display()),
        }
    }
}

impl Out {
    fn of(path: &Path) -> Result<Self> {
        match path.extension().and_then(|e| e.to_str()) {
            Some("png") => Ok(Out::Picture(Kind::Png)),
            Some("svg") => Ok(Out::Picture(Kind::Svg)),
            Some("html") => Ok(Out::Page),
            _ => bail!(
                "{}: the name of a picture has to end in .png or .svg, that of a page in .html",
                path.display()
            ),
        }
    }
}

pub(crate) fn save(picture: &Picture, kind: Kind, path: &Path) -> Result<()> {
    match kind {
        Kind::Png => write_whole(path, &picture.png()?),
        Kind::Svg => write_whole(path, picture.svg().as_bytes()),
    }
}
