//! Drawings: frames of named views on a display, as somebody drew them.
//!
//! `drawn` is the drawing itself, `from_json` reads what `place` prints, `from_svg` shapes with ids, `nest` tells from frames
//! what is in what, `in_screen` has drawings of the views of a screen. Reads texts that it is given, no files. Rules are read off drawings in `infer`.

mod drawn;
mod from_json;
mod from_svg;
mod in_screen;
mod nest;
mod to_json;

pub(crate) use drawn::drawn_path;
pub use drawn::{Drawing, DrawingError, DrawingNote, DrawnKind, DrawnView, MAX_DRAWN_VIEWS};
pub use from_svg::PLACEMENTS;
pub use in_screen::{ScreenDrawing, drawings_in};
pub use to_json::placements_json;
