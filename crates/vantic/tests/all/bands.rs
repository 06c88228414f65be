//! Bands, states and languages, and the displays that they are tried on.

use proptest::prelude::*;
use vantic::check::{CheckOptions, check, check_as};
use vantic::display::{Display, Displays, DisplaysError, Matrix, MatrixError, variations};
use vantic::files::{to_expectations, with_expectations, with_words};
use vantic::finding::{NamedFinding, Severity};
use vantic::geometry::Direction;
use vantic::model::{
    Code, Condition, Coordinates, Order, PSEUDO, Property, SCREEN, Screen, ScreenBuilder, Setting,
};
use vantic::plan::Plan;
use vantic::resolve::read;
use vantic::text::{EvenText, PlainText};

const FILES: [&str; 5] = [
    include_str!("../../../../demo/departures.vantic"),
    include_str!("../../../../demo/muster_list.vantic"),
    include_str!("../../../../demo/quay_wall.vantic"),
    include_str!("../../../../demo/sailings.vantic"),
    include_str!("../../../../cases/screens/booking.vantic"),
];

fn screen(text: &str) -> Screen {
    read(text).unwrap_or_else(|e| panic!("{e}\n{text}")).screen
}

fn plan(text: &str) -> Plan {
    Plan::new(screen(text)).unwrap()
}

fn found(plan: &Plan, displays: &[Display]) -> Vec<NamedFinding> {
    check(plan, displays, &PlainText).unwrap().named(plan.screen())
}

fn of(code: Code, findings: &[NamedFinding]) -> Vec<&NamedFinding> {
    findings.iter().filter(|f| f.code == code).collect()
}

fn size(width: f64, height: f64) -> Display {
    Display::new(width, height).unwrap()
}

/// A band changes what it says and nothing else: one that says nothing moves no view.
#[test]
fn an_empty_band_changes_no_frame() {
    for text in FILES {
        let plain = plan(text);
        let empty =
            text.replacen('{', "{ band an_empty_one: screen.width >= 640 and screen.aspect < 3 / 2\n", 1);
        let end = empty.rfind('}').unwrap();
        let empty = plan(&format!("{} when an_empty_one {{}} }}", &empty[..end]));
        for display in Displays::default().all() {
            let frames = |plan: &Plan| plan.place(&display, &PlainText).unwrap().frames;
            assert_eq!(frames(&plain), frames(&empty), "{}", display.name());
        }
    }
}

/// What is shown instead of a view is read where rules read that view, and is there only then.
#[test]
fn what_stands_in_is_read_instead() {
    let plan = plan(
        "screen s {
            band narrow: screen.width < 500
            band tiny: screen.width < 300
            view menu { right = screen.right - 30; top = 0; size = (200, 40) }
            view opener { left = 10; top = 5; size = 50 }
            view dots { left = 4; top = 5; size = 8 }
            view help { left = menu.right + 6; top = menu.bottom; size = 9 }
            when narrow { hide menu, show opener }
            when tiny { hide menu, show dots }
        }",
    );
    let at = |width: f64| {
        let placement = plan.place(&size(width, 800.0), &PlainText).unwrap();
        let there = |name: &str| placement.frame(plan.screen().find(name).unwrap());
        let names = ["menu", "opener", "dots"].map(|name| there(name).is_some());
        let help = there("help").unwrap();
        (names, help.left, help.top)
    };
    assert_eq!(at(600.0), ([true, false, false], 576.0, 40.0));
    assert_eq!(at(400.0), ([false, true, false], 66.0, 55.0));
    // The later one counts, and what the earlier one showed is gone again.
    assert_eq!(at(200.0), ([false, false, true], 18.0, 13.0));
}

/// A view that is there in one band only needs no word elsewhere; a rule that reads it there does.
#[test]
fn a_view_only_in_a_band_is_there_without_further_work() {
    let text = "screen s {
        band narrow: screen.width < 500
        state menu: closed, open
        view a { only in narrow, menu.open; left = 0; top = 0; size = 8 }
        view b { left = 0; top = 20; size = 8 }
        view c { left = 0; top = 40; size = 8 }
        when menu.open { hide b }
        when narrow { show b }
    }";
    let plan = plan(text);
    let there = |display: &Display| {
        let placement = plan.place(display, &PlainText).unwrap();
        ["a", "b"].map(|name| placement.frame(plan.screen().find(name).unwrap()).is_some())
    };
    let wide = size(600.0, 800.0);
    assert_eq!(there(&wide), [false, true]);
    assert_eq!(there(&wide.clone().with_state("menu", "open")), [true, false]);
    assert_eq!(there(&wide.clone().with_state("menu", "closed")), [false, true]);
    // Nothing is known of these, and nothing changes.
    assert_eq!(there(&wide.with_state("menu", "ajar").with_state("door", "open")), [false, true]);
    assert_eq!(there(&size(400.0, 800.0).with_state("menu", "open")), [true, true]);
    let error = Plan::new(screen(&text.replace("view c {", "view c { left <= a.left;"))).unwrap_err();
    assert!(error.to_string().contains("`c#1` reads `a`, which is hidden"), "{error}");
}

#[test]
fn bands_that_are_never_active_or_contradict_are_reported_with_both_places() {
    let plan = plan(
        "screen s {
            band wide: screen.width >= 700
            band tall: screen.height >= 800
            band huge: screen.width >= 1200
            band never: screen.width >= 700 and screen.width < 600
            let gap = 8
            view a { left = 0; top = 0; size = 8; tone: right <= 90 }
            when wide { let gap = 12; in a { tone: right <= 70; depth 2 } }
            when tall { in a { tone: right <= 60; depth 2 }; let gap = 12 }
            when huge { let gap = 16 }
        }",
    );
    let findings = found(&plan, &[size(900.0, 900.0)]);
    let contested = of(Code::Contested, &findings);
    // The same depth twice, and the same number, are no matter; huge is within wide.
    let messages: Vec<&str> = contested.iter().map(|f| f.message.as_str()).collect();
    assert_eq!(messages.len(), 2, "{messages:?}");
    assert!(
        messages[0].contains("`wide` and `tall` can be active together, and both change `a.tone`"),
        "{messages:?}"
    );
    assert!(
        messages[1].contains("`tall` and `huge` can be active together, and both change `gap`"),
        "{messages:?}"
    );
    assert!(contested.iter().all(|f| f.severity == Severity::Note && f.rules.len() == 2));
    let never = of(Code::Idle, &findings);
    assert!(
        never.iter().any(
            |f| f.message.contains("`never` is never active") && f.message.contains("screen.width < 600")
        )
    );
}

#[test]
fn what_lies_under_insets_is_too_small_or_leaves_strips_is_reported() {
    let plan = plan(
        "screen s {
            band low: screen.height < 500
            view back { pin left, top, right to screen; tall: height = screen.height }
            text high \"words\" { font 20; left = 40; top = 4; depth 1 }
            view list { pin left, right to screen; top = 200; height = 100; scroll down; content.height = 400
                text in_list \"words\" { font 20; left = 0; top = parent.content.top + 10 }
            }
            view go { left = 0; top = 100; size = 20; control; depth 1 }
            view on { after go by hop; top = 100; size = 20; control; depth 1 }
            view big { left = 0; top = 140; size = 40; control 44; depth 1 }
            let hop = 2
            when low { in back { tall: height = screen.height - 30 }; let hop = 4 }
            accept overlap: back, list \"the list lies on it\"
        }",
    );
    let insets = vantic::display::Insets { left: 0.0, top: 20.0, right: 0.0, bottom: 0.0 };
    let high = size(300.0, 600.0).with_insets(insets).unwrap();
    let low = size(600.0, 300.0);
    let findings = found(&plan, &[high.clone(), low.clone()]);
    let covered = of(Code::Covered, &findings);
    assert_eq!(covered.len(), 1, "{covered:?}");
    assert_eq!((&covered[0].views[0], covered[0].amount), (&"high".to_owned(), 16.0));
    assert_eq!(covered[0].displays, ["300x600"]);
    // 22 from middle to middle is too near for two of 20; 24 is not. 40 is less than 44 wherever it is.
    let small: Vec<_> =
        of(Code::Small, &findings).iter().map(|f| (f.views[0].clone(), f.displays.len(), f.amount)).collect();
    assert_eq!(small, [("go".to_owned(), 1, 4.0), ("on".to_owned(), 1, 4.0), ("big".to_owned(), 2, 4.0)]);
    let uncovered = of(Code::Uncovered, &findings);
    assert_eq!((uncovered.len(), uncovered[0].amount), (1, 30.0 * 600.0), "{uncovered:?}");
    assert!(uncovered[0].message.contains("30 at the bottom") && uncovered[0].displays == ["600x300"]);
    // Where it covers no display, it is no background.
    assert!(of(Code::Uncovered, &found(&plan, &[low])).is_empty());
}

#[test]
fn a_language_gives_its_words_and_missing_ones_are_reported() {
    let text = r#"screen s {
        language en
        language fi { a.go "Menneeksi" }
        language he, right to left { a.go "קדימה"; a.no "לא" }
        view a { pin left, right, top to screen; height = 40
            text go "Go" { font 20; start = parent.start; top = parent.top }
            text no "No" { font 20; start = go.end + 10; top = parent.top }
            text leaves "06:40" { font 20; start = no.end + 10; top = parent.top }
        }
    }"#;
    let plan = plan(text);
    let displays =
        Matrix::of(vec![size(400.0, 200.0)]).all_of(plan.screen()).displays(plan.screen()).unwrap();
    let names: Vec<&str> = displays.iter().map(Display::name).collect();
    assert_eq!(names, ["400x200", "400x200, fi", "400x200, he"]);
    let go = plan.screen().find("a.go").unwrap();
    let frames = displays.iter().map(|d| plan.place(d, &PlainText).unwrap().frame(go).unwrap());
    let at: Vec<_> = frames.map(|f| (f.left, f.width)).collect();
    assert_eq!(at, [(0.0, 20.0), (0.0, 90.0), (350.0, 50.0)]);
    let findings = found(&plan, &displays);
    let missing = of(Code::Untranslated, &findings);
    assert_eq!(
        (missing.len(), &missing[0].views, missing[0].displays.as_slice()),
        (1, &vec!["a.no".to_owned()], &["400x200, fi".to_owned()][..])
    );

    // A time of day needs none. A table beside the file says the same; what is wrong in it is reported with
    // its line.
    let beside = "[language.fi.words]\n\"a.no\" = \"Ei\"\n[language.sv]\n";
    let more = with_words(screen(text), beside).unwrap();
    assert_eq!(more.words_in(more.find("a.no").unwrap(), Some("fi")).unwrap(), "Ei");
    assert_eq!(more.words_in(more.find("a.go").unwrap(), Some("fi")).unwrap(), "Menneeksi");
    assert!(more.languages().iter().any(|l| l.name() == "sv" && l.is_own()));
    for (wrong, line, said) in [
        ("[language.fi.words]\n\"a.non\" = \"Ei\"\n", 2, "did you mean `a.no`?"),
        ("[language.fi.words]\n\n\"a\" = \"Ei\"\n", 3, "there is no text `a`"),
        ("\n[language.fi]\nwards = 3\n", 3, "wards"),
        ("[language.pseudo.words]\n", 1, "not a name for a language"),
        ("[language.fi.words\n", 1, ""),
    ] {
        let error = with_words(screen(text), wrong).unwrap_err();
        assert!(error.line == line && error.message.contains(said), "{wrong}: {error}");
    }
}

#[test]
fn expectations_are_held_and_read_from_beside_the_file() {
    let text = "screen s { view a { left = 4; top = 5; size = (60, 7) }
        expect on \"90x90\" { a = (4, 5, 60, 7); a.right = 64.4; a.center_y = 8.5 }
        expect on \"90x90\", within 2 { a = (4, 6.5, 60, 7) } }";
    assert!(vantic::testing::assert_expectations(text, &PlainText).is_ok());
    let wrong = text.replace("64.4", "70").replace("6.5", "9");
    let error = vantic::testing::assert_expectations(&wrong, &PlainText).unwrap_err();
    // A test that fails prints this.
    assert_eq!(
        format!("{error:?}"),
        "`s`: 2 frames are not as expected\n  on 90x90: `a.right` is 64; expected 70: 6 too far left\n  \
         on 90x90: `a` is at 4, 5, 60 x 7; expected 4, 9, 60 x 7: 4 too far up"
    );
    let none = vantic::testing::assert_expectations(
        "screen s { view a { left = 4; top = 5; size = 6 } }",
        &PlainText,
    )
    .unwrap_err();
    assert!(none.to_string().contains("has no expectations"), "{none}");
    let unknown =
        vantic::testing::assert_expectations(&text.replace("90x90", "tabled"), &PlainText).unwrap_err();
    assert!(unknown.to_string().contains("did you mean `tablet`?"), "{unknown}");

    for text in FILES {
        let plan = plan(text);
        let displays = Displays::default().all();
        let placed: Vec<String> = displays
            .iter()
            .map(|d| to_expectations(&plan.place(d, &EvenText).unwrap(), plan.screen()))
            .collect();
        let kept = with_expectations(plan.screen().clone(), &placed.join("\n")).unwrap();
        assert!(kept.expectations().len() >= displays.len());
        let kept = Plan::new(kept).unwrap();
        let unmet = |measure: &(dyn vantic::text::Measure + Sync)| {
            of(Code::Unmet, &check(&kept, &displays[..1], measure).unwrap().named(kept.screen())).len()
        };
        assert_eq!(unmet(&EvenText), 0);
        let longer = vantic::text::LongerText { of: &EvenText, factor: 1.5 };
        assert!(text.contains("booking") || unmet(&longer) > 0, "longer words move something");
    }
    let beside = "[[display]]\nname = \"90x90\"\nhidden = [\"b\"]\n";
    let error = with_expectations(screen(text), beside).unwrap_err();
    assert_eq!((error.line, error.message.contains("there is no view `b`")), (3, true), "{error}");
}

#[test]
fn displays_are_named_in_many_ways_and_read_from_a_file() {
    let plan = plan(FILES[4]);
    let find = |name: &str| Displays::default().find(name, plan.screen());
    let display = find("16:9@720w, right to left, text 1.5, touch, slip.open").unwrap();
    assert_eq!((display.width(), display.height(), display.text_scale()), (720.0, 405.0, 1.5));
    assert_eq!(
        (display.direction(), display.is_touch(), display.state("slip")),
        (Direction::RightToLeft, true, Some("open"))
    );
    // Its name says it all again.
    assert_eq!(find(display.name()).unwrap(), display);
    assert_eq!(find("9:16@960h").unwrap().width(), 540.0);
    assert_eq!(find("tablet-turned, pseudo").unwrap().language(), Some(PSEUDO));
    for (wrong, said) in [
        ("tabled", "did you mean `tablet`?"),
        ("desktop-turned", "not used rotated"),
        ("16:9@720", "16:9@720w"),
        ("390x844, slip.opened", "did you mean `slip.open`?"),
        ("390x844, text huge", "is not a display setting"),
        ("0x5", "within 1 and 1000000"),
        ("1:0@9h", "within 1 and 1000000"),
        ("nanx5", "within 1 and 1000000"),
    ] {
        let error = find(wrong).unwrap_err();
        assert!(error.to_string().contains(said), "{wrong}: {error}");
    }

    let file = "[[display]]\nname = \"bridge\"\nsize = [960, 600]\ninsets = [0, 24, 0, 0]\nturned = [24, 0, 0, 0]\ndensity = 2\ntouch = true\n\
                [[display]]\nname = \"pilot\"\nsize = [400, 300]\nturned = true\n";
    let own = Displays::from_toml(file).unwrap();
    let names: Vec<String> = own.all().iter().map(|d| d.name().to_owned()).collect();
    assert_eq!(names, ["bridge", "bridge-turned", "pilot", "pilot-turned"]);
    let turned = own.find("bridge-turned", plan.screen()).unwrap();
    assert_eq!((turned.width(), turned.insets().left, turned.density()), (600.0, 24.0, 2.0));
    let published = include_str!("../../../../docs/displays.schema.json");
    assert!(published == Displays::schema(), "`vantic displays --schema` writes docs/displays.schema.json");
    let schema = vantic_testkit::Schema::new(&Displays::schema());
    let valid = |text: &str| {
        let table = serde_json::to_value(toml::from_str::<toml::Table>(text).unwrap()).unwrap();
        schema.misfit(&table).is_none()
    };
    assert!(valid(file));
    for (from, to, line, said) in [
        ("size = [960, 600]", "size = [0, 1e9]", 1, "within 1 and 1000000"),
        ("[0, 24, 0, 0]", "[0, 700, 0, 0]", 1, "leave no space"),
        ("density = 2", "density = 50", 1, "within 0.1 and 20"),
        ("\"pilot\"", "\"bridge\"", 8, "already a display `bridge`"),
        ("\"pilot\"", "\"Pilot\"", 8, "not a name for a display"),
        ("touch = true", "toch = true", 7, "toch"),
        ("size = [400, 300]", "", 8, "size"),
        ("size = [400, 300]", "size = [400]", 10, ""),
    ] {
        let wrong = file.replacen(from, to, if line == 8 { 9 } else { 1 });
        let Err(DisplaysError::File { line: at, message }) = Displays::from_toml(&wrong) else {
            panic!("{to} was taken");
        };
        assert!(at == line && message.contains(said), "{to}: line {at}: {message}");
    }
    assert!(!valid(&file.replace("touch = true", "toch = true")) && Displays::from_toml("").is_err());
}

#[test]
fn the_matrix_has_every_combination_once_and_says_what_its_findings_have_in_common() {
    let text = "screen s {
        state menu: closed, open
        language he, right to left { t \"words\" }
        text t \"words\" { font 20; start = screen.start + 4; top = 0; height = 25 }
        view wide { left = t.left; top = 30; height = 8; width = if_open }
        let if_open = 40
        when menu.open { let if_open = 380 }
    }";
    let plan = plan(text);
    let screen = plan.screen();
    let bases = vec![size(300.0, 500.0), size(500.0, 300.0)];
    let both = [Direction::LeftToRight, Direction::RightToLeft];
    let matrix = Matrix::of(bases).text_scales([1.0, 2.0]).directions(both).all_of(screen);
    let displays = matrix.displays(screen).unwrap();
    // Two sizes, two scales, two states; own words in both directions, the language in its own.
    assert_eq!(displays.len(), 2 * 2 * 2 * 3);
    let names: std::collections::BTreeSet<&str> = displays.iter().map(Display::name).collect();
    assert_eq!(names.len(), displays.len());
    for display in &displays {
        let again = Displays::default().find(display.name(), screen).unwrap();
        assert_eq!((again.name(), variations(&again, screen)), (display.name(), variations(display, screen)));
        let placed = |display| plan.place(display, &PlainText).unwrap().frames;
        assert_eq!(placed(&again), placed(display));
    }
    let report = check(&plan, &displays, &PlainText).unwrap();
    let of = |code: Code| report.findings.iter().filter(move |f| f.code == code);
    let words = |code: Code| report.spread(of(code).next().unwrap()).words();
    assert_eq!(words(Code::Cut), "12 of 24 displays, all that are text 2");
    let outside: Vec<_> = of(Code::Outside).collect();
    assert!(outside.iter().all(|f| report.spread(f).all.contains(&"menu.open".to_owned())), "{outside:?}");
    assert!(matches!(
        matrix.clone().languages([Some("xx".to_owned())]).displays(screen),
        Err(MatrixError::Language(_))
    ));
    assert!(matrix.clone().text_scales([0.0]).displays(screen).is_err());
    let scales = (1..=4000).map(|i| f64::from(i) / 1000.0 + 0.5);
    assert_eq!(matrix.text_scales(scales).displays(screen), Err(MatrixError::TooMany(2 * 4000 * 2 * 2 * 2)));
}

/// The same findings and frames, whatever is looked at beside a display, and however many threads look.
#[test]
fn a_display_comes_out_the_same_alone_and_among_others() {
    for text in FILES {
        let plan = plan(text);
        let displays = Matrix::of(Displays::default().all()).text_scales([1.0, 1.7]).all_of(plan.screen());
        let displays = displays.displays(plan.screen()).unwrap();
        let all = check_as(&plan, &displays, &EvenText, CheckOptions::default()).unwrap();
        assert_eq!(all, check_as(&plan, &displays, &EvenText, CheckOptions::default()).unwrap());
        for (display, placement) in std::iter::zip(&displays, &all.placements) {
            let alone = plan.place(display, &EvenText).unwrap();
            let all = std::iter::zip(&alone.frames, &placement.frames);
            assert!(all.into_iter().all(same), "{}", display.name());
            let missed = |p: &vantic::plan::Placement| p.missed.iter().map(|m| m.rule).collect::<Vec<_>>();
            assert_eq!(missed(&alone), missed(placement), "{}", display.name());
        }
    }
}

/// Whether two frames differ by no more than rounding.
fn same((a, b): (&Option<vantic::geometry::Frame>, &Option<vantic::geometry::Frame>)) -> bool {
    let edges =
        |f: &Option<vantic::geometry::Frame>| f.map_or([0.0; 4], |f| [f.left, f.top, f.width, f.height]);
    a.is_some() == b.is_some() && std::iter::zip(edges(a), edges(b)).all(|(a, b)| (a - b).abs() <= 1e-6)
}

fn condition() -> impl Strategy<Value = Condition> {
    let number = prop::sample::select(vec![100.0, 250.0, 400.0, 720.0]);
    let property =
        prop::sample::select(vec![Property::ScreenWidth, Property::ScreenHeight, Property::SafeHeight]);
    let order = prop::sample::select(vec![Order::Below, Order::AtMost, Order::AtLeast, Order::Above]);
    let compare = (property, order.clone(), number).prop_map(|(p, o, n)| Condition::Compare(p, o, n));
    let aspect = (order, prop::sample::select(vec![0.5, 1.0, 16.0 / 9.0]))
        .prop_map(|(o, n)| Condition::Compare(Property::Aspect, o, n));
    let word = prop::sample::select(vec![Condition::Portrait, Condition::Touch, Condition::RightToLeft]);
    let one = prop_oneof![compare, aspect, word];
    (one.clone(), one, 0..3).prop_map(|(a, b, how)| match how {
        0 => a,
        1 => Condition::All(vec![a, Condition::Not(Box::new(b))]),
        _ => Condition::Any(vec![a, b]),
    })
}

proptest! {
    #![proptest_config(vantic_testkit::cases(60))]

    /// Every display meets a combination of bands that was looked at when the plan was made: a rule that
    /// reads what is hidden there has been refused, or it is not hidden on any display.
    #[test]
    fn what_is_hidden_on_some_display_is_refused_and_else_on_none(
        conditions in (condition(), condition()),
        sides in prop::collection::vec((prop_oneof![40.0..1500.0_f64, prop::sample::select(vec![100.0, 250.0, 400.0, 720.0])], prop_oneof![40.0..1500.0_f64, prop::sample::select(vec![100.0, 200.0, 400.0, 800.0])], any::<[bool; 3]>()), 12),
    ) {
        let mut s = ScreenBuilder::new("s");
        let first = s.band("first", conditions.0.clone());
        let second = s.band("second", conditions.1.clone());
        let [_, open] = s.state("menu", ["closed", "open"]);
        let a = s.view("a");
        let b = s.view("b");
        for view in [a, b] {
            s.rule(view, view.left().equals(0.0)).rule(view, view.top().equals(0.0));
        }
        s.rule(b, b.width().at_least(a.width()).labelled("reads"));
        s.set(a, Setting::Depth(1.0));
        // Where `first` holds without `second`, or the menu is open without either, nothing is there to be
        // read.
        s.hide_when(first, a, false).show_when(second, a);
        s.hide_when(open, a, false).drop_when(open, b, "reads");
        s.rule_when(first, b, b.height().equals(SCREEN.height() * 0.5));
        let screen = s.finish().unwrap();
        let bad = |d: &Display| conditions.0.holds(d) && !conditions.1.holds(d);
        let displays: Vec<Display> = sides
            .iter()
            .map(|&(width, height, [touch, turned, open])| {
                let direction = if turned { Direction::RightToLeft } else { Direction::LeftToRight };
                let insets = vantic::display::Insets { top: 12.0, ..vantic::display::Insets::default() };
                let display = size(width, height)
                    .with_insets(insets)
                    .unwrap()
                    .with_touch(touch)
                    .with_direction(direction);
                if open { display.with_state("menu", "open") } else { display }
            })
            .collect();
        match Plan::new(screen) {
            Err(error) => prop_assert!(error.to_string().contains("`b.reads` reads `a`")),
            Ok(plan) => {
                for display in &displays {
                    prop_assert!(!bad(display), "{:?} was not looked at", display);
                    prop_assert!(plan.place(display, &PlainText).is_ok());
                }
            }
        }
    }

    /// The longer words are words of the same number, about 40% longer, and none is as it was.
    #[test]
    fn pseudo_words_are_longer_and_as_many(words in "[a-zA-Z]{1,12}([a-z]{1,9}){0,5}") {
        let mut s = ScreenBuilder::new("s");
        let view = s.text("t", &words, 10.0);
        let screen = s.finish().unwrap();
        let pseudo = screen.words_in(view, Some(PSEUDO)).unwrap();
        prop_assert_eq!(pseudo.split(' ').count(), words.split(' ').count());
        for (was, is) in std::iter::zip(words.split(' '), pseudo.split(' ')) {
            prop_assert_eq!(is.chars().count(), (was.chars().count() * 14).div_ceil(10));
        }
        prop_assert!(screen.words_in(view, Some("fi")).unwrap() == words);
    }

    /// However a window is dragged, over bands, directions, languages and states, the frames are those of a
    /// placement.
    #[test]
    fn dragged_frames_are_those_of_a_placement(
        file in 0..FILES.len(),
        steps in prop::collection::vec((200_u16..1500, 300_u16..1200, any::<prop::sample::Index>(), 0_u8..60), 1..12),
    ) {
        let plan = plan(FILES[file]);
        let mut live = plan.live();
        for (width, height, which, scroll) in steps {
            let display = size(f64::from(width), f64::from(height))
                .with_scroll("list", 0.0, f64::from(scroll))
                .unwrap();
            let matrix = Matrix::of(vec![display]).text_scales([1.0, 1.4]);
            let all =
                matrix.directions([Direction::LeftToRight, Direction::RightToLeft]).all_of(plan.screen());
            let all = all.displays(plan.screen()).unwrap();
            let display = &all[which.index(all.len())];
            let placed = plan.place(display, &PlainText).unwrap();
            let expected = &placed.frames;
            let frames = live.frames(display, &PlainText).unwrap();
            let found = frames.all();
            let looks = |v| vantic::plan::Appearance { fits: None, ..placed.look(v) };
            prop_assert!(plan.screen().views().all(|(v, _)| frames.look(v) == looks(v)));
            let painted = |v| frames.is_painted(v) == placed.is_painted(v);
            prop_assert!(plan.screen().views().all(|(v, _)| painted(v)));
            prop_assert!(
                std::iter::zip(found, expected).all(same),
                "{}: {found:?}\n{expected:?}",
                display.name()
            );
        }
    }
}
