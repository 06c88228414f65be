//! A second opinion: a dense simplex in exact rational arithmetic that shares nothing with the
//! solver but the meaning of a problem. Slow and plain on purpose.

use num_bigint::BigInt;
use num_rational::BigRational;
use num_traits::{One, Signed, Zero};
use vantic_solver::Relation;

pub(crate) type Q = BigRational;

pub(crate) fn q(number: f64) -> Q {
    Q::from_float(number).expect("finite")
}

/// `minimise cost * x` where `rows * x = right`, `x >= 0`: two phases, Bland's rule.
/// `None` for no feasible point, `Some(None)` where the cost falls without end.
fn simplex(rows: &[Vec<Q>], right: &[Q], cost: &[Q]) -> Option<Option<Vec<Q>>> {
    let n = cost.len();
    let m = rows.len();
    let mut t: Vec<Vec<Q>> = Vec::new();
    for (i, (row, b)) in rows.iter().zip(right).enumerate() {
        let sign = if b.is_negative() { -Q::one() } else { Q::one() };
        let mut line: Vec<Q> = row.iter().map(|c| c * &sign).collect();
        line.extend((0..m).map(|j| if i == j { Q::one() } else { Q::zero() }));
        line.push(b * &sign);
        t.push(line);
    }
    let mut basis: Vec<usize> = (n..n + m).collect();
    let first: Vec<Q> = (0..n + m).map(|j| if j < n { Q::zero() } else { Q::one() }).collect();
    run(&mut t, &mut basis, &first, n + m)?;
    let rest: Q = (0..m).filter(|&i| basis[i] >= n).map(|i| t[i][n + m].clone()).sum();
    if rest.is_positive() {
        return None;
    }
    for i in 0..m {
        if basis[i] >= n
            && let Some(j) = (0..n).find(|&j| !t[i][j].is_zero())
        {
            pivot(&mut t, &mut basis, i, j);
        }
    }
    let mut second = cost.to_vec();
    second.resize(n + m, Q::zero());
    if run(&mut t, &mut basis, &second, n).is_none() {
        return Some(None);
    }
    let mut x = vec![Q::zero(); n];
    for i in 0..m {
        if basis[i] < n {
            x[basis[i]] = t[i][n + m].clone();
        }
    }
    Some(Some(x))
}

/// `None` where the cost falls without end.
fn run(t: &mut [Vec<Q>], basis: &mut [usize], cost: &[Q], allowed: usize) -> Option<()> {
    let last = t.first().map_or(0, |r| r.len() - 1);
    loop {
        let entering = (0..allowed).find(|&j| {
            let through: Q = (0..t.len()).map(|i| &cost[basis[i]] * &t[i][j]).sum();
            (&cost[j] - through).is_negative()
        });
        let Some(j) = entering else { return Some(()) };
        let leaving = (0..t.len()).filter(|&i| t[i][j].is_positive()).min_by(|&a, &b| {
            (&t[a][last] / &t[a][j]).cmp(&(&t[b][last] / &t[b][j])).then(basis[a].cmp(&basis[b]))
        })?;
        pivot(t, basis, leaving, j);
    }
}

fn pivot(t: &mut [Vec<Q>], basis: &mut [usize], i: usize, j: usize) {
    let by = t[i][j].clone();
    for c in &mut t[i] {
        *c /= &by;
    }
    let line = t[i].clone();
    for (r, row) in t.iter_mut().enumerate() {
        if r != i && !row[j].is_zero() {
            let f = row[j].clone();
            for (c, l) in row.iter_mut().zip(&line) {
                *c -= &f * l;
            }
        }
    }
    basis[i] = j;
}

#[derive(Clone, Debug)]
pub(crate) struct ExactRule {
    pub(crate) terms: Vec<(usize, Q)>,
    pub(crate) constant: Q,
    pub(crate) relation: Relation,
    pub(crate) level: usize,
    pub(crate) weight: Q,
}

/// The points that are best so far: a growing list of equations over
/// `[x+ , x- (free ones only matter), over, under]`.
#[derive(Clone)]
pub(crate) struct Best {
    variables: usize,
    rules: Vec<ExactRule>,
    rows: Vec<Vec<Q>>,
    right: Vec<Q>,
}

impl Best {
    pub(crate) fn new(nonnegative: &[bool], rules: &[ExactRule]) -> Self {
        let mut best =
            Self { variables: nonnegative.len(), rules: rules.to_vec(), rows: Vec::new(), right: Vec::new() };
        for (i, rule) in rules.iter().enumerate() {
            let mut row = best.line(&rule.terms);
            row[2 * best.variables + 2 * i] = -Q::one();
            row[2 * best.variables + 2 * i + 1] = Q::one();
            best.rows.push(row);
            best.right.push(-rule.constant.clone());
        }
        for (v, nonnegative) in nonnegative.iter().enumerate() {
            if *nonnegative {
                let mut row = best.line(&[]);
                row[2 * v + 1] = Q::one();
                best.rows.push(row);
                best.right.push(Q::zero());
            }
        }
        best
    }

    fn line(&self, terms: &[(usize, Q)]) -> Vec<Q> {
        let mut row = vec![Q::zero(); 2 * self.variables + 2 * self.rules.len()];
        for (v, c) in terms {
            row[2 * v] += c;
            row[2 * v + 1] -= c;
        }
        row
    }

    fn violation(&self, rule: usize, weight: &Q) -> Vec<Q> {
        let mut row = self.line(&[]);
        let at = 2 * self.variables + 2 * rule;
        let relation = self.rules[rule].relation;
        if relation != Relation::AtLeast {
            row[at] = weight.clone();
        }
        if relation != Relation::AtMost {
            row[at + 1] = weight.clone();
        }
        row
    }

    fn least(&self, cost: &[Q]) -> Option<Q> {
        let x = simplex(&self.rows, &self.right, cost).expect("the best points are never none")?;
        Some(cost.iter().zip(&x).map(|(c, x)| c * x).sum())
    }

    fn keep(&mut self, cost: Vec<Q>) -> Q {
        let least = self.least(&cost).expect("violations are never below zero");
        self.rows.push(cost);
        self.right.push(least.clone());
        least
    }

    /// Makes the weighted total of a level least.
    pub(crate) fn level(&mut self, level: usize) -> Q {
        let mut cost = self.line(&[]);
        for (i, rule) in self.rules.iter().enumerate().filter(|(_, r)| r.level == level) {
            for (c, v) in cost.iter_mut().zip(self.violation(i, &rule.weight)) {
                *c += v;
            }
        }
        self.keep(cost)
    }

    /// Makes one rule's own violation least.
    pub(crate) fn own(&mut self, rule: usize) {
        self.keep(self.violation(rule, &Q::one()));
    }

    pub(crate) fn range(&self, var: usize) -> (Option<Q>, Option<Q>) {
        let low = self.least(&self.line(&[(var, Q::one())]));
        let high = self.least(&self.line(&[(var, -Q::one())])).map(|h| -h);
        (low, high)
    }

    /// Fixes a variable at the value of its range that is nearest to `target`.
    pub(crate) fn settle(&mut self, var: usize, target: &Q) -> Q {
        let (low, high) = self.range(var);
        let mut value = target.clone();
        if let Some(low) = low {
            value = value.max(low);
        }
        if let Some(high) = high {
            value = value.min(high);
        }
        self.rows.push(self.line(&[(var, Q::one())]));
        self.right.push(value.clone());
        value
    }
}

/// Whether these required rules can hold together with these givens.
pub(crate) fn can_hold(nonnegative: &[bool], rules: &[ExactRule]) -> bool {
    let mut required = rules.to_vec();
    for m in &mut required {
        (m.level, m.weight) = (0, BigRational::from_integer(BigInt::from(1)));
    }
    Best::new(nonnegative, &required).level(0).is_zero()
}
