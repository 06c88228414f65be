//! Musts that cannot hold together, each set cut down until every member is needed.

use crate::lex::Stage;
use crate::plan::{Plan, Status};
use crate::problem::{Level, Linear, ProblemBuilder, Relation, RuleId, VarId};
use crate::rows::{Row, Use};
use crate::tolerance::LENGTH;
use std::collections::{BTreeMap, BTreeSet};

/// A set of musts that cannot hold together with the givens; without any one of them the rest can.
#[derive(Clone, Debug, PartialEq)]
pub struct Conflict {
    /// The musts, in written order.
    pub rules: Vec<RuleId>,
    /// The variables whose given (at least zero) is needed for the contradiction.
    pub givens: Vec<VarId>,
    /// The proof (Farkas 1902): a factor for each of the rules, then for each of the givens. The
    /// rules' expressions times their factors, plus the given variables times theirs, leave no
    /// variable, only a number above zero; yet by the rules and givens it would be at most zero.
    pub multipliers: Vec<f64>,
    /// Per rule: a point where all the others hold, with the givens. Variables that are not
    /// mentioned are zero.
    pub witnesses: Vec<Vec<(VarId, f64)>>,
    /// The least total violation of these musts taken alone (weights set aside).
    pub amount: f64,
    /// Where givens take part: the musts that would contradict one another even without them,
    /// if there are such around this conflict.
    pub wider: Option<WiderConflict>,
}

/// Musts that contradict one another without the help of a given.
///
/// Dropping any one of them need not be enough: a [`Conflict`] with a given may remain inside. It
/// tells by how much the musts are apart where every one of them is kept.
#[derive(Clone, Debug, PartialEq)]
pub struct WiderConflict {
    /// The musts, in written order.
    pub rules: Vec<RuleId>,
    /// Their least total violation.
    pub amount: f64,
}

/// All conflicts: one is found, its last-written rule set aside, and so on until the rest can hold.
/// False where a bound on the work was met.
pub(crate) fn conflicts(plan: &Plan) -> (Vec<Conflict>, bool) {
    if plan.status() != Status::Broken {
        return (Vec::new(), !plan.stopped);
    }
    let whole = Whole { plan, least: LENGTH * plan.search.scale };
    let mut found = Vec::new();
    let mut musts = Vec::new();
    for &index in plan.search.rows.rule_rows() {
        let row = Row(index);
        let stored = plan.search.rows.stored(index as usize);
        if stored.used != Use::Rule || stored.level > 0 {
            continue;
        }
        if plan.search.rows.variable_terms(row).next().is_some() {
            musts.push(stored.number);
            continue;
        }
        // A rule without variables contradicts itself.
        let value = plan.search.rows.value(row, &plan.search.values);
        let amount = stored.relation.violation(value);
        if amount > whole.least {
            let (rules, multipliers) = (vec![RuleId(stored.number)], vec![value.signum()]);
            let (givens, witnesses) = (Vec::new(), vec![Vec::new()]);
            found.push(Conflict { rules, givens, multipliers, witnesses, amount, wider: None });
        }
    }
    let mut rest = Small::new(&whole, &musts, Givens::Kept);
    let mut all = true;
    while rest.is_broken() {
        let seed = rest.seed();
        let conflict = (!seed.is_empty()).then(|| whole.cut_down(&seed)).flatten();
        let last = conflict.as_ref().and_then(|c| c.rules.last().copied());
        found.extend(conflict);
        match last {
            Some(last) => rest.set_aside(last.0),
            None => break,
        }
        all &= !rest.plan.stopped;
    }
    all &= !rest.is_broken() && !rest.plan.stopped;
    found.sort_by(|a, b| a.rules.cmp(&b.rules));
    (found, all)
}

/// What becomes of the givens in a small problem.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum Givens {
    /// They hold above every must.
    Kept,
    /// They are rules like the others, so that they can be set aside.
    AsRules,
    Dropped,
}

/// The plan with the conflicts.
struct Whole<'a> {
    plan: &'a Plan,
    least: f64,
}

/// Some musts of a plan as a problem of their own, at the plan's parameters.
struct Small {
    plan: Plan,
    least: f64,
    /// Per must of the whole (by number): its rule here.
    rules: BTreeMap<u32, RuleId>,
    /// Per given variable of the whole: its rule here.
    givens: BTreeMap<VarId, RuleId>,
    /// The variables of the whole, in the order of those here.
    vars: Vec<VarId>,
}

impl Small {
    fn new(whole: &Whole, musts: &[u32], givens: Givens) -> Self {
        let search = &whole.plan.search;
        let mut build = ProblemBuilder::new();
        let mut own: BTreeMap<u32, VarId> = BTreeMap::new();
        let mut rules = BTreeMap::new();
        for &must in musts {
            let row = Row(search.rows.rule_rows()[must as usize]);
            let mut constant = search.rows.constant(row);
            let mut terms = Vec::new();
            let (slots, coefficients) = search.rows.terms(row);
            for (&slot, &c) in slots.iter().zip(coefficients) {
                if slot < search.rows.params {
                    constant += c * search.values[slot as usize];
                    continue;
                }
                let var = *own.entry(slot).or_insert_with(|| {
                    let given = search.rows.is_given(slot) && givens == Givens::Kept;
                    if given { build.given_variable() } else { build.variable() }
                });
                terms.push((var, c));
            }
            let expr = Linear::new(terms, Default::default()).plus(constant);
            let relation = search.rows.stored(search.rows.rule_rows()[must as usize] as usize).relation;
            if let Ok(rule) = build.rule(expr, relation, Level::MUST, 1.0) {
                rules.insert(must, rule);
            }
        }
        let mut given_rules = BTreeMap::new();
        for (&slot, &var) in own.iter().filter(|o| givens == Givens::AsRules && search.rows.is_given(*o.0)) {
            if let Ok(rule) = build.rule(Linear::of(var), Relation::AtLeast, Level::MUST, 1.0) {
                given_rules.insert(VarId(slot - search.rows.params), rule);
            }
        }
        let mut plan = Plan::new(&build.build());
        let solved = plan.solve(&[]);
        debug_assert!(solved.is_ok(), "the rules were accepted before");
        let mut vars: Vec<(VarId, VarId)> =
            own.into_iter().map(|(slot, var)| (var, VarId(slot - search.rows.params))).collect();
        vars.sort_unstable();
        let vars = vars.into_iter().map(|v| v.1).collect();
        Self { plan, least: whole.least, rules, givens: given_rules, vars }
    }

    fn total(&self) -> f64 {
        self.plan.outcome().level_totals[0]
    }

    fn is_broken(&self) -> bool {
        self.total() > self.least
    }

    fn remove(&mut self, rule: RuleId) {
        let removed = self.plan.remove_rule(rule);
        debug_assert!(removed.is_ok(), "only rules that are left are removed");
    }

    fn set_aside(&mut self, must: u32) {
        if let Some(rule) = self.rules.remove(&must) {
            self.remove(rule);
        }
    }

    /// Whether what is left cannot hold without a rule either; if so it is removed for good. If not:
    /// a point where the rest holds.
    fn do_without(&mut self, rule: RuleId) -> Option<Vec<(VarId, f64)>> {
        let before = self.plan.search.rows.rule(self.plan.search.rows.rule_rows()[rule.index()] as usize);
        self.remove(rule);
        if self.is_broken() {
            return None;
        }
        let witness = self.vars.iter().copied().zip(self.plan.outcome().values).collect();
        let (expr, relation, level, weight) = before;
        let back = self.plan.change_rule(rule, expr, relation, level, weight);
        debug_assert!(back.is_ok(), "the rule was accepted before");
        Some(witness)
    }

    /// The factors of the musts in the proof that less cannot be broken.
    fn multipliers(&self) -> BTreeMap<u32, f64> {
        let pulling = self.plan.search.pulling_rows();
        let factors = pulling.into_iter().filter_map(|(row, pull)| {
            let factor = pull.at(Stage::MUST);
            (factor != 0.0).then_some((self.plan.search.rule_number(row)?, factor))
        });
        factors.collect()
    }

    /// Musts that hold one another up; they contain a conflict.
    fn seed(&self) -> Vec<u32> {
        let multipliers = self.multipliers();
        let mut members: Vec<u32> =
            self.rules.iter().filter(|r| multipliers.contains_key(&r.1.0)).map(|r| *r.0).collect();
        if members.is_empty() {
            members = self.rules.keys().copied().collect();
        }
        members
    }
}

impl Whole<'_> {
    /// A deletion filter (Chinneck & Dravnieks 1991). The first-written go first, so that the
    /// rule added last, the likely culprit, stays in.
    fn cut_down(&self, seed: &[u32]) -> Option<Conflict> {
        let mut small = Small::new(self, seed, Givens::AsRules);
        let mut witnesses = Vec::new();
        for (must, rule) in small.rules.clone() {
            match small.do_without(rule) {
                Some(witness) => witnesses.push(witness),
                None => {
                    small.rules.remove(&must);
                }
            }
        }
        for (given, rule) in small.givens.clone() {
            if small.do_without(rule).is_none() {
                small.givens.remove(&given);
            }
        }
        let rules: Vec<u32> = small.rules.keys().copied().collect();
        if rules.is_empty() || !small.is_broken() {
            return None;
        }
        let factors = small.multipliers();
        let all = small.rules.values().chain(small.givens.values());
        let multipliers = all.map(|r| factors.get(&r.0).copied().unwrap_or(0.0)).collect();
        let wider = (!small.givens.is_empty()).then(|| self.wider(seed)).flatten();
        Some(Conflict {
            amount: Small::new(self, &rules, Givens::Kept).total(),
            rules: rules.into_iter().map(RuleId).collect(),
            givens: small.givens.into_keys().collect(),
            multipliers,
            witnesses,
            wider,
        })
    }

    fn wider(&self, seed: &[u32]) -> Option<WiderConflict> {
        let mut small = Small::new(self, seed, Givens::Dropped);
        if !small.is_broken() {
            return None;
        }
        for (must, rule) in small.rules.clone() {
            if small.do_without(rule).is_none() {
                small.rules.remove(&must);
            }
        }
        let rules: BTreeSet<u32> = small.rules.keys().copied().collect();
        Some(WiderConflict { amount: small.total(), rules: rules.into_iter().map(RuleId).collect() })
    }
}
