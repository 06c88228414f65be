//! An application window whose views Vantic places while it is dragged to any size.
//!
//! `cargo run --example window` opens a window with the demo's departure board; `cargo run --example window
//! -- FILE` with another screen. A plan is kept solved, so that dragging allocates nothing in it; texts are
//! measured by the window's own engine, in `letters.rs`, which stands for the one of your toolkit. With
//! `--density 2` a logical pixel is two pixels of the window wide and high. With `--tell` it prints the
//! frames that it paints, a line for each size:
//!
//! ```text
//! 640x480: header 0,0,640,56; header.title 16,15.5,213.1,25; ...
//! ```

mod letters;
mod paint;

use letters::Letters;
use minifb::{Window, WindowOptions};
use paint::Painter;
use std::fmt::Write as _;
use vantic::display::Display;
use vantic::model::Screen;
use vantic::plan::{Live, Plan};
use vantic::resolve::read;

type Failure = Box<dyn std::error::Error>;

/// How often a second the window is looked at.
const FRAME_RATE: usize = 60;

fn main() -> Result<(), Failure> {
    let (mut file, mut tells, mut density) = (None, false, 1.0);
    let mut arguments = std::env::args().skip(1);
    while let Some(argument) = arguments.next() {
        match argument.as_str() {
            "--tell" => tells = true,
            "--density" => density = arguments.next().ok_or("--density takes a number")?.parse()?,
            _ => file = Some(argument),
        }
    }
    let text = match &file {
        Some(path) => std::fs::read_to_string(path)?,
        None => include_str!("../../../../demo/departures.vantic").to_owned(),
    };
    let plan = Plan::new(read(&text)?.screen)?;
    let title = format!("{}, placed by Vantic", plan.screen().name());
    let look = WindowOptions { resize: true, ..WindowOptions::default() };
    let mut window = Window::new(&title, 480, 720, look)?;
    window.set_target_fps(FRAME_RATE);
    let (letters, painter) = (Letters::new()?, Painter::default());
    let mut app = App {
        screen: plan.screen(),
        live: plan.live(),
        letters,
        painter,
        pixels: Vec::new(),
        density,
        tells,
    };
    let mut size = (0, 0);
    while window.is_open() {
        let now = window.get_size();
        if now != size && now.0 > 0 && now.1 > 0 {
            size = now;
            app.paint(size)?;
        }
        window.update_with_buffer(&app.pixels, size.0, size.1)?;
    }
    Ok(())
}

struct App<'a> {
    screen: &'a Screen,
    /// The plan, kept solved from one size to the next.
    live: Live,
    letters: Letters,
    painter: Painter,
    /// What the window shows, a number for each pixel.
    pixels: Vec<u32>,
    density: f64,
    tells: bool,
}

impl App<'_> {
    /// Places the views for the size that the window has now, and paints them.
    fn paint(&mut self, (across, down): (usize, usize)) -> Result<(), Failure> {
        let display = Display::new(across as f64 / self.density, down as f64 / self.density)?;
        let display = display.with_density(self.density)?;
        let frames = self.live.frames(&display, &self.letters)?;
        if self.tells {
            let mut line = format!("{}x{}:", display.width(), display.height());
            for ((view, _), frame) in std::iter::zip(self.screen.views(), frames.all()) {
                let Some(frame) = frame else { continue };
                let [left, top, width, height] =
                    [frame.left, frame.top, frame.width, frame.height].map(vantic::words::number);
                write!(line, " {} {left},{top},{width},{height};", self.screen.path(view))?;
            }
            println!("{line}");
        }
        let size = (u32::try_from(across)?, u32::try_from(down)?);
        self.painter.paint(self.screen, frames, &self.letters, size, self.density);
        self.pixels.resize(across * down, 0);
        self.painter.copy_to(&mut self.pixels);
        Ok(())
    }
}
