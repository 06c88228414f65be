//! What is left of a screen in the bands that hold.

use crate::model::arrangement::Item;
use crate::model::band::Change;
use crate::model::coordinate::Anchor;
use crate::model::expression::Term;
use crate::model::guide::{Cells, Guide};
use crate::model::id::{BandId, RuleId, ValueId, ViewId};
use crate::model::rule::Relation;
use crate::model::screen::Screen;
use crate::model::setting::Setting;
use crate::model::view::View;
use crate::plan::arrangement_choices::Choices;
use crate::plan::error::PlanError;
use std::collections::{HashMap, HashSet};

/// What is said of a view in the arrangement it stands in.
pub(crate) fn item(view: &View) -> &Item {
    const PLAIN: &Item = &Item { share: None, apart: false, sit: None, cells: None, spare: false, cut: None };
    view.item.as_deref().unwrap_or(PLAIN)
}

/// Whether a view takes part in the arrangement of its parent.
pub(crate) fn takes_part(screen: &Screen, variant: &Variant, child: ViewId) -> bool {
    variant.visible[child.index()] != Visibility::Gone && !item(variant.view(screen, child)).apart
}

/// What a band makes of a view.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Visibility {
    Shown,
    /// It keeps its frame and paints nothing.
    KeepsSpace,
    /// It and the rules in its block are gone.
    Gone,
}

/// What reads a coordinate: a rule, or what is said of arranging.
#[derive(Clone, Copy)]
enum Reader {
    Rule(RuleId),
    View(ViewId, &'static str),
}

impl Reader {
    fn owner(self, screen: &Screen) -> Option<ViewId> {
        match self {
            Reader::Rule(id) => screen.rule_at(id).owner,
            Reader::View(view, _) => Some(view),
        }
    }

    fn named(self, screen: &Screen) -> (Option<RuleId>, String) {
        match self {
            Reader::Rule(id) => (Some(id), screen.rule_name(id)),
            Reader::View(view, word) => (None, format!("{}.{word}", screen.path(view))),
        }
    }
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
    /// The views that are shown instead of others.
    instead: HashMap<ViewId, ViewId>,
    /// The bands that change how views arrange their children.
    arranged_in: HashMap<ViewId, BandId>,
}

/// Whether no bands can leave a rule without what it reads, as far as one sees without looking at each combination of them.
pub(crate) fn reads_only_what_stays(screen: &Screen) -> bool {
    let hidden = screen.changes.iter().filter_map(|(_, change)| match change {
        Change::Hide { view, instead, .. } => Some([Some(*view), *instead]),
        _ => None,
    });
    let mut may_go: HashSet<ViewId> = hidden.flatten().flatten().collect();
    may_go.extend(screen.views().filter(|(_, about)| !about.only_in_bands.is_empty()).map(|(view, _)| view));
    // A view goes with what it stands in, and so do its rules.
    let stays_for = |view: ViewId, owner: Option<ViewId>| {
        let mut around = screen.with_ancestors(view).filter(|of| may_go.contains(of));
        around.all(|of| owner.is_some_and(|owner| screen.is_within(owner, of)))
    };
    let is_read = |owner: Option<ViewId>, term: Term| match term.anchor {
        Anchor::Screen | Anchor::Safe | Anchor::Clear => true,
        Anchor::View(view) => stays_for(view, owner),
        Anchor::Prev(view) | Anchor::Next(view) => {
            screen.siblings(view).iter().all(|sibling| !may_go.contains(sibling))
        }
        // How many there are may change; without bands the builder has looked.
        Anchor::Cells { .. } => screen.bands.is_empty() && screen.changes.is_empty(),
    };
    let rules = screen.rules().all(|(_, rule)| {
        rule.relations.iter().flat_map(Relation::terms).all(|term| is_read(rule.owner, term))
    });
    let changes_no_expr = || {
        screen.changes.iter().all(|(_, change)| match change {
            Change::Set { setting, .. } => !matches!(
                setting,
                Setting::Arrange(_) | Setting::Share(_) | Setting::Guide(_) | Setting::Spare(_)
            ),
            _ => true,
        })
    };
    let own = || {
        screen.views().all(|(view, about)| {
            let mut all = item(about).cut.is_none() && !item(about).spare;
            about.exprs().for_each(|(_, expr)| {
                expr.each(&mut |inner| all &= inner.terms().iter().all(|&term| is_read(Some(view), term)));
            });
            all
        })
    };
    rules && changes_no_expr() && own()
}

impl Variant {
    pub(crate) fn new(screen: &Screen, bands: &[bool]) -> Result<Self, PlanError> {
        let values = screen.values.iter().map(|v| v.number).collect();
        let own = screen.rules().filter(|(_, r)| r.band.is_none()).map(|(id, _)| id).collect();
        let is_there = |view: &View| {
            let holds = view.only_in_bands.is_empty() || view.only_in_bands.iter().any(|b| bands[b.index()]);
            holds && !view.is_removed
        };
        let there = |view| if is_there(view) { Visibility::Shown } else { Visibility::Gone };
        let visible = screen.views.iter().map(there).collect();
        let mut variant = Self {
            visible,
            rules: own,
            changed: HashMap::new(),
            values,
            instead: HashMap::new(),
            arranged_in: HashMap::new(),
        };
        // What is shown instead of another is there only where it is.
        for (_, change) in screen.changes.iter() {
            if let Change::Hide { instead: Some(instead), .. } = change {
                variant.visible[instead.index()] = Visibility::Gone;
            }
        }
        for (band, change) in screen.changes.iter() {
            if bands[band.index()] {
                variant.apply(screen, change);
                if let Change::Set { view, setting: Setting::Arrange(_) } = change {
                    variant.arranged_in.insert(*view, *band);
                }
            }
        }
        variant.hide_within(screen);
        variant.check(screen, bands)?;
        Ok(variant)
    }

    /// The same without the children for which there is no space in what is chosen.
    pub(crate) fn with_room(&self, screen: &Screen, choices: &Choices) -> Self {
        let mut variant = self.clone();
        let mut some_gone = false;
        for (&view, chosen) in choices {
            let Some(shown) = chosen.spares else { continue };
            let children = screen.at(view).children().iter().copied();
            let spare =
                children.filter(|&child| takes_part(screen, self, child) && self.is_spare(screen, child));
            for child in spare.skip(shown) {
                (variant.visible[child.index()], some_gone) = (Visibility::Gone, true);
            }
        }
        if some_gone {
            variant.hide_within(screen);
        }
        variant
    }

    /// The band that changes how a view arranges its children, if one does.
    pub(crate) fn arranged_in(&self, view: ViewId) -> Option<BandId> {
        self.arranged_in.get(&view).copied()
    }

    /// Whether a view is shown only where there is space for it.
    pub(crate) fn is_spare(&self, screen: &Screen, view: ViewId) -> bool {
        self.view(screen, view).item.as_ref().is_some_and(|item| item.spare)
    }

    /// What is within a hidden view is hidden with it, and so are the rules in its block.
    fn hide_within(&mut self, screen: &Screen) {
        // Parents come before their children.
        for (index, view) in screen.views.iter().enumerate() {
            if let Some(parent) = view.parent {
                self.visible[index] = match (self.visible[parent.index()], self.visible[index]) {
                    (Visibility::Gone, _) | (_, Visibility::Gone) => Visibility::Gone,
                    (Visibility::KeepsSpace, _) | (_, Visibility::KeepsSpace) => Visibility::KeepsSpace,
                    _ => Visibility::Shown,
                };
            }
        }
        let visible = &self.visible;
        self.rules
            .retain(|&r| screen.rule_at(r).owner.is_none_or(|o| visible[o.index()] != Visibility::Gone));
    }

    /// Whether a view, read from a block, may be missing while the block is there, for lack of room.
    fn may_lack_room(&self, screen: &Screen, read: ViewId, owner: Option<ViewId>) -> bool {
        let owners: Vec<ViewId> = owner.into_iter().flat_map(|o| screen.with_ancestors(o)).collect();
        // One is there with what is within it, and with the later ones of its siblings.
        let is_there = |spare: ViewId| {
            let (parent, place) = (screen.at(spare).parent, screen.at(spare).sibling_index);
            owners.iter().any(|&o| {
                let later = self.is_spare(screen, o)
                    && screen.at(o).parent == parent
                    && screen.at(o).sibling_index > place;
                o == spare || later
            })
        };
        screen.with_ancestors(read).filter(|&v| self.is_spare(screen, v)).any(|spare| !is_there(spare))
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
            Change::Hide { view, keep_space, instead } => {
                self.show(view);
                self.visible[view.index()] =
                    if keep_space { Visibility::KeepsSpace } else { Visibility::Gone };
                if let Some(instead) = instead {
                    self.visible[instead.index()] = Visibility::Shown;
                    self.instead.insert(view, instead);
                }
            }
            Change::Show(view) => self.show(view),
            Change::Set { view, ref setting } => {
                let here = self.changed.entry(view).or_insert_with(|| screen.at(view).clone());
                let set = setting.clone().apply(here);
                debug_assert!(set, "settings were checked when the screen was built");
            }
            Change::Value { value, number } => self.values[value.index()] = number,
        }
    }

    /// Shows a view, and nothing instead of it.
    fn show(&mut self, view: ViewId) {
        self.visible[view.index()] = Visibility::Shown;
        if let Some(instead) = self.instead.remove(&view) {
            self.visible[instead.index()] = Visibility::Gone;
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
    pub(crate) fn view_at(&self, screen: &Screen, place: Anchor) -> Option<ViewId> {
        let there = |v: &&ViewId| self.visible[v.index()] != Visibility::Gone;
        match place {
            Anchor::Screen | Anchor::Safe | Anchor::Clear => None,
            // Each is shown instead of one other at most; where they go round in a circle, none is there.
            Anchor::View(v) => std::iter::successors(Some(v), |v| self.instead.get(v).copied())
                .take(screen.views.len())
                .find(|v| there(&v))
                .or(Some(v)),
            Anchor::Cells { guide: v, .. } => Some(v),
            Anchor::Prev(v) => screen.around(v).0.iter().rev().find(there).copied(),
            Anchor::Next(v) => screen.around(v).1.iter().find(there).copied(),
        }
    }

    /// What a view's row or column, and its own share in one, read.
    fn arranging(&self, screen: &Screen, view: ViewId) -> Vec<(Reader, Term)> {
        if self.visible[view.index()] == Visibility::Gone {
            return Vec::new();
        }
        let mut terms = Vec::new();
        for (word, expr) in self.view(screen, view).exprs() {
            expr.each(&mut |e| terms.extend(e.terms().iter().map(|&t| (Reader::View(view, word), t))));
        }
        terms
    }

    fn check(&self, screen: &Screen, bands: &[bool]) -> Result<(), PlanError> {
        let held = || {
            let held = screen.bands.iter().zip(bands).filter(|(_, holds)| **holds);
            let held: Vec<String> = held.map(|(b, _)| format!("`{}`", b.name)).collect();
            if held.is_empty() { "everywhere".into() } else { format!("in {}", held.join(" with ")) }
        };
        let written = self.rules.iter().flat_map(|&id| {
            let terms = screen.rule_at(id).relations.iter().flat_map(Relation::terms);
            terms.map(move |term| (Reader::Rule(id), term))
        });
        let arranged = screen.views().flat_map(|(view, _)| self.arranging(screen, view));
        let has_spares = screen.views().any(|(view, _)| self.is_spare(screen, view));
        for (reader, term) in written.chain(arranged) {
            if let Anchor::Cells { guide, last, .. } = term.anchor
                && let Some(Guide::Cells(Cells { count: Some(count), .. })) = self.view(screen, guide).guide()
                && last > *count
            {
                let (id, rule) = reader.named(screen);
                let guide = screen.path(guide);
                return Err(PlanError::NoCell {
                    id,
                    rule,
                    guide,
                    number: last,
                    count: *count,
                    bands: held(),
                });
            }
            let read = self.view_at(screen, term.anchor);
            let lacks_room = |&v: &ViewId| has_spares && self.may_lack_room(screen, v, reader.owner(screen));
            if let Some(read) = read.filter(lacks_room) {
                let (id, rule) = reader.named(screen);
                let bands = "where there is no room for it".into();
                return Err(PlanError::ReadsHidden { id, rule, view: screen.path(read), bands });
            }
            let lost = match (term.anchor, read) {
                (Anchor::Screen | Anchor::Safe | Anchor::Clear, _) => continue,
                (_, Some(v)) if self.visible[v.index()] != Visibility::Gone => continue,
                (Anchor::Prev(v), None) => (v, Some("before")),
                (Anchor::Next(v), None) => (v, Some("after")),
                (Anchor::View(v) | Anchor::Prev(v) | Anchor::Next(v) | Anchor::Cells { guide: v, .. }, _) => {
                    (v, None)
                }
            };
            let (id, rule) = reader.named(screen);
            let view = screen.path(lost.0);
            let bands = held();
            return Err(match lost.1 {
                Some(side) => PlanError::NoSibling { id, rule, view, side, bands },
                None => PlanError::ReadsHidden { id, rule, view, bands },
            });
        }
        Ok(())
    }
}
