//! Views that got another shape than their content has: pictures out of proportion, and texts higher than
//! their lines.

use crate::finding::Finding;
use crate::finding::detail::StretchDetail;
use crate::inspect::frames::seen;
use crate::screen_ext::ScreenExt as _;
use vantic_core::geometry::Frame;
use vantic_core::model::{Code, Coordinate, Screen, ViewId};
use vantic_core::plan::Placement;
use vantic_core::text::TextSize;
use vantic_core::tolerance::VISIBLE;

/// A picture whose width and height differ in scale by more than this is seen to be out of proportion.
const SEEN_DISTORTED: f64 = 0.01;

/// Pictures out of their natural proportions, and texts in whose frame another line would fit.
pub(crate) fn stretched(screen: &Screen, placement: &Placement, findings: &mut Vec<Finding>) {
    for (view, _) in seen(screen, placement) {
        let Some(frame) = placement.frame(view) else { continue };
        findings.extend(distorted(placement, view, &frame));
        findings.extend(beyond_lines(screen, placement, view, &frame));
    }
}

/// By how much a picture, or a text, is beyond the limits at which it is stretched, each of which moves
/// evenly where its frame does; for finding where it begins to be.
pub(crate) fn out_of_shape(placement: &Placement, view: ViewId, frame: &Frame) -> Vec<f64> {
    let picture = placement.look(view).natural.into_iter().flat_map(|natural| {
        let (across, down) = (frame.width / natural.width, frame.height / natural.height);
        let off = [frame.width - down * natural.width, frame.height - across * natural.height];
        let limits = [across - (1.0 + SEEN_DISTORTED) * down, down - (1.0 + SEEN_DISTORTED) * across];
        off.into_iter().flat_map(|off| [off - 1.0, -off - 1.0]).chain(limits)
    });
    let text = placement.texts[view.index()].map(|size| frame.height - size.height - line(&size) + VISIBLE);
    picture.chain(text).collect()
}

/// The height of one line.
fn line(size: &TextSize) -> f64 {
    size.height / f64::from(size.lines - size.hidden).max(1.0)
}

fn distorted(placement: &Placement, view: ViewId, frame: &Frame) -> Option<Finding> {
    let natural = placement.look(view).natural?;
    let (across, down) = (frame.width / natural.width, frame.height / natural.height);
    // One without a width or a height is found as such; and what differs by less than a pixel is rounding.
    let off = (frame.width - down * natural.width).abs().max((frame.height - across * natural.height).abs());
    let (less, more) = (across.min(down), across.max(down));
    if less * natural.width.min(natural.height) <= VISIBLE || more / less - 1.0 <= SEEN_DISTORTED || off < 1.0
    {
        return None;
    }
    let has = (frame.width, frame.height);
    let detail = StretchDetail::Picture { has, natural: (natural.width, natural.height), by: more / less };
    let finding = Finding::warning(Code::Stretched, detail).about([view]).by(off);
    Some(finding.at(vec![(view, Coordinate::Width), (view, Coordinate::Height)]))
}

/// A text in whose frame one more line would fit. Where a row stretches what stands in it, a text is as high
/// as the highest of them on purpose.
fn beyond_lines(screen: &Screen, placement: &Placement, view: ViewId, frame: &Frame) -> Option<Finding> {
    let size = placement.texts[view.index()].filter(|size| size.lines > 0)?;
    let spare = frame.height - size.height;
    if spare < line(&size) - VISIBLE
        || screen.at(view).parent().is_some_and(|p| screen.at(p).arrangement().is_some())
    {
        return None;
    }
    let detail =
        StretchDetail::Text { has: frame.height, needs: size.height, lines: size.lines - size.hidden };
    Some(
        Finding::warning(Code::Stretched, detail)
            .about([view])
            .at(vec![(view, Coordinate::Height)])
            .by(spare),
    )
}
