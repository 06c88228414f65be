//! Text measured by shaping it with the font that comes with the program.

use parley::style::{FontFamily, LineHeight, StyleProperty};
use parley::{FontContext, Layout, LayoutContext};
use std::collections::HashMap;
use std::hash::{DefaultHasher, Hash, Hasher};
use std::sync::{Arc, Mutex, PoisonError};
use vantic::text::{Measure, TextRequest, TextSize};

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

/// Measures text with the font that comes with the program; the same on every machine. A text is shaped once;
/// after that only its lines are broken again.
pub struct FontText {
    shards: [Mutex<Shard>; SHARDS],
}

/// How many threads can measure at once, as long as they measure different words.
const SHARDS: usize = 8;

/// How many shaped texts one shard remembers.
const MAX_REMEMBERED: usize = 2000;

/// Fonts, and the texts that were shaped with them.
struct Shard {
    contexts: (FontContext, LayoutContext<()>),
    shaped: HashMap<u64, Shaped>,
}

/// A text that was shaped: in which size, and with lines how high.
struct Shaped {
    words: String,
    font: f64,
    line: Option<f64>,
    layout: Layout<()>,
    /// What it measured at the last few widths, by their bits.
    measured: Vec<(Option<u64>, TextSize)>,
}

/// At how many widths a text remembers what it measured.
const MAX_WIDTHS: usize = 32;

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

impl Shard {
    fn shape(&mut self, words: &str, font: f64, line: Option<f64>) -> Layout<()> {
        let (fonts, layouts) = &mut self.contexts;
        let mut builder = layouts.ranged_builder(fonts, words, 1.0, false);
        builder.push_default(StyleProperty::FontFamily(FontFamily::named(FAMILY)));
        builder.push_default(StyleProperty::FontSize(font as f32));
        builder.push_default(StyleProperty::LineHeight(match line {
            Some(line) => LineHeight::Absolute(line as f32),
            None => LineHeight::FontSizeRelative(LINE_HEIGHT),
        }));
        builder.build(words)
    }
}

impl FontText {
    /// Loads the font. No font of the system is used.
    pub fn new() -> Self {
        use parley::fontique::{Blob, Collection, CollectionOptions, SourceCache};
        let fonts = [dejavu::sans::regular(), dejavu::sans::bold()].map(|font| Blob::new(Arc::new(font)));
        let shard = || {
            let mut collection = Collection::new(CollectionOptions { shared: false, system_fonts: false });
            for font in &fonts {
                collection.register_fonts(font.clone(), None);
            }
            let fonts = FontContext { collection, source_cache: SourceCache::default() };
            Mutex::new(Shard { contexts: (fonts, LayoutContext::new()), shaped: HashMap::new() })
        };
        Self { shards: std::array::from_fn(|_| shard()) }
    }

    /// Looks at a text laid out at a width.
    fn laid_out<T>(
        &self,
        words: &str,
        font: f64,
        line: Option<f64>,
        width: Option<f64>,
        look: impl FnOnce(&Layout<()>) -> T,
    ) -> T {
        self.shaped(words, font, line, |shaped| {
            shaped.layout.break_all_lines(width.map(|w| w as f32));
            look(&shaped.layout)
        })
    }

    /// Goes on with a text that is shaped, now or before.
    fn shaped<T>(
        &self,
        words: &str,
        font: f64,
        line: Option<f64>,
        go_on: impl FnOnce(&mut Shaped) -> T,
    ) -> T {
        let mut hasher = DefaultHasher::new();
        (words, font.to_bits(), line.map(f64::to_bits)).hash(&mut hasher);
        let key = hasher.finish();
        let shard = &self.shards[key as usize % SHARDS];
        let mut shard = shard.lock().unwrap_or_else(PoisonError::into_inner);
        let is_same = |known: &Shaped| known.words == words && known.font == font && known.line == line;
        let known = shard.shaped.remove(&key).filter(is_same);
        let mut shaped = known.unwrap_or_else(|| {
            let layout = shard.shape(words, font, line);
            Shaped { words: words.to_owned(), font, line, layout, measured: Vec::new() }
        });
        let result = go_on(&mut shaped);
        if shard.shaped.len() >= MAX_REMEMBERED {
            shard.shaped.clear();
        }
        shard.shaped.insert(key, shaped);
        result
    }

    /// The lines of a text wrapped at a width, as high as stated, or 1.25 of the font size.
    ///
    /// ```
    /// use vantic_draw::FontText;
    ///
    /// let fonts = FontText::new();
    /// let lines = fonts.lines("The ferry leaves at noon", 16.0, None, Some(100.0));
    /// assert!(lines.len() > 1 && lines[0].words.starts_with("The ferry"));
    /// ```
    pub fn lines(&self, words: &str, font: f64, line: Option<f64>, width: Option<f64>) -> Vec<TextLine> {
        self.laid_out(words, font, line, width, |layout| {
            let lines = layout.lines().map(|line| {
                let metrics = line.metrics();
                TextLine {
                    words: words[line.text_range()].trim_end().to_owned(),
                    width: f64::from(metrics.advance - metrics.hanging_advance),
                    baseline: f64::from(metrics.baseline),
                }
            });
            lines.collect()
        })
    }

    /// The width of words on one line, in pixels.
    pub(crate) fn width(&self, words: &str, font: f64) -> f64 {
        self.laid_out(words, font, None, None, |layout| f64::from(layout.width()))
    }
}

impl Measure for FontText {
    fn measure(&self, text: &TextRequest<'_>) -> TextSize {
        let bits = text.width.map(f64::to_bits);
        self.shaped(text.words, text.font, text.line, |Shaped { layout, measured, .. }| {
            if let Some(&(_, size)) = measured.iter().find(|(width, _)| *width == bits) {
                return size;
            }
            layout.break_all_lines(text.width.map(|w| w as f32));
            // No words take no width, but keep the height of a line.
            let is_empty = text.words.trim().is_empty();
            let width = |width: f32| if is_empty { 0.0 } else { f64::from(width) };
            let size = TextSize {
                width: width(layout.width()),
                longest: width(layout.calculate_content_widths().min),
                height: f64::from(layout.height()),
                ascent: layout.first_baseline().map_or(0.0, f64::from),
                lines: layout.len() as u32,
                hidden: 0,
            };
            if measured.len() >= MAX_WIDTHS {
                measured.remove(0);
            }
            measured.push((bits, size));
            size
        })
    }
}
