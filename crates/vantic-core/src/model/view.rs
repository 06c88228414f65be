//! A view: a named rectangle, and what it holds.

use crate::model::arrangement::{Arrangement, Item, Share, Space};
use crate::model::coordinate::Side;
use crate::model::expression::Expr;
use crate::model::guide::Guide;
use crate::model::id::{BandId, LevelId, Revision, ScreenTag, ViewId};
use crate::model::scroll::{Overflow, Scroll};

/// A view: a named rectangle.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct View {
    /// Its id bears it.
    pub(crate) tag: ScreenTag,
    pub(crate) name: String,
    pub(crate) parent: Option<ViewId>,
    pub(crate) children: Vec<ViewId>,
    /// Its place among its siblings, counted from 0.
    pub(crate) sibling_index: usize,
    pub(crate) text: Option<Text>,
    pub(crate) image: Option<Image>,
    pub(crate) paint: Paint,
    /// How near it is to the reader: among siblings the nearer is on top.
    pub(crate) depth: f64,
    /// How strongly it is not to be smaller than its content, where that is stated.
    pub(crate) whole: Option<ContentStrength>,
    /// How strongly it is to be as small as its content, where that is stated.
    pub(crate) snug: Option<ContentStrength>,
    /// How it arranges its children, if it does.
    pub(crate) arrangement: Option<Box<Arrangement>>,
    /// Empty lengths among the children, each with how many children stand before it.
    pub(crate) spaces: Vec<(usize, Space)>,
    /// Its settings in the arrangement that it is in.
    pub(crate) item: Option<Box<Item>>,
    /// The guides in it, in declared order; they are none of its children.
    pub(crate) guides: Vec<ViewId>,
    /// What it is as a guide, if it is one.
    pub(crate) guide: Option<Box<Guide>>,
    /// Which way it scrolls its content, if it does.
    pub(crate) scroll: Option<Scroll>,
    /// The box of what it scrolls: a guide in it.
    pub(crate) content_box: Option<ViewId>,
    /// What becomes of what is larger than it.
    pub(crate) overflow: Overflow,
    /// The sides of the view that scrolls it that it sticks to, each with its distance inwards.
    pub(crate) stick: Vec<(Side, f64)>,
    /// The bands in which alone it is there; none for everywhere.
    pub(crate) only_in_bands: Vec<BandId>,
    /// Whether it is pointed at or touched.
    pub(crate) control: Option<Control>,
    /// Whether it lies over others on purpose, with what is in it.
    pub(crate) floats: bool,
    /// Whether it is typed into.
    pub(crate) input: bool,
    /// Whether it was removed: nothing but its place in the table is left.
    pub(crate) is_removed: bool,
}

/// That a view is pointed at or touched.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Control {
    /// How wide and high it is to be at least, in logical pixels; 24 without, unless no other is near.
    pub least: Option<f64>,
}

impl View {
    /// What its row or column, its guide, and its own share in one, read, each with the word that it stands behind.
    pub(crate) fn exprs(&self) -> impl Iterator<Item = (&'static str, &Expr)> {
        let own = self.arrangement.iter().flat_map(|a| a.exprs().map(|e| (a.word(), e)));
        let share = self.item.iter().filter_map(|i| i.share.as_ref());
        let share = share.flat_map(|s| s.exprs().map(|e| ("share", e)));
        let spaces = self.spaces.iter().filter_map(|(_, space)| match space {
            Space::Fixed(length) => Some(("space", length)),
            Space::Flexible(_) => None,
        });
        let guide = self.guide().into_iter().flat_map(|g| g.exprs().into_iter().map(|e| (g.word(), e)));
        own.chain(share).chain(spaces).chain(guide)
    }

    /// The same, to be changed.
    pub(crate) fn exprs_mut(&mut self) -> Vec<&mut Expr> {
        let mut all = self.arrangement.iter_mut().flat_map(|of| of.exprs_mut()).collect::<Vec<_>>();
        all.extend(self.item.iter_mut().filter_map(|of| of.share.as_mut()).flat_map(Share::exprs_mut));
        all.extend(self.spaces.iter_mut().filter_map(|(_, space)| match space {
            Space::Fixed(length) => Some(length),
            Space::Flexible(_) => None,
        }));
        all.extend(self.guide.iter_mut().flat_map(|of| of.exprs_mut()));
        all
    }

    /// The name, unique among its siblings.
    pub fn name(&self) -> &str {
        &self.name
    }

    /// The parent; `None` for a view directly on the screen.
    pub fn parent(&self) -> Option<ViewId> {
        self.parent
    }

    /// The children in declared order.
    pub fn children(&self) -> &[ViewId] {
        &self.children
    }

    /// The words, for a text view.
    pub fn text(&self) -> Option<&Text> {
        self.text.as_ref()
    }

    /// The natural size, for an image.
    pub fn image(&self) -> Option<Image> {
        self.image
    }

    /// How near it is to the reader: among siblings the nearer is painted on top. No frame changes by it.
    pub fn depth(&self) -> f64 {
        self.depth
    }

    /// How what is painted differs from the frame.
    pub fn paint(&self) -> Paint {
        self.paint
    }

    /// How it arranges its children, if it does.
    pub fn arrangement(&self) -> Option<&Arrangement> {
        self.arrangement.as_deref()
    }

    /// What is said of it in the arrangement that it stands in, if anything is.
    pub fn item(&self) -> Option<&Item> {
        self.item.as_deref()
    }

    /// Empty lengths among the children, each with how many children stand before it.
    pub fn spaces(&self) -> &[(usize, Space)] {
        &self.spaces
    }

    /// The guides in it, in declared order; they are none of its children.
    pub fn guides(&self) -> &[ViewId] {
        &self.guides
    }

    /// The sides of the view that scrolls it that it sticks to, each with its distance inwards in logical
    /// pixels.
    pub fn sticks(&self) -> &[(Side, f64)] {
        &self.stick
    }

    /// What it is as a guide, if it is one: a box that is not painted.
    pub fn guide(&self) -> Option<&Guide> {
        self.guide.as_deref()
    }

    /// The bands in which alone it is there; none where it is there without.
    pub fn only_in(&self) -> &[BandId] {
        &self.only_in_bands
    }

    /// Whether it lies over others on purpose, with what is in it.
    pub fn floats(&self) -> bool {
        self.floats
    }

    /// Whether it is typed into.
    pub fn is_input(&self) -> bool {
        self.input
    }

    /// Which way it scrolls its content, if it does.
    pub fn scroll(&self) -> Option<Scroll> {
        self.scroll
    }

    /// The box of what it scrolls, a guide in it, where it scrolls.
    pub fn scrolled(&self) -> Option<ViewId> {
        self.content_box
    }

    /// Whether what it holds is cut off at its edges.
    pub(crate) fn clips(&self) -> bool {
        self.overflow == Overflow::Clip || self.scroll.is_some_and(|s| s != Scroll::Off)
    }

    /// Whether it has content of its own: words, or a picture.
    pub fn has_content(&self) -> bool {
        self.text.is_some() || self.image.is_some()
    }

    /// Its settings in the arrangement that it is in, to be changed.
    pub(super) fn item_mut(&mut self) -> &mut Item {
        self.item.get_or_insert_default()
    }
}

/// The content of a text view.
#[derive(Clone, Debug, PartialEq)]
pub struct Text {
    /// The words.
    pub words: String,
    /// The font size in logical pixels, before the reader's text scale.
    pub font: f64,
    /// The height of a line in logical pixels, before the reader's text scale; the text engine's own
    /// without it.
    pub line: Option<f64>,
    /// How many lines are shown at most.
    pub lines: Option<u32>,
    /// The name of its style, such as `strong`, for the text engine; its usual one without it.
    pub style: Option<String>,
    /// Other whenever the words are.
    pub(crate) revision: Revision,
}

impl Text {
    /// Words in a font size, with lines as high and as many as they come.
    pub fn new(words: impl Into<String>, font: f64) -> Self {
        Self {
            words: words.into(),
            font,
            line: None,
            lines: None,
            style: None,
            revision: Revision::default(),
        }
    }
}

/// The content of an image view: its natural size in logical pixels.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Image {
    /// The natural width, above zero.
    pub width: f64,
    /// The natural height, above zero.
    pub height: f64,
}

/// How what is painted of a view, and of all within it, differs from the frame: it is scaled, then
/// turned, about its origin. Frames never change by that.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Paint {
    /// The point that stays where it is, as fractions of the frame from its top left corner.
    pub origin: (f64, f64),
    /// Degrees, clockwise.
    pub rotate: f64,
    /// Factors along both axes.
    pub scale: (f64, f64),
}

impl Default for Paint {
    fn default() -> Self {
        Self { origin: (0.5, 0.5), rotate: 0.0, scale: (1.0, 1.0) }
    }
}

impl Paint {
    /// Whether what is painted is the frame.
    pub fn is_plain(&self) -> bool {
        self.rotate == 0.0 && self.scale == (1.0, 1.0)
    }
}

/// How a view's `whole` or `snug` is meant: on another level, or with a weight.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct ContentStrength {
    pub(crate) level: Option<LevelId>,
    pub(crate) weight: f64,
}
