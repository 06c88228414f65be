//! What exactly was found, by kind: ids and numbers, which [`crate::finding::words`] puts into sentences.
//!
//! A finding's views, coordinates, rules and displays stand in the finding; here stands what is known
//! besides.

use vantic_core::display::Display;
use vantic_core::geometry::Frame;
use vantic_core::model::{Anchor, BandId, Coordinate, RuleRef, Side, Term, ValueId, ViewId};

/// The sides of a frame in the order in which their distances are listed.
pub(crate) const SIDES: [Coordinate; 4] =
    [Coordinate::Left, Coordinate::Top, Coordinate::Right, Coordinate::Bottom];

/// How far over, or open, on which sides.
pub(crate) type BySide = Vec<(Coordinate, f64)>;

/// What was found.
#[derive(Clone, Debug, PartialEq)]
pub(crate) enum Detail {
    /// What the rules say: contradictions, what is open, what gave way.
    Rules(RuleDetail),
    /// Rules that are hardly meant as they are.
    Doubt(DoubtDetail),
    /// What the screen declares and says of itself.
    Declared(DeclaredDetail),
    /// Where things landed.
    Frames(FrameDetail),
}

impl From<RuleDetail> for Detail {
    fn from(detail: RuleDetail) -> Self {
        Detail::Rules(detail)
    }
}

impl From<DoubtDetail> for Detail {
    fn from(detail: DoubtDetail) -> Self {
        Detail::Doubt(detail)
    }
}

impl From<DeclaredDetail> for Detail {
    fn from(detail: DeclaredDetail) -> Self {
        Detail::Declared(detail)
    }
}

impl From<CoverDetail> for Detail {
    fn from(detail: CoverDetail) -> Self {
        Detail::Frames(FrameDetail::Cover(detail))
    }
}

impl From<CellDetail> for Detail {
    fn from(detail: CellDetail) -> Self {
        Detail::Frames(FrameDetail::Cells(detail))
    }
}

impl From<StretchDetail> for Detail {
    fn from(detail: StretchDetail) -> Self {
        Detail::Frames(FrameDetail::Stretch(detail))
    }
}

impl From<FrameDetail> for Detail {
    fn from(detail: FrameDetail) -> Self {
        Detail::Frames(detail)
    }
}

/// What the rules say: contradictions, what is open, what gave way. `views[0]` and the like are those of the
/// finding.
#[derive(Clone, Debug, PartialEq)]
pub(crate) enum RuleDetail {
    /// Required rules contradict one another, by `alone`; with `others`, if any, by `total`.
    Contradiction { alone: f64, others: Vec<RuleRef>, total: f64 },
    /// Required rules do not hold; which of them contradict one another was not looked for.
    Broken { by: f64 },
    /// `views[0]` is not determined.
    Underconstrained,
    /// How far `scroller` can be scrolled is not determined.
    NoScrollExtent { scroller: ViewId },
    /// Preferences on one level pull in different directions.
    Tie,
    /// A preference gave way.
    GaveWay { by: f64 },
    /// `views[0]`, a text or a view that arranges its children, does not converge.
    Unsettled,
    /// So many rules depend on one another that the work limit was met.
    WorkLimit,
    /// `views[0]` takes its size from its children, and the other views have none, or `fills` it. Where its
    /// own size `is_given`, its rows or lines take theirs from them.
    CollapsedChildren { fills: bool, is_given: bool },
    /// `views[0]` takes its size from its children, and `views[1]` a share of it.
    CircularSize { counts: f64 },
    /// The row, column or grid of `views[0]` has no children.
    NothingToArrange,
    /// `spread` where the children of `views[0]` take all the space.
    SpreadWithoutSpace,
    /// What is said of `views[0]` in a row, column or grid, where its parent, or `parent`, is none or
    /// another.
    NotArranged { words: Vec<&'static str>, parent: Option<ViewId> },
}

/// Rules that are hardly meant as they are.
#[derive(Clone, Debug, PartialEq)]
pub(crate) enum DoubtDetail {
    /// An edge at a fraction of a box that lies on the edge of a guide on some displays only.
    BesideGuide { guide: Anchor, edge: Coordinate },
    /// The minimum of a `clamp` is above its maximum.
    CrossedLimits { by: f64 },
    /// An edge that is measured from the screen's corner.
    FromCorner(FromCorner),
    /// A required rule that others imply.
    Implied,
    /// A `ratio` or a `percentage` that decides nothing.
    DecidesNothing { what: &'static str },
    /// Clauses of the guide `views[0]` that change nothing.
    GuideClauses { words: Vec<&'static str> },
    /// The columns or rows of the guide `views[0]` overlap.
    NegativeGutter { by: f64 },
    /// `views[0]` is tied to the left or the right in a screen that has this language, read from right to left.
    Sided { language: usize },
    /// A rule that differs from the `usual` one of `others` similar views.
    Outlier { usual: RuleRef, others: usize },
    /// A rule that is hardly meant as it is; several views may have it.
    Oddity(Oddity),
}

/// Bands and languages, and what the screen says of itself: claims, expectations, acceptances.
#[derive(Clone, Debug, PartialEq)]
pub(crate) enum DeclaredDetail {
    /// A band that no display meets.
    NeverActive(BandId),
    /// Two bands that change the same thing where both are active.
    Contested { first: BandId, last: BandId, subject: ChangeSubject },
    /// Views that jump where a band begins or ends.
    Jump(BandId),
    /// A language without words for the views.
    Untranslated { language: usize },
    /// A claim that cannot be examined, and why.
    ClaimNotExamined { error: String },
    /// A claim that a display breaks.
    ClaimBroken { claim: usize, display: Display, how: ClaimBreach },
    /// An expectation on a display that is not known.
    UnknownDisplay { expectation: usize, error: String },
    /// `views[0]` is not as expected.
    Unmet(Mismatch),
    /// A drawing on a display that is not known.
    UnknownDrawn { drawing: usize, error: String },
    /// `views[0]` is not where it was drawn: by how much the drawing is further right, further down, wider and higher, and how
    /// many other views are not where they were drawn since they follow it.
    Drift { by: [f64; 4], follow: usize },
    /// An acceptance of the screen that accepts nothing.
    IdleAcceptance(usize),
    /// Something that the file says and nothing uses, counted from 0.
    Leftover(usize),
    /// The screen is drawn for this size only, and the display has the other orientation.
    OtherOrientation { width: f64, height: f64, scale: f64 },
}

/// Where things landed.
#[derive(Clone, Debug, PartialEq)]
pub(crate) enum FrameDetail {
    /// The longest word of a text is wider than its frame.
    WordCut { needs: f64, has: f64 },
    /// The lines of a text are higher than its frame.
    LinesCut { lines: u32, needs: f64, has: f64 },
    /// A text has more lines than it may show.
    LinesHidden { shown: u32, all: u32 },
    /// `views[0]` reaches beyond what is around it.
    Outside { sides: BySide, of: Around },
    /// One view over another, or too near to it.
    Cover(CoverDetail),
    /// The cells of a grid, or of a guide that divides.
    Cells(CellDetail),
    /// `views[0]` paints its content smaller, so that it fits.
    ScaledToFit { factor: f64 },
    /// `views[0]` cannot stick: nothing scrolls that way, or of `clipped` the second clips below the first.
    CannotStick { side: Side, clipped: Option<(ViewId, ViewId)> },
    /// Content under the insets of the display.
    UnderInsets { sides: BySide },
    /// Something that is typed into under the keyboard.
    UnderKeyboard { by: f64 },
    /// A control below its least size, which it says itself or a standard says.
    SmallControl { width: f64, height: f64, least: f64, is_own: bool },
    /// `views[0]` stays where it is while its parent scrolls.
    Stays { parent: ViewId },
    /// `views[0]` is tied to the screen, and `around` it is turned or scaled.
    PaintedElsewhere { around: ViewId },
    /// A background that leaves gaps.
    Gaps { sides: BySide },
    /// Content in another shape than it has.
    Stretch(StretchDetail),
    /// `views[0]`, and the other views in it, have no width or height.
    WithoutSize { has_share: bool },
}

/// Content in another shape than it has.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) enum StretchDetail {
    /// A picture that is so many times as large along one axis as along the other.
    Picture { has: (f64, f64), natural: (f64, f64), by: f64 },
    /// A text that is higher than its lines.
    Text { has: f64, needs: f64, lines: u32 },
}

/// One view over another, or too near to it.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) enum CoverDetail {
    /// `views[1]` is painted over `views[0]`.
    Overlap { width: f64, height: f64, area: f64 },
    /// `views[1]` covers so many views that `views[0]` holds, one of them this.
    CoversMany { count: usize, such_as: ViewId },
    /// All the views have one frame of this size.
    InOnePlace { width: f64, height: f64 },
    /// Siblings that are nearer to one another than they may be.
    TooNear { apart: f64, gap: f64 },
    /// `views[1]` is fixed over `views[0]`, which `scroller` cannot scroll clear of it.
    NeverClear { scroller: ViewId, width: f64, height: f64 },
}

/// The columns and rows of a grid, or of a guide that divides.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) enum CellDetail {
    /// The columns or rows of a guide have no space.
    DivisionWithoutSpace { columns: bool, size: f64 },
    /// The columns or rows of a guide need more than there is.
    DivisionBeyond { columns: bool, by: f64 },
    /// The columns of a grid have no space.
    ColumnsWithoutSpace { width: f64 },
    /// The one column of a grid is narrower than its minimum.
    BelowMinimum { by: f64 },
    /// `views[0]` asks for more columns than `views[1]` has.
    TooManyColumns { has: u32 },
}

/// What an edge that is measured from the screen's corner is tied to.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) enum FromCorner {
    BareNumber(f64),
    SizesAlone,
    MultipliedPositions,
}

/// Why a relation is hardly meant as it is.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) enum Oddity {
    /// The coordinate on its left stands on its right too.
    TiedToItself,
    /// It places a view between the outer edges of two views.
    OuterEdges(Term, Term),
    /// It ties a horizontal position to a vertical one.
    AcrossToDown,
    /// It ties a size to one position.
    SizeToPosition,
    /// It prefers a number that another relation of its rule rules out.
    BeyondOwnLimit { limit: usize },
}

/// What a band's change is about; the later of two about the same thing counts.
#[derive(Clone, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub(crate) enum ChangeSubject {
    Rule(Option<ViewId>, String),
    Visibility(ViewId),
    Setting(ViewId, &'static str),
    Value(ValueId),
}

/// What a view reaches beyond.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) enum Around {
    /// The screen; `is_lost` where nothing of it is left on it.
    Screen { is_lost: bool },
    /// What a view scrolls.
    Content(ViewId),
    /// A parent that clips, by how many square pixels.
    Clip(ViewId, f64),
    /// A parent.
    Parent(ViewId),
}

/// How a display breaks a claim.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) enum ClaimBreach {
    Outside { side: Coordinate, of: Anchor, by: f64 },
    Covers { other: ViewId, by: f64 },
    Near { other: ViewId, apart: f64 },
    WordsCut { by: f64 },
    Differs { coordinate: Coordinate, is: f64, elsewhere: f64 },
}

/// How a view is not as expected.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) enum Mismatch {
    /// It should be hidden, and is here.
    Visible(Frame),
    /// It should be visible, and is hidden.
    Hidden,
    /// Its frame differs by more than `within`.
    Frame { is: Frame, expected: Frame, within: f64 },
    /// One coordinate differs.
    Coordinate { coordinate: Coordinate, is: f64, expected: f64 },
}

impl Mismatch {
    /// A size that is off: what it is, and what is expected.
    pub(crate) fn of(&self, coordinate: Coordinate) -> Option<(f64, f64)> {
        match (*self, coordinate) {
            (Mismatch::Frame { is, expected, .. }, Coordinate::Width) => Some((is.width, expected.width)),
            (Mismatch::Frame { is, expected, .. }, Coordinate::Height) => Some((is.height, expected.height)),
            (Mismatch::Coordinate { coordinate: of, is, expected }, asked) if of == asked => {
                Some((is, expected))
            }
            _ => None,
        }
    }

    /// The coordinates that are off, each with by how much.
    pub(crate) fn off(&self) -> BySide {
        match *self {
            Mismatch::Visible(_) | Mismatch::Hidden => Vec::new(),
            Mismatch::Frame { is, expected, within } => {
                let all = [
                    (Coordinate::Left, is.left - expected.left),
                    (Coordinate::Top, is.top - expected.top),
                    (Coordinate::Width, is.width - expected.width),
                    (Coordinate::Height, is.height - expected.height),
                ];
                all.into_iter().filter(|(_, by)| by.abs() > within).collect()
            }
            Mismatch::Coordinate { coordinate, is, expected } => vec![(coordinate, is - expected)],
        }
    }

    /// By how much the worst coordinate is off, in logical pixels.
    pub(crate) fn amount(&self) -> f64 {
        self.off().iter().map(|(_, by)| by.abs()).fold(0.0, f64::max)
    }
}
