//! Bands and languages, and what the screen says of itself.

use crate::finding::detail::{ChangeSubject, ClaimBreach, DeclaredDetail, Mismatch};
use crate::finding::finding::Finding;
use crate::finding::words::phrases::{IF_INTENDED, Words, band_name};
use vantic_core::display::Display;
use vantic_core::model::{Anchor, Coordinate, Leftover, Screen};
use vantic_core::words::{list, number};

impl Finding {
    pub(crate) fn declared_words(&self, screen: &Screen, detail: &DeclaredDetail) -> Words {
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
                        "`{first}` and `{last}` can be active together, and both change {}: there `{last}` \
                         wins, since it is written later",
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
                        "{} {leap} by {up_to}{} where `{}` becomes active or inactive, and the band does not \
                         mention {it}",
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
            DeclaredDetail::Leftover(index) => leftover(screen, *index),
            DeclaredDetail::OtherOrientation { width, height, scale } => (
                format!(
                    "the screen is designed for {} x {} and shown in the other orientation, scaled by {}",
                    number(*width),
                    number(*height),
                    number(*scale)
                ),
                format!(
                    "give it a size for both: `design ({0}, {1}) or ({1}, {0})`",
                    number(*width),
                    number(*height)
                ),
            ),
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
                    "`vantic show rules FILE {path}` lists the rules that affect it; if the frame is right, \
                     change the expectation"
                );
                (mismatch.text(&path), help)
            }
            DeclaredDetail::UnknownDrawn { drawing, error } => {
                let on = screen.drawings().get(*drawing).map_or("", |d| d.on.as_str());
                (
                    format!("the drawing on \"{on}\" cannot be compared: {error}"),
                    "name the display as on the command line".into(),
                )
            }
            DeclaredDetail::Drift { by, follow } => {
                let path = self.path(screen, 0);
                let follow = match follow {
                    0 => String::new(),
                    1 => "; 1 other view only follows".into(),
                    more => format!("; {more} other views only follow"),
                };
                let message = format!("`{path}` is drawn {} the rules place it{follow}", drawn_by(by));
                let help = "if the drawing is right, change the rules, as `vantic drift FILE --change-rules` does; if the \
                            rules are right, change the drawing: `--redraw`";
                (message, help.into())
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
        if display.name().contains(' ') {
            format!("\"{}\"", display.name())
        } else {
            display.name().to_owned()
        }
    );
    let Some(claim) = screen.claims().get(claim) else { return Words::default() };
    let along = claim.over.as_ref().map_or_else(String::new, |(along, ..)| {
        format!(" from a {} of {} on", along.name(), number(along.of(display)))
    });
    let how = how.text(screen, &screen.path(claim.view));
    (format!("`{}` does not hold{along}: {how}", screen.claim_text(claim)), help)
}

/// Words about what nothing uses.
fn leftover(screen: &Screen, index: usize) -> Words {
    let unused = |what: &str, name: &str, verb: &str| {
        (format!("nothing {verb} the {what} `{name}`"), format!("remove it, or use it: {IF_INTENDED}"))
    };
    match screen.leftovers().get(index) {
        Some(Leftover::Levels(names)) => {
            let levels = if names.len() == 1 { "level" } else { "levels" };
            (
                format!("nothing is on the {levels} {}", list(names)),
                format!("remove them, or leave them: {IF_INTENDED}"),
            )
        }
        Some(Leftover::Number(name)) => unused("number", name, "reads"),
        Some(Leftover::State(name)) => unused("state", name, "depends on"),
        Some(Leftover::Band(name)) => unused("band", name, "depends on"),
        Some(Leftover::Part(name)) => unused("part", name, "uses"),
        Some(Leftover::Replaced { view, word, by }) => {
            let path = screen.path(*view);
            let message = match word == by {
                true => format!("`{word}` of `{path}` has no effect: it is given again in the same block"),
                false => format!("`{word}` of `{path}` has no effect: `{by}` in the same block replaces it"),
            };
            (
                message,
                "remove one of the two lines; a guide that has both columns and rows is two guides".into(),
            )
        }
        _ => Words::default(),
    }
}

/// By how much a view was drawn further right, further down, wider and higher, in words that `than` follows.
fn drawn_by([left, top, width, height]: &[f64; 4]) -> String {
    let words = [
        (left, "further right", "further left"),
        (top, "lower", "higher up"),
        (width, "wider", "narrower"),
        (height, "taller", "less tall"),
    ];
    let said = words.into_iter().filter(|(by, ..)| by.abs() >= 0.05).map(|(by, more, less)| {
        format!("{} {}", number((by.abs() * 100.0).round() / 100.0), if *by > 0.0 { more } else { less })
    });
    format!("{} than", said.collect::<Vec<_>>().join(", "))
}
