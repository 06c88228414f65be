//! Statements of a file as they are written, and other ways to write them.

use crate::fix::change::Change;
use crate::syntax::ast::nodes::{child, is_rule, node_span, of_kind, says, span};
use crate::syntax::ast::rules::{Body, PinSide, Rule};
use crate::syntax::lexer::Kind;
use crate::syntax::tree::{Node, Token};
use std::ops::Range;
use vantic_core::model::Coordinate;

/// A rule as it is written.
pub(crate) struct Statement<'a> {
    text: &'a str,
    node: Node,
}

/// Another way to write a rule.
#[derive(Clone, Debug)]
pub(crate) struct Rewritten {
    pub(crate) change: Change,
    pub(crate) how: RewriteKind,
}

/// How it differs.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum RewriteKind {
    /// A distance goes the other way.
    Sign,
    /// A share is a number.
    Unit,
    /// A number is a share of something.
    Share,
    /// It is tied to another place, the likelier the nearer.
    Place(u8),
    /// It reads another side.
    Side,
    /// It is on another level, or on none.
    Level,
}

/// What a pin says: its sides with their distances as they are written, the place that it is to, and where
/// the last side ends.
pub(crate) struct Pinned {
    pub(crate) sides: Vec<(String, String)>,
    pub(crate) to: String,
    pub(crate) end: usize,
}

/// A side of a pin with its distance, as it is written.
pub(crate) fn side_written((word, by): &(String, String)) -> String {
    format!("{word} {by}").trim_end().to_owned()
}

/// The sides of a pin but for one, as they are written.
pub(crate) fn sides_but(sides: &[(String, String)], at: usize) -> String {
    let others = sides.iter().enumerate().filter(|(other, _)| *other != at);
    others.map(|(_, side)| side_written(side)).collect::<Vec<_>>().join(", ")
}

impl<'a> Statement<'a> {
    /// The rule that stands at a place.
    pub(crate) fn at(tree: &Node, text: &'a str, span: &Range<usize>) -> Option<Self> {
        let end = span.end.min(text.len());
        let range = rowan::TextRange::new((span.start as u32).into(), (end as u32).into());
        if !tree.text_range().contains_range(range) {
            return None;
        }
        let found = tree.covering_element(range);
        let node = match found {
            rowan::NodeOrToken::Node(node) => node,
            rowan::NodeOrToken::Token(token) => token.parent()?,
        };
        let mut around = node.ancestors().filter(|n| is_rule(n.kind()) && node_span(n) == *span);
        // The outermost: a label stands outside of what it names.
        let first = around.next()?;
        Some(Self { text, node: around.last().unwrap_or(first) })
    }

    pub(crate) fn span(&self) -> Range<usize> {
        node_span(&self.node)
    }

    /// As it is written, the label included.
    pub(crate) fn source(&self) -> &'a str {
        &self.text[self.span()]
    }

    /// As it is written, without its label.
    pub(crate) fn unlabelled(&self) -> &'a str {
        match child(&self.node, Kind::Label) {
            Some(label) => self.text[node_span(&label).end..self.span().end].trim(),
            None => self.source(),
        }
    }

    /// With other words in its place, its label kept.
    pub(crate) fn replaced(&self, text: &str) -> Change {
        let end = self.span().end;
        Change::new(end - self.unlabelled().len()..end, text)
    }

    /// The words that say what it is about: `start`, `pin left`, `below`.
    pub(crate) fn subject(&self) -> &'a str {
        let body = self.unlabelled();
        let end = body.find(['=', '<', '>']).unwrap_or_else(|| {
            let words = body.match_indices(' ').nth(if body.starts_with("below ") { 0 } else { 1 });
            words.map_or(body.len(), |(at, _)| at)
        });
        body[..end].trim_end_matches([',', ' '])
    }

    fn body(&self) -> Node {
        Rule::of(&self.node).body
    }

    fn is_several(&self) -> bool {
        Rule::of(&self.node).together.is_some()
    }

    /// Taken out, its line with it where it has one of its own.
    pub(crate) fn removed(&self) -> Change {
        removed(self.text, self.span())
    }

    /// The views of the `each` block that it stands in, as they are written.
    pub(crate) fn views_of(&self) -> Option<String> {
        let block = self.node.ancestors().find(|n| n.kind() == Kind::Block)?;
        let each = block.parent().filter(|n| n.kind() == Kind::In && says(n, "each"))?;
        let head = &self.text[node_span(&each).start..node_span(&block).start];
        Some(head.trim_start_matches("each").split_whitespace().collect::<Vec<_>>().join(" "))
    }

    /// Lines put behind it.
    pub(crate) fn followed_by(&self, lines: &[String]) -> Change {
        let (between, _) = joint(self.text, &self.span());
        let end = self.span().end;
        Change::new(end..end, lines.iter().map(|line| format!("{between}{line}")).collect::<String>())
    }

    /// Without one of its relations: one side of a pin, or one of the limits behind it.
    pub(crate) fn without(&self, relation: usize) -> Option<Change> {
        let body = self.body();
        let sides: Vec<Node> = of_kind(&body, Kind::PinSide).collect();
        let bounds: Vec<Node> = of_kind(&body, Kind::Bound).collect();
        if sides.len() > 1 && relation < sides.len() {
            let own = node_span(&sides[relation]);
            return Some(match sides.get(relation + 1) {
                Some(next) => Change::new(own.start..node_span(next).start, ""),
                None => Change::new(node_span(&sides[relation - 1]).end..own.end, ""),
            });
        }
        let main = sides.len().max(1);
        if let Some(bound) = relation.checked_sub(main).and_then(|at| bounds.get(at)) {
            let own = node_span(bound);
            let comma = self.text[..own.start].rfind(',')?;
            return Some(Change::new(comma..own.end, ""));
        }
        (relation == 0 || sides.is_empty()).then(|| self.removed())
    }

    /// On a level.
    pub(crate) fn weakened(&self, relation: usize, level: Option<&str>) -> Option<Change> {
        let body = self.body();
        if self.is_several() {
            return None;
        }
        let sides: Vec<Node> = of_kind(&body, Kind::PinSide).collect();
        if sides.len() > 1 && relation < sides.len() {
            return self.side_alone(&body, &sides, relation, level?);
        }
        let main = sides.len().max(1);
        let bounds: Vec<Node> = of_kind(&body, Kind::Bound).collect();
        let part = match relation.checked_sub(main) {
            Some(at) if !bounds.is_empty() => bounds.get(at)?.clone(),
            _ => body.clone(),
        };
        if let Some(strength) = child(&part, Kind::Strength) {
            let own = node_span(&strength);
            return match level {
                Some(level) => Some(Change::new(own, format!("~ {level}"))),
                None => {
                    let before = self.text[..own.start].trim_end().len();
                    Some(Change::new(before..own.end, ""))
                }
            };
        }
        let parts = part.children().filter(|n| !matches!(n.kind(), Kind::Bound | Kind::Strength));
        let end = parts.last().map_or_else(|| node_span(&part).end, |last| node_span(&last).end);
        Some(Change::new(end..end, format!(" ~ {}", level?)))
    }

    /// One side of a pin as a rule of its own, on a level.
    fn side_alone(&self, body: &Node, sides: &[Node], relation: usize, level: &str) -> Option<Change> {
        let source = |n: &Node| &self.text[node_span(n)];
        let Body::Pin { to, .. } = Body::of(body)? else { return None };
        let others: Vec<&str> =
            sides.iter().enumerate().filter(|(i, _)| *i != relation).map(|(_, n)| source(n)).collect();
        let behind = &self.text[node_span(&to).end..node_span(body).end];
        let (to, own) = (source(&to), source(&sides[relation]));
        let first = format!("pin {} to {to}{behind}", others.join(", "));
        let (between, _) = joint(self.text, &self.span());
        Some(Change::new(node_span(body), format!("{first}{between}pin {own} to {to} ~ {level}")))
    }

    /// With another comparison, where it is a plain equality without limits behind it.
    pub(crate) fn compared(&self, new: &str) -> Option<Change> {
        let body = self.body();
        let plain = body.kind() == Kind::Rule && child(&body, Kind::Bound).is_none() && !self.is_several();
        let sign = sign_of(&body).filter(|sign| plain && sign.kind() == Kind::Equal)?;
        Some(Change::new(span(sign.text_range()), new))
    }

    /// Where this number stands in it, if it does once.
    pub(crate) fn number(&self, number: f64) -> Option<Range<usize>> {
        let literals = self.body().descendants().filter(|n| n.kind() == Kind::Literal);
        let alike = literals
            .map(|n| node_span(&n))
            .filter(|span| self.text[span.clone()].parse::<f64>().is_ok_and(|n| n == number));
        let all: Vec<Range<usize>> = alike.collect();
        match all.as_slice() {
            [one] => Some(one.clone()),
            _ => None,
        }
    }

    /// Whether it is an inequality, and where its sign stands.
    pub(crate) fn inequality(&self) -> Option<Range<usize>> {
        let sign = sign_of(&self.body()).filter(|sign| sign.kind() != Kind::Equal)?;
        Some(span(sign.text_range()))
    }

    /// What a pin says.
    pub(crate) fn pin(&self) -> Option<Pinned> {
        let body = self.body();
        if body.kind() != Kind::Pin || child(&body, Kind::Strength).is_some() {
            return None;
        }
        let Body::Pin { sides, to } = Body::of(&body)? else { return None };
        let end = node_span(&sides.last()?.node).end;
        let by = |side: &PinSide| side.by.as_ref().map_or("", |by| &self.text[node_span(by)]);
        let sides = sides.iter().map(|side| (side.word.text().to_owned(), by(side).to_owned())).collect();
        Some(Pinned { sides, to: self.text[node_span(&to)].to_owned(), end })
    }

    /// Other ways to write it: one token of it changed. `beside` names what it could be tied to instead, the
    /// likelier first; `around` what is around its view; `levels` the levels there are.
    pub(crate) fn rewritten(&self, beside: &[String], around: &str, levels: &[&str]) -> Vec<Rewritten> {
        let mut all = Vec::new();
        if self.is_several() {
            return all;
        }
        let body = self.body();
        let mut put =
            |at: Range<usize>, new: String, how| all.push(Rewritten { change: Change::new(at, new), how });
        // What stands behind the comparison, or behind the first word of a form.
        let own_side =
            body.children().find(|n| !matches!(n.kind(), Kind::Label)).filter(|_| body.kind() == Kind::Rule);
        let own_end = own_side.as_ref().map_or(0, |n| node_span(n).end);
        let sizes = self.sizes(&body, own_side.as_ref(), around);
        for element in body.descendants_with_tokens() {
            let at: Range<usize> = element.text_range().start().into()..element.text_range().end().into();
            match element.kind() {
                Kind::Plus if at.start > own_end => put(at, "-".into(), RewriteKind::Sign),
                Kind::Minus if at.start > own_end => {
                    let negative = element.parent().is_some_and(|p| p.kind() == Kind::Negative);
                    put(at, if negative { String::new() } else { "+".into() }, RewriteKind::Sign);
                }
                Kind::Percentage => {
                    let Some(node) = element.as_node() else { continue };
                    let number = self.text[node_span(node)].split('%').next().unwrap_or_default().to_owned();
                    put(node_span(node), number, RewriteKind::Unit);
                }
                Kind::Literal if at.start > own_end => {
                    let Some(node) = element.as_node() else { continue };
                    let source = &self.text[node_span(node)];
                    let is_share = source.parse::<f64>().is_ok_and(|n| (1.0..=100.0).contains(&n));
                    let of_share = node.ancestors().any(|n| n.kind() == Kind::Percentage);
                    for size in sizes.iter().filter(|_| is_share && !of_share) {
                        put(node_span(node), format!("{source}% of {size}"), RewriteKind::Share);
                    }
                }
                Kind::Path if at.start >= own_end => {
                    let Some(node) = element.as_node() else { continue };
                    let span = node_span(node);
                    let source = &self.text[span.clone()];
                    let known = |word: &str| Coordinate::SPELLINGS.iter().any(|(s, _)| *s == word);
                    let (place, last) = match source.rsplit_once('.') {
                        Some((place, last)) if known(last) => (place, Some(last)),
                        _ if known(source) => ("", Some(source)),
                        _ => (source, None),
                    };
                    for (rank, other) in beside.iter().enumerate() {
                        let own = !place.is_empty() && other != place;
                        // A word alone is a number in a rule, and a view behind the first word of a form.
                        let fits = match body.kind() {
                            Kind::Rule => last.is_some(),
                            // What is pinned to something around it is not pinned to a neighbour.
                            Kind::Pin => {
                                other == around || !["parent", "safe", "screen", "clear"].contains(&place)
                            }
                            kind => last.is_some() || other != "prev" || kind == Kind::Gap,
                        };
                        if own && fits {
                            let new = last.map_or_else(|| other.clone(), |last| format!("{other}.{last}"));
                            put(span.clone(), new, RewriteKind::Place(rank.min(255) as u8));
                        }
                    }
                    if let (Some(last), false) = (last, place.is_empty()) {
                        // A middle is tied to a middle, and an edge to an edge.
                        let is_middle = |word: &str| word.starts_with("center");
                        let own = own_side.as_ref().map_or("", |n| self.text[node_span(n)].trim());
                        let is_size = |word: &str| matches!(word, "width" | "height");
                        // A width is no height.
                        let fits = |other: &&&str| {
                            own.is_empty()
                                || is_middle(own) == is_middle(other) && !(is_size(own) && is_size(other))
                        };
                        for other in others_of(last).iter().filter(fits) {
                            put(span.clone(), format!("{place}.{other}"), RewriteKind::Side);
                        }
                    }
                }
                _ => {}
            }
        }
        for level in levels {
            let new = self.weakened(0, Some(level));
            all.extend(new.map(|change| Rewritten { change, how: RewriteKind::Level }));
        }
        if child(&body, Kind::Strength).is_some() {
            all.extend(self.weakened(0, None).map(|change| Rewritten { change, how: RewriteKind::Level }));
        }
        all.retain(|r| self.text[r.change.span()] != r.change.new);
        all
    }
}

/// The sign of a relation.
fn sign_of(body: &Node) -> Option<Token> {
    match Body::of(body)? {
        Body::Relation { sign, .. } => Some(sign),
        _ => None,
    }
}

impl Statement<'_> {
    /// What a number of it could be a share of: a size of what it reads first, or of what is around its view.
    fn sizes(&self, body: &Node, own_side: Option<&Node>, around: &str) -> Vec<String> {
        let own = own_side.map_or("", |n| &self.text[node_span(n)]);
        let last = own.rsplit('.').next().unwrap_or_default();
        let known = Coordinate::SPELLINGS.iter().find(|(spelling, _)| *spelling == last);
        let dims: &[&str] = match known {
            Some((_, c)) if c.is_horizontal() => &["width"],
            Some(_) => &["height"],
            None => &["width", "height"],
        };
        let own_end = own_side.map_or(0, |n| node_span(n).end);
        let read = body.descendants().find(|n| n.kind() == Kind::Path && node_span(n).start >= own_end);
        let place =
            read.and_then(|n| self.text[node_span(&n)].rsplit_once('.').map(|(place, _)| place.to_owned()));
        let mut places = vec![around.to_owned()];
        places.extend(place.filter(|place| place != around));
        places.iter().flat_map(|place| dims.iter().map(move |dim| format!("{place}.{dim}"))).collect()
    }
}

/// The coordinates that one is easily taken for.
fn others_of(coordinate: &str) -> &'static [&'static str] {
    match coordinate {
        "left" => &["right", "center_x"],
        "right" => &["left", "center_x"],
        "start" => &["end", "center_x"],
        "end" => &["start", "center_x"],
        "top" => &["bottom", "center_y"],
        "bottom" => &["top", "center_y"],
        "width" => &["height"],
        "height" => &["width"],
        "center_x" => &["start", "end"],
        "center_y" => &["top", "bottom", "baseline"],
        "baseline" => &["center_y", "bottom"],
        _ => &[],
    }
}

/// What stands between two statements where one is put behind another, and the blanks before it on its line.
fn joint(text: &str, span: &Range<usize>) -> (String, String) {
    let line = text[..span.start].rfind('\n').map_or(0, |at| at + 1);
    let before = &text[line..span.start];
    if before.trim().is_empty() {
        (format!("\n{before}"), before.to_owned())
    } else {
        ("; ".into(), String::new())
    }
}

/// A statement taken out, with its line where nothing else stands there, and with what separates it from
/// others.
pub(crate) fn removed(text: &str, span: Range<usize>) -> Change {
    let line = text[..span.start].rfind('\n').map_or(0, |at| at + 1);
    let end = text[span.end..].find('\n').map_or(text.len(), |at| span.end + at + 1);
    let (before, behind) = (&text[line..span.start], &text[span.end..end]);
    if before.trim().is_empty() && behind.trim().is_empty() {
        return Change::new(line..end, "");
    }
    if before.trim().is_empty() && behind.trim_start().starts_with("//") {
        let blanks = behind.len() - behind.trim_start().len();
        return Change::new(span.start..span.end + blanks, "");
    }
    if let Some(rest) = behind.trim_start().strip_prefix(';') {
        let next = end - rest.len() + (rest.len() - rest.trim_start_matches([' ', '\t']).len());
        return Change::new(span.start..next, "");
    }
    let trimmed = before.trim_end();
    if trimmed.ends_with(';') {
        return Change::new(line + trimmed.len() - 1..span.end, "");
    }
    Change::new(span, "")
}

/// The statement of the screen around a place: a band, a number, a state.
pub(crate) fn item_at(tree: &Node, place: &Range<usize>) -> Option<Range<usize>> {
    let token = tree.token_at_offset(rowan::TextSize::from(place.start as u32)).right_biased()?;
    let is_item = |n: &Node| matches!(n.kind(), Kind::BandItem | Kind::Let | Kind::Param | Kind::State);
    token.parent_ancestors().find(is_item).map(|n| node_span(&n))
}

/// The declaration of a view, or of what is repeated, by where its name stands, and its block.
pub(crate) fn item_named(tree: &Node, name: &Range<usize>) -> Option<(Node, Node)> {
    let at = rowan::TextSize::from(name.start as u32);
    let token = tree.token_at_offset(at).right_biased()?;
    let item = token.parent_ancestors().find(|n| matches!(n.kind(), Kind::ViewItem | Kind::Repeat))?;
    let block = child(&item, Kind::Block)?;
    Some((item, block))
}

/// Lines put into the block of a view, behind its last rule; the view by where its name stands.
pub(crate) fn added(tree: &Node, text: &str, name: &Range<usize>, lines: &[String]) -> Option<Change> {
    let (item, block) = item_named(tree, name)?;
    Some(put_into(text, &item, &block, lines))
}

/// Lines put into the block of an item, behind its last rule or change.
pub(crate) fn put_into(text: &str, item: &Node, block: &Node, lines: &[String]) -> Change {
    use Kind::{Arrange, Drop, Grid, Hide, In, Setting, Show};
    let own = |n: &Node| {
        is_rule(n.kind()) || matches!(n.kind(), Setting | Arrange | Grid | Drop | Hide | In | Show)
    };
    let span = node_span(block);
    let is_one_line = !text[span.clone()].contains('\n');
    let last = block.children().filter(own).last();
    match last {
        Some(last) => {
            let own = node_span(&last);
            let (between, _) = joint(text, &own);
            let between = if is_one_line { "; ".to_owned() } else { between };
            // Behind a comment on the same line.
            let line_end = text[own.end..].find('\n').map_or(text.len(), |at| own.end + at);
            let comment = text[own.end..line_end].trim_start().starts_with("//") && between.starts_with('\n');
            let end = if comment { line_end } else { own.end };
            let new: String = lines.iter().map(|line| format!("{between}{line}")).collect();
            Change::new(end..end, new)
        }
        None if is_one_line => {
            let at = span.start + 1..span.end - 1;
            match text[at.clone()].trim().is_empty() {
                true => Change::new(at, format!(" {} ", lines.join("; "))),
                false => Change::new(at.start..at.start, format!(" {};", lines.join("; "))),
            }
        }
        None => {
            let line = text[..item.text_range().start().into()].len();
            let start = node_span(item).start.max(line);
            let from = text[..start].rfind('\n').map_or(0, |at| at + 1);
            let indent: String = text[from..].chars().take_while(|c| *c == ' ').collect();
            let new: String = lines.iter().map(|line| format!("\n{indent}    {line}")).collect();
            // Behind a comment on the line of the brace.
            let line_end = text[span.start..].find('\n').map_or(span.start + 1, |at| span.start + at);
            let end = if text[span.start + 1..line_end].trim_start().starts_with("//") {
                line_end
            } else {
                span.start + 1
            };
            Change::new(end..end, new)
        }
    }
}
