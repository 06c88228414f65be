//! From a display to frames.

use crate::display::display::Display;
use crate::geometry::axis::Axis;
use crate::geometry::frame::Frame;
use crate::model::arrangement::GridShape;
use crate::model::edges::Edges;
use crate::model::guide::Guide;
use crate::model::id::ViewId;
use crate::model::rule_ref::RuleRef;
use crate::model::screen::Screen;
use crate::model::scroll::{Scroll, Scrolled};
use crate::plan::arrangement_choices::{ChoiceInputs, put_all};
use crate::plan::canvas::Canvas;
use crate::plan::compile::compiled::Compiled;
use crate::plan::compile::layout_rules::GridCells;
use crate::plan::compile::presolve::known_part;
use crate::plan::error::PlaceError;
use crate::plan::parameters::Parameters;
use crate::plan::place::appearance::Appearance;
use crate::plan::place::placement::{Missed, Placement};
use crate::plan::place::scroll::Sticking;
use crate::plan::place::texts::{KnownSizes, Texts};
use crate::plan::solve::alternatives::AlternativeSearch;
use crate::plan::solve::memory::Kept;
use crate::plan::variant::Visibility;
use crate::text::measure::TextSize;
use crate::tolerance::PLACED;
use vantic_solver::{Level, Outcome, work};

/// How often texts are measured again at the widths they got, and how often what is chosen of
/// arrangements is worked out again.
pub(super) const MAX_ROUNDS: usize = 16;

/// What it takes to tell of a view how it landed, in units of work.
const TOLD: usize = 8;

/// The frames where the solver's variables have these values.
pub(super) fn boxes<'a>(
    compiled: &'a Compiled,
    values: &'a [f64],
) -> impl Iterator<Item = Option<Frame>> + 'a {
    // Zero has no sign.
    let value = |v: vantic_solver::VarId| values[v.index()] + 0.0;
    compiled.unknowns.boxes.iter().map(move |b| {
        b.map(|b| Frame {
            left: value(b.left),
            top: value(b.top),
            width: value(b.width).max(0.0),
            height: value(b.height).max(0.0),
        })
    })
}

/// Lists that are used again, so that nothing is allocated where all is unchanged.
#[derive(Debug, Default)]
pub(super) struct Scratch {
    params: Vec<f64>,
    /// The parameters that the chooser has solved for.
    pub(super) solved: Vec<f64>,
    unwrapped: Vec<TextSize>,
    /// Whether the parameters are those that a display begins with, and whether a height in them is a guess.
    begun: Option<bool>,
    /// Per text, as the parameters are: [`Compiled::heights_apart`].
    apart: Vec<bool>,
    /// The texts that this is of, on this display.
    measured: Vec<ViewId>,
    sizes: Vec<TextSize>,
    known: KnownSizes,
    /// Per view: how tall its text came out last, here or on a display like it.
    pub(super) heights: Vec<Option<f64>>,
    tallest: Vec<f64>,
    moved: Vec<usize>,
    /// How far each view that may scroll is scrolled.
    pub(super) scrolled: Vec<Scrolled>,
    pub(super) unsettled: Vec<ViewId>,
}

/// The parameters at which the heights of the texts fit the widths they get.
pub(crate) struct TextFixpoint<'a> {
    pub(crate) chooser: AlternativeSearch<'a>,
    pub(super) space: Box<Scratch>,
    /// Whether a height was taken from the last display.
    guessed: bool,
}

impl Scratch {
    /// How tall texts came out on a display like the next one.
    pub(super) fn of_heights(heights: Vec<Option<f64>>) -> Self {
        Self { heights, ..Self::default() }
    }

    /// Nothing is known of a display yet.
    pub(super) fn begin_display(&mut self) {
        self.measured.clear();
        self.begun = None;
    }

    /// The parameters that a display begins with: each text on one line, nothing scrolled. Whether a height
    /// is a guess.
    pub(super) fn begin(&mut self, compiled: &Compiled, texts: &Texts<'_>) -> Result<bool, PlaceError> {
        let Scratch { params, unwrapped, measured, sizes, known, heights, tallest, unsettled, .. } = self;
        let count = compiled.parameters().named().end;
        if let Some(guessed) = self.begun
            && (params.len(), &*measured, &self.apart) == (count, &compiled.texts, &compiled.heights_apart)
        {
            return Ok(guessed);
        }
        let display = texts.display;
        params.clear();
        params.extend(Parameters::of_display(display));
        // What else is chosen of arrangements changes no words.
        if measured.is_empty() || *measured != compiled.texts {
            known.begin(texts);
            measured.clear();
            unwrapped.clear();
            for &view in &compiled.texts {
                unwrapped.push(known.on_one_line(texts, view)?);
            }
            measured.extend_from_slice(&compiled.texts);
        }
        // A height that decides no width may be what it was on the last display: that is nearer to what comes
        // out.
        let near = if display.is_scrolled() { &[][..] } else { &*heights };
        let mut guessed = false;
        for (i, (&view, size)) in std::iter::zip(&compiled.texts, &*unwrapped).enumerate() {
            let last = near.get(view.index()).copied().flatten().filter(|_| compiled.heights_apart[i]);
            guessed |= last.is_some_and(|last| last != size.height);
            params.extend(Parameters::of_text(size, last.unwrap_or(size.height)));
        }
        // What cannot scroll so far is scrolled as far as it can: that is known once it is placed.
        params.resize(compiled.parameters().scrolled().end, 0.0);
        params.extend(texts.screen.parameters().map(|value| value.on(display)));
        debug_assert_eq!(params.len(), count, "all of them");
        sizes.clone_from(unwrapped);
        tallest.clear();
        tallest.extend(sizes.iter().map(|s| s.height));
        unsettled.clear();
        self.apart.clone_from(&compiled.heights_apart);
        self.begun = Some(guessed);
        Ok(guessed)
    }

    /// What arrangements are chosen by, where required rules alone decide it: whether they do.
    pub(super) fn tell(&self, compiled: &Compiled, numbers: &mut Vec<ChoiceInputs<f64>>) -> bool {
        let Some(decided) = &compiled.decided else { return false };
        put_all(numbers, decided, &mut |known| known_part(known, &self.params));
        true
    }

    /// Takes the heights that texts were given: where one does not converge, that is the one that counts.
    fn settle(&mut self, compiled: &Compiled, views: usize) {
        let order = compiled.parameters();
        self.heights.resize(views, None);
        for (i, size) in self.sizes.iter_mut().enumerate() {
            size.height = self.params[order.height_of(i)];
            self.heights[compiled.texts[i].index()] = Some(size.height);
        }
    }
}

impl<'a> TextFixpoint<'a> {
    /// Solved for what texts measure on one line, or were as tall as last.
    pub(super) fn begin(
        compiled: &'a Compiled,
        warm: Option<Kept>,
        mut space: Box<Scratch>,
        guessed: bool,
    ) -> Self {
        let order = compiled.parameters();
        let solved = std::mem::take(&mut space.solved);
        let Scratch { params, unwrapped, begun, .. } = &mut *space;
        let mut chooser = AlternativeSearch::new(compiled, warm, solved);
        chooser.solve(params);
        if guessed && !chooser.holds() {
            *begun = None;
            for (i, size) in unwrapped.iter().enumerate() {
                params[order.height_of(i)] = size.height;
            }
            chooser.solve(params);
        }
        Self { chooser, space, guessed }
    }

    /// Goes on until texts are as tall as they are at the widths that they get, and views scrolled as far as they are.
    pub(super) fn settle(&mut self, asked: &Texts<'_>) -> Result<(), PlaceError> {
        let Self { chooser, space, guessed } = self;
        let compiled = chooser.compiled;
        let order = compiled.parameters();
        space.begun = None;
        let Scratch { params, unwrapped, sizes, known, tallest, moved, scrolled, unsettled, .. } =
            &mut **space;
        for round in 0..=MAX_ROUNDS {
            if round > 0 {
                chooser.solve(params);
            }
            moved.clear();
            for (i, &view) in compiled.texts.iter().enumerate() {
                let Some(b) = compiled.unknowns.boxes[view.index()] else { continue };
                let width = chooser.values()[b.width.index()];
                let at = known.at(asked, view, unwrapped[i], width)?;
                sizes[i] = TextSize { width: unwrapped[i].width, longest: unwrapped[i].longest, ..at };
                tallest[i] = tallest[i].max(at.height);
                let by = (params[order.height_of(i)] - at.height).abs();
                if by > if *guessed && compiled.heights_apart[i] { 0.0 } else { PLACED } {
                    moved.push(i);
                }
            }
            scrolled.clear();
            scrolled.extend(scrolled_at(asked.screen, compiled, asked.display, chooser.values()));
            let wanted = || scrolled.iter().flat_map(|s| [s.offset.0, s.offset.1]);
            let rests =
                std::iter::zip(&params[order.scrolled()], wanted()).all(|(a, b)| (a - b).abs() <= PLACED);
            if moved.is_empty() && rests || round == MAX_ROUNDS {
                space.settle(compiled, asked.screen.views.len());
                return Ok(());
            }
            for (param, offset) in std::iter::zip(&mut params[order.scrolled()], wanted()) {
                *param = offset;
            }
            let last = round + 1 == MAX_ROUNDS;
            for &i in moved.iter() {
                params[order.height_of(i)] = if last { tallest[i] } else { sizes[i].height };
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
    pub(crate) fn unwrapped(&self, text: usize) -> TextSize {
        self.space.unwrapped.get(text).copied().unwrap_or_default()
    }

    /// What each text measures as it is placed, per view, into a list that is used again.
    pub(super) fn texts(&self, compiled: &Compiled, views: usize, texts: &mut Vec<Option<TextSize>>) {
        texts.clear();
        texts.resize(views, None);
        for (&view, &size) in compiled.texts.iter().zip(&self.space.sizes) {
            texts[view.index()] = Some(size);
        }
    }

    pub(crate) fn placement(
        &self,
        screen: &Screen,
        compiled: &Compiled,
        canvas: &Canvas<'_>,
        outcome: &Outcome,
        stopped: bool,
    ) -> Placement {
        let variant = &compiled.variant;
        let display = canvas.display;
        work::spend(TOLD * screen.views.len());
        let mut frames: Vec<Option<Frame>> = boxes(compiled, &outcome.values).collect();
        let direction = display.direction();
        let Sticking { stuck, unstickable } =
            crate::plan::place::scroll::stick(screen, variant, direction, &mut frames);
        let fits = crate::plan::place::scroll::fits(screen, variant, direction, &frames);
        let scrolled = compiled.scrollers.iter().copied().zip(self.space.scrolled.iter().copied());
        let scrolls = |view: ViewId| variant.view(screen, view).scroll.is_some_and(|s| s != Scroll::Off);
        let scrolled = scrolled.filter(|(view, _)| scrolls(*view)).collect();
        let mut texts = Vec::new();
        self.texts(compiled, frames.len(), &mut texts);
        let scale = display.text_scale();
        let looks = screen.table().map(|(view, _)| {
            let fits = fits.get(&view).copied();
            Appearance { fits, ..Appearance::of(variant.view(screen, view), scale) }
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
        let visible_spares = compiled.shown.iter().copied().collect();
        let crossed = self.chooser.crossed();
        let (mut missed, mut broken) = (Vec::new(), Vec::new());
        let levels = compiled.problem.rules().map(|(_, _, level, _)| level);
        let least = self.chooser.tolerance();
        for ((&origin, &by), level) in compiled.origins.iter().zip(&outcome.violations).zip(levels) {
            if by > least && !origin.is_aim() {
                let rule = RuleRef::from(origin);
                let list = if level == Level::REQUIRED { &mut broken } else { &mut missed };
                list.push(Missed { rule, by });
            }
        }
        Placement {
            ids: screen.views.iter().map(|view| (view.tag, view.sibling_index)).collect(),
            display: display.clone(),
            scaled: canvas.scaled(),
            frames,
            painted: std::iter::zip(&variant.visible, screen.views.iter())
                .map(|(v, of)| *v == Visibility::Shown && of.guide.is_none())
                .collect(),
            texts,
            looks,
            crossed_clamps: crossed
                .into_iter()
                .map(|(origin, by)| Missed { rule: origin.into(), by })
                .collect(),
            rules: variant.rules.clone(),
            missed,
            broken,
            divisions,
            grids,
            visible_spares,
            scrolled,
            stuck,
            unstickable,
            unsettled: self.space.unsettled.clone(),
            hit_work_limit: stopped,
        }
    }
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
            let (goes, along) = (about.scroll.is_some_and(|s| s.goes(axis)), Edges::of_axis(axis).size);
            let content_box = about.content_box.filter(|_| goes);
            content_box.map_or(0.0, |content_box| (size(content_box, along) - size(view, along)).max(0.0))
        };
        let most = (most(Axis::Across), most(Axis::Down));
        let wanted = if display.is_scrolled() { display.scrolled(&screen.path(view)) } else { (0.0, 0.0) };
        Scrolled { offset: (wanted.0.min(most.0), wanted.1.min(most.1)), most }
    })
}
