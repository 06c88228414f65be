//! How much longer the words of each text could get before something breaks.

use crate::check::report::{CheckOptions, Report, TrialOptions};
use crate::check::run::check_for_trial;
use crate::finding::{Finding, Severity};
use crate::sweep::effort::work_for;
use rayon::prelude::*;
use std::collections::BTreeSet;
use vantic_core::display::Display;
use vantic_core::model::{Code, ViewId};
use vantic_core::plan::{PlaceError, Plan};
use vantic_core::text::{LongerText, Measure, TextRequest, TextSize};
use vantic_core::work;

/// How much longer words are tried at most: three times as long.
pub const MAX_LONGER: f64 = 2.0;

/// How much work it may take to look for the space of all texts.
pub const ROOM_WORK: u64 = 100_000_000;

/// How often the way is halved: to less than a hundredth.
const HALVINGS: usize = 8;

/// The space for the words of one text.
#[derive(Clone, Debug, PartialEq)]
pub struct TextSlack {
    /// The text.
    pub view: ViewId,
    /// By how much of their length words may get longer: 0.38 for 38%.
    pub longer: f64,
    /// What breaks then, with the display; `None` where nothing does up to [`MAX_LONGER`].
    pub breaks: Option<String>,
}

/// Measures some words as longer, and all others as they are.
struct ScaledWords<'a> {
    of: &'a (dyn Measure + Sync),
    words: BTreeSet<String>,
    factor: f64,
}

impl Measure for ScaledWords<'_> {
    fn measure(&self, text: &TextRequest<'_>) -> TextSize {
        if self.words.contains(text.words) {
            LongerText { of: self.of, factor: self.factor }.measure(text)
        } else {
            self.of.measure(text)
        }
    }
}

type Known = BTreeSet<(Code, Severity, Vec<ViewId>, usize)>;

/// Errors and warnings, each on each of its displays.
fn known(report: &Report) -> Known {
    let worse = report.open().filter(|f| f.severity != Severity::Note);
    let each = |f: &Finding| {
        let key = (f.code, f.severity, f.views.clone());
        f.displays.iter().map(move |&on| (key.0, key.1, key.2.clone(), on)).collect::<Vec<_>>()
    };
    worse.flat_map(each).collect()
}

/// For each text, how much longer its words could get, in every language that the displays have, before an
/// error or warning is there on one of the displays that is not there now. Texts of the same words get longer
/// together. Found by halving, to a hundredth. Every step is a check on the displays of `report`, which is what a check of
/// the plan found: of many texts, or of a large screen, as many of the first ones are looked at as [`ROOM_WORK`] suffices
/// for, times `effort` (1 is usual).
///
/// ```
/// use vantic::check::{check, text_slack};
/// use vantic::prelude::*;
///
/// // Five letters of 10 each are 50 wide; there is space for 100.
/// let source = vantic::read(
///     "screen quay { text sign \"Ferry\" { font 20; left = 0; top = 0; width <= 100; lines 1 } }",
/// )?;
/// let plan = Plan::new(source.screen)?;
/// let report = check(&plan, &[Display::new(390.0, 844.0)?], &PlainText)?;
/// let slack = &text_slack(&plan, &report, &PlainText, 1.0)?[0];
/// assert!((slack.longer - 1.0).abs() < 0.01, "{}", slack.longer);
/// assert!(slack.breaks.as_ref().is_some_and(|how| how.contains("`sign` is cut")));
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
///
/// # Errors
/// As for [`crate::check()`].
pub fn text_slack(
    plan: &Plan,
    report: &Report,
    measure: &(dyn Measure + Sync),
    effort: f64,
) -> Result<Vec<TextSlack>, PlaceError> {
    let screen = plan.screen();
    let displays: Vec<Display> = report.placements.iter().map(|p| p.display.clone()).collect();
    // Of a text: a check with the longest words, and one for each time it is halved.
    let affordable = |check: u64| work_for(ROOM_WORK, effort) / (check.max(1) * (HALVINGS as u64 + 1));
    if affordable(report.work) == 0 {
        return Ok(Vec::new());
    }
    // Of notes nothing is asked here.
    let trying = TrialOptions { without_notes: true, ..TrialOptions::default() };
    let all = |measure: &(dyn Measure + Sync)| -> Result<Report, PlaceError> {
        let report = check_for_trial(plan, &displays, measure, CheckOptions::default(), &trying)?;
        Ok(report.unwrap_or_else(|| unreachable!("every placement is worth it")))
    };
    let (as_it_is, beside) = work::within(u64::MAX, || all(measure));
    let as_it_is = as_it_is?;
    let before = known(&as_it_is);
    let affordable = usize::try_from(affordable(as_it_is.work + beside)).unwrap_or(usize::MAX);
    let texts = screen.views().filter(|(_, v)| v.text().is_some()).map(|(view, _)| view);
    let texts: Vec<ViewId> = texts.take(affordable).collect();
    let one = |view: &ViewId| -> Result<TextSlack, PlaceError> {
        let words =
            displays.iter().filter_map(|d| screen.words_in(*view, d.language()).map(|w| w.to_string()));
        let words: BTreeSet<String> = words.collect();
        let breaks = |longer: f64| -> Result<Option<String>, PlaceError> {
            let other = ScaledWords { of: measure, words: words.clone(), factor: 1.0 + longer };
            let report = all(&other)?;
            let new = known(&report).into_iter().find(|key| !before.contains(key));
            Ok(new.map(|(code, _, views, display)| {
                let finding = report.open().find(|f| f.code == code && f.views == views);
                let words = |f: &Finding| {
                    format!("{}: {} on {}", code.name(), f.message(screen), report.display_name(display))
                };
                finding.map_or_else(String::new, words)
            }))
        };
        let Some(mut then) = breaks(MAX_LONGER)? else {
            return Ok(TextSlack { view: *view, longer: MAX_LONGER, breaks: None });
        };
        let (mut holds, mut fails) = (0.0, MAX_LONGER);
        for _ in 0..HALVINGS {
            let middle = f64::midpoint(holds, fails);
            match breaks(middle)? {
                Some(how) => (fails, then) = (middle, how),
                None => holds = middle,
            }
        }
        Ok(TextSlack { view: *view, longer: holds, breaks: Some(then) })
    };
    texts.par_iter().map(one).collect()
}
