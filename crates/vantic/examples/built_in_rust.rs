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
    build.rules(
        chart,
        [
            chart.pin([(Side::Left, 16.0), (Side::Top, 24.0)], SAFE),
            ratio(chart.width(), chart.height(), 1.0, 1.0),
            chart.width().equals(SAFE.width() - 32.0).labelled("wide").prefer(polish),
        ],
    );
    build.rules(
        legend,
        [
            legend.pin([(Side::Left, 16.0), (Side::Right, 16.0), (Side::Bottom, 24.0)], SAFE),
            legend.top().equals(chart.bottom() + 12.0),
            legend.height().at_least(88.0).prefer(fit),
        ],
    );
    let plan = Plan::new(build.finish()?)?;
    for (width, height) in [(360.0, 640.0), (640.0, 360.0)] {
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
