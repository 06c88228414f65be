//! A view on the one display that the options name.

use crate::args::ShowScreen;
use crate::session::{Defaults, Loaded, SharedWork, Texts, displays, too_many_displays, view_of};
use anyhow::{Result, bail};
use vantic::model::{Anchor, Screen, ViewId};
use vantic::plan::Placement;

pub(crate) fn on_one_display<'a>(
    loaded: &'a Loaded,
    path: &str,
    args: &ShowScreen,
) -> Result<(&'a Screen, ViewId, Placement)> {
    let screen = loaded.plan.screen();
    let view = view_of(screen, path)?;
    let displays = displays(&args.displays, loaded.plan.screen(), Defaults::First)?;
    let [display] = displays.as_slice() else {
        bail!("distances depend on the display: name one, such as `--display 390x844`");
    };
    let placement = loaded.plan.place(display, &Texts::new(&args.texts))?;
    if placement.frame(view).is_none() {
        bail!("`{path}` is hidden on {}; name another display", display.name());
    }
    Ok((screen, view, placement))
}

/// What a place is called in tables.
pub(crate) fn place_named(screen: &Screen, place: Anchor) -> String {
    match place {
        Anchor::View(view) => screen.path(view),
        Anchor::Cells { guide, first, .. } => format!("{}[{first}]", screen.path(guide)),
        Anchor::Safe => "the safe area".into(),
        _ => "the screen".into(),
    }
}

/// The screen placed on every display that the options name.
pub(crate) fn placed(loaded: &Loaded, args: &ShowScreen) -> Result<Vec<Placement>> {
    let texts = Texts::new(&args.texts);
    let all = displays(&args.displays, loaded.plan.screen(), Defaults::First)?;
    let (mut work, views) = (SharedWork::new(), loaded.plan.screen().views().count());
    let mut placements = Vec::new();
    for display in &all {
        let Some(placement) = work.run(views, || Ok(loaded.plan.place(display, &texts)?))? else {
            return Err(too_many_displays(placements.len(), all.len()));
        };
        placements.push(placement);
    }
    Ok(placements)
}
