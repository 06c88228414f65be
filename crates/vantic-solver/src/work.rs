//! Work, counted where it is done, so that all of it has a bound that does not depend on the machine.
//!
//! A unit is about what it takes to look at one variable once: some hundred nanoseconds. It is counted per thread, since a
//! search runs on one; [`within`] bounds what is done inside of it, and tells how much that was. What counts is the same
//! for the same calls, whatever else the machine does.

use std::cell::Cell;

/// What is counted, and up to where: first what may be left out, then everything.
#[derive(Clone, Copy)]
struct Meter {
    spent: u64,
    search_until: u64,
    until: u64,
}

const UNBOUNDED: Meter = Meter { spent: 0, search_until: u64::MAX, until: u64::MAX };

thread_local! {
    static METER: Cell<Meter> = const { Cell::new(UNBOUNDED) };
}

/// Counts some units.
pub fn spend(units: usize) {
    METER.with(|meter| {
        let now = meter.get();
        meter.set(Meter { spent: now.spent.saturating_add(units as u64), ..now });
    });
}

/// Whether the bound is met: nothing more is to be worked out.
pub fn is_spent() -> bool {
    let meter = METER.get();
    meter.spent >= meter.until
}

/// Whether so much of it is spent that a search has to come to an end, for what is left to be enough to work out what it has
/// found: three quarters.
pub fn is_short() -> bool {
    let meter = METER.get();
    meter.spent >= meter.search_until
}

/// The bounds that were there before, also where a panic comes through.
struct Around(Meter);

impl Drop for Around {
    fn drop(&mut self) {
        METER.set(self.0);
    }
}

/// Runs something that may spend so many units, and no more than what is around it may; tells how many it did.
///
/// Whoever works on several threads counts on each by itself, and adds up what comes back.
pub fn within<T>(most: u64, run: impl FnOnce() -> T) -> (T, u64) {
    let mut around = Around(METER.get());
    let Meter { spent, search_until, until } = around.0;
    let until = until.min(spent.saturating_add(most));
    let search_until = search_until.min(spent.saturating_add(most / 4 * 3));
    METER.set(Meter { spent, search_until, until });
    let result = run();
    around.0.spent = METER.get().spent;
    (result, around.0.spent - spent)
}

/// Runs something whose work does not count here: what several share, whoever comes first.
pub fn apart<T>(run: impl FnOnce() -> T) -> T {
    let _around = Around(METER.get());
    METER.set(UNBOUNDED);
    run()
}
