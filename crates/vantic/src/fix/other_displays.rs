//! Displays that were not checked and judge a fix all the same: the other direction of reading, larger text, longer
//! words, the other orientation, and bands and states that no checked display has.

use vantic_core::display::Display;
use vantic_core::geometry::Direction;
use vantic_core::model::{PSEUDO, Screen};

/// How much larger text is tried than on the display where a finding is worst.
const LARGER_TEXT: f64 = 1.3;

/// Sizes of displays among which one is looked for that a band holds on.
const SIZES: [(f64, f64); 6] =
    [(320.0, 568.0), (568.0, 320.0), (600.0, 900.0), (900.0, 600.0), (1440.0, 900.0), (2000.0, 1200.0)];

/// How many bands and states that were not checked are looked at.
const OTHER_BANDS: usize = 4;

/// Displays like the one where a finding is worst. What was open is anywhere on displays of another size and of
/// other words, so that only the other direction of reading says something of that.
pub(crate) fn others_of(
    screen: &Screen,
    checked: &[Display],
    worst: &Display,
    is_open: bool,
) -> Vec<Display> {
    let mirrored = match worst.direction() {
        Direction::LeftToRight => Direction::RightToLeft,
        Direction::RightToLeft => Direction::LeftToRight,
    };
    let mut others = vec![worst.clone().with_direction(mirrored)];
    if !is_open {
        others.extend(worst.clone().with_text_scale(worst.text_scale() * LARGER_TEXT));
        others.push(worst.clone().turned());
        others.extend(worst.language().is_none().then(|| worst.clone().with_language(PSEUDO)));
        others.extend(in_other_bands(screen, checked, worst));
    }
    others
}

/// A display like this one in each of a few bands, and alternatives of states, that no checked display has.
fn in_other_bands(screen: &Screen, checked: &[Display], worst: &Display) -> Vec<Display> {
    let sized = SIZES.iter().filter_map(|&(width, height)| {
        let sized = Display::new(width, height).ok()?.with_direction(worst.direction());
        let sized = sized.with_text_scale(worst.text_scale()).ok()?;
        Some(worst.states().fold(sized, |display, (state, shown)| display.with_state(state, shown)))
    });
    let shown = screen.states().iter().flat_map(|state| {
        let alternatives = state.alternatives().iter();
        alternatives.map(|shown| worst.clone().with_state(state.name(), shown))
    });
    let known: Vec<Display> = shown.chain(sized).collect();
    let bands = screen.bands().iter().map(|band| band.condition());
    let bands = bands.filter(|condition| !checked.iter().any(|display| condition.holds(display)));
    let found = bands.filter_map(|condition| known.iter().find(|display| condition.holds(display)));
    found.take(OTHER_BANDS).cloned().collect()
}
