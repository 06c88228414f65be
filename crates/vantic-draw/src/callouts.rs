//! Names beside the display, each tied to its view by a thin line: none covers another.

use crate::canvas::{Area, Canvas, Ink, Stroke, TextAnchor, steady};
use crate::palette::{FAINT, INK, SOFT_INK};
use crate::text::FontText;
use vantic::geometry::within;

/// What is said of one view.
#[derive(Clone, Debug)]
pub(crate) struct Callout {
    pub(crate) name: String,
    /// Its frame, in words.
    pub(crate) frame: String,
    /// What is wrong with it, with its colour.
    pub(crate) state: Option<(String, &'static str)>,
    pub(crate) is_text: bool,
    /// Where the view is in the picture.
    pub(crate) area: Area,
}

const NAME: f64 = 11.0;
const FRAME: f64 = 9.5;
/// The least room in which anything is said beside a name.
const LEAST_BESIDE: f64 = 70.0;
/// A callout on two lines, and on one where there are many.
const TALL: f64 = 29.0;
const SHORT: f64 = 15.5;
/// The width of a column from which a name and its frame stand on one line.
const ONE_LINE: f64 = 236.0;

/// Draws the callouts in two columns beside the display.
pub(crate) fn draw(
    canvas: &mut Canvas,
    fonts: &FontText,
    mut callouts: Vec<Callout>,
    columns: [Area; 2],
    glass: Area,
) {
    // The half that lies further left goes to the left column.
    let middle = |c: &Callout| c.area.x + c.area.width / 2.0;
    callouts.sort_by_key(|c| steady(middle(c)));
    let right = callouts.split_off(callouts.len().div_ceil(2));
    for (is_left, mut side) in [(true, callouts), (false, right)] {
        let column = columns[usize::from(!is_left)];
        side.sort_by_key(|c| steady(c.area.y + c.area.height / 2.0));
        let fits = |step: f64| (column.height / step).floor() as usize;
        // On one line where the column is wide enough, or where there are many.
        let crowded = side.len() as f64 * TALL > 1.1 * glass.height;
        let step = if column.width >= ONE_LINE || crowded || side.len() > fits(TALL) { SHORT } else { TALL };
        let shown = side.len().min(fits(step));
        if shown < side.len() {
            let more = format!("and {} more", side.len() - shown + 1);
            side.truncate(shown.saturating_sub(1));
            let y = column.bottom() - 2.0;
            let (x, anchor) =
                if is_left { (column.x, TextAnchor::Start) } else { (column.right(), TextAnchor::End) };
            canvas.words(x, y, &more, Ink::new(NAME, SOFT_INK), anchor);
        }
        let tops = spread(&side, step, column);
        for (callout, top) in side.iter().zip(tops) {
            one(canvas, fonts, callout, top, step == TALL, column, is_left);
        }
    }
}

/// Tops as near as can be to the views they name, without covering one another.
fn spread(callouts: &[Callout], step: f64, column: Area) -> Vec<f64> {
    let mut tops: Vec<f64> = Vec::new();
    let mut free = column.y;
    for c in callouts {
        let wish = c.area.y + c.area.height / 2.0 - step / 2.0;
        free = wish.max(free);
        tops.push(free);
        free += step;
    }
    let mut limit = column.bottom() - step;
    for top in tops.iter_mut().rev() {
        *top = top.min(limit);
        limit = *top - step;
    }
    tops
}

fn one(
    canvas: &mut Canvas,
    fonts: &FontText,
    c: &Callout,
    top: f64,
    tall: bool,
    column: Area,
    is_left: bool,
) {
    let (x, anchor, into) =
        if is_left { (column.right(), TextAnchor::End, 1.0) } else { (column.x, TextAnchor::Start, -1.0) };
    let baseline = top + 12.0;
    let room = column.width - 8.0;
    let colour = c.state.as_ref().map_or(INK, |s| s.1);
    let frame_ink = Ink::new(FRAME, c.state.as_ref().map_or(SOFT_INK, |s| s.1));
    let under = c.state.as_ref().map_or(c.frame.clone(), |(state, _)| format!("{state} · {}", c.frame));
    let mut name = shortened(fonts, &c.name, NAME, room);
    // The name comes first; what is wrong and the frame take the space that it leaves.
    let left = if column.width < ONE_LINE { 0.0 } else { room - fonts.width(&name, NAME) - 8.0 };
    let beside = if left < LEAST_BESIDE { None } else { Some(shortened(fonts, &under, FRAME, left)) };
    if let (Some((state, _)), None, false) = (&c.state, &beside, tall) {
        // Where there is no space beside it, what is wrong is still said in words.
        name = shortened(fonts, &format!("{state} · {}", c.name), NAME, room);
    }
    canvas.words(x - into * 8.0, baseline, &name, Ink::new(NAME, colour), anchor);
    match beside {
        _ if tall => {
            let under = shortened(fonts, &under, FRAME, room);
            canvas.words(x - into * 8.0, baseline + 12.0, &under, frame_ink, anchor);
        }
        Some(beside) => {
            let after = fonts.width(&name, NAME) + 16.0;
            canvas.words(x - into * after, baseline, &beside, frame_ink, anchor);
        }
        None => {}
    }
    // From the words, level to the column's edge, then to the nearest side of the view.
    let edge = if is_left { c.area.x } else { c.area.right() };
    let level = baseline - 4.0;
    let inside = c.area.height.min(8.0) / 2.0;
    // At the foot of a text, so that the line runs under words rather than through them.
    let top = if c.is_text { c.area.bottom() - 1.0 } else { c.area.y + inside };
    let target = within(level, top, c.area.bottom() - inside);
    let stroke = Stroke::solid(if c.state.is_some() { colour } else { FAINT }, 0.7);
    canvas.line(&[(x - into * 4.0, level), (x + into * 4.0, level), (edge, target)], stroke);
    canvas.dot(edge, target, 1.8, if c.state.is_some() { colour } else { SOFT_INK });
}

/// The words, or as many of their characters as fit.
pub(crate) fn shortened(fonts: &FontText, words: &str, size: f64, room: f64) -> String {
    if fonts.width(words, size) <= room {
        return words.to_owned();
    }
    let mut kept: String = words.chars().take(200).collect();
    while !kept.is_empty() && fonts.width(&format!("{kept}…"), size) > room {
        kept.pop();
    }
    format!("{kept}…")
}
