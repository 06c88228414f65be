//! A view copied with all that is in it, and views hidden and shown without a band.

use crate::model::band::Change;
use crate::model::build_error::BuildError;
use crate::model::builder::builder::{Content, ScreenBuilder};
use crate::model::condition::Condition;
use crate::model::guide::Guide;
use crate::model::id::{BandId, RuleId, ViewId};
use crate::model::rule::RuleDraft;
use crate::model::view::View;
use std::collections::BTreeMap;

/// What the band is called in which views are hidden without one.
const ALWAYS: &str = "always";

impl ScreenBuilder {
    /// Copies a view with all that is in it, right behind it among its siblings: settings, rules, what bands make of them, and words
    /// in all languages. Rules that read something in it read the copy; what it reads outside stays. Expectations and claims are
    /// not copied. A row of a `repeat`, or a part, is put in once more like this.
    ///
    /// ```
    /// use vantic_core::model::{Arrangement, Setting};
    /// use vantic_core::prelude::*;
    ///
    /// let mut build = ScreenBuilder::new("workshop");
    /// let rack = build.view("rack");
    /// build.set(rack, Setting::Arrange(Arrangement::column().gap(4).into()));
    /// let hook = build.view_in(rack, "hook[1]");
    /// let label = build.text_in(hook, "label", "Saw", 16.0);
    /// build.add(label.pin([(Side::Left, 0), (Side::Top, 0)], hook)).add(hook.height().equals(label.height() + 8));
    /// let second = build.copy(hook, "hook[2]");
    /// let screen = build.finish()?;
    /// assert_eq!(screen.rules().filter(|(_, rule)| rule.owner() == Some(second)).count(), 1);
    /// assert!(screen.find("rack.hook[2].label").is_some());
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn copy(&mut self, view: ViewId, name: &str) -> ViewId {
        match self.add_copy(view, name) {
            Ok(copy) => copy,
            Err(error) => {
                self.errors.push(error);
                view
            }
        }
    }

    /// The same.
    ///
    /// # Errors
    /// An id of another screen, what a view scrolls, a name that is none or taken, too many views or rules.
    pub fn add_copy(&mut self, view: ViewId, name: &str) -> Result<ViewId, BuildError> {
        self.known(view, "a view to be copied")?;
        if let (Some(Guide::ContentBox), Some(scroller)) =
            (self.screen.at(view).guide(), self.screen.at(view).parent)
        {
            return Err(BuildError::HidesContent { view: self.screen.path(scroller) });
        }
        let all = self.screen.views().filter(|(of, _)| self.screen.is_within(*of, view));
        let all: Vec<(ViewId, View)> = all.map(|(of, about)| (of, about.clone())).collect();
        let mut copies = BTreeMap::new();
        for (of, about) in &all {
            let parent = about.parent.map(|parent| copies.get(&parent).copied().unwrap_or(parent));
            let copy = match (about.guide(), parent) {
                (Some(Guide::ContentBox), Some(parent)) => self.add_content_box(parent)?,
                _ => {
                    let content = match (&about.text, about.image, about.guide.is_some()) {
                        (Some(text), ..) => Content::Text(text.clone()),
                        (_, Some(image), _) => Content::Image(image),
                        (.., true) => Content::Guide,
                        _ => Content::None,
                    };
                    self.add_view(if *of == view { name } else { &about.name }, parent, content)?
                }
            };
            copies.insert(*of, copy);
        }
        let copied = |of: ViewId| copies.get(&of).copied().unwrap_or(of);
        for (of, about) in all {
            let copy = copied(of);
            let made = self.screen.at(copy).clone();
            let View { tag, name, parent, children, sibling_index, guides, content_box, .. } = made;
            let mut about = View { tag, name, parent, children, sibling_index, guides, content_box, ..about };
            about.exprs_mut().into_iter().for_each(|expr| expr.turn_to(&copied));
            self.screen.views[copy.index()] = about;
        }
        self.copy_rules(&copies)?;
        for language in 0..self.screen.languages.len() {
            let words = |of: &ViewId| self.screen.languages[language].words(*of).map(str::to_owned);
            let words: Vec<_> = copies.iter().filter_map(|(of, copy)| Some((*copy, words(of)?))).collect();
            words.into_iter().try_for_each(|(copy, words)| self.screen.set_words(language, copy, words))?;
        }
        let copy = copied(view);
        if self.screen.at(view).guide.is_none() {
            let next = self.screen.around(view).1.first().copied().filter(|next| *next != copy);
            if next.is_some() {
                self.move_before(copy, next);
            }
        }
        Ok(copy)
    }

    /// The rules of views, and what bands make of them, for their copies.
    fn copy_rules(&mut self, copies: &BTreeMap<ViewId, ViewId>) -> Result<(), BuildError> {
        let copied = |of: ViewId| copies.get(&of).copied().unwrap_or(of);
        let owned = |rule: RuleId, build: &ScreenBuilder| {
            let owner = build.screen.rule_at(rule).owner;
            owner.filter(|owner| copies.contains_key(owner))
        };
        let mut rules: BTreeMap<RuleId, RuleId> = BTreeMap::new();
        let add = |build: &mut ScreenBuilder, rule: RuleId, band: Option<BandId>, owner: ViewId| {
            let of = build.screen.rule_at(rule);
            let mut draft = RuleDraft { label: of.label.clone(), relations: of.relations.clone() };
            for relation in &mut draft.relations {
                [&mut relation.left, &mut relation.right].into_iter().for_each(|side| side.turn_to(&copied));
            }
            build.add_rule(Some(copied(owner)), band, draft)
        };
        let own: Vec<RuleId> =
            self.screen.rules().filter(|(_, rule)| rule.band.is_none()).map(|(id, _)| id).collect();
        for rule in own {
            if let Some(owner) = owned(rule, self) {
                rules.insert(rule, add(self, rule, None, owner)?);
            }
        }
        for (band, change) in self.screen.changes.clone().iter().cloned() {
            let has = |view: &ViewId| copies.contains_key(view);
            let change = match change {
                Change::Add(rule) => {
                    if let Some(owner) = owned(rule, self) {
                        rules.insert(rule, add(self, rule, Some(band), owner)?);
                    }
                    continue;
                }
                Change::Drop(rule) => rules.get(&rule).map(|copy| Change::Drop(*copy)),
                Change::Show(view) => Some(Change::Show(copied(view))).filter(|_| has(&view)),
                Change::Hide { view, keep_space, instead } => {
                    let change =
                        Change::Hide { view: copied(view), keep_space, instead: instead.map(copied) };
                    // Each is shown instead of one other at most.
                    let is_whole = instead.is_none_or(|instead| has(&instead));
                    Some(change).filter(|_| has(&view) && is_whole)
                }
                Change::Set { view, setting } => {
                    let mut setting = setting;
                    setting.exprs_mut().into_iter().for_each(|expr| expr.turn_to(&copied));
                    Some(Change::Set { view: copied(view), setting }).filter(|_| has(&view))
                }
                Change::Value { .. } => None,
            };
            if let Some(change) = change {
                self.add_change(band, change);
            }
        }
        Ok(())
    }

    /// Hides a view and the rules in its block, as a band that always holds would; with `keep_space` it keeps its frame and is not
    /// painted.
    pub fn hide(&mut self, view: ViewId, keep_space: bool) -> &mut Self {
        self.show(view);
        let hidden = match self.known(view, "a view to be hidden").and_then(|()| self.always()) {
            Ok(band) => self.add_hide(band, view, keep_space, None),
            Err(error) => Err(error),
        };
        self.note(hidden)
    }

    /// Shows a view that [`ScreenBuilder::hide`] hid; what bands say of it stays.
    pub fn show(&mut self, view: ViewId) -> &mut Self {
        let known = self.known(view, "a view to be shown");
        if let Some(band) = self.always_there().filter(|_| known.is_ok()) {
            let hides = |(of, change): &(BandId, Change)| {
                *of == band && matches!(change, Change::Hide { view: hidden, .. } if *hidden == view)
            };
            if self.screen.changes.iter().any(hides) {
                std::sync::Arc::make_mut(&mut self.screen.changes).retain(|change| !hides(change));
            }
        }
        self.note(known)
    }

    /// The band that always holds, if there is one of this name.
    fn always_there(&self) -> Option<BandId> {
        let mut bands = self.screen.bands_with_ids();
        let found = bands.find(|(_, band)| {
            band.name.trim_end_matches(|c: char| c.is_ascii_digit() || c == '_') == ALWAYS
                && band.condition == Condition::Everywhere
        });
        found.map(|(band, _)| band)
    }

    fn always(&mut self) -> Result<BandId, BuildError> {
        match self.always_there() {
            Some(band) => Ok(band),
            None => self.add_band(&self.screen.free_band_name(ALWAYS), Condition::Everywhere),
        }
    }
}
