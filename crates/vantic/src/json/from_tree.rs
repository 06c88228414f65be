//! From the tree of a text to its form. The tree is without errors; what is not there is `None`.

use crate::json::types::{
    Align, Argument, Arranged, Axis, Bound, ClaimForm, Comparison, Divided, End, ExpectedForm, Expression,
    Fitted, Form, GapSide, GridColumns, Operation, Operator, Overhang, PinnedSide, Scaling, Scroll,
    Spelled as _, Spread, Statement, Strength, Test, TextContent, Translation,
};
use crate::syntax::ast::arranging::{Guide, Repeat, Setting, Share, Space, clauses, cut};
use crate::syntax::ast::expressions;
use crate::syntax::ast::nodes::{
    block_of, child, first_word, is_rule, paths, says, spelled, unquoted, value, words_token,
};
use crate::syntax::ast::rules::{Body, BoundKind, Rule, bound, bounds, sides};
use crate::syntax::ast::statements::{
    Accept, Band, Claim, Design, Drawing, Expect, Expected, Hide, Language, Let, State, ViewItem, arguments,
    levels, range_of,
};
use crate::syntax::ast::{arranging, rules, statements};
use crate::syntax::lexer::Kind;
use crate::syntax::tree::{Node, Token};

pub(crate) fn form(item: &Node) -> Option<Form> {
    let from = words_token(item).as_ref().map(unquoted);
    Some(Form { screen: word(item, 1)?, from, statements: block(&block_of(item)?)? })
}

fn text(token: &Token) -> String {
    token.text().to_owned()
}

fn word(node: &Node, skip: usize) -> Option<String> {
    first_word(node, skip).as_ref().map(text)
}

fn block(block: &Node) -> Option<Vec<Statement>> {
    block.children().map(|s| statement(&s)).collect()
}

fn all_paths(node: &Node) -> Vec<String> {
    paths(node).map(|p| spelled(&p)).collect()
}

fn path(node: &Node) -> Option<String> {
    paths(node).last().map(|p| spelled(&p))
}

/// Of a part that there may be or not; one that is there has an expression.
fn maybe(node: Option<&Node>) -> Option<Option<Expression>> {
    node.map(expression).map_or(Some(None), |made| made.map(Some))
}

fn statement(node: &Node) -> Option<Statement> {
    let own_block = || block(&block_of(node)?);
    Some(match node.kind() {
        Kind::Ladder => Statement::Ladder(levels(node).map(|w| text(&w)).collect()),
        Kind::Design => {
            let design = Design::of(node)?;
            Statement::Design {
                size: expression(&design.size)?,
                or: maybe(design.turned.as_ref())?,
                scaling: design.scaling.and_then(|word| Scaling::find(word.text())),
                by: maybe(design.share.as_ref())?,
            }
        }
        Kind::Adopt => Statement::Adopt(all_paths(node)),
        Kind::Reworded => Statement::Words(unquoted(&words_token(node)?)),
        Kind::State => {
            let State { name, alternatives } = State::of(node)?;
            Statement::State { name: text(&name), of: alternatives.iter().map(text).collect() }
        }
        Kind::BandItem => {
            let Band { name, test } = Band::of(node)?;
            Statement::Band { name: text(&name), when: self::test(&test)? }
        }
        Kind::Let => {
            let Let { name, value } = Let::of(node)?;
            Statement::Let { name: text(&name), value: expression(&value?)? }
        }
        Kind::Param => {
            let (Let { name, value }, (from, to)) = (Let::of(node)?, range_of(node)?);
            let (from, to) = (expression(&from)?, expression(&to)?);
            Statement::Param { name: text(&name), value: expression(&value?)?, from, to }
        }
        Kind::ViewItem => view_item(&ViewItem::of(node)?)?,
        Kind::Part => Statement::Part { name: word(node, 1)?, takes: given(node)?, block: own_block()? },
        Kind::Use => Statement::Use { part: word(node, 1)?, with: given(node)? },
        Kind::In if says(node, "each") => Statement::Each { views: all_paths(node), block: own_block()? },
        Kind::In => Statement::In { view: path(node)?, block: own_block()? },
        Kind::When => Statement::When { band: path(node)?, block: own_block()? },
        Kind::Hide => {
            let Hide { view, keeps_space, show } = Hide::of(node)?;
            let show = show.as_ref().map(spelled);
            Statement::Hide { view: spelled(&view), keep_space: keeps_space, show }
        }
        Kind::Show => Statement::Show(path(node)?),
        Kind::Only => Statement::OnlyIn(all_paths(node)),
        Kind::Drop => Statement::Drop(spelled(&child(node, Kind::RuleName)?)),
        Kind::Accept => {
            let Accept { code, of, reason } = Accept::of(node)?;
            let of = of.iter().map(spelled).collect();
            Statement::Accept { finding: text(&code), of, because: unquoted(&reason) }
        }
        Kind::Claim => claim(&Claim::of(node)?)?,
        Kind::Language => {
            let Language { name, right_to_left, block } = Language::of(node)?;
            let words = block.map(|block| block.children().map(|e| translation(&e)).collect());
            let words = words.map_or(Some(None), |words: Option<Vec<_>>| words.map(Some))?;
            Statement::Language { name: text(&name), right_to_left, words }
        }
        Kind::Expect => {
            let Expect { on, within, block } = Expect::of(node)?;
            let of = block.children().map(|e| expected(&e)).collect::<Option<_>>()?;
            Statement::Expect { on: unquoted(&on), within: maybe(within.as_ref())?, of }
        }
        Kind::Drawing => {
            let Drawing { on, block } = Drawing::of(node)?;
            let of = block.children().map(|e| expected(&e)).collect::<Option<_>>()?;
            Statement::Drawing { on: unquoted(&on), of }
        }
        Kind::Repeat => repeat(&Repeat::of(node)?)?,
        kind if is_rule(kind) => rule(node)?,
        _ => of_view(node)?,
    })
}

/// A statement about one view that is no rule: a setting, or how its children are arranged.
fn of_view(node: &Node) -> Option<Statement> {
    let second = || first_word(node, 1);
    Some(match node.kind() {
        Kind::Setting => setting(&Setting::of(node)?)?,
        Kind::Arrange if says(node, "column") => Statement::Column(arranged(node)?),
        Kind::Arrange => Statement::Row(arranged(node)?),
        Kind::Grid => grid(node)?,
        Kind::Cells => Statement::Cells(expression(&value(node)?)?),
        Kind::Share => {
            let Share { weight, at_least, at_most } = Share::of(node)?;
            let [at_least, at_most] = [maybe(at_least.as_ref())?, maybe(at_most.as_ref())?];
            Statement::Share { weight: expression(&weight)?, at_least, at_most }
        }
        Kind::Space => {
            let Space { is_share, value } = Space::of(node);
            let value = maybe(value.as_ref())?;
            let (length, share) = if is_share { (None, value) } else { (value, None) };
            Statement::Space { length, share }
        }
        Kind::Guide => match Guide::of(node)? {
            Guide::Padding(padding) => Statement::Padding(expression(&padding)?),
            Guide::Mark { axis, at, strength } => Statement::Mark {
                axis: axis.into(),
                at: maybe(at.as_ref())?,
                strength: strength.as_ref().and_then(self::strength),
            },
            Guide::Cells { axis, count, clauses } => {
                let divided = divided(count.as_ref(), &clauses)?;
                match axis.into() {
                    Axis::Across => Statement::Columns(divided),
                    Axis::Down => Statement::Rows(divided),
                }
            }
        },
        Kind::Scroll => Statement::Scroll(Scroll::find(second()?.text())?),
        Kind::Overhang => Statement::Overhang(Overhang::find(second()?.text())?),
        Kind::Stick => Statement::Stick(pinned(&sides(node)?)?),
        Kind::Apart => Statement::Apart {},
        Kind::Floats => Statement::Floats {},
        Kind::Input => Statement::Input {},
        Kind::Control => Statement::Control { at_least: maybe(value(node).as_ref())? },
        Kind::Spare => Statement::Spare { cut: maybe(cut(node).as_ref())? },
        Kind::Sit => Statement::Sit(Align::find(second()?.text())?),
        _ => return None,
    })
}

/// A view, text, image or guide with its block.
fn view_item(item: &ViewItem) -> Option<Statement> {
    let (name, block) = (item.full_name(), self::block(item.block.as_ref()?)?);
    Some(match (item.word.text(), &item.words) {
        ("text", Some(words)) => Statement::Text { name, words: TextContent::Said(unquoted(words)), block },
        ("text", None) => {
            let words = TextContent::Given { given: text(item.given.as_ref()?) };
            Statement::Text { name, words, block }
        }
        ("image", _) => Statement::Image { name, block },
        ("guide", _) => Statement::Guide { name, block },
        _ => Statement::View { name, block },
    })
}

fn claim(claim: &Claim) -> Option<Statement> {
    let is = match claim.word.text() {
        "inside" => ClaimForm::Inside,
        "clear" => ClaimForm::ClearOf,
        "whole" => ClaimForm::Whole,
        _ => ClaimForm::Same,
    };
    Some(Statement::Claim {
        of: spelled(&claim.of),
        is,
        to: claim.to.as_ref().map(spelled),
        by: maybe(claim.by.as_ref())?,
        over: claim.over.as_ref().and_then(test),
    })
}

fn repeat(repeat: &Repeat) -> Option<Statement> {
    let bounded = |kind| maybe(bound(&repeat.bounds, kind).as_ref());
    Some(Statement::Repeat {
        name: text(&repeat.name),
        count: maybe(repeat.count.as_ref())?,
        at_least: bounded(BoundKind::AtLeast)?,
        at_most: bounded(BoundKind::AtMost)?,
        cut: maybe(repeat.cut.as_ref())?,
        block: block(&repeat.block)?,
    })
}

fn translation(entry: &Node) -> Option<Translation> {
    let statements::Translation { of, words } = statements::Translation::of(entry)?;
    Some(Translation { text: spelled(&of), words: unquoted(&words) })
}

fn expected(entry: &Node) -> Option<ExpectedForm> {
    let Expected { of, is } = Expected::of(entry)?;
    Some(ExpectedForm { of: spelled(&of), is: maybe(is.as_ref())? })
}

fn given(node: &Node) -> Option<Vec<Argument>> {
    let argument = |a: statements::Argument| {
        let words = a.words.as_ref().map(unquoted);
        Some(Argument { name: text(&a.name), words, value: maybe(a.value.as_ref())? })
    };
    arguments(node)?.into_iter().map(argument).collect()
}

fn pinned(sides: &[rules::PinSide]) -> Option<Vec<PinnedSide>> {
    let side = |s: &rules::PinSide| Some(PinnedSide { side: text(&s.word), by: maybe(s.by.as_ref())? });
    sides.iter().map(side).collect()
}

fn grid(node: &Node) -> Option<Statement> {
    let (mut columns, mut rows, mut gap, mut padding, mut align) = (None, None, None, None, None);
    for clause in clauses(node)? {
        let value = maybe(clause.value.as_ref())?;
        match clause.word.text() {
            "columns" => {
                let arranging::GridColumns { count, of, at_least, snug } =
                    arranging::GridColumns::of(&clause.node);
                let [count, of, at_least] = [count, of, at_least].map(|n| maybe(n.as_ref()));
                columns = Some(GridColumns { count: count?, of: of?, at_least: at_least?, snug });
            }
            "rows" => rows = value,
            "gap" => gap = value,
            "padding" => padding = value,
            _ => align = Some(Align::find(clause.choice?.text())?),
        }
    }
    Some(Statement::Grid { columns: columns?, rows, gap, padding, align })
}

fn divided(count: Option<&Node>, clauses: &[arranging::Clause]) -> Option<Divided> {
    let mut divided = Divided { count: maybe(count)?, ..Divided::default() };
    for clause in clauses {
        let value = maybe(clause.value.as_ref())?;
        match clause.word.text() {
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
    for clause in clauses(node)? {
        let (value, choice) = (maybe(clause.value.as_ref())?, clause.choice.as_ref());
        match clause.word.text() {
            "gap" => arranged.gap = value,
            "padding" => arranged.padding = value,
            "spread" => arranged.spread = Some(Spread::find(choice?.text())?),
            "align" => arranged.align = Some(Align::find(choice?.text())?),
            _ => (arranged.wrap, arranged.wrap_by) = (true, value),
        }
    }
    Some(arranged)
}

fn setting(setting: &Setting) -> Option<Statement> {
    let strength = || setting.strength.as_ref().and_then(self::strength).unwrap_or_default();
    let value = || expression(setting.value.as_ref()?);
    Some(match setting.word.text() {
        "whole" => Statement::Whole(strength()),
        "snug" => Statement::Snug(strength()),
        "font" => Statement::Font(value()?),
        "line" => Statement::Line(value()?),
        "lines" => Statement::Lines(value()?),
        "style" => Statement::Style(setting.value.as_ref()?.text().to_string().trim().to_owned()),
        "natural" => Statement::Natural(value()?),
        "origin" => Statement::Origin(value()?),
        "rotate" => Statement::Rotate(value()?),
        "depth" => Statement::Depth(value()?),
        _ => Statement::Scale(value()?),
    })
}

/// Of its own node.
fn strength(node: &Node) -> Option<Strength> {
    let strength = rules::Strength::of(node)?;
    Some(Strength { level: strength.level().map(text), weight: maybe(strength.weight.as_ref())? })
}

fn limits(node: &Node) -> Option<Vec<Bound>> {
    let limit = |b: &rules::Bound| {
        let at = if b.kind == BoundKind::AtLeast { End::Least } else { End::Most };
        let strength = b.strength.as_ref().and_then(strength);
        Some(Bound { at, value: expression(&b.value)?, strength })
    };
    bounds(node)?.iter().map(limit).collect()
}

fn rule(node: &Node) -> Option<Statement> {
    let Rule { label, together, body: node } = Rule::of(node);
    let label = label.as_ref().map(text);
    if let Some(together) = together {
        return Some(Statement::Together { label, rules: block(&together)? });
    }
    let strength = child(&node, Kind::Strength).as_ref().and_then(strength);
    Some(match Body::of(&node)? {
        Body::Relation { left, sign, right } => Statement::Rule {
            label,
            left: expression(&left)?,
            is: Comparison::find(sign.text())?,
            right: expression(&right)?,
            strength,
            bounds: limits(&node)?,
        },
        Body::Pin { sides, to } => {
            let (sides, to, bounds) = (pinned(&sides)?, spelled(&to), limits(&node)?);
            Statement::Pin { label, sides, to, strength, bounds }
        }
        Body::Gap { word, of, by } => Statement::Gap {
            label,
            side: GapSide::find(word.text())?,
            of: spelled(&of),
            by: maybe(by.as_ref())?,
            strength,
            bounds: limits(&node)?,
        },
        Body::Ratio { of: [a, b], proportion: [m, n] } => {
            let (m, n) = (expression(&m)?, expression(&n)?);
            Statement::Ratio { label, a: spelled(&a), b: spelled(&b), m, n, strength }
        }
        Body::Between { from, to, lean, at_most } => {
            let (from, to) = (expression(&from)?, expression(&to)?);
            let (lean, at_most) = (maybe(lean.as_ref())?, maybe(at_most.as_ref())?);
            Statement::Between { label, from, to, lean, at_most, strength }
        }
        Body::Fit { covers, proportion, within, lean } => {
            let ratio = match proportion {
                Some([m, n]) => Some([expression(&m)?, expression(&n)?]),
                None => None,
            };
            let lean = maybe(lean.as_ref())?;
            let fitted = Fitted { label, ratio, of: spelled(&within), lean, strength };
            if covers { Statement::Cover(fitted) } else { Statement::Contain(fitted) }
        }
        Body::Span { axis, from, to, within, insets } => {
            let inset = insets.iter().map(expression).collect::<Option<_>>()?;
            let (from, to, of) = (expression(&from)?, expression(&to)?, spelled(&within));
            Statement::Span { label, axis: axis.into(), from, to, of, inset, strength }
        }
        Body::Spread { axis, views, within, how } => {
            let (views, of) = (views.iter().map(spelled).collect(), within.as_ref().map(spelled));
            let how = how.and_then(|word| Spread::find(word.text()));
            Statement::Spread { label, axis: axis.into(), views, of, how, strength }
        }
        Body::Enclose { views, by } => {
            let views = views.iter().map(spelled).collect();
            Statement::Enclose { label, views, by: maybe(by.as_ref())?, strength }
        }
        Body::Drawn { axis, at, size, within, whole, grow } => Statement::Drawn {
            label,
            axis: axis.into(),
            at: expression(&at)?,
            size: expression(&size)?,
            of: spelled(&within),
            whole: expression(&whole)?,
            grow: grow.iter().map(text).collect(),
            strength,
        },
    })
}

fn expression(node: &Node) -> Option<Expression> {
    let number = |token: &Token| token.text().parse::<f64>().ok();
    let all = |nodes: &[Node]| nodes.iter().map(expression).collect::<Option<Vec<_>>>();
    let made = match expressions::Expression::of(node)? {
        expressions::Expression::Path => return Some(Expression::Path(spelled(node))),
        expressions::Expression::Literal { number: token, degrees: false } => {
            return Some(Expression::Number(number(&token)?));
        }
        expressions::Expression::Literal { number: token, .. } => Operation::Degrees(number(&token)?),
        expressions::Expression::Percentage { number: token, of: Some(of) } => {
            Operation::Share { percent: number(&token)?, of: expression(&of)? }
        }
        expressions::Expression::Percentage { number: token, of: None } => {
            Operation::Percent(number(&token)?)
        }
        expressions::Expression::Negative(inner) => match expression(&inner)? {
            Expression::Number(number) if number >= 0.0 => return Some(Expression::Number(-number)),
            inner => Operation::Minus(inner),
        },
        expressions::Expression::Group(parts) => Operation::Group(all(&parts)?),
        expressions::Expression::Call { of, with } => Operation::Call { of: spelled(&of), with: all(&with)? },
        expressions::Expression::Chain { first, then } => {
            let further =
                |(sign, value): &(Token, Node)| Some((Operator::find(sign.text())?, expression(value)?));
            let then = then.iter().map(further).collect::<Option<_>>()?;
            Operation::Chain { first: expression(&first)?, then }
        }
    };
    Some(Expression::Operation(Box::new(made)))
}

fn test(node: &Node) -> Option<Test> {
    let all = |nodes: &[Node]| nodes.iter().map(test).collect::<Option<Vec<_>>>();
    let one = |node: &Node| Some(Box::new(test(node)?));
    Some(match expressions::Test::of(node)? {
        expressions::Test::Not(inner) => Test::Not(one(&inner)?),
        expressions::Test::Group(inner) => Test::Group(one(&inner)?),
        expressions::Test::All(parts) => Test::All(all(&parts)?),
        expressions::Test::Any(parts) => Test::Any(all(&parts)?),
        expressions::Test::Of { path, order, numbers } => {
            let of = spelled(&path);
            match (order, numbers.as_slice()) {
                (Some(order), [number]) => {
                    let is = Comparison::find(order.text())?;
                    Test::Compare { of, is, number: expression(number)? }
                }
                (None, [from, to]) => Test::Within { of, from: expression(from)?, to: expression(to)? },
                _ => Test::Word(of),
            }
        }
    })
}
