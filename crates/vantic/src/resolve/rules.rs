//! Rules: relations, pins and ratios, with their labels and levels.

use crate::resolve::reader::Reader;
use crate::resolve::scope::{Done, Reported, Value};
use crate::syntax::ast::nodes::{child, is_lost, is_rule, node_span, span};
use crate::syntax::ast::rules::{Body, PinSide, Rule, Strength};
use crate::syntax::error::SourceError;
use crate::syntax::lexer::Kind;
use crate::syntax::tree::{Node, Token};
use vantic_core::limits::{MAX_NUMBER, MAX_RULES};
use vantic_core::model::{
    Anchor, BandId, BuildError, Comparison, Expr, LevelId, Pair, RuleDraft, Side, ViewId, ratio,
};
use vantic_core::words::nearest;

impl Reader {
    pub(crate) fn rule(&mut self, node: &Node, owner: Option<ViewId>, band: Option<BandId>) -> Done {
        // A block for many views may hold many rules: one error, at the first one over the limit.
        if is_lost(node) || self.rules_at_limit {
            return Err(Reported);
        }
        let Rule { label, together, body } = Rule::of(node);
        let draft = match together {
            Some(block) => self.together(&block, owner)?,
            None => self.draft(&body, owner)?,
        };
        let draft = match &label {
            Some(label) => draft.labelled(label.text()),
            None => draft,
        };
        let at = node_span(node);
        match self.builder.add_rule(owner, band, draft) {
            Ok(_) => {
                self.map.rules.push(at);
                self.map.rule_scopes.push(self.scope);
                Ok(())
            }
            Err(BuildError::Taken { what, name, place }) => {
                let first = self.builder.labelled(owner, &name).and_then(|r| self.map.rule(r));
                let error = BuildError::Taken { what, name, place };
                let at = label.map_or(at, |l| span(l.text_range()));
                let mut error = SourceError::new(at, error.to_string());
                if let Some(first) = first {
                    error =
                        error.related(first, "the first one is here").help("give one of them another label");
                }
                self.errors.push(error);
                Err(Reported)
            }
            Err(error @ (BuildError::Reserved { .. } | BuildError::Name { .. })) => {
                let at = label.map_or(at, |l| span(l.text_range()));
                Err(self.error(at, error.to_string()))
            }
            Err(error) => {
                self.rules_at_limit = self.builder.screen().rules().count() >= MAX_RULES;
                Err(self.error(at, error.to_string()))
            }
        }
    }

    /// Several rules that go by one name.
    fn together(&mut self, block: &Node, owner: Option<ViewId>) -> Done<RuleDraft> {
        let mut all = RuleDraft::new(Vec::new());
        for statement in block.children() {
            let rule = Rule::of(&statement);
            let plain = is_rule(statement.kind()) && rule.label.is_none() && rule.together.is_none();
            if is_lost(&statement) || statement.descendants().any(|n| n.kind() == Kind::Wrong) {
                return Err(Reported);
            }
            if !plain {
                let help =
                    "write `{ top = prev.bottom + 8; height <= 40 }`; the label stands before the brace";
                let message = "only rules without a label stand together as one rule";
                return Err(self.error_with_help(node_span(&statement), message, help));
            }
            all = all.and(self.draft(&rule.body, owner)?);
        }
        if all.relations().is_empty() {
            return Err(self.error(node_span(block), "there is no rule between the braces"));
        }
        Ok(all)
    }

    /// One rule, with its level and what bounds it.
    fn draft(&mut self, body: &Node, owner: Option<ViewId>) -> Done<RuleDraft> {
        let said = Body::of(body).ok_or(Reported)?;
        let takes_bounds = !matches!(
            said,
            Body::Between { .. } | Body::Drawn { .. } | Body::Spread { .. } | Body::Enclose { .. }
        );
        let draft = match said {
            Body::Relation { left, sign, right } => self.relation(body, (&left, &sign, &right), owner)?,
            Body::Ratio { of: [a, b], proportion } => {
                let (a, b) = (self.scalar(&a, owner)?, self.scalar(&b, owner)?);
                let (m, n) = self.proportion(&proportion, owner)?;
                ratio(a, b, m, n)
            }
            Body::Spread { axis, views, within, how } => {
                self.spread(body, axis, (&views, within.as_ref(), how.as_ref()), owner)?
            }
            form => {
                let view = self.owned(body, owner)?;
                self.form(body, form, view)?
            }
        };
        let draft = match child(body, Kind::Strength) {
            Some(strength) => self.strengthened(draft, &strength, owner)?,
            None => draft,
        };
        if takes_bounds { self.bounded(draft, body, owner) } else { Ok(draft) }
    }

    /// A draft on the level, and with the weight, that is written behind it.
    pub(crate) fn strengthened(
        &mut self,
        draft: RuleDraft,
        node: &Node,
        owner: Option<ViewId>,
    ) -> Done<RuleDraft> {
        let (level, weight) = self.strength(node, owner)?;
        let draft = level.map_or(draft.clone(), |level| draft.prefer(level));
        Ok(draft.weight(weight))
    }

    /// The level and the weight that are written.
    pub(crate) fn strength(&mut self, node: &Node, owner: Option<ViewId>) -> Done<(Option<LevelId>, f64)> {
        let strength = Strength::of(node).ok_or(Reported)?;
        let weight = match &strength.weight {
            Some(weight) => self.number(weight, owner)?,
            None => 1.0,
        };
        let Some(name) = strength.level() else { return Ok((None, weight)) };
        if let Some(level) = self.level_named(name.text()) {
            return Ok((Some(level), weight));
        }
        let screen = self.builder.screen();
        let levels = screen.levels();
        let help = match nearest(name.text(), levels.iter().map(String::as_str)) {
            Some(near) => format!("did you mean `{near}`?"),
            None if screen.ladder().is_empty() => {
                format!("declare the levels first: `ladder {}`", name.text())
            }
            None => format!("the levels are {}", levels.join(" > ")),
        };
        let message = format!("there is no level `{}`", name.text());
        Err(self.error_with_help(span(name.text_range()), message, help))
    }

    /// Sides pinned to the same sides of a box.
    pub(crate) fn pin(&mut self, sides: &[PinSide], to: Anchor, view: ViewId) -> Done<RuleDraft> {
        let mut relations = Vec::new();
        for side in sides {
            let which = self.side(side)?;
            let by = self.distance(side.by.as_ref(), Some(view))?;
            relations.push(which.pinned(view, to, by));
        }
        Ok(RuleDraft::new(relations))
    }

    /// A distance that may be left out.
    pub(crate) fn distance(&mut self, node: Option<&Node>, owner: Option<ViewId>) -> Done<Expr> {
        node.map_or(Ok(Expr::default()), |node| self.scalar(node, owner))
    }

    /// The side that a pin or the like begins with.
    pub(crate) fn side(&mut self, side: &PinSide) -> Done<Side> {
        let word = &side.word;
        let known = Side::ALL.iter().find(|(_, c)| c.spelling() == word.text());
        let Some(&(which, _)) = known else {
            let near = nearest(word.text(), Side::ALL.iter().map(|(_, c)| c.spelling()));
            let help = near.map_or_else(
                || "the sides are left, right, top, bottom, start and end".to_owned(),
                |near| format!("did you mean `{near}`?"),
            );
            return Err(self.error_with_help(
                span(word.text_range()),
                format!("`{}` is not a side", word.text()),
                help,
            ));
        };
        Ok(which)
    }

    /// The view that a rule is for; only views can be placed.
    pub(crate) fn owned(&mut self, node: &Node, owner: Option<ViewId>) -> Done<ViewId> {
        owner.ok_or_else(|| {
            let message = "the screen itself has no rules";
            self.error_with_help(node_span(node), message, "write the rule in a view's block")
        })
    }

    /// The two numbers of a ratio.
    pub(crate) fn proportion(&mut self, of: &[Node; 2], owner: Option<ViewId>) -> Done<(f64, f64)> {
        let [m, n] = of;
        let values = [(m, self.number(m, owner)?), (n, self.number(n, owner)?)];
        for (part, value) in values {
            if value <= 0.0 {
                let help = "both numbers of a ratio are above zero, as in `3 : 2`";
                return Err(self.error_with_help(
                    node_span(part),
                    format!("a ratio with {value} has no meaning"),
                    help,
                ));
            }
        }
        Ok((values[0].1, values[1].1))
    }

    fn relation(
        &mut self,
        node: &Node,
        (left, sign, right): (&Node, &Token, &Node),
        owner: Option<ViewId>,
    ) -> Done<RuleDraft> {
        let comparison = match sign.kind() {
            Kind::Equal => Comparison::Equal,
            Kind::AtMost => Comparison::AtMost,
            _ => Comparison::AtLeast,
        };
        let (a, b) = (self.value(left, owner)?, self.value(right, owner)?);
        match (a, b) {
            (Value::One(a), Value::One(b)) => Ok(a.relate(comparison, b)),
            (Value::Two(a), Value::Two(b)) => Ok(a.relate(comparison, b)),
            (Value::Two(a), Value::One(b)) if b.is_number() => Ok(a.relate(comparison, Pair(b.clone(), b))),
            (Value::One(a), Value::Two(b)) if a.is_number() => Ok(Pair(a.clone(), a).relate(comparison, b)),
            (Value::Percent(_), _) => Err(self.percent_of_nothing(left)),
            (_, Value::Percent(_)) => Err(self.percent_of_nothing(right)),
            _ => {
                let help = "write both coordinates as a pair, such as `center = parent.center`";
                Err(self.error_with_help(
                    node_span(node),
                    "one side is a pair, the other a single coordinate",
                    help,
                ))
            }
        }
    }

    pub(crate) fn scalar(&mut self, node: &Node, owner: Option<ViewId>) -> Done<Expr> {
        match self.value(node, owner)? {
            Value::One(expr) => Ok(expr),
            Value::Percent(_) => Err(self.percent_of_nothing(node)),
            Value::Two(_) => {
                Err(self.error(node_span(node), "expected one number or coordinate, found a pair"))
            }
        }
    }

    pub(crate) fn number(&mut self, node: &Node, owner: Option<ViewId>) -> Done<f64> {
        let expr = self.scalar(node, owner)?;
        if expr.is_number() && expr.constant().abs() <= MAX_NUMBER {
            return Ok(expr.constant());
        }
        let named = expr.values().first().map(|v| self.builder.screen().values()[v.1.index()].name());
        let message = match named {
            Some(name) => format!("bands change `{name}`, so it is no plain number; write the number here"),
            None => "expected a plain number, found a coordinate".to_owned(),
        };
        Err(self.error(node_span(node), message))
    }

    pub(crate) fn percent_of_nothing(&mut self, node: &Node) -> Reported {
        let written = node.text().to_string();
        let written = written.trim();
        let help = format!("write `{written} of parent.width`, or of any other coordinate");
        self.error_with_help(node_span(node), format!("{written} of what?"), help)
    }
}
