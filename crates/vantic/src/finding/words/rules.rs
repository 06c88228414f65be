//! What the rules say, and which are hardly meant as they are.

use crate::finding::detail::{DoubtDetail, FromCorner, Oddity, RuleDetail};
use crate::finding::finding::{Finding, ViewCoordinate};
use crate::finding::words::phrases::{IF_INTENDED, Words};
use vantic_core::model::{Coordinate, RuleRef, Screen, Term, View, ViewId};
use vantic_core::words::{amount, interval_words, list, number, once};

impl Finding {
    pub(crate) fn rule_words(&self, screen: &Screen, detail: &RuleDetail) -> Words {
        match detail {
            RuleDetail::Contradiction { alone, others, total } => {
                self.contradiction(screen, *alone, others, *total)
            }
            RuleDetail::Broken { by } => (
                format!(
                    "required rules cannot all hold: {} {} off by {}",
                    list(&self.rule_names(screen)),
                    if self.rules.len() == 1 { "is" } else { "are" },
                    amount(*by)
                ),
                "change one of them, or make one a preference with a level".into(),
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
            RuleDetail::CollapsedChildren { fills, is_given } => {
                self.collapsed_children(screen, *fills, *is_given)
            }
            RuleDetail::CircularSize { counts } => (
                format!(
                    "`{}` takes its {} from its children, while `{}` takes a share of that: the size of the \
                     others counts {} times",
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
            RuleDetail::NotArranged { words, parent } => {
                not_arranged(screen, &self.path(screen, 0), words, *parent)
            }
            RuleDetail::SpreadWithoutSpace => {
                let spread =
                    self.first_view(screen).and_then(|v| v.arrangement()).map_or("", |a| a.spread.spelling());
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

    fn collapsed_children(&self, screen: &Screen, fills: bool, is_given: bool) -> Words {
        let (view, size) = (self.path(screen, 0), self.coordinate());
        let children = self.paths(screen).split_off(1);
        let (takes, have, it_collapses) = match children.len() {
            1 => ("takes its own", "has none of its own", "it collapses"),
            _ => ("take theirs", "have none of their own", "they collapse"),
        };
        let children = list(&children);
        let has = match fills {
            true => format!("{children} {takes} from `{view}`"),
            false => format!("{children} {have}"),
        };
        let what = match (is_given, self.coordinates.first()) {
            (false, _) => format!("`{view}` takes its {size} from its children"),
            (true, Some((_, Coordinate::Width))) => {
                format!("the columns of `{view}` take their width from its children")
            }
            (true, _) => format!("the rows of `{view}` take their height from its children"),
        };
        let help = match is_given {
            true => format!("give {children} a {size}"),
            false => self.size_of_its_own(screen),
        };
        (format!("{what}, while {has}: {it_collapses} to zero"), help)
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
        let (alone, total) = (amount(alone), amount(total));
        let message = match (rules.as_slice(), given.as_slice(), others.as_slice()) {
            ([one], [], _) => format!("`{one}` contradicts itself by {alone}"),
            (rules, [], _) => format!("{} cannot all hold: they are off by {alone}", list(rules)),
            (rules, [given], []) => format!("{} cannot hold: `{given}` would be -{alone}", list(rules)),
            (rules, given, []) => {
                format!("{} cannot hold: {} together would be -{alone}", list(rules), list(given))
            }
            (rules, given, others) => format!(
                "{} cannot all hold: with {} they are off by {total}, and without it {} would still be \
                 -{alone}",
                list(rules),
                list(others),
                list(given)
            ),
        };
        let help = "remove one of them, turn one into `<=` or `>=`, or make one a preference with a level";
        (message, help.into())
    }

    fn names(&self, screen: &Screen, coordinates: &[ViewCoordinate]) -> Vec<String> {
        coordinates.iter().map(|&(view, coordinate)| screen.coordinate_name(view, coordinate)).collect()
    }

    /// `anything from 16 to 488`.
    fn free(&self, of: ViewCoordinate) -> String {
        interval_words(self.range(of).unwrap_or_default())
    }

    /// Each root cause by name, with the values it can have.
    fn named_ranges(&self, screen: &Screen) -> String {
        let of = |&of: &ViewCoordinate| {
            format!("`{}` can be {}", screen.coordinate_name(of.0, of.1), self.free(of))
        };
        self.coordinates.iter().map(of).collect::<Vec<_>>().join(", ")
    }

    fn underconstrained(&self, screen: &Screen) -> Words {
        let Some(&view) = self.views.first() else { return Words::default() };
        let path = screen.path(view);
        let of = |&of: &ViewCoordinate| format!("{} can be {}", of.1.spelling(), self.free(of));
        let open = self.coordinates.iter().map(of).collect::<Vec<_>>().join(", ");
        // What is free along one axis together, roots and what follows of the same view, says what is
        // missing.
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
                "choose which gives way: `snug ~ level` or `snug weight 2` in the one that keeps its size, \
                 or a rule that divides the space",
            ),
            None => {
                let levels = once(self.rules.iter().filter_map(|r| r.level(screen)).map(str::to_owned));
                let names = list(&self.rule_names(screen));
                match levels.is_empty() {
                    true => (
                        format!("{names} cannot divide the space in the stated shares"),
                        "give one of the children a size instead of a share, or take out what limits it",
                    ),
                    false => (
                        format!("{names} conflict on level {}", list(&levels)),
                        "put one of them on a weaker level, or give them different weights",
                    ),
                }
            }
        };
        (format!("{what}: {}; the first one currently wins", self.named_ranges(screen)), help.into())
    }

    fn unsettled(&self, screen: &Screen) -> Words {
        let path = self.path(screen, 0);
        if self.is_of_text(screen) {
            return (
                format!("the lines of `{path}` do not converge: its width depends on its height"),
                "give the text a width that does not depend on its height".into(),
            );
        }
        let is_spare =
            |&child: &ViewId| screen.view(child).and_then(View::item).is_some_and(|item| item.spare);
        let view = self.views.first().and_then(|&view| screen.view(view));
        if view.is_some_and(|view| view.children().iter().any(is_spare)) {
            return (
                format!("how many children of `{path}` fit depends on how many are shown"),
                "give the children, or the space for them, a size that does not depend on that".into(),
            );
        }
        (
            format!("the children of `{path}` do not converge: their sizes depend on their positions"),
            "give the children sizes that do not depend on their line or their share".into(),
        )
    }

    pub(crate) fn doubt_words(&self, screen: &Screen, detail: &DoubtDetail) -> Words {
        let rule = self.rule(screen);
        match detail {
            DoubtDetail::BesideGuide { guide, edge } => {
                let target = screen.coordinate_text(*guide, *edge, self.views.first().copied());
                let spelled = self.coordinate();
                (
                    format!(
                        "`{rule}` puts {spelled} at a fraction of a box: it lies on `{target}` here and \
                         beside it elsewhere"
                    ),
                    format!("write `{spelled} = {target}` if it belongs on the guide"),
                )
            }
            DoubtDetail::CrossedLimits { by } => (
                format!("in `{rule}` the minimum is {} above the maximum: the minimum wins", number(*by)),
                format!("{IF_INTENDED}; otherwise lower the minimum or raise the maximum"),
            ),
            DoubtDetail::FromCorner(tied_to) => self.measured_from_corner(screen, *tied_to),
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
            DoubtDetail::GuideClauses { words } => {
                let path = self.path(screen, 0);
                let (have, words) = one_or_more(words);
                (
                    format!("{words} {have} no effect in `{path}`"),
                    "`margin` and `offset` need a `lean` to one side, `lean` a number and a size".into(),
                )
            }
            DoubtDetail::NegativeGutter { by } => (
                format!(
                    "the gutter of `{}` is negative: its columns or rows overlap by {}",
                    self.path(screen, 0),
                    number(*by)
                ),
                format!("{IF_INTENDED}; otherwise write it without the sign"),
            ),
            DoubtDetail::Sided { language } => {
                let name = screen.languages().get(*language).map_or("", |l| l.name());
                let (is, do_not) = if self.views.len() == 1 { ("is", "does not") } else { ("are", "do not") };
                (
                    format!(
                        "{} {is} tied to the left or the right, and {do_not} mirror in `{name}`, which is read \
                         from right to left",
                        list(&self.paths(screen))
                    ),
                    "write `start` for `left` and `end` for `right`, unless it is to stay on its side".into(),
                )
            }
            DoubtDetail::Outlier { usual, others } => {
                let with_level = |rule: RuleRef| {
                    let level = rule.level(screen).map_or(String::new(), |l| format!(" ~ {l}"));
                    rule.text(screen).unwrap_or_default() + &level
                };
                (
                    format!(
                        "`{}` has `{}`, but {others} similar views have `{}`",
                        self.path(screen, 0),
                        self.rules.first().map_or_else(String::new, |&rule| with_level(rule)),
                        with_level(*usual)
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

    fn measured_from_corner(&self, screen: &Screen, tied_to: FromCorner) -> Words {
        let (rule, spelled) = (self.rule(screen), self.coordinate());
        let what = match tied_to {
            FromCorner::BareNumber(value) => format!("the bare number {}", number(value)),
            FromCorner::SizesAlone => "sizes alone".into(),
            FromCorner::MultipliedPositions => "positions that are multiplied".into(),
        };
        let parent = self.first_view(screen).and_then(|v| v.parent());
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
            Oddity::AcrossToDown => (
                format!(
                    "ties a horizontal position to a vertical one: `{}`",
                    screen.relation_text(relation, owner)
                ),
                "use an edge along the same axis, such as `left` with `right`, `top` with `bottom`".into(),
            ),
            Oddity::SizeToPosition => (
                format!("ties a size to a position: `{}`", screen.relation_text(relation, owner)),
                "use a size, such as `height`, or the distance between two edges".into(),
            ),
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

/// Words about a place in a row, column or grid that is not there.
fn not_arranged(screen: &Screen, path: &str, words: &[&str], parent: Option<ViewId>) -> Words {
    let (have, words) = one_or_more(words);
    let of = parent.map_or_else(|| "the screen".to_owned(), |parent| format!("`{}`", screen.path(parent)));
    let word = parent.and_then(|parent| screen.view(parent)?.arrangement()).map(|a| a.word());
    let (is, instead) = match word {
        Some(word) => (format!("is a {word}"), ""),
        None => {
            ("places its children by their rules".to_owned(), ", or write `row`, `column` or `grid` there")
        }
    };
    (
        format!("{words} {have} no effect in `{path}`: {of} {is}"),
        format!("remove what has no effect{instead}"),
    )
}

/// Words in a list, and the verb behind them.
fn one_or_more(words: &[&str]) -> (&'static str, String) {
    let have = if words.len() == 1 { "has" } else { "have" };
    (have, list(&words.iter().map(|&word| word.to_owned()).collect::<Vec<_>>()))
}
