//! What is seen of placed views: where they are painted, in which order, what clips them, and which one is at a point.

use crate::geometry::frame::Frame;
use crate::model::id::ViewId;
use crate::model::screen::Screen;
use crate::plan::place::appearance::Appearance;
use crate::plan::place::painting::Painting;
use std::cmp::Ordering;

/// Views that are placed, however their frames are kept.
pub(crate) trait Painted {
    /// `None` for one that is not there.
    fn frame(&self, view: ViewId) -> Option<Frame>;
    /// How it is painted, with what makes it smaller so that it fits.
    fn look(&self, view: ViewId) -> Appearance;
    /// Whether it is seen, but for what covers and clips it.
    fn is_painted(&self, view: ViewId) -> bool;
    /// Whether it is held away from where its rules put it.
    fn is_stuck(&self, view: ViewId) -> bool;
    /// Counted from 0.
    fn place_among_siblings(&self, view: ViewId) -> usize;
}

/// What painting does to the points of a view: its own turning and scaling, then that of the views around it.
pub(crate) fn painting(of: &impl Painted, screen: &Screen, view: ViewId) -> Painting {
    screen.with_ancestors(view).fold(Painting::PLAIN, |inner, at| match of.frame(at) {
        Some(frame) => {
            let look = of.look(at);
            let fits = look.fits.filter(|_| at != view).map(|fit| fit.paint());
            let inner = fits.map_or(inner, |paint| inner.then(&Painting::of(paint, &frame)));
            inner.then(&Painting::of(look.paint, &frame))
        }
        None => inner,
    })
}

/// The views around a view that show what they hold within their frames only, from the nearest outwards.
pub(crate) fn clippers<'a>(
    of: &'a impl Painted,
    screen: &'a Screen,
    view: ViewId,
) -> impl Iterator<Item = ViewId> + 'a {
    screen.ancestors(view).filter(|around| of.look(*around).clips)
}

/// The part of a view's frame that the views around it do not clip.
pub(crate) fn visible_frame(of: &impl Painted, screen: &Screen, view: ViewId) -> Option<Frame> {
    let mut frame = of.frame(view)?;
    for clipper in clippers(of, screen, view) {
        frame = frame.shared(&of.frame(clipper)?)?;
    }
    Some(frame)
}

/// Which of two siblings is painted first: what is nearer to the reader is painted later, then what is stuck, then what
/// stands later among them.
pub(crate) fn sibling_order(of: &impl Painted, first: ViewId, second: ViewId) -> Ordering {
    let rank = |view: ViewId| (of.is_stuck(view), of.place_among_siblings(view));
    let (a, b) = (of.look(first).depth, of.look(second).depth);
    a.total_cmp(&b).then_with(|| rank(first).cmp(&rank(second)))
}

/// All views and guides in the order in which they are painted, what is on top last. Guides, which are not painted, come
/// directly after the view that they are in, those of the screen first.
pub(crate) fn painting_order(of: &impl Painted, screen: &Screen) -> Vec<ViewId> {
    let sorted = |views: &[ViewId]| {
        let mut views = views.to_vec();
        // What is on top comes first, since the last of the waiting is taken next.
        views.sort_by(|&a, &b| sibling_order(of, b, a));
        views
    };
    let mut order = Vec::with_capacity(screen.views.len());
    order.extend(screen.guides());
    let mut waiting = sorted(&screen.roots);
    while let Some(view) = waiting.pop() {
        order.push(view);
        order.extend(screen.at(view).guides());
        waiting.extend(sorted(screen.at(view).children()));
    }
    order
}

/// The view on top of all that are painted at a point, and not clipped there.
pub(crate) fn view_at(of: &impl Painted, screen: &Screen, (x, y): (f64, f64)) -> Option<ViewId> {
    let is_within = |view: ViewId| {
        let frame = of.frame(view)?;
        let (x, y) = painting(of, screen, view).inverse()?.apply(x, y);
        // What lies side by side shares no point.
        let within = |at: f64, from: f64, size: f64| from <= at && at < from + size;
        Some(within(x, frame.left, frame.width) && within(y, frame.top, frame.height))
    };
    let is_at = |view: ViewId| is_within(view).unwrap_or(false);
    let mut order = painting_order(of, screen).into_iter().rev().filter(|view| of.is_painted(*view));
    order.find(|&view| is_at(view) && clippers(of, screen, view).all(is_at))
}
