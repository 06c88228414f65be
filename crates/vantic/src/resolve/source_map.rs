//! Where what is read stands in its file, and which part it came from.

use crate::finding::{Finding, Location, PlacedPart};
use crate::resolve::scope::ScopeId;
use std::collections::{BTreeMap, BTreeSet, HashMap};
use std::ops::Range;
use vantic_core::model::{Anchor, BandId, RuleId, RuleRef, Screen, ViewId};

/// Where a path names a place: a view, or one that is known from it.
#[derive(Clone, Debug, PartialEq)]
pub(crate) struct Reference {
    /// The whole path, with a coordinate where it has one.
    pub(crate) at: Range<usize>,
    /// How many words of it name the place.
    pub(crate) words: usize,
    pub(crate) place: Anchor,
    /// The view in whose block it is read.
    pub(crate) owner: Option<ViewId>,
}

/// Where a drawing stands, and in it each of its views.
pub(crate) type DrawingSpans = (Range<usize>, HashMap<ViewId, Range<usize>>);

/// Where the parts of a screen stand in its file, in bytes.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct SourceMap {
    pub(crate) rules: Vec<Range<usize>>,
    pub(crate) views: Vec<Range<usize>>,
    pub(crate) bands: BTreeMap<BandId, Range<usize>>,
    /// The bands of bases that the file does not adopt.
    pub(crate) unadopted: BTreeSet<BandId>,
    /// Where views are hidden, or said to be there in some bands only, by path.
    pub(crate) hides: Vec<(String, Range<usize>)>,
    /// Where bands say in which way views arrange their children.
    pub(crate) arrangements: BTreeMap<(ViewId, BandId), Range<usize>>,
    /// Where the drawn size is stated, and in which file.
    pub(crate) design: Option<(usize, Range<usize>)>,
    pub(crate) languages: Vec<Range<usize>>,
    pub(crate) expectations: Vec<Range<usize>>,
    pub(crate) claims: Vec<Range<usize>>,
    /// Where drawings stand, and in each where the views do.
    pub(crate) drawings: Vec<DrawingSpans>,
    /// Where the leftovers of the screen stand, in their order.
    pub(crate) leftovers: Vec<Range<usize>>,
    /// The parts that are placed, in the order of their scopes; the screen itself is none.
    pub(crate) parts: Vec<PlacedPart>,
    /// The paths that name places, where they are asked for.
    pub(crate) references: Option<Vec<Reference>>,
    /// Per rule, and per view: the scope that it was read in; 0 for the screen itself.
    pub(crate) rule_scopes: Vec<ScopeId>,
    pub(crate) view_scopes: Vec<ScopeId>,
}

impl SourceMap {
    /// Where a rule stands.
    ///
    /// ```
    /// let text = "screen quay { view a { left = 4; top = 8; size = 20 } }";
    /// let source = vantic::read(text)?;
    /// let (first, _) = source.screen.rules().next().unwrap();
    /// assert_eq!(&text[source.map.rule(first).unwrap()], "left = 4");
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn rule(&self, rule: RuleId) -> Option<Range<usize>> {
        self.rules.get(rule.index()).cloned()
    }

    /// Where a band says in which way a view arranges its children.
    pub fn arrangement(&self, view: ViewId, band: BandId) -> Option<Range<usize>> {
        self.arrangements.get(&(view, band)).cloned()
    }

    /// Where a view's name is declared.
    pub fn view(&self, view: ViewId) -> Option<Range<usize>> {
        self.views.get(view.index()).cloned()
    }

    /// Where a band is declared; those of parts where they were first.
    pub fn band(&self, band: BandId) -> Option<Range<usize>> {
        self.bands.get(&band).cloned()
    }

    /// Whether the file can use a band: one of its own, or one of a base that it adopts.
    pub fn is_adopted(&self, band: BandId) -> bool {
        !self.unadopted.contains(&band)
    }

    /// Where a view, by its path, is hidden or said to be there in some bands only: the first such place.
    pub fn hidden(&self, path: &str) -> Option<Range<usize>> {
        let is_around =
            |of: &str| path.strip_prefix(of).is_some_and(|rest| rest.is_empty() || rest.starts_with('.'));
        self.hides.iter().find(|(of, _)| is_around(of)).map(|(_, at)| at.clone())
    }

    /// Where a language is declared, counted from 0; `None` for one that came from beside the file.
    pub fn language(&self, index: usize) -> Option<Range<usize>> {
        self.languages.get(index).cloned()
    }

    /// Where an expectation stands, counted from 0; `None` for one that came from beside the file.
    pub fn expectation(&self, index: usize) -> Option<Range<usize>> {
        self.expectations.get(index).cloned()
    }

    /// Where a drawing stands, counted from 0.
    pub fn drawing(&self, index: usize) -> Option<Range<usize>> {
        self.drawings.get(index).map(|(at, _)| at.clone())
    }

    /// Where a view stands in a drawing.
    pub fn drawn(&self, index: usize, view: ViewId) -> Option<Range<usize>> {
        self.drawings.get(index)?.1.get(&view).cloned()
    }

    /// Where a claim stands, counted from 0.
    pub fn claim(&self, index: usize) -> Option<Range<usize>> {
        self.claims.get(index).cloned()
    }

    /// Where something stands that nothing uses, counted from 0.
    pub fn leftover(&self, index: usize) -> Option<Range<usize>> {
        self.leftovers.get(index).cloned()
    }

    /// Where a rule stands that may be one that nobody wrote: there the view that it comes from is declared.
    pub fn rule_ref(&self, rule: RuleRef) -> Option<Range<usize>> {
        match rule {
            RuleRef::Written { rule, .. } => self.rule(rule),
            RuleRef::Arranged { view, band: Some(band), .. } => self.arrangement(view, band),
            RuleRef::Whole(view) | RuleRef::Snug(view) | RuleRef::Arranged { view, .. } => self.view(view),
        }
    }

    /// Where something stands that a finding is about.
    pub fn location(&self, location: Location) -> Option<Range<usize>> {
        match location {
            Location::View(view) => self.view(view),
            Location::Band(band) => self.band(band),
            Location::Language(index) => self.language(index),
            Location::Expectation(index) => self.expectation(index),
            Location::Claim(index) => self.claim(index),
            Location::Drawing(index, Some(view)) => self.drawn(index, view),
            Location::Drawing(index, None) => self.drawing(index),
            Location::Leftover(index) => self.leftover(index),
        }
    }

    /// Where a finding begins: at its first rule, what else it is about, or its first view.
    pub fn finding(&self, finding: &Finding) -> Option<Range<usize>> {
        let rules = finding.rules.iter().filter_map(|rule| self.rule_ref(*rule));
        let locations = finding.locations.iter().filter_map(|location| self.location(*location));
        rules.chain(locations).chain(finding.views.iter().filter_map(|view| self.view(*view))).next()
    }

    /// The part that a rule is a line of, and where it is placed.
    pub fn part_of_rule(&self, rule: RuleId) -> Option<&PlacedPart> {
        self.parts.get(self.rule_scopes.get(rule.index())?.checked_sub(1)?)
    }

    /// The part that a view is declared in, and where it is placed.
    pub fn part_of_view(&self, view: ViewId) -> Option<&PlacedPart> {
        self.parts.get(self.view_scopes.get(view.index())?.checked_sub(1)?)
    }

    /// The parts that a finding is about, and where they are placed: those of its rules and views, and where
    /// it names no rule, those placed in a view of it.
    pub fn parts_of(&self, screen: &Screen, finding: &Finding) -> Vec<PlacedPart> {
        let mut all: Vec<&PlacedPart> = Vec::new();
        // Where something landed wrong, the rules behind it may stand anywhere; it is about the views.
        let is_of_rules = !finding.code.is_of_frames();
        for part in finding.each().flat_map(|f| &f.rules).filter(|_| is_of_rules) {
            match *part {
                RuleRef::Written { rule, .. } => all.extend(self.part_of_rule(rule)),
                built_in => all.extend(built_in.owner(screen).and_then(|v| self.part_of_view(v))),
            }
        }
        let names_no_rule = !is_of_rules || finding.rule_names(screen).is_empty();
        for &view in finding.each().flat_map(|f| &f.views) {
            let path = screen.path(view);
            all.extend(self.part_of_view(view));
            all.extend(self.parts.iter().filter(|p| names_no_rule && p.place == path));
        }
        let mut placed: Vec<PlacedPart> = Vec::new();
        for part in all {
            if !placed.contains(part) {
                placed.push(part.clone());
            }
        }
        placed
    }
}
