//! A plan that is edited and resized stays what a plan made from scratch would be.

use proptest::prelude::*;
use vantic_solver::{
    Affine, Cause, Conflict, Diagnosis, Level, Linear, Plan, Problem, ProblemBuilder, ProblemError, Relation,
    RuleId, Settle, Status, VarId, verify,
};

const NEAR: f64 = 1e-6;

#[derive(Clone, Debug, PartialEq)]
struct Written {
    terms: Vec<(usize, f64)>,
    constant: f64,
    /// How much of the one parameter is in it.
    share: f64,
    relation: Relation,
    level: u32,
    weight: f64,
}

impl Written {
    fn expr(&self, vars: &[VarId], unit: vantic_solver::ParamId) -> Linear {
        let terms = self.terms.iter().map(|&(v, c)| (vars[v], c)).collect();
        Linear::new(terms, self.affine(unit))
    }

    fn affine(&self, unit: vantic_solver::ParamId) -> Affine {
        Affine::constant(self.constant).plus_param(unit, self.share)
    }
}

/// What a plan should be: variables and rules, some of them taken away again.
#[derive(Clone, Debug, PartialEq)]
struct Mirror {
    nonnegative: Vec<bool>,
    rules: Vec<Option<Written>>,
    unit: f64,
}

#[derive(Clone, Debug)]
enum Edit {
    Add(Written),
    Remove(usize),
    Constant(usize, f64),
    Coefficient(usize, usize, f64),
    Level(usize, u32, f64),
    Variable(bool),
    Resize(f64),
}

fn written() -> impl Strategy<Value = Written> {
    let coefficient = prop_oneof![4 => Just(1.0), 4 => Just(-1.0), 1 => Just(2.0), 1 => Just(-0.5)];
    (
        prop::collection::vec((0_usize..5, coefficient), 1..4),
        (-6_i32..=6).prop_map(|c| f64::from(c) * 5.0),
        prop_oneof![2 => Just(0.0), 1 => Just(-1.0), 1 => Just(0.5)],
        prop_oneof![3 => Just(Relation::Equal), 1 => Just(Relation::AtMost), 1 => Just(Relation::AtLeast)],
        prop_oneof![3 => Just(0_u32), 2 => Just(1), 2 => Just(2)],
        prop_oneof![3 => Just(1.0), 1 => Just(2.0), 1 => Just(0.5)],
    )
        .prop_map(|(mut terms, constant, share, relation, level, weight)| {
            terms.sort_by_key(|t| t.0);
            terms.dedup_by_key(|t| t.0);
            Written { terms, constant, share, relation, level, weight }
        })
}

fn edit() -> impl Strategy<Value = Edit> {
    let number = (-6_i32..=6).prop_map(|c| f64::from(c) * 5.0);
    prop_oneof![
        3 => written().prop_map(Edit::Add),
        2 => (0_usize..12).prop_map(Edit::Remove),
        3 => (0_usize..12, number).prop_map(|(r, c)| Edit::Constant(r, c)),
        1 => (0_usize..12, 0_usize..5, prop_oneof![Just(1.0), Just(-1.0), Just(0.0), Just(3.0)])
            .prop_map(|(r, v, c)| Edit::Coefficient(r, v, c)),
        1 => (0_usize..12, 0_u32..3, prop_oneof![Just(1.0), Just(4.0)]).prop_map(|(r, l, w)| Edit::Level(r, l, w)),
        1 => any::<bool>().prop_map(Edit::Variable),
        3 => (0_u8..40).prop_map(|u| Edit::Resize(f64::from(u))),
    ]
}

fn mirror() -> impl Strategy<Value = Mirror> {
    (prop::collection::vec(any::<bool>(), 5), prop::collection::vec(written().prop_map(Some), 0..7))
        .prop_map(|(nonnegative, rules)| Mirror { nonnegative, rules, unit: 10.0 })
}

/// A plan with the ids it uses, in the order of the mirror.
struct Live {
    plan: Plan,
    unit: vantic_solver::ParamId,
    vars: Vec<VarId>,
    /// `None` for rules that the mirror no longer has and this plan never had.
    rules: Vec<Option<RuleId>>,
}

fn fresh(mirror: &Mirror) -> Live {
    let (problem, unit, vars, rules) = problem(mirror);
    let mut plan = Plan::new(&problem);
    plan.solve(&[mirror.unit]).unwrap();
    Live { plan, unit, vars, rules }
}

fn problem(mirror: &Mirror) -> (Problem, vantic_solver::ParamId, Vec<VarId>, Vec<Option<RuleId>>) {
    let mut b = ProblemBuilder::new();
    let unit = b.parameter();
    let vars: Vec<VarId> =
        mirror.nonnegative.iter().map(|&g| if g { b.nonnegative_variable() } else { b.variable() }).collect();
    let rules = mirror.rules.iter().map(|r| {
        let r = r.as_ref()?;
        Some(b.rule(r.expr(&vars, unit), r.relation, Level::preference(r.level), r.weight).unwrap())
    });
    let rules = rules.collect();
    for &v in &vars {
        b.settle(Settle::least(v)).unwrap();
        b.watch(v).unwrap();
    }
    (b.build(), unit, vars, rules)
}

impl Live {
    /// Makes an edit here and in the mirror; the edits that take it back.
    fn make(&mut self, edit: Edit, mirror: &mut Mirror) -> Vec<Back> {
        let live = |mirror: &Mirror, at: usize| {
            let at = at % mirror.rules.len().max(1);
            mirror.rules.get(at).cloned().flatten().map(|r| (at, r))
        };
        match edit {
            Edit::Add(w) => {
                let (expr, level) = (w.expr(&self.vars, self.unit), Level::preference(w.level));
                let id = self.plan.add_rule(expr, w.relation, level, w.weight).unwrap();
                self.rules.push(Some(id));
                mirror.rules.push(Some(w));
                vec![Back::Remove(mirror.rules.len() - 1)]
            }
            Edit::Variable(nonnegative) => {
                let var = self.plan.add_variable(nonnegative);
                self.plan.add_settle(Settle::least(var)).unwrap();
                self.plan.watch(var).unwrap();
                self.vars.push(var);
                mirror.nonnegative.push(nonnegative);
                Vec::new()
            }
            Edit::Resize(unit) => {
                let old = std::mem::replace(&mut mirror.unit, unit);
                self.plan.solve(&[unit]).unwrap();
                vec![Back::Resize(old)]
            }
            Edit::Remove(at) => {
                let Some((at, w)) = live(mirror, at) else { return Vec::new() };
                self.plan.remove_rule(self.rules[at].unwrap()).unwrap();
                mirror.rules[at] = None;
                vec![Back::Write(at, w)]
            }
            Edit::Constant(at, constant) => {
                let Some((at, w)) = live(mirror, at) else { return Vec::new() };
                let changed = Written { constant, ..w.clone() };
                self.plan.set_constant(self.rules[at].unwrap(), changed.affine(self.unit)).unwrap();
                mirror.rules[at] = Some(changed);
                vec![Back::Write(at, w)]
            }
            Edit::Coefficient(at, var, c) => {
                let Some((at, w)) = live(mirror, at) else { return Vec::new() };
                self.plan.set_coefficient(self.rules[at].unwrap(), self.vars[var], c).unwrap();
                let mut changed = w.clone();
                changed.terms.retain(|t| t.0 != var);
                if c != 0.0 {
                    changed.terms.push((var, c));
                }
                mirror.rules[at] = Some(changed);
                vec![Back::Write(at, w)]
            }
            Edit::Level(at, level, weight) => {
                let Some((at, w)) = live(mirror, at) else { return Vec::new() };
                self.plan.set_level(self.rules[at].unwrap(), Level::preference(level), weight).unwrap();
                mirror.rules[at] = Some(Written { level, weight, ..w.clone() });
                vec![Back::Write(at, w)]
            }
        }
    }

    fn take_back(&mut self, back: Back, mirror: &mut Mirror) {
        match back {
            Back::Remove(at) => {
                self.plan.remove_rule(self.rules[at].unwrap()).unwrap();
                mirror.rules[at] = None;
            }
            Back::Resize(unit) => {
                mirror.unit = unit;
                self.plan.solve(&[unit]).unwrap();
            }
            Back::Write(at, w) => {
                let (expr, level) = (w.expr(&self.vars, self.unit), Level::preference(w.level));
                self.plan.change_rule(self.rules[at].unwrap(), expr, w.relation, level, w.weight).unwrap();
                mirror.rules[at] = Some(w);
            }
        }
    }

    /// The place in the mirror of a rule.
    fn place(&self, rule: RuleId) -> usize {
        self.rules.iter().position(|r| *r == Some(rule)).unwrap()
    }
}

/// How an edit is taken back.
#[derive(Clone, Debug)]
enum Back {
    Remove(usize),
    Write(usize, Written),
    Resize(f64),
}

fn same(a: Option<f64>, b: Option<f64>) -> bool {
    match (a, b) {
        (Some(a), Some(b)) => (a - b).abs() < NEAR,
        (a, b) => a == b,
    }
}

/// Agrees with a new plan in what is placed; asks for nothing else.
fn agree_in_values(edited: &Live, mirror: &Mirror) -> Result<Live, TestCaseError> {
    let scratch = fresh(mirror);
    prop_assert_eq!(edited.plan.status(), scratch.plan.status());
    prop_assert!(edited.plan.status() != Status::Stopped);
    for (a, b) in edited.plan.values().iter().zip(scratch.plan.values()) {
        prop_assert!((a - b).abs() < NEAR, "{:?} {:?}", edited.plan.values(), scratch.plan.values());
    }
    let (a, b) = (edited.plan.outcome(), scratch.plan.outcome());
    for level in 0..3 {
        let total = |t: &[f64]| t.get(level).copied().unwrap_or(0.0);
        prop_assert!((total(&a.level_totals) - total(&b.level_totals)).abs() < NEAR);
    }
    Ok(scratch)
}

fn agree(edited: &mut Live, mirror: &Mirror) -> Result<(), TestCaseError> {
    let mut scratch = agree_in_values(edited, mirror)?;
    let (a, b) = (edited.plan.diagnose(), scratch.plan.diagnose());
    prop_assert!(!a.stopped && !b.stopped);
    prop_assert_eq!(a.free.len(), b.free.len(), "{:?} {:?}", a.free, b.free);
    for (x, y) in a.free.iter().zip(&b.free) {
        prop_assert_eq!((x.var, x.kind, x.follows), (y.var, y.kind, y.follows));
        prop_assert!(same(x.range.0, y.range.0) && same(x.range.1, y.range.1), "{:?} {:?}", x, y);
    }
    let places = |live: &Live, d: &Diagnosis| -> Vec<Vec<usize>> {
        let rules = |c: &Conflict| c.rules.iter().map(|&r| live.place(r)).collect();
        d.conflicts.iter().map(rules).collect()
    };
    prop_assert_eq!(places(edited, &a), places(&scratch, &b));
    Ok(())
}

proptest! {
    #![proptest_config(vantic_testkit::cases(120))]

    #[test]
    fn an_edited_plan_is_what_a_new_one_would_be(
        mirror in mirror(),
        edits in prop::collection::vec(edit(), 1..12),
    ) {
        let mut mirror = mirror;
        let mut live = fresh(&mirror);
        let start = (live.plan.values().to_vec(), live.plan.status());
        let mut back = Vec::new();
        for edit in edits {
            back.extend(live.make(edit, &mut mirror));
            agree(&mut live, &mirror)?;
        }
        for undo in back.into_iter().rev() {
            live.take_back(undo, &mut mirror);
        }
        agree(&mut live, &mirror)?;
        prop_assert_eq!(live.plan.status(), start.1);
        for (a, b) in live.plan.values().iter().zip(&start.0) {
            prop_assert!((a - b).abs() < NEAR, "undone to the start: {:?} {:?}", live.plan.values(), start.0);
        }
    }

    #[test]
    fn a_plan_reused_for_another_problem_is_a_new_plan_of_it(
        mirror in mirror(),
        others in prop::collection::vec((0_usize..8, 0_usize..3, prop::collection::vec(written(), 0..3)), 1..4),
        units in prop::collection::vec(0_u8..40, 1..4),
    ) {
        let mut mirror = mirror;
        let mut live = fresh(&mirror);
        for (at, gone, new) in others {
            // Some rules anywhere are others, fewer or more.
            let at = at.min(mirror.rules.len());
            let end = (at + gone).min(mirror.rules.len());
            mirror.rules.splice(at..end, new.into_iter().map(Some));
            let (next, unit, vars, rules) = problem(&mirror);
            prop_assert!(live.plan.reuse_for(&next));
            live = Live { plan: live.plan, unit, vars, rules };
            agree(&mut live, &mirror)?;
            for &unit in &units {
                mirror.unit = f64::from(unit);
                live.plan.solve(&[mirror.unit]).unwrap();
                agree(&mut live, &mirror)?;
            }
            let (outcome, certificate) = (live.plan.outcome(), live.plan.certificate());
            let conflicts = live.plan.diagnose().conflicts;
            let verified = verify::<f64>(&next, &[mirror.unit], &outcome, &certificate, &conflicts, &[]);
            prop_assert_eq!(verified, Ok(()));
        }
        // More than rules may not differ.
        let mut without_nonnegativity = mirror.clone();
        without_nonnegativity.nonnegative.push(true);
        let before = live.plan.values().to_vec();
        prop_assert!(!live.plan.reuse_for(&problem(&without_nonnegativity).0));
        prop_assert_eq!(live.plan.values(), before);
    }

    #[test]
    fn regions_are_left_and_entered_again_in_any_order(
        mirror in mirror(),
        steps in prop::collection::vec( prop_oneof![12 => (0_u8..12).prop_map(|u| Edit::Resize(f64::from(u) * 5.0)), 1 => edit()], 4..40, ),
        asked in 0_usize..40,
    ) {
        let mut mirror = mirror;
        let mut live = fresh(&mirror);
        for (at, step) in steps.into_iter().enumerate() {
            live.make(step, &mut mirror);
            agree_in_values(&live, &mirror)?;
            if at == asked {
                agree(&mut live, &mirror)?;
            }
        }
        agree(&mut live, &mirror)?;
    }

    #[test]
    fn a_value_follows_its_causes_on_both_sides(mirror in mirror()) {
        let mut live = fresh(&mirror);
        // Small beside what lies between the borders of these problems.
        let little = 1e-3;
        for index in 0..5 {
            let sides = live.plan.sensitivities(live.vars[index]).unwrap();
            let here = live.plan.values()[index];
            let follows = |cause: Cause, raised: bool| {
                let sides = sides.iter().find(|s| s.0 == cause).map(|s| s.1);
                sides.map_or(0.0, |s| if raised { s.raised } else { s.lowered })
            };
            let check = |cause: Cause, raised: bool, there: &Mirror| {
                let by = if raised { little } else { -little };
                let rate = (fresh(there).plan.values()[index] - here) / by;
                let (told, near) = (follows(cause, raised), NEAR / little * 10.0);
                prop_assert!(
                    (rate - told).abs() < near,
                    "{:?} of {}: {} but told {}",
                    cause,
                    index,
                    rate,
                    told
                );
                Ok(())
            };
            for raised in [false, true] {
                let by = if raised { little } else { -little };
                check(
                    Cause::Parameter(live.unit),
                    raised,
                    &Mirror { unit: mirror.unit + by, ..mirror.clone() },
                )?;
                for (at, rule) in live.rules.iter().enumerate() {
                    let mut there = mirror.clone();
                    there.rules[at].as_mut().unwrap().constant += by;
                    check(Cause::Rule(rule.unwrap()), raised, &there)?;
                }
            }
        }
    }

    #[test]
    fn inside_a_region_nothing_but_the_parameters_moves(
        mirror in mirror(),
        units in prop::collection::vec(0_u8..60, 2..8),
    ) {
        let mut live = fresh(&mirror);
        for unit in units {
            let unit = f64::from(unit);
            let bounds = live.plan.region();
            let here: Vec<f64> = live.plan.values().to_vec();
            let was = mirror.unit;
            let within =
                bounds.iter().all(|b| b.constant + b.terms.iter().map(|t| t.1 * unit).sum::<f64>() >= 0.0);
            let now = Mirror { unit, ..mirror.clone() };
            live.plan.solve(&[unit]).unwrap();
            agree(&mut live, &now)?;
            if within {
                // Half way between two points of one region every value is half way too.
                let there: Vec<f64> = live.plan.values().to_vec();
                live.plan.solve(&[was]).unwrap();
                live.plan.solve(&[(was + unit) / 2.0]).unwrap();
                for ((a, b), middle) in here.iter().zip(&there).zip(live.plan.values()) {
                    prop_assert!(((a + b) / 2.0 - middle).abs() < NEAR);
                }
                live.plan.solve(&[was]).unwrap();
            } else {
                live.plan.solve(&[was]).unwrap();
            }
        }
    }
}

#[test]
fn an_edit_that_cannot_be_made_is_refused_and_leaves_the_plan_usable() {
    let mut b = ProblemBuilder::new();
    let unit = b.parameter();
    let x = b.variable();
    let rule = b.rule(Linear::of(x) - Affine::of(unit), Relation::Equal, Level::REQUIRED, 1.0).unwrap();
    let mut plan = Plan::new(&b.build());
    plan.solve(&[5.0]).unwrap();
    assert_eq!(plan.remove_variable(x), Err(ProblemError::StillRead(rule)));
    plan.remove_rule(rule).unwrap();
    assert_eq!(plan.values(), [0.0]);
    assert_eq!(plan.remove_rule(rule), Err(ProblemError::Removed));
    assert_eq!(plan.set_constant(rule, Affine::constant(1.0)), Err(ProblemError::Removed));
    assert_eq!(plan.solve(&[f64::NAN]), Err(ProblemError::NotFinite));
    let nan = Linear::of(x).plus(f64::NAN);
    assert_eq!(plan.add_rule(nan, Relation::Equal, Level::REQUIRED, 1.0), Err(ProblemError::NotFinite));
    assert_eq!(
        plan.add_rule(Linear::of(x), Relation::Equal, Level::REQUIRED, 0.0),
        Err(ProblemError::Weight)
    );
    let mut other = ProblemBuilder::new();
    let foreign = (0..3).map(|_| other.variable()).last().unwrap();
    assert_eq!(plan.remove_variable(foreign), Err(ProblemError::UnknownId));
    plan.change_rule(rule, Linear::of(x).plus(-7.0), Relation::Equal, Level::REQUIRED, 1.0).unwrap();
    assert_eq!((plan.solve(&[9.0]), plan.values()), (Ok(Status::Solved), &[7.0][..]));
    plan.remove_rule(rule).unwrap();
    plan.remove_variable(x).unwrap();
    assert_eq!(plan.remove_variable(x), Err(ProblemError::Removed));
    let read = plan.add_rule(Linear::of(x), Relation::Equal, Level::REQUIRED, 1.0);
    assert_eq!(read, Err(ProblemError::Removed));
    assert_eq!(plan.solve(&[9.0]), Ok(Status::Solved));
}
