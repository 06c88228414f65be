//! Measuring text: what a text engine is asked, and a plain one that needs no fonts.

use crate::geometry::direction::Direction;
use std::collections::HashMap;
use std::sync::{PoisonError, RwLock};

/// A text to be measured.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct TextRequest<'a> {
    /// The words.
    pub words: &'a str,
    /// The font size in logical pixels, text scale included.
    pub font: f64,
    /// The height of a line in logical pixels, text scale included; `None` for the engine's own.
    pub line: Option<f64>,
    /// The width to wrap at; `None` for one line.
    pub width: Option<f64>,
    /// The reading direction.
    pub direction: Direction,
    /// The language of the words, if the display names one.
    pub language: Option<&'a str>,
    /// The style of the text by the name that the screen gives it, such as `strong`.
    pub style: Option<&'a str>,
    /// The position of the view whose text it is, as its id tells it; `None` where it is asked for outside of a screen. It
    /// is the same for the same text of a screen from one display to the next, so that an engine can remember what it has
    /// shaped.
    pub view: Option<usize>,
    /// Which words of the view these are: another number whenever they were changed, and the same one again where that was
    /// undone. An engine that keeps what it shaped by view, font, style and language needs to look at the words only where
    /// this differs.
    pub revision: u64,
}

impl<'a> TextRequest<'a> {
    /// Words in a font size, on one line, read from left to right.
    pub fn new(words: &'a str, font: f64) -> Self {
        let direction = Direction::LeftToRight;
        let (language, style) = (None, None);
        Self { words, font, line: None, width: None, direction, language, style, view: None, revision: 0 }
    }
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
    /// How many of them a limit keeps from being shown; not the engine's to fill in.
    pub hidden: u32,
}

/// A text engine. An application with its own implements this; one that works on several displays at once, as a check
/// does, has to be `Sync`, too.
pub trait Measure {
    /// Measures a text.
    fn measure(&self, text: &TextRequest<'_>) -> TextSize;

    /// A number for all that the answers depend on besides the request, such as the fonts that are loaded. As long as it is
    /// the same, the same request has the same answer, and [`Live`](crate::plan::Live) does not ask for a text on one line
    /// twice, nor at a width that it had on the last display. Engines that measure otherwise have other numbers. `None`:
    /// everything is asked each time.
    fn revision(&self) -> Option<u64> {
        None
    }
}

/// A plain measurer without fonts, the same everywhere: every character is 0.5 of the font size
/// wide, a line 1.25 of it high, with its baseline at 0.8 of a line; lines break at spaces.
#[derive(Clone, Copy, Debug, Default)]
pub struct PlainText;

/// A measurer for sums done by hand: characters and lines as in [`PlainText`], and as many lines as
/// the width on one line takes, wherever the words end: `lines = ceil(measured / width)`.
#[derive(Clone, Copy, Debug, Default)]
pub struct EvenText;

/// Both plain measurers: so many characters on the widest line and in the longest piece.
fn plain(text: &TextRequest<'_>, widest: usize, longest: usize, lines: u32) -> TextSize {
    let width = |chars: usize| 0.5 * text.font * chars as f64;
    let line = text.line.unwrap_or(1.25 * text.font);
    TextSize {
        width: width(widest),
        longest: width(longest),
        height: f64::from(lines) * line,
        ascent: 0.8 * line,
        lines,
        hidden: 0,
    }
}

impl Measure for PlainText {
    fn revision(&self) -> Option<u64> {
        Some(u64::MAX)
    }

    fn measure(&self, text: &TextRequest<'_>) -> TextSize {
        let limit = text.width.unwrap_or(f64::INFINITY);
        let (mut widest, mut longest, mut lines, mut line) = (0, 0, 1, 0);
        for word in text.words.split_whitespace().map(|w| w.chars().count()) {
            longest = longest.max(word);
            if line > 0 && 0.5 * text.font * (line + 1 + word) as f64 > limit {
                lines += 1;
                line = word;
            } else {
                line += word + usize::from(line > 0);
            }
            widest = widest.max(line);
        }
        plain(text, widest, longest, lines)
    }
}

impl Measure for EvenText {
    fn revision(&self) -> Option<u64> {
        Some(u64::MAX - 1)
    }

    fn measure(&self, text: &TextRequest<'_>) -> TextSize {
        let chars = text.words.chars().count();
        let on_a_line = text.width.map_or(f64::INFINITY, |width| width / (0.5 * text.font));
        let lines = (chars as f64 / on_a_line.max(1.0)).ceil().max(1.0);
        let longest = usize::from(chars > 0);
        plain(text, chars.min(on_a_line.floor().max(1.0) as usize), longest, lines as u32)
    }
}

/// How a text is to be measured, its words left out.
type Asked = (u64, Option<u64>, Option<u64>, Direction, [usize; 2]);

/// How many measures are remembered at most.
const MAX_REMEMBERED: usize = 200_000;

/// Another measurer, asked once for each text at each width.
pub struct RememberedText<'a> {
    of: &'a (dyn Measure + Sync),
    known: RwLock<Known>,
}

#[derive(Default)]
struct Known {
    by_words: HashMap<Box<str>, HashMap<Asked, TextSize>>,
    count: usize,
    /// The languages and styles that were asked for.
    names: Vec<Box<str>>,
}

impl Known {
    /// Where a language or style stands among those that were asked for, counted from 1; 0 for none.
    fn number(&self, name: Option<&str>) -> Option<usize> {
        let Some(name) = name else { return Some(0) };
        self.names.iter().position(|known| **known == *name).map(|at| at + 1)
    }

    fn asked(&self, text: &TextRequest<'_>) -> Option<Asked> {
        let bits = |number: Option<f64>| number.map(f64::to_bits);
        let names = [self.number(text.language)?, self.number(text.style)?];
        Some((text.font.to_bits(), bits(text.line), bits(text.width), text.direction, names))
    }
}

impl<'a> RememberedText<'a> {
    /// Remembers what a measurer says.
    pub fn new(of: &'a (dyn Measure + Sync)) -> Self {
        Self { of, known: RwLock::default() }
    }
}

impl Measure for RememberedText<'_> {
    fn revision(&self) -> Option<u64> {
        self.of.revision()
    }

    fn measure(&self, text: &TextRequest<'_>) -> TextSize {
        let known = self.known.read().unwrap_or_else(PoisonError::into_inner);
        let asked = known.asked(text);
        if let Some(size) = asked.and_then(|asked| known.by_words.get(text.words)?.get(&asked)) {
            return *size;
        }
        drop(known);
        let size = self.of.measure(text);
        let mut known = self.known.write().unwrap_or_else(PoisonError::into_inner);
        if known.count >= MAX_REMEMBERED {
            *known = Known::default();
        }
        known.count += 1;
        for name in [text.language, text.style].into_iter().flatten() {
            if known.number(Some(name)).is_none() {
                known.names.push(name.into());
            }
        }
        let Some(asked) = known.asked(text) else { unreachable!("its names are known now") };
        known.by_words.entry(text.words.into()).or_default().insert(asked, size);
        size
    }
}

/// Another measurer with every word longer by a factor, as in another language.
#[derive(Clone, Copy)]
pub struct LongerText<'a> {
    /// What measures the words as they are.
    pub of: &'a (dyn Measure + Sync),
    /// How many times as wide they are, above zero.
    pub factor: f64,
}

impl std::fmt::Debug for LongerText<'_> {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "LongerText({})", self.factor)
    }
}

impl Measure for LongerText<'_> {
    fn measure(&self, text: &TextRequest<'_>) -> TextSize {
        // As many lines as the words as they are have in a narrower place.
        let narrower = TextRequest { width: text.width.map(|w| w / self.factor), ..*text };
        let size = self.of.measure(&narrower);
        TextSize { width: size.width * self.factor, longest: size.longest * self.factor, ..size }
    }
}
