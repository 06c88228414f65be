//! Repairs of what the screen expects and claims of itself, of numbers that differ from the usual ones, and of what
//! is written and does nothing.

use crate::finding::Finding;
use crate::finding::detail::{ClaimBreach, DeclaredDetail, Detail, DoubtDetail, Mismatch, RuleDetail};
use crate::fix::change::Change;
use crate::fix::context::{Candidate, FixContext};
use crate::fix::progression::exact;
use crate::fix::rule_source::{Statement, item_at, removed};
use crate::fix::usual::GAPS;
use crate::fix::weights::structure;
use crate::screen_ext::ScreenExt as _;
use crate::syntax::ast::nodes::node_span;
use crate::syntax::lexer::Kind;
use crate::syntax::tree::Node;
use vantic_core::model::{Anchor, Coordinate, Leftover, Relation, RuleRef, ViewId};

impl FixContext<'_> {
    /// A rule with another number in place of the constant of one of its relations.
    pub(crate) fn renumbered(
        &self,
        statement: &Statement<'_>,
        (relation, at): (&Relation, usize),
        number: f64,
    ) -> Option<Change> {
        let was = relation.right.constant();
        let is_same_sign = was * number > 0.0;
        match statement.pin() {
            Some(pinned) => {
                let inwards = |number: f64| exact(number.abs());
                let (word, by) = pinned.sides.get(at)?;
                let side = format!("{word} {by}");
                let new = format!("{word} {}", inwards(number));
                let from = statement.span().start + statement.source().find(side.trim_end())?;
                let fits = is_same_sign || was == 0.0 && by.is_empty();
                fits.then(|| Change::new(from..from + side.trim_end().len(), new))
            }
            None => statement
                .number(was.abs())
                .filter(|_| is_same_sign)
                .map(|span| Change::new(span, exact(number.abs()))),
        }
    }

    /// The number that most views like it have.
    pub(crate) fn as_usual(&self, finding: &Finding) -> Vec<Candidate> {
        let Detail::Doubt(DoubtDetail::Outlier { usual, others }) = &finding.detail else {
            return Vec::new();
        };
        let Some(number) = usual.relation(self.screen()).map(|r| r.right.constant()) else {
            return Vec::new();
        };
        let ideas = finding.rules.iter().filter_map(|part| {
            let RuleRef::Written { rule, relation } = *part else { return None };
            let statement = self.statement(rule)?;
            let of = part.relation(self.screen())?;
            let change = self.renumbered(&statement, (of, relation), number)?;
            let reason = format!("as {others} similar views have it");
            Some(self.reads(&statement, change, structure::AS_USUAL)?.because(reason).evident())
        });
        ideas.collect()
    }

    /// What does nothing, taken out.
    pub(crate) fn taken_away(&self, finding: &Finding) -> Option<Candidate> {
        let span = match &finding.detail {
            Detail::Declared(DeclaredDetail::Leftover(index)) => {
                let leftover = self.screen().leftovers().get(*index)?;
                let is_line =
                    matches!(leftover, Leftover::Number(_) | Leftover::Band(_) | Leftover::State(_));
                item_at(&self.tree, &self.fixes.map.leftover(*index)?).filter(|_| is_line)?
            }
            Detail::Doubt(DoubtDetail::Implied) => {
                let [part] = finding.rules.as_slice() else { return None };
                let rule = part.written()?;
                self.statement(rule).filter(|_| self.screen().rule_at(rule).relations().len() == 1)?.span()
            }
            Detail::Rules(RuleDetail::NotArranged { words, parent: None }) => {
                let (&view, [word]) = (finding.views.first()?, words.as_slice()) else { return None };
                let says = |n: &Node| self.text()[node_span(n)].split(' ').next() == Some(*word);
                node_span(&self.block(view)?.children().find(|n| n.kind() != Kind::Rule && says(n))?)
            }
            _ => return None,
        };
        let source = &self.text()[span.clone()];
        let said = format!("remove `{}`", source.split_whitespace().collect::<Vec<_>>().join(" "));
        let idea = Candidate::new(said, vec![removed(self.text(), span)], structure::TAKEN_AWAY);
        Some(idea.because("nothing depends on it").evident())
    }

    /// The size that is expected, in place of the one that is stated.
    pub(crate) fn as_expected(&self, finding: &Finding, view: ViewId) -> Vec<Candidate> {
        let Detail::Declared(DeclaredDetail::Unmet(mismatch)) = &finding.detail else { return Vec::new() };
        let sizes: Vec<(bool, f64)> = match *mismatch {
            Mismatch::Frame { is, expected, .. } => {
                let sizes = [(true, is.width, expected.width), (false, is.height, expected.height)];
                let off = sizes.into_iter().filter(|(_, is, expected)| (is - expected).abs() > 1e-6);
                off.map(|(across, _, expected)| (across, expected)).collect()
            }
            Mismatch::Coordinate { coordinate: Coordinate::Width, expected, .. } => vec![(true, expected)],
            Mismatch::Coordinate { coordinate: Coordinate::Height, expected, .. } => vec![(false, expected)],
            _ => Vec::new(),
        };
        let ideas = sizes.into_iter().flat_map(|(across, expected)| {
            let size = if across { "width" } else { "height" };
            let stated = self.stated(view).into_iter().filter(move |s| s.along(across).is_some());
            let line = format!("{size} = {}", exact(expected));
            stated.filter_map(move |s| {
                self.replaced(&s.statement, &s.with(across, &line), structure::AS_EXPECTED)
            })
        });
        let mut ideas: Vec<Candidate> = ideas.collect();
        ideas.extend(self.other_percentages(view, mismatch));
        // A position by the number that it is off by.
        for (coordinate, by) in mismatch.off().into_iter().filter(|(c, _)| c.is_position()) {
            for (id, rule) in self.rules_outside_bands(view) {
                for (at, relation) in rule.relations().iter().enumerate() {
                    let is_it = matches!(relation.left.terms(), [t] if t.coordinate.is_position()
                        && t.anchor == Anchor::View(view)
                        && t.coordinate.is_horizontal() == coordinate.is_horizontal());
                    let Some(statement) = self.statement(id).filter(|_| is_it) else { continue };
                    let number = relation.right.constant() - by;
                    ideas.extend(
                        self.renumbered(&statement, (relation, at), number)
                            .and_then(|change| self.reads(&statement, change, structure::AS_EXPECTED)),
                    );
                }
            }
        }
        ideas
    }

    /// A size that is a share of another one: the share that gives what is expected, where it is a number that one
    /// would write.
    fn other_percentages(&self, view: ViewId, mismatch: &Mismatch) -> Vec<Candidate> {
        let own = self.rules_outside_bands(view).filter_map(|(id, rule)| {
            let [relation] = rule.relations() else { return None };
            let ([left], [right]) = (relation.left.terms(), relation.right.terms()) else { return None };
            let is_share = left.anchor == Anchor::View(view)
                && !right.coordinate.is_position()
                && relation.right.constant() == 0.0;
            Some((self.statement(id).filter(|_| is_share)?, left.coordinate, right.coefficient))
        });
        let ideas = own.filter_map(|(statement, coordinate, share)| {
            let (is, expected) = mismatch.of(coordinate)?;
            let percent = |share: f64| (share * 1000.0).round() / 10.0;
            let (old, new) = (percent(share), percent(share * expected / is));
            let is_exact = (new / 100.0 / share * is - expected).abs() < 0.5;
            let old = format!("{}%", exact(old));
            let line = statement.unlabelled().replacen(&old, &format!("{}%", exact(new)), 1);
            let is_it = is_exact && new > 0.0 && statement.unlabelled().matches(&old).count() == 1;
            self.replaced(&statement, &line, structure::AS_EXPECTED).filter(|_| is_it)
        });
        ideas.collect()
    }

    /// Limits that keep a claim: inside what it names, or clear of it.
    pub(crate) fn as_claimed(&self, finding: &Finding, view: ViewId) -> Vec<Candidate> {
        let screen = self.screen();
        let Detail::Declared(DeclaredDetail::ClaimBroken { how, .. }) = &finding.detail else {
            return Vec::new();
        };
        match *how {
            ClaimBreach::Outside { side, of, .. } => {
                let is_near = matches!(side, Coordinate::Left | Coordinate::Top);
                let (sign, apart) = if is_near { (">=", '+') } else { ("<=", '-') };
                let side =
                    match (side, self.lines_of(view, true).iter().any(|line| line.starts_with("start"))) {
                        (Coordinate::Left, true) => "start",
                        (Coordinate::Right, true) => "end",
                        (side, _) => side.spelling(),
                    };
                let edge = Coordinate::SPELLINGS
                    .iter()
                    .find(|(spelling, _)| *spelling == side)
                    .map(|(_, edge)| *edge);
                let around =
                    edge.map(|edge| screen.coordinate_text(of, edge, Some(view))).unwrap_or_default();
                let limit = format!("{side} {sign} {around} {apart} {}", exact(GAPS[0]));
                let mut ideas: Vec<Candidate> = self
                    .put_in(view, std::slice::from_ref(&limit), structure::AS_CLAIMED)
                    .into_iter()
                    .collect();
                // On as many lines as it takes.
                let second = self.put_in(view, &[limit], structure::AS_CLAIMED - structure::SECOND);
                ideas.extend(second.and_then(|idea| self.on_any_lines(view, idea)));
                ideas
            }
            ClaimBreach::Covers { other, .. } | ClaimBreach::Near { other, .. } => {
                let name = screen.at(other).name();
                let lines = [
                    format!("end <= {name}.start - {}", exact(GAPS[1])),
                    format!("bottom <= {name}.top - {}", exact(GAPS[0])),
                ];
                lines
                    .into_iter()
                    .filter_map(|line| self.put_in(view, &[line], structure::AS_CLAIMED))
                    .collect()
            }
            ClaimBreach::Differs { coordinate, elsewhere, .. } => {
                let own = self.rules_outside_bands(view).filter_map(|(id, rule)| {
                    let [relation] = rule.relations() else { return None };
                    let is_it = matches!(relation.left.terms(), [t] if t.coordinate == coordinate
                        && t.anchor == Anchor::View(view));
                    self.statement(id).filter(|_| is_it)
                });
                let line = format!("{} = {}", coordinate.spelling(), exact(elsewhere.round()));
                own.filter_map(|s| self.replaced(&s, &line, structure::AS_CLAIMED)).collect()
            }
            ClaimBreach::WordsCut { .. } => Vec::new(),
        }
    }
}
