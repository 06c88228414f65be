//! Rules read off a placement: what a view stands next to, and other ties that keep its frame.

use crate::infer::guide_edges::{GuideEdge, guide_edges};
use vantic_core::geometry::{Direction, Frame};
use vantic_core::model::{Anchor, Edges, Screen, Side, ViewId};
use vantic_core::plan::Placement;

/// A place that an edge of a view can be pinned to.
#[derive(Clone, Debug, PartialEq)]
pub struct Neighbour {
    /// A sibling, what is around the view, or a guide or one of its columns or rows.
    pub anchor: Anchor,
    /// How far away it is, in logical pixels.
    pub distance: f64,
    /// The rule that keeps this distance, as a line of a screen file for the view's block.
    pub rule: String,
}

/// How near to a guide an edge is, in logical pixels, for which [`neighbours`] suggests it.
pub const NEAR_GUIDE: f64 = 24.0;

/// How a view can be tied to what is around it.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Tie {
    /// All four distances inwards are kept; the size follows.
    Edges,
    /// The distances to the starting corner and the size are kept.
    Corner,
    /// The edges stay at fractions of the box.
    Span,
    /// The middle stays at a fraction of the box; the size is kept.
    Point,
    /// Distances and size grow in proportion, from the numbers of this placement.
    Drawn,
}

impl Tie {
    /// All ties with their name.
    pub const ALL: [(&'static str, Tie); 5] = [
        ("edges", Tie::Edges),
        ("corner", Tie::Corner),
        ("span", Tie::Span),
        ("point", Tie::Point),
        ("drawn", Tie::Drawn),
    ];
}

/// One axis of a view in its box, along the reading direction: before it, its size, behind it.
struct DisplayQuantity {
    before: f64,
    size: f64,
    behind: f64,
    whole: f64,
}

/// What an edge of a view can be pinned to, as it stands here: the siblings on that side which the view
/// faces, the nearest first (declared order among equals), then what is around it, then of each guide in
/// reach the nearest edge, where it is no further away than [`NEAR_GUIDE`].
///
/// ```
/// use vantic::infer::neighbours;
/// use vantic::prelude::*;
///
/// let source = vantic::read(
///     "screen workshop {
///          view bench { pin left, right, top to screen; height = 48 }
///          view shelf { pin left, right to screen; below bench by 12; height = 20 }
///      }",
/// )?;
/// let plan = Plan::new(source.screen)?;
/// let placement = plan.place(&Display::new(320.0, 480.0)?, &PlainText)?;
/// let shelf = plan.screen().find("shelf").unwrap();
/// let nearest = neighbours(&placement, plan.screen(), shelf, Side::Top);
/// assert_eq!((nearest[0].distance, nearest[0].rule.as_str()), (12.0, "below bench by 12"));
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
pub fn neighbours(placement: &Placement, screen: &Screen, view: ViewId, side: Side) -> Vec<Neighbour> {
    let Some(own) = placement.frame(view) else { return Vec::new() };
    let mut found: Vec<Neighbour> = screen
        .siblings_of(view)
        .filter(|&other| other != view)
        .filter_map(|other| {
            let distance = gap(placement, side, &own, &placement.frame(other)?)?;
            let (word, path) = (gap_word(placement, side), screen.view(other)?.name());
            let rule = format!("{word} {path} by {}", written(distance));
            Some(Neighbour { anchor: other.into(), distance, rule })
        })
        .collect();
    found.sort_by(|a, b| a.distance.total_cmp(&b.distance));
    let mut around = vec![parent_of(placement, screen, view)];
    if around[0].0 == Anchor::Screen && placement.safe_frame() != placement.screen_frame() {
        around.insert(0, (Anchor::Safe, "safe", placement.safe_frame()));
    }
    for (anchor, name, frame) in around {
        let distance = inset(placement, side, &own, &frame);
        let rule = format!("pin {} {} to {name}", side.coordinate().spelling(), written(distance));
        found.push(Neighbour { anchor, distance, rule });
    }
    found.extend(guides_near(placement, screen, view, side, &own));
    found
}

/// Of each guide in reach the edge that is nearest to a side of a view.
fn guides_near(
    placement: &Placement,
    screen: &Screen,
    view: ViewId,
    side: Side,
    own: &Frame,
) -> Vec<Neighbour> {
    let direction = placement.display.direction();
    let (axis, is_near) = side.along(direction);
    let (near, far) = own.along(axis, direction);
    let edges = Edges::of_axis(axis);
    let (at, own) = if is_near { (near, edges.near) } else { (far, edges.far) };
    let of_guide = |anchor: Anchor| match anchor {
        Anchor::View(guide) | Anchor::Cells { guide, .. } => Some(guide),
        _ => None,
    };
    let mut nearest: Vec<GuideEdge> = Vec::new();
    for edge in guide_edges(placement, screen, view, axis) {
        let away = |edge: &GuideEdge| (at - edge.at).abs();
        if away(&edge) > NEAR_GUIDE {
            continue;
        }
        match nearest.iter_mut().find(|known| of_guide(known.anchor) == of_guide(edge.anchor)) {
            // Where two lie on one another, the one of the same side counts.
            Some(known) if (away(&edge), edge.edge != own) < (away(known), known.edge != own) => {
                *known = edge;
            }
            Some(_) => {}
            None => nearest.push(edge),
        }
    }
    let neighbour = |edge: GuideEdge| {
        let target = screen.coordinate_text(edge.anchor, edge.edge, Some(view));
        let by = match written(at - edge.at) {
            by if by == "0" => String::new(),
            by => by.strip_prefix('-').map_or_else(|| format!(" + {by}"), |by| format!(" - {by}")),
        };
        let rule = format!("{} = {target}{by}", own.spelling());
        Neighbour { anchor: edge.anchor, distance: (at - edge.at).abs(), rule }
    };
    nearest.into_iter().map(neighbour).collect()
}

/// Lines of a screen file that tie a view otherwise and keep its frame here, to a hundredth of a pixel. They
/// take the place of the view's rules about its position and size.
///
/// ```
/// use vantic::infer::{Tie, tied};
/// use vantic::prelude::*;
///
/// let source = vantic::read(
///     "screen workshop {
///          view bench { pin left 20, top 10 to screen; size = (280, 48) }
///      }",
/// )?;
/// let plan = Plan::new(source.screen)?;
/// let placement = plan.place(&Display::new(320.0, 480.0)?, &PlainText)?;
/// let bench = plan.screen().find("bench").unwrap();
/// let lines = tied(&placement, plan.screen(), bench, Tie::Edges);
/// assert_eq!(lines, ["pin start 20, end 20, top 10, bottom 422 to screen"]);
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
pub fn tied(placement: &Placement, screen: &Screen, view: ViewId, tie: Tie) -> Vec<String> {
    let Some(own) = placement.frame(view) else { return Vec::new() };
    let (_, name, parent) = parent_of(placement, screen, view);
    tied_in(placement, &own, (name, &parent), tie).concat()
}

/// The same in any box, which rules call so: the lines about the place, then those about the size.
pub(crate) fn tied_in(
    placement: &Placement,
    own: &Frame,
    (name, parent): (&str, &Frame),
    tie: Tie,
) -> [Vec<String>; 2] {
    let (x, y) = (across(placement, own, parent), down(own, parent));
    let size = vec![format!("size = ({}, {})", written(x.size), written(y.size))];
    let spanned = |word: &str, a: &DisplayQuantity| {
        let share = |at: f64| fraction(if a.whole == 0.0 { 0.0 } else { at / a.whole }, a.whole);
        let from = share(a.before);
        format!("span {word} {from}..{} in {name}", share(a.before + a.size))
    };
    let drawn = |word: &str, a: &DisplayQuantity, grow: &str| {
        let [before, size, whole] = [a.before, a.size, a.whole].map(written);
        format!("drawn {word} {before}, {size} in {name} of {whole}, grow {grow}")
    };
    match tie {
        Tie::Edges => [
            vec![format!(
                "pin start {}, end {}, top {}, bottom {} to {name}",
                written(x.before),
                written(x.behind),
                written(y.before),
                written(y.behind)
            )],
            Vec::new(),
        ],
        Tie::Corner => {
            let corner = format!("pin start {}, top {} to {name}", written(x.before), written(y.before));
            [vec![corner], size]
        }
        Tie::Span => [vec![spanned("across", &x), spanned("down", &y)], Vec::new()],
        Tie::Point => {
            let middle =
                |a: &DisplayQuantity| if a.whole == 0.0 { 0.0 } else { (a.before + a.size / 2.0) / a.whole };
            // A point of the box is reported from the left.
            let across = if is_mirrored(placement) { 1.0 - middle(&x) } else { middle(&x) };
            let (across, down) = (fraction(across, x.whole), fraction(middle(&y), y.whole));
            [vec![format!("center = {name}.at({across}, {down})")], size]
        }
        Tie::Drawn => {
            let lines =
                vec![drawn("across", &x, "start, width, end"), drawn("down", &y, "top, height, bottom")];
            [lines, Vec::new()]
        }
    }
}

/// The line that keeps a frame's starting corner where it is, beside a view.
pub(crate) fn corner_in(placement: &Placement, screen: &Screen, beside: ViewId, frame: &Frame) -> String {
    let (_, name, parent) = parent_of(placement, screen, beside);
    let (x, y) = (across(placement, frame, &parent), down(frame, &parent));
    format!("pin start {}, top {} to {name}", written(x.before), written(y.before))
}

fn is_mirrored(placement: &Placement) -> bool {
    placement.display.direction() == Direction::RightToLeft
}

fn parent_of(placement: &Placement, screen: &Screen, view: ViewId) -> (Anchor, &'static str, Frame) {
    let around = screen.view(view).and_then(|v| v.parent()).and_then(|p| Some((p, placement.frame(p)?)));
    match around {
        Some((around, frame)) => (around.into(), "parent", frame),
        None => (Anchor::Screen, "screen", placement.screen_frame()),
    }
}

fn across(placement: &Placement, own: &Frame, parent: &Frame) -> DisplayQuantity {
    let (left, right) = (own.left - parent.left, parent.right() - own.right());
    let (before, behind) = if is_mirrored(placement) { (right, left) } else { (left, right) };
    DisplayQuantity { before, size: own.width, behind, whole: parent.width }
}

/// The edge that a side is here, whatever the reading direction.
fn edge(placement: &Placement, side: Side) -> Side {
    match (side, is_mirrored(placement)) {
        (Side::Start, false) | (Side::End, true) => Side::Left,
        (Side::End, false) | (Side::Start, true) => Side::Right,
        (side, _) => side,
    }
}

/// The distance to a view on a side, if the two face one another there.
fn gap(placement: &Placement, side: Side, own: &Frame, other: &Frame) -> Option<f64> {
    let edge = edge(placement, side);
    let distance = match edge {
        Side::Top => own.top - other.bottom(),
        Side::Bottom => other.top - own.bottom(),
        Side::Right => other.left - own.right(),
        _ => own.left - other.right(),
    };
    let faces = match edge {
        Side::Top | Side::Bottom => own.left < other.right() && other.left < own.right(),
        _ => own.top < other.bottom() && other.top < own.bottom(),
    };
    (faces && distance >= 0.0).then_some(distance)
}

fn inset(placement: &Placement, side: Side, own: &Frame, around: &Frame) -> f64 {
    match edge(placement, side) {
        Side::Top => own.top - around.top,
        Side::Bottom => around.bottom() - own.bottom(),
        Side::Right => around.right() - own.right(),
        _ => own.left - around.left,
    }
}

/// The word that keeps a distance to a view on a side; left and right are reported as read.
fn gap_word(placement: &Placement, side: Side) -> &'static str {
    match (side, is_mirrored(placement)) {
        (Side::Top, _) => "below",
        (Side::Bottom, _) => "above",
        (Side::Start, _) | (Side::Left, false) | (Side::Right, true) => "after",
        _ => "before",
    }
}

fn down(own: &Frame, parent: &Frame) -> DisplayQuantity {
    let (before, behind) = (own.top - parent.top, parent.bottom() - own.bottom());
    DisplayQuantity { before, size: own.height, behind, whole: parent.height }
}

/// A length as a person would write it, to a hundredth of a pixel.
pub(crate) fn written(number: f64) -> String {
    vantic_core::words::number(number)
}

/// A part of a box, as a percentage with as many decimals as it takes to be right to a hundredth of a pixel.
fn fraction(part: f64, whole: f64) -> String {
    let decimals = whole.max(100.0).log10().ceil() as usize;
    let percentage = format!("{:.decimals$}", part * 100.0);
    format!("{}%", percentage.trim_end_matches('0').trim_end_matches('.'))
}
