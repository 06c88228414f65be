//! A pane that is dragged: the application sets a parameter, and asks what has changed.
//!
//! `cargo run --example split_pane` prints:
//!
//! ```text
//! rail 240: list 240 wide, page 552 wide, name on 1 line
//! rail 560: list 560 wide, page 232 wide, name on 2 lines
//!   changed: list, page, page.name, page.date
//! halfway: page 392 wide
//! 900 is refused: `rail` is set to 900; it has to be within 180 and 600
//! ```

use vantic::display::Display;
use vantic::plan::{LiveFrames, Plan};
use vantic::text::PlainText;

const SEEDS: &str = "screen seeds {
    param rail = 240 in 180..600
    view list { pin left, top, bottom to safe; width = rail }
    view page {
        left = list.right + 8; pin top, right, bottom to safe
        text name \"Sweet pea from the south slope\" { font 20; pin left, top to parent; width <= page.width }
        text date \"June\" { font 14; left = 0 + page.left; below name by 4 }
    }
}";

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let mut live = Plan::new(vantic::read(SEEDS)?.screen)?.live();
    let view = |path: &str| live.screen().find(path).ok_or("the screen has it");
    let (list, page, name) = (view("list")?, view("page")?, view("page.name")?);
    let window = Display::new(800, 600)?;
    let print = |rail: f64, frames: &LiveFrames| {
        let width = |view| frames.frame(view).map_or(0.0, |f| f.width);
        let lines = frames.frame(name).map_or(0.0, |f| f.height / 25.0);
        let plural = if lines == 1.0 { "line" } else { "lines" };
        println!(
            "rail {rail}: list {} wide, page {} wide, name on {lines} {plural}",
            width(list),
            width(page)
        );
    };
    let before = live.frames(&window, &PlainText)?;
    print(240.0, &before);
    // The reader drags the bar: a step like a resize.
    let after = live.frames(&window.clone().with_parameter("rail", 560)?, &PlainText)?;
    print(560.0, &after);
    let changed: Vec<String> = after.changed_since(&before).map(|view| live.screen().path(view)).collect();
    println!("  changed: {}", changed.join(", "));
    // An animation from one to the other.
    let halfway: Vec<_> = before.toward(&after, 0.5).collect();
    println!("halfway: page {} wide", halfway[page.index()].map_or(0.0, |f| f.width));
    if let Err(refused) = live.frames(&window.with_parameter("rail", 900)?, &PlainText) {
        println!("900 is refused: {refused}");
    }
    Ok(())
}
