//! What an arrangement means as rules, for the children that a band leaves.
//!
//! All of it is linear but for two things. Where room may be lacking, a distance is the greater of two
//! (`max`, exact like any other). Where lines wrap, or shares meet their limits, something is chosen
//! first (`arrangement_choices`): which children stand in a line, and which keep their most.

use crate::geometry::axis::Axis;
use crate::model::arrangement::{Align, Arrangement, Share, Space, Spread};
use crate::model::coordinate::Coordinate;
use crate::model::edges::Edges;
use crate::model::expression::{Expr, MinMaxKind, pick};
use crate::model::id::ViewId;
use crate::model::rule::Comparison;
use crate::model::screen::Screen;
use crate::plan::arrangement_choices::{
    ChoiceInputs, Choices, Chosen, CrossLayout, Shares, Sharing, SpareFit, Wrapping,
};
use crate::plan::compile::given_sizes::GivenSizes;
use crate::plan::compile::grid::Grid;
use crate::plan::compile::layout_rules::{
    Arrangements, LayoutRule, LayoutStrength, RuleSink, ShareLine, inner, max_of, padding,
};
use crate::plan::variant::{Variant, Visibility, item, takes_part};
use std::collections::HashMap;
use std::ops::Range;

impl Arrangements {
    pub(crate) fn new(screen: &Screen, variant: &Variant, choices: &Choices) -> Self {
        let arranged = |view: ViewId| {
            let there = variant.visible[view.index()] != Visibility::Gone;
            variant.view(screen, view).arrangement.as_deref().filter(|_| there)
        };
        let is_arranging = screen.views().any(|(view, _)| arranged(view).is_some());
        let views = if is_arranging { screen.views.len() } else { 0 };
        let mut all = Self {
            relations: crate::plan::compile::guides::rules(screen, variant),
            share_lines: Vec::new(),
            is_growing: [false; 2],
            given: GivenSizes::by_rules(screen, variant),
            groups: vec![[0; 2]; views],
            filled: vec![[false; 2]; views],
            depths: vec![0; views],
            probes: Vec::new(),
            grids: Vec::new(),
        };
        if !is_arranging {
            return all;
        }
        // The deepest below each view; children come after their parents.
        let mut below = vec![0; screen.views.len()];
        for (view, about) in screen.views.iter().enumerate().rev() {
            let id = screen.id_of(view);
            if arranged(id).is_some() {
                below[view] += 1;
                all.depths[view] = below[view];
            }
            if let Some(around) = about.parent {
                below[around.index()] = below[around.index()].max(below[view]);
            }
        }
        let limits = Limits::new(screen, variant);
        for (view, _) in screen.views() {
            let Some(arrangement) = arranged(view) else { continue };
            let chosen = choices.get(&view).cloned().unwrap_or_default();
            match &arrangement.columns {
                Some(columns) => {
                    let grid = Grid::new(screen, variant, view, arrangement, columns);
                    grid.place(screen, variant, &chosen, &mut all);
                }
                None => {
                    let line = LineLayout::new(screen, variant, &limits, view, arrangement);
                    line.place(screen, variant, &chosen, &mut all);
                }
            }
        }
        // What comes from the space there is, is not as small as its children let it be.
        let filled = &all.filled;
        let fills = |rule: &LayoutRule, axis: Axis| filled[rule.view.index()][axis as usize];
        all.relations.retain(|rule| !rule.hugs.is_some_and(|axis| fills(rule, axis)));
        all.settle_in_groups(screen);
        all
    }

    /// The group of each view and of each line with shares, from the outside in.
    fn settle_in_groups(&mut self, screen: &Screen) {
        let mut by_view: HashMap<ViewId, Vec<usize>> = HashMap::new();
        for (index, line) in self.share_lines.iter().enumerate() {
            by_view.entry(line.view).or_default().push(index);
        }
        // Per view and axis: from which group on shares in it may be settled.
        let mut from = self.groups.clone();
        if by_view.is_empty() {
            return;
        }
        for (view, _) in screen.views() {
            for &child in screen.at(view).children().iter().chain(screen.at(view).guides()) {
                self.groups[child.index()] = self.groups[view.index()];
                from[child.index()] = from[view.index()];
            }
            for &index in by_view.get(&view).into_iter().flatten() {
                let line = &mut self.share_lines[index];
                let axis = line.axis as usize;
                line.group = self.groups[view.index()][axis].max(from[view.index()][axis]);
                for (child, ..) in &line.shares {
                    from[child.index()][axis] = line.group + 1;
                    if line.is_given {
                        self.groups[child.index()][axis] = line.group + 1;
                    }
                }
            }
        }
    }
}

/// The required rules by which views bound their own sizes: what takes a share keeps to them.
struct Limits<'a>(HashMap<(ViewId, Coordinate, Comparison), Vec<&'a Expr>>);

impl<'a> Limits<'a> {
    fn new(screen: &'a Screen, variant: &Variant) -> Self {
        let mut limits: HashMap<_, Vec<&Expr>> = HashMap::new();
        let written = variant.rules.iter().map(|&r| screen.rule_at(r));
        let owned = written.filter_map(|rule| Some((rule.owner?, rule)));
        let sharing = |view: ViewId| item(variant.view(screen, view)).share.is_some();
        for (owner, rule) in owned.filter(|(owner, _)| sharing(*owner)) {
            for relation in rule.relations.iter().filter(|r| r.level.is_none()) {
                for coordinate in [Coordinate::Width, Coordinate::Height] {
                    if relation.left == Expr::of(owner.into(), coordinate) {
                        let key = (owner, coordinate, relation.comparison);
                        limits.entry(key).or_default().push(&relation.right);
                    }
                }
            }
        }
        Self(limits)
    }

    /// Whether a child bounds its own size.
    fn has(&self, child: ViewId, size: Coordinate) -> bool {
        [Comparison::Equal, Comparison::AtLeast].iter().any(|c| self.0.contains_key(&(child, size, *c)))
    }

    /// The least and the most that a child may take.
    fn of(&self, child: ViewId, size: Coordinate, share: &Share) -> (Option<Expr>, Option<Expr>) {
        let bound = |own: &Option<Expr>, comparison, which| {
            let written = self.0.get(&(child, size, comparison)).into_iter().flatten().copied();
            let all: Vec<Expr> = own.iter().chain(written).cloned().collect();
            match all.as_slice() {
                [] => None,
                [one] => Some(one.clone()),
                _ => Some(pick(which, all)),
            }
        };
        (
            bound(&share.least, Comparison::AtLeast, MinMaxKind::Max),
            bound(&share.most, Comparison::AtMost, MinMaxKind::Min),
        )
    }
}

/// The larger of two lengths.
fn larger(a: Expr, b: &Expr) -> Expr {
    let is_number = |e: &Expr| e.terms.is_empty() && e.values.is_empty() && e.picks.is_empty();
    match is_number(&a) && is_number(b) {
        true if a.constant >= b.constant => a,
        true => b.clone(),
        false => max_of(vec![a, b.clone()]),
    }
}

/// What stands between two children, or at an end.
#[derive(Clone, Debug, Default)]
struct Gap {
    /// A stated distance, in place of the gap.
    fixed: Option<Expr>,
    /// The weights of what takes of the space.
    flexible: f64,
}

/// A length that takes of the space: a child by it, the length, and its weight.
type Flexible = (usize, Expr, f64);

/// One view with the children that it arranges.
struct LineLayout<'a> {
    limits: &'a Limits<'a>,
    view: ViewId,
    /// The box that it arranges them in.
    inner: ViewId,
    arrangement: &'a Arrangement,
    along: Edges,
    across: Edges,
    items: Vec<ViewId>,
    shares: Vec<Option<Share>>,
    /// Per child: whether it may need more than its part of the space.
    needy: Vec<bool>,
    aligns: Vec<Align>,
    /// Whether each is shown only where there is room, and how much of it is to be seen where it is cut.
    spare: Vec<bool>,
    cut: Vec<Option<f64>>,
    /// Before each child, and behind the last.
    between: Vec<Gap>,
}

impl<'a> LineLayout<'a> {
    fn new(
        screen: &Screen,
        variant: &Variant,
        limits: &'a Limits<'a>,
        view: ViewId,
        arrangement: &'a Arrangement,
    ) -> Self {
        let about = variant.view(screen, view);
        let (along, across) = match arrangement.axis {
            Axis::Across => (Edges::of_axis(Axis::Across), Edges::of_axis(Axis::Down)),
            Axis::Down => (Edges::of_axis(Axis::Down), Edges::of_axis(Axis::Across)),
        };
        let (mut items, mut shares, mut aligns) = (Vec::new(), Vec::new(), Vec::new());
        let mut needy = Vec::new();
        let (mut spare, mut cut) = (Vec::new(), Vec::new());
        let mut between = vec![Gap::default()];
        for place in 0..=about.children.len() {
            let last = between.len() - 1;
            for (_, space) in about.spaces.iter().filter(|s| s.0 == place) {
                match space {
                    Space::Fixed(length) => {
                        let before = between[last].fixed.take().unwrap_or_default();
                        between[last].fixed = Some(before + length.clone());
                    }
                    Space::Flexible(weight) => between[last].flexible += weight,
                }
            }
            let Some(&child) = about.children.get(place) else { break };
            let said = item(variant.view(screen, child));
            if takes_part(screen, variant, child) {
                items.push(child);
                spare.push(said.spare);
                cut.push(said.cut);
                shares.push(said.share.clone());
                let of = variant.view(screen, child);
                needy.push(of.has_content() || !of.children.is_empty() || limits.has(child, along.size));
                aligns.push(said.sit.unwrap_or(arrangement.align));
                between.push(Gap::default());
            }
        }
        let inner = inner(screen, view);
        Self {
            limits,
            view,
            inner,
            arrangement,
            along,
            across,
            items,
            shares,
            needy,
            aligns,
            spare,
            cut,
            between,
        }
    }

    fn near(&self) -> Expr {
        Expr::of(self.inner.into(), self.along.near) + self.padding(self.along.near)
    }

    fn far(&self) -> Expr {
        Expr::of(self.inner.into(), self.along.far) - self.padding(self.along.far)
    }

    fn padding(&self, edge: Coordinate) -> Expr {
        padding(self.arrangement, edge)
    }

    fn place(&self, screen: &Screen, variant: &Variant, chosen: &Chosen, all: &mut Arrangements) {
        let is_counted = chosen.spares.is_some();
        let first = self.items.first().copied();
        if first.is_none() && !is_counted {
            return;
        }
        let lines = if first.is_some() { self.lines(chosen) } else { Vec::new() };
        let mut placed = LineEmitter { run: self, out: RuleSink::new(screen, variant, self.view, all) };
        let is_given = [self.along.size, self.across.size].map(|size| placed.out.is_given(size));
        let sparing = (is_counted || self.spare.contains(&true)).then(|| self.sparing(is_given));
        let counts = sparing.is_some() && !is_counted;
        let wraps = self.arrangement.wrap.is_some();
        match first {
            Some(first) if counts && wraps => placed.out.grow(first, self.across.size, None),
            Some(first) if counts => {
                placed.out.grow(first, self.along.size, Some(self.without_spares()));
                placed.out.hug(first, self.across.size);
            }
            Some(first) => {
                placed.out.hug(first, self.across.size);
                if !wraps {
                    placed.out.hug(first, self.along.size);
                }
            }
            None => {}
        }
        // Where all are shown to be measured, they may go beyond the end; so may the last that is shown cut.
        let beyond = counts || chosen.cut;
        let measures = beyond && !wraps;
        let mut shares = Vec::new();
        for line in &lines {
            shares.extend(placed.along(line.clone(), chosen.at_most.as_deref(), measures));
        }
        placed.across(&lines, beyond);
        let wrapping = self.arrangement.wrap.is_some().then(|| self.wrapping());
        if wrapping.is_some() || sparing.is_some() || shares.iter().any(Shares::has_most) {
            placed.out.all.probes.push(ChoiceInputs {
                view: self.view,
                axis: self.arrangement.axis,
                around: screen.ancestors(self.view).collect(),
                wrapping,
                shares,
                gridding: None,
                sparing,
            });
        }
    }

    /// Which children stand in each line. What wraps is measured with each in a line of its own first.
    fn lines(&self, chosen: &Chosen) -> Vec<Range<usize>> {
        let count = self.items.len();
        let mut from = 0;
        let mut line = |children: usize| {
            from += children;
            from - children..from
        };
        match (&self.arrangement.wrap, &chosen.lines) {
            (None, _) => std::iter::once(line(count)).collect(),
            (Some(_), Some(lines)) => lines.iter().map(|&children| line(children)).collect(),
            (Some(_), None) => (0..count).map(|_| line(1)).collect(),
        }
    }

    /// Children that are shown only where there is room.
    fn sparing(&self, [is_given, is_given_across]: [bool; 2]) -> SpareFit<Expr> {
        let all = |edge: Coordinate| self.items.iter().map(|&child| Expr::of(child.into(), edge)).collect();
        let (spare, cut) = (self.spare.clone(), self.cut.clone());
        match &self.arrangement.wrap {
            None => {
                let gaps = (0..self.items.len()).map(|i| self.gap(i)).collect();
                let (room, edge) = (self.far() - self.near(), self.padding(self.along.far));
                // What takes a share needs its least.
                let least = |i: usize| {
                    let share = self.shares[i].as_ref()?;
                    self.limits.of(self.items[i], self.along.size, share).0
                };
                let own = |i: usize| Expr::of(self.items[i].into(), self.along.size);
                let sizes = (0..self.items.len()).map(|i| least(i).unwrap_or_else(|| own(i))).collect();
                let axis = self.arrangement.axis;
                SpareFit { axis, is_given, room, edge, sizes, gaps, spare, cut, stacked: None }
            }
            Some(between) => {
                let Edges { near, far, size } = self.across;
                let own = |edge| Expr::of(self.inner.into(), edge);
                let room = own(far) - self.padding(far) - own(near) - self.padding(near);
                let edge = self.padding(far);
                let (gaps, stacked) = (vec![between.clone()], Some(CrossLayout::Lines));
                let axis = if self.arrangement.axis == Axis::Across { Axis::Down } else { Axis::Across };
                let is_given = is_given_across;
                SpareFit { axis, is_given, room, edge, sizes: all(size), gaps, spare, cut, stacked }
            }
        }
    }

    /// How long all that is always shown is together, with the padding.
    fn without_spares(&self) -> Expr {
        let always = (0..self.items.len()).filter(|&i| !self.spare[i]);
        let each = always.map(|i| self.gap(i) + Expr::of(self.items[i].into(), self.along.size));
        each.fold(self.padding(self.along.near) + self.padding(self.along.far), |all, one| all + one)
    }

    fn wrapping(&self) -> Wrapping<Expr> {
        let size = |&child: &ViewId| Expr::of(child.into(), self.along.size);
        Wrapping {
            room: self.far() - self.near(),
            sizes: self.items.iter().map(size).collect(),
            gaps: (0..self.items.len()).map(|i| self.gap(i)).collect(),
        }
    }

    /// The least distance before a child that is not the first of its line; what stands before the first.
    fn gap(&self, index: usize) -> Expr {
        let unsaid = if index == 0 { Expr::default() } else { self.arrangement.gap.clone() };
        self.between[index].fixed.clone().unwrap_or(unsaid)
    }
}

/// A run with its relations.
struct LineEmitter<'a> {
    run: &'a LineLayout<'a>,
    out: RuleSink<'a>,
}

impl LineEmitter<'_> {
    /// The children of one line, one after another.
    fn along(
        &mut self,
        line: Range<usize>,
        at_most: Option<&[bool]>,
        measures: bool,
    ) -> Option<Shares<Expr>> {
        let run = self.run;
        let Edges { near, far, size } = run.along;
        let at = |index: usize, coordinate| Expr::of(run.items[index].into(), coordinate);
        let (first, last) = (line.start, line.end - 1);
        let ends =
            |index: usize, there: bool| if there { run.between[index].clone() } else { Gap::default() };
        let (leading, trailing) = (ends(first, first == 0), ends(line.end, line.end == run.items.len()));
        let lead = at(first, near) - run.near() - leading.fixed.clone().unwrap_or_default();
        let rest = run.far() - trailing.fixed.clone().unwrap_or_default() - at(last, far);

        // What takes of the space: a child by it, its length and its weight.
        let (mut flexible, mut spaces): (Vec<Flexible>, Vec<Flexible>) = Default::default();
        let is_given = self.out.is_given(size);
        let mut shares = Shares { first, room: run.far() - run.near(), of: Vec::new() };
        let has_shares = run.shares[line.clone()].iter().any(Option::is_some);
        for fixed in [&leading.fixed, &trailing.fixed].into_iter().flatten() {
            shares.room -= fixed.clone();
        }
        if leading.flexible > 0.0 {
            spaces.push((first, lead.clone(), leading.flexible));
        }
        for index in line.clone() {
            let before = &run.between[index];
            if has_shares && index > first {
                shares.room -= run.gap(index);
            }
            if index > first && before.flexible > 0.0 {
                let distance = at(index, near) - at(index - 1, far) - run.gap(index);
                spaces.push((index, distance, before.flexible));
            }
            let Some(share) = &run.shares[index] else {
                if has_shares {
                    shares.room -= at(index, size);
                }
                shares.of.push(None);
                continue;
            };
            let child = run.items[index];
            self.out.fills(child, size, is_given);
            let (least, most) = run.limits.of(child, size, share);
            // The least wins where they cross.
            let most = most.map(|most| least.iter().fold(most, larger));
            let keeps_most = at_most.is_some_and(|all| all.get(index) == Some(&true));
            match most.clone().filter(|_| keeps_most) {
                Some(most) => self.out.require(child, at(index, size), most),
                None => {
                    if let Some(least) = least {
                        self.out.within(child, LayoutStrength::Required, least, at(index, size));
                    }
                    if let Some(most) = most.clone() {
                        self.out.within(child, LayoutStrength::Required, at(index, size), most);
                    }
                    flexible.push((index, at(index, size), share.weight));
                }
            }
            shares.of.push(Some(Sharing { weight: share.weight, most, size: at(index, size) }));
        }
        let unlimited = |size: &Expr, weight: f64| Some(Sharing { weight, most: None, size: size.clone() });
        shares.of.extend(spaces.iter().map(|(_, length, weight)| unlimited(length, *weight)));
        shares.of.extend((trailing.flexible > 0.0).then(|| unlimited(&rest, trailing.flexible)));
        if measures {
            // Any sizes tell how much room there is.
            flexible.clear();
            spaces.clear();
        }

        if !measures {
            self.out.within(run.items[last], LayoutStrength::Whole, -rest.clone(), Expr::default());
        }
        let fills = measures || !flexible.is_empty() || !spaces.is_empty() || trailing.flexible > 0.0;
        self.share_out(flexible, spaces, trailing.flexible, &rest, shares.has_most());
        self.lead(run.items[first], leading.flexible > 0.0, fills, &lead, &rest);
        self.gaps(line, fills, &lead, &rest);
        has_shares.then_some(shares)
    }

    /// What takes of the space: shares in proportion, but for those that need more, and spaces.
    fn share_out(
        &mut self,
        shares: Vec<Flexible>,
        spaces: Vec<Flexible>,
        trailing: f64,
        rest: &Expr,
        has_most: bool,
    ) {
        let run = self.run;
        let is_needy = |(index, _, _): &Flexible| {
            run.needy[*index] || run.shares[*index].as_ref().is_some_and(|s| s.least.is_some())
        };
        let is_alone = shares.len() + spaces.len() + usize::from(trailing > 0.0) == 1;
        let is_given = self.out.is_given(run.along.size);
        let is_line = has_most || shares.iter().any(is_needy) && (is_given || !is_alone);
        let unit_is_space = shares.is_empty();
        let by_child = |(index, length, weight): Flexible| (run.items[index], length, weight);
        let (shares, mut spaces): (Vec<_>, Vec<_>) =
            (shares.into_iter().map(by_child).collect(), spaces.into_iter().map(by_child).collect());
        let last = shares.last().or(spaces.last()).map(|last| last.0);
        let Some(child) = shares.first().or(spaces.first()).map(|first| first.0) else { return };
        let mut fill = None;
        if trailing > 0.0 {
            let behind = max_of(vec![Expr::default(), rest.clone()]);
            spaces.extend(last.map(|child| (child, behind, trailing)));
        } else if has_most {
            fill = Some((child, rest.clone()));
        } else {
            self.out.within(child, LayoutStrength::Required, rest.clone(), Expr::default());
        }
        if is_line {
            let (view, axis) = (run.view, run.arrangement.axis);
            let line = ShareLine { view, is_given, has_most, shares, spaces, fill, axis, group: 0 };
            self.out.all.share_lines.push(line);
            return;
        }
        let mut all = shares.into_iter().chain(spaces);
        let Some((child, unit, unit_weight)) = all.next() else { return };
        if unit_is_space {
            self.out.within(child, LayoutStrength::Required, Expr::default(), unit.clone());
        }
        for (child, length, weight) in all {
            self.out.require(child, length, unit.clone() * (weight / unit_weight));
        }
    }

    /// Where the first child of a line is.
    fn lead(&mut self, child: ViewId, is_flexible: bool, fills: bool, lead: &Expr, rest: &Expr) {
        let spread = if fills { Spread::Start } else { self.run.arrangement.spread };
        let lead = lead.clone();
        match spread {
            _ if is_flexible => {}
            Spread::Start | Spread::Between => self.out.require(child, lead, Expr::default()),
            // Nothing is left behind, or the first is at the start: what is too much goes over the end.
            Spread::End => {
                let all = max_of(vec![Expr::default(), lead.clone() + rest.clone()]);
                self.out.require(child, lead, all);
            }
            Spread::Center | Spread::Around | Spread::Evenly => {
                self.out.require(child, lead, max_of(vec![Expr::default(), rest.clone()]));
            }
        }
    }

    /// The distances between the children of a line that take no share of the space.
    fn gaps(&mut self, line: Range<usize>, fills: bool, lead: &Expr, rest: &Expr) {
        let run = self.run;
        let spread = if fills { Spread::Start } else { run.arrangement.spread };
        let mut same: Option<Expr> = None;
        for index in line.skip(1).filter(|&i| run.between[i].flexible == 0.0) {
            let child = run.items[index];
            let distance =
                Expr::of(child.into(), run.along.near) - Expr::of(run.items[index - 1].into(), run.along.far);
            let gap = run.gap(index);
            if run.between[index].fixed.is_some() {
                self.out.require(child, distance, gap);
                continue;
            }
            // The gap is the least of it; where more room is left, it takes its part.
            let part = match spread {
                Spread::Between => distance.clone() + rest.clone(),
                Spread::Around => lead.clone() * 2.0,
                Spread::Evenly => lead.clone(),
                _ => {
                    self.out.require(child, distance, gap);
                    continue;
                }
            };
            match &same {
                None => {
                    self.out.require(child, distance.clone(), max_of(vec![gap, part]));
                    same = Some(distance);
                }
                Some(same) => self.out.require(child, distance, same.clone()),
            }
        }
    }

    /// Where children lie across: all lines, one below another.
    fn across(&mut self, lines: &[Range<usize>], beyond: bool) {
        let run = self.run;
        let Edges { near, far, .. } = run.across;
        let mut top = Expr::of(run.inner.into(), near) + run.padding(near);
        let bottom = Expr::of(run.inner.into(), far) - run.padding(far);
        let Some(between) = &run.arrangement.wrap else {
            return lines.iter().for_each(|line| self.alone(line.clone(), &top, &bottom));
        };
        for (number, line) in lines.iter().enumerate() {
            let members: Vec<(ViewId, Align)> = line.clone().map(|i| (run.items[i], run.aligns[i])).collect();
            let end = self.out.track(&members, run.across, &top);
            if number + 1 == lines.len() && !beyond {
                for &(child, _) in &members {
                    self.out.within(
                        child,
                        LayoutStrength::Whole,
                        Expr::of(child.into(), far),
                        bottom.clone(),
                    );
                }
            }
            top = end + between.clone();
        }
    }

    /// The children of the only line, between the edges of the view.
    fn alone(&mut self, line: Range<usize>, top: &Expr, bottom: &Expr) {
        let run = self.run;
        let Edges { far, size, .. } = run.across;
        let mut on_baseline: Vec<ViewId> = Vec::new();
        for index in line {
            let (child, align) = (run.items[index], run.aligns[index]);
            if align == Align::Baseline {
                on_baseline.push(child);
            } else {
                let is_given = self.out.is_given(size);
                self.out.lie(child, run.across, align, (top, bottom), is_given);
            }
            let own = |coordinate| Expr::of(child.into(), coordinate);
            match align {
                Align::Stretch => {}
                Align::Baseline => self.out.within(child, LayoutStrength::Whole, own(far), bottom.clone()),
                _ => self.out.within(child, LayoutStrength::Whole, top.clone() + own(size), bottom.clone()),
            }
        }
        self.out.on_baseline(&on_baseline, top);
    }
}
