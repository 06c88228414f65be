//! A screen that is changed while it is used: what a builder does to one that is there already.

use crate::model::band::Change;
use crate::model::build_error::BuildError;
use crate::model::builder::builder::ScreenBuilder;
use crate::model::claim::Claimed;
use crate::model::coordinate::Anchor;
use crate::model::expression::Expr;
use crate::model::guide::Guide;
use crate::model::id::{RuleId, ScreenTag, ValueId, ViewId};
use crate::model::rule::Rule;
use crate::model::screen::Screen;
use crate::model::validate::check_value;
use crate::model::view::View;
use std::borrow::Cow;
use std::collections::BTreeSet;
use std::sync::Arc;

impl ScreenBuilder {
    /// A builder for a screen that is there already, to add to it, change it and remove from it. All ids stay what they
    /// are; those of what is removed are refused from then on.
    ///
    /// ```
    /// use vantic_core::prelude::*;
    ///
    /// let mut build = ScreenBuilder::new("workshop");
    /// let bench = build.view("bench");
    /// build.rule(bench, bench.width().equals(100.0));
    /// let screen = build.finish()?;
    /// let mut again = ScreenBuilder::reopen(screen);
    /// let rule = again.screen().rules().next().map(|(rule, _)| rule).expect("there is one");
    /// again.change_constant(rule, 0, 120.0);
    /// assert!(again.finish()?.to_string().contains("width = 120"));
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn reopen(screen: Screen) -> Self {
        let (register, given, errors) = Default::default();
        let (tag, reopened) = (ScreenTag::fresh(), Some(screen.clone()));
        Self { screen, for_file: false, tag, register, reopened, given, errors }
    }

    /// The same, where ids of views and rules behind these counts were given out before: none of them is given to
    /// something else.
    pub(crate) fn reopen_beyond(screen: Screen, given: (usize, usize)) -> Self {
        Self { given, ..Self::reopen(screen) }
    }

    /// Passes over the ids of views and rules that were given out before.
    pub(super) fn pass_over_given(&mut self) {
        let (views, rules) = self.given;
        let gone = || View { is_removed: true, ..View::default() };
        self.screen.views.resize_with(self.screen.views.len().max(views), gone);
        let gone = || Rule {
            tag: ScreenTag::default(),
            owner: None,
            band: None,
            label: None,
            number: 0,
            relations: Vec::new(),
        };
        self.screen.rules.resize_with(self.screen.rules.len().max(rules), gone);
    }

    /// Gives a text other words, in the screen's own language.
    pub fn change_words(&mut self, view: ViewId, words: &str) -> &mut Self {
        let changed = self.set_words(view, words.to_owned());
        self.note(changed)
    }

    /// Gives a named number another value, where no band gives it one.
    pub fn change_value(&mut self, value: ValueId, number: f64) -> &mut Self {
        let changed = match self.screen.has_value(value) {
            true => self.screen.values[value.index()].check(number),
            false => Err(BuildError::ForeignId { rule: "a named number".into() }),
        };
        if changed.is_ok() {
            self.screen.values[value.index()].number = number;
            // Bands go by it where a display does not set it.
            let name = &self.screen.values[value.index()].name;
            let read = self.screen.bands.iter_mut().flat_map(|band| band.condition.parameters_mut());
            read.filter(|of| of.name == *name).for_each(|of| of.usual = number);
        }
        self.note(changed)
    }

    /// Gives one relation of a rule, counted from 0, another number on its right side.
    pub fn change_constant(&mut self, rule: RuleId, relation: usize, number: f64) -> &mut Self {
        let is_there = self.screen.rule(rule).is_some_and(|of| relation < of.relations.len());
        let changed = match is_there {
            true => check_value(&self.screen.rule_name(rule), number),
            false => Err(BuildError::ForeignId { rule: "a constant".into() }),
        };
        if changed.is_ok() {
            self.screen.rules[rule.index()].relations[relation].right.constant = number;
        }
        self.note(changed)
    }

    /// Removes a rule.
    pub fn remove_rule(&mut self, rule: RuleId) -> &mut Self {
        if !self.screen.has_rule(rule) {
            return self.note(Err(BuildError::ForeignId { rule: "a rule to be removed".into() }));
        }
        self.forget_rules(&BTreeSet::from([rule]));
        self
    }

    fn forget_rules(&mut self, removed: &BTreeSet<RuleId>) {
        for rule in removed {
            let of = &mut self.screen.rules[rule.index()];
            of.relations.clear();
            if let Some(label) = of.label.take() {
                let of = (of.owner, of.band, label);
                self.register_mut().labels.remove(&of);
            }
        }
        Arc::make_mut(&mut self.screen.changes).retain(
            |(_, change)| !matches!(change, Change::Add(rule) | Change::Drop(rule) if removed.contains(rule)),
        );
    }

    /// Removes a view with all that is in it, their rules, and what is expected and claimed of them. What else reads
    /// one of them has to be removed or changed, too, before or after: [`ScreenBuilder::finish`] says what that is.
    pub fn remove(&mut self, view: ViewId) -> &mut Self {
        if let Err(refused) = self.known(view, "a view to be removed") {
            return self.note(Err(refused));
        }
        let about = self.screen.at(view);
        if let (Some(Guide::ContentBox), Some(scroller)) = (about.guide(), about.parent) {
            let view = self.screen.path(scroller);
            return self.note(Err(BuildError::HidesContent { view }));
        }
        let all: BTreeSet<ViewId> =
            self.screen.views().map(|(of, _)| of).filter(|&of| self.screen.is_within(of, view)).collect();
        let owned = self.screen.rules().filter(|(_, rule)| rule.owner.is_some_and(|of| all.contains(&of)));
        let owned = owned.map(|(rule, _)| rule).collect();
        self.forget_rules(&owned);
        self.take_from_siblings(view);
        let screen = &mut self.screen;
        for of in &all {
            let about = &mut screen.views[of.index()];
            Arc::make_mut(&mut screen.names).remove(&(about.parent, about.name.clone()));
            about.is_removed = true;
            about.children.clear();
            about.guides.clear();
            (about.arrangement, about.guide, about.item) = (None, None, None);
            about.spaces.clear();
            if screen.languages.iter().any(|language| language.words.contains_key(of)) {
                let languages = Arc::make_mut(&mut screen.languages);
                languages.iter_mut().for_each(|language| drop(language.words.remove(of)));
            }
        }
        Arc::make_mut(&mut screen.changes).retain(|(_, change)| match change {
            Change::Hide { view, .. } | Change::Show(view) | Change::Set { view, .. } => !all.contains(view),
            Change::Add(_) | Change::Drop(_) | Change::Value { .. } => true,
        });
        Arc::make_mut(&mut screen.expectations)
            .retain(|expectation| !expectation.views().any(|of| all.contains(&of)));
        for drawing in Arc::make_mut(&mut screen.drawings) {
            drawing.frames.retain(|(of, _)| !all.contains(of));
        }
        Arc::make_mut(&mut screen.claims).retain(|claim| {
            let other = match claim.what {
                Claimed::Inside(Anchor::View(of)) | Claimed::ClearOf(of, _) => Some(of),
                _ => None,
            };
            !all.contains(&claim.view) && other.is_none_or(|of| !all.contains(&of))
        });
        self
    }

    /// Moves a view before one of its siblings, or behind all of them: what arranges them places it there,
    /// `prev` and `next` go by it, and where they lie over one another, what stands later is on top.
    pub fn move_before(&mut self, view: ViewId, sibling: Option<ViewId>) -> &mut Self {
        let known = self.known(view, "a view to be moved").and_then(|()| match sibling {
            Some(sibling) => self.known(sibling, "a view to move before"),
            None => Ok(()),
        });
        let parent = |of: ViewId| self.screen.at(of).parent;
        let are_siblings = known.is_ok()
            && sibling.is_none_or(|sibling| parent(sibling) == parent(view) && sibling != view)
            && [Some(view), sibling].into_iter().flatten().all(|of| self.screen.at(of).guide.is_none());
        if !are_siblings {
            let no_sibling =
                || BuildError::ForeignId { rule: "a view to move before, which is no sibling".into() };
            return self.note(known.and(Err(no_sibling())));
        }
        self.take_from_siblings(view);
        let at = sibling.map(|sibling| self.screen.at(sibling).sibling_index);
        let siblings = self.siblings_mut(view);
        siblings.insert(at.unwrap_or(siblings.len()), view);
        self.number_siblings(view);
        self
    }

    /// Whether a view is one of the screen; `what` says what it is for.
    pub(super) fn known(&self, view: ViewId, what: &str) -> Result<(), BuildError> {
        match self.screen.has_view(view) {
            true => Ok(()),
            false => Err(BuildError::ForeignId { rule: what.into() }),
        }
    }

    /// The list that a view stands in, of views or of guides.
    pub(super) fn siblings_mut(&mut self, view: ViewId) -> &mut Vec<ViewId> {
        let about = self.screen.at(view);
        let (is_guide, parent) = (about.guide.is_some(), about.parent);
        match (is_guide, parent) {
            (true, Some(parent)) => &mut self.screen.views[parent.index()].guides,
            (false, Some(parent)) => &mut self.screen.views[parent.index()].children,
            (true, None) => &mut self.screen.guides,
            (false, None) => &mut self.screen.roots,
        }
    }

    /// Takes a view out of the list that it stands in. Spaces stay before the sibling that they were before.
    fn take_from_siblings(&mut self, view: ViewId) {
        let about = self.screen.at(view);
        let (at, parent, is_guide) = (about.sibling_index, about.parent, about.guide.is_some());
        self.siblings_mut(view).retain(|&of| of != view);
        if let Some(parent) = parent.filter(|_| !is_guide) {
            let spaces = &mut self.screen.views[parent.index()].spaces;
            spaces.iter_mut().filter(|(behind, _)| *behind > at).for_each(|(behind, _)| *behind -= 1);
        }
        self.number_siblings(view);
    }

    fn number_siblings(&mut self, view: ViewId) {
        for (at, of) in self.siblings_mut(view).clone().into_iter().enumerate() {
            self.screen.views[of.index()].sibling_index = at;
        }
    }

    /// What reads a view that was removed.
    pub(super) fn reads_removed(&self) -> Vec<BuildError> {
        let screen = &self.screen;
        if screen.views.iter().all(|view| !view.is_removed) {
            return Vec::new();
        }
        let removed = |anchor: Anchor| {
            let (Anchor::View(of) | Anchor::Prev(of) | Anchor::Next(of) | Anchor::Cells { guide: of, .. }) =
                anchor
            else {
                return None;
            };
            Some(of).filter(|of| !screen.has_view(*of))
        };
        let mut errors = Vec::new();
        let mut look = |reader: &dyn Fn() -> String, expr: &Expr| {
            expr.each(&mut |inner| {
                for of in inner.terms().iter().filter_map(|term| removed(term.anchor)) {
                    // Its path is gone with it; its name is not.
                    let view = screen.at(of).name.clone();
                    errors.push(BuildError::ReadsRemoved { reader: reader(), view });
                }
            });
        };
        for (id, rule) in screen.rules() {
            for relation in &rule.relations {
                [&relation.left, &relation.right]
                    .into_iter()
                    .for_each(|side| look(&|| screen.rule_name(id), side));
            }
        }
        let changed = screen.changes.iter().filter_map(|(_, change)| match change {
            Change::Set { view, setting } => {
                let mut set = screen.at(*view).clone();
                setting.clone().apply(&mut set).then_some((*view, Cow::Owned(set)))
            }
            _ => None,
        });
        let own = screen.views().map(|(view, about)| (view, Cow::Borrowed(about)));
        for (view, about) in own.chain(changed) {
            for (word, expr) in about.exprs() {
                look(&|| format!("{}.{word}", screen.path(view)), expr);
            }
        }
        for (_, change) in screen.changes.iter() {
            if let Change::Hide { view, instead: Some(instead), .. } = change
                && !screen.has_view(*instead)
            {
                let (reader, view) =
                    (format!("hide {}", screen.path(*view)), screen.at(*instead).name.clone());
                errors.push(BuildError::ReadsRemoved { reader, view });
            }
        }
        errors
    }
}
