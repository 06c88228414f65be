//! What rules, arrangements and guides read, looked at when they are added.

use crate::limits::{MAX_MIN_MAX_ARGS, MAX_NUMBER};
use crate::model::build_error::BuildError;
use crate::model::builder::builder::ScreenBuilder;
use crate::model::coordinate::{Anchor, Coordinate};
use crate::model::expression::{Expr, MAX_MIN_MAX_NESTING, MinMaxKind, Term};
use crate::model::guide::{Guide, MAX_CELLS, Mark};
use crate::model::id::{RuleId, ViewId};
use crate::model::rule::{Comparison, Relation};
use crate::model::validate::is_weight;
use crate::model::view::View;

impl ScreenBuilder {
    /// Distances and sizes of an arrangement: what they read has to be there, and numbers are not below zero.
    pub(crate) fn check_lengths<'a>(
        &self,
        path: &str,
        word: &'static str,
        lengths: impl Iterator<Item = &'a Expr>,
    ) -> Result<(), BuildError> {
        for length in lengths {
            self.check_reads(path, word, std::iter::once(length))?;
            if length.is_number() && length.constant() < 0.0 {
                let range = "without a length below zero";
                return Err(BuildError::Setting { view: path.into(), word, range });
            }
        }
        Ok(())
    }

    pub(crate) fn check_guide(&self, path: &str, guide: &Guide, of: &View) -> Result<(), BuildError> {
        let is_content_box = |guide: &Guide| *guide == Guide::ContentBox;
        if is_content_box(guide) != of.guide.as_deref().is_some_and(is_content_box) {
            let (view, word) = (path.into(), guide.word());
            return Err(BuildError::NoSuchSetting { view, word, kind: "guide" });
        }
        let size = match guide {
            Guide::Cells(cells) => cells.size.as_ref(),
            Guide::Mark(Mark { level: Some(level), .. }) if !self.screen.has_level(*level) => {
                return Err(BuildError::ForeignId { rule: path.into() });
            }
            _ => None,
        };
        let is_linear = |e: &&Expr| e.picks.is_empty();
        if matches!(guide, Guide::Cells(_)) && !guide.exprs().iter().all(is_linear) {
            let range = "without `max`, `min` and `clamp`";
            return Err(BuildError::Setting { view: path.into(), word: guide.word(), range });
        }
        // A guide may reach outwards; what it divides into is not below zero.
        self.check_lengths(path, guide.word(), size.into_iter())?;
        self.check_reads(path, guide.word(), guide.exprs().into_iter())
    }

    /// What these expressions read is there.
    pub(crate) fn check_reads<'a>(
        &self,
        path: &str,
        word: &'static str,
        mut exprs: impl Iterator<Item = &'a Expr>,
    ) -> Result<(), BuildError> {
        exprs.try_for_each(|expr| {
            let relation = Relation::new(expr.clone(), Comparison::Equal, Expr::default());
            self.check_exprs(&relation, &|| format!("{path}.{word}")).map(drop)
        })
    }

    pub(crate) fn check_rule(&self, id: RuleId) -> Result<(), BuildError> {
        let rule = self.screen.rule_at(id);
        let name = || self.screen.rule_name(id);
        if let Some(label) = &rule.label {
            self.check_name(label)?;
            if self.register().labels.contains_key(&(rule.owner, rule.band, label.clone())) {
                let place =
                    rule.owner.map_or_else(|| "the screen".into(), |o| format!("`{}`", self.screen.path(o)));
                return Err(BuildError::Taken { what: "rule", name: label.clone(), place });
            }
        }
        rule.relations.iter().try_for_each(|relation| self.check_relation(relation, &name))
    }

    pub(crate) fn check_relation(
        &self,
        relation: &Relation,
        name: &dyn Fn() -> String,
    ) -> Result<(), BuildError> {
        match relation.level {
            None if relation.weight != 1.0 => return Err(BuildError::WeightOfMust { rule: name() }),
            Some(level) if !self.screen.has_level(level) => {
                return Err(BuildError::ForeignId { rule: name() });
            }
            Some(_) if !is_weight(relation.weight) => {
                return Err(BuildError::Weight { rule: name(), weight: relation.weight });
            }
            _ => {}
        }
        let terms = self.check_exprs(relation, name)?;
        if terms.is_empty() {
            return Err(BuildError::NoCoordinate { rule: name() });
        }
        Ok(())
    }

    /// What a relation reads is there, and it does not read too much.
    pub(crate) fn check_exprs(
        &self,
        relation: &Relation,
        name: &dyn Fn() -> String,
    ) -> Result<Vec<Term>, BuildError> {
        let mut checked = Ok(());
        let mut parts = 0;
        relation.each(&mut |expr| {
            if checked.is_ok() {
                parts += expr.picks.iter().map(|p| p.of.len()).sum::<usize>();
                checked = self.check_expr(expr, name);
            }
        });
        checked?;
        if parts > MAX_MIN_MAX_ARGS {
            return Err(BuildError::Limit {
                what: "too much in one `max`, `min` or `clamp`",
                limit: MAX_MIN_MAX_ARGS,
            });
        }
        let terms = relation.terms();
        let reads = |set: [Coordinate; 2]| terms.iter().any(|t| set.contains(&t.coordinate));
        if reads([Coordinate::Start, Coordinate::End]) && reads([Coordinate::Left, Coordinate::Right]) {
            return Err(BuildError::MixedDirections { rule: name() });
        }
        terms.iter().try_for_each(|term| self.check_place(term.anchor, term.coordinate, name))?;
        Ok(terms)
    }

    pub(crate) fn check_expr(&self, expr: &Expr, name: &dyn Fn() -> String) -> Result<(), BuildError> {
        let numbers = expr.terms.iter().map(|t| t.coefficient).chain(expr.values.iter().map(|v| v.0));
        let mut numbers = numbers.chain(expr.picks.iter().map(|p| p.coefficient)).chain([expr.constant]);
        // Not a number is not within anything either.
        if !numbers.all(|n| n.abs() <= MAX_NUMBER) {
            return Err(BuildError::Number { rule: name() });
        }
        if expr.values.iter().any(|v| !self.screen.has_value(v.1)) {
            return Err(BuildError::ForeignId { rule: name() });
        }
        if expr.picks.iter().any(|p| p.depth > MAX_MIN_MAX_NESTING) {
            let what = "`max`, `min` and `clamp` are nested too deep";
            return Err(BuildError::Limit { what, limit: MAX_MIN_MAX_NESTING });
        }
        for picked in &expr.picks {
            let takes = match (picked.pick, picked.of.len()) {
                (MinMaxKind::Clamp, 3) | (MinMaxKind::Max | MinMaxKind::Min, 1..) => continue,
                (MinMaxKind::Clamp, _) => "three: the value, the minimum and the maximum",
                _ => "one or more",
            };
            return Err(BuildError::Picks { rule: name(), word: picked.pick.spelling(), takes });
        }
        Ok(())
    }

    pub(crate) fn check_place(
        &self,
        place: Anchor,
        coordinate: Coordinate,
        name: &dyn Fn() -> String,
    ) -> Result<(), BuildError> {
        if coordinate == Coordinate::Pixel && place != Anchor::Screen {
            return Err(BuildError::Pixel { rule: name() });
        }
        let known = |v: ViewId| self.screen.has_view(v);
        if matches!(coordinate, Coordinate::ScrolledX | Coordinate::ScrolledY) {
            let scrolls = |v: &ViewId| known(*v) && self.screen.at(*v).content_box.is_some();
            return match place {
                Anchor::View(v) if scrolls(&v) => Ok(()),
                _ => Err(BuildError::Scrolled { rule: name() }),
            };
        }
        let content = matches!(coordinate, Coordinate::ContentWidth | Coordinate::ContentHeight);
        let no_content = |view: String| Err(BuildError::NoContent { rule: name(), view });
        match place {
            Anchor::View(v) | Anchor::Prev(v) | Anchor::Next(v) if !known(v) => {
                Err(BuildError::ForeignId { rule: name() })
            }
            Anchor::Cells { guide, .. } if !known(guide) => Err(BuildError::ForeignId { rule: name() }),
            Anchor::Cells { guide, first, last } => {
                let (guide, of) = (self.screen.path(guide), self.screen.at(guide).guide());
                let count = match of {
                    // What bands make of the number is looked at when a plan is made.
                    Some(Guide::Cells(cells)) if self.screen.bands.is_empty() => {
                        cells.count.unwrap_or(MAX_CELLS)
                    }
                    Some(Guide::Cells(_)) => MAX_CELLS,
                    _ => 0,
                };
                match content {
                    true => no_content(guide),
                    false if first >= 1 && first <= last && last <= count => Ok(()),
                    false => Err(BuildError::NoCell { rule: name(), guide, first, last, count }),
                }
            }
            Anchor::View(v) if content && !self.screen.at(v).has_content() => no_content(self.screen.path(v)),
            Anchor::Screen if content => no_content("screen".into()),
            Anchor::Safe if content => no_content("safe".into()),
            Anchor::Clear if content => no_content("clear".into()),
            Anchor::Prev(v) | Anchor::Next(v) if content => {
                let to = if matches!(place, Anchor::Prev(_)) { "prev" } else { "next" };
                no_content(format!("{to}` of `{}", self.screen.path(v)))
            }
            _ => Ok(()),
        }
    }
}
