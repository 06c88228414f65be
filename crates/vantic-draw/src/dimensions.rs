//! Rules as dimension lines: a line between the two edges that a rule ties, with its distance.

use crate::canvas::{Area, Canvas, Ink, Stroke, TextAnchor, steady};
use crate::drawing::Drawing;
use crate::palette::{ERROR, GLASS, MEASURE, SOFT_INK};
use crate::{HEIGHT, WIDTH};
use vantic::geometry::Frame;
use vantic::model::{Anchor, Comparison, Coordinate, Relation, RuleRef, ViewId};
use vantic::plan::Missed;
use vantic::words::number;

const SIZE: f64 = 9.5;

/// A distance between two edges, in logical pixels of the display.
struct Distance {
    horizontal: bool,
    from: f64,
    to: f64,
    /// Where on the other axis the line may lie.
    across: (f64, f64),
    label: String,
    /// Whether the rule does not hold, and is required.
    is_broken: bool,
}

/// Draws the distances of the rules; those whose label would cover another are counted instead.
pub(crate) fn draw(canvas: &mut Canvas, drawing: &Drawing<'_>) {
    let mut taken: Vec<Area> = Vec::new();
    let mut left_out = 0;
    let mut all: Vec<Distance> = Vec::new();
    let words = drawing.line_areas();
    for &id in &drawing.placement.rules {
        let Some(rule) = drawing.screen.rule(id) else { continue };
        let Some(owner) = rule.owner().filter(|o| drawing.placement.is_painted(*o)) else { continue };
        // What sticks is not where its rules put it.
        if drawing.placement.is_stuck(owner) {
            continue;
        }
        let distances = rule.relations().iter().enumerate().filter_map(|(relation, r)| {
            let rule = RuleRef::Written { rule: id, relation };
            Some(off(drawing, rule, distance(drawing, r, owner)?))
        });
        all.extend(distances.filter(|d| is_seen(drawing, owner, d)));
    }
    // Short distances have the least choice of place, so they go first.
    all.sort_by_key(|d| steady((d.to - d.from).abs()));
    for distance in all {
        if !one(canvas, drawing, &distance, &words, &mut taken) {
            left_out += 1;
        }
    }
    if left_out > 0 {
        let what = if left_out == 1 { "dimension" } else { "dimensions" };
        let words = format!("{left_out} {what} omitted");
        canvas.words(WIDTH - 32.0, HEIGHT - 14.0, &words, Ink::new(10.0, SOFT_INK), TextAnchor::End);
    }
}

/// A distance that says so where its rule does not hold.
fn off(drawing: &Drawing<'_>, rule: RuleRef, distance: Distance) -> Distance {
    let of = |all: &[Missed]| all.iter().find(|missed| missed.rule == rule).map(|missed| missed.by);
    let (broken, missed) = (of(&drawing.placement.broken), of(&drawing.placement.missed));
    let Some(by) = broken.or(missed) else { return distance };
    let label = format!("{}, off by {}", distance.label, number(by));
    Distance { label, is_broken: broken.is_some(), ..distance }
}

/// Whether a distance lies within what the views around a view show.
fn is_seen(drawing: &Drawing<'_>, owner: ViewId, distance: &Distance) -> bool {
    let clipping = drawing.screen.ancestors(owner).filter(|v| drawing.placement.look(*v).clips);
    clipping.filter_map(|v| drawing.placement.frame(v)).all(|frame| {
        let (x, y) = ((frame.left, frame.right()), (frame.top, frame.bottom()));
        let (along, across) = if distance.horizontal { (x, y) } else { (y, x) };
        let within = |at: f64, (low, high): (f64, f64)| (low - 0.01..=high + 0.01).contains(&at);
        let middle = (distance.across.0 + distance.across.1) / 2.0;
        within(distance.from, along) && within(distance.to, along) && within(middle, across)
    })
}

fn distance(drawing: &Drawing<'_>, relation: &Relation, owner: ViewId) -> Option<Distance> {
    let terms: Vec<_> = relation.left.terms().iter().chain(relation.right.terms()).copied().collect();
    let own = drawing.placement.frame(owner)?;
    match terms.as_slice() {
        // A fixed width or height: drawn inside the view.
        [size]
            if !size.coordinate.is_position()
                && size.anchor == Anchor::View(owner)
                && relation.comparison == Comparison::Equal =>
        {
            let horizontal = size.coordinate.is_horizontal();
            let (from, to) = if horizontal { (own.left, own.right()) } else { (own.top, own.bottom()) };
            let across = if horizontal { (own.top, own.bottom()) } else { (own.left, own.right()) };
            Some(Distance { horizontal, from, to, across, label: number(to - from), is_broken: false })
        }
        [a, b] if a.coordinate.is_position() && b.coordinate.is_position() => {
            let ends = |t: &vantic::model::Term| edge(drawing, t.anchor, t.coordinate, owner);
            let ((a_at, a_frame), (b_at, b_frame)) = (ends(a)?, ends(b)?);
            let horizontal = a.coordinate.is_horizontal();
            if horizontal != b.coordinate.is_horizontal() || (a_at - b_at).abs() < 1.0 {
                return None;
            }
            let span = |f: &Frame| if horizontal { (f.top, f.bottom()) } else { (f.left, f.right()) };
            let (s, t) = (span(&a_frame), span(&b_frame));
            let shared = (s.0.max(t.0), s.1.min(t.1));
            let across = if shared.0 <= shared.1 { shared } else { span(&own) };
            let mut label = number((a_at - b_at).abs());
            if relation.comparison != Comparison::Equal {
                let least = (relation.left.constant() - relation.right.constant()).abs();
                label = format!("{label}, at least {}", number(least));
            }
            Some(Distance { horizontal, from: a_at, to: b_at, across, label, is_broken: false })
        }
        _ => None,
    }
}

/// Where an edge is, and the frame it belongs to.
fn edge(drawing: &Drawing<'_>, place: Anchor, coordinate: Coordinate, owner: ViewId) -> Option<(f64, Frame)> {
    let display = &drawing.placement.display;
    let siblings = || {
        let parent = drawing.screen.view(owner).and_then(|v| v.parent());
        let all = drawing.screen.views().filter(move |(_, v)| v.parent() == parent).map(|(id, _)| id);
        all.filter(|&id| drawing.placement.frame(id).is_some()).collect::<Vec<_>>()
    };
    let view = match place {
        Anchor::Screen | Anchor::Safe | Anchor::Clear => None,
        Anchor::Cells { .. } => return None,
        Anchor::View(v) => Some(v),
        Anchor::Prev(_) => {
            let all = siblings();
            let at = all.iter().position(|&v| v == owner)?.checked_sub(1)?;
            Some(all[at])
        }
        Anchor::Next(_) => {
            let all = siblings();
            let at = all.iter().position(|&v| v == owner)? + 1;
            Some(*all.get(at)?)
        }
    };
    let frame = match (place, view) {
        (_, Some(view)) => drawing.placement.frame(view)?,
        (Anchor::Safe, _) => drawing.placement.safe_frame(),
        (Anchor::Clear, _) => drawing.placement.clear_frame(),
        _ => drawing.placement.screen_frame(),
    };
    let words = view.and_then(|v| drawing.placement.text_size(v));
    let rtl = display.direction() == vantic::geometry::Direction::RightToLeft;
    let value = match coordinate {
        Coordinate::Start if rtl => frame.right(),
        Coordinate::End if rtl => frame.left,
        Coordinate::Left | Coordinate::Start => frame.left,
        Coordinate::Right | Coordinate::End => frame.right(),
        Coordinate::CenterX => frame.left + frame.width / 2.0,
        Coordinate::Top => frame.top,
        Coordinate::CenterY => frame.top + frame.height / 2.0,
        Coordinate::Baseline => words.map_or(frame.bottom(), |words| frame.top + words.ascent),
        Coordinate::Bottom => frame.bottom(),
        _ => return None,
    };
    Some((value, frame))
}

/// Draws one distance where its label covers no other label and no words; false where there is no
/// such place. A place where its line crosses no words is better.
fn one(
    canvas: &mut Canvas,
    drawing: &Drawing<'_>,
    d: &Distance,
    words: &[Area],
    taken: &mut Vec<Area>,
) -> bool {
    let (scale, glass) = (drawing.scale, drawing.glass);
    let origin = if d.horizontal { (glass.x, glass.y) } else { (glass.y, glass.x) };
    let along = |v: f64| origin.0 + v * scale;
    let (from, to) = (along(d.from.min(d.to)), along(d.from.max(d.to)));
    let (low, high) = (origin.1 + d.across.0 * scale, origin.1 + d.across.1 * scale);
    let width = drawing.fonts.width(&d.label, SIZE) + 4.0;
    let touches = |area: &Area, others: &[Area]| others.iter().any(|o| o.touches(area));
    let mut best: Option<(bool, f64, Area)> = None;
    for share in [0.5, 0.35, 0.65, 0.2, 0.8, 0.08, 0.92] {
        let across = low + (high - low) * share;
        let middle = f64::midpoint(from, to);
        let (x, y) = if d.horizontal { (middle, across) } else { (across, middle) };
        // On the line where it is long enough, else beside it.
        let beside = to - from < if d.horizontal { width + 6.0 } else { SIZE + 6.0 };
        let label = match (beside, d.horizontal) {
            (false, _) => Area { x: x - width / 2.0, y: y - 6.0, width, height: 12.0 },
            (true, true) => Area { x: x - width / 2.0, y: y - 16.0, width, height: 12.0 },
            (true, false) => Area { x: x + 4.0, y: y - 6.0, width, height: 12.0 },
        };
        if touches(&label, taken) || touches(&label, words) {
            continue;
        }
        let (x, y, width, height) =
            if d.horizontal { (from, across, to - from, 0.1) } else { (across, from, 0.1, to - from) };
        let crosses = touches(&Area { x, y, width, height }, words);
        if best.is_none_or(|(other, ..)| other && !crosses) {
            best = Some((crosses, across, label));
        }
    }
    let Some((_, across, label)) = best else { return false };
    taken.push(label);
    let colour = if d.is_broken { ERROR } else { MEASURE };
    let stroke = match d.is_broken {
        true => Stroke::dashed(colour, 1.4, "5 3"),
        false => Stroke::solid(colour, 1.0),
    };
    let point = |a: f64, b: f64| if d.horizontal { (a, b) } else { (b, a) };
    canvas.line(&[point(from, across), point(to, across)], stroke);
    for end in [from, to] {
        canvas.line(&[point(end, across - 3.5), point(end, across + 3.5)], stroke);
    }
    canvas.fill(label, GLASS, 2.0);
    let (lx, ly) = (label.x + label.width / 2.0, label.y + 9.5);
    canvas.words(lx, ly, &d.label, Ink::new(SIZE, colour), TextAnchor::Middle);
    true
}
