//! Displays by name and by numbers: found or refused, and a screen placed on those that are found.

#![no_main]

use libfuzzer_sys::fuzz_target;
use shared::SCREEN;
use std::sync::LazyLock;
use vantic::display::{Display, Displays, Insets};
use vantic::prelude::*;

mod shared;

static PLAN: LazyLock<Plan> =
    LazyLock::new(|| Plan::new(vantic::read(SCREEN).expect("it can be read").screen).expect("it has a plan"));

fuzz_target!(|bytes: &[u8]| {
    let numbers: Vec<f64> =
        bytes.chunks_exact(8).map(|b| f64::from_le_bytes(b.try_into().expect("eight of them"))).collect();
    if let [width, height, left, top, scale, keyboard, ..] = numbers[..] {
        let insets = Insets { left, top, right: left, bottom: top };
        let display = Display::new(width, height)
            .and_then(|d| d.with_insets(insets))
            .and_then(|d| d.with_text_scale(scale))
            .and_then(|d| d.with_keyboard(keyboard));
        if let Ok(display) = display {
            let _ = PLAN.place(&display, &PlainText);
        }
    }
    let Ok(name) = std::str::from_utf8(bytes) else { return };
    if let Ok(display) = Displays::default().find(name, PLAN.screen()) {
        let _ = PLAN.place(&display, &PlainText);
    }
});
