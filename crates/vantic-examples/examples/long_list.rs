//! A list of 100,000 rows, of which those in sight are filled, measured and placed.
//!
//! `cargo run -p vantic-examples --example long_list` prints:
//!
//! ```text
//! at first: row 0 begins 0 above the top; 14 filled, 14 placed, about 6053571 in all
//! a little down: row 0 begins 30 above the top; 0 filled, 14 placed, about 6053571 in all
//! to row 70,005: row 70000 begins 39.75 above the top; 17 filled, 17 placed, about 6009677 in all
//! three put in at row 10: row 70003 begins 39.75 above the top; 0 filled, 17 placed, about 6009858 in all
//! in the middle: row 70008, its words 93.5 wide at 284
//! ```

use std::error::Error;
use vantic::display::Display;
use vantic::plan::{LongList, Plan, RowAt, RowContent};
use vantic::text::PlainText;
use vantic_examples::stop;

/// How many stops there are.
const STOPS: usize = 100_000;

/// The stops of the application, in the order in which they are listed.
struct Stops {
    numbers: Vec<usize>,
    /// How often a row was filled.
    filled: usize,
}

impl Stops {
    /// What the row of a stop shows.
    fn fill(&mut self, stop: &stop::Screen, row: usize, content: &mut RowContent<'_>) {
        self.filled += 1;
        let number = self.numbers[row];
        let (name, call) = match number % 10 {
            0 => (
                "The old landing stage below the quarry, on request only, ring before dusk",
                stop.states.call.on_request,
            ),
            _ => ("Jetty", stop.states.call.usual),
        };
        content.words(stop.views.row.words, &format!("{name} {number}")).state(call.state, call.name);
        content.words(stop.views.row.time, &format!("{:02}:{:02}", number / 60 % 24, number % 60));
        content.parameter(stop.parameters.minutes.name, (number % 60) as u32);
    }
}

fn main() -> Result<(), Box<dyn Error>> {
    let stop = stop::Screen::new()?;
    let mut stops = Stops { numbers: (0..STOPS).collect(), filled: 0 };
    let mut list = LongList::new(Plan::new(stop.screen.clone())?, stop.views.row.view, STOPS, 56)?;
    let display = Display::new(390, 600)?;
    let tell = |list: &mut LongList, stops: &mut Stops, what: &str| -> Result<(), Box<dyn Error>> {
        let before = stops.filled;
        list.place(&display, &PlainText, |row, content| stops.fill(&stop, row, content))?;
        let first = list.row_at(0.0).ok_or("rows are in sight")?;
        println!(
            "{what}: row {} begins {} above the top; {} filled, {} placed, about {} in all",
            first.index,
            0.0 - first.top,
            stops.filled - before,
            list.placed().len(),
            list.extent().round(),
        );
        Ok(())
    };
    tell(&mut list, &mut stops, "at first")?;
    list.scroll_by(30)?;
    tell(&mut list, &mut stops, "a little down")?;
    list.scroll_to(70_005, RowAt::Middle)?;
    tell(&mut list, &mut stops, "to row 70,005")?;
    // Stops are put in far above: what is seen stays where it is.
    list.insert(10, 3)?;
    stops.numbers.splice(10..10, STOPS..STOPS + 3);
    tell(&mut list, &mut stops, "three put in at row 10")?;
    let row = list.row_at(300.0).ok_or("a row is there")?;
    let words = row.frames.frame(stop.views.row.words).ok_or("it has words")?;
    println!("in the middle: row {}, its words {} wide at {}", row.index, words.width, row.top + words.top);
    Ok(())
}
