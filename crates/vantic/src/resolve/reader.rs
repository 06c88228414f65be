//! What reads a tree into a screen: its state, and the walk over blocks and statements.

use crate::resolve::scope::{Done, LetItem, LetState, Part, Reported, Scope, ScopeId};
use crate::resolve::source_map::SourceMap;
use crate::syntax::ast::nodes::{
    block_of, first_word, is_arranging, is_lost, node_span, span, spelled, unquoted, value,
};
use crate::syntax::ast::statements::{Accept, Let, levels, range_of};
use crate::syntax::error::SourceError;
use crate::syntax::lexer::Kind;
use crate::syntax::tree::Node;
use std::collections::{HashMap, HashSet};
use std::ops::Range;
use vantic_core::model::{BuildError, ScreenBuilder, ViewId};
use vantic_core::words::nearest;

pub(crate) struct Reader {
    pub(crate) builder: ScreenBuilder,
    pub(crate) map: SourceMap,
    pub(crate) errors: Vec<SourceError>,
    /// Where a name was not found, by its place in the file: what is written once may be read for thousands of views.
    pub(crate) not_found: HashSet<Range<usize>>,
    pub(crate) scopes: Vec<Scope>,
    /// The scope of what is being read.
    pub(crate) scope: ScopeId,
    pub(crate) parts: HashMap<String, Part>,
    /// How many parts are being placed in one another.
    pub(crate) parts_around: usize,
    pub(crate) let_depth: usize,
    pub(crate) lets_too_long: bool,
    /// Blocks with their scope and the view they belong to, in file order.
    pub(crate) blocks: Vec<(Node, ScopeId, Option<ViewId>)>,
    /// Rules with their scope and the view they belong to, in written order: what stands in a view goes before
    /// what is written behind that view.
    pub(crate) rules: Vec<(Node, ScopeId, Option<ViewId>)>,
    /// What bands change, with its scope.
    pub(crate) whens: Vec<(Node, ScopeId)>,
    pub(crate) accepts: Vec<Node>,
    /// Words in other languages, and what is expected.
    pub(crate) tables: Vec<Node>,
    /// Empty lengths with their scope, the view they stand in, and how many children stand before them.
    pub(crate) spaces: Vec<(Node, ScopeId, ViewId, usize)>,
    /// How many blocks of `in`, `each` and parts there were so far.
    pub(crate) blocks_for_views: usize,
    pub(crate) rules_at_limit: bool,
    /// Where each file ends: the file itself, then its base, and so on.
    pub(crate) ends: Vec<usize>,
    /// The bands of bases that a file adopts, where it says so, by file.
    pub(crate) adopted: Vec<(usize, Node, Vec<String>)>,
    /// What a file says of what its base declares, with its scope and view.
    pub(crate) base_overrides: Vec<(Node, ScopeId, Option<ViewId>)>,
}

/// The most blocks of `in`, `each` and parts; those within `each` are counted for every view, those of parts
/// for every place.
pub(crate) const MAX_BLOCKS: usize = 200_000;

/// Whether a statement is looked at before others of its block: rows, columns and guides.
fn comes_first(kind: Kind) -> bool {
    matches!(kind, Kind::Arrange | Kind::Grid | Kind::Guide)
}

/// Whether a statement stands directly in the block of a part.
fn is_of_part(node: &Node) -> bool {
    let holder = node.parent().and_then(|block| block.parent());
    holder.is_some_and(|holder| holder.kind() == Kind::Part)
}

impl Reader {
    pub(crate) fn screen(&mut self, screens: &[Node]) {
        self.declare_names(screens);
        let statements = || screens.iter().flat_map(Node::children);
        self.declare_values(screens, "");
        for statement in statements().filter(|s| s.kind() == Kind::Design && !is_lost(s)) {
            let _ = self.design(&statement);
        }
        for statement in statements().filter(|s| s.kind() == Kind::State && !is_lost(s)) {
            let _ = self.state(&statement);
        }
        for statement in statements().filter(|s| s.kind() == Kind::BandItem && !is_lost(s)) {
            let _ = self.band(&statement);
        }
        for statement in statements().filter(|s| s.kind() == Kind::Adopt && !is_lost(s)) {
            let _ = self.adopt(&statement);
        }
        for screen in screens {
            self.declare(screen, None);
        }
        let blocks: Vec<(Node, Option<ViewId>)> =
            self.blocks.iter().map(|(block, _, owner)| (block.clone(), *owner)).collect();
        self.blocks();
        // Numbers that nothing uses are checked too.
        for scope in 0..self.scopes.len() {
            self.scope = scope;
            for name in self.here().let_names.clone() {
                let _ = self.let_value(&name);
            }
        }
        self.changes();
        self.scope = 0;
        for table in std::mem::take(&mut self.tables) {
            let _ = self.table(&table);
        }
        self.leftovers(screens, &blocks);
        let accepts = std::mem::take(&mut self.accepts);
        if !accepts.is_empty() && self.errors.is_empty() {
            let rules: std::collections::HashSet<String> =
                self.builder.screen().rules().map(|(id, _)| self.builder.screen().rule_name(id)).collect();
            for accept in accepts {
                let _ = self.accept(&accept, &rules);
            }
        }
    }

    /// The ladder, the numbers and the parts: everything else may use them.
    fn declare_names(&mut self, screens: &[Node]) {
        let mut ladder: Option<Range<usize>> = None;
        for statement in screens.iter().flat_map(Node::children) {
            match statement.kind() {
                Kind::Ladder => match &ladder {
                    None => {
                        ladder = Some(node_span(&statement));
                        let names = levels(&statement).map(|w| w.text().to_owned()).collect();
                        let result = self.builder.set_ladder(names);
                        let _ = self.built(result, node_span(&statement));
                    }
                    Some(first) => {
                        let error = SourceError::new(
                            node_span(&statement),
                            "a screen has one ladder, and this is the second",
                        );
                        let error = error
                            .related(first.clone(), "the first ladder is here")
                            .help("put all levels in one ladder");
                        self.errors.push(error);
                    }
                },
                Kind::Let | Kind::Param => self.declare_let(&statement),
                Kind::Part if !is_lost(&statement) => {
                    let _ = self.declare_part(&statement);
                }
                _ => {}
            }
        }
    }

    /// The statements of all blocks, once every view is declared.
    fn blocks(&mut self) {
        let blocks = std::mem::take(&mut self.blocks);
        // Rows and columns first: other settings of a view may depend on them.
        for (block, scope, owner) in &blocks {
            self.scope = *scope;
            for statement in block.children().filter(|s| comes_first(s.kind()) && !is_lost(s)) {
                if !self.is_over(&statement, *owner) {
                    let _ = self.setting(&statement, *owner, None);
                }
            }
        }
        for (space, scope, view, behind) in std::mem::take(&mut self.spaces) {
            self.scope = scope;
            let _ = self.space(&space, view, behind);
        }
        for (block, scope, owner) in blocks {
            self.scope = scope;
            for statement in block.children() {
                if self.is_over(&statement, owner) {
                    self.base_overrides.push((statement, scope, owner));
                } else if !comes_first(statement.kind()) {
                    let _ = self.own_statement(&statement, owner);
                }
            }
        }
        for (rule, scope, owner) in std::mem::take(&mut self.rules) {
            self.scope = scope;
            if !is_lost(&rule) && !self.is_over(&rule, owner) {
                let _ = self.rule(&rule, owner, None);
            }
        }
    }

    pub(crate) fn error(&mut self, span: Range<usize>, message: impl Into<String>) -> Reported {
        self.errors.push(SourceError::new(span, message));
        Reported
    }

    pub(crate) fn error_with_help(
        &mut self,
        span: Range<usize>,
        message: impl Into<String>,
        help: impl Into<String>,
    ) -> Reported {
        self.errors.push(SourceError::new(span, message).help(help));
        Reported
    }

    pub(crate) fn built<T>(&mut self, result: Result<T, BuildError>, at: Range<usize>) -> Done<T> {
        result.map_err(|error| self.error(at, error.to_string()))
    }

    pub(crate) fn declare_let(&mut self, node: &Node) {
        let Some(Let { name: word, .. }) = Let::of(node) else { return };
        let name = word.text().to_owned();
        if vantic_core::model::reserved_words().any(|w| w == name) {
            let error = BuildError::reserved(&name);
            self.error(span(word.text_range()), error.to_string());
        } else if let Some(first) = self.here().lets.get(&name).filter(|first| {
            // A number of a base may be given another value.
            self.file_of(&first.node) == self.file_of(node) || self.scope != 0
        }) {
            let first = node_span(&first.node);
            let error =
                SourceError::new(span(word.text_range()), format!("there is already a number `{name}`"));
            self.errors.push(error.related(first, "it was given here").help("give one of them another name"));
        } else {
            let (scope, owner) = (self.scope, self.here().root);
            let item = LetItem { node: node.clone(), state: LetState::Waiting, scope, owner };
            let here = &mut self.scopes[scope];
            if here.lets.insert(name.clone(), item).is_none() {
                here.let_names.push(name);
            }
        }
    }

    /// Numbers that bands give other values are no plain numbers; they are noted as such. Those of a part are
    /// named after it.
    pub(crate) fn declare_values(&mut self, blocks: &[Node], part: &str) {
        let whens = blocks
            .iter()
            .flat_map(Node::children)
            .filter(|s| s.kind() == Kind::When)
            .filter_map(|w| block_of(&w));
        let lets = whens.flat_map(|b| b.children().collect::<Vec<_>>()).filter(|s| s.kind() == Kind::Let);
        let varied: std::collections::HashSet<String> =
            lets.filter_map(|l| Some(Let::of(&l)?.name.text().to_owned())).collect();
        for name in self.here().let_names.clone() {
            let Some(item) = self.here().lets.get(&name) else { continue };
            let (node, scope) = (item.node.clone(), item.scope);
            let is_set = node.kind() == Kind::Param;
            if !is_set && !varied.contains(&name) {
                continue;
            }
            let Ok(number) = self.in_scope(scope, |reader| reader.let_number(&node)) else {
                self.set_let(&name, LetState::Wrong);
                continue;
            };
            // A part has its own at every place.
            let named = match part {
                "" => name.clone(),
                part => format!("{part}_{name}_{}", self.scope),
            };
            let range = is_set.then(|| {
                let (from, to) = range_of(&node).ok_or(Reported)?;
                self.in_scope(scope, |reader| reader.range(&node, &from, &to))
            });
            let added = match range {
                None => self.builder.add_value(&named, number),
                Some(Ok(range)) => self.builder.add_parameter(&named, number, range),
                Some(Err(Reported)) => {
                    self.set_let(&name, LetState::Wrong);
                    continue;
                }
            };
            match self.built(added, node_span(&node)) {
                Ok(value) => self.set_let(&name, LetState::Varies(value)),
                Err(Reported) => self.set_let(&name, LetState::Wrong),
            }
        }
    }

    fn set_let(&mut self, name: &str, state: LetState) {
        if let Some(item) = self.scopes[self.scope].lets.get_mut(name) {
            item.state = state;
        }
    }

    /// The plain number that a `let` gives.
    pub(crate) fn let_number(&mut self, node: &Node) -> Done<f64> {
        let expression = value(node).ok_or(Reported)?;
        self.number(&expression, None)
    }

    /// A statement outside of `when`, once all views are declared.
    fn own_statement(&mut self, node: &Node, owner: Option<ViewId>) -> Done {
        match node.kind() {
            _ if is_lost(node) => Err(Reported),
            kind if kind == Kind::Setting || is_arranging(kind) => self.setting(node, owner, None),
            Kind::When if owner.is_none() || is_of_part(node) => {
                self.whens.push((node.clone(), self.scope));
                Ok(())
            }
            Kind::BandItem | Kind::Let if is_of_part(node) => Ok(()),
            Kind::Accept if owner.is_none() && self.scope == 0 => {
                self.accepts.push(node.clone());
                Ok(())
            }
            Kind::Only => self.only_in(node, owner),
            Kind::Adopt | Kind::Design if owner.is_none() && self.scope == 0 => Ok(()),
            Kind::Reworded => {
                let message =
                    "a text has its words behind its name; only what comes from a base is given others";
                Err(self.error_with_help(node_span(node), message, "write `text name \"words\" { ... }`"))
            }
            Kind::Language | Kind::Expect | Kind::Drawing | Kind::Claim
                if owner.is_none() && self.scope == 0 =>
            {
                self.tables.push(node.clone());
                Ok(())
            }
            Kind::Ladder
            | Kind::Language
            | Kind::Expect
            | Kind::Drawing
            | Kind::Adopt
            | Kind::Design
            | Kind::State
            | Kind::BandItem
            | Kind::Let
            | Kind::Param
            | Kind::When
            | Kind::Accept
            | Kind::Claim
            | Kind::Part
                if owner.is_some() || self.scope != 0 =>
            {
                let what = first_word(node, 0).map_or_else(String::new, |w| w.text().to_owned());
                let message = format!("`{what}` stands directly in the screen, not in a view");
                Err(self.error_with_help(node_span(node), message, "move it to the screen's own block"))
            }
            Kind::Hide | Kind::Show | Kind::Drop => {
                let message = "views are hidden and shown, and rules dropped, in a band only";
                Err(self.error_with_help(node_span(node), message, "write it inside `when band { ... }`"))
            }
            _ => Ok(()),
        }
    }

    fn accept(&mut self, node: &Node, rules: &std::collections::HashSet<String>) -> Done {
        let Accept { code, of, reason } = Accept::of(node).ok_or(Reported)?;
        let mut names = Vec::new();
        for name in of {
            let text = spelled(&name);
            let known = self.builder.screen().find(&text).is_some() || rules.contains(&text);
            if !known {
                let screen = self.builder.screen();
                let paths: Vec<String> = screen.views().map(|(id, _)| screen.path(id)).collect();
                let near =
                    nearest(&text, paths.iter().map(String::as_str).chain(rules.iter().map(String::as_str)));
                let help = near.map_or_else(
                    || "name views by their path from the screen, such as `header.title`".to_owned(),
                    |near| format!("did you mean `{near}`?"),
                );
                self.error_with_help(node_span(&name), format!("there is no view or rule `{text}`"), help);
            }
            names.push(text);
        }
        let result = self.builder.add_acceptance(code.text(), names, unquoted(&reason));
        self.built(result, span(code.text_range()))?;
        if self.file_of(node) > 0 {
            self.builder.inherited_acceptance();
        }
        Ok(())
    }
}
