//! A placement compared with what is expected of it.

use vantic_core::model::{Expectation, Expected, Screen, ViewId, value_of};
use vantic_core::plan::Placement;
use vantic_core::words::number;

/// An expectation that is not met.
#[derive(Clone, Debug, PartialEq)]
pub(crate) struct UnmetExpectation {
    pub(crate) view: ViewId,
    /// What came out and what was expected, in words.
    pub(crate) message: String,
    /// By how much the worst coordinate is off, in logical pixels.
    pub(crate) amount: f64,
    /// The coordinates that are off.
    pub(crate) coordinates: Vec<&'static str>,
}

/// What a placement does not meet.
pub(crate) fn missing(
    screen: &Screen,
    placement: &Placement,
    expectation: &Expectation,
) -> Vec<UnmetExpectation> {
    let mut all = Vec::new();
    for &(view, expected) in &expectation.expected {
        let path = screen.path(view);
        let mut missed = |coordinates: Vec<&'static str>, amount: f64, message: String| {
            all.push(UnmetExpectation { view, message, amount, coordinates });
        };
        match (expected, placement.frame(view)) {
            (Expected::Hidden, None) => {}
            (Expected::Hidden, Some(frame)) => {
                missed(Vec::new(), 0.0, format!("`{path}` should be hidden, but is at {frame}"));
            }
            (_, None) => missed(Vec::new(), 0.0, format!("`{path}` should be visible, but is hidden")),
            (Expected::Frame(wanted), Some(frame)) => {
                let edges = [
                    ("left", frame.left - wanted.left),
                    ("top", frame.top - wanted.top),
                    ("width", frame.width - wanted.width),
                    ("height", frame.height - wanted.height),
                ];
                let off: Vec<_> = edges.into_iter().filter(|(_, by)| by.abs() > expectation.within).collect();
                if off.is_empty() {
                    continue;
                }
                let said: Vec<String> = off.iter().map(|(what, by)| off_by(what, *by)).collect();
                let amount = off.iter().map(|(_, by)| by.abs()).fold(0.0, f64::max);
                let message = format!("`{path}` is at {frame}; expected {wanted}: {}", said.join(", "));
                missed(off.iter().map(|o| o.0).collect(), amount, message);
            }
            (Expected::One(coordinate, wanted), Some(frame)) => {
                let value = value_of(&frame, coordinate);
                let what = coordinate.spelling();
                if (value - wanted).abs() > expectation.within {
                    let (is, by) = (number(value), off_by(what, value - wanted));
                    let message = format!("`{path}.{what}` is {is}; expected {}: {by}", number(wanted));
                    missed(vec![what], (value - wanted).abs(), message);
                }
            }
        }
    }
    all
}

/// `12 too far right`, `3 too wide`.
fn off_by(what: &str, by: f64) -> String {
    let (more, less) = match what {
        "top" | "bottom" | "center_y" => ("too far down", "too far up"),
        "width" => ("too wide", "too narrow"),
        "height" => ("too tall", "too short"),
        _ => ("too far right", "too far left"),
    };
    format!("{} {}", number(by.abs()), if by > 0.0 { more } else { less })
}
