//! What a placement or a finding calls a rule: one of the screen's, or a built-in one.

use crate::model::guide::Guide;
use crate::model::id::{BandId, RuleId, ViewId};
use crate::model::rule::{Relation, SNUG, Strength, WHOLE};
use crate::model::screen::Screen;
use crate::model::view::{ContentStrength, View};

/// A rule that a placement or a finding speaks of.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum RuleRef {
    /// A relation of a rule of the screen, by its place among the rule's relations.
    Written {
        /// The rule.
        rule: RuleId,
        /// Which of its relations, counted from 0.
        relation: usize,
    },
    /// The built-in preference that a text is not smaller than its words, or a view than what its
    /// children take.
    Whole(ViewId),
    /// The built-in preference that a text is not larger than its words, or a view than what its
    /// children take.
    Snug(ViewId),
    /// A view places one of its children in a row or column.
    Arranged {
        /// The view.
        view: ViewId,
        /// The child.
        child: ViewId,
        /// The band in which it does so in another way, if it is one.
        band: Option<BandId>,
    },
}

impl RuleRef {
    /// What messages call it.
    pub fn name(self, screen: &Screen) -> String {
        match self {
            RuleRef::Written { rule, .. } => screen.rule_name(rule),
            RuleRef::Whole(view) => format!("{}.whole", screen.path(view)),
            RuleRef::Snug(view) => format!("{}.snug", screen.path(view)),
            RuleRef::Arranged { view, band, .. } => {
                let guide = screen.view(view).and_then(|v| v.guide()).map(|g| g.word());
                let word = guide.or(screen.arrangement_in(view, band).map(|a| a.word())).unwrap_or("row");
                let band = self.band(screen).map_or_else(String::new, |band| format!("@{band}"));
                format!("{}.{word}{band}", screen.path(view))
            }
        }
    }

    /// The rule that is written in the file, if it is one.
    pub fn written(self) -> Option<RuleId> {
        match self {
            RuleRef::Written { rule, .. } => Some(rule),
            RuleRef::Whole(_) | RuleRef::Snug(_) | RuleRef::Arranged { .. } => None,
        }
    }

    /// The relation that is written in the file, if it is one.
    pub fn relation(self, screen: &Screen) -> Option<&Relation> {
        match self {
            RuleRef::Written { rule, relation } => screen.rule(rule)?.relations().get(relation),
            RuleRef::Whole(_) | RuleRef::Snug(_) | RuleRef::Arranged { .. } => None,
        }
    }

    /// Its relation as it is written there, without its level.
    pub fn text(self, screen: &Screen) -> Option<String> {
        Some(screen.relation_text(self.relation(screen)?, self.owner(screen)))
    }

    /// The view it belongs to, if any.
    pub fn owner(self, screen: &Screen) -> Option<ViewId> {
        match self {
            RuleRef::Written { rule, .. } => screen.rule(rule).and_then(|r| r.owner()),
            RuleRef::Whole(view) | RuleRef::Snug(view) | RuleRef::Arranged { view, .. } => Some(view),
        }
    }

    /// The name of the band it stands in, if any.
    pub fn band(self, screen: &Screen) -> Option<&str> {
        let band = match self {
            RuleRef::Written { rule, .. } => screen.rule(rule)?.band?,
            RuleRef::Arranged { band, .. } => band?,
            RuleRef::Whole(_) | RuleRef::Snug(_) => return None,
        };
        screen.bands().get(band.index()).map(|b| b.name())
    }

    /// The name of its level; `None` for a required rule.
    pub fn level(self, screen: &Screen) -> Option<&str> {
        match self {
            RuleRef::Written { .. } => match self.relation(screen)?.strength() {
                Strength::Required => None,
                Strength::Prefer { level, .. } => Some(screen.level_name(level)),
            },
            RuleRef::Whole(view) => content_level(screen, view, |v| v.whole, WHOLE),
            RuleRef::Snug(view) => content_level(screen, view, |v| v.snug, SNUG),
            RuleRef::Arranged { view, .. } => match screen.view(view)?.guide() {
                Some(Guide::Mark(line)) => line.level.map(|level| screen.level_name(level)),
                _ => None,
            },
        }
    }
}

/// The level of a view's `whole` or `snug`, where no band changes it.
fn content_level<'a>(
    screen: &'a Screen,
    view: ViewId,
    of: impl Fn(&View) -> Option<ContentStrength>,
    name: &'a str,
) -> Option<&'a str> {
    let stated = screen.view(view).and_then(of).and_then(|c| c.level);
    Some(stated.map_or(name, |level| screen.level_name(level)))
}
