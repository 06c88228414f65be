//! Rules of one view for others, and views lined up in their drawings.

use crate::displays::displays::Displays;
use crate::fix::redrawn::entry_drawn;
use crate::fix::rule_source::{Statement, side_written};
use crate::resolve::source_map::Reference;
use crate::screen_ext::ScreenExt as _;
use crate::structure::context::{
    Keeps, Restructured, Structure, StructureError, cannot, same_name, with_lines,
};
use std::collections::HashSet;
use vantic_core::geometry::{Direction, Frame};
use vantic_core::model::{Anchor, Coordinate, ViewId};

/// The coordinates that views can be lined up on.
pub const ALIGNABLE: [Coordinate; 8] = [
    Coordinate::Left,
    Coordinate::Right,
    Coordinate::Start,
    Coordinate::End,
    Coordinate::CenterX,
    Coordinate::Top,
    Coordinate::Bottom,
    Coordinate::CenterY,
];

impl Structure<'_> {
    /// Gives views the rules of another about its place and size, in place of their own. What these read is renamed: the view before
    /// it becomes the view before each, what is in it what has the same name in each, what is in its parent what has the same name in
    /// theirs. Rules in bands are not copied.
    ///
    /// # Errors
    /// A view without rules, and rules that cannot be read with other names.
    pub fn rules_copied(&self, from: &str, to: &[&str]) -> Result<Restructured, StructureError> {
        let model = self.view(from)?;
        let rules = self.own_rules(model)?;
        let rules: Vec<&Statement<'_>> =
            rules.iter().filter(|(id, _)| self.is_about(*id, model, |_| true)).map(|(_, s)| s).collect();
        if rules.is_empty() {
            return cannot(format!("`{from}` has no rules of its own to copy"));
        }
        let mut gone = Vec::new();
        let mut lines: Vec<(String, Vec<String>)> = Vec::new();
        let mut moves: HashSet<ViewId> = HashSet::new();
        for path in to {
            let view = self.view(path)?;
            if view == model || lines.iter().any(|(known, _)| known == path) {
                return cannot("name the view once, and other views for its rules");
            }
            for (id, own) in self.own_rules(view)? {
                if self.is_about(id, view, |_| true) {
                    gone.push(own.span());
                }
            }
            let copied = rules.iter().map(|rule| self.renamed_for(rule, model, view));
            lines.push(((*path).to_owned(), copied.collect::<Result<Vec<String>, _>>()?));
            moves.extend(self.depending(view));
        }
        let mut text = self.with(&[], &gone)?;
        for (path, lines) in &lines {
            text = with_lines(&text, path, lines)?;
        }
        self.done(&text, &same_name, &Keeps::Only(&self.all_but(&moves)), "copy them by hand")
    }

    /// A rule of a view as one of another.
    fn renamed_for(&self, rule: &Statement<'_>, from: ViewId, to: ViewId) -> Result<String, StructureError> {
        let span = rule.span();
        let mut text = rule.source().to_owned();
        let mut inside: Vec<&Reference> =
            self.references().iter().filter(|r| span.start <= r.at.start && r.at.end <= span.end).collect();
        inside.sort_by_key(|r| std::cmp::Reverse(r.at.start));
        inside.dedup_by_key(|r| r.at.start);
        for reference in inside {
            let place = self.place_span(reference);
            let said = &self.text()[place.clone()];
            let is_relative = ["parent", "prev", "next"].iter().any(|word| {
                said == *word || said.strip_prefix(word).is_some_and(|rest| rest.starts_with('.'))
            });
            let Anchor::View(named) = reference.place else { continue };
            if is_relative || said.is_empty() {
                continue;
            }
            let Some(other) = self.counterpart(named, from, to) else {
                return cannot(format!(
                    "`{}` reads `{said}`, and there is no such view for `{}`",
                    rule.unlabelled(),
                    self.path(to)
                ));
            };
            if other != named {
                let at = place.start - span.start..place.end - span.start;
                text.replace_range(at, &self.called_from(other, to));
            }
        }
        Ok(text)
    }

    /// What a view is to one view as another is to another.
    fn counterpart(&self, named: ViewId, from: ViewId, to: ViewId) -> Option<ViewId> {
        let screen = self.screen();
        let below = |around: ViewId, path: &str| match path {
            "" => Some(around),
            path => screen.find(&format!("{}.{path}", self.path(around))),
        };
        let inside = |around: ViewId| {
            let path = self.path(named);
            path.strip_prefix(&format!("{}.", self.path(around))).map(str::to_owned)
        };
        if named == from {
            return Some(to);
        }
        if let Some(rest) = inside(from) {
            return below(to, &rest);
        }
        let (around_from, around_to) = (screen.at(from).parent(), screen.at(to).parent());
        if around_from == around_to {
            let before = |of| screen.around(of).0.last().copied();
            let behind = |of| screen.around(of).1.first().copied();
            let is_chained = |of: ViewId| {
                let rules = self.rules_alone(from);
                rules.iter().any(|(id, statement)| self.link(from, of, *id, statement).is_some())
            };
            let other = match () {
                () if before(from) == Some(named) && is_chained(named) => before(to)?,
                () if behind(from) == Some(named) && is_chained(named) => behind(to)?,
                () => named,
            };
            return (other != to).then_some(other);
        }
        // In another parent: what has the same name there.
        match around_from.and_then(&inside) {
            Some(rest) => below(around_to?, &rest).filter(|other| *other != to),
            None => Some(named),
        }
    }

    /// Lines views up with the first of them, in the drawings that the file has: no rule is made, and nothing is placed elsewhere. With
    /// `kept` they get a rule that keeps it so, in place of those that placed them along that axis.
    ///
    /// # Errors
    /// Views that are not drawn, and rules that place a view along both axes at once.
    pub fn aligned(
        &self,
        paths: &[&str],
        on: Coordinate,
        kept: bool,
    ) -> Result<Restructured, StructureError> {
        if !ALIGNABLE.contains(&on) {
            return cannot(format!("views are lined up on an edge or a middle, not on `{}`", on.spelling()));
        }
        let views = paths.iter().map(|path| self.view(path)).collect::<Result<Vec<_>, _>>()?;
        let [first, others @ ..] = views.as_slice() else { return cannot("name two or more views") };
        if others.is_empty() || others.contains(first) {
            return cannot("name two or more views, each once");
        }
        let mut changes = Vec::new();
        for (index, drawing) in self.screen().drawings().iter().enumerate() {
            let direction = self.direction_of(&drawing.on);
            let frame =
                |view: ViewId| drawing.frames.iter().find(|(of, _)| *of == view).map(|(_, frame)| *frame);
            let Some(model) = frame(*first) else { continue };
            for &other in others {
                let lined = frame(other).map(|own| lined_up(own, &model, on, direction));
                let change = lined
                    .and_then(|lined| entry_drawn(self.text(), &self.source.map, (index, other), &lined));
                changes.extend(change);
            }
        }
        let drawn = !changes.is_empty();
        if !drawn && !kept {
            return cannot("they are not drawn in the file; keep it so by a rule, or draw them");
        }
        if !kept {
            return self.done(&self.with(&changes, &[])?, &same_name, &Keeps::All, "draw them by hand");
        }
        let across = on.is_horizontal();
        let mut moves = HashSet::new();
        let mut gone = Vec::new();
        for &other in others {
            self.free(other)?;
            moves.extend(self.depending(other));
            for (id, statement) in self.own_rules(other)? {
                let terms: Vec<Coordinate> = self
                    .screen()
                    .rule_at(id)
                    .relations()
                    .iter()
                    .flat_map(|r| r.left.terms())
                    .filter(|t| t.anchor == Anchor::View(other) && t.coordinate.is_position())
                    .map(|t| t.coordinate)
                    .collect();
                if !terms.iter().any(|c| c.is_horizontal() == across) {
                    continue;
                }
                let is_both = terms.iter().any(|c| c.is_horizontal() != across);
                match statement.pin() {
                    _ if !is_both => gone.push(statement.span()),
                    Some(pin) => {
                        let is_across = |word: &str| matches!(word, "left" | "right" | "start" | "end");
                        let stays =
                            pin.sides.iter().filter(|side| is_across(&side.0) != across).map(side_written);
                        let stays = stays.collect::<Vec<_>>().join(", ");
                        changes.push(statement.replaced(&format!("pin {stays} to {}", pin.to)));
                    }
                    None => {
                        return cannot(format!(
                            "`{}` places `{}` along both axes; write it as two rules first",
                            statement.unlabelled(),
                            self.path(other)
                        ));
                    }
                }
            }
        }
        let mut text = self.with(&changes, &gone)?;
        for &other in others {
            let edge = on.spelling();
            let line = format!("{edge} = {}.{edge}", self.called_from(*first, other));
            text = with_lines(&text, &self.path(other), &[line])?;
        }
        let lost = "its size followed from the rules that go; give it one first";
        self.done(&text, &same_name, &Keeps::Only(&self.all_but(&moves)), lost)
    }

    fn direction_of(&self, on: &str) -> Direction {
        let found = Displays::default().find(on, self.screen());
        found.map_or(Direction::LeftToRight, |display| display.direction())
    }
}

/// A frame moved so that a coordinate of it is that of another.
fn lined_up(own: Frame, model: &Frame, on: Coordinate, direction: Direction) -> Frame {
    let is_mirrored = direction == Direction::RightToLeft;
    let left = match on {
        Coordinate::Left => model.left,
        Coordinate::Right => model.right() - own.width,
        Coordinate::Start if !is_mirrored => model.left,
        Coordinate::Start => model.right() - own.width,
        Coordinate::End if !is_mirrored => model.right() - own.width,
        Coordinate::End => model.left,
        Coordinate::CenterX => model.left + (model.width - own.width) / 2.0,
        _ => own.left,
    };
    let top = match on {
        Coordinate::Top => model.top,
        Coordinate::Bottom => model.bottom() - own.height,
        Coordinate::CenterY => model.top + (model.height - own.height) / 2.0,
        _ => own.top,
    };
    Frame { left, top, ..own }
}
