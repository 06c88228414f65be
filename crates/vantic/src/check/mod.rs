//! Checking a screen on displays: everything wrong or doubtful, as findings.
//!
//! [`rules`] looks at what the rules say (contradictions, open coordinates, what gave way),
//! [`frames`] at where things landed, [`reach`] at what can be seen and touched there, [`bands`] at bands, [`words_of`]
//! at languages, [`expected`] at what the screen expects, [`odd`] and [`own`] at rules that are hardly meant as they are, [`claims`] and
//! [`jumps`] at ranges and borders, [`because`] at which rules are behind what is found; this module gathers what they find over
//! the displays, joins what is the same on several, and sets aside what the author accepts.

mod bands;
mod because;
mod claims;
mod expected;
mod frames;
mod jumps;
mod odd;
mod own;
mod reach;
mod rules;
mod spread;
mod words;
mod words_of;

use crate::display::Display;
use crate::displays::Displays;
use crate::finding::{Code, Finding, Key, Severity};
use crate::measure::Measure;
use crate::plan::{Begin, Live, PlaceError, Placement, Plan, RuleRef, millionths};
use crate::screen::{RuleId, Screen, ViewId};
use crate::sweep::Proof;
pub(crate) use because::{coordinates_of, deciding};
pub(crate) use frames::{UNSEEN, beyond};
pub(crate) use own::reads_itself;
use rayon::prelude::*;
pub use spread::Spread as FoundOn;
use std::collections::hash_map::Entry;
use std::collections::{HashMap, HashSet};
pub use words::{interval_words, number};

/// What a check found, and the placements it looked at.
#[derive(Clone, Debug, PartialEq)]
pub struct Report {
    /// The findings, the worst first. Those that the author accepts are among them, marked.
    pub findings: Vec<Finding>,
    /// The placement on each display.
    pub placements: Vec<Placement>,
    /// The claims of the screen that hold, each with how sure that is.
    pub proven: Vec<(String, Proof)>,
}

impl Report {
    /// The findings that the author does not accept.
    pub fn open(&self) -> impl Iterator<Item = &Finding> {
        self.findings.iter().filter(|f| f.accepted.is_none())
    }

    /// Whether an error is among them (or any finding, if `strict`).
    pub fn has_failed(&self, strict: bool) -> bool {
        self.open().any(|f| strict || f.severity == Severity::Error)
    }
}

/// How a screen is checked.
#[derive(Clone, Copy, Default)]
pub struct Checking<'a> {
    /// Whether what overlaps is told by the bounds of what is painted, turned and scaled, not by the frames.
    pub painted: bool,
    /// The displays by which expectations name theirs; the catalogue without them.
    pub displays: Option<&'a Displays>,
    /// Called with the number of displays that were looked at since the last call, from any thread.
    pub progress: Option<&'a (dyn Fn(usize) + Sync)>,
}

impl std::fmt::Debug for Checking<'_> {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "Checking {{ painted: {} }}", self.painted)
    }
}

/// Checks a screen on displays. What overlaps is told by the frames.
///
/// # Errors
/// As for [`Plan::place`].
pub fn check(plan: &Plan, displays: &[Display], measure: &dyn Measure) -> Result<Report, PlaceError> {
    check_as(plan, displays, measure, Checking::default())
}

/// How many displays are looked at one after the other, each from what was solved for the one before. It does not depend
/// on the machine, so that the same calls give the same bits everywhere.
const IN_A_ROW: usize = 8;

/// Checks a screen on displays, in parallel.
///
/// # Errors
/// As for [`Plan::place`].
pub fn check_as(
    plan: &Plan,
    displays: &[Display],
    measure: &dyn Measure,
    how: Checking<'_>,
) -> Result<Report, PlaceError> {
    let idle = rules::Idle::new(plan.screen());
    let checked = check_with(plan, IN_A_ROW, displays, measure, how, idle, &Trying::default())?;
    let Some(mut report) = checked else { unreachable!("every placement is worth it") };
    because::tell(plan, &report.placements, measure, &mut report.findings);
    // A note, behind all that is worse.
    let leaping = jumps::jumps(plan, displays, measure)?;
    let at = report
        .findings
        .partition_point(|f| f.accepted.is_none() && (f.severity, f.code) < (Severity::Note, Code::Jump));
    report.findings.splice(at..at, leaping);
    Ok(report)
}

/// The same where several checks go on at once.
const IN_A_LONG_ROW: usize = 48;

/// How a change of a screen is tried.
#[derive(Clone, Copy, Default)]
pub(crate) struct Trying<'a> {
    /// What is solved without the change.
    pub(crate) begin: Option<&'a Begin<'a>>,
    /// Given up as soon as a placement is not worth it; without it all of them are.
    pub(crate) is_worth_it: Option<&'a (dyn Fn(&Placement) -> bool + Sync)>,
    /// Whether what is noted of the screen itself, whatever the display, is left out.
    pub(crate) without_notes: bool,
}

/// The same without what takes long and is noted only: percentages and ratios that decide nothing, and views that leap.
/// `None` where it was given up.
pub(crate) fn check_briefly(
    plan: &Plan,
    displays: &[Display],
    measure: &dyn Measure,
    how: Checking<'_>,
    trying: &Trying<'_>,
) -> Result<Option<Report>, PlaceError> {
    let how = Checking { progress: None, ..how };
    check_with(plan, IN_A_LONG_ROW, displays, measure, how, rules::Idle::default(), trying)
}

fn check_with(
    plan: &Plan,
    in_a_row: usize,
    displays: &[Display],
    measure: &dyn Measure,
    how: Checking<'_>,
    mut idle: rules::Idle,
    trying: &Trying<'_>,
) -> Result<Option<Report>, PlaceError> {
    let screen = plan.screen();
    let mut findings: Vec<Finding> = Vec::new();
    let mut known: HashMap<Key, usize> = HashMap::new();
    let mut placements = Vec::with_capacity(displays.len());
    let mut implied: Vec<Vec<RuleRef>> = Vec::with_capacity(displays.len());
    let order = from_near_to_near(displays);
    let in_a_row_of = |row: &[usize], idle: &[(RuleId, usize)]| {
        look(
            &mut plan.live_from(trying.begin),
            row.iter().map(|&at| &displays[at]),
            measure,
            how,
            idle,
            trying,
        )
    };
    // The first ones tell most of what is not idle, so that the others need not try it.
    let alone = if idle.left.is_empty() { 0 } else { in_a_row.min(order.len()) };
    let (first, rest) = order.split_at(alone);
    let Some(first) = in_a_row_of(first, &idle.left)? else { return Ok(None) };
    let tried = idle.left.clone();
    first.iter().for_each(|looked| idle.told(&tried, &looked.idle));
    let tried = idle.left.clone();
    let rest = rest.par_chunks(in_a_row).map(|row| in_a_row_of(row, &tried).transpose());
    let Some(rest) = rest.collect::<Option<Vec<_>>>() else { return Ok(None) };
    let rest = rest.into_iter().collect::<Result<Vec<_>, PlaceError>>()?;
    rest.iter().flatten().for_each(|looked| idle.told(&tried, &looked.idle));
    let looked = first.into_iter().chain(rest.into_iter().flatten());
    let mut looked: Vec<(usize, Looked)> = std::iter::zip(order.iter().copied(), looked).collect();
    looked.sort_by_key(|(at, _)| *at);
    for (_, looked) in looked {
        for mut finding in looked.findings {
            finding.worst = looked.placement.display.name().to_owned();
            finding.displays = vec![finding.worst.clone()];
            join(&mut findings, &mut known, finding);
        }
        implied.push(looked.implied);
        placements.push(looked.placement);
    }
    for finding in expected::unmet(plan, measure, how.displays)? {
        join(&mut findings, &mut known, finding);
    }
    let (broken, proven) = claims::claims(plan, &placements, measure)?;
    findings.extend(broken);
    findings.extend(rules::beside_guides(screen, &placements));
    findings.extend(reach::uncovered(screen, &placements));
    findings.extend(words_of::untranslated(screen, &placements));
    let mut everywhere = Vec::new();
    rules::arrangements(screen, &mut everywhere);
    bands::bands(plan, &mut everywhere);
    if !trying.without_notes {
        rules::bare(screen, &mut everywhere);
        rules::implied(screen, &placements, &implied, &mut everywhere);
        odd::odd(screen, &mut everywhere);
        own::own(screen, &mut everywhere);
        idle.findings(screen, &mut everywhere);
    }
    for mut finding in everywhere {
        finding.displays = displays.iter().map(|d| d.name().to_owned()).collect();
        findings.push(finding);
    }
    for finding in &mut findings {
        finding.amount = millionths(finding.amount);
        for end in finding.ranges.values_mut().flatten() {
            *end = end.map(millionths);
        }
    }
    accept(screen, &mut findings, displays);
    findings.sort_by(|a, b| {
        let rank = |f: &Finding| (f.accepted.is_some(), f.severity, f.code);
        rank(a).cmp(&rank(b)).then(b.amount.total_cmp(&a.amount))
    });
    Ok(Some(Report { findings, placements, proven }))
}

/// An order of displays in which little changes from one to the next, so that each is soon solved from the one before.
fn from_near_to_near(displays: &[Display]) -> Vec<usize> {
    let mut order: Vec<usize> = (0..displays.len()).collect();
    order.sort_by(|&a, &b| {
        let (a, b) = (&displays[a], &displays[b]);
        let words = (a.direction(), a.language()).cmp(&(b.direction(), b.language()));
        let numbers = |d: &Display| [d.text_scale(), d.width(), d.height()];
        let numbers = std::iter::zip(numbers(a), numbers(b)).map(|(a, b)| a.total_cmp(&b));
        numbers.fold(words, std::cmp::Ordering::then)
    });
    order
}

/// What is wrong with where things landed, as the frames alone tell it; what lies nearer than a gap counts as
/// overlapping, and what the author accepts is left out. `fixed` are the views that stay where they are while what is
/// around them is scrolled.
pub(crate) fn found_on(
    screen: &Screen,
    placement: &Placement,
    fixed: &HashSet<ViewId>,
    gap: f64,
) -> Vec<Finding> {
    let codes = [Code::Conflict, Code::Cut, Code::Outside, Code::Overlap, Code::Covered, Code::Small];
    codes.into_iter().flat_map(|code| found_of(screen, placement, fixed, gap, code)).collect()
}

/// The same of one code.
pub(crate) fn found_of(
    screen: &Screen,
    placement: &Placement,
    fixed: &HashSet<ViewId>,
    gap: f64,
    code: Code,
) -> Vec<Finding> {
    let mut findings = Vec::new();
    match code {
        Code::Cut => frames::cut(screen, placement, &mut findings),
        Code::Outside => frames::outside(screen, placement, fixed, &mut findings),
        Code::Overlap => {
            let grown = (gap > 0.0).then(|| grown(placement, gap / 2.0));
            frames::overlaps(screen, grown.as_ref().unwrap_or(placement), fixed, false, &mut findings);
            frames::never_clear(screen, placement, fixed, &mut findings);
        }
        Code::Covered => reach::covered(screen, placement, &mut findings),
        Code::Small => reach::small(screen, placement, &mut findings),
        Code::Conflict => rules::broken(screen, placement, &mut findings),
        _ => {}
    }
    let accepted = |f: &Finding| {
        let same =
            |names: &[String]| names.len() == f.views.len() && f.views.iter().all(|v| names.contains(v));
        screen.acceptances().iter().any(|a| a.code() == code.name() && same(a.names()))
    };
    findings.retain(|f| !accepted(f) && f.severity != Severity::Note);
    findings
}

/// A placement with every frame larger by so much on each side.
fn grown(placement: &Placement, by: f64) -> Placement {
    let mut grown = placement.clone();
    for frame in grown.frames.iter_mut().flatten() {
        frame.left -= by;
        frame.top -= by;
        frame.width += 2.0 * by;
        frame.height += 2.0 * by;
    }
    grown
}

/// What is found on one display, and whether the relations that were tried decide nothing there.
struct Looked {
    placement: Placement,
    implied: Vec<RuleRef>,
    findings: Vec<Finding>,
    idle: Vec<Option<bool>>,
}

/// Looks at displays one after the other; `None` where a placement is not worth it.
fn look<'a>(
    live: &mut Live<'_>,
    displays: impl Iterator<Item = &'a Display>,
    measure: &dyn Measure,
    how: Checking<'_>,
    idle: &[(RuleId, usize)],
    trying: &Trying<'_>,
) -> Result<Option<Vec<Looked>>, PlaceError> {
    let screen = live.screen();
    let is_worth_it = |placement: &Placement| trying.is_worth_it.is_none_or(|is| is(placement));
    let mut all = Vec::new();
    for display in displays {
        let examined = live.examine_if(display, measure, idle, &is_worth_it)?;
        let Some((examined, idle)) = examined else { return Ok(None) };
        let mut here = Vec::new();
        rules::conflicts(screen, &examined, &mut here);
        rules::open_coordinates(screen, &examined, &mut here);
        rules::collapsed(screen, &examined, &mut here);
        rules::circular(screen, &examined, &mut here);
        rules::missed(screen, &examined.placement, &mut here);
        frames::divisions(screen, &examined.placement, &mut here);
        frames::grids(screen, &examined.placement, &mut here);
        frames::scrolling(screen, &examined.placement, &mut here);
        frames::cut(screen, &examined.placement, &mut here);
        let fixed = fixed(screen, live, &examined.placement, measure)?;
        frames::outside(screen, &examined.placement, &fixed, &mut here);
        frames::overlaps(screen, &examined.placement, &fixed, how.painted, &mut here);
        frames::never_clear(screen, &examined.placement, &fixed, &mut here);
        reach::covered(screen, &examined.placement, &mut here);
        reach::small(screen, &examined.placement, &mut here);
        rules::crossed(screen, &examined.placement, &mut here);
        if let Some(progress) = how.progress {
            progress(1);
        }
        let implied = examined.implied;
        all.push(Looked { placement: examined.placement, implied, findings: here, idle });
    }
    Ok(Some(all))
}

/// The views that stay where they are while the view around them is scrolled; those that it scrolls are not
/// among them.
pub(crate) fn fixed(
    screen: &Screen,
    live: &mut Live<'_>,
    placement: &Placement,
    measure: &dyn Measure,
) -> Result<HashSet<ViewId>, PlaceError> {
    let scrolled = || placement.scrolled.iter().filter(|(_, s)| s.most.0.max(s.most.1) > 0.0);
    let mut fixed = HashSet::new();
    if scrolled().all(|(&view, _)| live.takes_all_along(&placement.display, view)) {
        return Ok(fixed);
    }
    // Compared with the other end, or with the beginning.
    let elsewhere = scrolled().try_fold(placement.display.clone(), |display, (&view, at)| {
        let to = |offset: f64, most: f64| if offset < most { most } else { 0.0 };
        let (across, down) = (to(at.offset.0, at.most.0), to(at.offset.1, at.most.1));
        display.with_scroll(screen.path(view), across, down)
    });
    let Ok(elsewhere) = elsewhere else { return Ok(fixed) };
    let other = live.place(&elsewhere, measure)?;
    for (view, _) in scrolled() {
        let children = screen.at(*view).children().iter();
        let stays = |child: &&ViewId| match (placement.frame(**child), other.frame(**child)) {
            (Some(a), Some(b)) => (a.left - b.left).abs().max((a.top - b.top).abs()) <= 1e-6,
            _ => false,
        };
        fixed.extend(children.filter(stays));
    }
    Ok(fixed)
}

/// One finding for one cause: the message is that of the worst display.
fn join(findings: &mut Vec<Finding>, known: &mut HashMap<Key, usize>, finding: Finding) {
    match known.entry(finding.key()) {
        Entry::Occupied(at) => {
            let same = &mut findings[*at.get()];
            let mut displays = std::mem::take(&mut same.displays);
            displays.extend(finding.displays.iter().cloned());
            let varies = same.varies || (finding.amount - same.amount).abs() > 0.005;
            if finding.amount > same.amount {
                *same = finding;
            }
            (same.displays, same.varies) = (displays, varies);
        }
        Entry::Vacant(new) => {
            new.insert(findings.len());
            findings.push(finding);
        }
    }
}

/// Marks what the author accepts; an acceptance that accepts nothing is a finding itself.
fn accept(screen: &Screen, findings: &mut Vec<Finding>, displays: &[Display]) {
    let mut idle = Vec::new();
    for acceptance in screen.acceptances() {
        let names = acceptance.names();
        let mut used = false;
        for finding in findings.iter_mut().filter(|f| f.code.name() == acceptance.code()) {
            let same =
                |found: &[String]| found.len() == names.len() && found.iter().all(|f| names.contains(f));
            if same(&finding.views) || same(&finding.rules) {
                finding.accepted = Some(acceptance.reason().to_owned());
                used = true;
            }
        }
        if !used && !acceptance.is_inherited {
            let mut finding = Finding::new(Code::Idle, Severity::Note);
            finding.views = names.iter().filter(|n| screen.find(n).is_some()).cloned().collect();
            finding.rules = names.iter().filter(|n| screen.find(n).is_none()).cloned().collect();
            finding.message = format!("`accept {}: {}` accepts nothing", acceptance.code(), names.join(", "));
            finding.help = "take the line out if what it accepted is mended".into();
            finding.displays = displays.iter().map(|d| d.name().to_owned()).collect();
            idle.push(finding);
        }
    }
    findings.extend(idle);
}
