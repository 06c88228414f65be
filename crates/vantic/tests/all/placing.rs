//! Placing: bands, text, directions, and what a running application may meet.

use proptest::prelude::*;
use std::cell::{Cell, RefCell};
use std::collections::BTreeSet;
use vantic::check::check;
use vantic::display::{Display, Insets};
use vantic::geometry::{Direction, Frame};
use vantic::json::Form;
use vantic::model::{Code, Coordinates, SAFE, SCREEN, ScreenBuilder};
use vantic::plan::{Live, PlaceError, Placement, Plan, PlanError};
use vantic::resolve::read;
use vantic::text::{Measure, PlainText, TextRequest, TextSize};

fn plan(text: &str) -> Plan {
    Plan::new(read(text).unwrap_or_else(|e| panic!("{e}")).screen).unwrap()
}

fn display(width: f64, height: f64) -> Display {
    Display::new(width, height).unwrap()
}

fn frame(plan: &Plan, on: &Display, path: &str) -> [f64; 4] {
    let frame = plan.place(on, &PlainText).unwrap().frame(plan.screen().find(path).unwrap()).unwrap();
    [frame.left, frame.top, frame.width, frame.height]
}

#[test]
fn a_text_wraps_at_the_width_it_gets_and_pushes_what_is_below() {
    // 19 characters, 10 wide each, on one line of 25; the longest word has 9 characters.
    let plan = plan(
        "screen s {
            text words \"one three fourseven\" { font 20; left = 10; top = 10; right <= screen.right - 10 }
            view below { top = words.bottom + 5; left = 0; size = 10; }
            view under { left = 0; bottom = words.baseline; size = (1, 1) }
        }",
    );
    assert_eq!(frame(&plan, &display(300.0, 400.0), "words"), [10.0, 10.0, 190.0, 25.0]);
    assert_eq!(frame(&plan, &display(200.0, 400.0), "words"), [10.0, 10.0, 180.0, 50.0]);
    assert_eq!(frame(&plan, &display(200.0, 400.0), "below")[1], 65.0);
    assert_eq!(frame(&plan, &display(200.0, 400.0), "under")[1], 10.0 + 20.0 - 1.0);
    // Too narrow for its longest word: a required rule takes that too, and it is cut.
    let narrow = check(&plan, &[display(100.0, 400.0)], &PlainText).unwrap();
    let cut = narrow.findings.iter().find(|f| f.code == Code::Cut).unwrap();
    assert_eq!((cut.amount, plan.screen().path(cut.views[0]).as_str()), (10.0, "words"));
}

#[test]
fn the_reader_s_text_scale_enlarges_the_words() {
    let plan = plan("screen s { text a \"abcd\" { font 10; left = 0; top = 0 } }");
    let large = display(300.0, 300.0).with_text_scale(2.0).unwrap();
    assert_eq!(frame(&plan, &large, "a"), [0.0, 0.0, 40.0, 25.0]);
}

#[test]
fn texts_that_do_not_fit_together_are_named_and_the_first_wins() {
    let plan = plan(
        "screen s {
            text a \"aa aa aa\" { font 20; left = 0; top = 0 }
            text b \"bb bb bb\" { font 20; left = a.right; top = 0; right <= screen.right }
        }",
    );
    // 80 and 80 wide, with space for 130; both can do with 20.
    let on = display(130.0, 200.0);
    assert_eq!((frame(&plan, &on, "a")[2], frame(&plan, &on, "b")[2]), (80.0, 50.0));
    let report = check(&plan, &[on], &PlainText).unwrap();
    let findings = report.named(plan.screen());
    let tie = findings.iter().find(|f| f.code == Code::Tie).unwrap();
    assert!(tie.message.contains("`a` and `b` do not fit together"), "{}", tie.message);
    assert_eq!(tie.ranges["a.width"], [Some(50.0), Some(80.0)]);
}

#[test]
fn moving_whole_in_the_ladder_lets_words_give_way() {
    let text = |ladder: &str| {
        plan(&format!(
            "screen s {{ ladder {ladder}; text a \"abcdef\" {{ font 20; left = 0; top = 0; width = 30 ~ fit }} }}"
        ))
    };
    let on = display(300.0, 300.0);
    assert_eq!(frame(&text("fit"), &on, "a")[2], 60.0, "`whole` stands directly below required rules");
    assert_eq!(frame(&text("fit > whole"), &on, "a")[2], 30.0);
}

/// A text that is high where it is wide, so that it never converges.
struct Restless;

impl Measure for Restless {
    fn measure(&self, text: &TextRequest<'_>) -> TextSize {
        let width = text.width.unwrap_or(100.0);
        let height = if width > 50.0 { 80.0 } else { 20.0 };
        TextSize { width: 100.0, longest: 1.0, height, ascent: 10.0, lines: 1, hidden: 0 }
    }
}

struct Broken;

impl Measure for Broken {
    fn measure(&self, _: &TextRequest<'_>) -> TextSize {
        TextSize { width: f64::NAN, ..TextSize::default() }
    }
}

#[test]
fn a_text_that_does_not_converge_takes_its_tallest_and_is_reported() {
    let plan = plan("screen s { text a \"x\" { font 20; left = 0; top = 0; width = 100 - height } }");
    let report = check(&plan, &[display(300.0, 300.0)], &Restless).unwrap();
    let placed = report.placements[0].frame(plan.screen().find("a").unwrap()).unwrap();
    assert_eq!((placed.width, placed.height), (20.0, 80.0));
    assert!(report.findings.iter().any(|f| f.code == Code::Unsettled && f.paths(plan.screen()) == ["a"]));
}

#[test]
fn a_broken_text_engine_is_an_error_that_names_the_text() {
    let plan = plan("screen s { text a \"x\" { font 20; left = 0; top = 0 } }");
    let error = plan.place(&display(300.0, 300.0), &Broken).unwrap_err();
    assert_eq!(error, PlaceError::Measure { view: "a".into() });
}

#[test]
fn a_rule_that_reads_what_a_band_hides_is_refused_when_the_plan_is_made() {
    let refused = |text: &str| Plan::new(read(text).unwrap().screen).unwrap_err();
    let reads = "screen s { band low: screen.height < 300; view a {}; view b { left = a.right }; when low { hide a } }";
    let error = refused(reads);
    let PlanError::ReadsHidden { rule, view, bands, .. } = &error else { panic!("{error}") };
    assert_eq!([rule.as_str(), view, bands], ["b#1", "a", "in `low`"]);
    assert_eq!(error.rule().map(|r| r.index()), Some(0));
    let prev =
        "screen s { band low: portrait; view a {}; view b { left = prev.right }; when low { hide a } }";
    assert!(matches!(refused(prev), PlanError::NoSibling { side: "before", .. }));
    // No display is both, so nothing is wrong.
    let never = "screen s {
        band low: screen.height < 300
        band high: screen.height >= 300
        view a {}
        view b { from: left = a.right }
        when low { hide a; in b { from: left = 0 } }
        when high { in b { from: left = a.right + 1 } }
    }";
    assert!(Plan::new(read(never).unwrap().screen).is_ok());
    let many: String =
        (0..60).map(|i| format!("band b{i}: screen.width > {i}00 and screen.height > {i}0\n")).collect();
    let many = format!("screen s {{ {many} band p: portrait }}");
    assert!(matches!(refused(&many), PlanError::TooManyBands));
}

#[test]
fn displays_out_of_range_are_refused_with_the_range() {
    for (width, height) in [(0.0, 10.0), (f64::NAN, 10.0), (10.0, 1e9), (10.0, -1.0), (f64::INFINITY, 1.0)] {
        assert!(Display::new(width, height).is_err(), "{width} x {height}");
    }
    let insets = |left, bottom| Insets { left, bottom, ..Insets::default() };
    assert!(display(10.0, 10.0).with_insets(insets(10.0, 0.0)).is_err());
    assert!(display(10.0, 10.0).with_insets(insets(0.0, f64::NAN)).is_err());
    assert!(display(10.0, 10.0).with_text_scale(0.0).is_err());
    let turned = display(300.0, 500.0).with_insets(insets(7.0, 9.0)).unwrap().turned();
    assert_eq!((turned.name(), turned.width(), turned.height()), ("500x300", 500.0, 300.0));
    // The top comes to the left, so the left comes to the bottom and the bottom to the right.
    let Insets { left, top, right, bottom } = turned.insets();
    assert_eq!([left, top, right, bottom], [0.0, 0.0, 9.0, 7.0]);
}

/// An engine that remembers what it was asked; it is not to be shared among threads.
#[derive(Default)]
struct Asked(RefCell<BTreeSet<Told>>);

/// A view, a language and a style.
type Told = (Option<usize>, Option<String>, Option<String>);

impl Measure for Asked {
    fn measure(&self, text: &TextRequest<'_>) -> TextSize {
        let owned = |name: Option<&str>| name.map(str::to_owned);
        self.0.borrow_mut().insert((text.view, owned(text.language), owned(text.style)));
        let by = if text.style == Some("strong") { 2.0 } else { 1.0 };
        PlainText.measure(&TextRequest { font: text.font * by, ..*text })
    }
}

#[test]
fn a_text_engine_is_told_which_text_it_is_in_which_style_and_language() {
    let text = "screen gate { band wide: screen.width >= 600
        text sign \"Gate\" { font 20; style strong; left = 0; top = 0 }
        text hint \"Knock\" { font 20; left = 0; below sign }
        when wide { in hint { style strong } } }";
    let plan = plan(text);
    let widths = |wide: f64| {
        let asked = Asked::default();
        let on = display(wide, 400.0).with_language("fi");
        let frames = plan.live().frames(&on, &asked).unwrap();
        let widths: Vec<f64> = frames.all().iter().flatten().map(|frame| frame.width).collect();
        (widths, asked.0.into_inner())
    };
    let told =
        |view: usize, style: Option<&str>| (Some(view), Some("fi".to_owned()), style.map(str::to_owned));
    let (narrow, asked) = widths(300.0);
    assert_eq!((narrow, asked), (vec![80.0, 50.0], [told(0, Some("strong")), told(1, None)].into()));
    let (wide, asked) = widths(600.0);
    assert_eq!((wide, asked), (vec![80.0, 100.0], [told(0, Some("strong")), told(1, Some("strong"))].into()));
    // The style stays through the layout of the file, its JSON form, and what the screen prints.
    let json = Form::of(text).unwrap().to_json();
    assert!(json.contains("\"style\": \"strong\""), "{json}");
    let again = Form::from_json(&json).unwrap().to_text().unwrap();
    assert_eq!(read(&again).unwrap().screen, *plan.screen());
    assert_eq!(read(&plan.screen().to_string()).unwrap().screen, *plan.screen());
    assert!(read("screen s { view a { style strong } }").unwrap_err().to_string().contains("`style`"));
}

/// An engine with a revision, which counts how often it is asked.
struct Counting {
    revision: Cell<u64>,
    font: Cell<f64>,
    /// The view, the width and the revision of each text.
    asked: RefCell<Vec<AskedOnce>>,
}

type AskedOnce = (Option<usize>, Option<f64>, u64);

impl Measure for Counting {
    fn measure(&self, text: &TextRequest<'_>) -> TextSize {
        self.asked.borrow_mut().push((text.view, text.width, text.revision));
        PlainText.measure(&TextRequest { font: text.font * self.font.get(), ..*text })
    }

    fn revision(&self) -> Option<u64> {
        Some(self.revision.get())
    }
}

#[test]
fn an_engine_with_a_revision_is_asked_once_until_its_answer_may_differ() {
    let plan = plan(
        "screen gate { language fi { sign \"Portti joen varrella\" }
        text sign \"Gate by the river\" { font 20; left = 0; top = 0; right <= screen.right }
        text hint \"Knock\" { font 20; left = 0; below sign } }",
    );
    let engine = Counting { revision: Cell::new(1), font: Cell::new(1.0), asked: RefCell::default() };
    let mut live = plan.live();
    let asked = |live: &mut Live, on: &Display| {
        let frames = live.frames(on, &engine).unwrap();
        let asked = engine.asked.take();
        // The frames are those of an engine that is asked for everything.
        let anew = Plan::new(live.screen().clone()).unwrap().place(on, &engine).unwrap();
        assert_eq!(frames.all(), &anew.frames);
        engine.asked.take();
        asked.into_iter().map(|(view, width, _)| (view.unwrap(), width.is_some())).collect::<Vec<_>>()
    };
    let (wide, narrow) = (display(400.0, 400.0), display(100.0, 400.0));
    let (sign, hint) = (0, 1);
    let both = [(sign, false), (hint, false)];
    assert_eq!(asked(&mut live, &wide), both);
    assert_eq!(asked(&mut live, &wide), []);
    assert_eq!(asked(&mut live, &narrow), [(sign, true)]);
    assert_eq!(asked(&mut live, &narrow), []);
    // Of other words, the ones that are other.
    let id = live.screen().find("sign").unwrap();
    let ((), before) = live.edit(|build| drop(build.set_words(id, "Gate".to_owned()))).unwrap();
    assert_eq!(asked(&mut live, &wide), [(sign, false)]);
    live.go_over_to(before).unwrap();
    assert_eq!(asked(&mut live, &wide), [(sign, false)]);
    live.set_words(id, "A door").unwrap();
    assert_eq!(asked(&mut live, &wide), [(sign, false)]);
    assert!(live.set_words(id, "a\0").is_err());
    // All of them in another language, at another text scale, and where the engine measures otherwise.
    assert_eq!(asked(&mut live, &wide.clone().with_language("fi")), both);
    assert_eq!(asked(&mut live, &wide.clone().with_text_scale(1.5).unwrap()), both);
    engine.font.set(2.0);
    engine.revision.set(2);
    assert_eq!(asked(&mut live, &wide.clone().with_text_scale(1.5).unwrap()), both);
    // Words that come back have the revision that they had, others have none of the earlier ones.
    let revision = |live: &mut Live| {
        engine.revision.set(engine.revision.get() + 1);
        live.frames(&wide, &engine).unwrap();
        engine.asked.take()[0].2
    };
    let first = revision(&mut live);
    let ((), before) = live.edit(|build| drop(build.set_words(id, "Gate".to_owned()))).unwrap();
    let second = revision(&mut live);
    live.go_over_to(before).unwrap();
    assert_eq!(revision(&mut live), first);
    live.set_words(id, "Gate").unwrap();
    assert!(![first, second].contains(&revision(&mut live)));
}

proptest! {
    #![proptest_config(vantic_testkit::cases(64))]

    /// From right to left every frame is the mirror image, where only start and end are used.
    #[test]
    fn right_to_left_mirrors_start_and_end(
        width in 200.0..2000.0_f64,
        gap in 0.0..40.0_f64,
        share in 0.1..0.9_f64,
        lean in -20.0..20.0_f64,
    ) {
        let mut s = ScreenBuilder::new("s");
        let a = s.view("a");
        let b = s.view("b");
        let c = s.view_in(b, "c");
        s.rules(
            a,
            [
                a.start().equals(SAFE.start() + gap),
                a.width().equals(SCREEN.width() * (share / 2.0)),
                a.top().equals(0.0),
                a.height().equals(10.0),
            ],
        );
        s.rules(
            b,
            [
                b.start().equals(a.end() + gap),
                b.end().equals(SCREEN.end() - gap),
                b.top().equals(0.0),
                b.height().equals(10.0),
            ],
        );
        s.rules(
            c,
            [
                c.start().equals(b.center_x() + lean),
                c.width().equals(8.0),
                c.top().equals(b.top()),
                c.height().equals(3.0),
            ],
        );
        let plan = Plan::new(s.finish().unwrap()).unwrap();
        let left = display(width, 100.0);
        let right = left.clone().with_direction(Direction::RightToLeft);
        let (left, right) = (plan.place(&left, &PlainText).unwrap(), plan.place(&right, &PlainText).unwrap());
        for view in [a, b, c] {
            let (l, r) = (left.frame(view).unwrap(), right.frame(view).unwrap());
            prop_assert!(
                (width - l.right() - r.left).abs() < 1e-6 && (l.width - r.width).abs() < 1e-6,
                "{:?} {:?}",
                l,
                r
            );
        }
    }

    /// Whatever the numbers, a placement has no negative size and nothing that is not a number.
    #[test]
    fn a_placement_always_comes_back_whole(
        width in 1.0..3000.0_f64,
        height in 1.0..3000.0_f64,
        a in -500.0..500.0_f64,
        b in -500.0..500.0_f64,
        m in -3.0..3.0_f64,
    ) {
        let text = format!(
            "screen s {{ ladder fit > rhythm
                view a {{ left = {a:.2}; right = screen.right - {b:.2}; width = {m:.2} * height ~ fit; top >= {b:.2} }}
                view b {{ top = a.bottom + {a:.2}; bottom = screen.bottom; height = {b:.2}; width <= a.width ~ rhythm }}
                view c {{ center = b.at(30%, 70%); ratio width : height = 3 : 2; width + height <= {b:.2} }}
            }}"
        );
        let plan = plan(&text);
        let placement = plan.place(&display(width, height), &PlainText).unwrap();
        for frame in placement.frames.iter().flatten() {
            prop_assert!([frame.left, frame.top, frame.width, frame.height].iter().all(|n| n.is_finite()));
            prop_assert!(frame.width >= 0.0 && frame.height >= 0.0);
        }
        // The same call gives the same bits.
        prop_assert_eq!(placement, plan.place(&display(width, height), &PlainText).unwrap());
    }
}

#[test]
fn a_hairline_is_one_pixel_of_whatever_display() {
    let plan = plan(
        "screen s { view p { left = 30; top = 40; size = 50; view a { left = parent.left + 7; top = 45; width = 20; height = screen.pixel } } }",
    );
    for density in [1.0, 1.5, 2.0, 3.0] {
        let on = display(300.0, 300.0).with_density(density).unwrap();
        let placement = plan.place(&on, &PlainText).unwrap();
        let a = plan.screen().find("p.a").unwrap();
        assert!((placement.frame(a).unwrap().height * density - 1.0).abs() < 1e-12);
        let local = placement.local_frame(plan.screen(), a).unwrap();
        assert_eq!([local.left, local.top, local.width], [7.0, 5.0, 20.0]);
    }
    let error =
        read("screen s { view a { height = a.pixel; view b { width = screen.pixel } } }").unwrap_err();
    assert!(error.errors.len() == 1 && error.errors[0].message.contains("write `screen.pixel`"), "{error}");
}

#[test]
fn what_is_tied_to_clear_stays_above_a_keyboard() {
    let plan = plan(
        "screen s { view field { pin start, end, bottom 8 to clear; height = 44 }; view foot { pin start, end, bottom to safe; height = 10 } }",
    );
    let insets = Insets { left: 0.0, top: 20.0, right: 0.0, bottom: 30.0 };
    let bottom = |keyboard: f64, path: &str| {
        let on = display(300.0, 600.0).with_insets(insets).unwrap().with_keyboard(keyboard).unwrap();
        let placement = plan.place(&on, &PlainText).unwrap();
        placement.frame(plan.screen().find(path).unwrap()).unwrap().bottom()
    };
    // The keyboard counts from the screen's edge, and only where it is higher than the inset.
    for (keyboard, field) in [(0.0, 562.0), (20.0, 562.0), (250.0, 342.0)] {
        assert_eq!((bottom(keyboard, "field"), bottom(keyboard, "foot")), (field, 570.0));
    }
    for wrong in [-1.0, 600.0, f64::NAN] {
        let error = display(300.0, 600.0).with_keyboard(wrong).unwrap_err();
        assert!(error.to_string().contains("leaves no space"), "{error}");
    }
}

proptest! {
    #![proptest_config(vantic_testkit::cases(256))]

    /// In whole pixels nothing comes apart, and nothing is off by more than one.
    #[test]
    fn what_touches_still_touches_in_pixels(
        edges in [-500.0..500.0_f64, 0.0..300.0_f64, 0.0..300.0_f64],
        density in prop::sample::select(vec![1.0, 1.25, 1.5, 2.0, 2.75, 3.0]),
    ) {
        let [left, first, second] = edges;
        let one = Frame { left, top: left, width: first, height: first };
        let next = Frame { left: one.right(), top: one.bottom(), width: second, height: second };
        let (a, b) = (one.in_pixels(density), next.in_pixels(density));
        prop_assert_eq!((a.right(), a.bottom()), (b.left, b.top));
        for (pixels, exact) in [(a.left, left), (a.width, first), (b.width, second)] {
            prop_assert!(pixels.fract() == 0.0 && (pixels - exact * density).abs() <= 1.0);
        }
        let half =
            Frame { left: 0.5 / density, top: -0.5 / density, width: 1.0, height: 1.0 }.in_pixels(density);
        prop_assert_eq!((half.left, half.top), (1.0, 0.0), "half rounds up");
    }
}

/// How tall one text is decides how wide another is, and the other way round; a third has no say in either.
const WIDE_AS_TALL: &str = "screen quay {
    text notice \"Boats to the outer islands leave from the north quay until the wind turns\" { font 16; pin left 8, top 8 to safe; right = plate.left - 8 }
    view plate { right = safe.right - 8; top = notice.top; ratio width : height = 1 : 2; height = notice.height }
    text hours \"Every half hour between six and nine, then every hour\" { font 16; pin left 8, right 8 to safe; top = notice.bottom + 8; height >= 30 }
    view list { left = hours.left; top = hours.bottom; size = (hours.width, 40) }
}";

/// What is the larger or the smaller of several, in every form that comes to that; what they choose changes with the width, with
/// words, and with one another.
const CHOICES: &str = "screen tannery {
    ladder fit > rhythm
    view yard { pin left 8, top 8 to safe; width = clamp(180, 0.55 * screen.width, max(420, screen.height / 2)); height = min(yard.width, screen.height / 3) }
    text sign \"Hides are weighed at the upper gate and washed at the lower one\" { font 16; left = yard.left; top = yard.bottom + 8; width = min(yard.width, 240) }
    view vat { below sign by 8; left = max(sign.left, screen.center_x - 90) ~ fit; left >= 8; width <= 300; height = max(44, sign.height + 16); width = max(80, min(vat.height * 2, yard.width / 2)) ~ rhythm }
    view plan_ { contain 3 : 2 in yard }
    view one { left = 8; below vat by max(8, screen.width / 100); size = (40, 30) }
    view two { left = max(one.right, screen.center_x) + 4; below vat by 12; size = (50, clamp(20, 0.03 * screen.height, 60)) }
    view three { right = safe.right - 8; top = two.top; size = (30, 30) }
    spread across one, two, three in screen ~ rhythm
    view around { enclose one, two by 6 }
    view between_ { top = around.bottom + 4; left = around.left; width = max(one.right, two.left) - around.left; height >= 10; height = min(40, 0.1 * around.width) ~ fit }
}";

#[test]
fn a_budget_gives_up_and_says_so() {
    let plan = plan(CHOICES);
    let (on, other) = (display(400.0, 700.0), display(900.0, 700.0));
    let whole = plan.place(&on, &PlainText).unwrap();
    for units in [0, 1, 50, 500] {
        let mut live = plan.live().with_budget(units);
        for display in [&on, &other, &on] {
            let frames = live.frames(display, &PlainText).unwrap();
            assert!(frames.hit_work_limit(), "{units}");
            assert!(frames.all().iter().flatten().all(|f| f.width >= 0.0 && f.height >= 0.0));
        }
        // With more it is what it would have been.
        let mut live = live.with_budget(10_000_000);
        let frames = live.frames(&on, &PlainText).unwrap();
        assert!(!frames.hit_work_limit() && frames.all() == whole.frames, "{units}");
    }
}

/// Displays one after the other: a width, a height, how far a list is scrolled, whether it is read from right to left, and tenths of the
/// text scale.
type Walk = Vec<(u16, u16, u16, bool, u8)>;

/// Whether a plan that is kept solved places as one that is solved anew each time.
fn stays_the_same(plan: &Plan, walk: &Walk) -> Result<(), TestCaseError> {
    let mut live = plan.live();
    for &(width, height, offset, mirrored, scale) in walk {
        let direction = if mirrored { Direction::RightToLeft } else { Direction::LeftToRight };
        let display = Display::new(f64::from(width), f64::from(height)).unwrap().with_direction(direction);
        let display = display.with_text_scale(f64::from(scale) / 10.0).unwrap();
        // Half of them are not scrolled.
        let scrolled =
            (offset < 900).then(|| display.clone().with_scroll("list", 0.0, f64::from(offset)).unwrap());
        let display = scrolled.unwrap_or(display);
        let (warm, cold) =
            (live.place(&display, &PlainText).unwrap(), plan.place(&display, &PlainText).unwrap());
        if warm.hit_work_limit || cold.hit_work_limit {
            continue;
        }
        for (a, b) in std::iter::zip(&warm.frames, &cold.frames) {
            let numbers = |f: &Option<Frame>| f.map(|f| [f.left, f.top, f.width, f.height]);
            let near = match (numbers(a), numbers(b)) {
                (Some(a), Some(b)) => {
                    std::iter::zip(a, b).all(|(a, b)| (a - b).abs() <= 1e-6 * (1.0 + b.abs() / 1e4))
                }
                (a, b) => a == b,
            };
            prop_assert!(near, "at {width} x {height} of {walk:?}: {a:?} and {b:?}");
        }
        let rules = |p: &Placement| p.missed.iter().chain(&p.broken).map(|m| m.rule).collect::<Vec<_>>();
        prop_assert_eq!(rules(&warm), rules(&cold));
        // What a renderer asks for, without all else.
        let frames = live.frames(&display, &PlainText).unwrap();
        for (view, _) in plan.screen().views() {
            prop_assert_eq!(
                frames.text(view).is_some(),
                frames.frame(view).is_some() && cold.texts[view.index()].is_some()
            );
            let lines = |size: Option<TextSize>| size.map(|size| (size.lines, size.hidden));
            prop_assert_eq!(lines(frames.text(view)), lines(warm.texts[view.index()]));
            prop_assert_eq!(frames.scrolled(view), warm.scrolled.get(&view).copied());
        }
        prop_assert_eq!(frames.unsettled(), &warm.unsettled[..]);
        prop_assert_eq!((frames.is_broken(), frames.hit_work_limit()), (!warm.broken.is_empty(), false));
    }
    Ok(())
}

proptest! {
    #![proptest_config(vantic_testkit::cases(24))]

    /// A plan that is kept solved agrees with one that is solved again, whatever came before: sizes,
    /// directions, text scales and how far lists are scrolled.
    #[test]
    fn a_live_plan_agrees_with_a_new_one(
        file in prop::sample::select(vec![ "demo/departures", "demo/boarding_pass", "demo/muster_list", "demo/quay_kiosk", "demo/quay_wall", "demo/sailings", "cases/screens/content", "cases/screens/notices", "cases/screens/ratios", WIDE_AS_TALL, CHOICES, CHOICES, CHOICES ]),
        walk in prop::collection::vec((200_u16..1400, 200_u16..1100, 0_u16..1800, any::<bool>(), 10_u8..20), 2..8),
    ) {
        let path = format!("{}/../../{file}.vantic", env!("CARGO_MANIFEST_DIR"));
        let text = std::fs::read_to_string(path).unwrap_or_else(|_| file.to_owned());
        let plan = Plan::new(read(&text).unwrap().screen).unwrap();
        stays_the_same(&plan, &walk)?;
    }
}

proptest! {
    #![proptest_config(vantic_testkit::cases(60))]

    /// The same of screens with a statement of every kind, dragged through a few sizes again and again.
    #[test]
    fn a_live_plan_of_any_screen_agrees_with_a_new_one(
        bytes in prop::collection::vec(any::<u8>(), 600),
        walk in prop::collection::vec((prop::sample::select(vec![300_u16, 310, 390, 600, 900, 1300]), prop::sample::select(vec![300_u16, 620, 844]), Just(900_u16), any::<bool>(), Just(10_u8)), 4..12),
    ) {
        let (text, _) = vantic_testkit::screens::screen_file(&mut vantic_testkit::screens::Picks::new(&bytes));
        let plan = read(&text).ok().and_then(|source| Plan::new(source.screen).ok());
        prop_assume!(plan.is_some());
        if let Err(error) = stays_the_same(&plan.unwrap(), &walk) {
            return Err(TestCaseError::fail(format!("{error}\n{text}")));
        }
    }
}
