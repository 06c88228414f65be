//! A screen on a display that a file names, as expectations and drawings do.

use crate::check::elsewhere::Share;
use crate::displays::displays::Displays;
use vantic_core::plan::{PlaceError, Placement, Plan};
use vantic_core::text::Measure;
use vantic_core::work;

/// What there is to say of such a display.
pub(crate) enum OnNamed {
    Placed(Box<Placement>),
    /// It is not known, and why.
    Unknown(String),
    /// The work does not suffice: frames that are not the best ones tell nothing.
    LeftOut,
}

/// Places a screen on a display by its name, and counts it where that could be looked at.
pub(crate) fn on_named(
    plan: &Plan,
    measure: &(dyn Measure + Sync),
    displays: &Displays,
    name: &str,
    share: &mut Share,
) -> Result<OnNamed, PlaceError> {
    let display = match displays.find(name, plan.screen()) {
        Ok(display) => display,
        Err(error) => {
            share.looked_at += 1;
            return Ok(OnNamed::Unknown(error.to_string()));
        }
    };
    if work::is_short() {
        return Ok(OnNamed::LeftOut);
    }
    let placement = plan.place(&display, measure)?;
    if placement.hit_work_limit {
        return Ok(OnNamed::LeftOut);
    }
    share.looked_at += 1;
    Ok(OnNamed::Placed(Box::new(placement)))
}
