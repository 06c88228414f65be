//! From a display to frames.

use super::arranging::Choices;
use super::choose::Chooser;
use super::compile::{Compiled, Origin};
use super::frame::Frame;
use super::grid::GridCells;
use super::painting::Painting;
use super::rule_ref::RuleRef;
use super::scroll::{self, Sticking};
use super::unknowns::{DISPLAY_PARAMS, params_of};
use super::variant::{Variant, Visibility};
use super::{PlanError, Planned};
use crate::arrange::{GridShape, Shown};
use crate::display::{Direction, Display};
use crate::guide::{Division, Guide};
use crate::measure::{Measure, TextRequest, TextSize};
use crate::screen::{Control, Paint, RuleId, Screen, View, ViewId};
use crate::scroll::{Loose, Scroll, Scrolled, Stuck};
use crate::shape::Axis;
use std::cmp::Ordering;
use std::collections::BTreeMap;
use std::sync::Arc;
use vantic_solver::{Level, Outcome, Problem};

/// A violation of at most this many logical pixels is not worth a word.
pub(super) const NOTICEABLE: f64 = 1e-6;

/// How often texts are measured again at the widths they got, and how often what is chosen of
/// arrangements is worked out again.
const MAX_ROUNDS: usize = 16;

/// A rule that does not hold in a placement.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Missed {
    /// The rule.
    pub rule: RuleRef,
    /// By how much, in logical pixels, without its weight.
    pub by: f64,
}

/// How a view is painted in the bands that hold.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Looks {
    /// The font size of a text in logical pixels, the reader's text scale included.
    pub font: Option<f64>,
    /// The height of its lines in logical pixels, if stated, the reader's text scale included.
    pub line: Option<f64>,
    /// How many of its lines are shown at most.
    pub lines: Option<u32>,
    /// How what is painted differs from the frame.
    pub paint: Paint,
    /// How near it is to the reader.
    pub depth: f64,
    /// Whether it is pointed at or touched.
    pub control: Option<Control>,
    /// Whether what it holds is shown within its frame only.
    pub clips: bool,
    /// The factor by which what it holds is painted smaller, from its start and top, so that it fits.
    pub fits: Option<f64>,
}

impl Looks {
    /// How a view is painted, as it is in the bands that hold, with the reader's text scale.
    pub(super) fn of(here: &View, scale: f64) -> Self {
        let text = here.text();
        Self {
            font: text.map(|t| t.font * scale),
            line: text.and_then(|t| t.line).map(|line| line * scale),
            lines: text.and_then(|t| t.lines),
            paint: here.paint(),
            depth: here.depth(),
            control: here.control,
            clips: here.clips(),
            fits: None,
        }
    }
}

/// Where everything is on one display.
#[derive(Clone, Debug, PartialEq)]
pub struct Placement {
    /// The display.
    pub display: Display,
    /// The display in the units of the screen, and how many logical pixels one of them is, where the screen is drawn for
    /// a size and scaled. All frames are in those units.
    pub scaled: Option<Box<(Display, f64)>>,
    /// Per view: its frame; `None` where a band removes it.
    pub frames: Vec<Option<Frame>>,
    /// Per view: whether it is painted (a hidden view that keeps its space is not).
    pub painted: Vec<bool>,
    /// Per view: what its words measure at the width they got.
    pub texts: Vec<Option<TextSize>>,
    /// Per view: how its words and itself are painted here.
    pub looks: Vec<Looks>,
    /// The rules that count here, in written order; the built-in ones are not among them.
    pub rules: Vec<RuleId>,
    /// The preferences that gave way, in written order.
    pub missed: Vec<Missed>,
    /// The musts that do not hold, in written order.
    pub broken: Vec<Missed>,
    /// The `clamp`s whose least is above their most here, and by how much; the least wins.
    pub crossed: Vec<Missed>,
    /// The guides that are divided, and into what.
    pub divisions: BTreeMap<ViewId, Division>,
    /// The views that arrange their children in cells, and how many columns and rows they have.
    pub grids: BTreeMap<ViewId, GridShape>,
    /// The views in which some children are shown only where there is room: how many of those are shown, and how
    /// many there are.
    pub shown: BTreeMap<ViewId, Shown>,
    /// The views that scroll, and how far they are scrolled.
    pub scrolled: BTreeMap<ViewId, Scrolled>,
    /// The views that stick to a side of a view that scrolls, and where.
    pub stuck: BTreeMap<ViewId, Vec<Stuck>>,
    /// The views that are to stick and cannot.
    pub loose: Vec<Loose>,
    /// The texts whose height did not come to rest, and the views whose children did not.
    pub unsettled: Vec<ViewId>,
    /// Whether a bound on the work was met, so that the placement may not be the best.
    pub stopped: bool,
}

impl Placement {
    /// The frame of a view; `None` where a band removes it.
    pub fn frame(&self, view: ViewId) -> Option<Frame> {
        self.frames.get(view.index()).copied().flatten()
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
        self.painted.get(view.index()).copied().unwrap_or(false)
    }

    /// What the words of a text measure at the width they got.
    pub fn text_size(&self, view: ViewId) -> Option<TextSize> {
        self.texts.get(view.index()).copied().flatten()
    }

    /// How a view is painted here; plainly for an id of another screen.
    pub fn look(&self, view: ViewId) -> Looks {
        self.looks.get(view.index()).copied().unwrap_or_default()
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
        let around = std::iter::successors(Some(view), |&v| screen.view(v).and_then(|v| v.parent()));
        around.fold(Painting::PLAIN, |inner, at| match self.frame(at) {
            Some(frame) => {
                let look = self.look(at);
                let fits = look.fits.filter(|_| at != view).map(|factor| self.fitting(factor));
                let inner = fits.map_or(inner, |paint| inner.then(&Painting::of(paint, &frame)));
                inner.then(&Painting::of(look.paint, &frame))
            }
            None => inner,
        })
    }

    /// What is painted smaller from the corner where reading starts.
    fn fitting(&self, factor: f64) -> Paint {
        let start = if self.display.direction() == Direction::RightToLeft { 1.0 } else { 0.0 };
        Paint { origin: (start, 0.0), rotate: 0.0, scale: (factor, factor) }
    }

    /// The part of a view's frame that the views around it do not clip; `None` where none of it is left.
    pub fn visible_frame(&self, screen: &Screen, view: ViewId) -> Option<Frame> {
        let parent = |v: ViewId| screen.view(v).and_then(|v| v.parent());
        let clipping = std::iter::successors(parent(view), |&v| parent(v)).filter(|v| self.look(*v).clips);
        let mut frame = self.frame(view)?;
        for clipper in clipping {
            frame = frame.shared(&self.frame(clipper)?)?;
        }
        Some(frame)
    }

    /// Whether a view is held away from where its rules put it, since it sticks.
    pub fn is_stuck(&self, view: ViewId) -> bool {
        self.stuck.get(&view).is_some_and(|all| all.iter().any(|s| s.by != 0.0))
    }

    /// Whether the first of two siblings is painted on top of the second: what is nearer to the reader is, then
    /// what is stuck, then what is declared later.
    pub fn is_on_top(&self, first: ViewId, second: ViewId) -> bool {
        self.height_order(first, second).is_gt()
    }

    /// Which of two siblings is painted first.
    fn height_order(&self, first: ViewId, second: ViewId) -> Ordering {
        let rank = |view: ViewId| (self.is_stuck(view), view);
        let (a, b) = (self.look(first).depth, self.look(second).depth);
        a.total_cmp(&b).then_with(|| rank(first).cmp(&rank(second)))
    }

    /// All views and guides in the order in which they are painted, what is on top last.
    pub fn painting_order(&self, screen: &Screen) -> Vec<ViewId> {
        let sorted = |views: &[ViewId]| {
            let mut views = views.to_vec();
            // What is on top comes first, since the last of the waiting is taken next.
            views.sort_by(|&a, &b| self.height_order(b, a));
            views
        };
        let mut order = Vec::with_capacity(screen.views.len());
        let mut waiting = sorted(&screen.roots);
        while let Some(view) = waiting.pop() {
            order.push(view);
            waiting.extend(sorted(screen.at(view).children()));
        }
        order
    }

    /// The display in the units that frames are in: the display itself, where the screen is not scaled.
    pub fn canvas(&self) -> &Display {
        self.scaled.as_ref().map_or(&self.display, |scaled| &scaled.0)
    }

    /// How many logical pixels of the display one unit of the screen is: 1, where the screen is not scaled.
    pub fn scale(&self) -> f64 {
        self.scaled.as_ref().map_or(1.0, |scaled| scaled.1)
    }

    /// The frame of a view in logical pixels of the display, where the screen is scaled as well; `None` where it is
    /// not there.
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

/// Why a screen could not be placed.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
pub enum PlaceError {
    /// The text engine returned a measure that is negative or not finite.
    #[error("the text engine's measure of `{view}` is below zero or not a number")]
    Measure {
        /// The text.
        view: String,
    },
    /// The bands that hold on this display leave a rule without what it reads.
    #[error(transparent)]
    Bands(#[from] PlanError),
}

pub(super) fn place(
    screen: &Screen,
    planned: &Planned,
    display: &Display,
    measure: &dyn Measure,
    warm: &mut Warm,
) -> Result<Placement, PlaceError> {
    arranged(screen, planned, display, measure, warm, |settled, compiled| {
        let (outcome, stopped) = settled.chooser.outcome();
        settled.placement(screen, compiled, display, &outcome, stopped)
    })
}

/// The frames alone, into a list that is used again.
pub(super) fn frames(
    screen: &Screen,
    planned: &Planned,
    display: &Display,
    measure: &dyn Measure,
    warm: &mut Warm,
    frames: &mut Vec<Option<Frame>>,
) -> Result<(), PlaceError> {
    arranged(screen, planned, display, measure, warm, |settled, compiled| {
        frames.clear();
        frames.extend(boxes(compiled, settled.chooser.values()));
        scroll::stick(screen, &compiled.variant, display.direction(), frames);
    })
}

/// The frames where the solver's variables have these values.
fn boxes<'a>(compiled: &'a Compiled, values: &'a [f64]) -> impl Iterator<Item = Option<Frame>> + 'a {
    let value = |v: vantic_solver::VarId| values[v.index()];
    compiled.unknowns.boxes.iter().map(move |b| {
        b.map(|b| Frame {
            left: value(b.left),
            top: value(b.top),
            width: value(b.width),
            height: value(b.height),
        })
    })
}

/// What is kept of a variant from one display to the next.
#[derive(Debug, Default)]
pub(super) struct Warm {
    /// What was solved, for what was chosen of its arrangements; taken out while it is used.
    plans: BTreeMap<Choices, Option<vantic_solver::Plan>>,
    /// What was solved of a screen like this one.
    alike: Option<Arc<Solved>>,
    space: Space,
}

/// A display that was placed, for screens that differ a little to begin from.
#[derive(Debug)]
pub(crate) struct Solved {
    plans: BTreeMap<Choices, vantic_solver::Plan>,
    /// How tall each text came out, per view.
    heights: Vec<Option<f64>>,
}

impl Warm {
    /// What was solved, for screens that differ a little.
    pub(super) fn into_solved(self) -> Solved {
        let plans = self.plans.into_iter().filter_map(|(choices, plan)| Some((choices, plan?)));
        Solved { plans: plans.collect(), heights: self.space.heights }
    }

    /// To begin from what was solved of a screen like this one.
    pub(super) fn from_alike(alike: Arc<Solved>) -> Self {
        let space = Space { heights: alike.heights.clone(), ..Space::default() };
        Self { alike: Some(alike), space, ..Self::default() }
    }

    /// What is solved of a problem, or of one like it.
    fn begin(&mut self, choices: &Choices, problem: &Problem) -> Option<vantic_solver::Plan> {
        if let Some(known) = self.plans.get_mut(choices) {
            return known.take();
        }
        let mut other = self.alike.as_ref()?.plans.get(choices)?.clone();
        other.go_over_to(problem).then_some(other)
    }

    /// Forgets what was solved, where many choices have been met.
    pub(super) fn tidy(&mut self, most: usize) {
        if self.plans.len() > most {
            self.plans.clear();
        }
    }

    fn keep(&mut self, choices: &Choices, settled: Settled<'_>) {
        self.space = settled.space;
        let (plan, solved) = settled.chooser.into_parts();
        self.space.solved = solved;
        match self.plans.get_mut(choices) {
            Some(slot) => *slot = plan,
            None => {
                self.plans.insert(choices.clone(), plan);
            }
        }
    }
}

/// Lists that are used again, so that nothing is allocated where all stays as it was.
#[derive(Debug, Default)]
struct Space {
    params: Vec<f64>,
    /// The parameters that the chooser has solved for.
    solved: Vec<f64>,
    unwrapped: Vec<TextSize>,
    sizes: Vec<TextSize>,
    /// Per view: how tall its text came out last, here or on a display like it.
    heights: Vec<Option<f64>>,
    tallest: Vec<f64>,
    moved: Vec<usize>,
    /// How far each view that may scroll is scrolled.
    scrolled: Vec<Scrolled>,
    unsettled: Vec<ViewId>,
}

/// Settles a screen with what is chosen of its arrangements.
pub(super) fn arranged<T>(
    screen: &Screen,
    planned: &Planned,
    display: &Display,
    measure: &dyn Measure,
    warm: &mut Warm,
    run: impl FnOnce(&mut Settled<'_>, &Compiled) -> T,
) -> Result<T, PlaceError> {
    arranged_with(screen, planned, display, measure, warm, |settled, compiled, _| run(settled, compiled))
}

/// The same, told what was chosen: from the same start each time, until what comes out asks for nothing else,
/// [`MAX_ROUNDS`] rounds at most.
pub(super) fn arranged_with<T>(
    screen: &Screen,
    planned: &Planned,
    display: &Display,
    measure: &dyn Measure,
    warm: &mut Warm,
    run: impl FnOnce(&mut Settled<'_>, &Compiled, &Choices) -> T,
) -> Result<T, PlaceError> {
    // All is worked out in the units of the screen.
    let scaled = screen.canvas(display);
    let canvas = scaled.as_ref().map_or(display, |(canvas, _)| canvas);
    let mut choices = Choices::new();
    let mut round = 0;
    loop {
        let compiled = planned.compiled(screen, &choices);
        let known = warm.begin(&choices, &compiled.problem);
        let space = std::mem::take(&mut warm.space);
        let mut settled = Settled::find(screen, &compiled, canvas, measure, known, space)?;
        let next = settled.chooser.arrange(&compiled.probes, &choices);
        if next == choices || round == MAX_ROUNDS {
            let moves = |view: &ViewId| next.get(view) != choices.get(view);
            settled.space.unsettled.extend(compiled.probes.iter().map(|p| p.view).filter(moves));
            let result = run(&mut settled, &compiled, &choices);
            warm.keep(&choices, settled);
            return Ok(result);
        }
        warm.keep(&choices, settled);
        choices = next;
        round += 1;
    }
}

/// The parameters at which the heights of the texts fit the widths they get.
pub(super) struct Settled<'a> {
    pub(super) chooser: Chooser<'a>,
    space: Space,
}

impl<'a> Settled<'a> {
    fn find(
        screen: &Screen,
        compiled: &'a Compiled,
        display: &Display,
        measure: &dyn Measure,
        warm: Option<vantic_solver::Plan>,
        mut space: Space,
    ) -> Result<Self, PlaceError> {
        let variant = &compiled.variant;
        let solved = std::mem::take(&mut space.solved);
        let Space { params, unwrapped, sizes, heights, tallest, moved, scrolled, unsettled, .. } = &mut space;
        params.clear();
        params.extend(params_of(display));
        let size_at =
            |view: ViewId, width: Option<f64>| measured(screen, variant, display, measure, view, width);
        unwrapped.clear();
        // A height that decides no width may be what it was on the last display: that is nearer to what comes out.
        let near = if display.is_scrolled() { &[][..] } else { &*heights };
        let mut guessed = false;
        for (i, &view) in compiled.texts.iter().enumerate() {
            let size = size_at(view, None)?;
            unwrapped.push(size);
            let last = near.get(view.index()).copied().flatten().filter(|_| compiled.heights_apart[i]);
            guessed |= last.is_some_and(|last| last != size.height);
            params.extend([size.width, size.longest, last.unwrap_or(size.height), size.ascent]);
        }
        // What cannot scroll so far is scrolled as far as it can: that is known once it is placed.
        let offsets = params.len();
        params.extend(compiled.scrollers.iter().flat_map(|_| [0.0; 2]));
        sizes.clone_from(unwrapped);
        tallest.clear();
        tallest.extend(sizes.iter().map(|s| s.height));
        unsettled.clear();
        let mut chooser = Chooser::new(compiled, warm, solved);
        chooser.solve(params);
        if guessed && !chooser.holds() {
            for (i, size) in unwrapped.iter().enumerate() {
                params[height_param(i)] = size.height;
            }
            chooser.solve(params);
        }
        for round in 0..=MAX_ROUNDS {
            if round > 0 {
                chooser.solve(params);
            }
            moved.clear();
            for (i, &view) in compiled.texts.iter().enumerate() {
                let Some(b) = compiled.unknowns.boxes[view.index()] else { continue };
                let width = chooser.values()[b.width.index()];
                let at = text_size(screen, variant, display, measure, view, unwrapped[i], width)?;
                sizes[i] = TextSize { width: unwrapped[i].width, longest: unwrapped[i].longest, ..at };
                tallest[i] = tallest[i].max(at.height);
                let by = (params[height_param(i)] - at.height).abs();
                if by > if guessed && compiled.heights_apart[i] { 0.0 } else { NOTICEABLE } {
                    moved.push(i);
                }
            }
            scrolled.clear();
            scrolled.extend(scrolled_at(screen, compiled, display, chooser.values()));
            let wanted = || scrolled.iter().flat_map(|s| [s.offset.0, s.offset.1]);
            let rests =
                std::iter::zip(&params[offsets..], wanted()).all(|(a, b)| (a - b).abs() <= NOTICEABLE);
            if moved.is_empty() && rests || round == MAX_ROUNDS {
                // Where a text does not come to rest, the height it was given counts.
                heights.resize(screen.views.len(), None);
                for (i, size) in sizes.iter_mut().enumerate() {
                    size.height = params[height_param(i)];
                    heights[compiled.texts[i].index()] = Some(size.height);
                }
                return Ok(Self { chooser, space });
            }
            for (param, offset) in std::iter::zip(&mut params[offsets..], wanted()) {
                *param = offset;
            }
            let last = round + 1 == MAX_ROUNDS;
            for &i in moved.iter() {
                params[height_param(i)] = if last { tallest[i] } else { sizes[i].height };
            }
            if last {
                unsettled.clear();
                unsettled.extend(moved.iter().map(|&i| compiled.texts[i]));
                unsettled.extend(compiled.scrollers.iter().filter(|_| !rests));
            }
        }
        unreachable!("the last round returns")
    }

    /// What a text, by its place among the texts, measures on one line.
    pub(super) fn unwrapped(&self, text: usize) -> TextSize {
        self.space.unwrapped.get(text).copied().unwrap_or_default()
    }

    pub(super) fn placement(
        &self,
        screen: &Screen,
        compiled: &Compiled,
        display: &Display,
        outcome: &Outcome,
        stopped: bool,
    ) -> Placement {
        let variant = &compiled.variant;
        let scaled = screen.canvas(display);
        let mut frames: Vec<Option<Frame>> = boxes(compiled, &outcome.values).collect();
        let direction = display.direction();
        let Sticking { stuck, loose } = scroll::stick(screen, variant, direction, &mut frames);
        let factors = scroll::factors(screen, variant, direction, &frames);
        let scrolled = compiled.scrollers.iter().copied().zip(self.space.scrolled.iter().copied());
        let scrolls = |view: ViewId| variant.view(screen, view).scroll.is_some_and(|s| s != Scroll::Off);
        let scrolled = scrolled.filter(|(view, _)| scrolls(*view)).collect();
        let mut texts = vec![None; frames.len()];
        for (&view, &size) in compiled.texts.iter().zip(&self.space.sizes) {
            texts[view.index()] = Some(size);
        }
        let scale = display.text_scale();
        let looks = screen.views().map(|(view, _)| {
            let fits = factors.get(&view).copied();
            Looks { fits, ..Looks::of(variant.view(screen, view), scale) }
        });
        let looks = looks.collect();
        let divisions = compiled.divisions.iter().filter_map(|(view, measures)| {
            let Some(Guide::Cells(cells)) = variant.view(screen, *view).guide() else { return None };
            Some((*view, cells.division(measures.each_ref().map(|expr| self.chooser.value(expr)))))
        });
        let divisions = divisions.collect();
        let grids = compiled.grids.iter().map(|grid| {
            let GridCells { view, columns, rows, width, least, too_wide } =
                grid.map(|expr| self.chooser.value(expr));
            (view, GridShape { columns, rows, width, least, too_wide })
        });
        let grids = grids.collect();
        let shown = compiled.shown.iter().copied().collect();
        let crossed = self.chooser.crossed();
        let (mut missed, mut broken) = (Vec::new(), Vec::new());
        let levels = compiled.problem.rules().map(|(_, _, level, _)| level);
        for ((&origin, &by), level) in compiled.origins.iter().zip(&outcome.violations).zip(levels) {
            if by > NOTICEABLE && !matches!(origin, Origin::Pick(_) | Origin::Hug(_)) {
                let rule = RuleRef::from(origin);
                let list = if level == Level::MUST { &mut broken } else { &mut missed };
                list.push(Missed { rule, by });
            }
        }
        Placement {
            display: display.clone(),
            scaled: scaled.map(Box::new),
            frames,
            painted: std::iter::zip(&variant.visible, &screen.views)
                .map(|(v, of)| *v == Visibility::Shown && of.guide.is_none())
                .collect(),
            texts,
            looks,
            crossed: crossed.into_iter().map(|(origin, by)| Missed { rule: origin.into(), by }).collect(),
            rules: variant.rules.clone(),
            missed,
            broken,
            divisions,
            grids,
            shown,
            scrolled,
            stuck,
            loose,
            unsettled: self.space.unsettled.clone(),
            stopped,
        }
    }
}

/// What the words of a text measure at a width, or on one line.
fn measured(
    screen: &Screen,
    variant: &Variant,
    display: &Display,
    measure: &dyn Measure,
    view: ViewId,
    width: Option<f64>,
) -> Result<TextSize, PlaceError> {
    let Some(text) = variant.view(screen, view).text() else { return Ok(TextSize::default()) };
    let scale = display.text_scale();
    let words = screen.words_in(view, display.language()).unwrap_or_default();
    let request = TextRequest {
        words: &words,
        font: text.font * scale,
        line: text.line.map(|line| line * scale),
        width,
        direction: display.direction(),
    };
    let mut size = measure.measure(&request);
    if let Some(shown) = text.lines.filter(|&most| most < size.lines) {
        size.height *= f64::from(shown) / f64::from(size.lines);
        size.hidden = size.lines - shown;
    }
    let numbers = [size.width, size.longest, size.height, size.ascent];
    if numbers.iter().all(|n| (0.0..=crate::screen::MAX_NUMBER).contains(n)) {
        Ok(size)
    } else {
        Err(PlaceError::Measure { view: screen.path(view) })
    }
}

/// What the words of a text measure at the width that it gets: on one line, where they fit.
pub(super) fn text_size(
    screen: &Screen,
    variant: &Variant,
    display: &Display,
    measure: &dyn Measure,
    view: ViewId,
    unwrapped: TextSize,
    width: f64,
) -> Result<TextSize, PlaceError> {
    if width >= unwrapped.width - NOTICEABLE {
        return Ok(unwrapped);
    }
    measured(screen, variant, display, measure, view, Some(width.max(0.0)))
}

/// How far views are scrolled in a solution, and how far they can be: by as much as what they hold is larger.
fn scrolled_at<'a>(
    screen: &'a Screen,
    compiled: &'a Compiled,
    display: &'a Display,
    values: &'a [f64],
) -> impl Iterator<Item = Scrolled> + 'a {
    let size = move |view: ViewId, size| {
        compiled.unknowns.boxes[view.index()].map_or(0.0, |b| values[b.var(size).index()])
    };
    compiled.scrollers.iter().map(move |&view| {
        let about = compiled.variant.view(screen, view);
        let most = |axis: Axis| {
            let (goes, along) = (about.scroll.is_some_and(|s| s.goes(axis)), axis.edges().size);
            let sheet = about.sheet.filter(|_| goes);
            sheet.map_or(0.0, |sheet| (size(sheet, along) - size(view, along)).max(0.0))
        };
        let most = (most(Axis::Across), most(Axis::Down));
        let wanted = if display.is_scrolled() { display.scrolled(&screen.path(view)) } else { (0.0, 0.0) };
        Scrolled { offset: (wanted.0.min(most.0), wanted.1.min(most.1)), most }
    })
}

/// The parameter that holds the height of the lines of a text.
fn height_param(text: usize) -> usize {
    DISPLAY_PARAMS + 4 * text + 2
}
