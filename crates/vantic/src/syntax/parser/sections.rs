//! The parts of a screen besides its views and rules: states, a drawn size, languages, expectations.

use crate::syntax::lexer::Kind;
use crate::syntax::parser::parser::{Parsed, Parser};

impl Parser<'_> {
    pub(super) fn let_item(&mut self) -> Parsed {
        self.name("a name for the number")?;
        self.expect(Kind::Equal, "`=` and a number")?;
        self.expression()
    }

    pub(super) fn param_item(&mut self) -> Parsed {
        self.let_item()?;
        if !self.is_word("in") {
            return Err(self.error("`in` and the range that it is set within, as in `in 180..400`"));
        }
        self.take();
        self.expression()?;
        self.expect(Kind::Range, "`..` and the end of the range")?;
        self.expression()
    }

    /// `design (390, 844) or (844, 390), blend 50%`.
    pub(crate) fn design(&mut self) -> Parsed {
        self.expression()?;
        if self.here() == Kind::Word && self.is_word("or") {
            self.take();
            self.expression()?;
        }
        if self.here() != Kind::Comma {
            return Ok(());
        }
        self.take();
        self.open(Kind::Clause);
        let parsed = match self.word() {
            "contain" | "cover" => {
                self.take();
                Ok(())
            }
            "blend" | "mix" => {
                self.take();
                self.expression()
            }
            _ => Err(self.error("`contain`, `cover`, or `blend` or `mix` and the share of the height")),
        };
        self.close();
        parsed
    }

    pub(crate) fn state(&mut self) -> Parsed {
        self.name("the name of the state")?;
        self.expect(Kind::Colon, "`:` and its alternatives, such as `state menu: closed, open`")?;
        self.listed(|parser| parser.name_after_operator("the name of an alternative"))
    }

    /// `wide`, or `menu.open` for an alternative of a state.
    pub(crate) fn band_name(&mut self) -> Parsed {
        self.open(Kind::Path);
        let parsed = self.name_after_operator("the name of a band").and_then(|()| match self.here() {
            Kind::Dot => {
                self.take();
                self.name("the name of an alternative")
            }
            _ => Ok(()),
        });
        self.close();
        parsed
    }

    /// `language he, right to left { header.title "..." }`; without a block the words of the file are in it.
    pub(crate) fn language(&mut self, depth: usize) -> Parsed {
        self.name("the name of the language")?;
        if self.here() == Kind::Comma {
            self.take();
            for word in ["right", "to", "left"] {
                self.keyword_and(word, ", as in `right to left`")?;
            }
        }
        if self.here() != Kind::OpenBrace {
            return Ok(());
        }
        self.block_of(depth + 1, |parser, _| {
            parser.open(Kind::Entry);
            let parsed = parser.path().and_then(|()| parser.expect(Kind::Words, "its words in quotes"));
            parser.close();
            parsed
        })
    }

    /// `expect on "390x844", within 1 { header = (0, 0, 390, 56); title.width = 80; clock hidden }`.
    pub(crate) fn expect_on(&mut self, depth: usize) -> Parsed {
        self.keyword("on")?;
        self.expect(Kind::Words, "the name of a display in quotes, such as \"390x844\"")?;
        if self.here() == Kind::Comma {
            self.take();
            self.keyword_and("within", " and how far off a frame may be")?;
            self.expression()?;
        }
        self.block_of(depth + 1, |parser, _| {
            parser.open(Kind::Entry);
            let parsed = parser.path().and_then(|()| {
                if parser.here() == Kind::Equal {
                    parser.take();
                    return parser.expression();
                }
                parser.keyword_and("hidden", ", or `=` and a frame such as `(0, 0, 390, 56)`")
            });
            parser.close();
            parsed
        })
    }

    /// `drawing "390x844" { header = (0, 0, 390, 56) }`.
    pub(crate) fn drawing(&mut self, depth: usize) -> Parsed {
        self.expect(Kind::Words, "the name of a display in quotes, such as \"390x844\"")?;
        self.block_of(depth + 1, |parser, _| {
            parser.open(Kind::Entry);
            let frame = "`=` and a frame such as `(0, 0, 390, 56)`";
            let parsed = parser.path().and_then(|()| parser.expect(Kind::Equal, frame));
            let parsed = parsed.and_then(|()| parser.expression());
            parser.close();
            parsed
        })
    }
}
