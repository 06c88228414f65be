//! What is written and has no effect, whatever the display: names that nothing uses, settings that are
//! replaced, clauses of guides that cancel out.

use crate::finding::detail::{DeclaredDetail, DoubtDetail};
use crate::finding::{Finding, Location};
use vantic_core::model::{Cells, Code, Expr, Guide, Leftover, Screen};
use vantic_core::tolerance::COEFFICIENT;

/// What the file of the screen says and nothing uses.
pub(crate) fn leftovers(screen: &Screen, findings: &mut Vec<Finding>) {
    for (index, leftover) in screen.leftovers().iter().enumerate() {
        let mut finding = Finding::note(Code::Idle, DeclaredDetail::Leftover(index));
        finding.locations = vec![Location::Leftover(index)];
        if let Leftover::Replaced { view, .. } = leftover {
            finding.views = vec![*view];
        }
        findings.push(finding);
    }
}

/// Clauses of guides that change nothing, and gutters below zero.
pub(crate) fn guides(screen: &Screen, findings: &mut Vec<Finding>) {
    for (view, about) in screen.views() {
        let Some(Guide::Cells(cells)) = about.guide() else { continue };
        let words = without_effect(cells);
        if !words.is_empty() {
            findings.push(Finding::note(Code::Idle, DoubtDetail::GuideClauses { words }).about([view]));
        }
        if cells.gutter.is_number() && cells.gutter.constant() < 0.0 {
            let by = -cells.gutter.constant();
            findings.push(Finding::note(Code::Odd, DoubtDetail::NegativeGutter { by }).about([view]).by(by));
        }
    }
}

/// The clauses of a division that cancel out or are not read.
fn without_effect(cells: &Cells) -> Vec<&'static str> {
    let has = |expr: &Expr| *expr != Expr::default();
    let is_placed = cells.size.is_some() && cells.count.is_some();
    let in_the_middle = is_placed && (cells.lean - 0.5).abs() <= COEFFICIENT;
    let mut words = Vec::new();
    words.extend((in_the_middle && has(&cells.margin)).then_some("margin"));
    words.extend((in_the_middle && has(&cells.offset)).then_some("offset"));
    words.extend((!is_placed && cells.lean != 0.0).then_some("lean"));
    words
}
