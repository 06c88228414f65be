//! Children in the cells of a grid: which cell each takes, and where cells are.

use crate::geometry::axis::Axis;
use crate::model::arrangement::{Align, Arrangement, ColumnWidth, Columns, MAX_COLUMNS};
use crate::model::edges::{ACROSS, DOWN};
use crate::model::expression::{Coordinates, Expr};
use crate::model::id::ViewId;
use crate::model::screen::Screen;
use crate::plan::arrangement_choices::{ChoiceInputs, Chosen, ColumnFit, CrossLayout, SpareFit};
use crate::plan::cell_placement::{Cells, cells};
use crate::plan::compile::layout_rules::{
    Arrangements, GridCells, LayoutStrength, RuleSink, inner, max_of, padding,
};
use crate::plan::variant::{Variant, item, takes_part};

/// A view with its children in cells.
pub(crate) struct Grid<'a> {
    view: ViewId,
    /// The box that it arranges them in.
    inner: ViewId,
    arrangement: &'a Arrangement,
    columns: &'a Columns,
    items: Vec<ViewId>,
    spans: Vec<(u32, u32)>,
    aligns: Vec<Align>,
    /// Whether each is shown only where there is room, and how much of it is to be seen where it is cut.
    spare: Vec<bool>,
    cut: Vec<Option<f64>>,
}

impl<'a> Grid<'a> {
    pub(crate) fn new(
        screen: &Screen,
        variant: &Variant,
        view: ViewId,
        arrangement: &'a Arrangement,
        columns: &'a Columns,
    ) -> Self {
        let children = &variant.view(screen, view).children;
        let items: Vec<ViewId> =
            children.iter().copied().filter(|&c| takes_part(screen, variant, c)).collect();
        let said = || items.iter().map(|&c| item(variant.view(screen, c)));
        let spans = said().map(|i| i.cells.unwrap_or((1, 1))).collect();
        let aligns = said().map(|i| i.sit.unwrap_or(arrangement.align)).collect();
        let (spare, cut) = said().map(|i| (i.spare, i.cut)).unzip();
        let inner = inner(screen, view);
        Self { view, inner, arrangement, columns, items, spans, aligns, spare, cut }
    }

    pub(crate) fn place(&self, screen: &Screen, variant: &Variant, chosen: &Chosen, all: &mut Arrangements) {
        let first = self.items.first();
        if first.is_none() && chosen.spares.is_none() {
            return;
        }
        let count = self.columns.count.or(chosen.columns).unwrap_or(1).clamp(1, MAX_COLUMNS);
        let cells = cells(count as usize, &self.spans);
        let rows = cells.iter().map(|c| c.row + c.down).max().unwrap_or(0);
        let start = self.inner.start() + padding(self.arrangement, ACROSS.near);
        let end = self.inner.end() - padding(self.arrangement, ACROSS.far);
        let top = self.inner.top() + padding(self.arrangement, DOWN.near);
        let bottom = self.inner.bottom() - padding(self.arrangement, DOWN.far);
        let room = end.clone() - start.clone();
        let mut out = RuleSink::new(screen, variant, self.view, all);
        first.into_iter().for_each(|&first| out.hug(first, ACROSS.size));
        let width = self.across(&mut out, &cells, count, (&start, &end), &room);
        let is_given = out.is_given(DOWN.size);
        let is_counted = chosen.spares.is_some();
        let sparing = (is_counted || self.spare.contains(&true))
            .then(|| self.sparing(count as usize, bottom.clone() - top.clone(), is_given));
        let counts = sparing.is_some() && !is_counted;
        match first {
            Some(&first) if counts => out.grow(first, DOWN.size, None),
            Some(&first) => out.hug(first, DOWN.size),
            None => {}
        }
        // Where all are shown to be measured, they may go beyond the end; so may the last that is shown cut.
        let beyond = counts || chosen.cut;
        self.down(&mut out, &cells, rows, (&top, &bottom), beyond);

        let spans = std::iter::zip(&self.items, &self.spans);
        let too_wide = spans.filter(|(_, span)| span.0 > count).map(|(&child, _)| child).collect();
        let least = match &self.columns.width {
            ColumnWidth::AtLeast(least) => Some(least.clone()),
            _ => None,
        };
        let (view, columns, rows) = (self.view, count, rows as u32);
        out.all.grids.push(GridCells { view, columns, rows, width, least, too_wide });
        let gridding = match (self.columns.count, self.columns.length()) {
            (None, Some(least)) => {
                Some(ColumnFit { room, least: least.clone(), gap: self.arrangement.gap.clone() })
            }
            _ => None,
        };
        if gridding.is_some() || sparing.is_some() {
            let (view, shares, around) = (self.view, Vec::new(), screen.ancestors(self.view).collect());
            out.all.probes.push(ChoiceInputs {
                view,
                axis: Axis::Across,
                around,
                wrapping: None,
                shares,
                gridding,
                sparing,
            });
        }
    }

    /// Children that are shown only where there is room.
    fn sparing(&self, columns: usize, room: Expr, is_given: bool) -> SpareFit<Expr> {
        let sizes = self.items.iter().map(|child| child.height()).collect();
        let row = self.arrangement.rows.clone();
        let (spare, cut) = (self.spare.clone(), self.cut.clone());
        let stacked = Some(CrossLayout::Cells { spans: self.spans.clone(), columns, row });
        let gaps = vec![self.gap_down().clone()];
        let (axis, edge) = (Axis::Down, padding(self.arrangement, DOWN.far));
        SpareFit { axis, is_given, room, edge, sizes, gaps, spare, cut, stacked }
    }

    /// The distance between rows.
    fn gap_down(&self) -> &Expr {
        self.arrangement.wrap.as_ref().unwrap_or(&self.arrangement.gap)
    }

    /// The columns: how wide each is, where they are alike.
    fn across(
        &self,
        out: &mut RuleSink,
        cells: &[Cells],
        count: u32,
        (start, end): (&Expr, &Expr),
        room: &Expr,
    ) -> Option<Expr> {
        let gap = &self.arrangement.gap;
        let width = match &self.columns.width {
            ColumnWidth::Equal | ColumnWidth::AtLeast(_) => {
                let count = f64::from(count);
                Some((room.clone() - gap.clone() * (count - 1.0)) * (1.0 / count))
            }
            ColumnWidth::Of(width) => Some(width.clone()),
            ColumnWidth::Snug => None,
        };
        let mut near = start.clone();
        let mut edges: Vec<(Expr, Expr)> = Vec::new();
        for column in 0..count as usize {
            if let Some(width) = &width {
                let near = start.clone() + (width.clone() + gap.clone()) * column as f64;
                edges.push((near.clone(), near + width.clone()));
                continue;
            }
            let members = self.members(cells, |c| c.column == column && c.across == 1);
            let far = if members.is_empty() { near.clone() } else { out.track(&members, ACROSS, &near) };
            edges.push((near, far.clone()));
            near = far + gap.clone();
        }
        let is_given = match &self.columns.width {
            ColumnWidth::Equal | ColumnWidth::AtLeast(_) => out.is_given(ACROSS.size),
            ColumnWidth::Of(_) => true,
            ColumnWidth::Snug => false,
        };
        for ((&child, &align), c) in self.items.iter().zip(&self.aligns).zip(cells) {
            if width.is_some() || c.across > 1 {
                let (first, last) = (&edges[c.column].0, &edges[c.column + c.across - 1].1);
                out.lie(child, ACROSS, align, (first, last), is_given);
                if align != Align::Stretch {
                    out.within(child, LayoutStrength::Whole, child.width(), last.clone() - first.clone());
                }
            }
        }
        if let (ColumnWidth::Of(_) | ColumnWidth::Snug, Some((_, last)), Some(&child)) =
            (&self.columns.width, edges.last(), self.items.first())
        {
            out.within(child, LayoutStrength::Whole, last.clone(), end.clone());
        }
        width
    }

    /// The rows: each as high as stated, or as its highest child.
    fn down(
        &self,
        out: &mut RuleSink,
        cells: &[Cells],
        rows: usize,
        (top, bottom): (&Expr, &Expr),
        beyond: bool,
    ) {
        let gap = self.gap_down();
        let mut near = top.clone();
        let mut edges: Vec<(Expr, Expr)> = Vec::new();
        let mut by_row: Vec<Vec<usize>> = vec![Vec::new(); rows];
        let mut ending: Vec<Vec<usize>> = vec![Vec::new(); rows];
        for (index, c) in cells.iter().enumerate() {
            by_row[c.row].extend((c.down == 1).then_some(index));
            ending[c.row + c.down - 1].push(index);
        }
        for row in 0..rows {
            let mut far = match &self.arrangement.rows {
                Some(height) => {
                    near = top.clone() + (height.clone() + gap.clone()) * row as f64;
                    near.clone() + height.clone()
                }
                None if by_row[row].is_empty() => near.clone(),
                None => {
                    let members: Vec<(ViewId, Align)> =
                        by_row[row].iter().map(|&i| (self.items[i], self.aligns[i])).collect();
                    out.track(&members, DOWN, &near)
                }
            };
            edges.push((near.clone(), far.clone()));
            let mut ends = vec![far.clone()];
            for &index in &ending[row] {
                let (child, align, c) = (self.items[index], self.aligns[index], cells[index]);
                if self.arrangement.rows.is_some() || c.down > 1 {
                    let is_given = self.arrangement.rows.is_some();
                    out.lie(child, DOWN, align, (&edges[c.row].0, &far), is_given);
                    if align != Align::Stretch && self.arrangement.rows.is_none() {
                        ends.push(child.bottom());
                    }
                }
                if row + 1 == rows && !beyond {
                    out.within(child, LayoutStrength::Whole, child.bottom(), bottom.clone());
                }
            }
            far = max_of(ends);
            near = far + gap.clone();
        }
    }

    fn members(&self, cells: &[Cells], which: impl Fn(&Cells) -> bool) -> Vec<(ViewId, Align)> {
        let all = self.items.iter().zip(&self.aligns).zip(cells);
        all.filter(|(_, c)| which(c)).map(|((&child, &align), _)| (child, align)).collect()
    }
}
