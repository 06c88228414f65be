//! Findings in words: the one place in which ids become names and sentences.

use crate::finding::detail::{
    Around, BySide, CellDetail, ChangeSubject, ClaimBreach, DeclaredDetail, Detail, DoubtDetail, FrameDetail,
    FromCorner, Mismatch, Oddity, RuleDetail,
};
use crate::finding::finding::{Finding, Severity, ViewCoordinate};
use vantic_core::display::Display;
use vantic_core::model::{Anchor, BandId, Coordinate, RuleRef, Screen, Side, Term, ViewId};
use vantic_core::words::{interval_words, list, number, once};

/// What is wrong, and what to do next.
type Words = (String, String);

const IF_INTENDED: &str = "nothing to do if that is intended";

/// `header.title.width`.
pub(crate) fn coordinate_name(screen: &Screen, (view, coordinate): ViewCoordinate) -> String {
    format!("{}.{}", screen.path(view), coordinate.spelling())
}

impl Finding {
    /// What is wrong, in plain words.
    pub fn message(&self, screen: &Screen) -> String {
        self.words(screen).0
    }

    /// What to do next, in plain words.
    pub fn help(&self, screen: &Screen) -> String {
        self.words(screen).1
    }

    /// The paths of the views it is about.
    pub fn paths(&self, screen: &Screen) -> Vec<String> {
        self.views.iter().map(|&view| screen.path(view)).collect()
    }

    /// The names of the rules that take part, and of what is no rule and has a name: a row, a band, what an
    /// acceptance names.
    pub fn rule_names(&self, screen: &Screen) -> Vec<String> {
        match &self.detail {
            Detail::Rules(RuleDetail::NothingToArrange | RuleDetail::SpreadWithoutSpace) => {
                vec![format!("{}.{}", self.path(screen, 0), self.arrangement(screen))]
            }
            Detail::Rules(RuleDetail::CollapsedChild { .. }) => match *self.views.as_slice() {
                [view, child] => vec![RuleRef::Arranged { view, child }.name(screen)],
                _ => Vec::new(),
            },
            Detail::Declared(DeclaredDetail::Contested { first, last, .. }) => {
                [first, last].map(|band| band_name(screen, *band)).to_vec()
            }
            Detail::Declared(DeclaredDetail::IdleAcceptance(index)) => {
                let names = screen.acceptances().get(*index).map(|a| a.names()).unwrap_or_default();
                names.iter().filter(|name| screen.find(name).is_none()).cloned().collect()
            }
            _ => once(self.rules.iter().map(|rule| rule.name(screen))),
        }
    }

    /// Why the author accepts it, if they do.
    pub fn reason<'a>(&self, screen: &'a Screen) -> Option<&'a str> {
        Some(screen.acceptances().get(self.accepted?)?.reason())
    }

    pub(crate) fn words(&self, screen: &Screen) -> Words {
        match &self.detail {
            Detail::Rules(detail) => self.rule_words(screen, detail),
            Detail::Doubt(detail) => self.doubt_words(screen, detail),
            Detail::Declared(detail) => self.declared_words(screen, detail),
            Detail::Frames(detail) => self.frame_words(screen, detail),
        }
    }

    fn path(&self, screen: &Screen, index: usize) -> String {
        self.views.get(index).map_or_else(String::new, |&view| screen.path(view))
    }

    /// The name of the first rule.
    fn rule(&self, screen: &Screen) -> String {
        self.rules.first().map_or_else(String::new, |rule| rule.name(screen))
    }

    /// The first coordinate, as it is spelled.
    fn coordinate(&self) -> &'static str {
        self.coordinates.first().map_or("", |(_, coordinate)| coordinate.spelling())
    }

    /// `row`, `column` or `grid`: how the first view arranges its children.
    fn arrangement(&self, screen: &Screen) -> &'static str {
        let view = self.views.first().and_then(|&view| screen.view(view));
        view.and_then(|v| v.arrangement()).map_or("row", |a| a.word())
    }

    fn rule_words(&self, screen: &Screen, detail: &RuleDetail) -> Words {
        match detail {
            RuleDetail::Contradiction { alone, others, total } => {
                self.contradiction(screen, *alone, others, *total)
            }
            RuleDetail::Broken { by } => (
                format!(
                    "required rules cannot all hold: {} is off by {}",
                    list(&self.rule_names(screen)),
                    number(*by)
                ),
                String::new(),
            ),
            RuleDetail::Underconstrained => self.underconstrained(screen),
            RuleDetail::NoScrollExtent { scroller } => self.no_scroll_extent(screen, *scroller),
            RuleDetail::Tie => self.tie(screen),
            RuleDetail::GaveWay { by } => {
                let level = self.rules.first().and_then(|rule| rule.level(screen)).unwrap_or_default();
                (
                    format!("`{}` on level `{level}` gave way by {}", self.rule(screen), number(*by)),
                    format!("{IF_INTENDED}; a stronger level would let it hold"),
                )
            }
            RuleDetail::Unsettled => self.unsettled(screen),
            RuleDetail::WorkLimit => (
                "too many rules depend on one another to find the best frames; these are not the best".into(),
                "turn preferences that nothing depends on into required rules, or split the screen".into(),
            ),
            RuleDetail::CollapsedChild { fills } => {
                let (view, child, size) = (self.path(screen, 0), self.path(screen, 1), self.coordinate());
                let takes = match fills {
                    true => format!("`{child}` takes its own from `{view}`"),
                    false => format!("`{child}` has none of its own"),
                };
                (
                    format!(
                        "`{view}` takes its {size} from its children, while {takes}: it collapses to zero"
                    ),
                    self.size_of_its_own(screen),
                )
            }
            RuleDetail::CircularSize { counts } => (
                format!(
                    "`{}` takes its {} from its children, while `{}` takes a share of that: the size of the others \
                     counts {} times",
                    self.path(screen, 0),
                    self.coordinate(),
                    self.path(screen, 1),
                    number(*counts)
                ),
                self.size_of_its_own(screen),
            ),
            RuleDetail::NothingToArrange => (
                format!(
                    "the {} of `{}` has no children to place",
                    self.arrangement(screen),
                    self.path(screen, 0)
                ),
                "declare views in it, or remove the line".into(),
            ),
            RuleDetail::SpreadWithoutSpace => {
                let view = self.views.first().and_then(|&view| screen.view(view));
                let spread = view.and_then(|v| v.arrangement()).map_or("", |a| a.spread.spelling());
                (
                    format!(
                        "`spread {spread}` of `{}` has no effect: its children take all the space",
                        self.path(screen, 0)
                    ),
                    "remove the clause, or the shares".into(),
                )
            }
        }
    }

    fn size_of_its_own(&self, screen: &Screen) -> String {
        format!(
            "give `{}` a {} of its own, or `{}` one that does not come from its children",
            self.path(screen, 1),
            self.coordinate(),
            self.path(screen, 0)
        )
    }

    fn contradiction(&self, screen: &Screen, alone: f64, others: &[RuleRef], total: f64) -> Words {
        let (rules, given) = (self.rule_names(screen), self.names(screen, &self.given));
        let others = once(others.iter().map(|rule| rule.name(screen)));
        let (alone, total) = (number(alone), number(total));
        let message = match (rules.as_slice(), given.as_slice(), others.as_slice()) {
            ([one], [], _) => format!("`{one}` contradicts itself by {alone}"),
            (rules, [], _) => format!("{} cannot all hold: they are off by {alone}", list(rules)),
            (rules, [given], []) => format!("{} cannot hold: `{given}` would be -{alone}", list(rules)),
            (rules, given, []) => {
                format!("{} cannot hold: {} together would be -{alone}", list(rules), list(given))
            }
            (rules, given, others) => format!(
                "{} cannot all hold: with {} they are off by {total}, and without it {} would still be -{alone}",
                list(rules),
                list(others),
                list(given)
            ),
        };
        let help = "remove one of them, turn one into `<=` or `>=`, or make one a preference with a level";
        (message, help.into())
    }

    fn names(&self, screen: &Screen, coordinates: &[ViewCoordinate]) -> Vec<String> {
        coordinates.iter().map(|&of| coordinate_name(screen, of)).collect()
    }

    /// `anything from 16 to 488`.
    fn free(&self, of: ViewCoordinate) -> String {
        interval_words(self.range(of).unwrap_or_default())
    }

    /// Each root cause by name, with the values it can have.
    fn named_ranges(&self, screen: &Screen) -> String {
        let of = |&of: &ViewCoordinate| format!("`{}` can be {}", coordinate_name(screen, of), self.free(of));
        self.coordinates.iter().map(of).collect::<Vec<_>>().join(", ")
    }

    fn underconstrained(&self, screen: &Screen) -> Words {
        let Some(&view) = self.views.first() else { return Words::default() };
        let path = screen.path(view);
        let of = |&of: &ViewCoordinate| format!("{} can be {}", of.1.spelling(), self.free(of));
        let open = self.coordinates.iter().map(of).collect::<Vec<_>>().join(", ");
        // What is free along one axis together, roots and what follows of the same view, says what is missing.
        let open_along = |position, size| (self.is_open(view, position), self.is_open(view, size));
        let across = match open_along(Coordinate::Left, Coordinate::Width) {
            (true, true) => Some("a width, or a pin to one more side"),
            (true, false) => Some("a pin to the left, the right or a middle"),
            (false, true) => Some("a width, or a pin to the other side"),
            (false, false) => None,
        };
        let down = match open_along(Coordinate::Top, Coordinate::Height) {
            (true, true) => Some("a height, or a pin to the top or bottom"),
            (true, false) => Some("a pin to the top, the bottom or a middle"),
            (false, true) => Some("a height, or a pin to the other side"),
            (false, false) => None,
        };
        let joint = if self.coordinates.len() == 1 { "; or " } else { "; and " };
        let help = across.into_iter().chain(down).collect::<Vec<_>>().join(joint);
        (
            format!("`{path}` is underconstrained: {open}"),
            format!("give `{path}` {help}{}", self.also_fixed(screen, view)),
        )
    }

    fn is_open(&self, view: ViewId, coordinate: Coordinate) -> bool {
        self.range((view, coordinate)).is_some()
    }

    /// What is determined as soon as a view is.
    fn also_fixed(&self, screen: &Screen, view: ViewId) -> String {
        let others: Vec<ViewCoordinate> =
            self.follows.iter().filter(|(of, _)| *of != view).copied().collect();
        if others.is_empty() {
            return String::new();
        }
        format!("; that also fixes {}", list(&self.names(screen, &others)))
    }

    fn no_scroll_extent(&self, screen: &Screen, scroller: ViewId) -> Words {
        let Some(&content) = self.views.first() else { return Words::default() };
        let of = screen.path(scroller);
        let end = if self.is_open(content, Coordinate::Height) { "bottom" } else { "end" };
        (
            format!("`{of}` has no scroll extent: {}", self.named_ranges(screen)),
            format!(
                "define in `{of}` where its content ends, such as `content.{end} = last.{end} + 16`{}",
                self.also_fixed(screen, content)
            ),
        )
    }

    fn tie(&self, screen: &Screen) -> Words {
        let texts = self.rules.iter().map(|rule| match *rule {
            RuleRef::Snug(view) | RuleRef::Whole(view) => Some(screen.path(view)),
            RuleRef::Written { .. } | RuleRef::Arranged { .. } => None,
        });
        let texts: Option<Vec<String>> = texts.collect();
        let (what, help) = match texts.filter(|texts| !texts.is_empty()) {
            Some(texts) => (
                format!("{} do not fit together", list(&once(texts.into_iter()))),
                "choose which gives way: `snug ~ level` or `snug weight 2` in the one that keeps its size, or a \
                 rule that divides the space",
            ),
            None => {
                let levels = once(self.rules.iter().filter_map(|r| r.level(screen)).map(str::to_owned));
                (
                    format!("{} conflict on level {}", list(&self.rule_names(screen)), list(&levels)),
                    "put one of them on a weaker level, or give them different weights",
                )
            }
        };
        (format!("{what}: {}; the first one currently wins", self.named_ranges(screen)), help.into())
    }

    fn unsettled(&self, screen: &Screen) -> Words {
        let path = self.path(screen, 0);
        let is_text =
            self.views.first().and_then(|&view| screen.view(view)).is_some_and(|v| v.text().is_some());
        if is_text {
            return (
                format!("the lines of `{path}` do not converge: its width depends on its height"),
                "give the text a width that does not depend on its height".into(),
            );
        }
        (
            format!("the children of `{path}` do not converge: their sizes depend on their positions"),
            "give the children sizes that do not depend on their line or their share".into(),
        )
    }

    fn doubt_words(&self, screen: &Screen, detail: &DoubtDetail) -> Words {
        let rule = self.rule(screen);
        match detail {
            DoubtDetail::BesideGuide { guide, edge } => {
                let target = screen.coordinate_text(*guide, *edge, self.views.first().copied());
                let spelled = self.coordinate();
                (
                    format!(
                        "`{rule}` puts {spelled} at a fraction of a box: it lies on `{target}` here and beside it \
                         elsewhere"
                    ),
                    format!("write `{spelled} = {target}` if it belongs on the guide"),
                )
            }
            DoubtDetail::CrossedLimits { by } => (
                format!("in `{rule}` the minimum is {} above the maximum: the minimum wins", number(*by)),
                format!("{IF_INTENDED}; otherwise lower the minimum or raise the maximum"),
            ),
            DoubtDetail::FromCorner(tied_to) => self.from_corner(screen, *tied_to),
            DoubtDetail::Implied => {
                let text = self.rules.first().and_then(|rule| rule.text(screen)).unwrap_or_default();
                (
                    format!("`{text}` in `{rule}` is redundant: other rules already imply it"),
                    "remove it: it is harmless now, but conflicts with the others once one of them changes"
                        .into(),
                )
            }
            DoubtDetail::DecidesNothing { what } => (
                format!("the {what} in `{rule}` is redundant: other rules decide the result"),
                "remove it, or remove the rule that decides the size before it".into(),
            ),
            DoubtDetail::Outlier { usual, others } => {
                let with_level = |rule: RuleRef| {
                    let level = rule.level(screen).map_or(String::new(), |l| format!(" ~ {l}"));
                    rule.text(screen).unwrap_or_default() + &level
                };
                let usual = RuleRef::Written { rule: *usual, relation: 0 };
                (
                    format!(
                        "`{}` has `{}`, but {others} similar views have `{}`",
                        self.path(screen, 0),
                        self.rules.first().map_or_else(String::new, |&rule| with_level(rule)),
                        with_level(usual)
                    ),
                    format!("{IF_INTENDED}; otherwise use the rule of the others"),
                )
            }
            DoubtDetail::Oddity(oddity) => {
                let others = match self.rules.len().saturating_sub(1) {
                    0 => String::new(),
                    1 => " (one other view has the same rule)".to_owned(),
                    many => format!(" ({many} other views have the same rule)"),
                };
                let (what, help) =
                    self.rules.first().map_or_else(Words::default, |&of| oddity.words(screen, of));
                (format!("`{rule}` {what}{others}"), help)
            }
        }
    }

    fn from_corner(&self, screen: &Screen, tied_to: FromCorner) -> Words {
        let (rule, spelled) = (self.rule(screen), self.coordinate());
        let what = match tied_to {
            FromCorner::BareNumber(value) => format!("the bare number {}", number(value)),
            FromCorner::SizesAlone => "sizes alone".into(),
            FromCorner::MultipliedPositions => "positions that are multiplied".into(),
        };
        let parent = self.views.first().and_then(|&view| screen.view(view)?.parent());
        let around = parent.map(|parent| format!("`{}`", screen.path(parent)));
        let from = around.as_deref().unwrap_or("the other view");
        let message = format!(
            "`{rule}` ties {spelled} to {what}, measured from the screen's corner and not from {from}"
        );
        let relation = self.rules.first().and_then(|rule| rule.relation(screen));
        let help = match (&around, relation) {
            (Some(around), Some(relation)) => {
                let sign = relation.comparison.spelling();
                format!("write `{spelled} {sign} parent.{spelled} + ...` if {around} was meant")
            }
            _ => "multiply sizes or distances such as `a.left - b.right`, not positions".into(),
        };
        (message, help)
    }

    fn declared_words(&self, screen: &Screen, detail: &DeclaredDetail) -> Words {
        match detail {
            DeclaredDetail::NeverActive(band) => {
                let found = screen.bands().get(band.index());
                let condition = found.map_or_else(String::new, |b| b.condition().to_string());
                (
                    format!("`{}` is never active: no display meets `{condition}`", band_name(screen, *band)),
                    "change its condition, or remove the band".into(),
                )
            }
            DeclaredDetail::Contested { first, last, subject } => {
                let (first, last) = (band_name(screen, *first), band_name(screen, *last));
                (
                    format!(
                        "`{first}` and `{last}` can be active together, and both change {}: there `{last}` wins, \
                         since it is written later",
                        subject.words(screen)
                    ),
                    format!("{IF_INTENDED}; otherwise let one end where the other begins"),
                )
            }
            DeclaredDetail::Jump(band) => {
                let one = self.views.len() == 1;
                let (leap, it, up_to) = if one { ("leaps", "it", "") } else { ("leap", "them", "up to ") };
                (
                    format!(
                        "{} {leap} by {up_to}{} where `{}` becomes active or inactive, and the band does not mention \
                         {it}",
                        list(&self.paths(screen)),
                        number(self.amount),
                        band_name(screen, *band)
                    ),
                    format!("{IF_INTENDED}; otherwise place it in the band"),
                )
            }
            DeclaredDetail::Untranslated { language } => {
                let name = screen.languages().get(*language).map_or("", |l| l.name());
                let one = self.views.len() == 1;
                let shown = if one { "it shows the original" } else { "they show the originals" };
                (
                    format!("`{name}` has no words for {}: {shown}", list(&self.paths(screen))),
                    format!("add lines such as `{} \"...\"` to `language {name}`", self.path(screen, 0)),
                )
            }
            DeclaredDetail::ClaimNotExamined { error } => (
                format!("the claim cannot be examined: {error}"),
                "claim it for a range of displays that exist".into(),
            ),
            DeclaredDetail::ClaimBroken { claim, display, how } => broken_claim(screen, *claim, display, how),
            DeclaredDetail::UnknownDisplay { expectation, error } => {
                let on = screen.expectations().get(*expectation).map_or("", |e| e.on.as_str());
                (
                    format!("the expectation on \"{on}\" cannot be checked: {error}"),
                    "name the display as on the command line".into(),
                )
            }
            DeclaredDetail::Unmet(mismatch) => {
                let path = self.path(screen, 0);
                let help = format!(
                    "`vantic show rules FILE {path}` lists the rules that affect it; if the frame is right, change \
                     the expectation"
                );
                (mismatch.text(&path), help)
            }
            DeclaredDetail::IdleAcceptance(index) => {
                let acceptance = screen.acceptances().get(*index);
                let line = acceptance
                    .map_or_else(String::new, |a| format!("{}: {}", a.code(), a.names().join(", ")));
                (
                    format!("`accept {line}` has no effect: there is no such finding"),
                    "remove the line if the finding is fixed".into(),
                )
            }
        }
    }

    fn frame_words(&self, screen: &Screen, detail: &FrameDetail) -> Words {
        let path = self.path(screen, 0);
        match detail {
            FrameDetail::WordCut { needs, has } => (
                format!(
                    "`{path}` is cut: its longest word needs a width of {}, but has {}",
                    number(*needs),
                    number(*has)
                ),
                "give it more space, a smaller font in a band, or fewer words".into(),
            ),
            FrameDetail::LinesCut { lines, needs, has } => {
                let lines = if *lines == 1 { "line needs".to_owned() } else { format!("{lines} lines need") };
                (
                    format!(
                        "`{path}` is cut: its {lines} a height of {}, but have {}",
                        number(*needs),
                        number(*has)
                    ),
                    "give it more space, a smaller font in a band, or fewer words".into(),
                )
            }
            FrameDetail::LinesHidden { shown, all } => (
                format!("`{path}` is cut: {shown} of its {all} lines are shown"),
                "give it more width, a higher limit of `lines`, or fewer words".into(),
            ),
            FrameDetail::Outside { sides, of } => self.outside(screen, sides, of),
            FrameDetail::Overlap { width, height } => {
                let paths = self.paths(screen);
                (
                    format!(
                        "{} overlap by {} x {} ({} px²), `{}` is on top",
                        list(&paths),
                        number(*width),
                        number(*height),
                        number(width * height),
                        self.path(screen, 1)
                    ),
                    format!("keep them apart with a rule, or `accept overlap: {} \"why\"`", paths.join(", ")),
                )
            }
            FrameDetail::TooNear { apart, gap } => (
                format!(
                    "{} are {} apart; the minimum is {}",
                    list(&self.paths(screen)),
                    number(*apart),
                    number(*gap)
                ),
                "keep them further apart".into(),
            ),
            FrameDetail::NeverClear { scroller, width, height } => {
                let of = screen.path(*scroller);
                (
                    format!(
                        "`{}` covers {} x {} of `{path}`, and `{of}` cannot be scrolled clear of it",
                        self.path(screen, 1),
                        number(*width),
                        number(*height)
                    ),
                    format!(
                        "extend the content of `{of}` below it, with a larger `padding` or `content.bottom`"
                    ),
                )
            }
            FrameDetail::ScaledToFit { factor } => (
                format!("`{path}` scales its content to {}% so that it fits", number(factor * 100.0)),
                format!("{IF_INTENDED}; texts become smaller too"),
            ),
            FrameDetail::CannotStick { side, clipped } => {
                let side = side.coordinate().spelling();
                let Some((scroller, clipper)) = clipped.map(|(s, c)| (screen.path(s), screen.path(c))) else {
                    return (
                        format!("`{path}` cannot stick to a {side}: no parent of it scrolls that way"),
                        "write `scroll down` or `scroll across` in a parent".into(),
                    );
                };
                (
                    format!(
                        "`{path}` cannot stick to the {side} of `{scroller}`: `{clipper}` between them clips"
                    ),
                    format!("remove `overhang clip` from `{clipper}`, or `stick` from `{path}`"),
                )
            }
            FrameDetail::UnderInsets { sides } => {
                let rule = sides.first().map_or_else(String::new, |(side, _)| kept_within(*side, "safe"));
                (
                    format!("`{path}` is under the insets of the display: {}", side_list(sides)),
                    format!("tie it to `safe` instead of `screen`, such as `{rule}`"),
                )
            }
            FrameDetail::SmallControl { width, height, least, is_own } => {
                let is = format!("`{path}` is {} x {}", number(*width), number(*height));
                let least = number(*least);
                (
                    match is_own {
                        true => format!("{is}; the minimum is {least} x {least}"),
                        false => {
                            format!(
                                "{is}: below {least} x {least}, and too near to another control to be tapped"
                            )
                        }
                    },
                    format!("write `size >= {least}` in it, or keep other controls further away"),
                )
            }
            FrameDetail::Gaps { sides } => (
                format!(
                    "`{path}` covers the whole screen on other displays, but leaves gaps here: {}",
                    side_list(sides)
                ),
                format!("write `pin left, right, top, bottom to screen` in `{path}`"),
            ),
            FrameDetail::Cells(detail) => self.cell_words(screen, detail),
        }
    }

    fn cell_words(&self, screen: &Screen, detail: &CellDetail) -> Words {
        let path = self.path(screen, 0);
        let in_band = |what: &str| format!("use fewer {what}, in a band for small displays");
        match detail {
            CellDetail::DivisionWithoutSpace { columns, size } => {
                let (what, each) = if *columns { ("columns", "width") } else { ("rows", "height") };
                (
                    format!("the {what} of `{path}` have no space: each has a {each} of {}", number(*size)),
                    in_band("of them, or smaller gutters and margins"),
                )
            }
            CellDetail::DivisionBeyond { columns, by } => {
                let what = if *columns { "columns" } else { "rows" };
                (
                    format!("the {what} of `{path}` extend {} beyond it", number(*by)),
                    in_band("of them, or smaller ones"),
                )
            }
            CellDetail::ColumnsWithoutSpace { width } => (
                format!("the columns of `{path}` have no space: each has a width of {}", number(*width)),
                in_band("columns, or a smaller gap or padding"),
            ),
            CellDetail::BelowMinimum { by } => (
                format!("the column of `{path}` is {} below its minimum width", number(*by)),
                format!("{IF_INTENDED}; otherwise lower the minimum width"),
            ),
            CellDetail::TooManyColumns { has } => (
                format!("`{path}` asks for more columns than the {has} of `{}`", self.path(screen, 1)),
                format!("it takes all of them; {IF_INTENDED}"),
            ),
        }
    }

    fn outside(&self, screen: &Screen, sides: &BySide, of: &Around) -> Words {
        let path = self.path(screen, 0);
        let is_text =
            self.views.first().and_then(|&view| screen.view(view)).is_some_and(|v| v.text().is_some());
        let first = sides.first().map_or(Coordinate::Left, |(side, _)| *side);
        let keep_inside = || {
            format!("keep it inside with `{}`, or move it out of its parent", kept_within(first, "parent"))
        };
        let (around, help) = match *of {
            Around::Screen { is_lost: true } => (
                "the screen".to_owned(),
                "tie it to a side of the screen or to a neighbour, not to a number or a far edge".into(),
            ),
            Around::Screen { .. } if is_text => {
                let sign = if Side::is_near(first) { "+" } else { "-" };
                (
                    "the screen".to_owned(),
                    format!("limit its edge: `{} {sign} 8`", kept_within(first, "parent")),
                )
            }
            Around::Screen { .. } => (
                "the screen".to_owned(),
                "pin it to the other side too, or make a gap before it a preference".into(),
            ),
            Around::Content(scroller) => {
                let around = screen.path(scroller);
                (
                    format!("what `{around}` scrolls"),
                    format!("let `{around}.content` reach further, so that it can be scrolled to"),
                )
            }
            Around::Clip(parent, lost) => (
                format!("its parent `{}`; {} px² is clipped", screen.path(parent), number(lost)),
                match self.severity {
                    Severity::Note => {
                        format!("{IF_INTENDED}; otherwise give it more space, or less content")
                    }
                    _ => keep_inside(),
                },
            ),
            Around::Parent(parent) => (format!("its parent `{}`", screen.path(parent)), keep_inside()),
        };
        let beyond = sides.iter().map(|(side, by)| format!("{} beyond the {}", number(*by), side.spelling()));
        let beyond = format!("{} of {around}", beyond.collect::<Vec<_>>().join(" and "));
        let message = match of {
            Around::Screen { is_lost: true } => format!("`{path}` is entirely off the screen, {beyond}"),
            _ => format!("`{path}` extends {beyond}"),
        };
        (message, help)
    }
}

impl Oddity {
    /// What a relation does that is hardly meant, and what to do next.
    pub(crate) fn words(&self, screen: &Screen, rule: RuleRef) -> Words {
        let (Some(relation), owner) = (rule.relation(screen), rule.owner(screen)) else {
            return Words::default();
        };
        match *self {
            Oddity::TiedToItself => (
                format!(
                    "ties `{}` to itself: `{}`",
                    screen.expr_text(&relation.left, owner),
                    screen.relation_text(relation, owner)
                ),
                "name the intended view, or remove the rule".into(),
            ),
            Oddity::OuterEdges(near, far) => {
                let edge = |term: Term| screen.noun(&Term { coefficient: 1.0, ..term });
                (
                    format!("uses the outer edges of two views, {} and {}", edge(near), edge(far)),
                    "use both edges of one view, or the edges that face each other".into(),
                )
            }
            Oddity::BeyondOwnLimit { limit } => {
                let RuleRef::Written { rule, .. } = rule else { return Words::default() };
                let limit = RuleRef::Written { rule, relation: limit }.text(screen).unwrap_or_default();
                (
                    format!(
                        "has the preferred value {} outside its own limit `{limit}`",
                        number(relation.right.constant())
                    ),
                    "change the preferred value, or the limit".into(),
                )
            }
        }
    }
}

impl ChangeSubject {
    fn words(&self, screen: &Screen) -> String {
        match self {
            ChangeSubject::Rule(owner, label) => {
                let owner = owner.map_or_else(|| "screen".to_owned(), |v| screen.path(v));
                format!("`{owner}.{label}`")
            }
            ChangeSubject::Visibility(view) => format!("whether `{}` is there", screen.path(*view)),
            ChangeSubject::Setting(view, word) => format!("`{word}` of `{}`", screen.path(*view)),
            ChangeSubject::Value(value) => {
                format!("`{}`", screen.values().get(value.index()).map_or("", |v| v.name()))
            }
        }
    }
}

impl ClaimBreach {
    fn text(&self, screen: &Screen, path: &str) -> String {
        match *self {
            ClaimBreach::Outside { side, of, by } => {
                let of = match of {
                    Anchor::Safe => "the safe area".into(),
                    Anchor::Clear => "the safe area above the keyboard".into(),
                    Anchor::View(view) => format!("`{}`", screen.path(view)),
                    _ => "the screen".to_owned(),
                };
                format!("`{path}` extends {} beyond the {} of {of}", number(by), side.spelling())
            }
            ClaimBreach::Covers { other, by } => {
                format!("`{path}` covers `{}` by {}", screen.path(other), number(by))
            }
            ClaimBreach::Near { other, apart } => {
                format!("`{path}` is {} away from `{}`", number(apart), screen.path(other))
            }
            ClaimBreach::WordsCut { by } => format!("the words of `{path}` are cut by {}", number(by)),
            ClaimBreach::Differs { coordinate, is, elsewhere } => format!(
                "`{path}.{}` is {}, and {} elsewhere",
                coordinate.spelling(),
                number(is),
                number(elsewhere)
            ),
        }
    }
}

impl Mismatch {
    /// What came out and what was expected of a view.
    pub(crate) fn text(&self, path: &str) -> String {
        let off = || self.off().iter().map(|&(what, by)| off_by(what, by)).collect::<Vec<_>>().join(", ");
        match *self {
            Mismatch::Visible(frame) => format!("`{path}` should be hidden, but is at {frame}"),
            Mismatch::Hidden => format!("`{path}` should be visible, but is hidden"),
            Mismatch::Frame { is, expected, .. } => {
                format!("`{path}` is at {is}; expected {expected}: {}", off())
            }
            Mismatch::Coordinate { coordinate, is, expected } => format!(
                "`{path}.{}` is {}; expected {}: {}",
                coordinate.spelling(),
                number(is),
                number(expected),
                off()
            ),
        }
    }
}

/// `12 too far right`, `3 too wide`.
fn off_by(what: Coordinate, by: f64) -> String {
    let (more, less) = match what {
        Coordinate::Top | Coordinate::Bottom | Coordinate::CenterY => ("too far down", "too far up"),
        Coordinate::Width => ("too wide", "too narrow"),
        Coordinate::Height => ("too tall", "too short"),
        _ => ("too far right", "too far left"),
    };
    format!("{} {}", number(by.abs()), if by > 0.0 { more } else { less })
}

fn broken_claim(screen: &Screen, claim: usize, display: &Display, how: &ClaimBreach) -> Words {
    let help = format!(
        "see it with `vantic draw FILE -d {} -o claim.png`, then fix the rules that `vantic why` names",
        display.name()
    );
    let Some(claim) = screen.claims().get(claim) else { return Words::default() };
    let along = claim.along().map_or_else(String::new, |(along, ..)| {
        format!(" from a {} of {} on", along.name(), number(along.of(display)))
    });
    let how = how.text(screen, &screen.path(claim.view));
    (format!("`{}` does not hold{along}: {how}", screen.claim_text(claim)), help)
}

fn band_name(screen: &Screen, band: BandId) -> String {
    screen.bands().get(band.index()).map_or_else(String::new, |b| b.name().to_owned())
}

/// The rule that keeps a side within what is around it: `left >= parent.left`.
fn kept_within(side: Coordinate, around: &str) -> String {
    let comparison = if Side::is_near(side) { ">=" } else { "<=" };
    format!("{side} {comparison} {around}.{side}", side = side.spelling())
}

/// `12 at the top and 4 at the left`.
fn side_list(sides: &BySide) -> String {
    let parts: Vec<String> =
        sides.iter().map(|(side, by)| format!("{} at the {}", number(*by), side.spelling())).collect();
    match parts.as_slice() {
        [most @ .., last] if !most.is_empty() => format!("{} and {last}", most.join(", ")),
        one => one.concat(),
    }
}
