//! Text measured by shaping it with the font that comes with the program.

use parley::style::{FontFamily, LineHeight, StyleProperty};
use parley::{FontContext, Layout, LayoutContext};
use std::sync::{Mutex, PoisonError};
use vantic::{Measure, TextRequest, TextSize};

/// The name of the font.
pub(crate) const FAMILY: &str = "DejaVu Sans";

/// The height of a line, as a multiple of the font size.
const LINE_HEIGHT: f32 = 1.25;

/// A line of a wrapped text.
#[derive(Clone, Debug, PartialEq)]
pub struct TextLine {
    /// Its words.
    pub words: String,
    /// Its width in logical pixels.
    pub width: f64,
    /// From the top of the text to its baseline, in logical pixels.
    pub baseline: f64,
}

/// Measures text with the font that comes with the program; the same on every machine.
pub struct FontText {
    contexts: Mutex<(FontContext, LayoutContext<()>)>,
}

impl Default for FontText {
    fn default() -> Self {
        Self::new()
    }
}

impl std::fmt::Debug for FontText {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "FontText({FAMILY})")
    }
}

impl FontText {
    /// Loads the font. No font of the system is used.
    pub fn new() -> Self {
        use parley::fontique::{Blob, Collection, CollectionOptions, SourceCache};
        let mut collection = Collection::new(CollectionOptions { shared: false, system_fonts: false });
        for font in [dejavu::sans::regular(), dejavu::sans::bold()] {
            collection.register_fonts(Blob::new(std::sync::Arc::new(font)), None);
        }
        let fonts = FontContext { collection, source_cache: SourceCache::default() };
        Self { contexts: Mutex::new((fonts, LayoutContext::new())) }
    }

    fn layout(&self, words: &str, font: f64, line: Option<f64>, width: Option<f64>) -> Layout<()> {
        let mut contexts = self.contexts.lock().unwrap_or_else(PoisonError::into_inner);
        let (fonts, layouts) = &mut *contexts;
        let mut builder = layouts.ranged_builder(fonts, words, 1.0, false);
        builder.push_default(StyleProperty::FontFamily(FontFamily::named(FAMILY)));
        builder.push_default(StyleProperty::FontSize(font as f32));
        builder.push_default(StyleProperty::LineHeight(match line {
            Some(line) => LineHeight::Absolute(line as f32),
            None => LineHeight::FontSizeRelative(LINE_HEIGHT),
        }));
        let mut layout = builder.build(words);
        layout.break_all_lines(width.map(|w| w as f32));
        layout
    }

    /// The lines of a text wrapped at a width, as high as stated, or 1.25 of the font size.
    pub fn lines(&self, words: &str, font: f64, line: Option<f64>, width: Option<f64>) -> Vec<TextLine> {
        let layout = self.layout(words, font, line, width);
        layout
            .lines()
            .map(|line| {
                let metrics = line.metrics();
                TextLine {
                    words: words[line.text_range()].trim_end().to_owned(),
                    width: f64::from(metrics.advance - metrics.hanging_advance),
                    baseline: f64::from(metrics.baseline),
                }
            })
            .collect()
    }

    /// The width of words on one line, in pixels.
    pub(crate) fn width(&self, words: &str, font: f64) -> f64 {
        f64::from(self.layout(words, font, None, None).width())
    }
}

impl Measure for FontText {
    fn measure(&self, text: &TextRequest<'_>) -> TextSize {
        let layout = self.layout(text.words, text.font, text.line, text.width);
        // No words take no width, but keep the height of a line.
        let is_empty = text.words.trim().is_empty();
        let width = |width: f32| if is_empty { 0.0 } else { f64::from(width) };
        TextSize {
            width: width(layout.width()),
            longest: width(layout.calculate_content_widths().min),
            height: f64::from(layout.height()),
            ascent: layout.first_baseline().map_or(0.0, f64::from),
            lines: layout.len() as u32,
            hidden: 0,
        }
    }
}
