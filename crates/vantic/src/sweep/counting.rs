//! Which argument of a `max`, `min` or `clamp` counts in a placement, in words.

use crate::inspect::anchors::{frame_at, named_number};
use vantic_core::geometry::Direction;
use vantic_core::model::{Coordinate, Expr, MinMax, MinMaxKind, RuleRef, Screen, Term, value_of};
use vantic_core::plan::Placement;

/// The argument that counts of each `max` and `min` in a rule, as it is written; of those within others,
/// the innermost.
/// `None` where that cannot be told from the frames.
pub(crate) fn counting_arguments(
    screen: &Screen,
    placement: &Placement,
    rule: RuleRef,
) -> Option<Vec<String>> {
    let (relation, owner) = (rule.relation(screen)?, rule.owner(screen));
    let choices = relation.left.picks().iter().chain(relation.right.picks());
    let one = |choice: &MinMax| {
        let (_, leaf) = counting(screen, placement, choice)?;
        Some(format!("`{}`", screen.expr_text(leaf, owner)))
    };
    choices.map(one).collect()
}

/// The value of a `max`, `min` or `clamp`, and the argument that gives it.
fn counting<'a>(screen: &Screen, placement: &Placement, choice: &'a MinMax) -> Option<(f64, &'a Expr)> {
    let of = |argument: &'a Expr| match (argument.picks(), argument.terms(), argument.values()) {
        // An argument that is nothing but another choice counts by what counts in that.
        ([inner], [], []) if argument.constant() == 0.0 && inner.coefficient == 1.0 => {
            counting(screen, placement, inner)
        }
        _ => Some((value_in(screen, placement, argument)?, argument)),
    };
    let all: Vec<(f64, &Expr)> = choice.of.iter().map(of).collect::<Option<_>>()?;
    // Of equal ones, the first.
    let better = |is: fn(f64, f64) -> bool| {
        all.iter().copied().reduce(|best, next| if is(next.0, best.0) { next } else { best })
    };
    match (choice.pick, all.as_slice()) {
        (MinMaxKind::Max, _) => better(|a, b| a > b),
        (MinMaxKind::Min, _) => better(|a, b| a < b),
        // The least wins over the most.
        (MinMaxKind::Clamp, &[value, least, most]) => {
            let limited = if value.0 > most.0 { most } else { value };
            Some(if limited.0 < least.0 { least } else { limited })
        }
        (MinMaxKind::Clamp, _) => None,
    }
}

/// The value of an expression in the frames of a placement; `None` where they do not tell.
pub(crate) fn value_in(screen: &Screen, placement: &Placement, expr: &Expr) -> Option<f64> {
    let mut sum = expr.constant();
    for &(coefficient, value) in expr.values() {
        sum += coefficient * named_number(screen, placement, value);
    }
    for term in expr.terms() {
        sum += term.coefficient * coordinate(screen, placement, term)?;
    }
    for choice in expr.picks() {
        sum += choice.coefficient * counting(screen, placement, choice)?.0;
    }
    Some(sum)
}

/// A coordinate as it is in the frames; `None` for what is measured along the reading direction where that
/// is from right to left, and for what frames do not tell.
fn coordinate(screen: &Screen, placement: &Placement, term: &Term) -> Option<f64> {
    let frame = frame_at(screen, placement, term.anchor)?;
    let left_to_right = placement.display.direction() == Direction::LeftToRight;
    match term.coordinate {
        Coordinate::Start if left_to_right => Some(frame.left),
        Coordinate::End if left_to_right => Some(frame.right()),
        Coordinate::Left
        | Coordinate::Top
        | Coordinate::Right
        | Coordinate::Bottom
        | Coordinate::Width
        | Coordinate::Height
        | Coordinate::CenterX
        | Coordinate::CenterY => Some(value_of(&frame, term.coordinate)),
        _ => None,
    }
}
