//! What is the same on every display and what is not: distances between neighbours, and shares of what is
//! around a view.

use crate::infer::anchoring::neighbours;
use vantic_core::geometry::Axis;
use vantic_core::model::{Anchor, Screen, Side, ViewId};
use vantic_core::plan::Placement;
use vantic_core::tolerance::VISIBLE;

/// How many views are compared.
pub const MAX_COMPARED: usize = 500;

/// What is compared of a view.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Measurement {
    /// The distance of one of its sides to what it faces there.
    Distance(Side, Anchor),
    /// How much of the width (or height) of what is around it it takes, in percent.
    Share(Axis),
}

/// A distance or a share on every display.
#[derive(Clone, Debug, PartialEq)]
pub struct Invariant {
    /// The view.
    pub view: ViewId,
    /// What is compared.
    pub what: Measurement,
    /// Its value on each display, in logical pixels or percent; `None` where the view is not there, or does
    /// not face that.
    pub values: Vec<Option<f64>>,
}

impl Invariant {
    /// Whether it is the same wherever the view is there.
    pub fn is_same(&self) -> bool {
        self.range().is_some_and(|((_, least), (_, most))| most - least <= VISIBLE)
    }

    /// The displays, counted from 0, on which it is least and most, and how much it is there.
    pub fn range(&self) -> Option<((usize, f64), (usize, f64))> {
        let known = || self.values.iter().enumerate().filter_map(|(i, value)| Some((i, (*value)?)));
        let least = known().min_by(|a, b| a.1.total_cmp(&b.1))?;
        let most = known().max_by(|a, b| a.1.total_cmp(&b.1))?;
        Some((least, most))
    }
}

/// Compares placements of a screen: for each view, or for one, the distances from its sides to what they face
/// where the view is met first, and its shares of what is around it.
///
/// ```
/// use vantic::infer::across;
/// use vantic::prelude::*;
///
/// let source = vantic::read("screen quay { view a { pin left 16, right 16, top to safe; height = 20 } }")?;
/// let plan = Plan::new(source.screen)?;
/// let mut placements = Vec::new();
/// for width in [320.0, 390.0] {
///     placements.push(plan.place(&Display::new(width, 600.0)?, &PlainText)?);
/// }
/// let all = across(plan.screen(), &placements, None);
/// let is_16 = |of: &vantic::infer::Invariant| of.range().is_some_and(|(least, _)| least.1 == 16.0);
/// assert!(all.iter().any(|of| of.is_same() && is_16(of)));
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
pub fn across(screen: &Screen, placements: &[Placement], only: Option<ViewId>) -> Vec<Invariant> {
    let mut all = Vec::new();
    let views =
        screen.views().filter(|(view, about)| about.guide().is_none() && only.is_none_or(|o| o == *view));
    for (view, about) in views.take(MAX_COMPARED) {
        let Some(first) = placements.iter().find(|p| p.frame(view).is_some()) else { continue };
        for side in [Side::Start, Side::Top, Side::End, Side::Bottom] {
            let Some(place) = neighbours(first, screen, view, side).first().map(|n| n.anchor) else {
                continue;
            };
            let distance = |p: &Placement| {
                let there = neighbours(p, screen, view, side);
                there.iter().find(|n| n.anchor == place).map(|n| n.distance)
            };
            let values = placements.iter().map(distance).collect();
            all.push(Invariant { view, what: Measurement::Distance(side, place), values });
        }
        for axis in [Axis::Across, Axis::Down] {
            let share = |p: &Placement| {
                let around = about.parent().map_or(Some(p.screen_frame()), |parent| p.frame(parent))?;
                let frame = p.frame(view)?;
                let (own, whole) = match axis {
                    Axis::Across => (frame.width, around.width),
                    Axis::Down => (frame.height, around.height),
                };
                (whole > 0.0).then_some(100.0 * own / whole)
            };
            let values = placements.iter().map(share).collect();
            all.push(Invariant { view, what: Measurement::Share(axis), values });
        }
    }
    all
}
