//! Solving with `max` and `min`: `choice` is one assignment of arguments, `alternatives` searches through them (branch and bound),
//! `memory` keeps what was solved on the way, `conflict` finds what cannot hold whatever is chosen.

pub(crate) mod alternatives;
pub(crate) mod choice;
pub(crate) mod conflict;
pub(crate) mod memory;
