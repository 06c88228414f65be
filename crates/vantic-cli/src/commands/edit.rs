//! `vantic edit`: edits of the structure, shown first.

use crate::drawings::drawings;
use crate::edit_args::{EditArgs, EditFile, EditKind};
use crate::edits::{changed, shown};
use crate::new_findings::{new_findings, wrong_then};
use crate::output::{FAINT, GREEN, count, print};
use crate::rewrite::write_all;
use crate::session::{Defaults, Texts, displays, is_json, known, load};
use crate::verdict::Verdict;
use anyhow::{Result, bail};
use vantic::drawing::drawings_in;
use vantic::structure::{Moved, NewView, Restructured, Structure, StructureError};
use vantic::words::number;

/// How many views that move are named.
const MAX_NAMED: usize = 12;

pub(crate) fn run(args: &EditArgs) -> Result<Verdict> {
    match &args.what {
        EditKind::Insert(of) => {
            let [first, second] = of.between.as_slice() else {
                bail!("name the two views that it goes between")
            };
            let what = of.text.clone().map_or(NewView::Plain, NewView::Text);
            edit(&of.of, &|to| to.inserted(&of.name, &what, (first, second)))
        }
        EditKind::Remove(of) => edit(&of.of, &|to| to.removed(&of.view)),
        EditKind::Gather(of) => {
            let views: Vec<&str> = of.views.iter().map(String::as_str).collect();
            edit(&of.of, &|to| to.gathered(&of.name, &views))
        }
        EditKind::Dissolve(of) => edit(&of.of, &|to| to.dissolved(&of.view)),
        EditKind::Release(of) => edit(&of.of, &|to| to.released(&of.view)),
        EditKind::Tie(of) => edit(&of.of, &|to| to.tied(&of.view, of.way.tie(), of.to.as_deref())),
        EditKind::Retarget(of) => edit(&of.of, &|to| to.retargeted(&of.rule, &of.target)),
        EditKind::Pin(of) => {
            let texts = Texts::new(&of.of.texts);
            let drawn = of.drawing.as_ref().map(|path| drawings(path, &texts)).transpose()?;
            let known = known(of.of.displays.own.as_deref())?;
            edit(&of.of, &|to| {
                let screen = to.screen();
                let drawn = match &drawn {
                    Some((drawn, _)) => Ok(drawn.iter().map(|drawing| drawing.in_screen(screen)).collect()),
                    None => drawings_in(screen, &known),
                };
                let mut drawn: Vec<_> = drawn.map_err(|error| StructureError::Cannot(error.to_string()))?;
                // Where the file's own do not draw it, it is pinned where it is.
                if of.drawing.is_none() {
                    let view = screen.find(&of.view);
                    drawn.retain(|drawing| drawing.frames.iter().any(|(of, _)| Some(*of) == view));
                }
                to.pinned(&of.view, &drawn)
            })
        }
        EditKind::Copy(of) => {
            let to_views: Vec<&str> = of.to.iter().map(String::as_str).collect();
            edit(&of.of, &|to| to.rules_copied(&of.view, &to_views))
        }
        EditKind::Align(of) => {
            let views: Vec<&str> = of.views.iter().map(String::as_str).collect();
            edit(&of.of, &|to| to.aligned(&views, of.on, of.keep))
        }
    }
}

/// What makes an edit of a screen.
type Making<'a> = dyn Fn(&Structure<'_>) -> Result<Restructured, StructureError> + 'a;

/// Makes an edit, shows it and what comes of it, and writes it where that is asked for.
fn edit(file: &EditFile, make: &Making<'_>) -> Result<Verdict> {
    if is_json(&file.screen.file) {
        bail!("an edit changes a screen file; convert it first: `vantic fmt FILE --as vantic`");
    }
    let loaded = load(&file.screen)?;
    let texts = Texts::new(&file.texts);
    let displays = displays(&file.displays, loaded.plan.screen(), Defaults::First)?;
    let made = loaded.restructured(&displays, &texts, make)?;
    let before = loaded.texts();
    let after = changed(&before, &made.edits)?;
    let mut out = String::new();
    if made.edits.is_empty() {
        print("nothing to change\n")?;
        return Ok(Verdict::Clean);
    }
    for ((name, old), (_, new)) in before.iter().zip(&after).filter(|(old, new)| old.1 != new.1) {
        out += shown(name, old, new).trim_start();
    }
    out += &moves(&made);
    let checked = wrong_then((&file.displays, &file.texts), &loaded, &loaded.with_texts(&after)?)?;
    out += new_findings(checked.as_ref()).trim_end();
    out.push('\n');
    out += &match file.write {
        true => write_all(&loaded.paths, &before, &after)?,
        false => format!("{FAINT}nothing is written; --write writes it{FAINT:#}\n"),
    };
    print(&out)?;
    Ok(Verdict::Clean)
}

/// What moves by it.
fn moves(made: &Restructured) -> String {
    let on = format!("{}, in both directions of reading", count(made.compared / 2, "display"));
    if made.moved.is_empty() {
        return format!("{GREEN}every view stays where it is{GREEN:#} on {on}\n");
    }
    let mut out = format!(
        "{} on {on}:\n",
        if made.moved.len() == 1 {
            "1 view moves".into()
        } else {
            format!("{} views move", made.moved.len())
        }
    );
    for Moved { view, display, by, displays } in made.moved.iter().take(MAX_NAMED) {
        let most = if *displays > 1 { ", at most" } else { "," };
        let by = number((by * 100.0).round() / 100.0);
        out += &format!("  {view}{most} {by} on {display}\n");
    }
    if made.moved.len() > MAX_NAMED {
        out += &format!("  and {} more\n", made.moved.len() - MAX_NAMED);
    }
    out
}
