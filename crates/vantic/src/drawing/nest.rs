//! What is in what, told from frames alone.

use crate::drawing::drawn::{DrawnView, MAX_DRAWN_VIEWS};
use vantic_core::geometry::Frame;
use vantic_core::tolerance::VISIBLE;

/// Puts views without points in their names into the smallest larger box that was painted before them and holds them. Texts
/// hold nothing. Too many are left as they are: no drawing has so many.
pub(crate) fn nested(views: &mut [DrawnView], holds: impl Fn(&DrawnView) -> bool) {
    if views.len() > MAX_DRAWN_VIEWS || views.iter().any(|view| view.path.contains('.')) {
        return;
    }
    let frames: Vec<Frame> = views.iter().map(|view| view.frame).collect();
    for at in 0..views.len() {
        let inside = |outer: &Frame| {
            let own = &frames[at];
            own.left >= outer.left - VISIBLE
                && own.top >= outer.top - VISIBLE
                && own.right() <= outer.right() + VISIBLE
                && own.bottom() <= outer.bottom() + VISIBLE
        };
        let area = |frame: &Frame| frame.width * frame.height;
        let is_larger = |outer: usize| area(&frames[outer]) > area(&frames[at]);
        let around =
            (0..at).filter(|&outer| holds(&views[outer]) && is_larger(outer) && inside(&frames[outer]));
        let smallest = around.min_by(|&a, &b| area(&frames[a]).total_cmp(&area(&frames[b])).then(b.cmp(&a)));
        if let Some(outer) = smallest {
            views[at].path = format!("{}.{}", views[outer].path, views[at].path);
        }
    }
}
