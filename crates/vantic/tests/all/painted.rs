//! What is at a point, against a walk over all views from the outside inwards that keeps the corners of each.

use proptest::prelude::*;
use vantic::display::Display;
use vantic::geometry::Frame;
use vantic::model::{
    Anchor, Coordinates as _, Overflow, SCREEN, Screen, ScreenBuilder, Setting, Side, ViewId,
};
use vantic::plan::{Placement, Plan};
use vantic::text::PlainText;

type Point = (f64, f64);

/// What a view of a random screen is like.
type Told = (usize, [f64; 4], (u8, i8, f64, f64, Point));

fn told() -> impl Strategy<Value = Told> {
    let paint = (0_u8..8, -2_i8..3, -180.0..180.0, 0.4..1.8, (-0.5..1.5, -0.5..1.5));
    (any::<usize>(), [0.0..200.0, 0.0..200.0, 0.0..180.0, 0.0..180.0], paint)
}

fn build(all: &[Told]) -> Screen {
    let mut build = ScreenBuilder::new("yard");
    let mut views: Vec<ViewId> = Vec::new();
    let [_shut, open] = build.state("gate", ["shut", "open"]);
    for (number, (parent, [x, y, w, h], (kind, depth, turned, scale, origin))) in all.iter().enumerate() {
        let holder = parent.checked_rem(views.len() + 1).and_then(|at| views.get(at)).copied();
        let name = format!("v{number}");
        let view = match holder {
            Some(holder) => build.view_in(holder, &name),
            None => build.view(&name),
        };
        let around = holder.map_or(SCREEN, Anchor::View);
        build.add(view.pin([(Side::Left, *x), (Side::Top, *y)], around));
        build.add(view.width().equals(*w)).add(view.height().equals(*h));
        match kind {
            0 => {
                build.set(view, Setting::Rotate(*turned));
            }
            1 => {
                build.set(view, Setting::Scale(*scale, 2.0 - scale));
            }
            2 => {
                build.set(view, Setting::Overflow(Overflow::Clip));
            }
            3 => {
                build.set(view, Setting::Overflow(Overflow::Scale));
            }
            4 => {
                build.hide_when(open, view, depth % 2 == 0);
            }
            5 => {
                build.set_when(open, view, Setting::Depth(1.0)).set(view, Setting::Rotate(90.0));
            }
            _ => {}
        }
        build.set(view, Setting::Depth(f64::from(*depth)));
        build.set(view, Setting::Origin(origin.0, origin.1));
        views.push(view);
    }
    build.finish().unwrap()
}

/// A point turned and scaled about another one.
fn moved((x, y): Point, about: Point, turned: f64, scale: Point) -> Point {
    let (x, y) = ((x - about.0) * scale.0, (y - about.1) * scale.1);
    let (sin, cos) = turned.to_radians().sin_cos();
    (about.0 + x * cos - y * sin, about.1 + x * sin + y * cos)
}

/// Whether a point is inside of four corners; `None` where it is on an edge.
fn is_inside(corners: &[Point; 4], (x, y): Point) -> Option<bool> {
    let side = |k: usize| {
        let (a, b) = (corners[k], corners[(k + 1) % 4]);
        (b.0 - a.0) * (y - a.1) - (b.1 - a.1) * (x - a.0)
    };
    let sides: Vec<f64> = (0..4).map(side).collect();
    if sides.iter().any(|side| side.abs() < 1e-6) {
        return None;
    }
    Some(sides.iter().all(|side| *side > 0.0) || sides.iter().all(|side| *side < 0.0))
}

/// The view at a point, from the outside inwards: the last one that is painted there. `None` on an edge.
fn by_hand(screen: &Screen, placed: &Placement, point: Point) -> Option<Option<ViewId>> {
    struct Walk<'a> {
        screen: &'a Screen,
        placed: &'a Placement,
        point: Point,
        found: Option<ViewId>,
    }
    impl Walk<'_> {
        /// `outer` is what the views around do to points, the nearest first.
        fn over(&mut self, views: &[ViewId], outer: &[(Point, f64, Point)], seen: bool) -> Option<()> {
            let mut views = views.to_vec();
            views.sort_by(|a, b| self.placed.look(*a).depth.total_cmp(&self.placed.look(*b).depth));
            for view in views {
                let Some(Frame { left, top, width, height }) = self.placed.frame(view) else { continue };
                let look = self.placed.look(view);
                let point = |origin: Point| (left + origin.0 * width, top + origin.1 * height);
                let own = (point(look.paint.origin), look.paint.rotate, look.paint.scale);
                let mut all = vec![own];
                all.extend(outer);
                let corners = [(0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0)].map(|corner| {
                    let steps = all.iter();
                    steps.fold(point(corner), |at, (about, turned, scale)| moved(at, *about, *turned, *scale))
                });
                let has_area = width > 0.0 && height > 0.0;
                let inside = has_area && is_inside(&corners, self.point)?;
                if inside && seen && self.placed.is_painted(view) {
                    self.found = Some(view);
                }
                if let Some(fit) = look.fits {
                    all.insert(0, (point(fit.origin), 0.0, (fit.factor, fit.factor)));
                }
                let children = self.screen.view(view).unwrap().children();
                self.over(children, &all, seen && (inside || !look.clips))?;
            }
            Some(())
        }
    }
    let mut walk = Walk { screen, placed, point, found: None };
    walk.over(screen.roots(), &[], true)?;
    Some(walk.found)
}

proptest! {
    #![proptest_config(vantic_testkit::cases(200))]

    #[test]
    fn what_is_at_a_point_is_what_was_painted_there_last(
        all in prop::collection::vec(told(), 1..12),
        points in prop::collection::vec((-50.0..450.0, -50.0..450.0), 30),
    ) {
        let plan = Plan::new(build(&all)).unwrap();
        let mut live = plan.live();
        for shown in ["shut", "open"] {
            let display = Display::new(400.0, 400.0).unwrap().with_state("gate", shown);
            let placed = plan.place(&display, &PlainText).unwrap();
            let frames = live.frames(&display, &PlainText).unwrap();
            let screen = plan.screen();
            prop_assert_eq!(frames.painting_order(), placed.painting_order(screen));
            for (view, _) in screen.views() {
                prop_assert_eq!(frames.look(view), placed.look(view));
                prop_assert_eq!(frames.visible_frame(view), placed.visible_frame(screen, view));
            }
            // The middles of views, too, since small ones are not met by chance.
            let middles = placed.frames.iter().flatten().map(|f| (f.left + 0.37 * f.width, f.top + 0.61 * f.height));
            for point in points.iter().copied().chain(middles) {
                if let Some(expected) = by_hand(screen, &placed, point) {
                    prop_assert_eq!(frames.view_at(point.0, point.1), expected, "at {:?}", point);
                    prop_assert_eq!(placed.view_at(screen, point.0, point.1), expected);
                }
            }
        }
    }
}
