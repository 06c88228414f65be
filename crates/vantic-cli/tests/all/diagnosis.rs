//! Findings explained and fixed, ranges, claims and comparisons, through the built binary.

use serde_json::Value;
use std::path::{Path, PathBuf};
use std::process::{Command, Output};

fn root() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../..")
}

fn vantic(arguments: &[&str], folder: &Path) -> Output {
    Command::new(env!("CARGO_BIN_EXE_vantic")).args(arguments).current_dir(folder).output().unwrap()
}

/// Runs it, asserts the exit code, and gives standard output or, for code 2, standard error.
#[track_caller]
fn run(arguments: &[&str], folder: &Path, code: i32) -> String {
    let output = vantic(arguments, folder);
    let (out, err) = (String::from_utf8(output.stdout).unwrap(), String::from_utf8(output.stderr).unwrap());
    assert_eq!(output.status.code(), Some(code), "{arguments:?}\n{out}{err}");
    assert!(!err.contains("panicked"), "{err}");
    if code == 2 { err } else { out }
}

#[track_caller]
fn json(arguments: &[&str], folder: &Path, code: i32) -> Value {
    serde_json::from_str(&run(arguments, folder, code)).unwrap()
}

/// A folder with one screen file in it.
fn with(text: &str) -> tempfile::TempDir {
    let folder = tempfile::tempdir().unwrap();
    std::fs::write(folder.path().join("a.vantic"), text).unwrap();
    folder
}

const CLASH: &str = "// what comes first stays
screen quay {
    view head { pin left, right, top to screen; height = 40 }  // as in all files
    view board {
        pin left 16, right 16 to screen
        below head by 8  // the usual distance
        height = 80; width = 300
    }
}
";

#[test]
fn each_code_is_explained_with_an_example_that_shows_it() {
    let page = std::fs::read_to_string(root().join("docs/findings.md")).unwrap();
    let codes: Vec<&str> = vantic::model::Code::ALL.iter().map(|c| c.name()).collect();
    let listed = run(&["about"], &root(), 0);
    for code in codes {
        assert!(listed.lines().any(|l| l.split_whitespace().next() == Some(code)), "{code}");
        let told = run(&["about", code], &root(), 0);
        for part in ["Why it matters:", "To fix it:", "screen quay {"] {
            assert!(told.starts_with(code) && told.contains(part) && !told.contains("```"), "{told}");
        }
        // The example, as it stands on the page, on the displays that are named above it.
        let section = page.split(&format!("## `{code}`\n")).nth(1).unwrap().split("\n## ").next().unwrap();
        let displays = section.lines().find_map(|l| l.strip_prefix("On ")).unwrap();
        let displays: Vec<&str> = displays.split('`').skip(1).step_by(2).collect();
        let example = section.split("```\n").nth(1).unwrap();
        let folder = with(example);
        let mut arguments = vec!["check", "a.vantic", "--format", "json", "--no-fixes"];
        displays.iter().for_each(|d| arguments.extend(["-d", d]));
        let output = vantic(&arguments, folder.path());
        let found: Value = serde_json::from_slice(&output.stdout).unwrap_or_default();
        let found: Vec<&str> =
            found["findings"].as_array().unwrap().iter().map(|f| f["code"].as_str().unwrap()).collect();
        assert!(found.contains(&code), "{code}: {found:?}");
    }
    assert!(run(&["about", "overlp"], &root(), 2).contains("overlap"));
}

#[test]
fn fixes_are_shown_applied_and_can_be_undone() {
    let folder = with(CLASH);
    let path = folder.path().join("a.vantic");
    let on = ["check", "a.vantic", "-d", "390x844", "-d", "800x600"];
    let all = |more: &[&'static str]| [on.as_slice(), more].concat();
    let found = json(&all(&["--format", "json"]), folder.path(), 1);
    let (finding, as_of) = (&found["findings"][0], found["as_of"].as_str().unwrap());
    assert_eq!(finding["code"], "conflict");
    let fixes = finding["fixes"].as_array().unwrap();
    assert!((1..=3).contains(&fixes.len()));
    let first = &fixes[0];
    assert_eq!((first["name"].as_str(), first["text"].as_str()), (Some("1a"), Some("remove `width = 300`")));
    // Previewed, nothing is written.
    let shown = run(&all(&["--fix", "1a", "--preview"]), folder.path(), 0);
    assert!(
        shown.contains("-         height = 80; width = 300") && shown.contains("+         height = 80\n"),
        "{shown}"
    );
    assert_eq!(std::fs::read_to_string(&path).unwrap(), CLASH);
    // Made, only that changes, comments and layout stay, and what was there is beside it.
    let name = format!("1a@{as_of}");
    let told = run(&[on.as_slice(), &["--fix", &name]].concat(), folder.path(), 0);
    assert!(told.contains("a.vantic.old") && told.contains("clean quay"), "{told}");
    let fixed = std::fs::read_to_string(&path).unwrap();
    assert_eq!(fixed, CLASH.replace("; width = 300", ""));
    assert_eq!(std::fs::read_to_string(folder.path().join("a.vantic.old")).unwrap(), CLASH);
    // The same name is refused now: the file has changed since.
    let refused = run(&[on.as_slice(), &["--fix", &name]].concat(), folder.path(), 2);
    assert!(refused.contains("has changed"), "{refused}");
    assert_eq!(std::fs::read_to_string(&path).unwrap(), fixed);
    // All of them, one after the other; the second old file has another name.
    std::fs::write(&path, CLASH.replace("below head by 8", "below head by 12")).unwrap();
    run(&all(&["--fix", "all"]), folder.path(), 0);
    run(&all(&[]), folder.path(), 0);
    assert!(folder.path().join("a.vantic.old2").exists());
    // Taken back; the edits before that, of a file that was edited by hand since, are not.
    let told = run(&all(&["--undo"]), folder.path(), 1);
    assert!(told.contains("restored a.vantic") && !folder.path().join("a.vantic.old2").exists(), "{told}");
    let by_hand = std::fs::read_to_string(&path).unwrap();
    assert_eq!(by_hand, CLASH.replace("below head by 8", "below head by 12"));
    assert!(run(&all(&["--undo"]), folder.path(), 2).contains("has changed since"));
    assert_eq!(std::fs::read_to_string(&path).unwrap(), by_hand);
}

#[test]
fn edits_are_taken_back_one_by_one_from_any_folder() {
    let folder = with(CLASH);
    let path = folder.path().join("a.vantic");
    let text = || std::fs::read_to_string(&path).unwrap();
    let one = |folder: &Path, file: &str, what: &[&str], code: i32| {
        run(&[&["check", file, "-d", "390x844", "-d", "800x600"], what].concat(), folder, code)
    };
    let elsewhere = tempfile::tempdir().unwrap();
    let file = path.to_str().unwrap();
    one(folder.path(), "a.vantic", &["--fix", "1a"], 0);
    let first = text();
    run(&["compare", "a.vantic", "--without", "head", "--write", "-d", "390x844"], folder.path(), 0);
    assert!(text() != first && first != CLASH);
    assert!(one(elsewhere.path(), file, &["--undo"], 0).contains("restored"));
    assert_eq!(text(), first);
    one(folder.path(), "a.vantic", &["--undo"], 1);
    assert_eq!(text(), CLASH);
    assert!(one(folder.path(), "a.vantic", &["--undo"], 2).contains("nothing to undo"));
    let left: Vec<_> = std::fs::read_dir(folder.path()).unwrap().map(|f| f.unwrap().file_name()).collect();
    assert_eq!(left, ["a.vantic"]);
}

#[test]
fn what_cannot_be_fixed_is_reported_and_stays_as_it_is() {
    let folder = with(CLASH);
    let path = folder.path().join("a.vantic");
    let fix = |name: &str| run(&["check", "a.vantic", "-d", "390x844", "--fix", name], folder.path(), 2);
    assert!(fix("9z").contains("there are 1a"));
    let mut permissions = std::fs::metadata(&path).unwrap().permissions();
    permissions.set_readonly(true);
    std::fs::set_permissions(&path, permissions).unwrap();
    assert!(fix("1a").contains("is read-only"));
    assert_eq!(std::fs::read_to_string(&path).unwrap(), CLASH);
    // Another Vantic is at it: neither an edit nor one taken back comes in between.
    let mut permissions = std::fs::metadata(&path).unwrap().permissions();
    #[expect(clippy::permissions_set_readonly_false, reason = "of a file in a temporary folder")]
    permissions.set_readonly(false);
    std::fs::set_permissions(&path, permissions).unwrap();
    let held = std::fs::File::open(&path).unwrap();
    held.lock().unwrap();
    assert!(fix("1a").contains("by another Vantic"));
    assert!(run(&["check", "a.vantic", "--undo"], folder.path(), 2).contains("by another Vantic"));
    drop(held);
    // What is to be noted beside it cannot be: the file stays, and nothing else is left behind.
    std::fs::create_dir(folder.path().join("a.vantic.undo")).unwrap();
    fix("1a");
    assert_eq!(std::fs::read_to_string(&path).unwrap(), CLASH);
    assert_eq!(std::fs::read_dir(folder.path()).unwrap().count(), 2);
    std::fs::remove_dir(folder.path().join("a.vantic.undo")).unwrap();
    let wrong = with("screen quay { view a { left = } }");
    let refused = run(&["check", "a.vantic", "--fix", "1a"], wrong.path(), 2);
    assert!(refused.contains("1 error") && !wrong.path().join("a.vantic.old").exists(), "{refused}");
    let form = run(&["fmt", "a.vantic", "--as", "json"], folder.path(), 0);
    std::fs::write(folder.path().join("a.json"), &form).unwrap();
    let refused = run(&["check", "a.json", "-d", "390x844", "--fix", "all"], folder.path(), 2);
    assert!(refused.contains("fmt a.json --as vantic"), "{refused}");
    // A range upside down, coordinates and views that do not exist.
    let demo = root().join("demo");
    for (arguments, said) in [
        (&["sweep", "departures.vantic", "--width", "900..300"][..], "is reversed or empty"),
        (&["sweep", "departures.vantic", "--width", "wide"], "320..1600"),
        (&["sweep", "departures.vantic", "--over", "colour=1..2"], "keyboard"),
        (&["sweep", "departures.vantic", "-o", "x.html"], ".png or .svg"),
        (&["why", "departures.vantic", "header.colour"], "width"),
        (&["why", "departures.vantic", "heder.left"], "did you mean `header`?"),
        (&["why", "departures.vantic", "header#77"], "no rule `header#77`"),
        (&["why", "departures.vantic", "header", "-d", "tablet", "-d", "desktop"], "one display"),
        (&["compare", "departures.vantic"], "another file"),
        (&["compare", "departures.vantic", "--band", "narrow", "--band", "wide"], "no band `wide`"),
        (&["show", "distances", "departures.vantic", "header", "board", "notice"], "one view, or two"),
    ] {
        let told = run(arguments, &demo, 2);
        assert!(told.contains(said), "{arguments:?}: {told}");
    }
}

#[test]
fn one_cause_is_reported_once_with_its_rules_and_what_it_also_breaks() {
    let told = run(&["check", "faults/overlap.vantic"], &root().join("demo"), 0);
    assert_eq!(told.matches("warning overlap  ").count(), 1, "{told}");
    assert!(
        told.contains("also fixes: warning overlap: `board.second.port` and `board.second.state`"),
        "{told}"
    );
    for rule in ["start = heads.port.start  board.second.port#1", "1a: write `end <= berth.start - column`"] {
        assert!(told.contains(rule), "{told}");
    }
    // Plain words: nothing of how it is solved.
    let all =
        ["conflict", "tie", "outside", "cut"].map(|code| run(&["about", code], &root(), 0)).concat() + &told;
    for word in ["simplex", "basis", "infeasible", "dual", "pivot", "slack", "tableau"] {
        assert!(!all.contains(word), "{word}");
    }
}

#[test]
fn why_prints_the_chain_and_what_prevents_another_value() {
    let demo = root().join("demo");
    let why = json(
        &["why", "departures.vantic", "board.first.port.end", "-d", "390x844", "--format", "json"],
        &demo,
        0,
    );
    let why = &why["why"][0];
    let sum: f64 = why["parts"].as_array().unwrap().iter().map(|p| p["amount"].as_f64().unwrap()).sum();
    assert!((sum - why["value"].as_f64().unwrap()).abs() < 1e-5);
    assert_eq!(why["next"][0]["rule"], "board.first.port.until");
    let said = run(&["why", "departures.vantic", "board.first", "-d", "844x390"], &demo, 0);
    for part in [
        "board.first.height is 50.35",
        "bottom (124.35) <= parent.bottom (349.75)",
        "gave way: `height = 64 ~ rhythm`",
    ] {
        assert!(said.contains(part), "`{part}` is missing from {said}");
    }
    let tall = run(&["why", "departures.vantic", "board.first.tall", "-d", "844x390"], &demo, 0);
    assert!(
        tall.contains("missed by 13.65") && tall.contains("board.first.room) gives way by 68.25 more"),
        "{tall}"
    );
    let holds = run(&["why", "departures.vantic", "board.first.tall", "-d", "390x844"], &demo, 0);
    assert!(holds.contains("holds on 390x844"), "{holds}");
    let more = run(&["why", "boarding_pass.vantic", "card.width", "--more", "-d", "700x900"], &demo, 0);
    assert!(more.contains("`width <= 460` (line 16, card.most)"), "{more}");
}

#[test]
fn a_range_is_reported_drawn_and_proven() {
    let demo = root().join("demo");
    let folder = tempfile::tempdir().unwrap();
    let picture = folder.path().join("tracks.svg");
    let out = picture.to_str().unwrap();
    let told =
        run(&["sweep", "departures.vantic", "--width", "320..1400", "-d", "390x844", "-o", out], &demo, 0);
    for part in [
        "band `narrow` ends",
        "`notice.words` goes from 2 to 1 line",
        "OK: ",
        "no overlap, no text is cut",
        "proven",
    ] {
        assert!(told.contains(part), "`{part}` is missing from {told}");
    }
    let svg = std::fs::read_to_string(&picture).unwrap();
    assert!(svg.contains("board.second.port") && svg.contains("band narrow ends at 560"));
    let machine =
        json(&["sweep", "faults/overlap.vantic", "--width", "320..1400", "--format", "json"], &demo, 0);
    assert_eq!(machine["proof"], "exact");
    let overlap = machine["problems"].as_array().unwrap().iter().find(|t| t["code"] == "overlap").unwrap();
    let ends = overlap["to"].as_f64().unwrap();
    // Just below that width a check finds it, just above it does not.
    for (width, found) in [(ends - 0.1, true), (ends + 0.1, false)] {
        let display = format!("{width}x620");
        let check = json(
            &["check", "faults/overlap.vantic", "-d", &display, "--no-fixes", "--format", "json"],
            &demo,
            0,
        );
        let views = &overlap["views"];
        let here = check["findings"]
            .as_array()
            .unwrap()
            .iter()
            .any(|f| f["code"] == "overlap" && f["views"] == *views);
        assert_eq!(here, found, "at {width}");
    }
    let map = folder.path().join("map.png");
    let arguments = [
        "sweep",
        "faults/overlap.vantic",
        "--width",
        "320..700",
        "--height",
        "500..700",
        "-o",
        map.to_str().unwrap(),
    ];
    assert!(run(&arguments, &demo, 0).contains("61 heights"));
    assert_eq!(&std::fs::read(&map).unwrap()[..4], b"\x89PNG");
}

#[test]
fn claims_are_proven_or_refuted_by_the_least_display() {
    let folder = with(
        "screen quay {
    view header { pin left, right, top to screen; height = 56 }
    view mark { size = (140, 40); left = screen.left + 30; top = header.bottom }
    view menu { size = (420, 40); right = screen.right - 30; top = header.bottom }
    claim mark clear of menu by 20 for screen.width 480..1400
    claim mark clear of menu by 20 for screen.width 640..1400
    claim header.height same for screen.width 320..1600
    claim menu inside screen for screen.width 400..1600
}
",
    );
    let pictures = folder.path().join("pictures");
    let told = run(
        &["check", "a.vantic", "-d", "1000x700", "--pictures", "pictures", "--no-fixes"],
        folder.path(),
        1,
    );
    for part in [
        "`claim mark clear of menu by 20 for screen.width 480..1400` does not hold from a width of 480 on",
        "proven `claim mark clear of menu by 20 for screen.width 640..1400`",
        "proven `claim header.height same for screen.width 320..1600`",
        // The menu begins at the width less 450: it is beyond the left edge up to 450.
        "`menu` extends 50 beyond the left of the screen",
    ] {
        assert!(told.contains(part), "`{part}` is missing from {told}");
    }
    let drawn: Vec<_> = std::fs::read_dir(pictures).unwrap().collect();
    assert_eq!(drawn.len(), 2);
    run(&["fmt", "--check", "a.vantic"], folder.path(), 0);
    for (claim, said) in [
        ("claim mark beside menu", "`inside`, `clear of`, `whole` or `same`"),
        ("claim mark whole", "no text"),
        ("claim mark same", "one coordinate"),
        ("claim mrk inside screen", "mark"),
        ("claim mark inside screen for portrait", "one measure of the display"),
        ("claim mark inside screen for screen.width 900..300", "ends before it begins"),
    ] {
        let text = format!(
            "screen quay {{\n view mark {{ size = 10; left = screen.left; top = screen.top }}\n {claim}\n}}"
        );
        let wrong = run(&["check", "a.vantic"], with(&text).path(), 2);
        assert!(wrong.contains(said), "{claim}: {wrong}");
    }
}

#[test]
fn versions_displays_and_bands_are_compared_with_the_rules_behind_it() {
    let folder = with(CLASH.replace("; width = 300", "").as_str());
    let other = CLASH.replace("; width = 300", "").replace("by 8 ", "by 24 ");
    std::fs::write(folder.path().join("b.vantic"), other).unwrap();
    let same = run(&["compare", "a.vantic", "a.vantic"], folder.path(), 0);
    assert!(same.starts_with("no frame changed quay on 13 displays"), "{same}");
    let moved =
        json(&["compare", "a.vantic", "b.vantic", "-d", "390x844", "--format", "json"], folder.path(), 0);
    let found = &moved["compared"][0]["differences"];
    assert_eq!(found.as_array().unwrap().len(), 1);
    assert_eq!(
        (&found[0]["view"], &found[0]["what"], &found[0]["because"]),
        (&"board".into(), &"moves".into(), &serde_json::json!(["board#2"]))
    );
    assert_eq!([&found[0]["was"]["top"], &found[0]["is"]["top"]], [48.0, 64.0].map(Value::from).each_ref());
    let demo = root().join("demo");
    let bands = run(&["compare", "departures.vantic", "--band", "narrow", "--band", "none"], &demo, 0);
    assert!(bands.contains("header.title") && bands.contains("grows"), "{bands}");
    let far = json(
        &[
            "show",
            "distances",
            "departures.vantic",
            "header.title",
            "header.clock",
            "-d",
            "390x844",
            "--format",
            "json",
        ],
        &demo,
        0,
    );
    let frames = json(&["place", "departures.vantic", "-d", "390x844", "--format", "json"], &demo, 0);
    let frame = |path: &str, side: &str| frames["placements"][0]["frames"][path][side].as_f64().unwrap();
    let apart =
        frame("header.clock", "left") - frame("header.title", "left") - frame("header.title", "width");
    assert!((far["on"][0]["distances"]["apart_x"].as_f64().unwrap() - apart).abs() < 1e-5);
}

#[test]
fn reports_are_read_by_code_review_and_build_servers() {
    let demo = root().join("demo");
    // The schema of the standard (OASIS SARIF 2.1.0); a bracket in a pattern of it lacks its escape.
    let published = include_str!("standards/sarif-2.1.0.json").replace("{2}]?$", "{2}\\\\]?$");
    let schema = vantic_testkit::Schema::new(&published);
    let files = std::fs::read_dir(demo.join("faults")).unwrap().map(|entry| entry.unwrap().file_name());
    let files = files.map(|name| format!("faults/{}", name.into_string().unwrap()));
    for file in files.chain(["departures.vantic".to_owned(), "quay_kiosk.vantic".to_owned()]) {
        let at = ["check", &file, "--format", "sarif"];
        let log = json(&at, &demo, i32::from(file.starts_with("faults") && file != "faults/overlap.vantic"));
        assert_eq!(schema.misfit(&log), None, "{file}");
    }
    let sarif = json(&["check", "faults/clash.vantic", "--format", "sarif"], &demo, 1);
    assert_eq!(sarif["version"], "2.1.0");
    let run_ = &sarif["runs"][0];
    assert_eq!(run_["tool"]["driver"]["name"], "vantic");
    let rules: Vec<&Value> =
        run_["tool"]["driver"]["rules"].as_array().unwrap().iter().map(|r| &r["id"]).collect();
    for result in run_["results"].as_array().unwrap() {
        assert!(rules.contains(&&result["ruleId"]) && result["message"]["text"].is_string(), "{result}");
        assert!(["error", "warning", "note"].contains(&result["level"].as_str().unwrap()));
        let place = &result["locations"][0]["physicalLocation"];
        assert!(place["region"]["startLine"].as_u64().unwrap() >= 1);
        assert_eq!(place["artifactLocation"]["uri"], "faults/clash.vantic");
    }
    let change = &run_["results"][0]["fixes"][0]["artifactChanges"][0];
    let replaced = &change["replacements"][0]["deletedRegion"];
    assert!(
        replaced["startLine"].as_u64() <= replaced["endLine"].as_u64()
            && change["artifactLocation"]["uri"].is_string()
    );
    let junit = run(&["check", "faults/clash.vantic", "--format", "junit"], &demo, 1);
    let document = resvg::usvg::roxmltree::Document::parse(&junit).unwrap();
    let cases: Vec<_> = document.descendants().filter(|n| n.has_tag_name("testcase")).collect();
    let failures = document.descendants().filter(|n| n.has_tag_name("failure")).count();
    assert_eq!((cases.len(), failures), (13, 13));
    assert!(cases[0].text().is_some() && junit.contains("faults/clash.vantic:13"), "{junit}");
    let clean = run(&["check", "departures.vantic", "--format", "junit"], &demo, 0);
    assert!(clean.contains("failures=\"0\""), "{clean}");
}

#[test]
fn text_slack_ends_where_a_check_of_longer_words_breaks() {
    let folder = with(
        "screen quay {
    text title \"Departures\" { font 20; left = screen.left; top = screen.top }
    view clock { size = (60, 20); right = screen.right; top = screen.top }
}",
    );
    // Ten letters of 10 each: from 100 wide up to 240, that is 140% longer.
    let on = ["check", "a.vantic", "-d", "300x400", "--measure", "plain", "--room"];
    let told = run(&on, folder.path(), 0);
    let line = told.lines().find(|l| l.trim_start().starts_with("title")).unwrap();
    assert!(
        (line.contains("139% longer") || line.contains("140% longer")) && line.contains("overlap"),
        "{line}"
    );
    let longer = |percent: &str| {
        let arguments =
            ["check", "a.vantic", "-d", "300x400", "--measure", "plain", "--longer", percent, "--no-fixes"];
        run(&arguments, folder.path(), 0).contains("overlap")
    };
    assert!(!longer("138") && longer("142"));
}

#[test]
fn what_goes_with_a_view_is_listed_before_it_is_removed() {
    let text = "screen quay {
    view head { pin left, right, top to screen; tall: height = 40 }  // as in all files
    view board { pin left 16, right 16 to screen; below head by 8; height = 80
        view a { left = parent.left; width = 50 }
        view b { left = a.right + 4; width = 50 }
        each a, b { top = parent.top; height = 20 }
    }
}
";
    let folder = with(text);
    let at = ["-d", "390x844"];
    let less = |what: &'static str, more: &[&'static str], code| {
        let all =
            ["compare", "a.vantic", "--without", what].into_iter().chain(at).chain(more.iter().copied());
        run(&all.collect::<Vec<_>>(), folder.path(), code)
    };
    // One rule: what reads its view stays where it is written.
    let told = less("head.tall", &[], 0);
    assert!(told.starts_with("without head.tall: 1 rule removed; 0 others about it stay\n"), "{told}");
    assert!(told.contains("new: error ambiguous: `head` is underconstrained: height"), "{told}");
    // A view: its rules go, those of others that read it stay, and what is written for several goes for all
    // of them.
    let told: Value = serde_json::from_str(&less("board.a", &["--format", "json"], 0)).unwrap();
    let listed = &told["without"];
    assert_eq!(listed["goes"], serde_json::json!(["board.a#1", "board.a#2", "board.a#3", "board.a#4"]));
    assert_eq!(listed["goes_with"], serde_json::json!(["board.b#3", "board.b#4"]));
    assert_eq!(listed["stays"], serde_json::json!(["board.b#1"]));
    assert!(listed["wrong"].as_array().unwrap().iter().any(|w| w.as_str().unwrap().contains("`board.a`")));
    // With all in it, written: comments stay, and the old file is kept.
    assert_eq!(std::fs::read_to_string(folder.path().join("a.vantic")).unwrap(), text);
    let told = less("board.*", &["--write"], 0);
    assert!(
        told.starts_with("without board.*: 11 rules removed; 0 others") && told.contains("wrote a.vantic"),
        "{told}"
    );
    assert_eq!(std::fs::read_to_string(folder.path().join("a.vantic.old")).unwrap(), text);
    let left = std::fs::read_to_string(folder.path().join("a.vantic")).unwrap();
    assert!(
        left.contains("tall: height = 40 }  // as in all files") && !left.contains("below head"),
        "{left}"
    );
    run(&["fmt", "a.vantic"], folder.path(), 0);
    // What is not there, or has no rules any more, or does not go with the rest.
    for (what, more, says) in [
        ("bord", &[][..], "did you mean `board`?"),
        ("board", &[][..], "has no rules to remove"),
        ("head", &["--band", "wide"][..], "cannot be used with"),
    ] {
        assert!(less(what, more, 2).contains(says), "{what}");
    }
}

#[test]
fn only_shares_and_numbers_that_somebody_wrote_are_named() {
    let folder = with("screen dial {
    ladder polish
    view face { width = 60% of screen.width ~ polish; width <= 300; ratio width : height = 1 : 1; left = screen.left; top = screen.top
        view hand { size = 10; center = parent.center + bearing(95% of parent.width, 60deg) }
    }
}
");
    let told = run(&["check", "a.vantic", "-d", "400x800"], folder.path(), 0);
    assert!(told.contains("center = parent.center + bearing(95% of parent.width, 60deg)"), "{told}");
    assert!(!told.contains("0.8227241335952168"), "{told}");
    // 60% of the width is 300 at 500: up to there it moves by 0.6.
    let arguments = ["why", "a.vantic", "face.width", "-d", "400x800"];
    let told = run(&arguments, folder.path(), 0);
    assert!(told.contains("240  0.6 of the width of the display"), "{told}");
    assert!(told.contains("valid for widths 200 to 500\n"), "{told}");
    let machine = json(&[&arguments[..], &["--format", "json"]].concat(), folder.path(), 0);
    assert_eq!(machine["why"][0]["steady"], serde_json::json!([200.0, 500.0]));
}

#[test]
fn a_fix_of_an_outlier_has_to_be_named() {
    let row = |name: &str, over: &str| {
        format!(
            "    view {name} {{ pin left 16 to screen; width = 40; height = {over}.height; below prev by 8 }}\n"
        )
    };
    let screen = |fourth: &str| {
        let rows: String = ["b", "c", "e", "f"].iter().map(|name| row(name, "a")).collect();
        format!(
            "screen quay {{\n    view a {{ pin left 16, top 16 to screen; size = (40, 20) }}\n{rows}{}}}\n",
            row("d", fourth)
        )
    };
    let folder = with(&screen("b"));
    let at = ["check", "a.vantic", "-d", "390x844"];
    let told = run(&at, folder.path(), 0);
    assert!(
        told.contains("1a: write `height = a.height` instead of `height = b.height`\n        sure: as `b`, `c` and 2 more do; no frame changes"),
        "{told}"
    );
    // All that is wrong is nothing; the note has to be named.
    let told = run(&[&at[..], &["--fix", "all"]].concat(), folder.path(), 0);
    assert!(told.contains("no fix of an error or a warning is sure, so nothing was changed"), "{told}");
    assert_eq!(std::fs::read_to_string(folder.path().join("a.vantic")).unwrap(), screen("b"));
    run(&[&at[..], &["--fix", "1a"]].concat(), folder.path(), 0);
    assert_eq!(std::fs::read_to_string(folder.path().join("a.vantic")).unwrap(), screen("a"));
}

#[test]
fn a_rule_that_reads_a_hidden_view_comes_with_what_to_write_in_its_place() {
    for (rule, next, edits) in [
        (
            "from: left = side.right",
            "write `from: left = safe.left` in `main` in `when close`",
            vec![("hide side", "hide side; in main { from: left = safe.left }")],
        ),
        (
            "left = side.right + 16",
            "give it a label, `place: left = side.right + 16`, and write `place: left = safe.left` in `main` in",
            vec![
                ("left = side.right + 16", "place: left = side.right + 16"),
                ("hide side", "hide side; in main { place: left = safe.left }"),
            ],
        ),
    ] {
        let text = format!(
            "screen millrace {{
    band close: screen.width < 700
    view side {{ pin left, top, bottom to safe; width = 200 }}
    view main {{ pin right, top, bottom to safe; {rule} }}
    when close {{ hide side }}
}}
"
        );
        let told = run(&["check", "a.vantic"], with(&text).path(), 2);
        assert!(told.contains(&format!("next: {next}")), "{told}");
        let mended = edits.iter().fold(text, |text, (old, new)| text.replacen(old, new, 1));
        assert!(run(&["check", "a.vantic"], with(&mended).path(), 0).contains("clean millrace"));
    }
}

/// What a rule is called is where it stands: the line of the band that counts, and of two rules with the same
/// `clamp` the one that was asked about.
#[test]
fn the_rule_behind_a_frame_is_the_one_that_counts_there() {
    let folder = with(
        "screen wharf {
    band wide: screen.width >= 600
    view crates { pin left, right, top to screen
        row gap 6
        view a { height = 20; width = clamp(10% of screen.width, 20, 60) }
        view b { height = 20; width = clamp(10% of screen.width, 20, 60) }
    }
    when wide { in crates { row gap 24 } }
}
",
    );
    for (display, line, rule) in [("500x300", 3, "crates.row"), ("700x300", 8, "crates.row@wide")] {
        let why =
            json(&["why", "a.vantic", "crates.b.left", "-d", display, "--format", "json"], folder.path(), 0);
        let steps = why["why"][0]["steps"].as_array().unwrap();
        let placed: Vec<_> =
            steps.iter().filter(|s| s["rule"].as_str().unwrap().starts_with("crates.row")).collect();
        assert!(!placed.is_empty() && placed.iter().all(|s| s["rule"] == rule), "{why}");
        assert!(placed.iter().all(|s| s["line"] == line), "{why}");
        let shown = json(
            &["show", "rules", "a.vantic", "crates.b", "-d", display, "--format", "json"],
            folder.path(),
            0,
        );
        let here = |name: &str| {
            let all = shown["rules"].as_array().unwrap();
            all.iter().find(|r| r["rule"] == name).unwrap()["here"].as_str().unwrap().to_owned()
        };
        let (plain, of_band) = (here("crates.row"), here("crates.row@wide"));
        let expected =
            if rule == "crates.row" { ("inherited", "not here") } else { ("replaced", "of the band") };
        assert_eq!((plain.as_str(), of_band.as_str()), expected);
    }
    let why =
        json(&["why", "a.vantic", "crates.b.width", "-d", "500x300", "--format", "json"], folder.path(), 0);
    let steps = why["why"][0]["steps"].as_array().unwrap();
    assert!(steps.iter().all(|s| s["coordinate"].as_str().unwrap().starts_with("crates.b")), "{why}");
}
