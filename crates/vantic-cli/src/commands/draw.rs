//! `vantic draw`.

use crate::args::DrawArgs;
use crate::checking::checked;
use crate::files::write_whole;
use crate::findings::{HAS_EFFORT, left_out};
use crate::output::print;
use crate::picture::{Out, save};
use crate::progress::stage;
use crate::session::{Defaults, load};
use crate::shown::Shown as _;
use crate::verdict::Verdict;
use anyhow::{Result, bail};
use vantic_draw::{FontText, Options, draw_display, draw_sheet, review_page};

pub(crate) fn run(args: &DrawArgs) -> Result<Verdict> {
    let out = Out::of(&args.out)?;
    let loaded = load(&args.screen)?;
    let fonts = FontText::new();
    let unsaid = if out == Out::Page { Defaults::All } else { Defaults::First };
    let report = checked(&loaded, &args.displays, unsaid, &fonts, args.effort)?;
    let (screen, displays) = (loaded.plan.screen(), report.placements.len());
    if (args.rules || args.guides) && displays > 1 {
        let option = if args.rules { "--rules" } else { "--guides" };
        bail!("{option} draws one display at a time: name it with --display");
    }
    stage("drawing");
    match out {
        Out::Page => write_whole(&args.out, review_page(screen, &report, &fonts).as_bytes())?,
        Out::Picture(kind) => {
            let options = Options { rules: args.rules, guides: args.guides };
            let alone = (displays == 1).then(|| draw_display(screen, &report, 0, &fonts, options));
            let picture = alone.flatten().unwrap_or_else(|| draw_sheet(screen, &report, &fonts));
            save(&picture, kind, &args.out)?;
        }
    }
    print(&format!("wrote {}\n{}", args.out.shown(), left_out(&report.left_out, HAS_EFFORT)))?;
    Ok(Verdict::Clean)
}
