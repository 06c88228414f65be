//! A placement compared with what is expected of it.

use crate::finding::detail::Mismatch;
use vantic_core::model::{Expectation, Expected, ViewId, value_of};
use vantic_core::plan::Placement;

/// The views that are not as expected, and how.
pub(crate) fn mismatches(placement: &Placement, expectation: &Expectation) -> Vec<(ViewId, Mismatch)> {
    let of = |&(view, expected): &(ViewId, Expected)| {
        let mismatch = match (expected, placement.frame(view)) {
            (Expected::Hidden, None) => return None,
            (Expected::Hidden, Some(frame)) => Mismatch::Visible(frame),
            (_, None) => Mismatch::Hidden,
            (Expected::Frame(expected), Some(is)) => {
                let mismatch = Mismatch::Frame { is, expected, within: expectation.within };
                return (!mismatch.off().is_empty()).then_some((view, mismatch));
            }
            (Expected::One(coordinate, expected), Some(frame)) => {
                let is = value_of(&frame, coordinate);
                if (is - expected).abs() <= expectation.within {
                    return None;
                }
                Mismatch::Coordinate { coordinate, is, expected }
            }
        };
        Some((view, mismatch))
    };
    expectation.expected.iter().filter_map(of).collect()
}
