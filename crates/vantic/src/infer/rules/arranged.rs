//! Rows and columns read off drawings.

use crate::infer::rules::relation::{Point, Relation, Target, What};
use crate::infer::rules::table::{Extent, Sheet, Table, index};
use vantic_core::geometry::Axis;
use vantic_core::words::number;

/// What a relation costs that a row or column says.
const IN_LINE: f64 = 0.4;

/// The longest distance in a row or column: what is further apart stands for itself.
const MAX_USUAL: f64 = 64.0;

/// Where children stand across a line.
#[derive(Clone, Copy, Debug, PartialEq)]
enum Align {
    Start(f64),
    End(f64),
    Center,
    Stretch(f64, f64),
}

/// A view whose children stand in a row or column.
#[derive(Clone, Debug)]
pub(super) struct Line {
    pub(super) parent: usize,
    axis: Axis,
    gap: f64,
    /// Before the first child.
    before: f64,
    align: Align,
    /// All children of the view, those of the line in its order.
    pub(super) painted: Vec<usize>,
    /// The children that are not in the line.
    pub(super) apart: Vec<usize>,
    /// What it says.
    pub(super) relations: Vec<Relation>,
}

impl Line {
    /// Why there is one.
    pub(super) const REASON: &'static str = "its views stand in a line, with the same distances";

    /// As a line of a screen file.
    pub(super) fn text(&self) -> String {
        let word = if self.axis == Axis::Across { "row" } else { "column" };
        let (align, near, far) = match self.align {
            Align::Start(near) => ("", near, 0.0),
            Align::End(far) => ("align end", 0.0, far),
            Align::Center => ("align center", 0.0, 0.0),
            Align::Stretch(near, far) => ("align stretch", near, far),
        };
        let mut clauses = Vec::new();
        if self.gap != 0.0 {
            clauses.push(format!("gap {}", number(self.gap)));
        }
        let sides = match self.axis {
            Axis::Across => [self.before, near, 0.0, far],
            Axis::Down => [near, self.before, far, 0.0],
        };
        if sides != [0.0; 4] {
            let all: Vec<String> = sides.iter().map(|side| number(*side)).collect();
            clauses.push(format!("padding ({})", all.join(", ")));
        }
        if !align.is_empty() {
            clauses.push(align.to_owned());
        }
        format!("{word} {}", clauses.join(", ")).trim_end().to_owned()
    }
}

/// Looks for rows and columns that are in all drawings.
pub(super) fn lines(table: &Table, slack: f64) -> Vec<Line> {
    (0..table.views.len()).filter_map(|view| line(table, slack, view)).collect()
}

fn line(table: &Table, slack: f64, parent: usize) -> Option<Line> {
    let children = &table.views[parent].children;
    if !table.is_everywhere(parent) || children.iter().any(|&child| !table.is_everywhere(child)) {
        return None;
    }
    let extent = |sheet: &Sheet, view: usize, axis: Axis| sheet.boxes[view].map(|b| b[index(axis)]);
    let constant = |value: &dyn Fn(&Sheet) -> Option<f64>| table.constant(slack, value);
    // What fills its parent is behind the line.
    let fills = |&child: &usize| {
        [Axis::Across, Axis::Down].into_iter().all(|axis| {
            constant(&|sheet| Some(extent(sheet, child, axis)?.size - extent(sheet, parent, axis)?.size))
                == Some(0.0)
        })
    };
    let (apart, mut flow): (Vec<usize>, Vec<usize>) = children.iter().copied().partition(fills);
    if flow.len() < 2 {
        return None;
    }
    for axis in [Axis::Down, Axis::Across] {
        let other = if axis == Axis::Down { Axis::Across } else { Axis::Down };
        flow.sort_by(|&a, &b| {
            let near = |view| extent(&table.sheets[0], view, axis).map_or(0.0, |e| e.near);
            near(a).total_cmp(&near(b))
        });
        let between = |pair: &[usize]| {
            constant(&|sheet| Some(extent(sheet, pair[1], axis)?.near - extent(sheet, pair[0], axis)?.far()))
        };
        let mut gaps = flow.windows(2).map(between);
        let Some(Some(gap)) = gaps.next() else { continue };
        let is_usual = |by: f64| (0.0..=MAX_USUAL).contains(&by) && by == by.round();
        if !is_usual(gap) || !gaps.all(|other| other == Some(gap)) {
            continue;
        }
        let inset = |view: usize, point: Point, axis: Axis| {
            constant(&|sheet| {
                let own: Extent = extent(sheet, view, axis)?;
                Some(point.of(own) - point.of(extent(sheet, parent, axis)?))
            })
        };
        let Some(before) = inset(flow[0], Point::Near, axis).filter(|before| is_usual(*before)) else {
            continue;
        };
        let same = |point: Point| {
            let mut all = flow.iter().map(|&view| inset(view, point, other));
            let first = all.next()??;
            all.all(|by| by == Some(first)).then_some(first)
        };
        let (near, far) =
            (same(Point::Near).filter(|by| is_usual(*by)), same(Point::Far).filter(|by| is_usual(-*by)));
        let align = match (near, far) {
            (Some(near), Some(far)) => Align::Stretch(near, -far),
            (Some(near), None) => Align::Start(near),
            (None, Some(far)) => Align::End(-far),
            (None, None) if same(Point::Center) == Some(0.0) => Align::Center,
            _ => continue,
        };
        let relations = relations(parent, axis, &flow, (before, gap), align);
        let painted = apart.iter().chain(&flow).copied().collect();
        return Some(Line { parent, axis, gap, before, align, painted, apart, relations });
    }
    None
}

fn relations(
    parent: usize,
    axis: Axis,
    flow: &[usize],
    (before, gap): (f64, f64),
    align: Align,
) -> Vec<Relation> {
    let other = if axis == Axis::Down { Axis::Across } else { Axis::Down };
    let around = Target::View(parent);
    let mut all = Vec::new();
    let mut put = |view: usize, axis: Axis, own: Point, target: Target, point: Point, by: f64| {
        all.push(Relation { view, axis, what: What::At { own, target, point, by }, cost: IN_LINE });
    };
    for (at, &view) in flow.iter().enumerate() {
        match at.checked_sub(1) {
            None => put(view, axis, Point::Near, around, Point::Near, before),
            Some(last) => put(view, axis, Point::Near, Target::View(flow[last]), Point::Far, gap),
        }
        match align {
            Align::Start(near) => put(view, other, Point::Near, around, Point::Near, near),
            Align::End(far) => put(view, other, Point::Far, around, Point::Far, -far),
            Align::Center => put(view, other, Point::Center, around, Point::Center, 0.0),
            Align::Stretch(near, far) => {
                put(view, other, Point::Near, around, Point::Near, near);
                put(view, other, Point::Far, around, Point::Far, -far);
            }
        }
    }
    all
}
