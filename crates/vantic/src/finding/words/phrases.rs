//! Names and words that findings of several kinds share.

use crate::finding::detail::{DeclaredDetail, Detail, DoubtDetail, RuleDetail};
use crate::finding::finding::Finding;
use vantic_core::model::{BandId, Leftover, RuleRef, Screen, View};
use vantic_core::words::once;

/// What is wrong, and what to do next.
pub(crate) type Words = (String, String);

/// What to do about what is probably meant.
pub(crate) const IF_INTENDED: &str = "nothing to do if that is intended";

impl Finding {
    /// The paths of the views it is about.
    pub fn paths(&self, screen: &Screen) -> Vec<String> {
        self.views.iter().map(|&view| screen.path(view)).collect()
    }

    /// The names of the rules that take part, and of what is no rule and has a name: a row, a band, what an
    /// acceptance names.
    pub fn rule_names(&self, screen: &Screen) -> Vec<String> {
        match &self.detail {
            Detail::Rules(RuleDetail::NothingToArrange | RuleDetail::SpreadWithoutSpace) => {
                vec![format!("{}.{}", self.path(screen, 0), self.arrangement(screen))]
            }
            Detail::Rules(RuleDetail::NotArranged { words, .. }) => {
                words.iter().map(|word| format!("{}.{word}", self.path(screen, 0))).collect()
            }
            Detail::Rules(RuleDetail::CollapsedChildren { .. }) => match *self.views.as_slice() {
                [view, child, ..] => vec![RuleRef::Arranged { view, child, band: None }.name(screen)],
                _ => Vec::new(),
            },
            Detail::Declared(DeclaredDetail::Contested { first, last, .. }) => {
                [first, last].map(|band| band_name(screen, *band)).to_vec()
            }
            Detail::Declared(DeclaredDetail::Leftover(index)) => match screen.leftovers().get(*index) {
                Some(
                    Leftover::Number(name)
                    | Leftover::State(name)
                    | Leftover::Band(name)
                    | Leftover::Part(name),
                ) => vec![name.clone()],
                Some(Leftover::Levels(names)) => names.clone(),
                Some(Leftover::Replaced { view, word, .. }) => vec![format!("{}.{word}", screen.path(*view))],
                _ => Vec::new(),
            },
            Detail::Doubt(DoubtDetail::GuideClauses { words }) => {
                words.iter().map(|word| format!("{}.{word}", self.path(screen, 0))).collect()
            }
            Detail::Declared(DeclaredDetail::IdleAcceptance(index)) => {
                let names = screen.acceptances().get(*index).map(|a| a.names()).unwrap_or_default();
                names.iter().filter(|name| screen.find(name).is_none()).cloned().collect()
            }
            _ => once(self.rules.iter().map(|rule| rule.name(screen))),
        }
    }

    /// Why the author accepts it, if they do.
    pub fn reason<'a>(&self, screen: &'a Screen) -> Option<&'a str> {
        Some(screen.acceptances().get(self.accepted?)?.reason())
    }

    pub(crate) fn path(&self, screen: &Screen, index: usize) -> String {
        self.views.get(index).map_or_else(String::new, |&view| screen.path(view))
    }

    pub(crate) fn first_view<'a>(&self, screen: &'a Screen) -> Option<&'a View> {
        screen.view(*self.views.first()?)
    }

    /// Whether the first view is a text.
    pub(crate) fn is_of_text(&self, screen: &Screen) -> bool {
        self.first_view(screen).is_some_and(|v| v.text().is_some())
    }

    /// The name of the first rule.
    pub(crate) fn rule(&self, screen: &Screen) -> String {
        self.rules.first().map_or_else(String::new, |rule| rule.name(screen))
    }

    /// The first coordinate, as it is spelled.
    pub(crate) fn coordinate(&self) -> &'static str {
        self.coordinates.first().map_or("", |(_, coordinate)| coordinate.spelling())
    }

    /// `row`, `column` or `grid`: how the first view arranges its children.
    pub(crate) fn arrangement(&self, screen: &Screen) -> &'static str {
        self.first_view(screen).and_then(|v| v.arrangement()).map_or("row", |a| a.word())
    }
}

pub(crate) fn band_name(screen: &Screen, band: BandId) -> String {
    screen.bands().get(band.index()).map_or_else(String::new, |b| b.name().to_owned())
}
