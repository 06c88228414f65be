//! Slips of the hand: left and right in a screen that is read from right to left too, a screen that is
//! drawn for one orientation only, what does not scroll with its parent, what is tied to the screen within
//! something turned.

use crate::finding::detail::{DeclaredDetail, DoubtDetail, FrameDetail};
use crate::finding::{Finding, Location};
use crate::screen_ext::ScreenExt as _;
use std::collections::{BTreeMap, BTreeSet, HashSet};
use vantic_core::model::{
    Anchor, Code, Comparison, Coordinate, Expr, RuleId, RuleRef, Screen, Term, ViewId, pick,
};
use vantic_core::plan::Placement;

/// Views that rules tie to the left or the right in a screen that has a language read from right to left,
/// where they stay on that side; those of one parent are reported together. Where the rules of a view are
/// alike on both sides, it lies the same in both directions.
pub(crate) fn sided(screen: &Screen, findings: &mut Vec<Finding>) {
    let Some(language) = screen.languages().iter().position(|l| l.is_right_to_left()) else { return };
    let mut by_view: BTreeMap<ViewId, Vec<(RuleId, usize)>> = BTreeMap::new();
    for (rule, about) in screen.rules() {
        let Some(owner) = about.owner() else { continue };
        for (relation, said) in about.relations().iter().enumerate() {
            let is_sided = |t: &Term| matches!(t.coordinate, Coordinate::Left | Coordinate::Right);
            if said.terms().iter().any(is_sided) {
                by_view.entry(owner).or_default().push((rule, relation));
            }
        }
    }
    by_view.retain(|_, rules| !is_even(screen, rules));
    let mut families: BTreeMap<Option<ViewId>, (Vec<ViewId>, Vec<RuleRef>)> = BTreeMap::new();
    for (view, rules) in by_view {
        let (views, all) = families.entry(screen.at(view).parent()).or_default();
        views.push(view);
        all.extend(rules.into_iter().map(|(rule, relation)| RuleRef::Written { rule, relation }));
    }
    for (views, rules) in families.into_values() {
        let mut finding = Finding::note(Code::Odd, DoubtDetail::Sided { language });
        finding.locations = vec![Location::Language(language)];
        findings.push(finding.about(views).with_rules(rules));
    }
}

/// Whether relations say the same once left and right are exchanged.
fn is_even(screen: &Screen, rules: &[(RuleId, usize)]) -> bool {
    let of = |mirrored: bool| {
        let said = |(rule, relation): &(RuleId, usize)| {
            let said = &screen.rule_at(*rule).relations()[*relation];
            let flip = |e: Expr| if mirrored { reflected(&e) } else { e };
            let difference = flip(said.left.clone() - said.right.clone());
            let (plus, minus) = (read(&difference), read(&(difference * -1.0)));
            // An equality reads the same with both signs, and `at least` as `at most` with the other one.
            let (sign, said_as) = match said.comparison {
                Comparison::Equal => ('=', plus.min(minus)),
                Comparison::AtLeast => ('>', plus),
                Comparison::AtMost => ('>', minus),
            };
            format!("{sign}{said_as}{:?}", said.strength())
        };
        rules.iter().map(said).collect::<BTreeSet<String>>()
    };
    of(true) == of(false)
}

/// An expression in the picture that a mirror makes: what is left is right, as far from the other side.
fn reflected(expr: &Expr) -> Expr {
    let mut mirror = Expr::from(expr.constant());
    for &(coefficient, value) in expr.values() {
        mirror += Expr::of_value(value) * coefficient;
    }
    for term in expr.terms() {
        let (sign, coordinate) = match term.coordinate {
            Coordinate::Left => (-1.0, Coordinate::Right),
            Coordinate::Right => (-1.0, Coordinate::Left),
            Coordinate::CenterX => (-1.0, Coordinate::CenterX),
            other => (1.0, other),
        };
        mirror += Expr::of(term.anchor, coordinate) * (sign * term.coefficient);
    }
    for choice in expr.picks() {
        let of = choice.of.iter().map(reflected).collect();
        mirror += pick(choice.pick, of) * choice.coefficient;
    }
    mirror
}

/// An expression as one text, whatever the order of its terms.
fn read(expr: &Expr) -> String {
    let mut parts: Vec<String> = Vec::new();
    // The middle is half of both edges.
    let mut terms: BTreeMap<String, f64> = BTreeMap::new();
    for term in expr.terms() {
        let mut add = |coordinate, c: f64| {
            *terms.entry(format!("{:?} {coordinate:?}", term.anchor)).or_default() += c;
        };
        match term.coordinate {
            Coordinate::CenterX => {
                add(Coordinate::Left, term.coefficient / 2.0);
                add(Coordinate::Right, term.coefficient / 2.0);
            }
            Coordinate::Width => {
                add(Coordinate::Right, term.coefficient);
                add(Coordinate::Left, -term.coefficient);
            }
            other => add(other, term.coefficient),
        }
    }
    let rounded = |x: f64| (x * 1e6).round() / 1e6 + 0.0;
    parts.extend(
        terms.into_iter().filter(|(_, c)| rounded(*c) != 0.0).map(|(of, c)| format!("{of} {}", rounded(c))),
    );
    parts.extend(expr.values().iter().map(|(c, value)| format!("{value:?} {}", rounded(*c))));
    parts.extend(expr.picks().iter().map(|choice| {
        let mut of: Vec<String> = choice.of.iter().map(read).collect();
        of.sort();
        format!("{:?} {} {of:?}", choice.pick, rounded(choice.coefficient))
    }));
    parts.sort();
    format!("{parts:?} {}", rounded(expr.constant()))
}

/// A screen that is drawn for one orientation, on a display of the other.
pub(crate) fn other_orientation(screen: &Screen, placement: &Placement, findings: &mut Vec<Finding>) {
    let Some(design) = screen.design().filter(|design| !design.is_for(&placement.display)) else { return };
    let (width, height) = design.size;
    let detail = DeclaredDetail::OtherOrientation { width, height, scale: placement.scale() };
    findings.push(Finding::warning(Code::Odd, detail).by((1.0 - placement.scale()).abs()));
}

/// Views that stay where they are while their parent scrolls, though they say nothing of it.
pub(crate) fn staying(
    screen: &Screen,
    placement: &Placement,
    fixed: &HashSet<ViewId>,
    findings: &mut Vec<Finding>,
) {
    let is_declared = |view: ViewId| {
        let (about, look) = (screen.at(view), placement.look(view));
        let is_apart = about.item().is_some_and(|item| item.apart);
        is_apart || look.floats || look.depth > 0.0 || !about.sticks().is_empty()
    };
    for (view, about) in screen.views().filter(|(view, _)| fixed.contains(view)) {
        if let Some(parent) = about.parent().filter(|_| placement.is_painted(view) && !is_declared(view)) {
            findings.push(Finding::note(Code::Odd, FrameDetail::Stays { parent }).about([view]));
        }
    }
}

/// Views that are tied to the screen while something around them is turned or scaled, so that they are
/// painted elsewhere.
pub(crate) fn tied_within_turned(screen: &Screen, placement: &Placement, findings: &mut Vec<Finding>) {
    let is_screen = |t: &Term| {
        t.coordinate.is_position() && matches!(t.anchor, Anchor::Screen | Anchor::Safe | Anchor::Clear)
    };
    let mut told: HashSet<ViewId> = HashSet::new();
    for &rule in &placement.rules {
        let about = screen.rule_at(rule);
        let Some(owner) = about.owner().filter(|&owner| placement.is_painted(owner)) else { continue };
        let turned = screen.ancestors(owner).find(|&v| !placement.look(v).paint.is_plain());
        let tied = about.relations().iter().position(|r| r.terms().iter().any(is_screen));
        if let (Some(around), Some(relation)) = (turned, tied)
            && told.insert(owner)
        {
            let finding = Finding::note(Code::Odd, FrameDetail::PaintedElsewhere { around });
            findings.push(finding.about([owner]).with_rules(vec![RuleRef::Written { rule, relation }]));
        }
    }
}
