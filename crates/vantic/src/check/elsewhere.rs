//! What is found on a display only once a keyboard is on it, or once what scrolls is scrolled.

use crate::check::report::LeftOut;
use crate::displays::matrix::scrolled_name;
use crate::finding::Finding;
use crate::inspect::inspect::found_on;
use crate::screen_ext::ScreenExt as _;
use std::collections::{BTreeSet, HashSet};
use vantic_core::display::Display;
use vantic_core::geometry::Frame;
use vantic_core::model::{Code, Screen, Side, StickyOffset, ViewId};
use vantic_core::plan::{Live, PlaceError, Placement};
use vantic_core::text::Measure;
use vantic_core::tolerance::PLACED;
use vantic_core::words::{millionths, number};
use vantic_core::work;

/// To how many places views are scrolled on one display: on large screens to fewer, so that not more views than this
/// are placed for it; to one at least.
const MAX_OFFSETS: usize = 32;
const MAX_PLACED: usize = 6_000;

/// The same display in another state, and what is found there and not before.
pub(crate) type Elsewhere = (Placement, Vec<Finding>);

/// Looks at a display with its keyboard, where the screen has something to type into, and with each view
/// that scrolls at its end and where something sticks or lets go; where nothing can differ there, that is
/// left out. So is what is found on the display as it is, `known`. `other_end` is the placement with all
/// that scrolls at its end, where that has been looked at.
pub(crate) fn elsewhere(
    live: &mut Live,
    placement: &Placement,
    other_end: Option<Placement>,
    measure: &(dyn Measure + Sync),
    fixed: &HashSet<ViewId>,
    known: &[Finding],
) -> Result<(Vec<Elsewhere>, Share), PlaceError> {
    let plan = live.plan().clone();
    let screen = plan.screen();
    let is_scrolled = placement.scrolled.values().any(|at| at.offset.0.max(at.offset.1) > 0.0);
    let mut sticking = where_it_sticks(screen, placement, other_end.as_ref(), fixed);
    let of = sticking.len();
    sticking.truncate((MAX_PLACED / screen.views().count().max(1)).clamp(1, MAX_OFFSETS));
    let mut share = Share { looked_at: 0, of };
    let mut placements: Vec<Placement> = other_end.into_iter().filter(|_| !is_scrolled).collect();
    placements
        .extend(keyboard_shown(screen, placement).map(|display| live.place(&display, measure)).transpose()?);
    for display in sticking {
        if work::is_short() {
            break;
        }
        placements.push(live.place(&display, measure)?);
        share.looked_at += 1;
    }
    placements.retain(|placement| !placement.hit_work_limit);
    let mut told: BTreeSet<(Code, Vec<ViewId>)> = known.iter().map(|f| (f.code, f.views.clone())).collect();
    let mut all = Vec::new();
    for there in placements {
        let mut found = found_on(screen, &there, fixed, 0.0);
        found.retain(|f| told.insert((f.code, f.views.clone())));
        if !found.is_empty() {
            all.push((there, found));
        }
    }
    Ok((all, share))
}

/// How many of some were looked at.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct Share {
    pub(crate) looked_at: usize,
    pub(crate) of: usize,
}

impl Share {
    /// What there was no work left for, if anything.
    pub(crate) fn left_out(self, what: &str) -> Option<LeftOut> {
        let Self { looked_at, of } = self;
        (looked_at < of).then(|| LeftOut { what: what.to_owned(), looked_at, of })
    }
}

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

/// The display scrolled to each place where something has stuck the longest, if anything else may meet it
/// there.
fn where_it_sticks(
    screen: &Screen,
    placement: &Placement,
    other_end: Option<&Placement>,
    fixed: &HashSet<ViewId>,
) -> Vec<Display> {
    let display = &placement.display;
    let mut all: Vec<Display> = Vec::new();
    let mut known: HashSet<String> = HashSet::new();
    for (&view, stuck) in &placement.stuck {
        for stuck in stuck {
            let Some(at) = placement.scrolled.get(&stuck.scroller) else { continue };
            let is_across = matches!(stuck.side, Side::Left | Side::Right | Side::Start | Side::End);
            let (most, now) = if is_across { (at.most.0, at.offset.0) } else { (at.most.1, at.offset.1) };
            let offset = millionths(stuck.held.1.min(most));
            let is_held = offset > PLACED && offset >= stuck.held.0 && now <= 0.0;
            let path = screen.path(stuck.scroller);
            let name = scrolled_name(display.name(), &path, offset);
            if is_held
                && !known.contains(&name)
                && may_meet(screen, (placement, other_end.unwrap_or(placement)), fixed, view, stuck)
            {
                known.insert(name.clone());
                all.extend(display.clone().with_scroll(&path, offset, offset).map(|to| to.named(name)));
            }
        }
    }
    all
}

/// Whether something that does not move with a view may lie where it sticks: what is not in the view that
/// scrolls it, what stays in that, or something else that sticks to the same side. Once something is
/// scrolled, what stays is taken to be as it is at the end.
fn may_meet(
    screen: &Screen,
    (placement, scrolled): (&Placement, &Placement),
    fixed: &HashSet<ViewId>,
    view: ViewId,
    stuck: &StickyOffset,
) -> bool {
    let scroller = stuck.scroller;
    let (Some(port), Some(own)) = (placement.frame(scroller), placement.frame(view)) else { return false };
    let inset =
        screen.at(view).sticks().iter().find(|(side, _)| *side == stuck.side).map_or(0.0, |(_, by)| *by);
    // The strip of the view that scrolls in which it lies while it sticks.
    let strip = match stuck.side {
        Side::Top => Frame { top: port.top + inset, height: own.height, ..port },
        Side::Bottom => Frame { top: port.bottom() - inset - own.height, height: own.height, ..port },
        _ => port,
    };
    let meets = |other: ViewId| {
        let frame = scrolled.painted_bounds(screen, other).filter(|_| scrolled.is_painted(other));
        let is_apart = !screen.is_within(other, view) && !screen.is_within(view, other);
        is_apart && frame.is_some_and(|frame| frame.shared(&strip).is_some())
    };
    let sticks_too = |other: ViewId| {
        let same =
            |s: &StickyOffset| (s.scroller, s.side) == (scroller, stuck.side) && s.held.0 < stuck.held.1;
        let before = |s: &StickyOffset| s.held.1 > stuck.held.0;
        other != view
            && placement.stuck.get(&other).is_some_and(|all| all.iter().any(|s| same(s) && before(s)))
    };
    screen.views().any(|(other, about)| {
        let stays = fixed.contains(&other) && about.parent() == Some(scroller);
        let is_outside = !screen.is_within(other, scroller) && !screen.is_within(scroller, other);
        (is_outside || stays) && meets(other) || sticks_too(other)
    })
}
