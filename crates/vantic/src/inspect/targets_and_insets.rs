//! What can be seen and touched: content under the insets, controls that are too small, backgrounds with
//! gaps.

use crate::finding::{Finding, Severity};
use crate::inspect::frames::{SIDES, VISIBILITY_TOLERANCE, beyond, within};
use crate::screen_ext::ScreenExt as _;
use vantic_core::geometry::Frame;
use vantic_core::model::{Code, Screen, ViewId};
use vantic_core::plan::Placement;
use vantic_core::words::number;

/// The least size of a control where its view says no other, in logical pixels (WCAG 2.2, success criterion
/// 2.5.8).
const LEAST_TARGET: f64 = 24.0;

/// `12 at the top and 4 at the left`.
fn sides(parts: &[(usize, f64)]) -> String {
    let said: Vec<String> =
        parts.iter().map(|(side, by)| format!("{} at the {}", number(*by), SIDES[*side])).collect();
    match said.as_slice() {
        [most @ .., last] if !most.is_empty() => format!("{} and {last}", most.join(", ")),
        one => one.concat(),
    }
}

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
        let by: Vec<(usize, f64)> = beyond(&seen, &safe)
            .into_iter()
            .enumerate()
            .filter(|(_, by)| *by > VISIBILITY_TOLERANCE)
            .collect();
        if by.is_empty() {
            continue;
        }
        let mut finding = Finding::new(Code::Covered, Severity::Warning);
        let path = screen.path(view);
        finding.message = format!("`{path}` is under the insets of the display: {}", sides(&by));
        let rule = within(by[0].0, "safe");
        finding.help = format!("tie it to `safe` instead of `screen`, such as `{rule}`");
        finding.coordinates = by.iter().map(|(side, _)| format!("{path}.{}", SIDES[*side])).collect();
        finding.views = vec![path];
        finding.amount = by.iter().map(|(_, by)| *by).fold(0.0, f64::max);
        findings.push(finding);
    }
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
        if short <= VISIBILITY_TOLERANCE || own.is_none() && !others().any(touches) {
            continue;
        }
        let mut finding = Finding::new(Code::Small, Severity::Warning);
        let path = screen.path(view);
        let said = format!("`{path}` is {} x {}", number(width), number(height));
        finding.message = match own {
            Some(least) => format!("{said}; the minimum is {0} x {0}", number(least)),
            None => format!("{said}: below 24 x 24, and too near to another control to be tapped"),
        };
        finding.help =
            format!("write `size >= {}` in it, or keep other controls further away", number(least));
        finding.coordinates = [("width", width), ("height", height)]
            .iter()
            .filter(|(_, size)| *size < least - VISIBILITY_TOLERANCE)
            .map(|(side, _)| format!("{path}.{side}"))
            .collect();
        finding.views = vec![path];
        finding.amount = short;
        findings.push(finding);
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
        let strips: Vec<(usize, f64)> = beyond(&display, &seen)
            .into_iter()
            .enumerate()
            .filter(|(_, by)| *by > VISIBILITY_TOLERANCE)
            .collect();
        // What keeps to the safe area is no background.
        let safe = placement.safe_frame();
        if safe != display && beyond(&safe, &seen).iter().all(|by| *by <= VISIBILITY_TOLERANCE) {
            return Some((Vec::new(), 0.0, 0.0));
        }
        let open = display.width * display.height - seen.width * seen.height;
        Some((strips, open, open / (display.width * display.height)))
    };
    let found: Vec<_> = placements.iter().filter_map(|p| Some((p, left_open(p)?))).collect();
    if !found.iter().any(|(_, (strips, ..))| strips.is_empty()) {
        return None;
    }
    let open: Vec<_> =
        found.iter().filter(|(_, (strips, _, share))| !strips.is_empty() && *share < LEFT_OPEN).collect();
    let (worst, (strips, area, _)) = open.iter().max_by(|a, b| a.1.1.total_cmp(&b.1.1))?;
    let mut finding = Finding::new(Code::Uncovered, Severity::Warning);
    let path = screen.path(view);
    finding.message = format!(
        "`{path}` covers the whole screen on other displays, but leaves gaps here: {}",
        sides(strips)
    );
    finding.help = format!("write `pin left, right, top, bottom to screen` in `{path}`");
    finding.coordinates = strips.iter().map(|(side, _)| format!("{path}.{}", SIDES[*side])).collect();
    finding.views = vec![path];
    finding.amount = *area;
    finding.displays = open.iter().map(|(p, _)| p.display.name().to_owned()).collect();
    finding.worst = worst.display.name().to_owned();
    finding.varies = open.iter().any(|(_, (_, other, _))| (other - area).abs() > VISIBILITY_TOLERANCE);
    Some(finding)
}
