//! A row or column read off views that stand in one already.

use crate::infer::anchoring::{corner_in, written};
use crate::screen_ext::ScreenExt as _;
use vantic_core::geometry::{Axis, Frame};
use vantic_core::model::{Anchor, Coordinate, Relation, RuleId, Screen, ViewId};
use vantic_core::plan::Placement;

/// What becomes of siblings that are put into a view of their own.
#[derive(Clone, Debug, PartialEq)]
pub struct Gathered {
    /// `Invariant` for a row, `Down` for a column.
    pub axis: Axis,
    /// The views, in the order in which they stand.
    pub order: Vec<ViewId>,
    /// The distances between them, in logical pixels.
    pub gaps: Vec<f64>,
    /// Whether they line up across, so that the view can place them where they are.
    pub lines_up: bool,
    /// Lines of a screen file for the block of the view that holds them: how it places them, and where it is.
    pub lines: Vec<String>,
    /// Per view: what to write in its block, where the rules that go gave it its size.
    pub sizes: Vec<Vec<String>>,
    /// Per distance: what to write between the two views, where the distances differ.
    pub spaces: Vec<Option<String>>,
    /// The rules that tie them to what is around them: they belong to the view now.
    pub moves: Vec<RuleId>,
    /// The rules about where they stand among themselves: the view says that now.
    pub goes: Vec<RuleId>,
}

/// Distances that differ by no more than this, in logical pixels, are the same.
const SAME: f64 = 0.01;

/// How siblings could stand in a view of their own, a row or a column, and keep their frames here. `None`
/// where they are fewer than two, not siblings, hidden, or lie over one another along both axes.
///
/// ```
/// use vantic::infer::gathered;
/// use vantic::prelude::*;
///
/// let source = vantic::read(
///     "screen quay {
///          view a { left = 10; top = 4; size = 20 }
///          view b { left = a.right + 8; top = a.top; size = 20 }
///      }",
/// )?;
/// let plan = Plan::new(source.screen)?;
/// let placement = plan.place(&Display::new(390.0, 844.0)?, &PlainText)?;
/// let views = ["a", "b"].map(|path| plan.screen().find(path).unwrap());
/// let row = gathered(&placement, plan.screen(), &views).unwrap();
/// assert!(row.lines.iter().any(|line| line.contains("row gap 8")), "{:?}", row.lines);
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
pub fn gathered(placement: &Placement, screen: &Screen, views: &[ViewId]) -> Option<Gathered> {
    let direction = placement.display.direction();
    let parent = |view: &ViewId| screen.view(*view).map(|v| v.parent());
    let first = parent(views.first()?)?;
    if views.len() < 2 || views.iter().any(|view| parent(view) != Some(first)) {
        return None;
    }
    let frames: Vec<(ViewId, Frame)> =
        views.iter().map(|&view| Some((view, placement.frame(view)?))).collect::<Option<_>>()?;
    let along = |axis: Axis| {
        let mut order = frames.clone();
        order.sort_by(|a, b| a.1.along(axis, direction).0.total_cmp(&b.1.along(axis, direction).0));
        let edge = |at: usize| order[at].1.along(axis, direction);
        let gaps: Vec<f64> = (1..order.len()).map(|i| edge(i).0 - edge(i - 1).1).collect();
        gaps.iter().all(|gap| *gap >= -SAME).then_some((axis, order, gaps))
    };
    // Where they stand apart both ways, the way in which the distances are more alike.
    let uneven = |gaps: &[f64]| {
        let (low, high) = ends(gaps.iter().copied());
        high - low
    };
    let (axis, order, gaps) = match (along(Axis::Down), along(Axis::Across)) {
        (Some(down), Some(across)) if uneven(&across.2) < uneven(&down.2) => across,
        (down, across) => down.or(across)?,
    };
    let other = if axis == Axis::Across { Axis::Down } else { Axis::Across };
    let across = order.iter().map(|(_, frame)| frame.along(other, direction));
    let is_same = |(low, high): (f64, f64)| high - low <= SAME;
    let align = [
        (is_same(ends(across.clone().map(|e| e.0))), is_same(ends(across.clone().map(|e| e.1)))),
        (is_same(ends(across.clone().map(|e| e.0 + e.1))), false),
    ];
    let align = match align {
        [(true, true), _] => Some(", align stretch"),
        [(true, false), _] => Some(""),
        [(false, true), _] => Some(", align end"),
        [_, (true, _)] => Some(", align center"),
        _ => None,
    };
    let (least, most) = ends(gaps.iter().copied());
    let is_even = most - least <= SAME;
    let word = if axis == Axis::Across { "row" } else { "column" };
    let gap = if least.abs() <= SAME { String::new() } else { format!(" gap {}", written(least)) };
    let arrangement = format!("{word}{gap}{}", align.unwrap_or_default());
    let arrangement = arrangement.replacen(&format!("{word},"), word, 1);
    let spaces = gaps.iter().map(|gap| {
        let differs = !is_even && (gap - least).abs() > SAME;
        differs.then(|| format!("space {}", written(*gap)))
    });
    let whole = around(order.iter().map(|(_, frame)| *frame));
    let corner = corner_in(placement, screen, order[0].0, &whole);
    let size = match align {
        Some(", align stretch") if axis == Axis::Down => {
            vec![format!("width = {}", written(whole.width))]
        }
        Some(", align stretch") => vec![format!("height = {}", written(whole.height))],
        _ => Vec::new(),
    };
    let order: Vec<ViewId> = order.into_iter().map(|(view, _)| view).collect();
    let (mut moves, mut goes) = (Vec::new(), Vec::new());
    for &rule in &placement.rules {
        let of = screen.rule_at(rule);
        if !of.owner().is_some_and(|owner| order.contains(&owner)) {
            continue;
        }
        let terms = || of.relations().iter().flat_map(Relation::terms);
        let member = |place: Anchor| match place {
            Anchor::View(view) | Anchor::Prev(view) | Anchor::Next(view) => order.contains(&view),
            _ => false,
        };
        if terms().any(|t| !member(t.anchor)) {
            moves.push(rule);
        } else if terms().any(|t| t.coordinate.is_position()) {
            goes.push(rule);
        }
    }
    let gone: Vec<RuleId> = moves.iter().chain(&goes).copied().collect();
    let stretches = align == Some(", align stretch");
    let sizes =
        order.iter().map(|&view| lost_sizes(placement, screen, &gone, view, stretches.then_some(other)));
    let sizes = sizes.collect();
    let lines = [arrangement, corner].into_iter().chain(size).collect();
    let spaces = spaces.collect();
    Some(Gathered { axis, order, gaps, lines_up: align.is_some(), lines, sizes, spaces, moves, goes })
}

/// Lines that keep the sizes of a view that come from two edges in the rules that go, or from a size in
/// them. Along
/// `stretched` the group gives them.
fn lost_sizes(
    placement: &Placement,
    screen: &Screen,
    gone: &[RuleId],
    view: ViewId,
    stretched: Option<Axis>,
) -> Vec<String> {
    let Some(frame) = placement.frame(view) else { return Vec::new() };
    let lost = |axis: Axis| {
        let relations =
            gone.iter().map(|&rule| screen.rule_at(rule)).filter(|rule| rule.owner() == Some(view));
        let own = relations.flat_map(|rule| rule.relations()).flat_map(|relation| {
            relation.left.terms().iter().find(|t| t.anchor == Anchor::View(view)).map(|t| t.coordinate)
        });
        let along: Vec<Coordinate> = own.filter(|c| c.is_horizontal() == (axis == Axis::Across)).collect();
        along.len() > 1 || along.iter().any(|c| !c.is_position())
    };
    let sizes = [(Axis::Across, "width", frame.width), (Axis::Down, "height", frame.height)];
    let needed = sizes.into_iter().filter(|(axis, ..)| Some(*axis) != stretched && lost(*axis));
    needed.map(|(_, word, size)| format!("{word} = {}", written(size))).collect()
}

/// The least and the greatest.
pub(crate) fn ends(values: impl Iterator<Item = f64>) -> (f64, f64) {
    values.fold((f64::INFINITY, f64::NEG_INFINITY), |(low, high), v| (low.min(v), high.max(v)))
}

/// How far apart the same sides of two frames are at most.
pub(crate) fn farthest_side(a: &Frame, b: &Frame) -> f64 {
    let sides = [a.left - b.left, a.top - b.top, a.right() - b.right(), a.bottom() - b.bottom()];
    sides.iter().fold(0.0, |most, by| most.max(by.abs()))
}

/// The frame around frames.
fn around(frames: impl Iterator<Item = Frame> + Clone) -> Frame {
    let (left, _) = ends(frames.clone().map(|f| f.left));
    let (top, _) = ends(frames.clone().map(|f| f.top));
    let (_, right) = ends(frames.clone().map(|f| f.right()));
    let (_, bottom) = ends(frames.map(|f| f.bottom()));
    Frame { left, top, width: right - left, height: bottom - top }
}
