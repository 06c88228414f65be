//! What a path means.

use crate::resolve::reader::Reader;
use crate::resolve::scope::{Done, Reported};
use crate::resolve::source_map::Reference;
use crate::screen_ext::ScreenExt as _;
use crate::syntax::ast::nodes::{node_span, words_of};
use crate::syntax::tree::Node;
use std::ops::Range;
use vantic_core::model::{Anchor, CONTENT_BOX, Coordinate, Expr, ViewId};
use vantic_core::words::nearest;

/// `cols[2..5]`: the name, and from which to which.
fn indexed(word: &str) -> Option<(&str, u32, u32)> {
    let (name, index) = word.strip_suffix(']')?.split_once('[')?;
    let (first, last) = index.split_once("..").unwrap_or((index, index));
    Some((name, first.parse().ok()?, last.parse().ok()?))
}

/// A coordinate's spelling at the end of a path: which one, and how many words it takes.
fn coordinate_at_end(words: &[String]) -> Option<(Coordinate, usize)> {
    let find = |spelled: &str| Coordinate::SPELLINGS.iter().find(|s| s.0 == spelled).map(|s| s.1);
    if let [.., content, side] = words
        && let Some(found) = find(&format!("{content}.{side}"))
    {
        return Some((found, 2));
    }
    words.last().and_then(|w| find(w)).map(|c| (c, 1))
}

/// What a path of an expression stands for.
pub(crate) enum Meaning {
    Coordinate(Expr),
    /// `center`, `size` or `at` of a place.
    Pair(Anchor, String),
    Number(String),
}

impl Reader {
    pub(crate) fn meaning(&mut self, path: &Node, owner: Option<ViewId>) -> Done<Meaning> {
        let words = words_of(path);
        let at = node_span(path);
        let Some(last) = words.last() else { return Err(Reported) };
        // `content.height` is that of a text, or of what a view scrolls.
        if let [place @ .., side] = words.as_slice()
            && place.last().is_some_and(|word| word == CONTENT_BOX)
            && let Some(content_box) = self.try_place(place, owner)
            && let Some((coordinate, _)) = coordinate_at_end(std::slice::from_ref(side))
        {
            if let Some(references) = &mut self.map.references {
                references.push(Reference { at, words: place.len(), place: content_box, owner });
            }
            return Ok(Meaning::Coordinate(Expr::of(content_box, coordinate)));
        }
        if let Some((coordinate, taken)) = coordinate_at_end(&words) {
            let place = self.place_or_own(&words[..words.len() - taken], owner, at)?;
            return Ok(Meaning::Coordinate(Expr::of(place, coordinate)));
        }
        if matches!(last.as_str(), "center" | "size" | "at" | "outline") {
            let place = self.place_or_own(&words[..words.len() - 1], owner, at)?;
            return Ok(Meaning::Pair(place, last.clone()));
        }
        if let [name] = words.as_slice()
            && self.scope_of_let(name).is_some()
        {
            return Ok(Meaning::Number(name.clone()));
        }
        Err(self.unknown_path(&words, owner, at))
    }

    fn unknown_path(&mut self, words: &[String], owner: Option<ViewId>, at: Range<usize>) -> Reported {
        let spelled = words.join(".");
        if let [place @ .., last] = words {
            let coordinates =
                || Coordinate::SPELLINGS.iter().map(|s| s.0).chain(["center", "size", "at", "outline"]);
            if self.try_place(words, owner).is_some() {
                let help =
                    format!("say which coordinate of it: `{spelled}.left`, `{spelled}.width` or another");
                return self.error_with_help(at, format!("`{spelled}` is a view, not a coordinate"), help);
            }
            if !place.is_empty() {
                // Report an unknown view first; only then an unknown coordinate.
                if self.try_place(place, owner).is_none() {
                    return match self.place(place, owner, at) {
                        Err(reported) => reported,
                        Ok(_) => Reported,
                    };
                }
                let help = match nearest(last, coordinates()) {
                    Some(near) => format!("did you mean `{}.{near}`?", place.join(".")),
                    None => format!("the coordinates are {}", coordinates().collect::<Vec<_>>().join(", ")),
                };
                return self.error_with_help(at, format!("there is no coordinate `{last}`"), help);
            }
            let lets = [self.scope, 0].map(|scope| self.scopes[scope].let_names.clone()).concat();
            let mut known: Vec<&str> = coordinates().chain(lets.iter().map(String::as_str)).collect();
            known.sort_unstable();
            known.dedup();
            let help = match nearest(last, known.into_iter()) {
                Some(near) => format!("did you mean `{near}`?"),
                None => format!(
                    "declare a number with `let {last} = 16`, or write a coordinate such as `parent.left`"
                ),
            };
            return self.error_with_help(at, format!("there is no coordinate or number `{last}`"), help);
        }
        Reported
    }

    fn place_or_own(&mut self, words: &[String], owner: Option<ViewId>, at: Range<usize>) -> Done<Anchor> {
        match (words, owner) {
            ([], Some(own)) => Ok(Anchor::View(own)),
            ([], None) => {
                let help = "write whose it is, such as `header.left` or `screen.width`";
                Err(self.error_with_help(at, "this stands directly in the screen, so no view owns it", help))
            }
            (words, owner) => self.place(words, owner, at),
        }
    }

    /// The place that these words name.
    pub(crate) fn place(
        &mut self,
        words: &[String],
        owner: Option<ViewId>,
        at: Range<usize>,
    ) -> Done<Anchor> {
        if let Some(place) = self.try_place(words, owner) {
            if let Some((name, outer)) = self.hidden_by_itself(words, owner) {
                let message = format!("`{name}` is this view itself, which hides `{outer}`");
                let help =
                    format!("write `screen.{outer}` for the outer one, and the coordinate alone for its own");
                return Err(self.error_with_help(at, message, help));
            }
            if let Some(references) = &mut self.map.references {
                references.push(Reference { at: at.clone(), words: words.len(), place, owner });
            }
            return self.with_sibling(place, at);
        }
        let spelled = words.join(".");
        if coordinate_at_end(words).is_some() {
            let help = "a pin goes to a box such as `safe` or `parent`; for one edge write a rule: `left = \
                        header.right + 8`";
            return Err(self.error_with_help(at, format!("`{spelled}` is an edge, not a box"), help));
        }
        if words.iter().any(|w| w == CONTENT_BOX) {
            let help = "write `scroll down` in the block of the view that is meant";
            return Err(self.error_with_help(
                at,
                format!("`{spelled}`: only a view that scrolls has `content`"),
                help,
            ));
        }
        let relative = ["parent", "prev", "next"];
        if owner.is_none() && words.first().is_some_and(|w| relative.contains(&w.as_str())) {
            let help = "write the rule in a view's block, or name the view";
            return Err(self.error_with_help(at, format!("the screen itself has no `{}`", words[0]), help));
        }
        if let Some((inner, outer)) = self.hidden_path(words, owner) {
            let message = format!("`{}` is `{inner}` here, which hides another of that name", words[0]);
            return Err(self.error_with_help(
                at,
                message,
                format!("write `screen.{outer}` for the outer one"),
            ));
        }
        if !self.not_found.insert(at.clone()) {
            return Err(Reported);
        }
        let candidates = self.names_in_reach(owner);
        let help = match words.first().and_then(|w| nearest(w, candidates.iter().map(String::as_str))) {
            Some(near) if candidates.contains(&words[0]) && words.len() > 1 => {
                let children = self.children_of(&near, owner);
                match nearest(&words[1], children.iter().map(String::as_str)) {
                    Some(child) => format!("did you mean `{near}.{child}`?"),
                    None => format!("`{near}` holds {}", listed(&children)),
                }
            }
            Some(near) => format!("did you mean `{near}`?"),
            None => format!("the views in reach are {}", listed(&candidates)),
        };
        Err(self.error_with_help(at, format!("there is no view `{spelled}`"), help))
    }

    /// A name by which a view finds itself where one further out has the same: that one's path.
    fn hidden_by_itself(&self, words: &[String], owner: Option<ViewId>) -> Option<(String, String)> {
        let (own, name) = (owner?, words.first()?);
        let screen = self.builder.screen();
        if self.in_reach(owner, name) != Some(own) || matches!(name.as_str(), "parent" | "prev" | "next") {
            return None;
        }
        let around = screen.at(own).parent().filter(|_| self.scope == 0 || self.here().root != Some(own))?;
        let outer = self.in_reach(screen.at(around).parent(), name)?;
        Some((name.clone(), screen.path(outer)))
    }

    /// A path that is found only from further out, since a nearer view has its first name: the nearer
    /// view, and the path that was meant.
    fn hidden_path(&self, words: &[String], owner: Option<ViewId>) -> Option<(String, String)> {
        let (first, rest) = words.split_first()?;
        let screen = self.builder.screen();
        let nearest = self.in_reach(owner, first)?;
        let mut scope = screen.at(nearest).parent();
        while let Some(view) = scope {
            scope = screen.at(view).parent();
            let outer = self.builder.child(scope, first);
            let whole =
                outer.and_then(|o| rest.iter().try_fold(o, |at, name| self.builder.child(Some(at), name)));
            if let Some(meant) = whole {
                return Some((screen.path(nearest), screen.path(meant)));
            }
        }
        None
    }

    fn with_sibling(&mut self, place: Anchor, at: Range<usize>) -> Done<Anchor> {
        let screen = self.builder.screen();
        let (view, word, side, lacks) = match place {
            Anchor::Prev(v) => (v, "prev", "first", screen.siblings(v).first() == Some(&v)),
            Anchor::Next(v) => (v, "next", "last", screen.siblings(v).last() == Some(&v)),
            _ => return Ok(place),
        };
        if !lacks {
            return Ok(place);
        }
        let message =
            format!("`{}` is the {side} view of its parent, so it has no `{word}`", screen.path(view));
        Err(self.error_with_help(at, message, "use `parent` here"))
    }

    fn try_place(&self, words: &[String], owner: Option<ViewId>) -> Option<Anchor> {
        let (first, rest) = words.split_first()?;
        let screen = self.builder.screen();
        let parent = |v: ViewId| screen.at(v).parent().map_or(Anchor::Screen, Anchor::View);
        let mut place = match (first.as_str(), owner) {
            ("screen", _) => Anchor::Screen,
            ("safe", _) => Anchor::Safe,
            ("clear", _) => Anchor::Clear,
            ("parent", Some(own)) => parent(own),
            ("prev", Some(own)) => Anchor::Prev(own),
            ("next", Some(own)) => Anchor::Next(own),
            (CONTENT_BOX, _) => Anchor::View(self.builder.child(owner, CONTENT_BOX)?),
            (name, _) if self.in_reach(owner, name).is_some() => Anchor::View(self.in_reach(owner, name)?),
            (name, _) => match indexed(name) {
                Some((name, first, last)) => {
                    Anchor::Cells { guide: self.in_reach(owner, name)?, first, last }
                }
                None => Anchor::View(self.in_reach(owner, name)?),
            },
        };
        for word in rest {
            place = match (word.as_str(), place) {
                ("prev", Anchor::View(v)) => Anchor::Prev(v),
                ("next", Anchor::View(v)) => Anchor::Next(v),
                ("parent", Anchor::View(v)) => parent(v),
                (name, Anchor::View(v)) => self.within(Some(v), name)?,
                (name, Anchor::Screen) => self.within(None, name)?,
                _ => return None,
            };
        }
        Some(place)
    }

    /// What a word names directly in a view or the screen.
    fn within(&self, around: Option<ViewId>, word: &str) -> Option<Anchor> {
        match indexed(word).filter(|_| self.builder.child(around, word).is_none()) {
            Some((name, first, last)) => {
                Some(Anchor::Cells { guide: self.builder.child(around, name)?, first, last })
            }
            None => self.builder.child(around, word).map(Anchor::View),
        }
    }

    /// Looks a name up from the inside out.
    fn in_reach(&self, owner: Option<ViewId>, name: &str) -> Option<ViewId> {
        let mut scope = owner;
        loop {
            if let Some(found) = self.builder.child(scope, name) {
                return Some(found);
            }
            // The names of a part are looked up no further out than the view that it is placed in.
            if self.scope != 0 && scope == self.here().root {
                return None;
            }
            scope = self.builder.screen().at(scope?).parent();
        }
    }

    fn names_in_reach(&self, owner: Option<ViewId>) -> Vec<String> {
        let screen = self.builder.screen();
        let mut names = Vec::new();
        let mut scope = owner;
        loop {
            let children = scope.map_or(screen.roots(), |v| screen.at(v).children());
            names.extend(children.iter().take(1000).map(|&c| screen.at(c).name().to_owned()));
            match scope {
                Some(_) if self.scope != 0 && scope == self.here().root => return names,
                Some(view) => scope = screen.at(view).parent(),
                None => return names,
            }
        }
    }

    fn children_of(&self, name: &str, owner: Option<ViewId>) -> Vec<String> {
        let screen = self.builder.screen();
        let children = self.in_reach(owner, name).map(|v| screen.at(v).children()).unwrap_or_default();
        children.iter().take(1000).map(|&c| screen.at(c).name().to_owned()).collect()
    }

    /// The view that a path names.
    pub(crate) fn view(&mut self, path: &Node, owner: Option<ViewId>) -> Done<ViewId> {
        self.view_named(&words_of(path), owner, node_span(path))
    }

    pub(crate) fn view_named(
        &mut self,
        words: &[String],
        owner: Option<ViewId>,
        at: Range<usize>,
    ) -> Done<ViewId> {
        match self.place(words, owner, at.clone())? {
            Anchor::View(view) => Ok(view),
            _ => Err(self.error(at, format!("`{}` is not one of the screen's views", words.join(".")))),
        }
    }
}

fn listed(names: &[String]) -> String {
    match names {
        [] => "no views".to_owned(),
        few if few.len() <= 8 => few.join(", "),
        many => format!("{} and {} more", many[..8].join(", "), many.len() - 8),
    }
}
