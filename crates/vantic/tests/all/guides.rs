//! Guides, even distances and views around others, against plain arithmetic; and what rows say of themselves.

use proptest::prelude::*;
use vantic::check::check;
use vantic::display::Display;
use vantic::geometry::{Axis, Direction, Frame};
use vantic::model::{Coordinates, Guide, SCREEN, Screen, ScreenBuilder, Spread, spread, spread_in};
use vantic::plan::{Placement, Plan};
use vantic::resolve::read;
use vantic::text::{EvenText, PlainText};

fn display(width: f64, mirrored: bool) -> Display {
    let direction = if mirrored { Direction::RightToLeft } else { Direction::LeftToRight };
    Display::new(width, 700.0).unwrap().with_direction(direction)
}

/// Where a view is along an axis, from its start: `(near, size)`.
fn along(placement: &Placement, screen: &Screen, path: &str, down: bool) -> (f64, f64) {
    let frame = placement.frame(screen.find(path).unwrap()).unwrap();
    match (down, placement.display.direction()) {
        (true, _) => (frame.top, frame.height),
        (false, Direction::LeftToRight) => (frame.left, frame.width),
        (false, Direction::RightToLeft) => (placement.display.width() - frame.right(), frame.width),
    }
}

fn near(a: f64, b: f64) -> bool {
    (a - b).abs() < 1e-6
}

proptest! {
    #![proptest_config(vantic_testkit::cases(200))]

    #[test]
    fn columns_and_rows_are_where_arithmetic_puts_them(
        (down, mirrored) in any::<(bool, bool)>(),
        count in prop::option::of(1_u32..9),
        size in prop::option::of(5_u8..90),
        (margin, gutter, offset) in (-10_i8..40, 0_u8..20, -8_i8..20),
        (lean, picked, width) in (0_u8..5, (0_u32..9, 0_u32..9), 200_u16..900),
    ) {
        prop_assume!(count.is_some() || size.is_some());
        let (margin, gutter, offset) = (f64::from(margin), f64::from(gutter), f64::from(offset));
        let (size, lean) = (size.map(f64::from), f64::from(lean) / 4.0);
        let mut cells = match (count, size, down) {
            (Some(count), _, true) => Guide::rows(count),
            (Some(count), _, false) => Guide::columns(count),
            (None, Some(size), true) => Guide::rows_of(size),
            (None, size, _) => Guide::columns_of(size.unwrap()),
        };
        if let (Some(_), Some(size)) = (count, size) {
            cells = cells.of(size, lean);
        }
        let mut s = ScreenBuilder::new("lanes");
        let lanes = s.guide("lanes", cells.margin(margin).gutter(gutter).offset(offset));
        let most = count.unwrap_or(9);
        let (first, last) = (1 + picked.0.min(picked.1) % most, 1 + picked.0.max(picked.1) % most);
        prop_assume!(first <= last);
        let view = s.view("pinned");
        let to = lanes.cells(first, last);
        let rules = match down {
            true => [
                view.top().equals(to.top()),
                view.bottom().equals(to.bottom()),
                view.left().equals(to.left()),
                view.width().equals(9.0),
            ],
            // Told from the left, whatever the reading direction.
            false => [
                view.left().equals(to.left()),
                view.right().equals(to.right()),
                view.top().equals(to.top()),
                view.height().equals(9.0),
            ],
        };
        s.rules(view, rules);
        let plan = Plan::new(s.finish().unwrap()).unwrap();
        let display = display(f64::from(width), mirrored);
        let placement = plan.place(&display, &PlainText).unwrap();

        let whole = if down { 700.0 } else { f64::from(width) };
        let n = count.map(f64::from);
        let each = size.unwrap_or_else(|| (whole - 2.0 * margin - (n.unwrap() - 1.0) * gutter) / n.unwrap());
        prop_assume!(each > 0.0);
        let start = match (n, size) {
            (Some(n), Some(size)) => {
                let all = n * size + (n - 1.0) * gutter;
                margin + lean * (whole - 2.0 * margin - all) + (1.0 - 2.0 * lean) * offset
            }
            _ => margin + offset,
        };
        let from = start + f64::from(first - 1) * (each + gutter);
        let long = f64::from(last - first + 1) * (each + gutter) - gutter;
        let found = along(&placement, plan.screen(), "pinned", down);
        prop_assert!(
            near(found.0, from) && near(found.1, long),
            "{found:?}, not {from}, {long}: {}",
            plan.screen()
        );

        // How many whole ones there are: counted up.
        let division = placement.divisions[&lanes];
        let fits = |k: &u32| start + f64::from(*k) * (each + gutter) - gutter <= whole - margin + 1e-9;
        let shown = count.unwrap_or_else(|| (1..).take_while(fits).last().unwrap_or(0));
        prop_assert_eq!(division.count, shown);
        for number in [1, shown, shown + 1] {
            let cell = placement.cell(lanes, number);
            prop_assert_eq!(cell.is_some(), (1..=shown).contains(&number));
            if let (Some(cell), true, true) = (cell, number == first, first == last) {
                let frame = placement.frame(view).unwrap();
                let same = if down { near(cell.top, frame.top) } else { near(cell.left, frame.left) };
                prop_assert!(same, "{cell:?} {frame:?}");
            }
        }
        prop_assert!(!placement.is_painted(lanes));
    }

    #[test]
    fn distances_are_even_and_a_view_is_around_the_outermost(
        (down, mirrored, how) in (any::<bool>(), any::<bool>(), 0_u8..4),
        sizes in prop::array::uniform4(1_u8..60),
        by in -5_i8..20,
        width in 400_u16..900,
    ) {
        let mut s = ScreenBuilder::new("even");
        let axis = if down { Axis::Down } else { Axis::Across };
        let views = ["a", "b", "c", "d"].map(|name| s.view(name));
        for (number, (view, size)) in std::iter::zip(views, sizes).enumerate() {
            let (size, across) = (f64::from(size), 7.0 * number as f64);
            s.rules(
                view,
                match down {
                    true => {
                        [view.height().equals(size), view.width().equals(20.0), view.left().equals(across)]
                    }
                    false => {
                        [view.width().equals(size), view.height().equals(20.0), view.top().equals(across)]
                    }
                },
            );
        }
        let modes = [Spread::Evenly, Spread::Between, Spread::Around];
        match modes.get(usize::from(how)) {
            Some(mode) => drop(s.rule(views[0], spread_in(axis, views, SCREEN, *mode))),
            None => {
                // The outer two are pinned, the others stand between.
                s.rule(views[0], spread(axis, views));
                let (first, last) = (views[0], views[3]);
                s.rule(
                    first,
                    if down { first.top().equals(10.0) } else { first.start().equals(SCREEN.start() + 10.0) },
                );
                s.rule(
                    last,
                    if down {
                        last.bottom().equals(380.0)
                    } else {
                        last.end().equals(SCREEN.start() + 380.0)
                    },
                );
            }
        }
        let round = s.view("round");
        s.rule(round, round.enclose(views, f64::from(by)));
        let plan = Plan::new(s.finish().unwrap()).unwrap();
        let display = display(f64::from(width), mirrored);
        let placement = plan.place(&display, &PlainText).unwrap();
        prop_assert!(placement.broken.is_empty(), "{}", plan.screen());
        let found = ["a", "b", "c", "d"].map(|path| along(&placement, plan.screen(), path, down));
        let whole = if down { 700.0 } else { f64::from(width) };
        let (before, behind) = (found[0].0, whole - found[3].0 - found[3].1);
        let gaps: Vec<f64> = found.windows(2).map(|pair| pair[1].0 - pair[0].0 - pair[0].1).collect();
        let gap = gaps[0];
        prop_assert!(gaps.iter().all(|&g| near(g, gap)), "{gaps:?}");
        let expected =
            [(gap, gap), (0.0, 0.0), (gap / 2.0, gap / 2.0), (10.0, whole - 380.0)][usize::from(how)];
        prop_assert!(near(before, expected.0) && near(behind, expected.1), "{before} {gap} {behind}");
        // Around all of them, and no further.
        let frames = views.map(|view| placement.frame(view).unwrap());
        let least = |edge: fn(&Frame) -> f64| frames.iter().map(edge).fold(f64::INFINITY, f64::min);
        let most = |edge: fn(&Frame) -> f64| frames.iter().map(edge).fold(f64::NEG_INFINITY, f64::max);
        let (frame, by) = (placement.frame(round).unwrap(), f64::from(by));
        prop_assert!(near(frame.left, least(|f| f.left) - by) && near(frame.top, least(|f| f.top) - by));
        prop_assert!(
            near(frame.right(), most(Frame::right) + by) && near(frame.bottom(), most(Frame::bottom) + by)
        );
    }
}

fn frames(source: &str, display: &Display, paths: &[&str]) -> Vec<[f64; 4]> {
    let plan = Plan::new(read(source).unwrap_or_else(|e| panic!("{e}")).screen).unwrap();
    let placement = plan.place(display, &EvenText).unwrap();
    assert!(placement.broken.is_empty() && placement.unsettled.is_empty(), "{source}");
    let frame = |path: &&str| placement.frame(plan.screen().find(path).unwrap()).unwrap();
    paths.iter().map(frame).map(|f| [f.left, f.top, f.width, f.height]).collect()
}

#[test]
fn a_row_gives_room_to_words_before_it_grows_and_nests() {
    let narrow = Display::new(200.0, 300.0).unwrap();
    let text = "screen s { ladder fit
        band wide: screen.width >= 500
        view bar { pin left, top to screen; right <= screen.right; row gap 10
            text a \"ten letter\" { font 20 }
            view inner { column align stretch; text b \"twenty letters long.\" { font 20 }; text c \"abc\" { font 20 } }
            view badge { apart; size = 6; pin right, top to parent }
        }
        view open { pin left, right to screen; below bar; row; view x { height = 4 } }
        when wide { in bar { column gap 4 }; hide bar.a }
    }";
    // 200 less the gap: the second text wraps, and the inner column is as wide as it.
    assert_eq!(
        frames(text, &narrow, &["bar", "bar.a", "bar.inner", "bar.inner.b", "bar.inner.c", "bar.badge"]),
        [
            [0.0, 0.0, 200.0, 100.0],
            [0.0, 0.0, 100.0, 25.0],
            [110.0, 0.0, 90.0, 100.0],
            [110.0, 0.0, 90.0, 75.0],
            [110.0, 75.0, 90.0, 25.0],
            [194.0, 0.0, 6.0, 6.0]
        ]
    );
    // A band turns it, and the hidden one leaves no gap.
    let wide = Display::new(600.0, 300.0).unwrap();
    assert_eq!(
        frames(text, &wide, &["bar", "bar.inner", "bar.inner.b"]),
        [[0.0, 0.0, 200.0, 50.0], [0.0, 0.0, 200.0, 50.0], [0.0, 0.0, 200.0, 25.0]]
    );
    // A width that nothing settles is open still, where the row has one of its own.
    let plan = Plan::new(read(text).unwrap().screen).unwrap();
    let report = check(&plan, &[narrow], &EvenText).unwrap();
    let open: Vec<_> = report.findings.iter().filter(|f| f.code.name() == "ambiguous").collect();
    assert_eq!(open.len(), 1, "{open:?}");
    assert_eq!(
        open[0].coordinates,
        [(plan.screen().find("open.x").unwrap(), vantic::model::Coordinate::Width)]
    );
}

#[test]
fn a_child_that_is_pinned_against_its_row_is_reported_with_the_row() {
    let text = "screen s {
        view bar { pin left, right, top to screen; height = 40; row gap 8
            view a { size = 20 }
            view b { size = 20; left = 50 }
        }
        guide lanes { columns 4; pin left 8 to screen; right = screen.right }
        view c { pin start, end to lanes[2]; width = 300; top = 50; height = 4 }
    }";
    let plan = Plan::new(read(text).unwrap().screen).unwrap();
    let report = check(&plan, &[Display::new(408.0, 300.0).unwrap()], &EvenText).unwrap();
    let told: Vec<_> = report
        .findings
        .iter()
        .filter(|f| f.code.name() == "conflict")
        .map(|f| (f.rule_names(plan.screen()), f.amount))
        .collect();
    assert_eq!(told.len(), 2, "{told:?}");
    assert!(
        told.iter().any(|(rules, by)| rules.contains(&"bar.row".into())
            && rules.contains(&"bar.b#2".into())
            && near(*by, 22.0)),
        "{told:?}"
    );
    assert!(told.iter().any(|(rules, by)| rules.contains(&"c#2".into()) && near(*by, 200.0)), "{told:?}");
    let b = plan.screen().find("bar.b").unwrap();
    let said: Vec<String> =
        plan.screen().rules_of(b).into_iter().map(|r| plan.screen().sentence(r)).collect();
    assert!(said.contains(&"`bar` places `bar.b`: row gap 8".to_owned()), "{said:?}");
}

proptest! {
    #![proptest_config(vantic_testkit::cases(100))]

    #[test]
    fn as_many_are_shown_as_fit(
        (gap, padding, room) in (0_u8..20, 0_u8..20, 30_u16..700),
        sizes in prop::collection::vec(5_u8..90, 2..9),
        sure in 1_usize..4,
    ) {
        let children: String = sizes
            .iter()
            .enumerate()
            .map(|(i, size)| {
                let spare = if i >= sure { "; spare" } else { "" };
                let below = if i > 0 { "; top >= prev.bottom" } else { "" };
                format!("view c{i} {{ height = {size}; width = 9{spare}{below} }}\n")
            })
            .collect();
        let text = format!(
            "screen s {{ view list {{ pin left, top to screen; height = {room}; column gap {gap}, padding {padding}\n{children} }} }}"
        );
        let plan = Plan::new(read(&text).unwrap().screen).unwrap();
        let placement = plan.place(&display(400.0, false), &PlainText).unwrap();
        prop_assert!(placement.broken.is_empty() && placement.unsettled.is_empty(), "{text}");
        // Taken in one after another until one does not fit.
        let mut bottom = f64::from(padding);
        for (i, size) in sizes.iter().enumerate() {
            let top = if i == 0 { bottom } else { bottom + f64::from(gap) };
            let fits = top + f64::from(*size) <= f64::from(room) - f64::from(padding);
            let frame = placement.frame(plan.screen().find(&format!("list.c{i}")).unwrap());
            let gone = i >= sure && (!fits || bottom.is_nan());
            prop_assert_eq!(frame.map(|f| f.top), (!gone).then_some(top), "c{} in {}", i, text);
            bottom = if gone { f64::NAN } else { top + f64::from(*size) };
        }
        let wrong = text
            .replace("view list", "view other { top = list.c1.bottom }\nview list")
            .replace("height = ", "spare; height = ");
        prop_assert!(
            Plan::new(read(&wrong).unwrap().screen)
                .unwrap_err()
                .to_string()
                .contains("where there is no room")
        );
    }
}

proptest! {
    #![proptest_config(vantic_testkit::cases(150))]

    /// Children of which as many are shown as fit, in lines or cells, taken in one after another; and the
    /// first for which there is no space, cut, where enough of it can be seen.
    #[test]
    fn as_many_as_fit_in_lines_and_cells(
        sizes in prop::collection::vec((5_u8..60, 5_u8..60), 1..12),
        (sure, gap, cut) in (0_usize..4, 0_u8..9, prop::option::of(1_u8..40)),
        (width, room, kind, padding) in (40_u16..160, 20_u16..200, 0_u8..3, 0_u8..30),
    ) {
        let (gap, room, width) = (f64::from(gap), f64::from(room), f64::from(width));
        let across = match kind {
            0 => format!("column gap {gap}"),
            1 => format!("row gap {gap}, wrap by {gap}"),
            _ => format!("grid columns at least 50, gap {gap}, align start"),
        };
        // What is cut is seen up to the edge of the list, behind its padding.
        let seen = room + f64::from(padding);
        let across = format!("{across}, padding (0, 0, 0, {padding})");
        let children: String = sizes
            .iter()
            .enumerate()
            .map(|(i, (w, h))| {
                let spare = match cut {
                    _ if i < sure => String::new(),
                    Some(cut) => format!("; spare cut {cut}"),
                    None => "; spare".to_owned(),
                };
                let w = if kind == 2 { 9.0 } else { f64::from(*w).min(width) };
                format!("view c{i} {{ size = ({w}, {h}){spare} }}\n")
            })
            .collect();
        let text = format!(
            "screen s {{ view list {{ pin left, top to screen; size = ({width}, {seen}); overhang clip; {across}\n{children} }} }}"
        );
        let plan = Plan::new(read(&text).unwrap().screen).unwrap();
        let placement = plan.place(&display(400.0, false), &PlainText).unwrap();
        prop_assert!(placement.broken.is_empty() && placement.unsettled.is_empty(), "{text}");
        let columns = ((width + gap) / (50.0 + gap) + 1e-9).floor().max(1.0) as usize;
        // The line it would stand in begins at `top`, and is so wide and high, with so many in it.
        let (mut top, mut long, mut high, mut many, mut end) = (0.0, 0.0, 0.0_f64, 0, None);
        let mut cut_from: Option<f64> = None;
        for (i, (w, h)) in sizes.iter().enumerate() {
            let (w, h) = (f64::from(*w).min(width), f64::from(*h));
            let fits_line = match kind {
                0 => many == 0,
                1 => many == 0 || long + gap + w <= width + 1e-9,
                _ => many < columns,
            };
            let (line_top, line_high) = if fits_line { (top, high.max(h)) } else { (top + high + gap, h) };
            let fits = line_top + line_high <= room + 1e-9;
            let is_sure = i < sure;
            let hinted = cut.is_some_and(|cut| line_top + f64::from(cut) <= seen + 1e-9)
                && cut_from.is_none_or(|from| from == line_top);
            let shown = is_sure || end.is_none() && (fits && cut_from.is_none() || hinted);
            if shown && !is_sure && (!fits || cut_from.is_some()) {
                cut_from = Some(line_top);
            }
            let frame = placement.frame(plan.screen().find(&format!("list.c{i}")).unwrap());
            prop_assert_eq!(frame.map(|f| f.top), shown.then_some(line_top), "c{} in {}", i, text);
            if !shown {
                end = Some(i);
                continue;
            }
            long = if fits_line && many > 0 { long + gap + w } else { w };
            many = if fits_line { many + 1 } else { 1 };
            (top, high) = (line_top, line_high);
        }
        let told = placement.visible_spares.values().next().copied();
        prop_assert_eq!(told.is_some_and(|t| t.cut), cut_from.is_some());
    }
}

/// At most so many, and as many as have space for their least, which then take all of it.
#[test]
fn repeated_items_that_share_the_space_need_their_minimum_only() {
    for limit in ["share 1, at least 90", "share 1; width >= 90"] {
        let text = format!(
            "screen s {{ view list {{ pin left, right, top to screen; height = 60; row gap 10, align stretch
            repeat card at least 1, at most 3 {{ {limit} }} }} }}"
        );
        let plan = Plan::new(read(&text).unwrap().screen).unwrap();
        for (width, shown, each) in
            [(150.0, 1, 150.0), (189.0, 1, 189.0), (250.0, 2, 120.0), (900.0, 3, 880.0 / 3.0)]
        {
            let placement = plan.place(&display(width, false), &PlainText).unwrap();
            let cards =
                (1..=3).filter_map(|n| placement.frame(plan.screen().find(&format!("list.card[{n}]"))?));
            let widths: Vec<f64> = cards.map(|f| f.width).collect();
            assert!(
                widths.len() == shown && widths.iter().all(|w| near(*w, each)),
                "{limit} in {width}: {widths:?}"
            );
        }
    }
}

#[test]
fn content_fills_rows_and_cells_without_being_cut() {
    let at = Display::new(300.0, 400.0).unwrap();
    let text = "screen s {
        view menu { pin left, top to screen; column padding 5, align stretch
            text one \"four\" { font 20 }
            text two \"eight ch\" { font 20 }
            image logo { natural (60, 30) }
        }
        view bar { pin left, right to screen; below menu by 10; row gap 10, align stretch
            text long \"twenty letters long.\" { font 20; share 1 }
            text short \"four\" { font 20; share 2 }
        }
        view lined { pin left, right to screen; below bar by 10; row gap 10, align baseline
            text small \"four\" { font 10 }
            text large \"four\" { font 40 }
            view box { size = (10, 20) }
        }
        view facts { pin left to screen; below lined by 10; grid columns 2 snug, gap 5
            text k1 \"four\" { font 20 }
            text v1 \"eight ch\" { font 20 }
            text k2 \"six ch\" { font 20 }
            view v2 { height = 60 }
        }
    }";
    let paths = [
        "menu",
        "menu.one",
        "menu.two",
        "menu.logo",
        "bar",
        "bar.long",
        "bar.short",
        "lined",
        "lined.small",
        "lined.large",
        "lined.box",
        "facts",
        "facts.v1",
        "facts.k2",
        "facts.v2",
    ];
    let found = frames(text, &at, &paths);
    // The measurer `even`: half the font size a character, lines of 1.25 of it; the first baseline is
    // reported by the texts themselves.
    let rest = &found[4..7];
    assert_eq!(found[0], [0.0, 0.0, 90.0, 100.0], "as wide as the widest, and no wider");
    assert_eq!(found[1], [5.0, 5.0, 80.0, 25.0]);
    assert_eq!(found[2], [5.0, 30.0, 80.0, 25.0]);
    assert_eq!(found[3], [5.0, 55.0, 80.0, 40.0], "the picture keeps its proportions");
    // 290 in shares of 1 and 2: the long one wraps, and the short one is as high.
    let third = 290.0 / 3.0;
    assert!(near(rest[1][2], third) && near(rest[2][2], 2.0 * third), "{rest:?}");
    assert!(near(rest[1][3], 75.0) && near(rest[2][3], 75.0) && near(rest[0][3], 75.0), "{rest:?}");
    // The highest above the common baseline is at the top, and the row is as high as what hangs below.
    let (lined, small, large, plain) = (found[7], found[8], found[9], found[10]);
    assert!(near(large[1], lined[1]) && small[1] > large[1], "{lined:?} {small:?} {large:?}");
    assert!(near(lined[3], large[3]) && plain[1] + plain[3] < large[1] + large[3], "{plain:?}");
    // Columns as wide as their widest, rows as high as their highest.
    assert_eq!([found[12][0], found[12][2]], [65.0, 80.0]);
    assert_eq!([found[13][2], found[13][3], found[14][2], found[14][3]], [60.0, 60.0, 80.0, 60.0]);
    assert_eq!([found[11][2], found[11][3]], [145.0, 90.0]);
}

#[test]
fn what_may_lack_room_is_read_from_within_and_by_later_ones_only() {
    let plan = |inside: &str| {
        let text = format!(
            "screen s {{ view list {{ pin left, right, top, bottom to screen; column
            view a {{ height = 20 }}
            view b {{ spare; height = 20; row; view x {{ spare; size = 4 }}; view y {{ width = x.width }} }}
            view c {{ spare; height = 20; {inside} }} }} }}"
        );
        Plan::new(read(&text).unwrap_or_else(|e| panic!("{e}")).screen).map(|_| ()).map_err(|e| e.to_string())
    };
    // `y` is always in `b`, `x` only where there is room.
    let inner = plan("").unwrap_err();
    assert!(inner.contains("reads `list.b.x`, which is hidden where there is no room"), "{inner}");
    let plan = |inside: &str| {
        let text = format!(
            "screen s {{ view list {{ pin left, right, top, bottom to screen; column
            view a {{ height = 20 }}
            view b {{ spare; height = 20; view x {{ left = b.left; size = 4 }} }}
            view c {{ spare; height = 20; {inside} }} }} }}"
        );
        Plan::new(read(&text).unwrap_or_else(|e| panic!("{e}")).screen).map(|_| ()).map_err(|e| e.to_string())
    };
    assert_eq!(plan("width = prev.width; view z { left = b.x.left; right <= a.right }"), Ok(()));
    assert!(plan("}; view d { top >= c.top").unwrap_err().contains("`list.c`"));
    assert!(plan("}; view d { top >= prev.top").unwrap_err().contains("`list.c`"));
}
