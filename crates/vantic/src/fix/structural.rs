//! The repairs that practitioners reach for before they change a number: a box that grows round its words, the
//! end where the other begins, an arrangement that wraps or shares, a page that scrolls.

use crate::finding::Finding;
use crate::finding::detail::{Detail, DoubtDetail, FrameDetail};
use crate::fix::change::Change;
use crate::fix::context::{AxisWords, Candidate, FixContext, because};
use crate::fix::progression::{distance, exact};
use crate::fix::rule_source::{Statement, item_named, removed, side_written};
use crate::fix::usual::{is_far, is_near, is_usual_gap};
use crate::fix::weights::{conflict, structure};
use crate::screen_ext::ScreenExt as _;
use crate::syntax::ast::nodes::node_span;
use crate::syntax::lexer::Kind;
use crate::syntax::tree::Node;
use std::ops::Range;
use vantic_core::geometry::{Axis, Direction};
use vantic_core::model::{Anchor, Code, Comparison, Coordinate, RuleRef, Strength, ViewId};

/// The size of a control where nothing says another.
const CONTROL: f64 = 44.0;

/// How many views that are open are asked for a share, and how many of their siblings.
const MAX_OPEN: usize = 24;

/// How high a picture is shown where nothing says another height.
pub(crate) const PICTURE: f64 = 200.0;

/// A rule that gives a view a width, a height or both as plain numbers.
pub(crate) struct Stated<'a> {
    pub(crate) statement: Statement<'a>,
    pub(crate) width: Option<f64>,
    pub(crate) height: Option<f64>,
}

impl Stated<'_> {
    pub(crate) fn along(&self, across: bool) -> Option<f64> {
        if across { self.width } else { self.height }
    }

    /// The rule with another line for one of the sizes.
    pub(crate) fn with(&self, across: bool, line: &str) -> String {
        match (self.width.filter(|_| !across), self.height.filter(|_| across)) {
            (Some(width), _) => format!("width = {}; {line}", exact(width)),
            (_, Some(height)) => format!("{line}; height = {}", exact(height)),
            _ => line.to_owned(),
        }
    }
}

impl FixContext<'_> {
    pub(crate) fn structural(&self, finding: &Finding) -> Vec<Candidate> {
        let mut ideas = match (finding.code, finding.views.as_slice()) {
            (Code::Outside, &[view, ..]) => self.kept_inside(finding, view),
            (Code::Overlap, &[below, above]) => {
                let apart =
                    [self.kept_apart(finding, below, above), self.only_in_band(finding, below, above)];
                apart.concat().into_iter().chain(self.in_a_column(finding)).collect()
            }
            (Code::Overlap, _) => self.in_a_column(finding).into_iter().collect(),
            (Code::Covered, &[view, ..]) => {
                let clear = because(self.above_keyboard(finding, view), "`clear` ends above the keyboard");
                clear.into_iter().chain(self.measured_from_corner(finding)).collect()
            }
            (Code::Small, &[view, ..]) => self.large_enough(finding, view),
            (Code::Stretched, &[view, ..]) => {
                because(self.in_proportion(finding, view), "in that it keeps its own proportions")
            }
            (Code::Ambiguous, &[view, ..]) => {
                let missing = [
                    self.ends_of(finding, view),
                    self.content_ends(view),
                    self.last_of_equal(finding, view),
                    self.said_in_band(finding, view),
                    self.shares_as_siblings(finding),
                ];
                missing.concat()
            }
            (Code::Collapse, _) => {
                [self.far_side(finding), self.far_edge_of_around(finding), self.measured_from_corner(finding)]
                    .concat()
            }
            (Code::Unmet, &[view, ..]) => {
                because(self.as_expected(finding, view), "that is what is expected")
            }
            (Code::Claim, &[view, ..]) => because(self.as_claimed(finding, view), "that is what is claimed"),
            (Code::Conflict, _) => {
                let ideas = self.one_size(finding).into_iter().chain(self.replaced_in_band(finding));
                let ideas = ideas.chain(self.placed_by_itself(finding));
                let turned = finding.views.iter().filter_map(|&view| self.edges_exchanged(view));
                let ideas = ideas.chain(turned);
                ideas.chain(self.given_twice(finding)).chain(self.measured_from_corner(finding)).collect()
            }
            (Code::Odd, _) => {
                self.for_both_orientations().into_iter().chain(self.as_usual(finding)).collect()
            }
            (Code::Tie, &[view, ..]) => self.texts_in_a_row(view),
            (Code::Idle, _) => self.taken_away(finding).into_iter().collect(),
            (Code::Cut, &[view, ..]) => {
                [self.as_large_as_its_words(view), self.measured_from_corner(finding)].concat()
            }
            _ => Vec::new(),
        };
        if matches!(finding.code, Code::Outside | Code::Conflict | Code::Stretched) {
            // Of the view, and of those that it comes behind.
            let views = finding.views.iter().flat_map(|&view| self.chain_before(view, false));
            ideas.extend(views.filter_map(|view| self.other_way_round(view)));
        }
        let is_mirrored = |on: &usize| {
            self.displays.get(*on).is_some_and(|display| display.direction() == Direction::RightToLeft)
        };
        // What is wrong in the other direction only.
        let on_mirrored = finding.displays.iter().all(is_mirrored) && !finding.displays.is_empty();
        let is_sided = matches!(finding.detail, Detail::Doubt(DoubtDetail::Sided { .. }));
        if is_sided || finding.code.is_of_frames() && on_mirrored {
            ideas.extend(self.along_reading(&finding.views));
        }
        ideas
    }

    /// The rules that state sizes of a view as numbers.
    pub(crate) fn stated(&self, view: ViewId) -> Vec<Stated<'_>> {
        let own = self.rules_outside_bands(view);
        let stated = own.filter_map(|(id, rule)| {
            let (mut width, mut height) = (None, None);
            for relation in rule.relations() {
                let [term] = relation.left.terms() else { return None };
                let is_own = term.anchor == Anchor::View(view) && term.coefficient == 1.0;
                let is_plain = relation.comparison == Comparison::Equal
                    && relation.strength() == Strength::Required
                    && relation.right.is_number()
                    && relation.left.constant() == 0.0;
                match term.coordinate {
                    Coordinate::Width if is_own && is_plain => width = Some(relation.right.constant()),
                    Coordinate::Height if is_own && is_plain => height = Some(relation.right.constant()),
                    _ => return None,
                }
            }
            Some(Stated { statement: self.statement(id)?, width, height })
        });
        stated.filter(|s| s.width.is_some() || s.height.is_some()).collect()
    }

    /// Whether a view has a size along an axis as a number.
    pub(crate) fn is_sized(&self, view: ViewId, across: bool) -> bool {
        self.stated(view).iter().any(|stated| stated.along(across).is_some())
    }

    pub(crate) fn replaced(&self, statement: &Statement<'_>, line: &str, weight: f64) -> Option<Candidate> {
        self.reads(statement, statement.replaced(line), weight)
    }

    /// The block of a view, or of what is repeated.
    pub(crate) fn block(&self, view: ViewId) -> Option<Node> {
        Some(item_named(&self.tree, &self.fixes.map.view(view)?)?.1)
    }

    /// A clause put behind the row, column or grid of a view.
    pub(crate) fn arranged(&self, view: ViewId, clause: &str, weight: f64) -> Option<Candidate> {
        let block = self.block(view)?;
        let node = block.children().find(|n| matches!(n.kind(), Kind::Arrange | Kind::Grid))?;
        let span = node_span(&node);
        let source = &self.text()[span.clone()];
        let word = clause.split(' ').next().unwrap_or(clause);
        if source.split([' ', ',']).any(|other| other == word) {
            return None;
        }
        // The first clause stands behind a blank, the others behind commas.
        let between = if source.contains(' ') { ", " } else { " " };
        let said = format!("write `{source}{between}{clause}` instead of `{source}`");
        let changes = vec![Change::new(span.end..span.end, format!("{between}{clause}"))];
        Some(Candidate::new(said, changes, weight))
    }

    /// A setting of a view: where it stands.
    fn setting_span(&self, view: ViewId, word: &str) -> Option<Range<usize>> {
        let block = self.block(view)?;
        let is_it = |n: &Node| {
            matches!(n.kind(), Kind::Setting | Kind::Share)
                && self.text()[node_span(n)].split(' ').next() == Some(word)
        };
        Some(node_span(&block.children().find(is_it)?))
    }

    /// A setting of a view taken out, with what separates it.
    pub(crate) fn setting(&self, view: ViewId, word: &str) -> Option<Change> {
        Some(removed(self.text(), self.setting_span(view, word)?))
    }

    /// The one in a row or column that has no size, where the row or column has one.
    fn takes_what_is_left(&self, view: ViewId) -> Option<Candidate> {
        let screen = self.screen();
        let parent = screen.at(view).parent()?;
        let across = screen.at(parent).arrangement().filter(|a| a.columns.is_none())?.axis == Axis::Across;
        let is_sized = |view| self.is_sized(view, across);
        let others: Vec<ViewId> =
            screen.siblings_of(view).filter(|&other| other != view).take(MAX_OPEN).collect();
        let is_ended = is_sized(parent) || self.edge_read(parent, |c| is_far(c, across)).is_some();
        let is_lone = !others.is_empty() && others.iter().all(|&other| is_sized(other)) && !is_sized(view);
        let idea = self.put_in(view, &["share 1".to_owned()], structure::SHARES_WHAT_IS_LEFT)?;
        (is_ended && is_lone).then(|| idea.because("it takes the space that is left"))
    }

    /// A share of the space, where what stands beside it in a row or column has one.
    fn shares_as_siblings(&self, finding: &Finding) -> Vec<Candidate> {
        let screen = self.screen();
        let open = finding.follows.iter().map(|(view, _)| *view);
        let mut open: Vec<ViewId> = finding.views.iter().copied().chain(open).collect();
        open.dedup();
        open.truncate(MAX_OPEN);
        let without = open.into_iter().filter(|&view| {
            let across = screen
                .at(view)
                .parent()
                .and_then(|p| screen.at(p).arrangement())
                .map(|a| a.axis == Axis::Across);
            let is_sized = match across {
                Some(across) => self.is_sized(view, across),
                None => !self.stated(view).is_empty(),
            };
            self.setting_span(view, "share").is_none() && !is_sized
        });
        let ideas = without.filter_map(|view| {
            let mut siblings = screen.siblings_of(view).take(MAX_OPEN);
            let Some((like, span)) = siblings.find_map(|s| Some((s, self.setting_span(s, "share")?))) else {
                return self.takes_what_is_left(view);
            };
            let line = self.text()[span].to_owned();
            let reason = format!("as `{}` does", screen.at(like).name());
            Some(self.put_in(view, &[line], structure::SHARES_AS_SIBLINGS)?.because(reason))
        });
        ideas.collect()
    }

    /// The same with the limit on the lines of a text taken out; `None` where it has none.
    pub(crate) fn on_any_lines(&self, text: ViewId, mut idea: Candidate) -> Option<Candidate> {
        idea.changes.push(self.setting(text, "lines")?);
        idea.said += ", and take out its `lines`";
        Some(idea)
    }

    /// What is typed into ends at what the keyboard leaves clear.
    fn above_keyboard(&self, finding: &Finding, view: ViewId) -> Vec<Candidate> {
        if !matches!(finding.detail, Detail::Frames(FrameDetail::UnderKeyboard { .. })) {
            return Vec::new();
        }
        let around = self.screen().with_ancestors(view);
        let own = around.flat_map(|view| self.rules_of(view)).filter(|(_, r)| r.band().is_none());
        let ideas = own.filter_map(|(id, _)| {
            let statement = self.statement(id)?;
            let source = statement.unlabelled();
            let is_pin = source.starts_with("pin ") && source.contains("bottom");
            let line = match is_pin {
                true => source.replace("to safe", "to clear").replace("to screen", "to clear"),
                false => {
                    source.replace("safe.bottom", "clear.bottom").replace("screen.bottom", "clear.bottom")
                }
            };
            (line != source).then(|| self.replaced(&statement, &line, structure::ABOVE_KEYBOARD)).flatten()
        });
        ideas.collect()
    }

    /// A control as large as it has to be.
    fn large_enough(&self, finding: &Finding, view: ViewId) -> Vec<Candidate> {
        let least = self.worst(finding).and_then(|(_, p)| p.look(view).control?.least).unwrap_or(CONTROL);
        let larger = |size: f64| exact(size.max(least));
        let reason = || format!("what is tapped has to be {} large", exact(least));
        let ideas = self.stated(view).into_iter().filter_map(|stated| {
            let line = match (stated.width, stated.height) {
                (Some(w), Some(h)) if w.max(least) == h.max(least) => format!("size = {}", larger(w)),
                (Some(w), Some(h)) => format!("size = ({}, {})", larger(w), larger(h)),
                (Some(w), None) => format!("width = {}", larger(w)),
                (None, Some(h)) => format!("height = {}", larger(h)),
                (None, None) => return None,
            };
            let idea = self.replaced(&stated.statement, &line, structure::LARGE_ENOUGH)?;
            Some(idea.because(reason()).evident())
        });
        let mut ideas: Vec<Candidate> = ideas.collect();
        // What fills its parent is as large as that.
        let own: Vec<bool> = self
            .stated(view)
            .iter()
            .flat_map(|s| [s.width.map(|_| true), s.height.map(|_| false)])
            .flatten()
            .collect();
        let frame = self.worst(finding).and_then(|(_, p)| p.frame(view));
        let (Some(parent), Some(frame)) = (self.screen().at(view).parent(), frame) else { return ideas };
        for (across, size) in [(true, frame.width), (false, frame.height)] {
            if size >= least || own.contains(&across) {
                continue;
            }
            for stated in self.stated(parent) {
                let Some(number) = stated.along(across) else { continue };
                let line = format!("{} = {}", AxisWords::of(across).size, exact(number + least - size));
                let larger =
                    self.replaced(&stated.statement, &stated.with(across, &line), structure::LARGE_ENOUGH);
                ideas.extend(because(larger, &reason()));
            }
        }
        ideas
    }

    /// A picture in its own proportions.
    fn in_proportion(&self, finding: &Finding, view: ViewId) -> Vec<Candidate> {
        let Some(natural) = self.worst(finding).and_then(|(_, p)| p.look(view).natural) else {
            return Vec::new();
        };
        let (width, height) = (natural.width, natural.height);
        let whole = |n: f64| (n.fract() == 0.0 && n < 1e6).then_some(n as u64);
        let common = |mut a: u64, mut b: u64| {
            while b > 0 {
                (a, b) = (b, a % b);
            }
            a.max(1)
        };
        let by = whole(width).zip(whole(height)).map_or(1, |(w, h)| common(w, h)) as f64;
        let line = format!("ratio width : height = {} : {}", exact(width / by), exact(height / by));
        let mut ideas = Vec::new();
        for stated in self.stated(view) {
            // Of two sizes, the one that keeps it within both.
            if let (Some(w), Some(h)) = (stated.width, stated.height) {
                let by_height = format!("height = {}", exact(h));
                let by_width = format!("width = {}", exact(w));
                let is_wider = w * height > h * width;
                let lines = if is_wider { [by_height, by_width] } else { [by_width, by_height] };
                for (rank, line) in (0_u8..).zip(lines) {
                    let weight = structure::IN_PROPORTION - structure::SECOND * f64::from(rank);
                    ideas.extend(self.replaced(&stated.statement, &line, weight));
                }
                continue;
            }
            ideas.extend(self.replaced(&stated.statement, &line, structure::IN_PROPORTION));
            let said = format!("remove `{}`", stated.statement.source());
            let changes = vec![stated.statement.removed()];
            ideas.push(Candidate::new(said, changes, structure::IN_PROPORTION - structure::SECOND));
        }
        // As wide as its height lets it be, in the middle.
        let own = self.rules_outside_bands(view);
        for statement in own.filter_map(|(id, _)| self.statement(id)) {
            let Some(pin) = statement.pin() else { continue };
            let is_across = |word: &str| matches!(word, "left" | "right" | "start" | "end");
            let (across, down): (Vec<_>, Vec<_>) = pin.sides.iter().partition(|(word, _)| is_across(word));
            if across.len() < 2 {
                continue;
            }
            let sides: Vec<String> = down.into_iter().map(side_written).collect();
            let middle = format!("center_x = {}.center_x", pin.to);
            let line = match sides.is_empty() {
                true => middle,
                false => format!("pin {} to {}; {middle}", sides.join(", "), pin.to),
            };
            ideas.extend(self.replaced(
                &statement,
                &line,
                structure::IN_PROPORTION - 2.0 * structure::SECOND,
            ));
            // No wider than there is space, and as high as that makes it.
            let insets: Option<f64> =
                across.iter().map(|(_, by)| if by.is_empty() { Some(0.0) } else { by.parse().ok() }).sum();
            let (Some(insets), Some(stated)) =
                (insets, self.stated(view).into_iter().find(|s| s.width.is_none()))
            else {
                continue;
            };
            let most = stated.height.map_or(0.0, |of| (of * width / height).round());
            let limit =
                format!("width = min({}, {}.width{})", exact(most), self.around(view), distance("-", insets));
            let contained = self.replaced(
                &statement,
                &format!("{line}; {limit}"),
                structure::IN_PROPORTION - structure::SECOND / 2.0,
            );
            ideas.extend(contained.map(|mut idea| {
                idea.said += &format!(", and remove `{}`", stated.statement.source());
                idea.changes.push(stated.statement.removed());
                idea
            }));
        }
        ideas
    }

    /// The end that a view lacks, or the stretching that its column lacks.
    fn ends_of(&self, finding: &Finding, view: ViewId) -> Vec<Candidate> {
        let screen = self.screen();
        let about = screen.at(view);
        let open = |c: Coordinate| finding.range((view, c)).is_some();
        let mut ideas = Vec::new();
        let placement = self.report.placements.first();
        let arrangement = about.parent().and_then(|parent| Some((parent, screen.at(parent).arrangement()?)));
        if let Some((parent, arrangement)) = arrangement {
            let is_across = arrangement.columns.is_none()
                && open(if arrangement.axis == Axis::Down { Coordinate::Width } else { Coordinate::Height });
            if is_across {
                let stretched = self.arranged(parent, "align stretch", structure::STRETCHED);
                ideas.extend(because(stretched, "each fills the arrangement across"));
            }
        }
        for across in [true, false] {
            let AxisWords { far, size, .. } = AxisWords::of(across);
            let (place, extent) = if across {
                (Coordinate::Left, Coordinate::Width)
            } else {
                (Coordinate::Top, Coordinate::Height)
            };
            if !open(extent) || open(place) {
                continue;
            }
            // Siblings that agree in a number, and in the size that the view has.
            let own = self.stated(view).iter().find_map(|s| s.along(!across));
            let others = screen.siblings_of(view).filter(|other| *other != view);
            let stated = others.flat_map(|other| self.stated(other));
            let alike = stated.filter(|s| own.is_some() && s.along(!across) == own);
            let numbers: Vec<f64> = alike.filter_map(|s| s.along(across)).collect();
            if let Some(&first) = numbers.first().filter(|first| numbers.iter().all(|n| n == *first)) {
                let line = format!("{size} = {}", exact(first));
                let alike = self.put_in(view, &[line], structure::SIZE_OF_SIBLINGS);
                ideas.extend(because(alike, "its siblings are as large"));
            }
            let picture = about.children().iter().find_map(|&child| screen.at(child).image());
            if let Some(picture) = picture.filter(|_| !across) {
                let line = format!("{size} = {}", exact(picture.height.min(PICTURE)));
                let shown = self.put_in(view, &[line], structure::HOLDS_PICTURE);
                ideas.extend(because(shown, "a picture is shown in it"));
            }
            let holds = about.scrolled().is_some() || !about.children().is_empty();
            let siblings: Vec<ViewId> = screen.siblings_of(view).collect();
            let next = siblings.iter().position(|s| *s == view).and_then(|at| siblings.get(at + 1));
            let at_bar = placement.filter(|_| !across).and_then(|p| self.bar_behind(view, across, p));
            // What is declared right before a bar fills the space up to it.
            if across || !holds && (at_bar.is_none() || at_bar != next.copied()) {
                continue;
            }
            if let Some(bar) = at_bar {
                // As far from it as from the one before.
                let before = self.edge_read(view, |c| is_near(c, across));
                let before = before.map(|(_, relation, _)| relation.right.constant());
                let usual = || self.gap_between(&siblings, across).filter(is_usual_gap);
                let gap = match before {
                    Some(0.0) => None,
                    before => before.filter(is_usual_gap).or_else(usual),
                };
                let by = gap.map_or(String::new(), |gap| distance("by", gap));
                let line = format!("above {}{by}", screen.at(bar).name());
                // What is in it may say how large it is.
                let has_words = about.children().iter().any(|&child| screen.at(child).text().is_some());
                let less = if has_words { structure::SECOND } else { 0.0 };
                let at_bar = self.put_in(view, &[line], structure::ENDS_AT_BAR - less);
                let reason = format!("`{}` is behind it", screen.at(bar).name());
                ideas.extend(because(at_bar, &reason));
            }
            let weight =
                if about.scrolled().is_some() { structure::SCROLLER_ENDS } else { structure::HOLDER_ENDS };
            match next {
                Some(&next) => {
                    let name = screen.at(next).name();
                    let ends = self.put_in(view, &[format!("above {name}")], weight);
                    ideas.extend(because(ends, &format!("`{name}` is declared after it")));
                }
                None => ideas.extend(self.put_in(
                    view,
                    &[format!("{far} = {0}.{far}", self.around(view))],
                    weight,
                )),
            }
        }
        ideas
    }

    /// A ratio with its numbers swapped.
    fn other_way_round(&self, view: ViewId) -> Option<Candidate> {
        let own = self.rules_outside_bands(view);
        own.filter_map(|(id, _)| self.statement(id)).find_map(|statement| {
            let (what, numbers) = statement.unlabelled().strip_prefix("ratio ")?.split_once(" = ")?;
            let (first, second) = numbers.split_once(" : ")?;
            let is_plain = [first, second].iter().all(|number| number.parse::<f64>().is_ok());
            let line = format!("ratio {what} = {second} : {first}");
            let idea = self.replaced(&statement, &line, structure::OTHER_WAY_ROUND).filter(|_| is_plain)?;
            Some(idea.because("the numbers may be the wrong way round"))
        })
    }

    /// Two opposite edges of a view, each tied to where the other one seems meant to be: exchanged.
    fn edges_exchanged(&self, view: ViewId) -> Option<Candidate> {
        let exchanged = |across: bool| {
            let (near, tied, _) = self.edge_read(view, |c| is_near(c, across))?;
            let (far, other, _) = self.edge_read(view, |c| is_far(c, across))?;
            let (near_word, far_word) = (near.subject(), far.subject());
            let is_backwards = tied.right.constant() <= 0.0 && other.right.constant() >= 0.0;
            let turned = |of: &Statement<'_>, from: &str, to: &str| {
                let rest = of.unlabelled().strip_prefix(from).filter(|rest| rest.starts_with(" = "))?;
                self.replaced(of, &format!("{to}{rest}"), structure::OTHER_WAY_ROUND)
            };
            let one = turned(&near, near_word, far_word).filter(|_| is_backwards)?;
            Some(one.and(turned(&far, far_word, near_word)?))
        };
        let idea = [false, true].into_iter().find_map(exchanged)?;
        Some(idea.because("the two edges may be the wrong way round"))
    }

    /// A size as a number goes where the pins of its view to what is around it give one already.
    fn given_twice(&self, finding: &Finding) -> Option<Candidate> {
        let screen = self.screen();
        let written = finding.rules.iter().map(|part| Some((part.written()?, part.relation(screen)?)));
        let written: Vec<_> = written.collect::<Option<_>>()?;
        let [view] = finding.views.as_slice() else { return None };
        let own = |coordinate: fn(Coordinate) -> bool| {
            let mut all = written.iter().filter(|(rule, relation)| {
                screen.rule_at(*rule).band().is_none()
                    && matches!(relation.left.terms(), [t] if t.anchor == Anchor::View(*view) && coordinate(t.coordinate))
            });
            all.next().copied()
        };
        let (rule, size) = own(|c| !c.is_position())?;
        let across = size.left.terms().first()?.coordinate.is_horizontal();
        let edges =
            [own(|c| is_near(c, true) || is_near(c, false))?, own(|c| is_far(c, true) || is_far(c, false))?];
        let around = edges.map(|(_, relation)| match relation.right.terms() {
            [t] if self.is_around(*view, t.anchor) => Some(t.anchor),
            _ => None,
        });
        let is_pinned = around[0].is_some() && around[0] == around[1] && written.len() == 3;
        let statement = self.statement(rule).filter(|_| is_pinned && size.right.is_number())?;
        let other = self.stated(*view).into_iter().find(|s| s.statement.span() == statement.span())?;
        let rest = if across {
            other.height.map(|h| format!("height = {}", exact(h)))
        } else {
            other.width.map(|w| format!("width = {}", exact(w)))
        };
        let idea = match rest {
            Some(line) => self.replaced(&statement, &line, conflict::GIVEN_TWICE)?,
            None => {
                let said = format!("remove `{}`", statement.source());
                Candidate::new(said, vec![statement.removed()], conflict::GIVEN_TWICE)
            }
        };
        let word = if across { "width" } else { "height" };
        Some(idea.because(format!("its pins already give its {word}")).evident())
    }

    /// A child of an arrangement that its own rules tie to corners of that is placed by them, over others if need be.
    fn placed_by_itself(&self, finding: &Finding) -> Vec<Candidate> {
        let found = finding.rules.iter().find_map(|part| match part {
            RuleRef::Arranged { view, child, .. } => {
                let is_tied = |across: bool| {
                    let edge = |c: Coordinate| c.is_position() && c.is_horizontal() == across;
                    let read = self.edge_read(*child, edge);
                    read.is_some_and(|(_, _, anchor)| anchor == Anchor::View(*view))
                };
                (is_tied(true) && is_tied(false)).then_some((*view, *child))
            }
            _ => None,
        });
        let Some((around, child)) = found else { return Vec::new() };
        let settings = [vec!["apart".to_owned()], vec!["apart".to_owned(), "floats".to_owned()]];
        let ideas = settings.iter().filter_map(|lines| {
            let weight = structure::APART - if lines.len() > 1 { structure::SECOND } else { 0.0 };
            self.put_in(child, lines, weight)
        });
        because(ideas, &format!("its own rules place it in `{}`", self.screen().at(around).name()))
    }

    /// One number in place of a minimum above a maximum.
    fn one_size(&self, finding: &Finding) -> Option<Candidate> {
        let limits: Vec<_> = finding
            .rules
            .iter()
            .filter_map(|part| {
                let relation = part.relation(self.screen())?;
                let [term] = relation.left.terms() else { return None };
                let is_limit = relation.comparison != Comparison::Equal && relation.right.is_number();
                Some((self.statement(part.written()?)?, *term, relation.right.constant()))
                    .filter(|_| is_limit)
            })
            .collect();
        let [(first, term, a), (second, other, b)] = limits.as_slice() else { return None };
        let line = format!("{} = {}", term.coordinate.spelling(), exact(a.min(*b)));
        let is_same = (term.anchor, term.coordinate) == (other.anchor, other.coordinate);
        let changes = vec![first.replaced(&line), second.removed()];
        let said = format!("write `{line}` instead of `{}` and `{}`", first.source(), second.source());
        let idea = Candidate::new(said, changes, structure::ONE_SIZE);
        is_same.then(|| idea.because("no size lies between the two limits"))
    }

    /// Sides that follow the reading direction, in place of left and right.
    pub(crate) fn along_reading(&self, views: &[ViewId]) -> Option<Candidate> {
        let mut changes = Vec::new();
        for &view in views {
            for (id, _) in self.rules_of(view) {
                let Some(statement) = self.statement(id) else { continue };
                let source = statement.unlabelled();
                let line = words_replaced(source, &[("left", "start"), ("right", "end")]);
                // What lies between a left and a right is where it is in either direction.
                if line != source && !source.starts_with("between") {
                    changes.push(statement.replaced(&line));
                }
            }
        }
        let names: Vec<String> =
            views.iter().map(|&view| format!("`{}`", self.screen().path(view))).collect();
        let said = format!("write `start` and `end` for `left` and `right` in {}", names.join(" and "));
        if changes.is_empty() {
            return None;
        }
        let idea = Candidate::new(said, changes, structure::ALONG_READING);
        Some(idea.because("these follow the reading direction"))
    }

    /// A second drawn size.
    fn for_both_orientations(&self) -> Option<Candidate> {
        let design = self.tree.descendants().find(|n| n.kind() == Kind::Design)?;
        let span = node_span(&design);
        let source = &self.text()[span.clone()];
        let open = source.find('(')?;
        let close = open + source[open..].find(')')?;
        let (width, height) = source[open + 1..close].split_once(',')?;
        let other = format!(" or ({}, {})", height.trim(), width.trim());
        if source.contains(" or ") {
            return None;
        }
        let at = span.start + close + 1;
        let said = format!("write `{}{other}` instead of `{}`", &source[..=close], &source[..=close]);
        let idea = Candidate::new(said, vec![Change::new(at..at, other)], structure::BOTH_ORIENTATIONS);
        Some(idea.because("displays have both orientations"))
    }
}

/// A text with some of its words replaced.
pub(crate) fn words_replaced(text: &str, words: &[(&str, &str)]) -> String {
    let mut out = String::new();
    let mut word = String::new();
    for c in text.chars().map(Some).chain([None]) {
        match c.filter(|c| c.is_alphanumeric() || *c == '_') {
            Some(c) => word.push(c),
            None => {
                let new = words.iter().find(|(old, _)| *old == word).map_or(word.as_str(), |(_, new)| new);
                out.push_str(new);
                word.clear();
                out.extend(c);
            }
        }
    }
    out
}
