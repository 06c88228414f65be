//! What differs between two placements: of two versions of a screen, or of one on two displays; and how far
//! two views are from one another.

use std::collections::{HashMap, HashSet};
use vantic_core::display::Display;
use vantic_core::geometry::Frame;
use vantic_core::model::{Coordinate, RuleRef, Screen, ViewId};
use vantic_core::plan::{HeldBy, PlaceError, Placement, Plan};
use vantic_core::text::Measure;
use vantic_core::tolerance::VISIBLE;

/// How many rules are reported of one difference.
const MAX_RULES_TOLD: usize = 4;

/// Of how many views that differ by themselves the rules are looked up: the first ones.
pub const MAX_CAUSES_TOLD: usize = 1000;

/// Of a screen with more views than this, what was compiled is not kept while the other one is placed.
const MAX_VIEWS_KEPT: usize = 20_000;

/// A view whose frame differs.
#[derive(Clone, Debug, PartialEq)]
pub struct Difference {
    /// The view's path.
    pub view: String,
    /// Where it was; `None` where it was not there.
    pub was: Option<Frame>,
    /// Where it is; `None` where it is not there.
    pub is: Option<Frame>,
    /// Whether it only moves with its parent with what is around it.
    pub along: bool,
    /// The rules that made it so, the nearest first: those that decide it now and did not before, or else the
    /// one that decides it. `None` where they were not looked up: of the first [`MAX_CAUSES_TOLD`] views that differ by
    /// themselves they are, as far as the work for one placement goes ([`PLACE_WORK`](crate::limits::PLACE_WORK)).
    pub because: Option<Vec<RuleRef>>,
}

impl Difference {
    /// What became of it: `appears`, `is gone`, `moves`, `grows`, `shrinks`, or several of these.
    pub fn words(&self) -> String {
        let (Some(was), Some(is)) = (self.was, self.is) else {
            return if self.is.is_some() { "appears".into() } else { "is gone".into() };
        };
        let mut words = Vec::new();
        let differs = |a: f64, b: f64| (a - b).abs() > VISIBLE;
        if differs(was.left, is.left) || differs(was.top, is.top) {
            words.push(if self.along { "moves with its parent" } else { "moves" });
        }
        let (wider, higher) = (is.width - was.width, is.height - was.height);
        if wider > VISIBLE || higher > VISIBLE {
            words.push("grows");
        }
        if wider < -VISIBLE || higher < -VISIBLE {
            words.push("shrinks");
        }
        words.join(", ")
    }
}

/// Compares where the views of a screen are on a display with where those of another are on another, by their
/// paths. It is empty where nothing differs.
///
/// ```
/// use vantic::infer::compare;
/// use vantic::prelude::*;
///
/// let source = vantic::read(
///     "screen workshop {
///          view bench { pin left, top to screen; size = (100, 48) }
///      }",
/// )?;
/// let plan = Plan::new(source.screen)?;
/// let changed = "screen workshop { view bench { pin left, top to screen; size = (120, 48) } }";
/// let changed = vantic::read(changed)?;
/// let changed = Plan::new(changed.screen)?;
/// let on = Display::new(320.0, 480.0)?;
/// let compared = compare((&plan, &on), (&changed, &on), &PlainText)?;
/// assert_eq!(compared[0].words(), "grows");
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
///
/// # Errors
/// As for [`Plan::place`].
pub fn compare(
    (before, on): (&Plan, &Display),
    (after, there): (&Plan, &Display),
    measure: &(dyn Measure + Sync),
) -> Result<Vec<Difference>, PlaceError> {
    let was = before.place(on, measure)?;
    if before.screen().views().count() > MAX_VIEWS_KEPT {
        before.forget();
    }
    let is = after.place(there, measure)?;
    let (old, new) = (before.screen(), after.screen());
    let mut differences = Vec::new();
    let mut told: Vec<Told> = Vec::new();
    for (view, about) in new.views() {
        let path = new.path(view);
        let earlier = old.find(&path);
        let (a, b) = (earlier.and_then(|v| was.frame(v)), is.frame(view));
        let changed = changed(a, b);
        if changed.is_empty() && a.is_some() == b.is_some() {
            continue;
        }
        let local = |screen: &Screen, p: &Placement, v: ViewId| p.local_frame(screen, v);
        let inside = earlier.and_then(|v| Some((local(old, &was, v)?, local(new, &is, view)?)));
        let along = about.parent().is_some()
            && inside.is_some_and(|(a, b)| self::changed(Some(a), Some(b)).is_empty());
        let needs_none = along || b.is_none();
        if !needs_none && told.len() < MAX_CAUSES_TOLD {
            let earlier = earlier.filter(|_| a.is_some());
            told.push(Told { at: differences.len(), view, earlier, changed });
        }
        let because = needs_none.then(Vec::new);
        differences.push(Difference { view: path, was: a, is: b, along, because });
    }
    let of = |which: fn(&Told) -> Option<ViewId>| -> Vec<(ViewId, Coordinate)> {
        let each = told.iter().filter_map(|told| Some((which(told)?, &told.changed)));
        each.flat_map(|(view, changed)| changed.iter().map(move |&c| (view, c))).collect()
    };
    let now = deciding(after, there, measure, &of(|told| Some(told.view)))?;
    let known = deciding(before, on, measure, &of(|told| told.earlier))?;
    for Told { at, view, earlier, .. } in told {
        let known = match earlier {
            Some(earlier) => known.get(&earlier).map(Vec::as_slice),
            None => Some(&[][..]),
        };
        let (Some(now), Some(known)) = (now.get(&view), known) else { continue };
        let known: HashSet<String> = known.iter().map(|rule| described(old, *rule)).collect();
        let new_ones = now.iter().filter(|rule| !known.contains(&described(new, **rule)));
        let new_ones: Vec<RuleRef> = new_ones.copied().take(MAX_RULES_TOLD).collect();
        let are_new = !new_ones.is_empty();
        differences[at].because =
            Some(if are_new { new_ones } else { now.iter().copied().take(1).collect() });
    }
    for (view, _) in old.views() {
        let path = old.path(view);
        if let (None, Some(frame)) = (new.find(&path), was.frame(view)) {
            differences.push(Difference {
                view: path,
                was: Some(frame),
                is: None,
                along: false,
                because: Some(Vec::new()),
            });
        }
    }
    Ok(differences)
}

/// The coordinates in which two frames differ; all where one of them is not there.
pub(crate) fn changed(a: Option<Frame>, b: Option<Frame>) -> Vec<Coordinate> {
    let all = [Coordinate::Left, Coordinate::Top, Coordinate::Width, Coordinate::Height];
    let (Some(a), Some(b)) = (a, b) else {
        return if a.is_some() || b.is_some() { all.to_vec() } else { Vec::new() };
    };
    let by = [a.left - b.left, a.top - b.top, a.width - b.width, a.height - b.height];
    std::iter::zip(all, by).filter(|(_, by)| by.abs() > VISIBLE).map(|(c, _)| c).collect()
}

/// A difference of which the rules are to be told.
struct Told {
    /// Its number.
    at: usize,
    view: ViewId,
    /// The view in the other placement, if it was there.
    earlier: Option<ViewId>,
    changed: Vec<Coordinate>,
}

/// The rules that decide some coordinates, by their views, the nearest first.
fn deciding(
    plan: &Plan,
    display: &Display,
    measure: &(dyn Measure + Sync),
    coordinates: &[(ViewId, Coordinate)],
) -> Result<HashMap<ViewId, Vec<RuleRef>>, PlaceError> {
    let mut all: HashMap<ViewId, Vec<RuleRef>> = HashMap::new();
    if coordinates.is_empty() {
        return Ok(all);
    }
    for why in plan.live().whys(display, measure, coordinates)? {
        let of_view = all.entry(why.view).or_default();
        for step in why.steps {
            match step.by {
                HeldBy::Rule(rule) if !of_view.contains(&rule) => of_view.push(rule),
                _ => {}
            }
        }
    }
    Ok(all)
}

/// What a rule says and whose it is, so that it is known again in another version.
fn described(screen: &Screen, rule: RuleRef) -> String {
    let owner = rule.owner(screen).map(|view| screen.path(view)).unwrap_or_default();
    format!("{owner}: {} ~ {}", screen.sentence(rule), rule.level(screen).unwrap_or_default())
}

/// How far a view is from another, or from what is around it, in logical pixels.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Distances {
    /// From each edge of the other inwards to the same edge: left, top, right, bottom; below zero where it is
    /// beyond.
    pub inside: [f64; 4],
    /// From the middle of the other to its own, to the right and down.
    pub middles: (f64, f64),
    /// How far they are apart across and down; below zero by as much as they cover one another.
    pub apart: (f64, f64),
}

/// How much room is left beyond the children of a view (of the screen without one): at its left, top, right
/// and bottom, in logical pixels, each with the child that is nearest; below zero where that is beyond.
/// Children that cover it all are left out. `None` where nothing is in it.
///
/// ```
/// use vantic::infer::free_space;
/// use vantic::prelude::*;
///
/// let source = vantic::read(
///     "screen workshop {
///          view bench { pin left, right, top to screen; height = 48 }
///      }",
/// )?;
/// let plan = Plan::new(source.screen)?;
/// let placement = plan.place(&Display::new(320.0, 480.0)?, &PlainText)?;
/// let free = free_space(&placement, plan.screen(), None).unwrap();
/// // Left, top, right, bottom.
/// assert_eq!(free.map(|(by, _)| by), [0.0, 0.0, 0.0, 432.0]);
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
pub fn free_space(
    placement: &Placement,
    screen: &Screen,
    parent: Option<ViewId>,
) -> Option<[(f64, ViewId); 4]> {
    let around = parent.map_or(Some(placement.screen_frame()), |of| placement.frame(of))?;
    let children =
        screen.views().filter(|(view, about)| about.parent() == parent && placement.is_painted(*view));
    let all: Vec<([f64; 4], ViewId)> = children
        .filter_map(|(view, _)| {
            let f = placement.frame(view)?;
            let inside = [
                f.left - around.left,
                f.top - around.top,
                around.right() - f.right(),
                around.bottom() - f.bottom(),
            ];
            inside.iter().any(|room| *room > VISIBLE).then_some((inside, view))
        })
        .collect();
    let nearest =
        |side: usize| all.iter().map(|(room, view)| (room[side], *view)).min_by(|a, b| a.0.total_cmp(&b.0));
    Some([nearest(0)?, nearest(1)?, nearest(2)?, nearest(3)?])
}

/// How far a view is from another; from what is around it (its parent, or the screen) where none is named.
/// `None` where one of them is not there.
///
/// ```
/// use vantic::infer::distances;
/// use vantic::prelude::*;
///
/// let source = vantic::read(
///     "screen quay {
///          view a { left = 10; top = 0; size = 20 }
///          view b { left = 42; top = 0; size = 20 }
///      }",
/// )?;
/// let plan = Plan::new(source.screen)?;
/// let placement = plan.place(&Display::new(390.0, 844.0)?, &PlainText)?;
/// let [a, b] = ["a", "b"].map(|path| plan.screen().find(path).unwrap());
/// assert_eq!(distances(&placement, plan.screen(), a, Some(b)).unwrap().apart.0, 12.0);
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
pub fn distances(
    placement: &Placement,
    screen: &Screen,
    view: ViewId,
    to: Option<ViewId>,
) -> Option<Distances> {
    let frame = placement.frame(view)?;
    let of = match to.or(screen.view(view)?.parent()) {
        Some(other) => placement.frame(other)?,
        None => placement.screen_frame(),
    };
    let inside =
        [frame.left - of.left, frame.top - of.top, of.right() - frame.right(), of.bottom() - frame.bottom()];
    let middle = |f: &Frame| (f64::midpoint(f.left, f.right()), f64::midpoint(f.top, f.bottom()));
    let (own, other) = (middle(&frame), middle(&of));
    let across = (of.left - frame.right()).max(frame.left - of.right());
    let down = (of.top - frame.bottom()).max(frame.top - of.bottom());
    Some(Distances { inside, middles: (own.0 - other.0, own.1 - other.1), apart: (across, down) })
}
