//! What a caller sees: refused input, outcomes, bounds and larger problems.

use vantic_solver::{
    Affine, Diagnosis, FreeKind, Level, Linear, Outcome, Plan, ProblemBuilder, ProblemError, Relation,
    Settle, Status, VarId, verify,
};

fn solved(b: ProblemBuilder, params: &[f64]) -> Outcome {
    diagnosed(b, params).0
}

fn diagnosed(b: ProblemBuilder, params: &[f64]) -> (Outcome, Diagnosis) {
    let mut plan = Plan::new(&b.build());
    plan.solve(params).unwrap();
    (plan.outcome(), plan.diagnose())
}

fn equal(b: &mut ProblemBuilder, terms: &[(VarId, f64)], constant: f64, level: u32) {
    let expr = Linear::new(terms.to_vec(), Affine::constant(constant));
    b.rule(expr, Relation::Equal, Level::preference(level), 1.0).unwrap();
}

#[test]
fn what_is_not_a_number_is_refused_at_the_door() {
    let mut b = ProblemBuilder::new();
    let p = b.parameter();
    let x = b.variable();
    let rule = |b: &mut ProblemBuilder, expr, weight| b.rule(expr, Relation::Equal, Level::REQUIRED, weight);
    assert_eq!(rule(&mut b, Linear::of(x).plus(f64::NAN), 1.0), Err(ProblemError::NotFinite));
    assert_eq!(rule(&mut b, Linear::default().plus_var(x, f64::INFINITY), 1.0), Err(ProblemError::NotFinite));
    assert_eq!(rule(&mut b, Linear::of(x), 0.0), Err(ProblemError::Weight));
    let weakest = b.rule(Linear::of(x), Relation::Equal, Level::preference(u32::MAX), 1.0);
    assert_eq!(weakest, Err(ProblemError::Level));
    let mut other = ProblemBuilder::new();
    let foreign = (0..4).map(|_| other.variable()).last().unwrap();
    assert_eq!(rule(&mut b, Linear::of(foreign), 1.0), Err(ProblemError::UnknownId));
    assert_eq!(b.watch(foreign), Err(ProblemError::UnknownId));
    rule(&mut b, Linear::of(x) - Affine::of(p), 1.0).unwrap();
    let mut plan = Plan::new(&b.build());
    let count = ProblemError::ParameterCount { expected: 1, found: 0 };
    assert_eq!(plan.solve(&[]), Err(count));
    assert_eq!(plan.solve(&[f64::NAN]), Err(ProblemError::NotFinite));
    // The plan is as good as new after a refusal.
    assert_eq!(plan.solve(&[7.0]), Ok(Status::Solved));
    assert_eq!(plan.values()[x.index()], 7.0);
}

#[test]
fn a_plan_that_was_never_solved_says_so() {
    let mut b = ProblemBuilder::new();
    let x = b.nonnegative_variable();
    equal(&mut b, &[(x, 1.0)], -4.0, 0);
    b.watch(x).unwrap();
    let mut plan = Plan::new(&b.build());
    assert_eq!(plan.explain(x), Err(ProblemError::NotSolved));
    assert!(plan.diagnose().stopped && plan.formulas().is_empty() && plan.region().is_empty());
    assert!(plan.certificate().rules.is_empty());
    let y = plan.add_variable(true);
    plan.add_rule(Linear::of(y).plus_var(x, -2.0), Relation::Equal, Level::REQUIRED, 1.0).unwrap();
    assert_eq!(plan.outcome().values, [0.0, 0.0]);
    assert_eq!(plan.solve(&[]), Ok(Status::Solved));
    assert_eq!(plan.values(), [4.0, 8.0]);
    assert_eq!(plan.formulas().len(), 2);
}

#[test]
fn empty_and_contradictory_problems_have_outcomes() {
    let empty = ProblemBuilder::new().build();
    assert_eq!(Plan::new(&empty).solve(&[]).unwrap(), Status::Solved);

    let mut b = ProblemBuilder::new();
    let x = b.nonnegative_variable();
    equal(&mut b, &[], 3.0, 0); // 3 = 0
    equal(&mut b, &[(x, 1.0)], 5.0, 0); // x = -5, against the given
    let (outcome, diagnosis) = diagnosed(b, &[]);
    assert_eq!(outcome.status, Status::Broken);
    assert_eq!(outcome.values[x.index()], 0.0, "nonnegativity comes before every required rule");
    assert_eq!(outcome.level_totals, [8.0]);
    let named: Vec<(usize, usize, f64)> =
        diagnosis.conflicts.iter().map(|c| (c.rules[0].index(), c.nonnegatives.len(), c.amount)).collect();
    assert_eq!(named, [(0, 0, 3.0), (1, 1, 5.0)]);
}

#[test]
fn of_broken_required_rules_the_first_wins_and_none_is_called_free() {
    let mut b = ProblemBuilder::new();
    let x = b.variable();
    equal(&mut b, &[(x, 1.0)], -10.0, 0);
    equal(&mut b, &[(x, 1.0)], -30.0, 0);
    b.watch(x).unwrap();
    let (outcome, diagnosis) = diagnosed(b, &[]);
    assert_eq!((outcome.values[x.index()], outcome.status), (10.0, Status::Broken));
    assert_eq!(diagnosis.free, []);
    assert_eq!(diagnosis.conflicts[0].amount, 20.0);
}

#[test]
fn a_tie_names_both_sides_and_its_interval() {
    let mut b = ProblemBuilder::new();
    let (x, y) = (b.nonnegative_variable(), b.nonnegative_variable());
    equal(&mut b, &[(x, 1.0), (y, 1.0)], -100.0, 0);
    equal(&mut b, &[(x, 1.0)], -80.0, 1);
    equal(&mut b, &[(y, 1.0)], -60.0, 1);
    b.watch(x).unwrap();
    b.watch(y).unwrap();
    let (outcome, diagnosis) = diagnosed(b, &[]);
    assert_eq!(
        (outcome.values[x.index()], outcome.values[y.index()]),
        (80.0, 20.0),
        "written first goes first"
    );
    let free = &diagnosis.free;
    assert_eq!((free[0].kind, free[0].range), (FreeKind::Tied, (Some(40.0), Some(80.0))));
    assert_eq!(free[0].rules.iter().map(|r| r.index()).collect::<Vec<_>>(), [1, 2]);
    assert_eq!(free[1].follows, Some(x));
}

#[test]
fn a_long_chain_and_many_levels_come_out_exactly() {
    let mut b = ProblemBuilder::new();
    let height = b.parameter();
    let mut bottom = Linear::default();
    let mut tops = Vec::new();
    for i in 0..20_000_u32 {
        let (top, tall) = (b.variable(), b.nonnegative_variable());
        b.rule(
            Linear::of(top).plus_var(tall, 0.0) - Affine::constant(0.0),
            Relation::AtLeast,
            Level::REQUIRED,
            1.0,
        )
        .unwrap();
        let mut follow = Linear::of(top).plus(-8.0);
        for (v, c) in tops.last().map(|&(t, h)| [(t, -1.0), (h, -1.0)]).into_iter().flatten() {
            follow = follow.plus_var(v, c);
        }
        b.rule(follow, Relation::Equal, Level::REQUIRED, 1.0).unwrap();
        equal(&mut b, &[(tall, 1.0)], -f64::from(20 + i % 3), 0);
        tops.push((top, tall));
        bottom = Linear::of(top).plus_var(tall, 1.0);
    }
    b.rule(bottom - Affine::of(height), Relation::AtMost, Level::preference(40), 1.0).unwrap();
    let outcome = solved(b, &[500_000.0]);
    // 20,000 gaps of 8, and heights of 20, 21, 22 in turn; the last one is 21.
    let end = 20_000.0 * 8.0 + 6_666.0 * 63.0 + 20.0 + 21.0;
    assert_eq!(outcome.values[tops[19_999].0.index()], end - 21.0);
    assert_eq!(outcome.level_totals.len(), 41);
    assert_eq!(outcome.level_totals[40], end - 500_000.0);
}

#[test]
fn thousands_of_rules_that_depend_on_one_another_are_solved_too() {
    // Each width is at most the next, all want to be as wide as they can, and only the last is held.
    let mut b = ProblemBuilder::new();
    let vars: Vec<VarId> = (0..1_000).map(|_| b.nonnegative_variable()).collect();
    for pair in vars.windows(2) {
        let expr = Linear::of(pair[0]).plus_var(pair[1], -1.0);
        b.rule(expr, Relation::AtMost, Level::REQUIRED, 1.0).unwrap();
    }
    let last = Linear::of(vars[999]).plus(-60.0);
    b.rule(last, Relation::AtMost, Level::REQUIRED, 1.0).unwrap();
    b.rule(Linear::of(vars[0]).plus(-100.0), Relation::AtLeast, Level::preference(1), 1.0).unwrap();
    vars.iter().for_each(|&v| b.settle(Settle::least(v)).unwrap());
    let outcome = solved(b, &[]);
    assert_eq!((outcome.status, outcome.level_totals), (Status::Solved, vec![0.0, 40.0]));
    assert!(outcome.values.iter().all(|v| *v == 60.0));
}

#[test]
fn every_conflict_is_found_one_after_another() {
    let mut b = ProblemBuilder::new();
    let (x, y, z) = (b.variable(), b.variable(), b.nonnegative_variable());
    equal(&mut b, &[(x, 1.0)], -1.0, 0); // 0: x = 1
    equal(&mut b, &[(y, 1.0), (x, -1.0)], -2.0, 0); // 1: y = x + 2
    equal(&mut b, &[(y, 1.0)], -9.0, 0); // 2: y = 9, against 0 and 1 by 6
    equal(&mut b, &[(z, 1.0), (y, 1.0)], 0.0, 0); // 3: z = -y, against the given with 2
    equal(&mut b, &[(x, 1.0)], -4.0, 0); // 4: x = 4, against 0 by 3
    equal(&mut b, &[(x, 1.0)], -8.0, 1); // a preference is in no conflict
    let (outcome, diagnosis) = diagnosed(b, &[]);
    let sets: Vec<(Vec<usize>, usize)> = diagnosis
        .conflicts
        .iter()
        .map(|c| (c.rules.iter().map(|r| r.index()).collect(), c.nonnegatives.len()))
        .collect();
    assert_eq!(outcome.status, Status::Broken);
    for (set, _) in &sets {
        assert!(set.iter().all(|r| *r < 5) && !set.is_empty(), "{sets:?}");
    }
    // Setting the last of each set aside leaves required rules that can hold.
    let aside: Vec<usize> = sets.iter().map(|s| *s.0.last().unwrap()).collect();
    assert!(aside.contains(&4), "{sets:?}");
    let mut rest = ProblemBuilder::new();
    let (x, y, z) = (rest.variable(), rest.variable(), rest.nonnegative_variable());
    let rules =
        [vec![(x, 1.0)], vec![(y, 1.0), (x, -1.0)], vec![(y, 1.0)], vec![(z, 1.0), (y, 1.0)], vec![(x, 1.0)]];
    for (i, (terms, constant)) in rules.iter().zip([-1.0, -2.0, -9.0, 0.0, -4.0]).enumerate() {
        if !aside.contains(&i) {
            equal(&mut rest, terms, constant, 0);
        }
    }
    assert_eq!(solved(rest, &[]).status, Status::Solved);
}

#[test]
fn a_given_that_takes_part_is_named_and_so_is_what_it_hides() {
    // A box of height 44 whose foot is at 662 and whose top has to be at 680.
    let mut b = ProblemBuilder::new();
    let (top, height) = (b.variable(), b.nonnegative_variable());
    equal(&mut b, &[(top, 1.0)], -680.0, 0);
    equal(&mut b, &[(height, 1.0)], -44.0, 0);
    equal(&mut b, &[(top, 1.0), (height, 1.0)], -662.0, 0);
    let (outcome, diagnosis) = diagnosed(b, &[]);
    let [conflict] = diagnosis.conflicts.as_slice() else { panic!("{diagnosis:?}") };
    let ids = |rules: &[vantic_solver::RuleId]| rules.iter().map(|r| r.index()).collect::<Vec<_>>();
    assert_eq!(
        (ids(&conflict.rules), conflict.nonnegatives.as_slice(), conflict.amount),
        (vec![0, 2], &[height][..], 18.0)
    );
    let without_nonnegativity = conflict.without_nonnegativity.as_ref().unwrap();
    assert_eq!((ids(&without_nonnegativity.rules), without_nonnegativity.amount), (vec![0, 1, 2], 62.0));
    assert_eq!(outcome.level_totals, [62.0]);
}

#[test]
fn weights_count_within_a_level_and_levels_before_weights() {
    let solved = |heavy_level: u32, weight: f64| {
        let mut b = ProblemBuilder::new();
        let x = b.variable();
        for (target, level, weight) in [(10.0, heavy_level, weight), (20.0, 1, 1.0), (21.0, 1, 1.0)] {
            b.rule(Linear::of(x).plus(-target), Relation::Equal, Level::preference(level), weight).unwrap();
        }
        solved(b, &[]).values[x.index()]
    };
    assert_eq!(solved(1, 1.0), 20.0, "two against one");
    assert_eq!(solved(1, 2.5), 10.0, "a weight of 2.5 against two");
    assert_eq!(solved(2, 1000.0), 20.0, "no weight makes up for a level");
}

#[test]
fn a_conflict_is_found_whatever_is_settled_together() {
    // The size is in a conflict, the edge is not; a settling step speaks of both.
    let mut b = ProblemBuilder::new();
    let (edge, size, other) = (b.variable(), b.nonnegative_variable(), b.nonnegative_variable());
    b.rule(Linear::of(edge), Relation::AtLeast, Level::REQUIRED, 1.0).unwrap();
    b.rule(Linear::of(other).plus(-65.0), Relation::AtLeast, Level::REQUIRED, 1.0).unwrap();
    equal(&mut b, &[(size, 1.0), (other, 1.0)], -60.0, 0);
    b.settle(Settle::near(Linear::of(edge).plus_var(size, 1.0), Linear::default())).unwrap();
    let (outcome, diagnosis) = diagnosed(b, &[]);
    assert_eq!((outcome.status, outcome.level_totals[0]), (Status::Broken, 5.0));
    assert_eq!(diagnosis.conflicts.len(), 1);
    assert_eq!(diagnosis.conflicts[0].nonnegatives, [size]);
}

#[test]
fn a_contradiction_through_a_long_chain_is_named_whole_and_proven() {
    const COUNT: usize = 150;
    let mut b = ProblemBuilder::new();
    let mut rule = Vec::new();
    let mut above: Option<(VarId, VarId)> = None;
    for _ in 0..COUNT {
        let (top, height) = (b.variable(), b.nonnegative_variable());
        let mut place = Linear::of(top).plus(-8.0);
        if let Some((over, tall)) = above {
            place = place.plus_var(over, -1.0).plus_var(tall, -1.0);
        }
        rule.push(b.rule(place, Relation::Equal, Level::REQUIRED, 1.0).unwrap());
        let size = Linear::of(height).plus(-40.0);
        b.rule(size, Relation::Equal, Level::REQUIRED, 1.0).unwrap();
        above = Some((top, height));
    }
    // Nothing but the gaps and that no height is below zero is needed to see that this is too little.
    let bottom = Linear::of(above.unwrap().0).plus_var(above.unwrap().1, 1.0).plus(-20.0);
    rule.push(b.rule(bottom, Relation::AtMost, Level::REQUIRED, 1.0).unwrap());
    let problem = b.build();
    let mut plan = Plan::new(&problem);
    assert_eq!(plan.solve(&[]), Ok(Status::Broken));
    let (outcome, conflicts) = (plan.outcome(), plan.diagnose().conflicts);
    assert!((outcome.level_totals[0] - (48.0 * COUNT as f64 - 20.0)).abs() < 1e-6);
    assert_eq!(conflicts[0].rules, rule);
    assert_eq!(conflicts[0].nonnegatives.len(), COUNT);
    let only = [conflicts[0].clone()];
    verify::<f64>(&problem, &[], &outcome, &plan.certificate(), &only, &[]).unwrap();
}

#[test]
fn a_part_of_a_problem_is_solved_as_if_it_were_the_whole() {
    let build = |kept: &[usize]| {
        let mut b = ProblemBuilder::new();
        let width = b.parameter();
        let (x, y) = (b.variable(), b.nonnegative_variable());
        let share = Affine::default().plus_param(width, -0.5);
        let rules = [
            (Linear::new(vec![(x, 1.0)], share), Relation::Equal, Level::REQUIRED),
            (Linear::of(x).plus_var(y, -1.0), Relation::AtLeast, Level::REQUIRED),
            (Linear::of(y).plus(-90.0), Relation::Equal, Level::preference(1)),
            (Linear::of(y).plus(-20.0), Relation::AtLeast, Level::preference(2)),
        ];
        let ids: Vec<_> = kept
            .iter()
            .map(|&at| {
                let (expr, relation, level) = rules[at].clone();
                b.rule(expr, relation, level, 1.0).unwrap()
            })
            .collect();
        b.settle(Settle::least(y)).unwrap();
        (b.build(), ids, y)
    };
    let (whole, ids, y) = build(&[0, 1, 2, 3]);
    let values = |problem: &vantic_solver::Problem| {
        let mut plan = vantic_solver::Plan::new(problem);
        plan.solve(&[100.0]).unwrap();
        plan.values().to_vec()
    };
    for kept in [&[0, 1, 2, 3][..], &[0, 1], &[0, 2], &[1, 3], &[3]] {
        let rules: Vec<_> = whole.rules().collect();
        let as_written = kept.iter().map(|&at| (ids[at], rules[at].1, rules[at].2));
        let part = whole.part(as_written, [Settle::least(y)].into_iter()).unwrap();
        assert_eq!(values(&part), values(&build(kept).0), "{kept:?}");
    }
    // With other relations and levels: an equality at its limit, and a wish that has to hold.
    let other = [(ids[0], Relation::Equal, Level::REQUIRED), (ids[3], Relation::Equal, Level::REQUIRED)];
    assert_eq!(values(&whole.part(other.into_iter(), std::iter::empty()).unwrap()), [50.0, 20.0]);
    let beyond = [(ids[0], Relation::Equal, Level::preference(u32::MAX))].into_iter();
    assert_eq!(whole.part(beyond, std::iter::empty()).err(), Some(ProblemError::Level));
}
