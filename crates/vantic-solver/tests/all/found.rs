//! Problems on which the solver was once wrong, kept so that it is not again. One line a rule:
//! level, weight, relation, constant, then pairs of variable and coefficient.

use vantic_solver::{
    Affine, Free, Level, Linear, Plan, Problem, ProblemBuilder, ProvenRange, Relation, RuleId, Settle,
    Status, VarId, verify,
};

struct Found {
    what: &'static str,
    /// Which variables are given to be at least zero.
    nonnegative: &'static str,
    rules: &'static str,
    status: Status,
    totals: &'static [f64],
    values: &'static [f64],
}

const FOUND: &[Found] = &[
    Found {
        what: "a required rule that supports another was skipped once it was tight itself",
        nonnegative: "--",
        rules: "0 1 = 0  0:1
                0 1 = 10  0:1 1:1
                0 1 = 0  1:1
                0 1 = 0  1:3",
        status: Status::Broken,
        totals: &[10.0],
        values: &[0.0, 0.0],
    },
    Found {
        what: "what pulled was counted before all it reads was known",
        nonnegative: "+--",
        rules: "0 1 < 15  0:-1
                1 1 = 0  0:2
                0 1 = 0  2:1 0:-1
                0 1 = 0  1:1
                0 0.5 = 0  2:1 0:1",
        status: Status::Broken,
        totals: &[15.0, 0.0],
        values: &[0.0, 0.0, 0.0],
    },
    Found {
        what: "of two contradictions only the first was named",
        nonnegative: "--",
        rules: "0 1 = -5  0:1
                0 1 = 5  0:1 1:-1
                0 1 = 0  0:-1
                0 1 = -10  1:2",
        status: Status::Broken,
        totals: &[5.0],
        values: &[0.0, 5.0],
    },
    Found {
        what: "a variable that was known came to read one that was not",
        nonnegative: "+-+-",
        rules: "0 0.5 > 0  1:1
                0 0.5 = 0  0:-0.5 2:-0.5 3:1
                0 1 > 0  1:1
                0 1 = 5  1:1 0:1
                0 1 = -5  0:1 1:-0.5 3:-1",
        status: Status::Broken,
        totals: &[7.5],
        values: &[0.0, 0.0, 0.0, -5.0],
    },
    Found {
        what: "coefficients that are small together were taken for none",
        nonnegative: "+++++",
        rules: "0 1 = 0  1:1 0:-5285.792237592152
                0 1 = 0  2:1 1:-0.0013472583992461585
                0 1 = 0  3:1 2:-0.0002936178750441237
                0 1 = 0  4:1 3:-0.00017999646762414842
                1 1 = -1  0:1
                0 1 < -3.763634684612470e-8  4:1",
        status: Status::Solved,
        totals: &[0.0, 0.9],
        values: &[0.1, 528.5792237592152, 0.7121327988766173, 0.0002090949191553767, 3.76363468461247e-8],
    },
];

fn build(found: &Found) -> (Problem, Vec<VarId>) {
    let mut b = ProblemBuilder::new();
    let vars: Vec<VarId> = found
        .nonnegative
        .chars()
        .map(|c| if c == '+' { b.nonnegative_variable() } else { b.variable() })
        .collect();
    for line in found.rules.lines() {
        let mut words = line.split_whitespace();
        let mut next = || words.next().unwrap();
        let (level, weight) = (next().parse().unwrap(), next().parse().unwrap());
        let relation = match next() {
            "=" => Relation::Equal,
            "<" => Relation::AtMost,
            _ => Relation::AtLeast,
        };
        let constant: f64 = next().parse().unwrap();
        let terms = words.map(|word| {
            let (var, c) = word.split_once(':').unwrap();
            (vars[var.parse::<usize>().unwrap()], c.parse().unwrap())
        });
        let expr = Linear::new(terms.collect(), Affine::constant(constant));
        b.rule(expr, relation, Level::preference(level), weight).unwrap();
    }
    for &v in &vars {
        b.settle(Settle::least(v)).unwrap();
        b.watch(v).unwrap();
    }
    (b.build(), vars)
}

#[test]
fn what_was_found_wrong_once_is_right() {
    for found in FOUND {
        let (problem, _) = build(found);
        let mut plan = Plan::new(&problem);
        assert_eq!(plan.solve(&[]), Ok(found.status), "{}", found.what);
        let (outcome, diagnosis) = (plan.outcome(), plan.diagnose());
        let near =
            |a: &[f64], b: &[f64]| a.len() == b.len() && a.iter().zip(b).all(|(a, b)| (a - b).abs() < 1e-6);
        assert!(near(&outcome.level_totals, found.totals), "{}: {outcome:?}", found.what);
        assert!(near(&outcome.values, found.values), "{}: {outcome:?}", found.what);
        assert!(!diagnosis.stopped, "{}", found.what);
        let sound = verify::<f64>(&problem, &[], &outcome, &plan.certificate(), &diagnosis.conflicts, &[]);
        assert_eq!(sound, Ok(()), "{}", found.what);
        // Setting the last of each conflict aside leaves required rules that can hold.
        let aside: Vec<RuleId> = diagnosis.conflicts.iter().filter_map(|c| c.rules.last().copied()).collect();
        aside.iter().for_each(|&rule| plan.remove_rule(rule).unwrap());
        assert_eq!(plan.status(), Status::Solved, "{}", found.what);
    }
}

#[test]
fn a_claim_that_was_tampered_with_is_found_out() {
    // The checker is worth something only if it refuses what is wrong.
    for found in FOUND {
        let (problem, _) = build(found);
        let mut plan = Plan::new(&problem);
        plan.solve(&[]).unwrap();
        let (outcome, conflicts, proof) = (plan.outcome(), plan.diagnose().conflicts, plan.certificate());
        let check = |outcome: &_, proof: &_, conflicts: &[_]| {
            verify::<f64>(&problem, &[], outcome, proof, conflicts, &[])
        };
        let mut moved = outcome.clone();
        moved.values[0] += 1.0;
        assert!(check(&moved, &proof, &conflicts).is_err(), "{}: a value", found.what);
        let mut cheaper = outcome.clone();
        cheaper.level_totals[0] += 1.0;
        assert!(check(&cheaper, &proof, &conflicts).is_err(), "{}: a total", found.what);
        for rule in proof.rules.keys() {
            let mut other = proof.clone();
            other.rules.get_mut(rule).unwrap()[0] += 0.25;
            assert!(check(&outcome, &other, &conflicts).is_err(), "{}: a factor of rule {rule}", found.what);
        }
        for at in 0..conflicts.len() {
            let mut fewer = conflicts.clone();
            fewer[at].multipliers[0] *= -1.0;
            assert!(check(&outcome, &proof, &fewer).is_err(), "{}: a factor of a conflict", found.what);
            let mut more = conflicts.clone();
            more[at].witnesses[0].iter_mut().for_each(|w| w.1 += 1000.0);
            assert!(check(&outcome, &proof, &more).is_err(), "{}: a witness", found.what);
        }
    }
}

#[test]
fn the_ends_of_a_free_range_are_proven_and_others_are_refused() {
    let mut b = ProblemBuilder::new();
    let [x, y, loose, below] =
        [b.nonnegative_variable(), b.nonnegative_variable(), b.variable(), b.variable()];
    let mut rule = |terms: &[(VarId, f64)], relation, constant: f64, level: u32| {
        let expr = Linear::new(terms.to_vec(), Affine::constant(constant));
        b.rule(expr, relation, Level::preference(level), 1.0).unwrap();
    };
    rule(&[(x, 1.0), (y, 1.0)], Relation::Equal, -100.0, 0);
    rule(&[(x, 1.0)], Relation::Equal, -80.0, 1);
    rule(&[(y, 1.0)], Relation::Equal, -60.0, 1);
    rule(&[(below, 1.0)], Relation::AtMost, -30.0, 2);
    [x, y, loose, below].iter().for_each(|&v| b.watch(v).unwrap());
    let problem = b.build();
    let mut plan = Plan::new(&problem);
    plan.solve(&[]).unwrap();
    let (outcome, proof, free) = (plan.outcome(), plan.certificate(), plan.diagnose().free);
    let range = |v: VarId| free.iter().find(|f| f.var == v).map(|f| f.range).unwrap();
    assert_eq!((range(x), range(y)), ((Some(40.0), Some(80.0)), (Some(20.0), Some(60.0))));
    assert_eq!((range(loose), range(below)), ((None, None), (None, Some(30.0))));
    let check = |claims: &[_]| verify::<f64>(&problem, &[], &outcome, &proof, &[], claims);
    for f in &free {
        assert_eq!(check(&[plan.prove_range(f).unwrap()]), Ok(()), "{f:?}");
        let ends = [Some(-7.0), f.range.0.map(|low| low + 3.0), None];
        for low in ends.into_iter().filter(|low| *low != f.range.0) {
            // Nobody can prove another end: neither by its own proof nor by the right one.
            let other = Free { range: (low, f.range.1), ..f.clone() };
            assert!(check(&[plan.prove_range(&other).unwrap()]).is_err(), "{other:?}");
            let lent = ProvenRange { free: other, ..plan.prove_range(f).unwrap() };
            assert!(check(&[lent]).is_err(), "{f:?}");
        }
    }
}

/// What a rule had pulled with stayed counted after it came to hold.
#[test]
fn a_tie_is_seen_after_a_rule_stopped_pulling() {
    let mut b = ProblemBuilder::new();
    let width = b.parameter();
    let (x, shift, y, z) = (b.variable(), b.nonnegative_variable(), b.variable(), b.nonnegative_variable());
    let mut rule = |terms: &[(VarId, f64)], constant: Affine, level: u32| {
        let expr = Linear::new(terms.to_vec(), constant);
        b.rule(expr, Relation::Equal, Level::preference(level), 1.0).unwrap()
    };
    let first = rule(&[(x, 2.0), (shift, -1.0)], Affine::constant(5.0).plus_param(width, -1.0), 1);
    let moved = rule(&[(shift, -0.5), (y, -1.0)], Affine::default(), 0);
    let second = rule(&[(x, 2.0)], Affine::constant(-20.0), 1);
    rule(&[(x, -1.0), (y, -1.0), (z, 1.0)], Affine::default(), 2);
    for v in [x, shift, y, z] {
        b.settle(Settle::least(v)).unwrap();
        b.watch(v).unwrap();
    }
    let mut plan = Plan::new(&b.build());
    plan.solve(&[0.0]).unwrap();
    plan.set_constant(moved, Affine::constant(5.0)).unwrap();
    plan.solve(&[30.0]).unwrap();
    let free = plan.diagnose().free;
    let range = |v: VarId| free.iter().find(|f| f.var == v).map(|f| f.range);
    assert_eq!((range(x), range(z)), (Some((Some(10.0), Some(12.5))), Some((Some(15.0), Some(17.5)))));
    assert_eq!(free[0].rules, [first, second]);
}
