//! A proof of a contradiction cut down to as few members as it needs.
//!
//! The members of a proof (Farkas 1902) that uses no more than it needs are those of a vertex of all proofs, and
//! without any one of them the others can hold (Gleeson & Ryan 1990). From any proof one comes to such a one as in
//! Carathéodory's theorem (1907): along a dependence among the members, in the direction in which the proof does not
//! get weaker, until a member is not needed any more.

use crate::tolerance::{CANCELLED, ENTRY};
use crate::work;

/// Proofs of more members than this are left as they are: it takes the cube of their number.
const MAX_MEMBERS: usize = 2000;

/// So many entries of a table that change are a unit of work.
const CHANGED: usize = 64;

/// A member of a proof: coefficients by the place of the variable, a constant, and its factor.
#[derive(Clone, Debug)]
pub(crate) struct Member {
    pub(crate) terms: Vec<(usize, f64)>,
    pub(crate) constant: f64,
    pub(crate) factor: f64,
}

/// The places of the members that a proof needs, each with its factor in what is left of the proof. Times their factors
/// the members add up to a number above zero, with no variable of `variables` left. `None` where that is not so, as far
/// as one can tell, or where there are too many.
pub(crate) fn needed(members: &[Member], variables: usize) -> Option<Vec<(usize, f64)>> {
    if members.len() > MAX_MEMBERS || variables > MAX_MEMBERS {
        return None;
    }
    let mut table = Table::new(members, variables);
    let mut free = table.settle();
    // What was written first goes first.
    free.sort_unstable();
    for place in free {
        if let Some(circuit) = table.without(place) {
            return Some(circuit);
        }
    }
    None
}

/// The members as columns, with some of them a basis: all others are sums of these.
struct Table {
    /// Per row: the coefficients of all members.
    rows: Vec<Vec<f64>>,
    /// Per row, once it is settled: which member it stands for.
    basis: Vec<Option<usize>>,
    constants: Vec<f64>,
    factors: Vec<f64>,
}

impl Table {
    fn new(members: &[Member], variables: usize) -> Self {
        let mut rows = vec![vec![0.0; members.len()]; variables];
        for (place, member) in members.iter().enumerate() {
            for &(variable, coefficient) in &member.terms {
                rows[variable][place] += coefficient;
            }
        }
        let basis = vec![None; variables];
        let constants = members.iter().map(|m| m.constant).collect();
        let factors = members.iter().map(|m| m.factor).collect();
        Self { rows, basis, constants, factors }
    }

    /// Makes a basis of the members that were written last, and returns those that are in none.
    fn settle(&mut self) -> Vec<usize> {
        let mut free = Vec::new();
        for place in (0..self.factors.len()).rev() {
            let open = (0..self.rows.len()).filter(|&row| self.basis[row].is_none());
            let largest =
                open.max_by(|&a, &b| self.rows[a][place].abs().total_cmp(&self.rows[b][place].abs()));
            match largest.filter(|&row| self.rows[row][place].abs() > ENTRY) {
                Some(row) => self.pivot(row, place),
                None => free.push(place),
            }
        }
        free
    }

    /// The member stands for the row from now on.
    fn pivot(&mut self, row: usize, place: usize) {
        let by = self.rows[row][place];
        self.rows[row].iter_mut().for_each(|c| *c /= by);
        let own = std::mem::take(&mut self.rows[row]);
        let mut rows = 1;
        for other in self.rows.iter_mut().filter(|other| !other.is_empty()) {
            let times = other[place];
            if times != 0.0 {
                rows += 1;
                std::iter::zip(other.iter_mut(), &own).for_each(|(c, o)| *c -= times * o);
                other[place] = 0.0;
            }
        }
        work::spend(1 + rows * own.len() / CHANGED);
        self.rows[row] = own;
        self.basis[row] = Some(place);
    }

    /// How a member depends on the basis: itself once, and each of the basis so many times.
    fn dependence(&self, place: usize) -> Vec<(usize, f64)> {
        let based = self.basis.iter().enumerate().filter_map(|(row, of)| {
            let times = self.rows[row][place];
            of.filter(|_| times.abs() > ENTRY).map(|of| (of, -times))
        });
        std::iter::once((place, 1.0)).chain(based).collect()
    }

    /// Takes a member out of the proof, or puts it into the basis for one that it depends on. Where the proof gets
    /// ever stronger on the way, the dependence is a proof by itself.
    fn without(&mut self, place: usize) -> Option<Vec<(usize, f64)>> {
        if self.factors[place] == 0.0 {
            return None;
        }
        let dependence = self.dependence(place);
        let gains = dependence.iter().map(|&(of, times)| times * self.constants[of]);
        let (gain, scale) = gains.fold((0.0, 0.0), |(sum, all), one: f64| (sum + one, all + one.abs()));
        // What gains nothing goes the way on which the member itself does.
        let sign =
            if gain.abs() <= CANCELLED * scale { -self.factors[place].signum() } else { gain.signum() };
        // What has no part in the proof any more gets none.
        let until_zero = |&(of, times): &(usize, f64)| {
            let step = -self.factors[of] / (sign * times);
            (step >= 0.0 || self.factors[of] == 0.0).then_some((of, step.max(0.0)))
        };
        let first = dependence.iter().filter_map(until_zero).min_by(|a, b| a.1.total_cmp(&b.1));
        let Some((gone, step)) = first else {
            let mut circuit: Vec<(usize, f64)> =
                dependence.into_iter().map(|(of, times)| (of, sign * times)).collect();
            circuit.sort_unstable_by_key(|member| member.0);
            return Some(circuit);
        };
        for &(of, times) in &dependence {
            self.factors[of] += step * sign * times;
        }
        self.factors[gone] = 0.0;
        if gone != place
            && let Some(row) = self.basis.iter().position(|of| *of == Some(gone))
        {
            self.pivot(row, place);
        }
        None
    }
}
