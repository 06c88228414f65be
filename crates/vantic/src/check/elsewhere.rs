//! What is found on a display only once a keyboard is on it, or once what scrolls is scrolled.

use crate::displays::matrix::scrolled_name;
use crate::finding::{Finding, Severity};
use crate::inspect::inspect::found_of;
use std::collections::{BTreeSet, HashSet};
use vantic_core::display::Display;
use vantic_core::model::{Code, Screen, ViewId};
use vantic_core::plan::{Live, PlaceError, Placement};
use vantic_core::text::Measure;
use vantic_core::tolerance::PLACED;
use vantic_core::words::{millionths, number};

/// To how many places views are scrolled on one display.
const MAX_OFFSETS: usize = 32;

/// The same display in another state, and what is found there and not before.
pub(crate) type Elsewhere = (Placement, Vec<Finding>);

/// Looks at a display with its keyboard, where the screen has something to type into, and with each view that
/// scrolls at its end and where something sticks or lets go. What is found on the display as it is, `known`, is
/// left out.
pub(crate) fn elsewhere(
    live: &mut Live<'_>,
    placement: &Placement,
    measure: &dyn Measure,
    fixed: &HashSet<ViewId>,
    known: &[Finding],
) -> Result<Vec<Elsewhere>, PlaceError> {
    let screen = live.screen();
    let mut all = Vec::new();
    let mut told: BTreeSet<(Code, Vec<ViewId>)> = known.iter().map(|f| (f.code, f.views.clone())).collect();
    let with_keyboard = keyboard_shown(screen, placement).into_iter().map(|display| (display, &ANYTHING[..]));
    let scrolled = scrolled(screen, placement).into_iter().map(|display| (display, &WHERE_IT_LIES[..]));
    for (display, codes) in with_keyboard.chain(scrolled) {
        let there = live.place(&display, measure)?;
        let found = codes.iter().flat_map(|&code| found_of(screen, &there, fixed, 0.0, code));
        let mut found: Vec<Finding> = found.filter(|f| f.severity != Severity::Note).collect();
        found.retain(|f| told.insert((f.code, f.views.clone())));
        if !found.is_empty() {
            all.push((there, found));
        }
    }
    Ok(all)
}

/// What a keyboard may bring about, since rules read how high it is.
const ANYTHING: [Code; 7] =
    [Code::Conflict, Code::Cut, Code::Stretched, Code::Outside, Code::Overlap, Code::Covered, Code::Small];

/// What scrolling may bring about: sizes stay.
const WHERE_IT_LIES: [Code; 3] = [Code::Outside, Code::Overlap, Code::Covered];

/// The display with its keyboard on it, where something is typed into and it has none.
fn keyboard_shown(screen: &Screen, placement: &Placement) -> Option<Display> {
    let display = &placement.display;
    let is_typed_into = |view: ViewId| placement.look(view).input && placement.is_painted(view);
    let height = display.own_keyboard();
    if height <= 0.0 || display.keyboard() > 0.0 || !screen.views().any(|(view, _)| is_typed_into(view)) {
        return None;
    }
    let name = format!("{}, keyboard {}", display.name(), number(height));
    display.clone().with_keyboard(height).ok().map(|display| display.named(name))
}

/// The display with each view that scrolls at its end, and at each place where something sticks or lets go.
fn scrolled(screen: &Screen, placement: &Placement) -> Vec<Display> {
    let display = &placement.display;
    let mut all = Vec::new();
    for (&view, at) in &placement.scrolled {
        let (most, now) = (at.most.0.max(at.most.1), at.offset.0.max(at.offset.1));
        if most <= 0.0 || now > 0.0 {
            continue;
        }
        let stuck = placement.stuck.values().flatten().filter(|stuck| stuck.scroller == view);
        let held = stuck.flat_map(|stuck| [stuck.held.0, stuck.held.1]);
        let mut offsets: Vec<f64> =
            held.chain([most]).map(|offset| millionths(offset.clamp(0.0, most))).collect();
        offsets.sort_by(f64::total_cmp);
        offsets.dedup_by(|a, b| (*a - *b).abs() <= PLACED);
        let path = screen.path(view);
        for offset in offsets.into_iter().filter(|offset| *offset > PLACED) {
            let to = display.clone().with_scroll(&path, offset, offset).ok();
            all.extend(to.map(|to| to.named(scrolled_name(display.name(), &path, offset))));
        }
    }
    all.truncate(MAX_OFFSETS);
    all
}
