//! A message that slides in: frames between two states, for an animation.
//!
//! `cargo run -p vantic-examples --example toast` prints:
//!
//! ```text
//! 0 ms: top 852
//! 50 ms: top 812.69
//! 100 ms: top 792.5
//! 150 ms: top 785.06
//! 200 ms: top 784
//! ```

use vantic::display::Display;
use vantic::plan::Plan;
use vantic::text::PlainText;
use vantic_examples::toast;

/// How long it takes, in milliseconds.
const TAKES: f64 = 200.0;

/// Fast at first, and slow at the end.
fn eased(at: f64) -> f64 {
    1.0 - (1.0 - at).powi(3)
}

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let toast = toast::Screen::new()?;
    let mut live = Plan::new(toast.screen.clone())?.live();
    let (display, note) = (Display::new(390, 844)?, toast.states.note);
    // Both ends are held; nothing is solved in between.
    let away = live.frames(&note.away.on(&display), &PlainText)?;
    let shown = live.frames(&note.shown.on(&display), &PlainText)?;
    let card = toast.views.card.view;
    for time in [0.0, 50.0, 100.0, 150.0, TAKES] {
        let mut between = away.toward(&shown, eased(time / TAKES));
        let top = between.nth(card.index()).flatten().map_or(0.0, |frame| frame.top);
        println!("{time} ms: top {}", (top * 100.0).round() / 100.0);
    }
    Ok(())
}
