//! A finding in words.

use crate::finding::detail::Detail;
use crate::finding::finding::Finding;
use crate::finding::words::phrases::Words;
use vantic_core::model::Screen;

impl Finding {
    /// What is wrong, in plain words.
    pub fn message(&self, screen: &Screen) -> String {
        self.words(screen).0
    }

    /// What to do next, in plain words.
    pub fn help(&self, screen: &Screen) -> String {
        self.words(screen).1
    }

    /// Both.
    pub(crate) fn words(&self, screen: &Screen) -> Words {
        match &self.detail {
            Detail::Rules(detail) => self.rule_words(screen, detail),
            Detail::Doubt(detail) => self.doubt_words(screen, detail),
            Detail::Declared(detail) => self.declared_words(screen, detail),
            Detail::Frames(detail) => self.frame_words(screen, detail),
        }
    }
}
