//! The screens that are measured are placed right: at every step of a drag, and after edits, a plan
//! that is kept has what a new one has.

#[allow(dead_code, missing_docs, unreachable_pub)]
#[path = "../../vantic-bench/src/workload.rs"]
mod workload;

use vantic_solver::{MAX_REGIONS, Plan, Problem};
use workload::{Workload, knot, workload};

fn placed(problem: &Problem, params: &[f64]) -> Plan {
    let mut plan = Plan::new(problem);
    plan.solve(params).unwrap();
    plan
}

#[track_caller]
fn assert_same(kept: &Plan, fresh: &Plan) {
    let pairs = kept.values().iter().zip(fresh.values());
    let worst = pairs.map(|(a, b)| (a - b).abs()).fold(0.0, f64::max);
    assert!(kept.values().len() == fresh.values().len() && worst < 1e-6, "off by {worst}");
    assert_eq!(kept.status(), fresh.status());
}

/// Goes through widths forth, back (with other heights) and forth again.
fn drag(made: &Workload, widths: &[f64]) -> Plan {
    let mut plan = placed(&made.problem, &made.params);
    let mut params = made.params.clone();
    for pass in 0..3 {
        for step in 0..widths.len() {
            params[0] = if pass == 1 { widths[widths.len() - 1 - step] } else { widths[step] };
            params[1] = made.params[1] + if pass == 1 { (step % 7) as f64 } else { 0.0 };
            plan.solve(&params).unwrap();
            assert_same(&plan, &placed(&made.problem, &params));
        }
    }
    plan
}

#[test]
fn a_drag_places_what_new_plans_place() {
    let made = workload(220);
    let widths: Vec<f64> = (0..40).map(|step| 420.0 + 10.0 * f64::from(step)).collect();
    let plan = drag(&made, &widths);
    assert!((10..=MAX_REGIONS + 1).contains(&plan.regions_seen()), "{} regions", plan.regions_seen());
}

#[test]
fn no_more_regions_are_kept_than_stated() {
    let made = knot(480);
    let mut plan = placed(&made.problem, &made.params);
    for step in 0..200 {
        let width = [20.0 + 0.5 * f64::from(step)];
        plan.solve(&width).unwrap();
        assert!(plan.regions_seen() <= MAX_REGIONS + 1);
        if step % 20 == 0 {
            assert_same(&plan, &placed(&made.problem, &width));
        }
    }
    assert!(plan.regions_seen() > MAX_REGIONS / 2, "{}", plan.regions_seen());
}

#[test]
fn texts_and_sizes_that_change_together_place_what_new_plans_place() {
    let made = workload(160);
    let mut plan = placed(&made.problem, &made.params);
    let mut params = made.params.clone();
    let all = params.len();
    // One parameter changes from one step to the next, then a few, then all of them.
    for (step, count) in [1, 1, 2, 4, 6, 7, 9, 20, all, 1, 3, all, 2].into_iter().enumerate() {
        for (at, param) in params.iter_mut().enumerate().skip(6).take(count) {
            *param = made.params[at] * [0.6, 1.3, 1.0, 1.7][(step + at) % 4];
        }
        params[0] = 500.0 + 31.0 * step as f64;
        plan.solve(&params).unwrap();
        assert_same(&plan, &placed(&made.problem, &params));
    }
    // All texts have changed, and from now on it is dragged: soon regions are remembered again.
    assert_eq!(plan.regions_seen(), 1);
    for step in 0..40 {
        params[0] = 480.0 + 12.0 * f64::from(step);
        plan.solve(&params).unwrap();
        assert_same(&plan, &placed(&made.problem, &params));
    }
    assert!(plan.regions_seen() > 3, "{} regions", plan.regions_seen());
}

#[test]
fn edits_that_move_little_and_much_place_what_new_plans_place() {
    let made = workload(220);
    let rules = [made.local_rule, made.global_rule];
    let mut plan = placed(&made.problem, &made.params);
    let mut params = made.params.clone();
    let mut shifted = [0.0; 2];
    for step in 0..24 {
        let by = [3.0, -7.5, 0.25, 40.0][step % 4];
        plan.shift_constant(rules[step % 2], by).unwrap();
        shifted[step % 2] += by;
        if step % 5 == 0 {
            params[0] += 60.0;
            plan.solve(&params).unwrap();
        }
        let mut fresh = Plan::new(&made.problem);
        for (rule, by) in rules.into_iter().zip(shifted) {
            fresh.shift_constant(rule, by).unwrap();
        }
        fresh.solve(&params).unwrap();
        assert_same(&plan, &fresh);
    }
}

#[test]
fn a_plan_reports_after_a_drag_what_a_new_plan_reports() {
    // Regions that were entered again are asked for everything there is to know about them.
    let made = workload(120);
    let mut plan = placed(&made.problem, &made.params);
    let mut params = made.params.clone();
    for width in [480.0, 560.0, 640.0, 560.0, 700.0, 480.0, 640.0] {
        params[0] = width;
        plan.solve(&params).unwrap();
    }
    let mut fresh = placed(&made.problem, &params);
    assert_same(&plan, &fresh);
    assert_eq!(plan.outcome().level_totals.len(), fresh.outcome().level_totals.len());
    assert_eq!(plan.diagnose(), fresh.diagnose());
    let total = |plan: &mut Plan| -> f64 {
        // The formulas, computed one after another, are the placement.
        let mut values = vec![0.0; plan.values().len()];
        for formula in plan.formulas() {
            let read = |input: &vantic_solver::Input| match *input {
                vantic_solver::Input::Parameter(p) => params[p.index()],
                vantic_solver::Input::Variable(v) => values[v.index()],
            };
            let sum: f64 = formula.terms.iter().map(|(input, c)| c * read(input)).sum();
            values[formula.var.index()] = formula.constant + sum;
        }
        plan.values().iter().zip(&values).map(|(a, b)| (a - b).abs()).sum()
    };
    assert!(total(&mut plan) < 1e-6 && total(&mut fresh) < 1e-6);
    // All of the region's bounds hold here, and it reaches as far as the first plan's does.
    let spare = |plan: &mut Plan| -> f64 {
        let at = |b: &vantic_solver::Bound| {
            b.terms.iter().fold(b.constant, |sum, &(p, c)| sum + c * params[p.index()])
        };
        plan.region().iter().map(at).fold(f64::INFINITY, f64::min)
    };
    let (kept, new) = (spare(&mut plan), spare(&mut fresh));
    assert!(kept > -1e-6 && (kept - new).abs() < 1e-6, "{kept} {new}");
}

#[test]
fn from_breakpoint_to_breakpoint_everything_moves_as_reported() {
    let made = workload(160);
    let mut plan = placed(&made.problem, &made.params);
    let (mut params, last) = (made.params.clone(), 1100.0);
    let direction: Vec<f64> = (0..params.len()).map(|i| if i == 0 { 1.0 } else { 0.0 }).collect();
    params[0] = 420.0;
    let mut borders = 0;
    while params[0] < last {
        plan.solve(&params).unwrap();
        let ahead = plan.parametric_step(&direction).unwrap();
        let steps = ahead.until.map_or(f64::INFINITY, |(steps, _)| steps).min(last - params[0]);
        // In the middle of the way, and just before its end.
        for part in [0.5, 0.999] {
            let mut there = params.clone();
            there[0] += part * steps;
            let fresh = placed(&made.problem, &there);
            let said = plan.values().iter().zip(&ahead.rates).map(|(v, rate)| v + rate * part * steps);
            let off = said.zip(fresh.values()).map(|(a, b)| (a - b).abs()).fold(0.0, f64::max);
            assert!(off < 1e-6, "off by {off} at {}, from {}", there[0], params[0]);
        }
        params[0] += steps + 1e-6;
        borders += 1;
    }
    assert!(borders > 10, "{borders}");
    // As many rules decide as the formulas name.
    let named: std::collections::BTreeSet<_> = plan.formulas().into_iter().map(|f| f.by).collect();
    let count = made.problem.rule_count();
    let rules = named.iter().filter(|by| matches!(by, vantic_solver::Reason::Rule(_))).count();
    let all: Vec<_> = named
        .iter()
        .filter_map(|by| if let vantic_solver::Reason::Rule(r) = by { Some(*r) } else { None })
        .collect();
    assert!(rules <= count && all.into_iter().all(|rule| plan.decides(rule)));
    assert!(
        plan.parametric_step(&[1.0]).is_err()
            && plan.parametric_step(&vec![f64::NAN; direction.len()]).is_err()
    );
}
