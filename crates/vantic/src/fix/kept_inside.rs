//! Structural repairs of what goes beyond what is around it: a box that grows, an arrangement that wraps, shares or
//! scrolls, a size that ends where its parent does.

use crate::finding::Finding;
use crate::fix::change::Change;
use crate::fix::context::{Candidate, FixContext, because};
use crate::fix::progression::exact;
use crate::fix::structural::Stated;
use crate::fix::usual::{GAPS, MOST_GAP};
use crate::fix::weights::structure;
use crate::screen_ext::ScreenExt as _;
use crate::syntax::ast::nodes::node_span;
use crate::syntax::lexer::Kind;
use vantic_core::geometry::{Axis, Frame};
use vantic_core::model::{Anchor, Comparison, Coordinate, ViewId};
use vantic_core::plan::Placement;

/// What is left of the space beside something that is as wide as it may be.
const MARGINS: f64 = 32.0;

/// How many children of a row are made equal; more are rather wrapped.
const FEW: usize = 3;

impl FixContext<'_> {
    /// What goes beyond what is around it.
    pub(crate) fn kept_inside(&self, finding: &Finding, view: ViewId) -> Vec<Candidate> {
        let mut ideas = Vec::new();
        let screen = self.screen();
        let parent = screen.at(view).parent();
        let placement = self.worst(finding).map(|(_, placement)| placement);
        let sides: Vec<Coordinate> = finding.coordinates.iter().map(|(_, side)| *side).collect();
        let name = |view: ViewId| format!("`{}`", screen.at(view).name());
        let around = parent.map_or("the screen".to_owned(), name);
        for across in [true, false] {
            if !sides.iter().any(|side| side.is_horizontal() == across) {
                continue;
            }
            if let (Some(parent), Some(placement)) = (parent, placement) {
                let grows = format!("{around} grows round {}", name(view));
                ideas.extend(because(self.grown_parent(view, parent, across, placement), &grows));
                ideas.extend(self.arranged_otherwise(view, parent, across));
            }
            ideas.extend(placement.map(|p| self.ends_at_bar(view, across, p)).unwrap_or_default());
            ideas.extend(self.arranged_within(view, across));
            let beside = placement.and_then(|p| self.next_on_the_line(view, p)).filter(|_| across);
            if let Some(beside) = beside {
                let gives_way = format!("{} gives way to {}", name(view), name(beside));
                ideas.extend(because(self.ends_before(view, beside, true, 0.0), &gives_way));
            }
            match across {
                true => {
                    ideas.extend(because(self.shares_of_chain(view), "they share the space that there is"))
                }
                false => {
                    ideas.extend(self.in_a_scroller(finding, view));
                    ideas.extend(self.holder_scrolls(finding, view));
                    ideas.extend(because(self.gives_way(view), "the largest of those before it gives way"));
                }
            }
            ideas.extend(because(self.no_larger(view, across), "as large as it is now where there is space"));
            let to_the_end = self.to_the_end(view, across, placement);
            ideas.extend(because(to_the_end, "what is before it takes space too"));
            ideas.extend(because(self.ended(view, across), &format!("it ends where {around} does")));
        }
        let bar = "a bar stays at the end of the screen, and the list scrolls";
        ideas.extend(because(self.bar_at_the_end(view), bar));
        ideas.extend(because(self.sitting(view), "the arrangement places its children"));
        ideas.extend(self.measured_from_corner(finding));
        ideas
    }

    /// What stands on the line of a text, behind where it begins.
    fn next_on_the_line(&self, text: ViewId, placement: &Placement) -> Option<ViewId> {
        let screen = self.screen();
        let own = placement.frame(text).filter(|_| screen.at(text).text().is_some())?;
        let beside = screen.siblings_of(text).filter(|&other| other != text && placement.is_painted(other));
        let frames = beside.filter_map(|other| Some((other, placement.frame(other)?)));
        let on_line =
            frames.filter(|(_, f)| f.top < own.bottom() && own.top < f.bottom() && f.left > own.left);
        on_line.min_by(|a, b| a.1.left.total_cmp(&b.1.left)).map(|(other, _)| other)
    }

    /// The view around it ends where it does.
    fn grown_parent(
        &self,
        view: ViewId,
        parent: ViewId,
        across: bool,
        placement: &Placement,
    ) -> Vec<Candidate> {
        let (Some(own), Some(around)) = (placement.frame(view), placement.frame(parent)) else {
            return Vec::new();
        };
        // As far from the far side as the first of its children is from the near one.
        let inside = self.screen().at(parent).children().iter().filter_map(|&child| placement.frame(child));
        let before = |f: Frame| if across { f.left - around.left } else { f.top - around.top };
        let before = inside.chain([own]).map(before).fold(f64::INFINITY, f64::min);
        let gap = if (2.0..=MOST_GAP).contains(&before) { before.round() } else { GAPS[0] };
        let name = self.screen().at(view).name();
        let (far, size) = if across { ("right", "width") } else { ("bottom", "height") };
        let mut ideas = Vec::new();
        for stated in self.stated(parent) {
            let Some(number) = stated.along(across) else { continue };
            let weight = if across { structure::GROWN_ACROSS } else { structure::GROWN };
            let second = weight - structure::SECOND;
            // What is tapped is no smaller with few words.
            let is_control = placement.look(parent).control.is_some();
            let (round, least) = if is_control { (second, weight) } else { (weight, second) };
            let line = stated.with(across, &format!("{far} = {name}.{far} + {}", exact(gap)));
            ideas.extend(self.replaced(&stated.statement, &line, round));
            let line = format!("{size} = max({}, {name}.{size} + {})", exact(number), exact(2.0 * gap));
            ideas.extend(self.replaced(&stated.statement, &stated.with(across, &line), least));
        }
        ideas
    }

    /// A row that wraps, shares or scrolls; a column that scrolls; as many columns as fit.
    pub(crate) fn arranged_otherwise(&self, view: ViewId, parent: ViewId, across: bool) -> Vec<Candidate> {
        let screen = self.screen();
        let mut ideas = Vec::new();
        let Some(arrangement) = screen.at(parent).arrangement() else { return ideas };
        let is_line = arrangement.columns.is_none();
        let is_along = is_line && (arrangement.axis == Axis::Across) == across;
        let scrolls = screen.at(parent).scrolled().is_some();
        if is_along && !scrolls {
            let word = if across { "scroll across" } else { "scroll down" };
            let weight = if across { structure::SCROLL_ACROSS } else { structure::SCROLL };
            let scrolled = self.put_in(parent, &[word.to_owned()], weight);
            ideas.extend(because(scrolled, "what does not fit can be scrolled to"));
        }
        if is_along && across {
            let wrapped = self.arranged(parent, "wrap", structure::WRAP);
            ideas.extend(because(wrapped, "what does not fit goes to the next line"));
            ideas.extend(because(self.sharing(parent), "they share the space that there is"));
        }
        if !is_line
            && across
            && let Some(block) = self.block(parent)
        {
            let grid = block.children().find(|n| n.kind() == Kind::Grid);
            ideas.extend(grid.and_then(|grid| {
                let span = node_span(&grid);
                let source = &self.text()[span.clone()];
                let (before, rest) = source.split_once("columns ")?;
                let (number, _) =
                    rest.split_once(" of ").filter(|(number, _)| number.parse::<u32>().is_ok())?;
                let at = span.start + before.len() + "columns ".len();
                let said = format!(
                    "write `{}` instead of `{source}`",
                    source.replacen(&format!("{number} of "), "of ", 1)
                );
                let changes = vec![Change::new(at..at + number.len() + 1, "")];
                let idea = Candidate::new(said, changes, structure::AS_MANY_COLUMNS);
                Some(idea.because("as many columns as there is space for"))
            }));
        }
        let is_stretched = is_line && !is_along;
        if is_stretched {
            // What is wider than its column loses its own width.
            for stated in self.stated(view) {
                let other = if across { stated.height } else { stated.width };
                let rest = other
                    .map(|other| format!("{} = {}", if across { "height" } else { "width" }, exact(other)));
                let without =
                    rest.and_then(|line| self.replaced(&stated.statement, &line, structure::STRETCHED));
                let given = format!("`{}` gives it this size already", screen.at(parent).name());
                ideas.extend(because(without, &given));
            }
        }
        ideas
    }

    /// The children of a row share it: all of them where they are few and alike, else the widest.
    fn sharing(&self, row: ViewId) -> Vec<Candidate> {
        let children = self.screen().at(row).children();
        let stated: Vec<(ViewId, Stated<'_>)> = children
            .iter()
            .filter_map(|&child| Some((child, self.stated(child).into_iter().find(|s| s.width.is_some())?)))
            .collect();
        let is_repeated = children.iter().any(|&child| self.screen().at(child).name().contains('['));
        let widths: Vec<f64> = stated.iter().filter_map(|(_, s)| s.width).collect();
        let Some(&first) = widths.first().filter(|_| !is_repeated) else { return Vec::new() };
        let shared = |s: &Stated<'_>| s.statement.replaced(&s.with(true, "share 1"));
        if widths.iter().all(|width| *width == first) && widths.len() == children.len() && widths.len() > 1 {
            let changes = stated.iter().map(|(_, s)| shared(s)).collect();
            let name = self.screen().path(row);
            let weight =
                if widths.len() <= FEW { structure::SHARED_BY_FEW } else { structure::SHARED_BY_MANY };
            return vec![Candidate::new(
                format!("write `share 1` in place of each width in `{name}`"),
                changes,
                weight,
            )];
        }
        let widest = stated
            .into_iter()
            .max_by(|a, b| a.1.width.partial_cmp(&b.1.width).unwrap_or(std::cmp::Ordering::Equal));
        let one = widest.and_then(|(_, s)| self.reads(&s.statement, shared(&s), structure::SHARED_BY_WIDEST));
        one.into_iter().collect()
    }

    /// As large as stated where there is space, and no larger than what is around it.
    fn no_larger(&self, view: ViewId, across: bool) -> Vec<Candidate> {
        let around = self.around(view);
        let size = if across { "width" } else { "height" };
        let mut ideas = Vec::new();
        for stated in self.stated(view) {
            let Some(number) = stated.along(across) else { continue };
            let number_text = exact(number);
            if stated.width == stated.height {
                let line = format!(
                    "width = min({number_text}, {around}.width - {m}, {around}.height - {m}); height = width",
                    m = exact(MARGINS)
                );
                ideas.extend(self.replaced(
                    &stated.statement,
                    &line,
                    structure::NO_LARGER + structure::SECOND,
                ));
            }
            let line = format!("{size} = min({number_text}, {around}.{size} - {})", exact(MARGINS));
            let weight = if across { structure::NO_LARGER } else { structure::NO_HIGHER };
            ideas.extend(self.replaced(&stated.statement, &stated.with(across, &line), weight));
        }
        ideas
    }

    /// To the end of what is around it, in place of a size that comes from there.
    fn to_the_end(&self, view: ViewId, across: bool, placement: Option<&Placement>) -> Vec<Candidate> {
        let size = if across { Coordinate::Width } else { Coordinate::Height };
        let around = self.around(view);
        let near_gap = placement.and_then(|p| {
            let own = p.frame(view)?;
            let whole = self
                .screen()
                .at(view)
                .parent()
                .map_or_else(|| Some(p.safe_frame()), |parent| p.frame(parent))?;
            Some(if across { own.left - whole.left } else { 0.0 })
        });
        let gap = near_gap
            .filter(|gap| (1.0..=MOST_GAP).contains(gap))
            .map_or(String::new(), |gap| format!(" - {}", exact(gap.round())));
        let along_reading = self.lines_of(view, true).iter().any(|line| line.starts_with("start"));
        let far = match (across, along_reading) {
            (true, true) => "end",
            (true, false) => "right",
            (false, _) => "bottom",
        };
        let own = self.rules_outside_bands(view);
        let reads_size = own.filter(|(_, rule)| match rule.relations() {
            [relation] => {
                let is_own = matches!(relation.left.terms(), [term] if term.anchor == Anchor::View(view) && term.coordinate == size);
                let of_others = relation.right.terms().iter().any(|t| !t.coordinate.is_position() && t.anchor != Anchor::View(view));
                is_own && of_others && relation.comparison == Comparison::Equal
            }
            _ => false,
        });
        let ideas = reads_size.filter_map(|(id, _)| {
            let statement = self.statement(id)?;
            self.replaced(&statement, &format!("{far} = {around}.{far}{gap}"), structure::TO_THE_END)
        });
        ideas.collect()
    }

    /// To the end of its parent, in place of a size as a number.
    fn ended(&self, view: ViewId, across: bool) -> Vec<Candidate> {
        let far = if across { "right" } else { "bottom" };
        let line = format!("{far} = parent.{far} - {}", exact(GAPS[0]));
        let stated = self.stated(view).into_iter().filter(|s| s.along(across).is_some());
        let stated = stated.filter(|_| self.screen().at(view).parent().is_some());
        stated.filter_map(|s| self.replaced(&s.statement, &s.with(across, &line), structure::ENDED)).collect()
    }

    /// A bar below what has no end: the bar at the end of the screen, and the other one scrolls above it.
    fn bar_at_the_end(&self, bar: ViewId) -> Option<Candidate> {
        let screen = self.screen();
        let (name, around) = (screen.at(bar).name(), self.around(bar));
        let own = self.rules_outside_bands(bar);
        let (statement, list) = own.into_iter().find_map(|(id, rule)| {
            let [relation] = rule.relations() else { return None };
            let is_top = matches!(relation.left.terms(), [t] if t.coordinate == Coordinate::Top && t.anchor == Anchor::View(bar));
            let [below] = relation.right.terms() else { return None };
            let Anchor::View(list) = below.anchor else { return None };
            let is_list = below.coordinate == Coordinate::Bottom && screen.at(list).arrangement().is_some();
            Some((self.statement(id).filter(|_| is_top && is_list)?, list))
        })?;
        let has_end = screen.at(list).scrolled().is_some();
        let mut idea =
            self.put_in(list, &[format!("above {name}"), "scroll down".to_owned()], structure::BAR_AT_END)?;
        let line = format!("bottom = {around}.bottom");
        idea.changes.push(statement.replaced(&line));
        idea.said = format!("{}, and `{line}` in `{}`", idea.said, screen.path(bar));
        (!has_end).then_some(idea)
    }

    /// Children of a row or column that are tied to its middle across it sit there instead.
    fn sitting(&self, view: ViewId) -> Vec<Candidate> {
        let screen = self.screen();
        let Some(arrangement) = screen.at(view).arrangement().filter(|a| a.columns.is_none()) else {
            return Vec::new();
        };
        let middle = if arrangement.axis == Axis::Down { Coordinate::CenterX } else { Coordinate::CenterY };
        let children = screen.at(view).children().iter();
        let ideas = children.flat_map(|&child| {
            let own = self.rules_outside_bands(child);
            own.filter_map(move |(id, rule)| {
                let [relation] = rule.relations() else { return None };
                let reads =
                    |t: &vantic_core::model::Term| t.coordinate == middle && t.anchor == Anchor::View(view);
                let is_middle = matches!(relation.left.terms(), [t] if t.coordinate == middle)
                    && relation.right.terms().iter().any(reads);
                let statement = self.statement(id).filter(|_| is_middle)?;
                self.replaced(&statement, "sit center", structure::SITS)
            })
        });
        ideas.collect()
    }
}
