//! Lists of very many rows: what is in sight, against sums done by hand over all rows.

use proptest::prelude::*;
use vantic::display::Display;
use vantic::model::ViewId;
use vantic::plan::{ListError, LongList, Plan, RowAt};
use vantic::text::{Measure, PlainText, TextRequest, TextSize};

/// How far beyond what is seen rows are placed.
const MARGIN: f64 = 150.0;

fn plan() -> (Plan, ViewId, ViewId) {
    let text = "screen crate {
        param stack = 1 in 0..40
        state lid: shut, open
        view row {
            pin left, right, top to screen
            tall: height = label.height + 16 + stack
            text label \"\" { font 16; pin left 16, top 8 to parent; right = parent.right - 16 }
        }
        when lid.open { in row { tall: height = label.height + 46 + stack } }
    }";
    let plan = Plan::new(vantic::read(text).unwrap_or_else(|error| panic!("{error}")).screen).unwrap();
    let find = |path| plan.screen().find(path).unwrap();
    let (row, label) = (find("row"), find("row.label"));
    (plan, row, label)
}

/// What one row shows.
#[derive(Clone, Debug)]
struct Crate {
    id: usize,
    words: usize,
    stack: f64,
    is_open: bool,
}

impl Crate {
    fn new(id: usize) -> Self {
        Self { id, words: id * 7 % 30, stack: (id % 11) as f64, is_open: id.is_multiple_of(5) }
    }

    fn words(&self) -> String {
        vec!["plums"; self.words].join(" ")
    }

    /// How tall its row is, by hand.
    fn height(&self, display: &Display) -> f64 {
        let words = self.words();
        let on_one_line = TextRequest::new(&words, 16.0 * display.text_scale());
        let size: TextSize = PlainText.measure(&on_one_line);
        let width = display.width() - 32.0;
        let size = match size.width > width {
            true => PlainText.measure(&TextRequest { width: Some(width), ..on_one_line }),
            false => size,
        };
        size.height + if self.is_open { 46.0 } else { 16.0 } + self.stack
    }
}

#[derive(Clone, Debug)]
enum Step {
    Scroll(f64),
    To(prop::sample::Index, RowAt),
    Insert(prop::sample::Index, usize),
    Remove(prop::sample::Index, usize),
    Move(prop::sample::Index, prop::sample::Index),
    Change(prop::sample::Index, usize),
    Resize(f64, f64),
    Scale(f64),
}

fn step() -> impl Strategy<Value = Step> {
    let at = prop::sample::select(vec![RowAt::Top, RowAt::Middle, RowAt::Bottom, RowAt::InSight]);
    let row = || any::<prop::sample::Index>();
    prop_oneof![
        4 => (-400.0..400.0).prop_map(Step::Scroll),
        1 => (-5e6..5e6).prop_map(Step::Scroll),
        2 => (row(), at).prop_map(|(row, at)| Step::To(row, at)),
        2 => (row(), 1_usize..5).prop_map(|(row, count)| Step::Insert(row, count)),
        1 => (row(), 500_usize..3000).prop_map(|(row, count)| Step::Insert(row, count)),
        2 => (row(), 1_usize..5).prop_map(|(row, count)| Step::Remove(row, count)),
        1 => (row(), 500_usize..3000).prop_map(|(row, count)| Step::Remove(row, count)),
        1 => (row(), row()).prop_map(|(row, before)| Step::Move(row, before)),
        2 => (row(), 0_usize..40).prop_map(|(row, words)| Step::Change(row, words)),
        1 => (120.0..900.0, 90.0..900.0).prop_map(|(width, height)| Step::Resize(width, height)),
        1 => (0.8..2.0).prop_map(Step::Scale),
    ]
}

/// What is seen of the list, by hand: which rows are where.
struct Seen {
    rows: Vec<(usize, f64, f64)>,
    fills: usize,
}

fn see(list: &mut LongList, crates: &[Crate], display: &Display, label: ViewId) -> Seen {
    let mut fills = 0;
    let rows = list.place(display, &PlainText, |row, content| {
        fills += 1;
        content.words(label, &crates[row].words()).parameter("stack", crates[row].stack);
        content.state("lid", if crates[row].is_open { "open" } else { "shut" });
    });
    let rows = rows.unwrap();
    for row in rows {
        let by_hand = crates[row.index].height(display);
        assert!((row.height - by_hand).abs() < 1e-6, "row {}: {} by hand {by_hand}", row.index, row.height);
        let width = row.frames.frame(label).map(|frame| frame.width);
        assert!(width.is_some_and(|width| (width - display.width() + 32.0).abs() < 1e-6));
    }
    let seen: Vec<_> = rows.iter().map(|row| (row.index, row.top, row.top + row.height)).collect();
    for pair in seen.windows(2) {
        assert_eq!((pair[0].0 + 1, true), (pair[1].0, (pair[0].2 - pair[1].1).abs() < 1e-6), "{seen:?}");
    }
    if let (Some(first), Some(last)) = (seen.first(), seen.last()) {
        // All that is in sight or in the margin is there, and nothing else.
        assert!(if first.0 == 0 { first.1 < 1e-6 } else { first.1 <= -MARGIN }, "{seen:?}");
        assert!(first.2 >= -MARGIN && last.1 <= display.height() + MARGIN, "{seen:?}");
        let is_short = first.0 == 0 && first.1.abs() < 1e-6;
        let reaches = match last.0 + 1 == crates.len() {
            true => is_short || last.2 > display.height() - 1e-6,
            false => last.2 >= display.height() + MARGIN,
        };
        assert!(reaches, "{seen:?}");
    }
    Seen { rows: seen, fills }
}

/// The list after some steps, each checked against sums over all rows.
fn walk(count: usize, steps: Vec<Step>) {
    let (plan, row, label) = plan();
    let mut crates: Vec<Crate> = (0..count).map(Crate::new).collect();
    let mut list = LongList::new(plan, row, count, 50.0).unwrap().with_margin(MARGIN).unwrap();
    let mut display = Display::new(320.0, 480.0).unwrap();
    let mut before = see(&mut list, &crates, &display, label);
    let mut next = count;
    for step in steps {
        let first = before.rows.iter().find(|row| row.2 > 0.0).map(|row| (crates[row.0].id, row.1));
        let (mut moved, mut goal) = (Some(0.0), None);
        match step.clone() {
            Step::Scroll(by) => {
                let wanted = (list.offset() + by).max(0.0).min(list.extent());
                list.scroll_by(by).unwrap();
                let is_far = by.abs() > display.height() + MARGIN;
                moved = Some(-by).filter(|_| !is_far);
                let off = (list.offset() - wanted).abs();
                assert!(!is_far || crates.is_empty() || off < 1e-9 * list.extent().max(1.0), "{off}");
            }
            Step::To(row, at) if !crates.is_empty() => {
                let row = row.index(crates.len());
                list.scroll_to(row, at).unwrap();
                (moved, goal) = (None, Some((row, at)));
            }
            Step::Insert(at, many) => {
                let at = at.index(crates.len() + 1);
                list.insert(at, many).unwrap();
                crates.splice(at..at, (next..next + many).map(Crate::new));
                next += many;
            }
            Step::Remove(at, many) => {
                let at = at.index(crates.len() + 1);
                let end = crates.len().min(at + many);
                list.remove(at..end).unwrap();
                crates.drain(at..end);
            }
            Step::Move(row, to) if !crates.is_empty() => {
                let (row, to) = (row.index(crates.len()), to.index(crates.len() + 1));
                list.move_before(row, to).unwrap();
                let one = crates.remove(row);
                moved = moved.filter(|_| first.is_none_or(|(id, _)| id != one.id));
                crates.insert(to - usize::from(to > row), one);
            }
            Step::Change(row, words) if !crates.is_empty() => {
                let row = row.index(crates.len());
                crates[row].words = words;
                list.changed(row..row + 1).unwrap();
            }
            Step::Resize(width, height) => display = display.with_size(width, height).unwrap(),
            Step::Scale(scale) => display = display.with_text_scale(scale).unwrap(),
            _ => {}
        }
        assert_eq!(list.len(), crates.len());
        let now = see(&mut list, &crates, &display, label);
        assert!(now.fills < 90, "{} rows were measured after {step:?}", now.fills);
        let (top, bottom) = (now.rows.first(), now.rows.last());
        let at_start = top.is_none_or(|row| row.0 == 0 && row.1.abs() < 1e-6);
        let at_end = bottom.is_none_or(|row| row.0 + 1 == crates.len() && row.2 < display.height() + 1e-6);
        // What was first in sight is where it was, or has moved by as much as was scrolled.
        if let (Some((id, top)), Some(by)) = (first, moved)
            && let Some(row) = now.rows.iter().find(|row| crates[row.0].id == id)
        {
            assert!(at_start || at_end || (row.1 - top - by).abs() < 1e-6, "{step:?}: {top} to {}", row.1);
        }
        if let Some((row, at)) = goal {
            let (_, top, bottom) = now.rows.iter().find(|seen| seen.0 == row).unwrap();
            let tall = display.height();
            let is_seen = *top > -1e-6 && *bottom < tall + 1e-6;
            let is_there = match at {
                RowAt::Top => top.abs() < 1e-6,
                RowAt::Middle => ((top + bottom) / 2.0 - tall / 2.0).abs() < 1e-6,
                RowAt::Bottom => (bottom - tall).abs() < 1e-6,
                _ => is_seen || (bottom - top > tall && top.abs() < 1e-6),
            };
            // At the ends it is in sight as near to that as can be.
            assert!(is_there || (at_start || at_end) && *bottom > 0.0 && *top < tall, "{step:?}: {top}");
        }
        // Where all rows were in sight, nothing is estimated.
        if now.rows.len() == crates.len() {
            let total: f64 = crates.iter().map(|one| one.height(&display)).sum();
            assert!((list.extent() - total).abs() < 1e-6);
        }
        before = now;
    }
}

proptest! {
    #![proptest_config(vantic_testkit::cases(48))]

    #[test]
    fn what_is_in_sight_is_where_sums_over_all_rows_put_it(
        count in prop_oneof![0_usize..5, 5_usize..60, 3000_usize..100_000],
        steps in prop::collection::vec(step(), 1..25),
    ) {
        walk(count, steps);
    }
}

#[test]
fn what_a_list_refuses_leaves_it_as_it_was() {
    let (plan, row, label) = plan();
    let (_, foreign, _) = self::plan();
    assert_eq!(LongList::new(plan.clone(), foreign, 1, 20.0).unwrap_err(), ListError::OtherScreen);
    for estimate in [0.0, -1.0, f64::NAN, f64::INFINITY] {
        let refused = LongList::new(plan.clone(), row, 1, estimate);
        assert!(matches!(refused.unwrap_err(), ListError::Number { .. }), "{estimate}");
    }
    assert_eq!(LongList::new(plan.clone(), row, 2_000_000, 20.0).unwrap_err(), ListError::TooManyRows);
    let mut list = LongList::new(plan, row, 500, 20.0).unwrap();
    let display = Display::new(300.0, 400.0).unwrap();
    let seen = |list: &mut LongList| {
        let rows = list
            .place(&display, &PlainText, |_, content| {
                content.words(label, "pears");
            })
            .unwrap();
        rows.iter().map(|row| (row.index, row.top, row.height)).collect::<Vec<_>>()
    };
    list.scroll_to(250, RowAt::Middle).unwrap();
    let before = seen(&mut list);
    let none = |row| Err(ListError::NoRow { row, count: 500 });
    assert_eq!(list.scroll_to(500, RowAt::Top), none(500));
    assert_eq!(list.insert(501, 1), none(501));
    assert_eq!(list.remove(400..501), none(501));
    assert_eq!(list.move_before(500, 0), none(500));
    assert_eq!(list.changed(0..501), none(501));
    assert_eq!(list.insert(0, 1_000_000), Err(ListError::TooManyRows));
    assert!(list.scroll_by(f64::NAN).is_err() && list.scroll_by(f64::INFINITY).is_err());
    assert_eq!(seen(&mut list), before);
    // Content that is refused, and an engine that lies, name the row.
    list.changed(240..260).unwrap();
    let foreign = list.place(&display, &PlainText, |_, content| {
        content.words(row, "no text");
    });
    let refused = foreign.unwrap_err().to_string();
    assert!(refused.contains("row 2") && refused.contains("`row`"), "{refused}");
    let beyond = list.place(&display, &PlainText, |_, content| {
        content.parameter("stack", 41);
    });
    assert!(beyond.unwrap_err().to_string().contains("it has to be within 0 and 40"));
    struct Lying;
    impl Measure for Lying {
        fn measure(&self, _: &TextRequest<'_>) -> TextSize {
            TextSize { height: f64::NAN, ..TextSize::default() }
        }
    }
    assert!(matches!(list.place(&display, &Lying, |_, _| {}), Err(ListError::Place { .. })));
    assert_eq!(seen(&mut list), before);
}

/// An engine that fails at one of its calls, and answers as it likes at others, leaves nothing behind.
#[test]
fn an_engine_that_panics_or_answers_at_random_leaves_what_it_found() {
    struct Failing {
        left: std::cell::Cell<u32>,
        random: bool,
    }
    impl Measure for Failing {
        fn measure(&self, text: &TextRequest<'_>) -> TextSize {
            let left = self.left.get();
            self.left.set(left.wrapping_sub(1));
            assert!(left > 0, "the engine gives up");
            let by = if self.random { f64::from(left * 7919 % 13) } else { 0.0 };
            let size = PlainText.measure(text);
            TextSize { height: size.height + 11.0 * by, width: size.width + by, ..size }
        }
    }
    let (plan, row, label) = plan();
    let display = Display::new(300.0, 400.0).unwrap();
    let mut list = LongList::new(plan.clone(), row, 5000, 20.0).unwrap();
    let mut live = plan.live();
    let fill = |row: usize, content: &mut vantic::plan::RowContent<'_>| {
        content.words(label, &"pears ".repeat(1 + row % 20));
    };
    list.scroll_to(2500, RowAt::Middle).unwrap();
    let rows = |list: &mut LongList| {
        let rows = list.place(&display, &PlainText, fill).unwrap();
        rows.iter().map(|row| (row.index, row.top, row.height)).collect::<Vec<_>>()
    };
    let (seen, frames) = (rows(&mut list), live.frames(&display, &PlainText).unwrap());
    for calls in 0..40 {
        for random in [false, true] {
            let engine = Failing { left: std::cell::Cell::new(calls), random };
            let placed = std::panic::catch_unwind(std::panic::AssertUnwindSafe(|| {
                live.frames(&display, &engine).unwrap();
                list.place(&display, &engine, fill).map(|rows| rows.len()).unwrap()
            }));
            assert!(placed.is_err() || placed.is_ok_and(|rows| rows < 60), "{calls} calls");
            // What was seen stays, as far as heights that were made up allow it.
            assert_eq!(live.frames(&display, &PlainText).unwrap().all(), frames.all());
            list.scroll_to(2500, RowAt::Middle).unwrap();
            assert_eq!(rows(&mut list), seen, "after {calls} calls");
        }
    }
}
