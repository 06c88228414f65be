//! Bands, where no rules fit all drawings.

use crate::infer::grouping::ends;
use crate::infer::rules::choose::{Choice, choose};
use crate::infer::rules::relation::Relation;
use crate::infer::rules::table::Table;
use std::cmp::Ordering;
use std::collections::{BTreeMap, BTreeSet};
use vantic_core::geometry::Axis;
use vantic_core::words::{free_name, number};

/// What a band costs beside what is said in it, and at most once more where its border lies between sizes that are alike.
const BAND: f64 = 3.0;

/// What holds on some displays only.
#[derive(Clone, Debug, Default)]
pub(super) struct Band {
    pub(super) name: String,
    pub(super) condition: String,
    /// Between which sizes the border lies, for each border.
    pub(super) borders: Vec<Border>,
    /// The drawings.
    pub(super) sheets: Vec<usize>,
    pub(super) rules: Vec<Labelled>,
    /// The rules outside of the band that do not hold in it: their views and labels.
    pub(super) dropped: Vec<(usize, String)>,
    /// The texts that have another font size, or another height of lines.
    pub(super) fonts: Vec<(usize, Font)>,
    /// The views that are not there.
    pub(super) hidden: Vec<usize>,
}

/// A relation with the label that tells which rule it stands for.
#[derive(Clone, Debug)]
pub(super) struct Labelled {
    pub(super) label: Option<String>,
    pub(super) relation: Relation,
}

/// The bands that drawings need, and what holds outside of them beside what holds everywhere.
#[derive(Clone, Debug, Default)]
pub(super) struct Bands {
    pub(super) base: Vec<Labelled>,
    /// The drawing whose font sizes are those outside of the bands, for each text that is in it.
    pub(super) base_sheets: Vec<usize>,
    pub(super) bands: Vec<Band>,
}

/// A font size, and the height of a line, where that is stated.
pub(super) type Font = (f64, Option<f64>);

/// A border of a band, and the sizes between which the drawings leave it open.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct Border {
    pub(super) axis: Axis,
    pub(super) at: f64,
    pub(super) above: f64,
    pub(super) most: f64,
}

impl Border {
    /// The roundest size near the middle of two.
    fn between(axis: Axis, above: f64, most: f64) -> Self {
        let middle = (above * most).sqrt();
        let round = [200.0, 100.0, 50.0, 20.0, 10.0, 1.0].into_iter().find_map(|step| {
            let near = (middle / step).round() * step;
            [near, near - step, near + step].into_iter().find(|at| *at > above && *at <= most)
        });
        Self { axis, at: round.unwrap_or(most), above, most }
    }

    fn side(&self) -> &'static str {
        if self.axis == Axis::Across { "screen.width" } else { "screen.height" }
    }

    /// The side of the screen, and the sizes between which it may lie.
    pub(super) fn range(&self) -> (&'static str, f64, f64) {
        (self.side(), self.above, self.most)
    }
}

fn side(table: &Table, sheet: usize, axis: Axis) -> f64 {
    table.sheets[sheet].screen[usize::from(axis == Axis::Down)].size
}

/// The bands that the drawings need: for what is open, for views that are not in all of them, for font sizes.
pub(super) fn bands(table: &Table, slack: f64, common: &Choice) -> Bands {
    let mut all = of_rules(table, slack, common);
    of_fonts(table, &mut all);
    let mut taken: Vec<String> = table.views.iter().map(|view| view.name.clone()).collect();
    for band in &mut all.bands {
        band.name = free_name(&band.name, |name| taken.iter().any(|other| other == name));
        taken.push(band.name.clone());
    }
    all
}

/// Bands for rules: the drawings in groups along one side of the screen, of which the largest is the base.
fn of_rules(table: &Table, slack: f64, common: &Choice) -> Bands {
    let every: Vec<usize> = (0..table.sheets.len()).collect();
    let everywhere = (0..table.views.len()).all(|view| table.is_everywhere(view));
    let none = Bands { base_sheets: every, ..Bands::default() };
    if everywhere && common.open.is_empty() {
        return none;
    }
    let ways = [Axis::Across, Axis::Down].into_iter().filter_map(|axis| groups(table, slack, common, axis));
    let Some((_, axis, groups)) = ways.min_by(|a, b| a.0.total_cmp(&b.0)) else { return none };
    let base = (0..groups.len()).rev().max_by_key(|&at| groups[at].0.len()).unwrap_or(0);
    let own = |choice: &Choice| -> Vec<Relation> {
        choice.chosen.iter().filter(|relation| !common.chosen.contains(relation)).cloned().collect()
    };
    let labelled = labelled(own(&groups[base].1));
    let rest = |at: usize| {
        let others = (0..groups.len()).filter(move |&other| other != at);
        others.flat_map(|other| groups[other].0.iter().copied()).collect::<Vec<usize>>()
    };
    let is_drawn =
        |sheets: &[usize], view: usize| sheets.iter().any(|&sheet| table.sheets[sheet].boxes[view].is_some());
    let band = |at: usize| {
        let (sheets, choice) = &groups[at];
        let has_other_fonts = sheets.iter().any(|&a| rest(at).iter().any(|&b| !have_one_font(table, a, b)));
        let (name, condition, borders) = match groups.len() {
            2 if has_other_fonts => separating(table, sheets, &rest(at)),
            _ => along(table, axis, &groups, at),
        };
        let is_hidden = |&view: &usize| {
            !is_drawn(sheets, view) && table.views[view].parent.is_none_or(|parent| is_drawn(sheets, parent))
        };
        let (rules, mut dropped) = instead(&labelled, own(choice));
        // The rules of what is not there go with it.
        dropped.retain(|(view, _)| is_drawn(sheets, *view));
        let hidden = (0..table.views.len()).filter(is_hidden).collect();
        Band { name, condition, borders, hidden, rules, dropped, fonts: Vec::new(), sheets: sheets.clone() }
    };
    let mut bands: Vec<Band> = (0..groups.len()).filter(|at| *at != base).map(band).collect();
    // What is not drawn in the base is shown in bands only.
    let base_sheets = groups[base].0.clone();
    let absent = (0..table.views.len()).filter(|&view| !is_drawn(&base_sheets, view));
    let absent: Vec<usize> = absent
        .filter(|&view| table.views[view].parent.is_none_or(|parent| is_drawn(&base_sheets, parent)))
        .collect();
    for band in &mut bands {
        band.hidden.retain(|view| !absent.contains(view));
    }
    let mut base = labelled;
    for rule in &mut base {
        let (view, label) = (rule.relation.view, &rule.label);
        let is_used = |band: &Band| {
            band.dropped.iter().any(|(of, name)| *of == view && Some(name) == label.as_ref())
                || band.rules.iter().any(|own| own.relation.view == view && own.label == *label)
        };
        if !bands.iter().any(is_used) {
            rule.label = None;
        }
    }
    Bands { base, base_sheets, bands }
}

/// Whether texts have the same font sizes in two drawings.
fn have_one_font(table: &Table, a: usize, b: usize) -> bool {
    std::iter::zip(&table.sheets[a].contents, &table.sheets[b].contents).all(|pair| match pair {
        (Some(a), Some(b)) => a.font == b.font,
        _ => true,
    })
}

/// Rules with labels by which bands can replace them: one for each of a view and an axis.
fn labelled(relations: Vec<Relation>) -> Vec<Labelled> {
    let mut all: Vec<Labelled> = Vec::new();
    for relation in relations {
        let word = if relation.axis == Axis::Across { "across" } else { "down" };
        let alike = |l: &&Labelled| (l.relation.view, l.relation.axis) == (relation.view, relation.axis);
        let label = format!("{word}_{}", all.iter().filter(alike).count() + 1);
        all.push(Labelled { label: Some(label), relation });
    }
    all
}

/// What stands in a band instead of what stands outside, and what is only dropped.
fn instead(base: &[Labelled], own: Vec<Relation>) -> (Vec<Labelled>, Vec<(usize, String)>) {
    let mut left: Vec<&Labelled> = base.iter().filter(|labelled| !own.contains(&labelled.relation)).collect();
    let new = own.into_iter().filter(|relation| !base.iter().any(|labelled| labelled.relation == *relation));
    let rules = new.map(|relation| {
        let alike =
            left.iter().position(|l| (l.relation.view, l.relation.axis) == (relation.view, relation.axis));
        Labelled { label: alike.and_then(|at| left.remove(at).label.clone()), relation }
    });
    let rules = rules.collect();
    let dropped = left.into_iter().filter_map(|l| Some((l.relation.view, l.label.clone()?))).collect();
    (rules, dropped)
}

/// The band of a group of drawings along one side of the screen.
fn along(table: &Table, axis: Axis, groups: &[Group], at: usize) -> (String, String, Vec<Border>) {
    let ends = |group: &[usize]| ends(group.iter().map(|&sheet| side(table, sheet, axis)));
    let border = |above: usize| Border::between(axis, ends(&groups[above - 1].0).1, ends(&groups[above].0).0);
    let from = (at > 0).then(|| border(at));
    let below = (at + 1 < groups.len()).then(|| border(at + 1));
    let from_text = from.map(|border| format!("{} >= {}", border.side(), number(border.at)));
    let below_text = below.map(|border| format!("{} < {}", border.side(), number(border.at)));
    let condition: Vec<String> = from_text.into_iter().chain(below_text).collect();
    let [least, most] = if axis == Axis::Across { ["narrow", "wide"] } else { ["low", "tall"] };
    let name = match (from, below) {
        (None, _) => least,
        (_, None) => most,
        _ => "medium",
    };
    (name.into(), condition.join(" and "), from.into_iter().chain(below).collect())
}

type Group = (Vec<usize>, Choice);

/// The drawings in groups along a side, as few as suffice, with what is chosen in each, and what that costs.
fn groups(table: &Table, slack: f64, common: &Choice, axis: Axis) -> Option<(f64, Axis, Vec<Group>)> {
    let count = table.sheets.len();
    let mut order: Vec<usize> = (0..count).collect();
    order.sort_by(|&a, &b| side(table, a, axis).total_cmp(&side(table, b, axis)));
    let may_cut = |at: usize| side(table, order[at], axis) > side(table, order[at - 1], axis);
    let is_drawn = |sheet: usize, view: usize| table.sheets[sheet].boxes[view].is_some();
    let alike =
        |a: usize, b: usize| (0..table.views.len()).all(|view| is_drawn(a, view) == is_drawn(b, view));
    let mut cuts: BTreeSet<usize> =
        (1..count).filter(|&at| may_cut(at) && !alike(order[at - 1], order[at])).collect();
    let said: f64 = common.chosen.iter().map(|relation| relation.cost).sum();
    let with = |cuts: &BTreeSet<usize>| {
        let mut groups: Vec<Vec<usize>> = vec![Vec::new()];
        for (at, &sheet) in order.iter().enumerate() {
            if cuts.contains(&at) {
                groups.push(Vec::new());
            }
            groups.iter_mut().last().into_iter().for_each(|group| group.push(sheet));
        }
        let chosen = groups.into_iter().map(|group| {
            let choice = choose(&table.only(&group), slack, &common.chosen);
            (group, choice)
        });
        let chosen: Vec<Group> = chosen.collect();
        let cost: f64 = chosen.iter().map(|(_, choice)| choice.cost() - said).sum();
        let borders = cuts.iter().map(|&at| {
            let apart = side(table, order[at], axis) / side(table, order[at - 1], axis);
            BAND + (0.5 / apart.ln()).min(BAND)
        });
        (cost + borders.sum::<f64>(), chosen)
    };
    let is_open = |groups: &[Group]| groups.iter().any(|(_, choice)| !choice.open.is_empty());
    let mut best = with(&cuts);
    while is_open(&best.1) {
        let more = (1..count).filter(|at| may_cut(*at) && !cuts.contains(at)).map(|at| {
            let mut more = cuts.clone();
            more.insert(at);
            (with(&more), more)
        });
        let Some((better, more)) = more.min_by(|a, b| a.0.0.total_cmp(&b.0.0)) else { break };
        (best, cuts) = (better, more);
    }
    (!cuts.is_empty()).then_some((best.0, axis, best.1))
}

/// Bands for the texts whose font sizes differ from the first drawing's.
fn of_fonts(table: &Table, all: &mut Bands) {
    let order: Vec<usize> = all.base_sheets.iter().copied().chain(0..table.sheets.len()).collect();
    let font = |sheet: usize, view: usize| {
        table.sheets[sheet].contents[view].as_ref().map(|content| (content.font, content.line))
    };
    let mut other: BTreeMap<Vec<usize>, Vec<(usize, Font)>> = BTreeMap::new();
    for view in 0..table.views.len() {
        let known = || (0..table.sheets.len()).filter_map(|sheet| Some((sheet, font(sheet, view)?)));
        let Some(first) = order.iter().find_map(|&sheet| font(sheet, view)) else { continue };
        let mut sizes: Vec<Font> = known().map(|(_, size)| size).filter(|size| *size != first).collect();
        sizes.sort_by(|a, b| a.0.total_cmp(&b.0).then(a.1.partial_cmp(&b.1).unwrap_or(Ordering::Equal)));
        sizes.dedup();
        for size in sizes {
            let sheets = known().filter(|(_, of)| *of == size).map(|(sheet, _)| sheet).collect();
            other.entry(sheets).or_default().push((view, size));
        }
    }
    for (sheets, fonts) in other {
        if let Some(band) = all.bands.iter_mut().find(|band| band.sheets == sheets) {
            band.fonts.extend(fonts);
            continue;
        }
        let rest: Vec<usize> = (0..table.sheets.len()).filter(|sheet| !sheets.contains(sheet)).collect();
        let (name, condition, borders) = separating(table, &sheets, &rest);
        all.bands.push(Band { name, condition, borders, sheets, fonts, ..Band::default() });
    }
}

/// A condition that holds on the displays of some drawings and on none of the others, as far as one tells them by size.
fn separating(table: &Table, of: &[usize], rest: &[usize]) -> (String, String, Vec<Border>) {
    let ends = |sheets: &[usize], axis: Axis| ends(sheets.iter().map(|&sheet| side(table, sheet, axis)));
    // What is read from further away is larger both ways.
    let short = |sheets: &[usize], fold: fn(f64, f64) -> f64, from: f64| {
        let sides =
            sheets.iter().map(|&sheet| side(table, sheet, Axis::Across).min(side(table, sheet, Axis::Down)));
        sides.fold(from, fold)
    };
    let (own, others) = (short(of, f64::min, f64::INFINITY), short(rest, f64::max, 0.0));
    if others < own {
        let across = Border::between(Axis::Across, others, own);
        let borders = [across, Border { axis: Axis::Down, ..across }];
        let condition = borders.map(|border| format!("{} >= {}", border.side(), number(border.at)));
        return ("roomy".into(), condition.join(" and "), borders.to_vec());
    }
    // A border is likelier between sizes that are far apart.
    let sides = [(Axis::Across, ["wide", "narrow"]), (Axis::Down, ["tall", "low"])];
    let ways = sides.into_iter().filter_map(|(axis, [above, below])| {
        let ((low, high), (rest_low, rest_high)) = (ends(of, axis), ends(rest, axis));
        if rest_high < low {
            return Some((low / rest_high, above, ">=", Border::between(axis, rest_high, low)));
        }
        (high < rest_low).then(|| (rest_low / high, below, "<", Border::between(axis, high, rest_low)))
    });
    if let Some((_, name, sign, border)) = ways.max_by(|a, b| a.0.total_cmp(&b.0)) {
        return (name.into(), format!("{} {sign} {}", border.side(), number(border.at)), vec![border]);
    }
    // Each of the others is smaller one way, as far as one tells them by size.
    let borders = [Axis::Across, Axis::Down].map(|axis| {
        let low = ends(of, axis).0;
        let smaller = rest.iter().map(|&sheet| side(table, sheet, axis)).filter(|side| *side < low);
        Border::between(axis, smaller.fold(1.0, f64::max), low)
    });
    let condition = borders.map(|border| format!("{} >= {}", border.side(), number(border.at))).join(" and ");
    ("roomy".into(), condition, borders.to_vec())
}
