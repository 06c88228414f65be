//! Scrolling, sticking and what is larger than its view, against plain arithmetic.

use proptest::prelude::*;
use vantic::check::check;
use vantic::display::Display;
use vantic::finding::NamedFinding;
use vantic::geometry::{Direction, Frame};
use vantic::limits::MAX_NUMBER;
use vantic::model::{Code, Screen};
use vantic::plan::{Placement, Plan};
use vantic::resolve::read;
use vantic::text::EvenText;

fn plan(source: &str) -> Plan {
    Plan::new(read(source).unwrap_or_else(|e| panic!("{e}\n{source}")).screen).unwrap()
}

fn display(width: f64, height: f64, mirrored: bool) -> Display {
    let direction = if mirrored { Direction::RightToLeft } else { Direction::LeftToRight };
    Display::new(width, height).unwrap().with_direction(direction)
}

fn frame(placement: &Placement, screen: &Screen, path: &str) -> Frame {
    placement.frame(screen.find(path).unwrap_or_else(|| panic!("{path}"))).unwrap()
}

fn findings(plan: &Plan, display: Display) -> Vec<NamedFinding> {
    check(plan, &[display], &EvenText).unwrap().named(plan.screen())
}

fn near(a: f64, b: f64) -> bool {
    (a - b).abs() < 1e-6
}

proptest! {
    #![proptest_config(vantic_testkit::cases(200))]

    /// Sections with a title that sticks, in a view that scrolls; all measured along the way it scrolls, from
    /// its near edge. What sticks is at min(max(flow - scroll, inset), end of its section - scroll - own
    /// size).
    #[test]
    fn what_sticks_is_where_arithmetic_puts_it(
        (down, mirrored, far) in any::<(bool, bool, bool)>(),
        sections in prop::collection::vec((10_u8..60, prop::collection::vec(5_u8..90, 1..4)), 1..5),
        (gap, padding, inset) in (0_u8..20, 0_u8..20, -5_i8..20),
        (port, offset) in (60_u16..300, 0_u16..900),
    ) {
        let (gap, padding, inset) = (f64::from(gap), f64::from(padding), f64::from(inset));
        let (axis, way, size, across) =
            if down { ("column", "down", "height", "width") } else { ("row", "across", "width", "height") };
        let side = match (down, far) {
            (true, false) => "top",
            (true, true) => "bottom",
            (false, false) => "start",
            (false, true) => "end",
        };
        let mut source = format!(
            "screen s {{ view port {{ pin top, start 7 to screen; {size} = {port}; {across} = 50; scroll {way}; {axis} gap {gap}, padding {padding}\n"
        );
        for (i, (title, rows)) in sections.iter().enumerate() {
            let held = format!(
                "view title {{ size = {title}; stick {side} {inset}; view mark {{ size = 3; center = parent.center }} }}"
            );
            let rows: String =
                rows.iter().enumerate().map(|(j, r)| format!("view row{j} {{ size = {r} }}\n")).collect();
            // What sticks to the far side stands at the far end of its section.
            source += &format!(
                "view part{i} {{ {axis}\n{} }}\n",
                if far { rows + &held } else { held + "\n" + &rows }
            );
        }
        let plan = plan(&(source + "} }"));
        let screen = plan.screen();
        let shown = display(500.0, 500.0, mirrored);
        let there = f64::from(offset);
        let (x, y) = if down { (0.0, there) } else { (there, 0.0) };
        let placement = plan.place(&shown.with_scroll("port", x, y).unwrap(), &EvenText).unwrap();
        let along = |path: &str| {
            let (f, around) = (frame(&placement, screen, path), frame(&placement, screen, "port"));
            match (down, mirrored) {
                (true, _) => f.top - around.top,
                (false, false) => f.left - around.left,
                (false, true) => around.right() - f.right(),
            }
        };
        let lengths: Vec<f64> = sections
            .iter()
            .map(|(t, rows)| f64::from(*t) + rows.iter().map(|&r| f64::from(r)).sum::<f64>())
            .collect();
        let extent = lengths.iter().sum::<f64>() + gap * (lengths.len() as f64 - 1.0) + 2.0 * padding;
        let most = (extent - f64::from(port)).max(0.0);
        let by = there.min(most);
        let scrolled = placement.scrolled[&screen.find("port").unwrap()];
        let pick = |pair: (f64, f64)| if down { pair.1 } else { pair.0 };
        prop_assert!(
            near(pick(scrolled.offset), by) && near(pick(scrolled.most), most),
            "{scrolled:?}, {by} of {most}"
        );
        prop_assert!(near(along("port.content"), -by));
        let mut at = padding;
        for (i, (title, rows)) in sections.iter().enumerate() {
            let (from, to, title) = (at, at + lengths[i], f64::from(*title));
            let (flow, stuck) = if far {
                let flow = to - title;
                (flow, (f64::from(port) - inset - title).min(flow - by).max(from - by))
            } else {
                (from, inset.max(from - by).min(to - by - title))
            };
            let path = |name: &str| format!("port.part{i}.{name}");
            prop_assert!(
                near(along(&path("title")), stuck),
                "{} is at {}, not {stuck}",
                path("title"),
                along(&path("title"))
            );
            // It takes along what it holds, and moves nothing else.
            prop_assert!(near(along(&path("title.mark")) - along(&path("title")), (title - 3.0) / 2.0));
            let first = if far { from } else { from + title };
            prop_assert!(near(along(&path("row0")), first - by));
            // The offsets that are reported: held just within them, and moving along just outside.
            let told = placement.stuck[&screen.find(&path("title")).unwrap()][0];
            let expected = if far {
                (from + title + inset - f64::from(port), flow + title + inset - f64::from(port))
            } else {
                (flow - inset, to - title - inset)
            };
            prop_assert!(
                near(told.held.0, expected.0) && near(told.held.1, expected.1),
                "{told:?}, {expected:?}"
            );
            prop_assert!(near(told.by.abs(), (stuck - (flow - by)).abs()));
            prop_assert_eq!(
                placement.is_stuck(screen.find(&path("title")).unwrap()),
                !near(stuck, flow - by)
            );
            at = to + gap;
            let _ = rows;
        }
    }

    /// Scrolled and back again is the identity, and a rule may read how far.
    #[test]
    fn rules_read_how_far_and_nothing_is_left_of_it(offset in 0_u16..500, height in 100_u16..400) {
        let plan = plan(
            "screen s { view head { pin left, right, top to screen; height = max(40, 100 - list.scrolled_y) }
            view list { pin left, right, bottom to screen; top = 100; scroll down
                content.bottom = last.bottom + 20
                view last { pin left, right to parent; top = parent.content.top + 450; height = 30 }
                view fixed { pin right 8, bottom 8 to parent; size = 20 } } }",
        );
        let screen = plan.screen();
        let at = |by: f64| {
            plan.place(
                &display(300.0, f64::from(height) + 100.0, false).with_scroll("list", 0.0, by).unwrap(),
                &EvenText,
            )
            .unwrap()
        };
        let (rest, there) = (at(0.0), at(f64::from(offset)));
        let by = f64::from(offset).min(500.0 - f64::from(height));
        prop_assert!(near(frame(&there, screen, "head").height, (100.0 - by).max(40.0)));
        prop_assert!(near(frame(&there, screen, "list.last").top, 550.0 - by));
        prop_assert_eq!(frame(&there, screen, "list.fixed"), frame(&rest, screen, "list.fixed"));
        prop_assert_eq!(at(0.0), rest);
    }
}

/// A view that pushes what is below it, until that meets what is pinned to the bottom.
#[test]
fn an_opening_panel_pushes_what_is_below_it() {
    let pushed = |opened: f64| {
        let plan = plan(&format!(
            "screen s {{ view panel {{ pin left, right, top to screen; height = {opened} }}
            view body {{ below panel by 8; pin left, right to screen; height = 200 }}
            view foot {{ pin left, right, bottom to screen; height = 40 }} }}"
        ));
        let found = findings(&plan, display(300.0, 400.0, false));
        let placed = plan.place(&display(300.0, 400.0, false), &EvenText).unwrap();
        (frame(&placed, plan.screen(), "body").top, found)
    };
    assert_eq!(pushed(100.0), (108.0, vec![]));
    let (top, found) = pushed(180.0);
    let overlaps: Vec<&str> = found.iter().map(|f| f.message.as_str()).collect();
    assert_eq!(top, 188.0);
    assert_eq!(overlaps, ["`body` and `foot` overlap by 300 x 28 (8400 px²), `foot` is on top"]);
}

#[test]
fn what_is_larger_is_clipped_shown_or_scaled() {
    let holding = |overhang: &str| {
        plan(&format!(
            "screen s {{ view deck {{ pin left 10, top 10 to screen; size = (200, 100); {overhang}
            view map {{ left = parent.left + 20; top = parent.top; size = (230, 90) }}
            view note {{ left = parent.left; bottom = parent.top + 125; size = 10 }} }} }}"
        ))
    };
    let told = |overhang: &str, mirrored: bool| {
        let plan = holding(overhang);
        let found = findings(&plan, display(400.0, 300.0, mirrored));
        found.iter().map(|f| (f.severity.name(), f.message.clone())).collect::<Vec<_>>()
    };
    assert_eq!(
        told("overhang clip", false),
        [
            (
                "note",
                "`deck.map` extends 50 beyond the right of its parent `deck`; 4500 px² is clipped".to_owned()
            ),
            (
                "note",
                "`deck.note` extends 25 beyond the bottom of its parent `deck`; 100 px² is clipped"
                    .to_owned()
            ),
        ]
    );
    assert_eq!(
        told("overhang show", false)[0],
        ("warning", "`deck.map` extends 50 beyond the right of its parent `deck`".to_owned())
    );
    assert_eq!(
        told("overhang scale", false),
        [("note", "`deck` scales its content to 80% so that it fits".to_owned())]
    );
    let plan = holding("overhang scale");
    let placed = plan.place(&display(400.0, 300.0, false), &EvenText).unwrap();
    let painted = placed.painted_bounds(plan.screen(), plan.screen().find("deck.map").unwrap()).unwrap();
    assert!(
        near(painted.left, 10.0 + 20.0 * 0.8) && near(painted.right(), 210.0) && near(painted.height, 72.0),
        "{painted:?}"
    );
    // What is clipped away is not beyond the screen either.
    let plan = self::plan(
        "screen s { view a { pin left, right, top to screen; height = 50; overhang clip
        view b { left = parent.left; top = parent.top; size = (900, 20) } } }",
    );
    let found = findings(&plan, display(300.0, 200.0, false));
    assert_eq!(found.iter().map(|f| f.severity.name()).collect::<Vec<_>>(), ["note"]);
}

#[test]
fn what_cannot_stick_or_be_reached_is_reported() {
    let list = |inside: &str, about: &str| {
        let source = format!(
            "screen s {{ view list {{ pin left, right, top, bottom to screen; {about}\n{inside} }} }}"
        );
        let found = findings(&plan(&source), display(300.0, 200.0, false));
        found
            .iter()
            .map(|f| {
                let same: Vec<String> =
                    f.copies.iter().map(|views| format!(" (the same of {})", views.join(", "))).collect();
                format!("{} {}: {}{}", f.severity.name(), f.code.name(), f.message, same.concat())
            })
            .collect::<Vec<_>>()
    };
    let sticking = |more: &str| {
        format!(
            "view part {{ {more} column align stretch; view title {{ height = 20; stick top }}; view body {{ height = 300 }} }}"
        )
    };
    assert_eq!(list(&sticking(""), "scroll down; column align stretch"), Vec::<String>::new());
    assert_eq!(
        list(&sticking("overhang clip;"), "scroll down; column align stretch"),
        ["note idle: `list.part.title` cannot stick to the top of `list`: `list.part` between them clips"]
    );
    assert_eq!(
        list(&sticking("").replace("height = 300", "height = 30"), "column align stretch"),
        ["note idle: `list.part.title` cannot stick to a top: no parent of it scrolls that way"]
    );
    let row = "view row { pin left, right to parent; top = parent.content.top; height = 500 }";
    assert_eq!(
        list(row, "scroll down"),
        [
            "error ambiguous: `list` has no scroll extent: `list.content.height` can be anything from 0 up",
            "warning outside: `list.row` extends 300 beyond the bottom of what `list` scrolls"
        ]
    );
    assert_eq!(
        list(row, "scroll down; content.height = 460"),
        ["warning outside: `list.row` extends 40 beyond the bottom of what `list` scrolls"]
    );
    // A button on top of the last rows is clear of them only where the content goes on behind it.
    let rows = "repeat row 9 { height = 40 }; view call { apart; depth 1; pin right 10, bottom 10 to parent; size = 50 }";
    let covered = list(rows, "scroll down; column align stretch");
    assert_eq!(
        covered,
        [
            "warning overlap: `list.call` covers 50 x 30 of `list.row[9]`, and `list` cannot be scrolled clear of it (the same of list.row[8], list.call)"
        ]
    );
    assert_eq!(list(rows, "scroll down; column align stretch, padding (0, 0, 0, 60)"), Vec::<String>::new());
}

/// Bands may turn scrolling, and switch it off; then the box of what is scrolled is the view's own.
#[test]
fn bands_say_whether_and_which_way_a_view_scrolls() {
    let plan = plan(
        "screen s { band wide: screen.width >= 400
        view list { pin left, right, top to screen; height = 100; scroll down; row align stretch, gap 10
            repeat card 3 { size = (90, 150) ~ fit } }
        ladder fit
        when wide { in list { scroll across } } }",
    );
    let at = |width: f64| {
        let shown = display(width, 300.0, false).with_scroll("list", MAX_NUMBER, MAX_NUMBER).unwrap();
        let placed = plan.place(&shown, &EvenText).unwrap();
        (frame(&placed, plan.screen(), "list.content"), placed.scrolled.values().next().copied().unwrap())
    };
    let (content, scrolled) = at(320.0);
    assert_eq!((content.height, scrolled.most), (150.0, (0.0, 50.0)), "{content:?}");
    assert_eq!(content.top, -50.0);
    let (content, scrolled) = at(400.0);
    assert_eq!((content.height, scrolled.offset), (100.0, (0.0, 0.0)), "{content:?}");
}

#[test]
fn depth_says_who_is_on_top_per_band() {
    let plan = plan(
        "screen s { band wide: screen.width >= 400
        view low { pin left, top to screen; size = 50; depth 2 }
        view high { left = low.left + 20; top = low.top; size = 50 }
        when wide { in low { depth -1 } } }",
    );
    let on_top = |width: f64| {
        let shown = display(width, 300.0, false);
        let found = findings(&plan, shown.clone());
        assert_eq!(found[0].code, Code::Overlap);
        let order = plan.place(&shown, &EvenText).unwrap().painting_order(plan.screen());
        let last = plan.screen().path(*order.last().unwrap());
        assert!(found[0].message.ends_with(&format!("`{last}` is on top")), "{}", found[0].message);
        last
    };
    assert_eq!((on_top(300.0).as_str(), on_top(500.0).as_str()), ("low", "high"));
}

/// What stays where it is while a list is scrolled under it can never be scrolled to.
#[test]
fn what_is_fixed_beyond_a_scroll_view_is_reported_and_what_scrolls_is_not() {
    let screen = |rule: &str, size: u32| {
        let rows: String = (0..9).map(|i| format!("view r{i} {{ height = {size} }}\n")).collect();
        plan(&format!(
            "screen quay {{ view list {{ pin left, right, top, bottom to safe; scroll down; column gap 4, padding (0, 0, 80, 0), align stretch
                {rows}
                view call {{ apart; depth 1; {rule}; pin end 16 to parent; size = 56 }} }} }}"
        ))
    };
    let told = |rule: &str, size| {
        let found = findings(&screen(rule, size), display(360.0, 640.0, false));
        let outside = found.into_iter().filter(|f| f.code == Code::Outside);
        outside.map(|f| (f.severity, f.views[0].clone(), f.amount)).collect::<Vec<_>>()
    };
    // The ninth row ends far below the screen, and can be scrolled to.
    assert_eq!(told("pin bottom 16 to parent", 120), []);
    let warning = vantic::finding::Severity::Warning;
    assert_eq!(told("pin bottom -16 to parent", 120), [(warning, "list.call".to_owned(), 16.0)]);
    assert_eq!(told("top = parent.top - 20", 120), [(warning, "list.call".to_owned(), 20.0)]);
}
