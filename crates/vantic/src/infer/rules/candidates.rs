//! What holds in all drawings, with what it costs to say it.

use crate::infer::grouping::ends;
use crate::infer::rules::costs::{
    ALIGNED, ASKEW, BESIDE, CENTERED, CENTERED_BY_HAND, COUSIN, EDGE, EVEN, FAR, FIXED, FIXED_BOX,
    FIXED_BY_HAND, FIXED_SHOWN, FRACTION, LIMITED, NO_SIZE, RATIO, SAME, SHARE, SHARE_LESS, SHARE_OF_ONE,
    SHARE_OF_SCREEN, SHARE_TOLD, UNROUND, UNTIL, nice_ratio, nice_share, odd, odd_size, snapped,
};
use crate::infer::rules::relation::{Point, Relation, Size, Target, What};
use crate::infer::rules::table::{Extent, Sheet, Table, index};
use vantic_core::geometry::Axis;

/// How many siblings before a view it may be tied to: the nearest ones.
const MAX_SIBLINGS: usize = 40;

/// How far apart views may be that stand beside one another.
const MAX_GAP: f64 = 240.0;

/// How much smaller than what is around it something may be that follows it up to a limit.
const MAX_INSET: f64 = 96.0;

/// A share shows in a size that differs by so much at least between drawings.
const VARIES: f64 = 4.0;

/// From this on drawings are by hand, in logical pixels.
const BY_HAND: f64 = 2.0;

/// A distance that is no more than this on average, drawn by hand, is none.
const ZERO: f64 = 2.4;

/// How many times as large something has to be in one drawing by hand as in another to tell a proportion.
const TELLING: f64 = 1.3;

/// Looks for relations that hold in drawings.
pub(super) struct Candidates<'a> {
    pub(super) table: &'a Table,
    /// By how much a drawing may be off, in logical pixels.
    pub(super) slack: f64,
    found: Vec<Relation>,
}

impl<'a> Candidates<'a> {
    pub(super) fn new(table: &'a Table, slack: f64) -> Self {
        Self { table, slack, found: Vec::new() }
    }

    /// All of them, the cheapest first; among equals in declared order.
    pub(super) fn all(mut self) -> Vec<Relation> {
        for view in 0..self.table.views.len() {
            if self.table.is_everywhere(view) {
                for axis in [Axis::Across, Axis::Down] {
                    self.of_view(view, axis);
                }
            }
        }
        self.found.sort_by(|a, b| a.cost.total_cmp(&b.cost));
        self.found
    }

    /// Those of one view along an axis, in the same order.
    pub(super) fn of(mut self, view: usize, axis: Axis) -> Vec<Relation> {
        if self.table.is_everywhere(view) {
            self.of_view(view, axis);
        }
        self.found.sort_by(|a, b| a.cost.total_cmp(&b.cost));
        self.found
    }

    fn of_view(&mut self, view: usize, axis: Axis) {
        self.sizes(view, axis);
        self.around(view, axis);
        self.siblings(view, axis);
        self.cousins(view, axis);
    }

    fn sheets(&self) -> &'a [Sheet] {
        &self.table.sheets
    }

    fn extent(&self, sheet: &Sheet, view: usize, axis: Axis) -> Option<Extent> {
        sheet.boxes[view].map(|extents| extents[index(axis)])
    }

    /// The one number that values are in all drawings, as somebody would write it.
    fn constant(&self, value: impl Fn(&Sheet) -> Option<f64>) -> Option<f64> {
        self.table.constant(self.slack, value)
    }

    /// A value in each drawing; `None` where one of them does not have it.
    fn values(&self, value: impl Fn(&Sheet) -> Option<f64>) -> Option<Vec<f64>> {
        self.sheets().iter().map(value).collect()
    }

    /// The same of a value that is made of so many numbers of a drawing: by hand, each of them may be off.
    fn constant_of(&self, numbers: f64, value: impl Fn(&Sheet) -> Option<f64>) -> Option<f64> {
        if !self.is_by_hand() {
            return self.constant(value);
        }
        let values = self.values(value)?;
        let (low, high) = ends(values.iter().copied());
        (high - low <= 2.0 * self.off(numbers)).then(|| self.written(mean(values.into_iter())))
    }

    /// Whether such a value is zero.
    fn is_zero(&self, numbers: f64, value: impl Fn(&Sheet) -> Option<f64>) -> bool {
        if !self.is_by_hand() {
            return self.constant(value) == Some(0.0);
        }
        self.values(value).is_some_and(|values| {
            values.iter().all(|value| value.abs() <= self.off(numbers))
                && mean(values.into_iter()).abs() <= ZERO
        })
    }

    /// How much more a proportion costs that drawings by hand are off from; `None` where they cannot be.
    fn misfit(&self, numbers: f64, value: impl Fn(&Sheet) -> Option<f64>) -> Option<f64> {
        if !self.is_by_hand() {
            return Some(0.0);
        }
        let values = self.values(value)?;
        let most = self.off(numbers);
        let fits = values.iter().all(|value| value.abs() <= most);
        fits.then(|| mean(values.iter().map(|value| value.abs())) / most)
    }

    /// By how much a value made of so many numbers of a drawing may be off.
    fn off(&self, numbers: f64) -> f64 {
        if self.is_by_hand() { self.slack / 3.0 * numbers } else { self.slack }
    }

    /// How many numbers of a drawing a place of a box is made of.
    fn numbers(point: Point, target: Target) -> f64 {
        match (target, point) {
            (Target::Screen | Target::Safe, _) => 0.0,
            (_, Point::Near) => 1.0,
            (_, Point::Far) => 2.0,
            (_, Point::Center) => 1.5,
        }
    }

    fn written(&self, value: f64) -> f64 {
        snapped(value, self.slack)
    }

    /// By how much values differ between drawings.
    fn varies(&self, value: impl Fn(&Sheet) -> Option<f64>) -> f64 {
        let all = self.sheets().iter().filter_map(value);
        let (low, high) = ends(all);
        (high - low).max(0.0)
    }

    fn put(&mut self, view: usize, axis: Axis, what: What, cost: f64) {
        self.found.push(Relation { view, axis, what, cost });
    }

    /// The boxes around a view.
    fn outer(&self, view: usize) -> Vec<Target> {
        match self.table.views[view].parent {
            Some(parent) => vec![Target::View(parent)],
            None => vec![Target::Safe, Target::Screen],
        }
    }

    fn is_text(&self, view: usize) -> bool {
        self.sheets().iter().any(|sheet| sheet.contents[view].is_some())
    }

    /// Whether a view is as large as its content along an axis, as drawn in a drawing.
    fn is_natural(&self, sheet: &Sheet, view: usize, axis: Axis) -> Option<bool> {
        let content = sheet.contents[view].as_ref()?;
        let natural = match axis {
            Axis::Across => content.natural.width,
            Axis::Down => content.drawn.height,
        };
        Some((self.extent(sheet, view, axis)?.size - natural).abs() <= (1.5 * self.off(1.0)).max(0.5))
    }

    fn sizes(&mut self, view: usize, axis: Axis) {
        let size = |sheet: &Sheet| Some(sheet.boxes[view]?[index(axis)].size);
        let natural: Vec<Option<bool>> =
            self.sheets().iter().map(|sheet| self.is_natural(sheet, view, axis)).collect();
        if natural.iter().all(|is| *is == Some(true)) {
            self.put(view, axis, What::Natural, 0.0);
            return;
        }
        if axis == Axis::Across && natural.contains(&Some(true)) {
            self.until(view);
        }
        let holds = !self.table.views[view].children.is_empty() || self.is_text(view);
        if let Some(fixed) = self.constant_of(1.0, size) {
            let cost = match self.is_fixed(view, axis) {
                _ if self.is_by_hand() => FIXED_BY_HAND,
                true => FIXED_SHOWN,
                false => FIXED,
            };
            let more = if holds { FIXED_BOX } else { 0.0 };
            self.put(view, axis, What::Is(Size::Fixed(fixed)), cost + more + odd_size(fixed));
        }
        for of in self.outer(view) {
            self.shares(view, axis, of);
        }
        if self.table.views[view].parent.is_some() {
            self.share(view, axis, Target::Safe, SHARE_OF_SCREEN);
        }
        self.ratio(view, axis);
        // What follows something everywhere has no limit.
        let is_known = self.found.iter().rev().take_while(|known| known.view == view).any(|known| {
            let is_size =
                matches!(known.what, What::Is(Size::Share { .. } | Size::Fixed(_)) | What::Ratio { .. });
            is_size && (known.axis == axis || matches!(known.what, What::Ratio { .. }))
        });
        if self.sheets().len() > 1 && !is_known {
            self.limits(view, axis);
        }
    }

    /// Whether a view has one size though what is around it has several.
    fn is_fixed(&self, view: usize, axis: Axis) -> bool {
        let around = self.outer(view)[0];
        self.varies(|sheet| Some(around.extent(sheet, axis)?.size)) > VARIES
            && self.constant_of(1.0, |sheet| Some(self.extent(sheet, view, axis)?.size)).is_some()
    }

    fn is_by_hand(&self) -> bool {
        self.slack >= BY_HAND
    }

    /// Whether a view is as large in all drawings as its content, or as it always is.
    fn keeps_size(&self, view: usize, axis: Axis) -> bool {
        self.has_one_size(view, axis)
            || self.sheets().iter().all(|sheet| self.is_natural(sheet, view, axis) == Some(true))
    }

    /// Whether a view has one size in several drawings.
    fn has_one_size(&self, view: usize, axis: Axis) -> bool {
        let size = |sheet: &Sheet| Some(self.extent(sheet, view, axis)?.size);
        self.sheets().len() > 1 && self.constant_of(1.0, size).is_some()
    }

    /// How far off a factor of a size may be.
    fn factor_slack(&self, of: Target, axis: Axis) -> f64 {
        let sizes = self.sheets().iter().filter_map(|sheet| of.extent(sheet, axis));
        let greatest = sizes.map(|extent| extent.size).fold(1.0, f64::max);
        self.slack / greatest
    }

    fn factor(&self, view: usize, axis: Axis, of: Target) -> Option<f64> {
        let (mut low, mut high) = (f64::INFINITY, f64::NEG_INFINITY);
        let mut sum = 0.0;
        for sheet in self.sheets() {
            let whole = of.extent(sheet, axis)?.size;
            if whole < 1.0 {
                return None;
            }
            let factor = self.extent(sheet, view, axis)?.size / whole;
            (low, high) = (low.min(factor), high.max(factor));
            sum += factor;
        }
        (high - low <= 2.0 * self.factor_slack(of, axis)).then(|| sum / self.sheets().len() as f64)
    }

    fn shares(&mut self, view: usize, axis: Axis, of: Target) {
        let varies = self.varies(|sheet| Some(of.extent(sheet, axis)?.size)) > VARIES;
        let size = self.constant(|sheet| Some(self.extent(sheet, view, axis)?.size));
        let is_told = size.is_some_and(|size| (size - size.round()).abs() > 0.01);
        let cost = match (varies, is_told) {
            (true, _) => SHARE,
            (false, true) => SHARE_TOLD,
            (false, false) => SHARE_OF_ONE,
        };
        self.share(view, axis, of, cost);
        // Parts of what is left after distances.
        if let [a, .., b] = self.sheets()
            && varies
            && let (Some(x), Some(y)) = (of.extent(a, axis), of.extent(b, axis))
            && let (Some(p), Some(q)) = (self.extent(a, view, axis), self.extent(b, view, axis))
        {
            let factor = (q.size - p.size) / (y.size - x.size);
            let slack = 2.0 * self.slack / (y.size - x.size).abs();
            if let Some((factor, odd_factor)) = nice_share(factor, slack)
                && factor < 1.0
                && let Some(plus) = self.constant(|sheet| {
                    Some(self.extent(sheet, view, axis)?.size - factor * of.extent(sheet, axis)?.size)
                })
                && plus < 0.0
            {
                let size = Size::Share { of, factor, plus };
                self.put(view, axis, What::Is(size), SHARE_LESS + odd_factor + odd(-plus));
            }
        }
    }

    fn share(&mut self, view: usize, axis: Axis, of: Target, cost: f64) {
        if !self.tells(|sheet| Some(of.extent(sheet, axis)?.size)) {
            return;
        }
        let Some(factor) = self.factor(view, axis, of) else { return };
        let misfit = |factor: f64| {
            self.misfit(1.0 + factor, |sheet| {
                Some(self.extent(sheet, view, axis)?.size - factor * of.extent(sheet, axis)?.size)
            })
        };
        if let Some((factor, odd)) = self.share_of(factor, of, axis)
            && let Some(more) = misfit(factor)
        {
            self.put(view, axis, What::Is(Size::Share { of, factor, plus: 0.0 }), cost + odd + more);
        }
    }

    /// Whether sizes differ so much between drawings that those by hand tell a proportion from a number.
    fn tells(&self, value: impl Fn(&Sheet) -> Option<f64>) -> bool {
        let (low, high) = ends(self.sheets().iter().filter_map(value));
        !self.is_by_hand() || high >= TELLING * low
    }

    /// A factor as one would write it, and what it costs: any, where several drawings show it.
    fn share_of(&self, factor: f64, of: Target, axis: Axis) -> Option<(f64, f64)> {
        let is_shown = self.varies(|sheet| Some(of.extent(sheet, axis)?.size)) > VARIES;
        let unround = || is_shown.then(|| ((factor * 1e4).round() / 1e4, UNROUND));
        let share = nice_share(factor, self.factor_slack(of, axis)).or_else(unround);
        share.filter(|(factor, _)| *factor > 0.0 && *factor < 1.0)
    }

    fn ratio(&mut self, view: usize, axis: Axis) {
        let both = |sheet: &Sheet| Some((sheet.boxes[view]?[0].size, sheet.boxes[view]?[1].size));
        let first = self.sheets().first().and_then(both);
        let is_told =
            first.is_some_and(|(width, height)| width == height && (width - width.round()).abs() > 0.01);
        let is_shown = self.varies(|sheet| both(sheet).map(|b| b.0)) > VARIES || is_told;
        let mut ratios = self
            .sheets()
            .iter()
            .map(|sheet| both(sheet).filter(|b| b.1 >= 1.0).map(|(width, height)| width / height));
        let Some(Some(first)) = ratios.next() else { return };
        let lowest =
            self.sheets().iter().filter_map(|sheet| Some(both(sheet)?.1)).fold(f64::INFINITY, f64::min);
        let slack = self.slack / lowest;
        if axis == Axis::Down
            && is_shown
            && self.tells(|sheet| both(sheet).map(|b| b.0))
            && ratios.all(|ratio| ratio.is_some_and(|ratio| (ratio - first).abs() <= 2.0 * slack))
            && let Some(((width, height), odd)) = nice_ratio(first, slack.max(1e-4))
            && let Some(more) =
                self.misfit(1.0 + width / height, |sheet| both(sheet).map(|b| b.0 - width / height * b.1))
        {
            self.put(view, axis, What::Ratio { width, height }, RATIO + odd + more);
        }
    }

    /// Sizes that are a number on some displays and follow what is around on the others.
    fn limits(&mut self, view: usize, axis: Axis) {
        let sizes: Option<Vec<f64>> =
            self.sheets().iter().map(|sheet| self.extent(sheet, view, axis).map(|e| e.size)).collect();
        let Some(sizes) = sizes else { return };
        let (low, high) = ends(sizes.iter().copied());
        if high - low <= VARIES {
            return;
        }
        let mut outer = self.outer(view);
        if !outer.contains(&Target::Safe) {
            outer.push(Target::Safe);
        }
        for (is_least, limit) in [(true, high), (false, low)] {
            let slack = self.off(1.0);
            let is_held = |size: f64| (size - limit).abs() <= 2.0 * slack;
            let limit = self.written(limit);
            // Somebody chose it: it is round.
            if limit % 10.0 != 0.0 {
                continue;
            }
            for &of in &outer {
                for other in self.following(view, axis, of, &sizes, &is_held) {
                    let respects = std::iter::zip(self.sheets(), &sizes).all(|(sheet, &size)| {
                        let Some(value) = other.0.value(sheet, axis) else { return false };
                        !is_held(size)
                            || if is_least { value >= limit - slack } else { value <= limit + slack }
                    });
                    if !respects {
                        continue;
                    }
                    let fixed = Size::Fixed(limit);
                    let what =
                        if is_least { What::Least(other.0, fixed) } else { What::Greatest(other.0, fixed) };
                    self.put(view, axis, what, LIMITED + other.1 + odd_size(limit));
                }
            }
        }
    }

    /// What sizes follow where they are not held.
    fn following(
        &self,
        view: usize,
        axis: Axis,
        of: Target,
        sizes: &[f64],
        is_held: &dyn Fn(f64) -> bool,
    ) -> Vec<(Size, f64)> {
        let free = || std::iter::zip(self.sheets(), sizes).filter(|(_, size)| !is_held(**size));
        let wholes: Option<Vec<(f64, f64)>> =
            free().map(|(sheet, &size)| Some((of.extent(sheet, axis)?.size, size))).collect();
        let Some(wholes) = wholes.filter(|all| !all.is_empty()) else { return Vec::new() };
        let mut found = Vec::new();
        let lost: Vec<f64> = wholes.iter().map(|(whole, size)| whole - size).collect();
        let spread = |all: &[f64]| {
            let (low, high) = ends(all.iter().copied());
            high - low
        };
        let is_far_out = usize::from(!self.outer(view).contains(&of)) as f64 * 0.4;
        if spread(&lost) <= 2.0 * self.slack && (-self.slack..=MAX_INSET).contains(&lost[0]) {
            let by = self.written(lost.iter().sum::<f64>() / lost.len() as f64);
            found.push((Size::Share { of, factor: 1.0, plus: -by }, odd(by) + is_far_out));
        }
        let factors: Vec<f64> = wholes.iter().map(|(whole, size)| size / whole.max(1.0)).collect();
        let slack = self.factor_slack(of, axis);
        if spread(&factors) <= 2.0 * slack
            && let Some((factor, odd)) = nice_share(factors.iter().sum::<f64>() / factors.len() as f64, slack)
            && factor < 1.0
            && (!self.is_by_hand() || wholes.len() > 1)
        {
            found.push((Size::Share { of, factor, plus: 0.0 }, 0.1 + odd + is_far_out));
        }
        found
    }

    /// A text that is cut short in some drawings.
    fn until(&mut self, view: usize) {
        let axis = Axis::Across;
        let siblings = self.table.siblings(view).into_iter().filter(|&other| other != view);
        let nexts = siblings.map(|other| (Target::View(other), Point::Near));
        let outer = self.outer(view).into_iter().map(|of| (of, Point::Far));
        let mut best: Option<(f64, What)> = None;
        for (target, point) in outer.chain(nexts) {
            let gap = |sheet: &Sheet| {
                Some(point.of(target.extent(sheet, axis)?) - self.extent(sheet, view, axis)?.far())
            };
            let mut cut =
                self.sheets().iter().filter(|sheet| self.is_natural(sheet, view, axis) == Some(false));
            let Some(by) = cut.next().and_then(gap) else { continue };
            let is_same =
                cut.all(|sheet| gap(sheet).is_some_and(|other| (other - by).abs() <= 2.0 * self.slack));
            let fits =
                self.sheets().iter().all(|sheet| gap(sheet).is_some_and(|gap| gap >= by - 2.0 * self.slack));
            let by = self.written(by);
            let cost = UNTIL + odd(by);
            if is_same && fits && by >= 0.0 && best.as_ref().is_none_or(|(known, _)| cost < *known) {
                best = Some((cost, What::Until { target, point, by }));
            }
        }
        if let Some((cost, what)) = best {
            self.put(view, axis, what, cost);
        }
    }

    /// Distances to the edges and the middle of what is around.
    fn around(&mut self, view: usize, axis: Axis) {
        let several = self.sheets().len() > 1;
        let fills = |target: Target| {
            [Axis::Across, Axis::Down].into_iter().all(|axis| {
                self.constant(|sheet| {
                    Some(self.extent(sheet, view, axis)?.size - target.extent(sheet, axis)?.size)
                }) == Some(0.0)
            })
        };
        let fills_screen = fills(Target::Screen);
        for target in self.outer(view) {
            let less = match target {
                Target::Screen if fills_screen => -0.1,
                Target::Screen => 0.03,
                _ => 0.0,
            };
            for point in Point::ALL {
                let distance = |sheet: &Sheet| {
                    let (own, of) = (self.extent(sheet, view, axis)?, target.extent(sheet, axis)?);
                    Some(point.of(own) - point.of(of))
                };
                let numbers = Self::numbers(point, Target::View(view)) + Self::numbers(point, target);
                let Some(by) = self.constant_of(numbers, distance) else { continue };
                let by = if self.is_zero(numbers, distance) { 0.0 } else { by };
                let near = || {
                    self.constant(|sheet| {
                        Some(self.extent(sheet, view, axis)?.near - target.extent(sheet, axis)?.near)
                    })
                };
                let cost = match point {
                    Point::Near => EDGE + odd(by),
                    Point::Far if near().is_some_and(|near| near != -by) => EDGE + FAR + NO_SIZE + odd(-by),
                    Point::Far => EDGE + FAR + odd(-by),
                    Point::Center if by == 0.0 && self.is_by_hand() && self.keeps_size(view, axis) => {
                        CENTERED_BY_HAND
                    }
                    Point::Center if by == 0.0 => CENTERED,
                    Point::Center => CENTERED + 0.7 + odd(by.abs()),
                };
                self.put(view, axis, What::At { own: point, target, point, by }, cost + less);
            }
            let size = |sheet: &Sheet| Some(target.extent(sheet, axis)?.size);
            if several && self.varies(size) > VARIES && self.tells(size) {
                self.fractions(view, axis, target);
            }
        }
    }

    /// Places that are at a share of what is around.
    fn fractions(&mut self, view: usize, axis: Axis, target: Target) {
        let slack = self.factor_slack(target, axis);
        for own in Point::ALL {
            let share = |sheet: &Sheet| {
                let (from, of) = (self.extent(sheet, view, axis)?, target.extent(sheet, axis)?);
                (of.size >= 1.0).then(|| (own.of(from) - of.near) / of.size)
            };
            let shares: Option<Vec<f64>> = self.sheets().iter().map(share).collect();
            let Some(shares) = shares else { continue };
            let (low, high) = ends(shares.iter().copied());
            let mean = shares.iter().sum::<f64>() / shares.len() as f64;
            if high - low <= 2.0 * slack
                && let Some((factor, odd)) = self.share_of(mean, target, axis)
                && !(own == Point::Center && factor == 0.5)
                && let Some(more) = self.misfit(Self::numbers(own, Target::View(view)) + 1.0, |sheet| {
                    let (from, of) = (self.extent(sheet, view, axis)?, target.extent(sheet, axis)?);
                    Some(own.of(from) - of.near - factor * of.size)
                })
            {
                self.put(view, axis, What::Fraction { own, target, factor }, FRACTION + odd + more);
            }
        }
    }

    fn siblings(&mut self, view: usize, axis: Axis) {
        let all = self.table.siblings(view);
        let before =
            all.into_iter().take_while(|&other| other != view).filter(|&o| self.table.is_everywhere(o));
        let before: Vec<usize> = before.collect();
        let near = &before[before.len().saturating_sub(MAX_SIBLINGS)..];
        self.beside(view, axis, near);
        // What lies behind everything is no view to stand on a line with.
        let fills = |other: usize| {
            let around = |target: Target| {
                [Point::Near, Point::Far].into_iter().all(|point| {
                    self.constant(|sheet| {
                        let (own, of) = (self.extent(sheet, other, axis)?, target.extent(sheet, axis)?);
                        Some(point.of(own) - point.of(of))
                    }) == Some(0.0)
                })
            };
            self.outer(other).into_iter().any(around)
        };
        let beside: Vec<usize> = near.iter().rev().copied().filter(|&other| !fills(other)).collect();
        for other in beside {
            self.aligned(view, axis, other, ALIGNED);
            self.same_size(view, axis, other);
            self.baseline(view, axis, other);
        }
        if self.sheets().len() > 1 {
            self.even(view, axis, near);
        }
    }

    /// The distance to the nearest of the siblings before it on each side.
    fn beside(&mut self, view: usize, axis: Axis, others: &[usize]) {
        let across = if axis == Axis::Across { Axis::Down } else { Axis::Across };
        for (own, point) in [(Point::Near, Point::Far), (Point::Far, Point::Near)] {
            let mut best: [Option<(f64, What, f64)>; 2] = [None, None];
            for &other in others {
                let target = Target::View(other);
                let by = |sheet: &Sheet| {
                    let by = own.of(self.extent(sheet, view, axis)?) - point.of(target.extent(sheet, axis)?);
                    Some(if own == Point::Near { by } else { -by })
                };
                let Some(gap) = self.constant_of(3.0, by).filter(|gap| (-16.0..=MAX_GAP).contains(gap))
                else {
                    continue;
                };
                let faces = self.sheets().iter().all(|sheet| {
                    let (Some(a), Some(b)) = (self.extent(sheet, view, across), target.extent(sheet, across))
                    else {
                        return false;
                    };
                    a.near < b.far() && b.near < a.far()
                });
                let cost = if faces { BESIDE } else { ASKEW } + odd(gap);
                let what = What::At { own, target, point, by: if own == Point::Near { gap } else { -gap } };
                let slot = &mut best[usize::from(!faces)];
                if slot.as_ref().is_none_or(|(_, _, known)| gap.abs() < *known) {
                    *slot = Some((cost, what, gap.abs()));
                }
            }
            for (cost, what, _) in best.into_iter().flatten() {
                self.put(view, axis, what, cost);
            }
        }
    }

    fn aligned(&mut self, view: usize, axis: Axis, other: usize, cost: f64) {
        let target = Target::View(other);
        let far = if self.has_one_size(view, axis) { NO_SIZE } else { 0.02 };
        for (point, more) in [(Point::Near, 0.0), (Point::Far, far), (Point::Center, 0.15)] {
            let by = |sheet: &Sheet| {
                Some(point.of(self.extent(sheet, view, axis)?) - point.of(target.extent(sheet, axis)?))
            };
            if self.is_zero(2.0 * Self::numbers(point, target), by) {
                self.put(view, axis, What::At { own: point, target, point, by: 0.0 }, cost + more);
            }
        }
    }

    fn same_size(&mut self, view: usize, axis: Axis, other: usize) {
        if self.is_text(view) || self.is_text(other) {
            return;
        }
        let by = |sheet: &Sheet| {
            Some(self.extent(sheet, view, axis)?.size - self.extent(sheet, other, axis)?.size)
        };
        if self.is_zero(2.0, by) {
            let size = Size::Share { of: Target::View(other), factor: 1.0, plus: 0.0 };
            self.put(view, axis, What::Is(size), SAME);
        }
    }

    fn baseline(&mut self, view: usize, axis: Axis, other: usize) {
        if axis == Axis::Across {
            return;
        }
        let baseline = |sheet: &Sheet, of: usize| {
            Some(self.extent(sheet, of, axis)?.near + sheet.contents[of].as_ref()?.drawn.ascent)
        };
        if self.is_zero(2.0, |sheet| Some(baseline(sheet, view)? - baseline(sheet, other)?)) {
            self.put(view, axis, What::Baseline { of: other }, ALIGNED - 0.02);
        }
    }

    /// The same distances between three views in a line, where these differ between drawings.
    fn even(&mut self, view: usize, axis: Axis, others: &[usize]) {
        let [.., first, before] = others else { return };
        let gap = |sheet: &Sheet, a: usize, b: usize| {
            Some(self.extent(sheet, b, axis)?.near - self.extent(sheet, a, axis)?.far())
        };
        let differs = |sheet: &Sheet| Some(gap(sheet, *before, view)? - gap(sheet, *first, *before)?);
        if self.is_zero(6.0, differs)
            && self.varies(|sheet| gap(sheet, *before, view)) > VARIES
            && self.sheets().iter().all(|sheet| gap(sheet, *before, view).is_some_and(|gap| gap >= 0.0))
        {
            self.put(view, axis, What::Even { before: *before, first: *first }, EVEN);
        }
    }

    /// Views of the same name in the boxes beside the one that a view is in: they often stand on one line.
    fn cousins(&mut self, view: usize, axis: Axis) {
        let Some(parent) = self.table.views[view].parent else { return };
        let name = &self.table.views[view].name;
        let uncles = self.table.siblings(parent);
        let uncles = uncles.into_iter().take_while(|&uncle| uncle != parent);
        let cousin = uncles.filter_map(|uncle| {
            let mut children = self.table.views[uncle].children.iter();
            children.find(|&&child| self.table.views[child].name == *name).copied()
        });
        let cousins: Vec<usize> = cousin.filter(|&of| self.table.is_everywhere(of)).collect();
        for of in cousins.first().into_iter().chain(cousins.last()) {
            self.aligned(view, axis, *of, COUSIN);
        }
    }
}

fn mean(values: impl ExactSizeIterator<Item = f64>) -> f64 {
    let count = values.len().max(1) as f64;
    values.sum::<f64>() / count
}
