//! Repairs inside of bands: what a band says replaces what it contradicts, what it drops is said otherwise, what is
//! missing is written in its `when` block, and what only one band has a place for is there only.

use crate::files::bases::Assembled;
use crate::finding::Finding;
use crate::fix::change::{Change, changed};
use crate::fix::context::{AxisWords, Candidate, FixContext, because};
use crate::fix::progression::distance;
use crate::fix::rule_source::{Pinned, Statement, put_into, side_written, sides_but};
use crate::fix::usual::{is_far, is_near};
use crate::fix::weights::band;
use crate::resolve::read::Source;
use crate::screen_ext::ScreenExt as _;
use crate::syntax::ast::nodes::{block_of, node_span, spelled};
use crate::syntax::lexer::Kind;
use crate::syntax::parser::parser::parse_screens;
use crate::syntax::tree::Node;
use std::collections::BTreeMap;
use vantic_core::model::{
    Anchor, BandId, Change as BandChange, Code, Coordinate, Rule, RuleId, RuleRef, ViewId,
};
use vantic_core::plan::{Placement, Plan, PlanError};
use vantic_core::words::free_name;

/// A rule of a band, and one outside of bands that it contradicts.
struct Contradiction {
    own: RuleId,
    inherited: (RuleId, usize),
}

impl FixContext<'_> {
    /// The rules of one band that contradict what their view says elsewhere, labelled so that they replace that.
    pub(crate) fn replaced_in_band(&self, finding: &Finding) -> Option<Candidate> {
        let (view, band) = self.band_of(finding)?;
        // All of the same band and view at once: none of them is solved alone.
        let others = self.report.open().filter(|f| f.code == Code::Conflict && *f != finding);
        let same = others.filter(|f| self.band_of(f) == Some((view, band)));
        let mut pairs: BTreeMap<RuleId, Contradiction> = BTreeMap::new();
        for one in std::iter::once(finding).chain(same) {
            let pair = self.contradiction(one, view, band)?;
            if pairs.values().any(|known| known.inherited == pair.inherited) {
                return None;
            }
            pairs.insert(pair.own, pair);
        }
        let mut changes = Vec::new();
        let mut said = Vec::new();
        for Contradiction { own, inherited: (rule, relation) } in pairs.values() {
            let own_label = self.screen().rule_at(*own).label();
            let (label, labelled) = self.labelled(view, *rule, *relation, own_label)?;
            let in_band = self.statement(*own)?;
            let at = in_band.span().start;
            let end = in_band.span().end - in_band.unlabelled().len();
            changes.extend(labelled);
            if own_label != Some(label.as_str()) {
                changes.push(Change::new(at..end, format!("{label}: ")));
            }
            said.push(format!("`{label}: {}`", in_band.unlabelled()));
        }
        let name = self.screen().bands()[band.index()].name();
        let said = format!(
            "label what {} to replace: {}",
            if said.len() == 1 {
                format!("the rule in `{name}` has")
            } else {
                format!("the rules in `{name}` have")
            },
            said.join(", ")
        );
        let reason = "a rule of a band replaces the one with its label";
        Some(Candidate::new(said, changes, band::REPLACES).because(reason).evident())
    }

    /// The view and the band of a contradiction between a band and what its view says elsewhere.
    fn band_of(&self, finding: &Finding) -> Option<(ViewId, BandId)> {
        let rules = || finding.rules.iter().filter_map(|part| self.screen().rule(part.written()?));
        // What has a label that a rule of the view has, too, replaces that one; all else contradicts.
        let replaces = |rule: &&Rule| {
            let own = rule.owner().into_iter().flat_map(|owner| self.rules_outside_bands(owner));
            rule.label().is_some() && own.map(|(_, rule)| rule.label()).any(|label| label == rule.label())
        };
        let is_inherited = |owner| rules().any(|rule| rule.owner() == owner && rule.band().is_none());
        let of_bands = rules().filter(|rule| !replaces(rule) && is_inherited(rule.owner()));
        let mut of_bands = of_bands.filter_map(|rule| Some((rule.owner()?, rule.band()?)));
        let first = of_bands.next()?;
        of_bands.all(|other| other == first).then_some(first)
    }

    fn contradiction(&self, finding: &Finding, view: ViewId, band: BandId) -> Option<Contradiction> {
        let screen = self.screen();
        let written = finding.rules.iter().filter_map(|part| match part {
            RuleRef::Written { rule, relation } => Some((*rule, *relation, screen.rule_at(*rule))),
            _ => None,
        });
        let of_band =
            |rule: &&(RuleId, usize, &Rule)| rule.2.band() == Some(band) && rule.2.owner() == Some(view);
        let own = written.clone().find(|rule| of_band(&rule))?;
        let coordinate = |rule: &Rule, relation: usize| {
            rule.relations().get(relation)?.left.terms().first().map(|t| t.coordinate)
        };
        let said = coordinate(own.2, own.1);
        // What is said of the same coordinate; else a size, then the far edge.
        let rank = |c: Option<Coordinate>| match c {
            c if c == said => 0,
            Some(Coordinate::Width | Coordinate::Height) => 1,
            Some(Coordinate::Right | Coordinate::End | Coordinate::Bottom) => 2,
            _ => 3,
        };
        let inherited = written
            .filter(|rule| rule.2.band().is_none() && rule.2.owner() == own.2.owner())
            .min_by_key(|rule| rank(coordinate(rule.2, rule.1)))?;
        Some(Contradiction { own: own.0, inherited: (inherited.0, inherited.1) })
    }

    /// The label of a rule, or of one side of it as a rule of its own; and what gives it one, if need be the one that is
    /// asked for.
    fn labelled(
        &self,
        view: ViewId,
        rule: RuleId,
        relation: usize,
        label: Option<&str>,
    ) -> Option<(String, Option<Change>)> {
        let about = self.screen().rule(rule)?;
        let statement = self.statement(rule)?;
        if let Some(label) = about.label().filter(|_| about.relations().len() == 1) {
            return Some((label.to_owned(), None));
        }
        if about.label().is_some() {
            return None;
        }
        let coordinate = about.relations().get(relation)?.left.terms().first()?.coordinate;
        let label = label.map_or_else(|| self.free_label(view, coordinate), str::to_owned);
        let line = match statement.pin() {
            Some(Pinned { sides, to, .. }) if sides.len() > 1 => {
                let own = side_written(sides.get(relation)?);
                format!("pin {} to {to}; {label}: pin {own} to {to}", sides_but(&sides, relation))
            }
            _ if about.relations().len() > 1 => return None,
            _ => format!("{label}: {}", statement.unlabelled()),
        };
        Some((label, Some(statement.replaced(&line))))
    }

    /// A label that no rule of the view has.
    fn free_label(&self, view: ViewId, of: Coordinate) -> String {
        let word = match of {
            Coordinate::Width => "across",
            Coordinate::Height => "tall",
            Coordinate::Left | Coordinate::Start => "near",
            Coordinate::Right | Coordinate::End => "far",
            Coordinate::Top => "upper",
            Coordinate::Bottom => "lower",
            _ => "place",
        };
        free_name(word, |name| self.rules_of(view).any(|(_, rule)| rule.label() == Some(name)))
    }

    /// The bands that are active wherever the finding is, and not everywhere.
    pub(crate) fn bands_where_found(&self, finding: &Finding) -> Vec<BandId> {
        let is_there = |band: &BandId| {
            let condition = self.screen().bands()[band.index()].condition();
            let mut found = finding.displays.iter().filter_map(|&on| self.displays.get(on));
            found.all(|display| condition.holds(display))
                && self.displays.iter().any(|display| !condition.holds(display))
        };
        self.screen().bands_with_ids().map(|(id, _)| id).filter(is_there).collect()
    }

    /// What a band drops and says nothing instead of: said of what is around the view, or not dropped.
    pub(crate) fn said_in_band(&self, finding: &Finding, view: ViewId) -> Vec<Candidate> {
        let mut ideas = Vec::new();
        for band in self.bands_where_found(finding) {
            let changes = self.screen().changes().iter().filter(|(of, _)| *of == band);
            let dropped = changes.filter_map(|(_, change)| match change {
                BandChange::Drop(rule) => Some(*rule),
                _ => None,
            });
            for rule in dropped {
                let about = self.screen().rule_at(rule);
                let (Some(statement), Some(label)) = (self.statement(rule), about.label()) else { continue };
                let Some(at) = self.drop_of(band, view, label).filter(|_| about.owner() == Some(view)) else {
                    continue;
                };
                let [relation] = about.relations() else { continue };
                let Some(term) = relation.left.terms().first() else { continue };
                let (edge, across) = (term.coordinate, term.coordinate.is_horizontal());
                let is_edge = is_near(edge, across) || is_far(edge, across);
                let side = if is_edge { edge.spelling() } else { AxisWords::of(across).near };
                let around = self.around(view);
                for line in [format!("{side} = {around}.{side}"), statement.unlabelled().to_owned()] {
                    let weight = if line.contains(around) { band::SAID_OF_AROUND } else { band::NOT_DROPPED };
                    let source = &self.text()[at.clone()];
                    let said = format!("write `{label}: {line}` instead of `{source}`");
                    let changes = vec![Change::new(at.clone(), format!("{label}: {line}"))];
                    let reason = "the band drops it and says nothing instead";
                    ideas.push(Candidate::new(said, changes, weight).because(reason));
                }
            }
        }
        ideas
    }

    /// Where a band drops the rule of a view with this label.
    fn drop_of(&self, band: BandId, view: ViewId, label: &str) -> Option<std::ops::Range<usize>> {
        let path = self.screen().path(view);
        let blocks = self.when_blocks(band);
        let drops = blocks.iter().flat_map(|(_, block)| block.descendants());
        let mut drops = drops.filter(|n| n.kind() == Kind::Drop);
        let found = drops.find(|node| {
            let name = node.children().find(|n| n.kind() == Kind::RuleName).map(|n| spelled(&n));
            let inside = node.ancestors().find(|n| n.kind() == Kind::In).is_some_and(|n| names(&n, &path));
            name.is_some_and(|name| inside && name == label || name == format!("{path}.{label}"))
        })?;
        // A drop that names its view stands outside of its block.
        found.ancestors().any(|n| n.kind() == Kind::In).then(|| node_span(&found))
    }

    /// The blocks of a band.
    fn when_blocks(&self, band: BandId) -> Vec<(Node, Node)> {
        when_blocks(&self.tree, self.screen().bands()[band.index()].name())
    }

    /// Lines put into what a band says of a view.
    pub(crate) fn put_in_band(
        &self,
        band: BandId,
        view: ViewId,
        lines: &[String],
        weight: f64,
    ) -> Option<Candidate> {
        let path = self.screen().path(view);
        let name = self.screen().bands()[band.index()].name();
        let line = lines.join("; ");
        let change = put_in_when(&self.tree, self.text(), (name, &path), lines)?;
        let said = format!("write `{line}` in `{path}` in band `{name}`");
        let lacks = format!("it is missing in `{name}` only");
        Some(Candidate::new(said, vec![change], weight).writing(lines).because(lacks))
    }

    /// What is missing only where a band is active, put into that band.
    pub(crate) fn missing_in_band(
        &self,
        finding: &Finding,
        view: ViewId,
        ideas: &[(Vec<String>, f64)],
    ) -> Vec<Candidate> {
        // What is there in these bands only says it outside of them.
        let mut elsewhere = self.report.placements.iter().enumerate();
        if !elsewhere.any(|(on, placed)| !finding.displays.contains(&on) && placed.is_painted(view)) {
            return Vec::new();
        }
        let bands = self.bands_where_found(finding);
        let changes = |band: &&BandId| self.screen().changes().iter().any(|(of, _)| of == *band);
        let bands: Vec<&BandId> = bands.iter().filter(changes).collect();
        let put = |band: &BandId| {
            let all = ideas.iter().filter_map(|(lines, weight)| {
                self.put_in_band(*band, view, lines, weight + band::MISSING_MORE)
            });
            all.collect::<Vec<_>>()
        };
        bands.into_iter().flat_map(put).collect()
    }

    /// Beside a view that a band hides: where it is shown, the other one begins or ends at it, and where it is hidden,
    /// at what it was tied to before.
    pub(crate) fn beside_what_is_hidden(
        &self,
        (below, above): (ViewId, ViewId),
        placement: &Placement,
    ) -> Vec<Candidate> {
        let screen = self.screen();
        let mut ideas = Vec::new();
        for (stays, comes) in [(below, above), (above, below)] {
            let hides = screen.changes().iter().filter_map(|(band, change)| match change {
                BandChange::Hide { view, instead: None, .. } if *view == comes => Some(*band),
                _ => None,
            });
            let hides: Vec<BandId> = hides.collect();
            let (Some(a), Some(b)) = (placement.frame(stays), placement.frame(comes)) else { continue };
            let shows = screen.at(comes).only_in();
            if hides.is_empty() && shows.is_empty() || screen.at(stays).parent() != screen.at(comes).parent()
            {
                continue;
            }
            for across in [true, false] {
                let (near, far) = match across {
                    true => (b.left <= a.left + 1.0, b.right() >= a.right() - 1.0),
                    false => (b.top <= a.top + 1.0, b.bottom() >= a.bottom() - 1.0),
                };
                if near == far {
                    continue;
                }
                let idea = self.moved_beside((&hides, shows), (stays, comes), (across, near));
                let name = screen.at(comes).name();
                ideas.extend(because(idea, &format!("`{name}` is there on some displays only")));
            }
        }
        ideas
    }

    /// Beside a view in a band that has placed it along the other axis already.
    pub(crate) fn beside_in_band(
        &self,
        finding: &Finding,
        (first, later): (ViewId, ViewId),
        placement: &Placement,
    ) -> Vec<Candidate> {
        let (Some(a), Some(b)) = (placement.frame(later), placement.frame(first)) else { return Vec::new() };
        let mut ideas = Vec::new();
        for band in self.bands_where_found(finding) {
            for across in [true, false] {
                let is_placed = |across: bool| {
                    let own = self.rules_of(later).filter(|(_, rule)| rule.band() == Some(band));
                    let left = own.flat_map(|(_, rule)| rule.relations()).flat_map(|r| r.left.terms());
                    left.into_iter().any(|t| t.coordinate.is_horizontal() == across)
                };
                let is_first = if across { b.right() < a.right() } else { b.bottom() < a.bottom() };
                if is_placed(across) || !is_placed(!across) || !is_first {
                    continue;
                }
                let idea = self.moved_beside((&[], &[band]), (later, first), (across, true));
                let name = self.screen().bands()[band.index()].name();
                ideas.extend(because(idea, &format!("`{name}` moves it along the other axis")));
            }
        }
        ideas
    }

    /// One edge of a view tied to that of another one which bands hide; there, to what it is tied to now.
    fn moved_beside(
        &self,
        (hides, shows): (&[BandId], &[BandId]),
        (stays, comes): (ViewId, ViewId),
        (across, near): (bool, bool),
    ) -> Option<Candidate> {
        let screen = self.screen();
        let is_edge = |c: Coordinate| if near { is_near(c, across) } else { is_far(c, across) };
        let (id, at, relation) = self.rules_outside_bands(stays).find_map(|(id, rule)| {
            let at = rule.relations().iter().position(
                |r| matches!(r.left.terms(), [t] if t.anchor == Anchor::View(stays) && is_edge(t.coordinate)),
            )?;
            Some((id, at, &rule.relations()[at]))
        })?;
        let term = relation.left.terms().first()?;
        relation.right.terms().first().filter(|read| self.is_around(stays, read.anchor))?;
        let edge = term.coordinate.spelling();
        let AxisWords { near: near_word, far: far_word, .. } = AxisWords::of(across);
        let facing = match (edge, near) {
            ("left", _) => "right",
            ("right", _) => "left",
            (_, true) => far_word,
            (_, false) => near_word,
        };
        let gap = distance(if near { "+" } else { "-" }, relation.right.constant().abs());
        let line = format!("{edge} = {}.{facing}{gap}", screen.at(comes).name());
        let about = screen.rule(id)?;
        let statement = self.statement(id)?;
        let label = match about.label() {
            Some(label) if about.relations().len() == 1 => label.to_owned(),
            Some(_) => return None,
            None => self.free_label(stays, term.coordinate),
        };
        let beside = format!("{label}: {line}");
        let (new, before) = match statement.pin() {
            Some(Pinned { sides, to, .. }) if sides.len() > 1 => {
                let own = side_written(sides.get(at)?);
                (
                    format!("pin {} to {to}; {beside}", sides_but(&sides, at)),
                    format!("{label}: pin {own} to {to}"),
                )
            }
            _ if about.relations().len() > 1 => return None,
            _ => (beside.clone(), format!("{label}: {}", statement.unlabelled())),
        };
        let name = |band: &BandId| screen.bands()[band.index()].name();
        let mut changes = Vec::new();
        let mut said;
        if let ([], [shown]) = (hides, shows) {
            // It is there in one band only: what that says of the other one replaces the rest.
            if about.label().is_none() {
                changes.push(statement.replaced(&new.replacen(&beside, &before, 1)));
            }
            said = format!("write `{beside}` in `{}` in band `{}`", screen.path(stays), name(shown));
            changes.push(self.in_when(*shown, stays, &beside)?);
        } else {
            changes.push(statement.replaced(&new));
            said = format!("write `{beside}` in `{}`", screen.path(stays));
            for band in hides {
                said += &format!(", and `{before}` in band `{}`", name(band));
                changes.push(self.in_when(*band, stays, &before)?);
            }
        }
        Some(Candidate::new(said, changes, band::BESIDE_HIDDEN))
    }

    /// A line put into what a band says of a view, in a block of its own where there is none.
    fn in_when(&self, band: BandId, view: ViewId, line: &str) -> Option<Change> {
        let (name, path) = (self.screen().bands()[band.index()].name(), self.screen().path(view));
        let lines = [line.to_owned()];
        put_in_when(&self.tree, self.text(), (name, &path), &lines)
            .or_else(|| self.at_the_end(&format!("when {name} {{ in {path} {{ {line} }} }}")))
    }

    /// A view that only one band has a place for is there only in that band.
    pub(crate) fn only_in_band(&self, finding: &Finding, below: ViewId, above: ViewId) -> Vec<Candidate> {
        let screen = self.screen();
        let mut ideas = Vec::new();
        for (view, other) in [(below, above), (above, below)] {
            let reads = |rule: &Rule| {
                rule.relations().iter().flat_map(|r| r.right.terms()).any(|t| t.anchor == Anchor::View(view))
            };
            let own = || self.rules_of(other);
            // The band ties the other one to it, and nothing else does.
            let is_tied = own().any(|(_, rule)| rule.band().is_none() && reads(rule));
            let band = own().filter(|(_, rule)| reads(rule)).find_map(|(_, rule)| rule.band());
            let Some(band) = band.filter(|_| !is_tied && screen.at(view).only_in().is_empty()) else {
                continue;
            };
            let condition = screen.bands()[band.index()].condition();
            if finding.displays.iter().any(|&on| condition.holds(&self.displays[on])) {
                continue;
            }
            let line = format!("only in {}", screen.bands()[band.index()].name());
            let place = format!("only `{}` has a place for it", screen.bands()[band.index()].name());
            ideas.extend(because(self.put_in(view, &[line], band::ONLY_THERE), &place));
        }
        ideas
    }
}

/// The blocks of the band of this name, each with its statement.
fn when_blocks(tree: &Node, band: &str) -> Vec<(Node, Node)> {
    let is_it = |n: &Node| n.kind() == Kind::When && names(n, band);
    let with_block = |when: Node| block_of(&when).map(|block| (when, block));
    tree.descendants().filter(is_it).filter_map(with_block).collect()
}

/// Lines put into what a band says of the view of this path.
fn put_in_when(tree: &Node, text: &str, (band, path): (&str, &str), lines: &[String]) -> Option<Change> {
    let blocks = when_blocks(tree, band);
    let inside = blocks.iter().find_map(|(_, block)| {
        let of_view = block.children().find(|n| n.kind() == Kind::In && names(n, path))?;
        Some((of_view.clone(), block_of(&of_view)?))
    });
    let all = format!("in {path} {{ {} }}", lines.join("; "));
    match (inside, blocks.last()) {
        (Some((of_view, block)), _) => Some(put_into(text, &of_view, &block, lines)),
        (None, Some((when, block))) => Some(put_into(text, when, block, &[all])),
        (None, None) => None,
    }
}

/// What to write where a rule reads a view that a band hides, in plain words: the same edge of what is around its view,
/// in that band. `None` where that does not make the screen one that can be placed.
pub fn instead_of_hidden(files: &Assembled, source: &Source, error: &PlanError) -> Option<String> {
    let screen = &source.screen;
    let (hidden, rule) = (error.hidden_view()?, error.rule()?);
    let about = screen.rule(rule)?;
    let ([relation], owner) = (about.relations(), about.owner()?) else { return None };
    let edge = relation.left.terms().first().filter(|t| t.coordinate.is_position())?.coordinate.spelling();
    let hides = screen.changes().iter().filter_map(|(band, change)| match change {
        BandChange::Hide { view, instead: None, .. } if screen.path(*view) == hidden => Some(*band),
        _ => None,
    });
    let [band] = hides.collect::<Vec<_>>()[..] else { return None };
    let (band, path) = (screen.bands()[band.index()].name(), screen.path(owner));
    let around = if screen.view(owner)?.parent().is_some() { "parent" } else { "safe" };
    let text = files.text();
    let tree = parse_screens(text, files.names().count()).0;
    let statement = Statement::at(&tree, text, &source.map.rule(rule)?)?;
    let label = about.label().unwrap_or("place");
    let line = format!("{label}: {edge} = {around}.{edge}");
    let mut changes = vec![put_in_when(&tree, text, (band, &path), std::slice::from_ref(&line))?];
    let mut said = format!("write `{line}` in `{path}` in `when {band}`");
    if about.label().is_none() {
        changes.push(statement.replaced(&format!("{label}: {}", statement.unlabelled())));
        said = format!("give it a label, `{label}: {}`, and {said}", statement.unlabelled());
    }
    let spans: Vec<_> = changes.iter().map(|c| (c.span(), c.new.len())).collect();
    let again = files.with_text(changed(text, &changes)?, &spans).read().ok()?;
    Plan::new(again.screen).is_ok().then_some(said)
}

/// Whether a statement is about the view of this path, or the band of this name.
fn names(node: &Node, path: &str) -> bool {
    let written = node.children().find(|n| n.kind() == Kind::Path);
    written.is_some_and(|written| spelled(&written) == path)
}
