//! Structural repairs of two views that lie over one another: one begins or ends where the other does, both share
//! the space, or one floats on purpose.

use crate::finding::Finding;
use crate::fix::context::{Candidate, FixContext};
use crate::fix::progression::exact;
use crate::fix::structural::{GAPS, MOST_GAP};
use crate::fix::weights::structure;
use crate::screen_ext::ScreenExt as _;
use vantic_core::geometry::{Axis, Frame};
use vantic_core::model::{Anchor, Change as BandChange, Comparison, Condition, Coordinate, ViewId};
use vantic_core::plan::Placement;

impl FixContext<'_> {
    /// Two that lie over one another.
    pub(crate) fn kept_apart(&self, finding: &Finding, below: ViewId, above: ViewId) -> Vec<Candidate> {
        let mut ideas = Vec::new();
        let Some((_, placement)) = self.worst(finding) else { return ideas };
        let (Some(a), Some(b)) = (placement.frame(below), placement.frame(above)) else { return ideas };
        ideas.extend(self.floating(below, above, (&a, &b)));
        ideas.extend(self.scrolled_clear(placement, below, above));
        let screen = self.screen();
        if screen.at(below).parent() != screen.at(above).parent() {
            return ideas;
        }
        let order = |one: ViewId| screen.siblings_of(one).position(|sibling| sibling == one);
        let (first, later) = if order(below) < order(above) { (below, above) } else { (above, below) };
        let shared = a.shared(&b).unwrap_or_default();
        for across in [true, false] {
            let is_less = (shared.width < shared.height) == across;
            let less = if is_less { 0.0 } else { structure::OTHER_AXIS };
            ideas.extend(self.behind(first, later, across, less));
            let lies_first = |one: &Frame, other: &Frame| {
                if across { one.left <= other.left } else { one.top <= other.top }
            };
            let (near, far) = if lies_first(&a, &b) { (below, above) } else { (above, below) };
            ideas.extend(self.ends_before(near, far, across, less));
        }
        ideas.extend(self.halves(first, later));
        ideas
    }

    /// The one that is declared later begins where the other one ends.
    fn behind(&self, first: ViewId, later: ViewId, across: bool, less: f64) -> Vec<Candidate> {
        let siblings: Vec<ViewId> = self.screen().siblings_of(first).collect();
        let gap = self.gap_between(&siblings, across).unwrap_or(GAPS[usize::from(across)]);
        let name = self.screen().at(first).name();
        let own = self.rules_outside_bands(later);
        let ideas = own.filter_map(|(id, rule)| {
            let [relation] = rule.relations() else { return None };
            let term = relation.left.terms().first().filter(|t| t.anchor == Anchor::View(later))?;
            let is_place = term.coordinate.is_position() && term.coordinate.is_horizontal() == across;
            let is_plain = relation.comparison == Comparison::Equal && relation.left.terms().len() == 1;
            let statement = self.statement(id).filter(|_| is_place && is_plain)?;
            // The near edge tied to a sibling already is a slip of the edge, or of the sibling.
            let is_near = matches!(term.coordinate, Coordinate::Left | Coordinate::Start | Coordinate::Top);
            let is_sibling = |anchor: Anchor| match anchor {
                Anchor::View(view) => siblings.contains(&view) && view != later,
                anchor => matches!(anchor, Anchor::Prev(_) | Anchor::Next(_)),
            };
            if is_near && relation.right.terms().iter().any(|t| is_sibling(t.anchor)) {
                return None;
            }
            // At the distance that is stated; from the left, or along the reading direction, as it is measured.
            let reads = relation.right.terms().iter().any(|t| t.anchor == Anchor::View(first));
            let said = relation.right.constant();
            let gap = if reads && (1.0..=MOST_GAP).contains(&said) { said } else { gap };
            let line = format!("{} {name} by {}", if across { "after" } else { "below" }, exact(gap));
            let is_fixed =
                matches!(term.coordinate, Coordinate::Left | Coordinate::Right | Coordinate::CenterX);
            let fixed = format!("left = {name}.right + {}", exact(gap));
            self.replaced(&statement, if is_fixed { &fixed } else { &line }, structure::BEHIND - less)
        });
        ideas.collect()
    }

    /// The one that comes first gives way: its size becomes a preference, or its end is where the other begins.
    fn ends_before(&self, near: ViewId, far: ViewId, across: bool, less: f64) -> Vec<Candidate> {
        let mut ideas = Vec::new();
        let name = self.screen().at(far).name();
        let gap = exact(GAPS[usize::from(across)]);
        let size = if across { "width" } else { "height" };
        let (limit, end) = match across {
            true => (format!("end <= {name}.start - {gap}"), format!("before {name} by {gap}")),
            false => (format!("bottom <= {name}.top - {gap}"), format!("above {name} by {gap}")),
        };
        for stated in self.stated(near) {
            let Some(number) = stated.along(across) else { continue };
            if let Some(level) = self.screen().ladder().last() {
                let line = stated.with(across, &format!("{size} = {} ~ {level}; {limit}", exact(number)));
                ideas.extend(self.replaced(&stated.statement, &line, structure::PREFERRED_SIZE - less));
            }
            ideas.extend(self.replaced(
                &stated.statement,
                &stated.with(across, &end),
                structure::ENDS_BEFORE - less,
            ));
        }
        if across && self.screen().at(far).text().is_some() {
            ideas.extend(self.text_behind(near, far, structure::TEXT_ENDS - less));
        }
        if self.screen().at(near).text().is_some() && across {
            let weight = structure::TEXT_ENDS - less;
            // As siblings say it, where they do.
            let start = limit.split(" - ").next().unwrap_or(&limit);
            let usual = self.usual_lines(near, true).into_iter().map(|(line, _)| line);
            let limit =
                usual.into_iter().find(|line| line.starts_with(start)).unwrap_or_else(|| limit.clone());
            ideas.extend(self.put_in(near, std::slice::from_ref(&limit), weight));
            // On as many lines as it takes.
            let second = self.put_in(near, &[limit], weight - structure::SECOND);
            ideas.extend(second.and_then(|idea| self.on_any_lines(near, idea)));
        }
        ideas
    }

    /// A text in the middle begins behind what stands before it, on as many lines as it takes.
    fn text_behind(&self, near: ViewId, text: ViewId, weight: f64) -> Vec<Candidate> {
        let (name, around) = (self.screen().at(near).name(), self.around(text));
        let gap = exact(GAPS[0]);
        let line = format!("start = {name}.end + {gap}; end <= {around}.end - {gap}");
        let own = self.rules_outside_bands(text);
        let ideas = own.filter_map(|(id, rule)| {
            let is_middle = |c: Coordinate| {
                rule.relations().iter().any(|r| matches!(r.left.terms(), [t] if t.coordinate == c))
            };
            let across = is_middle(Coordinate::CenterX) && rule.relations().len() <= 2;
            let line = match is_middle(Coordinate::CenterY) {
                true => format!("{line}; center_y = {around}.center_y"),
                false => line.clone(),
            };
            let statement = self.statement(id).filter(|_| across)?;
            let idea = self.replaced(&statement, &line, weight)?;
            Some(self.on_any_lines(text, idea.clone()).unwrap_or(idea))
        });
        ideas.collect()
    }

    /// Two of one width beside one another: half of the space each.
    fn halves(&self, first: ViewId, later: ViewId) -> Option<Candidate> {
        self.screen().at(first).parent()?;
        let wide = |view| self.stated(view).into_iter().find(|s| s.width.is_some());
        let (one, other) = (wide(first)?, wide(later)?);
        let same = one.width == other.width && one.statement.span() != other.statement.span();
        let line = format!("width = 50% of parent.width - {}", exact(GAPS[1] / 2.0));
        let changes = [&one, &other].map(|s| s.statement.replaced(&s.with(true, &line))).to_vec();
        let name = |view| self.screen().at(view).name();
        let said = format!("write `{line}` in `{}` and `{}`", name(first), name(later));
        same.then_some(Candidate { said, changes, weight: structure::HALVES })
    }

    /// One lies over the other on purpose.
    fn floating(&self, below: ViewId, above: ViewId, (a, b): (&Frame, &Frame)) -> Option<Candidate> {
        let screen = self.screen();
        let area = |f: &Frame| f.width * f.height;
        let is_apart = screen.at(below).parent() != screen.at(above).parent();
        let is_root = screen.at(above).parent().is_none() && screen.at(below).parent().is_some();
        let in_a_state = screen.changes().iter().any(|(band, change)| {
            let hides = matches!(change, BandChange::Hide { view, .. } if screen.is_within(above, *view));
            let asks = |part: &Condition| matches!(part, Condition::State { first: true, .. });
            hides && screen.bands()[band.index()].condition().parts().into_iter().any(asks)
        });
        let reads = self
            .rules_of(above)
            .flat_map(|(_, r)| r.relations())
            .filter(|r| r.right.terms().iter().any(|t| t.anchor == Anchor::View(below)));
        let is_badge = !is_apart && area(b) <= area(a) / 4.0 && reads.count() >= 2;
        let is_text = screen.at(above).text().is_some();
        let weight = match (in_a_state, is_root && !is_text, is_badge) {
            (true, ..) => structure::FLOATS_IN_STATE,
            (_, true, _) => structure::FLOATS_OVER_PAGE,
            (.., true) => structure::FLOATS_AS_BADGE,
            _ => return None,
        };
        self.put_in(above, &["floats".to_owned()], weight)
    }

    /// Space at the end of what scrolls, so that its last child can be scrolled clear of the other.
    fn scrolled_clear(&self, placement: &Placement, below: ViewId, above: ViewId) -> Option<Candidate> {
        let screen = self.screen();
        let scroller_of =
            |view: ViewId| screen.ancestors(view).find(|&at| screen.at(at).scrolled().is_some());
        let of = |one: ViewId, other: ViewId| {
            scroller_of(one).filter(|&at| !screen.is_within(other, at)).map(|at| (at, other))
        };
        let (scroller, fixed) = of(below, above).or_else(|| of(above, below))?;
        let (port, over) = (placement.frame(scroller)?, placement.frame(fixed)?);
        let is_column =
            screen.at(scroller).arrangement().is_some_and(|a| a.columns.is_none() && a.axis == Axis::Down);
        let needed = (port.bottom() - over.top + 2.0 * GAPS[0]).round();
        let clause = format!("padding (0, 0, 0, {})", exact(needed));
        self.arranged(scroller, &clause, structure::SCROLLED_CLEAR)
            .filter(|_| is_column && over.top > port.top + port.height / 2.0)
    }
}
