//! A second opinion on levels: a general linear-programming package that is given the same stages one after
//! another. It shares nothing with the solver but the meaning of a problem.

use microlp::{ComparisonOp, LinearExpr, OptimizationDirection, Problem, Variable};

/// How the two sides of a rule compare.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Relation {
    /// They are equal.
    Equal,
    /// The left one is at most the right one.
    AtMost,
    /// The left one is at least the right one.
    AtLeast,
}

/// Coefficients of variables.
pub type Terms = Vec<(usize, f64)>;

/// A rule: `terms + constant`, compared with zero.
#[derive(Clone, Debug)]
pub struct Rule {
    /// Coefficients of variables; a variable may come twice.
    pub terms: Terms,
    /// What is added to them.
    pub constant: f64,
    /// How that compares with zero.
    pub relation: Relation,
    /// 0 is required; the higher, the weaker.
    pub level: u32,
    /// How much it counts within its level.
    pub weight: f64,
}

/// What remains allowed after the stages so far.
pub struct Stages {
    /// Whether each variable is at least zero.
    nonnegative: Vec<bool>,
    rules: Vec<Rule>,
    lp: Problem,
    vars: Vec<Variable>,
    over: Vec<Variable>,
    under: Vec<Variable>,
    kept: Vec<(Costs, ComparisonOp, f64)>,
}

#[derive(Clone, Copy, Debug, PartialEq)]
enum Cost {
    Value(usize),
    Over(usize),
    Under(usize),
}

type Costs = Vec<(Cost, f64)>;

/// The least and the largest value; `None` for no bound.
pub type Range = (Option<f64>, Option<f64>);

/// The package takes each variable once.
fn joined<T: PartialEq + Copy>(terms: &[(T, f64)]) -> Vec<(T, f64)> {
    let mut joined: Vec<(T, f64)> = Vec::new();
    for &(v, c) in terms {
        match joined.iter_mut().find(|t| t.0 == v) {
            Some(t) => t.1 += c,
            None => joined.push((v, c)),
        }
    }
    joined
}

impl Stages {
    /// Before the first stage: anything goes but for the variables that are at least zero.
    pub fn new(nonnegative: Vec<bool>, rules: Vec<Rule>) -> Self {
        let lp = Problem::new(OptimizationDirection::Minimize);
        let (vars, over, under, kept) = (Vec::new(), Vec::new(), Vec::new(), Vec::new());
        Self { nonnegative, rules, lp, vars, over, under, kept }
    }

    /// The package takes costs when variables are made, so each stage is a problem of its own.
    fn fill(&mut self, costs: &[(Cost, f64)]) {
        self.lp = Problem::new(OptimizationDirection::Minimize);
        let cost = |of: Cost| costs.iter().filter(|c| c.0 == of).map(|c| c.1).sum::<f64>();
        let (inf, lp) = (f64::INFINITY, &mut self.lp);
        let low = |nonnegative: bool| if nonnegative { 0.0 } else { -inf };
        let all = self.nonnegative.iter().enumerate();
        self.vars = all.map(|(v, &n)| lp.add_var(cost(Cost::Value(v)), (low(n), inf))).collect();
        let count = self.rules.len();
        self.over = (0..count).map(|r| lp.add_var(cost(Cost::Over(r)), (0.0, inf))).collect();
        self.under = (0..count).map(|r| lp.add_var(cost(Cost::Under(r)), (0.0, inf))).collect();
        for (index, rule) in self.rules.iter().enumerate() {
            let mut row = LinearExpr::empty();
            for (v, c) in joined(&rule.terms) {
                row.add(self.vars[v], c);
            }
            row.add(self.over[index], -1.0);
            row.add(self.under[index], 1.0);
            lp.add_constraint(row, ComparisonOp::Eq, -rule.constant);
        }
        for (costs, op, right) in &self.kept {
            let mut row = LinearExpr::empty();
            for &(of, c) in costs {
                match of {
                    Cost::Value(v) => row.add(self.vars[v], c),
                    Cost::Over(r) => row.add(self.over[r], c),
                    Cost::Under(r) => row.add(self.under[r], c),
                }
            }
            lp.add_constraint(row, *op, *right);
        }
    }

    fn violation(&self, rule: usize, weight: f64) -> Costs {
        let relation = self.rules[rule].relation;
        let over = (relation != Relation::AtLeast).then_some((Cost::Over(rule), weight));
        let under = (relation != Relation::AtMost).then_some((Cost::Under(rule), weight));
        over.into_iter().chain(under).collect()
    }

    fn least(&mut self, costs: &[(Cost, f64)]) -> Option<f64> {
        self.fill(costs);
        Some(self.lp.solve().ok()?.into_solution().ok()?.objective())
    }

    /// Makes a sum least and keeps it there.
    fn keep(&mut self, costs: Costs) -> Option<f64> {
        if costs.is_empty() {
            return Some(0.0);
        }
        let least = self.least(&costs)?;
        self.kept.push((costs, ComparisonOp::Le, least + 1e-8));
        Some(least)
    }

    /// Makes the weighted total of a level least and keeps it there; `None` where the package gives up.
    pub fn level(&mut self, level: u32) -> Option<f64> {
        let of_level = (0..self.rules.len()).filter(|&r| self.rules[r].level == level);
        let costs = of_level.flat_map(|r| self.violation(r, self.rules[r].weight)).collect();
        self.keep(costs)
    }

    /// Makes each rule's own violation least in turn: strongest level first, in written order. Only those that
    /// are required, or only the others.
    pub fn own(&mut self, required: bool) -> Option<()> {
        let mut order: Vec<usize> =
            (0..self.rules.len()).filter(|&r| (self.rules[r].level == 0) == required).collect();
        order.sort_by_key(|&r| (self.rules[r].level, r));
        order.into_iter().try_for_each(|r| self.keep(self.violation(r, 1.0)).map(|_| ()))
    }

    /// The values that an expression can have.
    pub fn range(&mut self, terms: &[(usize, f64)]) -> Range {
        let costs = |sign: f64| -> Costs {
            joined(terms).into_iter().map(|(v, c)| (Cost::Value(v), sign * c)).collect()
        };
        let low = self.least(&costs(1.0));
        (low, self.least(&costs(-1.0)).map(|high| -high))
    }

    /// Fixes an expression as near to a target as it can be, and says where.
    pub fn settle(&mut self, terms: &[(usize, f64)], target: f64) -> f64 {
        let (low, high) = self.range(terms);
        let value = target.max(low.unwrap_or(f64::NEG_INFINITY)).min(high.unwrap_or(f64::INFINITY));
        let costs: Costs = joined(terms).into_iter().map(|(v, c)| (Cost::Value(v), c)).collect();
        self.kept.push((costs.clone(), ComparisonOp::Le, value + 1e-8));
        self.kept.push((costs, ComparisonOp::Ge, value - 1e-8));
        value
    }
}
