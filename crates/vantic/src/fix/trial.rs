//! A change tried: the file read with it, and checked.

use crate::check::report::{LeftOut, Report, TrialOptions};
use crate::check::run::{check_for_trial, is_accepted_by};
use crate::files::bases::Assembled;
use crate::finding::{Finding, Fix, Severity, Sureness};
use crate::fix::baseline::SolvedBefore;
use crate::fix::change::changed;
use crate::fix::context::{Candidate, FixContext, Fixes};
use crate::fix::other_displays::others_of;
use crate::fix::reasons::becomes;
use crate::fix::ruin::Settled;
use crate::inspect::inspect::{found_of, found_on};
use crate::resolve::read::Source;
use crate::resolve::source_map::SourceMap;
use std::collections::{BTreeMap, BTreeSet, HashMap, HashSet};
use std::sync::OnceLock;
use vantic_core::display::Display;
use vantic_core::model::{Code, Screen, ViewId};
use vantic_core::plan::{Placement, Plan};
use vantic_core::text::Measure;
use vantic_core::words::number;
use vantic_core::work;

/// A view moves where an edge or size changes by more than this, in logical pixels.
const MOVES: f64 = 0.5;

/// A finding that has become worse by no more than this, in logical pixels, counts as unchanged.
const WORSE: f64 = 0.5;

/// On how many of many displays a change is tried before it is on all.
const SOME: usize = 8;

/// What findings are reported apart by: rules are not, since their numbers change with a line. Views are by
/// path, since those of a changed screen have ids of their own.
type Kept = (Code, Severity, Vec<String>);

/// On how many displays a finding is found, and how bad it is.
type Known = BTreeMap<Kept, (usize, f64)>;

fn key(screen: &Screen, finding: &Finding) -> Kept {
    (finding.code, finding.severity, finding.paths(screen))
}

/// What is found of a view that is beyond the screen, where it is only under an inset now.
fn off_screen((code, severity, paths): &Kept) -> Option<Kept> {
    let is_near = (*code, *severity) == (Code::Covered, Severity::Warning);
    is_near.then(|| (Code::Outside, Severity::Error, paths.clone()))
}

fn known<'a>(screen: &Screen, findings: impl Iterator<Item = &'a Finding>) -> Known {
    let mut known = Known::new();
    for finding in findings.flat_map(Finding::each) {
        let of = known.entry(key(screen, finding)).or_insert((0, 0.0));
        of.0 += finding.displays.len();
        of.1 = of.1.max(finding.amount);
    }
    known
}

/// A change that fixes a finding.
pub(crate) struct FixFound {
    pub(crate) fix: Fix,
    /// How much is left to be found: an error weighs more than any number of warnings.
    pub(crate) left: usize,
    /// Whether something is left to be found of the views of the finding, or of what is in them.
    pub(crate) leaves_own: bool,
    /// How many notes there are that were not.
    pub(crate) doubts: usize,
    /// Where everything lands with it, to a hundredth of a logical pixel: per display, view by view.
    pub(crate) frames: Vec<Vec<Option<[i64; 4]>>>,
}

/// How much was found: an error weighs more than any number of warnings.
fn weight_of<'a>(findings: impl Iterator<Item = &'a Finding>) -> usize {
    let weight = |f: &Finding| match f.severity {
        Severity::Error => 1000,
        Severity::Warning => 1,
        Severity::Note => 0,
    };
    findings.map(weight).sum()
}

/// A changed screen in which the finding is gone and others are worse.
pub(crate) struct Uncovered {
    pub(crate) files: Assembled,
    pub(crate) map: SourceMap,
    pub(crate) plan: Plan,
    pub(crate) report: Report,
    /// The places in the report of what is worse.
    pub(crate) worse: Vec<usize>,
    /// Whether it leaves a view of no use.
    is_ruinous: bool,
}

impl Uncovered {
    /// What is worse, in plain words: one thing beside the change is worth knowing, several are another fault.
    pub(crate) fn said(&self) -> Option<String> {
        let [at] = self.worse[..] else { return None };
        let found = self.report.findings.get(at).filter(|_| !self.is_ruinous)?;
        let on = found.worst.or(found.displays.first().copied())?;
        Some(format!("on {}, {}", self.report.display_name(on), found.message(self.plan.screen())))
    }
}

pub(crate) struct Trial<'a> {
    fixes: Fixes<'a>,
    measure: &'a (dyn Measure + Sync),
    report: &'a Report,
    finding: &'a Finding,
    /// What the finding is reported by, and how many like it there are, by display.
    key: Kept,
    alike: HashMap<usize, usize>,
    before: Known,
    /// Displays that were not checked, each with where the screen is there without a change.
    elsewhere: OnceLock<Vec<(Display, Placement)>>,
    solved: &'a SolvedBefore,
    /// How much work one display may take.
    most_work: u64,
}

/// A change may make a display take so many times as much work as it does without, and so much more.
const HARDER: u64 = 8;
const MUCH: u64 = 400_000;

impl<'a> Trial<'a> {
    pub(crate) fn new(source: &'a FixContext<'_>, finding: &'a Finding) -> Self {
        let FixContext { fixes, measure, report, solved, .. } = source;
        let most_work = HARDER * (report.work / report.placements.len().max(1) as u64) + MUCH;
        let screen = source.screen();
        let key = key(screen, finding);
        let before = known(screen, report.open());
        let mut alike = HashMap::new();
        for &display in report.open().filter(|f| self::key(screen, f) == key).flat_map(|f| &f.displays) {
            *alike.entry(display).or_insert(0) += 1;
        }
        let elsewhere = OnceLock::new();
        Self { fixes: *fixes, measure, report, finding, key, alike, before, elsewhere, solved, most_work }
    }

    fn plan(&self, idea: &Candidate) -> Option<Plan> {
        self.read(idea).map(|(.., plan)| plan)
    }

    fn read(&self, idea: &Candidate) -> Option<(Assembled, SourceMap, Plan)> {
        let text = changed(self.fixes.files.text(), &idea.changes)?;
        let files = self
            .fixes
            .files
            .with_text(text, &idea.changes.iter().map(|c| (c.span(), c.new.len())).collect::<Vec<_>>());
        let Source { screen, map, .. } = files.read().ok()?;
        let plan = Plan::new((self.fixes.beside)(screen)?).ok()?;
        Some((files, map, plan))
    }

    /// The screen with a change, if the finding is gone where it is worst, and nothing worse is there; and how much is
    /// left to be found there. Then how much work that took.
    pub(crate) fn fixes_it(&self, idea: &Candidate, worst: Option<&Display>) -> (Option<(Plan, usize)>, u64) {
        let (found, work) = work::within(u64::MAX, || {
            let plan = self.plan(idea)?;
            let Some(worst) = worst else { return Some((plan, 0)) };
            let without_notes = self.finding.severity != Severity::Note;
            let report = self.check(&plan, std::slice::from_ref(worst), without_notes)?;
            // What is expected or claimed somewhere is tried when all displays are.
            let of_others = matches!(self.finding.code, Code::Unmet | Code::Claim | Code::Drift);
            let is_gone = of_others || self.is_gone(plan.screen(), &report, false);
            let left = weight_of(report.open());
            (is_gone && !self.is_worse(plan.screen(), &report)).then_some((plan, left))
        });
        (found, work)
    }

    /// What is found with a change, given up where the frames alone say that it fixes nothing.
    fn check(&self, plan: &Plan, displays: &[Display], without_notes: bool) -> Option<Report> {
        let begin = |display: &Display| self.solved.on(self.fixes.plan, self.measure, display);
        let is_worth_it = |after: &Placement| self.is_hopeful(plan.screen(), after);
        let is_refuted = |on: &Display, found: &[Finding]| self.is_refuted(plan.screen(), on, found);
        let trying = TrialOptions {
            begin: Some(&begin),
            is_worth_it: Some(&is_worth_it),
            is_refuted: Some(&is_refuted),
            without_notes,
            most_work: Some(self.most_work),
        };
        let report = check_for_trial(plan, displays, self.measure, self.fixes.how, &trying).ok()??;
        // What could not be looked at in full is not known to be right.
        let missing = |out: &LeftOut| out.of - out.looked_at;
        let before =
            |out: &LeftOut| self.report.left_out.iter().find(|b| b.what == out.what).map_or(0, missing);
        report.left_out.iter().all(|out| missing(out) <= before(out)).then_some(report)
    }

    /// Whether the frames alone let one hope: no required rule is broken where none was, and what is reported
    /// by frames is gone.
    fn is_hopeful(&self, screen: &Screen, after: &Placement) -> bool {
        let placements = &self.report.placements;
        let Some(on) = self.index_of(&after.display) else { return true };
        if placements[on].broken.is_empty() && !after.broken.is_empty() {
            return false;
        }
        // What stays where it is while others are scrolled is left to the check.
        let by_frames = matches!(
            self.finding.code,
            Code::Cut | Code::Outside | Code::Overlap | Code::Covered | Code::Small
        );
        if !by_frames || !after.scrolled.is_empty() || !self.finding.displays.contains(&on) {
            return true;
        }
        let found = found_of(screen, after, &HashSet::new(), 0.0, self.finding.code);
        found.iter().filter(|f| key(screen, f) == self.key).count() < self.on(on)
    }

    /// Whether what is found on a display with a change shows already that it is no fix: as much of the finding as
    /// before, or something that was found nowhere.
    fn is_refuted(&self, screen: &Screen, display: &Display, found: &[Finding]) -> bool {
        let mut same = 0;
        for finding in found.iter().filter(|f| f.severity != Severity::Note) {
            let of = key(screen, finding);
            if of == self.key {
                same += 1;
            } else if !self.before.contains_key(&of)
                && !self.was_hidden(&of)
                && !off_screen(&of).is_some_and(|off| self.before.contains_key(&off))
                && !is_accepted_by(screen, finding)
            {
                return true;
            }
        }
        let had = self
            .index_of(display)
            .filter(|on| self.finding.displays.contains(on))
            .map_or(0, |on| self.on(on));
        had > 0 && same >= had
    }

    /// Which of the displays of the report it is.
    fn index_of(&self, display: &Display) -> Option<usize> {
        self.report.placements.iter().position(|p| p.display.name() == display.name())
    }

    /// How many findings like it there are on a display.
    fn on(&self, display: usize) -> usize {
        self.alike.get(&display).copied().unwrap_or(0)
    }

    fn is_gone(&self, screen: &Screen, report: &Report, on_all: bool) -> bool {
        let after = known(screen, report.open());
        match (after.get(&self.key), self.before.get(&self.key)) {
            (None, _) => true,
            // There were several alike: it counts that there is less of it.
            (Some(after), Some(before)) if on_all => after.0 + self.finding.displays.len() <= before.0,
            (Some(after), _) => after.0 < self.finding.worst.map_or(0, |worst| self.on(worst)),
        }
    }

    /// Whether an error or warning is there that was not, or has become worse.
    fn is_worse(&self, screen: &Screen, report: &Report) -> bool {
        !self.worse(screen, report).is_empty()
    }

    /// Which errors and warnings are there that were not, or have become worse.
    fn worse(&self, screen: &Screen, report: &Report) -> Vec<Kept> {
        let after = known(screen, report.open().filter(|f| f.severity != Severity::Note));
        let is_worse = |(key, (count, amount)): &(&Kept, &(usize, f64))| match self.before.get(*key) {
            None => !self.was_hidden(key) && !self.was_off_screen(key, *count, &after),
            Some((was, before)) => count > was || *amount > before + WORSE,
        };
        after.iter().filter(is_worse).map(|(key, _)| key.clone()).collect()
    }

    /// What a change comes to that fixes the finding on all displays.
    pub(crate) fn uncovered(&self, idea: &Candidate, displays: &[Display]) -> Option<Uncovered> {
        let (files, map, plan) = self.read(idea)?;
        let begin = |display: &Display| self.solved.on(self.fixes.plan, self.measure, display);
        let most_work = Some(self.most_work);
        let trying = TrialOptions { begin: Some(&begin), most_work, ..TrialOptions::default() };
        let report = check_for_trial(&plan, displays, self.measure, self.fixes.how, &trying).ok()??;
        let screen = plan.screen();
        let worse = self.worse(screen, &report);
        let is_worse = |f: &Finding| f.accepted.is_none() && worse.contains(&key(screen, f));
        let at = report.findings.iter().enumerate().filter(|(_, f)| is_worse(f)).map(|(at, _)| at).collect();
        let is_ruinous = self.is_ruinous(screen, &report.placements);
        self.is_gone(screen, &report, true).then_some(Uncovered {
            files,
            map,
            plan,
            report,
            worse: at,
            is_ruinous,
        })
    }

    /// Whether a view was beyond the screen wherever it is under an inset now.
    fn was_off_screen(&self, of: &Kept, count: usize, after: &Known) -> bool {
        let off = off_screen(of);
        let on = |known: &Known| off.as_ref().and_then(|off| known.get(off)).map_or(0, |found| found.0);
        off.is_some() && on(&self.before) >= on(after) + count
    }

    /// Whether something about frames could not be seen before, since its view had no place or no size: that is of a
    /// kind that its siblings have too.
    fn was_hidden(&self, of: &Kept) -> bool {
        self.is_open() && self.is_as_siblings(&self.before, of)
    }

    /// Whether something about the frame of a view of the finding is of a kind that its siblings had before.
    fn is_as_siblings(&self, before: &Known, (code, severity, paths): &Kept) -> bool {
        let [path] = paths.as_slice() else { return false };
        let screen = self.fixes.plan.screen();
        let Some(view) = screen.find(path).filter(|view| self.finding.views.contains(view)) else {
            return false;
        };
        let mut siblings = screen.siblings_of(view).filter(|sibling| *sibling != view);
        let has = |sibling| before.contains_key(&(*code, *severity, vec![screen.path(sibling)]));
        code.is_of_frames() && siblings.any(has)
    }

    /// The fix that it is, if it fixes on all displays.
    pub(crate) fn checked(&self, idea: &Candidate, plan: &Plan, displays: &[Display]) -> Option<FixFound> {
        // What fails on some of many displays is not tried on all of them.
        let some = some_of(displays);
        if some.len() < displays.len() {
            self.check(plan, &some, true)?;
        }
        let report = self.check(plan, displays, false)?;
        let screen = plan.screen();
        if !self.is_gone(screen, &report, true)
            || self.is_worse(screen, &report)
            || self.is_ruinous(screen, &report.placements)
            || self.is_worse_elsewhere(plan, displays)
        {
            return None;
        }
        let (moved, moved_on) = self.moved(screen, &report.placements);
        let after = known(screen, report.open());
        let before = self.fixes.plan.screen();
        let others = self.report.findings.iter().enumerate().filter(|(_, f)| {
            let of = key(before, f);
            let is_own = of == self.key;
            !is_own && f.accepted.is_none() && f.severity != Severity::Note && !after.contains_key(&of)
        });
        let also_fixes = others.map(|(index, _)| index + 1).collect();
        let fix = Fix {
            name: String::new(),
            text: idea.said.clone(),
            reason: String::new(),
            sureness: Sureness::Guess,
            becomes: self.becomes(screen, &report.placements),
            edits: idea.changes.iter().map(|c| c.edit(self.fixes.files)).collect(),
            moves: moves_said(&moved, moved_on),
            moved,
            moved_on,
            also_fixes,
        };
        // What gives way does so on purpose.
        let doubts = after.keys().filter(|key| key.1 == Severity::Note && key.0 != Code::Missed);
        let doubts = doubts.filter(|key| !self.before.contains_key(*key)).count();
        let frames = report.placements.iter().map(|placed| frames_of(screen, placed)).collect();
        let left = weight_of(report.open().filter(|f| !self.was_hidden(&key(screen, f))));
        let own = self.finding.paths(before);
        let within = |path: &String| {
            let inside =
                |own: &String| path == own || path.strip_prefix(own).is_some_and(|p| p.starts_with('.'));
            own.iter().any(inside)
        };
        let mut wrong = report.open().filter(|f| f.severity != Severity::Note);
        let leaves_own = wrong.any(|f| f.paths(screen).iter().any(within));
        Some(FixFound { fix, left, leaves_own, doubts, frames })
    }

    fn becomes(&self, screen: &Screen, placements: &[Placement]) -> String {
        let on = self.finding.worst.unwrap_or(0);
        let (Some(before), Some(after)) = (self.report.placements.get(on), placements.get(on)) else {
            return String::new();
        };
        let said = becomes(self.finding, (self.fixes.plan.screen(), before), (screen, after));
        if said.is_empty() || placements.len() < 2 {
            said
        } else {
            format!("{said} on {}", after.display.name())
        }
    }

    /// Whether the views of the finding had no place or size of their own before.
    fn is_open(&self) -> bool {
        matches!(self.finding.code, Code::Ambiguous | Code::Collapse | Code::Conflict)
    }

    fn settled(&self, screen: &Screen) -> Settled {
        Settled::new(self.finding, self.is_open(), self.fixes.plan.screen(), screen)
    }

    /// Whether a view becomes unusable on one of the displays.
    fn is_ruinous(&self, screen: &Screen, placements: &[Placement]) -> bool {
        let views = self.settled(screen);
        std::iter::zip(&self.report.placements, placements)
            .any(|(before, after)| views.are_ruined(before, after))
    }

    /// The display where the finding is worst, read in the other direction, with larger text, longer words and
    /// rotated, and others in bands that were not checked.
    fn elsewhere(&self, displays: &[Display]) -> &[(Display, Placement)] {
        self.elsewhere.get_or_init(|| {
            let Some(worst) = self.finding.worst.and_then(|worst| displays.get(worst)) else {
                return Vec::new();
            };
            let others = others_of(self.fixes.plan.screen(), displays, worst, self.is_open());
            let placed = |display: Display| {
                let placement = self.fixes.plan.place(&display, self.measure).ok()?;
                Some((display, placement))
            };
            others.into_iter().filter_map(placed).collect()
        })
    }

    /// Whether something goes wrong that did not on displays that were not checked, as the frames alone tell it.
    fn is_worse_elsewhere(&self, plan: &Plan, displays: &[Display]) -> bool {
        let views = self.settled(plan.screen());
        let all =
            |plan: &Plan, placement: &Placement| found_on(plan.screen(), placement, &HashSet::new(), 0.0);
        let found = |plan: &Plan, placement: &Placement| weight_of(all(plan, placement).iter());
        // What was open is as good as where it was tried.
        let as_tried = match self.finding.worst.and_then(|worst| displays.get(worst)) {
            Some(worst) if self.is_open() => {
                plan.place(worst, self.measure).map_or(0, |placed| found(plan, &placed))
            }
            _ => 0,
        };
        self.elsewhere(displays).iter().any(|(display, before)| {
            let placed = work::within(self.most_work, || plan.place(display, self.measure)).0;
            let Some(after) = placed.ok().filter(|placed| !placed.hit_work_limit) else { return true };
            let was = all(self.fixes.plan, before);
            let usual = weight_of(was.iter()).max(as_tried);
            let was = known(self.fixes.plan.screen(), was.iter());
            let is = all(plan, &after);
            // What was put right is no better than what stands beside it.
            let is = is.iter().filter(|f| !self.is_as_siblings(&was, &key(plan.screen(), f)));
            weight_of(is) > usual || views.are_ruined(before, &after)
        })
    }

    /// The views that move, those of the finding left out, and on how many displays something does.
    fn moved(&self, screen: &Screen, placements: &[Placement]) -> (Vec<String>, usize) {
        let old = self.fixes.plan.screen();
        let own = self.finding.paths(old);
        let pairs: Vec<(ViewId, Option<ViewId>, String)> = screen
            .views()
            .map(|(view, _)| {
                let path = screen.path(view);
                (view, old.find(&path), path)
            })
            .collect();
        let mut views = BTreeSet::new();
        let mut displays = 0;
        for (before, after) in std::iter::zip(&self.report.placements, placements) {
            let differs = |&&(view, was, _): &&(ViewId, Option<ViewId>, String)| match (
                was.and_then(|view| before.frame(view)),
                after.frame(view),
            ) {
                (Some(a), Some(b)) => {
                    let edges = [a.left - b.left, a.top - b.top, a.width - b.width, a.height - b.height];
                    edges.iter().any(|by| by.abs() > MOVES)
                }
                (a, b) => a.is_some() != b.is_some(),
            };
            let differs: Vec<&String> = pairs.iter().filter(differs).map(|(_, _, path)| path).collect();
            displays += usize::from(!differs.is_empty());
            views.extend(differs.into_iter().filter(|path| !own.contains(path)).cloned());
        }
        (views.into_iter().collect(), displays)
    }
}

/// Some of many displays, from the first to the last.
pub(crate) fn some_of(displays: &[Display]) -> Vec<Display> {
    let step = if displays.len() > 2 * SOME { displays.len().div_ceil(SOME) } else { 1 };
    displays.iter().step_by(step).cloned().collect()
}

/// The frames of a placement, to a hundredth.
fn frames_of(screen: &Screen, placement: &Placement) -> Vec<Option<[i64; 4]>> {
    let hundredths = |of: f64| (of * 100.0).round() as i64;
    let one = |view| placement.frame(view).map(|f| [f.left, f.top, f.width, f.height].map(hundredths));
    screen.views().map(|(view, _)| one(view)).collect()
}

fn moves_said(moved: &[String], displays: usize) -> String {
    let plural = |count: usize, what: &str| {
        format!("{} {what}{}", number(count as f64), if count == 1 { "" } else { "s" })
    };
    let on = plural(displays, "display");
    match moved {
        [] if displays == 0 => "no frame changes".to_owned(),
        [] => format!("no other view moves, on {on}"),
        [one] => format!("also moves `{one}`, on {on}"),
        many => format!("also moves {}, on {on}", plural(many.len(), "other view")),
    }
}
