//! Measures the solver and prints one table of ratios. `cargo bench -- NAME` measures a part only;
//! the table is printed when all of it was measured.

mod application;

use criterion::{BatchSize, BenchmarkId, Criterion};
use microlp::{ComparisonOp, LinearExpr, OptimizationDirection, Problem as Lp, Variable};
use std::fmt::Write;
use std::hint::black_box;
use std::time::{Duration, Instant};
use vantic_bench::{
    STRAIGHT_VIEWS, Workload, cells, cells_by_hand, knot, list, list_by_hand, straight, workload,
};
use vantic_solver::{Affine, Plan};

const GROWTH: [usize; 5] = [250, 1000, 4000, 16_000, 64_000];

fn solved(made: &Workload) -> Plan {
    let mut plan = Plan::new(&made.problem);
    plan.solve(&made.params).expect("the workload's numbers are finite");
    plan
}

/// The mean of a benchmark in nanoseconds, as written down by the package.
fn mean(name: &str) -> Option<f64> {
    let target = std::env::var("CARGO_TARGET_DIR")
        .unwrap_or_else(|_| concat!(env!("CARGO_MANIFEST_DIR"), "/../../target").to_owned());
    let text = std::fs::read_to_string(format!("{target}/criterion/{name}/new/estimates.json")).ok()?;
    serde_json::from_str::<serde_json::Value>(&text).ok()?["median"]["point_estimate"].as_f64()
}

fn resize(c: &mut Criterion) {
    let made = workload(STRAIGHT_VIEWS);
    let mut plan = solved(&made);
    let mut params = made.params.clone();
    let mut out = vec![0.0; plan.values().len()];
    for by in [0.0, 0.01, 0.02] {
        params[0] = made.params[0] + by;
        params[1] = made.params[1] + by;
        plan.solve(&params).expect("finite");
        straight(&params, &mut out);
        let worst = out.iter().zip(plan.values()).map(|(a, b)| (a - b).abs()).fold(0.0, f64::max);
        assert!(
            worst < 1e-9,
            "the straight-line arithmetic is off by {worst}; regions {}",
            plan.regions_seen()
        );
    }
    assert_eq!(plan.regions_seen(), 1, "the sizes that are measured are in one region");
    let mut step = 0_u32;
    let mut next = move |params: &mut [f64]| {
        step = (step + 1) % 3;
        params[0] = 703.3 + 0.01 * f64::from(step);
        params[1] = 901.7 + 0.01 * f64::from(step);
    };
    let mut group = c.benchmark_group("resize");
    group.bench_function("straight", |b| {
        b.iter(|| {
            next(&mut params);
            straight(black_box(&params), black_box(&mut out));
        });
    });
    group.bench_function("plan", |b| {
        b.iter(|| {
            next(&mut params);
            plan.solve(black_box(&params)).expect("finite")
        });
    });
    group.finish();
}

/// What arithmetic written by hand does for a width.
type ByHand = fn(f64, &mut [f64]);

/// Long lists and grids: the rules that rows of views and cells come down to, resized.
fn arranged(c: &mut Criterion) {
    let shapes: [(&str, Workload, ByHand); 2] =
        [("list", list(10_000), list_by_hand), ("cells", cells(2000), cells_by_hand)];
    for (name, made, by_hand) in shapes {
        let mut plan = solved(&made);
        let mut out = vec![0.0; plan.values().len()];
        for width in [320.0, 703.3, 1900.0] {
            plan.solve(&[width, 901.7]).expect("finite");
            by_hand(width, &mut out);
            let worst = out.iter().zip(plan.values()).map(|(a, b)| (a - b).abs()).fold(0.0, f64::max);
            assert!(worst < 1e-6, "{name}: the arithmetic by hand is off by {worst}");
        }
        let mut step = 0_u32;
        let mut next = move || {
            step = (step + 1) % 3;
            703.3 + f64::from(step)
        };
        let mut group = c.benchmark_group(name);
        group.bench_function("by_hand", |b| b.iter(|| by_hand(black_box(next()), black_box(&mut out))));
        group.bench_function("plan", |b| {
            b.iter(|| plan.solve(black_box(&[next(), 901.7])).expect("finite"));
        });
        group.finish();
    }
}

/// A list of 10,000 rows through the library: placed again, and by a plan that is kept solved while it is
/// scrolled.
fn library(c: &mut Criterion) {
    let tenth = |name: &str| format!("repeat {name} 1000 {{ height = 40 }}\n");
    let rows: String = ["a", "b", "c", "d", "e", "f", "g", "h", "i", "j"].map(tenth).concat();
    let screen = format!(
        "screen s {{ view list {{ pin left, right, top, bottom to screen; scroll down; column gap 4, align stretch\n{rows} }} }}"
    );
    let source = vantic::resolve::read(&screen).expect("the screen is well formed");
    let plan = vantic::plan::Plan::new(source.screen).expect("nothing is hidden");
    let mut step = 0.0;
    let mut next = move || {
        step = (step + 7.0) % 4000.0;
        let display = vantic::display::Display::new(703.3, 901.7).expect("in range");
        display.with_scroll("list", 0.0, step).expect("in range")
    };
    let mut live = plan.live();
    let mut group = c.benchmark_group("library");
    group.sample_size(10);
    group.bench_function("live", |b| {
        b.iter(|| live.place(black_box(&next()), &vantic::text::PlainText).expect("no text"));
    });
    group.bench_function("new", |b| {
        b.iter(|| plan.place(black_box(&next()), &vantic::text::PlainText).expect("no text"));
    });
    group.finish();
}

/// A list of sailings with 200 views, half of them texts, in two languages.
fn sailings() -> vantic::model::Screen {
    let words: String = (0..28)
        .map(|i| format!("list.row{i}.port \"Pohjoinen satama {i}\"\nlist.row{i}.state \"lautalla {i}\"\n"))
        .collect();
    let row = |i: usize| {
        format!(
            "view row{i} {{ height = 64 ~ rhythm; height >= 40; height >= port.height + 8; height >= state.height + 8
                text time \"0{}:{}\" {{ font 16; start = parent.start + 8; center_y = parent.center_y }}
                text port \"Skerry Point and the islands {i}\" {{ font 16; start = time.end + 12; end <= berth.start - 8; center_y = parent.center_y }}
                text berth \"{i}\" {{ font 16; end = state.start - 20; center_y = parent.center_y }}
                text state \"on time, berth {i}\" {{ font 13; snug ~ fit; end = parent.end - 8; center_y = parent.center_y }}
                view lamp {{ size = 8; end = state.start - 4; center_y = parent.center_y }}
                view line {{ pin left, right, bottom to parent; height = 1 }}
            }}\n",
            i % 10,
            10 + i
        )
    };
    let rows: String = (0..28).map(row).collect();
    let text = format!(
        "screen sailings {{
            ladder fit > rhythm
            band wide: screen.width >= 700
            language fi {{ head.title \"Lähdöt\"; {words} }}
            view head {{ pin left, right, top to safe; tall: height = 56
                text title \"Sailings\" {{ font 20; start = parent.start + 16; center_y = parent.center_y }}
            }}
            view list {{ pin left, right, bottom to safe; top = head.bottom; scroll down; column gap 4, padding 8, align stretch
                {rows}
            }}
            when wide {{ in head {{ tall: height = 72 }} }}
        }}"
    );
    vantic::resolve::read(&text).expect("the screen is well formed").screen
}

/// One placement with its shaping, cold, and a check on 96 combinations of displays, text scales, directions
/// and languages.
fn matrix(c: &mut Criterion) {
    let screen = sailings();
    assert_eq!(screen.views().count(), 200);
    let mut bases = vantic::display::Displays::default().all();
    bases.truncate(12);
    let directions = [vantic::geometry::Direction::LeftToRight, vantic::geometry::Direction::RightToLeft];
    let matrix = vantic::display::Matrix::of(bases).text_scales([1.0, 1.3]).directions(directions);
    let displays = matrix.all_languages(&screen).displays(&screen).expect("within the limits");
    assert_eq!(displays.len(), 96);
    let new = || {
        let plan = vantic::plan::Plan::new(screen.clone()).expect("nothing is hidden");
        (plan, vantic_draw::FontText::new())
    };
    let mut group = c.benchmark_group("matrix");
    group.sample_size(10).measurement_time(Duration::from_secs(4));
    group.bench_function("place", |b| {
        b.iter_batched(
            new,
            |(plan, fonts)| plan.place(&displays[0], &fonts).expect("the font measures"),
            BatchSize::LargeInput,
        );
    });
    group.bench_function("check", |b| {
        b.iter_batched(
            new,
            |(plan, fonts)| vantic::check::check(&plan, &displays, &fonts).expect("the font measures"),
            BatchSize::LargeInput,
        );
    });
    // A range with all its borders, and fixes of what a fault in the same screen breaks.
    let range = vantic::sweep::Range {
        along: vantic::display::DisplayQuantity::Width,
        from: 320.0,
        to: 1600.0,
        gap: 0.0,
    };
    group.bench_function("sweep", |b| {
        b.iter_batched(
            || (vantic::plan::Plan::new(uneven()).expect("nothing is hidden"), vantic_draw::FontText::new()),
            |(plan, fonts)| {
                let swept = vantic::sweep::sweep(&plan, &displays[0], range.clone(), &fonts)
                    .expect("the range is one");
                assert!(swept.events.len() >= 50, "{} events", swept.events.len());
                swept
            },
            BatchSize::LargeInput,
        );
    });
    let faulty = faulty();
    let source = faulty.read().expect("the fault can be read");
    let (fonts, how) = (vantic_draw::FontText::new(), vantic::check::CheckOptions::default());
    let plan = vantic::plan::Plan::new(source.screen).expect("nothing is hidden");
    let report = vantic::check::check(&plan, &displays, &fonts).expect("the font measures");
    let fixes = vantic::fix::Fixes {
        files: &faulty,
        map: &source.map,
        plan: &plan,
        measure: &fonts,
        how,
        beside: &Some,
    };
    let wrong = report.open().filter(|f| f.severity != vantic::finding::Severity::Note);
    let wrong: Vec<_> = wrong.collect();
    let [finding] = wrong[..] else {
        let found: Vec<String> = wrong.iter().map(|f| f.message(plan.screen())).collect();
        panic!("the fault is found, and nothing else: {found:?}")
    };
    let found = fixes.find(&report, finding);
    assert!(found.first().is_some_and(|fix| fix.text.contains("`end = state.start - 4`")), "{found:?}");
    assert_eq!(found.len(), FIXES);
    group.bench_function("warm check", |b| b.iter(|| vantic::check::check(&plan, &displays, &fonts)));
    group.bench_function("fixes", |b| b.iter(|| fixes.find(&report, finding)));
    group.finish();
}

/// How many fixes there are of the planted fault.
const FIXES: usize = 1;

/// The screen that is checked, with ports of different lengths, so that each breaks its lines elsewhere.
fn uneven() -> vantic::model::Screen {
    let text = (0..28).fold(sailings().to_string(), |text, i| {
        let words = format!("Skerry Point and the {}{i}", "isles ".repeat(1 + i % 7));
        text.replace(&format!("\"Skerry Point and the islands {i}\""), &format!("\"{words}\""))
    });
    vantic::resolve::read(&text).expect("the screen is well formed").screen
}

/// The screen that is checked, with the port of one row tied to the wrong side of the time before it.
fn faulty() -> vantic::files::Assembled {
    let text = sailings().to_string();
    let wrong = text.replacen("end = state.start - 4", "end = state.end - 4", 1);
    assert!(wrong != text);
    vantic::files::Assembled::alone("sailings.vantic", wrong)
}

fn cold(c: &mut Criterion) {
    let mut group = c.benchmark_group("cold");
    group.sample_size(10).measurement_time(Duration::from_secs(3));
    for views in GROWTH {
        let made = workload(views);
        group.bench_with_input(BenchmarkId::from_parameter(views), &made, |b, made| b.iter(|| solved(made)));
    }
    let made = knot(2000);
    group.bench_function("knot", |b| b.iter(|| solved(&made)));
    let made = workload(10_000);
    group.bench_function("10000", |b| b.iter(|| solved(&made)));
    group.finish();
}

fn edits(c: &mut Criterion) {
    let mut group = c.benchmark_group("edit");
    let made = workload(10_000);
    let mut plan = solved(&made);
    for (name, rule) in [("local", made.local_rule), ("global", made.global_rule)] {
        // Back and forth, by an amount that stays in the region.
        let mut by = 0.0;
        group.bench_function(name, |b| {
            b.iter(|| {
                by = if by == 0.0 { 0.25 } else { 0.0 };
                plan.shift_constant(rule, if by == 0.0 { -0.25 } else { 0.25 }).expect("the rule is there");
            });
        });
    }
    let mut params = made.params.clone();
    let mut step = 0_u32;
    group.bench_function("resize", |b| {
        b.iter(|| {
            step = (step + 1) % 3;
            params[0] = 703.3 + 0.01 * f64::from(step);
            params[1] = 901.7 + 0.01 * f64::from(step);
            plan.solve(black_box(&params)).expect("finite")
        });
    });
    group.finish();
}

/// Where a drag begins.
const NARROW: f64 = 500.0;

/// One drag of 400 widths: the time of each step in nanoseconds.
fn drag(plan: &mut Plan, params: &[f64]) -> Vec<f64> {
    let mut params = params.to_vec();
    (0..400)
        .map(|step| {
            params[0] = NARROW + 0.6 * f64::from(step);
            let start = Instant::now();
            plan.solve(black_box(&params)).expect("finite");
            start.elapsed().as_secs_f64() * 1e9
        })
        .collect()
}

fn mean_and_late(mut times: Vec<f64>) -> (f64, f64) {
    let mean = times.iter().sum::<f64>() / times.len() as f64;
    times.sort_by(f64::total_cmp);
    (mean, times[times.len() * 99 / 100])
}

/// The same levels for the general package, one problem after another.
fn by_package(rules: &[FullProblem], variables: usize, nonnegative: &[bool]) -> Option<Duration> {
    let start = Instant::now();
    let levels = rules.iter().map(|r| r.level).max().unwrap_or(0);
    let mut kept: Vec<f64> = Vec::new();
    for level in 0..=levels {
        if !rules.iter().any(|r| r.level == level) {
            kept.push(0.0);
            continue;
        }
        let mut lp = Lp::new(OptimizationDirection::Minimize);
        let inf = f64::INFINITY;
        let vars: Vec<Variable> =
            (0..variables).map(|v| lp.add_var(0.0, (if nonnegative[v] { 0.0 } else { -inf }, inf))).collect();
        let mut totals: Vec<LinearExpr> = (0..=level).map(|_| LinearExpr::empty()).collect();
        for rule in rules.iter().filter(|r| r.level <= level) {
            let mut row = LinearExpr::empty();
            rule.terms.iter().for_each(|&(v, c)| row.add(vars[v], c));
            let cost = if rule.level == level { rule.weight } else { 0.0 };
            for (costs, sign) in [(rule.above, -1.0), (rule.below, 1.0)] {
                let off = lp.add_var(if costs { cost } else { 0.0 }, (0.0, inf));
                row.add(off, sign);
                if costs {
                    totals[rule.level].add(off, rule.weight);
                }
            }
            lp.add_constraint(row, ComparisonOp::Eq, -rule.constant);
        }
        for (total, &least) in totals.into_iter().zip(&kept) {
            lp.add_constraint(total, ComparisonOp::Le, least + 1e-7);
        }
        kept.push(lp.solve().ok()?.into_solution().ok()?.objective());
    }
    Some(start.elapsed())
}

/// A rule as the package gets it.
struct FullProblem {
    terms: Vec<(usize, f64)>,
    constant: f64,
    above: bool,
    below: bool,
    level: usize,
    weight: f64,
}

fn against_package(made: &Workload) -> (Option<Duration>, Option<Duration>) {
    let rules: Vec<FullProblem> = made
        .problem
        .rules()
        .map(|(expr, relation, level, weight)| FullProblem {
            terms: expr.terms().iter().map(|&(v, c)| (v.index(), c)).collect(),
            constant: expr
                .affine()
                .terms()
                .iter()
                .fold(expr.number(), |s, &(p, c)| s + c * made.params[p.index()]),
            above: relation.violation(1.0) > 0.0,
            below: relation.violation(-1.0) > 0.0,
            level: level.index(),
            weight,
        })
        .collect();
    let count = made.problem.variable_count();
    let nonnegative: Vec<bool> = (0..count).map(|v| made.problem.is_nonnegative(v)).collect();
    let whole = by_package(&rules, count, &nonnegative);
    // Presolved: every required rule equality taken out, what remains in terms of the variables left.
    let (left, sums) = presolved(&rules, count);
    let reduce = |rule: &FullProblem| {
        let mut terms = vec![0.0; left.len()];
        let mut constant = rule.constant;
        for &(v, c) in &rule.terms {
            constant += c * sums[v].1;
            sums[v].0.iter().for_each(|&(at, k)| terms[at] += c * k);
        }
        let terms = terms.into_iter().enumerate().filter(|t| t.1.abs() > 1e-12).collect();
        FullProblem { terms, constant, ..*rule }
    };
    let mut small: Vec<FullProblem> =
        rules.iter().filter(|r| r.level > 0 || !(r.above && r.below)).map(reduce).collect();
    for v in (0..count).filter(|&v| nonnegative[v] && !left.contains(&v)) {
        let row = FullProblem {
            terms: vec![(v, 1.0)],
            constant: 0.0,
            above: false,
            below: true,
            level: 0,
            weight: 1.0,
        };
        small.push(reduce(&row));
    }
    small.retain(|r| !r.terms.is_empty());
    let given_left: Vec<bool> = left.iter().map(|&v| nonnegative[v]).collect();
    (whole, by_package(&small, left.len(), &given_left))
}

/// Terms over the variables that are left, and a number.
type Sum = (Vec<(usize, f64)>, f64);

/// The variables that are left when must equalities are taken out, and each variable in terms of them.
fn presolved(rules: &[FullProblem], count: usize) -> (Vec<usize>, Vec<Sum>) {
    let mut b = vantic_solver::ProblemBuilder::new();
    let vars: Vec<_> = (0..count).map(|_| b.variable()).collect();
    for rule in rules.iter().filter(|r| r.level == 0 && r.above && r.below) {
        let terms = rule.terms.iter().map(|&(v, c)| (vars[v], c)).collect();
        let expr = vantic_solver::Linear::new(terms, Affine::constant(rule.constant));
        b.rule(expr, vantic_solver::Relation::Equal, vantic_solver::Level::REQUIRED, 1.0).expect("finite");
    }
    let mut plan = Plan::new(&b.build());
    plan.solve(&[]).expect("there are no parameters");
    let mut left = Vec::new();
    let mut sums: Vec<Sum> = vec![(Vec::new(), 0.0); count];
    for formula in plan.formulas() {
        let var = formula.var.index();
        if matches!(formula.by, vantic_solver::Reason::Unruled(_)) {
            sums[var] = (vec![(left.len(), 1.0)], 0.0);
            left.push(var);
            continue;
        }
        let (mut terms, mut constant) = (Vec::<(usize, f64)>::new(), formula.constant);
        for (input, c) in formula.terms {
            let vantic_solver::Input::Variable(read) = input else { continue };
            constant += c * sums[read.index()].1;
            for &(at, k) in &sums[read.index()].0 {
                match terms.iter_mut().find(|t| t.0 == at) {
                    Some(t) => t.1 += c * k,
                    None => terms.push((at, c * k)),
                }
            }
        }
        sums[var] = (terms, constant);
    }
    (left, sums)
}

fn table() -> Option<String> {
    let mut rows: Vec<(String, String, String)> = Vec::new();
    let straight = mean("resize/straight")?;
    let warm = mean("resize/plan")?;
    let made = workload(STRAIGHT_VIEWS);
    let ratio = |of: f64, to: f64| format!("{:.2} times", of / to);
    rows.push((
        "resize in a region, 1,000 views, to straight-line code".into(),
        ratio(warm, straight),
        "1.25 times".into(),
    ));
    for (name, what) in [("list", "a list of 10,000 rows"), ("cells", "2,000 cells in a grid")] {
        let measured = ratio(mean(&format!("{name}/plan"))?, mean(&format!("{name}/by_hand"))?);
        rows.push((format!("resize of {what}, to arithmetic by hand"), measured, "2 times".into()));
    }
    let (live, by_hand) = (mean("library/live")?, mean("list/by_hand")?);
    rows.push((
        "scrolling 10,000 rows through the library, with all it tells, to placing again".into(),
        ratio(live, mean("library/new")?),
        "-".into(),
    ));
    rows.push(("the same, to arithmetic by hand".into(), ratio(live, by_hand), "-".into()));
    rows.push((
        "check of 200 views on 96 combinations, two cores, to one cold placement with its shaping".into(),
        ratio(mean("matrix/check")?, mean("matrix/place")?),
        "25 times".into(),
    ));
    rows.push((
        "sweep of 200 views from 320 to 1600, to one cold placement with its shaping".into(),
        ratio(mean("matrix/sweep")?, mean("matrix/place")?),
        "50 times".into(),
    ));
    rows.push((
        "a fix that is offered, with all that was tried for it, to the check that it was tried with".into(),
        ratio(mean("matrix/fixes")? / FIXES as f64, mean("matrix/warm check")?),
        "1 time, and 0.5 by using the plan again".into(),
    ));
    let mut firsts = Vec::new();
    let mut seconds = Vec::new();
    let mut crossings = 0;
    let mut narrow = made.clone();
    narrow.params[0] = NARROW;
    for _ in 0..20 {
        let mut plan = solved(&narrow);
        firsts.extend(drag(&mut plan, &made.params));
        crossings = plan.regions_seen() - 1;
        seconds.extend(drag(&mut plan, &made.params));
    }
    for (name, times, most) in [("first", firsts, 6), ("second", seconds, 3)] {
        let (mean, late) = mean_and_late(times);
        let name =
            format!("a drag of 400 widths, {crossings} crossings, {name} pass, mean (99th percentile)");
        rows.push((
            name,
            format!("{:.1} ({:.0}) times", mean / straight, late / straight),
            format!("{most} times"),
        ));
    }
    let (whole, presolved) = against_package(&made);
    let ours = mean("cold/1000")?;
    for (name, time, least) in [("the whole problem", whole, 20), ("the presolved one", presolved, 3)] {
        let faster =
            time.map_or("it gave up".to_owned(), |t| format!("{:.1} times", t.as_secs_f64() * 1e9 / ours));
        rows.push((
            format!("cold, 1,000 views, faster than a general package given {name}"),
            faster,
            format!("{least} times"),
        ));
    }
    let (small, large) = (mean("cold/250")?, mean("cold/64000")?);
    let exponent = (large / small).ln() / (64_000.0_f64 / 250.0).ln();
    rows.push((
        "growth from 250 to 64,000 views, cold: exponent".into(),
        format!("{exponent:.3}"),
        "1.10".into(),
    ));
    rows.push((
        "one knot of 2,000 rules, to cold with 1,000 views".into(),
        ratio(mean("cold/knot")?, ours),
        "-".into(),
    ));
    let many = mean("cold/10000")?;
    let share = format!("{:.3}%", 100.0 * mean("edit/local")? / many);
    rows.push(("a constant that moves at most 10 of 10,000 views, to cold".into(), share, "1%".into()));
    let all = ratio(mean("edit/global")?, mean("edit/resize")?);
    rows.push((
        "a constant that moves all of 10,000 views, to a warm resize".into(),
        all,
        "1.5 times".into(),
    ));
    rows.extend(application::table(&mean)?);
    let mut text = String::from("| what | measured | must reach |\n|---|---|---|\n");
    for (what, measured, reach) in rows {
        let _ = writeln!(text, "| {what} | {measured} | {reach} |");
    }
    Some(text)
}

fn main() {
    let mut criterion = Criterion::default().configure_from_args().warm_up_time(Duration::from_millis(500));
    resize(&mut criterion);
    arranged(&mut criterion);
    library(&mut criterion);
    matrix(&mut criterion);
    cold(&mut criterion);
    edits(&mut criterion);
    application::measure(&mut criterion);
    criterion.final_summary();
    // `cargo test` and `--test` run each benchmark once only, and there is nothing to tell then.
    if std::env::args().any(|a| a == "--bench")
        && let Some(table) = table()
    {
        println!("\n{table}");
    }
}
