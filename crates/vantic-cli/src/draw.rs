//! `vantic draw`.

use crate::Verdict;
use crate::args::DrawArgs;
use crate::input::{Unsaid, displays, load};
use crate::output::{print, write_whole};
use anyhow::{Result, bail};
use std::path::Path;
use vantic::check;
use vantic_draw::{FontText, Options, Picture, draw_display, draw_sheet};

pub(crate) fn run(args: &DrawArgs) -> Result<Verdict> {
    let kind = Kind::of(&args.out)?;
    let loaded = load(&args.file)?;
    let fonts = FontText::new();
    let displays = displays(&args.displays, loaded.plan.screen(), Unsaid::First)?;
    let report = check(&loaded.plan, &displays, &fonts)?;
    let screen = loaded.plan.screen();
    if (args.rules || args.guides) && displays.len() > 1 {
        let option = if args.rules { "--rules" } else { "--guides" };
        bail!("{option} draws one display at a time: name it with --display");
    }
    let alone = (displays.len() == 1).then_some(Options { rules: args.rules, guides: args.guides });
    let picture = alone
        .and_then(|options| draw_display(screen, &report, 0, &fonts, options))
        .unwrap_or_else(|| draw_sheet(screen, &report, &fonts));
    save(&picture, kind, &args.out)?;
    print(&format!("wrote {}\n", args.out.display()))?;
    Ok(Verdict::Clean)
}

/// The kinds of picture, by the ending of the file's name.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Kind {
    Png,
    Svg,
}

impl Kind {
    fn of(path: &Path) -> Result<Self> {
        match path.extension().and_then(|e| e.to_str()) {
            Some("png") => Ok(Kind::Png),
            Some("svg") => Ok(Kind::Svg),
            _ => bail!("{}: the name of a picture has to end in .png or .svg", path.display()),
        }
    }
}

pub(crate) fn save(picture: &Picture, kind: Kind, path: &Path) -> Result<()> {
    match kind {
        Kind::Png => write_whole(path, &picture.png()?),
        Kind::Svg => write_whole(path, picture.svg().as_bytes()),
    }
}
