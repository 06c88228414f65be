//! Siblings gathered into a row or column, a view taken out of one, and one dissolved; frames are kept.

use crate::drawing::{Drawing, DrawnKind, DrawnView, drawn_path};
use crate::fix::change::{Change, changed};
use crate::fix::rule_source::removed;
use crate::infer::rules::{PLACED, suggested};
use crate::resolve::source_map::Reference;
use crate::screen_ext::ScreenExt as _;
use crate::structure::context::{
    KEPT, Keeps, Restructured, Structure, StructureError, cannot, in_order, item_in, same_name, with_lines,
};
use crate::syntax::ast::nodes::node_span;
use crate::syntax::lexer::Kind;
use std::ops::Range;
use vantic_core::geometry::{Axis, Direction, Frame};
use vantic_core::model::{Align, Anchor, Coordinate, ViewId};
use vantic_core::plan::Placement;
use vantic_core::words::number;

/// How many ways to place a group along an axis are tried.
const MAX_WAYS: usize = 4;

const BY_HAND: &str = "its size or place differs in ways that no one rule gives; write its rules by hand";

/// Where a view begins along an axis in the direction of reading, and its size.
type Extent = (f64, f64);

fn extent(placement: &Placement, frame: &Frame, axis: Axis) -> Extent {
    match (axis, placement.display.direction()) {
        (Axis::Down, _) => (frame.top, frame.height),
        (Axis::Across, Direction::LeftToRight) => (frame.left, frame.width),
        (Axis::Across, Direction::RightToLeft) => {
            (placement.screen_frame().width - frame.right(), frame.width)
        }
    }
}

/// How views stand in a row or column, on all displays.
struct Line {
    axis: Axis,
    order: Vec<ViewId>,
    gaps: Vec<f64>,
    /// Whether the distances are equal on each display and differ between displays.
    spreads: bool,
    align: &'static str,
    /// Per view: whether it takes a share of the space.
    shares: Vec<bool>,
}

impl Line {
    /// The words for the block of the view that holds them.
    fn words(&self) -> String {
        let gap = self.gap();
        let way = if self.axis == Axis::Across { "row" } else { "column" };
        let gap = if gap == 0.0 { String::new() } else { format!(" gap {}", number(gap)) };
        let align = if self.align == "start" { String::new() } else { format!("align {}", self.align) };
        if self.spreads {
            let align = if align.is_empty() { align } else { format!(", {align}") };
            return format!("{way} spread between{align}");
        }
        let comma = if gap.is_empty() || align.is_empty() { " " } else { ", " };
        format!("{way}{gap}{comma}{align}").trim_end().to_owned()
    }

    /// The distance that most of them have.
    fn gap(&self) -> f64 {
        let count = |gap: f64| self.gaps.iter().filter(|other| (**other - gap).abs() <= KEPT).count();
        let best = self.gaps.iter().copied().max_by_key(|gap| count(*gap));
        (best.unwrap_or(0.0) * 100.0).round() / 100.0
    }
}

impl Structure<'_> {
    /// Gathers siblings into a row or column of their own, a new view, and keeps all frames. Rules about where they are go, and the
    /// new view gets those that place it.
    ///
    /// # Errors
    /// Views that do not stand beside or below one another, at the same distances on all displays.
    pub fn gathered(&self, name: &str, paths: &[&str]) -> Result<Restructured, StructureError> {
        self.usable(name)?;
        let views = paths.iter().map(|path| self.view(path)).collect::<Result<Vec<_>, _>>()?;
        let placements = &self.placements;
        let line = self.line_of(&views, placements)?;
        let first = line.order[0];
        self.untaken(name, first)?;
        let parent = self.screen().at(first).parent();
        if parent.is_some_and(|of| self.screen().at(of).arrangement().is_some()) {
            return cannot("they stand in a row, column or grid already; take them out of it first");
        }
        let group = parent.map_or_else(|| name.to_owned(), |of| format!("{}.{name}", self.path(of)));
        let around = parent.map_or_else(|| "screen".to_owned(), |of| format!("screen.{}", self.path(of)));
        // What is written of each, as it is in the group.
        let mut gone = Vec::new();
        let mut sizes: Vec<(ViewId, [bool; 2])> = Vec::new();
        for &view in &line.order {
            self.item(view)?;
            let (mut sized, mut edges) = ([self.screen().at(view).has_content(); 2], [0; 2]);
            for (rule, statement) in self.own_rules(view)? {
                let of = self.screen().rule_at(rule);
                if self.is_about(rule, view, Coordinate::is_position) {
                    gone.push(statement.span());
                    for term in of.relations().iter().flat_map(|r| r.left.terms()) {
                        let across = usize::from(!term.coordinate.is_horizontal());
                        edges[across] += usize::from(term.coordinate.is_position());
                    }
                } else {
                    for term in of.relations().iter().flat_map(|r| r.terms()) {
                        sized[usize::from(!term.coordinate.is_horizontal())] |=
                            term.anchor == Anchor::View(view);
                    }
                }
            }
            sizes.push((view, [sized[0] && edges[0] < 2, sized[1] && edges[1] < 2]));
        }
        let is_gone =
            |change: &Change| gone.iter().any(|at| at.start <= change.at.0 && change.at.1 <= at.end);
        let renamed_paths =
            self.references().iter().filter_map(|r| self.in_group(r, &views, name, &around, parent));
        let mut changes: Vec<Change> = renamed_paths.filter(|change| !is_gone(change)).collect();
        changes.sort();
        changes.dedup();
        // The sizes that the rules gave which are gone.
        let drawn = self.drawn(placements, None)?;
        let mut text = self.with(&changes, &gone)?;
        for (at, (view, sized)) in sizes.iter().enumerate() {
            let mut lines = Vec::new();
            for (axis, is_sized) in std::iter::zip([Axis::Across, Axis::Down], sized) {
                let is_along = axis == line.axis;
                if is_along && line.shares[at] && !is_sized {
                    lines.push("share 1".to_owned());
                } else if !is_sized && (is_along || line.align != "stretch") {
                    let of = self.path(*view);
                    let within = |other: &str| views.iter().any(|v| self.path(*v) == other) && other != of;
                    let found = suggested(&drawn, &of, axis, (false, true), (self.measure, PLACED), &within);
                    let Some((found, _)) = found.into_iter().next() else {
                        return cannot(format!("no one rule gives the size of `{of}` on all displays"));
                    };
                    lines.extend(found);
                }
            }
            text = with_lines(&text, &self.path(*view), &lines)?;
        }
        let renamed = |path: &str| {
            let moved = views.iter().find(|view| self.is_at(path, **view));
            Some(match moved {
                Some(view) => {
                    let old = self.path(*view);
                    format!("{group}.{}{}", self.screen().at(*view).name(), &path[old.len()..])
                }
                None => path.to_owned(),
            })
        };
        let drawn = self.drawn(placements, Some((&group, &views)))?;
        let outside = |of: &str| of != group && !views.iter().any(|view| self.is_at(of, *view));
        let mut last = None;
        for open in [(true, false), (true, true)].into_iter().filter(|open| open.1 || !line.spreads) {
            let [across, down] = [Axis::Across, Axis::Down]
                .map(|axis| suggested(&drawn, &group, axis, open, (self.measure, PLACED), &outside));
            for (across, _) in across.iter().filter(|of| open.1 == (of.0.len() > 1)).take(MAX_WAYS) {
                for (down, _) in down.iter().filter(|of| open.1 == (of.0.len() > 1)).take(MAX_WAYS) {
                    let own = [across.clone(), down.clone()].concat();
                    let text = self.with_group(&text, name, &line, &own)?;
                    match self.done(&text, &renamed, &Keeps::All, BY_HAND) {
                        Ok(done) => return Ok(done),
                        Err(error) => last = Some(error),
                    }
                }
            }
        }
        Err(last.unwrap_or_else(|| StructureError::Cannot("no rule places the group on all displays".into())))
    }

    /// Takes a view out of a row, column or grid: it stays where it is on all displays, by rules of its own, and those that are
    /// left close up.
    ///
    /// # Errors
    /// A view that is in none, or that no rules keep where it is.
    pub fn released(&self, path: &str) -> Result<Restructured, StructureError> {
        let view = self.view(path)?;
        let parent = self.screen().at(view).parent();
        if parent.is_none_or(|of| self.screen().at(of).arrangement().is_none()) {
            return cannot(format!("`{path}` is in no row, column or grid"));
        }
        let text = with_lines(&self.with(&[], &self.without_cell(view)?)?, path, &["apart".to_owned()])?;
        let placements = &self.placements;
        let keeps: Vec<ViewId> =
            self.screen().views().map(|(of, _)| of).filter(|of| self.is_in(*of, view)).collect();
        let may_read = |of: &str| !self.is_at(of, view);
        let tried = |text: &str| self.done(text, &same_name, &Keeps::Only(&keeps), BY_HAND);
        let with_place = self.placed_by(view, (true, false), (placements, PLACED), &text, &may_read, &tried);
        with_place
            .or_else(|_| self.placed_by(view, (true, true), (placements, PLACED), &text, &may_read, &tried))
    }

    /// Dissolves a row, column or grid: the view stays, and its children stay where they are by rules of their own.
    ///
    /// # Errors
    /// A view that is none, and children that no rules keep where they are.
    pub fn dissolved(&self, path: &str) -> Result<Restructured, StructureError> {
        let view = self.view(path)?;
        if self.screen().at(view).arrangement().is_none() {
            return cannot(format!("`{path}` is no row, column or grid"));
        }
        let (_, block) = self.item(view)?;
        let is_of_it = |kind| matches!(kind, Kind::Arrange | Kind::Grid | Kind::Space);
        let mut gone: Vec<Range<usize>> =
            block.children().filter(|n| is_of_it(n.kind())).map(|n| node_span(&n)).collect();
        let is_apart = |of: &ViewId| self.screen().at(*of).item().is_some_and(|item| item.apart);
        let children: Vec<ViewId> =
            self.screen().at(view).children().iter().copied().filter(|of| !is_apart(of)).collect();
        for &child in &children {
            gone.extend(self.without_cell(child)?);
        }
        for of in self.screen().at(view).children().iter().filter(|of| is_apart(of)) {
            gone.extend(self.settings(*of, |kind| kind == Kind::Apart)?);
        }
        let mut text = self.with(&[], &gone)?;
        let placements = &self.placements;
        let arrangement = self.screen().at(view).arrangement();
        let centered = arrangement.filter(|of| of.columns.is_none() && of.align == Align::Center);
        let in_middle = centered.map(|of| usize::from(of.axis == Axis::Across));
        for (at, &child) in children.iter().enumerate() {
            let own = self.path(child);
            let earlier: Vec<String> = children[..at].iter().map(|of| self.path(*of)).collect();
            let may_read = |of: &str| of == path || earlier.iter().any(|known| known == of);
            let sized = self.sized(child)?;
            let mut lines = Vec::new();
            for at in [0, 1] {
                let open = (true, !sized[at]);
                let found = &self.lines_for(&own, open, (placements, PLACED), &may_read)?[at];
                let is_whole = |lines: &&Vec<String>| sized[at] || lines.len() > 1;
                // What was in the middle still is.
                let is_centered = |lines: &&Vec<String>| lines.iter().any(|line| line.starts_with("center_"));
                let mut whole = found.iter().filter(is_whole);
                let centered =
                    found.iter().filter(is_whole).find(is_centered).filter(|_| in_middle == Some(at));
                let Some(found) = centered.or_else(|| whole.next()) else {
                    return cannot(format!("no one rule keeps `{own}` where it is on all displays"));
                };
                lines.extend(found.iter().cloned());
            }
            text = with_lines(&text, &own, &lines)?;
        }
        // The view may have been as large as its children.
        let as_it_is = self.done(&text, &same_name, &Keeps::All, BY_HAND);
        let Err(error @ StructureError::Moves { .. }) = as_it_is else { return as_it_is };
        let is_own_child = |of: &str| of != path;
        let mut last = error;
        let all = self.lines_for(path, (false, true), (placements, PLACED), &is_own_child)?;
        let none = [Vec::new()];
        let ways = |at: usize| none.iter().chain(&all[at]).take(MAX_WAYS);
        for across in ways(0) {
            for down in ways(1) {
                let text = with_lines(&text, path, &[across.clone(), down.clone()].concat())?;
                match self.done(&text, &same_name, &Keeps::All, BY_HAND) {
                    Ok(done) => return Ok(done),
                    Err(error) => last = error,
                }
            }
        }
        Err(last)
    }

    /// Whether rules or its content say how large a view is, along both axes.
    fn sized(&self, view: ViewId) -> Result<[bool; 2], StructureError> {
        let mut sized = [self.screen().at(view).has_content(); 2];
        for (rule, _) in self.own_rules(view)? {
            for term in self.screen().rule_at(rule).relations().iter().flat_map(|r| r.terms()) {
                if term.anchor == Anchor::View(view) && !term.coordinate.is_position() {
                    sized[usize::from(!term.coordinate.is_horizontal())] = true;
                }
            }
        }
        Ok(sized)
    }

    /// Without what a child of an arrangement says of its place there.
    fn without_cell(&self, view: ViewId) -> Result<Vec<Range<usize>>, StructureError> {
        self.settings(view, |kind| matches!(kind, Kind::Share | Kind::Sit | Kind::Cells | Kind::Spare))
    }

    fn settings(&self, view: ViewId, is_it: fn(Kind) -> bool) -> Result<Vec<Range<usize>>, StructureError> {
        let (_, block) = self.item(view)?;
        let found = block.children().filter(|n| is_it(n.kind()));
        Ok(found.map(|n| node_span(&n)).collect())
    }

    /// The placements as drawings, with a box around some views as one view more.
    fn drawn(
        &self,
        placements: &[Placement],
        group: Option<(&str, &[ViewId])>,
    ) -> Result<Vec<Drawing>, StructureError> {
        let wrong = |error: crate::drawing::DrawingError| StructureError::Cannot(error.to_string());
        let one = |placement: &Placement| {
            let drawing = Drawing::of(placement, self.screen()).map_err(wrong)?;
            let Some((path, views)) = group else { return Ok(drawing) };
            let frames = views.iter().filter_map(|view| placement.frame(*view));
            let around = frames.reduce(|a, b| {
                let (left, top) = (a.left.min(b.left), a.top.min(b.top));
                let (right, bottom) = (a.right().max(b.right()), a.bottom().max(b.bottom()));
                Frame { left, top, width: right - left, height: bottom - top }
            });
            let mut all = drawing.views().to_vec();
            let kind = DrawnKind::Plain;
            all.extend(around.map(|frame| DrawnView { path: drawn_path(path), frame, kind }));
            Drawing::new(placement.display.clone(), all).map_err(wrong)
        };
        placements.iter().map(one).collect()
    }

    /// How siblings stand in a row or column on all displays.
    fn line_of(&self, views: &[ViewId], placements: &[Placement]) -> Result<Line, StructureError> {
        let parent = |view: &ViewId| self.screen().at(*view).parent();
        let is_twice = (1..views.len()).any(|at| views[..at].contains(&views[at]));
        if views.len() < 2 || is_twice || views.iter().any(|view| parent(view) != parent(&views[0])) {
            return cannot("name two or more siblings, each once");
        }
        let mut why = String::new();
        for axis in [Axis::Across, Axis::Down] {
            match self.along(views, placements, axis) {
                Ok(line) => return Ok(line),
                Err(reason) if why.is_empty() || reason.contains("distance") => why = reason,
                Err(_) => {}
            }
        }
        cannot(why)
    }

    fn along(&self, views: &[ViewId], placements: &[Placement], axis: Axis) -> Result<Line, String> {
        let path = |view: ViewId| self.path(view);
        let other = if axis == Axis::Across { Axis::Down } else { Axis::Across };
        let mut order: Vec<ViewId> = Vec::new();
        let mut gaps: Vec<f64> = Vec::new();
        let (mut differs, mut is_even_here): (Option<String>, bool) = (None, true);
        let mut aligned = [true; 4];
        let mut sizes: Vec<Vec<f64>> = Vec::new();
        for placement in placements {
            let on = placement.display.name();
            let mut here: Vec<(ViewId, Extent, Extent)> = Vec::new();
            for &view in views {
                let frame =
                    placement.frame(view).ok_or_else(|| format!("`{}` is not shown on {on}", path(view)))?;
                here.push((view, extent(placement, &frame, axis), extent(placement, &frame, other)));
            }
            here.sort_by(|a, b| a.1.0.total_cmp(&b.1.0));
            let now: Vec<ViewId> = here.iter().map(|of| of.0).collect();
            let between: Vec<f64> = here.windows(2).map(|two| two[1].1.0 - two[0].1.0 - two[0].1.1).collect();
            if between.iter().any(|gap| *gap < -KEPT) {
                return Err("they do not stand beside or below one another".into());
            }
            if order.is_empty() {
                (order, gaps) = (now, between);
            } else if order != now {
                return Err(format!("they stand in another order on {on}"));
            } else if let Some(at) = (0..gaps.len()).find(|&at| (gaps[at] - between[at]).abs() > KEPT) {
                differs = differs.or_else(|| {
                    Some(format!(
                        "the distance between `{}` and `{}` is {} and, on {on}, {}",
                        path(order[at]),
                        path(order[at + 1]),
                        number(gaps[at]),
                        number(between[at])
                    ))
                });
            }
            is_even_here &= here
                .windows(2)
                .map(|two| two[1].1.0 - two[0].1.0 - two[0].1.1)
                .all(|gap| (gap - (here[1].1.0 - here[0].1.0 - here[0].1.1)).abs() <= KEPT);
            let low = here.iter().map(|of| of.2.0).fold(f64::INFINITY, f64::min);
            let high = here.iter().map(|of| of.2.0 + of.2.1).fold(f64::NEG_INFINITY, f64::max);
            for (_, _, (near, size)) in &here {
                let (from, to) = (near - low, high - near - size);
                let fits = [from, (from - to) / 2.0, to, from.max(to)].map(|by| by.abs() <= KEPT);
                std::iter::zip(&mut aligned, fits).for_each(|(all, fits)| *all &= fits);
            }
            sizes.push(here.iter().map(|of| of.1.1).collect());
        }
        let words = ["start", "center", "end", "stretch"];
        // Stretched, where one may say so: the sizes across are those of the group.
        let align = [3, 0, 1, 2].into_iter().find(|&at| aligned[at]);
        let Some(align) = align.map(|at| words[at]) else {
            return Err("they do not line up on the other axis".into());
        };
        let has_content = |at: usize| self.screen().at(order[at]).has_content();
        let varies =
            |at: usize| !has_content(at) && sizes.iter().any(|of| (of[at] - sizes[0][at]).abs() > KEPT);
        let varying: Vec<usize> = (0..order.len()).filter(|&at| varies(at)).collect();
        let is_even = varying.len() > 1
            && sizes.iter().all(|of| varying.iter().all(|&at| (of[at] - of[varying[0]]).abs() <= KEPT));
        // Distances that differ between displays are what is left of the space, if they are equal on each and no view takes it.
        let spreads = differs.is_some();
        if let Some(why) = differs.filter(|_| !is_even_here || !varying.is_empty()) {
            return Err(why);
        }
        let shares = (0..order.len()).map(|at| is_even && varies(at) || varying == [at]).collect();
        Ok(Line { axis, order, gaps, spreads, align, shares })
    }

    /// What becomes of a path that names a view which goes into a group, or that is read from in it.
    fn in_group(
        &self,
        reference: &Reference,
        views: &[ViewId],
        name: &str,
        around: &str,
        parent: Option<ViewId>,
    ) -> Option<Change> {
        let place = self.place_span(reference);
        let words: Vec<&str> = self.text()[place.clone()].split('.').collect();
        let from = reference.owner.filter(|owner| views.iter().any(|view| self.is_in(*owner, *view)));
        // `parent`, read from a view that gets another.
        if from.is_some_and(|from| views.contains(&from)) && words.first() == Some(&"parent") {
            let is_parent = match reference.place {
                Anchor::View(of) => Some(of) == parent,
                Anchor::Screen => parent.is_none(),
                _ => false,
            };
            return is_parent.then(|| Change::new(place, around));
        }
        let Anchor::View(named) = reference.place else { return None };
        let depth =
            |view: ViewId| std::iter::successors(Some(view), |&of| self.screen().at(of).parent()).count();
        let moved = views.iter().find(|view| self.is_in(named, **view))?;
        let at = reference.words.checked_sub(1 + depth(named) - depth(*moved))?;
        // From one of them to another nothing changes.
        if words.get(at) != Some(&self.screen().at(*moved).name()) || at == 0 && from.is_some() {
            return None;
        }
        let before: usize = words[..at].iter().map(|word| word.len() + 1).sum();
        let at = place.start + before;
        Some(Change::new(at..at, format!("{name}.")))
    }

    /// The text with the views of a line in a view of their own.
    fn with_group(
        &self,
        text: &str,
        name: &str,
        line: &Line,
        own: &[String],
    ) -> Result<String, StructureError> {
        let spans = line.order.iter().map(|view| {
            let path = self.path(*view);
            let item = item_in(text, &path).map(|(item, _)| with_comments(text, node_span(&item)));
            item.ok_or(StructureError::Made(path))
        });
        let spans = spans.collect::<Result<Vec<Range<usize>>, _>>()?;
        let first = spans.iter().map(|span| span.start).min().unwrap_or(0);
        let from = text[..first].rfind('\n').map_or(0, |at| at + 1);
        let is_alone = text[from..first].trim().is_empty();
        let indent: String = if is_alone { text[from..first].to_owned() } else { "    ".into() };
        let mut out = format!("view {name} {{\n");
        for rule in std::iter::once(line.words()).chain(in_order(own)) {
            out += &format!("{indent}    {rule}\n");
        }
        for (at, span) in spans.iter().enumerate() {
            let gap = at.checked_sub(1).map(|before| line.gaps[before]);
            if let Some(gap) = gap.filter(|gap| !line.spreads && (gap - line.gap()).abs() > KEPT) {
                out += &format!("{indent}    space {}\n", number((gap * 100.0).round() / 100.0));
            }
            let lines =
                text[span.clone()].lines().enumerate().map(|(at, line)| match (at, line.is_empty()) {
                    (0, _) => format!("{indent}    {line}\n"),
                    (_, true) => "\n".to_owned(),
                    (_, false) => format!("    {line}\n"),
                });
            out.extend(lines);
        }
        out += &format!("{indent}}}");
        let put_in = match is_alone {
            true => Change::new(from..from, format!("{indent}{out}\n")),
            false => Change::new(first..first, format!("{out}; ")),
        };
        let mut changes = vec![put_in];
        changes.extend(spans.into_iter().map(|span| removed(text, span)));
        // What is put in stands before what goes.
        let text = changed(text, &changes);
        text.ok_or_else(|| StructureError::Broken("two changes of one place".into()))
    }
}

/// A place with the lines above it that only hold comments.
fn with_comments(text: &str, span: Range<usize>) -> Range<usize> {
    let mut start = span.start;
    while let Some(end) = text[..start].rfind('\n') {
        let line = text[..end].rfind('\n').map_or(0, |at| at + 1);
        let above = &text[line..end];
        if !above.trim_start().starts_with("//") || !text[end + 1..start].trim().is_empty() {
            break;
        }
        start = line + above.len() - above.trim_start().len();
    }
    start..span.end
}
