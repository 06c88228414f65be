//! The window's own text engine: how wide letters are, where lines break, and how letters are painted. It
//! stands for the one of a toolkit, which Vantic asks through [`Measure`].

use ab_glyph::{Font, FontRef, PxScale, ScaleFont};
use vantic::text::{Measure, TextRequest, TextSize};

/// The height of a line, as a multiple of the font size, where a screen does not say.
pub(crate) const LINE: f64 = 1.25;

/// A font, and its letters.
pub(crate) struct Letters {
    font: FontRef<'static>,
}

impl Letters {
    pub(crate) fn new() -> Result<Self, ab_glyph::InvalidFont> {
        Ok(Self { font: FontRef::try_from_slice(dejavu::sans::regular())? })
    }

    /// Sizes of a font are reported as those of an em; this package counts from the top to the foot of its
    /// letters.
    fn scale(&self, size: f64) -> PxScale {
        let em = self.font.units_per_em().unwrap_or(1000.0);
        PxScale::from(size as f32 * self.font.height_unscaled() / em)
    }

    fn width(&self, words: &str, size: f64) -> f64 {
        let scaled = self.font.as_scaled(self.scale(size));
        words.chars().map(|c| f64::from(scaled.h_advance(scaled.glyph_id(c)))).sum()
    }

    /// Hands over each line of a text wrapped at a width; nothing is allocated for it.
    pub(crate) fn each_line<'a>(
        &self,
        words: &'a str,
        size: f64,
        width: f64,
        mut line: impl FnMut(&'a str, f64),
    ) {
        let mut start = 0;
        let (mut end, mut so_far) = (0, 0.0);
        for word in words.split_whitespace() {
            let at = word.as_ptr() as usize - words.as_ptr() as usize;
            let with = self.width(&words[start..at + word.len()], size);
            if end > start && with > width + 1e-3 {
                line(&words[start..end], so_far);
                start = at;
                so_far = self.width(word, size);
            } else {
                so_far = with;
            }
            end = at + word.len();
        }
        line(&words[start..end.max(start)], so_far);
    }

    /// Paints a line: each point of a letter with how much of it is covered.
    pub(crate) fn paint(&self, words: &str, size: f64, at: (f64, f64), mut point: impl FnMut(i64, i64, f32)) {
        let scaled = self.font.as_scaled(self.scale(size));
        let mut x = at.0 as f32;
        for c in words.chars() {
            let id = scaled.glyph_id(c);
            let glyph = id.with_scale_and_position(scaled.scale(), ab_glyph::point(x, at.1 as f32));
            x += scaled.h_advance(id);
            if let Some(outline) = self.font.outline_glyph(glyph) {
                let corner = outline.px_bounds().min;
                outline.draw(|dx, dy, covered| {
                    point(corner.x as i64 + i64::from(dx), corner.y as i64 + i64::from(dy), covered);
                });
            }
        }
    }

    /// From the top of a line to the foot of its letters.
    pub(crate) fn ascent(&self, size: f64, line: f64) -> f64 {
        let scaled = self.font.as_scaled(self.scale(size));
        let (up, down) = (f64::from(scaled.ascent()), f64::from(-scaled.descent()));
        (line - up - down) / 2.0 + up
    }
}

impl Measure for Letters {
    fn measure(&self, text: &TextRequest<'_>) -> TextSize {
        let line = text.line.unwrap_or(LINE * text.font);
        let (mut lines, mut widest) = (0, 0.0_f64);
        self.each_line(text.words, text.font, text.width.unwrap_or(f64::INFINITY), |_, width| {
            lines += 1;
            widest = widest.max(width);
        });
        let words = text.words.split_whitespace();
        let longest = words.map(|word| self.width(word, text.font)).fold(0.0, f64::max);
        TextSize {
            width: widest,
            longest,
            height: f64::from(lines) * line,
            ascent: self.ascent(text.font, line),
            lines,
            hidden: 0,
        }
    }
}
