//! Screens that a build script made: each is the screen of its file, and its fields are the views, states and parameters of it.

use vantic::display::Display;
use vantic::files::Assembled;
use vantic::finding::Severity;
use vantic::model::{Screen, ViewId};
use vantic::plan::Plan;
use vantic::text::PlainText;
use vantic_build::Screens;

/// Modules of screens, each with its file and what it is built to.
macro_rules! modules {
    ($($name:ident $file:literal),* $(,)?) => {
        $(vantic::include_screen!($name);)*

        fn built() -> Vec<(&'static str, Screen)> {
            vec![$(($file, $name::Screen::new().expect("it was checked").screen)),*]
        }
    };
}

modules! {
    player "screens/player.vantic",
    stop "screens/stop.vantic",
    toast "screens/toast.vantic",
    everything "tests/everything.vantic",
    tally "tests/tally.vantic",
    departures "../../demo/departures.vantic",
    quay_kiosk "../../demo/quay_kiosk.vantic",
    quay_wall "../../demo/quay_wall.vantic",
    boarding "../../cases/screens/boarding.vantic",
    booking "../../cases/screens/booking.vantic",
    content "../../cases/screens/content.vantic",
    gauges "../../cases/screens/gauges.vantic",
    nursery "../../cases/screens/nursery.vantic",
    observatory "../../cases/screens/observatory.vantic",
    painted "../../cases/screens/painted.vantic",
    positions "../../cases/screens/positions.vantic",
}

fn read(path: &str) -> Screen {
    let text = |path: &str| std::fs::read_to_string(path).map_err(|error| format!("{path}: {error}"));
    let files = Assembled::new(path, text(path).unwrap(), |of, called| {
        let base = std::path::Path::new(of).parent().unwrap().join(called).display().to_string();
        Ok((base.clone(), text(&base)?))
    });
    files.read().unwrap_or_else(|errors| panic!("{path}: {errors}")).screen
}

#[test]
fn what_is_built_is_what_the_file_says() {
    for (file, built) in built() {
        let read = read(file);
        assert_eq!(built, read, "{file}");
        assert_eq!(built.to_string(), read.to_string(), "{file}");
        let (built, read) = (Plan::new(built).unwrap(), Plan::new(read).unwrap());
        for (width, height) in [(390.0, 844.0), (1000.0, 700.0)] {
            let on = Display::new(width, height).unwrap();
            let frames = |plan: &Plan| plan.place(&on, &PlainText).unwrap().frames;
            assert_eq!(frames(&built), frames(&read), "{file}");
        }
    }
}

#[test]
fn fields_are_what_their_names_say() {
    let all = everything::Screen::new().unwrap();
    let path = |view: ViewId| all.screen.path(view);
    let views = all.views;
    assert_eq!(path(views.head.view), "head");
    assert_eq!(path(views.head.title), "head.title");
    assert_eq!(path(views.list.rows.row[2].label), "list.rows.row[3].label");
    assert_eq!(path(views.list.rows.row[0].view), "list.rows.row[1]");
    assert_eq!(path(views.list.content), "list.content");
    assert_eq!(path(views.grid), "grid");
    let display = Display::new(400.0, 800.0).unwrap();
    assert_eq!(all.states.menu.pinned.on(&display).state("menu"), Some("pinned"));
    let rail = all.parameters.rail;
    assert_eq!((rail.usual, rail.range), (120.0, (80.0, 200.0)));
    assert_eq!(rail.set(150, &display).unwrap().parameter("rail"), Some(150.0));
    assert!(rail.set(f64::NAN, &display).is_err());
    // Rust's own words are fields all the same, and views that are called alike are not taken for one another.
    let tally = tally::Screen::new().unwrap();
    assert_eq!(tally.screen.path(tally.views.Self_), "Self");
    assert_eq!(tally.screen.path(tally.views.crate_), "crate");
    assert_eq!(tally.screen.path(tally.views.ящик.棚), "ящик.棚");
    assert_eq!(tally.screen.path(tally.views.grid.a), "grid.a");
    assert_eq!(tally.screen.path(tally.views.grid.shelf[1].jar[3]), "grid.shelf[2].jar[4]");
    assert_eq!(tally.states.r#type.r#match.name, "match");
    assert_eq!(tally.parameters.r#loop.usual, 4.0);
}

#[test]
fn a_mistake_fails_at_its_line() {
    let folder = std::env::temp_dir().join(format!("vantic-typed-{}", std::process::id()));
    std::fs::create_dir_all(&folder).unwrap();
    let module = |text: &str, least: Option<Severity>| {
        let path = folder.join("shed.vantic");
        std::fs::write(&path, text).unwrap();
        let screens = least.map_or(Screens::new(), |least| Screens::new().without_findings(least));
        let mut read = Vec::new();
        let made = screens.module(&path, &mut |path| read.push(path.to_owned()));
        assert_eq!(read[0], path);
        made.map_err(|mistakes| {
            let own = format!("{}:", path.display());
            mistakes.iter().map(|mistake| mistake.replace(&own, "")).collect::<Vec<_>>().join("\n")
        })
    };
    let wrong =
        module("screen shed {\n    view door { pin lft to safe }\n    view door { size = 8 }\n}", None);
    let wrong = wrong.unwrap_err();
    assert!(wrong.starts_with("2:21: ") && wrong.contains("(did you mean `left`?)\n3:10: "), "{wrong}");
    // A plan that cannot be made.
    let hidden = "screen shed {\n    band wide: screen.width >= 700\n    view door { size = 8 }\n    \
         view key { left = door.right }\n    when wide { hide door }\n}";
    let hidden = module(hidden, None).unwrap_err();
    assert!(hidden.starts_with("4:16: ") && hidden.contains("`door`"), "{hidden}");
    // What a check finds, as far as it is asked for.
    let open = "screen shed {\n    view door { pin left, top to safe; width = 8 }\n}";
    assert!(module(open, None).is_ok());
    let open = module(open, Some(Severity::Warning)).unwrap_err();
    assert!(open.starts_with("2:10: error ambiguous: `door` is underconstrained"), "{open}");
    // What it is based on is read with it, and told.
    std::fs::write(folder.join("base.vantic"), "screen base { view roof { pin lft to safe } }").unwrap();
    let based = module("screen shed from \"base.vantic\" { }", None).unwrap_err();
    assert!(based.contains("base.vantic:1:31: "), "{based}");
    std::fs::remove_dir_all(&folder).unwrap();
}
