//! Rules in plain sentences.

use crate::geometry::axis::Axis;
use crate::model::band::Value;
use crate::model::coordinate::{Anchor, Coordinate};
use crate::model::expression::{Expr, MinMax, MinMaxKind, Term};
use crate::model::guide::Guide;
use crate::model::id::ViewId;
use crate::model::rule::{Comparison, Relation, Strength};
use crate::model::rule_ref::RuleRef;
use crate::model::screen::Screen;
use crate::model::view::{Image, View};
use crate::tolerance::COEFFICIENT;
use crate::words::number::number;

impl Screen {
    /// Every rule that touches a view: its own, then those of others that read it, in written order;
    /// a text's two built-in preferences last.
    pub fn rules_of(&self, view: ViewId) -> Vec<RuleRef> {
        let is_it = |term: &Term| match term.anchor {
            Anchor::View(v) | Anchor::Cells { guide: v, .. } => v == view,
            Anchor::Prev(v) => self.around(v).0.last() == Some(&view),
            Anchor::Next(v) => self.around(v).1.first() == Some(&view),
            Anchor::Screen | Anchor::Safe | Anchor::Clear => false,
        };
        let (mut own, mut others) = (Vec::new(), Vec::new());
        for (id, rule) in self.rules() {
            for (index, relation) in rule.relations().iter().enumerate() {
                let written = RuleRef::Written { rule: id, relation: index };
                if rule.owner() == Some(view) {
                    own.push(written);
                } else if relation.terms().iter().any(is_it) {
                    others.push(written);
                }
            }
        }
        own.extend(others);
        let of = self.view(view);
        own.extend(of.and_then(View::guide).map(|_| RuleRef::Arranged { view, child: view, band: None }));
        let around = of.and_then(View::parent).filter(|_| of.is_some_and(|v| v.guide().is_none()));
        let arranges = self.arranging(view).map(|child| (view, child));
        let is_arranged = around.filter(|&a| self.arranging(a).any(|child| child == view)).map(|a| (a, view));
        for (view, child) in arranges.chain(is_arranged) {
            let bands = std::iter::once(None).chain(self.arranged_in(view).map(Some));
            own.extend(bands.map(|band| RuleRef::Arranged { view, child, band }));
        }
        if self.view(view).is_some_and(|v| v.has_content() || v.arrangement().is_some()) {
            own.extend([RuleRef::Whole(view), RuleRef::Snug(view)]);
        }
        own
    }

    /// The children that a view places in its row or column, where no band changes it.
    pub fn arranging(&self, view: ViewId) -> impl Iterator<Item = ViewId> + '_ {
        let arranges = self.view(view).filter(|v| v.arrangement().is_some());
        let children = arranges.into_iter().flat_map(|v| &v.children).copied();
        children.filter(|&c| self.at(c).item.as_ref().is_none_or(|i| !i.apart))
    }

    /// A rule in one plain sentence; empty for one of another screen.
    pub fn sentence(&self, rule: RuleRef) -> String {
        let written = match rule {
            RuleRef::Written { .. } => rule.relation(self),
            RuleRef::Whole(view) | RuleRef::Snug(view) => {
                return self.content_sentence(view, matches!(rule, RuleRef::Whole(_)));
            }
            RuleRef::Arranged { view, .. } if self.view(view).is_some_and(|v| v.guide().is_some()) => {
                let guide = self.view(view).and_then(View::guide);
                if let (Some(Guide::ContentBox), Some(of)) = (guide, self.view(view).and_then(|v| v.parent)) {
                    let how = self.at(of).scroll.unwrap_or_default().spelling();
                    return format!("`{}` scrolls its content: scroll {how}", self.path(of));
                }
                let what = guide.map_or_else(String::new, |g| self.guide_text(g, Some(view)));
                let what = if what.is_empty() { "the box of its parent".to_owned() } else { what };
                return format!("the guide `{}` is {what}", self.path(view));
            }
            RuleRef::Arranged { view, child, band } => {
                let Some(arrangement) = self.arrangement_in(view, band) else {
                    return String::new();
                };
                let how = self.arrangement_text(arrangement, Some(view));
                return format!("`{}` places `{}`: {how}", self.path(view), self.path(child));
            }
        };
        let Some(relation) = written else { return String::new() };
        let mut sentence = self.relation_sentence(relation);
        if let Strength::Prefer { weight, .. } = relation.strength()
            && weight != 1.0
        {
            sentence += &format!(", counting {} times", number(weight));
        }
        sentence
    }

    fn content_sentence(&self, view: ViewId, whole: bool) -> String {
        let path = self.path(view);
        if self.view(view).is_some_and(|v| v.arrangement().is_some()) {
            let than = if whole { "smaller" } else { "larger" };
            return format!("`{path}` is not {than} than what its children take");
        }
        match (self.view(view).and_then(View::image), whole) {
            (None, true) => format!("`{path}` is at least as large as its words"),
            (None, false) => format!("`{path}` is no larger than its words"),
            (Some(_), true) => format!("`{path}` keeps the proportions of its picture"),
            (Some(Image { width, height }), false) => {
                format!(
                    "`{path}` has the natural size of its picture, {} x {}",
                    number(width),
                    number(height)
                )
            }
        }
    }

    fn relation_sentence(&self, relation: &Relation) -> String {
        let Relation { left, comparison, right, .. } = relation;
        let plain = |expr: &Expr| match expr.terms() {
            [term] if term.coefficient == 1.0 && expr.values().is_empty() && expr.picks().is_empty() => {
                Some(*term)
            }
            _ => None,
        };
        let is = match comparison {
            Comparison::Equal => "is",
            Comparison::AtMost => "is at most",
            Comparison::AtLeast => "is at least",
        };
        if let Some(leaning) = self.leaning(relation) {
            return leaning;
        }
        let subject = self.sum(left);
        let Some(own) = plain(left).filter(|_| left.constant() == 0.0) else {
            return format!("{subject} {is} {}", self.sum(right));
        };
        match plain(right) {
            Some(other) if own.coordinate.is_position() && other.coordinate.is_position() => {
                let where_to = beside(own.coordinate, *comparison, right.constant());
                let around = self.is_around(own.anchor, other.anchor);
                let said = over(own.coordinate, other.coordinate, around, right.constant());
                let said = said.filter(|_| *comparison == Comparison::Equal).unwrap_or_default();
                format!("{subject} is {where_to} {}{said}", self.noun(&other))
            }
            None if right.is_number() && own.coordinate.is_position() => {
                format!("{subject} {is} {} from the screen's corner", number(right.constant()))
            }
            _ => format!("{subject} {is} {}", self.sum(right)),
        }
    }

    /// Whether a place is around another.
    fn is_around(&self, own: Anchor, other: Anchor) -> bool {
        match (own, other) {
            (_, Anchor::Screen | Anchor::Safe | Anchor::Clear) => true,
            (Anchor::View(own), Anchor::View(other)) => {
                self.view(own).is_some_and(|v| v.parent() == Some(other))
            }
            _ => false,
        }
    }

    /// Whether a relation is a distance below zero: facing edges that overlap, or an edge beyond that of what
    /// is around.
    pub fn goes_over(&self, relation: &Relation) -> bool {
        let Relation { left, comparison: Comparison::Equal, right, .. } = relation else { return false };
        let ([own], [other, rest @ ..]) = (left.terms(), right.terms()) else { return false };
        let plain = own.coefficient == 1.0 && other.coefficient == 1.0 && left.constant() == 0.0;
        let sizes: f64 = rest.iter().map(|t| t.coefficient).sum();
        let values: f64 = right.values().iter().map(|(c, _)| *c).sum();
        // A share of a size, or a number that bands change, goes that way too.
        let by = if right.constant() != 0.0 { right.constant() } else { sizes + values };
        let around = self.is_around(own.anchor, other.anchor);
        plain && right.picks().is_empty() && over(own.coordinate, other.coordinate, around, by).is_some()
    }

    /// A point of a view at the same fraction of its size as between two edges.
    fn leaning(&self, relation: &Relation) -> Option<String> {
        let Relation { left, comparison: Comparison::Equal, right, .. } = relation else { return None };
        let ([near, size], [from, to]) = (left.terms(), right.terms()) else { return None };
        let (Anchor::View(view), lean) = (near.anchor, size.coefficient) else { return None };
        let linear = [left, right].iter().all(|e| e.values().is_empty() && e.picks().is_empty());
        let is_lean = near.anchor == size.anchor
            && near.coefficient == 1.0
            && near.coordinate.is_position()
            && matches!(size.coordinate, Coordinate::Width | Coordinate::Height)
            && from.coordinate.is_position()
            && to.coordinate.is_position()
            && (from.coefficient - (1.0 - lean)).abs() < COEFFICIENT
            && (to.coefficient - lean).abs() < COEFFICIENT;
        let further = match right.constant() - left.constant() {
            0.0 => String::new(),
            by => format!(", moved by {}", number(by)),
        };
        let between = [from, to].map(|t| self.noun(&Term { coefficient: 1.0, ..*t })).join(" and ");
        let at = if lean == 0.5 {
            "in the middle".to_owned()
        } else {
            format!("{}% of the way", number(100.0 * lean))
        };
        (linear && is_lean).then(|| format!("`{}` is {at} between {between}{further}", self.path(view)))
    }

    /// A sum in words: `60% of the height of the screen minus 8`.
    fn sum(&self, expr: &Expr) -> String {
        let mut words = String::new();
        let mut add = |amount: f64, part: &dyn Fn(f64) -> String| {
            let (sign, size) = match (words.is_empty(), amount < 0.0) {
                (true, true) => ("minus ", -amount),
                (true, false) => ("", amount),
                (false, true) => (" minus ", -amount),
                (false, false) => (" plus ", amount),
            };
            words.push_str(sign);
            words += &part(size);
        };
        let times = |size: f64, what: String| match size {
            1.0 => what,
            share if share < 1.0 => format!("{}% of {what}", number(100.0 * share)),
            times => format!("{} times {what}", number(times)),
        };
        for term in expr.terms() {
            add(term.coefficient, &|size| times(size, self.noun(term)));
        }
        for (coefficient, value) in expr.values() {
            let name = self.values.get(value.index()).map_or("", Value::name);
            add(*coefficient, &|size| times(size, format!("`{name}`")));
        }
        for picked in expr.picks() {
            add(picked.coefficient, &|size| times(size, self.picked(picked)));
        }
        let alone = expr.is_number();
        if expr.constant() != 0.0 || alone {
            add(expr.constant(), &number);
        }
        words
    }

    fn picked(&self, picked: &MinMax) -> String {
        let part = |e: &Expr| match self.sum(e) {
            // What is more than a name or a number stands in brackets.
            sum if e.terms().len() + e.values().len() + 2 * e.picks().len() > 1
                || !e.is_number() && e.constant() != 0.0 =>
            {
                format!("({sum})")
            }
            sum => sum,
        };
        let of: Vec<String> = picked.of.iter().map(part).collect();
        match (picked.pick, of.as_slice()) {
            (MinMaxKind::Clamp, [value, least, most]) => format!("{value}, at least {least}, at most {most}"),
            (MinMaxKind::Max, _) => format!("the largest of {}", of.join(" and ")),
            (_, _) => format!("the smallest of {}", of.join(" and ")),
        }
    }

    /// Columns or rows of a guide: `columns 2 to 5 of ...`.
    fn cells_said(&self, guide: ViewId, first: u32, last: u32) -> String {
        let what = match self.view(guide).and_then(View::guide) {
            Some(Guide::Cells(cells)) if cells.axis == Axis::Across => "column",
            _ => "row",
        };
        let path = self.path(guide);
        match first == last {
            true => format!("{what} {first} of `{path}`"),
            false => format!("{what}s {first} to {last} of `{path}`"),
        }
    }

    /// A coordinate in words: `the left edge of title`.
    pub fn noun(&self, term: &Term) -> String {
        let of = match term.anchor {
            Anchor::Screen => "the screen".to_owned(),
            Anchor::Safe => "the safe area".to_owned(),
            Anchor::Clear => "the safe area above the keyboard".to_owned(),
            Anchor::View(view) => match self.at(view).guide() {
                Some(Guide::ContentBox) => format!(
                    "what `{}` scrolls",
                    self.at(view).parent.map_or_else(String::new, |v| self.path(v))
                ),
                _ => format!("`{}`", self.path(view)),
            },
            Anchor::Cells { guide, first, last } => self.cells_said(guide, first, last),
            Anchor::Prev(view) => format!("the view before `{}`", self.path(view)),
            Anchor::Next(view) => format!("the view after `{}`", self.path(view)),
        };
        let what = match term.coordinate {
            Coordinate::Left => "left edge",
            Coordinate::Right => "right edge",
            Coordinate::Top => "top edge",
            Coordinate::Bottom => "bottom edge",
            Coordinate::Width => "width",
            Coordinate::Height => "height",
            Coordinate::CenterX => "horizontal middle",
            Coordinate::CenterY => "vertical middle",
            Coordinate::Start => "start edge",
            Coordinate::End => "end edge",
            Coordinate::Baseline => "baseline",
            Coordinate::ContentWidth => "content width",
            Coordinate::ContentHeight => "content height",
            Coordinate::ScrolledX => return format!("how far {of} is scrolled across"),
            Coordinate::ScrolledY => return format!("how far {of} is scrolled down"),
            Coordinate::Pixel => return "one pixel of the display".into(),
        };
        format!("the {what} of {of}")
    }
}

/// What a distance below zero means: facing edges that overlap, or an edge beyond that of what is
/// around it.
fn over(own: Coordinate, other: Coordinate, around: bool, by: f64) -> Option<String> {
    use Coordinate::{Bottom, End, Left, Right, Start, Top};
    let (meets, inwards) = match (own, other) {
        (Top, Bottom) | (Left, Right) | (Start, End) if !around => (true, by),
        (Bottom, Top) | (Right, Left) | (End, Start) if !around => (true, -by),
        (Top, Top) | (Left, Left) | (Start, Start) if around => (false, by),
        (Bottom, Bottom) | (Right, Right) | (End, End) if around => (false, -by),
        _ => return None,
    };
    let by = number(-inwards);
    (inwards < 0.0).then(|| if meets { format!(": an overlap of {by}") } else { format!(": {by} outwards") })
}

/// Where one position is beside another, `by` further along the axis: `at least 8 below`.
fn beside(coordinate: Coordinate, comparison: Comparison, by: f64) -> String {
    let [before, after] = match coordinate {
        Coordinate::Start | Coordinate::End => ["before", "after"],
        c if c.is_horizontal() => ["left of", "right of"],
        _ => ["above", "below"],
    };
    let side = if by < 0.0 { before } else { after };
    let by = number(by.abs());
    // At most something before is at least as much after, and the other way round.
    let more = (comparison == Comparison::AtLeast) == (side == after);
    match comparison {
        Comparison::Equal if by == "0" => "at".to_owned(),
        Comparison::Equal => format!("{by} {side}"),
        Comparison::AtMost if by == "0" => format!("not {after}"),
        Comparison::AtLeast if by == "0" => format!("not {before}"),
        _ if more => format!("at least {by} {side}"),
        _ => format!("at most {by} {side}"),
    }
}
