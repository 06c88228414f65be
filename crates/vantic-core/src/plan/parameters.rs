//! The parameters of a problem: what is known of the display, of each text, and of what is scrolled.
//!
//! Their order stands here and nowhere else: those of the display, four for each text in the order of the
//! texts, two for each view that may scroll, then those that the application sets. [`Parameters`] declares them in that order, fills them in,
//! and finds them again.

use crate::display::display::Display;
use crate::text::measure::TextSize;
use std::ops::Range;
use vantic_solver::{ParamId, ProblemBuilder};

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

/// What is known of a text once it is measured.
#[derive(Clone, Copy, Debug)]
pub(crate) struct TextParams {
    pub(crate) width: ParamId,
    pub(crate) longest: ParamId,
    pub(crate) height: ParamId,
    pub(crate) ascent: ParamId,
}

/// How far a view is scrolled: along the reading direction, and down.
pub(crate) type ScrollParams = [ParamId; 2];

const OF_DISPLAY: usize = 8;
const OF_TEXT: usize = 4;
const OF_SCROLLER: usize = 2;
/// Where the height stands among those of a text.
const TEXT_HEIGHT: usize = 2;

/// How many parameters a problem has, and where each stands.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct Parameters {
    texts: usize,
    scrollers: usize,
    named: usize,
}

impl Parameters {
    pub(crate) fn new(texts: usize, scrollers: usize, named: usize) -> Self {
        Self { texts, scrollers, named }
    }

    /// Declares those of the display; they come first.
    pub(crate) fn declare_display(build: &mut ProblemBuilder) -> DisplayParams {
        let [width, height, left, top, right, bottom, pixel, cover] =
            std::array::from_fn::<_, OF_DISPLAY, _>(|_| build.parameter());
        DisplayParams { width, height, left, top, right, bottom, pixel, cover }
    }

    /// Declares those of the next text.
    pub(crate) fn declare_text(build: &mut ProblemBuilder) -> TextParams {
        let [width, longest, height, ascent] = std::array::from_fn::<_, OF_TEXT, _>(|_| build.parameter());
        TextParams { width, longest, height, ascent }
    }

    /// Declares those of the next view that may scroll, after those of all texts.
    pub(crate) fn declare_scroller(build: &mut ProblemBuilder) -> ScrollParams {
        std::array::from_fn::<_, OF_SCROLLER, _>(|_| build.parameter())
    }

    /// Declares the next one that the application sets, after those of all views that may scroll.
    pub(crate) fn declare_named(build: &mut ProblemBuilder) -> ParamId {
        build.parameter()
    }

    /// The values of those of a display.
    pub(crate) fn of_display(display: &Display) -> [f64; OF_DISPLAY] {
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

    /// The values of those of a text that is measured on one line, with the height that its lines have.
    pub(crate) fn of_text(unwrapped: &TextSize, height: f64) -> [f64; OF_TEXT] {
        [unwrapped.width, unwrapped.longest, height, unwrapped.ascent]
    }

    /// Where the height of the lines of a text stands.
    pub(crate) fn height_of(self, text: usize) -> usize {
        OF_DISPLAY + OF_TEXT * text + TEXT_HEIGHT
    }

    /// Where those of all that may scroll stand.
    pub(crate) fn scrolled(self) -> Range<usize> {
        let from = OF_DISPLAY + OF_TEXT * self.texts;
        from..from + OF_SCROLLER * self.scrollers
    }

    /// Where those that the application sets stand.
    pub(crate) fn named(self) -> Range<usize> {
        let from = self.scrolled().end;
        from..from + self.named
    }
}
