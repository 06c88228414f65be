//! One display, drawn large, with every view named beside it.

use crate::callouts::{self, shortened};
use crate::canvas::{Area, Canvas, Ink, Picture, TextAnchor};
use crate::drawing::{AROUND, Drawing, here, mark, tenth, verdict, worst_of};
use crate::palette::SOFT_INK;
use crate::text::FontText;
use crate::{HEIGHT, Options, WIDTH, dimensions};
use vantic::check::Report;
use vantic::display::Insets;
use vantic::finding::{Finding, Severity};
use vantic::geometry::Direction;
use vantic::model::Screen;
use vantic::plan::Placement;
use vantic::words::number;

/// The most findings that are spelled out under a display.
const MAX_SPELLED: usize = 4;

/// Draws the display that comes `index`-th in the report, counted from 0; `None` where there is none.
pub fn draw_display(
    screen: &Screen,
    report: &Report,
    index: usize,
    fonts: &FontText,
    options: Options,
) -> Option<Picture> {
    let placement = report.placements.get(index)?;
    let display = &placement.display;
    let canvas_size = (placement.canvas().width(), placement.canvas().height());
    let findings = here(report, index);
    let mut canvas = Canvas::new(WIDTH, HEIGHT);
    canvas.title(&format!("{} on {}", screen.name(), display.name()), &about(placement));
    verdict(&mut canvas, WIDTH - 32.0, 40.0, 15.0, &findings);

    let spelled = findings.iter().filter(|f| f.severity != Severity::Note).take(MAX_SPELLED).count();
    let foot = if spelled == 0 { 34.0 } else { 40.0 + 18.0 * spelled as f64 };
    let gutter = 230.0;
    let room = Area { x: gutter, y: 84.0, width: WIDTH - 2.0 * gutter, height: HEIGHT - 84.0 - foot };
    let inner = (room.width - 2.0 * AROUND, room.height - 2.0 * AROUND);
    let scale = (inner.0 / canvas_size.0).min(inner.1 / canvas_size.1).min(1.6);
    let glass = Area {
        x: room.x + (room.width - canvas_size.0 * scale) / 2.0,
        y: room.y + (room.height - canvas_size.1 * scale) / 2.0,
        width: canvas_size.0 * scale,
        height: canvas_size.1 * scale,
    };
    let drawing =
        Drawing { screen, placement, findings: &findings, fonts, scale, glass, worst: worst_of(&findings) };
    // The names take what room there is beside the display, as near to it as they can be.
    let (left, right) = (glass.x - AROUND - 14.0, glass.right() + AROUND + 14.0);
    let width = (left - 24.0).min(360.0);
    let column = |x: f64| Area { x, y: room.y, width, height: room.height };
    let columns = [column(left - width), column(right)];
    drawing.boxes(&mut canvas, true);
    callouts::draw(&mut canvas, fonts, drawing.callouts(), columns, glass);
    drawing.words(&mut canvas, true);
    if options.guides {
        drawing.guides(&mut canvas);
    }
    if options.rules {
        dimensions::draw(&mut canvas, &drawing);
    }

    spell_out(&mut canvas, screen, &findings, fonts, HEIGHT - foot + 22.0);
    let mut key = "solid line: a view · dotted: a text · crossed: an image · green dashes: the safe area · \
                   grey hatching: insets · thick red: error · ochre dashes: warning"
        .to_owned();
    key += if options.guides { " · violet dashes: guides" } else { "" };
    canvas.words(32.0, HEIGHT - 14.0, &key, Ink::new(10.0, SOFT_INK), TextAnchor::Start);
    Some(canvas.finish().with_placements(screen, &[placement]))
}

/// The size of a display, its insets, and in what else it differs from a plain one.
fn about(placement: &Placement) -> String {
    let display = &placement.display;
    let insets = display.insets();
    let safe = if insets == Insets::default() {
        "no insets".to_owned()
    } else {
        format!(
            "insets left {}, top {}, right {}, bottom {}",
            number(insets.left),
            number(insets.top),
            number(insets.right),
            number(insets.bottom)
        )
    };
    let mut about = format!("{} × {} · {safe}", number(display.width()), number(display.height()));
    if display.direction() == Direction::RightToLeft {
        about += " · right to left";
    }
    if placement.scaled.is_some() {
        let canvas = placement.canvas();
        let (width, height) = (tenth(canvas.width()), tenth(canvas.height()));
        about += &format!(" · scaled × {}: {width} × {height} of its own units", number(placement.scale()));
    }
    if display.text_scale() != 1.0 {
        about += &format!(" · text × {}", number(display.text_scale()));
    }
    about
}

/// The first findings in words, a line each, from `y` down.
fn spell_out(canvas: &mut Canvas, screen: &Screen, findings: &[&Finding], fonts: &FontText, mut y: f64) {
    for finding in findings.iter().filter(|f| f.severity != Severity::Note).take(MAX_SPELLED) {
        let (mark, colour) = mark(finding.severity);
        let line = format!("{mark} {}: {}", finding.code.name(), finding.message(screen));
        canvas.words(
            32.0,
            y,
            &shortened(fonts, &line, 12.0, WIDTH - 64.0),
            Ink::new(12.0, colour),
            TextAnchor::Start,
        );
        y += 18.0;
    }
}
