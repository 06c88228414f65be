//! A plan that is kept while a window is dragged allocates nothing. Alone in its file, so that nothing else
//! allocates meanwhile.

use stats_alloc::{INSTRUMENTED_SYSTEM, Region, StatsAlloc};
use std::alloc::System;
use vantic::display::Display;
use vantic::plan::{Live, LiveFrames, Plan};
use vantic::resolve::read;
use vantic::text::PlainText;

#[global_allocator]
static ALLOCATOR: &StatsAlloc<System> = &INSTRUMENTED_SYSTEM;

/// What is chosen of `max`, `clamp` and the like stays the same on the way.
const CHOICES: &str = "screen tannery {
    view yard { pin left 8, top 8 to safe; width = clamp(180, 0.5 * screen.width, 600); height = max(120, screen.height / 5) }
    text sign \"Hides are weighed at the upper gate\" { font 16; left = yard.left; top = yard.bottom + 8; right = yard.right }
    view print { contain 3 : 2 in yard }
    view one { left = 8; below sign by 8; size = 30 }
    view two { top = one.top; size = 30 }
    view three { right = safe.right - 8; top = one.top; size = 30 }
    spread across one, two, three
    view around { enclose one, two by 6 }
}";

/// The same of lines, columns, spare children and limits of shares, which all change on the way there.
const ARRANGED: &str = "screen kennel {
    view bowls { left = 8; top = 8; width = safe.width - 16; row gap 4, wrap; repeat bowl 12 { size = (70, 20) } }
    view beds { left = 8; below bowls by 8; width = safe.width - 16; grid columns of 90, gap 4; repeat bed 9 { height = 30 } }
    view toys { left = 8; below beds by 8; width = safe.width - 16; row gap 4; repeat toy 12 { size = (60, 20); spare } }
    view runs { left = 8; below toys by 8; width = safe.width - 16; height = 20; row gap 4; view old { share 1, at most 60; height = 20 }; repeat run 4 { share 1; height = 20 } }
}";

/// It can be kept in a struct, and sent to another thread.
const fn is_sent<T: Send + Sync + 'static>() {}

const _: () = is_sent::<Live>();

const _: () = is_sent::<LiveFrames>();

#[test]
fn nothing_is_allocated_while_a_window_is_dragged() {
    for text in [include_str!("../../../demo/departures.vantic"), CHOICES, ARRANGED] {
        let mut live = Plan::new(read(text).unwrap().screen).unwrap().live();
        let at = |step: i32| {
            let by = f64::from(step);
            Display::new(500.0 + by * 0.7, 800.0 - by * 0.4).unwrap()
        };
        let displays: Vec<Display> = (0..200).map(at).collect();
        let mut drag = |sum: &mut f64| {
            let mut last: Option<LiveFrames> = None;
            let mut changes = 0;
            for display in displays.iter().chain(displays.iter().rev()) {
                let frames = live.frames(display, &PlainText).unwrap();
                *sum += frames.all().iter().flatten().map(|f| f.width).sum::<f64>();
                // Two successive ones can be held.
                changes += last.as_ref().map_or(0, |last| frames.changed_since(last).count());
                last = Some(frames);
            }
            changes
        };
        // There and back once, so that every region has been met.
        let mut first = 0.0;
        drag(&mut first);
        let region = Region::new(ALLOCATOR);
        let mut second = 0.0;
        let changes = drag(&mut second);
        let change = region.change();
        assert!(first > 0.0 && (first - second).abs() < 1e-3 && changes > 398);
        assert_eq!(change.allocations + change.reallocations, 0, "blocks were allocated");
    }
}
