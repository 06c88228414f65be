//! Views that jump where a band begins, though the band says nothing about them.

use crate::finding::{Finding, Location, Severity};
use crate::screen_ext::ScreenExt as _;
use std::collections::{BTreeMap, BTreeSet};
use vantic_core::display::Display;
use vantic_core::model::{BandId, Change, Code, Condition, Property, Screen, ViewId};
use vantic_core::plan::{PlaceError, Plan};
use vantic_core::text::Measure;
use vantic_core::words::{list, number};

/// A view jumps where it moves by more than this share of the screen.
const LEAP: f64 = 0.25;

/// How far on either side of a border it is looked at, in logical pixels.
const BESIDE: f64 = 0.01;

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
    let (property, numbers) = match *part {
        Condition::Compare(property, _, number) => (property, vec![number]),
        Condition::Within(property, from, to) => (property, vec![from, to]),
        _ => return Vec::new(),
    };
    let insets = display.insets();
    let at = |size: f64| match property {
        Property::ScreenWidth => display.with_size(size, display.height()),
        Property::SafeWidth => display.with_size(size + insets.left + insets.right, display.height()),
        Property::ScreenHeight => display.with_size(display.width(), size),
        Property::SafeHeight => display.with_size(display.width(), size + insets.top + insets.bottom),
        _ => display.with_size(0.0, 0.0),
    };
    let both = numbers.into_iter().filter_map(|n| Some([at(n - BESIDE).ok()?, at(n + BESIDE).ok()?]));
    both.collect()
}

/// One finding for all that jumps at the borders of a band: what follows from one another jumps together.
fn finding(screen: &Screen, band: BandId, leaping: &BTreeMap<ViewId, (f64, Display)>) -> Option<Finding> {
    let (_, (amount, display)) = leaping.iter().max_by(|a, b| a.1.0.total_cmp(&b.1.0))?;
    let mut finding = Finding::new(Code::Jump, Severity::Note);
    finding.views = leaping.keys().map(|view| screen.path(*view)).collect();
    finding.amount = *amount;
    let name = screen.bands().get(band.index()).map_or("", |b| b.name());
    let (leap, it, up_to) = if leaping.len() == 1 { ("leaps", "it", "") } else { ("leap", "them", "up to ") };
    finding.message = format!(
        "{} {leap} by {up_to}{} where `{name}` becomes active or inactive, and the band does not mention \
         {it}",
        list(&finding.views),
        number(*amount)
    );
    finding.help = "nothing to do if that is intended; otherwise place it in the band".into();
    finding.locations = vec![Location::Band(band)];
    finding.displays = vec![display.name().to_owned()];
    finding.worst = display.name().to_owned();
    Some(finding)
}

pub(crate) fn jumps(
    plan: &Plan,
    displays: &[Display],
    measure: &dyn Measure,
) -> Result<Vec<Finding>, PlaceError> {
    let screen = plan.screen();
    let mut findings: Vec<Finding> = Vec::new();
    if screen.design().is_some() {
        return Ok(findings);
    }
    // Upright and turned, as far as there are such.
    let upright = |d: &&Display| d.height() >= d.width();
    let tried: Vec<&Display> =
        displays.iter().find(upright).into_iter().chain(displays.iter().find(|d| !upright(d))).collect();
    let mut live = plan.live();
    for (id, band) in screen.bands_with_ids() {
        let own = ruled_by(screen, id);
        let mut leaping: BTreeMap<ViewId, (f64, Display)> = BTreeMap::new();
        for part in band.condition().parts() {
            for [before, after] in tried.iter().flat_map(|display| beside(part, display)) {
                if band.condition().holds(&before) == band.condition().holds(&after) {
                    continue;
                }
                let (was, is) = (live.place(&before, measure)?, live.place(&after, measure)?);
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
        findings.extend(finding(screen, id, &leaping));
    }
    Ok(findings)
}
