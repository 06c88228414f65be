//! Drawings: read from JSON and SVG, rules read off them, and held against the rules.

use proptest::prelude::*;
use vantic::display::{Display, Displays};
use vantic::drawing::{Drawing, DrawingError, DrawnKind, DrawnView, MAX_DRAWN_VIEWS};
use vantic::drift::drift;
use vantic::files::Assembled;
use vantic::fix::edited;
use vantic::fix::follow_drawing;
use vantic::geometry::{Direction, Frame};
use vantic::infer::{InferError, Inferred, infer};
use vantic::plan::Plan;
use vantic::resolve::read;
use vantic::text::PlainText;

/// What is drawn: on a handset; on a handset and a tablet; turned as well.
const DRAWN: [&[&str]; 3] =
    [&["handset-large"], &["handset-large", "tablet"], &["handset-large", "tablet", "handset-large-turned"]];

pub(crate) fn plan(text: &str) -> Plan {
    Plan::new(read(text).unwrap_or_else(|error| panic!("{error}\n{text}")).screen).unwrap()
}

fn draw(plan: &Plan, display: &Display) -> Drawing {
    Drawing::of(&plan.place(display, &PlainText).unwrap(), plan.screen()).unwrap()
}

pub(crate) fn draw_on(plan: &Plan, names: &[&str]) -> Vec<Drawing> {
    let known = Displays::default();
    names.iter().map(|name| draw(plan, &known.find(name, plan.screen()).unwrap())).collect()
}

/// How many of the views that one plan places are where another one places them, to a pixel, on all displays of the catalogue
/// but some, in both directions of reading; and how many there are.
fn recovered(original: &Plan, inferred: &Plan, but: &[&str]) -> (usize, usize) {
    let (mut alike, mut all) = (0, 0);
    let displays = Displays::default().all();
    let directions = [Direction::LeftToRight, Direction::RightToLeft];
    let read =
        displays.iter().flat_map(|display| directions.map(|way| (way, display.clone().with_direction(way))));
    for (way, display) in read {
        if way == Direction::LeftToRight && but.contains(&display.name()) {
            continue;
        }
        let (wanted, got) = (draw(original, &display), draw(inferred, &display));
        for view in wanted.views() {
            let is_near = |frame: Frame| {
                let (a, b) = (view.frame, frame);
                let sides = [a.left - b.left, a.top - b.top, a.right() - b.right(), a.bottom() - b.bottom()];
                sides.iter().all(|by| by.abs() <= 1.0)
            };
            all += 1;
            alike += usize::from(got.frame(&view.path).is_some_and(is_near));
        }
    }
    (alike, all)
}

/// What is inferred for the swimming hall, drawn on a handset and a tablet.
const POOL: &str = "screen inferred {
    view hall { pin start, end, top, bottom to screen }
    view clock {
        pin top 24 to safe
        height = 96
        center_x = safe.center_x
        width = 50% of safe.width
        text time \"09:42\" { font 40; center = parent.center }
    }
    view lanes {
        row gap 8, align stretch
        below clock by 24
        pin start 24, end 24 to safe
        height = 40% of safe.height
        view fast { width = 25% of parent.width }
        view open {}
        view slow { pin end to parent; width = fast.width }
    }
    text note \"Lanes close at nine\" { font 14; below lanes by 16; center_x = safe.center_x }
}
";

/// Screens by the folder that they are in.
pub(crate) fn screens(folder: &str) -> Vec<(String, String)> {
    let folder = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("../..").join(folder);
    let mut all: Vec<_> = std::fs::read_dir(folder).unwrap().map(|entry| entry.unwrap().path()).collect();
    all.retain(|path| path.extension().is_some_and(|ending| ending == "vantic"));
    all.sort();
    let name = |path: &std::path::Path| path.file_stem().unwrap().to_string_lossy().into_owned();
    all.iter().map(|path| (name(path), std::fs::read_to_string(path).unwrap())).collect()
}

/// What the drawings of a screen come to, and the shares of views that are recovered, in percent.
fn inferred(text: &str, names: &[&str]) -> (Inferred, usize, (usize, usize)) {
    let original = plan(text);
    let found = infer(&draw_on(&original, names), &PlainText, "inferred").unwrap();
    let again = plan(&found.text);
    let shares = recovered(&original, &again, names);
    (found, original.screen().rules().count(), shares)
}

/// Prints the table of what is recovered (`-- --nocapture`), and holds it to what was reached.
#[test]
fn screens_are_recovered_from_their_drawings() {
    println!("| screen | rules | from one | from two | from three |\n|---|---|---|---|---|");
    for (folder, least) in [("cases/drawn", [60.0, 95.0, 97.0]), ("demo", [20.0, 50.0, 55.0])] {
        let mut sums = [(0, 0); 3];
        for (name, text) in screens(folder) {
            let mut row = format!("| {name} |");
            for (at, names) in DRAWN.iter().enumerate() {
                let (found, rules, (alike, all)) = inferred(&text, names);
                // Each drawing is given, whatever else.
                assert!(found.missed.is_empty(), "{name}, {names:?}: {:?}\n{}", found.missed, found.text);
                if at == 0 {
                    row += &format!(" {} for {rules} |", found.rules.len());
                }
                row += &format!(" {:.0}% |", 100.0 * alike as f64 / all as f64);
                sums[at] = (sums[at].0 + alike, sums[at].1 + all);
            }
            println!("{row}");
        }
        for ((alike, all), least) in std::iter::zip(sums, least) {
            let share = 100.0 * alike as f64 / all as f64;
            assert!(share >= least, "{folder}: {share:.1}% of the views");
        }
    }
}

#[test]
fn what_is_inferred_reads_as_somebody_would_write_it() {
    let (_, text) = screens("cases/drawn").into_iter().find(|(name, _)| name == "pool").unwrap();
    let (found, ..) = inferred(&text, DRAWN[1]);
    assert_eq!(found.text, POOL);
    // Each rule has its reason, and the file with them gives the same.
    let reasons = found.explained.lines().filter(|line| line.trim_start().starts_with("//")).count();
    assert!(reasons >= found.rules.len() && found.rules.iter().all(|rule| !rule.reason.is_empty()));
    let frames = |text: &str| draw_on(&plan(text), DRAWN[0]);
    assert_eq!(frames(&found.explained), frames(&found.text));
}

/// A reader's own text scale, and the other direction of reading, are no part of the rules.
#[test]
fn what_a_reader_has_set_is_not_read_into_the_rules() {
    let (_, text) = screens("cases/drawn").into_iter().find(|(name, _)| name == "bakery").unwrap();
    let original = plan(&text);
    let set = |name: &str| {
        let display = Displays::default().find(name, original.screen()).unwrap();
        draw(&original, &display.with_text_scale(1.5).unwrap().with_direction(Direction::RightToLeft))
    };
    let found = infer(&[set("handset-large"), set("tablet")], &PlainText, "inferred").unwrap();
    let (plain, ..) = inferred(&text, DRAWN[1]);
    assert_eq!(found.text, plain.text);
}

/// A view whose width follows the screen up to a limit, one that is there on small displays only, and larger words on large
/// ones.
#[test]
fn limits_bands_and_views_that_come_and_go_are_told() {
    let text = "screen kennel {
        band roomy: screen.width >= 700 and screen.height >= 700
        view run { width = min(safe.width - 40, 600); center_x = safe.center_x; top = safe.top + 20; height = 80
            text name \"Otter\" { font 18; center = parent.center }
        }
        view tab { pin start, end, bottom to safe; height = 50 }
        when roomy { hide tab; in run.name { font 28 } }
    }";
    let (found, _, (alike, all)) = inferred(text, DRAWN[2]);
    assert!(found.text.contains("width = min(safe.width - 40, 600)"), "{}", found.text);
    assert!(found.text.contains("hide tab"), "{}", found.text);
    assert_eq!(found.bands.len(), 1, "{}", found.text);
    assert!(alike * 100 >= all * 95, "{alike} of {all}\n{}", found.text);
    // The border lies where the drawings leave it open.
    let (side, above, most) = found.bands[0].borders[0];
    assert_eq!((side, above, most), ("screen.width", 424.0, 816.0));
}

fn view(path: &str, [left, top, width, height]: [f64; 4]) -> DrawnView {
    DrawnView { path: path.into(), frame: Frame { left, top, width, height }, kind: DrawnKind::Plain }
}

#[test]
fn drawings_that_cannot_be_are_refused_with_the_reason() {
    let on = |width: f64| Display::new(width, 600.0).unwrap();
    let of = |views: Vec<DrawnView>| Drawing::new(on(400.0), views);
    let at = [0.0, 0.0, 10.0, 10.0];
    assert_eq!(of(Vec::new()), Err(DrawingError::Empty));
    assert_eq!(of(vec![view("a", at), view("a", at)]), Err(DrawingError::Twice("a".into())));
    assert_eq!(of(vec![view("a b", at)]), Err(DrawingError::Name("a b".into())));
    let word = vantic::model::reserved_words().next().unwrap();
    assert!(matches!(of(vec![view(word, at)]), Err(DrawingError::Reserved(_))), "{word}");
    let missing = DrawingError::NoParent { path: "a.b".into(), parent: "a".into() };
    assert_eq!(of(vec![view("a.b", at)]), Err(missing));
    for frame in [
        [f64::NAN, 0.0, 1.0, 1.0],
        [0.0, 0.0, -1.0, 1.0],
        [1e8, 0.0, 1.0, 1.0],
        [0.0, 0.0, f64::INFINITY, 1.0],
    ] {
        assert_eq!(of(vec![view("a", frame)]), Err(DrawingError::Frame("a".into())));
    }
    let text =
        |words: &str, font: f64, line: Option<f64>| DrawnKind::Text { words: words.into(), font, line };
    let image = |width: f64, height: f64| DrawnKind::Image { width, height };
    let odd = [
        text("a", 0.0, None),
        text("a", f64::NAN, None),
        text("a\0", 12.0, None),
        text("a", 12.0, Some(0.0)),
        image(0.0, 5.0),
    ];
    for kind in odd {
        assert_eq!(of(vec![DrawnView { kind, ..view("a", at) }]), Err(DrawingError::Content("a".into())));
    }
    let many = (0..=MAX_DRAWN_VIEWS).map(|at| view(&format!("v{at}"), [0.0; 4])).collect();
    assert_eq!(of(many), Err(DrawingError::TooMany { views: MAX_DRAWN_VIEWS + 1 }));
    let deep: Vec<DrawnView> = (1..100).map(|depth| view(&vec!["a"; depth].join("."), at)).collect();
    assert!(matches!(of(deep), Err(DrawingError::TooDeep(_))));
    // Drawings that contradict one another.
    let drawn = |left: f64| of(vec![view("a", [left, 0.0, 10.0, 10.0])]).unwrap();
    let error = infer(&[drawn(0.0), drawn(50.0)], &PlainText, "s").unwrap_err();
    assert!(matches!(&error, InferError::Contradiction { view, .. } if view == "a"), "{error}");
    assert_eq!(infer(&[], &PlainText, "s").unwrap_err(), InferError::NoDrawing);
}

#[test]
fn json_comes_back_the_same_and_says_where_it_is_wrong() {
    for (name, text) in screens("demo") {
        let plan = plan(&text);
        for drawing in draw_on(&plan, DRAWN[2]) {
            let placement = plan.place(&drawing.display, &PlainText).unwrap();
            let placement = serde_json::to_string(&placement.named(plan.screen())).unwrap();
            let json = format!("{{\"placements\": [{placement}]}}");
            let again = Drawing::from_json(&json).unwrap().remove(0);
            assert_eq!(again.views().len(), drawing.views().len(), "{name}");
            for (a, b) in std::iter::zip(again.views(), drawing.views()) {
                assert_eq!((&a.path, &a.kind), (&b.path, &b.kind), "{name}");
                assert!(
                    (a.frame.left - b.frame.left).abs() < 1e-5
                        && (a.frame.width - b.frame.width).abs() < 1e-5
                );
            }
        }
    }
    let wrong = |text: &str| Drawing::from_json(text).unwrap_err();
    assert!(matches!(wrong("{\n\"placements\": ["), DrawingError::Syntax { line: 2, .. }));
    assert!(matches!(wrong("{\"placements\": []}"), DrawingError::Shape(_)));
    let display = r#""display": {"width": 100, "height": 100}"#;
    let twice = format!(
        r#"{{"placements": [{{{display}, "frames": {{"a": {{"left":0,"top":0,"width":1,"height":1}}, "a": {{"left":0,"top":0,"width":1,"height":1}}}}}}]}}"#
    );
    assert_eq!(wrong(&twice), DrawingError::Twice("a".into()));
    assert!(matches!(wrong(&twice.replace("100, \"height\"", "1e9, \"height\"")), DrawingError::Display(_)));
}

#[test]
fn svg_is_read_with_groups_and_transforms() {
    let drawing = Drawing::from_svg(
        r##"<svg xmlns="http://www.w3.org/2000/svg" width="400" height="600">
            <g id="header" transform="translate(10 20)">
                <rect width="380" height="60" fill="#fff"/>
                <text id="title" x="16" y="38" font-size="20">Hay   and <tspan>straw</tspan></text>
                <g transform="scale(2)"><rect id="menu" x="150" y="10" width="20" height="10"/></g>
            </g>
            <svg id="panel" x="10" y="100" width="200" height="100" viewBox="0 0 100 50"><image id="photo" x="10" y="10" width="20" height="20"/></svg>
            <circle id="dot" cx="5" cy="5" r="5"/>
            <rect x="0" y="0" width="5" height="5"/>
            <rect id="slanted" width="5" height="5" transform="rotate(30)"/>
        </svg>"##,
        &PlainText,
    )
    .unwrap().remove(0);
    let frame = |path: &str| drawing.frame(path).map(|f| (f.left, f.top, f.width, f.height));
    assert_eq!(frame("header"), Some((10.0, 20.0, 380.0, 60.0)));
    // 13 characters of half the font size; the baseline at 0.8 of a line of 25.
    assert_eq!(frame("header.title"), Some((26.0, 38.0, 130.0, 25.0)));
    assert_eq!(frame("header.menu"), Some((310.0, 40.0, 40.0, 20.0)));
    assert_eq!(frame("panel.photo"), Some((30.0, 120.0, 40.0, 40.0)));
    assert_eq!(frame("panel"), Some((30.0, 120.0, 40.0, 40.0)));
    let notes: Vec<usize> = drawing.notes.iter().map(|note| note.line).collect();
    assert_eq!(notes, [8, 9, 10], "{:?}", drawing.notes);
    // Flat: what is in what is told by the frames.
    let flat = r#"<svg viewBox="0 0 100 100"><rect id="card" x="10" y="10" width="80" height="80"/><rect id="dot" x="20" y="20" width="5" height="5"/></svg>"#;
    let drawing = Drawing::from_svg(flat, &PlainText).unwrap().remove(0);
    assert_eq!(drawing.views()[1].path, "card.dot");
}

#[test]
fn hostile_svg_is_refused() {
    let wrong = |text: &str| Drawing::from_svg(text, &PlainText).unwrap_err();
    let bomb = "<!DOCTYPE svg [<!ENTITY a \"aaaa\"><!ENTITY b \"&a;&a;&a;\">]><svg viewBox=\"0 0 9 9\"><text id=\"t\">&b;</text></svg>";
    assert!(matches!(wrong(bomb), DrawingError::Syntax { .. }));
    assert!(matches!(
        wrong("<svg viewBox='0 0 9 9'><rect id='a'></svg>"),
        DrawingError::Syntax { line: 1, .. }
    ));
    assert!(matches!(wrong("<html/>"), DrawingError::Shape(_)));
    assert!(matches!(wrong("<svg><rect id='a'/></svg>"), DrawingError::Shape(_)));
    assert_eq!(wrong("<svg viewBox='0 0 9 9'/>"), DrawingError::Empty);
    let deep = format!("<svg viewBox='0 0 9 9'>{}{}</svg>", "<g>".repeat(500), "</g>".repeat(500));
    assert!(matches!(wrong(&deep), DrawingError::TooDeep(_)));
    let many: String = (0..100_000).map(|at| format!("<rect id='r{at}' width='1' height='1'/>")).collect();
    assert!(matches!(wrong(&format!("<svg viewBox='0 0 9 9'>{many}</svg>")), DrawingError::TooMany { .. }));
    let odd = "<svg viewBox='0 0 9 9'><rect id='a' width='-4' height='1e300'/></svg>";
    assert!(matches!(wrong(odd), DrawingError::Frame(_)));
}

const DESK: &str = "screen desk {
    let gap = 12
    view bar { pin start 16, end 16, top 10 to safe; height = 48 }
    view pad { below bar by 20; start = bar.start; size = (120, 60) }
    view pen { after pad by gap; top = pad.top + 4; size = 20 }
    view ink { start = pen.start; below pad; width = 50% of bar.width; height = 30; bottom <= safe.bottom }
}";

#[test]
fn drift_names_the_rules_that_disagree_and_constants_make_them_agree() {
    let files = Assembled::alone("desk.vantic", DESK);
    let source = files.read().unwrap();
    let before = Plan::new(source.screen).unwrap();
    let on = Display::new(400.0, 600.0).unwrap();
    // Drawn with other numbers, so that each constant is known.
    let drawn = DESK
        .replace("end 16, top 10", "end 24, top 18")
        .replace("by 20; start = bar.start", "by 30; start = bar.start + 6")
        .replace("pad.top + 4", "pad.top - 2")
        .replace("below pad;", "below pad by 5;");
    let drawing = draw(&plan(&drawn), &on);
    let found = drift(&before, &drawing.in_screen(before.screen()), &PlainText).unwrap();
    let names: Vec<String> = found.views.iter().map(|view| before.screen().path(view.view)).collect();
    assert_eq!(names, ["bar", "pad", "pen", "ink"]);
    assert!(found.views.iter().all(|view| !view.follows && !view.roots.is_empty()), "{:?}", found.views);
    let changed =
        follow_drawing((&files, &source.map, &before), &drawing.in_screen(before.screen()), &PlainText, None)
            .unwrap();
    assert_eq!(changed.refused, [], "{changed:?}");
    let text = edited(DESK, &changed.edits).unwrap();
    assert_eq!(text, drawn);
    assert_eq!(changed.left, 0);
    // A named number is not changed, since others may use it: what is more is added.
    let drawing = draw(&plan(&DESK.replace("gap = 12", "gap = 30")), &on);
    let changed =
        follow_drawing((&files, &source.map, &before), &drawing.in_screen(before.screen()), &PlainText, None)
            .unwrap();
    assert_eq!(
        changed.edits.iter().map(|edit| edit.new.as_str()).collect::<Vec<_>>(),
        ["after pad by gap + 18"]
    );
    // A limit stays as it is, and it is said why.
    let drawing = Drawing::new(on.clone(), vec![view("ink", [100.0, 590.0, 184.0, 30.0])]).unwrap();
    let changed =
        follow_drawing((&files, &source.map, &before), &drawing.in_screen(before.screen()), &PlainText, None)
            .unwrap();
    assert!(changed.refused.iter().any(|refused| refused.reason.contains("limit")), "{changed:?}");
    // What only follows is told as that.
    let drawing = draw(&plan(&DESK.replace("top 10", "top 40")), &on);
    let found = drift(&before, &drawing.in_screen(before.screen()), &PlainText).unwrap();
    assert_eq!(found.views.iter().map(|view| view.follows).collect::<Vec<_>>(), [false, true, true, true]);
}

proptest! {
    #![proptest_config(vantic_testkit::cases(48))]

    /// Whatever a screen is made of: nothing drifts from its own drawing; what is inferred from drawings can be placed, and
    /// gives what it says it gives.
    #[test]
    fn random_screens_are_drawn_and_inferred(bytes in prop::collection::vec(any::<u8>(), 600)) {
        let (text, _) = vantic_testkit::screens::screen_file(&mut vantic_testkit::screens::Picks::new(&bytes));
        let Ok(source) = read(&text) else { return Ok(()) };
        let Ok(plan) = Plan::new(source.screen) else { return Ok(()) };
        let mut drawings = Vec::new();
        for (width, height) in [(390.0, 844.0), (820.0, 1180.0)] {
            let on = Display::new(width, height).unwrap();
            let Ok(placement) = plan.place(&on, &PlainText) else { return Ok(()) };
            let Ok(drawing) = Drawing::of(&placement, plan.screen()) else { return Ok(()) };
            let found = drift(&plan, &drawing.in_screen(plan.screen()), &PlainText).unwrap();
            prop_assert!(found.views.is_empty() && found.unknown.is_empty(), "{text}");
            drawings.push(drawing);
        }
        let found = match infer(&drawings, &PlainText, "inferred") {
            Ok(found) => found,
            Err(error) => {
                prop_assert!(!matches!(error, InferError::Unusable(_)), "{error}\n{text}");
                return Ok(());
            }
        };
        let again = Plan::new(read(&found.text).unwrap().screen).unwrap();
        for (at, drawing) in drawings.iter().enumerate() {
            let off = drift(&again, &drawing.in_screen(again.screen()), &PlainText).unwrap();
            let told = |path: &str| found.missed.iter().any(|(of, view, _)| (*of, view.as_str()) == (at, path));
            for view in off.views.iter().filter(|view| view.by().iter().any(|by| by.abs() > 2.0 * found.slack + 2.0)) {
                prop_assert!(told(&again.screen().path(view.view)), "{}\n{text}", found.text);
            }
        }
    }
}

/// How a random view lies along one axis of what is around it.
#[derive(Clone, Copy, Debug)]
enum Lies {
    /// So far behind the near edge, with a size.
    Near(f64, f64),
    /// So far before the far edge, with a size.
    Far(f64, f64),
    /// So far from both edges.
    Between(f64, f64),
    /// In the middle, with a size.
    Middle(f64),
    /// From the near edge, a share of the whole in percent.
    Share(f64),
    /// So far behind the view before it, with a size; the first one behind the near edge.
    Next(f64, f64),
}

impl Lies {
    /// Where that is, by arithmetic: from `near`, so long.
    fn at(self, (near, whole): (f64, f64), before: Option<(f64, f64)>) -> (f64, f64) {
        match self {
            Lies::Near(by, size) => (near + by, size),
            Lies::Far(by, size) => (near + whole - by - size, size),
            Lies::Between(from, to) => (near + from, whole - from - to),
            Lies::Middle(size) => (near + (whole - size) / 2.0, size),
            Lies::Share(percent) => (near, whole * percent / 100.0),
            Lies::Next(by, size) => (before.map_or(near, |(at, long)| at + long) + by, size),
        }
    }
}

fn lies() -> impl Strategy<Value = Lies> {
    let (by, size) = (0_u8..40, 8_u8..60);
    (0..6, by.clone(), by, size).prop_map(|(kind, a, b, size)| {
        let (a, b, size) = (f64::from(a), f64::from(b), f64::from(size));
        match kind {
            0 => Lies::Near(a, size),
            1 => Lies::Far(a, size),
            2 => Lies::Between(a, b),
            3 => Lies::Middle(size),
            4 => Lies::Share(size.min(50.0)),
            _ => Lies::Next(a, size),
        }
    })
}

/// A view's path, what it is in, and where it lies across and down.
type Placed = (String, Option<usize>, [(f64, f64); 2]);

/// The frames of random views on a screen: each in the screen, or in one of those before it.
fn by_hand(views: &[(usize, Lies, Lies)], (width, height): (f64, f64)) -> Vec<DrawnView> {
    let mut placed: Vec<Placed> = Vec::new();
    for (at, &(around, x, y)) in views.iter().enumerate() {
        // Only the first three hold others.
        let parent = around.checked_sub(1).filter(|parent| *parent < at && *parent < 3);
        let whole = parent.map_or([(0.0, width), (0.0, height)], |parent| placed[parent].2);
        let before = placed.iter().rev().find(|(_, of, _)| *of == parent).map(|(.., extents)| *extents);
        let extents = [x.at(whole[0], before.map(|b| b[0])), y.at(whole[1], before.map(|b| b[1]))];
        let path = parent.map_or(String::new(), |parent| placed[parent].0.clone() + ".") + &format!("v{at}");
        placed.push((path, parent, extents));
    }
    let drawn =
        |(path, _, [(left, width), (top, height)]): &Placed| view(path, [*left, *top, *width, *height]);
    placed.iter().map(drawn).collect()
}

proptest! {
    #![proptest_config(vantic_testkit::cases(200))]

    /// Where everything is a line over the width, or over the height, two drawings say all there is to say: whatever rules are chosen,
    /// they give every other size, as arithmetic does.
    #[test]
    fn two_drawings_of_straight_lines_give_every_size(
        views in prop::collection::vec((0_usize..4, lies(), lies()), 1..12),
    ) {
        let draw = |size: (f64, f64)| Drawing::new(Display::new(size.0, size.1).unwrap(), by_hand(&views, size));
        let sizes = [(1000.0, 1300.0), (1420.0, 1910.0)];
        // A size below nothing is none.
        let drawn: Result<Vec<Drawing>, _> = sizes.map(draw).into_iter().collect();
        let (Ok(drawn), Ok(other)) = (drawn, draw((1130.0, 1750.0))) else { return Ok(()) };
        let found = infer(&drawn, &PlainText, "inferred").unwrap();
        prop_assert!(found.missed.is_empty() && found.bands.is_empty(), "{}", found.text);
        // A ratio of both sides can hold on two displays by chance.
        prop_assume!(!found.text.contains("ratio"));
        let again = draw_again(&found.text, &other.display);
        for view in other.views() {
            let (a, b) = (view.frame, again.frame(&view.path).unwrap());
            let off = [a.left - b.left, a.top - b.top, a.width - b.width, a.height - b.height];
            prop_assert!(off.iter().all(|by| by.abs() <= 0.1), "{}: {a:?} {b:?}\n{}", view.path, found.text);
        }
    }

    /// Groups in groups, moved and scaled: frames as by arithmetic.
    #[test]
    fn transforms_of_groups_add_up(
        groups in prop::collection::vec((-50_i16..50, -50_i16..50, 1_u8..4), 0..6),
        (x, y, width, height) in (0_u8..90, 0_u8..90, 0_u8..90, 0_u8..90),
    ) {
        let open: String = groups.iter().map(|(x, y, by)| format!("<g transform='translate({x} {y}) scale({by})'>")).collect();
        let close = "</g>".repeat(groups.len());
        let text = format!("<svg viewBox='7 9 400 500'>{open}<rect id='a' x='{x}' y='{y}' width='{width}' height='{height}'/>{close}</svg>");
        let drawing = Drawing::from_svg(&text, &PlainText).unwrap().remove(0);
        let (mut at, mut long) = ((f64::from(x), f64::from(y)), (f64::from(width), f64::from(height)));
        for &(x, y, by) in groups.iter().rev() {
            let by = f64::from(by);
            at = (at.0 * by + f64::from(x), at.1 * by + f64::from(y));
            long = (long.0 * by, long.1 * by);
        }
        let wanted = Frame { left: at.0 - 7.0, top: at.1 - 9.0, width: long.0, height: long.1 };
        prop_assert_eq!(drawing.frame("a"), Some(wanted));
    }

    /// A number of a file is changed, and drawn: where the rules can follow the drawing, they give it.
    #[test]
    fn rules_that_follow_a_drawing_give_it(which in any::<prop::sample::Index>(), number in any::<prop::sample::Index>(), by in 1_u8..9) {
        let all = screens("cases/drawn");
        let (name, text) = which.get(&all);
        let numbers: Vec<(usize, &str)> = text
            .match_indices(|c: char| c.is_ascii_digit())
            .filter(|(at, _)| text[..*at].ends_with(' ') && !text[..*at].ends_with("font "))
            .map(|(at, _)| (at, text[at..].split(|c: char| !c.is_ascii_digit()).next().unwrap()))
            .collect();
        let (at, old) = number.get(&numbers);
        let new = old.parse::<f64>().unwrap() + f64::from(by);
        let changed = format!("{}{new}{}", &text[..*at], &text[at + old.len()..]);
        let Ok(Ok(other)) = read(&changed).map(|source| Plan::new(source.screen)) else { return Ok(()) };
        let on = Display::new(424.0, 920.0).unwrap();
        let drawing = draw(&other, &on);
        let files = Assembled::alone(name.as_str(), text.as_str());
        let source = files.read().unwrap();
        let plan = Plan::new(source.screen).unwrap();
        let followed = follow_drawing((&files, &source.map, &plan), &drawing.in_screen(plan.screen()), &PlainText, None).unwrap();
        let again = draw_again(&edited(text, &followed.edits).unwrap(), &on);
        let is_off = |view: &&DrawnView| {
            let (a, b) = (view.frame, again.frame(&view.path).unwrap());
            let sides = [a.left - b.left, a.top - b.top, a.right() - b.right(), a.bottom() - b.bottom()];
            sides.iter().any(|by| by.abs() > 0.5)
        };
        prop_assert_eq!(drawing.views().iter().filter(is_off).count(), followed.left, "{}", changed);
    }
}

/// The drawing of a file on a display.
fn draw_again(text: &str, display: &Display) -> Drawing {
    draw(&plan(text), display)
}

/// Drawings that are off by up to two pixels, on three displays: most views are found all the same.
#[test]
fn drawings_by_hand_are_snapped() {
    let mut seed = 42_u64;
    let mut noise = || {
        seed = seed.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        ((seed >> 33) as f64 / f64::from(1_u32 << 31) * 2.0 - 1.0) * 2.0
    };
    let (mut alike, mut all) = (0, 0);
    for (name, text) in screens("cases/drawn") {
        let original = plan(&text);
        let mut drawn = Vec::new();
        for drawing in draw_on(&original, DRAWN[2]) {
            let mut views = drawing.views().to_vec();
            for DrawnView { frame, .. } in &mut views {
                for side in [&mut frame.left, &mut frame.top, &mut frame.width, &mut frame.height] {
                    *side = (*side + noise()).max(0.0);
                }
            }
            drawn.push(Drawing::new(drawing.display.clone(), views).unwrap());
        }
        let found = infer(&drawn, &PlainText, "inferred").unwrap();
        assert!(found.slack > 1.0, "{name}");
        // Round distances, not those of the hand.
        assert!(!found.text.contains("pin start 15"), "{}", found.text);
        let (near, of) = recovered(&original, &plan(&found.text), DRAWN[2]);
        (alike, all) = (alike + near, all + of);
    }
    println!("drawn by hand, off by up to 2: {alike} of {all} recovered");
    assert!(alike * 100 >= all * 75, "{alike} of {all}");
}

/// How far a view is off at most, where one file places it and another one does.
fn off(one: &str, other: &str, display: &Display) -> f64 {
    let (one, other) = (draw_again(one, display), draw_again(other, display));
    let by = |view: &DrawnView| {
        let (a, b) = (view.frame, other.frame(&view.path).unwrap());
        let sides = [a.left - b.left, a.top - b.top, a.right() - b.right(), a.bottom() - b.bottom()];
        sides.iter().fold(0.0_f64, |most, by| most.max(by.abs()))
    };
    one.views().iter().map(by).fold(0.0, f64::max)
}

/// Another reading gives the drawings as well, and differs by what is said at the width that is said: where one line of the
/// file is one rule, it is put in the place of that.
#[test]
fn other_readings_give_the_drawings_and_differ_where_they_say() {
    let mut tried = 0;
    for (name, text) in screens("cases/drawn") {
        for names in &DRAWN[..2] {
            let original = plan(&text);
            let drawn = draw_on(&original, names);
            let (found, ..) = inferred(&text, names);
            for other in &found.otherwise {
                // Of the view that it is about, by its own name.
                let own = other.view.rsplit('.').next().unwrap();
                let block = found.text.find(&format!(" {own} ")).unwrap();
                let line = format!("{}\n", other.rule);
                let Some(at) = found.text[block..].find(&line).map(|at| block + at) else { continue };
                if found.text[block..at].matches("view ").count()
                    + found.text[block..at].matches("text ").count()
                    > 0
                {
                    continue;
                }
                let changed =
                    format!("{}{}\n{}", &found.text[..at], other.other, &found.text[at + line.len()..]);
                for drawing in &drawn {
                    let by = off(&found.text, &changed, &drawing.display);
                    assert!(by <= 0.5, "{name}: {by} on {}\n{changed}", drawing.display.name());
                }
                let (width, by) = other.differs;
                let display = drawn[0].display.with_size(width, drawn[0].display.height()).unwrap();
                assert!(
                    (off(&found.text, &changed, &display) - by).abs() < 0.1,
                    "{name}: {other:?}\n{changed}"
                );
                tried += 1;
            }
        }
    }
    assert!(tried >= 3, "{tried}");
}

/// Wherever in the range that is reported the breakpoint of a band lies, the file gives the drawings.
#[test]
fn the_breakpoint_of_a_band_may_lie_anywhere_in_its_range() {
    let mut tried = 0;
    for folder in ["cases/drawn", "demo"] {
        for (name, text) in screens(folder) {
            let drawn = draw_on(&plan(&text), DRAWN[1]);
            let (found, ..) = inferred(&text, DRAWN[1]);
            for band in &found.bands {
                let &[(side, above, most)] = band.borders.as_slice() else { continue };
                let number = band.condition.rsplit(' ').next().unwrap();
                for border in [above + 0.5, f64::midpoint(above, most).round(), most] {
                    let condition = band.condition.replace(number, &border.to_string());
                    assert!(condition.contains(side));
                    let changed = found.text.replace(&band.condition, &condition);
                    for drawing in &drawn {
                        assert!(
                            off(&found.text, &changed, &drawing.display) <= 0.01,
                            "{name}: {condition}\n{changed}"
                        );
                    }
                    tried += 1;
                }
            }
        }
    }
    println!("{tried} breakpoints");
}
