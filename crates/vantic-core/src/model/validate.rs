//! Names, words and settings, looked at by themselves.

use crate::geometry::axis::Axis;
use crate::limits::MAX_NUMBER;
use crate::model::arrangement::{Align, MAX_COLUMNS, MAX_SPAN};
use crate::model::build_error::BuildError;
use crate::model::coordinate::Coordinate;
use crate::model::guide::{Cells, Guide, MAX_CELLS};
use crate::model::setting::Setting;

/// The words that a screen file keeps for itself.
pub fn reserved_words() -> impl Iterator<Item = &'static str> {
    const KEYWORDS: [&str; 40] = [
        "screen",
        "ladder",
        "band",
        "let",
        "view",
        "text",
        "image",
        "guide",
        "pin",
        "to",
        "of",
        "in",
        "each",
        "when",
        "hide",
        "keep",
        "space",
        "drop",
        "accept",
        "font",
        "ratio",
        "weight",
        "parent",
        "safe",
        "clear",
        "prev",
        "next",
        "center",
        "size",
        "at",
        "content",
        "bearing",
        "whole",
        "snug",
        "and",
        "or",
        "not",
        "portrait",
        "landscape",
        "touch",
    ];
    let coordinates = Coordinate::SPELLINGS.iter().map(|s| s.0).filter(|s| !s.contains('.'));
    KEYWORDS.into_iter().chain(coordinates)
}

/// Whether this is a word of letters, digits and `_` of any script, starting with a letter (Unicode Standard Annex 31). Two names are
/// the same only where their characters are: a letter with its accent in one character differs from a letter and an accent.
pub fn is_name(name: &str) -> bool {
    let mut chars = name.chars();
    chars.next().is_some_and(unicode_ident::is_xid_start) && chars.all(unicode_ident::is_xid_continue)
}

/// `for_file`: that a screen file does not keep for itself either.
pub(crate) fn check_name(name: &str, for_file: bool) -> Result<(), BuildError> {
    if !is_name(name) {
        return Err(BuildError::Name { name: name.chars().take(60).collect() });
    }
    if for_file && reserved_words().any(|w| w == name) {
        return Err(BuildError::reserved(name));
    }
    Ok(())
}

/// One of several of a name: `slot[3]` is `slot` and 3.
pub(crate) fn indexed(name: &str) -> Option<(&str, u32)> {
    let (name, index) = name.strip_suffix(']')?.split_once('[')?;
    let number = index.parse().ok().filter(|&n: &u32| n >= 1 && !index.starts_with(['0', '+']))?;
    Some((name, number))
}

pub(crate) fn is_weight(weight: f64) -> bool {
    (1e-3..=1e3).contains(&weight)
}

/// Words as a screen file can hold them: it is text, so that a zero character has no place in it.
pub(crate) fn check_words(name: &str, words: &str) -> Result<(), BuildError> {
    if words.contains('\0') { Err(BuildError::ZeroCharacter { name: name.into() }) } else { Ok(()) }
}

pub(crate) fn check_value(name: &str, number: f64) -> Result<(), BuildError> {
    if number.abs() <= MAX_NUMBER { Ok(()) } else { Err(BuildError::Number { rule: name.into() }) }
}

pub(crate) fn check_setting(view: &str, setting: &Setting) -> Result<(), BuildError> {
    let both =
        |(x, y): (f64, f64), low: f64, high: f64| (low..=high).contains(&x) && (low..=high).contains(&y);
    let (holds, range) = match *setting {
        Setting::Font(font) => ((1.0..=1e3).contains(&font), "within 1 and 1000 logical pixels"),
        Setting::Line(line) => ((1.0..=1e4).contains(&line), "within 1 and 10000 logical pixels"),
        Setting::Lines(lines) => (lines >= 1, "a whole number from 1 up"),
        Setting::Style(ref style) => (is_name(style), "a name"),
        Setting::Natural(w, h) => (both((w, h), 1.0, 1e5), "two sizes within 1 and 100000 logical pixels"),
        Setting::Origin(x, y) => (both((x, y), -1e3, 1e3), "two fractions within -100000% and 100000%"),
        Setting::Rotate(degrees) => (degrees.abs() <= 1e6, "an angle of at most 1000000 degrees"),
        Setting::Scale(x, y) => (both((x, y), 1e-3, 1e3), "one or two factors within 0.001 and 1000"),
        Setting::Depth(depth) => (depth.abs() <= MAX_NUMBER, "within -10000000 and 10000000"),
        Setting::Whole(_, weight) | Setting::Snug(_, weight) => {
            (is_weight(weight), "with a weight within 0.001 and 1000")
        }
        Setting::Share(ref share) => (is_weight(share.weight), "a weight within 0.001 and 1000"),
        Setting::Arrange(ref arrangement) => {
            let plain_row = arrangement.axis == Axis::Across && arrangement.columns.is_none();
            let count = arrangement.columns.as_ref().and_then(|c| c.count);
            match count.is_none_or(|count| (1..=MAX_COLUMNS).contains(&count)) {
                true => (
                    plain_row || arrangement.align != Align::Baseline,
                    "aligned otherwise: only what stands in a row has a common baseline",
                ),
                false => (false, "of 1 to 1000 columns"),
            }
        }
        Setting::Guide(ref guide) => match &**guide {
            Guide::Cells(Cells { count: Some(count), lean, .. }) => (
                (1..=MAX_CELLS).contains(count) && (0.0..=1.0).contains(lean),
                "1 to 10000 in number, with a lean within 0% and 100%",
            ),
            Guide::Cells(Cells { lean, .. }) => {
                (*lean == 0.0, "without a lean, where as many are taken as fit")
            }
            _ => (true, ""),
        },
        Setting::Cells(across, down) => {
            let range = 1..=MAX_SPAN;
            (range.contains(&across) && range.contains(&down), "1 to 1000 columns, and as many rows")
        }
        Setting::Stick(ref sides) => {
            (sides.iter().all(|(_, by)| by.abs() <= MAX_NUMBER), "at distances within -10000000 and 10000000")
        }
        Setting::Spare(cut) => {
            (cut.is_none_or(|cut| cut > 0.0 && cut <= MAX_NUMBER), "cut at a length above zero")
        }
        Setting::Control(least) => (
            least.is_none_or(|least| least > 0.0 && least <= 1e4),
            "a size above zero, up to 10000 logical pixels",
        ),
        Setting::OnlyIn(ref bands) => (!bands.is_empty(), "one band at least"),
        Setting::Apart
        | Setting::Sit(_)
        | Setting::Scroll(_)
        | Setting::Overflow(_)
        | Setting::Floats
        | Setting::Input => (true, ""),
    };
    if holds { Ok(()) } else { Err(BuildError::Setting { view: view.into(), word: setting.word(), range }) }
}
