//! Large and small numbers, thousands of degenerate rules, rules that say nearly the same.

use proptest::prelude::*;
use vantic_solver::{Affine, Level, Linear, Plan, ProblemBuilder, Relation, Settle, Status, VarId, verify};

fn required(b: &mut ProblemBuilder, terms: &[(VarId, f64)], constant: f64, relation: Relation) {
    b.rule(Linear::new(terms.to_vec(), Affine::constant(constant)), relation, Level::REQUIRED, 1.0).unwrap();
}

proptest! {
    #![proptest_config(vantic_testkit::cases(256))]

    /// A chain of scaled copies, closed by an inequality against a preference: the answer is known.
    #[test]
    fn coefficients_and_coordinates_of_every_size_come_out_right(
        factors in prop::collection::vec((-4.0..4.0_f64).prop_map(|e| libm::pow(10.0, e)), 1..6),
        far in (0.0..7.0_f64).prop_map(|e| libm::pow(10.0, e)),
        share in 0.1..0.9_f64,
    ) {
        let mut b = ProblemBuilder::new();
        let first = b.nonnegative_variable();
        let mut last = first;
        let mut ratio = 1.0;
        for factor in &factors {
            // Each is in the range of coordinates too.
            let factor = if (1e-7..1e7).contains(&(ratio * factor)) { *factor } else { 1.0 };
            let next = b.nonnegative_variable();
            required(&mut b, &[(next, 1.0), (last, -factor)], 0.0, Relation::Equal);
            (last, ratio) = (next, ratio * factor);
        }
        // The preference wants `far`, the required rule allows a share of it.
        b.rule(Linear::of(first).plus(-far), Relation::Equal, Level::preference(1), 1.0).unwrap();
        required(&mut b, &[(last, 1.0)], -share * far * ratio, Relation::AtMost);
        let problem = b.build();
        let mut plan = Plan::new(&problem);
        prop_assert_eq!(plan.solve(&[]), Ok(Status::Solved));
        let outcome = plan.outcome();
        let relative = |a: f64, b: f64| (a - b).abs() / b.abs().max(1.0);
        prop_assert!(
            relative(outcome.values[first.index()], share * far) < 1e-6 / ratio.min(1.0),
            "{:?}",
            outcome
        );
        prop_assert!(relative(outcome.values[last.index()], share * far * ratio) < 1e-6, "{:?}", outcome);
    }

    /// The same calls give the same bits.
    #[test]
    fn the_same_calls_give_the_same_bits(widths in prop::collection::vec(0.0..2000.0_f64, 1..20)) {
        let run = || {
            let mut b = ProblemBuilder::new();
            let width = b.parameter();
            let vars: Vec<VarId> = (0..12).map(|_| b.nonnegative_variable()).collect();
            for (i, pair) in vars.windows(2).enumerate() {
                required(&mut b, &[(pair[0], 1.0), (pair[1], -0.7)], -3.0, Relation::AtMost);
                let wish = Linear::of(pair[0]).plus(-17.3 * i as f64);
                b.rule(wish, Relation::Equal, Level::preference(1 + i as u32 % 3), 1.0).unwrap();
            }
            let room = Linear::of(vars[11]) - Affine::default().plus_param(width, 0.3);
            b.rule(room, Relation::AtMost, Level::REQUIRED, 1.0).unwrap();
            vars.iter().for_each(|&v| b.settle(Settle::least(v)).unwrap());
            let mut plan = Plan::new(&b.build());
            widths
                .iter()
                .flat_map(|&w| {
                    plan.solve(&[w]).unwrap();
                    plan.values().iter().map(|v| v.to_bits()).collect::<Vec<_>>()
                })
                .collect::<Vec<u64>>()
        };
        prop_assert_eq!(run(), run());
    }
}

#[test]
fn thousands_of_degenerate_rules_are_no_trouble() {
    // Every corner is met by many rules at once: all say the same, some nearly, some scaled.
    let mut b = ProblemBuilder::new();
    let vars: Vec<VarId> = (0..200).map(|_| b.nonnegative_variable()).collect();
    for (i, pair) in vars.windows(2).enumerate() {
        for again in 1..=10 {
            let k = f64::from(again);
            required(&mut b, &[(pair[0], k), (pair[1], -k)], 0.0, Relation::AtMost);
            required(&mut b, &[(pair[0], 1.0), (pair[1], -1.0 - 1e-9 * k)], 0.0, Relation::AtMost);
        }
        let level = Level::preference(1 + i as u32 % 2);
        b.rule(Linear::of(pair[0]).plus(-10.0), Relation::AtLeast, level, 1.0).unwrap();
    }
    required(&mut b, &[(vars[199], 1.0)], -10.0, Relation::AtMost);
    vars.iter().for_each(|&v| b.settle(Settle::least(v)).unwrap());
    let problem = b.build();
    let mut plan = Plan::new(&problem);
    assert_eq!(plan.solve(&[]), Ok(Status::Solved));
    let outcome = plan.outcome();
    assert!(outcome.values.iter().all(|v| (v - 10.0).abs() < 1e-6), "{:?}", outcome.values);
    verify::<f64>(&problem, &[], &outcome, &plan.certificate(), &[], &[]).unwrap();
}

#[test]
fn problems_of_every_unusual_kind_have_an_outcome() {
    let solve = |b: ProblemBuilder| {
        let problem = b.build();
        let mut plan = Plan::new(&problem);
        let status = plan.solve(&[]).unwrap();
        let (outcome, diagnosis) = (plan.outcome(), plan.diagnose());
        verify::<f64>(&problem, &[], &outcome, &plan.certificate(), &diagnosis.conflicts, &[]).unwrap();
        // It can be used afterwards.
        plan.add_rule(Linear::default(), Relation::Equal, Level::REQUIRED, 1.0).unwrap();
        assert_eq!(plan.solve(&[]), Ok(status));
        (status, outcome, diagnosis)
    };
    // Nothing bounds it: it stays where its settling step wants it, and is said to be free.
    let mut b = ProblemBuilder::new();
    let x = b.variable();
    b.rule(Linear::of(x).plus(-5.0), Relation::AtLeast, Level::REQUIRED, 1.0).unwrap();
    b.watch(x).unwrap();
    let (status, outcome, diagnosis) = solve(b);
    assert_eq!((status, outcome.values[0]), (Status::Solved, 5.0));
    assert_eq!(diagnosis.free[0].range, (Some(5.0), None));
    // Every rule says the same.
    let mut b = ProblemBuilder::new();
    let x = b.variable();
    (0..50).for_each(|_| required(&mut b, &[(x, 1.0)], -3.0, Relation::Equal));
    assert_eq!(solve(b).1.values, [3.0]);
    // Every rule contradicts every other.
    let mut b = ProblemBuilder::new();
    let x = b.variable();
    (0..9).for_each(|i| required(&mut b, &[(x, 1.0)], -f64::from(i), Relation::Equal));
    let (status, outcome, diagnosis) = solve(b);
    assert_eq!((status, outcome.values[0], outcome.level_totals[0]), (Status::Broken, 4.0, 20.0));
    assert_eq!(diagnosis.conflicts.len(), 8, "each is set aside once, and one is left");
    // A level without rules between two that have some.
    let mut b = ProblemBuilder::new();
    let x = b.variable();
    for (to, level) in [(1.0, 2), (2.0, 9)] {
        b.rule(Linear::of(x).plus(-to), Relation::Equal, Level::preference(level), 1e-3).unwrap();
    }
    let (_, outcome, _) = solve(b);
    assert_eq!((outcome.values[0], outcome.level_totals.len(), outcome.level_totals[9]), (1.0, 10, 1e-3));
}
