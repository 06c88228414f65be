//! The codes of findings: `accept` names them, so they stand with the model.

#[cfg(feature = "json")]
use serde::Serialize;

macro_rules! codes {
    ($($(#[$doc:meta])* $code:ident = $name:literal,)*) => {
        /// What is wrong.
        #[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
        #[cfg_attr(feature = "json", derive(Serialize))]
        #[cfg_attr(feature = "json", serde(rename_all = "snake_case"))]
        pub enum Code { $($(#[$doc])* $code,)* }

        impl Code {
            /// All codes.
            pub const ALL: [Code; [$($name),*].len()] = [$(Code::$code),*];

            /// The name in messages, in `accept` and in machine output.
            pub fn name(self) -> &'static str {
                match self { $(Code::$code => $name,)* }
            }
        }
    };
}

codes! {
    /// Required rules that cannot all hold.
    Conflict = "conflict",
    /// A coordinate with more than one best value.
    Ambiguous = "ambiguous",
    /// A box that collapses to zero: no space is left for what it holds or divides into.
    Collapse = "collapse",
    /// Content and size that do not converge.
    Unsettled = "unsettled",
    /// A frame that is not as the screen expects it.
    Unmet = "unmet",
    /// Something that the screen claims, and that is not so.
    Claim = "claim",
    /// A view beyond the screen or beyond its parent.
    Outside = "outside",
    /// Content larger than its frame.
    Cut = "cut",
    /// Content that is shown in another shape than it has.
    Stretched = "stretched",
    /// Preferences on one level that conflict.
    Tie = "tie",
    /// Siblings that partly cover one another.
    Overlap = "overlap",
    /// Content under the display's insets.
    Covered = "covered",
    /// A control below its least size.
    Small = "small",
    /// A background that leaves strips of the screen open.
    Uncovered = "uncovered",
    /// A view that is not where it was drawn.
    Drift = "drift",
    /// A view that jumps where a band begins.
    Jump = "jump",
    /// A preference that gave way.
    Missed = "missed",
    /// A nested view's edge tied to a bare number.
    Bare = "bare",
    /// A rule that differs from those of all similar views.
    Odd = "odd",
    /// Something written that decides nothing.
    Idle = "idle",
    /// Bands that change the same thing while both hold.
    Contested = "contested",
    /// Texts that a language has no words for.
    Untranslated = "untranslated",
}

impl Code {
    /// Whether it is about where views landed, whatever rules are behind that.
    pub fn is_of_frames(self) -> bool {
        use Code::{Covered, Cut, Outside, Overlap, Small, Stretched, Uncovered};
        matches!(self, Outside | Cut | Stretched | Overlap | Covered | Small | Uncovered)
    }

    /// The code of this name.
    pub fn find(name: &str) -> Option<Code> {
        Self::ALL.into_iter().find(|c| c.name() == name)
    }
}
