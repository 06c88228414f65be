//! Rules: relations, pins and ratios, with their labels and levels.

use super::names::{nearest, words_of};
use super::value::Value;
use super::{Done, Reader, Reported, child, first_word, is_lost, node_span, span};
use crate::coordinate::{Comparison, Expr, Pair, Side, ratio};
use crate::screen::{BandId, BuildError, Draft, MAX_NUMBER, ViewId};
use crate::syntax::{Kind, Node, SourceError};

impl Reader {
    pub(super) fn rule(&mut self, node: &Node, owner: Option<ViewId>, band: Option<BandId>) -> Done {
        let label = child(node, Kind::Label).and_then(|l| first_word(&l, 0));
        let inner = node.children().find(|n| matches!(n.kind(), Kind::Pin | Kind::Ratio));
        let body = inner.as_ref().unwrap_or(node);
        // A block for many views may hold many rules: their limit is said once, at the first too many.
        if is_lost(node) || self.rules_at_limit {
            return Err(Reported);
        }
        let mut draft = match body.kind() {
            Kind::Pin => self.pin(body, owner)?,
            Kind::Ratio => self.ratio(body, owner)?,
            _ => self.relation(body, owner)?,
        };
        draft.label = label.as_ref().map(|l| l.text().to_owned());
        if let Some(strength) = child(body, Kind::Strength) {
            self.strength(&strength, owner, &mut draft)?;
        }
        let at = node_span(node);
        match self.builder.add_rule(owner, band, draft) {
            Ok(_) => {
                self.map.rules.push(at);
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
                self.rules_at_limit = matches!(error, BuildError::Limit { .. });
                Err(self.error(at, error.to_string()))
            }
        }
    }

    pub(super) fn strength(&mut self, node: &Node, owner: Option<ViewId>, draft: &mut Draft) -> Done {
        let Some(name) = first_word(node, 0) else { return Err(Reported) };
        let screen = self.builder.screen();
        let Some(level) = screen.level(name.text()) else {
            let levels = screen.levels();
            let help = match nearest(name.text(), levels.iter().map(String::as_str)) {
                Some(near) => format!("did you mean `{near}`?"),
                None if screen.ladder.is_empty() => {
                    format!("declare the levels first: `ladder {}`", name.text())
                }
                None => format!("the levels are {}", levels.join(" > ")),
            };
            return Err(self.error_with_help(
                span(name.text_range()),
                format!("there is no level `{}`", name.text()),
                help,
            ));
        };
        draft.level = Some(level);
        if let Some(weight) = node.children().next() {
            draft.weight = self.number(&weight, owner)?;
        }
        Ok(())
    }

    pub(super) fn pin(&mut self, node: &Node, owner: Option<ViewId>) -> Done<Draft> {
        let Some(view) = owner else {
            return Err(self.error_with_help(
                node_span(node),
                "the screen itself cannot be pinned",
                "write the pin in a view's block",
            ));
        };
        let Some(path) = node.children().find(|n| n.kind() == Kind::Path) else { return Err(Reported) };
        let to = self.place(&words_of(&path), owner, node_span(&path))?;
        let mut relations = Vec::new();
        for side in node.children().filter(|n| n.kind() == Kind::PinSide) {
            let Some(word) = first_word(&side, 0) else { return Err(Reported) };
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
            let by = match side.children().next() {
                Some(distance) => self.scalar(&distance, owner)?,
                None => Expr::default(),
            };
            relations.push(which.pinned(view, to, by));
        }
        Ok(Draft::new(relations))
    }

    pub(super) fn ratio(&mut self, node: &Node, owner: Option<ViewId>) -> Done<Draft> {
        let parts: Vec<Node> = node.children().filter(|n| n.kind() != Kind::Strength).collect();
        let [a, b, m, n] = parts.as_slice() else { return Err(Reported) };
        let (a_expr, b_expr) = (self.scalar(a, owner)?, self.scalar(b, owner)?);
        let (m_value, n_value) = (self.number(m, owner)?, self.number(n, owner)?);
        for (part, value) in [(m, m_value), (n, n_value)] {
            if value <= 0.0 {
                let help = "both numbers of a ratio are above zero, as in `3 : 2`";
                return Err(self.error_with_help(
                    node_span(part),
                    format!("a ratio with {value} decides nothing"),
                    help,
                ));
            }
        }
        Ok(ratio(a_expr, b_expr, m_value, n_value))
    }

    pub(super) fn relation(&mut self, node: &Node, owner: Option<ViewId>) -> Done<Draft> {
        let sides: Vec<Node> =
            node.children().filter(|n| !matches!(n.kind(), Kind::Label | Kind::Strength)).collect();
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

    pub(super) fn scalar(&mut self, node: &Node, owner: Option<ViewId>) -> Done<Expr> {
        match self.value(node, owner)? {
            Value::One(expr) => Ok(expr),
            Value::Percent(_) => Err(self.percent_of_nothing(node)),
            Value::Two(_) => {
                Err(self.error(node_span(node), "expected one number or coordinate, found a pair"))
            }
        }
    }

    pub(super) fn number(&mut self, node: &Node, owner: Option<ViewId>) -> Done<f64> {
        let expr = self.scalar(node, owner)?;
        if expr.is_number() && expr.constant().abs() <= MAX_NUMBER {
            return Ok(expr.constant());
        }
        Err(self.error(node_span(node), "expected a plain number, found a coordinate"))
    }

    pub(super) fn percent_of_nothing(&mut self, node: &Node) -> Reported {
        let written = node.text().to_string();
        let written = written.trim();
        let help = format!("write `{written} of parent.width`, or of any other coordinate");
        self.error_with_help(node_span(node), format!("{written} of what?"), help)
    }
}
