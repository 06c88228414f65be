//! Ids: positions in a screen's tables, each tagged with the screen that it belongs to.

use std::sync::atomic::{AtomicU32, AtomicU64, Ordering};

/// Tells a screen from all others that were built in this process, and what an edit adds from what another one does. Screens of the same content are equal all
/// the same, so tags are equal to one another: only [`ScreenTag::is`] tells them apart.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct ScreenTag(u32);

impl ScreenTag {
    /// A tag that no other screen and no other edit has.
    pub(crate) fn fresh() -> Self {
        static NEXT: AtomicU32 = AtomicU32::new(1);
        Self(NEXT.fetch_add(1, Ordering::Relaxed))
    }

    /// Whether it is the very same tag.
    pub(crate) fn is(self, other: Self) -> bool {
        self.0 == other.0
    }
}

impl PartialEq for ScreenTag {
    fn eq(&self, _: &Self) -> bool {
        true
    }
}

/// Tells words from those that were there before. The same words are equal all the same, whenever they were given.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct Revision(u64);

impl Revision {
    /// One that no words had before.
    pub(crate) fn fresh() -> Self {
        static NEXT: AtomicU64 = AtomicU64::new(1);
        Self(NEXT.fetch_add(1, Ordering::Relaxed))
    }

    /// As a number: the later of two changes.
    pub(crate) fn number(self, other: Self) -> u64 {
        self.0.max(other.0)
    }
}

impl PartialEq for Revision {
    fn eq(&self, _: &Self) -> bool {
        true
    }
}

impl Eq for Revision {}

macro_rules! id {
    ($(#[$doc:meta])* $name:ident) => {
        $(#[$doc])*
        ///
        /// It belongs to one screen; others refuse it. Ids are compared by position.
        #[derive(Clone, Copy)]
        pub struct $name {
            index: u32,
            screen: ScreenTag,
        }

        impl $name {
            pub(crate) const fn new(index: usize, screen: ScreenTag) -> Self {
                Self { index: index as u32, screen }
            }

            /// The position in the screen's table, counted from 0 in declared order.
            pub const fn index(self) -> usize {
                self.index as usize
            }

            /// Whether it was given out with a tag.
            pub(crate) fn is_tagged(self, tag: ScreenTag) -> bool {
                self.screen.is(tag)
            }
        }

        impl std::fmt::Debug for $name {
            fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
                write!(f, "{}({})", stringify!($name), self.index)
            }
        }

        impl PartialEq for $name {
            fn eq(&self, other: &Self) -> bool {
                self.index == other.index
            }
        }

        impl Eq for $name {}

        impl PartialOrd for $name {
            fn partial_cmp(&self, other: &Self) -> Option<std::cmp::Ordering> {
                Some(self.cmp(other))
            }
        }

        impl Ord for $name {
            fn cmp(&self, other: &Self) -> std::cmp::Ordering {
                self.index.cmp(&other.index)
            }
        }

        impl std::hash::Hash for $name {
            fn hash<H: std::hash::Hasher>(&self, state: &mut H) {
                self.index.hash(state);
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

/// The level that gives way first, whatever the ladder; of no screen yet.
pub(crate) const WEAKEST: LevelId = LevelId::new(u32::MAX as usize, ScreenTag(0));
