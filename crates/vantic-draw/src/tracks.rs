//! A range of displays as a picture: a track for each view, with what begins and ends on it; and a rectangle
//! of widths and heights as a map of where something is wrong.

use crate::callouts::shortened;
use crate::canvas::{Area, Canvas, Ink, Pattern, Picture, Stroke, TextAnchor};
use crate::palette::{EDGE, ERROR, FAINT, GLASS, GOOD, INK, MEASURE, SOFT_INK, WARNING, fill};
use crate::text::FontText;
use crate::{HEIGHT, WIDTH};
use vantic::display::DisplayQuantity;
use vantic::finding::Severity;
use vantic::geometry::{Frame, within};
use vantic::model::{Screen, ViewId};
use vantic::plan::Placement;
use vantic::sweep::{Event, EventKind, ProblemSpan, Proof, Range, Sweep};
use vantic::words::number;

/// The most views that get a track; further ones are counted.
pub const MAX_TRACKS: usize = 36;

const LEFT: f64 = 220.0;
const RIGHT: f64 = WIDTH - 40.0;
const TOP: f64 = 116.0;

/// Where an amount of a range lies in the picture.
fn across(range: &Range, at: f64) -> f64 {
    LEFT + (RIGHT - LEFT) * (at - range.from) / (range.to - range.from)
}

/// Numbers at even distances, about as many as there is space for.
fn ticks(from: f64, to: f64, count: f64) -> Vec<f64> {
    let rough = (to - from) / count;
    let power = 10_f64.powf(rough.log10().floor());
    let step = [1.0, 2.0, 5.0, 10.0].map(|s| s * power).into_iter().find(|s| *s >= rough).unwrap_or(rough);
    let first = (from / step).ceil() as i64;
    let last = (to / step).floor() as i64;
    (first..=last).map(|i| i as f64 * step).collect()
}

fn colour(severity: Severity) -> &'static str {
    match severity {
        Severity::Error => ERROR,
        Severity::Warning | Severity::Note => WARNING,
    }
}

/// Draws a range: for each view how large it is along it, where something is wrong with it, and what changes.
///
/// ```
/// use vantic::display::DisplayQuantity;
/// use vantic::prelude::*;
/// use vantic::sweep::{Range, sweep};
/// use vantic_draw::draw_tracks;
///
/// let source = vantic::read("screen quay { view a { left = 0; top = 0; width = 400; height = 20 } }")?;
/// let plan = Plan::new(source.screen)?;
/// let display = Display::new(390.0, 844.0)?;
/// let range = Range { along: DisplayQuantity::Width, from: 320.0, to: 480.0, gap: 0.0 };
/// let picture = draw_tracks(plan.screen(), &sweep(&plan, &display, range, &PlainText)?);
/// assert!(picture.svg().contains(">a<") && picture.svg().contains("width"));
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
pub fn draw_tracks(screen: &Screen, sweep: &Sweep) -> Picture {
    let fonts = FontText::new();
    let range = &sweep.range;
    let painted = |p: &Placement, view| p.is_painted(view) && p.frame(view).is_some();
    let views: Vec<ViewId> = screen
        .views()
        .map(|(view, _)| view)
        .filter(|&view| sweep.placements.iter().any(|(_, p)| painted(p, view)))
        .collect();
    // Those that something happens to come first where there are more than there is space for.
    let happens = |view: &ViewId| {
        let path = screen.path(*view);
        let is_shown = |e: &Event| e.kind != EventKind::Limit && e.views.contains(&path);
        sweep.events.iter().any(is_shown) || sweep.problems.iter().any(|t| t.views.contains(&path))
    };
    let mut shown: Vec<ViewId> = views.iter().copied().filter(happens).collect();
    shown.extend(views.iter().copied().filter(|view| !happens(view)));
    shown.truncate(MAX_TRACKS);
    shown.sort();
    let lane = within((HEIGHT - TOP - 96.0) / shown.len().max(1) as f64, 15.0, 30.0);
    let bottom = TOP + lane * shown.len() as f64;
    let mut canvas = Canvas::new(WIDTH, (bottom + 92.0).max(260.0).ceil());
    let under = format!(
        "{} from {} to {} · {}{}",
        range.along.name(),
        number(range.from),
        number(range.to),
        match sweep.proof {
            Proof::Exact => "every border met, proven in between",
            Proof::Searched => "every border met",
            Proof::Sampled => "sampled, borders found by halving",
        },
        match views.len().checked_sub(shown.len()).filter(|left| *left > 0) {
            Some(left) => format!(" · {left} views more"),
            None => String::new(),
        }
    );
    canvas.title(screen.name(), &under);
    verdict(&mut canvas, sweep);

    for at in ticks(range.from, range.to, 13.0) {
        let x = across(range, at);
        canvas.line(&[(x, TOP - 4.0), (x, bottom + 4.0)], Stroke::solid(FAINT, 0.6));
        canvas.words(x, bottom + 18.0, &number(at), Ink::new(10.5, SOFT_INK), TextAnchor::Middle);
    }
    for (index, &view) in shown.iter().enumerate() {
        let area = Area { x: LEFT, y: TOP + lane * index as f64, width: RIGHT - LEFT, height: lane };
        track(&mut canvas, &fonts, screen, sweep, view, area);
    }
    bands(&mut canvas, &fonts, sweep, bottom);
    legend(&mut canvas, bottom + 50.0);
    canvas.finish()
}

fn verdict(canvas: &mut Canvas, sweep: &Sweep) {
    let count = |severity| sweep.problems.iter().filter(|t| t.severity == severity).count();
    let (errors, warnings) = (count(Severity::Error), count(Severity::Warning));
    let (said, ink) = match (errors, warnings) {
        (0, 0) => ("nothing is wrong in it".to_owned(), GOOD),
        (0, w) => (format!("{w} to look at"), WARNING),
        (e, w) => (format!("{e} wrong, {w} to look at"), ERROR),
    };
    canvas.words(WIDTH - 32.0, 40.0, &said, Ink::new(15.0, ink).bold(), TextAnchor::End);
}

/// One view: its size as a band that is as high as it is large, what is wrong hatched over it, and marks
/// where something begins or ends.
fn track(canvas: &mut Canvas, fonts: &FontText, screen: &Screen, sweep: &Sweep, view: ViewId, area: Area) {
    let range = &sweep.range;
    let path = screen.path(view);
    let name = shortened(fonts, &path, 10.5, LEFT - 44.0);
    let middle = area.y + area.height / 2.0;
    canvas.words(LEFT - 10.0, middle + 3.5, &name, Ink::new(10.5, INK), TextAnchor::End);
    canvas.line(&[(area.x, area.bottom()), (area.right(), area.bottom())], Stroke::solid(FAINT, 0.5));
    let size = |f: &Frame| if range.along == DisplayQuantity::Height { f.height } else { f.width };
    let there = |p: &Placement| p.frame(view).filter(|_| p.is_painted(view));
    let largest =
        sweep.placements.iter().filter_map(|(_, p)| there(p)).map(|f| size(&f)).fold(1e-9, f64::max);
    let room = area.height - 5.0;
    // Both ends of each stretch: in between it is a straight line.
    for two in sweep.placements.chunks(2) {
        let [(from, a), (to, b)] = two else { continue };
        let (Some(a), Some(b)) = (there(a), there(b)) else { continue };
        let (x0, x1) = (across(range, *from), across(range, *to));
        let up = |f: &Frame| area.bottom() - 1.0 - room * size(f) / largest;
        let points = [(x0, area.bottom() - 1.0), (x0, up(&a)), (x1, up(&b)), (x1, area.bottom() - 1.0)];
        canvas.shape(&points, fill(2));
        canvas.line(&points[1..3], Stroke::solid(EDGE, 1.0));
    }
    for trouble in sweep.problems.iter().filter(|t| t.views.contains(&path)) {
        let (x0, x1) = (across(range, trouble.from), across(range, trouble.to));
        let bar = Area { x: x0, y: area.y + 2.0, width: (x1 - x0).max(1.5), height: area.height - 4.0 };
        canvas.hatch(bar, Pattern::Clash);
        // Told apart without colours: what is only to be looked at has a broken line around it.
        let line = match trouble.severity {
            Severity::Error => Stroke::solid(ERROR, 1.4),
            _ => Stroke::dashed(WARNING, 1.2, "3 2"),
        };
        canvas.boxed(bar, "none", line, 0.0);
    }
    for event in sweep.events.iter().filter(|e| e.views.contains(&path)) {
        let x = across(range, event.at);
        match event.kind {
            EventKind::Lines => mark(canvas, x, middle, "L", EDGE),
            EventKind::Arranged => mark(canvas, x, middle, "A", EDGE),
            EventKind::Appears => mark(canvas, x, middle, "+", EDGE),
            EventKind::GivesWay => mark(canvas, x, middle, "~", MEASURE),
            EventKind::Limit => {
                canvas.line(&[(x, middle - 4.0), (x, middle + 4.0)], Stroke::solid(MEASURE, 1.2))
            }
            EventKind::Band | EventKind::Breaks | EventKind::Resolved => {}
        }
    }
}

fn mark(canvas: &mut Canvas, x: f64, y: f64, letter: &str, ink: &'static str) {
    canvas.dot(x, y, 6.0, GLASS);
    canvas.boxed(
        Area { x: x - 6.0, y: y - 6.0, width: 12.0, height: 12.0 },
        GLASS,
        Stroke::solid(ink, 1.0),
        6.0,
    );
    canvas.words(x, y + 3.4, letter, Ink::new(9.5, ink).bold(), TextAnchor::Middle);
}

/// Where bands begin and end, with their names above.
fn bands(canvas: &mut Canvas, fonts: &FontText, sweep: &Sweep, bottom: f64) {
    let mut last = [f64::NEG_INFINITY; 2];
    for event in sweep.events.iter().filter(|e| e.kind == EventKind::Band) {
        let x = across(&sweep.range, event.at);
        canvas.line(&[(x, TOP - 6.0), (x, bottom + 4.0)], Stroke::dashed(MEASURE, 1.3, "5 3"));
        let said = format!("{} at {}", event.text.replace('`', ""), number(event.at));
        let width = fonts.lines(&said, 10.5, None, None).iter().map(|l| l.width).fold(0.0, f64::max);
        // Two rows, so that neighbours do not lie over one another.
        let row = usize::from(x - width / 2.0 < last[0] + 8.0);
        let x = within(x, LEFT + width / 2.0, RIGHT - width / 2.0);
        canvas.words(x, TOP - 12.0 - 15.0 * row as f64, &said, Ink::new(10.5, MEASURE), TextAnchor::Middle);
        last[row] = x + width / 2.0;
    }
}

fn legend(canvas: &mut Canvas, y: f64) {
    let mut x = 32.0;
    let mut key = |canvas: &mut Canvas, said: &str, room: f64| {
        canvas.words(x + 14.0, y + 3.5, said, Ink::new(10.5, SOFT_INK), TextAnchor::Start);
        x += room;
        x
    };
    let shape = [(26.0, y + 5.0), (26.0, y + 1.0), (42.0, y - 5.0), (42.0, y + 5.0)];
    canvas.shape(&shape, fill(2));
    let mut at = key(canvas, "its size, as high as it is large", 210.0);
    let bar = Area { x: at - 6.0, y: y - 6.0, width: 16.0, height: 12.0 };
    canvas.hatch(bar, Pattern::Clash);
    canvas.boxed(bar, "none", Stroke::solid(ERROR, 1.2), 0.0);
    at = key(canvas, "wrong", 62.0);
    let bar = Area { x: at - 6.0, y: y - 6.0, width: 16.0, height: 12.0 };
    canvas.hatch(bar, Pattern::Clash);
    canvas.boxed(bar, "none", Stroke::dashed(WARNING, 1.2, "3 2"), 0.0);
    at = key(canvas, "to look at", 84.0);
    for (letter, said, room) in [
        ("L", "other lines", 100.0),
        ("A", "arranged otherwise", 142.0),
        ("+", "appears or goes", 122.0),
        ("~", "a preference gives way or holds again", 240.0),
    ] {
        mark(canvas, at + 4.0, y, letter, if letter == "~" { MEASURE } else { EDGE });
        at = key(canvas, said, room);
    }
    canvas.line(&[(at + 4.0, y - 5.0), (at + 4.0, y + 5.0)], Stroke::solid(MEASURE, 1.2));
    key(canvas, "a limit begins or ends", 0.0);
}

/// Draws a rectangle of widths and heights: where something is wrong, and what.
///
/// ```
/// use vantic::prelude::*;
/// use vantic::sweep::{GridRange, sweep_grid};
/// use vantic_draw::draw_map;
///
/// let source = vantic::read("screen quay { view a { left = 0; top = 0; width = 400; height = 20 } }")?;
/// let plan = Plan::new(source.screen)?;
/// let display = Display::new(390.0, 844.0)?;
/// let range = GridRange { widths: (320.0, 480.0), heights: (400.0, 800.0), lines: 9, gap: 0.0 };
/// let rows = sweep_grid(&plan, &display, range, &PlainText)?;
/// let picture = draw_map(plan.screen(), range.widths, range.heights, &rows);
/// assert!(picture.png()?.starts_with(b"\x89PNG"));
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
pub fn draw_map(screen: &Screen, widths: (f64, f64), heights: (f64, f64), rows: &[(f64, Sweep)]) -> Picture {
    let mut canvas = Canvas::new(WIDTH, HEIGHT);
    let under = format!(
        "widths {} to {} across, heights {} to {} down · {} heights looked at",
        number(widths.0),
        number(widths.1),
        number(heights.0),
        number(heights.1),
        rows.len()
    );
    canvas.title(screen.name(), &under);
    let area = Area { x: 84.0, y: 92.0, width: 780.0, height: HEIGHT - 92.0 - 56.0 };
    canvas.boxed(area, "#dfeee4", Stroke::solid(GOOD, 1.0), 0.0);
    let map = Map { area, widths, heights };
    let kinds = map.problems(&mut canvas, rows);
    map.axes(&mut canvas);
    map.legend(&mut canvas, &kinds);
    canvas.finish()
}

/// What is wrong in several strips of a map, where it is worst, and the strips.
type KindOfProblem<'a> = (&'a ProblemSpan, Vec<Area>);

/// Where widths and heights are in the picture.
struct Map {
    area: Area,
    widths: (f64, f64),
    heights: (f64, f64),
}

impl Map {
    fn x_of(&self, width: f64) -> f64 {
        let (left, right) = self.widths;
        self.area.x + self.area.width * (width - left) / (right - left)
    }

    fn y_of(&self, height: f64) -> f64 {
        let (top, bottom) = self.heights;
        self.area.y + self.area.height * (height - top) / (bottom - top)
    }

    /// Draws a strip for each problem of each row; the kinds of them, what takes the most room first.
    fn problems<'a>(&self, canvas: &mut Canvas, rows: &'a [(f64, Sweep)]) -> Vec<KindOfProblem<'a>> {
        let step = self.area.height / rows.len().saturating_sub(1).max(1) as f64;
        let mut kinds: Vec<KindOfProblem<'a>> = Vec::new();
        for (height, swept) in rows {
            for problem in &swept.problems {
                let high = (self.y_of(*height) - step / 2.0).max(self.area.y);
                let low = (self.y_of(*height) + step / 2.0).min(self.area.bottom());
                let (x0, x1) = (self.x_of(problem.from), self.x_of(problem.to));
                let strip = Area { x: x0, y: high, width: (x1 - x0).max(0.8), height: low - high };
                match problem.severity {
                    Severity::Error => canvas.fill(strip, "#e2b0a6", 0.0),
                    _ => canvas.hatch(strip, Pattern::Clash),
                }
                match kinds.iter_mut().find(|(of, _)| of.code == problem.code && of.views == problem.views) {
                    Some((of, strips)) => {
                        strips.push(strip);
                        if problem.amount > of.amount {
                            *of = problem;
                        }
                    }
                    None => kinds.push((problem, vec![strip])),
                }
            }
        }
        let room = |strips: &[Area]| strips.iter().map(|s| s.width * s.height).sum::<f64>();
        kinds.sort_by(|a, b| room(&b.1).total_cmp(&room(&a.1)));
        kinds
    }

    fn axes(&self, canvas: &mut Canvas) {
        let area = self.area;
        let (mark, ink) = (Stroke::solid(SOFT_INK, 1.0), Ink::new(10.5, SOFT_INK));
        for at in ticks(self.widths.0, self.widths.1, 9.0) {
            let x = self.x_of(at);
            canvas.line(&[(x, area.bottom()), (x, area.bottom() + 5.0)], mark);
            canvas.words(x, area.bottom() + 19.0, &number(at), ink, TextAnchor::Middle);
        }
        for at in ticks(self.heights.0, self.heights.1, 9.0) {
            let y = self.y_of(at);
            canvas.line(&[(area.x - 5.0, y), (area.x, y)], mark);
            canvas.words(area.x - 9.0, y + 3.5, &number(at), ink, TextAnchor::End);
        }
        canvas.words(area.x, HEIGHT - 14.0, "width", Ink::new(11.0, INK), TextAnchor::Start);
        canvas.words(32.0, area.y - 8.0, "height", Ink::new(11.0, INK), TextAnchor::Start);
    }

    /// The kinds of problems beside the map, each with a number that stands in one of its strips.
    fn legend(&self, canvas: &mut Canvas, kinds: &[KindOfProblem<'_>]) {
        let fonts = FontText::new();
        let column = self.area.right() + 34.0;
        if kinds.is_empty() {
            let ink = Ink::new(13.0, GOOD).bold();
            canvas.words(column, self.area.y + 14.0, "nothing is wrong in it", ink, TextAnchor::Start);
        }
        let mut y = self.area.y + 10.0;
        let shown = kinds.len().min(MAX_KINDS);
        for (index, (problem, strips)) in kinds.iter().take(MAX_KINDS).enumerate() {
            let ink = colour(problem.severity);
            // Each in a line of its own, where it ends.
            let strip = &strips[strips.len() * (2 * index + 1) / (2 * shown)];
            canvas.numbered(strip.right(), f64::midpoint(strip.y, strip.bottom()), 8.0, index + 1, ink);
            canvas.numbered(column, y, 8.0, index + 1, ink);
            let title = format!("{} {}", problem.severity.name(), problem.code.name());
            canvas.words(column + 16.0, y + 4.0, &title, Ink::new(11.5, ink).bold(), TextAnchor::Start);
            y += 18.0;
            let said = problem.message.replace('`', "");
            for line in fonts.lines(&said, 10.5, None, Some(WIDTH - column - 40.0)).iter().take(3) {
                canvas.words(column + 16.0, y + 2.0, &line.words, Ink::new(10.5, INK), TextAnchor::Start);
                y += 14.0;
            }
            y += 12.0;
        }
        if kinds.len() > shown {
            let more = format!("and {} more", kinds.len() - shown);
            canvas.words(column, y, &more, Ink::new(11.0, SOFT_INK), TextAnchor::Start);
        }
    }
}

/// How many kinds of problems a map names.
const MAX_KINDS: usize = 9;
