//! What an expression means.

use crate::resolve::names::Meaning;
use crate::resolve::reader::Reader;
use crate::resolve::scope::{Done, LetState, Reported, Value};
use crate::syntax::ast::expressions::Expression;
use crate::syntax::ast::nodes::{node_span, span, value};
use crate::syntax::lexer::Kind;
use crate::syntax::tree::{Node, Token};
use vantic_core::limits::MAX_NUMBER;
use vantic_core::model::{Coordinates, Expr, MinMaxKind, Pair, ViewId, bearing, bearing_along, pick};

/// How many `let`s may refer to one another in a row.
const MAX_LETS_IN_A_ROW: usize = 64;

impl Reader {
    pub(crate) fn value(&mut self, node: &Node, owner: Option<ViewId>) -> Done<Value> {
        match Expression::of(node).ok_or(Reported)? {
            Expression::Literal { number, degrees } => {
                if degrees && !takes_angle(node) {
                    let help = "angles are for `bearing(distance, 45deg)`, `outline(45deg)` and `rotate \
                                45deg`; lengths are written without a unit";
                    return Err(self.error_with_help(node_span(node), "an angle has no meaning here", help));
                }
                Ok(Value::One(self.parsed(&number)?.into()))
            }
            Expression::Percentage { number, of } => {
                let percent = self.parsed(&number)?;
                let Some(of) = of else { return Ok(Value::Percent(percent)) };
                let value = self.value(&of, owner)?;
                self.scaled(value, percent / 100.0, &of)
            }
            Expression::Negative(inner) => match self.value(&inner, owner)? {
                Value::Percent(percent) => Ok(Value::Percent(-percent)),
                value => self.scaled(value, -1.0, node),
            },
            Expression::Chain { first, then } => self.chain(node, &first, &then, owner),
            Expression::Group(parts) => self.group(node, &parts, owner),
            Expression::Call { of, with } => self.call(node, &of, &with, owner),
            Expression::Path => match self.meaning(node, owner)? {
                Meaning::Coordinate(expr) => Ok(Value::One(expr)),
                Meaning::Pair(place, word) if word == "center" => Ok(Value::Two(place.center())),
                Meaning::Pair(place, word) if word == "size" => Ok(Value::Two(place.size())),
                Meaning::Pair(_, word) if word == "outline" => {
                    let help = "say in which direction: `outline(45deg)`; 0deg is up, clockwise";
                    Err(self.error_with_help(node_span(node), "`outline` needs an angle", help))
                }
                Meaning::Pair(..) => {
                    let help = "say where in the box: `at(50%, 0%)` is the middle of the top edge";
                    Err(self.error_with_help(node_span(node), "`at` needs two fractions", help))
                }
                Meaning::Number(name) => self.let_value(&name),
            },
        }
    }

    fn parsed(&mut self, token: &Token) -> Done<f64> {
        let at = span(token.text_range());
        match token.text().parse::<f64>() {
            Ok(number) if number.abs() <= MAX_NUMBER => Ok(number),
            _ => {
                let shown: String = token.text().chars().take(20).collect();
                let help = format!("numbers are at most {MAX_NUMBER} either side of zero");
                Err(self.error_with_help(at, format!("`{shown}` is too large a number"), help))
            }
        }
    }

    fn scaled(&mut self, value: Value, by: f64, node: &Node) -> Done<Value> {
        match value {
            Value::One(expr) => Ok(Value::One(expr * by)),
            Value::Two(Pair(a, b)) => Ok(Value::Two(Pair(a * by, b * by))),
            Value::Percent(_) => Err(self.percent_of_nothing(node)),
        }
    }

    /// Values joined by operators, worked out from left to right.
    fn chain(
        &mut self,
        node: &Node,
        first: &Node,
        then: &[(Token, Node)],
        owner: Option<ViewId>,
    ) -> Done<Value> {
        let mut result = self.value(first, owner)?;
        if matches!(result, Value::Percent(_)) {
            return Err(self.percent_of_nothing(first));
        }
        for (operator, part) in then {
            let value = self.value(part, owner)?;
            if matches!(value, Value::Percent(_)) {
                return Err(self.percent_of_nothing(part));
            }
            result = match operator.kind() {
                Kind::Star => self.times(result, value, node)?,
                Kind::Slash => self.divided(result, &value, node, part)?,
                Kind::Minus => {
                    let less = self.scaled(value, -1.0, part)?;
                    self.plus(result, less, node)?
                }
                _ => self.plus(result, value, node)?,
            };
        }
        Ok(result)
    }

    fn times(&mut self, a: Value, b: Value, node: &Node) -> Done<Value> {
        match (&a, &b) {
            (_, Value::One(n)) if n.is_number() => self.scaled(a, n.constant(), node),
            (Value::One(n), _) if n.is_number() => self.scaled(b, n.constant(), node),
            _ => {
                let help = "a rule is linear: multiply a coordinate by a number only";
                Err(self.error_with_help(node_span(node), "this multiplies two coordinates", help))
            }
        }
    }

    fn divided(&mut self, a: Value, b: &Value, node: &Node, divisor: &Node) -> Done<Value> {
        match b {
            Value::One(n) if n.is_number() && n.constant() != 0.0 => self.scaled(a, 1.0 / n.constant(), node),
            Value::One(n) if n.is_number() => Err(self.error(node_span(divisor), "this divides by zero")),
            _ => {
                let help = "a rule is linear: divide a coordinate by a number only, or write a `ratio`";
                Err(self.error_with_help(node_span(node), "this divides by a coordinate", help))
            }
        }
    }

    fn plus(&mut self, a: Value, b: Value, node: &Node) -> Done<Value> {
        match (a, b) {
            (Value::One(a), Value::One(b)) => Ok(Value::One(a + b)),
            (Value::Two(a), Value::Two(b)) => Ok(Value::Two(a + b)),
            (Value::Two(pair), Value::One(n)) | (Value::One(n), Value::Two(pair)) if n.is_number() => {
                Ok(Value::Two(pair + Pair(n.clone(), n)))
            }
            _ => Err(self.error(node_span(node), "a pair and a single coordinate cannot be added")),
        }
    }

    fn group(&mut self, node: &Node, parts: &[Node], owner: Option<ViewId>) -> Done<Value> {
        match parts {
            [one] => self.value(one, owner),
            [x, y] => Ok(Value::Two(Pair(self.scalar(x, owner)?, self.scalar(y, owner)?))),
            _ => Err(self.error(node_span(node), format!("expected a pair of two, found {}", parts.len()))),
        }
    }

    fn call(&mut self, node: &Node, path: &Node, arguments: &[Node], owner: Option<ViewId>) -> Done<Value> {
        let word = path.text().to_string();
        let word = word.trim();
        if word == "bearing" {
            return self.bearing(node, arguments, owner).map(Value::Two);
        }
        if let Some(&(_, which)) = MinMaxKind::SPELLINGS.iter().find(|(spelled, _)| *spelled == word) {
            let of: Vec<Expr> = arguments.iter().map(|a| self.scalar(a, owner)).collect::<Done<_>>()?;
            if which == MinMaxKind::Clamp && of.len() != 3 {
                let help =
                    "write the value, the minimum and the maximum: `clamp(40% of parent.width, 80, 200)`";
                return Err(self.error_with_help(node_span(node), "`clamp` takes three", help));
            }
            return Ok(Value::One(pick(which, of)));
        }
        match self.meaning(path, owner)? {
            Meaning::Pair(place, word) if word == "at" => {
                let [x, y] = arguments else {
                    let help = "write two fractions: `at(50%, 0%)` is the middle of the top edge";
                    return Err(self.error_with_help(node_span(node), "`at` takes two fractions", help));
                };
                let (x, y) = (self.fraction(x, owner)?, self.fraction(y, owner)?);
                Ok(Value::Two(place.at(x, y)))
            }
            Meaning::Pair(place, word) if word == "outline" => {
                let [angle] = arguments else {
                    let help = "write one angle: `outline(45deg)`; 0deg is up, clockwise";
                    return Err(self.error_with_help(node_span(node), "`outline` takes one angle", help));
                };
                Ok(Value::Two(place.outline(self.number(angle, owner)?)))
            }
            _ => {
                let message =
                    "only `at`, `outline`, `bearing`, `max`, `min` and `clamp` take something in brackets";
                Err(self.error(node_span(path), message))
            }
        }
    }

    /// The offset of `bearing(distance, angle)`, with `mirrored` behind it along the reading direction.
    fn bearing(&mut self, node: &Node, arguments: &[Node], owner: Option<ViewId>) -> Done<Pair> {
        let (distance, angle, turns) = match arguments {
            [distance, angle] => (distance, angle, false),
            [distance, angle, word] if word.text().to_string().trim() == "mirrored" => {
                (distance, angle, true)
            }
            [_, _, word] => {
                let help = "write `mirrored` there, or nothing";
                return Err(self.error_with_help(node_span(word), "`bearing` ends with its angle", help));
            }
            _ => {
                let help = "write the distance and the angle: `bearing(40, 45deg)`; without a distance the \
                            view would lie on top";
                return Err(self.error_with_help(
                    node_span(node),
                    "`bearing` takes a distance and an angle",
                    help,
                ));
            }
        };
        let radius = self.scalar(distance, owner)?;
        if radius.is_number() && radius.constant() < 0.0 {
            let message = format!("a distance of {} is below zero", radius.constant());
            let help = "turn the angle by 180deg to go the other way";
            return Err(self.error_with_help(node_span(distance), message, help));
        }
        let degrees = self.number(angle, owner)?;
        Ok(if turns { bearing_along(radius, degrees) } else { bearing(radius, degrees) })
    }

    /// A fraction of a box, written as a percentage or as a number.
    pub(crate) fn fraction(&mut self, node: &Node, owner: Option<ViewId>) -> Done<f64> {
        match self.value(node, owner)? {
            Value::Percent(percent) => Ok(percent / 100.0),
            Value::One(n) if n.is_number() => Ok(n.constant()),
            _ => Err(self.error(node_span(node), "expected a fraction such as `50%`")),
        }
    }

    pub(crate) fn let_value(&mut self, name: &str) -> Done<Value> {
        let Some(found) = self.scope_of_let(name) else { return Err(Reported) };
        let Some(item) = self.scopes[found].lets.get_mut(name) else { return Err(Reported) };
        let (node, state, scope, owner) = (item.node.clone(), item.state.clone(), item.scope, item.owner);
        match state {
            LetState::Known(value) => return Ok(value),
            LetState::Varies(value) => return Ok(Value::One(Expr::of_value(value))),
            LetState::Wrong => return Err(Reported),
            LetState::InWork => {
                let message = format!("`{name}` is made of itself");
                return Err(self.error_with_help(
                    node_span(&node),
                    message,
                    "give one of the numbers in this circle a value",
                ));
            }
            LetState::Waiting if self.let_depth >= MAX_LETS_IN_A_ROW => {
                item.state = LetState::Wrong;
                // Said once: a long chain is cut into many.
                if std::mem::replace(&mut self.lets_too_long, true) {
                    return Err(Reported);
                }
                let message = format!(
                    "too many numbers are made of one another: the limit is {MAX_LETS_IN_A_ROW} in a row"
                );
                return Err(self.error(node_span(&node), message));
            }
            LetState::Waiting => item.state = LetState::InWork,
        }
        self.let_depth += 1;
        let value = match value(&node) {
            Some(expression) => self.in_scope(scope, |reader| reader.value(&expression, owner)),
            None => Err(Reported),
        };
        self.let_depth -= 1;
        if let Some(item) = self.scopes[found].lets.get_mut(name) {
            item.state = value.as_ref().map_or(LetState::Wrong, |v| LetState::Known(v.clone()));
        }
        value
    }
}

fn takes_angle(node: &Node) -> bool {
    let taker = node.ancestors().find(|n| matches!(n.kind(), Kind::Call | Kind::Setting | Kind::Let));
    taker.is_some_and(|t| {
        let text = t.text().to_string();
        let text = text.trim_start();
        let path = text.split('(').next().unwrap_or_default().trim();
        path == "bearing" || path.ends_with("outline") || text.starts_with("rotate")
    })
}
