//! What covers what: siblings over one another, views in one layer over those in another, and what is never
//! clear of what is fixed over it.
//!
//! Two siblings that overlap are reported as such. Where the lower one is a backdrop, or the upper one a
//! layer over all of its parent, what they hold is compared instead, down to what people see: texts,
//! images, controls and views without children.

use crate::finding::Finding;
use crate::finding::detail::CoverDetail;
use crate::inspect::frames::{fills, seen, seen_of};
use crate::inspect::meant::Meant;
use crate::inspect::outline::{Outline, Shared};
use crate::screen_ext::ScreenExt as _;
use std::cell::OnceCell;
use std::collections::{HashMap, HashSet};
use vantic_core::geometry::{Axis, Frame, within};
use vantic_core::model::{Code, Screen, ViewId};
use vantic_core::plan::Placement;
use vantic_core::tolerance::VISIBLE;
use vantic_core::work;

/// How many overlaps are reported of one display.
const MAX_OVERLAPS: usize = 10_000;

/// How many pairs of views in different layers are compared on one display.
const MAX_PAIRS: usize = 1_000_000;

/// What it takes to compare a pair that may overlap, in units of work, and how many of those that cannot are a unit.
const PAIR: usize = 1;
const PASSED_OVER: usize = 16;

/// So many views under one are reported by name; of more, the view that holds them is.
const MAX_UNDER_ONE: usize = 3;

/// So many views in one place are reported as one.
const COPIES: usize = 3;

/// What overlaps on a display. `fixed` are the views that stay where they are while what is around them is
/// scrolled; siblings that are nearer to one another than `gap` count too, in logical pixels.
pub(crate) fn overlaps(
    screen: &Screen,
    placement: &Placement,
    fixed: &HashSet<ViewId>,
    gap: f64,
    findings: &mut Vec<Finding>,
) {
    let meant = OnceCell::new();
    let mut search = Search { screen, placement, fixed, gap, meant, pairs: 0, found: Vec::new() };
    search.families();
    search.never_clear();
    findings.append(&mut search.found);
}

struct Search<'a> {
    screen: &'a Screen,
    placement: &'a Placement,
    fixed: &'a HashSet<ViewId>,
    gap: f64,
    meant: OnceCell<Meant>,
    pairs: usize,
    found: Vec<Finding>,
}

/// A painted view, and the box around what is painted of it.
type Seen = (ViewId, Frame);

impl Search<'_> {
    fn is_full(&self) -> bool {
        self.found.len() >= MAX_OVERLAPS
    }

    fn is_meant(&self, a: ViewId, b: ViewId) -> bool {
        self.meant.get_or_init(|| Meant::of(self.screen, self.placement)).has(self.screen, a, b)
    }

    /// What two views share of what is painted of them, if that can be seen.
    fn shared(&self, a: &Seen, b: &Seen) -> Option<Shared> {
        let outline = |(view, frame): &Seen| Outline::of(self.screen, self.placement, *view, frame);
        let shared = outline(a).shared(&outline(b))?;
        (shared.width > VISIBLE && shared.height > VISIBLE).then_some(shared)
    }

    fn families(&mut self) {
        let (screen, placement) = (self.screen, self.placement);
        let mut families: Vec<Vec<Seen>> = vec![Vec::new(); placement.frames.len() + 1];
        for (id, frame) in seen(screen, placement) {
            families[screen.at(id).parent().map_or(0, |p| p.index() + 1)].push((id, frame));
        }
        for (family, members) in families.into_iter().enumerate().filter(|(_, members)| members.len() > 1) {
            let parent = family.checked_sub(1).and_then(|p| screen.view_at(p));
            self.family(&Covering::of(screen, placement, parent), members);
            if self.is_full() {
                return;
            }
        }
    }

    /// The siblings that overlap.
    fn family(&mut self, around: &Covering, mut members: Vec<Seen>) {
        self.copies(around, &mut members);
        // Swept along the axis on which they lie further apart, so that long lists stay cheap.
        let spread = |edge: fn(&Frame) -> f64| {
            let edges = members.iter().map(|m| edge(&m.1));
            let (low, high) = edges.fold((f64::MAX, f64::MIN), |(l, h), e| (l.min(e), h.max(e)));
            high - low
        };
        let sideways = spread(|f| f.left) > spread(|f| f.top);
        let edges = |f: &Frame| if sideways { (f.left, f.right()) } else { (f.top, f.bottom()) };
        members.sort_by(|a, b| edges(&a.1).0.total_cmp(&edges(&b.1).0).then(a.0.cmp(&b.0)));
        let gap = self.gap;
        let beside = |f: &Frame| if sideways { (f.top, f.bottom()) } else { (f.left, f.right()) };
        for (i, a) in members.iter().enumerate() {
            let (first, last) = beside(&a.1);
            let near = members[i + 1..].iter().take_while(|b| edges(&b.1).0 < edges(&a.1).1 + gap);
            for (pairs, b) in near.enumerate() {
                work::spend(usize::from(pairs % PASSED_OVER == 0));
                let (from, to) = beside(&b.1);
                if from > last + gap || to < first - gap {
                    continue;
                }
                work::spend(PAIR);
                let (below, above) = if self.placement.is_on_top(b.0, a.0) { (a, b) } else { (b, a) };
                self.siblings(around, &members, below, above);
                if self.is_full() || work::is_spent() {
                    return;
                }
            }
        }
    }

    fn siblings(&mut self, around: &Covering, members: &[Seen], below: &Seen, above: &Seen) {
        // What sticks, or is fixed, is meant to cover what moves with its parent under it.
        let stays = |view| self.placement.is_stuck(view) || self.fixed.contains(&view);
        if stays(above.0) && !stays(below.0) || self.placement.look(above.0).floats {
            return;
        }
        let near = grown(&below.1, self.gap).shared(&above.1);
        if near.is_none_or(|s| s.width <= VISIBLE || s.height <= VISIBLE) {
            return;
        }
        let is_layer = !self.screen.at(above.0).children().is_empty() && around.is_covered_by(&above.1);
        if around.is_covered_by(&below.1) || is_layer {
            self.layers(members, below, above);
            return;
        }
        if self.is_meant(below.0, above.0) {
            return;
        }
        match self.shared(below, above) {
            Some(shared) => self.found.push(overlap(below.0, above.0, &shared)),
            None if self.gap > 0.0 => self.found.extend(too_near((below, above), self.gap)),
            None => {}
        }
    }

    /// Three views and more of one frame: reported once, and compared with others as one.
    fn copies(&mut self, around: &Covering, members: &mut Vec<Seen>) {
        let place = |f: &Frame| [f.left, f.top, f.width, f.height].map(|x| (x / VISIBLE).round() as i64);
        let mut places: HashMap<[i64; 4], Vec<ViewId>> = HashMap::new();
        // Layers over one another are compared by what they hold.
        for (view, frame) in members.iter().filter(|(_, frame)| !around.is_covered_by(frame)) {
            places.entry(place(frame)).or_default().push(*view);
        }
        places.retain(|_, views| views.len() >= COPIES);
        let mut of_places: Vec<&Vec<ViewId>> = places.values().collect();
        of_places.sort();
        for views in of_places {
            let pairs = || std::iter::zip(views, &views[1..]);
            if pairs().any(|(a, b)| self.is_meant(*a, *b))
                || views.iter().any(|v| self.placement.look(*v).floats)
            {
                continue;
            }
            let Some(frame) = self.placement.frame(views[0]) else { continue };
            let detail = CoverDetail::InOnePlace { width: frame.width, height: frame.height };
            let finding = Finding::warning(Code::Overlap, detail).about(views.clone());
            self.found.push(finding.by(frame.width * frame.height));
        }
        members.retain(|(view, frame)| places.get(&place(frame)).is_none_or(|views| views[0] == *view));
    }

    /// What is seen of a view and of what it holds: texts, images, controls and views without children.
    fn seen_in(&self, view: ViewId, without_floating: bool) -> Vec<Seen> {
        let mut seen = Vec::new();
        let mut waiting = vec![view];
        while let Some(view) = waiting.pop() {
            let look = self.placement.look(view);
            if without_floating && look.floats {
                continue;
            }
            let about = self.screen.at(view);
            let is_seen = about.children().is_empty() || about.has_content() || look.control.is_some();
            let frame = seen_of(self.screen, self.placement, view).filter(|_| is_seen);
            match frame {
                Some(frame) => seen.push((view, frame)),
                None => waiting.extend(about.children()),
            }
        }
        seen
    }

    /// What a view, and what it holds, covers of what another holds.
    fn layers(&mut self, members: &[Seen], below: &Seen, above: &Seen) {
        let (screen, placement) = (self.screen, self.placement);
        let upper = self.seen_in(above.0, true);
        if upper.is_empty() || self.is_meant(below.0, above.0) {
            return;
        }
        // A backdrop has nothing to be covered but what stands in it.
        let is_backdrop = |view: ViewId, frame: &Frame| {
            let parent = screen.at(view).parent();
            Covering::of(screen, placement, parent).is_covered_by(frame)
                && placement.look(view).control.is_none()
        };
        let mut lower = self.seen_in(below.0, false);
        lower.retain(|(view, frame)| !is_backdrop(*view, frame));
        if lower.is_empty() {
            return;
        }
        work::spend(members.len() / PASSED_OVER + lower.len() + upper.len());
        // What something in between covers altogether is reported of that.
        let between: Vec<&Seen> = members
            .iter()
            .filter(|(view, _)| placement.is_on_top(*view, below.0) && placement.is_on_top(above.0, *view))
            .filter(|(view, _)| screen.at(*view).children().is_empty() || screen.at(*view).has_content())
            .filter(|(view, _)| placement.painting(screen, *view).is_plain())
            .collect();
        let is_hidden = |frame: &Frame| between.iter().any(|(_, over)| fills(over, frame));
        lower.retain(|(_, frame)| !is_hidden(frame));
        for over in &upper {
            let mut under = Vec::new();
            for low in &lower {
                self.pairs += 1;
                if self.pairs > MAX_PAIRS {
                    return;
                }
                if let Some(finding) = self.over(low, over) {
                    under.push(finding);
                }
            }
            match under.len() {
                0 => {}
                1..=MAX_UNDER_ONE => self.found.append(&mut under),
                count => {
                    let area = under.iter().map(|f| f.amount).sum();
                    let such_as = under[0].views[0];
                    let detail = CoverDetail::CoversMany { count, such_as };
                    self.found
                        .push(Finding::warning(Code::Overlap, detail).about([below.0, over.0]).by(area));
                }
            }
        }
    }

    /// One view over another one in another layer: as they are, or, where the lower one is scrolled, wherever
    /// it is scrolled to.
    fn over(&self, low: &Seen, over: &Seen) -> Option<Finding> {
        let (screen, placement) = (self.screen, self.placement);
        let is_apart = |axis: Axis| {
            let edges = |f: &Frame| f.along(axis, vantic_core::geometry::Direction::LeftToRight);
            let (a, b) = (edges(&low.1), edges(&over.1));
            a.1.min(b.1) - a.0.max(b.0) <= VISIBLE
        };
        let moving = |at: ViewId| {
            let scrolled = screen.at(at).parent().and_then(|p| Some((p, placement.scrolled.get(&p)?)));
            scrolled.filter(|(_, s)| s.most.0.max(s.most.1) > 0.0 && !self.fixed.contains(&at))
        };
        let is_stuck = screen.with_ancestors(low.0).any(|v| placement.is_stuck(v));
        let mut moves = screen.with_ancestors(low.0).filter_map(moving).filter(|_| !is_stuck);
        if let Some((scroller, at)) = moves.next() {
            let goes = |axis| if axis == Axis::Across { at.most.0 > 0.0 } else { at.most.1 > 0.0 };
            // Along an axis on which nothing moves, it is as it is.
            if [Axis::Across, Axis::Down].into_iter().any(|axis| !goes(axis) && is_apart(axis)) {
                return None;
            }
            // Of two that scroll, one within the other, it is not reported.
            if moves.next().is_some() || self.is_meant(low.0, over.0) {
                return None;
            }
            return self.never_clear_of(scroller, low, over);
        }
        if is_apart(Axis::Across) || is_apart(Axis::Down) {
            return None;
        }
        let visible = |of: &Seen| match placement.painting(screen, of.0).is_plain() {
            true => Some((of.0, placement.visible_frame(screen, of.0)?)),
            false => Some(*of),
        };
        let (low, over) = (visible(low)?, visible(over)?);
        let shared = self.shared(&low, &over).filter(|_| !self.is_meant(low.0, over.0))?;
        Some(overlap(low.0, over.0, &shared))
    }

    /// What is fixed on top of what is scrolled: which views are never clear of it, however far they are
    /// scrolled. Views that hold others are looked at by what they hold.
    fn never_clear(&mut self) {
        let (screen, placement) = (self.screen, self.placement);
        for &scroller in placement.scrolled.keys() {
            let still = screen.at(scroller).children().iter().copied();
            let still = still.filter(|v| self.fixed.contains(v) && placement.is_painted(*v));
            let still: Vec<ViewId> = still.filter(|v| !placement.look(*v).floats).collect();
            if still.is_empty() {
                continue;
            }
            let child_of =
                |view: ViewId| screen.with_ancestors(view).find(|v| screen.at(*v).parent() == Some(scroller));
            for leaf in seen(screen, placement).filter(|(v, _)| screen.at(*v).children().is_empty()) {
                let Some(child) = child_of(leaf.0).filter(|child| !self.fixed.contains(child)) else {
                    continue;
                };
                for &above in still.iter().filter(|&&above| placement.is_on_top(above, child)) {
                    let over = placement.frame(above).map(|frame| (above, frame));
                    let finding = over.and_then(|over| self.never_clear_of(scroller, &leaf, &over));
                    self.found.extend(finding);
                }
            }
        }
    }

    /// A view that `scroller` cannot scroll clear of one over it.
    fn never_clear_of(&self, scroller: ViewId, (low, under): &Seen, (over, top): &Seen) -> Option<Finding> {
        let (at, port) = (self.placement.scrolled.get(&scroller)?, self.placement.frame(scroller)?);
        let direction = self.placement.display.direction();
        let left = |axis, offset, most| {
            let [port, above, below] = [&port, top, under].map(|f| f.along(axis, direction));
            covered(port, above, (below.0 + offset, below.1 + offset), most)
        };
        let width = left(Axis::Across, at.offset.0, at.most.0);
        let height = left(Axis::Down, at.offset.1, at.most.1);
        (width > VISIBLE && height > VISIBLE).then(|| {
            let detail = CoverDetail::NeverClear { scroller, width, height };
            Finding::warning(Code::Overlap, detail).about([*low, *over]).by(width * height)
        })
    }
}

/// What a view covers where it is a backdrop, or a layer: its parent, what that scrolls, or the screen or its
/// safe area.
struct Covering(Vec<Frame>);

impl Covering {
    fn of(screen: &Screen, placement: &Placement, parent: Option<ViewId>) -> Self {
        let Some(parent) = parent else {
            return Self(vec![placement.screen_frame(), placement.safe_frame()]);
        };
        let content_box = screen.at(parent).scrolled().and_then(|of| placement.frame(of));
        Self(placement.frame(parent).into_iter().chain(content_box).collect())
    }

    fn is_covered_by(&self, frame: &Frame) -> bool {
        self.0.iter().any(|of| fills(frame, of))
    }
}

/// How much of what is scrolled cannot be seen beside what is fixed, at best, along one axis. What is
/// scrolled is reported for offset 0. What is larger than the space beside it is looked at part by part.
fn covered(port: (f64, f64), above: (f64, f64), below: (f64, f64), most: f64) -> f64 {
    let size = below.1 - below.0;
    let rooms = [(port.0, above.0), (above.1, port.1)];
    if rooms.iter().all(|room| size > room.1 - room.0 + VISIBLE) {
        return (below.1.min(above.1) - below.0.max(above.0 + most)).max(0.0);
    }
    let clear = |offset: f64| {
        let part = |room: &(f64, f64)| (below.1 - offset).min(room.1) - (below.0 - offset).max(room.0);
        rooms.iter().map(|room| part(room).max(0.0)).sum::<f64>()
    };
    // The best offset is one at which an edge meets an edge, or the first or the last.
    let meets = rooms.iter().flat_map(|room| [below.0 - room.0, below.1 - room.1]);
    let offsets = meets.map(|offset| within(offset, 0.0, most)).chain([0.0, most]);
    size - offsets.map(clear).fold(0.0, f64::max)
}

/// A frame larger by so much on each side.
fn grown(frame: &Frame, by: f64) -> Frame {
    Frame {
        left: frame.left - by,
        top: frame.top - by,
        width: frame.width + 2.0 * by,
        height: frame.height + 2.0 * by,
    }
}

/// Siblings that do not overlap, but are nearer to one another than they may be.
fn too_near((below, above): (&Seen, &Seen), gap: f64) -> Option<Finding> {
    let beyond = |near: f64, far: f64| (near - far).max(0.0);
    let (a, b) = (&below.1, &above.1);
    let across = beyond(b.left, a.right()).max(beyond(a.left, b.right()));
    let down = beyond(b.top, a.bottom()).max(beyond(a.top, b.bottom()));
    let apart = across.max(down);
    let finding = Finding::warning(Code::Overlap, CoverDetail::TooNear { apart, gap });
    Some(finding.about([below.0, above.0]).by(gap - apart))
}

fn overlap(below: ViewId, above: ViewId, shared: &Shared) -> Finding {
    let &Shared { width, height, area } = shared;
    let finding = Finding::warning(Code::Overlap, CoverDetail::Overlap { width, height, area });
    finding.about([below, above]).by(area)
}
