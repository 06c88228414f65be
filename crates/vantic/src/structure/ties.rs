//! Views tied otherwise: to other edges, points or fractions, around another view, to another target, or as they were drawn.

use crate::drawing::{Drawing, ScreenDrawing};
use crate::drift::drifted::{Differences, SAME, compared};
use crate::fix::change::{Change, changed};
use crate::fix::redrawn::ways;
use crate::fix::rule_source::Statement;
use crate::infer::anchoring::{Tie, tied_in, written};
use crate::infer::grouping::farthest_side;
use crate::infer::rules::{DRAWN, PLACED, suggested};
use crate::screen_ext::ScreenExt as _;
use crate::structure::context::{
    KEPT, Keeps, Restructured, Structure, StructureError, cannot, readable, same_name, with_lines,
};
use crate::syntax::parser::parser::parse_screens;
use vantic_core::geometry::{Axis, Frame};
use vantic_core::model::{Anchor, Coordinate, Relation, RuleId, ViewId};
use vantic_core::plan::{Placement, Plan};

/// How many ways to place a view along an axis are tried.
const MAX_WAYS: usize = 6;

/// What to do where a frame cannot be kept everywhere.
const ON_ONE: &str = "name one display (-d) to keep its frame there only";

impl Structure<'_> {
    /// Ties a view otherwise: to the edges, the corner, fractions or a point of what is around it, or of another box: `safe`,
    /// `screen`, or a view by its path. Rules about its place go; those about its size stay where the new tie does not give it.
    /// Frames are kept on all displays.
    ///
    /// # Errors
    /// A frame that the tie does not keep on some display.
    pub fn tied(&self, path: &str, tie: Tie, to: Option<&str>) -> Result<Restructured, StructureError> {
        let view = self.view(path)?;
        self.free(view)?;
        let Some(placement) = self.placements.first() else { return cannot("there is no display") };
        let Some(own) = placement.frame(view) else {
            return cannot(format!("`{path}` is not shown on {}", placement.display.name()));
        };
        let (name, frame) = self.box_of(view, placement, to)?;
        let [mut lines, size] = tied_in(placement, &own, (&name, &frame), tie);
        let keeps_size = !size.is_empty();
        let mut gone = Vec::new();
        let mut open = [0, 0];
        let mut is_sized = [self.screen().at(view).has_content(); 2];
        for (rule, statement) in self.own_rules(view)? {
            let is_place = self.is_about(rule, view, Coordinate::is_position);
            let is_size = self.is_about(rule, view, |c| !c.is_position());
            if is_place || is_size && !keeps_size {
                gone.push(statement.span());
                for relation in self.screen().rule_at(rule).relations() {
                    let places = relation.left.terms().iter().any(|t| t.coordinate.is_position());
                    let across = relation.left.terms().iter().any(|t| t.coordinate.is_horizontal());
                    open[usize::from(!across)] += usize::from(places);
                }
            } else if is_size {
                let horizontal = |c: Coordinate| c.is_horizontal();
                is_sized[0] |= self.is_about(rule, view, horizontal) || self.is_ratio(rule);
                is_sized[1] |= self.is_about(rule, view, |c| !c.is_horizontal()) || self.is_ratio(rule);
            }
        }
        // A size that followed from two edges is said now.
        let needs = |axis: usize| keeps_size && (open[axis] > 1 || !is_sized[axis]);
        match (needs(0), needs(1)) {
            (true, true) => lines.extend(size),
            (true, false) => lines.push(format!("width = {}", written(own.width))),
            (false, true) => lines.push(format!("height = {}", written(own.height))),
            (false, false) => {}
        }
        let text = with_lines(&self.with(&[], &gone)?, path, &lines)?;
        self.done(&text, &same_name, &Keeps::All, ON_ONE)
    }

    fn is_ratio(&self, rule: RuleId) -> bool {
        let relations = self.screen().rule_at(rule).relations().iter();
        let both = |across: bool| {
            move |r: &Relation| {
                r.terms()
                    .iter()
                    .any(|t| t.coordinate.is_horizontal() == across && !t.coordinate.is_position())
            }
        };
        relations.clone().any(both(true)) && relations.clone().any(both(false))
    }

    /// A box that a view is tied to: how its rules call it, and where it is.
    fn box_of(
        &self,
        view: ViewId,
        placement: &Placement,
        to: Option<&str>,
    ) -> Result<(String, Frame), StructureError> {
        let parent = self.screen().at(view).parent();
        let insets = placement.safe_frame();
        Ok(match (to, parent) {
            (Some("safe"), _) => ("safe".into(), insets),
            (Some("screen"), _) | (None | Some("parent"), None) => {
                ("screen".into(), placement.screen_frame())
            }
            (None | Some("parent"), Some(parent)) => {
                let frame = placement.frame(parent);
                let hidden = || StructureError::Cannot("what is around it is hidden".into());
                ("parent".into(), frame.ok_or_else(hidden)?)
            }
            (Some(path), _) => {
                let to = self.view(path)?;
                if self.is_in(to, view) {
                    return cannot(format!("`{path}` is in it or is itself"));
                }
                let hidden = || StructureError::Cannot(format!("`{path}` is hidden there"));
                (self.called_from(to, view), placement.frame(to).ok_or_else(hidden)?)
            }
        })
    }

    /// How the rules of a view call another one.
    pub(super) fn called_from(&self, to: ViewId, from: ViewId) -> String {
        let screen = self.screen();
        if screen.at(from).parent() == Some(to) {
            return "parent".into();
        }
        match screen.at(from).parent() == screen.at(to).parent() {
            true => screen.at(to).name().to_owned(),
            false => format!("screen.{}", screen.path(to)),
        }
    }

    /// Ties a rule to another view, with the constant that keeps all frames; nothing is added. The rule is named as `show rules`
    /// names it.
    ///
    /// # Errors
    /// A rule that is not there or names several places, and where no constant keeps the frames.
    pub fn retargeted(&self, rule: &str, to: &str) -> Result<Restructured, StructureError> {
        let screen = self.screen();
        let called = screen.rules_called(rule);
        let [id] = called.as_slice() else {
            return cannot(format!("there is no rule `{rule}`; `vantic show rules FILE VIEW` names them"));
        };
        let of = screen.rule_at(*id);
        let (Some(owner), Some(span)) = (of.owner(), self.source.map.rule(*id)) else {
            return cannot(format!("`{rule}` is no rule of a view"));
        };
        let Some(statement) =
            Statement::at(&self.tree, self.text(), &span).filter(|s| s.views_of().is_none())
        else {
            return cannot(format!("`{rule}` is written for several views at once"));
        };
        let named: Vec<_> = self
            .references()
            .iter()
            .filter(|r| span.start <= r.at.start && r.at.end <= span.end && r.place != Anchor::View(owner))
            .collect();
        let [target] = named.as_slice() else {
            return cannot(format!("`{}` does not name one place", statement.source()));
        };
        let name = match to {
            "parent" | "safe" | "screen" | "clear" => to.to_owned(),
            path => {
                let to = self.view(path)?;
                if self.is_in(to, owner) {
                    return cannot(format!("`{path}` is in `{}` or is itself", self.path(owner)));
                }
                self.called_from(to, owner)
            }
        };
        let change = Change::new(self.place_span(target), name);
        let text = self.with(std::slice::from_ref(&change), &[])?;
        let source = readable(&text)?;
        let plan = Plan::new(source.screen).map_err(|error| StructureError::Broken(error.to_string()))?;
        let Some((_, then)) = plan.screen().rules().nth(id.index()) else {
            return cannot("it is not there any more");
        };
        // By how much each side is off, with the frames as they are.
        let Some(was) = self.placements.first() else { return cannot("there is no display") };
        let placed = plan.place(&was.display, self.measure);
        let mut placed = placed.map_err(|error| StructureError::Broken(error.to_string()))?;
        placed.frames.clone_from(&was.frames);
        let differences = Differences::of(plan.screen(), &placed);
        let off = then.relations().iter().enumerate().filter_map(|(at, relation)| {
            let by = differences.by(relation)?;
            (by.abs() > KEPT).then_some((at, by))
        });
        let off: Vec<(usize, f64)> = off.collect();
        let grown = text.len() as isize - self.text().len() as isize;
        let end = usize::try_from(span.end as isize + grown).unwrap_or(span.end);
        let tree = parse_screens(&text, 1).0;
        let replaced = |text: &str, end: usize| Change::new(span.clone(), &text[span.start..end]);
        let as_it_is = replaced(&text, end);
        let tries: Vec<Change> = match off.as_slice() {
            [] => vec![as_it_is],
            [(at, by)] => {
                let statement = Statement::at(&tree, &text, &(span.start..end));
                let ways = statement.map(|s| ways(&s, *at, then.relations().len(), *by)).unwrap_or_default();
                let each = ways.into_iter().filter_map(|way| {
                    let new = changed(&text, std::slice::from_ref(&way))?;
                    let grown = new.len() as isize - text.len() as isize;
                    Some(replaced(&new, usize::try_from(end as isize + grown).ok()?))
                });
                each.collect()
            }
            _ => return cannot("it says several things at once; write them as rules of their own first"),
        };
        let mut why = "it says nothing that a number could change".to_owned();
        for change in tries {
            match self.done(&self.with(&[change], &[])?, &same_name, &Keeps::All, ON_ONE) {
                Ok(done) => return Ok(done),
                Err(error) => why = error.to_string(),
            }
        }
        cannot(format!("no number in `{rule}` keeps all frames if it is tied to `{to}`: {why}"))
    }

    /// Gives a view new rules that tie it to its neighbours: where it was drawn, or without drawings where it is on all displays.
    /// Its rules about its place and size go; what others say stays.
    ///
    /// # Errors
    /// A view that is not drawn, or where no rules give its frames on all of these.
    pub fn pinned(&self, path: &str, drawings: &[ScreenDrawing]) -> Result<Restructured, StructureError> {
        let view = self.view(path)?;
        self.free(view)?;
        let drawn_in = drawings.iter().filter(|drawing| drawing.frames.iter().any(|(of, _)| *of == view));
        let mut wanted: Vec<Placement> = Vec::new();
        for drawing in drawn_in {
            let placement = self.plan.place(&drawing.display, self.measure);
            let placement = placement.map_err(|error| StructureError::Broken(error.to_string()))?;
            wanted.push(compared(self.screen(), placement, &drawing.frames).drawn);
        }
        let slack = if wanted.is_empty() { PLACED } else { DRAWN };
        if wanted.is_empty() {
            if !drawings.is_empty() {
                return cannot(format!("`{path}` is not drawn"));
            }
            wanted.clone_from(&self.placements);
        }
        let mut gone = Vec::new();
        for (rule, statement) in self.own_rules(view)? {
            if self.is_about(rule, view, |_| true) {
                gone.push(statement.span());
            }
        }
        // Where it is not drawn elsewhere, nothing moves.
        let others = self.all_but(&self.depending(view));
        let keeps = if slack == PLACED { Keeps::All } else { Keeps::Only(&others) };
        let is_met = |plan: &Plan| {
            wanted.iter().all(|wanted| {
                let placed = plan.place(&wanted.display, self.measure);
                let then = plan.screen().find(path);
                let frames = placed.ok().and_then(|p| Some((p.frame(then?)?, wanted.frame(view)?)));
                frames.is_some_and(|(is, was)| farthest_side(&is, &was) <= SAME)
            })
        };
        let not_around = |of: &str| !self.is_at(of, view);
        self.placed_by(view, (true, true), (&wanted, slack), &self.with(&[], &gone)?, &not_around, &|text| {
            let (done, plan) = self.tried(text, &same_name, &keeps, ON_ONE)?;
            match is_met(&plan) {
                true => Ok(done),
                false => cannot(format!("no rules give `{path}` the frames that are wanted")),
            }
        })
    }

    /// Tries lines that place a view as in placements, likely ones first, put into a text of the file; `open` says whether its size is to be
    /// said, too, where its place alone does not do.
    pub(super) fn placed_by(
        &self,
        view: ViewId,
        open: (bool, bool),
        wanted: (&[Placement], f64),
        text: &str,
        may_read: &dyn Fn(&str) -> bool,
        tried: &dyn Fn(&str) -> Result<Restructured, StructureError>,
    ) -> Result<Restructured, StructureError> {
        let path = self.path(view);
        let along = self.lines_for(&path, open, wanted, may_read)?;
        let mut last = None;
        for across in along[0].iter().take(MAX_WAYS) {
            for down in along[1].iter().take(MAX_WAYS) {
                let text = with_lines(text, &path, &[across.clone(), down.clone()].concat())?;
                match tried(&text) {
                    Ok(done) => return Ok(done),
                    Err(error) => last = last.or(Some(error)),
                }
            }
        }
        Err(last.unwrap_or_else(|| {
            StructureError::Cannot(format!("no rule gives `{path}` its frames on all displays"))
        }))
    }

    /// Lines that place a view as in placements, along both axes, the likely ones first.
    pub(super) fn lines_for(
        &self,
        path: &str,
        open: (bool, bool),
        (wanted, slack): (&[Placement], f64),
        may_read: &dyn Fn(&str) -> bool,
    ) -> Result<[Vec<Vec<String>>; 2], StructureError> {
        // Where it is hidden there is nothing to keep.
        let view = self.screen().find(path);
        let shown =
            wanted.iter().filter(|placement| view.is_some_and(|view| placement.frame(view).is_some()));
        let drawn = shown.map(|placement| Drawing::of(placement, self.screen()));
        let drawn = drawn.collect::<Result<Vec<Drawing>, _>>();
        let drawn = drawn.map_err(|error| StructureError::Cannot(error.to_string()))?;
        Ok([Axis::Across, Axis::Down].map(|axis| {
            let lines = suggested(&drawn, path, axis, open, (self.measure, slack), may_read);
            let mut lines: Vec<Vec<String>> = lines.into_iter().map(|(lines, _)| lines).collect();
            if open == (true, true) {
                // What says both comes before what leaves one of them to the content.
                lines.sort_by_key(|lines| std::cmp::Reverse(lines.len()));
            }
            lines
        }))
    }
}
