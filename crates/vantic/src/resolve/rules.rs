//! Rules: relations, pins and ratios, with their labels and levels.

use crate::resolve::reader::Reader;
use crate::resolve::scope::{Done, Reported, Value};
use crate::syntax::ast::{
    child, first_word, is_behind, is_form, is_lost, is_rule, node_span, span, words_of,
};
use crate::syntax::error::SourceError;
use crate::syntax::lexer::Kind;
use crate::syntax::tree::Node;
use vantic_core::limits::{MAX_NUMBER, MAX_RULES};
use vantic_core::model::{
    BandId, BuildError, Comparison, Expr, LevelId, Pair, RuleDraft, Side, ViewId, ratio,
};
use vantic_core::words::nearest;

impl Reader {
    pub(crate) fn rule(&mut self, node: &Node, owner: Option<ViewId>, band: Option<BandId>) -> Done {
        let label = child(node, Kind::Label).and_then(|l| first_word(&l, 0));
        // A block for many views may hold many rules: one error, at the first one over the limit.
        if is_lost(node) || self.rules_at_limit {
            return Err(Reported);
        }
        let draft = match child(node, Kind::Block) {
            Some(block) => self.together(&block, owner)?,
            None => self.draft(node, owner)?,
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
            let plain = is_rule(statement.kind())
                && child(&statement, Kind::Label).is_none()
                && child(&statement, Kind::Block).is_none();
            if is_lost(&statement) || statement.descendants().any(|n| n.kind() == Kind::Wrong) {
                return Err(Reported);
            }
            if !plain {
                let help =
                    "write `{ top = prev.bottom + 8; height <= 40 }`; the label stands before the brace";
                let message = "only rules without a label stand together as one rule";
                return Err(self.error_with_help(node_span(&statement), message, help));
            }
            all = all.and(self.draft(&statement, owner)?);
        }
        if all.relations().is_empty() {
            return Err(self.error(node_span(block), "there is no rule between the braces"));
        }
        Ok(all)
    }

    /// One rule, with its level and what bounds it.
    fn draft(&mut self, node: &Node, owner: Option<ViewId>) -> Done<RuleDraft> {
        let inner = node.children().find(|n| is_form(n.kind()));
        let body = inner.as_ref().unwrap_or(node);
        let draft = match body.kind() {
            Kind::Pin => self.pin(body, owner)?,
            Kind::Ratio => self.ratio(body, owner)?,
            Kind::Gap => self.gap(body, owner)?,
            Kind::Between => self.between(body, owner)?,
            Kind::Fit => self.fit(body, owner)?,
            Kind::Span => self.span(body, owner)?,
            Kind::Drawn => self.drawn(body, owner)?,
            Kind::Spread => self.spread(body, owner)?,
            Kind::Enclose => self.enclose(body, owner)?,
            _ => self.relation(body, owner)?,
        };
        let draft = match child(body, Kind::Strength) {
            Some(strength) => self.strengthened(draft, &strength, owner)?,
            None => draft,
        };
        if matches!(body.kind(), Kind::Between | Kind::Drawn | Kind::Spread | Kind::Enclose) {
            return Ok(draft);
        }
        self.bounded(draft, body, owner)
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
        let Some(name) = first_word(node, 0) else { return Err(Reported) };
        let weight = match node.children().next() {
            Some(weight) => self.number(&weight, owner)?,
            None => 1.0,
        };
        if name.text() == "weight" {
            return Ok((None, weight));
        }
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

    pub(crate) fn pin(&mut self, node: &Node, owner: Option<ViewId>) -> Done<RuleDraft> {
        let view = self.owned(node, owner)?;
        let Some(path) = node.children().find(|n| n.kind() == Kind::Path) else { return Err(Reported) };
        let to = self.place(&words_of(&path), owner, node_span(&path))?;
        let mut relations = Vec::new();
        for side in node.children().filter(|n| n.kind() == Kind::PinSide) {
            let which = self.side(&side)?;
            let by = match side.children().next() {
                Some(distance) => self.scalar(&distance, owner)?,
                None => Expr::default(),
            };
            relations.push(which.pinned(view, to, by));
        }
        Ok(RuleDraft::new(relations))
    }

    /// The side that a pin or the like begins with.
    pub(crate) fn side(&mut self, side: &Node) -> Done<Side> {
        let Some(word) = first_word(side, 0) else { return Err(Reported) };
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

    pub(crate) fn ratio(&mut self, node: &Node, owner: Option<ViewId>) -> Done<RuleDraft> {
        let parts: Vec<Node> = node.children().filter(|n| n.kind() != Kind::Strength).collect();
        let [a, b, m, n] = parts.as_slice() else { return Err(Reported) };
        let (a_expr, b_expr) = (self.scalar(a, owner)?, self.scalar(b, owner)?);
        let (m, n) = self.proportion(m, n, owner)?;
        Ok(ratio(a_expr, b_expr, m, n))
    }

    /// The two numbers of a ratio.
    pub(crate) fn proportion(&mut self, m: &Node, n: &Node, owner: Option<ViewId>) -> Done<(f64, f64)> {
        let (m_value, n_value) = (self.number(m, owner)?, self.number(n, owner)?);
        for (part, value) in [(m, m_value), (n, n_value)] {
            if value <= 0.0 {
                let help = "both numbers of a ratio are above zero, as in `3 : 2`";
                return Err(self.error_with_help(
                    node_span(part),
                    format!("a ratio with {value} has no meaning"),
                    help,
                ));
            }
        }
        Ok((m_value, n_value))
    }

    pub(crate) fn relation(&mut self, node: &Node, owner: Option<ViewId>) -> Done<RuleDraft> {
        let sides: Vec<Node> = node.children().filter(|n| !is_behind(n.kind())).collect();
        let [left, right] = sides.as_slice() else { return Err(Reported) };
        let comparison = node.children_with_tokens().find_map(|t| match t.kind() {
            Kind::Equal => Some(Comparison::Equal),
            Kind::AtMost => Some(Comparison::AtMost),
            Kind::AtLeast => Some(Comparison::AtLeast),
            _ => None,
        });
        let comparison = comparison.ok_or(Reported)?;
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
