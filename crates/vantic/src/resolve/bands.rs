//! Bands: when they hold, and what they change.

use crate::resolve::reader::Reader;
use crate::resolve::scope::{Done, LetState, Reported};
use crate::screen_ext::ScreenExt as _;
use crate::syntax::ast::expressions::Test;
use crate::syntax::ast::nodes::{
    block_of, child, is_arranging, is_lost, is_rule, node_span, paths, span, tokens, words_of,
};
use crate::syntax::ast::statements::{Band, Hide, Let, State};
use crate::syntax::error::SourceError;
use crate::syntax::lexer::Kind;
use crate::syntax::tree::{Node, Token};
use vantic_core::model::{BandId, Change, Condition, Order, Property, Setting, TestedParameter, ViewId};
use vantic_core::words::nearest;

fn order_of(token: &Token) -> Order {
    match token.kind() {
        Kind::Below => Order::Below,
        Kind::AtMost => Order::AtMost,
        Kind::AtLeast => Order::AtLeast,
        _ => Order::Above,
    }
}

impl Reader {
    pub(crate) fn band(&mut self, node: &Node) -> Done {
        let Band { name, test } = Band::of(node).ok_or(Reported)?;
        let condition = self.condition(&test)?;
        let result = self.builder.add_band(name.text(), condition);
        let band = self.built(result, span(name.text_range()))?;
        self.scopes[self.scope].bands.insert(name.text().to_owned(), band);
        self.map.bands.insert(band, node_span(node));
        Ok(())
    }

    /// `state menu: closed, open`: each alternative is a band.
    pub(crate) fn state(&mut self, node: &Node) -> Done {
        let State { name, alternatives } = State::of(node).ok_or(Reported)?;
        let name = name.text();
        let alternatives: Vec<&str> = alternatives.iter().map(|w| w.text()).collect();
        let added = self.builder.add_state(name, &alternatives);
        let first = self.built(added, node_span(node))?;
        let bands: Vec<BandId> = self.builder.screen().bands_with_ids().map(|(id, _)| id).collect();
        for (shown, band) in std::iter::zip(&alternatives, bands.into_iter().skip(first.index())) {
            self.scopes[self.scope].bands.insert(format!("{name}.{shown}"), band);
            self.map.bands.insert(band, node_span(node));
        }
        Ok(())
    }

    /// `only in narrow, medium`, in the block of a view.
    pub(crate) fn only_in(&mut self, node: &Node, owner: Option<ViewId>) -> Done {
        let bands: Vec<BandId> = paths(node).map(|path| self.band_of(&path)).collect::<Done<_>>()?;
        let Some(view) = owner else {
            let help = "write it in the block of the view that is there only then";
            return Err(self.error_with_help(node_span(node), "the screen itself is there everywhere", help));
        };
        if !self.builder.screen().at(view).only_in().is_empty() {
            let help = "name all bands in one line: `only in narrow, medium`";
            return Err(self.error_with_help(node_span(node), "`only in` is given twice", help));
        }
        self.map.hides.push((self.builder.screen().path(view), node_span(node)));
        let set = self.builder.add_setting(None, view, Setting::OnlyIn(bands));
        self.built(set, node_span(node))
    }

    /// The band that a name stands for.
    pub(crate) fn band_of(&mut self, path: &Node) -> Done<BandId> {
        let name = words_of(path).join(".");
        if let Some(band) = self.band_named(&name) {
            self.adopts(path, &name, band)?;
            return Ok(band);
        }
        let known = [self.scope, 0].into_iter().flat_map(|scope| self.scopes[scope].bands.keys());
        let help = match nearest(&name, known.map(String::as_str)) {
            Some(near) => format!("did you mean `{near}`?"),
            None => match name.split_once('.') {
                Some((state, shown)) => format!("declare it first: `state {state}: {shown}, ...`"),
                None => format!("declare it first: `band {name}: screen.width >= 600`"),
            },
        };
        Err(self.error_with_help(node_span(path), format!("there is no band `{name}`"), help))
    }

    pub(crate) fn condition(&mut self, node: &Node) -> Done<Condition> {
        match Test::of(node).ok_or(Reported)? {
            Test::Not(inner) => Ok(Condition::Not(Box::new(self.condition(&inner)?))),
            Test::Group(inner) => self.condition(&inner),
            Test::All(parts) => Ok(Condition::All(self.conditions(&parts)?)),
            Test::Any(parts) => Ok(Condition::Any(self.conditions(&parts)?)),
            Test::Of { path, order, numbers } => self.test(node, &path, order.as_ref(), &numbers),
        }
    }

    fn conditions(&mut self, parts: &[Node]) -> Done<Vec<Condition>> {
        parts.iter().map(|part| self.condition(part)).collect()
    }

    fn test(&mut self, node: &Node, path: &Node, order: Option<&Token>, numbers: &[Node]) -> Done<Condition> {
        let spelled = words_of(path).join(".");
        let property = Property::SPELLINGS.iter().find(|p| p.0 == spelled).map(|p| p.1);
        let word = Condition::WORDS.iter().find(|w| w.0 == spelled).map(|w| w.1.clone());
        let bands = self.builder.screen().bands();
        let state = || bands.iter().find(|b| b.name() == spelled).map(|b| b.condition().clone());
        let word = word.or_else(|| state().filter(|c| matches!(c, Condition::State { .. })));
        let parameter = self.builder.screen().parameter(&spelled).and_then(|value| {
            Some(TestedParameter { name: spelled.clone(), usual: value.number(), range: value.range()? })
        });
        if let (None, None, Some(of), Some(_)) = (property, &word, &parameter, numbers.first()) {
            let of = of.clone();
            return match numbers {
                [number] => {
                    let order = order_of(order.ok_or(Reported)?);
                    Ok(Condition::Parameter(of, order, self.number(number, None)?))
                }
                [from, to] => {
                    let (low, high) = self.range(node, from, to)?;
                    Ok(Condition::ParameterWithin(of, low, high))
                }
                _ => Err(Reported),
            };
        }
        let is_known = property.is_some() || word.is_none() && parameter.is_some();
        match (property, word, numbers) {
            (None, Some(word), []) => Ok(word),
            (Some(property), _, [number]) => {
                let order = order_of(order.ok_or(Reported)?);
                Ok(Condition::Compare(property, order, self.number(number, None)?))
            }
            (Some(property), _, [from, to]) => {
                let (low, high) = self.range(node, from, to)?;
                Ok(Condition::Within(property, low, high))
            }
            (_, _, []) if is_known => {
                let message = format!("expected a comparison after `{spelled}`");
                Err(self.error_with_help(
                    node_span(node),
                    message,
                    format!("write `{spelled} >= 600` or `{spelled} 400..600`"),
                ))
            }
            _ => {
                let words = Property::SPELLINGS.iter().map(|p| p.0);
                let known: Vec<&str> = words.chain(Condition::WORDS.iter().map(|w| w.0)).collect();
                let states = bands.iter().map(|b| b.name()).filter(|name| name.contains('.'));
                let parameters = self.builder.screen().parameters().map(|value| value.name());
                let known_here = known.iter().copied().chain(states).chain(parameters);
                let help = match nearest(&spelled, known_here) {
                    Some(near) => format!("did you mean `{near}`?"),
                    None => format!("a band can ask for {}, a state or a parameter", known.join(", ")),
                };
                Err(self.error_with_help(
                    node_span(path),
                    format!("a band knows nothing called `{spelled}`"),
                    help,
                ))
            }
        }
    }

    /// The numbers `from..to`, the first below the second; `node` is what says so.
    pub(crate) fn range(&mut self, node: &Node, from: &Node, to: &Node) -> Done<(f64, f64)> {
        let (low, high) = (self.number(from, None)?, self.number(to, None)?);
        if low >= high {
            let message = format!("the range {low}..{high} is empty: it ends before it begins");
            return Err(self.error(node_span(node), message));
        }
        Ok((low, high))
    }

    pub(crate) fn when(&mut self, node: &Node) -> Done {
        let (Some(name), Some(block)) = (child(node, Kind::Path), block_of(node)) else {
            return Err(Reported);
        };
        let band = self.band_of(&name)?;
        self.band_block(&block, band, self.here().root);
        Ok(())
    }

    pub(crate) fn band_block(&mut self, block: &Node, band: BandId, owner: Option<ViewId>) {
        for statement in block.children() {
            let _ = self.band_statement(&statement, band, owner);
        }
    }

    pub(crate) fn band_statement(&mut self, node: &Node, band: BandId, owner: Option<ViewId>) -> Done {
        match node.kind() {
            _ if is_lost(node) => Err(Reported),
            kind if is_rule(kind) => self.rule(node, owner, Some(band)),
            Kind::In => {
                let block = block_of(node).ok_or(Reported)?;
                for view in self.views(node, owner) {
                    self.band_block(&block, band, Some(view));
                }
                Ok(())
            }
            Kind::Hide => {
                let Hide { view: path, keeps_space, show } = Hide::of(node).ok_or(Reported)?;
                let view = self.view(&path, owner)?;
                let instead = show.map(|path| self.view(&path, owner)).transpose()?;
                self.map.hides.push((self.builder.screen().path(view), node_span(node)));
                let at = if instead.is_some() { node_span(node) } else { node_span(&path) };
                let result = self.builder.add_hide(band, view, keeps_space, instead);
                self.built(result, at)
            }
            Kind::Show => {
                let path = child(node, Kind::Path).ok_or(Reported)?;
                let view = self.view(&path, owner)?;
                self.builder.add_change(band, Change::Show(view));
                Ok(())
            }
            Kind::Only => {
                let help = "write `show` or `hide` here, and `only in` in the view's own block";
                Err(self.error_with_help(
                    node_span(node),
                    "`only in` belongs in the view's own block, not in a band",
                    help,
                ))
            }
            Kind::Drop => self.drop_rule(node, band, owner),
            kind if kind == Kind::Setting || is_arranging(kind) => self.setting(node, owner, Some(band)),
            Kind::Let if owner == self.here().root => self.value_in_band(node, band),
            Kind::ViewItem => {
                let message = "a band changes views, it does not declare them";
                let help = "declare the view outside, with `only in` and the bands in its block";
                Err(self.error_with_help(node_span(node).start..node_span(node).start + 4, message, help))
            }
            Kind::Wrong => Ok(()),
            _ => {
                let help = "a band can add, replace and drop rules, hide views, set fonts and the like, and \
                            give numbers other values";
                Err(self.error_with_help(node_span(node), "this does not belong in a band", help))
            }
        }
    }

    /// `let gap = 24` in a band: another value for a number of the screen.
    fn value_in_band(&mut self, node: &Node, band: BandId) -> Done {
        let Let { name, .. } = Let::of(node).ok_or(Reported)?;
        let value = match self.here().lets.get(name.text()).map(|l| &l.state) {
            Some(LetState::Varies(value)) => *value,
            Some(_) => return Err(Reported),
            None => {
                let near = nearest(name.text(), self.here().let_names.iter().map(String::as_str));
                let help = match near {
                    Some(near) => format!("did you mean `{near}`?"),
                    None => format!("give it a value for all displays first: `let {} = 16`", name.text()),
                };
                let message = format!("there is no number `{}` to change", name.text());
                return Err(self.error_with_help(span(name.text_range()), message, help));
            }
        };
        let number = self.let_number(node)?;
        let result = self.builder.set_value(band, value, number);
        self.built(result, node_span(node))
    }

    pub(crate) fn drop_rule(&mut self, node: &Node, band: BandId, owner: Option<ViewId>) -> Done {
        let Some(name) = child(node, Kind::RuleName) else { return Err(Reported) };
        let Some(path) = child(&name, Kind::Path) else { return Err(Reported) };
        let words = words_of(&path);
        let number = tokens(&name).find(|t| t.kind() == Kind::Number);
        let (view_words, label) = match &number {
            Some(_) => (words.as_slice(), None),
            None => (&words[..words.len().saturating_sub(1)], words.last()),
        };
        let of = match view_words {
            [] => owner,
            [screen] if screen == "screen" => None,
            some => Some(self.view_named(some, owner, node_span(&path))?),
        };
        let screen = self.builder.screen();
        let rules = || screen.rules().filter(|(_, r)| r.owner() == of && r.band().is_none());
        let found = match (&number, label) {
            (Some(number), _) => rules().find(|(_, r)| r.number().to_string() == number.text()),
            (None, label) => rules().find(|(_, r)| r.label() == label.map(String::as_str)),
        };
        if let (Some((rule, _)), Some(number)) = (found, &number) {
            let (name, number) = (of.map_or_else(|| "screen".into(), |v| screen.path(v)), number.text());
            let message = format!(
                "only a rule with a label can be dropped: `{name}#{number}` is another one as soon as a line above it \
                 goes"
            );
            let error = SourceError::new(node_span(node), message);
            let error = error.related(self.map.rules[rule.index()].clone(), "this rule is meant");
            self.errors.push(error.help(format!(
                "give that rule a label (`rule{number}: ...`), and write `drop {name}.rule{number}`"
            )));
            return Err(Reported);
        }
        if let Some((rule, _)) = found {
            self.builder.add_change(band, Change::Drop(rule));
            return Ok(());
        }
        let labels: Vec<String> = rules().filter_map(|(_, r)| r.label().map(str::to_owned)).collect();
        let block = of.map_or_else(|| "the screen".to_owned(), |v| format!("`{}`", screen.path(v)));
        let help = match label.and_then(|l| nearest(l, labels.iter().map(String::as_str))) {
            Some(near) => format!("did you mean `{near}`?"),
            None if labels.is_empty() => {
                format!("no rule of {block} has a label; give the rule one: `tall: height = 56`")
            }
            None => format!("the labels of {block} are {}", labels.join(", ")),
        };
        let written = name.text().to_string();
        Err(self.error_with_help(
            node_span(&name),
            format!("there is no rule `{}` to drop", written.trim()),
            help,
        ))
    }
}
