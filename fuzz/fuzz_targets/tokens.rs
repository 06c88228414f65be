//! A screen file with tokens changed, moved, doubled and taken out: where it still has a meaning, it is placed and checked.

#![no_main]

use libfuzzer_sys::fuzz_target;
use shared::{displays, mutated};
use vantic::check::check_as;
use vantic::prelude::*;

mod shared;

fuzz_target!(|bytes: &[u8]| {
    let text = mutated(bytes);
    let Ok(source) = vantic::read(&text) else { return };
    let Ok(plan) = Plan::new(source.screen) else { return };
    let little = CheckOptions { effort: 0.005, ..CheckOptions::default() };
    let _ = check_as(&plan, &displays(), &PlainText, little);
});
