//! What an application does all day: a window dragged, a parameter set, words changed, a row added.

use criterion::Criterion;
use std::fmt::Write as _;
use std::hint::black_box;
use std::time::Instant;
use vantic::display::Display;
use vantic::geometry::{Frame, within};
use vantic::model::{Coordinates as _, Screen, ScreenBuilder};
use vantic::plan::{Live, LongList, Plan, RowAt};
use vantic::text::{Measure, PlainText, TextRequest, TextSize};

const TEXTS: usize = 20;

const TILES: usize = 22;

/// Widths that a drag goes through.
const WIDTHS: std::ops::Range<u32> = 320..1520;

/// How many rows a list has.
const ROWS: usize = 1000;

fn words(track: usize) -> String {
    format!("Track number {track} of the long evening by the river")
}

/// A player of 50 views with 20 texts; with `max`, `clamp`, `enclose`, `spread` and `contain`, or with plain sums instead.
fn player(has_choices: bool) -> Screen {
    let mut text =
        String::from("screen player {\n view page { pin left 8, top 8, right 8 to safe; height = 400 }\n");
    for track in 0..TEXTS {
        let top =
            if track == 0 { "page.bottom + 8".to_owned() } else { format!("t{}.bottom + 6", track - 1) };
        let _ = writeln!(
            text,
            "text t{track} \"{}\" {{ font 15; pin left 16, right 16 to safe; top = {top} }}",
            words(track)
        );
    }
    for tile in 0..TILES {
        let left = if tile % 6 == 0 { "16".to_owned() } else { format!("v{}.right + 4", tile - 1) };
        let above = if tile < 6 { format!("t{}", TEXTS - 1) } else { format!("v{}", tile - 6) };
        let _ = writeln!(
            text,
            "view v{tile} {{ left = {left}; top = {above}.bottom + 4; size = (10% of screen.width, 20) }}"
        );
    }
    let last = TILES - 1;
    let _ = writeln!(
        text,
        "view d {{ left = 16; top = c.bottom; size = 30 }}\n view e {{ top = d.top; size = 30 }}
         view f {{ right = safe.right - 16; top = d.top; size = 30 }}"
    );
    let _ = match has_choices {
        true => writeln!(
            text,
            "view a {{ left = 16; top = v{last}.bottom; width = max(120, 40% of screen.width); height = 30 }}
             view b {{ left = a.right + 8; top = a.top; width = clamp(30% of screen.width, 80, 260); height = 30 }}
             view c {{ enclose a, b by 8 }}
             spread across d, e, f
             view g {{ contain 16 : 9 in page }}"
        ),
        false => writeln!(
            text,
            "view a {{ left = 16; top = v{last}.bottom; width = 40% of screen.width; height = 30 }}
             view b {{ left = a.right + 8; top = a.top; width = 30% of screen.width; height = 30 }}
             view c {{ left = a.left - 8; top = a.top - 8; right = b.right + 8; bottom = a.bottom + 8 }}
             e.center_x = screen.center_x
             view g {{ width = page.width; center = page.center; ratio width : height = 16 : 9 }}"
        ),
    };
    text.push_str("}\n");
    vantic::read(&text).unwrap_or_else(|error| panic!("{error}")).screen
}

/// The same frames as hand-written Rust places them, in declared order, with the same text calls.
fn by_hand(width: f64, words: &[String], measure: &dyn Measure, frames: &mut Vec<Frame>) {
    let frame = |left: f64, top: f64, width: f64, height: f64| Frame { left, top, width, height };
    frames.clear();
    let page = frame(8.0, 8.0, width - 16.0, 400.0);
    frames.push(page);
    let (mut bottom, across) = (page.bottom() + 2.0, width - 32.0);
    for words in words {
        let request = TextRequest::new(words, 15.0);
        let mut size: TextSize = measure.measure(&request);
        if size.width > across {
            size = measure.measure(&TextRequest { width: Some(across), ..request });
        }
        frames.push(frame(16.0, bottom + 6.0, across, size.height));
        bottom += 6.0 + size.height;
    }
    let first = frames.len();
    for tile in 0..TILES {
        let left = if tile % 6 == 0 { 16.0 } else { frames[first + tile - 1].right() + 4.0 };
        let above = if tile < 6 { bottom } else { frames[first + tile - 6].bottom() };
        frames.push(frame(left, above + 4.0, 0.1 * width, 20.0));
    }
    let top = frames[first + TILES - 1].bottom();
    let a = frame(16.0, top, f64::max(120.0, 0.4 * width), 30.0);
    let b = frame(a.right() + 8.0, top, within(0.3 * width, 80.0, 260.0), 30.0);
    let c_left = f64::min(a.left, b.left) - 8.0;
    let c = frame(c_left, top - 8.0, f64::max(a.right(), b.right()) + 8.0 - c_left, 46.0);
    let d = frame(16.0, c.bottom(), 30.0, 30.0);
    let f = frame(width - 46.0, d.top, 30.0, 30.0);
    let e = frame(f64::midpoint(d.right(), f.left) - 15.0, d.top, 30.0, 30.0);
    let scale = f64::min(page.width / 16.0, page.height / 9.0);
    let (w, h) = (16.0 * scale, 9.0 * scale);
    let g = frame(page.left + (page.width - w) / 2.0, page.top + (page.height - h) / 2.0, w, h);
    frames.extend([d, e, f, a, b, c, g]);
}

fn display(width: f64) -> Display {
    Display::new(width, 800.0).expect("in range")
}

/// A list of rows with a text each, and a parameter that indents them.
fn rows() -> Screen {
    let text = format!(
        "screen rows {{ param indent = 16 in 0..200
            view list {{ pin left, right, top to safe; column gap 4, align stretch
                repeat row {ROWS} {{ height = words.height + 16; text words \"A row of the list\" {{ font 15; left = parent.left + indent; top = parent.top + 8 }} }}
            }} }}"
    );
    vantic::read(&text).unwrap_or_else(|error| panic!("{error}")).screen
}

/// How many rows a long list has.
const MANY: usize = 100_000;

/// The row of a long list: words with a distance around them.
fn row() -> Plan {
    let text = "screen row { view row {
        pin left, right, top to screen; height = words.height + 16
        text words \"\" { font 15; pin left 16, top 8, right 16 to parent } } }";
    Plan::new(vantic::read(text).unwrap_or_else(|error| panic!("{error}")).screen).expect("nothing is hidden")
}

/// Where the rows in sight are, as hand-written Rust works it out, with the same text calls.
fn rows_by_hand(words: &[String], first: usize, mut top: f64, on: &Display, rows: &mut Vec<[Frame; 2]>) {
    rows.clear();
    let across = on.width() - 32.0;
    for words in &words[first..] {
        if top >= on.height() {
            break;
        }
        let request = TextRequest::new(words, 15.0);
        let mut size: TextSize = PlainText.measure(&request);
        if size.width > across {
            size = PlainText.measure(&TextRequest { width: Some(across), ..request });
        }
        let row = Frame { left: 0.0, top, width: on.width(), height: size.height + 16.0 };
        rows.push([row, Frame { left: 16.0, top: top + 8.0, width: across, height: size.height }]);
        top += row.height;
    }
}

/// A long list is scrolled, and a row comes and goes.
fn long_list(group: &mut criterion::BenchmarkGroup<'_, criterion::measurement::WallTime>) {
    let (on, plan) = (display(390.0), row());
    let (row, text) =
        (plan.screen().find("row").expect("a row"), plan.screen().find("row.words").expect("words"));
    let words: Vec<String> = (0..MANY).map(words).collect();
    let list = |count| {
        let mut list = LongList::new(plan.clone(), row, count, 40).expect("it is one");
        list.scroll_to(count / 2, RowAt::Top).expect("a row");
        list
    };
    let place = |list: &mut LongList| {
        let rows = list.place(&on, &PlainText, |row, content| {
            content.words(text, &words[row]);
        });
        black_box(rows.expect("a plain engine").len());
    };
    let mut rows = Vec::new();
    group.bench_function("scroll/by_hand", |b| {
        b.iter(|| rows_by_hand(&words, black_box(MANY / 2), -7.0, &on, &mut rows));
    });
    let mut long = list(MANY);
    let mut step = 0_u32;
    group.bench_function("scroll/list", |b| {
        b.iter(|| {
            // Down for as long as up again, across some hundreds of rows.
            step = (step + 1) % 4000;
            long.scroll_by(if step < 2000 { 3 } else { -3 }).expect("finite");
            place(&mut long);
        });
    });
    let mut short = list(ROWS);
    group.bench_function("rows/list", |b| {
        b.iter(|| {
            short.insert(ROWS / 2, 1).expect("within it");
            place(&mut short);
            short.remove(ROWS / 2..ROWS / 2 + 1).expect("within it");
            place(&mut short);
        });
    });
}

pub(crate) fn measure(c: &mut Criterion) {
    let texts: Vec<String> = (0..TEXTS).map(words).collect();
    let mut frames = Vec::new();
    let plan = Plan::new(player(true)).expect("nothing is hidden");
    for width in WIDTHS.step_by(7).map(f64::from) {
        let placed = plan.place(&display(width), &PlainText).expect("a plain engine");
        by_hand(width, &texts, &PlainText, &mut frames);
        for (a, b) in std::iter::zip(placed.frames.iter().flatten(), &frames) {
            let by = [a.left - b.left, a.top - b.top, a.width - b.width, a.height - b.height];
            assert!(by.iter().all(|by| by.abs() < 1e-6), "at {width}: {a:?} by hand {b:?}");
        }
    }
    let mut step = 0_u32;
    let mut next = move || {
        step = (step + 1) % 50;
        900.0 + 0.5 * f64::from(step)
    };
    let mut group = c.benchmark_group("application");
    group.bench_function("by_hand", |b| {
        b.iter(|| by_hand(black_box(next()), &texts, &PlainText, &mut frames));
    });
    for (name, has_choices) in [("choices", true), ("plain", false)] {
        let mut live = Plan::new(player(has_choices)).expect("nothing is hidden").live();
        group.bench_function(name, |b| {
            b.iter(|| live.frames(black_box(&display(next())), &PlainText).expect("a plain engine"));
        });
    }
    long_list(&mut group);
    let screen = rows();
    group.sample_size(10);
    let on = display(600.0);
    group.bench_function("rows/new", |b| {
        b.iter(|| Plan::new(screen.clone()).expect("nothing is hidden").place(&on, &PlainText));
    });
    let mut live = Plan::new(screen.clone()).expect("nothing is hidden").live();
    group.bench_function("rows/parameter", |b| {
        b.iter(|| {
            let on = on.clone().with_parameter("indent", next() - 880.0).expect("finite");
            live.frames(&on, &PlainText).expect("in its range")
        });
    });
    let edited = |live: &mut Live, change: &dyn Fn(&mut ScreenBuilder)| {
        let ((), before) = live.edit(change).expect("it is one");
        live.frames(&on, &PlainText).expect("a plain engine");
        live.go_over_to(before).expect("the same screen");
    };
    let list = screen.find("list").expect("the list");
    let title = screen.find("list.row[500].words").expect("a row");
    group.bench_function("rows/words", |b| {
        b.iter(|| edited(&mut live, &|build| drop(build.set_words(title, "Other words".to_owned()))));
    });
    group.bench_function("rows/row", |b| {
        b.iter(|| {
            edited(&mut live, &|build| {
                let row = build.view_in(list, "another");
                build.add(row.height().equals(40));
            });
        });
    });
    group.finish();
}

/// The slowest hundredth of a drag over all choices, to its median step, on the second pass.
fn tail() -> f64 {
    let mut live = Plan::new(player(true)).expect("nothing is hidden").live();
    let mut took = Vec::new();
    for _ in 0..2 {
        took.clear();
        for width in WIDTHS {
            let (on, begin) = (display(f64::from(width)), Instant::now());
            black_box(live.frames(&on, &PlainText).expect("a plain engine"));
            took.push(begin.elapsed().as_nanos() as f64);
        }
    }
    took.sort_by(f64::total_cmp);
    took[took.len() * 99 / 100] / took[took.len() / 2]
}

/// The rows of the table, from the means of what was measured.
pub(crate) fn table(mean: &dyn Fn(&str) -> Option<f64>) -> Option<Vec<(String, String, String)>> {
    // What stands in a folder of this name: slashes within a name are written so.
    let of = |name: &str| mean(&format!("application/{}", name.replace('/', "_")));
    let times = |of: f64, to: f64| format!("{:.2} times", of / to);
    let share = |name: &str| Some(format!("{:.1}%", 100.0 * of(name)? / of("rows/new")?));
    let (choices, plain, by_hand) = (of("choices")?, of("plain")?, of("by_hand")?);
    let row = |what: &str, measured: String, reach: &str| (what.to_owned(), measured, reach.to_owned());
    Some(vec![
        row(
            "resize step of 50 views with 20 texts and with `max`, `clamp`, `enclose`, `spread`, `contain`, to hand-written Rust with the same text calls",
            times(choices, by_hand),
            "4 times",
        ),
        row("the same, to the same screen without choices", times(choices, plain), "1.5 times"),
        row(
            "a drag of 1,200 widths over all choices, second pass: 99th percentile to median",
            format!("{:.1} times", tail()),
            "20 times",
        ),
        row("1,000 rows: a parameter set, to placing them with a new plan", share("rows/parameter")?, "0.5%"),
        row("the same: words changed and changed back by an edit", share("rows/words")?, "1%"),
        row("the same: a row added and taken back by an edit", share("rows/row")?, "2%"),
        row("the same: a row put into a long list and taken out", share("rows/list")?, "2%"),
        row(
            "scroll step of a list of 100,000 rows, to the arithmetic for the rows in sight with the same text calls",
            times(of("scroll/list")?, of("scroll/by_hand")?),
            "5 times",
        ),
    ])
}
