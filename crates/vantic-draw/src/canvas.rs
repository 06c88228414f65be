//! SVG written as text, and turned into PNG.

use crate::palette::{INK, PAPER};
use crate::text::FAMILY;
use resvg::{tiny_skia, usvg};
use std::fmt::Write as _;
use std::sync::Arc;
use vantic::drawing::{PLACEMENTS, placements_json};
use vantic::model::Screen;
use vantic::plan::Placement;

/// A finished picture.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Picture {
    svg: String,
}

/// How many views are kept in a picture, on all its displays together.
const MAX_KEPT: usize = 4000;

/// Why a picture could not be turned into PNG.
#[derive(Debug, thiserror::Error)]
pub enum PictureError {
    /// The SVG was not understood; a fault of this crate.
    #[error("the picture could not be read back: {0}")]
    Svg(String),
    /// There was no memory for it, or its size is zero.
    #[error("the picture could not be painted")]
    Paint,
}

impl Picture {
    /// The picture as SVG. It names the font but does not hold it.
    pub fn svg(&self) -> &str {
        &self.svg
    }

    /// The picture with the placements that it shows, from which they are read again as drawings; those of very large screens are
    /// left out.
    pub(crate) fn with_placements(mut self, screen: &Screen, placements: &[&Placement]) -> Self {
        if screen.views().count() * placements.len() > MAX_KEPT {
            return self;
        }
        let json = placements_json(screen, placements.iter().copied());
        if let Some(end) = self.svg.rfind("</svg>") {
            let kept = format!("<metadata id=\"{PLACEMENTS}\">{}</metadata>\n", escaped(&json));
            self.svg.insert_str(end, &kept);
        }
        self
    }

    /// The picture as PNG, painted with the font that comes with the program.
    ///
    /// # Errors
    /// A picture that cannot be painted.
    pub fn png(&self) -> Result<Vec<u8>, PictureError> {
        let mut fonts = usvg::fontdb::Database::new();
        fonts.load_font_source(usvg::fontdb::Source::Binary(Arc::new(dejavu::sans::regular())));
        fonts.load_font_source(usvg::fontdb::Source::Binary(Arc::new(dejavu::sans::bold())));
        fonts.set_sans_serif_family(FAMILY);
        let options =
            usvg::Options { fontdb: Arc::new(fonts), font_family: FAMILY.to_owned(), ..Default::default() };
        let tree = usvg::Tree::from_str(&self.svg, &options).map_err(|e| PictureError::Svg(e.to_string()))?;
        let size = tree.size().to_int_size();
        let mut pixels = tiny_skia::Pixmap::new(size.width(), size.height()).ok_or(PictureError::Paint)?;
        resvg::render(&tree, tiny_skia::Transform::default(), &mut pixels.as_mut());
        pixels.encode_png().map_err(|_| PictureError::Paint)
    }
}

/// A point or a box in the picture, in pixels.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Area {
    pub(crate) x: f64,
    pub(crate) y: f64,
    pub(crate) width: f64,
    pub(crate) height: f64,
}

impl Area {
    pub(crate) fn right(&self) -> f64 {
        self.x + self.width
    }

    pub(crate) fn bottom(&self) -> f64 {
        self.y + self.height
    }

    pub(crate) fn touches(&self, other: &Area) -> bool {
        self.x < other.right() && other.x < self.right() && self.y < other.bottom() && other.y < self.bottom()
    }
}

/// Where words start, in the middle or end at the given point.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum TextAnchor {
    Start,
    Middle,
    End,
}

/// How words look.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Ink {
    pub(crate) size: f64,
    pub(crate) colour: &'static str,
    pub(crate) bold: bool,
}

impl Ink {
    pub(crate) fn new(size: f64, colour: &'static str) -> Self {
        Self { size, colour, bold: false }
    }

    pub(crate) fn bold(self) -> Self {
        Self { bold: true, ..self }
    }
}

/// How a line or border looks. `dash` is an SVG dash pattern, empty for a solid line.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Stroke {
    pub(crate) colour: &'static str,
    pub(crate) width: f64,
    pub(crate) dash: &'static str,
}

impl Stroke {
    pub(crate) fn solid(colour: &'static str, width: f64) -> Self {
        Self { colour, width, dash: "" }
    }

    pub(crate) fn dashed(colour: &'static str, width: f64, dash: &'static str) -> Self {
        Self { colour, width, dash }
    }
}

/// How an area is hatched.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Pattern {
    /// What the device covers.
    Inset,
    /// What two views share without leave.
    Clash,
}

/// A picture in the making.
pub(crate) struct Canvas {
    out: String,
    /// How many clips there are so far.
    clips: usize,
    /// What the names of patterns and clips begin with, so that several pictures can stand in one page.
    prefix: String,
    /// Whether words keep the width that they were measured with, whatever the font.
    keeps_widths: bool,
}

impl Canvas {
    pub(crate) fn new(width: f64, height: f64) -> Self {
        let mut canvas = Self { out: String::new(), clips: 0, prefix: String::new(), keeps_widths: false };
        let _ = writeln!(
            canvas.out,
            "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"{width}\" height=\"{height}\" \
             viewBox=\"0 0 {width} {height}\" font-family=\"{FAMILY}, sans-serif\">"
        );
        canvas.patterns();
        canvas.fill(Area { x: 0.0, y: 0.0, width, height }, PAPER, 0.0);
        canvas
    }

    /// A picture to be put into a page: without a head, and with names of its own.
    pub(crate) fn part(prefix: String) -> Self {
        let mut canvas = Self { out: String::new(), clips: 0, prefix, keeps_widths: true };
        canvas.patterns();
        canvas
    }

    /// What is in it so far.
    pub(crate) fn into_part(self) -> String {
        self.out
    }

    fn patterns(&mut self) {
        let prefix = &self.prefix;
        let _ = writeln!(
            self.out,
            "<defs><pattern id=\"{prefix}inset\" width=\"6\" height=\"6\" patternUnits=\"userSpaceOnUse\" \
             patternTransform=\"rotate(45)\"><rect width=\"1.6\" height=\"6\" fill=\"#8b999d\" \
             fill-opacity=\"0.45\"/></pattern>\
             <pattern id=\"{prefix}clash\" width=\"5\" height=\"5\" patternUnits=\"userSpaceOnUse\" \
             patternTransform=\"rotate(-45)\"><rect width=\"1.6\" height=\"5\" \
                                fill=\"#d3a13f\"/></pattern></defs>"
        );
    }

    /// Fills an area with a pattern.
    pub(crate) fn hatch(&mut self, a: Area, pattern: Pattern) {
        let name = match pattern {
            Pattern::Inset => "inset",
            Pattern::Clash => "clash",
        };
        self.fill(a, &format!("url(#{}{name})", self.prefix), 0.0);
    }

    /// A number in a filled circle.
    pub(crate) fn numbered(&mut self, x: f64, y: f64, radius: f64, number: usize, fill: &'static str) {
        self.dot(x, y, radius, fill);
        let size = radius * if number < 100 { 1.15 } else { 0.85 };
        self.words(
            x,
            y + size * 0.36,
            &number.to_string(),
            Ink::new(size, "#ffffff").bold(),
            TextAnchor::Middle,
        );
    }

    /// A line of a text, of a width that it was measured with.
    pub(crate) fn measured(&mut self, x: f64, y: f64, words: &str, ink: Ink, anchor: TextAnchor, width: f64) {
        let before = self.out.len();
        self.words(x, y, words, ink, anchor);
        if self.keeps_widths && width > 0.0 {
            let held = format!("<text textLength=\"{}\" lengthAdjust=\"spacingAndGlyphs\"", r(width));
            self.out.replace_range(before..before + "<text".len(), &held);
        }
    }

    /// Draws something through an affine matrix, if there is one.
    pub(crate) fn turned(&mut self, matrix: Option<[f64; 6]>, draw: impl FnOnce(&mut Canvas)) {
        let Some(matrix) = matrix else { return draw(self) };
        let numbers = matrix.map(|n| ((n * 1e6).round() / 1e6).to_string()).join(" ");
        let _ = writeln!(self.out, "<g transform=\"matrix({numbers})\">");
        draw(self);
        self.out.push_str("</g>\n");
    }

    pub(crate) fn finish(mut self) -> Picture {
        self.out.push_str("</svg>\n");
        Picture { svg: self.out }
    }

    pub(crate) fn fill(&mut self, a: Area, fill: &str, radius: f64) {
        let _ = writeln!(
            self.out,
            "<rect x=\"{}\" y=\"{}\" width=\"{}\" height=\"{}\" rx=\"{radius}\" fill=\"{fill}\"/>",
            r(a.x),
            r(a.y),
            r(a.width),
            r(a.height)
        );
    }

    pub(crate) fn boxed(&mut self, a: Area, fill: &str, stroke: Stroke, radius: f64) {
        let _ = writeln!(
            self.out,
            "<rect x=\"{}\" y=\"{}\" width=\"{}\" height=\"{}\" rx=\"{radius}\" fill=\"{fill}\" \
             stroke=\"{}\" stroke-width=\"{}\"{}/>",
            r(a.x),
            r(a.y),
            r(a.width),
            r(a.height),
            stroke.colour,
            stroke.width,
            dash(stroke)
        );
    }

    pub(crate) fn line(&mut self, points: &[(f64, f64)], stroke: Stroke) {
        let points: Vec<String> = points.iter().map(|(x, y)| format!("{},{}", r(*x), r(*y))).collect();
        let _ = writeln!(
            self.out,
            "<polyline points=\"{}\" fill=\"none\" stroke=\"{}\" stroke-width=\"{}\"{}/>",
            points.join(" "),
            stroke.colour,
            stroke.width,
            dash(stroke)
        );
    }

    /// Fills what lies between points.
    pub(crate) fn shape(&mut self, points: &[(f64, f64)], fill: &str) {
        let points: Vec<String> = points.iter().map(|(x, y)| format!("{},{}", r(*x), r(*y))).collect();
        let _ = writeln!(self.out, "<polygon points=\"{}\" fill=\"{fill}\"/>", points.join(" "));
    }

    pub(crate) fn dot(&mut self, x: f64, y: f64, radius: f64, fill: &str) {
        let _ =
            writeln!(self.out, "<circle cx=\"{}\" cy=\"{}\" r=\"{radius}\" fill=\"{fill}\"/>", r(x), r(y));
    }

    pub(crate) fn words(&mut self, x: f64, y: f64, words: &str, ink: Ink, anchor: TextAnchor) {
        let anchor = match anchor {
            TextAnchor::Start => "",
            TextAnchor::Middle => " text-anchor=\"middle\"",
            TextAnchor::End => " text-anchor=\"end\"",
        };
        let bold = if ink.bold { " font-weight=\"bold\"" } else { "" };
        let _ = writeln!(
            self.out,
            "<text x=\"{}\" y=\"{}\" font-size=\"{}\" fill=\"{}\"{bold}{anchor}>{}</text>",
            r(x),
            r(y),
            r(ink.size),
            ink.colour,
            escaped(words)
        );
    }

    /// Everything drawn until [`Self::end_clip`] shows within the area only.
    pub(crate) fn clip(&mut self, a: Area, radius: f64) {
        self.clips += 1;
        let id = format!("{}clip{}", self.prefix, self.clips);
        let _ = writeln!(
            self.out,
            "<clipPath id=\"{id}\"><rect x=\"{}\" y=\"{}\" width=\"{}\" height=\"{}\" \
             rx=\"{radius}\"/></clipPath><g clip-path=\"url(#{id})\">",
            r(a.x),
            r(a.y),
            r(a.width),
            r(a.height)
        );
    }

    pub(crate) fn end_clip(&mut self) {
        self.out.push_str("</g>\n");
    }

    /// The title at the top of a picture, and a line under it.
    pub(crate) fn title(&mut self, title: &str, under: &str) {
        self.words(32.0, 40.0, title, Ink::new(21.0, INK).bold(), TextAnchor::Start);
        self.words(32.0, 61.0, under, Ink::new(12.5, crate::palette::SOFT_INK), TextAnchor::Start);
    }
}

fn dash(stroke: Stroke) -> String {
    if stroke.dash.is_empty() { String::new() } else { format!(" stroke-dasharray=\"{}\"", stroke.dash) }
}

/// A number of pixels with two decimals at most.
fn r(value: f64) -> f64 {
    let rounded = (value * 100.0).round() / 100.0;
    if rounded == 0.0 { 0.0 } else { rounded }
}

/// Words as SVG text; characters that XML does not allow become blanks.
pub(crate) fn escaped(words: &str) -> String {
    let mut out = String::with_capacity(words.len());
    for c in words.chars() {
        match c {
            '<' => out.push_str("&lt;"),
            '>' => out.push_str("&gt;"),
            '&' => out.push_str("&amp;"),
            '"' => out.push_str("&quot;"),
            c if c.is_control() || matches!(c, '\u{fffe}' | '\u{ffff}') => out.push(' '),
            c => out.push(c),
        }
    }
    out
}

/// A length in millionths: what differs by rounding only is the same, so that pictures do not
/// change with the last bits of a placement.
pub(crate) fn steady(length: f64) -> i64 {
    (length * 1e6).round() as i64
}
