//! How a view arranges its children, and the settings of a child in it.

use crate::syntax::lexer::Kind;
use crate::syntax::parser::parser::{Parsed, Parser, begins_value};
use vantic_core::model::{Align, Overflow, Scroll, Spread};

impl Parser<'_> {
    /// The kind of statement about arranging that the next word begins.
    pub(crate) fn arranging(&self) -> Option<Kind> {
        let (second, new_line) = self.look(1);
        let ends = new_line || matches!(second, Kind::Semicolon | Kind::CloseBrace | Kind::EndOfFile);
        match self.word() {
            "row" | "column" if ends || second == Kind::Word => Some(Kind::Arrange),
            "grid" if ends || second == Kind::Word => Some(Kind::Grid),
            "cells" if !ends && begins_value(second) => Some(Kind::Cells),
            "share" if !ends && begins_value(second) => Some(Kind::Share),
            "space" if ends || begins_value(second) => Some(Kind::Space),
            "sit" if ends || second == Kind::Word => Some(Kind::Sit),
            "columns" | "rows" if !ends && begins_value(second) => Some(Kind::Guide),
            "padding" if !ends && begins_value(second) => Some(Kind::Guide),
            "scroll" if second == Kind::Word => Some(Kind::Scroll),
            "overhang" if second == Kind::Word => Some(Kind::Overhang),
            "stick" if second == Kind::Word => Some(Kind::Stick),
            "apart" if ends => Some(Kind::Apart),
            "floats" if ends => Some(Kind::Floats),
            "input" if ends => Some(Kind::Input),
            "control" if ends || begins_value(second) => Some(Kind::Control),
            "spare" if ends || second == Kind::Word => Some(Kind::Spare),
            _ => None,
        }
    }

    /// What follows the first word of such a statement.
    pub(crate) fn arranged(&mut self, kind: Kind) -> Parsed {
        match kind {
            Kind::Arrange if self.here() == Kind::Word => self.listed(Self::clause),
            Kind::Grid => self.grid(),
            Kind::Share => self.shared(),
            Kind::Cells => self.expression(),
            Kind::Space if self.here() == Kind::Word && self.is_word("share") => {
                self.take();
                self.expression()
            }
            Kind::Space | Kind::Control if begins_value(self.here()) => self.expression(),
            Kind::Guide => self.guide(),
            Kind::Spare if self.here() == Kind::Word => self.clause_of(&["cut"]),
            Kind::Sit => self.one_of(&Align::SPELLINGS),
            Kind::Scroll => self.one_of(&Scroll::SPELLINGS),
            Kind::Overhang => self.one_of(&Overflow::SPELLINGS),
            Kind::Stick => self.sides(),
            _ => Ok(()),
        }
    }

    /// `gap 8`, `padding (16, 8, 16, 8)`, `spread between`, `align center`, `wrap by 12`.
    fn clause(&mut self) -> Parsed {
        self.open(Kind::Clause);
        let parsed = match self.word() {
            "spread" => {
                self.take();
                self.one_of(&Spread::SPELLINGS)
            }
            "wrap" => {
                self.take();
                match self.here() == Kind::Word && self.is_word("by") {
                    true => {
                        self.take();
                        self.expression()
                    }
                    false => Ok(()),
                }
            }
            "gap" | "padding" | "align" => self.any_clause(),
            _ => Err(self.error("`gap`, `padding`, `spread`, `align` or `wrap`")),
        };
        self.close();
        parsed
    }

    /// A clause that rows, columns and grids share.
    fn any_clause(&mut self) -> Parsed {
        let align = self.is_word("align");
        self.take();
        if align { self.one_of(&Align::SPELLINGS) } else { self.expression() }
    }

    /// `grid columns 3, rows of 72, gap 8`: the columns come first.
    fn grid(&mut self) -> Parsed {
        self.open(Kind::Clause);
        let columns = self.keyword_and("columns", ", such as `grid columns 3`").and_then(|()| self.columns());
        self.close();
        columns?;
        while self.here() == Kind::Comma {
            self.take();
            self.open(Kind::Clause);
            let parsed = match self.word() {
                "rows" => {
                    self.take();
                    self.keyword_and("of", " and the height of a row").and_then(|()| self.expression())
                }
                "gap" | "padding" | "align" => self.any_clause(),
                _ => Err(self.error("`rows of`, `gap`, `padding` or `align`")),
            };
            self.close();
            parsed?;
        }
        Ok(())
    }

    /// `columns 3`, `columns 3 of 120`, `columns of 120`, `columns at least 120`, `columns 3 snug`: behind
    /// the word, the number, then how wide.
    fn columns(&mut self) -> Parsed {
        if !matches!(self.word(), "of" | "at") {
            self.expression()?;
        }
        match self.word() {
            _ if self.here() != Kind::Word => Ok(()),
            "snug" => {
                self.take();
                Ok(())
            }
            "of" => {
                self.open(Kind::Bound);
                self.take();
                let parsed = self.expression();
                self.close();
                parsed
            }
            "at" => self.limit(),
            _ => Err(self.error("`of` and a width, `at least` and a width, or `snug`")),
        }
    }

    /// `columns 8, margin 40, gutter 16`, `rows of 72, gutter 8`, `padding 32`, `line down 40%`; the first
    /// word has been taken.
    fn guide(&mut self) -> Parsed {
        if matches!(self.word(), "across" | "down") {
            self.take();
            if begins_value(self.here()) {
                self.expression()?;
            }
            return self.strength();
        }
        let mut parts = 0;
        if !self.is_word("of") {
            self.expression()?;
            parts += 1;
        }
        if self.here() == Kind::Word && self.is_word("of") {
            self.clause_of(&["of"])?;
            parts += 1;
        }
        while parts > 0 && self.here() == Kind::Comma {
            self.take();
            self.clause_of(&["margin", "gutter", "offset", "lean"])?;
        }
        Ok(())
    }

    /// `repeat slot 5 { ... }`, `repeat slot at least 2, at most 9 { ... }`.
    pub(crate) fn repeat(&mut self, depth: usize) -> Parsed {
        self.name("the name of what is repeated")?;
        if self.is_word("at") {
            self.listed(|parser| match parser.word() {
                "cut" => parser.clause_of(&["cut"]),
                _ => parser.limit(),
            })?;
        } else {
            self.expression()?;
        }
        self.block(depth + 1)
    }

    /// One of these words and its value.
    fn clause_of(&mut self, words: &[&str]) -> Parsed {
        self.open(Kind::Clause);
        let known = words.contains(&self.word());
        let parsed = if known {
            self.take();
            self.expression()
        } else {
            let (last, others) = words.split_last().map_or(("", &[][..]), |(last, others)| (*last, others));
            let or = if others.is_empty() { "" } else { " or " };
            let others: Vec<String> = others.iter().map(|word| format!("`{word}`")).collect();
            Err(self.error(&format!("{}{or}`{last}`", others.join(", "))))
        };
        self.close();
        parsed
    }

    /// One of these words.
    fn one_of<T>(&mut self, known: &[(&str, T)]) -> Parsed {
        if self.here() == Kind::Word && known.iter().any(|k| self.is_word(k.0)) {
            self.take();
            return Ok(());
        }
        let words: Vec<&str> = known.iter().map(|k| k.0).collect();
        let (last, others) = words.split_last().map_or(("", &[][..]), |(last, others)| (*last, others));
        Err(self.error(&format!("{} or {last}", others.join(", "))))
    }

    /// `share 2, at least 40, at most 200`.
    fn shared(&mut self) -> Parsed {
        self.expression()?;
        while self.here() == Kind::Comma {
            self.take();
            self.limit()?;
        }
        Ok(())
    }

    /// `at least 40` or `at most 200`.
    fn limit(&mut self) -> Parsed {
        self.open(Kind::Bound);
        let parsed = self.bound();
        self.close();
        parsed
    }
}
