//! Screens that are based on others: they come out as their base does, but for what they say themselves.

use std::collections::HashMap;
use vantic::check::check;
use vantic::display::Displays;
use vantic::files::Assembled;
use vantic::plan::Plan;
use vantic::resolve::{Source, read};
use vantic::syntax::SourceErrors;
use vantic::text::EvenText;

const FILES: [&str; 6] = [
    include_str!("../../../../demo/departures.vantic"),
    include_str!("../../../../demo/muster_list.vantic"),
    include_str!("../../../../demo/quay_kiosk.vantic"),
    include_str!("../../../../demo/quay_wall.vantic"),
    include_str!("../../../../demo/sailings.vantic"),
    include_str!("../../../../cases/screens/booking.vantic"),
];

/// Files by name, the first of which is the screen's own.
fn assembled(files: &[(&str, &str)]) -> Assembled {
    let by_name: HashMap<&str, &str> = files.iter().copied().collect();
    Assembled::new(files[0].0, files[0].1, |from, called| {
        assert!(by_name.contains_key(from), "{from} was never loaded");
        let text = by_name.get(called).ok_or_else(|| format!("there is no `{called}`"))?;
        Ok((called.to_owned(), (*text).to_owned()))
    })
}

fn source(files: &[(&str, &str)]) -> Source {
    assembled(files).read().unwrap_or_else(|e| panic!("{e}"))
}

/// What is wrong: in which file, on which line, and what.
fn wrong(files: &[(&str, &str)]) -> Vec<(String, usize, String)> {
    let all = assembled(files);
    let errors: SourceErrors = all.read().unwrap_err();
    let told = errors.errors.iter().map(|e| {
        let place = all.place(&e.span);
        (place.name.to_owned(), place.line(), e.message.clone())
    });
    told.collect()
}

#[test]
fn a_page_that_says_nothing_is_its_base_and_one_on_that_too() {
    for base in FILES {
        let alone = Plan::new(read(base).unwrap().screen).unwrap();
        let page = source(&[
            ("page", "screen page from \"between\" {}"),
            ("between", "screen between from \"base\" {}"),
            ("base", base),
        ]);
        assert_eq!(page.screen.name(), "page");
        // It prints itself as one file.
        let printed = read(&page.screen.to_string()).unwrap().screen;
        let (page, printed) = (Plan::new(page.screen).unwrap(), Plan::new(printed).unwrap());
        for display in Displays::default().all() {
            let [page, printed_there, alone_there] =
                [&page, &printed, &alone].map(|plan| plan.place(&display, &EvenText).unwrap().frames);
            assert_eq!(page, alone_there, "{}", display.name());
            // By name, since what stands in blocks further down is printed where it belongs.
            let edges = |f: Option<vantic::geometry::Frame>| {
                f.map_or([0.0; 4], |f| [f.left, f.top, f.width, f.height])
            };
            for (view, _) in alone.screen().views() {
                let there = printed.screen().find(&alone.screen().path(view)).unwrap();
                let (a, b) = (alone_there[view.index()], printed_there[there.index()]);
                let near = std::iter::zip(edges(a), edges(b)).all(|(a, b)| (a - b).abs() < 1e-6);
                assert!(near && a.is_some() == b.is_some(), "{}: {a:?} {b:?}", display.name());
            }
        }
    }
}

const SHELL: &str = "screen shell {
    ladder fit > rhythm
    band narrow: screen.width < 560
    band medium: screen.width 560..900
    band wide: screen.width >= 900
    let edge = 16
    part mark { size = 8 }
    view head { pin left, right, top to screen; tall: height = 56; font_free: width <= 4000
        text title \"Ferry line\" { font 20; start = parent.start + edge; top = parent.top }
        view clock { end = parent.end - edge; top = parent.top; size = 20 }
    }
    when narrow { in head { tall: height = 48 } }
    language fi { head.title \"Laivat\" }
    expect on \"400x800\" { head.height = 48 }
    accept overlap: head.title, head.clock \"narrow ones\"
}";

const PAGE: &str = "screen booking from \"shell\" {
    adopt wide
    let edge = 20
    hide head.clock
    in head {
        drop font_free
        view badge { use mark; end = parent.end - edge; top = parent.top }
    }
    in head.title { words \"Booking\"; font 30 }
    view hero { top = head.bottom; pin left, right to screen; place: height = 40% of screen.width ~ rhythm }
    when wide { in hero { place: height = 10% of screen.width }; in head { tall: height = 90 } }
    language fi { head.title \"Varaus\" }
}";

#[test]
fn a_page_changes_its_base_and_follows_what_the_base_changes() {
    let place = |shell: &str, page: &str, on: &str| {
        let source = source(&[("page", page), ("shell", shell)]);
        let plan = Plan::new(source.screen).unwrap();
        let display = Displays::default().find(on, plan.screen()).unwrap();
        let placement = plan.place(&display, &EvenText).unwrap();
        move |view: &str| {
            let frame = placement.frame(plan.screen().find(view).unwrap());
            frame.map(|f| [f.left, f.top, f.width, f.height])
        }
    };
    let narrow = place(SHELL, PAGE, "480x800");
    // The base's own views go by the base's bands, adopted or not; the page's by those it adopts.
    assert_eq!(narrow("head"), Some([0.0, 0.0, 480.0, 48.0]));
    assert_eq!(narrow("head.title"), Some([20.0, 0.0, 105.0, 37.5]));
    assert_eq!(narrow("head.badge"), Some([452.0, 0.0, 8.0, 8.0]));
    assert_eq!((narrow("head.clock"), narrow("hero")), (None, Some([0.0, 48.0, 480.0, 192.0])));
    let wide = place(SHELL, PAGE, "1000x800, fi");
    assert_eq!(
        (wide("head"), wide("hero")),
        (Some([0.0, 0.0, 1000.0, 90.0]), Some([0.0, 90.0, 1000.0, 100.0]))
    );
    assert_eq!(wide("head.title").map(|f| f[2]), Some(90.0));

    // A band that moves moves for the page; a height that changes changes under it.
    let later = SHELL.replace("band wide: screen.width >= 900", "band wide: screen.width >= 700");
    let later = later.replace("tall: height = 56", "tall: height = 60");
    assert_eq!(place(&later, PAGE, "720x800")("head"), Some([0.0, 0.0, 720.0, 90.0]));
    assert_eq!(place(&later, PAGE, "600x800")("hero"), Some([0.0, 60.0, 600.0, 240.0]));

    let expects = PAGE
        .replace("adopt wide", "adopt wide; expect on \"480x800\" { head.height = 48; head.clock hidden }");
    let met = |page: &str| {
        vantic::testing::assert_screen_expectations(
            source(&[("page", page), ("shell", SHELL)]).screen,
            &EvenText,
        )
    };
    assert!(met(&expects).is_ok());
    assert!(
        met(&expects.replace("height = 48", "height = 50")).unwrap_err().to_string().contains("2 too short")
    );
    // What the base expects of itself, and accepts, is no matter of the page.
    let page = Plan::new(source(&[("page", PAGE), ("shell", SHELL)]).screen).unwrap();
    let report = check(&page, &[vantic::display::Display::new(400.0, 800.0).unwrap()], &EvenText).unwrap();
    let told: Vec<String> = report.open().map(|f| f.message(page.screen())).collect();
    assert!(told.iter().all(|m| !m.contains("accepts nothing") && !m.contains("expected")), "{told:?}");
}

#[test]
fn an_error_is_reported_in_the_file_that_it_is_in() {
    let found = |page: &str| wrong(&[("page", page), ("shell", SHELL)]);
    let one = |page: &str| {
        let mut all = found(page);
        assert_eq!(all.len(), 1, "{all:?}");
        all.remove(0)
    };
    let page = |line: &str| format!("screen page from \"shell\" {{\nadopt wide\n{line}\n}}");
    for (line, said) in [
        ("when narrow {}", "`narrow` is a band of the base that is not adopted"),
        ("view a { only in medium }", "`medium` is a band of the base that is not adopted"),
        ("adopt medium", "`adopt` is given twice"),
        ("ladder rhythm > fit", "a screen has one ladder"),
        ("band narrow: screen.width < 9", "there is already a band `narrow`"),
        ("view head {}", "there is already a view `head`"),
        ("in heat { top = 3 }", "there is no view `heat`"),
        ("in head { words \"x\" }", "`head` is no text, so it has no `words`"),
        ("in head { drop tal }", "there is no rule `tal` to drop"),
        ("text t \"x\" { font 9; words \"y\" }", "words behind its name"),
    ] {
        let (file, at, message) = one(&page(line));
        assert!(file == "page" && at == 3 && message.contains(said), "{line}: {file} {at} {message}");
    }
    assert!(one("screen page from \"shell\" {\nadopt huge }").2.contains("there is no band `huge`"));
    let broken = SHELL.replace("top = parent.top; size = 20", "top = parant.top; size = 20");
    let told = wrong(&[("page", &page("view a { top = heat.top }")), ("shell", &broken)]);
    let places: Vec<_> = told.iter().map(|(file, line, _)| (file.as_str(), *line)).collect();
    assert_eq!(places, [("page", 3), ("shell", 10)]);
    // What is based on itself is reported with both places; what is not there, where it is named.
    let all =
        assembled(&[("page", "screen page from \"shell\" {}"), ("shell", "screen shell\n from \"page\" {}")]);
    let error = all.read().unwrap_err().errors.remove(0);
    let (here, there) = (all.place(&error.span), all.place(&error.related.unwrap().0));
    assert_eq!((here.name, here.line(), there.name, there.line()), ("shell", 2, "page", 1));
    assert!(error.message.contains("`page` is based on itself"));
    assert_eq!(one("screen page from \"\" {}").2, "there is no ``");
    assert!(
        read("screen page from \"shell\" {}").unwrap_err().errors[0]
            .message
            .contains("which has to be read with it")
    );
    assert!(read("screen page { adopt wide }").unwrap_err().to_string().contains("no base to adopt"));
    let deep: Vec<(String, String)> =
        (0..30).map(|i| (format!("f{i}"), format!("screen s{i} from \"f{}\" {{}}", i + 1))).collect();
    let deep: Vec<(&str, &str)> = deep.iter().map(|(name, text)| (name.as_str(), text.as_str())).collect();
    assert!(wrong(&deep)[0].2.contains("too many bases of one another: the limit is 16"));
}
