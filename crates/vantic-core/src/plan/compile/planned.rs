//! A variant, with what it was compiled to for each choice of its arrangements.

use crate::geometry::direction::Direction;
use crate::model::screen::Screen;
use crate::plan::arrangement_choices::Choices;
use crate::plan::compile::compiled::Compiled;
use crate::plan::variant::Variant;
use std::collections::BTreeMap;
use std::sync::{Arc, Mutex, PoisonError};

/// A variant with what it was compiled to, for what was chosen of its arrangements.
#[derive(Debug)]
pub(crate) struct Planned {
    pub(crate) variant: Variant,
    direction: Direction,
    compiled: Mutex<BTreeMap<Choices, Arc<Compiled>>>,
}

/// How many choices of arrangements a plan remembers for one variant.
pub(crate) const MAX_REMEMBERED: usize = 64;

impl Planned {
    pub(crate) fn new(variant: Variant, direction: Direction) -> Self {
        Self { variant, direction, compiled: Mutex::default() }
    }

    pub(crate) fn compiled(&self, screen: &Screen, choices: &Choices) -> Arc<Compiled> {
        let remembered = || self.compiled.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(known) = remembered().get(choices) {
            return known.clone();
        }
        let variant = self.variant.with_room(screen, choices);
        let compiled = Arc::new(Compiled::new(screen, variant, self.direction, choices));
        let mut all = remembered();
        if all.len() >= MAX_REMEMBERED {
            all.clear();
        }
        all.insert(choices.clone(), compiled.clone());
        compiled
    }

    /// Frees what was compiled; what is needed is compiled again.
    pub(crate) fn forget(&self) {
        self.compiled.lock().unwrap_or_else(PoisonError::into_inner).clear();
    }
}
