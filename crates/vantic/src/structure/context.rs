//! What the edits of the structure have in common: the file that is edited, and what becomes of frames.

use crate::files::Assembled;
use crate::finding::Edit;
use crate::fix::change::{Change, changed};
use crate::fix::rule_source::{Statement, item_named, put_into, removed};
use crate::infer::grouping::farthest_side;
use crate::resolve::Source;
use crate::resolve::read::{read, read_with_references};
use crate::resolve::source_map::Reference;
use crate::screen_ext::ScreenExt as _;
use crate::syntax::ast::nodes::{block_of, node_span, of_kind};
use crate::syntax::ast::statements::ViewItem;
use crate::syntax::lexer::Kind;
use crate::syntax::parser::parser::parse_screens;
use crate::syntax::tree::Node;
use std::ops::Range;
use vantic_core::display::Display;
use vantic_core::geometry::{Direction, Frame};
use vantic_core::model::{BuildError, RuleId, Screen, ViewId, is_name, reserved_words};
use vantic_core::plan::{Placement, Plan};
use vantic_core::text::Measure;

/// Frames that differ by no more than this, in logical pixels, are the same.
pub(super) const KEPT: f64 = 0.01;

/// A screen file whose structure is edited.
pub struct Structure<'a> {
    pub(super) files: &'a Assembled,
    pub(super) source: Source,
    pub(super) plan: Plan,
    pub(super) tree: Node,
    /// On each display, in both directions of reading.
    pub(super) placements: Vec<Placement>,
    pub(super) measure: &'a (dyn Measure + Sync),
    beside: &'a (dyn Fn(Screen) -> Option<Screen> + Sync),
}

impl std::fmt::Debug for Structure<'_> {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.debug_struct("Structure").field("screen", &self.plan.screen().name()).finish_non_exhaustive()
    }
}

/// What an edit of the structure changes.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Restructured {
    /// The edits of the file.
    pub edits: Vec<Edit>,
    /// The views that are elsewhere then, on some display.
    pub moved: Vec<Moved>,
    /// On how many displays, each in both directions of reading, frames were compared.
    pub compared: usize,
}

/// A view that is elsewhere after an edit.
#[derive(Clone, Debug, PartialEq)]
pub struct Moved {
    /// Its path before the edit.
    pub view: String,
    /// The display on which it moves furthest.
    pub display: String,
    /// By how much there, in logical pixels: the side that moves furthest.
    pub by: f64,
    /// On how many displays it moves.
    pub displays: usize,
}

/// Why an edit of the structure cannot be made.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
#[non_exhaustive]
pub enum StructureError {
    /// There is no such view.
    #[error("there is no view `{path}`; {help}")]
    Unknown {
        /// The path.
        path: String,
        /// What may be meant.
        help: String,
    },
    /// The file is based on another.
    #[error("the file is based on another; edit the structure in a file that is not")]
    Based,
    /// What the edit is about is not written as a view of its own.
    #[error("`{0}` comes from a part or a `repeat`; edit that by hand")]
    Made(String),
    /// A frame that is to stay moves.
    #[error("`{view}` would move by {by:.2} on {display}; {help}")]
    Moves {
        /// The view.
        view: String,
        /// The display.
        display: String,
        /// By how much, in logical pixels.
        by: f64,
        /// What can be done.
        help: &'static str,
    },
    /// The file could not be read with the edit.
    #[error("the file would no longer be right: {0}")]
    Broken(String),
    /// What else speaks against it.
    #[error("{0}")]
    Cannot(String),
}

/// A rule of a view, as it is written.
pub(super) type OwnRule<'a> = (RuleId, Statement<'a>);

pub(super) fn cannot<T>(why: impl Into<String>) -> Result<T, StructureError> {
    Err(StructureError::Cannot(why.into()))
}

/// What has to stay where it is.
pub(super) enum Keeps<'a> {
    /// Every view.
    All,
    /// These views; what else moves is reported.
    Only(&'a [ViewId]),
}

/// A path before an edit, and after it; `None` for what is gone.
pub(super) type Renamed<'a> = dyn Fn(&str) -> Option<String> + 'a;

/// Nothing is called otherwise.
pub(super) fn same_name(path: &str) -> Option<String> {
    Some(path.to_owned())
}

impl<'a> Structure<'a> {
    /// Begins with a file. Frames are kept, and compared, on these displays, each in both directions of reading. What stands beside
    /// the file (words, expectations) is added by `beside`.
    ///
    /// # Errors
    /// A file with a base, or that cannot be read.
    pub fn new(
        files: &'a Assembled,
        displays: &[Display],
        measure: &'a (dyn Measure + Sync),
        beside: &'a (dyn Fn(Screen) -> Option<Screen> + Sync),
    ) -> Result<Self, StructureError> {
        if files.names().count() > 1 {
            return Err(StructureError::Based);
        }
        let broken = |error: &dyn std::fmt::Display| StructureError::Broken(error.to_string());
        let mut source = read_with_references(files.text()).map_err(|error| broken(&error))?;
        let does_not_fit = || StructureError::Broken("what stands beside it does not fit".into());
        source.screen = beside(source.screen).ok_or_else(does_not_fit)?;
        let plan = Plan::new(source.screen.clone()).map_err(|error| broken(&error))?;
        let tree = parse_screens(files.text(), 1).0;
        let both = |display: &Display| {
            [Direction::LeftToRight, Direction::RightToLeft].map(|way| display.clone().with_direction(way))
        };
        let placed = displays.iter().flat_map(both).map(|display| plan.place(&display, measure));
        let placements = placed.collect::<Result<Vec<_>, _>>().map_err(|error| broken(&error))?;
        Ok(Self { files, source, plan, tree, placements, measure, beside })
    }

    /// The screen as it is before an edit; its ids are those that edits take.
    pub fn screen(&self) -> &Screen {
        self.plan.screen()
    }

    pub(super) fn text(&self) -> &str {
        self.files.text()
    }

    pub(super) fn references(&self) -> &[Reference] {
        self.source.map.references.as_deref().unwrap_or_default()
    }

    pub(super) fn view(&self, path: &str) -> Result<ViewId, StructureError> {
        self.screen().find(path).ok_or_else(|| {
            let near = self.screen().nearest_path(path);
            let help = near.map_or_else(
                || "`vantic place FILE` lists the views".to_owned(),
                |near| format!("did you mean `{near}`?"),
            );
            StructureError::Unknown { path: path.to_owned(), help }
        })
    }

    /// Refuses a name that no new view can have.
    pub(super) fn usable(&self, name: &str) -> Result<(), StructureError> {
        if !is_name(name) {
            return cannot(format!("`{name}` is no name for a view: letters, digits and underscores"));
        }
        if reserved_words().any(|word| word == name) {
            return cannot(BuildError::reserved(name).to_string());
        }
        Ok(())
    }

    /// Refuses a name that a sibling of a view has.
    pub(super) fn untaken(&self, name: &str, beside: ViewId) -> Result<(), StructureError> {
        if self.screen().siblings_of(beside).any(|of| self.screen().at(of).name() == name) {
            return cannot(format!("there is already a view `{name}` there; choose another name"));
        }
        Ok(())
    }

    /// Refuses a view that a row, column or grid places.
    pub(super) fn free(&self, view: ViewId) -> Result<(), StructureError> {
        let of = self.screen().at(view);
        let is_placed = of.parent().is_some_and(|around| self.screen().at(around).arrangement().is_some());
        if is_placed && !of.item().is_some_and(|item| item.apart) {
            let path = self.path(view);
            return cannot(format!(
                "`{path}` is placed by its row, column or grid; take it out first: `release`"
            ));
        }
        Ok(())
    }

    pub(super) fn path(&self, view: ViewId) -> String {
        self.screen().path(view)
    }

    pub(super) fn line(&self, at: usize) -> usize {
        1 + self.text()[..at].matches('\n').count()
    }

    /// Where a view is declared, and its block.
    pub(super) fn item(&self, view: ViewId) -> Result<(Node, Node), StructureError> {
        let made = || StructureError::Made(self.path(view));
        let name = self.source.map.view(view).ok_or_else(made)?;
        let (item, block) = item_named(&self.tree, &name).ok_or_else(made)?;
        let in_part = item.ancestors().any(|n| matches!(n.kind(), Kind::Part | Kind::Repeat));
        if item.kind() != Kind::ViewItem || in_part {
            return Err(made());
        }
        Ok((item, block))
    }

    pub(super) fn item_span(&self, view: ViewId) -> Result<Range<usize>, StructureError> {
        Ok(node_span(&self.item(view)?.0))
    }

    /// The rules of a view outside of bands, each as it is written.
    pub(super) fn own_rules(&self, view: ViewId) -> Result<Vec<OwnRule<'_>>, StructureError> {
        self.each_rule(view).into_iter().collect()
    }

    /// The same without those that are written for several views at once.
    pub(super) fn rules_alone(&self, view: ViewId) -> Vec<OwnRule<'_>> {
        self.each_rule(view).into_iter().flatten().collect()
    }

    fn each_rule(&self, view: ViewId) -> Vec<Result<OwnRule<'_>, StructureError>> {
        let own =
            self.screen().rules().filter(|(_, rule)| rule.owner() == Some(view) && rule.band().is_none());
        let mut own: Vec<(RuleId, Option<Range<usize>>)> =
            own.map(|(id, _)| (id, self.source.map.rule(id))).collect();
        own.sort_by_key(|(_, span)| span.as_ref().map(|span| span.start));
        own.dedup_by_key(|(_, span)| span.as_ref().map(|span| span.start));
        let written = own.into_iter().map(|(id, span)| {
            let statement = span.and_then(|span| Statement::at(&self.tree, self.text(), &span));
            match statement {
                Some(statement) if statement.views_of().is_none() => Ok((id, statement)),
                Some(statement) => cannot(format!(
                    "line {} is written for several views at once; give each its own rule first",
                    self.line(statement.span().start)
                )),
                None => Err(StructureError::Made(self.path(view))),
            }
        });
        written.collect()
    }

    /// Whether a path is that of a view or of something in it.
    pub(super) fn is_at(&self, path: &str, view: ViewId) -> bool {
        let own = self.path(view);
        path == own || path.strip_prefix(&own).is_some_and(|rest| rest.starts_with('.'))
    }

    /// Whether a rule is about the place or the size of a view itself.
    pub(super) fn is_about(
        &self,
        rule: RuleId,
        view: ViewId,
        what: fn(vantic_core::model::Coordinate) -> bool,
    ) -> bool {
        let terms = self.screen().rule_at(rule).relations().iter().flat_map(|r| r.left.terms());
        terms.into_iter().any(|t| t.anchor == vantic_core::model::Anchor::View(view) && what(t.coordinate))
    }

    /// The text with changes made, and without what stands at some places.
    pub(super) fn with(&self, changes: &[Change], gone: &[Range<usize>]) -> Result<String, StructureError> {
        enum Step<'a> {
            Change(&'a Change),
            Gone(&'a Range<usize>),
        }
        let mut steps: Vec<(usize, usize, Step<'_>)> = Vec::new();
        steps.extend(changes.iter().map(|change| (change.at.0, change.at.1, Step::Change(change))));
        steps.extend(gone.iter().map(|at| (at.start, at.end, Step::Gone(at))));
        steps.sort_by_key(|(start, end, _)| (*start, *end));
        let mut text = self.text().to_owned();
        let mut done = usize::MAX;
        // The last first, so that places before it stay.
        for (start, end, step) in steps.into_iter().rev() {
            let change = match step {
                Step::Change(change) => change.clone(),
                Step::Gone(at) => removed(&text, at.clone()),
            };
            if end > done {
                return Err(StructureError::Broken("two changes of one place".into()));
            }
            let new = changed(&text, &[change]);
            text = new.ok_or_else(|| StructureError::Broken("two changes of one place".into()))?;
            done = start;
        }
        Ok(text)
    }

    /// The edit that another text of the file is, if it can be read and what has to stay where it is does.
    pub(super) fn done(
        &self,
        text: &str,
        renamed: &Renamed<'_>,
        keeps: &Keeps<'_>,
        help: &'static str,
    ) -> Result<Restructured, StructureError> {
        Ok(self.tried(text, renamed, keeps, help)?.0)
    }

    /// The same, with the screen as it is then.
    pub(super) fn tried(
        &self,
        text: &str,
        renamed: &Renamed<'_>,
        keeps: &Keeps<'_>,
        help: &'static str,
    ) -> Result<(Restructured, Plan), StructureError> {
        let broken = |why: String| StructureError::Broken(why);
        let source = readable(text)?;
        let screen = (self.beside)(source.screen);
        let screen = screen.ok_or_else(|| broken("what stands beside it does not fit any more".into()))?;
        let plan = Plan::new(screen).map_err(|error| broken(error.to_string()))?;
        let views: Vec<(ViewId, String, Option<ViewId>)> = self
            .screen()
            .views()
            .filter_map(|(view, _)| {
                let path = self.path(view);
                let then = plan.screen().find(&renamed(&path)?);
                Some((view, path, then))
            })
            .collect();
        let mut moved: Vec<Moved> = Vec::new();
        for before in &self.placements {
            let display = &before.display;
            let after = plan.place(display, self.measure).map_err(|error| broken(error.to_string()))?;
            if before.broken.is_empty() && !after.broken.is_empty() {
                return Err(broken(format!("rules contradict one another on {}; {help}", named(display))));
            }
            for (view, path, then) in &views {
                let frames = (before.frame(*view), then.and_then(|then| after.frame(then)));
                let by = match frames {
                    (Some(a), Some(b)) => farthest_side(&a, &b),
                    (None, None) => 0.0,
                    (Some(Frame { width, height, .. }), None) | (None, Some(Frame { width, height, .. })) => {
                        width.max(height).max(1.0)
                    }
                };
                if by <= KEPT {
                    continue;
                }
                let stays = match keeps {
                    Keeps::All => true,
                    Keeps::Only(some) => some.contains(view),
                };
                if stays {
                    let (view, display) = (path.clone(), named(display));
                    return Err(StructureError::Moves { view, display, by, help });
                }
                match moved.iter_mut().find(|known| known.view == *path) {
                    Some(known) => {
                        known.displays += 1;
                        if by > known.by {
                            (known.by, known.display) = (by, named(display));
                        }
                    }
                    None => {
                        moved.push(Moved { view: path.clone(), display: named(display), by, displays: 1 })
                    }
                }
            }
        }
        let edits = difference(self.text(), text).map(|change| change.edit(self.files)).into_iter().collect();
        Ok((Restructured { edits, moved, compared: self.placements.len() }, plan))
    }
}

/// A text of a screen file, read.
pub(super) fn readable(text: &str) -> Result<Source, StructureError> {
    read(text).map_err(|errors| {
        let first = errors.errors.first();
        StructureError::Broken(first.map_or_else(String::new, |error| error.message.clone()))
    })
}

/// The declaration of a view in a text, and its block, by where it stands among others; it need not be possible to read the text.
pub(super) fn item_in(text: &str, path: &str) -> Option<(Node, Node)> {
    let tree = parse_screens(text, 1).0;
    let screen = tree.children().find(|n| n.kind() == Kind::ScreenItem)?;
    let mut block = block_of(&screen)?;
    let mut found = None;
    for name in path.split('.') {
        let is_it = |node: &Node| ViewItem::of(node).is_some_and(|item| item.full_name() == name);
        let item = of_kind(&block, Kind::ViewItem).find(is_it)?;
        block = block_of(&item)?;
        found = Some((item, block.clone()));
    }
    found
}

/// A text with lines put into the block of a view.
pub(super) fn with_lines(text: &str, path: &str, lines: &[String]) -> Result<String, StructureError> {
    if lines.is_empty() {
        return Ok(text.to_owned());
    }
    let lines = in_order(lines);
    let change = item_in(text, path).map(|(item, block)| put_into(text, &item, &block, &lines));
    let text = change.and_then(|change| changed(text, &[change]));
    text.ok_or_else(|| StructureError::Made(path.to_owned()))
}

/// Lines in which pins to the same box are one, and sizes come behind places.
pub(super) fn in_order(lines: &[String]) -> Vec<String> {
    let mut all: Vec<String> = Vec::new();
    let is_size =
        |line: &&String| ["width ", "height ", "size ", "ratio "].iter().any(|word| line.starts_with(word));
    let (sizes, places): (Vec<&String>, Vec<&String>) = lines.iter().partition(is_size);
    for line in places.into_iter().chain(sizes) {
        let pin = |line: &str| {
            let (sides, to) = line.strip_prefix("pin ")?.split_once(" to ")?;
            Some((sides.to_owned(), to.to_owned()))
        };
        let joined = pin(line).and_then(|(sides, to)| {
            let (at, before) = all.iter().enumerate().find_map(|(at, known)| {
                let (before, known) = pin(known)?;
                (known == to).then_some((at, before))
            })?;
            Some((at, format!("pin {before}, {sides} to {to}")))
        });
        match joined {
            Some((at, line)) => all[at] = line,
            None => all.push(line.clone()),
        }
    }
    all
}

/// The lines that differ between two texts, from the first to the last.
fn difference(old: &str, new: &str) -> Option<Change> {
    if old == new {
        return None;
    }
    let same = std::iter::zip(old.split_inclusive('\n'), new.split_inclusive('\n'));
    let start: usize = same.take_while(|(a, b)| a == b).map(|(a, _)| a.len()).sum();
    let (old_rest, new_rest) = (&old[start..], &new[start..]);
    let lines = |text| -> Vec<&str> { str::split_inclusive(text, '\n').collect() };
    let same = std::iter::zip(lines(old_rest).into_iter().rev(), lines(new_rest).into_iter().rev());
    let end: usize = same.take_while(|(a, b)| a == b).map(|(a, _)| a.len()).sum();
    Some(Change::new(start..old.len() - end, &new_rest[..new_rest.len() - end]))
}

/// A display with its direction, where that is not in its name.
fn named(display: &Display) -> String {
    match display.direction() {
        Direction::RightToLeft if !display.name().contains("right to left") => {
            format!("{}, right to left", display.name())
        }
        _ => display.name().to_owned(),
    }
}
