//! Pictures and measured text: read back with a general SVG reader.

#[path = "../../vantic/tests/all/random/mod.rs"]
mod random;

use proptest::prelude::*;
use resvg::usvg;
use vantic::check::check;
use vantic::display::{Display, DisplayQuantity, Displays};
use vantic::plan::Plan;
use vantic::resolve::read;
use vantic::sweep::{EventKind, GridRange, Range, sweep, sweep_grid};
use vantic::text::{Measure, TextRequest};
use vantic_draw::{
    FontText, MAX_TRACKS, Options, draw_display, draw_map, draw_sheet, draw_tracks, review_page,
};

const FILES: [&str; 6] = [
    include_str!("../../../demo/departures.vantic"),
    include_str!("../../../demo/boarding_pass.vantic"),
    include_str!("../../../demo/faults/overlap.vantic"),
    include_str!("../../../demo/faults/lost_view.vantic"),
    include_str!("../../../demo/muster_list.vantic"),
    include_str!("../../../demo/quay_kiosk.vantic"),
];

fn fonts() -> usvg::Options<'static> {
    let mut options = usvg::Options { font_family: "DejaVu Sans".into(), ..Default::default() };
    options.fontdb_mut().load_font_data(dejavu::sans::regular().to_vec());
    options.fontdb_mut().load_font_data(dejavu::sans::bold().to_vec());
    options
}

/// The words of a picture with the boxes they cover.
fn words(svg: &str, options: &usvg::Options<'_>) -> Vec<(String, usvg::Rect)> {
    fn gather(group: &usvg::Group, all: &mut Vec<(String, usvg::Rect)>) {
        for node in group.children() {
            match node {
                usvg::Node::Group(inner) => gather(inner, all),
                usvg::Node::Text(text) => {
                    let words: String = text.chunks().iter().map(|c| c.text()).collect();
                    all.push((words, text.abs_bounding_box()));
                }
                _ => {}
            }
        }
    }
    let tree = usvg::Tree::from_str(svg, options).unwrap();
    let mut all = Vec::new();
    gather(tree.root(), &mut all);
    all
}

fn overlap(a: &usvg::Rect, b: &usvg::Rect) -> bool {
    // A hair's breadth is not seen.
    a.left() + 0.5 < b.right()
        && b.left() + 0.5 < a.right()
        && a.top() + 0.5 < b.bottom()
        && b.top() + 0.5 < a.bottom()
}

#[test]
fn no_two_labels_overlap_and_every_view_is_named() {
    let options = fonts();
    let text = FontText::new();
    let displays: Vec<Display> = vantic::display::CATALOGUE.iter().flat_map(|c| c.orientations()).collect();
    for file in FILES {
        let plan = Plan::new(read(file).unwrap().screen).unwrap();
        let screen = plan.screen();
        for (index, display) in displays.iter().enumerate() {
            let report = check(&plan, std::slice::from_ref(display), &text).unwrap();
            // Distances and guides only add labels.
            for rules in if index % 3 == 0 { &[false, true][..] } else { &[true] } {
                let rules = *rules;
                let picture =
                    draw_display(screen, &report, 0, &text, Options { rules, guides: rules }).unwrap();
                let all = words(picture.svg(), &options);
                // What stands on the screen itself is the screen's business: labels are the rest.
                let content: Vec<&str> =
                    screen.views().filter_map(|(_, v)| v.text()).map(|t| t.words.as_str()).collect();
                let is_content = |w: &str| content.iter().any(|c| c.contains(w));
                let labels: Vec<_> = all.iter().filter(|(w, _)| !is_content(w)).collect();
                for (i, a) in labels.iter().enumerate() {
                    for b in &labels[i + 1..] {
                        assert!(
                            !overlap(&a.1, &b.1),
                            "{} on {}: {a:?} covers {b:?}",
                            screen.name(),
                            display.name()
                        );
                    }
                    let inside = a.1.left() >= 0.0
                        && a.1.right() <= 1280.0
                        && a.1.top() >= 0.0
                        && a.1.bottom() <= 800.0;
                    assert!(inside, "{a:?} leaves the picture");
                }
                for (view, _) in screen.views() {
                    let path = screen.path(view);
                    let start = path.chars().take(8).collect::<String>();
                    assert!(
                        labels.iter().any(|(w, _)| w.contains(&path) || w.contains(&start)),
                        "{path} is not named"
                    );
                }
            }
        }
        let report = check(&plan, &displays, &text).unwrap();
        let sheet = draw_sheet(screen, &report, &text);
        let captions = words(sheet.svg(), &options);
        for display in &displays {
            assert!(captions.iter().any(|(w, _)| w == display.name()), "{} has no caption", display.name());
        }
        assert_eq!(&sheet.png().unwrap()[1..4], b"PNG");
    }
}

#[test]
fn states_are_given_in_words_as_well_as_colour() {
    let text = FontText::new();
    let plan = Plan::new(read(FILES[3]).unwrap().screen).unwrap();
    let small = Displays::default().find("handset-small", plan.screen()).unwrap();
    let report = check(&plan, &[small], &text).unwrap();
    let all =
        words(draw_display(plan.screen(), &report, 0, &text, Options::default()).unwrap().svg(), &fonts());
    for said in ["✕ 1 error", "▶ status is off the screen", "✕ outside"] {
        assert!(all.iter().any(|(w, _)| w.contains(said)), "`{said}` is not in the picture: {all:?}");
    }
}

#[test]
fn what_is_rotated_is_drawn_rotated_and_what_is_hidden_is_not_drawn() {
    let text = FontText::new();
    let draw = |rules: &str, last: &str| {
        let source = format!(
            "screen s {{ view a {{ left = 100; top = 100; size = (80, 40); {rules}; text t \"one two three\" {{ font 20; left = 110; top = 105; width = 45; lines 2 }} }}; {last} }}"
        );
        let plan = Plan::new(read(&source).unwrap().screen).unwrap();
        let report = check(&plan, &[Display::new(400.0, 300.0).unwrap()], &text).unwrap();
        draw_display(plan.screen(), &report, 0, &text, Options::default()).unwrap()
    };
    let (plain, turned) = (draw("rotate 0deg", ""), draw("rotate 90deg", ""));
    assert!(!plain.svg().contains("matrix(") && turned.svg().matches("matrix(").count() >= 2);
    // The box of what is drawn with the matrix is the painted one: 40 wide and 80 high.
    let tree = usvg::Tree::from_str(turned.svg(), &fonts()).unwrap();
    let mut boxes = Vec::new();
    fn walk(group: &usvg::Group, boxes: &mut Vec<(f32, f32, bool)>) {
        for node in group.children() {
            let turned = node.abs_transform().kx != 0.0;
            match node {
                usvg::Node::Group(inner) => walk(inner, boxes),
                usvg::Node::Path(path) => {
                    let area = path.abs_bounding_box();
                    boxes.push((area.width(), area.height(), turned));
                }
                _ => {}
            }
        }
    }
    walk(tree.root(), &mut boxes);
    let scale = boxes.iter().filter(|b| b.2).map(|b| b.0.max(b.1)).fold(0.0, f32::max) / 80.0;
    assert!(
        boxes.iter().any(|(w, h, t)| *t && (w / scale - 40.0).abs() < 0.1 && (h / scale - 80.0).abs() < 0.1),
        "{boxes:?}"
    );
    let all = words(plain.svg(), &fonts());
    assert!(all.iter().any(|(w, _)| w == "two") && !all.iter().any(|(w, _)| w == "three"), "{all:?}");
    // An image is reported by its diagonals.
    let lines = |last: &str| draw("rotate 0deg", last).svg().matches("<polyline").count();
    let image = lines("image i { natural (60, 40); left = 0; top = 200 }");
    assert_eq!(image, lines("view i { size = (60, 40); left = 0; top = 200 }") + 2);
}

#[test]
fn hostile_words_stay_words_in_a_picture() {
    let text = FontText::new();
    let source = r#"screen s { text a "</text><script>&\"'\u{1}" { font 20; left = 0; top = 0 } }"#;
    let plan = Plan::new(read(source).unwrap().screen).unwrap();
    let report = check(&plan, &[Display::new(400.0, 300.0).unwrap()], &text).unwrap();
    let picture = draw_display(plan.screen(), &report, 0, &text, Options::default()).unwrap();
    assert!(!picture.svg().contains("<script"));
    let all = words(picture.svg(), &fonts());
    assert!(all.iter().any(|(w, _)| w.contains("</text><script>&\"'")), "{all:?}");
}

#[test]
fn text_is_measured_as_it_is_shaped() {
    let fonts = FontText::new();
    let measure = |words: &str, font: f64, width: Option<f64>| {
        fonts.measure(&TextRequest { width, ..TextRequest::new(words, font) })
    };
    let one = measure("Departures from Quay 4", 20.0, None);
    assert_eq!((one.lines, one.height), (1, 25.0));
    assert!(one.width > 200.0 && one.width < 260.0, "{one:?}");
    // Scaling the font scales the measure; a narrower width never gives fewer lines.
    let double = measure("Departures from Quay 4", 40.0, None);
    assert!((double.width - 2.0 * one.width).abs() < 1.0, "{double:?}");
    let mut lines = 1;
    for width in (40..=250).rev().step_by(5) {
        let wrapped = measure("Departures from Quay 4", 20.0, Some(f64::from(width)));
        assert!(
            wrapped.lines >= lines && wrapped.height == 25.0 * f64::from(wrapped.lines),
            "{width}: {wrapped:?}"
        );
        assert!(wrapped.width <= f64::from(width).max(one.longest) + 0.01, "{width}: {wrapped:?}");
        assert_eq!(wrapped.longest, one.longest);
        lines = wrapped.lines;
    }
    assert_eq!(lines, 4, "every word on a line of its own");
    assert_eq!(measure("", 20.0, None).width, 0.0);
}

proptest! {
    #![proptest_config(vantic_testkit::cases(16))]

    /// Whatever the screen, a picture can be read back, names its views and keeps to its edges.
    #[test]
    fn any_screen_can_be_drawn(
        screen in random::screens(),
        plain in random::plain_screens(),
        display in random::displays(),
    ) {
        let (options, text) = (fonts(), FontText::new());
        for screen in [screen, plain] {
            let plan = Plan::new(screen).unwrap();
            let report = check(&plan, std::slice::from_ref(&display), &text).unwrap();
            let picture =
                draw_display(plan.screen(), &report, 0, &text, Options { rules: true, ..Default::default() })
                    .unwrap();
            let all = words(picture.svg(), &options);
            let painted = plan.screen().views().filter(|(v, _)| report.placements[0].painted[v.index()]);
            for (view, _) in painted {
                let path = plan.screen().path(view);
                prop_assert!(
                    all.iter().any(|(w, _)| w.contains(&path)),
                    "{} is not named in {:?}",
                    path,
                    all
                );
            }
            prop_assert!(picture.png().unwrap().len() > 1000);
            let sheet = draw_sheet(plan.screen(), &report, &text);
            prop_assert!(words(sheet.svg(), &options).iter().any(|(w, _)| w == display.name()));
        }
    }
}

/// What is scrolled away is not drawn, what is half of it is cut, and what sticks lies on top of what it
/// covers.
#[test]
fn a_scrolled_list_is_drawn_as_it_is_seen() {
    let source = read(include_str!("../../../demo/sailings.vantic")).unwrap();
    let plan = Plan::new(source.screen).unwrap();
    let fonts = FontText::new();
    let drawn = |offset: f64| {
        let display = Displays::default().find("handset-large", plan.screen()).unwrap();
        let display = display.with_scroll("list", 0.0, offset).unwrap();
        let report = check(&plan, &[display], &fonts).unwrap();
        draw_display(plan.screen(), &report, 0, &fonts, Options::default()).unwrap().svg().to_owned()
    };
    let (rest, there) = (drawn(0.0), drawn(300.0));
    let count = |svg: &str, words: &str| svg.matches(&format!(">{words}<")).count();
    // At rest two days and the date of the third are in sight; then the rest of the first and all of the
    // others.
    assert_eq!((count(&rest, "Friday"), count(&rest, "Sunday"), count(&rest, "08:40")), (1, 1, 2));
    assert_eq!((count(&there, "Friday"), count(&there, "Sunday"), count(&there, "08:40")), (1, 1, 2));
    // The fourth of the first day is under its date, which is on top.
    assert_eq!((count(&rest, "15:05"), count(&there, "15:05"), count(&there, "18:20")), (2, 2, 3));
    // The button covers how many places are free.
    assert_eq!((count(&there, "free"), count(&there, "12 free")), (2, 2));
    let place = |svg: &str, name: &str| svg.find(&format!(">{name}<")).is_some();
    assert!(place(&rest, "list.friday.first") && !place(&there, "list.friday.first"));
    assert!(there.matches("<clipPath").count() > 6, "what is cut is clipped");
}

/// The page names nothing is off the screen itself, runs nothing, and shows every display with what is found
/// on it.
#[test]
fn the_page_for_a_review_stands_by_itself() {
    let text = "screen s {
        language he, right to left { a.t \"<b>לא\" }
        view a { pin left, right, top to screen; height = 40
            text t \"</svg><script>alert(1)</script> & \\\"more\\\" https://x.invalid\" { font 20; start = parent.start; top = parent.top }
        }
        view b { left = 0; top = 20; size = 60 }
    }";
    let plan = Plan::new(read(text).unwrap().screen).unwrap();
    let displays = vantic::display::Matrix::of(vec![
        Display::new(200.0, 300.0).unwrap(),
        Display::new(900.0, 300.0).unwrap(),
    ]);
    let displays = displays.all_of(plan.screen()).displays(plan.screen()).unwrap();
    let fonts = FontText::new();
    let report = check(&plan, &displays, &fonts).unwrap();
    let page = review_page(plan.screen(), &report, &fonts);
    for outside in ["<script", "<link", "<img", "src=", "@import", "xlink", "http://", "javascript:"] {
        assert!(!page.contains(outside), "{outside}");
    }
    assert_eq!(
        page.matches("https://").count(),
        page.matches("https://x.invalid<").count(),
        "only the words say so"
    );
    assert!(page.split("url(").skip(1).all(|url| url.starts_with('#')));
    for (index, display) in displays.iter().enumerate() {
        let section =
            page.split(&format!("id=\"d{index}\"")).nth(1).unwrap().split("</section>").next().unwrap();
        let here = report.open().filter(|f| f.severity != vantic::finding::Severity::Note);
        let here: Vec<_> = here.filter(|f| f.displays.contains(&index)).collect();
        assert!(section.contains(display.name()) && !here.is_empty());
        assert_eq!(section.matches("<li ").count(), here.len(), "{}", display.name());
        // Each of them has its number on the picture.
        assert_eq!(section.matches("font-weight=\"bold\" text-anchor=\"middle\"").count(), here.len());
    }
    let ids: Vec<&str> = page.split(" id=\"").skip(1).map(|rest| rest.split('"').next().unwrap()).collect();
    let unique: std::collections::BTreeSet<&&str> = ids.iter().collect();
    assert_eq!(unique.len(), ids.len(), "{ids:?}");
    // Words are those of the language, and marks at both ends keep a full stop where reading ends.
    assert!(page.contains("\u{200F}&lt;b&gt;לא\u{200F}"));
}

#[test]
fn tracks_name_views_bands_and_lines_at_their_places_and_maps_what_is_wrong() {
    let (options, text) = (fonts(), FontText::new());
    let display = Display::new(700.0, 620.0).unwrap();
    for file in FILES {
        let plan = Plan::new(read(file).unwrap().screen).unwrap();
        let range = Range { along: DisplayQuantity::Width, from: 300.0, to: 1100.0, gap: 0.0 };
        let swept = sweep(&plan, &display, range, &text).unwrap();
        let svg = draw_tracks(plan.screen(), &swept).svg().to_owned();
        let said = words(&svg, &options);
        let lanes = plan.screen().views().filter(|(view, _)| {
            let path = plan.screen().path(*view);
            said.iter()
                .any(|(w, _)| w == &path || w.ends_with('…') && path.starts_with(w.trim_end_matches('…')))
        });
        assert!(
            lanes.count() >= plan.screen().views().count().min(MAX_TRACKS) - 2,
            "{}",
            plan.screen().name()
        );
        // The width of the picture less its margins is the range.
        let across = |at: f64| 220.0 + (1240.0 - 220.0) * (at - 300.0) / 800.0;
        for event in swept.events.iter().filter(|e| e.kind == EventKind::Lines) {
            let marks =
                said.iter().filter(|(w, _)| w == "L").map(|(_, b)| f64::from(b.left() + b.right()) / 2.0);
            assert!(marks.into_iter().any(|x| (x - across(event.at)).abs() < 1.5), "{event:?}");
        }
        for event in swept.events.iter().filter(|e| e.kind == EventKind::Band) {
            assert!(said.iter().any(|(w, _)| w.starts_with(&event.text.replace('`', ""))), "{event:?}");
        }
        for (i, (word, a)) in said.iter().enumerate() {
            let letters = |w: &str| w.chars().count() == 1;
            let clash =
                said[i + 1..].iter().find(|(other, b)| !letters(word) && !letters(other) && overlap(a, b));
            assert!(clash.is_none(), "{word} and {clash:?} overlap in {}", plan.screen().name());
        }
    }
    let plan = Plan::new(read(FILES[2]).unwrap().screen).unwrap();
    let (widths, heights) = ((240.0, 900.0), (400.0, 900.0));
    let range = GridRange { widths, heights, lines: 9, gap: 0.0 };
    let rows = sweep_grid(&plan, &display, range, &text).unwrap();
    let map = draw_map(plan.screen(), widths, heights, &rows).svg().to_owned();
    let said = words(&map, &options);
    assert!(
        said.iter().any(|(w, _)| w == "warning overlap")
            && said.iter().filter(|(w, _)| w == "1").count() == 2
    );
    // The hatching of the overlap of the second port ends where the sweep says it does.
    let overlap =
        rows[4].1.problems.iter().filter(|t| t.code.name() == "overlap").map(|t| t.to).fold(0.0, f64::max);
    let right = 84.0 + 780.0 * (overlap - 240.0) / 660.0;
    let ends = map.split("<rect ").filter(|r| r.contains("clash")).filter_map(|r| {
        let number =
            |name: &str| r.split(&format!("{name}=\"")).nth(1)?.split('"').next()?.parse::<f64>().ok();
        Some(number("x")? + number("width")?)
    });
    assert!(ends.into_iter().any(|x| (x - right).abs() < 0.1), "{right}");
}
