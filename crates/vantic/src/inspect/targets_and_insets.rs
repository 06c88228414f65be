//! What can be seen and touched: content under the insets, controls that are too small, backgrounds with
//! gaps.

use crate::finding::Finding;
use crate::finding::detail::{BySide, FrameDetail};
use crate::inspect::frames::{beyond, sides_over};
use crate::screen_ext::ScreenExt as _;
use vantic_core::geometry::Frame;
use vantic_core::model::{Code, Coordinate, Screen, ViewId};
use vantic_core::plan::Placement;
use vantic_core::tolerance::VISIBLE;

/// The least size of a control where its view says no other, in logical pixels (WCAG 2.2, success criterion
/// 2.5.8).
const LEAST_TARGET: f64 = 24.0;

/// Texts and images under the insets of the display. What can be scrolled clear of them is not reported.
pub(crate) fn covered(screen: &Screen, placement: &Placement, findings: &mut Vec<Finding>) {
    let (display, safe) = (placement.screen_frame(), placement.safe_frame());
    if display == safe {
        return;
    }
    for (view, about) in screen.views() {
        if !about.has_content() || !placement.is_painted(view) {
            continue;
        }
        if screen.ancestors(view).any(|v| placement.scrolled.contains_key(&v)) {
            continue;
        }
        // What lies beyond the screen is reported as such.
        let seen = placement.visible_frame(screen, view).and_then(|frame| frame.shared(&display));
        let Some(seen) = seen else { continue };
        let sides = sides_over(beyond(&seen, &safe));
        if sides.is_empty() {
            continue;
        }
        findings.push(at_sides(Code::Covered, view, sides, |sides| FrameDetail::UnderInsets { sides }));
    }
}

/// A warning about some sides of a view, by how much it is over on the worst of them.
fn at_sides(code: Code, view: ViewId, sides: BySide, detail: fn(BySide) -> FrameDetail) -> Finding {
    let coordinates = sides.iter().map(|(side, _)| (view, *side)).collect();
    let most = sides.iter().map(|(_, by)| *by).fold(0.0, f64::max);
    Finding::warning(code, detail(sides)).about([view]).at(coordinates).by(most)
}

/// Controls below their least size. One that says no size of its own may be smaller where a circle of the
/// least size around its middle touches no other control, as the criterion has it.
pub(crate) fn small(screen: &Screen, placement: &Placement, findings: &mut Vec<Finding>) {
    let controls: Vec<(ViewId, Frame, Option<f64>)> = screen
        .views()
        .filter_map(|(view, _)| {
            let control = placement.look(view).control?;
            let frame = placement.frame(view).filter(|_| placement.is_painted(view))?;
            Some((view, frame, control.least))
        })
        .collect();
    let scale = placement.scale();
    for &(view, frame, own) in &controls {
        let least = own.unwrap_or(LEAST_TARGET);
        let (width, height) = (frame.width * scale, frame.height * scale);
        let short = (least - width.min(height)).max(0.0);
        let middle =
            |f: &Frame| (f64::midpoint(f.left, f.right()) * scale, f64::midpoint(f.top, f.bottom()) * scale);
        let radius = LEAST_TARGET / 2.0;
        let touches = |(_, other, _): &(ViewId, Frame, Option<f64>)| {
            let (x, y) = middle(&frame);
            let is_small = other.width.min(other.height) * scale < LEAST_TARGET;
            let (near_x, near_y) = if is_small {
                middle(other)
            } else {
                (
                    x.clamp(other.left * scale, other.right() * scale),
                    y.clamp(other.top * scale, other.bottom() * scale),
                )
            };
            (x - near_x).hypot(y - near_y) < if is_small { 2.0 * radius } else { radius }
        };
        let others = || controls.iter().filter(|other| other.0 != view);
        if short <= VISIBLE || own.is_none() && !others().any(touches) {
            continue;
        }
        let sizes = [(Coordinate::Width, width), (Coordinate::Height, height)];
        let below = sizes.into_iter().filter(|(_, size)| *size < least - VISIBLE);
        let below = below.map(|(coordinate, _)| (view, coordinate)).collect();
        let detail = FrameDetail::SmallControl { width, height, least, is_own: own.is_some() };
        findings.push(Finding::warning(Code::Small, detail).about([view]).at(below).by(short));
    }
}

/// How much of the screen a background may leave open and still be taken for one.
const LEFT_OPEN: f64 = 0.25;

/// A background that covers the whole screen on some displays, and leaves strips of it open on others. It is
/// what lies at the back of the screen.
pub(crate) fn uncovered(screen: &Screen, placements: &[Placement]) -> Option<Finding> {
    let view = screen.roots().first().copied().filter(|&view| !screen.at(view).has_content())?;
    let left_open = |placement: &Placement| {
        let frame = placement.frame(view).filter(|_| placement.is_painted(view))?;
        let display = placement.screen_frame();
        let seen = frame.shared(&display)?;
        let strips = sides_over(beyond(&display, &seen));
        // What keeps to the safe area is no background.
        let safe = placement.safe_frame();
        if safe != display && beyond(&safe, &seen).iter().all(|by| *by <= VISIBLE) {
            return Some((Vec::new(), 0.0, 0.0));
        }
        let open = display.width * display.height - seen.width * seen.height;
        Some((strips, open, open / (display.width * display.height)))
    };
    let on_each = placements.iter().enumerate();
    let found: Vec<_> = on_each.filter_map(|(on, p)| Some((on, left_open(p)?))).collect();
    if !found.iter().any(|(_, (strips, ..))| strips.is_empty()) {
        return None;
    }
    let open: Vec<_> =
        found.iter().filter(|(_, (strips, _, share))| !strips.is_empty() && *share < LEFT_OPEN).collect();
    let (worst, (strips, area, _)) = open.iter().max_by(|a, b| a.1.1.total_cmp(&b.1.1))?;
    let finding = at_sides(Code::Uncovered, view, strips.clone(), |sides| FrameDetail::Gaps { sides });
    Some(Finding {
        displays: open.iter().map(|(on, _)| *on).collect(),
        worst: Some(*worst),
        varies: open.iter().any(|(_, (_, other, _))| (other - area).abs() > VISIBLE),
        ..finding.by(*area)
    })
}
