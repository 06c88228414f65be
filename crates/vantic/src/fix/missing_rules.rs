//! A rule that may be missing: what relatives of the view say, what the other side of it says, what its
//! neighbours suggest.

use crate::finding::Finding;
use crate::fix::candidates::mirrored;
use crate::fix::change::Change;
use crate::fix::context::{AxisWords, Candidate, FixContext, because};
use crate::fix::progression::exact;
use crate::fix::rule_source::Pinned;
use crate::fix::structural::{PICTURE, Stated};
use crate::fix::usual::{GAPS, is_far, is_near, is_usual_gap};
use crate::fix::weights::missing;
use crate::screen_ext::ScreenExt as _;
use std::collections::BTreeMap;
use vantic_core::model::{Anchor, Comparison, Coordinate, Rule, Strength, ViewId};
use vantic_core::words::millionths;

/// How many rules are asked for the sizes that they name, and how many of those are tried.
const MAX_RULES_ASKED: usize = 2_000;

const MAX_SIZES: usize = 5;

/// What is no larger than this is no square, but a line.
const LEAST_SQUARE: f64 = 12.0;

/// How much of the space a size takes at most where others take what it leaves.
const MOST_TAKEN: f64 = 0.8;

/// The size of a control where nothing says another.
const USUAL_CONTROL: &str = "44";

/// What views that hold a picture are called.
const PICTURES: [&str; 10] =
    ["pic", "photo", "image", "map", "chart", "cover", "hero", "poster", "video", "banner"];

/// Lines that are put in together, and how likely they are meant.
pub(crate) type Lines = (Vec<String>, f64);

/// A view among its siblings, along one axis, with the words for that axis.
struct AxisOf {
    view: ViewId,
    across: bool,
    siblings: Vec<ViewId>,
    /// Which of its siblings the view is.
    at: usize,
    /// The name of what the view stands in.
    around: &'static str,
    /// The distance that its siblings keep.
    gap: String,
    near: &'static str,
    far: &'static str,
    size: &'static str,
    middle: &'static str,
}

impl AxisOf {
    fn previous(&self) -> Option<ViewId> {
        self.at.checked_sub(1).map(|at| self.siblings[at])
    }
}

impl FixContext<'_> {
    pub(crate) fn missing(&self, finding: &Finding) -> Vec<Candidate> {
        let mut ideas = Vec::new();
        let Some(&view) = finding.views.first() else { return ideas };
        let open = |c: Coordinate| finding.range((view, c)).is_some();
        for across in [true, false] {
            let (position, size) = if across {
                (open(Coordinate::Left), open(Coordinate::Width))
            } else {
                (open(Coordinate::Top), open(Coordinate::Height))
            };
            if !position && !size {
                continue;
            }
            let mut here = self.missing_along(finding, view, across, (position, size));
            // What is open the other way as well has to be said with it.
            let other = if across {
                (open(Coordinate::Top), open(Coordinate::Height))
            } else {
                (open(Coordinate::Left), open(Coordinate::Width))
            };
            let is_first = across || !(open(Coordinate::Left) || open(Coordinate::Width));
            if (other.0 || other.1) && is_first {
                let there = self.missing_along(finding, view, !across, other);
                here = both(&here, &there);
            } else if !is_first {
                continue;
            }
            ideas.extend(here);
        }
        ideas
    }

    /// What may be missing along one axis.
    fn missing_along(
        &self,
        finding: &Finding,
        view: ViewId,
        across: bool,
        open: (bool, bool),
    ) -> Vec<Candidate> {
        let mut ideas: Vec<Candidate> = Vec::new();
        let mut lines: Vec<Lines> = Vec::new();
        let as_drawn = self.lines_as_drawn(view, across, open).into_iter();
        let as_drawn = as_drawn.filter_map(|(lines, weight)| self.put_in(view, &lines, weight));
        ideas.extend(because(as_drawn, "it is drawn there"));
        let usual = self.usual_lines(view, across);
        let axis = self.axis(view, across);
        for (line, weight) in &usual {
            lines.push((vec![line.clone()], *weight));
            lines.extend(mirrored(line).map(|line| (vec![line], missing::MIRRORED_FACTOR * weight)));
        }
        lines.extend(self.facing_lines(&axis));
        let likely = self.next_in_series(view, across).into_iter();
        let likely = likely.chain(self.lines_around_children(view, across));
        lines.extend(likely.map(|(line, weight)| (vec![line], weight)));
        if open.0 {
            lines.extend(self.places(&axis));
        }
        if open.1 {
            lines.extend(self.sizes(&axis, finding));
        }
        if open.0 && open.1 {
            lines.extend(self.places_with_sizes(&axis, &usual));
        }
        // What hardly leaves anything for those that follow is not meant.
        let most = finding.range((view, if across { Coordinate::Width } else { Coordinate::Height }));
        let most = most.and_then(|[_, most]| most).filter(|_| !finding.follows.is_empty());
        let leaves_some = |(line, _): &(String, f64)| {
            let number = line.rsplit(' ').next().and_then(|number| number.parse::<f64>().ok());
            most.is_none_or(|most| number.is_none_or(|number| number <= MOST_TAKEN * most))
        };
        let used = self.sizes_used(across).into_iter().filter(leaves_some);
        lines.extend(used.map(|(line, weight)| (vec![line], weight)));
        ideas.extend(self.missing_in_band(finding, view, &lines));
        let label = self.label_wanted(view, across);
        let has_place = self.has_place(view, across);
        for (mut lines, mut weight) in lines {
            if let [line] = lines.as_mut_slice() {
                // Its position is determined already.
                let of_size = line.starts_with(&format!("{} ", axis.size));
                if has_place && weight < missing::SIZE_ALONE_BELOW && of_size {
                    weight += missing::SIZE_ALONE_MORE;
                }
                if let Some((label, band)) = &label {
                    let subject = |line: &str| line.split(' ').next().map(str::to_owned);
                    weight += if subject(line) == subject(band) { missing::AS_BAND_MORE } else { 0.0 };
                    *line = format!("{label}: {line}");
                }
            }
            ideas.extend(self.put_in(view, &lines, weight));
            // Where others of its block lack the same.
            let alike = self.report.open().filter(|f| f.code == finding.code).count();
            let more = if alike > 1 { missing::WITH_OTHERS } else { -missing::WITH_OTHERS };
            ideas.extend(self.put_with_others(view, &lines, weight + more));
        }
        ideas.extend(self.other_sides(view, across));
        ideas.extend(self.limits_met(view, across));
        ideas
    }

    /// A view among its siblings, along one axis.
    fn axis(&self, view: ViewId, across: bool) -> AxisOf {
        let siblings: Vec<ViewId> = self.screen().siblings_of(view).collect();
        let at = siblings.iter().position(|s| *s == view).unwrap_or(0);
        let AxisWords { near, far, size, middle } = AxisWords::of(across);
        let usual = self.gap_between(&siblings, across).filter(is_usual_gap);
        let gap = exact(usual.unwrap_or(GAPS[usize::from(across)]));
        AxisOf { view, across, siblings, at, around: self.around(view), gap, near, far, size, middle }
    }

    /// Where it may be meant to be.
    fn places(&self, axis: &AxisOf) -> Vec<Lines> {
        let screen = self.screen();
        let AxisOf { across, siblings, at, around, gap, near, far, middle, .. } = axis;
        let (before, behind) = if *across { ("after", "before") } else { ("below", "above") };
        let has_width = *across && self.is_sized(axis.view, true);
        let spans = |&view: &ViewId| {
            let edge = |is_edge: fn(Coordinate, bool) -> bool| {
                let (_, _, anchor) = self.edge_read(view, |c| is_edge(c, true))?;
                Some(self.is_around(view, anchor))
            };
            edge(is_near) == Some(true) && edge(is_far) == Some(true)
        };
        let is_of_page = has_width && siblings.iter().filter(|&&view| view != axis.view).all(spans);
        let mut lines: Vec<Lines> = Vec::new();
        if let Some(previous) = axis.previous() {
            let prev = screen.at(previous).name();
            let (after, level) = match across {
                true => (missing::AFTER_PREVIOUS_ACROSS, missing::LEVEL_WITH_PREVIOUS_ACROSS),
                false => (missing::AFTER_PREVIOUS, missing::LEVEL_WITH_PREVIOUS),
            };
            lines.push((vec![format!("{before} {prev} by {gap}")], after));
            // What stands beside the one before is level with it.
            let is_beside =
                self.edge_read(axis.view, |c| is_near(c, !across)).is_some_and(|(_, relation, anchor)| {
                    let is_prev = anchor == Anchor::View(previous) || matches!(anchor, Anchor::Prev(_));
                    is_prev && relation.right.terms().iter().all(|t| is_far(t.coordinate, !across))
                });
            let more = if is_beside && !is_of_page { missing::BESIDE_MORE } else { 0.0 };
            lines.push((vec![format!("{near} = {prev}.{near}")], level + more));
        }
        if let Some(&next) = siblings.get(at + 1) {
            let next = screen.at(next).name();
            lines.push((vec![format!("{behind} {next} by {gap}")], missing::BEFORE_NEXT));
        }
        let is_text = screen.at(axis.view).has_content();
        let in_middle = match (siblings.len(), is_text && !across) {
            (1, _) => missing::MIDDLE_LONE,
            _ if is_of_page => missing::MIDDLE_OF_PAGE,
            (_, true) => missing::MIDDLE_TEXT,
            (_, false) => missing::MIDDLE,
        };
        lines.push((vec![format!("{middle} = {around}.{middle}")], in_middle));
        let is_head = *at == 0 && !across && !is_text;
        let first = if is_head { missing::FIRST_AT_TOP } else { missing::NEAR_SIDE };
        lines.push((vec![format!("{near} = {around}.{near}")], first));
        lines.push((vec![format!("{far} = {around}.{far}")], missing::FAR_SIDE));
        lines
    }

    /// How large it may be meant to be.
    fn sizes(&self, axis: &AxisOf, finding: &Finding) -> Vec<Lines> {
        let screen = self.screen();
        let AxisOf { view, across, siblings, around, far, size, .. } = axis;
        let mut lines: Vec<Lines> = Vec::new();
        let is_sized = |view| self.is_sized(view, !*across);
        // The size of another kind of thing says nothing of this one.
        let is_alike = |other: ViewId| {
            let kind = |view: ViewId| {
                (
                    screen.at(view).has_content(),
                    screen.at(view).children().is_empty(),
                    screen.at(view).scrolled().is_some(),
                )
            };
            kind(other) == kind(*view) && (is_sized(other) || !is_sized(*view))
        };
        for &sibling in siblings.iter().filter(|&&s| s != *view && is_alike(s)).take(4) {
            let name = screen.at(sibling).name();
            lines.push((vec![format!("{size} = {name}.{size}")], missing::SIZE_OF_SIBLING));
        }
        lines.push((vec![format!("{far} = {around}.{far}")], missing::FAR_SIDE_FOR_SIZE));
        let coordinate = if *across { Coordinate::Width } else { Coordinate::Height };
        let range = finding.range((*view, coordinate));
        for end in range.into_iter().flatten().flatten().filter(|end| *end >= 1.0) {
            lines.push((vec![format!("{size} = {}", exact(end))], missing::SIZE_AT_END));
        }
        let name = screen.at(*view).name();
        if !*across && PICTURES.iter().any(|word| name.contains(word)) {
            lines.push((vec![format!("{size} = {}", exact(PICTURE))], missing::SIZE_OF_PICTURE));
        }
        let other = if *across { "height" } else { "width" };
        let is_wide = |stated: &Stated<'_>| stated.along(!*across).is_some_and(|size| size >= LEAST_SQUARE);
        let square =
            if self.stated(*view).iter().any(is_wide) { missing::SQUARE_SIZED } else { missing::SQUARE };
        lines.push((vec![format!("ratio {size} : {other} = 1 : 1")], square));
        let seen = self.report.placements.first().and_then(|p| p.frame(*view));
        let seen = seen.map_or(0.0, |f| if *across { f.width } else { f.height });
        let seen = exact(if seen >= 1.0 { seen } else { 48.0 });
        lines.push((vec![format!("{size} = {seen}")], missing::SIZE_AS_SEEN));
        lines
    }

    /// Both at once.
    fn places_with_sizes(&self, axis: &AxisOf, usual: &[(String, f64)]) -> Vec<Lines> {
        let AxisOf { across, around, gap, near, far, size, .. } = axis;
        let before = if *across { "after" } else { "below" };
        let pairs = usual.iter().enumerate().flat_map(|(i, (a, wa))| {
            let behind = usual[i + 1..].iter();
            behind.map(move |(b, wb)| (vec![a.clone(), b.clone()], wa.min(*wb) + missing::PAIR_MORE))
        });
        let mut lines: Vec<Lines> = pairs.take(10).collect();
        lines.push((vec![format!("pin {near}, {far} to {around}")], missing::BOTH_SIDES));
        if let Some(prev) = axis.previous() {
            let prev = self.screen().at(prev).name();
            lines.push((
                vec![format!("{before} {prev} by {gap}"), format!("{size} = {prev}.{size}")],
                missing::LIKE_PREVIOUS,
            ));
        }
        let control = vec![format!("{near} = {around}.{near}"), format!("{size} = 48")];
        lines.push((control, missing::USUAL_CONTROL));
        lines
    }

    /// A label under which bands rule a view along an axis and nothing else does, and what one of them says.
    fn label_wanted(&self, view: ViewId, across: bool) -> Option<(String, String)> {
        let along = |rule: &Rule| {
            let first = rule.relations().first().and_then(|r| r.terms().first().copied());
            first.is_some_and(|t| t.coordinate.is_horizontal() == across)
        };
        let has =
            |label: &str| self.rules_of(view).any(|(_, r)| r.band().is_none() && r.label() == Some(label));
        let mut in_bands = self.rules_of(view).filter(|(_, r)| r.band().is_some() && along(r));
        in_bands.find_map(|(id, rule)| {
            let label = rule.label().filter(|label| !has(label))?;
            Some((label.to_owned(), self.statement(id)?.unlabelled().to_owned()))
        })
    }

    /// Whether a view says where it is along an axis.
    fn has_place(&self, view: ViewId, across: bool) -> bool {
        let required = self.rules_outside_bands(view).flat_map(|(_, r)| r.relations());
        required.filter(|r| r.comparison == Comparison::Equal && r.strength() == Strength::Required).any(
            |r| {
                let own = r.terms().first().filter(|t| t.anchor == Anchor::View(view)).map(|t| t.coordinate);
                own.is_some_and(|c| c.is_position() && c.is_horizontal() == across)
            },
        )
    }

    /// The sizes that views of the screen have as plain numbers, the usual ones first, and that of a control.
    pub(crate) fn sizes_used(&self, across: bool) -> Vec<(String, f64)> {
        let screen = self.screen();
        let size = if across { "width = " } else { "height = " };
        let mut used: BTreeMap<String, usize> = BTreeMap::new();
        for (_, rule) in screen.rules().take(MAX_RULES_ASKED) {
            for relation in rule.relations() {
                let text = screen.relation_text(relation, rule.owner());
                if text.strip_prefix(size).is_some_and(|number| number.parse::<f64>().is_ok()) {
                    *used.entry(text).or_default() += 1;
                }
            }
        }
        used.entry(format!("{size}{USUAL_CONTROL}")).or_default();
        let mut used: Vec<(String, usize)> = used.into_iter().collect();
        used.sort_by_key(|(_, count)| std::cmp::Reverse(*count));
        used.truncate(MAX_SIZES);
        let weight = |rank: usize| missing::SIZE_USED - missing::SIZE_USED_STEP * rank as f64;
        used.into_iter().enumerate().map(|(rank, (line, _))| (line, weight(rank))).collect()
    }

    /// What the view says of one side, said of the other: to the same place, or to what is on that side.
    fn facing_lines(&self, axis: &AxisOf) -> Vec<Lines> {
        let mut lines = Vec::new();
        for line in self.lines_of(axis.view, axis.across) {
            let Some(other) = mirrored(&line) else { continue };
            lines.push((vec![other.clone()], missing::FACING));
            // `end = from.start - gap` to any sibling instead of `from`.
            let place =
                other.split_once(" = ").and_then(|(_, right)| right.split_once('.')).map(|(place, _)| place);
            let Some(place) = place else { continue };
            let names = axis
                .siblings
                .iter()
                .enumerate()
                .filter(|(i, _)| *i != axis.at)
                .map(|(i, &s)| (i, i.abs_diff(axis.at), self.screen().at(s).name()));
            let beside = |at: &usize| self.are_beside(axis.view, axis.siblings[*at], axis.across);
            let names = names.filter(|(at, _, _)| beside(at)).map(|(_, away, name)| (away, name));
            for (away, name) in names.filter(|(away, name)| *name != place && *away < 5) {
                let named = other.replacen(&format!(" {place}."), &format!(" {name}."), 1);
                lines.push((vec![named], missing::FACING_SIBLING - missing::FACING_STEP * away as f64));
            }
        }
        lines
    }

    /// Whether two views lie beside one another along an axis, or what is known of them does not say.
    fn are_beside(&self, view: ViewId, other: ViewId, across: bool) -> bool {
        let Some(placement) = self.report.placements.first() else { return true };
        let (Some(a), Some(b)) = (placement.frame(view), placement.frame(other)) else { return true };
        match across {
            true => a.top < b.bottom() && b.top < a.bottom(),
            false => a.left < b.right() && b.left < a.right(),
        }
    }

    /// The distance that siblings keep, or the only one that two of them do.
    pub(crate) fn gap_between(&self, siblings: &[ViewId], across: bool) -> Option<f64> {
        let only = || match self.gaps(siblings, across)?[..] {
            [only] => Some(only),
            _ => None,
        };
        self.gap_among(siblings, across).or_else(only)
    }

    /// The distances that siblings keep along an axis, where most keep the same.
    fn gap_among(&self, siblings: &[ViewId], across: bool) -> Option<f64> {
        let mut gaps = self.gaps(siblings, across)?;
        gaps.sort_by(f64::total_cmp);
        let same = |gap: &f64| gaps.iter().filter(|other| *other == gap).count();
        gaps.iter().copied().filter(|gap| same(gap) > 1).max_by_key(|gap| same(gap))
    }

    /// The distances between siblings and the next along an axis, where they do not overlap.
    fn gaps(&self, siblings: &[ViewId], across: bool) -> Option<Vec<f64>> {
        let placement = self.report.placements.first()?;
        let mut gaps: Vec<f64> = Vec::new();
        for two in siblings.windows(2) {
            let (a, b) = (placement.frame(two[0])?, placement.frame(two[1])?);
            let gap = if across { b.left - a.right() } else { b.top - a.bottom() };
            gaps.extend(Some(millionths(gap)).filter(|gap| (0.0..200.0).contains(gap)));
        }
        Some(gaps)
    }

    /// A pin with one more side, at the distance of the side that it has.
    fn other_sides(&self, view: ViewId, across: bool) -> Vec<Candidate> {
        let pairs: &[(&str, &str)] = match across {
            true => &[("left", "right"), ("start", "end")],
            false => &[("top", "bottom")],
        };
        let mut ideas = Vec::new();
        // Behind a sibling, and with none behind it: it takes what is left.
        let follows = self.edge_read(view, |c| is_near(c, across));
        let is_last = follows.is_some_and(|(_, _, anchor)| !self.is_around(view, anchor))
            && self.screen().siblings_of(view).all(|other| {
                let read = self.edge_read(other, |c| is_near(c, across));
                read.is_none_or(|(_, _, anchor)| anchor != Anchor::View(view))
            });
        let own = self.rules_outside_bands(view);
        for statement in own.filter_map(|(id, _)| self.statement(id)) {
            let Some(Pinned { sides, to, end }) = statement.pin() else { continue };
            let mut add = |side: &str, by: &str, weight: f64| {
                let by = if by.is_empty() { String::new() } else { format!(" {by}") };
                let said = format!("pin `{side}{by}` to {to} as well, in `{}`", self.screen().path(view));
                ideas.push(Candidate::new(
                    said,
                    vec![Change::new(end..end, format!(", {side}{by}"))],
                    weight,
                ));
            };
            let has = |side: &str| sides.iter().find(|(word, _)| word == side);
            for (near, far) in pairs {
                match (has(near), has(far)) {
                    (Some((_, by)), None) => add(far, by, missing::OPPOSITE_SIDE),
                    (None, Some((_, by))) => add(near, by, missing::OPPOSITE_SIDE),
                    (None, None) => {
                        // A pin along the other axis: as far from this side as from those.
                        let by = sides.first().map_or("", |(_, by)| by.as_str());
                        add(near, by, missing::OTHER_AXIS_NEAR);
                        let weight = if is_last { missing::LAST_TO_THE_END } else { missing::OTHER_AXIS_FAR };
                        add(far, by, weight);
                    }
                    (Some(_), Some(_)) => {}
                }
            }
        }
        ideas
    }

    /// A limit that is met exactly.
    fn limits_met(&self, view: ViewId, across: bool) -> Vec<Candidate> {
        let mut ideas = Vec::new();
        for (id, rule) in self.rules_outside_bands(view) {
            let along = |r: &vantic_core::model::Relation| {
                r.terms().first().is_some_and(|t| t.coordinate.is_horizontal() == across)
            };
            let Some(statement) = self.statement(id).filter(|_| rule.relations().iter().all(along)) else {
                continue;
            };
            let Some(sign) = statement.inequality() else { continue };
            let said = format!("meet the limit `{}` exactly, with `=`", statement.unlabelled());
            ideas.push(Candidate::new(said, vec![Change::new(sign, "=")], missing::LIMIT_MET));
        }
        ideas
    }
}

/// Each of some with each of others, the likelier first, as long as they are few.
fn both(here: &[Candidate], there: &[Candidate]) -> Vec<Candidate> {
    let first = |ideas: &[Candidate]| {
        let mut sorted: Vec<Candidate> = ideas.to_vec();
        sorted.sort_by(|a, b| b.weight.total_cmp(&a.weight));
        sorted.truncate(9);
        sorted
    };
    let mut all = Vec::new();
    for a in first(here) {
        for b in first(there) {
            // What is put in at one place is put in one behind the other.
            let same = a.changes.len() == 1 && b.changes.len() == 1 && a.changes[0].at == b.changes[0].at;
            let changes = match same {
                true if a.changes == b.changes => a.changes.clone(),
                true => {
                    vec![Change { at: a.changes[0].at, new: joined(&a.changes[0].new, &b.changes[0].new) }]
                }
                false => a.changes.iter().chain(&b.changes).cloned().collect(),
            };
            let said =
                if changes == a.changes { a.said.clone() } else { format!("{}, and {}", a.said, b.said) };
            let weight = a.weight.min(b.weight) + missing::TOGETHER_SHARE * a.weight.max(b.weight);
            let reason = if a.reason == b.reason { a.reason.clone() } else { String::new() };
            all.push(Candidate::new(said, changes, weight).because(reason));
        }
    }
    all
}

/// Two things put in at the same place; one behind an opening brace ends in what separates it.
fn joined(first: &str, second: &str) -> String {
    match first.strip_suffix([';', ' ']) {
        Some(open) if first.starts_with(' ') => format!("{open};{second}"),
        _ => format!("{first}{second}"),
    }
}
