//! What is refused while a screen is built.

/// Why a part of a screen was refused.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
#[non_exhaustive]
pub enum BuildError {
    /// A name that is not a word of letters, digits and `_` starting with a letter.
    #[error("`{name}` is not a name: use letters, digits and `_`, starting with a letter")]
    Name {
        /// The name.
        name: String,
    },
    /// A name that the language keeps for itself.
    #[error("`{name}` is a reserved word; try `{other}`")]
    Reserved {
        /// The name.
        name: String,
        /// A name that would do.
        other: String,
    },
    /// A name that is taken.
    #[error("there is already {} {what} `{name}` in {place}", if what.starts_with('a') { "an" } else { "a" })]
    Taken {
        /// View, label, band or level.
        what: &'static str,
        /// The name.
        name: String,
        /// Where.
        place: String,
    },
    /// A rule, or what is said of arranging, that reads a view that is to be removed.
    #[error("`{reader}` reads `{view}`, which is to be removed; remove or change `{reader}`, too")]
    ReadsRemoved {
        /// What reads it.
        reader: String,
        /// The view.
        view: String,
    },
    /// A parameter without a range that it lies in.
    #[error("`{name}` needs a range that {number} lies in: `param {name} = 240 in 180..400`")]
    Range {
        /// The parameter.
        name: String,
        /// What it is set to without the application.
        number: f64,
    },
    /// A band that looks for a parameter where it never is.
    #[error("`{name}` is within {from} and {to}; a band that looks for {number} changes nowhere")]
    TestedBeyond {
        /// The parameter.
        name: String,
        /// Where it is looked for.
        number: f64,
        /// From where it may be set.
        from: f64,
        /// To where it may be set.
        to: f64,
    },
    /// A band that changes a parameter.
    #[error("`{name}` is set by the application; a band cannot change it")]
    ParameterInBand {
        /// The parameter.
        name: String,
    },
    /// A claim over more than a parameter can be set to.
    #[error("`{name}` is set within {least} and {most}; a claim cannot go beyond")]
    ClaimBeyond {
        /// The parameter.
        name: String,
        /// From where it may be set.
        least: f64,
        /// To where it may be set.
        most: f64,
    },
    /// A state with fewer than two alternatives.
    #[error("`{state}` has nothing to choose from: a state has two alternatives or more")]
    OneAlternative {
        /// The state.
        state: String,
    },
    /// A drawn size that is refused.
    #[error("{message}")]
    Design {
        /// Why.
        message: &'static str,
    },
    /// A language that is refused.
    #[error("{message}")]
    Language {
        /// Why.
        message: String,
    },
    /// A band that says in which bands a view is there.
    #[error("`only in` belongs in the block of `{view}`, not in a band: write `show` or `hide` there")]
    OnlyInBand {
        /// The view.
        view: String,
    },
    /// A view shown instead of one that holds it, or that it holds.
    #[error("`{instead}` cannot be shown instead of `{view}`: one of them is within the other")]
    InsteadWithin {
        /// The view that is hidden.
        view: String,
        /// The view that is to be shown.
        instead: String,
    },
    /// More than a stated limit.
    #[error("{what}: the limit is {limit}")]
    Limit {
        /// What there is too much of.
        what: &'static str,
        /// The limit.
        limit: usize,
    },
    /// A number that is not finite, or too large.
    #[error("`{rule}`: a number is not within -10000000 to 10000000")]
    Number {
        /// The rule.
        rule: String,
    },
    /// The ladder is given twice, which would move the levels that rules are on already.
    #[error("the ladder is given twice: name all levels in one call, the strongest first")]
    SecondLadder,
    /// A rule without any relation.
    #[error("`{rule}` relates nothing: `spread` takes two or more views, `enclose` one or more")]
    RelatesNothing {
        /// The rule.
        rule: String,
    },
    /// Words with a zero character in them.
    #[error("`{name}`: words cannot hold a zero character; remove it")]
    ZeroCharacter {
        /// What the words are of.
        name: String,
    },
    /// A claim over something that no claim ranges over.
    #[error("a claim ranges over screen.width, screen.height, text_scale, density or scroll")]
    ClaimRange,
    /// A weight that is not within 0.001 to 1000.
    #[error("`{rule}`: a weight has to be within 0.001 and 1000, not {weight}")]
    Weight {
        /// The rule.
        rule: String,
        /// The weight.
        weight: f64,
    },
    /// A weight on a rule that has no level.
    #[error("`{rule}`: a required rule has no weight; give the rule a level first")]
    WeightOfMust {
        /// The rule.
        rule: String,
    },
    /// A rule that mixes `start` or `end` with `left` or `right`.
    #[error("`{rule}` mixes start or end with left or right, which differ from right to left; use one kind")]
    MixedDirections {
        /// The rule.
        rule: String,
    },
    /// A rule without a single coordinate.
    #[error("`{rule}` compares numbers only; name the coordinate that it is about")]
    NoCoordinate {
        /// The rule.
        rule: String,
    },
    /// `content.width` of a view without content.
    #[error("`{rule}` reads the content of `{view}`, which has none: only texts and images have")]
    NoContent {
        /// The rule.
        rule: String,
        /// The view.
        view: String,
    },
    /// A column or row that a guide does not have.
    #[error("`{rule}` reads {} of `{guide}`, which has {}", said(*first, *last), said_count(*count))]
    NoCell {
        /// The rule.
        rule: String,
        /// The guide.
        guide: String,
        /// The first that it reads.
        first: u32,
        /// The last that it reads.
        last: u32,
        /// How many there are.
        count: u32,
    },
    /// A view within a guide.
    #[error("`{guide}` is a guide and holds no views; put `{view}` beside it and pin it to the guide")]
    InGuide {
        /// The guide.
        guide: String,
        /// The view.
        view: String,
    },
    /// The pixel of anything but the screen.
    #[error("`{rule}` asks for the pixel of something else than the screen: write `screen.pixel`")]
    Pixel {
        /// The rule.
        rule: String,
    },
    /// What a view scrolls, hidden without the view.
    #[error("what `{view}` scrolls cannot be hidden; hide `{view}`, or what stands in it")]
    HidesContent {
        /// The view that scrolls.
        view: String,
    },
    /// How far something is scrolled that does not scroll.
    #[error(
        "`{rule}` asks how far something is scrolled that does not scroll: name a view with `scroll` in its \
         block"
    )]
    Scrolled {
        /// The rule.
        rule: String,
    },
    /// `prev` of the first view, or `next` of the last.
    #[error("`{rule}`: `{view}` has no sibling {side} it")]
    NoSibling {
        /// The rule.
        rule: String,
        /// The view.
        view: String,
        /// Before or after.
        side: &'static str,
    },
    /// A setting of a view that is out of range.
    #[error("`{word}` of `{view}` has to be {range}")]
    Setting {
        /// The view.
        view: String,
        /// The word of the setting.
        word: &'static str,
        /// What it may be.
        range: &'static str,
    },
    /// A setting that a view has not, such as the font of a view without words.
    #[error("`{view}` is no {kind}, so it has no `{word}`")]
    NoSuchSetting {
        /// The view.
        view: String,
        /// The word of the setting.
        word: &'static str,
        /// What has it.
        kind: &'static str,
    },
    /// `max`, `min` or `clamp` of too few or too many.
    #[error("`{rule}`: `{word}` takes {takes}")]
    Picks {
        /// The rule.
        rule: String,
        /// The word.
        word: &'static str,
        /// How many it takes, in words.
        takes: &'static str,
    },
    /// A dropped rule that the band does not find.
    #[error("there is no rule `{rule}` to drop")]
    NothingToDrop {
        /// The rule.
        rule: String,
    },
    /// An unknown code of a finding.
    #[error("`{code}` is not a code of a finding; the codes are {known}")]
    Code {
        /// What was written.
        code: String,
        /// The codes there are.
        known: String,
    },
    /// An id that belongs to another screen.
    #[error("`{rule}` uses an id of another screen")]
    ForeignId {
        /// The rule.
        rule: String,
    },
}

impl BuildError {
    /// The error for a reserved word that is used as a name.
    pub fn reserved(name: &str) -> Self {
        BuildError::Reserved { name: name.into(), other: format!("the_{name}") }
    }
}

/// Everything that was refused while a screen was built.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
#[error("{}", self.0.iter().map(ToString::to_string).collect::<Vec<_>>().join("\n"))]
pub struct BuildErrors(pub Vec<BuildError>);

/// How many columns or rows there are.
fn said_count(count: u32) -> String {
    if count == 0 { "neither columns nor rows".to_owned() } else { count.to_string() }
}

/// Columns or rows by their numbers.
fn said(first: u32, last: u32) -> String {
    if first == last { format!("number {first}") } else { format!("numbers {first} to {last}") }
}
