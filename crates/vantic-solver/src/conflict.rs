//! Required rules that cannot hold together, each set cut down until every member is needed.

use crate::lex::Stage;
use crate::plan::{Plan, Status};
use crate::problem::{Level, Linear, ProblemBuilder, Relation, RuleId, VarId};
use crate::proof::{Member, needed};
use crate::rows::{Row, Use};
use crate::tolerance::{ENTRY, LENGTH, SNAP};
use crate::work;
use std::collections::{BTreeMap, BTreeSet};

/// A set of required rules that cannot hold together with the givens; without any one of them the rest can.
#[derive(Clone, Debug, PartialEq)]
pub struct Conflict {
    /// The required rules, in written order.
    pub rules: Vec<RuleId>,
    /// The variables whose given (at least zero) is needed for the contradiction.
    pub nonnegatives: Vec<VarId>,
    /// The proof (Farkas 1902): a factor for each of the rules, then for each of the givens. The
    /// rules' expressions times their factors, plus the given variables times theirs, leave no
    /// variable, only a number above zero; yet by the rules and givens it would be at most zero.
    pub multipliers: Vec<f64>,
    /// Per rule: a point where all the others hold, with the givens. Variables that are not
    /// mentioned are zero.
    pub witnesses: Vec<Vec<(VarId, f64)>>,
    /// The least total violation of these required rules taken alone (weights set aside).
    pub amount: f64,
    /// Where givens take part: the required rules that would contradict one another even without them,
    /// if there are such around this conflict.
    pub without_nonnegativity: Option<ConflictWithoutNonnegativity>,
}

/// Required rules that contradict one another without the help of a given.
///
/// Dropping any one of them need not be enough: a [`Conflict`] with a given may remain inside. It
/// tells by how much the required rules are apart where every one of them is kept.
#[derive(Clone, Debug, PartialEq)]
pub struct ConflictWithoutNonnegativity {
    /// The required rules, in written order.
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
    let whole = FullProblem { plan, least: LENGTH * plan.search.scale };
    let mut found = Vec::new();
    let mut required = Vec::new();
    for &index in plan.search.rows.rule_rows() {
        let row = Row(index);
        let stored = plan.search.rows.stored(index as usize);
        if stored.used != Use::Rule || stored.level > 0 {
            continue;
        }
        if plan.search.rows.variable_terms(row).next().is_some() {
            required.push(stored.number);
            continue;
        }
        // A rule without variables contradicts itself.
        let value = plan.search.rows.value(row, &plan.search.values);
        let amount = stored.relation.violation(value);
        if amount > whole.least {
            let (rules, multipliers) = (vec![RuleId(stored.number)], vec![value.signum()]);
            let (nonnegatives, witnesses) = (Vec::new(), vec![Vec::new()]);
            found.push(Conflict {
                rules,
                nonnegatives,
                multipliers,
                witnesses,
                amount,
                without_nonnegativity: None,
            });
        }
    }
    let mut rest = Subproblem::new(&whole, &required, Givens::StateDelta);
    let broken = rest.broken();
    let mut all = !rest.plan.stopped;
    if broken.len() > SEVERAL {
        required.retain(|number| !broken.contains(number));
        rest = Subproblem::new(&whole, &required, Givens::StateDelta);
        found.extend(broken.iter().flat_map(|&number| whole.added(&mut rest, number, &mut all)));
    }
    while rest.is_broken() {
        let seed = whole.start(&rest);
        let conflict = (!seed.is_empty()).then(|| whole.cut_down(&seed)).flatten();
        if work::is_short() {
            // It may not be cut down to what it needs.
            all = false;
            break;
        }
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

/// From how many broken rules on these are added one by one to what holds.
const SEVERAL: usize = 8;

/// From how many required rules on the proof is cut down before rules are taken out one by one.
const MANY: usize = 16;

/// From how many required rules on a first look is taken at all sizes at once.
const LONG: usize = 64;

/// What becomes of the givens in a small problem.
#[derive(Clone, Copy, Debug)]
enum Givens<'a> {
    /// They hold above every required rule.
    StateDelta,
    /// These are rules like the others; there are no others.
    AsRules(&'a BTreeSet<VarId>),
}

/// The plan with the conflicts.
struct FullProblem<'a> {
    plan: &'a Plan,
    least: f64,
}

/// Some required rules of a plan as a problem of their own, at the plan's parameters.
struct Subproblem {
    plan: Plan,
    least: f64,
    /// Per required rule of the whole (by number): its rule here.
    rules: BTreeMap<u32, RuleId>,
    /// Per given variable of the whole: its rule here.
    nonnegatives: BTreeMap<VarId, RuleId>,
    /// The variables of the whole, in the order of those here.
    vars: Vec<VarId>,
}

impl Subproblem {
    fn new(whole: &FullProblem, required: &[u32], nonnegatives: Givens) -> Self {
        let search = &whole.plan.search;
        let mut build = ProblemBuilder::new();
        let mut own: BTreeMap<u32, VarId> = BTreeMap::new();
        let mut rules = BTreeMap::new();
        for &number in required {
            let (expr, relation) = whole.rule(number, |slot| {
                *own.entry(slot).or_insert_with(|| {
                    let nonnegative =
                        search.rows.is_nonnegative(slot) && matches!(nonnegatives, Givens::StateDelta);
                    if nonnegative { build.nonnegative_variable() } else { build.variable() }
                })
            });
            if let Ok(rule) = build.rule(expr, relation, Level::REQUIRED, 1.0) {
                rules.insert(number, rule);
            }
        }
        let mut given_rules = BTreeMap::new();
        if let Givens::AsRules(kept) = nonnegatives {
            for (&slot, &var) in &own {
                let of_whole = VarId(slot - search.rows.params);
                if kept.contains(&of_whole)
                    && let Ok(rule) = build.rule(Linear::of(var), Relation::AtLeast, Level::REQUIRED, 1.0)
                {
                    given_rules.insert(of_whole, rule);
                }
            }
        }
        let mut plan = Plan::new(&build.build());
        let solved = plan.solve(&[]);
        debug_assert!(solved.is_ok(), "the rules were accepted before");
        let mut vars: Vec<(VarId, VarId)> = own
            .iter()
            .map(|(&slot, &var)| (slot, var))
            .map(|(slot, var)| (var, VarId(slot - search.rows.params)))
            .collect();
        vars.sort_unstable();
        let vars = vars.into_iter().map(|v| v.1).collect();
        Self { plan, least: whole.least, rules, nonnegatives: given_rules, vars }
    }

    /// Adds a required rule of the whole; false if it cannot be.
    fn add(&mut self, whole: &FullProblem, number: u32) -> bool {
        let rows = &whole.plan.search.rows;
        let (expr, relation) = whole.rule(number, |slot| {
            let of_whole = VarId(slot - rows.params);
            let at = self.vars.iter().position(|var| *var == of_whole).unwrap_or_else(|| {
                self.plan.add_variable(rows.is_nonnegative(slot));
                self.vars.push(of_whole);
                self.vars.len() - 1
            });
            VarId(at as u32)
        });
        let added = self.plan.add_rule(expr, relation, Level::REQUIRED, 1.0);
        added.map(|rule| self.rules.insert(number, rule)).is_ok()
    }

    fn total(&self) -> f64 {
        self.plan.outcome().level_totals[0]
    }

    fn is_broken(&self) -> bool {
        self.total() > self.least
    }

    /// The required rules that are broken, in written order.
    fn broken(&self) -> Vec<u32> {
        let search = &self.plan.search;
        let violation =
            |rule: &RuleId| search.rows.violation(Row(search.rows.rule_rows()[rule.index()]), &search.values);
        self.rules
            .iter()
            .filter(|(_, rule)| violation(rule) > self.least)
            .map(|(number, _)| *number)
            .collect()
    }

    fn set_aside(&mut self, number: u32) {
        if let Some(rule) = self.rules.remove(&number) {
            let removed = self.plan.remove_rule(rule);
            debug_assert!(removed.is_ok(), "only rules that are left are removed");
        }
    }

    /// Values of the variables, by those of the whole.
    fn values(&self, values: &[f64]) -> Vec<(VarId, f64)> {
        self.vars.iter().copied().zip(values.iter().copied()).collect()
    }

    /// The factors of the required rules in the proof that less cannot be broken.
    fn multipliers(&self) -> BTreeMap<u32, f64> {
        let pulling = self.plan.search.pulling_rows();
        let factors = pulling.into_iter().filter_map(|(row, pull)| {
            let factor = pull.at(Stage::REQUIRED);
            (factor != 0.0).then_some((self.plan.search.rule_number(row)?, factor))
        });
        factors.collect()
    }

    /// Required rules that hold one another up; they contain a conflict.
    fn seed(&self) -> Vec<u32> {
        let multipliers = self.multipliers();
        let mut members: Vec<u32> =
            self.rules.iter().filter(|r| multipliers.contains_key(&r.1.0)).map(|r| *r.0).collect();
        if members.is_empty() {
            members = self.rules.keys().copied().collect();
        }
        members
    }

    /// A deletion filter (Chinneck & Dravnieks 1991) over rules of this problem, in order: leaves
    /// those without any one of which the rest can hold, and returns for each a point where it does.
    fn filter(&mut self, candidates: &[RuleId]) -> Vec<(RuleId, Vec<(VarId, f64)>)> {
        let mut needed = Vec::new();
        let mut proof = self.multipliers();
        for &rule in candidates {
            if work::is_short() {
                return needed;
            }
            // What takes no part in the proof is not needed; what stands alone against it is.
            let takes_part = proof.contains_key(&rule.0);
            if takes_part && let Some(values) = self.point_without(rule) {
                needed.push((rule, values));
                continue;
            }
            work::spend(4 * (self.rules.len() + self.vars.len()));
            let kept = takes_part.then(|| self.plan.clone());
            let removed = self.plan.remove_rule(rule);
            debug_assert!(removed.is_ok(), "only rules that are left are removed");
            match kept.filter(|_| !self.is_broken()) {
                None => proof = self.multipliers(),
                Some(kept) => {
                    needed.push((rule, self.values(&self.plan.outcome().values)));
                    self.plan = kept;
                }
            }
        }
        needed
    }

    /// A point where all rules but one hold, if moving away from that one alone leads there. Saves
    /// most searches where a contradiction runs through a long chain.
    fn point_without(&mut self, rule: RuleId) -> Option<Vec<(VarId, f64)>> {
        let search = &mut self.plan.search;
        let row = Row(search.rows.rule_rows()[rule.index()]);
        let snap = SNAP * search.scale;
        let all = search.rows.rule_rows().iter().map(|&index| Row(index));
        let mut broken = all.filter(|&r| search.rows.violation(r, &search.values) > snap);
        let (first, second) = (broken.next()?, broken.next());
        if second.is_some() {
            return None;
        }
        let mut values = search.values.clone();
        if first != row {
            search.state.basis.defined_by(row)?;
            let moved = search.state.basis.moved_by(&search.rows, row, |_| true, &mut search.scratch);
            let rates: BTreeMap<u32, f64> = moved.iter().copied().collect();
            let rate: f64 =
                search.rows.variable_terms(first).filter_map(|(s, c)| Some(c * rates.get(&s)?)).sum();
            let step = -search.rows.value(first, &values) / rate;
            if !step.is_finite() {
                return None;
            }
            moved.iter().for_each(|&(slot, rate)| values[slot as usize] += step * rate);
            for &(slot, _) in &moved {
                let mut reading = search.rows.readers_of(slot).map(Row);
                let given_is_broken = search.rows.is_nonnegative(slot) && values[slot as usize] < -snap;
                if given_is_broken || reading.any(|r| r != row && search.rows.violation(r, &values) > snap) {
                    return None;
                }
            }
        }
        let variables = search.rows.variables();
        Some(self.values(&values[variables.start as usize..variables.end as usize]))
    }
}

impl FullProblem<'_> {
    /// The conflicts that a required rule brings into what holds without it. It is added where it can hold once what
    /// was written after it is set aside.
    fn added(&self, rest: &mut Subproblem, number: u32, all: &mut bool) -> Vec<Conflict> {
        let mut found = Vec::new();
        loop {
            if work::is_short() {
                *all = false;
                return found;
            }
            work::spend(4 * (rest.rules.len() + rest.vars.len()));
            let without = rest.plan.clone();
            if !rest.add(self, number) {
                return found;
            }
            *all &= !rest.plan.stopped;
            if !rest.is_broken() {
                return found;
            }
            let conflict = self.cut_down(&self.start(rest));
            if work::is_short() {
                *all = false;
                return found;
            }
            rest.plan = without;
            rest.rules.remove(&number);
            let last = conflict.as_ref().and_then(|c| c.rules.last().copied());
            *all &= conflict.is_some();
            found.extend(conflict);
            match last.filter(|last| last.0 != number) {
                Some(last) => rest.set_aside(last.0),
                None => return found,
            }
        }
    }

    /// A required rule at the parameters of the plan, over other variables.
    fn rule(&self, number: u32, mut var: impl FnMut(u32) -> VarId) -> (Linear, Relation) {
        let search = &self.plan.search;
        let row = search.rows.rule_rows()[number as usize];
        let mut constant = search.rows.constant(Row(row));
        let mut terms = Vec::new();
        let (slots, coefficients) = search.rows.terms(Row(row));
        for (&slot, &c) in slots.iter().zip(coefficients) {
            if slot < search.rows.params {
                constant += c * search.values[slot as usize];
            } else {
                terms.push((var(slot), c));
            }
        }
        let expr = Linear::new(terms, Default::default()).plus(constant);
        (expr, search.rows.stored(row as usize).relation)
    }

    /// Required rules that hold one another up, of many only those that the proof needs.
    fn start(&self, rest: &Subproblem) -> Vec<u32> {
        let seed = rest.seed();
        if seed.len() <= MANY {
            return seed;
        }
        let factors = rest.multipliers();
        let rows = &self.plan.search.rows;
        let mut places: BTreeMap<u32, usize> = BTreeMap::new();
        let mut left: BTreeMap<u32, f64> = BTreeMap::new();
        let mut members: Vec<Member> = seed
            .iter()
            .map(|&number| {
                let factor = rest.rules.get(&number).and_then(|rule| factors.get(&rule.0)).copied();
                let factor = factor.unwrap_or(0.0);
                let (expr, _) = self.rule(number, VarId);
                let terms = expr.terms().iter().map(|&(VarId(slot), c)| {
                    *left.entry(slot).or_insert(0.0) += c * factor;
                    let place = places.len();
                    (*places.entry(slot).or_insert(place), c)
                });
                Member { terms: terms.collect(), constant: expr.constant.constant, factor }
            })
            .collect();
        // The givens make up for what the rules leave of their variables.
        let given = left.iter().filter(|(slot, by)| rows.is_nonnegative(**slot) && by.abs() > ENTRY);
        members.extend(given.map(|(slot, by)| Member {
            terms: vec![(places[slot], 1.0)],
            constant: 0.0,
            factor: -by,
        }));
        let needed = needed(&members, places.len());
        let few: Option<Vec<u32>> =
            needed.map(|needed| needed.into_iter().filter_map(|place| seed.get(place).copied()).collect());
        few.filter(|few| Subproblem::new(self, few, Givens::StateDelta).is_broken()).unwrap_or(seed)
    }

    fn cut_down(&self, seed: &[u32]) -> Option<Conflict> {
        let (rules, witnesses) = self.irreducible(seed, &self.givens_of(seed));
        let mut small = Subproblem::new(self, &rules, Givens::AsRules(&self.givens_of(&rules)));
        let given_rules = std::mem::take(&mut small.nonnegatives);
        let kept = small.filter(&given_rules.values().copied().collect::<Vec<_>>());
        let kept: BTreeSet<RuleId> = kept.into_iter().map(|k| k.0).collect();
        let nonnegatives: BTreeSet<VarId> =
            given_rules.into_iter().filter(|g| kept.contains(&g.1)).map(|g| g.0).collect();
        let small = Subproblem::new(self, &rules, Givens::AsRules(&nonnegatives));
        if rules.is_empty() || !small.is_broken() {
            return None;
        }
        let factors = small.multipliers();
        let all = small.rules.values().chain(small.nonnegatives.values());
        let multipliers = all.map(|r| factors.get(&r.0).copied().unwrap_or(0.0)).collect();
        let without_nonnegativity =
            (!nonnegatives.is_empty()).then(|| self.without_nonnegativity(seed)).flatten();
        Some(Conflict {
            amount: Subproblem::new(self, &rules, Givens::StateDelta).total(),
            rules: rules.into_iter().map(RuleId).collect(),
            nonnegatives: nonnegatives.into_iter().collect(),
            multipliers,
            witnesses,
            without_nonnegativity,
        })
    }

    /// The given variables that required rules read.
    fn givens_of(&self, required: &[u32]) -> BTreeSet<VarId> {
        let rows = &self.plan.search.rows;
        let read = required.iter().flat_map(|&m| rows.variable_terms(Row(rows.rule_rows()[m as usize])));
        read.filter(|t| rows.is_nonnegative(t.0)).map(|t| VarId(t.0 - rows.params)).collect()
    }

    /// The required rules without any one of which the rest can hold, and for each of them a point where the
    /// rest does. The first-written go first, so that the rule added last, the likely culprit, stays
    /// in.
    fn irreducible(
        &self,
        seed: &[u32],
        nonnegatives: &BTreeSet<VarId>,
    ) -> (Vec<u32>, Vec<Vec<(VarId, f64)>>) {
        // In a long chain most sizes are rules of their own, and being given is often enough of
        // them: one look for all.
        let without_sizes = (seed.len() > LONG).then(|| {
            let rows = &self.plan.search.rows;
            let row = |number: &u32| Row(rows.rule_rows()[*number as usize]);
            let is_size = |number: &u32| {
                let mut terms = rows.variable_terms(row(number));
                terms.next().is_some_and(|t| rows.is_nonnegative(t.0)) && terms.next().is_none()
            };
            let fewer: Vec<u32> = seed.iter().copied().filter(|number| !is_size(number)).collect();
            Subproblem::new(self, &fewer, Givens::AsRules(nonnegatives))
        });
        let mut small = without_sizes
            .filter(Subproblem::is_broken)
            .unwrap_or_else(|| Subproblem::new(self, seed, Givens::AsRules(nonnegatives)));
        let number_of: BTreeMap<RuleId, u32> =
            small.rules.iter().map(|(&number, &rule)| (rule, number)).collect();
        let needed = small.filter(&small.rules.values().copied().collect::<Vec<_>>());
        needed.into_iter().map(|(rule, point)| (number_of[&rule], point)).unzip()
    }

    fn without_nonnegativity(&self, seed: &[u32]) -> Option<ConflictWithoutNonnegativity> {
        let none = BTreeSet::new();
        if !Subproblem::new(self, seed, Givens::AsRules(&none)).is_broken() {
            return None;
        }
        let (rules, _) = self.irreducible(seed, &none);
        let amount = Subproblem::new(self, &rules, Givens::AsRules(&none)).total();
        Some(ConflictWithoutNonnegativity { amount, rules: rules.into_iter().map(RuleId).collect() })
    }
}
