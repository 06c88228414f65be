//! The JSON form of a screen file as types: the same content, statement by statement, without comments.
//!
//! It is made from the syntax tree and written as text again. Both go through the one grammar of the
//! language, so that a form can say nothing that a file cannot.

use crate::syntax::error::SourceErrors;
use schemars::JsonSchema;
use serde::de::value::MapAccessDeserializer;
use serde::de::{Deserializer, MapAccess, Visitor};
use serde::{Deserialize, Serialize};

/// Why a JSON form could not be used.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
#[non_exhaustive]
pub enum FormError {
    /// It is no JSON, or not of the published schema.
    #[error("line {line}, column {column}: {message}")]
    Json {
        /// The line, counted from 1.
        line: usize,
        /// The column, counted from 1.
        column: usize,
        /// What is wrong.
        message: String,
    },
    /// A name in it is not a word of letters, digits and `_`.
    #[error("`{0}` is not a name: use letters, digits and `_`, joined by dots for a path")]
    Name(String),
    /// A number in it is not one that a file can hold.
    #[error("{0} is not a number that a screen file can hold")]
    Number(f64),
    /// Written as a screen file it is not understood.
    #[error("written as a screen file: {0}")]
    Text(SourceErrors),
}

/// The JSON form of a screen file.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Form {
    /// The name of the screen.
    pub(crate) screen: String,
    /// The file that it is based on.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) from: Option<String>,
    /// What stands in it, in written order.
    pub(crate) statements: Vec<Statement>,
}

/// Skips what is not said.
fn is_false(flag: &bool) -> bool {
    !flag
}

/// One statement.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case", deny_unknown_fields)]
pub(crate) enum Statement {
    /// The levels of preference, strongest first.
    Ladder(Vec<String>),
    /// The size that the screen is drawn for, a group of two, and how it is scaled to others.
    Design {
        size: Expression,
        /// The same for the other orientation.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        or: Option<Expression>,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        scaling: Option<Scaling>,
        /// The share of the height, with `blend` and `mix`.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        by: Option<Expression>,
    },
    /// The bands of its base that the screen uses.
    Adopt(Vec<String>),
    /// Other words for a text of the base.
    Words(String),
    /// Alternatives of the screen, of which one is shown at a time.
    State { name: String, of: Vec<String> },
    /// A named condition on the display.
    Band { name: String, when: Test },
    /// A number with a name; in a band, another value for it.
    Let { name: String, value: Expression },
    /// A number that the application sets within a range, and what it is until then.
    Param { name: String, value: Expression, from: Expression, to: Expression },
    /// A view and the statements in its block.
    View { name: String, block: Vec<Statement> },
    /// A text: its words, and the statements in its block.
    Text { name: String, words: TextContent, block: Vec<Statement> },
    /// A piece of a screen, and what it takes.
    Part {
        name: String,
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        takes: Vec<Argument>,
        block: Vec<Statement>,
    },
    /// Places a part here, and gives it what it takes.
    Use {
        part: String,
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        with: Vec<Argument>,
    },
    /// An image and the statements in its block.
    Image { name: String, block: Vec<Statement> },
    /// A guide: a box that is not painted, to be pinned to.
    Guide { name: String, block: Vec<Statement> },
    /// Goes on with a declared view.
    In { view: String, block: Vec<Statement> },
    /// The same for several views.
    Each { views: Vec<String>, block: Vec<Statement> },
    /// What changes while a band holds.
    When { band: String, block: Vec<Statement> },
    /// Removes a view, or keeps its space, or shows another instead.
    Hide {
        view: String,
        #[serde(default, skip_serializing_if = "is_false")]
        keep_space: bool,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        show: Option<String>,
    },
    /// Shows a view that is hidden otherwise.
    Show(String),
    /// The bands in which alone a view is there.
    OnlyIn(Vec<String>),
    /// Drops a rule by its name, such as `board.tall` or `board#2`.
    Drop(String),
    /// Accepts a finding on purpose.
    Accept { finding: String, of: Vec<String>, because: String },
    /// Claims that something is so over a whole range of displays.
    Claim {
        of: String,
        is: ClaimForm,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        to: Option<String>,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        by: Option<Expression>,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        over: Option<Test>,
    },
    /// The words of texts in a language; without them the words of the file are in it.
    Language {
        name: String,
        #[serde(default, skip_serializing_if = "is_false")]
        right_to_left: bool,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        words: Option<Vec<Translation>>,
    },
    /// What is expected to come out on a display.
    Expect {
        on: String,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        within: Option<Expression>,
        of: Vec<ExpectedForm>,
    },
    /// Where views were drawn on a display.
    Drawing { on: String, of: Vec<ExpectedForm> },
    /// The font size of a text.
    Font(Expression),
    /// The height of a text's lines.
    Line(Expression),
    /// How many lines of a text are shown at most.
    Lines(Expression),
    /// The name of a text's style.
    Style(String),
    /// The natural size of an image.
    Natural(Expression),
    /// The point that turning and scaling leave where it is.
    Origin(Expression),
    /// How far it is painted turned.
    Rotate(Expression),
    /// How much larger it is painted.
    Scale(Expression),
    /// How near it is to the reader.
    Depth(Expression),
    /// How strongly content is not to be cut.
    Whole(Strength),
    /// How strongly a view is not to be larger than its content.
    Snug(Strength),
    /// Children after one another along the reading direction.
    Row(Arranged),
    /// Children below one another.
    Column(Arranged),
    /// The columns of a guide.
    Columns(Divided),
    /// The rows of a guide.
    Rows(Divided),
    /// How far a guide lies inside its parent: one distance, or a group of four.
    Padding(Expression),
    /// A guide is a line across its parent, so far from its start or top.
    Mark {
        axis: Axis,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        at: Option<Expression>,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        strength: Option<Strength>,
    },
    /// Children in cells, one row after another.
    Grid {
        columns: GridColumns,
        /// How high each row is.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        rows: Option<Expression>,
        /// The distance between cells; a group of two tells columns and rows apart.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        gap: Option<Expression>,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        padding: Option<Expression>,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        align: Option<Align>,
    },
    /// How many columns a child takes, or a group of two: columns and rows.
    Cells(Expression),
    /// How much a child takes of the space that is left.
    Share {
        weight: Expression,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        at_least: Option<Expression>,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        at_most: Option<Expression>,
    },
    /// An empty length among children: stated, or a share of the space; a share of 1 without either.
    Space {
        #[serde(default, skip_serializing_if = "Option::is_none")]
        length: Option<Expression>,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        share: Option<Expression>,
    },
    /// A child is shown only where there is space for it; cut, where so much of it can be seen.
    Spare {
        #[serde(default, skip_serializing_if = "Option::is_none")]
        cut: Option<Expression>,
    },
    /// A view several times: so often, or as often as there is space for.
    Repeat {
        name: String,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        count: Option<Expression>,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        at_least: Option<Expression>,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        at_most: Option<Expression>,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        cut: Option<Expression>,
        block: Vec<Statement>,
    },
    /// Which way a view scrolls what it holds.
    Scroll(Scroll),
    /// What becomes of what is larger than the view that holds it.
    Overhang(Overhang),
    /// Sides of the view that scrolls it that a view sticks to, at distances inwards.
    Stick(Vec<PinnedSide>),
    /// A child stays out of the arrangement.
    Apart {},
    /// A view is pointed at or touched, and how wide and high it is to be at least.
    Control {
        #[serde(default, skip_serializing_if = "Option::is_none")]
        at_least: Option<Expression>,
    },
    /// A view lies over others on purpose, with what is in it.
    Floats {},
    /// A view is typed into.
    Input {},
    /// Where a child lies across, if not as the others.
    Sit(Align),
    /// A relation: `left is right`.
    Rule {
        #[serde(default, skip_serializing_if = "Option::is_none")]
        label: Option<String>,
        left: Expression,
        is: Comparison,
        right: Expression,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        strength: Option<Strength>,
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        bounds: Vec<Bound>,
    },
    /// Sides pinned to the same sides of a box, at distances inwards.
    Pin {
        #[serde(default, skip_serializing_if = "Option::is_none")]
        label: Option<String>,
        sides: Vec<PinnedSide>,
        to: String,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        strength: Option<Strength>,
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        bounds: Vec<Bound>,
    },
    /// `a : b = m : n`, which derives `a`.
    Ratio {
        #[serde(default, skip_serializing_if = "Option::is_none")]
        label: Option<String>,
        a: String,
        b: String,
        m: Expression,
        n: Expression,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        strength: Option<Strength>,
    },
    /// A distance to another view: `below`, `above`, `after` or `before` it.
    Gap {
        #[serde(default, skip_serializing_if = "Option::is_none")]
        label: Option<String>,
        side: GapSide,
        of: String,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        by: Option<Expression>,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        strength: Option<Strength>,
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        bounds: Vec<Bound>,
    },
    /// Between two edges, leaning to one of them, at most so large.
    Between {
        #[serde(default, skip_serializing_if = "Option::is_none")]
        label: Option<String>,
        from: Expression,
        to: Expression,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        lean: Option<Expression>,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        at_most: Option<Expression>,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        strength: Option<Strength>,
    },
    /// The largest of a ratio inside a box.
    Contain(Fitted),
    /// The smallest of a ratio that covers a box.
    Cover(Fitted),
    /// Edges at fractions of a box, with insets.
    Span {
        #[serde(default, skip_serializing_if = "Option::is_none")]
        label: Option<String>,
        axis: Axis,
        from: Expression,
        to: Expression,
        of: String,
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        inset: Vec<Expression>,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        strength: Option<Strength>,
    },
    /// A drawn position and size in a box of a drawn size, and which lengths grow with the box.
    Drawn {
        #[serde(default, skip_serializing_if = "Option::is_none")]
        label: Option<String>,
        axis: Axis,
        at: Expression,
        size: Expression,
        of: String,
        whole: Expression,
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        grow: Vec<String>,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        strength: Option<Strength>,
    },
    /// The same distances among views, and to a box.
    Spread {
        #[serde(default, skip_serializing_if = "Option::is_none")]
        label: Option<String>,
        axis: Axis,
        views: Vec<String>,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        of: Option<String>,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        how: Option<Spread>,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        strength: Option<Strength>,
    },
    /// Around the outermost of several views.
    Enclose {
        #[serde(default, skip_serializing_if = "Option::is_none")]
        label: Option<String>,
        views: Vec<String>,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        by: Option<Expression>,
        #[serde(default, skip_serializing_if = "Option::is_none")]
        strength: Option<Strength>,
    },
    /// Several rules that go by one name.
    Together {
        #[serde(default, skip_serializing_if = "Option::is_none")]
        label: Option<String>,
        rules: Vec<Statement>,
    },
}

/// The words of one text in a language.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Translation {
    pub(crate) text: String,
    pub(crate) words: String,
}

/// What is expected of a view: a group of four for its frame, a number for one coordinate; hidden without
/// either.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct ExpectedForm {
    pub(crate) of: String,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) is: Option<Expression>,
}

/// The words of a text, or the name under which its part is given them.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(untagged)]
pub(crate) enum TextContent {
    Said(String),
    Given { given: String },
}

/// What a part takes or is given: words, or a number, a coordinate or a level; where it is declared, what it
/// is without being given.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Argument {
    pub(crate) name: String,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) words: Option<String>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) value: Option<Expression>,
}

/// How a view arranges its children.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Arranged {
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) gap: Option<Expression>,
    /// One distance, or a group of four: at the start, the top, the end and the bottom.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) padding: Option<Expression>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) spread: Option<Spread>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) align: Option<Align>,
    #[serde(default, skip_serializing_if = "is_false")]
    pub(crate) wrap: bool,
    /// The distance between lines, where they wrap.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) wrap_by: Option<Expression>,
}

/// The columns of a grid: a number, a width, a least width, or a number and `snug`.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct GridColumns {
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) count: Option<Expression>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) of: Option<Expression>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) at_least: Option<Expression>,
    #[serde(default, skip_serializing_if = "is_false")]
    pub(crate) snug: bool,
}

/// How a guide is divided: a number, a size of each, or both.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Divided {
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) count: Option<Expression>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) of: Option<Expression>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) margin: Option<Expression>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) gutter: Option<Expression>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) offset: Option<Expression>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) lean: Option<Expression>,
}

/// A ratio fitted to a box; an image goes without the two numbers.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Fitted {
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) label: Option<String>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) ratio: Option<[Expression; 2]>,
    pub(crate) of: String,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) lean: Option<Expression>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) strength: Option<Strength>,
}

/// A side and its distance inwards.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct PinnedSide {
    pub(crate) side: String,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) by: Option<Expression>,
}

/// The level of a preference, and how much it counts there.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Strength {
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) level: Option<String>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) weight: Option<Expression>,
}

/// What holds all the same when the preference before it gives way.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Bound {
    pub(crate) at: End,
    pub(crate) value: Expression,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) strength: Option<Strength>,
}

/// A word of a list, spelled in JSON as in a file.
pub(crate) trait Spelled: Copy + 'static {
    /// All of them, with their spelling.
    const ALL: &'static [(&'static str, Self)];

    /// The word of a spelling.
    fn find(spelled: &str) -> Option<Self> {
        Self::ALL.iter().find(|(of, _)| *of == spelled).map(|(_, word)| *word)
    }
}

/// Gives an enum of words.
macro_rules! words {
    ($($(#[$doc:meta])* $name:ident { $($word:ident = $spelled:literal,)* })*) => {$(
        $(#[$doc])*
        #[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
        pub(crate) enum $name { $(#[serde(rename = $spelled)] $word,)* }

        impl $name {
            pub(crate) fn spelled(self) -> &'static str {
                match self { $($name::$word => $spelled,)* }
            }
        }

        impl Spelled for $name {
            const ALL: &'static [(&'static str, Self)] = &[$(($spelled, $name::$word),)*];
        }
    )*};
}

words! {
    /// How two sides compare; the strict ones are for conditions.
    Comparison { Equal = "=", AtMost = "<=", AtLeast = ">=", Below = "<", Above = ">", }
    /// The end of what a value may be.
    End { Least = "least", Most = "most", }
    /// On which side of another view.
    GapSide { Below = "below", Above = "above", After = "after", Before = "before", }
    /// How the space that is left along an arrangement is spread.
    Spread {
        Start = "start", Center = "center", End = "end", Between = "between", Around = "around",
        Evenly = "evenly",
    }
    /// Where children lie across an arrangement.
    Align {
        Start = "start", Center = "center", End = "end", Stretch = "stretch", Baseline = "baseline",
    }
    /// Which way a view scrolls.
    Scroll { Off = "off", Down = "down", Across = "across", Both = "both", }
    /// What becomes of what is larger.
    Overhang { Show = "show", Clip = "clip", Scale = "scale", }
    /// How a drawn size is scaled.
    Scaling { Contain = "contain", Cover = "cover", Blend = "blend", Mix = "mix", }
    /// Along which axis.
    Axis { Across = "across", Down = "down", }
    /// What is done with the part that follows.
    Operator { Plus = "+", Minus = "-", Times = "*", Divided = "/", }
}

impl From<vantic_core::geometry::Axis> for Axis {
    fn from(axis: vantic_core::geometry::Axis) -> Self {
        match axis {
            vantic_core::geometry::Axis::Across => Axis::Across,
            vantic_core::geometry::Axis::Down => Axis::Down,
        }
    }
}

impl Operator {
    /// Whether it binds less than a product.
    pub(crate) fn adds(self) -> bool {
        matches!(self, Operator::Plus | Operator::Minus)
    }
}

/// A number, a coordinate or named number such as `"header.bottom"`, or an object with one key.
#[derive(Clone, Debug, PartialEq, Serialize, JsonSchema)]
#[serde(untagged)]
pub(crate) enum Expression {
    Number(#[serde(serialize_with = "crate::json::convert::plainly")] f64),
    Path(String),
    Operation(Box<Operation>),
}

/// Told apart by what comes, without keeping it aside: that takes little stack, and errors keep their
/// place.
impl<'de> Deserialize<'de> for Expression {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        struct OneOfThem;

        impl<'de> Visitor<'de> for OneOfThem {
            type Value = Expression;

            fn expecting(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
                f.write_str(
                    "a number, a coordinate such as \"header.bottom\", or an object such as \
                             {\"percent\": 40}",
                )
            }

            fn visit_f64<E>(self, number: f64) -> Result<Expression, E> {
                Ok(Expression::Number(number))
            }

            fn visit_i64<E>(self, number: i64) -> Result<Expression, E> {
                Ok(Expression::Number(number as f64))
            }

            fn visit_u64<E>(self, number: u64) -> Result<Expression, E> {
                Ok(Expression::Number(number as f64))
            }

            fn visit_str<E>(self, path: &str) -> Result<Expression, E> {
                Ok(Expression::Path(path.to_owned()))
            }

            fn visit_map<A: MapAccess<'de>>(self, map: A) -> Result<Expression, A::Error> {
                let made = Operation::deserialize(MapAccessDeserializer::new(map))?;
                Ok(Expression::Operation(Box::new(made)))
            }
        }

        deserializer.deserialize_any(OneOfThem)
    }
}

/// An expression that is made of others.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case", deny_unknown_fields)]
pub(crate) enum Operation {
    /// A percentage that does not say of what.
    Percent(#[serde(serialize_with = "crate::json::convert::plainly")] f64),
    /// A percentage of something.
    Share {
        #[serde(serialize_with = "crate::json::convert::plainly")]
        percent: f64,
        of: Expression,
    },
    /// An angle; 0 is up, clockwise.
    Degrees(#[serde(serialize_with = "crate::json::convert::plainly")] f64),
    /// With the other sign.
    Minus(Expression),
    /// Parts joined by operators, worked out from left to right: first the products, then the sums.
    Chain { first: Expression, then: Vec<(Operator, Expression)> },
    /// What stands in brackets: one part, or a pair.
    Group(Vec<Expression>),
    /// `bearing`, `outline`, `at`, `max`, `min` or `clamp`, and what it takes.
    Call { of: String, with: Vec<Expression> },
}

/// What is claimed of a view.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub(crate) enum ClaimForm {
    /// It lies inside a place.
    Inside,
    /// It is clear of another view.
    ClearOf,
    /// Its words are not cut.
    Whole,
    /// A coordinate is the same everywhere.
    Same,
}

/// A condition on the display.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case", deny_unknown_fields)]
pub(crate) enum Test {
    /// A word such as `portrait`.
    Word(String),
    /// A property of the display compared with a number.
    Compare { of: String, is: Comparison, number: Expression },
    /// A property of the display from a number up to, not including, another.
    Within { of: String, from: Expression, to: Expression },
    /// The opposite.
    Not(Box<Test>),
    /// All of them.
    All(Vec<Test>),
    /// Any of them.
    Any(Vec<Test>),
    /// What stands in brackets.
    Group(Box<Test>),
}
