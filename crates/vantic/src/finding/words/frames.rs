//! Where things landed.

use crate::finding::detail::{Around, BySide, CellDetail, CoverDetail, FrameDetail};
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

    fn cover_words(&self, screen: &Screen, detail: &CoverDetail) -> Words {
        let path = self.path(screen, 0);
        match detail {
            CoverDetail::Overlap { width, height } => {
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
