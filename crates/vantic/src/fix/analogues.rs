//! Rules of similar views for the same coordinate, and the one rule that differs.

use crate::fix::context::{Candidate, FixContext};
use crate::fix::rule_source::Statement;
use crate::fix::usual::is_near;
use crate::fix::weights::{relatives, series};
use crate::screen_ext::ScreenExt as _;
use std::collections::{BTreeMap, BTreeSet};
use vantic_core::model::{Relation, Rule, RuleId, ViewId};

/// How many siblings on either side of a view are asked what they say.
const MAX_RELATIVES: usize = 12;

impl FixContext<'_> {
    /// The views that a view is like: its siblings, and those of its name in siblings of what it stands in,
    /// which are liker.
    pub(crate) fn relatives(&self, view: ViewId) -> Vec<(ViewId, f64)> {
        let screen = self.screen();
        let mut all: Vec<(ViewId, f64)> =
            self.near(view).into_iter().map(|other| (other, relatives::SIBLING)).collect();
        if let Some(parent) = screen.at(view).parent() {
            let name = screen.at(view).name();
            let cousins = self
                .near(parent)
                .into_iter()
                .filter_map(|other| screen.find(&format!("{}.{name}", screen.path(other))));
            all.extend(cousins.map(|cousin| (cousin, relatives::NAMESAKE)));
        }
        all
    }

    /// The siblings that are declared nearest to a view, in declared order.
    fn near(&self, view: ViewId) -> Vec<ViewId> {
        let (before, behind) = self.screen().around(view);
        let before = &before[before.len().saturating_sub(MAX_RELATIVES)..];
        before.iter().chain(behind.iter().take(MAX_RELATIVES)).copied().collect()
    }

    /// What relatives of a view say along an axis, and how usual that is.
    pub(crate) fn usual_lines(&self, view: ViewId, across: bool) -> Vec<(String, f64)> {
        let mut lines: BTreeMap<String, f64> = BTreeMap::new();
        let own: BTreeSet<String> = self.lines_of(view, across).into_iter().collect();
        let is_text = |view: ViewId| self.screen().at(view).text().is_some();
        let read: BTreeSet<&str> = own.iter().filter_map(|line| place_read(line)).collect();
        let said = |view| [true, false].map(|across| self.lines_of(view, across)).concat();
        let says: BTreeSet<String> = said(view).into_iter().collect();
        let begins = |view| self.edge_read(view, |c| is_near(c, across)).is_some();
        let may_be_alike = self.screen().at(view).children().is_empty() && begins(view);
        let is_sized = self.is_sized(view, !across);
        for (relative, weight) in self.relatives(view) {
            // What holds words is seldom ruled as what does not; what reads the same place often is.
            let weight = if is_text(view) == is_text(relative) {
                weight
            } else {
                relatives::OTHER_KIND_FACTOR * weight
            };
            // What has a line in common with it, and begins as it does, is as large as it is.
            let is_alike =
                may_be_alike && begins(relative) && said(relative).iter().any(|line| says.contains(line));
            // What has a size of its own the other way is not as large as what is as large as there is space.
            let is_other = is_sized && !self.is_sized(relative, !across);
            for line in
                self.lines_of(relative, across).into_iter().filter(|line| !(is_other && is_size(line)))
            {
                let fits = !reads(&line, self.screen().at(view).name())
                    && (self.screen().at(view).has_content() || !line.starts_with("baseline "));
                if !own.contains(&line) && fits {
                    let same = place_read(&line).is_some_and(|place| read.contains(place));
                    let more = if same { relatives::ALIKE_ALREADY } else { 0.0 };
                    let more =
                        if is_alike && is_size(&line) { more + relatives::HAS_SAME_LINE } else { more };
                    *lines.entry(line).or_insert(0.0) += weight + more;
                }
            }
        }
        let usual = |weight: f64| relatives::LINE + relatives::LINE_EACH * weight.min(relatives::LINE_MOST);
        // A share that only one of them has is its own.
        let is_own = |line: &str, w: f64| line.contains("% of ") && w < relatives::ONLY_ONE;
        let usual =
            |line: &str, w: f64| usual(w) * if is_own(line, w) { relatives::ONLY_ONE_FACTOR } else { 1.0 };
        let weighted = lines.into_iter().map(|(line, w)| {
            let weight = usual(&line, w);
            (line, weight)
        });
        let mut lines: Vec<(String, f64)> = weighted.collect();
        lines.sort_by(|a, b| b.1.total_cmp(&a.1));
        lines.truncate(12);
        lines
    }

    /// The rules of a view along an axis as they are written, where no band changes it.
    pub(crate) fn lines_of(&self, view: ViewId, across: bool) -> Vec<String> {
        let own = self.rules_outside_bands(view);
        let along = own.filter(|(_, rule)| {
            let about = |r: &Relation| r.terms().first().map(|t| t.coordinate.is_horizontal());
            rule.relations().iter().filter_map(about).any(|horizontal| horizontal == across)
        });
        along.filter_map(|(id, _)| Some(self.statement(id)?.unlabelled().to_owned())).collect()
    }

    /// Whether relatives say the same.
    pub(crate) fn is_usual(&self, rule: RuleId) -> bool {
        let Some(statement) = self.statement(rule) else { return false };
        self.said_of_relatives(rule).iter().any(|(text, _)| text == statement.unlabelled())
    }

    /// What relatives say of the same thing as a rule, each with how many say so.
    fn said_of_relatives(&self, rule: RuleId) -> Vec<(String, f64)> {
        let of = || {
            let about = self.screen().rule(rule)?;
            Some((about.owner()?, self.statement(rule)?, about.band()))
        };
        let Some((owner, statement, band)) = of() else { return Vec::new() };
        let mut said: BTreeMap<String, f64> = BTreeMap::new();
        for (relative, weight) in self.relatives(owner) {
            let own = self.rules_of(relative).filter(|(_, r)| r.band() == band);
            for (id, _) in own {
                let Some(other) = self.statement(id) else { continue };
                if other.span() != statement.span() && other.subject() == statement.subject() {
                    *said.entry(other.unlabelled().to_owned()).or_insert(0.0) += weight;
                }
            }
        }
        let mut said: Vec<(String, f64)> = said.into_iter().collect();
        said.sort_by(|a, b| b.1.total_cmp(&a.1));
        said
    }

    /// A rule as relatives of its view have it, where they agree on something else.
    pub(crate) fn match_analogues(
        &self,
        rule: RuleId,
        statement: &Statement<'_>,
        weight: f64,
    ) -> Vec<Candidate> {
        let said = self.said_of_relatives(rule);
        let total: f64 = said.iter().map(|(_, w)| w).sum();
        let mut ideas = self.out_of_series(rule, statement, weight);
        // The size of one relative alone says nothing of another.
        let is_size = ["width", "height", "size"].contains(&statement.subject().trim());
        let says_enough = |(_, w): &&(String, f64)| !is_size || *w >= relatives::ONLY_ONE;
        let other =
            said.iter().filter(|(text, _)| text != statement.unlabelled()).filter(says_enough).take(2);
        ideas.extend(other.filter_map(|(text, w)| {
            let alone = if *w < relatives::ONLY_ONE { relatives::ONLY_ONE_FACTOR } else { 1.0 };
            // Where many tie it to the same with another number, and hardly one differs, nothing is
            // likelier.
            let same = place_read(text).is_some() && place_read(text) == place_read(statement.unlabelled());
            let agreed = if same && *w >= relatives::MANY && w / total > relatives::MANY_SHARE {
                relatives::MANY_FACTOR
            } else {
                1.0
            };
            self.reads(statement, statement.replaced(text), weight * (w / total) * alone * agreed)
        }));
        ideas
    }

    /// A rule as it would go on with what siblings say one after the other.
    fn out_of_series(&self, rule: RuleId, statement: &Statement<'_>, weight: f64) -> Vec<Candidate> {
        let Some(owner) = self.screen().rule(rule).and_then(Rule::owner) else { return Vec::new() };
        let about = |line: &String| {
            let of = line.strip_prefix(statement.subject());
            line != statement.unlabelled() && of.is_some_and(|rest| rest.starts_with(" ="))
        };
        let lines = [true, false].into_iter().flat_map(|across| self.next_in_series(owner, across));
        let mut lines: Vec<String> = lines.map(|(line, _)| line).filter(about).collect();
        lines.dedup();
        lines
            .iter()
            .filter_map(|line| {
                self.reads(statement, statement.replaced(line), series::REWRITTEN_FACTOR * weight)
            })
            .collect()
    }
}

/// The place of which a rule reads a coordinate: `list` of `start = list.start + 8`.
fn place_read(line: &str) -> Option<&str> {
    let (_, right) = line.split_once("= ")?;
    let (place, _) = right.split_once('.')?;
    place.chars().all(|c| c.is_alphanumeric() || c == '_').then_some(place)
}

/// Whether it is a size, and no share of something or preference: `height = 84`.
fn is_size(line: &str) -> bool {
    let of_size = ["width = ", "height = ", "size = "].iter().any(|size| line.starts_with(size));
    of_size && !line.contains(['%', '~'])
}

/// Whether a rule reads a view: one of its coordinates, or where it is.
fn reads(line: &str, name: &str) -> bool {
    let mut words = line.split(|c: char| !(c.is_alphanumeric() || matches!(c, '_' | '.' | '[' | ']')));
    words.any(|word| word.strip_prefix(name).is_some_and(|rest| rest.is_empty() || rest.starts_with('.')))
}
