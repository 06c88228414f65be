//! How a view arranges its children, read: rows and columns, shares, spaces.

use crate::resolve::reader::Reader;
use crate::resolve::scope::{Done, Reported, Value};
use crate::screen_ext::ScreenExt as _;
use crate::syntax::ast::arranging::{self as ast, Clause, GridColumns, Repeat, clauses, cut};
use crate::syntax::ast::nodes::{first_word, node_span, value};
use crate::syntax::ast::rules::{BoundKind, sides};
use crate::syntax::lexer::Kind;
use crate::syntax::tree::{Node, Token};
use vantic_core::geometry::Axis;
use vantic_core::model::{
    Align, Anchor, Arrangement, Cells, ColumnWidth, Columns, Edges, Expr, Guide, MAX_CELLS, MAX_SPAN, Mark,
    Overflow, Scroll, Setting, Share, Space, Spread, ViewId,
};

/// How often a view is repeated.
pub(crate) struct Repeated {
    /// How many there are at most.
    pub(crate) count: u32,
    /// How many of them there are whatever the space.
    pub(crate) sure: u32,
    /// How much is to be seen of one that is cut.
    pub(crate) cut: Option<f64>,
}

/// How often a view may be repeated.
pub(crate) const MAX_REPEATED: u32 = 1000;

impl Reader {
    /// The setting that such a statement is.
    pub(crate) fn arranging(&mut self, node: &Node, view: ViewId) -> Done<Setting> {
        Ok(match node.kind() {
            Kind::Arrange | Kind::Grid => Setting::Arrange(Box::new(self.arrangement(node, view)?)),
            Kind::Share => Setting::Share(Box::new(self.share(node, view)?)),
            Kind::Cells => {
                let value = value(node).ok_or(Reported)?;
                let (across, down) = match value.kind() {
                    Kind::Group => self.two(&value, Some(view))?,
                    _ => (self.number(&value, Some(view))?, 1.0),
                };
                match (whole(across, MAX_SPAN), whole(down, MAX_SPAN)) {
                    (Some(across), Some(down)) => Setting::Cells(across, down),
                    _ => {
                        let help = format!("write whole numbers from 1 to {MAX_SPAN}: columns, then rows");
                        return Err(self.error_with_help(
                            node_span(&value),
                            "a child takes whole cells",
                            help,
                        ));
                    }
                }
            }
            Kind::Guide => Setting::Guide(Box::new(self.guide(node, view)?)),
            Kind::Sit => {
                let word = first_word(node, 1).ok_or(Reported)?;
                Setting::Sit(one_of(&word, &Align::SPELLINGS)?)
            }
            Kind::Spare => Setting::Spare(self.cut(cut(node).as_ref(), Some(view))?),
            Kind::Control => {
                let least = value(node);
                Setting::Control(least.map(|least| self.number(&least, Some(view))).transpose()?)
            }
            Kind::Scroll => {
                let word = first_word(node, 1).ok_or(Reported)?;
                Setting::Scroll(one_of(&word, &Scroll::SPELLINGS)?)
            }
            Kind::Overhang => {
                let word = first_word(node, 1).ok_or(Reported)?;
                Setting::Overflow(one_of(&word, &Overflow::SPELLINGS)?)
            }
            Kind::Stick => {
                let mut stuck = Vec::new();
                for side in sides(node).ok_or(Reported)? {
                    let by = side.by.as_ref();
                    let by = by.map(|by| self.number(by, Some(view))).transpose()?.unwrap_or_default();
                    stuck.push((self.side(&side)?, by));
                }
                Setting::Stick(stuck)
            }
            Kind::Floats => Setting::Floats,
            Kind::Input => Setting::Input,
            _ => Setting::Apart,
        })
    }

    fn arrangement(&mut self, node: &Node, view: ViewId) -> Done<Arrangement> {
        let word = first_word(node, 0).ok_or(Reported)?;
        let is_grid = node.kind() == Kind::Grid;
        let mut arrangement = match word.text() {
            "grid" => Arrangement::grid(Columns::equal(1)),
            "column" => Arrangement::column(),
            _ => Arrangement::row(),
        };
        let mut said: Vec<String> = Vec::new();
        let mut wraps = None;
        for clause in clauses(node).ok_or(Reported)? {
            self.said_before(&mut said, &clause)?;
            let Clause { node: clause, word, choice, value } = clause;
            match (word.text(), value, &choice) {
                ("columns", ..) => arrangement.columns = Some(self.columns(&clause, view)?),
                ("rows", Some(height), _) => arrangement.rows = Some(self.scalar(&height, Some(view))?),
                ("gap", Some(gap), _)
                    if is_grid && gap.kind() == Kind::Group && gap.children().count() == 2 =>
                {
                    let mut parts = gap.children();
                    let mut part = || self.scalar(&parts.next().ok_or(Reported)?, Some(view));
                    (arrangement.gap, arrangement.wrap) = (part()?, Some(part()?));
                }
                ("gap", Some(gap), _) => arrangement.gap = self.scalar(&gap, Some(view))?,
                ("padding", Some(padding), _) => arrangement.padding = self.padding(&padding, view)?,
                ("wrap", by, _) => wraps = Some(by),
                ("spread", _, Some(word)) => {
                    arrangement.spread = one_of(word, &Spread::SPELLINGS)?;
                }
                ("align", _, Some(word)) => {
                    arrangement.align = one_of(word, &Align::SPELLINGS)?;
                }
                _ => return Err(Reported),
            }
        }
        arrangement.wrap = match wraps {
            Some(Some(by)) => Some(self.scalar(&by, Some(view))?),
            Some(None) => Some(arrangement.gap.clone()),
            None => arrangement.wrap,
        };
        Ok(arrangement)
    }

    /// `columns 3`, and how wide they are.
    fn columns(&mut self, clause: &Node, view: ViewId) -> Done<Columns> {
        let GridColumns { count, of, at_least, snug } = GridColumns::of(clause);
        let count = count.map(|number| self.count(&number, view)).transpose()?;
        let mut length = |of: Option<Node>| of.map(|of| self.scalar(&of, Some(view))).transpose();
        let width = match (length(of)?, length(at_least)?, count) {
            (Some(width), ..) => ColumnWidth::Of(width),
            (None, Some(least), None) => ColumnWidth::AtLeast(least),
            (None, None, Some(_)) if snug => ColumnWidth::Snug,
            (None, None, Some(_)) => ColumnWidth::Equal,
            _ => {
                let help = "`columns 3` share the width, `columns 3 of 120` are so wide, `columns at least \
                            120` are as many as fit";
                return Err(self.error_with_help(
                    node_span(clause),
                    "the number of columns is not clear",
                    help,
                ));
            }
        };
        Ok(Columns { count, width })
    }

    /// One distance for all sides, or four: at the start, the top, the end and the bottom.
    fn padding(&mut self, node: &Node, view: ViewId) -> Done<[Expr; 4]> {
        let sides: Vec<Node> = node.children().collect();
        match (node.kind(), sides.as_slice()) {
            (Kind::Group, [start, top, end, bottom]) => {
                let mut of = |side: &Node| self.scalar(side, Some(view));
                Ok([of(start)?, of(top)?, of(end)?, of(bottom)?])
            }
            (Kind::Group, [_, _, ..]) => {
                let message = format!("padding of {} sides", sides.len());
                let help = "write one distance for all sides, or four: `padding (16, 8, 16, 8)` for start, \
                            top, end and bottom";
                Err(self.error_with_help(node_span(node), message, help))
            }
            _ => {
                let all = self.scalar(node, Some(view))?;
                Ok(std::array::from_fn(|_| all.clone()))
            }
        }
    }

    fn guide(&mut self, node: &Node, view: ViewId) -> Done<Guide> {
        match ast::Guide::of(node).ok_or(Reported)? {
            ast::Guide::Padding(value) => Ok(Guide::Padding(self.padding(&value, view)?)),
            ast::Guide::Mark { axis, at, strength } => {
                let at = at.map(|value| self.distance_along(&value, axis, view)).transpose()?;
                let strength = strength.map(|s| self.strength(&s, Some(view)));
                let (level, weight) = strength.transpose()?.unwrap_or((None, 1.0));
                Ok(Guide::Mark(Mark { axis, at, level, weight }))
            }
            ast::Guide::Cells { axis, count, clauses } => {
                let mut cells = Cells::plain(axis);
                cells.count = count.map(|value| self.count(&value, view)).transpose()?;
                let mut said: Vec<String> = Vec::new();
                for clause in clauses {
                    self.said_before(&mut said, &clause)?;
                    let value = clause.value.ok_or(Reported)?;
                    match clause.word.text() {
                        "of" => cells.size = Some(self.scalar(&value, Some(view))?),
                        "margin" => cells.margin = self.scalar(&value, Some(view))?,
                        "gutter" => cells.gutter = self.scalar(&value, Some(view))?,
                        "offset" => cells.offset = self.scalar(&value, Some(view))?,
                        _ => cells.lean = self.lean(&value, Some(view))?,
                    }
                }
                Ok(Guide::Cells(cells))
            }
        }
    }

    /// A distance from the parent's start or top; a percentage is one of the parent's size.
    fn distance_along(&mut self, node: &Node, axis: Axis, view: ViewId) -> Done<Expr> {
        match self.value(node, Some(view))? {
            Value::Percent(percent) => {
                let parent = self.builder.screen().at(view).parent().map_or(Anchor::Screen, Anchor::View);
                Ok(Expr::of(parent, Edges::of_axis(axis).size) * (percent / 100.0))
            }
            Value::One(expr) => Ok(expr),
            Value::Two(_) => {
                Err(self.error(node_span(node), "expected one number or coordinate, found a pair"))
            }
        }
    }

    /// A whole number from 1 to the most there may be.
    fn count(&mut self, node: &Node, view: ViewId) -> Done<u32> {
        let count = self.number(node, Some(view))?;
        if let Some(count) = whole(count, MAX_CELLS) {
            return Ok(count);
        }
        let help = format!("write a whole number from 1 to {MAX_CELLS}");
        Err(self.error_with_help(node_span(node), format!("there cannot be {count} of them"), help))
    }

    /// Refuses a clause that is given twice.
    fn said_before(&mut self, said: &mut Vec<String>, clause: &Clause) -> Done {
        let word = clause.word.text();
        if said.iter().any(|s| s == word) {
            let message = format!("`{word}` is given twice");
            return Err(self.error_with_help(node_span(&clause.node), message, "give it once"));
        }
        said.push(word.to_owned());
        Ok(())
    }

    fn share(&mut self, node: &Node, view: ViewId) -> Done<Share> {
        let ast::Share { weight, at_least, at_most } = ast::Share::of(node).ok_or(Reported)?;
        let number = self.number(&weight, Some(view))?;
        if number <= 0.0 {
            let message = format!("a share of {number} is none");
            let help =
                "write a weight above zero; what takes no share keeps its own size, so leave the line out";
            return Err(self.error_with_help(node_span(&weight), message, help));
        }
        self.reject_duplicates(node)?;
        let mut limit = |of: Option<Node>| of.map(|of| self.scalar(&of, Some(view))).transpose();
        Ok(Share { least: limit(at_least)?, most: limit(at_most)?, ..Share::of(number) })
    }

    /// `cut 24`: how much is to be seen of what is cut.
    fn cut(&mut self, value: Option<&Node>, owner: Option<ViewId>) -> Done<Option<f64>> {
        value.map(|value| self.number(value, owner)).transpose()
    }

    /// `repeat slot 5`: how many there are, and how many of them whatever the space.
    pub(crate) fn repeated(&mut self, node: &Node, repeat: &Repeat, owner: Option<ViewId>) -> Done<Repeated> {
        let limit = |reader: &mut Self, value: &Node| {
            let number = reader.number(value, owner)?;
            if let Some(count) = whole(number, MAX_REPEATED) {
                return Ok(count);
            }
            let help = format!("write a whole number from 1 to {MAX_REPEATED}");
            Err(reader.error_with_help(node_span(value), format!("{number} cannot be repeated"), help))
        };
        if repeat.bounds.is_empty() {
            let count = limit(self, repeat.count.as_ref().ok_or(Reported)?)?;
            return Ok(Repeated { count, sure: count, cut: None });
        }
        self.reject_duplicates(node)?;
        let (mut least, mut most) = (1, None);
        for bound in &repeat.bounds {
            let number = limit(self, &bound.value)?;
            match bound.kind {
                BoundKind::AtLeast => least = number,
                _ => most = Some(number),
            }
        }
        match most {
            Some(most) if most >= least => {
                Ok(Repeated { count: most, sure: least, cut: self.cut(repeat.cut.as_ref(), owner)? })
            }
            Some(_) => {
                Err(self.error_with_help(node_span(node), "at most is less than at least", "swap the two"))
            }
            None => {
                let help = "write `repeat name at least 2, at most 20 { ... }`";
                Err(self.error_with_help(node_span(node), "the number of copies has no limits", help))
            }
        }
    }

    /// `space 24`, `space share 2`, `space`.
    pub(crate) fn space(&mut self, node: &Node, view: ViewId, behind: usize) -> Done {
        let ast::Space { is_share, value } = ast::Space::of(node);
        let space = match value {
            None => Space::Flexible(1.0),
            Some(value) if is_share => Space::Flexible(self.number(&value, Some(view))?),
            Some(value) => Space::Fixed(self.scalar(&value, Some(view))?),
        };
        let result = self.builder.add_space(view, behind, space);
        self.built(result, node_span(node))
    }
}

/// A number that is a whole one from 1 to the most there may be.
fn whole(number: f64, most: u32) -> Option<u32> {
    (number.fract() == 0.0 && (1.0..=f64::from(most)).contains(&number)).then_some(number as u32)
}

/// What a word of a list stands for; the grammar lets no other through.
fn one_of<T: Copy>(word: &Token, known: &[(&'static str, T)]) -> Done<T> {
    known.iter().find(|k| k.0 == word.text()).map(|k| k.1).ok_or(Reported)
}
