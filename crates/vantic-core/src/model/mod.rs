//! Screens as data, every name resolved.
//!
//! From the ground up: `table`, `id`, `coordinate`, `expression`, `rule`; then what a view has (`arrangement`,
//! `guide`, `scroll`, `setting`, `view`), what a screen has (`band`, `state`, `condition`, `design`,
//! `language`, `claim`, `expectation`), the `screen` itself, and the `builder` that checks everything once.
//! `shortcuts` are rules that are more than a relation. `print` and `sentence` put a screen and its rules
//! into text, `in_rust` into calls of a builder. Stands on `geometry` and `display`; everything above reads it.

pub(crate) mod acceptance;
pub(crate) mod arrangement;
pub(crate) mod band;
pub(crate) mod build_error;
pub(crate) mod builder;
pub(crate) mod claim;
pub(crate) mod code;
pub(crate) mod condition;
pub(crate) mod coordinate;
pub(crate) mod design;
pub(crate) mod drawn_frames;
pub(crate) mod edges;
pub(crate) mod expectation;
pub(crate) mod expression;
pub(crate) mod guide;
pub(crate) mod id;
pub(crate) mod in_rust;
pub(crate) mod language;
pub(crate) mod leftover;
pub(crate) mod print;
mod print_condition;
pub(crate) mod rule;
pub(crate) mod rule_ref;
pub(crate) mod screen;
pub(crate) mod scroll;
pub(crate) mod sentence;
pub(crate) mod setting;
pub(crate) mod shortcuts;
pub(crate) mod state;
pub(crate) mod table;
pub(crate) mod validate;
pub(crate) mod view;

pub use acceptance::Acceptance;
pub use arrangement::{
    Align, Arrangement, ColumnWidth, Columns, GridShape, Item, MAX_COLUMNS, MAX_SPAN, Share, Space, Spread,
    VisibleSpares,
};
pub use band::{Band, Change, Value};
pub use build_error::{BuildError, BuildErrors};
pub use builder::builder::{CONTENT_BOX, Content, ScreenBuilder};
pub use builder::names::Names;
pub use claim::{Claim, Claimed, RANGES};
pub use code::Code;
pub use condition::{Condition, Order, Property, Tested, TestedParameter};
pub use coordinate::{Anchor, CLEAR, Coordinate, SAFE, SCREEN, Side, value_of};
pub use design::{Design, SCALE_RANGE, Scaling};
pub use drawn_frames::DrawnFrames;
pub use edges::Edges;
pub use expectation::{COORDINATES, Expectation, Expected, USUAL_WITHIN};
pub use expression::{
    Coordinates, Expr, MAX_MIN_MAX_NESTING, MinMax, MinMaxKind, Pair, Term, bearing, bearing_along, clamp,
    max, min, pick, pixel,
};
pub use guide::{Cells, Division, Guide, MAX_CELLS, Mark};
pub use id::{BandId, LevelId, RuleId, ValueId, ViewId};
pub use language::{Language, MAX_LANGUAGES, PSEUDO};
pub use leftover::Leftover;
pub use print::quoted;
pub use rule::{Comparison, Relation, Rule, RuleDraft, SNUG, Strength, WHOLE, ratio};
pub use rule_ref::RuleRef;
pub use screen::Screen;
pub use scroll::{Overflow, Scroll, Scrolled, StickyOffset, UnstickableView};
pub use setting::Setting;
pub use shortcuts::rules::{Length, spread, spread_in, spread_out};
pub use state::State;
pub use validate::{is_name, reserved_words};
pub use view::{Control, Image, Paint, Text, View};
