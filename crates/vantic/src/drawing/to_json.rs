//! Placements as JSON that drawings are read from.

use serde::Serialize;
use vantic_core::model::Screen;
use vantic_core::plan::{NamedPlacement, Placement};

#[derive(Serialize)]
struct File<'a> {
    screen: &'a str,
    placements: Vec<NamedPlacement<'a>>,
}

/// Placements of a screen as the JSON that [`Drawing::from_json`](super::Drawing::from_json) reads.
///
/// ```
/// use vantic::drawing::{Drawing, placements_json};
/// use vantic::prelude::*;
///
/// let source = vantic::read("screen quay { view a { pin left, top to safe; size = 8 } }")?;
/// let plan = Plan::new(source.screen)?;
/// let placement = plan.place(&Display::new(390.0, 844.0)?, &PlainText)?;
/// let json = placements_json(plan.screen(), [&placement]);
/// assert_eq!(Drawing::from_json(&json)?, [Drawing::of(&placement, plan.screen())?]);
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
pub fn placements_json<'a>(screen: &Screen, placements: impl IntoIterator<Item = &'a Placement>) -> String {
    let placements = placements.into_iter().map(|placement| placement.named(screen)).collect();
    // Names are text and numbers are finite, so that nothing can fail.
    serde_json::to_string(&File { screen: screen.name(), placements }).unwrap_or_default()
}
