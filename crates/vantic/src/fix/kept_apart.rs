//! Structural repairs of two views that lie over one another: one begins or ends where the other does, both share
//! the space, or one floats on purpose.

use crate::finding::Finding;
use crate::fix::context::{Candidate, FixContext, because};
use crate::fix::progression::{distance, exact};
use crate::fix::rule_source::{Pinned, Statement, sides_but};
use crate::fix::structural::words_replaced;
use crate::fix::usual::{GAPS, MOST_GAP, is_far, is_near, is_usual_gap};
use crate::fix::weights::structure;
use crate::screen_ext::ScreenExt as _;
use vantic_core::geometry::{Axis, Frame};
use vantic_core::model::{
    Anchor, Change as BandChange, Comparison, Condition, Coordinate, Relation, Rule, Term, ViewId,
};
use vantic_core::plan::Placement;

/// What takes this much of a width or height is a bar, and does not float.
const SPANS: f64 = 0.75;

/// A height out of thin air is a multiple of this.
const ROUND: f64 = 4.0;

impl FixContext<'_> {
    /// Two that lie over one another.
    pub(crate) fn kept_apart(&self, finding: &Finding, below: ViewId, above: ViewId) -> Vec<Candidate> {
        let mut ideas = Vec::new();
        let Some((_, placement)) = self.worst(finding) else { return ideas };
        let (Some(a), Some(b)) = (placement.frame(below), placement.frame(above)) else { return ideas };
        ideas.extend(because(self.floating(below, above, (&a, &b)), "it may lie over others on purpose"));
        let clear = "with space at the end, the last of it can be scrolled clear";
        ideas.extend(because(self.scrolled_clear(placement, below, above), clear));
        let screen = self.screen();
        let name = |view: ViewId| format!("`{}`", screen.at(view).name());
        if screen.at(below).parent() != screen.at(above).parent() {
            return ideas;
        }
        let order = |one: ViewId| screen.siblings_of(one).position(|sibling| sibling == one);
        let (first, later) = if order(below) < order(above) { (below, above) } else { (above, below) };
        ideas.extend(self.beside_in_band(finding, (first, later), placement));
        let shared = a.shared(&b).unwrap_or_default();
        ideas.extend(self.beside_what_is_hidden((below, above), placement));
        for across in [true, false] {
            let is_less = (shared.width < shared.height) == across;
            let less = if is_less { 0.0 } else { structure::OTHER_AXIS };
            let declared = format!("{} is declared after {}", name(later), name(first));
            ideas.extend(because(self.behind(finding, (first, later), across, less), &declared));
            let lies_first = |one: &Frame, other: &Frame| {
                if across { one.left <= other.left } else { one.top <= other.top }
            };
            let (near, far) = if lies_first(&a, &b) { (below, above) } else { (above, below) };
            let gives_way = format!("{} gives way to {}", name(near), name(far));
            ideas.extend(because(self.ends_before(near, far, across, less), &gives_way));
            let is_bar = |near: &Frame, far: &Frame| {
                if across { far.height >= SPANS * near.height } else { far.width >= SPANS * near.width }
            };
            if if near == below { is_bar(&a, &b) } else { is_bar(&b, &a) } {
                ideas.extend(because(self.ends_at_other(near, far, across), &gives_way));
            }
            let hangs = format!("it stays clear of {}", name(far));
            ideas.extend(because(self.hangs_above(near, far, across, less), &hangs));
            if is_less {
                ideas.extend(self.ends_at_bar(near, across, placement));
            }
        }
        ideas.extend(self.room_for_both(first, placement));
        if screen.at(later).text().is_some() {
            let words = self.text_behind(first, later, structure::TEXT_ENDS);
            ideas.extend(because(words, &format!("its words begin behind {}", name(first))));
        }
        ideas.extend(because(self.halves(first, later), "they share the space that there is"));
        let middle = format!("{} is in the middle", name(first));
        ideas.extend(because(self.at_a_side(first, later), &middle));
        let both = "that holds in both directions of reading";
        ideas.extend(because(self.apart_in_both_directions(finding, first, later), both));
        ideas
    }

    /// The one that is declared later begins where the other one ends, or ends where it begins.
    fn behind(
        &self,
        finding: &Finding,
        (first, later): (ViewId, ViewId),
        across: bool,
        less: f64,
    ) -> Vec<Candidate> {
        let siblings: Vec<ViewId> = self.screen().siblings_of(first).collect();
        let usual = self.gap_between(&siblings, across).filter(is_usual_gap);
        let gap = usual.unwrap_or(GAPS[usize::from(across)]);
        let name = self.screen().at(first).name();
        let mut ideas = Vec::new();
        // Where it is found in one band only, what that says.
        let bands = self.bands_where_found(finding);
        let is_told = |rule: &Rule| rule.band().is_none_or(|band| bands.contains(&band));
        for (id, rule) in self.rules_of(later).filter(|(_, rule)| is_told(rule)) {
            for (at, relation) in rule.relations().iter().enumerate() {
                let [term] = relation.left.terms() else { continue };
                let is_place = term.coordinate.is_position() && term.coordinate.is_horizontal() == across;
                let is_own = term.anchor == Anchor::View(later) && relation.comparison == Comparison::Equal;
                let Some(statement) = self.statement(id).filter(|_| is_place && is_own) else { continue };
                // The near edge tied to a sibling already is a slip of the edge, or of the sibling.
                let is_near = is_near(term.coordinate, across);
                let read = relation.right.terms().iter().find_map(|t| match t.anchor {
                    Anchor::View(view) if siblings.contains(&view) && view != later => Some(view),
                    _ => None,
                });
                let is_by_order = relation
                    .right
                    .terms()
                    .iter()
                    .any(|t| matches!(t.anchor, Anchor::Prev(_) | Anchor::Next(_)));
                match read {
                    Some(other) if is_near && other != first => {
                        ideas.extend(self.behind_another(&statement, relation, (other, first), usual, less));
                        continue;
                    }
                    Some(_) if is_near => {
                        ideas.extend(self.at_other_edge(&statement, relation, (first, later), less));
                        continue;
                    }
                    _ if is_near && is_by_order => continue,
                    _ => {}
                }
                // At the distance that is stated; from the left, or along the reading direction, as it is measured.
                let reads = relation.right.terms().iter().any(|t| t.anchor == Anchor::View(first));
                let said = relation.right.constant();
                // What is flush with what is around it is flush with its neighbour.
                let of_around = matches!(relation.right.terms(), [t] if self.is_around(later, t.anchor));
                let is_flush = of_around && said == 0.0 && self.screen().at(later).text().is_none();
                let gap = match reads && is_usual_gap(&said) {
                    true => said,
                    false if is_flush => 0.0,
                    false => gap,
                };
                let by = distance("by", gap);
                let plus = distance("+", gap);
                // What is pinned to the end of what is around it stays there.
                let is_far_edge = matches!(term.coordinate, Coordinate::Bottom | Coordinate::End);
                let is_at_end = relation.right.constant().abs() <= MOST_GAP && !reads;
                if is_far_edge && is_at_end {
                    continue;
                }
                let beyond = relation.right.terms().iter().any(|t| t.coordinate == term.coordinate);
                let is_beyond = is_far_edge && reads && beyond && said > 0.0;
                let line = match (term.coordinate, across) {
                    (Coordinate::Bottom, _) if is_beyond => format!("below {name}{by}"),
                    (Coordinate::End, _) if is_beyond => format!("after {name}{by}"),
                    (Coordinate::Bottom, _) => format!("above {name}{by}"),
                    (Coordinate::End, _) => format!("before {name}{by}"),
                    (Coordinate::Left | Coordinate::Right | Coordinate::CenterX, _) => {
                        format!("left = {name}.right{plus}")
                    }
                    (_, true) => format!("after {name}{by}"),
                    (_, false) => format!("below {name}{by}"),
                };
                let Some(line) = self.in_place_of_side(&statement, at, &line) else { continue };
                // What siblings say too is less likely to be wrong.
                let usual = if self.is_usual(id) { structure::USUAL_LESS } else { 0.0 };
                let at_middle = relation
                    .right
                    .terms()
                    .iter()
                    .any(|t| matches!(t.coordinate, Coordinate::CenterX | Coordinate::CenterY) && !reads);
                let at_middle = if at_middle { structure::AT_MIDDLE_LESS } else { 0.0 };
                ideas.extend(self.replaced(&statement, &line, structure::BEHIND - less - usual - at_middle));
            }
        }
        ideas
    }

    /// The far edge of what it lies over, where it is tied to the near one at a distance that one keeps to a neighbour.
    fn at_other_edge(
        &self,
        statement: &Statement<'_>,
        relation: &Relation,
        (first, later): (ViewId, ViewId),
        less: f64,
    ) -> Option<Candidate> {
        if !is_usual_gap(&relation.right.constant()) {
            return None;
        }
        let name = self.screen().at(first).name();
        let source = statement.unlabelled();
        let line =
            [("start", "end"), ("left", "right"), ("top", "bottom")].iter().find_map(|(near, far)| {
                let (near, far) = (format!("{name}.{near}"), format!("{name}.{far}"));
                source.contains(&near).then(|| source.replace(&near, &far))
            })?;
        let across = relation.left.terms().iter().all(|t| t.coordinate.is_horizontal());
        let as_siblings = self.usual_lines(later, across).iter().any(|(usual, _)| *usual == line);
        let weight = if as_siblings { structure::OTHER_EDGE_AS_SIBLINGS } else { structure::OTHER_EDGE };
        let reason = format!("it begins behind `{name}`");
        Some(self.replaced(statement, &line, weight - less)?.because(reason))
    }

    /// A rule with a line in place of one of its relations: all of it, or one side of a pin.
    fn in_place_of_side(&self, statement: &Statement<'_>, relation: usize, line: &str) -> Option<String> {
        match statement.pin() {
            Some(Pinned { sides, to, .. }) if sides.len() > 1 => {
                Some(format!("pin {} to {to}; {line}", sides_but(&sides, relation)))
            }
            Some(_) => Some(line.to_owned()),
            None if relation == 0 && !statement.unlabelled().contains(", at ") => Some(line.to_owned()),
            None => None,
        }
    }

    /// The neighbour that was meant, in place of one further off, at the usual distance.
    fn behind_another(
        &self,
        statement: &Statement<'_>,
        relation: &Relation,
        (other, first): (ViewId, ViewId),
        usual: Option<f64>,
        less: f64,
    ) -> Option<Candidate> {
        let name = |view: ViewId| self.screen().at(view).name().to_owned();
        let line = words_replaced(statement.unlabelled(), &[(&name(other), &name(first))]);
        let said = relation.right.constant();
        let line = match usual.filter(|usual| *usual != said) {
            Some(usual) => words_replaced(&line, &[(&exact(said), &exact(usual))]),
            None => line,
        };
        let nearest = format!("`{}` is the one before it", name(first));
        Some(self.replaced(statement, &line, structure::NEXT_NEIGHBOUR - less)?.because(nearest))
    }

    /// Along the reading direction, one after the other.
    fn apart_in_both_directions(&self, finding: &Finding, first: ViewId, later: ViewId) -> Vec<Candidate> {
        if self.screen().languages().iter().all(|language| !language.is_right_to_left()) {
            return Vec::new();
        }
        let Some(mirrored) = self.along_reading(&[first]) else { return Vec::new() };
        let after = self.behind(finding, (first, later), true, 0.0).into_iter();
        let both = after.map(|mut idea| {
            idea.said = format!("{}, and {}", mirrored.said, idea.said);
            idea.changes.extend(mirrored.changes.iter().cloned());
            idea.weight = structure::ALONG_READING - structure::SECOND;
            idea
        });
        both.collect()
    }

    /// The one that comes first hangs above the other one, wherever that is.
    fn hangs_above(&self, near: ViewId, far: ViewId, across: bool, less: f64) -> Vec<Candidate> {
        let name = self.screen().at(far).name();
        let gap = exact(GAPS[usize::from(across)]);
        let line = if across { format!("before {name} by {gap}") } else { format!("above {name} by {gap}") };
        let own = self.rules_outside_bands(near).flat_map(|(id, rule)| {
            rule.relations().iter().enumerate().map(move |(at, relation)| (id, at, relation))
        });
        let ideas = own.filter_map(|(id, at, relation)| {
            let [term] = relation.left.terms() else { return None };
            let is_own = term.anchor == Anchor::View(near) && relation.comparison == Comparison::Equal;
            let far_off = relation.right.constant() > MOST_GAP;
            let is_near = is_near(term.coordinate, across);
            let statement = self.statement(id).filter(|_| is_near && is_own && far_off)?;
            let line = self.in_place_of_side(&statement, at, &line)?;
            self.replaced(&statement, &line, structure::HANGS_ABOVE - less)
        });
        ideas.collect()
    }

    /// The one that comes first gives way: its size becomes a preference, or its end is where the other begins.
    pub(crate) fn ends_before(&self, near: ViewId, far: ViewId, across: bool, less: f64) -> Vec<Candidate> {
        let mut ideas = Vec::new();
        let name = self.screen().at(far).name();
        let gap = exact(GAPS[usize::from(across)]);
        let size = if across { "width" } else { "height" };
        // In the words of its near side.
        let (limit, end) = match across {
            true if self.far_word(near, true) == "right" => {
                (format!("right <= {name}.left - {gap}"), format!("right = {name}.left - {gap}"))
            }
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
        if self.screen().at(near).text().is_some() && across {
            let weight = structure::TEXT_ENDS - less;
            // As siblings say it, where they do.
            let start = limit.split(" - ").next().unwrap_or(&limit);
            let usual = self.usual_lines(near, true).into_iter().map(|(line, _)| line);
            let limit =
                usual.into_iter().find(|line| line.starts_with(start)).unwrap_or_else(|| limit.clone());
            let limited = self.put_in(near, std::slice::from_ref(&limit), weight);
            let kept = limited.clone().and_then(|idea| self.kept_on_one_line(far, idea));
            ideas.extend(kept.clone().and_then(|idea| self.with_grown_parent(near, idea)));
            ideas.extend(kept);
            ideas.extend(limited);
            // On as many lines as it takes, in a box that grows round them.
            let second = self.put_in(near, &[limit], weight - structure::SECOND);
            let second = second.map(|idea| self.on_any_lines(near, idea.clone()).unwrap_or(idea));
            let grown = second.clone().and_then(|idea| self.with_grown_parent(near, idea));
            ideas.extend(second.into_iter().chain(grown));
        }
        ideas
    }

    /// What hangs from the top and what stands at the bottom of a box of a stated height meet: the box is as high as both need.
    fn room_for_both(&self, view: ViewId, placement: &Placement) -> Option<Candidate> {
        let screen = self.screen();
        let parent = screen.at(view).parent()?;
        let stated = self.stated(parent).into_iter().find(|s| s.height.is_some())?;
        let stands = |view: ViewId| {
            let read = self.edge_read(view, |c| is_far(c, false));
            read.is_some_and(|(_, _, anchor)| self.is_around(view, anchor))
        };
        let framed = screen.siblings_of(view).filter_map(|view| Some((view, placement.frame(view)?)));
        let (below, above): (Vec<_>, Vec<_>) = framed.partition(|(view, _)| stands(*view));
        let needed = |(_, from_top): &(ViewId, Frame)| {
            let meets = below.iter().filter(|(_, f)| f.left < from_top.right() && from_top.left < f.right());
            let top = meets.map(|(_, f)| f.top).fold(f64::INFINITY, f64::min);
            from_top.bottom() + GAPS[0] - top
        };
        let more = above.iter().map(needed).fold(0.0, f64::max);
        let height = ((stated.height? + more) / ROUND).ceil() * ROUND;
        let line = stated.with(false, &format!("height = {}", exact(height)));
        let idea = self.replaced(&stated.statement, &line, structure::ROOM_FOR_BOTH)?;
        (more > 0.0).then(|| idea.because("there is room for both then"))
    }

    /// The end of what is around both is where the other one stands: the one before it ends there.
    fn ends_at_other(&self, near: ViewId, far: ViewId, across: bool) -> Option<Candidate> {
        let at_end = |view: ViewId| {
            let read = self.edge_read(view, |c| is_far(c, across));
            read.filter(|(_, _, anchor)| self.is_around(view, *anchor))
        };
        at_end(far)?;
        let (own, relation, _) = at_end(near)?;
        let rules = self.rules_outside_bands(near);
        let (statement, at) = rules.into_iter().find_map(|(id, rule)| {
            let statement = self.statement(id).filter(|statement| statement.span() == own.span())?;
            Some((statement, rule.relations().iter().position(|one| one == relation)?))
        })?;
        let word = if across { "before" } else { "above" };
        let gap = relation.right.constant().abs();
        let gap = if gap <= MOST_GAP { gap } else { GAPS[usize::from(across)] };
        let line = format!("{word} {}{}", self.screen().at(far).name(), distance("by", gap));
        let line = self.in_place_of_side(&statement, at, &line)?;
        let scrolls = self.screen().at(near).scrolled().is_some();
        let weight = if scrolls { structure::SCROLLER_ENDS_AT_BAR } else { structure::ENDED };
        self.replaced(&statement, &line, weight)
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
            let idea = self.on_any_lines(text, idea.clone()).unwrap_or(idea);
            let grown = self.with_grown_parent(text, idea.clone());
            Some([Some(idea), grown])
        });
        ideas.flatten().flatten().collect()
    }

    /// The same with the words of the other text kept on one line, where it is one.
    fn kept_on_one_line(&self, text: ViewId, idea: Candidate) -> Option<Candidate> {
        self.screen().at(text).text()?;
        let kept = self.put_in(text, &["snug weight 2".to_owned()], idea.weight)?;
        let weight = idea.weight - structure::KEPT_ON_ONE_LINE;
        Some(Candidate { lines: Vec::new(), weight, ..idea.and(kept) })
    }

    /// The same in a box that is as high as the text on several lines, and no lower than it is stated.
    pub(crate) fn with_grown_parent(&self, text: ViewId, idea: Candidate) -> Option<Candidate> {
        self.screen().at(text).text()?;
        let parent = self.screen().at(text).parent()?;
        let stated = self.stated(parent).into_iter().find(|s| s.height.is_some())?;
        let name = self.screen().at(text).name();
        let height = stated.height?;
        let (height, insets) = (exact(height), exact(self.insets_of(text, height)));
        let line = format!("height = max({height}, {name}.height + {insets})");
        let grown = self.replaced(&stated.statement, &stated.with(false, &line), idea.weight)?;
        Some(Candidate { weight: idea.weight - structure::SECOND, ..idea.and(grown) })
    }

    /// How much higher a box of this height is than a line of a text in it: what is above and below the text keeps its
    /// place. Where nothing is, a margin.
    fn insets_of(&self, text: ViewId, height: f64) -> f64 {
        let margins = 2.0 * GAPS[0];
        let placement = self.report.placements.first();
        let Some((own, placement)) = placement.and_then(|p| Some((p.frame(text)?, p))) else {
            return margins;
        };
        let lines = placement.text_size(text).map_or(1, |size| size.lines.max(1));
        let mut beside = self.screen().siblings_of(text).filter(|&other| other != text);
        let is_stacked = beside.any(|other| {
            placement.frame(other).is_some_and(|f| f.top >= own.bottom() || f.bottom() <= own.top)
        });
        let line = (own.height / f64::from(lines)).floor();
        if is_stacked { (height - line).max(margins) } else { margins }
    }

    /// Two of one width beside one another: half of the space each, less the distances; or no more than that.
    fn halves(&self, first: ViewId, later: ViewId) -> Vec<Candidate> {
        let width = [first, later].into_iter().flat_map(|view| self.stated(view)).find_map(|s| s.width);
        let Some(width) = width else { return Vec::new() };
        let margins = [first, later].into_iter().filter_map(|view| self.margin_of(view));
        let less = exact(margins.fold(0.0, f64::max) + GAPS[0] / 2.0);
        let half = format!("50% of {}.width - {less}", self.around(first));
        let views = [first, later];
        let no_more = self.of_one_width(&views, &format!("width = min({}, {half})", exact(width)));
        let no_more = no_more.map(|idea| Candidate { weight: idea.weight - structure::SECOND, ..idea });
        let both = self.of_one_width(&views, &format!("width = {half}"));
        // One says how wide both are.
        let reads_width = |(of, view): (ViewId, ViewId)| {
            self.rules_outside_bands(of).flat_map(|(_, rule)| rule.relations()).any(|r| {
                let is_width = |t: &Term, view: ViewId| {
                    t.coordinate == Coordinate::Width && t.anchor == Anchor::View(view)
                };
                matches!(r.left.terms(), [t] if is_width(t, of))
                    && matches!(r.right.terms(), [t] if is_width(t, view))
            })
        };
        let one =
            [(first, later), (later, first)].into_iter().filter(|&(view, other)| reads_width((other, view)));
        let one = one.filter_map(|(view, _)| {
            let stated = self.stated(view).into_iter().find(|s| s.width.is_some())?;
            self.replaced(
                &stated.statement,
                &stated.with(true, &format!("width = {half}")),
                structure::HALVES,
            )
        });
        one.chain(both).chain(no_more).collect()
    }

    /// Two in the middle of what is around them: the later one stands at a side.
    fn at_a_side(&self, first: ViewId, later: ViewId) -> Vec<Candidate> {
        let in_middle = |view: ViewId| {
            let read = self.edge_read(view, |c| c == Coordinate::CenterX)?;
            (self.is_around(view, read.2) && read.1.right.constant() == 0.0).then_some(read.0)
        };
        let (Some(_), Some(statement)) = (in_middle(first), in_middle(later)) else { return Vec::new() };
        if statement.unlabelled() != format!("center_x = {}.center_x", self.around(later)) {
            return Vec::new();
        }
        let (around, gap) = (self.around(later), exact(GAPS[0]));
        let sides = [
            (format!("end = {around}.end - {gap}"), 0.0),
            (format!("start = {around}.start + {gap}"), structure::SECOND),
        ];
        sides
            .iter()
            .filter_map(|(line, less)| self.replaced(&statement, line, structure::BEHIND - less))
            .collect()
    }

    /// Views of one width, each with another line for it.
    pub(crate) fn of_one_width(&self, views: &[ViewId], line: &str) -> Option<Candidate> {
        let stated: Vec<_> = views
            .iter()
            .map(|&view| self.stated(view).into_iter().find(|s| s.width.is_some()))
            .collect::<Option<_>>()?;
        let first = stated.first()?;
        let mut spans: Vec<_> = stated.iter().map(|s| s.statement.span().start).collect();
        spans.dedup();
        let same = stated.iter().all(|s| s.width == first.width) && spans.len() == views.len();
        let changes = stated.iter().map(|s| s.statement.replaced(&s.with(true, line))).collect();
        let names: Vec<String> =
            views.iter().map(|&view| format!("`{}`", self.screen().at(view).name())).collect();
        let (last, others) = names.split_last()?;
        let said = format!("write `{line}` in {} and {last}", others.join(", "));
        same.then_some(Candidate::new(said, changes, structure::HALVES))
    }

    /// One lies over the other on purpose.
    fn floating(&self, below: ViewId, above: ViewId, (a, b): (&Frame, &Frame)) -> Option<Candidate> {
        let screen = self.screen();
        let area = |f: &Frame| f.width * f.height;
        let is_apart = screen.at(below).parent() != screen.at(above).parent();
        // What lies over a page, or over a small part of what scrolls.
        let is_bar = b.width >= SPANS * a.width || b.height >= SPANS * a.height;
        let is_small = screen.at(below).scrolled().is_some() && !is_bar && area(b) <= area(a) / 4.0;
        let is_root =
            screen.at(above).parent().is_none() && (screen.at(below).parent().is_some() || is_small);
        let in_a_state = screen.changes().iter().any(|(band, change)| {
            let hides = matches!(change, BandChange::Hide { view, .. } if screen.is_within(above, *view));
            let asks = |part: &Condition| matches!(part, Condition::State { first: true, .. });
            hides && screen.bands()[band.index()].condition().parts().into_iter().any(asks)
        });
        let only_in_a_state = screen.with_ancestors(above).any(|view| {
            let bands = screen.at(view).only_in();
            let of_state = |part: &Condition| matches!(part, Condition::State { .. });
            !bands.is_empty()
                && bands
                    .iter()
                    .all(|band| screen.bands()[band.index()].condition().parts().into_iter().any(of_state))
        });
        let in_a_state = in_a_state || only_in_a_state;
        let reads = self
            .rules_of(above)
            .flat_map(|(_, r)| r.relations())
            .filter(|r| r.right.terms().iter().any(|t| t.anchor == Anchor::View(below)));
        let is_badge = !is_apart && area(b) <= area(a) / 4.0 && reads.count() >= 2;
        let is_text = screen.at(above).text().is_some();
        let weight = match (in_a_state, is_root && !is_text, is_badge && !is_text) {
            (true, ..) => structure::FLOATS_IN_STATE,
            (_, true, _) => structure::FLOATS_OVER_PAGE,
            (.., true) => structure::FLOATS_AS_BADGE,
            _ => return None,
        };
        let why = match in_a_state {
            true => "it is there in one state only",
            false => "nothing else gives way to it",
        };
        Some(self.put_in(above, &["floats".to_owned()], weight)?.because(why))
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
