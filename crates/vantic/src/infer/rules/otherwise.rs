//! What could as well be said, and from which width on it would make a difference.

use crate::drawing::Drawing;
use crate::infer::grouping::farthest_side;
use crate::infer::rules::choose::{Choice, decides};
use crate::infer::rules::lines::Writer;
use crate::infer::rules::relation::{Relation, What};
use crate::infer::rules::table::Table;
use crate::infer::rules::write::Chosen;
use crate::resolve::read;
use vantic_core::display::Display;
use vantic_core::plan::Plan;
use vantic_core::text::Measure;
use vantic_core::tolerance::VISIBLE;

/// How much more another relation may cost to be told.
const ALIKE: f64 = 0.45;

/// How many are listed at most.
const MAX_TOLD: usize = 12;

/// How many are tried at most: each is placed on all widths.
const MAX_TRIED: usize = 40;

/// A name for files that nobody sees.
const NAME: &str = "tried";

/// Of how many views others are looked for.
const MAX_VIEWS: usize = 200;

/// The widths that are tried, as factors of the drawn one, from there outwards.
const FACTORS: [f64; 8] = [1.02, 0.95, 1.1, 0.85, 1.3, 0.7, 1.7, 2.4];

/// Something that could as well be said.
#[derive(Clone, Debug, PartialEq)]
pub struct Otherwise {
    /// The view.
    pub view: String,
    /// The rule that was chosen.
    pub rule: String,
    /// What could be said in its place.
    pub other: String,
    /// A width of the screen, in logical pixels, at which the two differ visibly, the nearest to a drawn one of those tried,
    /// and by how much some view does there.
    pub differs: (f64, f64),
}

/// Looks for relations that hold in the drawings, cost little more than one that was chosen and could take its place, and make a
/// difference on some width; the greatest first.
pub(super) fn otherwise(
    chosen: &Chosen<'_>,
    choice: &Choice,
    drawings: &[Drawing],
    measure: &dyn Measure,
) -> Vec<Otherwise> {
    let table = chosen.table;
    let writer = Writer { table };
    let Some(first) = drawings.first().filter(|_| table.views.len() <= MAX_VIEWS) else { return Vec::new() };
    let displays = FACTORS.iter().filter_map(|factor| {
        let (width, height) = (first.display.width() * factor, first.display.height());
        first.display.with_size(width.round(), height).ok()
    });
    let displays: Vec<Display> = displays.collect();
    let frames = |text: &str| {
        let plan = Plan::new(read(text).ok()?.screen).ok()?;
        let placed = displays.iter().map(|display| plan.place(display, measure).ok().map(|p| p.frames));
        placed.collect::<Option<Vec<_>>>()
    };
    let Some(now) = frames(&chosen.file(NAME, false)) else { return Vec::new() };
    let mut found = Vec::new();
    let rivals = chosen.common.iter().enumerate().filter_map(|(at, relation)| {
        let other = rival(table, choice, relation)?;
        Some((at, relation, other))
    });
    for (at, relation, other) in rivals.take(MAX_TRIED) {
        let mut common = chosen.common.to_vec();
        common[at] = other.clone();
        let changed = Chosen { common: &common, ..*chosen };
        let Some(then) = frames(&changed.file(NAME, false)) else { continue };
        let by = |at: usize| {
            let pairs = std::iter::zip(&now[at], &then[at]).filter_map(|(a, b)| Some(((*a)?, (*b)?)));
            pairs.map(|(a, b)| farthest_side(&a, &b)).fold(0.0, f64::max)
        };
        let differs =
            (0..displays.len()).map(|at| (displays[at].width(), by(at))).find(|(_, by)| *by > VISIBLE);
        if let (Some(differs), Some(rule), Some(line)) = (differs, writer.line(relation), writer.line(&other))
        {
            let view = table.views[relation.view].path.clone();
            found.push(Otherwise { view, rule, other: line, differs });
        }
        if found.len() == MAX_TOLD {
            break;
        }
    }
    found.sort_by(|a, b| b.differs.1.total_cmp(&a.differs.1));
    found
}

/// The cheapest relation that could take the place of one.
fn rival(table: &Table, choice: &Choice, relation: &Relation) -> Option<Relation> {
    if relation.what == What::Natural {
        return None;
    }
    let alike = choice.left.iter().filter(|other| {
        (other.view, other.axis) == (relation.view, relation.axis) && other.cost - relation.cost <= ALIKE
    });
    let others: Vec<Relation> = choice.chosen.iter().filter(|other| *other != relation).cloned().collect();
    let mut alike = alike.take(3);
    alike.find(|other| decides(table, others.iter().chain(std::iter::once(*other)))).cloned()
}
