//! Parts: pieces of a screen with parameters, placed wherever they are used.
//!
//! Using a part reads its block once more, for another view and with names of its own: a [`Scope`]. Its bands
//! become bands of the screen.

use crate::resolve::reader::Reader;
use crate::resolve::scope::{Done, LetItem, LetState, Part, Reported, Scope, ScopeId};
use crate::syntax::ast::nodes::{block_of, first_word, is_lost, node_span, span, unquoted, words_of};
use crate::syntax::ast::statements::{self as ast, Argument, arguments};
use crate::syntax::error::SourceError;
use crate::syntax::lexer::Kind;
use crate::syntax::tree::Node;
use vantic_core::limits::MAX_NESTING;
use vantic_core::model::{Band, BandId, LevelId, ViewId};
use vantic_core::words::nearest;

impl Reader {
    pub(crate) fn here(&self) -> &Scope {
        &self.scopes[self.scope]
    }

    /// The same with the names of a scope.
    pub(crate) fn in_scope<T>(&mut self, scope: ScopeId, run: impl FnOnce(&mut Self) -> T) -> T {
        let outer = std::mem::replace(&mut self.scope, scope);
        let result = run(self);
        self.scope = outer;
        result
    }

    /// The scope in which a number of this name is found: this one, or the screen's.
    pub(crate) fn scope_of_let(&self, name: &str) -> Option<ScopeId> {
        [self.scope, 0].into_iter().find(|&scope| self.scopes[scope].lets.contains_key(name))
    }

    /// The words that a part was given under a name.
    pub(crate) fn words_named(&self, name: &str) -> Option<&String> {
        self.here().words.get(name)
    }

    /// A level, by the name that the ladder or a part has for it.
    pub(crate) fn level_named(&self, name: &str) -> Option<LevelId> {
        self.here().levels.get(name).copied().or_else(|| self.builder.screen().level(name))
    }

    /// A band, by the name that a part or the screen has for it.
    pub(crate) fn band_named(&self, name: &str) -> Option<BandId> {
        [self.scope, 0].into_iter().find_map(|scope| self.scopes[scope].bands.get(name).copied())
    }

    pub(crate) fn declare_part(&mut self, node: &Node) -> Done {
        let name = first_word(node, 1).ok_or(Reported)?;
        if let Some(first) = self.parts.get(name.text()) {
            let message = format!("there is already a part `{}`", name.text());
            let error = SourceError::new(span(name.text_range()), message);
            let first = node_span(&first_word(&first.node, 1).ok_or(Reported)?.parent().ok_or(Reported)?);
            self.errors
                .push(error.related(first, "the first one is here").help("give one of them another name"));
            return Err(Reported);
        }
        let mut names: Vec<String> = Vec::new();
        for Argument { name: word, .. } in arguments(node).ok_or(Reported)? {
            if names.iter().any(|n| n == word.text()) {
                let message = format!("`{}` is a parameter twice", word.text());
                return Err(self.error_with_help(span(word.text_range()), message, "name it once"));
            }
            names.push(word.text().to_owned());
        }
        self.parts.insert(name.text().to_owned(), Part { node: node.clone(), in_work: false });
        Ok(())
    }

    /// `use tile(words = "Skerry Point", gap = 12)`: reads the block of the part for this view.
    pub(crate) fn use_part(&mut self, node: &Node, owner: Option<ViewId>) -> Done {
        let name = first_word(node, 1).ok_or(Reported)?;
        let at = span(name.text_range());
        let Some(part) = self.parts.get_mut(name.text()) else {
            let near = nearest(name.text(), self.parts.keys().map(String::as_str));
            let help = match near {
                Some(near) => format!("did you mean `{near}`?"),
                None => format!("declare it in the screen: `part {} {{ ... }}`", name.text()),
            };
            return Err(self.error_with_help(at, format!("there is no part `{}`", name.text()), help));
        };
        if part.in_work {
            let message = format!("`{}` is made of itself", name.text());
            return Err(self.error_with_help(at, message, "take one of the two out of the other"));
        }
        self.count_block(node, 1)?;
        if self.parts_around >= MAX_NESTING {
            let message = format!("parts are placed in one another too deep: the limit is {MAX_NESTING}");
            return Err(self.error(at, message));
        }
        let Some(part) = self.parts.get_mut(name.text()) else { return Err(Reported) };
        let part_node = part.node.clone();
        let block = block_of(&part_node).ok_or(Reported)?;
        part.in_work = true;
        let placed = self.scope_for(node, &part_node, owner).map(|scope| {
            self.scopes.push(scope);
            let place = owner.map_or_else(|| "screen".to_owned(), |v| self.builder.screen().path(v));
            self.map.parts.push(crate::finding::PlacedPart { part: name.text().to_owned(), place });
            let new = self.scopes.len() - 1;
            self.parts_around += 1;
            self.in_scope(new, |reader| reader.declare_part_block(&block, name.text(), owner));
            self.parts_around -= 1;
        });
        if let Some(part) = self.parts.get_mut(name.text()) {
            part.in_work = false;
        }
        placed
    }

    /// The numbers and bands of a part, then its views.
    fn declare_part_block(&mut self, block: &Node, part: &str, owner: Option<ViewId>) {
        for statement in block.children().filter(|s| s.kind() == Kind::Let && !is_lost(s)) {
            self.declare_let(&statement);
        }
        self.declare_values(std::slice::from_ref(block), part);
        for statement in block.children().filter(|s| s.kind() == Kind::BandItem && !is_lost(s)) {
            let _ = self.band_of_part(&statement, part);
        }
        self.declare(block, owner);
    }

    /// What a part is given at a place: numbers, words and levels by name.
    fn scope_for(&mut self, node: &Node, part: &Node, owner: Option<ViewId>) -> Done<Scope> {
        let named = |node: &Node| -> Done<Vec<(String, Argument)>> {
            let all = arguments(node).ok_or(Reported)?.into_iter();
            Ok(all.map(|argument| (argument.name.text().to_owned(), argument)).collect())
        };
        let (takes, given) = (named(part)?, named(node)?);
        let part_name = first_word(node, 1).map_or_else(String::new, |w| w.text().to_owned());
        let mut scope = Scope { root: owner, ..Scope::default() };
        let mut wrong = false;
        for (index, (name, argument)) in given.iter().enumerate() {
            if given[..index].iter().any(|(before, _)| before == name) {
                self.error_with_help(
                    node_span(&argument.node),
                    format!("`{name}` is given twice"),
                    "give it once",
                );
                wrong = true;
            } else if !takes.iter().any(|(taken, _)| taken == name) {
                let known: Vec<&str> = takes.iter().map(|(taken, _)| taken.as_str()).collect();
                let help = match nearest(name, known.iter().copied()) {
                    Some(near) => format!("did you mean `{near}`?"),
                    None if known.is_empty() => "it takes nothing".to_owned(),
                    None => format!("it takes {}", known.join(", ")),
                };
                let message = format!("`{part_name}` takes no `{name}`");
                self.error_with_help(node_span(&argument.node), message, help);
                wrong = true;
            }
        }
        for (name, parameter) in &takes {
            let own = given
                .iter()
                .find(|(given, _)| given == name)
                .map(|(_, argument)| (argument, self.scope, owner));
            // What is not given is what the part says itself; there the names are those of the screen.
            let said = own.or_else(|| has_value(parameter).then_some((parameter, 0, None)));
            let Some((value, of, of_owner)) = said else {
                let message = format!("`{part_name}` is not given its `{name}`");
                let help = format!(
                    "write `use {part_name}({name} = ...)`, or `{name} = ...` where the part is declared"
                );
                self.error_with_help(node_span(node), message, help);
                wrong = true;
                continue;
            };
            self.give(&mut scope, name, value, of, of_owner);
        }
        if wrong { Err(Reported) } else { Ok(scope) }
    }

    /// Words, a level or a number under a name.
    fn give(
        &mut self,
        scope: &mut Scope,
        name: &str,
        argument: &Argument,
        of: ScopeId,
        owner: Option<ViewId>,
    ) {
        if let Some(words) = &argument.words {
            scope.words.insert(name.to_owned(), unquoted(words));
            return;
        }
        let path = argument.value.as_ref().filter(|value| value.kind() == Kind::Path);
        let word = path.map(words_of);
        if let Some([word]) = word.as_deref() {
            let known = |reader: &mut Self| {
                let is_number = reader.scope_of_let(word).is_some();
                let words = reader.words_named(word).cloned();
                (words, reader.level_named(word).filter(|_| !is_number))
            };
            match self.in_scope(of, known) {
                (Some(words), _) => {
                    scope.words.insert(name.to_owned(), words);
                    return;
                }
                (None, Some(level)) => {
                    scope.levels.insert(name.to_owned(), level);
                    return;
                }
                (None, None) => {}
            }
        }
        let item = LetItem { node: argument.node.clone(), state: LetState::Waiting, scope: of, owner };
        scope.let_names.push(name.to_owned());
        scope.lets.insert(name.to_owned(), item);
    }

    /// A band of a part: that of the screen with the same condition, or a new one named after the part.
    fn band_of_part(&mut self, node: &Node, part: &str) -> Done {
        let ast::Band { name, test } = ast::Band::of(node).ok_or(Reported)?;
        let condition = self.condition(&test)?;
        let has_it = |(id, band): (BandId, &Band)| (*band.condition() == condition).then_some(id);
        let same = self.builder.screen().bands_with_ids().find_map(has_it);
        let band = match same {
            Some(band) => band,
            None => {
                let named = format!("{part}_{}_{}", name.text(), self.scope);
                let added = self.builder.add_band(&named, condition);
                self.built(added, span(name.text_range()))?
            }
        };
        self.map.bands.entry(band).or_insert_with(|| node_span(node));
        self.scopes[self.scope].bands.insert(name.text().to_owned(), band);
        Ok(())
    }
}

/// Whether a parameter says what it is where it is not given.
fn has_value(parameter: &Argument) -> bool {
    parameter.words.is_some() || parameter.value.is_some()
}
