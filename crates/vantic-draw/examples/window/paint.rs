//! Paints views as boxes, and texts in them, into an image of the window's size.

use crate::letters::{LINE, Letters};
use tiny_skia::{Color, Paint, Pixmap, PremultipliedColorU8, Transform};
use vantic::geometry::Frame;
use vantic::model::{Screen, ViewId};
use vantic::plan::LiveFrames;

/// The image, kept while the window keeps its size.
#[derive(Default)]
pub(crate) struct Painter {
    image: Option<Pixmap>,
}

/// A view is the deeper in colour the deeper it is nested.
const FILLS: [[u8; 3]; 4] = [[233, 241, 240], [214, 230, 229], [195, 218, 217], [176, 206, 205]];
const PAPER: [u8; 3] = [255, 255, 255];
const INK: [u8; 3] = [34, 51, 59];

fn colour([r, g, b]: [u8; 3]) -> Color {
    Color::from_rgba8(r, g, b, 255)
}

impl Painter {
    /// Paints the frames, `density` pixels to a logical pixel.
    pub(crate) fn paint(
        &mut self,
        screen: &Screen,
        frames: LiveFrames,
        letters: &Letters,
        size: (u32, u32),
        density: f64,
    ) {
        if self.image.as_ref().is_none_or(|image| (image.width(), image.height()) != size) {
            self.image = Pixmap::new(size.0, size.1);
        }
        let Some(image) = &mut self.image else { return };
        image.fill(colour(PAPER));
        // Parents come before their children, and what is declared later is on top.
        for (view, about) in screen.views().filter(|(view, _)| frames.is_painted(*view)) {
            let (Some(frame), look) = (frames.frame(view), frames.look(view)) else { continue };
            if let (Some(text), Some(font)) = (about.text(), look.font) {
                let line = look.line.unwrap_or(LINE * font);
                let mut top = frame.top;
                letters.each_line(&text.words, font, frame.width, |words, _| {
                    let foot = (top + letters.ascent(font, line)) * density;
                    let at = (frame.left * density, foot);
                    letters.paint(words, font * density, at, |x, y, covered| blend(image, x, y, covered));
                    top += line;
                });
            } else {
                boxed(image, &frame.in_pixels(density), depth(screen, view));
            }
        }
    }

    /// Hands the image to the window, a number for each pixel.
    pub(crate) fn copy_to(&self, buffer: &mut [u32]) {
        let Some(image) = &self.image else { return };
        for (to, from) in std::iter::zip(buffer, image.pixels()) {
            *to = u32::from(from.red()) << 16 | u32::from(from.green()) << 8 | u32::from(from.blue());
        }
    }
}

fn depth(screen: &Screen, view: ViewId) -> usize {
    let parent = |v: ViewId| screen.view(v).and_then(|v| v.parent());
    std::iter::successors(parent(view), |&v| parent(v)).count()
}

/// A box in whole pixels, with an edge so that boxes of one colour can be told apart.
fn boxed(image: &mut Pixmap, frame: &Frame, depth: usize) {
    let fill = FILLS[depth.min(FILLS.len() - 1)];
    for (inset, rgb) in [(0.0, fill.map(|c| c - 30)), (1.0, fill)] {
        let (width, height) = (frame.width - 2.0 * inset, frame.height - 2.0 * inset);
        let at = [frame.left + inset, frame.top + inset, width.max(0.0), height.max(0.0)].map(|n| n as f32);
        let Some(rect) = tiny_skia::Rect::from_xywh(at[0], at[1], at[2], at[3]) else { continue };
        let mut paint = Paint::default();
        paint.set_color(colour(rgb));
        paint.anti_alias = false;
        image.fill_rect(rect, &paint, Transform::identity(), None);
    }
}

/// Ink over what is there, as much of it as is covered.
fn blend(image: &mut Pixmap, x: i64, y: i64, covered: f32) {
    let (width, height) = (i64::from(image.width()), i64::from(image.height()));
    if !(0..width).contains(&x) || !(0..height).contains(&y) {
        return;
    }
    let pixel = &mut image.pixels_mut()[(y * width + x) as usize];
    let mix = |under: u8, ink: u8| {
        let share = covered.clamp(0.0, 1.0);
        (f32::from(under) * (1.0 - share) + f32::from(ink) * share).round() as u8
    };
    let [r, g, b] = [mix(pixel.red(), INK[0]), mix(pixel.green(), INK[1]), mix(pixel.blue(), INK[2])];
    if let Some(mixed) = PremultipliedColorU8::from_rgba(r, g, b, 255) {
        *pixel = mixed;
    }
}
