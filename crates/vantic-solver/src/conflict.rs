//! Required rules that cannot hold together, each set cut down until every member is needed.

use crate::lex::Stage;
use crate::plan::{Plan, Status};
use crate::problem::{Level, Linear, ProblemBuilder, Relation, RuleId, VarId};
use crate::proof::{Member, needed};
use crate::rows::{Row, Use};
use crate::tolerance::{ENTRY, LENGTH, SNAP, sum};
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
    // What holds where the least is broken holds by itself.
    let (broken, holding): (Vec<u32>, Vec<u32>) =
        required.iter().partition(|&&number| whole.is_broken(number));
    let (required, one_by_one) =
        if broken.len() > SEVERAL { (holding, broken) } else { (required, Vec::new()) };
    let mut rest = Subproblem::new(&whole, &required, Givens::StateDelta);
    let mut all = !rest.plan.stopped;
    found.extend(one_by_one.iter().flat_map(|&number| whole.added(&mut rest, number, &mut all)));
    while rest.is_broken() {
        let conflict = whole.conflict(&rest);
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

/// A proof that required rules cannot hold with the givens, of which nothing can be spared.
#[derive(Clone, Debug, Default)]
struct Proof {
    /// The rules in written order, each with its factor.
    rules: Vec<(u32, f64)>,
    givens: Vec<(VarId, f64)>,
    /// What the proof comes to, in units of the rule that it has most of.
    amount: f64,
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
        let rows = &whole.plan.search.rows;
        let (mut build, mut own) = (ProblemBuilder::new(), BTreeMap::new());
        let mut rules = BTreeMap::new();
        let hold_above = matches!(nonnegatives, Givens::StateDelta);
        for &number in required {
            let (expr, relation) = whole.rule_over(number, hold_above, &mut build, &mut own);
            if let Ok(rule) = build.rule(expr, relation, Level::REQUIRED, 1.0) {
                rules.insert(number, rule);
            }
        }
        let mut given_rules = BTreeMap::new();
        if let Givens::AsRules(kept) = nonnegatives {
            for (&slot, &var) in &own {
                let of_whole = VarId(slot - rows.params);
                if kept.contains(&of_whole)
                    && let Ok(rule) = build.rule(Linear::of(var), Relation::AtLeast, Level::REQUIRED, 1.0)
                {
                    given_rules.insert(of_whole, rule);
                }
            }
        }
        Self::solved(whole, build, &own, rules, given_rules)
    }

    /// What a proof needs: all of it exactly zero, but for the rule that was written last. `None` where that cannot be.
    fn tight(whole: &FullProblem, proof: &Proof) -> Option<Self> {
        let params = whole.plan.search.rows.params;
        let (mut build, mut own) = (ProblemBuilder::new(), BTreeMap::new());
        let mut rules = BTreeMap::new();
        let last = proof.rules.last()?.0;
        for &(number, _) in &proof.rules {
            let (expr, relation) = whole.rule_over(number, true, &mut build, &mut own);
            let rule = match number == last {
                true => build.rule(expr, relation, Level::preference(1), 1.0),
                false => build.rule(expr, Relation::Equal, Level::REQUIRED, 1.0),
            };
            rules.insert(number, rule.ok()?);
        }
        for (VarId(given), _) in &proof.givens {
            let var = Linear::of(*own.get(&(given + params))?);
            build.rule(var, Relation::Equal, Level::REQUIRED, 1.0).ok()?;
        }
        let small = Self::solved(whole, build, &own, rules, BTreeMap::new());
        (!small.plan.stopped && !small.is_broken()).then_some(small)
    }

    fn solved(
        whole: &FullProblem,
        build: ProblemBuilder,
        own: &BTreeMap<u32, VarId>,
        rules: BTreeMap<u32, RuleId>,
        nonnegatives: BTreeMap<VarId, RuleId>,
    ) -> Self {
        let mut plan = Plan::new(&build.build());
        let solved = plan.solve(&[]);
        debug_assert!(solved.is_ok(), "the rules were accepted before");
        let of_whole = |slot: u32| VarId(slot - whole.plan.search.rows.params);
        let mut vars: Vec<(VarId, VarId)> = own.iter().map(|(&slot, &var)| (var, of_whole(slot))).collect();
        vars.sort_unstable();
        let vars = vars.into_iter().map(|v| v.1).collect();
        Self { plan, least: whole.least, rules, nonnegatives, vars }
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

    /// The rules that pull for required ones, each with the factor of the required rule.
    fn pulling(&self) -> impl Iterator<Item = (Row, f64)> {
        let pulling = self.plan.search.pulling_rows().into_iter();
        pulling.map(|(row, pull)| (row, pull.at(Stage::REQUIRED))).filter(|(_, factor)| *factor != 0.0)
    }

    /// The factors of the required rules in the proof that less cannot be broken.
    fn multipliers(&self) -> BTreeMap<u32, f64> {
        let number = |(row, factor)| Some((self.plan.search.rule_number(row)?, factor));
        self.pulling().filter_map(number).collect()
    }

    /// Whether that proof is by one rule and the tight ones that it is a sum of, and so needs all of them.
    fn is_by_one(&self) -> bool {
        let basis = &self.plan.search.state.basis;
        self.pulling().filter(|(row, _)| !basis.is_tight(*row)).count() == 1
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
            let conflict = self.conflict(rest);
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

    /// Whether a rule is broken where the plan is.
    fn is_broken(&self, number: u32) -> bool {
        let search = &self.plan.search;
        let row = Row(search.rows.rule_rows()[number as usize]);
        search.rows.violation(row, &search.values) > self.least
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

    /// The conflict that a problem which is broken shows. From its proof, where that tells all; else rules are taken out
    /// one by one.
    fn conflict(&self, rest: &Subproblem) -> Option<Conflict> {
        let factors = rest.multipliers();
        let proof: Vec<(u32, f64)> = rest
            .rules
            .iter()
            .filter_map(|(&number, rule)| Some((number, factors.get(&rule.0).copied()?)))
            .collect();
        let is_cut = rest.is_by_one();
        self.by_proof(&proof, is_cut).or_else(|| {
            let seed = rest.seed();
            let few = (seed.len() > MANY).then(|| self.vertex(&proof, true, is_cut)).flatten();
            let few = few.map(|few| few.rules.iter().map(|r| r.0).collect::<Vec<_>>());
            self.cut_down(&few.unwrap_or(seed))
        })
    }

    /// A required rule at the parameters of the plan, over variables of a problem that is being built.
    fn rule_over(
        &self,
        number: u32,
        with_givens: bool,
        build: &mut ProblemBuilder,
        own: &mut BTreeMap<u32, VarId>,
    ) -> (Linear, Relation) {
        let rows = &self.plan.search.rows;
        self.rule(number, |slot| {
            *own.entry(slot).or_insert_with(|| match with_givens && rows.is_nonnegative(slot) {
                true => build.nonnegative_variable(),
                false => build.variable(),
            })
        })
    }

    /// Cuts a proof by some required rules, and by the givens of what they read, down to what it needs, unless it `is_cut`
    /// down already. `None` where the factors are no proof.
    fn vertex(&self, rules: &[(u32, f64)], with_givens: bool, is_cut: bool) -> Option<Proof> {
        let rows = &self.plan.search.rows;
        let mut places: BTreeMap<u32, usize> = BTreeMap::new();
        let mut left: BTreeMap<u32, f64> = BTreeMap::new();
        let mut members: Vec<Member> = Vec::with_capacity(rules.len());
        for &(number, factor) in rules {
            let (expr, _) = self.rule(number, VarId);
            let terms = expr.terms().iter().map(|&(VarId(slot), c)| {
                let by = left.entry(slot).or_insert(0.0);
                *by = sum(*by, c * factor);
                let place = places.len();
                (*places.entry(slot).or_insert(place), c)
            });
            members.push(Member { terms: terms.collect(), constant: expr.constant.constant, factor });
        }
        // The givens make up for what the rules leave of their variables.
        let mut given = Vec::new();
        for (&slot, &by) in left.iter().filter(|(_, by)| by.abs() > ENTRY) {
            if !with_givens || by < 0.0 || !rows.is_nonnegative(slot) {
                return None;
            }
            given.push(VarId(slot - rows.params));
            members.push(Member { terms: vec![(places[&slot], 1.0)], constant: 0.0, factor: -by });
        }
        if members.iter().map(|m| m.constant * m.factor).sum::<f64>() <= 0.0 {
            return None;
        }
        let mut proof = Proof::default();
        let mut left = vec![0.0; places.len()];
        let needed = match is_cut {
            true => members.iter().map(|member| member.factor).enumerate().collect(),
            false => needed(&members, places.len())?,
        };
        for (place, factor) in needed {
            let Member { terms, constant, .. } = &members[place];
            proof.amount += constant * factor;
            terms.iter().for_each(|&(at, c)| left[at] = sum(left[at], c * factor));
            match rules.get(place) {
                Some(&(number, _)) => proof.rules.push((number, factor)),
                None => proof.givens.push((given[place - rules.len()], factor)),
            }
        }
        let is_sound = |&(number, factor): &(u32, f64)| match self.rule(number, VarId).1 {
            Relation::AtMost => factor > 0.0,
            Relation::AtLeast => factor < 0.0,
            Relation::Equal => true,
        };
        let largest = proof.rules.iter().map(|r| r.1.abs()).fold(0.0, f64::max);
        let is_proof = proof.rules.iter().all(is_sound)
            && proof.givens.iter().all(|given| given.1 < 0.0)
            && left.iter().all(|by| by.abs() <= ENTRY * largest);
        proof.amount /= largest;
        (is_proof && proof.amount > self.least).then_some(proof)
    }

    /// The conflict of a proof (Gleeson & Ryan 1990): what a proof needs that is cut down cannot hold, and can without any
    /// one of its members. A point for each rule shows it: all the others hold there with every given, or `None` comes
    /// back. The amount is by how much the rule is broken there that the proof has most of.
    fn by_proof(&self, rules: &[(u32, f64)], is_cut: bool) -> Option<Conflict> {
        // Being given is often enough of a size.
        let fewer: Vec<(u32, f64)> = rules.iter().copied().filter(|r| !self.is_size(r.0)).collect();
        let proof = self.vertex(&fewer, true, is_cut).or_else(|| self.vertex(rules, true, is_cut))?;
        let mut small = Subproblem::tight(self, &proof)?;
        let mut witnesses = Vec::with_capacity(proof.rules.len());
        for (number, _) in &proof.rules {
            if work::is_short() {
                return None;
            }
            witnesses.push(small.point_without(small.rules[number])?);
        }
        let without_nonnegativity = match proof.givens.is_empty() {
            true => None,
            false => match self.vertex(rules, false, is_cut) {
                Some(without) => Some(ConflictWithoutNonnegativity {
                    rules: without.rules.iter().map(|r| RuleId(r.0)).collect(),
                    amount: without.amount,
                }),
                None => self.without_nonnegativity(&rules.iter().map(|r| r.0).collect::<Vec<_>>()),
            },
        };
        let factors = || proof.rules.iter().map(|r| r.1).chain(proof.givens.iter().map(|g| g.1));
        let largest = factors().map(f64::abs).fold(0.0, f64::max);
        Some(Conflict {
            rules: proof.rules.iter().map(|r| RuleId(r.0)).collect(),
            nonnegatives: proof.givens.iter().map(|g| g.0).collect(),
            multipliers: factors().map(|factor| factor / largest).collect(),
            witnesses,
            amount: proof.amount,
            without_nonnegativity,
        })
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

    /// Whether a required rule is about one given variable alone.
    fn is_size(&self, number: u32) -> bool {
        let rows = &self.plan.search.rows;
        let mut terms = rows.variable_terms(Row(rows.rule_rows()[number as usize]));
        terms.next().is_some_and(|t| rows.is_nonnegative(t.0)) && terms.next().is_none()
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
            let fewer: Vec<u32> = seed.iter().copied().filter(|&number| !self.is_size(number)).collect();
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
