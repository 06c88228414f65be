//! How a view arranges its children, read: rows and columns, shares, spaces.

use super::{Done, Reader, Reported, first_word, node_span, own_words};
use crate::arrange::{Align, Arrangement, Share, Space, Spread};
use crate::coordinate::Expr;
use crate::screen::{Setting, ViewId};
use crate::syntax::{Kind, Node, Token};

/// Whether a statement says how views are arranged.
pub(super) fn is_arranging(kind: Kind) -> bool {
    matches!(kind, Kind::Arrange | Kind::Share | Kind::Apart | Kind::Sit)
}

impl Reader {
    /// The setting that such a statement is.
    pub(super) fn arranging(&mut self, node: &Node, view: ViewId) -> Done<Setting> {
        Ok(match node.kind() {
            Kind::Arrange => Setting::Arrange(Box::new(self.arrangement(node, view)?)),
            Kind::Share => Setting::Share(Box::new(self.share(node, view)?)),
            Kind::Sit => {
                let word = first_word(node, 1).ok_or(Reported)?;
                Setting::Sit(one_of(&word, &Align::SPELLINGS)?)
            }
            _ => Setting::Apart,
        })
    }

    fn arrangement(&mut self, node: &Node, view: ViewId) -> Done<Arrangement> {
        let mut arrangement = match first_word(node, 0).is_some_and(|w| w.text() == "column") {
            true => Arrangement::column(),
            false => Arrangement::row(),
        };
        let mut said: Vec<String> = Vec::new();
        let mut wraps = None;
        for clause in node.children().filter(|n| n.kind() == Kind::Clause) {
            let words: Vec<Token> = own_words(&clause).collect();
            let (Some(word), value) = (words.first(), clause.children().next()) else { return Err(Reported) };
            if said.iter().any(|s| s == word.text()) {
                let message = format!("`{}` is said twice", word.text());
                return Err(self.error_with_help(node_span(&clause), message, "say it once"));
            }
            said.push(word.text().to_owned());
            match (word.text(), value, words.get(1)) {
                ("gap", Some(gap), _) => arrangement.gap = self.scalar(&gap, Some(view))?,
                ("padding", Some(padding), _) => arrangement.padding = self.padding(&padding, view)?,
                ("wrap", by, _) => wraps = Some(by),
                ("spread", _, Some(word)) => {
                    arrangement.spread = one_of(word, &Spread::SPELLINGS)?;
                }
                ("align", _, Some(word)) => {
                    arrangement.align = one_of(word, &Align::SPELLINGS)?;
                }
                _ => return Err(Reported),
            }
        }
        arrangement.wrap = match wraps {
            Some(Some(by)) => Some(self.scalar(&by, Some(view))?),
            Some(None) => Some(arrangement.gap.clone()),
            None => None,
        };
        Ok(arrangement)
    }

    /// One distance for all sides, or four: at the start, the top, the end and the bottom.
    fn padding(&mut self, node: &Node, view: ViewId) -> Done<[Expr; 4]> {
        let sides: Vec<Node> = node.children().collect();
        match (node.kind(), sides.as_slice()) {
            (Kind::Group, [start, top, end, bottom]) => {
                let mut of = |side: &Node| self.scalar(side, Some(view));
                Ok([of(start)?, of(top)?, of(end)?, of(bottom)?])
            }
            (Kind::Group, [_, _, ..]) => {
                let message = format!("padding of {} sides", sides.len());
                let help = "write one distance for all sides, or four: `padding (16, 8, 16, 8)` for start, top, end and bottom";
                Err(self.error_with_help(node_span(node), message, help))
            }
            _ => {
                let all = self.scalar(node, Some(view))?;
                Ok(std::array::from_fn(|_| all.clone()))
            }
        }
    }

    fn share(&mut self, node: &Node, view: ViewId) -> Done<Share> {
        let weight = node.children().find(|n| n.kind() != Kind::Bound).ok_or(Reported)?;
        let number = self.number(&weight, Some(view))?;
        if number <= 0.0 {
            let message = format!("a share of {number} is none");
            let help =
                "write a weight above zero; what takes no share keeps its own size, so leave the line out";
            return Err(self.error_with_help(node_span(&weight), message, help));
        }
        self.said_once(node)?;
        let mut share = Share::of(number);
        for bound in node.children().filter(|n| n.kind() == Kind::Bound) {
            let limit = bound.children().next().ok_or(Reported)?;
            let limit = Some(self.scalar(&limit, Some(view))?);
            match own_words(&bound).any(|w| w.text() == "least") {
                true => share.least = limit,
                false => share.most = limit,
            }
        }
        Ok(share)
    }

    /// `space 24`, `space share 2`, `space`.
    pub(super) fn space(&mut self, node: &Node, view: ViewId, behind: usize) -> Done {
        let value = node.children().find(|n| n.kind() != Kind::Wrong);
        let space = match value {
            None => Space::Flexible(1.0),
            Some(value) if first_word(node, 1).is_some() => Space::Flexible(self.number(&value, Some(view))?),
            Some(value) => Space::Fixed(self.scalar(&value, Some(view))?),
        };
        let result = self.builder.add_space(view, behind, space);
        self.built(result, node_span(node))
    }
}

/// What a word of a list stands for; the grammar lets no other through.
fn one_of<T: Copy>(word: &Token, known: &[(&'static str, T)]) -> Done<T> {
    known.iter().find(|k| k.0 == word.text()).map(|k| k.1).ok_or(Reported)
}
