//! Rules that give the drawn places: their constants change, and nothing else of them.

use crate::drawing::ScreenDrawing;
use crate::drift::drifted::{Differences, Drift, Root, SAME, drift};
use crate::files::Assembled;
use crate::finding::Edit;
use crate::fix::change::{Change, changed};
use crate::fix::rule_source::{Statement, side_written};
use crate::resolve::{Source, SourceMap, read};
use crate::syntax::parser::parser::parse_screens;
use std::collections::BTreeSet;
use std::ops::Range;
use vantic_core::geometry::Frame;
use vantic_core::model::{Comparison, RuleRef, Screen, ViewId};
use vantic_core::plan::{PlaceError, Plan};
use vantic_core::text::Measure;
use vantic_core::words::number;

/// How rules are changed so that they give a drawing.
#[derive(Clone, Debug, Default)]
pub struct Redrawn {
    /// The edits of the files.
    pub edits: Vec<Edit>,
    /// The rules that no constant makes agree.
    pub refused: Vec<Refused>,
    /// How many views are still not where they were drawn.
    pub left: usize,
}

/// A rule that stays as it is.
#[derive(Clone, Debug, PartialEq)]
pub struct Refused {
    /// The view.
    pub view: ViewId,
    /// The rule.
    pub rule: RuleRef,
    /// Why, as a clause.
    pub reason: String,
}

/// Changes the constants of the rules of some views, or of all, that do not hold in a drawing, so that they do. Targets and
/// relations stay as they are. Each change is tried: the rule holds in the drawing with it.
///
/// # Errors
/// A display on which the screen cannot be placed.
pub fn follow_drawing(
    (files, map, plan): (&Assembled, &SourceMap, &Plan),
    drawing: &ScreenDrawing,
    measure: &dyn Measure,
    only: Option<&[ViewId]>,
) -> Result<Redrawn, PlaceError> {
    let found = drift(plan, drawing, measure)?;
    let mut redrawn = Redrawn { left: found.views.len(), ..Redrawn::default() };
    let wanted = found.views.iter().filter(|view| only.is_none_or(|only| only.contains(&view.view)));
    let mut now = files.clone();
    let mut changed_rules = BTreeSet::new();
    for (view, root) in wanted.flat_map(|view| view.roots.iter().map(move |root| (view.view, root))) {
        let holds = |text: &str, rule: usize, relation: usize| {
            let plan = Plan::new(read(text).ok()?.screen).ok()?;
            let frames = in_same_order(&drawing.frames, plan.screen());
            let drift = drift(&plan, &ScreenDrawing { frames, ..drawing.clone() }, measure).ok()?;
            let (_, rule) = plan.screen().rules().nth(rule)?;
            let by = Differences::of(plan.screen(), &drift.drawn).by(rule.relations().get(relation)?)?;
            (by.abs() <= SAME / 10.0).then_some(drift.views.len())
        };
        match constant_changed(&now, plan.screen(), root, &holds) {
            Ok((rule, text, left)) => {
                changed_rules.insert(rule);
                now = Assembled::alone(files.names().next().unwrap_or_default(), text);
                redrawn.left = left;
            }
            Err(reason) => redrawn.refused.push(Refused { view, rule: root.rule, reason: reason.into() }),
        }
    }
    // Rules keep their order, so that each is known again.
    let Ok(Source { screen, map: after, .. }) = now.read() else { return Ok(redrawn) };
    let rules = std::iter::zip(plan.screen().rules(), screen.rules());
    for (at, ((old, _), (new, _))) in rules.enumerate().filter(|(at, _)| changed_rules.contains(at)) {
        debug_assert_eq!(at, old.index(), "in written order");
        if let (Some(old), Some(new)) = (map.rule(old), after.rule(new)) {
            let edit = Change::new(old, &now.text()[new]).edit(files);
            redrawn.edits.extend((!redrawn.edits.contains(&edit)).then_some(edit));
        }
    }
    Ok(redrawn)
}

/// The edits by which a drawing in a screen file, counted from 0, has some views, or all, where the rules place them.
pub fn redrawn(
    (files, map): (&Assembled, &SourceMap),
    drawing: usize,
    drift: &Drift,
    only: Option<&[ViewId]>,
) -> Vec<Edit> {
    let wanted = drift.views.iter().filter(|of| only.is_none_or(|only| only.contains(&of.view)));
    let changes = wanted.filter_map(|of| entry_drawn(files.text(), map, (drawing, of.view), &of.placed));
    changes.map(|change| change.edit(files)).collect()
}

/// The line of a drawing, counted from 0, with a view of it in a frame.
pub(crate) fn entry_drawn(
    text: &str,
    map: &SourceMap,
    (drawing, view): (usize, ViewId),
    frame: &Frame,
) -> Option<Change> {
    let at = map.drawn(drawing, view)?;
    let name = text[at.clone()].split('=').next()?.trim_end();
    let written = |n: f64| number((n * 100.0).round() / 100.0);
    let [left, top, width, height] = [frame.left, frame.top, frame.width, frame.height].map(written);
    Some(Change::new(at, format!("{name} = ({left}, {top}, {width}, {height})")))
}

/// Frames of views of one screen as those of another with the same views.
fn in_same_order(frames: &[(ViewId, Frame)], screen: &Screen) -> Vec<(ViewId, Frame)> {
    let views: Vec<ViewId> = screen.views().map(|(view, _)| view).collect();
    frames.iter().filter_map(|(view, frame)| Some((*views.get(view.index())?, *frame))).collect()
}

/// The files with another constant in a rule, by which it holds in the drawing: the rule by its place among all, the text, and how
/// many views are not where they were drawn then.
fn constant_changed(
    files: &Assembled,
    screen: &Screen,
    root: &Root,
    holds: &dyn Fn(&str, usize, usize) -> Option<usize>,
) -> Result<(usize, String, usize), &'static str> {
    let RuleRef::Written { rule, relation } = root.rule else { return Err("it is not written") };
    let Some(of) = screen.rule(rule) else { return Err("it is not written") };
    if of.relations()[relation].comparison != Comparison::Equal {
        return Err("it is a limit, which the drawing goes beyond");
    }
    if files.names().count() > 1 {
        return Err("the file has a base; change the rule by hand");
    }
    let text = files.text();
    let source = files.read().map_err(|_| "the file cannot be read")?;
    let span = source.screen.rules().nth(rule.index()).and_then(|(now, _)| source.map.rule(now));
    let tree = parse_screens(text, 1).0;
    let statement = span.and_then(|span| Statement::at(&tree, text, &span));
    let statement = statement.ok_or("it is not written as a rule of its own")?;
    if statement.views_of().is_some() {
        return Err("it is written for several views at once");
    }
    let tries = ways(&statement, relation, of.relations().len(), root.by);
    let tried = tries.into_iter().find_map(|change| {
        let text = changed(text, std::slice::from_ref(&change))?;
        let left = holds(&text, rule.index(), relation)?;
        Some((rule.index(), text, left))
    });
    tried.ok_or("no number in it alone decides the distance; it may be a named number, or a share")
}

/// The ways to write a rule with another constant.
pub(crate) fn ways(statement: &Statement<'_>, relation: usize, relations: usize, by: f64) -> Vec<Change> {
    let written = |value: f64| number((value * 100.0).round() / 100.0);
    if let Some(pin) = statement.pin() {
        let Some((_, own)) = pin.sides.get(relation) else { return Vec::new() };
        let Ok(now) = (if own.is_empty() { Ok(0.0) } else { own.parse::<f64>() }) else { return Vec::new() };
        let tried = [now + by, now - by].map(|distance| {
            let mut sides = pin.sides.clone();
            sides[relation].1 = if written(distance) == "0" { String::new() } else { written(distance) };
            let sides: Vec<String> = sides.iter().map(side_written).collect();
            statement.replaced(&format!("pin {} to {}", sides.join(", "), pin.to))
        });
        return tried.to_vec();
    }
    let source = statement.source();
    let mut ways = Vec::new();
    // Each number that stands in it, and where there is none, one behind it.
    for place in numbers(source) {
        let Ok(now) = source[place.clone()].parse::<f64>() else { continue };
        for value in [now + by, now - by] {
            let mut text = source.to_owned();
            text.replace_range(place.clone(), &written(value));
            let text = text.replace("+ -", "- ").replace("- -", "+ ");
            ways.push(Change::new(statement.span(), text));
        }
    }
    if relations == 1 {
        let behind = |text: String| Change::new(statement.span(), format!("{source}{text}"));
        for by in [by, -by] {
            let sign = if by < 0.0 { "-" } else { "+" };
            ways.push(behind(format!(" {sign} {}", written(by.abs()))));
            ways.push(behind(format!(" by {}", written(by))));
        }
    }
    ways
}

/// Where plain numbers stand: none that are shares, levels of fonts or parts of names.
fn numbers(text: &str) -> Vec<Range<usize>> {
    let bytes = text.as_bytes();
    let mut found = Vec::new();
    let mut at = 0;
    while at < bytes.len() {
        let is_begun =
            at > 0 && (bytes[at - 1].is_ascii_alphanumeric() || matches!(bytes[at - 1], b'_' | b'.'));
        if !bytes[at].is_ascii_digit() || is_begun {
            at += 1;
            continue;
        }
        let end = (at..bytes.len()).find(|&end| !(bytes[end].is_ascii_digit() || bytes[end] == b'.'));
        let end = end.unwrap_or(bytes.len());
        if bytes.get(end) != Some(&b'%') && !bytes.get(end).is_some_and(u8::is_ascii_alphabetic) {
            found.push(at..end);
        }
        at = end.max(at + 1);
    }
    found
}
