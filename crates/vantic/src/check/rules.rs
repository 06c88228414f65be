//! What the rules say: contradictions, open coordinates, what gave way, bare numbers.

use crate::finding::{Finding, Severity};
use crate::infer::guide_edges::guide_edges;
use crate::inspect::broken_rules::owners;
use crate::screen_ext::ScreenExt as _;
use vantic_core::model::{
    Anchor, Code, Comparison, Coordinate, Guide, Relation, RuleRef, Screen, Side, Space, Spread, Term, ViewId,
};
use vantic_core::plan::{Examination, FreeCoordinate, Placement};
use vantic_core::words::{interval_words, list, number, once};

/// What gave way by no more than this many logical pixels is not worth a word.
const WORTH_A_WORD: f64 = 0.005;

pub(crate) fn coordinate(screen: &Screen, view: ViewId, coordinate: Coordinate) -> String {
    format!("{}.{}", screen.path(view), coordinate.spelling())
}

pub(crate) fn conflicts(screen: &Screen, examined: &Examination, findings: &mut Vec<Finding>) {
    for contradiction in &examined.contradictions {
        let mut finding = Finding::new(Code::Conflict, Severity::Error);
        finding.rules = once(contradiction.rules.iter().map(|r| r.name(screen)));
        finding.views = owners(screen, &contradiction.rules);
        finding.rule_refs.clone_from(&contradiction.rules);
        finding.given = contradiction.nonnegatives.iter().map(|&(v, c)| coordinate(screen, v, c)).collect();
        // The coordinate in dispute is the one that the rule written last speaks of first.
        let mut rules = contradiction.rules.iter().rev();
        let last = rules.find_map(|&r| Some((r.relation(screen)?, r.owner(screen))));
        if let Some((term, owner)) = last.and_then(|(r, owner)| Some((*r.terms().first()?, owner))) {
            let view = match term.place {
                Anchor::View(v) => Some(v),
                _ => owner,
            };
            finding.coordinates.extend(view.map(|v| coordinate(screen, v, term.coordinate)));
        }
        // Where a size at zero takes part, the other required rules of that size may make it worse still.
        let wider = contradiction.without_nonnegativity.as_ref().map(|(rules, amount)| {
            let others = rules.iter().filter(|r| !contradiction.rules.contains(r));
            (once(others.map(|r| r.name(screen))), *amount)
        });
        let wider = wider.filter(|(others, amount)| !others.is_empty() && *amount > contradiction.amount);
        finding.amount = wider.as_ref().map_or(contradiction.amount, |w| w.1);
        let alone = number(contradiction.amount);
        let total = number(finding.amount);
        finding.message = match (finding.rules.as_slice(), finding.given.as_slice(), wider) {
            ([one], [], _) => format!("`{one}` contradicts itself by {alone}"),
            (rules, [], _) => format!("{} cannot all hold: they are off by {alone}", list(rules)),
            (rules, [given], None) => {
                format!("{} cannot hold: `{given}` would be -{alone}", list(rules))
            }
            (rules, given, None) => {
                format!("{} cannot hold: {} together would be -{alone}", list(rules), list(given))
            }
            (rules, given, Some((others, _))) => format!(
                "{} cannot all hold: with {} they are off by {total}, and without it {} would still be \
                 -{alone}",
                list(rules),
                list(&others),
                list(given)
            ),
        };
        finding.help =
            "remove one of them, turn one into `<=` or `>=`, or make one a preference with a level".into();
        findings.push(finding);
    }
}

/// One finding for each view with a root cause; what follows is folded under it.
pub(crate) fn open_coordinates(screen: &Screen, examined: &Examination, findings: &mut Vec<Finding>) {
    let free = &examined.free;
    let mut done: Vec<(ViewId, bool)> = Vec::new();
    for root in free.iter().filter(|f| f.follows.is_none()) {
        let key = (root.view, root.tied);
        if done.contains(&key) {
            continue;
        }
        done.push(key);
        let same = |f: &&FreeCoordinate| f.follows.is_none() && f.view == root.view && f.tied == root.tied;
        let roots: Vec<&FreeCoordinate> = free.iter().filter(same).collect();
        let follows: Vec<&FreeCoordinate> = free
            .iter()
            .filter(|f| f.follows.is_some_and(|to| roots.iter().any(|r| (r.view, r.coordinate) == to)))
            .collect();
        let code = if root.tied { Code::Tie } else { Code::Ambiguous };
        let severity = if root.tied { Severity::Warning } else { Severity::Error };
        let mut finding = Finding::new(code, severity);
        let name = |f: &&FreeCoordinate| coordinate(screen, f.view, f.coordinate);
        finding.views = vec![screen.path(root.view)];
        finding.coordinates = roots.iter().map(name).collect();
        finding.follows = follows.iter().map(name).collect();
        finding.ranges = roots.iter().chain(&follows).map(|f| (name(f), f.range)).collect();
        if root.tied {
            tie(screen, &roots, &mut finding);
        } else {
            ambiguous(screen, &roots, &mut finding);
        }
        findings.push(finding);
    }
}

fn ambiguous(screen: &Screen, roots: &[&FreeCoordinate], finding: &mut Finding) {
    let view = screen.path(roots[0].view);
    let open: Vec<String> = roots
        .iter()
        .map(|f| format!("{} can be {}", f.coordinate.spelling(), interval_words(f.range)))
        .collect();
    finding.message = format!("`{view}` is underconstrained: {}", open.join(", "));
    // What is free along one axis together, roots and what follows of the same view, says what is missing.
    let open = |c: Coordinate| finding.ranges.contains_key(&format!("{view}.{}", c.spelling()));
    let mut help = Vec::new();
    help.extend(match (open(Coordinate::Left), open(Coordinate::Width)) {
        (true, true) => Some("a width, or a pin to one more side"),
        (true, false) => Some("a pin to the left, the right or a middle"),
        (false, true) => Some("a width, or a pin to the other side"),
        (false, false) => None,
    });
    help.extend(match (open(Coordinate::Top), open(Coordinate::Height)) {
        (true, true) => Some("a height, or a pin to the top or bottom"),
        (true, false) => Some("a pin to the top, the bottom or a middle"),
        (false, true) => Some("a height, or a pin to the other side"),
        (false, false) => None,
    });
    let joint = if roots.len() == 1 { "; or " } else { "; and " };
    finding.help = format!("give `{view}` {}", help.join(joint));
    if let Some(scroller) =
        screen.at(roots[0].view).parent().filter(|_| is_content_box(screen, roots[0].view))
    {
        let of = screen.path(scroller);
        let end = if open(Coordinate::Height) { "bottom" } else { "end" };
        let open = roots.iter().map(|f| {
            format!("`{}` can be {}", coordinate(screen, f.view, f.coordinate), interval_words(f.range))
        });
        finding.message = format!("`{of}` has no scroll extent: {}", open.collect::<Vec<_>>().join(", "));
        finding.help =
            format!("define in `{of}` where its content ends, such as `content.{end} = last.{end} + 16`");
    }
    let own = format!("{view}.");
    let others: Vec<String> = finding
        .follows
        .iter()
        .filter(|f| f.strip_prefix(&own).is_none_or(|c| c.contains('.')))
        .cloned()
        .collect();
    if !others.is_empty() {
        finding.help += &format!("; that also fixes {}", list(&others));
    }
}

/// Whether it is the box of what a view scrolls.
fn is_content_box(screen: &Screen, view: ViewId) -> bool {
    screen.at(view).guide() == Some(&Guide::ContentBox)
}

fn tie(screen: &Screen, roots: &[&FreeCoordinate], finding: &mut Finding) {
    let mut rules: Vec<RuleRef> = roots.iter().flat_map(|r| r.rules.iter().copied()).collect();
    rules.sort();
    rules.dedup();
    finding.rules = once(rules.iter().map(|r| r.name(screen)));
    finding.rule_refs.clone_from(&rules);
    let texts: Vec<ViewId> = rules
        .iter()
        .filter_map(|r| match r {
            RuleRef::Snug(v) | RuleRef::Whole(v) => Some(*v),
            RuleRef::Written { .. } | RuleRef::Arranged { .. } => None,
        })
        .collect();
    let ranges: Vec<String> = roots
        .iter()
        .map(|f| format!("`{}` can be {}", coordinate(screen, f.view, f.coordinate), interval_words(f.range)))
        .collect();
    let levels = once(rules.iter().filter_map(|r| r.level(screen)).map(str::to_owned));
    if texts.len() == rules.len() && !texts.is_empty() {
        let names = once(texts.iter().map(|&v| screen.path(v)));
        finding.message = format!("{} do not fit together: {}", list(&names), ranges.join(", "));
        finding.help =
            "choose which gives way: `snug ~ level` or `snug weight 2` in the one that keeps its size, or a \
             rule that divides the space"
                .into();
    } else {
        let on = list(&levels);
        finding.message = format!("{} conflict on level {on}: {}", list(&finding.rules), ranges.join(", "));
        finding.help = "put one of them on a weaker level, or give them different weights".into();
    }
    finding.message += "; the first one currently wins";
}

pub(crate) fn missed(screen: &Screen, placement: &Placement, findings: &mut Vec<Finding>) {
    for missed in &placement.missed {
        // A text that wraps is no longer snug, which is its business; one that is cut says so itself.
        let (RuleRef::Written { .. } | RuleRef::Arranged { .. }) = missed.rule else { continue };
        // Both halves of a pair, `size = 40`, give way as one; those of a rule stand together.
        let of_rule = |f: &&Finding| f.rule_refs.iter().any(|part| part.written() == missed.rule.written());
        let same = findings.iter().rev().take_while(|f| f.code == Code::Missed && of_rule(f));
        let is_reported = missed.rule.written().is_some() && same.into_iter().any(|f| f.amount == missed.by);
        if missed.by <= WORTH_A_WORD || is_reported {
            continue;
        }
        let mut finding = Finding::new(Code::Missed, Severity::Note);
        let name = missed.rule.name(screen);
        let level = missed.rule.level(screen).unwrap_or_default();
        finding.message = format!("`{name}` on level `{level}` gave way by {}", number(missed.by));
        finding.help = "nothing to do if that is intended; a stronger level would let it hold".into();
        finding.views = owners(screen, &[missed.rule]);
        finding.coordinates = missed
            .rule
            .relation(screen)
            .and_then(|r| r.terms().first().copied())
            .and_then(|t| match t.place {
                Anchor::View(v) => Some(coordinate(screen, v, t.coordinate)),
                _ => None,
            })
            .into_iter()
            .collect();
        finding.rules = vec![name];
        finding.rule_refs = vec![missed.rule];
        finding.amount = missed.by;
        findings.push(finding);
    }
    for &view in &placement.unsettled {
        let mut finding = Finding::new(Code::Unsettled, Severity::Error);
        let path = screen.path(view);
        (finding.message, finding.help) = match screen.at(view).text() {
            Some(_) => (
                format!("the lines of `{path}` do not converge: its width depends on its height"),
                "give the text a width that does not depend on its height".into(),
            ),
            None => (
                format!("the children of `{path}` do not converge: their sizes depend on their positions"),
                "give the children sizes that do not depend on their line or their share".into(),
            ),
        };
        finding.views = vec![path];
        findings.push(finding);
    }
    if placement.hit_work_limit {
        let mut finding = Finding::new(Code::Unsettled, Severity::Error);
        finding.message =
            "too many rules depend on one another to find the best frames; these are not the best".into();
        finding.help =
            "turn preferences that nothing depends on into required rules, or split the screen".into();
        findings.push(finding);
    }
}

/// Views that take their size from their children, while a child takes its own from them.
pub(crate) fn collapsed(screen: &Screen, examined: &Examination, findings: &mut Vec<Finding>) {
    for found in &examined.collapsed {
        let (view, child) = (screen.path(found.view), screen.path(found.child));
        let size = found.coordinate.spelling();
        let mut finding = Finding::new(Code::Collapse, Severity::Error);
        let takes = match found.fills {
            true => format!("`{child}` takes its own from `{view}`"),
            false => format!("`{child}` has none of its own"),
        };
        finding.message =
            format!("`{view}` takes its {size} from its children, while {takes}: it collapses to zero");
        finding.help = format!(
            "give `{child}` a {size} of its own, or `{view}` one that does not come from its children"
        );
        finding.coordinates = vec![coordinate(screen, found.child, found.coordinate)];
        finding.rules = vec![RuleRef::Arranged { view: found.view, child: found.child }.name(screen)];
        finding.views = vec![view, child];
        findings.push(finding);
    }
}

/// Children that take a size from the view around them, while it takes its own from its children.
pub(crate) fn circular(screen: &Screen, examined: &Examination, findings: &mut Vec<Finding>) {
    for found in &examined.circular {
        let (view, child) = (screen.path(found.view), screen.path(found.child));
        let size = found.coordinate.spelling();
        let mut finding = Finding::new(Code::Collapse, Severity::Warning);
        finding.message = format!(
            "`{view}` takes its {size} from its children, while `{child}` takes a share of that: the size of \
             the others counts {} times",
            number(found.counts)
        );
        finding.help = format!(
            "give `{child}` a {size} of its own, or `{view}` one that does not come from its children"
        );
        finding.coordinates = vec![coordinate(screen, found.child, found.coordinate)];
        finding.rules = vec![found.rule.name(screen)];
        finding.rule_refs = vec![found.rule];
        finding.amount = found.counts;
        finding.views = vec![view, child];
        findings.push(finding);
    }
}

/// Rows, columns and grids that place nothing, and spreading where no space is left.
pub(crate) fn arrangements(screen: &Screen, findings: &mut Vec<Finding>) {
    for (id, about) in screen.views() {
        let Some(arrangement) = about.arrangement() else { continue };
        let (path, word) = (screen.path(id), arrangement.word());
        let mut children = screen.arranging(id).peekable();
        let mut finding = Finding::new(Code::Idle, Severity::Note);
        if children.peek().is_none() {
            finding.message = format!("the {word} of `{path}` has no children to place");
            finding.help = "declare views in it, or remove the line".into();
        } else if arrangement.spread != Spread::Start {
            let shares = |child| {
                let share = screen.at(child).item().and_then(|i| i.share.as_ref());
                share.is_some_and(|share| share.most.is_none())
            };
            let spaces = about.spaces().iter().any(|(_, space)| matches!(space, Space::Flexible(_)));
            if !spaces && !children.any(shares) {
                continue;
            }
            finding.message = format!(
                "`spread {}` of `{path}` has no effect: its children take all the space",
                arrangement.spread.spelling()
            );
            finding.help = "remove the clause, or the shares".into();
        } else {
            continue;
        }
        finding.rules = vec![format!("{path}.{word}")];
        finding.views = vec![path];
        findings.push(finding);
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
            let here = |p: &&Placement| p.rules.contains(&id) && p.frame(owner).is_some();
            let counts: Vec<&Placement> = placements.iter().filter(here).collect();
            let touched = |p: &Placement| -> Vec<(Anchor, Coordinate)> {
                let (axis, is_near) = edge.along(p.display.direction());
                let frame = p.frame(owner).unwrap_or_default();
                let (near, far) = frame.along(axis, p.display.direction());
                let at = if is_near { near } else { far };
                let guides = guide_edges(p, screen, owner, axis);
                guides.iter().filter(|g| (g.at - at).abs() <= TOUCHES).map(|g| (g.place, g.edge)).collect()
            };
            let touched: Vec<_> = counts.iter().map(|p| touched(p)).collect();
            let everywhere = |edge: &&(Anchor, Coordinate)| touched.iter().all(|t| t.contains(edge));
            // Where two lie on one another, the one of the same side is named.
            let same_side = |(_, of): &&(Anchor, Coordinate)| *of == edge.coordinate();
            let all = || touched.iter().flatten();
            let Some(first) = all().find(same_side).or_else(|| all().next()) else { continue };
            if touched.iter().flatten().any(|edge| everywhere(&edge)) {
                continue;
            }
            let part = RuleRef::Written { rule: id, relation };
            let mut finding = Finding::new(Code::Bare, Severity::Note);
            let (name, target) =
                (screen.rule_name(id), screen.coordinate_text(first.0, first.1, Some(owner)));
            let spelled = edge.coordinate().spelling();
            finding.message = format!(
                "`{name}` puts {spelled} at a fraction of a box: it lies on `{target}` here and beside it \
                 elsewhere"
            );
            finding.help = format!("write `{spelled} = {target}` if it belongs on the guide");
            finding.views = vec![screen.path(owner)];
            finding.coordinates = vec![coordinate(screen, owner, edge.coordinate())];
            finding.rules = vec![name];
            finding.rule_refs = vec![part];
            let on = std::iter::zip(&counts, &touched).filter(|(_, t)| t.contains(first));
            finding.displays = on.map(|(p, _)| p.display.name().to_owned()).collect();
            finding.worst = finding.displays.first().cloned().unwrap_or_default();
            findings.push(finding);
        }
    }
    findings
}

/// An edge no further than this from another, in logical pixels, lies on it.
const TOUCHES: f64 = 0.01;

/// The side of the view that a relation puts at a fraction of another box.
fn fraction_of(relation: &Relation, owner: ViewId) -> Option<Side> {
    let [own] = relation.left.terms() else { return None };
    let side = Side::ALL.iter().find(|s| s.1 == own.coordinate && own.place == Anchor::View(owner))?.0;
    let is_fraction = |t: &Term| {
        let size = matches!(t.coordinate, Coordinate::Width | Coordinate::Height);
        size && t.place != Anchor::View(owner) && t.coefficient.fract() != 0.0
    };
    let fractions =
        relation.comparison == Comparison::Equal && relation.right.terms().iter().any(is_fraction);
    fractions.then_some(side)
}

/// Limits that cross: the least wins, so the most decides nothing.
pub(crate) fn crossed(screen: &Screen, placement: &Placement, findings: &mut Vec<Finding>) {
    for crossed in &placement.crossed_clamps {
        let mut finding = Finding::new(Code::Idle, Severity::Note);
        let name = crossed.rule.name(screen);
        finding.message =
            format!("in `{name}` the minimum is {} above the maximum: the minimum wins", number(crossed.by));
        finding.help =
            "nothing to do if that is intended; otherwise lower the minimum or raise the maximum".into();
        finding.views = owners(screen, &[crossed.rule]);
        finding.rules = vec![name];
        finding.rule_refs = vec![crossed.rule];
        finding.amount = crossed.by;
        findings.push(finding);
    }
}

/// Edges that are measured from the screen's corner where that is hardly meant: a nested view's edge
/// tied to a bare number or to sizes alone, and positions that are multiplied.
pub(crate) fn bare(screen: &Screen, findings: &mut Vec<Finding>) {
    for (id, rule) in screen.rules() {
        let Some(owner) = rule.owner() else { continue };
        for (index, relation) in rule.relations().iter().enumerate() {
            let Some((edge, what)) = measured_from_corner(screen, owner, relation) else { continue };
            let spelled = edge.coordinate.spelling();
            let mut finding = Finding::new(Code::Bare, Severity::Note);
            let name = screen.rule_name(id);
            let around = screen.at(owner).parent().map(|p| format!("`{}`", screen.path(p)));
            let from = around.clone().unwrap_or_else(|| "the other view".into());
            finding.message = format!(
                "`{name}` ties {spelled} to {what}, measured from the screen's corner and not from {from}"
            );
            finding.help = match around {
                Some(around) => {
                    let sign = relation.comparison.spelling();
                    format!("write `{spelled} {sign} parent.{spelled} + ...` if {around} was meant")
                }
                None => "multiply sizes or distances such as `a.left - b.right`, not positions".into(),
            };
            finding.views = vec![screen.path(owner)];
            finding.coordinates = vec![coordinate(screen, owner, edge.coordinate)];
            finding.rules = vec![name];
            finding.rule_refs = vec![RuleRef::Written { rule: id, relation: index }];
            findings.push(finding);
        }
    }
}

/// The owner's edge that a relation ties to something measured from the screen's corner, and to what.
fn measured_from_corner(screen: &Screen, owner: ViewId, relation: &Relation) -> Option<(Term, String)> {
    let sides = [(&relation.left, 1.0), (&relation.right, -1.0)];
    if sides.iter().any(|(e, _)| !e.picks().is_empty()) {
        return None;
    }
    let is_view = |t: &Term| !matches!(t.place, Anchor::Screen | Anchor::Safe | Anchor::Clear);
    let terms = || sides.iter().flat_map(|(e, sign)| e.terms().iter().map(move |t| (t, *sign)));
    let positions = || terms().filter(|(t, _)| t.coordinate.is_position());
    // Moving everything by as much must leave a rule as it is, or it is about the corner.
    let moved: f64 = positions().map(|(t, sign)| sign * t.coefficient).sum();
    let edge = positions().map(|(t, _)| *t).find(|t| t.place == Anchor::View(owner))?;
    if moved.abs() < 1e-9 {
        return None;
    }
    let is_nested = screen.at(owner).parent().is_some();
    let others: Vec<&Term> = terms().map(|(t, _)| t).filter(|t| t.place != Anchor::View(owner)).collect();
    let value = number(relation.left.constant() + relation.right.constant());
    match others.as_slice() {
        [] if is_nested && terms().count() == 1 => Some((edge, format!("the bare number {value}"))),
        [] => None,
        all if all.iter().any(|t| is_view(t) && t.coordinate.is_position()) => {
            Some((edge, "positions that are multiplied".into()))
        }
        all if is_nested && all.iter().all(|t| is_view(t)) => Some((edge, "sizes alone".into())),
        _ => None,
    }
}
