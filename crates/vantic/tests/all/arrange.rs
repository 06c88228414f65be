//! Rows and columns against plain arithmetic, written from what the reference says of them.

use proptest::prelude::*;
use vantic::check::check;
use vantic::display::Display;
use vantic::finding::Severity;
use vantic::geometry::{Direction, Frame};
use vantic::json::Form;
use vantic::model::{
    Align, Arrangement, Code, Columns, Coordinates, SCREEN, ScreenBuilder, Setting, Share, Space, Spread,
};
use vantic::plan::Plan;
use vantic::resolve::read;
use vantic::text::{Measure, PlainText, TextRequest};

/// One child: how long along, how large across, and what it takes of the space.
#[derive(Clone, Debug)]
struct Child {
    long: f64,
    wide: f64,
    share: Option<(f64, Option<f64>, Option<f64>)>,
    /// A space before it: a length, or a weight.
    space: Option<Result<f64, f64>>,
    sit: Option<Align>,
}

#[derive(Clone, Debug)]
struct Line {
    down: bool,
    spread: Spread,
    align: Align,
    gap: f64,
    padding: [f64; 4],
    wrap: Option<f64>,
    children: Vec<Child>,
    room: f64,
}

fn spreads() -> impl Strategy<Value = Spread> {
    use Spread::{Around, Between, Center, End, Evenly, Start};
    prop::sample::select(vec![Start, Center, End, Between, Around, Evenly])
}

fn aligns() -> impl Strategy<Value = Align> {
    prop::sample::select(vec![Align::Start, Align::Center, Align::End, Align::Stretch])
}

fn child() -> impl Strategy<Value = Child> {
    let limits = (prop::option::of(0_u8..90), prop::option::of(0_u8..120));
    let share = (1_u8..5, limits)
        .prop_map(|(weight, (least, most))| (f64::from(weight), least.map(f64::from), most.map(f64::from)));
    let space =
        prop_oneof![(0_u8..20).prop_map(|s| Ok(f64::from(s))), (1_u8..4).prop_map(|s| Err(f64::from(s)))];
    (
        0_u8..100,
        1_u8..60,
        prop::option::weighted(0.4, share),
        prop::option::weighted(0.2, space),
        prop::option::weighted(0.2, aligns()),
    )
        .prop_map(|(long, wide, share, space, sit)| Child {
            long: f64::from(long),
            wide: f64::from(wide),
            share,
            space,
            sit,
        })
}

fn lines(wraps: bool) -> impl Strategy<Value = Line> {
    let shape = (any::<bool>(), spreads(), aligns(), 0_u8..20, prop::array::uniform4(0_u8..12));
    let wrap = (0_u8..20).prop_map(move |by| wraps.then_some(f64::from(by)));
    (shape, wrap, prop::collection::vec(child(), 1..7), 60_u16..700).prop_map(
        move |((down, spread, align, gap, padding), wrap, mut children, room)| {
            if wraps {
                // What is stretched in a line of its own height has no height of its own.
                children.iter_mut().for_each(|c| (c.share, c.space, c.sit) = (None, None, None));
            }
            let align = if wraps && align == Align::Stretch { Align::End } else { align };
            let (gap, padding) = (f64::from(gap), padding.map(f64::from));
            Line { down, spread, align, gap, padding, wrap, children, room: f64::from(room) }
        },
    )
}

/// How far across the view reaches where it is not as large as its children let it be.
const ACROSS: f64 = 90.0;

fn plan(line: &Line) -> Plan {
    let mut s = ScreenBuilder::new("line");
    let bar = s.view("bar");
    let along = if line.down { bar.height() } else { bar.width() };
    let across = if line.down { bar.width() } else { bar.height() };
    s.rules(
        bar,
        [bar.start().equals(SCREEN.start() + 10.0), bar.top().equals(20.0), along.equals(line.room)],
    );
    if line.wrap.is_none() {
        s.rule(bar, across.equals(ACROSS));
    }
    let mut how = if line.down { Arrangement::column() } else { Arrangement::row() };
    how = how.gap(line.gap).padding_of(line.padding).spread(line.spread).align(line.align);
    if let Some(by) = line.wrap {
        how = how.wrap(by);
    }
    s.set(bar, Setting::Arrange(Box::new(how)));
    for (number, child) in line.children.iter().enumerate() {
        match child.space {
            Some(Ok(length)) => drop(s.space(bar, Space::Fixed(length.into()))),
            Some(Err(weight)) => drop(s.space(bar, Space::Flexible(weight))),
            None => {}
        }
        let view = s.view_in(bar, &format!("c{number}"));
        let (long, wide) =
            if line.down { (view.height(), view.width()) } else { (view.width(), view.height()) };
        match child.share {
            Some((weight, least, most)) => {
                let mut share = Share::of(weight);
                share = least.map_or(share.clone(), |least| share.at_least(least));
                s.set(view, Setting::Share(Box::new(share)));
                // A limit may stand in the block as well.
                s.rules(view, most.map(|most| long.at_most(most.max(least.unwrap_or(0.0)))));
            }
            None => drop(s.rule(view, long.equals(child.long))),
        }
        if child.sit.unwrap_or(line.align) != Align::Stretch {
            s.rule(view, wide.equals(child.wide));
        }
        if let Some(align) = child.sit {
            s.set(view, Setting::Sit(align));
        }
    }
    Plan::new(s.finish().unwrap()).unwrap()
}

/// How long each is: found by trying units until the space is taken.
fn lengths(line: &Line, room: f64, open_spaces: f64) -> (Vec<f64>, f64, bool) {
    let long = |c: &Child, unit: f64| match c.share {
        None => c.long,
        Some((weight, least, most)) => {
            let least = least.unwrap_or(0.0);
            (weight * unit).min(most.unwrap_or(f64::INFINITY).max(least)).max(least)
        }
    };
    let taken = |unit: f64| line.children.iter().map(|c| long(c, unit)).sum::<f64>() + open_spaces * unit;
    let (mut low, mut high) = (0.0, 1e5);
    for _ in 0..200 {
        let middle = (low + high) / 2.0;
        if taken(middle) > room { high = middle } else { low = middle }
    }
    let fills = taken(1e5) >= room && (open_spaces > 0.0 || line.children.iter().any(|c| c.share.is_some()));
    (line.children.iter().map(|c| long(c, low)).collect(), low, fills)
}

/// Where each child is along and how long it is, from the start of the view.
fn placed_along(line: &Line) -> Vec<(f64, f64)> {
    let (first, last) = if line.down { (1, 3) } else { (0, 2) };
    let inner = line.room - line.padding[first] - line.padding[last];
    let gap = |i: usize| match line.children[i].space {
        Some(Ok(length)) => length,
        _ if i == 0 => 0.0,
        _ => line.gap,
    };
    let weight = |i: usize| line.children[i].space.and_then(Result::err).unwrap_or(0.0);
    let count = line.children.len();
    let gaps: f64 = (0..count).map(gap).sum();
    let open: f64 = (0..count).map(weight).sum();
    let (long, unit, fills) = lengths(line, inner - gaps, open);
    let left = inner - gaps - long.iter().sum::<f64>() - open * unit;
    // Only plain gaps grow.
    let plain: Vec<bool> = (0..count).map(|i| i > 0 && line.children[i].space.is_none()).collect();
    let growing = plain.iter().filter(|p| **p).count() as f64;
    let (mut lead, mut distance) = (0.0, line.gap);
    if left > 0.0 && !fills {
        // The room among the growing gaps and the ends, the gaps counted in.
        let room = left + growing * line.gap;
        (lead, distance) = match line.spread {
            Spread::Start => (0.0, line.gap),
            Spread::Center => (left / 2.0, line.gap),
            Spread::End => (left, line.gap),
            Spread::Between if growing > 0.0 => (0.0, room / growing),
            Spread::Between => (0.0, line.gap),
            Spread::Around if room / (growing + 1.0) >= line.gap => {
                (room / (growing + 1.0) / 2.0, room / (growing + 1.0))
            }
            Spread::Evenly if room / (growing + 2.0) >= line.gap => {
                (room / (growing + 2.0), room / (growing + 2.0))
            }
            Spread::Around | Spread::Evenly => (left / 2.0, line.gap),
        };
    }
    let mut at = line.padding[first] + lead;
    let mut all = Vec::new();
    for i in 0..count {
        at += if plain[i] { distance } else { gap(i) } + weight(i) * unit;
        all.push((at, long[i]));
        at += long[i];
    }
    all
}

/// The frame of a child from where it is along and across.
fn frame(line: &Line, along: (f64, f64), across: (f64, f64), direction: Direction, display: f64) -> Frame {
    let ((x, width), (y, height)) = if line.down { (across, along) } else { (along, across) };
    let start = 10.0 + x;
    let left = if direction == Direction::RightToLeft { display - start - width } else { start };
    Frame { left, top: 20.0 + y, width, height }
}

fn assert_near(found: Frame, expected: Frame, what: &str) -> Result<(), TestCaseError> {
    let off = [
        found.left - expected.left,
        found.top - expected.top,
        found.width - expected.width,
        found.height - expected.height,
    ];
    prop_assert!(off.iter().all(|by| by.abs() < 1e-4), "{what}: {found:?}, not {expected:?}");
    Ok(())
}

fn display(mirrored: bool) -> Display {
    let direction = if mirrored { Direction::RightToLeft } else { Direction::LeftToRight };
    Display::new(800.0, 800.0).unwrap().with_direction(direction)
}

proptest! {
    #![proptest_config(vantic_testkit::cases(300))]

    #[test]
    fn a_line_is_where_arithmetic_puts_it(line in lines(false), mirrored in any::<bool>()) {
        let (plan, display) = (plan(&line), display(mirrored));
        let placement = plan.place(&display, &PlainText).unwrap();
        prop_assert!(placement.broken.is_empty() && placement.unsettled.is_empty(), "{}", plan.screen());
        let inner =
            if line.down { (line.padding[0], line.padding[2]) } else { (line.padding[1], line.padding[3]) };
        let inner = (inner.0, ACROSS - inner.1);
        for (number, (child, along)) in std::iter::zip(&line.children, placed_along(&line)).enumerate() {
            let across = match child.sit.unwrap_or(line.align) {
                Align::Center => ((inner.0 + inner.1 - child.wide) / 2.0, child.wide),
                Align::End => (inner.1 - child.wide, child.wide),
                Align::Stretch => (inner.0, inner.1 - inner.0),
                _ => (inner.0, child.wide),
            };
            let expected = frame(&line, along, across, display.direction(), 800.0);
            let path = format!("bar.c{number}");
            let found = placement.frame(plan.screen().find(&path).unwrap()).unwrap();
            assert_near(found, expected, &format!("{path} in {}", plan.screen()))?;
        }
        let report = check(&plan, &[display], &PlainText).unwrap();
        let rule_findings: Vec<_> = report
            .findings
            .iter()
            // A share for which nothing is left is a warning.
            .filter(|f| !matches!((f.code, f.severity), (Code::Collapse, Severity::Warning)))
            .filter(|f| !matches!(f.code, Code::Outside | Code::Overlap | Code::Idle))
            .collect();
        prop_assert!(rule_findings.is_empty(), "{}\n{rule_findings:?}", plan.screen());
    }

    #[test]
    fn lines_wrap_as_a_hand_would_wrap_them(line in lines(true), mirrored in any::<bool>()) {
        let (plan, display) = (plan(&line), display(mirrored));
        let placement = plan.place(&display, &PlainText).unwrap();
        let (first, last) = if line.down { (1, 3) } else { (0, 2) };
        let inner = line.room - line.padding[first] - line.padding[last];
        let mut top = line.padding[if line.down { 0 } else { 1 }];
        let mut rest = line.children.as_slice();
        let mut number = 0;
        while !rest.is_empty() {
            let mut taken = rest[0].long;
            let more = rest[1..]
                .iter()
                .take_while(|c| {
                    taken += line.gap + c.long;
                    taken <= inner
                })
                .count();
            let (here, next) = rest.split_at(1 + more);
            let high = here.iter().map(|c| c.wide).fold(0.0, f64::max);
            let one = Line { children: here.to_vec(), wrap: None, ..line.clone() };
            for (child, along) in std::iter::zip(here, placed_along(&one)) {
                let down = match line.align {
                    Align::Center => (high - child.wide) / 2.0,
                    Align::End => high - child.wide,
                    _ => 0.0,
                };
                let expected = frame(&line, along, (top + down, child.wide), display.direction(), 800.0);
                let path = format!("bar.c{number}");
                let found = placement.frame(plan.screen().find(&path).unwrap()).unwrap();
                assert_near(found, expected, &format!("{path} in {}", plan.screen()))?;
                number += 1;
            }
            top += high + line.wrap.unwrap();
            rest = next;
        }
        let across = top - line.wrap.unwrap() + line.padding[if line.down { 2 } else { 3 }];
        let bar = placement.frame(plan.screen().find("bar").unwrap()).unwrap();
        let found = if line.down { bar.width } else { bar.height };
        prop_assert!((found - across).abs() < 1e-4, "{found} across, not {across}: {}", plan.screen());
    }
}

/// Its height, how many columns and rows it takes, and the width and place that it keeps.
type InCell = (f64, u32, u32, Option<(f64, Align)>);

/// Cells: each child with its height, how many columns and rows it takes, and whether it keeps a width.
#[derive(Clone, Debug)]
struct Cells {
    columns: Columns,
    count: Option<usize>,
    least: f64,
    rows: Option<f64>,
    gap: f64,
    row_gap: f64,
    padding: [f64; 4],
    children: Vec<InCell>,
    room: f64,
}

fn grids() -> impl Strategy<Value = Cells> {
    let own =
        prop::option::weighted(0.3, (1_u8..60, aligns().prop_filter("natural", |a| *a != Align::Stretch)));
    let child = (1_u8..50, 1_u32..4, 1_u32..4, own);
    let shape = (0_u8..3, 1_u32..5, 20_u8..150, prop::option::of(10_u8..80));
    let room = (0_u8..20, 0_u8..20, prop::array::uniform4(0_u8..12), 60_u16..700);
    (shape, room, prop::collection::vec(child, 1..9)).prop_map(
        |((kind, count, width, rows), (gap, row_gap, padding, room), children)| {
            let width = f64::from(width);
            let (columns, count) = match kind {
                0 => (Columns::equal(count), Some(count as usize)),
                1 => (Columns::at_least(width), None),
                _ => (Columns::fitting(width), None),
            };
            let least = if kind == 0 { 0.0 } else { width };
            let rows = rows.map(f64::from);
            let children = children.into_iter().map(|(height, across, down, own)| {
                // Rows that are as high as what stands in them: one each.
                let down = if rows.is_some() { down } else { 1 };
                (f64::from(height), across, down, own.map(|(w, align)| (f64::from(w), align)))
            });
            Cells {
                columns,
                count,
                least,
                rows,
                gap: f64::from(gap),
                row_gap: f64::from(row_gap),
                padding: padding.map(f64::from),
                children: children.collect(),
                room: f64::from(room),
            }
        },
    )
}

fn grid_plan(grid: &Cells) -> Plan {
    let mut s = ScreenBuilder::new("cells");
    let bar = s.view("bar");
    s.rules(
        bar,
        [bar.start().equals(SCREEN.start() + 10.0), bar.top().equals(20.0), bar.width().equals(grid.room)],
    );
    let mut how = Arrangement::grid(grid.columns.clone()).gap(grid.gap).row_gap(grid.row_gap);
    how = how.padding_of(grid.padding);
    how = grid.rows.map_or(how.clone(), |height| how.rows_of(height));
    s.set(bar, Setting::Arrange(Box::new(how)));
    for (number, (height, across, down, own)) in grid.children.iter().enumerate() {
        let view = s.view_in(bar, &format!("c{number}"));
        s.set(view, Setting::Cells(*across, *down));
        match own {
            Some((width, align)) => {
                s.set(view, Setting::Sit(*align));
                s.rules(view, [view.width().equals(*width), view.height().equals(*height)]);
            }
            None if grid.rows.is_none() => drop(s.rule(view, view.height().at_least(*height))),
            None => {}
        }
    }
    Plan::new(s.finish().unwrap()).unwrap()
}

/// Which cells each child takes: the first free ones behind those of the child before.
fn taken(columns: usize, children: &[InCell]) -> Vec<(usize, usize, usize, usize)> {
    let mut free = vec![true; columns * 100];
    let mut from = 0;
    let mut all = Vec::new();
    for (_, across, down, _) in children {
        let (across, down) = ((*across as usize).min(columns), *down as usize);
        let at = |cell: usize| (cell % columns, cell / columns);
        let spot =
            |cell: usize| (0..down).flat_map(move |r| (0..across).map(move |c| cell + r * columns + c));
        let first =
            (from..).find(|&cell| at(cell).0 + across <= columns && spot(cell).all(|c| free[c])).unwrap();
        spot(first).for_each(|c| free[c] = false);
        from = first;
        all.push((at(first).0, at(first).1, across, down));
    }
    all
}

proptest! {
    #![proptest_config(vantic_testkit::cases(200))]

    #[test]
    fn cells_are_where_arithmetic_puts_them(grid in grids(), mirrored in any::<bool>()) {
        let (plan, display) = (grid_plan(&grid), display(mirrored));
        let placement = plan.place(&display, &PlainText).unwrap();
        prop_assert!(placement.broken.is_empty() && placement.unsettled.is_empty(), "{}", plan.screen());
        let inner = grid.room - grid.padding[0] - grid.padding[2];
        let count = grid.count.unwrap_or_else(|| {
            // Counted up, not worked out.
            (1..)
                .take_while(|&n| n == 1 || n as f64 * (grid.least + grid.gap) - grid.gap <= inner)
                .last()
                .unwrap()
        });
        let fixed = grid.columns == Columns::fitting(grid.least);
        let width = if fixed { grid.least } else { (inner - (count as f64 - 1.0) * grid.gap) / count as f64 };
        prop_assume!(width > 0.0);
        let cells = taken(count, &grid.children);
        let rows = cells.iter().map(|c| c.1 + c.3).max().unwrap();
        let shape = &placement.grids[&plan.screen().find("bar").unwrap()];
        prop_assert_eq!((shape.columns as usize, shape.rows as usize), (count, rows));
        let high = |row: usize| {
            grid.rows.unwrap_or_else(|| {
                let here = std::iter::zip(&grid.children, &cells).filter(|(_, c)| c.1 == row);
                here.map(|(child, _)| child.0).fold(0.0, f64::max)
            })
        };
        let top = |row: usize| grid.padding[1] + (0..row).map(|r| high(r) + grid.row_gap).sum::<f64>();
        for (number, (child, c)) in std::iter::zip(&grid.children, &cells).enumerate() {
            let x = grid.padding[0] + c.0 as f64 * (width + grid.gap);
            let wide = c.2 as f64 * (width + grid.gap) - grid.gap;
            let (y, tall) = (top(c.1), top(c.1 + c.3) - grid.row_gap - top(c.1));
            let lies = |align: Align, room: f64, own: f64| match align {
                Align::Center => (room - own) / 2.0,
                Align::End => room - own,
                _ => 0.0,
            };
            let (along, across) = match child.3 {
                Some((own, align)) => {
                    ((x + lies(align, wide, own), own), (y + lies(align, tall, child.0), child.0))
                }
                None => ((x, wide), (y, tall)),
            };
            let left = if mirrored { 800.0 - 10.0 - along.0 - along.1 } else { 10.0 + along.0 };
            let expected = Frame { left, top: 20.0 + across.0, width: along.1, height: across.1 };
            let path = format!("bar.c{number}");
            let found = placement.frame(plan.screen().find(&path).unwrap()).unwrap();
            assert_near(found, expected, &format!("{path} in {}", plan.screen()))?;
        }
    }
}

/// A screen on which every kind of choice hangs on the width.
fn chosen_by_width(line: &Line, grid: &Cells) -> Plan {
    let mut s = ScreenBuilder::new("chosen");
    let mut below = SCREEN.top();
    for (name, how) in [
        ("tags", Arrangement::row().gap(line.gap).wrap(3.0)),
        ("cells", Arrangement::grid(grid.columns.clone()).gap(grid.gap)),
        ("shares", Arrangement::row().gap(line.gap)),
    ] {
        let bar = s.view(name);
        s.rules(bar, [bar.left().equals(0.0), bar.right().equals(SCREEN.right()), bar.top().equals(below)]);
        s.set(bar, Setting::Arrange(Box::new(how)));
        for (number, child) in line.children.iter().enumerate() {
            let view = s.view_in(bar, &format!("c{number}"));
            s.rule(view, view.height().at_least(child.wide));
            match (name, child.share) {
                ("tags", _) => drop(s.rule(view, view.width().equals(child.long))),
                ("shares", share) => {
                    let (weight, least, most) = share.unwrap_or((1.0, Some(20.0), None));
                    let share = Share::of(weight).at_least(least.unwrap_or(5.0));
                    let share = most.map_or(share.clone(), |most| share.at_most(most));
                    s.set(view, Setting::Share(Box::new(share)));
                }
                _ => {}
            }
        }
        below = bar.bottom() + 4.0;
    }
    Plan::new(s.finish().unwrap()).unwrap()
}

proptest! {
    #![proptest_config(vantic_testkit::cases(60))]

    /// What was placed before leaves no trace: the same display gives the same bits, from a plan that has
    /// seen others and from a fresh one.
    #[test]
    fn growing_and_shrinking_back_is_the_identity(
        line in lines(false),
        grid in grids(),
        widths in prop::collection::vec(120_u16..900, 2..7),
    ) {
        let plan = chosen_by_width(&line, &grid);
        let at = |plan: &Plan, width: u16| {
            plan.place(&Display::new(f64::from(width), 900.0).unwrap(), &PlainText).unwrap()
        };
        let there: Vec<_> = widths.iter().map(|&w| at(&plan, w)).collect();
        let back: Vec<_> = widths.iter().rev().map(|&w| at(&plan, w)).collect();
        let fresh = at(&chosen_by_width(&line, &grid), widths[0]);
        prop_assert!(there.iter().all(|p| p.unsettled.is_empty()), "{}", plan.screen());
        prop_assert!(there.iter().eq(back.iter().rev()), "{}", plan.screen());
        prop_assert_eq!(&there[0], &fresh);
    }
}

proptest! {
    #![proptest_config(vantic_testkit::cases(80))]

    /// What arranges is kept when a screen is printed and read, and on the way through JSON.
    #[test]
    fn arranged_screens_are_printed_and_read_as_they_are(
        line in lines(false),
        wrapped in lines(true),
        grid in grids(),
        width in 120_u16..900,
    ) {
        let plans = [plan(&line), plan(&wrapped), grid_plan(&grid), chosen_by_width(&line, &grid)];
        let at = Display::new(f64::from(width), 900.0).unwrap();
        for plan in plans {
            let printed = plan.screen().to_string();
            let again = read(&printed).unwrap_or_else(|e| panic!("{e}\n{printed}")).screen;
            prop_assert_eq!(&again, plan.screen(), "{}", printed);
            let form = Form::from_json(&Form::of(&printed).unwrap().to_json()).unwrap();
            let back = read(&form.to_text().unwrap()).unwrap().screen;
            prop_assert_eq!(&back, plan.screen(), "{}", printed);
            let frames = |plan: &Plan| plan.place(&at, &PlainText).unwrap().frames;
            prop_assert_eq!(frames(&Plan::new(back).unwrap()), frames(&plan));
        }
    }

    /// A child that is put between others moves those behind it by its length and a gap, and no other.
    #[test]
    fn an_inserted_child_needs_no_other_change(line in lines(false), at in 0_usize..8, long in 1_u8..60) {
        let mut before = Line { spread: Spread::Start, ..line };
        before.children.iter_mut().for_each(|c| (c.share, c.space) = (None, None));
        let at = at.min(before.children.len());
        let mut after = before.clone();
        let long = f64::from(long);
        after
            .children
            .insert(at, Child { long, wide: 5.0, share: None, space: None, sit: Some(Align::Start) });
        let (short, with) = (plan(&before), plan(&after));
        let place = |plan: &Plan| plan.place(&display(false), &PlainText).unwrap();
        let (short_at, with_at) = (place(&short), place(&with));
        for (number, _) in before.children.iter().enumerate() {
            let new_number = if number < at { number } else { number + 1 };
            let was = short_at.frame(short.screen().find(&format!("bar.c{number}")).unwrap()).unwrap();
            let is = with_at.frame(with.screen().find(&format!("bar.c{new_number}")).unwrap()).unwrap();
            let by = if number < at { 0.0 } else { long + before.gap };
            let (x, y) = if before.down { (0.0, by) } else { (by, 0.0) };
            assert_near(
                is,
                Frame { left: was.left + x, top: was.top + y, ..was },
                with.screen().to_string().as_str(),
            )?;
        }
    }
}

#[test]
fn lines_and_shares_that_do_not_converge_are_reported() {
    // In the first line it is too wide for it, and in the second narrow enough for the first.
    let text = "screen s {
        view tags { pin left, top to screen; width = 200; row wrap
            view a { size = (100, 20) }
            view b { width = 120 - 2 * top; height = 8 }
        }
        view shares { pin left to screen; top = 200; width = 200; height = 9; row align stretch
            view c { share 1, at least 60 }
            view d { share 1, at most 200 - d.width }
        }
    }";
    let plan = Plan::new(read(text).unwrap().screen).unwrap();
    let report = check(&plan, &[display(false)], &PlainText).unwrap();
    let unsettled = report.findings.iter().filter(|f| f.code.name() == "unsettled");
    let told: Vec<String> = unsettled.map(|f| plan.screen().path(f.views[0])).collect();
    assert_eq!(told, ["tags"], "{:?}", report.findings);
    let frames = &report.placements[0].frames;
    assert!(frames.iter().flatten().all(|f| f.width >= 0.0 && f.height >= 0.0 && f.left.is_finite()));
}

#[test]
fn what_bands_make_of_an_arrangement_is_looked_at_before_any_display_is() {
    let refused = |inside: &str| {
        let text = format!(
            "screen s {{ band wide: screen.width >= 500; guide lanes {{ columns 8 }}; view other {{ width = 9 }}; {inside} }}"
        );
        Plan::new(read(&text).unwrap_or_else(|e| panic!("{e}")).screen).unwrap_err().to_string()
    };
    let gap = refused("view bar { row gap other.width }; when wide { hide other }");
    assert!(gap.contains("`bar.row` reads `other`, which is hidden in `wide`"), "{gap}");
    let share =
        refused("view bar { row; view a { share 1, at least other.width } }; when wide { hide other }");
    assert!(share.contains("`bar.a.share` reads `other`"), "{share}");
    let lane = refused("view a { pin start to lanes[6] }; when wide { in lanes { columns 4 } }");
    assert!(lane.contains("`a#1` reads number 6 of `lanes`, which has 4 in `wide`"), "{lane}");
    let hidden = refused("view a { pin start to lanes[6] }; when wide { hide lanes }");
    assert!(hidden.contains("`a#1` reads `lanes`, which is hidden in `wide`"), "{hidden}");
    let space = refused(
        "view bar { row; view a { size = 3 }; space other.width; view b { size = 3 } }; when wide { hide other }",
    );
    assert!(space.contains("`bar.space` reads `other`"), "{space}");
}

proptest! {
    #![proptest_config(vantic_testkit::cases(60))]

    /// Lines whose room is as wide as a text is tall, scrolled or not, break where sums by hand break them: on a display by itself, and
    /// kept solved from one to the next.
    #[test]
    fn lines_break_by_how_tall_a_text_is(
        words in 1_usize..30,
        share in 20_u32..90,
        times in 1_u32..9,
        tiles in prop::collection::vec(8_u32..60, 1..9),
        widths in prop::collection::vec(150_u32..900, 1..6),
    ) {
        let all: String = tiles.iter().enumerate().map(|(at, wide)| format!("view v{at} {{ size = ({wide}, 10) }}\n")).collect();
        let text = format!(
            "screen s {{ text label \"{}\" {{ font 16; left = 0; top = 0; width = {share}% of screen.width }}\n\
             view list {{ left = 0; below label by 4; width = {times} * label.height + 60; row gap 4, wrap by 2\n{all} }} }}",
            vec!["apples"; words].join(" ")
        );
        let plan = Plan::new(vantic::read(&text).unwrap_or_else(|e| panic!("{e}")).screen).unwrap();
        let mut live = plan.live();
        let label = |width: f64| {
            let words = vec!["apples"; words].join(" ");
            let on_one_line = TextRequest::new(&words, 16.0);
            let size = PlainText.measure(&on_one_line);
            match size.width > width {
                true => PlainText.measure(&TextRequest { width: Some(width), ..on_one_line }),
                false => size,
            }
        };
        for width in widths.into_iter().map(f64::from) {
            let height = label(f64::from(share) / 100.0 * width).height;
            let (room, mut x, mut y) = (f64::from(times) * height + 60.0, 0.0, height + 4.0);
            let mut expected = Vec::new();
            for &wide in &tiles {
                if x > 0.0 && x + 4.0 + f64::from(wide) > room + 1e-9 {
                    (x, y) = (0.0, y + 12.0);
                } else if x > 0.0 {
                    x += 4.0;
                }
                expected.push((x, y));
                x += f64::from(wide);
            }
            let on = Display::new(width, 700.0).unwrap();
            let (frames, placed) = (live.frames(&on, &PlainText).unwrap(), plan.place(&on, &PlainText).unwrap());
            for (at, (x, y)) in expected.iter().enumerate() {
                let view = plan.screen().find(&format!("list.v{at}")).unwrap();
                for frame in [frames.frame(view).unwrap(), placed.frame(view).unwrap()] {
                    prop_assert!((frame.left - x).abs() < 1e-6 && (frame.top - y).abs() < 1e-6, "{at}: {frame:?}, {x} {y}\n{text}");
                }
            }
        }
    }
}
