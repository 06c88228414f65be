//! A player whose menu opens below its button, or above it where there is no room; a tap is given to what is painted there.
//!
//! `cargo run -p vantic-examples --example popup` prints:
//!
//! ```text
//! 390x844: the menu opens above, from 632 to 736; the button ends at 788
//! 390x1000 with the bar moved up: below, from 788 to 892
//! a tap at 300, 650: popup.queue
//! a tap at 20, 20: nothing
//! played 240: done is 240 wide of 342
//! ```

use vantic::display::Display;
use vantic::model::{Coordinates, ViewId};
use vantic::plan::{Live, LiveFrames, Plan};
use vantic::text::PlainText;
use vantic_examples::player;

/// What the application has to do with the menu: it is placed below, and where it reaches beyond the display, above.
fn opened(
    live: &mut Live,
    player: &player::Screen,
    display: &Display,
) -> Result<(&'static str, LiveFrames), Box<dyn std::error::Error>> {
    let menu = player.states.menu;
    let below = live.frames(&menu.below.on(display), &PlainText)?;
    let bottom = below.frame(player.views.popup.view).map_or(0.0, |frame| frame.bottom());
    if bottom <= display.height() - display.insets().bottom {
        return Ok(("below", below));
    }
    Ok(("above", live.frames(&menu.above.on(display), &PlainText)?))
}

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let player = player::Screen::new()?;
    let views = player.views;
    let mut live = Plan::new(player.screen.clone())?.live();
    let ends = |frames: &LiveFrames, view: ViewId| {
        frames.frame(view).map(|frame| (frame.top, frame.bottom())).unwrap_or_default()
    };

    let display = Display::new(390, 844)?;
    let (side, frames) = opened(&mut live, &player, &display)?;
    let ((top, bottom), (_, button)) = (ends(&frames, views.popup.view), ends(&frames, views.more));
    println!("390x844: the menu opens {side}, from {top} to {bottom}; the button ends at {button}");

    // Where the bar is tied higher up, there is room below.
    let ((), before) = live.edit(|build| {
        let rules = build.screen().rules_called("bar#1");
        for rule in rules {
            build.remove_rule(rule);
        }
        build.add(views.bar.left().equals(24)).add(views.bar.right().equals(366));
        build.add(views.bar.bottom().equals(800));
    })?;
    let tall = Display::new(390, 1000)?;
    let (side, frames) = opened(&mut live, &player, &tall)?;
    let (top, bottom) = ends(&frames, views.popup.view);
    println!("390x1000 with the bar moved up: {side}, from {top} to {bottom}");
    live.go_over_to(before)?;

    // What is tapped is what is painted there.
    let (_, frames) = opened(&mut live, &player, &display)?;
    for (x, y) in [(300.0, 650.0), (20.0, 20.0)] {
        let path = frames.view_at(x, y).map_or("nothing".to_owned(), |view| player.screen.path(view));
        println!("a tap at {x}, {y}: {path}");
    }
    let frames = live.frames(&player.parameters.played.set(240, &display)?, &PlainText)?;
    let width = |view| frames.frame(view).map_or(0.0, |frame| frame.width);
    println!("played 240: done is {} wide of {}", width(views.done), width(views.bar));
    Ok(())
}
