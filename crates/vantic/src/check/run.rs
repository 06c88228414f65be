//! Checking a screen: places it on each display, gathers what the other files find, joins what is the same on
//! several displays, and sets aside what the author accepts.

use crate::check::elsewhere::{Elsewhere, Share};
use crate::check::folding::either_side;
use crate::check::report::{
    CHECK_WORK, CLAIM_WORK, CheckOptions, JUMP_WORK, Report, TrialOptions, display_index,
};
use crate::finding::detail::DeclaredDetail;
use crate::finding::{Finding, Severity, ViewCoordinate};
use crate::inspect::inspect::{Scrolling, is_accepted, scrolling};
use crate::sweep::effort::work_for;
use rayon::prelude::*;
use rustc_hash::{FxBuildHasher, FxHashMap};
use std::collections::HashSet;
use std::hash::{BuildHasher as _, Hash};
use vantic_core::display::Display;
use vantic_core::limits::{PLACE_WORK, PLACE_WORK_PER_VIEW};
use vantic_core::model::{Code, RuleId, RuleRef, Screen, ViewId};
use vantic_core::plan::{Examination, Live, PlaceError, Placement, Plan};
use vantic_core::text::Measure;
use vantic_core::tolerance::VISIBLE;
use vantic_core::words::millionths;
use vantic_core::work;

/// Checks a screen on displays. What overlaps is reported by the frames.
///
/// ```
/// use vantic::prelude::*;
///
/// let source = vantic::read(
///     "screen workshop {
///          view bench { pin left, top to screen; width = 100 }
///      }",
/// )?;
/// let plan = Plan::new(source.screen)?;
/// let report = vantic::check(&plan, &[Display::new(320.0, 480.0)?], &PlainText)?;
/// let message = report.findings[0].message(plan.screen());
/// assert_eq!(message, "`bench` is underconstrained: height can be anything from 0 up");
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
///
/// # Errors
/// As for [`Plan::place`].
pub fn check(
    plan: &Plan,
    displays: &[Display],
    measure: &(dyn Measure + Sync),
) -> Result<Report, PlaceError> {
    check_as(plan, displays, measure, CheckOptions::default())
}

/// How many displays are looked at one after the other, each from what was solved for the one before. It does
/// not depend on the machine, so that the same calls give the same bits everywhere.
const WARM_START_CHUNK: usize = 8;

/// Checks a screen on displays, in parallel.
///
/// ```
/// use std::sync::atomic::{AtomicUsize, Ordering};
/// use vantic::check::check_as;
/// use vantic::prelude::*;
///
/// let source = vantic::read("screen quay { view board { pin left, right, top, bottom to safe } }")?;
/// let plan = Plan::new(source.screen)?;
/// let looked_at = AtomicUsize::new(0);
/// let progress = |more: usize| {
///     looked_at.fetch_add(more, Ordering::Relaxed);
/// };
/// let how = CheckOptions { progress: Some(&progress), ..CheckOptions::default() };
/// let displays = [Display::new(390.0, 844.0)?, Display::new(844.0, 390.0)?];
/// let report = check_as(&plan, &displays, &PlainText, how)?;
/// assert!(!report.has_failed(true) && looked_at.into_inner() == 2);
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
///
/// # Errors
/// As for [`Plan::place`].
pub fn check_as(
    plan: &Plan,
    displays: &[Display],
    measure: &(dyn Measure + Sync),
    how: CheckOptions<'_>,
) -> Result<Report, PlaceError> {
    let idle = crate::check::idle_rules::Idle::new(plan.screen());
    let checked = check_with(plan, WARM_START_CHUNK, displays, measure, how, idle, &TrialOptions::default())?;
    let Some(mut report) = checked else { unreachable!("every placement is worth it") };
    crate::check::folding::fold(plan.screen(), &mut report.findings);
    let tell = || crate::check::attribution::tell(plan, &mut report, measure);
    work::within(work_for(ATTRIBUTION_WORK, how.effort), tell);
    // A note, behind all that is worse.
    let displays = &displays[..report.placements.len()];
    let most_work = worth_trying(work_for(JUMP_WORK, how.effort), report.work, &report.placements);
    let jumps = || crate::check::jumps::jumps(plan, displays, measure, most_work, &mut report.displays);
    let (leaping, borders) = work::within(most_work, jumps).0?;
    report.left_out.extend(borders.left_out("borders of bands"));
    let at = report
        .findings
        .partition_point(|f| f.accepted.is_none() && (f.severity, f.code) < (Severity::Note, Code::Jump));
    report.findings.splice(at..at, leaping);
    Ok(report)
}

/// How many views on how many displays are looked at before what is found is joined, and on how many at least.
const HELD_AT_ONCE: usize = 20_000;
const LEAST_AT_ONCE: usize = 16;

/// Of a large screen: how many views are looked at at once, all displays together.
const MOST_AT_ONCE: usize = 100_000;

/// How much work it may take to find the rules that put findings' views there; the findings that it does not suffice for
/// are reported without them.
const ATTRIBUTION_WORK: u64 = 5_000_000;

/// From how many views on a screen is large.
const LARGE: usize = 500;

/// How much work each of very many displays may take, beside what its views do.
const LEAST_WORK: u64 = 100_000;

/// In a trial, claims take as much work as so many displays at most.
const CLAIMS_TRIED: u64 = 4;

/// How many views are kept placed, all displays of a check together.
const MAX_VIEWS_KEPT: u64 = 600_000;

/// One of so many displays is looked at before the others, to tell what is not idle.
const ALONE: usize = 5;

/// In how many rows displays are looked at, each by itself, at least.
const LEAST_ROWS: usize = 2;

/// How many displays are looked at one after the other where several checks go on at once.
const TRIAL_CHUNK: usize = 48;

/// The same without what takes long and is noted only: percentages and ratios that decide nothing, and views
/// that jump. `None` where it was given up.
pub(crate) fn check_for_trial(
    plan: &Plan,
    displays: &[Display],
    measure: &(dyn Measure + Sync),
    how: CheckOptions<'_>,
    trying: &TrialOptions<'_>,
) -> Result<Option<Report>, PlaceError> {
    let how = CheckOptions { progress: None, ..how };
    check_with(plan, TRIAL_CHUNK, displays, measure, how, crate::check::idle_rules::Idle::default(), trying)
}

fn check_with(
    plan: &Plan,
    in_a_row: usize,
    displays: &[Display],
    measure: &(dyn Measure + Sync),
    how: CheckOptions<'_>,
    mut idle: crate::check::idle_rules::Idle,
    trying: &TrialOptions<'_>,
) -> Result<Option<Report>, PlaceError> {
    let screen = plan.screen();
    // All placements are kept: of very many views on many displays, the first ones.
    let views = screen.views().count().max(1);
    let (all, most) = (displays.len(), (work_for(MAX_VIEWS_KEPT, how.effort) as usize / views).max(1));
    let mut displays = &displays[..all.min(most)];
    let mut joined = Joined::default();
    let mut names: Vec<String> = displays.iter().map(|d| d.name().to_owned()).collect();
    let mut placements = Vec::with_capacity(displays.len());
    let mut elsewhere: Vec<Elsewhere> = Vec::new();
    let mut implied: Vec<Vec<RuleRef>> = Vec::with_capacity(displays.len());
    let (mut scrolled, mut work) = (Share::default(), 0);
    let mut examined = Share { looked_at: 0, of: all };
    // In a trial, claims take no more than a few displays.
    let claims_work = trying.most_work.map_or(u64::MAX, |most| CLAIMS_TRIED * most);
    let claims_work = claims_work.min(work_for(CLAIM_WORK, how.effort));
    let is_for_itself = trying.most_work.is_none();
    let all_work = work_for(CHECK_WORK, how.effort);
    let each_work = trying.most_work.unwrap_or_else(|| {
        let least = work_for(LEAST_WORK, how.effort) + PLACE_WORK_PER_VIEW * views as u64;
        (all_work / displays.len().max(1) as u64).max(least)
    });
    // What is found on some displays is joined before others are looked at, so that not all of it is held at once. Of a
    // large screen a display may take more than its share: the first one tells how many there is enough work for, and
    // others are looked at while there is some left.
    let is_large =
        is_for_itself && (views >= LARGE || each_work.saturating_mul(displays.len() as u64) > all_work);
    let at_once = (HELD_AT_ONCE / views).max(LEAST_AT_ONCE);
    let at_once = if is_large { at_once.min(MOST_AT_ONCE / views).max(1) } else { at_once };
    while let rest @ [_, ..] = &displays[placements.len()..] {
        let from = placements.len();
        let (count, most_work) = match work / from.max(1) as u64 {
            _ if !is_large => (at_once, each_work),
            _ if from == 0 => (1, each_work.max(work_for(PLACE_WORK, how.effort).min(all_work))),
            taken => {
                let left = all_work.saturating_sub(work);
                let enough_for = usize::try_from(left / taken.max(1)).unwrap_or(usize::MAX);
                if enough_for == 0 {
                    break;
                }
                let count = enough_for.min(at_once).min(rest.len());
                (count, each_work.max(left / count as u64))
            }
        };
        let some = &rest[..count.min(rest.len())];
        let trying = &TrialOptions { most_work: Some(most_work), ..*trying };
        let Some(looked) = look_at_all(plan, in_a_row, some, measure, how, &mut idle, trying)? else {
            return Ok(None);
        };
        for (on, looked) in looked {
            let on = from + on;
            for finding in looked.findings {
                joined.add_on(screen, on, finding);
            }
            implied.push(looked.implied);
            placements.push(looked.placement);
            elsewhere.extend(looked.elsewhere);
            scrolled.looked_at += looked.scrolled.looked_at;
            scrolled.of += looked.scrolled.of;
            examined.looked_at += usize::from(!looked.in_part);
            work += looked.work;
        }
    }
    displays = &displays[..placements.len()];
    names.truncate(displays.len());
    let mut further = Vec::with_capacity(elsewhere.len());
    for (placement, found) in elsewhere {
        let on = display_index(&mut names, placement.display.name());
        for finding in found {
            joined.add_on(screen, on, finding);
        }
        further.push(placement);
    }
    let claims_work = worth_trying(claims_work, work, &placements);
    let expected = || crate::check::expectations::unmet(plan, measure, how.displays, &mut names);
    let (unmet, expectations) = work::within(claims_work, expected).0?;
    unmet.into_iter().for_each(|finding| joined.add(screen, finding));
    let ambiguous = joined.findings.iter().filter(|f| f.code == Code::Ambiguous);
    let open: HashSet<ViewId> =
        ambiguous.flat_map(|f| f.views.iter().copied().chain(f.follows.iter().map(|of| of.0))).collect();
    let drawn = || crate::check::drawings::drifting(plan, measure, how.displays, &open, &mut names);
    let (drifting, drawings) = work::within(claims_work, drawn).0?;
    let mut findings = joined.findings;
    findings.extend(drifting);
    let claims = crate::check::claims::claims(plan, &placements, measure, claims_work, &mut names)?;
    findings.extend(claims.broken);
    findings.extend(crate::check::rules::beside_guides(screen, &placements));
    findings.extend(crate::inspect::targets_and_insets::uncovered(screen, &placements));
    findings.extend(crate::check::translations::untranslated(screen, &placements));
    let mut everywhere = Vec::new();
    crate::check::rules::arrangements(screen, &mut everywhere);
    crate::check::rules::not_arranged(screen, &mut everywhere);
    crate::check::bands::bands(plan, &mut everywhere);
    if !trying.without_notes {
        crate::check::rules::bare(screen, &mut everywhere);
        crate::check::written_idle::leftovers(screen, &mut everywhere);
        crate::check::written_idle::guides(screen, &mut everywhere);
        crate::check::slips::sided(screen, &mut everywhere);
        crate::check::idle_rules::implied(screen, &placements, &implied, &mut everywhere);
        crate::check::outlier_rules::odd(screen, &mut everywhere);
        crate::check::outlier_rules::odd_numbers(screen, &mut everywhere);
        crate::check::self_contradictory_rules::own(screen, &mut everywhere);
        idle.findings(screen, &mut everywhere);
    }
    for mut finding in everywhere {
        finding.displays = (0..displays.len()).collect();
        findings.push(finding);
    }
    for finding in &mut findings {
        finding.amount = millionths(finding.amount);
        for end in finding.ranges.iter_mut().flat_map(|(_, range)| range) {
            *end = end.map(millionths);
        }
    }
    accept(screen, &mut findings, displays.len());
    findings.sort_by(|a, b| {
        let rank = |f: &Finding| (f.accepted.is_some(), f.severity, f.code);
        rank(a).cmp(&rank(b)).then(b.amount.total_cmp(&a.amount))
    });
    let left_out = [
        ("displays", examined),
        ("scroll positions", scrolled),
        ("expectations", expectations),
        ("drawings", drawings),
        ("ranges of claims", claims.ranges),
    ];
    let left_out = left_out.into_iter().filter_map(|(what, share)| share.left_out(what)).collect();
    let proven = claims.proven;
    Ok(Some(Report { findings, placements, displays: names, proven, left_out, work, further }))
}

/// The work that more placements may take: none where not one display could be worked out with as much.
fn worth_trying(most: u64, taken: u64, placements: &[Placement]) -> u64 {
    let each = taken / placements.len().max(1) as u64;
    let is_too_much = each >= most && placements.iter().all(|placement| placement.hit_work_limit);
    if is_too_much { 0 } else { most }
}

/// Looks at every display, each from what was solved for the one before; what comes back is in their order.
/// `None` where it was given up.
fn look_at_all(
    plan: &Plan,
    in_a_row: usize,
    displays: &[Display],
    measure: &(dyn Measure + Sync),
    how: CheckOptions<'_>,
    idle: &mut crate::check::idle_rules::Idle,
    trying: &TrialOptions<'_>,
) -> Result<Option<Vec<(usize, DisplayReport)>>, PlaceError> {
    let order = warm_start_order(displays);
    let in_a_row_of = |row: &[usize], idle: &[(RuleId, usize)]| {
        look(
            &mut plan.live().with_effort(how.effort),
            row.iter().map(|&at| &displays[at]),
            measure,
            how,
            idle,
            trying,
        )
    };
    // The first ones tell most of what is not idle, so that the others need not try it.
    let alone = if idle.left.is_empty() { 0 } else { (order.len() / ALONE).max(1).min(in_a_row) };
    let (first, rest) = order.split_at(alone);
    let in_a_row = in_a_row.min(rest.len().div_ceil(LEAST_ROWS)).max(1);
    let Some(first) = in_a_row_of(first, &idle.left)? else { return Ok(None) };
    let tried = idle.left.clone();
    first.iter().for_each(|looked| idle.record(&tried, &looked.idle));
    let tried = idle.left.clone();
    let rest = rest.par_chunks(in_a_row).map(|row| in_a_row_of(row, &tried).transpose());
    let Some(rest) = rest.collect::<Option<Vec<_>>>() else { return Ok(None) };
    let rest = rest.into_iter().collect::<Result<Vec<_>, PlaceError>>()?;
    rest.iter().flatten().for_each(|looked| idle.record(&tried, &looked.idle));
    let looked = first.into_iter().chain(rest.into_iter().flatten());
    let mut looked: Vec<(usize, DisplayReport)> = std::iter::zip(order.iter().copied(), looked).collect();
    looked.sort_by_key(|(at, _)| *at);
    Ok(Some(looked))
}

/// An order of displays in which little changes from one to the next, so that each is soon solved from the
/// one before.
fn warm_start_order(displays: &[Display]) -> Vec<usize> {
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

/// What is found on one display, and whether the relations that were tried decide nothing there.
struct DisplayReport {
    placement: Placement,
    implied: Vec<RuleRef>,
    findings: Vec<Finding>,
    idle: Vec<Option<bool>>,
    elsewhere: Vec<Elsewhere>,
    /// Of the places to which something is scrolled.
    scrolled: Share,
    /// Whether the bound on the work was met, and how much there was.
    in_part: bool,
    work: u64,
}

/// Looks at displays one after the other; `None` where a placement is not worth it, or what is found refutes a
/// trial.
fn look<'a>(
    live: &mut Live,
    displays: impl Iterator<Item = &'a Display>,
    measure: &(dyn Measure + Sync),
    how: CheckOptions<'_>,
    idle: &[(RuleId, usize)],
    trying: &TrialOptions<'_>,
) -> Result<Option<Vec<DisplayReport>>, PlaceError> {
    let mut all = Vec::new();
    for display in displays {
        let most = trying.most_work.unwrap_or(u64::MAX);
        let (looked, work) = work::within(most, || look_at(live, display, measure, how, idle, trying));
        let Some(looked) = looked? else { return Ok(None) };
        all.push(DisplayReport { work, ..looked });
    }
    Ok(Some(all))
}

/// Looks at one display.
fn look_at(
    live: &mut Live,
    display: &Display,
    measure: &(dyn Measure + Sync),
    how: CheckOptions<'_>,
    idle: &[(RuleId, usize)],
    trying: &TrialOptions<'_>,
) -> Result<Option<DisplayReport>, PlaceError> {
    if let Some(begin) = trying.begin {
        live.begin_from(display, begin);
    }
    let plan = live.plan().clone();
    let screen = plan.screen();
    let is_worth_it = |placement: &Placement| trying.is_worth_it.is_none_or(|is| is(placement));
    let examined = live.examine_if(display, measure, idle, &is_worth_it)?;
    let Some((examined, idle)) = examined else { return Ok(None) };
    let mut here = Vec::new();
    crate::check::rules::conflicts(screen, &examined, &mut here);
    crate::check::rules::unsettled(&examined.placement, &mut here);
    // Frames that are not the best ones do not tell what is wrong with the screen.
    let is_worked_out = !examined.placement.hit_work_limit;
    let frames = is_worked_out.then(|| wrong_frames(live, &examined, measure, trying, &mut here));
    let scrolls = frames.transpose()?;
    if let Some(progress) = how.progress {
        progress(1);
    }
    if is_worked_out && trying.is_refuted.is_some_and(|is| is(display, &here)) {
        return Ok(None);
    }
    let (elsewhere, scrolled) = match scrolls {
        Some(Scrolling { fixed, other_end }) => {
            crate::check::elsewhere::elsewhere(live, &examined.placement, other_end, measure, &fixed, &here)?
        }
        None => Default::default(),
    };
    let in_part = !is_worked_out || examined.in_part || work::is_short();
    let Examination { placement, implied, .. } = examined;
    Ok(Some(DisplayReport {
        placement,
        implied,
        findings: here,
        idle,
        elsewhere,
        scrolled,
        in_part,
        work: 0,
    }))
}

/// What is open, and what is wrong with the frames; and what scrolling moves.
fn wrong_frames(
    live: &mut Live,
    examined: &Examination,
    measure: &(dyn Measure + Sync),
    trying: &TrialOptions<'_>,
    here: &mut Vec<Finding>,
) -> Result<Scrolling, PlaceError> {
    let plan = live.plan().clone();
    let screen = plan.screen();
    crate::check::rules::open_coordinates(screen, examined, here);
    crate::inspect::collapse::without_size(screen, examined, here);
    crate::inspect::shape::stretched(screen, &examined.placement, here);
    crate::check::rules::circular(examined, here);
    crate::check::rules::missed(screen, &examined.placement, here);
    crate::inspect::frames::divisions(&examined.placement, here);
    crate::inspect::frames::grids(&examined.placement, here);
    let follow =
        |f: &Finding| crate::inspect::collapse::follows_from_no_space(screen, &examined.placement, f);
    here.retain(|finding| !follow(finding));
    crate::inspect::frames::scrolling(screen, &examined.placement, here);
    crate::inspect::frames::cut(screen, &examined.placement, here);
    let scrolls = scrolling(screen, live, &examined.placement, measure)?;
    let fixed = &scrolls.fixed;
    crate::inspect::frames::outside(screen, &examined.placement, fixed, here);
    crate::inspect::overlaps::overlaps(screen, &examined.placement, fixed, 0.0, here);
    crate::inspect::targets_and_insets::covered(screen, &examined.placement, fixed, here);
    crate::inspect::targets_and_insets::under_keyboard(screen, &examined.placement, fixed, here);
    crate::inspect::targets_and_insets::small(screen, &examined.placement, here);
    crate::check::slips::other_orientation(screen, &examined.placement, here);
    if !trying.without_notes {
        crate::check::slips::staying(screen, &examined.placement, fixed, here);
        crate::check::slips::tied_within_turned(screen, &examined.placement, here);
    }
    crate::check::rules::crossed(screen, &examined.placement, here);
    Ok(scrolls)
}

/// What two findings share that are the same: rules of one name count as one, a band's in place of the
/// screen's.
struct Key {
    coordinates: Vec<ViewCoordinate>,
    rules: Vec<String>,
}

impl Key {
    fn of(screen: &Screen, finding: &Finding) -> Self {
        let mut coordinates = finding.coordinates.clone();
        if matches!(finding.code, Code::Outside | Code::Covered) {
            // What is left in one direction of reading is right in the other.
            coordinates.iter_mut().for_each(|(_, side)| *side = either_side(*side));
            coordinates.dedup();
        }
        let mut rules = finding.rule_names(screen);
        // Preferences of one rule on several levels give way one by one.
        let missed = finding.rules.first().filter(|_| finding.code == Code::Missed);
        rules.extend(missed.and_then(|rule| rule.level(screen)).map(str::to_owned));
        Self { coordinates, rules }
    }

    /// What is compared, without a copy: there are as many findings to look for as findings times displays.
    fn with<'a>(&'a self, finding: &'a Finding) -> impl Hash + PartialEq + use<'a> {
        let Finding { code, severity, views, given, .. } = finding;
        (code, severity, views, &self.coordinates, given, &self.rules)
    }
}

/// One finding for one cause: it is that of the worst display.
#[derive(Default)]
struct Joined {
    findings: Vec<Finding>,
    keys: Vec<Key>,
    /// The findings by the hash of what they share.
    known: FxHashMap<u64, Vec<usize>>,
}

impl Joined {
    /// Adds what was found on one display.
    fn add_on(&mut self, screen: &Screen, on: usize, mut finding: Finding) {
        finding.worst = Some(on);
        finding.displays = vec![on];
        self.add(screen, finding);
    }

    fn add(&mut self, screen: &Screen, finding: Finding) {
        let key = Key::of(screen, &finding);
        let alike = self.known.entry(FxBuildHasher.hash_one(key.with(&finding))).or_default();
        let is_same = |&&at: &&usize| self.keys[at].with(&self.findings[at]) == key.with(&finding);
        let Some(&at) = alike.iter().find(is_same) else {
            alike.push(self.findings.len());
            self.findings.push(finding);
            self.keys.push(key);
            return;
        };
        let same = &mut self.findings[at];
        let mut displays = std::mem::take(&mut same.displays);
        displays.extend(&finding.displays);
        let varies =
            same.varies || (finding.amount - same.amount).abs() > VISIBLE || finding.ranges != same.ranges;
        // Of two that are as bad, one by what it is, whatever was looked at first.
        let is_first = finding.amount == same.amount && finding.coordinates < same.coordinates;
        if finding.amount > same.amount || is_first {
            *same = finding;
        }
        (same.displays, same.varies) = (displays, varies);
    }
}

/// Marks what the author accepts; an acceptance that accepts nothing is a finding itself.
/// Whether an acceptance of the screen is about a finding.
pub(crate) fn is_accepted_by(screen: &Screen, finding: &Finding) -> bool {
    let mut about = screen.acceptances().iter().filter(|of| of.code() == finding.code.name());
    about.any(|acceptance| is_accepted(screen, acceptance, finding))
}

fn accept(screen: &Screen, findings: &mut Vec<Finding>, displays: usize) {
    let mut idle = Vec::new();
    for (index, acceptance) in screen.acceptances().iter().enumerate() {
        let names = acceptance.names();
        let mut used = false;
        for finding in findings.iter_mut().filter(|f| f.code.name() == acceptance.code()) {
            if is_accepted(screen, acceptance, finding) {
                finding.accepted = Some(index);
                used = true;
            }
        }
        if !used && !acceptance.is_inherited() {
            let finding = Finding::note(Code::Idle, DeclaredDetail::IdleAcceptance(index));
            let views: Vec<ViewId> = names.iter().filter_map(|name| screen.find(name)).collect();
            idle.push(Finding { displays: (0..displays).collect(), ..finding.about(views) });
        }
    }
    findings.extend(idle);
}
