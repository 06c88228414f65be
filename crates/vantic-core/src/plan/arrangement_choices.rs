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
#[derive(Clone, Debug)]
pub(crate) enum CrossLayout<T> {
    /// Children that wrap, as [`Wrapping`] says.
    Lines,
    /// A grid: how many columns and rows each child takes, how many columns there are, and how high a row is
    /// where that is stated.
    Cells { spans: Vec<(u32, u32)>, columns: usize, row: Option<T> },
}

/// Columns of which as many are taken as fit: the space, the least width of one, and the distance between.
#[derive(Clone, Debug)]
pub(crate) struct ColumnFit<T> {
    pub(crate) room: T,
    pub(crate) least: T,
    pub(crate) gap: T,
}

/// Lines: the space for each, and the children with what stands before each.
#[derive(Clone, Debug)]
pub(crate) struct Wrapping<T> {
    pub(crate) room: T,
    pub(crate) sizes: Vec<T>,
    pub(crate) gaps: Vec<T>,
}

/// A line in which something takes a share.
#[derive(Clone, Debug)]
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
    fn at_most(&self, so_far: Option<&[bool]>) -> Vec<bool> {
        let known = so_far.and_then(|all| all.get(self.first..self.first + self.of.len()));
        let mut at_most = known.map_or_else(|| vec![false; self.of.len()], <[bool]>::to_vec);
        let free = || {
            let all = self.of.iter().zip(&at_most).enumerate().filter(|(_, (_, at_most))| !**at_most);
            all.filter_map(|(i, (sharing, _))| Some((i, sharing.as_ref()?)))
        };
        let taken: f64 = self.of.iter().flatten().map(|s| s.size).sum();
        let unit = free().map(|(_, s)| s.size / s.weight).fold(f64::INFINITY, f64::min).max(0.0);
        let has_more = |s: &Sharing<f64>| s.size > unit * s.weight + PLACED;
        let is_full = |s: &Sharing<f64>| s.most.is_some_and(|most| s.size >= most - PLACED);
        let full: Vec<usize> = if taken < self.room - PLACED {
            free().filter(|(_, s)| is_full(s)).map(|(i, _)| i).collect()
        } else if taken <= self.room + PLACED && free().any(|(_, s)| has_more(s)) {
            free().filter(|(_, s)| is_full(s) && !has_more(s)).map(|(i, _)| i).collect()
        } else {
            Vec::new()
        };
        full.into_iter().for_each(|i| at_most[i] = true);
        at_most
    }
}

impl<T> ChoiceInputs<T> {
    /// The same with everything in it turned into something else.
    pub(crate) fn map<U>(&self, to: &mut dyn FnMut(&T) -> U) -> ChoiceInputs<U> {
        let wrapping = self.wrapping.as_ref().map(|w| Wrapping {
            room: to(&w.room),
            sizes: w.sizes.iter().map(&mut *to).collect(),
            gaps: w.gaps.iter().map(&mut *to).collect(),
        });
        let shares = self.shares.iter().map(|line| {
            let room = to(&line.room);
            let of = line.of.iter().map(|sharing| {
                sharing.as_ref().map(|s| Sharing {
                    weight: s.weight,
                    most: s.most.as_ref().map(&mut *to),
                    size: to(&s.size),
                })
            });
            Shares { first: line.first, room, of: of.collect() }
        });
        let shares = shares.collect();
        let gridding = self.gridding.as_ref().map(|g| ColumnFit {
            room: to(&g.room),
            least: to(&g.least),
            gap: to(&g.gap),
        });
        let sparing = self.sparing.as_ref().map(|s| SpareFit {
            axis: s.axis,
            is_given: s.is_given,
            room: to(&s.room),
            edge: to(&s.edge),
            sizes: s.sizes.iter().map(&mut *to).collect(),
            gaps: s.gaps.iter().map(&mut *to).collect(),
            spare: s.spare.clone(),
            cut: s.cut.clone(),
            stacked: s.stacked.as_ref().map(|stacked| match stacked {
                CrossLayout::Lines => CrossLayout::Lines,
                CrossLayout::Cells { spans, columns, row } => CrossLayout::Cells {
                    spans: spans.clone(),
                    columns: *columns,
                    row: row.as_ref().map(&mut *to),
                },
            }),
        });
        ChoiceInputs {
            view: self.view,
            axis: self.axis,
            around: self.around.clone(),
            wrapping,
            shares,
            gridding,
            sparing,
        }
    }
}

impl ChoiceInputs<f64> {
    /// How many of the spare children are shown, from the sizes that they have where all are.
    pub(crate) fn count(&self, so_far: &Chosen) -> Option<Chosen> {
        let (shown, cut) = self.sparing.as_ref()?.count(self.wrapping.as_ref());
        Some(Chosen { spares: Some(shown), cut, lines: None, ..so_far.clone() })
    }

    /// Which axis spare children take space along that are still to be counted, and whether that is given.
    pub(crate) fn to_be_counted(&self, so_far: &Chosen) -> Option<(Axis, bool)> {
        self.sparing.as_ref().filter(|_| so_far.spares.is_none()).map(|s| (s.axis, s.is_given))
    }

    /// What is to be chosen where these are the numbers, and this was chosen so far; how many spare
    /// children are shown stays as it is.
    pub(crate) fn choose(&self, so_far: &Chosen) -> Chosen {
        let columns = self.gridding.as_ref().map(ColumnFit::columns);
        let mut at_most: Vec<bool> = Vec::new();
        for line in self.shares.iter().filter(|line| line.has_most()) {
            at_most.resize(at_most.len().max(line.first + line.of.len()), false);
            let of = line.at_most(so_far.at_most.as_deref());
            at_most[line.first..line.first + of.len()].copy_from_slice(&of);
        }
        let at_most = Some(at_most).filter(|all| all.contains(&true));
        let lines = self.wrapping.as_ref().map(Wrapping::lines);
        Chosen { lines, at_most, columns, spares: so_far.spares, cut: so_far.cut }
    }
}

impl SpareFit<f64> {
    /// As many as fit, in order, and whether the last of them is cut.
    fn count(&self, wrapping: Option<&Wrapping<f64>>) -> (usize, bool) {
        let all = self.count_of_spares();
        let in_a_row = self.stand_in_a_row(wrapping).then(|| self.extents_in_a_row());
        let extent = |shown: usize| match &in_a_row {
            Some(extents) => extents[shown],
            None => self.extent(shown, wrapping),
        };
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

    /// [`Self::extent`] for each number of spare children in one go, where they stand one after another.
    fn extents_in_a_row(&self) -> Vec<(f64, f64)> {
        work::spend(self.sizes.len() / CHILDREN);
        let each =
            || (0..self.sizes.len()).map(|i| (self.spare[i], self.sizes[i], self.sizes[i] + self.gaps[i]));
        let mut end: f64 = each().filter(|(is_spare, ..)| !is_spare).map(|(.., by)| by).sum();
        let mut all = vec![(end, end)];
        for (_, size, by) in each().filter(|(is_spare, ..)| *is_spare) {
            end += by;
            all.push((end, end - size));
        }
        all
    }

    /// How far children reach where so many of the spare ones are shown, and where the last line begins.
    pub(crate) fn extent(&self, shown: usize, wrapping: Option<&Wrapping<f64>>) -> (f64, f64) {
        work::spend(1 + self.sizes.len() / CHILDREN);
        let mut spare = 0;
        let is_there = |&i: &usize| {
            spare += usize::from(self.spare[i]);
            !self.spare[i] || spare <= shown
        };
        let there: Vec<usize> = (0..self.sizes.len()).filter(is_there).collect();
        let end_of = |lines: &[f64], gap: f64| {
            let before: f64 = lines.iter().rev().skip(1).map(|line| line + gap).sum();
            (before + lines.last().copied().unwrap_or(0.0), before)
        };
        let highest = |line: &[usize]| line.iter().map(|&i| self.sizes[i]).fold(0.0, f64::max);
        let between = self.gaps.first().copied().unwrap_or(0.0);
        match (&self.stacked, wrapping) {
            (Some(CrossLayout::Cells { spans, columns, row }), _) => {
                let spans: Vec<(u32, u32)> = there.iter().map(|&i| spans[i]).collect();
                let cells = cells(*columns, &spans);
                let rows = cells.iter().map(|c| c.row + c.down).max().unwrap_or(0);
                let mut heights = vec![row.unwrap_or(0.0); rows];
                for (&i, c) in std::iter::zip(&there, &cells).filter(|(_, c)| row.is_none() && c.down == 1) {
                    heights[c.row] = heights[c.row].max(self.sizes[i]);
                }
                end_of(&heights, between)
            }
            (Some(CrossLayout::Lines), Some(wrapping)) => {
                let pick = |of: &[f64]| there.iter().map(|&i| of[i]).collect();
                let (sizes, gaps) = (pick(&wrapping.sizes), pick(&wrapping.gaps));
                let lines = Wrapping { room: wrapping.room, sizes, gaps }.lines();
                let mut left = there.as_slice();
                let heights: Vec<f64> = lines
                    .iter()
                    .map(|&children| {
                        let (line, rest) = left.split_at(children);
                        left = rest;
                        highest(line)
                    })
                    .collect();
                end_of(&heights, between)
            }
            _ => {
                let all = self.extents_in_a_row();
                all[shown.min(all.len() - 1)]
            }
        }
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
    fn lines(&self) -> Vec<usize> {
        let mut lines: Vec<usize> = Vec::new();
        let mut taken = 0.0;
        for (index, (size, gap)) in std::iter::zip(&self.sizes, &self.gaps).enumerate() {
            let with = taken + gap + size;
            match lines.last_mut().filter(|_| with <= self.room + PLACED) {
                Some(line) => {
                    *line += 1;
                    taken = with;
                }
                None => {
                    lines.push(1);
                    taken = if index == 0 { with } else { *size };
                }
            }
        }
        lines
    }
}
