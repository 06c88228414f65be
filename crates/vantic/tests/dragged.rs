//! A plan that is kept while a window is dragged allocates nothing. Alone in its file, so that nothing else
//! allocates meanwhile.

use stats_alloc::{INSTRUMENTED_SYSTEM, Region, StatsAlloc};
use std::alloc::System;
use vantic::display::Display;
use vantic::plan::Plan;
use vantic::resolve::read;
use vantic::text::PlainText;

#[global_allocator]
static ALLOCATOR: &StatsAlloc<System> = &INSTRUMENTED_SYSTEM;

#[test]
fn nothing_is_allocated_while_a_window_is_dragged() {
    let screen = read(include_str!("../../../demo/departures.vantic")).unwrap().screen;
    let plan = Plan::new(screen).unwrap();
    let mut live = plan.live();
    let at = |step: i32| {
        let by = f64::from(step);
        Display::new(500.0 + by * 0.7, 800.0 - by * 0.4).unwrap()
    };
    let displays: Vec<Display> = (0..200).map(at).collect();
    let mut drag = |sum: &mut f64| {
        for display in displays.iter().chain(displays.iter().rev()) {
            let frames = live.frames(display, &PlainText).unwrap();
            *sum += frames.all().iter().flatten().map(|f| f.width).sum::<f64>();
        }
    };
    // There and back once, so that every region has been met.
    let mut first = 0.0;
    drag(&mut first);
    let region = Region::new(ALLOCATOR);
    let mut second = 0.0;
    drag(&mut second);
    let change = region.change();
    assert!(first > 0.0 && (first - second).abs() < 1e-3);
    assert_eq!(change.allocations + change.reallocations, 0, "blocks were allocated");
}
