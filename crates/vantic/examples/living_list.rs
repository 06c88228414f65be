//! A list that rows are added to, changed and taken out of while it is on the screen.
//!
//! `cargo run --example living_list` prints:
//!
//! ```text
//! at first: 40 high, ends at 64
//! a note is added: 64 high, ends at 88; changed: list, total, list.note
//! other words: 84 high, ends at 108; changed: list, total, list.note
//! refused: `total#1` reads `list`, which is to be removed; remove or change `total#1`, too
//! undone twice: 40 high, ends at 64; the note is gone
//! ```

use vantic::display::Display;
use vantic::model::{Arrangement, Coordinates, SAFE, ScreenBuilder, Setting, Side, ViewId};
use vantic::plan::{Live, LiveFrames, Plan};
use vantic::text::PlainText;

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let mut build = ScreenBuilder::new("pantry");
    let (list, total) = (build.view("list"), build.view("total"));
    build.add(list.pin([(Side::Left, 16), (Side::Top, 0), (Side::Right, 16)], SAFE));
    build.set(list, Setting::Arrange(Arrangement::column().gap(4).into()));
    let jar = build.view_in(list, "jar");
    build.add(jar.height().equals(40)).add(total.below(list, 4));
    build.add(total.pin([(Side::Left, 16), (Side::Right, 16)], SAFE)).add(total.height().equals(20));
    let mut live = Plan::new(build.finish()?)?.live();
    let window = Display::new(320, 480)?;

    let told = |frames: &LiveFrames| {
        let height = frames.frame(list).map_or(0.0, |f| f.height);
        format!("{height} high, ends at {}", frames.frame(total).map_or(0.0, |f| f.bottom()))
    };
    let changed = |live: &Live, now: &LiveFrames, before: &LiveFrames| {
        let paths: Vec<String> = now.changed_since(before).map(|view| live.screen().path(view)).collect();
        paths.join(", ")
    };
    let first = live.frames(&window, &PlainText)?;
    println!("at first: {}", told(&first));
    // Ids stay what they are; a new view has one of its own.
    let (note, without) = live.edit(|build| {
        let note: ViewId = build.text_in(list, "note", "Weigh before noon", 16.0);
        build.set(note, Setting::Lines(3));
        note
    })?;
    let second = live.frames(&window, &PlainText)?;
    println!("a note is added: {}; changed: {}", told(&second), changed(&live, &second, &first));
    live.edit(|build| {
        build.change_words(note, "Weigh before noon, and write the weight on the lid");
    })?;
    let third = live.frames(&window, &PlainText)?;
    println!("other words: {}; changed: {}", told(&third), changed(&live, &third, &second));
    // What would leave a rule without what it reads is refused, and nothing has changed.
    let refused = live.edit(|build| {
        build.remove(list);
    });
    println!("refused: {}", refused.err().ok_or("the total reads the list")?);
    live.go_over_to(without)?;
    let again = live.frames(&window, &PlainText)?;
    let gone = if live.screen().view(note).is_none() { "the note is gone" } else { "the note is there" };
    println!("undone twice: {}; {gone}", told(&again));
    Ok(())
}
