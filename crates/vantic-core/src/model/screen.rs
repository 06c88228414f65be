//! The screen: views, rules, levels and bands, with every name resolved.

use crate::display::display::Display;
use crate::geometry::frame::Frame;
use crate::limits::{MAX_NUMBER, MAX_RULES};
use crate::model::acceptance::Acceptance;
use crate::model::arrangement::Arrangement;
use crate::model::band::{Band, Change, Value};
use crate::model::build_error::BuildError;
use crate::model::claim::Claim;
use crate::model::condition::Tested;
use crate::model::design::Design;
use crate::model::drawn_frames::DrawnFrames;
use crate::model::expectation::Expectation;
use crate::model::id::{BandId, LevelId, Revision, RuleId, ScreenTag, ValueId, ViewId};
use crate::model::language::{Language, MAX_LANGUAGES, PSEUDO, pseudo};
use crate::model::leftover::{Leftover, Leftovers};
use crate::model::rule::Rule;
use crate::model::setting::Setting;
use crate::model::state::State;
use crate::model::table::Table;
use crate::model::validate::{check_value, check_words, is_name};
use crate::model::view::{Text, View};
use crate::words::nearest::nearest;
use std::borrow::Cow;
use std::collections::{BTreeMap, BTreeSet, HashMap};
use std::sync::Arc;

/// A screen: what is on it and by which rules it is placed. It holds no unresolved name, and
/// prints itself as a screen file with [`std::fmt::Display`].
#[derive(Clone, Debug, PartialEq)]
pub struct Screen {
    /// Its ids bear it.
    pub(crate) tag: ScreenTag,
    pub(crate) name: String,
    /// The author's ladder as written.
    pub(crate) ladder: Vec<String>,
    /// Every level, strongest first, the built-in ones included.
    pub(crate) levels: Vec<String>,
    pub(crate) values: Vec<Value>,
    pub(crate) roots: Vec<ViewId>,
    /// The guides directly on the screen.
    pub(crate) guides: Vec<ViewId>,
    pub(crate) views: Table<View>,
    /// The views and guides by what they stand in, and their names.
    pub(crate) names: Arc<HashMap<(Option<ViewId>, String), ViewId>>,
    pub(crate) rules: Table<Rule>,
    pub(crate) design: Option<Design>,
    pub(crate) languages: Arc<Vec<Language>>,
    pub(crate) expectations: Arc<Vec<Expectation>>,
    pub(crate) drawings: Arc<Vec<DrawnFrames>>,
    pub(crate) states: Vec<State>,
    pub(crate) bands: Vec<Band>,
    pub(crate) changes: Arc<Vec<(BandId, Change)>>,
    pub(crate) acceptances: Vec<Acceptance>,
    pub(crate) claims: Arc<Vec<Claim>>,
    pub(crate) leftovers: Leftovers,
}

impl Screen {
    /// The name.
    pub fn name(&self) -> &str {
        &self.name
    }

    /// What its file says and nothing uses.
    pub fn leftovers(&self) -> &[Leftover] {
        &self.leftovers.0
    }

    /// The levels that the author names, strongest first.
    pub fn ladder(&self) -> &[String] {
        &self.ladder
    }

    /// The views directly on the screen, in declared order.
    pub fn roots(&self) -> &[ViewId] {
        &self.roots
    }

    /// The guides directly on the screen, in declared order.
    pub fn guides(&self) -> &[ViewId] {
        &self.guides
    }

    /// What bands do, in written order.
    pub fn changes(&self) -> &[(BandId, Change)] {
        &self.changes
    }

    /// All views with their ids, in declared order.
    pub fn views(&self) -> impl Iterator<Item = (ViewId, &View)> {
        self.table().filter(|(_, view)| !view.is_removed)
    }

    /// The table of views, with those that were removed.
    pub(crate) fn table(&self) -> impl Iterator<Item = (ViewId, &View)> {
        self.views.iter().enumerate().map(|(i, v)| (ViewId::new(i, v.tag), v))
    }

    /// All rules with their ids, in written order, those of bands included.
    pub fn rules(&self) -> impl Iterator<Item = (RuleId, &Rule)> {
        let all = self.rules.iter().enumerate().map(|(i, r)| (RuleId::new(i, r.tag), r));
        all.filter(|(_, rule)| !rule.is_removed())
    }

    /// The states, in declared order.
    pub fn states(&self) -> &[State] {
        &self.states
    }

    /// The bands, in declared order; each alternative of a state is one, called `state.alternative`.
    pub fn bands(&self) -> &[Band] {
        &self.bands
    }

    /// The bands with their ids, in declared order.
    pub fn bands_with_ids(&self) -> impl Iterator<Item = (BandId, &Band)> {
        self.bands.iter().enumerate().map(|(i, b)| (BandId::new(i, self.tag), b))
    }

    /// What is expected to come out on displays, in written order.
    pub fn expectations(&self) -> &[Expectation] {
        &self.expectations
    }

    /// Where its views were drawn.
    pub fn drawings(&self) -> &[DrawnFrames] {
        &self.drawings
    }

    /// A name that no band has yet.
    pub fn free_band_name(&self, name: &str) -> String {
        crate::words::free_name(name, |name| self.bands.iter().any(|b| b.name() == name))
    }

    /// What a band changes, in written order, as lines of a screen file.
    pub fn changes_in(&self, band: BandId) -> Vec<String> {
        self.changes
            .iter()
            .filter(|(of, _)| *of == band)
            .map(|(_, change)| self.change_text(change))
            .collect()
    }

    /// The named numbers that bands change and those that the application sets, in declared order.
    pub fn values(&self) -> &[Value] {
        &self.values
    }

    /// The numbers that the application sets, in declared order.
    pub fn parameters(&self) -> impl Iterator<Item = &Value> {
        self.values.iter().filter(|value| value.range.is_some())
    }

    /// The number of this name that the application sets.
    pub fn parameter(&self, name: &str) -> Option<&Value> {
        self.parameters().find(|value| value.name == name)
    }

    /// The names of the levels, strongest first, `whole` and `snug` among them.
    pub fn levels(&self) -> &[String] {
        &self.levels
    }

    /// Numbers to try a parameter with, besides what it is without: both ends of its range, and between the places where
    /// bands begin or end at it, the middle. None for one that the screen does not have.
    pub fn tried_numbers(&self, parameter: &str) -> Vec<f64> {
        let Some(value) = self.parameter(parameter) else { return Vec::new() };
        let Some((from, to)) = value.range else { return Vec::new() };
        let parts = self.bands.iter().flat_map(|band| band.condition.parts());
        let borders = parts.filter_map(|part| match part.borders()? {
            (Tested::Parameter(of), numbers) if of.name == parameter => Some(numbers),
            _ => None,
        });
        let mut cuts: Vec<f64> = borders.flatten().filter(|cut| *cut > from && *cut < to).collect();
        cuts.sort_by(f64::total_cmp);
        cuts.dedup();
        let between = cuts.windows(2).map(|two| f64::midpoint(two[0], two[1]));
        let mut numbers: Vec<f64> = std::iter::once(from).chain(between).chain([to]).collect();
        numbers.retain(|number| *number != value.number);
        numbers.dedup();
        numbers
    }

    /// The findings that are accepted on purpose.
    pub fn acceptances(&self) -> &[Acceptance] {
        &self.acceptances
    }

    /// Whether a view is one of this screen.
    pub(crate) fn has_view(&self, view: ViewId) -> bool {
        self.views.get(view.index()).is_some_and(|of| view.is_tagged(of.tag) && !of.is_removed)
    }

    /// Whether a rule is one of this screen.
    pub(crate) fn has_rule(&self, rule: RuleId) -> bool {
        self.rules.get(rule.index()).is_some_and(|of| rule.is_tagged(of.tag) && !of.is_removed())
    }

    /// Whether a band is one of this screen.
    pub(crate) fn has_band(&self, band: BandId) -> bool {
        band.index() < self.bands.len() && band.is_tagged(self.tag)
    }

    /// Whether a named number is one of this screen.
    pub(crate) fn has_value(&self, value: ValueId) -> bool {
        value.index() < self.values.len() && value.is_tagged(self.tag)
    }

    /// Whether a level is one of this screen.
    pub(crate) fn has_level(&self, level: LevelId) -> bool {
        level.index() < self.levels.len() && level.is_tagged(self.tag)
    }

    /// A view; `None` for an id of another screen.
    pub fn view(&self, view: ViewId) -> Option<&View> {
        self.views.get(view.index()).filter(|_| self.has_view(view))
    }

    /// The view at a position of the table, counted from 0 in declared order.
    pub fn view_at(&self, index: usize) -> Option<ViewId> {
        self.views.get(index).map(|of| ViewId::new(index, of.tag)).filter(|view| self.has_view(*view))
    }

    /// The id of a view by its position, one that was removed included.
    pub(crate) fn id_of(&self, index: usize) -> ViewId {
        ViewId::new(index, self.views[index].tag)
    }

    /// A rule; `None` for an id of another screen.
    pub fn rule(&self, rule: RuleId) -> Option<&Rule> {
        self.rules.get(rule.index()).filter(|_| self.has_rule(rule))
    }

    /// A view of this screen.
    pub(crate) fn at(&self, view: ViewId) -> &View {
        &self.views[view.index()]
    }

    /// A rule of this screen.
    pub(crate) fn rule_at(&self, rule: RuleId) -> &Rule {
        &self.rules[rule.index()]
    }

    /// The views beside a view, itself included, in declared order.
    pub fn siblings(&self, view: ViewId) -> &[ViewId] {
        match self.at(view).parent {
            Some(parent) => &self.at(parent).children,
            None => &self.roots,
        }
    }

    /// The views beside a view, itself included, in declared order; none for an id of another screen.
    pub fn siblings_of(&self, view: ViewId) -> impl Iterator<Item = ViewId> + '_ {
        let known = self.view(view).map(|_| self.siblings(view));
        known.unwrap_or_default().iter().copied()
    }

    /// The siblings before a view and those after it, in declared order.
    pub(crate) fn around(&self, view: ViewId) -> (&[ViewId], &[ViewId]) {
        let (siblings, at) = (self.siblings(view), self.at(view).sibling_index);
        (&siblings[..at], siblings.get(at + 1..).unwrap_or_default())
    }

    /// The views that a view stands in, from its parent outwards; none for an id of another screen.
    pub fn ancestors(&self, view: ViewId) -> impl Iterator<Item = ViewId> + Clone {
        self.with_ancestors(view).skip(1)
    }

    /// A view, and those that it stands in, from its parent outwards; none for an id of another screen.
    pub fn with_ancestors(&self, view: ViewId) -> impl Iterator<Item = ViewId> + Clone {
        std::iter::successors(Some(view).filter(|&v| self.has_view(v)), |&v| self.at(v).parent)
    }

    /// Whether a view is another one, or stands in it.
    pub fn is_within(&self, view: ViewId, other: ViewId) -> bool {
        self.with_ancestors(view).any(|v| v == other)
    }

    /// The names from the outermost view to this one, joined by dots; empty for an id of another
    /// screen.
    pub fn path(&self, view: ViewId) -> String {
        let mut names: Vec<&str> = self.with_ancestors(view).map(|v| self.at(v).name.as_str()).collect();
        names.reverse();
        names.join(".")
    }

    /// The view of this path.
    pub fn find(&self, path: &str) -> Option<ViewId> {
        let mut found = None;
        for name in path.split('.') {
            found = Some(self.named(found, name)?);
        }
        found
    }

    /// The view or guide of a name directly in a view, or on the screen.
    pub(super) fn named(&self, scope: Option<ViewId>, name: &str) -> Option<ViewId> {
        self.names.get(&(scope, name.to_owned())).copied()
    }

    /// The path of a view that is most like a misspelt one, if any is.
    pub fn nearest_path(&self, path: &str) -> Option<String> {
        let paths: Vec<String> = self.views().map(|(id, _)| self.path(id)).collect();
        nearest(path, paths.iter().map(String::as_str))
    }

    /// What messages call a rule: `board.label`, or `board#2`, or in a band `board@wide#1`; empty
    /// for an id of another screen.
    pub fn rule_name(&self, rule: RuleId) -> String {
        let Some(r) = self.rule(rule) else { return String::new() };
        let owner = r.owner.map_or_else(|| "screen".to_owned(), |v| self.path(v));
        match (&r.label, r.band) {
            (Some(label), _) => format!("{owner}.{label}"),
            (None, Some(band)) => format!("{owner}@{}#{}", self.bands[band.index()].name, r.number),
            (None, None) => format!("{owner}#{}", r.number),
        }
    }

    /// The rules of this name, as messages call them: one, or those of several bands that replace one
    /// another.
    pub fn rules_called(&self, name: &str) -> Vec<RuleId> {
        self.rules().map(|(id, _)| id).filter(|&id| self.rule_name(id) == name).collect()
    }

    /// The name of a level; empty for an id of another screen.
    pub fn level_name(&self, level: LevelId) -> &str {
        self.levels.get(level.index()).map_or("", String::as_str)
    }

    /// The level of a name.
    pub fn level(&self, name: &str) -> Option<LevelId> {
        self.levels.iter().position(|l| l == name).map(|i| LevelId::new(i, self.tag))
    }

    /// The size that it is drawn for, where it is scaled.
    pub fn design(&self) -> Option<Design> {
        self.design
    }

    /// The display in the units of the screen, and how many logical pixels one of them is; `None` where it is
    /// not scaled.
    pub fn canvas(&self, display: &Display) -> Option<(Display, f64)> {
        let factor = self.design?.factor(display);
        Some((display.clone().in_units_of(factor), factor))
    }

    /// How bands make a view arrange its children, in file order.
    fn arrangement_changes(&self, view: ViewId) -> impl DoubleEndedIterator<Item = (BandId, &Arrangement)> {
        self.changes.iter().filter_map(move |(band, change)| match change {
            Change::Set { view: of, setting: Setting::Arrange(how) } if *of == view => Some((*band, &**how)),
            _ => None,
        })
    }

    /// How a view arranges its children, or how a band makes it do so.
    pub(crate) fn arrangement_in(&self, view: ViewId, band: Option<BandId>) -> Option<&Arrangement> {
        let Some(band) = band else { return self.view(view)?.arrangement() };
        self.arrangement_changes(view).rev().find(|(of, _)| *of == band).map(|(_, how)| how)
    }

    /// The band that decides how a view arranges its children on a display; `None` where none does.
    pub fn band_of_arrangement(&self, view: ViewId, display: &Display) -> Option<BandId> {
        let holds = |band: BandId| self.bands[band.index()].condition().holds(display);
        self.arrangement_changes(view).rev().map(|(band, _)| band).find(|&band| holds(band))
    }

    /// The bands that change how a view arranges its children, in declared order.
    pub fn arranged_in(&self, view: ViewId) -> impl Iterator<Item = BandId> {
        self.arrangement_changes(view).map(|(band, _)| band).collect::<BTreeSet<_>>().into_iter()
    }

    /// The languages in which the screen has words, in declared order.
    pub fn languages(&self) -> &[Language] {
        &self.languages
    }

    /// The words in a language.
    pub(crate) fn language(&self, name: &str) -> Option<&Language> {
        self.languages.iter().find(|language| language.name() == name)
    }

    /// The words of a text in a language; its own where the language has none for it, or is `None`. `None`
    /// for a view without words.
    pub fn words_in(&self, view: ViewId, language: Option<&str>) -> Option<Cow<'_, str>> {
        let own = &self.view(view)?.text()?.words;
        if language == Some(PSEUDO) {
            return Some(Cow::Owned(pseudo(own)));
        }
        let named = language.and_then(|name| self.language(name));
        Some(Cow::Borrowed(named.and_then(|l| l.words(view)).unwrap_or(own)))
    }

    /// The texts that a language has no words for, in declared order.
    pub fn untranslated<'a>(&'a self, language: &'a Language) -> impl Iterator<Item = ViewId> + 'a {
        let has_words = |words: &str| !crate::text::units::is_number(words);
        let texts = self.views().filter(move |(_, v)| v.text().is_some_and(|t| has_words(&t.words)));
        texts.map(|(view, _)| view).filter(|view| !language.is_own && !language.words.contains_key(view))
    }

    /// The language of this name, added if it is new, and where it stands.
    pub(crate) fn add_language(
        &mut self,
        name: &str,
        right_to_left: bool,
        is_own: bool,
    ) -> Result<usize, String> {
        if !is_name(name) || name == PSEUDO {
            return Err(format!(
                "`{name}` is not a name for a language: use letters, such as `fi` or `pt_br`"
            ));
        }
        if let Some(index) = self.languages.iter().position(|l| l.name == name) {
            let language = &mut Arc::make_mut(&mut self.languages)[index];
            language.right_to_left |= right_to_left;
            language.is_own &= is_own;
            return Ok(index);
        }
        if self.languages.len() >= MAX_LANGUAGES {
            return Err(format!("too many languages: the limit is {MAX_LANGUAGES}"));
        }
        let (name, words) = (name.to_owned(), BTreeMap::new());
        let revision = Revision::default();
        let language = Language { name, right_to_left, is_own, words, revision };
        Arc::make_mut(&mut self.languages).push(language);
        Ok(self.languages.len() - 1)
    }

    /// The screen with words in a language, which is added if it is new; without words the language is that
    /// of the screen's own. Words that the screen has for the same text count no more.
    ///
    /// # Errors
    /// A name that is none or too many languages, and words for a view that is no text of this screen.
    pub fn with_translation(
        mut self,
        language: &str,
        right_to_left: bool,
        words: Option<Vec<(ViewId, String)>>,
    ) -> Result<Screen, BuildError> {
        let added = self.add_language(language, right_to_left, words.is_none());
        let index = added.map_err(|message| BuildError::Language { message })?;
        for (view, words) in words.into_iter().flatten() {
            self.set_words(index, view, words)?;
        }
        Ok(self)
    }

    /// Whether it is another screen with other words in it, in its own language or another, and no more.
    pub(crate) fn has_other_words_only(&self, other: &Screen) -> bool {
        let words_only = |(a, b): (&View, &View)| {
            let same_words = |view: &View| {
                let text = view.text.as_ref().map(|text| Text { words: String::new(), ..text.clone() });
                View { text, ..view.clone() }
            };
            a.text.is_some() && b.text.is_some() && same_words(a) == same_words(b)
        };
        self.tag.is(other.tag)
            && Arc::ptr_eq(&self.names, &other.names)
            && Arc::ptr_eq(&self.changes, &other.changes)
            && self.rules.differing(&other.rules).is_some_and(|mut differing| differing.next().is_none())
            && self.views.differing(&other.views).is_some_and(|mut differing| differing.all(words_only))
            && (&self.ladder, &self.levels, &self.values) == (&other.ladder, &other.levels, &other.values)
            && (&self.roots, &self.guides, &self.design) == (&other.roots, &other.guides, &other.design)
            && (&self.states, &self.bands) == (&other.states, &other.bands)
    }

    /// Gives a text its words in the screen's own language.
    pub(crate) fn set_own_words(&mut self, view: ViewId, words: String) -> Result<(), BuildError> {
        if !self.has_view(view) {
            return Err(BuildError::ForeignId { rule: "words".into() });
        }
        check_words(&self.path(view), &words)?;
        if self.at(view).text.is_none() {
            let (view, kind) = (self.path(view), "text");
            return Err(BuildError::NoSuchSetting { view, word: "words", kind });
        }
        if let Some(text) = &mut self.views[view.index()].text {
            (text.words, text.revision) = (words, Revision::fresh());
        }
        Ok(())
    }

    /// Gives a text its words in a language, by the language's position.
    pub(crate) fn set_words(
        &mut self,
        language: usize,
        view: ViewId,
        words: String,
    ) -> Result<(), BuildError> {
        if self.view(view).is_none_or(|v| v.text().is_none()) {
            return Err(BuildError::NoSuchSetting { view: self.path(view), word: "language", kind: "text" });
        }
        check_words(&self.path(view), &words)?;
        let Some(language) = Arc::make_mut(&mut self.languages).get_mut(language) else {
            return Err(BuildError::ForeignId { rule: "words".into() });
        };
        language.words.insert(view, words);
        language.revision = Revision::fresh();
        Ok(())
    }

    /// The screen with something more that is expected to come out on a display.
    ///
    /// # Errors
    /// Too many expectations, a view of another screen, a number that is not finite or out of range.
    pub fn with_expectation(mut self, expectation: Expectation) -> Result<Screen, BuildError> {
        self.add_expectation(expectation)?;
        Ok(self)
    }

    pub(crate) fn add_expectation(&mut self, expectation: Expectation) -> Result<(), BuildError> {
        if self.expectations.len() >= MAX_RULES {
            return Err(BuildError::Limit { what: "too many expectations", limit: MAX_RULES });
        }
        if expectation.views().any(|v| !self.has_view(v)) {
            return Err(BuildError::ForeignId { rule: "an expectation".into() });
        }
        check_value("an expectation", expectation.within)?;
        check_words("an expectation", &expectation.on)?;
        let is_valid = |n: f64| n.abs() <= MAX_NUMBER;
        if !expectation.numbers().all(is_valid) || expectation.within < 0.0 {
            return Err(BuildError::Number { rule: "an expectation".into() });
        }
        Arc::make_mut(&mut self.expectations).push(expectation);
        Ok(())
    }

    /// The screen with something more that was drawn.
    ///
    /// # Errors
    /// Too many drawings, a view of another screen, a frame that no view can have.
    pub fn with_drawing(mut self, drawing: DrawnFrames) -> Result<Screen, BuildError> {
        self.add_drawing(drawing)?;
        Ok(self)
    }

    pub(crate) fn add_drawing(&mut self, drawing: DrawnFrames) -> Result<(), BuildError> {
        if self.drawings.len() >= MAX_RULES {
            return Err(BuildError::Limit { what: "too many drawings", limit: MAX_RULES });
        }
        if !drawing.frames.iter().all(|(view, _)| self.has_view(*view)) {
            return Err(BuildError::ForeignId { rule: "a drawing".into() });
        }
        check_words("a drawing", &drawing.on)?;
        let is_usable = |(_, frame): &(ViewId, Frame)| {
            let Frame { left, top, width, height } = *frame;
            let mut numbers = [left, top, left + width, top + height].into_iter();
            numbers.all(|n| n.abs() <= MAX_NUMBER) && width >= 0.0 && height >= 0.0
        };
        if !drawing.frames.iter().all(is_usable) {
            return Err(BuildError::Number { rule: "a drawing".into() });
        }
        Arc::make_mut(&mut self.drawings).push(drawing);
        Ok(())
    }
}
