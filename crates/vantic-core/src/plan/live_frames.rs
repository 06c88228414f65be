//! The frames of a plan that is kept solved, as a renderer takes them.

use crate::geometry::direction::Direction;
use crate::geometry::frame::Frame;
use crate::model::id::ViewId;
use crate::model::scroll::{Scroll, Scrolled};
use crate::model::view::View;
use crate::plan::compile::planned::Planned;
use crate::plan::place::appearance::{Appearance, Fit};
use crate::plan::place::choosing::Shown;
use crate::plan::place::painted::{self, Painted};
use crate::plan::place::painting::Painting;
use crate::plan::plan::{Plan, VariantKey};
use crate::plan::variant::Visibility;
use crate::text::measure::TextSize;
use crate::tolerance::PLACED;
use std::collections::BTreeMap;
use std::sync::{Arc, OnceLock};

/// Frames, and the kind of display that they are for.
#[derive(Debug)]
pub(super) struct ShownOn {
    pub(super) key: VariantKey,
    pub(super) shown: Shown,
    pub(super) text_scale: f64,
    /// What is painted smaller so that it fits, once that is asked for.
    pub(super) fits: OnceLock<BTreeMap<ViewId, Fit>>,
}

impl Default for ShownOn {
    fn default() -> Self {
        let (key, fits) = ((Vec::new(), Direction::default()), OnceLock::new());
        Self { key, shown: Shown::default(), text_scale: 1.0, fits }
    }
}

/// Where each view was on a display, and how it was painted there. It stays as it is when another display is
/// placed, and can be held for as long as one likes.
#[derive(Clone, Debug)]
pub struct LiveFrames {
    pub(super) plan: Plan,
    pub(super) of: Arc<ShownOn>,
}

impl LiveFrames {
    /// The frames in the order of the views; `None` for one that is not there.
    pub fn all(&self) -> &[Option<Frame>] {
        &self.of.shown.frames
    }

    /// The frame of a view; `None` where it is not there.
    pub fn frame(&self, view: ViewId) -> Option<Frame> {
        self.plan.screen.view(view)?;
        self.all().get(view.index()).copied().flatten()
    }

    /// What a text measures where it was placed: its lines, how many of them a limit hides, and where its baseline is;
    /// `None` for what is no text, or not there.
    pub fn text(&self, view: ViewId) -> Option<TextSize> {
        self.plan.screen.view(view)?;
        self.of.shown.texts.get(view.index()).copied().flatten()
    }

    /// How far a view is scrolled, and how far it can be; `None` for one that does not scroll.
    pub fn scrolled(&self, view: ViewId) -> Option<Scrolled> {
        let scrolls = self.look_at(view)?.scroll.is_some_and(|scroll| scroll != Scroll::Off);
        let found = self.of.shown.scrolled.iter().find(|(of, _)| *of == view);
        found.filter(|_| scrolls).map(|(_, scrolled)| *scrolled)
    }

    /// Whether some required rules contradict one another there: they are broken by the least that does.
    pub fn is_broken(&self) -> bool {
        self.of.shown.is_broken
    }

    /// The texts and views for which no frames could be settled on: they ask for other ones each time.
    pub fn unsettled(&self) -> &[ViewId] {
        &self.of.shown.unsettled
    }

    /// Whether the work for it did not suffice: the frames keep sizes at zero or above, and may not be the best.
    pub fn hit_work_limit(&self) -> bool {
        self.of.shown.hit_work_limit
    }

    /// The views whose frames differ from earlier ones by more than 1e-6, those that come and those that go
    /// included, in declared order.
    pub fn changed_since(&self, earlier: &LiveFrames) -> impl Iterator<Item = ViewId> {
        let views = self.plan.screen.views().map(|(view, _)| view);
        views.filter(|view| {
            let frame = |of: &LiveFrames| of.all().get(view.index()).copied().flatten();
            match (frame(earlier), frame(self)) {
                (Some(a), Some(b)) => {
                    let by = [a.left - b.left, a.top - b.top, a.width - b.width, a.height - b.height];
                    by.iter().any(|by| by.abs() > PLACED)
                }
                (a, b) => a.is_some() != b.is_some(),
            }
        })
    }

    /// Frames on the way to later ones, for an animation: `at` is 0 here and 1 there, and may be beyond both. A
    /// view that is in one of them only is where it is there.
    pub fn toward(&self, later: &LiveFrames, at: f64) -> impl Iterator<Item = Option<Frame>> {
        let (here, there) = (self.all(), later.all());
        (0..here.len().max(there.len())).map(move |view| {
            match (here.get(view).copied().flatten(), there.get(view).copied().flatten()) {
                (Some(a), Some(b)) => Some(a.toward(&b, at)),
                (a, b) => a.or(b),
            }
        })
    }

    /// Whether a view is painted; one that is hidden is not, even if it keeps its space.
    pub fn is_painted(&self, view: ViewId) -> bool {
        let is_guide = self.plan.screen.view(view).is_none_or(|about| about.guide().is_some());
        let is_shown =
            self.planned().is_none_or(|p| p.variant.visible.get(view.index()) == Some(&Visibility::Shown));
        !is_guide && is_shown && self.frame(view).is_some()
    }

    /// How a view is painted; plainly for an id of another screen.
    pub fn look(&self, view: ViewId) -> Appearance {
        let Some(here) = self.look_at(view) else { return Appearance::default() };
        Appearance { fits: self.fits().get(&view).copied(), ..Appearance::of(here, self.of.text_scale) }
    }

    /// All views and guides in the order in which they are painted, what is on top last.
    pub fn painting_order(&self) -> Vec<ViewId> {
        painted::painting_order(self, &self.plan.screen)
    }

    /// What painting does to the points of a view: its own turning and scaling, then that of the views around it.
    pub fn painting(&self, view: ViewId) -> Painting {
        painted::painting(self, &self.plan.screen, view)
    }

    /// The views around a view that clip it, from the nearest outwards: what they hold is shown within their frames only, turned and
    /// scaled as they are.
    pub fn clippers(&self, view: ViewId) -> impl Iterator<Item = ViewId> + '_ {
        painted::clippers(self, &self.plan.screen, view)
    }

    /// The part of a view's frame that the views around it do not clip, where none of them is turned or scaled; `None` where none of it
    /// is left.
    pub fn visible_frame(&self, view: ViewId) -> Option<Frame> {
        self.frame(view).and_then(|_| painted::visible_frame(self, &self.plan.screen, view))
    }

    /// The view on top of all that are painted at a point, and not clipped there, for a tap or a click; what is painted turned or scaled
    /// counts as it is painted. `None` where nothing is. What the tap is meant for may be a view around it:
    /// [`Screen::with_ancestors`](crate::model::Screen::with_ancestors).
    ///
    /// ```
    /// use vantic_core::model::Setting;
    /// use vantic_core::prelude::*;
    ///
    /// let mut build = ScreenBuilder::new("workshop");
    /// let (bench, saw) = (build.view("bench"), build.view("saw"));
    /// build.add(bench.pin([(Side::Left, 0), (Side::Top, 0), (Side::Right, 0), (Side::Bottom, 0)], SCREEN));
    /// build.add(saw.center().equals(bench.center())).add(saw.size().equals((100.0, 20.0)));
    /// build.set(saw, Setting::Rotate(90.0));
    /// let mut live = Plan::new(build.finish()?)?.live();
    /// let frames = live.frames(&Display::new(320, 480)?, &PlainText)?;
    /// assert_eq!(frames.view_at(160.0, 280.0), Some(saw));
    /// assert_eq!(frames.view_at(200.0, 240.0), Some(bench));
    /// assert_eq!(frames.view_at(400.0, 240.0), None);
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn view_at(&self, x: f64, y: f64) -> Option<ViewId> {
        painted::view_at(self, &self.plan.screen, (x, y))
    }

    fn planned(&self) -> Option<&Planned> {
        self.plan.variants.get(&self.of.key).and_then(OnceLock::get)
    }

    fn fits(&self) -> &BTreeMap<ViewId, Fit> {
        self.of.fits.get_or_init(|| {
            let (screen, direction) = (&self.plan.screen, self.of.key.1);
            let fits = |planned: &Planned| {
                crate::plan::place::scroll::fits(screen, &planned.variant, direction, self.all())
            };
            self.planned().map(fits).unwrap_or_default()
        })
    }

    /// A view as the bands made it.
    fn look_at(&self, view: ViewId) -> Option<&View> {
        let about = self.plan.screen.view(view)?;
        Some(self.planned().map_or(about, |planned| planned.variant.view(&self.plan.screen, view)))
    }
}

impl Painted for LiveFrames {
    fn frame(&self, view: ViewId) -> Option<Frame> {
        self.frame(view)
    }

    fn look(&self, view: ViewId) -> Appearance {
        self.look(view)
    }

    fn is_painted(&self, view: ViewId) -> bool {
        self.is_painted(view)
    }

    fn is_stuck(&self, view: ViewId) -> bool {
        self.of.shown.stuck.get(&view).is_some_and(|all| all.iter().any(|stuck| stuck.by != 0.0))
    }

    fn place_among_siblings(&self, view: ViewId) -> usize {
        self.plan.screen.view(view).map_or(0, |about| about.sibling_index)
    }
}
