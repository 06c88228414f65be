//! What a file says, and nothing uses.

use crate::model::id::ViewId;

/// Something that stands in a file and has no effect, to be told by a check.
#[derive(Clone, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum Leftover {
    /// Levels of the ladder that nothing is on.
    Levels(Vec<String>),
    /// A named number that nothing reads.
    Number(String),
    /// A state whose alternatives change nothing.
    State(String),
    /// A band that changes nothing.
    Band(String),
    /// A part that is placed nowhere.
    Part(String),
    /// A setting of a view that another one in the same block replaces.
    Replaced {
        /// The view.
        view: ViewId,
        /// The word that the setting begins with.
        word: String,
        /// The word of the other one.
        by: String,
    },
}

/// The leftovers of a screen. They are about a file, not about the screen: two screens do not differ by them.
#[derive(Clone, Debug, Default)]
pub(crate) struct Leftovers(pub(crate) Vec<Leftover>);

impl PartialEq for Leftovers {
    fn eq(&self, _: &Self) -> bool {
        true
    }
}
