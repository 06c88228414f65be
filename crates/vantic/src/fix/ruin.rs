//! What a fix may not do to a view: leave next to nothing of it, push it off the display, break its words into many
//! lines, or put it before what it came after.

use crate::finding::Finding;
use std::collections::HashSet;
use vantic_core::geometry::{Direction, Frame};
use vantic_core::model::{Code, Image, Rule, Screen, ViewId};
use vantic_core::plan::Placement;

/// A view that is no smaller than this, in logical pixels, is of use.
const USABLE: f64 = 8.0;

/// A picture in its own proportions is seen where it is no smaller than this, in logical pixels.
const SHOWN: f64 = 40.0;

/// What may be left of a size, as a share of it, where little is left.
const LEFT_OVER: f64 = 0.2;

/// Words that take more than so many times as many lines are hardly read.
const MANY_LINES: u32 = 3;

/// What differs by less than this, in logical pixels, is level.
const LEVEL: f64 = 1.0;

/// A view before and after; one that went wrong may take any number of lines.
struct View {
    was: ViewId,
    is: ViewId,
    may_wrap: bool,
    /// Any size above zero will do.
    may_shrink: bool,
    /// The size of a picture by itself: one that was out of shape may shrink.
    natural: Option<Image>,
}

/// The views of a screen and of the changed one, with what may become of them.
pub(crate) struct Settled {
    views: Vec<View>,
    /// The views of the finding with each of their siblings, the one declared first: before, and after.
    neighbours: Vec<[(ViewId, ViewId); 2]>,
}

impl Settled {
    pub(crate) fn new(finding: &Finding, is_open: bool, old: &Screen, screen: &Screen) -> Self {
        let own = |was: ViewId| finding.views.contains(&was);
        // What is inside of something without a size, and what follows from it, had none either.
        let open = |was: ViewId| {
            let follows = finding.follows.iter().any(|(view, _)| *view == was);
            is_open && (follows || old.with_ancestors(was).any(own))
        };
        let of_size = |rule: &Rule| {
            let terms = rule.relations().iter().flat_map(|r| r.left.terms());
            terms.into_iter().any(|t| !t.coordinate.is_position())
        };
        let stated: HashSet<ViewId> =
            screen.rules().filter(|(_, rule)| of_size(rule)).filter_map(|(_, rule)| rule.owner()).collect();
        let views = old.views().filter_map(|(was, _)| {
            let is = counterpart(old, screen, was)?;
            let about = screen.view(is)?;
            // What is as large as its children shrinks with them.
            let is_as_its_children = about.arrangement().is_some() && !stated.contains(&is);
            let may_shrink = is_as_its_children || open(was);
            // Of two that overlap, one gives way, and stays a text of a few lines.
            let may_wrap = own(was) && finding.code != Code::Overlap;
            Some(View { was, is, may_wrap, may_shrink, natural: about.image() })
        });
        let both = |was: ViewId| Some((was, counterpart(old, screen, was)?));
        let beside = finding.views.iter().filter(|_| !is_open).flat_map(|&view| {
            let siblings = old.siblings_of(view).filter(move |sibling| *sibling != view);
            // In declared order, which is that of reading.
            siblings.filter_map(move |sibling| {
                let mut pair = [both(view)?, both(sibling)?];
                pair.sort_by_key(|(was, _)| old.siblings_of(view).position(|other| other == *was));
                Some(pair)
            })
        });
        Self { views: views.collect(), neighbours: beside.collect() }
    }

    /// Whether a view becomes unusable, or changes places with a neighbour.
    pub(crate) fn are_ruined(&self, before: &Placement, after: &Placement) -> bool {
        self.views.iter().any(|view| view.is_ruined(before, after))
            || self.neighbours.iter().any(|pair| change_places(pair, before, after))
    }
}

/// A view in the changed screen: of the same path, or of that path within a view that was not there.
fn counterpart(old: &Screen, screen: &Screen, was: ViewId) -> Option<ViewId> {
    let path = old.path(was);
    screen.find(&path).or_else(|| {
        let within = |new: &str| {
            new.split_once('.').is_some_and(|(around, rest)| rest == path && old.find(around).is_none())
        };
        screen.views().map(|(view, _)| view).find(|&view| within(&screen.path(view)))
    })
}

impl View {
    fn is_ruined(&self, before: &Placement, after: &Placement) -> bool {
        let &Self { was, is, may_wrap, may_shrink, natural } = self;
        let whole = before.screen_frame();
        let shrinks = |a: f64, b: f64| a >= USABLE && (b < USABLE || b < a * LEFT_OVER);
        let lines = |p: &Placement, view: ViewId| p.text_size(view).map_or(0, |size| size.lines);
        let (Some(a), Some(b)) = (before.frame(was), after.frame(is)) else { return false };
        if !before.is_painted(was) || !after.is_painted(is) {
            return false;
        }
        let is_off = b.shared(&whole).is_none() && after.scrolled.is_empty();
        let is_lost = a.shared(&whole).is_some() && is_off;
        let usual = lines(before, was);
        let breaks = !may_wrap && usual > 0 && lines(after, is) > MANY_LINES * usual;
        let is_shown = natural.is_some_and(|of| {
            let as_by_itself = (b.width * of.height - b.height * of.width).abs() <= b.width.max(b.height);
            as_by_itself && b.width.min(b.height) >= SHOWN.min(of.width.min(of.height) / 2.0)
        });
        let is_ruined = match may_shrink {
            true => b.width.min(b.height) < 1.0 && a.width.min(a.height) >= 1.0,
            // What had no width at all had no height that one would keep, and the other way round.
            false if a.width.min(a.height) < 1.0 => false,
            false => !is_shown && (shrinks(a.width, b.width) || shrinks(a.height, b.height)),
        };
        is_ruined || is_lost || breaks
    }
}

/// Whether the one that is declared first was before the other and comes after it.
fn change_places(pair: &[(ViewId, ViewId); 2], before: &Placement, after: &Placement) -> bool {
    let [(a, a_is), (b, b_is)] = *pair;
    let was = (before.frame(a), before.frame(b));
    let is = (after.frame(a_is), after.frame(b_is));
    let ((Some(a), Some(b)), (Some(c), Some(d))) = (was, is) else { return false };
    let are_seen = before.is_painted(pair[0].0) && before.is_painted(pair[1].0);
    // Which side is first depends on the direction of reading, and on what follows it.
    let reads_on = before.display.direction() == Direction::LeftToRight;
    are_seen && (sinks(&a, &b, &c, &d) || reads_on && falls_behind(&a, &b, &c, &d))
}

/// Whether the first of two, which was above the other, is below it.
fn sinks(a: &Frame, b: &Frame, c: &Frame, d: &Frame) -> bool {
    let share_a_column = c.left < d.right() && d.left < c.right();
    a.top < b.top - LEVEL && d.bottom() <= c.top + LEVEL && share_a_column
}

/// Whether the first of two on a line has got behind the other.
fn falls_behind(a: &Frame, b: &Frame, c: &Frame, d: &Frame) -> bool {
    let share_a_line = |a: &Frame, b: &Frame| a.top < b.bottom() && b.top < a.bottom();
    let swapped = a.right() <= b.left + LEVEL && d.right() <= c.left + LEVEL;
    swapped && share_a_line(a, b) && share_a_line(c, d)
}
