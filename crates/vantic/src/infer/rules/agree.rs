//! The numbers of drawings by hand: what is measured is off by a few pixels, and what is meant is round and used more than once.
//!
//! With the relations that were chosen, every place and size is linear in their numbers. All of what is drawn, in all drawings, is off from that by
//! as much (least squares). What each number is meant to be is the likeliest whole number: by how far everything drawn is from it,
//! how round it is, and how many other numbers of its kind are the same; one or two at a time, repeated until nothing changes
//! (iterated conditional modes; Besag 1986).

use crate::infer::rules::relation::{Point, Relation, Size, Target, What, near_of, size_of};
use crate::infer::rules::table::{Sheet, Table, index};
use std::collections::{BTreeMap, HashMap};
use vantic_core::geometry::Axis;

/// How far from what fits best a number may be, in logical pixels.
const REACH: i64 = 5;

/// How often all numbers are looked at, at most.
const ROUNDS: usize = 30;

/// How often the numbers that fit best are improved.
const SWEEPS: usize = 60;

/// How two numbers are changed at once: what one loses the other may gain.
const PAIRS: [(i64, i64); 12] = [
    (1, -1),
    (-1, 1),
    (1, 1),
    (-1, -1),
    (2, -2),
    (-2, 2),
    (2, 2),
    (-2, -2),
    (1, -2),
    (-1, 2),
    (2, -1),
    (-2, 1),
];

/// What is drawn is off by so much (standard deviation), in logical pixels.
const OFF: f64 = 1.2;

/// How much a vote counts: as many as this make a number twice as likely.
const VOTES: f64 = 2.0;

/// What numbers are for: those of one kind are likely to be the same.
type Kind = (usize, u8);

/// A sum of numbers of relations, by their places, and a constant.
#[derive(Clone, Debug, Default)]
struct Affine {
    constant: f64,
    of: BTreeMap<usize, f64>,
}

impl Affine {
    fn constant(constant: f64) -> Self {
        Self { constant, of: BTreeMap::new() }
    }

    fn add(&mut self, other: &Affine, factor: f64) {
        self.constant += factor * other.constant;
        for (&number, &c) in &other.of {
            *self.of.entry(number).or_default() += factor * c;
        }
    }
}

/// How likely somebody writes a number.
fn roundness(value: i64) -> f64 {
    match value {
        _ if value % 8 == 0 => 1.0,
        _ if value % 4 == 0 => 0.8,
        _ if value % 10 == 0 => 0.6,
        _ if value % 2 == 0 => 0.3,
        _ if value % 5 == 0 => 0.25,
        _ => 0.06,
    }
}

/// What a relation has a number for, and the sign with which it stands there.
fn number_of(relation: &Relation) -> Option<(Kind, f64)> {
    let axis = index(relation.axis);
    match relation.what {
        What::Is(Size::Fixed(_)) => Some(((axis, 0), 1.0)),
        What::At { own, point, by, .. } if by != 0.0 => match (own, point) {
            (Point::Near, Point::Near) => Some(((axis, 1), 1.0)),
            (Point::Far, Point::Far) => Some(((axis, 1), -1.0)),
            (Point::Near, Point::Far) => Some(((axis, 2), 1.0)),
            (Point::Far, Point::Near) => Some(((axis, 2), -1.0)),
            _ => None,
        },
        _ => None,
    }
}

/// What the variables of a relation come to on a drawing, without its number where that is one; `None` where the drawing does not tell.
fn come_to(relation: &Relation, sheet: &Sheet) -> Option<f64> {
    let axis = relation.axis;
    let size = |size: &Size| match *size {
        Size::Fixed(size) => Some(size),
        Size::Share { of: Target::View(_), plus, .. } => Some(plus),
        Size::Share { of, factor, plus } => Some(factor * of.extent(sheet, axis)?.size + plus),
    };
    let place = |target: &Target, point: Point| match target {
        Target::View(_) => Some(0.0),
        target => Some(point.of(target.extent(sheet, axis)?)),
    };
    let natural = || {
        let content = sheet.contents[relation.view].as_ref()?;
        Some(if axis == Axis::Across { content.natural.width } else { content.drawn.height })
    };
    match &relation.what {
        What::Natural => natural(),
        What::Is(is) => size(is),
        What::Least(a, b) | What::Greatest(a, b) => {
            let (x, y) = (a.value(sheet, axis)?, b.value(sheet, axis)?);
            size(if (x <= y) == matches!(relation.what, What::Least(..)) { a } else { b })
        }
        What::At { target, point, by, .. } => Some(place(target, *point)? + by),
        What::Fraction { target, factor, .. } => match target {
            Target::View(_) => Some(0.0),
            target => {
                let extent = target.extent(sheet, axis)?;
                Some(extent.near + factor * extent.size)
            }
        },
        What::Baseline { of } => {
            let ascent = |of: usize| Some(sheet.contents[of].as_ref()?.drawn.ascent);
            Some(ascent(*of)? - ascent(relation.view)?)
        }
        What::Ratio { .. } | What::Even { .. } => Some(0.0),
        What::Until { target, point, by } => match relation.form(sheet).len() {
            1 => natural(),
            _ => Some(place(target, *point)? - by),
        },
    }
}

/// Every place and size on a drawing as a sum of numbers; what relations leave open is as it is drawn.
fn solved(
    relations: &[&Relation],
    numbers: &HashMap<usize, f64>,
    sheet: &Sheet,
) -> Option<HashMap<usize, Affine>> {
    let mut rows: BTreeMap<usize, (BTreeMap<usize, f64>, Affine)> = BTreeMap::new();
    let mut put = |mut form: BTreeMap<usize, f64>, mut value: Affine| {
        loop {
            let Some((&last, &c)) = form.iter().next_back() else { return };
            if c.abs() <= 1e-9 {
                form.remove(&last);
                continue;
            }
            let Some((row, of)) = rows.get(&last) else {
                let scaled = form.into_iter().map(|(var, of)| (var, of / c)).collect();
                let mut by = Affine::default();
                by.add(&value, 1.0 / c);
                rows.insert(last, (scaled, by));
                return;
            };
            for (&var, &of) in row {
                *form.entry(var).or_default() -= c * of;
            }
            form.remove(&last);
            value.add(of, -c);
        }
    };
    for (at, relation) in relations.iter().enumerate() {
        let mut form: BTreeMap<usize, f64> = BTreeMap::new();
        for (var, c) in relation.form(sheet) {
            *form.entry(var).or_default() += c;
        }
        let mut value = Affine::constant(come_to(relation, sheet)?);
        if let Some(sign) = numbers.get(&at) {
            let (What::Is(Size::Fixed(now)) | What::At { by: now, .. }) = relation.what else { return None };
            value.constant -= now;
            value.of.insert(at, *sign);
        }
        put(form, value);
    }
    for (view, extents) in sheet.boxes.iter().enumerate() {
        let Some(extents) = extents else { continue };
        for axis in [Axis::Across, Axis::Down] {
            let extent = extents[index(axis)];
            put(BTreeMap::from([(near_of(view, axis), 1.0)]), Affine::constant(extent.near));
            put(BTreeMap::from([(size_of(view, axis), 1.0)]), Affine::constant(extent.size));
        }
    }
    // A row tells its last variable by those before it.
    let mut all: HashMap<usize, Affine> = HashMap::new();
    for (var, (form, value)) in rows {
        let mut sum = value;
        for (of, c) in form.into_iter().filter(|(of, _)| *of != var) {
            sum.add(all.get(&of)?, -c);
        }
        all.insert(var, sum);
    }
    Some(all)
}

/// How far everything drawn is from what numbers give, and how unlikely the numbers are.
struct Doubt {
    kinds: Vec<Kind>,
    gradient: Vec<f64>,
    /// Symmetric: per number those that it has to do with.
    curvature: Vec<BTreeMap<usize, f64>>,
}

/// Numbers, with what a change of them is judged by.
struct Settling<'a> {
    doubt: &'a Doubt,
    values: Vec<i64>,
    /// Per number: the curvature along all of them.
    along: Vec<f64>,
    votes: HashMap<(Kind, i64), usize>,
}

impl<'a> Settling<'a> {
    fn new(doubt: &'a Doubt, values: Vec<i64>) -> Self {
        let along = doubt.curvature.iter().map(|row| row.iter().map(|(&of, c)| c * values[of] as f64).sum());
        let along = along.collect();
        let mut votes: HashMap<(Kind, i64), usize> = HashMap::new();
        for (&kind, &value) in std::iter::zip(&doubt.kinds, &values) {
            *votes.entry((kind, value)).or_default() += 1;
        }
        Self { doubt, values, along, votes }
    }

    /// By how much the doubt grows where some numbers change.
    fn change(&self, moves: &[(usize, i64)]) -> f64 {
        let Doubt { gradient, curvature, .. } = self.doubt;
        let mut square = 0.0;
        for &(at, by) in moves {
            let by = by as f64;
            square += 2.0 * by * (self.along[at] - gradient[at]);
            for &(other, further) in moves {
                square += by * further as f64 * curvature[at].get(&other).copied().unwrap_or(0.0);
            }
        }
        let mut likely = 0.0;
        for &(at, by) in moves {
            likely += self.unlikely(at, self.values[at] + by) - self.unlikely(at, self.values[at]);
        }
        square / (2.0 * OFF * OFF) + likely
    }

    /// How unlikely a number is, with the others as they are.
    fn unlikely(&self, at: usize, value: i64) -> f64 {
        let all = self.votes.get(&(self.doubt.kinds[at], value)).copied().unwrap_or(0);
        let votes = all - usize::from(self.values[at] == value);
        -(roundness(value) * (1.0 + votes as f64 / VOTES)).ln()
    }

    fn make(&mut self, moves: &[(usize, i64)]) {
        for &(at, by) in moves {
            let kind = self.doubt.kinds[at];
            *self.votes.entry((kind, self.values[at])).or_default() -= 1;
            self.values[at] += by;
            *self.votes.entry((kind, self.values[at])).or_default() += 1;
            for (&of, c) in &self.doubt.curvature[at] {
                self.along[of] += c * by as f64;
            }
        }
    }

    /// Changes one number or two at a time as long as the doubt shrinks.
    fn settle(&mut self) {
        for _ in 0..ROUNDS {
            let mut is_settled = true;
            for at in 0..self.values.len() {
                let one = (-REACH..=REACH).filter(|by| *by != 0).map(|by| vec![(at, by)]);
                let others = self.doubt.curvature[at].keys().filter(|other| **other > at);
                let two = others.flat_map(|&other| PAIRS.map(|(a, b)| vec![(at, a), (other, b)]));
                let tried = one.chain(two).map(|moves| (self.change(&moves), moves));
                let best = tried.min_by(|a, b| a.0.total_cmp(&b.0));
                if let Some((_, moves)) = best.filter(|(change, _)| *change < -1e-6) {
                    self.make(&moves);
                    is_settled = false;
                }
            }
            if is_settled {
                break;
            }
        }
    }
}

impl Doubt {
    /// The numbers that fit best, round or not (Gauss and Seidel).
    fn best(&self) -> Vec<f64> {
        let mut values = vec![0.0; self.kinds.len()];
        for _ in 0..SWEEPS {
            for at in 0..values.len() {
                let Some(own) = self.curvature[at].get(&at).filter(|own| **own > 1e-9) else { continue };
                let rest: f64 = self.curvature[at]
                    .iter()
                    .filter(|(of, _)| **of != at)
                    .map(|(&of, c)| c * values[of])
                    .sum();
                values[at] = (self.gradient[at] - rest) / own;
            }
        }
        values
    }
}

/// Gives the numbers of relations the values that they are likely meant to have.
pub(super) fn agree(table: &Table, chosen: &mut [Relation], others: &[Relation]) {
    let relations: Vec<&Relation> = chosen.iter().chain(others).collect();
    let numbers: Vec<(usize, Kind, f64)> = chosen
        .iter()
        .enumerate()
        .filter_map(|(at, relation)| number_of(relation).map(|(kind, sign)| (at, kind, sign)))
        .collect();
    let signs: HashMap<usize, f64> = numbers.iter().map(|(at, _, sign)| (*at, *sign)).collect();
    let places: HashMap<usize, usize> =
        numbers.iter().enumerate().map(|(place, (at, ..))| (*at, place)).collect();
    let mut doubt = Doubt {
        kinds: numbers.iter().map(|(_, kind, _)| *kind).collect(),
        gradient: vec![0.0; numbers.len()],
        curvature: vec![BTreeMap::new(); numbers.len()],
    };
    for sheet in &table.sheets {
        let Some(all) = solved(&relations, &signs, sheet) else { return };
        for (view, extents) in sheet.boxes.iter().enumerate() {
            let Some(extents) = extents else { continue };
            for axis in [Axis::Across, Axis::Down] {
                let extent = extents[index(axis)];
                for (var, drawn) in [(near_of(view, axis), extent.near), (size_of(view, axis), extent.size)] {
                    let Some(is) = all.get(&var) else { continue };
                    for (a, &c) in &is.of {
                        doubt.gradient[places[a]] += c * (drawn - is.constant);
                        for (b, &d) in &is.of {
                            *doubt.curvature[places[a]].entry(places[b]).or_default() += c * d;
                        }
                    }
                }
            }
        }
    }
    let now = |&(at, _, sign): &(usize, Kind, f64)| match chosen[at].what {
        What::Is(Size::Fixed(now)) | What::At { by: now, .. } => sign * now,
        _ => 0.0,
    };
    let begun: Vec<f64> = numbers.iter().map(now).collect();
    let begin = |values: &[f64]| -> Vec<i64> { values.iter().map(|value| value.round() as i64).collect() };
    let mut settled = Settling::new(&doubt, begin(&begun));
    settled.settle();
    let mut other = Settling::new(&doubt, begin(&doubt.best()));
    other.settle();
    let moves: Vec<(usize, i64)> =
        std::iter::zip(&settled.values, &other.values).map(|(a, b)| b - a).enumerate().collect();
    let values = if settled.change(&moves) < 0.0 { other.values } else { settled.values };
    for ((at, _, sign), value) in std::iter::zip(numbers, values) {
        match &mut chosen[at].what {
            What::Is(Size::Fixed(size)) => *size = (value as f64).max(0.0),
            What::At { by, .. } => *by = sign * value as f64,
            _ => {}
        }
    }
}
