//! Structural repairs of what has no end, or is pushed over one: a view that ends where a bar begins, a chain
//! of views in which the largest gives way, a row without its far side, content that scrolls and never ends.

use crate::finding::Finding;
use crate::fix::change::Change;
use crate::fix::context::{AxisWords, Candidate, FixContext, because};
use crate::fix::progression::{distance, exact};
use crate::fix::rule_source::{Pinned, Statement, item_named};
use crate::fix::structural::Stated;
use crate::fix::usual::{GAPS, MOST_GAP, is_far, is_near};
use crate::fix::weights::structure;
use crate::screen_ext::ScreenExt as _;
use crate::syntax::ast::nodes::node_span;
use crate::syntax::lexer::Kind;
use vantic_core::geometry::Axis;
use vantic_core::model::{Anchor, Comparison, Coordinate, Relation, ViewId};
use vantic_core::plan::Placement;

/// What is written at the end of content where nothing says another distance.
const END_GAP: f64 = 16.0;

/// How many views one behind the other are looked at.
const MAX_CHAIN: usize = 12;

impl FixContext<'_> {
    /// What a view's rules, outside of bands, say of one of its edges: the rule's relation, and what it reads.
    pub(crate) fn edge_read(
        &self,
        view: ViewId,
        is_edge: impl Fn(Coordinate) -> bool,
    ) -> Option<(Statement<'_>, &Relation, Anchor)> {
        self.rules_outside_bands(view).find_map(|(id, rule)| {
            let relation = rule.relations().iter().find(|r| {
                matches!(r.left.terms(), [t] if t.anchor == Anchor::View(view) && is_edge(t.coordinate))
                    && r.comparison == Comparison::Equal
            })?;
            let [read] = relation.right.terms() else { return None };
            Some((self.statement(id)?, relation, read.anchor))
        })
    }

    pub(crate) fn is_around(&self, view: ViewId, anchor: Anchor) -> bool {
        match anchor {
            Anchor::View(other) => self.screen().at(view).parent() == Some(other),
            Anchor::Screen | Anchor::Safe | Anchor::Clear => true,
            _ => false,
        }
    }

    /// The nearest sibling behind a view that is tied to the far side of what is around both.
    pub(crate) fn bar_behind(&self, view: ViewId, across: bool, placement: &Placement) -> Option<ViewId> {
        let near = |view: ViewId| {
            let frame = placement.frame(view)?;
            Some(if across { frame.left } else { frame.top })
        };
        let own = near(view)?;
        let screen = self.screen();
        let behind = screen.siblings_of(view).filter(|&other| other != view && placement.is_painted(other));
        let behind = behind.filter(|&other| near(other).is_some_and(|at| at > own));
        let bars = behind.filter(|&other| {
            let read = self.edge_read(other, |c| is_far(c, across));
            read.is_some_and(|(_, _, anchor)| self.is_around(other, anchor))
        });
        bars.min_by(|a, b| near(*a).unwrap_or(0.0).total_cmp(&near(*b).unwrap_or(0.0)))
    }

    /// The distance that a view keeps from a near side of what is around it, where it is a usual one.
    pub(crate) fn margin_of(&self, view: ViewId) -> Option<f64> {
        self.margin(view, true).or_else(|| self.margin(view, false))
    }

    fn margin(&self, view: ViewId, across: bool) -> Option<f64> {
        let near = |view: ViewId| self.edge_read(view, |c| is_near(c, across));
        let (_, relation, anchor) = near(view)?;
        let by = relation.right.constant();
        // What is in line with a sibling keeps the distance of that.
        let in_line = matches!(relation.right.terms(), [t] if is_near(t.coordinate, across)) && by == 0.0;
        let (view, by, anchor) = match anchor {
            Anchor::View(other) if in_line && !self.is_around(view, anchor) => {
                let (_, relation, anchor) = near(other)?;
                (other, relation.right.constant(), anchor)
            }
            anchor => (view, by, anchor),
        };
        (self.is_around(view, anchor) && (0.0..=MOST_GAP).contains(&by)).then_some(by)
    }

    /// The far edge of a view in the words of its near one: from left to right, or along the reading direction.
    pub(crate) fn far_word(&self, view: ViewId, across: bool) -> &'static str {
        let says_left = self.edge_read(view, |c| c == Coordinate::Left).is_some();
        if across && says_left { "right" } else { AxisWords::of(across).far }
    }

    /// A size that is stated goes: the view ends where the bar behind it begins, or where what is around it ends.
    pub(crate) fn ends_at_bar(&self, view: ViewId, across: bool, placement: &Placement) -> Vec<Candidate> {
        let screen = self.screen();
        let scrolls = screen.at(view).scrolled().is_some();
        let margin = self.margin_of(view).unwrap_or(0.0);
        let far = self.far_word(view, across);
        let (line, weight, reason) = match self.bar_behind(view, across, placement) {
            Some(bar) => {
                let word = if across { "before" } else { "above" };
                let by = distance("by", margin);
                let weight = if scrolls { structure::SCROLLER_ENDS_AT_BAR } else { structure::ENDED };
                let name = screen.at(bar).name();
                (format!("{word} {name}{by}"), weight, format!("it ends where `{name}` begins"))
            }
            None if scrolls => {
                let by = distance("-", margin);
                let line = format!("{far} = {}.{far}{by}", self.around(view));
                let reason = "it ends where what is around it does".to_owned();
                (line, structure::SCROLLER_ENDS_AT_BAR, reason)
            }
            // As large as it is now, where there is space.
            None => return self.as_large_as_fits(view, across),
        };
        let stated = self.stated(view).into_iter().filter(|s| s.along(across).is_some());
        let ideas = stated.filter_map(|s| self.replaced(&s.statement, &s.with(across, &line), weight));
        because(ideas, &reason)
    }

    /// As large as it is stated, and no further than to the end of what is around it.
    fn as_large_as_fits(&self, view: ViewId, across: bool) -> Vec<Candidate> {
        let near = self.edge_read(view, |c| is_near(c, across));
        let Some((_, relation, _)) = near else { return Vec::new() };
        let [term] = relation.left.terms() else { return Vec::new() };
        let (near, far) = (term.coordinate.spelling(), self.far_word(view, across));
        let margin = self.margin_of(view).unwrap_or(GAPS[0]);
        let by = distance("-", margin);
        // Along the reading direction there is no smaller of two sums.
        if across && near != "left" {
            return Vec::new();
        }
        let ideas = self.stated(view).into_iter().filter_map(|stated| {
            let number = exact(stated.along(across)?);
            let line = format!("{far} = min({near} + {number}, {}.{far}{by})", self.around(view));
            self.replaced(&stated.statement, &stated.with(across, &line), structure::AS_LARGE_AS_FITS)
        });
        because(ideas, "as large as it is now where there is space")
    }

    /// The views before one, each of which begins where the one before it ends: itself first.
    pub(crate) fn chain_before(&self, view: ViewId, across: bool) -> Vec<ViewId> {
        let mut chain = vec![view];
        while let Some((_, relation, anchor)) = chain
            .last()
            .filter(|_| chain.len() < MAX_CHAIN)
            .and_then(|last| self.edge_read(*last, |c| is_near(c, across)))
        {
            let is_behind = matches!(relation.right.terms(), [t] if is_far(t.coordinate, across));
            let before = match anchor {
                Anchor::View(before) => Some(before),
                Anchor::Prev(of) => self.screen().around(of).0.last().copied(),
                _ => None,
            };
            match before.filter(|before| is_behind && !chain.contains(before)) {
                Some(before) => chain.push(before),
                None => break,
            }
        }
        chain
    }

    /// A chain of views, each below the one before, that ends beyond what is around them: the largest of them gives
    /// way, as a preference or by hanging above the next one, and the last one stays inside.
    pub(crate) fn gives_way(&self, view: ViewId) -> Vec<Candidate> {
        let chain = self.chain_before(view, false);
        let sizes = chain.iter().enumerate().skip(1).flat_map(|(at, &before)| {
            self.stated(before).into_iter().filter_map(move |s| Some((s.height?, at, s)))
        });
        let Some((height, at, largest)) = sizes.max_by(|a, b| a.0.total_cmp(&b.0)) else {
            return Vec::new();
        };
        let margin = self.margin_of(view).unwrap_or(GAPS[0]);
        let by = distance("-", margin);
        let end = format!("{}.bottom{by}", self.around(view));
        let preferred = self.screen().ladder().last().and_then(|level| {
            let line = format!("height = {} ~ {level}", exact(height));
            let weight = structure::LARGEST_GIVES_WAY;
            let alone = self.replaced(&largest.statement, &largest.with(false, &line), weight)?;
            let inside = self.put_in(view, &[format!("bottom <= {end}")], weight)?;
            let idea = Candidate { lines: Vec::new(), ..alone.clone().and(inside) };
            // Something else may limit the last one already.
            Some([Candidate { weight: weight + structure::FEWER_LINES, ..alone }, idea])
        });
        preferred
            .into_iter()
            .flatten()
            .chain(self.anchored_at_the_end(&chain[..=at], &largest, &end))
            .collect()
    }

    /// The last of a chain at the end of what is around it, the others above it up to the largest, which fills the
    /// rest.
    fn anchored_at_the_end(&self, chain: &[ViewId], largest: &Stated<'_>, end: &str) -> Option<Candidate> {
        let mut changes = Vec::new();
        let mut said = Vec::new();
        let mut next: Option<(ViewId, f64)> = None;
        for &view in chain {
            let line = next.map(|(next, gap)| {
                let by = distance("by", gap);
                format!("above {}{by}", self.screen().at(next).name())
            });
            let line = line.unwrap_or_else(|| format!("bottom = {end}"));
            if Some(&view) == chain.last() {
                changes.push(largest.statement.replaced(&largest.with(false, &line)));
            } else {
                let (statement, relation, _) = self.edge_read(view, |c| is_near(c, false))?;
                let is_alone = statement.unlabelled().starts_with("below ")
                    || statement.unlabelled().starts_with("top ");
                changes.push(is_alone.then(|| statement.replaced(&line))?);
                next = Some((view, relation.right.constant()));
            }
            said.push(format!("`{line}` in `{}`", self.screen().path(view)));
        }
        let said = format!("write {}", said.join(", "));
        Some(Candidate::new(said, changes, structure::REANCHORED))
    }

    /// A chain of views of one width, one after the other, that is too long: equal shares of the space.
    pub(crate) fn shares_of_chain(&self, view: ViewId) -> Option<Candidate> {
        let mut chain = self.chain_before(view, true);
        chain.reverse();
        let margin = self.margin(chain[0], true)?;
        let gaps = chain[1..].iter().map(|&view| {
            let (_, relation, _) = self.edge_read(view, |c| is_near(c, true))?;
            Some(relation.right.constant())
        });
        let gaps: f64 = gaps.sum::<Option<f64>>()?;
        let count = chain.len();
        let line =
            format!("width = ({}.width - {}) / {count}", self.around(view), exact(2.0 * margin + gaps));
        let mut idea = self.of_one_width(&chain, &line).filter(|_| count > 1)?;
        idea.weight = structure::SHARED_CHAIN;
        Some(idea)
    }

    /// A pin of one side, with the other side at the same distance.
    fn pinned_on_both_sides(&self, view: ViewId, across: bool) -> Option<(Change, String)> {
        let pairs: &[(&str, &str)] =
            if across { &[("left", "right"), ("start", "end")] } else { &[("top", "bottom")] };
        let mut statements = self.rules_outside_bands(view).filter_map(|(id, _)| self.statement(id));
        let pinned = statements.find_map(|statement| {
            let Pinned { sides, to, end } = statement.pin()?;
            let of = |side: &str| sides.iter().find(|(word, _)| word == side);
            let (far, by) = pairs.iter().find_map(|(near, far)| match (of(near), of(far)) {
                (Some((_, by)), None) => Some((*far, by.clone())),
                _ => None,
            })?;
            let by = if by.is_empty() { by } else { format!(" {by}") };
            let said = format!("pin `{far}{by}` to {to} as well, in `{}`", self.screen().path(view));
            Some((Change::new(end..end, format!(", {far}{by}")), said))
        });
        pinned.or_else(|| {
            // A near side by a rule of its own.
            let margin = self.margin(view, across).or_else(|| self.margin(view, !across))?;
            if self.edge_read(view, |c| is_far(c, across)).is_some() {
                return None;
            }
            let far = self.far_word(view, across);
            let by = distance("-", margin);
            let idea = self.put_in(view, &[format!("{far} = {}.{far}{by}", self.around(view))], 0.0)?;
            Some((idea.changes.first()?.clone(), idea.said))
        })
    }

    /// A row or column that is as long as its children, and longer than there is space: pinned on its far side, it
    /// wraps, scrolls or shares.
    pub(crate) fn arranged_within(&self, view: ViewId, across: bool) -> Vec<Candidate> {
        let screen = self.screen();
        let Some(arrangement) = screen.at(view).arrangement().filter(|a| a.columns.is_none()) else {
            return Vec::new();
        };
        if (arrangement.axis == Axis::Across) != across {
            return Vec::new();
        }
        let pinned = self.pinned_on_both_sides(view, across);
        let inner = screen.at(view).children().first();
        let ideas = inner.map(|&child| self.arranged_otherwise(child, view, across)).unwrap_or_default();
        let joined = ideas.into_iter().map(|mut idea| {
            if let Some((change, said)) = &pinned {
                idea.changes.push(change.clone());
                idea.said = format!("{said}, and {}", idea.said);
            }
            idea
        });
        joined.collect()
    }

    /// Texts that do not fit into their row together: the row wraps or scrolls.
    pub(crate) fn texts_in_a_row(&self, text: ViewId) -> Vec<Candidate> {
        let screen = self.screen();
        let row = screen.at(text).parent();
        let row = row.filter(|&row| screen.at(row).arrangement().is_some_and(|a| a.axis == Axis::Across));
        row.map(|row| self.arranged_otherwise(text, row, true)).unwrap_or_default()
    }

    /// The other side of a view whose size comes from children that take theirs from it.
    pub(crate) fn far_side(&self, finding: &Finding) -> Vec<Candidate> {
        let around = finding.coordinates.iter().flat_map(|&(view, coordinate)| {
            let holders = self.screen().with_ancestors(view).take(2);
            holders.map(move |holder| (holder, coordinate.is_horizontal()))
        });
        let mut ideas: Vec<Candidate> = around
            .filter_map(|(holder, across)| {
                let (change, said) = self.pinned_on_both_sides(holder, across)?;
                let idea = Candidate::new(said, vec![change], structure::FAR_SIDE);
                Some(idea.because("what is in it divides its size"))
            })
            .collect();
        ideas.dedup_by(|a, b| a.changes == b.changes);
        ideas
    }

    /// A view without a size because both of its edges are tied to one place: the far one to the far side.
    pub(crate) fn far_edge_of_around(&self, finding: &Finding) -> Vec<Candidate> {
        let ideas = finding.coordinates.iter().filter_map(|&(view, coordinate)| {
            let across = coordinate.is_horizontal();
            let (statement, _, anchor) = self.edge_read(view, |c| is_far(c, across))?;
            let far = self.far_word(view, across);
            let margin = self.margin_of(view).filter(|by| *by > 0.0);
            let by = margin.map_or(String::new(), |by| distance("-", by));
            let line = format!("{far} = {}.{far}{by}", self.around(view));
            let idea = self.replaced(&statement, &line, structure::FAR_SIDE);
            idea.filter(|_| !self.is_around(view, anchor))
                .map(|idea| idea.because("both of its edges are tied to one place"))
        });
        ideas.collect()
    }

    /// Where the content of what scrolls ends: behind the last view in it.
    pub(crate) fn content_ends(&self, content: ViewId) -> Vec<Candidate> {
        let screen = self.screen();
        let scroller = screen.at(content).parent().filter(|&s| screen.at(s).scrolled() == Some(content));
        let (Some(scroller), Some(placement)) = (scroller, self.report.placements.first()) else {
            return Vec::new();
        };
        let inside = screen.at(scroller).children().iter().filter(|&&child| child != content);
        // What is tied to the end of the content does not say where that is.
        let inside = inside.filter(|&&child| {
            let read = self.edge_read(child, |c| is_far(c, false));
            read.is_none_or(|(_, _, anchor)| anchor != Anchor::View(content))
        });
        let bottom = |view: &ViewId| placement.frame(*view).map_or(0.0, |f| f.bottom());
        let last = inside.max_by(|a, b| bottom(a).total_cmp(&bottom(b)));
        let ideas = last.and_then(|&last| {
            let margin = self.margin_of(last).filter(|by| *by > 0.0).unwrap_or(END_GAP);
            let line = format!("content.bottom = {}.bottom + {}", screen.at(last).name(), exact(margin));
            let reason = format!("`{}` is the last view in it", screen.at(last).name());
            Some(self.put_in(scroller, &[line], structure::CONTENT_ENDS)?.because(reason).evident())
        });
        ideas.into_iter().collect()
    }

    /// Views that are as wide as one another, and nothing says how wide: the last of them ends where what is
    /// around it does.
    pub(crate) fn last_of_equal(&self, finding: &Finding, view: ViewId) -> Vec<Candidate> {
        let screen = self.screen();
        let mut ideas = Vec::new();
        for across in [true, false] {
            let size = if across { Coordinate::Width } else { Coordinate::Height };
            if finding.range((view, size)).is_none() {
                continue;
            }
            let alike = finding.follows.iter().filter(|(_, c)| *c == size).map(|(other, _)| *other);
            let last = screen.siblings_of(view).filter(|s| alike.clone().any(|other| other == *s)).last();
            let Some(last) = last else { continue };
            let far = self.far_word(last, across);
            let margin = self.margin_of(view).filter(|by| *by > 0.0);
            let by = margin.map_or(String::new(), |by| distance("-", by));
            let line = format!("{far} = {}.{far}{by}", self.around(last));
            let reason = "they are as large as one another, and it is the last of them";
            ideas.extend(because(self.put_in(last, &[line], structure::LAST_OF_EQUAL), reason));
        }
        ideas
    }

    /// A box that is as large as the words in it need, where they are pinned to it on both sides.
    pub(crate) fn as_large_as_its_words(&self, text: ViewId) -> Vec<Candidate> {
        let screen = self.screen();
        let Some(parent) = screen.at(text).parent() else { return Vec::new() };
        let name = screen.at(text).name();
        let mut ideas = Vec::new();
        // A height of its own goes, and the box grows by as much as the words need more.
        let own = self.stated(text).into_iter().find_map(|s| Some((s.height?, s)));
        let around = self.stated(parent).into_iter().find_map(|s| Some((s.height?, s)));
        if let Some((own, text_rule)) = own {
            let freed = match text_rule.width {
                Some(width) => text_rule.statement.replaced(&format!("width = {}", exact(width))),
                None => text_rule.statement.removed(),
            };
            if self.has_room(text, own) {
                let said = format!("take the height of `{name}` out");
                let idea = Candidate::new(said, vec![freed], structure::WORDS_HAVE_ROOM);
                ideas.push(idea.because("it is as high as its words then"));
            } else if let Some((box_height, box_rule)) = around {
                let insets = distance("+", box_height - own);
                let line = format!("height = max({}, {name}.height{insets})", exact(box_height));
                let grown =
                    self.replaced(&box_rule.statement, &box_rule.with(false, &line), structure::WORDS_FIT);
                ideas.extend(grown.map(|mut idea| {
                    idea.said += &format!(", and take the height of `{name}` out");
                    idea.changes.push(freed);
                    idea.because(format!("`{}` grows with its words", screen.at(parent).name()))
                }));
            }
        }
        for across in [true, false] {
            let by = |is_edge: fn(Coordinate, bool) -> bool| {
                let (_, relation, anchor) = self.edge_read(text, |c| is_edge(c, across))?;
                self.is_around(text, anchor).then(|| relation.right.constant().abs())
            };
            let (Some(near), Some(far)) = (by(is_near), by(is_far)) else { continue };
            let size = AxisWords::of(across).size;
            for stated in self.stated(parent) {
                let Some(number) = stated.along(across) else { continue };
                let insets = distance("+", near + far);
                let line = format!("{size} = max({}, {name}.content.{size}{insets})", exact(number));
                let line = stated.with(across, &line);
                let wider = self.replaced(&stated.statement, &line, structure::WORDS_FIT);
                ideas.extend(because(wider, &format!("the words of `{name}` need that")));
            }
        }
        ideas
    }

    /// Whether what a text stands in has room below its last view for the words to be as high as they need, where the text
    /// is so high now.
    fn has_room(&self, text: ViewId, height: f64) -> bool {
        let room = || {
            let placement = self.report.placements.first()?;
            let around = placement.frame(self.screen().at(text).parent()?)?;
            let siblings = self.screen().siblings_of(text).filter_map(|view| placement.frame(view));
            let last = siblings.map(|frame| frame.bottom()).fold(f64::NEG_INFINITY, f64::max);
            Some((placement.text_size(text)?.height - height, around.bottom() - last))
        };
        room().is_some_and(|(more, room)| more <= room)
    }

    /// Copies that lie in one place: in a column of their own.
    pub(crate) fn in_a_column(&self, finding: &Finding) -> Option<Candidate> {
        let first = *finding.views.first()?;
        let (item, block) = item_named(&self.tree, &self.fixes.map.view(first)?)?;
        let is_repeat = item.kind() == Kind::Repeat;
        let pin = self.rules_outside_bands(first).filter_map(|(id, _)| self.statement(id)).find(|s| {
            let pin = s.pin();
            pin.is_some_and(|pin| pin.sides.iter().filter(|(word, _)| word != "top").count() == 2)
        })?;
        let name = "rows";
        let is_free = self.screen().siblings_of(first).all(|view| self.screen().at(view).name() != name);
        let open = self.text()[node_span(&item).start..node_span(&block).start].trim_end();
        let rest = pin.removed();
        let mut inside = self.text()[node_span(&block)].to_owned();
        let from = rest.at.0.checked_sub(node_span(&block).start)?;
        inside.replace_range(from..from + (rest.at.1 - rest.at.0), "");
        let new = format!(
            "view {name} {{ {}; column gap {}, align stretch; {open} {inside} }}",
            pin.unlabelled(),
            exact(GAPS[0])
        );
        let said = format!(
            "put them into a column: `view {name} {{ {}; column gap {}, align stretch; … }}`",
            pin.unlabelled(),
            exact(GAPS[0])
        );
        let changes = vec![Change::new(node_span(&item), new)];
        let idea = Candidate::new(said, changes, structure::IN_A_COLUMN);
        (is_repeat && is_free).then(|| idea.because("a column places each below the one before"))
    }
}
