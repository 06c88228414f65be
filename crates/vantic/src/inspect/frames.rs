//! Where things landed: cut content, views outside, siblings over one another.

use crate::finding::{Finding, Severity};
use crate::screen_ext::ScreenExt as _;
use std::collections::HashSet;
use vantic_core::geometry::{Axis, Frame};
use vantic_core::model::{Code, Screen, UnstickableView, ViewId};
use vantic_core::plan::Placement;
use vantic_core::text::TextSize;
use vantic_core::words::{list, number};

/// Differences of at most this many logical pixels are not seen.
pub(crate) const VISIBILITY_TOLERANCE: f64 = 0.005;

/// The views that are painted and have an area, with their frames, or the bounds of what is painted.
fn seen<'a>(
    screen: &'a Screen,
    placement: &'a Placement,
    painted: bool,
) -> impl Iterator<Item = (ViewId, Frame)> + 'a {
    screen.views().filter_map(move |(id, _)| {
        let frame = if painted { placement.painted_bounds(screen, id)? } else { placement.frame(id)? };
        let has_area = frame.width > VISIBILITY_TOLERANCE && frame.height > VISIBILITY_TOLERANCE;
        (placement.painted[id.index()] && has_area).then_some((id, frame))
    })
}

pub(crate) fn cut(screen: &Screen, placement: &Placement, findings: &mut Vec<Finding>) {
    for (id, _) in screen.views() {
        let (Some(frame), Some(text)) = (placement.frame(id), placement.texts[id.index()]) else { continue };
        let (wide, high) = (text.longest - frame.width, text.height - frame.height);
        if !placement.painted[id.index()] {
            continue;
        }
        if text.hidden > 0 {
            findings.push(cut_short(screen, id, &text));
        }
        if wide.max(high) <= VISIBILITY_TOLERANCE {
            continue;
        }
        let path = screen.path(id);
        let mut finding = Finding::new(Code::Cut, Severity::Error);
        finding.message = match (wide > VISIBILITY_TOLERANCE, text.lines) {
            (true, _) => format!(
                "`{path}` is cut: its longest word needs a width of {}, but has {}",
                number(text.longest),
                number(frame.width)
            ),
            (false, lines) => format!(
                "`{path}` is cut: its {} a height of {}, but have {}",
                if lines == 1 { "line needs".to_owned() } else { format!("{lines} lines need") },
                number(text.height),
                number(frame.height)
            ),
        };
        finding.help = "give it more space, a smaller font in a band, or fewer words".into();
        finding.coordinates = [(wide, "width"), (high, "height")]
            .iter()
            .filter(|(by, _)| *by > VISIBILITY_TOLERANCE)
            .map(|(_, c)| format!("{path}.{c}"))
            .collect();
        finding.views = vec![path];
        finding.amount = wide.max(high);
        findings.push(finding);
    }
}

/// A text with more lines than its limit shows.
fn cut_short(screen: &Screen, view: ViewId, text: &TextSize) -> Finding {
    let path = screen.path(view);
    let mut finding = Finding::new(Code::Cut, Severity::Error);
    let (shown, all) = (text.lines - text.hidden, text.lines);
    finding.message = format!("`{path}` is cut: {shown} of its {all} lines are shown");
    finding.help = "give it more width, a higher limit of `lines`, or fewer words".into();
    finding.coordinates = vec![format!("{path}.content.height")];
    finding.views = vec![path];
    finding.amount = text.height / f64::from(shown) * f64::from(text.hidden);
    finding
}

/// How far a frame reaches beyond a box: left, top, right, bottom.
pub(crate) fn beyond(frame: &Frame, within: &Frame) -> [f64; 4] {
    [
        within.left - frame.left,
        within.top - frame.top,
        frame.right() - within.right(),
        frame.bottom() - within.bottom(),
    ]
}

/// The rule that keeps an open-ended label inside, for the side that it reaches beyond.
fn ends_in_time(side: usize) -> String {
    let sign = if side < 2 { "+" } else { "-" };
    format!("{} {sign} 8", within(side, "parent"))
}

/// The rule that keeps a side within what is around it: `left >= parent.left`.
pub(crate) fn within(side: usize, around: &str) -> String {
    let comparison = if side < 2 { ">=" } else { "<=" };
    format!("{side} {comparison} {around}.{side}", side = SIDES[side])
}

/// How many overlaps are reported of one display.
const MAX_OVERLAPS: usize = 10_000;

pub(crate) const SIDES: [&str; 4] = ["left", "top", "right", "bottom"];

pub(crate) fn outside(
    screen: &Screen,
    placement: &Placement,
    fixed: &HashSet<ViewId>,
    findings: &mut Vec<Finding>,
) {
    let display = placement.screen_frame();
    // How far what is seen of a view reaches beyond the screen.
    let off = |view: ViewId| {
        placement.visible_frame(screen, view).map_or([0.0; 4], |visible| beyond(&visible, &display))
    };
    for (id, frame) in seen(screen, placement, false) {
        let path = screen.path(id);
        let parent = screen.at(id).parent().and_then(|p| Some((p, placement.frame(p)?)));
        if parent.is_some_and(|(p, _)| placement.look(p).fits.is_some()) {
            continue;
        }
        let off_screen = off(id);
        // What its parent does as well is reported of the parent.
        let parents = parent.map_or([0.0; 4], |(p, _)| off(p));
        let own: Vec<(usize, f64)> = (0..4)
            .map(|i| (i, off_screen[i]))
            .filter(|&(i, by)| by > VISIBILITY_TOLERANCE && by > parents[i].max(0.0) + VISIBILITY_TOLERANCE)
            .collect();
        let mut finding;
        let (sides, of) = if own.is_empty() {
            let Some((parent, parent_frame)) = parent else { continue };
            // What stays where it is cannot be scrolled to.
            let moves = placement.scrolled.contains_key(&parent) && !fixed.contains(&id);
            let scrolled = screen.at(parent).scrolled().filter(|_| moves);
            let mut over = beyond(&frame, &parent_frame);
            if let Some(content) = scrolled.and_then(|content_box| placement.frame(content_box)) {
                over = std::array::from_fn(|side| over[side].min(beyond(&frame, &content)[side]));
            }
            let sides: Vec<(usize, f64)> = (0..4)
                .map(|i| (i, over[i]))
                .filter(|&(i, by)| by > VISIBILITY_TOLERANCE && off_screen[i] <= VISIBILITY_TOLERANCE)
                .collect();
            if sides.is_empty() {
                continue;
            }
            finding = Finding::new(Code::Outside, Severity::Warning);
            let rule = within(sides[0].0, "parent");
            finding.help = format!("keep it inside with `{rule}`, or move it out of its parent");
            let around = screen.path(parent);
            if scrolled.is_some() {
                finding.help = format!("let `{around}.content` reach further, so that it can be scrolled to");
                (sides, format!("what `{around}` scrolls"))
            } else if placement.look(parent).clips {
                if !placement.scrolled.contains_key(&parent) {
                    finding.severity = Severity::Note;
                    finding.help =
                        "nothing to do if that is intended; otherwise give it more space, or less content"
                            .into();
                }
                let kept = frame.shared(&parent_frame).map_or(0.0, |f| f.width * f.height);
                let lost = number(frame.width * frame.height - kept);
                (sides, format!("its parent `{around}`; {lost} px² is clipped"))
            } else {
                (sides, format!("its parent `{around}`"))
            }
        } else {
            finding = Finding::new(Code::Outside, Severity::Error);
            finding.help = match screen.at(id).text() {
                Some(_) => format!("limit its edge: `{}`", ends_in_time(own[0].0)),
                None => "pin it to the other side too, or make a gap before it a preference".into(),
            };
            (own, "the screen".to_owned())
        };
        let parts: Vec<String> =
            sides.iter().map(|&(i, by)| format!("{} beyond the {}", number(by), SIDES[i])).collect();
        let parts = format!("{} of {of}", parts.join(" and "));
        let lost = finding.severity == Severity::Error && frame.shared(&display).is_none();
        if lost {
            finding.help =
                "tie it to a side of the screen or to a neighbour, not to a number or a far edge".into();
        }
        finding.message = if lost {
            format!("`{path}` is entirely off the screen, {parts}")
        } else {
            format!("`{path}` extends {parts}")
        };
        finding.coordinates = sides.iter().map(|&(i, _)| format!("{path}.{}", SIDES[i])).collect();
        finding.views = vec![path];
        finding.amount = sides.iter().map(|s| s.1).fold(0.0, f64::max);
        findings.push(finding);
    }
}

/// What is fixed on top of what is scrolled: which views are never clear of it, however far they are
/// scrolled. Views that hold others are looked at by what they hold.
pub(crate) fn never_clear(
    screen: &Screen,
    placement: &Placement,
    fixed: &HashSet<ViewId>,
    findings: &mut Vec<Finding>,
) {
    let direction = placement.display.direction();
    for (&scroller, at) in &placement.scrolled {
        let Some(port) = placement.frame(scroller) else { continue };
        let still: Vec<ViewId> = screen.at(scroller).children().to_vec();
        let still: Vec<ViewId> =
            still.into_iter().filter(|v| fixed.contains(v) && placement.is_painted(*v)).collect();
        let child_of =
            |view: ViewId| screen.with_ancestors(view).find(|v| screen.at(*v).parent() == Some(scroller));
        let leaves = seen(screen, placement, false).filter(|(v, _)| screen.at(*v).children().is_empty());
        for (leaf, under) in leaves.filter(|_| !still.is_empty()) {
            let Some(child) = child_of(leaf).filter(|child| !fixed.contains(child)) else { continue };
            for &above in still.iter().filter(|&&above| placement.is_on_top(above, child)) {
                let Some(top) = placement.frame(above) else { continue };
                let left = |axis, offset, most| {
                    let [port, above, below] = [port, top, under].map(|f| f.along(axis, direction));
                    covered(port, above, (below.0 + offset, below.1 + offset), most)
                };
                let width = left(Axis::Across, at.offset.0, at.most.0);
                let height = left(Axis::Down, at.offset.1, at.most.1);
                if width > VISIBILITY_TOLERANCE && height > VISIBILITY_TOLERANCE {
                    let mut finding = Finding::new(Code::Overlap, Severity::Warning);
                    finding.views = vec![screen.path(leaf), screen.path(above)];
                    finding.amount = width * height;
                    let (of, [leaf, above]) = (screen.path(scroller), [0, 1].map(|i| &finding.views[i]));
                    finding.message = format!(
                        "`{above}` covers {} x {} of `{leaf}`, and `{of}` cannot be scrolled clear of it",
                        number(width),
                        number(height)
                    );
                    finding.help = format!(
                        "extend the content of `{of}` below it, with a larger `padding` or `content.bottom`"
                    );
                    findings.push(finding);
                }
            }
        }
    }
}

/// How much of what is scrolled cannot be seen beside what is fixed, at best, along one axis. What is
/// scrolled is reported for offset 0. What is larger than the space beside it is looked at part by part.
fn covered(port: (f64, f64), above: (f64, f64), below: (f64, f64), most: f64) -> f64 {
    let size = below.1 - below.0;
    let rooms = [(port.0, above.0), (above.1, port.1)];
    if rooms.iter().all(|room| size > room.1 - room.0 + VISIBILITY_TOLERANCE) {
        return (below.1.min(above.1) - below.0.max(above.0 + most)).max(0.0);
    }
    let clear = |offset: f64| {
        let part = |room: &(f64, f64)| (below.1 - offset).min(room.1) - (below.0 - offset).max(room.0);
        rooms.iter().map(|room| part(room).max(0.0)).sum::<f64>()
    };
    // The best offset is one at which an edge meets an edge, or the first or the last.
    let meets = rooms.iter().flat_map(|room| [below.0 - room.0, below.1 - room.1]);
    let offsets = meets.map(|offset| offset.clamp(0.0, most)).chain([0.0, most]);
    size - offsets.map(clear).fold(0.0, f64::max)
}

/// What counts as overlapping.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct Overlaps {
    /// The bounds of what is painted, rotated and scaled, count instead of the frames.
    pub(crate) painted: bool,
    /// Siblings that are nearer to one another than this count too, in logical pixels.
    pub(crate) gap: f64,
}

/// A frame larger by so much on each side.
fn grown(frame: &Frame, by: f64) -> Frame {
    Frame {
        left: frame.left - by,
        top: frame.top - by,
        width: frame.width + 2.0 * by,
        height: frame.height + 2.0 * by,
    }
}

pub(crate) fn overlaps(
    screen: &Screen,
    placement: &Placement,
    fixed: &HashSet<ViewId>,
    Overlaps { painted, gap }: Overlaps,
    findings: &mut Vec<Finding>,
) {
    let mut families: Vec<Vec<(ViewId, Frame)>> = vec![Vec::new(); screen.views().count() + 1];
    for (id, frame) in seen(screen, placement, painted) {
        families[screen.at(id).parent().map_or(0, |p| p.index() + 1)].push((id, frame));
    }
    let mut count = 0;
    for (family, mut members) in families.into_iter().enumerate() {
        let parent = family.checked_sub(1).and_then(|p| screen.view_at(p));
        let content_box = parent.and_then(|p| placement.frame(screen.at(p).scrolled()?));
        let parent = parent.map_or(Some(placement.screen_frame()), |p| placement.frame(p));
        // A backdrop is excepted: a view that covers its parent and is painted before the others.
        let covers =
            |frame: &Frame, of: Frame| beyond(&of, frame).iter().all(|by| *by <= VISIBILITY_TOLERANCE);
        let is_backdrop =
            |frame: &Frame| [parent, content_box].into_iter().flatten().any(|of| covers(frame, of));
        // Swept along the axis on which they lie further apart, so that long lists stay cheap.
        let spread = |edge: fn(&Frame) -> f64| {
            let (low, high) = members
                .iter()
                .map(|m| edge(&m.1))
                .fold((f64::MAX, f64::MIN), |(l, h), e| (l.min(e), h.max(e)));
            high - low
        };
        let sideways = spread(|f| f.left) > spread(|f| f.top);
        let edges = |f: &Frame| if sideways { (f.left, f.right()) } else { (f.top, f.bottom()) };
        members.sort_by(|a, b| edges(&a.1).0.total_cmp(&edges(&b.1).0).then(a.0.cmp(&b.0)));
        for (i, a) in members.iter().enumerate() {
            for b in members[i + 1..].iter().take_while(|b| edges(&b.1).0 < edges(&a.1).1 + gap) {
                let (below, above) = if placement.is_on_top(b.0, a.0) { (a, b) } else { (b, a) };
                // What sticks, or is fixed, is meant to cover what moves with its parent under it.
                let stays = |view| placement.is_stuck(view) || fixed.contains(&view);
                if stays(above.0) && !stays(below.0) {
                    continue;
                }
                let shared = grown(&below.1, gap).shared(&above.1);
                let shared =
                    shared.filter(|s| s.width > VISIBILITY_TOLERANCE && s.height > VISIBILITY_TOLERANCE);
                if shared.is_some() && !is_backdrop(&below.1) {
                    findings.push(match below.1.shared(&above.1) {
                        Some(shared)
                            if gap == 0.0 || shared.width.min(shared.height) > VISIBILITY_TOLERANCE =>
                        {
                            overlap(screen, below.0, above.0, &shared)
                        }
                        _ => too_near(screen, (below, above), gap),
                    });
                    count += 1;
                    if count >= MAX_OVERLAPS {
                        return;
                    }
                }
            }
        }
    }
}

/// Guides that divide into nothing, or into more than there is space for.
pub(crate) fn divisions(screen: &Screen, placement: &Placement, findings: &mut Vec<Finding>) {
    for (&view, division) in &placement.divisions {
        let path = screen.path(view);
        let what = if division.columns { "columns" } else { "rows" };
        let size = if division.columns { "width" } else { "height" };
        let mut finding;
        if division.size <= VISIBILITY_TOLERANCE {
            finding = Finding::new(Code::Collapse, Severity::Error);
            finding.amount = -division.size;
            finding.message = format!(
                "the {what} of `{path}` have no space: each has a {size} of {}",
                number(division.size)
            );
            finding.help =
                "use fewer of them, or smaller gutters and margins, in a band for small displays".into();
        } else if division.beyond > VISIBILITY_TOLERANCE {
            finding = Finding::new(Code::Outside, Severity::Warning);
            finding.amount = division.beyond;
            finding.message = format!("the {what} of `{path}` extend {} beyond it", number(division.beyond));
            finding.help = "use fewer of them, or smaller ones, in a band for small displays".into();
        } else {
            continue;
        }
        finding.views = vec![path];
        findings.push(finding);
    }
}

/// Grids whose columns have no space or too little, and children that ask for more of them.
pub(crate) fn grids(screen: &Screen, placement: &Placement, findings: &mut Vec<Finding>) {
    for (&view, grid) in &placement.grids {
        let path = screen.path(view);
        let width = grid.width.unwrap_or(f64::INFINITY);
        let short = grid.least.unwrap_or(0.0) - width;
        if width <= VISIBILITY_TOLERANCE {
            let mut finding = Finding::new(Code::Collapse, Severity::Error);
            finding.message =
                format!("the columns of `{path}` have no space: each has a width of {}", number(width));
            finding.help =
                "use fewer columns, or a smaller gap or padding, in a band for small displays".into();
            finding.views = vec![path.clone()];
            finding.amount = -width;
            findings.push(finding);
        } else if short > VISIBILITY_TOLERANCE {
            let mut finding = Finding::new(Code::Missed, Severity::Note);
            finding.message = format!("the column of `{path}` is {} below its minimum width", number(short));
            finding.help = "nothing to do if that is intended; otherwise lower the minimum width".into();
            finding.views = vec![path.clone()];
            finding.amount = short;
            findings.push(finding);
        }
        for &child in &grid.too_wide {
            let mut finding = Finding::new(Code::Idle, Severity::Note);
            finding.views = vec![screen.path(child), path.clone()];
            finding.message =
                format!("`{}` asks for more columns than the {} of `{path}`", finding.views[0], grid.columns);
            finding.help = "it takes all of them; nothing to do if that is intended".into();
            findings.push(finding);
        }
    }
}

/// Views that paint what they hold smaller, and those that are to stick and cannot.
pub(crate) fn scrolling(screen: &Screen, placement: &Placement, findings: &mut Vec<Finding>) {
    for (view, _) in screen.views() {
        let Some(factor) = placement.look(view).fits else { continue };
        let mut finding = Finding::new(Code::Outside, Severity::Note);
        finding.views = vec![screen.path(view)];
        finding.amount = 1.0 - factor;
        let share = number(factor * 100.0);
        finding.message = format!("`{}` scales its content to {share}% so that it fits", finding.views[0]);
        finding.help = "nothing to do if that is intended; texts become smaller too".into();
        findings.push(finding);
    }
    for UnstickableView { view, side, clipped } in &placement.unstickable {
        let mut finding = Finding::new(Code::Idle, Severity::Note);
        let (path, side) = (screen.path(*view), side.coordinate().spelling());
        finding.views = vec![path.clone()];
        match clipped {
            Some((scroller, clipper)) => {
                let (scroller, clipper) = (screen.path(*scroller), screen.path(*clipper));
                finding.message = format!(
                    "`{path}` cannot stick to the {side} of `{scroller}`: `{clipper}` between them clips"
                );
                finding.help = format!("remove `overhang clip` from `{clipper}`, or `stick` from `{path}`");
                finding.views.push(clipper);
            }
            None => {
                finding.message =
                    format!("`{path}` cannot stick to a {side}: no parent of it scrolls that way");
                finding.help = "write `scroll down` or `scroll across` in a parent".into();
            }
        }
        findings.push(finding);
    }
}

/// Siblings that do not overlap, but are nearer to one another than they may be.
fn too_near(screen: &Screen, (below, above): (&(ViewId, Frame), &(ViewId, Frame)), gap: f64) -> Finding {
    let beyond = |near: f64, far: f64| (near - far).max(0.0);
    let (a, b) = (&below.1, &above.1);
    let across = beyond(b.left, a.right()).max(beyond(a.left, b.right()));
    let down = beyond(b.top, a.bottom()).max(beyond(a.top, b.bottom()));
    let mut finding = Finding::new(Code::Overlap, Severity::Warning);
    finding.views = vec![screen.path(below.0), screen.path(above.0)];
    let apart = across.max(down);
    finding.amount = gap - apart;
    finding.message =
        format!("{} are {} apart; the minimum is {}", list(&finding.views), number(apart), number(gap));
    finding.help = "keep them further apart".into();
    finding
}

fn overlap(screen: &Screen, below: ViewId, above: ViewId, shared: &Frame) -> Finding {
    let mut finding = Finding::new(Code::Overlap, Severity::Warning);
    finding.views = vec![screen.path(below), screen.path(above)];
    finding.amount = shared.width * shared.height;
    finding.message = format!(
        "{} overlap by {} x {} ({} px²), `{}` is on top",
        list(&finding.views),
        number(shared.width),
        number(shared.height),
        number(finding.amount),
        finding.views[1]
    );
    finding.help =
        format!("keep them apart with a rule, or `accept overlap: {} \"why\"`", finding.views.join(", "));
    finding
}
