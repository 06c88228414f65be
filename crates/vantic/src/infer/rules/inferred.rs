//! Rules that give drawings.

use crate::drawing::Drawing;
use crate::infer::grouping::farthest_side;
use crate::infer::rules::agree::agree;
use crate::infer::rules::arranged::{Line, lines};
use crate::infer::rules::bands::{Border, bands};
use crate::infer::rules::candidates::Candidates;
use crate::infer::rules::choose::choose;
use crate::infer::rules::error::InferError;
use crate::infer::rules::lines::Writer;
use crate::infer::rules::otherwise::{Otherwise, otherwise};
use crate::infer::rules::relation::Relation;
use crate::infer::rules::table::Table;
use crate::infer::rules::wish::{Wishes, wished};
use crate::infer::rules::write::Chosen;
use crate::resolve::read;
use vantic_core::plan::Plan;
use vantic_core::text::Measure;

/// By how much a drawing may be off, in logical pixels: exact, drawn to the pixel, drawn by hand.
const SLACKS: [f64; 3] = [0.02, 0.5, 6.0];

/// How far a view may be from where it was drawn, in logical pixels.
pub(super) const MET: f64 = 0.5;

/// Rules that give drawings.
#[derive(Clone, Debug)]
pub struct Inferred {
    /// A screen file with them.
    pub text: String,
    /// The same with the reasons as comments.
    pub explained: String,
    /// The rules one by one.
    pub rules: Vec<InferredRule>,
    /// The bands, where no rules fit all drawings.
    pub bands: Vec<InferredBand>,
    /// What could as well be otherwise, the most telling first.
    pub otherwise: Vec<Otherwise>,
    /// By how much the drawings were taken to be off, in logical pixels.
    pub slack: f64,
    /// What the file does not give: the drawing by its place among the drawings, the view, and how far it is off, in logical
    /// pixels.
    pub missed: Vec<(usize, String, f64)>,
}

/// A rule that was inferred.
#[derive(Clone, Debug, PartialEq)]
pub struct InferredRule {
    /// The view whose block it is in.
    pub view: String,
    /// As it is written.
    pub rule: String,
    /// Why it was chosen.
    pub reason: String,
    /// How sure it is, from 0 to 1: the less it costs to say it, the surer.
    pub sure: f64,
}

/// A band that the drawings need.
#[derive(Clone, Debug, PartialEq)]
pub struct InferredBand {
    /// Its name.
    pub name: String,
    /// When it holds.
    pub condition: String,
    /// For each of its borders: `screen.width` or `screen.height`, and the sizes between which the drawings leave it open: it may lie
    /// above the first, up to the second.
    pub borders: Vec<(&'static str, f64, f64)>,
}

/// Finds the simplest rules that give drawings of one screen.
///
/// All relations that hold in every drawing are listed with a cost, the lower the likelier it is that somebody meant it;
/// the cheapest that decide everything are taken. Where no rules fit all drawings, some hold in bands. `name` is the name of
/// the screen.
///
/// ```
/// use vantic::drawing::{Drawing, DrawnKind, DrawnView};
/// use vantic::geometry::Frame;
/// use vantic::infer::infer;
/// use vantic::prelude::*;
///
/// let drawn = |width: f64| {
///     let frame = Frame { left: 16.0, top: 24.0, width: width - 32.0, height: 48.0 };
///     let bench = DrawnView { path: "bench".into(), frame, kind: DrawnKind::Plain };
///     Drawing::new(Display::new(width, 600.0)?, vec![bench])
/// };
/// let inferred = infer(&[drawn(320.0)?, drawn(800.0)?], &PlainText, "workshop")?;
/// assert!(inferred.text.contains("pin start 16, end 16, top 24 to safe; height = 48"), "{}", inferred.text);
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
///
/// # Errors
/// No drawing, drawings of different kinds of views by one name, drawings that contradict one another.
pub fn infer(drawings: &[Drawing], measure: &dyn Measure, name: &str) -> Result<Inferred, InferError> {
    infer_as(drawings, measure, name, &[])
}

/// The same, with what somebody says of views: the rules hold to that wherever the drawings allow it.
///
/// # Errors
/// As for [`infer`], and a wish that the drawings contradict.
pub fn infer_as(
    drawings: &[Drawing],
    measure: &dyn Measure,
    name: &str,
    wishes: Wishes<'_>,
) -> Result<Inferred, InferError> {
    let table = Table::new(drawings, measure)?;
    contradictions(&table, drawings)?;
    let mut best: Option<Inferred> = None;
    for slack in slacks(&table) {
        for arranged in [true, false] {
            let inferred = with((&table, wishes), drawings, measure, name, slack, arranged)?;
            let is_met = inferred.missed.is_empty();
            if best.as_ref().is_none_or(|known| inferred.missed.len() < known.missed.len()) {
                best = Some(inferred);
            }
            if is_met {
                return best.ok_or(InferError::NoDrawing);
            }
        }
    }
    best.ok_or(InferError::NoDrawing)
}

/// Drawings for one size have to be the same.
fn contradictions(table: &Table, drawings: &[Drawing]) -> Result<(), InferError> {
    for (b, later) in table.sheets.iter().enumerate() {
        for (a, earlier) in table.sheets[..b].iter().enumerate() {
            let [one, other] = [&drawings[a].display, &drawings[b].display];
            let is_same = earlier.screen == later.screen
                && earlier.safe == later.safe
                && one.direction() == other.direction()
                && one.states().eq(other.states());
            let differs = |view: &usize| match (earlier.boxes[*view], later.boxes[*view]) {
                (Some(x), Some(y)) => std::iter::zip(x, y)
                    .any(|(x, y)| (x.near - y.near).abs() > SLACKS[2] || (x.size - y.size).abs() > SLACKS[2]),
                (None, None) => false,
                _ => true,
            };
            if is_same && let Some(view) = (0..table.views.len()).find(differs) {
                let view = table.views[view].path.clone();
                let name = |at: usize| format!("drawing {} ({})", at + 1, drawings[at].display.name());
                return Err(InferError::Contradiction { view, a: name(a), b: name(b) });
            }
        }
    }
    Ok(())
}

/// How exactly the drawings may have been drawn, the likeliest first: where few numbers are round, by hand; where all are, to
/// the pixel, if that makes what is found much simpler.
fn slacks(table: &Table) -> Vec<f64> {
    let extents = table.sheets.iter().flat_map(|sheet| sheet.boxes.iter().flatten().flatten());
    let numbers: Vec<f64> = extents.flat_map(|extent| [extent.near, extent.size]).collect();
    let round = numbers.iter().filter(|n| (**n - n.round()).abs() <= SLACKS[0]).count();
    let [exact, pixels, by_hand] = SLACKS;
    if 5 * round < numbers.len() {
        return vec![by_hand];
    }
    let cost = |slack: f64| choose(table, slack, &[]).cost();
    if round == numbers.len() && cost(pixels) < 0.9 * cost(exact) {
        return vec![pixels, exact];
    }
    vec![exact]
}

fn with(
    (table, wishes): (&Table, Wishes<'_>),
    drawings: &[Drawing],
    measure: &dyn Measure,
    name: &str,
    slack: f64,
    arranged: bool,
) -> Result<Inferred, InferError> {
    let found = if wishes.is_empty() { Vec::new() } else { Candidates::new(table, slack).all() };
    let wished =
        wished(table, &found, wishes).map_err(|(view, wish)| InferError::Wish { view, wish: wish.name() })?;
    let mut lines = if arranged { lines(table, slack) } else { Vec::new() };
    // A row says itself how its children follow it.
    lines.retain(|line| !line.relations.iter().any(|own| wished.iter().any(|wish| wish.view == own.view)));
    let of_lines = lines.iter().flat_map(|line| line.relations.iter().cloned());
    let given: Vec<Relation> = wished.iter().cloned().chain(of_lines).collect();
    let choice = choose(table, slack, &given);
    let bands = bands(table, slack, &choice);
    let said = |relation: &&Relation| !lines.iter().any(|line| line.relations.contains(relation));
    let mut common: Vec<Relation> = choice.chosen.iter().filter(said).cloned().collect();
    if slack >= SLACKS[2] {
        let of_lines: Vec<Relation> = lines.iter().flat_map(|line| line.relations.iter().cloned()).collect();
        agree(table, &mut common, &of_lines);
    }
    let chosen = Chosen { table, common: &common, bands: &bands, lines: &lines, wished: &wished };
    let text = chosen.file(name, false);
    let explained = chosen.file(name, true);
    let missed = missed(&text, drawings, measure, MET.max(2.0 * slack))?;
    let rules = rules(&chosen);
    let otherwise =
        if missed.is_empty() { otherwise(&chosen, &choice, drawings, measure) } else { Vec::new() };
    let bands = bands.bands.iter().map(|band| InferredBand {
        name: band.name.clone(),
        condition: band.condition.clone(),
        borders: band.borders.iter().map(Border::range).collect(),
    });
    let bands = bands.collect();
    Ok(Inferred { text, explained, rules, bands, otherwise, slack, missed })
}

fn rules(chosen: &Chosen<'_>) -> Vec<InferredRule> {
    let Chosen { table, common, bands, lines, .. } = *chosen;
    let writer = Writer { table };
    let of_lines = lines.iter().map(|line| InferredRule {
        view: table.views[line.parent].path.clone(),
        rule: line.text(),
        reason: Line::REASON.into(),
        sure: 0.9,
    });
    let banded = bands.base.iter().chain(bands.bands.iter().flat_map(|band| &band.rules));
    let all = common.iter().chain(banded.map(|rule| &rule.relation));
    let own = all.filter_map(|relation| {
        let is_wished = chosen.wished.contains(relation);
        Some(InferredRule {
            view: table.views[relation.view].path.clone(),
            rule: writer.line(relation)?,
            reason: chosen.reason(relation),
            sure: if is_wished { 1.0 } else { (2.0 / (1.0 + relation.cost)).min(1.0) },
        })
    });
    of_lines.chain(own).collect()
}

/// What a file does not give of drawings.
fn missed(
    text: &str,
    drawings: &[Drawing],
    measure: &dyn Measure,
    met: f64,
) -> Result<Vec<(usize, String, f64)>, InferError> {
    let unusable = |error: &dyn std::fmt::Display| InferError::Unusable(format!("{error}\n{text}"));
    let source = read(text).map_err(|error| unusable(&error))?;
    let plan = Plan::new(source.screen).map_err(|error| unusable(&error))?;
    let mut missed = Vec::new();
    for (at, drawing) in drawings.iter().enumerate() {
        let placement = plan.place(&drawing.display, measure).map_err(|error| unusable(&error))?;
        for view in drawing.views() {
            let placed = plan.screen().find(&view.path).and_then(|id| placement.frame(id));
            let by = placed.map_or(f64::INFINITY, |placed| farthest_side(&placed, &view.frame));
            if by > met {
                missed.push((at, view.path.clone(), by));
            }
        }
    }
    Ok(missed)
}
