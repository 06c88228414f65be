//! A variant as a problem for the solver.

use crate::geometry::axis::Axis;
use crate::geometry::direction::Direction;
use crate::model::arrangement::VisibleSpares;
use crate::model::coordinate::{Anchor, Coordinate};
use crate::model::expression::{Expr, MinMaxKind};
use crate::model::guide::Guide;
use crate::model::id::{LevelId, ViewId};
use crate::model::rule::{Comparison, Relation, SNUG, Strength, WHOLE};
use crate::model::rule_ref::RuleRef;
use crate::model::screen::Screen;
use crate::model::view::{ContentStrength, Image, View};
use crate::plan::arrangement_choices::{ChoiceInputs, Choices};
use crate::plan::compile::height_independence::{are_apart, heights_apart};
use crate::plan::compile::layout_rules::{Arrangements, GridCells, LayoutRule, LayoutStrength};
use crate::plan::compile::origins::{MinMaxNode, Origin};
use crate::plan::compile::presolve::{Decided, Presolve};
use crate::plan::parameters::Parameters;
use crate::plan::variables::{ResolveContext, Unknowns, ViewVars};
use crate::plan::variant::{Variant, Visibility};
use petgraph::algo::kosaraju_scc;
use petgraph::graph::{DiGraph, NodeIndex};
use std::cmp::Reverse;
use std::collections::{BTreeSet, BinaryHeap, HashMap, HashSet};
use std::hash::{DefaultHasher, Hash as _, Hasher as _};
use vantic_solver as solver;
use vantic_solver::{Affine, Level, Linear, ParamId, Problem, ProblemBuilder, Settle, VarId};

/// A variant compiled for one reading direction. Parameters: width, height, the insets left, top, right,
/// bottom, one pixel of the display, what covers the bottom, then for each text its width, longest piece,
/// height and ascent.
#[derive(Clone, Debug)]
pub(crate) struct Compiled {
    /// What is left of the screen.
    pub(crate) variant: Variant,
    pub(crate) problem: Problem,
    pub(crate) unknowns: Unknowns,
    /// Per variable of the problem: the view and coordinate it is.
    pub(crate) meanings: Vec<(ViewId, Coordinate)>,
    /// Per rule of the problem.
    pub(crate) origins: Vec<Origin>,
    /// The same rules by their id.
    pub(crate) rules: Vec<solver::RuleId>,
    /// The texts that are placed, in the order of their parameters.
    pub(crate) texts: Vec<ViewId>,
    /// Whether what arrangements choose by depends neither on how tall texts are, nor on how far views are scrolled.
    pub(crate) probes_apart: bool,
    /// What tells it before anything is solved, where required rules alone decide it.
    pub(crate) decided: Option<Vec<ChoiceInputs<Affine>>>,
    /// Per text: whether its height decides the width of none; see [`heights_apart`].
    pub(crate) heights_apart: Vec<bool>,
    /// The `max` and `min` in the rules, those within others first.
    pub(crate) picks: Vec<MinMaxNode>,
    /// What is decided of them without a search.
    pub(crate) presolve: Presolve,
    /// Other settling steps, from one on: what a `max` or `min` stands for is settled before the views, near its first
    /// argument, so that it mostly comes out equal to one. Only where there are some.
    pub(crate) relaxed: Option<(usize, Vec<Settle>)>,
    /// What has to be known of a placement to choose again how children are arranged.
    pub(crate) probes: Vec<ChoiceInputs<Linear>>,
    /// What decides how guides are divided.
    pub(crate) divisions: Vec<(ViewId, [Linear; 5])>,
    /// Per view, where some are arranged: whether its width, and whether its height, comes from the space
    /// there is.
    pub(crate) filled: Vec<[bool; 2]>,
    /// Where some children are shown only where there is room: how many of them are, and how many there are.
    pub(crate) shown: Vec<(ViewId, VisibleSpares)>,
    /// What grids came to be.
    pub(crate) grids: Vec<GridCells<Linear>>,
    /// The views that may scroll, in the order of their parameters.
    pub(crate) scrollers: Vec<ViewId>,
}

impl Compiled {
    /// The parameters of the problem.
    pub(crate) fn parameters(&self) -> Parameters {
        let named = self.unknowns.named.iter().flatten().count();
        Parameters::new(self.texts.len(), self.scrollers.len(), named)
    }

    pub(crate) fn new(screen: &Screen, variant: Variant, direction: Direction, choices: &Choices) -> Self {
        let Declared { build, unknowns, meanings, texts, scrollers } =
            Declared::new(screen, &variant, direction);
        let (origins, rules, picks) = (Vec::new(), Vec::new(), Vec::new());
        let arrangements = Arrangements::new(screen, &variant, choices);
        let mut compiler = Compiler {
            screen,
            variant: &variant,
            unknowns,
            build,
            origins,
            rules,
            picks,
            units: Vec::new(),
            alike: HashMap::new(),
            levels: Levels::new(screen, &arrangements),
        };
        compiler.arrangements(&arrangements);
        compiler.share_lines(&arrangements);
        compiler.rules();
        compiler.contents(&arrangements);
        compiler.watching(&arrangements);
        let probes: Vec<_> = arrangements.probes.iter().map(|probe| compiler.probe(probe)).collect();
        let relaxed = (!compiler.picks.is_empty()).then(|| {
            let from = compiler.build.settle_count();
            compiler.settling_picks();
            compiler.settling_views();
            (from, compiler.build.take_settle(from))
        });
        // Otherwise last, so that no view is settled by it.
        compiler.settling_views();
        compiler.settling_picks();
        let divisions = compiler.divisions();
        let linear = |expr: &Expr| compiler.linear(expr, true);
        let filled = arrangements.filled.clone();
        let shown = choices.iter().filter_map(|(&view, chosen)| {
            let (shown, cut) = (chosen.spares?, chosen.cut);
            let of = screen.at(view).children().iter().filter(|&&c| variant.is_spare(screen, c)).count();
            Some((view, VisibleSpares { shown, of, cut }))
        });
        let shown = shown.collect();
        let grids = arrangements.grids.iter().map(|grid| grid.map(linear)).collect();
        let Compiler { unknowns, build, origins, rules, picks, .. } = compiler;
        let problem = build.build();
        let settles = unknowns.settling_params();
        let mut read = Vec::new();
        probes
            .iter()
            .for_each(|probe: &ChoiceInputs<Linear>| drop(probe.map(&mut |expr| read.push(expr.clone()))));
        let probes_apart = are_apart(&problem, &|param| settles.contains(&param), &read);
        let decided =
            Some(&probes).filter(|_| probes_apart).and_then(|probes| decided(&problem, probes, &settles));
        let presolve = if picks.is_empty() { Presolve::default() } else { Presolve::new(&problem, &picks) };
        Self {
            variant,
            probes_apart,
            decided,
            heights_apart: heights_apart(&problem, &unknowns, &texts),
            problem,
            unknowns,
            meanings,
            origins,
            rules,
            texts,
            picks,
            presolve,
            relaxed,
            probes,
            divisions,
            filled,
            shown,
            grids,
            scrollers,
        }
    }
}

/// What arrangements are chosen by, where required rules decide it from the parameters alone.
fn decided(
    problem: &Problem,
    probes: &[ChoiceInputs<Linear>],
    settles: &HashSet<ParamId>,
) -> Option<Vec<ChoiceInputs<Affine>>> {
    let settles = |param| settles.contains(&param);
    let known = Decided::new(problem, &settles);
    let mut are_all = !probes.is_empty();
    let mut of = |expr: &Linear| {
        let known = known.of(expr, &settles);
        are_all &= known.is_some();
        known.unwrap_or_default()
    };
    let numbers = probes.iter().map(|probe| probe.map(&mut of)).collect();
    are_all.then_some(numbers)
}

/// The variables and parameters of a problem, before it has rules.
struct Declared {
    build: ProblemBuilder,
    unknowns: Unknowns,
    meanings: Vec<(ViewId, Coordinate)>,
    texts: Vec<ViewId>,
    scrollers: Vec<ViewId>,
}

impl Declared {
    fn new(screen: &Screen, variant: &Variant, direction: Direction) -> Self {
        let mut build = ProblemBuilder::new();
        let display = Parameters::declare_display(&mut build);
        let mut texts = Vec::new();
        let mut text_params = vec![None; screen.views.len()];
        let (mut boxes, mut meanings) = (Vec::new(), Vec::new());
        for (id, view) in screen.table() {
            if variant.visible[id.index()] == Visibility::Gone {
                boxes.push(None);
                continue;
            }
            let (left, top) = (build.variable(), build.variable());
            let (width, height) = (build.nonnegative_variable(), build.nonnegative_variable());
            let unknowns = ViewVars { left, top, width, height };
            meanings.extend(unknowns.each().map(|(c, _)| (id, c)));
            boxes.push(Some(unknowns));
            if view.text.is_some() {
                text_params[id.index()] = Some(Parameters::declare_text(&mut build));
                texts.push(id);
            }
        }
        let mut scroll_params = HashMap::new();
        let may_scroll =
            |(id, view): &(ViewId, &View)| view.content_box.is_some() && boxes[id.index()].is_some();
        let scrollers: Vec<ViewId> = screen.views().filter(may_scroll).map(|(id, _)| id).collect();
        for &view in &scrollers {
            scroll_params.insert(view, Parameters::declare_scroller(&mut build));
        }
        let named = screen.values.iter();
        let named = named.map(|value| value.range.map(|_| Parameters::declare_named(&mut build))).collect();
        let unknowns =
            Unknowns { direction, display, boxes, texts: text_params, scrolls: scroll_params, named };
        Self { build, unknowns, meanings, texts, scrollers }
    }
}

struct Compiler<'a> {
    screen: &'a Screen,
    variant: &'a Variant,
    unknowns: Unknowns,
    build: ProblemBuilder,
    origins: Vec<Origin>,
    rules: Vec<solver::RuleId>,
    picks: Vec<MinMaxNode>,
    /// The variables that are shared in proportion, each with what one share of it comes to.
    units: Vec<(VarId, Linear)>,
    /// The picks by fingerprint.
    alike: HashMap<u64, Vec<usize>>,
    levels: Levels,
}

impl Compiler<'_> {
    fn rules(&mut self) {
        for &id in &self.variant.rules {
            let rule = self.screen.rule_at(id);
            for (index, relation) in rule.relations.iter().enumerate() {
                let along = relation.is_along();
                let difference = relation.left.clone() - relation.right.clone();
                let origin = Origin::Written { rule: id, relation: index };
                let expr = self.with_picks(&difference, along, Origin::MinMax(origin.into()));
                let comparison = compared(relation.comparison);
                let (level, weight) = match relation.strength() {
                    Strength::Required => (Level::REQUIRED, 1.0),
                    Strength::Prefer { level, weight } => (self.levels.of(level), weight),
                };
                self.add(expr, comparison, level, weight, origin);
            }
        }
    }

    /// The rules by which views place their children.
    fn arrangements(&mut self, arrangements: &Arrangements) {
        for arranged in &arrangements.relations {
            let relation = &arranged.relation;
            let difference = relation.left.clone() - relation.right.clone();
            let (view, child) = (arranged.view, arranged.child);
            let band = self.variant.arranged_in(view);
            let placed = Origin::Arranged { view, child, band };
            let expr = self.with_picks(&difference, relation.is_along(), Origin::MinMax(placed.into()));
            let about = self.variant.view(self.screen, view);
            let depth = arrangements.depths.get(view.index()).copied().unwrap_or(0);
            let (stated, built_in, origin) = match arranged.on {
                LayoutStrength::Required => {
                    (None, relation.level.map_or(Level::REQUIRED, |l| self.levels.of(l)), placed)
                }
                LayoutStrength::Whole => {
                    (about.whole, self.levels.whole(depth), Origin::Content { view, whole: true })
                }
                LayoutStrength::Snug => {
                    let of = if arranged.hugs.is_some() { view } else { child };
                    let group = arrangements.groups[of.index()][axis_of_size(relation) as usize];
                    let edges = arranged.hugs.filter(|axis| arrangements.given.is_between_edges(view, *axis));
                    let depth = if edges.is_some() { self.levels.depths + 1 } else { depth };
                    let depth = depth + self.levels.grown;
                    (about.snug, self.levels.snug(depth, group), Origin::ShrinkToChildren(view))
                }
                LayoutStrength::Grown => {
                    let group = arrangements.groups[view.index()][axis_of_size(relation) as usize];
                    (about.snug, self.levels.snug(self.levels.grown, group), Origin::ShrinkToChildren(view))
                }
            };
            let level = stated.and_then(|s| s.level).map_or(built_in, |level| self.levels.of(level));
            let weight = stated.map_or(relation.weight, |s| s.weight);
            self.add(expr, compared(relation.comparison), level, weight, origin);
        }
    }

    /// Shares of which some may need more than their part, or may not take it. With a unit `u`, each is at
    /// least its weight times `u`, and as near to that as its limits and what it needs let it be: so the
    /// unit is as large as the space allows.
    fn share_lines(&mut self, arrangements: &Arrangements) {
        let (equal, at_least) = (solver::Relation::Equal, solver::Relation::AtLeast);
        for line in &arrangements.share_lines {
            let (view, band) = (line.view, self.variant.arranged_in(line.view));
            let [fill, share] = self.levels.share(line.group);
            if let Some((child, rest)) = &line.fill {
                let rest = self.linear(rest, true);
                self.add(
                    rest,
                    solver::Relation::AtMost,
                    fill,
                    1.0,
                    Origin::Share { view, child: *child, band },
                );
            }
            if line.shares.len() + line.spaces.len() < 2 {
                continue;
            }
            let unit = self.build.nonnegative_variable();
            let all =
                line.shares.iter().map(|s| (s, true)).chain(line.spaces.iter().map(|s| (s, line.has_most)));
            for ((child, length, weight), may_be_more) in all {
                let placed = Origin::Arranged { view, child: *child, band };
                let length = self.with_picks(length, true, Origin::MinMax(placed.into()));
                let over = length.plus_var(unit, -weight);
                if may_be_more {
                    self.add(over.clone(), at_least, Level::REQUIRED, 1.0, placed);
                    self.add(over, equal, share, 1.0, Origin::Share { view, child: *child, band });
                } else {
                    self.add(over, equal, Level::REQUIRED, 1.0, placed);
                }
            }
            if let Some((_, length, weight)) = line.shares.first() {
                let first = self.linear(&(length.clone() * (1.0 / weight)), true);
                self.units.push((unit, first));
            }
        }
    }

    fn divisions(&self) -> Vec<(ViewId, [Linear; 5])> {
        let there = self.screen.views().filter(|(view, _)| self.unknowns.boxes[view.index()].is_some());
        let measures = there.filter_map(|(view, _)| match self.variant.view(self.screen, view).guide() {
            Some(Guide::Cells(cells)) => Some((view, cells.measures(view).map(|e| self.linear(&e, true)))),
            _ => None,
        });
        measures.collect()
    }

    /// What is asked of a placement, in the solver's unknowns.
    fn probe(&mut self, probe: &ChoiceInputs<Expr>) -> ChoiceInputs<Linear> {
        let view = probe.view;
        probe.map(&mut |expr: &Expr| {
            let relation = Relation::new(expr.clone(), Comparison::Equal, Expr::default());
            let of = Origin::Arranged { view, child: view, band: None };
            self.with_picks(expr, relation.is_along(), Origin::MinMax(of.into()))
        })
    }

    /// The built-in preferences of texts and images (`whole` and `snug`).
    fn contents(&mut self, arrangements: &Arrangements) {
        for (view, about) in self.screen.views() {
            let Some(b) = self.unknowns.boxes[view.index()].filter(|_| about.has_content()) else { continue };
            let about = self.variant.view(self.screen, view);
            let strength = |stated: Option<ContentStrength>, name| {
                let level = stated.and_then(|s| s.level).or_else(|| self.screen.level(name));
                (
                    level.map_or(Level::REQUIRED, |level| self.levels.of(level)),
                    stated.map_or(1.0, |s| s.weight),
                )
            };
            let (whole, snug) = (strength(about.whole, WHOLE), strength(about.snug, SNUG));
            let is_placed = about.snug.is_none_or(|s| s.level.is_none());
            let snug = arrangements.groups.get(view.index()).copied().unwrap_or_default().map(|group| {
                let level = if is_placed { self.levels.snug(0, group) } else { snug.0 };
                (level, snug.1)
            });
            let (kept, tight) =
                (Origin::Content { view, whole: true }, Origin::Content { view, whole: false });
            let over = |var, amount: Affine| Linear::of(var) - amount;
            let (least, equal, most) =
                (solver::Relation::AtLeast, solver::Relation::Equal, solver::Relation::AtMost);
            // What fills the space it gets is only not to be smaller than its content.
            let [fills_width, fills_height] =
                arrangements.filled.get(view.index()).copied().unwrap_or_default();
            let held = |fills: bool| if fills { least } else { equal };
            if let Some(t) = self.unknowns.texts[view.index()] {
                self.add(over(b.width, Affine::of(t.longest)), least, whole.0, whole.1, kept);
                self.add(over(b.height, Affine::of(t.height)), least, whole.0, whole.1, kept);
                self.add(over(b.width, Affine::of(t.width)), held(fills_width), snug[0].0, snug[0].1, tight);
                if !fills_height {
                    self.add(over(b.height, Affine::of(t.height)), most, snug[1].0, snug[1].1, tight);
                }
            } else if let Some(Image { width, height }) = about.image {
                let ratio = Linear::of(b.height).plus_var(b.width, -height / width);
                self.add(ratio, equal, whole.0, whole.1, kept);
                let (wide, high) = (held(fills_width), held(fills_height));
                self.add(over(b.width, Affine::constant(width)), wide, snug[0].0, snug[0].1, tight);
                self.add(over(b.height, Affine::constant(height)), high, snug[1].0, snug[1].1, tight);
            }
        }
    }

    fn add(
        &mut self,
        expr: Linear,
        relation: solver::Relation,
        level: Level,
        weight: f64,
        origin: Origin,
    ) -> Option<solver::RuleId> {
        let added = self.build.rule(expr, relation, level, weight).ok();
        debug_assert!(added.is_some(), "the screen was checked when it was built");
        self.origins.extend(added.map(|_| origin));
        self.rules.extend(added);
        added
    }

    /// View by view in declared order: start and top near the parent's, then the sizes least.
    fn settling_views(&mut self) {
        for (id, view) in self.screen.views() {
            let Some(b) = self.unknowns.boxes[id.index()] else { continue };
            let parent = view.parent.map_or(Anchor::Screen, Anchor::View);
            for coordinate in [Coordinate::Start, Coordinate::Top] {
                let own = self.linear(&Expr::of(id.into(), coordinate), true);
                let toward = self.linear(&Expr::of(parent, coordinate), true);
                self.settle(Settle::near(own, toward));
            }
            self.settle(Settle::least(b.width));
            self.settle(Settle::least(b.height));
        }
    }

    fn settling_picks(&mut self) {
        for (unit, near) in std::mem::take(&mut self.units) {
            self.settle(Settle::near(Linear::of(unit), near.clone()));
            self.units.push((unit, near));
        }
        for pick in std::mem::take(&mut self.picks) {
            self.settle(pick.settled());
            self.picks.push(pick);
        }
    }

    fn settle(&mut self, step: Settle) {
        let added = self.build.settle(step);
        debug_assert!(added.is_ok(), "the ids are the builder's own");
    }

    /// Watches every coordinate, views that are read before those that read them.
    fn watching(&mut self, arrangements: &Arrangements) {
        for view in reading_order(self.screen, self.variant, arrangements) {
            if let Some(b) = self.unknowns.boxes[view.index()] {
                for (_, var) in b.each() {
                    let watched = self.build.watch(var);
                    debug_assert!(watched.is_ok(), "the ids are the builder's own");
                }
            }
        }
    }

    /// An expression in the solver's unknowns, without what is picked in it.
    fn linear(&self, expr: &Expr, along: bool) -> Linear {
        self.unknowns.linear(ResolveContext { screen: self.screen, variant: self.variant }, expr, along)
    }

    /// The same, with a variable for every `max` and `min` in it.
    fn with_picks(&mut self, expr: &Expr, along: bool, origin: Origin) -> Linear {
        let mut linear = self.linear(expr, along);
        for picked in &expr.picks {
            let of: Vec<Linear> = picked.of.iter().map(|e| self.with_picks(e, along, origin)).collect();
            let index = match (picked.pick, of.as_slice()) {
                (MinMaxKind::Clamp, [value, least, most]) => {
                    let limits = Some((least.clone(), most.clone(), origin));
                    let held = self.pick(false, vec![value.clone(), most.clone()], origin);
                    let held = Linear::of(self.picks[held].var);
                    let index = self.pick(true, vec![least.clone(), held], origin);
                    self.picks[index].limits = limits;
                    index
                }
                (pick, _) => self.pick(pick == MinMaxKind::Max, of, origin),
            };
            linear = linear.plus_var(self.picks[index].var, picked.coefficient);
        }
        linear
    }

    /// Which of the picks a `max` or `min` is; the same for the same arguments.
    fn pick(&mut self, is_max: bool, of: Vec<Linear>, origin: Origin) -> usize {
        let alike = self.alike.entry(fingerprint(is_max, &of)).or_default();
        let known = alike.iter().find(|&&at| self.picks[at].is_max == is_max && self.picks[at].of == of);
        if let Some(&known) = known {
            return known;
        }
        alike.push(self.picks.len());
        let var = self.build.variable();
        let relation = if is_max { solver::Relation::AtLeast } else { solver::Relation::AtMost };
        let beside = |arg: &Linear| Linear::of(var).less(arg.clone());
        let rules = of.iter().filter_map(|arg| self.add(beside(arg), relation, Level::REQUIRED, 1.0, origin));
        let rules = rules.collect();
        self.picks.push(MinMaxNode { var, is_max, of, rules, limits: None });
        self.picks.len() - 1
    }
}

/// The same number for picks that are the same.
fn fingerprint(is_max: bool, of: &[Linear]) -> u64 {
    let mut hasher = DefaultHasher::new();
    is_max.hash(&mut hasher);
    for arg in of {
        arg.terms().iter().for_each(|(var, c)| (var, c.to_bits()).hash(&mut hasher));
        arg.affine().terms().iter().for_each(|(param, c)| (param, c.to_bits()).hash(&mut hasher));
        arg.number().to_bits().hash(&mut hasher);
    }
    hasher.finish()
}

fn compared(comparison: Comparison) -> solver::Relation {
    match comparison {
        Comparison::Equal => solver::Relation::Equal,
        Comparison::AtMost => solver::Relation::AtMost,
        Comparison::AtLeast => solver::Relation::AtLeast,
    }
}

/// The axis of a relation about one size.
fn axis_of_size(relation: &Relation) -> Axis {
    let is_height = relation.terms().iter().any(|term| term.coordinate == Coordinate::Height);
    if is_height { Axis::Down } else { Axis::Across }
}

/// The levels of the solver. Required rules are level 0; the screen's levels follow. Behind `whole`, and
/// behind `snug`, each depth of arrangement has a level of its own: content is kept before what holds it,
/// and what is further in before what is further out, so that none of them conflict. Where there are
/// shares, all that is `snug` comes in groups, each with levels for shares at its end: what stands beside
/// shares is settled before them, and what is fitted into them after.
#[derive(Clone, Copy, Debug)]
struct Levels {
    whole: u32,
    snug: u32,
    depths: u32,
    /// Whether views are as large as they can be, for children to be counted in them: before others are as small
    /// as their children let them be.
    grown: u32,
    /// How many levels there are for views that are as small as their children let them be: those between two
    /// edges come last, so that none of them pulls at what it is tied to.
    hugs: u32,
    /// How many groups there are; none where nothing is shared in this way.
    groups: u32,
}

impl Levels {
    fn new(screen: &Screen, arrangements: &Arrangements) -> Self {
        let at = |name| screen.level(name).map_or(0, |l| l.index() as u32);
        let depths = arrangements.depths.iter().copied().max().unwrap_or(0);
        let is_late = |rule: &LayoutRule| {
            rule.hugs.is_some_and(|axis| arrangements.given.is_between_edges(rule.view, axis))
        };
        let grown = u32::from(arrangements.is_growing.contains(&true));
        let hugs = depths + grown + u32::from(arrangements.relations.iter().any(is_late));
        let of_views = arrangements.groups.iter().flatten().copied();
        let of_lines = arrangements.share_lines.iter().map(|line| line.group);
        let has_shares = !arrangements.share_lines.is_empty();
        let groups = of_lines.chain(of_views).max().filter(|_| has_shares).map_or(0, |last| last + 1);
        Self { whole: at(WHOLE), snug: at(SNUG), depths, grown, hugs, groups }
    }

    fn of(&self, level: LevelId) -> Level {
        self.at(level.index() as u32)
    }

    fn at(&self, level: u32) -> Level {
        let after_whole = if level > self.whole { self.depths } else { 0 };
        let group = self.hugs + 3;
        let in_groups = if self.groups > 0 { self.groups * group - 1 } else { self.hugs };
        let after_snug = if level > self.snug { in_groups } else { 0 };
        Level::preference(1 + level + after_whole + after_snug)
    }

    fn whole(&self, depth: u32) -> Level {
        Level::preference(self.at(self.whole).index() as u32 + depth)
    }

    fn snug(&self, depth: u32, group: u32) -> Level {
        Level::preference(self.at(self.snug).index() as u32 + group * (self.hugs + 3) + depth)
    }

    /// Behind all that is snug in a group: that shares fill the space, and in proportion.
    fn share(&self, group: u32) -> [Level; 2] {
        [1, 2].map(|behind| self.snug(self.hugs + behind, group))
    }
}

/// Views that are read before those that read them; declared order among the rest and in a cycle.
fn reading_order(screen: &Screen, variant: &Variant, arrangements: &Arrangements) -> Vec<ViewId> {
    let mut graph: DiGraph<(), ()> = DiGraph::with_capacity(screen.views.len(), variant.rules.len());
    let nodes: Vec<NodeIndex> = screen.views.iter().map(|_| graph.add_node(())).collect();
    for &id in &variant.rules {
        let rule = screen.rule_at(id);
        let Some(owner) = rule.owner else { continue };
        for term in rule.relations.iter().flat_map(Relation::terms) {
            if let Some(read) = variant.view_at(screen, term.anchor)
                && read != owner
            {
                graph.add_edge(nodes[read.index()], nodes[owner.index()], ());
            }
        }
    }
    for arranged in arrangements.relations.iter().filter(|a| a.on == LayoutStrength::Required) {
        for term in arranged.relation.terms() {
            if let Some(read) = variant.view_at(screen, term.anchor).filter(|&read| read != arranged.child) {
                graph.add_edge(nodes[read.index()], nodes[arranged.child.index()], ());
            }
        }
    }
    // Each cycle counts as one; then always the first declared of those whose sources are done.
    let cycles: Vec<BTreeSet<usize>> =
        kosaraju_scc(&graph).into_iter().map(|c| c.into_iter().map(NodeIndex::index).collect()).collect();
    let mut cycle_of = vec![0; screen.views.len()];
    for (index, cycle) in cycles.iter().enumerate() {
        cycle.iter().for_each(|&view| cycle_of[view] = index);
    }
    let mut waiting = vec![0_usize; cycles.len()];
    let mut readers: Vec<Vec<usize>> = vec![Vec::new(); cycles.len()];
    for edge in graph.raw_edges() {
        let (from, to) = (cycle_of[edge.source().index()], cycle_of[edge.target().index()]);
        if from != to {
            waiting[to] += 1;
            readers[from].push(to);
        }
    }
    let first = |cycle: usize| Reverse((cycles[cycle].first().copied(), cycle));
    let mut ready: BinaryHeap<_> = (0..cycles.len()).filter(|&c| waiting[c] == 0).map(first).collect();
    let mut order = Vec::with_capacity(screen.views.len());
    while let Some(Reverse((_, cycle))) = ready.pop() {
        order.extend(cycles[cycle].iter().map(|&v| screen.id_of(v)));
        for &reader in &readers[cycle] {
            waiting[reader] -= 1;
            if waiting[reader] == 0 {
                ready.push(first(reader));
            }
        }
    }
    order
}

impl From<Origin> for RuleRef {
    fn from(origin: Origin) -> Self {
        match origin {
            Origin::Written { rule, relation } => RuleRef::Written { rule, relation },
            Origin::MinMax(of) => of,
            Origin::Content { view, whole: true } => RuleRef::Whole(view),
            Origin::Content { view, whole: false } | Origin::ShrinkToChildren(view) => RuleRef::Snug(view),
            Origin::Arranged { view, child, band } | Origin::Share { view, child, band } => {
                RuleRef::Arranged { view, child, band }
            }
        }
    }
}
