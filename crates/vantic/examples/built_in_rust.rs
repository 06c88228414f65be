//! A screen built and placed in Rust, without a screen file.
//!
//! `cargo run --example built_in_rust` prints:
//!
//! ```text
//! on 360x640   chart    16,  24   328 x 328
//! on 360x640   legend   16, 364   328 x 252
//! on 640x360   chart    16,  24   212 x 212
//! on 640x360   legend   16, 248   608 x  88
//! gave way on 640x360: chart.wide on level polish by 396
//! ```

use vantic::display::Display;
use vantic::model::{Coordinates, SAFE, ScreenBuilder, Side, ratio};
use vantic::plan::Plan;
use vantic::text::PlainText;

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let mut build = ScreenBuilder::new("harbour");
    let [fit, polish] = build.ladder(["fit", "polish"]);
    let chart = build.view("chart");
    let legend = build.view("legend");
    build.add(chart.pin([(Side::Left, 16), (Side::Top, 24)], SAFE));
    build.add(ratio(chart.width(), chart.height(), 1.0, 1.0));
    build.add(chart.width().equals(SAFE.width() - 32).labelled("wide").prefer(polish));
    build.add(legend.pin([(Side::Left, 16), (Side::Right, 16), (Side::Bottom, 24)], SAFE));
    build.add(legend.top().equals(chart.bottom() + 12)).add(legend.height().at_least(88).prefer(fit));
    let plan = Plan::new(build.finish()?)?;
    for (width, height) in [(360, 640), (640, 360)] {
        let placement = plan.place(&Display::new(width, height)?, &PlainText)?;
        let on = placement.display.name();
        for (view, about) in plan.screen().views() {
            if let Some(f) = placement.frame(view) {
                println!(
                    "on {on}   {:<6} {:>4}, {:>3}   {:>3} x {:>3}",
                    about.name(),
                    f.left,
                    f.top,
                    f.width,
                    f.height
                );
            }
        }
        for missed in &placement.missed {
            let (rule, level) =
                (missed.rule.name(plan.screen()), missed.rule.level(plan.screen()).unwrap_or("required"));
            println!("gave way on {on}: {rule} on level {level} by {}", missed.by);
        }
    }
    Ok(())
}
