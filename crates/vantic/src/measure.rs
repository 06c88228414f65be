//! Measuring text: what a text engine is asked, and a plain one that needs no fonts.

use crate::display::Direction;

/// A text to be measured.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct TextRequest<'a> {
    /// The words.
    pub words: &'a str,
    /// The font size in logical pixels, text scale included.
    pub font: f64,
    /// The width to wrap at; `None` for one line.
    pub width: Option<f64>,
    /// The reading direction.
    pub direction: Direction,
}

/// What a text measures, in logical pixels. All numbers are finite and not below zero.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct TextSize {
    /// The width of the widest line.
    pub width: f64,
    /// The width of the widest piece that cannot be broken.
    pub longest: f64,
    /// The height of all lines.
    pub height: f64,
    /// From the top of the first line to its baseline.
    pub ascent: f64,
    /// How many lines there are.
    pub lines: u32,
}

/// A text engine. An application with its own implements this.
pub trait Measure: Sync {
    /// Measures a text.
    fn measure(&self, text: &TextRequest<'_>) -> TextSize;
}

/// A plain measurer without fonts, the same everywhere: every character is 0.5 of the font size
/// wide, a line 1.25 of it high, with its baseline at 0.8 of a line; lines break at spaces.
#[derive(Clone, Copy, Debug, Default)]
pub struct PlainText;

impl Measure for PlainText {
    fn measure(&self, text: &TextRequest<'_>) -> TextSize {
        let char_width = 0.5 * text.font;
        let width = |chars: usize| chars as f64 * char_width;
        let limit = text.width.unwrap_or(f64::INFINITY);
        let (mut widest, mut longest, mut lines, mut line) = (0, 0, 1, 0);
        for word in text.words.split_whitespace().map(|w| w.chars().count()) {
            longest = longest.max(word);
            if line > 0 && width(line + 1 + word) > limit {
                lines += 1;
                line = word;
            } else {
                line += word + usize::from(line > 0);
            }
            widest = widest.max(line);
        }
        let line_height = 1.25 * text.font;
        TextSize {
            width: width(widest),
            longest: width(longest),
            height: f64::from(lines) * line_height,
            ascent: 0.8 * line_height,
            lines,
        }
    }
}
