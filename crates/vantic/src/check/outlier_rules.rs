//! A rule that differs from the same rule of every similar view.

use crate::finding::Finding;
use crate::finding::detail::DoubtDetail;
use crate::screen_ext::ScreenExt as _;
use std::collections::BTreeMap;
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
        let detail = DoubtDetail::Outlier { usual: usual.1, others: others.len() };
        let finding = Finding::note(Code::Odd, detail).about([*view]);
        findings.push(finding.with_rules(vec![RuleRef::Written { rule: *rule, relation: 0 }]));
        if reported.len() >= MAX_REPORTED {
            return;
        }
    }
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
