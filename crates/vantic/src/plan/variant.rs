//! What is left of a screen in the bands that hold.

use super::PlanError;
use crate::coordinate::{Place, Relation};
use crate::screen::{Change, RuleId, Screen, ValueId, View, ViewId};
use std::collections::HashMap;

/// What a band makes of a view.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Visibility {
    Shown,
    /// It keeps its frame and paints nothing.
    KeepsSpace,
    /// It and the rules in its block are gone.
    Gone,
}

/// A screen with the changes of some bands applied.
#[derive(Clone, Debug)]
pub(crate) struct Variant {
    pub(crate) visible: Vec<Visibility>,
    /// The rules that count, in written order.
    pub(crate) rules: Vec<RuleId>,
    /// The views that bands change, as they are here.
    changed: HashMap<ViewId, View>,
    /// The named numbers as they are here.
    values: Vec<f64>,
}

impl Variant {
    pub(crate) fn new(screen: &Screen, bands: &[bool]) -> Result<Self, PlanError> {
        let values = screen.values.iter().map(|v| v.number).collect();
        let own = screen.rules().filter(|(_, r)| r.band.is_none()).map(|(id, _)| id).collect();
        let visible = vec![Visibility::Shown; screen.views.len()];
        let mut variant = Self { visible, rules: own, changed: HashMap::new(), values };
        for (band, change) in &screen.changes {
            if bands[band.index()] {
                variant.apply(screen, change);
            }
        }
        // What is within a hidden view is hidden with it; parents come before their children.
        for (index, view) in screen.views.iter().enumerate() {
            if let Some(parent) = view.parent {
                variant.visible[index] = match (variant.visible[parent.index()], variant.visible[index]) {
                    (Visibility::Gone, _) | (_, Visibility::Gone) => Visibility::Gone,
                    (Visibility::KeepsSpace, _) | (_, Visibility::KeepsSpace) => Visibility::KeepsSpace,
                    _ => Visibility::Shown,
                };
            }
        }
        let visible = &variant.visible;
        variant
            .rules
            .retain(|&r| screen.rule_at(r).owner.is_none_or(|o| visible[o.index()] != Visibility::Gone));
        variant.check(screen, bands)?;
        Ok(variant)
    }

    fn apply(&mut self, screen: &Screen, change: &Change) {
        match *change {
            Change::Add(rule) => {
                let new = screen.rule_at(rule);
                let replaced = self.rules.iter().position(|&r| {
                    let old = screen.rule_at(r);
                    old.owner == new.owner && old.label.is_some() && old.label == new.label
                });
                match replaced {
                    Some(at) => self.rules[at] = rule,
                    None => self.rules.push(rule),
                }
            }
            Change::Drop(rule) => {
                let dropped = screen.rule_at(rule);
                self.rules.retain(|&r| {
                    let same_label = dropped.label.is_some() && screen.rule_at(r).label == dropped.label;
                    r != rule && !(same_label && screen.rule_at(r).owner == dropped.owner)
                });
            }
            Change::Hide { view, keep_space } => {
                self.visible[view.index()] =
                    if keep_space { Visibility::KeepsSpace } else { Visibility::Gone };
            }
            Change::Set { view, setting } => {
                let here = self.changed.entry(view).or_insert_with(|| screen.at(view).clone());
                let set = setting.apply(here);
                debug_assert!(set, "settings were checked when the screen was built");
            }
            Change::Value { value, number } => self.values[value.index()] = number,
        }
    }

    /// A view as it is here.
    pub(crate) fn view<'a>(&'a self, screen: &'a Screen, view: ViewId) -> &'a View {
        self.changed.get(&view).unwrap_or_else(|| screen.at(view))
    }

    /// A named number as it is here.
    pub(crate) fn value(&self, value: ValueId) -> f64 {
        self.values[value.index()]
    }

    /// The view that a place stands for here; `None` for the screen, the safe area, or nothing.
    pub(crate) fn view_at(&self, screen: &Screen, place: Place) -> Option<ViewId> {
        let there = |v: &&ViewId| self.visible[v.index()] != Visibility::Gone;
        match place {
            Place::Screen | Place::Safe | Place::Clear => None,
            Place::View(v) => Some(v),
            Place::Prev(v) => screen.around(v).0.iter().rev().find(there).copied(),
            Place::Next(v) => screen.around(v).1.iter().find(there).copied(),
        }
    }

    fn check(&self, screen: &Screen, bands: &[bool]) -> Result<(), PlanError> {
        for &id in &self.rules {
            for term in screen.rule_at(id).relations.iter().flat_map(Relation::terms) {
                let lost = match (term.place, self.view_at(screen, term.place)) {
                    (Place::Screen | Place::Safe | Place::Clear, _) => continue,
                    (_, Some(v)) if self.visible[v.index()] != Visibility::Gone => continue,
                    (Place::Prev(v), None) => (v, Some("before")),
                    (Place::Next(v), None) => (v, Some("after")),
                    (Place::View(v) | Place::Prev(v) | Place::Next(v), _) => (v, None),
                };
                let (rule, view) = (screen.rule_name(id), screen.path(lost.0));
                let held: Vec<String> = screen
                    .bands
                    .iter()
                    .zip(bands)
                    .filter(|(_, holds)| **holds)
                    .map(|(b, _)| format!("`{}`", b.name))
                    .collect();
                let bands =
                    if held.is_empty() { "everywhere".into() } else { format!("in {}", held.join(" with ")) };
                return Err(match lost.1 {
                    Some(side) => PlanError::NoSibling { id, rule, view, side, bands },
                    None => PlanError::ReadsHidden { id, rule, view, bands },
                });
            }
        }
        Ok(())
    }
}
