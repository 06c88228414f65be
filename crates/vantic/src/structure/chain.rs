//! Views put in between two others, and taken out again, with the chain of rules kept closed.

use crate::fix::change::Change;
use crate::fix::rule_source::{Statement, side_written};
use crate::resolve::source_map::Reference;
use crate::screen_ext::ScreenExt as _;
use crate::structure::context::{Keeps, Restructured, Structure, StructureError, cannot, same_name};
use crate::syntax::ast::nodes::{is_rule, node_span, of_kind, says};
use crate::syntax::lexer::Kind;
use crate::syntax::tree::Node;
use std::collections::HashSet;
use std::ops::Range;
use vantic_core::geometry::Axis;
use vantic_core::model::{Anchor, Coordinate, RuleId, ViewId};

/// What is put in between two views.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum NewView {
    /// A box, as large as its neighbour.
    Plain,
    /// A text with these words, in the font of its neighbour where that is a text.
    Text(String),
}

/// The font size of a new text beside no other.
const USUAL_FONT: &str = "16";

/// What ties one view behind another.
struct Link<'a> {
    /// The view whose rule it is.
    owner: ViewId,
    /// What that view is tied to.
    to: ViewId,
    rule: RuleId,
    statement: Statement<'a>,
    axis: Axis,
    /// Where the rule names what it is tied to; `None` where it says `prev` or `next`, which need no change.
    target: Option<Range<usize>>,
}

/// What becomes of a place that names a view which is taken out.
enum Without {
    /// The statement goes, too.
    Gone(Range<usize>),
    Changed(Change),
}

/// How views stand one behind the other.
enum Chain<'a> {
    /// By a rule of one of them.
    Linked(Link<'a>),
    /// In a row, column or grid.
    Arranged,
    /// Spread by a rule that lists them: where the new one is put into the list, and along which axis.
    Spread(Range<usize>, Axis),
}

impl Structure<'_> {
    /// Puts a view between two siblings that stand one behind the other: with the same distance on both sides, and across like
    /// its neighbour. [`Self::removed`] takes it out again.
    ///
    /// # Errors
    /// Views that are no siblings or that nothing ties together, a name that is no name or taken.
    pub fn inserted(
        &self,
        name: &str,
        what: &NewView,
        between: (&str, &str),
    ) -> Result<Restructured, StructureError> {
        self.usable(name)?;
        let (a, b) = (self.view(between.0)?, self.view(between.1)?);
        let siblings: Vec<ViewId> = self.screen().siblings_of(a).collect();
        let at = |view| siblings.iter().position(|of| *of == view);
        let (Some(at_a), Some(at_b)) = (at(a), at(b).filter(|_| a != b)) else {
            return cannot(format!("`{}` and `{}` are no siblings", between.0, between.1));
        };
        self.untaken(name, a)?;
        let (first, later) = if at_a < at_b { (a, b) } else { (b, a) };
        let chain = self.chain(first, later)?;
        let is_next = at_a.abs_diff(at_b) == 1;
        let relative = matches!(&chain, Chain::Linked(Link { target: None, .. }) | Chain::Arranged);
        if relative && !is_next {
            return cannot(format!("`{}` and `{}` do not follow one another", between.0, between.1));
        }
        let mut changes = Vec::new();
        let lines = match &chain {
            Chain::Linked(link) => {
                let mut lines = vec![link.statement.unlabelled().to_owned()];
                lines.extend(self.lines_like(link.owner, link.to, Some((link.rule, link.axis)), what)?);
                changes.extend(link.target.clone().map(|at| Change::new(at, name)));
                lines
            }
            Chain::Arranged => self.lines_like(first, later, None, what)?,
            Chain::Spread(at, axis) => {
                changes.push(Change::new(at.end..at.end, format!(", {name}")));
                self.lines_across(first, later, *axis, what)?
            }
        };
        let body = lines.join("; ");
        let item = match what {
            NewView::Plain => format!("view {name} {{ {body} }}"),
            NewView::Text(words) => {
                let font = self.font_of(first).or_else(|| self.font_of(later));
                let font = font.unwrap_or_else(|| format!("font {USUAL_FONT}"));
                let body = if body.is_empty() { font } else { format!("{font}; {body}") };
                format!("text {name} {} {{ {body} }}", vantic_core::model::quoted(words))
            }
        };
        let at = self.item_span(later)?.start;
        let line = self.text()[..at].rfind('\n').map_or(0, |at| at + 1);
        let indent = &self.text()[line..at];
        let item = if indent.trim().is_empty() { format!("{item}\n{indent}") } else { format!("{item}; ") };
        changes.push(Change::new(at..at, item));
        // What does not depend on the one behind stays.
        let moves = match &chain {
            Chain::Linked(link) => self.depending(link.owner),
            _ => self.depending(later),
        };
        self.done(
            &self.with(&changes, &[])?,
            &same_name,
            &Keeps::Only(&self.all_but(&moves)),
            "insert it by hand",
        )
    }

    /// Takes a view out and closes the chain: what was tied to it is tied to what it was tied to.
    ///
    /// # Errors
    /// A view that holds others, and rules that read it and could not be tied to anything else.
    pub fn removed(&self, path: &str) -> Result<Restructured, StructureError> {
        let view = self.view(path)?;
        let (item, _) = self.item(view)?;
        let gone = node_span(&item);
        let mut changes = Vec::new();
        let mut all_gone = vec![gone.clone()];
        let is_gone = |place: Anchor| match place {
            Anchor::View(of) | Anchor::Cells { guide: of, .. } => self.is_in(of, view),
            _ => false,
        };
        let inside = |at: &Range<usize>| gone.start <= at.start && at.end <= gone.end;
        let mut done: HashSet<(usize, usize)> = HashSet::new();
        for reference in self.references() {
            if inside(&reference.at) || !is_gone(reference.place) {
                continue;
            }
            match self.without(view, reference)? {
                Without::Gone(at) => all_gone.push(at),
                Without::Changed(change) if done.insert(change.at) => changes.push(change),
                Without::Changed(_) => {}
            }
        }
        all_gone.sort_by_key(|at| (at.start, std::cmp::Reverse(at.end)));
        all_gone.dedup_by(|inner, outer| outer.start <= inner.start && inner.end <= outer.end);
        changes.retain(|change| !all_gone.iter().any(|at| at.start <= change.at.0 && change.at.1 <= at.end));
        let moves = self.depending(view);
        let keeps = self.all_but(&moves);
        let renamed = |of: &str| (!self.is_at(of, view)).then(|| of.to_owned());
        self.done(&self.with(&changes, &all_gone)?, &renamed, &Keeps::Only(&keeps), "take it out by hand")
    }

    /// Whether a view is another or in it.
    pub(super) fn is_in(&self, view: ViewId, around: ViewId) -> bool {
        std::iter::successors(Some(view), |&of| self.screen().at(of).parent()).any(|of| of == around)
    }

    /// All views but some.
    pub(super) fn all_but(&self, some: &HashSet<ViewId>) -> Vec<ViewId> {
        self.screen().views().map(|(view, _)| view).filter(|view| !some.contains(view)).collect()
    }

    /// A view and all that may move with it: what reads it, what is in it, what is arranged beside it, and so on.
    pub(super) fn depending(&self, view: ViewId) -> HashSet<ViewId> {
        let screen = self.screen();
        let is_arranged = |of: ViewId| {
            screen.at(of).parent().is_some_and(|around| screen.at(around).arrangement().is_some())
        };
        let has_content =
            |of: ViewId| screen.at(of).arrangement().is_some() || screen.at(of).scroll().is_some();
        let mut all: HashSet<ViewId> = HashSet::from([view]);
        loop {
            let before = all.len();
            for (_, rule) in screen.rules() {
                let reads = |anchor: Anchor| match anchor {
                    Anchor::View(of) | Anchor::Cells { guide: of, .. } => all.contains(&of),
                    Anchor::Prev(of) | Anchor::Next(of) => screen.siblings_of(of).any(|of| all.contains(&of)),
                    _ => false,
                };
                let terms: Vec<Anchor> =
                    rule.relations().iter().flat_map(|r| r.terms()).map(|t| t.anchor).collect();
                if terms.iter().copied().any(reads) {
                    // A rule decides any of the views in it.
                    let views = terms.iter().filter_map(|anchor| match anchor {
                        Anchor::View(of) => Some(*of),
                        _ => None,
                    });
                    all.extend(views.chain(rule.owner()));
                }
            }
            for (of, about) in screen.views() {
                let parent = about.parent();
                if parent.is_some_and(|around| all.contains(&around)) {
                    all.insert(of);
                }
                if all.contains(&of) {
                    all.extend(parent.filter(|&around| has_content(around)));
                    if is_arranged(of) {
                        all.extend(screen.siblings_of(of));
                    }
                }
            }
            if all.len() == before {
                return all;
            }
        }
    }

    /// What puts one of two siblings behind the other.
    fn chain(&self, first: ViewId, later: ViewId) -> Result<Chain<'_>, StructureError> {
        let screen = self.screen();
        for (owner, to) in [(later, first), (first, later)] {
            for (rule, statement) in self.rules_alone(owner) {
                if let Some((axis, target)) = self.link(owner, to, rule, &statement) {
                    return Ok(Chain::Linked(Link { owner, to, rule, statement, axis, target }));
                }
            }
        }
        let around = screen.at(first).parent();
        let is_apart = |view: ViewId| screen.at(view).item().is_some_and(|item| item.apart);
        if around.is_some_and(|around| screen.at(around).arrangement().is_some())
            && !is_apart(first)
            && !is_apart(later)
        {
            return Ok(Chain::Arranged);
        }
        for node in self.tree.descendants().filter(|n| n.kind() == Kind::Spread) {
            let paths: Vec<Range<usize>> = of_kind(&node, Kind::Path).map(|path| node_span(&path)).collect();
            for two in paths.windows(2) {
                let named = |at: &Range<usize>, view| {
                    self.references().iter().any(|of| of.at == *at && of.place == Anchor::View(view))
                };
                if named(&two[0], first) && named(&two[1], later) {
                    let axis = if says(&node, "across") { Axis::Across } else { Axis::Down };
                    return Ok(Chain::Spread(two[0].clone(), axis));
                }
            }
        }
        cannot(format!(
            "no rule ties `{}` and `{}` together, such as `below {}`; tie them first",
            self.path(first),
            self.path(later),
            screen.at(first).name()
        ))
    }

    /// Whether a rule of a view puts it behind or before another: along which axis, and where it names that.
    pub(super) fn link(
        &self,
        owner: ViewId,
        to: ViewId,
        rule: RuleId,
        statement: &Statement<'_>,
    ) -> Option<(Axis, Option<Range<usize>>)> {
        let [relation] = self.screen().rule_at(rule).relations() else { return None };
        let reads = |anchor: Anchor| match anchor {
            Anchor::View(of) => of == to,
            Anchor::Prev(of) | Anchor::Next(of) => of == owner && self.neighbour(anchor) == Some(to),
            _ => false,
        };
        let own = single(&relation.left, |anchor| anchor == Anchor::View(owner))?;
        let other = single(&relation.right, reads)?;
        let is_facing = is_near(own) && is_far(other) || is_far(own) && is_near(other);
        if own.is_horizontal() != other.is_horizontal() || !is_facing {
            return None;
        }
        let span = statement.span();
        let names = |of: &&Reference| {
            span.start <= of.at.start && of.at.end <= span.end && of.place == Anchor::View(to)
        };
        let axis = if own.is_horizontal() { Axis::Across } else { Axis::Down };
        Some((axis, self.references().iter().find(names).map(|of| self.place_span(of))))
    }

    fn neighbour(&self, anchor: Anchor) -> Option<ViewId> {
        let (before, behind) = match anchor {
            Anchor::Prev(of) | Anchor::Next(of) => self.screen().around(of),
            _ => return None,
        };
        if matches!(anchor, Anchor::Prev(_)) { before.last().copied() } else { behind.first().copied() }
    }

    /// Where a path names a place, without the coordinate behind it.
    pub(super) fn place_span(&self, reference: &Reference) -> Range<usize> {
        let at = rowan::TextSize::from(reference.at.start as u32);
        let token = self.tree.token_at_offset(at).right_biased();
        let path = token.and_then(|token| token.parent_ancestors().find(|n| n.kind() == Kind::Path));
        let Some(path) = path else { return reference.at.clone() };
        let mut words = 0;
        let mut end = reference.at.start;
        for part in path.children_with_tokens() {
            let is_word = part.kind() == Kind::Word;
            if is_word && words == reference.words {
                break;
            }
            words += usize::from(is_word);
            if is_word || part.as_node().is_some() {
                end = part.text_range().end().into();
            }
        }
        reference.at.start..end
    }

    fn font_of(&self, view: ViewId) -> Option<String> {
        let (_, block) = self.item(view).ok()?;
        let font = block.children().find(|n| n.kind() == Kind::Setting && says(n, "font"))?;
        Some(self.text()[node_span(&font)].to_owned())
    }

    /// Lines that make a view like a neighbour: what that says of its size, and of its place but for the rule along the axis
    /// of a chain.
    fn lines_like(
        &self,
        like: ViewId,
        other: ViewId,
        link: Option<(RuleId, Axis)>,
        what: &NewView,
    ) -> Result<Vec<String>, StructureError> {
        if let Some((rule, axis)) = link {
            let own = self.own_rules(like)?;
            let own = own.into_iter().filter(|(id, _)| *id != rule);
            return self.copied(own.collect(), (like, other), Some(axis), what);
        }
        // In an arrangement: what the neighbour says there.
        let (_, block) = self.item(like)?;
        let is_cell = |kind| matches!(kind, Kind::Share | Kind::Sit | Kind::Cells);
        let settings = block.children().filter(|n| is_cell(n.kind()));
        let mut lines: Vec<String> = settings.map(|n| self.text()[node_span(&n)].to_owned()).collect();
        lines.extend(self.copied(self.own_rules(like)?, (like, other), None, what)?);
        Ok(lines)
    }

    /// Lines for a view in a list that is spread along an axis.
    fn lines_across(
        &self,
        like: ViewId,
        other: ViewId,
        axis: Axis,
        what: &NewView,
    ) -> Result<Vec<String>, StructureError> {
        self.copied(self.own_rules(like)?, (like, other), Some(axis), what)
    }

    /// Rules of a view as lines for another: without those that place it along an axis.
    fn copied(
        &self,
        rules: Vec<(RuleId, Statement<'_>)>,
        (like, other): (ViewId, ViewId),
        along: Option<Axis>,
        what: &NewView,
    ) -> Result<Vec<String>, StructureError> {
        let has_own_size = matches!(what, NewView::Text(_)) && self.screen().at(like).text().is_none();
        let is_along = |c: Coordinate| along.is_some_and(|axis| c.is_horizontal() == (axis == Axis::Across));
        let mut lines: Vec<String> = Vec::new();
        for (rule, statement) in &rules {
            let places = |c: Coordinate| c.is_position();
            if !self.is_about(*rule, like, |_| true) {
                continue;
            }
            let relations = self.screen().rule_at(*rule).relations();
            let own: Vec<Coordinate> =
                relations.iter().flat_map(|r| r.left.terms()).map(|term| term.coordinate).collect();
            let has_place_along = own.iter().any(|&c| places(c) && is_along(c));
            if !has_place_along {
                let is_size = own.iter().all(|c| !places(*c));
                if !(has_own_size && is_size) {
                    lines.push(statement.unlabelled().to_owned());
                }
                continue;
            }
            // Of a pin the sides across; of a pair nothing.
            if let Some(pin) = statement.pin() {
                let is_across = |word: &str| matches!(word, "left" | "right" | "start" | "end");
                let stays = |side: &&(String, String)| is_across(&side.0) != (along == Some(Axis::Across));
                let sides: Vec<String> = pin.sides.iter().filter(stays).map(side_written).collect();
                if !sides.is_empty() {
                    lines.push(format!("pin {} to {}", sides.join(", "), pin.to));
                }
            }
        }
        // What follows from two edges, or from nothing, is said by the neighbour.
        let says = |words: &[&str]| {
            lines.iter().any(|line| {
                words
                    .iter()
                    .any(|word| line.split(|c: char| !c.is_alphanumeric() && c != '_').any(|w| w == *word))
            })
        };
        let name = self.screen().at(like).name();
        let is_text = self.screen().at(like).has_content() || matches!(what, NewView::Text(_));
        let mut more = Vec::new();
        if let Some(axis) = along {
            let (size, place, places) = match axis {
                Axis::Down => ("height", "start", ["start", "left", "end", "right", "center_x", "center"]),
                Axis::Across => ("width", "top", ["top", "bottom", "center_y", "baseline", "center", "at"]),
            };
            let cross = if axis == Axis::Down { "width" } else { "height" };
            if !says(&places) {
                more.push(format!("{place} = {name}.{place}"));
                if !says(&[cross, "size", "ratio"]) && !is_text {
                    more.push(format!("{cross} = {name}.{cross}"));
                }
            }
            if !says(&[size, "size", "ratio"]) && !is_text {
                let sized = [like, other].into_iter().find(|&of| self.says_size(of, axis)).unwrap_or(like);
                more.push(format!("{size} = {}.{size}", self.screen().at(sized).name()));
            }
        }
        lines.extend(more);
        Ok(lines)
    }

    fn says_size(&self, view: ViewId, axis: Axis) -> bool {
        let size = if axis == Axis::Across { Coordinate::Width } else { Coordinate::Height };
        let mut own = self.screen().rules().filter(|(_, rule)| rule.owner() == Some(view));
        own.any(|(_, rule)| {
            rule.relations().iter().any(|r| r.left.terms().iter().any(|t| t.coordinate == size))
        })
    }

    /// What becomes of a place in the file that names a view which is taken out.
    fn without(&self, view: ViewId, reference: &Reference) -> Result<Without, StructureError> {
        let at = rowan::TextSize::from(reference.at.start as u32);
        let token = self.tree.token_at_offset(at).right_biased();
        let around: Vec<Node> = token.into_iter().flat_map(|token| token.parent_ancestors()).collect();
        let statement = around.iter().find(|n| is_rule(n.kind()));
        let whole = around.iter().find(|n| {
            matches!(n.kind(), Kind::Entry | Kind::Hide | Kind::Show | Kind::In | Kind::Claim | Kind::Accept)
        });
        // One of several in a list goes out of it.
        let is_list = |n: &&Node| {
            matches!(n.kind(), Kind::Spread | Kind::Enclose) || n.kind() == Kind::In && says(n, "each")
        };
        if let Some(list) = around.iter().find(|n| is_rule(n.kind()) || n.kind() == Kind::In).filter(is_list)
        {
            let paths: Vec<Range<usize>> = of_kind(list, Kind::Path).map(|path| node_span(&path)).collect();
            let least = if list.kind() == Kind::In { 2 } else { 3 };
            let index = paths.iter().position(|at| *at == reference.at).filter(|_| paths.len() >= least);
            match index {
                Some(0) => return Ok(Without::Changed(Change::new(paths[0].start..paths[1].start, ""))),
                Some(index) => {
                    return Ok(Without::Changed(Change::new(paths[index - 1].end..paths[index].end, "")));
                }
                None => {}
            }
        }
        if statement.is_none() {
            let Some(node) = whole else {
                return cannot(format!("line {} names it; change that first", self.line(reference.at.start)));
            };
            return Ok(Without::Gone(node_span(node)));
        }
        self.tied_on(view, reference).map(Without::Changed)
    }

    /// A rule that reads a view which is taken out, tied to what that was tied to.
    fn tied_on(&self, view: ViewId, reference: &Reference) -> Result<Change, StructureError> {
        let text = self.text();
        let refuse = || {
            let line = text[..reference.at.start].rfind('\n').map_or(0, |at| at + 1);
            let end = text[line..].find('\n').map_or(text.len(), |at| line + at);
            cannot(format!(
                "line {} reads it and could be tied to several things: {}; tie that to something else first",
                self.line(reference.at.start),
                text[line..end].trim()
            ))
        };
        let is_here = |rule: &RuleId| {
            let span = self.source.map.rule(*rule);
            span.is_some_and(|span| span.start <= reference.at.start && reference.at.end <= span.end)
        };
        let mut rules = self.screen().rules().map(|(id, _)| id).filter(is_here);
        let Some(rule) = rules.next() else { return refuse() };
        let of = self.screen().rule_at(rule);
        let (Some(owner), [relation]) = (of.owner(), of.relations()) else { return refuse() };
        let Some(span) = self.source.map.rule(rule) else { return refuse() };
        let Some(statement) = Statement::at(&self.tree, text, &span) else { return refuse() };
        let Some(own) = single(&relation.left, |anchor| anchor == Anchor::View(owner)) else {
            return refuse();
        };
        let Some(other) = single(&relation.right, |anchor| anchor == Anchor::View(view)) else {
            return refuse();
        };
        let own_rules = self.rules_alone(view);
        let siblings = self.screen().at(owner).parent() == self.screen().at(view).parent();
        // One behind the other: what it was tied to the same way.
        let is_chain = is_near(own) && is_far(other) || is_far(own) && is_near(other);
        for (id, its) in own_rules.iter().filter(|_| siblings) {
            let [its_relation] = self.screen().rule_at(*id).relations() else { continue };
            let Some(its_own) = single(&its_relation.left, |anchor| anchor == Anchor::View(view)) else {
                continue;
            };
            if is_chain && its_own == own {
                let its_span = its.span();
                let named = self.references().iter().find(|of| {
                    its_span.start <= of.at.start
                        && of.at.end <= its_span.end
                        && of.place != Anchor::View(view)
                });
                let faces = its_relation.right.terms().iter().any(|term| term.coordinate == other);
                let target = named.filter(|_| faces).map(|named| match self.neighbour(named.place) {
                    Some(neighbour) => self.called_from(neighbour, owner),
                    None => text[self.place_span(named)].to_owned(),
                });
                return Ok(match target {
                    Some(target) => Change::new(self.place_span(reference), target),
                    // Otherwise it stands where the other stood.
                    None => statement.replaced(its.unlabelled()),
                });
            }
            // Alike: as the other says itself.
            if !is_chain && its_own == other && own == other && relation.right.terms().len() == 1 {
                let plain = relation.right.constant() == 0.0;
                if plain {
                    return Ok(statement.replaced(its.unlabelled()));
                }
            }
        }
        for (_, its) in own_rules.iter().filter(|_| siblings) {
            let Some(pin) = its.pin() else { continue };
            let word = if is_chain { own.spelling() } else { other.spelling() };
            let fits = is_chain || own == other && relation.right.constant() == 0.0;
            if let Some(side) = pin.sides.iter().find(|side| side.0 == word).filter(|_| fits) {
                return Ok(statement.replaced(&format!("pin {} to {}", side_written(side), pin.to)));
            }
        }
        refuse()
    }
}

/// The coordinate of the one term of an expression that reads a place and has the factor 1.
pub(super) fn single(expr: &vantic_core::model::Expr, is_it: impl Fn(Anchor) -> bool) -> Option<Coordinate> {
    match expr.terms() {
        [term] if is_it(term.anchor) && (term.coefficient - 1.0).abs() < 1e-9 => Some(term.coordinate),
        _ => None,
    }
}

pub(super) fn is_near(c: Coordinate) -> bool {
    matches!(c, Coordinate::Left | Coordinate::Top | Coordinate::Start)
}

pub(super) fn is_far(c: Coordinate) -> bool {
    matches!(c, Coordinate::Right | Coordinate::Bottom | Coordinate::End)
}
