//! Pictures of placed screens, and text measured with a real font.
//!
//! [`FontText`] measures text by shaping it; [`draw_display`] draws one display with every view named beside
//! it, [`draw_sheet`] several displays side by side. Both give a [`Picture`], which is SVG and can be turned
//! into PNG. [`draw_tracks`] shows a whole range of displays, [`draw_map`] a rectangle of widths and heights.
//! [`review_page`] is a page with all displays and what is found on each.
//!
//! ```
//! use vantic::check::check;
//! use vantic::display::Display;
//! use vantic::plan::Plan;
//! use vantic::resolve::read;
//! use vantic_draw::{FontText, Options, draw_display};
//!
//! let source = read("screen quay { text sign \"Quay 4\" { font 24; center = safe.center } }")?;
//! let plan = Plan::new(source.screen)?;
//! let fonts = FontText::new();
//! let report = check(&plan, &[Display::new(390.0, 844.0)?], &fonts)?;
//! let picture = draw_display(plan.screen(), &report, 0, &fonts, Options::default()).unwrap();
//! assert!(picture.svg().contains("Quay 4"));
//! # Ok::<(), Box<dyn std::error::Error>>(())
//! ```

mod callouts;
mod canvas;
mod dimensions;
mod display;
mod drawing;
mod drift;
mod page;
mod palette;
mod sheet;
mod text;
mod tracks;

pub use canvas::{Picture, PictureError};
pub use display::draw_display;
pub use drift::draw_drift;
pub use page::{MAX_PAGE_DISPLAYS, review_page};
pub use sheet::{MAX_SHEET_DISPLAYS, draw_beside, draw_sheet};
pub use text::{FontText, TextLine};
pub use tracks::{MAX_TRACKS, draw_map, draw_tracks};

/// The width of a picture in pixels.
pub const WIDTH: f64 = 1280.0;
/// The height of a picture in pixels.
pub const HEIGHT: f64 = 800.0;

/// What a picture shows besides the views.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct Options {
    /// The rules, as dimension lines with their distances.
    pub rules: bool,
    /// The guides, as thin lines.
    pub guides: bool,
}
