//! Solving: substitution, then level by level in each block, then the settling steps.

use crate::blocks::{Group, Joined, block_of};
use crate::diagnose::Range;
use crate::presolve::{Substitution, Sum};
use crate::problem::{Level, Linear, Problem, ProblemError, Relation, VarId};
use crate::table::{MAX_TABLE_CELLS, Search, Stopped, Table};
use crate::tolerance::{LENGTH, scale};

/// How a problem came out. None of these is an error.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Status {
    /// Every must holds, and the levels are as good as they can be.
    Solved,
    /// Some musts contradict one another. The point given breaks them by the least total amount.
    Broken,
    /// A bound on the work was met. The point given keeps the givens but may not be the best.
    Stopped,
}

/// The answer to a problem for one set of parameters.
#[derive(Clone, Debug, PartialEq)]
pub struct Outcome {
    /// How it came out.
    pub status: Status,
    /// The value of each variable, in order of creation.
    pub values: Vec<f64>,
    /// Each rule's violation (not weighted), in written order.
    pub violations: Vec<f64>,
    /// The weighted sum of the violations on each level; musts first.
    pub level_totals: Vec<f64>,
}

/// The memory that solving uses, kept between calls.
#[derive(Clone, Debug, Default)]
pub struct Workspace {
    pub(crate) work: Work,
}

impl Workspace {
    /// Empty.
    pub fn new() -> Self {
        Self::default()
    }
}

/// A part of the problem that is searched on its own.
#[derive(Clone, Debug)]
pub(crate) struct Block {
    pub(crate) table: Table,
    pub(crate) vars: Vec<VarId>,
    /// Rule index and its row.
    pub(crate) rules: Vec<(usize, usize)>,
    /// Rows of sizes that were taken out but still may not go below zero.
    givens: Vec<usize>,
    group: usize,
}

#[derive(Clone, Debug, Default)]
pub(crate) struct Work {
    pub(crate) scale: f64,
    /// The constant of each rule at the present parameters.
    pub(crate) constants: Vec<f64>,
    pub(crate) substitution: Substitution,
    pub(crate) blocks: Vec<Block>,
    /// Per variable that is left: its block and column.
    place: Vec<Option<(usize, usize)>>,
    pub(crate) stopped: bool,
    /// The groups whose musts cannot all hold.
    pub(crate) broken: Vec<Group>,
    /// Per broken group: the musts without which less would be broken.
    pub(crate) holding: Vec<Vec<usize>>,
}

impl Problem {
    /// The best point for these parameters.
    ///
    /// # Errors
    /// A wrong number of parameters, or one that is not finite.
    pub fn solve(&self, params: &[f64], workspace: &mut Workspace) -> Result<Outcome, ProblemError> {
        self.check_params(params)?;
        let work = &mut workspace.work;
        work.best_on_all_levels(self, params);
        work.least_own_violations(self, true);
        work.least_own_violations(self, false);
        work.settle(self, params);
        Ok(work.outcome(self, params))
    }
}

impl Work {
    /// Leaves every block at the points that are best on all levels.
    pub(crate) fn best_on_all_levels(&mut self, problem: &Problem, params: &[f64]) {
        self.constants.clear();
        self.constants.extend(problem.rules.iter().map(|r| r.expr.constant.at(params)));
        self.scale = scale(self.constants.iter().fold(0.0, |m: f64, c| m.max(c.abs())));
        self.substitution = Substitution::none(problem.given.len());
        self.stopped = false;
        self.broken.clear();
        self.holding.clear();
        let groups = &problem.groups;
        let mut elastic = vec![false; groups.len()];
        for (group, elastic) in groups.iter().zip(&mut elastic) {
            *elastic = !self.substitution.take_out(problem, &self.constants, &group.rules, self.scale);
            if *elastic {
                self.substitution.put_back(&group.vars);
            }
        }
        // A group whose inequalities turn out to contradict its equalities starts again with
        // every must open to violation.
        loop {
            let reduced = self.make_blocks(problem);
            let again = self.run_musts(problem, &reduced, &mut elastic);
            if !again {
                break;
            }
        }
        for level in 1..problem.level_count() {
            for block in &mut self.blocks {
                let stopped = block.run_level(problem, Level::preference(level as u32));
                self.stopped |= stopped;
            }
        }
    }

    /// Makes the blocks; the rules in terms of the variables that are left.
    fn make_blocks(&mut self, problem: &Problem) -> Vec<Sum> {
        let count = problem.given.len();
        let mut joined = Joined::new(count);
        let reduced: Vec<Sum> = problem
            .rules
            .iter()
            .zip(&self.constants)
            .map(|(r, &c)| self.substitution.reduce(&r.expr.terms, c))
            .collect();
        for sum in &reduced {
            joined.join(&sum.terms);
        }
        // What is asked of a variable that was taken out is asked of all it is made of.
        for (_, sum) in self.substitution.taken() {
            joined.join(&sum.terms);
        }
        for step in &problem.settle {
            joined.join(&self.substitution.reduce(&step.own.terms, 0.0).terms);
        }
        let mut group_of = vec![0; count];
        for (index, group) in problem.groups.iter().enumerate() {
            for var in &group.vars {
                group_of[var.index()] = index;
            }
        }
        self.blocks.clear();
        self.place = vec![None; count];
        let mut number = vec![usize::MAX; count];
        for v in (0..count as u32).map(VarId).filter(|&v| !self.substitution.is_taken(v)) {
            let root = joined.root(v);
            if number[root] == usize::MAX {
                number[root] = self.blocks.len();
                let (table, group) = (Table::new(self.scale), group_of[v.index()]);
                self.blocks.push(Block {
                    table,
                    vars: Vec::new(),
                    rules: Vec::new(),
                    givens: Vec::new(),
                    group,
                });
            }
            let block = &mut self.blocks[number[root]];
            let column = block.table.add_column(problem.given[v.index()]);
            block.vars.push(v);
            self.place[v.index()] = Some((number[root], column));
        }
        let mut planned = vec![0_usize; self.blocks.len()];
        let rule_blocks: Vec<Option<usize>> =
            reduced.iter().map(|sum| block_of(sum, &mut joined, &number)).collect();
        for block in rule_blocks.iter().flatten() {
            planned[*block] += 1;
        }
        for (index, sum) in reduced.iter().enumerate() {
            let Some(block) = rule_blocks[index] else { continue };
            if planned[block].saturating_mul(self.blocks[block].vars.len()) > MAX_TABLE_CELLS {
                self.stopped = true;
                continue;
            }
            let row = self.add_row(block, sum);
            self.blocks[block].rules.push((index, row));
        }
        let givens: Vec<Sum> = self
            .substitution
            .taken()
            .filter(|(v, _)| problem.given[v.index()])
            .map(|(_, sum)| sum.clone())
            .collect();
        for sum in givens {
            if let Some(block) = block_of(&sum, &mut joined, &number) {
                let row = self.add_row(block, &sum);
                self.blocks[block].givens.push(row);
            }
        }
        reduced
    }

    /// A new row of a block, for a sum over variables of that block.
    pub(crate) fn add_row(&mut self, block: usize, sum: &Sum) -> usize {
        let terms = self.columns(sum);
        self.blocks[block].table.add_row(&terms, sum.constant)
    }

    /// Whether no open column of the block moves the sum.
    pub(crate) fn is_plainly_fixed(&self, block: usize, sum: &Sum) -> bool {
        self.blocks[block].table.is_sum_plainly_fixed(&self.columns(sum))
    }

    /// The range of a sum over the points of its block that are still open.
    pub(crate) fn range_of(&mut self, block: usize, sum: &Sum) -> Result<Range, Stopped> {
        let terms = self.columns(sum);
        self.blocks[block].table.range_of(&terms, sum.constant)
    }

    fn columns(&self, sum: &Sum) -> Vec<(usize, f64)> {
        sum.terms.iter().filter_map(|&(v, c)| self.place[v.index()].map(|(_, column)| (column, c))).collect()
    }

    /// The block a sum belongs to, if it has variables.
    pub(crate) fn block_of(&self, sum: &Sum) -> Option<usize> {
        sum.terms.first().and_then(|&(v, _)| self.place[v.index()]).map(|p| p.0)
    }

    /// True where a group has to start again without substitution.
    fn run_musts(&mut self, problem: &Problem, reduced: &[Sum], elastic: &mut [bool]) -> bool {
        let groups = &problem.groups;
        let least = LENGTH * self.scale;
        let mut infeasible = vec![false; groups.len()];
        // A size or a must that came out constant.
        for (group, infeasible) in groups.iter().zip(&mut infeasible) {
            let negative = |v: &VarId| {
                let sum = self.substitution.reduce(&[(*v, 1.0)], 0.0);
                problem.given[v.index()] && sum.terms.is_empty() && sum.constant < -least
            };
            let broken = |&index: &usize| {
                let rule = &problem.rules[index];
                let sum = &reduced[index];
                rule.level == Level::MUST
                    && sum.terms.is_empty()
                    && rule.relation.violation(sum.constant) > least
            };
            *infeasible = group.vars.iter().any(negative) || group.rules.iter().any(broken);
        }
        let mut holding: Vec<Vec<usize>> = vec![Vec::new(); groups.len()];
        for block in &mut self.blocks {
            let given_short = block.run_givens();
            let (short, stopped) = block.run_musts(problem, &mut holding[block.group], least);
            self.stopped |= stopped;
            infeasible[block.group] |= given_short > least || short > least;
        }
        let mut again = false;
        self.broken.clear();
        self.holding.clear();
        for (index, group) in groups.iter().enumerate() {
            if infeasible[index] && !elastic[index] {
                self.substitution.put_back(&group.vars);
                elastic[index] = true;
                again = true;
            } else if infeasible[index] {
                self.broken.push(group.clone());
                self.holding.push(std::mem::take(&mut holding[index]));
            }
        }
        again
    }

    /// Each rule's own violation made least, strongest level first, in written order: of the
    /// musts only (which does nothing where they hold), or of the preferences only.
    pub(crate) fn least_own_violations(&mut self, problem: &Problem, musts: bool) {
        for block in &mut self.blocks {
            let mut order: Vec<(usize, usize)> = block
                .rules
                .iter()
                .copied()
                .filter(|r| (problem.rules[r.0].level == Level::MUST) == musts)
                .collect();
            order.sort_by_key(|&(index, _)| (problem.rules[index].level, index));
            for (index, row) in order {
                let (below, above) = costs(problem.rules[index].relation, 1.0);
                if !block.table.close_unused_sides(row, below > 0.0, above > 0.0) {
                    block.table.set_cost(row, below, above);
                    self.stopped |= block.finish_search();
                }
            }
            block.table.tighten();
        }
    }

    pub(crate) fn settle(&mut self, problem: &Problem, params: &[f64]) {
        for step in &problem.settle {
            let own = self.substitution.reduce(&step.own.terms, step.own.constant.at(params));
            let Some(block) = self.block_of(&own) else { continue };
            match &step.toward {
                Some(toward) => {
                    let target = self.value_of(toward, params);
                    self.bring(block, &own, target);
                }
                None if self.is_plainly_fixed(block, &own) => {}
                None => {
                    let row = self.add_row(block, &own);
                    self.blocks[block].table.set_cost(row, -1.0, 1.0);
                    self.stopped |= self.blocks[block].finish_search();
                }
            }
        }
    }

    /// Brings a sum as near to a value as it can be, for good.
    pub(crate) fn bring(&mut self, block: usize, sum: &Sum, target: f64) {
        if !self.is_plainly_fixed(block, sum) {
            let off = Sum { terms: sum.terms.clone(), constant: sum.constant - target };
            let row = self.add_row(block, &off);
            let block = &mut self.blocks[block];
            block.table.set_cost(row, 1.0, 1.0);
            self.stopped |= block.finish_search();
        }
    }

    pub(crate) fn value_of(&self, expr: &Linear, params: &[f64]) -> f64 {
        let sum = self.substitution.reduce(&expr.terms, expr.constant.at(params));
        self.value_of_sum(&sum)
    }

    pub(crate) fn value_of_sum(&self, sum: &Sum) -> f64 {
        let value = |v: VarId| self.place[v.index()].map_or(0.0, |(b, c)| self.blocks[b].table.value(c));
        sum.terms.iter().map(|&(v, c)| c * value(v)).sum::<f64>() + sum.constant
    }

    pub(crate) fn outcome(&self, problem: &Problem, params: &[f64]) -> Outcome {
        let mut values: Vec<f64> = (0..problem.given.len())
            .map(|v| self.place[v].map_or(0.0, |(b, c)| self.blocks[b].table.value(c)))
            .collect();
        let taken: Vec<(VarId, f64)> =
            self.substitution.taken().map(|(v, sum)| (v, sum.at(&values))).collect();
        for (v, value) in taken {
            values[v.index()] = value;
        }
        for (value, &given) in values.iter_mut().zip(&problem.given) {
            if given {
                *value = value.max(0.0);
            }
            // Zero has no sign.
            *value += 0.0;
        }
        let violations: Vec<f64> =
            problem.rules.iter().map(|r| r.relation.violation(r.expr.at(&values, params))).collect();
        let mut level_totals = vec![0.0; problem.level_count()];
        for (rule, violation) in problem.rules.iter().zip(&violations) {
            level_totals[rule.level.index()] += rule.weight * violation;
        }
        let broken = !self.broken.is_empty() || level_totals[0] > LENGTH * self.scale;
        let status = match (self.stopped, broken) {
            (true, _) => Status::Stopped,
            (false, true) => Status::Broken,
            (false, false) => Status::Solved,
        };
        Outcome { status, values, violations, level_totals }
    }
}

impl Block {
    /// Brings the sizes that were taken out to zero or above; the amount that is still missing.
    fn run_givens(&mut self) -> f64 {
        for &row in &self.givens {
            self.table.set_cost(row, 1.0, 0.0);
        }
        self.table.search();
        let short = self.table.cost();
        self.table.close();
        for &row in &self.givens {
            self.table.close_below(row);
        }
        short
    }

    /// The total violation of the musts, made least, and whether a bound was met.
    fn run_musts(&mut self, problem: &Problem, holding: &mut Vec<usize>, least: f64) -> (f64, bool) {
        self.set_level(problem, Level::MUST);
        let stopped = self.table.search() == Search::Stopped;
        let total = self.table.cost();
        if total > least {
            let rows = self.table.holding();
            let held = self.rules.iter().filter(|(_, row)| rows.binary_search(row).is_ok());
            holding.extend(held.map(|r| r.0).filter(|&r| problem.rules[r].level == Level::MUST));
        }
        self.table.close();
        (total, stopped)
    }

    fn run_level(&mut self, problem: &Problem, level: Level) -> bool {
        self.set_level(problem, level);
        let stopped = self.finish_search();
        self.table.tighten();
        stopped
    }

    fn set_level(&mut self, problem: &Problem, level: Level) {
        for &(index, row) in &self.rules {
            let rule = &problem.rules[index];
            if rule.level == level {
                let (below, above) = costs(rule.relation, rule.weight);
                self.table.set_cost(row, below, above);
            }
        }
    }

    /// Searches and keeps to the best points; true where a bound was met.
    fn finish_search(&mut self) -> bool {
        let search = self.table.search();
        self.table.close();
        search == Search::Stopped
    }

    /// The range of a row or column over the points still open.
    pub(crate) fn range(&mut self, quantity: usize) -> Result<(Option<f64>, Option<f64>), Stopped> {
        self.table.range(quantity)
    }
}

/// What one unit of a rule's expression costs below and above zero.
fn costs(relation: Relation, weight: f64) -> (f64, f64) {
    match relation {
        Relation::Equal => (weight, weight),
        Relation::AtMost => (0.0, weight),
        Relation::AtLeast => (weight, 0.0),
    }
}
