//! Where views are not where they were drawn.

use crate::drawing::{ScreenDrawing, drawn_path};
use crate::infer::grouping::farthest_side;
use crate::sweep::counting::value_in;
use std::collections::{HashMap, HashSet};
use vantic_core::geometry::{Direction, Frame};
use vantic_core::model::{Anchor, Comparison, Coordinate, Relation, RuleId, RuleRef, Screen, ViewId};
use vantic_core::plan::{PlaceError, Placement, Plan};
use vantic_core::text::Measure;

/// Distances up to this are the same, in logical pixels.
pub(crate) const SAME: f64 = 0.5;

/// A drawing held against a screen on its display.
#[derive(Clone, Debug)]
pub struct Drift {
    /// The views that are not where they were drawn: those whose own rules say otherwise first, then what follows from them.
    pub views: Vec<Drifted>,
    /// The views that are placed and not drawn.
    pub undrawn: Vec<ViewId>,
    /// What is drawn and no view of the screen, or not there on this display.
    pub unknown: Vec<String>,
    /// The screen as it is placed.
    pub placement: Placement,
    /// The same with the drawn frames.
    pub drawn: Placement,
}

/// A view that is not where it was drawn.
#[derive(Clone, Debug, PartialEq)]
pub struct Drifted {
    /// The view.
    pub view: ViewId,
    /// Where the rules place it.
    pub placed: Frame,
    /// Where it was drawn.
    pub drawn: Frame,
    /// The rules that hold as it is placed and do not hold in the drawing. None: it only follows what others say.
    pub roots: Vec<Root>,
    /// Whether something that it depends on is not where it was drawn, and no rule of its own disagrees.
    pub follows: bool,
}

/// A rule that does not hold in a drawing.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Root {
    /// The rule, one relation of it.
    pub rule: RuleRef,
    /// By how much its left side is greater than its right side in the drawing, in logical pixels.
    pub by: f64,
}

impl Drifted {
    /// By how much the drawing is further right, further down, wider and higher.
    pub fn by(&self) -> [f64; 4] {
        let (a, b) = (&self.drawn, &self.placed);
        [a.left - b.left, a.top - b.top, a.width - b.width, a.height - b.height]
    }

    fn is_seen(&self) -> bool {
        farthest_side(&self.drawn, &self.placed) > SAME
    }
}

/// Compares a drawing with what a plan gives on its display.
///
/// ```
/// use vantic::drawing::{Drawing, DrawnKind, DrawnView};
/// use vantic::drift::drift;
/// use vantic::geometry::Frame;
/// use vantic::prelude::*;
///
/// let plan = Plan::new(vantic::read("screen workshop {
///     view bench { pin left 16, top 16 to screen; size = (288, 48) }
///     view shelf { below bench by 12; start = bench.start; size = (60, 20) }
/// }")?.screen)?;
/// let drawn = [("bench", 24.0, 16.0, 288.0, 48.0), ("shelf", 24.0, 76.0, 60.0, 20.0)];
/// let views = drawn.map(|(name, left, top, width, height)| {
///     DrawnView { path: name.into(), frame: Frame { left, top, width, height }, kind: DrawnKind::Plain }
/// });
/// let drawing = Drawing::new(Display::new(320.0, 480.0)?, views.to_vec())?;
/// let drift = drift(&plan, &drawing.in_screen(plan.screen()), &PlainText)?;
/// // The bench was drawn 8 further right, and the shelf follows it.
/// assert_eq!(drift.views.iter().map(|v| (v.by()[0], v.follows)).collect::<Vec<_>>(), [(8.0, false), (8.0, true)]);
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
///
/// # Errors
/// A display on which the screen cannot be placed.
pub fn drift(plan: &Plan, drawing: &ScreenDrawing, measure: &dyn Measure) -> Result<Drift, PlaceError> {
    let placement = plan.place(&drawing.display, measure)?;
    let mut drift = compared(plan.screen(), placement, &drawing.frames);
    drift.unknown.splice(0..0, drawing.unknown.iter().cloned());
    Ok(drift)
}

/// Frames that were drawn, held against a placement on the same display.
pub(crate) fn compared(screen: &Screen, placement: Placement, frames: &[(ViewId, Frame)]) -> Drift {
    let mut drawn = placement.clone();
    let mut unknown = Vec::new();
    let mut compared = HashSet::new();
    for &(view, frame) in frames {
        if placement.frame(view).is_some() {
            drawn.frames[view.index()] = Some(frame);
            compared.insert(view);
        } else {
            unknown.push(drawn_path(&screen.path(view)));
        }
    }
    let is_view = |view: &ViewId| screen.view(*view).is_some_and(|about| about.guide().is_none());
    let placed = screen.views().map(|(view, _)| view).filter(|view| placement.frame(*view).is_some());
    let undrawn = placed.filter(|view| is_view(view) && !compared.contains(view)).collect();
    let mut views: Vec<Drifted> = screen
        .views()
        .filter(|(view, _)| compared.contains(view))
        .filter_map(|(view, _)| {
            let (placed, drawn) = (placement.frame(view)?, drawn.frame(view)?);
            Some(Drifted { view, placed, drawn, roots: Vec::new(), follows: false })
        })
        .filter(Drifted::is_seen)
        .collect();
    let drifted: HashSet<ViewId> = views.iter().map(|view| view.view).collect();
    let roots = roots(screen, &placement, &drawn);
    for view in &mut views {
        view.roots = roots.get(&view.view).cloned().unwrap_or_default();
        view.follows = view.roots.is_empty() && depends_on(screen, &placement, view.view, &drifted);
    }
    views.sort_by_key(|view| view.follows);
    Drift { views, undrawn, unknown, placement, drawn }
}

/// The rules that hold as the screen is placed and do not hold in the drawing, by the views whose blocks they are in.
fn roots(screen: &Screen, placement: &Placement, drawn: &Placement) -> HashMap<ViewId, Vec<Root>> {
    let mut roots: HashMap<ViewId, Vec<Root>> = HashMap::new();
    let (placed, drawn) = (Differences::of(screen, placement), Differences::of(screen, drawn));
    for &rule in &placement.rules {
        let Some(of) = screen.rule(rule) else { continue };
        let Some(owner) = of.owner() else { continue };
        for (index, relation) in of.relations().iter().enumerate() {
            let (Some(now), Some(then)) = (placed.by(relation), drawn.by(relation)) else { continue };
            let violation = |by: f64| match relation.comparison {
                Comparison::Equal => by.abs(),
                Comparison::AtMost => by.max(0.0),
                Comparison::AtLeast => (-by).max(0.0),
            };
            if violation(then) > violation(now) + SAME {
                let rule = RuleRef::Written { rule, relation: index };
                roots.entry(owner).or_default().push(Root { rule, by: then });
            }
        }
    }
    roots
}

/// By how much relations do not hold in a placement.
pub(crate) struct Differences<'a> {
    screen: &'a Screen,
    placement: &'a Placement,
    /// The same as in a mirror, where it is read from right to left: along the reading direction everything is as from left to
    /// right there.
    mirrored: Option<Placement>,
}

impl<'a> Differences<'a> {
    pub(crate) fn of(screen: &'a Screen, placement: &'a Placement) -> Self {
        let is_mirrored = placement.display.direction() == Direction::RightToLeft;
        let mirrored = is_mirrored.then(|| {
            let mut mirrored = placement.clone();
            let width = placement.screen_frame().width;
            for frame in mirrored.frames.iter_mut().flatten() {
                frame.left = width - frame.right();
            }
            mirrored.display = placement.display.clone().with_direction(Direction::LeftToRight);
            mirrored
        });
        Self { screen, placement, mirrored }
    }

    /// By how much the left side of a relation is greater than its right side; `None` where frames do not tell.
    pub(crate) fn by(&self, relation: &Relation) -> Option<f64> {
        let is_physical = |c| matches!(c, Coordinate::Left | Coordinate::Right | Coordinate::CenterX);
        let is_read = |c: Coordinate| !is_physical(c) && c.is_horizontal();
        let terms = relation.terms();
        let on = match &self.mirrored {
            Some(mirrored) if terms.iter().any(|term| is_read(term.coordinate)) => {
                if terms.iter().any(|term| is_physical(term.coordinate)) {
                    return None;
                }
                mirrored
            }
            _ => self.placement,
        };
        Some(value_in(self.screen, on, &relation.left)? - value_in(self.screen, on, &relation.right)?)
    }
}

/// Whether a view depends on one of those that drifted: by a rule, or as part of its parent.
fn depends_on(screen: &Screen, placement: &Placement, view: ViewId, drifted: &HashSet<ViewId>) -> bool {
    let parent = screen.view(view).and_then(|about| about.parent());
    if parent.is_some_and(|parent| drifted.contains(&parent)) {
        return true;
    }
    let is_own = |rule: &&RuleId| screen.rule(**rule).is_some_and(|rule| rule.owner() == Some(view));
    let reads = placement.rules.iter().filter(is_own).filter_map(|&rule| screen.rule(rule)).any(|rule| {
        rule.relations().iter().flat_map(Relation::terms).any(|term| match term.anchor {
            Anchor::View(read) => read != view && drifted.contains(&read),
            Anchor::Prev(_) | Anchor::Next(_) => true,
            _ => false,
        })
    });
    let is_arranged =
        parent.is_some_and(|parent| screen.view(parent).is_some_and(|about| about.arrangement().is_some()));
    reads || is_arranged && screen.siblings_of(view).any(|other| other != view && drifted.contains(&other))
}
