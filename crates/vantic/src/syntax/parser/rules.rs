//! Rules and the expressions in them.

use crate::syntax::error::SourceError;
use crate::syntax::lexer::Kind;
use crate::syntax::parser::parser::{Lost, Parsed, Parser, begins_value};

/// How deep expressions in brackets may be nested.
const MAX_BRACKETS: usize = 32;

impl Parser<'_> {
    fn pin(&mut self) -> Parsed {
        self.sides()?;
        self.keyword("to")?;
        self.path()?;
        self.bounded()
    }

    /// `left 16, right 16`: sides, each with its distance if there is one.
    pub(crate) fn sides(&mut self) -> Parsed {
        loop {
            self.open(Kind::PinSide);
            let side = self.name_after_operator("a side: left, right, top, bottom, start or end");
            let ends = !begins_value(self.here()) || self.is_word("to");
            let side = if side.is_err() || ends { side } else { self.expression() };
            self.close();
            side?;
            if self.here() != Kind::Comma {
                break;
            }
            self.take();
        }
        Ok(())
    }

    /// `below header by 8`: the view, and the distance if there is one.
    fn gap(&mut self) -> Parsed {
        self.path()?;
        if self.here() == Kind::Word && self.is_word("by") {
            self.take();
            self.expression()?;
        } else if begins_value(self.here()) {
            return Err(self.error("`by` before the distance"));
        }
        self.bounded()
    }

    /// The level, then what is true all the same: `~ rhythm, at least 8 ~ fit, at most 40`.
    fn bounded(&mut self) -> Parsed {
        self.strength()?;
        while self.here() == Kind::Comma {
            self.take();
            self.open(Kind::Bound);
            let parsed = self.bound().and_then(|()| self.strength());
            self.close();
            parsed?;
        }
        Ok(())
    }

    pub(crate) fn bound(&mut self) -> Parsed {
        let known = self.is_word("at") && matches!(self.word_ahead(1), "least" | "most");
        if !known {
            return Err(self.error("`at least` or `at most`"));
        }
        self.take();
        self.take();
        self.expression()
    }

    /// `between a.right and b.left, lean 30%, at most 400`.
    fn between(&mut self) -> Parsed {
        self.expression()?;
        self.keyword_and("and", " and the second edge")?;
        self.expression()?;
        while self.here() == Kind::Comma {
            self.take();
            self.open(Kind::Bound);
            let parsed = match self.word() {
                "lean" => {
                    self.take();
                    self.expression()
                }
                "at" if self.word_ahead(1) == "most" => self.bound(),
                _ => Err(self.error("`lean` and a fraction, or `at most` and a size")),
            };
            self.close();
            parsed?;
        }
        self.strength()
    }

    /// `contain 3 : 2 in card, lean (50%, 0%)`; an image goes without the ratio.
    fn fit(&mut self) -> Parsed {
        if !(self.here() == Kind::Word && self.is_word("in")) {
            self.expression()?;
            self.expect(Kind::Colon, "`:` and the second number, as in `3 : 2`")?;
            self.expression()?;
        }
        self.keyword_and("in", " and a box such as `parent`")?;
        self.path()?;
        if self.here() == Kind::Comma {
            self.take();
            self.keyword("lean")?;
            self.expression()?;
        }
        self.strength()
    }

    fn axis(&mut self) -> Parsed {
        if matches!(self.word(), "across" | "down") {
            self.take();
            return Ok(());
        }
        Err(self.error("`across` or `down`"))
    }

    /// `span across 25%..75% in parent, inset 8, 12`.
    fn span(&mut self) -> Parsed {
        self.axis()?;
        self.expression()?;
        self.expect(Kind::Range, "`..` and the second fraction, as in `25%..75%`")?;
        self.expression()?;
        self.keyword_and("in", " and a box such as `parent`")?;
        self.path()?;
        if self.here() == Kind::Comma {
            self.take();
            self.keyword("inset")?;
            self.list()?;
        }
        self.strength()
    }

    /// `enclose a, b, c by 8`.
    fn enclose(&mut self) -> Parsed {
        self.listed(Self::path)?;
        if self.here() == Kind::Word && self.is_word("by") {
            self.take();
            self.expression()?;
        } else if begins_value(self.here()) {
            return Err(self.error("`,` before the next view, or `by` and a distance"));
        }
        self.strength()
    }

    /// `spread across a, b, c in parent, evenly`.
    fn spread(&mut self) -> Parsed {
        self.axis()?;
        self.listed(Self::path)?;
        if self.here() == Kind::Word && self.is_word("in") {
            self.take();
            self.path()?;
            if self.here() == Kind::Comma {
                self.take();
                if !matches!(self.word(), "between" | "around" | "evenly") {
                    return Err(self.error("`between`, `around` or `evenly`"));
                }
                self.take();
            }
        } else if self.here() == Kind::Word {
            return Err(self.error("`,` before the next view, or `in` and a box"));
        }
        self.strength()
    }

    /// `drawn across 120, 160 in parent of 520, grow width, end`.
    fn drawn(&mut self) -> Parsed {
        self.axis()?;
        self.expression()?;
        self.expect(Kind::Comma, "`,` and the size that was drawn")?;
        self.expression()?;
        self.keyword_and("in", " and a box such as `parent`")?;
        self.path()?;
        self.keyword_and("of", " and the size that the box was drawn with")?;
        self.expression()?;
        if self.here() == Kind::Comma {
            self.take();
            self.keyword("grow")?;
            self.open(Kind::Bound);
            let parsed = self.listed(|p| p.name_after_operator("what grows, such as `width`"));
            self.close();
            parsed?;
        }
        self.strength()
    }

    fn ratio(&mut self) -> Parsed {
        self.path()?;
        self.expect(Kind::Colon, "`:` and the other side, as in `ratio width : height = 3 : 2`")?;
        self.path()?;
        self.expect(Kind::Equal, "`=` and two numbers, as in `3 : 2`")?;
        self.expression()?;
        self.expect(Kind::Colon, "`:` and the second number")?;
        self.expression()?;
        self.strength()
    }

    pub(crate) fn rule(&mut self, depth: usize) -> Parsed {
        match self.form() {
            Some(kind) => self.formed(kind),
            None => {
                self.open(Kind::Rule);
                let parsed = self.rule_parts(depth);
                self.close();
                parsed
            }
        }
    }

    /// The kind of rule that the next word begins, where it is not a relation.
    fn form(&self) -> Option<Kind> {
        let second = self.look(1).0;
        match self.word() {
            _ if matches!(second, Kind::Colon | Kind::Dot) => None,
            "pin" => Some(Kind::Pin),
            "ratio" => Some(Kind::Ratio),
            "below" | "above" | "before" | "after" if second == Kind::Word => Some(Kind::Gap),
            "between" if begins_value(second) => Some(Kind::Between),
            "contain" | "cover" if begins_value(second) => Some(Kind::Fit),
            "span" if second == Kind::Word => Some(Kind::Span),
            "drawn" if second == Kind::Word => Some(Kind::Drawn),
            "spread" if second == Kind::Word => Some(Kind::Spread),
            "enclose" if second == Kind::Word => Some(Kind::Enclose),
            _ => None,
        }
    }

    fn formed(&mut self, kind: Kind) -> Parsed {
        self.open(kind);
        self.take();
        let parsed = match kind {
            Kind::Pin => self.pin(),
            Kind::Ratio => self.ratio(),
            Kind::Gap => self.gap(),
            Kind::Between => self.between(),
            Kind::Fit => self.fit(),
            Kind::Span => self.span(),
            Kind::Spread => self.spread(),
            Kind::Enclose => self.enclose(),
            _ => self.drawn(),
        };
        self.close();
        parsed
    }

    fn rule_parts(&mut self, depth: usize) -> Parsed {
        if self.next() == Kind::Word && self.look(1).0 == Kind::Colon {
            self.open(Kind::Label);
            self.take();
            self.take();
            self.close();
            if let Some(kind) = self.form() {
                // The label stays with what it names.
                return self.formed(kind);
            }
        }
        if self.next() == Kind::OpenBrace {
            return self.braces(depth + 1);
        }
        if !matches!(self.next(), Kind::Word | Kind::Number | Kind::Minus | Kind::Open) {
            return Err(self.error("a rule such as `top = prev.bottom + 8`, a view, or `}`"));
        }
        self.expression()?;
        if !matches!(self.here(), Kind::Equal | Kind::AtMost | Kind::AtLeast) {
            let strict = matches!(self.here(), Kind::Below | Kind::Above);
            let expected = if strict { "`<=` or `>=`" } else { "`=`, `<=` or `>=`" };
            return Err(self.error(expected));
        }
        let equal = self.here() == Kind::Equal;
        self.take();
        self.expression()?;
        if equal { self.bounded() } else { self.strength() }
    }

    /// `~ level weight 2`, which may start the next line.
    pub(crate) fn strength(&mut self) -> Parsed {
        if self.next() != Kind::Tilde {
            return Ok(());
        }
        self.open(Kind::Strength);
        self.take();
        let mut parsed = self.name_after_operator("the name of a level");
        if parsed.is_ok() && self.here() == Kind::Word && self.is_word("weight") {
            self.take();
            parsed = self.expression();
        }
        self.close();
        parsed
    }

    pub(crate) fn expression(&mut self) -> Parsed {
        self.chain(Kind::Binary, Self::product, |p| matches!(p.here(), Kind::Plus | Kind::Minus))
    }

    fn product(&mut self) -> Parsed {
        self.chain(Kind::Binary, Self::factor, |p| matches!(p.here(), Kind::Star | Kind::Slash))
    }

    fn factor(&mut self) -> Parsed {
        match self.next() {
            Kind::Minus => {
                self.open(Kind::Negative);
                self.take();
                let inner = self.deeper(Self::factor);
                self.close();
                inner
            }
            Kind::Open => self.bracketed(Kind::Group, Self::list),
            Kind::Number => {
                let start = self.checkpoint();
                self.take();
                if self.here() == Kind::Percent {
                    self.open_at(start, Kind::Percentage);
                    self.take();
                    let of = if self.here() == Kind::Word && self.is_word("of") {
                        self.take();
                        self.deeper(Self::factor)
                    } else {
                        Ok(())
                    };
                    self.close();
                    return of;
                }
                self.open_at(start, Kind::Literal);
                let unit = matches!(self.tokens.get(self.at), Some((Kind::Word, _)));
                if self.here() == Kind::Word && self.is_word("deg") {
                    self.take();
                } else if unit {
                    self.close();
                    return Err(self.unit());
                }
                self.close();
                Ok(())
            }
            Kind::Word => {
                let start = self.checkpoint();
                self.path()?;
                if self.here() == Kind::Open {
                    self.open_at(start, Kind::Call);
                    let arguments = self.bracketed(Kind::Group, Self::list);
                    self.close();
                    return arguments;
                }
                Ok(())
            }
            _ => Err(self.error("a number or a coordinate")),
        }
    }

    /// A word that clings to a number.
    fn unit(&mut self) -> Lost {
        let message = format!("`{}` is not a unit", self.word());
        let error = SourceError::new(self.next_span(), message);
        self.report(error.help("lengths are logical pixels and stand without a unit; angles end in `deg`"));
        Lost
    }

    fn list(&mut self) -> Parsed {
        self.expression()?;
        while self.here() == Kind::Comma {
            self.take();
            self.expression()?;
        }
        Ok(())
    }

    pub(crate) fn bracketed(&mut self, kind: Kind, inner: fn(&mut Self) -> Parsed) -> Parsed {
        self.open(kind);
        self.take();
        let parsed = self.deeper(inner).and_then(|()| self.expect(Kind::Close, "`)`"));
        self.close();
        parsed
    }

    pub(crate) fn deeper(&mut self, inner: fn(&mut Self) -> Parsed) -> Parsed {
        if self.brackets >= MAX_BRACKETS {
            let message = format!("brackets are nested too deep: the limit is {MAX_BRACKETS}");
            self.report(SourceError::new(self.next_span(), message));
            return Err(Lost);
        }
        self.brackets += 1;
        let parsed = inner(self);
        self.brackets -= 1;
        parsed
    }
}
