//! Rules that are more than a relation, read: gaps, bounds, centring, fitting, fractions and
//! proportions. What they mean stands in [`crate::shape`].

use crate::resolve::reader::Reader;
use crate::resolve::scope::{Done, Reported};
use crate::screen_ext::ScreenExt as _;
use crate::syntax::ast::{behind_word, child, first_word, is_behind, node_span, own_words, words_of};
use crate::syntax::lexer::Kind;
use crate::syntax::tree::Node;
use vantic_core::geometry::Axis;
use vantic_core::model::{
    Anchor, Comparison, Edges, Expr, Length, MinMaxKind, Relation, RuleDraft, Side, Spread, Strength, ViewId,
    pick, spread_out,
};

/// The expressions of a form: what is none of its paths, levels and bounds.
fn expressions(node: &Node) -> Vec<Node> {
    node.children().filter(|n| !is_behind(n.kind())).collect()
}

impl Reader {
    /// `below header by 8`: one edge of the view, that far from the facing edge of another.
    pub(crate) fn gap(&mut self, node: &Node, owner: Option<ViewId>) -> Done<RuleDraft> {
        let view = self.owned(node, owner)?;
        let (Some(word), Some(path)) = (first_word(node, 0), child(node, Kind::Path)) else {
            return Err(Reported);
        };
        let to = self.place(&words_of(&path), owner, node_span(&path))?;
        let by = match expressions(node).get(1) {
            Some(distance) => self.scalar(distance, owner)?,
            None => Expr::default(),
        };
        Ok(match word.text() {
            "below" => view.below(to, by),
            "above" => view.above(to, by),
            "after" => view.after(to, by),
            _ => view.before(to, by),
        })
    }

    /// What holds all the same when the preference before it gives way: `, at least 8`.
    pub(crate) fn bounded(
        &mut self,
        draft: RuleDraft,
        node: &Node,
        owner: Option<ViewId>,
    ) -> Done<RuleDraft> {
        self.reject_duplicates(node)?;
        let bounds: Vec<Node> = node.children().filter(|n| n.kind() == Kind::Bound).collect();
        let is_least = |bound: &Node| own_words(bound).any(|w| w.text() == "least");
        let limit_of = |bound: &Node| expressions(bound).into_iter().next();
        let least = match bounds.iter().find(|b| is_least(b)).and_then(limit_of) {
            Some(limit) => Some(self.scalar(&limit, owner)?),
            None => None,
        };
        let mut all = draft.clone();
        for bound in bounds {
            let Some(limit) = limit_of(&bound) else { return Err(Reported) };
            if draft.relations().iter().any(|r| r.strength() == Strength::Must) {
                let message = "a required rule does not give way, so a bound on it has no effect";
                let help = "give the rule a level before the comma: `~ level, at least 8`";
                return Err(self.error_with_help(node_span(&bound), message, help));
            }
            let mut limit_expr = self.scalar(&limit, owner)?;
            let is_least = is_least(&bound);
            if let Some(least) = least.clone().filter(|_| !is_least) {
                if least.is_number() && limit_expr.is_number() && least.constant() > limit_expr.constant() {
                    let (least, most) = (least.constant(), limit_expr.constant());
                    let message = format!("at most {most} is less than at least {least}");
                    let help = "swap them, or remove one";
                    return Err(self.error_with_help(node_span(&limit), message, help));
                }
                // Where they cross, the least wins.
                limit_expr = pick(MinMaxKind::Clamp, vec![limit_expr.clone(), least, limit_expr]);
            }
            let limits = |relation| limited(relation, node.kind(), is_least, &limit_expr);
            let mut also = RuleDraft::new(draft.relations().iter().map(limits).collect());
            if let Some(strength) = child(&bound, Kind::Strength) {
                also = self.strengthened(also, &strength, owner)?;
            }
            all = all.and(also);
        }
        Ok(all)
    }

    /// `between a.right and b.left, lean 30%, at most 400`.
    pub(crate) fn between(&mut self, node: &Node, owner: Option<ViewId>) -> Done<RuleDraft> {
        let view = self.owned(node, owner)?;
        let ends = expressions(node);
        let [from, to] = ends.as_slice() else { return Err(Reported) };
        let (from_expr, to_expr) = (self.scalar(from, owner)?, self.scalar(to, owner)?);
        self.one_axis(node, &from_expr, &to_expr)?;
        self.reject_duplicates(node)?;
        let (mut lean, mut most) = (0.5, None);
        for bound in node.children().filter(|n| n.kind() == Kind::Bound) {
            let Some(value) = expressions(&bound).into_iter().next() else { return Err(Reported) };
            if own_words(&bound).any(|w| w.text() == "lean") {
                lean = self.lean(&value, owner)?;
            } else {
                most = Some(self.scalar(&value, owner)?);
            }
        }
        Ok(match most {
            Some(most) => view.between_at_most(from_expr, to_expr, lean, most),
            None => view.between(from_expr, to_expr, lean),
        })
    }

    /// Refuses two bounds of one kind.
    pub(crate) fn reject_duplicates(&mut self, node: &Node) -> Done {
        let mut said: Vec<String> = Vec::new();
        for bound in node.children().filter(|n| n.kind() == Kind::Bound) {
            let words: Vec<String> = own_words(&bound).map(|w| w.text().to_owned()).collect();
            let words = words.join(" ");
            if said.contains(&words) {
                return Err(self.error_with_help(
                    node_span(&bound),
                    format!("`{words}` is given twice"),
                    "give it once",
                ));
            }
            said.push(words);
        }
        Ok(())
    }

    /// How far towards the end a view leans, from 0 to 1.
    pub(crate) fn lean(&mut self, node: &Node, owner: Option<ViewId>) -> Done<f64> {
        let lean = self.fraction(node, owner)?;
        if (0.0..=1.0).contains(&lean) {
            return Ok(lean);
        }
        let help = "0% is at the first edge, 50% in the middle, 100% at the second";
        Err(self.error_with_help(node_span(node), "a lean is within 0% and 100%", help))
    }

    /// Refuses what does not stand between two edges of one axis.
    fn one_axis(&mut self, node: &Node, from: &Expr, to: &Expr) -> Done {
        let names_edge = |e: &Expr| {
            let mut names = false;
            e.each(&mut |e| names |= e.terms().iter().any(|t| t.coordinate.is_position()));
            names
        };
        if !names_edge(from) || !names_edge(to) {
            let help = "name two edges: `between header.bottom and footer.top`";
            return Err(self.error_with_help(node_span(node), "`between` stands between two edges", help));
        }
        match (Edges::of(from), Edges::of(to)) {
            (Some(a), Some(b)) if a.size == b.size => Ok(()),
            _ => {
                let help = "name two edges of one axis, such as `a.right` and `b.left`";
                Err(self.error_with_help(node_span(node), "one edge is across, the other down", help))
            }
        }
    }

    /// `contain 3 : 2 in card`, `cover 3 : 2 in card, lean (50%, 0%)`.
    pub(crate) fn fit(&mut self, node: &Node, owner: Option<ViewId>) -> Done<RuleDraft> {
        let view = self.owned(node, owner)?;
        let (to, before, behind) = self.boxed(node, owner)?;
        let image = self.builder.screen().at(view).image();
        let proportion = match (before.as_slice(), image) {
            ([m, n], _) => {
                let (m, n) = self.proportion(m, n, owner)?;
                m / n
            }
            ([], Some(image)) => image.width / image.height,
            _ => {
                let message = "what is not an image has no proportions of its own";
                return Err(self.error_with_help(
                    node_span(node),
                    message,
                    "write them: `contain 3 : 2 in parent`",
                ));
            }
        };
        let (mut lean_x, mut lean_y) = (0.5, 0.5);
        if let Some(lean) = behind.first() {
            let parts: Vec<Node> = lean.children().collect();
            (lean_x, lean_y) = match (lean.kind(), parts.as_slice()) {
                (Kind::Group, [x, y]) => (self.lean(x, owner)?, self.lean(y, owner)?),
                _ => {
                    let lean = self.lean(lean, owner)?;
                    (lean, lean)
                }
            };
        }
        let lean = (lean_x, lean_y);
        Ok(match first_word(node, 0).is_some_and(|w| w.text() == "cover") {
            true => view.cover(proportion, to, lean),
            false => view.contain(proportion, to, lean),
        })
    }

    fn axis(&mut self, node: &Node) -> Axis {
        if own_words(node).any(|w| w.text() == "across") { Axis::Across } else { Axis::Down }
    }

    /// The box that stands behind `in`, and the expressions before and behind it.
    fn boxed(&mut self, node: &Node, owner: Option<ViewId>) -> Done<(Anchor, Vec<Node>, Vec<Node>)> {
        let path = behind_word(node, "in").ok_or(Reported)?;
        let to = self.place(&words_of(&path), owner, node_span(&path))?;
        let all = expressions(node).into_iter().filter(|n| *n != path);
        let (before, behind) = all.partition(|n| n.text_range().end() <= path.text_range().start());
        Ok((to, before, behind))
    }

    /// `span across 25%..75% in parent, inset 8, 12`.
    pub(crate) fn span(&mut self, node: &Node, owner: Option<ViewId>) -> Done<RuleDraft> {
        let view = self.owned(node, owner)?;
        let (to, before, insets) = self.boxed(node, owner)?;
        let axis = self.axis(node);
        let [from, until] = before.as_slice() else { return Err(Reported) };
        let (a, b) = (self.fraction(from, owner)?, self.fraction(until, owner)?);
        if a > b {
            let message = format!("a span from {}% to {}% runs backwards", 100.0 * a, 100.0 * b);
            return Err(self.error_with_help(node_span(from), message, "write the smaller fraction first"));
        }
        let (first, second) = match insets.as_slice() {
            [] => (Expr::default(), Expr::default()),
            [both] => (self.scalar(both, owner)?, self.scalar(both, owner)?),
            [first, second] => (self.scalar(first, owner)?, self.scalar(second, owner)?),
            [_, _, more, ..] => {
                return Err(self.error(node_span(more), "a span has two insets at most"));
            }
        };
        Ok(view.span(axis, (a, b), to, (first, second)))
    }

    /// `enclose a, b, c by 8`: around the outermost of several views.
    pub(crate) fn enclose(&mut self, node: &Node, owner: Option<ViewId>) -> Done<RuleDraft> {
        let own = self.owned(node, owner)?;
        let by_node = behind_word(node, "by");
        let mut views = Vec::new();
        for path in node.children().filter(|n| n.kind() == Kind::Path && Some(n) != by_node.as_ref()) {
            let view = self.view(&path, owner)?;
            if view == own {
                let message = "a view cannot enclose itself";
                return Err(self.error_with_help(node_span(&path), message, "name the views within it"));
            }
            views.push(Anchor::View(view));
        }
        let by = by_node.map(|by| self.scalar(&by, owner)).transpose()?.unwrap_or_default();
        Ok(own.around_all(&views, &by))
    }

    /// `spread across a, b, c in parent, evenly`: the same distances among views, and to a box.
    pub(crate) fn spread(&mut self, node: &Node, owner: Option<ViewId>) -> Done<RuleDraft> {
        let within = behind_word(node, "in");
        let mut views = Vec::new();
        for path in node.children().filter(|n| n.kind() == Kind::Path && Some(n) != within.as_ref()) {
            views.push(Anchor::View(self.view(&path, owner)?));
        }
        let word = own_words(node).last();
        let spread = word.and_then(|w| Spread::SPELLINGS.iter().find(|s| s.0 == w.text()).map(|s| s.1));
        let within = match &within {
            Some(path) => {
                let place = self.place(&words_of(path), owner, node_span(path))?;
                Some((place, spread.unwrap_or(Spread::Evenly)))
            }
            None if views.len() < 3 => {
                let help = "name three or more views, or a box: `spread across a, b in parent`";
                let message = "`spread` needs more views to compare";
                return Err(self.error_with_help(node_span(node), message, help));
            }
            None => None,
        };
        let axis = self.axis(node);
        Ok(spread_out(axis, &views, within))
    }

    /// `drawn across 120, 160 in parent of 520, grow width, end`: what was drawn, and which of the
    /// distance before, the size and the distance behind share what the box has more or less.
    pub(crate) fn drawn(&mut self, node: &Node, owner: Option<ViewId>) -> Done<RuleDraft> {
        let view = self.owned(node, owner)?;
        let (to, drawn, behind) = self.boxed(node, owner)?;
        let axis = self.axis(node);
        let ([before, size], [whole]) = (drawn.as_slice(), behind.as_slice()) else { return Err(Reported) };
        let drawn = [before, size, whole].map(|n| self.number(n, owner));
        let [Ok(first), Ok(second), Ok(total)] = drawn else { return Err(Reported) };
        for (number, node, least) in [(second, size, 0.0), (total, whole, f64::MIN_POSITIVE)] {
            if number < least {
                let message = format!("a drawn size of {number} cannot be scaled");
                return Err(self.error_with_help(node_span(node), message, "write the size that was drawn"));
            }
        }
        let edges = Edges::of_axis(axis);
        let names = [(edges.near, Length::Before), (edges.size, Length::Size), (edges.far, Length::Behind)]
            .map(|(coordinate, length)| (coordinate.spelling(), length));
        let mut grow = Vec::new();
        for word in child(node, Kind::Bound).iter().flat_map(|n| own_words(n).collect::<Vec<_>>()) {
            let Some(&(_, length)) = names.iter().find(|n| n.0 == word.text()) else {
                let message = format!("`{}` does not grow along this axis", word.text());
                let help = format!("name some of {}", names.map(|n| n.0).join(", "));
                return Err(self.error_with_help(crate::syntax::ast::span(word.text_range()), message, help));
            };
            grow.push(length);
        }
        Ok(view.drawn_growing(axis, (first, second), to, total, &grow))
    }
}

/// The relation that bounds another. Behind a gap or a pin the bound is a distance; else it bounds
/// the left side.
fn limited(relation: &Relation, kind: Kind, is_least: bool, limit: &Expr) -> Relation {
    let own = relation.left.clone();
    let is_distance = matches!(kind, Kind::Gap | Kind::Pin);
    let (at_least, right) = match own.terms() {
        [term] if is_distance => {
            let target = relation.right.terms().first();
            let target =
                target.map_or_else(Expr::default, |t| Expr::of(t.place, t.coordinate) * t.coefficient);
            let forward = Side::is_near(term.coordinate);
            let by = if forward { limit.clone() } else { -limit.clone() };
            (is_least == forward, target + by)
        }
        _ => (is_least, limit.clone()),
    };
    let comparison = if at_least { Comparison::AtLeast } else { Comparison::AtMost };
    Relation::new(own, comparison, right)
}
