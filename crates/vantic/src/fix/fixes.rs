//! Fixes of the findings of a report: for each finding, the candidates are tried in order until enough of
//! them prove to be fixes.

use crate::check::elsewhere::Share;
use crate::check::report::Report;
use crate::files::bases::{Assembled, InFile};
use crate::finding::{Finding, Fix, Severity, Sureness};
use crate::fix::budget::Budget;
use crate::fix::context::{Candidate, FixContext, Fixes, MAX_TRIED};
use crate::fix::queue::Queue;
use crate::fix::reasons::sureness;
use crate::fix::trial::FixFound;
use crate::fix::weights::offered;
use crate::resolve::source_map::SourceMap;
use rayon::prelude::*;
use std::collections::{BTreeSet, HashSet};
use vantic_core::model::{Code, RuleId};
use vantic_core::plan::Plan;

/// How many fixes are offered of one finding.
pub const MAX_FIXES: usize = 3;

/// How many findings get fixes: the first ones, errors before warnings.
pub const MAX_FIXED_FINDINGS: usize = 20;

/// What is left out where fixes are not looked for of all findings.
pub const FINDINGS_FOR_FIXES: &str = "findings for fixes";

/// How many more are tried once one of them is a fix.
const MAX_EXTRA_TRIALS: usize = 40;

/// How many of those that fix it there are tried on all displays.
const MAX_CHECKED: usize = 12;

/// How many are tried at once. It does not depend on the machine, so that the same calls give the same
/// answer.
const AT_ONCE: usize = 8;

/// The files of a screen with some of its rules taken out, each by its name; what is written for several
/// views at once goes for all of them. The rest stays as it is, comments and layout included.
///
/// ```
/// use vantic::files::Assembled;
///
/// let text = "screen quay {\n    view a { left = 4; top = 8; size = 20 }\n}\n";
/// let files = Assembled::alone("quay.vantic", text);
/// let source = files.read()?;
/// let (second, _) = source.screen.rules().nth(1).unwrap();
/// let texts = vantic::fix::without(&files, &source.map, &[second]);
/// assert_eq!(texts[0].1, "screen quay {\n    view a { left = 4; size = 20 }\n}\n");
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
pub fn without(files: &Assembled, map: &SourceMap, rules: &[RuleId]) -> Vec<(String, String)> {
    let spans: BTreeSet<(usize, usize)> =
        rules.iter().filter_map(|&rule| map.rule(rule)).map(|span| (span.start, span.end)).collect();
    let mut texts: Vec<(String, String)> =
        std::iter::zip(files.names(), files.texts()).map(|(name, text)| (name.into(), text.into())).collect();
    // From behind, so that what is before stays where it is.
    for (start, end) in spans.into_iter().rev() {
        let InFile { name, span, .. } = files.place(&(start..end));
        let Some((_, text)) = texts.iter_mut().find(|(of, _)| of == name) else { continue };
        let change = crate::fix::rule_source::removed(text, span);
        text.replace_range(change.span(), &change.new);
    }
    texts
}

impl Fixes<'_> {
    /// Finds up to [`MAX_FIXES`] fixes of each error and warning that is not accepted, and of each rule that
    /// is odd, the best first, and puts them into the report. The first [`MAX_FIXED_FINDINGS`] findings get
    /// some.
    ///
    /// Each was tried: with it the finding is gone on every display, and nothing else has become an error or
    /// a warning.
    ///
    /// ```
    /// use vantic::files::Assembled;
    /// use vantic::fix::{Fixes, edited};
    /// use vantic::prelude::*;
    ///
    /// let text = "screen quay {
    ///     view board { pin left, right, top to safe }
    ///     view foot { pin left, right, bottom to safe; height = 40 }
    /// }";
    /// let files = Assembled::alone("quay.vantic", text);
    /// let source = files.read()?;
    /// let plan = Plan::new(source.screen)?;
    /// let displays = [Display::new(390.0, 844.0)?, Display::new(844.0, 390.0)?];
    /// let mut report = vantic::check(&plan, &displays, &PlainText)?;
    /// let (map, how) = (&source.map, CheckOptions::default());
    /// let fixes = Fixes { files: &files, map, plan: &plan, measure: &PlainText, how, beside: &Some };
    /// fixes.find_all(&mut report);
    ///
    /// let fixed = edited(text, &report.findings[0].fixes[0].edits)?;
    /// let again = Plan::new(vantic::read(&fixed)?.screen)?;
    /// assert!(!vantic::check(&again, &displays, &PlainText)?.has_failed(false));
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn find_all(&self, report: &mut Report) {
        let found = looked_at(report);
        let mut fixed_by: Vec<Option<String>> = vec![None; report.findings.len()];
        let mut ways: Vec<(usize, Search)> = Vec::new();
        let source = FixContext::new(*self, report);
        let mut budget = Budget::of(&source);
        let count = found.len();
        for (at, index) in found.into_iter().enumerate() {
            let is_open = fixed_by[index].is_none() && budget.begin(count - at, AT_ONCE);
            let search = is_open.then(|| source.find(&report.findings[index], &mut budget));
            if let Some(progress) = self.how.progress {
                progress(1);
            }
            let Some(mut search) = search else { continue };
            for (fix, letter) in std::iter::zip(&mut search.fixes, 'a'..) {
                fix.name = format!("{}{letter}", index + 1);
            }
            if let Some(first) = search.fixes.first() {
                // What has fixes of its own keeps them.
                let has_own =
                    |other: &usize| ways.iter().any(|(at, own)| at + 1 == *other && !own.fixes.is_empty());
                for other in first.also_fixes.iter().filter(|other| !has_own(other)) {
                    fixed_by[other - 1].get_or_insert_with(|| first.name.clone());
                }
            }
            ways.push((index, search));
        }
        drop(source);
        let wants_some = |f: &Finding| f.severity != Severity::Note && f.accepted.is_none();
        let wanting =
            std::iter::zip(&report.findings, &fixed_by).enumerate().filter(|(_, (f, _))| wants_some(f));
        let share = wanting.fold(Share::default(), |Share { looked_at, of }, (index, (_, with))| {
            let is_looked_at = with.is_some() || ways.iter().any(|(at, _)| *at == index);
            Share { looked_at: looked_at + usize::from(is_looked_at), of: of + 1 }
        });
        report.left_out.extend(share.left_out(FINDINGS_FOR_FIXES));
        for (finding, with) in std::iter::zip(&mut report.findings, fixed_by) {
            finding.fixed_by = with;
        }
        for (index, Search { fixes, tried, untried, nearest }) in ways {
            let finding = &mut report.findings[index];
            (finding.tried, finding.untried) = (tried, untried);
            (finding.fixes, finding.nearest) = (fixes, nearest);
        }
        in_order(&mut report.findings);
    }

    /// The fixes of one finding of a report, without a name.
    pub fn find(&self, report: &Report, finding: &Finding) -> Vec<Fix> {
        let source = FixContext::new(*self, report);
        let mut budget = Budget::of(&source);
        budget.begin(1, AT_ONCE);
        source.find(finding, &mut budget).fixes
    }
}

/// Which findings of a report fixes are looked for of, by their index: the first [`MAX_FIXED_FINDINGS`] that are not
/// accepted and that a change of the file may solve.
pub fn looked_at(report: &Report) -> Vec<usize> {
    let has_ways = |f: &Finding| f.severity != Severity::Note || matches!(f.code, Code::Odd | Code::Idle);
    let found = report.findings.iter().enumerate().filter(|(_, f)| f.accepted.is_none() && has_ways(f));
    found.map(|(index, _)| index).take(MAX_FIXED_FINDINGS).collect()
}

/// Whether a fix only puts something in.
fn adds(fix: &Fix) -> bool {
    fix.edits.iter().all(|edit| edit.old.is_empty())
}

/// The screen with a change that fixes a finding where it is worst, and what is left there; and how much work it took.
pub(crate) type Tried = (Option<(Plan, usize)>, u64);

/// What a search for fixes of a finding came to.
struct Search {
    fixes: Vec<Fix>,
    /// How many changes were tried.
    tried: usize,
    /// See [`Finding::untried`].
    untried: usize,
    /// See [`Finding::nearest`].
    nearest: Option<String>,
}

impl<'a> FixContext<'a> {
    /// What is found for one finding of the report.
    fn find(&self, finding: &Finding, budget: &mut Budget) -> Search {
        let displays = &self.displays;
        let mut queue = Queue::new(self, finding, MAX_TRIED);
        let worst = self.worst(finding).map(|(display, _)| display);
        let mut fixed: Vec<(Candidate, FixFound)> = Vec::new();
        let mut near: Option<Candidate> = None;
        let (mut checked, mut beside, mut count) = (0, 0, 0);
        // Those that there was no work left to try on all displays.
        let mut unchecked: Vec<Candidate> = Vec::new();
        let trial = crate::fix::trial::Trial::new(self, finding);
        while fixed.len() < MAX_FIXES && checked < MAX_CHECKED {
            let border = queue.border().filter(|_| budget.border());
            let wanted = budget.trials(AT_ONCE.min(queue.len()));
            let some = queue.next(wanted);
            beside += if fixed.is_empty() { 0 } else { some.len() };
            let best = fixed.iter().map(|(idea, _)| idea.weight).fold(0.0, f64::max);
            let worth = some.iter().any(|idea| idea.weight >= best - offered::CUTOFF) || border.is_some();
            if !worth || beside > MAX_EXTRA_TRIALS {
                break;
            }
            count += some.len();
            let try_some = || some.par_iter().map(|idea| trial.fixes_it(idea, worst)).collect();
            let (tried, ends): (Vec<Tried>, _) = rayon::join(try_some, || border.as_ref()?.width());
            budget.tried(some.len(), tried.iter().map(|(_, work)| work).sum());
            if let Some(ends) = ends {
                queue.add_bands(ends);
            }
            let mut hopeful: Vec<(&Candidate, (Plan, usize))> =
                std::iter::zip(&some, tried).filter_map(|(idea, (plan, _))| Some((idea, plan?))).collect();
            // What leaves the least comes first.
            hopeful.sort_by_key(|(_, (_, left))| *left);
            // As many on all displays as are still wanted, in their order.
            for some in hopeful.chunks(MAX_FIXES) {
                let wanted = MAX_FIXES.saturating_sub(fixed.len()).min(MAX_CHECKED - checked);
                let (some, rest) = some.split_at(budget.on_all(some.len().min(wanted), checked == 0));
                checked += some.len();
                unchecked.extend(rest.iter().map(|(idea, _)| (*idea).clone()));
                let all: Vec<_> = some
                    .par_iter()
                    .map(|(idea, (plan, _))| (*idea, trial.checked(idea, plan, displays)))
                    .collect();
                for (idea, outcome) in all {
                    let Some(new) = outcome else {
                        if near.as_ref().is_none_or(|near| near.weight < idea.weight) {
                            near = Some(idea.clone());
                        }
                        continue;
                    };
                    // Of those that give the same frames, the likeliest; but rather a line changed than one more.
                    match fixed.iter_mut().find(|(_, known)| known.frames == new.frames) {
                        None => fixed.push((self.reasoned(finding, idea.clone()), new)),
                        Some(known) if adds(&known.1.fix) && !adds(&new.fix) => {
                            let weight = known.0.weight;
                            let idea = self.reasoned(finding, idea.clone());
                            *known = (Candidate { weight, ..idea }, new);
                        }
                        Some(_) => {}
                    }
                }
            }
        }
        // What fixes it, and something else speaks against it: what does not fit by it may scroll.
        let best = fixed.iter().map(|(idea, _)| idea.weight).fold(offered::JOINED, f64::max);
        let near = near.filter(|near| near.weight > best && budget.one_more());
        let near = near.and_then(|idea| Some((trial.uncovered(&idea, displays)?, idea)));
        let joined = near.as_ref().and_then(|(uncovered, idea)| self.then_scrolled(idea, uncovered));
        let joined = joined.filter(|_| budget.one_more()).and_then(|idea| {
            count += 1;
            let plan = trial.fixes_it(&idea, worst).0;
            let found = plan.and_then(|(plan, _)| trial.checked(&idea, &plan, displays))?;
            Some((self.reasoned(finding, idea), found))
        });
        let near =
            near.filter(|(_, idea)| fixed.is_empty() && joined.is_none() && idea.weight >= offered::LIKELY);
        let nearest = near
            .and_then(|(uncovered, idea)| Some(format!("{}; but then, {}", idea.said, uncovered.said()?)));
        // What leaves the least to be found comes first, then what is likelier.
        let likely = |idea: &Candidate, FixFound { fix, doubts, .. }: &FixFound| {
            idea.weight
                - offered::MOVED_LESS * fix.moved.len().min(offered::MOVED_MOST) as f64
                - offered::DOUBT_LESS * *doubts as f64
        };
        // What is plain comes first: that something else is put right by another one may be chance.
        let order = |a: &(Candidate, FixFound), b: &(Candidate, FixFound)| {
            let is_plain = |idea: &Candidate| idea.is_evident && idea.weight >= offered::PLAIN;
            let plain = is_plain(&b.0).cmp(&is_plain(&a.0));
            let likelier = likely(&b.0, &b.1).total_cmp(&likely(&a.0, &a.1));
            plain.then(a.1.left.cmp(&b.1.left)).then(likelier)
        };
        fixed.sort_by(order);
        // What does with less comes before what rearranges the screen, whatever that fixes besides.
        fixed.extend(joined);
        let weights: Vec<f64> = fixed.iter().map(|(idea, _)| idea.weight).collect();
        let said = fixed.into_iter().enumerate().map(|(at, (idea, found))| {
            // Only the first can be sure.
            let next = weights.iter().enumerate().filter(|(other, _)| *other != at).map(|(_, w)| *w);
            // The same with something more is no other way.
            let is_other = |other: &&Candidate| !idea.changes.iter().all(|c| other.changes.contains(c));
            let unchecked = unchecked.iter().filter(is_other).map(|other| other.weight);
            let next = next.chain(unchecked).fold(f64::NEG_INFINITY, f64::max);
            let is_evident = idea.is_evident && at == 0;
            // A size that leaves something wrong in the view is only a size.
            let is_open = matches!(finding.code, Code::Ambiguous | Code::Collapse);
            let sureness = match found.leaves_own && is_open {
                true => Sureness::Guess,
                false => sureness(is_evident, idea.weight, next, found.doubts),
            };
            Fix { reason: idea.reason, sureness, ..found.fix }
        });
        let mut fixes: Vec<Fix> = said.collect();
        // Of those that change the same several places, the best.
        let places = |fix: &Fix| fix.edits.iter().map(|e| (e.line, e.column)).collect::<Vec<_>>();
        let mut met = HashSet::new();
        fixes.retain(|fix| fix.edits.len() < 2 || met.insert(places(fix)));
        fixes.truncate(MAX_FIXES);
        // Where two have the same words, the line is named.
        let texts: Vec<String> = fixes.iter().map(|fix| fix.text.clone()).collect();
        for fix in &mut fixes {
            if texts.iter().filter(|text| **text == fix.text).count() > 1
                && let Some(edit) = fix.edits.first()
            {
                fix.text += &format!(", on line {}", edit.line);
            }
        }
        let untried = if fixes.is_empty() { queue.len() } else { 0 };
        Search { fixes, tried: count, untried, nearest }
    }
}

/// Puts findings that the fix of another one solves behind those that stand alone, so that fixes are
/// numbered as findings are printed.
fn in_order(findings: &mut Vec<Finding>) {
    let rank = |f: &Finding| (f.accepted.is_some(), f.fixed_by.is_some());
    let mut order: Vec<usize> = (0..findings.len()).collect();
    order.sort_by_key(|&index| rank(&findings[index]));
    let mut place = vec![0; order.len()];
    order.iter().enumerate().for_each(|(new, &old)| place[old] = new);
    let renamed = |name: &str| {
        let letter = name.trim_start_matches(|c: char| c.is_ascii_digit());
        let number: usize = name[..name.len() - letter.len()].parse().unwrap_or(1);
        format!("{}{letter}", place[number - 1] + 1)
    };
    for finding in findings.iter_mut() {
        finding.fixed_by = finding.fixed_by.as_deref().map(renamed);
        for fix in &mut finding.fixes {
            fix.name = renamed(&fix.name);
            fix.also_fixes.iter_mut().for_each(|other| *other = place[*other - 1] + 1);
        }
    }
    let mut by_place: Vec<(usize, Finding)> = std::iter::zip(place, findings.drain(..)).collect();
    by_place.sort_by_key(|(place, _)| *place);
    findings.extend(by_place.into_iter().map(|(_, finding)| finding));
}
