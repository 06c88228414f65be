//! From the tree of a text to its form. The tree is without errors; what is not there is `None`.

use crate::json::types::{
    Align, Argument, Arranged, Axis, Bound, ClaimForm, Comparison, Divided, End, ExpectedForm, Expression,
    Fitted, Form, GapSide, GridColumns, Operation, Operator, Overhang, PinnedSide, Scaling, Scroll, Spread,
    Statement, Strength, Test, TextContent, Translation,
};
use crate::syntax::ast::{
    behind_word, block_of, child, first_word, own_words, spelled, unquoted, words_token,
};
use crate::syntax::lexer::Kind;
use crate::syntax::tree::Node;

pub(crate) fn form(item: &Node) -> Option<Form> {
    let from = words_token(item).as_ref().map(unquoted);
    Some(Form { screen: word(item, 1)?, from, statements: block(item)? })
}

fn word(node: &Node, skip: usize) -> Option<String> {
    first_word(node, skip).map(|w| w.text().to_owned())
}

fn block(node: &Node) -> Option<Vec<Statement>> {
    block_of(node)?.children().map(|s| statement(&s)).collect()
}

fn paths(node: &Node) -> Vec<String> {
    node.children().filter(|n| n.kind() == Kind::Path).map(|p| spelled(&p)).collect()
}

fn path(node: &Node) -> Option<String> {
    paths(node).pop()
}

/// The expressions that stand directly in a node, its paths included.
fn parts(node: &Node) -> Option<Vec<Expression>> {
    let behind =
        |k: Kind| matches!(k, Kind::Label | Kind::Strength | Kind::Bound | Kind::PinSide | Kind::Clause);
    node.children().filter(|n| !behind(n.kind())).map(|n| expression(&n)).collect()
}

pub(crate) fn first(node: &Node) -> Option<Expression> {
    expression(&node.children().next()?)
}

fn statement(node: &Node) -> Option<Statement> {
    Some(match node.kind() {
        Kind::Ladder => Statement::Ladder(own_words(node).skip(1).map(|w| w.text().to_owned()).collect()),
        Kind::Design => {
            let clause = child(node, Kind::Clause);
            let mut sizes = parts(node)?.into_iter();
            Statement::Design {
                size: sizes.next()?,
                or: sizes.next(),
                scaling: clause.as_ref().and_then(|c| Scaling::find(&word(c, 0)?)),
                by: clause.as_ref().and_then(first),
            }
        }
        Kind::Adopt => Statement::Adopt(paths(node)),
        Kind::Reworded => Statement::Words(unquoted(&words_token(node)?)),
        Kind::State => Statement::State {
            name: word(node, 1)?,
            of: own_words(node).skip(2).map(|w| w.text().to_owned()).collect(),
        },
        Kind::BandItem => Statement::Band { name: word(node, 1)?, when: test(&node.children().next()?)? },
        Kind::Let => Statement::Let { name: word(node, 1)?, value: first(node)? },
        Kind::ViewItem => view_item(node)?,
        Kind::Part => Statement::Part { name: word(node, 1)?, takes: arguments(node)?, block: block(node)? },
        Kind::Use => Statement::Use { part: word(node, 1)?, with: arguments(node)? },
        Kind::In if word(node, 0)? == "each" => Statement::Each { views: paths(node), block: block(node)? },
        Kind::In => Statement::In { view: path(node)?, block: block(node)? },
        Kind::When => Statement::When { band: path(node)?, block: block(node)? },
        Kind::Hide => {
            let mut paths = paths(node).into_iter();
            let keep_space = own_words(node).any(|w| w.text() == "keep");
            Statement::Hide { view: paths.next()?, keep_space, show: paths.next() }
        }
        Kind::Show => Statement::Show(path(node)?),
        Kind::Only => Statement::OnlyIn(paths(node)),
        Kind::Drop => Statement::Drop(spelled(&child(node, Kind::RuleName)?)),
        Kind::Accept => Statement::Accept {
            finding: word(node, 1)?,
            of: node.children().filter(|n| n.kind() == Kind::RuleName).map(|n| spelled(&n)).collect(),
            because: unquoted(&words_token(node)?),
        },
        Kind::Claim => claim(node)?,
        Kind::Language => Statement::Language {
            name: word(node, 1)?,
            right_to_left: own_words(node).any(|w| w.text() == "left"),
            words: match block_of(node) {
                Some(block) => Some(block.children().map(|e| translation(&e)).collect::<Option<_>>()?),
                None => None,
            },
        },
        Kind::Expect => Statement::Expect {
            on: unquoted(&words_token(node)?),
            within: node.children().find(|n| n.kind() != Kind::Block).as_ref().and_then(expression),
            of: block_of(node)?.children().map(|e| expected(&e)).collect::<Option<_>>()?,
        },
        Kind::Repeat => repeat(node)?,
        _ => of_view(node)?,
    })
}

/// A statement about one view: a setting, how its children are arranged, or a rule.
fn of_view(node: &Node) -> Option<Statement> {
    Some(match node.kind() {
        Kind::Setting => setting(node)?,
        Kind::Arrange if word(node, 0)? == "column" => Statement::Column(arranged(node)?),
        Kind::Grid => grid(node)?,
        Kind::Cells => Statement::Cells(first(node)?),
        Kind::Arrange => Statement::Row(arranged(node)?),
        Kind::Share => Statement::Share {
            weight: parts(node)?.into_iter().next()?,
            at_least: bounded(node, "least"),
            at_most: bounded(node, "most"),
        },
        Kind::Space => {
            let value = first(node);
            let (length, share) = if word(node, 1).is_some() { (None, value) } else { (value, None) };
            Statement::Space { length, share }
        }
        Kind::Guide => match word(node, 0)?.as_str() {
            "columns" => Statement::Columns(divided(node)?),
            "rows" => Statement::Rows(divided(node)?),
            "padding" => Statement::Padding(first(node)?),
            _ => Statement::Mark {
                axis: Axis::find(&word(node, 1)?)?,
                at: parts(node)?.into_iter().next(),
                strength: strength(node),
            },
        },
        Kind::Scroll => Statement::Scroll(Scroll::find(&word(node, 1)?)?),
        Kind::Overhang => Statement::Overhang(Overhang::find(&word(node, 1)?)?),
        Kind::Stick => Statement::Stick(sides(node)?),
        Kind::Apart => Statement::Apart {},
        Kind::Control => Statement::Control { at_least: first(node) },
        Kind::Spare => Statement::Spare { cut: cut(node) },
        Kind::Sit => Statement::Sit(Align::find(&word(node, 1)?)?),
        _ => rule(node)?,
    })
}

/// A view, text, image or guide with its block.
fn view_item(node: &Node) -> Option<Statement> {
    let index = child(node, Kind::Index).map_or_else(String::new, |index| spelled(&index));
    let (name, block) = (word(node, 1)? + &index, block(node)?);
    Some(match (word(node, 0)?.as_str(), words_token(node)) {
        ("text", Some(words)) => Statement::Text { name, words: TextContent::Said(unquoted(&words)), block },
        ("text", None) => {
            Statement::Text { name, words: TextContent::Given { given: word(node, 2)? }, block }
        }
        ("image", _) => Statement::Image { name, block },
        ("guide", _) => Statement::Guide { name, block },
        _ => Statement::View { name, block },
    })
}

fn claim(node: &Node) -> Option<Statement> {
    let mut paths = paths(node).into_iter();
    let is = match own_words(node).nth(1)?.text() {
        "inside" => ClaimForm::Inside,
        "clear" => ClaimForm::ClearOf,
        "whole" => ClaimForm::Whole,
        _ => ClaimForm::Same,
    };
    let over = node.children().find(|n| n.kind() == Kind::Test);
    Some(Statement::Claim {
        of: paths.next()?,
        is,
        to: paths.next(),
        by: behind_word(node, "by").as_ref().and_then(expression),
        over: over.as_ref().and_then(test),
    })
}

fn repeat(node: &Node) -> Option<Statement> {
    let count = node.children().find(|n| !matches!(n.kind(), Kind::Bound | Kind::Block | Kind::Clause));
    Some(Statement::Repeat {
        name: word(node, 1)?,
        count: count.as_ref().and_then(expression),
        at_least: bounded(node, "least"),
        at_most: bounded(node, "most"),
        cut: cut(node),
        block: block(node)?,
    })
}

fn translation(entry: &Node) -> Option<Translation> {
    Some(Translation { text: path(entry)?, words: unquoted(&words_token(entry)?) })
}

fn expected(entry: &Node) -> Option<ExpectedForm> {
    let is = entry.children().nth(1).map(|value| expression(&value).ok_or(())).transpose().ok()?;
    Some(ExpectedForm { of: spelled(&child(entry, Kind::Path)?), is })
}

fn arguments(node: &Node) -> Option<Vec<Argument>> {
    let arguments = node.children().filter(|n| n.kind() == Kind::Argument);
    let argument = |a: Node| {
        let words = words_token(&a).map(|words| unquoted(&words));
        Some(Argument { name: word(&a, 0)?, words, value: first(&a) })
    };
    arguments.map(argument).collect()
}

fn sides(node: &Node) -> Option<Vec<PinnedSide>> {
    let sides = node.children().filter(|n| n.kind() == Kind::PinSide);
    sides.map(|s| Some(PinnedSide { side: word(&s, 0)?, by: first(&s) })).collect()
}

/// How much is to be seen of what is cut.
fn cut(node: &Node) -> Option<Expression> {
    first(&child(node, Kind::Clause)?)
}

/// The limit of a share.
fn bounded(node: &Node, end: &str) -> Option<Expression> {
    let mut bounds = node.children().filter(|n| n.kind() == Kind::Bound);
    bounds.find(|b| word(b, 1).as_deref() == Some(end)).and_then(|b| self::first(&b))
}

fn grid(node: &Node) -> Option<Statement> {
    let (mut columns, mut rows, mut gap, mut padding, mut align) = (None, None, None, None, None);
    for clause in node.children().filter(|n| n.kind() == Kind::Clause) {
        match word(&clause, 0)?.as_str() {
            "columns" => {
                let bound = child(&clause, Kind::Bound);
                let length = |word_: &str| {
                    bound.as_ref().filter(|b| word(b, 0).as_deref() == Some(word_)).and_then(first)
                };
                columns = Some(GridColumns {
                    count: parts(&clause)?.into_iter().next(),
                    of: length("of"),
                    at_least: length("at"),
                    snug: own_words(&clause).any(|w| w.text() == "snug"),
                });
            }
            "rows" => rows = first(&clause),
            "gap" => gap = first(&clause),
            "padding" => padding = first(&clause),
            _ => align = Some(Align::find(&word(&clause, 1)?)?),
        }
    }
    Some(Statement::Grid { columns: columns?, rows, gap, padding, align })
}

fn divided(node: &Node) -> Option<Divided> {
    let mut divided = Divided { count: parts(node)?.into_iter().next(), ..Divided::default() };
    for clause in node.children().filter(|n| n.kind() == Kind::Clause) {
        let value = first(&clause);
        match word(&clause, 0)?.as_str() {
            "of" => divided.of = value,
            "margin" => divided.margin = value,
            "gutter" => divided.gutter = value,
            "offset" => divided.offset = value,
            _ => divided.lean = value,
        }
    }
    Some(divided)
}

fn arranged(node: &Node) -> Option<Arranged> {
    let mut arranged = Arranged::default();
    for clause in node.children().filter(|n| n.kind() == Kind::Clause) {
        let value = first(&clause);
        match word(&clause, 0)?.as_str() {
            "gap" => arranged.gap = value,
            "padding" => arranged.padding = value,
            "spread" => arranged.spread = Some(Spread::find(&word(&clause, 1)?)?),
            "align" => arranged.align = Some(Align::find(&word(&clause, 1)?)?),
            _ => (arranged.wrap, arranged.wrap_by) = (true, value),
        }
    }
    Some(arranged)
}

fn setting(node: &Node) -> Option<Statement> {
    let strength = || strength(node).unwrap_or_default();
    Some(match word(node, 0)?.as_str() {
        "whole" => Statement::Whole(strength()),
        "snug" => Statement::Snug(strength()),
        "font" => Statement::Font(first(node)?),
        "line" => Statement::Line(first(node)?),
        "lines" => Statement::Lines(first(node)?),
        "natural" => Statement::Natural(first(node)?),
        "origin" => Statement::Origin(first(node)?),
        "rotate" => Statement::Rotate(first(node)?),
        "depth" => Statement::Depth(first(node)?),
        _ => Statement::Scale(first(node)?),
    })
}

fn strength(node: &Node) -> Option<Strength> {
    let strength = child(node, Kind::Strength)?;
    let level = word(&strength, 0).filter(|w| w != "weight");
    Some(Strength { level, weight: first(&strength) })
}

fn comparison(node: &Node) -> Option<Comparison> {
    node.children_with_tokens().filter_map(|t| t.into_token()).find_map(|t| Comparison::find(t.text()))
}

fn bounds(node: &Node) -> Option<Vec<Bound>> {
    let bounds = node.children().filter(|n| n.kind() == Kind::Bound);
    bounds
        .map(|b| Some(Bound { at: End::find(&word(&b, 1)?)?, value: first(&b)?, strength: strength(&b) }))
        .collect()
}

fn rule(node: &Node) -> Option<Statement> {
    let label = child(node, Kind::Label).and_then(|l| word(&l, 0));
    if block_of(node).is_some() {
        return Some(Statement::Together { label, rules: block(node)? });
    }
    let inner = node.children().find(|n| crate::syntax::ast::is_form(n.kind()));
    let body = inner.as_ref().unwrap_or(node);
    let strength = strength(body);
    let mut all = parts(body)?.into_iter();
    let mut part = || all.next();
    Some(match body.kind() {
        Kind::Pin => {
            Statement::Pin { label, sides: sides(body)?, to: path(body)?, strength, bounds: bounds(body)? }
        }
        Kind::Ratio => {
            let (a, b) = (part()?.path()?, part()?.path()?);
            Statement::Ratio { label, a, b, m: part()?, n: part()?, strength }
        }
        Kind::Gap => {
            let (side, of) = (GapSide::find(&word(body, 0)?)?, part()?.path()?);
            Statement::Gap { label, side, of, by: part(), strength, bounds: bounds(body)? }
        }
        Kind::Between => {
            let bound = |first: &str| {
                let mut bounds = body.children().filter(|n| n.kind() == Kind::Bound);
                bounds.find(|b| word(b, 0).as_deref() == Some(first)).and_then(|b| self::first(&b))
            };
            let (lean, at_most) = (bound("lean"), bound("at"));
            Statement::Between { label, from: part()?, to: part()?, lean, at_most, strength }
        }
        Kind::Fit => fitted(body, label, strength)?,
        Kind::Span => {
            let (from, to, of) = (part()?, part()?, part()?.path()?);
            let axis = Axis::find(&word(body, 1)?)?;
            Statement::Span { label, axis, from, to, of, inset: all.collect(), strength }
        }
        Kind::Spread => {
            let of = behind_word(body, "in").map(|path| spelled(&path));
            let mut views = paths(body);
            views.truncate(views.len() - usize::from(of.is_some()));
            let how = own_words(body).last().and_then(|w| Spread::find(w.text()));
            Statement::Spread { label, axis: Axis::find(&word(body, 1)?)?, views, of, how, strength }
        }
        Kind::Enclose => {
            let by_node = behind_word(body, "by");
            let is_view = |n: &Node| n.kind() == Kind::Path && Some(n) != by_node.as_ref();
            let views = body.children().filter(is_view).map(|n| spelled(&n)).collect();
            let by = by_node.as_ref().and_then(expression);
            Statement::Enclose { label, views, by, strength }
        }
        Kind::Drawn => {
            let (at, size, of, whole) = (part()?, part()?, part()?.path()?, part()?);
            let grow = child(body, Kind::Bound).map(|b| own_words(&b).map(|w| w.text().to_owned()).collect());
            let axis = Axis::find(&word(body, 1)?)?;
            Statement::Drawn { label, axis, at, size, of, whole, grow: grow.unwrap_or_default(), strength }
        }
        _ => {
            let (left, is, right) = (part()?, comparison(body)?, part()?);
            Statement::Rule { label, left, is, right, strength, bounds: bounds(body)? }
        }
    })
}

fn fitted(body: &Node, label: Option<String>, strength: Option<Strength>) -> Option<Statement> {
    // What is before the box is the ratio, what is behind it the lean.
    let path = behind_word(body, "in")?;
    let before = |n: &Node| n.text_range().end() <= path.text_range().start();
    let all = body.children().filter(|n| *n != path && n.kind() != Kind::Strength);
    let (ratio, lean): (Vec<Node>, Vec<Node>) = all.partition(before);
    let ratio = match ratio.as_slice() {
        [m, n] => Some([expression(m)?, expression(n)?]),
        _ => None,
    };
    let (of, lean) = (spelled(&path), lean.first().and_then(expression));
    let fitted = Fitted { label, ratio, of, lean, strength };
    Some(match word(body, 0)?.as_str() {
        "cover" => Statement::Cover(fitted),
        _ => Statement::Contain(fitted),
    })
}

impl Expression {
    fn path(self) -> Option<String> {
        match self {
            Expression::Path(path) => Some(path),
            _ => None,
        }
    }
}

fn number(node: &Node) -> Option<f64> {
    let tokens = node.children_with_tokens().filter_map(|t| t.into_token());
    tokens.filter(|t| t.kind() == Kind::Number).find_map(|t| t.text().parse().ok())
}

fn expression(node: &Node) -> Option<Expression> {
    let made = match node.kind() {
        Kind::Path => return Some(Expression::Path(spelled(node))),
        Kind::Literal if own_words(node).next().is_none() => return Some(Expression::Number(number(node)?)),
        Kind::Literal => Operation::Degrees(number(node)?),
        Kind::Percentage => match first(node) {
            Some(of) => Operation::Share { percent: number(node)?, of },
            None => Operation::Percent(number(node)?),
        },
        Kind::Negative => match first(node)? {
            Expression::Number(number) if number >= 0.0 => return Some(Expression::Number(-number)),
            inner => Operation::Minus(inner),
        },
        Kind::Group => Operation::Group(parts(node)?),
        Kind::Call => {
            let group = child(node, Kind::Group)?;
            Operation::Call { of: path(node)?, with: parts(&group)? }
        }
        Kind::Binary => {
            let tokens = node.children_with_tokens().filter_map(|t| t.into_token());
            let operators = tokens.filter_map(|t| Operator::find(t.text()));
            let mut parts = parts(node)?.into_iter();
            Operation::Chain { first: parts.next()?, then: operators.zip(parts).collect() }
        }
        _ => return None,
    };
    Some(Expression::Operation(Box::new(made)))
}

fn test(node: &Node) -> Option<Test> {
    let all = || node.children().map(|c| test(&c)).collect::<Option<Vec<_>>>();
    let one = || Some(Box::new(test(&node.children().next()?)?));
    Some(match node.kind() {
        Kind::TestNot => Test::Not(one()?),
        Kind::TestGroup => Test::Group(one()?),
        Kind::TestBoth => Test::All(all()?),
        Kind::TestEither => Test::Any(all()?),
        _ => {
            let of = spelled(&child(node, Kind::Path)?);
            let mut numbers = parts(node)?.into_iter().skip(1);
            match (comparison(node), numbers.next(), numbers.next()) {
                (Some(is), Some(number), _) => Test::Compare { of, is, number },
                (None, Some(from), Some(to)) => Test::Within { of, from, to },
                _ => Test::Word(of),
            }
        }
    })
}
