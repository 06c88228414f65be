//! What the layers above the model ask of a screen by ids that are its own.

use vantic_core::model::{Rule, RuleId, Screen, View, ViewId};

/// Look-ups by ids that are known to belong to the screen.
pub(crate) trait ScreenExt {
    /// A view of this screen.
    fn at(&self, view: ViewId) -> &View;

    /// A rule of this screen.
    fn rule_at(&self, rule: RuleId) -> &Rule;

    /// The siblings before a view and those after it, in declared order.
    fn around(&self, view: ViewId) -> (Vec<ViewId>, Vec<ViewId>);
}

impl ScreenExt for Screen {
    fn at(&self, view: ViewId) -> &View {
        let Some(found) = self.view(view) else { unreachable!("{view:?} is no view of this screen") };
        found
    }

    fn rule_at(&self, rule: RuleId) -> &Rule {
        let Some(found) = self.rule(rule) else { unreachable!("{rule:?} is no rule of this screen") };
        found
    }

    fn around(&self, view: ViewId) -> (Vec<ViewId>, Vec<ViewId>) {
        let siblings: Vec<ViewId> = self.siblings_of(view).collect();
        let at = siblings.iter().position(|v| *v == view).unwrap_or(siblings.len());
        (siblings[..at].to_vec(), siblings[(at + 1).min(siblings.len())..].to_vec())
    }
}
