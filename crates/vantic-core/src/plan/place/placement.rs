//! The answer: where everything is on a display.

use crate::display::display::Display;
use crate::geometry::direction::Direction;
use crate::geometry::frame::Frame;
use crate::model::arrangement::{GridShape, VisibleSpares};
use crate::model::guide::Division;
use crate::model::id::{RuleId, ScreenTag, ViewId};
use crate::model::rule_ref::RuleRef;
use crate::model::screen::Screen;
use crate::model::scroll::{Scrolled, StickyOffset, UnstickableView};
use crate::plan::place::appearance::Appearance;
use crate::plan::place::painted::{self, Painted};
use crate::plan::place::painting::Painting;
use crate::text::measure::TextSize;
use std::collections::BTreeMap;

/// A rule that does not hold in a placement.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Missed {
    /// The rule.
    pub rule: RuleRef,
    /// By how much, in logical pixels, without its weight.
    pub by: f64,
}

/// Where everything is on one display.
#[derive(Clone, Debug, PartialEq)]
pub struct Placement {
    /// Per view: what its id bears, and its place among its siblings.
    pub(crate) ids: Vec<(ScreenTag, usize)>,
    /// The display.
    pub display: Display,
    /// The display in the units of the screen, and how many logical pixels one of them is, where the screen
    /// is drawn for a size and scaled. All frames are in those units.
    pub scaled: Option<Box<(Display, f64)>>,
    /// Per view: its frame; `None` where a band removes it.
    pub frames: Vec<Option<Frame>>,
    /// Per view: whether it is painted (a hidden view that keeps its space is not).
    pub painted: Vec<bool>,
    /// Per view: what its words measure at the width they got.
    pub texts: Vec<Option<TextSize>>,
    /// Per view: how its words and itself are painted here.
    pub looks: Vec<Appearance>,
    /// The rules that count here, in written order; the built-in ones are not among them.
    pub rules: Vec<RuleId>,
    /// The preferences that gave way, in written order.
    pub missed: Vec<Missed>,
    /// The required rules that do not hold, in written order.
    pub broken: Vec<Missed>,
    /// The `clamp`s whose least is above their most here, and by how much; the least wins.
    pub crossed_clamps: Vec<Missed>,
    /// The guides that are divided, and into what.
    pub divisions: BTreeMap<ViewId, Division>,
    /// The views that arrange their children in cells, and how many columns and rows they have.
    pub grids: BTreeMap<ViewId, GridShape>,
    /// The views in which some children are shown only where there is room: how many of those are shown, and
    /// how many there are.
    pub visible_spares: BTreeMap<ViewId, VisibleSpares>,
    /// The views that scroll, and how far they are scrolled.
    pub scrolled: BTreeMap<ViewId, Scrolled>,
    /// The views that stick to a side of a view that scrolls, and where.
    pub stuck: BTreeMap<ViewId, Vec<StickyOffset>>,
    /// The views that are to stick and cannot.
    pub unstickable: Vec<UnstickableView>,
    /// The texts whose height did not converge, and the views whose children did not.
    pub unsettled: Vec<ViewId>,
    /// Whether a bound on the work was met, so that the placement may not be the best.
    pub hit_work_limit: bool,
}

impl Placement {
    /// The frame of a view; `None` where a band removes it.
    pub fn frame(&self, view: ViewId) -> Option<Frame> {
        self.frames.get(view.index()).copied().flatten().filter(|_| self.has(view))
    }

    /// Whether a view is one of the screen that was placed.
    fn has(&self, view: ViewId) -> bool {
        self.ids.get(view.index()).is_some_and(|(tag, _)| view.is_tagged(*tag))
    }

    /// The frame of a view measured from the top left corner of the view around it.
    pub fn local_frame(&self, screen: &Screen, view: ViewId) -> Option<Frame> {
        let frame = self.frame(view)?;
        let around = screen.view(view)?.parent().and_then(|p| self.frame(p)).unwrap_or_default();
        Some(Frame { left: frame.left - around.left, top: frame.top - around.top, ..frame })
    }

    /// The box of a column or row of a guide, counted from 1; `None` where there is none of that number.
    pub fn cell(&self, guide: ViewId, number: u32) -> Option<Frame> {
        let (frame, division) = (self.frame(guide)?, self.divisions.get(&guide)?);
        if !(1..=division.count).contains(&number) {
            return None;
        }
        let near = division.first + f64::from(number - 1) * (division.size + division.gutter);
        Some(match (division.columns, self.display.direction()) {
            (false, _) => Frame { top: frame.top + near, height: division.size, ..frame },
            (true, Direction::LeftToRight) => {
                Frame { left: frame.left + near, width: division.size, ..frame }
            }
            (true, Direction::RightToLeft) => {
                Frame { left: frame.right() - near - division.size, width: division.size, ..frame }
            }
        })
    }

    /// Whether a view is painted; one that is hidden is not, even if it keeps its space.
    pub fn is_painted(&self, view: ViewId) -> bool {
        self.has(view) && self.painted.get(view.index()).copied().unwrap_or(false)
    }

    /// What the words of a text measure at the width they got.
    pub fn text_size(&self, view: ViewId) -> Option<TextSize> {
        self.texts.get(view.index()).copied().flatten().filter(|_| self.has(view))
    }

    /// How a view is painted here; plainly for an id of another screen.
    pub fn look(&self, view: ViewId) -> Appearance {
        self.looks.get(view.index()).copied().filter(|_| self.has(view)).unwrap_or_default()
    }

    /// The box around what is painted of a view: its frame, scaled and turned with all views around it.
    pub fn painted_bounds(&self, screen: &Screen, view: ViewId) -> Option<Frame> {
        let frame = self.frame(view)?;
        let turned = self.painting(screen, view);
        let corners = [(0.0, 0.0), (1.0, 0.0), (0.0, 1.0), (1.0, 1.0)]
            .map(|(x, y)| turned.apply(frame.left + x * frame.width, frame.top + y * frame.height));
        let ends = |values: [f64; 4]| {
            (
                values.iter().copied().fold(f64::INFINITY, f64::min),
                values.into_iter().fold(f64::NEG_INFINITY, f64::max),
            )
        };
        let (left, right) = ends(corners.map(|c| c.0));
        let (top, bottom) = ends(corners.map(|c| c.1));
        Some(Frame { left, top, width: right - left, height: bottom - top })
    }

    /// The same, where what is painted is not the frame.
    pub fn painted_elsewhere(&self, screen: &Screen, view: ViewId) -> Option<Frame> {
        let plain = self.painting(screen, view).is_plain();
        if plain { None } else { self.painted_bounds(screen, view) }
    }

    /// What painting does to the points of a view: its own turning and scaling, then that of the
    /// views around it.
    pub fn painting(&self, screen: &Screen, view: ViewId) -> Painting {
        painted::painting(self, screen, view)
    }

    /// The part of a view's frame that the views around it do not clip; `None` where none of it is left.
    ///
    /// ```
    /// use vantic_core::model::{Overflow, Setting};
    /// use vantic_core::prelude::*;
    ///
    /// let mut build = ScreenBuilder::new("workshop");
    /// let pane = build.view("pane");
    /// build.rule(pane, pane.pin([(Side::Left, 0.0), (Side::Top, 0.0)], SCREEN));
    /// build.rules(pane, [pane.width().equals(100.0), pane.height().equals(100.0)]);
    /// let sheet = build.view_in(pane, "sheet");
    /// build.rule(sheet, sheet.pin([(Side::Left, 60.0), (Side::Top, 0.0), (Side::Bottom, 0.0)], pane));
    /// build.rule(sheet, sheet.width().equals(80.0));
    /// build.set(pane, Setting::Overflow(Overflow::Clip));
    /// let plan = Plan::new(build.finish()?)?;
    /// let placement = plan.place(&Display::new(320.0, 480.0)?, &PlainText)?;
    /// assert_eq!(placement.visible_frame(plan.screen(), sheet).map(|f| f.width), Some(40.0));
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn visible_frame(&self, screen: &Screen, view: ViewId) -> Option<Frame> {
        painted::visible_frame(self, screen, view)
    }

    /// Whether a view is held away from where its rules put it, since it sticks.
    pub fn is_stuck(&self, view: ViewId) -> bool {
        self.stuck.get(&view).is_some_and(|all| all.iter().any(|s| s.by != 0.0))
    }

    /// Whether the first of two siblings is painted on top of the second: what is nearer to the reader is,
    /// then what is stuck, then what stands later among them.
    pub fn is_on_top(&self, first: ViewId, second: ViewId) -> bool {
        painted::sibling_order(self, first, second).is_gt()
    }

    /// All views and guides in the order in which they are painted, what is on top last. Guides, which are
    /// not painted, come directly after the view that they are in, those of the screen first.
    pub fn painting_order(&self, screen: &Screen) -> Vec<ViewId> {
        painted::painting_order(self, screen)
    }

    /// The view on top of all that are painted at a point, in the units of the frames, and not clipped there; what is painted turned
    /// or scaled counts as it is painted. `None` where nothing is.
    pub fn view_at(&self, screen: &Screen, x: f64, y: f64) -> Option<ViewId> {
        painted::view_at(self, screen, (x, y))
    }

    /// The display in the units that frames are in: the display itself, where the screen is not scaled.
    pub fn canvas(&self) -> &Display {
        self.scaled.as_ref().map_or(&self.display, |scaled| &scaled.0)
    }

    /// How many logical pixels of the display one unit of the screen is: 1, where the screen is not scaled.
    pub fn scale(&self) -> f64 {
        self.scaled.as_ref().map_or(1.0, |scaled| scaled.1)
    }

    /// The frame of a view in logical pixels of the display, where the screen is scaled as well; `None` where
    /// it is not there.
    pub fn device_frame(&self, view: ViewId) -> Option<Frame> {
        let scale = self.scale();
        let Frame { left, top, width, height } = self.frame(view)?;
        Some(Frame { left: left * scale, top: top * scale, width: width * scale, height: height * scale })
    }

    /// The frame of the whole display.
    pub fn screen_frame(&self) -> Frame {
        Frame { left: 0.0, top: 0.0, width: self.canvas().width(), height: self.canvas().height() }
    }

    /// The frame of the display less its insets.
    pub fn safe_frame(&self) -> Frame {
        let d = self.canvas();
        Frame { left: d.insets().left, top: d.insets().top, width: d.safe_width(), height: d.safe_height() }
    }

    /// The frame of the display less its insets and less a keyboard on the screen.
    pub fn clear_frame(&self) -> Frame {
        let safe = self.safe_frame();
        Frame { height: self.canvas().height() - self.canvas().bottom_cover() - safe.top, ..safe }
    }
}

impl Painted for Placement {
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
        self.is_stuck(view)
    }

    fn place_among_siblings(&self, view: ViewId) -> usize {
        self.ids.get(view.index()).map_or(0, |(_, place)| *place)
    }
}
