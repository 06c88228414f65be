//! TODO-HEAD

use crate::display::display::Display;
use vantic_solver::ParamId;

/// The parameter that holds the height of the lines of a text.
pub(crate) fn height_param(text: usize) -> usize {
    DISPLAY_PARAMS + 4 * text + 2
}

/// What is known of the display.
#[derive(Clone, Copy, Debug)]
pub(crate) struct DisplayParams {
    pub(crate) width: ParamId,
    pub(crate) height: ParamId,
    pub(crate) left: ParamId,
    pub(crate) top: ParamId,
    pub(crate) right: ParamId,
    pub(crate) bottom: ParamId,
    pub(crate) pixel: ParamId,
    /// What the bottom inset or the keyboard takes, whichever is more.
    pub(crate) cover: ParamId,
}

/// How many parameters are known of the display.
pub(crate) const DISPLAY_PARAMS: usize = 8;

/// What these are on a display, in their order.
pub(crate) fn params_of(display: &Display) -> [f64; DISPLAY_PARAMS] {
    let insets = display.insets();
    [
        display.width(),
        display.height(),
        insets.left,
        insets.top,
        insets.right,
        insets.bottom,
        1.0 / display.density(),
        display.bottom_cover(),
    ]
}

/// What is known of a text once it is measured.
#[derive(Clone, Copy, Debug)]
pub(crate) struct TextParams {
    pub(crate) width: ParamId,
    pub(crate) longest: ParamId,
    pub(crate) height: ParamId,
    pub(crate) ascent: ParamId,
}
