//! What is drawn of one display: its views, words and guides, and what is wrong with them.

use crate::callouts::Callout;
use crate::canvas::{Area, Canvas, Ink, Pattern, Stroke, TextAnchor, steady};
use crate::palette::{BEZEL, EDGE, ERROR, FAINT, GLASS, GOOD, INK, MEASURE, SAFE, SOFT_INK, WARNING, fill};
use crate::text::{FontText, TextLine};
use std::collections::HashMap;
use vantic::check::Report;
use vantic::display::Insets;
use vantic::finding::{Finding, Severity};
use vantic::geometry::{Direction, Frame, within};
use vantic::model::{Code, Screen, Text, ViewId};
use vantic::plan::{Painting, Placement};
use vantic::words::number;

/// How much of what lies beyond the screen is shown, in pixels of the picture.
pub(crate) const AROUND: f64 = 26.0;

/// The mark that what is beside it is read from right to left (Unicode, U+200F); it has no width.
pub(crate) const RTL_MARK: char = '\u{200F}';

/// The most columns or rows of one guide that are drawn.
pub(crate) const MAX_CELLS_DRAWN: u32 = 200;

/// The open findings on a display, which is given by its index in the report.
pub(crate) fn here(report: &Report, display: usize) -> Vec<&Finding> {
    report.open().filter(|f| f.displays.contains(&display)).collect()
}

/// The sign and colour of a severity; the sign says the same as the colour.
pub(crate) fn mark(severity: Severity) -> (&'static str, &'static str) {
    match severity {
        Severity::Error => ("✕", ERROR),
        Severity::Warning => ("▲", WARNING),
        Severity::Note => ("·", SOFT_INK),
    }
}

/// How many errors and warnings there are, in words with a sign that says the same as the colour; and the
/// worst of them.
pub(crate) fn verdict_words<'a>(findings: impl Iterator<Item = &'a Finding>) -> (String, Option<Severity>) {
    let (mut errors, mut warnings) = (0, 0);
    for finding in findings {
        match finding.severity {
            Severity::Error => errors += 1,
            Severity::Warning => warnings += 1,
            Severity::Note => {}
        }
    }
    let plural = |n: usize, what: &str| format!("{n} {what}{}", if n == 1 { "" } else { "s" });
    match (errors, warnings) {
        (0, 0) => ("✓ clean".to_owned(), None),
        (0, w) => (format!("▲ {}", plural(w, "warning")), Some(Severity::Warning)),
        (e, 0) => (format!("✕ {}", plural(e, "error")), Some(Severity::Error)),
        (e, w) => (format!("✕ {}, {}", plural(e, "error"), plural(w, "warning")), Some(Severity::Error)),
    }
}

/// The same, written to end at a point.
pub(crate) fn verdict(canvas: &mut Canvas, x: f64, y: f64, size: f64, findings: &[&Finding]) {
    let (words, worst) = verdict_words(findings.iter().copied());
    let colour = worst.map_or(GOOD, |severity| mark(severity).1);
    canvas.words(x, y, &words, Ink::new(size, colour).bold(), TextAnchor::End);
}

/// A part of the picture to draw in: its area with round corners, and the views in it.
pub(crate) type Clip = (Area, f64, Vec<(ViewId, Frame)>);

/// A placement as it is drawn at one place of a picture.
pub(crate) struct Drawing<'a> {
    pub(crate) screen: &'a Screen,
    pub(crate) placement: &'a Placement,
    pub(crate) findings: &'a [&'a Finding],
    pub(crate) fonts: &'a FontText,
    pub(crate) scale: f64,
    /// Where the display's glass is in the picture.
    pub(crate) glass: Area,
    /// The worst that is found of each view; notes say nothing of it.
    pub(crate) worst: HashMap<ViewId, &'a Finding>,
}

/// The worst that is found of each view.
pub(crate) fn worst_of<'a>(findings: &[&'a Finding]) -> HashMap<ViewId, &'a Finding> {
    let mut worst: HashMap<ViewId, &Finding> = HashMap::new();
    for finding in findings.iter().filter(|f| f.severity != Severity::Note) {
        for &view in finding.each().flat_map(|f| &f.views) {
            let known = worst.entry(view).or_insert(finding);
            if finding.severity < known.severity {
                *known = finding;
            }
        }
    }
    worst
}

impl Drawing<'_> {
    pub(crate) fn area(&self, frame: &Frame) -> Area {
        Area {
            x: self.glass.x + frame.left * self.scale,
            y: self.glass.y + frame.top * self.scale,
            width: frame.width * self.scale,
            height: frame.height * self.scale,
        }
    }

    /// The views of which something is painted, with their frames, what is on top last.
    pub(crate) fn painted(&self) -> impl Iterator<Item = (ViewId, Frame)> + '_ {
        let order = self.placement.painting_order(self.screen).into_iter();
        let seen = order.filter(|id| self.placement.is_painted(*id) && self.visible(*id).is_some());
        seen.filter_map(|id| self.placement.frame(id).map(|f| (id, f)))
    }

    /// The part of a view's frame that is not clipped.
    fn visible(&self, view: ViewId) -> Option<Frame> {
        self.placement.visible_frame(self.screen, view)
    }

    /// Draws what is seen of a view: as it is painted, where it is not clipped.
    fn seen(&self, canvas: &mut Canvas, view: ViewId, draw: impl FnOnce(&mut Canvas)) {
        let clipped = self.visible(view).filter(|v| self.placement.frame(view) != Some(*v));
        canvas.turned(self.matrix(view), |canvas| match clipped {
            Some(part) => {
                canvas.clip(self.area(&part), 0.0);
                draw(canvas);
                canvas.end_clip();
            }
            None => draw(canvas),
        });
    }

    fn text(&self, view: ViewId) -> Option<&Text> {
        self.screen.view(view).and_then(|v| v.text())
    }

    /// The worst finding about a view.
    fn worst(&self, view: ViewId) -> Option<&Finding> {
        self.worst.get(&view).copied()
    }

    fn depth(&self, view: ViewId) -> usize {
        self.screen.ancestors(view).count()
    }

    fn radius(&self) -> f64 {
        if self.placement.display.is_touch() { within(14.0 * self.scale, 3.0, 14.0) } else { 2.0 }
    }

    /// What is shown of the display: its glass with round corners, and around it, a little way, the
    /// views that reach beyond it.
    fn clips(&self, large: bool) -> [Clip; 2] {
        let around = if large { AROUND } else { 6.0 };
        let shown = Area {
            x: self.glass.x - around,
            y: self.glass.y - around,
            width: self.glass.width + 2.0 * around,
            height: self.glass.height + 2.0 * around,
        };
        let screen = self.placement.screen_frame();
        let within = |f: &Frame| {
            f.left >= -0.01
                && f.top >= -0.01
                && f.right() <= screen.right() + 0.01
                && f.bottom() <= screen.bottom() + 0.01
        };
        let all: Vec<(ViewId, Frame)> = self.painted().collect();
        let is_beyond = |view: &ViewId| self.visible(*view).is_some_and(|f| !within(&f));
        let beyond = all.iter().copied().filter(|(view, _)| is_beyond(view)).collect();
        [(shown, 0.0, beyond), (self.glass, self.radius(), all)]
    }

    /// The display's glass and the boxes of its views.
    pub(crate) fn boxes(&self, canvas: &mut Canvas, large: bool) {
        canvas.fill(self.glass, GLASS, self.radius());
        for (area, radius, views) in self.clips(large) {
            canvas.clip(area, radius);
            for (view, frame) in &views {
                self.seen(canvas, *view, |canvas| self.boxed(canvas, *view, frame, large));
            }
            self.overlaps(canvas);
            canvas.end_clip();
        }
    }

    /// The guides, as thin lines that cover nothing.
    pub(crate) fn guides(&self, canvas: &mut Canvas) {
        let stroke = Stroke::dashed(MEASURE, 0.8, "5 3");
        canvas.clip(self.glass, self.radius());
        for (view, about) in self.screen.views().filter(|(_, v)| v.guide().is_some()) {
            let Some(frame) = self.placement.frame(view) else { continue };
            let cells = (1..=MAX_CELLS_DRAWN).map_while(|number| self.placement.cell(view, number));
            let mut boxes: Vec<Frame> = cells.filter(|cell| cell.width > 0.0 && cell.height > 0.0).collect();
            if boxes.is_empty() {
                boxes.push(frame);
            }
            for frame in boxes {
                let a = self.area(&frame);
                if frame.width == 0.0 || frame.height == 0.0 {
                    canvas.line(&[(a.x, a.y), (a.right(), a.bottom())], stroke);
                } else {
                    canvas.boxed(a, "none", stroke, 0.0);
                }
            }
            let at = self.area(&frame);
            let name = Ink::new(9.5, MEASURE);
            canvas.words(
                at.x + 3.0 + self.radius(),
                at.y.max(self.glass.y) + 10.0,
                about.name(),
                name,
                TextAnchor::Start,
            );
        }
        canvas.end_clip();
    }

    /// The words in the boxes, the insets and the safe area, and the display's edge.
    pub(crate) fn words(&self, canvas: &mut Canvas, large: bool) {
        for (area, radius, views) in self.clips(large) {
            canvas.clip(area, radius);
            let with_words = views.iter().enumerate().filter(|(_, (view, _))| self.text(*view).is_some());
            for (place, (view, frame)) in with_words {
                let on_top = self.raised(*view, &views[place + 1..]);
                self.seen(canvas, *view, |canvas| self.words_of(canvas, *view, frame, &on_top));
            }
            canvas.end_clip();
        }
        let display = self.placement.canvas();
        let insets = display.insets();
        if insets != Insets::default() {
            let safe = self.placement.safe_frame();
            let strip = |left, top, width, height| self.area(&Frame { left, top, width, height });
            canvas.clip(self.glass, self.radius());
            for strip in [
                strip(0.0, 0.0, display.width(), insets.top),
                strip(0.0, safe.bottom(), display.width(), insets.bottom),
                strip(0.0, insets.top, insets.left, safe.height),
                strip(safe.right(), insets.top, insets.right, safe.height),
            ] {
                canvas.hatch(strip, Pattern::Inset);
            }
            canvas.boxed(self.area(&safe), "none", Stroke::dashed(SAFE, 1.0, "5 4"), 0.0);
            canvas.end_clip();
        }
        if display.keyboard() > 0.0 {
            let (top, width) = (display.height() - display.keyboard(), display.width());
            let keys = self.area(&Frame { left: 0.0, top, width, height: display.keyboard() });
            canvas.clip(self.glass, self.radius());
            canvas.hatch(keys, Pattern::Inset);
            canvas.boxed(keys, "none", Stroke::solid(BEZEL, 0.8), 0.0);
            canvas.end_clip();
        }
        canvas.boxed(self.glass, "none", Stroke::solid(BEZEL, if large { 2.0 } else { 1.2 }), self.radius());
        self.lost(canvas, large);
    }

    /// How a view is painted, in pixels of the picture; `None` where it is painted as its frame.
    fn matrix(&self, view: ViewId) -> Option<[f64; 6]> {
        let painting = self.placement.painting(self.screen, view);
        (!painting.is_plain()).then(|| {
            let (scale, x, y) = (self.scale, self.glass.x, self.glass.y);
            let from_picture = Painting([1.0 / scale, 0.0, 0.0, 1.0 / scale, -x / scale, -y / scale]);
            let to_picture = Painting([scale, 0.0, 0.0, scale, x, y]);
            from_picture.then(&painting).then(&to_picture).0
        })
    }

    fn boxed(&self, canvas: &mut Canvas, view: ViewId, frame: &Frame, large: bool) {
        let is_text = self.text(view).is_some();
        let thin = if large { 1.0 } else { 0.6 };
        let holds_others = self.screen.view(view).is_some_and(|v| !v.children().is_empty());
        let tint = |tint| if holds_others { fill(self.depth(view)) } else { tint };
        let (stroke, inside) = match self.worst(view).map(|f| f.severity) {
            Some(Severity::Error) => (Stroke::solid(ERROR, 2.4 * thin), tint("#f6e3df")),
            Some(_) => (Stroke::dashed(WARNING, 2.0 * thin, "6 3"), tint("#f7eed9")),
            None if is_text => (Stroke::dashed(FAINT, 0.6 * thin, "2 2"), "none"),
            None => (Stroke::solid(EDGE, 0.9 * thin), fill(self.depth(view))),
        };
        let area = self.area(frame);
        canvas.boxed(area, inside, stroke, if is_text { 0.0 } else { 2.0 * thin });
        if self.screen.view(view).is_some_and(|v| v.image().is_some()) {
            let across = Stroke::solid(EDGE, 0.5 * thin);
            canvas.line(&[(area.x, area.y), (area.right(), area.bottom())], across);
            canvas.line(&[(area.x, area.bottom()), (area.right(), area.y)], across);
        }
    }

    /// The areas that two views share without leave, hatched.
    fn overlaps(&self, canvas: &mut Canvas) {
        for finding in self.findings.iter().flat_map(|f| f.each()).filter(|f| f.code == Code::Overlap) {
            let mut frames = finding.views.iter().filter_map(|&view| self.placement.frame(view));
            if let (Some(a), Some(b)) = (frames.next(), frames.next())
                && let Some(shared) = a.shared(&b)
            {
                canvas.hatch(self.area(&shared), Pattern::Clash);
            }
        }
    }

    /// Where views that are meant to lie on top of a view, being raised or stuck, are in the picture.
    fn raised(&self, view: ViewId, later: &[(ViewId, Frame)]) -> Vec<Area> {
        let is_raised = |id: ViewId| self.placement.look(id).depth > 0.0 || self.placement.is_stuck(id);
        let on_top = later.iter().filter(|(id, _)| {
            is_raised(*id) && self.text(*id).is_none() && !self.screen.is_within(view, *id)
        });
        on_top.map(|(_, frame)| self.area(frame)).collect()
    }

    fn words_of(&self, canvas: &mut Canvas, view: ViewId, frame: &Frame, on_top: &[Area]) {
        let Some(font) = self.placement.look(view).font else { return };
        let rtl = self.placement.display.direction() == Direction::RightToLeft;
        let anchor = if rtl { TextAnchor::End } else { TextAnchor::Start };
        let area = self.area(frame);
        for line in self.lines(view, frame) {
            let x = if rtl { area.right() } else { area.x };
            let y = area.y + line.baseline * self.scale;
            let middle = Area { x, y: y - font * self.scale * 0.3, width: 0.1, height: 0.1 };
            if on_top.iter().any(|other| other.touches(&middle)) {
                continue;
            }
            let ink = Ink::new(font * self.scale, INK);
            // Marks at both ends, so that a full stop or a question mark stands where the reading direction
            // ends.
            let words = if rtl { format!("{RTL_MARK}{}{RTL_MARK}", line.words) } else { line.words };
            canvas.measured(x, y, &words, ink, anchor, line.width * self.scale);
        }
    }

    /// The lines of a text at the width it has.
    fn lines(&self, view: ViewId, frame: &Frame) -> Vec<TextLine> {
        let look = self.placement.look(view);
        let words = self.screen.words_in(view, self.placement.display.language());
        let (Some(words), Some(font)) = (words, look.font) else { return Vec::new() };
        let unwrapped = self.placement.text_size(view).is_none_or(|t| frame.width >= t.width - 0.01);
        let mut lines = self.fonts.lines(&words, font, look.line, (!unwrapped).then_some(frame.width));
        lines.truncate(look.lines.map_or(usize::MAX, |most| most as usize));
        lines
    }

    /// Where words are in the picture, line by line.
    pub(crate) fn line_areas(&self) -> Vec<Area> {
        let mut areas = Vec::new();
        for (view, frame) in self.painted() {
            let font = self.placement.look(view).font.unwrap_or(0.0);
            for line in self.lines(view, &frame) {
                let top = frame.top + line.baseline - font * 0.8;
                areas.push(self.area(&Frame { left: frame.left, top, width: line.width, height: font }));
            }
        }
        areas
    }

    /// The names of views without words, in their boxes, where they cover nothing.
    pub(crate) fn names(&self, canvas: &mut Canvas) {
        const SIZE: f64 = 8.0;
        // On a small drawing they would be larger than everything else.
        if self.scale < 0.4 {
            return;
        }
        let mut taken = self.line_areas();
        let views: Vec<(ViewId, Area)> = self.painted().map(|(v, f)| (v, self.area(&f))).collect();
        for &(view, area) in &views {
            let Some(about) = self.screen.view(view) else { continue };
            if about.text().is_some() {
                continue;
            }
            let (width, height) = (self.fonts.width(about.name(), SIZE), SIZE * 1.2);
            if area.width < width + 6.0 || area.height < height + 4.0 {
                continue;
            }
            let (right, bottom) = (area.right() - width - 3.0, area.bottom() - height - 2.0);
            let places = [
                (area.x + (area.width - width) / 2.0, area.y + (area.height - height) / 2.0),
                (area.x + 3.0, area.y + 2.0),
                (right, area.y + 2.0),
                (area.x + 3.0, bottom),
                (right, bottom),
            ];
            let others: Vec<Area> = about
                .children()
                .iter()
                .filter_map(|c| views.iter().find(|v| v.0 == *c))
                .map(|v| v.1)
                .collect();
            // A sibling on top of it would hide the name.
            let covered = |label: &Area| {
                let mut later = views.iter().skip_while(|(v, _)| *v != view).skip(1);
                let mut later = later.by_ref().filter(|(v, _)| !about.children().contains(v));
                later.any(|(_, other)| other.touches(label))
            };
            let mut labels = places.into_iter().map(|(x, y)| Area { x, y, width, height });
            let free = labels.find(|l| !taken.iter().chain(&others).any(|t| t.touches(l)) && !covered(l));
            if let Some(label) = free {
                taken.push(label);
                canvas.words(
                    label.x,
                    label.y + SIZE,
                    about.name(),
                    Ink::new(SIZE, SOFT_INK),
                    TextAnchor::Start,
                );
            }
        }
    }

    /// A sign at the display's edge for each view that lies wholly off the screen.
    fn lost(&self, canvas: &mut Canvas, large: bool) {
        let glass = self.placement.screen_frame();
        for (view, frame) in self.painted() {
            let has_area = frame.width > 0.0 && frame.height > 0.0;
            if !has_area || frame.shared(&glass).is_some() || self.worst(view).is_none() {
                continue;
            }
            let (dx, dy) = (
                within(frame.left + frame.width / 2.0, 0.0, glass.width),
                within(frame.top + frame.height / 2.0, 0.0, glass.height),
            );
            let arrow = match () {
                () if frame.top >= glass.bottom() => "▼",
                () if frame.bottom() <= 0.0 => "▲",
                () if frame.left >= glass.right() => "▶",
                () => "◀",
            };
            let (x, y) = (self.glass.x + dx * self.scale, self.glass.y + dy * self.scale);
            let size = if large { 12.0 } else { 8.0 };
            let words = if large {
                format!("{arrow} {} is off the screen", self.screen.path(view))
            } else {
                arrow.into()
            };
            let width = self.fonts.width(&words, size) + 10.0;
            let left = within(x - width / 2.0, self.glass.x, self.glass.right() - width);
            let top = within(y - size, self.glass.y, self.glass.bottom() - size * 1.6);
            canvas.boxed(
                Area { x: left, y: top, width, height: size * 1.6 },
                GLASS,
                Stroke::solid(ERROR, 1.2),
                3.0,
            );
            canvas.words(left + 5.0, top + size * 1.15, &words, Ink::new(size, ERROR), TextAnchor::Start);
        }
    }

    pub(crate) fn callouts(&self) -> Vec<Callout> {
        let glass = self.placement.screen_frame();
        self.painted()
            .map(|(view, frame)| {
                let state = self.worst(view).map(|f| {
                    let (sign, colour) = mark(f.severity);
                    (format!("{sign} {}", f.code.name()), colour)
                });
                let area = self.area(&self.visible(view).unwrap_or(frame));
                // A view off the screen is pointed at on the screen's edge.
                let area = if frame.shared(&glass).is_some() {
                    area
                } else {
                    Area {
                        x: within(area.x, self.glass.x, self.glass.right()),
                        y: within(area.y, self.glass.y, self.glass.bottom()),
                        width: 0.0,
                        height: 0.0,
                    }
                };
                Callout {
                    name: self.screen.path(view),
                    frame: format!(
                        "{}, {} · {} × {}",
                        tenth(frame.left),
                        tenth(frame.top),
                        tenth(frame.width),
                        tenth(frame.height)
                    ),
                    state,
                    is_text: self.text(view).is_some(),
                    area,
                }
            })
            .collect()
    }
}

/// A number of logical pixels with one decimal at most.
pub(crate) fn tenth(value: f64) -> String {
    number((steady(value) as f64 / 1e5).round() / 10.0)
}
