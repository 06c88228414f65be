//! What is chosen of arrangements before rules are linear: which children stand in a line, which keep the
//! most they may take, and how many columns a grid has.
//!
//! The choice starts from the same state each time, never from the last answer: each child that wraps in a
//! line of its own, no share at its most, one column, and all spare children shown. The screen is solved,
//! what is chosen is worked out again from the sizes that came out, one kind after another, and so on until
//! nothing changes, a stated number of rounds at most. So a display alone decides what comes out, and
//! growing and shrinking back is the identity.

use crate::geometry::axis::Axis;
use crate::geometry::within;
use crate::model::arrangement::MAX_COLUMNS;
use crate::model::id::ViewId;
use crate::plan::cell_placement::cells;
use crate::tolerance::PLACED;
use std::collections::BTreeMap;
use std::sync::Arc;
use vantic_solver::work;

/// So many children that are looked through are a unit of work.
const CHILDREN: usize = 16;

/// What is chosen for a view; by default nothing yet.
#[derive(Clone, Debug, Default, PartialEq, Eq, PartialOrd, Ord)]
pub(crate) struct Chosen {
    /// How many children stand in each line, where they wrap.
    pub(crate) lines: Option<Vec<usize>>,
    /// Per child, whether it keeps the most that it may take; by default none does.
    pub(crate) at_most: Option<Vec<bool>>,
    /// How many columns a grid has, where as many are taken as fit.
    pub(crate) columns: Option<u32>,
    /// How many of the children are shown that are shown only where there is room.
    pub(crate) spares: Option<usize>,
    /// Whether the last of them is cut.
    pub(crate) cut: bool,
}

/// What is chosen for the views that arrange their children.
pub(crate) type Choices = BTreeMap<ViewId, Chosen>;

/// Lists that choosing uses again, so that it allocates nothing where the same comes out.
#[derive(Debug, Default)]
pub(crate) struct ChoosingLists {
    lines: Vec<Vec<usize>>,
    flags: Vec<Vec<bool>>,
    full: Vec<usize>,
    extents: Vec<(f64, f64)>,
    /// The views of which other shares keep their most.
    pub(crate) outer: Vec<(Axis, ViewId)>,
}

impl ChoosingLists {
    pub(crate) fn take_lines(&mut self, from: &mut Option<Vec<usize>>) {
        self.lines.extend(from.take());
    }

    pub(crate) fn take_flags(&mut self, from: &mut Option<Vec<bool>>) {
        self.flags.extend(from.take());
    }

    /// Nothing is chosen any more.
    pub(crate) fn take_back(&mut self, chosen: &mut Chosen) {
        self.take_lines(&mut chosen.lines);
        self.take_flags(&mut chosen.at_most);
        *chosen = Chosen::default();
    }

    /// A copy.
    pub(crate) fn flags_of(&mut self, flags: &[bool]) -> Vec<bool> {
        let mut copy = self.flags.pop().unwrap_or_default();
        copy.clear();
        copy.extend_from_slice(flags);
        copy
    }
}

/// What has to be known to choose again: expressions, or what they come out as.
#[derive(Clone, Debug)]
pub(crate) struct ChoiceInputs<T> {
    pub(crate) view: ViewId,
    /// Along which axis its children stand.
    pub(crate) axis: Axis,
    /// The views around it, from its parent outwards.
    pub(crate) around: Arc<[ViewId]>,
    pub(crate) wrapping: Option<Wrapping<T>>,
    /// One for each line in which something takes a share.
    pub(crate) shares: Vec<Shares<T>>,
    pub(crate) gridding: Option<ColumnFit<T>>,
    pub(crate) sparing: Option<SpareFit<T>>,
}

/// Children that are shown only where there is room.
#[derive(Clone, Debug)]
pub(crate) struct SpareFit<T> {
    /// Along which axis they take space.
    pub(crate) axis: Axis,
    /// Whether that space comes from outside, rather than from the children.
    pub(crate) is_given: bool,
    /// The space for all, along the only line, or across the lines.
    pub(crate) room: T,
    /// How far behind that the view's own edge is, where what is beyond the room is cut off.
    pub(crate) edge: T,
    /// How long each child is that way.
    pub(crate) sizes: Vec<T>,
    /// What stands before each in the only line; what stands between lines.
    pub(crate) gaps: Vec<T>,
    /// Per child: whether it is spare.
    pub(crate) spare: Vec<bool>,
    /// Per child: how much of it is to be seen at least, where it is shown cut.
    pub(crate) cut: Vec<Option<f64>>,
    pub(crate) stacked: Option<CrossLayout<T>>,
}

/// What stands in lines, where there is more than one.
#[derive(Clone, Debug, Default)]
pub(crate) enum CrossLayout<T> {
    /// Children that wrap, as [`Wrapping`] says.
    #[default]
    Lines,
    /// A grid: how many columns and rows each child takes, how many columns there are, and how high a row is
    /// where that is stated.
    Cells { spans: Vec<(u32, u32)>, columns: usize, row: Option<T> },
}

/// Columns of which as many are taken as fit: the space, the least width of one, and the distance between.
#[derive(Clone, Debug, Default)]
pub(crate) struct ColumnFit<T> {
    pub(crate) room: T,
    pub(crate) least: T,
    pub(crate) gap: T,
}

/// Lines: the space for each, and the children with what stands before each.
#[derive(Clone, Debug, Default)]
pub(crate) struct Wrapping<T> {
    pub(crate) room: T,
    pub(crate) sizes: Vec<T>,
    pub(crate) gaps: Vec<T>,
}

/// A line in which something takes a share.
#[derive(Clone, Debug, Default)]
pub(crate) struct Shares<T> {
    /// The first child of the line.
    pub(crate) first: usize,
    /// The room that is shared.
    pub(crate) room: T,
    /// Per child, then per space, what it takes; `None` for one with a size of its own.
    pub(crate) of: Vec<Option<Sharing<T>>>,
}

/// What takes a share.
#[derive(Clone, Debug)]
pub(crate) struct Sharing<T> {
    pub(crate) weight: f64,
    pub(crate) most: Option<T>,
    /// How much it takes so far.
    pub(crate) size: T,
}

impl<T> Shares<T> {
    pub(crate) fn has_most(&self) -> bool {
        self.of.iter().flatten().any(|s| s.most.is_some())
    }
}

impl Shares<f64> {
    /// Which keep the most that they may take: those that keep the others from their part of the space, and
    /// all where they cannot fill it. From one round to the next more do, never fewer.
    fn at_most(&self, so_far: Option<&[bool]>, at_most: &mut [bool], full: &mut Vec<usize>) {
        if let Some(known) = so_far.and_then(|all| all.get(self.first..self.first + self.of.len())) {
            at_most.copy_from_slice(known);
        }
        let free = || {
            let all = self.of.iter().zip(&*at_most).enumerate().filter(|(_, (_, at_most))| !**at_most);
            all.filter_map(|(i, (sharing, _))| Some((i, sharing.as_ref()?)))
        };
        let taken: f64 = self.of.iter().flatten().map(|s| s.size).sum();
        let unit = free().map(|(_, s)| s.size / s.weight).fold(f64::INFINITY, f64::min).max(0.0);
        let has_more = |s: &Sharing<f64>| s.size > unit * s.weight + PLACED;
        let is_full = |s: &Sharing<f64>| s.most.is_some_and(|most| s.size >= most - PLACED);
        full.clear();
        if taken < self.room - PLACED {
            full.extend(free().filter(|(_, s)| is_full(s)).map(|(i, _)| i));
        } else if taken <= self.room + PLACED && free().any(|(_, s)| has_more(s)) {
            full.extend(free().filter(|(_, s)| is_full(s) && !has_more(s)).map(|(i, _)| i));
        }
        full.iter().for_each(|&i| at_most[i] = true);
    }
}

/// Turns a list into another one, in the place of what was there.
fn put_list<T, U>(into: &mut Vec<U>, of: &[T], to: &mut dyn FnMut(&T) -> U) {
    into.clear();
    into.extend(of.iter().map(to));
}

/// The place of what may be there, made where it is there for the first time.
fn place_of<'a, T, U>(
    into: &'a mut Option<U>,
    of: Option<&'a T>,
    new: impl FnOnce() -> U,
) -> Option<(&'a mut U, &'a T)> {
    if of.is_none() {
        *into = None;
    }
    of.map(|of| (into.get_or_insert_with(new), of))
}

impl<T> ChoiceInputs<T> {
    /// The same with everything in it turned into something else.
    pub(crate) fn map<U: Default>(&self, to: &mut dyn FnMut(&T) -> U) -> ChoiceInputs<U> {
        let mut mapped = ChoiceInputs {
            view: self.view,
            axis: self.axis,
            around: self.around.clone(),
            wrapping: None,
            shares: Vec::new(),
            gridding: None,
            sparing: None,
        };
        mapped.put(self, to);
        mapped
    }
}

impl<U: Default> ChoiceInputs<U> {
    /// The same as another with everything in it turned into something else, in the lists that are there.
    pub(crate) fn put<T>(&mut self, of: &ChoiceInputs<T>, to: &mut dyn FnMut(&T) -> U) {
        (self.view, self.axis) = (of.view, of.axis);
        self.around.clone_from(&of.around);
        if let Some((own, of)) = place_of(&mut self.wrapping, of.wrapping.as_ref(), Wrapping::default) {
            own.room = to(&of.room);
            put_list(&mut own.sizes, &of.sizes, to);
            put_list(&mut own.gaps, &of.gaps, to);
        }
        self.shares.resize_with(of.shares.len(), Shares::default);
        for (own, of) in std::iter::zip(&mut self.shares, &of.shares) {
            own.first = of.first;
            own.room = to(&of.room);
            put_list(&mut own.of, &of.of, &mut |sharing| {
                sharing.as_ref().map(|s| Sharing {
                    weight: s.weight,
                    most: s.most.as_ref().map(&mut *to),
                    size: to(&s.size),
                })
            });
        }
        self.gridding = of.gridding.as_ref().map(|g| ColumnFit {
            room: to(&g.room),
            least: to(&g.least),
            gap: to(&g.gap),
        });
        if let Some((own, of)) = place_of(&mut self.sparing, of.sparing.as_ref(), || SpareFit::new(self.axis))
        {
            own.put(of, to);
        }
    }
}

/// The numbers that expressions come out as, in the lists that are there.
pub(crate) fn put_all<T, U: Default>(
    into: &mut Vec<ChoiceInputs<U>>,
    of: &[ChoiceInputs<T>],
    to: &mut dyn FnMut(&T) -> U,
) {
    if into.len() == of.len() {
        std::iter::zip(into, of).for_each(|(into, of)| into.put(of, to));
    } else {
        *into = of.iter().map(|of| of.map(to)).collect();
    }
}

impl<U: Default> SpareFit<U> {
    fn new(axis: Axis) -> Self {
        Self {
            axis,
            is_given: false,
            room: U::default(),
            edge: U::default(),
            sizes: Vec::new(),
            gaps: Vec::new(),
            spare: Vec::new(),
            cut: Vec::new(),
            stacked: None,
        }
    }

    fn put<T>(&mut self, of: &SpareFit<T>, to: &mut dyn FnMut(&T) -> U) {
        (self.axis, self.is_given) = (of.axis, of.is_given);
        self.room = to(&of.room);
        self.edge = to(&of.edge);
        put_list(&mut self.sizes, &of.sizes, to);
        put_list(&mut self.gaps, &of.gaps, to);
        self.spare.clone_from(&of.spare);
        self.cut.clone_from(&of.cut);
        if let Some((own, of)) = place_of(&mut self.stacked, of.stacked.as_ref(), CrossLayout::default) {
            match (own, of) {
                (own, CrossLayout::Lines) => *own = CrossLayout::Lines,
                (
                    CrossLayout::Cells { spans, columns, row },
                    CrossLayout::Cells { spans: spans_of, columns: columns_of, row: row_of },
                ) => {
                    spans.clone_from(spans_of);
                    *columns = *columns_of;
                    *row = row_of.as_ref().map(&mut *to);
                }
                (own, CrossLayout::Cells { spans, columns, row }) => {
                    let (spans, row) = (spans.clone(), row.as_ref().map(&mut *to));
                    *own = CrossLayout::Cells { spans, columns: *columns, row };
                }
            }
        }
    }
}

impl ChoiceInputs<f64> {
    /// How many of the spare children are shown, from the sizes that they have where all are, and whether the last of them
    /// is cut.
    pub(crate) fn count(&self, lists: &mut ChoosingLists) -> Option<(usize, bool)> {
        Some(self.sparing.as_ref()?.count(self.wrapping.as_ref(), lists))
    }

    /// Which axis spare children take space along that are still to be counted, and whether that is given.
    pub(crate) fn to_be_counted(&self, so_far: &Chosen) -> Option<(Axis, bool)> {
        self.sparing.as_ref().filter(|_| so_far.spares.is_none()).map(|s| (s.axis, s.is_given))
    }

    /// What is to be chosen where these are the numbers, and this was chosen so far; how many spare
    /// children are shown stays as it is.
    pub(crate) fn choose(&self, so_far: &Chosen, lists: &mut ChoosingLists) -> Chosen {
        let columns = self.gridding.as_ref().map(ColumnFit::columns);
        let mut at_most = lists.flags.pop().unwrap_or_default();
        at_most.clear();
        for line in self.shares.iter().filter(|line| line.has_most()) {
            let end = line.first + line.of.len();
            at_most.resize(at_most.len().max(end), false);
            line.at_most(so_far.at_most.as_deref(), &mut at_most[line.first..end], &mut lists.full);
        }
        let mut at_most = Some(at_most);
        if !at_most.iter().flatten().any(|is| *is) {
            lists.take_flags(&mut at_most);
        }
        let lines = self.wrapping.as_ref().map(|wrapping| {
            let mut lines = lists.lines.pop().unwrap_or_default();
            wrapping.lines(&mut lines);
            lines
        });
        Chosen { lines, at_most, columns, spares: so_far.spares, cut: so_far.cut }
    }
}

impl SpareFit<f64> {
    /// As many as fit, in order, and whether the last of them is cut.
    fn count(&self, wrapping: Option<&Wrapping<f64>>, lists: &mut ChoosingLists) -> (usize, bool) {
        let all = self.count_of_spares();
        let extents = &mut lists.extents;
        let in_a_row = self.stand_in_a_row(wrapping);
        extents.clear();
        if in_a_row {
            extents.extend(self.extents_in_a_row());
        }
        let extent = |shown: usize| if in_a_row { extents[shown] } else { self.extent(shown, wrapping) };
        let fit = (0..=all).rev().find(|&shown| extent(shown).0 <= self.room + PLACED).unwrap_or(0);
        // Of the next line, all that would stand in it: as many more as end at the same place.
        let behind = self.spare.iter().rposition(|spare| !spare).map_or(0, |last| last + 1);
        let more = (fit + 1..=all).take_while(|&shown| {
            let (_, before) = extent(shown);
            let last =
                (0..self.spare.len()).filter(|&i| self.spare[i]).nth(shown - 1).filter(|&i| i >= behind);
            last.and_then(|i| self.cut[i]).is_some_and(|cut| before + cut <= self.room + self.edge + PLACED)
        });
        match more.last() {
            Some(shown) => (shown, true),
            None => (fit, false),
        }
    }

    pub(crate) fn count_of_spares(&self) -> usize {
        self.spare.iter().filter(|spare| **spare).count()
    }

    /// Whether children stand one after another, and not in lines or cells.
    fn stand_in_a_row(&self, wrapping: Option<&Wrapping<f64>>) -> bool {
        let is_stacked = (&self.stacked, wrapping);
        !matches!(is_stacked, (Some(CrossLayout::Cells { .. }), _) | (Some(CrossLayout::Lines), Some(_)))
    }

    /// [`Self::extent`] for one number of spare children after the other, where they stand one after another.
    fn extents_in_a_row(&self) -> impl Iterator<Item = (f64, f64)> {
        work::spend(self.sizes.len() / CHILDREN);
        let each =
            || (0..self.sizes.len()).map(|i| (self.spare[i], self.sizes[i], self.sizes[i] + self.gaps[i]));
        let mut end: f64 = each().filter(|(is_spare, ..)| !is_spare).map(|(.., by)| by).sum();
        let none = (end, end);
        let spare = each().filter(|(is_spare, ..)| *is_spare);
        std::iter::once(none).chain(spare.map(move |(_, size, by)| {
            end += by;
            (end, end - size)
        }))
    }

    /// How far children reach where so many of the spare ones are shown, and where the last line begins.
    pub(crate) fn extent(&self, shown: usize, wrapping: Option<&Wrapping<f64>>) -> (f64, f64) {
        work::spend(1 + self.sizes.len() / CHILDREN);
        let mut spare = 0;
        let is_there = |&i: &usize| {
            spare += usize::from(self.spare[i]);
            !self.spare[i] || spare <= shown
        };
        let there = (0..self.sizes.len()).filter(is_there);
        let between = self.gaps.first().copied().unwrap_or(0.0);
        // Where the last line begins, and how high it is.
        let (mut before, mut last) = (0.0, None);
        let mut end_line =
            |highest: f64| before += last.replace(highest).map_or(0.0, |line: f64| line + between);
        match (&self.stacked, wrapping) {
            (Some(CrossLayout::Cells { spans, columns, row }), _) => {
                let there: Vec<usize> = there.collect();
                let spans: Vec<(u32, u32)> = there.iter().map(|&i| spans[i]).collect();
                let cells = cells(*columns, &spans);
                let rows = cells.iter().map(|c| c.row + c.down).max().unwrap_or(0);
                let mut heights = vec![row.unwrap_or(0.0); rows];
                for (&i, c) in std::iter::zip(&there, &cells).filter(|(_, c)| row.is_none() && c.down == 1) {
                    heights[c.row] = heights[c.row].max(self.sizes[i]);
                }
                heights.into_iter().for_each(end_line);
            }
            (Some(CrossLayout::Lines), Some(wrapping)) => {
                let mut line: Option<f64> = None;
                wrapping.wrap(there, &mut |child, begins| {
                    let so_far = match begins {
                        true => line.take().map(&mut end_line).map_or(0.0, |()| 0.0),
                        false => line.unwrap_or(0.0),
                    };
                    line = Some(so_far.max(self.sizes[child]));
                });
                line.into_iter().for_each(end_line);
            }
            _ => {
                let mut extents = self.extents_in_a_row().take(shown + 1);
                return extents.by_ref().last().unwrap_or_default();
            }
        }
        (before + last.unwrap_or(0.0), before)
    }
}

impl ColumnFit<f64> {
    /// As many columns as fit, one at least.
    fn columns(&self) -> u32 {
        let each = (self.least + self.gap).max(PLACED);
        let fit = ((self.room + self.gap + PLACED) / each).floor();
        within(fit, 1.0, f64::from(MAX_COLUMNS)) as u32
    }
}

impl Wrapping<f64> {
    /// As many children in a line as fit, in order; one that fits in none has a line of its own.
    fn lines(&self, lines: &mut Vec<usize>) {
        lines.clear();
        self.wrap(0..self.sizes.len(), &mut |_, begins| match lines.last_mut() {
            Some(line) if !begins => *line += 1,
            _ => lines.push(1),
        });
    }

    /// Tells of some children, in order, whether each begins a line.
    fn wrap(&self, children: impl Iterator<Item = usize>, put: &mut dyn FnMut(usize, bool)) {
        let mut taken = None;
        for child in children {
            let (size, gap) = (self.sizes[child], self.gaps[child]);
            let with = taken.unwrap_or(0.0) + gap + size;
            let begins = taken.is_none() || with > self.room + PLACED;
            taken = Some(if begins && taken.is_some() { size } else { with });
            put(child, begins);
        }
    }
}
