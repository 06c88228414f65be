//! Statements that are no rules and arrange nothing: views, bands and what they change, tables.

use crate::syntax::ast::nodes::{
    behind_word, block_of, child, first_word, of_kind, own_words, paths, says, spelled, value, values,
    words_token,
};
use crate::syntax::lexer::Kind;
use crate::syntax::tree::{Node, Token};

/// `text title "Departures" { ... }`, and `view`, `image`, `guide`.
pub(crate) struct ViewItem {
    /// `view`, `text`, `image` or `guide`.
    pub(crate) word: Token,
    pub(crate) name: Token,
    /// The number behind the name, in brackets; empty where there is none.
    pub(crate) index: String,
    /// The words in quotes.
    pub(crate) words: Option<Token>,
    /// The name under which a part is given its words.
    pub(crate) given: Option<Token>,
    /// `None` where the grammar went wrong.
    pub(crate) block: Option<Node>,
}

impl ViewItem {
    pub(crate) fn of(node: &Node) -> Option<Self> {
        Some(Self {
            word: first_word(node, 0)?,
            name: first_word(node, 1)?,
            index: child(node, Kind::Index).map_or_else(String::new, |index| spelled(&index)),
            words: words_token(node),
            given: first_word(node, 2),
            block: block_of(node),
        })
    }

    /// The name with the number behind it.
    pub(crate) fn full_name(&self) -> String {
        self.name.text().to_owned() + &self.index
    }
}

/// `design (390, 844) or (844, 390), blend 50%`.
pub(crate) struct Design {
    pub(crate) size: Node,
    pub(crate) turned: Option<Node>,
    /// `contain`, `cover`, `blend` or `mix`.
    pub(crate) scaling: Option<Token>,
    pub(crate) share: Option<Node>,
}

impl Design {
    pub(crate) fn of(node: &Node) -> Option<Self> {
        let mut sizes = values(node);
        let clause = child(node, Kind::Clause);
        Some(Self {
            size: sizes.next()?,
            turned: sizes.next(),
            scaling: clause.as_ref().and_then(|c| first_word(c, 0)),
            share: clause.as_ref().and_then(value),
        })
    }
}

/// `state menu: closed, open`.
pub(crate) struct State {
    pub(crate) name: Token,
    pub(crate) alternatives: Vec<Token>,
}

impl State {
    pub(crate) fn of(node: &Node) -> Option<Self> {
        let mut words = own_words(node).skip(1);
        Some(Self { name: words.next()?, alternatives: words.collect() })
    }
}

/// The levels of `ladder fit > rhythm`.
pub(crate) fn levels(node: &Node) -> impl Iterator<Item = Token> {
    own_words(node).skip(1)
}

/// `band wide: screen.width >= 700`.
pub(crate) struct Band {
    pub(crate) name: Token,
    pub(crate) test: Node,
}

impl Band {
    pub(crate) fn of(node: &Node) -> Option<Self> {
        let test = node.children().find(|n| n.kind() != Kind::Wrong);
        Some(Self { name: first_word(node, 1)?, test: test? })
    }
}

/// `let gap = 12`.
pub(crate) struct Let {
    pub(crate) name: Token,
    /// `None` where the grammar went wrong.
    pub(crate) value: Option<Node>,
}

impl Let {
    pub(crate) fn of(node: &Node) -> Option<Self> {
        Some(Self { name: first_word(node, 1)?, value: value(node) })
    }
}

/// The ends of the range of `param rail = 240 in 180..400`.
pub(crate) fn range_of(node: &Node) -> Option<(Node, Node)> {
    let mut ends = values(node).skip(1);
    Some((ends.next()?, ends.next()?))
}

/// `hide notice, show icon`.
pub(crate) struct Hide {
    pub(crate) view: Node,
    pub(crate) keeps_space: bool,
    /// What is shown in its place.
    pub(crate) show: Option<Node>,
}

impl Hide {
    pub(crate) fn of(node: &Node) -> Option<Self> {
        let mut paths = paths(node);
        Some(Self { view: paths.next()?, keeps_space: says(node, "keep"), show: paths.next() })
    }
}

/// `claim title inside header for screen.width 320..1600`.
pub(crate) struct Claim {
    pub(crate) of: Node,
    /// `inside`, `clear`, `whole` or `same`.
    pub(crate) word: Token,
    pub(crate) to: Option<Node>,
    pub(crate) by: Option<Node>,
    pub(crate) over: Option<Node>,
}

impl Claim {
    pub(crate) fn of(node: &Node) -> Option<Self> {
        let mut paths = paths(node);
        Some(Self {
            of: paths.next()?,
            word: first_word(node, 1)?,
            to: paths.next(),
            by: behind_word(node, "by"),
            over: child(node, Kind::Test),
        })
    }
}

/// `language he, right to left { header.title "..." }`.
pub(crate) struct Language {
    pub(crate) name: Token,
    pub(crate) right_to_left: bool,
    /// Without one the words of the file are in it.
    pub(crate) block: Option<Node>,
}

impl Language {
    pub(crate) fn of(node: &Node) -> Option<Self> {
        Some(Self { name: first_word(node, 1)?, right_to_left: says(node, "left"), block: block_of(node) })
    }
}

/// The words of a text in a language.
pub(crate) struct Translation {
    pub(crate) of: Node,
    pub(crate) words: Token,
}

impl Translation {
    pub(crate) fn of(entry: &Node) -> Option<Self> {
        Some(Self { of: paths(entry).next()?, words: words_token(entry)? })
    }
}

/// `expect on "390x844", within 1 { ... }`.
pub(crate) struct Expect {
    pub(crate) on: Token,
    pub(crate) within: Option<Node>,
    pub(crate) block: Node,
}

impl Expect {
    pub(crate) fn of(node: &Node) -> Option<Self> {
        Some(Self { on: words_token(node)?, within: value(node), block: block_of(node)? })
    }
}

/// `drawing "390x844" { ... }`, each entry an [`Expected`].
pub(crate) struct Drawing {
    pub(crate) on: Token,
    pub(crate) block: Node,
}

impl Drawing {
    pub(crate) fn of(node: &Node) -> Option<Self> {
        Some(Self { on: words_token(node)?, block: block_of(node)? })
    }
}

/// `header = (0, 0, 390, 56)`, `title.width = 80`, `clock hidden`.
pub(crate) struct Expected {
    pub(crate) of: Node,
    /// `None` for what is hidden.
    pub(crate) is: Option<Node>,
}

impl Expected {
    pub(crate) fn of(entry: &Node) -> Option<Self> {
        Some(Self { of: paths(entry).next()?, is: entry.children().nth(1) })
    }
}

/// `accept overlap: a, b "why"`.
pub(crate) struct Accept {
    pub(crate) code: Token,
    pub(crate) of: Vec<Node>,
    pub(crate) reason: Token,
}

impl Accept {
    pub(crate) fn of(node: &Node) -> Option<Self> {
        let of = of_kind(node, Kind::RuleName).collect();
        Some(Self { code: first_word(node, 1)?, of, reason: words_token(node)? })
    }
}

/// What a part takes or is given: `words = "Skerry Point"`, `gap = 12`.
pub(crate) struct Argument {
    pub(crate) node: Node,
    pub(crate) name: Token,
    pub(crate) words: Option<Token>,
    pub(crate) value: Option<Node>,
}

/// What stands in the brackets of a part or a use; `None` where the grammar went wrong.
pub(crate) fn arguments(node: &Node) -> Option<Vec<Argument>> {
    let argument = |node: Node| {
        Some(Argument { name: first_word(&node, 0)?, words: words_token(&node), value: value(&node), node })
    };
    of_kind(node, Kind::Argument).map(argument).collect()
}
