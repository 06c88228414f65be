//! The solver against a general linear-programming package that is given the same stages one
//! after another, on random screens made to have ties, broken required rules, knots, chains of degenerate
//! rules and free coordinates. `PROPTEST_CASES=3000 cargo test --release --test all against_lp --
//! --nocapture` tries thousands and says how many of each it met.

use vantic_solver::{Affine, FreeKind, Level, Linear, Plan, ProblemBuilder, Settle, Status, VarId};
use vantic_testkit::stages::{Range, Relation, Rule, Stages};

const NEAR: f64 = 1e-4;

struct Numbers(u64);

impl Numbers {
    fn below(&mut self, n: u64) -> u64 {
        self.0 = self.0.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        (self.0 >> 33) % n
    }

    fn one_in(&mut self, n: u64) -> bool {
        self.below(n) == 0
    }
}

/// Four variables a view: left, top, width, height.
#[derive(Clone, Debug)]
struct Screen {
    views: usize,
    rules: Vec<Rule>,
}

/// The edge of a view along an axis (0 across, 1 down): near, far or middle.
fn edge(view: usize, axis: usize, kind: u64, factor: f64) -> Vec<(usize, f64)> {
    let share = [0.0, 1.0, 0.5][kind as usize];
    let mut terms = vec![(4 * view + axis, factor)];
    if share > 0.0 {
        terms.push((4 * view + 2 + axis, share * factor));
    }
    terms
}

/// A view's wishes: up to five rules an axis, any edge to any other's, most of them preferences, so that
/// several of one level pull at once and each could be met at another's cost.
fn wishes(mut n: Numbers) -> Screen {
    let views = 3 + n.below(5) as usize;
    let number =
        |n: &mut Numbers, from: i64, to: i64| 4.0 * (from + n.below((to - from) as u64) as i64) as f64;
    let mut rules = Vec::new();
    for view in 0..views {
        for axis in 0..2 {
            if view == 0 {
                for (part, value) in [(axis, 0.0), (axis + 2, [320.0, 480.0][axis])] {
                    let terms = vec![(part, 1.0)];
                    rules.push(Rule {
                        terms,
                        constant: -value,
                        relation: Relation::Equal,
                        level: 0,
                        weight: 1.0,
                    });
                }
                continue;
            }
            for round in 0..2 + n.below(4) {
                let other = n.below(view as u64) as usize;
                let (terms, constant) = if round == 0 || n.one_in(3) {
                    let mut terms = edge(view, axis, n.below(3), 1.0);
                    terms.extend(edge(other, axis, n.below(3), -1.0));
                    (terms, number(&mut n, -16, 17))
                } else if n.one_in(2) {
                    (vec![(4 * view + 2 + axis, 1.0)], -number(&mut n, 0, 17))
                } else {
                    let share = [1.0, 1.0, 0.5, 0.4][n.below(4) as usize];
                    let of = 4 * other + if n.one_in(4) { 3 - axis } else { 2 + axis };
                    (vec![(4 * view + 2 + axis, 1.0), (of, -share)], number(&mut n, -6, 7))
                };
                let relation = match n.below(5) {
                    0 | 1 => Relation::Equal,
                    2 => Relation::AtMost,
                    _ => Relation::AtLeast,
                };
                let level = if round == 0 && !n.one_in(4) { 0 } else { n.below(4) as u32 };
                let weight = [1.0, 1.0, 1.0, 2.0, 3.0][n.below(5) as usize];
                rules.push(Rule { terms, constant, relation, level, weight });
            }
        }
    }
    Screen { views, rules }
}

fn screen(seed: u64) -> Screen {
    let mut n = Numbers(seed.wrapping_mul(0x9e37_79b9_7f4a_7c15) | 1);
    if seed % 2 == 1 {
        return wishes(n);
    }
    let views = 2 + n.below(5) as usize;
    let mut rules = Vec::new();
    let mut add = |n: &mut Numbers, terms: Vec<(usize, f64)>, constant: f64, relation, may_be_weak: bool| {
        let level = if may_be_weak && n.one_in(3) { 1 + n.below(3) as u32 } else { 0 };
        let weight = [1.0, 1.0, 2.0, 0.5][n.below(4) as usize];
        rules.push(Rule { terms, constant, relation, level, weight });
    };
    for view in 0..views {
        for axis in 0..2 {
            // The outermost view is the display; the others hang on one before them.
            let other = if view == 0 { None } else { Some(n.below(view as u64) as usize) };
            for round in 0..2 {
                if view > 0 && n.one_in(6) {
                    continue; // left open
                }
                let kind = if round == 0 { 0 } else { 1 + n.below(2) };
                let mut terms = edge(view, axis, kind, 1.0);
                if let Some(other) = other {
                    terms.extend(edge(other, axis, kind, -1.0));
                }
                let by = if view == 0 { [0.0, 400.0][round] } else { [8.0, -8.0][round] };
                let relation = if view > 0 && n.one_in(5) {
                    if n.one_in(2) { Relation::AtMost } else { Relation::AtLeast }
                } else {
                    Relation::Equal
                };
                add(&mut n, terms, -by, relation, view > 0);
            }
            if view > 0 && n.one_in(3) {
                // A size of its own, a share of another's, or tied to its own other side.
                let (own, wish) = (4 * view + 2 + axis, -40.0 * n.below(6) as f64);
                match n.below(3) {
                    0 => add(&mut n, vec![(own, 1.0)], wish, Relation::Equal, true),
                    1 => {
                        let of = 4 * n.below(view as u64) as usize + 2 + axis;
                        add(&mut n, vec![(own, 1.0), (of, -0.5)], 0.0, Relation::Equal, true);
                    }
                    _ => add(
                        &mut n,
                        vec![(own, 1.0), (4 * view + 3 - axis, -1.0)],
                        0.0,
                        Relation::AtLeast,
                        true,
                    ),
                }
            }
            if view > 0 && n.one_in(4) {
                // Said again, so that corners are degenerate.
                add(&mut n, vec![(4 * view + 2 + axis, 1.0)], 0.0, Relation::AtLeast, false);
            }
        }
    }
    Screen { views, rules }
}

fn plan(screen: &Screen) -> (Plan, Vec<VarId>) {
    let mut b = ProblemBuilder::new();
    let vars: Vec<VarId> = (0..4 * screen.views)
        .map(|v| if v % 4 >= 2 { b.nonnegative_variable() } else { b.variable() })
        .collect();
    for rule in &screen.rules {
        let terms = rule.terms.iter().map(|&(v, c)| (vars[v], c)).collect();
        let expr = Linear::new(terms, Affine::constant(rule.constant));
        let relation = match rule.relation {
            Relation::Equal => vantic_solver::Relation::Equal,
            Relation::AtMost => vantic_solver::Relation::AtMost,
            Relation::AtLeast => vantic_solver::Relation::AtLeast,
        };
        b.rule(expr, relation, Level::preference(rule.level), rule.weight).unwrap();
    }
    for &v in &vars {
        b.settle(Settle::least(v)).unwrap();
        b.watch(v).unwrap();
    }
    let mut plan = Plan::new(&b.build());
    plan.solve(&[]).unwrap();
    (plan, vars)
}

#[derive(Debug, Default)]
struct Met {
    screens: usize,
    broken: usize,
    ambiguous: usize,
    tied: usize,
    missed: usize,
    degenerate: usize,
    largest_knot: usize,
    given_up_by_the_package: usize,
}

/// Compares one screen; `None` where the package gives up.
fn compare(seed: u64, met: &mut Met) -> Option<()> {
    let screen = screen(seed);
    let (mut plan, _) = plan(&screen);
    let (outcome, diagnosis) = (plan.outcome(), plan.diagnose());
    assert!(outcome.status != Status::Stopped && !diagnosis.stopped, "screen {seed}");
    let nonnegative: Vec<bool> = (0..4 * screen.views).map(|v| v % 4 >= 2).collect();
    let mut stages = Stages::new(nonnegative.clone(), screen.rules.clone());
    for level in 0..4 {
        let least = stages.level(level)?;
        let ours = outcome.level_totals.get(level as usize).copied().unwrap_or(0.0);
        assert!((ours - least).abs() < NEAR, "screen {seed}, level {level}: {ours}, the package {least}");
    }
    assert_eq!(diagnosis.conflicts.is_empty(), outcome.status == Status::Solved, "screen {seed}");
    for conflict in &diagnosis.conflicts {
        let least = |rules: &mut dyn Iterator<Item = usize>| {
            let rules = rules.map(|r| Rule { level: 0, weight: 1.0, ..screen.rules[r].clone() }).collect();
            Stages::new(nonnegative.clone(), rules).level(0)
        };
        let members: Vec<usize> = conflict.rules.iter().map(|r| r.index()).collect();
        let amount = least(&mut members.iter().copied())?;
        assert!(
            (amount - conflict.amount).abs() < NEAR && amount > NEAR,
            "screen {seed}: {conflict:?} {amount}"
        );
        for without in &members {
            let rest = least(&mut members.iter().copied().filter(|m| m != without))?;
            assert!(rest < NEAR, "screen {seed}: {conflict:?} is not irreducible");
        }
    }
    stages.own(true)?;
    let before_ties: Vec<_> = (0..4 * screen.views).map(|v| stages.range(&[(v, 1.0)])).collect();
    stages.own(false)?;
    for (v, before) in before_ties.iter().enumerate() {
        let after = stages.range(&[(v, 1.0)]);
        let wide = |r: &Range| match r {
            (Some(low), Some(high)) => high - low > 1e-3,
            _ => true,
        };
        let kind = match (wide(&after), wide(before)) {
            (true, _) => Some((FreeKind::Ambiguous, after)),
            (false, true) => Some((FreeKind::Tied, *before)),
            _ => None,
        };
        let ours = diagnosis.free.iter().find(|f| f.var.index() == v);
        assert_eq!(
            ours.map(|f| f.kind),
            kind.map(|k| k.0),
            "screen {seed}, variable {v}: {before:?} {after:?}"
        );
        if let (Some(ours), Some((_, range))) = (ours, kind) {
            let same = |a: Option<f64>, b: Option<f64>| match (a, b) {
                (Some(a), Some(b)) => (a - b).abs() < 1e-3,
                (a, b) => a.is_none() == b.is_none(),
            };
            assert!(
                same(ours.range.0, range.0) && same(ours.range.1, range.1),
                "screen {seed}: {ours:?} {range:?}"
            );
        }
    }
    for v in 0..4 * screen.views {
        let settled = stages.settle(&[(v, 1.0)], 0.0);
        assert!(
            (outcome.values[v] - settled).abs() < 1e-3,
            "screen {seed}, variable {v}: {} {settled}",
            outcome.values[v]
        );
    }
    met.broken += usize::from(outcome.status == Status::Broken);
    met.ambiguous += usize::from(diagnosis.free.iter().any(|f| f.kind == FreeKind::Ambiguous));
    met.tied += usize::from(diagnosis.free.iter().any(|f| f.kind == FreeKind::Tied));
    met.missed += usize::from(outcome.level_totals[1..].iter().any(|t| *t > NEAR));
    let tight = screen.rules.iter().filter(|r| r.relation != Relation::Equal).filter(|r| {
        (r.terms.iter().map(|&(v, c)| c * outcome.values[v]).sum::<f64>() + r.constant).abs() < NEAR
    });
    met.degenerate += usize::from(tight.count() > 3);
    let soft = screen.rules.iter().filter(|r| r.relation != Relation::Equal || r.level > 0).count();
    met.largest_knot = met.largest_knot.max(soft);
    Some(())
}

#[test]
fn a_general_package_finds_the_same_on_random_screens() {
    let screens = std::env::var("PROPTEST_CASES").ok().and_then(|n| n.parse().ok()).unwrap_or(40);
    let first: u64 = std::env::var("FIRST_SCREEN").ok().and_then(|n| n.parse().ok()).unwrap_or(0);
    let mut met = Met::default();
    for seed in first..first + screens {
        met.screens += 1;
        if compare(seed, &mut met).is_none() {
            met.given_up_by_the_package += 1;
        }
    }
    println!("{met:?}");
    assert!(met.given_up_by_the_package * 20 < met.screens, "{met:?}");
    assert!(met.broken > 0 && met.ambiguous > 0 && met.tied > 0 && met.missed > 0 && met.degenerate > 0);
}
