//! What a plan takes: no allocation to resize inside a region, and little memory for each view.

use stats_alloc::{INSTRUMENTED_SYSTEM, Region, StatsAlloc};
use std::alloc::System;
use vantic_solver::{Affine, Level, Linear, Plan, ProblemBuilder, Relation, Settle, Status, VarId};

#[global_allocator]
static ALLOCATOR: &StatsAlloc<System> = &INSTRUMENTED_SYSTEM;

/// Rows one below the other, each with two views in it; about one rule in five is a preference.
fn rows(count: usize) -> (ProblemBuilder, usize) {
    let mut b = ProblemBuilder::new();
    let (width, height) = (b.parameter(), b.parameter());
    let mut views = 0;
    let mut view = |b: &mut ProblemBuilder, parent: Option<[VarId; 4]>| {
        let v = [b.variable(), b.variable(), b.nonnegative_variable(), b.nonnegative_variable()];
        views += 1;
        for axis in 0..2 {
            let toward = parent.map_or(Linear::default(), |p| Linear::of(p[axis]));
            b.settle(Settle::near(Linear::of(v[axis]), toward)).unwrap();
        }
        b.settle(Settle::least(v[2])).unwrap();
        b.settle(Settle::least(v[3])).unwrap();
        v
    };
    let required = |b: &mut ProblemBuilder, expr: Linear| {
        b.rule(expr, Relation::Equal, Level::REQUIRED, 1.0).unwrap();
    };
    let page = view(&mut b, None);
    required(&mut b, Linear::of(page[0]));
    required(&mut b, Linear::of(page[1]));
    required(&mut b, Linear::of(page[2]) - Affine::of(width));
    required(&mut b, Linear::of(page[3]) - Affine::of(height));
    let mut above: Option<[VarId; 4]> = None;
    for i in 0..count {
        let row = view(&mut b, Some(page));
        required(&mut b, Linear::of(row[0]).plus_var(page[0], -1.0).plus(-16.0));
        required(&mut b, Linear::of(row[2]).plus_var(page[2], -1.0).plus(32.0));
        required(&mut b, Linear::of(row[3]).plus(-40.0));
        let top = above.map_or(Linear::of(page[1]), |a| Linear::of(a[1]).plus_var(a[3], 1.0));
        let top = top.terms().iter().fold(Linear::of(row[1]).plus(-8.0), |e, &(v, c)| e.plus_var(v, -c));
        required(&mut b, top);
        for share in [0.3, 0.6] {
            let cell = view(&mut b, Some(row));
            required(&mut b, Linear::of(cell[1]).plus_var(row[1], -1.0).plus(-4.0));
            required(&mut b, Linear::of(cell[3]).plus(-32.0));
            let left = Linear::of(cell[0]).plus_var(row[0], -1.0).plus_var(row[2], -share + 0.3);
            required(&mut b, left);
            let wish = Linear::of(cell[2]).plus(-60.0 - (i % 7) as f64);
            b.rule(wish, Relation::Equal, Level::preference(1), 1.0).unwrap();
            let room = Linear::of(cell[2]).plus_var(row[2], -0.3);
            b.rule(room, Relation::AtMost, Level::REQUIRED, 1.0).unwrap();
        }
        above = Some(row);
    }
    (b, views)
}

/// One test, since the count is of the whole program.
#[test]
fn a_resize_allocates_nothing_and_a_view_takes_less_than_a_kibibyte() {
    let (problem, views) = rows(21_400);
    let problem = problem.build();
    assert!(views >= 64_000);
    let region = Region::new(ALLOCATOR);
    let held = || {
        let change = region.change();
        change.bytes_allocated - change.bytes_deallocated
    };
    let mut plan = Plan::new(&problem);
    assert_eq!(plan.solve(&[900.0, 700.0]), Ok(Status::Solved));
    let cold = held();
    plan.solve(&[901.0, 701.0]).unwrap();
    let warm = held();
    println!("{} bytes a view once placed, {} once resized", cold / views, warm / views);
    assert!(cold / views < 1024, "{} bytes a view", cold / views);
    assert!(warm / views < 1024, "{} bytes a view", warm / views);

    let drag = Region::new(ALLOCATOR);
    for step in 0..50 {
        plan.solve(&[902.0 + f64::from(step), 701.0 - f64::from(step)]).unwrap();
    }
    let change = drag.change();
    assert_eq!(change.allocations + change.reallocations, 0, "a resize inside a region allocates");
    assert_eq!(plan.regions_seen(), 1);
}
