//! A form written as text; the canonical layout is the formatter's.

use crate::json::types::{
    Argument, Arranged, Bound, ClaimForm, Divided, ExpectedForm, Expression, Fitted, Form, FormError,
    Operation, Operator, Scaling, Statement, Strength, Test, TextContent, Translation,
};
use vantic_core::model::{is_name, quoted};

type Written<T = String> = Result<T, FormError>;

pub(crate) fn text(form: &Form) -> Written {
    let from = form.from.as_ref().map_or_else(String::new, |from| format!(" from {}", quoted(from)));
    Ok(format!("screen {}{from} {}\n", name(&form.screen)?, block(&form.statements, true)?))
}

/// A word that is one; anything else could say more than it seems to.
fn name(name: &str) -> Written {
    if is_name(name) || name.strip_prefix('_').is_some_and(|n| n.is_empty() || is_name(n)) {
        return Ok(name.to_owned());
    }
    Err(FormError::Name(name.chars().take(60).collect()))
}

/// A name that may be one of several: `slot[3]`.
fn indexed_name(name: &str) -> Written {
    if name.contains('.') { Err(FormError::Name(name.chars().take(60).collect())) } else { path(name) }
}

fn path(path: &str) -> Written {
    let wrong = || FormError::Name(path.chars().take(60).collect());
    let mut rest = path;
    loop {
        // A name, then `[3]` or `[2..5]` if it is one of several.
        let end = rest.find(['.', '[']).unwrap_or(rest.len());
        name(&rest[..end]).map_err(|_| wrong())?;
        rest = &rest[end..];
        if let Some(index) = rest.strip_prefix('[') {
            let (index, behind) = index.split_once(']').ok_or_else(wrong)?;
            let (first, last) = index.split_once("..").unwrap_or((index, index));
            let is_number = |n: &str| !n.is_empty() && n.bytes().all(|b| b.is_ascii_digit());
            if !is_number(first) || !is_number(last) {
                return Err(wrong());
            }
            rest = behind;
        }
        match rest.strip_prefix('.') {
            Some(next) => rest = next,
            None if rest.is_empty() => return Ok(path.to_owned()),
            None => return Err(wrong()),
        }
    }
}

/// `board.tall`, `board#2` or `board@wide#1`.
fn rule_name(rule: &str) -> Written {
    let (view, number) = rule.split_once('#').map_or((rule, None), |(v, n)| (v, Some(n)));
    let (view, band) = view.split_once('@').map_or((view, None), |(v, b)| (v, Some(b)));
    path(view)?;
    band.map(path).transpose()?;
    let digits = |n: &str| !n.is_empty() && n.bytes().all(|b| b.is_ascii_digit());
    if number.is_none_or(digits) {
        Ok(rule.to_owned())
    } else {
        Err(FormError::Name(rule.chars().take(60).collect()))
    }
}

fn listed<T>(all: &[T], one: impl Fn(&T) -> Written, between: &str) -> Written {
    Ok(all.iter().map(one).collect::<Written<Vec<_>>>()?.join(between))
}

/// Statements between braces: short ones without blocks of their own on one line.
fn block(statements: &[Statement], tall: bool) -> Written {
    let lines: Vec<String> = statements.iter().map(statement).collect::<Written<_>>()?;
    let short = lines.iter().map(String::len).sum::<usize>() + 3 * lines.len() < 70;
    if lines.is_empty() {
        return Ok("{}".into());
    }
    if short && !tall && !lines.iter().any(|l| l.contains(['{', '\n'])) {
        return Ok(format!("{{ {} }}", lines.join("; ")));
    }
    let mut text = String::from("{\n");
    for (index, line) in lines.iter().enumerate() {
        // What takes several lines stands apart.
        let apart = index > 0 && (line.contains('\n') || lines[index - 1].contains('\n'));
        text += if apart { "\n" } else { "" };
        text += line;
        text += "\n";
    }
    Ok(text + "}")
}

/// The lines of a table between braces, one below the other.
fn table<T>(all: &[T], one: impl Fn(&T) -> Written) -> Written {
    Ok(format!(" {{\n{}\n}}", listed(all, one, "\n")?))
}

/// What holds other statements is written here, all else by itself: nesting takes little stack so.
fn statement(statement: &Statement) -> Written {
    let (head, inner) = match statement {
        Statement::View { name: view, block } => (format!("view {}", indexed_name(view)?), block),
        Statement::Repeat { name: view, count, at_least, at_most, cut, block } => {
            let mut text = format!("repeat {}", name(view)?);
            let bounds = [("", count), (" at least", at_least), (" at most", at_most), (" cut", cut)];
            let said = bounds.into_iter().filter_map(|(word, value)| Some((word, value.as_ref()?)));
            let said = said.map(|(word, value)| Ok(format!("{word} {}", expression(value)?)));
            text += &said.collect::<Written<Vec<_>>>()?.join(",");
            (text, block)
        }
        Statement::Text { name: view, words, block } => {
            let words = match words {
                TextContent::Said(words) => quoted(words),
                TextContent::Given { given } => name(given)?,
            };
            (format!("text {} {words}", indexed_name(view)?), block)
        }
        Statement::Image { name: view, block } => (format!("image {}", indexed_name(view)?), block),
        Statement::Guide { name: guide, block } => (format!("guide {}", name(guide)?), block),
        Statement::Part { name: part, takes, block } => {
            (format!("part {}{}", name(part)?, arguments(takes)?), block)
        }
        Statement::In { view, block } => (format!("in {}", path(view)?), block),
        Statement::Each { views, block } => (format!("each {}", listed(views, |v| path(v), ", ")?), block),
        Statement::When { band, block } => (format!("when {}", path(band)?), block),
        Statement::Together { label: Some(label), rules } => (format!("{}:", name(label)?), rules),
        Statement::Together { label: None, rules } => return block(rules, false),
        leaf => return leaf_statement(leaf),
    };
    Ok(format!("{head} {}", block(inner, false)?))
}

/// A statement that holds no others.
fn leaf_statement(statement: &Statement) -> Written {
    match statement {
        Statement::Ladder(levels) => Ok(format!("ladder {}", listed(levels, |l| name(l), " > ")?)),
        Statement::Band { name: band, when } => Ok(format!("band {}: {}", name(band)?, test(when)?)),
        Statement::Param { name: named, value, from, to } => {
            let (from, to) = (expression(from)?, expression(to)?);
            Ok(format!("param {} = {} in {from}..{to}", name(named)?, expression(value)?))
        }
        Statement::Let { name: named, value } => Ok(format!("let {} = {}", name(named)?, expression(value)?)),
        Statement::Design { size, or, scaling, by } => design(size, or.as_ref(), *scaling, by.as_ref()),
        Statement::Adopt(bands) => Ok(format!("adopt {}", listed(bands, |b| path(b), ", ")?)),
        Statement::Words(words) => Ok(format!("words {}", quoted(words))),
        Statement::State { name: state, of } => {
            Ok(format!("state {}: {}", name(state)?, listed(of, |shown| name(shown), ", ")?))
        }
        Statement::Hide { view, keep_space, show } => {
            let keep = if *keep_space { ", keep space" } else { "" };
            let show = show.as_ref().map(|show| Ok(format!(", show {}", path(show)?))).transpose()?;
            Ok(format!("hide {}{keep}{}", path(view)?, show.unwrap_or_default()))
        }
        Statement::Show(view) => Ok(format!("show {}", path(view)?)),
        Statement::OnlyIn(bands) => Ok(format!("only in {}", listed(bands, |b| path(b), ", ")?)),
        Statement::Drop(rule) => Ok(format!("drop {}", rule_name(rule)?)),
        Statement::Accept { finding, of, because } => Ok(format!(
            "accept {}: {} {}",
            name(finding)?,
            listed(of, |r| rule_name(r), ", ")?,
            quoted(because)
        )),
        Statement::Claim { of, is, to, by, over } => {
            claim(of, *is, to.as_deref(), by.as_ref(), over.as_ref())
        }
        Statement::Language { name: language, right_to_left, words } => {
            let side = if *right_to_left { ", right to left" } else { "" };
            let entry = |t: &Translation| Ok(format!("{} {}", path(&t.text)?, quoted(&t.words)));
            let words = words.as_ref().map(|all| table(all, entry)).transpose()?.unwrap_or_default();
            Ok(format!("language {}{side}{words}", name(language)?))
        }
        Statement::Expect { on, within, of } => {
            let within = within.as_ref().map(|w| Ok(format!(", within {}", expression(w)?))).transpose()?;
            Ok(format!("expect on {}{}{}", quoted(on), within.unwrap_or_default(), table(of, expected)?))
        }
        Statement::Drawing { on, of } => Ok(format!("drawing {}{}", quoted(on), table(of, expected)?)),
        _ => setting(statement),
    }
}

fn expected(of: &ExpectedForm) -> Written {
    match &of.is {
        Some(is) => Ok(format!("{} = {}", path(&of.of)?, expression(is)?)),
        None => Ok(format!("{} hidden", path(&of.of)?)),
    }
}

/// What is behind a word: `word expression`.
fn after_word(word: &str, value: &Expression) -> Written {
    Ok(format!("{word} {}", expression(value)?))
}

/// What may be behind a word, after a blank.
fn after_blank(word: &str, value: Option<&Expression>) -> Written {
    value.map_or(Ok(String::new()), |value| Ok(format!(" {word}{}", expression(value)?)))
}

fn design(
    size: &Expression,
    or: Option<&Expression>,
    scaling: Option<Scaling>,
    by: Option<&Expression>,
) -> Written {
    let how = scaling.map_or_else(String::new, |scaling| format!(", {}", scaling.spelled()));
    let (size, or, by) = (expression(size)?, after_blank("or ", or)?, after_blank("", by)?);
    Ok(format!("design {size}{or}{how}{by}"))
}

fn claim(of: &str, is: ClaimForm, to: Option<&str>, by: Option<&Expression>, over: Option<&Test>) -> Written {
    let what = match (is, to.map(path).transpose()?) {
        (ClaimForm::Inside, Some(to)) => format!("inside {to}"),
        (ClaimForm::ClearOf, Some(to)) => format!("clear of {to}"),
        (ClaimForm::Whole, None) => "whole".to_owned(),
        (ClaimForm::Same, None) => "same".to_owned(),
        (_, to) => return Err(FormError::Name(to.unwrap_or_else(|| of.to_owned()))),
    };
    let over = over.map_or(Ok(String::new()), |over| Ok(format!(" for {}", test(over)?)))?;
    Ok(format!("claim {} {what}{}{over}", path(of)?, after_blank("by ", by)?))
}

/// A statement about one view: a setting, or how its children are arranged.
fn setting(statement: &Statement) -> Written {
    match statement {
        Statement::Font(value) => after_word("font", value),
        Statement::Line(value) => after_word("line", value),
        Statement::Lines(value) => after_word("lines", value),
        Statement::Style(style) => Ok(format!("style {}", name(style)?)),
        Statement::Natural(value) => after_word("natural", value),
        Statement::Origin(value) => after_word("origin", value),
        Statement::Rotate(value) => after_word("rotate", value),
        Statement::Scale(value) => after_word("scale", value),
        Statement::Depth(value) => after_word("depth", value),
        Statement::Whole(strength) => Ok(format!("whole{}", strong(&Some(strength.clone()))?)),
        Statement::Snug(strength) => Ok(format!("snug{}", strong(&Some(strength.clone()))?)),
        Statement::Row(arranged) => arrangement("row", arranged),
        Statement::Column(arranged) => arrangement("column", arranged),
        Statement::Columns(divided) => division("columns", divided),
        Statement::Rows(divided) => division("rows", divided),
        Statement::Padding(value) => after_word("padding", value),
        Statement::Mark { axis, at, strength } => {
            let at = at.as_ref().map(|at| Ok(format!(" {}", expression(at)?))).transpose()?;
            Ok(format!("line {}{}{}", axis.spelled(), at.unwrap_or_default(), strong(strength)?))
        }
        Statement::Cells(value) => after_word("cells", value),
        Statement::Share { weight, at_least, at_most } => {
            Ok(after_word("share", weight)? + &clauses(&[("at least", at_least), ("at most", at_most)])?)
        }
        Statement::Space { length: Some(length), .. } => after_word("space", length),
        Statement::Space { share: Some(share), .. } => after_word("space share", share),
        Statement::Space { .. } => Ok("space".into()),
        Statement::Scroll(scroll) => Ok(format!("scroll {}", scroll.spelled())),
        Statement::Overhang(overhang) => Ok(format!("overhang {}", overhang.spelled())),
        Statement::Stick(sides) => Ok(format!("stick {}", listed(sides, side, ", ")?)),
        Statement::Use { part, with } => Ok(format!("use {}{}", name(part)?, arguments(with)?)),
        Statement::Apart {} => Ok("apart".into()),
        Statement::Floats {} => Ok("floats".into()),
        Statement::Input {} => Ok("input".into()),
        Statement::Control { at_least: Some(least) } => after_word("control", least),
        Statement::Control { at_least: None } => Ok("control".into()),
        Statement::Spare { cut: Some(cut) } => after_word("spare cut", cut),
        Statement::Spare { cut: None } => Ok("spare".into()),
        Statement::Sit(align) => Ok(format!("sit {}", align.spelled())),
        Statement::Grid { columns, rows, gap, padding, align } => {
            let mut text = "grid columns".to_owned();
            for (word, value) in
                [("", &columns.count), (" of", &columns.of), (" at least", &columns.at_least)]
            {
                if let Some(value) = value {
                    text += &format!("{word} {}", expression(value)?);
                }
            }
            text += if columns.snug { " snug" } else { "" };
            text += &clauses(&[("rows of", rows), ("gap", gap), ("padding", padding)])?;
            text += &align.map_or_else(String::new, |align| format!(", align {}", align.spelled()));
            Ok(text)
        }
        _ => rule(statement),
    }
}

/// A rule, with its label.
fn rule(statement: &Statement) -> Written {
    let (label, rule) = match statement {
        Statement::Rule { label, left, is, right, strength, bounds } => {
            let relation = format!("{} {} {}", expression(left)?, is.spelled(), expression(right)?);
            (label, relation + &strong(strength)? + &bounded(bounds)?)
        }
        Statement::Pin { label, sides, to, strength, bounds } => {
            let pin = format!("pin {} to {}", listed(sides, side, ", ")?, path(to)?);
            (label, pin + &strong(strength)? + &bounded(bounds)?)
        }
        Statement::Ratio { label, a, b, m, n, strength } => {
            let of = format!("{} : {}", path(a)?, path(b)?);
            (label, format!("ratio {of} = {} : {}{}", expression(m)?, expression(n)?, strong(strength)?))
        }
        Statement::Gap { label, side, of, by, strength, bounds } => {
            let by = after_blank("by ", by.as_ref())?;
            let gap = format!("{} {}{}", side.spelled(), path(of)?, by);
            (label, gap + &strong(strength)? + &bounded(bounds)?)
        }
        Statement::Between { label, from, to, lean, at_most, strength } => {
            let mut between = format!("between {} and {}", expression(from)?, expression(to)?);
            between += &clauses(&[("lean", lean), ("at most", at_most)])?;
            (label, between + &strong(strength)?)
        }
        Statement::Contain(fitted) => (&fitted.label, fit("contain", fitted)?),
        Statement::Cover(fitted) => (&fitted.label, fit("cover", fitted)?),
        Statement::Span { label, axis, from, to, of, inset, strength } => {
            let mut span = format!("span {} {}..{}", axis.spelled(), expression(from)?, expression(to)?);
            span += &format!(" in {}", path(of)?);
            if !inset.is_empty() {
                span += &format!(", inset {}", listed(inset, expression, ", ")?);
            }
            (label, span + &strong(strength)?)
        }
        Statement::Spread { label, axis, views, of, how, strength } => {
            let mut spread = format!("spread {} {}", axis.spelled(), listed(views, |v| path(v), ", ")?);
            if let Some(of) = of {
                spread += &format!(" in {}", path(of)?);
            }
            spread += &how.map_or_else(String::new, |how| format!(", {}", how.spelled()));
            (label, spread + &strong(strength)?)
        }
        Statement::Enclose { label, views, by, strength } => {
            let by = after_blank("by ", by.as_ref())?;
            let views = listed(views, |v| path(v), ", ")?;
            (label, format!("enclose {views}{}{}", by, strong(strength)?))
        }
        Statement::Drawn { label, axis, at, size, of, whole, grow, strength } => {
            let mut drawn = format!("drawn {} {}, {}", axis.spelled(), expression(at)?, expression(size)?);
            drawn += &format!(" in {} of {}", path(of)?, expression(whole)?);
            if !grow.is_empty() {
                drawn += &format!(", grow {}", listed(grow, |g| name(g), ", ")?);
            }
            (label, drawn + &strong(strength)?)
        }
        _ => unreachable!("every other statement is written above"),
    };
    label.as_ref().map_or(Ok(String::new()), |label| Ok(name(label)? + ": ")).map(|label| label + &rule)
}

/// What a part takes or is given, in brackets.
fn arguments(all: &[Argument]) -> Written {
    let argument = |a: &Argument| {
        let named = name(&a.name)?;
        Ok(match (&a.words, &a.value) {
            (Some(words), _) => format!("{named} = {}", quoted(words)),
            (None, Some(value)) => format!("{named} = {}", expression(value)?),
            (None, None) => named,
        })
    };
    if all.is_empty() { Ok(String::new()) } else { Ok(format!("({})", listed(all, argument, ", ")?)) }
}

/// A side and its distance inwards.
fn side(side: &crate::json::types::PinnedSide) -> Written {
    match &side.by {
        Some(by) => Ok(format!("{} {}", name(&side.side)?, expression(by)?)),
        None => name(&side.side),
    }
}

fn arrangement(word: &str, arranged: &Arranged) -> Written {
    let mut clauses = Vec::new();
    for (word, value) in [("gap", &arranged.gap), ("padding", &arranged.padding)] {
        if let Some(value) = value {
            clauses.push(format!("{word} {}", expression(value)?));
        }
    }
    clauses.extend(arranged.spread.map(|spread| format!("spread {}", spread.spelled())));
    clauses.extend(arranged.align.map(|align| format!("align {}", align.spelled())));
    match &arranged.wrap_by {
        Some(by) => clauses.push(format!("wrap by {}", expression(by)?)),
        None if arranged.wrap => clauses.push("wrap".into()),
        None => {}
    }
    Ok(format!("{word} {}", clauses.join(", ")).trim_end().to_owned())
}

fn division(word: &str, divided: &Divided) -> Written {
    let mut text = word.to_owned();
    for (word, value) in [("", &divided.count), (" of", &divided.of)] {
        if let Some(value) = value {
            text += &format!("{word} {}", expression(value)?);
        }
    }
    let behind = [
        ("margin", &divided.margin),
        ("gutter", &divided.gutter),
        ("offset", &divided.offset),
        ("lean", &divided.lean),
    ];
    Ok(text + &clauses(&behind)?)
}

/// the clauses behind commas, each with its word: `, margin 40, gutter 16`.
fn clauses(all: &[(&str, &Option<Expression>)]) -> Written {
    let said: Vec<(&str, &Expression)> =
        all.iter().filter_map(|(word, value)| Some((*word, value.as_ref()?))).collect();
    listed(&said, |(word, value)| Ok(format!(", {word} {}", expression(value)?)), "")
}

fn fit(word: &str, fitted: &Fitted) -> Written {
    let ratio = match &fitted.ratio {
        Some([m, n]) => format!("{} : {} ", expression(m)?, expression(n)?),
        None => String::new(),
    };
    let lean = fitted.lean.as_ref().map(|l| Ok(format!(", lean {}", expression(l)?))).transpose()?;
    Ok(format!(
        "{word} {ratio}in {}{}{}",
        path(&fitted.of)?,
        lean.unwrap_or_default(),
        strong(&fitted.strength)?
    ))
}

fn strong(strength: &Option<Strength>) -> Written {
    let Some(strength) = strength else { return Ok(String::new()) };
    let mut text = String::new();
    if let Some(level) = &strength.level {
        text += &format!(" ~ {}", name(level)?);
    }
    if let Some(weight) = &strength.weight {
        text += &format!(" weight {}", expression(weight)?);
    }
    Ok(text)
}

fn bounded(bounds: &[Bound]) -> Written {
    listed(
        bounds,
        |b| Ok(format!(", at {} {}{}", b.at.spelled(), expression(&b.value)?, strong(&b.strength)?)),
        "",
    )
}

fn number(number: f64) -> Written {
    if number.abs() <= vantic_core::limits::MAX_NUMBER {
        Ok(number.to_string())
    } else {
        Err(FormError::Number(number))
    }
}

fn expression(value: &Expression) -> Written {
    let made = match value {
        Expression::Number(value) => return number(*value),
        Expression::Path(value) => return path(value),
        Expression::Operation(made) => made,
    };
    match &**made {
        Operation::Percent(percent) => Ok(format!("{}%", number(*percent)?)),
        Operation::Share { percent, of } => {
            Ok(format!("{}% of {}", number(*percent)?, operand(of, Binds::Most)?))
        }
        Operation::Degrees(degrees) => Ok(format!("{}deg", number(*degrees)?)),
        Operation::Minus(inner) => Ok(format!("-{}", operand(inner, Binds::Most)?)),
        Operation::Chain { first, then } => {
            let products = then.iter().any(|(operator, _)| !operator.adds());
            let binds = if products { Binds::Most } else { Binds::Times };
            let part = |(operator, part): &(Operator, Expression)| {
                Ok(format!(" {} {}", operator.spelled(), operand(part, binds)?))
            };
            Ok(operand(first, binds)? + &listed(then, part, "")?)
        }
        Operation::Group(parts) => Ok(format!("({})", listed(parts, expression, ", ")?)),
        Operation::Call { of, with } => Ok(format!("{}({})", path(of)?, listed(with, expression, ", ")?)),
    }
}

/// How strongly a place binds what stands in it.
#[derive(Clone, Copy, PartialEq)]
enum Binds {
    /// Products need no brackets there.
    Times,
    /// Nothing with an operator may stand there.
    Most,
}

/// A part of an expression, in brackets where it would be torn apart without them.
fn operand(value: &Expression, binds: Binds) -> Written {
    let text = expression(value)?;
    let torn = match value {
        Expression::Operation(made) => match &**made {
            Operation::Chain { then, .. } => {
                binds == Binds::Most || then.iter().any(|(operator, _)| operator.adds())
            }
            _ => false,
        },
        _ => false,
    };
    Ok(if torn { format!("({text})") } else { text })
}

/// A part of a condition, in brackets where it would be torn apart without them.
fn part_of_test(value: &Test) -> Written {
    let text = test(value)?;
    Ok(if matches!(value, Test::All(_) | Test::Any(_)) { format!("({text})") } else { text })
}

fn test(value: &Test) -> Written {
    match value {
        Test::Word(word) => path(word),
        Test::Compare { of, is, number } => {
            Ok(format!("{} {} {}", path(of)?, is.spelled(), expression(number)?))
        }
        Test::Within { of, from, to } => {
            Ok(format!("{} {}..{}", path(of)?, expression(from)?, expression(to)?))
        }
        Test::Not(inner) => Ok(format!("not {}", part_of_test(inner)?)),
        Test::All(parts) => listed(parts, part_of_test, " and "),
        // What is joined by `and` stands in `or` without brackets.
        Test::Any(parts) => {
            listed(parts, |p| if matches!(p, Test::All(_)) { test(p) } else { part_of_test(p) }, " or ")
        }
        Test::Group(inner) => Ok(format!("({})", test(inner)?)),
    }
}
