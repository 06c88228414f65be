//! The screen: views, rules, levels and bands, with every name resolved.

mod build;
mod condition;
mod print;
mod sentence;

pub(crate) use build::reserved_words;
pub use build::{BuildError, BuildErrors, ScreenBuilder};
pub(crate) use build::{Content, SHEET, is_name};
pub(crate) use condition::combinations;
pub use condition::{Condition, Order, Property};
pub(crate) use print::quoted;

use crate::arrange::{Align, Arrangement, Item, Share, Space};
use crate::claim::Claim;
use crate::coordinate::{Relation, Side};
use crate::design::Design;
use crate::expect::Expectation;
use crate::guide::Guide;
use crate::language::Language;
use crate::read::nearest;
use crate::scroll::{Overhang, Scroll};

macro_rules! id {
    ($(#[$doc:meta])* $name:ident) => {
        $(#[$doc])*
        #[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
        pub struct $name(pub(crate) u32);

        impl $name {
            /// The position in the screen's table, counted from 0 in declared order.
            pub fn index(self) -> usize {
                self.0 as usize
            }
        }
    };
}
id!(
    /// A view of a screen.
    ViewId
);
id!(
    /// A rule of a screen: one line of it, which may hold several relations.
    RuleId
);
id!(
    /// A band of a screen.
    BandId
);
id!(
    /// A named number of a screen that bands change.
    ValueId
);
id!(
    /// A level of a screen's preferences; smaller is stronger.
    LevelId
);

impl BandId {
    /// The band at a position of a screen's table.
    pub fn at(screen: &Screen, index: usize) -> Option<BandId> {
        (index < screen.bands.len()).then_some(BandId(index as u32))
    }
}

/// The most views a screen may have.
pub const MAX_VIEWS: usize = 100_000;
/// The most rules a screen may have.
pub const MAX_RULES: usize = 1_000_000;
/// How deep views may be nested.
pub const MAX_NESTING: usize = 64;
/// The largest number a rule may hold, either side of zero.
pub const MAX_NUMBER: f64 = 1e7;
/// The most levels a ladder may have.
pub const MAX_LEVELS: usize = 256;
/// The most bands a screen may have.
pub const MAX_BANDS: usize = 64;

/// How many expressions may stand in the `max`, `min` and `clamp` of one relation.
pub const MAX_PICKED: usize = 1000;

/// The level that keeps a text no smaller than its words; directly below must.
pub const WHOLE: &str = "whole";
/// The level that keeps a text no larger than its words; below the ladder.
pub const SNUG: &str = "snug";

/// A view: a named rectangle.
#[derive(Clone, Debug, PartialEq)]
pub struct View {
    pub(crate) name: String,
    pub(crate) parent: Option<ViewId>,
    pub(crate) children: Vec<ViewId>,
    /// Its place among its siblings, counted from 0.
    pub(crate) place: usize,
    pub(crate) text: Option<Text>,
    pub(crate) image: Option<Image>,
    pub(crate) paint: Paint,
    /// How near it is to the reader: among siblings the nearer is on top.
    pub(crate) depth: f64,
    /// How its two built-in preferences are meant, where that is stated: `whole`, then `snug`.
    pub(crate) content: [Option<ContentStrength>; 2],
    /// How it arranges its children, if it does.
    pub(crate) arrangement: Option<Box<Arrangement>>,
    /// Empty lengths among the children, each with how many children stand before it.
    pub(crate) spaces: Vec<(usize, Space)>,
    /// What is said of it in the arrangement it stands in.
    pub(crate) item: Option<Box<Item>>,
    /// The guides in it, in declared order; they are none of its children.
    pub(crate) guides: Vec<ViewId>,
    /// What it is as a guide, if it is one.
    pub(crate) guide: Option<Box<Guide>>,
    /// Which way it scrolls what it holds, where that is said.
    pub(crate) scroll: Option<Scroll>,
    /// The box of what it scrolls: a guide in it.
    pub(crate) sheet: Option<ViewId>,
    /// What becomes of what is larger than it.
    pub(crate) overhang: Overhang,
    /// The sides of the view that scrolls it that it sticks to, each with its distance inwards.
    pub(crate) stick: Vec<(Side, f64)>,
    /// The bands in which alone it is there; none for everywhere.
    pub(crate) only: Vec<BandId>,
    /// Whether it is pointed at or touched.
    pub(crate) control: Option<Control>,
}

/// That a view is pointed at or touched.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Control {
    /// How wide and high it is to be at least, in logical pixels; 24 without, unless no other is near.
    pub least: Option<f64>,
}

impl View {
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

    /// What it is as a guide, if it is one: a box that is not painted.
    pub fn guide(&self) -> Option<&Guide> {
        self.guide.as_deref()
    }

    /// The bands in which alone it is there; none where it is there without.
    pub fn only_in(&self) -> &[BandId] {
        &self.only
    }

    /// Which way it scrolls what it holds, where that is said.
    pub fn scroll(&self) -> Option<Scroll> {
        self.scroll
    }

    /// The box of what it scrolls, a guide in it, where it scrolls.
    pub fn scrolled(&self) -> Option<ViewId> {
        self.sheet
    }

    /// Whether what it holds is cut off at its edges.
    pub(crate) fn clips(&self) -> bool {
        self.overhang == Overhang::Clip || self.scroll.is_some_and(|s| s != Scroll::Off)
    }

    /// Whether it has content of its own: words, or a picture.
    pub(crate) fn has_content(&self) -> bool {
        self.text.is_some() || self.image.is_some()
    }

    /// What is said of it in the arrangement it stands in, to be changed.
    fn item_mut(&mut self) -> &mut Item {
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
}

impl Text {
    /// Words in a font size, with lines as high and as many as they come.
    pub fn new(words: impl Into<String>, font: f64) -> Self {
        Self { words: words.into(), font, line: None, lines: None }
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

/// Something about a view that is no rule. Bands may change it.
#[derive(Clone, Debug, PartialEq)]
pub enum Setting {
    /// The font size of a text in logical pixels, from 1 to 1000.
    Font(f64),
    /// The height of a text's lines in logical pixels, from 1 to 10,000.
    Line(f64),
    /// How many lines of a text are shown at most, from 1.
    Lines(u32),
    /// The natural size of an image in logical pixels, from 1 to 100,000.
    Natural(f64, f64),
    /// The point that turning and scaling leave where it is, as fractions of the frame.
    Origin(f64, f64),
    /// Degrees by which it is painted turned, clockwise.
    Rotate(f64),
    /// Factors by which it is painted scaled, from 0.001 to 1000.
    Scale(f64, f64),
    /// How near it is to the reader, at most 10,000,000 either side of zero: among siblings the nearer is on top.
    Depth(f64),
    /// On which level, and with which weight, content is not to be cut.
    Whole(Option<LevelId>, f64),
    /// On which level, and with which weight, a view is not to be larger than its content.
    Snug(Option<LevelId>, f64),
    /// How a view arranges its children.
    Arrange(Box<Arrangement>),
    /// How much a child takes of the room that is left.
    Share(Box<Share>),
    /// A child stays out of the arrangement.
    Apart,
    /// Where a child lies across, if not as the others.
    Sit(Align),
    /// How many columns and rows of a grid a child takes, from 1 each.
    Cells(u32, u32),
    /// A child is shown only where there is room for it; with a length in logical pixels above zero, the first for which
    /// there is none is shown cut, where so much of it can be seen.
    Spare(Option<f64>),
    /// What a guide is.
    Guide(Box<Guide>),
    /// Which way a view scrolls what it holds; a band may only change it.
    Scroll(Scroll),
    /// What becomes of what is larger than the view.
    Overhang(Overhang),
    /// Sides of the nearest view around it that scrolls, each with a distance inwards in logical pixels: it does not
    /// go beyond them while the view that it stands in is there.
    Stick(Vec<(Side, f64)>),
    /// The bands in which alone a view is there; no band changes it.
    OnlyIn(Vec<BandId>),
    /// A view is pointed at or touched; with how wide and high it is to be at least, in logical pixels above zero.
    Control(Option<f64>),
}

impl Setting {
    /// The word that it begins with in a screen file.
    pub(crate) fn word(&self) -> &'static str {
        match self {
            Setting::Font(_) => "font",
            Setting::Line(_) => "line",
            Setting::Lines(_) => "lines",
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
            Setting::Overhang(_) => "overhang",
            Setting::Stick(_) => "stick",
            Setting::OnlyIn(_) => "only in",
            Setting::Control(_) => "control",
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
            (Setting::Natural(width, height), _, Some(image)) => *image = Image { width, height },
            (Setting::Origin(x, y), ..) => view.paint.origin = (x, y),
            (Setting::Rotate(degrees), ..) => view.paint.rotate = degrees,
            (Setting::Scale(x, y), ..) => view.paint.scale = (x, y),
            (Setting::Depth(depth), ..) => view.depth = depth,
            (Setting::Whole(level, weight), ..) if holds => {
                view.content[0] = Some(ContentStrength { level, weight });
            }
            (Setting::Snug(level, weight), ..) if holds => {
                view.content[1] = Some(ContentStrength { level, weight });
            }
            (Setting::Guide(guide), ..) => view.guide = Some(guide),
            (Setting::Arrange(arrangement), None, None) => view.arrangement = Some(arrangement),
            (Setting::Share(share), ..) => view.item_mut().share = Some(*share),
            (Setting::Cells(across, down), ..) => view.item_mut().cells = Some((across, down)),
            (Setting::Spare(cut), ..) => (view.item_mut().spare, view.item_mut().cut) = (true, cut),
            (Setting::Apart, ..) => view.item_mut().apart = true,
            (Setting::Sit(align), ..) => view.item_mut().sit = Some(align),
            (Setting::Scroll(scroll), ..) if view.sheet.is_some() => view.scroll = Some(scroll),
            (Setting::Overhang(overhang), None, None) => view.overhang = overhang,
            (Setting::Stick(sides), ..) => view.stick = sides,
            (Setting::OnlyIn(bands), ..) => view.only = bands,
            (Setting::Control(least), ..) => view.control = Some(Control { least }),
            _ => return false,
        }
        true
    }
}

/// How strongly a rule is meant.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Strength {
    /// It has to hold.
    Must,
    /// It gives way to every must and to every stronger level.
    Prefer {
        /// The level.
        level: LevelId,
        /// How much it counts among the rules on its level.
        weight: f64,
    },
}

/// A rule before it is added to a screen.
#[derive(Clone, Debug, PartialEq)]
pub struct Draft {
    pub(crate) relations: Vec<Relation>,
    pub(crate) label: Option<String>,
}

impl Draft {
    pub(crate) fn new(relations: Vec<Relation>) -> Self {
        Self { relations, label: None }
    }

    /// With a label, so that a band can replace or drop it.
    pub fn labelled(self, label: impl Into<String>) -> Self {
        Self { label: Some(label.into()), ..self }
    }

    /// As a preference on a level instead of a must.
    pub fn prefer(self, level: LevelId) -> Self {
        self.each(|r| r.level = Some(level))
    }

    /// How much it counts among the preferences on its level, from 0.001 to 1000.
    pub fn weight(self, weight: f64) -> Self {
        self.each(|r| r.weight = weight)
    }

    /// Together with another as one rule: a preferred gap and the least, say. Each keeps its level.
    pub fn and(mut self, other: Draft) -> Self {
        self.relations.extend(other.relations);
        self
    }

    fn each(mut self, change: impl FnMut(&mut Relation)) -> Self {
        self.relations.iter_mut().for_each(change);
        self
    }
}

/// A rule of a screen.
#[derive(Clone, Debug, PartialEq)]
pub struct Rule {
    pub(crate) owner: Option<ViewId>,
    pub(crate) band: Option<BandId>,
    pub(crate) label: Option<String>,
    pub(crate) number: u32,
    pub(crate) relations: Vec<Relation>,
}

impl Rule {
    /// The view in whose block it stands; `None` for the screen itself.
    pub fn owner(&self) -> Option<ViewId> {
        self.owner
    }

    /// The relations it stands for: one, or one per side or axis.
    pub fn relations(&self) -> &[Relation] {
        &self.relations
    }
}

/// A named number that bands change.
#[derive(Clone, Debug, PartialEq)]
pub struct Value {
    pub(crate) name: String,
    pub(crate) number: f64,
}

impl Value {
    /// The name.
    pub fn name(&self) -> &str {
        &self.name
    }

    /// The number where no band changes it.
    pub fn number(&self) -> f64 {
        self.number
    }
}

/// Alternatives of a screen, of which one is shown at a time: closed and open, empty and full.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct State {
    pub(crate) name: String,
    pub(crate) alternatives: Vec<String>,
}

impl State {
    /// The name.
    pub fn name(&self) -> &str {
        &self.name
    }

    /// The names of the alternatives; the first is shown where a display names none.
    pub fn alternatives(&self) -> &[String] {
        &self.alternatives
    }
}

/// A named condition on the display.
#[derive(Clone, Debug, PartialEq)]
pub struct Band {
    pub(crate) name: String,
    pub(crate) condition: Condition,
}

impl Band {
    /// The name.
    pub fn name(&self) -> &str {
        &self.name
    }

    /// When it holds.
    pub fn condition(&self) -> &Condition {
        &self.condition
    }
}

/// What a band does, in written order.
#[derive(Clone, Debug, PartialEq)]
pub(crate) enum Change {
    /// Adds a rule; it replaces an earlier one of the same view with the same label.
    Add(RuleId),
    Drop(RuleId),
    Hide {
        view: ViewId,
        keep_space: bool,
        /// What is shown instead of it, and read where rules read it.
        instead: Option<ViewId>,
    },
    /// Shows what was hidden before, or is there only elsewhere.
    Show(ViewId),
    Set {
        view: ViewId,
        setting: Setting,
    },
    Value {
        value: ValueId,
        number: f64,
    },
}

/// A finding that the author accepts on purpose.
#[derive(Clone, Debug, PartialEq)]
pub struct Acceptance {
    pub(crate) code: String,
    /// View paths or rule names.
    pub(crate) names: Vec<String>,
    pub(crate) reason: String,
    /// Whether it comes from a base, and may be for other screens on it.
    pub(crate) is_inherited: bool,
}

impl Acceptance {
    /// The code of the finding.
    pub fn code(&self) -> &str {
        &self.code
    }

    /// The views or rules it is about.
    pub fn names(&self) -> &[String] {
        &self.names
    }

    /// Why it is accepted.
    pub fn reason(&self) -> &str {
        &self.reason
    }
}

/// A screen: what is on it and by which rules it is placed. It holds no unresolved name, and
/// prints itself as a screen file with [`std::fmt::Display`].
#[derive(Clone, Debug, PartialEq)]
pub struct Screen {
    pub(crate) name: String,
    /// The author's ladder as written.
    pub(crate) ladder: Vec<String>,
    /// Every level, strongest first, the built-in ones included.
    pub(crate) levels: Vec<String>,
    pub(crate) values: Vec<Value>,
    pub(crate) roots: Vec<ViewId>,
    /// The guides directly on the screen.
    pub(crate) guides: Vec<ViewId>,
    pub(crate) views: Vec<View>,
    pub(crate) rules: Vec<Rule>,
    pub(crate) design: Option<Design>,
    pub(crate) languages: Vec<Language>,
    pub(crate) expectations: Vec<Expectation>,
    pub(crate) states: Vec<State>,
    pub(crate) bands: Vec<Band>,
    pub(crate) changes: Vec<(BandId, Change)>,
    pub(crate) acceptances: Vec<Acceptance>,
    pub(crate) claims: Vec<Claim>,
}

impl Screen {
    /// The name.
    pub fn name(&self) -> &str {
        &self.name
    }

    /// All views with their ids, in declared order.
    pub fn views(&self) -> impl Iterator<Item = (ViewId, &View)> {
        self.views.iter().enumerate().map(|(i, v)| (ViewId(i as u32), v))
    }

    /// All rules with their ids, in written order, those of bands included.
    pub fn rules(&self) -> impl Iterator<Item = (RuleId, &Rule)> {
        self.rules.iter().enumerate().map(|(i, r)| (RuleId(i as u32), r))
    }

    /// The states, in declared order.
    pub fn states(&self) -> &[State] {
        &self.states
    }

    /// The bands, in declared order; each alternative of a state is one, called `state.alternative`.
    pub fn bands(&self) -> &[Band] {
        &self.bands
    }

    /// A name that no band has yet.
    pub(crate) fn free_band_name(&self, name: &str) -> String {
        let taken = |name: &String| self.bands.iter().any(|b| b.name() == name);
        let mut names = std::iter::once(name.to_owned()).chain((2..).map(|i| format!("{name}{i}")));
        names.find(|name| !taken(name)).unwrap_or_default()
    }

    /// What a band changes, in written order, as lines of a screen file.
    pub fn changes_in(&self, band: BandId) -> Vec<String> {
        self.changes
            .iter()
            .filter(|(of, _)| *of == band)
            .map(|(_, change)| self.change_text(change))
            .collect()
    }

    /// The named numbers that bands change, in declared order.
    pub fn values(&self) -> &[Value] {
        &self.values
    }

    /// The names of the levels, strongest first, `whole` and `snug` among them.
    pub fn levels(&self) -> &[String] {
        &self.levels
    }

    /// The findings that are accepted on purpose.
    pub fn acceptances(&self) -> &[Acceptance] {
        &self.acceptances
    }

    /// A view; `None` for an id of a larger screen.
    pub fn view(&self, view: ViewId) -> Option<&View> {
        self.views.get(view.index())
    }

    /// A rule; `None` for an id of a larger screen.
    pub fn rule(&self, rule: RuleId) -> Option<&Rule> {
        self.rules.get(rule.index())
    }

    /// A view of this screen.
    pub(crate) fn at(&self, view: ViewId) -> &View {
        &self.views[view.index()]
    }

    /// A rule of this screen.
    pub(crate) fn rule_at(&self, rule: RuleId) -> &Rule {
        &self.rules[rule.index()]
    }

    /// The views beside a view, itself included, in declared order.
    pub(crate) fn siblings(&self, view: ViewId) -> &[ViewId] {
        match self.at(view).parent {
            Some(parent) => &self.at(parent).children,
            None => &self.roots,
        }
    }

    /// The views beside a view, itself included, in declared order; none for an id of a larger screen.
    pub(crate) fn siblings_of(&self, view: ViewId) -> impl Iterator<Item = ViewId> + '_ {
        let known = self.view(view).map(|_| self.siblings(view));
        known.unwrap_or_default().iter().copied()
    }

    /// The siblings before a view and those after it, in declared order.
    pub(crate) fn around(&self, view: ViewId) -> (&[ViewId], &[ViewId]) {
        let (siblings, at) = (self.siblings(view), self.at(view).place);
        (&siblings[..at], siblings.get(at + 1..).unwrap_or_default())
    }

    /// The names from the outermost view to this one, joined by dots; empty for an id of a larger
    /// screen.
    pub fn path(&self, view: ViewId) -> String {
        let around = std::iter::successors(self.view(view), |v| v.parent.map(|p| self.at(p)));
        let mut names: Vec<&str> = around.map(|v| v.name.as_str()).collect();
        names.reverse();
        names.join(".")
    }

    /// The view of this path.
    pub fn find(&self, path: &str) -> Option<ViewId> {
        let mut found = None;
        for name in path.split('.') {
            found = Some(self.named(found, name)?);
        }
        found
    }

    /// The view or guide of a name directly in a view, or on the screen.
    fn named(&self, scope: Option<ViewId>, name: &str) -> Option<ViewId> {
        let (views, guides) = match scope {
            Some(view) => (&self.at(view).children, &self.at(view).guides),
            None => (&self.roots, &self.guides),
        };
        views.iter().chain(guides).copied().find(|&v| self.at(v).name == name)
    }

    /// The path of a view that is most like a misspelt one, if any is.
    pub fn nearest_path(&self, path: &str) -> Option<String> {
        let paths: Vec<String> = self.views().map(|(id, _)| self.path(id)).collect();
        nearest(path, paths.iter().map(String::as_str))
    }

    /// What messages call a rule: `board.label`, or `board#2`, or in a band `board@wide#1`; empty
    /// for an id of a larger screen.
    pub fn rule_name(&self, rule: RuleId) -> String {
        let Some(r) = self.rule(rule) else { return String::new() };
        let owner = r.owner.map_or_else(|| "screen".to_owned(), |v| self.path(v));
        match (&r.label, r.band) {
            (Some(label), _) => format!("{owner}.{label}"),
            (None, Some(band)) => format!("{owner}@{}#{}", self.bands[band.index()].name, r.number),
            (None, None) => format!("{owner}#{}", r.number),
        }
    }

    /// The rules of this name, as messages call them: one, or those of several bands that replace one another.
    pub fn rules_called(&self, name: &str) -> Vec<RuleId> {
        self.rules().map(|(id, _)| id).filter(|&id| self.rule_name(id) == name).collect()
    }

    /// The name of a level; empty for an id of a larger screen.
    pub fn level_name(&self, level: LevelId) -> &str {
        self.levels.get(level.index()).map_or("", String::as_str)
    }

    pub(crate) fn level(&self, name: &str) -> Option<LevelId> {
        self.levels.iter().position(|l| l == name).map(|i| LevelId(i as u32))
    }
}
