//! TODO-HEAD

macro_rules! id {
    ($(#[$doc:meta])* $name:ident) => {
        $(#[$doc])*
        #[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
        pub struct $name(pub(crate) u32);

        impl $name {
            /// The position in the screen's table, counted from 0 in declared order.
            pub fn index(self) -> usize {
                self.0 as usize
            }
        }
    };
}

id!(
    /// A view of a screen.
    ViewId
);

id!(
    /// A rule of a screen: one line of it, which may hold several relations.
    RuleId
);

id!(
    /// A band of a screen.
    BandId
);

id!(
    /// A named number of a screen that bands change.
    ValueId
);

id!(
    /// A level of a screen's preferences; smaller is stronger.
    LevelId
);

/// The level that gives way first, whatever the ladder.
pub(crate) const WEAKEST: LevelId = LevelId(u32::MAX);
