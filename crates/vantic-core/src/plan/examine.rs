//! What is open or contradictory about a placement, and what collapses to zero.

use crate::geometry::axis::Axis;
use crate::geometry::interval::Interval;
use crate::model::coordinate::Coordinate;
use crate::model::id::{RuleId, ViewId};
use crate::model::rule_ref::RuleRef;
use crate::model::screen::Screen;
use crate::plan::canvas::Canvas;
use crate::plan::compile::compiled::Compiled;
use crate::plan::compile::given_sizes::GivenSizes;
use crate::plan::compile::origins::Origin;
use crate::plan::compile::planned::Planned;
use crate::plan::error::PlaceError;
use crate::plan::place::choosing::{WarmStart, solve_to_fixpoint};
use crate::plan::place::fixpoint::TextFixpoint;
use crate::plan::place::placement::Placement;
use crate::text::measure::Measure;
use crate::tolerance::PLACED;
use std::collections::{BTreeMap, HashMap, HashSet};
use vantic_solver::{Free, FreeKind, Outcome, work};

/// A coordinate with more than one best value.
#[derive(Clone, Debug, PartialEq)]
pub struct FreeCoordinate {
    /// The view.
    pub view: ViewId,
    /// `Left`, `Top`, `Width` or `Height`.
    pub coordinate: Coordinate,
    /// Whether it is free only because preferences on one level conflict.
    pub tied: bool,
    /// Its best values, from and to; `None` for no bound.
    pub range: Interval,
    /// The free coordinate it follows from; `None` for a root cause.
    pub follows: Option<(ViewId, Coordinate)>,
    /// For a tied root cause: the preferences that pull.
    pub rules: Vec<RuleRef>,
}

/// Required rules that cannot hold together; without any one of them the rest can.
#[derive(Clone, Debug, PartialEq)]
pub struct Contradiction {
    /// The required rules, in written order.
    pub rules: Vec<RuleRef>,
    /// The sizes whose being at least zero takes part.
    pub nonnegatives: Vec<(ViewId, Coordinate)>,
    /// How far from holding together they are, in logical pixels.
    pub amount: f64,
    /// Where sizes at zero take part: the required rules that contradict one another even without them, and
    /// by how much.
    pub without_nonnegativity: Option<(Vec<RuleRef>, f64)>,
}

/// A placement, and what is open or contradictory about it.
#[derive(Clone, Debug, PartialEq)]
pub struct Examination {
    /// The placement.
    pub placement: Placement,
    /// The free coordinates; those that others follow from come first.
    pub free: Vec<FreeCoordinate>,
    /// The required rules that cannot hold together.
    pub contradictions: Vec<Contradiction>,
    /// The required rules that are implied by others here: they hold, and none of them is needed for it.
    pub implied: Vec<RuleRef>,
    /// The children that collapse to zero, since the view around them is as small as they let it be.
    pub collapsed: Vec<Collapsed>,
    /// The children that take a size from the view around them, while it takes its own from them.
    pub circular: Vec<Circular>,
    /// Whether the bound on the work was met, so that something may be missing here.
    pub in_part: bool,
}

/// A view that takes its size from its children, and a child that has none of its own and collapses to zero.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Collapsed {
    /// The view.
    pub view: ViewId,
    /// The child.
    pub child: ViewId,
    /// `Width` or `Height`.
    pub coordinate: Coordinate,
    /// Whether the child takes its size from the view.
    pub fills: bool,
    /// Whether rules give the view its own size, so that only its rows, columns or lines take theirs from
    /// its children.
    pub is_given: bool,
}

/// A child that takes a size from the view around it, while that takes its own from its children: each goes
/// by the other.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Circular {
    /// The view.
    pub view: ViewId,
    /// The child.
    pub child: ViewId,
    /// `Width` or `Height`.
    pub coordinate: Coordinate,
    /// The rule that gives the child its size.
    pub rule: RuleRef,
    /// How many times what else it takes counts in the view's size.
    pub counts: f64,
}

/// An examination, and whether each of some relations decides nothing; `None` where that cannot be said.
pub(crate) type Examined = (Examination, Vec<Option<bool>>);

pub(crate) fn examine(
    screen: &Screen,
    planned: &Planned,
    canvas: &Canvas<'_>,
    measure: &dyn Measure,
    warm: &mut WarmStart,
    relations: &[(RuleId, usize)],
    is_worth_it: &dyn Fn(&Placement) -> bool,
) -> Result<Option<Examined>, PlaceError> {
    solve_to_fixpoint(screen, planned, canvas, measure, warm, |settled, compiled| {
        let (outcome, gave_up) = settled.chooser.outcome();
        let placement = settled.placement(screen, compiled, canvas, &outcome, gave_up);
        is_worth_it(&placement).then(|| examined(screen, compiled, placement, &outcome, settled, relations))
    })
}

fn examined(
    screen: &Screen,
    compiled: &Compiled,
    placement: Placement,
    outcome: &Outcome,
    settled: &mut TextFixpoint<'_>,
    relations: &[(RuleId, usize)],
) -> Examined {
    let (free, clashes, stopped) = settled.chooser.diagnose();
    let idle = idle(settled, outcome, compiled, open(&free), relations);
    let collapsed = collapsed(screen, compiled, settled, outcome, &free);
    let circular = circular(screen, compiled, settled, outcome);
    let rules = |ids: &[vantic_solver::RuleId]| -> Vec<RuleRef> {
        let mut rules: Vec<RuleRef> = ids.iter().map(|r| compiled.origins[r.index()].into()).collect();
        rules.dedup();
        rules
    };
    let meaning = |var: vantic_solver::VarId| compiled.meanings[var.index()];
    let free = free.iter().map(|f| FreeCoordinate {
        view: meaning(f.var).0,
        coordinate: meaning(f.var).1,
        tied: f.kind == FreeKind::Tied,
        range: [f.range.0, f.range.1],
        follows: f.follows.map(meaning),
        rules: rules(&f.rules),
    });
    let contradictions = clashes.iter().map(|c| Contradiction {
        rules: rules(&c.rules),
        // The unit of shares is no coordinate.
        nonnegatives: c
            .nonnegatives
            .iter()
            .filter_map(|v| compiled.meanings.get(v.index()).copied())
            .collect(),
        amount: c.amount,
        without_nonnegativity: c
            .without_nonnegativity
            .as_ref()
            .map(|(without_nonnegativity, amount)| (rules(without_nonnegativity), *amount)),
    });
    let (free, contradictions) = (by_sizes(free.collect()), contradictions.collect());
    let implied = implied(compiled, settled, outcome);
    let in_part = stopped || work::is_short();
    (Examination { placement, free, contradictions, implied, collapsed, circular, in_part }, idle)
}

/// Where a position is open only together with a size of its view, the size is the cause: it is what lacks a
/// rule.
fn by_sizes(free: Vec<FreeCoordinate>) -> Vec<FreeCoordinate> {
    type Of = (ViewId, Coordinate);
    let of = |f: &FreeCoordinate| (f.view, f.coordinate);
    let at: HashMap<Of, usize> = free.iter().enumerate().map(|(at, f)| (of(f), at)).collect();
    let mut causes: HashMap<Of, (usize, Of)> = HashMap::new();
    for (root, f) in free.iter().enumerate().filter(|(_, f)| f.follows.is_none() && !f.tied) {
        let sizes = match f.coordinate {
            Coordinate::Left => [Coordinate::Width, Coordinate::Height],
            Coordinate::Top => [Coordinate::Height, Coordinate::Width],
            _ => continue,
        };
        let mut sizes = sizes.iter().filter_map(|&size| at.get(&(f.view, size)).copied());
        let cause = sizes.find(|&size| free[size].follows == Some(of(f)));
        if let Some(cause) = cause.filter(|&cause| cause > root) {
            causes.insert(of(f), (cause, of(&free[cause])));
        }
    }
    if causes.is_empty() {
        return free;
    }
    let mut left: Vec<Option<FreeCoordinate>> = free.into_iter().map(Some).collect();
    let mut all = Vec::with_capacity(left.len());
    for at in 0..left.len() {
        let Some(mut f) = left[at].take() else { continue };
        match causes.get(&of(&f)) {
            Some(&(at, cause)) => {
                all.extend(left[at].take().map(|first| FreeCoordinate { follows: None, ..first }));
                f.follows = Some(cause);
            }
            None => f.follows = f.follows.map(|root| causes.get(&root).map_or(root, |cause| cause.1)),
        }
        all.push(f);
    }
    all
}

fn required_rules_hold(settled: &TextFixpoint<'_>, outcome: &Outcome) -> bool {
    outcome.level_totals.first().is_none_or(|&total| total <= settled.chooser.tolerance())
}

/// Equalities that have to hold, do, and decide nothing: others imply them.
fn implied(compiled: &Compiled, settled: &mut TextFixpoint<'_>, outcome: &Outcome) -> Vec<RuleRef> {
    // Where required rules contradict one another, or something is chosen, it is not clear what implies what.
    if !required_rules_hold(settled, outcome) || !compiled.picks.is_empty() {
        return Vec::new();
    }
    let mut all = Vec::new();
    for (index, (_, relation, level, _)) in compiled.problem.rules().enumerate() {
        let is_required =
            relation == vantic_solver::Relation::Equal && level == vantic_solver::Level::REQUIRED;
        let origin = compiled.origins[index];
        let written = matches!(origin, Origin::Written { .. });
        if work::is_short() {
            break;
        }
        if is_required && written && !settled.chooser.plan_mut().decides(compiled.rules[index]) {
            all.push(origin.into());
        }
    }
    all
}

/// How many views with children that collapse to zero are looked into on one display; fewer on screens of
/// more than 1000 views, so that no check takes long for it.
const MAX_COLLAPSED: usize = 100;

const MAX_COLLAPSED_VIEWS: usize = 100_000;

/// How many children of one of them.
const MAX_COLLAPSED_CHILDREN: usize = 500;

/// Children that collapse to zero, and would be open if the view around them were not as small as its
/// children let it be. What is open as it is, is reported as that.
fn collapsed(
    screen: &Screen,
    compiled: &Compiled,
    settled: &TextFixpoint<'_>,
    outcome: &Outcome,
    free: &[Free],
) -> Vec<Collapsed> {
    let variant = &compiled.variant;
    let values = &outcome.values;
    let is_open = |f: &&Free| f.range.1.is_none_or(|most| most > PLACED);
    let open: HashSet<_> = free.iter().filter(is_open).map(|f| f.var).collect();
    let open = &open;
    let arranged = std::iter::zip(screen.table(), &compiled.filled);
    let empty = arranged.flat_map(|((child, about), fills)| {
        let around = about.parent.filter(|&p| variant.view(screen, p).arrangement.is_some());
        let unknowns = compiled.unknowns.boxes[child.index()].filter(|_| !about.has_content());
        let sizes = [(Coordinate::Width, fills[0]), (Coordinate::Height, fills[1])];
        sizes.into_iter().filter_map(move |(size, fills)| {
            let var = unknowns?.var(size);
            let found = Collapsed { view: around?, child, coordinate: size, fills, is_given: false };
            (values[var.index()] <= PLACED && !open.contains(&var)).then_some((found, var))
        })
    });
    let mut by_view: BTreeMap<ViewId, Vec<(Collapsed, vantic_solver::VarId)>> = BTreeMap::new();
    empty.for_each(|(found, var)| by_view.entry(found.view).or_default().push((found, var)));
    let most = MAX_COLLAPSED.min(MAX_COLLAPSED_VIEWS / compiled.unknowns.boxes.len().max(1)).max(1);
    let given = (!by_view.is_empty()).then(|| GivenSizes::by_rules(screen, variant));
    let is_given = |view, size| {
        let axis = if size == Coordinate::Width { Axis::Across } else { Axis::Down };
        given.as_ref().is_some_and(|given| given.has(view, axis))
    };
    let wish = settled.chooser.level_below_all();
    let mut all = Vec::new();
    for (view, found) in by_view.into_iter().take(most) {
        if work::is_short() {
            break;
        }
        // The view itself, or one around it that it fills.
        let around: Vec<ViewId> = screen.with_ancestors(view).collect();
        let is_hug = |o: &Origin| matches!(o, Origin::ShrinkToChildren(view) if around.contains(view));
        let hugs = compiled.origins.iter().enumerate().filter(|(_, o)| is_hug(o));
        let hugs = hugs.take_while(|_| !work::is_short());
        let vars: Vec<_> = found.iter().map(|(_, var)| *var).take(MAX_COLLAPSED_CHILDREN).collect();
        let positive_without: HashSet<_> =
            hugs.flat_map(|(position, _)| settled.chooser.positive_without(position, &vars, wish)).collect();
        let collapsed = found.iter().filter(|(_, var)| positive_without.contains(var));
        all.extend(
            collapsed.map(|(found, _)| Collapsed { is_given: is_given(view, found.coordinate), ..*found }),
        );
    }
    all
}

/// How many children that read a size of the view around them are looked into on one display.
const MAX_CIRCULAR: usize = 100;

/// Children whose size is a part of that of the view around them, where that follows from theirs.
fn circular(
    screen: &Screen,
    compiled: &Compiled,
    settled: &mut TextFixpoint<'_>,
    outcome: &Outcome,
) -> Vec<Circular> {
    if !required_rules_hold(settled, outcome) {
        return Vec::new();
    }
    let reading = compiled.origins.iter().zip(compiled.problem.rules()).enumerate();
    let reading = reading.filter_map(|(at, (&origin, (expr, relation, ..)))| {
        let Origin::Written { rule, .. } = origin else { return None };
        let child = screen.rule_at(rule).owner()?;
        let view = screen.at(child).parent()?;
        let boxes = [view, child].map(|of| compiled.unknowns.boxes[of.index()]);
        let [Some(around), Some(own)] = boxes else { return None };
        let read = |var| expr.terms().iter().find(|(of, _)| *of == var).map(|(_, c)| *c);
        // An edge tied to an edge is no size.
        if read(own.left).is_some() || read(own.top).is_some() {
            return None;
        }
        let size = [Coordinate::Width, Coordinate::Height]
            .into_iter()
            .find(|&size| read(around.var(size)).is_some() && read(own.var(size)).is_some())?;
        let is_equality = relation == vantic_solver::Relation::Equal;
        let (around, own) = (around.var(size), own.var(size));
        is_equality.then_some((at, origin, view, child, size, around, own, read(own)?))
    });
    let reading: Vec<_> = reading.take(MAX_CIRCULAR).collect();
    let mut all = Vec::new();
    for (at, origin, view, child, coordinate, around, own, factor) in reading {
        let cause = vantic_solver::Reason::Rule(compiled.rules[at]);
        if work::is_short() {
            break;
        }
        let mut counted = |var| {
            let explained = settled.chooser.plan_mut().explain(var).ok()?;
            let rate = explained.reasons.iter().find(|(reason, _)| *reason == cause)?.1;
            Some((rate * factor).abs()).filter(|rate| *rate > PLACED)
        };
        // A child with a size of its own hands it on to the view, which is no circle.
        if let (Some(counts), Some(_)) = (counted(around), counted(own)) {
            all.push(Circular { view, child, coordinate, rule: origin.into(), counts });
        }
    }
    all
}

/// How many coordinates are open, and how many of them by themselves.
fn open(free: &[Free]) -> (usize, usize) {
    (free.len(), free.iter().filter(|f| f.follows.is_none()).count())
}

/// Whether relations decide nothing: without it everything is where it is, and no more is open than `before`.
/// `None` for one that does not count here, or where required rules contradict one another.
fn idle(
    settled: &TextFixpoint<'_>,
    outcome: &Outcome,
    compiled: &Compiled,
    before: (usize, usize),
    relations: &[(RuleId, usize)],
) -> Vec<Option<bool>> {
    let whole = required_rules_hold(settled, outcome);
    let found = relations.iter().map(|&(rule, relation)| {
        let written = Origin::Written { rule, relation };
        let position =
            compiled.origins.iter().position(|o| *o == written).filter(|_| whole && !work::is_short())?;
        let mut without = settled.chooser.without(position)?;
        let values = without.values();
        let boxes = compiled.unknowns.boxes.iter().flatten().flat_map(|b| b.each());
        let mut moved = boxes.map(|(_, var)| values[var.index()] - outcome.values[var.index()]);
        // What is open is looked at only where everything stays.
        Some(moved.all(|by| by.abs() <= PLACED) && open(&without.diagnose().free) == before)
    });
    found.collect()
}
