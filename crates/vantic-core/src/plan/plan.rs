//! The plan: a screen compiled for placing, as callers hold it.
//!
//! A variant is worked out once for every combination of bands that some display meets, compiled to a problem
//! for the solver, and kept solved from one display to the next.

use crate::display::display::Display;
use crate::geometry::direction::Direction;
use crate::limits::{PLACE_WORK, PLACE_WORK_PER_VIEW};
use crate::model::condition::combinations;
use crate::model::coordinate::Coordinate;
use crate::model::id::ViewId;
use crate::model::screen::Screen;
use crate::plan::canvas::Canvas;
use crate::plan::compile::planned::Planned;
use crate::plan::error::{PlaceError, PlanError};
use crate::plan::explain::{Asked, Why, WhyNot, Wish};
use crate::plan::place::choosing::WarmStart;
use crate::plan::place::fixpoint::TextFixpoint;
use crate::plan::place::placement::Placement;
use crate::plan::variant::{Variant, reads_only_what_stays};
use crate::text::measure::Measure;
use std::collections::BTreeMap;
use std::sync::{Arc, OnceLock};
use vantic_solver::work;

/// A compiled screen, ready to be placed on any display, again and again. A clone is the same plan, and costs nothing.
#[derive(Clone, Debug)]
pub struct Plan {
    pub(super) screen: Arc<Screen>,
    pub(super) variants: Arc<BTreeMap<VariantKey, OnceLock<Planned>>>,
}

impl Plan {
    /// Compiles a screen. What its bands and states make of it on a kind of display is worked out when a display of that
    /// kind is met; only what may turn out to be wrong is looked at now.
    ///
    /// # Errors
    /// A rule that reads what a band hides, or bands that tell too many displays apart.
    pub fn new(screen: Screen) -> Result<Self, PlanError> {
        let conditions: Vec<_> = screen.bands.iter().map(|b| &b.condition).collect();
        let combinations = combinations(&conditions, &screen.states).ok_or(PlanError::TooManyBands)?;
        // Each is worked out when a display of its kind is met, unless it may turn out that it cannot be.
        let later = reads_only_what_stays(&screen);
        let mut variants = BTreeMap::new();
        for key in combinations {
            let planned = match later {
                true => OnceLock::new(),
                false => Planned::new(Variant::new(&screen, &key.0)?, key.1).into(),
            };
            variants.insert(key, planned);
        }
        Ok(Self { screen: Arc::new(screen), variants: Arc::new(variants) })
    }

    /// The screen.
    pub fn screen(&self) -> &Screen {
        &self.screen
    }

    /// Places the screen on a display.
    ///
    /// # Errors
    /// A text engine that returns a measure that is negative or not finite.
    pub fn place(&self, display: &Display, measure: &dyn Measure) -> Result<Placement, PlaceError> {
        let mut cold = WarmStart::default();
        self.with_variant(display, |planned, canvas| {
            crate::plan::place::choosing::place(&self.screen, planned, canvas, measure, &mut cold)
        })
    }

    /// Why a coordinate is what it is on a display: `None` where the view is not there.
    ///
    /// # Errors
    /// As for [`Plan::place`].
    pub fn why(
        &self,
        display: &Display,
        measure: &dyn Measure,
        view: ViewId,
        coordinate: Coordinate,
    ) -> Result<Option<Why>, PlaceError> {
        self.asked(display, measure, |asked, settled| asked.whys(settled, &[(view, coordinate)]).pop())
    }

    /// What keeps a wish from coming about on a display: `None` where its view is not there, or its rule does
    /// not count.
    ///
    /// # Errors
    /// As for [`Plan::place`].
    pub fn why_not(
        &self,
        display: &Display,
        measure: &dyn Measure,
        wish: Wish,
    ) -> Result<Option<WhyNot>, PlaceError> {
        self.asked(display, measure, |asked, settled| asked.why_not(settled, wish))
    }

    fn asked<T>(
        &self,
        display: &Display,
        measure: &dyn Measure,
        run: impl FnOnce(&Asked<'_>, &mut TextFixpoint<'_>) -> T,
    ) -> Result<T, PlaceError> {
        let (screen, mut cold) = (&self.screen, WarmStart::default());
        self.with_variant(display, |planned, canvas| {
            crate::plan::place::choosing::solve_to_fixpoint(
                screen,
                planned,
                canvas,
                measure,
                &mut cold,
                |settled, compiled| run(&Asked { screen, compiled }, settled),
            )
        })
    }

    /// Frees what was compiled for the displays so far, which a plan keeps for the next placement: some kilobytes
    /// for each view. What is needed is compiled again, and placed as before.
    pub fn forget(&self) {
        self.variants.values().filter_map(OnceLock::get).for_each(Planned::forget);
    }

    /// The combinations of bands that some display meets.
    pub fn variant_keys(&self) -> impl Iterator<Item = &[bool]> {
        self.variants.keys().map(|(bands, _)| bands.as_slice())
    }

    pub(super) fn with_variant<T>(
        &self,
        display: &Display,
        run: impl FnOnce(&Planned, &Canvas<'_>) -> Result<T, PlaceError>,
    ) -> Result<T, PlaceError> {
        let canvas = Canvas::new(&self.screen, display);
        let mut key = (Vec::new(), display.direction());
        self.key_of(&canvas, &mut key);
        self.check_parameters(display)?;
        let run = || match self.planned(&key)? {
            Some(planned) => run(planned, &canvas),
            // Every kind of display was looked at; should one slip through, it is worked out here.
            None => run(&Planned::new(Variant::new(&self.screen, &key.0)?, key.1), &canvas),
        };
        work::within(self.most_work(), run).0
    }

    /// Whether what is set is within its range.
    pub(super) fn check_parameters(&self, display: &Display) -> Result<(), PlaceError> {
        for value in self.screen.parameters() {
            let (Some((from, to)), number) = (value.range(), value.on(display)) else { continue };
            if !(from..=to).contains(&number) {
                return Err(PlaceError::Parameter { name: value.name.clone(), number, from, to });
            }
        }
        Ok(())
    }

    /// What is compiled for a kind of display, if it is one that was foreseen.
    pub(super) fn planned(&self, key: &VariantKey) -> Result<Option<&Planned>, PlanError> {
        let Some(slot) = self.variants.get(key) else { return Ok(None) };
        if let Some(planned) = slot.get() {
            return Ok(Some(planned));
        }
        let planned = Planned::new(Variant::new(&self.screen, &key.0)?, key.1);
        Ok(Some(slot.get_or_init(|| planned)))
    }

    /// How much work placing it once may take; see [`PLACE_WORK`].
    pub(super) fn most_work(&self) -> u64 {
        PLACE_WORK + PLACE_WORK_PER_VIEW * self.screen.views.len() as u64
    }

    /// How many views and rules there are, those that were removed included.
    pub(super) fn counts(&self) -> (usize, usize) {
        (self.screen.views.len(), self.screen.rules.len())
    }

    /// Tells which bands are active on a display.
    pub(super) fn key_of(&self, canvas: &Canvas<'_>, key: &mut VariantKey) {
        key.0.clear();
        key.0.extend(self.screen.bands.iter().map(|b| b.condition.holds(canvas.in_units())));
        key.1 = canvas.display.direction();
    }
}

/// A kind of display: the bands that hold on it, and its reading direction.
pub(super) type VariantKey = (Vec<bool>, Direction);
