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
    let mut p = w.params.clone();
    let n = 3000000;
    let t = Instant::now();
    for i in 0..n {
        p[0] = 700.0 + (i % 2) as f64 * 0.01;
        p[1] = 900.0 + (i % 2) as f64 * 0.01;
        plan.solve(std::hint::black_box(&p)).unwrap();
    }
    straight(&p, &mut out);let t1 = t.elapsed();let t2 = Instant::now(); for i in 0..n { p[0] = 700.0 + (i % 2) as f64 * 0.01; p[1] = 900.0 + (i % 2) as f64 * 0.01; straight(std::hint::black_box(&p), &mut out); } println!("straight {}", t2.elapsed().as_nanos() as f64 / n as f64);
    println!("warm {}", t1.as_nanos() as f64 / n as f64);
}
