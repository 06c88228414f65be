//! A plan kept solved from one display to the next.

use crate::display::display::Display;
use crate::geometry::direction::Direction;
use crate::model::build_error::BuildErrors;
use crate::model::builder::builder::ScreenBuilder;
use crate::model::coordinate::Coordinate;
use crate::model::id::{RuleId, ViewId};
use crate::model::screen::Screen;
use crate::plan::canvas::Canvas;
use crate::plan::compile::planned::{MAX_REMEMBERED, Planned};
use crate::plan::error::{PlaceError, PlanError};
use crate::plan::examine::{Examination, Examined};
use crate::plan::explain::{Asked, Why};
use crate::plan::live_frames::{LiveFrames, ShownOn};
use crate::plan::place::choosing::{Snapshot, WarmStart};
use crate::plan::place::placement::Placement;
use crate::plan::plan::{Plan, VariantKey};
use crate::plan::variant::Visibility;
use crate::text::measure::Measure;
use std::collections::BTreeMap;
use std::sync::Arc;
use vantic_solver::work;

impl Plan {
    /// Keeps what was solved, for displays that differ a little from one to the next.
    pub fn live(&self) -> Live {
        Live::new(self.clone())
    }

    /// What is solved once the screen is placed on a display, for screens that differ a little.
    ///
    /// # Errors
    /// As for [`Plan::place`].
    pub fn solved(&self, display: &Display, measure: &dyn Measure) -> Result<Snapshot, PlaceError> {
        let mut live = self.live();
        live.place(display, measure)?;
        Ok(live.into_solved())
    }

    /// Places the screen on a display, and says what is open or contradictory there.
    ///
    /// ```
    /// use vantic_core::prelude::*;
    ///
    /// let mut build = ScreenBuilder::new("workshop");
    /// let bench = build.view("bench");
    /// build.rule(bench, bench.pin([(Side::Left, 16.0), (Side::Top, 16.0)], SCREEN));
    /// build.rule(bench, bench.width().equals(100.0));
    /// let plan = Plan::new(build.finish()?)?;
    /// let placement = plan.place(&Display::new(320.0, 480.0)?, &PlainText)?;
    /// assert!(placement.broken.is_empty());
    /// // Nothing says how high it is.
    /// let examined = plan.examine(&Display::new(320.0, 480.0)?, &PlainText)?;
    /// assert_eq!(examined.free.len(), 1);
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    ///
    /// # Errors
    /// As for [`Plan::place`].
    pub fn examine(&self, display: &Display, measure: &dyn Measure) -> Result<Examination, PlaceError> {
        let examined = self.live().examine_if(display, measure, &[], &|_| true)?;
        let Some((examination, _)) = examined else { unreachable!("every placement is worth it") };
        Ok(examination)
    }
}

/// A plan kept solved: each display is placed from what was solved before, so that a resize, or a screen that
/// is scrolled, costs little. It agrees with [`Plan::place`] within 1e-6 (and in proportion where lengths are
/// beyond 10,000). Of `max`, `min` and `clamp`, what was chosen is kept solved, too, and gone back to when it is
/// the best choice again: for as many choices as there are times the rules go into 40,000, and 64 at most.
///
/// It owns what it needs: it can be kept in a struct, and sent to another thread.
#[derive(Debug)]
pub struct Live {
    plan: Plan,
    warm: BTreeMap<VariantKey, WarmStart>,
    effort: f64,
    budget: Option<u64>,
    /// The kind of the last display.
    key: VariantKey,
    /// The frames that were given out last: lists that are used again once nobody holds them.
    shown: Vec<Arc<ShownOn>>,
    /// How many views and rules the screen has had at most, so that no id means two things.
    most: (usize, usize),
}

/// Why a screen was not changed. Nothing has become of it then.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
#[non_exhaustive]
pub enum EditError {
    /// What a builder refuses.
    #[error(transparent)]
    Build(#[from] BuildErrors),
    /// A screen that cannot be placed.
    #[error(transparent)]
    Plan(#[from] PlanError),
    /// A plan of another screen.
    #[error("the plan is not of this screen; go over to one that `edit` gave back")]
    OtherScreen,
}

/// What was solved of a screen like the one that is placed, on a display.
pub type WarmStartSource<'a> = dyn Fn(&Display) -> Option<Arc<Snapshot>> + Sync + 'a;

impl Live {
    fn new(plan: Plan) -> Self {
        let key = (Vec::new(), Direction::default());
        let most = plan.counts();
        Self { plan, warm: BTreeMap::new(), effort: 1.0, budget: None, key, shown: Vec::new(), most }
    }

    /// What is solved of the one display that was placed.
    fn into_solved(self) -> Snapshot {
        self.warm.into_values().next().unwrap_or_default().into_solved()
    }

    /// The screen.
    pub fn screen(&self) -> &Screen {
        &self.plan.screen
    }

    /// The plan, which may be placed otherwise meanwhile.
    pub fn plan(&self) -> &Plan {
        &self.plan
    }

    /// Changes the screen: words, numbers, settings, rules and views are changed, added and removed as a builder does
    /// it. All of it is done, or nothing; ids stay what they are, and those of what is removed are refused from then
    /// on. The next placement begins from what is solved. It gives back what `change` does, such as the id of a new
    /// view, and the plan before the change: [`Live::go_over_to`] undoes it.
    ///
    /// ```
    /// use vantic_core::model::{Arrangement, Setting};
    /// use vantic_core::prelude::*;
    ///
    /// let mut build = ScreenBuilder::new("workshop");
    /// let tools = build.view("tools");
    /// build.rule(tools, tools.pin([(Side::Left, 8.0), (Side::Top, 8.0), (Side::Right, 8.0)], SCREEN));
    /// build.set(tools, Setting::Arrange(Arrangement::column().gap(4).into()));
    /// let saw = build.view_in(tools, "saw");
    /// build.rule(saw, saw.height().equals(30.0));
    /// let mut live = Plan::new(build.finish()?)?.live();
    /// let on = Display::new(320.0, 480.0)?;
    /// let (file, before) = live.edit(|build| {
    ///     let file = build.view_in(tools, "file");
    ///     build.rule(file, file.height().equals(20.0));
    ///     file
    /// })?;
    /// let frames = live.frames(&on, &PlainText)?;
    /// assert_eq!(frames.frame(file).map(|f| f.top), Some(42.0));
    /// // Undone.
    /// live.go_over_to(before)?;
    /// assert_eq!(live.frames(&on, &PlainText)?.frame(file), None);
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    ///
    /// # Errors
    /// What a builder refuses, a rule that reads what is removed, a screen that cannot be placed. The screen is as
    /// it was.
    pub fn edit<T>(&mut self, change: impl FnOnce(&mut ScreenBuilder) -> T) -> Result<(T, Plan), EditError> {
        let mut build = ScreenBuilder::reopen_beyond(Screen::clone(&self.plan.screen), self.most);
        let made = change(&mut build);
        let screen = build.finish()?;
        let plan = match screen.has_other_words_only(&self.plan.screen) {
            true => Plan { screen: Arc::new(screen), variants: self.plan.variants.clone() },
            false => Plan::new(screen)?,
        };
        Ok((made, self.go_over_to(plan)?))
    }

    /// Gives a text other words: [`Live::edit`] for words alone, with nothing to go back to.
    ///
    /// # Errors
    /// An id of another screen, a view that is no text, words with a zero character.
    pub fn set_words(&mut self, text: ViewId, words: &str) -> Result<(), EditError> {
        let screen = Arc::make_mut(&mut self.plan.screen);
        screen
            .set_own_words(text, words.to_owned())
            .map_err(|error| EditError::Build(BuildErrors(vec![error])))
    }

    /// Goes over to another plan of the same screen, as [`Live::edit`] gives it back; the plan until now is given
    /// back. The next placement begins from what is solved.
    ///
    /// # Errors
    /// A plan of another screen.
    pub fn go_over_to(&mut self, plan: Plan) -> Result<Plan, EditError> {
        if !plan.screen.tag.is(self.plan.screen.tag) {
            return Err(EditError::OtherScreen);
        }
        let counts = plan.counts();
        self.most = (self.most.0.max(counts.0), self.most.1.max(counts.1));
        if Arc::ptr_eq(&plan.variants, &self.plan.variants) {
            // It differs in words only.
            return Ok(std::mem::replace(&mut self.plan, plan));
        }
        let kept =
            std::mem::take(&mut self.warm).into_iter().filter(|(key, _)| plan.variants.contains_key(key));
        self.warm =
            kept.map(|(key, warm)| (key, WarmStart::from_alike(Arc::new(warm.into_solved())))).collect();
        Ok(std::mem::replace(&mut self.plan, plan))
    }

    /// On a display of a kind that was not met yet: to begin from what was solved of a screen like this one.
    pub fn begin_from(&mut self, display: &Display, alike: &WarmStartSource<'_>) {
        self.plan.key_of(&Canvas::new(&self.plan.screen, display), &mut self.key);
        if !self.warm.contains_key(&self.key)
            && self.plan.variants.contains_key(&self.key)
            && let Some(alike) = alike(display)
        {
            self.warm.insert(self.key.clone(), WarmStart::from_alike(alike));
        }
    }

    /// Allows a placement more work than the usual, [`PLACE_WORK`](crate::limits::PLACE_WORK): so many times as much; less than 1 counts as 1.
    #[must_use]
    pub fn with_effort(self, effort: f64) -> Self {
        Self { effort: effort.max(1.0), ..self }
    }

    /// Allows a placement so many units of work and no more, of about 100 nanoseconds each: what does not suffice gives
    /// the best frames so far, marked ([`LiveFrames::hit_work_limit`]), and the next display begins from nothing.
    #[must_use]
    pub fn with_budget(self, units: u64) -> Self {
        Self { budget: Some(units), ..self }
    }

    /// Places the screen and says what is open or contradictory, and whether some relations decide nothing
    /// there. Nothing is said where the placement is not worth it.
    pub fn examine_if(
        &mut self,
        display: &Display,
        measure: &dyn Measure,
        relations: &[(RuleId, usize)],
        is_worth_it: &dyn Fn(&Placement) -> bool,
    ) -> Result<Option<Examined>, PlaceError> {
        self.with_warm(display, |screen, planned, canvas, warm| {
            crate::plan::examine::examine(screen, planned, canvas, measure, warm, relations, is_worth_it)
        })
    }

    /// Why some coordinates are what they are on a display; those of views that are not there are left out, and of very
    /// many those for which there is no work left.
    pub fn whys(
        &mut self,
        display: &Display,
        measure: &dyn Measure,
        about: &[(ViewId, Coordinate)],
    ) -> Result<Vec<Why>, PlaceError> {
        self.with_warm(display, |screen, planned, canvas, warm| {
            crate::plan::place::choosing::solve_to_fixpoint(
                screen,
                planned,
                canvas,
                measure,
                warm,
                |settled, compiled| Asked { screen, compiled }.whys(settled, about),
            )
        })
    }

    /// Whether a view arranges all its children on a display, and none of them sticks: whatever it scrolls,
    /// they go with.
    pub fn takes_all_along(&mut self, display: &Display, view: ViewId) -> bool {
        let all = self.with_warm(display, |screen, planned, _, _| {
            let variant = &planned.variant;
            let goes = |&child: &ViewId| {
                variant.visible[child.index()] == Visibility::Gone
                    || crate::plan::variant::takes_part(screen, variant, child)
                        && variant.view(screen, child).stick.is_empty()
            };
            let arranges = variant.view(screen, view).arrangement.is_some();
            Ok(arranges && screen.at(view).children().iter().all(goes))
        });
        all.unwrap_or(false)
    }

    /// Places the screen on a display.
    ///
    /// # Errors
    /// As for [`Plan::place`].
    pub fn place(&mut self, display: &Display, measure: &dyn Measure) -> Result<Placement, PlaceError> {
        self.with_warm(display, |screen, planned, canvas, warm| {
            crate::plan::place::choosing::place(screen, planned, canvas, measure, warm)
        })
    }

    /// Where each view is on a display, in the order of the views; `None` for one that is not there. It is
    /// what [`Live::place`] gives, without all else that a placement tells, and for a window that is dragged:
    /// while the same bands hold, the same is chosen of `max` and `min`, and there are no wrapping rows and the like,
    /// nothing is allocated but by the text engine.
    ///
    /// ```
    /// use vantic_core::prelude::*;
    ///
    /// let mut build = ScreenBuilder::new("workshop");
    /// let bench = build.view("bench");
    /// let all = [Side::Left, Side::Right, Side::Top, Side::Bottom].map(|side| (side, 16.0));
    /// build.rule(bench, bench.pin(all, SCREEN));
    /// let plan = Plan::new(build.finish()?)?;
    /// let placement = plan.place(&Display::new(320.0, 480.0)?, &PlainText)?;
    /// assert_eq!(placement.frame(bench).map(|f| f.width), Some(288.0));
    /// let mut live = plan.live();
    /// for width in [320.0, 321.0, 322.5] {
    ///     let frames = live.frames(&Display::new(width, 480.0)?, &PlainText)?;
    ///     assert_eq!(frames.frame(bench).map(|f| f.width), Some(width - 32.0));
    /// }
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    ///
    /// # Errors
    /// As for [`Plan::place`].
    pub fn frames(&mut self, display: &Display, measure: &dyn Measure) -> Result<LiveFrames, PlaceError> {
        let free = self.shown.iter().position(|shown| Arc::strong_count(shown) == 1);
        let mut shown = free.map(|at| self.shown.swap_remove(at)).unwrap_or_default();
        let Some(list) = Arc::get_mut(&mut shown) else { unreachable!("nobody else holds it") };
        let done = self.with_warm(display, |screen, planned, canvas, warm| {
            list.text_scale = display.text_scale();
            crate::plan::place::choosing::frames(screen, planned, canvas, measure, warm, &mut list.shown)
        });
        list.fits.take();
        list.key.0.clone_from(&self.key.0);
        list.key.1 = self.key.1;
        if self.shown.len() < MAX_LISTS {
            self.shown.push(shown.clone());
        }
        done.map(|()| LiveFrames { plan: self.plan.clone(), of: shown })
    }

    pub(super) fn with_warm<T>(
        &mut self,
        display: &Display,
        run: impl FnOnce(&Screen, &Planned, &Canvas<'_>, &mut WarmStart) -> Result<T, PlaceError>,
    ) -> Result<T, PlaceError> {
        let Self { plan, warm, key, .. } = self;
        plan.check_parameters(display)?;
        let canvas = Canvas::new(&plan.screen, display);
        plan.key_of(&canvas, key);
        let Some(planned) = plan.planned(key)? else {
            let mut cold = WarmStart::default();
            return plan
                .with_variant(display, |planned, canvas| run(&plan.screen, planned, canvas, &mut cold));
        };
        if !warm.contains_key(key) {
            warm.insert(key.clone(), WarmStart::default());
        }
        let Some(warm) = warm.get_mut(key) else { unreachable!("it has been put there") };
        // What was chosen long ago is not likely to come again.
        warm.tidy(MAX_REMEMBERED);
        let usual = (plan.most_work() as f64 * self.effort) as u64;
        let most = self.budget.unwrap_or(usual);
        work::within(most, || run(&plan.screen, planned, &canvas, warm)).0
    }
}

/// How many lists of frames are used again: two successive ones may be held while the next one is made.
const MAX_LISTS: usize = 3;
