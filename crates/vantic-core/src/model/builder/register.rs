//! What a builder looks up while it adds to a screen.

use crate::model::id::{BandId, RuleId, ViewId};
use crate::model::screen::Screen;
use std::collections::{HashMap, HashSet};

/// What is in the blocks of a screen, by their owner and band, and the names of its numbers.
#[derive(Clone, Debug, Default)]
pub(super) struct Register {
    /// How many rules stand in each block so far.
    pub(super) numbers: HashMap<(Option<ViewId>, Option<BandId>), u32>,
    pub(super) labels: HashMap<(Option<ViewId>, Option<BandId>, String), RuleId>,
    pub(super) value_names: HashSet<String>,
}

impl Register {
    pub(super) fn of(screen: &Screen) -> Self {
        let value_names = screen.values.iter().map(|value| value.name.clone()).collect();
        let mut register = Self { value_names, ..Self::default() };
        for (id, rule) in screen.rules.iter().enumerate() {
            let last = register.numbers.entry((rule.owner, rule.band)).or_insert(0);
            *last = rule.number.max(*last);
            if let Some(label) = rule.label.clone().filter(|_| !rule.is_removed()) {
                register.labels.insert((rule.owner, rule.band, label), RuleId::new(id, rule.tag));
            }
        }
        register
    }
}
