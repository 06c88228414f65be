//! A list of very many rows, of which those in sight are placed.

use crate::display::display::Display;
use crate::display::error::DisplayError;
use crate::limits::{MAX_NUMBER, MAX_ROWS, MAX_ROWS_PLACED};
use crate::model::build_error::BuildErrors;
use crate::model::id::ViewId;
use crate::plan::error::PlaceError;
use crate::plan::list::heights::Heights;
use crate::plan::live::{EditError, Live};
use crate::plan::live_frames::LiveFrames;
use crate::plan::plan::Plan;
use crate::text::measure::Measure;
use std::ops::Range;

/// How far above and below what is seen rows are placed as well, unless it is said otherwise, in logical pixels.
const MARGIN: f64 = 200.0;

/// How often what is in sight is brought back from the ends of a list: once from each, and again where numbers were rounded.
const MAX_SHIFTS: usize = 6;

/// A list of very many rows that is scrolled. A row is a screen of its own, the same one for all rows, with words, parameters
/// and states that the application gives each row as it comes in sight. Only rows in sight, and within a margin, are measured
/// and placed; how tall the others are is estimated: as tall as those that were measured are on average. Whatever
/// turns out otherwise, what is seen does not jump: the first row in sight stays where it is.
///
/// ```
/// use vantic_core::plan::{LongList, RowAt};
/// use vantic_core::prelude::*;
///
/// let mut build = ScreenBuilder::new("stop");
/// let row = build.view("row");
/// build.add(row.pin([(Side::Left, 0), (Side::Right, 0), (Side::Top, 0)], SCREEN));
/// let name = build.text_in(row, "name", "", 16.0);
/// build.add(name.pin([(Side::Left, 16), (Side::Right, 16), (Side::Top, 8)], row));
/// build.add(row.bottom().equals(name.bottom() + 8));
/// let plan = Plan::new(build.finish()?)?;
/// let mut list = LongList::new(plan, row, 100_000, 40.0)?;
/// list.scroll_to(70_000, RowAt::Middle)?;
/// let view = Display::new(320, 400)?;
/// let rows = list.place(&view, &PlainText, |stop, content| {
///     content.words(name, &format!("Stop {stop}"));
/// })?;
/// let middle = rows.iter().find(|row| row.index == 70_000).ok_or("it is in sight")?;
/// assert_eq!((middle.top, middle.height), (182.0, 36.0));
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Debug)]
pub struct LongList {
    template: Plan,
    /// The view that is as tall as the row.
    row: ViewId,
    live: Live,
    heights: Heights,
    count: usize,
    margin: f64,
    anchor: Anchor,
    /// The rows that are placed, and stay so while the display does.
    placed: Vec<PlacedRow>,
    /// The display and the engine's revision that they were placed for.
    placed_on: Option<(Display, Option<u64>)>,
}

/// What of a list is in sight: a point of a row is so far below the same point of what is seen, both in fractions from the top.
#[derive(Clone, Copy, Debug, Default)]
struct Anchor {
    row: usize,
    point: f64,
    below: f64,
    /// Whether a row that is taller than what is seen is to begin at the top, whatever the point.
    from_top: bool,
}

/// Where a row is to be seen.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum RowAt {
    /// At the top.
    Top,
    /// With its middle in the middle.
    Middle,
    /// At the bottom.
    Bottom,
    /// Where it is, if all of it was in sight; otherwise at the edge that it is nearer to.
    InSight,
}

/// A row that is placed.
#[derive(Clone, Debug)]
pub struct PlacedRow {
    /// Its place among all rows, counted from 0.
    pub index: usize,
    /// How far it begins below the top of what is seen, in logical pixels; below zero above it.
    pub top: f64,
    /// How tall it is, in logical pixels.
    pub height: f64,
    /// The frames of the views in it, from the row's own left and top.
    pub frames: LiveFrames,
}

/// Why a list could not be changed or placed. Nothing has changed then.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
#[non_exhaustive]
pub enum ListError {
    /// A row that there is not.
    #[error("there is no row {row}: the list has {count}, counted from 0")]
    NoRow {
        /// The row.
        row: usize,
        /// How many there are.
        count: usize,
    },
    /// More rows than a list may have.
    #[error("too many rows: the limit is {MAX_ROWS}")]
    TooManyRows,
    /// A distance or height that is none.
    #[error("{what} is to be {number}; it has to be within {from} and {to}")]
    Number {
        /// What it is.
        what: &'static str,
        /// The number.
        number: f64,
        /// The least that it may be.
        from: f64,
        /// The most.
        to: f64,
    },
    /// A view of another screen was given as the row.
    #[error("the view that is as tall as a row has to be one of the screen of the row")]
    OtherScreen,
    /// The screen of the row is drawn for a size.
    #[error("the screen of a row cannot be scaled: leave out the size that it is drawn for")]
    Scaled,
    /// What a row was filled with is refused.
    #[error("row {row}: {error}")]
    Content {
        /// The row.
        row: usize,
        /// What a builder says of it.
        error: BuildErrors,
    },
    /// What a row was filled with is out of range.
    #[error("row {row}: {error}")]
    Setting {
        /// The row.
        row: usize,
        /// What a display says of it.
        error: DisplayError,
    },
    /// A row could not be placed.
    #[error("row {row}: {error}")]
    Place {
        /// The row.
        row: usize,
        /// Why.
        error: PlaceError,
    },
}

/// What one row shows. What is not given is as in the row's screen.
#[derive(Debug)]
pub struct RowContent<'a> {
    live: &'a mut Live,
    display: Display,
    row: usize,
    refused: Option<ListError>,
}

impl RowContent<'_> {
    /// The words of a text.
    pub fn words(&mut self, text: ViewId, words: &str) -> &mut Self {
        if let Err(EditError::Build(error)) = self.live.set_words(text, words) {
            self.refuse(|row| ListError::Content { row, error });
        }
        self
    }

    /// A parameter.
    pub fn parameter(&mut self, name: &str, number: impl Into<f64>) -> &mut Self {
        match self.display.clone().with_parameter(name, number) {
            Ok(display) => self.display = display,
            Err(error) => self.refuse(|row| ListError::Setting { row, error }),
        }
        self
    }

    /// Which alternative of a state is shown.
    pub fn state(&mut self, state: &str, alternative: &str) -> &mut Self {
        self.display = self.display.clone().with_state(state, alternative);
        self
    }

    /// The first refusal counts.
    fn refuse(&mut self, why: impl FnOnce(usize) -> ListError) {
        let row = self.row;
        self.refused.get_or_insert_with(|| why(row));
    }
}

impl LongList {
    /// A list of so many rows, each as tall as the view `row` of its screen. Until some were measured, each is taken to be as tall
    /// as `estimate` says, in logical pixels. It begins at its first row.
    ///
    /// # Errors
    /// A view of another screen, a screen that is scaled, more rows than [`MAX_ROWS`], an estimate that is not above zero.
    pub fn new(plan: Plan, row: ViewId, count: usize, estimate: impl Into<f64>) -> Result<Self, ListError> {
        let estimate = within("the estimate of a height", estimate.into(), 0.01, MAX_NUMBER)?;
        if plan.screen.view(row).is_none() {
            return Err(ListError::OtherScreen);
        }
        if plan.screen.design().is_some() {
            return Err(ListError::Scaled);
        }
        let mut list = Self {
            live: plan.live(),
            template: plan,
            row,
            heights: Heights::new(estimate),
            count: 0,
            margin: MARGIN,
            anchor: Anchor::default(),
            placed: Vec::new(),
            placed_on: None,
        };
        list.insert(0, count)?;
        list.anchor = Anchor::default();
        Ok(list)
    }

    /// Places rows so far above and below what is seen as well, in logical pixels; 200 without.
    ///
    /// # Errors
    /// A margin that is not within 0 to 10,000.
    pub fn with_margin(self, margin: impl Into<f64>) -> Result<Self, ListError> {
        let margin = within("the margin", margin.into(), 0.0, 10_000.0)?;
        Ok(Self { margin, ..self })
    }

    /// How many rows there are.
    pub fn len(&self) -> usize {
        self.count
    }

    /// Whether there are no rows.
    pub fn is_empty(&self) -> bool {
        self.count == 0
    }

    /// How tall all rows are together, in logical pixels, as far as it is known.
    pub fn extent(&self) -> f64 {
        self.heights.total()
    }

    /// How far the list is scrolled, in logical pixels, as far as it is known; see [`LongList::extent`].
    pub fn offset(&self) -> f64 {
        (self.heights.top(self.anchor.row) - self.anchor.below).min(self.extent()).max(0.0)
    }

    /// The rows that were placed last, in order.
    pub fn placed(&self) -> &[PlacedRow] {
        &self.placed
    }

    /// The row at a distance below the top of what is seen, of those that were placed last.
    pub fn row_at(&self, below: f64) -> Option<&PlacedRow> {
        self.placed.iter().find(|row| row.top <= below && below < row.top + row.height)
    }

    /// Puts rows before another one, or behind all of them. What is seen stays where it is.
    ///
    /// # Errors
    /// A place behind the end, more rows than [`MAX_ROWS`].
    pub fn insert(&mut self, before: usize, rows: usize) -> Result<(), ListError> {
        self.check(before, self.count)?;
        if rows > MAX_ROWS - self.count {
            return Err(ListError::TooManyRows);
        }
        self.put(before, &vec![None; rows]);
        Ok(())
    }

    fn put(&mut self, before: usize, heights: &[Option<f64>]) {
        let was_empty = self.count == 0;
        self.heights.insert(before, heights);
        self.count += heights.len();
        let later = self.placed.iter_mut().map(|row| &mut row.index);
        later.filter(|index| **index >= before).for_each(|index| *index += heights.len());
        if self.anchor.row >= before && !was_empty {
            self.anchor.row += heights.len();
        }
    }

    /// Takes rows out. What is seen stays where it is; where the first row in sight is taken out, the one that follows.
    ///
    /// # Errors
    /// Rows behind the end.
    pub fn remove(&mut self, rows: Range<usize>) -> Result<(), ListError> {
        self.check(rows.end, self.count)?;
        self.check(rows.start, rows.end)?;
        self.take(rows);
        Ok(())
    }

    fn take(&mut self, rows: Range<usize>) -> Vec<Option<f64>> {
        let heights = self.heights.remove(rows.clone());
        self.count -= rows.len();
        self.placed.retain(|row| !rows.contains(&row.index));
        let later = self.placed.iter_mut().filter(|row| row.index >= rows.end);
        later.for_each(|row| row.index -= rows.len());
        if rows.contains(&self.anchor.row) {
            // What comes next stays, if it is in sight.
            let next = self.placed.iter().find(|row| row.index >= rows.start);
            let below = next.map_or(0.0, |row| row.top);
            let row = next.map_or(rows.start, |row| row.index).min(self.count.saturating_sub(1));
            self.anchor = Anchor { row, below, ..Anchor::default() };
        } else if self.anchor.row >= rows.end {
            self.anchor.row -= rows.len();
        }
        heights
    }

    /// Moves a row before another one, or behind all of them; both counted as they are before.
    ///
    /// # Errors
    /// A row that there is not.
    pub fn move_before(&mut self, row: usize, before: usize) -> Result<(), ListError> {
        self.check_row(row)?;
        self.check(before, self.count)?;
        let heights = self.take(row..row + 1);
        self.put(before - usize::from(before > row), &heights);
        Ok(())
    }

    /// Says that what these rows show has changed: those in sight are filled again.
    ///
    /// # Errors
    /// Rows behind the end.
    pub fn changed(&mut self, rows: Range<usize>) -> Result<(), ListError> {
        self.check(rows.end, self.count)?;
        self.placed.retain(|row| !rows.contains(&row.index));
        Ok(())
    }

    /// Scrolls by a distance, in logical pixels, downwards where it is above zero. The ends of the list are kept when it is placed.
    ///
    /// # Errors
    /// A distance that is not finite.
    pub fn scroll_by(&mut self, by: impl Into<f64>) -> Result<(), ListError> {
        let by = within("the distance", by.into(), f64::MIN, f64::MAX)?;
        self.anchor.below -= by;
        // Far away, rows are passed over as tall as they are known or taken to be.
        let tall = self.placed_on.as_ref().map_or(0.0, |(display, _)| display.height()) + self.margin;
        if self.anchor.point == 0.0 && self.anchor.below.abs() > tall {
            let offset = self.offset();
            let (row, top) = self.heights.at(offset);
            self.anchor = Anchor { row, below: top - offset, ..Anchor::default() };
        }
        Ok(())
    }

    /// Scrolls to a row. The ends of the list are kept when it is placed.
    ///
    /// # Errors
    /// A row that there is not.
    pub fn scroll_to(&mut self, row: usize, at: RowAt) -> Result<(), ListError> {
        self.check_row(row)?;
        let point = match at {
            RowAt::Top => 0.0,
            RowAt::Middle => 0.5,
            RowAt::Bottom => 1.0,
            RowAt::InSight => {
                let tall = self.placed_on.as_ref().map_or(0.0, |(display, _)| display.height());
                let known = self.placed.iter().find(|placed| placed.index == row);
                // Where what is to be seen was changed since, it counts from there.
                let moved = self.placed.iter().find(|placed| placed.index == self.anchor.row);
                let moved = moved.map_or(0.0, |placed| self.anchor.below - placed.top);
                let top = known.map(|placed| (placed.top + moved, placed.height));
                match top {
                    Some((top, height)) if self.anchor.point == 0.0 && top >= 0.0 && top + height <= tall => {
                        return Ok(());
                    }
                    Some((top, height)) if top >= 0.0 && height <= tall => 1.0,
                    None if row > self.anchor.row => 1.0,
                    _ => 0.0,
                }
            }
        };
        self.anchor = Anchor { row, point, below: 0.0, from_top: at == RowAt::InSight };
        Ok(())
    }

    /// Places what is in sight: `display` is as wide and high as what is seen of the list, with the text scale, language and
    /// direction of the whole one. `fill` gives a row its content as it comes in sight; rows that stay in sight are kept, unless the
    /// display or the revision of the engine ([`Measure::revision`]) is another one or [`LongList::changed`] says so.
    /// It gives all rows that are in sight or in the margin, at most [`MAX_ROWS_PLACED`].
    ///
    /// # Errors
    /// What [`Plan::place`] says of a row, and content that is refused. The list is where it was then.
    pub fn place(
        &mut self,
        display: &Display,
        measure: &dyn Measure,
        mut fill: impl FnMut(usize, &mut RowContent<'_>),
    ) -> Result<&[PlacedRow], ListError> {
        let revision = measure.revision();
        let is_kept =
            |(on, of): &(Display, Option<u64>)| on == display && revision.is_some() && *of == revision;
        if !self.placed_on.as_ref().is_some_and(is_kept) {
            self.placed.clear();
            self.placed_on = Some((display.clone(), revision));
        }
        if self.count == 0 {
            (self.anchor, self.placed) = Default::default();
            return Ok(&[]);
        }
        // What is placed already stays in its list, which is as long as a display is high.
        let mut new = Vec::new();
        let tall = display.height();
        let height = self.row(self.anchor.row, display, measure, &mut fill, &mut new)?;
        let Anchor { row, point, below, from_top } = self.anchor;
        let (mut first, mut last) = (row, row);
        let point = if from_top && height > tall { 0.0 } else { point };
        let mut top = point * (tall - height) + below;
        let mut bottom = top + height;
        for _ in 0..MAX_SHIFTS {
            let is_full = |first: usize, last: usize| last - first + 1 >= MAX_ROWS_PLACED;
            while bottom < tall + self.margin && last + 1 < self.count && !is_full(first, last) {
                bottom += self.row(last + 1, display, measure, &mut fill, &mut new)?;
                last += 1;
            }
            while top > -self.margin && first > 0 && !is_full(first, last) {
                top -= self.row(first - 1, display, measure, &mut fill, &mut new)?;
                first -= 1;
            }
            // Nothing is seen behind the end, nor before the start.
            let mut by = 0.0;
            if last + 1 == self.count && bottom < tall {
                by = tall - bottom;
            }
            if first == 0 && top + by > 0.0 {
                by = -top;
            }
            if by == 0.0 {
                break;
            }
            (top, bottom) = (top + by, bottom + by);
        }
        self.show(first..last + 1, top, new);
        let margin = self.margin;
        self.placed.retain(|row| row.top + row.height >= -margin && row.top <= tall + margin);
        Ok(&self.placed)
    }

    /// How tall a row is, placed if it is not yet.
    fn row(
        &mut self,
        row: usize,
        display: &Display,
        measure: &dyn Measure,
        fill: &mut dyn FnMut(usize, &mut RowContent<'_>),
        new: &mut Vec<PlacedRow>,
    ) -> Result<f64, ListError> {
        if let Some(known) = self.placed.iter().chain(&*new).find(|placed| placed.index == row) {
            return Ok(known.height);
        }
        let begun = self.live.go_over_to(self.template.clone());
        debug_assert!(begun.is_ok(), "it is a plan of the same screen");
        let mut content = RowContent { live: &mut self.live, display: display.clone(), row, refused: None };
        fill(row, &mut content);
        let RowContent { display, refused, .. } = content;
        if let Some(refused) = refused {
            return Err(refused);
        }
        let placed = self.live.frames(&display, measure);
        let frames = placed.map_err(|error| ListError::Place { row, error })?;
        let height = frames.frame(self.row).map_or(0.0, |frame| frame.height);
        self.heights.set(row, height);
        new.push(PlacedRow { index: row, top: 0.0, height, frames });
        Ok(height)
    }

    /// Takes the rows that are in sight over, and holds on to the first one.
    fn show(&mut self, rows: Range<usize>, mut top: f64, new: Vec<PlacedRow>) {
        self.placed.extend(new);
        self.placed.retain(|row| rows.contains(&row.index));
        self.placed.sort_by_key(|row| row.index);
        for row in &mut self.placed {
            row.top = top;
            top += row.height;
        }
        let first = self.placed.iter().find(|row| row.top + row.height > 0.0).or(self.placed.first());
        if let Some(first) = first {
            self.anchor = Anchor { row: first.index, below: first.top, ..Anchor::default() };
        }
    }

    /// Whether a place is one of the list, its end included.
    fn check(&self, row: usize, end: usize) -> Result<(), ListError> {
        if row <= end { Ok(()) } else { Err(ListError::NoRow { row, count: self.count }) }
    }

    fn check_row(&self, row: usize) -> Result<(), ListError> {
        if row < self.count { Ok(()) } else { Err(ListError::NoRow { row, count: self.count }) }
    }
}

fn within(what: &'static str, number: f64, from: f64, to: f64) -> Result<f64, ListError> {
    match (from..=to).contains(&number) {
        true => Ok(number),
        false => Err(ListError::Number { what, number, from, to }),
    }
}
