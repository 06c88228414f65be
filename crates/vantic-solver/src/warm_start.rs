//! A plan that goes over to another problem, from what that shares with its own.

use crate::plan::Plan;
use crate::problem::Problem;
use crate::rows::{Row, Use};

/// So many rules are not changed one by one: a solve from nothing is faster.
const MANY_CHANGED: usize = 256;

impl Plan {
    /// Goes over to a problem with the same variables, parameters and settling steps: the rules that both
    /// begin with, and those that both end with, stay solved as they are, so that a change of a few rules
    /// costs little. From then on it is a plan of that problem, its ids and what it watches included.
    ///
    /// `false` where the problems differ in more than rules or in many of them, variables were removed, or nothing is solved
    /// yet: the plan is unchanged.
    pub fn reuse_for(&mut self, problem: &Problem) -> bool {
        let rows = &self.search.rows;
        let settled = rows.settle_rows().iter().map(|&row| row as usize);
        let fits = self.is_solved()
            && self.removed_variables.is_empty()
            && rows.params == problem.params
            && rows.nonnegative == problem.nonnegative
            && rows.settle_rows().len() == problem.settle.len()
            && std::iter::zip(settled, &problem.settle).all(|(row, step)| rows.is_settle(row, step));
        if !fits {
            return false;
        }
        let (old, new) = (rows.rule_rows().len(), problem.rules.len());
        let same = |old: usize, new: usize| rows.is_rule_like(rows.rule_rows()[old], &problem.rules[new]);
        let begin = (0..old.min(new)).take_while(|&at| same(at, at)).count();
        let end = (1..=old.min(new) - begin).take_while(|&back| same(old - back, new - back)).count();
        if old - end - begin > MANY_CHANGED {
            return false;
        }
        self.watched.clone_from(&problem.watched);
        if begin == old && begin == new {
            return true;
        }
        self.changed();
        let gone: Vec<u32> = rows_of(self, begin..old - end);
        for &row in &gone {
            self.take_away(row);
        }
        self.search.rows.renumber(begin..old - end, new - end);
        self.search.state.renumber((old - end) as u32, new as i64 - old as i64);
        for (number, rule) in (begin..).zip(&problem.rules[begin..new - end]) {
            let (expr, level) = (&rule.expr, rule.level.0);
            let index =
                self.search.rows.store_rule_again(number as u32, expr, rule.relation, level, rule.weight);
            self.note_size(self.search.rows.stored(index).constant);
            self.search.rows.note_readers(index);
        }
        self.search.fit();
        for row in rows_of(self, begin..new - end) {
            self.search.check(Row(row));
        }
        self.finish_edit();
        // What is gone has no number any more, so nothing may be told to be held by it.
        if gone.iter().any(|&row| self.search.holds_removed(row)) {
            self.search.rows.drop_left_over();
            self.cold();
        }
        true
    }
}

/// The rows of the rules with these numbers, but for those that were removed.
fn rows_of(plan: &Plan, numbers: std::ops::Range<usize>) -> Vec<u32> {
    let rows = &plan.search.rows;
    let all = rows.rule_rows()[numbers].iter().copied();
    all.filter(|&row| rows.stored(row as usize).used == Use::Rule).collect()
}
