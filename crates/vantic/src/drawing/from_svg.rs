//! Drawings from SVG: rectangles, images and texts with ids, in groups.
//!
//! SVG 1.1 and 2 (W3C): of these, rectangles, images, texts, groups, nested `svg` elements and transforms that keep sides
//! upright. No entities are expanded and no references followed.

use crate::drawing::drawn::{Drawing, DrawingError, DrawingNote, DrawnKind, DrawnView};
use crate::drawing::nest::nested;
use roxmltree::{Document, Node, ParsingOptions};
use std::str::FromStr as _;
use svgtypes::{Length, LengthUnit, Transform, ViewBox};
use vantic_core::display::Display;
use vantic_core::geometry::Frame;
use vantic_core::limits::MAX_NESTING;
use vantic_core::text::{Measure, TextRequest};

/// How many elements of a file are looked at.
const MAX_ELEMENTS: u32 = 200_000;

/// The font size of a text that states none: the initial value of CSS.
const FONT: f64 = 16.0;

/// Where an element is: a factor and an offset for each axis.
#[derive(Clone, Copy)]
struct Placed {
    scale: (f64, f64),
    at: (f64, f64),
}

impl Placed {
    fn of(self, x: f64, y: f64, width: f64, height: f64) -> Frame {
        let (a, b) = (self.at.0 + self.scale.0 * x, self.at.0 + self.scale.0 * (x + width));
        let (c, d) = (self.at.1 + self.scale.1 * y, self.at.1 + self.scale.1 * (y + height));
        Frame { left: a.min(b), top: c.min(d), width: (b - a).abs(), height: (d - c).abs() }
    }

    /// Where a rectangle or an image is.
    fn of_box(self, node: Node<'_, '_>) -> Frame {
        let number = |name| length(node, name).unwrap_or(0.0);
        self.of(number("x"), number("y"), number("width"), number("height"))
    }

    fn within(self, inner: Placed) -> Placed {
        Placed {
            scale: (self.scale.0 * inner.scale.0, self.scale.1 * inner.scale.1),
            at: (self.at.0 + self.scale.0 * inner.at.0, self.at.1 + self.scale.1 * inner.at.1),
        }
    }
}

/// The id of the element in which a picture keeps its placements, as JSON.
pub const PLACEMENTS: &str = "vantic-placements";

impl Drawing {
    /// Drawings from SVG. What `vantic draw` writes holds those of all its displays; any other SVG is one: each `rect`, `image` and `text` with an id is a view of that name, each `g` and nested `svg` with an
    /// id a view that holds what is in it: as large as the first rectangle without an id in it, or else as what it holds.
    /// Where there are no groups, frames decide what is in what. The display is as large as the `viewBox`. Texts are
    /// as large as their words measure. What is left out is in [`Drawing::notes`].
    ///
    /// ```
    /// use vantic::drawing::Drawing;
    /// use vantic::prelude::*;
    ///
    /// let drawn = r##"<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 320 480">
    ///   <g id="bench"><rect x="16" y="16" width="288" height="48"/><text id="words" x="24" y="44" font-size="15">Vices</text></g>
    /// </svg>"##;
    /// let drawing = &Drawing::from_svg(drawn, &PlainText)?[0];
    /// assert_eq!(drawing.frame("bench").map(|f| f.width), Some(288.0));
    /// assert_eq!(drawing.views()[1].path, "bench.words");
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    ///
    /// # Errors
    /// What is no XML, or too much of it, an SVG without a size, and as for [`Drawing::new`].
    pub fn from_svg(text: &str, measure: &dyn Measure) -> Result<Vec<Self>, DrawingError> {
        let options =
            ParsingOptions { allow_dtd: false, nodes_limit: MAX_ELEMENTS, ..ParsingOptions::default() };
        let document = Document::parse_with_options(text, options).map_err(|error| {
            let place = error.pos();
            let column = place.col as usize;
            DrawingError::Syntax {
                line: place.row as usize,
                column,
                what: error.to_string().split(" at ").next().unwrap_or_default().to_owned(),
            }
        })?;
        let root = document.root_element();
        if root.tag_name().name() != "svg" {
            return Err(DrawingError::Shape("the outermost element is no `svg`".into()));
        }
        let is_kept = |node: &Node<'_, '_>| node.attribute("id") == Some(PLACEMENTS);
        if let Some(json) = root.children().find(is_kept).and_then(|node| node.text()) {
            return Self::from_json(json);
        }
        let size = ["width", "height"].map(|name| length(root, name));
        let view_box = root.attribute("viewBox").and_then(|text| ViewBox::from_str(text).ok());
        let (x, y, width, height) = match (view_box, size) {
            (Some(ViewBox { x, y, w, h }), _) => (x, y, w, h),
            (None, [Some(width), Some(height)]) => (0.0, 0.0, width, height),
            _ => {
                return Err(DrawingError::Shape(
                    "the `svg` has neither a `viewBox` nor a width and height".into(),
                ));
            }
        };
        let mut reader = Reader { document: &document, measure, views: Vec::new(), notes: Vec::new() };
        let origin = Placed { scale: (1.0, 1.0), at: (-x, -y) };
        reader.children(root, "", origin, 0)?;
        let Reader { mut views, notes, .. } = reader;
        nested(&mut views, |view| view.kind == DrawnKind::Plain);
        Ok(vec![Self { notes, ..Self::new(Display::new(width, height)?, views)? }])
    }
}

struct Reader<'a, 'b> {
    document: &'a Document<'b>,
    measure: &'a dyn Measure,
    views: Vec<DrawnView>,
    notes: Vec<DrawingNote>,
}

impl Reader<'_, '_> {
    fn note(&mut self, node: Node<'_, '_>, what: impl Into<String>) {
        let line = self.document.text_pos_at(node.range().start).row as usize;
        self.notes.push(DrawingNote { line, what: what.into() });
    }

    /// Reads what is in an element; the frame around it, if there is something.
    fn children(
        &mut self,
        of: Node<'_, '_>,
        path: &str,
        placed: Placed,
        depth: usize,
    ) -> Result<Option<Frame>, DrawingError> {
        if depth > MAX_NESTING {
            return Err(DrawingError::TooDeep(path.to_owned()));
        }
        let mut around: Option<Frame> = None;
        for node in of.children().filter(Node::is_element) {
            let frame = self.element(node, path, placed, depth)?;
            around = match (around, frame) {
                (Some(a), Some(b)) => Some(both(&a, &b)),
                (a, b) => a.or(b),
            };
        }
        Ok(around)
    }

    fn element(
        &mut self,
        node: Node<'_, '_>,
        path: &str,
        placed: Placed,
        depth: usize,
    ) -> Result<Option<Frame>, DrawingError> {
        let tag = node.tag_name().name();
        if matches!(tag, "defs" | "style" | "title" | "desc" | "metadata" | "clipPath" | "mask" | "script") {
            return Ok(None);
        }
        let id = node.attribute("id");
        let named = |id: &str| if path.is_empty() { id.to_owned() } else { format!("{path}.{id}") };
        let Some(moved) = moved(node) else {
            self.note(node, format!("`{tag}` is turned or skewed, which a view is not; it is left out"));
            return Ok(None);
        };
        let placed = placed.within(moved);
        let (kind, frame) = match tag {
            "g" | "svg" => return self.group(node, id.map(named).as_deref(), path, placed, depth),
            "rect" => (DrawnKind::Plain, placed.of_box(node)),
            "image" => {
                let frame = placed.of_box(node);
                (DrawnKind::Image { width: frame.width, height: frame.height }, frame)
            }
            "text" => self.text(node, placed),
            _ => {
                let what = id.map_or_else(|| format!("`{tag}`"), |id| format!("`{id}`, a `{tag}`,"));
                let shapes = "rectangles, images, texts and groups are views";
                self.note(node, format!("{what} is left out: {shapes}"));
                return Ok(None);
            }
        };
        match id {
            Some(id) => self.views.push(DrawnView { path: named(id), frame, kind }),
            // The box of the group that it is in.
            None if tag == "rect" && !path.is_empty() => {}
            None => {
                self.note(node, format!("this `{tag}` has no id, so that it names no view; it is left out"))
            }
        }
        Ok(Some(frame))
    }

    /// A group: a view, if it has an id.
    fn group(
        &mut self,
        node: Node<'_, '_>,
        own: Option<&str>,
        path: &str,
        placed: Placed,
        depth: usize,
    ) -> Result<Option<Frame>, DrawingError> {
        let Some(own) = own else { return self.children(node, path, placed, depth + 1) };
        let place = self.views.len();
        let around = self.children(node, own, placed, depth + 1)?;
        let is_box =
            |child: &Node<'_, '_>| child.tag_name().name() == "rect" && child.attribute("id").is_none();
        let background = node.children().find(is_box);
        let background = background.and_then(|child| Some(placed.within(moved(child)?).of_box(child)));
        let Some(frame) = background.or(around) else {
            self.note(node, format!("the group `{own}` holds nothing that has a size; it is left out"));
            return Ok(None);
        };
        self.views.insert(place, DrawnView { path: own.to_owned(), frame, kind: DrawnKind::Plain });
        Ok(Some(frame))
    }

    /// A text on one line, as large as its words measure.
    fn text(&self, node: Node<'_, '_>, placed: Placed) -> (DrawnKind, Frame) {
        let words: String =
            node.descendants().filter_map(|inner| inner.text().filter(|_| inner.is_text())).collect();
        let words = words.split_whitespace().collect::<Vec<_>>().join(" ");
        let inherited = |name| node.ancestors().find_map(|around| length(around, name));
        let font = inherited("font-size").unwrap_or(FONT) * placed.scale.1.abs();
        let size = self.measure.measure(&TextRequest::new(&words, font));
        let number = |name| length(node, name).unwrap_or(0.0);
        let point = placed.of(number("x"), number("y"), 0.0, 0.0);
        let anchor = node.ancestors().find_map(|around| around.attribute("text-anchor"));
        let before = match anchor {
            Some("middle") => size.width / 2.0,
            Some("end") => size.width,
            _ => 0.0,
        };
        let frame = Frame {
            left: point.left - before,
            top: point.top - size.ascent,
            width: size.width,
            height: size.height,
        };
        (DrawnKind::Text { words, font, line: None }, frame)
    }
}

/// The frame around two.
fn both(a: &Frame, b: &Frame) -> Frame {
    let (left, top) = (a.left.min(b.left), a.top.min(b.top));
    let (right, bottom) = (a.right().max(b.right()), a.bottom().max(b.bottom()));
    Frame { left, top, width: right - left, height: bottom - top }
}

/// A length in logical pixels; `None` where it is not there, is no length, or a share of something.
fn length(node: Node<'_, '_>, name: &str) -> Option<f64> {
    let Length { number, unit } = Length::from_str(node.attribute(name)?).ok()?;
    let pixels = match unit {
        LengthUnit::None | LengthUnit::Px => 1.0,
        LengthUnit::Pt => 4.0 / 3.0,
        LengthUnit::Pc => 16.0,
        LengthUnit::In => 96.0,
        LengthUnit::Cm => 96.0 / 2.54,
        LengthUnit::Mm => 9.6 / 2.54,
        LengthUnit::Em | LengthUnit::Ex | LengthUnit::Percent => return None,
    };
    Some(number * pixels).filter(|n| n.is_finite())
}

/// How an element is moved by its own transform, or as a nested `svg`; `None` where its sides do not stay upright.
fn moved(node: Node<'_, '_>) -> Option<Placed> {
    let own = match node.attribute("transform").map(Transform::from_str) {
        None => Placed { scale: (1.0, 1.0), at: (0.0, 0.0) },
        Some(Ok(Transform { a, b, c, d, e, f })) if b == 0.0 && c == 0.0 => {
            Placed { scale: (a, d), at: (e, f) }
        }
        Some(_) => return None,
    };
    if node.tag_name().name() != "svg" {
        return Some(own);
    }
    let at = (length(node, "x").unwrap_or(0.0), length(node, "y").unwrap_or(0.0));
    let inner = match node.attribute("viewBox").and_then(|text| ViewBox::from_str(text).ok()) {
        Some(ViewBox { x, y, w, h }) if w > 0.0 && h > 0.0 => {
            let scale = (length(node, "width").unwrap_or(w) / w, length(node, "height").unwrap_or(h) / h);
            Placed { scale, at: (at.0 - x * scale.0, at.1 - y * scale.1) }
        }
        _ => Placed { scale: (1.0, 1.0), at },
    };
    Some(own.within(inner))
}
