//! What the rules say: contradictions, open coordinates, what gave way, bare numbers.

use crate::finding::Finding;
use crate::finding::detail::{DoubtDetail, FromCorner, RuleDetail};
use crate::infer::guide_edges::guide_edges;
use crate::inspect::broken_rules::owners;
use crate::screen_ext::ScreenExt as _;
use std::collections::HashMap;
use vantic_core::model::{
    Anchor, Code, Comparison, Coordinate, Guide, Relation, RuleRef, Screen, Side, Space, Spread, Term, ViewId,
};
use vantic_core::plan::{Circular, Examination, FreeCoordinate, Placement};
use vantic_core::tolerance::{COEFFICIENT, VISIBLE};

pub(crate) fn conflicts(screen: &Screen, examined: &Examination, findings: &mut Vec<Finding>) {
    for contradiction in &examined.contradictions {
        let rules = &contradiction.rules;
        // Where a size at zero takes part, the other required rules of that size may make it worse still.
        let wider = contradiction.without_nonnegativity.as_ref().map(|(all, total)| {
            let others = all.iter().filter(|r| !rules.contains(r)).copied();
            (others.collect::<Vec<_>>(), *total)
        });
        let alone = contradiction.amount;
        let wider = wider.filter(|(others, total)| !others.is_empty() && *total > alone);
        let (others, total) = wider.unwrap_or((Vec::new(), alone));
        let finding = Finding::error(Code::Conflict, RuleDetail::Contradiction { alone, others, total });
        let mut finding = finding.about(owners(screen, rules)).with_rules(rules.clone()).by(total);
        finding.given.clone_from(&contradiction.nonnegatives);
        // The coordinate in dispute is the one that the rule written last speaks of first.
        let last = rules.iter().rev().find_map(|&r| Some((r.relation(screen)?, r.owner(screen))));
        if let Some((term, owner)) = last.and_then(|(r, owner)| Some((*r.terms().first()?, owner))) {
            let view = match term.anchor {
                Anchor::View(v) => Some(v),
                _ => owner,
            };
            finding.coordinates.extend(view.map(|v| (v, term.coordinate)));
        }
        findings.push(finding);
    }
}

/// One finding for each view with a root cause; what follows is folded under it.
pub(crate) fn open_coordinates(screen: &Screen, examined: &Examination, findings: &mut Vec<Finding>) {
    let of = |f: &&FreeCoordinate| (f.view, f.coordinate);
    let mut order: Vec<(ViewId, bool)> = Vec::new();
    let mut roots_of: HashMap<(ViewId, bool), Vec<&FreeCoordinate>> = HashMap::new();
    for root in examined.free.iter().filter(|f| f.follows.is_none()) {
        let key = (root.view, root.tied);
        let roots = roots_of.entry(key).or_default();
        if roots.is_empty() {
            order.push(key);
        }
        roots.push(root);
    }
    // With their numbers, to be told in this order.
    let mut follows_of: HashMap<(ViewId, Coordinate), Vec<(usize, &FreeCoordinate)>> = HashMap::new();
    for (at, f) in examined.free.iter().enumerate() {
        if let Some(root) = f.follows {
            follows_of.entry(root).or_default().push((at, f));
        }
    }
    for key in order {
        let roots = &roots_of[&key];
        let root = roots[0];
        let mut follows: Vec<(usize, &FreeCoordinate)> =
            roots.iter().filter_map(|root| follows_of.get(&of(root))).flatten().copied().collect();
        follows.sort_by_key(|(at, _)| *at);
        let follows = follows.into_iter().map(|(_, f)| f).collect::<Vec<_>>();
        let finding = if root.tied {
            let mut rules: Vec<RuleRef> = roots.iter().flat_map(|r| r.rules.iter().copied()).collect();
            rules.sort();
            rules.dedup();
            Finding::warning(Code::Tie, RuleDetail::Tie).with_rules(rules)
        } else {
            let is_content = screen.at(root.view).guide() == Some(&Guide::ContentBox);
            let scroller = screen.at(root.view).parent().filter(|_| is_content);
            let underconstrained = RuleDetail::Underconstrained;
            let detail =
                scroller.map_or(underconstrained, |scroller| RuleDetail::NoScrollExtent { scroller });
            Finding::error(Code::Ambiguous, detail)
        };
        let mut finding = finding.about([root.view]).at(roots.iter().map(of).collect());
        finding.follows = follows.iter().map(of).collect();
        finding.ranges = roots.iter().chain(&follows).map(|f| (of(f), f.range)).collect();
        findings.push(finding);
    }
}

pub(crate) fn missed(screen: &Screen, placement: &Placement, findings: &mut Vec<Finding>) {
    for missed in &placement.missed {
        // A text that wraps is no longer snug, which is its business; one that is cut says so itself.
        let (RuleRef::Written { .. } | RuleRef::Arranged { .. }) = missed.rule else { continue };
        // Both halves of a pair, `size = 40`, give way as one; those of a rule stand together.
        let of_rule = |f: &&Finding| f.rules.iter().any(|part| part.written() == missed.rule.written());
        let same = findings.iter().rev().take_while(|f| f.code == Code::Missed && of_rule(f));
        let is_reported = missed.rule.written().is_some() && same.into_iter().any(|f| f.amount == missed.by);
        if missed.by <= VISIBLE || is_reported {
            continue;
        }
        let first = missed.rule.relation(screen).and_then(|r| r.terms().first().copied());
        let disputed = first.and_then(|t| match t.anchor {
            Anchor::View(v) => Some((v, t.coordinate)),
            _ => None,
        });
        let finding = Finding::note(Code::Missed, RuleDetail::GaveWay { by: missed.by });
        let finding = finding.about(owners(screen, &[missed.rule])).at(disputed.into_iter().collect());
        findings.push(finding.with_rules(vec![missed.rule]).by(missed.by));
    }
}

/// What did not settle, and whether the bound on the work was met before it could.
pub(crate) fn unsettled(placement: &Placement, findings: &mut Vec<Finding>) {
    for &view in &placement.unsettled {
        findings.push(Finding::error(Code::Unsettled, RuleDetail::Unsettled).about([view]));
    }
    if placement.hit_work_limit {
        findings.push(Finding::error(Code::Unsettled, RuleDetail::WorkLimit));
    }
}

/// Children that take a size from the view around them, while it takes its own from its children.
pub(crate) fn circular(examined: &Examination, findings: &mut Vec<Finding>) {
    for &Circular { view, child, coordinate, rule, counts } in &examined.circular {
        let finding = Finding::warning(Code::Collapse, RuleDetail::CircularSize { counts });
        let finding = finding.about([view, child]).at(vec![(child, coordinate)]);
        findings.push(finding.with_rules(vec![rule]).by(counts));
    }
}

/// Rows, columns and grids that place nothing, and spreading where no space is left.
pub(crate) fn arrangements(screen: &Screen, findings: &mut Vec<Finding>) {
    for (id, about) in screen.views() {
        let Some(arrangement) = about.arrangement() else { continue };
        let mut children = screen.arranging(id).peekable();
        let detail = if children.peek().is_none() {
            RuleDetail::NothingToArrange
        } else if arrangement.spread != Spread::Start {
            let shares = |child| {
                let share = screen.at(child).item().and_then(|i| i.share.as_ref());
                share.is_some_and(|share| share.most.is_none())
            };
            let spaces = about.spaces().iter().any(|(_, space)| matches!(space, Space::Flexible(_)));
            if !spaces && !children.any(shares) {
                continue;
            }
            RuleDetail::SpreadWithoutSpace
        } else {
            continue;
        };
        findings.push(Finding::note(Code::Idle, detail).about([id]));
    }
}

/// What is said of children of a row, column or grid where their parent is none, or another.
pub(crate) fn not_arranged(screen: &Screen, findings: &mut Vec<Finding>) {
    for (id, about) in screen.views() {
        if about.guide().is_some() {
            continue;
        }
        let parent = about.parent();
        // What a band arranges may need what is said.
        let is_banded = |view: ViewId| screen.arranged_in(view).next().is_some();
        let by = parent.and_then(|parent| screen.at(parent).arrangement());
        let (is_line, is_grid) = by.map_or((false, false), |a| (a.columns.is_none(), a.columns.is_some()));
        let mut words = Vec::new();
        if let Some(item) = about.item().filter(|_| !parent.is_some_and(is_banded)) {
            words.extend((item.share.is_some() && !is_line).then_some("share"));
            words.extend((item.cells.is_some() && !is_grid).then_some("cells"));
            let is_placed = is_line || is_grid;
            words.extend((item.sit.is_some() && !is_placed).then_some("sit"));
            words.extend((item.spare && !is_placed).then_some("spare"));
            words.extend((item.apart && !is_placed).then_some("apart"));
        }
        if !words.is_empty() {
            let detail = RuleDetail::NotArranged { words, parent };
            findings.push(Finding::note(Code::Idle, detail).about([id]));
        }
        let is_line = about.arrangement().is_some_and(|a| a.columns.is_none());
        if !about.spaces().is_empty() && !is_line && !is_banded(id) {
            let detail = RuleDetail::NotArranged { words: vec!["space"], parent: Some(id) };
            findings.push(Finding::note(Code::Idle, detail).about([id]));
        }
    }
}

/// Edges at a fraction of a box that lie on the edge of a guide on some displays and beside it on others:
/// nothing ties them to it.
pub(crate) fn beside_guides(screen: &Screen, placements: &[Placement]) -> Vec<Finding> {
    let mut findings = Vec::new();
    if !screen.views().any(|(_, view)| view.guide().is_some()) {
        return findings;
    }
    for (id, rule) in screen.rules() {
        let Some(owner) = rule.owner().filter(|&o| screen.at(o).guide().is_none()) else { continue };
        let edges =
            rule.relations().iter().enumerate().filter_map(|(i, r)| Some((i, fraction_of(r, owner)?)));
        for (relation, edge) in edges {
            let here = |p: &Placement| p.rules.contains(&id) && p.frame(owner).is_some();
            let counts: Vec<(usize, &Placement)> =
                placements.iter().enumerate().filter(|(_, p)| here(p)).collect();
            let touched = |p: &Placement| -> Vec<(Anchor, Coordinate)> {
                let (axis, is_near) = edge.along(p.display.direction());
                let frame = p.frame(owner).unwrap_or_default();
                let (near, far) = frame.along(axis, p.display.direction());
                let at = if is_near { near } else { far };
                let guides = guide_edges(p, screen, owner, axis);
                guides.iter().filter(|g| (g.at - at).abs() <= TOUCHES).map(|g| (g.anchor, g.edge)).collect()
            };
            let touched: Vec<_> = counts.iter().map(|(_, p)| touched(p)).collect();
            let everywhere = |edge: &&(Anchor, Coordinate)| touched.iter().all(|t| t.contains(edge));
            // Where two lie on one another, the one of the same side is named.
            let same_side = |(_, of): &&(Anchor, Coordinate)| *of == edge.coordinate();
            let all = || touched.iter().flatten();
            let Some(first) = all().find(same_side).or_else(|| all().next()) else { continue };
            if touched.iter().flatten().any(|edge| everywhere(&edge)) {
                continue;
            }
            let on = std::iter::zip(&counts, &touched).filter(|(_, t)| t.contains(first));
            let on: Vec<usize> = on.map(|((index, _), _)| *index).collect();
            let detail = DoubtDetail::BesideGuide { guide: first.0, edge: first.1 };
            let finding =
                Finding::note(Code::Bare, detail).about([owner]).at(vec![(owner, edge.coordinate())]);
            let finding = finding.with_rules(vec![RuleRef::Written { rule: id, relation }]);
            findings.push(Finding { worst: on.first().copied(), displays: on, ..finding });
        }
    }
    findings
}

/// An edge no further than this from another, in logical pixels, lies on it.
const TOUCHES: f64 = 0.01;

/// The side of the view that a relation puts at a fraction of another box.
fn fraction_of(relation: &Relation, owner: ViewId) -> Option<Side> {
    let [own] = relation.left.terms() else { return None };
    let side = Side::ALL.iter().find(|s| s.1 == own.coordinate && own.anchor == Anchor::View(owner))?.0;
    let is_fraction = |t: &Term| {
        let size = matches!(t.coordinate, Coordinate::Width | Coordinate::Height);
        size && t.anchor != Anchor::View(owner) && t.coefficient.fract() != 0.0
    };
    let fractions =
        relation.comparison == Comparison::Equal && relation.right.terms().iter().any(is_fraction);
    fractions.then_some(side)
}

/// Limits that cross: the least wins, so the most decides nothing.
pub(crate) fn crossed(screen: &Screen, placement: &Placement, findings: &mut Vec<Finding>) {
    for crossed in &placement.crossed_clamps {
        let finding = Finding::note(Code::Idle, DoubtDetail::CrossedLimits { by: crossed.by });
        let finding = finding.about(owners(screen, &[crossed.rule]));
        findings.push(finding.with_rules(vec![crossed.rule]).by(crossed.by));
    }
}

/// Edges that are measured from the screen's corner where that is hardly meant: a nested view's edge
/// tied to a bare number or to sizes alone, and positions that are multiplied.
pub(crate) fn bare(screen: &Screen, findings: &mut Vec<Finding>) {
    for (id, rule) in screen.rules() {
        let Some(owner) = rule.owner() else { continue };
        for (index, relation) in rule.relations().iter().enumerate() {
            let Some((edge, tied_to)) = measured_from_corner(screen, owner, relation) else {
                continue;
            };
            let finding = Finding::note(Code::Bare, DoubtDetail::FromCorner(tied_to));
            let finding = finding.about([owner]).at(vec![(owner, edge.coordinate)]);
            findings.push(finding.with_rules(vec![RuleRef::Written { rule: id, relation: index }]));
        }
    }
}

/// The owner's edge that a relation ties to something measured from the screen's corner, and to what.
fn measured_from_corner(screen: &Screen, owner: ViewId, relation: &Relation) -> Option<(Term, FromCorner)> {
    let sides = [(&relation.left, 1.0), (&relation.right, -1.0)];
    if sides.iter().any(|(e, _)| !e.picks().is_empty()) {
        return None;
    }
    let is_view = |t: &Term| !matches!(t.anchor, Anchor::Screen | Anchor::Safe | Anchor::Clear);
    let terms = || sides.iter().flat_map(|(e, sign)| e.terms().iter().map(move |t| (t, *sign)));
    let positions = || terms().filter(|(t, _)| t.coordinate.is_position());
    // Moving everything by as much must leave a rule as it is, or it is about the corner.
    let moved: f64 = positions().map(|(t, sign)| sign * t.coefficient).sum();
    let edge = positions().map(|(t, _)| *t).find(|t| t.anchor == Anchor::View(owner))?;
    if moved.abs() < COEFFICIENT {
        return None;
    }
    let is_nested = screen.at(owner).parent().is_some();
    let others: Vec<&Term> = terms().map(|(t, _)| t).filter(|t| t.anchor != Anchor::View(owner)).collect();
    let value = relation.left.constant() + relation.right.constant();
    match others.as_slice() {
        [] if is_nested && terms().count() == 1 => Some((edge, FromCorner::BareNumber(value))),
        [] => None,
        all if all.iter().any(|t| is_view(t) && t.coordinate.is_position()) => {
            Some((edge, FromCorner::MultipliedPositions))
        }
        all if is_nested && all.iter().all(|t| is_view(t)) => Some((edge, FromCorner::SizesAlone)),
        _ => None,
    }
}
