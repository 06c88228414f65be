//! An application window whose views Vantic places while it is dragged to any size.
//!
//! `cargo run --example window` opens a window with the demo's departure board; `cargo run --example window
//! -- FILE` with another screen. A plan is kept solved, so that dragging allocates nothing in it; texts are
//! measured by the window's own engine, in `letters.rs`, which stands for the one of your toolkit. With
//! `--tell` it prints the frames that it paints, a line for each size:
//!
//! ```text
//! 640x480: header 0,0,640,56; header.title 16,15.5,213.1,25; ...
//! ```

mod letters;
mod paint;

use letters::Letters;
use paint::Painter;
use softbuffer::{Context, Surface};
use std::fmt::Write as _;
use std::num::NonZeroU32;
use std::rc::Rc;
use vantic::display::Display;
use vantic::model::Screen;
use vantic::plan::{Live, Plan};
use vantic::resolve::read;
use winit::application::ApplicationHandler;
use winit::dpi::LogicalSize;
use winit::event::WindowEvent;
use winit::event_loop::{ActiveEventLoop, EventLoop, OwnedDisplayHandle};
use winit::window::{Window, WindowId};

type Failure = Box<dyn std::error::Error>;

fn main() -> Result<(), Failure> {
    let mut file = None;
    let mut tells = false;
    for argument in std::env::args().skip(1) {
        match argument.as_str() {
            "--tell" => tells = true,
            _ => file = Some(argument),
        }
    }
    let text = match &file {
        Some(path) => std::fs::read_to_string(path)?,
        None => include_str!("../../../../demo/departures.vantic").to_owned(),
    };
    let plan = Plan::new(read(&text)?.screen)?;
    let events = EventLoop::new()?;
    let mut app = App {
        screen: plan.screen(),
        live: plan.live(),
        letters: Letters::new()?,
        painter: Painter::default(),
        context: Context::new(events.owned_display_handle())?,
        shown: None,
        tells,
        failure: None,
    };
    events.run_app(&mut app)?;
    app.failure.map_or(Ok(()), Err)
}

/// The window, and what it paints on.
struct VisibleSpares {
    window: Rc<Window>,
    surface: Surface<OwnedDisplayHandle, Rc<Window>>,
}

struct App<'a> {
    screen: &'a Screen,
    /// The plan, kept solved from one size to the next.
    live: Live<'a>,
    letters: Letters,
    painter: Painter,
    context: Context<OwnedDisplayHandle>,
    shown: Option<VisibleSpares>,
    tells: bool,
    failure: Option<Failure>,
}

impl App<'_> {
    fn open(&mut self, events: &ActiveEventLoop) -> Result<(), Failure> {
        let look = Window::default_attributes()
            .with_title(format!("{}, placed by Vantic", self.screen.name()))
            .with_inner_size(LogicalSize::new(480.0, 720.0));
        let window = Rc::new(events.create_window(look)?);
        let surface = Surface::new(&self.context, window.clone())?;
        self.shown = Some(VisibleSpares { window, surface });
        Ok(())
    }

    /// Places the views for the size that the window has now, and paints them.
    fn paint(&mut self) -> Result<(), Failure> {
        let Some(VisibleSpares { window, surface }) = &mut self.shown else { return Ok(()) };
        let (pixels, density) = (window.inner_size(), window.scale_factor());
        let (Some(across), Some(down)) = (NonZeroU32::new(pixels.width), NonZeroU32::new(pixels.height))
        else {
            return Ok(());
        };
        let display = Display::new(f64::from(pixels.width) / density, f64::from(pixels.height) / density)?;
        let display = display.with_density(density)?;
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
        surface.resize(across, down)?;
        let mut buffer = surface.buffer_mut()?;
        self.painter.paint(self.screen, frames, &self.letters, (pixels.width, pixels.height), density);
        self.painter.copy_to(&mut buffer);
        buffer.present()?;
        Ok(())
    }

    /// Ends the program where something failed; `main` says what.
    fn ended(&mut self, events: &ActiveEventLoop, done: Result<(), Failure>) {
        if let Err(failure) = done {
            self.failure = Some(failure);
            events.exit();
        }
    }
}

impl ApplicationHandler for App<'_> {
    fn resumed(&mut self, events: &ActiveEventLoop) {
        if self.shown.is_none() {
            let opened = self.open(events);
            self.ended(events, opened);
        }
    }

    fn window_event(&mut self, events: &ActiveEventLoop, _: WindowId, event: WindowEvent) {
        match event {
            WindowEvent::CloseRequested => events.exit(),
            WindowEvent::Resized(_) => {
                if let Some(shown) = &self.shown {
                    shown.window.request_redraw();
                }
            }
            WindowEvent::RedrawRequested => {
                let painted = self.paint();
                self.ended(events, painted);
            }
            _ => {}
        }
    }
}
