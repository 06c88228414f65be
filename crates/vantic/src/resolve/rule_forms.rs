//! Rules that are more than a relation, read: gaps, bounds, centring, fitting, fractions and
//! proportions. What they mean stands in `vantic_core::model::shortcuts`.

use crate::resolve::reader::Reader;
use crate::resolve::scope::{Done, Reported};
use crate::screen_ext::ScreenExt as _;
use crate::syntax::ast::nodes::{node_span, of_kind, own_words, span, words_of};
use crate::syntax::ast::rules::{Body, Bound, BoundKind, bound, bounds};
use crate::syntax::lexer::Kind;
use crate::syntax::tree::{Node, Token};
use vantic_core::geometry::Axis;
use vantic_core::model::{
    Anchor, Comparison, Edges, Expr, Length, MinMaxKind, Relation, RuleDraft, Side, Spread, Strength, ViewId,
    pick, spread_out,
};

impl Reader {
    /// A rule that is more than a relation.
    pub(crate) fn form(&mut self, node: &Node, form: Body, view: ViewId) -> Done<RuleDraft> {
        let owner = Some(view);
        Ok(match form {
            Body::Pin { sides, to } => {
                let to = self.boxed(&to, owner)?;
                self.pin(&sides, to, view)?
            }
            Body::Gap { word, of, by } => {
                let of = self.boxed(&of, owner)?;
                let by = self.distance(by.as_ref(), owner)?;
                match word.text() {
                    "below" => view.below(of, by),
                    "above" => view.above(of, by),
                    "after" => view.after(of, by),
                    _ => view.before(of, by),
                }
            }
            Body::Between { from, to, lean, at_most } => {
                self.between(node, view, (&from, &to), (lean.as_ref(), at_most.as_ref()))?
            }
            Body::Fit { covers, proportion, within, lean } => {
                let within = self.boxed(&within, owner)?;
                let proportion = self.proportion_of(node, view, proportion.as_ref())?;
                let lean = self.leans(lean.as_ref(), owner)?;
                match covers {
                    true => view.cover(proportion, within, lean),
                    false => view.contain(proportion, within, lean),
                }
            }
            Body::Span { axis, from, to, within, insets } => {
                let within = self.boxed(&within, owner)?;
                let (a, b) = (self.fraction(&from, owner)?, self.fraction(&to, owner)?);
                if a > b {
                    let message = format!("a span from {}% to {}% runs backwards", 100.0 * a, 100.0 * b);
                    let help = "write the smaller fraction first";
                    return Err(self.error_with_help(node_span(&from), message, help));
                }
                view.span(axis, (a, b), within, self.insets(&insets, owner)?)
            }
            Body::Enclose { views, by } => {
                let views = self.enclosed(&views, view)?;
                view.around_all(&views, &self.distance(by.as_ref(), owner)?)
            }
            Body::Drawn { axis, at, size, within, whole, grow } => {
                let within = self.boxed(&within, owner)?;
                let [at, size, whole] = self.drawn([&at, &size, &whole], owner)?;
                view.drawn_growing(axis, (at, size), within, whole, &self.growing(axis, &grow)?)
            }
            // Those need no view.
            Body::Relation { .. } | Body::Ratio { .. } | Body::Spread { .. } => return Err(Reported),
        })
    }

    /// The box that a path names.
    fn boxed(&mut self, path: &Node, owner: Option<ViewId>) -> Done<Anchor> {
        self.place(&words_of(path), owner, node_span(path))
    }

    /// What holds all the same when the preference before it gives way: `, at least 8`.
    pub(crate) fn bounded(
        &mut self,
        draft: RuleDraft,
        node: &Node,
        owner: Option<ViewId>,
    ) -> Done<RuleDraft> {
        self.reject_duplicates(node)?;
        let bounds = bounds(node).ok_or(Reported)?;
        let least = match bound(&bounds, BoundKind::AtLeast) {
            Some(limit) => Some(self.scalar(&limit, owner)?),
            None => None,
        };
        let mut all = draft.clone();
        for Bound { node: bound, kind, value: limit, strength } in bounds {
            if draft.relations().iter().any(|r| r.strength() == Strength::Required) {
                let message = "a required rule does not give way, so a bound on it has no effect";
                let help = "give the rule a level before the comma: `~ level, at least 8`";
                return Err(self.error_with_help(node_span(&bound), message, help));
            }
            let mut limit_expr = self.scalar(&limit, owner)?;
            let is_least = kind == BoundKind::AtLeast;
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
            if let Some(strength) = strength {
                also = self.strengthened(also, &strength, owner)?;
            }
            all = all.and(also);
        }
        Ok(all)
    }

    /// `between a.right and b.left, lean 30%, at most 400`.
    fn between(
        &mut self,
        node: &Node,
        view: ViewId,
        (from, to): (&Node, &Node),
        (lean, at_most): (Option<&Node>, Option<&Node>),
    ) -> Done<RuleDraft> {
        let owner = Some(view);
        let (from, to) = (self.scalar(from, owner)?, self.scalar(to, owner)?);
        self.one_axis(node, &from, &to)?;
        self.reject_duplicates(node)?;
        let lean = lean.map_or(Ok(0.5), |lean| self.lean(lean, owner))?;
        Ok(match at_most {
            Some(most) => view.between_at_most(from, to, lean, self.scalar(most, owner)?),
            None => view.between(from, to, lean),
        })
    }

    /// Refuses two bounds of one kind.
    pub(crate) fn reject_duplicates(&mut self, node: &Node) -> Done {
        let mut said: Vec<String> = Vec::new();
        for bound in of_kind(node, Kind::Bound) {
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

    /// Width by height of what is fitted: as it is written, or that of an image.
    fn proportion_of(&mut self, node: &Node, view: ViewId, written: Option<&[Node; 2]>) -> Done<f64> {
        match (written, self.builder.screen().at(view).image()) {
            (Some(written), _) => {
                let (m, n) = self.proportion(written, Some(view))?;
                Ok(m / n)
            }
            (None, Some(image)) => Ok(image.width / image.height),
            (None, None) => {
                let message = "what is not an image has no proportions of its own";
                let help = "write them: `contain 3 : 2 in parent`";
                Err(self.error_with_help(node_span(node), message, help))
            }
        }
    }

    /// How far it leans across and down: one fraction, or a group of two.
    fn leans(&mut self, lean: Option<&Node>, owner: Option<ViewId>) -> Done<(f64, f64)> {
        let Some(lean) = lean else { return Ok((0.5, 0.5)) };
        let parts: Vec<Node> = lean.children().collect();
        if let (Kind::Group, [x, y]) = (lean.kind(), parts.as_slice()) {
            return Ok((self.lean(x, owner)?, self.lean(y, owner)?));
        }
        let lean = self.lean(lean, owner)?;
        Ok((lean, lean))
    }

    /// The insets of a span: none, one for both ends, or two.
    fn insets(&mut self, insets: &[Node], owner: Option<ViewId>) -> Done<(Expr, Expr)> {
        match insets {
            [] => Ok((Expr::default(), Expr::default())),
            [both] => {
                let both = self.scalar(both, owner)?;
                Ok((both.clone(), both))
            }
            [first, second] => Ok((self.scalar(first, owner)?, self.scalar(second, owner)?)),
            [_, _, more, ..] => Err(self.error(node_span(more), "a span has two insets at most")),
        }
    }

    /// The views that a view encloses; itself is none of them.
    fn enclosed(&mut self, paths: &[Node], own: ViewId) -> Done<Vec<Anchor>> {
        let mut views = Vec::new();
        for path in paths {
            let view = self.view(path, Some(own))?;
            if view == own {
                let message = "a view cannot enclose itself";
                return Err(self.error_with_help(node_span(path), message, "name the views within it"));
            }
            views.push(Anchor::View(view));
        }
        Ok(views)
    }

    /// `spread across a, b, c in parent, evenly`: the same distances among views, and to a box.
    pub(crate) fn spread(
        &mut self,
        node: &Node,
        axis: Axis,
        (paths, within, how): (&[Node], Option<&Node>, Option<&Token>),
        owner: Option<ViewId>,
    ) -> Done<RuleDraft> {
        let mut views = Vec::new();
        for path in paths {
            views.push(Anchor::View(self.view(path, owner)?));
        }
        let how = how.and_then(|w| Spread::SPELLINGS.iter().find(|s| s.0 == w.text()).map(|s| s.1));
        let within = match within {
            Some(path) => Some((self.boxed(path, owner)?, how.unwrap_or(Spread::Evenly))),
            None if views.len() < 3 => {
                let help = "name three or more views, or a box: `spread across a, b in parent`";
                let message = "`spread` needs more views to compare";
                return Err(self.error_with_help(node_span(node), message, help));
            }
            None => None,
        };
        Ok(spread_out(axis, &views, within))
    }

    /// What was drawn: the distance before, the size, and the size of the box.
    fn drawn(&mut self, drawn: [&Node; 3], owner: Option<ViewId>) -> Done<[f64; 3]> {
        let numbers = drawn.map(|n| self.number(n, owner));
        let [Ok(at), Ok(size), Ok(whole)] = numbers else { return Err(Reported) };
        for (number, node, least) in [(size, drawn[1], 0.0), (whole, drawn[2], f64::MIN_POSITIVE)] {
            if number < least {
                let message = format!("a drawn size of {number} cannot be scaled");
                return Err(self.error_with_help(node_span(node), message, "write the size that was drawn"));
            }
        }
        Ok([at, size, whole])
    }

    /// Which of the distance before, the size and the distance behind share what the box has more or less.
    fn growing(&mut self, axis: Axis, words: &[Token]) -> Done<Vec<Length>> {
        let edges = Edges::of_axis(axis);
        let names = [(edges.near, Length::Before), (edges.size, Length::Size), (edges.far, Length::Behind)]
            .map(|(coordinate, length)| (coordinate.spelling(), length));
        let mut grow = Vec::new();
        for word in words {
            let Some(&(_, length)) = names.iter().find(|n| n.0 == word.text()) else {
                let message = format!("`{}` does not grow along this axis", word.text());
                let help = format!("name some of {}", names.map(|n| n.0).join(", "));
                return Err(self.error_with_help(span(word.text_range()), message, help));
            };
            grow.push(length);
        }
        Ok(grow)
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
                target.map_or_else(Expr::default, |t| Expr::of(t.anchor, t.coordinate) * t.coefficient);
            let forward = Side::is_near(term.coordinate);
            let by = if forward { limit.clone() } else { -limit.clone() };
            (is_least == forward, target + by)
        }
        _ => (is_least, limit.clone()),
    };
    let comparison = if at_least { Comparison::AtLeast } else { Comparison::AtMost };
    Relation::new(own, comparison, right)
}
