//! Text to tokens.

use logos::Logos;
use std::ops::Range;

macro_rules! kinds {
    (tokens { $($(#[$logos:meta])* $token:ident = $said:literal,)* } nodes { $($node:ident,)* }) => {
        /// The kinds of tokens and nodes of the tree.
        #[derive(Logos, Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
        pub(crate) enum Kind {
            $($(#[$logos])* $token,)*
            $($node,)*
        }

        impl Kind {
            pub(crate) const ALL: &[Kind] = &[$(Kind::$token,)* $(Kind::$node,)*];

            /// What messages call it.
            pub(crate) fn said(self) -> &'static str {
                match self {
                    $(Kind::$token => $said,)*
                    $(Kind::$node => stringify!($node),)*
                }
            }
        }
    };
}

/// Takes the rest of a name: letters, digits and `_` of any script. A loop of its own, since one over so many characters in a pattern
/// would call itself for each of them.
fn to_end_of_name(lexer: &mut logos::Lexer<'_, Kind>) {
    let rest = lexer.remainder();
    lexer.bump(rest.find(|c| !unicode_ident::is_xid_continue(c)).unwrap_or(rest.len()));
}

kinds! {
    tokens {
        #[regex(r"[ \t\r\u{FEFF}]+")]
        Blank = "a blank",
        #[token("\n")]
        Newline = "the end of the line",
        #[regex(r"//[^\n]*", allow_greedy = true)]
        Comment = "a comment",
        #[regex(r"[_\p{XID_Start}]", to_end_of_name)]
        Word = "a name",
        #[regex(r"[0-9]+(\.[0-9]+)?([eE][+-]?[0-9]+)?")]
        Number = "a number",
        #[regex(r#""([^"\\\n]|\\[^\n])*""#)]
        Words = "words in quotes",
        #[token("{")]
        OpenBrace = "`{`",
        #[token("}")]
        CloseBrace = "`}`",
        #[token("(")]
        Open = "`(`",
        #[token(")")]
        Close = "`)`",
        #[token("[")]
        OpenIndex = "`[`",
        #[token("]")]
        CloseIndex = "`]`",
        #[token(",")]
        Comma = "`,`",
        #[token(";")]
        Semicolon = "`;`",
        #[token(":")]
        Colon = "`:`",
        #[token("..")]
        Range = "`..`",
        #[token(".")]
        Dot = "`.`",
        #[token("=")]
        Equal = "`=`",
        #[token("<=")]
        AtMost = "`<=`",
        #[token(">=")]
        AtLeast = "`>=`",
        #[token("<")]
        Below = "`<`",
        #[token(">")]
        Above = "`>`",
        #[token("+")]
        Plus = "`+`",
        #[token("-")]
        Minus = "`-`",
        #[token("*")]
        Star = "`*`",
        #[token("/")]
        Slash = "`/`",
        #[token("%")]
        Percent = "`%`",
        #[token("~")]
        Tilde = "`~`",
        #[token("#")]
        Hash = "`#`",
        #[token("@")]
        At = "`@`",
        Unknown = "a character that means nothing here",
        EndOfFile = "the end of the file",
    }
    nodes {
        File,
        ScreenItem,
        Block,
        Ladder,
        Design,
        Adopt,
        Reworded,
        State,
        BandItem,
        Let,
        Param,
        ViewItem,
        Pin,
        PinSide,
        Rule,
        Label,
        Ratio,
        Strength,
        Bound,
        Gap,
        Between,
        Fit,
        Span,
        Drawn,
        Spread,
        Enclose,
        Setting,
        Arrange,
        Grid,
        Clause,
        Share,
        Cells,
        Apart,
        Floats,
        Input,
        Control,
        Spare,
        Repeat,
        Sit,
        Space,
        Guide,
        Index,
        Scroll,
        Overhang,
        Stick,
        Part,
        Use,
        Argument,
        In,
        When,
        Only,
        Hide,
        Show,
        Drop,
        Accept,
        Claim,
        Language,
        Expect,
        Drawing,
        Entry,
        RuleName,
        Path,
        Literal,
        Percentage,
        Negative,
        Binary,
        Group,
        Call,
        Test,
        TestNot,
        TestBoth,
        TestEither,
        TestGroup,
        Wrong,
    }
}

impl Kind {
    /// Whether it separates tokens and means nothing itself.
    pub(crate) fn is_trivia(self) -> bool {
        matches!(self, Kind::Blank | Kind::Newline | Kind::Comment)
    }
}

/// All tokens of a text; what means nothing is gathered into `Unknown`.
pub(crate) fn tokens(text: &str) -> Vec<(Kind, Range<usize>)> {
    let mut all: Vec<(Kind, Range<usize>)> = Vec::new();
    for (kind, span) in Kind::lexer(text).spanned() {
        let kind = kind.unwrap_or(Kind::Unknown);
        match all.last_mut() {
            Some((Kind::Unknown, last)) if kind == Kind::Unknown => last.end = span.end,
            _ => all.push((kind, span)),
        }
    }
    all
}
