//! Placements and findings on random screens, against a second opinion that knows nothing of
//! the solver: every rule worked out from the frames alone, every overlap and overhang by
//! comparing all pairs.

use crate::random::{displays, plain_screens, screens};
use proptest::prelude::*;
use std::collections::{BTreeMap, BTreeSet};
use vantic::check::{Report, check};
use vantic::display::Display;
use vantic::finding::Severity;
use vantic::geometry::{Direction, Frame};
use vantic::model::{
    Anchor, Code, Comparison, Coordinate, Expr, MinMaxKind, RuleRef, SNUG, Screen, Strength, ViewId, WHOLE,
};
use vantic::plan::{Examination, Placement, Plan};
use vantic::resolve::read;
use vantic::text::{Measure, PlainText, TextRequest};

const NEAR: f64 = 1e-4;

/// A coordinate worked out from frames. `along`: the rule speaks of start or end.
fn coordinate(screen: &Screen, p: &Placement, place: Anchor, what: Coordinate, along: bool) -> f64 {
    let d = &p.display;
    let whole = p.screen_frame();
    let i = d.insets();
    let frame = |v: ViewId| p.frame(v).unwrap();
    let f = match place {
        Anchor::Screen => whole,
        Anchor::Safe => Frame {
            left: i.left,
            top: i.top,
            width: d.width() - i.left - i.right,
            height: d.height() - i.top - i.bottom,
        },
        Anchor::Clear => Frame {
            left: i.left,
            top: i.top,
            width: d.width() - i.left - i.right,
            height: d.height() - i.top - i.bottom.max(d.keyboard()),
        },
        Anchor::View(v) => frame(v),
        Anchor::Prev(_) | Anchor::Next(_) | Anchor::Cells { .. } => unreachable!("not made by the generator"),
    };
    let mirror = |x: f64| if d.direction() == Direction::RightToLeft { d.width() - x } else { x };
    let rtl = d.direction() == Direction::RightToLeft;
    match what {
        Coordinate::Left => f.left,
        Coordinate::Right => f.left + f.width,
        Coordinate::Top => f.top,
        Coordinate::Bottom => f.top + f.height,
        Coordinate::Width => f.width,
        Coordinate::Height => f.height,
        Coordinate::CenterX if along => mirror(f.left + f.width / 2.0),
        Coordinate::CenterX => f.left + f.width / 2.0,
        Coordinate::CenterY => f.top + f.height / 2.0,
        Coordinate::Start => mirror(if rtl { f.left + f.width } else { f.left }),
        Coordinate::End => mirror(if rtl { f.left } else { f.left + f.width }),
        Coordinate::Baseline => match place {
            Anchor::View(v) if screen.view(v).unwrap().text().is_some() => {
                f.top + p.texts[v.index()].unwrap().ascent
            }
            _ => f.top + f.height,
        },
        Coordinate::ContentWidth
        | Coordinate::ContentHeight
        | Coordinate::Pixel
        | Coordinate::ScrolledX
        | Coordinate::ScrolledY => {
            unreachable!("not made by the generator")
        }
    }
}

fn value(screen: &Screen, p: &Placement, expr: &Expr, along: bool) -> f64 {
    let terms =
        expr.terms().iter().map(|t| t.coefficient * coordinate(screen, p, t.anchor, t.coordinate, along));
    let picks = expr.picks().iter().map(|picked| {
        let of: Vec<f64> = picked.of.iter().map(|e| value(screen, p, e, along)).collect();
        let one = match picked.pick {
            MinMaxKind::Max => of.iter().copied().fold(f64::MIN, f64::max),
            MinMaxKind::Min => of.iter().copied().fold(f64::MAX, f64::min),
            MinMaxKind::Clamp => of[0].min(of[2]).max(of[1]),
        };
        picked.coefficient * one
    });
    terms.sum::<f64>() + picks.sum::<f64>() + expr.constant()
}

/// The violation of every rule that counts, from the frames: with its reference and its level.
fn violations(screen: &Screen, p: &Placement) -> Vec<(RuleRef, Option<usize>, f64, f64)> {
    let mut all = Vec::new();
    for &rule in &p.rules {
        let r = screen.rule(rule).unwrap();
        for (relation, x) in r.relations().iter().enumerate() {
            let (level, weight) = match x.strength() {
                Strength::Required => (None, 1.0),
                Strength::Prefer { level, weight } => (Some(level.index()), weight),
            };
            let along = x.terms().iter().any(|t| matches!(t.coordinate, Coordinate::Start | Coordinate::End));
            let over = value(screen, p, &x.left, along) - value(screen, p, &x.right, along);
            let by = match x.comparison {
                Comparison::Equal => over.abs(),
                Comparison::AtMost => over.max(0.0),
                Comparison::AtLeast => (-over).max(0.0),
            };
            all.push((RuleRef::Written { rule, relation }, level, weight, by));
        }
    }
    let level = |name: &str| screen.levels().iter().position(|l| l == name);
    for (view, about) in screen.views() {
        if let (Some(f), Some(image)) = (p.frame(view), about.image()) {
            for (by, rule) in [
                ((f.height - f.width * image.height / image.width).abs(), RuleRef::Whole(view)),
                ((f.width - image.width).abs(), RuleRef::Snug(view)),
                ((f.height - image.height).abs(), RuleRef::Snug(view)),
            ] {
                all.push((rule, rule.level(screen).and_then(level), 1.0, by));
            }
        }
        let (Some(f), Some(text), Some(t)) = (p.frame(view), about.text(), p.texts[view.index()]) else {
            continue;
        };
        let font = text.font * p.display.text_scale();
        let one = PlainText.measure(&TextRequest::new(&text.words, font));
        for (by, whole) in
            [(one.longest - f.width, true), (t.height - f.height, true), (f.height - t.height, false)]
        {
            let rule = if whole { RuleRef::Whole(view) } else { RuleRef::Snug(view) };
            all.push((rule, level(if whole { WHOLE } else { SNUG }), 1.0, by.max(0.0)));
        }
        all.push((RuleRef::Snug(view), level(SNUG), 1.0, (f.width - one.width).abs()));
    }
    all
}

/// The weighted sum of violations on each level, required rules first.
fn totals(screen: &Screen, p: &Placement) -> Vec<f64> {
    let mut totals = vec![0.0; screen.levels().len() + 1];
    for (_, level, weight, by) in violations(screen, p) {
        totals[level.map_or(0, |l| l + 1)] += weight * by;
    }
    totals
}

/// The totals, then what each preference misses, the strongest level first: what is settled before
/// anything is called open.
fn settled(screen: &Screen, p: &Placement) -> Vec<f64> {
    let mut own = violations(screen, p);
    own.retain(|(_, level, ..)| level.is_some());
    own.sort_by_key(|(_, level, ..)| *level);
    totals(screen, p).into_iter().chain(own.into_iter().map(|(_, _, _, by)| by)).collect()
}

fn plan(screen: Screen) -> Plan {
    Plan::new(screen).unwrap()
}

/// The same placement with one view moved or resized.
fn nudged(p: &Placement, view: ViewId, by: [f64; 4]) -> Option<Placement> {
    let mut other = p.clone();
    let f = other.frames[view.index()].as_mut()?;
    *f = Frame { left: f.left + by[0], top: f.top + by[1], width: f.width + by[2], height: f.height + by[3] };
    (f.width >= 0.0 && f.height >= 0.0).then_some(other)
}

type Point = (f64, f64);

/// How far two convex outlines reach into one another, along the line on which they do so the least: two are
/// apart exactly where a side of one has the other on its far side.
fn depth(a: &[Point; 4], b: &[Point; 4]) -> f64 {
    let mut least = f64::MAX;
    for outline in [a, b] {
        for k in 0..4 {
            let (p, q) = (outline[k], outline[(k + 1) % 4]);
            let long = (q.0 - p.0).hypot(q.1 - p.1);
            if long < 1e-9 {
                return 0.0;
            }
            let normal = ((q.1 - p.1) / long, (p.0 - q.0) / long);
            let ends = |of: &[Point; 4]| {
                let along = of.map(|c| c.0 * normal.0 + c.1 * normal.1);
                (along.into_iter().fold(f64::MAX, f64::min), along.into_iter().fold(f64::MIN, f64::max))
            };
            let (a, b) = (ends(a), ends(b));
            least = least.min(a.1.min(b.1) - a.0.max(b.0));
        }
    }
    least
}

/// What has to be told as overlapping, and what may be, by comparing everything with everything: siblings,
/// and where the lower one covers all around it, or the upper one holds others and does, what they hold.
fn overlapping(screen: &Screen, p: &Placement) -> (BTreeSet<Vec<String>>, BTreeSet<Vec<String>>) {
    let corners = |v: ViewId| {
        let f = p.frame(v)?;
        let painting = p.painting(screen, v);
        let all = [(f.left, f.top), (f.right(), f.top), (f.right(), f.bottom()), (f.left, f.bottom())];
        let has_area = p.is_painted(v) && f.width > 0.005 && f.height > 0.005;
        has_area.then(|| all.map(|(x, y)| painting.apply(x, y)))
    };
    let at = |v: ViewId| screen.view(v).unwrap();
    let covers_all = |v: ViewId| {
        let Some(f) = p.painted_bounds(screen, v) else { return false };
        let around = match at(v).parent() {
            Some(parent) => vec![p.frame(parent).unwrap()],
            None => vec![p.screen_frame(), p.safe_frame()],
        };
        around.iter().any(|of| {
            f.left <= of.left + 0.005
                && f.top <= of.top + 0.005
                && f.right() >= of.right() - 0.005
                && f.bottom() >= of.bottom() - 0.005
        })
    };
    let is_tied = |a: ViewId, b: ViewId| {
        screen.rules().flat_map(|(_, rule)| rule.relations()).any(|relation| {
            let of = |v| {
                move |t: &vantic::model::Term| matches!(t.anchor, Anchor::View(x) if screen.is_within(x, v))
            };
            relation.terms().iter().any(of(a)) && relation.terms().iter().any(of(b))
        })
    };
    let leaves = |v: ViewId| -> Vec<ViewId> {
        let is_leaf = at(v).children().is_empty() || at(v).has_content();
        let within = if is_leaf { vec![v] } else { at(v).children().to_vec() };
        within.into_iter().filter(|v| corners(*v).is_some()).collect()
    };
    let (mut must, mut may) = (BTreeSet::new(), BTreeSet::new());
    for (s, about) in screen.views() {
        for (t, _) in screen.views().filter(|(t, o)| *t > s && o.parent() == about.parent()) {
            // What stands beyond its parent is reported as that.
            let (Some(lower), Some(upper)) = (corners(s), corners(t)) else { continue };
            let both =
                [p.painted_bounds(screen, s), p.painted_bounds(screen, t)].map(Option::unwrap_or_default);
            if depth(&lower, &upper) <= 0.0 && both[0].shared(&both[1]).is_none() {
                continue;
            }
            let is_layer = !at(t).children().is_empty() && covers_all(t);
            let is_within = covers_all(s) || is_layer;
            let pairs: Vec<(ViewId, ViewId)> = match is_within {
                true => {
                    leaves(s).into_iter().flat_map(|a| leaves(t).into_iter().map(move |b| (a, b))).collect()
                }
                false => vec![(s, t)],
            };
            let pairs = pairs.into_iter().filter(|(a, _)| !is_within || !covers_all(*a));
            let mut under: BTreeMap<ViewId, Vec<(ViewId, f64)>> = BTreeMap::new();
            for (a, b) in pairs {
                let (Some(one), Some(other)) = (corners(a), corners(b)) else { continue };
                let by = depth(&one, &other);
                if by > 0.0 {
                    under.entry(b).or_default().push((a, by));
                }
            }
            for (b, all) in under {
                for (a, by) in &all {
                    let pair = vec![screen.path(*a), screen.path(b)];
                    // What something in between covers altogether is not compared with what is further up.
                    let bounds = |v: ViewId| p.painted_bounds(screen, v).unwrap_or_default();
                    let low = bounds(*a);
                    let is_hidden = screen.views().any(|(m, of)| {
                        let over = bounds(m);
                        let covers = over.left <= low.left + 0.005
                            && over.top <= low.top + 0.005
                            && over.right() >= low.right() - 0.005
                            && over.bottom() >= low.bottom() - 0.005;
                        m > s && m < t && of.parent() == about.parent() && covers
                    });
                    let is_sure = *by > 0.02 && all.len() <= 3 && !is_hidden;
                    if is_sure && !is_tied(*a, b) && !is_tied(s, t) {
                        must.insert(pair.clone());
                    }
                    may.insert(pair);
                }
                may.insert(vec![screen.path(s), screen.path(b)]);
            }
        }
    }
    // Several in one place are told as one.
    for (v, about) in screen.views() {
        let same =
            screen.views().filter(|(o, other)| other.parent() == about.parent() && p.frame(*o) == p.frame(v));
        may.insert(same.map(|(o, _)| screen.path(o)).collect());
    }
    (must, may)
}

proptest! {
    #![proptest_config(ProptestConfig { max_global_rejects: 100_000, ..vantic_testkit::cases(300) })]

    #[test]
    fn what_a_placement_says_of_its_rules_is_what_its_frames_say(screen in screens(), display in displays()) {
        let plan = plan(screen);
        let p = plan.place(&display, &PlainText).unwrap();
        prop_assert!(!p.hit_work_limit);
        let screen = plan.screen();
        let mut said: Vec<(RuleRef, f64)> =
            p.missed.iter().chain(&p.broken).map(|m| (m.rule, m.by)).collect();
        for (rule, level, _, by) in violations(screen, &p) {
            let listed = said.iter().position(|(r, b)| *r == rule && (b - by).abs() < NEAR);
            if by > NEAR {
                let at = listed.ok_or_else(|| {
                    TestCaseError::fail(format!("{rule:?} ({level:?}) is off by {by}: {said:?}\n{screen}"))
                })?;
                said.remove(at);
            }
        }
        prop_assert!(said.iter().all(|(_, by)| *by <= NEAR), "said but not so: {:?}\n{}", said, screen);
        for m in &p.broken {
            prop_assert!(m.rule.level(screen).is_none());
        }
    }

    /// No small change of one view gives something better: level by level, the strongest first.
    #[test]
    fn no_nudge_makes_a_placement_better(
        screen in screens(),
        display in displays(),
        which in any::<prop::sample::Index>(),
        by in prop::array::uniform4(prop_oneof![Just(0.0), Just(1.0), Just(-1.0), -20.0..20.0_f64]),
    ) {
        let plan = plan(screen);
        let p = plan.place(&display, &PlainText).unwrap();
        let screen = plan.screen();
        let views: Vec<ViewId> = screen.views().map(|(id, _)| id).collect();
        // A narrower text has other lines, which is another problem; its width stays.
        let view = views[which.index(views.len())];
        let by = if screen.view(view).unwrap().text().is_some() { [by[0], by[1], 0.0, by[3]] } else { by };
        if let Some(other) = nudged(&p, view, by) {
            for (level, (own, others)) in totals(screen, &p).iter().zip(totals(screen, &other)).enumerate() {
                prop_assert!(
                    *own <= others + NEAR,
                    "level {} is {} and could be {}\n{}",
                    level,
                    own,
                    others,
                    screen
                );
                if *own < others - NEAR {
                    break;
                }
            }
        }
    }

    /// Within its interval an open coordinate may be anywhere: an extra required rule that puts it there
    /// breaks nothing; a little outside, something gives way or breaks. (Without texts: they are
    /// measured anew at every width, which moves their intervals.)
    #[test]
    fn an_open_interval_is_exactly_where_a_coordinate_may_be(
        screen in plain_screens(),
        display in displays(),
        share in 0.0..1.0_f64,
    ) {
        let text = screen.to_string();
        let plan = plan(read(&text).unwrap().screen);
        let Examination { placement, free, contradictions, .. } = plan.examine(&display, &PlainText).unwrap();
        prop_assert_eq!(contradictions.is_empty(), placement.broken.is_empty(), "{}", text);
        // Where required rules contradict one another or preferences tie, that is settled before anything is
        // called open, and the totals do not tell where else it could be.
        prop_assume!(contradictions.is_empty() && free.iter().all(|f| !f.tied));
        let own = settled(plan.screen(), &placement);
        for f in free.iter().take(3) {
            let low = f.range[0].unwrap_or_else(|| f.range[1].unwrap_or(0.0) - 100.0);
            let high = f.range[1].unwrap_or(low + 100.0);
            let with = |value: f64| {
                let name = plan.screen().path(f.view);
                let rule = format!("in {name} {{ {} = {value} }}\n}}\n", f.coordinate.spelling());
                let more = text.trim_end().strip_suffix('}').unwrap().to_owned() + &rule;
                let more = Plan::new(read(&more).unwrap().screen).unwrap();
                let placement = more.place(&display, &PlainText).unwrap();
                settled(more.screen(), &placement)
            };
            let inside = with(low + (high - low) * share);
            for (level, (a, b)) in own.iter().zip(&inside).enumerate() {
                prop_assert!(
                    (a - b).abs() < NEAR * 10.0,
                    "{:?} at {}: number {} is {} and was {}\n{}",
                    f,
                    share,
                    level,
                    b,
                    a,
                    text
                );
            }
            for outside in [f.range[0].map(|l| l - 1.0), f.range[1].map(|h| h + 1.0)].into_iter().flatten() {
                let worse = with(outside);
                let first = worse.iter().zip(&own).find(|(a, b)| (*a - *b).abs() > NEAR);
                prop_assert!(first.is_some_and(|(a, b)| a > b), "{:?} may be {} too\n{}", f, outside, text);
            }
        }
    }

    #[test]
    fn what_is_outside_or_overlaps_is_what_comparing_all_pairs_says(
        screen in screens(),
        display in displays(),
    ) {
        let plan = plan(screen);
        let report = check(&plan, std::slice::from_ref(&display), &PlainText).unwrap();
        let (screen, p) = (plan.screen(), &report.placements[0]);
        let is_turned = |v: ViewId| p.painted_elsewhere(screen, v).is_some();
        let seen = |v: ViewId| {
            p.frame(v).filter(|f| p.painted[v.index()] && f.width > 0.01 && f.height > 0.01)?;
            p.painted_bounds(screen, v)
        };
        let whole = p.screen_frame();
        let (must, may) = overlapping(screen, p);
        let told: BTreeSet<Vec<String>> =
            report.findings.iter().filter(|f| f.code == Code::Overlap).map(|f| f.paths(screen)).collect();
        prop_assert!(told.is_subset(&may), "{told:?} is not within {may:?}\n{screen}");
        // Those in one place are told as one.
        prop_assert!(told.iter().any(|views| views.len() > 2) || must.is_subset(&told), "{must:?} {told:?}\n{screen}");
        for (v, about) in screen.views() {
            let path = screen.path(v);
            let told: Vec<_> =
                report.findings.iter().filter(|f| f.code == Code::Outside && f.views == [v]).collect();
            let Some(f) = seen(v) else {
                prop_assert!(told.is_empty());
                continue;
            };
            let off = |f: &Frame, of: &Frame| {
                [of.left - f.left, of.top - f.top, f.right() - of.right(), f.bottom() - of.bottom()]
                    .into_iter()
                    .fold(0.0, f64::max)
            };
            // What is turned with its parent is in it as its frame is.
            let own = match about.parent().is_some_and(is_turned) {
                true => p.frame(v).unwrap(),
                false => f,
            };
            let parent = about.parent().and_then(|v| p.frame(v));
            let outer = about.parent().and_then(|v| p.painted_bounds(screen, v));
            // A picture may cover the whole screen, and more.
            let is_around = f.left <= 0.005
                && f.top <= 0.005
                && f.right() >= whole.right() - 0.005
                && f.bottom() >= whole.bottom() - 0.005;
            if about.image().is_some() && is_around {
                prop_assert!(told.is_empty(), "{} {:?}\n{}", path, f, screen);
                continue;
            }
            // A view beyond the screen is reported of, or the parent that takes it there is.
            if off(&f, &whole) > 0.01 {
                let folded = outer.is_some_and(|p| off(&p, &whole) > 0.0);
                prop_assert!(
                    folded || told.iter().any(|t| t.severity == Severity::Error),
                    "{} {:?}\n{}",
                    path,
                    f,
                    screen
                );
            } else if parent.is_some_and(|p| off(&own, &p) > 0.01) {
                prop_assert_eq!(told.len(), 1, "{} {:?}\n{}", path, f, screen);
                prop_assert_eq!(told[0].severity, Severity::Warning);
                prop_assert!((told[0].amount - off(&own, &parent.unwrap())).abs() < 0.01);
            } else {
                prop_assert!(told.is_empty(), "{} {:?}\n{}", path, f, screen);
            }
            let lost = f.shared(&whole).is_none() && off(&f, &whole) > 4.0;
            prop_assert!(told.iter().all(|t| t.message(screen).contains("is entirely off the screen")
                == (lost && t.severity == Severity::Error)));
        }
    }

    #[test]
    fn a_screen_and_its_text_give_the_same_placement(screen in screens(), display in displays()) {
        let text = screen.to_string();
        let again = read(&text).map_err(|e| TestCaseError::fail(format!("{text}\n{e}")))?.screen;
        prop_assert_eq!(again.to_string(), text.clone());
        prop_assert_eq!(read(&vantic::syntax::format(&text).unwrap()).unwrap().screen.to_string(), text);
        let (a, b) = (plan(screen), plan(again));
        let (a, b) = (a.place(&display, &PlainText).unwrap(), b.place(&display, &PlainText).unwrap());
        for (x, y) in a.frames.iter().flatten().zip(b.frames.iter().flatten()) {
            let same = [(x.left, y.left), (x.top, y.top), (x.width, y.width), (x.height, y.height)];
            prop_assert!(same.iter().all(|(a, b)| (a - b).abs() < NEAR), "{:?} {:?}", x, y);
        }
    }

    /// What is painted is each corner scaled, then turned, about the origin: by the view, then by what is
    /// around it.
    #[test]
    fn painted_bounds_are_those_of_the_rotated_corners(screen in screens(), display in displays()) {
        let plan = plan(screen);
        let p = plan.place(&display, &PlainText).unwrap();
        for (view, _) in plan.screen().views() {
            let Some(f) = p.frame(view) else { continue };
            let mut corners =
                [(f.left, f.top), (f.right(), f.top), (f.left, f.bottom()), (f.right(), f.bottom())];
            let mut around = Some(view);
            while let Some(v) = around {
                let (frame, paint) = (p.frame(v).unwrap(), p.look(v).paint);
                let (ox, oy) =
                    (frame.left + paint.origin.0 * frame.width, frame.top + paint.origin.1 * frame.height);
                for (x, y) in &mut corners {
                    let (dx, dy) = ((*x - ox) * paint.scale.0, (*y - oy) * paint.scale.1);
                    let turn = paint.rotate.to_radians();
                    (*x, *y) =
                        (ox + dx * turn.cos() - dy * turn.sin(), oy + dx * turn.sin() + dy * turn.cos());
                }
                around = plan.screen().view(v).unwrap().parent();
            }
            let bounds = p.painted_bounds(plan.screen(), view).unwrap();
            let least = corners.iter().fold((f64::MAX, f64::MAX), |a, c| (a.0.min(c.0), a.1.min(c.1)));
            let most = corners.iter().fold((f64::MIN, f64::MIN), |a, c| (a.0.max(c.0), a.1.max(c.1)));
            let off = [
                bounds.left - least.0,
                bounds.top - least.1,
                bounds.right() - most.0,
                bounds.bottom() - most.1,
            ];
            prop_assert!(off.iter().all(|d| d.abs() < NEAR), "{:?} {:?}", off, bounds);
        }
    }

    /// The plan has looked at every combination of bands before: placing never meets a new one.
    #[test]
    fn every_display_falls_in_a_combination_that_was_looked_at(
        cuts in prop::collection::vec((0_usize..8, 1_u32..1000, 0_usize..4), 1..5),
        display in displays(),
    ) {
        let properties = [
            "screen.width",
            "screen.height",
            "safe.width",
            "safe.height",
            "text_scale",
            "density",
            "portrait",
            "touch",
        ];
        let orders = ["<", "<=", ">=", ">"];
        let bands: String = cuts
            .iter()
            .enumerate()
            .map(|(i, (property, number, order))| match *property {
                p @ 0..6 => format!("band b{i}: {} {} {number}\n", properties[p], orders[*order]),
                p => format!("band b{i}: {}{}\n", if *order < 2 { "not " } else { "" }, properties[p]),
            })
            .collect();
        // In each band `a` is hidden and nothing stands in for it: a combination that was not
        // looked at would be refused when placing, one that was is refused at once.
        let hides: String = (0..cuts.len()).map(|i| format!("when b{i} {{ hide a }}\n")).collect();
        let text = format!("screen s {{\n{bands}view a {{}}\nview b {{ left = a.left }}\n{hides}}}\n");
        let holds = Plan::new(read(&text).unwrap().screen);
        let without = text.replace(&hides, "");
        let plan = Plan::new(read(&without).unwrap().screen).unwrap();
        let met = plan.screen().bands().iter().any(|b| b.condition().holds(&display));
        prop_assert!(!met || holds.is_err(), "{} holds on {:?} and was not looked at", text, display);
    }
}

#[test]
fn the_second_opinion_knows_a_hand_computed_screen() {
    let plan = plan(read("screen s { ladder fit; view a { pin start 10 to screen; width = 30; width = 50 ~ fit weight 2; top = 0; height = 5 } }").unwrap().screen);
    let display = Display::new(100.0, 100.0).unwrap().with_direction(Direction::RightToLeft);
    let p = plan.place(&display, &PlainText).unwrap();
    assert_eq!(p.frame(plan.screen().find("a").unwrap()).unwrap().left, 60.0);
    assert_eq!(totals(plan.screen(), &p), [0.0, 0.0, 40.0, 0.0]);
}

proptest! {
    #![proptest_config(vantic_testkit::cases(48))]

    /// Displays are looked at from near to near, and in parallel: what is found does not depend on how they
    /// are given.
    #[test]
    fn a_check_says_the_same_of_displays_in_any_order(
        screen in screens(),
        (displays, order) in prop::collection::vec(displays(), 2..20).prop_flat_map(|displays| { let order: Vec<usize> = (0..displays.len()).collect(); (Just(displays), Just(order).prop_shuffle()) }),
    ) {
        let plan = Plan::new(screen).unwrap();
        let shuffled: Vec<Display> = order.iter().map(|&at| displays[at].clone()).collect();
        let (one, other) =
            (check(&plan, &displays, &PlainText).unwrap(), check(&plan, &shuffled, &PlainText).unwrap());
        for (placement, &at) in std::iter::zip(&other.placements, &order) {
            prop_assert_eq!(&placement.display, &displays[at]);
            let pairs = std::iter::zip(&placement.frames, &one.placements[at].frames);
            for (a, b) in pairs.filter_map(|(a, b)| Some(((*a)?, (*b)?))) {
                let apart = [a.left - b.left, a.top - b.top, a.width - b.width, a.height - b.height];
                prop_assert!(apart.iter().all(|by| by.abs() < 1e-6), "{a:?} {b:?}\n{}", plan.screen());
            }
        }
        // A jump is looked at on displays of its own.
        let told = |report: &Report| {
            let findings = report.findings.iter().filter(|f| f.code != Code::Jump);
            let mut told: Vec<_> = findings
                .map(|f| {
                    let mut on: Vec<_> = report.names_of(f).map(str::to_owned).collect();
                    on.sort();
                    (f.code, f.views.clone(), f.coordinates.clone(), on, (f.amount * 1e4).round())
                })
                .collect();
            told.sort_by(|a, b| a.partial_cmp(b).unwrap());
            told
        };
        prop_assert_eq!(told(&one), told(&other), "{}", plan.screen());
    }
}
