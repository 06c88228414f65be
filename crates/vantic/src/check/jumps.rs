//! Views that jump where a band begins, though the band says nothing about them.

use crate::check::elsewhere::Share;
use crate::check::report::display_index;
use crate::finding::detail::DeclaredDetail;
use crate::finding::{Finding, Location};
use crate::screen_ext::ScreenExt as _;
use std::collections::{BTreeMap, BTreeSet};
use vantic_core::display::Display;
use vantic_core::model::{Band, BandId, Change, Code, Condition, Screen, ViewId};
use vantic_core::plan::{PlaceError, Plan};
use vantic_core::text::Measure;
use vantic_core::work;

/// A view jumps where it moves by more than this share of the screen.
const LEAP: f64 = 0.25;

/// How far on either side of a border it is looked at, in logical pixels.
const BESIDE: f64 = 0.01;

/// What it takes to look at a border at least, for each view of the screen.
const BORDER_WORK_PER_VIEW: u64 = 100;

/// The views that a band says something about.
fn ruled_by(screen: &Screen, band: BandId) -> BTreeSet<ViewId> {
    let changes = screen.changes().iter().filter(|(of, _)| *of == band);
    let view = |change: &Change| match *change {
        Change::Add(rule) | Change::Drop(rule) => screen.rule_at(rule).owner(),
        Change::Hide { view, .. } | Change::Show(view) | Change::Set { view, .. } => Some(view),
        Change::Value { .. } => None,
    };
    changes.filter_map(|(_, change)| view(change)).collect()
}

/// The two displays on either side of where a part of a band's condition changes.
fn beside(part: &Condition, display: &Display) -> Vec<[Display; 2]> {
    let Some((tested, numbers)) = part.borders() else { return Vec::new() };
    let at = |amount: f64| tested.set(display, amount);
    let both = numbers.into_iter().filter_map(|n| Some([at(n - BESIDE)?, at(n + BESIDE)?]));
    both.collect()
}

/// One finding for all that jumps at the borders of a band: what follows from one another jumps together.
fn finding(
    band: BandId,
    leaping: &BTreeMap<ViewId, (f64, Display)>,
    names: &mut Vec<String>,
) -> Option<Finding> {
    let (_, (amount, display)) = leaping.iter().max_by(|a, b| a.1.0.total_cmp(&b.1.0))?;
    let views = leaping.keys().copied().collect::<Vec<_>>();
    let finding = Finding::note(Code::Jump, DeclaredDetail::Jump(band)).about(views).by(*amount);
    let on = display_index(names, display.name());
    Some(Finding { locations: vec![Location::Band(band)], displays: vec![on], worst: Some(on), ..finding })
}

/// The views that jump at the borders of each band; the displays there join the `names` of those looked at. How many borders
/// the work sufficed for comes with them.
pub(crate) fn jumps(
    plan: &Plan,
    displays: &[Display],
    measure: &(dyn Measure + Sync),
    most_work: u64,
    names: &mut Vec<String>,
) -> Result<(Vec<Finding>, Share), PlaceError> {
    let screen = plan.screen();
    let is_enough = most_work >= BORDER_WORK_PER_VIEW * screen.views().count() as u64;
    let mut findings: Vec<Finding> = Vec::new();
    let mut borders = Share::default();
    if screen.design().is_some() {
        return Ok((findings, borders));
    }
    // Upright and turned, as far as there are such.
    let upright = |d: &&Display| d.height() >= d.width();
    let tried: Vec<&Display> =
        displays.iter().find(upright).into_iter().chain(displays.iter().find(|d| !upright(d))).collect();
    let mut live = plan.live();
    for (id, band) in screen.bands_with_ids() {
        let mut leaping: BTreeMap<ViewId, (f64, Display)> = BTreeMap::new();
        for part in band.condition().parts() {
            for [before, after] in tried.iter().flat_map(|display| beside(part, display)) {
                if band.condition().holds(&before) == band.condition().holds(&after) {
                    continue;
                }
                borders.of += 1;
                if !is_enough || work::is_short() {
                    continue;
                }
                // Where another band begins or ends too, what that says something about is meant to move.
                let changes = |band: &Band| band.condition().holds(&before) != band.condition().holds(&after);
                let changing = screen.bands_with_ids().filter(|(_, band)| changes(band));
                let own: BTreeSet<ViewId> = changing.flat_map(|(id, _)| ruled_by(screen, id)).collect();
                let (was, is) = (live.place(&before, measure)?, live.place(&after, measure)?);
                if was.hit_work_limit || is.hit_work_limit {
                    continue;
                }
                borders.looked_at += 1;
                let by = |view: ViewId| {
                    let (a, b) = (was.frame(view)?, is.frame(view)?);
                    let across = (a.left - b.left).abs().max((a.right() - b.right()).abs()) / after.width();
                    let down = (a.top - b.top).abs().max((a.bottom() - b.bottom()).abs()) / after.height();
                    Some((across.max(down), (across * after.width()).max(down * after.height())))
                };
                let leaps = |view: ViewId| by(view).is_some_and(|(share, _)| share > LEAP);
                for (view, about) in screen.views() {
                    let is_ruled = screen.with_ancestors(view).any(|v| own.contains(&v));
                    let with_parent = about.parent().is_some_and(leaps);
                    // What is scrolled is looked for anyway.
                    let is_scrolled = screen.ancestors(view).any(|v| was.scrolled.contains_key(&v));
                    if is_ruled
                        || with_parent
                        || is_scrolled
                        || !leaps(view)
                        || !was.is_painted(view)
                        || !is.is_painted(view)
                    {
                        continue;
                    }
                    let amount = by(view).map_or(0.0, |(_, pixels)| pixels);
                    leaping.entry(view).or_insert((0.0, after.clone()));
                    if let Some(known) = leaping.get_mut(&view).filter(|known| known.0 < amount) {
                        *known = (amount, after.clone());
                    }
                }
            }
        }
        findings.extend(finding(id, &leaping, names));
    }
    Ok((findings, borders))
}
