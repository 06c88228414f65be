//! A rule that differs from the same rule of every similar view.

use crate::finding::Finding;
use crate::finding::detail::DoubtDetail;
use crate::screen_ext::ScreenExt as _;
use std::collections::{BTreeMap, HashMap};
use vantic_core::model::{Anchor, Code, Expr, RuleId, RuleRef, Screen, Term, ViewId};

/// How many views have to say the same for one that does not to be odd.
const MOST: usize = 3;

/// How many are reported.
const MAX_REPORTED: usize = 20;

/// What a rule is about: the family of its view, and its left side as it is written there.
type About = (Option<ViewId>, String, String);

/// Among at least four siblings, or children of one name in siblings, that rule the same coordinate, the one
/// that ties it to something else than all others. The first one is left alone: others often follow it.
pub(crate) fn odd(screen: &Screen, findings: &mut Vec<Finding>) {
    let mut families: BTreeMap<About, Vec<(ViewId, RuleId, String)>> = BTreeMap::new();
    for (id, rule) in screen.rules().filter(|(_, r)| r.band().is_none()) {
        let (Some(owner), [relation]) = (rule.owner(), rule.relations()) else { continue };
        let text = screen.relation_text(relation, Some(owner));
        let level = RuleRef::Written { rule: id, relation: 0 }.level(screen).unwrap_or_default().to_owned();
        let sign = format!(" {} ", relation.comparison.spelling());
        let Some((left, right)) = text.split_once(&sign) else { continue };
        let said = (owner, id, format!("{right} ~ {level}"));
        let parent = screen.at(owner).parent();
        let about = |family, name: &str| (family, name.to_owned(), format!("{left}{sign}"));
        families.entry(about(parent, "")).or_default().push(said.clone());
        // Children of one name in siblings are as alike as siblings are.
        if let Some(around) = parent.and_then(|p| screen.at(p).parent()) {
            families.entry(about(Some(around), screen.at(owner).name())).or_default().push(said);
        }
    }
    let mut reported = Vec::new();
    for mut members in families.into_values().filter(|m| m.len() > MOST) {
        let first = members.iter().map(|(view, ..)| *view).min();
        members.retain(|(view, ..)| first != Some(*view));
        let mut said: BTreeMap<&str, Vec<usize>> = BTreeMap::new();
        for (index, (_, _, right)) in members.iter().enumerate() {
            said.entry(right).or_default().push(index);
        }
        // A bare number says little, however many share it.
        let right = |index: usize| &screen.rule_at(members[index].1).relations()[0].right;
        said.retain(|_, alike| !coordinates_in(right(alike[0])).is_empty());
        let mut kinds: Vec<Vec<usize>> = said.into_values().collect();
        kinds.sort_by_key(Vec::len);
        let [one, others] = kinds.as_slice() else { continue };
        let ([index], true) = (one.as_slice(), others.len() >= MOST) else { continue };
        let ((view, rule, _), usual) = (&members[*index], &members[others[0]]);
        // What the others read is their model.
        let is_model = coordinates_in(right(others[0])).iter().any(|term| reads(screen, term, *view));
        // Another number is meant more often than another neighbour.
        let without_digits = |text: &str| text.replace(|c: char| c.is_ascii_digit(), "");
        let same_reads = without_digits(&members[*index].2) == without_digits(&usual.2);
        if is_model || same_reads || reported.contains(rule) {
            continue;
        }
        reported.push(*rule);
        let detail = DoubtDetail::Outlier {
            usual: RuleRef::Written { rule: usual.1, relation: 0 },
            others: others.len(),
        };
        let finding = Finding::note(Code::Odd, detail).about([*view]);
        findings.push(finding.with_rules(vec![RuleRef::Written { rule: *rule, relation: 0 }]));
        if reported.len() >= MAX_REPORTED {
            return;
        }
    }
}

/// A view, the relation that ties it, and the distance in it.
type Distance = (ViewId, RuleRef, f64);

/// Among at least four siblings that tie the same edge to the same thing, or each to another sibling, the one whose distance is another
/// number: one that none of the others has, not far from theirs and no multiple of their step, as a slip of the finger gives; where only
/// two of them agree, the one that has their digits in another order. Among at least five that state a size, the one whose size is so, or
/// has the digits of theirs in another order.
pub(crate) fn odd_numbers(screen: &Screen, findings: &mut Vec<Finding>) {
    let mut families: BTreeMap<(Option<ViewId>, String), Vec<Distance>> = BTreeMap::new();
    for (id, rule) in screen.rules().filter(|(_, r)| r.band().is_none()) {
        let Some(owner) = rule.owner() else { continue };
        for (index, relation) in rule.relations().iter().enumerate() {
            let is_plain = |e: &Expr| e.values().is_empty() && e.picks().is_empty();
            let ties = relation.left.terms().iter().any(|t| t.coordinate.is_position());
            let is_size = !ties && relation.right.is_number();
            if !(ties || is_size) || !is_plain(&relation.left) || !is_plain(&relation.right) {
                continue;
            }
            let number = relation.right.constant() - relation.left.constant();
            let without = |e: &Expr| {
                let terms = e.terms().iter().map(|term| tied_to(screen, owner, term));
                terms.collect::<Vec<_>>().join(" + ")
            };
            let sign = relation.comparison.spelling();
            let said = format!("{} {sign} {}", without(&relation.left), without(&relation.right));
            let of = RuleRef::Written { rule: id, relation: index };
            families.entry((screen.at(owner).parent(), said)).or_default().push((owner, of, number));
        }
    }
    let mut reported: Vec<RuleId> = Vec::new();
    for members in families.into_values().filter(|m| m.len() > MOST) {
        let first = members.iter().map(|(view, ..)| *view).min();
        let is_of_size = |members: &[Distance]| {
            let of = members.first().and_then(|(_, rule, _)| rule.relation(screen));
            of.is_some_and(|relation| relation.left.terms().iter().all(|t| !t.coordinate.is_position()))
        };
        let mut with: HashMap<u64, usize> = HashMap::new();
        members.iter().for_each(|(.., number)| *with.entry(bits(*number)).or_default() += 1);
        let alike = |number: f64| with[&bits(number)];
        let usual = members.iter().max_by_key(|(.., number)| alike(*number)).map(|m| m.2);
        let Some(usual) = usual.filter(|&usual| alike(usual) > 1 && usual != 0.0) else {
            continue;
        };
        let is_common = alike(usual) >= MOST;
        let odd = members.iter().filter(|(view, _, number)| {
            let share = number / usual;
            let is_near = (0.5..=2.0).contains(&share);
            let is_off = alike(*number) == 1 && (number / step(usual)).fract() != 0.0;
            // A size differs on purpose more often than a distance does.
            let is_slip = match is_of_size(&members) {
                true => {
                    alike(usual) > MOST && ((0.9..=1.1).contains(&share) || digits(*number) == digits(usual))
                }
                // Digits in another order are a slip where two agree already.
                false => is_near && (is_common || digits(*number) == digits(usual)),
            };
            Some(*view) != first && is_off && is_slip
        });
        let [(view, rule, _)] = odd.collect::<Vec<_>>()[..] else { continue };
        let known = rule.written().is_some_and(|rule| reported.contains(&rule));
        let model = members.iter().find(|(.., number)| *number == usual).map(|(_, rule, _)| *rule);
        if let (false, Some(model)) = (known, model) {
            reported.extend(rule.written());
            let detail = DoubtDetail::Outlier { usual: model, others: alike(usual) };
            findings.push(Finding::note(Code::Odd, detail).about([*view]).with_rules(vec![*rule]));
        }
        if reported.len() >= MAX_REPORTED {
            return;
        }
    }
}

/// What a term reads; each sibling counts as any other.
fn tied_to(screen: &Screen, owner: ViewId, term: &Term) -> String {
    let is_sibling = match term.anchor {
        Anchor::View(view) => view != owner && screen.at(view).parent() == screen.at(owner).parent(),
        Anchor::Prev(_) | Anchor::Next(_) => true,
        Anchor::Screen | Anchor::Safe | Anchor::Clear | Anchor::Cells { .. } => false,
    };
    let place = if is_sibling { "a sibling".to_owned() } else { format!("{:?}", term.anchor) };
    let place = if term.anchor == Anchor::View(owner) { "itself".to_owned() } else { place };
    format!("{} {:?} of {place}", term.coefficient, term.coordinate)
}

/// The digits of a number, whatever their order.
fn digits(number: f64) -> Vec<char> {
    let mut digits: Vec<char> = number.to_string().chars().collect();
    digits.sort_unstable();
    digits
}

/// What a number is counted under: both zeros are one.
fn bits(number: f64) -> u64 {
    (number + 0.0).to_bits()
}

/// The step that distances like this one are chosen in: 4, 5, or the number itself.
fn step(usual: f64) -> f64 {
    [4.0, 5.0].into_iter().find(|step| (usual / step).fract() == 0.0).unwrap_or(usual.abs())
}

/// The coordinates in an expression, those within `max`, `min` and `clamp` included.
fn coordinates_in(expr: &Expr) -> Vec<Term> {
    let mut all = Vec::new();
    expr.each(&mut |inner| all.extend(inner.terms()));
    all
}

/// Whether a coordinate is one of a view, or of something in it.
fn reads(screen: &Screen, term: &Term, view: ViewId) -> bool {
    let (Anchor::View(of) | Anchor::Cells { guide: of, .. }) = term.anchor else { return false };
    screen.is_within(of, view)
}
