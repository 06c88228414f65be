//! What is set of a view that is no rule.

use crate::model::arrangement::{Align, Arrangement, Share};
use crate::model::coordinate::Side;
use crate::model::expression::Expr;
use crate::model::guide::Guide;
use crate::model::id::{BandId, LevelId};
use crate::model::rule::{SNUG, WHOLE};
use crate::model::scroll::{Overflow, Scroll};
use crate::model::view::{ContentStrength, Control, Image, View};

/// Something about a view that is no rule. Bands may change it.
#[derive(Clone, Debug, PartialEq)]
pub enum Setting {
    /// The font size of a text in logical pixels, from 1 to 1000.
    Font(f64),
    /// The height of a text's lines in logical pixels, from 1 to 10,000.
    Line(f64),
    /// How many lines of a text are shown at most, from 1.
    Lines(u32),
    /// The name of a text's style, such as `strong`; what it looks like is the text engine's.
    Style(String),
    /// The natural size of an image in logical pixels, from 1 to 100,000.
    Natural(f64, f64),
    /// The point that turning and scaling leave where it is, as fractions of the frame.
    Origin(f64, f64),
    /// Degrees by which it is painted turned, clockwise.
    Rotate(f64),
    /// Factors by which it is painted scaled, from 0.001 to 1000.
    Scale(f64, f64),
    /// How near it is to the reader, at most 10,000,000 either side of zero: among siblings the nearer is on
    /// top.
    Depth(f64),
    /// On which level, and with which weight, content is not to be cut.
    Whole(Option<LevelId>, f64),
    /// On which level, and with which weight, a view is not to be larger than its content.
    Snug(Option<LevelId>, f64),
    /// How a view arranges its children.
    Arrange(Box<Arrangement>),
    /// How much a child takes of the space that is left.
    Share(Box<Share>),
    /// A child stays out of the arrangement.
    Apart,
    /// Where a child lies across, if not as the others.
    Sit(Align),
    /// How many columns and rows of a grid a child takes, from 1 each.
    Cells(u32, u32),
    /// A child is shown only where there is space for it; with a length in logical pixels above zero, the
    /// first for which there is none is shown cut, where so much of it can be seen.
    Spare(Option<f64>),
    /// What a guide is.
    Guide(Box<Guide>),
    /// Which way a view scrolls what it holds; a band may only change it.
    Scroll(Scroll),
    /// What becomes of what is larger than the view.
    Overflow(Overflow),
    /// Sides of the nearest view around it that scrolls, each with a distance inwards in logical pixels: it
    /// does not go beyond them while the view that it stands in is there.
    Stick(Vec<(Side, f64)>),
    /// The bands in which alone a view is there; no band changes it.
    OnlyIn(Vec<BandId>),
    /// A view is pointed at or touched; with how wide and high it is to be at least, in logical pixels above
    /// zero.
    Control(Option<f64>),
    /// A view, with what is in it, lies over others on purpose.
    Floats,
    /// A view is typed into: it has to be seen while a keyboard is on the screen.
    Input,
}

impl Setting {
    /// The word that it begins with in a screen file.
    pub fn word(&self) -> &'static str {
        match self {
            Setting::Font(_) => "font",
            Setting::Line(_) => "line",
            Setting::Lines(_) => "lines",
            Setting::Style(_) => "style",
            Setting::Natural(..) => "natural",
            Setting::Origin(..) => "origin",
            Setting::Rotate(_) => "rotate",
            Setting::Scale(..) => "scale",
            Setting::Depth(_) => "depth",
            Setting::Whole(..) => WHOLE,
            Setting::Snug(..) => SNUG,
            Setting::Arrange(arrangement) => arrangement.word(),
            Setting::Share(_) => "share",
            Setting::Apart => "apart",
            Setting::Sit(_) => "sit",
            Setting::Cells(..) => "cells",
            Setting::Spare(_) => "spare",
            Setting::Guide(guide) => guide.word(),
            Setting::Scroll(_) => "scroll",
            Setting::Overflow(_) => "overhang",
            Setting::Stick(_) => "stick",
            Setting::OnlyIn(_) => "only in",
            Setting::Control(_) => "control",
            Setting::Floats => "floats",
            Setting::Input => "input",
        }
    }

    /// What it reads, to be changed.
    pub(crate) fn exprs_mut(&mut self) -> Vec<&mut Expr> {
        match self {
            Setting::Arrange(of) => of.exprs_mut(),
            Setting::Share(of) => of.exprs_mut(),
            Setting::Guide(of) => of.exprs_mut(),
            _ => Vec::new(),
        }
    }

    /// Makes it so; `false` where the view has no such thing.
    pub(crate) fn apply(self, view: &mut View) -> bool {
        let holds = view.has_content() || view.arrangement.is_some();
        let for_guides = matches!(self, Setting::Guide(_));
        if view.guide.is_some() != for_guides && !matches!(self, Setting::OnlyIn(_)) {
            return false;
        }
        match (self, &mut view.text, &mut view.image) {
            (Setting::Font(font), Some(text), _) => text.font = font,
            (Setting::Line(line), Some(text), _) => text.line = Some(line),
            (Setting::Lines(lines), Some(text), _) => text.lines = Some(lines),
            (Setting::Style(style), Some(text), _) => text.style = Some(style),
            (Setting::Natural(width, height), _, Some(image)) => *image = Image { width, height },
            (Setting::Origin(x, y), ..) => view.paint.origin = (x, y),
            (Setting::Rotate(degrees), ..) => view.paint.rotate = degrees,
            (Setting::Scale(x, y), ..) => view.paint.scale = (x, y),
            (Setting::Depth(depth), ..) => view.depth = depth,
            (Setting::Whole(level, weight), ..) if holds => {
                view.whole = Some(ContentStrength { level, weight });
            }
            (Setting::Snug(level, weight), ..) if holds => {
                view.snug = Some(ContentStrength { level, weight });
            }
            (Setting::Guide(guide), ..) => view.guide = Some(guide),
            (Setting::Arrange(arrangement), None, None) => view.arrangement = Some(arrangement),
            (Setting::Share(share), ..) => view.item_mut().share = Some(*share),
            (Setting::Cells(across, down), ..) => view.item_mut().cells = Some((across, down)),
            (Setting::Spare(cut), ..) => (view.item_mut().spare, view.item_mut().cut) = (true, cut),
            (Setting::Apart, ..) => view.item_mut().apart = true,
            (Setting::Sit(align), ..) => view.item_mut().sit = Some(align),
            (Setting::Scroll(scroll), ..) if view.content_box.is_some() => view.scroll = Some(scroll),
            (Setting::Overflow(overflow), None, None) => view.overflow = overflow,
            (Setting::Stick(sides), ..) => view.stick = sides,
            (Setting::OnlyIn(bands), ..) => view.only_in_bands = bands,
            (Setting::Control(least), ..) => view.control = Some(Control { least }),
            (Setting::Floats, ..) => view.floats = true,
            (Setting::Input, ..) => view.input = true,
            _ => return false,
        }
        true
    }
}
