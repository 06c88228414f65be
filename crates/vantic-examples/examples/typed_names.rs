//! A screen file used without strings: a field for each view, state and parameter, made by the build script.
//!
//! `cargo run -p vantic-examples --example typed_names` prints:
//!
//! ```text
//! player: played goes from 0 to 4000
//! the title is 224 wide; hidden lines: 1
//! queue: 132, 364, 164 x 44
//! share_it: 132, 408, 164 x 44
//! ```

use vantic::display::Display;
use vantic::plan::Plan;
use vantic::text::PlainText;
use vantic_examples::player;

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let player = player::Screen::new()?;
    let mut live = Plan::new(player.screen.clone())?.live();
    let (views, menu, played) = (player.views, player.states.menu, player.parameters.played);
    println!("{}: played goes from {} to {}", player.screen.name(), played.range.0, played.range.1);

    live.set_words(views.title, "Rain on the lower lake, and other songs for two voices")?;
    let display = played.set(100, &menu.above.on(&Display::new(320, 568)?))?;
    let frames = live.frames(&display, &PlainText)?;
    let title = frames.frame(views.title).ok_or("it is there")?;
    let hidden = frames.text(views.title).ok_or("it has words")?.hidden;
    println!("the title is {} wide; hidden lines: {hidden}", title.width);
    for (name, view) in [("queue", views.popup.queue), ("share_it", views.popup.share_it)] {
        let frame = frames.frame(view).ok_or("it is there")?;
        println!("{name}: {}, {}, {} x {}", frame.left, frame.top, frame.width, frame.height);
    }
    Ok(())
}
