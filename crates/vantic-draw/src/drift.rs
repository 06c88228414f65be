//! A screen as it is placed, with what was drawn elsewhere as a ghost.

use crate::callouts::shortened;
use crate::canvas::{Area, Canvas, Ink, Picture, Stroke, TextAnchor};
use crate::drawing::Drawing;
use crate::palette::{INK, MEASURE, SOFT_INK};
use crate::text::FontText;
use crate::{HEIGHT, WIDTH};
use std::collections::HashMap;
use vantic::drift::{Drift, Drifted};
use vantic::model::Screen;
use vantic::words::number;

/// How many views are listed beside the display.
const MAX_TOLD: usize = 24;

/// Draws a screen as the rules place it, and over it a dashed outline wherever a view was drawn elsewhere: with corner
/// marks and a number where its own rules disagree. Beside it stands how far.
///
/// ```
/// use vantic::drawing::{Drawing, DrawnKind, DrawnView};
/// use vantic::geometry::Frame;
/// use vantic::prelude::*;
/// use vantic_draw::{FontText, draw_drift};
///
/// let source = vantic::read("screen quay { view board { pin left 16, top 16 to screen; size = (200, 80) } }")?;
/// let plan = Plan::new(source.screen)?;
/// let frame = Frame { left: 24.0, top: 16.0, width: 200.0, height: 80.0 };
/// let board = DrawnView { path: "board".into(), frame, kind: DrawnKind::Plain };
/// let drawing = Drawing::new(Display::new(390.0, 844.0)?, vec![board])?;
/// let drift = vantic::drift::drift(&plan, &drawing.in_screen(plan.screen()), &PlainText)?;
/// let picture = draw_drift(plan.screen(), &drift, &FontText::new());
/// assert!(picture.svg().contains("8 right"));
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
pub fn draw_drift(screen: &Screen, drift: &Drift, fonts: &FontText) -> Picture {
    let placement = &drift.placement;
    let mut canvas = Canvas::new(WIDTH, HEIGHT);
    let off = drift.views.len();
    let under = match off {
        0 => "every view is where it was drawn".to_owned(),
        1 => "1 view is not where it was drawn".to_owned(),
        off => format!("{off} views are not where they were drawn"),
    };
    canvas.title(&format!("{} and its drawing on {}", screen.name(), placement.display.name()), &under);
    let (width, height) = (placement.canvas().width(), placement.canvas().height());
    let room = Area { x: 40.0, y: 92.0, width: 700.0, height: HEIGHT - 92.0 - 48.0 };
    let scale = (room.width / width).min(room.height / height).min(1.6);
    let glass = Area {
        x: room.x + (room.width - width * scale) / 2.0,
        y: room.y + (room.height - height * scale) / 2.0,
        width: width * scale,
        height: height * scale,
    };
    let worst = HashMap::new();
    let drawing = Drawing { screen, placement, findings: &[], fonts, scale, glass, worst };
    drawing.boxes(&mut canvas, true);
    drawing.words(&mut canvas, true);
    let list = Area { x: 790.0, y: 104.0, width: WIDTH - 790.0 - 32.0, height: HEIGHT - 160.0 };
    for (at, view) in drift.views.iter().enumerate() {
        ghost(&mut canvas, drawing.area(&view.drawn), (!view.follows && at < MAX_TOLD).then_some(at + 1));
        if at < MAX_TOLD {
            told(&mut canvas, fonts, screen, view, at, list);
        }
    }
    if off > MAX_TOLD {
        let more = format!("and {} more", off - MAX_TOLD);
        let y = list.y + MAX_TOLD as f64 * 26.0;
        canvas.words(list.x + 24.0, y, &more, Ink::new(12.0, SOFT_INK), TextAnchor::Start);
    }
    let key = "filled: placed by the rules · violet dashes with corner marks and a number: drawn here, in conflict with a rule · thin dashes: drawn here, follows from others";
    canvas.words(32.0, HEIGHT - 14.0, key, Ink::new(10.0, SOFT_INK), TextAnchor::Start);
    canvas.finish()
}

/// A dashed outline: of what the rules disagree about with a number and corner marks, of what only follows a thin one.
fn ghost(canvas: &mut Canvas, area: Area, number: Option<usize>) {
    let Some(number) = number else {
        canvas.boxed(area, "none", Stroke::dashed(MEASURE, 0.8, "2 3"), 0.0);
        return;
    };
    canvas.boxed(area, "none", Stroke::dashed(MEASURE, 1.4, "6 3"), 0.0);
    let corner = Stroke::solid(MEASURE, 2.4);
    let long = 6.0_f64.min(area.width / 3.0).min(area.height / 3.0);
    let corners = [
        (area.x, area.y, 1.0, 1.0),
        (area.right(), area.y, -1.0, 1.0),
        (area.x, area.bottom(), 1.0, -1.0),
        (area.right(), area.bottom(), -1.0, -1.0),
    ];
    for (x, y, across, down) in corners {
        canvas.line(&[(x + across * long, y), (x, y), (x, y + down * long)], corner);
    }
    canvas.numbered(area.right() + 5.0, area.y - 5.0, 7.0, number, MEASURE);
}

/// How far a view was drawn from where it is, in words.
fn told(canvas: &mut Canvas, fonts: &FontText, screen: &Screen, view: &Drifted, at: usize, list: Area) {
    let y = list.y + at as f64 * 26.0;
    if !view.follows {
        canvas.numbered(list.x + 7.0, y - 4.0, 7.0, at + 1, MEASURE);
    }
    let path = shortened(fonts, &screen.path(view.view), 12.0, 170.0);
    canvas.words(list.x + 24.0, y, &path, Ink::new(12.0, INK).bold(), TextAnchor::Start);
    let [left, top, width, height] = view.by();
    let words = [
        (left, "right", "left"),
        (top, "down", "up"),
        (width, "wider", "narrower"),
        (height, "taller", "shorter"),
    ];
    let words = words.into_iter().filter_map(|(by, more, less)| {
        let amount = number((by.abs() * 10.0).round() / 10.0);
        (by.abs() >= 0.05).then(|| format!("{amount} {}", if by > 0.0 { more } else { less }))
    });
    let mut words = words.collect::<Vec<_>>().join(", ");
    if view.follows {
        words += " (follows)";
    }
    let words = shortened(fonts, &words, 12.0, list.width - 210.0);
    canvas.words(list.x + 204.0, y, &words, Ink::new(12.0, INK), TextAnchor::Start);
}
