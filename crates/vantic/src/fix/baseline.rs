//! The checked screen, solved on the displays on which trials begin, so that each trial solves only
//! what its change has to do with.

use std::collections::HashMap;
use std::sync::{Arc, Mutex, OnceLock, PoisonError};
use vantic_core::display::Display;
use vantic_core::plan::{Plan, Snapshot};
use vantic_core::text::Measure;
use vantic_core::work;

/// How many views may be kept solved, all displays together.
const MAX_SOLVED: usize = 50_000;

type Once = Arc<OnceLock<Option<Arc<Snapshot>>>>;

/// What is solved so far, by the name of the display.
#[derive(Default)]
pub(crate) struct SolvedBefore {
    on: Mutex<HashMap<String, Once>>,
}

impl SolvedBefore {
    /// The screen solved on a display; `None` where much is kept already.
    pub(crate) fn on(
        &self,
        plan: &Plan,
        measure: &(dyn Measure + Sync),
        display: &Display,
    ) -> Option<Arc<Snapshot>> {
        let once = {
            let mut on = self.on.lock().unwrap_or_else(PoisonError::into_inner);
            let most = MAX_SOLVED / plan.screen().views().count().max(1);
            if !on.contains_key(display.name()) && on.len() >= most {
                return None;
            }
            on.entry(display.name().to_owned()).or_default().clone()
        };
        // Whichever trial asks first, it is not its work.
        let solved = || work::apart(|| plan.solved(display, measure));
        once.get_or_init(|| solved().ok().map(Arc::new)).clone()
    }
}
