//! Settings: the statements of a view that are not rules.

use crate::resolve::reader::Reader;
use crate::resolve::scope::{Done, Reported, Value};
use crate::screen_ext::ScreenExt as _;
use crate::syntax::ast::arranging as ast;
use crate::syntax::ast::nodes::{is_arranging, node_span, of_kind};
use crate::syntax::lexer::Kind;
use crate::syntax::tree::Node;
use std::ops::Range;
use vantic_core::model::{BandId, BuildError, Image, Setting, ViewId};

/// The value of the setting of a block that begins with a word.
pub(crate) fn setting_in(block: &Node, word: &str) -> Option<Node> {
    let settings = of_kind(block, Kind::Setting).filter_map(|node| ast::Setting::of(&node));
    settings.into_iter().find(|s| s.word.text() == word)?.value
}

impl Reader {
    /// The natural size of an image that is declared.
    pub(crate) fn natural(&mut self, name: &str, at: Range<usize>, block: Option<&Node>) -> Done<Image> {
        let Some(size) = block.and_then(|b| setting_in(b, "natural")) else {
            let message = format!("the image `{name}` has no natural size");
            return Err(self.error_with_help(
                at,
                message,
                "add a line such as `natural (640, 400)` to its block",
            ));
        };
        let (width, height) = self.two(&size, None)?;
        Ok(Image { width, height })
    }

    pub(crate) fn setting(&mut self, node: &Node, owner: Option<ViewId>, band: Option<BandId>) -> Done {
        let ast::Setting { word, value, strength } = ast::Setting::of(node).ok_or(Reported)?;
        let Some(view) = owner else {
            let message = format!("`{}` belongs in the block of a view", word.text());
            return Err(self.error_with_help(
                node_span(node),
                message,
                "move it into the view that it is about",
            ));
        };
        let setting = match (word.text(), strength) {
            _ if is_arranging(node.kind()) => {
                let setting = self.arranging(node, view)?;
                if let (Setting::Arrange(_), Some(band)) = (&setting, band) {
                    self.map.arrangements.insert((view, band), node_span(node));
                }
                setting
            }
            ("whole", Some(strength)) => {
                let (level, weight) = self.strength(&strength, owner)?;
                Setting::Whole(level, weight)
            }
            ("snug", Some(strength)) => {
                let (level, weight) = self.strength(&strength, owner)?;
                Setting::Snug(level, weight)
            }
            (word, _) => self.of_word(word, &value.ok_or(Reported)?, owner)?,
        };
        // Where the view can have nothing to scroll, that has been said.
        let no_sheet =
            matches!(setting, Setting::Scroll(_)) && self.builder.screen().at(view).scrolled().is_none();
        if no_sheet && band.is_none() {
            return Err(Reported);
        }
        match self.builder.add_setting(band, view, setting) {
            Err(error @ BuildError::NoSuchSetting { word, .. }) => {
                let help = match word {
                    "natural" => "declare it as `image name { natural (640, 400) }`",
                    "whole" | "snug" => {
                        "only what has content or children in a row or column can keep to their size: give \
                         it a `width` and a `height`"
                    }
                    "columns" | "rows" | "padding" | "line" => "declare it as `guide name { ... }`",
                    "scroll" => {
                        "say in its own block that it can scroll: `scroll off` where only bands make it"
                    }
                    "row" | "column" | "grid" | "overhang" => "put it and what it stands with into a `view`",
                    _ => "declare it as `text name \"words\" { font 16 }`",
                };
                Err(self.error_with_help(node_span(node), error.to_string(), help))
            }
            result => self.built(result, node_span(node)),
        }
    }

    fn of_word(&mut self, word: &str, value: &Node, owner: Option<ViewId>) -> Done<Setting> {
        Ok(match word {
            "font" => Setting::Font(self.number(value, owner)?),
            "line" => Setting::Line(self.number(value, owner)?),
            "lines" => {
                let lines = self.number(value, owner)?;
                if lines.fract() != 0.0 || !(1.0..=1e6).contains(&lines) {
                    let message = format!("{lines} lines cannot be shown");
                    return Err(self.error_with_help(
                        node_span(value),
                        message,
                        "write a whole number from 1 up",
                    ));
                }
                Setting::Lines(lines as u32)
            }
            "style" => Setting::Style(value.text().to_string().trim().to_owned()),
            "natural" => {
                let (width, height) = self.two(value, owner)?;
                Setting::Natural(width, height)
            }
            "origin" => {
                let parts: Vec<Node> = value.children().collect();
                let ([x, y], Kind::Group) = (parts.as_slice(), value.kind()) else {
                    let help =
                        "write two fractions of the frame: `origin (0%, 100%)` is the bottom left corner";
                    return Err(self.error_with_help(node_span(value), "`origin` takes two fractions", help));
                };
                Setting::Origin(self.fraction(x, owner)?, self.fraction(y, owner)?)
            }
            "rotate" => Setting::Rotate(self.number(value, owner)?),
            "depth" => Setting::Depth(self.number(value, owner)?),
            _ => {
                let (x, y) = self.two(value, owner)?;
                Setting::Scale(x, y)
            }
        })
    }

    /// A pair of plain numbers; one fills both.
    pub(crate) fn two(&mut self, node: &Node, owner: Option<ViewId>) -> Done<(f64, f64)> {
        match self.value(node, owner)? {
            Value::One(n) if n.is_number() => Ok((n.constant(), n.constant())),
            Value::Two(pair) if pair.0.is_number() && pair.1.is_number() => {
                Ok((pair.0.constant(), pair.1.constant()))
            }
            _ => {
                let help = "write one number, or two: `(640, 400)`";
                Err(self.error_with_help(node_span(node), "expected plain numbers, found a coordinate", help))
            }
        }
    }
}
