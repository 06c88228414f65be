//! Random screens: nested views and texts with rules of every kind, some missing, some clashing.

use proptest::prelude::*;
use vantic::display::{Display, Insets};
use vantic::geometry::{Axis, Direction};
use vantic::model::{
    Anchor, CLEAR, Condition, Coordinates, Expr, Order, Property, RuleDraft, SAFE, SCREEN, Screen,
    ScreenBuilder, Setting, Side, ViewId, bearing, clamp, max, ratio,
};

/// What one view of a random screen is reported, as numbers to pick from.
#[derive(Clone, Debug)]
pub(crate) struct Told {
    nested: bool,
    text: bool,
    across: u8,
    down: u8,
    extra: u8,
    band: u8,
    gap: f64,
    size: f64,
    level: u8,
    weight: f64,
}

fn told() -> impl Strategy<Value = Told> {
    (any::<(bool, bool)>(), 0_u8..9, 0_u8..9, 0_u8..16, 0_u8..8, -4_i8..16, 1_u8..12, 0_u8..6, 1_u8..5)
        .prop_map(|((nested, text), across, down, extra, band, gap, size, level, weight)| Told {
            nested,
            text,
            across,
            down,
            extra,
            band,
            gap: f64::from(gap) * 2.0,
            size: f64::from(size) * 13.0,
            level,
            weight: f64::from(weight) / 2.0,
        })
}

pub(crate) fn screens() -> impl Strategy<Value = Screen> {
    prop::collection::vec(told(), 1..9).prop_map(|all| build(&all))
}

/// The same without texts and images, and without choices between expressions.
pub(crate) fn plain_screens() -> impl Strategy<Value = Screen> {
    let plain = told().prop_map(|told| Told { text: false, extra: told.extra % 12, ..told });
    prop::collection::vec(plain, 1..9).prop_map(|all| build(&all))
}

pub(crate) fn displays() -> impl Strategy<Value = Display> {
    (120_u32..1500, 120_u32..1500, 0_u8..30, 0_u8..30, any::<bool>()).prop_map(
        |(w, h, left, top, mirrored)| {
            let insets = Insets {
                left: f64::from(left),
                top: f64::from(top),
                right: 3.0,
                bottom: f64::from(left) / 2.0,
            };
            let direction = if mirrored { Direction::RightToLeft } else { Direction::LeftToRight };
            let display = Display::new(f64::from(w), f64::from(h)).unwrap();
            let display = display.with_insets(insets).unwrap().with_direction(direction);
            display.with_keyboard(f64::from(top) * 3.0).unwrap()
        },
    )
}

fn build(all: &[Told]) -> Screen {
    let mut s = ScreenBuilder::new("random");
    let levels = s.ladder(["fit", "rhythm", "polish"]);
    let wide = s.band("wide", Condition::Compare(Property::ScreenWidth, Order::AtLeast, 600.0));
    let mut views: Vec<(ViewId, Anchor)> = Vec::new();
    let mut first_top = None;
    for (i, told) in all.iter().enumerate() {
        // Nested views follow their parent at once, so that the order is that of a file.
        let holder = first_top.filter(|_| told.nested && i > 0);
        let name = format!("v{i}");
        let view = match (holder, told.text) {
            (holder, true) if told.size > 40.0 => match holder {
                Some(parent) => s.image_in(parent, &name, (60.0, 40.0 + told.gap)),
                None => s.image(&name, (60.0, 40.0 + told.gap)),
            },
            (Some(parent), true) => s.text_in(parent, &name, "some words to wrap", 14.0),
            (Some(parent), false) => s.view_in(parent, &name),
            (None, true) => s.text(&name, "more words", 18.0),
            (None, false) => s.view(&name),
        };
        if holder.is_none() {
            first_top = Some(view);
        }
        let parent = holder.map_or(SCREEN, Anchor::View);
        let before = views.last().map(|v| v.0).filter(|_| told.band % 2 == 0);
        across(&mut s, view, parent, before, told);
        down(&mut s, view, parent, before, told);
        if let Some(rule) = extra(view, parent, before, told) {
            let level = levels.get(usize::from(told.level)).copied();
            s.rule(view, level.map_or(rule.clone(), |l| rule.prefer(l).weight(told.weight)));
        }
        match told.band {
            1 => {
                s.rule_when(wide, view, view.width().equals(told.size + 40.0).labelled("wide"));
            }
            3 => {
                s.hide_when(wide, view, true);
            }
            6 => {
                s.set(view, Setting::Rotate(told.gap * 7.0)).set(view, Setting::Origin(told.weight, 0.25));
            }
            7 => {
                s.set_when(wide, view, Setting::Scale(told.weight, 2.0));
            }
            5 => {
                s.rule_when(wide, view, view.height().at_most(told.size).prefer(levels[1]));
            }
            _ => {}
        }
        views.push((view, parent));
    }
    s.finish().unwrap()
}

fn across(s: &mut ScreenBuilder, view: ViewId, parent: Anchor, before: Option<ViewId>, told: &Told) {
    let width = |s: &mut ScreenBuilder, to: Expr| {
        s.rule(view, view.width().equals(to).labelled("wide"));
    };
    match told.across {
        0 => {
            s.rule(view, view.pin([(Side::Left, told.gap), (Side::Right, told.gap)], parent));
        }
        1 => {
            s.rule(view, view.pin([(Side::Start, told.gap)], SAFE));
            width(s, told.size.into());
        }
        2 => {
            s.rule(view, view.end().equals(parent.end() - told.gap));
            width(s, parent.width() * 0.4);
        }
        3 => {
            s.rule(view, view.center_x().equals(parent.center_x()));
            width(s, Expr::from(told.size) + parent.height() * 0.1);
        }
        4 => {
            s.rule(view, view.left().at_least(parent.left() + told.gap));
        }
        5 => {
            let to = before.map_or(parent.left(), |b| b.right());
            s.rule(view, view.left().equals(to + told.gap));
            width(s, told.size.into());
        }
        6 => {
            s.rule(view, view.pin([(Side::Left, told.gap), (Side::Right, told.gap)], parent));
            width(s, told.size.into());
        }
        7 => width(s, before.map_or(SCREEN.width() * 0.3, |b| b.width())),
        _ => {}
    }
}

fn down(s: &mut ScreenBuilder, view: ViewId, parent: Anchor, before: Option<ViewId>, told: &Told) {
    match told.down {
        0 | 1 => {
            s.rule(view, view.pin([(Side::Top, told.gap), (Side::Bottom, 2.0)], parent));
        }
        2 => {
            s.rule(view, view.top().equals(before.map_or(parent.top(), |b| b.bottom()) + told.gap));
            s.rule(view, view.height().equals(told.size));
        }
        3 => {
            s.rule(view, view.center().equals(parent.at(0.5, 0.25)));
        }
        4 => {
            s.rule(view, view.bottom().at_most(CLEAR.bottom() - told.gap));
            s.rule(view, view.height().at_least(told.size));
        }
        5 => {
            s.rule(view, view.center().equals(parent.center() + bearing(told.size, 30.0 * told.gap)));
        }
        6 => {
            s.rule(view, view.baseline().equals(before.map_or(parent.bottom(), |b| b.baseline())));
        }
        _ => {}
    }
}

fn extra(view: ViewId, parent: Anchor, before: Option<ViewId>, told: &Told) -> Option<RuleDraft> {
    match told.extra {
        0 => Some(ratio(view.width(), view.height(), 3.0, 2.0)),
        1 => Some(view.size().equals(told.size)),
        2 => Some(view.width().at_most(parent.height() - told.gap)),
        3 => Some(view.top().equals(told.size)),
        4 => Some((view.width() + view.height()).equals(SCREEN.width() * 0.5)),
        5 => before.map(|b| view.top().at_least(b.bottom() + told.gap)),
        6 => before.map(|b| view.left().equals(b.left() + told.size)),
        7 => Some(view.width().equals(parent.width() * 0.5)),
        8 => Some(view.width().equals(told.size * 3.0)),
        9 => before.map(|b| view.below(b, told.gap + 20.0).and(view.top().at_least(b.bottom() + told.gap))),
        10 => Some(view.between(parent.left(), parent.right(), 0.25)),
        11 => Some(view.span(Axis::Down, (0.25, 0.75), parent, (told.gap, 4.0))),
        12 => Some(view.contain(1.5, parent, (0.5, 0.0))),
        13 => Some(view.between_at_most(parent.start(), parent.end(), 0.5, told.size * 4.0)),
        14 => {
            let least = max([parent.width() * 0.5, Expr::from(told.size), view.height() * 2.0]);
            Some(view.width().at_least(least))
        }
        15 => before.map(|b| view.height().equals(clamp(b.width(), told.size, parent.height() * 0.5))),
        _ => None,
    }
}
