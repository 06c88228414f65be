//! Suggested fixes of findings, each tried on every display before it is offered.
//!
//! `candidates` thinks of other ways to write the rules that a finding is about, or of a missing rule, the
//! likelier first, with what `analogues` say; `structural`, `kept_inside`, `kept_apart`, `ended` and
//! `declared` have what practitioners reach for first; `in_bands` what is wrong in a band, `into_scroller` and
//! `then_scrolled` pages that are too tall, `collapsed` what has no size,
//! `bare_sides` bare numbers;
//! `missing_rules`, `progression`, `enclosing_edges` and `breakpoint_fix` add
//! more; `queue` orders them, `budget` bounds the work. `trial` reads the file with such a change and checks it, from the `baseline` that
//! is solved without it,
//! and asks `ruin` what becomes of views, on `other_displays` too. `rule_source` knows how rules are written, `change` what a change makes of a file,
//! `drawn_places` has what drawings say, `redrawn` changes constants so that rules give a drawing; `context` what all of them share, `weights` how likely each idea is to be meant,
//! `usual` which distances are. `reasons` says what
//! speaks for it, how sure it is and what comes of it. `fixes` is the entry.

pub(crate) mod analogues;
pub(crate) mod bare_sides;
pub(crate) mod baseline;
pub(crate) mod breakpoint_fix;
pub(crate) mod budget;
pub(crate) mod candidates;
pub(crate) mod change;
pub(crate) mod collapsed;
pub(crate) mod context;
pub(crate) mod declared;
pub(crate) mod drawn_places;
pub(crate) mod enclosing_edges;
pub(crate) mod ended;
pub(crate) mod fixes;
pub(crate) mod in_bands;
pub(crate) mod into_scroller;
pub(crate) mod kept_apart;
pub(crate) mod kept_inside;
pub(crate) mod missing_rules;
pub(crate) mod other_displays;
pub(crate) mod progression;
pub(crate) mod queue;
pub(crate) mod reasons;
pub(crate) mod redrawn;
pub(crate) mod ruin;
pub(crate) mod rule_source;
pub(crate) mod structural;
pub(crate) mod then_scrolled;
pub(crate) mod trial;
pub(crate) mod usual;
pub(crate) mod weights;

pub use change::{EditError, edited, joined};
pub use context::Fixes;
pub use fixes::{FINDINGS_FOR_FIXES, MAX_FIXED_FINDINGS, MAX_FIXES, looked_at, without};
pub use in_bands::instead_of_hidden;
pub use redrawn::{Redrawn, Refused, follow_drawing, redrawn};
