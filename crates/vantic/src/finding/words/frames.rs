//! Where things landed.

use crate::finding::detail::{Around, BySide, CellDetail, CoverDetail, FrameDetail, StretchDetail};
use crate::finding::finding::{Finding, Severity};
use crate::finding::words::phrases::{IF_INTENDED, Words};
use vantic_core::model::{Coordinate, Screen, Side};
use vantic_core::words::{list, number};

impl Finding {
    pub(crate) fn frame_words(&self, screen: &Screen, detail: &FrameDetail) -> Words {
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
            FrameDetail::Cover(detail) => self.cover_words(screen, detail),
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
            FrameDetail::UnderKeyboard { by } => (
                format!("`{path}` is typed into, and is under the keyboard: {} at the bottom", number(*by)),
                "keep it above with `bottom <= clear.bottom - 8`, or let what it stands in scroll and end at \
                 `clear.bottom`"
                    .into(),
            ),
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
            FrameDetail::Stays { parent } => {
                let around = screen.path(*parent);
                (
                    format!("`{path}` does not scroll with `{around}`: its rules tie it to `{around}` itself"),
                    format!(
                        "tie it to `parent.content`, what `{around}` scrolls; or write `floats` if it is to stay"
                    ),
                )
            }
            FrameDetail::PaintedElsewhere { around } => {
                let (rule, around) = (self.rule(screen), screen.path(*around));
                (
                    format!("`{rule}` ties `{path}` to the screen, but it is rotated or scaled with `{around}`"),
                    format!("move it out of `{around}`, or tie it to `parent`"),
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
            FrameDetail::Stretch(detail) => (stretch_words(&path, detail), stretch_help(detail)),
            FrameDetail::WithoutSize { has_share } => self.without_size(screen, *has_share),
        }
    }

    fn cover_words(&self, screen: &Screen, detail: &CoverDetail) -> Words {
        let path = self.path(screen, 0);
        match detail {
            CoverDetail::Overlap { width, height, area } => (
                format!(
                    "{} overlap by {} x {} ({} px²), `{}` is on top",
                    list(&self.paths(screen)),
                    number(*width),
                    number(*height),
                    number(*area),
                    self.path(screen, 1)
                ),
                format!(
                    "keep them apart with a rule, or write `floats` in `{}` if it lies over others on purpose",
                    self.path(screen, 1)
                ),
            ),
            CoverDetail::CoversMany { count, such_as } => {
                let over = self.path(screen, 1);
                (
                    format!("`{over}` covers {count} views in `{path}`, such as `{}`", screen.path(*such_as)),
                    format!(
                        "keep them apart with a rule, or write `floats` in `{over}` if it lies over others on purpose"
                    ),
                )
            }
            CoverDetail::InOnePlace { width, height } => (
                format!(
                    "{} lie in one place, {} x {}: only the last is seen",
                    list(&self.paths(screen)),
                    number(*width),
                    number(*height)
                ),
                "place each behind the one before it, such as `below prev by 8`".into(),
            ),
            CoverDetail::TooNear { apart, gap } => (
                format!(
                    "{} are {} apart; the minimum is {}",
                    list(&self.paths(screen)),
                    number(*apart),
                    number(*gap)
                ),
                "keep them further apart".into(),
            ),
            CoverDetail::NeverClear { scroller, width, height } => {
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
        }
    }

    fn without_size(&self, screen: &Screen, has_share: bool) -> Words {
        let (path, size) = (self.path(screen, 0), self.coordinate());
        let within = self.paths(screen).split_off(1);
        let message = match within.as_slice() {
            [] => format!("`{path}` collapses to zero: it has no {size}"),
            some => format!(
                "`{path}` collapses to zero: it has no {size}, and nothing in it has one ({})",
                list(some)
            ),
        };
        let help = match has_share {
            true => format!("its `share` has no space left: give it `at least`, or the others less {size}"),
            false => format!(
                "give `{}` a {size}, or pins to both sides",
                self.path(screen, usize::from(!within.is_empty()))
            ),
        };
        (message, help)
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
        let first = sides.first().map_or(Coordinate::Left, |(side, _)| *side);
        let keep_inside = || {
            format!("keep it inside with `{}`, or move it out of its parent", kept_within(first, "parent"))
        };
        let (around, help) = match *of {
            Around::Screen { is_lost: true } => (
                "the screen".to_owned(),
                "tie it to a side of the screen or to a neighbour, not to a number or a far edge".into(),
            ),
            Around::Screen { .. } if self.is_of_text(screen) => {
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

fn stretch_words(path: &str, detail: &StretchDetail) -> String {
    let size = |of: (f64, f64)| format!("{} x {}", number(of.0), number(of.1));
    match *detail {
        StretchDetail::Picture { has, natural, by } => format!(
            "`{path}` is distorted: it is {}, its natural size is {} (stretched to {} times its shape)",
            size(has),
            size(natural),
            number(by)
        ),
        StretchDetail::Text { has, needs, lines } => {
            let lines = if lines == 1 { "one line needs".to_owned() } else { format!("{lines} lines need") };
            format!("`{path}` is {} high, but its {lines} only {}", number(has), number(needs))
        }
    }
}

fn stretch_help(detail: &StretchDetail) -> String {
    match detail {
        StretchDetail::Picture { natural, .. } => format!(
            "remove the rule of one side and write `ratio width : height = {} : {}`, or `cover in parent`",
            number(natural.0),
            number(natural.1)
        ),
        StretchDetail::Text { .. } => {
            "remove the rule of one side, or place it by its middle, such as `center_y = parent.center_y`"
                .into()
        }
    }
}
