//! Several displays side by side. Larger ones are drawn larger, but less so than they are, so that
//! the small ones stay legible.

use crate::canvas::{Area, Canvas, Ink, Picture, TextAnchor};
use crate::drawing::{Drawing, here, verdict, worst_of};
use crate::palette::{INK, SOFT_INK};
use crate::text::FontText;
use crate::{HEIGHT, WIDTH};
use vantic::check::Report;
use vantic::finding::{Finding, Severity};
use vantic::model::Screen;
use vantic::plan::Placement;
use vantic::words::number;

/// The most displays of one sheet; further ones are counted.
pub const MAX_SHEET_DISPLAYS: usize = 40;

/// How far the drawn sizes are made alike: 0 is one scale for all, 1 draws all equally large.
const LEVELLING: f64 = 0.8;
const MARGIN: f64 = 32.0;
const GAP: f64 = 26.0;
const CAPTION: f64 = 34.0;
const TOP: f64 = 84.0;

/// Draws every display of a report on one sheet.
///
/// ```
/// use vantic::prelude::*;
/// use vantic_draw::{FontText, draw_sheet};
///
/// let source = vantic::read("screen quay { text sign \"Quay 4\" { font 24; center = safe.center } }")?;
/// let plan = Plan::new(source.screen)?;
/// let fonts = FontText::new();
/// let displays = [Display::new(390.0, 844.0)?, Display::new(844.0, 390.0)?];
/// let report = vantic::check(&plan, &displays, &fonts)?;
/// let sheet = draw_sheet(plan.screen(), &report, &fonts);
/// assert!(sheet.svg().contains("2 clean"));
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
pub fn draw_sheet(screen: &Screen, report: &Report, fonts: &FontText) -> Picture {
    let shown = &report.placements[..report.placements.len().min(MAX_SHEET_DISPLAYS)];
    let is_clean = |display: &usize| here(report, *display).iter().all(|f| f.severity == Severity::Note);
    let clean = (0..report.placements.len()).filter(is_clean).count();
    let mut under = format!("{} displays, each at its own scale · {clean} clean", report.placements.len());
    if shown.len() < report.placements.len() {
        under += &format!(" · the first {MAX_SHEET_DISPLAYS} are shown");
    }
    let Arranged { scales, places, bottom } = Arranged::of(&shown.iter().collect::<Vec<_>>());
    let mut canvas = Canvas::new(WIDTH, (bottom + 24.0).ceil());
    canvas.title(screen.name(), &under);
    let open: Vec<_> = report.open().collect();
    verdict(&mut canvas, WIDTH - MARGIN, 40.0, 15.0, &open);

    for (i, (placement, (x, y))) in shown.iter().zip(places).enumerate() {
        let display = &placement.display;
        let findings = here(report, i);
        let (glass, below) =
            one(&mut canvas, (screen, placement), fonts, (scales[i], x, y), display.name(), &findings);
        let room = glass.width.max(MIN_CELL);
        let mut size = format!("{} × {}", number(display.width()), number(display.height()));
        if placement.scaled.is_some() {
            size += &format!(", drawn × {}", number(placement.scale()));
        }
        canvas.words(x, below + 13.0, &size, Ink::new(9.5, SOFT_INK), TextAnchor::Start);
        verdict(&mut canvas, x + room, below + 13.0, 9.5, &findings);
    }
    canvas.finish().with_placements(screen, &shown.iter().collect::<Vec<_>>())
}

/// Draws placements beside one another, each with a caption.
///
/// ```
/// use vantic::prelude::*;
/// use vantic_draw::{FontText, draw_beside};
///
/// let plan = Plan::new(vantic::read("screen quay { view a { pin start, top to safe; size = 80 } }")?.screen)?;
/// let fonts = FontText::new();
/// let on = |width| plan.place(&Display::new(width, 600.0).unwrap(), &fonts);
/// let picture = draw_beside(plan.screen(), &[(&on(390.0)?, "drawn"), (&on(820.0)?, "then")], "two widths", &fonts);
/// assert!(picture.svg().contains("two widths"));
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
pub fn draw_beside(screen: &Screen, shown: &[(&Placement, &str)], under: &str, fonts: &FontText) -> Picture {
    let shown = &shown[..shown.len().min(MAX_SHEET_DISPLAYS)];
    let placements: Vec<&Placement> = shown.iter().map(|(placement, _)| *placement).collect();
    let Arranged { scales, places, bottom } = Arranged::of(&placements);
    let mut canvas = Canvas::new(WIDTH, (bottom + 24.0).ceil());
    canvas.title(screen.name(), under);
    for ((&(placement, caption), scale), (x, y)) in shown.iter().zip(scales).zip(places) {
        let (_, below) = one(&mut canvas, (screen, placement), fonts, (scale, x, y), caption, &[]);
        let display = &placement.display;
        let size = format!("{} × {}", number(display.width()), number(display.height()));
        canvas.words(x, below + 13.0, &size, Ink::new(9.5, SOFT_INK), TextAnchor::Start);
    }
    canvas.finish().with_placements(screen, &placements)
}

/// One display with its name below it: where it is, and where the line with the name is.
fn one(
    canvas: &mut Canvas,
    (screen, placement): (&Screen, &Placement),
    fonts: &FontText,
    (scale, x, y): (f64, f64, f64),
    name: &str,
    findings: &[&Finding],
) -> (Area, f64) {
    let (width, height) = (placement.canvas().width() * scale, placement.canvas().height() * scale);
    let glass = Area { x, y, width, height };
    let drawing = Drawing { screen, placement, findings, fonts, scale, glass, worst: worst_of(findings) };
    drawing.boxes(canvas, false);
    drawing.words(canvas, false);
    drawing.names(canvas);
    let name = crate::callouts::shortened(fonts, name, 10.5, width.max(MIN_CELL));
    let below = glass.bottom() + 15.0;
    canvas.words(x, below, &name, Ink::new(10.5, INK), TextAnchor::Start);
    (glass, below)
}

/// Displays in rows: the scale of each, where each goes, and where the last row ends.
struct Arranged {
    scales: Vec<f64>,
    places: Vec<(f64, f64)>,
    bottom: f64,
}

impl Arranged {
    fn of(shown: &[&Placement]) -> Self {
        let levelled = |p: &&Placement| p.canvas().width().hypot(p.canvas().height()).powf(-LEVELLING);
        let own: Vec<f64> = shown.iter().map(levelled).collect();
        let size = |(p, s): (&&Placement, &f64)| (p.canvas().width() * s, p.canvas().height() * s);
        let sizes: Vec<(f64, f64)> = shown.iter().zip(&own).map(size).collect();
        let (scale, places, bottom) = arrange(&sizes);
        Self { scales: own.iter().map(|own| own * scale).collect(), places, bottom }
    }
}

/// The least width of a display's place, so that its caption fits.
const MIN_CELL: f64 = 132.0;

/// The largest scale at which all displays fit in rows, where each goes, and where the last row ends.
fn arrange(sizes: &[(f64, f64)]) -> (f64, Vec<(f64, f64)>, f64) {
    let mut scale = 400.0;
    loop {
        let (places, bottom) = rows(sizes, scale);
        let widest = sizes.iter().map(|s| s.0 * scale).fold(0.0, f64::max);
        let fits = bottom <= HEIGHT - 24.0 && widest <= WIDTH - 2.0 * MARGIN;
        if fits || scale < 1e-4 {
            return (scale, places, bottom);
        }
        scale *= 0.985;
    }
}

fn rows(sizes: &[(f64, f64)], scale: f64) -> (Vec<(f64, f64)>, f64) {
    let mut places: Vec<(f64, f64)> = Vec::new();
    let (mut x, mut y, mut row, mut first) = (MARGIN, TOP, 0.0_f64, 0);
    for &(width, height) in sizes {
        let (cell, height) = ((width * scale).max(MIN_CELL), height * scale);
        if x > MARGIN && x + cell > WIDTH - MARGIN {
            (x, y, row, first) = (MARGIN, y + row + CAPTION + GAP, 0.0, places.len());
        }
        places.push((x, y));
        // The displays of a row stand on one line.
        if height > row {
            for (i, place) in places.iter_mut().enumerate().skip(first) {
                place.1 = y + height - sizes[i].1 * scale;
            }
            row = height;
        } else if let Some(place) = places.last_mut() {
            place.1 = y + row - height;
        }
        x += cell + GAP;
    }
    (places, y + row + CAPTION)
}
