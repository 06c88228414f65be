//! probe
use std::time::Instant;
use vantic_bench::*;
use vantic_solver::Plan;
fn main() {
    let w = workload(1000);
    let mut plan = Plan::new(&w.problem);
    let t = Instant::now();
    println!("{:?}", plan.solve(&w.params));
    println!("cold {:?} views {} rules {}", t.elapsed(), w.views, w.problem.rule_count());
    println!("region bounds {}", plan.region().len());
    let mut out = vec![0.0; plan.values().len()];
    straight(&w.params, &mut out);
    let worst = out.iter().zip(plan.values()).map(|(a, b)| (a - b).abs()).fold(0.0, f64::max);
    println!("worst {worst}");
    for (from, by) in [(640.0, 0.3), (500.0, 0.3), (760.0, 0.3), (500.0, 0.5)] {
        let mut plan = Plan::new(&w.problem);
        plan.solve(&w.params).unwrap();
        for pass in 0..3 {
            let mut p = w.params.clone();
            let mut times = vec![];
            for i in 0..400 {
                p[0] = from + i as f64 * by;
                let t = Instant::now();
                plan.solve(&p).unwrap();
                times.push(t.elapsed().as_nanos() as f64);
            }
            let mean = times.iter().sum::<f64>() / 400.0;
            times.sort_by(f64::total_cmp);
            println!(
                "pass {pass} mean {mean} p99 {} max {} crossings {}",
                times[396],
                times[399],
                times.iter().filter(|t| **t > 5000.0).count()
            );
        }
    }
    let mut plan = Plan::new(&w.problem);
    plan.solve(&w.params).unwrap();
    if std::env::var("DRAG").is_ok() {
        for _ in 0..100 {
            let mut p = w.params.clone();
            for i in 0..400 {
                p[0] = 300.0 + i as f64 * 1.5;
                plan.solve(&p).unwrap();
            }
        }
    }
}
