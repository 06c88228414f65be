//! Drawings as drawings of the views of a screen.

use crate::displays::displays::{Displays, DisplaysError};
use crate::drawing::drawn::{Drawing, drawn_path};
use std::collections::HashMap;
use vantic_core::display::Display;
use vantic_core::geometry::{Direction, Frame};
use vantic_core::model::{BuildError, DrawnFrames, Screen, ViewId};

/// Where views of a screen were drawn on a display.
#[derive(Clone, Debug, PartialEq)]
pub struct ScreenDrawing {
    /// The display.
    pub display: Display,
    /// The frames of views of the screen, in logical pixels from its top left corner, y down.
    pub frames: Vec<(ViewId, Frame)>,
    /// What is drawn and no view of the screen.
    pub unknown: Vec<String>,
}

impl Drawing {
    /// The drawing as one of the views of a screen, which it names by their paths.
    pub fn in_screen(&self, screen: &Screen) -> ScreenDrawing {
        let known: HashMap<String, ViewId> =
            screen.views().map(|(view, _)| (drawn_path(&screen.path(view)), view)).collect();
        let mut unknown = Vec::new();
        let known = self.views().iter().filter_map(|view| match known.get(&view.path) {
            Some(&id) => Some((id, view.frame)),
            None => {
                unknown.push(view.path.clone());
                None
            }
        });
        let frames = known.collect();
        ScreenDrawing { display: self.display.clone(), frames, unknown }
    }

    /// The screen with the drawing as one of its own: a check compares it.
    ///
    /// # Errors
    /// Too many drawings, frames that no view can have.
    pub fn added_to(&self, screen: Screen, displays: &Displays) -> Result<Screen, BuildError> {
        let frames = self.in_screen(&screen).frames;
        let on = named(&self.display, &screen, displays);
        screen.with_drawing(DrawnFrames { on, frames })
    }
}

/// The drawings that a screen file has in it.
///
/// # Errors
/// A display that is not known.
pub fn drawings_in(screen: &Screen, displays: &Displays) -> Result<Vec<ScreenDrawing>, DisplaysError> {
    let drawn = screen.drawings().iter().map(|drawing| {
        let display = displays.find(&drawing.on, screen)?;
        Ok(ScreenDrawing { display, frames: drawing.frames.clone(), unknown: Vec::new() })
    });
    drawn.collect()
}

/// How a display is named so that it is found again.
fn named(display: &Display, screen: &Screen, displays: &Displays) -> String {
    let is_same = |found: &Display| found.clone().named(display.name()) == *display;
    if displays.find(display.name(), screen).is_ok_and(|found| is_same(&found)) {
        return display.name().to_owned();
    }
    let mut parts = vec![format!("{}x{}", display.width(), display.height())];
    let insets = display.insets();
    if [insets.left, insets.top, insets.right, insets.bottom] != [0.0; 4] {
        parts.push(format!("insets {} {} {} {}", insets.left, insets.top, insets.right, insets.bottom));
    }
    if display.text_scale() != 1.0 {
        parts.push(format!("text {}", display.text_scale()));
    }
    if display.direction() == Direction::RightToLeft {
        parts.push("right to left".into());
    }
    if display.density() != 1.0 {
        parts.push(format!("density {}", display.density()));
    }
    if display.is_touch() {
        parts.push("touch".into());
    }
    if display.keyboard() != 0.0 {
        parts.push(format!("keyboard {}", display.keyboard()));
    }
    parts.extend(display.language().map(str::to_owned));
    let set =
        screen.parameters().filter_map(|of| Some(format!("{} {}", of.name(), display.parameter(of.name())?)));
    parts.extend(set);
    parts.extend(display.states().map(|(state, shown)| format!("{state}.{shown}")));
    parts.join(", ")
}
