//! A stack of views that is taller than the display, put into a view that scrolls: between the bars at the top and at
//! the bottom, which stay.

use crate::finding::Finding;
use crate::fix::change::{Change, changed};
use crate::fix::context::{Candidate, FixContext};
use crate::fix::progression::{distance, exact};
use crate::fix::rule_source::item_named;
use crate::fix::structural::words_replaced;
use crate::fix::usual::{is_far, is_near};
use crate::fix::weights::structure;
use crate::screen_ext::ScreenExt as _;
use crate::syntax::ast::nodes::node_span;
use std::collections::{BTreeMap, BTreeSet};
use std::ops::Range;
use vantic_core::model::{Anchor, Coordinate, ViewId};
use vantic_core::plan::Placement;
use vantic_core::words::{free_name, list};

/// The space behind the last view, where nothing says another.
const END_GAP: f64 = 16.0;

/// How many views of a screen are put into another one.
const MAX_MOVED: usize = 40;

impl FixContext<'_> {
    /// The views of the screen that are stacked above and below one that goes beyond its end.
    pub(crate) fn in_a_scroller(&self, finding: &Finding, view: ViewId) -> Option<Candidate> {
        let screen = self.screen();
        let (_, placement) = self.worst(finding)?;
        let mut chain = self.chain_before(view, false);
        let top_bar = chain.last().copied().filter(|bar| chain.len() > 1 && self.is_top_bar(*bar, placement));
        chain.truncate(chain.len() - usize::from(top_bar.is_some()));
        let &first = chain.last().filter(|_| screen.at(view).parent().is_none())?;
        let moved = self.stacked_with(first);
        if moved.len() == 1 && self.is_top_bar(first, placement) {
            return None;
        }
        let bar = self.bar_behind(first, false, placement).filter(|bar| !moved.contains(bar));
        let around = self.span_of(&moved)?;
        let changes = self.tied_to_content(&moved, first, None)?.into_iter().map(|(_, change)| change);
        let changes = changes.collect::<Vec<_>>();

        let taken = |name: &str| screen.views().any(|(view, _)| screen.at(view).name() == name);
        let name = free_name("page", taken);
        let top = top_bar.map_or(String::new(), |bar| format!("; below {}", screen.at(bar).name()));
        let end = bar.map_or(String::new(), |bar| format!("; above {}", screen.at(bar).name()));
        let near = if top_bar.is_none() { ", top" } else { "" };
        let far = if bar.is_none() { ", bottom" } else { "" };
        let content = self.ends_behind(&moved, first, placement)?;
        let rules = format!("pin left, right{near}{far} to safe{top}{end}; scroll down; {content}");
        let before = around.start;
        let moved_by = changes.iter().map(|c| Change::new(c.at.0 - before..c.at.1 - before, c.new.clone()));
        let inside = changed(&self.text()[around.clone()], &moved_by.collect::<Vec<_>>())?;
        let indented = inside.replace('\n', "\n    ");
        let new = format!("view {name} {{ {rules}\n        {indented}\n    }}");
        let changes = vec![Change::new(around, new)];
        let names: Vec<String> = moved.iter().map(|&view| screen.at(view).name().to_owned()).collect();
        let said = format!("put {} into a view that scrolls: `view {name} {{ {rules}; … }}`", list(&names));
        let idea = Candidate::new(said, changes, structure::INTO_SCROLLER);
        Some(idea.because("what does not fit can be scrolled to"))
    }

    /// A view that holds a stack which goes beyond its end, and does not scroll: it does, and what is in it is tied to its
    /// content.
    pub(crate) fn holder_scrolls(&self, finding: &Finding, view: ViewId) -> Option<Candidate> {
        let screen = self.screen();
        let (_, placement) = self.worst(finding)?;
        let holder = screen.at(view).parent()?;
        let is_plain = screen.at(holder).scrolled().is_none() && screen.at(holder).arrangement().is_none();
        self.edge_read(holder, |c| is_far(c, false)).filter(|_| is_plain)?;
        let &first = self.chain_before(view, false).last()?;
        let top = self.edge_read(first, |c| is_near(c, false))?;
        if top.2 != Anchor::View(holder) {
            return None;
        }
        let moved = self.stacked_with(first);
        let changes = self.tied_to_content(&moved, first, Some(holder))?;
        let content = self.ends_behind(&moved, first, placement)?;
        let idea = self.put_in(holder, &["scroll down".to_owned(), content], structure::SCROLL)?;
        let tied: Vec<String> = moved
            .iter()
            .filter(|view| changes.iter().any(|(of, _)| of == *view))
            .map(|&view| screen.path(view))
            .collect();
        let said = format!("{}, and `parent.content` for `parent` in {}", idea.said, list(&tied));
        let changes = idea.changes.into_iter().chain(changes.into_iter().map(|(_, change)| change)).collect();
        let idea = Candidate::new(said, changes, idea.weight);
        Some(idea.because("what does not fit can be scrolled to"))
    }

    /// What the content ends behind: the lowest of what scrolls, by as much as the first of it is away from the top.
    fn ends_behind(&self, moved: &[ViewId], first: ViewId, placement: &Placement) -> Option<String> {
        let bottom = |view: &&ViewId| placement.frame(**view).map_or(0.0, |frame| frame.bottom());
        let last = moved.iter().max_by(|a, b| bottom(a).total_cmp(&bottom(b)))?;
        let margin = self.margin_of(first).filter(|by| *by > 0.0).unwrap_or(END_GAP);
        Some(format!("content.bottom = {}.bottom + {}", self.screen().at(*last).name(), exact(margin)))
    }

    /// Whether it lies along the top of the screen from side to side.
    fn is_top_bar(&self, view: ViewId, placement: &Placement) -> bool {
        let top = self.edge_read(view, |c| is_near(c, false));
        let is_at_top = top.is_some_and(|(_, relation, anchor)| {
            self.is_around(view, anchor) && relation.right.constant() == 0.0
        });
        let safe = placement.safe_frame();
        let frame = placement.frame(view);
        is_at_top && frame.is_some_and(|f| f.left <= safe.left + 0.5 && f.right() >= safe.right() - 0.5)
    }

    /// A view, and its siblings that are placed down the screen by it, in their order.
    fn stacked_with(&self, first: ViewId) -> Vec<ViewId> {
        let siblings: Vec<ViewId> = self.screen().siblings_of(first).collect();
        let mut moved = BTreeSet::from([first]);
        loop {
            let follows = |view: &&ViewId| {
                let down = self.rules_of(**view).flat_map(|(_, rule)| rule.relations());
                let read = down.flat_map(|relation| relation.right.terms());
                let mut read = read.filter(|t| t.coordinate.is_position() && !t.coordinate.is_horizontal());
                let is_moved = |anchor| self.sibling_read(anchor).is_some_and(|of| moved.contains(&of));
                !moved.contains(*view) && read.any(|t| is_moved(t.anchor))
            };
            match siblings.iter().find(follows) {
                Some(&next) => moved.insert(next),
                None => return siblings.into_iter().filter(|view| moved.contains(view)).collect(),
            };
        }
    }

    fn sibling_read(&self, anchor: Anchor) -> Option<ViewId> {
        match anchor {
            Anchor::View(of) => Some(of),
            Anchor::Prev(of) => self.screen().around(of).0.last().copied(),
            _ => None,
        }
    }

    /// Where views stand in the file, one behind the other with nothing else between them.
    fn span_of(&self, views: &[ViewId]) -> Option<Range<usize>> {
        let items = views.iter().map(|&view| Some(item_named(&self.tree, &self.fixes.map.view(view)?)?.0));
        let items: Vec<_> = items.collect::<Option<_>>()?;
        let spans: BTreeSet<(usize, usize)> =
            items.iter().map(node_span).map(|span| (span.start, span.end)).collect();
        let (&(start, _), &(_, end)) = (spans.first()?, spans.last()?);
        let inside = items.first()?.parent()?.children().map(|item| node_span(&item));
        let count = inside.filter(|span| start <= span.start && span.end <= end).count();
        (count == spans.len() && views.len() <= MAX_MOVED).then_some(start..end)
    }

    /// The rules of views, tied to the content of the view that they are put into in place of the screen, or to that of
    /// the holder they are in, each with its view. `None` where one of them hangs from the bottom of that or has a share
    /// of its height, or a band changes it.
    fn tied_to_content(
        &self,
        moved: &[ViewId],
        first: ViewId,
        holder: Option<ViewId>,
    ) -> Option<Vec<(ViewId, Change)>> {
        let is_around = |anchor| match holder {
            Some(holder) => anchor == Anchor::View(holder),
            None => matches!(anchor, Anchor::Screen | Anchor::Safe | Anchor::Clear),
        };
        let words: &[(&str, &str)] = match holder {
            Some(_) => &[("parent", "parent.content")],
            None => &[("safe", "parent.content"), ("screen", "parent.content")],
        };
        let mut changes = BTreeMap::new();
        for &view in moved {
            for (id, rule) in self.rules_of(view) {
                let statement = self.statement(id).filter(|_| rule.band().is_none())?;
                let reads = rule.relations().iter().flat_map(|relation| relation.right.terms());
                let hangs = |t: &&vantic_core::model::Term| {
                    let is_down = is_far(t.coordinate, false)
                        || matches!(t.coordinate, Coordinate::CenterY | Coordinate::Height);
                    is_around(t.anchor) && is_down
                };
                if reads.clone().any(|t| hangs(&t)) {
                    return None;
                }
                let source = statement.unlabelled();
                let is_of_place = reads.clone().any(|t| is_around(t.anchor) && t.coordinate.is_position());
                let top = self.edge_read(first, |c| is_near(c, false));
                let below = top.filter(|(of, _, anchor)| {
                    view == first && of.span() == statement.span() && self.sibling_read(*anchor).is_some()
                });
                let line = match below.filter(|_| holder.is_none()) {
                    Some((_, relation, _)) => {
                        format!("top = parent.content.top{}", distance("+", relation.right.constant()))
                    }
                    None if is_of_place => words_replaced(source, words),
                    None => continue,
                };
                // What is named otherwise stays what it is.
                if line == source {
                    return None;
                }
                changes.insert(statement.span().start, (view, statement.replaced(&line)));
            }
        }
        Some(changes.into_values().collect())
    }
}
