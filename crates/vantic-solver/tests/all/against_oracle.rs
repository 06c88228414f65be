//! The solver against exact rational arithmetic, on random problems made to have ties, broken
//! required rules, degenerate corners and free variables; and the properties that every answer has.

use crate::oracle::{Best, ExactRule, Q, can_hold, q};
use num_traits::{One, Signed, ToPrimitive};
use proptest::prelude::*;
use vantic_solver::{
    Affine, FreeKind, Level, Linear, Number, Outcome, Plan, Problem, ProblemBuilder, Reason, Relation,
    Settle, Status, VarId, verify,
};

const NEAR: f64 = 1e-6;

#[derive(Clone, Debug)]
struct Plain {
    nonnegative: Vec<bool>,
    rules: Vec<PlainRule>,
}

#[derive(Clone, Debug)]
struct PlainRule {
    terms: Vec<(usize, f64)>,
    constant: f64,
    relation: Relation,
    level: u32,
    weight: f64,
}

fn rule(variables: usize) -> impl Strategy<Value = PlainRule> {
    let coefficient = prop_oneof![4 => Just(1.0), 4 => Just(-1.0), 1 => Just(2.0), 1 => Just(-0.5)];
    (
        prop::collection::vec((0..variables, coefficient), 1..4),
        (-6_i32..=6).prop_map(|c| f64::from(c) * 5.0),
        prop_oneof![3 => Just(Relation::Equal), 1 => Just(Relation::AtMost), 1 => Just(Relation::AtLeast)],
        prop_oneof![4 => Just(0_u32), 2 => Just(1), 2 => Just(2), 1 => Just(3)],
        prop_oneof![3 => Just(1.0), 1 => Just(2.0), 1 => Just(0.5)],
    )
        .prop_map(|(terms, constant, relation, level, weight)| PlainRule {
            terms,
            constant,
            relation,
            level,
            weight,
        })
}

fn problem() -> impl Strategy<Value = Plain> {
    (2_usize..6).prop_flat_map(|n| {
        (prop::collection::vec(any::<bool>(), n), prop::collection::vec(rule(n), 0..8))
            .prop_map(|(nonnegative, rules)| Plain { nonnegative, rules })
    })
}

/// The constants enter through one parameter, so that its use is tested too.
fn build(plain: &Plain) -> (Problem, Vec<VarId>) {
    let mut b = ProblemBuilder::new();
    let unit = b.parameter();
    let vars: Vec<VarId> =
        plain.nonnegative.iter().map(|&g| if g { b.nonnegative_variable() } else { b.variable() }).collect();
    for r in &plain.rules {
        let terms = r.terms.iter().map(|&(v, c)| (vars[v], c)).collect();
        let constant = Affine::default().plus_param(unit, r.constant);
        b.rule(Linear::new(terms, constant), r.relation, Level::preference(r.level), r.weight).unwrap();
    }
    for (&v, &nonnegative) in vars.iter().zip(&plain.nonnegative) {
        let step =
            if nonnegative { Settle::least(v) } else { Settle::near(Linear::of(v), Linear::default()) };
        b.settle(step).unwrap();
        b.watch(v).unwrap();
    }
    (b.build(), vars)
}

/// Exact numbers for the checker.
#[derive(Clone, PartialEq, PartialOrd)]
struct Exact(Q);

impl std::ops::Add for Exact {
    type Output = Self;
    fn add(self, other: Self) -> Self {
        Self(self.0 + other.0)
    }
}

impl std::ops::Sub for Exact {
    type Output = Self;
    fn sub(self, other: Self) -> Self {
        Self(self.0 - other.0)
    }
}

impl std::ops::Mul for Exact {
    type Output = Self;
    fn mul(self, other: Self) -> Self {
        Self(self.0 * other.0)
    }
}

impl Number for Exact {
    fn of(value: f64) -> Self {
        Self(q(value))
    }
}

fn solved(problem: &Problem, unit: f64) -> Outcome {
    let mut plan = Plan::new(problem);
    plan.solve(&[unit]).unwrap();
    plan.outcome()
}

fn exact(plain: &Plain) -> Vec<ExactRule> {
    plain
        .rules
        .iter()
        .map(|r| ExactRule {
            terms: r.terms.iter().map(|&(v, c)| (v, q(c))).collect(),
            constant: q(r.constant),
            relation: r.relation,
            level: r.level as usize,
            weight: q(r.weight),
        })
        .collect()
}

fn near(a: f64, b: &Q) -> bool {
    (a - b.to_f64().unwrap()).abs() < NEAR
}

fn same_end(a: Option<f64>, b: &Option<Q>) -> bool {
    match (a, b) {
        (None, None) => true,
        (Some(a), Some(b)) => near(a, b),
        _ => false,
    }
}

proptest! {
    #![proptest_config(ProptestConfig { max_global_rejects: 100_000, ..vantic_testkit::cases(160) })]

    #[test]
    fn every_claim_agrees_with_exact_arithmetic(plain in problem()) {
        let (problem, vars) = build(&plain);
        let rules = exact(&plain);
        let mut plan = Plan::new(&problem);
        plan.solve(&[1.0]).unwrap();
        let (outcome, diagnosis) = (plan.outcome(), plan.diagnose());
        prop_assert!(!diagnosis.stopped);

        // The checker, which shares no code with the solver, finds every proof sound.
        let ranges: Vec<_> = diagnosis.free.iter().map(|f| plan.prove_range(f).unwrap()).collect();
        let (proof, conflicts) = (plan.certificate(), &diagnosis.conflicts);
        let sound = verify::<Exact>(&problem, &[1.0], &outcome, &proof, conflicts, &ranges);
        prop_assert!(sound.is_ok(), "{:?}", sound);
        // What decides a variable adds up to its value.
        for &var in &vars {
            let why = plan.explain(var).unwrap();
            let by_params: f64 = why.params.iter().map(|p| p.1).sum();
            let by_rules = why.reasons.iter().map(|(reason, rate)| match reason {
                Reason::Rule(rule) => rate * plain.rules[rule.index()].constant,
                _ => 0.0,
            });
            let (by_rules, value) = (by_rules.sum::<f64>(), outcome.values[var.index()]);
            prop_assert!(
                (by_rules - value).abs() < NEAR && (by_params - value).abs() < NEAR,
                "{:?} {}",
                why,
                value
            );
        }

        let mut best = Best::new(&plain.nonnegative, &rules);
        for (level, total) in outcome.level_totals.iter().enumerate() {
            let exact = best.level(level);
            prop_assert!(near(*total, &exact), "level {}: {} but exactly {}", level, total, exact);
        }
        let order =
            |level: usize| rules.iter().enumerate().filter(move |(_, r)| r.level == level).map(|(i, _)| i);
        order(0).for_each(|i| best.own(i));
        let among_best = best.clone();
        for level in 1..4 {
            order(level).for_each(|i| best.own(i));
        }
        // Which variables are free, how far, and which follow from which.
        let free: Vec<(usize, FreeKind)> = (0..vars.len())
            .filter_map(|v| {
                let open = |b: &Best| {
                    let (low, high) = b.range(v);
                    low.is_none() || low != high
                };
                if open(&best) {
                    Some((v, FreeKind::Ambiguous))
                } else if open(&among_best) {
                    Some((v, FreeKind::Tied))
                } else {
                    None
                }
            })
            .collect();
        let claimed: Vec<(usize, FreeKind)> =
            diagnosis.free.iter().map(|f| (f.var.index(), f.kind)).collect();
        prop_assert_eq!(&claimed, &free);
        for f in &diagnosis.free {
            let within = if f.kind == FreeKind::Ambiguous { &best } else { &among_best };
            let (low, high) = within.range(f.var.index());
            prop_assert!(
                same_end(f.range.0, &low) && same_end(f.range.1, &high),
                "{:?}: {:?} {:?}",
                f,
                low,
                high
            );
            if f.kind == FreeKind::Tied && f.follows.is_none() {
                prop_assert!(
                    f.rules.len() >= 2 || outcome.status == Status::Broken,
                    "a tie needs two sides: {:?}",
                    f
                );
            }
        }
        let mut settled = best.clone();
        for (i, &var) in vars.iter().enumerate() {
            let value = settled.settle(i, &q(0.0));
            prop_assert!(
                near(outcome.values[var.index()], &value),
                "{}: {} but exactly {}",
                i,
                outcome.values[var.index()],
                value
            );
        }
        let mut walked = best.clone();
        for f in diagnosis.free.iter().filter(|f| f.kind == FreeKind::Ambiguous) {
            let (low, high) = walked.range(f.var.index());
            let still = low.is_none() || low != high;
            prop_assert_eq!(f.follows.is_none(), still, "{:?}", f);
            if still {
                walked.settle(f.var.index(), &q(0.0));
            }
        }
        // Each conflict cannot hold, and can without any one of its members.
        let can = |ids: &[usize], nonnegative: &[bool]| {
            can_hold(nonnegative, &ids.iter().map(|&i| rules[i].clone()).collect::<Vec<_>>())
        };
        let required: Vec<usize> = order(0).collect();
        prop_assert_eq!(diagnosis.conflicts.is_empty(), can(&required, &plain.nonnegative));
        let mut rest = required;
        for c in &diagnosis.conflicts {
            let ids: Vec<usize> = c.rules.iter().map(|r| r.index()).collect();
            prop_assert!(!can(&ids, &plain.nonnegative), "{:?} can hold", c);
            for drop in 0..ids.len() {
                let mut fewer = ids.clone();
                fewer.remove(drop);
                prop_assert!(can(&fewer, &plain.nonnegative), "{:?} is not irreducible", c);
            }
            let mut only = vec![false; vars.len()];
            c.nonnegatives.iter().for_each(|v| only[v.index()] = true);
            prop_assert!(!can(&ids, &only), "{:?} needs more givens", c);
            rest.retain(|r| Some(r) != ids.last());
        }
        prop_assert!(can(&rest, &plain.nonnegative), "a conflict was left unnamed");
    }

    #[test]
    fn the_order_of_rules_does_not_change_what_is_achieved(plain in problem(), turn in 0_usize..8) {
        let (problem, _) = build(&plain);
        let mut turned = plain.clone();
        if !turned.rules.is_empty() {
            let by = turn % turned.rules.len();
            turned.rules.rotate_left(by);
        }
        let (other, _) = build(&turned);
        let (a, b) = (solved(&problem, 1.0), solved(&other, 1.0));
        for (x, y) in a.level_totals.iter().zip(&b.level_totals) {
            prop_assert!((x - y).abs() < NEAR, "{:?} {:?}", a.level_totals, b.level_totals);
        }
    }

    #[test]
    fn a_redundant_required_rule_changes_nothing(plain in problem(), which in 0_usize..8, slack in 0_i32..3) {
        let (problem, _) = build(&plain);
        let before = solved(&problem, 1.0);
        let required: Vec<&PlainRule> = plain.rules.iter().filter(|r| r.level == 0).collect();
        prop_assume!(before.status == Status::Solved && !required.is_empty());
        let mut again = required[which % required.len()].clone();
        if again.relation != Relation::AtLeast {
            again.relation = Relation::AtMost;
            again.constant -= f64::from(slack);
        }
        let mut more = plain.clone();
        more.rules.push(again);
        let after = solved(&build(&more).0, 1.0);
        for (x, y) in before.values.iter().zip(&after.values) {
            prop_assert!((x - y).abs() < NEAR, "{:?} {:?}", before.values, after.values);
        }
    }

    #[test]
    fn scaling_all_lengths_scales_the_answer(
        plain in problem(),
        factor in prop_oneof![Just(0.25), Just(3.0), Just(512.0)],
    ) {
        let (problem, _) = build(&plain);
        let (one, scaled) = (solved(&problem, 1.0), solved(&problem, factor));
        prop_assert_eq!(one.status, scaled.status);
        for (x, y) in one.values.iter().zip(&scaled.values) {
            prop_assert!(
                (x * factor - y).abs() < NEAR * factor.max(1.0),
                "{:?} {:?}",
                one.values,
                scaled.values
            );
        }
    }
}

#[test]
fn the_oracle_knows_a_hand_computed_answer() {
    // x = 10 (weight 2) against x = 16 (weight 1), x >= 12 as a required rule: 2 * 2 + 4 = 8 at x = 12.
    let rule = |c: f64, relation, level, weight| ExactRule {
        terms: vec![(0, Q::one())],
        constant: q(-c),
        relation,
        level,
        weight: q(weight),
    };
    let rules = [
        rule(12.0, Relation::AtLeast, 0, 1.0),
        rule(10.0, Relation::Equal, 1, 2.0),
        rule(16.0, Relation::Equal, 1, 1.0),
    ];
    let mut best = Best::new(&[true], &rules);
    assert_eq!((best.level(0), best.level(1)), (q(0.0), q(8.0)));
    assert_eq!(best.range(0), (Some(q(12.0)), Some(q(12.0))));
    assert!(q(-1.0).is_negative());
}
