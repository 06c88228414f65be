//! Building a screen, in Rust or from a screen file. Everything is checked here and nowhere else.

use crate::limits::{MAX_LEVELS, MAX_NESTING, MAX_RULES, MAX_VIEWS};
use crate::model::arrangement::{Share, Space};
use crate::model::band::Change;
use crate::model::build_error::{BuildError, BuildErrors};
use crate::model::builder::names::Names;
use crate::model::builder::register::Register;
use crate::model::condition::Condition;
use crate::model::coordinate::Anchor;
use crate::model::design::Design;
use crate::model::expectation::Expectation;
use crate::model::guide::Guide;
use crate::model::id::{BandId, LevelId, RuleId, ScreenTag, ViewId, WEAKEST};
use crate::model::leftover::{Leftover, Leftovers};
use crate::model::rule::{Relation, Rule, RuleDraft, SNUG, WHOLE};
use crate::model::screen::Screen;
use crate::model::scroll::{Overflow, Scroll};
use crate::model::setting::Setting;
use crate::model::table::Table;
use crate::model::validate::{check_name, check_setting, check_words, indexed};
use crate::model::view::{Image, Paint, Text, View};
use std::sync::{Arc, OnceLock};

/// Builds a [`Screen`] step by step. What is refused is collected and returned by
/// [`ScreenBuilder::finish`], with the view and rule named.
#[derive(Clone, Debug)]
#[must_use = "it is no screen until it is finished"]
pub struct ScreenBuilder {
    pub(super) screen: Screen,
    /// Whether names are refused that a file keeps for itself.
    pub(super) for_file: bool,
    /// What it adds bears it.
    pub(super) tag: ScreenTag,
    /// Worked out when it is asked for.
    pub(super) register: OnceLock<Register>,
    /// The screen that it was opened with again.
    pub(super) reopened: Option<Screen>,
    /// How many ids of views and rules were given out before.
    pub(super) given: (usize, usize),
    pub(super) errors: Vec<BuildError>,
}

impl ScreenBuilder {
    /// An empty screen.
    pub fn new(name: impl Into<String>) -> Self {
        let name = name.into();
        let errors = check_name(&name, false).err().into_iter().collect();
        let screen = Screen {
            tag: ScreenTag::fresh(),
            name,
            ladder: Vec::new(),
            levels: vec![WHOLE.into(), SNUG.into()],
            values: Vec::new(),
            roots: Vec::new(),
            guides: Vec::new(),
            views: Table::default(),
            names: Default::default(),
            rules: Table::default(),
            design: None,
            languages: Arc::default(),
            expectations: Arc::default(),
            drawings: Arc::default(),
            states: Vec::new(),
            bands: Vec::new(),
            changes: Arc::default(),
            acceptances: Vec::new(),
            claims: Arc::default(),
            leftovers: Leftovers::default(),
        };
        let tag = screen.tag;
        Self {
            screen,
            for_file: false,
            tag,
            register: OnceLock::new(),
            reopened: None,
            given: (0, 0),
            errors,
        }
    }

    /// An empty screen that a file says: names that files keep for themselves are refused.
    pub fn for_file(name: impl Into<String>) -> Self {
        let mut build = Self { for_file: true, ..Self::new(name) };
        let reserved = check_name(&build.screen.name, true).err();
        build.errors = reserved.into_iter().collect();
        build
    }

    pub(super) fn check_name(&self, name: &str) -> Result<(), BuildError> {
        check_name(name, self.for_file)
    }

    /// The ladder of levels, strongest first. `whole` and `snug` may be among them to move them.
    /// Names in an array give an array of levels, those in a slice or a list a list.
    pub fn ladder<N: Names>(&mut self, names: N) -> N::Of<LevelId> {
        let result = self.set_ladder(names.texts());
        self.note(result);
        names.each(|name| self.screen.level(name).unwrap_or(LevelId::new(0, self.screen.tag)))
    }

    /// A view directly on the screen.
    pub fn view(&mut self, name: &str) -> ViewId {
        self.noted_view(name, None, Content::None)
    }

    /// A view within another.
    pub fn view_in(&mut self, parent: ViewId, name: &str) -> ViewId {
        self.noted_view(name, Some(parent), Content::None)
    }

    /// A text directly on the screen, in a font size in logical pixels.
    pub fn text(&mut self, name: &str, words: &str, font: f64) -> ViewId {
        self.noted_view(name, None, Content::Text(Text::new(words, font)))
    }

    /// A text within a view, in a font size in logical pixels.
    pub fn text_in(&mut self, parent: ViewId, name: &str, words: &str, font: f64) -> ViewId {
        self.noted_view(name, Some(parent), Content::Text(Text::new(words, font)))
    }

    /// An image directly on the screen, with its natural size in logical pixels.
    pub fn image(&mut self, name: &str, natural: (f64, f64)) -> ViewId {
        self.noted_view(name, None, Content::Image(Image { width: natural.0, height: natural.1 }))
    }

    /// An image within a view, with its natural size in logical pixels.
    pub fn image_in(&mut self, parent: ViewId, name: &str, natural: (f64, f64)) -> ViewId {
        self.noted_view(name, Some(parent), Content::Image(Image { width: natural.0, height: natural.1 }))
    }

    /// A guide directly on the screen: a box that is not painted, to be pinned to. Without rules of its
    /// own along an axis it reaches from edge to edge.
    pub fn guide(&mut self, name: &str, guide: impl Into<Guide>) -> ViewId {
        self.noted_guide(None, name, guide.into())
    }

    /// A guide within a view.
    pub fn guide_in(&mut self, parent: ViewId, name: &str, guide: impl Into<Guide>) -> ViewId {
        self.noted_guide(Some(parent), name, guide.into())
    }

    fn noted_guide(&mut self, parent: Option<ViewId>, name: &str, guide: Guide) -> ViewId {
        let before = self.errors.len();
        let view = self.noted_view(name, parent, Content::Guide);
        if self.errors.len() == before {
            self.set(view, Setting::Guide(Box::new(guide)));
        }
        view
    }

    /// Sets what is no rule about a view: the font of a text, how a view is turned, and so on.
    pub fn set(&mut self, view: ViewId, setting: Setting) -> &mut Self {
        let result = self.add_setting(None, view, setting);
        self.note(result)
    }

    /// The same in a band.
    pub fn set_when(&mut self, band: BandId, view: ViewId, setting: Setting) -> &mut Self {
        let result = self.add_setting(Some(band), view, setting);
        self.note(result)
    }

    /// An empty length among the children of a view, behind those that it has by now.
    pub fn space(&mut self, view: ViewId, space: Space) -> &mut Self {
        let behind = self.screen.view(view).map_or(0, |v| v.children.len());
        let result = self.add_space(view, behind, space);
        self.note(result)
    }

    /// Makes a view scroll what it holds, and gives the box of that: it is moved by how far the view is
    /// scrolled, and rules tie to it what is to move with it.
    ///
    /// ```
    /// use vantic_core::model::Scroll;
    /// use vantic_core::prelude::*;
    ///
    /// let mut build = ScreenBuilder::new("workshop");
    /// let all = [Side::Left, Side::Right, Side::Top, Side::Bottom].map(|side| (side, 0.0));
    /// let list = build.view("list");
    /// build.rule(list, list.pin(all, SCREEN));
    /// // What it scrolls is a box of its own, to pin to.
    /// let content = build.scroll(list, Scroll::Down);
    /// let row = build.view_in(list, "row");
    /// build.rule(row, row.pin(all, content));
    /// build.rule(row, row.height().equals(900.0));
    /// let plan = Plan::new(build.finish()?)?;
    /// let placement = plan.place(&Display::new(320.0, 480.0)?, &PlainText)?;
    /// assert_eq!(placement.frame(row).map(|f| f.height), Some(900.0));
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn scroll(&mut self, view: ViewId, scroll: Scroll) -> ViewId {
        match self.add_scroll(view, scroll) {
            Ok(content_box) => content_box,
            Err(error) => {
                self.errors.push(error);
                view
            }
        }
    }

    /// Adds a rule to a view's block.
    pub fn rule(&mut self, view: ViewId, rule: RuleDraft) -> &mut Self {
        let result = self.add_rule(Some(view), None, rule).map(drop);
        self.note(result)
    }

    /// Adds a rule to the block of the view that its left side is about; to that of the screen where that is no view.
    ///
    /// ```
    /// use vantic_core::prelude::*;
    ///
    /// let mut build = ScreenBuilder::new("workshop");
    /// let bench = build.view("bench");
    /// build.add(bench.pin([(Side::Left, 8), (Side::Top, 8)], SAFE)).add(bench.width().equals(SAFE.width() / 2));
    /// build.add(bench.height().equals(48));
    /// let plan = Plan::new(build.finish()?)?;
    /// let placement = plan.place(&Display::new(320, 480)?, &PlainText)?;
    /// assert_eq!(placement.frame(bench).map(|f| f.width), Some(160.0));
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn add(&mut self, rule: RuleDraft) -> &mut Self {
        let about = rule.relations.first().and_then(|relation| relation.left.terms().first());
        let owner = match about.map(|term| term.anchor) {
            Some(Anchor::View(view) | Anchor::Cells { guide: view, .. }) => Some(view),
            _ => None,
        };
        let result = self.add_rule(owner, None, rule).map(drop);
        self.note(result)
    }

    /// Adds several rules to a view's block.
    pub fn rules(&mut self, view: ViewId, rules: impl IntoIterator<Item = RuleDraft>) -> &mut Self {
        for rule in rules {
            self.rule(view, rule);
        }
        self
    }

    /// A named condition on the display.
    ///
    /// ```
    /// use vantic_core::model::{Order, Property};
    /// use vantic_core::prelude::*;
    ///
    /// let mut build = ScreenBuilder::new("workshop");
    /// let bench = build.view("bench");
    /// build.rule(bench, bench.pin([(Side::Left, 0.0), (Side::Right, 0.0), (Side::Top, 0.0)], SCREEN));
    /// build.rule(bench, bench.height().equals(56.0).labelled("tall"));
    /// let wide = build.band("wide", Condition::Compare(Property::ScreenWidth, Order::AtLeast, 700.0));
    /// // A rule with the label of another takes its place while the band holds.
    /// build.rule_when(wide, bench, bench.height().equals(72.0).labelled("tall"));
    /// let plan = Plan::new(build.finish()?)?;
    /// let placement = plan.place(&Display::new(800.0, 480.0)?, &PlainText)?;
    /// assert_eq!(placement.frame(bench).map(|f| f.height), Some(72.0));
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn band(&mut self, name: &str, condition: Condition) -> BandId {
        match self.add_band(name, condition) {
            Ok(band) => band,
            Err(error) => {
                self.errors.push(error);
                BandId::new(0, self.screen.tag)
            }
        }
    }

    /// In a band, adds a rule to a view; it replaces the view's earlier rule of the same label.
    pub fn rule_when(&mut self, band: BandId, view: ViewId, rule: RuleDraft) -> &mut Self {
        let result = self.add_rule(Some(view), Some(band), rule).map(drop);
        self.note(result)
    }

    /// In a band, drops a rule of a view by its label.
    pub fn drop_when(&mut self, band: BandId, view: ViewId, label: &str) -> &mut Self {
        let result = self.add_drop(band, Some(view), label);
        self.note(result)
    }

    /// In a band, removes a view and every rule in its block, or keeps its space and paints nothing.
    ///
    /// ```
    /// use vantic_core::model::{Order, Property};
    /// use vantic_core::prelude::*;
    ///
    /// let mut build = ScreenBuilder::new("workshop");
    /// let all = [Side::Left, Side::Right, Side::Top, Side::Bottom].map(|side| (side, 0.0));
    /// let (bench, shelf) = (build.view("bench"), build.view("shelf"));
    /// for view in [bench, shelf] {
    ///     build.rule(view, view.pin(all, SCREEN));
    /// }
    /// let narrow = build.band("narrow", Condition::Compare(Property::ScreenWidth, Order::Below, 400.0));
    /// build.hide_when(narrow, shelf, false);
    /// let plan = Plan::new(build.finish()?)?;
    /// let placement = plan.place(&Display::new(320.0, 480.0)?, &PlainText)?;
    /// assert!(placement.frame(bench).is_some());
    /// assert_eq!(placement.frame(shelf), None);
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn hide_when(&mut self, band: BandId, view: ViewId, keep_space: bool) -> &mut Self {
        let result = self.add_hide(band, view, keep_space, None);
        self.note(result)
    }

    /// In a band, shows another view instead of one: rules that read the one read the other there. The other
    /// is there only where it is shown like this.
    pub fn replace_when(&mut self, band: BandId, view: ViewId, instead: ViewId) -> &mut Self {
        let result = self.add_hide(band, view, false, Some(instead));
        self.note(result)
    }

    /// In a band, shows a view that an earlier one hides, or that is there only elsewhere.
    pub fn show_when(&mut self, band: BandId, view: ViewId) -> &mut Self {
        self.add_change(band, Change::Show(view));
        self
    }

    /// Alternatives of the screen, of which one is shown at a time, the first where a display names none.
    /// Each is a band that holds while it is shown.
    ///
    /// ```
    /// use vantic_core::prelude::*;
    ///
    /// let mut build = ScreenBuilder::new("workshop");
    /// let menu = build.view("menu");
    /// build.rule(menu, menu.pin([(Side::Left, 0.0), (Side::Right, 0.0), (Side::Top, 0.0)], SCREEN));
    /// build.rule(menu, menu.height().equals(0.0).labelled("tall"));
    /// // The first is shown where nothing else is said.
    /// let [_closed, open] = build.state("menu_is", ["closed", "open"]);
    /// build.rule_when(open, menu, menu.height().equals(200.0).labelled("tall"));
    /// let plan = Plan::new(build.finish()?)?;
    /// let placement = plan.place(&Display::new(320.0, 480.0)?, &PlainText)?;
    /// assert_eq!(placement.frame(menu).map(|f| f.height), Some(0.0));
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    ///
    /// Alternatives in an array give an array of bands, those in a slice or a list a list.
    pub fn state<N: Names>(&mut self, name: &str, alternatives: N) -> N::Of<BandId> {
        let texts = alternatives.texts();
        let names: Vec<&str> = texts.iter().map(String::as_str).collect();
        let first = self.add_state(name, &names);
        let tag = self.screen.tag;
        let mut at = first.as_ref().map_or(0, |first| first.index());
        let step = usize::from(first.is_ok());
        self.note(first.map(drop));
        alternatives.each(|_| {
            at += step;
            BandId::new(at - step, tag)
        })
    }

    /// The condition of a band or of an alternative of a state, to be combined with others: `open & !narrow`.
    /// [`Condition::Everywhere`] for an id of another screen.
    pub fn condition(&self, band: BandId) -> Condition {
        let band = self.screen.bands.get(band.index()).filter(|_| self.screen.has_band(band));
        band.map_or(Condition::Everywhere, |band| band.condition.clone())
    }

    /// The words of texts in a language, for displays that are read in it.
    pub fn language<'a>(
        &mut self,
        name: &str,
        right_to_left: bool,
        words: impl IntoIterator<Item = (ViewId, &'a str)>,
    ) -> &mut Self {
        match self.add_language(name, right_to_left, false) {
            Ok(language) => {
                for (view, words) in words {
                    let result = self.add_words(language, view, words.to_owned());
                    self.note(result);
                }
            }
            Err(error) => self.errors.push(error),
        }
        self
    }

    /// The size that the screen is drawn for; it is scaled to others, and all numbers are in the units of
    /// this one.
    pub fn design(&mut self, design: Design) -> &mut Self {
        let result = self.set_design(design);
        self.note(result)
    }

    /// What is expected to come out on a display, as a test of the screen.
    pub fn expect(&mut self, expectation: Expectation) -> &mut Self {
        let result = self.add_expectation(expectation);
        self.note(result)
    }

    /// Accepts a finding on purpose, by its code and the views or rules it names.
    pub fn accept(&mut self, code: &str, names: &[&str], reason: &str) -> &mut Self {
        let result = self.add_acceptance(code, names.iter().map(|&n| n.to_owned()).collect(), reason.into());
        self.note(result)
    }

    /// The finished screen.
    ///
    /// # Errors
    /// Everything that was refused on the way.
    pub fn finish(mut self) -> Result<Screen, BuildErrors> {
        // Nothing reads words.
        if self.errors.is_empty()
            && self.reopened.as_ref().is_some_and(|before| self.screen.has_other_words_only(before))
        {
            return Ok(self.screen);
        }
        for (id, rule) in self.screen.rules() {
            for term in rule.relations.iter().flat_map(Relation::terms) {
                let (view, side) = match term.anchor {
                    Anchor::Prev(v) if self.screen.siblings(v).first() == Some(&v) => (v, "before"),
                    Anchor::Next(v) if self.screen.siblings(v).last() == Some(&v) => (v, "after"),
                    _ => continue,
                };
                let (rule, view) = (self.screen.rule_name(id), self.screen.path(view));
                self.errors.push(BuildError::NoSibling { rule, view, side });
            }
        }
        self.errors.extend(self.reads_removed());
        if self.errors.is_empty() { Ok(self.screen) } else { Err(BuildErrors(self.errors)) }
    }

    pub(super) fn register(&self) -> &Register {
        self.register.get_or_init(|| Register::of(&self.screen))
    }

    pub(super) fn register_mut(&mut self) -> &mut Register {
        self.register();
        let Some(register) = self.register.get_mut() else { unreachable!("it has just been worked out") };
        register
    }

    pub(super) fn note(&mut self, result: Result<(), BuildError>) -> &mut Self {
        self.errors.extend(result.err());
        self
    }

    fn noted_view(&mut self, name: &str, parent: Option<ViewId>, content: Content) -> ViewId {
        match self.add_view(name, parent, content) {
            Ok(view) => view,
            Err(error) => {
                // The screen will not be finished; any view does for the calls that follow.
                self.errors.push(error);
                ViewId::new(self.screen.views.len().saturating_sub(1), self.tag)
            }
        }
    }

    /// The screen so far.
    pub fn screen(&self) -> &Screen {
        &self.screen
    }

    /// The screen as it is, whatever was refused.
    pub fn into_screen(self) -> Screen {
        self.screen
    }

    /// The ladder of levels, strongest first, from names that are not known at compile time.
    ///
    /// # Errors
    /// A second ladder, a name that is none, a name given twice, too many levels.
    pub fn set_ladder(&mut self, names: Vec<String>) -> Result<(), BuildError> {
        if !self.screen.ladder.is_empty() {
            return Err(BuildError::SecondLadder);
        }
        if names.len() > MAX_LEVELS {
            return Err(BuildError::Limit { what: "too many levels", limit: MAX_LEVELS });
        }
        for (i, name) in names.iter().enumerate() {
            if name != WHOLE && name != SNUG {
                self.check_name(name)?;
            }
            if names[..i].contains(name) {
                return Err(BuildError::Taken {
                    what: "level",
                    name: name.clone(),
                    place: "the ladder".into(),
                });
            }
        }
        let mut levels = Vec::new();
        let named = |l: &str| names.iter().any(|n| n == l);
        levels.extend((!named(WHOLE)).then(|| WHOLE.to_owned()));
        levels.extend(names.iter().cloned());
        levels.extend((!named(SNUG)).then(|| SNUG.to_owned()));
        (self.screen.ladder, self.screen.levels) = (names, levels);
        Ok(())
    }

    /// A view in another or directly on the screen, with its content.
    ///
    /// # Errors
    /// A name that is none or taken, a parent of another screen, too many views or too deep a nesting.
    pub fn add_view(
        &mut self,
        name: &str,
        parent: Option<ViewId>,
        content: Content,
    ) -> Result<ViewId, BuildError> {
        let is_content_box = matches!(content, Content::ContentBox);
        if !is_content_box {
            self.check_name(indexed(name).map_or(name, |(name, _)| name))?;
        }
        if parent.is_some_and(|p| !self.screen.has_view(p)) {
            return Err(BuildError::ForeignId { rule: name.to_owned() });
        }
        self.pass_over_given();
        if self.screen.views.len() >= MAX_VIEWS {
            return Err(BuildError::Limit { what: "too many views", limit: MAX_VIEWS });
        }
        if self.depth(parent) >= MAX_NESTING {
            return Err(BuildError::Limit { what: "views are nested too deep", limit: MAX_NESTING });
        }
        if self.screen.named(parent, name).is_some() {
            let place =
                parent.map_or_else(|| "the screen".to_owned(), |p| format!("`{}`", self.screen.path(p)));
            return Err(BuildError::Taken { what: "view", name: name.to_owned(), place });
        }
        if let Some(guide) = parent.filter(|&p| self.screen.at(p).guide.is_some()) {
            return Err(BuildError::InGuide { guide: self.screen.path(guide), view: name.to_owned() });
        }
        let is_guide = is_content_box || matches!(content, Content::Guide);
        let (text, image) = match content {
            Content::None | Content::Guide | Content::ContentBox => (None, None),
            Content::Text(text) => (Some(text), None),
            Content::Image(image) => (None, Some(image)),
        };
        if let Some(text) = &text {
            check_words(name, &text.words)?;
            check_setting(name, &Setting::Font(text.font))?;
        }
        if let Some(image) = &image {
            check_setting(name, &Setting::Natural(image.width, image.height))?;
        }
        let view = ViewId::new(self.screen.views.len(), self.tag);
        let sibling_index = parent.map_or(&self.screen.roots, |p| &self.screen.at(p).children).len();
        self.screen.views.push(View {
            tag: self.tag,
            name: name.to_owned(),
            parent,
            children: Vec::new(),
            sibling_index,
            text,
            image,
            paint: Paint::default(),
            depth: 0.0,
            whole: None,
            snug: None,
            arrangement: None,
            spaces: Vec::new(),
            item: None,
            guides: Vec::new(),
            guide: is_guide.then(Box::default),
            scroll: None,
            content_box: None,
            overflow: Overflow::default(),
            stick: Vec::new(),
            only_in_bands: Vec::new(),
            control: None,
            floats: false,
            input: false,
            is_removed: false,
        });
        Arc::make_mut(&mut self.screen.names).insert((parent, name.to_owned()), view);
        self.siblings_mut(view).push(view);
        Ok(view)
    }

    fn depth(&self, mut at: Option<ViewId>) -> usize {
        let mut depth = 0;
        while let Some(view) = at {
            depth += 1;
            at = self.screen.at(view).parent;
        }
        depth
    }

    /// The view or guide of a name directly in a view, or on the screen.
    pub fn child(&self, parent: Option<ViewId>, name: &str) -> Option<ViewId> {
        self.screen.named(parent, name)
    }

    /// The rule with a label in a view's own block.
    pub fn labelled(&self, owner: Option<ViewId>, label: &str) -> Option<RuleId> {
        self.register().labels.get(&(owner, None, label.to_owned())).copied()
    }

    /// Notes what the file of the screen says and nothing uses, for checks to tell.
    pub fn add_leftover(&mut self, leftover: Leftover) {
        self.screen.leftovers.0.push(leftover);
    }

    /// Says of the acceptance added last that it comes from a base.
    pub fn inherited_acceptance(&mut self) {
        if let Some(last) = self.screen.acceptances.last_mut() {
            last.is_inherited = true;
        }
    }

    /// Other words for a text.
    ///
    /// # Errors
    /// An id of another screen, a view that is no text, words with a zero character.
    pub fn set_words(&mut self, view: ViewId, words: String) -> Result<(), BuildError> {
        self.screen.set_own_words(view, words)
    }

    /// Sets what is no rule about a view, always or in a band.
    pub fn add_setting(
        &mut self,
        band: Option<BandId>,
        view: ViewId,
        setting: Setting,
    ) -> Result<(), BuildError> {
        let Some(of) = self.screen.view(view) else {
            return Err(BuildError::ForeignId { rule: setting.word().into() });
        };
        let path = self.screen.path(view);
        check_setting(&path, &setting)?;
        match &setting {
            Setting::Whole(Some(level), _) | Setting::Snug(Some(level), _)
                if !self.screen.has_level(*level) =>
            {
                return Err(BuildError::ForeignId { rule: path });
            }
            Setting::Arrange(arrangement) => {
                self.check_lengths(&path, setting.word(), arrangement.exprs())?;
            }
            Setting::Share(share) => self.check_lengths(&path, setting.word(), share.exprs())?,
            Setting::Guide(guide) => self.check_guide(&path, guide, of)?,
            Setting::OnlyIn(bands) if bands.iter().any(|b| !self.screen.has_band(*b)) => {
                return Err(BuildError::ForeignId { rule: path });
            }
            Setting::OnlyIn(_) if band.is_some() => return Err(BuildError::OnlyInBand { view: path }),
            _ => {}
        }
        let mut set = of.clone();
        if !setting.clone().apply(&mut set) {
            let kind = match setting {
                Setting::Natural(..) => "image",
                Setting::Whole(..) | Setting::Snug(..) => "text, image, row, column or grid",
                Setting::Arrange(..) | Setting::Overflow(_) => "plain view",
                Setting::Scroll(_) => "view that scrolls",
                Setting::Guide(..) => "guide",
                _ if of.guide.is_some() => "view",
                _ => "text",
            };
            return Err(BuildError::NoSuchSetting { view: path, word: setting.word(), kind });
        }
        match band {
            None => self.screen.views[view.index()] = set,
            Some(band) => self.add_change(band, Change::Set { view, setting }),
        }
        Ok(())
    }

    /// Gives a view the box of what it scrolls, if it has none.
    pub fn add_content_box(&mut self, view: ViewId) -> Result<ViewId, BuildError> {
        if let Some(content_box) = self.screen.view(view).and_then(|v| v.content_box) {
            return Ok(content_box);
        }
        let plain = |v: &&View| !v.has_content() && v.guide.is_none();
        if self.screen.view(view).filter(plain).is_none() {
            let path = self.screen.path(view);
            return Err(BuildError::NoSuchSetting { view: path, word: "scroll", kind: "plain view" });
        }
        let content_box = self.add_view(CONTENT_BOX, Some(view), Content::ContentBox)?;
        self.screen.views[content_box.index()].guide = Some(Box::new(Guide::ContentBox));
        self.screen.views[view.index()].content_box = Some(content_box);
        Ok(content_box)
    }

    fn add_scroll(&mut self, view: ViewId, scroll: Scroll) -> Result<ViewId, BuildError> {
        let content_box = self.add_content_box(view)?;
        self.add_setting(None, view, Setting::Scroll(scroll))?;
        Ok(content_box)
    }

    /// An empty length among the children of a view, after the first `behind` of them.
    ///
    /// # Errors
    /// A view of another screen, a length that is none.
    pub fn add_space(&mut self, view: ViewId, behind: usize, space: Space) -> Result<(), BuildError> {
        let Some(of) = self.screen.view(view) else {
            return Err(BuildError::ForeignId { rule: "space".into() });
        };
        let path = self.screen.path(view);
        match &space {
            Space::Fixed(length) => self.check_lengths(&path, "space", std::iter::once(length))?,
            Space::Flexible(weight) => check_setting(&path, &Setting::Share(Box::new(Share::of(*weight))))?,
        }
        if of.spaces.len() >= MAX_VIEWS {
            return Err(BuildError::Limit { what: "too many spaces in one view", limit: MAX_VIEWS });
        }
        self.screen.views[view.index()].spaces.push((behind, space));
        Ok(())
    }

    /// Adds a rule to the block of a view or of the screen, always or in a band.
    ///
    /// # Errors
    /// Ids of another screen, numbers out of range, a label that is none or taken, too many rules.
    pub fn add_rule(
        &mut self,
        owner: Option<ViewId>,
        band: Option<BandId>,
        mut draft: RuleDraft,
    ) -> Result<RuleId, BuildError> {
        self.pass_over_given();
        if self.screen.rules.len() >= MAX_RULES {
            return Err(BuildError::Limit { what: "too many rules", limit: MAX_RULES });
        }
        if draft.relations.is_empty() {
            return Err(BuildError::RelatesNothing { rule: draft.label.unwrap_or_else(|| "a rule".into()) });
        }
        let number = self.register_mut().numbers.entry((owner, band)).or_insert(0);
        *number += 1;
        let number = *number;
        let id = RuleId::new(self.screen.rules.len(), self.tag);
        for relation in draft.relations.iter_mut().filter(|r| r.level == Some(WEAKEST)) {
            relation.level = Some(LevelId::new(self.screen.levels.len() - 1, self.screen.tag));
        }
        let tag = self.tag;
        let rule = Rule { tag, owner, band, label: draft.label, number, relations: draft.relations };
        let known =
            owner.is_none_or(|o| self.screen.has_view(o)) && band.is_none_or(|b| self.screen.has_band(b));
        if !known {
            return Err(BuildError::ForeignId { rule: rule.label.unwrap_or_else(|| "a rule".into()) });
        }
        let label = rule.label.clone();
        self.screen.rules.push(rule);
        let checked = self.check_rule(id);
        if let Err(error) = checked {
            self.screen.rules.pop();
            return Err(error);
        }
        if let Some(label) = label {
            self.register_mut().labels.insert((owner, band, label), id);
        }
        if let Some(band) = band {
            self.add_change(band, Change::Add(id));
        }
        Ok(id)
    }

    pub(crate) fn add_drop(
        &mut self,
        band: BandId,
        owner: Option<ViewId>,
        label: &str,
    ) -> Result<(), BuildError> {
        let Some(rule) = self.labelled(owner, label) else {
            let owner = owner.map_or_else(|| "screen".into(), |o| self.screen.path(o));
            return Err(BuildError::NothingToDrop { rule: format!("{owner}.{label}") });
        };
        self.add_change(band, Change::Drop(rule));
        Ok(())
    }

    /// In a band, removes a view or keeps its space; `instead` is shown and read in its place.
    ///
    /// # Errors
    /// The box of what a view scrolls, a view in place of one that holds it.
    pub fn add_hide(
        &mut self,
        band: BandId,
        view: ViewId,
        keep_space: bool,
        instead: Option<ViewId>,
    ) -> Result<(), BuildError> {
        let of = self.screen.view(view);
        if let Some(scroller) = of.filter(|v| v.guide() == Some(&Guide::ContentBox)).and_then(|v| v.parent) {
            return Err(BuildError::HidesContent { view: self.screen.path(scroller) });
        }
        let known = |v: &ViewId| self.screen.has_view(*v);
        if let Some(instead) = instead.filter(|v| known(v) && known(&view))
            && (self.screen.is_within(instead, view) || self.screen.is_within(view, instead))
        {
            let (view, instead) = (self.screen.path(view), self.screen.path(instead));
            return Err(BuildError::InsteadWithin { view, instead });
        }
        self.add_change(band, Change::Hide { view, keep_space, instead });
        Ok(())
    }

    /// Adds what a band does. Ids of another screen are reported by [`ScreenBuilder::finish`].
    pub fn add_change(&mut self, band: BandId, change: Change) {
        let known = |v: ViewId| self.screen.has_view(v);
        let views_known = match change {
            Change::Hide { view, instead, .. } => known(view) && instead.is_none_or(known),
            Change::Set { view, .. } | Change::Show(view) => known(view),
            Change::Add(rule) | Change::Drop(rule) => self.screen.has_rule(rule),
            Change::Value { value, .. } => self.screen.has_value(value),
        };
        if views_known && self.screen.has_band(band) {
            Arc::make_mut(&mut self.screen.changes).push((band, change));
        } else {
            self.errors.push(BuildError::ForeignId { rule: "a change in a band".into() });
        }
    }
}

/// What the box of what a view scrolls is called.
pub const CONTENT_BOX: &str = "content";

/// What a new view holds.
pub enum Content {
    /// Nothing of its own.
    None,
    /// Words.
    Text(Text),
    /// A picture.
    Image(Image),
    /// It is a guide.
    Guide,
    /// What a view scrolls.
    ContentBox,
}
