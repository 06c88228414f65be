//! A screen file loaded, placed on two displays, and its frames handed to a host program.
//!
//! `cargo run --example host_program` prints one line a view and display, such as:
//!
//! ```text
//! 340x620: move card.code to 80, 107 and make it 180 x 179
//! ```

use std::collections::BTreeMap;
use vantic::display::Display;
use vantic::geometry::Frame;
use vantic::plan::Plan;
use vantic::resolve::read;
use vantic_draw::FontText;

/// Stands for the application that owns the real views.
#[derive(Default)]
struct Host {
    frames: BTreeMap<String, Frame>,
}

impl Host {
    /// What an application does with a frame: round its edges to whole pixels, so that views that
    /// touch stay touching, and move its own view there.
    fn receive(&mut self, display: &str, view: String, frame: Frame) {
        let (left, top) = (frame.left.round(), frame.top.round());
        let (width, height) = (frame.right().round() - left, frame.bottom().round() - top);
        if self.frames.insert(view.clone(), frame) != Some(frame) {
            println!("{display}: move {view} to {left}, {top} and make it {width} x {height}");
        }
    }
}

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let file = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/boarding_pass.vantic");
    let source = read(&std::fs::read_to_string(file)?)?;
    let plan = Plan::new(source.screen)?;
    let fonts = FontText::new();
    let mut host = Host::default();
    for display in [Display::new(340.0, 620.0)?, Display::new(620.0, 340.0)?] {
        let placement = plan.place(&display, &fonts)?;
        for (view, _) in plan.screen().views() {
            if let Some(frame) = placement.frame(view) {
                host.receive(display.name(), plan.screen().path(view), frame);
            }
        }
    }
    Ok(())
}
