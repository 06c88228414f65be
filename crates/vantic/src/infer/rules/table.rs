//! Drawings side by side: the same views on several displays, along the reading direction.

use crate::drawing::{Drawing, DrawnKind};
use crate::infer::grouping::ends;
use crate::infer::rules::costs::snapped;
use crate::infer::rules::error::InferError;
use std::collections::HashMap;
use vantic_core::geometry::{Axis, Direction, Frame};
use vantic_core::text::{Measure, TextRequest, TextSize};

/// How much narrower than its words a text may be drawn by hand, in logical pixels.
const BY_HAND: f64 = 5.0;

/// An extent along an axis: where it begins, and how long it is.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub(super) struct Extent {
    pub(super) near: f64,
    pub(super) size: f64,
}

impl Extent {
    pub(super) fn far(self) -> f64 {
        self.near + self.size
    }

    pub(super) fn center(self) -> f64 {
        self.near + self.size / 2.0
    }
}

/// The extents of a box across, along the reading direction, and down.
pub(super) type Extents = [Extent; 2];

/// What a view shows in a drawing.
#[derive(Clone, Debug)]
pub(super) struct Content {
    pub(super) font: f64,
    pub(super) line: Option<f64>,
    /// On one line.
    pub(super) natural: TextSize,
    /// At the width that it was drawn with.
    pub(super) drawn: TextSize,
}

/// One drawing.
#[derive(Clone, Debug)]
pub(super) struct Sheet {
    pub(super) screen: Extents,
    pub(super) safe: Extents,
    /// Per view; `None` where it is not drawn.
    pub(super) boxes: Vec<Option<Extents>>,
    /// Per view that is a text.
    pub(super) contents: Vec<Option<Content>>,
}

/// A view of the drawings.
#[derive(Clone, Debug)]
pub(super) struct TableView {
    pub(super) name: String,
    pub(super) path: String,
    pub(super) parent: Option<usize>,
    pub(super) children: Vec<usize>,
    pub(super) kind: DrawnKind,
}

/// Drawings of the same screen.
#[derive(Clone, Debug)]
pub(super) struct Table {
    /// Parents before children.
    pub(super) views: Vec<TableView>,
    pub(super) sheets: Vec<Sheet>,
}

pub(super) fn index(axis: Axis) -> usize {
    usize::from(axis == Axis::Down)
}

/// A box along the reading direction.
fn extents(frame: &Frame, width: f64, direction: Direction) -> Extents {
    let left = match direction {
        Direction::LeftToRight => frame.left,
        Direction::RightToLeft => width - frame.right(),
    };
    [Extent { near: left, size: frame.width }, Extent { near: frame.top, size: frame.height }]
}

impl Table {
    pub(super) fn new(drawings: &[Drawing], measure: &dyn Measure) -> Result<Self, InferError> {
        if drawings.is_empty() {
            return Err(InferError::NoDrawing);
        }
        let mut places: HashMap<&str, usize> = HashMap::new();
        let mut views: Vec<TableView> = Vec::new();
        for view in drawings.iter().flat_map(Drawing::views) {
            if let Some(&known) = places.get(view.path.as_str()) {
                let is_text = |kind: &DrawnKind| matches!(kind, DrawnKind::Text { .. });
                if is_text(&views[known].kind) != is_text(&view.kind) {
                    return Err(InferError::OtherKind(view.path.clone()));
                }
                continue;
            }
            let (parent, name) = match view.path.rsplit_once('.') {
                Some((parent, name)) => (Some(parent), name),
                None => (None, view.path.as_str()),
            };
            let at = views.len();
            let parent = parent.and_then(|path| places.get(path).copied());
            if let Some(parent) = parent {
                views[parent].children.push(at);
            }
            places.insert(&view.path, at);
            let (name, path, kind) = (name.to_owned(), view.path.clone(), view.kind.clone());
            views.push(TableView { name, path, parent, children: Vec::new(), kind });
        }
        let sheets = drawings.iter().map(|drawing| sheet(drawing, &places, measure)).collect();
        Ok(Self { views, sheets })
    }

    /// The other views in what a view is in, in declared order, and itself.
    pub(super) fn siblings(&self, view: usize) -> Vec<usize> {
        match self.views[view].parent {
            Some(parent) => self.views[parent].children.clone(),
            None => (0..self.views.len()).filter(|&v| self.views[v].parent.is_none()).collect(),
        }
    }

    /// The same drawings without some of them.
    pub(super) fn only(&self, sheets: &[usize]) -> Self {
        let sheets = sheets.iter().map(|&at| self.sheets[at].clone()).collect();
        Self { views: self.views.clone(), sheets }
    }

    /// The one number that values are in all drawings, as somebody would write it, where these may be off by so much.
    pub(super) fn constant(&self, slack: f64, value: impl Fn(&Sheet) -> Option<f64>) -> Option<f64> {
        let values: Vec<f64> = self.sheets.iter().map(value).collect::<Option<_>>()?;
        let (low, high) = ends(values.into_iter());
        (high - low <= 2.0 * slack).then(|| snapped((low + high) / 2.0, slack))
    }

    /// Whether a view is drawn in all drawings.
    pub(super) fn is_everywhere(&self, view: usize) -> bool {
        self.sheets.iter().all(|sheet| sheet.boxes[view].is_some())
    }
}

fn sheet(drawing: &Drawing, places: &HashMap<&str, usize>, measure: &dyn Measure) -> Sheet {
    let display = &drawing.display;
    let (width, direction) = (display.width(), display.direction());
    let insets = display.insets();
    let screen = Frame { left: 0.0, top: 0.0, width, height: display.height() };
    let safe = Frame {
        left: insets.left,
        top: insets.top,
        width: width - insets.left - insets.right,
        height: display.height() - insets.top - insets.bottom,
    };
    let mut boxes = vec![None; places.len()];
    let mut contents = vec![None; places.len()];
    for view in drawing.views() {
        let Some(&at) = places.get(view.path.as_str()) else { continue };
        boxes[at] = Some(extents(&view.frame, width, direction));
        if let DrawnKind::Text { words, font, line } = &view.kind {
            let scale = display.text_scale();
            let line_scaled = line.map(|line| line * scale);
            let request =
                TextRequest { line: line_scaled, direction, ..TextRequest::new(words, *font * scale) };
            let natural = measure.measure(&request);
            let lacks = natural.width - view.frame.width;
            let wrapped = || {
                let width = Some(view.frame.width + vantic_core::tolerance::WRAPPED);
                measure.measure(&TextRequest { width, ..request })
            };
            // Drawn by hand, a text that is a little too narrow has as many lines as its height says.
            let off = |size: TextSize| (view.frame.height - size.height).abs();
            let drawn = match lacks {
                lacks if lacks <= vantic_core::tolerance::WRAPPED => natural,
                lacks if lacks > BY_HAND => wrapped(),
                _ => Some(wrapped()).filter(|wrapped| off(*wrapped) < off(natural)).unwrap_or(natural),
            };
            contents[at] = Some(Content { font: *font, line: *line, natural, drawn });
        }
    }
    Sheet {
        screen: extents(&screen, width, direction),
        safe: extents(&safe, width, direction),
        boxes,
        contents,
    }
}
